//! Devices of a household and what they read. A device is known by its token, of which only the hash is kept.

use super::hooks::Added;
use super::retry::retrying;
use super::{DeviceId, HouseholdId, Kitchen};
use crate::connect::Store;
use crate::entity::{device, reading};
use crate::error::StoreError;
use jiff::{SignedDuration, Timestamp};
use sea_orm::{
    ColumnTrait, ConnectionTrait, DbErr, EntityTrait, ExprTrait, QueryFilter, QueryOrder, QuerySelect, Set, Statement, TransactionTrait,
};
use sha2::{Digest, Sha256};

/// A device of a household.
#[derive(Debug, Clone, PartialEq)]
pub struct Device {
    /// Which.
    pub id: DeviceId,
    /// Whose.
    pub household: HouseholdId,
    /// `scale`, or `program` for a token that notes.
    pub kind: String,
    /// What the household calls it.
    pub name: String,
    /// Its fineness.
    pub step_g: f64,
    /// The most it bears.
    pub capacity_g: f64,
}

/// One reading on its way in.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct NewReading {
    /// The device's own count; the same number is stored once.
    pub seq: i64,
    /// The device's clock.
    pub at: Timestamp,
    /// Grams.
    pub mass_g: f64,
}

/// What receiving did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Received {
    /// Stored now.
    pub accepted: usize,
    /// Known by their sequence number already.
    pub repeated: usize,
}

/// A scale that is speaking.
#[derive(Debug, Clone, PartialEq)]
pub struct LiveScale {
    /// Which.
    pub device: Device,
    /// Its latest readings, oldest first.
    pub readings: Vec<NewReading>,
}

/// Hash of a device's token, as it is kept.
pub fn token_hash(token: &str) -> String {
    hex::encode(Sha256::digest(token.as_bytes()))
}

impl Store {
    /// The device that holds this token, unless it was taken out.
    pub async fn device_by_token(&self, token: &str) -> Result<Option<Device>, StoreError> {
        let row = device::Entity::find()
            .filter(device::Column::TokenHash.eq(token_hash(token)))
            .filter(device::Column::DeletedAt.is_null())
            .one(&self.db)
            .await?;
        Ok(row.map(read_device))
    }

    /// Stores a batch of readings, all or nothing; those whose sequence number is known change nothing.
    pub async fn receive(&self, from: &Device, batch: &[NewReading], now: Timestamp) -> Result<Received, StoreError> {
        Ok(retrying(|| self.receive_once(from, batch, now)).await?)
    }

    async fn receive_once(&self, from: &Device, batch: &[NewReading], now: Timestamp) -> Result<Received, DbErr> {
        let transaction = self.db.begin().await?;
        // The device's row is the lock: the same batch sent twice at once goes one after the other.
        device::Entity::find_by_id(from.id.0).lock_exclusive().one(&transaction).await?;
        let known: Vec<(i64, crate::Instant, f64)> = reading::Entity::find()
            .select_only()
            .columns([reading::Column::Seq, reading::Column::At, reading::Column::MassG])
            .filter(reading::Column::DeviceId.eq(from.id.0))
            .filter(
                reading::Column::Seq
                    .is_in(batch.iter().map(|r| r.seq))
                    .or(reading::Column::At.is_in(batch.iter().map(|r| crate::Instant::from(r.at)))),
            )
            .into_tuple()
            .all(&transaction)
            .await?;
        // The same number at the same moment is the same reading; at another moment the device was reset and counts anew, and
        // then its readings are known by moment and weight under the number they were given here.
        let taken = |seq: i64| known.iter().any(|(known, ..)| *known == seq);
        let repeated = |r: &NewReading| {
            let at = crate::Instant::from(r.at);
            known.iter().any(|(seq, then, mass)| *then == at && (*seq == r.seq || (taken(r.seq) && *mass == r.mass_g)))
        };
        let mut fresh: Vec<NewReading> = batch.iter().filter(|r| !repeated(r)).copied().collect();
        fresh.sort_by_key(|r| (r.seq, r.at));
        fresh.dedup_by_key(|r| r.seq);
        if fresh.iter().any(|r| taken(r.seq)) {
            let last = reading::Entity::find().filter(reading::Column::DeviceId.eq(from.id.0)).order_by_desc(reading::Column::Seq);
            let last = last.one(&transaction).await?.map_or(0, |row| row.seq);
            fresh.iter_mut().zip(1..).for_each(|(r, n)| r.seq = last + n);
        }
        let rows = fresh.iter().map(|r| reading::ActiveModel {
            device_id: Set(from.id.0),
            seq: Set(r.seq),
            household_id: Set(from.household.0),
            at: Set(r.at.into()),
            received_at: Set(now.into()),
            mass_g: Set(r.mass_g),
        });
        let accepted = rows.len();
        if accepted > 0 {
            reading::Entity::insert_many(rows).exec_without_returning(&transaction).await?;
        }
        transaction.commit().await?;
        Ok(Received { accepted, repeated: batch.len() - accepted })
    }

