//! How was it? Asked in taps; answered from this run's own record.

use crate::units::GramsPerKg;

/// The short verdict of a cook at the table.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Verdict {
    /// Ninths of the skin that did not blister, of the nine fields of the drawn face; `None` where there is no skin.
    pub bad_patches: Option<u16>,
    /// Saltiness of the rim, −2 bland … +2 too salty.
    pub rim: i8,
    /// Saltiness of the middle, −2 … +2.
    pub middle: i8,
    /// Juice, −2 dry … +2 very juicy.
    pub juice: i8,
}

/// Whether a dose was about right by its two mouthfuls, −2 … +2: the middle right, and the rim no more than a step off. What is salty or
/// bland inside wants another dose, or other hours (our estimate).
pub fn seasoned_right(rim: i32, middle: i32) -> bool {
    rim.abs() <= 1 && middle == 0
}

/// What the run itself recorded, as far as advice needs it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Run {
    /// Skin dryness when it left the refrigerator; `None` without skin.
    pub skin_dryness: Option<f64>,
    /// Hours it really lay salted.
    pub hours: f64,
    /// Ideal hours of the plan.
    pub ideal_hours: f64,
    /// Whether the hours were ticked; else they and the skin are only the plan's.
    pub recorded: bool,
}

/// One change to try next, with its reason from this run. With too little evidence it says so
/// (TRADE 10.1).
pub fn next_time(verdict: Verdict, run: Run) -> String {
    let advice = advice(verdict, run);
    if run.recorded {
        advice
    } else {
        format!("Salting and the way out of the refrigerator were not ticked, so this goes by the plan. {advice}")
    }
}

/// What a verdict proposes for the next one, as something that can be planned.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Proposal {
    /// Another dose, in a kilogram of the same basis.
    Dose(GramsPerKg),
    /// So many hours in the refrigerator.
    Hours(f64),
    /// As many hours as the skin needs to be dry enough.
    DrySkin,
}

/// No dose proposed is smaller, g/kg, nor larger (TRADE 4.2: 7.5 to 12.5 are usual; a verdict may go somewhat beyond).
const DOSES: (f64, f64) = (4.0, 16.0);

/// What to change next time, with the reason from this run: the same as [`next_time`] says, in numbers. By how much is common
/// practice: a gram per kilogram where all of it was wrong, half where one place was (TRADE 10.1).
///
/// ```
/// use rauchkeller_core::units::GramsPerKg;
/// use rauchkeller_core::verdict::{Proposal, Run, Verdict, proposals};
/// let salty = Verdict { bad_patches: None, rim: 2, middle: 1, juice: 0 };
/// let run = Run { skin_dryness: None, hours: 24.0, ideal_hours: 21.0, recorded: true };
/// assert_eq!(proposals(salty, run, GramsPerKg(10.0))[0].0, Proposal::Dose(GramsPerKg(9.0)));
/// ```
pub fn proposals(verdict: Verdict, run: Run, dose: GramsPerKg) -> Vec<(Proposal, String)> {
    let mut all = Vec::new();
    let by = |g: f64| Proposal::Dose(GramsPerKg((dose.0 + g).clamp(DOSES.0, DOSES.1)));
    match (verdict.rim, verdict.middle) {
        (1.., 1..) => all.push((by(-1.0), "It was salty throughout.".to_owned())),
        (..=-1, ..=-1) => all.push((by(1.0), "It was bland throughout.".to_owned())),
        (..=-1, 0) => all.push((by(0.5), "It was bland outside.".to_owned())),
        (..=0, 1..) => all.push((by(-0.5), "It was salty inside.".to_owned())),
        (1.., ..=0) | (_, ..=-1) if run.hours < run.ideal_hours => {
            let because = format!("The salt had {} to go in, and {:.0} h are right for it.", hours(run.hours), run.ideal_hours);
            all.push((Proposal::Hours(run.ideal_hours), because));
        }
        _ => {}
    }
    let chewy = verdict.bad_patches.map_or(0, u16::count_ones);
    // How dry it was stands in the advice of then: what is known of the refrigerator may have changed since.
    if chewy > 0 && run.skin_dryness.is_some_and(|d| d < 0.7) {
        all.push((Proposal::DrySkin, format!("{chewy} of 9 places stayed chewy, and the skin went into the heat too wet.")));
    }
    all
}

/// Hours in a sentence.
fn hours(h: f64) -> String {
    if h < 1.0 { "less than an hour".into() } else { format!("{h:.0} h") }
}

