//! The sentence as typed, and what it says.

mod chill;
mod heat;
mod numbers;
mod of_request;
mod piece;
mod salty;
mod slip;
mod times;

pub use slip::{Slip, Slips};

use crate::kit::Shelf;
use jiff::ZonedDateTime;
use rauchkeller_contract::Problem;
use rauchkeller_core::ask::Offer;
use rauchkeller_core::clock::say_moment;
use rauchkeller_core::piece::{Cut, Named, named};
use rauchkeller_core::plan::FIELDS;
use rauchkeller_core::units::System;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};

/// The cut that lies on an empty Bench.
pub const FIRST_CUT: &str = "pork-belly";

/// The words of the form, each told once: as a field, and by its name.
macro_rules! words {
    ($($(#[$doc:meta])* $word:ident,)*) => {
        /// The words of the sentence, exactly as typed; empty means: you guess.
        #[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize, Serialize)]
        #[serde(default)]
        pub struct BenchForm {
            $($(#[$doc])* pub $word: String,)*
        }

        impl BenchForm {
            /// A word by its name, as typed.
            pub fn word(&self, name: &str) -> &str {
                match name {
                    $(stringify!($word) => &self.$word,)*
                    _ => "",
                }
            }

            /// The same, to write into.
            pub fn word_mut(&mut self, name: &str) -> Option<&mut String> {
                match name {
                    $(stringify!($word) => Some(&mut self.$word),)*
                    _ => None,
                }
            }
        }
    };
}

words! {
    cut,
    /// What the cook calls it, where that is another name.
    cutname,
    weight,
    thick,
    /// Thickness at the thinnest place.
    thin,
    /// `fat` or `lean` for scoring it was bought with.
    scored,
    /// Sodium or salt on the packer's label.
    label,
    /// Weight after trimming.
    trimmed,
    useby,
    /// `draw`, `crust` or `bed`.
    cover,
    depth,
    /// g/dm² that stay behind.
    left,
    /// Length × width of a slab, a roast or a joint.
    face,
    skin,
    fat,
    fatmin,
    bone,
    method,
    dose,
    salt,
    /// Salty things that go on too, as typed.
    also,
    /// Each face's share of the salt: `meat 70 %, cut 10 %, fat 20 %`.
    split,
    serve,
    servings,
    /// How warm the kitchen is.
    room,
    hours,
    /// How it lies in the refrigerator.
    lies,
    /// `house` or `model`: whose hours the clock takes.
    by,
    /// What the model's hours are to reach, as typed.
    goal,
    /// What gives the heat.
    with,
    /// How hot that gets at its hottest.
    hottest,
    /// Its stages, as typed.
    fire,
    /// Where it is to end.
    finish,
    /// From the refrigerator to the heat.
    temper,
    /// Until the heat is up.
    preheat,
    /// What the middle reads before it.
    start,
    /// Rest after it, and how.
    rest,
    resting,
    /// How long it may wait warm.
    hold,
    /// Cooked ahead: what heats it again, as typed.
    second,
    /// Tasks of the cook's own, as typed.
    tasks,
    bought,
    /// `fresh`, `frozen`, `frozen-salted`, `frozen-water`, `salted` or `open`.
    stands,
    since,
    on,
    /// What the piece is to be called; empty for its cut and weight.
    name,
    /// Set where the cook keeps it in spite of what stands against it.
    knowing,
    /// A reading that was chosen, `word=what`; it takes the word's place.
    take,
    /// Key of this form, so that sending it twice keeps one piece.
    key,
    /// The kept piece that is changed here; empty for a new one.
    piece,
    /// Its version as the cook saw it.
    over,
    /// The eaten piece this one starts from, whose verdict proposes words.
    again,
}

/// What the sentence says: a request of the contract, and what could not be read, by word.
#[derive(Debug, Clone)]
pub struct Said {
    /// The request, as far as it could be read.
    pub request: Value,
    /// One slip a word.
    pub slips: Slips,
    /// Whether a weight was typed.
    pub weighed: bool,
}

/// What is no number of the table of fields, and the word of the sentence it belongs to.
const OTHERS: [(&str, &str); 33] = [
    ("piece.portions", "thick"),
    ("piece.scored", "scored"),
    ("piece.frozen", "stands"),
    ("thaw", "stands"),
    ("piece.solution", "label"),
    ("piece.use_by", "useby"),
    ("salt.own", "salt"),
    ("salt.cover", "cover"),
    ("salt.shares", "split"),
    ("mix", "also"),
    ("mixes", "also"),
    ("ledger", "also"),
    ("piece.cut", "cut"),
    // A weight that cannot be takes its portions along; a problem of a portion itself is its thickness.
    ("piece.portions", "weight"),
    ("piece.bought_on", "bought"),
    ("method", "method"),
    ("salt.kind", "salt"),
    ("serve_at", "serve"),
    ("serve_until", "serve"),
    ("done", "since"),
    ("goal", "goal"),
    ("lies", "lies"),
    ("hours_from", "by"),
    ("fire.with", "with"),
    ("kitchen.heat", "hottest"),
    ("fire.stages", "fire"),
    ("fire.again", "second"),
    ("fire.finish", "finish"),
    ("fire.rest", "resting"),
    ("fire.hold_h", "hold"),
    ("tasks", "tasks"),
    ("fire", "fire"),
    ("piece", "cut"),
];

/// Every field of the contract that a word says, with that word.
fn words() -> impl Iterator<Item = (&'static str, &'static str)> {
    FIELDS.iter().filter(|row| !row.word.is_empty()).map(|row| (row.path, row.word)).chain(OTHERS)
}

/// The word a field of the contract belongs to.
pub fn word_of(field: &str) -> &'static str {
    if field.starts_with("piece.portions[") {
        return match field.rsplit('.').next() {
            Some("g_per_kg") => "dose",
            Some("weight_g") => "weight",
            _ => "thick",
        };
    }
    let inside = |name: &str| field.strip_prefix(name).is_some_and(|rest| rest.starts_with(['[', '.']));
    words().find(|(name, _)| field == *name || inside(name)).map_or("cut", |(_, word)| word)
}

/// Takes the fields of a word out of a request, so that the rest can still be planned.
pub fn leave_out(request: &mut Value, word: &str) {
    if word == "dose" {
        let portions = request["piece"]["portions"].as_array_mut();
        portions.into_iter().flatten().filter_map(Value::as_object_mut).for_each(|portion| drop(portion.remove("g_per_kg")));
    }
    for (field, _) in words().filter(|(field, w)| *w == word && !matches!(*field, "piece" | "fire")) {
        let mut at = Some(&mut *request);
        let mut parts = field.split('.').peekable();
        while let Some(part) = parts.next() {
            let Some(inner) = at.and_then(Value::as_object_mut) else { break };
            if parts.peek().is_none() {
                inner.remove(part);
                break;
            }
            at = inner.get_mut(part);
        }
    }
}

impl BenchForm {
    /// The cut of the sentence; pork belly until another is chosen.
    pub fn cut(&self) -> Option<Cut> {
        if self.cut.is_empty() { Cut::find(FIRST_CUT) } else { Cut::find(&self.cut) }
    }

    /// With the cut of the name that was typed, where it is one cut's.
    pub fn with_its_cut(self) -> Self {
        match named(&self.cutname) {
            Named::One(cut) => Self { cut: cut.id.to_owned(), cutname: String::new(), ..self },
            _ => self,
        }
    }

    /// What is wrong with the name that was typed for the cut: several are called so, it is cooked already, or nobody knows it.
    fn read_cut_name(&self, slips: &mut Slips) {
        let typed = short(self.cutname.trim());
        let slip = match named(&self.cutname) {
            _ if typed.is_empty() => return,
            Named::One(_) => return,
            Named::Several(cuts) => Slip {
                says: format!("“{typed}” is more than one cut, here or elsewhere; which is it?"),
                choices: cuts.iter().map(|cut| cut.name.to_owned()).collect(),
            },
            Named::Cooked(why) => format!("“{typed}” cannot be planned: {why}.").into(),
            Named::Unknown => format!(
                "“{typed}” is no cut this kitchen knows by that name. Choose the one it is like from the list, by its bones, skin and size."
            )
            .into(),
        };
        slips.insert("cutname", slip);
    }

    /// With the chosen reading in its word's place; `None` where none was chosen.
    pub fn taken(&self) -> Option<Self> {
        let (word, chosen) = self.take.split_once('=')?;
        let mut taken = Self { take: String::new(), ..self.clone() };
        chosen.clone_into(taken.word_mut(word)?);
        Some(taken)
    }

    /// The state that an address of the Bench brings back; an empty Bench where it is none.
    pub fn at(address: &str) -> Self {
        let mut form = Self::default();
        let query = address.strip_prefix("/bench").and_then(|rest| rest.strip_prefix('?')).unwrap_or_default();
        for (name, typed) in form_urlencoded::parse(query.as_bytes()) {
            if let Some(word) = form.word_mut(&name) {
                typed.into_owned().clone_into(word);
            }
        }
        form
    }

    /// The piece and its meal without what belongs to a way: whatever is tried on it brings its own.
    pub fn piece_alone(&self) -> Self {
        const OF_THE_PIECE: [&str; 20] = [
            "cut", "weight", "thick", "thin", "scored", "label", "trimmed", "useby", "face", "skin", "fat", "fatmin", "bone", "serve",
            "servings", "room", "bought", "stands", "since", "hottest",
        ];
        let mut alone = Self::default();
        for word in OF_THE_PIECE {
            if let Some(place) = alone.word_mut(word) {
                self.word(word).clone_into(place);
            }
        }
        alone
    }

    /// The address that brings this state back.
    pub fn address(&self) -> String {
        let mut pairs: Vec<String> = Vec::new();
        let fields = serde_json::to_value(self).unwrap_or_default();
        for (name, value) in fields.as_object().into_iter().flatten() {
            if let Some(text) = value.as_str().filter(|t| !t.is_empty() && !matches!(name.as_str(), "key" | "knowing" | "take")) {
                pairs.push(format!("{name}={}", encode(text)));
            }
        }
        if pairs.is_empty() { "/bench".into() } else { format!("/bench?{}", pairs.join("&")) }
    }

    /// Reads every word; own salts and mixes are looked up on the shelf.
    pub fn read(&self, now: &ZonedDateTime, shelf: &Shelf) -> Said {
        let mut slips = Slips::new();
        let mut root = Map::new();
        let cut = self.cut();
        if cut.is_none() {
            slips.insert("cut", format!("“{}” is not a cut this kitchen knows. Choose one of the list.", short(&self.cut)).into());
        }
        self.read_cut_name(&mut slips);
        let (piece, weighed) = self.read_piece(cut, now, shelf.system, &mut slips);
        root.insert("piece".into(), Value::Object(piece));
        self.read_salt(cut, shelf, &mut root, &mut slips);
        self.read_also(cut, shelf, &mut root, &mut slips);
        self.read_split(cut, &mut root, &mut slips);
        self.read_times(now, shelf, &mut root, &mut slips);
        self.read_chill(shelf, &mut root, &mut slips);
        self.read_heat((shelf.heat, shelf.system), &mut root, &mut slips);
        self.read_numbers(cut, shelf.system, &mut root, &mut slips);
        root.insert("now".into(), now.to_string().into());
        Said { request: Value::Object(root), slips, weighed }
    }
}

/// A problem's sentence for beside its word.
pub fn slip(problem: &Problem, system: Option<System>) -> Slip {
    Slip { says: crate::words::sentence(&problem.sentence()), choices: problem.offers.iter().map(|offer| typed(offer, system)).collect() }
}

/// An offer as its word is typed.
fn typed(offer: &Offer, system: Option<System>) -> String {
    match offer {
        Offer::Meal(at) => say_moment(at.datetime(), system),
        Offer::QuarterHours(quarters) => crate::words::trim(f64::from(*quarters) / 4.0, 2),
    }
}

pub(super) fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

/// Percent-encodes a query value.
pub fn encode(text: &str) -> String {
    form_urlencoded::byte_serialize(text.as_bytes()).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_address_brings_its_state_back() {
        let form = BenchForm { cut: "pork-belly".into(), weight: "2.4 kg & more".into(), fire: "150 °C".into(), ..BenchForm::default() };
        assert_eq!(BenchForm::at(&form.address()), form);
        assert_eq!(BenchForm::at("/kit?cut=duck-whole"), BenchForm::default());
        assert_eq!(form.piece_alone(), BenchForm { fire: String::new(), ..form });
    }
    use serde_json::json;

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
        let said = form.read(&now(), &Shelf::default());
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
        let said = form.read(&now(), &Shelf::default());
        assert_eq!(said.slips.keys().copied().collect::<Vec<_>>(), ["bought", "dose", "serve", "servings", "thick", "weight"]);
        assert!(said.slips["thick"].says.contains("kg") && said.slips["weight"].says.contains("heavy"));
    }

    #[test]
    fn a_piece_comes_in_where_it_stands() {
        let form = BenchForm { stands: "salted".into(), since: "07:00".into(), on: "12".into(), ..Default::default() };
        let done = &form.read(&now(), &Shelf::default()).request["done"];
        assert_eq!((done[0]["kind"].as_str(), done[0]["g"].as_f64()), (Some("salt"), Some(12.0)));
        assert!(done[0]["at"].as_str().unwrap().starts_with("2026-12-10T07:00"));
    }

    #[test]
    fn the_split_is_said_in_per_cent_and_comes_back() {
        let form = |split: &str| BenchForm { cut: "pork-loin-rack".into(), split: split.into(), ..Default::default() };
        let shares = |split: &str| form(split).read(&now(), &Shelf::default()).request["salt"]["shares"].clone();
        let want = json!({"meat": 0.7, "cut": 0.1, "fat": 0.2});
        for typed in ["meat 70 %, cut 10 %, fat 20 %", "meat sides 70%; cut ends 10; fat cap 20", "Meat 70, cut 10, fat"] {
            assert_eq!(shares(typed), want, "{typed}");
        }
        let back = BenchForm::of_request(&json!({"piece": {"cut": "pork-loin-rack"}, "salt": {"shares": want}}), &now(), &Shelf::default());
        assert_eq!(shares(&back.split), want, "{}", back.split);
        for (typed, says) in [("wing 30 %", "no face of this cut"), ("meat lots", "no face"), ("meat 700 %", "no share")] {
            let slips = form(typed).read(&now(), &Shelf::default()).slips;
            assert!(slips["split"].says.contains(says), "{typed}: {}", slips["split"]);
        }
    }

    #[test]
    fn salty_things_are_read_and_nonsense_leaves_the_rest() {
        let form =
            BenchForm { also: "2 tbsp soy sauce, 3 g low-sodium soy sauce, label: 1.2 g salt per 100 g".into(), ..Default::default() };
        let said = form.read(&now(), &Shelf::default());
        assert_eq!(said.request["ledger"], json!([{"said": "2 tbsp soy sauce"}]));
        assert!((said.request["piece"]["solution"]["sodium_mg_per_100g"].as_f64().unwrap() - 472.05).abs() < 0.1);
        assert!(said.slips["also"].says.contains("low-sodium soy sauce"));
    }

    #[test]
    fn portions_may_have_their_own_thickness_and_dose() {
        let form = BenchForm {
            cut: "beef-rib-steak".into(),
            weight: "400 g + 500 g".into(),
            thick: "30 + 42 mm".into(),
            dose: "10 + 12 g/kg".into(),
            ..Default::default()
        };
        let said = form.read(&now(), &Shelf::default());
        assert!(said.slips.is_empty(), "{:?}", said.slips);
        let portions = &said.request["piece"]["portions"];
        assert_eq!((portions[1]["salt_thickness_mm"].as_f64(), portions[1]["g_per_kg"].as_f64()), (Some(42.0), Some(12.0)));
        let three = BenchForm { thick: "30 + 35 + 42 mm".into(), ..form };
        assert!(three.read(&now(), &Shelf::default()).slips["thick"].says.contains("3 values for 2 portions"));
    }

    #[test]
    fn what_the_look_over_found_is_read() {
        let form = BenchForm {
            thin: "30 mm".into(),
            scored: "lean".into(),
            label: "240 mg per 100 g".into(),
            trimmed: "2.1 kg".into(),
            useby: "12 December".into(),
            ..Default::default()
        };
        let said = form.read(&now(), &Shelf::default());
        assert!(said.slips.is_empty(), "{:?}", said.slips);
        let piece = &said.request["piece"];
        assert_eq!((piece["thin_mm"].as_f64(), piece["scored"].as_str()), (Some(30.0), Some("into-lean")));
        assert_eq!((piece["trimmed_weight_g"].as_f64(), piece["use_by"].as_str()), (Some(2100.0), Some("2026-12-12")));
        assert!((piece["solution"]["sodium_mg_per_100g"].as_f64().unwrap() - 240.0).abs() < 1e-9);
    }

    #[test]
    fn the_address_brings_the_state_back() {
        let form = BenchForm { cut: "duck-whole".into(), weight: "2 × 2.1 kg".into(), key: "secret".into(), ..Default::default() };
        assert_eq!(form.address(), "/bench?cut=duck-whole&weight=2+%C3%97+2.1+kg");
    }
}
