//! The Book: what was eaten, how it was, and what to change.

use crate::auth::SignedIn;
use crate::bench::encode;
use crate::compute::compute;
use crate::draw::{Slice, Width, draw_slice};
use crate::error::WebError;
use crate::piece::Opened;
use crate::shell::{Rail, render};
use crate::state::AppState;
use crate::words::{JUICE, SALTINESS, grams, on_scale, trim};
use askama::Template;
use axum::extract::{Query, State};
use axum::response::Response;
use jiff::Timestamp;
use jiff::ZonedDateTime;
use rauchkeller_contract::earlier_advice;
use rauchkeller_core::piece::Cut;
use rauchkeller_core::run::Tasted;
use rauchkeller_core::units::TimeIn;
use rauchkeller_core::verdict::seasoned_right;
use rauchkeller_store::{JudgedDose, Kitchen, PieceId, Refrigerator};
use serde::Deserialize;
use std::collections::HashMap;
use std::sync::{Arc, LazyLock, Mutex, MutexGuard, PoisonError};

/// One page of the book.
pub struct Entry {
    pub href: String,
    pub verdict_href: String,
    pub name: String,
    pub day: String,
    pub line: String,
    /// What really was, beside what was planned; empty where it was as planned or nobody noted it.
    pub really: Vec<String>,
    pub again_href: String,
    pub judged: bool,
    pub patches: Vec<bool>,
    /// Its skin from above, as a path; empty without skin.
    pub outline: &'static str,
    /// Whether its skin puffs, or only gets crisp.
    pub crackles: bool,
    pub bad: u32,
    pub rim_word: &'static str,
    pub middle_word: &'static str,
    pub juice_word: &'static str,
    pub advice: String,
    pub slice: String,
}

/// A slab of skin from above, and a bird with its neck to the left.
const SLAB: &str = "M6 1H60Q65 1 65 6V40Q65 45 60 45H6Q1 45 1 40V6Q1 1 6 1Z";
const BIRD: &str = "M1 23C1 9 14 1 32 1H50Q65 1 65 14V32Q65 45 50 45H32C14 45 1 37 1 23Z";

/// What the entries say together.
pub struct Lesson {
    pub cut: String,
    pub line: String,
}

#[derive(Template)]
#[template(path = "book/page.html")]
struct BookPage {
    rail: Rail,
    entries: Vec<Arc<Entry>>,
    /// Those that cannot be read: where they are, and what is said of them.
    unread: Vec<(String, String)>,
    lessons: Vec<Lesson>,
    find: String,
    older: String,
    newest: bool,
}

fn entry(opened: &Opened, now: &ZonedDateTime) -> Entry {
    let zone = now.time_zone();
    let verdict = opened.record().tasted.as_ref().map(|fact| &fact.says);
    let taste = |of: fn(&Tasted) -> i8| verdict.map_or(0, |v| i32::from(of(v)));
    let bits = verdict.and_then(|v| v.bad_patches).unwrap_or(0);
    let eaten = opened.piece.finished_at.unwrap_or(opened.piece.serve_at);
    let plan = &opened.plan;
    Entry {
        href: format!("/pieces/{}", opened.piece.id),
        verdict_href: format!("/pieces/{}/verdict", opened.piece.id),
        name: opened.piece.name.clone(),
        day: eaten.to_zoned_datetime(zone.clone()).strftime("%a %-d %b %Y").to_string(),
        line: format!(
            "{}\u{a0}g of {} · {}\u{a0}g/kg · {}\u{a0}h · {}",
            // After a change of plan nothing may be left to weigh: what is on it counts.
            grams(opened.on_scale_g().filter(|_| plan.dose.on_scale_g() < 0.05).unwrap_or_else(|| plan.dose.on_scale_g())),
            plan.request.salt_name,
            trim(plan.request.g_per_kg, 1),
            trim(plan.fridge.planned_h, 0),
            plan.request.method_name
        ),
        really: really(opened, now),
        again_href: format!("/bench?again={}", opened.piece.id),
        judged: verdict.is_some(),
        patches: (0..9).map(|i| bits & (1 << i) != 0).collect(),
        outline: match Cut::find(&plan.request.cut) {
            _ if plan.request.skin_mm <= 0.0 => "",
            Some(cut) if cut.is_bird() => BIRD,
            _ => SLAB,
        },
        crackles: Cut::find(&plan.request.cut).is_some_and(Cut::has_fat_window),
        bad: bits.count_ones(),
        rim_word: on_scale(SALTINESS, taste(|v| v.rim)),
        middle_word: on_scale(SALTINESS, taste(|v| v.middle)),
        juice_word: on_scale(JUICE, taste(|v| v.juice)),
        advice: verdict.map(|v| earlier_advice(&v.advice)).unwrap_or_default(),
        slice: draw_slice(&Slice { stop_mm: None, ..real_slice(opened, now) }, Width::Narrow),
    }
}

