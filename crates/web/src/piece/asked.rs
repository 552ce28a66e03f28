//! Questions about what was noted, in words, and the answers that are offered.

use super::ticks::{noted_before, noted_with};
use super::{Opened, append, event, open};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::{grams, span};
use axum::extract::{Form, Path, State};
use axum::response::{IntoResponse, Redirect, Response};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use rauchkeller_core::method::Place;
use rauchkeller_core::run::{Asked, AskedCode, Event, EventId, RunPlan, RunTask, SALT_ON_IT, What};
use rauchkeller_core::units::MassIn;
use serde::Deserialize;

/// A question on a page.
pub struct Question {
    pub key: String,
    pub says: String,
    /// What takes the notes back: a button, where that is an answer.
    pub back: Option<&'static str>,
    /// What lets them stand.
    pub stands: &'static str,
}

/// What is asked, in words.
pub fn asked_words(asked: &Asked, plan: &RunPlan) -> String {
    let title = |task: &String| plan.task(task).map_or_else(|| task.clone(), |t| super::page::lower(&t.title));
    let about: Vec<String> = asked.about.iter().map(title).collect();
    let bowl = |id: &String| plan.bowls.iter().find(|b| b.id == *id).map_or_else(|| id.clone(), |b| b.name.clone());
    let values: Vec<String> = asked.values.iter().map(|g| format!("{} g", grams(g.in_g()))).collect();
    match asked.code {
        AskedCode::WithinAMinute => format!(
            "{} tasks were ticked within a minute: from ‘{}’ to ‘{}’. Were they done at those hours? Salt, drying and the time out of the refrigerator go by them.",
            about.len(),
            about.first().map_or("", String::as_str),
            about.last().map_or("", String::as_str)
        ),
        // The last one counts, as it does where one cook puts it right twice.
        AskedCode::TwoValues if asked.about.iter().any(|of| of == SALT_ON_IT) => format!(
            "{} and {} were both noted as the salt that really is on it. The second counts until you take it back.",
            values.first().map_or("", String::as_str),
            values.last().map_or("", String::as_str)
        ),
        AskedCode::TwoValues => format!(
            "{} and {} were both noted{}. The first counts until you take one back.",
            values.first().map_or("", String::as_str),
            values.last().map_or("", String::as_str),
            asked.about.first().map_or_else(|| " within a minute".to_owned(), |id| format!(" for {}", bowl(id)))
        ),
        AskedCode::TwoMoments => {
            let zone = plan.request.as_ref().map_or(TimeZone::UTC, |r| r.now.time_zone().clone());
            let at = |at: &Timestamp| at.to_zoned_datetime(zone.clone()).strftime("%a %H:%M").to_string();
            format!(
                "‘{}’ was noted twice: at {} and at {}. The earlier counts until you take it back.",
                about.first().map_or("", String::as_str),
                asked.moments.first().map_or_else(String::new, at),
                asked.moments.last().map_or_else(String::new, at)
            )
        }
        AskedCode::MoreOff => "More salt came off than was on it by the notes. It counts as all of it.".into(),
        AskedCode::TaskLost => format!("‘{}’ was ticked, and the plan as it stands has no such task.", about.join(", ")),
        AskedCode::OutOfOrder => {
            format!("‘{}’ was noted later than what comes after it; it counts as done by then.", about.join(", "))
        }
        AskedCode::OddHeat => {
            let heat = |t: &&RunTask| t.place == Place::Fire && t.beside.is_none();
            let planned: SignedDuration = plan.tasks.iter().filter(heat).map(RunTask::takes).sum();
            let both = asked.moments.first().zip(asked.moments.last());
            let took = both.map_or(SignedDuration::ZERO, |(into, out)| out.duration_since(*into));
            format!(
                "Out of the heat after {}? It is planned for {}. Is it out, or was that a slip of the finger?",
                span(took),
                span(planned)
            )
        }
        AskedCode::Weighing => "A weighing does not fit the others.".into(),
    }
}

/// The questions of a page. What is asked about weighings is asked where they are noted.
pub fn questions(opened: &Opened, asked: &[Asked]) -> Vec<Question> {
    let of = |asked: &Asked| Question {
        key: asked.key.clone(),
        says: asked_words(asked, &opened.run),
        back: match asked.code {
            AskedCode::TwoValues => Some("Take the second back"),
            AskedCode::WithinAMinute => Some("Take them back"),
            AskedCode::TwoMoments => Some("It was the later one"),
            AskedCode::MoreOff | AskedCode::OutOfOrder | AskedCode::TaskLost => Some("Take it back"),
            AskedCode::OddHeat => Some("A slip: take it back"),
            AskedCode::Weighing => None,
        },
        stands: match asked.code {
            AskedCode::WithinAMinute | AskedCode::OutOfOrder => "They stand as noted",
            AskedCode::TwoMoments => "It was the earlier one",
            AskedCode::OddHeat => "It is out",
            _ => "Leave it so",
        },
    };
    asked.iter().filter(|a| a.code != AskedCode::Weighing).map(of).collect()
}

