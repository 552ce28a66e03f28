//! What the Cellar shows.

mod one_fire;

use crate::draw::{Board, BoardPiece, Segment, Width, draw_board};
use crate::piece::{Now, Opened, Row, Stop, Unread};
use crate::words::{day_wall, instant, span, wall};
use jiff::{SignedDuration, Timestamp, ZonedDateTime};
use one_fire::{clashes_of, heat_of, words};
use rauchkeller_contract::StepDoc;
use rauchkeller_core::method::{Place, StepKind};
use rauchkeller_core::piece::{Cut, Family, Species};
use rauchkeller_core::run::Clash;
use rauchkeller_core::units::TimeIn;

/// Something hands have to do.
pub struct HandLine {
    pub when: String,
    pub what: String,
    pub href: String,
    pub late: bool,
}

/// Something to keep an eye on.
pub struct WatchLine {
    pub text: String,
    /// The piece it speaks of, where its text begins with that and a colon.
    pub of: String,
    pub severity: String,
    /// Where it is looked at; empty for none.
    pub href: String,
}

/// The Cellar.
pub struct CellarView {
    pub empty: bool,
    pub headline: String,
    pub sub: String,
    pub board_wide: String,
    pub board_narrow: String,
    /// Whether one fire is wanted in two ways at one hour.
    pub has_clash: bool,
    pub by_hand: Vec<HandLine>,
    /// What hands have to do after that.
    pub later: Vec<HandLine>,
    pub watch: Vec<WatchLine>,
    pub hands_href: String,
    /// A refrigerator too warm: said above everything, once for all pieces in it.
    pub stop: Option<Stop>,
}

/// A block of work of one piece.
struct Block<'a> {
    opened: &'a Opened,
    starts: Timestamp,
    hands: SignedDuration,
    doing: String,
    grams: Option<String>,
}

/// Short names of kinds, as said in a list.
fn said(step: &StepDoc, kind: StepKind) -> &'static str {
    match kind.id() {
        "season" => "sauce on",
        "marinate" => "into the bath",
        "drain" => "out of the bath",
        "cover-on" => "salt on the skin",
        "cover-off" => "salt off the skin",
        "lay-out" => "weigh salt",
        "thaw" => "into the refrigerator to thaw",
        "chill" => "into the refrigerator",
        "preheat" => heat_of(step).comes_up(),
        "temper" => "out of the refrigerator",
        "brush-dry" => "brush, dry",
        "roast" => "into the heat",
        "grill" => "grill the skin",
        "rest" => "out of the heat, rest",
        "wash" => "wash hands",
        "turn" => "turn it over",
        "wipe" => "wipe it dry",
        "look" => "look halfway",
        "leftovers" => "leftovers into the cold",
        "slice-test" => "one slice, and look",
        "bones-out" => "bones out",
        "pull-apart" => "pull it apart",
        other => other,
    }
}

/// Blocks of work still to do: neighbouring tasks of one piece without a pause are one block.
fn blocks<'a>(opened: &'a Opened, now: &ZonedDateTime) -> Vec<Block<'a>> {
    let stand = opened.stand(now);
    let mut found: Vec<(Block, Timestamp)> = Vec::new();
    let rows = opened.rows(&stand);
    let mut left: Vec<(&Row, &StepDoc)> = rows.iter().zip(&opened.plan.steps).filter(|(r, s)| !r.over && s.hands_on_min > 0.0).collect();
    left.sort_by_key(|(r, _)| r.starts);
    for (row, step) in left {
        let hands = SignedDuration::from_secs((step.hands_on_min * 60.0) as i64);
        let kind = row.task.kind;
        let grams = (kind == StepKind::Salt).then(|| format!("{} g", step.figure.as_deref().unwrap_or_default()));
        // Hands are free again as soon as it lies in the cold.
        let free = if matches!(row.task.place, Place::Refrigerator | Place::Water) { row.starts + hands } else { row.ends };
        match found.last_mut() {
            Some((block, end))
                if row.starts <= *end + SignedDuration::from_mins(2) && row.task.place == Place::Bench && row.task.beside.is_none() =>
            {
                block.hands += hands;
                block.doing = format!("{}, {}", block.doing, said(step, kind));
                block.grams = block.grams.take().or(grams);
                *end = free;
            }
            _ => found.push((Block { opened, starts: row.starts, hands, doing: said(step, kind).to_owned(), grams }, free)),
        }
    }
    found.into_iter().map(|(block, _)| block).collect()
}

fn lane(place: Place, species: Option<Species>) -> usize {
    match (place, species) {
        (Place::Refrigerator, Some(Species::Poultry)) => 2,
        (Place::Refrigerator, _) => 1,
        (Place::Fire, _) => 3,
        (Place::HotHold | Place::Table, _) => 4,
        // The sink is the bench's.
        (Place::Bench | Place::Water, _) => 0,
    }
}

