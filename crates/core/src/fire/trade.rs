//! Time rules of the trade, each with the size it was made for.

use crate::numeric::interpolate;
use crate::piece::Cut;
use crate::units::{Mass, MassIn, Time, TimeIn, minutes};

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

/// The rule of a cut, where the trade has one (handbook section 9 [trade]; turkey USDA FSIS chart [mem]).
pub fn trade_time(cut: Cut, largest: Mass) -> Option<TradeTime> {
    let kg = largest.in_kg();
    let near = |low: f64, high: f64| (low..=high).contains(&kg);
    let rule = |min: f64, rule, near_its_size| Some(TradeTime { takes: minutes(min), rule, near_its_size });
    match cut.id {
        "pork-belly" | "pork-belly-rib" => {
            rule(44.0 * kg + 17.5, "20 min/lb (44/kg) at 177 °C, then 15–20 min under the grill; made for slabs of 1 kg", near(0.7, 1.5))
        }
        "duck-whole" => rule(80.0, "2.8 kg at 154 °C: the breast at 68 °C after 80 min", near(2.3, 3.3)),
        "turkey-whole" => {
            // lb → min at 163 °C, the middle of each published span's ends.
            const CHART: [(f64, f64); 4] = [(8.0, 165.0), (12.0, 180.0), (14.0, 225.0), (18.0, 255.0)];
            rule(
                interpolate(&CHART, largest.in_lb()),
                "unstuffed at 163 °C: 8–12 lb 2¾–3 h, 12–14 lb 3–3¾ h, 14–18 lb 3¾–4¼ h",
                (8.0..=18.0).contains(&largest.in_lb()),
            )
        }
        "beef-rump-cap-strips" | "beef-rib-steak" | "beef-strip-steak" | "beef-sirloin-steak" => {
            rule(25.0, "strips 38 mm thick over direct heat of 200–230 °C, from 15 to 56 °C: 25 min", near(0.25, 0.7))
        }
        "pork-butt" => rule(360.0, "wrapped butt of 2.9 kg, to 95 °C in 5–7 h", near(2.3, 3.5)),
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
    use crate::units::grams;

    #[test]
    fn rules_give_their_own_examples() {
        // Handbook section 9: 44 min/kg + 17.5 at 1 kg; FSIS chart ends: 12 lb → 180 min, 18 lb → 255 min.
        let belly = trade_time(Cut::find("pork-belly").unwrap(), grams(1000.0)).unwrap();
        assert!((belly.minutes() - 61.5).abs() < 1e-9 && belly.near_its_size);
        let turkey = Cut::find("turkey-whole").unwrap();
        assert!((trade_time(turkey, grams(12.0 * 453.59237)).unwrap().minutes() - 180.0).abs() < 1e-6);
        assert!((trade_time(turkey, grams(18.0 * 453.59237)).unwrap().minutes() - 255.0).abs() < 1e-6);
        assert!(!trade_time(Cut::find("pork-belly").unwrap(), grams(4000.0)).unwrap().near_its_size);
    }
}
