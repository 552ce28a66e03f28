//! The heat in sentences: where it ends and by what it is pulled, portion by portion; the skin’s own finish line; the minutes.

use crate::words::{day_wall, instant, sentence, span, trim, wall};
use jiff::{SignedDuration, ZonedDateTime};
use rauchkeller_contract::{FireDoc, PlanDoc, PortionDoc};
use rauchkeller_core::fire::{Ends, PortionHeat, each_out};
use rauchkeller_core::units::{LengthIn, TemperatureIn, TimeIn, both_temperature, celsius, millimetres, minutes};

pub(super) fn pull_line(plan: &PlanDoc) -> String {
    let targets: Vec<String> = plan
        .fire
        .targets
        .iter()
        .map(|t| {
            // What was kept before there was a lowest end says where it is wanted.
            match t.ends_c {
                [low, mid, _] if mid.round() > low.round() => format!("{} ends at about {mid:.0} °C ({low:.0} at least)", t.at),
                [low, ..] if low > 0.0 => format!("{} ends at {low:.0} °C at least", t.at),
                _ => format!("{} ends at {:.0} °C", t.at, t.finish_c),
            }
        })
        .collect();
    let authority = plan
        .fire
        .targets
        .first()
        .map(|t| {
            format!(
                "The authority (USDA FSIS) says at least {} °C ({})",
                trim(t.authority_c, 1),
                both_temperature(celsius(t.authority_c)).customary
            )
        })
        .unwrap_or_default();
    let others = other_pulls(&plan.fire);
    format!("{}.{others} {authority}.{}", sentence(&targets.join(", ")), by_portion(&plan.dose.portions))
}

/// Of a bird the other place, which has to be there as well: ` Out when the breast reads 72 °C as well.`
fn other_pulls(fire: &FireDoc) -> String {
    let others: Vec<String> = fire.targets.iter().skip(1).map(|t| format!("the {} reads {:.0} °C", t.at, t.pull_c)).collect();
    if others.is_empty() || fire.slow_low_c.is_some() { String::new() } else { format!(" Out when {} as well.", others.join(" and ")) }
}

/// Portions that are not done together, each with its own minutes and pull: ` By portion: 25 mm out after about 20 min at 52 °C, …`.
fn by_portion(portions: &[PortionDoc]) -> String {
    let known = |p: &PortionDoc| {
        let [low, mid, high] = p.ends_c?.map(celsius);
        let (takes, pull) = (minutes(p.fire_min?), celsius(p.pull_c?));
        let waits = minutes(p.in_after_min.unwrap_or(0.0));
        Some(PortionHeat { thickness: millimetres(p.salt_thickness_mm), takes, pull, ends: Ends { low, mid, high }, waits })
    };
    let each = each_out(&portions.iter().filter_map(known).collect::<Vec<_>>());
    let said = |p: &PortionHeat| {
        let thick = trim(p.thickness.in_mm(), 0);
        match p.waits.in_min() {
            // Those of a dish that goes in one after the other come out together.
            waits if waits > 0.0 => format!("{thick} mm in {waits:.0} min later, out at {:.0} °C", p.pull.in_c()),
            _ => format!("{thick} mm out after about {:.0} min at {:.0} °C", p.takes.in_min(), p.pull.in_c()),
        }
    };
    let said: Vec<String> = each.iter().map(said).collect();
    if said.is_empty() { String::new() } else { format!(" By portion: {}.", said.join(", ")) }
}

/// Cooked ahead: the stay in the refrigerator, and the second heat.
pub(super) fn again_line(plan: &PlanDoc, now: &ZonedDateTime) -> String {
    let Some(again) = &plan.fire.again else { return String::new() };
    format!(
        "Then {} h in the refrigerator, cooked; heated again {} to {}: about {:.0} min ({:.0} to {:.0}, our estimate), out when its middle reads {:.0} °C ({}).",
        trim(again.chilled_h, 1),
        day_wall(instant(&again.starts_at), now),
        wall(instant(&again.ends_at), now),
        again.minutes,
        again.minutes_low,
        again.minutes_high,
        again.out_c,
        both_temperature(celsius(again.out_c)).customary
    )
}

/// Where its dial is to stand, stage by stage, where somebody has read it beside a thermometer.
pub(super) fn dial_line(plan: &PlanDoc) -> String {
    let stages = plan.fire.stages.iter();
    let stands: Vec<String> = stages.filter_map(|s| Some(format!("at {:.0} °C for {:.0} °C of air", s.dial_c?, s.air_c))).collect();
    if stands.is_empty() { String::new() } else { format!("The dial {}.", stands.join(", then ")) }
}

/// Minutes alone, or a heat too fierce, end elsewhere.
pub(super) fn heat_misses(plan: &PlanDoc) -> String {
    let fire = &plan.fire;
    match (fire.overshoots_k, fire.short_by_k) {
        (Some(over), _) => format!("This heat ends at about {:.0} °C in the core, {over:.0} °C more than the finish.", fire.ends_c),
        (_, Some(short)) => format!("These minutes end at about {:.0} °C in the core, {short:.0} °C below the finish.", fire.ends_c),
        _ => String::new(),
    }
}

/// The skin's own finish line.
pub(super) fn skin_line(plan: &PlanDoc, now: &ZonedDateTime) -> String {
    let Some((skin, first)) = plan.fire.skin.as_ref().zip(plan.fire.stages.first()) else { return String::new() };
    let dry = format!("The skin goes in {:.0}\u{a0}% dry", (skin.dryness_in * 100.0).clamp(0.0, 100.0));
    match skin.puffs_min {
        Some(min) => {
            let at = instant(&first.starts_at) + SignedDuration::from_secs((min * 60.0) as i64);
            let left = (plan.fire.minutes - min).max(0.0).round() as i64;
            let puffs = if skin.patchy { "puffs in patches" } else { "puffs" };
            format!("{dry} and {puffs} about {}, {} before it comes out.", wall(at, now), span(SignedDuration::from_mins(left)))
        }
        None if skin.surface_max_c >= 100.0 => {
            format!("{dry}; its surface comes to about {:.0} °C, and it does not puff.", skin.surface_max_c)
        }
        None => String::new(),
    }
}

pub(super) fn fire_line(plan: &PlanDoc) -> String {
    let fire = &plan.fire;
    let model = format!("About {:.0} min in the heat ({:.0} to {:.0}, our estimate).", fire.minutes, fire.minutes_low, fire.minutes_high);
    let (Some(rule), Some(minutes)) = (&fire.trade_rule, fire.trade_minutes) else {
        return format!("{model} There is no common rule for this cut.");
    };
    let here = match fire.trade_span_min {
        Some((low, high)) if (high - low).abs() > 0.5 => format!("{low:.0} to {high:.0} min"),
        _ => format!("{minutes:.0} min"),
    };
    let held = span(SignedDuration::from_mins(fire.held_min.round() as i64));
    let differs = match &fire.trade_differs {
        Some(_) if fire.by_rule => format!("; they do not agree, so the plan leaves the later one’s time and keeps it warm up to {held}"),
        Some(why) => format!("; they do not agree, and our estimate leads: {why}"),
        None => String::new(),
    };
    let agree = if fire.trade_differs.is_some() || fire.trade_its_heat.is_none() { "" } else { "; the two agree within a third" };
    format!("{model} A common rule: {rule}, here {here}{differs}{agree}.")
}
