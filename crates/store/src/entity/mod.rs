//! One module a table.

pub(crate) mod cook;
pub(crate) mod household;
pub(crate) mod piece;
pub(crate) mod sign_in_failure;
pub(crate) mod step;
pub(crate) mod verdict;
pub(crate) mod web_session;
