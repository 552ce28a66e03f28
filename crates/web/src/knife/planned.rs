//! The piece planned with what the cook says at the Knife: the same numbers that would be kept.

use super::form::{KnifeForm, Slips};
use crate::kit::Shelf;
use crate::piece::Opened;
use jiff::ZonedDateTime;
use rauchkeller_contract::{Problem, Problems, read_request, skin_value};
use rauchkeller_core::ask::{PlanRequest, SkinAsk};
use rauchkeller_core::piece::{Cut, Family};
use rauchkeller_core::plan::{Plan, make_plan};
use rauchkeller_core::skin::own_pace;
use serde_json::{Value, json};

/// What came of it.
pub struct Planned {
    /// The form, as typed or as kept before.
    pub form: KnifeForm,
    /// The request with its `skin`, as it would be kept.
    pub request: Value,
    /// The plan; `None` only where the piece itself can no longer be planned.
    pub plan: Option<Box<Plan>>,
    /// What is wrong, by field; the usual stands in for it.
    pub slips: Slips,
    /// What stands in the way of the plan but belongs to no field here.
    pub obstacle: Option<String>,
}

/// The form's field for a path of the contract.
fn field_of(path: &str) -> Option<&'static str> {
    let rest = path.strip_prefix("skin.")?;
    Some(match rest {
        "face" | "length_mm" => "long",
        "width_mm" => "wide",
        "corner_mm" => "corner",
        "narrow_mm" => "narrow",
        "parts" => "parts",
        "work" => "work",
        "spacing_mm" => "spacing",
        "direction_deg" => "direction",
        "per_cm2" => "density",
        "edge_mm" => "edge",
        "margin_mm" => "keep",
        "depth_mm" => "deep",
        "meat.spacing_mm" => "meat_spacing",
        "meat.depth_mm" => "meat_depth",
        "meat.beyond_mm" => "beyond",
        _ if rest.starts_with("avoid") => "avoid",
        _ if rest.starts_with("fat.left") => "fat_left",
        _ if rest.starts_with("fat.near") => "fat_near",
        _ if rest.starts_with("fat.far") => "fat_far",
        _ if rest.starts_with("fat.right") => "fat_right",
        _ if rest.starts_with("tool") => "tool",
        _ => "shape",
    })
}

/// Whether a cap of fat without skin lies over it, thick enough to be scored.
fn has_cap(opened: &Opened) -> bool {
    let request = &opened.plan.request;
    let steak = Cut::find(&request.cut).is_some_and(|cut| cut.family == Family::Steak);
    request.skin_mm <= 0.0 && request.fat_min_mm >= 3.0 && !steak
}

/// What the method says of knife and pick; of a piece that came scored its cover is not opened again.
fn of_the_method(kept: Option<&PlanRequest>, opens: bool) -> Value {
    let Some(ask) = kept.and_then(|request| request.the_method().says.knife.clone()) else { return Value::Null };
    skin_value(&SkinAsk { cover: ask.cover.filter(|_| opens), ..ask })
}

/// What was kept, over what the method says; its way of opening the cover goes with its numbers.
fn over(own: &Value, kept: &Value) -> Value {
    let mut all = own.as_object().cloned().unwrap_or_default();
    let Some(kept) = kept.as_object() else { return Value::Object(all) };
    if kept.contains_key("work") {
        for key in ["work", "per_cm2", "lattice", "spacing_mm", "direction_deg"] {
            all.remove(key);
        }
    }
    all.extend(kept.clone());
    Value::Object(all)
}

/// Takes the key out that a problem is about, so that the usual stands in.
fn without(skin: &mut Value, path: &str) {
    let rest = path.strip_prefix("skin.").unwrap_or(path);
    let (first, second) = rest.split_once('.').unwrap_or((rest, ""));
    let first = first.split('[').next().unwrap_or(first);
    match (first, second) {
        ("face", _) => ["length_mm", "width_mm", "corner_mm", "narrow_mm", "shape"].iter().for_each(|key| remove(skin, key)),
        ("meat", inner) if !inner.is_empty() => remove(&mut skin["meat"], inner),
        (key, _) => remove(skin, key),
    }
}

fn remove(from: &mut Value, key: &str) {
    if let Some(object) = from.as_object_mut() {
        object.remove(key);
    }
}

