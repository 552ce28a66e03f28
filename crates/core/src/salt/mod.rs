//! Salt: which kind, how many grams, on which face, and how far it has travelled.
//!
//! ```
//! use rauchkeller_core::{salt::{Salt, in_spoons}, units::grams};
//! // By hand: three teaspoons to the tablespoon, of a salt of 6 g a teaspoon 18 g.
//! let fine = Salt::own("our fine salt", 6.0, 1.0, 0.0, None, None).unwrap();
//! assert_eq!(in_spoons(grams(18.0), &fine).to_string(), "1 tbsp");
//! ```

mod bath;
mod by_hand;
mod calibration;
mod cover;
mod curing;
mod dose;
mod hours;
mod ingredients;
mod ledger;
mod ledger_line;
mod mix;
mod named;
mod pack_label;
mod pour;
mod said_mix;
mod salts;
mod spoon_rule;
mod spoons;
mod spread;
mod things;
pub mod travel;

pub use bath::bath_uptake_at_most;
pub use by_hand::{Hand, Weighed, dose_reached, hand, really_on};
pub use calibration::{Calibration, CalibrationError, SpoonSize, calibrate, in_pinches};
pub use cover::{Cover, CoverKind, CoverPlan, cover};
pub use curing::{CuringName, curing_name};
pub use dose::{Basis, Dose, DoseLevel, RIM_AT_MOST, basis_weight, dose_level, on_the_scale, total_salt};
pub use hours::{ChillHours, house_table};
pub use ingredients::{INGREDIENTS, Ingredient};
pub use ledger::{LEDGER_ITEMS, LedgerEntry, LedgerItem, LedgerPlace, SALT_PER_SODIUM, ledger_item, salt_in_solution, sodium_of_salt};
pub use ledger_line::{LedgerLine, LedgerLineError, read_ledger_line, split_ledger_lines};
pub use mix::{Mix, MixError, MixPart, ScaledMix, bath_at_least, carries_at_most, read_mix, scale_bath, scale_mix};
pub use pack_label::{PackLabel, PackLabelError, read_pack_label};
pub use pour::{HOLD_MS, Pour, Sample, is_far_more, is_lifted, is_steady, judge_pour, tolerance};
pub use said_mix::{SaidMix, named_mix, said_mixes, say_mix};
pub use salts::{SALTS, Salt, SaltError};
pub use spoon_rule::{DoseError, SpoonSalt, read_dose, read_salt_amount};
pub use spoons::{Spoons, US_TEASPOON_ML, in_metric_spoons, in_spoons, spoons_of};
pub use spread::{FaceGrams, SaidFaces, SaltOn, open_area, spread};