fn advice(verdict: Verdict, run: Run) -> String {
    let patches = verdict.bad_patches.map_or(0, u16::count_ones);
    if patches > 0 {
        if let Some(dryness) = run.skin_dryness.filter(|d| *d < 0.7) {
            return format!(
                "{patches} of 9 places stayed chewy, and the skin went into the heat only {:.0} % dry: give it more hours in the open; 95 % is enough.",
                dryness * 100.0
            );
        }
        return format!("{patches} of 9 places stayed chewy although the skin was dry: more holes there, and prop that corner level.");
    }
    match (verdict.rim, verdict.middle) {
        (1.., ..=0) if run.hours < run.ideal_hours => {
            format!("Salty outside, plain inside after {}: same grams, but {:.0} h.", hours(run.hours), run.ideal_hours)
        }
        (1.., ..=0) => "Salty outside, plain inside although the hours were kept: salt more faces, or take a thinner piece.".into(),
        (1.., 1..) => "Salty throughout: one gram per kilogram less, and count the sauce.".into(),
        (..=-1, ..=-1) => "Bland throughout: one gram per kilogram more.".into(),
        (..=-1, 0) => "Bland outside, right inside: half a gram per kilogram more.".into(),
        (..=0, 1..) => "Salty inside: half a gram per kilogram less.".into(),
        (_, ..=-1) if run.hours < run.ideal_hours => format!("Bland inside after {}: give it {:.0} h.", hours(run.hours), run.ideal_hours),
        (_, ..=-1) => "Bland inside although the hours were kept: a thinner piece, or longer in the salt.".into(),
        _ if verdict.juice < 0 => "Dry: pull it two degrees earlier.".into(),
        _ => "Nothing to change. Do it again, and see if it holds.".into(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn verdict(bad: Option<u16>, rim: i8, middle: i8) -> Verdict {
        Verdict { bad_patches: bad, rim, middle, juice: 0 }
    }

    #[test]
    fn the_same_verdict_with_different_records_gets_different_advice() {
        let chewy = verdict(Some(0b11), 0, 0);
        let wet = next_time(chewy, Run { skin_dryness: Some(0.5), hours: 12.0, ideal_hours: 24.0, recorded: true });
        let dry = next_time(chewy, Run { skin_dryness: Some(0.96), hours: 24.0, ideal_hours: 24.0, recorded: true });
        assert!(wet.contains("more hours") && dry.contains("more holes") && wet.contains("2 of 9"));
    }

    #[test]
    fn salty_rim_and_plain_middle_asks_for_hours_not_for_less_salt() {
        // TRADE 10.1: rim salty and middle right → same dose, longer or more faces.
        let short = next_time(verdict(None, 2, 0), Run { skin_dryness: None, hours: 8.0, ideal_hours: 21.0, recorded: true });
        assert!(short.contains("same grams") && short.contains("21 h"));
        let kept = next_time(verdict(None, 2, 0), Run { skin_dryness: None, hours: 24.0, ideal_hours: 21.0, recorded: true });
        assert!(kept.contains("more faces"));
        assert!(
            next_time(verdict(None, 1, 1), Run { skin_dryness: None, hours: 24.0, ideal_hours: 21.0, recorded: true }).contains("less")
        );
    }

    #[test]
    fn proposals_say_in_numbers_what_is_advised_in_words() {
        let run = Run { skin_dryness: Some(0.5), hours: 12.0, ideal_hours: 24.0, recorded: true };
        let of = |bad, rim, middle| proposals(verdict(bad, rim, middle), run, GramsPerKg(8.0)).into_iter().map(|p| p.0).collect::<Vec<_>>();
        let dose = |g| Proposal::Dose(GramsPerKg(g));
        // TRADE 10.1: rim salty and middle right wants hours, not less salt; salty or bland all through wants a gram.
        assert_eq!(of(None, 2, 0), [Proposal::Hours(24.0)]);
        assert_eq!((of(None, 1, 1), of(None, -1, -2)), (vec![dose(7.0)], vec![dose(9.0)]));
        assert_eq!((of(None, -1, 0), of(None, 0, 1)), (vec![dose(8.5)], vec![dose(7.5)]));
        assert_eq!(of(Some(0b11), 1, 1), [dose(7.0), Proposal::DrySkin]);
        assert!(of(Some(0), 0, 0).is_empty());
        // And never out of all measure.
        let bland = proposals(verdict(None, -2, -2), run, GramsPerKg(15.8));
        assert_eq!(bland[0].0, dose(16.0));
    }

    #[test]
    fn an_unrecorded_run_is_said_to_be_one() {
        let tasted = verdict(None, 0, -1);
        let run = Run { skin_dryness: None, hours: 24.0, ideal_hours: 21.0, recorded: false };
        assert!(next_time(tasted, run).starts_with("Salting and the way out of the refrigerator were not ticked"));
        assert!(next_time(tasted, Run { recorded: true, ..run }).starts_with("Bland inside"));
    }
}
