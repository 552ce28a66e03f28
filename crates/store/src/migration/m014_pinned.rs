//! A kept piece goes by the whole document of its method: those kept before have only its name, and get the document of this version,
//! marked so.

use sea_orm::Statement;
use sea_orm_migration::prelude::*;

/// The documents as they were when this migration was written; those of later versions are none of its business.
const DOCUMENTS: &str = include_str!("m014_methods.json");

/// Pinned methods.
#[derive(DeriveMigrationName)]
pub struct Migration;

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        let documents: Vec<serde_json::Value> = serde_json::from_str(DOCUMENTS).map_err(|error| DbErr::Custom(error.to_string()))?;
        let connection = manager.get_connection();
        for document in documents {
            let id = document["id"].as_str().unwrap_or_default();
            for table in ["pieces", "plan_versions"] {
                let sql = format!(
                    "UPDATE {table} SET request = JSON_SET(request, '$.method_document', JSON_EXTRACT(?, '$'), '$.method_document_added', TRUE)
                     WHERE JSON_VALID(request) AND COALESCE(JSON_VALUE(request, '$.method'), JSON_VALUE(plan, '$.request.method')) = ?
                       AND COALESCE(JSON_TYPE(JSON_EXTRACT(request, '$.method')), 'NULL') <> 'OBJECT'
                       AND NOT JSON_CONTAINS_PATH(request, 'one', '$.method_document')"
                );
                let statement =
                    Statement::from_sql_and_values(manager.get_database_backend(), sql, [document.to_string().into(), id.into()]);
                connection.execute_raw(statement).await?;
            }
        }
        Ok(())
    }

    async fn down(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        for table in ["pieces", "plan_versions"] {
            let sql = format!(
                "UPDATE {table} SET request = JSON_REMOVE(request, '$.method_document', '$.method_document_added')
                 WHERE JSON_VALID(request) AND JSON_CONTAINS_PATH(request, 'one', '$.method_document_added')"
            );
            manager.get_connection().execute_unprepared(&sql).await?;
        }
        Ok(())
    }
}
