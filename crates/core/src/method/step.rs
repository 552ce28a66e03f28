//! Steps as types: what is done, where, with which hands, and until what.

use crate::fire::HeatSource;
use crate::units::{Length, LengthIn, Temperature, Time, TimeIn};
use std::borrow::Cow;

/// What is done. Its place in the work is the task's own (`after`): a kind may come more than once, in any order.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum StepKind {
    /// In the refrigerator until no ice is left.
    Thaw,
    /// Hands washed, tools out, salt weighed.
    LayOut,
    /// What the packer left inside a bird comes out.
    Giblets,
    /// Towels, firmly, twice.
    Dry,
    /// Strokes through the skin, or into the fat cap.
    Score,
    /// Holes through the skin.
    Pierce,
    /// Cuts into the lean side.
    Groove,
    /// The breast skin opened with the fingers.
    Loosen,
    /// Into something salty and wet, and left in it.
    Marinate,
    /// Out of it again, and dried.
    Drain,
    /// A sauce goes on.
    Season,
    /// The weighed salt goes on.
    Salt,
    /// Salt on the skin as a tool: a draw, a crust, a bed.
    CoverOn,
    /// It comes off again.
    CoverOff,
    /// Hands washed before the refrigerator door is touched.
    Wash,
    /// Into the refrigerator, salted.
    Chill,
    /// The oven comes up.
    Preheat,
    /// Out of the refrigerator to lose its chill before the heat.
    Temper,
    /// Loose salt off, dry again.
    BrushDry,
    /// The stage that waits for the core.
    Roast,
    /// The fierce stage that finishes the skin.
    Grill,
    /// Over direct heat or in a pan.
    Sear,
    /// Off the heat, until it is cut.
    Rest,
    /// Held warm until it is eaten.
    Hold,
    /// Knife and board, and to the table.
    Carve,
    /// The other side up, in the cold.
    Turn,
    /// What beads on the skin in the cold comes off.
    Wipe,
    /// Foil, paper or leaves go round it.
    Wrap,
    /// They, or a lid, come off.
    Uncover,
    /// Foil over skin that is done.
    Shield,
    /// A look at colour, drip and probe.
    Look,
    /// Drip or liquid spooned over it.
    Baste,
    /// Something sweet brushed on at the end.
    Glaze,
    /// Scorched spots scraped off.
    Scrape,
    /// One slice, looked at and tasted, before the rest is cut.
    SliceTest,
    /// Bones drawn.
    BonesOut,
    /// Pulled into strands.
    PullApart,
    /// What is left goes into the cold.
    Leftovers,
}

