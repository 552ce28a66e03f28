//! What goes into rubs, pastes and marinades besides salt: grams a spoon, so that a recipe can be weighed.

/// One row of the table of ingredients.
#[derive(Debug, PartialEq)]
pub struct Ingredient {
    /// The word by which it is known in a line, singular and lower case.
    pub word: &'static str,
    /// Grams a level US tablespoon.
    pub g_per_tbsp: f64,
    /// Where the figure comes from.
    pub source: &'static str,
}

const SR: &str = "USDA SR Legacy, portion weights";
const EST: &str = "our estimate";

const fn row(word: &'static str, g_per_tbsp: f64) -> Ingredient {
    Ingredient { word, g_per_tbsp, source: SR }
}

const fn guess(word: &'static str, g_per_tbsp: f64) -> Ingredient {
    Ingredient { word, g_per_tbsp, source: EST }
}

/// Ingredients by kind, the longer word before the shorter one it contains.
pub const INGREDIENTS: &[Ingredient] = &[
    row("brown sugar", 13.8),
    row("sugar", 12.6),
    row("honey", 21.0),
    row("maple syrup", 20.0),
    row("syrup", 20.0),
    row("molasses", 20.0),
    row("smoked paprika", 6.8),
    row("paprika", 6.8),
    row("black pepper", 6.9),
    row("white pepper", 7.1),
    row("cayenne", 5.3),
    row("pepper", 6.9),
    row("garlic powder", 9.7),
    row("onion powder", 6.9),
    row("chili powder", 8.0),
    row("cumin", 6.0),
    row("coriander", 5.0),
    row("fennel", 5.8),
    row("caraway", 6.7),
    row("mustard powder", 6.3),
    row("oregano", 3.0),
    row("thyme", 2.7),
    row("rosemary", 3.3),
    row("cinnamon", 7.8),
    row("ginger", 5.2),
    guess("five-spice", 6.0),
    guess("lemongrass", 4.8),
    row("oil", 13.5),
    row("vinegar", 14.9),
    row("lemon juice", 15.2),
    row("lime juice", 15.4),
    row("orange juice", 15.5),
    row("apple juice", 15.5),
    row("wine", 14.7),
    row("beer", 14.9),
    row("water", 14.8),
    row("yoghurt", 15.3),
    row("yogurt", 15.3),
    row("butter", 14.2),
];

/// Grams of a peeled clove of garlic (USDA SR Legacy, from memory).
pub const GARLIC_CLOVE_G: f64 = 3.0;

/// Whole fruit and roots, by the piece: what of one goes into a marinade, g. Juice of citrus, the rest peeled (USDA SR Legacy, from
/// memory).
const BY_THE_PIECE: [(&str, f64); 8] = [
    ("orange", 86.0),
    ("lemon", 48.0),
    ("lime", 44.0),
    ("grapefruit", 196.0),
    ("onion", 110.0),
    ("shallot", 25.0),
    ("apple", 160.0),
    ("chilli", 15.0),
];

/// Grams of one whole fruit or root the words speak of.
pub fn one_weighs(words: &str) -> Option<f64> {
    let is = |word: &str, name: &str| word == name || word.strip_suffix('s') == Some(name);
    let known = |word: &str| BY_THE_PIECE.iter().find(|(name, _)| is(word, name)).map(|(_, g)| *g);
    // Of “oranges, juiced” and “large oranges” the fruit; of “orange juice” nothing: that is poured.
    let poured = ["juice ", "zest", "peel", "powder", "oil"].iter().any(|word| format!("{words} ").contains(word));
    words.split(|c: char| !c.is_alphabetic()).find_map(known).filter(|_| !poured)
}

/// Finds the ingredient a line speaks of.
pub fn ingredient(words: &str) -> Option<&'static Ingredient> {
    INGREDIENTS.iter().find(|row| words.contains(row.word))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn whole_fruit_is_counted_by_the_piece() {
        for (words, g) in
            [("oranges", Some(86.0)), ("large lemons, juiced", Some(48.0)), ("lime", Some(44.0)), ("orange juice", None), ("garlic", None)]
        {
            assert_eq!(one_weighs(words), g, "{words}");
        }
    }

    #[test]
    fn the_longer_word_is_found_first() {
        assert_eq!(ingredient("dark brown sugar").unwrap().word, "brown sugar");
        assert_eq!(ingredient("ground black pepper").unwrap().word, "black pepper");
        for (i, row) in INGREDIENTS.iter().enumerate() {
            let hidden = INGREDIENTS[..i].iter().any(|before| row.word.contains(before.word));
            assert!(!hidden, "{} would never be found", row.word);
        }
    }
}
