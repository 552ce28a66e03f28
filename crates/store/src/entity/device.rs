//! Table `devices`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "devices")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub kind: String,
    pub name: String,
    pub token_hash: String,
    pub form_key: Option<String>,
    #[sea_orm(column_type = "Double")]
    pub step_g: f64,
    #[sea_orm(column_type = "Double")]
    pub capacity_g: f64,
    pub created_at: Instant,
    pub deleted_at: Option<Instant>,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
