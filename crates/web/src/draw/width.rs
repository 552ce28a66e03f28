//! The two drawings of every picture: one for a laptop, one for a phone.

/// For which screen.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Width {
    /// A laptop: labels stand to the right.
    Wide,
    /// A phone: labels stand in the text below.
    Narrow,
}

impl Width {
    /// Prefix of pattern ids: a drawing hidden on this screen lends no patterns to the other.
    pub fn texture(self) -> &'static str {
        match self {
            Self::Wide => "tw-",
            Self::Narrow => "tn-",
        }
    }
}
