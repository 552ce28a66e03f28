//! What hangs in the Kit hangs on a hook: added once a form, listed by name, taken out and put back. Every kind alike.

use super::Kitchen;
use super::retry::retrying;
use crate::Instant;
use crate::entity::{device, household, kit_mix, kit_salt, kit_tool, kit_tray, kit_way};
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::sea_query::{Expr, ExprTrait};
use sea_orm::{
    ActiveModelBehavior, ActiveModelTrait, ColumnTrait, ConnectionTrait, DbErr, EntityTrait, IntoActiveModel, PaginatorTrait, QueryFilter,
    QueryOrder, Select, SqlErr, TransactionTrait,
};
use uuid::Uuid;

/// The most of a kind a kitchen keeps.
const MOST: u64 = 100;

/// What adding to the Kit did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Added<T> {
    /// It hangs in the Kit now.
    Created(T),
    /// The same form came before.
    AlreadyExists(T),
    /// Something of that name hangs there already.
    NameTaken,
    /// The Kit is full.
    Full,
}

impl<T> Added<T> {
    /// The same of another kind of id.
    pub(super) fn map<U>(self, id: impl FnOnce(T) -> U) -> Added<U> {
        match self {
            Self::Created(of) => Added::Created(id(of)),
            Self::AlreadyExists(of) => Added::AlreadyExists(id(of)),
            Self::NameTaken => Added::NameTaken,
            Self::Full => Added::Full,
        }
    }
}

/// A table whose rows hang in the Kit of a household.
pub(super) trait Hung: EntityTrait {
    /// Columns every such table has: id, household, form key, name, when it was taken out.
    const ID: Self::Column;
    const HOUSEHOLD: Self::Column;
    const FORM_KEY: Self::Column;
    const NAME: Self::Column;
    const DELETED_AT: Self::Column;
    /// The most of them a kitchen keeps.
    const MOST: u64 = MOST;

    /// A row's id.
    fn id_of(row: &Self::Model) -> Uuid;
}

macro_rules! hung {
    ($table:ident $(, $most:expr)?) => {
        impl Hung for $table::Entity {
            const ID: $table::Column = $table::Column::Id;
            const HOUSEHOLD: $table::Column = $table::Column::HouseholdId;
            const FORM_KEY: $table::Column = $table::Column::FormKey;
            const NAME: $table::Column = $table::Column::Name;
            const DELETED_AT: $table::Column = $table::Column::DeletedAt;
            $(const MOST: u64 = $most;)?

            fn id_of(row: &$table::Model) -> Uuid {
                row.id
            }
        }
    };
}
hung!(kit_salt);
hung!(kit_mix);
hung!(kit_tool);
hung!(kit_tray);
hung!(kit_way);
hung!(device, super::devices::MOST_DEVICES);

impl Kitchen<'_> {
    /// All of a kind that ever hung here.
    fn every<E: Hung>(&self) -> Select<E> {
        E::find().filter(E::HOUSEHOLD.eq(self.household.0))
    }

    /// Those that hang here, by name.
    pub(super) async fn hung<E: Hung>(&self) -> Result<Vec<E::Model>, StoreError> {
        Ok(self.every::<E>().filter(E::DELETED_AT.is_null()).order_by_asc(E::NAME).all(&self.store.db).await?)
    }

    /// Hangs up a row under a new id; the same form key never hangs two.
    pub(super) async fn hang<E, A>(&self, form_key: &str, row: impl Fn(Uuid) -> A) -> Result<Added<Uuid>, StoreError>
    where
        E: Hung,
        E::Model: Send + Sync + IntoActiveModel<A>,
        A: ActiveModelTrait<Entity = E> + ActiveModelBehavior + Send,
    {
        let before = || async { self.every::<E>().filter(E::FORM_KEY.eq(form_key)).one(&self.store.db).await };
        if let Some(row) = before().await? {
            return Ok(Added::AlreadyExists(E::id_of(&row)));
        }
        if self.every::<E>().filter(E::DELETED_AT.is_null()).count(&self.store.db).await? >= E::MOST {
            return Ok(Added::Full);
        }
        let id = Uuid::now_v7();
        let insert = || async {
            let transaction = self.store.db.begin().await?;
            E::insert(row(id)).exec_without_returning(&transaction).await?;
            self.kit_changed(&transaction).await?;
            transaction.commit().await
        };
        match retrying(insert).await {
            Ok(()) => Ok(Added::Created(id)),
            // The same form at the same moment, or another thing of that name.
            Err(error) if is_duplicate(&error) => Ok(before().await?.map_or(Added::NameTaken, |row| Added::AlreadyExists(E::id_of(&row)))),
            Err(error) => Err(error.into()),
        }
    }

    /// Takes a thing out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile.
    pub(super) async fn set_hung<E: Hung>(&self, id: Uuid, out: Option<Timestamp>) -> Result<(), StoreError> {
        let set = || async {
            let transaction = self.store.db.begin().await?;
            let update = E::update_many().col_expr(E::DELETED_AT, Expr::value(out.map(Instant::from)));
            let mine = update.filter(E::HOUSEHOLD.eq(self.household.0)).filter(E::ID.eq(id));
            let done = mine.exec(&transaction).await?;
            self.kit_changed(&transaction).await?;
            transaction.commit().await?;
            Ok(done.rows_affected)
        };
        match retrying(set).await {
            Ok(0) => Err(StoreError::NotFound),
            Ok(_) => Ok(()),
            Err(error) if is_duplicate(&error) => Err(StoreError::Conflict),
            Err(error) => Err(error.into()),
        }
    }
}

impl Kitchen<'_> {
    /// Raises the number of the Kit, in the transaction that changes what hangs there.
    pub(super) async fn kit_changed(&self, on: &impl ConnectionTrait) -> Result<(), DbErr> {
        household::Entity::update_many()
            .col_expr(household::Column::KitVersion, Expr::col(household::Column::KitVersion).add(1))
            .filter(household::Column::Id.eq(self.household.0))
            .exec(on)
            .await?;
        Ok(())
    }
}

pub(super) fn is_duplicate(error: &sea_orm::DbErr) -> bool {
    matches!(error.sql_err(), Some(SqlErr::UniqueConstraintViolation(_)))
}
