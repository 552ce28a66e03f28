//! Kitchen quantities: typed inside, read as cooks write them, shown in both systems.
//!
//! ```
//! use rauchkeller_core::units::{Expect, MassIn, both_mass, read_mass};
//! // NIST Handbook 44: 453.592 g to the pound.
//! let roast = read_mass("5 lb 4 oz", &Expect::between(1_000.0, 10_000.0)).unwrap();
//! assert!((roast.in_g() - 2381.4).abs() < 0.1);
//! assert_eq!(both_mass(roast).customary, "5 lb 4 oz");
//! ```

mod both;
mod quantity;
mod typed;

pub use both::{Both, both_length, both_mass, both_temperature, fahrenheit_difference};
pub use quantity::*;
pub(crate) use typed::in_figures;
pub use typed::{
    Expect, InputError, Kind, System, TwoWays, TypedPortion, each_of, gas_mark, grams_a_unit, leading_amount, parse_face, parse_length,
    parse_mass, parse_portions, parse_temperature, read_face, read_length, read_lengths, read_mass, read_portions, read_temperature,
};
