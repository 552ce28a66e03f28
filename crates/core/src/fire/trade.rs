//! Time rules of the trade and published charts, each with the cut, the heat and the size it was made for.

use super::source::{HeatSource, How};
use super::stage::{FireStage, StageEnd};
use crate::numeric::interpolate;
use crate::piece::{Cut, Family};
use crate::units::{Length, LengthIn, Mass, MassIn, TemperatureIn, Time, TimeIn, minutes};

/// What the rule says for this weight.
#[derive(Debug, Clone, PartialEq)]
pub struct TradeTime {
    /// Minutes of heat, all stages, at least and at most.
    pub takes: (Time, Time),
    /// The rule in its own words, with the size it was made for.
    pub rule: &'static str,
    /// Where it comes from.
    pub source: &'static str,
    /// Whether this piece is near that size.
    pub near_its_size: bool,
    /// Whether this heat is the one it was made for.
    pub its_heat: bool,
}

/// A piece, in the units that rules are written in.
struct Sizes {
    kg: f64,
    lb: f64,
    mm: f64,
}

/// One rule of the trade.
struct Rule {
    says: &'static str,
    source: &'static str,
    cut: fn(Cut) -> bool,
    heat: fn(&[FireStage]) -> bool,
    size: fn(&Sizes) -> bool,
    minutes: fn(&Sizes) -> (f64, f64),
}

const TRADE: &str = "common practice";
const CHART: &str = "USDA FSIS roasting charts, from memory";

fn is_slab(cut: Cut) -> bool {
    matches!(cut.id, "pork-belly" | "pork-belly-rib")
}

fn is_shoulder(cut: Cut) -> bool {
    matches!(cut.id, "pork-butt" | "pork-picnic" | "lamb-shoulder")
}

/// Whether the first stage is so, between two temperatures of the air.
fn begins(stages: &[FireStage], how: How, low: f64, high: f64) -> bool {
    stages.first().is_some_and(|s| s.how == how && (low..=high).contains(&s.air.in_c()))
}

/// Open all the way at the first stage's temperature; a short fierce end does not count.
fn open_at(stages: &[FireStage], c: f64) -> bool {
    begins(stages, How::Open, c - 9.0, c + 9.0) && stages.iter().all(|s| s.how == How::Open)
}

fn any(stages: &[FireStage], is: impl Fn(&FireStage) -> bool) -> bool {
    stages.iter().any(is)
}

