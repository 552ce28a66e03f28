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
pub use password::{hash_password, verify_password};
pub use repo::{
    Added, Appended, Asked, Changes, CodeTyped, Cook, CookId, Device, DeviceId, Door, Fellow, HouseholdId, IN_SIGHT, INVITATION_DAYS,
    Invitation, Invited, Joined, JudgedDose, Kept, KitMix, KitSalt, KitTool, KitTray, KitWay, Kitchen, LiveScale, MixId, NewPiece, NewPlan,
    NewReading, NewWay, Newcomer, NoteId, Noting, ON_A_LIST, Pairing, Piece, PieceId, PlanVersion, Received, Refrigerator,
    RefrigeratorSaved, Revised, Revision, SaltId, SessionRow, SignUp, TakenOut, Told, ToolId, TrayId, Try, UnknownEvent, WarmNote, WayId,
    WayKept, WayVersion, token_hash,
};
