//! Stages of heat as cooks type them: `230 °C 30 min, then wrapped 135 °C until 95 °C`, and back into words.

use super::heat::{AirAsk, FinishAsk, FinishStyle, StageAsk};
use super::heat_refused::COOLEST_AIR;
use crate::clock::read_span;
use crate::fire::{HeatSource, HeatWord, How, Look, StageEnd};
use crate::units::{Expect, InputError, System, Temperature, TemperatureIn};
use crate::words::span;

/// What could not be read of a heat, and whole readings that may have been meant.
#[derive(Debug, Clone, PartialEq)]
pub struct HeatSlip {
    /// What was typed, what is allowed, what to do.
    pub says: String,
    /// Readings to choose from, each in the place of all that was typed.
    pub choices: Vec<String>,
}

const LIKE: &str = "write it like 230 °C 30 min, then 160 °C until done";
const SOURCES: [(&str, HeatSource); 12] = [
    ("oven", HeatSource::Oven),
    ("grill", HeatSource::Grill),
    ("broiler", HeatSource::Grill),
    ("charcoal", HeatSource::Charcoal),
    ("coals", HeatSource::Charcoal),
    ("spit", HeatSource::Spit),
    ("rotisserie", HeatSource::Spit),
    ("smoker", HeatSource::Smoker),
    ("pan", HeatSource::Pan),
    ("skillet", HeatSource::Pan),
    ("pot", HeatSource::Pot),
    ("casserole", HeatSource::Pot),
];
const HOWS: [(&str, How); 14] = [
    ("open", How::Open),
    ("uncovered", How::Open),
    ("covered", How::Covered),
    ("lid", How::Covered),
    ("foil", How::Wrapped),
    ("wrapped", How::Wrapped),
    ("leaves", How::LeafWrapped),
    ("leaf-wrapped", How::LeafWrapped),
    ("in-liquid", How::InLiquid),
    ("liquid", How::InLiquid),
    ("braise", How::InLiquid),
    ("braised", How::InLiquid),
    ("direct", How::Direct),
    ("over", How::Direct),
];
const HEATS: [(&str, HeatWord); 8] = [
    ("low", HeatWord::Low),
    ("gentle", HeatWord::Low),
    ("medium", HeatWord::Medium),
    ("high", HeatWord::High),
    ("hot", HeatWord::High),
    ("fierce", HeatWord::High),
    ("max", HeatWord::Max),
    ("full", HeatWord::Max),
];
const LOOKS: [(&str, Look); 9] = [
    ("hollow", Look::Hollow),
    ("puffed", Look::Hollow),
    ("crisp", Look::Hollow),
    ("crackling", Look::Hollow),
    ("browned", Look::Browned),
    ("brown", Look::Browned),
    ("tender", Look::Tender),
    ("fork-tender", Look::Tender),
    ("fork tender", Look::Tender),
];
const DONE: [&str; 6] = ["done", "it is done", "finish", "the finish", "finished", "ready"];
/// Words that say nothing by themselves.
const FILLING: [&str; 12] = ["at", "in", "the", "its", "with", "on", "into", "and", "of", "heat", "for", "a"];

fn find<T: Copy>(table: &[(&str, T)], word: &str) -> Option<T> {
    table.iter().find(|(name, _)| *name == word).map(|(_, found)| *found)
}

/// Reads stages, one after the other: each with what gives the heat and how the piece lies in it where that matters, how hot, and
/// what ends it: minutes, a core, "until done", a look. A last stage without an end goes until done. A bare number is degrees of the
/// household’s scale.
///
/// ```
/// use rauchkeller_core::ask::read_stages;
/// let stages = read_stages("230 °C 30 min, then wrapped 135 °C until 95 °C", None).unwrap();
/// assert_eq!(stages.len(), 2);
/// ```
pub fn read_stages(typed: &str, system: Option<System>) -> Result<Vec<StageAsk>, HeatSlip> {
    let text = typed
        .trim()
        .to_lowercase()
        .replace("in its liquid", "in-liquid")
        .replace("in liquid", "in-liquid")
        .replace("wrapped in leaves", "leaf-wrapped")
        .replace("leaf wrapped", "leaf-wrapped");
    let parts: Vec<&str> = text.split("then").flat_map(|part| part.split([';', '\n'])).map(|p| p.trim().trim_matches(',').trim()).collect();
    let parts: Vec<&str> = parts.into_iter().filter(|part| !part.is_empty()).collect();
    if parts.is_empty() {
        return Err(HeatSlip { says: format!("nothing is typed; {LIKE}"), choices: vec![] });
    }
    let last = parts.len() - 1;
    parts.iter().enumerate().map(|(i, part)| read_stage(part, i == last, typed.trim(), system)).collect()
}

