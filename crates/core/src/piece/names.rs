//! What a cut is called elsewhere: the common names of several countries and languages (common practice, no source), and what is none of
//! these pieces.

use super::Cut;

/// A name that was typed, as a cut.
#[derive(Debug, Clone, PartialEq)]
pub enum Named {
    /// It is that one.
    One(Cut),
    /// It may be one of these; which differs from country to country, or the name says too little.
    Several(Vec<Cut>),
    /// It was cooked, smoked or cured before it was bought: it is refused with this reason.
    Cooked(&'static str),
    /// Nobody here calls anything so.
    Unknown,
}

/// Names as they are typed, in lower case, and the cuts they may be.
const NAMES: &[(&str, &[&str])] = &[
    // Pork belly.
    ("belly pork", &["pork-belly", "pork-belly-rib"]),
    ("belly", &["pork-belly", "pork-belly-rib"]),
    ("side of pork", &["pork-belly", "pork-belly-rib"]),
    ("fresh side", &["pork-belly"]),
    ("bauch", &["pork-belly", "pork-belly-rib"]),
    ("schweinebauch", &["pork-belly", "pork-belly-rib"]),
    ("bauchfleisch", &["pork-belly"]),
    ("poitrine de porc", &["pork-belly", "pork-belly-rib"]),
    ("pancetta fresca", &["pork-belly"]),
    ("panceta", &["pork-belly"]),
    ("panceta fresca", &["pork-belly"]),
    ("tocino", &["pork-belly"]),
    ("buikspek", &["pork-belly"]),
    ("lechon liempo", &["pork-belly"]),
    ("liempo", &["pork-belly"]),
    ("siu yuk", &["pork-belly"]),
    ("samgyeopsal", &["pork-belly"]),
    // Shoulder of pork.
    ("pork shoulder", &["pork-butt", "pork-picnic"]),
    ("shoulder of pork", &["pork-butt", "pork-picnic"]),
    ("schweineschulter", &["pork-picnic"]),
    ("schulter", &["pork-picnic", "lamb-shoulder"]),
    ("boston butt", &["pork-butt"]),
    ("butt", &["pork-butt"]),
    ("pork neck", &["pork-butt"]),
    ("neck end", &["pork-butt"]),
    ("collar", &["pork-butt"]),
    ("scotch fillet of pork", &["pork-butt"]),
    ("schweinenacken", &["pork-butt"]),
    ("schweinehals", &["pork-butt"]),
    ("nacken", &["pork-butt"]),
    ("schopf", &["pork-butt"]),
    ("schopfbraten", &["pork-butt"]),
    ("échine", &["pork-butt"]),
    ("coppa", &["pork-butt"]),
    ("capocollo fresco", &["pork-butt"]),
    ("picnic", &["pork-picnic"]),
    ("picnic shoulder", &["pork-picnic"]),
    ("hand of pork", &["pork-picnic"]),
    ("hand and spring", &["pork-picnic"]),
    ("palette de porc", &["pork-picnic"]),
    ("spalla", &["pork-picnic", "lamb-shoulder"]),
    ("paleta", &["pork-picnic", "lamb-shoulder"]),
    // Leg, loin, rump of pork.
    ("fresh ham", &["pork-leg"]),
    ("leg of pork", &["pork-leg"]),
    ("schweinekeule", &["pork-leg"]),
    ("schlögel", &["pork-leg"]),
    ("schlegel", &["pork-leg", "lamb-leg"]),
    ("jambon frais", &["pork-leg"]),
    ("pernil", &["pork-leg", "pork-picnic"]),
    ("rack of pork", &["pork-loin-rack", "pork-loin-rack-skin"]),
    ("pork loin", &["pork-loin-rack", "pork-loin-rack-skin"]),
    ("pork rib roast", &["pork-loin-rack", "pork-loin-rack-skin"]),
    ("karree", &["pork-loin-rack", "pork-loin-rack-skin"]),
    ("schweinekarree", &["pork-loin-rack", "pork-loin-rack-skin"]),
    ("kotelettstück", &["pork-loin-rack", "pork-loin-rack-skin"]),
    ("carré de porc", &["pork-loin-rack", "pork-loin-rack-skin"]),
    ("carré di maiale", &["pork-loin-rack", "pork-loin-rack-skin"]),
    ("arista", &["pork-loin-rack"]),
    ("chop", &["pork-chop"]),
    ("kotelett", &["pork-chop"]),
    ("côtelette", &["pork-chop"]),
    ("chuleta", &["pork-chop"]),
    ("braciola", &["pork-chop"]),
    ("pork steak", &["pork-loin-steak"]),
    ("pork rump", &["pork-rump-cap"]),
    // Beef.
    ("ribeye", &["beef-rib-steak"]),
    ("rib eye", &["beef-rib-steak"]),
    ("rib-eye", &["beef-rib-steak"]),
    ("scotch fillet", &["beef-rib-steak"]),
    ("cube roll", &["beef-rib-roast"]),
    ("entrecôte", &["beef-rib-steak", "beef-strip-steak"]),
    ("entrecote", &["beef-rib-steak", "beef-strip-steak"]),
    ("tomahawk", &["beef-rib-steak-bone-in"]),
    ("cowboy steak", &["beef-rib-steak-bone-in"]),
    ("côte de bœuf", &["beef-rib-steak-bone-in"]),
    ("cote de boeuf", &["beef-rib-steak-bone-in"]),
    ("costata", &["beef-rib-steak-bone-in"]),
    ("chuletón", &["beef-rib-steak-bone-in"]),
    ("chuleton", &["beef-rib-steak-bone-in"]),
    ("prime rib", &["beef-rib-roast-bone-in"]),
    ("standing rib roast", &["beef-rib-roast-bone-in"]),
    ("rib of beef", &["beef-rib-roast-bone-in"]),
    ("fore rib", &["beef-rib-roast-bone-in"]),
    ("forerib", &["beef-rib-roast-bone-in"]),
    ("hochrippe", &["beef-rib-roast-bone-in"]),
    ("new york strip", &["beef-strip-steak"]),
    ("ny strip", &["beef-strip-steak"]),
    ("strip", &["beef-strip-steak"]),
    ("sirloin", &["beef-strip-steak", "beef-sirloin-steak", "beef-sirloin-roast"]),
    ("striploin", &["beef-strip-steak"]),
    ("porterhouse", &["beef-strip-steak"]),
    ("rumpsteak", &["beef-strip-steak", "beef-sirloin-steak"]),
    ("roastbeef", &["beef-strip-steak", "beef-sirloin-roast"]),
    ("contre-filet", &["beef-strip-steak"]),
    ("faux-filet", &["beef-strip-steak"]),
    ("bife de chorizo", &["beef-strip-steak"]),
    ("controfiletto", &["beef-strip-steak"]),
    ("rump", &["beef-sirloin-steak", "beef-rump-cap", "pork-rump-cap"]),
    ("rump steak", &["beef-sirloin-steak"]),
    ("top sirloin", &["beef-sirloin-steak", "beef-sirloin-roast"]),
    ("hüftsteak", &["beef-sirloin-steak"]),
    ("picanha", &["beef-rump-cap"]),
    ("coulotte", &["beef-rump-cap"]),
    ("culotte", &["beef-rump-cap"]),
    ("sirloin cap", &["beef-rump-cap"]),
    ("rump cap", &["beef-rump-cap", "pork-rump-cap"]),
    ("tapa de cuadril", &["beef-rump-cap"]),
    ("punta di sottofesa", &["beef-rump-cap"]),
    ("tafelspitz", &["beef-rump-cap"]),
    ("top round", &["beef-round-roast"]),
    ("eye of round", &["beef-round-roast"]),
    ("topside", &["beef-round-roast"]),
    ("silverside", &["beef-round-roast"]),
    ("round of beef", &["beef-round-roast"]),
    ("rinderbraten", &["beef-round-roast"]),
    ("oberschale", &["beef-round-roast"]),
    ("short rib", &["beef-short-rib", "beef-short-rib-boned"]),
    ("short ribs", &["beef-short-rib", "beef-short-rib-boned"]),
    ("jacob's ladder", &["beef-short-rib"]),
    ("querrippe", &["beef-short-rib"]),
    ("spannrippe", &["beef-short-rib"]),
    ("plat de côtes", &["beef-short-rib"]),
    ("asado de tira", &["beef-short-rib"]),
    // Lamb.
    ("leg of lamb", &["lamb-leg"]),
    ("gigot", &["lamb-leg"]),
    ("gigot d'agneau", &["lamb-leg"]),
    ("lammkeule", &["lamb-leg"]),
    ("lammschlegel", &["lamb-leg"]),
    ("cosciotto d'agnello", &["lamb-leg"]),
    ("pierna de cordero", &["lamb-leg"]),
    ("shoulder of lamb", &["lamb-shoulder"]),
    ("lammschulter", &["lamb-shoulder"]),
    ("épaule d'agneau", &["lamb-shoulder"]),
    ("paletilla de cordero", &["lamb-shoulder"]),
    ("leg", &["pork-leg", "lamb-leg"]),
    ("shoulder", &["pork-butt", "pork-picnic", "lamb-shoulder"]),
    // Poultry.
    ("chicken", &["chicken-whole", "chicken-flattened"]),
    ("roasting chicken", &["chicken-whole"]),
    ("hähnchen", &["chicken-whole"]),
    ("hendl", &["chicken-whole"]),
    ("poulet", &["chicken-whole"]),
    ("pollo", &["chicken-whole"]),
    ("spatchcocked chicken", &["chicken-flattened"]),
    ("spatchcock chicken", &["chicken-flattened"]),
    ("butterflied chicken", &["chicken-flattened"]),
    ("turkey", &["turkey-whole", "turkey-crown", "turkey-flattened"]),
    ("pute", &["turkey-whole"]),
    ("truthahn", &["turkey-whole"]),
    ("dinde", &["turkey-whole"]),
    ("pavo", &["turkey-whole"]),
    ("tacchino", &["turkey-whole"]),
    ("turkey breast", &["turkey-crown"]),
    ("turkey crown", &["turkey-crown"]),
    ("spatchcocked turkey", &["turkey-flattened"]),
    ("duck", &["duck-whole", "duck-breast"]),
    ("ente", &["duck-whole"]),
    ("canard", &["duck-whole"]),
    ("pato", &["duck-whole"]),
    ("anatra", &["duck-whole"]),
    ("magret", &["duck-breast"]),
    ("magret de canard", &["duck-breast"]),
    ("entenbrust", &["duck-breast"]),
    ("goose", &["goose-whole"]),
    ("gans", &["goose-whole"]),
    ("oie", &["goose-whole"]),
    ("ganso", &["goose-whole"]),
    ("oca", &["goose-whole"]),
];

/// Words of meat that is cooked or cured already.
const COOKED: [(&str, &str); 18] = [
    ("part-cooked", PART),
    ("part cooked", PART),
    ("partly cooked", PART),
    ("pre-cooked", DONE),
    ("precooked", DONE),
    ("ready to eat", DONE),
    ("cooked", DONE),
    ("roasted", DONE),
    ("rotisserie", DONE),
    ("smoked", CURED),
    ("geräuchert", CURED),
    ("gekocht", DONE),
    ("cured", CURED),
    ("corned", CURED),
    ("gammon", CURED),
    ("bacon", CURED),
    ("kassler", CURED),
    ("prosciutto", CURED),
];
const PART: &str = "it is part-cooked: it is heated through at once as its label says, and neither salted nor kept in between";
const DONE: &str = "it is cooked already: nothing is salted into it, and it is heated to 74 °C (165 °F) or eaten cold";
const CURED: &str = "it is salted already, and nobody here knows how much: more salt would spoil it";

/// The cut of that name: its id, its own name, or what it is called elsewhere. Blanks and capitals do not matter.
///
/// ```
/// use rauchkeller_core::piece::{Cut, Named, named};
/// assert_eq!(named("Schopfbraten"), Named::One(Cut::find("pork-butt").unwrap()));
/// assert!(matches!(named("cooked ham"), Named::Cooked(_)));
/// ```
pub fn named(typed: &str) -> Named {
    let name = typed.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase().replace('’', "'");
    let name = name.trim_start_matches("a ").trim_end_matches(" joint").trim_end_matches('.');
    if name.is_empty() {
        return Named::Unknown;
    }
    let own = |cut: &Cut| {
        let plain = cut.name.to_lowercase();
        cut.id == name
            || plain == name
            || plain.replace(", ", " ") == name
            || plain.trim_start_matches("whole ") == name && name.contains(' ')
    };
    if let Some(cut) = Cut::all().find(own) {
        return Named::One(cut);
    }
    if let Some((_, cuts)) = NAMES.iter().find(|(known, _)| *known == name) {
        let found: Vec<Cut> = cuts.iter().filter_map(|id| Cut::find(id)).collect();
        return match found.as_slice() {
            [one] => Named::One(*one),
            _ => Named::Several(found),
        };
    }
    if let Some((_, why)) =
        COOKED.iter().find(|(word, _)| name.split(' ').any(|said| said == *word) || word.contains([' ', '-']) && name.contains(word))
    {
        return Named::Cooked(why);
    }
    // “pork butt, boneless”: all of a name's words.
    let has =
        |known: &str| known.split([' ', ',']).filter(|word| !word.is_empty()).all(|word| name.split([' ', ',']).any(|said| said == word));
    let mut found: Vec<(usize, Vec<Cut>)> = Cut::all()
        .filter(|cut| has(&cut.name.to_lowercase()))
        .map(|cut| (cut.name.len(), vec![cut]))
        .chain(
            NAMES
                .iter()
                .filter(|(known, _)| known.contains(' ') && has(known))
                .map(|(known, cuts)| (known.len(), cuts.iter().filter_map(|id| Cut::find(id)).collect())),
        )
        .collect();
    // The name that says most.
    found.sort_by_key(|(long, _)| std::cmp::Reverse(*long));
    match found.into_iter().next() {
        Some((_, cuts)) if cuts.len() == 1 => Named::One(cuts[0]),
        Some((_, cuts)) => Named::Several(cuts),
        None => Named::Unknown,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_name_is_of_a_cut_there_is_and_said_once() {
        let mut seen = std::collections::HashSet::new();
        for (name, cuts) in NAMES {
            assert!(seen.insert(name), "{name} twice");
            assert_eq!(*name, name.to_lowercase(), "{name}");
            assert!(!cuts.is_empty() && cuts.iter().all(|id| Cut::find(id).is_some()), "{name}: {cuts:?}");
            assert!(!matches!(named(name), Named::Unknown | Named::Cooked(_)), "{name}");
        }
        for cut in Cut::all() {
            assert_eq!(named(cut.name), Named::One(cut));
            assert_eq!(named(cut.id), Named::One(cut));
        }
    }

    /// By hand: what cooks of several countries say, what needs asking, and what is no raw piece.
    #[test]
    fn names_of_several_countries_are_understood() {
        let one = |typed: &str| match named(typed) {
            Named::One(cut) => cut.id,
            other => panic!("{typed}: {other:?}"),
        };
        for (typed, id) in [
            ("Picanha", "beef-rump-cap"),
            ("New York strip", "beef-strip-steak"),
            ("Boston butt", "pork-butt"),
            ("Schweinenacken", "pork-butt"),
            ("Magret de canard", "duck-breast"),
            ("gigot d’agneau", "lamb-leg"),
            ("prime rib", "beef-rib-roast-bone-in"),
            ("Fresh ham", "pork-leg"),
            ("a goose", "goose-whole"),
            ("topside", "beef-round-roast"),
            ("côte de bœuf", "beef-rib-steak-bone-in"),
            ("boneless Boston butt", "pork-butt"),
        ] {
            assert_eq!(one(typed), id, "{typed}");
        }
        let several = |typed: &str| match named(typed) {
            Named::Several(cuts) => cuts.len(),
            other => panic!("{typed}: {other:?}"),
        };
        // Sirloin is one thing in London and another in New York.
        assert_eq!([several("sirloin"), several("pork shoulder"), several("duck"), several("entrecôte")], [3, 2, 2, 2]);
        for typed in ["cooked ham", "smoked pork chop", "part-cooked turkey", "gammon", "ready to eat chicken", "rotisserie chicken"] {
            assert!(matches!(named(typed), Named::Cooked(_)), "{typed}: {:?}", named(typed));
        }
        for typed in ["", "dragon tail", "tofu", "42"] {
            assert_eq!(named(typed), Named::Unknown, "{typed}");
        }
    }
}
