//! Kinds of tasks a cook may add.

use super::kind::StepKind;
use super::plain::plain;

/// Tasks a cook may add by their name.
pub const ADDED: [StepKind; 10] = [
    StepKind::Turn,
    StepKind::Wipe,
    StepKind::Shield,
    StepKind::Look,
    StepKind::Baste,
    StepKind::Glaze,
    StepKind::Scrape,
    StepKind::SliceTest,
    StepKind::BonesOut,
    StepKind::PullApart,
];

/// Whether a cook may add it: where it usually stands, or in the cold at an hour that has to be said.
pub fn addable(kind: StepKind) -> bool {
    ADDED.contains(&kind) || HANGS.contains(&kind) || plain(kind).is_some()
}

/// The kinds that may be hung on the heat.
pub const HANGS: [StepKind; 13] = [
    StepKind::Turn,
    StepKind::Look,
    StepKind::Baste,
    StepKind::Glaze,
    StepKind::Shield,
    StepKind::Scrape,
    StepKind::TopUpLiquid,
    StepKind::OpenLid,
    StepKind::FeedCoals,
    StepKind::Wood,
    StepKind::Vents,
    StepKind::WaterPan,
    StepKind::ReadAir,
];
