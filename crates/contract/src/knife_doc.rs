//! Knife and pick as they are sent and stored.

use crate::to_doc::r4;
use rauchkeller_core::plan::SkinPlan;
use rauchkeller_core::skin::{CoverWork, DepthSays, Fit, MeatSide, Works};
use rauchkeller_core::units::{AreaIn, LengthIn, TimeIn};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The work of knife and pick.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SkinDoc {
    /// `lattice` where holes are made; `parallel`, `crosshatch` or `diamond` where it is scored; else `none`.
    pub pattern: String,
    /// Deepest the tool may go anywhere; null where no depth is safe.
    pub depth_max_mm: Option<f64>,
    /// How deep it is cut or pierced: chosen, else the deepest that is safe.
    #[serde(default)]
    pub depth_mm: Option<f64>,
    /// How far the chosen depth is from safe: into the lean, into the margin over it, or short of passing the skin.
    #[serde(default)]
    pub depth_off_mm: Option<f64>,
    /// How far the tool is from it: too long, or too short.
    #[serde(default)]
    pub tool_off_mm: Option<f64>,
    /// What is kept between the point and the lean.
    #[serde(default)]
    pub margin_mm: f64,
    /// Why no depth is safe.
    pub depth_refused: Option<String>,
    /// Number of holes.
    pub holes: Option<u32>,
    /// Presses of the tool.
    pub presses: Option<u32>,
    /// Distance between holes or strokes.
    pub spacing_mm: Option<f64>,
    /// Radius of the largest circle without a hole.
    pub largest_gap_mm: Option<f64>,
    /// The tool.
    pub tool: Option<String>,
    /// Stable name of the tool.
    #[serde(default)]
    pub tool_id: Option<String>,
    /// Number of strokes.
    #[serde(default)]
    pub strokes: Option<u32>,
    /// All strokes, end to end.
    #[serde(default)]
    pub cut_length_mm: Option<f64>,
    /// Widest strip left between strokes or at an edge.
    #[serde(default)]
    pub widest_strip_mm: Option<f64>,
    /// Surface the strokes open, both flanks.
    #[serde(default)]
    pub opened_dm2: Option<f64>,
    /// The face, less what is left alone.
    #[serde(default)]
    pub area_dm2: f64,
    /// Minutes on skin or cap.
    #[serde(default)]
    pub minutes: f64,
    /// Presses or centimetres of cut the work comes to, to learn a pace from.
    #[serde(default)]
    pub amount: f64,
    /// Picks to have out; count them back in.
    #[serde(default)]
    pub picks: Option<u32>,
    /// Parts of the face with a depth of their own; one where it is even.
    #[serde(default)]
    pub zones: Vec<SkinZoneDoc>,
    /// Cuts into the lean side.
    #[serde(default)]
    pub meat: Option<MeatCutsDoc>,
    /// What grooves do to the salt.
    #[serde(default)]
    pub groove_salt: Option<GrooveSaltDoc>,
    /// Quicker ways, where the work is long.
    #[serde(default)]
    pub quicker: Vec<QuickerDoc>,
}

/// A part of the face with its depth.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SkinZoneDoc {
    /// Where it begins, as a share of the length from the left.
    pub from: f64,
    /// Where it ends.
    pub to: f64,
    /// How deep; null where no depth is safe and it is pierced instead.
    pub depth_mm: Option<f64>,
}

/// Cuts into the lean side.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MeatCutsDoc {
    /// `grooves` or `lattice`.
    pub kind: String,
    /// Strokes, of both sides.
    pub strokes: u32,
    /// From cut to cut.
    pub spacing_mm: f64,
    /// End to end.
    pub cut_length_mm: f64,
    /// How deep, from each side.
    pub depth_mm: f64,
    /// Height of the rods that stop the knife; null for grooves.
    pub rods_mm: Option<f64>,
    /// Where cuts from both sides meet.
    pub openings: u32,
    /// Minutes.
    pub minutes: f64,
}

/// What grooves do to the salt after the planned hours; an estimate.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct GrooveSaltDoc {
    /// Share of the side's salt that lodges in them.
    pub share: f64,
    /// Least salted place with them.
    pub middle_g_per_kg: f64,
    /// And without.
    pub middle_without_g_per_kg: f64,
    /// Salted depth with them.
    pub depth_mm: f64,
    /// And without.
    pub depth_without_mm: f64,
}

