//! The piece in the cold: its column, its hours, what they give, and why.

use super::course::Course;
use super::hours_asked::thaws_on;
use super::model_hours::{model_hours, why_they_differ};
use super::parts::{ColdState, FridgePlan, ModelHours, PlateSalt, SaltChange};
use crate::ask::{HoursFrom, PlanRequest};
use crate::clock::{exact, kitchen};
use crate::fire::HeatSpell;
use crate::method::{Place, StepKind};
use crate::piece::FaceKind;
use crate::place::ColdPlan;
use crate::salt::travel::{Bath, Travel};
use crate::salt::{ChillHours, FaceGrams, LedgerPlace, house_table};
use crate::settle::Resolved;
use crate::settle::{no_time, salted_at};
use crate::skin::drying::FridgePlacement;
use crate::units::{GramsPerKg, LengthIn, Mass, MassIn, Share, Temperature, Time, TimeIn, grams, hours};
use crate::words;
use crate::work::{Phase, Step};
use jiff::{SignedDuration, Timestamp};

/// The method's own hours, else the house table.
pub(crate) fn chill_hours(resolved: &Resolved) -> ChillHours {
    resolved.method.chill_hours().unwrap_or_else(|| house_table(resolved.thickness))
}

/// Where salt goes on only after the cold, or there is none: how long before the heat. `None` where it lies salted in the cold.
pub(super) fn salted_late(resolved: &Resolved, draft: &[Step]) -> Option<Time> {
    if resolved.method.rests_in_the_cold() && !resolved.method.salts_after_the_cold() {
        return None;
    }
    let from = draft.iter().position(|step| step.kind == StepKind::Salt).map_or(0, |at| at + 1);
    let bench =
        draft[from..].iter().take_while(|step| !step.is_stage()).filter(|step| step.place == Place::Bench && step.phase != Phase::Beside);
    Some(bench.fold(no_time(), |sum, step| sum + step.takes))
}

/// The same faces without salt.
pub(super) fn unsalted(laid: &[FaceGrams]) -> Vec<FaceGrams> {
    laid.iter().map(|face| FaceGrams { salt: grams(0.0), ..*face }).collect()
}

/// What is known before the clock chooses: the rest without its hours.
pub(super) struct BeforeClock<'a> {
    pub course: Course<'a>,
    pub model: ModelHours,
    pub useful: ChillHours,
}

/// The house's hours, with an ideal that dries skin which is to crackle, as far as the longest useful ones allow.
fn house_for_crackling(resolved: &Resolved, model: &ModelHours) -> ChillHours {
    let house = chill_hours(resolved);
    if !resolved.crackles || resolved.lies.open(FaceKind::Skin) <= 0.0 {
        return house;
    }
    // Where it is never dry enough, the longest hours come nearest.
    let dry = model.dry.unwrap_or(house.longest);
    let wanted = if dry > house.ideal { dry } else { house.ideal };
    ChillHours { ideal: if wanted < house.longest { wanted } else { house.longest }, ..house }
}

/// The piece with its salt on, the two schools' hours for it, and those the clock is to take.
///
/// `laid` is all salt on the faces, put on earlier or still to be weighed.
pub(super) fn before_clock<'a>(
    request: &'a PlanRequest,
    resolved: &'a Resolved,
    laid: &[FaceGrams],
    (top_up, later): (Mass, &[SaltChange]),
) -> BeforeClock<'a> {
    let open_before = open_before(request);
    let mut all = changes(request, top_up);
    all.extend(later.iter().copied());
    let course = Course::new(request, resolved, laid, &all, open_before);
    let model = model_hours(request, resolved, &course, open_before);
    let rest = match (request.hours_from, model.shortest, model.ideal) {
        (HoursFrom::Model, Some(shortest), Some(ideal)) if resolved.method.rests_in_the_cold() => {
            ChillHours { shortest, ideal, longest: model.longest.unwrap_or(hours(168.0)) }
        }
        _ => house_for_crackling(resolved, &model),
    };
    let useful = thaws_on(request).map_or(rest, |thaws| under_salt_while_thawing(rest, thaws, model.dry));
    BeforeClock { course, model, useful }
}

/// Hours that leave the middle time to thaw, and what dries time to dry once it has: frost keeps skin wet.
fn under_salt_while_thawing(useful: ChillHours, thaws: Time, dry: Option<Time>) -> ChillHours {
    let most = |a: Time, b: Time| if a > b { a } else { b };
    let ideal = if dry.is_some() { useful.ideal + thaws } else { useful.ideal };
    let (shortest, longest) = (most(useful.shortest, thaws), most(useful.longest, thaws + hours(24.0)));
    ChillHours { shortest, ideal: most(if ideal > longest { longest } else { ideal }, shortest), longest }
}

