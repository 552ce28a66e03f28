//! What the Cellar shows.

use crate::draw::{Board, BoardPiece, Segment, Width, draw_board};
use crate::piece::{InTheCold, Opened, Standing, Stop, Unread, journey};
use crate::words::{day_wall, instant, span, wall};
use jiff::{SignedDuration, Timestamp, ZonedDateTime};
use rauchkeller_core::piece::{Cut, Family, Species};

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
fn said(kind: &str) -> &str {
    match kind {
        "lay-out" => "weigh salt",
        "thaw" => "into the refrigerator to thaw",
        "chill" => "into the refrigerator",
        "preheat" => "oven on",
        "temper" => "out of the refrigerator",
        "brush-dry" => "brush, dry",
        "roast" => "into the heat",
        "grill" => "grill the skin",
        "rest" => "out of the heat, rest",
        "wash" => "wash hands",
        other => other,
    }
}

/// Blocks of work still to do: neighbouring steps of one piece without a pause are one block.
fn blocks(opened: &Opened) -> Vec<Block<'_>> {
    let mut found: Vec<(Block, Timestamp)> = Vec::new();
    for (row, step) in opened
        .piece
        .steps
        .iter()
        .zip(&opened.plan.steps)
        .filter(|(r, s)| r.done_at.is_none() && (s.hands_on_min > 0.0 || s.kind == "chill"))
    {
        let hands = SignedDuration::from_secs((step.hands_on_min * 60.0) as i64);
        let grams = (step.kind == "salt").then(|| format!("{} g", step.figure.as_deref().unwrap_or_default()));
        match found.last_mut() {
            Some((block, end))
                if row.planned_start <= *end + SignedDuration::from_mins(2) && step.place == "bench" && step.kind != "preheat" =>
            {
                block.hands += hands;
                block.doing = format!("{}, {}", block.doing, said(&row.kind));
                block.grams = block.grams.take().or(grams);
                *end = row.planned_end;
            }
            _ => {
                // Hands are free again as soon as it lies in the cold.
                let cold = matches!(row.kind.as_str(), "thaw" | "chill");
                let end = if cold { row.planned_start + hands } else { row.planned_end };
                found.push((Block { opened, starts: row.planned_start, hands, doing: said(&row.kind).to_owned(), grams }, end));
            }
        }
    }
    found
        .into_iter()
        .map(|(block, _)| block)
        .filter(|b| b.doing != "into the refrigerator" || b.starts <= b.opened.piece.serve_at)
        .collect()
}

