//! Steps of knife and pick, in the words of the bench.

use super::recipe::Surface;
use super::step::{Step, figure, one_decimal, step};
use crate::method::StepKind;
use crate::skin::{CoverWork, Fit, KnifeAsk, KnifeWork, MeatSide, Pattern};
use crate::units::{LengthIn, TimeIn, minutes};

/// What is opened before the salt goes on: the cover first, then the lean side.
pub(super) fn knife_steps(ask: &KnifeAsk, work: &KnifeWork, surface: Surface, into_lean: bool) -> Vec<Step> {
    let mut steps = Vec::with_capacity(3);
    // What is passed, and where the point stops.
    let through = match (surface, into_lean) {
        (_, true) => "Through into the lean",
        (Surface::Skin, false) => "Through the skin, stop in the fat",
        (Surface::Fat, false) => "Into the fat, stop above the lean",
        (Surface::Lean, false) => "Into the surface",
    };
    let pierced = if into_lean { " No longer intact: it is cooked through." } else { "" };
    // Whole minutes, and never none: the tool is fetched and put away.
    let takes = |min: f64| minutes(min.ceil().max(2.0));
    let depth = ask.depth.or(work.guard.map(|g| g.at_most));
    if let Some(scoring) = &work.scoring {
        let deep = depth.map_or_else(String::new, one_decimal);
        let mut detail = format!(
            "{} strokes, {:.0} cm of cut{}. {through}{}.{pierced}{}",
            scoring.strokes.len(),
            scoring.cut_length.in_mm() / 10.0,
            pattern_words(ask.cover),
            if deep.is_empty() { String::new() } else { format!(" at {deep} mm") },
            stop_words(ask, work),
        );
        if work.zones.len() > 1 && ask.depth.is_none() {
            detail += &zone_words(work);
        }
        steps.push(Step {
            figure: depth.map(|d| figure(one_decimal(d), "mm")),
            needs: vec![ask.tool.name.clone()],
            detail,
            ..step(StepKind::Score, "Score it", takes(work.cover_takes.in_min()))
        });
    } else if work.holes.is_some() {
        let stop = depth.unwrap_or(ask.fat.left.skin);
        let picks = work.picks.map_or_else(String::new, |n| format!(" {n} picks out, {n} counted back in."));
        let just_through =
            if work.guard.is_none() && !into_lean { " There is no fat to stop in: prick it shallowly, just through the skin." } else { "" };
        steps.push(Step {
            figure: Some(figure(one_decimal(stop), "mm")),
            needs: work.pierced_with.clone().into_iter().collect(),
            detail: format!(
                "{} presses of a {} make {} holes. {through} at {} mm, right into the corners.{pierced}{}{just_through}{picks}",
                work.presses,
                work.pierced_with.as_deref().unwrap_or("pick"),
                work.holes_in_all,
                one_decimal(stop),
                stop_words(ask, work),
            ),
            ..step(StepKind::Pierce, pierce_title(surface, into_lean), takes(work.cover_takes.in_min()))
        });
    }
    if let (Some(cuts), true) = (&work.meat, ask.meat != MeatSide::Whole) {
        let (title, how) = match cuts.rods {
            None => {
                ("Groove the meat side", format!("{} grooves both ways, {} mm deep.", cuts.below.strokes.len(), one_decimal(cuts.depth)))
            }
            Some(rods) => (
                "Cut the lattice from both sides",
                format!(
                    "Along it from below, across it from above, {} mm deep from each side: a straight rod {} mm high on either side stops the knife. {} openings.",
                    one_decimal(cuts.depth),
                    one_decimal(rods),
                    cuts.openings
                ),
            ),
        };
        steps.push(Step {
            figure: Some(figure(one_decimal(cuts.depth), "mm")),
            needs: vec!["sharp knife".into()],
            detail: format!("{how} Press salt into the cuts. No longer intact: it is cooked through."),
            ..step(StepKind::Groove, title, takes(work.meat_takes.in_min()))
        });
    }
    steps
}

fn pierce_title(surface: Surface, into_lean: bool) -> &'static str {
    match surface {
        _ if into_lean => "Pierce the meat all over",
        Surface::Skin => "Pierce the skin all over",
        Surface::Fat => "Pierce the fat all over",
        Surface::Lean => "Pierce the meat all over",
    }
}

fn pattern_words(cover: CoverWork) -> String {
    let CoverWork::Score { pattern, spacing, .. } = cover else { return String::new() };
    let how = match pattern {
        Pattern::Parallel => "one way",
        Pattern::Crosshatch => "both ways",
        Pattern::Diamond => "in diamonds",
    };
    format!(", {} mm apart {how}", one_decimal(spacing))
}

fn stop_words(ask: &KnifeAsk, work: &KnifeWork) -> String {
    match work.fit {
        Some(Fit::Sets(at)) => format!(" Set the {} to {} mm.", ask.tool.name, one_decimal(at)),
        Some(Fit::NeedsMark(at)) => format!(" Tape the {} {} mm from the tip.", ask.tool.name, one_decimal(at)),
        Some(Fit::Ends(_)) => format!(" The {} does not reach so deep.", ask.tool.name),
        Some(Fit::TooShort(_)) => format!(" The {} is too short for this skin.", ask.tool.name),
        Some(Fit::TooLong(_)) => format!(" The {} goes too deep here.", ask.tool.name),
        Some(Fit::Stops) | None => String::new(),
    }
}

fn zone_words(work: &KnifeWork) -> String {
    let (left, _, right, _) = work.laid.outline.bounds().unwrap_or_default();
    let said = work.zones.iter().map(|zone| {
        let to = (right - left) * zone.span.1;
        match zone.depth {
            Ok(guard) => format!("{} mm deep as far as {to:.0} mm from the left", one_decimal(guard.at_most)),
            Err(_) => format!("pierced, not cut, as far as {to:.0} mm"),
        }
    });
    format!(" By zones: {}.", said.collect::<Vec<_>>().join("; "))
}
