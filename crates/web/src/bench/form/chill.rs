//! The words about the refrigerator: how it lies, whose hours, and until what.

use super::{BenchForm, Slips, short};
use crate::kit::Shelf;
use jiff::civil::Time;
use rauchkeller_core::ask::Thawing;
use rauchkeller_core::clock::Quiet;
use rauchkeller_core::units::{LengthIn, parse_length};
use serde_json::{Map, Value, json};

impl BenchForm {
    pub(super) fn read_chill(&self, shelf: &Shelf, root: &mut Map<String, Value>, slips: &mut Slips) {
        if !self.lies.is_empty() {
            root.insert("lies".into(), self.lies.as_str().into());
        }
        let thaw = match self.stands.as_str() {
            "frozen-water" => Some(Thawing::Water),
            "frozen-salted" => Some(Thawing::Salted),
            _ => None,
        };
        if let Some(thaw) = thaw {
            root.insert("thaw".into(), thaw.id().into());
        }
        if !self.by.is_empty() {
            root.insert("hours_from".into(), self.by.as_str().into());
        }
        if !self.goal.trim().is_empty() {
            if let Some(goal) = read_goal(&self.goal) {
                root.insert("goal".into(), goal);
            } else {
                let typed = short(&self.goal);
                let says =
                    format!("“{typed}” is no goal; write a depth like 12 mm, or 50 % even, outer 5 mm down to 20 g/kg, skin 95 % dry.");
                slips.insert("goal", says.into());
            }
        }
        if let Some(kitchen) = kitchen(shelf) {
            root.insert("kitchen".into(), kitchen);
        }
    }
}

/// The household's own night, and its refrigerator as far as anybody has said or weighed anything.
fn kitchen(shelf: &Shelf) -> Option<Value> {
    let fridge = &shelf.fridge;
    let mut said = Map::new();
    if let Some(quiet) = shelf.quiet {
        let wall = |time: Time| time.strftime("%H:%M").to_string();
        let hours = if quiet == Quiet::NONE { vec![] } else { vec![wall(quiet.from), wall(quiet.to)] };
        said.insert("quiet".into(), json!(hours));
    }
    if fridge.version > 0 {
        said.insert("fridge_c".into(), json!(fridge.air_c));
    }
    if let Some(rh) = fridge.rh {
        said.insert("fridge_rh".into(), json!(rh));
    }
    if let Some(h) = fridge.fit_h {
        said.insert("fridge_h_w_m2k".into(), json!(h.clamp(0.5, 40.0)));
    }
    (!said.is_empty()).then_some(Value::Object(said))
}

/// `12 mm`, `½ in deep`, `0.5 even`, `evenness 50 %`, `rim 20 g/kg`, `skin 0.95 dry`.
fn read_goal(typed: &str) -> Option<Value> {
    let text = typed.trim().to_lowercase().replace(',', ".");
    let number = || {
        let digits: String =
            text.chars().skip_while(|c| !c.is_ascii_digit() && *c != '.').take_while(|c| c.is_ascii_digit() || *c == '.').collect();
        digits.parse::<f64>().ok()
    };
    let share = || number().map(|x| if text.contains('%') { x / 100.0 } else { x });
    if text.contains("even") {
        return Some(json!({"evenness": share()?}));
    }
    if text.contains("dry") || text.contains("skin") {
        return Some(json!({"skin_dryness": share()?}));
    }
    if text.contains("rim") || text.contains("g/kg") {
        // “outer 5 mm down to 20 g/kg”: the figure is the last one.
        let last = |text: &str| text.split(|c: char| !c.is_ascii_digit() && c != '.').filter_map(|n| n.parse::<f64>().ok()).next_back();
        return Some(json!({"rim_g_per_kg": last(&text)?}));
    }
    let bare = text.trim_end_matches("deep").trim();
    parse_length(bare).ok().map(|depth| json!({"depth_mm": depth.in_mm()}))
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_store::Refrigerator;

    #[test]
    fn goals_as_cooks_say_them() {
        for (typed, field, value) in [
            ("12 mm", "depth_mm", 12.0),
            ("½ in deep", "depth_mm", 12.7),
            ("0,5 even", "evenness", 0.5),
            ("evenness 50 %", "evenness", 0.5),
            ("rim 20", "rim_g_per_kg", 20.0),
            ("25 g/kg", "rim_g_per_kg", 25.0),
            ("outer 5 mm down to 20 g/kg", "rim_g_per_kg", 20.0),
            ("50 % even", "evenness", 0.5),
            ("skin 0.9 dry", "skin_dryness", 0.9),
        ] {
            let goal = read_goal(typed).unwrap_or_else(|| panic!("{typed}"));
            assert!((goal[field].as_f64().unwrap() - value).abs() < 1e-6, "{typed}: {goal}");
        }
        assert!(read_goal("salty").is_none() && read_goal("even").is_none() && read_goal("12 kg").is_none());
    }

    #[test]
    fn what_nobody_said_is_left_to_the_plan() {
        assert!(kitchen(&Shelf::default()).is_none());
        let learned = Shelf { fridge: Refrigerator { fit_h: Some(7.2), fit_points: 4, ..Refrigerator::default() }, ..Shelf::default() };
        assert_eq!(kitchen(&learned), Some(json!({"fridge_h_w_m2k": 7.2})));
        let typed = Shelf { fridge: Refrigerator { air_c: 3.0, rh: Some(0.6), version: 1, ..Refrigerator::default() }, ..Shelf::default() };
        assert_eq!(kitchen(&typed), Some(json!({"fridge_c": 3.0, "fridge_rh": 0.6})));
        let night = Shelf { quiet: Quiet::read("21:15-08:00"), ..Shelf::default() };
        assert_eq!(kitchen(&night), Some(json!({"quiet": ["21:15", "08:00"]})));
        let none = Shelf { quiet: Some(Quiet::NONE), ..Shelf::default() };
        assert_eq!(kitchen(&none), Some(json!({"quiet": []})));
    }
}
