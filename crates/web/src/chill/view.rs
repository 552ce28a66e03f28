//! What the rest shows.

use super::about::{about, between};
use super::air::AirForm;
use super::looked::Looked;
use super::noted::{NoteLine, Question};
use super::rescue::{RescueForm, corrected, lines};
use super::weigh::WeighForm;
use super::{ChillQuery, Refused};
use crate::draw::{Band, DryingCurve, Slice, Width, draw_band, draw_curve, draw_slice};
use crate::live::Live;
use crate::piece::{Now, Opened, Stop, air_of, known_of, state_words};
use crate::words::{day_wall, g_per_kg, grams as g, instant, other_system, sentence, span, trim, wall};
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::run::{Chilling, InTheCold};
use rauchkeller_core::salt::on_the_scale;
use rauchkeller_core::skin::drying::Touch;
use rauchkeller_core::units::{Dryness, MassIn, System, TemperatureIn, Time, TimeIn};
use rauchkeller_store::KitTray;
use std::collections::BTreeMap;
use uuid::Uuid;

/// A caution at the hour looked at.
pub struct CautionLine {
    pub severity: &'static str,
    pub text: String,
    pub source: &'static str,
}

/// When something is reached.
pub struct GoalLine {
    pub words: String,
    pub when: String,
}

/// A way out of too much salt or too little.
pub struct WayLine {
    pub what: String,
    pub gives: String,
    /// Grams as the scale shows them; empty where none are weighed.
    pub g: String,
    /// `off` or `on`, where it can be noted.
    pub does: &'static str,
}

/// A tray to choose.
pub struct TrayChoice {
    pub id: String,
    pub words: String,
    pub chosen: bool,
}

/// The page.
#[derive(Default)]
#[expect(clippy::struct_excessive_bools, reason = "a template reads them one by one")]
pub struct ChillView {
    /// A refrigerator too warm.
    pub stop: Option<Stop>,
    pub id: String,
    pub name: String,
    /// What the way back leads to.
    pub noun: String,
    /// This state's address.
    pub address: String,
    pub key: String,
    pub salted: bool,
    pub left: bool,
    pub has_skin: bool,
    /// The one number: a wall time.
    pub figure: String,
    pub figure_what: String,
    pub figure_line: String,
    pub standing: String,
    /// Whether it waits for its salt.
    pub unsalted: bool,
    /// How it stands now, figure by figure.
    pub facts: Vec<(String, String)>,
    pub hour: String,
    pub shown: String,
    pub dragged: bool,
    pub slider_max: String,
    pub slice_wide: String,
    pub slice_narrow: String,
    pub band_wide: String,
    pub band_narrow: String,
    pub curve_wide: String,
    pub curve_narrow: String,
    pub rim: String,
    pub middle: String,
    pub slice: String,
    pub lost: String,
    pub evenness: String,
    pub lost_other: String,
    pub state_line: String,
    pub why: String,
    pub goals: Vec<GoalLine>,
    pub plate: String,
    pub cautions: Vec<CautionLine>,
    pub air_line: String,
    pub learned: String,
    pub air: AirForm,
    /// `°C` or `°F`, and a reading to write like.
    pub air_unit: &'static str,
    pub air_like: &'static str,
    pub questions: Vec<Question>,
    pub notes: Vec<NoteLine>,
    pub weigh: WeighForm,
    pub trays: Vec<TrayChoice>,
    pub new_tray: bool,
    pub no_tray: bool,
    pub scale: Option<(String, String)>,
    pub demo_scale: Option<String>,
    pub feels: Vec<&'static str>,
    pub on_line: String,
    pub rescue: RescueForm,
    /// The correction of the salt that stands.
    pub corrected: String,
    pub ways: Vec<WayLine>,
    pub slips: BTreeMap<&'static str, String>,
    pub said: Option<String>,
    pub removed: Option<(String, String)>,
}