fn lane(place: &str, species: Option<Species>) -> usize {
    match (place, species) {
        ("refrigerator", Some(Species::Poultry)) => 2,
        ("refrigerator", _) => 1,
        ("fire", _) => 3,
        ("table", _) => 4,
        _ => 0,
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
    for leg in journey(opened) {
        let step = opened.plan.steps.get(leg.step);
        let hands = leg.place == "bench" || leg.kind == "grill";
        let lane = lane(&leg.place, species);
        match segments.last_mut() {
            Some(last) if last.lane == lane => {
                last.to = leg.to;
                last.hands |= hands && step.is_some_and(|s| s.hands_on_min > 0.0);
            }
            _ => segments.push(Segment { lane, from: leg.from, to: leg.to, hands: hands && step.is_some_and(|s| s.hands_on_min > 0.0) }),
        }
    }
    let standing = Standing::of(opened, now);
    let out = opened
        .plan
        .steps
        .iter()
        .zip(&opened.piece.steps)
        .find(|(s, _)| matches!(s.kind.as_str(), "temper" | "brush-dry"))
        .filter(|(_, r)| r.done_at.is_none());
    let out = out.map_or_else(String::new, |(_, row)| format!(" · out {}", wall(row.planned_start, now)));
    BoardPiece {
        name: opened.piece.name.clone(),
        state: format!("{}{out}", standing.words),
        texture: texture(&opened.piece.cut),
        journey: segments,
        href: format!("/pieces/{}", opened.piece.id),
    }
}

/// Two pieces that cannot share the fire.
struct Clash {
    pair: (usize, usize),
    apart: f64,
    from: Timestamp,
    to: Timestamp,
    words: String,
}

/// Two airs this far apart are one: both roast well enough in between.
const ONE_AIR_K: f64 = 15.0;

/// Two pieces in the fire at once that want airs too far apart to share: of each pair, where they are furthest apart.
fn clashes(pieces: &[Opened]) -> Vec<(Timestamp, Timestamp, String)> {
    let stays: Vec<(usize, Timestamp, Timestamp, f64)> = pieces
        .iter()
        .enumerate()
        .flat_map(|(i, opened)| {
            journey(opened).into_iter().filter_map(move |leg| {
                let air = opened.plan.steps.get(leg.step)?.air_c?;
                Some((i, leg.from, leg.to, air))
            })
        })
        .collect();
    let mut found: Vec<Clash> = Vec::new();
    for (n, a) in stays.iter().enumerate() {
        for b in stays[n + 1..].iter().filter(|b| b.0 != a.0) {
            let (from, to, apart) = (a.1.max(b.1), a.2.min(b.2), (a.3 - b.3).abs());
            if from >= to || apart < ONE_AIR_K {
                continue;
            }
            let words = format!("One fire: {} wants {:.0} °C, {} wants {:.0} °C", pieces[a.0].piece.name, a.3, pieces[b.0].piece.name, b.3);
            let clash = Clash { pair: (a.0, b.0), apart, from, to, words };
            match found.iter_mut().find(|c| c.pair == clash.pair) {
                Some(worst) if worst.apart < apart => *worst = clash,
                Some(_) => {}
                None => found.push(clash),
            }
        }
    }
    found.into_iter().map(|c| (c.from, c.to, c.words)).collect()
}

impl CellarView {
    /// Everything of the page, from the pieces and the clock.
    pub fn of(pieces: &[Opened], unread: &[Unread], now: &ZonedDateTime) -> Self {
        let at = now.timestamp();
        let mut work: Vec<Block> = pieces.iter().flat_map(blocks).collect();
        work.sort_by_key(|b| b.starts);
        let empty = pieces.is_empty() && unread.is_empty();
        let (headline, sub) = headline(&work, now, empty);
        let clashes = clashes(pieces);
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
            clashes: clashes.iter().map(|(from, to, _)| (*from, *to)).collect(),
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
    let cold = InTheCold::of(opened, now)?;
    let drying = opened.plan.skin.is_some() && !cold.left && now.timestamp() < cold.out;
    let last = opened.piece.rest.weigh_ins.last().map_or(cold.salted - WEIGH_AGAIN, |w| w.noted.at);
    (drying && now.timestamp().duration_since(last) >= WEIGH_AGAIN).then(|| HandLine {
        when: "any time".into(),
        what: format!("{}: weigh in, feel the skin", opened.piece.name),
        href: format!("/pieces/{}/rest", opened.piece.id),
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

fn watch(pieces: &[Opened], clashes: &[(Timestamp, Timestamp, String)], said: Option<&Stop>, now: &ZonedDateTime) -> Vec<WatchLine> {
    let mut lines: Vec<WatchLine> = clashes
        .iter()
        .map(|(from, _, words)| WatchLine {
            text: format!("{words}, from {}", day_wall(*from, now)),
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
        if opened.piece.rest.weigh_ins.iter().any(rauchkeller_store::WeighIn::is_open) {
            let text = format!("{}: a weighing does not fit the others; its page asks about it", opened.piece.name);
            lines.push(WatchLine {
                text,
                of: opened.piece.name.clone(),
                severity: "amber".into(),
                href: format!("/pieces/{}/rest", opened.piece.id),
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
    use crate::piece::testing::{kept_cut, opened};

    fn now(text: &str) -> ZonedDateTime {
        text.parse().unwrap()
    }

    #[test]
    fn the_headline_waits_for_the_next_hands() {
        let view = CellarView::of(&[opened(&[])], &[], &now("2026-12-10T12:00[Europe/Vienna]"));
        assert!(view.headline.starts_with("Nothing to do until Fri"), "{}", view.headline);
        assert!(view.sub.contains("weigh salt, dry, pierce, salt") && view.sub.contains("of work"), "{}", view.sub);
        assert_eq!(view.by_hand.len(), view.by_hand.iter().filter(|l| !l.late).count());
    }

    #[test]
    fn what_is_due_is_said_now_and_late_is_late() {
        let view = CellarView::of(&[opened(&[])], &[], &now("2026-12-12T10:00[Europe/Vienna]"));
        assert!(view.headline.starts_with("Now: "), "{}", view.headline);
        assert!(view.by_hand[0].late);
    }

    #[test]
    fn one_fire_for_two_temperatures_is_a_clash() {
        let pieces = [opened(&[]), kept_cut("turkey-whole", 5200.0, &[])];
        let view = CellarView::of(&pieces, &[], &now("2026-12-10T12:00[Europe/Vienna]"));
        // 175 °C beside 163 °C is one air; the belly's last minutes under 245 °C are not.
        let clash = view.watch.iter().find(|w| w.text.contains("One fire")).expect("a clash");
        assert!(clash.text.contains("245 °C") && clash.text.contains("163 °C") && clash.severity == "red", "{}", clash.text);
        assert!(view.board_wide.contains(r#"class="clash""#));
        // Two bellies want the same: no clash.
        let same = CellarView::of(&[opened(&[]), opened(&[])], &[], &now("2026-12-10T12:00[Europe/Vienna]"));
        assert!(!same.watch.iter().any(|w| w.text.contains("One fire")));
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
        assert_eq!((lane("refrigerator", Some(Species::Poultry)), lane("refrigerator", Some(Species::Beef))), (2, 1));
    }

    #[test]
    fn a_drying_piece_wants_to_be_weighed_now_and_then() {
        let mut opened = opened(&[("salt", "2026-12-11T13:00:00Z"), ("chill", "2026-12-11T13:05:00Z")]);
        let at = |text: &str| CellarView::of(std::slice::from_ref(&opened), &[], &now(text)).by_hand;
        let asks = |lines: &[HandLine]| lines.iter().any(|l| l.what.contains("weigh in") && l.href.ends_with("/rest"));
        assert!(asks(&at("2026-12-11T15:00[Europe/Vienna]")), "never weighed");
        let noted = rauchkeller_store::NewWeighIn {
            tray: None,
            tare_g: 0.0,
            gross_g: 2418.0,
            fineness_g: 1.0,
            from_scale: false,
            at: "2026-12-11T13:30:00Z".parse().unwrap(),
            doubt: None,
        };
        let id = rauchkeller_store::WeighInId(uuid::Uuid::nil());
        opened.piece.rest.weigh_ins = vec![rauchkeller_store::WeighIn { id, noted: noted.clone(), answer: None }];
        let at = |text: &str| CellarView::of(std::slice::from_ref(&opened), &[], &now(text)).by_hand;
        assert!(!asks(&at("2026-12-11T16:00[Europe/Vienna]")), "just weighed");
        assert!(asks(&at("2026-12-11T22:00[Europe/Vienna]")), "seven hours later");
        // A weighing that does not fit is watched until somebody answers.
        let doubted = rauchkeller_store::NewWeighIn { doubt: Some(("tray-missing".into(), -640.0)), ..noted };
        opened.piece.rest.weigh_ins = vec![rauchkeller_store::WeighIn { id, noted: doubted, answer: None }];
        let view = CellarView::of(std::slice::from_ref(&opened), &[], &now("2026-12-11T16:00[Europe/Vienna]"));
        assert!(view.watch.iter().any(|w| w.text.contains("does not fit")));
    }
}
