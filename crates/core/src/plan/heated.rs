//! The piece in the heat: its stages, how long each takes, where it is pulled.

use super::fire_ask::{FireWhole, Skin, start_of};
use super::hung_ask::{never_due, no_wood};
use super::parts::FirePlan;
use crate::ask::{Added, PlanRequest, Refusal};
use crate::caution::Growing;
use crate::fire::{
    Again, Body, Crisp, CrispAsk, Ends, FinishTarget, FireAnswer, HeatPoint, HeatSpell, Heating, PortionHeat, RAW_BELOW_C, StageEnd,
    TradeTime, Where, body, crisp, fire_plan, fire_takes, heat_curve, in_the_heat, spells, staggered, stuffing_target, targets, trade_time,
};
use crate::piece::{Cut, Family, FireShape, Lying, Reshape};
use crate::salt::CoverKind;
use crate::settle::no_tempering;
use crate::settle::shapes;
use crate::settle::{Resolved, ResolvedPortion};
use crate::units::{
    Dryness, IntervalIn, LengthIn, MassIn, Temperature, TemperatureIn, Time, TimeIn, celsius, hours, kelvin, millimetres, minutes,
};
use crate::words;
use crate::work::RecipeHeat;

/// The piece in the heat.
pub(crate) struct Heated {
    /// The heat made whole.
    pub whole: FireWhole,
    start: Temperature,
    lead: FinishTarget,
    /// Each place that has to arrive, the one that leads first.
    pub finish: Vec<FinishTarget>,
    in_heat: Body,
    pub fire: FireAnswer,
    /// Air, surface and core from the heat to the end of the rest.
    pub curve: Vec<HeatPoint>,
    /// What the heat does to its skin; `None` without skin, and before the cold is reckoned.
    pub crisp: Option<Crisp>,
    /// Each portion's own minutes and pull, in the order in which they were said; empty for one.
    pub portions: Vec<PortionHeat>,
    /// The rule of the trade, where there is one.
    pub trade: Option<TradeTime>,
    /// Cooked ahead: how it is heated again.
    pub again: Option<Again>,
}

/// So long a joint that is done sooner than a rule says waits warm at most (our estimate, as for one that is smoked).
const WAITS_WARM_H: f64 = 4.0;
/// Done so far it does not go on cooking where it is kept warm, °C (USDA FSIS: held at 140 °F).
const WAITS_WARM_C: f64 = 60.0;

impl Heated {
    /// The method's heat for this piece with what the cook said of it; meat that was cut into goes to the authority's temperature at
    /// least.
    pub(super) fn of(request: &PlanRequest, resolved: &Resolved, into_lean: bool) -> Result<Self, Vec<Refusal>> {
        let cut = request.cut;
        let mut whole = FireWhole::of(request, &resolved.method);
        let mut finish = finish_targets(request, &whole, into_lean)?;
        let Some(lead) = finish.first().copied() else {
            return Err(vec![Refusal::new("piece.cut", cut.id, "a cut with a finish temperature", "Choose another cut.")]);
        };
        let start = start_of(request, whole.stands());
        let (film, on_one_side) = (whole.film(), whole.on_one_side());
        let skin = skin_of(resolved);
        let cooked = |whole: &FireWhole| {
            slowest(resolved, |p| body(cut, p.heated, (start, film), on_one_side), &|body: Body| {
                fire_plan(&whole.ask(body, &lead, (cut, skin)))
            })
        };
        let (mut in_heat, mut fire) = cooked(&whole);
        if fire.pull + fire.band.0 < lead.authority && whole.wait_for_the_core() {
            (in_heat, fire) = cooked(&whole);
        }
        stuck(&whole, &lead, &fire)?;
        if whole.finish_follows() {
            // With a pull of her own, or a fork, the finish is what comes of it.
            (fire.overshoots, fire.short_by) = (None, None);
            for target in finish.iter_mut().filter(|target| target.at != Where::Stuffing) {
                target.finish = fire.ends;
            }
        }
        let lead = finish.first().copied().unwrap_or(lead);
        pull(&mut finish, &lead, &fire, whole.pull_is_own());
        if !fire.by_minutes() {
            cut_into(request, &finish, into_lean)?;
        }
        raw_inside(request, &whole, &fire, into_lean)?;
        let portions = each_portion(resolved, |p| body(cut, p.heated, (start, film), on_one_side), &|body: Body| {
            fire_plan(&whole.ask(body, &lead, (cut, skin)))
        });
        let portions = match (whole.stages.first(), fire.stages.first()) {
            (Some(first), Some(lasts)) => staggered(portions, first, *lasts),
            _ => portions,
        };
        let (rest, resting) = whole.after_the_heat();
        let curve = heat_curve(in_heat, &fire, &Heating { stages: &whole.stages, rest, resting });
        never_due(request, &whole.stages, &fire.stages, &curve)?;
        let trade = trade_time(as_it_is_cut(request), resolved.largest, resolved.thickness, &whole.stages);
        let again = heated_again(&whole, resolved, cut)?;
        let mut heated = Self { whole, start, lead, finish, in_heat, fire, curve, crisp: None, portions, trade, again };
        let waits = cut.family == Family::Joint && heated.finish.iter().all(|target| target.ends.mid.in_c() >= WAITS_WARM_C);
        if waits && request.fire.hold.is_none() && heated.rule_is_later().is_some() {
            heated.whole.hold = heated.whole.hold.or(Some((minutes(0.0), hours(WAITS_WARM_H))));
        }
        Ok(heated)
    }

