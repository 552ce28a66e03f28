//! What is to be done to the skin, as typed, and what it comes to on this face.

use crate::bench::encode;
use crate::draw::FaceWork;
use rauchkeller_contract::PlanDoc;
use rauchkeller_core::piece::{Cut, Family};
use rauchkeller_core::skin::{
    Holes, Lattice, Outline, Pattern, SKIN_TOOLS, ScoreAsk, ScoreError, Scoring, SkinTool, pierce_outline, score,
};
use rauchkeller_core::units::{Length, LengthIn, millimetres, parse_length};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// The words of the station, as typed; empty means: as usual.
#[derive(Debug, Clone, Default, Deserialize, Serialize)]
#[serde(default)]
pub struct KnifeForm {
    /// `square`, `round`, `taper` or `breast`.
    pub shape: String,
    /// `pierce`, `parallel`, `crosshatch` or `diamond`.
    pub work: String,
    pub spacing: String,
    /// `along`, `across` or degrees.
    pub direction: String,
    pub margin: String,
    pub density: String,
    /// `square` or `hex`.
    pub lattice: String,
    pub tool: String,
}

/// Strokes or holes on a face.
pub struct FaceCut {
    /// The face.
    pub outline: Outline,
    /// What is done to it.
    pub done: Done,
}

/// One or the other.
pub enum Done {
    /// Scored.
    Scored(Scoring),
    /// Pierced.
    Pierced(Holes),
}

impl FaceCut {
    /// For the drawing.
    pub fn work(&self) -> FaceWork<'_> {
        match &self.done {
            Done::Scored(scoring) => FaceWork::Strokes(&scoring.strokes),
            Done::Pierced(holes) => FaceWork::Holes(holes),
        }
    }
}

