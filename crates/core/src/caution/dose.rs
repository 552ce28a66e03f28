//! What may be wrong with the salt: too much, too much already in, a name near a curing salt's, potassium, sodium.

use super::{Caution, Severity};
use crate::method::StepKind;
use crate::salt::{CuringName, Dose, LedgerEntry, Salt, curing_name};
use crate::units::{GramsPerKg, Mass, MassIn};
use crate::words;

/// A dose, and what it is made of.
#[derive(Debug)]
pub struct DoseFacts<'a> {
    /// Salt in a kilogram of what is eaten, whatever the dose is counted on.
    pub eaten: GramsPerKg,
    /// Target, ledger, remainder.
    pub dose: &'a Dose,
    /// What brings salt besides the salt.
    pub ledger: &'a [LedgerEntry],
    /// The mix that goes on: its name, and grams of sodium chloride in a gram of it.
    pub mix: Option<(&'a str, f64)>,
    /// The salt that is weighed.
    pub salt: &'a Salt,
    /// Every name of the ledger and the mix, as said.
    pub names: Vec<&'a str>,
    /// Parts of the mix that nobody said the salt of.
    pub unknown: Vec<&'a str>,
    /// Sodium a serving.
    pub sodium_per_serving: Mass,
    /// Salt that what nobody knows the salt of brings at least and at most, with its name.
    pub between: Vec<(&'a str, Mass, Mass)>,
    /// How much of the mix goes on, and how much of it the piece carries; `None` without one, and for a bath.
    pub carries: Option<(Mass, Mass)>,
    /// Whether it lies in that mix, which has to cover it.
    pub bathed: bool,
    /// The cook's own usual dose, where her book knows one, and what was typed now.
    pub habit: Option<(GramsPerKg, GramsPerKg)>,
    /// What the scale would show at least and at most for that.
    pub weigh_between: Option<(Mass, Mass)>,
}

/// Over this a piece is saltier than cured meat, g/kg of what is eaten (common practice).
const CURED: f64 = 18.0;

/// What stands before the knife's cautions.
pub fn dose_cautions(facts: &DoseFacts) -> Vec<Caution> {
    use Severity::Amber;
    let weighing = Some(StepKind::LayOut);
    let mut said = Vec::new();
    let eaten = facts.eaten.0;
    if eaten > CURED {
        let text = format!("{eaten:.1} g/kg of what is eaten is saltier than cured meat; 7.5 to 12.5 is usual.");
        said.push(Caution::new("dose-high", Amber, text, "common practice", weighing));
    }
    if let Some(((name, _), (used, carries))) = facts.mix.zip(facts.carries) {
        let most = carries.in_g().round();
        if used.in_g() > carries.in_g() * 1.005 {
            let text = format!(
                "{:.0} g of {name} are more than lies on a piece of this size, about {most:.0} g at most: take less, or let it lie in it in a bag.",
                used.in_g()
            );
            said.push(Caution::new("mix-too-much", Amber, text, "common practice: 15 to 40 ml a dm²", weighing));
        } else if used.in_g() > carries.in_g() * 0.995 && facts.dose.to_weigh.in_g() >= 0.05 {
            let text =
                format!("No more than about {most:.0} g of {name} lie on a piece of this size: the rest of the salt goes on besides.");
            said.push(Caution::new("mix-carried", Severity::Note, text, "common practice: 15 to 40 ml a dm²", weighing));
        }
    }
    // A twentieth of a gram over is no more than a scale's last digit.
    let over = facts.dose.from_ledger - facts.dose.total;
    if over.in_g() >= 0.05 {
        said.push(Caution::new("ledger-full", Amber, over_full(facts, over), "our estimate", weighing));
    }
    said.extend(unknown_range(facts));
    // A fifth either way is within what a pinch does.
    if let Some((usual, typed)) = facts.habit.filter(|(usual, typed)| (typed.0 / usual.0.max(1e-9) - 1.0).abs() > HABIT) {
        let more = if typed.0 > usual.0 { "more" } else { "less" };
        let text = format!(
            "{:.1} g/kg is {:.0} % {more} than the {:.1} g/kg you usually take for such a piece: a spoon of another salt, or another pound?",
            typed.0,
            (typed.0 / usual.0 - 1.0).abs() * 100.0,
            usual.0
        );
        said.push(Caution::new("not-your-dose", Amber, text, "your own book", weighing));
    }
    said
}

/// A dose so far from the cook's own is pointed out.
const HABIT: f64 = 0.2;

/// What something of unknown salt may bring, and what that does to the scale.
fn unknown_range(facts: &DoseFacts) -> Option<Caution> {
    let (name, ..) = facts.between.first()?;
    let sum = |of: fn(&(&str, Mass, Mass)) -> f64| facts.between.iter().map(of).sum::<f64>();
    let (low, high) = (sum(|(_, low, _)| low.in_g()), sum(|(_, _, high)| high.in_g()));
    let (least, most) = facts.weigh_between.map(|(least, most)| (words::g(least), words::g(most)))?;
    let text = format!(
        "Nobody said how salty the {name} is: it brings {} to {} g of salt, which leaves {least} to {most} g to weigh; the middle is counted. Its label says: write it behind, like “8% salt”.",
        words::g(crate::units::grams(low)),
        words::g(crate::units::grams(high)),
    );
    Some(Caution::new("salt-range", Severity::Amber, text, "our estimate", Some(StepKind::LayOut)))
}

/// What is over, and what to leave out for it: the saltiest thing that can still be left out.
fn over_full(facts: &DoseFacts, over: Mass) -> String {
    let over_g = words::g(over);
    let saltiest = facts.ledger.iter().max_by(|a, b| a.salt_brought().in_g().total_cmp(&b.salt_brought().in_g()));
    let way_out = match (saltiest, facts.mix.filter(|(_, share)| *share > 1e-6)) {
        (Some(entry), _) if entry.salt_brought() > over => {
            let less = entry.used * (over / entry.salt_brought()).value;
            format!("leave out {:.0} g of the {}", less.in_g().ceil(), entry.name)
        }
        (Some(entry), _) => format!("leave out the {} altogether, and more", entry.name),
        (None, Some((name, _))) if facts.bathed => format!("thin the {name} with water, or let it lie in it for less time"),
        (None, Some((name, share))) => format!("leave out {:.0} g of the {name}", (over.in_g() / share).ceil()),
        (None, None) => "nothing can be taken out again; eat it in thinner slices, with something plain".into(),
    };
    format!("What is in already is {over_g} g over the target: weigh no salt, and {way_out}.")
}

/// Names near a curing salt's, and ingredients that nobody said the salt of.
pub fn name_cautions(facts: &DoseFacts) -> Vec<Caution> {
    let weighing = Some(StepKind::LayOut);
    let mut said = Vec::new();
    let mut names = std::iter::once(facts.salt.name.as_ref()).chain(facts.names.iter().copied());
    if let Some(name) = names.find(|name| curing_name(name) == CuringName::Near) {
        let text = format!(
            "“{name}” sounds near a curing salt. Read its packet: with nitrite or nitrate in it (E 249 to E 252) it is dosed differently, can poison at these amounts and must not be used here. Pink rock salt has none."
        );
        said.push(Caution::new("curing-name", Severity::Amber, text, "common practice", weighing));
    }
    if !facts.unknown.is_empty() {
        let text = format!(
            "Nobody said how salty this is: {}. Counted is the middle of what such things hold; write its label into the mix.",
            facts.unknown.join(", ")
        );
        said.push(Caution::new("salt-unknown", Severity::Note, text, "our estimate", weighing));
    }
    said
}

/// Potassium for those whom it harms, sodium for everybody.
pub fn mineral_cautions(facts: &DoseFacts) -> Vec<Caution> {
    let potassium = facts.salt.is_potassium_blend().then(|| {
        let text = format!(
            "{} holds potassium chloride: with kidney trouble or heart medicine ask a doctor first. It is dosed by its sodium chloride.",
            words::capital(&facts.salt.name)
        );
        Caution::new("potassium", Severity::Amber, text, "common practice", Some(StepKind::LayOut))
    });
    let text = format!(
        "About {:.0} mg sodium a serving; the WHO advises less than 2,000 mg a day, US labels count 2,300.",
        facts.sodium_per_serving.in_g() * 1000.0
    );
    potassium.into_iter().chain([Caution::new("sodium", Severity::Note, text, "WHO; US FDA", None)]).collect()
}

/// Shredded meat bears more, of what is pulled (TRADE 4.19: 15–18 g/kg).
pub fn pulled_dose(on_it: Mass) -> Caution {
    let text = format!(
        "Pulled apart it bears 15 to 18 g/kg of what is pulled, and salt has not reached its middle: weigh it, take off the {} g that went on, and salt the rest as it is turned over.",
        words::g(on_it)
    );
    Caution::new("pulled-dose", Severity::Note, text, "common practice", Some(StepKind::PullApart))
}
