//! A way on its strip: its tasks one under the other, what each takes, and what is wrong, said where it is.

use super::draft::{Draft, Fields};
use crate::bench::{BenchForm, WayLine, way_line};
use crate::kit::{Shelf, form_key};
use crate::words::{day_wall, instant, sentence, trim};
use jiff::ZonedDateTime;
use rauchkeller_contract::{PlanDoc, method_value, plan_from, read_way};
use rauchkeller_core::method::{Method, StepKind, TaskRow, in_order, usual_title};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::salt::SALTS;
use rauchkeller_core::skin::drying::FridgePlacement;
use std::collections::HashMap;

/// One task of the strip.
#[derive(Debug, Clone, Default)]
pub struct Row {
    pub id: String,
    /// What it is called where nothing is typed.
    pub usual: String,
    pub title: String,
    pub minutes: String,
    pub minutes_slip: Option<String>,
    /// Minutes it takes with this piece; empty where it is not planned, or an hour and more in words.
    pub takes: String,
    /// How long its bar is, of 100.
    pub bar: u32,
    /// `bench`, `refrigerator`, `fire`, `table`, or `beside` for what takes no time of the row.
    pub place: String,
    /// When it is due.
    pub when: String,
    /// What is wrong with it, or to be said of it.
    pub says: Vec<Said>,
    pub first: bool,
    pub last: bool,
    /// Minutes of ours to say; a stage has those of the heat, a stay those of the hours.
    pub may_take: bool,
}

/// A sentence and how loud it is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Said {
    /// `red`, `amber` or `note`.
    pub severity: String,
    pub text: String,
}

/// One of a list.
#[derive(Debug, Clone)]
pub struct Choice {
    pub id: String,
    pub name: String,
    pub chosen: bool,
}

/// The page of one way.
#[derive(Debug, Clone)]
pub struct WayView {
    /// The row it is kept in; empty for a new one.
    pub id: String,
    /// The version it was read at.
    pub seen: i32,
    pub key: String,
    /// The Bench it is tried on.
    pub bench: String,
    pub document: String,
    pub name: String,
    pub name_slip: Option<String>,
    pub why: String,
    pub why_slip: Option<String>,
    pub source: String,
    pub dose: String,
    pub dose_slip: Option<String>,
    pub hours: String,
    pub hours_slip: Option<String>,
    pub heat: String,
    pub heat_slip: Option<String>,
    /// What the cut's own heat is, where the way has none.
    pub salts: Vec<Choice>,
    pub salt_slip: Option<String>,
    pub lies: Vec<Choice>,
    pub rests: bool,
    pub rows: Vec<Row>,
    /// What may be added, and after what.
    pub adds: Vec<Choice>,
    pub add_slip: Option<String>,
    /// The piece it is tried on, in words.
    pub piece: String,
    /// What it asks of that and gives; `None` where it cannot be planned.
    pub line: Option<WayLine>,
    /// What belongs to no single task.
    pub says: Vec<Said>,
    /// Whether it may be kept.
    pub sound: bool,
    /// Versions that were kept, the last first: number, when.
    pub versions: Vec<(i32, String)>,
}

impl WayView {
    /// The way tried on the piece of the Bench.
    ///
    /// Cost: one plan.
    pub fn of(draft: &Draft, fields: &Fields, now: &ZonedDateTime, shelf: &Shelf) -> Self {
        let field = |name: &str| fields.get(name).cloned().unwrap_or_default();
        let (form, piece) = tried_on(&field("bench"), &draft.school.cuts);
        let tried = Tried::of(draft, &form, now, shelf);
        let salt = draft.says("salt");
        let salts = [Choice { id: String::new(), name: "the usual salt".into(), chosen: salt.is_empty() }]
            .into_iter()
            .chain(own_salt(draft))
            .chain(shelf.salts.iter().map(|s| (format!("own-{}", s.id), s.name.clone())).map(|(id, name)| Choice {
                chosen: false,
                id,
                name,
            }))
            .chain(SALTS.iter().map(|s| Choice { id: s.id.to_string(), name: s.name.to_string(), chosen: salt == s.id }));
        let lying = draft.says("lies");
        let lies = [Choice { id: String::new(), name: "as its tasks leave it".into(), chosen: lying.is_empty() }]
            .into_iter()
            .chain(FridgePlacement::ALL.map(|lies| Choice { id: lies.id().into(), name: lies.words().into(), chosen: lying == lies.id() }));
        let slip = |name: &str| draft.slips.get(name).cloned().or_else(|| tried.at_field.get(name).cloned());
        Self {
            id: field("id"),
            seen: field("seen").parse().unwrap_or(0),
            key: form_key(&field("key")),
            bench: form.address(),
            document: draft.document(),
            name: draft.says("name"),
            name_slip: slip("name"),
            why: draft.says("why"),
            why_slip: slip("why"),
            source: sentence(&draft.school.source),
            dose: draft.says("dose"),
            dose_slip: slip("dose"),
            hours: draft.says("hours"),
            hours_slip: slip("hours"),
            heat: draft.says("heat"),
            heat_slip: slip("heat"),
            salts: salts.collect(),
            salt_slip: slip("salt"),
            lies: lies.collect(),
            rests: draft.school.rests_in_the_cold(),
            rows: rows(draft, &tried, now),
            adds: adds(draft),
            add_slip: slip("add"),
            piece,
            line: tried.plan.as_ref().map(|plan| way_line(plan, &Method::from(draft.school.clone()), &form, now)),
            says: tried.says.clone(),
            sound: tried.sound && draft.slips.is_empty(),
            versions: vec![],
        }
    }
}