fn read_stage(part: &str, last: bool, whole: &str, system: Option<System>) -> Result<StageAsk, HeatSlip> {
    let cannot = |what: &str, why: &str| HeatSlip { says: format!("“{}” {why}; {LIKE}", short(what)), choices: vec![] };
    // “…, turn every 3 min” at its end.
    let turn = ["turned every", "turning every", "turn every", "flipped every", "flip every", "turn it every"];
    let (rest, flip) = match turn.iter().find_map(|word| part.split_once(word)) {
        Some((rest, every)) => {
            let every = every.trim().trim_end_matches(',');
            // A bare number of turns is minutes.
            let bare = every.parse::<f64>().is_ok().then(|| format!("{every} min"));
            let flip = read_span(bare.as_deref().unwrap_or(every)).ok_or_else(|| cannot(every, "does not say how often it is turned"))?;
            (rest.trim().trim_end_matches(','), Some(flip))
        }
        None => (part, None),
    };
    let ends = [" until ", " till ", " to "];
    let rest = &format!(" {rest}");
    let (head, end) = match ends.iter().filter_map(|word| rest.split_once(word)).min_by_key(|(head, _)| head.len()) {
        Some((head, end)) => (head, Some(end.trim().trim_matches(','))),
        None => (rest.as_str(), None),
    };
    let (mut with, mut how, mut heat) = (None, How::Open, None);
    let (mut air, mut time) = (Vec::new(), Vec::new());
    let tokens: Vec<&str> = head.split([' ', ',']).filter(|t| !t.is_empty()).collect();
    for (i, token) in tokens.iter().enumerate() {
        if let Some(source) = find(&SOURCES, token) {
            with = Some(source);
        } else if let Some(found) = find(&HOWS, token) {
            // “over direct heat”, “over coals” is one thing.
            how = if how == How::Open { found } else { how };
        } else if let Some(word) = find(&HEATS, token) {
            heat = Some(AirAsk::Word(word));
        } else if is_of_a_time(token, tokens.get(i + 1).copied()) {
            time.push(*token);
        } else if !FILLING.contains(token) {
            air.push(*token);
        }
    }
    if let Some(read) = (!air.is_empty()).then(|| air.join(" ")) {
        heat = Some(AirAsk::At(temperature(&read, &Expect::between(COOLEST_AIR, 400.0).by(system), whole)?));
    }
    let Some(air) = heat else { return Err(cannot(part, "does not say how hot it is")) };
    let minutes = (!time.is_empty()).then(|| time.join(" "));
    let until = match (end, minutes) {
        (Some(end), None) => read_end(end, whole, system)?,
        (None, Some(time)) => StageEnd::After(read_span(&time).ok_or_else(|| cannot(&time, "is no time"))?),
        (None, None) if last => StageEnd::Finish,
        (None, None) => return Err(cannot(part, "does not say what ends it before the next")),
        (Some(_), Some(_)) => return Err(cannot(part, "says two ends")),
    };
    Ok(StageAsk { with, air, how, until, flip })
}

/// A number with a unit of time, on one token or two; or that unit.
fn is_of_a_time(token: &str, next: Option<&str>) -> bool {
    const UNITS: [&str; 8] = ["min", "mins", "minute", "minutes", "h", "hr", "hour", "hours"];
    let figures = token.trim_end_matches(char::is_alphabetic);
    let unit = &token[figures.len()..];
    let number = !figures.is_empty() && figures.chars().all(|c| c.is_ascii_digit() || "½¼¾.,/".contains(c));
    UNITS.contains(&token)
        || number && (UNITS.contains(&unit) || unit.is_empty() && next.is_some_and(|n| UNITS.contains(&n) || is_vulgar(n)))
}

