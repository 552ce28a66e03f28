//! The depth guard: the knife passes the skin and stops in the fat.

use crate::units::{Length, LengthIn, millimetres};

/// Skin and fat as measured at both ends and mid-edges.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FatWindow {
    /// Thinnest skin.
    pub skin_min: Length,
    /// Thickest skin.
    pub skin_max: Length,
    /// Thinnest fat under it.
    pub fat_min: Length,
}

/// How deep a blade or pick may go.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DepthGuard {
    /// Must be passed: the thickest skin.
    pub at_least: Length,
    /// Must not be passed: thinnest skin + thinnest fat − margin.
    pub at_most: Length,
}

/// Why no depth is safe.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error(
    "no depth passes {:.1} mm of skin and stops {:.1} mm short of the lean; pierce the thin places with the tip instead, or leave them whole",
    .skin_max.in_mm(), .margin.in_mm()
)]
pub struct DepthRefused {
    /// The thickest skin, which has to be passed.
    pub skin_max: Length,
    /// What would be allowed at most.
    pub allowed: Length,
    /// Distance to be kept from the lean.
    pub margin: Length,
}

/// Distance kept from the lean, mm (TRADE 5.1, default).
pub const MARGIN_MM: f64 = 1.5;

/// Allowed depth = thinnest skin + thinnest fat − 1.5 mm; it has to pass the thickest skin.
///
/// ```
/// use rauchkeller_core::{skin::{depth_guard, FatWindow}, units::{millimetres, LengthIn}};
/// let window = FatWindow { skin_min: millimetres(2.5), skin_max: millimetres(2.5), fat_min: millimetres(7.0) };
/// assert!((depth_guard(window).unwrap().at_most.in_mm() - 8.0).abs() < 1e-9);
/// ```
pub fn depth_guard(window: FatWindow) -> Result<DepthGuard, DepthRefused> {
    depth_guard_with(window, millimetres(MARGIN_MM))
}

/// The same with a distance from the lean of the cook's own.
pub fn depth_guard_with(window: FatWindow, margin: Length) -> Result<DepthGuard, DepthRefused> {
    let allowed = window.skin_min + window.fat_min - margin;
    if allowed <= window.skin_max {
        return Err(DepthRefused { skin_max: window.skin_max, allowed, margin });
    }
    Ok(DepthGuard { at_least: window.skin_max, at_most: allowed })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn window(skin_min: f64, skin_max: f64, fat_min: f64) -> FatWindow {
        FatWindow { skin_min: millimetres(skin_min), skin_max: millimetres(skin_max), fat_min: millimetres(fat_min) }
    }

    #[test]
    fn the_thin_end_rules() {
        // By hand: 2 + 6 − 1.5 = 6.5 mm.
        let guard = depth_guard(window(2.0, 3.0, 6.0)).unwrap();
        assert!((guard.at_most.in_mm() - 6.5).abs() < 1e-9 && (guard.at_least.in_mm() - 3.0).abs() < 1e-9);
    }

    #[test]
    fn no_window_no_knife() {
        // A turkey: 1.5 + 0.5 − 1.5 = 0.5 mm does not pass 1.5 mm of skin.
        let refused = depth_guard(window(1.5, 1.5, 0.5)).unwrap_err();
        assert!(refused.to_string().contains("pierce"));
    }
}
