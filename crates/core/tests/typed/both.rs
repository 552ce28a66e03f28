//! What a cook types, read in a kitchen of pounds and in one of kilograms: by hand. `=` is read so, `?` asks with these two readings,
//! `!` is refused. Figures in g, mm and °C (NIST Handbook 44, App. C; °C = (°F − 32) ÷ 1.8).

use super::*;
use rauchkeller_core::ask::{AirAsk, FinishAsk, read_finish, read_stages};
use rauchkeller_core::clock::{WallError, read_meal};
use rauchkeller_core::units::{InputError, read_lengths};

/// What is read, typed so, in pounds, in kilograms.
type Row = (Of, &'static str, &'static str, &'static str);

#[derive(Debug, Clone, Copy, PartialEq)]
enum Of {
    Turkey,
    Belly,
    Steak,
    Thick,
    Face,
    /// Air of a stage.
    Air,
    /// A finish.
    Core,
    Fridge,
    Room,
    /// A dish of steaks.
    Dish,
    Meal,
    Past,
    Bought,
}
use Of::{Air, Belly, Bought, Core, Dish, Face, Fridge, Meal, Past, Room, Steak, Thick, Turkey};

const BOTH: &[Row] = &[
    (Turkey, "12", "=5443.108", "=12000"),
    (Turkey, "14", "=6350.293", "=14000"),
    (Turkey, "twelve", "=5443.108", "=12000"),
    (Turkey, "20", "=9071.847", "?20 lb|20 kg"),
    (Turkey, "twenty", "=9071.847", "?20 lb|20 kg"),
    (Turkey, "5400", "=5400", "=5400"),
    (Turkey, "12 lb", "=5443.108", "=5443.108"),
    (Turkey, "12lbs", "=5443.108", "=5443.108"),
    (Turkey, "5.4 kg", "=5400", "=5400"),
    (Turkey, "12-14 lb", "?12 lb|14 lb", "?12 lb|14 lb"),
    (Turkey, "12 lb 6", "=5613.205", "=5613.205"),
    (Turkey, "12 lb 6 oz", "=5613.205", "=5613.205"),
    (Turkey, "heavy", "!", "!"),
    (Turkey, "12 stone", "!", "!"),
    (Belly, "5", "=2267.962", "=5000"),
    (Belly, "2.4", "=1088.622", "=2400"),
    (Belly, "2,4", "=1088.622", "=2400"),
    (Belly, "1", "=453.592", "=1000"),
    (Belly, "20", "?20 lb|20 oz", "?20 oz|20 kg"),
    (Belly, "twenty", "?20 lb|20 oz", "?20 oz|20 kg"),
    (Belly, "16", "?16 lb|16 oz", "?16 lb|16 kg"),
    (Belly, "2400", "?2400 g|2400 oz", "=2400"),
    (Belly, "850", "?850 g|850 oz", "=850"),
    (Belly, "1500 g", "=1500", "=1500"),
    (Belly, "1,500 g", "=1500", "=1500"),
    (Belly, "6 lb 11 oz", "=3033.399", "=3033.399"),
    (Belly, "6lb 11oz", "=3033.399", "=3033.399"),
    (Belly, "3041 g", "=3041", "=3041"),
    (Belly, "two kilos", "=2000", "=2000"),
    (Belly, "5 pounds", "=2267.962", "=2267.962"),
    (Belly, "-2 kg", "!", "!"),
    (Belly, "0 kg", "!", "!"),
    (Belly, "2 kg of belly", "!", "!"),
    (Steak, "12", "=340.194", "?12 oz|12 kg"),
    (Steak, "14", "=396.893", "?14 oz|14 g"),
    (Steak, "1", "=453.592", "=1000"),
    (Steak, "1.5", "=680.389", "=1500"),
    (Steak, "4", "?4 lb|4 oz", "?4 oz|4 kg"),
    (Steak, "350", "?350 g|350 oz", "=350"),
    (Steak, "350 g", "=350", "=350"),
    (Steak, "14 oz", "=396.893", "=396.893"),
    (Steak, "14oz.", "=396.893", "=396.893"),
    (Steak, "fourteen ounces", "=396.893", "=396.893"),
    (Dish, "400 g + 350 g", "=400,350", "=400,350"),
    (Dish, "400 + 350 g", "=400,350", "=400,350"),
    (Dish, "400, 350 and 300 g", "=400,350,300", "=400,350,300"),
    (Dish, "400, 350, 300", "?400 g + 350 g + 300 g|400 oz + 350 oz + 300 oz", "=400,350,300"),
    (Dish, "14 + 12 oz", "=396.893,340.194", "=396.893,340.194"),
    (Dish, "14, 12 oz", "=396.893,340.194", "=396.893,340.194"),
    (Dish, "14 + 12", "=396.893,340.194", "?14 oz + 12 oz|14 g + 12 g"),
    (Dish, "3 × 14 oz", "=396.893,396.893,396.893", "=396.893,396.893,396.893"),
    (Dish, "two 12 oz steaks", "=340.194,340.194", "=340.194,340.194"),
    (Dish, "2 lb, 4 oz", "=1020.583", "=1020.583"),
    (Thick, "2", "=50.8", "=20"),
    (Thick, "4", "=101.6", "=40"),
    (Thick, "45", "=45", "=45"),
    (Thick, "1¾", "=44.45", "=44.45"),
    (Thick, "1 3/4", "=44.45", "=44.45"),
    (Thick, "1.75", "=44.45", "=17.5"),
    (Thick, "0.5", "=12.7", "?0.5 in|0.5 cm"),
    (Thick, "12", "?12 in|12 mm", "?12 mm|12 cm"),
    (Thick, "1½ in", "=38.1", "=38.1"),
    (Thick, "1.5\"", "=38.1", "=38.1"),
    (Thick, "an inch and a half", "=38.1", "=38.1"),
    (Thick, "4.5 cm", "=45", "=45"),
    (Thick, "45mm", "=45", "=45"),
    (Thick, "1 and 1/2 in", "=38.1", "=38.1"),
    (Thick, "1 and ½ in", "=38.1", "=38.1"),
    (Thick, "30 mm and 42 mm", "=30,42", "=30,42"),
    (Thick, "1–2 in", "?1 in|2 in", "?1 in|2 in"),
    (Thick, "1 + 1.5 + 2 in", "=25.4,38.1,50.8", "=25.4,38.1,50.8"),
    (Thick, "1, 1.5, 2 in", "=25.4,38.1,50.8", "=25.4,38.1,50.8"),
    (Thick, "1, 1½ and 2 inches", "=25.4,38.1,50.8", "=25.4,38.1,50.8"),
    (Thick, "1½ and 2 in", "=38.1,50.8", "=38.1,50.8"),
    (Thick, "30 and 42 mm", "=30,42", "=30,42"),
    (Thick, "30; 42 mm", "=30,42", "=30,42"),
    (Thick, "30 + 42", "=30,42", "=30,42"),
    (Thick, "1 + 1.5 + 2", "=25.4,38.1,50.8", "=10,15,20"),
    (Thick, "thick", "!", "!"),
    (Thick, "45 kg", "!", "!"),
    (Face, "10 x 7", "=254,177.8", "=100,70"),
    (Face, "10½ × 7½ in", "=266.7,190.5", "=266.7,190.5"),
    (Face, "267 × 190", "=267,190", "=267,190"),
    (Face, "26.7 × 19 cm", "=267,190", "=267,190"),
    (Face, "10 by 7 inches", "=254,177.8", "=254,177.8"),
    (Face, "wide", "!", "!"),
    (Air, "350", "=176.667", "=350"),
    (Air, "200", "=93.333", "=200"),
    (Air, "225", "=107.222", "=225"),
    (Air, "450", "=232.222", "=232.222"),
    (Air, "500", "=260", "=260"),
    (Air, "350 F", "=176.667", "=176.667"),
    (Air, "350°F", "=176.667", "=176.667"),
    (Air, "180 C", "=180", "=180"),
    (Air, "180 degrees C", "=180", "=180"),
    (Air, "gas 4", "=180", "=180"),
    (Air, "gas mark 6", "=200", "=200"),
    (Air, "900", "!", "!"),
    (Core, "165", "=73.889", "=73.889"),
    (Core, "130", "=54.444", "=54.444"),
    (Core, "145", "=62.778", "=62.778"),
    (Core, "203", "=95", "=95"),
    (Core, "57", "=57", "=57"),
    (Core, "74", "=74", "=74"),
    (Core, "95", "=95", "=95"),
    (Core, "165 °F", "=73.889", "=73.889"),
    (Core, "60 °C", "=60", "=60"),
    (Core, "pinkish", "!", "!"),
    (Fridge, "38", "=3.33333", "=3.33333"),
    (Fridge, "40", "=4.44444", "=4.44444"),
    (Fridge, "34", "=1.11111", "=1.11111"),
    (Fridge, "4", "=4", "=4"),
    (Fridge, "5", "=5", "=5"),
    (Fridge, "4.5", "=4.5", "=4.5"),
    (Room, "72", "=22.222", "=22.222"),
    (Room, "68", "=20", "=20"),
    (Room, "85", "=29.444", "=29.444"),
    (Room, "20", "=20", "=20"),
    (Room, "45", "=7.222", "=45"),
    (Room, "72 F", "=22.222", "=22.222"),
    (Room, "22 C", "=22", "=22"),
    (Meal, "Saturday 18:00", "=28T18:00", "=28T18:00"),
    (Meal, "Sat 6 pm", "=28T18:00", "=28T18:00"),
    (Meal, "Sat 6pm", "=28T18:00", "=28T18:00"),
    (Meal, "Sat 6", "?Sat Nov 28 2026 6:00 PM|Sat Nov 28 2026 6:00 AM", "?Sat 28 Nov 2026 18:00|Sat 28 Nov 2026 06:00"),
    (Meal, "Saturday", "?Sat Nov 28 2026 7:00 PM|Sat Nov 28 2026 12:30 PM", "?Sat 28 Nov 2026 19:00|Sat 28 Nov 2026 12:30"),
    (Meal, "this Friday 18:00", "=27T18:00", "=27T18:00"),
    (Meal, "tomorrow 7 pm", "=27T19:00", "=27T19:00"),
    (Meal, "tomorrow 19:00", "=27T19:00", "=27T19:00"),
    (Meal, "in 5 hours", "=26T14:00", "=26T14:00"),
    (Meal, "11/28 7pm", "=28T19:00", "=28T19:00"),
    (Meal, "28/11 19:00", "=28T19:00", "=28T19:00"),
    (Meal, "28 Nov 19:00", "=28T19:00", "=28T19:00"),
    (Meal, "Nov 28 7 pm", "=28T19:00", "=28T19:00"),
    (Meal, "2026-11-28 19:00", "=28T19:00", "=28T19:00"),
    (Meal, "15:30 till 18:00", "=26T15:30–26T18:00", "=26T15:30–26T18:00"),
    (Meal, "Saturday 15:30–18:00", "=28T15:30–28T18:00", "=28T15:30–28T18:00"),
    (Meal, "Sat 6–8 pm", "=28T18:00–28T20:00", "=28T18:00–28T20:00"),
    (Meal, "Sat 3:30 pm until 6 pm", "=28T15:30–28T18:00", "=28T15:30–28T18:00"),
    (Meal, "Sat 22:00 to 1:00", "=28T22:00–29T01:00", "=28T22:00–29T01:00"),
    (Meal, "next Saturday 19:00", "?Sat Nov 28 2026 7:00 PM|Sat Dec 5 2026 7:00 PM", "?Sat 28 Nov 2026 19:00|Sat 5 Dec 2026 19:00"),
    (Meal, "someday", "!", "!"),
    (Meal, "25:00", "!", "!"),
    (Past, "yesterday 20:00", "=25T20:00", "=25T20:00"),
    (Past, "yesterday 8 pm", "=25T20:00", "=25T20:00"),
    (Past, "today 8:00", "=26T08:00", "=26T08:00"),
    (Past, "Wednesday 21:00", "=25T21:00", "=25T21:00"),
    (Bought, "today", "=26", "=26"),
    (Bought, "yesterday", "=25", "=25"),
    (Bought, "this Friday", "=27", "=27"),
    (Bought, "Tuesday", "=24", "=24"),
    (Bought, "29 Nov", "=29", "=29"),
    (Bought, "11/25", "=25", "=25"),
    (Bought, "25/11", "=25", "=25"),
    (Bought, "11/29/2026", "=29", "=29"),
    (Bought, "next Friday", "?Fri Nov 27 2026|Fri Dec 4 2026", "?Fri 27 Nov 2026|Fri 4 Dec 2026"),
    (Bought, "soon", "!", "!"),
];

/// What was read: figures, moments or days; a question; nothing.
enum Read {
    Figures(Vec<f64>),
    Said(String),
    Asks(Vec<String>),
    Refused,
}

fn of<T>(read: Result<T, InputError>, figures: impl Fn(T) -> Vec<f64>) -> Read {
    match read {
        Ok(value) => Read::Figures(figures(value)),
        Err(error) if error.choices().is_empty() => Read::Refused,
        Err(error) => Read::Asks(error.choices()),
    }
}

fn said<E>(read: Result<String, E>, choices: impl Fn(&E) -> Vec<String>) -> Read {
    match read {
        Ok(said) => Read::Said(said),
        Err(error) if choices(&error).is_empty() => Read::Refused,
        Err(error) => Read::Asks(choices(&error)),
    }
}

fn read(kind: Of, typed: &str, system: Option<System>) -> Read {
    let mass = |expect: Expect| of(read_mass(typed, &expect.by(system)), |mass| vec![mass.in_g()]);
    let degrees = |low, high| of(read_temperature(typed, &Expect::between(low, high).by(system)), |at| vec![at.in_c()]);
    let moment = |at: &ZonedDateTime| at.strftime("%dT%H:%M").to_string();
    match kind {
        Turkey => mass(turkey()),
        Belly => mass(belly()),
        Steak => mass(steak()),
        Dish => of(read_portions(typed, &steak().by(system), &Expect::between(10.0, 80.0).by(system)), |all| {
            all.iter().map(|portion| portion.weight.in_g()).collect()
        }),
        Thick => of(read_lengths(typed, &thick().by(system)), |all| all.into_iter().map(LengthIn::in_mm).collect()),
        Face => of(read_face(typed, &Expect::between(60.0, 700.0).by(system)), |(l, w)| vec![l.in_mm(), w.in_mm()]),
        Fridge => degrees(-2.0, 15.0),
        Room => degrees(5.0, 50.0),
        Air => match read_stages(&format!("{typed} until done"), system) {
            Ok(stages) => match stages[0].air {
                AirAsk::At(air) => Read::Figures(vec![air.in_c()]),
                AirAsk::Word(_) => panic!("{typed} is a word"),
            },
            Err(slip) if slip.choices.is_empty() => Read::Refused,
            Err(slip) => Read::Asks(slip.choices),
        },
        Core => match read_finish(typed, system) {
            Ok(FinishAsk::Core(core)) => Read::Figures(vec![core.in_c()]),
            Ok(FinishAsk::Style(_)) => panic!("{typed} is a style"),
            Err(slip) if slip.choices.is_empty() => Read::Refused,
            Err(slip) => Read::Asks(slip.choices),
        },
        Meal => said(
            read_meal(typed, &now(), system)
                .map(|(at, until)| until.map_or_else(|| moment(&at), |until| format!("{}–{}", moment(&at), moment(&until)))),
            WallError::choices,
        ),
        Past => said(read_wall_by(typed, &now(), Toward::Past, system).map(|at| moment(&at)), WallError::choices),
        Bought => said(read_day_by(typed, &now(), Toward::Purchase, system).map(|day| day.strftime("%d").to_string()), WallError::choices),
    }
}

fn held_against(row: &Row, system: Option<System>, wanted: &str) {
    let (kind, typed, ..) = *row;
    let name = format!("{kind:?} “{typed}” in {system:?}");
    let (sign, wanted) = wanted.split_at(1);
    match (read(kind, typed, system), sign) {
        (Read::Figures(read), "=") => {
            let wanted: Vec<f64> = wanted.split(',').map(|figure| figure.parse().unwrap()).collect();
            assert_eq!(read.len(), wanted.len(), "{name}: {read:?}");
            read.iter().zip(&wanted).for_each(|(read, wanted)| close(*read, *wanted, &name));
        }
        (Read::Said(read), "=") => assert_eq!(read, wanted, "{name}"),
        (Read::Asks(offered), "?") => {
            assert_eq!(offered, wanted.split('|').collect::<Vec<_>>(), "{name}");
            // Tapped, either is read without asking again.
            for choice in &offered {
                assert!(!matches!(read(kind, choice, system), Read::Asks(_)), "{name}: {choice} asks again");
            }
        }
        (Read::Refused, "!") => {}
        (Read::Figures(read), _) => panic!("{name}: read as {read:?}, not {sign}{wanted}"),
        (Read::Said(read), _) => panic!("{name}: read as {read}, not {sign}{wanted}"),
        (Read::Asks(offered), _) => panic!("{name}: asks {offered:?}, not {sign}{wanted}"),
        (Read::Refused, _) => panic!("{name}: refused, not {sign}{wanted}"),
    }
}

#[test]
fn both_kitchens_read_what_their_cooks_mean() {
    let mut wrong = Vec::new();
    for row in BOTH {
        for (system, wanted) in [(US, row.2), (SI, row.3)] {
            let held = std::panic::catch_unwind(|| held_against(row, system, wanted));
            wrong.extend(held.err().map(|why| why.downcast_ref::<String>().cloned().unwrap_or_default()));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
    assert!(2 * BOTH.len() >= 300, "{} rows in two kitchens", BOTH.len());
}
