//! A way of one's own: a copy of a method, changed one thing at a time.
//!
//! A change is made whether or not what comes of it is sound: between two of them nothing may hang together yet. What is wrong with
//! the whole is found by [`refuse_document`](crate::plan::refuse_document), and by planning a piece with it.
//!
//! ```
//! use rauchkeller_core::{method::{Edit, Method, StepKind}, units::GramsPerKg};
//! let ours = Method::find("open-air").unwrap().copied("own-sunday", "Sunday belly").edited(&Edit::LeaveOut("pierce".into())).unwrap();
//! assert!(!ours.has(StepKind::Pierce) && ours.id == "own-sunday");
//! ```

use super::added::{HANGS, addable};
use super::kind::StepKind;
use super::plain::{Side, plain};
use super::rows::{in_order, row};
use super::school::{Method, School, TaskRow, Words};
use crate::ask::StageAsk;
use crate::salt::Salt;
use crate::skin::drying::FridgePlacement;
use crate::units::GramsPerKg;

/// What the ids of own ways begin with, and those of shipped methods never do.
pub const OWN: &str = "own-";

/// One change of a way.
#[derive(Debug, Clone, PartialEq)]
pub enum Edit {
    /// It is called otherwise.
    Name(String),
    /// Why one would choose it.
    Why(String),
    /// Salt in a kilogram; `None` takes the cut's.
    Dose(Option<GramsPerKg>),
    /// The salt that is weighed; `None` takes the usual one.
    Salt(Option<Salt>),
    /// Hours in the cold: shortest, ideal, longest; `None` takes the house table's.
    Hours(Option<(f64, f64, f64)>),
    /// How it lies there; `None` as its tasks leave it.
    Lies(Option<FridgePlacement>),
    /// Stages of the heat; `None` takes the cut's.
    Heat(Option<Vec<StageAsk>>),
    /// A task is called otherwise; `None` as it usually is.
    Title(Words, Option<String>),
    /// So many minutes; `None` as many as usual. Where the shortest and longest of the row do not hold them, these give way.
    Minutes(Words, Option<f64>),
    /// Done before the task that stands before it.
    Earlier(Words),
    /// Done after the one behind it.
    Later(Words),
    /// Not done; what was done beside it goes with it, or to the next of its kind.
    LeaveOut(Words),
    /// Done too: after a task of the row, or first. What is done beside the row lies down beside the task it usually goes with.
    Add(StepKind, Option<Words>),
}

/// Why a change cannot be made at all.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum EditRefused {
    /// Another cook took it out meanwhile, or it never stood there.
    #[error("no such task stands in it any more")]
    NoSuchTask,
    /// Nothing is before the first, or behind the last.
    #[error("it stands at that end already")]
    AtTheEnd,
    /// A kind that comes once stands there.
    #[error("it is in it already, and comes once")]
    ThereAlready,
    /// Cut, cover, bath or fire bring it; it is not added by its name.
    #[error("that is no task to add by its name: it comes with the cover, the bath or the heat")]
    NotByName,
    /// What it would be done beside is not in it.
    #[error("there is nothing in it that this is done beside")]
    NothingBeside,
}

/// Kinds of the row that come once in a document.
const ONCE: [StepKind; 9] = [
    StepKind::LayOut,
    StepKind::Giblets,
    StepKind::Loosen,
    StepKind::Salt,
    StepKind::Chill,
    StepKind::Temper,
    StepKind::Rest,
    StepKind::Hold,
    StepKind::Carve,
];

/// Further kinds of the row a cook may add; what is said as it stands may be, too.
const MORE: [StepKind; 6] = [StepKind::Heat, StepKind::Dry, StepKind::Score, StepKind::Pierce, StepKind::Wash, StepKind::BrushDry];

impl School {
    /// A copy that can be changed, under another id and name.
    #[must_use]
    pub fn copied(&self, id: impl Into<Words>, name: impl Into<Words>) -> Self {
        let from = format!("our own way, after {}", self.name);
        let source = if from.chars().count() <= 120 { from } else { "our own way".to_owned() };
        Self { id: id.into(), version: 1, name: name.into(), source: source.into(), ..self.clone() }
    }

    /// With one change made.
    ///
    /// # Errors
    /// Where the task is not there, stands at that end, or cannot be added: [`EditRefused`].
    pub fn edited(&self, edit: &Edit) -> Result<Self, EditRefused> {
        let mut school = self.clone();
        match edit {
            Edit::Name(name) => school.name = name.clone().into(),
            Edit::Why(why) => school.why = why.clone().into(),
            Edit::Dose(dose) => school.says.dose = *dose,
            Edit::Salt(salt) => school.says.salt.clone_from(salt),
            Edit::Hours(hours) => school.own_hours = *hours,
            Edit::Lies(lies) => school.says.lies = *lies,
            Edit::Heat(stages) => school.says.fire.stages.clone_from(stages),
            Edit::Title(task, title) => school.row_mut(task)?.title = title.clone().map(Words::from),
            Edit::Minutes(task, minutes) => school.row_mut(task)?.take(*minutes),
            Edit::Earlier(task) => school.move_by(task, -1)?,
            Edit::Later(task) => school.move_by(task, 1)?,
            Edit::LeaveOut(task) => school.leave_out(task)?,
            Edit::Add(kind, after) => school.add(*kind, after.as_ref())?,
        }
        Ok(school)
    }

