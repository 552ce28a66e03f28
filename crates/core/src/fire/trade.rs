//! Time rules of the trade, each with the size it was made for.

use crate::numeric::interpolate;
use crate::piece::Cut;
use crate::units::{Length, LengthIn, Mass, MassIn, Time, TimeIn, minutes};

/// What the rule says for this weight.
#[derive(Debug, Clone, PartialEq)]
pub struct TradeTime {
    /// Minutes of heat, all stages.
    pub takes: Time,
    /// The rule in its own words, with the size it was made for.
    pub rule: &'static str,
    /// Whether this piece is near that size.
    pub near_its_size: bool,
}

/// Thicknesses that rules of direct heat are made for, mm.
const STRIP_MM: std::ops::RangeInclusive<f64> = 33.0..=42.0;

/// The rule of a cut, where the trade has one by weight or thickness (common practice; turkey: USDA FSIS chart, from memory).
/// One cook's single run is no rule: where there is only that, nothing is said and the model leads.
pub fn trade_time(cut: Cut, largest: Mass, thickness: Length) -> Option<TradeTime> {
    let (kg, lb, mm) = (largest.in_kg(), largest.in_lb(), thickness.in_mm());
    let rule = |min: f64, rule, near_its_size| Some(TradeTime { takes: minutes(min), rule, near_its_size });
    match cut.id {
        "pork-belly" | "pork-belly-rib" => rule(
            44.0 * kg + 17.5,
            "20 min/lb (44/kg) at 177 °C, then 15–20 min under the grill; made for slabs of about 1 kg",
            (0.7..=1.5).contains(&kg),
        ),
        "turkey-whole" => {
            // lb → min at 163 °C, the middle of each published span's ends.
            const CHART: [(f64, f64); 4] = [(8.0, 165.0), (12.0, 180.0), (14.0, 225.0), (18.0, 255.0)];
            rule(
                interpolate(&CHART, lb),
                "unstuffed at 163 °C: 8–12 lb 2¾–3 h, 12–14 lb 3–3¾ h, 14–18 lb 3¾–4¼ h",
                (8.0..=18.0).contains(&lb),
            )
        }
        // Fresh leg, from the whole leg's 12–16 lb down to the half's 5–8 lb.
        "pork-leg" => rule(24.0 * lb, "fresh leg: 22–26 min/lb at 163 °C; made for 5–16 lb", (5.0..=16.0).contains(&lb)),
        "beef-rump-cap-strips" | "beef-rib-steak" | "beef-strip-steak" | "beef-sirloin-steak" if STRIP_MM.contains(&mm) => {
            rule(27.5, "strips or steaks of 35–40 mm over direct heat of 200–230 °C, turned: 25–30 min", (35.0..=40.0).contains(&mm))
        }
        _ => None,
    }
}

impl TradeTime {
    /// Whole minutes.
    pub fn minutes(&self) -> f64 {
        self.takes.in_min()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{grams, millimetres};

    #[test]
    fn rules_give_their_own_examples() {
        // Common practice: 44 min/kg + 17.5 at 1 kg; FSIS chart ends: 12 lb → 180 min, 18 lb → 255 min.
        let trade_time = |cut, g| trade_time(cut, g, millimetres(45.0));
        let belly = trade_time(Cut::find("pork-belly").unwrap(), grams(1000.0)).unwrap();
        assert!((belly.minutes() - 61.5).abs() < 1e-9 && belly.near_its_size);
        let turkey = Cut::find("turkey-whole").unwrap();
        assert!((trade_time(turkey, grams(12.0 * 453.59237)).unwrap().minutes() - 180.0).abs() < 1e-6);
        assert!((trade_time(turkey, grams(18.0 * 453.59237)).unwrap().minutes() - 255.0).abs() < 1e-6);
        assert!(!trade_time(Cut::find("pork-belly").unwrap(), grams(4000.0)).unwrap().near_its_size);
        // Published: fresh leg 22–26 min/lb.
        let leg = trade_time(Cut::find("pork-leg").unwrap(), grams(4500.0)).unwrap().minutes() / grams(4500.0).in_lb();
        assert!((22.0..=26.0).contains(&leg));
        // Single runs are no rules.
        for id in ["duck-whole", "pork-butt", "beef-rib-steak"] {
            assert_eq!(trade_time(Cut::find(id).unwrap(), grams(700.0)), None, "{id}");
        }
    }
}
