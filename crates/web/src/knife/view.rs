//! What the Knife station shows.

use super::avoid::{read_avoid, write_avoid};
use super::form::{KnifeForm, Slips};
use super::planned::Planned;
use super::words::{depth_line, depth_mark, group, says_line, tenths, tool_words};
use crate::draw::{FacePicture, FaceSize, Ground, draw_face};
use crate::kit::Shelf;
use crate::piece::Opened;
use crate::words::{figure_in_units, trim};
use rauchkeller_core::piece::{Cut, Family};
use rauchkeller_core::plan::{Plan, SkinPlan};
use rauchkeller_core::skin::{CoverWork, FaceShape, Pattern, SKIN_TOOLS, Works};
use rauchkeller_core::units::{AreaIn, GramsPerDm2, LengthIn, MassIn, System, Time, TimeIn, both_length, millimetres};
use serde_json::Value;

/// A choice.
pub struct Choice {
    pub id: String,
    pub name: String,
    pub chosen: bool,
}

/// The station.
#[expect(clippy::struct_excessive_bools, reason = "a template reads them one by one")]
pub struct KnifeView {
    pub id: String,
    pub name: String,
    /// What the way back leads to.
    pub noun: String,
    pub version: i32,
    pub form: KnifeForm,
    pub query: String,
    pub shapes: Vec<Choice>,
    pub works: Vec<Choice>,
    pub lattices: Vec<Choice>,
    pub tools: Vec<Choice>,
    pub meats: Vec<Choice>,
    pub sides: Vec<Choice>,
    pub zooms: Vec<Choice>,
    pub pierces: bool,
    pub scores: bool,
    pub parts_word: &'static str,
    /// What stands in the fields that say nothing.
    pub usual: Usual,
    pub slips: Slips,
    pub obstacle: Option<String>,
    pub picture: String,
    pub zoom: &'static str,
    /// Addresses that add a string or a place left alone.
    pub add_string: String,
    pub add_place: String,
    /// The one number: how deep.
    pub depth: String,
    pub depth_unit: String,
    pub depth_other: String,
    pub depth_line: String,
    pub depth_mark: String,
    /// A line a zone, where there are several.
    pub zones: Vec<String>,
    /// What the tool's reach says.
    pub tool_line: String,
    pub tool_fails: bool,
    /// What a depth of the cook's own does.
    pub says: Option<(bool, String)>,
    pub counts: Vec<(String, String)>,
    pub picks: Option<u32>,
    pub meat_lines: Vec<String>,
    pub out_line: String,
    pub quicker: Vec<(String, String)>,
    pub last_time: Option<String>,
    /// Why it cannot be kept, if so.
    pub closed: Option<&'static str>,
    /// Whether what is shown is what was kept.
    pub kept: bool,
}

/// Words that stand in empty fields.
#[derive(Default)]
pub struct Usual {
    pub long: String,
    pub wide: String,
    pub corner: String,
    pub narrow: String,
    pub parts: String,
    pub spacing: String,
    pub density: String,
    pub deep: String,
    pub fat: String,
    pub meat_spacing: &'static str,
}

fn choices(of: &[(&str, &str)], chosen: &str) -> Vec<Choice> {
    of.iter().map(|(id, name)| Choice { id: (*id).into(), name: (*name).into(), chosen: *id == chosen }).collect()
}

/// What the last piece of this cut taught: its name and the fields that stayed chewy.
#[derive(Debug, Clone, Default)]
pub struct LastTime {
    pub name: String,
    pub patches: i32,
}

impl KnifeView {
    /// Of a piece, with what was said.
    pub fn of(opened: &Opened, planned: Planned, shelf: &Shelf, last: Option<&LastTime>) -> Self {
        let cut = Cut::find(&opened.plan.request.cut);
        let skin = planned.plan.as_ref().and_then(|plan| plan.skin.as_ref());
        let mut view = Self::frame(opened, &planned, skin, shelf, cut);
        if let Some((plan, skin)) = planned.plan.as_ref().zip(skin) {
            view.fill(plan, skin, last, opened.system);
        }
        view.form = planned.form;
        view
    }

