//! What is to be done with knife and pick, as typed, and as the contract takes it.

use super::avoid::{moved, read_avoid, write_avoid};
use crate::bench::encode;
use crate::kit::Shelf;
use rauchkeller_core::units::{Expect, LengthIn, System, parse_length, read_length};
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;

/// The words of the station, as typed; empty means: as usual.
#[derive(Debug, Clone, Default, PartialEq, Deserialize, Serialize)]
#[serde(default)]
pub struct KnifeForm {
    /// Shape of the face.
    pub shape: String,
    pub long: String,
    pub wide: String,
    pub corner: String,
    pub narrow: String,
    /// Bones or strips.
    pub parts: String,
    /// `string 150; place 40 110 12`.
    pub avoid: String,
    /// `whole`, `pierce`, `parallel`, `crosshatch` or `diamond`.
    pub work: String,
    pub spacing: String,
    /// `along`, `across` or degrees.
    pub direction: String,
    /// Kept from the edges.
    pub edge: String,
    pub density: String,
    /// `square` or `hexagonal`.
    pub lattice: String,
    pub tool: String,
    /// A depth of the cook's own.
    pub deep: String,
    /// Kept from the lean.
    pub keep: String,
    /// Skin and fat at the left end, like `2.5 + 9`; a bare number is the fat.
    pub fat_left: String,
    pub fat_near: String,
    pub fat_far: String,
    pub fat_right: String,
    /// `whole`, `grooves` or `lattice`.
    pub meat: String,
    pub meat_spacing: String,
    pub meat_depth: String,
    pub beyond: String,
    /// Which side is looked at: `skin` or `meat`.
    pub side: String,
    /// `1`, `2` or `4`.
    pub zoom: String,
    /// A string or place that a hand has moved, as `avoid::moved` reads it: no state of its own.
    #[serde(skip_serializing)]
    pub moved: String,
}

/// What is wrong, by field.
pub type Slips = BTreeMap<&'static str, String>;

/// Fields that say only how the picture is looked at.
const LOOKS: [&str; 2] = ["side", "zoom"];

impl KnifeForm {
    /// The address that brings this state back.
    pub fn address(&self, piece: &str) -> String {
        let query = self.query();
        let path = format!("/pieces/{piece}/knife");
        if query.is_empty() { path } else { format!("{path}?{query}") }
    }

    /// Only what was said, as a query.
    pub fn query(&self) -> String {
        let fields = serde_json::to_value(self).unwrap_or_default();
        let said = fields.as_object().into_iter().flatten().filter_map(|(name, value)| {
            let text = value.as_str().filter(|t| !t.is_empty())?;
            Some(format!("{name}={}", encode(text)))
        });
        said.collect::<Vec<_>>().join("&")
    }

    /// The words with what a hand has moved.
    pub fn after_the_hand(mut self) -> Self {
        self.avoid = moved(&self.avoid, &self.moved);
        self
    }

    /// Whether nothing was said about the work itself.
    pub fn says_nothing(&self) -> bool {
        let fields = serde_json::to_value(self).unwrap_or_default();
        fields.as_object().is_none_or(|all| all.iter().all(|(name, v)| LOOKS.contains(&name.as_str()) || v.as_str() == Some("")))
    }

    /// The same words from what was kept with a piece, so that the station opens where it was left.
    pub fn of_kept(skin: &Value) -> Self {
        let text = |value: &Value| match value {
            Value::String(text) => text.clone(),
            Value::Number(n) => crate::words::trim(n.as_f64().unwrap_or_default(), 3),
            _ => String::new(),
        };
        let mm = |value: &Value| value.as_f64().map_or_else(String::new, |mm| format!("{} mm", crate::words::trim(mm, 3)));
        let spot = |name: &str| {
            let at = &skin["fat"][name];
            if at.is_null() { String::new() } else { format!("{} + {} mm", text(&at["skin_mm"]), text(&at["fat_mm"])) }
        };
        let meat = &skin["meat"];
        Self {
            shape: text(&skin["shape"]),
            long: mm(&skin["length_mm"]),
            wide: mm(&skin["width_mm"]),
            corner: mm(&skin["corner_mm"]),
            narrow: mm(&skin["narrow_mm"]),
            parts: text(&skin["parts"]),
            avoid: write_avoid(&skin["avoid"]),
            work: text(&skin["work"]),
            spacing: mm(&skin["spacing_mm"]),
            direction: match skin["direction_deg"].as_f64() {
                Some(0.0) | None => String::new(),
                Some(90.0) => "across".into(),
                Some(degrees) => crate::words::trim(degrees, 3),
            },
            edge: mm(&skin["edge_mm"]),
            density: text(&skin["per_cm2"]),
            lattice: text(&skin["lattice"]),
            tool: if skin["tool"].is_object() { text(&skin["tool"]["id"]) } else { text(&skin["tool"]) },
            deep: mm(&skin["depth_mm"]),
            keep: mm(&skin["margin_mm"]),
            fat_left: spot("left"),
            fat_near: spot("near"),
            fat_far: spot("far"),
            fat_right: spot("right"),
            meat: text(&meat["kind"]),
            meat_spacing: mm(&meat["spacing_mm"]),
            meat_depth: mm(&meat["depth_mm"]),
            beyond: mm(&meat["beyond_mm"]),
            side: String::new(),
            zoom: String::new(),
            moved: String::new(),
        }
    }

