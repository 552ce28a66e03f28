//! What cooks type in metric and in US kitchens, and what it means: written by hand, factors of NIST Handbook 44, App. C
//! (453.59237 g/lb, 28.349523 g/oz, 25.4 mm/in). What can be meant in two ways has to ask, and both of its offers have to be
//! readable in one way.

mod asks;
mod both;

use jiff::ZonedDateTime;
use rauchkeller_core::clock::{Toward, read_day_by, read_span, read_wall_by};
use rauchkeller_core::salt::{LedgerLine, PackLabel, Salt, SpoonSalt, read_dose, read_ledger_line, read_pack_label, read_salt_amount};
use rauchkeller_core::units::{
    Expect, LengthIn, MassIn, System, TemperatureIn, TimeIn, read_face, read_length, read_mass, read_portions, read_temperature,
};

const US: Option<System> = Some(System::Customary);
const SI: Option<System> = Some(System::Metric);

fn turkey() -> Expect {
    Expect::between(2_000.0, 15_000.0)
}

fn belly() -> Expect {
    Expect::between(400.0, 8_000.0)
}

fn steak() -> Expect {
    Expect::between(100.0, 1_800.0)
}

fn thick() -> Expect {
    Expect::between(10.0, 200.0)
}

/// Thursday, 26 November 2026, nine in the morning.
fn now() -> ZonedDateTime {
    "2026-11-26T09:00[America/New_York]".parse().unwrap()
}

fn close(read: f64, want: f64, typed: &str) {
    assert!((read - want).abs() <= 1e-4 * want.abs().max(0.01), "“{typed}” read as {read}, not {want}");
}

const WEIGHTS: [(&str, f64); 44] = [
    ("2.4 kg", 2400.0),
    ("2,4 kg", 2400.0),
    ("2.4kg", 2400.0),
    ("1.9kg", 1900.0),
    ("2 kilos", 2000.0),
    ("two kilos", 2000.0),
    ("1500 g", 1500.0),
    ("1500g", 1500.0),
    ("1,500 g", 1500.0),
    ("1.500 g", 1500.0),
    ("2.500 kg", 2500.0),
    ("1 kg 200", 1200.0),
    ("1 kg 200 g", 1200.0),
    ("1½ kg", 1500.0),
    ("850 grams", 850.0),
    ("850", 850.0),
    ("2400", 2400.0),
    ("5 lb 4 oz", 2381.360),
    ("5lb4oz", 2381.360),
    ("5 lb. 4 oz.", 2381.360),
    ("5 lb, 4 oz", 2381.360),
    ("5 lbs and 4 ounces", 2381.360),
    ("5 lb 4", 2381.360),
    ("2 lb 3", 992.233),
    ("2lb3", 992.233),
    ("2 lb 3½", 1006.408),
    ("2 lb 3½ oz", 1006.408),
    ("two pounds", 907.185),
    ("a pound", 453.592),
    ("a pound and a half", 680.389),
    ("one and a half pounds", 680.389),
    ("1½ lb", 680.389),
    ("1 1/2 lb", 680.389),
    ("1-1/2 lb", 680.389),
    ("3/4 lb", 340.194),
    ("three quarters of a pound", 340.194),
    ("half a pound", 226.796),
    ("5.25 lb", 2381.360),
    ("5#", 2267.962),
    ("12 oz", 340.194),
    ("twelve ounces", 340.194),
    ("about 2 kg", 2000.0),
    ("~ 2 kg", 2000.0),
    ("2 kg or so", 2000.0),
];

#[test]
fn weights() {
    let any = Expect::between(100.0, 20_000.0);
    for (typed, g) in WEIGHTS {
        close(read_mass(typed, &any).unwrap_or_else(|e| panic!("{typed}: {e}")).in_g(), g, typed);
    }
    // A bare number takes the household's unit, and the one that makes sense.
    for (typed, expect, g) in [
        ("12", turkey().by(SI), 12_000.0),
        ("12", turkey().by(US), 5443.108),
        ("2.4", belly().by(SI), 2400.0),
        ("5", belly().by(US), 2267.962),
        ("12", steak().by(US), 340.194),
        ("1", steak().by(US), 453.592),
        ("350", steak(), 350.0),
        ("20", turkey(), 9071.847),
    ] {
        close(read_mass(typed, &expect).unwrap_or_else(|e| panic!("{typed}: {e}")).in_g(), g, typed);
    }
}

