//! Raw hands: the current step, readable across the kitchen, worked with a knuckle or the space bar.

use super::page::lower;
use super::{Opened, open, out_of_cold};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::knife::HandsKnife;
use crate::salt::remainder;
use crate::shell::{Partial, render};
use crate::state::AppState;
use crate::words::{figure_in_units, grams, span, wall};
use askama::Template;
use axum::extract::{Path, Query, State};
use axum::response::Response;
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::clock::Quiet;
use rauchkeller_core::plan::Kitchen;
use serde::Deserialize;

/// Which step is looked at.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct At {
    at: Option<usize>,
}

/// What is still to be looked for before salt goes on: picks out less picks back.
pub async fn missing_picks(state: &AppState, cook: &SignedIn, opened: &Opened) -> Result<Option<String>, WebError> {
    if opened.plan.skin.as_ref().is_none_or(|s| s.picks.is_none()) {
        return Ok(None);
    }
    let run = cook.kitchen(state).skin_run(opened.piece.id, "pierce").await?;
    let lost = run.filter(|r| r.stopped_at.is_some()).and_then(|r| Some(r.picks_out? - r.picks_in?)).filter(|lost| *lost > 0);
    Ok(lost.map(|lost| {
        let (pick, tip) = if lost == 1 { ("pick is", "It or its tip") } else { ("picks are", "They or their tips") };
        format!("{lost} {pick} missing. {tip} may stick in the skin: find it before it is eaten.")
    }))
}

/// The view.
#[expect(clippy::struct_excessive_bools, reason = "a template reads them one by one")]
pub struct HandsView {
    pub piece: String,
    pub name: String,
    pub step: String,
    pub figure: String,
    pub unit: String,
    pub other: String,
    pub title: String,
    pub detail: String,
    pub done: bool,
    pub back_at: String,
    pub not_before: String,
    pub then: String,
    pub out_since: String,
    pub out_since_ms: i64,
    pub out_base_ms: i64,
    pub out_words: String,
    pub out_late: bool,
    /// What Done posts to, under this piece's address.
    pub done_to: String,
    /// What Undo posts to, and what it takes back.
    pub undo: Option<(String, String)>,
    pub previous: Option<usize>,
    pub next: Option<usize>,
    pub finished: bool,
    pub caution: Option<String>,
    /// A refrigerator too warm.
    pub stop: Option<String>,
    pub night: bool,
    /// The lit face, where the step is one of knife or pick.
    pub knife: Option<HandsKnife>,
}

#[derive(Template)]
#[template(path = "piece/hands_page.html")]
struct HandsPage {
    view: HandsView,
}

#[derive(Template)]
#[template(path = "piece/hands.html")]
struct HandsFragment {
    view: HandsView,
}