impl ChillView {
    /// Reads the address and reckons the piece at its hour.
    pub fn of(opened: &Opened, query: &ChillQuery, now: &ZonedDateTime) -> Self {
        let customary = opened.system == Some(System::Customary);
        let id = opened.piece.id.to_string();
        let mut view = Self {
            name: opened.piece.name.clone(),
            noun: opened.noun(),
            address: format!("/pieces/{id}/chill"),
            air: AirForm::of(&opened.fridge, opened.system),
            air_unit: if customary { "°F" } else { "°C" },
            air_like: if customary { "39" } else { "4" },
            stop: Stop::of(opened, now),
            feels: Touch::ALL.iter().map(|t| t.word()).collect(),
            removed: removed(query),
            has_skin: opened.plan.request.skin_mm > 0.0,
            id,
            ..Self::default()
        };
        let stand = opened.stand(now);
        let Some(cold) = stand.cold.clone() else {
            view.standing = "Not salted yet: the dry-brine begins with the salt.".into();
            view.unsalted = true;
            return view;
        };
        view.salted = true;
        view.left = cold.left;
        let mut band = Band::of(&opened.plan.fridge, now.time_zone());
        band.from = cold.salted;
        let asked = query.hours.trim().replace(',', ".").parse::<f64>().ok().filter(|h| h.is_finite() && (0.0..=240.0).contains(h));
        view.dragged = asked.is_some();
        if let Some(h) = asked {
            view.address = format!("{}?hours={}", view.address, trim(h, 2));
        }
        let Some(looked) = Looked::at(opened, &cold, asked, band.span_h, now) else {
            view.salted = false;
            view.standing = "This plan cannot be read any more.".into();
            return view;
        };
        view.say(opened, &cold, &looked.seen, now);
        view.hours(opened, &looked, &cold, &mut band, now);
        view.draw_curve(opened, &cold, &looked, now);
        view.note(opened, &cold, &looked.seen, now);
        if let Some(found) = &looked.rescue {
            let scale = |salt| on_the_scale(salt, opened.plan.request.salt_purity).in_g();
            view.on_line = format!(
                "{} g of salt on it, {} g wanted: {} g/kg.{}",
                g(scale(found.on)),
                g(scale(found.wanted)),
                trim(found.dose.0, 1),
                if found.waiting.in_g() >= 0.5 { format!(" {} g still lie dry on it.", g(scale(found.waiting))) } else { String::new() }
            );
            view.ways = lines(found, opened.plan.request.salt_purity);
        }
        view.corrected = corrected(opened.record()).map(|id| Uuid::from_u128(id.0).to_string()).unwrap_or_default();
        view
    }

    /// The one number, and how it stands now.
    fn say(&mut self, opened: &Opened, cold: &InTheCold, seen: &Chilling, now: &ZonedDateTime) {
        let standing = Now::of(opened, now);
        self.standing = sentence(&standing.words);
        self.facts = facts(&standing);
        // Only skin that is worked on is waited for.
        let Some(dry) = seen.dry.filter(|_| opened.plan.skin.is_some()) else {
            self.figure = wall(cold.out, now);
            self.figure_what = if cold.left { "out of the refrigerator" } else { "out of the refrigerator, as planned" }.into();
            return;
        };
        let when = |h: Option<Time>| h.map(|h| cold.moment(h));
        let mut parts = Vec::new();
        let (what, figure) = match when(dry.now) {
            Some(at) if at <= now.timestamp() => {
                parts.push(format!("since about {}", about(at, now)));
                ("the skin is", "dry enough".to_owned())
            }
            Some(at) => ("skin dry enough, about", about(at, now)),
            None => ("skin dry enough: this air is too humid, or the piece is closed in", "not in a week".to_owned()),
        };
        (self.figure_what, self.figure) = (what.into(), figure);
        match (when(dry.soonest), when(dry.latest)) {
            (Some(soon), Some(late)) => parts.push(between(soon, late, now)),
            (Some(soon), None) => parts.push(format!("{} at the earliest, perhaps not within a week", about(soon, now))),
            _ => {}
        }
        if let (true, Some(planned)) = (opened.fridge.fit_h.is_some(), when(dry.planned)) {
            parts.push(format!("the plan had said {}", about(planned, now)));
        }
        parts.push(format!("planned out of the refrigerator {}", day_wall(cold.out, now)));
        self.figure_line = sentence(&parts.join("; "));
    }

