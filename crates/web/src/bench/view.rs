//! What the Bench shows.

use super::form::{BenchForm, FIRST_CUT, Slip, Slips, leave_out, slip, word_of};
use super::lesson::{Lesson, Proposed};
use super::numbers::Numbers;
use super::planned::planned;
use super::sentence::{Word, words};
use crate::draw::draw_silhouette;
use crate::kit::Shelf;
use crate::piece::{Change, Difference};
use crate::words::{day_wall, instant, trim};
use jiff::{SignedDuration, ZonedDateTime};
use rauchkeller_contract::{CautionDoc, PlanDoc};
use rauchkeller_core::ask::Kitchen;
use rauchkeller_core::clock::waking_hours;
use rauchkeller_core::piece::{Cut, Family, Species};
use rauchkeller_core::salt::SALTS;
use rauchkeller_core::skin::drying::FridgePlacement;
use rauchkeller_core::units::{System, TimeIn, both_length, both_mass, grams, hours, millimetres};
use serde_json::Value;
use std::collections::BTreeMap;
use std::sync::Arc;
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
    pub plan: Option<Arc<PlanDoc>>,
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
    /// What gives the heat.
    pub sources: Vec<Choice>,
    /// How it rests.
    pub restings: Vec<Choice>,
    /// Whose hours the clock takes.
    pub by: Vec<Choice>,
    /// This state's address, percent-encoded, for links that lead back to it.
    pub back: String,
    /// Where the ways of doing this piece are compared.
    pub ways: String,
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
    /// Whether it thinks in pounds and °F.
    pub customary: bool,
    /// Hours near those that were typed, whose work lies in waking hours; empty where it does.
    pub waking: Vec<String>,
    /// The hour at which to begin, and the meal’s; `None` without a plan.
    pub begins: Option<(String, String)>,
    /// What the piece is called while nobody names it.
    pub usual_name: String,
    /// The kitchen's clock and its zone.
    pub clock: String,
    pub numbers: Option<Numbers>,
    /// The kept piece that is changed here, and what that changes.
    pub changing: Option<Changing>,
    /// What the verdict of the eaten piece proposes.
    pub lesson: Vec<Proposed>,
}

/// A kept piece on the Bench.
#[derive(Debug, Clone)]
pub struct Changing {
    pub id: String,
    pub name: String,
    /// How it stands, where salt is on it: what was said of that before counts no more.
    pub stands: String,
    /// What becomes of what.
    pub differences: Vec<Difference>,
    /// Somebody else's change came first.
    pub conflict: bool,
    /// Grams of salt that are on it, as the scale would show them.
    pub on_it: Option<String>,
}

impl Changing {
    fn of(change: &Change, plan: Option<&PlanDoc>, now: &ZonedDateTime) -> Self {
        let piece = &change.opened.piece;
        let differences = plan.map(|plan| change.differences(plan, now)).unwrap_or_default();
        Self {
            id: piece.id.to_string(),
            name: piece.name.clone(),
            stands: change.stands(now),
            differences,
            conflict: false,
            on_it: change.on_it(),
        }
    }
}

/// What the kitchen does not call fine: a refrigerator too warm, meat past the authority's days, a heat that leaves it unsafe to eat.
fn stops(plan: &PlanDoc) -> Vec<CautionDoc> {
    let stands = |c: &&CautionDoc| c.severity == "red" && matches!(c.code.as_str(), "fridge-too-warm" | "storage-limit" | "not-safe");
    plan.cautions.iter().filter(stands).cloned().collect()
}

/// So near it is now.
const AT_ONCE: SignedDuration = SignedDuration::from_mins(10);

/// When hands are first wanted, and the meal.
fn begins(plan: &PlanDoc, now: &ZonedDateTime) -> Option<(String, String)> {
    let first = plan.steps.iter().map(|step| instant(&step.starts_at)).min()?;
    let at_once = first.duration_since(now.timestamp()) <= AT_ONCE;
    let begins = if at_once { "now".to_owned() } else { day_wall(first, now) };
    Some((begins, day_wall(instant(&plan.serve_at), now)))
}

/// Hours that begin at night, as waking ones.
fn waking(plan: &PlanDoc, now: &ZonedDateTime, shelf: &Shelf) -> Vec<String> {
    let work = plan.steps.iter().filter(|step| step.place == "bench").map(|step| instant(&step.starts_at)).min();
    let (Some(begins), Some(quiet)) = (work, shelf.quiet.or(Kitchen::default().quiet)) else { return vec![] };
    let work = (begins, instant(&plan.fridge.from));
    // What lies in the cold already has no work left before it.
    if work.0 >= work.1 {
        return vec![];
    }
    let found = waking_hours(hours(plan.fridge.planned_h), work, quiet, now.time_zone(), now.timestamp());
    found.into_iter().map(|found| trim(found.in_h(), 2)).collect()
}

