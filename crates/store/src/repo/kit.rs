//! The Kit of one household: its own salts and mixes.

use super::hooks::Added;
use super::{Kitchen, MixId, SaltId};
use crate::entity::{kit_mix, kit_salt};
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::Set;

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

impl Kitchen<'_> {
    /// Adds a salt; `salt.id` is ignored. The same form key never adds two.
    pub async fn add_salt(&self, form_key: &str, salt: &KitSalt, now: Timestamp) -> Result<Added<SaltId>, StoreError> {
        let row = |id| kit_salt::ActiveModel {
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
        Ok(self.hang::<kit_salt::Entity, _>(form_key, row).await?.map(SaltId))
    }

    /// Salts that hang in the Kit, by name.
    pub async fn salts(&self) -> Result<Vec<KitSalt>, StoreError> {
        Ok(self.hung::<kit_salt::Entity>().await?.into_iter().map(read_salt).collect())
    }

    /// Takes a salt out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile.
    pub async fn set_salt_deleted(&self, id: SaltId, at: Option<Timestamp>) -> Result<(), StoreError> {
        self.set_hung::<kit_salt::Entity>(id.0, at).await
    }

    /// Adds a mix; `mix.id` is ignored. The same form key never adds two.
    pub async fn add_mix(&self, form_key: &str, mix: &KitMix, now: Timestamp) -> Result<Added<MixId>, StoreError> {
        let row = |id| kit_mix::ActiveModel {
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
        Ok(self.hang::<kit_mix::Entity, _>(form_key, row).await?.map(MixId))
    }

    /// Mixes that hang in the Kit, by name.
    pub async fn mixes(&self) -> Result<Vec<KitMix>, StoreError> {
        Ok(self.hung::<kit_mix::Entity>().await?.into_iter().map(read_mix).collect())
    }

    /// Takes a mix out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile.
    pub async fn set_mix_deleted(&self, id: MixId, at: Option<Timestamp>) -> Result<(), StoreError> {
        self.set_hung::<kit_mix::Entity>(id.0, at).await
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
