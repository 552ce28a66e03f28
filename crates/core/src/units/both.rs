//! The same quantity in both systems: the cook's own large, the other small.

use super::quantity::{Length, LengthIn, Mass, MassIn, Temperature, TemperatureIn};

/// A quantity written metric and customary.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Both {
    /// Grams, millimetres, °C.
    pub metric: String,
    /// Pounds and ounces, inches, °F.
    pub customary: String,
}

/// A weight: kilograms from 1 kg on, pounds and whole ounces beside it.
pub fn both_mass(mass: Mass) -> Both {
    let g = mass.in_g();
    let metric = if g >= 1000.0 { format!("{} kg", trim(g / 1000.0, 2)) } else { format!("{} g", trim(g, 0)) };
    let ounces = (g / 28.349523125).round();
    let (lb, oz) = ((ounces / 16.0).floor(), ounces % 16.0);
    let customary = match (lb, oz) {
        (0.0, _) => format!("{} oz", trim(g / 28.349523125, 1)),
        (_, 0.0) => format!("{lb} lb"),
        _ => format!("{lb} lb {oz} oz"),
    };
    Both { metric, customary }
}

/// A length: millimetres, and inches to the nearest eighth (thin layers to a hundredth).
pub fn both_length(length: Length) -> Both {
    let mm = length.in_mm();
    let inches = mm / 25.4;
    let customary = if inches < 0.5 {
        format!("{} in", trim(inches, 2))
    } else {
        let eighths = (inches * 8.0).round();
        let whole = (eighths / 8.0).floor();
        let part = ["", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"][(eighths % 8.0) as usize];
        if whole == 0.0 { format!("{part} in") } else { format!("{whole}{part} in") }
    };
    Both { metric: format!("{} mm", trim(mm, 1)), customary }
}

/// A temperature in whole degrees of both scales.
pub fn both_temperature(temperature: Temperature) -> Both {
    Both { metric: format!("{} °C", trim(temperature.in_c(), 0)), customary: format!("{} °F", trim(temperature.in_f(), 0)) }
}

/// A number with at most `places` decimals and no trailing zeros.
fn trim(value: f64, places: usize) -> String {
    let text = format!("{value:.places$}");
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_owned() } else { text }
}

/// A difference of temperatures in degrees Fahrenheit, from kelvin; by definition 1.8 to one.
///
/// ```
/// use rauchkeller_core::units::fahrenheit_difference;
/// assert!((fahrenheit_difference(5.0) - 9.0).abs() < 1e-9);
/// ```
pub fn fahrenheit_difference(kelvin: f64) -> f64 {
    kelvin * 1.8
}

#[cfg(test)]
mod tests {
    use super::super::{celsius, grams, millimetres};
    use super::*;

    #[test]
    fn both_systems_stand_beside_each_other() {
        // 2400 g ÷ 28.3495 = 84.66 oz → 85 oz = 5 lb 5 oz; 45 mm ÷ 25.4 = 1.772 → 1¾ in.
        assert_eq!(both_mass(grams(2400.0)), Both { metric: "2.4 kg".into(), customary: "5 lb 5 oz".into() });
        assert_eq!(both_mass(grams(420.0)).customary, "14.8 oz");
        assert_eq!(both_length(millimetres(45.0)), Both { metric: "45 mm".into(), customary: "1¾ in".into() });
        assert_eq!(both_length(millimetres(2.5)).customary, "0.1 in");
        assert_eq!(both_temperature(celsius(175.0)).customary, "347 °F");
    }
}
