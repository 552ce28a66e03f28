//! What is wrong with a word, and what may have been meant.

use rauchkeller_core::clock::WallError;
use rauchkeller_core::salt::{DoseError, LedgerLineError, PackLabelError};
use rauchkeller_core::units::InputError;
use std::collections::BTreeMap;

/// One sentence beside a word, and the readings it offers.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Slip {
    /// The sentence.
    pub says: String,
    /// What may have been meant: each can be put in the word's place.
    pub choices: Vec<String>,
}

impl From<String> for Slip {
    fn from(says: String) -> Self {
        Self { says, choices: vec![] }
    }
}

impl From<&str> for Slip {
    fn from(says: &str) -> Self {
        says.to_owned().into()
    }
}

impl std::fmt::Display for Slip {
    fn fmt(&self, to: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        to.write_str(&self.says)
    }
}

macro_rules! of_error {
    ($($error:ty),*) => {$(
        impl From<$error> for Slip {
            fn from(error: $error) -> Self {
                let says = error.to_string();
                Self { says: if says.ends_with(['?', '.']) { says } else { format!("{says}.") }, choices: error.choices() }
            }
        }
    )*};
}
of_error!(InputError, WallError, DoseError, LedgerLineError, PackLabelError);

/// One slip a word.
pub type Slips = BTreeMap<&'static str, Slip>;
