//! What may go wrong with this plan: its rest, its dose, its measures, its knife, its salt, its clock.

use super::answer::{DosePlan, FridgePlan, PlanStep, SkinPlan};
use super::request::{BoughtScoring, PlanRequest};
use super::resolve::Resolved;
use super::rest_cautions::{RestAt, rest_cautions};
use super::skin::enters_lean;
use crate::caution::{Caution, Severity};
use crate::clock::in_the_night;
use crate::fire::FireAnswer;
use crate::method::StepKind;
use crate::piece::{Species, weight_mismatch};
use crate::salt::{CuringName, curing_name};
use crate::skin::{CoverWork, DepthSays, Fit};
use crate::units::{IntervalIn, LengthIn, Mass, MassIn, both_mass};
use crate::words;

/// What the cautions of a plan look at.
pub(super) struct Planned<'a> {
    pub request: &'a PlanRequest,
    pub with: &'a Resolved,
    pub dose: &'a DosePlan,
    pub fridge: &'a FridgePlan,
    pub skin: Option<&'a SkinPlan>,
    pub fire: &'a FireAnswer,
    pub steps: &'a [PlanStep],
}

pub(super) fn plan_cautions(plan: &Planned) -> Vec<Caution> {
    use Severity::{Amber, Note};
    const MODEL: &str = "our estimate";
    let Planned { request, with, dose, fridge, skin, .. } = *plan;
    let mut said = Vec::new();
    let rest = RestAt { hours: fridge.planned, rest: fridge.rest, state: &fridge.state, wet: fridge.wet, dry: fridge.model.dry };
    said.extend(rest_cautions(with, &rest));
    // Limits of the tongue are by what is eaten, whatever the dose is counted on.
    let eaten = with.dose.0 * (with.basis_weight() / with.edible_of(with.weight)).value;
    if eaten > 18.0 {
        said.push(Caution::new(
            "dose-high",
            Amber,
            format!("{eaten:.1} g/kg of what is eaten is saltier than cured meat; 7.5 to 12.5 is usual."),
            "common practice",
            Some(StepKind::LayOut),
        ));
    }
    // A twentieth of a gram over is no more than a scale's last digit.
    if (dose.dose.from_ledger - dose.dose.total).in_g() >= 0.05 {
        let over = dose.dose.from_ledger - dose.dose.total;
        said.push(Caution::new("ledger-full", Amber, over_full(request, dose, over), MODEL, Some(StepKind::LayOut)));
    }
    let measured = weight_mismatch(&request.cut, with.largest, with.mean_measures(), with.middle());
    if let Some(asked) = measured.filter(|_| request.portions.len() == 1) {
        said.push(Caution::new(
            "measures-disagree",
            Amber,
            format!(
                "Your measures say {}, the scale says {}: measure again.",
                both_mass(asked.measured).metric,
                both_mass(asked.typed).metric
            ),
            "density 1.05–1.06 kg/L",
            None,
        ));
    }
    said.extend(odd_thickness(request));
    said.extend(knife_cautions(request, skin));
    said.extend(names(request, with));
    said.extend(clock(plan));
    if let Some(past) = plan.fire.overshoots {
        let text = format!(
            "Too thin for this heat: it ends about {:.0} °C more than its finish before the skin is done. A thicker piece, or a hotter and shorter end.",
            past.in_kelvin()
        );
        said.push(Caution::new("overshoot", Amber, text, MODEL, Some(StepKind::Roast)));
    }
    if with.salt.is_potassium_blend() {
        said.push(Caution::new(
            "potassium",
            Amber,
            format!(
                "{} holds potassium chloride: with kidney trouble or heart medicine ask a doctor first. It is dosed by its sodium chloride.",
                crate::words::capital(&with.salt.name)
            ),
            "common practice",
            Some(StepKind::LayOut),
        ));
    }
    said.push(Caution::new(
        "sodium",
        Note,
        format!(
            "About {:.0} mg sodium a serving; the WHO advises less than 2,000 mg a day, US labels count 2,300.",
            dose.sodium_per_serving.in_g() * 1000.0
        ),
        "WHO; US FDA",
        None,
    ));
    said
}

