//! Portions of one dish that go into the heat one after the other, so that all come out together.

use super::aside::Aside;
use super::recipe::Recipe;
use super::step::{Beside, Moment, Phase, Step, figure, step};
use crate::fire::PortionHeat;
use crate::method::{Hands, Place, StepKind};
use crate::units::{LengthIn, TimeIn, minutes};
use crate::words;

/// Those laid in together lie so near each other, min.
const TOGETHER_MIN: f64 = 0.5;

/// One task for each lot that goes in later than the slowest.
pub(super) fn later_in(recipe: &Recipe) -> Vec<Aside> {
    let mut later: Vec<&PortionHeat> = recipe.heat.portions.iter().filter(|portion| portion.waits.in_min() > 0.0).collect();
    later.sort_by(|a, b| a.waits.in_min().total_cmp(&b.waits.in_min()));
    let lots = later.chunk_by(|a, b| (a.waits.in_min() - b.waits.in_min()).abs() < TOGETHER_MIN);
    lots.map(|lot| (Beside::Stage(0), laid_in(lot))).collect()
}

fn laid_in(lot: &[&PortionHeat]) -> Step {
    let thickest = lot.iter().map(|portion| portion.thickness.in_mm()).fold(0.0, f64::max);
    let title = match lot.len() {
        1 => format!("Lay the one of {thickest:.0} mm in"),
        _ => format!("Lay {} more in, up to {thickest:.0} mm", lot.len()),
    };
    let (takes, pull) = (lot[0].takes, lot[0].pull);
    Step {
        phase: Phase::Beside,
        place: Place::Fire,
        hands: Hands::Raw,
        moment: Moment::In(lot[0].waits),
        figure: Some(figure(format!("{thickest:.0}"), "mm")),
        detail: format!(
            "It takes about {:.0} min, less than the thickest: laid in now, it is ready with that, at {} °C by its own reading. So much later it leaves the refrigerator, too. It is raw: wash your hands.",
            takes.in_min(),
            words::c(pull)
        ),
        ..step(StepKind::LayIn, &title, minutes(1.0))
    }
}