/// A salt of its own that is in the document, whatever hangs in the Kit.
fn own_salt(draft: &Draft) -> Option<Choice> {
    let salt = draft.school.says.salt.as_ref().filter(|salt| SALTS.iter().all(|known| known.id != salt.id))?;
    Some(Choice { id: salt.id.to_string(), name: salt.name.to_string(), chosen: true })
}

/// The piece of the Bench without what belongs to a way; a usual one where the Bench has another cut, or none.
fn tried_on(bench: &str, cuts: &[Cut]) -> (BenchForm, String) {
    let form = BenchForm::at(bench).piece_alone();
    let fits = form.cut().filter(|cut| !form.cut.is_empty() && cuts.contains(cut));
    let Some(cut) = fits.or(cuts.first().copied()) else { return (form, String::new()) };
    let form = if fits.is_some() { form } else { BenchForm { cut: cut.id.to_owned(), ..BenchForm::default() } };
    let weight = form.weight.trim();
    let name = cut.name.to_lowercase();
    let piece = if fits.is_none() || weight.is_empty() { format!("a usual {name}") } else { format!("your {name} of {weight}") };
    (form, piece)
}

/// What came of planning with it.
struct Tried {
    plan: Option<PlanDoc>,
    sound: bool,
    says: Vec<Said>,
    at_field: HashMap<&'static str, String>,
    /// By place among the tasks of the document.
    at_task: HashMap<usize, Vec<Said>>,
}

/// Cautions that are of the kitchen and the day, not of the way.
const NOT_OF_THE_WAY: [&str; 10] = [
    "bought-when",
    "storage-limit",
    "storage-near",
    "fridge-too-warm",
    "night-work",
    "measure-odd",
    "measures-disagree",
    "not-your-dose",
    "salt-range",
    "where-lay",
];

impl Tried {
    fn of(draft: &Draft, form: &BenchForm, now: &ZonedDateTime, shelf: &Shelf) -> Self {
        let mut tried = Self { plan: None, sound: true, says: vec![], at_field: HashMap::new(), at_task: HashMap::new() };
        let document = method_value(&draft.school);
        if let Err(problems) = read_way(&document) {
            tried.sound = false;
            for problem in problems {
                tried.place(&problem.field.clone(), &sentence(&problem.sentence()));
            }
            return tried;
        }
        let mut request = BenchForm { method: draft.school.id.to_string(), ..form.clone() }.read(now, shelf).request;
        request["method_document"] = document;
        match plan_from(&request, now) {
            Ok(plan) => {
                for caution in plan.cautions.iter().filter(|c| c.severity != "note" && !NOT_OF_THE_WAY.contains(&c.code.as_str())) {
                    let said = Said { severity: caution.severity.clone(), text: caution.text.clone() };
                    let at = caution.step.as_deref().and_then(StepKind::find).and_then(|kind| row_of(&draft.school.tasks, kind));
                    match at {
                        Some(i) => tried.at_task.entry(i).or_default().push(said),
                        None => tried.says.push(said),
                    }
                }
                tried.plan = Some(plan);
            }
            Err(problems) => {
                // The document is sound: this piece, or this day, is what it cannot be planned for.
                for problem in problems.problems {
                    let field = problem.field.strip_prefix("method.").unwrap_or(&problem.field).to_owned();
                    tried.place(&field, &sentence(&problem.sentence()));
                }
            }
        }
        tried
    }