fn texture(cut: &str) -> &'static str {
    match Cut::find(cut).map(|c| (c.family, c.has_fat_window())) {
        Some((Family::SkinSlab, _)) => "belly",
        Some((Family::Bird | Family::Crown | Family::FlatBird, true)) => "duck",
        Some((Family::Bird | Family::Crown | Family::FlatBird, false)) => "turkey",
        Some((Family::Roast | Family::Rack | Family::Joint, _)) => "roast",
        _ => "steak",
    }
}

fn board_piece(opened: &Opened, now: &ZonedDateTime) -> BoardPiece {
    let species = Cut::find(&opened.piece.cut).map(|c| c.species);
    let mut segments: Vec<Segment> = Vec::new();
    let stand = opened.stand(now);
    for leg in &stand.legs {
        let Some(task) = opened.run.tasks.get(leg.task) else { continue };
        let hands = (leg.place == Place::Bench || task.kind == StepKind::Grill) && task.hands_on.in_s() > 0.5;
        let lane = lane(leg.place, species);
        match segments.last_mut() {
            Some(last) if last.lane == lane => {
                last.to = leg.to;
                last.hands |= hands;
            }
            _ => segments.push(Segment { lane, from: leg.from, to: leg.to, hands }),
        }
    }
    let standing = Now::of(opened, now);
    let stay = stand.legs.iter().find(|leg| opened.run.tasks[leg.task].is_stay());
    let out = stay.filter(|_| stand.left_cold.is_none()).map_or_else(String::new, |leg| format!(" · out {}", wall(leg.to, now)));
    BoardPiece {
        name: opened.piece.name.clone(),
        state: format!("{}{out}", standing.words),
        texture: texture(&opened.piece.cut),
        journey: segments,
        href: format!("/pieces/{}", opened.piece.id),
    }
}

impl CellarView {
    /// Everything of the page, from the pieces and the clock.
    pub fn of(pieces: &[Opened], unread: &[Unread], now: &ZonedDateTime) -> Self {
        let at = now.timestamp();
        let mut work: Vec<Block> = pieces.iter().flat_map(|opened| blocks(opened, now)).collect();
        work.sort_by_key(|b| b.starts);
        let empty = pieces.is_empty() && unread.is_empty();
        let (headline, sub) = headline(&work, now, empty);
        let clashes = clashes_of(pieces, now);
        let board_pieces: Vec<BoardPiece> = pieces.iter().map(|p| board_piece(p, now)).collect();
        let starts = board_pieces.iter().filter_map(|p| p.journey.first().map(|s| s.from)).min().unwrap_or(at);
        let ends = board_pieces.iter().filter_map(|p| p.journey.last().map(|s| s.to)).max().unwrap_or(at);
        // Enough of the past to see where each piece came from, but never so much that the hours to come shrink.
        let from = starts.max(at - SignedDuration::from_hours(30)).min(at - SignedDuration::from_hours(2));
        // Five days, or as far as the first thing that happens.
        let next = board_pieces.iter().flat_map(|p| &p.journey).map(|s| s.from).filter(|from| *from > at).min();
        let as_far_as = |hours: i64| (at + SignedDuration::from_hours(hours)).max(next.unwrap_or(at) + SignedDuration::from_hours(NEAR_H));
        let to = ends.max(at + SignedDuration::from_hours(6)).min(as_far_as(24 * 5));
        let pad = SignedDuration::from_secs((to.duration_since(from).as_secs_f64() * 0.02) as i64);
        let board = Board {
            now: at,
            from: from - pad,
            to: to + pad,
            pieces: board_pieces,
            clashes: clashes.iter().map(|c| (c.from, c.to)).collect(),
            zone: now.time_zone().clone(),
        };
        // A phone shows the next day and a half, and where nothing happens in it, on to what does.
        let near =
            Board { from: (at - SignedDuration::from_hours(5)).max(board.from), to: as_far_as(NEAR_H).min(board.to), ..board.clone() };
        let mut by_hand: Vec<HandLine> = work.iter().map(|b| hand_line(b, now)).collect();
        let later = by_hand.split_off(by_hand.len().min(SOON));
        by_hand.extend(pieces.iter().filter_map(|opened| to_weigh(opened, now)));
        let stop = pieces.iter().filter_map(|opened| Stop::of(opened, now)).find(|stop| stop.standing && stop.is_red());
        Self {
            empty,
            headline,
            sub,
            board_wide: draw_board(&board, Width::Wide),
            board_narrow: draw_board(&near, Width::Narrow),
            has_clash: !clashes.is_empty(),
            hands_href: work.first().map(|b| format!("/pieces/{}/hands", b.opened.piece.id)).unwrap_or_default(),
            by_hand,
            later,
            watch: unread.iter().map(unread_line).chain(watch(pieces, &clashes, stop.as_ref(), now)).collect(),
            stop,
        }
    }
}

