//! The Kit of one household: its own salts and mixes.

use super::retry::retrying;
use super::{Kitchen, MixId, SaltId};
use crate::entity::{kit_mix, kit_salt};
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::sea_query::Expr;
use sea_orm::{ColumnTrait, EntityTrait, PaginatorTrait, QueryFilter, QueryOrder, Set, SqlErr};
use uuid::Uuid;

/// The most of a kind a kitchen keeps.
pub(super) const MOST: u64 = 100;

/// A salt weighed by this household.
#[derive(Debug, Clone, PartialEq)]
pub struct KitSalt {
    /// Which.
    pub id: SaltId,
    /// What it is called.
    pub name: String,
    /// Grams a level US teaspoon.
    pub g_per_tsp: f64,
    /// Standard deviation from spoon to spoon.
    pub spread_g: Option<f64>,
    /// Standard uncertainty of the spoon's weight.
    pub uncertainty_g: Option<f64>,
    /// Share of sodium chloride.
    pub purity: f64,
    /// Share of potassium chloride.
    pub potassium: f64,
    /// One pinch.
    pub pinch_g: Option<f64>,
    /// What was weighed, as typed.
    pub weighings: String,
    /// When.
    pub created_at: Timestamp,
    /// When it was taken out.
    pub deleted_at: Option<Timestamp>,
}

/// A rub, paste or marinade of this household.
#[derive(Debug, Clone, PartialEq)]
pub struct KitMix {
    /// Which.
    pub id: MixId,
    /// What it is called.
    pub name: String,
    /// As typed.
    pub recipe: String,
    /// Its parts as weighed: JSON list of name, g, `salt_g`.
    pub parts: String,
    /// Meat it is made for.
    pub made_for_g: Option<f64>,
    /// Grams of salt in 100 g.
    pub salt_g_per_100g: f64,
    /// When.
    pub created_at: Timestamp,
    /// When it was taken out.
    pub deleted_at: Option<Timestamp>,
}

/// What adding to the Kit did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Added<T> {
    /// It hangs in the Kit now.
    New(T),
    /// The same form came before.
    Before(T),
    /// Something of that name hangs there already.
    NameTaken,
    /// The Kit is full.
    Full,
}

