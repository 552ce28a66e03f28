//! Cautions that belong to a task as such, by their codes. Source: TRADE 11.

use super::{Caution, Severity};
use crate::method::StepKind;

struct Row {
    code: &'static str,
    severity: Severity,
    text: &'static str,
    source: &'static str,
}

const FSIS: &str = "USDA FSIS";
const TRADE: &str = "common practice";

const fn row(code: &'static str, severity: Severity, source: &'static str, text: &'static str) -> Row {
    Row { code, severity, text, source }
}

const ROWS: &[Row] = &[
    row(
        "cooked-ahead",
        Severity::Amber,
        FSIS,
        "Cooked ahead: from the heat into the refrigerator within two hours, no thicker than 5 cm (2 in) and shallow, below 4.4 °C (40 °F); eaten within three days; heated again to 74 °C (165 °F) all through.",
    ),
    row(
        "raw-waste",
        Severity::Note,
        FSIS,
        "Wrapping, pad, blot paper, salt and drip are raw: into the bin, and wipe down what they lay on.",
    ),
    row("trimmings", Severity::Note, FSIS, "Trimmings that are minced are ground meat: 71 °C (160 °F) all through, within a day or two."),
    row("scald", Severity::Note, TRADE, "Boiling water and its steam scald hands too: pour away from you, over a sink."),
    row("skewers", Severity::Note, TRADE, "Count skewers in and out; their points up and away from hands."),
    row(
        "home-made-tools",
        Severity::Amber,
        TRADE,
        "Only what is made for food, or new, whole and clean: no rusty nails, no workshop wire.",
    ),
    row(
        "hangs-cold",
        Severity::Amber,
        FSIS,
        "Hang it in the refrigerator only, below 4.4 °C (40 °F): drying raw meat in room air is another, licensed craft.",
    ),
    row(
        "stuffing",
        Severity::Amber,
        FSIS,
        "Stuffing slows the heat and is read by itself: 74 °C (165 °F) in its middle, or it goes on cooking in a dish. Stuff just before the heat.",
    ),
    row(
        "aromatics",
        Severity::Note,
        TRADE,
        "Herbs and fruit inside are not stuffing: loosely, so that hot air goes through, and out of it before it is carved.",
    ),
    row("salt-on-foil", Severity::Note, TRADE, "Salt and what is sour eat foil: keep a rack or paper between, and the foil off the salt."),
    row("leaves", Severity::Note, TRADE, "Only leaves that are sold for cooking: others may be sprayed, or poisonous."),
    row(
        "raw-paste",
        Severity::Note,
        FSIS,
        "Paste or marinade that has touched raw meat is raw: what is left in the bowl is thrown away, or boiled for a minute.",
    ),
    row(
        "freeze-in-marinade",
        Severity::Note,
        TRADE,
        "Frozen in its marinade it goes on taking up salt as it thaws: count the thawing hours too.",
    ),
    row("picks", Severity::Note, TRADE, "Count picks in and out: a broken tip stays in the skin."),
    row("blade", Severity::Note, TRADE, "A new clean blade, its segment whole; cut away from the hand that holds."),
];

/// Whether a document may name it.
pub fn is_known_caution(code: &str) -> bool {
    ROWS.iter().any(|row| row.code == code)
}

/// All codes a document may name.
pub fn task_caution_codes() -> Vec<&'static str> {
    ROWS.iter().map(|row| row.code).collect()
}

/// One of them at a kind of task; `None` where there is none of that code.
pub fn task_caution(code: &str, at: StepKind) -> Option<Caution> {
    let row = ROWS.iter().find(|row| row.code == code)?;
    Some(Caution::new(row.code, row.severity, row.text.to_owned(), row.source, Some(at)))
}
