//! Table `weigh_ins`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "weigh_ins")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub piece_id: Uuid,
    pub form_key: String,
    pub tray_id: Option<Uuid>,
    #[sea_orm(column_type = "Double")]
    pub tare_g: f64,
    #[sea_orm(column_type = "Double")]
    pub gross_g: f64,
    #[sea_orm(column_type = "Double")]
    pub fineness_g: f64,
    pub from_scale: bool,
    pub at: Instant,
    pub doubt: Option<String>,
    #[sea_orm(column_type = "Double", nullable)]
    pub off_g: Option<f64>,
    pub answer: Option<String>,
    pub deleted_at: Option<Instant>,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
