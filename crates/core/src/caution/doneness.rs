//! One judgement of safety: by the lowest end a piece may come to in each of its places, and by the hours it is warm on the way.
//!
//! Words and colours of doneness come from here alone. What is eaten pink (beef, lamb, duck breast) and pork that waits for a probe
//! may be a taste as long as it is intact, said in red; everything else below the authority's least is not safe, and a plan of it is
//! kept only knowingly.

use super::{Caution, Severity};
use crate::fire::{FinishTarget, HeatPoint, RAW_BELOW_C, Where};
use crate::method::StepKind;
use crate::piece::{Cut, Species};
use crate::units::{Temperature, TemperatureIn, Time, TimeIn, hours, minutes};
use crate::words;

/// A heat as it is judged.
#[derive(Debug, Clone, Copy)]
pub struct DoneFacts<'a> {
    /// The cut.
    pub cut: Cut,
    /// Whether its inside is as nature closed it.
    pub intact: bool,
    /// Each place that has to arrive, with where it may end.
    pub targets: &'a [FinishTarget],
    /// Where no stage waits for a probe or a fork: the core in the heat, if that goes in a third slower.
    pub slow: Option<Temperature>,
    /// From the heat to the end of the rest.
    pub curve: &'a [HeatPoint],
    /// How long it is in the heat.
    pub heat: Time,
    /// Out of the refrigerator before it.
    pub out: Time,
    /// Whether it is smoked.
    pub smoked: bool,
    /// Whether it is held warm after its rest.
    pub held: bool,
    /// How warm it was measured to be when it goes in.
    pub measured: Option<Temperature>,
    /// The step at which the core is watched.
    pub step: StepKind,
}

/// How the lowest end stands to the authority's least.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Doneness {
    /// Every place reaches it at its lowest.
    Reaches,
    /// It does as reckoned; were the heat a third slower it would not.
    MayFallShort,
    /// It does not, and that is a taste.
    Taste,
    /// It does not, and it is not safe.
    NotSafe,
}

const FSIS: &str = "USDA FSIS safe minimum internal temperature chart";
/// Bacteria grow between these, °C: 50 to 130 °F (USDA FSIS Appendix A, come-up time; from memory).
const GROWS: (f64, f64) = (10.0, 54.4);
/// Hours of the middle between them: amber, and red (USDA FSIS Appendix A, from memory); red at once for what is cut into, filled, or
/// poultry (our estimate).
const MIDDLE_H: (f64, f64) = (4.0, 6.0);
/// Hours of the surface below the upper one in the heat, with the time out of the refrigerator: amber, and red (our estimate).
const SURFACE_H: (f64, f64) = (2.0, 4.0);
/// What is not kept this warm is out, °C (USDA FSIS: 140 °F).
const HOT: f64 = 60.0;

/// How long it is at temperatures at which something grows.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Growing {
    /// The middle, between ten degrees and 54.4.
    pub middle: Time,
    /// The surface, below 54.4 °C in the heat, with the time out of the refrigerator before.
    pub surface: Time,
    /// The surface, below sixty degrees after the heat.
    pub cools: Time,
    /// By its minutes: the lowest end of the place that has least to spare, if the heat goes in a third slower.
    pub slow_low: Option<Temperature>,
}

