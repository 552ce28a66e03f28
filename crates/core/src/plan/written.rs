//! The recipe of a plan: the method's steps with this piece's grams, and without what is done.

use super::heated::Heated;
use super::hours_asked::thaws_on;
use super::parts::{DosePlan, LedgerLineDone, MixOn, MixPlan};
use super::serving::Serving;
use super::tasks_ask::{as_asked, not_in_the_plan};
use crate::ask::{Done, PlanRequest, Refusal};
use crate::method::{StepKind, TOP_UP};
use crate::piece::{Cut, Family};
use crate::salt::{FaceGrams, LedgerEntry, LedgerPlace, on_the_scale, spread};
use crate::settle::Resolved;
use crate::settle::cover_enters_lean;
use crate::settle::{SkinPlan, added};
use crate::settle::{is_done, lies_salted_in_the_cold, no_time};
use crate::units::{LengthIn, Mass, MassIn, Time, grams};
use crate::words;
use crate::work::{MixLies, Phase, Recipe, Sauce, Step, Surface, lay_out_steps};
use std::borrow::Cow;
use std::collections::HashSet;

/// What the steps are written from.
pub(super) struct Writing<'a> {
    pub request: &'a PlanRequest,
    pub resolved: &'a Resolved,
    pub dose: &'a DosePlan,
    pub heated: &'a Heated,
    pub thaw: Option<Time>,
    pub serving: Option<&'a Serving>,
    /// How long it is kept in the cold, cooked, where it is heated again.
    pub kept: Time,
}

impl Writing<'_> {
    /// The steps still to do, with so long in the cold, as the cook wants them.
    ///
    /// `waits` is how long it still lies there salted, where the method has no stay in the cold.
    pub(super) fn steps(&self, skin: Option<&SkinPlan>, (cold, waits): (Time, Time)) -> Vec<Step> {
        still_to_do(self.request, as_asked(self.request, self.all_steps(skin, (cold, waits))), self.dose)
    }

    /// The steps as far as they are known before the hours are.
    pub(super) fn draft(&self, skin: Option<&SkinPlan>) -> Vec<Step> {
        self.steps(skin, (no_time(), no_time()))
    }

    /// Refuses what is asked of tasks that there are not.
    pub(super) fn refuse_unknown_tasks(&self, skin: Option<&SkinPlan>) -> Result<(), Vec<Refusal>> {
        if self.request.tasks.is_empty() { Ok(()) } else { not_in_the_plan(self.request, &self.all_steps(skin, (no_time(), no_time()))) }
    }

    /// All steps of the method, done or not.
    fn all_steps(&self, skin: Option<&SkinPlan>, (cold, waits): (Time, Time)) -> Vec<Step> {
        let Self { request, resolved, dose, heated, .. } = *self;
        let own = added(request);
        let recipe = Recipe {
            method: &resolved.method,
            cut: request.cut,
            grams: &scale_grams(resolved, &dose.by_face),
            to_weigh: dose.on_scale,
            salt: &resolved.salt.name,
            mix: dose.mix.as_ref().map(|mix| (mix.name.as_str(), mix.scaled.used)),
            mix_lies: mix_lies(request, dose),
            knife: skin.map(|s| (&s.ask, &s.work)),
            into_lean: skin.is_some_and(cover_enters_lean),
            cold,
            hours_asked: request.hours,
            kept: self.kept,
            waits,
            // For missing salt it comes out, and goes in again.
            already_cold: (lies_salted_in_the_cold(request) || is_done(request, StepKind::Chill) && resolved.method.salts_after_the_cold())
                && dose.dose.to_weigh.in_g() < 0.5,
            thaw: self.thaw,
            thawing: request.thaw.unwrap_or_default(),
            thaws_on: thaws_on(request),
            heat: heated.recipe(request, resolved, &own),
            kept_hot: self.serving.and_then(Serving::kept_hot),
            fire: &heated.fire,
            targets: &heated.finish,
            lies: resolved.lies,
            pieces: resolved.portions.len(),
            each: &each_on_scale(resolved, dose),
            surface: surface(resolved, request.cut),
            sauces: &sauces(request, resolved, dose),
            cover: dose.cover.as_ref(),
        };
        lay_out_steps(&recipe)
    }
}

/// Whether it lies in its mix, or has it on its skin too.
fn mix_lies(request: &PlanRequest, dose: &DosePlan) -> MixLies {
    let skin = |mix: &MixPlan| mix.by_face.iter().any(|f| f.face.id == "skin" && f.salt.in_g() >= 0.05);
    match (&request.mix, &dose.mix) {
        (Some(mix), _) if mix.bath.is_some() => MixLies::Round,
        (_, Some(mix)) if skin(mix) => MixLies::OnSkinToo,
        _ => MixLies::On,
    }
}

fn surface(resolved: &Resolved, cut: Cut) -> Surface {
    if resolved.skin.in_mm() > 0.0 {
        Surface::Skin
    } else if resolved.fat.in_mm() > 0.0 && cut.family != Family::Steak {
        Surface::Fat
    } else {
        Surface::Lean
    }
}

