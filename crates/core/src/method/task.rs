//! What a task says of salt, place and hands.

/// What a task does to salt.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SaltEffect {
    /// The weighed grams go on.
    On,
    /// Dry salt that still lies on comes off.
    Off,
}

/// Where the piece is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Place {
    /// On the board, out of the cold.
    Bench,
    /// In the refrigerator.
    Refrigerator,
    /// Under cold water, thawing.
    Water,
    /// In the oven or on the grill.
    Fire,
    /// Held warm.
    HotHold,
    /// Chilling, carving, eating.
    Table,
}

impl Place {
    /// All of them, as they are offered.
    pub const ALL: [Self; 6] = [Self::Bench, Self::Refrigerator, Self::Water, Self::Fire, Self::HotHold, Self::Table];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Bench => "bench",
            Self::Refrigerator => "refrigerator",
            Self::Water => "water",
            Self::Fire => "fire",
            Self::HotHold => "hot-hold",
            Self::Table => "table",
        }
    }

    /// Looks one up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|place| place.id() == id)
    }
}

/// Whether hands have touched raw meat.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Hands {
    /// May type, open doors, reach into the tub.
    Clean,
    /// May touch nothing clean.
    Raw,
}
