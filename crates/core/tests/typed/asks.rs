//! What can be meant in two ways has to ask: what is offered, by hand.

use super::*;

/// An error as the choices it offers; what is read without asking fails there.
macro_rules! offers {
    ($read:expr) => {
        $read.expect_err("asked about").choices()
    };
}

/// Counts what asked.
#[derive(Default)]
struct Asked(usize);

impl Asked {
    fn ask(&mut self, typed: &str, offered: &[String], first: &str, second: &str) {
        assert_eq!(offered, [first, second].map(str::to_owned), "“{typed}”");
        self.0 += 1;
    }
}

/// Whatever can be meant in two ways: what is offered, by hand.
#[test]
fn what_can_be_meant_in_two_ways_asks() {
    let mut asked = Asked::default();
    weights_and_lengths_ask(&mut asked);
    salt_asks(&mut asked);
    days_and_hours_ask(&mut asked);
    assert!(asked.0 >= 40, "{} asked", asked.0);
}

fn weights_and_lengths_ask(asked: &mut Asked) {
    let mass = |typed: &str, expect: &Expect| offers!(read_mass(typed, expect));
    for (typed, expect, first, second) in [
        ("12", turkey(), "12 kg", "12 lb"),
        ("10", turkey(), "10 kg", "10 lb"),
        ("5", belly(), "5 kg", "5 lb"),
        ("2.4", belly(), "2.4 kg", "2.4 lb"),
        ("1", steak(), "1 kg", "1 lb"),
        ("5 lb 20", belly(), "5.20 lb", "5 lb 20 oz"),
        ("2 lb 30", belly(), "2.30 lb", "2 lb 30 oz"),
        ("5 kg 4", belly(), "5.4 kg", "5 kg 4 g"),
        ("2 kg 50", belly(), "2.50 kg", "2 kg 50 g"),
        ("1 kg 5", belly(), "1.5 kg", "1 kg 5 g"),
        ("2-3 kg", belly(), "2 kg", "3 kg"),
        ("2–3 kg", belly(), "2 kg", "3 kg"),
        ("4 to 5 lb", belly(), "4 lb", "5 lb"),
    ] {
        let offered = mass(typed, &expect);
        for choice in &offered {
            assert!(read_mass(choice, &expect).is_ok(), "{choice} asks again");
        }
        asked.ask(typed, &offered, first, second);
    }
    for (typed, first, second) in [("2", "2 cm", "2 in"), ("1.5", "1.5 cm", "1.5 in"), ("4", "4 cm", "4 in"), ("1-2 in", "1 in", "2 in")] {
        let offered = offers!(read_length(typed, &thick()));
        assert!(offered.iter().all(|choice| read_length(choice, &thick()).is_ok()));
        asked.ask(typed, &offered, first, second);
    }
    let side = Expect::between(60.0, 800.0);
    for (typed, first, second) in [("10 x 7", "10 × 7 cm", "10 × 7 in"), ("12x9", "12 × 9 cm", "12 × 9 in")] {
        let offered = offers!(read_face(typed, &side));
        assert!(offered.iter().all(|choice| read_face(choice, &side).is_ok()));
        asked.ask(typed, &offered, first, second);
    }
    let oven = Expect::between(80.0, 300.0);
    asked.ask("200", &offers!(read_temperature("200", &oven)), "200 C", "200 F");
    asked.ask("250", &offers!(read_temperature("250", &oven)), "250 C", "250 F");
    let steaks = |typed: &str| offers!(read_portions(typed, &steak(), &Expect::between(10.0, 80.0)));
    asked.ask("4 steaks, 1.4 kg", &steaks("4 steaks, 1.4 kg"), "4 × 1.4 kg", "4 × 350 g");
    asked.ask("2 steaks, 800 g", &steaks("2 steaks, 800 g"), "2 × 800 g", "2 × 400 g");
}

