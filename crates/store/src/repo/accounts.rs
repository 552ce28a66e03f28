//! Households and cooks: signing up, signing in, passwords and the end of sessions.

use super::{CookId, HouseholdId, Refrigerator};
use crate::connect::Store;
use crate::entity::{cook, household, refrigerator};
use crate::error::StoreError;
use jiff::Timestamp;
use rauchkeller_core::clock::Quiet;
use sea_orm::sea_query::{Expr, SimpleExpr};
use sea_orm::{ColumnTrait, DbErr, EntityTrait, ExprTrait, QueryFilter, Set, SqlErr, TransactionTrait};
use uuid::Uuid;

/// A cook as signed in.
#[derive(Debug, Clone, PartialEq)]
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
    /// The units it thinks in, `metric` or `us`; `None` until somebody said.
    pub units: Option<String>,
    /// When nobody wants to be called; `None` until somebody said.
    pub quiet: Option<Quiet>,
    /// The number of its Kit: raised by whatever is hung up or taken out there.
    pub kit_version: i32,
    /// Its refrigerator, as it was when the cook was looked up.
    pub fridge: Refrigerator,
    /// Sign-in address.
    pub address: String,
    /// PHC string of the password; also binds sessions to it.
    pub password_hash: String,
    /// Raised when all sessions are to end; binds sessions too.
    pub session_epoch: i32,
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

impl Store {
    /// Makes a household and its first cook, both or neither.
    pub async fn sign_up(&self, new: SignUp, now: Timestamp) -> Result<Cook, StoreError> {
        let (household_id, cook_id) = (Uuid::now_v7(), Uuid::now_v7());
        let transaction = self.db.begin().await?;
        let home = household::ActiveModel {
            id: Set(household_id),
            name: Set(new.household.clone()),
            time_zone: Set(new.time_zone.clone()),
            units: Set(None),
            created_at: Set(now.into()),
            kit_version: Set(0),
            quiet: Set(None),
        };
        household::Entity::insert(home).exec_without_returning(&transaction).await?;
        let row = cook::ActiveModel {
            id: Set(cook_id),
            household_id: Set(household_id),
            address: Set(new.address.clone()),
            name: Set(new.name.clone()),
            password_hash: Set(new.password_hash.clone()),
            created_at: Set(now.into()),
            session_epoch: Set(0),
        };
        cook::Entity::insert(row).exec_without_returning(&transaction).await.map_err(address_taken)?;
        transaction.commit().await?;
        Ok(Cook {
            id: CookId(cook_id),
            household: HouseholdId(household_id),
            name: new.name,
            household_name: new.household,
            time_zone: new.time_zone,
            units: None,
            quiet: None,
            kit_version: 0,
            fridge: Refrigerator::default(),
            address: new.address,
            password_hash: new.password_hash,
            session_epoch: 0,
        })
    }

    /// The cook with this address.
    pub async fn cook_by_address(&self, address: &str) -> Result<Option<Cook>, StoreError> {
        self.cook_where(cook::Column::Address.eq(address)).await
    }

    /// The cook with this id.
    pub async fn cook(&self, id: CookId) -> Result<Option<Cook>, StoreError> {
        self.cook_where(cook::Column::Id.eq(id.0)).await
    }

    /// A cook, the household and its refrigerator: one question, for every page asks it.
    async fn cook_where(&self, is: SimpleExpr) -> Result<Option<Cook>, StoreError> {
        let all = cook::Entity::find().find_also_related(household::Entity).find_also_related(refrigerator::Entity);
        let Some((row, home, fridge)) = all.filter(is).one(&self.db).await? else { return Ok(None) };
        let home = home.ok_or(StoreError::NotFound)?;
        Ok(Some(Cook {
            id: CookId(row.id),
            household: HouseholdId(row.household_id),
            name: row.name,
            household_name: home.name,
            time_zone: home.time_zone,
            units: home.units,
            quiet: home.quiet.as_deref().and_then(Quiet::read),
            kit_version: home.kit_version,
            fridge: fridge.as_ref().map(Refrigerator::from).unwrap_or_default(),
            address: row.address,
            password_hash: row.password_hash,
            session_epoch: row.session_epoch,
        }))
    }

    /// Changes a cook's password; every session but those begun after it ends.
    pub async fn change_password(&self, cook: CookId, password_hash: String) -> Result<(), StoreError> {
        self.end_sessions(cook, vec![(cook::Column::PasswordHash, Expr::value(password_hash))]).await
    }

    /// Ends every session of a cook.
    pub async fn end_all_sessions(&self, cook: CookId) -> Result<(), StoreError> {
        self.end_sessions(cook, vec![]).await
    }

    async fn end_sessions(&self, cook: CookId, besides: Vec<(cook::Column, SimpleExpr)>) -> Result<(), StoreError> {
        let done = besides
            .into_iter()
            .fold(cook::Entity::update_many(), |update, (column, value)| update.col_expr(column, value))
            .col_expr(cook::Column::SessionEpoch, Expr::col(cook::Column::SessionEpoch).add(1))
            .filter(cook::Column::Id.eq(cook.0))
            .exec(&self.db)
            .await?;
        if done.rows_affected == 0 { Err(StoreError::NotFound) } else { Ok(()) }
    }
}

fn address_taken(error: DbErr) -> StoreError {
    match error.sql_err() {
        Some(SqlErr::UniqueConstraintViolation(_)) => StoreError::AddressTaken,
        _ => error.into(),
    }
}
