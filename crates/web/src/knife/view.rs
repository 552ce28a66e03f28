//! What the Knife station shows.

use super::form::{Done, KnifeForm, Slips};
use crate::draw::{FaceSize, draw_face};
use crate::piece::Opened;
use crate::words::trim;
use rauchkeller_contract::PlanDoc;
use rauchkeller_core::skin::{DepthGuard, FatWindow, Fit, SKIN_TOOLS, depth_guard, fit};
use rauchkeller_core::units::{AreaIn, GramsPerDm2, LengthIn, MassIn, TimeIn, both_length, millimetres};

/// A choice.
pub struct Choice {
    pub id: &'static str,
    pub name: &'static str,
    pub chosen: bool,
}

/// The station.
pub struct KnifeView {
    pub id: String,
    pub name: String,
    pub form: KnifeForm,
    pub query: String,
    pub works: Vec<Choice>,
    pub shapes: Vec<Choice>,
    pub directions: &'static str,
    pub lattices: Vec<Choice>,
    pub tools: Vec<Choice>,
    pub pierces: bool,
    pub usual_spacing: String,
    pub slips: Slips,
    pub picture: String,
    /// The one number: how deep.
    pub depth: String,
    pub depth_other: String,
    pub depth_line: String,
    /// The same depth at true size, to hold a blade against.
    pub depth_mark: String,
    /// What the tool's reach says.
    pub tool_line: String,
    pub tool_fails: bool,
    pub counts: Vec<(String, String)>,
    pub long_work: String,
}

const WORKS: [(&str, &str); 4] =
    [("pierce", "pierced"), ("parallel", "scored one way"), ("crosshatch", "scored both ways"), ("diamond", "scored in diamonds")];
const SHAPES: [(&str, &str); 4] =
    [("square", "square corners"), ("round", "rounded corners"), ("taper", "narrower at one end"), ("breast", "a breast from above")];
const LATTICES: [(&str, &str); 2] = [("square", "in rows"), ("hex", "in shifted rows")];

fn choices(of: &[(&'static str, &'static str)], chosen: &str) -> Vec<Choice> {
    of.iter().map(|(id, name)| Choice { id, name, chosen: *id == chosen }).collect()
}

/// Handbook section 8 [est]: minutes a centimetre of cut.
const MINUTES_A_CM: f64 = 0.05;
/// Out of the refrigerator the two-hour rule runs; a third of it is much for one step [est].
const LONG_MIN: f64 = 40.0;

