//! Two small numerical tools shared by salt travel, drying and heat.

/// Straight lines between the points of a table; constant outside it.
///
/// `table` is sorted by its first column.
pub(crate) fn interpolate(table: &[(f64, f64)], x: f64) -> f64 {
    let Some(&(first_x, first_y)) = table.first() else { return f64::NAN };
    if x <= first_x {
        return first_y;
    }
    for pair in table.windows(2) {
        let ((x0, y0), (x1, y1)) = (pair[0], pair[1]);
        if x <= x1 {
            return y0 + (y1 - y0) * (x - x0) / (x1 - x0);
        }
    }
    table[table.len() - 1].1
}

/// A tridiagonal matrix factored once (Thomas algorithm) and solved for several right sides.
///
/// Row i reads `low[i]·x[i−1] + mid[i]·x[i] + up[i]·x[i+1] = r[i]`; cost is linear.
/// Stable without pivoting for the diagonally dominant matrices of implicit diffusion.
#[derive(Default)]
pub(crate) struct Tridiagonal {
    low: Vec<f64>,
    inverse: Vec<f64>,
    ratio: Vec<f64>,
}

impl Tridiagonal {
    /// Factors the matrix, reusing the buffers of the last one.
    pub(crate) fn factor(&mut self, low: &[f64], mid: &[f64], up: &[f64]) {
        self.low.clear();
        self.low.extend_from_slice(low);
        self.inverse.clear();
        self.ratio.clear();
        let mut ratio = 0.0;
        for i in 0..mid.len() {
            let inverse = 1.0 / (mid[i] - low[i] * ratio);
            ratio = up[i] * inverse;
            self.inverse.push(inverse);
            self.ratio.push(ratio);
        }
    }

    /// Solves in place: `r` goes in, `x` comes out.
    pub(crate) fn solve(&self, r: &mut [f64]) {
        let mut before = 0.0;
        for ((value, low), inverse) in r.iter_mut().zip(&self.low).zip(&self.inverse) {
            before = (*value - low * before) * inverse;
            *value = before;
        }
        let mut after = 0.0;
        for (value, ratio) in r.iter_mut().zip(&self.ratio).rev() {
            after = *value - ratio * after;
            *value = after;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn interpolation_is_straight_between_and_flat_outside() {
        let table = [(0.0, 1.0), (10.0, 2.0)];
        assert_eq!((interpolate(&table, -5.0), interpolate(&table, 5.0), interpolate(&table, 50.0)), (1.0, 1.5, 2.0));
    }

    #[test]
    fn tridiagonal_solves_a_system_done_by_hand() {
        // [2 −1 0; −1 2 −1; 0 −1 2] x = [1 0 1] has x = [1 1 1].
        let mut matrix = Tridiagonal::default();
        matrix.factor(&[0.0, -1.0, -1.0], &[2.0; 3], &[-1.0, -1.0, 0.0]);
        let mut x = [1.0, 0.0, 1.0];
        matrix.solve(&mut x);
        assert!(x.iter().all(|v| (v - 1.0).abs() < 1e-12));
    }
}
