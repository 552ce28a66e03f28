//! Ways of a household's own: documents under an id of their own, each with the versions that were kept.

use super::hooks::{Added, Hung as _, is_duplicate};
use super::retry::retrying;
use super::{CookId, Kitchen, WayId};
use crate::entity::{kit_way, kit_way_version};
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::sea_query::Expr;
use sea_orm::{ColumnTrait, DatabaseTransaction, DbErr, EntityTrait, PaginatorTrait, QueryFilter, QueryOrder, Set, TransactionTrait};
use uuid::Uuid;

/// A way of this household.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KitWay {
    /// Which.
    pub id: WayId,
    /// What it is called.
    pub name: String,
    /// The id of its document, `own-…`.
    pub way: String,
    /// Counts up with each keeping, from 1.
    pub version: i32,
    /// The document.
    pub document: String,
}

/// One keeping of it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WayVersion {
    /// Which, from 1.
    pub version: i32,
    /// What it was called.
    pub name: String,
    /// The document as it was.
    pub document: String,
    /// Who kept it.
    pub cook: Option<CookId>,
    /// When.
    pub kept_at: Timestamp,
}

/// What keeping a way anew did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum WayKept {
    /// It is this version now.
    Version(i32),
    /// Somebody else kept it meanwhile, or took it out: nothing was changed.
    Changed,
    /// Another way hangs under that name.
    NameTaken,
}

/// A document to keep, as it is called.
#[derive(Debug, Clone, Copy)]
pub struct NewWay<'a> {
    /// What it is called.
    pub name: &'a str,
    /// The id of its document.
    pub way: &'a str,
    /// The document.
    pub document: &'a str,
}

impl Kitchen<'_> {
    /// Hangs up a way as its first version. The same form key never hangs two; an id that any way here ever had is taken.
    pub async fn add_way(&self, form_key: &str, new: NewWay<'_>, cook: CookId, now: Timestamp) -> Result<Added<WayId>, StoreError> {
        let before = || async { self.way_rows().filter(kit_way::Column::FormKey.eq(form_key)).one(&self.store.db).await };
        if let Some(row) = before().await? {
            return Ok(Added::AlreadyExists(WayId(row.id)));
        }
        let alive = self.way_rows().filter(kit_way::Column::DeletedAt.is_null());
        if alive.count(&self.store.db).await? >= kit_way::Entity::MOST {
            return Ok(Added::Full);
        }
        let id = Uuid::now_v7();
        let insert = || async {
            let transaction = self.store.db.begin().await?;
            let row = kit_way::ActiveModel {
                id: Set(id),
                household_id: Set(self.household.0),
                form_key: Set(form_key.to_owned()),
                name: Set(new.name.to_owned()),
                way: Set(new.way.to_owned()),
                version: Set(1),
                document: Set(new.document.to_owned()),
                created_at: Set(now.into()),
                deleted_at: Set(None),
            };
            kit_way::Entity::insert(row).exec_without_returning(&transaction).await?;
            self.insert_way_version(&transaction, id, 1, new, cook, now).await?;
            self.kit_changed(&transaction).await?;
            transaction.commit().await
        };
        match retrying(insert).await {
            Ok(()) => Ok(Added::Created(WayId(id))),
            Err(error) if is_duplicate(&error) => Ok(before().await?.map_or(Added::NameTaken, |row| Added::AlreadyExists(WayId(row.id)))),
            Err(error) => Err(error.into()),
        }
    }

    /// Ways that hang in the Kit, by name.
    pub async fn ways(&self) -> Result<Vec<KitWay>, StoreError> {
        Ok(self.hung::<kit_way::Entity>().await?.into_iter().map(read).collect())
    }

    /// Whether any way of this household, taken out or not, has the id of a document.
    pub async fn knows_way(&self, way: &str) -> Result<bool, StoreError> {
        Ok(self.way_rows().filter(kit_way::Column::Way.eq(way)).count(&self.store.db).await? > 0)
    }

    /// Keeps a way anew over the version the cook saw, and raises it; the earlier versions stay.
    pub async fn keep_way(&self, id: WayId, seen: i32, new: NewWay<'_>, cook: CookId, now: Timestamp) -> Result<WayKept, StoreError> {
        let next = seen.saturating_add(1);
        let keep = || async {
            let transaction = self.store.db.begin().await?;
            let update = kit_way::Entity::update_many()
                .col_expr(kit_way::Column::Name, Expr::value(new.name))
                .col_expr(kit_way::Column::Document, Expr::value(new.document))
                .col_expr(kit_way::Column::Version, Expr::value(next))
                .filter(kit_way::Column::HouseholdId.eq(self.household.0))
                .filter(kit_way::Column::Id.eq(id.0))
                .filter(kit_way::Column::Way.eq(new.way))
                .filter(kit_way::Column::Version.eq(seen))
                .filter(kit_way::Column::DeletedAt.is_null());
            if update.exec(&transaction).await?.rows_affected == 0 {
                return Ok(WayKept::Changed);
            }
            self.insert_way_version(&transaction, id.0, next, new, cook, now).await?;
            self.kit_changed(&transaction).await?;
            transaction.commit().await?;
            Ok(WayKept::Version(next))
        };
        match retrying(keep).await {
            Ok(kept) => Ok(kept),
            Err(error) if is_duplicate(&error) => Ok(WayKept::NameTaken),
            Err(error) => Err(error.into()),
        }
    }

    /// Every version that was kept of a way of this household, the last first.
    pub async fn way_versions(&self, id: WayId) -> Result<Vec<WayVersion>, StoreError> {
        let rows = kit_way_version::Entity::find()
            .filter(kit_way_version::Column::HouseholdId.eq(self.household.0))
            .filter(kit_way_version::Column::WayId.eq(id.0))
            .order_by_desc(kit_way_version::Column::Version)
            .all(&self.store.db)
            .await?;
        let read = |row: kit_way_version::Model| WayVersion {
            version: row.version,
            name: row.name,
            document: row.document,
            cook: row.cook_id.map(CookId),
            kept_at: row.kept_at.timestamp(),
        };
        Ok(rows.into_iter().map(read).collect())
    }

    /// Takes a way out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile. Kept pieces go
    /// on by the document they were kept with.
    pub async fn set_way_deleted(&self, id: WayId, at: Option<Timestamp>) -> Result<(), StoreError> {
        self.set_hung::<kit_way::Entity>(id.0, at).await
    }

    fn way_rows(&self) -> sea_orm::Select<kit_way::Entity> {
        kit_way::Entity::find().filter(kit_way::Column::HouseholdId.eq(self.household.0))
    }

    async fn insert_way_version(
        &self,
        on: &DatabaseTransaction,
        id: Uuid,
        version: i32,
        new: NewWay<'_>,
        cook: CookId,
        now: Timestamp,
    ) -> Result<(), DbErr> {
        let row = kit_way_version::ActiveModel {
            way_id: Set(id),
            version: Set(version),
            household_id: Set(self.household.0),
            name: Set(new.name.to_owned()),
            document: Set(new.document.to_owned()),
            cook_id: Set(Some(cook.0)),
            kept_at: Set(now.into()),
        };
        kit_way_version::Entity::insert(row).exec_without_returning(on).await?;
        Ok(())
    }
}

fn read(row: kit_way::Model) -> KitWay {
    KitWay { id: WayId(row.id), name: row.name, way: row.way, version: row.version, document: row.document }
}
