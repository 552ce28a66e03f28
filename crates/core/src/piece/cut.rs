//! The cuts as a table of facts. Source of every row: handbook section 3, `[trade]/[est]`
//! unless a field says otherwise; the cook can overrule each of them.

/// Which animal; rules the authority's finish temperature.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Species {
    /// Beef, whole cuts.
    Beef,
    /// Pork, whole cuts.
    Pork,
    /// Any bird.
    Poultry,
}

/// How the piece is drawn and which faces it has.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Family {
    /// A slab with skin on one side: belly.
    SkinSlab,
    /// A slab of lean with two cut faces and an edge: steak.
    Steak,
    /// A whole bird: skin outside, cavity inside.
    Bird,
}

/// The shape the heat meets.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum FireShape {
    /// Heated from both faces; half the thickness counts.
    Slab,
    /// A hollow bird as a sphere of this share of the diameter of its own bulk.
    HollowBird {
        /// Conduction radius at the reference weight, mm.
        radius_mm: f64,
        /// The weight that radius belongs to, g.
        at_g: f64,
    },
}

/// How long raw meat keeps in the refrigerator, days from purchase: amber from the first,
/// red past the second. Source: USDA FSIS / FoodKeeper [pub].
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Storage {
    /// Days until the amber warning.
    pub amber_days: i64,
    /// Days after which the authority says no.
    pub red_days: i64,
}

/// One row of the table of cuts.
#[derive(Debug, PartialEq)]
pub struct CutFacts {
    /// Stable kebab-case name, species first.
    pub id: &'static str,
    /// What a cook calls it.
    pub name: &'static str,
    /// Which animal.
    pub species: Species,
    /// How it is drawn.
    pub family: Family,
    /// Typical weight, g: lightest and heaviest.
    pub typical_g: (f64, f64),
    /// Salt thickness, mm: thinnest, usual, thickest.
    pub thickness_mm: (f64, f64, f64),
    /// Usual skin, mm; 0 for none.
    pub skin_mm: f64,
    /// Usual fat under the skin or cap over the lean, mm; 0 for none.
    pub fat_mm: f64,
    /// Usual share of bone in the weight.
    pub bone_fraction: f64,
    /// Length ÷ width of the face, where the piece is a slab.
    pub aspect: f64,
    /// Usual dose, g/kg of edible weight.
    pub dose_g_per_kg: f64,
    /// The method proposed first.
    pub method: &'static str,
    /// The shape the heat meets.
    pub fire: FireShape,
    /// How long it keeps raw.
    pub storage: Storage,
    /// Grams one guest eats, raw weight [est].
    pub serving_g: f64,
    /// Where the row comes from.
    pub source: &'static str,
}

const POULTRY_STORAGE: Storage = Storage { amber_days: 1, red_days: 2 };
const RED_MEAT_STORAGE: Storage = Storage { amber_days: 3, red_days: 5 };
const TABLE: &str = "handbook section 3 [trade]/[est]; storage USDA FSIS FoodKeeper [pub]";

/// Every cut this kitchen knows.
pub const CUTS: &[CutFacts] = &[
    CutFacts {
        id: "pork-belly",
        name: "Pork belly",
        species: Species::Pork,
        family: Family::SkinSlab,
        typical_g: (800.0, 4000.0),
        thickness_mm: (35.0, 45.0, 60.0),
        skin_mm: 2.5,
        fat_mm: 8.0,
        bone_fraction: 0.0,
        aspect: 1.4,
        dose_g_per_kg: 7.5,
        method: "open-air",
        fire: FireShape::Slab,
        storage: RED_MEAT_STORAGE,
        serving_g: 300.0,
        source: TABLE,
    },
    CutFacts {
        id: "beef-rib-steak",
        name: "Beef rib steak",
        species: Species::Beef,
        family: Family::Steak,
        typical_g: (300.0, 900.0),
        thickness_mm: (25.0, 38.0, 50.0),
        skin_mm: 0.0,
        fat_mm: 6.0,
        bone_fraction: 0.0,
        aspect: 1.5,
        dose_g_per_kg: 10.0,
        method: "dry-brine",
        fire: FireShape::Slab,
        storage: RED_MEAT_STORAGE,
        serving_g: 300.0,
        source: TABLE,
    },
    CutFacts {
        id: "duck-whole",
        name: "Whole duck",
        species: Species::Poultry,
        family: Family::Bird,
        typical_g: (1800.0, 3000.0),
        thickness_mm: (30.0, 35.0, 40.0),
        skin_mm: 2.0,
        fat_mm: 4.5,
        bone_fraction: 0.30,
        aspect: 1.0,
        dose_g_per_kg: 10.0,
        method: "open-air",
        fire: FireShape::HollowBird { radius_mm: 40.0, at_g: 2800.0 },
        storage: POULTRY_STORAGE,
        serving_g: 600.0,
        source: TABLE,
    },
    CutFacts {
        id: "turkey-whole",
        name: "Whole turkey",
        species: Species::Poultry,
        family: Family::Bird,
        typical_g: (4000.0, 10000.0),
        thickness_mm: (40.0, 50.0, 60.0),
        skin_mm: 1.5,
        fat_mm: 1.0,
        bone_fraction: 0.28,
        aspect: 1.0,
        dose_g_per_kg: 8.0,
        method: "dry-brine",
        fire: FireShape::HollowBird { radius_mm: 76.0, at_g: 5200.0 },
        storage: POULTRY_STORAGE,
        serving_g: 550.0,
        source: TABLE,
    },
];

/// A cut of the table, cheap to copy.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Cut(&'static CutFacts);

impl Cut {
    /// Looks a cut up by its stable name.
    ///
    /// ```
    /// use rauchkeller_core::piece::Cut;
    /// assert_eq!(Cut::find("pork-belly").unwrap().name, "Pork belly");
    /// assert!(Cut::find("dragon-tail").is_none());
    /// ```
    pub fn find(id: &str) -> Option<Self> {
        CUTS.iter().find(|row| row.id == id).map(Self)
    }

    /// Whether scoring has a fat window at all; chicken and turkey have none.
    pub fn has_fat_window(self) -> bool {
        self.0.skin_mm > 0.0 && self.0.fat_mm >= 3.0
    }
}

impl std::ops::Deref for Cut {
    type Target = CutFacts;
    fn deref(&self) -> &CutFacts {
        self.0
    }
}
