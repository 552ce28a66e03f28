//! Table `kit_way_versions`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, Eq, DeriveEntityModel)]
#[sea_orm(table_name = "kit_way_versions")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub way_id: Uuid,
    #[sea_orm(primary_key, auto_increment = false)]
    pub version: i32,
    pub household_id: Uuid,
    pub name: String,
    #[sea_orm(column_type = "custom(\"longtext\")")]
    pub document: String,
    pub cook_id: Option<Uuid>,
    pub kept_at: Instant,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