    fn row_mut(&mut self, id: &str) -> Result<&mut TaskRow, EditRefused> {
        self.tasks.iter_mut().find(|task| task.id == id).ok_or(EditRefused::NoSuchTask)
    }

    /// The tasks of the row in their order, and those beside it.
    fn parted(&self) -> (Vec<TaskRow>, Vec<TaskRow>) {
        let ordered = in_order(&self.tasks).map(|rows| rows.into_iter().cloned().collect());
        let row = ordered.unwrap_or_else(|_| self.tasks.iter().filter(|task| task.beside.is_none()).cloned().collect());
        (row, self.tasks.iter().filter(|task| task.beside.is_some()).cloned().collect())
    }

    /// Each of the row after the one before it; then what is done beside.
    fn put_together(&mut self, mut row: Vec<TaskRow>, beside: Vec<TaskRow>) {
        let mut before: Option<Words> = None;
        for task in &mut row {
            task.after = before.replace(task.id.clone()).into_iter().collect();
        }
        row.extend(beside);
        self.tasks = row;
    }

    fn move_by(&mut self, id: &str, by: isize) -> Result<(), EditRefused> {
        let (mut row, beside) = self.parted();
        let at = row.iter().position(|task| task.id == id).ok_or(EditRefused::NoSuchTask)?;
        let to = at.checked_add_signed(by).filter(|to| *to < row.len()).ok_or(EditRefused::AtTheEnd)?;
        row.swap(at, to);
        self.put_together(row, beside);
        Ok(())
    }

    fn leave_out(&mut self, id: &str) -> Result<(), EditRefused> {
        let kind = self.tasks.iter().find(|task| task.id == id).ok_or(EditRefused::NoSuchTask)?.kind;
        let (mut row, mut beside) = self.parted();
        row.retain(|task| task.id != id);
        // What was done beside it is done beside the next of its kind, where there is one: of two stages the other wants its heat, too.
        let heir = row.iter().find(|task| task.kind == kind).map(|task| task.id.clone());
        beside.retain(|task| task.id != id && (heir.is_some() || task.beside.as_deref() != Some(id)));
        for task in beside.iter_mut().filter(|task| task.beside.as_deref() == Some(id)) {
            task.beside.clone_from(&heir);
        }
        self.put_together(row, beside);
        // A cover that nobody lays on is none, and there is nothing of it to take off or to fill.
        if self.says.cover.is_some() && !self.has(StepKind::CoverOn) {
            self.says.cover = None;
        }
        // A bed is what it lay on.
        if self.says.cover.is_none() && self.says.lies == Some(FridgePlacement::Weighted) {
            self.says.lies = None;
        }
        if !self.rests_in_the_cold() {
            (self.own_hours, self.wants.cold_rest, self.says.lies) = (None, false, None);
        }
        Ok(())
    }

    fn add(&mut self, kind: StepKind, after: Option<&Words>) -> Result<(), EditRefused> {
        if !self.can_add(kind) {
            return Err(if ONCE.contains(&kind) && self.has(kind) { EditRefused::ThereAlready } else { EditRefused::NotByName });
        }
        let new = TaskRow { id: self.free_id(kind), ..row(kind) };
        let (mut row, mut beside) = self.parted();
        if let Some(side) = side_of(kind) {
            let of = row.iter().find(|task| task.kind == side).ok_or(EditRefused::NothingBeside)?;
            let at_h = matches!(kind, StepKind::Turn | StepKind::Wipe).then_some(IN_THE_COLD_H);
            beside.push(TaskRow { beside: Some(of.id.clone()), at_h, ..new });
        } else {
            let at = match after {
                Some(id) => row.iter().position(|task| task.id == *id).ok_or(EditRefused::NoSuchTask)? + 1,
                None => 0,
            };
            // What goes into the heat wants it hot.
            if kind == StepKind::Heat && !self.has(StepKind::Preheat) {
                let hot = TaskRow::usual(StepKind::Preheat);
                beside.push(TaskRow { beside: Some(new.id.clone()), ..hot });
            }
            row.insert(at, new);
        }
        self.put_together(row, beside);
        if kind == StepKind::Chill {
            self.wants.cold_rest = true;
        }
        Ok(())
    }

