//! A way that is being changed: its document goes with the page, and every field typed beside it is one change.

use crate::kit::Shelf;
use crate::words::{one_line, trim};
use rauchkeller_contract::{method_value, read_draft};
use rauchkeller_core::ask::{read_stages, say_stages_in};
use rauchkeller_core::method::{Edit, School, StepKind, Words};
use rauchkeller_core::salt::{Salt, SpoonSalt, read_dose};
use rauchkeller_core::skin::drying::FridgePlacement;
use rauchkeller_core::units::{GramsPerKg, System};
use std::collections::{BTreeMap, HashMap};

/// What was sent: fields by their names.
pub type Fields = HashMap<String, String>;

/// A way as far as it is changed.
#[derive(Debug, Clone)]
pub struct Draft {
    /// As it stands now.
    pub school: School,
    /// What could not be read, by field; the field keeps what was typed.
    pub slips: BTreeMap<String, String>,
    /// What was typed there.
    typed: BTreeMap<String, String>,
    /// The household's units.
    system: Option<System>,
}

/// Longest a document is that comes with a page, in bytes: as much as a form may bring.
pub const LONGEST: usize = 36_000;

impl Draft {
    /// A way before anything is changed.
    pub fn of(school: School, system: Option<System>) -> Self {
        Self { school, slips: BTreeMap::new(), typed: BTreeMap::new(), system }
    }

    /// What was sent, with every field read into the document and then the one thing that was pressed; `None` where no document came.
    pub fn read(fields: &Fields, shelf: &Shelf) -> Option<Self> {
        let document = fields.get("document").filter(|text| text.len() <= LONGEST)?;
        let mut draft = Self::of(read_draft(&serde_json::from_str(document).ok()?)?, shelf.system);
        draft.read_whole(fields, shelf);
        for id in draft.ids() {
            draft.read_row(fields, &id);
        }
        draft.press(fields);
        Some(draft)
    }

    fn ids(&self) -> Vec<Words> {
        self.school.tasks.iter().map(|task| task.id.clone()).collect()
    }

    /// Makes a change that cannot fail: of the way as a whole.
    fn change(&mut self, edit: &Edit) {
        if let Ok(school) = self.school.edited(edit) {
            self.school = school;
        }
    }

    fn slip(&mut self, field: &str, typed: &str, says: impl Into<String>) {
        self.slips.insert(field.to_owned(), says.into());
        self.typed.insert(field.to_owned(), typed.to_owned());
    }

    /// The fields of the way as a whole. One that still says what the document says changes nothing: its words are rounded.
    fn read_whole(&mut self, fields: &Fields, shelf: &Shelf) {
        for field in ["name", "why", "dose", "salt", "hours", "lies", "heat"] {
            let Some(typed) = fields.get(field).map(|typed| one_line(typed)) else { continue };
            if typed == self.says(field) {
                continue;
            }
            match self.edit(field, &typed, shelf) {
                Ok(edit) => self.change(&edit),
                Err(says) => self.slip(field, &typed, says),
            }
        }
    }

    /// What a field says, as a change; nothing typed takes what is usual.
    fn edit(&self, field: &str, typed: &str, shelf: &Shelf) -> Result<Edit, String> {
        let said = (!typed.is_empty()).then_some(typed);
        Ok(match field {
            "name" => Edit::Name(typed.to_owned()),
            "why" => Edit::Why(typed.to_owned()),
            "salt" => Edit::Salt(said.map(|choice| salt_of(choice, shelf)).transpose()?),
            "lies" => Edit::Lies(FridgePlacement::find(typed)),
            "hours" => Edit::Hours(said.map(hours_said).transpose()?),
            "dose" => Edit::Dose(said.map(|typed| self.dose_said(typed)).transpose()?),
            _ => {
                let stages = said.map(|typed| read_stages(typed, shelf.system));
                Edit::Heat(stages.transpose().map_err(|slip| super::sentence_of(&slip.says))?)
            }
        })
    }

    /// A dose; spoons are of the salt of the way.
    fn dose_said(&self, typed: &str) -> Result<GramsPerKg, String> {
        let own = self.school.says.salt.as_ref();
        let salt = own.cloned().or_else(|| Salt::find("fine-sea")).ok_or("There is no salt.")?;
        read_dose(typed, SpoonSalt::of(&salt, own.is_some())).map_err(|error| super::sentence_of(&error))
    }

