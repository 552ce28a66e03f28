//! One repository a table family, each scoped by household.

mod accounts;
mod appliances;
mod brake;
mod changes;
mod devices;
mod events;
mod folds;
mod hooks;
mod household;
mod kit;
mod kitchen;
mod line;
mod names;
mod pairing;
mod refrigerator;
mod retry;
mod revise;
mod sessions;
mod taken_out;
mod tools;
mod warm;
mod ways;
mod weighed;

pub use accounts::{Cook, SignUp};
pub use brake::{Door, Try};
pub use changes::{Changes, Told};
pub use devices::{Device, LiveScale, NewReading, Received, token_hash};
pub use events::{Appended, UnknownEvent};
pub use hooks::Added;
pub use household::{Fellow, INVITATION_DAYS, Invitation, Invited, Joined, Newcomer};
pub use kit::{KitMix, KitSalt};
pub use kitchen::{IN_SIGHT, JudgedDose, Kept, Kitchen, NewPiece, NewPlan, ON_A_LIST, Piece};
pub(crate) use line::Line;
pub use pairing::{Asked, CodeTyped, Pairing};
pub use refrigerator::{KitTray, Refrigerator, RefrigeratorSaved};
pub use revise::{PlanVersion, Revised, Revision};
pub use sessions::SessionRow;
pub use taken_out::TakenOut;
pub use tools::KitTool;
pub use warm::WarmNote;
pub use ways::{KitWay, NewWay, WayKept, WayVersion};
pub use weighed::Noting;

use uuid::Uuid;

macro_rules! id {
    ($(#[$doc:meta] $name:ident),* $(,)?) => {$(
        #[$doc]
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        pub struct $name(pub Uuid);
        impl std::fmt::Display for $name {
            fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                self.0.fmt(f)
            }
        }
    )*};
}
id! {
    /// A household.
    HouseholdId,
    /// A cook who signs in.
    CookId,
    /// A kept piece.
    PieceId,
    /// A salt of the Kit.
    SaltId,
    /// A mix of the Kit.
    MixId,
    /// A tool of the Kit.
    ToolId,
    /// A tray of the Kit.
    TrayId,
    /// A way of the Kit.
    WayId,
    /// A while in which a refrigerator was too warm.
    NoteId,
    /// A device.
    DeviceId,
}