    /// A name of this kind that no task has: `dry`, `dry-2`.
    fn free_id(&self, kind: StepKind) -> Words {
        let taken = |id: &str| self.tasks.iter().any(|task| task.id == id);
        let numbered = (2..).map(|n| format!("{}-{n}", kind.id()));
        std::iter::once(kind.id().to_owned()).chain(numbered).find(|id| !taken(id)).unwrap_or_default().into()
    }

    /// Whether a task of this kind can be added to it.
    pub fn can_add(&self, kind: StepKind) -> bool {
        // What lies on the skin comes off it, and is filled again.
        let covers = matches!(kind, StepKind::CoverOff | StepKind::Refill);
        if covers {
            return self.says.cover.is_some();
        }
        let known = ONCE.contains(&kind) || MORE.contains(&kind) || plain(kind).is_some() || addable(kind);
        // What liquid and glaze are made of, the cook says with the bath or the glaze.
        known && !(ONCE.contains(&kind) && self.has(kind))
    }
}

/// Half a day in: hours into the cold at which what is added there stands first (our estimate).
const IN_THE_COLD_H: f64 = 12.0;

/// What a kind is done beside; `None` where it stands in the row.
fn side_of(kind: StepKind) -> Option<StepKind> {
    match kind {
        StepKind::Wipe | StepKind::Turn => return Some(StepKind::Chill),
        StepKind::SliceTest | StepKind::BonesOut | StepKind::PullApart => return Some(StepKind::Carve),
        _ => {}
    }
    let side = plain(kind).and_then(|task| task.beside);
    match side {
        Some(Side::Cold) => Some(StepKind::Chill),
        Some(Side::Heat) => Some(StepKind::Heat),
        Some(Side::Rest) => Some(StepKind::Rest),
        None => HANGS.contains(&kind).then_some(StepKind::Heat),
    }
}

impl TaskRow {
    fn take(&mut self, minutes: Option<f64>) {
        self.minutes = minutes.map(|usual| {
            let [shortest, _, longest] = self.minutes.unwrap_or([usual; 3]);
            [shortest.min(usual), usual, longest.max(usual)]
        });
        // Hands are no longer in it than it takes.
        self.hands_on = self.hands_on.map(|hands| minutes.map_or(hands, |usual| hands.min(usual)));
    }
}

