//! The run of a piece: what was planned, what happened, and how it stands.
//!
//! A plan is a row of tasks ([`RunPlan`]); what happened is a set of events ([`Event`]); [`stand`] says how the piece stands.
//! Every page reads that and nothing else, so that none can contradict another.
//!
//! Standing is a function of the *set* of events. Events are sorted by the moment they happened and by their id, never by the
//! order in which they arrived; one that was voided does not count, unless its void was voided in turn.
//!
//! ```
//! use rauchkeller_core::run::{Event, EventId, What, live};
//! let at = |id: u128, what| Event::new(EventId(id), "2026-12-11T13:00:00Z".parse().unwrap(), jiff::Timestamp::MAX, what);
//! let salted = at(1, What::TaskEnded { task: "salt".into() });
//! let taken_back = at(2, What::Voided(EventId(1)));
//! let after_all = at(3, What::Voided(EventId(2)));
//! assert_eq!(live(&[taken_back.clone(), salted.clone()]), [&taken_back]);
//! assert_eq!(live(&[after_all.clone(), taken_back, salted.clone()]), [&salted, &after_all]);
//! ```

mod ahead;
mod asked;
mod chill;
mod chilling;
mod event;
mod knife;
mod on;
mod one_fire;
mod pace;
mod places;
mod plan;
mod record;
mod replan;
mod rescue;
mod stand;

#[cfg(test)]
mod tests;

pub use ahead::Due;
pub use asked::{Asked, AskedCode, SALT_ON_IT};
pub use chill::InTheCold;
pub use chilling::{Chilling, ChillingAsk, CurvePoint, DryWhen, WeighedPiece, chilling, doubt_about, fit_refrigerator, lost_by_weighing};
pub use event::{Event, EventId, KnifeHand, Void, WeighingDoubt, What};
pub use knife::Stretch;
pub use on::OnIt;
pub use one_fire::{Clash, InTheFire, ONE_AIR_K, clashes};
pub use pace::paces;
pub use places::{Leg, Out};
pub use plan::{RunBowl, RunPlan, RunTask};
pub use record::{BowlState, Change, Fact, Record, Salted, TaskState, Tasted, Ticked, Tub, Weighed, live};
pub use replan::{KeptSalt, Over, Replanned, done_so_far, replan};
pub use rescue::{Happened, Rescue, RescueAsk, RescueWay, rescue};
pub use stand::{Standing, stand, stand_by};