/// Each rule, the more particular first (TRADE 9.3, 9.14).
const RULES: &[Rule] = &[
    Rule {
        says: "120 min/kg at 160–170 °C after a fierce start, until tender; made for slabs of about 1 kg",
        source: TRADE,
        cut: is_slab,
        heat: |s| {
            // Typed minutes are of this rule where they are long: they say how long it is to be.
            let long = |s: &FireStage| !matches!(s.until, StageEnd::After(time) if time.in_min() < 60.0);
            begins(s, How::Open, 200.0, 300.0) && any(s, |s| (155.0..=175.0).contains(&s.air.in_c()) && long(s))
        },
        size: |p| (0.7..=1.5).contains(&p.kg),
        // The fierce start is half an hour at most.
        minutes: |p| (120.0 * p.kg, 120.0 * p.kg + 30.0),
    },
    Rule {
        says: "60 min/kg covered at 180 °C, then 10–20 min open at 200 °C; made for pieces of about 1 kg",
        source: TRADE,
        cut: |cut| is_slab(cut) || matches!(cut.family, Family::Joint | Family::Roast),
        heat: |s| begins(s, How::Covered, 170.0, 190.0),
        size: |p| (0.7..=1.5).contains(&p.kg),
        minutes: |p| (60.0 * p.kg + 10.0, 60.0 * p.kg + 20.0),
    },
    Rule {
        says: "44 min/kg (20 min/lb) at 177 °C, then 15–20 min under the grill; made for slabs of about 1 kg",
        source: TRADE,
        cut: is_slab,
        heat: |s| open_at(s, 177.0),
        size: |p| (0.7..=1.5).contains(&p.kg),
        minutes: |p| (44.0 * p.kg + 15.0, 44.0 * p.kg + 20.0),
    },
    Rule {
        says: "wrapped shoulder: 99–132 min/kg (45–60 min/lb) at 135 °C to 95 °C; made for 1.8–4.5 kg (4–10 lb)",
        source: TRADE,
        cut: is_shoulder,
        heat: |s| any(s, |s| matches!(s.how, How::Wrapped | How::LeafWrapped) && (125.0..=145.0).contains(&s.air.in_c())),
        size: |p| (4.0..=10.0).contains(&p.lb),
        minutes: |p| (45.0 * p.lb, 60.0 * p.lb),
    },
    Rule {
        says: "braised shoulder: 3–3½ h at 160 °C, until a fork meets no resistance; made for 1.5–3 kg",
        source: TRADE,
        cut: is_shoulder,
        heat: |s| any(s, |s| s.how == How::InLiquid && s.air.in_c() >= 90.0),
        size: |p| (1.5..=3.0).contains(&p.kg),
        minutes: |_| (180.0, 210.0),
    },
    Rule {
        says: "strips or steaks of 35–40 mm over direct heat of 200–230 °C, turned: 25–30 min",
        source: TRADE,
        cut: |cut| matches!(cut.id, "beef-rump-cap-strips" | "beef-rib-steak" | "beef-strip-steak" | "beef-sirloin-steak"),
        heat: |s| any(s, |s| s.how == How::Direct && s.with != HeatSource::Pan && (190.0..=240.0).contains(&s.air.in_c())),
        size: |p| (33.0..=42.0).contains(&p.mm),
        minutes: |_| (25.0, 30.0),
    },
    Rule {
        says: "unstuffed at 163 °C: 3.6–5.4 kg (8–12 lb) 2¾–3 h, 5.4–6.4 kg (12–14 lb) 3–3¾ h, 6.4–8.2 kg (14–18 lb) 3¾–4¼ h",
        source: CHART,
        cut: |cut| cut.id == "turkey-whole",
        heat: |s| open_at(s, 163.0),
        size: |p| (8.0..=18.0).contains(&p.lb),
        // lb → min: the spans' ends, which meet.
        minutes: |p| {
            const ENDS: [(f64, f64); 4] = [(8.0, 165.0), (12.0, 180.0), (14.0, 225.0), (18.0, 255.0)];
            let min = interpolate(&ENDS, p.lb);
            (min, min)
        },
    },
    Rule {
        says: "fresh leg: 49–57 min/kg (22–26 min/lb) at 163 °C; made for 2.3–7.3 kg (5–16 lb)",
        source: TRADE,
        cut: |cut| cut.id == "pork-leg",
        heat: |s| open_at(s, 163.0),
        size: |p| (5.0..=16.0).contains(&p.lb),
        minutes: |p| (22.0 * p.lb, 26.0 * p.lb),
    },
    Rule {
        says: "shoulder butt: 99 min/kg (45 min/lb) at 177 °C; made for 1.4–2.7 kg (3–6 lb)",
        source: CHART,
        cut: |cut| cut.id == "pork-butt",
        heat: |s| open_at(s, 177.0),
        size: |p| (3.0..=6.0).contains(&p.lb),
        minutes: |p| (45.0 * p.lb, 45.0 * p.lb),
    },
    Rule {
        says: "loin roast: 44 min/kg (20 min/lb) at 177 °C; made for 0.9–2.3 kg (2–5 lb)",
        source: CHART,
        cut: |cut| matches!(cut.id, "pork-loin-rack" | "pork-loin-rack-skin"),
        heat: |s| open_at(s, 177.0),
        size: |p| (2.0..=5.0).contains(&p.lb),
        minutes: |p| (20.0 * p.lb, 20.0 * p.lb),
    },
    Rule {
        says: "rib roast: 51–55 min/kg (23–25 min/lb) at 163 °C; made for 1.8–2.7 kg (4–6 lb)",
        source: CHART,
        cut: |cut| matches!(cut.id, "beef-rib-roast" | "beef-rib-roast-bone-in"),
        heat: |s| open_at(s, 163.0),
        size: |p| (4.0..=6.0).contains(&p.lb),
        minutes: |p| (23.0 * p.lb, 25.0 * p.lb),
    },
    Rule {
        says: "round roast: 66–77 min/kg (30–35 min/lb) at 163 °C; made for 1.1–1.8 kg (2½–4 lb)",
        source: CHART,
        cut: |cut| cut.id == "beef-round-roast",
        heat: |s| open_at(s, 163.0),
        size: |p| (2.5..=4.0).contains(&p.lb),
        minutes: |p| (30.0 * p.lb, 35.0 * p.lb),
    },
    Rule {
        says: "leg of lamb: 44–55 min/kg (20–25 min/lb) at 163 °C; made for 2.3–3.2 kg (5–7 lb)",
        source: CHART,
        cut: |cut| cut.id == "lamb-leg",
        heat: |s| open_at(s, 163.0),
        size: |p| (5.0..=7.0).contains(&p.lb),
        minutes: |p| (20.0 * p.lb, 25.0 * p.lb),
    },
    Rule {
        says: "whole chicken: 1¼–1½ h at 177 °C; made for 1.4–1.8 kg (3–4 lb)",
        source: CHART,
        cut: |cut| cut.id == "chicken-whole",
        heat: |s| open_at(s, 177.0),
        size: |p| (3.0..=4.0).contains(&p.lb),
        minutes: |_| (75.0, 90.0),
    },
    Rule {
        says: "whole duck: 66–77 min/kg (30–35 min/lb) at 177 °C, until its fat has run; made for 1.8–2.7 kg (4–6 lb)",
        source: CHART,
        cut: |cut| cut.id == "duck-whole",
        heat: |s| open_at(s, 177.0),
        size: |p| (4.0..=6.0).contains(&p.lb),
        minutes: |p| (30.0 * p.lb, 35.0 * p.lb),
    },
];