    /// A refusal beside what it is about.
    fn place(&mut self, path: &str, text: &str) {
        let said = Said { severity: "red".into(), text: text.to_owned() };
        let task = path.strip_prefix("tasks[").and_then(|rest| rest.split_once(']')).and_then(|(i, _)| i.parse::<usize>().ok());
        let of = |root: &str| path.strip_prefix(root).is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '[']));
        let field = match () {
            () if of("name") || of("id") => Some("name"),
            () if of("why") => Some("why"),
            () if of("salt.g_per_kg") => Some("dose"),
            () if of("own_hours") || of("hours") => Some("hours"),
            () if of("fire") => Some("heat"),
            () => None,
        };
        match (task, field) {
            (Some(i), _) => self.at_task.entry(i).or_default().push(said),
            (None, Some(field)) => drop(self.at_field.insert(field, said.text)),
            (None, None) => self.says.push(said),
        }
    }
}

/// Where in a document a caution of a kind stands: stages are its rows of heat.
fn row_of(tasks: &[TaskRow], kind: StepKind) -> Option<usize> {
    let at = |kind: StepKind| tasks.iter().position(|task| task.kind == kind);
    at(kind).or_else(|| matches!(kind, StepKind::Roast | StepKind::Grill | StepKind::Sear).then(|| at(StepKind::Heat)).flatten())
}

fn rows(draft: &Draft, tried: &Tried, now: &ZonedDateTime) -> Vec<Row> {
    let tasks = &draft.school.tasks;
    let ordered: Vec<&TaskRow> = in_order(tasks).unwrap_or_else(|_| tasks.iter().filter(|task| task.beside.is_none()).collect());
    let last = ordered.len();
    let mut seen: HashMap<StepKind, usize> = HashMap::new();
    let mut stages = 0;
    let row = |(i, task): (usize, &&TaskRow)| {
        let nth = seen.entry(task.kind).or_insert(0);
        *nth += 1;
        let id = if *nth == 1 { task.kind.id().to_owned() } else { format!("{}-{nth}", task.kind.id()) };
        let step = tried.plan.as_ref().and_then(|plan| {
            if task.kind == StepKind::Heat {
                stages += 1;
                return plan.steps.iter().filter(|step| step.air_c.is_some() && step.beside.is_none()).nth(stages - 1);
            }
            plan.steps.iter().find(|step| step.id == id)
        });
        let takes = step.map(|step| instant(&step.ends_at).duration_since(instant(&step.starts_at)));
        let place = tasks.iter().position(|other| other.id == task.id).unwrap_or(usize::MAX);
        let min = takes.map_or(0.0, |takes| takes.as_secs_f64() / 60.0);
        Row {
            id: task.id.to_string(),
            usual: step.filter(|_| task.title.is_none()).map_or_else(|| usual_title(task.kind).to_owned(), |step| step.title.clone()),
            title: draft.says_of(&task.id, "title"),
            minutes: draft.says_of(&task.id, "minutes"),
            minutes_slip: draft.slips.get(&format!("minutes:{}", task.id)).cloned(),
            // A stay is said in hours, as it is everywhere else.
            takes: takes
                .map(|takes| if min >= 600.0 { format!("{} h", trim(min / 60.0, 1)) } else { crate::words::span(takes) })
                .unwrap_or_default(),
            bar: bar(min),
            place: if task.beside.is_some() { "beside".into() } else { step.map_or_else(String::new, |step| step.place.clone()) },
            when: match (step, &tried.plan) {
                (Some(step), _) => day_wall(instant(&step.starts_at), now),
                (None, Some(_)) => "not here".to_owned(),
                (None, None) => String::new(),
            },
            says: tried.at_task.get(&place).cloned().unwrap_or_default(),
            first: task.beside.is_some() || i == 0,
            last: task.beside.is_some() || i + 1 == last,
            may_take: !matches!(task.kind, StepKind::Heat | StepKind::Chill | StepKind::Preheat),
        }
    };
    let beside: Vec<&TaskRow> = tasks.iter().filter(|task| task.beside.is_some()).collect();
    ordered.iter().chain(&beside).enumerate().map(row).collect()
}

/// A bar of 100: a minute is seen, a day is not seven hundred times as long.
fn bar(min: f64) -> u32 {
    // The logarithm of minutes, so that two days fill it.
    ((1.0 + min.max(0.0)).ln() / (1.0 + 2880.0_f64).ln() * 100.0).round().clamp(0.0, 100.0) as u32
}

/// What can be added, as it is usually called, in the order of the work.
fn adds(draft: &Draft) -> Vec<Choice> {
    let kinds = StepKind::ALL.into_iter().filter(|kind| draft.school.can_add(*kind));
    kinds.map(|kind| Choice { id: kind.id().into(), name: usual_title(kind).to_owned(), chosen: false }).collect()
}
