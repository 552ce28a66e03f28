//! Where a piece really was and will be: planned times, put right by what was ticked.

use super::Opened;
use jiff::{SignedDuration, Timestamp};

/// One step of the journey with its effective times.
#[derive(Debug, Clone, PartialEq)]
pub struct Leg {
    /// Index of the step in the plan.
    pub step: usize,
    /// Stable name of the kind.
    pub kind: String,
    /// `bench`, `refrigerator`, `fire` or `table`.
    pub place: String,
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
}

/// Steps whose tick says that it begins, because that is what hands do: into the cold, out of it,
/// into the heat, out of it. All others are ticked when they end.
pub fn tick_begins(kind: &str) -> bool {
    matches!(kind, "chill" | "temper" | "roast" | "rest")
}

/// The journey of a piece. Preheating is no part of it: the piece is elsewhere.
///
/// A tick ends a step, or begins it where that is what hands do ("into the refrigerator"). The borders
/// that were ticked stand; planned ones give way to them on either side, so that a piece is always
/// somewhere and never in two places.
pub fn journey(opened: &Opened) -> Vec<Leg> {
    let rows: Vec<_> = opened.piece.steps.iter().enumerate().filter(|(_, s)| s.kind != "preheat").collect();
    let Some((_, last)) = rows.last() else { return vec![] };
    let mut borders: Vec<Timestamp> = rows.iter().map(|(_, row)| row.planned_start).chain([last.planned_end]).collect();
    let mut ticked = vec![false; borders.len()];
    for (i, (_, row)) in rows.iter().enumerate() {
        if let Some(done) = row.done_at.filter(|_| !prepared_ahead(row)) {
            let border = if tick_begins(&row.kind) { i } else { i + 1 };
            borders[border] = done;
            ticked[border] = true;
        }
    }
    // Ticked borders in their order; then each planned one between its ticked neighbours.
    let mut floor: Option<Timestamp> = None;
    for (border, _) in borders.iter_mut().zip(&ticked).filter(|(_, ticked)| **ticked) {
        *border = floor.map_or(*border, |f| f.max(*border));
        floor = Some(*border);
    }
    let mut ceiling: Option<Timestamp> = None;
    for (border, ticked) in borders.iter_mut().zip(&ticked).rev() {
        if !ticked {
            *border = ceiling.map_or(*border, |c| c.min(*border));
        }
        ceiling = Some(*border);
    }
    for i in 1..borders.len() {
        borders[i] = borders[i].max(borders[i - 1]);
    }
    rows.iter()
        .zip(borders.windows(2))
        .map(|((step, row), span)| Leg { step: *step, kind: row.kind.clone(), place: row.place.clone(), from: span[0], to: span[1] })
        .collect()
}

/// Salt weighed and tools laid out long before: the meat was not touched, and stays where it lay.
fn prepared_ahead(row: &rauchkeller_store::Step) -> bool {
    row.kind == "lay-out" && row.done_at.is_some_and(|done| row.planned_start.duration_since(done) > AHEAD)
}

/// From here on laying out is preparing ahead, not the beginning of the work.
const AHEAD: SignedDuration = SignedDuration::from_hours(1);

/// How long it has been out of the refrigerator in sum, and since when it is out now.
///
/// Counted from drying it to the cold, and from leaving the cold to the heat. Nothing counts before
/// the first tick.
pub fn out_of_cold(opened: &Opened, now: Timestamp) -> (SignedDuration, Option<Timestamp>) {
    let steps = &opened.piece.steps;
    let mut sum = SignedDuration::ZERO;
    let mut since: Option<Timestamp> = None;
    for row in steps {
        let Some(done) = row.done_at else { continue };
        match row.kind.as_str() {
            "lay-out" if prepared_ahead(row) => {}
            "lay-out" | "temper" => since = since.or(Some(done)),
            "chill" | "brush-dry" | "roast" => {
                if let Some(out) = since.take() {
                    sum += done.duration_since(out);
                }
            }
            // The first touch without laying out: it was out for as long as that takes.
            "dry" | "salt" | "pierce" | "loosen" => since = since.or(Some(done - row.planned_end.duration_since(row.planned_start))),
            _ => {}
        }
    }
    if let Some(out) = since {
        sum += now.duration_since(out).max(SignedDuration::ZERO);
    }
    (sum, since)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;

    #[test]
    fn the_journey_is_whole_and_follows_the_ticks() {
        let opened = opened(&[("salt", "2026-12-11T15:00:00Z"), ("chill", "2026-12-11T15:05:00Z")]);
        let legs = journey(&opened);
        assert!(legs.windows(2).all(|pair| pair[0].to == pair[1].from), "{legs:#?}");
        let cold = legs.iter().find(|l| l.kind == "chill").unwrap();
        assert_eq!(cold.from, "2026-12-11T15:05:00Z".parse().unwrap());
        assert!(legs.iter().all(|l| l.kind != "preheat"));
    }

    #[test]
    fn salt_weighed_the_day_before_draws_no_meat_on_the_bench() {
        let planned = opened(&[]).piece.steps[0].planned_start;
        let ago = |minutes: i64| (planned - SignedDuration::from_mins(minutes)).to_string();
        let (now, laid_out) = (planned - SignedDuration::from_hours(13), ago(15 * 60));
        let early = opened(&[("lay-out", &laid_out)]);
        assert_eq!(journey(&early)[0].from, planned);
        assert_eq!(out_of_cold(&early, now), (SignedDuration::ZERO, None));
        // The first touch counts, whenever it is; and so does laying out when the work begins.
        let dried = ago(14 * 60);
        let touched = opened(&[("lay-out", &laid_out), ("dry", &dried)]);
        let dried = dried.parse().unwrap();
        assert!(out_of_cold(&touched, now).1.is_some_and(|since| since <= dried && dried.duration_since(since).as_mins() < 10));
        assert!(journey(&touched)[0].from <= dried);
        let begun = ago(30);
        assert_eq!(out_of_cold(&opened(&[("lay-out", &begun)]), planned).1, Some(begun.parse().unwrap()));
    }

    #[test]
    fn time_out_of_the_cold_is_one_sum() {
        let ticks = [("lay-out", "2026-12-11T15:00:00Z"), ("chill", "2026-12-11T15:25:00Z"), ("temper", "2026-12-12T15:00:00Z")];
        let (sum, since) = out_of_cold(&opened(&ticks), "2026-12-12T15:10:00Z".parse().unwrap());
        assert_eq!((sum.as_mins(), since), (35, Some("2026-12-12T15:00:00Z".parse().unwrap())));
        assert_eq!(out_of_cold(&opened(&[]), "2026-12-12T15:10:00Z".parse().unwrap()).0.as_mins(), 0);
    }
}