impl DoneFacts<'_> {
    /// How long it is at temperatures at which something grows: the drawn curve's own straight lines between the limits.
    pub fn growing(&self) -> Growing {
        let at = |min: f64| self.curve.partition_point(|point| point.after.in_min() < min);
        let (in_the_heat, at_rest) = (at(self.heat.in_min() + 1e-6), at(self.heat.in_min() - 1e-6));
        let surface = |points, below| between(points, |point| point.surface, (f64::NEG_INFINITY, below));
        Growing {
            middle: between(self.curve, |point| point.core, GROWS),
            surface: self.out + surface(&self.curve[..in_the_heat], GROWS.1),
            cools: surface(&self.curve[at_rest..], HOT),
            slow_low: self.slow_lowest().map(|(_, low)| low),
        }
    }

    /// The judgement.
    pub fn doneness(&self) -> Doneness {
        if self.lowest().is_none() {
            let slow = self.slow_lowest().is_some_and(|(target, low)| low < target.authority);
            return if slow { Doneness::MayFallShort } else { Doneness::Reaches };
        }
        let pork = self.cut.species == Species::Pork && self.slow.is_none();
        if self.intact && (self.cut.is_eaten_pink() || pork) { Doneness::Taste } else { Doneness::NotSafe }
    }

    fn is_stuffed(&self) -> bool {
        self.targets.iter().any(|target| target.at == Where::Stuffing)
    }

    /// By its minutes: the place with least to spare, and its lowest end if the heat goes in a third slower.
    fn slow_lowest(&self) -> Option<(&FinishTarget, Temperature)> {
        let core = self.slow?;
        let spares = |target: &FinishTarget| (core + target.climbs()).in_c() - target.authority.in_c();
        let least = self.targets.iter().min_by(|a, b| spares(a).total_cmp(&spares(b)))?;
        Some((least, core + least.climbs()))
    }

    /// The place that misses its authority's least by most.
    fn lowest(&self) -> Option<&FinishTarget> {
        let misses = |target: &FinishTarget| target.authority.in_c() - target.ends.low.in_c();
        self.targets.iter().filter(|t| t.below_authority()).max_by(|a, b| misses(a).total_cmp(&misses(b)))
    }
}

/// How long a line through the points lies from `low` on and below `high`.
fn between(points: &[HeatPoint], of: impl Fn(&HeatPoint) -> Temperature, (low, high): (f64, f64)) -> Time {
    let share = |pair: &[HeatPoint]| {
        let (a, b) = (of(&pair[0]).in_c(), of(&pair[1]).in_c());
        let (least, most) = (a.min(b), a.max(b));
        let takes = (pair[1].after - pair[0].after).in_min();
        if most - least < 1e-9 {
            return if (low..high).contains(&least) { takes } else { 0.0 };
        }
        takes * (most.min(high) - least.max(low)).max(0.0) / (most - least)
    };
    minutes(points.windows(2).map(share).sum())
}

/// Everything that has to be said of how done it gets and how fast: at most one of doneness, then what stays raw, what grows, what
/// stands. Each with its source (USDA FSIS, or our estimate).
pub fn done_cautions(facts: &DoneFacts) -> Vec<Caution> {
    let mut said: Vec<Caution> = doneness(facts).into_iter().collect();
    said.extend(raw_inside(facts));
    let growing = facts.growing();
    said.extend(slow(facts, &growing));
    said.extend(after_the_heat(facts, growing.cools));
    said.extend(facts.measured.filter(|start| start.in_c() < 0.0).map(|start| {
        let text = format!(
            "At {} °C there may be ice in the middle: thaw it until nothing in it is hard. These minutes do not melt ice.",
            words::c(start)
        );
        Caution::new("ice-inside", Severity::Red, text, "common practice", Some(facts.step))
    }));
    said
}

const NOT_FOR: &str = "Not for small children, old people, pregnant women or anybody whose immune system is weak.";