impl KnifeView {
    /// Of a piece, with what was said.
    pub fn of(opened: &Opened, form: KnifeForm) -> Self {
        let plan = &opened.plan;
        let (cut, slips) = form.read(plan);
        let work = form.work(plan).to_owned();
        let pierces = work == "pierce";
        let tool = form.tool(plan);
        let guard = guard(plan);
        let (depth, depth_other, depth_line) = depth_words(plan, &guard);
        let guard = guard.ok();
        let (tool_line, tool_fails) = guard.map_or_else(|| (String::new(), false), |guard| tool_words(fit(tool, guard), tool.name));
        let mut counts: Vec<(String, String)> = Vec::new();
        let mut minutes = 0.0;
        let mut count = |figure: String, what: &str| counts.push((figure, what.to_owned()));
        match cut.as_ref().map(|c| &c.done) {
            Some(Done::Scored(scoring)) => {
                let stop = guard.map_or(millimetres(5.0), |g| g.at_most);
                minutes = scoring.takes(MINUTES_A_CM).in_min();
                let opened = scoring.opened(stop).in_dm2();
                count(scoring.strokes.len().to_string(), "strokes");
                count(format!("{} mm", group(scoring.cut_length.in_mm())), "of cut in all");
                count(format!("{} dm²", trim(opened, 1)), "opened at that depth");
                let density = plan.dose.by_face.iter().map(|f| f.g_per_dm2).fold(0.0, f64::max);
                count(
                    format!("{} g", trim(scoring.salt_held(stop, GramsPerDm2(density)).in_g(), 1)),
                    "of salt the cuts would take, as dense as on the meat",
                );
            }
            Some(Done::Pierced(holes)) => {
                if let Some(pins) = tool.pins {
                    minutes = holes.takes(pins).in_min();
                    count(group(f64::from(holes.presses(pins))), "presses");
                }
                count(group(holes.at.len() as f64), "holes");
                count(format!("{} mm", trim(holes.spacing.in_mm(), 1)), "from hole to hole");
                count(format!("{} mm", trim(holes.largest_gap.in_mm(), 1)), "radius of the largest gap, marked red");
            }
            None => {}
        }
        count(format!("{:.0} min", minutes.ceil()), "at a usual pace, an estimate");
        let long_work = if minutes > LONG_MIN {
            format!(
                "{minutes:.0} min out of the refrigerator for this alone, of two hours in all: a brush, fewer of them, or two halves with the other half in the cold."
            )
        } else {
            String::new()
        };
        Self {
            id: opened.piece.id.to_string(),
            name: opened.piece.name.clone(),
            query: form.query(),
            works: choices(&WORKS, &work),
            shapes: choices(&SHAPES, if form.shape.is_empty() { if cut_is_bird(plan) { "breast" } else { "square" } } else { &form.shape }),
            directions: "along, across, or degrees",
            lattices: choices(&LATTICES, if form.lattice.is_empty() { "square" } else { &form.lattice }),
            tools: SKIN_TOOLS
                .iter()
                .filter(|t| t.pins.is_some() == pierces)
                .map(|t| Choice { id: t.id, name: t.name, chosen: t.id == tool.id })
                .collect(),
            pierces,
            usual_spacing: format!("{} mm", trim(form.usual_spacing(plan), 0)),
            picture: cut
                .as_ref()
                .map(|c| draw_face(&c.outline, &c.work(), FaceSize::Screen, &format!("The face of {}", opened.piece.name)))
                .unwrap_or_default(),
            slips,
            depth,
            depth_other,
            depth_mark: depth_mark(guard),
            depth_line,
            tool_line,
            tool_fails,
            counts,
            long_work,
            form,
        }
    }

    /// What is wrong with a field.
    pub fn slip(&self, field: &str) -> Option<&String> {
        self.slips.get(field)
    }
}

fn cut_is_bird(plan: &PlanDoc) -> bool {
    rauchkeller_core::piece::Cut::find(&plan.request.cut).is_some_and(rauchkeller_core::piece::Cut::is_bird)
}

/// Core's guard for this piece: over skin and fat, or over a bare cap of fat; or why no depth is safe.
fn guard(plan: &PlanDoc) -> Result<DepthGuard, String> {
    let skin = millimetres(plan.request.skin_mm);
    let window = FatWindow { skin_min: skin, skin_max: skin, fat_min: millimetres(plan.request.fat_min_mm) };
    depth_guard(window).map_err(|refused| format!("{}.", crate::words::sentence(&refused.to_string())))
}

fn depth_words(plan: &PlanDoc, guard: &Result<DepthGuard, String>) -> (String, String, String) {
    let guard = match guard {
        Ok(guard) => guard,
        Err(refused) => return (String::new(), String::new(), refused.clone()),
    };
    let (skin, fat) = (trim(plan.request.skin_mm, 1), trim(plan.request.fat_min_mm, 1));
    let line = if plan.request.skin_mm > 0.0 {
        format!("Through {skin} mm of skin, and stop here: {skin} mm of skin and {fat} mm of fat at the thinnest, less 1.5.")
    } else {
        format!("No skin: score the fat only, {fat} mm of it at the thinnest, less 1.5.")
    };
    // Cut, not rounded: a depth is never rounded towards the lean.
    let mm = (guard.at_most.in_mm() * 10.0 + 1e-6).floor() / 10.0;
    (trim(mm, 1), both_length(guard.at_most).customary, line)
}

/// A blade's tip at true size, the depth marked on it: browsers take a CSS millimetre as 96/25.4 pixels, phones only nearly.
fn depth_mark(guard: Option<DepthGuard>) -> String {
    let Some(mm) = guard.map(|g| g.at_most.in_mm()) else { return String::new() };
    let long = mm + 22.0;
    format!(
        r##"<svg class="depth-mark" width="{w}mm" height="13mm" viewBox="0 0 {w} 13" role="img" aria-label="{t} mm at true size"><path fill="#8d8a84" d="M0 6L5 2H{w}V10H7Q2 9 0 6Z"/><path fill="none" stroke="#9b1f1c" stroke-width="0.7" d="M{t} 0V12M0 11.5H{t}"/></svg>"##,
        w = trim(long, 2),
        t = trim(mm, 2)
    )
}

