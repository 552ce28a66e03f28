//! # rauchkeller-store
//!
//! MariaDB through SeaORM. Every table's rows belong to a household, and the only way to them is
//! [`Kitchen`], the type that carries the household: a query without one does not compile.

mod connect;
mod entity;
mod error;
mod instant;
mod migration;
mod password;
mod repo;

pub use connect::Store;
pub use error::StoreError;
pub use instant::Instant;
pub use password::{Crowded, hash_password, verify_password};
pub use repo::{
    Added, Asked, Bowl, BowlId, ByEye, CodeTyped, Cook, CookId, Device, DeviceId, Door, Fellow, Hand, HouseholdId, INVITATION_DAYS,
    Invitation, Invited, Joined, JudgedDose, Kept, KitMix, KitSalt, KitTool, KitTray, Kitchen, LiveScale, MixId, NewBowl, NewPiece,
    NewReading, NewWeighIn, Newcomer, NoteId, Noted, Noting, Pairing, Piece, PieceId, Received, Refrigerator, RefrigeratorSaved, Replanned,
    Rest, SaltChanged, SaltId, SessionRow, SignUp, SkinRun, Step, StepId, TakenOut, ToolId, TouchCheck, TrayId, Try, Verdict, VerdictSaved,
    WarmNote, WeighIn, WeighInId, token_hash,
};