/// Hours that a phone's board shows.
const NEAR_H: i64 = 31;

/// So many lines are shown at once; the others open below them.
const SOON: usize = 7;

fn hand_line(block: &Block, now: &ZonedDateTime) -> HandLine {
    let at = now.timestamp();
    HandLine {
        when: if block.starts < at { "now".into() } else { wall(block.starts, now) },
        what: format!("{}: {}", block.opened.piece.name, block.doing),
        href: format!("/pieces/{}", block.opened.piece.id),
        late: at.duration_since(block.starts).as_mins() > 15,
    }
}

/// A weighing teaches the refrigerator something only when some water has gone since the last.
const WEIGH_AGAIN: SignedDuration = SignedDuration::from_hours(5);

/// A piece drying in the cold that has not been weighed for a while.
fn to_weigh(opened: &Opened, now: &ZonedDateTime) -> Option<HandLine> {
    let stand = opened.stand(now);
    let cold = stand.cold.as_ref()?;
    let drying = opened.plan.skin.is_some() && !cold.left && now.timestamp() < cold.out;
    let last = stand.record.weighed.last().map_or(cold.salted - WEIGH_AGAIN, |w| w.at);
    (drying && now.timestamp().duration_since(last) >= WEIGH_AGAIN).then(|| HandLine {
        when: "any time".into(),
        what: format!("{}: weigh in, feel the skin", opened.piece.name),
        href: format!("/pieces/{}/chill", opened.piece.id),
        late: false,
    })
}

fn headline(work: &[Block], now: &ZonedDateTime, empty: bool) -> (String, String) {
    let Some(first) = work.first() else {
        return if empty {
            ("The Cellar is empty".into(), String::new())
        } else {
            ("Nothing more to do".into(), "everything is on the table".into())
        };
    };
    let hands = format!("{} of work", span(first.hands.max(SignedDuration::from_mins(1))));
    let grams = first.grams.as_ref().map_or_else(String::new, |g| format!(", {g}"));
    let what = format!("{}: {}, {hands}{grams}", first.opened.piece.name, first.doing);
    if first.starts <= now.timestamp() + SignedDuration::from_mins(1) {
        return (format!("Now: {}", first.doing.split(", ").next().unwrap_or_default()), what);
    }
    (format!("Nothing to do until {}", wall(first.starts, now)), what)
}

fn unread_line(unread: &Unread) -> WatchLine {
    WatchLine { text: unread.line(), of: String::new(), severity: "red".into(), href: format!("/pieces/{}", unread.id) }
}

fn watch(pieces: &[Opened], clashes: &[Clash], said: Option<&Stop>, now: &ZonedDateTime) -> Vec<WatchLine> {
    let mut lines: Vec<WatchLine> = clashes
        .iter()
        .map(|clash| WatchLine {
            text: format!("{}, from {}", words(clash, pieces), day_wall(clash.from, now)),
            of: String::new(),
            severity: "red".into(),
            href: String::new(),
        })
        .collect();
    let stopped = |opened: &Opened| {
        // What stands above everything already is not said once more of every piece.
        let stop = Stop::of(opened, now).filter(|stop| said.is_none_or(|said| said.text != stop.text))?;
        let text = format!("{}: {}", opened.piece.name, stop.text);
        Some(WatchLine {
            text,
            of: opened.piece.name.clone(),
            severity: stop.severity.into(),
            href: format!("/pieces/{}", opened.piece.id),
        })
    };
    // What can hurt comes first.
    lines.splice(0..0, pieces.iter().filter_map(stopped));
    for opened in pieces {
        for caution in
            opened.plan.cautions.iter().filter(|c| matches!(c.code.as_str(), "storage-limit" | "short-rest" | "skin-wet" | "bought-when"))
        {
            let href = format!("/pieces/{}", opened.piece.id);
            let text = format!("{}: {}", opened.piece.name, caution.text);
            lines.push(WatchLine { text, of: opened.piece.name.clone(), severity: caution.severity.clone(), href });
        }
        if opened.record().weighed.iter().any(|w| w.says.is_open()) {
            let text = format!("{}: a weighing does not fit the others; where it rests you are asked about it", opened.piece.name);
            lines.push(WatchLine {
                text,
                of: opened.piece.name.clone(),
                severity: "amber".into(),
                href: format!("/pieces/{}/chill", opened.piece.id),
            });
        }
        let meal = instant(&opened.plan.serve_at);
        if meal < now.timestamp() {
            lines.push(WatchLine {
                text: format!("{}: the meal was {}. Tick what is done, or tell how it was.", opened.piece.name, wall(meal, now)),
                of: opened.piece.name.clone(),
                severity: "amber".into(),
                href: format!("/pieces/{}", opened.piece.id),
            });
        }
    }
    once(lines)
}

