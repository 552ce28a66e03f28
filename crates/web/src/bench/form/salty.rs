//! The words about salt: which, how much, what else is in, what lies on the skin.

use super::piece::label_json;
use super::{BenchForm, Slip, Slips};
use crate::kit::{Shelf, mix_json, salt_json};
use rauchkeller_contract::method_value;
use rauchkeller_core::piece::{Body, Cut, Measures, faces};
use rauchkeller_core::salt::{
    LedgerLine, SALTS, SaidMix, Salt, SpoonSalt, named_mix, read_dose, read_ledger_line, said_mixes, split_ledger_lines,
};
use rauchkeller_core::units::{MassIn, TimeIn, grams, millimetres};
use serde_json::{Map, Value, json};

/// A mix that was said with its ingredients, as the contract takes it.
fn mix_of(said: &SaidMix) -> Value {
    json!({"name": said.name, "recipe": said.recipe, "g": said.asked.map(MassIn::in_g)})
}

/// The mix with its bath, its face by the contract's name, and its hour.
fn with_its_place(cut: Option<Cut>, mut mix: Value, said: &SaidMix) -> Value {
    mix["bath_h"] = said.bath.map_or(Value::Null, |bath| json!(bath.in_h()));
    let names = cut.map(face_names).unwrap_or_default();
    let id = |word: &String| {
        let called = |(id, name): &&(&str, &str)| word == id || word == name || word.trim_end_matches('s') == name.trim_end_matches('s');
        names.iter().find(called).map_or_else(|| word.clone(), |(id, _)| (*id).to_owned())
    };
    mix["face"] = said.face.as_ref().map_or(Value::Null, |word| id(word).into());
    mix["at_h"] = said.at.map_or(Value::Null, |at| json!(at.in_h()));
    mix
}

/// The faces of a cut by their names, and what a cook calls them.
fn face_names(cut: Cut) -> Vec<(&'static str, &'static str)> {
    let measures = Measures { length: millimetres(200.0), width: millimetres(100.0) };
    let (skin, fat) = (millimetres(cut.skin_mm), millimetres(cut.fat_mm));
    let body = Body { weight: grams(1000.0), measures, thickness: millimetres(50.0), skin, fat, shaped: None };
    let loosened = cut.is_bird() && !cut.has_fat_window();
    faces(&cut, body, loosened).iter().map(|face| (face.id, face.name)).collect()
}

