//! Table `pieces`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, Eq, DeriveEntityModel)]
#[sea_orm(table_name = "pieces")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub form_key: String,
    pub name: String,
    pub cut: String,
    pub schema_no: i32,
    #[sea_orm(column_type = "custom(\"longtext\")")]
    pub request: String,
    #[sea_orm(column_type = "custom(\"longtext\")")]
    pub plan: String,
    pub version: i32,
    pub serve_at: Instant,
    pub created_at: Instant,
    pub finished_at: Option<Instant>,
    pub deleted_at: Option<Instant>,
    #[sea_orm(column_type = "Text", nullable)]
    pub note: Option<String>,
    pub plan_version: i32,
    pub rules: i32,
    pub last_task: Option<String>,
    /// How many were noted of it.
    pub events: i32,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
