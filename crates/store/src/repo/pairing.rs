//! Scales that are paired: a device holds its token and shows a short code; whoever types the code takes the device into
//! their kitchen. The token never leaves the device, and only its hash is kept.

use super::devices::{MOST_DEVICES, token_hash};
use super::hooks::is_duplicate;
use super::retry::retrying;
use super::{DeviceId, Kitchen};
use crate::connect::Store;
use crate::entity::{device, pairing};
use crate::error::StoreError;
use crate::instant::Instant;
use jiff::{SignedDuration, Timestamp};
use sea_orm::sea_query::Expr;
use sea_orm::{ColumnTrait, DbErr, EntityTrait, QueryFilter, QuerySelect, Set, TransactionTrait};
use uuid::Uuid;

/// Minutes a code opens.
const CODE_MINUTES: i64 = 10;
/// Letters and figures that are not taken for one another: 31 of them, six in a code.
const LETTERS: &[u8; 31] = b"ABCDEFGHJKLMNPQRSTUVWXYZ2345679";

/// A device that wants to be paired.
#[derive(Debug, Clone, PartialEq)]
pub struct Pairing {
    /// What it calls itself.
    pub name: String,
    /// Its fineness, g.
    pub step_g: f64,
    /// The most it bears, g.
    pub capacity_g: f64,
}

/// How a device stands that asked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Asked {
    /// It hangs in a kitchen.
    Paired,
    /// It waits: this code, until then.
    Waits(String, Timestamp),
    /// Nobody knows its token, and a new code may be made.
    Unknown,
}

/// What typing a code did.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum CodeTyped {
    /// The device hangs in the Kit now.
    Paired(DeviceId, String),
    /// No device shows this code.
    Unknown,
    /// The Kit is full.
    Full,
}

impl Store {
    /// How the device with this token stands; changes nothing.
    pub async fn pairing(&self, token: &str, now: Timestamp) -> Result<Asked, StoreError> {
        if self.device_by_token(token).await?.is_some() {
            return Ok(Asked::Paired);
        }
        let row = pairing::Entity::find().filter(pairing::Column::TokenHash.eq(token_hash(token))).one(&self.db).await?;
        let live = row.filter(|row| row.until_at.timestamp() > now);
        Ok(live.map_or(Asked::Unknown, |row| Asked::Waits(row.code, row.until_at.timestamp())))
    }

    /// Gives a device a new code for ten minutes; an older one of its opens nothing any more.
    pub async fn begin_pairing(&self, token: &str, device: &Pairing, now: Timestamp) -> Result<(String, Timestamp), StoreError> {
        self.delete_some("DELETE FROM pairings WHERE until_at < ? LIMIT 200", now).await?;
        let hash = token_hash(token);
        pairing::Entity::delete_many().filter(pairing::Column::TokenHash.eq(hash.clone())).exec(&self.db).await?;
        let until = now + SignedDuration::from_mins(CODE_MINUTES);
        for _ in 0..5 {
            let code = new_code();
            let row = pairing::ActiveModel {
                id: Set(Uuid::now_v7()),
                code: Set(code.clone()),
                token_hash: Set(hash.clone()),
                name: Set(device.name.clone()),
                step_g: Set(device.step_g),
                capacity_g: Set(device.capacity_g),
                until_at: Set(until.into()),
            };
            match pairing::Entity::insert(row).exec_without_returning(&self.db).await {
                Ok(_) => return Ok((code, until)),
                // Another device shows this code, or this one asked twice at once.
                Err(error) if is_duplicate(&error) => {
                    if let Asked::Waits(code, until) = self.pairing(token, now).await? {
                        return Ok((code, until));
                    }
                }
                Err(error) => return Err(error.into()),
            }
        }
        Err(StoreError::Conflict)
    }
}

impl Kitchen<'_> {
    /// Takes the device that shows this code into the Kit.
    pub async fn type_code(&self, code: &str, now: Timestamp) -> Result<CodeTyped, StoreError> {
        let code: String = code.chars().filter(char::is_ascii_alphanumeric).collect::<String>().to_uppercase();
        if self.devices().await?.len() as u64 >= MOST_DEVICES {
            return Ok(CodeTyped::Full);
        }
        Ok(retrying(|| self.type_code_once(&code, now)).await?)
    }

    async fn type_code_once(&self, code: &str, now: Timestamp) -> Result<CodeTyped, DbErr> {
        let transaction = self.store.db.begin().await?;
        let found = pairing::Entity::find()
            .filter(pairing::Column::Code.eq(code))
            .filter(pairing::Column::UntilAt.gt(Instant::from(now)))
            .lock_exclusive()
            .one(&transaction)
            .await?;
        let Some(row) = found else { return Ok(CodeTyped::Unknown) };
        let id = Uuid::now_v7();
        // One that was taken out left its token behind; it comes back as a new one, and the old row keeps its readings.
        let before = device::Entity::find().filter(device::Column::TokenHash.eq(row.token_hash.clone())).lock_exclusive().one(&transaction);
        if let Some(was) = before.await? {
            if was.deleted_at.is_none() {
                return Ok(CodeTyped::Unknown);
            }
            device::Entity::update_many()
                .col_expr(device::Column::TokenHash, Expr::value(format!("taken out {id}")))
                .filter(device::Column::Id.eq(was.id))
                .exec(&transaction)
                .await?;
        }
        let hung = device::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            kind: Set("scale".into()),
            name: Set(row.name.clone()),
            token_hash: Set(row.token_hash),
            form_key: Set(None),
            step_g: Set(row.step_g),
            capacity_g: Set(row.capacity_g),
            created_at: Set(now.into()),
            deleted_at: Set(None),
        };
        device::Entity::insert(hung).exec_without_returning(&transaction).await?;
        pairing::Entity::delete_by_id(row.id).exec(&transaction).await?;
        transaction.commit().await?;
        Ok(CodeTyped::Paired(DeviceId(id), row.name))
    }
}

/// Six letters of random bits: 31⁶ are 8.9·10⁸ codes, of which a few are live for ten minutes.
fn new_code() -> String {
    let mut bits = Uuid::new_v4().as_u128() >> 64;
    (0..6)
        .map(|_| {
            let letter = LETTERS[usize::try_from(bits % 31).unwrap_or_default()];
            bits /= 31;
            char::from(letter)
        })
        .collect()
}
