//! Names in a picture: each where no other lies yet.

use super::{n, text};
use std::fmt::Write;

/// About as wide is a letter of 15 px, and as high is its line above and below the ground line.
const LETTER: f64 = 8.0;
const ABOVE: f64 = 12.5;
const BELOW: f64 = 4.5;

/// Where words may stand: the point on the ground line, and which end of them it is.
pub(super) type At = (f64, f64, &'static str);

/// What is written already.
pub(super) struct Labels {
    wide: f64,
    taken: Vec<[f64; 4]>,
}

impl Labels {
    /// An empty picture, so wide.
    pub fn new(wide: f64) -> Self {
        Self { wide, taken: vec![] }
    }

    /// Writes words at the first of these places where they lie over nothing and stay in the picture; nowhere, if there is none.
    pub fn put(&mut self, svg: &mut String, class: &str, words: &str, places: &[At]) -> bool {
        let long = words.chars().count() as f64 * LETTER;
        let rect = |(x, y, anchor): At| {
            let left = match anchor {
                "middle" => x - long / 2.0,
                "end" => x - long,
                _ => x,
            };
            [left, y - ABOVE, left + long, y + BELOW]
        };
        let free = |r: [f64; 4]| {
            r[0] >= -2.0 && r[2] <= self.wide + 2.0 && !self.taken.iter().any(|t| r[0] < t[2] && t[0] < r[2] && r[1] < t[3] && t[1] < r[3])
        };
        let Some(at) = places.iter().copied().find(|at| free(rect(*at))) else { return false };
        self.taken.push(rect(at));
        let (x, y, anchor) = at;
        let _ = write!(svg, r#"<text class="{class}" x="{}" y="{}" text-anchor="{anchor}">{}</text>"#, n(x), n(y), text(words));
        true
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_stands_where_nothing_lies_or_nowhere() {
        let (mut svg, mut labels) = (String::new(), Labels::new(200.0));
        assert!(labels.put(&mut svg, "label", "finish", &[(4.0, 50.0, "start")]));
        // Over it there is no room, below it there is; beyond the picture there is none.
        assert!(labels.put(&mut svg, "label", "authority", &[(10.0, 52.0, "start"), (10.0, 70.0, "start")]));
        assert!(!labels.put(&mut svg, "label", "authority", &[(10.0, 66.0, "start"), (190.0, 20.0, "start"), (8.0, 20.0, "end")]));
        assert!(svg.contains(r#"y="70""#) && svg.matches("<text").count() == 2, "{svg}");
    }
}
