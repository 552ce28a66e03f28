//! The worked face of TRADE 5.3, for the tests of this room.

use super::{CoverWork, FaceAsk, FatMap, KnifeAsk, MeatSide, SkinTool};
use crate::units::{Share, millimetres};

/// 300 × 220 mm, skin 2.5 over 7 mm of fat, 45 mm thick, 5 mm from the edges.
pub fn belly(cover: CoverWork, tool: &str) -> KnifeAsk {
    let mm = millimetres;
    KnifeAsk {
        face: FaceAsk::slab(mm(300.0), mm(220.0)),
        beside: Share(0.0),
        cover,
        edge: mm(5.0),
        tool: SkinTool::find(tool).unwrap(),
        own_pace: None,
        fat: FatMap::even(mm(2.5), mm(7.0)),
        margin: mm(1.5),
        depth: None,
        meat: MeatSide::Whole,
        lean: mm(34.5),
        thickness: mm(45.0),
    }
}
