//! One moment of a piece in the heat.

use crate::units::{Temperature, Time};

/// A moment of the heat and the rest.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HeatPoint {
    /// Since it went into the heat.
    pub after: Time,
    /// Air, metal or liquid around it from the last moment to this one.
    pub air: Temperature,
    /// The middle.
    pub core: Temperature,
    /// The surface.
    pub surface: Temperature,
    /// The whole piece.
    pub mean: Temperature,
}
