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

/// A tridiagonal matrix factored once and solved for several right sides.
///
/// Row i reads `low[i]·x[i−1] + mid[i]·x[i] + up[i]·x[i+1] = r[i]`; cost is linear. Eliminated from both ends
/// towards the middle row (the Thomas algorithm twice over, also called the BABE factorization): the two chains do not
/// wait for each other, so that a processor runs them side by side.
/// Stable without pivoting for the diagonally dominant matrices of implicit diffusion.
#[derive(Default)]
pub(crate) struct Tridiagonal {
    /// From the first row down to the middle.
    head: Vec<Pivot>,
    /// From the last row up to the middle.
    tail: Vec<Pivot>,
    /// low, 1 ÷ pivot, up of the middle row.
    middle: [f64; 3],
}

/// One eliminated row: `x = (r·inverse − chained·before) − onward·x(next towards the middle)`.
#[derive(Clone, Copy)]
struct Pivot {
    inverse: f64,
    chained: f64,
    onward: f64,
}

impl Pivot {
    fn after(before: Option<&Self>, chained: f64, mid: f64, onward: f64) -> Self {
        let inverse = 1.0 / (mid - chained * before.map_or(0.0, |b| b.onward));
        Self { inverse, chained: chained * inverse, onward: onward * inverse }
    }
}

impl Tridiagonal {
    /// Factors the matrix, reusing the buffers of the last one.
    pub(crate) fn factor(&mut self, low: &[f64], mid: &[f64], up: &[f64]) {
        let n = mid.len();
        self.head.clear();
        self.tail.clear();
        if n == 0 {
            return;
        }
        let m = n / 2;
        for i in 0..m {
            self.head.push(Pivot::after(self.head.last(), low[i], mid[i], up[i]));
        }
        for i in (m + 1..n).rev() {
            self.tail.push(Pivot::after(self.tail.last(), up[i], mid[i], low[i]));
        }
        // The first and the last row have no neighbour outside.
        let (low, up) = (if m > 0 { low[m] } else { 0.0 }, if m + 1 < n { up[m] } else { 0.0 });
        let from = |side: &[Pivot]| side.last().map_or(0.0, |p| p.onward);
        self.middle = [low, 1.0 / (mid[m] - low * from(&self.head) - up * from(&self.tail)), up];
    }

    /// Solves in place: `r` goes in, `x` comes out.
    pub(crate) fn solve(&self, r: &mut [f64]) {
        if r.is_empty() {
            return;
        }
        let (above, rest) = r.split_at_mut(self.head.len());
        let [middle, below @ ..] = rest else { return };
        let (mut down, mut up) = (0.0, 0.0);
        let mut bottom = below.iter_mut().rev().zip(&self.tail);
        for (value, pivot) in above.iter_mut().zip(&self.head) {
            down = *value * pivot.inverse - pivot.chained * down;
            *value = down;
            if let Some((value, pivot)) = bottom.next() {
                up = *value * pivot.inverse - pivot.chained * up;
                *value = up;
            }
        }
        let [low, inverse, high] = self.middle;
        *middle = (*middle - low * down - high * up) * inverse;
        let (mut up, mut down) = (*middle, *middle);
        let mut bottom = below.iter_mut().zip(self.tail.iter().rev());
        for (value, pivot) in above.iter_mut().zip(&self.head).rev() {
            up = *value - pivot.onward * up;
            *value = up;
            if let Some((value, pivot)) = bottom.next() {
                down = *value - pivot.onward * down;
                *value = down;
            }
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

    #[test]
    fn tridiagonal_solves_what_a_closed_form_answers() {
        // −x″ = 1 with both ends held at 0, by second differences (exact for a parabola): x(i) = (i+1)(n−i)/2.
        for n in 1..40_usize {
            let mut matrix = Tridiagonal::default();
            matrix.factor(&vec![-1.0; n], &vec![2.0; n], &vec![-1.0; n]);
            let mut x = vec![1.0; n];
            matrix.solve(&mut x);
            for (i, x) in x.iter().enumerate() {
                let want = (i + 1) as f64 * (n - i) as f64 / 2.0;
                assert!((x - want).abs() < 1e-9 * want, "{n} rows, row {i}: {x} is not {want}");
            }
        }
    }

    proptest::proptest! {
        /// Whatever the matrix, as long as its diagonal rules: put back in, the answer gives the right side again.
        #[test]
        fn tridiagonal_answers_any_dominant_matrix(rows in proptest::collection::vec((-1.0..1.0f64, 2.1..9.0f64, -1.0..1.0f64, -50.0..50.0f64), 1..60)) {
            let pick = |f: fn(&(f64, f64, f64, f64)) -> f64| rows.iter().map(f).collect::<Vec<f64>>();
            let (low, mid, up, right) = (pick(|r| r.0), pick(|r| r.1), pick(|r| r.2), pick(|r| r.3));
            let mut matrix = Tridiagonal::default();
            matrix.factor(&low, &mid, &up);
            let mut x = right.clone();
            matrix.solve(&mut x);
            for i in 0..rows.len() {
                let before = if i > 0 { low[i] * x[i - 1] } else { 0.0 };
                let after = if i + 1 < rows.len() { up[i] * x[i + 1] } else { 0.0 };
                proptest::prop_assert!((before + mid[i] * x[i] + after - right[i]).abs() < 1e-9, "row {i}");
            }
        }
    }
}