    /// Words and choices, before any number.
    fn frame(opened: &Opened, planned: &Planned, skin: Option<&SkinPlan>, shelf: &Shelf, cut: Option<Cut>) -> Self {
        let form = &planned.form;
        let cover = skin.map_or(CoverWork::Whole, |s| s.ask.cover);
        let shape = skin.map_or(FaceShape::Square, |s| s.ask.face.shape);
        let mm = |value: f64| match opened.system {
            Some(System::Customary) => both_length(millimetres(value)).customary,
            _ => format!("{} mm", trim(value, 0)),
        };
        let face = skin.map(|s| &s.ask.face);
        let of_face = |get: fn(&rauchkeller_core::skin::FaceAsk) -> f64| face.map_or_else(String::new, |f| mm(get(f)));
        let (mid_x, mid_y) = face.map_or((100.0, 80.0), |f| (f.length.in_mm() / 2.0, f.width.in_mm() / 2.0));
        let adding = |place: &str| {
            let known = read_avoid(&form.avoid).map(Value::from).map_or_else(|_| form.avoid.clone(), |places| write_avoid(&places));
            let avoid = if known.is_empty() { place.to_owned() } else { format!("{known}; {place}") };
            KnifeForm { avoid, ..form.clone() }.address(&opened.piece.id.to_string())
        };
        let request: Value = serde_json::from_str(&opened.piece.request).unwrap_or_default();
        let opened_skin = opened.knife_or_salt_was_on_it();
        Self {
            id: opened.piece.id.to_string(),
            name: opened.piece.name.clone(),
            noun: opened.noun(),
            version: opened.piece.version,
            query: form.query(),
            shapes: choices(&shapes_of(cut), shape.id()),
            works: choices(&works_of(opened, cut), work_id(cover)),
            lattices: choices(
                &[("square", "in rows"), ("hexagonal", "in shifted rows")],
                if form.lattice == "hexagonal" { "hexagonal" } else { "square" },
            ),
            tools: tools_of(skin, shelf),
            meats: choices(
                &[("whole", "left whole"), ("grooves", "grooved both ways"), ("lattice", "cut through from both sides")],
                if form.meat.is_empty() { "whole" } else { &form.meat },
            ),
            sides: choices(&[("skin", "the upper side"), ("meat", "the meat side")], if form.side == "meat" { "meat" } else { "skin" }),
            zooms: choices(&[("1", "whole"), ("2", "twice"), ("4", "four times")], if form.zoom.is_empty() { "1" } else { &form.zoom }),
            pierces: matches!(cover, CoverWork::Pierce { .. }),
            scores: matches!(cover, CoverWork::Score { .. }),
            parts_word: match shape {
                FaceShape::Rack => "bones",
                FaceShape::Strips => "strips",
                _ => "",
            },
            usual: Usual {
                long: of_face(|f| f.length.in_mm()),
                wide: of_face(|f| f.width.in_mm()),
                corner: if shape == FaceShape::Round { of_face(|f| f.corner_or_usual().in_mm()) } else { String::new() },
                narrow: if shape == FaceShape::Taper { of_face(|f| f.narrow_or_usual().in_mm()) } else { String::new() },
                parts: face.map_or_else(String::new, |f| f.parts_or_usual().to_string()),
                spacing: match cover {
                    CoverWork::Score { spacing, .. } => mm(spacing.in_mm()),
                    _ => mm(8.0),
                },
                density: match cover {
                    CoverWork::Pierce { per_cm2, .. } => trim(per_cm2, 1),
                    _ => "8".into(),
                },
                deep: "as deep as is safe".into(),
                fat: skin.map_or_else(String::new, |s| {
                    format!("{} + {}", trim(s.ask.fat.left.skin.in_mm(), 1), trim(s.ask.fat.left.fat.in_mm(), 1))
                }),
                meat_spacing: if form.meat == "lattice" { "20 mm" } else { "30 mm" },
            },
            zoom: match form.zoom.as_str() {
                "2" => "seen-2",
                "4" => "seen-4",
                _ => "seen-1",
            },
            add_string: adding(&format!("string {mid_x:.0}")),
            add_place: adding(&format!("place {mid_x:.0} {mid_y:.0} 12")),
            slips: planned.slips.clone(),
            obstacle: planned.obstacle.clone(),
            closed: if opened.piece.finished_at.is_some() || opened.piece.deleted_at.is_some() {
                Some("This piece is over: the numbers are for looking.")
            } else if opened_skin {
                Some("Knife or salt has been on it already: the numbers are for looking.")
            } else {
                None
            },
            kept: request["skin"].is_object() && request["skin"] == planned.request["skin"],
            form: KnifeForm::default(),
            picture: String::new(),
            depth: String::new(),
            depth_unit: String::new(),
            depth_other: String::new(),
            depth_line: String::new(),
            depth_mark: String::new(),
            zones: vec![],
            tool_line: String::new(),
            tool_fails: false,
            says: None,
            counts: vec![],
            picks: None,
            meat_lines: vec![],
            out_line: String::new(),
            quicker: vec![],
            last_time: None,
        }
    }