/// Liquid round a braise, times the weight of the meat, without salt of its own (our estimate, TRADE 9.16).
const LIQUID: f64 = 0.5;

/// The liquid it is cooked in: how heavy against the meat, and how salty. Nobody says: as above.
pub(super) fn liquid_round(request: &PlanRequest, resolved: &Resolved) -> (f64, GramsPerKg) {
    let poured = request.ledger.iter().filter(|entry| entry.place == LedgerPlace::Liquid);
    let (used, salt) = poured.fold((grams(0.0), grams(0.0)), |(used, salt), entry| (used + entry.used, salt + entry.salt_in_it()));
    if used.in_g() <= 0.0 {
        return (LIQUID, GramsPerKg(0.0));
    }
    // A spoonful is no bath: with less than a tenth of its weight it is steamed rather than simmered.
    ((used / resolved.weight).value.max(0.1), GramsPerKg(salt.in_g() / used.in_kg()))
}

/// Salt from the refrigerator to the plate: it travels on in the heat, and in a liquid it goes out into that.
///
/// Gives the share of it that went there.
pub(super) fn through_the_heat(travel: &mut Travel, heat: &[HeatSpell], (times, salty): (f64, GramsPerKg)) -> Share {
    let before = travel.total();
    for spells in heat.chunk_by(|a, b| a.soaks == b.soaks) {
        let air: Vec<(Time, Temperature)> = spells.iter().map(|spell| (spell.takes, spell.mean)).collect();
        if spells[0].soaks {
            let mut bath = Bath::round(travel, times, salty);
            travel.soak_through(air.into_iter(), &mut bath);
        } else {
            travel.run_through(&air);
        }
    }
    Share(((before - travel.total()) / before.max(1e-12)).max(0.0))
}

/// What the hours give.
pub(super) fn fridge_plan(
    request: &PlanRequest,
    resolved: &Resolved,
    before: BeforeClock,
    cold: &ColdPlan,
    (late, heat): (Option<(Course, Time)>, &[HeatSpell]),
) -> FridgePlan {
    // What thaws is wet with its own frost.
    let wet = thaws_on(request).unwrap_or_else(no_time);
    let open = hours((open_for(request, cold) - wet).in_h().max(0.0));
    let (in_the_cold, drying) = before.course.through(cold.planned);
    let dry = drying.at(resolved.air, &[open])[0];
    // Salted only after the cold, it has had salt for the minutes until the heat.
    let (state, mut travel) = match late {
        Some((course, bench)) => {
            let travel = course.travel(cold.planned + bench);
            (course.state_with(&travel, dry, bench), travel)
        }
        None => (before.course.state_with(&in_the_cold, dry, cold.planned), in_the_cold),
    };
    let into_liquid = through_the_heat(&mut travel, heat, liquid_round(request, resolved));
    let plate = before.course.profile(&travel);
    let differs = why_they_differ(resolved, chill_hours(resolved).ideal, &before.model);
    FridgePlan {
        state,
        planned: cold.planned,
        fits: cold.fits,
        from: cold.from,
        to: cold.to,
        wet: before.model.wet,
        plate: PlateSalt { rim: plate.rim(), middle: plate.middle(), slice: plate.slice(), evenness: plate.evenness(), into_liquid },
        why: why(request, resolved, &before, cold) + " " + &differs,
        differs,
        useful: before.useful,
        house: chill_hours(resolved),
        model: before.model,
        open,
        keeps: cold.keeps,
    }
}

/// What was laid on later than the first salting, brushed off, or goes on now because grams were missing.
pub(super) fn changes(request: &PlanRequest, top_up: Mass) -> Vec<SaltChange> {
    let Some(first) = salted_at(request) else { return vec![] };
    let since = |at: Timestamp| kitchen(at.duration_since(first));
    let later = request.done.iter().filter(|d| d.kind == StepKind::Salt && d.at > first);
    let mut all: Vec<SaltChange> = later.filter_map(|d| Some(SaltChange::all_over(since(d.at), d.salt?))).collect();
    all.extend(request.brushed_off.iter().map(|off| SaltChange::all_over(since(off.at), -off.salt)));
    if top_up.in_g() > 0.0 {
        all.push(SaltChange::all_over(since(request.now.timestamp()), top_up));
    }
    all
}