    fn read_row(&mut self, fields: &Fields, id: &Words) {
        let title = fields.get(&format!("title:{id}")).map(|typed| one_line(typed));
        if let Some(title) = title.filter(|title| *title != self.says_of(id, "title")) {
            self.change(&Edit::Title(id.clone(), Some(title).filter(|title| !title.is_empty())));
        }
        let field = format!("minutes:{id}");
        let Some(typed) = fields.get(&field).map(|typed| typed.trim().to_owned()) else { return };
        if typed == self.says_of(id, "minutes") {
            return;
        }
        let number = typed.trim_end_matches("min").trim().replace(',', ".").parse::<f64>().ok();
        match number.filter(|minutes| minutes.is_finite()) {
            Some(minutes) => self.change(&Edit::Minutes(id.clone(), Some(minutes))),
            None if typed.is_empty() => self.change(&Edit::Minutes(id.clone(), None)),
            None => self.slip(&field, &typed, format!("“{}” is no number of minutes; write 0 to 1440.", short(&typed))),
        }
    }

    /// The one thing that was pressed: `earlier:chill`, `later:chill`, `out:chill`, `add`.
    fn press(&mut self, fields: &Fields) {
        let pressed = fields.get("do").map(String::as_str).unwrap_or_default();
        let (what, id) = pressed.split_once(':').unwrap_or((pressed, ""));
        let id: Words = id.to_owned().into();
        let after = |field: &str| fields.get(field).filter(|id| !id.is_empty()).map(|id| Words::from(id.clone()));
        let edit = match what {
            "earlier" => Edit::Earlier(id),
            "later" => Edit::Later(id),
            "out" => Edit::LeaveOut(id),
            "add" => match fields.get("add").and_then(|kind| StepKind::find(kind)) {
                Some(kind) => Edit::Add(kind, after("after")),
                None => return,
            },
            _ => return,
        };
        match self.school.edited(&edit) {
            Ok(school) => self.school = school,
            Err(refused) => drop(self.slips.insert("add".into(), format!("That cannot be done: {refused}."))),
        }
    }

    /// What a field of the way as a whole says: as typed where that could not be read, else as the document has it.
    pub fn says(&self, field: &str) -> String {
        if let Some(typed) = self.typed.get(field) {
            return typed.clone();
        }
        let (school, says) = (&self.school, &self.school.says);
        match field {
            "name" => school.name.to_string(),
            "why" => school.why.to_string(),
            "dose" => says.dose.map(|dose| format!("{} g/kg", trim(dose.0, 2))).unwrap_or_default(),
            "salt" => says.salt.as_ref().map(|salt| salt.id.to_string()).unwrap_or_default(),
            "hours" => school.own_hours.map(|(a, b, c)| [a, b, c].map(|h| trim(h, 2)).join(", ")).unwrap_or_default(),
            "lies" => says.lies.map(|lies| lies.id().to_owned()).unwrap_or_default(),
            "heat" => says.fire.stages.as_deref().map(|stages| say_stages_in(stages, self.system)).unwrap_or_default(),
            _ => String::new(),
        }
    }

    /// What a field of a task says.
    pub fn says_of(&self, id: &str, field: &str) -> String {
        if let Some(typed) = self.typed.get(&format!("{field}:{id}")) {
            return typed.clone();
        }
        let Some(task) = self.school.tasks.iter().find(|task| task.id == id) else { return String::new() };
        match field {
            "title" => task.title.as_deref().unwrap_or_default().to_owned(),
            _ => task.minutes.map(|[_, usual, _]| trim(usual, 1)).unwrap_or_default(),
        }
    }

    /// The document as it goes with the page, is kept, and is given out.
    pub fn document(&self) -> String {
        method_value(&self.school).to_string()
    }
}

/// A salt of the table, or one weighed in this kitchen: that goes into the document whole.
fn salt_of(choice: &str, shelf: &Shelf) -> Result<Salt, String> {
    let weighed = |own: &rauchkeller_store::KitSalt| {
        Salt::own(&own.name, own.g_per_tsp, own.purity, own.potassium, own.spread_g, own.pinch_g)
            .map_err(|error| super::sentence_of(&error))
    };
    match shelf.salt(choice) {
        Some(own) => weighed(own),
        None => Salt::find(choice).ok_or_else(|| "That salt no longer hangs in your Kit. Choose another one.".to_owned()),
    }
}

fn hours_said(typed: &str) -> Result<(f64, f64, f64), String> {
    let says = || format!("“{}” says no hours; write the shortest, the ideal and the longest, like 12, 24, 48.", short(typed));
    read_hours(typed).ok_or_else(says)
}

