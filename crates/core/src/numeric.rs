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
/// Row i reads `low[i]·x[i−1] + mid[i]·x[i] + up[i]·x[i+1] = r[i]`; cost is linear. Three rows are taken out, and the four blocks
/// between them are eliminated side by side (the Thomas algorithm), since a processor would spend most of its time waiting for
/// one chain. The three rows then follow from what their neighbours answered, and their part is taken off the blocks (a Schur
/// complement: the SPIKE algorithm with one row a seam).
/// Stable without pivoting for the diagonally dominant matrices of implicit diffusion.
#[derive(Debug, Clone, Default)]
pub(crate) struct Tridiagonal {
    rows: usize,
    /// Row by row of the blocks, all four side by side; the last may be there for some of them only.
    pivots: Vec<Side>,
    /// What each block answers to a 1 in the seam before it, and in the seam after it.
    answers: [Vec<f64>; 2],
    /// The seams: low, mid and up of what is left of the matrix in them, and of the matrix itself.
    seams: [Seam; BLOCKS - 1],
}

const BLOCKS: usize = 4;

/// One eliminated row: `x = (r·inverse − chained·before) − onward·x(next)`.
#[derive(Debug, Clone, Copy, Default)]
struct Pivot {
    inverse: f64,
    chained: f64,
    onward: f64,
}

/// A row of each block, lying as the processor takes them.
#[derive(Debug, Clone, Copy, Default)]
struct Side {
    inverse: [f64; BLOCKS],
    chained: [f64; BLOCKS],
    onward: [f64; BLOCKS],
}

impl Side {
    fn of(pivots: &[Pivot; BLOCKS]) -> Self {
        Self { inverse: pivots.map(|p| p.inverse), chained: pivots.map(|p| p.chained), onward: pivots.map(|p| p.onward) }
    }
}

#[derive(Debug, Clone, Copy, Default)]
struct Seam {
    /// To the row before and the row after, in the matrix.
    low: f64,
    up: f64,
    /// 1 ÷ pivot of the seam among the seams, what chains it to the one before, what it hands on to the next.
    pivot: Pivot,
}

/// The four blocks of a vector, with the seams between them.
fn blocks<T>(rows: usize, all: &mut [T]) -> ([&mut [T]; BLOCKS], [usize; BLOCKS]) {
    let mut rest = all;
    let mut starts = [0; BLOCKS];
    let mut start = 0;
    let parts = std::array::from_fn(|k| {
        let (block, after) = std::mem::take(&mut rest).split_at_mut(block_rows(rows, k));
        starts[k] = start;
        start += block.len() + 1;
        rest = after.get_mut(1..).unwrap_or_default();
        block
    });
    (parts, starts)
}

/// Rows of a block; those that do not share out evenly go to the first ones.
fn block_rows(rows: usize, block: usize) -> usize {
    let inside = rows - (BLOCKS - 1);
    inside / BLOCKS + usize::from(block < inside % BLOCKS)
}

/// Fewer rows than this are one block: seams would have no neighbours.
const FEW: usize = 2 * BLOCKS + 1;

impl Tridiagonal {
    /// Factors the matrix, reusing the buffers of the last one.
    pub(crate) fn factor(&mut self, low: &[f64], mid: &[f64], up: &[f64]) {
        let n = mid.len();
        self.rows = n;
        self.pivots.clear();
        if n < FEW {
            let mut before = Pivot::default();
            for i in 0..n {
                before = pivot_after(before, if i > 0 { low[i] } else { 0.0 }, mid[i], if i + 1 < n { up[i] } else { 0.0 });
                self.pivots.push(Side::of(&[before; BLOCKS]));
            }
            return;
        }
        let mut starts = [0; BLOCKS + 1];
        for k in 0..BLOCKS {
            starts[k + 1] = starts[k] + block_rows(n, k) + 1;
        }
        let mut before = [Pivot::default(); BLOCKS];
        for i in 0..block_rows(n, 0) {
            for (k, before) in before.iter_mut().enumerate().filter(|(k, _)| i < block_rows(n, *k)) {
                let (row, last) = (starts[k] + i, i + 1 == block_rows(n, k));
                let chained = if i > 0 { low[row] } else { 0.0 };
                *before = pivot_after(*before, chained, mid[row], if last { 0.0 } else { up[row] });
            }
            self.pivots.push(Side::of(&before));
        }
        // What each block answers to its seams.
        let mut answers = std::mem::take(&mut self.answers);
        for answer in &mut answers {
            answer.clear();
            answer.resize(n, 0.0);
        }
        for k in 0..BLOCKS {
            if k > 0 {
                answers[0][starts[k]] = low[starts[k]];
            }
            if k + 1 < BLOCKS {
                answers[1][starts[k + 1] - 2] = up[starts[k + 1] - 2];
            }
        }
        self.solve_blocks(&mut answers[0]);
        self.solve_blocks(&mut answers[1]);
        let mut before = Pivot::default();
        for k in 0..BLOCKS - 1 {
            let row = starts[k + 1] - 1;
            let (low, up) = (low[row], up[row]);
            let pivot = mid[row] - low * answers[1][row - 1] - up * answers[0][row + 1];
            // Seams meet through the block between them.
            before = pivot_after(before, -low * answers[0][row - 1], pivot, -up * answers[1][row + 1]);
            self.seams[k] = Seam { low, up, pivot: before };
        }
        self.answers = answers;
    }