/// What was answered.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct AnswerForm {
    question: String,
    /// `stands`, or `back`.
    how: String,
}

/// Answers a question: lets what was noted stand, or takes it back.
pub async fn answer_asked(
    State(state): State<AppState>,
    cook: SignedIn,
    _: Partial,
    Path(id): Path<String>,
    Form(form): Form<AnswerForm>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let now = cook.now(&state);
    let stand = opened.stand(&now);
    if let Some(asked) = stand.asked.iter().find(|a| a.key == form.question) {
        let at = now.timestamp();
        let events: Vec<Event> = match form.how.as_str() {
            "back" => {
                // Of two values the first stands; with a salting goes what it wrote down.
                let skip = usize::from(asked.code == AskedCode::TwoValues);
                let ticks =
                    matches!(asked.code, AskedCode::WithinAMinute | AskedCode::OutOfOrder | AskedCode::TaskLost | AskedCode::OddHeat);
                let of_tasks = asked.about.iter().filter(|_| ticks).flat_map(|task| noted_with(&opened, task));
                // Of two moments every note before the later one goes, with the salt that was written down by it.
                let later = asked.moments.last().filter(|_| asked.code == AskedCode::TwoMoments);
                let earlier = later.into_iter().flat_map(|later| noted_before(&opened, &asked.about, *later));
                let named = asked.events.iter().skip(skip).copied().filter(|_| later.is_none());
                let mut ids: Vec<EventId> = named.chain(of_tasks).chain(earlier).collect();
                ids.sort_unstable();
                ids.dedup();
                ids.into_iter().map(|id| event(at, at, What::Voided(id))).collect()
            }
            _ => vec![event(at, at, What::Answered { question: asked.key.clone(), how: "stands".into() })],
        };
        append(&state, &cook, opened.piece.id, &events).await?;
    }
    Ok(Redirect::to(&format!("/pieces/{id}")).into_response())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use jiff::ZonedDateTime;
    use rauchkeller_core::units::grams;

    fn now() -> ZonedDateTime {
        "2026-12-11T15:00[Europe/Vienna]".parse().unwrap()
    }

    #[test]
    fn everything_ticked_within_a_minute_is_asked_about() {
        let all: Vec<String> = opened(&[]).run.tasks.iter().map(|t| t.id.clone()).take(6).collect();
        let ticks: Vec<(&str, &str)> = all.iter().map(|id| (id.as_str(), "2026-12-11T13:00:00Z")).collect();
        let opened = opened(&ticks);
        let asked = questions(&opened, &opened.stand(&now()).asked);
        let question = asked.iter().find(|q| q.says.contains("within a minute")).expect("it is asked");
        assert_eq!((question.back, question.stands), (Some("Take them back"), "They stand as noted"));
        // In a cook's words, never by the names of the plan.
        assert!(question.says.contains("Were they done at those hours?") && !question.says.contains("lay-out"), "{}", question.says);
        // Answered, it is asked no more.
        let answer = What::Answered { question: question.key.clone(), how: "stands".into() };
        let answered = opened.with("2026-12-11T13:05:00Z", answer);
        assert!(!questions(&answered, &answered.stand(&now()).asked).iter().any(|q| q.key == question.key));
    }

    #[test]
    fn two_values_of_one_bowl_are_both_said() {
        let opened = opened(&[]);
        let bowl = opened.bowls()[0].clone();
        let weighed = |g: f64| What::BowlWeighed { bowl: bowl.id.clone(), grams: grams(g), scale: None };
        let both = opened.with("2026-12-11T12:50:00Z", weighed(11.0)).with("2026-12-11T12:50:20Z", weighed(14.5));
        let asked = questions(&both, &both.stand(&now()).asked);
        let question = asked.iter().find(|q| q.says.contains("were both noted")).expect("it is asked");
        assert!(
            question.says.contains("11.0 g") && question.says.contains("14.5 g") && question.says.contains(&bowl.name),
            "{}",
            question.says
        );
        assert_eq!(question.back, Some("Take the second back"));
    }
}