/// The slice as it really left the refrigerator; as planned where nobody noted it.
fn real_slice(opened: &Opened, now: &ZonedDateTime) -> Slice {
    let planned = Slice::of(&opened.plan).by(opened.system);
    let stand = opened.stand(now);
    match (&stand.state, stand.left_cold) {
        (Some(state), Some(_)) => planned.at(state),
        _ => planned,
    }
}

/// What really was, where it was noted and is another than planned: grams, hours, skin.
fn really(opened: &Opened, now: &ZonedDateTime) -> Vec<String> {
    let (plan, stand) = (&opened.plan, opened.stand(now));
    let mut said = Vec::new();
    if let Some(on) = opened.on_scale_g().filter(|on| (on - plan.dose.on_scale_g()).abs() >= 0.15) {
        said.push(format!("{}\u{a0}g really went on", grams(on)));
    }
    let hours = stand.hours_of_salt().filter(|_| stand.left_cold.is_some()).map(TimeIn::in_h);
    if let Some(hours) = hours.filter(|h| (h - plan.fridge.planned_h).abs() >= 0.75) {
        said.push(format!("{}\u{a0}h of salt really", trim(hours, 0)));
    }
    let dry = stand.state.as_ref().and_then(|s| s.dryness).map(|d| d.0).zip(plan.fridge.skin_dryness).filter(|_| stand.left_cold.is_some());
    if let Some((really, planned)) = dry.filter(|(really, planned)| (really - planned).abs() >= 0.04) {
        said.push(format!("skin {:.0}\u{a0}% dry instead of {:.0}", really * 100.0, planned * 100.0));
    }
    if stand.left_cold.is_none() && stand.on.is_none() {
        said.push("its hours were not noted: this is the plan".into());
    }
    said
}

/// What several verdicts of one cut say together; with fewer than three it says so.
fn lessons(doses: &[JudgedDose]) -> Vec<Lesson> {
    let mut cuts: Vec<&str> = doses.iter().map(|d| d.cut.as_str()).collect();
    cuts.sort_unstable();
    cuts.dedup();
    cuts.into_iter()
        .map(|cut| {
            let judged: Vec<&JudgedDose> = doses.iter().filter(|d| d.cut == cut).collect();
            let right: Vec<f64> = judged.iter().filter(|d| seasoned_right(d.rim, d.middle)).map(|d| d.g_per_kg).collect();
            let line = if judged.len() < 3 {
                format!("{} judged so far: too few to say more than the last one did.", judged.len())
            } else if right.is_empty() {
                format!("{} judged, none of them seasoned right yet.", judged.len())
            } else {
                let (low, high) = right.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), d| (l.min(*d), h.max(*d)));
                let band = if (high - low).abs() < 0.05 {
                    format!("{} g/kg", trim(low, 1))
                } else {
                    format!("{}–{} g/kg", trim(low, 1), trim(high, 1))
                };
                format!("{} of {} seasoned about right, at {band}.", right.len(), judged.len())
            };
            Lesson { cut: Cut::find(cut).map_or(cut, |c| c.name).to_owned(), line }
        })
        .collect()
}

