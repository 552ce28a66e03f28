//! A household: its units and zone, and the cooks who share it. Another cook comes in by a link that opens once.

use super::devices::token_hash;
use super::retry::retrying;
use super::{Cook, CookId, HouseholdId, Kitchen};
use crate::connect::Store;
use crate::entity::{cook, household, invitation};
use crate::error::StoreError;
use crate::instant::Instant;
use jiff::{SignedDuration, Timestamp};
use rauchkeller_core::clock::Quiet;
use sea_orm::sea_query::Expr;
use sea_orm::{ColumnTrait, EntityTrait, PaginatorTrait, QueryFilter, QueryOrder, QuerySelect, Set, SqlErr, TransactionTrait};
use uuid::Uuid;

/// Days an invitation opens the door.
pub const INVITATION_DAYS: i64 = 7;
/// Invitations of one household that wait at once, and cooks it has.
const MOST: u64 = 20;

/// A cook of the household, as the others see them.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Fellow {
    /// Who.
    pub id: CookId,
    /// What they are called.
    pub name: String,
    /// Since when.
    pub since: Timestamp,
}

/// An invitation that waits to be used. Its link was shown once; only the hash of its token is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Invitation {
    /// Which.
    pub id: Uuid,
    /// When it was made.
    pub made_at: Timestamp,
    /// Until when it opens.
    pub until: Timestamp,
}

/// What a stranger with a link sees.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Invited {
    /// The household's name.
    pub household: String,
    /// Who made it.
    pub by: String,
}

/// A cook who comes in by an invitation.
#[derive(Debug, Clone)]
pub struct Newcomer {
    /// What they are called.
    pub name: String,
    /// Sign-in address, lower case.
    pub address: String,
    /// PHC string.
    pub password_hash: String,
}

/// What joining did.
#[derive(Debug, Clone, PartialEq)]
pub enum Joined {
    /// The cook is in.
    In(Box<Cook>),
    /// The link was used, taken back, or is past its days.
    Closed,
    /// The address has a kitchen already.
    AddressTaken,
    /// The household has as many cooks as it can.
    Full,
}

impl Kitchen<'_> {
    /// Sets which units the household thinks in, `metric` or `us`, its time zone by its IANA name, and its quiet hours; what is `None`
    /// stays. One statement: all or none.
    pub async fn set_home(&self, units: Option<&str>, zone: Option<&str>, quiet: Option<Quiet>) -> Result<(), StoreError> {
        let quiet = quiet.map(|quiet| quiet.to_string());
        let said = [(household::Column::Units, units), (household::Column::TimeZone, zone), (household::Column::Quiet, quiet.as_deref())];
        let said: Vec<_> = said.into_iter().filter_map(|(column, value)| Some((column, value?))).collect();
        if said.is_empty() {
            return Ok(());
        }
        let mut change = household::Entity::update_many();
        for (column, value) in said {
            change = change.col_expr(column, Expr::value(value));
        }
        change.filter(household::Column::Id.eq(self.household.0)).exec(&self.store.db).await?;
        Ok(())
    }

    /// The cooks of the household, the first one first.
    pub async fn cooks(&self) -> Result<Vec<Fellow>, StoreError> {
        let rows = cook::Entity::find()
            .filter(cook::Column::HouseholdId.eq(self.household.0))
            .order_by_asc(cook::Column::CreatedAt)
            .all(&self.store.db)
            .await?;
        Ok(rows.into_iter().map(|row| Fellow { id: CookId(row.id), name: row.name, since: row.created_at.timestamp() }).collect())
    }

    /// Makes an invitation under the hash of its token; `None` where twenty wait already.
    pub async fn invite(&self, by: CookId, token: &str, now: Timestamp) -> Result<Option<Invitation>, StoreError> {
        if self.waiting(now).count(&self.store.db).await? >= MOST {
            return Ok(None);
        }
        let id = Uuid::now_v7();
        let until = now + SignedDuration::from_hours(24 * INVITATION_DAYS);
        let row = invitation::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            made_by: Set(by.0),
            token_hash: Set(token_hash(token)),
            made_at: Set(now.into()),
            until_at: Set(until.into()),
            used_at: Set(None),
            used_by: Set(None),
            deleted_at: Set(None),
        };
        invitation::Entity::insert(row).exec_without_returning(&self.store.db).await?;
        Ok(Some(Invitation { id, made_at: now, until }))
    }

    /// Invitations that wait, the newest first.
    pub async fn invitations(&self, now: Timestamp) -> Result<Vec<Invitation>, StoreError> {
        let rows = self.waiting(now).order_by_desc(invitation::Column::MadeAt).limit(MOST).all(&self.store.db).await?;
        Ok(rows
            .into_iter()
            .map(|row| Invitation { id: row.id, made_at: row.made_at.timestamp(), until: row.until_at.timestamp() })
            .collect())
    }

    fn waiting(&self, now: Timestamp) -> sea_orm::Select<invitation::Entity> {
        open_ones(now).filter(invitation::Column::HouseholdId.eq(self.household.0))
    }

    /// Takes an invitation back: its link opens nothing any more.
    pub async fn take_invitation_back(&self, id: Uuid, at: Timestamp) -> Result<(), StoreError> {
        let done = invitation::Entity::update_many()
            .col_expr(invitation::Column::DeletedAt, Expr::value(Some(Instant::from(at))))
            .filter(invitation::Column::HouseholdId.eq(self.household.0))
            .filter(invitation::Column::Id.eq(id))
            .filter(invitation::Column::UsedAt.is_null())
            .exec(&self.store.db)
            .await?;
        if done.rows_affected == 0 { Err(StoreError::NotFound) } else { Ok(()) }
    }
}