/// Grams, and millimetres where they were said.
type Each = (f64, Option<f64>);

#[test]
fn portions() {
    let rows: [(&str, &[Each]); 18] = [
        ("400 g 50 mm, 350 g 38 mm", &[(400.0, Some(50.0)), (350.0, Some(38.0))]),
        ("400 g 50 mm and 350 g 38 mm", &[(400.0, Some(50.0)), (350.0, Some(38.0))]),
        ("400 g, 50 mm thick, 350 g, 38 mm thick", &[(400.0, Some(50.0)), (350.0, Some(38.0))]),
        ("400 g at 50 mm + 350 g at 38 mm", &[(400.0, Some(50.0)), (350.0, Some(38.0))]),
        ("2 × 400 g 50 mm, 350 g 38 mm", &[(400.0, Some(50.0)), (400.0, Some(50.0)), (350.0, Some(38.0))]),
        ("14 oz 1½ in, 12 oz 1 in", &[(396.893, Some(38.1)), (340.194, Some(25.4))]),
        ("4 x 350 g", &[(350.0, None); 4]),
        ("4x350g", &[(350.0, None); 4]),
        ("4 × 350 g", &[(350.0, None); 4]),
        ("4 at 350 g", &[(350.0, None); 4]),
        ("4 steaks of 350 g", &[(350.0, None); 4]),
        ("four 12 oz steaks", &[(340.194, None); 4]),
        ("2 steaks, 400 g each", &[(400.0, None); 2]),
        ("4 steaks, 1.4 kg together", &[(350.0, None); 4]),
        ("400 g + 350 g", &[(400.0, None), (350.0, None)]),
        ("400 g and 350 g", &[(400.0, None), (350.0, None)]),
        ("1 lb 4 oz + 1 lb", &[(566.990, None), (453.592, None)]),
        ("2 × 1 lb 4", &[(566.990, None); 2]),
    ];
    for (typed, want) in rows {
        let read = read_portions(typed, &steak(), &Expect::between(10.0, 80.0)).unwrap_or_else(|e| panic!("{typed}: {e}"));
        assert_eq!(read.len(), want.len(), "{typed}");
        for (portion, (g, mm)) in read.iter().zip(want) {
            close(portion.weight.in_g(), *g, typed);
            assert_eq!(portion.thickness.map(|t| (t.in_mm() * 10.0).round()), mm.map(|mm| (mm * 10.0).round()), "{typed}");
        }
    }
}

#[test]
fn lengths_and_faces() {
    for (typed, mm) in [
        ("45 mm", 45.0),
        ("45", 45.0),
        ("4.5 cm", 45.0),
        ("4,5 cm", 45.0),
        ("1½ in", 38.1),
        ("1 1/2\"", 38.1),
        ("1½″", 38.1),
        ("1.5 inches", 38.1),
        ("1.5 inches thick", 38.1),
        ("an inch", 25.4),
        ("an inch and a half", 38.1),
        ("half an inch", 12.7),
        ("3/4", 19.05),
        ("1 1/2", 38.1),
        ("2-inch", 50.8),
    ] {
        close(read_length(typed, &thick()).unwrap_or_else(|e| panic!("{typed}: {e}")).in_mm(), mm, typed);
    }
    close(read_length("2", &thick().by(US)).unwrap().in_mm(), 50.8, "2 in a US kitchen");
    close(read_length("4", &thick().by(SI)).unwrap().in_mm(), 40.0, "4 in a metric kitchen: no meat is 4 mm thick");
    let side = Expect::between(60.0, 800.0);
    for (typed, l, w) in [
        ("267 × 190 mm", 267.0, 190.0),
        ("267x190", 267.0, 190.0),
        ("26.7 × 19 cm", 267.0, 190.0),
        ("10½ x 7½ in", 266.7, 190.5),
        ("10 by 7 inches", 254.0, 177.8),
        ("10\" x 7\"", 254.0, 177.8),
    ] {
        let (length, width) = read_face(typed, &side).unwrap_or_else(|e| panic!("{typed}: {e}"));
        close(length.in_mm(), l, typed);
        close(width.in_mm(), w, typed);
    }
}

