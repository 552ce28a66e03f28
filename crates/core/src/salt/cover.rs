//! Salt as a tool on skin: crust, bed and short draw. Mostly thrown away; what stays behind is an estimate.

use super::salts::Salt;
use super::spoons::{Spoons, US_TEASPOON_ML};
use crate::units::{Area, AreaIn, GramsPerDm2, Length, LengthIn, Mass, MassIn, grams};

/// What the salt on the skin is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum CoverKind {
    /// A quarter of an hour on pierced skin, blotted off.
    Draw,
    /// Buried under 3–5 mm for the slow stage, knocked off.
    Crust,
    /// Skin down on salt overnight, weighted.
    Bed,
    /// A few coarse grains that stay on through the heat, scraped off after it.
    Scatter,
}

impl CoverKind {
    /// Every kind, shortest time on the skin first.
    pub const ALL: [Self; 4] = [Self::Draw, Self::Crust, Self::Bed, Self::Scatter];

    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Draw => "draw",
            Self::Crust => "crust",
            Self::Bed => "bed",
            Self::Scatter => "scatter",
        }
    }

    /// What a cook calls it.
    pub fn name(self) -> &'static str {
        match self {
            Self::Draw => "a short draw",
            Self::Crust => "a crust",
            Self::Bed => "a bed",
            Self::Scatter => "a scatter",
        }
    }

    /// Looks a kind up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.id() == id)
    }

    /// Depth it is usually laid to; a draw and a scatter are laid by weight (TRADE 4.10: 3–5 mm).
    pub fn usual_depth_mm(self) -> Option<f64> {
        matches!(self, Self::Crust | Self::Bed).then_some(4.0)
    }
}

/// Salt on the skin, and what of it stays.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Cover {
    /// Whether it draws, makes a crust or is a bed.
    pub kind: CoverKind,
    /// The skin it lies on.
    pub area: Area,
    /// How deep; `None` for a draw and a scatter.
    pub depth: Option<Length>,
    /// What to weigh out for it.
    pub laid: Mass,
    /// Salt that stays behind in skin and meat, an estimate.
    pub left: Mass,
    /// Whether the cook said what stays.
    pub left_said: bool,
}

/// Weight of a draw, g/dm² (TRADE 4.10: 3–4).
const DRAW: f64 = 3.5;
/// Weight of a scatter, and what of it stays behind, g/dm² (our estimate).
const SCATTER: f64 = 1.5;
const SCATTER_LEFT: f64 = 0.3;

/// Covers `area` of skin with this salt. `depth` rules crust and bed (usual 4 mm); `left` is what the cook found to
/// stay behind, else the estimate of TRADE 4.10: a draw 30 %, at most 1 g/dm²; a crust 1; a bed 3 (2–4).
///
/// laid = area × depth × bulk density, bulk density = g/tsp ÷ 4.92892 mL; never more stays than was laid.
pub fn cover(kind: CoverKind, area: Area, depth: Option<Length>, salt: &Salt, left: Option<GramsPerDm2>) -> Cover {
    let dm2 = area.in_dm2();
    let depth = kind.usual_depth_mm().map(|usual| depth.unwrap_or_else(|| crate::units::millimetres(usual)));
    // 1 dm² × 1 mm is 10 mL.
    let by_weight = if kind == CoverKind::Scatter { SCATTER } else { DRAW };
    let per_dm2 = depth.map_or(by_weight, |depth| depth.in_mm() * 10.0 * salt.g_per_tsp / US_TEASPOON_ML);
    let stays = left.map_or_else(
        || match kind {
            CoverKind::Draw => (0.3 * per_dm2).min(1.0),
            CoverKind::Crust => 1.0,
            CoverKind::Bed => 3.0,
            CoverKind::Scatter => SCATTER_LEFT,
        },
        |said| said.0,
    );
    let stays = stays.clamp(0.0, per_dm2) * salt.sodium_chloride();
    Cover { kind, area, depth, laid: grams(per_dm2 * dm2), left: grams(stays * dm2), left_said: left.is_some() }
}

impl Cover {
    /// What is laid, g/dm².
    pub fn per_dm2(&self) -> GramsPerDm2 {
        GramsPerDm2(self.laid.in_g() / self.area.in_dm2().max(1e-9))
    }
}

/// Salt laid on the skin.
#[derive(Debug, Clone, PartialEq)]
pub struct CoverPlan {
    /// How much, how deep, what stays.
    pub cover: Cover,
    /// The face it lies on.
    pub on: &'static str,
    /// What is laid, in spoons.
    pub spoons: Spoons,
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{millimetres, square_decimetres};

    fn coarse() -> Salt {
        Salt::find("coarse-sea").unwrap()
    }

    #[test]
    fn three_to_five_millimetres_of_coarse_salt_are_the_trades_thirty_to_fifty_grams() {
        // TRADE 4.10: 3–5 mm about 30–50 g/dm² of coarse salt. By hand: 5.0 ÷ 4.92892 = 1.0144 g/mL, 3 mm = 30 mL = 30.4 g.
        let at = |mm| cover(CoverKind::Crust, square_decimetres(6.0), Some(millimetres(mm)), &coarse(), None);
        assert!((at(3.0).per_dm2().0 - 30.43).abs() < 0.01 && (at(5.0).per_dm2().0 - 50.72).abs() < 0.01);
        assert!((at(3.0).laid.in_g() - 6.0 * 30.43).abs() < 0.05);
    }

    #[test]
    fn what_stays_behind_is_the_estimate() {
        let left = |kind| cover(kind, square_decimetres(6.0), None, &coarse(), None).left.in_g();
        // 6 dm²: a draw of 3.5 g/dm² leaves 30 % = 1.05, capped at 1; a crust 1; a bed 3.
        assert!((left(CoverKind::Draw) - 6.0).abs() < 1e-9);
        assert!((left(CoverKind::Crust) - 6.0).abs() < 1e-9);
        assert!((left(CoverKind::Bed) - 18.0).abs() < 1e-9);
        let said = cover(CoverKind::Crust, square_decimetres(6.0), None, &coarse(), Some(GramsPerDm2(1.5)));
        assert!((said.left.in_g() - 9.0).abs() < 1e-9 && said.left_said);
    }

    proptest::proptest! {
        #[test]
        fn never_more_stays_than_was_laid(dm2 in 0.1..40.0f64, mm in 0.0..20.0f64, left in 0.0..1000.0f64) {
            for kind in CoverKind::ALL {
                let laid = cover(kind, square_decimetres(dm2), Some(millimetres(mm)), &coarse(), Some(GramsPerDm2(left)));
                proptest::prop_assert!(laid.left <= laid.laid && laid.left.in_g() >= 0.0);
            }
        }
    }
}
