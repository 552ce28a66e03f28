//! How the way through a piece narrows: a slab's does not, a roast's narrows towards its middle, a bird's towards its cavity.

use crate::units::{Length, LengthIn};

/// Area met by salt on its way through, as a function of the distance from the top.
///
/// The same equation holds in all of them with this area in it (the radial forms of Crank, *The Mathematics of Diffusion*,
/// 2nd ed. 1975, sections 5.1 and 6.1): a plane, a cylinder (area ∝ r), a sphere (area ∝ r²). A lump between them has the power
/// that gives its outside and its weight together: `power + 1 = radius × outside ÷ volume`, which is 1 for a cylinder and 2 for
/// a sphere.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub enum Metric {
    /// A slab: the same all the way.
    #[default]
    Plane,
    /// A column through the middle of something round. Both ends lie outside; either half is the piece as if all of its outside
    /// were like that end, and the two meet only in the middle, where there is no area to pass.
    Round {
        /// Area goes with this power of the distance from the middle, 0–3.
        power: f64,
        /// Share of the outside that is like the top, and like the bottom; together 1.
        shares: [f64; 2],
    },
    /// The wall of something hollow: the top lies outside, the bottom lines the hollow.
    Hollow {
        /// Radius of the hollow.
        inner: Length,
    },
}

impl Metric {
    /// Area at a distance from the top of a column so thick, m, as a share of the area of the top face.
    pub(super) fn area(self, x: f64, thick: f64) -> f64 {
        match self {
            Self::Plane => 1.0,
            Self::Round { power, .. } => ((thick / 2.0 - x).abs() / (thick / 2.0)).powf(power),
            Self::Hollow { inner } => ((inner.in_m() + thick - x) / (inner.in_m() + thick)).powi(2),
        }
    }

    /// The integral of the area between two distances from the top, m. They lie on one side of the middle.
    pub(super) fn volume(self, from: f64, to: f64, thick: f64) -> f64 {
        match self {
            Self::Plane => to - from,
            Self::Round { power, .. } => {
                let half = thick / 2.0;
                let inside = |x: f64| ((half - x).abs() / half).powf(power + 1.0) * half / (power + 1.0);
                (inside(from) - inside(to)).abs()
            }
            Self::Hollow { inner } => {
                let outer = inner.in_m() + thick;
                let inside = |x: f64| ((outer - x) / outer).powi(3) * outer / 3.0;
                inside(from) - inside(to)
            }
        }
    }

    /// How much what lies at a distance counts in a slice, besides its volume.
    pub(super) fn share(self, x: f64, thick: f64) -> f64 {
        match self {
            Self::Round { shares, .. } => 2.0 * shares[usize::from(x > thick / 2.0)],
            Self::Plane | Self::Hollow { .. } => 1.0,
        }
    }
}
