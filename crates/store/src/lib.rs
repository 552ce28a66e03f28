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
    Added, Bowl, BowlId, ByEye, Cook, CookId, Device, DeviceId, Hand, HouseholdId, Kept, KitMix, KitSalt, KitTool, Kitchen, LiveScale,
    MixId, NewBowl, NewPiece, NewReading, Noted, Piece, PieceId, Received, Replanned, SaltId, SessionRow, SignUp, SkinRun, Step, StepId,
    ToolId, Verdict, VerdictSaved, token_hash,
};
