//! The words about the piece: weight, portions, measures, and what the look over it found.

use super::{BenchForm, short};
use jiff::ZonedDateTime;
use rauchkeller_core::clock::{Toward, read_day_said};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::salt::{LedgerLine, read_ledger_line};
use rauchkeller_core::units::{LengthIn, MassIn, parse_face, parse_length, parse_mass, parse_portions};
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;

type Slips = BTreeMap<&'static str, String>;

impl BenchForm {
    /// The piece, and whether a weight was typed.
    pub(super) fn read_piece(&self, cut: Option<Cut>, now: &ZonedDateTime, slips: &mut Slips) -> (Map<String, Value>, bool) {
        let mut piece = Map::new();
        piece.insert("cut".into(), cut.map_or(super::FIRST_CUT, |c| c.id).into());
        let (weighed, mut portions) = self.read_weight(cut, &mut piece, slips);
        self.read_thickness(&mut piece, &mut portions, slips);
        self.read_own_doses(&mut portions, slips);
        if portions.len() > 1 {
            piece.insert("portions".into(), portions.into_iter().map(Value::Object).collect());
        }
        for (word, typed, field) in [
            ("skin", &self.skin, "skin_mm"),
            ("fat", &self.fat, "fat_mm"),
            ("fatmin", &self.fatmin, "fat_min_mm"),
            ("thin", &self.thin, "thin_mm"),
        ] {
            // A steak has no skin; what another cut left in the address does not count.
            let counts = matches!(word, "fat" | "thin") || cut.is_some_and(|c| c.skin_mm > 0.0);
            match Some(typed.trim()).filter(|t| counts && !t.is_empty()).map(parse_length) {
                None => {}
                Some(Ok(length)) => {
                    piece.insert(field.into(), json!(length.in_mm()));
                }
                Some(Err(error)) => {
                    slips.insert(word, format!("{error}."));
                }
            }
        }
        if !self.face.trim().is_empty() && cut.is_some_and(|c| !c.is_bird()) {
            match parse_face(&self.face) {
                Ok((length, width)) => {
                    piece.insert("length_mm".into(), json!(length.in_mm()));
                    piece.insert("width_mm".into(), json!(width.in_mm()));
                }
                Err(error) => {
                    slips.insert("face", format!("{error}; both sides, like 267 × 190 mm."));
                }
            }
        }
        if cut.is_some_and(|c| c.bone_fraction > 0.0) {
            self.read_bone(&mut piece, slips);
        }
        for (word, typed, field, toward) in
            [("bought", &self.bought, "bought_on", Toward::Past), ("useby", &self.useby, "use_by", Toward::Coming)]
        {
            match Some(typed.trim()).filter(|t| !t.is_empty()).map(|t| read_day_said(t, now, toward)) {
                None => {}
                Some(Ok(day)) => {
                    piece.insert(field.into(), day.to_string().into());
                }
                Some(Err(error)) => {
                    slips.insert(word, format!("{error}."));
                }
            }
        }
        if self.stands == "frozen" {
            piece.insert("frozen".into(), true.into());
        }
        self.read_look_over(cut, &mut piece, slips);
        (piece, weighed)
    }

    fn read_weight(&self, cut: Option<Cut>, piece: &mut Map<String, Value>, slips: &mut Slips) -> (bool, Vec<Map<String, Value>>) {
        let guess = cut.map_or(2000.0, |c| f64::midpoint(c.typical_g.0, c.typical_g.1));
        piece.insert("weight_g".into(), json!(guess));
        if self.weight.trim().is_empty() {
            return (false, vec![]);
        }
        match parse_portions(&self.weight) {
            Ok(portions) => {
                let sum: f64 = portions.iter().map(|p| p.in_g()).sum();
                piece.insert("weight_g".into(), json!(sum));
                (true, portions.iter().map(|p| Map::from_iter([("weight_g".to_owned(), json!(p.in_g()))])).collect())
            }
            Err(error) => {
                slips.insert("weight", format!("{error}."));
                (false, vec![])
            }
        }
    }

    /// One thickness for all, or one a portion: `30 + 42 mm`.
    fn read_thickness(&self, piece: &mut Map<String, Value>, portions: &mut [Map<String, Value>], slips: &mut Slips) {
        if self.thick.trim().is_empty() {
            return;
        }
        let values: Result<Vec<f64>, String> =
            each(&self.thick).iter().map(|text| parse_length(text).map(LengthIn::in_mm).map_err(|error| format!("{error}."))).collect();
        match values {
            Ok(values) if values.len() == 1 => {
                piece.insert("salt_thickness_mm".into(), json!(values[0]));
            }
            Ok(values) => give_each("thick", "salt_thickness_mm", &values, portions, slips),
            Err(error) => {
                slips.insert("thick", error);
            }
        }
    }

