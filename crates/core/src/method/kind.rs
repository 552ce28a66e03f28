//! Kinds of tasks, by their stable names, and when each is ticked.

/// What is done, in the order in which it is usually done. Its place in the work is the task's own (`after`): a kind may come more
/// than once, in any order; what is done beside another comes last.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum StepKind {
    /// In the refrigerator until no ice is left.
    Thaw,
    /// Hands washed, tools out, salt weighed.
    LayOut,
    /// Out of its wrapping, and aired.
    Unpack,
    /// What the packer left inside a bird comes out.
    Giblets,
    /// Chine bone, silver skin and glands off, squared.
    Trim,
    /// Cut into portions.
    Portion,
    /// Cut into strips along the grain.
    Strips,
    /// Cut into two of half the thickness.
    Split,
    /// Skin pulled flat and square.
    Stretch,
    /// Tied or trussed, so that one thickness rules.
    Tie,
    /// Boiling water over the skin, which draws it tight.
    Scald,
    /// Towels, firmly, twice.
    Dry,
    /// Strokes through the skin, or into the fat cap.
    Score,
    /// Holes through the skin.
    Pierce,
    /// Cuts into the lean side.
    Groove,
    /// Deep cuts into the lean, to be filled.
    Slit,
    /// Slivers pushed into the lean.
    Spike,
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
    /// Something without salt spread over it.
    Coat,
    /// Salt on the skin as a tool: a draw, a crust, a bed, a scatter.
    CoverOn,
    /// A weight on top of it.
    Weight,
    /// Two skewers through it, to hang it by.
    Skewer,
    /// Hands washed before the refrigerator door is touched.
    Wash,
    /// Into the refrigerator, salted.
    Chill,
    /// The oven comes up.
    Preheat,
    /// Out of the refrigerator to lose its chill before the heat.
    Temper,
    /// Salt on the skin comes off again.
    CoverOff,
    /// Loose salt off, dry again.
    BrushDry,
    /// Pepper, spice or seed, before the heat.
    SeasonAgain,
    /// Rolled up: an outside becomes an inside.
    Roll,
    /// Something goes into it that is cooked with it.
    Stuff,
    /// Herbs or fruit go into it, and come out before it is eaten.
    Aromatics,
    /// Something thin and wet brushed over the skin.
    Brush,
    /// A film of oil or fat.
    Oil,
    /// Foil round its sides.
    Collar,
    /// Bare spots of a crust or scatter filled again.
    Refill,
    /// On the spit, balanced.
    Mount,
    /// All stages of the heat, in a method's document.
    Heat,
    /// The stage that waits for the core.
    Roast,
    /// The fierce stage that finishes the skin.
    Grill,
    /// Over direct heat or in a pan.
    Sear,
    /// Off the heat, until it is cut.
    Rest,
    /// Herbs or fruit out of it, and thrown away.
    AromaticsOut,
    /// Held warm until it is eaten.
    Hold,
    /// Knife and board, and to the table.
    Carve,
    /// The other side up, in the cold.
    Turn,
    /// What beads on the skin in the cold comes off.
    Wipe,
    /// A liquid to lie or to cook in, made and chilled.
    MakeBrine,
    /// A glaze, half of it set aside clean.
    MakeGlaze,
    /// What ran out, made into a sauce.
    Gravy,
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
    /// The liquid under or round it filled up.
    TopUpLiquid,
    /// A door or lid opened for a moment.
    OpenLid,
    /// More coals, lit beforehand.
    FeedCoals,
    /// Wood for its smoke.
    Wood,
    /// Vents opened or shut.
    Vents,
    /// A pan of water under it.
    WaterPan,
    /// The air beside the meat read, which a dial does not know.
    ReadAir,
    /// What takes less time goes in beside what is in the heat already.
    LayIn,
    /// Water round a frozen piece changed.
    ChangeWater,
    /// One slice, looked at and tasted, before the rest is cut.
    SliceTest,
    /// Bones drawn.
    BonesOut,
    /// Pulled into strands.
    PullApart,
    /// What is left goes into the cold.
    Leftovers,
    /// Cooked ahead: out of the heat, and cool enough for the refrigerator.
    Cool,
    /// Cooked, in the refrigerator until it is heated again.
    ChillCooked,
    /// Heated again, cooked.
    HeatAgain,
}

