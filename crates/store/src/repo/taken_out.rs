//! What was taken out of the Cellar, the Book and the Kit, so that it can be put back.

use super::Kitchen;
use crate::entity::{kit_mix, kit_salt, kit_tool, kit_tray, kit_way, piece};
use crate::error::StoreError;
use crate::instant::Instant;
use jiff::Timestamp;
use sea_orm::{ColumnTrait, EntityTrait, QueryFilter, QueryOrder, QuerySelect};
use uuid::Uuid;

/// One thing that was taken out.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TakenOut {
    /// `pieces`, `salts`, `mixes`, `tools`, `trays` or `ways`.
    pub kind: &'static str,
    /// Which.
    pub id: Uuid,
    /// What it is called.
    pub name: String,
    /// When.
    pub at: Timestamp,
}

/// The most of a kind that are listed, the last taken out first.
const MOST: u64 = 50;

macro_rules! taken_out {
    ($kitchen:ident, $out:ident, $entity:ident, $kind:literal) => {
        let rows: Vec<(Uuid, String, Option<Instant>)> = $entity::Entity::find()
            .select_only()
            .columns([$entity::Column::Id, $entity::Column::Name, $entity::Column::DeletedAt])
            .filter($entity::Column::HouseholdId.eq($kitchen.household.0))
            .filter($entity::Column::DeletedAt.is_not_null())
            .order_by_desc($entity::Column::DeletedAt)
            .limit(MOST)
            .into_tuple()
            .all(&$kitchen.store.db)
            .await?;
        $out.extend(rows.into_iter().filter_map(|(id, name, at)| Some(TakenOut { kind: $kind, id, name, at: at?.timestamp() })));
    };
}

impl Kitchen<'_> {
    /// What was taken out, the last first.
    pub async fn taken_out(&self) -> Result<Vec<TakenOut>, StoreError> {
        let mut out = Vec::new();
        taken_out!(self, out, piece, "pieces");
        taken_out!(self, out, kit_salt, "salts");
        taken_out!(self, out, kit_mix, "mixes");
        taken_out!(self, out, kit_tool, "tools");
        taken_out!(self, out, kit_tray, "trays");
        taken_out!(self, out, kit_way, "ways");
        out.sort_by_key(|thing| std::cmp::Reverse(thing.at));
        Ok(out)
    }
}