    /// Solves in place: `r` goes in, `x` comes out.
    pub(crate) fn solve(&self, r: &mut [f64]) {
        if self.rows < FEW {
            let mut x = 0.0;
            for (value, row) in r.iter_mut().zip(&self.pivots) {
                x = *value * row.inverse[0] - row.chained[0] * x;
                *value = x;
            }
            x = 0.0;
            for (value, row) in r.iter_mut().zip(&self.pivots).rev() {
                x = *value - row.onward[0] * x;
                *value = x;
            }
            return;
        }
        self.solve_blocks(r);
        let mut x = [0.0; BLOCKS + 1];
        let mut row = 0;
        for (k, seam) in self.seams.iter().enumerate() {
            row += block_rows(self.rows, k);
            let left = r[row] - seam.low * r[row - 1] - seam.up * r[row + 1];
            x[k + 1] = left * seam.pivot.inverse - seam.pivot.chained * x[k];
            row += 1;
        }
        for (k, seam) in self.seams.iter().enumerate().rev() {
            x[k + 1] -= seam.pivot.onward * x[k + 2];
        }
        let mut row = 0;
        for k in 0..BLOCKS {
            let rows = row..row + block_rows(self.rows, k);
            let (before, after) = (x[k], x[k + 1]);
            let answers = self.answers[0][rows.clone()].iter().zip(&self.answers[1][rows.clone()]);
            for (value, (a, b)) in r[rows.clone()].iter_mut().zip(answers) {
                *value -= before * a + after * b;
            }
            row = rows.end;
            if k + 1 < BLOCKS {
                r[row] = after;
                row += 1;
            }
        }
    }

    /// Solves each block by itself.
    fn solve_blocks(&self, r: &mut [f64]) {
        let ([a, b, c, d], _) = blocks(self.rows, r);
        // As many rows as all have.
        let all = d.len();
        let mut x = [0.0; BLOCKS];
        let rows = a.iter_mut().zip(b.iter_mut()).zip(c.iter_mut().zip(d.iter_mut()));
        for (((a, b), (c, d)), p) in rows.zip(&self.pivots) {
            x = std::array::from_fn(|k| [*a, *b, *c, *d][k] * p.inverse[k] - p.chained[k] * x[k]);
            [*a, *b, *c, *d] = x;
        }
        // A row that only some have: down, and at once up again.
        let mut up = [0.0; BLOCKS];
        for (k, block) in [&mut *a, &mut *b, &mut *c].into_iter().enumerate() {
            if let Some(last) = block.get_mut(all) {
                let row = &self.pivots[all];
                *last = *last * row.inverse[k] - row.chained[k] * x[k];
                up[k] = *last;
            }
        }
        let rows = a[..all].iter_mut().zip(b[..all].iter_mut()).zip(c[..all].iter_mut().zip(d.iter_mut()));
        for (((a, b), (c, d)), p) in rows.zip(&self.pivots[..all]).rev() {
            up = std::array::from_fn(|k| [*a, *b, *c, *d][k] - p.onward[k] * up[k]);
            [*a, *b, *c, *d] = up;
        }
    }
}

fn pivot_after(before: Pivot, chained: f64, mid: f64, onward: f64) -> Pivot {
    let inverse = 1.0 / (mid - chained * before.onward);
    Pivot { inverse, chained: chained * inverse, onward: onward * inverse }
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