/// Every kind with its stable name.
const NAMES: [(StepKind, &str); 77] = [
    (StepKind::Thaw, "thaw"),
    (StepKind::LayOut, "lay-out"),
    (StepKind::Unpack, "unpack"),
    (StepKind::Giblets, "giblets"),
    (StepKind::Trim, "trim"),
    (StepKind::Portion, "portion"),
    (StepKind::Strips, "strips"),
    (StepKind::Split, "split"),
    (StepKind::Stretch, "stretch"),
    (StepKind::Tie, "tie"),
    (StepKind::Scald, "scald"),
    (StepKind::Dry, "dry"),
    (StepKind::Score, "score"),
    (StepKind::Pierce, "pierce"),
    (StepKind::Groove, "groove"),
    (StepKind::Slit, "slit"),
    (StepKind::Spike, "spike"),
    (StepKind::Loosen, "loosen"),
    (StepKind::Marinate, "marinate"),
    (StepKind::Drain, "drain"),
    (StepKind::Season, "season"),
    (StepKind::Salt, "salt"),
    (StepKind::Coat, "coat"),
    (StepKind::CoverOn, "cover-on"),
    (StepKind::Weight, "weight"),
    (StepKind::Skewer, "skewer"),
    (StepKind::Wash, "wash"),
    (StepKind::Chill, "chill"),
    (StepKind::Preheat, "preheat"),
    (StepKind::Temper, "temper"),
    (StepKind::CoverOff, "cover-off"),
    (StepKind::BrushDry, "brush-dry"),
    (StepKind::SeasonAgain, "season-again"),
    (StepKind::Roll, "roll"),
    (StepKind::Stuff, "stuff"),
    (StepKind::Aromatics, "aromatics"),
    (StepKind::Brush, "brush"),
    (StepKind::Oil, "oil"),
    (StepKind::Collar, "foil-collar"),
    (StepKind::Refill, "refill"),
    (StepKind::Mount, "mount"),
    (StepKind::Heat, "heat"),
    (StepKind::Roast, "roast"),
    (StepKind::Grill, "grill"),
    (StepKind::Sear, "sear"),
    (StepKind::Rest, "rest"),
    (StepKind::AromaticsOut, "aromatics-out"),
    (StepKind::Hold, "hold"),
    (StepKind::Carve, "carve"),
    (StepKind::Turn, "turn"),
    (StepKind::Wipe, "wipe"),
    (StepKind::MakeBrine, "make-brine"),
    (StepKind::MakeGlaze, "make-glaze"),
    (StepKind::Gravy, "gravy"),
    (StepKind::Wrap, "wrap"),
    (StepKind::Uncover, "uncover"),
    (StepKind::Shield, "shield"),
    (StepKind::Look, "look"),
    (StepKind::Baste, "baste"),
    (StepKind::Glaze, "glaze"),
    (StepKind::Scrape, "scrape"),
    (StepKind::TopUpLiquid, "top-up-liquid"),
    (StepKind::OpenLid, "open-lid"),
    (StepKind::FeedCoals, "feed-coals"),
    (StepKind::Wood, "wood"),
    (StepKind::Vents, "vents"),
    (StepKind::WaterPan, "water-pan"),
    (StepKind::ReadAir, "read-air"),
    (StepKind::LayIn, "lay-in"),
    (StepKind::ChangeWater, "change-water"),
    (StepKind::SliceTest, "slice-test"),
    (StepKind::BonesOut, "bones-out"),
    (StepKind::PullApart, "pull-apart"),
    (StepKind::Leftovers, "leftovers"),
    (StepKind::Cool, "cool"),
    (StepKind::ChillCooked, "chill-cooked"),
    (StepKind::HeatAgain, "heat-again"),
];

impl StepKind {
    /// Every kind, in the order in which they are usually done.
    pub const ALL: [Self; NAMES.len()] = {
        let (mut all, mut i) = ([Self::Thaw; NAMES.len()], 0);
        while i < NAMES.len() {
            all[i] = NAMES[i].0;
            i += 1;
        }
        all
    };

    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        NAMES[self as usize].1
    }

    /// Looks a kind up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        NAMES.iter().find(|(_, name)| *name == id).map(|(kind, _)| *kind)
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
            Self::Marinate
            | Self::Chill
            | Self::Temper
            | Self::Roast
            | Self::Rest
            | Self::Hold
            | Self::Cool
            | Self::ChillCooked
            | Self::HeatAgain => Tick::Begins,
            _ => Tick::Ends,
        }
    }

    /// Its place in the usual order of the work, for a task that a method has no place of its own for.
    pub(crate) fn usual_place(self) -> usize {
        self as usize
    }

    /// Whether it can be said to be done when a plan is asked for: nothing that comes after the refrigerator can.
    pub(crate) fn before_the_heat(self) -> bool {
        self.usual_place() < Self::Preheat.usual_place() || matches!(self, Self::Turn | Self::Wipe)
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn kinds_are_found_by_their_names() {
        assert!(StepKind::ALL.into_iter().all(|kind| StepKind::find(kind.id()) == Some(kind)));
        // The table stands in the order of the kinds themselves.
        assert!(StepKind::ALL.into_iter().enumerate().all(|(i, kind)| kind.usual_place() == i));
        assert_eq!(StepKind::find("dance"), None);
    }
}