/// What knife and pick may do wrong.
fn knife_cautions(request: &PlanRequest, skin: Option<&SkinPlan>) -> Vec<Caution> {
    use Severity::{Amber, Red};
    const GUARD: &str = "common practice";
    let mut said = Vec::new();
    let step = skin.map_or(StepKind::Pierce, |s| if s.work.scoring.is_some() { StepKind::Score } else { StepKind::Pierce });
    if let Some(skin) = skin.filter(|s| s.ask.cover != CoverWork::Whole) {
        if let Some(text) = &skin.refused {
            said.push(Caution::new("no-depth", Amber, format!("No safe depth: {text}."), GUARD, Some(step)));
        }
        let tool = &skin.ask.tool.name;
        match skin.work.fit {
            Some(Fit::TooShort(by)) => said.push(Caution::new(
                "tool-short",
                Amber,
                format!("The {tool} is {:.1} mm too short to pass the skin: take a longer one before the first cut.", by.in_mm()),
                GUARD,
                Some(step),
            )),
            Some(Fit::TooLong(by)) => said.push(Caution::new(
                "tool-long",
                Amber,
                format!("The {tool} goes {:.1} mm deeper than is safe and cannot be set: take another.", by.in_mm()),
                GUARD,
                Some(step),
            )),
            _ => {}
        }
        match skin.work.says {
            DepthSays::IntoLean(by) => said.push(Caution::new(
                "into-lean",
                Red,
                format!(
                    "That depth goes {:.1} mm into the lean where fat is thinnest: juice comes up and spoils the crackling.",
                    by.in_mm()
                ),
                GUARD,
                Some(step),
            )),
            DepthSays::InMargin(by) => said.push(Caution::new(
                "into-margin",
                Amber,
                format!("{:.1} mm deeper than is safe at the thinnest place; the lean is near.", by.in_mm()),
                GUARD,
                Some(step),
            )),
            DepthSays::TooShallow(by) => said.push(Caution::new(
                "too-shallow",
                Amber,
                format!("{:.1} mm short of passing the thickest skin.", by.in_mm()),
                GUARD,
                Some(step),
            )),
            DepthSays::Safe => {}
        }
    }
    if request.scored == Some(BoughtScoring::IntoLean) || enters_lean(skin) {
        said.push(Caution::new(
            "non-intact",
            Amber,
            if request.cut.species == Species::Poultry {
                "Cut into the lean: no longer intact meat. At least 74 °C (165 °F) all through; pink preferences do not apply."
            } else {
                "Cut into the lean: no longer intact meat. At least 63 °C (145 °F) and 3 min of rest all through; rare preferences do not apply."
            },
            "USDA FSIS, non-intact meat",
            Some(StepKind::Roast),
        ));
    }
    said
}

/// What is over, and what to leave out for it: the saltiest thing that can still be left out.
fn over_full(request: &PlanRequest, dose: &DosePlan, over: Mass) -> String {
    let over_g = words::g(over);
    let saltiest = request.ledger.iter().max_by(|a, b| a.salt_brought().in_g().total_cmp(&b.salt_brought().in_g()));
    let way_out = match saltiest {
        Some(entry) if entry.salt_brought() > over => {
            let less = entry.used * (over / entry.salt_brought()).value;
            format!("leave out {:.0} g of the {}", less.in_g().ceil(), entry.name)
        }
        Some(entry) => format!("leave out the {} altogether, and more", entry.name),
        None if dose.mix.as_ref().is_some_and(|m| m.share > 1e-6) => {
            let (name, share) = dose.mix.as_ref().map_or(("", 1.0), |m| (m.name.as_str(), m.share));
            format!("leave out {:.0} g of the {name}", (over.in_g() / share).ceil())
        }
        None => "nothing can be taken out again; eat it in thinner slices, with something plain".into(),
    };
    format!("What is in already is {over_g} g over the target: weigh no salt, and {way_out}.")
}

