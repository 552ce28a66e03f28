//! PDF at one to one: a pen that thinks in millimetres, paper, and the bar to check the printer by.

mod sheet;
mod strips;

pub use sheet::{SheetFace, sheet};
pub use strips::strips;

use krilla::color::rgb;
use krilla::geom::{PathBuilder, Point, Rect};
use krilla::metadata::Metadata;
use krilla::num::NormalizedF32;
use krilla::page::PageSettings;
use krilla::paint::{Fill, FillRule, Stroke, StrokeDash};
use krilla::surface::Surface;
use krilla::text::{Font, TextDirection};
use krilla::{Data, Document};

/// The shipped sans at its regular weight, cut from the variable font; see its licence beside the web fonts.
static FONT: &[u8] = include_bytes!("../../print/atkinson-400.ttf");

/// Points a millimetre: 72 to the inch of 25.4 mm.
const PT: f64 = 72.0 / 25.4;
/// Left free along every edge of the paper: home printers leave 5 mm or so white.
const MARGIN_MM: f64 = 10.0;
/// Kept at the foot of a page for the bar and the words.
const FOOT_MM: f64 = 20.0;

/// Paper to print on.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Paper {
    /// 210 × 297 mm.
    A4,
    /// 8½ × 11 in.
    Letter,
}

impl Paper {
    /// By its name; A4 where nothing is said.
    pub fn find(id: &str) -> Self {
        if id.eq_ignore_ascii_case("letter") { Self::Letter } else { Self::A4 }
    }

    /// Width and height upright, mm.
    fn upright(self) -> (f64, f64) {
        match self {
            Self::A4 => (210.0, 297.0),
            Self::Letter => (215.9, 279.4),
        }
    }
}

/// Why there is no PDF.
#[derive(Debug, thiserror::Error)]
pub enum PrintError {
    /// The library refused.
    #[error("the page could not be written: {0}")]
    Library(String),
}

/// A line's look.
#[derive(Debug, Clone, Copy)]
struct Line {
    wide: f64,
    grey: u8,
    dashed: bool,
}

const FINE: Line = Line { wide: 0.25, grey: 0, dashed: false };
const BOLD: Line = Line { wide: 0.5, grey: 0, dashed: false };
const FAINT: Line = Line { wide: 0.25, grey: 150, dashed: true };

/// One page being drawn; lengths in mm from its upper left corner.
struct Pen<'a, 'b> {
    surface: &'a mut Surface<'b>,
    font: Font,
}

impl Pen<'_, '_> {
    fn lines(&mut self, lines: impl Iterator<Item = ((f64, f64), (f64, f64))>, look: Line) {
        let mut path = PathBuilder::new();
        for ((x1, y1), (x2, y2)) in lines {
            path.move_to(pt(x1), pt(y1));
            path.line_to(pt(x2), pt(y2));
        }
        self.stroke(path, look);
    }

    fn ring(&mut self, points: &[(f64, f64)], look: Line) {
        let mut path = PathBuilder::new();
        for (i, (x, y)) in points.iter().enumerate() {
            if i == 0 { path.move_to(pt(*x), pt(*y)) } else { path.line_to(pt(*x), pt(*y)) }
        }
        path.close();
        self.stroke(path, look);
    }

    fn stroke(&mut self, path: PathBuilder, look: Line) {
        let Some(path) = path.finish() else { return };
        let dash = look.dashed.then(|| StrokeDash { array: vec![pt(1.5), pt(1.5)], offset: 0.0 });
        self.surface.set_fill(None);
        self.surface.set_stroke(Some(Stroke { paint: grey(look.grey), width: pt(look.wide), dash, ..Stroke::default() }));
        self.surface.draw_path(&path);
    }

    /// Small filled squares, one path for all of them.
    fn dots(&mut self, at: impl Iterator<Item = (f64, f64)>, half: f64) {
        let mut path = PathBuilder::new();
        for (x, y) in at {
            if let Some(rect) = Rect::from_ltrb(pt(x - half), pt(y - half), pt(x + half), pt(y + half)) {
                path.push_rect(rect);
            }
        }
        let Some(path) = path.finish() else { return };
        self.surface.set_stroke(None);
        self.surface.set_fill(Some(black()));
        self.surface.draw_path(&path);
    }

    fn text(&mut self, (x, y): (f64, f64), size_mm: f64, words: &str) {
        self.surface.set_stroke(None);
        self.surface.set_fill(Some(black()));
        self.surface.draw_text(Point::from_xy(pt(x), pt(y)), self.font.clone(), pt(size_mm), words, false, TextDirection::Auto);
    }

    /// Draws only inside a box until the closure ends.
    fn inside(&mut self, (left, top, right, bottom): (f64, f64, f64, f64), draw: impl FnOnce(&mut Self)) {
        let mut path = PathBuilder::new();
        if let Some(rect) = Rect::from_ltrb(pt(left), pt(top), pt(right), pt(bottom)) {
            path.push_rect(rect);
        }
        let Some(path) = path.finish() else { return };
        self.surface.push_clip_path(&path, &FillRule::NonZero);
        draw(self);
        self.surface.pop();
    }

    /// A bar of 100 mm with an end mark each, and what to do with it.
    fn check_bar(&mut self, (x, y): (f64, f64), words: &str) {
        self.lines([((x, y), (x + 100.0, y))].into_iter(), BOLD);
        self.lines([((x, y - 3.0), (x, y)), ((x + 100.0, y - 3.0), (x + 100.0, y))].into_iter(), FINE);
        self.text((x + 104.0, y + 0.5), 3.2, "100 mm: measure it. Print at 100 %, never fitted.");
        self.text((x, y + 6.0), 3.2, words);
    }
}

fn pt(mm: f64) -> f32 {
    (mm * PT) as f32
}

fn grey(level: u8) -> krilla::paint::Paint {
    rgb::Color::new(level, level, level).into()
}

fn black() -> Fill {
    Fill { paint: grey(0), opacity: NormalizedF32::ONE, rule: FillRule::NonZero }
}

/// A document of pages of one size, each drawn by the same hand.
fn document(title: &str, (wide, tall): (f64, f64), pages: usize, mut draw: impl FnMut(&mut Pen, usize)) -> Result<Vec<u8>, PrintError> {
    let failed = |what: &str| PrintError::Library(what.to_owned());
    let font = Font::new(Data::from(FONT.to_vec()), 0).ok_or_else(|| failed("the shipped font"))?;
    let mut document = Document::new();
    document.set_metadata(Metadata::new().title(title.to_owned()));
    for index in 0..pages {
        let settings = PageSettings::from_wh(pt(wide), pt(tall)).ok_or_else(|| failed("the paper"))?;
        let mut page = document.start_page_with(settings);
        let mut surface = page.surface();
        draw(&mut Pen { surface: &mut surface, font: font.clone() }, index);
        surface.finish();
        page.finish();
    }
    document.finish().map_err(|error| PrintError::Library(format!("{error:?}")))
}
