//! The salts by kind. By weight they salt alike; by the spoon they differ threefold.

/// One row of the table of salts.
#[derive(Debug, PartialEq)]
pub struct Salt {
    /// Stable kebab-case name.
    pub id: &'static str,
    /// What a cook calls it.
    pub name: &'static str,
    /// Grams per level US teaspoon (4.92892 mL).
    pub g_per_tsp: f64,
    /// Share of sodium chloride.
    pub purity: f64,
    /// Where the spoon weight comes from.
    pub source: &'static str,
}

const MEM: &str = "handbook section 4 [mem/est]";

/// Every salt this kitchen knows by kind.
pub const SALTS: &[Salt] = &[
    Salt {
        id: "fine-table",
        name: "fine table salt",
        g_per_tsp: 6.0,
        purity: 1.0,
        source: "USDA FoodData Central, “Salt, table”: 1 tsp 6 g, 1 tbsp 18 g [pub]",
    },
    Salt { id: "fine-sea", name: "fine sea salt", g_per_tsp: 5.6, purity: 1.0, source: MEM },
    Salt { id: "fine-rock", name: "fine rock salt", g_per_tsp: 5.7, purity: 1.0, source: MEM },
    Salt { id: "dense-kosher", name: "dense kosher salt", g_per_tsp: 4.8, purity: 1.0, source: MEM },
    Salt { id: "coarse-sea", name: "coarse sea salt", g_per_tsp: 5.0, purity: 1.0, source: MEM },
    Salt { id: "clay-coarse", name: "clay-mixed coarse salt", g_per_tsp: 5.0, purity: 0.97, source: MEM },
    Salt { id: "light-flake-kosher", name: "light-flake kosher salt", g_per_tsp: 2.8, purity: 1.0, source: MEM },
    Salt { id: "pyramid-flakes", name: "pyramid flakes", g_per_tsp: 2.0, purity: 1.0, source: MEM },
];

/// A salt of the table, cheap to copy.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SaltKind(&'static Salt);

impl SaltKind {
    /// Looks a salt up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        SALTS.iter().find(|row| row.id == id).map(Self)
    }
}

impl std::ops::Deref for SaltKind {
    type Target = Salt;
    fn deref(&self) -> &Salt {
        self.0
    }
}
