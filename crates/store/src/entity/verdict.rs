//! Table `verdicts`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, Eq, DeriveEntityModel)]
#[sea_orm(table_name = "verdicts")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub piece_id: Uuid,
    pub household_id: Uuid,
    pub bad_patches: Option<i32>,
    pub rim: i32,
    pub middle: i32,
    pub juice: i32,
    pub advice: String,
    pub version: i32,
    pub given_at: Instant,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