fn salt_asks(asked: &mut Asked) {
    let table = Salt::find("fine-table").unwrap();
    for (typed, first, second) in [("1", "1 %", "1 g/kg"), ("0.8", "0.8 %", "0.8 g/kg"), ("1.5", "1.5 %", "1.5 g/kg")] {
        asked.ask(typed, &offers!(read_dose(typed, SpoonSalt::of(&table, true))), first, second);
    }
    // Kosher salt is two salts.
    let ours = SpoonSalt::of(&table, true);
    for (typed, first, second) in [
        ("1 tsp/lb kosher salt", "1 tsp light-flake kosher salt per lb", "1 tsp dense kosher salt per lb"),
        ("1½ tsp kosher per lb", "1½ tsp light-flake kosher salt per lb", "1½ tsp dense kosher salt per lb"),
    ] {
        let offered = offers!(read_dose(typed, ours));
        assert!(offered.iter().all(|choice| read_dose(choice, ours).is_ok()), "{offered:?}");
        asked.ask(typed, &offered, first, second);
    }
    let spoons = offers!(read_salt_amount("2 tbsp kosher salt", ours));
    asked.ask("2 tbsp kosher salt", &spoons, "2 tbsp light-flake kosher salt", "2 tbsp dense kosher salt");
    // A spoon of a salt that nobody has named.
    let nobodys = SpoonSalt::of(&table, false);
    for (typed, first, second) in [
        ("1½ tsp per lb", "1½ tsp fine table salt per lb", "1½ tsp light-flake kosher salt per lb"),
        ("1 tbsp per 4 lb", "1 tbsp fine table salt per 4 lb", "1 tbsp light-flake kosher salt per 4 lb"),
    ] {
        let offered = offers!(read_dose(typed, nobodys));
        assert!(offered.iter().all(|choice| read_dose(choice, nobodys).is_ok()), "{offered:?}");
        asked.ask(typed, &offered, first, second);
    }
    asked.ask("2 tbsp", &offers!(read_salt_amount("2 tbsp", nobodys)), "2 tbsp fine table salt", "2 tbsp light-flake kosher salt");
    for (typed, first, second) in [
        ("4 oz soy sauce", "4 fl oz soy sauce", "113 g soy sauce"),
        ("2 t soy sauce", "2 tsp soy sauce", "2 tbsp soy sauce"),
        ("1,500 g soy sauce", "1.500 g soy sauce", "1500 g soy sauce"),
        ("30 g 2 tbsp soy sauce", "30 g soy sauce", "2 tbsp soy sauce"),
        ("label: 2 %", "up to 2 % solution", "2 g salt per 100 g"),
    ] {
        asked.ask(typed, &offers!(read_ledger_line(typed)), first, second);
    }
    for (typed, first, second) in [
        ("8 %", "up to 8 % solution", "8 g salt per 100 g"),
        ("240 mg", "240 mg sodium per 100 g", "240 mg sodium per 4 oz (112 g)"),
        ("240", "240 mg sodium per 100 g", "240 mg sodium per 4 oz (112 g)"),
        ("0.8 g salt", "0.8 g salt per 100 g", "0.8 g salt per 4 oz (112 g)"),
    ] {
        asked.ask(typed, &offers!(read_pack_label(typed)), first, second);
    }
}

fn days_and_hours_ask(asked: &mut Asked) {
    for (typed, toward, system, first, second) in [
        ("Saturday", Toward::Coming, None, "Sat 28 Nov 2026 19:00", "Sat 28 Nov 2026 12:30"),
        ("Sat 7", Toward::Coming, None, "Sat 28 Nov 2026 19:00", "Sat 28 Nov 2026 07:00"),
        ("Sat 7", Toward::Coming, US, "Sat Nov 28 2026 7:00 PM", "Sat Nov 28 2026 7:00 AM"),
        ("7:30", Toward::Coming, None, "Thu 26 Nov 2026 19:30", "Fri 27 Nov 2026 07:30"),
        ("next Saturday 19:00", Toward::Coming, None, "Sat 28 Nov 2026 19:00", "Sat 5 Dec 2026 19:00"),
        ("4/12 19:00", Toward::Coming, None, "Fri 4 Dec 2026 19:00", "Mon 12 Apr 2027 19:00"),
        ("half seven tonight", Toward::Coming, None, "Thu 26 Nov 2026 19:30", "Thu 26 Nov 2026 18:30"),
        ("Fri 24 Dec 18:00", Toward::Coming, None, "Thu 24 Dec 2026", "Fri 25 Dec 2026"),
        ("yesterday 8", Toward::Past, None, "Wed 25 Nov 2026 20:00", "Wed 25 Nov 2026 08:00"),
        ("yesterday", Toward::Past, None, "Wed 25 Nov 2026 20:00", "Wed 25 Nov 2026 08:00"),
    ] {
        let offered = offers!(read_wall_by(typed, &now(), toward, system));
        // A day alone is offered to be said with its hour.
        assert!(
            offered.iter().filter(|c| c.contains(':')).all(|choice| read_wall_by(choice, &now(), toward, system).is_ok()),
            "{offered:?}"
        );
        asked.ask(typed, &offered, first, second);
    }
    asked.ask("next Friday", &offers!(read_day_by("next Friday", &now(), Toward::Purchase, None)), "Fri 27 Nov 2026", "Fri 4 Dec 2026");
    // Bought on a day that has not come: last year's, or not yet.
    asked.ask("29 Nov", &offers!(read_day_by("29 Nov", &now(), Toward::Past, None)), "29 Nov 2025", "not yet");
    asked.ask("11/29", &offers!(read_day_by("11/29", &now(), Toward::Past, US)), "29 Nov 2025", "not yet");
}