/// A portion's own dose, in grams a kilogram or per cent.
pub(super) fn read_own_dose(typed: &str) -> Result<f64, Slip> {
    let Some(salt) = Salt::find("fine-sea") else { return Err("No salt.".into()) };
    Ok(read_dose(typed, SpoonSalt::of(&salt, false))?.0)
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
            let (spoons_of, chosen) = self.spoon(shelf);
            match read_dose(&self.dose, SpoonSalt::of(&spoons_of, chosen)) {
                Ok(dose) => {
                    salt.insert("g_per_kg".into(), json!(dose.0));
                    if let Some(usual) = shelf.usual_dose.filter(|usual| (0.5..40.0).contains(usual)) {
                        salt.insert("usual_g_per_kg".into(), json!((usual * 100.0).round() / 100.0));
                    }
                }
                Err(error) => {
                    slips.insert("dose", error.into());
                }
            }
        }
        let covered = cut.is_some_and(|c| c.skin_mm > 0.0 || c.fat_mm > 0.0);
        if covered && !self.cover.is_empty() {
            salt.insert("cover".into(), json!({"kind": self.cover}));
        }
        root.insert("salt".into(), Value::Object(salt));
        if !self.method.is_empty() {
            root.insert("method".into(), self.method.clone().into());
            // A way of this kitchen's own goes whole.
            if let Some(own) = shelf.own_way(&self.method) {
                root.insert("method_document".into(), method_value(&own));
            }
        }
    }

    /// The salt whose spoons are meant, and whether the cook chose it.
    pub(super) fn spoon(&self, shelf: &Shelf) -> (Salt, bool) {
        let own = shelf.salt(&self.salt).and_then(|s| Salt::own(&s.name, s.g_per_tsp, s.purity, s.potassium, s.spread_g, s.pinch_g).ok());
        let chosen = own.or_else(|| Salt::find(&self.salt));
        // The list sends its first salt, too: only another one was chosen for certain.
        let is_chosen = chosen.is_some() && self.salt != "fine-sea";
        (chosen.or_else(|| Salt::find("fine-sea")).unwrap_or_else(|| SALTS[0].clone()), is_chosen)
    }

    /// Each face's share, by its name or what a cook calls it; one face without a number takes what is left.
    pub(super) fn read_split(&self, cut: Option<Cut>, root: &mut Map<String, Value>, slips: &mut Slips) {
        let typed = self.split.trim();
        if typed.is_empty() {
            return;
        }
        let names = cut.map(face_names).unwrap_or_default();
        let known = || names.iter().map(|(id, _)| *id).collect::<Vec<_>>().join(", ");
        let mut shares = Map::new();
        let mut open: Option<&str> = None;
        for part in typed.split([',', ';']).map(str::trim).filter(|part| !part.is_empty()) {
            let at = part.find(|c: char| c.is_ascii_digit()).unwrap_or(part.len());
            let (name, number) = (part[..at].trim().to_lowercase(), part[at..].trim().trim_end_matches('%').trim().replace(',', "."));
            let Some((id, _)) =
                names.iter().find(|(id, words)| *id == name || *words == name || words.trim_end_matches('s') == name.trim_end_matches('s'))
            else {
                slips.insert(
                    "split",
                    format!(
                        "“{}” is no face of this cut; its faces are {}. Write it like “meat 70 %, cut 30 %”.",
                        super::short(part),
                        known()
                    )
                    .into(),
                );
                return;
            };
            match number.parse::<f64>() {
                Ok(percent) if (0.0..=100.0).contains(&percent) => {
                    shares.insert((*id).to_owned(), json!(percent / 100.0));
                }
                _ if number.is_empty() && open.is_none() => open = Some(id),
                _ => {
                    slips.insert(
                        "split",
                        format!("“{}” is no share; write it like “meat 70 %, cut 30 %”, 100 % together.", super::short(part)).into(),
                    );
                    return;
                }
            }
        }
        let given: f64 = shares.values().filter_map(Value::as_f64).sum();
        if let Some(id) = open {
            shares.insert(id.to_owned(), json!(((1.0 - given).max(0.0) * 1e6).round() / 1e6));
        }
        root["salt"]["shares"] = Value::Object(shares);
    }

    /// Every salty thing of the line; a label without an amount is the packer's label of the piece, and a mix of the Kit
    /// is known by its name.
    pub(super) fn read_also(&self, cut: Option<Cut>, shelf: &Shelf, root: &mut Map<String, Value>, slips: &mut Slips) {
        let (mixes, rest) = said_mixes(&self.also);
        let mut mixes: Vec<Value> = mixes.iter().map(|said| with_its_place(cut, mix_of(said), said)).collect();
        let mut ledger = Vec::new();
        let lines = split_ledger_lines(&rest);
        for (i, line) in lines.iter().enumerate() {
            let said = named_mix(line);
            if let Some(kept) = shelf.mix_named(&said.name) {
                mixes.push(with_its_place(cut, mix_json(kept, said.asked.map(MassIn::in_g)), &said));
                continue;
            }
            let line = &lines[i];
            match read_ledger_line(line) {
                Ok(LedgerLine::Entry(_)) => ledger.push(json!({"said": line})),
                Ok(LedgerLine::PieceLabel(label)) => root["piece"]["solution"] = label_json(label),
                Err(error) => {
                    let mut slip = Slip::from(error);
                    // A reading takes the place of its line; the other lines stay.
                    let with = |choice: &String| {
                        let mut all = lines.clone();
                        choice.clone_into(&mut all[i]);
                        all.join("; ")
                    };
                    slip.choices = slip.choices.iter().map(with).collect();
                    slips.entry("also").or_insert(slip);
                }
            }
        }
        if !ledger.is_empty() {
            root.insert("ledger".into(), Value::Array(ledger));
        }
        // The first that goes on everywhere is the mix; what has a face or an hour of its own comes besides.
        let everywhere = mixes.iter().position(|mix| mix["face"].is_null() && mix["at_h"].is_null());
        if let Some(mut mix) = everywhere.map(|at| mixes.remove(at)) {
            mix.as_object_mut().into_iter().for_each(|mix| mix.retain(|key, _| !matches!(key.as_str(), "face" | "at_h")));
            root.insert("mix".into(), mix);
        }
        if !mixes.is_empty() {
            root.insert("mixes".into(), Value::Array(mixes));
        }
    }
}
