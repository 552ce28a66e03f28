//! Table `warm_spells`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "warm_spells")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub piece_id: Option<Uuid>,
    pub form_key: String,
    pub from_at: Option<Instant>,
    pub to_at: Option<Instant>,
    pub air_c: Option<f64>,
    pub noted_at: Instant,
    pub deleted_at: Option<Instant>,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
