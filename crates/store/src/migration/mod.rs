//! The schema, one statement a migration step.

use sea_orm_migration::prelude::*;

mod m001_first;
mod m002_salt;
mod m003_knife;
mod m004_rest;
mod m005_doors;
mod m006_warm;
mod m007_words;
pub(crate) mod m008_run;
mod m009_heat;
mod m010_growth;
mod m011_kit;
mod m012_dials;
mod m013_quiet;
mod m014_pinned;
mod m015_ways;

/// Every migration, oldest first.
pub struct Migrator;

#[async_trait::async_trait]
impl MigratorTrait for Migrator {
    fn migrations() -> Vec<Box<dyn MigrationTrait>> {
        vec![
            Box::new(m001_first::Migration),
            Box::new(m002_salt::Migration),
            Box::new(m003_knife::Migration),
            Box::new(m004_rest::Migration),
            Box::new(m005_doors::Migration),
            Box::new(m006_warm::Migration),
            Box::new(m007_words::Migration),
            Box::new(m008_run::Migration),
            Box::new(m009_heat::Migration),
            Box::new(m010_growth::Migration),
            Box::new(m011_kit::Migration),
            Box::new(m012_dials::Migration),
            Box::new(m013_quiet::Migration),
            Box::new(m014_pinned::Migration),
            Box::new(m015_ways::Migration),
        ]
    }
}
