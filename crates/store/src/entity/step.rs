//! Table `steps`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, Eq, DeriveEntityModel)]
#[sea_orm(table_name = "steps")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub piece_id: Uuid,
    pub position: i32,
    pub kind: String,
    pub place: String,
    pub planned_start: Instant,
    pub planned_end: Instant,
    pub done_at: Option<Instant>,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