    /// What a rule for this heat and this size says at most, where model and rule do not agree and the rule's is the later.
    fn rule_is_later(&self) -> Option<Time> {
        let rule = self.trade.as_ref().filter(|rule| rule.its_heat && rule.near_its_size && rule.takes.0 > self.fire.takes)?;
        rule.why_differs(self.fire.takes).map(|_| rule.takes.1)
    }

    /// Whether the plan leaves the rule's time: two clocks that do not agree are planned by the later one, and what is done sooner is
    /// held.
    pub(super) fn goes_by_the_rule(&self) -> bool {
        self.whole.hold.is_some() && self.rule_is_later().is_some()
    }

    /// Follows the skin through the heat, as dry as it came out of the cold.
    pub(super) fn follow_skin(&mut self, request: &PlanRequest, resolved: &Resolved, dry: Option<Dryness>) {
        let crust = request.cover.is_some_and(|cover| cover.kind == CoverKind::Crust);
        let (skin, fat, radius) = (resolved.skin, resolved.fat, self.in_heat.radius);
        let (stages, takes, curve) = (&self.whole.stages[..], &self.fire.stages[..], &self.curve[..]);
        let follow = |before| crisp(&CrispAsk { skin, fat, radius, before, stages, takes, curve, crust });
        self.crisp = dry.filter(|_| skin.in_mm() > 0.0).map(follow);
    }

    /// How long it is planned to be held warm: what the heat may take longer than forecast, by the model or by a rule that it does not
    /// agree with, within what was said. Then the meal is on time even where it takes its longest.
    pub(super) fn held(&self) -> Time {
        let Some((least, most)) = self.whole.hold else { return minutes(0.0) };
        let longest = self.rule_is_later().map_or(self.fire.high, |rule| if rule > self.fire.high { rule } else { self.fire.high });
        let spare = minutes(((longest - self.fire.takes).in_min() / 5.0).ceil() * 5.0);
        if spare < least {
            least
        } else if spare > most {
            most
        } else {
            spare
        }
    }

    /// The heat of a plan; cooked ahead it lies in the cold for so long in between.
    pub(super) fn into_fire(self, growing: Growing, cooked: Time) -> FirePlan {
        FirePlan {
            held: self.held(),
            by_rule: self.goes_by_the_rule(),
            lengthened: self.whole.lengthened,
            targets: self.finish,
            trade: self.trade,
            answer: self.fire,
            with: self.whole.with,
            stages: self.whole.stages,
            curve: self.curve,
            crisp: self.crisp,
            portions: self.portions,
            growing,
            temper: self.whole.temper,
            preheat: self.whole.preheat,
            rest: self.whole.rest,
            resting: self.whole.resting,
            hold: self.whole.hold,
            again: self.again.map(|again| (again, cooked)),
        }
    }