/// The rule of a cut in this heat, where the trade has one; else one that was made for another heat, and says so.
///
/// One cook's single run is no rule: where there is only that, nothing is said and the model leads.
pub fn trade_time(cut: Cut, largest: Mass, thickness: Length, stages: &[FireStage]) -> Option<TradeTime> {
    let sizes = Sizes { kg: largest.in_kg(), lb: largest.in_lb(), mm: thickness.in_mm() };
    let of_cut = || RULES.iter().filter(|rule| (rule.cut)(cut));
    let rule = of_cut().find(|rule| (rule.heat)(stages)).or_else(|| of_cut().next_back())?;
    let (low, high) = (rule.minutes)(&sizes);
    Some(TradeTime {
        takes: (minutes(low), minutes(high)),
        rule: rule.says,
        source: rule.source,
        near_its_size: (rule.size)(&sizes),
        its_heat: (rule.heat)(stages),
    })
}

/// Model and rule agree where the model's minutes lie within the rule's own, or so near their middle (our reading).
const A_THIRD: f64 = 1.0 / 3.0;

impl TradeTime {
    /// Whole minutes, the middle of the span.
    pub fn minutes(&self) -> f64 {
        f64::midpoint(self.takes.0.in_min(), self.takes.1.in_min())
    }

    /// Why the model's minutes are others; `None` within the rule's span, or a third of its middle.
    pub fn why_differs(&self, model: Time) -> Option<&'static str> {
        let off = (model.in_min() - self.minutes()).abs() / self.minutes().max(1e-9);
        if off <= A_THIRD || (self.takes.0..=self.takes.1).contains(&model) {
            return None;
        }
        Some(if !self.its_heat {
            "it was made for another heat"
        } else if !self.near_its_size {
            "it was made for another size, and time goes by thickness, not by weight"
        } else if model > self.takes.1 {
            "time goes by thickness, and it is thicker than the rule takes it to be, or longer in a mild heat"
        } else if self.rule.contains("fat has run") {
            "it cooks on until the fat has run, this heat ends at its finish"
        } else {
            "time goes by thickness, not by weight: a longer piece as thick takes hardly longer"
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{celsius, grams, millimetres};

    fn stage(how: How, c: f64, until: StageEnd) -> FireStage {
        FireStage { how, ..FireStage::of_a_method(celsius(c), until) }
    }

    fn open(c: f64) -> Vec<FireStage> {
        vec![stage(How::Open, c, StageEnd::Finish)]
    }

    fn rule(cut: &str, g: f64, mm: f64, stages: &[FireStage]) -> Option<TradeTime> {
        trade_time(Cut::find(cut).unwrap(), grams(g), millimetres(mm), stages)
    }

    const LB: f64 = 453.592_37;

    #[test]
    fn rules_give_their_own_examples() {
        // TRADE 9.3, common practice: 44 min/kg + 15–20 at 1 kg; 60 + 10–20; 120 after half an hour at most; FSIS chart ends: 12 lb
        // → 180 min, 18 lb → 255 min; fresh leg 22–26 min/lb; wrapped shoulder 45–60; braise 3–3½ h; strips 25–30 min.
        let span = |found: Option<TradeTime>| {
            let found = found.unwrap();
            assert!(found.near_its_size && found.its_heat, "{found:?}");
            (found.takes.0.in_min().round(), found.takes.1.in_min().round())
        };
        assert_eq!(span(rule("pork-belly", 1000.0, 45.0, &open(175.0))), (59.0, 64.0));
        let covered = [stage(How::Covered, 180.0, StageEnd::After(minutes(60.0))), stage(How::Open, 200.0, StageEnd::After(minutes(15.0)))];
        assert_eq!(span(rule("pork-belly", 1000.0, 45.0, &covered)), (70.0, 80.0));
        let fierce = [stage(How::Open, 230.0, StageEnd::After(minutes(30.0))), stage(How::Open, 165.0, StageEnd::Finish)];
        assert_eq!(span(rule("pork-belly", 1000.0, 45.0, &fierce)), (120.0, 150.0));
        assert_eq!(span(rule("turkey-whole", 12.0 * LB, 50.0, &open(163.0))), (180.0, 180.0));
        assert_eq!(span(rule("turkey-whole", 18.0 * LB, 50.0, &open(163.0))), (255.0, 255.0));
        assert_eq!(span(rule("pork-leg", 10.0 * LB, 150.0, &open(163.0))), (220.0, 260.0));
        let wrapped = [stage(How::Open, 135.0, StageEnd::After(minutes(120.0))), stage(How::Wrapped, 135.0, StageEnd::Core(celsius(95.0)))];
        assert_eq!(span(rule("pork-butt", 6.0 * LB, 125.0, &wrapped)), (270.0, 360.0));
        assert_eq!(span(rule("pork-butt", 2000.0, 125.0, &[stage(How::InLiquid, 160.0, StageEnd::Finish)])), (180.0, 210.0));
        let coals = FireStage { with: HeatSource::Charcoal, ..stage(How::Direct, 215.0, StageEnd::Finish) };
        assert_eq!(span(rule("beef-rump-cap-strips", 1200.0, 38.0, &[coals])), (25.0, 30.0));
    }

    #[test]
    fn another_size_or_heat_is_said_and_a_single_run_is_no_rule() {
        let big = rule("pork-belly", 4000.0, 45.0, &open(175.0)).unwrap();
        assert!(!big.near_its_size && big.its_heat && big.why_differs(minutes(70.0)).unwrap().contains("size"));
        // Within a third nothing has to be explained.
        assert_eq!(big.why_differs(minutes(big.minutes() * 1.2)), None);
        let low = rule("turkey-whole", 12.0 * LB, 50.0, &open(120.0)).unwrap();
        assert!(!low.its_heat && low.why_differs(minutes(400.0)).unwrap().contains("heat"));
        assert!(rule("goose-whole", 4500.0, 42.0, &open(163.0)).is_none() && rule("beef-rump-cap", 1200.0, 45.0, &open(120.0)).is_none());
    }
}
