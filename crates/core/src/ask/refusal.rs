//! What cannot be, said at its field.

use jiff::ZonedDateTime;
use std::borrow::Cow;

/// One thing in a request that cannot be: said at its field, with what is allowed and what to do.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{field}: {typed} is not possible; allowed: {allowed}. {remedy}")]
pub struct Refusal {
    /// Path of the field, as in the contract.
    pub field: Cow<'static, str>,
    /// What was typed.
    pub typed: String,
    /// What is allowed.
    pub allowed: String,
    /// What to do.
    pub remedy: String,
    /// What would do at its field: for a button. Empty where nothing is offered.
    pub offers: Vec<Offer>,
}

/// What would do instead of what was typed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Offer {
    /// Another meal.
    Meal(ZonedDateTime),
    /// So many quarters of an hour.
    QuarterHours(u32),
}

/// How it begins what the soonest meal is: then what was typed is too early.
pub const THE_SOONEST: &str = "the soonest is ";

impl Refusal {
    pub(crate) fn new(
        field: impl Into<Cow<'static, str>>,
        typed: impl Into<String>,
        allowed: impl Into<String>,
        remedy: impl Into<String>,
    ) -> Self {
        Self { field: field.into(), typed: typed.into(), allowed: allowed.into(), remedy: remedy.into(), offers: vec![] }
    }

    /// With what would do instead.
    pub(crate) fn or(self, offers: Vec<Offer>) -> Self {
        Self { offers, ..self }
    }
}
