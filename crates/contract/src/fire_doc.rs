//! The heat on the wire: where it is to end, its stages, its curve.

use crate::to_doc::{instant, r4};
use rauchkeller_core::fire::{FireStage, HeatPoint, StageEnd};
use rauchkeller_core::method::StepKind;
use rauchkeller_core::plan::{Plan, PlanStep};
use rauchkeller_core::units::{IntervalIn, LengthIn, Temperature, TemperatureIn, Time, TimeIn};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The heat.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FireDoc {
    /// Where each place has to arrive.
    pub targets: Vec<TargetDoc>,
    /// How far the core climbs after the heat.
    pub carry_over_k: f64,
    /// Between what and what it may climb; each target is planned so that the low end still reaches the authority's least.
    #[serde(default)]
    pub carry_over_band_k: (f64, f64),
    /// Core at the end of the stage that waits for it.
    #[serde(default)]
    pub stage_end_c: f64,
    /// All stages.
    pub minutes: f64,
    /// Lower end of the band.
    pub minutes_low: f64,
    /// Upper end.
    pub minutes_high: f64,
    /// What the trade's rule says; null where the trade has none for this cut.
    pub trade_minutes: Option<f64>,
    /// The rule, with the size it was made for.
    pub trade_rule: Option<String>,
    /// Whether this piece is near that size.
    pub trade_near_its_size: Option<bool>,
    /// The rule's own span, minutes at least and at most.
    #[serde(default)]
    pub trade_span_min: Option<(f64, f64)>,
    /// Whether this heat is the one it was made for.
    #[serde(default)]
    pub trade_its_heat: Option<bool>,
    /// Why the model says another time; null within a third.
    #[serde(default)]
    pub trade_differs: Option<String>,
    /// What gives the heat; empty in plans of before there was a choice.
    #[serde(default)]
    pub with: String,
    /// How hot that gets.
    #[serde(default)]
    pub max_c: f64,
    /// Its stages, in order.
    #[serde(default)]
    pub stages: Vec<StageDoc>,
    /// From the refrigerator to the heat.
    #[serde(default)]
    pub temper_min: f64,
    /// Until the heat is up.
    #[serde(default)]
    pub preheat_min: f64,
    /// Rest after it.
    #[serde(default)]
    pub rest_min: f64,
    /// How it rests: `open` or `tented`.
    #[serde(default)]
    pub rest: String,
    /// Held warm after the rest, at least and at most; null not at all.
    #[serde(default)]
    pub hold_h: Option<(f64, f64)>,
    /// How many minutes of that are planned: what the heat may take longer than forecast.
    #[serde(default)]
    pub held_min: f64,
    /// Whether the rule of the trade is the later one and the plan goes by it.
    #[serde(default)]
    pub by_rule: bool,
    /// What the method's longest stage usually takes, where that would not have cooked this piece.
    #[serde(default)]
    pub usual_min: Option<f64>,
    /// Where the core ends, climb included.
    #[serde(default)]
    pub ends_c: f64,
    /// By how much it ends past its finish; null where it does not.
    #[serde(default)]
    pub overshoots_k: Option<f64>,
    /// By how much it ends below its finish; null where it does not.
    #[serde(default)]
    pub short_by_k: Option<f64>,
    /// Whole minutes for which the middle lies between 10 and 54.4 °C.
    #[serde(default)]
    pub middle_grows_min: f64,
    /// Whole minutes for which the surface is below 54.4 °C in the heat, with the time out of the refrigerator before.
    #[serde(default)]
    pub surface_grows_min: f64,
    /// Whole minutes for which the surface is below 60 °C after the heat.
    #[serde(default)]
    pub cools_min: f64,
    /// Where minutes end it: the lowest end of the place with least to spare, if the heat goes in a third slower; null where a probe says
    /// when.
    #[serde(default)]
    pub slow_low_c: Option<f64>,
    /// What the heat does to the skin; null without skin. An estimate.
    #[serde(default)]
    pub skin: Option<CrispDoc>,
    /// Cooked ahead and chilled: how it is heated again; null where it is heated once.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub again: Option<AgainDoc>,
    /// From the heat to the end of the rest: minutes, then what surrounds it, its surface, its core, °C.
    #[serde(default)]
    pub curve: Vec<[f64; 4]>,
}

/// Skin through the heat.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CrispDoc {
    /// How dry it goes in.
    pub dryness_in: f64,
    /// How dry it is when the fierce heat begins; null where its surface never comes to where skin puffs.
    #[serde(default)]
    pub dryness_fierce: Option<f64>,
    /// Whether it puffs in patches only.
    #[serde(default)]
    pub patchy: bool,
    /// How dry it comes out.
    pub dryness_out: f64,
    /// The hottest its surface gets.
    pub surface_max_c: f64,
    /// Minutes in the heat after which it puffs; null where it does not.
    pub puffs_min: Option<f64>,
    /// Minutes for which it stays as hot after that.
    #[serde(default)]
    pub scorches_min: f64,
}