    /// Picture and numbers.
    fn fill(&mut self, plan: &Plan, skin: &SkinPlan, last: Option<&LastTime>, system: Option<System>) {
        let (ask, work) = (&skin.ask, &skin.work);
        self.picture = face_picture(plan, skin, self.sides.iter().any(|s| s.id == "meat" && s.chosen), last, &self.name);
        self.last_time = last.filter(|l| l.patches != 0).map(|l| l.name.clone());
        let opens = ask.cover != CoverWork::Whole;
        let depth = ask.depth.or(work.guard.map(|g| g.at_most)).filter(|_| opens || ask.depth.is_some());
        if let Some(depth) = depth {
            (self.depth, self.depth_unit, self.depth_other) = figure_in_units(&tenths(depth.in_mm()), "mm", system);
            self.depth_mark = depth_mark(depth.in_mm());
        }
        self.depth_line = depth_line(skin);
        if work.zones.len() > 1 && opens {
            let long = ask.face.length.in_mm();
            self.zones = work
                .zones
                .iter()
                .map(|z| {
                    let span = format!("{:.0}–{:.0} mm from the left", long * z.span.0, long * z.span.1);
                    match z.depth {
                        Ok(guard) => format!("{span}: {} mm", tenths(guard.at_most.in_mm())),
                        Err(refused) => {
                            format!("{span}: no safe depth, {:.1} mm would be allowed; pierced instead", refused.allowed.in_mm().max(0.0))
                        }
                    }
                })
                .collect();
        }
        if let Some(fit) = work.fit.filter(|_| opens) {
            (self.tool_line, self.tool_fails) = tool_words(fit, &ask.tool.name);
        }
        self.says = says_line(work.says);
        self.picks = work.picks;
        self.counts = counts(plan, skin);
        self.meat_lines = meat_lines(skin);
        self.out_and_quicker(skin, plan.request.kitchen.out_at_most());
    }

    fn out_and_quicker(&mut self, skin: &SkinPlan, at_most: Time) {
        let takes = skin.work.takes().in_min().ceil();
        if takes > 0.0 {
            self.out_line = format!(
                "{takes:.0} min of it here, {:.0} min on the bench in all, of {:.0} at most out of the refrigerator.",
                skin.out.in_min(),
                at_most.in_min()
            );
        }
        self.quicker = skin.quicker.iter().map(|w| (format!("{:.0} min", w.out.in_min().ceil()), w.what.clone())).collect();
    }

    /// Whether the four places are said, or something is wrong with them.
    pub fn four_open(&self) -> bool {
        let form = &self.form;
        let said = [&form.fat_left, &form.fat_near, &form.fat_far, &form.fat_right, &form.keep].iter().any(|typed| !typed.is_empty());
        said || ["fat_left", "fat_near", "fat_far", "fat_right", "keep"].iter().any(|field| self.slips.contains_key(field))
    }

