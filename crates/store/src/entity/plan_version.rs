//! Table `plan_versions`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, Eq, DeriveEntityModel)]
#[sea_orm(table_name = "plan_versions")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub piece_id: Uuid,
    #[sea_orm(primary_key, auto_increment = false)]
    pub version: i32,
    pub household_id: Uuid,
    pub schema_no: i32,
    pub rules: i32,
    #[sea_orm(column_type = "custom(\"longtext\")")]
    pub request: String,
    #[sea_orm(column_type = "custom(\"longtext\")")]
    pub plan: String,
    pub serve_at: Instant,
    pub made_at: Instant,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
