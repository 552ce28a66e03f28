//! Pictures as SVG, drawn on the server from core's numbers. Presentation attributes only: no styles.

mod band;
mod board;
mod curve;
mod face;
mod face_marks;
mod heat;
mod labels;
mod ladder;
mod number;
mod outline;
mod silhouette;
mod slice;
mod tray;
mod unfolded;
mod width;

pub use band::{Band, School, draw_band};
pub use board::{Board, BoardPiece, Segment, draw_board};
pub use curve::{DryingCurve, draw_curve};
pub use face::{FacePicture, Ground, Size as FaceSize, draw_face};
pub use heat::draw_heat;
pub use ladder::{Poured, draw_ladder, draw_live_ladder};
pub(crate) use number::{Path, n};
pub use silhouette::draw_silhouette;
pub use slice::{Slice, draw_slice};
pub use tray::draw_tray;
pub use unfolded::draw_unfolded;
pub use width::Width;

/// A fixed scatter between 0 and 1: the same picture for the same piece, every time.
pub(crate) fn scatter(seed: u64) -> f64 {
    let mut x = seed.wrapping_add(0x9E37_79B9_7F4A_7C15);
    x = (x ^ (x >> 30)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
    x = (x ^ (x >> 27)).wrapping_mul(0x94D0_49BB_1331_11EB);
    ((x ^ (x >> 31)) >> 11) as f64 / (1u64 << 53) as f64
}

/// Escapes text for an SVG text node.
pub(crate) fn text(raw: &str) -> String {
    raw.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}
