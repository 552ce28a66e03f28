//! The words about salt: which, how much, what else is in, what lies on the skin.

use super::{BenchForm, short};
use crate::kit::{Shelf, mix_json, salt_json};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::salt::{LedgerLine, read_ledger_line, split_ledger_lines};
use rauchkeller_core::units::{LengthIn, parse_length};
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;

type Slips = BTreeMap<&'static str, String>;

/// Grams a kilogram, or a sentence.
pub(super) fn read_dose(typed: &str) -> Result<f64, String> {
    let lower = typed.trim().to_lowercase();
    let bare = lower.trim_end_matches("g/kg").trim_end_matches("g per kg").trim().replace(',', ".");
    bare.parse().map_err(|_| format!("“{}” is not a dose; write grams a kilogram, like 10 g/kg.", short(typed.trim())))
}

impl BenchForm {
    pub(super) fn read_salt(&self, cut: Option<Cut>, shelf: &Shelf, root: &mut Map<String, Value>, slips: &mut Slips) {
        let mut salt = Map::new();
        if let Some(own) = shelf.salt(&self.salt) {
            salt.insert("own".into(), salt_json(own));
        } else if self.salt.starts_with("own-") {
            slips.insert("salt", "That salt no longer hangs in your Kit. Choose another one.".into());
        } else if !self.salt.is_empty() {
            salt.insert("kind".into(), self.salt.clone().into());
        }
        // Several doses are the portions' own.
        if !self.dose.trim().is_empty() && !self.dose.contains('+') {
            match read_dose(&self.dose) {
                Ok(dose) => {
                    salt.insert("g_per_kg".into(), json!(dose));
                }
                Err(error) => {
                    slips.insert("dose", error);
                }
            }
        }
        let covered = cut.is_some_and(|c| c.skin_mm > 0.0 || c.fat_mm > 0.0);
        if covered && !self.cover.is_empty() {
            salt.insert("cover".into(), self.read_cover(slips));
        }
        root.insert("salt".into(), Value::Object(salt));
        if !self.method.is_empty() {
            root.insert("method".into(), self.method.clone().into());
        }
    }

    fn read_cover(&self, slips: &mut Slips) -> Value {
        let mut cover = json!({"kind": self.cover});
        if !self.depth.trim().is_empty() && self.cover != "draw" {
            match parse_length(&self.depth) {
                Ok(depth) => cover["depth_mm"] = json!(depth.in_mm()),
                Err(error) => {
                    slips.insert("depth", format!("{error}."));
                }
            }
        }
        let left = self.left.trim().trim_end_matches("g/dm²").trim_end_matches("g/dm2").trim().replace(',', ".");
        if !left.is_empty() {
            match left.parse::<f64>() {
                Ok(g) => cover["left_g_per_dm2"] = json!(g),
                Err(_) => {
                    slips.insert("left", format!("“{}” is not grams a square decimetre; write it like 1 g/dm².", short(&self.left)));
                }
            }
        }
        cover
    }

    /// Every salty thing of the line; a label without an amount is the packer's label of the piece, and a mix of the Kit
    /// is known by its name.
    pub(super) fn read_also(&self, shelf: &Shelf, root: &mut Map<String, Value>, slips: &mut Slips) {
        let mut ledger = Vec::new();
        for line in split_ledger_lines(&self.also) {
            if let Some((mix, g)) = shelf.mix(&line) {
                if root.contains_key("mix") {
                    slips.entry("also").or_insert_with(|| "One mix a piece; leave the second one out.".into());
                } else {
                    root.insert("mix".into(), mix_json(mix, g));
                }
                continue;
            }
            match read_ledger_line(&line) {
                Ok(LedgerLine::Entry(_)) => ledger.push(json!({"said": line})),
                Ok(LedgerLine::PieceLabel(mg)) => root["piece"]["solution"] = json!({"sodium_mg_per_100g": mg}),
                Err(error) => {
                    slips.entry("also").or_insert_with(|| format!("{error}."));
                }
            }
        }
        if !ledger.is_empty() {
            root.insert("ledger".into(), Value::Array(ledger));
        }
    }
}
