//! What the refrigerator learns from: pieces that were weighed, tubs that hands took salt from.

use super::{Kitchen, Piece};
use crate::entity::{event, piece};
use crate::error::StoreError;
use sea_orm::{ColumnTrait, ConnectionTrait, EntityTrait, QueryFilter, QueryOrder, QuerySelect, Statement};
use uuid::Uuid;

/// What noting did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Noting<T> {
    /// Noted.
    Created(T),
    /// This form was sent before; it stands.
    AlreadyExists(T),
    /// There is no room for more.
    Full,
}

/// Pieces whose weighings teach the refrigerator, the latest ones.
const TAUGHT_BY: usize = 12;
/// Weighings among which they are looked for.
const LOOKED_AT: u64 = 400;

impl Kitchen<'_> {
    /// The latest pieces that were weighed while they rested, those in the Book too, in no order.
    pub async fn weighed_pieces(&self) -> Result<Vec<Piece>, StoreError> {
        let latest: Vec<Uuid> = event::Entity::find()
            .select_only()
            .column(event::Column::PieceId)
            .filter(event::Column::HouseholdId.eq(self.household.0))
            .filter(event::Column::Kind.eq("weighed"))
            .filter(event::Column::Live.eq(true))
            .order_by_desc(event::Column::At)
            .limit(LOOKED_AT)
            .into_tuple()
            .all(&self.store.db)
            .await?;
        let mut rows: Vec<Uuid> = Vec::new();
        for piece in latest {
            if rows.len() < TAUGHT_BY && !rows.contains(&piece) {
                rows.push(piece);
            }
        }
        let pieces = self.pieces_query().filter(piece::Column::Id.is_in(rows)).filter(piece::Column::DeletedAt.is_null());
        self.fill(pieces.all(&self.store.db).await?).await
    }

    /// What the weighings that teach the refrigerator say, in a word: another word, and something was weighed, answered, salted
    /// or taken back meanwhile.
    pub async fn taught(&self) -> Result<String, StoreError> {
        // The last of each kind by its index: events are only ever added.
        let sql = "SELECT CONCAT_WS(' ', \
            (SELECT GROUP_CONCAT(latest ORDER BY kind) FROM (SELECT kind, MAX(arrived) AS latest FROM events WHERE household_id = ? \
                AND kind IN ('weighed', 'answered', 'salt-on', 'salt-off', 'really-on', 'tub-weighed', 'voided') GROUP BY kind) each_kind), \
            (SELECT version FROM refrigerators WHERE household_id = ?)) AS word";
        let mine = || sea_orm::Value::from(self.household.0);
        let statement = Statement::from_sql_and_values(self.store.db.get_database_backend(), sql, [mine(), mine()]);
        let row = self.store.db.query_one_raw(statement).await?;
        Ok(row.map(|row| row.try_get::<String>("", "word")).transpose()?.unwrap_or_default())
    }

    /// What the hand took from the tub on the latest pieces, with their plans: (plan as stored, grams). Newest first.
    pub async fn tubs(&self, most: usize) -> Result<Vec<(String, f64)>, StoreError> {
        let rows = event::Entity::find()
            .filter(event::Column::HouseholdId.eq(self.household.0))
            .filter(event::Column::Kind.eq("tub-weighed"))
            .filter(event::Column::Live.eq(true))
            .order_by_desc(event::Column::At)
            .limit(most as u64 * 4)
            .all(&self.store.db)
            .await?;
        let mut seen: Vec<(Uuid, f64)> = Vec::new();
        for row in &rows {
            let body: serde_json::Value = serde_json::from_str(&row.body).unwrap_or_default();
            // Of several notes of one piece the last counts.
            let taken = body["before_g"].as_f64().zip(body["after_g"].as_f64()).map(|(before, after)| before - after);
            if let Some(taken) = taken.filter(|_| seen.len() < most && !seen.iter().any(|(piece, _)| *piece == row.piece_id)) {
                seen.push((row.piece_id, taken));
            }
        }
        if seen.is_empty() {
            return Ok(vec![]);
        }
        let pieces = self
            .pieces_query()
            .filter(piece::Column::Id.is_in(seen.iter().map(|(id, _)| *id)))
            .filter(piece::Column::DeletedAt.is_null())
            .all(&self.store.db)
            .await?;
        let plan = |id| pieces.iter().find(|p| p.id == id).map(|p| p.plan.clone());
        Ok(seen.into_iter().filter_map(|(piece, g)| Some((plan(piece)?, g))).collect())
    }
}