    /// What the steps are written for; `added` are the tasks of the cook's own.
    pub(super) fn recipe<'a>(&'a self, request: &PlanRequest, resolved: &Resolved, added: &'a [Added]) -> RecipeHeat<'a> {
        RecipeHeat {
            stages: &self.whole.stages,
            preheat: self.whole.preheat,
            temper: self.whole.temper,
            temper_said: request.fire.temper.or(resolved.method.says.fire.temper).is_some() || no_tempering(request),
            rest: self.whole.rest,
            resting: request.fire.resting.or(resolved.method.says.fire.resting),
            hold: self.whole.hold,
            held: self.held(),
            curve: &self.curve,
            shield: self.crisp.filter(Crisp::scorches_first).and_then(|skin| skin.puffs),
            added,
            own: request.kitchen.heat,
            no_wood: no_wood(request),
            portions: &self.portions,
            again: self.again.as_ref(),
        }
    }

    /// The air it stands in from the refrigerator, or only from the heat, to the table, and for how long.
    ///
    /// Cooked ahead it lies in the cold for so long in between, and is heated again.
    pub(super) fn air(&self, standing_too: bool, (kept, cold): (Time, Temperature)) -> Vec<HeatSpell> {
        let stands = if standing_too { self.whole.stands() } else { minutes(0.0) };
        let mut air = in_the_heat(self.in_heat, &self.fire, &self.whole.stages, &self.curve, stands);
        if let Some(again) = &self.again {
            air.push(HeatSpell { takes: kept, mean: cold, soaks: false });
            air.extend(spells(&again.curve));
        }
        air
    }

    /// What five millimetres more of thickness would add to the heat: asked where the thickness was guessed and rules the heat
    /// alone. Where the hours do not follow the thickness, the heat still may; a hollow bird's follows its weight.
    pub(super) fn thicker_takes(&self, request: &PlanRequest, resolved: &Resolved) -> Option<Time> {
        let own_hours = resolved.method.chill_hours().is_some();
        let guessed = resolved.guessed.contains(&"piece.salt_thickness_mm");
        let asks = own_hours && guessed && !matches!(request.cut.fire, FireShape::HollowBird { .. });
        asks.then(|| self.with_more(request, resolved))
    }

    /// What five millimetres more of thickness would add to the heat.
    fn with_more(&self, request: &PlanRequest, resolved: &Resolved) -> Time {
        let cut = request.cut;
        let more = |p: &ResolvedPortion| {
            let thicker = Lying { thickness: p.heated.thickness + millimetres(5.0), ..p.heated };
            let body = body(cut, thicker, (self.start, self.whole.film()), self.whole.on_one_side());
            fire_takes(&self.whole.ask(body, &self.lead, (cut, skin_of(resolved))))
        };
        let (thickest, heaviest) = (resolved.thickest_index(), resolved.heaviest_index());
        let other = (heaviest != thickest).then_some(heaviest);
        let longest = [Some(thickest), other].into_iter().flatten().filter_map(|i| resolved.portions.get(i)).map(more);
        longest.fold(minutes(0.0), |most, takes| if takes > most { takes } else { most }) - self.fire.takes
    }
}

/// The second heat, where there is one; refused where it never gets there.
fn heated_again(whole: &FireWhole, resolved: &Resolved, cut: Cut) -> Result<Option<Again>, Vec<Refusal>> {
    let Some(stage) = whole.again else { return Ok(None) };
    let again = Again::of(cut, resolved.thickest().heated, stage, (whole.rest, whole.resting));
    if again.stuck {
        let typed = format!("{} °C", words::c(stage.air));
        let allowed = format!("air that takes the middle to {} °C within a day", words::c(again.out_at));
        return Err(vec![Refusal::new("fire.again.air_c", typed, allowed, "Make it hotter: 150 °C, covered, is usual.")]);
    }
    Ok(Some(again))
}

/// The cut whose rules it goes by: a cap that is cut into strips goes by those of strips.
fn as_it_is_cut(request: &PlanRequest) -> Cut {
    let strips = shapes(request, &request.the_method()).iter().any(|(_, shape)| *shape == Reshape::Strips);
    request.cut.in_strips().filter(|_| strips).unwrap_or(request.cut)
}

/// Its skin and the fat under it.
fn skin_of(resolved: &Resolved) -> Skin {
    (resolved.skin.in_mm() > 0.0).then_some((resolved.skin, resolved.fat))
}