fn is_vulgar(token: &str) -> bool {
    token.starts_with(['½', '¼', '¾'])
}

fn read_end(end: &str, whole: &str, system: Option<System>) -> Result<StageEnd, HeatSlip> {
    let bare = end.trim_start_matches("the ").trim_start_matches("core ").trim_end_matches("in the core").trim_end_matches("core").trim();
    if DONE.contains(&end) {
        return Ok(StageEnd::Finish);
    }
    if let Some(look) = find(&LOOKS, bare) {
        return Ok(StageEnd::Look(look));
    }
    if !bare.starts_with(|c: char| c.is_ascii_digit()) {
        let says = format!("“{}” ends no stage; write until done, hollow, browned or tender, until 52 °C, or minutes", short(end));
        return Err(HeatSlip { says, choices: vec![] });
    }
    Ok(StageEnd::Core(temperature(bare, &Expect::between(40.0, 99.0).by(system), whole)?))
}

/// A temperature; where it may be meant two ways, all that was typed with each of them.
fn temperature(typed: &str, expect: &Expect, whole: &str) -> Result<Temperature, HeatSlip> {
    crate::units::read_temperature(typed, expect).map_err(|error| {
        let choices = match &error {
            InputError::TwoWays(two) => two.choices().into_iter().map(|choice| whole.replacen(typed, &choice, 1)).collect(),
            _ => vec![],
        };
        HeatSlip { says: error.to_string(), choices }
    })
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

fn degrees(at: Temperature) -> String {
    degrees_in(at, None)
}

fn degrees_in(at: Temperature, system: Option<System>) -> String {
    let (number, unit) = if system == Some(System::Customary) { (at.in_f(), "°F") } else { (at.in_c(), "°C") };
    let text = format!("{number:.1}");
    format!("{} {unit}", text.trim_end_matches('0').trim_end_matches('.'))
}

/// Stages in the words that say them again, in degrees Celsius.
pub fn say_stages(stages: &[StageAsk]) -> String {
    say_stages_in(stages, None)
}

/// The same in the degrees of a household: °F in a customary one, °C else.
///
/// ```
/// use rauchkeller_core::{ask::{read_stages, say_stages_in}, units::System};
/// let stages = read_stages("150 °C 2 h, then 250 °C until hollow", None).unwrap();
/// // By hand: 150 °C are 302 °F, 250 °C are 482.
/// assert_eq!(say_stages_in(&stages, Some(System::Customary)), "302 °F 2 h, then 482 °F until hollow");
/// ```
pub fn say_stages_in(stages: &[StageAsk], system: Option<System>) -> String {
    let degrees = |at: Temperature| degrees_in(at, system);
    let say = |stage: &StageAsk| {
        let mut words: Vec<String> = stage.with.map(|with| with.id().to_owned()).into_iter().collect();
        if stage.how != How::Open {
            words.push(match stage.how {
                How::InLiquid | How::LeafWrapped => stage.how.words().to_owned(),
                how => how.id().to_owned(),
            });
        }
        words.push(match stage.air {
            AirAsk::At(air) => degrees(air),
            AirAsk::Word(word) => HeatWord::NAMES[word as usize].to_owned(),
        });
        words.push(match stage.until {
            StageEnd::Finish => "until done".to_owned(),
            StageEnd::After(time) => span(time),
            StageEnd::Core(core) => format!("until {}", degrees(core)),
            StageEnd::Look(look) => format!("until {}", look.id()),
        });
        words.extend(stage.flip.map(|flip| format!("turned every {}", span(flip))));
        words.join(" ")
    };
    stages.iter().map(say).collect::<Vec<_>>().join(", then ")
}

/// Reads a finish: `57 °C`, `rare`, `well done`.
pub fn read_finish(typed: &str, system: Option<System>) -> Result<FinishAsk, HeatSlip> {
    let word = typed.trim().to_lowercase().replace(' ', "-");
    if let Some(style) = FinishStyle::find(&word) {
        return Ok(FinishAsk::Style(style));
    }
    if !word.starts_with(|c: char| c.is_ascii_digit()) {
        let styles = FinishStyle::ALL.map(FinishStyle::id).join(", ").replace('-', " ");
        return Err(HeatSlip {
            says: format!("“{}” is no finish; write a core like 57 °C, or {styles}", short(typed)), choices: vec![]
        });
    }
    temperature(typed.trim(), &Expect::between(40.0, 97.0).by(system), typed.trim()).map(FinishAsk::Core)
}

/// Reads how hot an appliance gets: `250 °C`, `480 F`.
pub fn read_heat(typed: &str, system: Option<System>) -> Result<Temperature, HeatSlip> {
    temperature(typed.trim(), &Expect::between(60.0, 400.0).by(system), typed.trim())
}

/// A finish in the words that say it again.
pub fn say_finish(finish: FinishAsk) -> String {
    match finish {
        FinishAsk::Core(core) => degrees(core),
        FinishAsk::Style(style) => style.id().replace('-', " "),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{TimeIn, celsius, minutes};

    /// Air, how, end and turns of each stage, in figures.
    fn read(typed: &str) -> Vec<(String, &'static str, String, f64)> {
        let air = |ask: AirAsk| match ask {
            AirAsk::At(air) => format!("{:.0}", air.in_c()),
            AirAsk::Word(word) => HeatWord::NAMES[word as usize].to_owned(),
        };
        let end = |end: StageEnd| match end {
            StageEnd::Finish => "done".to_owned(),
            StageEnd::After(time) => format!("{:.0} min", time.in_min()),
            StageEnd::Core(core) => format!("{:.0} C", core.in_c()),
            StageEnd::Look(look) => look.id().to_owned(),
        };
        let stages = read_stages(typed, None).unwrap_or_else(|slip| panic!("{typed}: {}", slip.says));
        stages.iter().map(|s| (air(s.air), s.how.id(), end(s.until), s.flip.map_or(0.0, TimeIn::in_min))).collect()
    }

    fn one(air: &str, how: &'static str, end: &str, flip: f64) -> (String, &'static str, String, f64) {
        (air.into(), how, end.into(), flip)
    }

    #[test]
    fn heats_as_cooks_say_them() {
        assert_eq!(read("230 °C 30 min, then 160 °C until done"), [one("230", "open", "30 min", 0.0), one("160", "open", "done", 0.0)]);
        assert_eq!(
            read("135°C 2 h then wrapped 135 °C until 95 °C"),
            [one("135", "open", "120 min", 0.0), one("135", "wrapped", "95 C", 0.0)]
        );
        assert_eq!(
            read("pan high until browned, turn every 4 min; in liquid 160 °C until tender"),
            [one("high", "open", "browned", 4.0), one("160", "in-liquid", "tender", 0.0)]
        );
        assert_eq!(read("over direct heat 230 °C to 52 °C core, turned every 2"), [one("230", "direct", "52 C", 2.0)]);
        assert_eq!(read("350 F for 1½ h, then max until hollow"), [one("177", "open", "90 min", 0.0), one("max", "open", "hollow", 0.0)]);
        assert_eq!(read("gas 4"), [one("180", "open", "done", 0.0)]);
        assert_eq!(read("in the oven at 163 °C until the core 60 °C"), [one("163", "open", "60 C", 0.0)]);
        assert_eq!(read_stages("spit medium 45min", None).unwrap()[0].with, Some(HeatSource::Spit));
    }

    #[test]
    fn what_cannot_be_meant_is_said() {
        for (typed, says) in [
            ("", "nothing is typed"),
            ("until done", "does not say how hot"),
            ("160 °C, then 230 °C until done", "what ends it before the next"),
            ("160 °C 30 min until done", "two ends"),
            ("160 °C until the cows come home", "ends no stage"),
            ("900 °C 10 min", "900"),
            ("lava 10 min", "lava"),
            ("230 °C direct until done, turn every blue moon", "how often"),
        ] {
            let slip = read_stages(typed, None).unwrap_err();
            assert!(slip.says.contains(says), "{typed}: {}", slip.says);
        }
        assert!(read_finish("blue", None).unwrap_err().says.contains("well done"));
    }

    #[test]
    fn a_bare_number_is_asked_about_with_all_that_stands_round_it() {
        let slip = read_stages("wrapped 200 until done", None).unwrap_err();
        assert_eq!(slip.choices, ["wrapped 200 C until done", "wrapped 200 F until done"], "{}", slip.says);
        assert!(slip.choices.iter().all(|choice| read_stages(choice, None).is_ok()));
    }

    #[test]
    fn a_bare_number_is_degrees_of_the_households_scale() {
        let c = |typed: &str, system| match read_stages(typed, system).unwrap()[0].air {
            AirAsk::At(air) => air.in_c().round(),
            AirAsk::Word(_) => panic!("{typed}"),
        };
        let (us, si) = (Some(System::Customary), Some(System::Metric));
        assert_eq!([c("350 until done", us), c("225 until 203", us), c("200 until done", si), c("450", us)], [177.0, 107.0, 200.0, 232.0]);
        let core = |typed: &str, system| match read_stages(typed, system).unwrap()[0].until {
            StageEnd::Core(core) => core.in_c().round(),
            other => panic!("{typed}: {other:?}"),
        };
        assert_eq!([core("275 until 203", us), core("350 until 165", us), core("135 until 95", si)], [95.0, 74.0, 95.0]);
        assert!(matches!(read_finish("130", us).unwrap(), FinishAsk::Core(core) if (core.in_c() - 54.44).abs() < 0.01));
        assert!(matches!(read_heat("500", us).unwrap(), heat if (heat.in_c() - 260.0).abs() < 0.01));
    }

    #[test]
    fn finishes_as_cooks_say_them() {
        assert_eq!(read_finish("Well done", None).unwrap(), FinishAsk::Style(FinishStyle::WellDone));
        assert_eq!(read_finish("57 °C", None).unwrap(), FinishAsk::Core(celsius(57.0)));
        assert!(matches!(read_finish("135 °F", None).unwrap(), FinishAsk::Core(core) if (core.in_c() - 57.22).abs() < 0.01));
        for finish in [FinishAsk::Style(FinishStyle::WellDone), FinishAsk::Core(celsius(57.5))] {
            assert_eq!(read_finish(&say_finish(finish), None).unwrap(), finish);
        }
    }

    proptest::proptest! {
        /// Said and read again, a heat is the same.
        #[test]
        fn said_and_read_again_it_is_the_same(
            seeds in proptest::collection::vec((0..7usize, 0..6usize, 50.0..400.0f64, 0..5usize, 0..4usize, 0..9usize), 1..5),
        ) {
            let stage = |&(with, how, air, word, end, flip): &(usize, usize, f64, usize, usize, usize)| StageAsk {
                with: HeatSource::ALL.get(with).copied().filter(|_| with > 0),
                air: HeatWord::NAMES.get(word).and_then(|name| HeatWord::find(name)).map_or(AirAsk::At(celsius((air * 10.0).round() / 10.0)), AirAsk::Word),
                how: How::ALL[how],
                until: [StageEnd::Finish, StageEnd::After(minutes(air.round())), StageEnd::Core(celsius(30.0 + (air / 6.0).round())), StageEnd::Look(Look::ALL[word % 3])][end],
                flip: (flip > 5).then(|| minutes(flip as f64)),
            };
            let stages: Vec<StageAsk> = seeds.iter().map(stage).collect();
            let said = say_stages(&stages);
            let same = |a: &StageAsk, b: &StageAsk| {
                let near = |x: f64, y: f64| (x - y).abs() < 1e-6;
                let air = match (a.air, b.air) { (AirAsk::At(x), AirAsk::At(y)) => near(x.in_c(), y.in_c()), (x, y) => x == y };
                let end = match (a.until, b.until) {
                    (StageEnd::After(x), StageEnd::After(y)) => near(x.in_min(), y.in_min()),
                    (StageEnd::Core(x), StageEnd::Core(y)) => near(x.in_c(), y.in_c()),
                    (x, y) => x == y,
                };
                let flip = match (a.flip, b.flip) { (Some(x), Some(y)) => near(x.in_min(), y.in_min()), (x, y) => x == y };
                air && end && flip && a.with == b.with && a.how == b.how
            };
            let again = read_stages(&said, None);
            proptest::prop_assert!(again.as_ref().is_ok_and(|again| again.len() == stages.len() && again.iter().zip(&stages).all(|(a, b)| same(a, b))), "{said}: {again:?}");
        }
    }
}
