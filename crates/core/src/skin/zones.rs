//! Zones of their own depth: skin and fat measured at both ends and mid-edges.

use super::depth::{DepthGuard, DepthRefused, FatWindow, depth_guard_with};
use crate::units::{Length, LengthIn, millimetres};

/// Skin and fat at one place.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LayerMeasurement {
    /// Skin; 0 for none.
    pub skin: Length,
    /// Fat under the skin there, 0 or more.
    pub fat: Length,
}

/// Skin and fat at four places, measured at both ends and mid-edges.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FatMap {
    /// At the left end.
    pub left: LayerMeasurement,
    /// In the middle of the near edge.
    pub near: LayerMeasurement,
    /// In the middle of the far edge.
    pub far: LayerMeasurement,
    /// At the right end.
    pub right: LayerMeasurement,
}

impl FatMap {
    /// The same everywhere.
    pub fn even(skin: Length, fat: Length) -> Self {
        let spot = LayerMeasurement { skin, fat };
        Self { left: spot, near: spot, far: spot, right: spot }
    }

    /// Its four places, from left to right.
    pub fn spots(&self) -> [LayerMeasurement; 4] {
        [self.left, self.near, self.far, self.right]
    }
}

/// A part of the face with a depth of its own.
#[derive(Debug, Clone, PartialEq)]
pub struct DepthZone {
    /// Where it begins and ends, as shares of the length from the left.
    pub span: (f64, f64),
    /// Skin and fat in it.
    pub window: FatWindow,
    /// How deep in it, or why no depth is safe there.
    pub depth: Result<DepthGuard, DepthRefused>,
}

/// One of the two measures of a spot.
type Measure = fn(&LayerMeasurement) -> Length;

/// Depths nearer to each other than this are one setting of the knife, mm (our estimate).
const ONE_SETTING_MM: f64 = 0.5;

/// The face in up to three zones along the piece, each with the depth its thinnest place allows.
///
/// Between the ends and the middle skin and fat run in straight lines (our estimate); the middle counts as the thinner of its two
/// edges for fat, the thicker for skin that has to be passed. Neighbours within half a millimetre are one zone, at the
/// shallower depth. `margin` is the distance kept from the lean.
pub fn depth_zones(map: &FatMap, margin: Length) -> Vec<DepthZone> {
    let mm = |get: Measure, spot: &LayerMeasurement| get(spot).in_mm();
    let (skin, fat): (Measure, Measure) = (|s| s.skin, |s| s.fat);
    let thin_skin = mm(skin, &map.near).min(mm(skin, &map.far));
    let thick_skin = mm(skin, &map.near).max(mm(skin, &map.far));
    let thin_fat = mm(fat, &map.near).min(mm(fat, &map.far));
    // A third of the length is two thirds of the way from an end to the middle.
    let third = |end: f64, middle: f64| end + (middle - end) * 2.0 / 3.0;
    let window = |ends: &[(f64, f64, f64)]| {
        let least = |get: fn(&(f64, f64, f64)) -> f64| ends.iter().map(get).fold(f64::INFINITY, f64::min);
        let most = ends.iter().map(|e| e.1).fold(0.0, f64::max);
        FatWindow { skin_min: millimetres(least(|e| e.0)), skin_max: millimetres(most), fat_min: millimetres(least(|e| e.2)) }
    };
    let at = |spot: &LayerMeasurement| (mm(skin, spot), mm(skin, spot), mm(fat, spot));
    let border = |spot: &LayerMeasurement| {
        let (s, f) = (mm(skin, spot), mm(fat, spot));
        (third(s, thin_skin), third(s, thick_skin), third(f, thin_fat))
    };
    let middle = (thin_skin, thick_skin, thin_fat);
    let (left, right) = (border(&map.left), border(&map.right));
    let thirds = [
        ((0.0, 1.0 / 3.0), window(&[at(&map.left), left])),
        ((1.0 / 3.0, 2.0 / 3.0), window(&[left, middle, right])),
        ((2.0 / 3.0, 1.0), window(&[right, at(&map.right)])),
    ];
    let mut zones: Vec<DepthZone> = Vec::with_capacity(3);
    for (span, window) in thirds {
        let depth = depth_guard_with(window, margin);
        match zones.last_mut().filter(|before| is_one_setting(&before.depth, &depth)) {
            Some(before) => join(before, span.1, window, margin),
            None => zones.push(DepthZone { span, window, depth }),
        }
    }
    zones
}