/// `12, 24, 48`, `12 / 24 / 48 h`, or one number for all three.
fn read_hours(typed: &str) -> Option<(f64, f64, f64)> {
    let parts =
        typed.split([',', '/', ';', ' ', '–', '-']).map(str::trim).filter(|part| !part.is_empty() && !matches!(*part, "h" | "hours"));
    let numbers: Option<Vec<f64>> = parts.map(|part| part.trim_end_matches('h').parse().ok().filter(|h: &f64| h.is_finite())).collect();
    match numbers?.as_slice() {
        [one] => Some((*one, *one, *one)),
        [shortest, ideal, longest] => Some((*shortest, *ideal, *longest)),
        _ => None,
    }
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_core::method::Method;

    fn sent(school: &School, fields: &[(&str, &str)]) -> Draft {
        let document = Draft::of(school.clone(), None).document();
        let fields = fields.iter().map(|(name, typed)| ((*name).to_owned(), (*typed).to_owned()));
        Draft::read(&fields.chain([("document".to_owned(), document)]).collect(), &Shelf::default()).unwrap()
    }

    fn ours() -> School {
        Method::find("same-day-crust").unwrap().copied("own-crust", "Our crust")
    }

    /// Sent as it stands nothing changes, whatever is rounded in its fields; what is typed changes its own place only.
    #[test]
    fn each_field_changes_its_own_place() {
        let school = ours();
        let as_it_stands = Draft::of(school.clone(), None);
        let all = ["name", "why", "dose", "salt", "hours", "lies", "heat"].map(|field| (field, as_it_stands.says(field)));
        let all: Vec<(&str, &str)> = all.iter().map(|(field, says)| (*field, says.as_str())).collect();
        assert_eq!(sent(&school, &all).school, school);
        let changed =
            sent(&school, &[("dose", "0.7 %"), ("heat", "150 °C 2 h, then 250 °C until puffed"), ("lies", "covered"), ("hours", "")]);
        assert!(changed.slips.is_empty(), "{:?}", changed.slips);
        assert_eq!((changed.says("dose"), changed.says("lies")), ("7 g/kg".into(), "covered".into()));
        assert_eq!(changed.says("heat"), "150 °C 2 h, then 250 °C until hollow");
        let row = sent(&school, &[("title:temper", "Out it comes"), ("minutes:brush-dry", "12 min")]);
        assert_eq!((row.says_of("temper", "title"), row.says_of("brush-dry", "minutes")), ("Out it comes".into(), "12".into()));
        assert_eq!(row.school.tasks.len(), school.tasks.len());
    }

    #[test]
    fn what_cannot_be_read_is_said_and_stays_typed() {
        let school = ours();
        let wrong = sent(
            &school,
            &[("dose", "a lot"), ("hours", "some"), ("heat", "hot as it goes"), ("minutes:rest", "soon"), ("salt", "own-gone")],
        );
        assert_eq!(wrong.slips.keys().map(String::as_str).collect::<Vec<_>>(), ["dose", "heat", "hours", "minutes:rest", "salt"]);
        assert_eq!(
            (wrong.says("dose"), wrong.says("hours"), wrong.says_of("rest", "minutes")),
            ("a lot".into(), "some".into(), "soon".into())
        );
        assert_eq!(wrong.school, school, "nothing of it is in the document");
        assert!(wrong.slips.values().all(|says| says.ends_with('.')), "{:?}", wrong.slips);
    }

    #[test]
    fn one_thing_is_pressed() {
        let school = ours();
        assert!(!sent(&school, &[("do", "out:collar")]).slips.is_empty(), "no such task");
        let out = sent(&school, &[("do", "out:foil-collar")]);
        assert!(out.slips.is_empty() && out.school.tasks.len() + 1 == school.tasks.len());
        let added = sent(&school, &[("do", "add"), ("add", "oil"), ("after", "temper")]);
        assert!(added.school.tasks.iter().any(|task| task.id == "oil"));
        // What was typed before the press is not lost by it.
        let both = sent(&school, &[("do", "later:salt"), ("name", "Another")]);
        assert_eq!(both.school.name, "Another");
    }

    #[test]
    fn a_pounds_kitchen_reads_its_own_degrees() {
        let draft = Draft::of(
            ours().edited(&Edit::Heat(Some(read_stages("150 °C 2 h, then max until hollow", None).unwrap()))).unwrap(),
            Some(System::Customary),
        );
        assert_eq!(draft.says("heat"), "302 °F 2 h, then max until hollow");
        // Read again it is what it was.
        let again = read_stages(&draft.says("heat"), Some(System::Customary)).unwrap();
        assert_eq!(say_stages_in(&again, None), "150 °C 2 h, then max until hollow");
    }

    #[test]
    fn hours_are_read_as_they_are_written() {
        for (typed, read) in [
            ("12, 24, 48", Some((12.0, 24.0, 48.0))),
            ("12/24/48 h", Some((12.0, 24.0, 48.0))),
            ("18", Some((18.0, 18.0, 18.0))),
            ("1, 2", None),
            ("x", None),
        ] {
            assert_eq!(read_hours(typed), read, "{typed}");
        }
    }
}