#[test]
fn temperatures() {
    let (fridge, oven) = (Expect::between(-2.0, 15.0), Expect::between(80.0, 300.0));
    for (typed, expect, c) in [
        ("4", fridge, 4.0),
        ("4 °C", fridge, 4.0),
        ("38", fridge, 3.3333),
        ("38 F", fridge, 3.3333),
        ("38°", fridge, 3.3333),
        ("40 degrees F", fridge, 4.4444),
        ("-1", fridge, -1.0),
        ("375 F", oven, 190.5556),
        ("375°F", oven, 190.5556),
        ("450", oven, 232.2222),
        ("gas 4", oven, 180.0),
        ("gas mark 6", oven, 200.0),
        ("180 celsius", oven, 180.0),
        ("250", oven.by(SI), 250.0),
        ("250", oven.by(US), 121.1111),
    ] {
        close(read_temperature(typed, &expect).unwrap_or_else(|e| panic!("{typed}: {e}")).in_c(), c, typed);
    }
}

#[test]
fn doses_and_amounts_of_salt() {
    let (table, flakes) = (Salt::find("fine-table").unwrap(), Salt::find("light-flake-kosher").unwrap());
    for (typed, salt, g_per_kg) in [
        ("10 g/kg", &table, 10.0),
        ("10", &table, 10.0),
        ("7,5 g/kg", &table, 7.5),
        ("10 g per kg", &table, 10.0),
        ("10 grams per kilogram", &table, 10.0),
        ("10g a kilo", &table, 10.0),
        ("0.8 %", &table, 8.0),
        ("0.8%", &table, 8.0),
        ("1 percent", &table, 10.0),
        ("1 % salt by weight", &table, 10.0),
        // 5 ÷ 0.45359237
        ("5 g per lb", &table, 11.0231),
        // 1.5 × 2.8 ÷ 0.45359237: the rule of the trade, 9.26.
        ("1½ tsp per lb", &flakes, 9.2594),
        ("1 1/2 tsp/lb", &flakes, 9.2594),
        ("one and a half teaspoons a pound", &flakes, 9.2594),
        // 6 ÷ 0.45359237
        ("1 tsp per lb", &table, 13.2277),
        // 18 ÷ 4 lb
        ("1 tbsp per 4 lb", &table, 9.9208),
        ("1 tsp light-flake kosher per lb", &table, 6.1729),
        ("1 tsp/lb light-flake kosher salt", &table, 6.1729),
        // 2 × 4.8
        ("2 tsp dense kosher salt per kg", &table, 9.6),
        ("1½ tsp kosher salt per lb", &flakes, 9.2594),
        ("1 g/100 g", &table, 10.0),
        ("0.8 g per 100g", &table, 8.0),
        ("½ tsp per pound", &table, 6.6139),
        ("1 tsp to the kilo", &table, 6.0),
        // 2 tsp of 5.0 g are 10 g of a salt that is 97 % sodium chloride.
        ("2 tsp clay-mixed coarse salt per kg", &table, 9.7),
        ("house dose", &table, 10.0),
        ("gentle", &table, 7.5),
    ] {
        close(read_dose(typed, SpoonSalt::of(salt, true)).unwrap_or_else(|e| panic!("{typed}: {e}")).0, g_per_kg, typed);
    }
    for (typed, g) in [
        ("18 g", 18.0),
        ("18", 18.0),
        ("0.5 oz", 14.1748),
        ("2 tbsp", 36.0),
        ("two tablespoons", 36.0),
        ("1½ tsp", 9.0),
        ("1 tbsp of salt", 18.0),
        ("2 tbsp light-flake kosher salt", 16.8),
    ] {
        close(read_salt_amount(typed, SpoonSalt::of(&table, true)).unwrap_or_else(|e| panic!("{typed}: {e}")).in_g(), g, typed);
    }
}

