//! How hot a household's own appliances get, and how far their dials are off.

use super::Kitchen;
use super::retry::retrying;
use crate::entity::{appliance, dial};
use crate::error::StoreError;
use jiff::Timestamp;
use rauchkeller_core::fire::HeatSource;
use rauchkeller_core::units::{IntervalIn, Temperature, TemperatureIn, TemperatureInterval, celsius, kelvin};
use sea_orm::sea_query::OnConflict;
use sea_orm::{ColumnTrait, DatabaseTransaction, DbErr, EntityTrait, QueryFilter, QueryOrder, Set, TransactionTrait};

impl Kitchen<'_> {
    /// What the household has said, by kind; a kind this program no longer knows is left out.
    pub async fn appliances(&self) -> Result<Vec<(HeatSource, Temperature)>, StoreError> {
        let own = appliance::Entity::find()
            .filter(appliance::Column::HouseholdId.eq(self.household.0))
            .order_by_asc(appliance::Column::Source)
            .all(&self.store.db)
            .await?;
        Ok(own.into_iter().filter_map(|row| Some((HeatSource::find(&row.source)?, celsius(row.max_c)))).collect())
    }

    /// Says how hot one gets; `None` as is usual again. Said twice it is the same.
    pub async fn set_appliance(&self, source: HeatSource, most: Option<Temperature>, now: Timestamp) -> Result<(), StoreError> {
        let set = || async {
            let transaction = self.store.db.begin().await?;
            self.set_appliance_in(source, most, now, &transaction).await?;
            self.kit_changed(&transaction).await?;
            transaction.commit().await
        };
        Ok(retrying(set).await?)
    }

    async fn set_appliance_in(
        &self,
        source: HeatSource,
        most: Option<Temperature>,
        now: Timestamp,
        transaction: &DatabaseTransaction,
    ) -> Result<(), DbErr> {
        let Some(most) = most else {
            appliance::Entity::delete_by_id((self.household.0, source.id().to_owned())).exec(transaction).await?;
            return Ok(());
        };
        let row = appliance::ActiveModel {
            household_id: Set(self.household.0),
            source: Set(source.id().to_owned()),
            max_c: Set(most.in_c()),
            changed_at: Set(now.into()),
        };
        let key = [appliance::Column::HouseholdId, appliance::Column::Source];
        let over = OnConflict::columns(key).update_columns([appliance::Column::MaxC, appliance::Column::ChangedAt]).to_owned();
        appliance::Entity::insert(row).on_conflict(over).exec_without_returning(transaction).await?;
        Ok(())
    }

    /// How much more the dials show than the air beside the meat, by kind, where somebody has read both.
    pub async fn dials(&self) -> Result<Vec<(HeatSource, TemperatureInterval)>, StoreError> {
        let own = dial::Entity::find().filter(dial::Column::HouseholdId.eq(self.household.0)).all(&self.store.db).await?;
        Ok(own.into_iter().filter_map(|row| Some((HeatSource::find(&row.source)?, kelvin(row.off_k)))).collect())
    }

    /// Says how far one is off; `None` forgets it. Said twice it is the same.
    pub async fn set_dial(&self, source: HeatSource, off: Option<TemperatureInterval>, now: Timestamp) -> Result<(), StoreError> {
        let set = || async {
            let transaction = self.store.db.begin().await?;
            self.set_dial_in(source, off, now, &transaction).await?;
            self.kit_changed(&transaction).await?;
            transaction.commit().await
        };
        Ok(retrying(set).await?)
    }

    async fn set_dial_in(
        &self,
        source: HeatSource,
        off: Option<TemperatureInterval>,
        now: Timestamp,
        transaction: &DatabaseTransaction,
    ) -> Result<(), DbErr> {
        let Some(off) = off else {
            dial::Entity::delete_by_id((self.household.0, source.id().to_owned())).exec(transaction).await?;
            return Ok(());
        };
        let row = dial::ActiveModel {
            household_id: Set(self.household.0),
            source: Set(source.id().to_owned()),
            off_k: Set(off.in_kelvin()),
            changed_at: Set(now.into()),
        };
        let over = OnConflict::columns([dial::Column::HouseholdId, dial::Column::Source])
            .update_columns([dial::Column::OffK, dial::Column::ChangedAt])
            .to_owned();
        dial::Entity::insert(row).on_conflict(over).exec_without_returning(transaction).await?;
        Ok(())
    }
}
