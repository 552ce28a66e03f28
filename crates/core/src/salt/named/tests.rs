//! Names and amounts by hand.

use super::*;

fn salt(words: &str) -> Salty {
    named(words, "g", &[]).salt
}

#[test]
fn salts_are_salt_under_every_name() {
    // All of it is sodium chloride; clay-mixed salt 97 % (handbook table, from memory).
    for (words, id) in [
        ("kosher salt", "dense-kosher"),
        ("light-flake kosher salt", "light-flake-kosher"),
        ("sea salt", "fine-sea"),
        ("coarse salt", "coarse-sea"),
        ("coarse sea salt", "coarse-sea"),
        ("rock salt", "fine-rock"),
        ("pink himalayan salt", "fine-rock"),
        ("flaky sea salt", "pyramid-flakes"),
        ("sea salt flakes", "pyramid-flakes"),
        ("grey salt", "clay-coarse"),
        ("table salt", "fine-table"),
        ("salt", "fine-table"),
        ("more salt", "fine-table"),
    ] {
        let found = named(words, "tbsp", &[]);
        assert_eq!(found.loose.as_ref().map(|salt| salt.id.as_ref()), Some(id), "{words}");
        assert!(matches!(found.salt, Salty::Holds(share) if share >= 97.0), "{words}");
    }
    assert!(named("kosher salt", "tbsp", &[]).which_flake && !named("dense kosher salt", "tbsp", &[]).which_flake);
}

#[test]
fn what_holds_no_salt_brings_none() {
    for words in [
        "honey",
        "red wine",
        "lemon juice",
        "garlic",
        "oregano",
        "bourbon",
        "water",
        "thyme, fresh",
        "brown sugar",
        "olive oil",
        "stale bread",
        "onions, sliced",
        "black peppercorns",
        "mustard powder",
        "tomato paste",
        "cherry tomatoes",
        "smoked paprika",
        "bay leaves",
        "unsalted butter",
        "salt-free rub",
        "soybean oil",
        "soda water",
        "apple juice",
    ] {
        assert_eq!(salt(words), Salty::Holds(0.0), "{words}");
    }
}

#[test]
fn what_is_salty_is_counted() {
    // USDA SR Legacy, mg of sodium in 100 g, from memory: miso 3,728, anchovies 3,668, capers 2,348, hard parmesan 1,602.
    for (words, sodium_mg) in [("white miso", 3728.0), ("anchovies", 3668.0), ("capers, chopped", 2348.0), ("parmesan", 1602.0)] {
        assert!(
            matches!(salt(words), Salty::Holds(share) if (share - sodium_mg * 2.5421 / 1000.0).abs() < 0.01),
            "{words}: {:?}",
            salt(words)
        );
    }
    // Light soy sauce is light in colour.
    assert_eq!(
        (salt("soy sauce"), salt("light soy sauce"), salt("honey mustard")),
        (Salty::Holds(13.96), Salty::Holds(13.96), Salty::Holds(2.81))
    );
    assert_eq!((salt("low-sodium soy sauce"), salt("reduced salt stock")), (Salty::Less, Salty::Less));
}

#[test]
fn a_word_that_says_more_leaves_it_open() {
    assert_eq!(
        (salt("moon dust"), salt("garlic rub"), salt("curry paste")),
        (Salty::Between(0.5, 15.0), Salty::Between(15.0, 45.0), Salty::Between(0.5, 15.0))
    );
    assert_eq!(salt("salt and pepper"), Salty::Between(30.0, 95.0));
    assert_eq!(salt("garlic salt"), Salty::Holds(75.0));
}

#[test]
fn amounts_as_cooks_say_them() {
    let read = |line: &str| amount_of(line);
    let is = |number: f64, unit: &str, rest: &str| Some((number, unit.to_owned(), rest.to_owned()));
    assert_eq!(read("a pinch of salt"), is(1.0, "pinch", "salt"));
    assert_eq!(read("a few sprigs of thyme"), is(3.0, "sprig", "thyme"));
    assert_eq!(read("handful of parsley"), is(1.0, "handful", "parsley"));
    assert_eq!(read("a little honey"), is(1.0, "little", "honey"));
    assert_eq!(read("half a bunch of dill"), is(0.5, "bunch", "dill"));
    assert_eq!(read("a tablespoon of honey"), is(1.0, "tablespoon", "honey"));
    assert_eq!(read("2 tbsp soy sauce"), is(2.0, "tbsp", "soy sauce"));
    assert_eq!(read("soy sauce"), None);
}

#[test]
fn each_row_can_be_found_by_each_of_its_names() {
    for row in SALTY.iter().chain(UNSALTY) {
        for name in row.words.split(',') {
            let found = named(name, "g", &[]);
            assert_eq!(found.salt, Salty::Holds(row.salt_g_per_100g), "{name}: {found:?}");
        }
    }
}