fn is_one_setting(a: &Result<DepthGuard, DepthRefused>, b: &Result<DepthGuard, DepthRefused>) -> bool {
    match (a, b) {
        (Ok(a), Ok(b)) => (a.at_most - b.at_most).in_mm().abs() <= ONE_SETTING_MM,
        (Err(_), Err(_)) => true,
        _ => false,
    }
}

fn join(zone: &mut DepthZone, end: f64, resolved: FatWindow, margin: Length) {
    let least = |a: Length, b: Length| if a < b { a } else { b };
    let most = |a: Length, b: Length| if a > b { a } else { b };
    zone.span.1 = end;
    zone.window = FatWindow {
        skin_min: least(zone.window.skin_min, resolved.skin_min),
        skin_max: most(zone.window.skin_max, resolved.skin_max),
        fat_min: least(zone.window.fat_min, resolved.fat_min),
    };
    zone.depth = depth_guard_with(zone.window, margin);
}

/// The shallowest safe depth of all zones: the setting for a knife that is set only once; `None` where none is safe.
pub fn shallowest(zones: &[DepthZone]) -> Option<DepthGuard> {
    let guards = || zones.iter().filter_map(|z| z.depth.ok());
    let at_most = guards().map(|g| g.at_most).min_by(|a, b| a.in_mm().total_cmp(&b.in_mm()))?;
    let at_least = guards().map(|g| g.at_least).max_by(|a, b| a.in_mm().total_cmp(&b.in_mm()))?;
    Some(DepthGuard { at_least, at_most })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn spot(skin: f64, fat: f64) -> LayerMeasurement {
        LayerMeasurement { skin: millimetres(skin), fat: millimetres(fat) }
    }

    fn margin() -> Length {
        millimetres(1.5)
    }

    #[test]
    fn an_even_cap_is_one_zone() {
        // TRADE 5.1, by hand: 2.5 + 7 − 1.5 = 8.
        let zones = depth_zones(&FatMap::even(millimetres(2.5), millimetres(7.0)), margin());
        assert_eq!(zones.len(), 1);
        assert_eq!(zones[0].span, (0.0, 1.0));
        assert!((zones[0].depth.unwrap().at_most.in_mm() - 8.0).abs() < 1e-9);
    }

    #[test]
    fn the_thin_end_has_its_own_depth() {
        // By hand: fat 9 at the left, 6 mid, 3 at the right, skin 2 throughout. At the thirds it is 7 and 5.
        // Left: 2 + 7 − 1.5 = 7.5; middle 2 + 5 − 1.5 = 5.5; right 2 + 3 − 1.5 = 3.5.
        let map = FatMap { left: spot(2.0, 9.0), near: spot(2.0, 6.0), far: spot(2.0, 8.0), right: spot(2.0, 3.0) };
        let zones = depth_zones(&map, margin());
        let depths: Vec<f64> = zones.iter().map(|z| z.depth.unwrap().at_most.in_mm()).collect();
        assert_eq!(depths.len(), 3);
        for (depth, want) in depths.iter().zip([7.5, 5.5, 3.5]) {
            assert!((depth - want).abs() < 1e-9, "{depths:?}");
        }
        assert!((shallowest(&zones).unwrap().at_most.in_mm() - 3.5).abs() < 1e-9);
    }

    #[test]
    fn where_nothing_is_safe_it_is_refused_there_and_only_there() {
        // By hand: at the right 2 + 1 − 1.5 = 1.5 does not pass 2 mm of skin; left and middle do.
        let map = FatMap { left: spot(2.0, 8.0), near: spot(2.0, 8.0), far: spot(2.0, 8.0), right: spot(2.0, 1.0) };
        let zones = depth_zones(&map, margin());
        assert!(zones[0].depth.is_ok() && zones.last().unwrap().depth.is_err());
        assert!((zones.last().unwrap().span.0 - 2.0 / 3.0).abs() < 1e-12);
        // More distance from the lean closes the window everywhere.
        let none = depth_zones(&FatMap::even(millimetres(2.0), millimetres(3.0)), millimetres(3.0));
        assert!(none.len() == 1 && none[0].depth.is_err() && shallowest(&none).is_none());
    }

    #[test]
    fn no_zone_is_deeper_than_any_place_in_it_allows() {
        let map = FatMap { left: spot(2.0, 5.2), near: spot(2.5, 5.0), far: spot(3.0, 5.0), right: spot(2.0, 5.4) };
        for zone in depth_zones(&map, margin()) {
            let guard = zone.depth.unwrap();
            assert!(guard.at_most <= zone.window.skin_min + zone.window.fat_min - margin() + millimetres(1e-9));
            assert!(guard.at_least >= zone.window.skin_min);
        }
    }
}