/// Entries on a page.
const A_PAGE: u64 = 20;
/// Verdicts that lessons are drawn from.
const REMEMBERED: u64 = 60;

/// Which page, and which pieces.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct BookQuery {
    /// Words of the name.
    find: String,
    /// Eaten before this moment, microseconds since 1970; empty for the newest.
    before: String,
}

/// An entry as it was written: of one version of a piece, in one zone. Nothing of it changes any more.
type Key = (PieceId, i32, Option<String>);

/// So many entries are remembered; then it begins anew. One takes some 6 KB.
const KEPT: usize = 400;

static WRITTEN: LazyLock<Mutex<HashMap<Key, Arc<Entry>>>> = LazyLock::new(Mutex::default);

fn remembered() -> MutexGuard<'static, HashMap<Key, Arc<Entry>>> {
    WRITTEN.lock().unwrap_or_else(PoisonError::into_inner)
}

/// The entries of pieces: those that were written before as they are, the others from their plans and records.
async fn written(
    kitchen: &Kitchen<'_>,
    eaten: &[(PieceId, i32, Timestamp)],
    now: &ZonedDateTime,
) -> Result<(Vec<Arc<Entry>>, Vec<(String, String)>), WebError> {
    let zone = now.time_zone().iana_name().map(str::to_owned);
    let key = |id: PieceId, version: i32| (id, version, zone.clone());
    let known: Vec<Option<Arc<Entry>>> = {
        let all = remembered();
        eaten.iter().map(|(id, version, _)| all.get(&key(*id, *version)).cloned()).collect()
    };
    let new: Vec<PieceId> = eaten.iter().zip(&known).filter(|(_, known)| known.is_none()).map(|((id, ..), _)| *id).collect();
    let pieces = kitchen.pieces(&new).await?;
    let then = now.clone();
    let (fresh, unread) = if pieces.is_empty() {
        (HashMap::new(), vec![])
    } else {
        compute(move || {
            let (mut fresh, mut unread) = (HashMap::new(), Vec::new());
            for piece in pieces {
                let (id, version) = (piece.id, piece.version);
                match Opened::of(piece, Refrigerator::default(), None, &then) {
                    Ok(opened) => drop(fresh.insert(id, (version, Arc::new(entry(&opened, &then))))),
                    Err(why) => unread.push((format!("/pieces/{}", why.id), why.line())),
                }
            }
            (fresh, unread)
        })
        .await?
    };
    if !fresh.is_empty() {
        let mut all = remembered();
        if all.len() + fresh.len() > KEPT {
            all.clear();
        }
        all.extend(fresh.iter().map(|(id, (version, entry))| (key(*id, *version), entry.clone())));
    }
    let of = |((id, ..), known): (&(PieceId, i32, Timestamp), Option<Arc<Entry>>)| known.or_else(|| fresh.get(id).map(|(_, e)| e.clone()));
    Ok((eaten.iter().zip(known).filter_map(of).collect(), unread))
}

