//! Kinds of tasks, by their stable names, and when each is ticked.

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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn kinds_are_found_by_their_names() {
        assert!(StepKind::ALL.into_iter().all(|kind| StepKind::find(kind.id()) == Some(kind)));
        assert_eq!(StepKind::find("dance"), None);
    }
}
