//! A whole piece drying: every side a store of its own, open or not as the piece lies.

use super::{Air, DryingMaterial, WaterStore};
use crate::numeric::interpolate;
use crate::piece::FaceKind;
use crate::units::{Area, AreaIn, Dryness, GramsPerDm2, HeatTransfer, Length, Mass, Time, TimeIn, grams, hours};

/// How the piece lies in the refrigerator.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum FridgePlacement {
    /// Open on a rack, air all round.
    #[default]
    Open,
    /// Hung up.
    Hung,
    /// Covered or wrapped.
    Covered,
    /// In a closed box.
    Boxed,
    /// Skin down on salt, a weight on top.
    Weighted,
}

impl FridgePlacement {
    /// All placements, as they are offered.
    pub const ALL: [Self; 5] = [Self::Open, Self::Hung, Self::Covered, Self::Boxed, Self::Weighted];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Open => "open",
            Self::Hung => "hung",
            Self::Covered => "covered",
            Self::Boxed => "boxed",
            Self::Weighted => "weighted",
        }
    }

    /// What a cook calls it.
    pub fn words(self) -> &'static str {
        match self {
            Self::Open => "open on a rack",
            Self::Hung => "hung up",
            Self::Covered => "covered",
            Self::Boxed => "in a closed box",
            Self::Weighted => "skin down on salt, under a weight",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|lies| lies.id() == id)
    }

    /// How much of a side stands open to the air, 0–1 (our estimate): a cavity breathes a little when hung; under a weight
    /// only the cut sides do.
    pub fn open(self, side: FaceKind) -> f64 {
        match (self, side) {
            (Self::Open | Self::Hung, FaceKind::Skin | FaceKind::Fat | FaceKind::Meat | FaceKind::Cut)
            | (Self::Weighted, FaceKind::Cut) => 1.0,
            (Self::Hung, FaceKind::Cavity) => 0.3,
            _ => 0.0,
        }
    }
}

/// One side with its store.
#[derive(Debug, Clone, PartialEq)]
pub struct Side {
    /// Skin, fat, meat, a cut side or a cavity: what its store is made of.
    pub kind: FaceKind,
    /// Its area; all of it dries alike.
    pub area: Area,
    /// Thickness of its layer: skin, fat cap, or all of the lean.
    pub layer: Length,
    /// Salt in or on its store over the hours, g/dm²; straight lines between, none where empty.
    pub salt: Vec<(f64, f64)>,
    /// Whether it lies on dry salt, which takes its water instead of the air.
    pub on_salt: bool,
}

impl Side {
    /// What a side's store is made of.
    pub fn stuff_of(kind: FaceKind) -> DryingMaterial {
        match kind {
            FaceKind::Skin => DryingMaterial::SKIN,
            FaceKind::Fat => DryingMaterial::FAT,
            FaceKind::Meat | FaceKind::Cut | FaceKind::Cavity => DryingMaterial::LEAN,
        }
    }

    /// A fresh store of it.
    fn fresh(&self) -> WaterStore {
        WaterStore::fresh(Self::stuff_of(self.kind), self.layer)
    }

    /// Lets a store of it stand from one hour to another in one air.
    fn stand(&self, store: &mut WaterStore, from: f64, to: f64, air: Air, open: f64) {
        if self.on_salt {
            return store.lie_on_salt(hours(to - from));
        }
        let mut now = from;
        while to - now > 1e-9 {
            let until = if self.salt.is_empty() { to } else { to.min(now + SALT_EACH_H) };
            if !self.salt.is_empty() {
                store.salted(GramsPerDm2(interpolate(&self.salt, f64::midpoint(now, until))));
            }
            store.stand(hours(until - now), air, open);
            now = until;
        }
    }
}

/// A piece at one moment of drying.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DryState {
    /// Grams of water lost over all open sides.
    pub lost: Mass,
    /// How dry its skin is; `None` without one.
    pub skin: Option<Dryness>,
}

/// The sides of a piece, and how it lies.
#[derive(Debug, Clone, PartialEq)]
pub struct Drying {
    /// Each side with a store of its own.
    pub sides: Vec<Side>,
    /// How it lies in the refrigerator, which says which sides stand open.
    pub lies: FridgePlacement,
}

/// Salt on a side is taken as constant for so long, h.
const SALT_EACH_H: f64 = 1.0;
/// So far ahead is looked, h.
const A_WEEK: f64 = 168.0;

impl Drying {
    /// How it stands after each of these times in the open, sorted upwards, under one air.
    ///
    /// Cost: about 4 µs an hour and unsalted side, ten times that salted.
    pub fn at(&self, air: Air, moments: &[Time]) -> Vec<DryState> {
        self.under(&[(hours(0.0), air)], moments)
    }