/// Each salty thing that goes on besides salt and mix.
fn sauces(request: &PlanRequest, resolved: &Resolved, dose: &DosePlan) -> Vec<Sauce> {
    // All that take salt, whether any of it is left to weigh or not.
    let taking = spread(&resolved.faces, grams(1.0), resolved.method.salt_on(), request.said_faces());
    let salted: Vec<&str> = taking.iter().filter(|f| f.salt.in_g() > 0.0).map(|f| f.face.name).collect();
    let faces = if salted.is_empty() { resolved.faces.first().map_or("meat", |f| f.name).to_owned() } else { salted.join(", ") };
    let sauce = |(entry, line): (&LedgerEntry, &LedgerLineDone)| Sauce {
        what: line.what.clone(),
        weight: entry.used,
        salt: line.salt,
        faces: line
            .face
            .as_deref()
            .and_then(|id| resolved.faces.iter().find(|f| f.id == id))
            .map_or_else(|| faces.clone(), |f| f.name.to_owned()),
        bath: entry.bath,
        at: None,
        title: "The sauce on",
        own: !resolved.method.says.ledger.iter().any(|own| own.name == entry.name),
        mix: None,
    };
    let on = |(entry, _): &(&LedgerEntry, &LedgerLineDone)| entry.place == LedgerPlace::On;
    let mix = |(which, mix): (usize, &MixOn)| Sauce {
        what: format!("{} g {}", words::g(mix.scaled.used), mix.name),
        weight: mix.scaled.used,
        salt: mix.scaled.brings,
        faces: mix
            .face
            .as_deref()
            .and_then(|id| resolved.faces.iter().find(|f| f.id == id))
            .map_or_else(|| faces.clone(), |f| f.name.to_owned()),
        bath: None,
        at: mix.at,
        title: if mix.at.is_some() { "The second mix on" } else { "The mix on" },
        own: true,
        mix: Some(which),
    };
    let mixes = dose.mixes.iter().enumerate().filter(|(_, mix)| mix.scaled.used.in_g() > 0.0).map(mix);
    request.ledger.iter().zip(&dose.ledger).filter(on).map(sauce).chain(mixes).collect()
}

/// Grams a portion as the scale shows them.
fn each_on_scale(resolved: &Resolved, dose: &DosePlan) -> Vec<Mass> {
    dose.by_portion.iter().map(|p| on_the_scale(p.salt, resolved.salt.sodium_chloride())).collect()
}

/// Grams a face as the scale shows them: more than the sodium chloride, where the salt is not all of it.
fn scale_grams(resolved: &Resolved, by_face: &[FaceGrams]) -> Vec<FaceGrams> {
    by_face.iter().map(|f| FaceGrams { salt: on_the_scale(f.salt, resolved.salt.sodium_chloride()), ..*f }).collect()
}

/// Drops the tasks that are done, and all that these come after; a top-up stands in their place where grams are missing.
fn still_to_do(request: &PlanRequest, mut steps: Vec<Step>, dose: &DosePlan) -> Vec<Step> {
    let top_up = is_done(request, StepKind::Salt) && dose.dose.to_weigh.in_g() >= 0.5;
    // What lies in the cold without salt has only been laid there: the work is still to come.
    let unsalted = request.the_method().salts_after_the_cold();
    let counts = |done: &Done| done.kind != StepKind::Chill || unsalted || lies_salted_in_the_cold(request);
    let mut over: HashSet<Cow<'static, str>> = HashSet::new();
    for done in request.done.iter().filter(|done| counts(done)) {
        let named = |step: &Step| done.task.as_ref().map_or(step.kind == done.kind, |task| step.id == **task);
        over.extend(steps.iter().filter(|s| named(s)).map(|s| s.id.clone()));
    }
    // Each comes after the one before it, so one walk backwards finds all.
    for step in steps.iter().rev() {
        if over.contains(&step.id) {
            over.extend(step.after.iter().cloned());
        }
    }
    if let Some(salt) = steps.iter().position(|s| top_up && s.kind == StepKind::Salt && over.contains(&s.id)) {
        let first = std::mem::replace(&mut steps[salt].id, TOP_UP.into());
        steps[salt].title = "Lay on the salt that is missing".into();
        let after = steps.iter_mut().flat_map(|s| &mut s.after).filter(|id| **id == first);
        after.for_each(|id| *id = TOP_UP.into());
    }
    // Clean hands after a top-up; and the rest of the stay in the cold is still to come, begun or not.
    steps.retain(|s| s.phase == Phase::Cold || (top_up && s.kind == StepKind::Wash) || !over.contains(&s.id));
    let left: HashSet<Cow<'static, str>> = steps.iter().map(|s| s.id.clone()).collect();
    for step in &mut steps {
        step.after.retain(|id| left.contains(id));
    }
    steps
}
