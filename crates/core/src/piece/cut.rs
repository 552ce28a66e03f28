//! A cut: what a row of the table says, and how it is looked up.

use super::table::TABLE;
use crate::units::{Expect, Length, Mass, MassIn, millimetres};

/// Which animal; rules the authority's finish temperature.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Species {
    /// Beef, whole cuts.
    Beef,
    /// Pork, whole cuts.
    Pork,
    /// Lamb, whole cuts.
    Lamb,
    /// Any bird.
    Poultry,
}

/// How the piece is drawn and which faces it has.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Family {
    /// A slab with skin on one side: belly, duck breast.
    SkinSlab,
    /// A slab with a fat cap on one side: rump cap, short rib.
    CapSlab,
    /// A slab of lean with two cut faces and an edge: steak, chop.
    Steak,
    /// A tied roast: a cylinder with a fat cap along it and two cut ends.
    Roast,
    /// A rack: a cylinder on its bones.
    Rack,
    /// A joint: shoulder or leg, rounded, skin or fat over a part of it.
    Joint,
    /// A whole bird: skin outside, cavity inside.
    Bird,
    /// A bird without its legs: breast on its bones.
    Crown,
    /// A flattened bird: skin above, bones below.
    FlatBird,
}

/// The shape the heat meets.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum FireShape {
    /// Heated from both faces; half the thickness counts.
    Slab,
    /// Heated all round; half the thickness is its radius.
    Cylinder,
    /// A loin on its ribs: they stand out on one side of the eye, which is what is heated through.
    RoundOnRibs,
    /// Heated from everywhere: an ellipsoid of its measures whose volume is its weight's.
    Ellipsoid,
    /// A hollow bird as a sphere of less than half its diameter, since it heats from the cavity too.
    HollowBird {
        /// Conduction radius at the reference weight, mm.
        radius_mm: f64,
        /// The weight that radius belongs to, g.
        at_g: f64,
    },
}

/// How long raw meat keeps in the refrigerator, days from purchase: amber from the first,
/// red past the second. Source: USDA FSIS / FoodKeeper (published).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Storage {
    /// Days until the amber warning.
    pub amber_days: i64,
    /// Days after which the authority says no.
    pub red_days: i64,
}

impl CutFacts {
    /// What one of these may weigh, g. A bird is whole; of other cuts a piece may be bought. Our estimate.
    pub fn one_weighs(&self) -> Expect {
        let light = if matches!(self.family, Family::Bird | Family::Crown | Family::FlatBird) { 0.5 } else { 0.25 };
        Expect::between(self.typical_g.0 * light, self.typical_g.1 * 2.0)
    }

    /// How thick one may be as a cook measures it, mm; used only to read bare numbers. Our estimate.
    pub fn one_is_thick(&self) -> Expect {
        Expect::between(self.thickness_mm.0 * 0.6, self.thickness_mm.2 * 1.5)
    }
}

/// One row of the table of cuts.
#[derive(Debug, PartialEq)]
pub struct CutFacts {
    /// Stable kebab-case name, species first.
    pub id: &'static str,
    /// What a cook calls it.
    pub name: &'static str,
    /// The animal it is of, which its storage and finish follow.
    pub species: Species,
    /// How it is drawn.
    pub family: Family,
    /// Typical weight, g: lightest and heaviest.
    pub typical_g: (f64, f64),
    /// Salt thickness, mm: thinnest, usual, thickest.
    pub thickness_mm: (f64, f64, f64),
    /// Usual skin, mm; 0 for none.
    pub skin_mm: f64,
    /// Usual fat under the skin, cap or edge, mm; 0 for none.
    pub fat_mm: f64,
    /// Usual share of bone in the weight.
    pub bone_fraction: f64,
    /// Length ÷ width of the face, where the piece is a slab or a joint.
    pub aspect: f64,
    /// Usual dose, g/kg of edible weight.
    pub dose_g_per_kg: f64,
    /// The shape the heat meets.
    pub fire: FireShape,
    /// Air of the stage that waits for the core, °C.
    pub low_c: f64,
    /// Where the core ends after the rest, °C (TRADE 9.6).
    pub finish_c: f64,
    /// Minutes of rest (TRADE 9.7).
    pub rest_min: f64,
    /// How long it keeps raw.
    pub storage: Storage,
    /// Natural sodium of the meat, mg per 100 g (from memory).
    pub sodium_mg_per_100g: f64,
    /// Grams one guest eats, raw weight (our estimate).
    pub serving_g: f64,
    /// The cut it is once it is cut into strips, by its name; its own where it is that already, `None` where nobody cuts it so.
    pub strips: Option<&'static str>,
    /// Where the row comes from.
    pub source: &'static str,
}

