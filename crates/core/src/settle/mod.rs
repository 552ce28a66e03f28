//! The second floor: what was asked, checked, and the piece made whole: its portions, shapes and faces, its guesses, its dose, what knife
//! and pick open, what is done already. Nothing above it looks into the request for what is settled here.

mod already;
mod as_method;
mod check;
mod field;
mod intact;
mod made_whole;
mod resolve;
mod resolved;
mod settled;
mod skin;
mod skin_plan;
mod stages;
mod tasks;

pub(crate) use already::{already_on, is_done, lies_salted_in_the_cold, no_time, salted_at};
pub use as_method::bath_follows_the_cold;
pub(crate) use as_method::{as_the_method_has_it, at_the_document, does_task, shapes};
pub use field::{FIELDS, Field, Unit};
pub(crate) use intact::not_intact;
pub use made_whole::kept_skin;
pub(crate) use made_whole::{kept_with_skin, resolve_with_skin};
pub use resolve::refusals;
pub(crate) use resolve::resolve_kept;
pub use resolved::{Resolved, ResolvedPortion};
pub use settled::Settled;
pub(crate) use skin::cover_enters_lean;
pub use skin_plan::{GrooveSalt, SkinPlan};
pub(crate) use tasks::{OFTENEST, added, at, no_stage, no_tempering};
