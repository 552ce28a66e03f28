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
/// A tick ends a step, or begins it where that is what hands do ("into the refrigerator"); the
/// neighbours follow. Before the first step still to do, nothing is left open.
pub fn journey(opened: &Opened) -> Vec<Leg> {
    let mut legs: Vec<Leg> = Vec::new();
    for (step, row) in opened.piece.steps.iter().enumerate().filter(|(_, s)| s.kind != "preheat") {
        let (mut from, mut to) = (row.planned_start, row.planned_end);
        match row.done_at {
            Some(done) if tick_begins(&row.kind) => from = done,
            Some(done) => to = done,
            None => {}
        }
        if let Some(before) = legs.last_mut() {
            // A piece is always somewhere: the leg before ends where this one begins.
            if row.done_at.is_some() && tick_begins(&row.kind) {
                before.to = from.max(before.from);
            } else {
                from = before.to;
            }
        } else if row.done_at.is_some() && !tick_begins(&row.kind) {
            from = from.min(to);
        }
        to = to.max(from);
        legs.push(Leg { step, kind: row.kind.clone(), place: row.place.clone(), from, to });
    }
    legs
}

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
            "lay-out" | "temper" => since = since.or(Some(done)),
            "chill" | "brush-dry" | "roast" => {
                if let Some(out) = since.take() {
                    sum += done.duration_since(out);
                }
            }
            // The first touch without laying out, or out of the cold without standing.
            "dry" | "salt" | "pierce" | "loosen" => since = since.or(Some(row.planned_start.min(done))),
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
    use rauchkeller_contract::{EXAMPLE, plan_from};
    use rauchkeller_store::{Piece, PieceId, Step, StepId};
    use uuid::Uuid;

    fn opened(ticks: &[(&str, &str)]) -> Opened {
        let now = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
        let plan = plan_from(&serde_json::from_str(EXAMPLE).unwrap(), &now).unwrap();
        let new = crate::piece::draft_piece("k".into(), &serde_json::Value::Null, &plan).into_new();
        let steps = new
            .steps
            .into_iter()
            .zip(0..)
            .map(|((kind, place, planned_start, planned_end), position)| Step {
                id: StepId(Uuid::now_v7()),
                position,
                done_at: ticks.iter().find(|(k, _)| *k == kind).map(|(_, at)| at.parse().unwrap()),
                kind,
                place,
                planned_start,
                planned_end,
            })
            .collect();
        let piece = Piece {
            id: PieceId(Uuid::now_v7()),
            name: new.name,
            cut: new.cut,
            schema_no: 1,
            request: String::new(),
            plan: String::new(),
            version: 1,
            serve_at: new.serve_at,
            created_at: new.serve_at,
            finished_at: None,
            deleted_at: None,
            steps,
            verdict: None,
        };
        Opened { piece, plan }
    }

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
    fn time_out_of_the_cold_is_one_sum() {
        let ticks = [("lay-out", "2026-12-11T15:00:00Z"), ("chill", "2026-12-11T15:25:00Z"), ("temper", "2026-12-12T15:00:00Z")];
        let (sum, since) = out_of_cold(&opened(&ticks), "2026-12-12T15:10:00Z".parse().unwrap());
        assert_eq!((sum.as_mins(), since), (35, Some("2026-12-12T15:00:00Z".parse().unwrap())));
        assert_eq!(out_of_cold(&opened(&[]), "2026-12-12T15:10:00Z".parse().unwrap()).0.as_mins(), 0);
    }
}
