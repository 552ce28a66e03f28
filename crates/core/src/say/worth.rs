//! Which guess is worth measuring: what the answer would do if it were wrong.

use crate::piece::Cut;
use crate::salt::house_table;
use crate::settle::Resolved;
use crate::skin::drying::skin_dryness;
use crate::units::{LengthIn, Time, TimeIn, millimetres};

/// A guess and what hangs on it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WorthMeasuring {
    /// Path of the field.
    pub field: &'static str,
    /// What a usual error moves.
    pub effect: String,
}

/// The guesses whose usual error moves the plan, the weightiest first.
///
/// `own_hours`: the method's hours do not follow the thickness. `thicker_takes`: minutes more in the heat for 5 mm
/// more, where that was asked of the fire.
pub(crate) fn worth_measuring(
    cut: Cut,
    resolved: &Resolved,
    planned: Time,
    own_hours: bool,
    thicker_takes: Option<Time>,
) -> Vec<WorthMeasuring> {
    // TRADE 1.2: a bird's is its breast from skin to bone.
    let where_to = if cut.is_bird() {
        "measure its breast from skin to bone, with a skewer where it is thickest"
    } else {
        "measure the shortest way through, where it is thickest, as it lies"
    };
    let mut found: Vec<(f64, WorthMeasuring)> = Vec::new();
    let guessed = |field| resolved.guessed.contains(&field);
    let mut push = |weight: f64, field, effect| found.push((weight, WorthMeasuring { field, effect }));
    if let (true, Some(longer)) = (guessed("piece.salt_thickness_mm"), thicker_takes) {
        let min = longer.in_min();
        push(3.0 + min / 5.0, "piece.salt_thickness_mm", format!("5 mm more of thickness take {min:.0} min more in the heat; {where_to}"));
    }
    if guessed("piece.salt_thickness_mm") && !own_hours {
        let ideal = |mm: f64| house_table(millimetres(resolved.thickness.in_mm() + mm)).ideal.in_h();
        let moves = f64::midpoint((ideal(5.0) - ideal(0.0)).abs(), (ideal(0.0) - ideal(-5.0)).abs());
        if moves >= 0.75 {
            push(
                3.0 + moves,
                "piece.salt_thickness_mm",
                format!("5 mm more or less of thickness moves the start by {moves:.0} h; {where_to}"),
            );
        }
    }
    if guessed("piece.skin_mm") {
        let dry = |mm: f64| skin_dryness(millimetres(resolved.skin.in_mm() + mm), planned, resolved.air).0;
        let (thin, thick) = (dry(-0.5), dry(0.5));
        // What shows the same number twice is not worth a ruler.
        if thin - thick >= 0.015 {
            push(
                2.0 + (thin - thick) * 8.0,
                "piece.skin_mm",
                format!("half a millimetre less or more of skin leaves it {:.0} or {:.0} % dry", thin * 100.0, thick * 100.0),
            );
        }
    }
    if guessed("piece.fat_min_mm") && resolved.method.opens() != crate::method::Opens::Whole {
        push(4.0, "piece.fat_min_mm", "a millimetre of fat at the thin end moves the depth of the knife by a millimetre".into());
    }
    if guessed("piece.bone_fraction") && resolved.bone.0 > 0.0 {
        let grams = 0.05 * resolved.dose.0 * crate::units::MassIn::in_kg(resolved.weight);
        push(1.0 + grams, "piece.bone_fraction", format!("5 % more or less of bone is {grams:.1} g of salt"));
    }
    found.sort_by(|a, b| b.0.total_cmp(&a.0));
    found.into_iter().map(|(_, w)| w).collect()
}