fn doneness(facts: &DoneFacts) -> Option<Caution> {
    let least = |target: &FinishTarget| {
        // The three minutes of rest are red meat's; poultry is judged by its temperature alone.
        let rest = if facts.cut.species == Species::Poultry { "" } else { " and 3 min of rest" };
        format!("the authority says {:.1} °C ({:.0} °F){rest}", target.authority.in_c(), target.authority.in_f())
    };
    let step = Some(facts.step);
    match facts.doneness() {
        Doneness::Reaches => None,
        Doneness::MayFallShort => {
            let (target, low) = facts.slow_lowest()?;
            let text = format!(
                "Minutes alone: were your heat a third slower than reckoned, the {} would come to no more than {} °C, and {}. Probe it before it comes out.",
                target.at.id(),
                words::c(low),
                least(target)
            );
            Some(Caution::new("may-fall-short", Severity::Amber, text, "our estimate; USDA FSIS", step))
        }
        Doneness::Taste => {
            // Of two cores that both stay below, the one that leads says it for both.
            let target = facts.targets.iter().find(|t| t.below_authority())?;
            let text = if target.wanted_below() {
                let (finish, lowest) = (words::c(target.finish), words::c(target.ends.low));
                format!("{finish} °C is your taste, {lowest} °C at the lowest; {}. {NOT_FOR}", least(target))
            } else {
                format!("It may come to no more than {} °C: that is your taste; {}. {NOT_FOR}", words::c(target.ends.low), least(target))
            };
            Some(Caution::new("below-authority", Severity::Red, text, FSIS, step))
        }
        Doneness::NotSafe => {
            let target = facts.lowest()?;
            let remedy = if facts.slow.is_some() {
                "Let it wait for the core, not for the clock.".to_owned()
            } else {
                // In whole degrees, up.
                format!("Leave it in until the {} reads {:.0} °C.", target.at.id(), (target.authority - target.climbs()).in_c().ceil())
            };
            let why = if facts.intact { "" } else { " It is no longer intact: its inside has to be done like its outside." };
            let text = format!(
                "Not safe to eat: the {} may come to no more than {} °C; {}.{why} {remedy}",
                target.at.id(),
                words::c(target.ends.low),
                least(target)
            );
            Some(Caution::new("not-safe", Severity::Red, text, FSIS, step))
        }
    }
}

/// A middle that stays raw, of what people eat so; of anything else the plan refuses it.
fn raw_inside(facts: &DoneFacts) -> Option<Caution> {
    let lead = facts.targets.first()?;
    let text = format!("The middle comes to about {} °C: it stays raw.", words::c(lead.ends.mid));
    (lead.ends.mid.in_c() < RAW_BELOW_C).then(|| Caution::new("raw-inside", Severity::Red, text, "our estimate", Some(facts.step)))
}

/// Hours in which something grows in it, or on it.
fn slow(facts: &DoneFacts, growing: &Growing) -> Vec<Caution> {
    let mut said = Vec::new();
    let step = Some(facts.step);
    let Growing { middle, surface, .. } = *growing;
    let known = if facts.smoked && facts.intact && facts.cut.species != Species::Poultry {
        " Whole meat in slow smoke is the known case: its inside is clean as long as nothing was stuck into it."
    } else {
        ""
    };
    if middle > hours(MIDDLE_H.0) {
        let tender = !facts.intact || facts.is_stuffed() || facts.cut.species == Species::Poultry;
        let red = tender || middle > hours(MIDDLE_H.1);
        let most = if tender { MIDDLE_H.0 } else { MIDDLE_H.1 };
        let text = format!(
            "The middle lies between 10 and 54 °C (50 and 130 °F) for {}: {most:.0} h are the most.{known} Make it hotter, or cut it thinner.",
            words::span(middle)
        );
        let (severity, source) = if red {
            (Severity::Red, if tender { "our estimate, after USDA FSIS Appendix A" } else { "USDA FSIS Appendix A, from memory" })
        } else {
            (Severity::Amber, "USDA FSIS Appendix A, from memory")
        };
        said.push(Caution::new("slow-middle", severity, text, source, step));
    }
    if surface > hours(SURFACE_H.0) {
        let severity = if surface > hours(SURFACE_H.1) { Severity::Red } else { Severity::Amber };
        let text = format!(
            "With its time out of the refrigerator the outside is below 54 °C (130 °F) for {}: {:.0} h are usual at most, {:.0} h are too long. Start hotter, or straight from the cold.",
            words::span(surface),
            SURFACE_H.0,
            SURFACE_H.1
        );
        said.push(Caution::new("slow-surface", severity, text, "our estimate", step));
    }
    said
}

