//! What may hurt somebody at the heat itself: steam, flames, splashing fat, standing out, waiting warm.

use super::{Caution, Severity};
use crate::fire::{FireStage, HeatSource, How, PortionHeat, each_out};
use crate::method::StepKind;
use crate::piece::Species;
use crate::units::{Temperature, TemperatureIn, Time, TimeIn};

/// What is looked at.
#[derive(Debug, Clone, Copy)]
pub struct FireFacts<'a> {
    /// The stages.
    pub stages: &'a [FireStage],
    /// Beef, pork, lamb or poultry.
    pub species: Species,
    /// Whether fat or skin lies over it, to drip.
    pub drips: bool,
    /// From the refrigerator to the heat.
    pub temper: Time,
    /// Held warm at most so long; `None` not at all.
    pub hold: Option<Time>,
    /// Whether it lay in something wet while raw.
    pub marinated: bool,
    /// Whether something is brushed or spooned over it in the heat.
    pub basted: Option<StepKind>,
    /// Each portion's own minutes and pull; empty for one.
    pub portions: &'a [PortionHeat],
    /// What goes on, lower case.
    pub names: &'a [String],
}

/// Strong drink that catches fire, and what is sour enough to eat foil; as words of what goes on.
const SPIRITS: [&str; 19] = [
    "brandy", "cognac", "rum", "whisky", "whiskey", "bourbon", "vodka", "gin", "tequila", "mezcal", "schnapps", "schnaps", "grappa",
    "calvados", "ouzo", "pastis", "absinthe", "liqueur", "spirit",
];
const SOUR: [&str; 11] =
    ["vinegar", "lemon", "lime", "wine", "tomato", "yogurt", "yoghurt", "pineapple", "orange", "ketchup", "buttermilk"];

/// Whether a word stands in one of the names by itself.
fn holds(names: &[String], words: &[&str]) -> bool {
    let says = |part: &str| words.contains(&part) || words.contains(&part.trim_end_matches('s'));
    names.iter().any(|name| name.split(|c: char| !c.is_alphanumeric()).any(says))
}

/// Longest anybody needs to stand it out, min (TRADE 11.2).
const LONGEST_OUT: f64 = 60.0;

/// Portions are uneven where one takes so many times as long as another (our estimate).
const UNEVEN: f64 = 1.33;

