//! The words about the heat: what gives it, its stages, where it ends, the rest.

use super::{BenchForm, Slip, Slips};
use crate::words::trim;
use rauchkeller_contract::{appliances_of, appliances_value, finish_value, fire_of, stage_value, stages_value, tasks_of, tasks_value};
use rauchkeller_core::ask::{HeatSlip, read_finish, read_heat, read_stages, read_tasks, say_finish, say_stages, say_tasks};
use rauchkeller_core::clock::read_span;
use rauchkeller_core::fire::{HeatSource, Hottest};
use rauchkeller_core::units::{System, TemperatureIn, TimeIn};
use serde_json::{Map, Value, json};

impl From<HeatSlip> for Slip {
    fn from(slip: HeatSlip) -> Self {
        let says = if slip.says.ends_with(['?', '.']) { slip.says } else { format!("{}.", slip.says) };
        Self { says: crate::words::sentence(&says), choices: slip.choices }
    }
}

impl BenchForm {
    pub(super) fn read_heat(&self, (own, system): (Hottest, Option<System>), root: &mut Map<String, Value>, slips: &mut Slips) {
        let mut fire = Map::new();
        let mut take = |name: &'static str, word: &'static str, read: Result<Value, Slip>| match read {
            Ok(value) => drop(fire.insert(name.to_owned(), value)),
            Err(slip) => drop(slips.insert(word, slip)),
        };
        if !self.with.is_empty() {
            take("with", "with", Ok(self.with.as_str().into()));
        }
        if !self.fire.trim().is_empty() {
            take("stages", "fire", read_stages(&self.fire, system).map(|stages| stages_value(&stages)).map_err(Slip::from));
        }
        if !self.second.trim().is_empty() {
            take("again", "second", read_second(&self.second, system));
        }
        if !self.finish.trim().is_empty() {
            take("finish", "finish", read_finish(&self.finish, system).map(finish_value).map_err(Slip::from));
        }
        if !self.resting.is_empty() {
            take("rest", "resting", Ok(self.resting.as_str().into()));
        }
        if !self.hold.trim().is_empty() {
            let no = || Slip::from(format!("“{}” is no time to wait; write it like 2 h, or 1 to 3 h.", super::short(&self.hold)));
            take("hold_h", "hold", read_hold(&self.hold).ok_or_else(no));
        }
        let mut known = own;
        if !self.hottest.trim().is_empty() {
            match read_heat(&self.hottest, system) {
                Ok(most) => known = known.instead(HeatSource::find(&self.with).unwrap_or_default(), most),
                Err(slip) => drop(slips.insert("hottest", slip.into())),
            }
        }
        if known != Hottest::default() {
            let kitchen = root.entry("kitchen").or_insert_with(|| json!({}));
            kitchen["heat"] = appliances_value(known);
        }
        if !self.tasks.trim().is_empty() {
            match read_tasks(&self.tasks, system) {
                Ok(tasks) => drop(root.insert("tasks".into(), tasks_value(&tasks))),
                Err(says) => drop(slips.insert("tasks", Slip::from(format!("{says}.")))),
            }
        }
        if !fire.is_empty() {
            root.insert("fire".into(), Value::Object(fire));
        }
    }

    /// Writes the heat of a request back into its words; its plain numbers go with all others.
    pub(super) fn write_heat(&mut self, said: &Value) {
        let fire = fire_of(said);
        let with = fire.with.unwrap_or_default();
        self.hottest = appliances_of(said).said(with).map_or_else(String::new, |most| format!("{} °C", trim(most.in_c(), 1)));
        self.with = fire.with.map(|with| with.id().to_owned()).unwrap_or_default();
        self.fire = fire.stages.map(|stages| say_stages(&stages)).unwrap_or_default();
        self.second = fire.again.map(|stage| say_stages(&[stage])).unwrap_or_default();
        self.finish = fire.finish.map(say_finish).unwrap_or_default();
        self.resting = fire.resting.map(|rest| rest.id().to_owned()).unwrap_or_default();
        self.tasks = say_tasks(&tasks_of(said));
        self.hold = fire.hold.map_or_else(String::new, |(least, most)| format!("{} to {} h", trim(least.in_h(), 2), trim(most.in_h(), 2)));
    }
}

/// `150 °C covered until 74 °C`: one stage.
fn read_second(typed: &str, system: Option<System>) -> Result<Value, Slip> {
    let stages = read_stages(typed, system).map_err(Slip::from)?;
    let [stage] = stages.as_slice() else {
        let says = format!("“{}” is more than one stage; write one, like 150 °C covered until 74 °C.", super::short(typed));
        return Err(Slip::from(says));
    };
    Ok(stage_value(stage))
}

