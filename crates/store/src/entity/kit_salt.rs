//! Table `kit_salts`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "kit_salts")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub form_key: String,
    pub name: String,
    #[sea_orm(column_type = "Double")]
    pub g_per_tsp: f64,
    #[sea_orm(column_type = "Double", nullable)]
    pub spread_g: Option<f64>,
    #[sea_orm(column_type = "Double", nullable)]
    pub uncertainty_g: Option<f64>,
    #[sea_orm(column_type = "Double")]
    pub purity: f64,
    #[sea_orm(column_type = "Double")]
    pub potassium: f64,
    #[sea_orm(column_type = "Double", nullable)]
    pub pinch_g: Option<f64>,
    pub weighings: String,
    pub created_at: Instant,
    pub deleted_at: Option<Instant>,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