/// What has to be said of this heat, each at its step.
pub fn fire_cautions(facts: &FireFacts) -> Vec<Caution> {
    const FSIS: &str = "USDA FSIS";
    const TRADE: &str = "common practice";
    let mut said = Vec::new();
    let mut note = |code, severity, text: &str, source, step| said.push(Caution::new(code, severity, text, source, Some(step)));
    let opened = facts.stages.windows(2).any(|pair| pair[0].how.is_closed() && !pair[1].how.is_closed());
    if opened || facts.stages.last().is_some_and(|last| last.how.is_closed()) {
        let step = if opened { StepKind::Uncover } else { StepKind::Rest };
        note("steam", Severity::Note, "Steam stands under a lid, foil or leaves: open it away from your face and hands.", TRADE, step);
    }
    let direct =
        |with: &[HeatSource]| facts.stages.iter().any(|s| (s.how == How::Direct || s.with == HeatSource::Pan) && with.contains(&s.with));
    if facts.drips && direct(&[HeatSource::Grill, HeatSource::Charcoal, HeatSource::Spit]) {
        let text = "Fat that drips on the heat flares up: keep a side without coals to move to, open a hot lid slowly, and never put water on burning fat.";
        note("flare", Severity::Amber, text, TRADE, StepKind::Sear);
    }
    if facts.stages.iter().any(|s| s.with == HeatSource::Pan) {
        let text = "Dry it, and lay it in away from you: water in hot fat splashes.";
        note("pan-splash", Severity::Note, text, TRADE, StepKind::Sear);
    }
    let each = each_out(facts.portions);
    let minutes = |least: bool| {
        let all = each.iter().map(|p| p.takes.in_min());
        if least { all.fold(f64::INFINITY, f64::min) } else { all.fold(0.0, f64::max) }
    };
    let together = facts.portions.iter().any(|portion| portion.waits.in_min() > 0.0);
    if !each.is_empty() && !together && minutes(false) > minutes(true) * UNEVEN {
        let text = format!(
            "The thinnest is done after about {:.0} min and the thickest after {:.0}: take each out at its own reading, or lay the thin ones in later.",
            minutes(true),
            minutes(false)
        );
        note("uneven-portions", Severity::Amber, &text, "our estimate", StepKind::Rest);
    }
    if facts.temper.in_min() > LONGEST_OUT {
        let text = "More than an hour out is not needed, and it counts to the two hours in all. Others cook it straight from the cold.";
        note("stands-out", Severity::Amber, text, "USDA FSIS 2-hour rule", StepKind::Temper);
    } else if facts.species == Species::Poultry && facts.temper.in_min() > 0.0 {
        note("stands-out", Severity::Note, "Poultry is better cooked straight from the cold.", TRADE, StepKind::Temper);
    }
    if let Some(step) = facts.basted.filter(|_| facts.marinated) {
        let text = "What raw meat lay in, and what is left of a paste or marinade that touched it, is raw: boil it for a minute before it goes over the meat, or set a portion aside before.";
        note("raw-baste", Severity::Amber, text, FSIS, step);
    }
    let flames = |s: &FireStage| matches!(s.with, HeatSource::Grill | HeatSource::Charcoal | HeatSource::Spit | HeatSource::Pan);
    if holds(facts.names, &SPIRITS) && facts.stages.iter().any(flames) {
        let step = if direct(&HeatSource::ALL) { StepKind::Sear } else { StepKind::Roast };
        note(
            "spirits",
            Severity::Amber,
            "Strong drink catches fire: pour it away from the flame, never from the bottle, and keep a lid at hand.",
            TRADE,
            step,
        );
    }
    if facts.stages.iter().any(|s| s.how == How::Wrapped) {
        let eats = if holds(facts.names, &SOUR) { "What is sour on it, and its salt, eat foil" } else { "Its salt eats foil" };
        note("acid-on-foil", Severity::Note, &format!("{eats}: paper next to the meat, foil round that."), TRADE, StepKind::Wrap);
    }
    if facts.stages.iter().any(|s| s.how == How::LeafWrapped) {
        note(
            "leaves",
            Severity::Note,
            "Only leaves that are sold for cooking: others may be sprayed, or poisonous.",
            TRADE,
            StepKind::Wrap,
        );
    }
    if facts.hold.is_some() {
        let text = "Held warm means 60 °C (140 °F) or more, read by a probe. What falls below goes into shallow dishes and into the refrigerator within 2 h.";
        note("held-warm", Severity::Amber, text, FSIS, StepKind::Hold);
    }
    said
}

/// Above this a crust is no gentle oven any more, °C (our estimate: schools that dry under one hold 150 to 160).
const UNDER_A_CRUST_C: f64 = 180.0;