impl Planned {
    /// Plans the piece with the words of the form, or, where it says nothing, with what was kept.
    pub fn of(opened: &Opened, form: KnifeForm, shelf: &Shelf) -> Self {
        let kept: Value = serde_json::from_str(&opened.piece.request).unwrap_or_default();
        let mut request = rauchkeller_contract::as_said(&kept);
        let own = of_the_method(opened.run.request.as_ref(), request["scored"].is_null());
        let form = if form.says_nothing() && (request["skin"].is_object() || own.is_object()) {
            KnifeForm { side: form.side, zoom: form.zoom, ..KnifeForm::of_kept(&over(&own, &request["skin"])) }
        } else if form.work.is_empty() && has_cap(opened) {
            // TRADE 7.3: crosshatch the fat only, or leave it whole; 15–25 mm.
            let spacing = if form.spacing.is_empty() { "20 mm".into() } else { form.spacing };
            KnifeForm { work: "crosshatch".into(), spacing, ..form }
        } else {
            form
        };
        let (mut skin, mut slips) = form.read(shelf, opened.plan.request.skin_mm);
        // Left whole where the method cuts is something said.
        if form.meat == "whole" && own["meat"].is_object() {
            skin["meat"] = json!({"kind": "whole"});
        }
        let now: Option<ZonedDateTime> = opened.plan.request.now.parse().ok();
        let Some(now) = now else {
            let obstacle = Some("This piece was kept without its time and cannot be planned anew.".to_owned());
            return Self { form, request, plan: None, slips, obstacle };
        };
        // Every problem takes one key out; when none is left the piece stands as it was kept.
        for _ in 0..24 {
            request["skin"] = skin.clone();
            match plan_of(&request, &now) {
                Ok(plan) => return Self { form, request, plan: Some(Box::new(plan)), slips, obstacle: None },
                Err(problems) => {
                    let mut taken = false;
                    for problem in &problems.problems {
                        if let Some(field) = field_of(&problem.field) {
                            slips.entry(field).or_insert_with(|| crate::words::sentence(&problem.sentence()));
                            without(&mut skin, &problem.field);
                            taken = true;
                        }
                    }
                    if !taken {
                        return Self { form, request, plan: None, slips, obstacle: problems.problems.first().map(Problem::sentence) };
                    }
                }
            }
        }
        Self { form, request, plan: None, slips, obstacle: Some("These measures do not go together.".into()) }
    }

    /// The same at the cook's own pace with the tool: (amount, minutes) of earlier stretches.
    #[must_use]
    pub fn at_own_pace(mut self, runs: &[(f64, f64)]) -> Self {
        let usual = self.plan.as_ref().and_then(|p| p.skin.as_ref()).map(|s| s.ask.tool.per_min);
        let Some(usual) = usual.filter(|_| !runs.is_empty()) else { return self };
        let now: Option<ZonedDateTime> = self.plan.as_ref().map(|p| p.request.now.clone());
        self.request["skin"]["own_pace_per_min"] = own_pace(usual, runs).into();
        if let Some(Ok(plan)) = now.map(|now| plan_of(&self.request, &now)) {
            self.plan = Some(Box::new(plan));
        }
        self
    }
}

fn plan_of(request: &Value, now: &ZonedDateTime) -> Result<Plan, Problems> {
    let read: PlanRequest = read_request(request, now)?;
    make_plan(&read).map_err(Problems::from)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;

    fn planned(pairs: &[(&str, &str)]) -> Planned {
        let object: serde_json::Map<String, Value> = pairs.iter().map(|(k, v)| ((*k).to_owned(), (*v).into())).collect();
        Planned::of(&opened(&[]), serde_json::from_value(Value::Object(object)).unwrap(), &Shelf::default())
    }

    #[test]
    fn what_the_plan_refuses_is_said_at_its_word_and_the_usual_stands_in() {
        let slipped = planned(&[
            ("work", "parallel"),
            ("spacing", "0.3 mm"),
            ("edge", "90 mm"),
            ("keep", "9 mm"),
            ("long", "5 m"),
            ("meat", "grooves"),
            ("meat_depth", "40 mm"),
        ]);
        assert_eq!(slipped.slips.keys().copied().collect::<Vec<_>>(), ["edge", "keep", "long", "meat_depth", "spacing"]);
        assert!(
            slipped.slips["spacing"].contains("1 and 100 mm") && !slipped.slips["spacing"].contains("allowed is between 1 and 100 mm is"),
            "{}",
            slipped.slips["spacing"]
        );
        let skin = slipped.plan.unwrap().skin.unwrap();
        // The example belly is 190 mm wide: ⌊180/8⌋ + 1 = 23 strokes at the usual 8 mm.
        assert_eq!(skin.work.scoring.unwrap().strokes.len(), 23);
        assert!(skin.work.meat.is_some());
    }

    #[test]
    fn a_measured_pace_changes_the_minutes() {
        let usual = planned(&[("tool", "pick")]);
        let minutes = |p: &Planned| {
            use rauchkeller_core::units::TimeIn;
            p.plan.as_ref().unwrap().skin.as_ref().unwrap().work.takes().in_min()
        };
        let before = minutes(&usual);
        // By hand: 900 usual presses in 5 min and 900 measured in 10: 120 a minute instead of 180, half as long again.
        let slow = usual.at_own_pace(&[(900.0, 10.0)]);
        assert!((minutes(&slow) / before - 1.5).abs() < 1e-6);
    }
}
