//! The body a piece is to the heat: its shape, how far its middle lies from the surface, and how much of that is fed.

use super::conduction::{Body, CONDUCTIVITY, Shape};
use super::ellipsoid::{alike, half_axes};
use super::equivalent::Warms;
use crate::piece::{Cut, Family, FireShape, Lying, MEAT_DENSITY_KG_PER_L, Species};
use crate::units::{HeatTransfer, LengthIn, MassIn, Temperature, millimetres};

/// One piece as it meets the heat, at its own weight (above 0) and thickness (a thousandth of a metre counts as the least); ends and
/// edges count. `start` is its temperature throughout, `film` (W/m²K) that of the stage which does most: how much ends count hangs on
/// it. On a pan or over coals a slab lies on one of its two faces, and they alone count.
///
/// Shape and radius by TRADE 9.21 and 3.3; the product of finite bodies: Incropera & DeWitt, section 5.7.
pub fn body(cut: Cut, piece: Lying, (start, film): (Temperature, HeatTransfer), on_one_side: bool) -> Body {
    let fed = fed(cut);
    let Lying { weight, thickness, measures, .. } = piece;
    let half = thickness / 2.0;
    let (thick, half_m) = (thickness.in_m().max(1e-3), half.in_m().max(5e-4));
    let cubic_m = weight.in_kg() / MEAT_DENSITY_KG_PER_L / 1000.0;
    let grown = |warms: Warms, radius: f64| Body {
        shape: Shape::Grown { power: warms.power(radius, film) },
        radius: millimetres(radius * 1000.0),
        start,
        fed,
    };
    let wall = |half: f64| Warms::of(0.0, half, film);
    match piece.fire {
        FireShape::Slab if on_one_side => Body { shape: Shape::Slab, radius: half, start, fed },
        FireShape::Slab => {
            // The face its weight has, in the proportion of its sides.
            let (length, width) = (measures.length.in_m().max(1e-3), measures.width.in_m().max(1e-3));
            let stretch = (cubic_m / thick / (length * width)).sqrt();
            let edge = |side: f64| wall((side * stretch / 2.0).max(half_m));
            grown(wall(half_m).and(edge(length)).and(edge(width)), half_m)
        }
        FireShape::Cylinder | FireShape::RoundOnRibs => {
            let long = cubic_m / (std::f64::consts::PI * half_m * half_m);
            let radius = if piece.fire == FireShape::RoundOnRibs { half_m * EYE } else { half_m };
            grown(Warms::of(1.0, radius, film).and(wall((long / 2.0).max(radius))), radius)
        }
        FireShape::Ellipsoid => {
            let axes = half_axes(weight, thickness, measures);
            let [short, middle, long] = axes.0.map(LengthIn::in_m);
            let alike = alike(middle / short, long / short, film.0 * short / CONDUCTIVITY);
            Body { shape: Shape::Grown { power: alike.power }, radius: axes.0[0] * alike.stretch, start, fed }
        }
        FireShape::HollowBird { radius_mm, at_g } => {
            // The same shape at another size: radius grows with the cube root of the weight.
            Body { shape: Shape::Sphere, radius: millimetres(radius_mm * (weight.in_g() / at_g).cbrt()), start, fed }
        }
    }
}

/// Share of the surface that is lean (our estimate, by what of it skin and fat lie over).
fn fed(cut: Cut) -> f64 {
    match cut.family {
        Family::Steak => 1.0,
        // A shoulder of pork lies open; lamb has its fell.
        Family::Joint if cut.skin_mm <= 0.0 && cut.species != Species::Lamb => 1.0,
        Family::Roast | Family::Rack => 0.75,
        Family::SkinSlab | Family::CapSlab | Family::Joint | Family::Bird | Family::Crown | Family::FlatBird => 0.5,
    }
}

/// The eye of a rack across, as a share of the rack with its ribs (our estimate).
const EYE: f64 = 0.88;