    /// What is wrong with a field.
    pub fn slip(&self, field: &str) -> Option<&String> {
        self.slips.get(field)
    }
}

fn work_id(cover: CoverWork) -> &'static str {
    match cover {
        CoverWork::Whole => "whole",
        CoverWork::Pierce { .. } => "pierce",
        CoverWork::Score { pattern: Pattern::Parallel, .. } => "parallel",
        CoverWork::Score { pattern: Pattern::Crosshatch, .. } => "crosshatch",
        CoverWork::Score { pattern: Pattern::Diamond, .. } => "diamond",
    }
}

fn shapes_of(cut: Option<Cut>) -> Vec<(&'static str, &'static str)> {
    let mut all = vec![
        ("square", "square corners"),
        ("round", "rounded corners"),
        ("taper", "one narrow end"),
        ("strips", "cut into strips"),
        ("split", "split in two"),
    ];
    match cut.map(|c| c.family) {
        Some(Family::Bird | Family::Crown | Family::FlatBird) => all = vec![("breast", "a breast’s outline")],
        Some(Family::Rack | Family::Roast) => all.push(("rack", "bones under it")),
        Some(Family::SkinSlab) => all.push(("breast", "a breast’s outline")),
        _ => {}
    }
    all
}

/// What a cut's cover allows: skin over fat is pierced or scored, a bird without fat only pricked, bare lean left.
fn works_of(opened: &Opened, cut: Option<Cut>) -> Vec<(&'static str, &'static str)> {
    let request = &opened.plan.request;
    let scored = [("parallel", "scored one way"), ("crosshatch", "scored both ways"), ("diamond", "scored in diamonds")];
    let mut all = vec![("whole", "left whole")];
    if request.skin_mm > 0.0 {
        let window = cut.is_some_and(Cut::has_fat_window);
        all.insert(0, ("pierce", if window { "pierced" } else { "pricked, just through the skin" }));
        if window {
            all.extend(scored);
        }
    } else if request.fat_mm > 0.0 {
        all.extend(scored);
    }
    all
}

fn tools_of(skin: Option<&SkinPlan>, shelf: &Shelf) -> Vec<Choice> {
    let pierces = skin.is_none_or(|s| !matches!(s.ask.cover, CoverWork::Score { .. }));
    let chosen = skin.map_or("", |s| s.ask.tool.id.as_ref());
    let table = SKIN_TOOLS.iter().filter(|t| t.pierces() == pierces).map(|t| (t.id.to_string(), t.name.to_string()));
    let own = shelf.tools.iter().filter(|t| t.pins.is_some() == pierces).map(|t| (format!("own-{}", t.id), format!("{}, ours", t.name)));
    own.chain(table).map(|(id, name)| Choice { chosen: id == chosen, id, name }).collect()
}

/// The side that is looked at.
pub fn face_picture(plan: &Plan, skin: &SkinPlan, meat_side: bool, last: Option<&LastTime>, name: &str) -> String {
    let work = &skin.work;
    let ground = match (plan.resolved.skin.in_mm() > 0.0, plan.resolved.fat.in_mm() > 0.0) {
        (true, _) if !meat_side => Ground::Skin,
        (false, true) if !meat_side => Ground::Fat,
        _ => Ground::Meat,
    };
    let name = format!("The {} of {name}", if meat_side { "meat side" } else { "face" });
    let (strokes, other_side, holes) = work.seen_from(meat_side);
    draw_face(&FacePicture {
        strokes,
        other_side,
        holes,
        zones: if meat_side { &[] } else { &work.zones },
        handles: &work.laid.handles,
        patches: last.filter(|_| !meat_side).map_or(0, |l| l.patches),
        way: true,
        ..FacePicture::of(&work.laid, ground, FaceSize::Screen, &name)
    })
}

