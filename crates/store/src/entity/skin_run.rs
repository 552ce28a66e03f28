//! Table `skin_runs`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "skin_runs")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub piece_id: Uuid,
    #[sea_orm(primary_key, auto_increment = false)]
    pub step_kind: String,
    pub household_id: Uuid,
    pub tool_id: String,
    #[sea_orm(column_type = "Double")]
    pub amount: f64,
    pub started_at: Instant,
    pub held_since: Option<Instant>,
    #[sea_orm(column_type = "Double")]
    pub held_s: f64,
    #[sea_orm(column_type = "Double")]
    pub back_s: f64,
    pub stopped_at: Option<Instant>,
    pub picks_out: Option<i32>,
    pub picks_in: Option<i32>,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
