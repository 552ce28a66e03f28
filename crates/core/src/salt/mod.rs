//! Salt: which kind, how many grams, on which face, and how far it has travelled.

mod dose;
mod hours;
mod ledger;
mod ledger_line;
mod salts;
mod spoons;
mod spread;
pub mod travel;

pub use dose::{Basis, Dose, DoseLevel, basis_weight, dose_level, total_salt};
pub use hours::{RestHours, house_table};
pub use ledger::{LEDGER_ITEMS, LedgerEntry, LedgerItem, SALT_PER_SODIUM, ledger_item, salt_in_solution, sodium_of_salt};
pub use ledger_line::{LedgerLine, LedgerLineError, read_ledger_line, split_ledger_lines};
pub use salts::{SALTS, Salt, SaltKind};
pub use spoons::{Spoons, US_TEASPOON_ML, in_spoons};
pub use spread::{FaceGrams, SaltOn, spread};