fn counts(plan: &Plan, skin: &SkinPlan) -> Vec<(String, String)> {
    let (ask, work) = (&skin.ask, &skin.work);
    let mut counts = vec![(format!("{} dm²", trim(work.area.in_dm2(), 2)), "of face, less what is left alone".to_owned())];
    let mut count = |figure: String, what: &str| counts.push((figure, what.to_owned()));
    if let Some(scoring) = &work.scoring {
        count(scoring.strokes.len().to_string(), "strokes");
        count(format!("{} mm", group(scoring.cut_length.in_mm())), "of cut in all");
        count(format!("{} mm", trim(scoring.widest_strip.in_mm(), 1)), "the widest strip left");
        count(format!("{} dm²", trim(work.opened.in_dm2(), 1)), "opened at that depth");
        let density = plan.dose.by_face.iter().map(|f| f.density().0).fold(0.0, f64::max);
        let deep = ask.depth.or(work.guard.map(|g| g.at_most)).unwrap_or(millimetres(0.0));
        count(
            format!("{} g", trim(scoring.salt_held(deep, GramsPerDm2(density)).in_g(), 1)),
            "of salt the cuts would hold, as dense as on the meat",
        );
    }
    if let Some(holes) = &work.holes {
        count(group(f64::from(work.holes_in_all)), if ask.beside.0 > 0.0 { "holes, on breast and legs" } else { "holes" });
        count(group(f64::from(work.presses)), "presses");
        count(format!("{} mm", trim(holes.spacing.in_mm(), 1)), "from hole to hole");
        count(format!("{} mm", trim(holes.largest_gap.in_mm(), 1)), "radius of the largest gap, ringed red");
    }
    if ask.cover != CoverWork::Whole {
        let unit = if ask.tool.works == Works::Cuts { "cm of cut" } else { "presses" };
        let instead = work.scoring.is_none() && ask.tool.works == Works::Cuts;
        let pace = match ask.own_pace {
            _ if instead => format!("with a {} instead, at a usual pace, our estimate", work.pierced_with.as_deref().unwrap_or("pick")),
            Some(pace) => format!("at your own pace, {} {unit} a minute", trim(pace, 0)),
            None => format!("at a usual pace, {} {unit} a minute, our estimate", trim(ask.tool.per_min, 0)),
        };
        counts.push((format!("{:.0} min", work.cover_takes.in_min().ceil()), pace));
    }
    counts
}

fn meat_lines(skin: &SkinPlan) -> Vec<String> {
    let Some(cuts) = &skin.work.meat else { return vec![] };
    let mut lines = vec![match cuts.rods {
        None => format!(
            "{} grooves, {} mm of cut, {} mm deep: {} dm² opened, {:.0} min.",
            cuts.below.strokes.len(),
            group(cuts.cut_length().in_mm()),
            tenths(cuts.depth.in_mm()),
            trim(cuts.opened().in_dm2(), 1),
            skin.work.meat_takes.in_min().ceil()
        ),
        Some(rods) => format!(
            "{} mm deep from each side, so that the cuts meet in {} openings. Two straight rods {} mm high, laid along the piece, stop the knife. {:.0} min.",
            tenths(cuts.depth.in_mm()),
            cuts.openings,
            tenths(rods.in_mm()),
            skin.work.meat_takes.in_min().ceil()
        ),
    }];
    if let Some(salt) = &skin.grooves {
        let middle = if (salt.middle.0 - salt.middle_without.0).abs() < 0.05 {
            String::new()
        } else {
            format!(", the least salted place {} g/kg instead of {}", trim(salt.middle.0, 1), trim(salt.middle_without.0, 1))
        };
        lines.push(format!(
            "About {:.0} % of that side’s salt lodges in them: seasoned to {} mm instead of {}{middle}. An estimate.",
            salt.share.0 * 100.0,
            trim(salt.depth.in_mm(), 1),
            trim(salt.depth_without.in_mm(), 1),
        ));
    }
    lines.push("Cut into lean it is no longer intact: at least 63 °C (145 °F) and 3 min of rest all through.".into());
    lines
}

#[cfg(test)]
mod tests;