/// How long it lay open in the cold before salt went on.
fn open_before(request: &PlanRequest) -> Time {
    let laid = request.done.iter().filter(|d| d.kind == StepKind::Chill).map(|d| d.at).min();
    let salted = salted_at(request).unwrap_or(request.now.timestamp());
    laid.map_or(no_time(), |laid| kitchen(salted.duration_since(laid.min(salted))))
}

/// Salt after `salted` and skin after `open` in the refrigerator of the request.
pub(super) fn cold_state(request: &PlanRequest, resolved: &Resolved, laid: &[FaceGrams], salted: Time, open: Time) -> ColdState {
    let before = hours((open.in_h() - salted.in_h()).max(0.0));
    Course::new(request, resolved, laid, &[], before).state(salted, open)
}

/// The saltiest outer mouthful after `salted` in the refrigerator of the request; what its skin does is not followed.
pub(super) fn rim_after(request: &PlanRequest, resolved: &Resolved, laid: &[FaceGrams], salted: Time) -> f64 {
    Course::new(request, resolved, laid, &[], hours(0.0)).rim_at(salted).0
}

/// How long the skin stands open in the cold: from the moment it was put there, salted or not.
fn open_for(request: &PlanRequest, cold: &ColdPlan) -> Time {
    let laid: Option<Timestamp> = request.done.iter().filter(|d| d.kind == StepKind::Chill).map(|d| d.at).min();
    let since = laid.map_or(cold.from, |laid| laid.min(cold.from));
    kitchen(cold.to.duration_since(since))
}

fn why(request: &PlanRequest, resolved: &Resolved, before: &BeforeClock, cold: &ColdPlan) -> String {
    let (table, useful) = (house_table(resolved.thickness), before.useful);
    let span = |r: ChillHours| format!("{}–{}–{} h", words::h(r.shortest), words::h(r.ideal), words::h(r.longest));
    let raised = useful.ideal > chill_hours(resolved).ideal && request.hours_from == HoursFrom::House;
    let dries = match before.model.dry {
        Some(dry) if raised => {
            format!(" Skin of {:.1} mm in this air wants {} h to be dry enough to crackle.", resolved.skin.in_mm(), words::h(dry))
        }
        None if raised => format!(" Skin of {:.1} mm does not get dry enough in this air within a week.", resolved.skin.in_mm()),
        _ => String::new(),
    };
    if !resolved.method.rests_in_the_cold() {
        return "No rest in the cold: that is this method’s way.".to_owned();
    }
    let basis = if resolved.method.chill_hours().is_some() {
        format!(
            "The {} way {} {} (shortest, ideal, longest), which counts more than the usual {} for {:.0} mm.",
            resolved.method.name,
            if resolved.crackles && resolved.lies == FridgePlacement::Open { "dries the skin for" } else { "wants" },
            span(chill_hours(resolved)),
            span(table),
            resolved.thickness.in_mm()
        )
    } else {
        format!("{:.0} mm thick: {} are usual (shortest, ideal, longest).", resolved.thickness.in_mm(), span(table))
    };
    let hours = words::h(cold.planned);
    let planned = cold.planned.in_h();
    let chosen = if request.done.iter().any(|d| d.kind == StepKind::Salt) {
        format!(" Salted already, so {hours} h is what there will be.")
    } else if request.hours.is_some() {
        format!(" You asked for {hours} h.")
    } else if planned < useful.shortest.in_h() - 0.01 {
        format!(" Only {hours} h are left before the meal.")
    } else if (planned - useful.ideal_h()).abs() < 0.01 {
        format!(" {hours} h fit.")
    } else if cold.fits < useful.ideal {
        format!(" {hours} h are what is left before the meal.")
    } else {
        format!(" {hours} h keep the hands-on work out of the night{}.", at_night(request, cold, useful.ideal))
    };
    basis + &dries + &chosen
}

/// The hour at which it would go in for the ideal rest, where that is by night: one hour of the meal may bring many of the rest.
fn at_night(request: &PlanRequest, cold: &ColdPlan, ideal: Time) -> String {
    let Some(quiet) = request.kitchen.quiet else { return String::new() };
    let goes_in = (cold.to - exact(ideal)).to_zoned_datetime(request.now.time_zone().clone());
    // Hands come before it: about an hour (our estimate).
    let hands = &goes_in - SignedDuration::from_hours(1);
    if !quiet.holds(&goes_in) && !quiet.holds(&hands) {
        return String::new();
    }
    format!(": for the ideal {} h it would go in at {}", words::h(ideal), goes_in.strftime("%A %H:%M"))
}