impl Kitchen<'_> {
    /// Adds a salt; `salt.id` is ignored. The same form key never adds two.
    pub async fn add_salt(&self, form_key: &str, salt: &KitSalt, now: Timestamp) -> Result<Added<SaltId>, StoreError> {
        let mine = || kit_salt::Entity::find().filter(kit_salt::Column::HouseholdId.eq(self.household.0));
        let before = mine().filter(kit_salt::Column::FormKey.eq(form_key)).one(&self.store.db).await?;
        if let Some(row) = before {
            return Ok(Added::Before(SaltId(row.id)));
        }
        if mine().filter(kit_salt::Column::DeletedAt.is_null()).count(&self.store.db).await? >= MOST {
            return Ok(Added::Full);
        }
        let id = Uuid::now_v7();
        let row = || kit_salt::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            form_key: Set(form_key.to_owned()),
            name: Set(salt.name.clone()),
            g_per_tsp: Set(salt.g_per_tsp),
            spread_g: Set(salt.spread_g),
            uncertainty_g: Set(salt.uncertainty_g),
            purity: Set(salt.purity),
            potassium: Set(salt.potassium),
            pinch_g: Set(salt.pinch_g),
            weighings: Set(salt.weighings.clone()),
            created_at: Set(now.into()),
            deleted_at: Set(None),
        };
        match retrying(|| kit_salt::Entity::insert(row()).exec_without_returning(&self.store.db)).await {
            Ok(_) => Ok(Added::New(SaltId(id))),
            Err(error) if is_duplicate(&error) => {
                let same = mine().filter(kit_salt::Column::FormKey.eq(form_key)).one(&self.store.db).await?;
                Ok(same.map_or(Added::NameTaken, |row| Added::Before(SaltId(row.id))))
            }
            Err(error) => Err(error.into()),
        }
    }

    /// Salts that hang in the Kit, by name.
    pub async fn salts(&self) -> Result<Vec<KitSalt>, StoreError> {
        let rows = kit_salt::Entity::find()
            .filter(kit_salt::Column::HouseholdId.eq(self.household.0))
            .filter(kit_salt::Column::DeletedAt.is_null())
            .order_by_asc(kit_salt::Column::Name)
            .all(&self.store.db)
            .await?;
        Ok(rows.into_iter().map(read_salt).collect())
    }

    /// Takes a salt out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile.
    pub async fn set_salt_deleted(&self, id: SaltId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let done = kit_salt::Entity::update_many()
            .col_expr(kit_salt::Column::DeletedAt, Expr::value(at.map(crate::Instant::from)))
            .filter(kit_salt::Column::HouseholdId.eq(self.household.0))
            .filter(kit_salt::Column::Id.eq(id.0))
            .exec(&self.store.db)
            .await;
        changed(done)
    }

    /// Adds a mix; `mix.id` is ignored. The same form key never adds two.
    pub async fn add_mix(&self, form_key: &str, mix: &KitMix, now: Timestamp) -> Result<Added<MixId>, StoreError> {
        let mine = || kit_mix::Entity::find().filter(kit_mix::Column::HouseholdId.eq(self.household.0));
        let before = mine().filter(kit_mix::Column::FormKey.eq(form_key)).one(&self.store.db).await?;
        if let Some(row) = before {
            return Ok(Added::Before(MixId(row.id)));
        }
        if mine().filter(kit_mix::Column::DeletedAt.is_null()).count(&self.store.db).await? >= MOST {
            return Ok(Added::Full);
        }
        let id = Uuid::now_v7();
        let row = || kit_mix::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            form_key: Set(form_key.to_owned()),
            name: Set(mix.name.clone()),
            recipe: Set(mix.recipe.clone()),
            parts: Set(mix.parts.clone()),
            made_for_g: Set(mix.made_for_g),
            salt_g_per_100g: Set(mix.salt_g_per_100g),
            created_at: Set(now.into()),
            deleted_at: Set(None),
        };
        match retrying(|| kit_mix::Entity::insert(row()).exec_without_returning(&self.store.db)).await {
            Ok(_) => Ok(Added::New(MixId(id))),
            Err(error) if is_duplicate(&error) => {
                let same = mine().filter(kit_mix::Column::FormKey.eq(form_key)).one(&self.store.db).await?;
                Ok(same.map_or(Added::NameTaken, |row| Added::Before(MixId(row.id))))
            }
            Err(error) => Err(error.into()),
        }
    }

    /// Mixes that hang in the Kit, by name.
    pub async fn mixes(&self) -> Result<Vec<KitMix>, StoreError> {
        let rows = kit_mix::Entity::find()
            .filter(kit_mix::Column::HouseholdId.eq(self.household.0))
            .filter(kit_mix::Column::DeletedAt.is_null())
            .order_by_asc(kit_mix::Column::Name)
            .all(&self.store.db)
            .await?;
        Ok(rows.into_iter().map(read_mix).collect())
    }

    /// Takes a mix out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile.
    pub async fn set_mix_deleted(&self, id: MixId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let done = kit_mix::Entity::update_many()
            .col_expr(kit_mix::Column::DeletedAt, Expr::value(at.map(crate::Instant::from)))
            .filter(kit_mix::Column::HouseholdId.eq(self.household.0))
            .filter(kit_mix::Column::Id.eq(id.0))
            .exec(&self.store.db)
            .await;
        changed(done)
    }
}

pub(super) fn is_duplicate(error: &sea_orm::DbErr) -> bool {
    matches!(error.sql_err(), Some(SqlErr::UniqueConstraintViolation(_)))
}

pub(super) fn changed(done: Result<sea_orm::UpdateResult, sea_orm::DbErr>) -> Result<(), StoreError> {
    match done {
        Ok(done) if done.rows_affected == 0 => Err(StoreError::NotFound),
        Ok(_) => Ok(()),
        Err(error) if is_duplicate(&error) => Err(StoreError::Conflict),
        Err(error) => Err(error.into()),
    }
}

fn read_salt(row: kit_salt::Model) -> KitSalt {
    KitSalt {
        id: SaltId(row.id),
        name: row.name,
        g_per_tsp: row.g_per_tsp,
        spread_g: row.spread_g,
        uncertainty_g: row.uncertainty_g,
        purity: row.purity,
        potassium: row.potassium,
        pinch_g: row.pinch_g,
        weighings: row.weighings,
        created_at: row.created_at.timestamp(),
        deleted_at: row.deleted_at.map(crate::Instant::timestamp),
    }
}

fn read_mix(row: kit_mix::Model) -> KitMix {
    KitMix {
        id: MixId(row.id),
        name: row.name,
        recipe: row.recipe,
        parts: row.parts,
        made_for_g: row.made_for_g,
        salt_g_per_100g: row.salt_g_per_100g,
        created_at: row.created_at.timestamp(),
        deleted_at: row.deleted_at.map(crate::Instant::timestamp),
    }
}
