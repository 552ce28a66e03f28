//! The household's refrigerator with what weighing taught of it, and the trays that pieces lie on.

use super::hooks::Added;
use super::retry::retrying;
use super::{Kitchen, TrayId};
use crate::entity::{kit_tray, refrigerator};
use crate::error::StoreError;
use jiff::Timestamp;
use rauchkeller_core::ask::usual_fridge;
use rauchkeller_core::units::TemperatureIn;
use sea_orm::sea_query::OnConflict;
use sea_orm::{DbErr, EntityTrait, QuerySelect, Set, TransactionTrait};

/// A refrigerator as the household knows it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Refrigerator {
    /// Its air.
    pub air_c: f64,
    /// Its humidity, 0–1, where somebody knows it.
    pub rh: Option<f64>,
    /// The drying coefficient fitted to weighings, W/m²K.
    pub fit_h: Option<f64>,
    /// Standard deviation of its logarithm.
    pub fit_spread: Option<f64>,
    /// Weighings that taught it.
    pub fit_points: i32,
    /// Raised by every change of its air; 0 for one nobody has said anything about.
    pub version: i32,
}

impl Default for Refrigerator {
    /// The usual one, as every plan takes it.
    fn default() -> Self {
        Self { air_c: usual_fridge().temperature.in_c(), rh: None, fit_h: None, fit_spread: None, fit_points: 0, version: 0 }
    }
}

/// What changing its air did.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum RefrigeratorSaved {
    /// Saved.
    Saved,
    /// Somebody else's change came first; this is theirs.
    Conflict(Refrigerator),
}

/// A tray with its rack.
#[derive(Debug, Clone, PartialEq)]
pub struct KitTray {
    /// Which.
    pub id: TrayId,
    /// What it is called.
    pub name: String,
    /// Tray and rack, empty.
    pub empty_g: f64,
}

impl Kitchen<'_> {
    /// The refrigerator; the usual one while nobody has said anything about it.
    pub async fn refrigerator(&self) -> Result<Refrigerator, StoreError> {
        let row = refrigerator::Entity::find_by_id(self.household.0).one(&self.store.db).await?;
        Ok(row.as_ref().map(Refrigerator::from).unwrap_or_default())
    }

    /// Says its air, and whether it is too warm for raw meat: that while is noted. `version` is the one the cook saw. What was fitted under another air is fitted anew by the caller.
    pub async fn set_refrigerator(
        &self,
        version: i32,
        air_c: f64,
        rh: Option<f64>,
        too_warm: bool,
        at: Timestamp,
    ) -> Result<RefrigeratorSaved, StoreError> {
        Ok(retrying(|| self.set_refrigerator_once(version, (air_c, rh), too_warm, at)).await?)
    }

    async fn set_refrigerator_once(
        &self,
        version: i32,
        (air_c, rh): (f64, Option<f64>),
        too_warm: bool,
        at: Timestamp,
    ) -> Result<RefrigeratorSaved, DbErr> {
        let transaction = self.store.db.begin().await?;
        // The household's row is the lock: the refrigerator may have no row of its own yet.
        let household = crate::entity::household::Entity::find_by_id(self.household.0);
        household.lock_exclusive().one(&transaction).await?;
        let stands = refrigerator::Entity::find_by_id(self.household.0).one(&transaction).await?;
        let before = stands.as_ref().map(Refrigerator::from).unwrap_or_default();
        if before.version != version {
            let same = (before.air_c, before.rh) == (air_c, rh);
            return Ok(if same { RefrigeratorSaved::Saved } else { RefrigeratorSaved::Conflict(before) });
        }
        let row = self.row(Refrigerator { air_c, rh, version: version + 1, ..before }, at);
        refrigerator::Entity::insert(row).on_conflict(all_columns()).exec_without_returning(&transaction).await?;
        self.air_was_read(&transaction, too_warm, air_c, at).await?;
        transaction.commit().await?;
        Ok(RefrigeratorSaved::Saved)
    }

    /// Keeps what the weighings say: coefficient, spread, how many; `None` where nothing counts any more.
    pub async fn set_fit(&self, fit: Option<(f64, f64)>, points: i32, at: Timestamp) -> Result<(), StoreError> {
        let columns = [refrigerator::Column::FitH, refrigerator::Column::FitSpread, refrigerator::Column::FitPoints];
        let fresh = Refrigerator { fit_h: fit.map(|f| f.0), fit_spread: fit.map(|f| f.1), fit_points: points, ..Refrigerator::default() };
        let insert = || {
            refrigerator::Entity::insert(self.row(fresh, at))
                .on_conflict(OnConflict::column(refrigerator::Column::HouseholdId).update_columns(columns).to_owned())
        };
        retrying(|| insert().exec_without_returning(&self.store.db)).await?;
        Ok(())
    }

    fn row(&self, of: Refrigerator, at: Timestamp) -> refrigerator::ActiveModel {
        refrigerator::ActiveModel {
            household_id: Set(self.household.0),
            air_c: Set(of.air_c),
            rh: Set(of.rh),
            fit_h: Set(of.fit_h),
            fit_spread: Set(of.fit_spread),
            fit_points: Set(of.fit_points),
            version: Set(of.version),
            changed_at: Set(at.into()),
        }
    }

    /// Hangs up a tray; the same form key never hangs two.
    pub async fn add_tray(&self, form_key: &str, name: &str, empty_g: f64, now: Timestamp) -> Result<Added<TrayId>, StoreError> {
        let row = |id| kit_tray::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            form_key: Set(form_key.to_owned()),
            name: Set(name.to_owned()),
            empty_g: Set(empty_g),
            created_at: Set(now.into()),
            deleted_at: Set(None),
        };
        Ok(self.hang::<kit_tray::Entity, _>(form_key, row).await?.map(TrayId))
    }

    /// Trays that hang in the Kit, by name.
    pub async fn trays(&self) -> Result<Vec<KitTray>, StoreError> {
        let read = |row: kit_tray::Model| KitTray { id: TrayId(row.id), name: row.name, empty_g: row.empty_g };
        Ok(self.hung::<kit_tray::Entity>().await?.into_iter().map(read).collect())
    }

    /// Takes a tray out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile.
    pub async fn set_tray_deleted(&self, id: TrayId, at: Option<Timestamp>) -> Result<(), StoreError> {
        self.set_hung::<kit_tray::Entity>(id.0, at).await
    }
}

fn all_columns() -> OnConflict {
    use refrigerator::Column::{AirC, ChangedAt, HouseholdId, Rh, Version};
    OnConflict::column(HouseholdId).update_columns([AirC, Rh, Version, ChangedAt]).to_owned()
}

impl From<&refrigerator::Model> for Refrigerator {
    fn from(row: &refrigerator::Model) -> Self {
        Self {
            air_c: row.air_c,
            rh: row.rh,
            fit_h: row.fit_h,
            fit_spread: row.fit_spread,
            fit_points: row.fit_points,
            version: row.version,
        }
    }
}
