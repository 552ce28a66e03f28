//! Kitchen quantities: typed inside, read as cooks write them, shown in both systems.

mod both;
mod parse;
mod quantity;

pub use both::{Both, both_length, both_mass, both_temperature};
pub use parse::{InputError, Kind, gas_mark, leading_amount, parse_face, parse_length, parse_mass, parse_portions, parse_temperature};
pub use quantity::*;
