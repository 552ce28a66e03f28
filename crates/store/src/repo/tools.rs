//! Tools of a household, and what its hands did with them.

use super::hooks::Added;
use super::{Kitchen, ToolId};
use crate::entity::kit_tool;
use crate::error::StoreError;
use jiff::Timestamp;
use rauchkeller_core::run::{Event, paces};
use sea_orm::Set;
use std::collections::BTreeMap;
use uuid::Uuid;

/// A tool of this household.
#[derive(Debug, Clone, PartialEq)]
pub struct KitTool {
    /// Which.
    pub id: ToolId,
    /// What it is called.
    pub name: String,
    /// How deep it can go.
    pub reach_mm: f64,
    /// What stops it: `set`, `fixed` or `none`.
    pub stop: String,
    /// Pins a press; `None` for a blade.
    pub pins: Option<i32>,
}

/// Hands' moves that are looked through for them, the latest.
const LOOKED_THROUGH: u64 = 600;

impl Kitchen<'_> {
    /// Hangs up a tool; `tool.id` is ignored. The same form key never hangs two.
    pub async fn add_tool(&self, form_key: &str, tool: &KitTool, now: Timestamp) -> Result<Added<ToolId>, StoreError> {
        let row = |id| kit_tool::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            form_key: Set(form_key.to_owned()),
            name: Set(tool.name.clone()),
            reach_mm: Set(tool.reach_mm),
            stop: Set(tool.stop.clone()),
            pins: Set(tool.pins),
            created_at: Set(now.into()),
            deleted_at: Set(None),
        };
        Ok(self.hang::<kit_tool::Entity, _>(form_key, row).await?.map(ToolId))
    }

    /// Tools that hang in the Kit, by name.
    pub async fn tools(&self) -> Result<Vec<KitTool>, StoreError> {
        let read =
            |row: kit_tool::Model| KitTool { id: ToolId(row.id), name: row.name, reach_mm: row.reach_mm, stop: row.stop, pins: row.pins };
        Ok(self.hung::<kit_tool::Entity>().await?.into_iter().map(read).collect())
    }

    /// Takes a tool out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile.
    pub async fn set_tool_deleted(&self, id: ToolId, at: Option<Timestamp>) -> Result<(), StoreError> {
        self.set_hung::<kit_tool::Entity>(id.0, at).await
    }

    /// Earlier stretches with a tool, newest first: (amount, minutes), as core learns a pace from them.
    pub async fn paces(&self, tool_id: &str) -> Result<Vec<(f64, f64)>, StoreError> {
        Ok(paces(&self.knife_runs().await?, tool_id))
    }

    /// Hands' moves with knife and pick, the latest, piece by piece: what a pace is learned from.
    async fn knife_runs(&self) -> Result<Vec<Vec<Event>>, StoreError> {
        let mut pieces: BTreeMap<Uuid, Vec<Event>> = BTreeMap::new();
        for (piece, event) in self.latest_events("knife-run", LOOKED_THROUGH).await? {
            pieces.entry(piece).or_default().push(event);
        }
        Ok(pieces.into_values().collect())
    }
}