impl HandsView {
    /// The view of one step: the one asked for, else the first still to do.
    pub fn of(opened: &Opened, now: &ZonedDateTime, at: Option<usize>, just_done: Option<&str>) -> Self {
        let steps = &opened.piece.steps;
        let last = steps.len().saturating_sub(1);
        let next_undone = opened.next_step();
        let index = at.map_or(next_undone.unwrap_or(last), |at| at.min(last));
        let (row, step) = (steps.get(index), opened.plan.steps.get(index));
        let at = now.timestamp();
        // When hands are wanted again after the next stretch that needs none: the cold, the heat.
        let alone = steps.iter().skip(index).position(|s| matches!(s.kind.as_str(), "thaw" | "chill" | "roast")).map(|i| i + index);
        let back = alone.and_then(|i| steps.get(i + 1)).map(|s| s.planned_start).filter(|start| *start > at);
        let then = opened.plan.steps.get(index + 1).map(|s| format!("then {}", lower(&s.title))).unwrap_or_default();
        let (out, since) = out_of_cold(opened, at);
        let started = since.unwrap_or(at);
        let wait = row.map_or(at, |r| r.planned_start);
        let bowls = &opened.piece.bowls;
        let undo = just_done.and_then(|id| {
            if let Some(bowl) = bowls.iter().find(|b| b.id.to_string() == id) {
                return Some((format!("bowls/{id}/unused"), format!("salt on {}", bowl.name)));
            }
            let i = steps.iter().position(|s| s.id.to_string() == id)?;
            Some((format!("steps/{id}/undone"), lower(&opened.plan.steps.get(i)?.title)))
        });
        // Salting goes bowl by bowl; the last one ticks the step.
        let salting = row.filter(|r| r.kind == "salt" && r.done_at.is_none());
        let bowl = salting.and_then(|_| bowls.iter().find(|b| b.used_at.is_none()));
        let own = |s: &rauchkeller_contract::StepDoc| Some((s.figure.clone()?, s.figure_unit.clone().unwrap_or_default()));
        let (figure, unit, other) = match (bowl, step.and_then(own)) {
            (Some(bowl), _) => figure_in_units(&grams(bowl.weighed_g.unwrap_or(bowl.target_g)), "g", opened.system),
            (None, Some((figure, unit))) => figure_in_units(&figure, &unit, opened.system),
            (None, None) => (wait.to_zoned_datetime(now.time_zone().clone()).strftime("%H:%M").to_string(), String::new(), String::new()),
        };
        Self {
            piece: opened.piece.id.to_string(),
            name: opened.piece.name.clone(),
            step: row.map(|r| r.id.to_string()).unwrap_or_default(),
            done_to: bowl
                .map_or_else(|| row.map(|r| format!("steps/{}/done", r.id)).unwrap_or_default(), |bowl| format!("bowls/{}/used", bowl.id)),
            // The number first: where a step has none of its own, the time it wants hands.
            figure,
            unit,
            other,
            title: bowl.map_or_else(|| step.map(|s| s.title.clone()).unwrap_or_default(), |bowl| format!("Salt: {}", bowl.name)),
            detail: match bowl {
                Some(_) => format!("Press it on, all of this bowl. {}", remainder(opened)),
                None => step.map(|s| s.detail.clone()).unwrap_or_default(),
            },
            done: row.is_some_and(|r| r.done_at.is_some()),
            back_at: back.map(|b| wall(b, now)).unwrap_or_default(),
            not_before: if wait.duration_since(at).as_mins() >= 2 {
                format!("at {}, in {}", wall(wait, now), span(wait.duration_since(at)))
            } else {
                String::new()
            },
            then,
            out_since: since.map(|s| wall(s, now)).unwrap_or_default(),
            out_since_ms: started.as_millisecond(),
            out_base_ms: i64::try_from(out.as_millis()).unwrap_or(0) - started_ms(at, started),
            out_words: span(out),
            out_late: out.as_mins() > 120,
            undo,
            previous: index.checked_sub(1),
            next: (index < last).then_some(index + 1),
            finished: next_undone.is_none(),
            stop: super::Stop::of(opened, now).filter(super::Stop::is_red).map(|stop| stop.text),
            caution: step
                .and_then(|s| opened.plan.cautions.iter().find(|c| c.step.as_deref() == Some(s.kind.as_str()) && c.severity != "note"))
                .map(|c| c.text.clone()),
            night: quiet(opened).is_some_and(|quiet| quiet.holds(now)),
            knife: None,
        }
    }

    /// The same with the lit face, and with picks that were not counted back.
    pub async fn with_knife(mut self, state: &AppState, cook: &SignedIn, opened: &Opened) -> Result<Self, WebError> {
        let kind = opened.piece.steps.iter().find(|s| s.id.to_string() == self.step).map(|s| s.kind.clone()).unwrap_or_default();
        if !self.done && opened.next_step().and_then(|i| opened.piece.steps.get(i)).is_some_and(|s| s.kind == kind) {
            self.knife = HandsKnife::of(state, cook, opened, &kind).await?;
        }
        if let Some(lost) = missing_picks(state, cook, opened).await?.filter(|_| !self.finished) {
            self.caution = Some(lost);
        }
        Ok(self)
    }

    /// Only the view, for htmx.
    pub fn fragment(self) -> Result<Response, WebError> {
        render(&HandsFragment { view: self })
    }
}

/// The night of the kitchen it was planned for.
fn quiet(opened: &Opened) -> Option<Quiet> {
    let said: serde_json::Value = serde_json::from_str(&opened.piece.request).ok()?;
    let wall = |at: &serde_json::Value| at.as_str()?.parse().ok();
    match said["kitchen"]["quiet"].as_array().map(Vec::as_slice) {
        Some([from, to]) => Some(Quiet { from: wall(from)?, to: wall(to)? }),
        _ => Kitchen::default().quiet,
    }
}

/// Milliseconds of the running stretch out of the cold.
fn started_ms(at: Timestamp, started: Timestamp) -> i64 {
    (at.as_millisecond() - started.as_millisecond()).max(0)
}

/// The view after a tick, for htmx.
pub async fn hands_fragment(state: &AppState, cook: &SignedIn, id: &str, just_done: Option<&str>) -> Result<Response, WebError> {
    let opened = open(state, cook, id).await?;
    HandsView::of(&opened, &cook.now(state), None, just_done).with_knife(state, cook, &opened).await?.fragment()
}