/// A quicker way.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct QuickerDoc {
    /// What to do instead.
    pub what: String,
    /// Minutes of it.
    pub minutes: f64,
    /// Longest that any of the meat is out for it.
    pub out_minutes: f64,
}

pub(crate) fn skin_doc(skin: &SkinPlan) -> SkinDoc {
    let (ask, work) = (&skin.ask, &skin.work);
    let (pattern, spacing) = match ask.cover {
        CoverWork::Whole => ("none", None),
        CoverWork::Pierce { .. } => ("lattice", work.holes.as_ref().map(|h| h.spacing)),
        CoverWork::Score { pattern, spacing, .. } => (pattern.id(), Some(spacing)),
    };
    let scoring = work.scoring.as_ref();
    let opens = ask.cover != CoverWork::Whole;
    SkinDoc {
        pattern: pattern.into(),
        depth_max_mm: work.guard.map(|guard| r4(guard.at_most.in_mm())),
        depth_refused: skin.refused.clone(),
        depth_mm: ask.depth.or(work.guard.map(|guard| guard.at_most)).map(|d| r4(d.in_mm())),
        depth_off_mm: match work.says {
            DepthSays::Safe => None,
            DepthSays::IntoLean(by) | DepthSays::InMargin(by) | DepthSays::TooShallow(by) => Some(r4(by.in_mm())),
        },
        tool_off_mm: match work.fit {
            Some(Fit::TooShort(by) | Fit::TooLong(by)) => Some(r4(by.in_mm())),
            _ => None,
        },
        margin_mm: r4(ask.margin.in_mm()),
        holes: work.holes.as_ref().map(|_| work.holes_in_all),
        presses: work.holes.as_ref().map(|_| work.presses),
        spacing_mm: spacing.map(|s| r4(s.in_mm())),
        largest_gap_mm: work.holes.as_ref().map(|h| r4(h.largest_gap.in_mm())),
        tool: opens.then(|| ask.tool.name.to_string()),
        tool_id: opens.then(|| ask.tool.id.to_string()),
        strokes: scoring.map(|s| s.strokes.len() as u32),
        cut_length_mm: scoring.map(|s| r4(s.cut_length.in_mm())),
        widest_strip_mm: scoring.map(|s| r4(s.widest_strip.in_mm())),
        opened_dm2: scoring.map(|_| r4(work.opened.in_dm2())),
        area_dm2: r4(work.area.in_dm2()),
        minutes: r4(work.cover_takes.in_min()),
        amount: match ask.tool.works {
            Works::Pierces(_) => f64::from(work.presses),
            Works::Cuts => scoring.map_or(0.0, |s| r4(s.cut_length.in_mm() / 10.0)),
        },
        picks: work.picks,
        zones: work
            .zones
            .iter()
            .map(|z| SkinZoneDoc { from: r4(z.span.0), to: r4(z.span.1), depth_mm: z.depth.ok().map(|g| r4(g.at_most.in_mm())) })
            .collect(),
        meat: work.meat.as_ref().map(|cuts| MeatCutsDoc {
            kind: if cuts.rods.is_some() { "lattice" } else { "grooves" }.into(),
            strokes: (cuts.below.strokes.len() + cuts.above.as_ref().map_or(0, |a| a.strokes.len())) as u32,
            spacing_mm: match ask.meat {
                MeatSide::Grooves { spacing, .. } | MeatSide::Lattice { spacing, .. } => r4(spacing.in_mm()),
                MeatSide::Whole => 0.0,
            },
            cut_length_mm: r4(cuts.cut_length().in_mm()),
            depth_mm: r4(cuts.depth.in_mm()),
            rods_mm: cuts.rods.map(|r| r4(r.in_mm())),
            openings: cuts.openings as u32,
            minutes: r4(work.meat_takes.in_min()),
        }),
        groove_salt: skin.grooves.map(|g| GrooveSaltDoc {
            share: r4(g.share.0),
            middle_g_per_kg: r4(g.middle.0),
            middle_without_g_per_kg: r4(g.middle_without.0),
            depth_mm: r4(g.depth.in_mm()),
            depth_without_mm: r4(g.depth_without.in_mm()),
        }),
        quicker: skin
            .quicker
            .iter()
            .map(|w| QuickerDoc { what: w.what.clone(), minutes: r4(w.takes.in_min()), out_minutes: r4(w.out.in_min()) })
            .collect(),
    }
}
