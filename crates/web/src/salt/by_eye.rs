//! Salted by eye after all: the tub before and after, and what came back of a mix. The book learns the hand.

use super::{answer, read_grams, show};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::piece::{Opened, event, open};
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::{grams, trim};
use axum::extract::{Form, Path, State};
use axum::response::Response;
use rauchkeller_contract::PlanDoc;
use rauchkeller_core::run::{Event, Tub, What};
use rauchkeller_core::salt::{Hand, dose_reached, hand};
use rauchkeller_core::units::{GramsPerKg, Mass, MassIn, Share, grams as mass};
use rauchkeller_store::Appended;
use serde::Deserialize;
use std::collections::BTreeMap;
use uuid::Uuid;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct ByEyeForm {
    pub before: String,
    pub after: String,
    pub mixleft: String,
    /// The note the cook saw; empty for none.
    pub seen: String,
}

/// What was weighed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TubRead {
    before: Option<f64>,
    after: Option<f64>,
    mix_left: Option<f64>,
}

/// What the station shows of it.
#[derive(Debug, Clone, Default)]
pub struct ByEyeView {
    pub form: ByEyeForm,
    pub slips: BTreeMap<&'static str, String>,
    /// What went on and what that means.
    pub says: String,
    /// What the book knows of this hand.
    pub hand: String,
}

/// A tub weighs no more than this, g.
const MOST_G: f64 = 20_000.0;

impl ByEyeForm {
    fn read(&self, plan: &PlanDoc) -> Result<TubRead, BTreeMap<&'static str, String>> {
        let mut slips = BTreeMap::new();
        let mut field = |name: &'static str, typed: &str| {
            if typed.trim().is_empty() {
                return None;
            }
            let read = read_grams(typed).filter(|g| (0.0..=MOST_G).contains(g));
            if read.is_none() {
                let typed: String = typed.trim().chars().take(40).collect();
                slips.insert(name, format!("“{typed}” is no weight; write grams from 0 to 20000, like 812."));
            }
            read
        };
        let (before, after, left) = (field("before", &self.before), field("after", &self.after), field("mixleft", &self.mixleft));
        if let (Some(before), Some(after)) = (before, after)
            && after > before
        {
            slips.insert(
                "after",
                format!("{after} g is more than the tub weighed before, {before} g. Weigh it again; salt cannot have come back."),
            );
        }
        match (&plan.dose.mix, left) {
            (Some(mix), Some(left)) if left > mix.g + 0.05 => {
                slips.insert("mixleft", format!("{left} g cannot be left of {} g. Weigh the bowl without its own weight.", grams(mix.g)));
            }
            (None, Some(_)) => {
                slips.insert("mixleft", "There is no mix in this plan. Leave it out.".into());
            }
            _ => {}
        }
        if slips.is_empty() { Ok(TubRead { before, after, mix_left: left }) } else { Err(slips) }
    }

    pub(super) fn of(noted: Option<&Tub>) -> Self {
        let text = |g: Option<Mass>| g.map(|g| trim(g.in_g(), 1)).unwrap_or_default();
        let Some(noted) = noted else { return Self::default() };
        let seen = Uuid::from_u128(noted.id.0).to_string();
        Self { before: text(noted.before), after: text(noted.after), mixleft: text(noted.mix_left), seen }
    }
}

impl ByEyeView {
    /// What was noted, and what the hand did on the latest pieces.
    pub fn of(opened: &Opened, tubs: &[(String, f64)]) -> Self {
        let dose = &opened.plan.dose;
        let noted = opened.record().tub;
        let mut says = Vec::new();
        if let Some(g) = noted.and_then(|tub| tub.taken()).map(MassIn::in_g) {
            let request = &opened.plan.request;
            let (target, already) = (mass(dose.total_g), mass(dose.from_ledger_g));
            let reached = dose_reached(GramsPerKg(request.g_per_kg), target, already, mass(g), Share(request.salt_purity));
            let per_kg = reached.map_or(0.0, |dose| dose.0);
            let off = g - dose.scale_g;
            let side = if off >= 0.0 { "over" } else { "under" };
            says.push(format!(
                "{} g went on, {} g {side} the {} g of the plan: {} g/kg.",
                grams(g),
                grams(off.abs()),
                grams(dose.scale_g),
                trim(per_kg, 1)
            ));
            if off > 0.1 * dose.scale_g {
                says.push("Too much, and only just now? Brush it off over a plate and weigh what comes off.".into());
            }
        }
        if let Some((left, mix)) = noted.and_then(|tub| tub.mix_left).map(MassIn::in_g).zip(dose.mix.as_ref()) {
            let salt = left * mix.salt_g_per_100g / 100.0;
            says.push(format!("{} g of {} came back, {} g of salt in it.", grams(left), mix.name, grams(salt)));
        }
        Self { form: ByEyeForm::of(noted.as_ref()), slips: BTreeMap::new(), says: says.join(" "), hand: hand_words(tubs) }
    }
}

