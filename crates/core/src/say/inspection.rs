//! What the look over a piece changed in its plan, one sentence an answer.

use crate::ask::{BoughtScoring, Thawing};
use crate::clock::StorageLimit;
use crate::plan::FridgePlan;
use crate::salt::PackLabel;
use crate::settle::Resolved;
use crate::units::{LengthIn, Mass, MassIn, Time, both_mass};

/// One answer and what it does.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct InspectionNote {
    /// Path of the field, as in the contract.
    pub field: &'static str,
    /// What it changed.
    pub says: String,
}

/// What the notes are told from.
pub(crate) struct InspectionInput<'a> {
    pub resolved: &'a Resolved,
    pub fridge: &'a FridgePlan,
    pub keeps: Option<StorageLimit>,
    pub thaw: Option<Time>,
}

/// A piece counts as even when its thinnest place is at least this share of its thickest (our estimate).
const EVEN: f64 = 0.85;

/// One note for every answer that was given.
pub(crate) fn inspection(looked: &InspectionInput) -> Vec<InspectionNote> {
    let InspectionInput { resolved, fridge, .. } = looked;
    let said = &*resolved.settled;
    let mut notes = Vec::new();
    let mut say = |field, says: String| notes.push(InspectionNote { field, says });
    if let Some(thin) = said.thin {
        say("piece.thin_mm", uneven(resolved, fridge, thin.in_mm()));
    }
    if let (Some(trimmed), [portion]) = (said.trimmed, said.portions.as_slice()) {
        let off = portion.weight - trimmed;
        let less: Mass = off * (resolved.basis_weight() / resolved.weight).value * (resolved.dose.0 / 1000.0);
        say(
            "piece.trimmed_weight_g",
            format!("{} came off: the dose is on what is left, {:.1} g of salt less.", both_mass(off).metric, less.in_g()),
        );
    }
    match said.scored {
        Some(BoughtScoring::IntoFat) => say(
            "piece.scored",
            "It comes scored into the fat: the cuts open the skin, so nothing is pierced. Pull each cut open and dry it; no salt into them."
                .into(),
        ),
        Some(BoughtScoring::IntoLean) => say(
            "piece.scored",
            "It comes scored into the lean: juice will rise through the cuts and spoil the crackling over them, and it is no longer \
             intact meat. Take another piece if you can."
                .into(),
        ),
        None => {}
    }
    if let Some(label) = said.solution {
        let edible = resolved.edible_of(resolved.weight);
        let inside = label.salt_inside(&said.cut, edible);
        let (low, high) = label.band(&said.cut, edible);
        let says = match label {
            PackLabel::UpTo(share) if inside.in_g() > 0.05 => format!(
                "Up to {:.0} % of a solution is about {} g of salt inside ({} to {} g, our estimate): that much less to weigh. The sodium \
                 on its label would say how much.",
                share.0 * 100.0,
                crate::words::g(inside),
                crate::words::g(low),
                crate::words::g(high)
            ),
            _ if inside.in_g() > 0.05 => {
                format!("The packer put in {} g of salt, even throughout: that much less to weigh.", crate::words::g(inside))
            }
            _ => "The label shows no more sodium than such meat has by nature: nothing is taken off.".into(),
        };
        say("piece.solution", says);
    }
    if let Some(thaw) = looked.thaw {
        let says = match said.thaw.unwrap_or_default() {
            Thawing::Refrigerator => format!("Frozen: {} h of thawing in the refrigerator come first.", crate::words::h(thaw)),
            Thawing::Water => format!("Frozen: {} under cold water come first, and it is cooked at once.", crate::words::span(thaw)),
            Thawing::Salted => {
                format!("Frozen: salted after {} h of thawing in the refrigerator, when its outside is soft.", crate::words::h(thaw))
            }
        };
        say("piece.frozen", says);
    }
    if let Some(keeps) = looked.keeps {
        let zone = said.now.time_zone();
        let day = |at: jiff::Timestamp| at.to_zoned_datetime(zone.clone()).strftime("%A %-d %B").to_string();
        let (field, from) = match (said.frozen, said.use_by) {
            (true, _) => ("piece.frozen", "the end of thawing"),
            (false, Some(_)) => ("piece.use_by", "the label"),
            (false, None) => ("piece.bought_on", "the day it was bought"),
        };
        let ends = if looked.fridge.to <= keeps.red {
            "the hours in the cold end before that"
        } else {
            "the hours in the cold end after that, which the authority does not allow"
        };
        // The limit is the end of a day: until midnight of the day before it.
        let last = keeps.red.checked_sub(jiff::SignedDuration::from_secs(1)).unwrap_or(keeps.red);
        say(field, format!("By {from} it keeps until the end of {}; {ends}.", day(last)));
    }
    notes
}

/// An uneven piece: one dose an area is more a kilogram where it is thinner.
fn uneven(resolved: &Resolved, fridge: &FridgePlan, thin: f64) -> String {
    let thick = resolved.thickness.in_mm();
    if thin >= EVEN * thick {
        return format!("Even enough: {thin:.0} to {thick:.0} mm.");
    }
    let slice = fridge.state.slice.0;
    // The same grams an area on less meat; heat goes in with the square of the thickness (slab, Fourier number).
    let sooner = (1.0 - (thin / thick).powi(2)) * 100.0;
    format!(
        "Uneven: at {thin:.0} mm a slice would hold about {:.1} g/kg where the thick place has {slice:.1}, and it is done {sooner:.0} % sooner. \
         Salt the thin end lighter, fold it under or shield it. An estimate.",
        slice * thick / thin
    )
}
