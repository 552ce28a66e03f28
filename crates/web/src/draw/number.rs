//! Numbers of a picture, written in place: a slice has some six thousand of them.

/// A number for an SVG attribute: two decimals, no trailing zeros.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Number(f64);

pub(crate) fn n(value: f64) -> Number {
    Number(value)
}

impl std::fmt::Display for Number {
    fn fmt(&self, to: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let mut digits = [0; DIGITS];
        match written(self.0, 2, &mut digits) {
            Some(text) => to.write_str(std::str::from_utf8(text).unwrap_or_default()),
            None => write!(to, "{:.0}", self.0),
        }
    }
}

/// More digits than a number of a picture has, with sign and point.
const DIGITS: usize = 24;

/// The number to so many places, from behind: digits, the point where it belongs, the sign; `None` beyond what fits.
fn written(value: f64, mut places: usize, digits: &mut [u8; DIGITS]) -> Option<&[u8]> {
    // Halves go away from zero. A cast and not `round`: that one is a call, and there are thousands of them in a picture.
    let scaled = value.abs() * if places == 1 { 10.0 } else { 100.0 } + 0.5;
    if scaled.is_nan() || scaled >= 1e15 {
        return None;
    }
    let mut left = scaled as u64;
    let negative = value < 0.0 && left > 0;
    while places > 0 && left.is_multiple_of(10) {
        left /= 10;
        places -= 1;
    }
    let mut at = DIGITS;
    let mut digit = 0;
    while left > 0 || digit <= places {
        if digit == places && digit > 0 {
            at -= 1;
            digits[at] = b'.';
        }
        at -= 1;
        digits[at] = b'0' + (left % 10) as u8;
        left /= 10;
        digit += 1;
    }
    if negative {
        at -= 1;
        digits[at] = b'-';
    }
    Some(&digits[at..])
}

/// What a path is drawn by, its points written straight into its text.
#[derive(Debug, Clone, Default)]
pub(crate) struct Path(Vec<u8>);

impl Path {
    /// A path of about so many points.
    pub(crate) fn of(points: usize) -> Self {
        Self(Vec::with_capacity(points * 16))
    }

    fn number(&mut self, value: f64, places: usize) {
        // Nothing of a picture is beyond what fits; if it were, it stands at the edge.
        let mut digits = [0; DIGITS];
        self.0.extend_from_slice(written(value, places, &mut digits).unwrap_or(b"0"));
    }

    fn point(&mut self, by: u8, (x, y): (f64, f64), places: usize) {
        self.0.push(by);
        self.number(x, places);
        self.0.push(b' ');
        self.number(y, places);
    }

    /// Moves there.
    pub(crate) fn to(&mut self, at: (f64, f64)) {
        self.point(b'M', at, 2);
    }

    /// A line there.
    pub(crate) fn line(&mut self, at: (f64, f64)) {
        self.point(b'L', at, 2);
    }

    /// A line through all, from the first.
    pub(crate) fn lines(&mut self, through: impl IntoIterator<Item = (f64, f64)>) {
        for at in through {
            if self.0.is_empty() { self.to(at) } else { self.line(at) }
        }
    }

    /// A line straight up or down to there.
    pub(crate) fn upright(&mut self, y: f64) {
        self.0.push(b'V');
        self.number(y, 2);
    }

    /// A dot: the round end of a line of no length. There are thousands of them, so that they are placed to a tenth.
    pub(crate) fn dot(&mut self, at: (f64, f64)) {
        self.point(b'M', at, 1);
        self.0.extend_from_slice(b"h0");
    }

    /// Whether nothing was drawn.
    pub(crate) fn is_empty(&self) -> bool {
        self.0.is_empty()
    }
}

impl std::fmt::Display for Path {
    fn fmt(&self, to: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        to.write_str(std::str::from_utf8(&self.0).unwrap_or_default())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_written_as_the_standard_library_does() {
        for value in [0.0, -0.001, 0.1, 0.25, 1.0, 10.0, 100.0, -3.456, 12.345, 99.999, 1234.5, -0.5, 0.07, 0.7, 7.0, 1e9] {
            let (own, standard) = (n(value).to_string(), crate::words::trim(value, 2));
            // Halves may go either way: 12.345 is no binary number.
            let near = (own.parse::<f64>().unwrap() - standard.parse::<f64>().unwrap()).abs() <= 0.0100001;
            assert!(near && (own == standard || value == 12.345 || value == -0.001), "{value}: {own} and {standard}");
        }
    }

    #[test]
    fn a_path_says_its_points() {
        let mut path = Path::of(4);
        assert!(path.is_empty());
        path.lines([(0.0, 1.5), (2.25, -3.0)]);
        path.to((10.0, 0.0));
        path.upright(4.126);
        path.dot((1.26, 1.0));
        // By hand.
        assert_eq!(path.to_string(), "M0 1.5L2.25 -3M10 0V4.13M1.3 1h0");
    }
}
