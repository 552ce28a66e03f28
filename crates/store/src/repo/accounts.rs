//! Households and cooks: signing up, signing in, and the brake on guessing.

use super::{CookId, HouseholdId};
use crate::connect::Store;
use crate::entity::{cook, household, sign_in_failure};
use crate::error::StoreError;
use crate::instant::Instant;
use jiff::{SignedDuration, Timestamp};
use sea_orm::{ActiveModelTrait, ColumnTrait, DbErr, EntityTrait, PaginatorTrait, QueryFilter, Set, SqlErr, TransactionTrait};
use uuid::Uuid;

/// A cook as signed in.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Cook {
    /// Who.
    pub id: CookId,
    /// In which household.
    pub household: HouseholdId,
    /// What they are called.
    pub name: String,
    /// Their household's name.
    pub household_name: String,
    /// The household's time zone.
    pub time_zone: String,
    /// PHC string of the password; also binds sessions to it.
    pub password_hash: String,
}

/// A new household with its first cook.
#[derive(Debug, Clone)]
pub struct SignUp {
    /// Name of the household.
    pub household: String,
    /// Time zone of its kitchen.
    pub time_zone: String,
    /// The cook's name.
    pub name: String,
    /// Sign-in address, lower case.
    pub address: String,
    /// PHC string.
    pub password_hash: String,
}

/// Failures within this span count.
const BRAKE_MINUTES: i64 = 15;
/// After so many, signing in waits.
const BRAKE_AFTER: u64 = 8;

impl Store {
    /// Makes a household and its first cook, both or neither.
    pub async fn sign_up(&self, new: SignUp, now: Timestamp) -> Result<Cook, StoreError> {
        let (household_id, cook_id) = (Uuid::now_v7(), Uuid::now_v7());
        let transaction = self.db.begin().await?;
        let home = household::ActiveModel {
            id: Set(household_id),
            name: Set(new.household.clone()),
            time_zone: Set(new.time_zone.clone()),
            created_at: Set(now.into()),
        };
        household::Entity::insert(home).exec_without_returning(&transaction).await?;
        let row = cook::ActiveModel {
            id: Set(cook_id),
            household_id: Set(household_id),
            address: Set(new.address.clone()),
            name: Set(new.name.clone()),
            password_hash: Set(new.password_hash.clone()),
            created_at: Set(now.into()),
        };
        cook::Entity::insert(row).exec_without_returning(&transaction).await.map_err(address_taken)?;
        transaction.commit().await?;
        Ok(Cook {
            id: CookId(cook_id),
            household: HouseholdId(household_id),
            name: new.name,
            household_name: new.household,
            time_zone: new.time_zone,
            password_hash: new.password_hash,
        })
    }

    /// The cook with this address.
    pub async fn cook_by_address(&self, address: &str) -> Result<Option<Cook>, StoreError> {
        let found = cook::Entity::find().filter(cook::Column::Address.eq(address)).one(&self.db).await?;
        self.with_household(found).await
    }

    /// The cook with this id.
    pub async fn cook(&self, id: CookId) -> Result<Option<Cook>, StoreError> {
        let found = cook::Entity::find_by_id(id.0).one(&self.db).await?;
        self.with_household(found).await
    }

    async fn with_household(&self, found: Option<cook::Model>) -> Result<Option<Cook>, StoreError> {
        let Some(row) = found else { return Ok(None) };
        let home = household::Entity::find_by_id(row.household_id).one(&self.db).await?.ok_or(StoreError::NotFound)?;
        Ok(Some(Cook {
            id: CookId(row.id),
            household: HouseholdId(row.household_id),
            name: row.name,
            household_name: home.name,
            time_zone: home.time_zone,
            password_hash: row.password_hash,
        }))
    }

    /// Notes a failed sign-in.
    pub async fn note_failure(&self, who: &str, now: Timestamp) -> Result<(), StoreError> {
        let row = sign_in_failure::ActiveModel { id: Set(Uuid::now_v7()), who: Set(who.to_owned()), at: Set(now.into()) };
        sign_in_failure::Entity::insert(row).exec_without_returning(&self.db).await?;
        let old = Instant::from(now - SignedDuration::from_hours(24));
        sign_in_failure::Entity::delete_many().filter(sign_in_failure::Column::At.lt(old)).exec(&self.db).await?;
        Ok(())
    }

    /// Whether this address has to wait: eight failures within a quarter of an hour.
    /// Counted in the database, so that several servers share one brake.
    pub async fn must_wait(&self, who: &str, now: Timestamp) -> Result<bool, StoreError> {
        let since = Instant::from(now - SignedDuration::from_mins(BRAKE_MINUTES));
        let failures = sign_in_failure::Entity::find()
            .filter(sign_in_failure::Column::Who.eq(who))
            .filter(sign_in_failure::Column::At.gt(since))
            .count(&self.db)
            .await?;
        Ok(failures >= BRAKE_AFTER)
    }

    /// Forgets an address's failures after it signed in.
    pub async fn forget_failures(&self, who: &str) -> Result<(), StoreError> {
        sign_in_failure::Entity::delete_many().filter(sign_in_failure::Column::Who.eq(who)).exec(&self.db).await?;
        Ok(())
    }

    /// Sets a household's time zone.
    pub async fn set_time_zone(&self, household: HouseholdId, zone: &str) -> Result<(), StoreError> {
        let row = household::ActiveModel { id: Set(household.0), time_zone: Set(zone.to_owned()), ..Default::default() };
        row.update(&self.db).await?;
        Ok(())
    }
}

fn address_taken(error: DbErr) -> StoreError {
    match error.sql_err() {
        Some(SqlErr::UniqueConstraintViolation(_)) => StoreError::AddressTaken,
        _ => error.into(),
    }
}