/// `2 h`: so long at most; `1 to 3 h`, `30 min to 2 h`: between the two.
fn read_hold(typed: &str) -> Option<Value> {
    let hours = |text: &str| {
        let bare = text.trim().replace(',', ".").parse::<f64>().ok().filter(|h| *h >= 0.0);
        bare.or_else(|| read_span(text).map(TimeIn::in_h))
    };
    let text = typed.trim().to_lowercase().replace('–', " to ");
    let (least, most) = match text.split_once(" to ") {
        Some((least, most)) => (hours(least)?, hours(most)?),
        None => (0.0, hours(&text)?),
    };
    Some(json!([least, most]))
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_core::units::celsius;

    fn read(form: &BenchForm) -> (Value, Slips) {
        let (mut root, mut slips) = (Map::new(), Slips::new());
        form.read_heat((Hottest::default(), None), &mut root, &mut slips);
        (Value::Object(root), slips)
    }

    #[test]
    fn a_heat_is_said_in_words_and_comes_back_in_words() {
        let form = BenchForm {
            with: "charcoal".into(),
            fire: "pan high until browned, turned every 4 min, then in liquid 160 °C until tender".into(),
            finish: "well done".into(),
            resting: "tented".into(),
            hold: "1 to 3 h".into(),
            hottest: "500 °F".into(),
            tasks: "turn after 12 h, glaze, carve 0 min, no standing out".into(),
            ..BenchForm::default()
        };
        let (root, slips) = read(&form);
        assert!(slips.is_empty(), "{slips:?}");
        assert_eq!(
            root["fire"]["stages"][0],
            json!({"with": "pan", "air_c": "high", "how": "open", "until": {"look": "browned"}, "flip_min": 4.0})
        );
        assert_eq!((&root["fire"]["finish"], &root["fire"]["hold_h"]), (&json!({"style": "well-done"}), &json!([1.0, 3.0])));
        assert_eq!(
            root["tasks"],
            json!([{"task": "turn", "at_h": 12.0}, {"task": "glaze"}, {"task": "carve", "minutes": 0.0}, {"task": "temper", "leave_out": true}])
        );
        // 500 °F is 260 °C.
        assert_eq!(root["kitchen"]["heat"], json!([{"id": "charcoal", "with": "charcoal", "max_c": 260.0}]));
        let mut back = BenchForm::default();
        back.write_heat(&root);
        assert_eq!(read(&back).0, root, "{}", back.fire);
    }

    #[test]
    fn what_hangs_in_the_kit_goes_along_and_the_sentence_beats_it() {
        let own = Hottest::default().with(HeatSource::Oven, celsius(230.0)).with(HeatSource::Smoker, celsius(140.0));
        let heat = |form: BenchForm| {
            let mut root = Map::new();
            form.read_heat((own, None), &mut root, &mut Slips::new());
            root["kitchen"]["heat"].clone()
        };
        let kit = json!([{"id": "oven", "with": "oven", "max_c": 230.0}, {"id": "smoker", "with": "smoker", "max_c": 140.0}]);
        assert_eq!(heat(BenchForm::default()), kit);
        let lower = heat(BenchForm { hottest: "200 °C".into(), ..BenchForm::default() });
        assert_eq!((&lower[0]["max_c"], &lower[1]["max_c"]), (&json!(200.0), &json!(140.0)));
    }

    #[test]
    fn nothing_said_of_the_heat_says_nothing() {
        assert_eq!(read(&BenchForm::default()), (json!({}), Slips::new()));
        let mut back = BenchForm { fire: "160 °C".into(), ..BenchForm::default() };
        back.write_heat(&json!({}));
        assert_eq!(back, BenchForm::default());
    }

    #[test]
    fn what_cannot_be_read_is_said_at_its_word() {
        let form = BenchForm {
            fire: "lava 10 min".into(),
            finish: "blue".into(),
            hold: "a while".into(),
            tasks: "dance".into(),
            ..BenchForm::default()
        };
        let (root, slips) = read(&form);
        assert_eq!(root, json!({}));
        assert!(
            slips["fire"].says.contains("lava")
                && slips["finish"].says.contains("blue")
                && slips["hold"].says.contains("a while")
                && slips["tasks"].says.contains("dance"),
            "{slips:?}"
        );
        // Two ways to mean it stand as buttons, each in the place of all that was typed.
        let bare = read(&BenchForm { fire: "200 until done".into(), ..BenchForm::default() }).1;
        assert_eq!(bare["fire"].choices, ["200 C until done", "200 F until done"]);
    }

    #[test]
    fn how_long_it_may_wait() {
        for (typed, want) in
            [("2 h", json!([0.0, 2.0])), ("2", json!([0.0, 2.0])), ("30 min to 2 h", json!([0.5, 2.0])), ("1–3 h", json!([1.0, 3.0]))]
        {
            assert_eq!(read_hold(typed), Some(want), "{typed}");
        }
        assert!(read_hold("soon").is_none() && read_hold("-1").is_none());
    }
}