/// What stands in the way of keeping it; nothing where nothing does.
fn why_not_keep(out: bool, slips: &Slips, weighed: bool, stopped: bool) -> &'static str {
    if out {
        "It is out of the refrigerator already: what is left of its plan stands. Its name and notes can be changed on its page."
    } else if !slips.is_empty() {
        "Put right what is marked in red. Until then the numbers are worked out without it."
    } else if weighed && stopped {
        "Read what stands in red above before you keep this plan."
    } else if weighed {
        ""
    } else {
        "Weigh it: every number here depends on the weight."
    }
}

impl BenchView {
    /// Reads the form and plans as much of it as can be planned: a word that cannot be is marked and
    /// left out, and the rest still answers.
    pub fn of(form: BenchForm, now: &ZonedDateTime, shelf: &Shelf, change: Option<&Change>, lesson: Option<&Lesson>) -> Self {
        let said = form.read(now, shelf);
        let (mut request, mut slips) = (said.request, said.slips);
        if let Some(lesson) = lesson {
            lesson.carry(&mut request);
        }
        if let Some(change) = change {
            change.carry(&mut request);
        }
        let made = |request: &Value| change.map_or_else(|| planned(request, now), |change| change.plan(request, now).map(Arc::new));
        let mut plan = None;
        for _ in 0..4 {
            match made(&request) {
                Ok(made) => {
                    plan = Some(made);
                    break;
                }
                Err(problems) => {
                    for problem in &problems.problems {
                        let word = word_of(&problem.field);
                        slips.entry(word).or_insert_with(|| slip(problem, shelf.system));
                        leave_out(&mut request, word);
                        if word == "weight" || word == "cut" {
                            refill(&mut request);
                        }
                    }
                }
            }
        }
        let as_it_was = |plan| if let Some(change) = change { change.as_it_was(plan) } else { plan };
        let shown = plan.clone().map(as_it_was);
        let stops = shown.as_deref().map(stops).unwrap_or_default();
        let stopped = !stops.is_empty() && form.knowing.is_empty();
        let out = change.is_some_and(|change| change.out);
        let may_keep = slips.is_empty() && said.weighed && plan.is_some() && !stopped && !out;
        if !stops.is_empty() && !stopped {
            // It stands written with the plan.
            request["knowing"] = stops.iter().map(|c| serde_json::Value::from(c.code.as_str())).collect();
        }
        let why_not_keep = why_not_keep(out, &slips, said.weighed, stopped).to_owned();
        let key = if Uuid::parse_str(&form.key).is_ok() { form.key.clone() } else { Uuid::now_v7().to_string() };
        let cut = form.cut();
        let address = form.address();
        let numbers = shown.as_ref().map(|plan| Numbers::of(plan, now, shelf));
        Self {
            words: words(&form, plan.as_deref(), &slips, now, shelf),
            cuts: cut_groups(cut),
            fat_words: fat_words(cut),
            methods: cut
                .into_iter()
                .flat_map(|cut| shelf.ways_for(cut))
                .map(|m| Choice {
                    id: m.id.to_string(),
                    name: m.name.to_string(),
                    chosen: plan.as_ref().is_some_and(|p| p.request.method == m.id),
                })
                .collect(),
            salts: salt_groups(&form, plan.as_deref(), shelf),
            scored: choices(&form.scored, &SCORED),
            covers: covers(&form, plan.as_deref()),
            mixes: shelf.mixes.iter().map(|m| m.name.clone()).collect(),
            has_cover: cut.is_some_and(|c| c.skin_mm > 0.0 || c.fat_mm > 0.0),
            stands: choices(if form.stands.is_empty() { "fresh" } else { &form.stands }, &STANDS),
            lies: lies(&form, plan.as_deref()),
            by: choices(&form.by, &BY),
            sources: sources(&form, plan.as_deref()),
            restings: choices(&form.resting, &RESTINGS),
            silhouette: cut.map(draw_silhouette).unwrap_or_default(),
            has_face: cut.is_some_and(|c| !c.is_bird()),
            has_skin: cut.is_some_and(|c| c.skin_mm > 0.0),
            has_bone: cut.is_some_and(|c| c.bone_fraction > 0.0),
            // What is written out already is not offered.
            each: plan.as_deref().filter(|_| !has_own_thickness(&request)).map(portions_written).unwrap_or_default(),
            usual_name: plan.as_deref().map(|plan| crate::piece::usual_name(plan, shelf.system)).unwrap_or_default(),
            waking: plan.as_deref().filter(|_| !form.hours.is_empty()).map(|plan| waking(plan, now, shelf)).unwrap_or_default(),
            begins: plan.as_deref().and_then(|plan| begins(plan, now)),
            several: plan.as_ref().is_some_and(|p| p.dose.portions.len() > 1),
            asks_units: shelf.system.is_none(),
            customary: shelf.system == Some(System::Customary),
            clock: format!(
                "{}, {}",
                now.strftime("%H:%M"),
                now.time_zone().iana_name().unwrap_or("UTC").trim_start_matches("Etc/").replace('_', " ")
            ),
            back: super::form::encode(&address),
            ways: address.replacen("/bench", "/bench/ways", 1),
            changing: change.map(|change| Changing::of(change, plan.as_deref(), now)),
            lesson: lesson.map(|lesson| lesson.shown(&form)).unwrap_or_default(),
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

    /// Says that the piece was changed meanwhile; what was said here stands, over the version that stands now.
    pub fn changed_meanwhile(&mut self, version: i32) {
        self.form.over = version.to_string();
        if let Some(changing) = &mut self.changing {
            changing.conflict = true;
        }
    }

    /// How a kept piece stands that salt is on.
    pub fn standing(&self) -> Option<&str> {
        self.changing.as_ref().map(|c| c.stands.as_str()).filter(|stands| !stands.is_empty())
    }

    /// Grams that are on it already, where nothing more is to be weighed.
    pub fn on_it(&self) -> Option<&str> {
        let weighs = self.numbers.as_ref().is_some_and(|numbers| numbers.weighs);
        self.changing.as_ref().filter(|_| !weighs)?.on_it.as_deref()
    }

    /// A word by name; the template asks only for words that exist.
    pub fn word(&self, name: &str) -> Word {
        self.words.get(name).cloned().unwrap_or_default()
    }

    /// Whether any word was typed.
    pub fn is_draft(&self) -> bool {
        self.ways != "/bench/ways"
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
const SOURCES: [(&str, &str); 8] = [
    ("", "in the oven"),
    ("oven", "in an oven"),
    ("grill", "on a grill"),
    ("charcoal", "over charcoal"),
    ("spit", "on a spit"),
    ("smoker", "in a smoker"),
    ("pan", "in a pan"),
    ("pot", "in a pot"),
];
const RESTINGS: [(&str, &str); 3] = [("", "as usual"), ("open", "in the open"), ("tented", "under a tent of foil")];
const STANDS: [(&str, &str); 6] = [
    ("fresh", "still to be salted"),
    ("frozen", "still frozen"),
    ("frozen-salted", "still frozen, salted as it thaws"),
    ("frozen-water", "still frozen, thawed in cold water"),
    ("salted", "salted already"),
    ("open", "unsalted, lying open in the cold"),
];
const COVERS: [(&str, &str); 5] = [
    ("", "no salt on the skin"),
    ("draw", "salt on the skin for 15 minutes"),
    ("crust", "a crust of salt on the skin"),
    ("bed", "skin down on a bed of salt"),
    ("scatter", "a scatter of salt on the skin"),
];

/// How it lies: as the method has it, unless the cook says so.
fn lies(form: &BenchForm, plan: Option<&PlanDoc>) -> Vec<Choice> {
    let own = plan.and_then(|plan| FridgePlacement::find(&plan.fridge.lies)).unwrap_or_default();
    let usual = Choice { id: String::new(), name: own.words().into(), chosen: form.lies.is_empty() };
    let others = FridgePlacement::ALL.iter().filter(|lies| **lies != own || !form.lies.is_empty());
    [usual]
        .into_iter()
        .filter(|usual| usual.chosen)
        .chain(others.map(|l| Choice { id: l.id().into(), name: l.words().into(), chosen: form.lies == l.id() }))
        .collect()
}

/// What gives the heat: as the method has it, unless the cook says so.
fn sources(form: &BenchForm, plan: Option<&PlanDoc>) -> Vec<Choice> {
    let mut all = choices(&form.with, &SOURCES);
    let own = plan.filter(|_| form.with.is_empty()).and_then(|plan| SOURCES.iter().find(|(id, _)| *id == plan.fire.with && *id != "oven"));
    if let (Some(usual), Some((id, words))) = (all.first_mut().filter(|usual| usual.id.is_empty()), own) {
        (*words).clone_into(&mut usual.name);
        all.retain(|choice| choice.id != *id);
    }
    all
}

/// Salt on the skin: as the method has it, unless the cook says so.
fn covers(form: &BenchForm, plan: Option<&PlanDoc>) -> Vec<Choice> {
    let mut all = choices(&form.cover, &COVERS);
    let own = plan.and_then(|plan| plan.dose.cover.as_ref()).filter(|_| form.cover.is_empty());
    let words = own.and_then(|own| COVERS.iter().find(|(id, _)| *id == own.kind)).map(|(_, words)| *words);
    if let (Some(usual), Some(words)) = (all.first_mut(), words) {
        words.clone_into(&mut usual.name);
    }
    all
}

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