/// The second heat.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct AgainDoc {
    /// How long it lies in the refrigerator before, cooked.
    pub chilled_h: f64,
    /// It lies there in parts no thicker than this; null where the piece itself is no thicker.
    pub parts_mm: Option<f64>,
    /// What heats it.
    pub with: String,
    /// Temperature of air or metal.
    pub air_c: f64,
    /// How it lies in it.
    pub how: String,
    /// How long it takes, from the refrigerator.
    pub minutes: f64,
    /// Lower end of the band.
    pub minutes_low: f64,
    /// Upper end.
    pub minutes_high: f64,
    /// Out when the middle reads this.
    pub out_c: f64,
    /// When it begins.
    pub starts_at: String,
    /// When it ends.
    pub ends_at: String,
    /// From the heat to the end of the rest: minutes, then what surrounds it, its surface, its core, °C.
    pub curve: Vec<[f64; 4]>,
}

impl FireDoc {
    /// The place a finish is said of: the breast of a bird, else the one that has to arrive.
    pub fn asked(&self) -> Option<&TargetDoc> {
        self.targets.iter().find(|target| target.at == "breast").or(self.targets.first())
    }
}

/// One stage of the heat.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct StageDoc {
    /// What gives the heat.
    pub with: String,
    /// Temperature of air, metal or spit.
    pub air_c: f64,
    /// Whether that is a guess for a word.
    pub air_guessed: bool,
    /// How the piece lies in it.
    pub how: String,
    /// How long it takes.
    pub minutes: f64,
    /// Lower end of the band; the same where the minutes were said.
    pub minutes_low: f64,
    /// Upper end.
    pub minutes_high: f64,
    /// Core at its end.
    pub core_c: f64,
    /// Turned so often; null not at all.
    pub flip_min: Option<f64>,
    /// Where the dial is to stand for that air; null where nobody knows that it is off.
    #[serde(default)]
    pub dial_c: Option<f64>,
    /// How many of its minutes the appliance still comes up from the stage before; null where it is there. Our estimate.
    #[serde(default)]
    pub comes_up_min: Option<f64>,
    /// When it begins.
    pub starts_at: String,
    /// When it ends.
    pub ends_at: String,
}

/// One place that has to arrive.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TargetDoc {
    /// `core`, `breast` or `thigh`.
    #[serde(rename = "where")]
    pub at: String,
    /// Out of the heat.
    pub pull_c: f64,
    /// After the rest.
    pub finish_c: f64,
    /// The authority's least.
    pub authority_c: f64,
    /// Who that is.
    pub authority: String,
    /// Whether the lowest it may end at lies below it.
    pub below_authority: bool,
    /// Where it may end: the lowest, as expected, the highest.
    #[serde(default)]
    pub ends_c: [f64; 3],
}

