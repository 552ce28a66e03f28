//! Table `refrigerators`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "refrigerators")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub household_id: Uuid,
    #[sea_orm(column_type = "Double")]
    pub air_c: f64,
    #[sea_orm(column_type = "Double", nullable)]
    pub rh: Option<f64>,
    #[sea_orm(column_type = "Double", nullable)]
    pub fit_h: Option<f64>,
    #[sea_orm(column_type = "Double", nullable)]
    pub fit_spread: Option<f64>,
    pub fit_points: i32,
    pub version: i32,
    pub changed_at: Instant,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
