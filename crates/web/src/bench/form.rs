//! The sentence as typed, and what it says.

use jiff::ZonedDateTime;
use rauchkeller_contract::Problem;
use rauchkeller_core::clock::{Toward, read_day_said, read_wall};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::salt::{LedgerLine, read_ledger_line, split_ledger_lines};
use rauchkeller_core::units::{LengthIn, MassIn, parse_face, parse_length, parse_mass, parse_portions};
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;

/// The cut that lies on an empty Bench.
pub const FIRST_CUT: &str = "pork-belly";

/// The words of the sentence, exactly as typed; empty means: you guess.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize, Serialize)]
#[serde(default)]
pub struct BenchForm {
    pub cut: String,
    pub weight: String,
    pub thick: String,
    /// Length × width of a slab, a roast or a joint.
    pub face: String,
    pub skin: String,
    pub fat: String,
    pub fatmin: String,
    pub bone: String,
    pub method: String,
    pub dose: String,
    pub salt: String,
    /// Salty things that go on too, as typed.
    pub also: String,
    pub serve: String,
    pub servings: String,
    pub hours: String,
    pub bought: String,
    /// `fresh`, `frozen`, `salted` or `open`.
    pub stands: String,
    pub since: String,
    pub on: String,
    /// Key of this form, so that sending it twice keeps one piece.
    pub key: String,
}

/// What the sentence says: a request of the contract, and what could not be read, by word.
#[derive(Debug, Clone)]
pub struct Said {
    /// The request, as far as it could be read.
    pub request: Value,
    /// One sentence a word.
    pub slips: BTreeMap<&'static str, String>,
    /// Whether a weight was typed.
    pub weighed: bool,
}

/// Fields of the contract and the word of the sentence each belongs to.
const WORDS: [(&str, &str); 20] = [
    ("piece.length_mm", "face"),
    ("piece.width_mm", "face"),
    ("piece.solution", "also"),
    ("ledger", "also"),
    ("piece.cut", "cut"),
    ("piece.weight_g", "weight"),
    ("piece.portions", "weight"),
    ("piece.salt_thickness_mm", "thick"),
    ("piece.skin_mm", "skin"),
    ("piece.fat_mm", "fat"),
    ("piece.fat_min_mm", "fatmin"),
    ("piece.bone_fraction", "bone"),
    ("piece.bought_on", "bought"),
    ("method", "method"),
    ("salt.g_per_kg", "dose"),
    ("salt.kind", "salt"),
    ("serve_at", "serve"),
    ("servings", "servings"),
    ("hours", "hours"),
    ("done", "since"),
];

/// The word a field of the contract belongs to.
pub fn word_of(field: &str) -> &'static str {
    WORDS.iter().find(|(name, _)| field == *name || field.starts_with(&format!("{name}["))).map_or("cut", |(_, word)| word)
}

/// Takes the fields of a word out of a request, so that the rest can still be planned.
pub fn leave_out(request: &mut Value, word: &str) {
    for (field, _) in WORDS.iter().filter(|(_, w)| *w == word) {
        let mut parts = field.split('.');
        let (Some(first), second) = (parts.next(), parts.next()) else { continue };
        match second {
            Some(second) => {
                if let Some(inner) = request.get_mut(first).and_then(Value::as_object_mut) {
                    inner.remove(second);
                }
            }
            None => {
                if let Some(all) = request.as_object_mut() {
                    all.remove(first);
                }
            }
        }
    }
}

impl BenchForm {
    /// The cut of the sentence; pork belly until another is chosen.
    pub fn cut(&self) -> Option<Cut> {
        if self.cut.is_empty() { Cut::find(FIRST_CUT) } else { Cut::find(&self.cut) }
    }

    /// The address that brings this state back.
    pub fn address(&self) -> String {
        let mut pairs: Vec<String> = Vec::new();
        let fields = serde_json::to_value(self).unwrap_or_default();
        for (name, value) in fields.as_object().into_iter().flatten() {
            if let Some(text) = value.as_str().filter(|t| !t.is_empty() && name != "key") {
                pairs.push(format!("{name}={}", encode(text)));
            }
        }
        if pairs.is_empty() { "/bench".into() } else { format!("/bench?{}", pairs.join("&")) }
    }

