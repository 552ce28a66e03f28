//! Table `events`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, Eq, DeriveEntityModel)]
#[sea_orm(table_name = "events")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub household_id: Uuid,
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub piece_id: Uuid,
    pub kind: String,
    pub at: Instant,
    /// What the sender's own clock said, where that is another moment.
    pub said_at: Option<Instant>,
    pub noted_at: Instant,
    pub cook_id: Option<Uuid>,
    #[sea_orm(column_type = "Text")]
    pub body: String,
    /// Whether it counts: not taken back, or put in again.
    pub live: bool,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
