//! Table `readings`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "readings")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub device_id: Uuid,
    #[sea_orm(primary_key, auto_increment = false)]
    pub seq: i64,
    pub household_id: Uuid,
    pub at: Instant,
    pub received_at: Instant,
    #[sea_orm(column_type = "Double")]
    pub mass_g: f64,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {
    /// The scale it came from.
    #[sea_orm(belongs_to = "super::device::Entity", from = "Column::DeviceId", to = "super::device::Column::Id")]
    Device,
}

impl Related<super::device::Entity> for Entity {
    fn to() -> RelationDef {
        Relation::Device.def()
    }
}

impl ActiveModelBehavior for ActiveModel {}