    /// A dose a portion: `10 + 12 g/kg`. One dose for all is the salt's own word.
    fn read_own_doses(&self, portions: &mut [Map<String, Value>], slips: &mut Slips) {
        let texts = each(&self.dose);
        if texts.len() < 2 {
            return;
        }
        let values: Result<Vec<f64>, String> = texts.iter().map(|text| super::salty::read_dose(text)).collect();
        match values {
            Ok(values) => give_each("dose", "g_per_kg", &values, portions, slips),
            Err(error) => {
                slips.insert("dose", error);
            }
        }
    }

    fn read_bone(&self, piece: &mut Map<String, Value>, slips: &mut BTreeMap<&'static str, String>) {
        let typed = self.bone.trim();
        if typed.is_empty() {
            return;
        }
        let percent = typed.ends_with('%');
        let number: Option<f64> = typed.trim_end_matches('%').trim().replace(',', ".").parse().ok();
        match number {
            Some(number) => {
                piece.insert("bone_fraction".into(), json!(if percent || number > 1.5 { number / 100.0 } else { number }));
            }
            None => {
                slips.insert("bone", format!("“{}” is not a share of bone; write 30 % or 0.3.", short(typed)));
            }
        }
    }

    /// Scoring, label, trimming.
    fn read_look_over(&self, cut: Option<Cut>, piece: &mut Map<String, Value>, slips: &mut Slips) {
        let covered = cut.is_some_and(|c| c.skin_mm > 0.0 || c.fat_mm > 0.0);
        match self.scored.as_str() {
            "fat" | "lean" if covered => {
                piece.insert("scored".into(), format!("into-{}", self.scored).into());
            }
            _ => {}
        }
        if !self.label.trim().is_empty() {
            if let Some(mg) = read_piece_label(&self.label) {
                piece.insert("solution".into(), json!({"sodium_mg_per_100g": mg}));
            } else {
                let said = short(&self.label);
                slips.insert(
                    "label",
                    format!("“{said}” is no label; write what it says, like 240 mg sodium per 100 g or 0.8 g salt per 100 g."),
                );
            }
        }
        match Some(self.trimmed.trim()).filter(|t| !t.is_empty()).map(parse_mass) {
            None => {}
            Some(Ok(mass)) => {
                piece.insert("trimmed_weight_g".into(), json!(mass.in_g()));
            }
            Some(Err(error)) => {
                slips.insert("trimmed", format!("{error}."));
            }
        }
    }
}

/// The values of `30 + 42 mm`; a unit said once, at the end, counts for all.
fn each(typed: &str) -> Vec<String> {
    let parts: Vec<&str> = typed.split('+').map(str::trim).collect();
    let unit: String = parts.last().map_or_else(String::new, |last| last.chars().skip_while(|c| !c.is_alphabetic() && *c != '"').collect());
    let bare = |text: &str| !text.chars().any(|c| c.is_alphabetic() || c == '"');
    parts.iter().map(|part| if bare(part) { format!("{part} {unit}").trim().to_owned() } else { (*part).to_owned() }).collect()
}

fn give_each(word: &'static str, field: &str, values: &[f64], portions: &mut [Map<String, Value>], slips: &mut Slips) {
    if values.len() != portions.len() {
        let count = portions.len().max(1);
        let s = if count == 1 { "" } else { "s" };
        slips.insert(word, format!("{} values for {count} portion{s}; write one for each, joined by +, or one for all.", values.len()));
        return;
    }
    for (portion, value) in portions.iter_mut().zip(values) {
        portion.insert(field.to_owned(), json!(value));
    }
}

/// Sodium, mg per 100 g, from what a label says: `240 mg`, `240 mg per 100 g`, `0.8 g salt per 100 g`, `sodium 480 mg per 30 g`.
fn read_piece_label(typed: &str) -> Option<f64> {
    let lower = typed.trim().to_lowercase();
    let words = lower.trim_start_matches("label").trim_start_matches(':').trim();
    if let Ok(LedgerLine::PieceLabel(mg)) = read_ledger_line(&format!("label: {words}")) {
        return Some(mg);
    }
    let bare = words.replace("sodium", "").replace("per 100 g", "").replace("per 100g", "").replace("/100 g", "");
    let number = bare.trim().trim_end_matches("mg").trim();
    number.replace(',', ".").parse().ok().filter(|mg: &f64| mg.is_finite() && *mg >= 0.0)
}