#[test]
fn salty_things_and_labels() {
    // Grams used: soy sauce 16 g a US tablespoon (14.787 mL).
    for (typed, used) in [
        ("2 tbsp soy sauce", 32.0),
        ("two tablespoons soy sauce", 32.0),
        ("soy sauce, 2 tbsp", 32.0),
        ("soy sauce 2 tbsp", 32.0),
        ("2 T soy sauce", 32.0),
        ("30 ml soy sauce", 32.462),
        ("½ cup soy sauce", 128.0),
        ("half a cup of soy sauce", 128.0),
        ("2 fl oz soy sauce", 64.0),
        ("1 tsp soy sauce", 5.3333),
        ("a tablespoon of soy sauce", 16.0),
        ("30 g soy sauce", 30.0),
        ("1½ oz mustard", 42.524),
        ("100 ml soy sauce bath 1 h", 108.205),
        ("30 g rub 22% salt", 30.0),
        ("1 tbsp salt", 18.0),
    ] {
        match read_ledger_line(typed).unwrap_or_else(|e| panic!("{typed}: {e}")) {
            LedgerLine::Entry(entry) => close(entry.used.in_g(), used, typed),
            LedgerLine::PieceLabel(label) => panic!("{typed}: {label:?}"),
        }
    }
    // Sodium in mg per 100 g; salt ÷ 2.5421.
    for (typed, mg) in [
        ("240 mg per 100 g", 240.0),
        ("sodium 480 mg per 100 g", 480.0),
        ("270 mg per 4 oz", 238.0986),
        ("270 mg sodium per serving (112 g)", 241.0714),
        ("270 mg / 112 g", 241.0714),
        ("0.8 g salt per 100 g", 314.7005),
        ("0,8 g salt per 100 g", 314.7005),
        ("2 % salt", 786.7511),
    ] {
        match read_pack_label(typed).unwrap_or_else(|e| panic!("{typed}: {e}")) {
            Some(PackLabel::Sodium(read)) => close(read, mg, typed),
            other => panic!("{typed}: {other:?}"),
        }
    }
    for (typed, share) in [
        ("up to 8 % solution", 0.08),
        ("up to 8% solution", 0.08),
        ("contains up to 8 % of a solution", 0.08),
        ("12 lb turkey, up to 8 % solution", 0.08),
        ("enhanced with up to 15 percent broth", 0.15),
    ] {
        match read_pack_label(typed).unwrap_or_else(|e| panic!("{typed}: {e}")) {
            Some(PackLabel::UpTo(read)) => close(read.0, share, typed),
            other => panic!("{typed}: {other:?}"),
        }
    }
    assert_eq!(read_pack_label("no added solution"), Ok(None));
}

#[test]
fn moments_to_come() {
    for (typed, system, want) in [
        ("tonight", None, "2026-11-26T19:00"),
        ("tonight at 7", None, "2026-11-26T19:00"),
        ("tonight 8:30", None, "2026-11-26T20:30"),
        ("in 5 hours", None, "2026-11-26T14:00"),
        ("in 90 min", None, "2026-11-26T10:30"),
        ("in half an hour", None, "2026-11-26T09:30"),
        ("in two days at 19:00", None, "2026-11-28T19:00"),
        ("tomorrow evening", None, "2026-11-27T19:00"),
        ("tomorrow at noon", None, "2026-11-27T12:00"),
        ("Saturday 18:00", None, "2026-11-28T18:00"),
        ("sat 6pm", None, "2026-11-28T18:00"),
        ("Sat 6 p.m.", None, "2026-11-28T18:00"),
        ("Saturday night", None, "2026-11-28T20:00"),
        ("Sunday lunch", None, "2026-11-29T12:30"),
        ("this Saturday 19:00", None, "2026-11-28T19:00"),
        ("28 Nov 19:00", None, "2026-11-28T19:00"),
        ("24 Dec 18:00", None, "2026-12-24T18:00"),
        ("Dec 24 6pm", None, "2026-12-24T18:00"),
        ("December 24th at 6 pm", None, "2026-12-24T18:00"),
        ("24th of December, 18:00", None, "2026-12-24T18:00"),
        ("Thu 24 Dec 18:00", None, "2026-12-24T18:00"),
        ("Christmas Eve 6 pm", None, "2026-12-24T18:00"),
        ("11/28 7pm", US, "2026-11-28T19:00"),
        ("11/28 7pm", None, "2026-11-28T19:00"),
        ("28/11 19:00", SI, "2026-11-28T19:00"),
        ("4/12 19:00", SI, "2026-12-04T19:00"),
        ("12/4 7pm", US, "2026-12-04T19:00"),
        ("28.11. 19:00", None, "2026-11-28T19:00"),
        ("28.11.2026 19 Uhr", None, "2026-11-28T19:00"),
        ("2026-12-24 18:00", None, "2026-12-24T18:00"),
        ("the 28th at 19:00", None, "2026-11-28T19:00"),
        ("7:30 pm", None, "2026-11-26T19:30"),
        ("19.30", None, "2026-11-26T19:30"),
        ("1930", None, "2026-11-26T19:30"),
        ("7:30", SI, "2026-11-27T07:30"),
        ("half past seven in the evening", None, "2026-11-26T19:30"),
        ("quarter to 8 tonight", None, "2026-11-26T19:45"),
    ] {
        let read = read_wall_by(typed, &now(), Toward::Coming, system).unwrap_or_else(|e| panic!("{typed}: {e}"));
        assert_eq!(read.datetime(), want.parse().unwrap(), "{typed}");
    }
}

