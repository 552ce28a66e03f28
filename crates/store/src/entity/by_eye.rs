//! Table `by_eye`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "by_eye")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub piece_id: Uuid,
    pub household_id: Uuid,
    #[sea_orm(column_type = "Double", nullable)]
    pub tub_before_g: Option<f64>,
    #[sea_orm(column_type = "Double", nullable)]
    pub tub_after_g: Option<f64>,
    #[sea_orm(column_type = "Double", nullable)]
    pub mix_left_g: Option<f64>,
    pub version: i32,
    pub noted_at: Instant,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
