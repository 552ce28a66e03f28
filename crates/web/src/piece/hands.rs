//! Raw hands: the current step, readable across the kitchen, worked with a knuckle or the space bar.

use super::page::lower;
use super::ticks::done_word;
use super::{Opened, Row, open};
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
use jiff::ZonedDateTime;
use rauchkeller_core::ask::Kitchen;
use rauchkeller_core::clock::{Quiet, exact, kitchen};
use rauchkeller_core::method::{SaltEffect, StepKind};
use rauchkeller_core::run::Stretch;
use rauchkeller_core::units::TimeIn;
use serde::Deserialize;

/// Which step is looked at.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct At {
    at: Option<usize>,
}

/// What is still to be looked for before salt goes on: picks out less picks back.
pub fn missing_picks(opened: &Opened) -> Option<String> {
    let pierced = opened.run.tasks.iter().filter(|t| t.kind == StepKind::Pierce);
    let lost: u32 = pierced.filter_map(|t| Stretch::of(opened.record(), &t.id)).filter(|s| s.stopped.is_some()).map(|s| s.missing).sum();
    (lost > 0).then(|| {
        let (pick, tip) = if lost == 1 { ("pick is", "It or its tip") } else { ("picks are", "They or their tips") };
        format!("{lost} {pick} missing. {tip} may stick in the skin: find it before it is eaten.")
    })
}

