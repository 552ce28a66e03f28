//! What is said of the hours in the cold: whose they are, and what they are to reach.

use crate::units::{Dryness, Evenness, GramsPerKg, Length, LengthIn, millimetres};

/// Which school says how many hours.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum HoursFrom {
    /// The method's own hours, else the house table.
    #[default]
    House,
    /// The model, to the goal.
    Model,
}

impl HoursFrom {
    /// Stable names.
    pub const NAMES: [&str; 2] = ["house", "model"];

    /// By its stable name.
    pub fn find(name: &str) -> Option<Self> {
        [Self::House, Self::Model].into_iter().zip(Self::NAMES).find(|(_, id)| *id == name).map(|(found, _)| found)
    }
}

/// What the hours are to reach.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Goal {
    /// Seasoned so deep.
    Depth(Length),
    /// So even.
    Evenness(Evenness),
    /// The outer mouthful no saltier than this.
    Rim(GramsPerKg),
    /// Skin so dry.
    Dryness(Dryness),
}

impl Goal {
    /// What a thickness is usually rested for (our estimate): thin pieces to half-even, thick ones to the depth a day carries
    /// (TRADE 4.11: about 12 mm).
    pub fn usual(salt_thickness: Length) -> Self {
        if salt_thickness.in_mm() <= 30.0 { Self::Evenness(Evenness(0.5)) } else { Self::Depth(millimetres(12.0)) }
    }

    /// Stable name of its kind.
    pub fn id(self) -> &'static str {
        match self {
            Self::Depth(_) => "depth",
            Self::Evenness(_) => "evenness",
            Self::Rim(_) => "rim",
            Self::Dryness(_) => "dryness",
        }
    }

    /// Its number: mm, a share, g/kg.
    pub fn value(self) -> f64 {
        match self {
            Self::Depth(depth) => depth.in_mm(),
            Self::Evenness(Evenness(x)) | Self::Rim(GramsPerKg(x)) | Self::Dryness(Dryness(x)) => x,
        }
    }

    /// As a cook says it.
    pub fn words(self) -> String {
        match self {
            Self::Depth(depth) => format!("seasoned {:.0} mm deep", depth.in_mm()),
            Self::Evenness(e) => format!("middle at {:.0} % of the average", e.0 * 100.0),
            Self::Rim(rim) => format!("outer 5 mm down to {:.0} g/kg", rim.0),
            Self::Dryness(dry) => format!("skin {:.0} % dry", dry.0 * 100.0),
        }
    }
}