/// A thickness far from what the cut has: a slip of the ruler, or another cut.
fn odd_thickness(request: &PlanRequest) -> Option<Caution> {
    let (thin, _, thick) = request.cut.thickness_mm;
    let said = request.portions.iter().filter_map(|p| p.thickness).chain(request.thickness).map(LengthIn::in_mm);
    let odd = said.into_iter().find(|mm| *mm < thin * 0.65 || *mm > thick * 1.6)?;
    let text = format!(
        "{odd:.0} mm is unusual for {}: {thin:.0} to {thick:.0} mm is what it has. Hours and heat go by what you said.",
        request.cut.name.to_lowercase()
    );
    Some(Caution::new("measure-odd", Severity::Amber, text, "common practice", None))
}

/// Names near a curing salt's, and ingredients that nobody said the salt of.
fn names(request: &PlanRequest, with: &Resolved) -> Vec<Caution> {
    let mut said = Vec::new();
    let mix = request.mix.as_ref();
    let parts = mix.into_iter().flat_map(|m| m.mix.parts.iter().map(|p| p.name.clone()).chain([m.mix.name.clone()]));
    let ledger = request.ledger.iter().map(|entry| entry.name.clone());
    let near = [with.salt.name.to_string()].into_iter().chain(parts).chain(ledger).find(|name| curing_name(name) == CuringName::Near);
    if let Some(name) = near {
        let text = format!(
            "“{name}” sounds near a curing salt. Read its packet: with nitrite or nitrate in it (E 249 to E 252) it is dosed differently, can poison at these amounts and must not be used here. Pink rock salt has none."
        );
        said.push(Caution::new("curing-name", Severity::Amber, text, "common practice", Some(StepKind::LayOut)));
    }
    let unknown = mix.map(|m| m.mix.unknown().join(", ")).filter(|names| !names.is_empty());
    if let Some(names) = unknown {
        let text = format!("Counted as unsalted, since nobody said how salty: {names}. Write its label into the mix.");
        said.push(Caution::new("salt-unknown", Severity::Note, text, "our estimate", Some(StepKind::LayOut)));
    }
    said
}

/// Where salted meat lay that nobody put into the cold, and hands at night.
fn clock(plan: &Planned) -> Vec<Caution> {
    let request = plan.request;
    let mut said = Vec::new();
    if let Some(out) = out_since_salted(request) {
        let hours = out.as_secs_f64() / 3600.0;
        let severity = if hours > 2.0 { Severity::Red } else { Severity::Amber };
        let text = format!(
            "Salted {hours:.1} h ago, and nobody said that it went into the refrigerator: where did it lie? Above 4.4 °C (40 °F) for more than 2 h it is discarded. If it lay cold, say since when."
        );
        said.push(Caution::new("where-lay", severity, text, "USDA FSIS 2-hour rule", Some(StepKind::Chill)));
    }
    if let Some(night) = in_the_night(plan.steps, request.kitchen.quiet, request.now.time_zone()) {
        let at = night.starts.to_zoned_datetime(request.now.time_zone().clone());
        let text = format!("{} at {}: that is in your quiet hours.", night.step.title, at.strftime("%H:%M"));
        said.push(Caution::new("night-work", Severity::Note, text, "your own quiet hours", Some(night.step.kind)));
    }
    said
}

/// How long it has been salted without anybody having put it into the cold; `None` within a quarter of an hour.
pub(super) fn out_since_salted(request: &PlanRequest) -> Option<jiff::SignedDuration> {
    let salted = super::rest::salted_at(request)?;
    let cold = request.done.iter().any(|d| d.kind == StepKind::Chill);
    let out = request.now.timestamp().duration_since(salted);
    (!cold && out > jiff::SignedDuration::from_mins(15)).then_some(out)
}