    /// As the contract takes it, with whatever could not be read. `usual_skin` stands where only fat was measured.
    pub fn read(&self, shelf: &Shelf, usual_skin: f64) -> (Value, Slips) {
        let mut slips = Slips::new();
        let mut skin = Map::new();
        for (field, to, typed) in [
            ("long", "length_mm", &self.long),
            ("wide", "width_mm", &self.wide),
            ("corner", "corner_mm", &self.corner),
            ("narrow", "narrow_mm", &self.narrow),
            ("edge", "edge_mm", &self.edge),
            ("keep", "margin_mm", &self.keep),
            ("deep", "depth_mm", &self.deep),
            ("spacing", "spacing_mm", &self.spacing),
        ] {
            if let Some(mm) = length(field, typed, (shelf.system, &mut slips)) {
                skin.insert(to.into(), mm.into());
            }
        }
        for (to, chosen) in [("shape", &self.shape), ("work", &self.work), ("lattice", &self.lattice)] {
            if !chosen.is_empty() {
                skin.insert(to.into(), chosen.as_str().into());
            }
        }
        if let Some(n) = number("parts", &self.parts, "bones or strips; 2 to 16 are allowed", &mut slips) {
            skin.insert("parts".into(), n.into());
        }
        let holes = self.density.trim().trim_end_matches("/cm²").trim_end_matches("/cm2");
        let says = "holes a square centimetre; between 0.25 and 25 are allowed: 4 are sparse, 8 good, 15 thorough";
        if let Some(n) = number("density", holes, says, &mut slips) {
            skin.insert("per_cm2".into(), n.into());
        }
        if let Some(degrees) = self.read_direction(&mut slips) {
            skin.insert("direction_deg".into(), degrees.into());
        }
        match read_avoid(&self.avoid) {
            Ok(places) if !places.is_empty() => drop(skin.insert("avoid".into(), places.into())),
            Ok(_) => {}
            Err(slip) => drop(slips.insert("avoid", slip)),
        }
        match shelf.tool_json(&self.tool) {
            Some(tool) => drop(skin.insert("tool".into(), tool)),
            None if self.tool.is_empty() => {}
            None => drop(slips.insert(
                "tool",
                "That tool no longer hangs in your Kit; the usual one stands in for it. Choose another, or put it back there.".into(),
            )),
        }
        self.read_fat((usual_skin, shelf.system), &mut skin, &mut slips);
        self.read_meat(shelf.system, &mut skin, &mut slips);
        (Value::Object(skin), slips)
    }

    fn read_direction(&self, slips: &mut Slips) -> Option<f64> {
        match self.direction.trim().to_lowercase().as_str() {
            // The grain runs along the piece, and carving goes across the grain (our estimate).
            "" | "along" | "along the grain" | "with the grain" => None,
            "across" | "across the grain" | "as carved" | "as it is carved" => Some(90.0),
            typed => {
                let bare = typed.trim_end_matches('°').trim_end_matches("degrees").trim().replace(',', ".");
                let degrees = bare.parse().ok().filter(|d: &f64| (-180.0..=180.0).contains(d));
                if degrees.is_none() {
                    let typed: String = typed.chars().take(40).collect();
                    slips.insert("direction", format!("“{typed}” is no direction; write along (with the grain), across (as it is carved), or degrees from −180 to 180."));
                }
                degrees
            }
        }
    }

    /// All four places, or none: a zone of guesses is no zone.
    fn read_fat(&self, (usual_skin, system): (f64, Option<System>), skin: &mut Map<String, Value>, slips: &mut Slips) {
        let places = [
            ("left", "fat_left", &self.fat_left),
            ("near", "fat_near", &self.fat_near),
            ("far", "fat_far", &self.fat_far),
            ("right", "fat_right", &self.fat_right),
        ];
        if places.iter().all(|(_, _, typed)| typed.trim().is_empty()) {
            return;
        }
        let mut map = Map::new();
        for (name, field, typed) in places {
            if typed.trim().is_empty() {
                slips.insert(field, "Not measured here yet: all four places, or none. Write skin + fat, like 2.5 + 8 mm.".into());
                continue;
            }
            let (over, under) = typed.split_once('+').unwrap_or(("", typed));
            let over = if over.trim().is_empty() { Some(usual_skin) } else { length(field, over, (system, slips)) };
            if let (Some(over), Some(under)) = (over, length(field, under, (system, slips))) {
                map.insert(name.into(), json!({"skin_mm": over, "fat_mm": under}));
            }
        }
        if map.len() == 4 {
            skin.insert("fat".into(), map.into());
        }
    }

