//! Salted by eye after all: the tub before and after, and what came back of a mix. The book learns the hand.

use super::{answer, read_grams, show};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::piece::{Opened, open, piece_id};
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::{grams, trim};
use axum::extract::{Form, Path, State};
use axum::response::Response;
use rauchkeller_contract::PlanDoc;
use rauchkeller_core::salt::{Hand, dose_reached, hand};
use rauchkeller_core::units::{GramsPerKg, Share, grams as mass};
use rauchkeller_store::{ByEye, Noted};
use serde::Deserialize;
use std::collections::BTreeMap;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct ByEyeForm {
    pub before: String,
    pub after: String,
    pub mixleft: String,
    pub version: i32,
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
    fn read(&self, plan: &PlanDoc) -> Result<ByEye, BTreeMap<&'static str, String>> {
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
        if slips.is_empty() {
            Ok(ByEye { tub_before_g: before, tub_after_g: after, mix_left_g: left, version: self.version })
        } else {
            Err(slips)
        }
    }

    pub(super) fn of(noted: ByEye) -> Self {
        let text = |g: Option<f64>| g.map(|g| trim(g, 1)).unwrap_or_default();
        Self { before: text(noted.tub_before_g), after: text(noted.tub_after_g), mixleft: text(noted.mix_left_g), version: noted.version }
    }
}

impl ByEyeView {
    /// What was noted, and what the hand did on the latest pieces.
    pub fn of(opened: &Opened, tubs: &[(String, f64)]) -> Self {
        let dose = &opened.plan.dose;
        let noted = opened.piece.by_eye;
        let mut says = Vec::new();
        if let Some(g) = noted.from_tub() {
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
        if let Some((left, mix)) = noted.mix_left_g.zip(dose.mix.as_ref()) {
            let salt = left * mix.salt_g_per_100g / 100.0;
            says.push(format!("{} g of {} came back, {} g of salt in it.", grams(left), mix.name, grams(salt)));
        }
        Self { form: ByEyeForm::of(noted), slips: BTreeMap::new(), says: says.join(" "), hand: hand_words(tubs) }
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
    let opened = open(&state, &cook, &id).await?;
    let noted = match form.read(&opened.plan) {
        Ok(noted) => noted,
        Err(slips) => return show(&state, &cook, partial, &id, |view| (view.by_eye.form, view.by_eye.slips) = (form, slips)).await,
    };
    match cook.kitchen(&state).note_by_eye(piece_id(&id)?, noted, state.now()).await? {
        Noted::Noted => answer(&state, &cook, partial, &id).await,
        Noted::Theirs(theirs) => {
            let stands = ByEyeForm::of(theirs);
            let says = format!(
                "Somebody else noted it meanwhile: before {}, after {}, mix left {}. Yours stands here still; press again to put it in its place.",
                or_none(&stands.before),
                or_none(&stands.after),
                or_none(&stands.mixleft)
            );
            show(&state, &cook, partial, &id, |view| {
                view.by_eye.form = ByEyeForm { version: theirs.version, ..form };
                view.by_eye.slips.insert("before", says);
            })
            .await
        }
    }
}

fn or_none(text: &str) -> String {
    if text.is_empty() { "nothing".into() } else { format!("{text} g") }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;

    fn form(before: &str, after: &str, mixleft: &str) -> ByEyeForm {
        ByEyeForm { before: before.into(), after: after.into(), mixleft: mixleft.into(), version: 0 }
    }

    #[test]
    fn the_tub_is_read_and_its_mistakes_are_named() {
        let plan = opened(&[]).plan;
        assert_eq!(form("812 g", "781", "").read(&plan).unwrap().from_tub(), Some(31.0));
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