    /// The hour looked at: slice, mouthfuls, band, cautions.
    fn hours(&mut self, opened: &Opened, looked: &Looked, cold: &InTheCold, band: &mut Band, now: &ZonedDateTime) {
        let (seen, shown, until) = (&looked.seen, looked.shown, looked.until);
        let state = &seen.state;
        let slice = Slice::of(&opened.plan).by(opened.system).at(state);
        self.state_line = sentence(&state_words(state, &slice));
        self.slice_wide = draw_slice(&slice, Width::Wide);
        self.slice_narrow = draw_slice(&slice, Width::Narrow);
        self.rim = format!("{:.0}", state.rim.0);
        self.middle = g_per_kg(state.middle.0);
        self.slice = format!("{:.0}", state.slice.0);
        self.evenness = format!("{:.0} %", state.evenness.0 * 100.0);
        self.lost = format!("{:.0}", state.lost.in_g());
        self.lost_other = other_system(&self.lost, "g");
        self.hour = trim(shown.in_h(), 2);
        self.slider_max = format!("{:.0}", until.in_h().floor());
        let at = cold.moment(shown);
        let (hours_said, wall_said) = (trim(shown.in_h(), 1), day_wall(at, now));
        self.shown = if self.dragged { format!("after {hours_said} h, {wall_said}") } else { format!("now, after {hours_said} h") };
        let set = |school: &mut crate::draw::School, marks: [Option<Time>; 3]| school.marks = marks.map(|m| m.map(TimeIn::in_h));
        let mut schools = band.schools.iter_mut();
        if let Some(house) = schools.next() {
            set(house, [Some(seen.house.shortest), Some(seen.house.ideal), Some(seen.house.longest)]);
        }
        if let Some(model) = schools.next() {
            set(model, [seen.model.shortest, seen.model.ideal, seen.model.longest]);
        }
        band.span_h = until.in_h().floor();
        band.planned_h = shown.in_h();
        band.fits_h = cold.hours_at(cold.out).in_h();
        band.now_h = (!cold.left).then(|| cold.hours_at(now.timestamp()).in_h());
        self.band_wide = draw_band(band, Width::Wide);
        self.band_narrow = draw_band(band, Width::Narrow);
        self.why.clone_from(&seen.why);
        self.goals = seen
            .model
            .goals
            .iter()
            .map(|goal| GoalLine {
                words: goal.goal.words(),
                when: goal
                    .at
                    .map_or_else(|| "not within a week".into(), |h| format!("{} h, {}", trim(h.in_h(), 0), day_wall(cold.moment(h), now))),
            })
            .collect();
        if let Some(wet) = seen.model.wet {
            self.goals
                .insert(0, GoalLine { words: "dry salt gone in".into(), when: span(jiff::SignedDuration::from_secs(wet.in_s() as i64)) });
        }
        self.plate = opened.plan.fridge.plate.as_ref().map_or_else(String::new, |plate| {
            format!(
                "On the plate, our estimate: outer 5 mm {:.0}, middle {}, whole slice {:.0} g/kg.",
                plate.rim_g_per_kg,
                g_per_kg(plate.middle_g_per_kg),
                plate.slice_g_per_kg
            )
        });
        let said =
            |c: &rauchkeller_core::caution::Caution| CautionLine { severity: c.severity.id(), text: c.text.clone(), source: c.source };
        self.cautions = seen.cautions.iter().map(said).collect();
        self.cautions.extend(keeps(opened, at));
    }

    fn draw_curve(&mut self, opened: &Opened, cold: &InTheCold, looked: &Looked, now: &ZonedDateTime) {
        let (seen, shown, until) = (&looked.seen, looked.shown, looked.until);
        let piece = cold.weighed_all(opened.record());
        let before = cold.really.open_before.in_h();
        let air = air_of(&opened.fridge, cold.request.kitchen.fridge);
        let known = known_of(&opened.fridge, air);
        let mut weighed: Vec<(f64, f64, bool)> = looked.lost.iter().map(|(at, lost)| (at.in_h() - before, lost.in_g(), false)).collect();
        // What is still asked about hangs where it would be, against the last good one.
        for open in piece.weighings.iter().filter(|w| w.open) {
            let row = opened.record().weighed.iter().find(|w| w.says.is_open() && (cold.open_at(w.at) - open.at).in_s().abs() < 1.0);
            let off = row.and_then(|w| w.says.doubt.as_ref()).map_or(0.0, |d| d.off.in_g());
            let near =
                seen.curve.iter().min_by(|a, b| (a.h - open.at.in_h() + before).abs().total_cmp(&(b.h - open.at.in_h() + before).abs()));
            weighed.push((open.at.in_h() - before, near.map_or(0.0, |p| p.lost_g[0]) - off, true));
        }
        let curve = DryingCurve {
            from: cold.salted,
            until_h: until.in_h(),
            points: seen.curve.iter().map(|p| (p.h, p.lost_g)).collect(),
            weighed,
            felt: opened.record().felt.iter().map(|t| (cold.hours_at(t.at).in_h(), t.says.word().to_owned())).collect(),
            touches: if self.has_skin { seen.touches.iter().map(|(t, at)| (t.word(), at.map(TimeIn::in_h))).collect() } else { vec![] },
            dry_h: seen.dry.and_then(|d| d.now).map(TimeIn::in_h),
            out_h: cold.hours_at(cold.out).in_h(),
            now_h: cold.hours_at(now.timestamp()).in_h(),
            shown_h: shown.in_h(),
            learned: opened.fridge.fit_h.is_some(),
            zone: now.time_zone().clone(),
        };
        self.curve_wide = draw_curve(&curve, Width::Wide);
        self.curve_narrow = draw_curve(&curve, Width::Narrow);
        let (c, humid) = (air.temperature.in_c(), air.humidity.0 * 100.0);
        let guess = if opened.fridge.rh.is_none() { " (a guess)" } else { "" };
        self.air_line = format!("{} °C, {humid:.0} % humid{guess}", trim(c, 1));
        let takes = format!("a wet side loses {:.1} g a square decimetre a day", seen.wet_loss);
        self.learned = if opened.fridge.fit_h.is_some() {
            format!("{takes}, learned from {} weighings, give or take {:.0} %", known.points, known.spread * 200.0)
        } else {
            format!("{takes}: our estimate until something was weighed in twice")
        };
    }