impl Method {
    /// Whether an id may stand for an own way: `own-…`, and none of ours.
    pub fn is_own(id: &str) -> bool {
        id.len() > OWN.len() && id.starts_with(OWN) && Self::find(id).is_none()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::method::methods;
    use crate::plan::refuse_document;

    fn ids(school: &School) -> Vec<&str> {
        school.tasks.iter().map(|task| task.id.as_ref()).collect()
    }

    /// A copy says all that the method says; only what it is called by differs, and it is sound.
    #[test]
    fn every_method_can_be_copied_and_stays_sound() {
        for method in methods() {
            let copy = method.copied("own-x", "Ours");
            assert!(refuse_document(&copy).is_empty(), "{}", method.id);
            let as_it_was = School {
                id: method.id.clone(),
                version: method.version,
                name: method.name.clone(),
                source: method.source.clone(),
                ..copy.clone()
            };
            assert_eq!(as_it_was, **method);
            // There and back is where it was, for every task of its row that is not the first.
            let (row, _) = copy.parted();
            for task in &row[1..] {
                let there = copy.edited(&Edit::Earlier(task.id.clone())).unwrap();
                let back = there.edited(&Edit::Later(task.id.clone())).unwrap();
                let order = |school: &School| school.parted().0.into_iter().map(|task| task.id).collect::<Vec<_>>();
                assert_eq!(order(&back), order(&copy), "{}: {}", method.id, task.id);
                assert_ne!(order(&there), order(&copy), "{}: {}", method.id, task.id);
            }
        }
    }

    #[test]
    fn rows_are_moved_left_out_and_added() {
        let copy = Method::find("same-day-crust").unwrap().copied("own-crust", "Ours");
        assert_eq!(copy.edited(&Edit::Earlier(copy.tasks[0].id.clone())), Err(EditRefused::AtTheEnd));
        assert_eq!(copy.edited(&Edit::LeaveOut("dance".into())), Err(EditRefused::NoSuchTask));
        assert_eq!(copy.edited(&Edit::Add(StepKind::Salt, None)), Err(EditRefused::ThereAlready));
        assert_eq!(copy.edited(&Edit::Add(StepKind::Roast, None)), Err(EditRefused::NotByName));
        // A crust that never comes off is said where it goes on.
        let stays = copy.edited(&Edit::LeaveOut("cover-off".into())).unwrap();
        let refused = refuse_document(&stays);
        let on = stays.tasks.iter().position(|task| task.kind == StepKind::CoverOn).unwrap();
        assert_eq!(refused.iter().map(|r| r.field.to_string()).collect::<Vec<_>>(), [format!("tasks[{on}]")]);
        // Put in again where it was, it is sound, and between the two stages.
        let mended = stays.edited(&Edit::Add(StepKind::CoverOff, Some("heat".into()))).unwrap();
        assert!(refuse_document(&mended).is_empty());
        let kinds = |school: &School| school.parted().0.iter().map(|task| task.kind).collect::<Vec<_>>();
        assert_eq!(kinds(&mended), kinds(&copy));
        assert!(copy.edited(&Edit::LeaveOut("cover-on".into())).unwrap().edited(&Edit::Add(StepKind::CoverOff, None)).is_err());
        // Laid on by nobody there is no cover.
        let bare = copy.edited(&Edit::LeaveOut("cover-on".into())).unwrap();
        assert!(bare.says.cover.is_none() && refuse_document(&bare).is_empty());
        let oiled = copy.edited(&Edit::Add(StepKind::Oil, Some("temper".into()))).unwrap();
        let at = ids(&oiled).iter().position(|id| *id == "oil").unwrap();
        assert_eq!(ids(&oiled)[at - 1], "temper");
        let twice = oiled.edited(&Edit::Add(StepKind::Oil, None)).unwrap();
        assert_eq!(ids(&twice)[0], "oil-2");
    }

    /// What is done beside the row lies beside the task it goes with, and goes with that.
    #[test]
    fn what_is_done_beside_goes_with_its_task() {
        let copy = Method::find("dry-brine").unwrap().copied("own-dry", "Ours");
        let turned = copy.edited(&Edit::Add(StepKind::Turn, None)).unwrap();
        assert!(refuse_document(&turned).is_empty());
        let turn = turned.tasks.iter().find(|task| task.kind == StepKind::Turn).unwrap();
        assert_eq!((turn.beside.as_deref(), turn.at_h), (Some("chill"), Some(IN_THE_COLD_H)));
        let warm = turned.edited(&Edit::LeaveOut("chill".into())).unwrap();
        assert!(!warm.has(StepKind::Turn) && !warm.wants.cold_rest && refuse_document(&warm).is_empty());
        assert_eq!(warm.edited(&Edit::Add(StepKind::Turn, None)), Err(EditRefused::NothingBeside));
        let cold = warm.edited(&Edit::Add(StepKind::Chill, Some("wash".into()))).unwrap();
        assert!(cold.wants.cold_rest && cold.rests_in_the_cold());
    }

    /// The heat that was left out comes back with its coming up.
    #[test]
    fn heat_left_out_can_be_put_in_again() {
        let copy = Method::find("dry-brine").unwrap().copied("own-dry", "Ours");
        let cold = copy.edited(&Edit::LeaveOut("heat".into())).unwrap();
        assert_eq!(refuse_document(&cold).iter().map(|r| r.field.to_string()).collect::<Vec<_>>(), ["tasks"]);
        let hot = cold.edited(&Edit::Add(StepKind::Heat, Some("brush-dry".into()))).unwrap();
        assert!(refuse_document(&hot).is_empty(), "{:?}", refuse_document(&hot));
        let preheats = |school: &School| school.tasks.iter().filter(|task| task.kind == StepKind::Preheat).count();
        assert_eq!((preheats(&copy), preheats(&hot)), (1, 1));
        // Of two the other keeps it.
        let two = Method::find("same-day-crust").unwrap().copied("own-two", "Ours").edited(&Edit::LeaveOut("heat".into())).unwrap();
        let of = two.tasks.iter().find(|task| task.kind == StepKind::Preheat).and_then(|task| task.beside.clone());
        assert_eq!(of.as_deref(), Some("heat-2"));
    }

    #[test]
    fn minutes_of_ones_own_stretch_the_row() {
        let copy = Method::find("dry-brine").unwrap().copied("own-dry", "Ours");
        let long = copy.edited(&Edit::Minutes("rest".into(), Some(40.0))).unwrap();
        let minutes = |school: &School| school.tasks.iter().find(|task| task.id == "rest").unwrap().minutes;
        assert_eq!(minutes(&long), Some([40.0; 3]));
        assert_eq!(minutes(&long.edited(&Edit::Minutes("rest".into(), Some(20.0))).unwrap()), Some([20.0, 20.0, 40.0]));
        assert_eq!(minutes(&long.edited(&Edit::Minutes("rest".into(), None)).unwrap()), None);
    }

    #[test]
    fn own_ids_are_none_of_ours() {
        assert!(Method::is_own("own-sunday") && !Method::is_own("own-") && !Method::is_own("open-air"));
        assert!(methods().iter().all(|method| !method.id.starts_with(OWN)));
    }
}