#[test]
fn moments_that_passed_and_days() {
    for (typed, want) in [
        ("just now", "2026-11-26T09:00"),
        ("an hour ago", "2026-11-26T08:00"),
        ("2 h ago", "2026-11-26T07:00"),
        ("90 minutes ago", "2026-11-26T07:30"),
        ("this morning", "2026-11-26T08:00"),
        ("last night", "2026-11-25T20:00"),
        ("yesterday evening", "2026-11-25T19:00"),
        ("yesterday 20:00", "2026-11-25T20:00"),
        ("Wed 8 pm", "2026-11-25T20:00"),
        ("20:00", "2026-11-25T20:00"),
    ] {
        let read = read_wall_by(typed, &now(), Toward::Past, None).unwrap_or_else(|e| panic!("{typed}: {e}"));
        assert_eq!(read.datetime(), want.parse().unwrap(), "{typed}");
    }
    for (typed, toward, system, want) in [
        ("today", Toward::Past, None, "2026-11-26"),
        ("yesterday", Toward::Past, None, "2026-11-25"),
        ("Tuesday", Toward::Past, None, "2026-11-24"),
        ("last Friday", Toward::Past, None, "2026-11-20"),
        ("3 days ago", Toward::Past, None, "2026-11-23"),
        ("a week ago", Toward::Past, None, "2026-11-19"),
        ("24 Nov", Toward::Past, None, "2026-11-24"),
        ("Tue 24 Nov", Toward::Past, None, "2026-11-24"),
        ("11/24", Toward::Past, US, "2026-11-24"),
        ("24/11", Toward::Past, SI, "2026-11-24"),
        ("Dec 2", Toward::Coming, None, "2026-12-02"),
        ("12/02/2026", Toward::Coming, US, "2026-12-02"),
        ("2 Dec 2026", Toward::Coming, None, "2026-12-02"),
        ("tomorrow", Toward::Coming, None, "2026-11-27"),
        // A purchase: done as a rule; “this” and “next”, and a date of the days to come, lie ahead.
        ("Friday", Toward::Purchase, None, "2026-11-20"),
        ("last Friday", Toward::Purchase, None, "2026-11-20"),
        ("this Friday", Toward::Purchase, None, "2026-11-27"),
        ("next Tuesday", Toward::Purchase, None, "2026-12-01"),
        ("Thursday", Toward::Purchase, None, "2026-11-26"),
        ("tomorrow", Toward::Purchase, None, "2026-11-27"),
        ("4 Dec", Toward::Purchase, None, "2026-12-04"),
        ("12/4", Toward::Purchase, US, "2026-12-04"),
        ("24 Nov", Toward::Purchase, None, "2026-11-24"),
        ("2 Jan", Toward::Purchase, None, "2027-01-02"),
        ("the 28th", Toward::Purchase, None, "2026-11-28"),
        ("the 20th", Toward::Purchase, None, "2026-11-20"),
        ("yesterday", Toward::Purchase, None, "2026-11-25"),
        ("I buy it on Friday", Toward::Purchase, None, "2026-11-27"),
        ("i’ll buy it tomorrow", Toward::Purchase, None, "2026-11-27"),
        ("To be bought 4 Dec", Toward::Purchase, None, "2026-12-04"),
        ("on Friday", Toward::Purchase, None, "2026-11-20"),
    ] {
        let read = read_day_by(typed, &now(), toward, system).unwrap_or_else(|e| panic!("{typed}: {e}"));
        assert_eq!(read.to_string(), want, "{typed}");
    }
    for (typed, min) in
        [("24", 1440.0), ("a day", 1440.0), ("2 days", 2880.0), ("1½ h", 90.0), ("an hour and a half", 90.0), ("1 day 12 h", 2160.0)]
    {
        assert_eq!(read_span(typed).map(TimeIn::in_min), Some(min), "{typed}");
    }
}
