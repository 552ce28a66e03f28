//! What the Bench shows.

use super::form::{BenchForm, FIRST_CUT, Slip, Slips, leave_out, slip, word_of};
use super::numbers::Numbers;
use super::sentence::{Word, words};
use crate::draw::draw_silhouette;
use crate::kit::Shelf;
use crate::words::plan_in_units;
use jiff::ZonedDateTime;
use rauchkeller_contract::{CautionDoc, PlanDoc, plan_from};
use rauchkeller_core::method::{METHODS, Method};
use rauchkeller_core::piece::{Cut, Family, Species};
use rauchkeller_core::salt::SALTS;
use rauchkeller_core::skin::drying::Lies;
use rauchkeller_core::units::{both_length, both_mass, grams, millimetres};
use serde_json::Value;
use std::collections::BTreeMap;
use uuid::Uuid;

/// A choice in the sentence.
#[derive(Debug, Clone)]
pub struct Choice {
    pub id: String,
    pub name: String,
    pub chosen: bool,
}

/// The Bench.
#[expect(clippy::struct_excessive_bools, reason = "a template reads them one by one")]
#[derive(Debug, Clone)]
pub struct BenchView {
    pub form: BenchForm,
    pub key: String,
    pub request: Value,
    pub plan: Option<PlanDoc>,
    pub slips: Slips,
    pub may_keep: bool,
    /// What stands against keeping it, unless the cook says so.
    pub stops: Vec<CautionDoc>,
    pub why_not_keep: String,
    pub cuts: Vec<(&'static str, Vec<Choice>)>,
    /// How the fat of this cut is said: an edge, a cap, or under the skin.
    pub fat_words: &'static str,
    pub methods: Vec<Choice>,
    pub salts: Vec<(&'static str, Vec<Choice>)>,
    pub scored: Vec<Choice>,
    pub covers: Vec<Choice>,
    /// Names of the mixes of the Kit, to type into the sentence.
    pub mixes: Vec<String>,
    pub has_cover: bool,
    pub stands: Vec<Choice>,
    /// How it lies in the refrigerator.
    pub lies: Vec<Choice>,
    /// Whose hours the clock takes.
    pub by: Vec<Choice>,
    /// This state's address, percent-encoded, for links that lead back to it.
    pub back: String,
    pub words: BTreeMap<&'static str, Word>,
    /// The whole piece, drawn small.
    pub silhouette: String,
    pub has_face: bool,
    pub has_skin: bool,
    pub has_bone: bool,
    /// Portions written out one by one with their thickness, to be changed where they differ; empty for one piece.
    pub each: String,
    /// Whether there are several portions.
    pub several: bool,
    /// Whether nobody has said yet which units the household thinks in.
    pub asks_units: bool,
    /// What the piece is called while nobody names it.
    pub usual_name: String,
    /// The kitchen's clock and its zone.
    pub clock: String,
    pub numbers: Option<Numbers>,
}

/// What the kitchen does not call fine: a refrigerator too warm, and meat past the authority's days.
fn stops(plan: &PlanDoc) -> Vec<CautionDoc> {
    let stands = |c: &&CautionDoc| c.severity == "red" && matches!(c.code.as_str(), "fridge-too-warm" | "storage-limit");
    plan.cautions.iter().filter(stands).cloned().collect()
}

impl BenchView {
    /// Reads the form and plans as much of it as can be planned: a word that cannot be is marked and
    /// left out, and the rest still answers.
    pub fn of(form: BenchForm, now: &ZonedDateTime, shelf: &Shelf) -> Self {
        let said = form.read(now, shelf);
        let (mut request, mut slips) = (said.request, said.slips);
        let mut plan = None;
        for _ in 0..4 {
            match plan_from(&request, now) {
                Ok(made) => {
                    plan = Some(made);
                    break;
                }
                Err(problems) => {
                    for problem in &problems.problems {
                        let word = word_of(&problem.field);
                        slips.entry(word).or_insert_with(|| slip(problem));
                        leave_out(&mut request, word);
                        if word == "weight" || word == "cut" {
                            refill(&mut request);
                        }
                    }
                }
            }
        }
        let stops = plan.as_ref().map(|plan| stops(&plan_in_units(plan.clone(), shelf.system))).unwrap_or_default();
        let stopped = !stops.is_empty() && form.knowing.is_empty();
        let may_keep = slips.is_empty() && said.weighed && plan.is_some() && !stopped;
        if !stops.is_empty() && !stopped {
            // It stands written with the plan.
            request["knowing"] = stops.iter().map(|c| serde_json::Value::from(c.code.as_str())).collect();
        }
        let why_not_keep = if !slips.is_empty() {
            "Put right what is marked in red. Until then the numbers are worked out without it.".to_owned()
        } else if said.weighed && stopped {
            "Read what stands in red above before you keep this plan.".to_owned()
        } else if said.weighed {
            String::new()
        } else {
            "Weigh it: every number here depends on the weight.".to_owned()
        };
        let key = if Uuid::parse_str(&form.key).is_ok() { form.key.clone() } else { Uuid::now_v7().to_string() };
        let cut = form.cut();
        let shown = plan.clone().map(|plan| plan_in_units(plan, shelf.system));
        let numbers = shown.as_ref().map(|plan| Numbers::of(plan, now, shelf.system));
        Self {
            words: words(&form, plan.as_ref(), &slips, now, shelf.system),
            cuts: cut_groups(cut),
            fat_words: fat_words(cut),
            methods: METHODS
                .iter()
                .filter(|m| cut.is_some_and(|c| Method::find(m.id).is_some_and(|m| m.fits(c))))
                .map(|m| Choice { id: m.id.into(), name: m.name.into(), chosen: plan.as_ref().is_some_and(|p| p.request.method == m.id) })
                .collect(),
            salts: salt_groups(&form, plan.as_ref(), shelf),
            scored: choices(&form.scored, &SCORED),
            covers: choices(&form.cover, &COVERS),
            mixes: shelf.mixes.iter().map(|m| m.name.clone()).collect(),
            has_cover: cut.is_some_and(|c| c.skin_mm > 0.0 || c.fat_mm > 0.0),
            stands: [
                ("fresh", "still to be salted"),
                ("frozen", "still frozen"),
                ("salted", "salted already"),
                ("open", "unsalted, lying open in the cold"),
            ]
            .into_iter()
            .map(|(id, name)| Choice {
                id: id.into(),
                name: name.into(),
                chosen: form.stands == id || (id == "fresh" && form.stands.is_empty()),
            })
            .collect(),
            lies: Lies::ALL.iter().map(|l| Choice { id: l.id().into(), name: l.words().into(), chosen: form.lies == l.id() }).collect(),
            by: choices(&form.by, &BY),
            silhouette: cut.map(draw_silhouette).unwrap_or_default(),
            has_face: cut.is_some_and(|c| !c.is_bird()),
            has_skin: cut.is_some_and(|c| c.skin_mm > 0.0),
            has_bone: cut.is_some_and(|c| c.bone_fraction > 0.0),
            // What is written out already is not offered.
            each: plan.as_ref().filter(|_| !has_own_thickness(&request)).map(portions_written).unwrap_or_default(),
            usual_name: plan.as_ref().map(crate::piece::usual_name).unwrap_or_default(),
            several: plan.as_ref().is_some_and(|p| p.dose.portions.len() > 1),
            asks_units: shelf.system.is_none(),
            clock: format!("{}, {}", now.strftime("%H:%M"), now.time_zone().iana_name().unwrap_or("UTC").replace('_', " ")),
            back: super::form::encode(&form.address()),
            form,
            key,
            request,
            plan,
            slips,
            may_keep,
            stops,
            why_not_keep,
            numbers,
        }
    }

    /// A word by name; the template asks only for words that exist.
    pub fn word(&self, name: &str) -> Word {
        self.words.get(name).cloned().unwrap_or_default()
    }

    /// Whether any word was typed.
    pub fn is_draft(&self) -> bool {
        self.form.address() != "/bench"
    }

    /// What the look over the piece changed.
    pub fn found(&self) -> &[rauchkeller_contract::InspectionDoc] {
        self.numbers.as_ref().map_or(&[], |numbers| &numbers.inspection)
    }

    /// What is wrong with a choice.
    pub fn slip(&self, name: &str) -> Option<&Slip> {
        self.slips.get(name)
    }
}

const SCORED: [(&str, &str); 3] = [("", "not scored"), ("fat", "scored into the fat"), ("lean", "scored into the lean")];
const BY: [(&str, &str); 2] = [("", "the usual hours for its thickness"), ("model", "hours computed for this piece")];
const COVERS: [(&str, &str); 4] = [
    ("", "no salt on the skin"),
    ("draw", "salt on the skin for 15 minutes"),
    ("crust", "a crust of salt on the skin"),
    ("bed", "skin down on a bed of salt"),
];

fn choices(chosen: &str, of: &[(&str, &str)]) -> Vec<Choice> {
    let known = of.iter().any(|(id, _)| *id == chosen);
    of.iter()
        .map(|(id, name)| Choice { id: (*id).into(), name: (*name).into(), chosen: *id == chosen || !known && id.is_empty() })
        .collect()
}

/// The household's own salts first, then those of the table.
fn salt_groups(form: &BenchForm, plan: Option<&PlanDoc>, shelf: &Shelf) -> Vec<(&'static str, Vec<Choice>)> {
    let own = shelf.salts.iter().map(|s| {
        let id = format!("own-{}", s.id);
        Choice { chosen: form.salt == id, id, name: s.name.clone() }
    });
    let table = SALTS.iter().map(|s| Choice {
        id: s.id.to_string(),
        name: s.name.to_string(),
        chosen: plan.is_some_and(|p| p.request.salt == s.id),
    });
    let mut groups = vec![("By kind", table.collect())];
    if !shelf.salts.is_empty() {
        groups.insert(0, ("Weighed in this kitchen", own.collect()));
    }
    groups
}

/// The cuts by species, for the list.
fn cut_groups(chosen: Option<Cut>) -> Vec<(&'static str, Vec<Choice>)> {
    let species = [("Pork", Species::Pork), ("Beef", Species::Beef), ("Lamb", Species::Lamb), ("Poultry", Species::Poultry)];
    let of = |species| Cut::all().filter(move |c| c.species == species);
    let choice = |c: Cut| Choice { id: c.id.into(), name: c.name.into(), chosen: chosen == Some(c) };
    species.into_iter().map(|(name, species)| (name, of(species).map(choice).collect())).collect()
}

/// Whether a portion's own thickness was said.
fn has_own_thickness(request: &Value) -> bool {
    request["piece"]["portions"].as_array().is_some_and(|portions| portions.iter().any(|p| p.get("salt_thickness_mm").is_some()))
}

/// `400 g 50 mm, 350 g 38 mm`: each portion with its thickness, as it can be typed.
fn portions_written(plan: &PlanDoc) -> String {
    let portions = &plan.dose.portions;
    if portions.len() < 2 {
        return String::new();
    }
    let one = |p: &rauchkeller_contract::PortionDoc| {
        let (weight, thick) = (both_mass(grams(p.weight_g)), both_length(millimetres(p.salt_thickness_mm)));
        format!("{} {}", weight.metric, thick.metric)
    };
    portions.iter().map(one).collect::<Vec<_>>().join(", ")
}

fn fat_words(cut: Option<Cut>) -> &'static str {
    match cut.map(|c| c.family) {
        Some(Family::Steak) => "with a fat edge of",
        _ => "under a fat cap of",
    }
}

/// After a cut or weight that cannot be, the cut's usual weight stands in.
fn refill(request: &mut Value) {
    let piece = &mut request["piece"];
    let known = piece["cut"].as_str().and_then(Cut::find).or_else(|| Cut::find(FIRST_CUT));
    let Some(cut) = known else { return };
    piece["cut"] = cut.id.into();
    piece["weight_g"] = f64::midpoint(cut.typical_g.0, cut.typical_g.1).into();
}

#[cfg(test)]
mod tests;