/// A cut of the table, cheap to copy.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Cut(&'static CutFacts);

impl Cut {
    /// The cut it is once it is cut into strips; itself where it is that already.
    pub fn in_strips(self) -> Option<Self> {
        self.0.strips.and_then(Self::find)
    }

    /// Whether it is bought in strips.
    pub fn is_in_strips(self) -> bool {
        self.0.strips == Some(self.0.id)
    }

    /// Looks a cut up by its stable name.
    ///
    /// ```
    /// use rauchkeller_core::piece::Cut;
    /// assert_eq!(Cut::find("pork-belly").unwrap().name, "Pork belly");
    /// assert!(Cut::find("dragon-tail").is_none());
    /// ```
    pub fn find(id: &str) -> Option<Self> {
        Self::all().find(|cut| cut.0.id == id)
    }

    /// Every cut of the table.
    pub fn all() -> impl Iterator<Item = Self> {
        TABLE.into_iter().flatten().map(Self)
    }

    /// Whether skin lies over enough fat for a knife to stop in; chicken and turkey have no such window.
    pub fn has_fat_window(self) -> bool {
        self.0.skin_mm > 0.0 && self.0.fat_mm >= 3.0
    }

    /// How thick one of this weight usually is (our estimate): a boned round or sirloin, a leg, a shoulder grows alike on every side, by
    /// the cube root of its weight. Of what is cut off a length, a rib, a loin, a belly, the length follows the weight; but nobody ties
    /// a disc: a rib or a loin lighter than is usual is a thinner one, of the same proportions.
    /// To a whole millimetre, as nobody guesses better. Any weight; 0 has the usual thickness.
    pub fn usual_thickness(self, weight: Mass) -> Length {
        let usual = self.0.thickness_mm.1;
        let alike = self.0.family == Family::Joint || matches!(self.0.id, "beef-round-roast" | "beef-sirloin-roast");
        let tied = matches!(self.0.family, Family::Roast | Family::Rack);
        let times = weight.in_g() / f64::midpoint(self.0.typical_g.0, self.0.typical_g.1);
        let follows = times > 0.0 && (alike || tied && times < 1.0);
        millimetres(if follows { (usual * times.cbrt()).round().max(1.0) } else { usual })
    }

    /// Whether it is a bird with legs: then the thigh has to be done, too.
    pub fn has_legs(self) -> bool {
        matches!(self.0.family, Family::Bird | Family::FlatBird)
    }

    /// Whether people eat it pink: beef, lamb, and of poultry the breast of a duck (common practice). Below the authority's least it
    /// is a taste, as long as it is intact.
    pub fn is_eaten_pink(self) -> bool {
        matches!(self.0.species, Species::Beef | Species::Lamb) || self.0.id == "duck-breast"
    }

    /// Whether it is a bird with a breast whose skin can be loosened.
    pub fn is_bird(self) -> bool {
        matches!(self.0.family, Family::Bird | Family::Crown | Family::FlatBird)
    }
}

