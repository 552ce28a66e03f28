//! One repository a table family, each scoped by household.

mod accounts;
mod bowls;
mod brake;
mod devices;
mod household;
mod kit;
mod kitchen;
mod names;
mod pairing;
mod refrigerator;
mod replan;
mod rest;
mod retry;
mod sessions;
mod taken_out;
mod tools;
mod warm;

pub use accounts::{Cook, SignUp};
pub use bowls::{Bowl, ByEye, NewBowl, Noted};
pub use brake::{Door, Try};
pub use devices::{Device, LiveScale, NewReading, Received, token_hash};
pub use household::{Fellow, INVITATION_DAYS, Invitation, Invited, Joined, Newcomer};
pub use kit::{Added, KitMix, KitSalt};
pub use kitchen::{JudgedDose, Kept, Kitchen, NewPiece, Piece, Step, Verdict, VerdictSaved};
pub use pairing::{Asked, CodeTyped, Pairing};
pub use refrigerator::{KitTray, Refrigerator, RefrigeratorSaved};
pub use replan::Replanned;
pub use rest::{NewWeighIn, Noting, Rest, SaltChanged, TouchCheck, WeighIn};
pub use sessions::SessionRow;
pub use taken_out::TakenOut;
pub use tools::{Hand, KitTool, SkinRun};
pub use warm::WarmNote;

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
    /// One of its steps.
    StepId,
    /// One of its bowls.
    BowlId,
    /// A salt of the Kit.
    SaltId,
    /// A mix of the Kit.
    MixId,
    /// A tool of the Kit.
    ToolId,
    /// A tray of the Kit.
    TrayId,
    /// One weighing of a resting piece.
    WeighInId,
    /// A touch check, or salt laid on or brushed off.
    NoteId,
    /// A device.
    DeviceId,
}