    /// The forms, with trays and scale, and what a refused one left.
    pub fn weigh_with(&mut self, opened: &Opened, trays: &[KitTray], live: Option<&Live>, refused: Refused) {
        let last = opened.record().weighed.last().map(|w| w.says.tray.map(|t| uuid::Uuid::from_u128(t).to_string()));
        self.weigh = refused.weigh.unwrap_or_default();
        let chosen = match (self.weigh.tray.as_str(), last) {
            ("", Some(Some(tray))) => tray,
            ("", Some(None)) => "none".into(),
            ("", None) => trays.first().map_or_else(|| "new".into(), |t| t.id.to_string()),
            (typed, _) => typed.to_owned(),
        };
        self.trays = trays
            .iter()
            .map(|t| TrayChoice {
                id: t.id.to_string(),
                words: format!("{}, {} g empty", t.name, g(t.empty_g)),
                chosen: t.id.to_string() == chosen,
            })
            .collect();
        self.no_tray = chosen == "none";
        self.new_tray = !self.no_tray && !self.trays.iter().any(|t| t.chosen);
        self.scale = live.map(|l| (l.name.clone(), l.shows.clone()));
        self.rescue = refused.rescue.unwrap_or_default();
        self.air = refused.air.unwrap_or_else(|| std::mem::take(&mut self.air));
        (self.slips, self.said) = (refused.slips, refused.said);
    }

    /// What is wrong with a field.
    pub fn slip(&self, field: &str) -> Option<&String> {
        self.slips.get(field)
    }
}

/// How it stands now: salted so deep, so dry, so much lighter.
fn facts(standing: &Now) -> Vec<(String, String)> {
    let slice = &standing.slice;
    let mut facts = vec![if slice.salted_mm >= slice.thickness_mm - 0.1 {
        ("through".to_owned(), "seasoned all the way".to_owned())
    } else {
        (format!("{:.0} mm", slice.salted_mm), "deep seasoned".to_owned())
    }];
    facts.extend(
        slice.dryness.map(|d| (format!("{:.0} %", d * 100.0), format!("dry (95 % is enough), feels {}", Touch::of(Dryness(d)).feels()))),
    );
    facts.extend(standing.lost_g.filter(|g| *g >= 0.5).map(|g| (format!("{g:.0} g"), "lighter".to_owned())));
    facts
}

/// The storage limit at the hour looked at.
fn keeps(opened: &Opened, at: Timestamp) -> Option<CautionLine> {
    const SOURCE: &str = "USDA FSIS / FoodKeeper";
    let fridge = &opened.plan.fridge;
    let line = |severity, text: &str| Some(CautionLine { severity, text: text.into(), source: SOURCE });
    let Some((amber, red)) = fridge.keeps_amber.as_deref().zip(fridge.keeps_red.as_deref()) else {
        return line("note", "Day bought unknown: nobody can say how long it keeps. Local rules prevail.");
    };
    if at > instant(red) {
        line("red", "Past what the authority lets raw meat keep. Cook it before, or do not eat it.")
    } else if at > instant(amber) {
        line("amber", "Past the lower figure of what raw meat keeps: cook it soon.")
    } else {
        None
    }
}