impl StepKind {
    /// Every kind, in the order in which they are usually done.
    pub const ALL: [Self; 38] = [
        Self::Thaw,
        Self::LayOut,
        Self::Giblets,
        Self::Dry,
        Self::Score,
        Self::Pierce,
        Self::Groove,
        Self::Loosen,
        Self::Marinate,
        Self::Drain,
        Self::Season,
        Self::Salt,
        Self::CoverOn,
        Self::CoverOff,
        Self::Wash,
        Self::Chill,
        Self::Preheat,
        Self::Temper,
        Self::BrushDry,
        Self::Roast,
        Self::Grill,
        Self::Sear,
        Self::Rest,
        Self::Hold,
        Self::Carve,
        Self::Turn,
        Self::Wipe,
        Self::Wrap,
        Self::Uncover,
        Self::Shield,
        Self::Look,
        Self::Baste,
        Self::Glaze,
        Self::Scrape,
        Self::SliceTest,
        Self::BonesOut,
        Self::PullApart,
        Self::Leftovers,
    ];

    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Thaw => "thaw",
            Self::LayOut => "lay-out",
            Self::Giblets => "giblets",
            Self::Dry => "dry",
            Self::Score => "score",
            Self::Pierce => "pierce",
            Self::Groove => "groove",
            Self::Loosen => "loosen",
            Self::Marinate => "marinate",
            Self::Drain => "drain",
            Self::Season => "season",
            Self::Salt => "salt",
            Self::CoverOn => "cover-on",
            Self::CoverOff => "cover-off",
            Self::Wash => "wash",
            Self::Chill => "chill",
            Self::Preheat => "preheat",
            Self::Temper => "temper",
            Self::BrushDry => "brush-dry",
            Self::Roast => "roast",
            Self::Grill => "grill",
            Self::Sear => "sear",
            Self::Rest => "rest",
            Self::Hold => "hold",
            Self::Carve => "carve",
            Self::Turn => "turn",
            Self::Wipe => "wipe",
            Self::Wrap => "wrap",
            Self::Uncover => "uncover",
            Self::Shield => "shield",
            Self::Look => "look",
            Self::Baste => "baste",
            Self::Glaze => "glaze",
            Self::Scrape => "scrape",
            Self::SliceTest => "slice-test",
            Self::BonesOut => "bones-out",
            Self::PullApart => "pull-apart",
            Self::Leftovers => "leftovers",
        }
    }

    /// Looks a kind up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.id() == id)
    }

    /// The kind of a task by its name: `dry`, `dry-2`, `top-up`.
    pub fn of_task(id: &str) -> Option<Self> {
        if id == TOP_UP {
            return Some(Self::Salt);
        }
        let numbered = id.rsplit_once('-').filter(|(_, n)| n.parse::<u32>().is_ok_and(|n| n >= 2)).map(|(kind, _)| kind);
        Self::find(id).or_else(|| Self::find(numbered?))
    }

    /// Whether hands tick it when it begins, because that is what they do (into the cold, out of it, into the heat), or when
    /// it is over.
    pub fn tick(self) -> Tick {
        match self {
            Self::Marinate | Self::Chill | Self::Temper | Self::Roast | Self::Rest | Self::Hold => Tick::Begins,
            _ => Tick::Ends,
        }
    }

    /// Whether it can be said to be done when a plan is asked for: nothing that comes after the refrigerator can.
    pub(crate) fn before_the_heat(self) -> bool {
        !matches!(
            self,
            Self::CoverOff
                | Self::Preheat
                | Self::Temper
                | Self::BrushDry
                | Self::Roast
                | Self::Grill
                | Self::Sear
                | Self::Rest
                | Self::Hold
                | Self::Carve
                | Self::Wrap
                | Self::Uncover
                | Self::Shield
                | Self::Look
                | Self::Baste
                | Self::Glaze
                | Self::Scrape
                | Self::SliceTest
                | Self::BonesOut
                | Self::PullApart
                | Self::Leftovers
        )
    }

    /// What can be done to a piece that is frozen still.
    pub(crate) fn while_frozen(self) -> bool {
        matches!(self, Self::Thaw | Self::LayOut)
    }
}

/// The name of the salting that makes up for missing grams.
pub const TOP_UP: &str = "top-up";

/// When a task is ticked.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Tick {
    /// As it begins.
    Begins,
    /// As it ends.
    Ends,
}

impl Tick {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Begins => "begins",
            Self::Ends => "ends",
        }
    }
}

/// What rules how long a task takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Lasts {
    /// As long as it takes, whenever it begins.
    Fixed,
    /// As long as is left: it takes up the slack.
    Elastic,
    /// Until its condition holds; the minutes are a forecast.
    Until,
}

impl Lasts {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Fixed => "fixed",
            Self::Elastic => "elastic",
            Self::Until => "until",
        }
    }

    /// Looks one up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        [Self::Fixed, Self::Elastic, Self::Until].into_iter().find(|lasts| lasts.id() == id)
    }
}

/// What a task does to salt.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SaltEffect {
    /// The weighed grams go on.
    On,
    /// Dry salt that still lies on comes off.
    Off,
}

/// Where the piece is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Place {
    /// On the board, out of the cold.
    Bench,
    /// In the refrigerator.
    Refrigerator,
    /// In the oven or on the grill.
    Fire,
    /// Held warm.
    HotHold,
    /// Chilling, carving, eating.
    Table,
}

