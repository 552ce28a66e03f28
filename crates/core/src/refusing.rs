//! What cannot be, said in three parts: what was typed, what is allowed, what to do.

use std::fmt;

/// A refusal by its parts, so that none of them has to be found in a sentence again.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Refused {
    /// What was typed, in words: `strokes 0.2 mm apart`.
    pub typed: String,
    /// What is allowed: `between 1 and 100 mm`.
    pub allowed: String,
    /// What to do, a sentence with its full stop.
    pub remedy: &'static str,
}

impl Refused {
    pub(crate) fn new(typed: impl Into<String>, allowed: impl Into<String>, remedy: &'static str) -> Self {
        Self { typed: typed.into(), allowed: allowed.into(), remedy }
    }
}

impl fmt::Display for Refused {
    fn fmt(&self, to: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(to, "{}; allowed: {}. {}", self.typed, self.allowed, self.remedy.trim_end_matches('.'))
    }
}

/// Errors that say themselves by their parts.
macro_rules! says_its_parts {
    ($($error:ty),*) => {$(
        impl std::fmt::Display for $error {
            fn fmt(&self, to: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                std::fmt::Display::fmt(&self.refused(), to)
            }
        }

        impl std::error::Error for $error {}
    )*};
}
pub(crate) use says_its_parts;
