//! Table `bowls`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "bowls")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub piece_id: Uuid,
    pub position: i32,
    pub face: String,
    pub name: String,
    #[sea_orm(column_type = "Double")]
    pub target_g: f64,
    #[sea_orm(column_type = "Double", nullable)]
    pub tare_g: Option<f64>,
    #[sea_orm(column_type = "Double", nullable)]
    pub weighed_g: Option<f64>,
    pub weighed_at: Option<Instant>,
    pub used_at: Option<Instant>,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