    fn read_meat(&self, system: Option<System>, skin: &mut Map<String, Value>, slips: &mut Slips) {
        if self.meat.is_empty() || self.meat == "whole" {
            return;
        }
        let mut meat = Map::from_iter([("kind".to_owned(), Value::from(self.meat.as_str()))]);
        if let Some(mm) = length("meat_spacing", &self.meat_spacing, (system, slips)) {
            meat.insert("spacing_mm".into(), mm.into());
        }
        let (field, to, typed) =
            if self.meat == "grooves" { ("meat_depth", "depth_mm", &self.meat_depth) } else { ("beyond", "beyond_mm", &self.beyond) };
        if let Some(mm) = length(field, typed, (system, slips)) {
            meat.insert(to.into(), mm.into());
        }
        skin.insert("meat".into(), meat.into());
    }
}

/// What a ruler has to do with at this station, mm: a bare number of inches beyond it is millimetres.
const SIDES: (f64, f64) = (60.0, 900.0);
const DEPTHS: (f64, f64) = (0.3, 60.0);

/// A bare number is millimetres; in a kitchen of inches it is inches, as far as that makes sense.
fn length(field: &'static str, typed: &str, (system, slips): (Option<System>, &mut Slips)) -> Option<f64> {
    let typed = typed.trim();
    if typed.is_empty() {
        return None;
    }
    let bare: Option<f64> = typed.replace(',', ".").parse().ok();
    let inches = system == Some(System::Customary);
    if let Some(mm) = bare.filter(|mm| mm.is_finite() && *mm >= 0.0 && (!inches || *mm == 0.0)) {
        return Some(mm);
    }
    let (low, high) = if matches!(field, "long" | "wide") { SIDES } else { DEPTHS };
    let read = if inches { read_length(typed, &Expect::between(low, high).by(system)) } else { parse_length(typed) };
    match read {
        // A nanometre is below any cook and above the sums of binary numbers.
        Ok(length) => Some((length.in_mm() * 1e6).round() / 1e6),
        Err(error) => {
            slips.insert(field, crate::words::full_stop(&error));
            None
        }
    }
}

fn number(field: &'static str, typed: &str, says: &str, slips: &mut Slips) -> Option<f64> {
    let bare = typed.trim().replace(',', ".");
    if bare.is_empty() {
        return None;
    }
    let read = bare.parse().ok().filter(|n: &f64| n.is_finite());
    if read.is_none() {
        let typed: String = typed.trim().chars().take(40).collect();
        slips.insert(field, format!("“{typed}” {says}."));
    }
    read
}

#[cfg(test)]
mod tests {
    use super::*;

    fn form(pairs: &[(&str, &str)]) -> KnifeForm {
        let object: Map<String, Value> = pairs.iter().map(|(k, v)| ((*k).to_owned(), (*v).into())).collect();
        serde_json::from_value(Value::Object(object)).unwrap()
    }

    #[test]
    fn words_become_the_contract_and_come_back() {
        let said = form(&[
            ("shape", "taper"),
            ("long", "30 cm"),
            ("narrow", "5 in"),
            ("work", "diamond"),
            ("spacing", "10"),
            ("direction", "across"),
            ("edge", "3 mm"),
            ("tool", "scalpel"),
            ("deep", "6 mm"),
            ("fat_left", "2 + 9"),
            ("fat_near", "8"),
            ("fat_far", "8 mm"),
            ("fat_right", "2+5 mm"),
            ("meat", "grooves"),
            ("meat_depth", "6 mm"),
            ("avoid", "string 150; place 40 x 110, 12 mm"),
        ]);
        let (skin, slips) = said.read(&Shelf::default(), 2.5);
        assert!(slips.is_empty(), "{slips:?}");
        assert_eq!((skin["length_mm"].as_f64(), skin["narrow_mm"].as_f64()), (Some(300.0), Some(127.0)));
        assert_eq!(skin["fat"]["near"], json!({"skin_mm": 2.5, "fat_mm": 8.0}));
        assert_eq!(skin["avoid"], json!([{"tie_mm": 150.0}, {"x_mm": 40.0, "y_mm": 110.0, "radius_mm": 12.0}]));
        let back = KnifeForm::of_kept(&skin);
        assert_eq!(back.read(&Shelf::default(), 2.5).0, skin, "kept and opened again it says the same");
        let degrees = |typed: &str| form(&[("direction", typed)]).read(&Shelf::default(), 2.5).0["direction_deg"].as_f64();
        assert_eq!([degrees("with the grain"), degrees("as carved"), degrees("-30°")], [None, Some(90.0), Some(-30.0)]);
        assert!(!said.says_nothing() && form(&[("side", "meat"), ("zoom", "2")]).says_nothing());
    }

    #[test]
    fn what_cannot_be_read_is_named_and_the_rest_stands() {
        let said = form(&[
            ("spacing", "8 kg"),
            ("direction", "north"),
            ("density", "many"),
            ("parts", "a few"),
            ("fat_left", "9"),
            ("avoid", "around there"),
            ("wide", "220"),
        ]);
        let (skin, slips) = said.read(&Shelf::default(), 2.5);
        assert_eq!(
            slips.keys().copied().collect::<Vec<_>>(),
            ["avoid", "density", "direction", "fat_far", "fat_near", "fat_right", "parts", "spacing"]
        );
        assert_eq!(skin, json!({"width_mm": 220.0}));
    }
}