/// What the salting is called before its bowl: as its method says, else just salt.
fn salting_words(step: Option<&rauchkeller_contract::StepDoc>) -> &str {
    step.map(|step| step.title.as_str()).filter(|title| !title.starts_with("Salt, ") && !title.starts_with("Lay on")).unwrap_or("Salt")
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
    /// Milliseconds out in sum, at this answer.
    pub out_ms: i64,
    pub out_words: String,
    pub out_late: bool,
    /// The most that may be, in minutes and in words.
    pub out_most: i64,
    pub out_most_words: String,
    /// What that button says.
    pub done_word: &'static str,
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
        let stand = opened.stand(now);
        let rows = opened.rows(&stand);
        let last = rows.len().saturating_sub(1);
        let next_undone = opened.next_step();
        let index = at.map_or(next_undone.unwrap_or(last), |at| at.min(last));
        let (row, step) = (rows.get(index), opened.plan.steps.get(index));
        let at = now.timestamp();
        // When hands are wanted again after the next stretch that needs none: the cold, the heat.
        let alone = |r: &Row| matches!(r.task.kind, StepKind::Thaw | StepKind::Marinate | StepKind::Chill | StepKind::Roast);
        let alone = rows.iter().skip(index).position(alone).map(|i| i + index);
        let back =
            alone.and_then(|i| rows.iter().skip(i + 1).find(|r| r.task.beside.is_none())).map(|r| r.starts).filter(|start| *start > at);
        let then = opened.plan.steps.get(index + 1).map(|s| format!("then {}", lower(&s.title))).unwrap_or_default();
        let (out, since) = (stand.out.sum, stand.out.since);
        let wait = row.map_or(at, |r| r.starts);
        let bowls = opened.bowls();
        let undo = just_done.and_then(|id| {
            if let Some(bowl) = bowls.iter().find(|b| b.id == id) {
                return Some((format!("bowls/{id}/unused"), format!("salt on {}", bowl.name)));
            }
            let i = rows.iter().position(|r| r.task.id == id)?;
            Some((format!("steps/{id}/undone"), lower(&opened.plan.steps.get(i)?.title)))
        });
        // Salting goes bowl by bowl; the last one ticks the step.
        let salting = row.filter(|r| r.task.salts == Some(SaltEffect::On) && r.done_at.is_none());
        let bowl = salting.and_then(|r| bowls.iter().find(|b| b.task == r.task.id && b.used_at.is_none()));
        let own = |s: &rauchkeller_contract::StepDoc| Some((s.figure.clone()?, s.figure_unit.clone().unwrap_or_default()));
        let (figure, unit, other) = match (bowl, step.and_then(own)) {
            (Some(bowl), _) => figure_in_units(&grams(bowl.weighed_g.unwrap_or(bowl.target_g)), "g", opened.system),
            (None, Some((figure, unit))) => figure_in_units(&figure, &unit, opened.system),
            (None, None) => (wait.to_zoned_datetime(now.time_zone().clone()).strftime("%H:%M").to_string(), String::new(), String::new()),
        };
        Self {
            piece: opened.piece.id.to_string(),
            name: opened.piece.name.clone(),
            step: row.map(|r| r.task.id.clone()).unwrap_or_default(),
            done_word: row.filter(|_| bowl.is_none()).map_or("Done", |row| done_word(row.task)),
            done_to: bowl.map_or_else(
                || row.map(|r| format!("steps/{}/done", r.task.id)).unwrap_or_default(),
                |bowl| format!("bowls/{}/used", bowl.id),
            ),
            // The number first: where a step has none of its own, the time it wants hands.
            figure,
            unit,
            other,
            title: bowl.map_or_else(
                || step.map(|s| s.title.clone()).unwrap_or_default(),
                |bowl| format!("{}: {}", salting_words(step), bowl.name),
            ),
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
            out_ms: i64::try_from(out.as_millis()).unwrap_or(0),
            out_words: span(out),
            out_late: kitchen(out) > opened.run.out_at_most(),
            out_most: opened.run.out_at_most().in_min() as i64,
            out_most_words: span(exact(opened.run.out_at_most())),
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
        let next = opened.next_step().and_then(|i| opened.run.tasks.get(i));
        if let Some(task) = next.filter(|task| !self.done && task.id == self.step) {
            self.knife = HandsKnife::of(state, cook, opened, task).await?;
        }
        if let Some(lost) = missing_picks(opened).filter(|_| !self.finished) {
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
    opened.run.request.as_ref().map_or_else(Kitchen::default, |request| request.kitchen).quiet
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
    use rauchkeller_core::run::What;
    use rauchkeller_core::units::{MassIn, grams as grams_of};

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
        let view = HandsView::of(&opened, &"2026-12-11T16:05[Europe/Vienna]".parse().unwrap(), None, Some("lay-out"));
        assert_eq!(view.undo, Some(("steps/lay-out/undone".to_owned(), "wash hands, weigh the salt, lay out tools".into())));
        let fresh = kept_cut("pork-belly", 2400.0, &[]);
        let all: Vec<(&str, &str)> = fresh.plan.steps.iter().map(|s| (s.id.as_str(), "2026-12-12T18:00:00Z")).collect();
        let eaten = kept_cut("pork-belly", 2400.0, &all);
        assert!(HandsView::of(&eaten, &"2026-12-12T19:05[Europe/Vienna]".parse().unwrap(), None, None).finished);
    }

    #[test]
    fn salting_goes_bowl_by_bowl_and_says_what_is_left() {
        let opened = opened(&[]);
        let salt = opened.plan.steps.iter().position(|s| s.kind == "salt").unwrap();
        let (meat, cut) = (opened.run.bowls[0].clone(), opened.run.bowls[1].clone());
        let weighed = opened.with("2026-12-10T18:00:00Z", What::BowlWeighed { bowl: meat.id.clone(), grams: grams_of(9.1), scale: None });
        let on = |opened: &Opened, bowl: &str, g| {
            let says = What::SaltOn { task: Some("salt".into()), bowl: Some(bowl.into()), grams: grams_of(g), purity: None };
            opened.with("2026-12-11T15:00:00Z", says)
        };
        let half = on(&weighed, &meat.id, 9.1);
        let now = "2026-12-11T16:45[Europe/Vienna]";
        let second = view(&half, now, Some(salt));
        let left = grams(cut.target.in_g());
        assert_eq!((second.figure.as_str(), second.title.as_str()), (left.as_str(), "Salt: cut sides"));
        assert!(
            second.detail.contains("9.1 g on") && second.detail.contains(&left) && second.done_to.starts_with("bowls/"),
            "{}",
            second.detail
        );
        let undo = HandsView::of(&half, &now.parse().unwrap(), Some(salt), Some(&meat.id)).undo.unwrap();
        assert_eq!(undo, (format!("bowls/{}/unused", meat.id), "salt on meat side".into()));
        // All used up: the step itself is what is left to tick.
        let all = on(&half, &cut.id, cut.target.in_g());
        assert!(view(&all, now, Some(salt)).done_to.starts_with("steps/"));
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