fn removed(query: &ChillQuery) -> Option<(String, String)> {
    let id = uuid::Uuid::parse_str(&query.id).ok()?;
    matches!(query.removed.as_str(), "weighed" | "felt" | "salt").then(|| (query.removed.clone(), id.to_string()))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use rauchkeller_core::run::{WeighingDoubt, What};
    use rauchkeller_core::units::grams;

    fn at(text: &str) -> Timestamp {
        text.parse().unwrap()
    }

    fn now() -> ZonedDateTime {
        "2026-12-12T07:00[Europe/Vienna]".parse().unwrap()
    }

    fn salted() -> Opened {
        opened(&[("salt", "2026-12-11T13:00:00Z"), ("chill", "2026-12-11T13:05:00Z")])
    }

    fn weighed(opened: &Opened, h: i64, gross: f64, doubt: Option<(&str, f64)>) -> Opened {
        let at = at("2026-12-11T13:00:00Z") + jiff::SignedDuration::from_hours(h);
        let doubt = doubt.map(|(kind, off)| WeighingDoubt { kind: kind.into(), off: grams(off) });
        let (gross, tare, fineness) = (grams(gross), grams(640.0), grams(1.0));
        opened.with(&at.to_string(), What::Weighed { gross, tare, fineness, tray: None, from_scale: false, doubt })
    }

    #[test]
    fn the_one_number_is_when_the_skin_is_dry_enough() {
        let view = ChillView::of(&salted(), &ChillQuery::default(), &now());
        // Salted at 14:00; two millimetres take 26 ± 0.5 h at h 5 and 50 % (TRADE 6.6), 2.5 mm 2.5/2 times that:
        // between 21:52 and 23:08, said to the half hour.
        assert!(["22:00 today", "22:30 today", "23:00 today"].contains(&view.figure.as_str()), "{}", view.figure);
        assert_eq!(view.figure_what, "skin dry enough, about");
        assert!(view.figure_line.contains("etween ") && view.learned.contains("estimate"), "{}", view.figure_line);
        assert!(view.cautions.iter().any(|c| c.text.contains("chewy")) && !view.goals.is_empty());
        let later = ChillView::of(&salted(), &ChillQuery { hours: "40".into(), ..ChillQuery::default() }, &now());
        assert!(later.dragged && later.address.ends_with("?hours=40") && later.shown.starts_with("after 40 h"));
        assert!(later.lost.parse::<f64>().unwrap() > view.lost.parse::<f64>().unwrap());
        // Nonsense in the address is the present hour.
        for hours in ["NaN", "-3", "1e9", "soon"] {
            assert!(!ChillView::of(&salted(), &ChillQuery { hours: hours.into(), ..ChillQuery::default() }, &now()).dragged, "{hours}");
        }
    }

    #[test]
    fn a_piece_without_salt_has_no_rest_yet() {
        let view = ChillView::of(&opened(&[]), &ChillQuery::default(), &now());
        assert!(!view.salted && view.standing.starts_with("Not salted yet"));
    }

    #[test]
    fn what_is_asked_about_stands_on_top_and_notes_say_what_they_mean() {
        let opened = weighed(&weighed(&salted(), 0, 3057.0, None), 8, 2990.0, None);
        let opened = weighed(&opened, 12, 2330.0, Some(("tray-missing", -639.0)));
        let view = ChillView::of(&opened, &ChillQuery::default(), &now());
        assert_eq!((view.questions.len(), view.notes.len()), (1, 3));
        assert!(view.questions[0].asks.contains("639 g less") && view.questions[0].answers[0].0 == "tray-missing");
        assert!(view.notes[0].says.contains("asked about") && view.notes[1].says == "67.0 g lighter than the first");
        let question = view.questions[0].id.replace('-', "");
        let opened = opened.with("2026-12-12T05:00:00Z", What::Answered { question, how: "tray-missing".into() });
        let view = ChillView::of(&opened, &ChillQuery::default(), &now());
        assert!(view.questions.is_empty() && view.notes[0].says == "without the tray");
    }

    #[test]
    fn past_what_it_keeps_is_said_in_red() {
        let opened = salted();
        let red = instant(opened.plan.fridge.keeps_red.as_ref().unwrap());
        let said = |after: i64| keeps(&opened, red + jiff::SignedDuration::from_hours(after)).map(|c| c.severity);
        assert_eq!((said(1), said(-1), said(-100)), (Some("red"), Some("amber"), None));
    }
}
