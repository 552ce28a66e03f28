//! Kitchen quantities: typed inside, read as cooks write them, shown in both systems.

mod both;
mod quantity;
mod typed;

pub use both::{Both, both_length, both_mass, both_temperature, fahrenheit_difference};
pub use quantity::*;
pub(crate) use typed::in_figures;
pub use typed::{
    Expect, InputError, Kind, System, TwoWays, TypedPortion, gas_mark, leading_amount, parse_face, parse_length, parse_mass,
    parse_portions, parse_temperature, read_face, read_length, read_mass, read_portions, read_temperature,
};
