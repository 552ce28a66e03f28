//! Table `cooks`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, Eq, DeriveEntityModel)]
#[sea_orm(table_name = "cooks")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub household_id: Uuid,
    pub address: String,
    pub name: String,
    pub password_hash: String,
    pub created_at: Instant,
    pub session_epoch: i32,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {
    #[sea_orm(belongs_to = "super::household::Entity", from = "Column::HouseholdId", to = "super::household::Column::Id")]
    Household,
    #[sea_orm(belongs_to = "super::refrigerator::Entity", from = "Column::HouseholdId", to = "super::refrigerator::Column::HouseholdId")]
    Refrigerator,
}

impl Related<super::household::Entity> for Entity {
    fn to() -> RelationDef {
        Relation::Household.def()
    }
}

impl Related<super::refrigerator::Entity> for Entity {
    fn to() -> RelationDef {
        Relation::Refrigerator.def()
    }
}

impl ActiveModelBehavior for ActiveModel {}