/// The raw-hands view.
pub async fn hands(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Query(at): Query<At>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let view = HandsView::of(&opened, &cook.now(&state), at.at, None).with_knife(&state, &cook, &opened).await?;
    if partial.0 { view.fragment() } else { render(&HandsPage { view }) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::{kept_cut, opened};

    fn view(opened: &Opened, now: &str, at: Option<usize>) -> HandsView {
        HandsView::of(opened, &now.parse().unwrap(), at, None)
    }

    #[test]
    fn the_first_step_still_to_do_is_shown_with_its_number() {
        let starts = &opened(&[]).plan.steps[0].starts_at[11..16];
        let fresh = view(&opened(&[]), "2026-12-11T07:00[Europe/Vienna]", None);
        assert_eq!((fresh.figure.as_str(), fresh.unit.as_str(), fresh.previous), ("15.5", "g", None));
        assert!(fresh.not_before.contains(&format!("at {starts}")), "{}", fresh.not_before);
        assert!(fresh.back_at.starts_with("Sat"), "back when the cold is over: {}", fresh.back_at);
        let next = view(&opened(&[("lay-out", "2026-12-11T15:44:00Z")]), "2026-12-11T16:45[Europe/Vienna]", None);
        assert_eq!(next.title, "Dry it firmly, twice");
    }

    #[test]
    fn a_step_without_a_number_shows_its_time() {
        let opened = opened(&[]);
        let index = opened.plan.steps.iter().position(|s| s.kind == "wash").unwrap();
        let view = view(&opened, "2026-12-11T16:00[Europe/Vienna]", Some(index));
        assert!(view.figure.contains(':') && view.unit.is_empty(), "{}", view.figure);
    }

    #[test]
    fn the_standing_clock_runs_and_warns_after_two_hours() {
        let out = opened(&[("lay-out", "2026-12-11T15:00:00Z")]);
        let early = view(&out, "2026-12-11T16:18[Europe/Vienna]", None);
        assert_eq!((early.out_since.as_str(), early.out_words.as_str(), early.out_late), ("16:00", "18 min", false));
        assert!(view(&out, "2026-12-11T18:05[Europe/Vienna]", None).out_late);
        assert!(view(&opened(&[]), "2026-12-11T16:18[Europe/Vienna]", None).out_since.is_empty());
    }

    #[test]
    fn undo_names_what_was_done_and_the_end_is_the_verdict() {
        let opened = opened(&[("lay-out", "2026-12-11T15:00:00Z")]);
        let id = opened.piece.steps[0].id.to_string();
        let view = HandsView::of(&opened, &"2026-12-11T16:05[Europe/Vienna]".parse().unwrap(), None, Some(&id));
        assert_eq!(view.undo, Some((format!("steps/{id}/undone"), "wash hands, weigh the salt, lay out tools".into())));
        let all: Vec<(&str, &str)> = opened.plan.steps.iter().map(|s| (s.kind.as_str(), "2026-12-12T18:00:00Z")).collect();
        let eaten = kept_cut("pork-belly", 2400.0, &all);
        assert!(HandsView::of(&eaten, &"2026-12-12T19:05[Europe/Vienna]".parse().unwrap(), None, None).finished);
    }

    #[test]
    fn salting_goes_bowl_by_bowl_and_says_what_is_left() {
        let mut opened = opened(&[]);
        let salt = opened.plan.steps.iter().position(|s| s.kind == "salt").unwrap();
        let bowl = |name: &str, target_g, weighed_g, used: bool| rauchkeller_store::Bowl {
            id: rauchkeller_store::BowlId(uuid::Uuid::now_v7()),
            face: name.into(),
            name: name.into(),
            target_g,
            tare_g: None,
            weighed_g,
            used_at: used.then(|| "2026-12-11T15:00:00Z".parse().unwrap()),
        };
        opened.piece.bowls = vec![bowl("meat side", 9.0, Some(9.1), true), bowl("cut sides", 6.5, None, false)];
        let now = "2026-12-11T16:45[Europe/Vienna]";
        let second = view(&opened, now, Some(salt));
        assert_eq!((second.figure.as_str(), second.title.as_str()), ("6.5", "Salt: cut sides"));
        assert!(second.detail.contains("9.1 g on, 6.5 g") && second.done_to.starts_with("bowls/"), "{}", second.detail);
        let id = opened.piece.bowls[0].id.to_string();
        let undo = HandsView::of(&opened, &now.parse().unwrap(), Some(salt), Some(&id)).undo.unwrap();
        assert_eq!(undo, (format!("bowls/{id}/unused"), "salt on meat side".into()));
        // All used up: the step itself is what is left to tick.
        opened.piece.bowls.iter_mut().for_each(|b| b.used_at = Some("2026-12-11T15:00:00Z".parse().unwrap()));
        assert!(view(&opened, now, Some(salt)).done_to.starts_with("steps/"));
    }

    #[test]
    fn looking_ahead_is_bounded_and_nights_are_quiet() {
        let opened = opened(&[]);
        let last = opened.plan.steps.len() - 1;
        let far = view(&opened, "2026-12-11T23:30[Europe/Vienna]", Some(999));
        assert_eq!((far.previous, far.next, far.night), (Some(last - 1), None, true));
        assert!(!view(&opened, "2026-12-11T12:00[Europe/Vienna]", None).night);
    }
}
