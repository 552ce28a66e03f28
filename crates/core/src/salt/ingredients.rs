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

/// Finds the ingredient a line speaks of.
pub fn ingredient(words: &str) -> Option<&'static Ingredient> {
    INGREDIENTS.iter().find(|row| words.contains(row.word))
}

#[cfg(test)]
mod tests {
    use super::*;

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
