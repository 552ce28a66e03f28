//! Quantities whose units the compiler checks.
//!
//! Masses, lengths, areas, times and temperatures are `uom` types in SI; what `uom`
//! lacks (grams per kilogram, evenness, dryness …) are newtypes below. Plain numbers
//! with the unit in their name appear only at the edges: the wire and the database.

pub use uom::si::f64::{Area, Length, Mass, TemperatureInterval, ThermodynamicTemperature as Temperature, Time};
use uom::si::{area, length, mass, temperature_interval, thermodynamic_temperature as thermo, time};

/// A mass from grams.
pub fn grams(g: f64) -> Mass {
    Mass::new::<mass::gram>(g)
}

/// A length from millimetres.
pub fn millimetres(mm: f64) -> Length {
    Length::new::<length::millimeter>(mm)
}

/// An area from square decimetres (1 dm² = 100 cm²), the handy size for skin.
pub fn square_decimetres(dm2: f64) -> Area {
    Area::new::<area::square_decimeter>(dm2)
}

/// A time from hours.
pub fn hours(h: f64) -> Time {
    Time::new::<time::hour>(h)
}

/// A time from minutes.
pub fn minutes(min: f64) -> Time {
    Time::new::<time::minute>(min)
}

/// A temperature from degrees Celsius.
pub fn celsius(c: f64) -> Temperature {
    Temperature::new::<thermo::degree_celsius>(c)
}

/// A temperature from degrees Fahrenheit.
///
/// ```
/// use rauchkeller_core::units::{fahrenheit, TemperatureIn};
/// // Closed form: (F − 32) · 5/9. 375 °F is 191 °C, not 200.
/// assert!((fahrenheit(375.0).in_c() - 190.555_555).abs() < 1e-5);
/// ```
pub fn fahrenheit(f: f64) -> Temperature {
    Temperature::new::<thermo::degree_fahrenheit>(f)
}

/// A temperature difference from kelvin.
pub fn kelvin(k: f64) -> TemperatureInterval {
    TemperatureInterval::new::<temperature_interval::kelvin>(k)
}

/// Reads a mass in a kitchen unit.
pub trait MassIn {
    /// In grams.
    fn in_g(self) -> f64;
    /// In kilograms.
    fn in_kg(self) -> f64;
    /// Avoirdupois pounds.
    fn in_lb(self) -> f64;
}
impl MassIn for Mass {
    fn in_g(self) -> f64 {
        self.get::<mass::gram>()
    }
    fn in_kg(self) -> f64 {
        self.get::<mass::kilogram>()
    }
    fn in_lb(self) -> f64 {
        self.in_g() / 453.59237
    }
}

/// Reads a length in a kitchen unit.
pub trait LengthIn {
    /// In millimetres.
    fn in_mm(self) -> f64;
    /// In metres.
    fn in_m(self) -> f64;
}
impl LengthIn for Length {
    fn in_mm(self) -> f64 {
        self.get::<length::millimeter>()
    }
    fn in_m(self) -> f64 {
        self.get::<length::meter>()
    }
}

/// Reads an area.
pub trait AreaIn {
    /// Square decimetres.
    fn in_dm2(self) -> f64;
    /// Square centimetres.
    fn in_cm2(self) -> f64;
}
impl AreaIn for Area {
    fn in_dm2(self) -> f64 {
        self.get::<area::square_decimeter>()
    }
    fn in_cm2(self) -> f64 {
        self.get::<area::square_centimeter>()
    }
}

/// Reads a time.
pub trait TimeIn {
    /// In hours.
    fn in_h(self) -> f64;
    /// In minutes.
    fn in_min(self) -> f64;
    /// In seconds.
    fn in_s(self) -> f64;
}
impl TimeIn for Time {
    fn in_h(self) -> f64 {
        self.get::<time::hour>()
    }
    fn in_min(self) -> f64 {
        self.get::<time::minute>()
    }
    fn in_s(self) -> f64 {
        self.get::<time::second>()
    }
}

/// Reads a temperature.
pub trait TemperatureIn {
    /// Degrees Celsius.
    fn in_c(self) -> f64;
    /// Degrees Fahrenheit.
    fn in_f(self) -> f64;
    /// Kelvin.
    fn in_k(self) -> f64;
}
impl TemperatureIn for Temperature {
    fn in_c(self) -> f64 {
        self.get::<thermo::degree_celsius>()
    }
    fn in_f(self) -> f64 {
        self.get::<thermo::degree_fahrenheit>()
    }
    fn in_k(self) -> f64 {
        self.get::<thermo::kelvin>()
    }
}

/// Reads a temperature difference.
pub trait IntervalIn {
    /// Kelvin.
    fn in_kelvin(self) -> f64;
}
impl IntervalIn for TemperatureInterval {
    fn in_kelvin(self) -> f64 {
        self.get::<temperature_interval::kelvin>()
    }
}

macro_rules! plain {
    ($(#[$doc:meta] $name:ident),* $(,)?) => {$(
        #[$doc]
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Default)]
        pub struct $name(pub f64);
        impl From<$name> for f64 {
            fn from(value: $name) -> f64 {
                value.0
            }
        }
    )*};
}
plain! {
    /// Grams of salt per kilogram of tissue (or of dose basis).
    GramsPerKg,
    /// Grams per square decimetre of face.
    GramsPerDm2,
    /// Lowest concentration in the lean ÷ mean of the lean, 0–1; 1 is equilibrium.
    Evenness,
    /// (M₀ − M)/(M₀ − M at water activity 0.5): 0 is fresh skin, 0.95 dry enough to crackle.
    Dryness,
    /// Relative humidity of air, 0–1.
    RelativeHumidity,
    /// A share of a whole, 0–1.
    Share,
    /// Heat transfer coefficient, W/m²K.
    HeatTransfer,
    /// Pressure, Pa.
    Pascal,
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn conversions_match_their_definitions() {
        // NIST Handbook 44, Appendix C: 1 lb = 453.59237 g, 1 in = 25.4 mm exactly.
        assert!((grams(453.59237).in_lb() - 1.0).abs() < 1e-9);
        assert!((fahrenheit(145.0).in_c() - 62.7777).abs() < 1e-3);
        assert!((celsius(4.0).in_k() - 277.15).abs() < 1e-9);
        assert!((square_decimetres(6.6).in_cm2() - 660.0).abs() < 1e-9);
    }
}