fn tool_words(fit: Fit, name: &str) -> (String, bool) {
    match fit {
        Fit::Stops => (format!("The {name} passes the skin and stops by itself, once it is set."), false),
        Fit::NeedsMark(at) => (format!("The {name} is longer than that: tape it {} mm from the tip.", trim(at.in_mm(), 1)), false),
        Fit::TooShort(by) => {
            (format!("The {name} is too short: it ends {} mm before the fat. Take a pick or a brush.", trim(by.in_mm(), 1)), true)
        }
    }
}

/// Thousands apart.
fn group(value: f64) -> String {
    let digits = format!("{value:.0}");
    let mut out = String::new();
    for (i, c) in digits.chars().enumerate() {
        if i > 0 && (digits.len() - i) % 3 == 0 {
            out.push(',');
        }
        out.push(c);
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::{kept_cut, opened};

    fn form(pairs: &[(&str, &str)]) -> KnifeForm {
        let object: serde_json::Map<String, serde_json::Value> = pairs.iter().map(|(k, v)| ((*k).to_owned(), (*v).into())).collect();
        serde_json::from_value(serde_json::Value::Object(object)).unwrap()
    }

    #[test]
    fn a_belly_is_pierced_unless_said_otherwise() {
        let view = KnifeView::of(&opened(&[]), KnifeForm::default());
        assert!(view.pierces && view.depth == "8" && view.picture.contains("face-holes"), "{}", view.depth);
        assert!(view.tool_line.contains("stops by itself") && !view.tool_fails);
        let fork = KnifeView::of(&opened(&[]), form(&[("tool", "fork")]));
        assert!(fork.tool_fails && fork.tool_line.contains("too short"), "{}", fork.tool_line);
    }

    #[test]
    fn strokes_follow_the_words_and_slips_keep_the_rest() {
        // The example belly, 267 × 190 mm: margin 5, 8 mm apart: ⌊180/8⌋ + 1 = 23 strokes of 257 mm, 5,911 mm.
        let view = KnifeView::of(&opened(&[]), form(&[("work", "parallel"), ("spacing", "8 mm")]));
        assert_eq!((view.counts[0].0.as_str(), view.counts[1].0.as_str()), ("23", "5,911 mm"));
        let slip =
            KnifeView::of(&opened(&[]), form(&[("work", "parallel"), ("spacing", "8 kg"), ("direction", "north"), ("margin", "90 mm")]));
        assert_eq!(slip.slips.keys().copied().collect::<Vec<_>>(), ["direction", "margin", "spacing"]);
        assert!(!slip.picture.is_empty(), "the usual stands in");
        let many = KnifeView::of(&opened(&[]), form(&[("density", "20"), ("tool", "pick")]));
        assert!(many.long_work.contains("two halves"), "{}", many.long_work);
    }

    #[test]
    fn a_bird_shows_its_breast_and_a_cap_is_scored() {
        let duck = KnifeView::of(&kept_cut("duck-whole", 2200.0, &[]), KnifeForm::default());
        assert!(duck.shapes.iter().any(|s| s.id == "breast" && s.chosen));
        let cap = KnifeView::of(&kept_cut("beef-rump-cap", 1200.0, &[]), KnifeForm::default());
        assert!(!cap.pierces && cap.depth_line.contains("No skin"));
        // Thinnest fat less 1.5 mm, by hand; a boning knife is longer and has to be marked there.
        let fat = kept_cut("beef-rump-cap", 1200.0, &[]).plan.request.fat_min_mm;
        assert_eq!(cap.depth, trim(fat - 1.5, 1));
        let knife = KnifeView::of(&kept_cut("beef-rump-cap", 1200.0, &[]), form(&[("tool", "boning-knife")]));
        assert!(knife.tool_line.contains("tape it"), "{}", knife.tool_line);
    }
}
