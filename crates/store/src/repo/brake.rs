//! The brake on guessing: tries are counted in the database, before they are made, so that several servers share one brake
//! and a hundred tries at once are no more than one after the other.

use super::CookId;
use crate::connect::Store;
use crate::entity::{cook, known_browser, sign_in_failure};
use crate::error::StoreError;
use crate::instant::Instant;
use crate::repo::devices::token_hash;
use jiff::{SignedDuration, Timestamp};
use sea_orm::{ColumnTrait, EntityTrait, PaginatorTrait, QueryFilter, QueryOrder, QuerySelect, Set};
use uuid::Uuid;

/// What tries are counted under.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Door {
    /// A try at an address from a browser its cook is not known from. Anybody can make it, so it locks nobody else out.
    Stranger {
        /// The address tried.
        address: String,
    },
    /// A try from a browser the address's cook has signed in with before.
    Known {
        /// Hash of the browser's token.
        browser: String,
    },
    /// Tries at any address from one place on the net: one guess at each of many addresses adds up here.
    Place {
        /// Where they come from.
        from: String,
    },
    /// New kitchens, and cooks who come in by an invitation, from one place.
    SignUp {
        /// Where they come from.
        from: String,
    },
    /// Devices that ask for a code, from one place.
    Pairing {
        /// Where they come from.
        from: String,
    },
    /// Codes typed by one cook that no device shows.
    Code {
        /// Whose tries.
        cook: CookId,
    },
}

impl Door {
    fn key(&self) -> String {
        let (kind, what) = match self {
            Self::Stranger { address } => ("address", address),
            Self::Known { browser } => ("browser", browser),
            Self::Place { from } => ("from", from),
            Self::SignUp { from } => ("sign-up", from),
            Self::Pairing { from } => ("pairing", from),
            Self::Code { cook } => ("code", &cook.to_string()),
        };
        format!("{kind}:{what}").chars().take(250).collect()
    }

    /// So many tries may fail within a quarter of an hour; so many kitchens may be set up.
    fn at_most(&self) -> u64 {
        match self {
            Self::Stranger { .. } => 8,
            Self::Known { .. } | Self::Code { .. } => 12,
            Self::Place { .. } | Self::SignUp { .. } | Self::Pairing { .. } => 40,
        }
    }
}

/// Tries within this span count.
const BRAKE_MINUTES: i64 = 15;
/// Browsers one cook is known from.
const MOST_BROWSERS: u64 = 20;

/// A try that may be made, and is counted until it is taken back.
#[derive(Debug)]
#[must_use = "a try that was right is taken back"]
pub struct Try(Vec<Uuid>);

impl Store {
    /// Counts a try at each of these doors; `None` where one of them has seen too many, and then nothing is counted.
    ///
    /// Every try writes its row before it reads the count, so that of any number at once no more than the limit pass.
    pub async fn begin_try(&self, doors: &[Door], now: Timestamp) -> Result<Option<Try>, StoreError> {
        let ids: Vec<Uuid> = doors.iter().map(|_| Uuid::now_v7()).collect();
        let rows = doors.iter().zip(&ids).map(|(door, id)| sign_in_failure::ActiveModel {
            id: Set(*id),
            who: Set(door.key()),
            at: Set(now.into()),
        });
        sign_in_failure::Entity::insert_many(rows).exec_without_returning(&self.db).await?;
        let since = Instant::from(now - SignedDuration::from_mins(BRAKE_MINUTES));
        for door in doors {
            let tries = sign_in_failure::Entity::find()
                .filter(sign_in_failure::Column::Who.eq(door.key()))
                .filter(sign_in_failure::Column::At.gt(since))
                .count(&self.db)
                .await?;
            if tries > door.at_most() {
                self.take_back(Try(ids)).await?;
                return Ok(None);
            }
        }
        Ok(Some(Try(ids)))
    }

    /// Takes a try back that was right.
    pub async fn take_back(&self, made: Try) -> Result<(), StoreError> {
        sign_in_failure::Entity::delete_many().filter(sign_in_failure::Column::Id.is_in(made.0)).exec(&self.db).await?;
        Ok(())
    }

    /// Forgets what was counted at a door, after somebody came in through it.
    pub async fn forget_tries(&self, door: &Door) -> Result<(), StoreError> {
        sign_in_failure::Entity::delete_many().filter(sign_in_failure::Column::Who.eq(door.key())).exec(&self.db).await?;
        Ok(())
    }

    /// Drops tries of before a moment, so many at once; gives how many went.
    pub async fn drop_tries_before(&self, moment: Timestamp) -> Result<u64, StoreError> {
        let sql = "DELETE FROM sign_in_failures WHERE at < ? LIMIT 1000";
        self.delete_some(sql, moment).await
    }

    /// Remembers a browser by its token, so that others' tries at this cook's address do not shut it out.
    pub async fn know_browser(&self, cook: CookId, token: &str, now: Timestamp) -> Result<(), StoreError> {
        let Some(row) = cook::Entity::find_by_id(cook.0).one(&self.db).await? else { return Err(StoreError::NotFound) };
        let browser = known_browser::ActiveModel {
            token_hash: Set(token_hash(token)),
            cook_id: Set(cook.0),
            household_id: Set(row.household_id),
            seen_at: Set(now.into()),
        };
        known_browser::Entity::insert(browser).exec_without_returning(&self.db).await?;
        let stale: Vec<String> = known_browser::Entity::find()
            .select_only()
            .column(known_browser::Column::TokenHash)
            .filter(known_browser::Column::CookId.eq(cook.0))
            .order_by_desc(known_browser::Column::SeenAt)
            .offset(MOST_BROWSERS)
            .limit(100)
            .into_tuple()
            .all(&self.db)
            .await?;
        if !stale.is_empty() {
            known_browser::Entity::delete_many().filter(known_browser::Column::TokenHash.is_in(stale)).exec(&self.db).await?;
        }
        Ok(())
    }

    /// The door a browser with this token has at an address: its own where that address's cook signed in with it before.
    pub async fn door_of(&self, address: &str, token: Option<&str>) -> Result<Door, StoreError> {
        let stranger = Door::Stranger { address: address.to_owned() };
        let Some(token) = token.filter(|t| t.len() <= 200) else { return Ok(stranger) };
        let hash = token_hash(token);
        let Some(known) = known_browser::Entity::find_by_id(hash.clone()).one(&self.db).await? else { return Ok(stranger) };
        let cook = cook::Entity::find_by_id(known.cook_id).one(&self.db).await?;
        Ok(if cook.is_some_and(|c| c.address == address) { Door::Known { browser: hash } } else { stranger })
    }

    /// Forgets every browser a cook is known from.
    pub async fn forget_browsers(&self, cook: CookId) -> Result<(), StoreError> {
        known_browser::Entity::delete_many().filter(known_browser::Column::CookId.eq(cook.0)).exec(&self.db).await?;
        Ok(())
    }
}