impl std::ops::Deref for Cut {
    type Target = CutFacts;
    fn deref(&self) -> &CutFacts {
        self.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::HashSet;

    #[test]
    fn every_row_is_whole_and_its_name_is_its_own() {
        let mut names = HashSet::new();
        for cut in Cut::all() {
            assert!(names.insert(cut.id) && names.insert(cut.name), "{} stands twice", cut.id);
            let species = match cut.species {
                Species::Beef => vec!["beef"],
                Species::Pork => vec!["pork"],
                Species::Lamb => vec!["lamb"],
                Species::Poultry => vec!["duck", "goose", "chicken", "turkey"],
            };
            assert!(species.iter().any(|s| cut.id.starts_with(s)), "{}: species first", cut.id);
            let (thin, usual, thick) = cut.thickness_mm;
            assert!(thin <= usual && usual <= thick && cut.typical_g.0 < cut.typical_g.1, "{}", cut.id);
            assert!(cut.skin_mm + cut.fat_mm < thin - 5.0, "{}: no lean left", cut.id);
            assert!(!cut.source.is_empty());
        }
        assert_eq!(names.len(), 2 * 32);
    }

    // USDA FSIS / FoodKeeper: poultry 1–2 days, beef, pork and lamb 3–5.
    #[test]
    fn storage_follows_the_species() {
        for cut in Cut::all() {
            let want = if cut.species == Species::Poultry { (1, 2) } else { (3, 5) };
            assert_eq!((cut.storage.amber_days, cut.storage.red_days), want, "{}", cut.id);
        }
    }

    // TRADE 5.1: chicken and turkey have no fat window.
    #[test]
    fn only_skin_over_fat_has_a_window() {
        for cut in Cut::all() {
            let window = [
                "pork-belly",
                "pork-belly-rib",
                "pork-loin-rack-skin",
                "pork-picnic",
                "pork-leg",
                "duck-whole",
                "duck-breast",
                "goose-whole",
            ];
            assert_eq!(cut.has_fat_window(), window.contains(&cut.id), "{}", cut.id);
        }
    }

    // TRADE 3.1: bone and dose of some rows; section 9: where they finish.
    #[test]
    fn rows_say_what_the_trade_says() {
        for (id, bone, dose, finish) in [
            ("pork-belly", 0.0, 7.5, (68.0, 75.0)),
            ("beef-rib-roast-bone-in", 0.17, 10.0, (54.0, 57.0)),
            ("pork-loin-rack", 0.22, 10.0, (63.0, 63.0)),
            ("pork-butt", 0.10, 10.0, (90.0, 95.0)),
            ("lamb-leg", 0.20, 10.0, (57.0, 62.0)),
            ("duck-breast", 0.0, 10.0, (57.0, 60.0)),
            ("goose-whole", 0.33, 10.0, (74.0, 74.0)),
            ("turkey-whole", 0.28, 8.0, (74.0, 74.0)),
        ] {
            let cut = Cut::find(id).unwrap();
            assert_eq!((cut.bone_fraction, cut.dose_g_per_kg), (bone, dose), "{id}");
            assert!((finish.0..=finish.1).contains(&cut.finish_c), "{id} finishes at {}", cut.finish_c);
        }
    }

    // Cube root of the weight, by hand: 125 mm at 3.25 kg, (2.6/3.25)^⅓ = 0.928; what is cut off a length keeps its thickness above
    // the middle of its usual weights, and so does a belly.
    #[test]
    fn a_lighter_joint_is_thinner_and_a_longer_roast_is_not_thicker() {
        let thick =
            |id: &str, g: f64| crate::units::LengthIn::in_mm(Cut::find(id).unwrap().usual_thickness(crate::units::grams(g))).round();
        assert_eq!([thick("pork-butt", 3250.0), thick("pork-butt", 2600.0), thick("pork-butt", 0.0)], [125.0, 116.0, 125.0]);
        assert_eq!([thick("beef-rib-roast", 3500.0), thick("beef-rib-roast", 5000.0)], [118.0, 118.0]);
        assert!(thick("beef-rib-roast", 1800.0) < 100.0 && thick("pork-belly", 800.0) == thick("pork-belly", 4000.0));
    }
}