    /// Reads every word.
    pub fn read(&self, now: &ZonedDateTime) -> Said {
        let mut slips = BTreeMap::new();
        let mut piece = Map::new();
        let mut root = Map::new();
        let cut = self.cut();
        if cut.is_none() {
            slips.insert("cut", format!("“{}” is not a cut this kitchen knows. Choose one of the list.", short(&self.cut)));
        }
        piece.insert("cut".into(), cut.map_or(FIRST_CUT, |c| c.id).into());
        let weighed = self.read_weight(cut, &mut piece, &mut slips);
        for (word, typed, field) in [
            ("thick", &self.thick, "salt_thickness_mm"),
            ("skin", &self.skin, "skin_mm"),
            ("fat", &self.fat, "fat_mm"),
            ("fatmin", &self.fatmin, "fat_min_mm"),
        ] {
            // A steak has no skin; what another cut left in the address does not count.
            let counts = word == "thick" || word == "fat" || cut.is_some_and(|c| c.skin_mm > 0.0);
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
            self.read_bone(&mut piece, &mut slips);
        }
        if !self.bought.trim().is_empty() {
            match read_day_said(&self.bought, now, Toward::Past) {
                Ok(day) => {
                    piece.insert("bought_on".into(), day.to_string().into());
                }
                Err(error) => {
                    slips.insert("bought", format!("{error}."));
                }
            }
        }
        if self.stands == "frozen" {
            piece.insert("frozen".into(), true.into());
        }
        root.insert("piece".into(), Value::Object(piece));
        self.read_salt(&mut root, &mut slips);
        self.read_also(&mut root, &mut slips);
        self.read_times(now, &mut root, &mut slips);
        root.insert("now".into(), now.to_string().into());
        Said { request: Value::Object(root), slips, weighed }
    }