/// Fierce heat while a crust still lies on the skin; `None` up to 180 °C.
pub fn fierce_under_the_crust(air: Temperature) -> Option<Caution> {
    let text = format!(
        "A crust lies on the skin at {:.0} °C. Under it the skin dries at 150 to 160 °C; fiercer, the salt bakes on and the skin under it cannot puff. Take it off first, then the fierce heat.",
        air.in_c()
    );
    (air.in_c() > UNDER_A_CRUST_C)
        .then(|| Caution::new("fierce-under-crust", Severity::Amber, text, "common practice", Some(StepKind::CoverOff)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fire::StageEnd;
    use crate::units::{celsius, hours, minutes};

    fn stage(with: HeatSource, how: How) -> FireStage {
        FireStage { with, how, ..FireStage::of_a_method(celsius(160.0), StageEnd::After(minutes(30.0))) }
    }

    fn codes(stages: &[FireStage], facts: impl Fn(&mut FireFacts)) -> Vec<(&'static str, Option<StepKind>)> {
        let mut asked = FireFacts {
            stages,
            species: Species::Pork,
            drips: true,
            temper: minutes(30.0),
            hold: None,
            marinated: false,
            basted: None,
            portions: &[],
            names: &[],
        };
        facts(&mut asked);
        fire_cautions(&asked).into_iter().map(|c| (c.code, c.at)).collect()
    }

    #[test]
    fn each_fires_at_its_step_and_stays_quiet_elsewhere() {
        use HeatSource::{Charcoal, Oven, Pan};
        let plain = [stage(Oven, How::Open), stage(Oven, How::Open)];
        assert_eq!(codes(&plain, |_| {}), []);
        assert_eq!(codes(&[stage(Oven, How::Covered), stage(Oven, How::Open)], |_| {}), [("steam", Some(StepKind::Uncover))]);
        assert_eq!(
            codes(&[stage(Oven, How::Open), stage(Oven, How::Wrapped)], |_| {}),
            [("steam", Some(StepKind::Rest)), ("acid-on-foil", Some(StepKind::Wrap))]
        );
        assert_eq!(codes(&[stage(Oven, How::LeafWrapped)], |_| {}), [("steam", Some(StepKind::Rest)), ("leaves", Some(StepKind::Wrap))]);
        assert_eq!(codes(&[stage(Charcoal, How::Direct)], |_| {}), [("flare", Some(StepKind::Sear))]);
        // Nothing drips from lean, and two zones keep the fat off the coals.
        assert_eq!(codes(&[stage(Charcoal, How::Direct)], |f| f.drips = false), []);
        assert_eq!(codes(&[stage(Charcoal, How::Open)], |_| {}), []);
        assert_eq!(codes(&[stage(Pan, How::Open)], |_| {}), [("pan-splash", Some(StepKind::Sear))]);
        assert_eq!(codes(&plain, |f| f.hold = Some(hours(2.0))), [("held-warm", Some(StepKind::Hold))]);
    }

    #[test]
    fn what_raw_meat_lay_in_and_what_burns() {
        let plain = [stage(HeatSource::Oven, How::Open)];
        let baste = |marinated, basted| codes(&plain, |f| (f.marinated, f.basted) = (marinated, basted));
        // TRADE 11: a marinade that touched raw meat; a baste of its own, or none, is no matter.
        assert_eq!(baste(true, Some(StepKind::Baste)), [("raw-baste", Some(StepKind::Baste))]);
        assert_eq!((baste(false, Some(StepKind::Glaze)), baste(true, None)), (vec![], vec![]));
        let names = |with, text: &str| {
            let (stages, names) = ([stage(with, How::Open)], [text.to_owned()]);
            let (species, temper) = (Species::Pork, minutes(30.0));
            let facts = FireFacts {
                stages: &stages,
                species,
                drips: true,
                temper,
                hold: None,
                marinated: false,
                basted: None,
                portions: &[],
                names: &names,
            };
            fire_cautions(&facts).into_iter().map(|c| c.code).collect::<Vec<_>>()
        };
        assert_eq!(names(HeatSource::Charcoal, "2 tbsp dark rum"), ["spirits"]);
        assert_eq!(names(HeatSource::Grill, "brandy, apple"), ["spirits"]);
        assert_eq!(names(HeatSource::Grill, "50 ml bourbon"), ["spirits"]);
        assert_eq!(names(HeatSource::Grill, "a little schnapps"), ["spirits"]);
        // In an oven no flame is near; ginger is no gin, drumsticks no rum.
        assert!(names(HeatSource::Oven, "rum").is_empty() && names(HeatSource::Charcoal, "ginger and drumsticks").is_empty());
    }

    #[test]
    fn standing_out_goes_by_the_meat() {
        // TRADE 11.2: straight from the cold for poultry, up to an hour else.
        let plain = [stage(HeatSource::Oven, How::Open)];
        let out = |species, min: f64| codes(&plain, |f| (f.species, f.temper) = (species, minutes(min)));
        assert_eq!((out(Species::Beef, 60.0), out(Species::Beef, 61.0)), (vec![], vec![("stands-out", Some(StepKind::Temper))]));
        assert_eq!((out(Species::Poultry, 0.0), out(Species::Poultry, 10.0).len()), (vec![], 1));
    }
}
