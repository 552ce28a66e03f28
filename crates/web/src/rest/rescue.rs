//! Too much salt on, or too little: what was really laid on or brushed off, and the ways out core reckons.

use super::view::WayLine;
use super::{Refused, RestQuery, after, show};
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::kit::form_key;
use crate::piece::{InTheCold, Opened, open, piece_id};
use crate::salt::read_grams;
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::{grams as g, trim};
use axum::extract::{Form, Path, State};
use axum::response::Response;
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::plan::{Happened, Rescue, RescueAsk, rescue as reckon};
use rauchkeller_core::units::{MassIn, TimeIn, grams, hours};
use rauchkeller_store::Noting;
use serde::Deserialize;
use std::collections::BTreeMap;

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
    request.kitchen.fridge = cold.air(&opened.fridge);
    let ask = RescueAsk { really: cold.really.clone(), salted, left, at_most };
    reckon(&request, &ask).ok()
}

/// The ways as lines; those with grams can be noted with one press.
pub fn lines(found: &Rescue, purity: f64) -> Vec<WayLine> {
    let line = |way: &rauchkeller_core::plan::RescueWay| WayLine {
        what: way.what.clone(),
        gives: way.gives.clone(),
        // The scale shows more than sodium chloride where the salt is not all of it.
        g: way.grams.map(|salt| trim(salt.in_g() / purity.max(0.01), 1)).unwrap_or_default(),
        does: match way.id {
            "brush-off" => "off",
            "add" => "on",
            _ => "",
        },
    };
    found.ways.iter().map(line).collect()
}

/// Looks at a piece so many times until nobody else changes it meanwhile.
const LOOKS: usize = 12;

/// Notes what was really on it, what came off, or what went on. What is noted is a difference from what is on it now: where
/// another cook's note came first it is reckoned anew, so that “really 40 g” said twice counts once.
pub async fn change(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Form(form): Form<RescueForm>,
) -> Result<Response, WebError> {
    let query = RestQuery { hours: form.hours.clone(), ..RestQuery::default() };
    let key = form_key(&form.key);
    for _ in 0..LOOKS {
        let opened = open(&state, &cook, &id).await?;
        let (seen, now, said) = (opened.piece.version, cook.now(&state), form.clone());
        let read = compute(move || read_change(&opened, &said, &now)).await?;
        let (by, at) = match read {
            Ok(Some(change)) => change,
            Ok(None) => return after(&state, &cook, partial, &id, query).await,
            Err(slip) => return refuse(&state, &cook, partial, &id, query, form, slip).await,
        };
        match cook.kitchen(&state).change_salt(piece_id(&id)?, &key, seen, by, moment(at)).await? {
            Noting::Full => {
                let slip = "Its salt was changed 200 times; more is not kept.".to_owned();
                return refuse(&state, &cook, partial, &id, query, form, slip).await;
            }
            Noting::New(_) | Noting::Before(_) => return after(&state, &cook, partial, &id, query).await,
            Noting::Changed => {}
        }
    }
    let slip = "Others change this piece just now. Look at what is on it, and say it once more.".to_owned();
    refuse(&state, &cook, partial, &id, query, form, slip).await
}

async fn refuse(
    state: &AppState,
    cook: &SignedIn,
    partial: Partial,
    id: &str,
    query: RestQuery,
    form: RescueForm,
    slip: String,
) -> Result<Response, WebError> {
    let refused = Refused { rescue: Some(form), slips: BTreeMap::from([("salt", slip)]), ..Refused::default() };
    show(state, cook, partial, id, query, refused).await
}

/// By how much what was said changes the salt on it, and from when on; `None` where by nothing. Else what is wrong with it.
fn read_change(opened: &Opened, form: &RescueForm, now: &ZonedDateTime) -> Result<Option<(f64, Timestamp)>, String> {
    let cold = InTheCold::of(opened, now).ok_or("It is not salted yet: weigh it at the Salt station.")?;
    let typed: String = form.g.trim().chars().take(40).collect();
    let weighed = read_grams(&form.g)
        .filter(|g| (0.0..=MOST_G).contains(g))
        .ok_or_else(|| format!("“{typed}” is no weight of salt; write grams from 0 to 2000, like 12.5."))?;
    let found = rescue(opened, &cold, now).ok_or("This plan cannot be read any more, so nothing can be worked out from it.")?;
    let salt = weighed * opened.plan.request.salt_purity;
    let (happened, at) = match form.what.as_str() {
        "really" => (Happened::Really, cold.salted),
        "off" => (Happened::CameOff, now.timestamp()),
        "on" => (Happened::WentOn, now.timestamp()),
        _ => return Err("Say whether it was on from the start, came off, or went on.".into()),
    };
    let by = found.change(happened, grams(salt)).map(MassIn::in_g).ok_or_else(|| {
        let all = g(found.on.in_g());
        format!("{} g cannot have come off: {all} g are on it in all. Weigh what came off without its plate.", g(salt))
    })?;
    Ok((by.abs() >= 0.05).then_some((by, at)))
}

/// Whole microseconds, as the database keeps them.
fn moment(at: Timestamp) -> Timestamp {
    at.round(jiff::Unit::Microsecond).unwrap_or(at)
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
        let (mut opened, now) = steak();
        opened.piece.rest.changes = vec![rauchkeller_store::SaltChanged {
            id: rauchkeller_store::NoteId(uuid::Uuid::nil()),
            by_g: 8.0,
            at: "2026-12-11T08:00:00Z".parse().unwrap(),
        }];
        let cold = InTheCold::of(&opened, &now).unwrap();
        let found = rescue(&opened, &cold, &now).unwrap();
        let off = found.ways.iter().find(|w| w.id == "brush-off").unwrap().grams.unwrap().in_g();
        let way = |purity| lines(&found, purity).into_iter().find(|l| l.does == "off").unwrap().g.parse::<f64>().unwrap();
        // A salt that is only half sodium chloride shows twice the grams.
        assert!((way(1.0) - off).abs() < 0.051 && (way(0.5) - 2.0 * off).abs() < 0.051);
    }
}
