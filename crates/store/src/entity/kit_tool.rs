//! Table `kit_tools`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "kit_tools")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub form_key: String,
    pub name: String,
    #[sea_orm(column_type = "Double")]
    pub reach_mm: f64,
    pub stop: String,
    pub pins: Option<i32>,
    pub created_at: Instant,
    pub deleted_at: Option<Instant>,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
