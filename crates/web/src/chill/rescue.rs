//! Too much salt on, or too little: what was really laid on or brushed off, and the ways out core reckons.

use super::here::{Here, Noted};
use super::view::WayLine;
use super::{ChillQuery, Refused};
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::piece::{Opened, air_of};
use crate::salt::read_grams;
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::{grams as g, trim};
use axum::extract::{Form, Path, State};
use axum::response::Response;
use jiff::ZonedDateTime;
use rauchkeller_core::run::{Change, EventId, Happened, InTheCold, Record, Rescue, RescueAsk, What, rescue as reckon};
use rauchkeller_core::salt::on_the_scale;
use rauchkeller_core::units::{MassIn, TimeIn, grams, hours};
use serde::Deserialize;
use uuid::Uuid;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct RescueForm {
    /// Grams on the scale.
    pub g: String,
    /// `really` was on it from the start; `off` came off; `on` went on.
    pub what: String,
    pub key: String,
    pub hours: String,
    /// The correction that stood on the page; a new one is noted instead of it.
    pub seen: String,
}

/// What really went on, as it was noted last.
pub fn corrected(record: &Record) -> Option<EventId> {
    let mut really = record.changes.iter().filter(|fact| matches!(fact.says, Change::Really(..)));
    really.next_back().map(|fact| fact.id)
}

/// Nobody lays more on one piece, g.
const MOST_G: f64 = 2000.0;

/// What is on it, what is wanted, and what helps.
pub fn rescue(opened: &Opened, cold: &InTheCold, now: &ZonedDateTime) -> Option<Rescue> {
    let at = now.timestamp();
    let salted = cold.hours_at(at.min(cold.out));
    let left = hours((cold.hours_at(cold.out).in_h() - salted.in_h()).max(0.0));
    let fridge = &opened.plan.fridge;
    let at_most = fridge.keeps_red.as_deref().map(|red| cold.hours_at(crate::words::instant(red)));
    let mut request = cold.request.clone();
    request.kitchen.fridge = air_of(&opened.fridge, cold.request.kitchen.fridge);
    let ask = RescueAsk { really: cold.really.clone(), salted, left, at_most };
    reckon(&request, &ask).ok()
}

/// The ways as lines; those with grams can be noted with one press.
pub fn lines(found: &Rescue, purity: f64) -> Vec<WayLine> {
    let line = |way: &rauchkeller_core::run::RescueWay| WayLine {
        what: way.what.clone(),
        gives: way.gives.clone(),
        g: way.grams.map(|salt| trim(on_the_scale(salt, purity).in_g(), 1)).unwrap_or_default(),
        does: match way.id {
            "brush-off" => "off",
            "add" => "on",
            _ => "",
        },
    };
    found.ways.iter().map(line).collect()
}

/// Notes what was really on it, what came off, or what went on. What was really on it holds whatever is noted twice; what comes
/// off is held against what is on it.
pub async fn change(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Form(form): Form<RescueForm>,
) -> Result<Response, WebError> {
    let query = ChillQuery { hours: form.hours.clone(), ..ChillQuery::default() };
    let here = Here { state, cook, partial, id, query };
    let said = async |opened: Opened| {
        let (said, now) = (form.clone(), here.cook.now(&here.state));
        let read = compute(move || read_change(&opened, &said, &now)).await?;
        Ok(read.map_err(|slip| Refused { rescue: Some(form.clone()), ..Refused::at("salt", slip) }))
    };
    here.note(&form.key, said).await
}

/// What was said, as something that happened, and from when on; else what is wrong with it.
fn read_change(opened: &Opened, form: &RescueForm, now: &ZonedDateTime) -> Result<Noted, String> {
    let stand = opened.stand(now);
    let (cold, on) = stand.cold.as_ref().zip(stand.on.as_ref()).ok_or("It is not salted yet: weigh it at the Salt station.")?;
    let typed: String = form.g.trim().chars().take(40).collect();
    let weighed = read_grams(&form.g)
        .filter(|g| (0.0..=MOST_G).contains(g))
        .ok_or_else(|| format!("“{typed}” is no weight of salt; write grams from 0 to 2000, like 12.5."))?;
    let found = rescue(opened, cold, now).ok_or("This plan cannot be read any more, so nothing can be worked out from it.")?;
    let (grams_on, purity) = (grams(weighed), Some(opened.run.purity));
    let salt = grams_on * opened.run.purity.0;
    let (happened, what, at) = match form.what.as_str() {
        "really" => (Happened::Really, What::ActualSalt { grams: grams_on, purity }, on.salted),
        "off" => (Happened::CameOff, What::SaltOff { grams: grams_on, purity }, now.timestamp()),
        "on" => (Happened::WentOn, What::SaltOn { task: None, bowl: None, grams: grams_on, purity }, now.timestamp()),
        _ => return Err("Say whether it was on from the start, came off, or went on.".into()),
    };
    if found.change(happened, salt).is_none() {
        let all = g(found.on.in_g());
        return Err(format!("{} g cannot have come off: {all} g are on it in all. Weigh what came off without its plate.", g(salt.in_g())));
    }
    // Another cook's, which this one has not seen, stands beside it and is asked about.
    let seen = |earlier: &EventId| form.seen == Uuid::from_u128(earlier.0).to_string();
    let instead = corrected(opened.record()).filter(|earlier| form.what == "really" && seen(earlier));
    Ok(Noted { what, at, instead })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::kept_cut;

    fn steak() -> (Opened, ZonedDateTime) {
        let opened = kept_cut("beef-rib-steak", 500.0, &[("salt", "2026-12-11T08:00:00Z")]);
        (opened, "2026-12-11T09:05[Europe/Vienna]".parse().unwrap())
    }

    #[test]
    fn lines_show_what_the_scale_shows() {
        let (opened, now) = steak();
        let on = What::SaltOn { task: None, bowl: None, grams: grams(8.0), purity: None };
        let opened = opened.with("2026-12-11T08:00:00Z", on);
        let cold = opened.stand(&now).cold.clone().unwrap();
        let found = rescue(&opened, &cold, &now).unwrap();
        let off = found.ways.iter().find(|w| w.id == "brush-off").unwrap().grams.unwrap().in_g();
        let way = |purity| lines(&found, purity).into_iter().find(|l| l.does == "off").unwrap().g.parse::<f64>().unwrap();
        // A salt that is only half sodium chloride shows twice the grams.
        assert!((way(1.0) - off).abs() < 0.051 && (way(0.5) - 2.0 * off).abs() < 0.051);
    }

    #[test]
    fn a_correction_replaces_the_one_that_was_seen_and_no_other() {
        let (opened, now) = steak();
        let really = |g: &str, seen: &str| RescueForm { g: g.into(), what: "really".into(), seen: seen.into(), ..RescueForm::default() };
        let first = read_change(&opened, &really("8", ""), &now).unwrap();
        assert!(first.instead.is_none() && corrected(opened.record()).is_none());
        let opened = opened.with("2026-12-11T08:00:00Z", first.what);
        let stands = corrected(opened.record()).unwrap();
        let seen = Uuid::from_u128(stands.0).to_string();
        assert_eq!(read_change(&opened, &really("7", &seen), &now).unwrap().instead, Some(stands));
        // Another cook's, noted after this page was drawn, stays and is asked about; what came off replaces nothing.
        assert_eq!(read_change(&opened, &really("7", ""), &now).unwrap().instead, None);
        let off = RescueForm { what: "off".into(), ..really("1", &seen) };
        assert_eq!(read_change(&opened, &off, &now).unwrap().instead, None);
    }
}
