//! What is said of knife and pick.

use crate::skin::{Avoid, CoverWork, FaceShape, FatMap, MeatSide, SkinTool};
use crate::units::Length;

/// What is to be done with knife and pick; what is `None` goes as the method and the cut have it.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct SkinAsk {
    /// The shape of the face.
    pub shape: Option<FaceShape>,
    /// Along the face; of a slab its length, of a bird its breast's.
    pub length: Option<Length>,
    /// Across it.
    pub width: Option<Length>,
    /// Radius of rounded corners.
    pub corner: Option<Length>,
    /// Width of the narrow end.
    pub narrow: Option<Length>,
    /// Bones or strips.
    pub parts: Option<u32>,
    /// What knife and pick keep out of.
    pub avoid: Vec<Avoid>,
    /// What is done to skin or fat cap.
    pub cover: Option<CoverWork>,
    /// Kept from the edges; 5 mm as usual.
    pub edge: Option<Length>,
    /// The tool.
    pub tool: Option<SkinTool>,
    /// The cook's own pace with it: presses or centimetres a minute.
    pub own_pace: Option<f64>,
    /// Skin and fat at four places.
    pub fat: Option<FatMap>,
    /// Kept from the lean; 1.5 mm as usual.
    pub margin: Option<Length>,
    /// A depth of the cook's own.
    pub depth: Option<Length>,
    /// What is cut into the lean side.
    pub meat: Option<MeatSide>,
}