/// What is wrong, by field.
pub type Slips = BTreeMap<&'static str, String>;

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

    /// What this cut wants done to its cover, where nothing is said: skin over fat is pierced, a cap of fat crosshatched.
    pub fn work(&self, plan: &PlanDoc) -> &str {
        match self.work.as_str() {
            "pierce" | "parallel" | "crosshatch" | "diamond" => &self.work,
            _ if plan.request.skin_mm > 0.0 => "pierce",
            _ => "crosshatch",
        }
    }

    /// Usual spacing, mm (handbook section 5): belly skin 8 one way or 13 crosshatch, duck 10, a fat cap 20.
    pub fn usual_spacing(&self, plan: &PlanDoc) -> f64 {
        match (self.work(plan), plan.request.skin_mm > 0.0) {
            (_, false) => 20.0,
            ("parallel", true) => 8.0,
            ("diamond", true) => 10.0,
            _ => 13.0,
        }
    }

    /// The tool, or the first that can do the work.
    pub fn tool(&self, plan: &PlanDoc) -> &'static SkinTool {
        let pierces = self.work(plan) == "pierce";
        let fits = |t: &&SkinTool| t.pins.is_some() == pierces;
        SKIN_TOOLS.iter().filter(fits).find(|t| t.id == self.tool).or_else(|| SKIN_TOOLS.iter().find(fits)).unwrap_or(&SKIN_TOOLS[0])
    }

    fn outline(&self, plan: &PlanDoc) -> Option<Outline> {
        let cut = Cut::find(&plan.request.cut)?;
        let bird = matches!(cut.family, Family::Bird | Family::FlatBird);
        let breast = plan.dose.by_face.iter().find(|f| matches!(f.face.as_str(), "breast" | "under-skin"));
        let (long, wide) = match breast.filter(|_| bird) {
            // A breast of that area, four to three.
            Some(face) => {
                let long = (face.area_dm2 * 1e4 * 4.0 / 3.0 / 0.714).sqrt();
                (millimetres(long), millimetres(long * 0.75))
            }
            None => (millimetres(plan.request.length_mm), millimetres(plan.request.width_mm)),
        };
        let shape = if self.shape.is_empty() && bird { "breast" } else { self.shape.as_str() };
        let shorter = if long < wide { long } else { wide };
        match shape {
            "round" => Outline::rectangle(long, wide, shorter / 6.0),
            "taper" => Outline::tapered(long, wide, wide * 0.7),
            "breast" => Outline::breast(long, wide),
            _ => Outline::rectangle(long, wide, millimetres(0.0)),
        }
        .ok()
    }

    /// Reads every word; what cannot be is named, and the usual stands in.
    pub fn read(&self, plan: &PlanDoc) -> (Option<FaceCut>, Slips) {
        let mut slips = Slips::new();
        let mut length = |field: &'static str, typed: &str, usual: f64| -> Length {
            if typed.trim().is_empty() {
                return millimetres(usual);
            }
            parse_length(typed).unwrap_or_else(|error| {
                slips.insert(field, format!("{error}."));
                millimetres(usual)
            })
        };
        let spacing = length("spacing", &self.spacing, self.usual_spacing(plan));
        let margin = length("margin", &self.margin, 5.0);
        let direction = match self.direction.trim().to_lowercase().as_str() {
            "" | "along" => 0.0,
            "across" => 90.0,
            typed => typed
                .trim_end_matches('°')
                .trim()
                .replace(',', ".")
                .parse()
                .ok()
                .filter(|d: &f64| (-180.0..=180.0).contains(d))
                .unwrap_or_else(|| {
                    let typed: String = typed.chars().take(40).collect();
                    slips.insert("direction", format!("“{typed}” is no direction; write along, across, or degrees from −180 to 180."));
                    0.0
                }),
        };
        let Some(outline) = self.outline(plan) else { return (None, slips) };
        let done = if let Some(pattern) = Pattern::find(self.work(plan)) {
            let ask = ScoreAsk { pattern, spacing, direction, margin };
            self.scored(plan, &outline, ask, &mut slips).map(Done::Scored)
        } else {
            self.pierced(&outline, margin, &mut slips).map(Done::Pierced)
        };
        (done.map(|done| FaceCut { outline, done }), slips)
    }

    fn scored(&self, plan: &PlanDoc, outline: &Outline, ask: ScoreAsk, slips: &mut Slips) -> Option<Scoring> {
        let usual = ScoreAsk { spacing: millimetres(self.usual_spacing(plan)), margin: millimetres(5.0), ..ask };
        match score(outline, ask) {
            Ok(scoring) => Some(scoring),
            Err(error) => {
                let field = if matches!(error, ScoreError::Spacing(_)) { "spacing" } else { "margin" };
                slips.entry(field).or_insert_with(|| format!("{}.", crate::words::sentence(&error.to_string())));
                score(outline, usual).ok()
            }
        }
    }

    fn pierced(&self, outline: &Outline, margin: Length, slips: &mut Slips) -> Option<Holes> {
        let bare = self.density.trim().trim_end_matches("/cm²").trim_end_matches("/cm2").trim().replace(',', ".");
        let density = if bare.is_empty() { 8.0 } else { bare.parse().unwrap_or(f64::NAN) };
        let lattice = if self.lattice == "hex" { Lattice::Hexagonal } else { Lattice::Square };
        let margin = if margin.in_mm() > 50.0 {
            slips.insert("margin", format!("A margin of {:.0} mm; between 0 and 50 mm is allowed; 5 is usual.", margin.in_mm()));
            millimetres(5.0)
        } else {
            margin
        };
        pierce_outline(outline, lattice, density, margin)
            .or_else(|_| {
                let typed: String = self.density.trim().chars().take(40).collect();
                let says = "holes a square centimetre; between 0.25 and 25 are allowed: 4 are sparse, 8 good, 15 thorough.";
                slips.insert("density", format!("“{typed}” {says}"));
                pierce_outline(outline, lattice, 8.0, margin)
            })
            .ok()
    }

    /// Only the result.
    pub fn cut(&self, plan: &PlanDoc) -> Option<FaceCut> {
        self.read(plan).0
    }
}