    /// The same under air that changes: each pair holds from its moment on.
    pub fn under(&self, airs: &[(Time, Air)], moments: &[Time]) -> Vec<DryState> {
        let mut states = vec![DryState { lost: grams(0.0), skin: None }; moments.len()];
        for side in &self.sides {
            let open = self.lies.open(side.kind);
            let mut store = side.fresh();
            let mut now = 0.0;
            for (state, moment) in states.iter_mut().zip(moments) {
                while moment.in_h() - now > 1e-9 {
                    let Some(air) = airs.iter().rev().find(|(from, _)| from.in_h() <= now + 1e-9).or(airs.first()) else { break };
                    let next = airs.iter().map(|(from, _)| from.in_h()).find(|from| *from > now + 1e-9).unwrap_or(f64::INFINITY);
                    let until = moment.in_h().min(next);
                    side.stand(&mut store, now, until, air.1, open);
                    now = until;
                }
                if !side.on_salt {
                    // What a bed has taken lies in the tray, and is weighed with it.
                    state.lost += grams(store.lost().0 * side.area.in_dm2());
                }
                if side.kind == FaceKind::Skin {
                    // The wettest skin rules.
                    let dry = store.dryness();
                    state.skin = Some(state.skin.filter(|least| *least < dry).unwrap_or(dry));
                }
            }
        }
        states
    }

    /// When the skin reaches each dryness, within a week; `None` where it does not, or there is no skin. To some minutes.
    pub fn dry_at(&self, air: Air, wanted: &[Dryness]) -> Vec<Option<Time>> {
        const EACH: f64 = 0.5;
        let mut found: Vec<Option<Time>> = vec![None; wanted.len()];
        let mut skins: Vec<(&Side, WaterStore)> = self.sides.iter().filter(|s| s.kind == FaceKind::Skin).map(|s| (s, s.fresh())).collect();
        let (mut now, mut before) = (0.0, 0.0);
        while !skins.is_empty() && now < A_WEEK && found.iter().any(Option::is_none) {
            let wettest = skins.iter().map(|(_, store)| store.dryness().0).fold(f64::INFINITY, f64::min);
            for (found, wanted) in found.iter_mut().zip(wanted).filter(|(found, wanted)| found.is_none() && wettest >= wanted.0) {
                // A straight line through half an hour.
                let back = if wettest > before { (wettest - wanted.0) / (wettest - before) } else { 0.0 };
                *found = Some(hours((now - EACH * back.min(1.0)).max(0.0)));
            }
            for (side, store) in &mut skins {
                side.stand(store, now, now + EACH, air, self.lies.open(side.kind));
            }
            (before, now) = (wettest, now + EACH);
        }
        found
    }

