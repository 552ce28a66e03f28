//! Knife and pick as they are written: every field that [`read_skin`](crate::knife::read_skin) reads.

use crate::to_doc::r4;
use rauchkeller_core::ask::SkinAsk;
use rauchkeller_core::skin::{Avoid, CoverWork, FaceShape, FatMap, Lattice, LayerMeasurement, MeatSide, Pattern, SkinTool, Works};
use rauchkeller_core::units::{Length, LengthIn};
use serde_json::{Map, Value, json};

/// What is said of knife and pick, as `skin` of a request or a document.
pub fn skin_value(knife: &SkinAsk) -> Value {
    let mm = |length: Length| json!(r4(length.in_mm()));
    let mut value = knife.cover.map_or_else(|| json!({}), cover_value);
    let fields = [
        ("shape", knife.shape.map(|shape: FaceShape| json!(shape.id()))),
        ("length_mm", knife.length.map(mm)),
        ("width_mm", knife.width.map(mm)),
        ("corner_mm", knife.corner.map(mm)),
        ("narrow_mm", knife.narrow.map(mm)),
        ("parts", knife.parts.map(|parts| json!(parts))),
        ("avoid", (!knife.avoid.is_empty()).then(|| knife.avoid.iter().map(avoid_value).collect())),
        ("edge_mm", knife.edge.map(mm)),
        ("tool", knife.tool.as_ref().map(tool_value)),
        ("own_pace_per_min", knife.own_pace.map(|pace| json!(pace))),
        ("fat", knife.fat.as_ref().map(fat_value)),
        ("margin_mm", knife.margin.map(mm)),
        ("depth_mm", knife.depth.map(mm)),
        ("meat", knife.meat.map(meat_value)),
    ];
    let said = fields.into_iter().filter_map(|(name, said)| Some((name.to_owned(), said?)));
    if let Some(object) = value.as_object_mut() {
        object.extend(said.collect::<Map<_, _>>());
    }
    value
}

fn cover_value(cover: CoverWork) -> Value {
    match cover {
        CoverWork::Whole => json!({"work": "whole"}),
        CoverWork::Pierce { lattice, per_cm2 } => {
            json!({"work": "pierce", "per_cm2": per_cm2, "lattice": if lattice == Lattice::Square { "square" } else { "hexagonal" }})
        }
        CoverWork::Score { pattern, spacing, direction } => {
            let work = match pattern {
                Pattern::Parallel => "parallel",
                Pattern::Crosshatch => "crosshatch",
                Pattern::Diamond => "diamond",
            };
            json!({"work": work, "spacing_mm": r4(spacing.in_mm()), "direction_deg": direction})
        }
    }
}

fn avoid_value(avoid: &Avoid) -> Value {
    match *avoid {
        Avoid::Tie { at } => json!({"tie_mm": at}),
        Avoid::Spot { at: (x, y), radius } => json!({"x_mm": x, "y_mm": y, "radius_mm": r4(radius.in_mm())}),
    }
}

/// One of the table by its name, else whole.
fn tool_value(tool: &SkinTool) -> Value {
    if SkinTool::find(&tool.id).is_some_and(|known| known == *tool) {
        return json!(tool.id);
    }
    let pins = match tool.works {
        Works::Pierces(pins) => Some(pins),
        Works::Cuts => None,
    };
    json!({
        "id": tool.id, "name": tool.name, "reach_mm": tool.reach_mm, "stop": tool.stop.id(), "pins": pins, "wears_after": tool.wears_after,
    })
}

fn fat_value(fat: &FatMap) -> Value {
    let spot = |at: LayerMeasurement| json!({"skin_mm": r4(at.skin.in_mm()), "fat_mm": r4(at.fat.in_mm())});
    json!({"left": spot(fat.left), "near": spot(fat.near), "far": spot(fat.far), "right": spot(fat.right)})
}

fn meat_value(meat: MeatSide) -> Value {
    match meat {
        MeatSide::Whole => json!({"kind": "whole"}),
        MeatSide::Grooves { spacing, depth } => {
            json!({"kind": "grooves", "spacing_mm": r4(spacing.in_mm()), "depth_mm": r4(depth.in_mm())})
        }
        MeatSide::Lattice { spacing, beyond } => {
            json!({"kind": "lattice", "spacing_mm": r4(spacing.in_mm()), "beyond_mm": r4(beyond.in_mm())})
        }
    }
}