impl Place {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Bench => "bench",
            Self::Refrigerator => "refrigerator",
            Self::Fire => "fire",
            Self::HotHold => "hot-hold",
            Self::Table => "table",
        }
    }

    /// Looks one up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        [Self::Bench, Self::Refrigerator, Self::Fire, Self::HotHold, Self::Table].into_iter().find(|place| place.id() == id)
    }
}

/// Whether hands have touched raw meat.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Hands {
    /// May type, open doors, reach into the tub.
    Clean,
    /// May touch nothing clean.
    Raw,
}

/// Part of the plan a step belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Phase {
    /// In the refrigerator before the work: thawing.
    Thawing,
    /// Before the cold.
    Before,
    /// The cold itself.
    Cold,
    /// After the fire.
    After,
    /// Beside another task, taking no time of the row: preheating, basting.
    Beside,
}

/// Which task of the row another is done beside.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Beside {
    /// A stage of the heat, by its place among them.
    Stage(usize),
    /// The stay in the cold.
    Cold,
    /// Carving.
    Carving,
}

/// When a task beside another is done.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Moment {
    /// So that it is over as that begins.
    Before,
    /// So long after that began.
    In(Time),
    /// So long before that ends.
    ToGo(Time),
    /// Over so long after that has ended.
    Within(Time),
}

/// The one number of a step, as it is shown across the kitchen.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Figure {
    /// The number as it is shown, without its unit.
    pub value: String,
    /// Its unit, as written after a number.
    pub unit: &'static str,
}

/// A step without times.
#[derive(Debug, Clone, PartialEq)]
pub struct Step {
    /// Which task of its plan: its kind, and a number where the kind comes again. Stays when the plan is made anew.
    pub id: Cow<'static, str>,
    /// What is done; what follows from that is on the kind.
    pub kind: StepKind,
    /// Tasks that come before it.
    pub after: Vec<Cow<'static, str>>,
    /// The task it is done beside, ending as that begins.
    pub beside: Option<Cow<'static, str>>,
    /// When it is done beside that.
    pub moment: Moment,
    /// What rules how long it takes.
    pub lasts: Lasts,
    /// Part of the plan.
    pub phase: Phase,
    /// One line, as said across the kitchen.
    pub title: String,
    /// Where the piece is meanwhile.
    pub place: Place,
    /// How long it takes.
    pub takes: Time,
    /// Minutes of hands within it.
    pub hands_on: Time,
    /// Whether hands are raw in it.
    pub hands: Hands,
    /// The one number.
    pub figure: Option<Figure>,
    /// Air temperature, for a step in the heat.
    pub air: Option<Temperature>,
    /// What gives the heat, for a step that uses it.
    pub heat: Option<HeatSource>,
    /// Condition that really ends it.
    pub until: Option<String>,
    /// Tools to have out.
    pub needs: Vec<Cow<'static, str>>,
    /// The rest of what a cook needs to know.
    pub detail: String,
}

/// A raw-handed step on the bench whose hands-on time is its whole length.
pub(super) fn step(kind: StepKind, title: &str, takes: Time) -> Step {
    Step {
        id: kind.id().into(),
        kind,
        after: vec![],
        beside: None,
        moment: Moment::Before,
        lasts: Lasts::Fixed,
        phase: Phase::Before,
        title: title.into(),
        place: Place::Bench,
        takes,
        hands_on: takes,
        hands: Hands::Raw,
        figure: None,
        air: None,
        heat: None,
        until: None,
        needs: vec![],
        detail: String::new(),
    }
}

impl Step {
    /// Whether it is a stage of the heat.
    pub fn is_stage(&self) -> bool {
        self.place == Place::Fire && self.phase != Phase::Beside
    }

    /// What it does to salt.
    pub fn salts(&self) -> Option<SaltEffect> {
        match self.kind {
            StepKind::Salt => Some(SaltEffect::On),
            StepKind::BrushDry => Some(SaltEffect::Off),
            _ => None,
        }
    }