/// The Book.
pub async fn page(State(state): State<AppState>, cook: SignedIn, Query(query): Query<BookQuery>) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(&state);
    let find: String = query.find.trim().chars().take(80).collect();
    let before = query.before.parse().ok().and_then(|us| Timestamp::from_microsecond(us).ok());
    // One more than is shown says whether there is an older page.
    let mut eaten = kitchen.eaten(A_PAGE + 1, before, &find).await?;
    let more = eaten.len() as u64 > A_PAGE;
    eaten.truncate(A_PAGE as usize);
    let last = eaten.last().map(|(.., at)| *at);
    let older = last.filter(|_| more).map(|at| format!("/book?find={}&before={}", encode(&find), at.as_microsecond())).unwrap_or_default();
    let lessons = if before.is_none() && find.is_empty() { lessons(&kitchen.judged_doses(REMEMBERED).await?) } else { vec![] };
    let now = cook.now(&state);
    let (entries, unread) = written(&kitchen, &eaten, &now).await?;
    let newest = before.is_none();
    render(&BookPage { rail: Rail::at("book", &cook), entries, unread, lessons, find, older, newest })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::kept_cut;
    use rauchkeller_core::run::What;

    fn judged(cut: &str, weight: f64, rim: i8, middle: i8) -> Opened {
        let tasted = What::Tasted { bad_patches: Some(0b11), rim, middle, juice: 0, advice: "more holes".into() };
        kept_cut(cut, weight, &[]).with("2026-12-12T20:00:00Z", tasted)
    }

    fn dose(cut: &str, g_per_kg: f64, rim: i32, middle: i32) -> JudgedDose {
        JudgedDose { cut: cut.into(), g_per_kg, rim, middle }
    }

    #[test]
    fn with_too_little_evidence_it_says_so() {
        let two = lessons(&[dose("pork-belly", 7.5, 0, 0), dose("pork-belly", 8.0, 0, 0)]);
        assert!(two[0].line.contains("2 judged so far: too few") && two[0].cut == "Pork belly");
    }

    #[test]
    fn three_verdicts_give_a_dose_that_was_right() {
        let found = lessons(&[dose("pork-belly", 7.5, 0, 0), dose("pork-belly", 8.0, 1, 0), dose("pork-belly", 12.0, 2, 2)]);
        assert_eq!((found.len(), found[0].line.as_str()), (1, "2 of 3 seasoned about right, at 7.5–8 g/kg."));
        let wrong = lessons(&[dose("duck-whole", 9.0, 2, 2), dose("duck-whole", 10.0, -2, -2), dose("duck-whole", 11.0, 2, 0)]);
        assert!(wrong[0].line.contains("none of them"));
        // One that its verdict calls salty throughout is not about right.
        let salty = lessons(&[dose("pork-belly", 7.5, 0, 0), dose("pork-belly", 8.0, 0, 0), dose("pork-belly", 9.0, 1, 1)]);
        assert!(salty[0].line.starts_with("2 of 3"), "{}", salty[0].line);
    }

    #[test]
    fn an_entry_shows_patches_words_and_advice() {
        let now: ZonedDateTime = "2026-12-13T09:00[Europe/Vienna]".parse().unwrap();
        let entry = entry(&judged("pork-belly", 2000.0, 1, -1), &now);
        assert_eq!((entry.bad, entry.patches.iter().filter(|b| **b).count()), (2, 2));
        assert_eq!((entry.rim_word, entry.middle_word, entry.juice_word), ("salty", "mild", "right"));
        assert_eq!(entry.advice, "more holes");
    }

    #[test]
    fn skin_is_drawn_as_what_it_was_on_and_lean_has_none() {
        let now: ZonedDateTime = "2026-12-13T09:00[Europe/Vienna]".parse().unwrap();
        let of = |cut, g| entry(&judged(cut, g, 0, 0), &now).outline;
        assert_eq!((of("pork-belly", 2000.0), of("turkey-whole", 5000.0), of("beef-rib-steak", 500.0)), (SLAB, BIRD, ""));
    }

    #[test]
    fn an_entry_tells_what_really_was_beside_the_plan() {
        let now: ZonedDateTime = "2026-12-13T09:00[Europe/Vienna]".parse().unwrap();
        // Salted at six in the morning with 25 g, and out at four in the afternoon: ten hours.
        let on = What::ActualSalt { grams: rauchkeller_core::units::grams(25.0), purity: None };
        let run = kept_cut("pork-belly", 2000.0, &[("salt", "2026-12-12T05:00:00Z"), ("temper", "2026-12-12T15:00:00Z")]);
        let said = really(&run.with("2026-12-12T05:00:00Z", on), &now).join("; ");
        assert!(
            said.contains("25.0\u{a0}g really") && said.contains("10\u{a0}h of salt really") && said.contains("% dry instead of"),
            "{said}"
        );
        let slice = |opened: &Opened| real_slice(opened, &now).dryness.unwrap();
        assert!(slice(&run) < slice(&kept_cut("pork-belly", 2000.0, &[])) - 0.2, "the slice is the real one");
    }
}
