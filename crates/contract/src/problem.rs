//! Problems: one a field, all at once, in words a cook can act on.

use rauchkeller_core::ask::{Offer, Refusal, THE_SOONEST};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What is wrong with one field.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Problem {
    /// Path of the field, like `piece.weight_g`.
    pub field: String,
    /// What was typed.
    pub typed: String,
    /// What is allowed.
    pub allowed: String,
    /// What to do.
    #[serde(rename = "do")]
    pub remedy: String,
    /// What would do: pages offer it; a program reads `allowed`.
    #[serde(skip)]
    pub offers: Vec<Offer>,
}

impl Problem {
    /// A problem at a field.
    pub fn new(field: impl Into<String>, typed: impl Into<String>, allowed: impl Into<String>, remedy: impl Into<String>) -> Self {
        Self { field: field.into(), typed: typed.into(), allowed: allowed.into(), remedy: remedy.into(), offers: vec![] }
    }

    /// One sentence for beside the field: what cannot be, what can, and what to do.
    pub fn sentence(&self) -> String {
        let joint = if self.allowed.starts_with(THE_SOONEST) { "is too early;" } else { "cannot be:" };
        format!("{} {joint} {}. {}", self.typed, self.allowed, self.remedy)
    }
}

/// The first problem of every field, in the order they were found.
pub(crate) fn one_a_field(problems: Vec<Problem>) -> Problems {
    let mut kept: Vec<Problem> = Vec::with_capacity(problems.len());
    for problem in problems {
        if !kept.iter().any(|k| k.field == problem.field) {
            kept.push(problem);
        }
    }
    Problems { problems: kept }
}

/// All problems of a request.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Problems {
    /// One entry a field.
    pub problems: Vec<Problem>,
}

impl From<Refusal> for Problem {
    fn from(refused: Refusal) -> Self {
        Self { offers: refused.offers, ..Self::new(refused.field.into_owned(), refused.typed, refused.allowed, refused.remedy) }
    }
}

impl From<Vec<Refusal>> for Problems {
    fn from(refusals: Vec<Refusal>) -> Self {
        Self { problems: refusals.into_iter().map(Problem::from).collect() }
    }
}