/// Time follows the portion that takes longest: the thickest or the heaviest, whichever that is.
fn slowest(resolved: &Resolved, shape: impl Fn(&ResolvedPortion) -> Body, heat: &impl Fn(Body) -> FireAnswer) -> (Body, FireAnswer) {
    let thickest = shape(resolved.thickest());
    let first = (thickest, heat(thickest));
    let heaviest = resolved.portions.get(resolved.heaviest_index()).map(shape).filter(|other| *other != thickest);
    match heaviest.map(|body| (body, heat(body))) {
        // Where minutes end it both take the same, and the colder one is asked about.
        Some(other) if other.1.takes > first.1.takes || other.1.takes == first.1.takes && other.1.pull < first.1.pull => other,
        _ => first,
    }
}

/// Portions as thick as each other within so much share a forecast, mm.
const ALIKE_MM: f64 = 2.0;
/// And no more are made for a dish.
const MOST_FORECASTS: f64 = 8.0;

/// Each portion's own minutes and pull: of those about as thick, that of the thickest. Empty where there is one.
fn each_portion(resolved: &Resolved, shape: impl Fn(&ResolvedPortion) -> Body, heat: &impl Fn(Body) -> FireAnswer) -> Vec<PortionHeat> {
    if resolved.portions.len() < 2 {
        return vec![];
    }
    let thick = |p: &ResolvedPortion| p.heated.thickness.in_mm();
    let (least, most) = resolved.portions.iter().map(thick).fold((f64::INFINITY, 0.0f64), |(a, b), mm| (a.min(mm), b.max(mm)));
    let alike = ALIKE_MM.max((most - least) / (MOST_FORECASTS - 0.5));
    let mut thickest: Vec<&ResolvedPortion> = resolved.portions.iter().collect();
    thickest.sort_by(|a, b| thick(b).total_cmp(&thick(a)).then(b.weight.in_g().total_cmp(&a.weight.in_g())));
    let mut forecasts: Vec<(f64, PortionHeat)> = Vec::new();
    for portion in thickest {
        if forecasts.last().is_none_or(|(mm, _)| mm - thick(portion) > alike) {
            let answer = heat(shape(portion));
            let climbs = [answer.band.0, answer.carry_over, answer.band.1];
            forecasts.push((
                thick(portion),
                PortionHeat {
                    thickness: portion.heated.thickness,
                    takes: answer.takes,
                    pull: answer.pull,
                    ends: Ends::after(answer.pull, climbs),
                    waits: minutes(0.0),
                },
            ));
        }
    }
    let of = |p: &ResolvedPortion| {
        let shared = forecasts.iter().rev().find(|(mm, _)| *mm + 1e-9 >= thick(p));
        shared.map(|(_, heat)| PortionHeat { thickness: p.thickness, ..*heat })
    };
    resolved.portions.iter().filter_map(of).collect()
}

/// Each place is pulled as far before its finish as the climb is counted on; for the authority's own temperature never
/// further than the low end of the climb. Where minutes end it, or a pull of the cook's own, each place is as far as the one that is
/// reckoned: nobody waits for another. A breast whose bird waits for the thigh comes further than it has to.
fn pull(finish: &mut [FinishTarget], lead: &FinishTarget, fire: &FireAnswer, own: bool) {
    let before = lead.finish.in_c() - fire.pull.in_c();
    let climbs = [fire.band.0, fire.carry_over, fire.band.1];
    // The middle of a stuffing is no warmer than the meat round it, and is counted on without a climb.
    let none = kelvin(0.0);
    for (i, target) in finish.iter_mut().enumerate() {
        let stuffing = target.at == Where::Stuffing;
        target.pull = if i == 0 || fire.by_minutes() || own {
            fire.pull
        } else if stuffing {
            target.finish
        } else {
            let counted = target.finish.in_c() - before.max(0.0);
            let safe = target.authority.in_c() - fire.band.0.in_kelvin();
            celsius(if target.wanted_below() { counted } else { counted.max(safe) })
        };
        target.ends = Ends::after(target.pull, if stuffing { [none, none, fire.band.1] } else { climbs });
        if target.at == Where::Breast && target.pull < fire.pull {
            (target.ends.mid, target.ends.high) = (fire.pull + climbs[1], fire.pull + climbs[2]);
        }
    }
}