    /// What it needs of the kitchen while it lasts.
    pub fn resources(&self) -> Vec<&'static str> {
        let hands = (self.hands_on.in_s() > 0.5).then_some("hands");
        let place = match self.place {
            _ if self.heat.is_some() => self.heat.map(HeatSource::resource),
            Place::Bench => Some("board"),
            Place::Refrigerator => Some("refrigerator"),
            Place::Fire if self.is_stage() => Some(HeatSource::Oven.resource()),
            Place::Fire | Place::HotHold | Place::Table => None,
        };
        hands.into_iter().chain(place).collect()
    }
}

/// Names the tasks and ties them: each comes after the one before it; what is done beside another stands in no row, `beside` in the
/// order of those.
///
/// The second of a kind is `kind-2`, so that a plan made anew finds the same tasks under the same names.
pub(super) fn tied(mut steps: Vec<Step>, beside: &[Beside]) -> Vec<Step> {
    let mut seen: std::collections::HashMap<StepKind, usize> = std::collections::HashMap::new();
    for step in &mut steps {
        let count = seen.entry(step.kind).or_default();
        *count += 1;
        step.id = if *count == 1 { step.kind.id().into() } else { format!("{}-{count}", step.kind.id()).into() };
    }
    let stages: Vec<Cow<'static, str>> = steps.iter().filter(|s| s.is_stage()).map(|s| s.id.clone()).collect();
    let of = |kind| steps.iter().find(|s: &&Step| s.kind == kind).map(|s| s.id.clone());
    let (cold, carving) = (of(StepKind::Chill), of(StepKind::Carve));
    let mut besides = beside.iter();
    let mut before: Option<Cow<'static, str>> = None;
    for step in &mut steps {
        if step.phase == Phase::Beside {
            step.beside = match besides.next().copied().unwrap_or(Beside::Stage(0)) {
                Beside::Stage(i) => stages.get(i).cloned(),
                Beside::Cold => cold.clone(),
                Beside::Carving => carving.clone(),
            };
            continue;
        }
        step.after = before.replace(step.id.clone()).into_iter().collect();
    }
    steps
}

pub(super) fn figure(value: String, unit: &'static str) -> Figure {
    Figure { value, unit }
}

/// Millimetres cut (not rounded) to a tenth: a depth is never rounded towards the lean.
pub(super) fn one_decimal(depth: Length) -> String {
    let tenths = (depth.in_mm() * 10.0 + 1e-6).floor();
    if tenths % 10.0 == 0.0 { format!("{:.0}", tenths / 10.0) } else { format!("{:.1}", tenths / 10.0) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::millimetres;

    #[test]
    fn a_depth_is_cut_never_rounded_towards_the_lean() {
        for (mm, text) in [(7.7, "7.7"), (8.0, "8"), (7.99, "7.9"), (6.04, "6")] {
            assert_eq!(one_decimal(millimetres(mm)), text);
        }
    }

    #[test]
    fn kinds_are_found_by_their_names() {
        assert!(StepKind::ALL.into_iter().all(|kind| StepKind::find(kind.id()) == Some(kind)));
        assert_eq!(StepKind::find("dance"), None);
    }

    #[test]
    fn a_kind_may_come_again_and_keeps_its_name() {
        use crate::units::minutes;
        let turn = || step(StepKind::Dry, "Dry", minutes(3.0));
        let beside = Step { phase: Phase::Beside, ..step(StepKind::Preheat, "Heat", minutes(20.0)) };
        let heat = Step { place: Place::Fire, ..step(StepKind::Roast, "Roast", minutes(60.0)) };
        let tasks = tied(vec![turn(), turn(), beside, heat], &[]);
        let ids: Vec<&str> = tasks.iter().map(|s| s.id.as_ref()).collect();
        assert_eq!(ids, ["dry", "dry-2", "preheat", "roast"]);
        assert_eq!((tasks[1].after.as_slice(), tasks[3].after.as_slice()), (&["dry".into()][..], &["dry-2".into()][..]));
        assert_eq!((tasks[2].beside.as_deref(), tasks[2].after.len()), (Some("roast"), 0));
    }
}
