//! What was typed may be meant in two ways: then both are offered, and nothing is guessed.

/// Which units a household thinks in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum System {
    /// Kilograms, millimetres, °C; dates with the day first.
    Metric,
    /// Pounds, inches, °F; dates with the month first.
    Customary,
}

impl System {
    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Metric => "metric",
            Self::Customary => "us",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        [Self::Metric, Self::Customary].into_iter().find(|system| system.id() == id)
    }
}

/// What a typed quantity is expected to be: a bare number is read so that it makes sense.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Expect {
    /// The household's units; `None` where nobody has said.
    pub system: Option<System>,
    /// The smallest that makes sense here: g, mm or °C.
    pub low: f64,
    /// The largest.
    pub high: f64,
}

impl Expect {
    /// Between two values, in units nobody has said.
    pub fn between(low: f64, high: f64) -> Self {
        Self { system: None, low, high }
    }

    /// By a household that has said its units, or has not.
    #[must_use]
    pub fn by(self, system: Option<System>) -> Self {
        Self { system, ..self }
    }

    pub(crate) fn holds(&self, value: f64) -> bool {
        value >= self.low * (1.0 - 1e-9) && value <= self.high * (1.0 + 1e-9)
    }
}

/// Two readings of one text; each is written so that it can be typed, and is then read in one way only.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TwoWays {
    /// What the cook typed, cut short.
    pub typed: String,
    /// The likelier reading.
    pub first: String,
    /// The other reading.
    pub second: String,
}

impl TwoWays {
    /// Of a text and its two readings.
    pub fn new(typed: &str, first: impl Into<String>, second: impl Into<String>) -> Self {
        Self { typed: typed.trim().chars().take(40).collect(), first: first.into(), second: second.into() }
    }

    /// Both readings, to be offered.
    pub fn choices(&self) -> Vec<String> {
        vec![self.first.clone(), self.second.clone()]
    }
}

impl std::fmt::Display for TwoWays {
    fn fmt(&self, to: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(to, "“{}” can be {} or {}; which is it?", self.typed, self.first, self.second)
    }
}