    /// The same piece under another coefficient.
    pub fn lost(&self, air: Air, h: HeatTransfer, moments: &[Time]) -> Vec<f64> {
        use crate::units::MassIn;
        self.at(Air { h, ..air }, moments).iter().map(|s| s.lost.in_g()).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::skin::drying::skin_dryness;
    use crate::units::{MassIn, RelativeHumidity, celsius, millimetres, square_decimetres};

    fn air() -> Air {
        Air { temperature: celsius(4.0), humidity: RelativeHumidity(0.5), h: HeatTransfer(5.0) }
    }

    fn slab(lies: FridgePlacement) -> Drying {
        let side = |kind, dm2, mm| Side { kind, area: square_decimetres(dm2), layer: millimetres(mm), salt: vec![], on_salt: false };
        Drying { sides: vec![side(FaceKind::Skin, 6.6, 2.0), side(FaceKind::Meat, 6.6, 34.0), side(FaceKind::Cut, 4.7, 34.0)], lies }
    }

    #[test]
    fn only_open_sides_lose_water() {
        let lost = |lies| slab(lies).at(air(), &[hours(12.0)])[0].lost.in_g();
        // By hand: a wet surface at 50 % and h 5 loses 9.43·5/4 = 11.8 g/dm² a day; 17.9 dm² lose at most 105.6 g in 12 h,
        // a little more at the higher water activity of fresh lean.
        assert!(lost(FridgePlacement::Open) < 106.5 && lost(FridgePlacement::Open) > 80.0, "{}", lost(FridgePlacement::Open));
        assert!((lost(FridgePlacement::Open) - lost(FridgePlacement::Hung)).abs() < 1e-9);
        assert!(lost(FridgePlacement::Covered).abs() < 1e-9 && lost(FridgePlacement::Boxed).abs() < 1e-9);
        let sides = Drying { sides: vec![slab(FridgePlacement::Open).sides[2].clone()], lies: FridgePlacement::Open };
        assert!((lost(FridgePlacement::Weighted) - sides.at(air(), &[hours(12.0)])[0].lost.in_g()).abs() < 1e-9);
    }

    #[test]
    fn covered_skin_does_not_dry_and_open_skin_does_as_one_store() {
        let skin = |lies, h| slab(lies).at(air(), &[hours(h)])[0].skin.unwrap().0;
        assert!(skin(FridgePlacement::Covered, 24.0).abs() < 1e-12);
        let alone = skin_dryness(millimetres(2.0), hours(24.0), air()).0;
        assert!((skin(FridgePlacement::Open, 24.0) - alone).abs() < 1e-6, "{} is not {alone}", skin(FridgePlacement::Open, 24.0));
    }

    #[test]
    fn on_a_bed_skin_dries_and_nothing_leaves_the_tray() {
        let mut bed = slab(FridgePlacement::Weighted);
        let before = bed.at(air(), &[hours(12.0)])[0];
        bed.sides[0].on_salt = true;
        let on_salt = bed.at(air(), &[hours(12.0)])[0];
        assert_eq!(on_salt.lost, before.lost);
        assert!(before.skin.unwrap().0.abs() < 1e-12 && on_salt.skin.unwrap().0 > 0.6, "{on_salt:?}");
    }

    #[test]
    fn dry_enough_comes_after_a_day() {
        // TRADE 6.6: two millimetres are 0.95 dry after 26 h at 50 %, h 5.
        let at = slab(FridgePlacement::Open).dry_at(air(), &[Dryness(0.7), Dryness(0.95)])[1].unwrap().in_h();
        assert!((at - 26.0).abs() < 0.5, "{at}");
        assert_eq!(slab(FridgePlacement::Boxed).dry_at(air(), &[Dryness(0.95)]), [None]);
    }

    #[test]
    fn air_that_changes_counts_from_its_moment() {
        // Closed form: still air for the first half is half the time at once, for a surface that stays wet.
        let wet = Drying { sides: vec![slab(FridgePlacement::Open).sides[1].clone()], lies: FridgePlacement::Open };
        let closed = Air { h: HeatTransfer(1e-9), ..air() };
        let changing = wet.under(&[(hours(0.0), closed), (hours(5.0), air())], &[hours(10.0)])[0].lost.in_g();
        let half = wet.at(air(), &[hours(5.0)])[0].lost.in_g();
        assert!((changing - half).abs() < 1e-3 * half, "{changing} is not {half}");
    }

    #[test]
    fn a_hung_bird_breathes_through_its_cavity_a_little() {
        // By hand: 0.3 of a wet cavity's area loses 0.3 of what the same area of open lean loses, while both are wet.
        let side = |kind| Side { kind, area: square_decimetres(4.0), layer: millimetres(20.0), salt: vec![], on_salt: false };
        let lost = |kind, lies| Drying { sides: vec![side(kind)], lies }.at(air(), &[hours(2.0)])[0].lost.in_g();
        let share = lost(FaceKind::Cavity, FridgePlacement::Hung) / lost(FaceKind::Meat, FridgePlacement::Hung);
        assert!((share - 0.3).abs() < 0.01, "{share}");
        assert!(lost(FaceKind::Cavity, FridgePlacement::Open).abs() < 1e-12, "on a rack its air stands still");
    }

    #[test]
    fn the_wettest_skin_rules_and_a_piece_without_skin_has_no_dryness() {
        let skin = |mm| Side { kind: FaceKind::Skin, area: square_decimetres(3.0), layer: millimetres(mm), salt: vec![], on_salt: false };
        let both = Drying { sides: vec![skin(1.0), skin(3.0)], lies: FridgePlacement::Open }.at(air(), &[hours(12.0)])[0].skin.unwrap();
        let thick = Drying { sides: vec![skin(3.0)], lies: FridgePlacement::Open }.at(air(), &[hours(12.0)])[0].skin.unwrap();
        assert_eq!(both, thick);
        let bare = Drying { sides: vec![Side { kind: FaceKind::Meat, ..skin(30.0) }], lies: FridgePlacement::Open };
        assert!(bare.at(air(), &[hours(12.0)])[0].skin.is_none());
        assert_eq!(bare.dry_at(air(), &[Dryness(0.5)]), [None]);
    }

    #[test]
    fn every_way_to_lie_has_its_name() {
        for lies in FridgePlacement::ALL {
            assert_eq!(FridgePlacement::find(lies.id()), Some(lies));
        }
        assert!(FridgePlacement::find("standing").is_none());
    }

    proptest::proptest! {
        #![proptest_config(proptest::prelude::ProptestConfig::with_cases(48))]

        /// Skin, lean and fat alike, salted or not: longer in the same dry air is never heavier again.
        #[test]
        fn in_dry_air_a_piece_only_gets_lighter(h in 0.5..60.0f64, more in 0.25..20.0f64, rh in 0.2..0.74f64, salt in 0.0..4.0f64) {
            let mut piece = slab(FridgePlacement::Open);
            piece.sides[1].salt = vec![(0.0, salt)];
            let air = Air { humidity: RelativeHumidity(rh), ..air() };
            let lost = piece.at(air, &[hours(h), hours(h + more)]);
            proptest::prop_assert!(lost[1].lost.in_g() >= lost[0].lost.in_g() - 1e-6);
            proptest::prop_assert!(lost[1].skin >= lost[0].skin);
        }
    }
}