/// Finish targets: the cut's or the cook's; meat whose outside was cut into its inside goes to the authority's temperature at least.
fn finish_targets(request: &PlanRequest, whole: &FireWhole, into_lean: bool) -> Result<Vec<FinishTarget>, Vec<Refusal>> {
    let mut finish = targets(request.cut);
    if shapes(request, &request.the_method()).iter().any(|(_, shape)| *shape == Reshape::Stuffed) {
        finish.push(stuffing_target());
    }
    if let Some(said) = whole.finish {
        // It was said of the breast; the thigh wants as much more as ever.
        let breast = finish.iter().find(|target| target.at == Where::Breast).or(finish.first());
        let usual = breast.map_or(said, |breast| breast.finish);
        for target in finish.iter_mut().filter(|target| target.at != Where::Stuffing) {
            wanted(target, celsius(said.in_c() + target.finish.in_c() - usual.in_c()));
        }
        cut_into(request, &finish, into_lean)?;
    }
    if into_lean {
        for target in finish.iter_mut().filter(|t| t.finish < t.authority) {
            wanted(target, target.authority);
        }
    }
    Ok(finish)
}

/// Refuses a finish, or a pull, of the cook's own that may leave meat that is no longer intact, or a stuffed bird, below the
/// authority's least.
fn cut_into(request: &PlanRequest, finish: &[FinishTarget], into_lean: bool) -> Result<(), Vec<Refusal>> {
    let stuffed = finish.iter().any(|target| target.at == Where::Stuffing);
    let Some(low) = finish.iter().find(|target| (into_lean || stuffed) && target.below_authority()) else { return Ok(()) };
    let (path, typed) = if request.fire.finish.is_some() {
        ("fire.finish", format!("a finish of {} °C", words::c(low.finish)))
    } else {
        ("fire.stages", format!("{} °C and maybe no more in the {}", words::c(low.ends.low), low.at.id()))
    };
    let least = format!("{:.1} °C at least (USDA FSIS)", low.authority.in_c());
    let remedy = "Cut into, injected or filled it is no longer intact: rare does not apply. Raise it, or take meat that is whole.";
    Err(vec![Refusal::new(path, typed, least, remedy)])
}

/// Where it is to end, before the heat is planned.
fn wanted(target: &mut FinishTarget, finish: Temperature) {
    (target.finish, target.pull, target.ends) = (finish, finish, Ends::at(finish));
}

/// Refuses a heat that leaves the middle raw, except of what people eat so: that is said in red.
fn raw_inside(request: &PlanRequest, whole: &FireWhole, fire: &FireAnswer, into_lean: bool) -> Result<(), Vec<Refusal>> {
    let eaten = request.cut.is_eaten_pink() && !into_lean;
    if eaten || fire.ends.in_c() >= RAW_BELOW_C {
        return Ok(());
    }
    let last = whole.stages.len().saturating_sub(1);
    let path = match request.fire.stages {
        Some(_) => format!("fire.stages[{last}].until"),
        None => "fire.finish".to_owned(),
    };
    let typed = format!("a middle of {} °C", words::c(fire.ends));
    let remedy = "It would be raw inside. Give it longer, or let the last stage wait for the core.";
    Err(vec![Refusal::new(path, typed, format!("{RAW_BELOW_C:.0} °C at least in the middle"), remedy)])
}

/// Refuses a stage whose end its heat never brings, with the core it comes to.
fn stuck(whole: &FireWhole, lead: &FinishTarget, fire: &FireAnswer) -> Result<(), Vec<Refusal>> {
    let Some(i) = fire.stuck else { return Ok(()) };
    let (stage, reached) = (whole.stages[i], fire.cores.get(i).map_or(0.0, |core| core.in_c()));
    let wanted = match stage.until {
        StageEnd::Core(core) => format!("{} °C in the core", words::c(core)),
        StageEnd::Look(_) => "until a fork meets no resistance".to_owned(),
        StageEnd::Finish | StageEnd::After(_) => format!("{} °C after the rest", words::c(lead.finish)),
    };
    let path = if stage.own { format!("fire.stages[{i}].until") } else { "fire.finish".to_owned() };
    let allowed = format!("what {:.0} °C can do: in a day the core comes to {reached:.0} °C", stage.around().fire.air.in_c());
    Err(vec![Refusal::new(path, wanted, allowed, "Make it hotter, or end it sooner.")])
}