/// A rest that is no rest any more, and a hold that cooks on.
fn after_the_heat(facts: &DoneFacts, cools: Time) -> Vec<Caution> {
    let mut said = Vec::new();
    if cools > super::out_at_most() {
        let text = format!(
            "Cooked, it stands below 60 °C (140 °F) for {}: 2 h at most. Hold it hot, or put it into the refrigerator, shallow, and heat it again to 74 °C (165 °F).",
            words::span(cools)
        );
        said.push(Caution::new("long-rest", Severity::Red, text, "USDA FSIS 2-hour rule", Some(StepKind::Rest)));
    }
    if let Some(lead) = facts.targets.first().filter(|lead| facts.held && lead.ends.high.in_c() < HOT) {
        let text = format!(
            "Held at 60 °C (140 °F) or more it does not stay at {} °C: it goes on cooking. Colder than that it may not wait.",
            words::c(lead.ends.mid)
        );
        said.push(Caution::new("hold-cooks-on", Severity::Amber, text, "USDA FSIS", Some(StepKind::Hold)));
    }
    said
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fire::{Ends, targets};
    use crate::units::{celsius, kelvin};

    /// A piece of this cut that may end from so low on, straight up in so many minutes.
    fn judged(cut: &str, low: f64, change: impl Fn(&mut DoneFacts)) -> (Doneness, Vec<(&'static str, Severity)>) {
        let cut = Cut::find(cut).unwrap();
        let mut places = targets(cut);
        for place in &mut places {
            place.pull = celsius(low - 3.0);
            place.ends = Ends::after(place.pull, [kelvin(3.0), kelvin(5.0), kelvin(7.0)]);
        }
        let point = |after: f64, core: f64, surface: f64| HeatPoint {
            after: minutes(after),
            air: celsius(160.0),
            core: celsius(core),
            surface: celsius(surface),
            mean: celsius(core),
        };
        let curve = [point(0.0, 5.0, 5.0), point(60.0, low - 3.0, 120.0), point(80.0, low + 2.0, 61.0)];
        let mut facts = DoneFacts {
            cut,
            intact: true,
            targets: &places,
            slow: None,
            curve: &curve,
            heat: minutes(60.0),
            out: minutes(30.0),
            smoked: false,
            held: false,
            measured: None,
            step: StepKind::Roast,
        };
        change(&mut facts);
        (facts.doneness(), done_cautions(&facts).into_iter().map(|c| (c.code, c.severity)).collect())
    }

    #[test]
    fn the_lowest_end_decides_and_nothing_is_forgiven() {
        // USDA FSIS: 145 °F (62.78 °C) whole cuts, 165 °F (73.89 °C) poultry.
        let plain = |cut, low| judged(cut, low, |_| ()).0;
        assert_eq!((plain("chicken-whole", 73.9), plain("chicken-whole", 73.8)), (Doneness::Reaches, Doneness::NotSafe));
        assert_eq!((plain("pork-loin-rack", 62.8), plain("pork-loin-rack", 62.7)), (Doneness::Reaches, Doneness::Taste));
        assert_eq!((plain("duck-breast", 60.0), plain("beef-rib-steak", 50.0)), (Doneness::Taste, Doneness::Taste));
    }

    #[test]
    fn what_is_a_taste_and_what_is_not_safe() {
        let cut_into = |f: &mut DoneFacts| f.intact = false;
        let clock = |f: &mut DoneFacts| f.slow = Some(celsius(40.0));
        assert_eq!(judged("beef-rib-steak", 56.0, cut_into).0, Doneness::NotSafe);
        assert_eq!(
            (judged("beef-rib-steak", 56.0, clock).0, judged("pork-loin-rack", 56.0, clock).0),
            (Doneness::Taste, Doneness::NotSafe)
        );
        assert_eq!(judged("duck-whole", 66.0, |_| ()).1, [("not-safe", Severity::Red)]);
        // Never “your taste” of a bird.
        assert_eq!(judged("beef-rib-steak", 56.0, |_| ()).1, [("below-authority", Severity::Red)]);
        assert_eq!(judged("beef-rib-steak", 39.0, |_| ()).1, [("below-authority", Severity::Red), ("raw-inside", Severity::Red)]);
    }

    #[test]
    fn minutes_that_hold_only_as_reckoned_are_amber() {
        let slow = |core: f64| judged("chicken-whole", 75.0, |f| f.slow = Some(celsius(core)));
        // 70.9 + 3 reach 73.89; 70.8 + 3 do not.
        assert_eq!((slow(70.9).0, slow(70.8).0), (Doneness::Reaches, Doneness::MayFallShort));
        assert_eq!(slow(70.8).1, [("may-fall-short", Severity::Amber)]);
    }

    #[test]
    fn hours_in_which_something_grows() {
        let point = |after: f64, core: f64, surface: f64| HeatPoint {
            after: hours(after),
            air: celsius(80.0),
            core: celsius(core),
            surface: celsius(surface),
            mean: celsius(core),
        };
        // By hand: from 5 to 65 °C in 9 h the middle is between 10 and 54.4 for 9·44.4/60 = 6.66 h; the outside from 10 to 60 in 3 h
        // is below 54.4 for 3·44.4/50 = 2.664 h, and half an hour out: 3.16 h.
        let slow: &'static [HeatPoint] = vec![point(0.0, 5.0, 10.0), point(3.0, 25.0, 60.0), point(9.0, 65.0, 70.0)].leak();
        let with = |cut, change: &dyn Fn(&mut DoneFacts)| {
            judged(cut, 65.0, |f| {
                (f.curve, f.heat) = (slow, hours(9.0));
                change(f);
            })
            .1
        };
        assert_eq!(with("pork-butt", &|_| ()), [("slow-middle", Severity::Red), ("slow-surface", Severity::Amber)]);
        let five: &'static [HeatPoint] = vec![point(0.0, 5.0, 54.4), point(5.5, 58.0, 70.0)].leak();
        // 5.5·44.4/53 = 4.6 h: amber for whole meat, red for what was cut into.
        let whole = judged("pork-butt", 65.0, |f| (f.curve, f.heat) = (five, hours(5.5))).1;
        let cut_into = judged("pork-butt", 65.0, |f| (f.curve, f.heat, f.intact) = (five, hours(5.5), false)).1;
        assert_eq!((whole, cut_into), (vec![("slow-middle", Severity::Amber)], vec![("slow-middle", Severity::Red)]));
        // Four hours on the table after an hour in the heat, its surface at 60 °C halfway through the first of them.
        let cooling =
            vec![point(0.0, 5.0, 80.0), point(0.5, 40.0, 100.0), point(1.0, 60.0, 100.0), point(2.0, 62.0, 20.0), point(5.0, 30.0, 20.0)];
        let table: &'static [HeatPoint] = cooling.leak();
        let long = judged("pork-loin-rack", 63.0, |f| (f.curve, f.heat) = (table, hours(1.0))).1;
        assert_eq!(long.iter().map(|c| c.0).collect::<Vec<_>>(), ["long-rest"]);
    }

    #[test]
    fn a_hold_of_pink_meat_and_ice_are_said() {
        assert_eq!(judged("beef-rib-steak", 52.0, |f| f.held = true).1.last().unwrap().0, "hold-cooks-on");
        assert_eq!(judged("pork-butt", 90.0, |f| f.held = true).1, []);
        let at = |c: f64| judged("pork-butt", 90.0, |f| f.measured = Some(celsius(c))).1;
        assert_eq!((at(-1.0), at(1.0)), (vec![("ice-inside", Severity::Red)], vec![]));
    }
}