    /// Drops readings that came in before a moment, some thousands at once; gives how many went. A scale's are of no use
    /// after the pour. The caller goes on until none are left: no other statement waits for a million rows.
    pub async fn drop_readings_before(&self, moment: Timestamp) -> Result<u64, StoreError> {
        self.delete_some("DELETE FROM readings WHERE received_at < ? ORDER BY received_at LIMIT 2000", moment).await
    }

    /// Runs a bounded DELETE of rows older than a moment.
    pub(super) async fn delete_some(&self, sql: &str, moment: Timestamp) -> Result<u64, StoreError> {
        let statement = Statement::from_sql_and_values(self.db.get_database_backend(), sql, [crate::Instant::from(moment).0.into()]);
        Ok(retrying(|| self.db.execute_raw(statement.clone())).await?.rows_affected())
    }
}

/// The most scales a kitchen has.
pub(super) const MOST_DEVICES: u64 = 20;

impl Kitchen<'_> {
    /// Hangs up a scale under the hash of its token; the same form key never hangs two.
    pub async fn add_scale(
        &self,
        form_key: &str,
        name: &str,
        step_g: f64,
        capacity_g: f64,
        hash: String,
        now: Timestamp,
    ) -> Result<Added<DeviceId>, StoreError> {
        self.add_device("scale", form_key, name, (step_g, capacity_g), hash, now).await
    }

    /// Gives a program a token to note with; the same form key never makes two.
    pub async fn add_program(&self, form_key: &str, name: &str, hash: String, now: Timestamp) -> Result<Added<DeviceId>, StoreError> {
        self.add_device("program", form_key, name, (0.0, 0.0), hash, now).await
    }

    async fn add_device(
        &self,
        kind: &str,
        form_key: &str,
        name: &str,
        (step_g, capacity_g): (f64, f64),
        hash: String,
        now: Timestamp,
    ) -> Result<Added<DeviceId>, StoreError> {
        let row = |id| device::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            kind: Set(kind.to_owned()),
            name: Set(name.to_owned()),
            token_hash: Set(hash.clone()),
            form_key: Set(Some(form_key.to_owned())),
            step_g: Set(step_g),
            capacity_g: Set(capacity_g),
            created_at: Set(now.into()),
            deleted_at: Set(None),
        };
        Ok(self.hang::<device::Entity, _>(form_key, row).await?.map(DeviceId))
    }

    /// Devices that hang in the Kit.
    pub async fn devices(&self) -> Result<Vec<Device>, StoreError> {
        let rows = device::Entity::find()
            .filter(device::Column::HouseholdId.eq(self.household.0))
            .filter(device::Column::DeletedAt.is_null())
            .order_by_asc(device::Column::CreatedAt)
            .all(&self.store.db)
            .await?;
        Ok(rows.into_iter().map(read_device).collect())
    }

    /// Takes a device out: its token no longer opens anything. It is not put back; a new one is quickly made.
    pub async fn remove_device(&self, id: DeviceId, at: Timestamp) -> Result<(), StoreError> {
        self.set_hung::<device::Entity>(id.0, Some(at)).await
    }

    /// The scale that spoke last, if that was within `within`, with its readings of the last seven seconds.
    ///
    /// One query: the household's latest readings by their index, each with the scale it came from.
    pub async fn live_scale(&self, now: Timestamp, within: SignedDuration) -> Result<Option<LiveScale>, StoreError> {
        let since = |ago: SignedDuration| now.checked_sub(ago).unwrap_or(now);
        let rows = reading::Entity::find()
            .find_also_related(device::Entity)
            .filter(reading::Column::HouseholdId.eq(self.household.0))
            .filter(reading::Column::ReceivedAt.gte(crate::Instant::from(since(within.max(SignedDuration::from_secs(7))))))
            .order_by_desc(reading::Column::ReceivedAt)
            .limit(200)
            .all(&self.store.db)
            .await?;
        let Some((latest, Some(row))) = rows.first() else { return Ok(None) };
        let stands = row.household_id == self.household.0 && row.deleted_at.is_none();
        if !stands || latest.received_at.timestamp() < since(within) {
            return Ok(None);
        }
        let mut mine: Vec<_> = rows.iter().map(|(r, _)| r).filter(|r| r.device_id == row.id).collect();
        mine.sort_by_key(|r| r.seq);
        let readings = mine.iter().map(|r| NewReading { seq: r.seq, at: r.at.timestamp(), mass_g: r.mass_g }).collect();
        Ok(Some(LiveScale { device: read_device(row.clone()), readings }))
    }
}

fn read_device(row: device::Model) -> Device {
    Device {
        id: DeviceId(row.id),
        household: HouseholdId(row.household_id),
        kind: row.kind,
        name: row.name,
        step_g: row.step_g,
        capacity_g: row.capacity_g,
    }
}