/// The same warning of several pieces is said once, with all their names.
fn once(lines: Vec<WatchLine>) -> Vec<WatchLine> {
    let mut said: Vec<(String, Vec<String>, WatchLine)> = Vec::new();
    for line in lines {
        let (name, text) = match (&line.of, line.text.split_at_checked(line.of.len() + 2)) {
            (of, Some((_, text))) if !of.is_empty() => (of.clone(), text.to_owned()),
            _ => (String::new(), line.text.clone()),
        };
        match said.iter_mut().find(|(known, names, _)| !name.is_empty() && !names.is_empty() && *known == text) {
            Some((_, names, _)) if names.contains(&name) => {}
            Some((_, names, _)) => names.push(name),
            None => said.push((text, if name.is_empty() { vec![] } else { vec![name] }, line)),
        }
    }
    let join = |(text, names, line): (String, Vec<String>, WatchLine)| match names.len() {
        0 | 1 => line,
        _ => WatchLine { text: format!("{}: {text}", names.join("; ")), href: String::new(), ..line },
    };
    said.into_iter().map(join).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use rauchkeller_core::run::{WeighingDoubt, What};
    use rauchkeller_core::units::grams;

    fn now(text: &str) -> ZonedDateTime {
        text.parse().unwrap()
    }

    #[test]
    fn the_headline_waits_for_the_next_hands() {
        let view = CellarView::of(&[opened(&[])], &[], &now("2026-12-10T12:00[Europe/Vienna]"));
        assert!(view.headline.starts_with("Nothing to do until Fri"), "{}", view.headline);
        assert!(view.sub.contains("weigh salt, dry, pierce, sauce on, salt") && view.sub.contains("of work"), "{}", view.sub);
        assert_eq!(view.by_hand.len(), view.by_hand.iter().filter(|l| !l.late).count());
    }

    #[test]
    fn what_is_due_is_said_now_and_late_is_late() {
        let view = CellarView::of(&[opened(&[])], &[], &now("2026-12-12T10:00[Europe/Vienna]"));
        assert!(view.headline.starts_with("Now: "), "{}", view.headline);
        assert!(view.by_hand[0].late);
    }

    #[test]
    fn a_meal_that_has_passed_is_asked_about() {
        let view = CellarView::of(&[opened(&[])], &[], &now("2026-12-13T10:00[Europe/Vienna]"));
        assert!(view.watch.iter().any(|w| w.text.contains("the meal was Sat 19:00")));
    }

    #[test]
    fn an_empty_cellar_says_so() {
        let view = CellarView::of(&[], &[], &now("2026-12-10T12:00[Europe/Vienna]"));
        assert!(view.empty && view.headline == "The Cellar is empty" && view.hands_href.is_empty());
    }

    #[test]
    fn poultry_lies_lowest() {
        assert_eq!((lane(Place::Refrigerator, Some(Species::Poultry)), lane(Place::Refrigerator, Some(Species::Beef))), (2, 1));
    }

    #[test]
    fn a_drying_piece_wants_to_be_weighed_now_and_then() {
        let opened = opened(&[("salt", "2026-12-11T13:00:00Z"), ("chill", "2026-12-11T13:05:00Z")]);
        let at = |text: &str| CellarView::of(std::slice::from_ref(&opened), &[], &now(text)).by_hand;
        let asks = |lines: &[HandLine]| lines.iter().any(|l| l.what.contains("weigh in") && l.href.ends_with("/chill"));
        assert!(asks(&at("2026-12-11T15:00[Europe/Vienna]")), "never weighed");
        let weigh =
            |doubt| What::Weighed { gross: grams(2418.0), tare: grams(0.0), fineness: grams(1.0), tray: None, from_scale: false, doubt };
        let weighed = opened.with("2026-12-11T13:30:00Z", weigh(None));
        let at = |text: &str| CellarView::of(std::slice::from_ref(&weighed), &[], &now(text)).by_hand;
        assert!(!asks(&at("2026-12-11T16:00[Europe/Vienna]")), "just weighed");
        assert!(asks(&at("2026-12-11T22:00[Europe/Vienna]")), "seven hours later");
        // A weighing that does not fit is watched until somebody answers.
        let doubted = opened.with("2026-12-11T13:30:00Z", weigh(Some(WeighingDoubt { kind: "tray-missing".into(), off: grams(640.0) })));
        let view = CellarView::of(std::slice::from_ref(&doubted), &[], &now("2026-12-11T16:00[Europe/Vienna]"));
        assert!(view.watch.iter().any(|w| w.text.contains("does not fit")));
    }
}