    fn read_weight(&self, cut: Option<Cut>, piece: &mut Map<String, Value>, slips: &mut BTreeMap<&'static str, String>) -> bool {
        let guess = cut.map_or(2000.0, |c| f64::midpoint(c.typical_g.0, c.typical_g.1));
        piece.insert("weight_g".into(), json!(guess));
        if self.weight.trim().is_empty() {
            return false;
        }
        match parse_portions(&self.weight) {
            Ok(portions) => {
                let sum: f64 = portions.iter().map(|p| p.in_g()).sum();
                piece.insert("weight_g".into(), json!(sum));
                if portions.len() > 1 {
                    let list: Vec<Value> = portions.iter().map(|p| json!({"weight_g": p.in_g()})).collect();
                    piece.insert("portions".into(), Value::Array(list));
                }
                true
            }
            Err(error) => {
                slips.insert("weight", format!("{error}."));
                false
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

    fn read_salt(&self, root: &mut Map<String, Value>, slips: &mut BTreeMap<&'static str, String>) {
        let mut salt = Map::new();
        if !self.salt.is_empty() {
            salt.insert("kind".into(), self.salt.clone().into());
        }
        let typed = self.dose.trim().to_lowercase();
        if !typed.is_empty() {
            let bare = typed.trim_end_matches("g/kg").trim_end_matches("g per kg").trim().replace(',', ".");
            match bare.parse::<f64>() {
                Ok(dose) => {
                    salt.insert("g_per_kg".into(), json!(dose));
                }
                Err(_) => {
                    slips.insert("dose", format!("“{}” is not a dose; write grams a kilogram, like 10 g/kg.", short(&typed)));
                }
            }
        }
        root.insert("salt".into(), Value::Object(salt));
        if !self.method.is_empty() {
            root.insert("method".into(), self.method.clone().into());
        }
    }

    /// Every salty thing of the line; a label without an amount is the packer's label of the piece.
    fn read_also(&self, root: &mut Map<String, Value>, slips: &mut BTreeMap<&'static str, String>) {
        let mut ledger = Vec::new();
        for line in split_ledger_lines(&self.also) {
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

    fn read_times(&self, now: &ZonedDateTime, root: &mut Map<String, Value>, slips: &mut BTreeMap<&'static str, String>) {
        if !self.serve.trim().is_empty() {
            match read_wall(&self.serve, now, Toward::Coming) {
                Ok(at) => {
                    root.insert("serve_at".into(), at.to_string().into());
                }
                Err(error) => {
                    slips.insert("serve", format!("{error}."));
                }
            }
        }
        for (word, typed, what) in [("servings", &self.servings, "a number of guests, like 8"), ("hours", &self.hours, "hours, like 24")] {
            let bare = typed.trim().trim_end_matches('h').trim().replace(',', ".");
            if bare.is_empty() {
                continue;
            }
            match bare.parse::<f64>() {
                Ok(number) => {
                    root.insert(word.into(), json!(number));
                }
                Err(_) => {
                    slips.insert(word, format!("“{}” is not a number; write {what}.", short(typed)));
                }
            }
        }
        self.read_done(now, root, slips);
    }

    /// A piece that comes in where it stands: salted already, or lying open in the cold.
    fn read_done(&self, now: &ZonedDateTime, root: &mut Map<String, Value>, slips: &mut BTreeMap<&'static str, String>) {
        if !matches!(self.stands.as_str(), "salted" | "open") {
            return;
        }
        let since = if self.since.trim().is_empty() { Ok(now.clone()) } else { read_wall(&self.since, now, Toward::Past) };
        let since = match since {
            Ok(since) => since.to_string(),
            Err(error) => {
                slips.insert("since", format!("{error}."));
                return;
            }
        };
        if self.stands == "open" {
            root.insert("done".into(), json!([{"kind": "chill", "at": since}]));
            return;
        }
        let mut salt = json!({"kind": "salt", "at": since});
        if !self.on.trim().is_empty() {
            match parse_mass(&self.on) {
                // A bare number in the salt's place is grams, however small.
                Ok(grams) => {
                    let bare = self.on.trim().replace(',', ".").parse::<f64>().ok();
                    salt["g"] = json!(bare.unwrap_or_else(|| grams.in_g()));
                }
                Err(error) => {
                    slips.insert("on", format!("{error}."));
                }
            }
        }
        root.insert("done".into(), json!([salt, {"kind": "chill", "at": since}]));
    }
}

/// A problem's sentence for beside its word.
pub fn slip(problem: &Problem) -> String {
    format!("{}: allowed is {}. {}", crate::words::sentence(&problem.typed), problem.allowed, problem.remedy)
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

/// Percent-encodes a query value.
fn encode(text: &str) -> String {
    use std::fmt::Write;
    text.bytes().fold(String::new(), |mut out, byte| {
        match byte {
            b'a'..=b'z' | b'A'..=b'Z' | b'0'..=b'9' | b'-' | b'.' | b'_' => out.push(char::from(byte)),
            b' ' => out.push('+'),
            _ => {
                let _ = write!(out, "%{byte:02X}");
            }
        }
        out
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn now() -> ZonedDateTime {
        "2026-12-10T09:00[Europe/Vienna]".parse().unwrap()
    }

    #[test]
    fn the_sentence_becomes_a_request() {
        let form = BenchForm {
            cut: "pork-belly".into(),
            weight: "5 lb 4 oz".into(),
            thick: "1¾ in".into(),
            dose: "7,5 g/kg".into(),
            serve: "Saturday 18:00".into(),
            bought: "yesterday".into(),
            ..Default::default()
        };
        let said = form.read(&now());
        assert!(said.slips.is_empty() && said.weighed, "{:?}", said.slips);
        let piece = &said.request["piece"];
        assert!((piece["weight_g"].as_f64().unwrap() - 2381.36).abs() < 0.01);
        assert!((piece["salt_thickness_mm"].as_f64().unwrap() - 44.45).abs() < 1e-9);
        assert_eq!(piece["bought_on"], "2026-12-09");
        assert_eq!(said.request["salt"]["g_per_kg"], 7.5);
        assert!(said.request["serve_at"].as_str().unwrap().starts_with("2026-12-12T18:00:00+01:00"));
    }

    #[test]
    fn every_slip_is_named_at_its_word() {
        let form = BenchForm {
            weight: "heavy".into(),
            thick: "45 kg".into(),
            dose: "lots".into(),
            serve: "someday".into(),
            servings: "all".into(),
            bought: "soon".into(),
            ..Default::default()
        };
        let said = form.read(&now());
        assert_eq!(said.slips.keys().copied().collect::<Vec<_>>(), ["bought", "dose", "serve", "servings", "thick", "weight"]);
        assert!(said.slips["thick"].contains("kg") && said.slips["weight"].contains("heavy"));
    }

    #[test]
    fn a_piece_comes_in_where_it_stands() {
        let form = BenchForm { stands: "salted".into(), since: "07:00".into(), on: "12".into(), ..Default::default() };
        let done = &form.read(&now()).request["done"];
        assert_eq!((done[0]["kind"].as_str(), done[0]["g"].as_f64()), (Some("salt"), Some(12.0)));
        assert!(done[0]["at"].as_str().unwrap().starts_with("2026-12-10T07:00"));
    }

    #[test]
    fn salty_things_are_read_and_nonsense_leaves_the_rest() {
        let form = BenchForm { also: "2 tbsp soy sauce, 3 g moon dust, label: 1.2 g salt per 100 g".into(), ..Default::default() };
        let said = form.read(&now());
        assert_eq!(said.request["ledger"], json!([{"said": "2 tbsp soy sauce"}]));
        assert!((said.request["piece"]["solution"]["sodium_mg_per_100g"].as_f64().unwrap() - 472.05).abs() < 0.1);
        assert!(said.slips["also"].contains("moon dust"));
    }

    #[test]
    fn the_address_brings_the_state_back() {
        let form = BenchForm { cut: "duck-whole".into(), weight: "2 × 2.1 kg".into(), key: "secret".into(), ..Default::default() };
        assert_eq!(form.address(), "/bench?cut=duck-whole&weight=2+%C3%97+2.1+kg");
    }
}