/// Writes the heat of a plan.
pub(crate) fn fire_doc(plan: &Plan) -> FireDoc {
    let fire = &plan.fire;
    FireDoc {
        targets: fire
            .targets
            .iter()
            .map(|t| TargetDoc {
                at: t.at.id().into(),
                pull_c: r4(t.pull.in_c()),
                finish_c: r4(t.finish.in_c()),
                authority_c: (t.authority.in_c() * 10.0).round() / 10.0,
                authority: t.authority_source.into(),
                below_authority: t.below_authority(),
                ends_c: [t.ends.low, t.ends.mid, t.ends.high].map(|c| r4(c.in_c())),
            })
            .collect(),
        carry_over_k: r4(fire.answer.carry_over.in_kelvin()),
        carry_over_band_k: (r4(fire.answer.band.0.in_kelvin()), r4(fire.answer.band.1.in_kelvin())),
        stage_end_c: r4(fire.answer.core_at_stage_end.in_c()),
        minutes: r4(fire.answer.takes.in_min()),
        minutes_low: r4(fire.answer.low.in_min()),
        minutes_high: r4(fire.answer.high.in_min()),
        trade_minutes: fire.trade.as_ref().map(|t| r4(t.minutes())),
        trade_rule: fire.trade.as_ref().map(|t| t.rule.into()),
        trade_span_min: fire.trade.as_ref().map(|t| (r4(t.takes.0.in_min()), r4(t.takes.1.in_min()))),
        trade_its_heat: fire.trade.as_ref().map(|t| t.its_heat),
        trade_differs: fire.trade.as_ref().and_then(|t| t.why_differs(fire.answer.takes)).map(str::to_owned),
        trade_near_its_size: fire.trade.as_ref().map(|t| t.near_its_size),
        with: fire.with.id().into(),
        max_c: r4(plan.request.kitchen.heat.of(fire.with).in_c()),
        stages: stage_docs(plan),
        temper_min: r4(fire.temper.in_min()),
        preheat_min: r4(fire.preheat.in_min()),
        rest_min: r4(fire.rest.in_min()),
        rest: fire.resting.id().into(),
        hold_h: fire.hold.map(|(least, most)| (r4(least.in_h()), r4(most.in_h()))),
        held_min: r4(fire.held.in_min()),
        by_rule: fire.by_rule,
        usual_min: fire.lengthened.map(|usual| r4(usual.in_min())),
        ends_c: r4(fire.answer.ends.in_c()),
        middle_grows_min: fire.growing.middle.in_min().round(),
        surface_grows_min: fire.growing.surface.in_min().round(),
        cools_min: fire.growing.cools.in_min().round(),
        slow_low_c: fire.growing.slow_low.map(|c| r4(c.in_c())),
        overshoots_k: fire.answer.overshoots.map(|k| r4(k.in_kelvin())),
        short_by_k: fire.answer.short_by.map(|k| r4(k.in_kelvin())),
        skin: fire.crisp.map(|skin| CrispDoc {
            dryness_in: r4(skin.before.0),
            dryness_out: r4(skin.after.0),
            surface_max_c: r4(skin.hottest.in_c()),
            dryness_fierce: skin.begins.map(|dry| r4(dry.0)),
            patchy: skin.is_patchy(),
            puffs_min: skin.puffs.map(|at| r4(at.in_min())),
            scorches_min: r4(skin.scorches.in_min()),
        }),
        again: again_doc(plan),
        curve: curve_doc(&fire.curve),
    }
}

fn curve_doc(curve: &[HeatPoint]) -> Vec<[f64; 4]> {
    curve.iter().map(|p| [p.after.in_min(), p.air.in_c(), p.surface.in_c(), p.core.in_c()].map(r1)).collect()
}

/// The second heat with the hours of its task.
fn again_doc(plan: &Plan) -> Option<AgainDoc> {
    let ((again, kept), zone) = (plan.fire.again.as_ref()?, plan.request.now.time_zone());
    let task = plan.steps.iter().find(|task| task.step.kind == StepKind::HeatAgain)?;
    Some(AgainDoc {
        chilled_h: r4(kept.in_h()),
        parts_mm: again.parts.map(|thick| r4(thick.in_mm())),
        with: again.stage.with.id().into(),
        air_c: r4(again.stage.air.in_c()),
        how: again.stage.how.id().into(),
        minutes: r4(again.takes.in_min()),
        minutes_low: r4(again.low.in_min()),
        minutes_high: r4(again.high.in_min()),
        out_c: r4(again.out_at.in_c()),
        starts_at: instant(task.starts, zone),
        ends_at: instant(task.ends, zone),
        curve: curve_doc(&again.curve),
    })
}

/// Each stage with the hours of its task.
fn stage_docs(plan: &Plan) -> Vec<StageDoc> {
    let (fire, zone) = (&plan.fire, plan.request.now.time_zone());
    let tasks = plan.steps.iter().filter(|task| task.step.is_stage());
    let stages = fire.stages.iter().zip(fire.answer.stages.iter().zip(&fire.answer.cores));
    let doc = |(i, (stage, (takes, core))): (usize, (&FireStage, (&Time, &Temperature))), task: &PlanStep| {
        let before = i.checked_sub(1).and_then(|i| fire.stages.get(i));
        let said = stage.own && matches!(stage.until, StageEnd::After(_));
        let band = |share: f64| if said { r4(takes.in_min()) } else { (takes.in_min() * share).round() };
        StageDoc {
            with: stage.with.id().into(),
            air_c: r4(stage.air.in_c()),
            air_guessed: stage.guessed,
            how: stage.how.id().into(),
            minutes: r4(takes.in_min()),
            minutes_low: band(0.75),
            minutes_high: band(1.33),
            core_c: r4(core.in_c()),
            flip_min: stage.flip.map(|flip| r4(flip.in_min())),
            dial_c: plan.request.kitchen.heat.dial_for(stage.with, stage.air).map(|at| r4(at.in_c())),
            comes_up_min: before.and_then(|before| stage.comes_up_after(before)).map(|time| r4(time.in_min())),
            starts_at: instant(task.starts, zone),
            ends_at: instant(task.ends, zone),
        }
    };
    stages.enumerate().zip(tasks).map(|(stage, task)| doc(stage, task)).collect()
}

/// To a tenth: a curve is drawn, not reckoned with.
fn r1(value: f64) -> f64 {
    (value * 10.0).round() / 10.0
}
