//! What was said of a piece and is a fact by now.

use crate::ask::{BoughtScoring, CoverAsk, Done, FaceMix, Kitchen, MixUse, PlanRequest, Portion, TaskAsk, Thawing};
use crate::method::StepKind;
use crate::piece::Cut;
use crate::salt::{LedgerEntry, PackLabel};
use crate::units::{GramsPerKg, Length, Mass, Temperature};
use jiff::civil::Date;
use jiff::{SignedDuration, Timestamp, ZonedDateTime};

/// What was said of a piece, its method's document read into it, as far as what is told of a plan goes by that.
#[derive(Debug, Clone)]
pub struct Settled {
    /// The cut.
    pub cut: Cut,
    /// The moment from which is planned.
    pub now: ZonedDateTime,
    /// The kitchen.
    pub kitchen: Kitchen,
    /// The portions, as they were said.
    pub portions: Vec<Portion>,
    /// The thickness of the dish, where that was said.
    pub thickness: Option<Length>,
    /// At its thinnest.
    pub thin: Option<Length>,
    /// Weight after trimming.
    pub trimmed: Option<Mass>,
    /// Scoring it was bought with.
    pub scored: Option<BoughtScoring>,
    /// What the packer's label says.
    pub solution: Option<PackLabel>,
    /// Still frozen.
    pub frozen: bool,
    /// How it thaws then.
    pub thaw: Option<Thawing>,
    /// The label's use-by.
    pub use_by: Option<Date>,
    /// The meal, where it was said.
    pub serve_at: Option<ZonedDateTime>,
    /// What the middle reads before the heat, where it was measured.
    pub start: Option<Temperature>,
    /// The dose that was said.
    pub dose: Option<GramsPerKg>,
    /// The cook's own usual dose for such a piece.
    pub usual_dose: Option<GramsPerKg>,
    /// Salty things that go on too.
    pub ledger: Vec<LedgerEntry>,
    /// Its mix.
    pub mix: Option<MixUse>,
    /// More of them.
    pub mixes: Vec<FaceMix>,
    /// Salt on the skin as a tool.
    pub cover: Option<CoverAsk>,
    /// Tasks of the cook's own.
    pub tasks: Vec<TaskAsk>,
    /// What is done already, and when.
    pub done: Vec<Done>,
    /// Whether the fat was measured spot by spot.
    pub fat_measured: bool,
}

impl Settled {
    /// Of a request made whole by its method.
    pub(super) fn of(request: &PlanRequest) -> Self {
        Self {
            cut: request.cut,
            now: request.now.clone(),
            kitchen: request.kitchen,
            portions: request.portions.clone(),
            thickness: request.thickness,
            thin: request.thin,
            trimmed: request.trimmed,
            scored: request.scored,
            solution: request.solution,
            frozen: request.frozen,
            thaw: request.thaw,
            use_by: request.use_by,
            serve_at: request.serve_at.clone(),
            start: request.start,
            dose: request.dose,
            usual_dose: request.usual_dose,
            ledger: request.ledger.clone(),
            mix: request.mix.clone(),
            mixes: request.mixes.clone(),
            cover: request.cover,
            tasks: request.tasks.clone(),
            done: request.done.clone(),
            fat_measured: request.skin_work.as_ref().is_some_and(|s| s.fat.is_some()),
        }
    }

    /// When salt first went on, where it did.
    pub fn salted_at(&self) -> Option<Timestamp> {
        self.done.iter().filter(|d| d.kind == StepKind::Salt).map(|d| d.at).min()
    }

    /// How long it has been salted without anybody having put it into the cold; `None` within a quarter of an hour.
    pub fn out_since_salted(&self) -> Option<SignedDuration> {
        let cold = self.done.iter().any(|d| d.kind == StepKind::Chill);
        let out = self.now.timestamp().duration_since(self.salted_at()?);
        (!cold && out > SignedDuration::from_mins(15)).then_some(out)
    }
}