fn open_ones(now: Timestamp) -> sea_orm::Select<invitation::Entity> {
    invitation::Entity::find()
        .filter(invitation::Column::UsedAt.is_null())
        .filter(invitation::Column::DeletedAt.is_null())
        .filter(invitation::Column::UntilAt.gt(Instant::from(now)))
}

impl Store {
    /// The zone of a household's clock.
    pub async fn zone_of(&self, home: HouseholdId) -> Result<String, StoreError> {
        let row = household::Entity::find_by_id(home.0).one(&self.db).await?.ok_or(StoreError::NotFound)?;
        Ok(row.time_zone)
    }

    /// Whose kitchen an invitation opens, while it does.
    pub async fn invited(&self, token: &str, now: Timestamp) -> Result<Option<Invited>, StoreError> {
        let Some(row) = open_ones(now).filter(invitation::Column::TokenHash.eq(token_hash(token))).one(&self.db).await? else {
            return Ok(None);
        };
        let home = household::Entity::find_by_id(row.household_id).one(&self.db).await?;
        let by = cook::Entity::find_by_id(row.made_by).one(&self.db).await?;
        Ok(home.map(|home| Invited { household: home.name, by: by.map_or_else(String::new, |cook| cook.name) }))
    }

    /// Brings a cook into the household of an invitation, and uses it up: both or neither, and once only.
    pub async fn join(&self, token: &str, new: Newcomer, now: Timestamp) -> Result<Joined, StoreError> {
        let outcome = retrying(|| self.join_once(token, &new, now)).await;
        match outcome {
            Ok(Some(id)) => {
                let cook = self.cook(id).await?.ok_or(StoreError::NotFound)?;
                Ok(Joined::In(Box::new(cook)))
            }
            Ok(None) => Ok(Joined::Closed),
            Err(error) if matches!(error.sql_err(), Some(SqlErr::UniqueConstraintViolation(_))) => Ok(Joined::AddressTaken),
            Err(sea_orm::DbErr::Custom(full)) if full == FULL => Ok(Joined::Full),
            Err(error) => Err(error.into()),
        }
    }

    async fn join_once(&self, token: &str, new: &Newcomer, now: Timestamp) -> Result<Option<CookId>, sea_orm::DbErr> {
        let transaction = self.db.begin().await?;
        // The invitation's row is the lock: of two who hold the link one comes in.
        let found = open_ones(now).filter(invitation::Column::TokenHash.eq(token_hash(token))).lock_exclusive().one(&transaction).await?;
        let Some(row) = found else { return Ok(None) };
        // The household's row is the lock of its cooks: twenty links used at once count one after the other.
        household::Entity::find_by_id(row.household_id).lock_exclusive().one(&transaction).await?;
        let cooks = cook::Entity::find().filter(cook::Column::HouseholdId.eq(row.household_id)).count(&transaction).await?;
        if cooks >= MOST {
            return Err(sea_orm::DbErr::Custom(FULL.to_owned()));
        }
        let id = Uuid::now_v7();
        let newcomer = cook::ActiveModel {
            id: Set(id),
            household_id: Set(row.household_id),
            address: Set(new.address.clone()),
            name: Set(new.name.clone()),
            password_hash: Set(new.password_hash.clone()),
            created_at: Set(now.into()),
            session_epoch: Set(0),
        };
        cook::Entity::insert(newcomer).exec_without_returning(&transaction).await?;
        invitation::Entity::update_many()
            .col_expr(invitation::Column::UsedAt, Expr::value(Some(Instant::from(now))))
            .col_expr(invitation::Column::UsedBy, Expr::value(Some(id)))
            .filter(invitation::Column::Id.eq(row.id))
            .exec(&transaction)
            .await?;
        transaction.commit().await?;
        Ok(Some(CookId(id)))
    }
}

/// A household's cooks are counted inside the transaction; this says from there that no more come in.
const FULL: &str = "household is full";