/// What a hand does against the plan, over its latest pieces, in words.
fn hand_words(tubs: &[(String, f64)]) -> String {
    let pieces = tubs.iter().filter_map(|(plan, g)| {
        let plan: PlanDoc = serde_json::from_str(plan).ok()?;
        Some((mass(plan.dose.scale_g), mass(*g)))
    });
    let Some(Hand { mean, range, pieces }) = hand(pieces) else { return String::new() };
    if pieces == 1 {
        return format!("By eye your hand laid on {} times the plan, once; one piece says little.", trim(mean, 2));
    }
    format!("By eye your hand lays on {} times the plan ({} to {} on {pieces} pieces).", trim(mean, 2), trim(range.0, 2), trim(range.1, 2))
}

/// Notes it.
pub async fn note(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Form(form): Form<ByEyeForm>,
) -> Result<Response, WebError> {
    for _ in 0..LOOKS {
        let opened = open(&state, &cook, &id).await?;
        let read = match form.read(&opened.plan) {
            Ok(read) => read,
            Err(slips) => return show(&state, &cook, partial, &id, |view| (view.by_eye.form, view.by_eye.slips) = (form, slips)).await,
        };
        let stands = opened.record().tub;
        if let Some(theirs) = stands.filter(|tub| Uuid::from_u128(tub.id.0).to_string() != form.seen) {
            let same =
                [theirs.before, theirs.after, theirs.mix_left].map(|g| g.map(MassIn::in_g)) == [read.before, read.after, read.mix_left];
            if same {
                return answer(&state, &cook, partial, &id).await;
            }
            let stands = ByEyeForm::of(Some(&theirs));
            let says = format!(
                "Somebody else noted it meanwhile: before {}, after {}, mix left {}. Yours stands here still; press again to put it in its place.",
                or_none(&stands.before),
                or_none(&stands.after),
                or_none(&stands.mixleft)
            );
            let mine = ByEyeForm { seen: stands.seen, ..form };
            return show(&state, &cook, partial, &id, |view| {
                view.by_eye.form = mine;
                view.by_eye.slips.insert("before", says);
            })
            .await;
        }
        let now = state.now();
        let of = |g: Option<f64>| g.map(mass);
        let what = What::TubWeighed { before: of(read.before), after: of(read.after), mix_left: of(read.mix_left) };
        let mut events: Vec<Event> = stands.iter().map(|old| event(now, now, What::Voided(old.id))).collect();
        events.push(event(now, now, what));
        match cook.kitchen(&state).append(opened.piece.id, &events, Some(cook.0.id), Some(opened.piece.version)).await? {
            Appended::Changed => {}
            Appended::Full => return Err(WebError::Full),
            _ => return answer(&state, &cook, partial, &id).await,
        }
    }
    Err(WebError::Busy)
}

/// Looks at a piece so many times until nobody else changes it meanwhile.
const LOOKS: usize = 12;

fn or_none(text: &str) -> String {
    if text.is_empty() { "nothing".into() } else { format!("{text} g") }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;

    fn form(before: &str, after: &str, mixleft: &str) -> ByEyeForm {
        ByEyeForm { before: before.into(), after: after.into(), mixleft: mixleft.into(), seen: String::new() }
    }

    #[test]
    fn the_tub_is_read_and_its_mistakes_are_named() {
        let plan = opened(&[]).plan;
        let read = form("812 g", "781", "").read(&plan).unwrap();
        assert_eq!((read.before, read.after), (Some(812.0), Some(781.0)));
        assert!(form("812", "820", "").read(&plan).unwrap_err()["after"].contains("cannot have come back"));
        assert!(form("a lot", "", "").read(&plan).unwrap_err()["before"].contains("“a lot”"));
        assert!(form("812", "-5", "").read(&plan).is_err());
        assert!(form("", "", "4").read(&plan).unwrap_err()["mixleft"].contains("no mix"));
    }

    #[test]
    fn the_book_learns_the_hand() {
        let plan = opened(&[]).plan;
        let planned = plan.dose.scale_g;
        let stored = serde_json::to_string(&plan).unwrap();
        // By hand: 1.2 and 1.6 times the plan: 1.4 in the mean.
        let hand = hand_words(&[(stored.clone(), 1.2 * planned), (stored, 1.6 * planned)]);
        assert!(hand.contains("1.4 times the plan (1.2 to 1.6 on 2 pieces)"), "{hand}");
        assert!(hand_words(&[]).is_empty());
    }
}
