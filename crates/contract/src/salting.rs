//! The salty part of a request: which salt, which faces, what else is in, mixes, covers.

use crate::problem::Problem;
use crate::reader::{Numbers, Reader, typed};
use crate::to_doc::r4;
use rauchkeller_core::ask::{CoverAsk, FaceMix, MOST_MIXES, MixUse};
use rauchkeller_core::salt::{
    CoverKind, CuringName, LEDGER_ITEMS, LedgerEntry, LedgerLine, LedgerPlace, Mix, MixPart, SALTS, Salt, SpoonSalt, curing_name,
    ledger_item, read_dose, read_ledger_line, read_mix, split_ledger_lines,
};
use rauchkeller_core::units::{GramsPerKg, Share, Time, TimeIn, grams, hours};
use serde_json::Value;

/// Curing salt is not for this work; it is refused with the reason, not as a spelling mistake.
fn curing(field: String, name: &str) -> Problem {
    Problem::new(
        field,
        typed(&Value::String(name.to_owned())),
        "plain salt only",
        "It sounds like curing salt, which carries nitrite or nitrate and can poison at these amounts. Take plain salt.",
    )
}

/// A household's own salt as it was weighed: `{"name": …, "g_per_tsp": …, "purity": …}`. `None` where there is none,
/// `Some(None)` where it cannot be used.
#[expect(clippy::option_option, reason = "said, not said, or said wrongly")]
fn read_own(salt: &mut Reader, problems: &mut Vec<Problem>) -> Option<Option<Salt>> {
    salt.get("own")?;
    let mut own = salt.object("own", problems);
    let name = own.text("name", "a name of 1 to 60 letters", problems).unwrap_or_default();
    let g_per_tsp = own.number("g_per_tsp", "0.8 to 8 g a level US teaspoon", problems).unwrap_or(5.0);
    let purity = own.number("purity", "0.05 to 1, the share of sodium chloride", problems).unwrap_or(1.0);
    let potassium = own.number("potassium_share", "0 to 1, the share of potassium chloride", problems).unwrap_or(0.0);
    let spread = own.number("spread_g", "0 to 8 g", problems);
    if let Some(g) = spread.filter(|g| !(0.0..8.0).contains(g)) {
        problems.push(Problem::new(own.field("spread_g"), format!("{g} g"), "0 to 8 g", "It is how far one spoon lies from the next."));
    }
    let spread = spread.filter(|g| (0.0..8.0).contains(g));
    let pinch = own.number("pinch_g", "0.05 to 5 g", problems);
    let read = Salt::own(name, g_per_tsp, purity, potassium, spread, pinch);
    if let Err(error) = &read {
        use rauchkeller_core::salt::SaltError as E;
        let field = match error {
            E::Name | E::Curing(_) => "name",
            E::Purity(_) => "purity",
            E::Blend(..) => "potassium_share",
            E::Spoon(_) => "g_per_tsp",
            E::Pinch(_) => "pinch_g",
        };
        problems.push(if matches!(error, E::Curing(_)) {
            curing(own.field(field), name)
        } else {
            let refused = error.refused();
            Problem::new(own.field(field), refused.typed, refused.allowed, refused.remedy)
        });
    }
    own.finish(problems);
    if let Some(kind) = salt.get("kind") {
        let remedy = "Leave one of them out; only one salt can be weighed.";
        problems.push(Problem::new(salt.field("kind"), format!("{} and a salt of your own", typed(kind)), "kind, or own", remedy));
    }
    // A kept piece may have been planned before its salt's name was refused; its grams still read.
    Some(read.or_else(|_| Salt::as_weighed(name, g_per_tsp, purity, potassium, spread, pinch)).ok())
}

/// A crust, bed or draw: `{"kind": "crust", "depth_mm": 4, "left_g_per_dm2": null}`.
pub(crate) fn read_cover(salt: &mut Reader, numbers: &mut Numbers, problems: &mut Vec<Problem>) -> Option<CoverAsk> {
    salt.get("cover")?;
    let mut cover = salt.object("cover", problems);
    let names: Vec<&str> = CoverKind::ALL.iter().map(|k| k.id()).collect();
    let kind = cover.named("kind", CoverKind::find, &names, problems);
    numbers.extend(cover.numbers(problems));
    if kind.is_none() {
        problems.push(Problem::new(cover.field("kind"), "nothing", names.join(", "), "Say which, or leave the cover out."));
    }
    cover.finish(problems);
    Some(CoverAsk { kind: kind?, depth: None, left: None })
}

/// A mix: its recipe as typed, or its parts as weighed; `g` for so much of it, else it is scaled to the piece.
pub(crate) fn read_mix_use(root: &mut Reader, numbers: &mut Numbers, problems: &mut Vec<Problem>) -> Option<MixUse> {
    root.get("mix")?;
    let mut mix = root.object("mix", problems);
    let bath = read_bath(&mut mix, problems);
    numbers.extend(mix.numbers(problems));
    let read = read_one_mix(&mut mix, problems);
    mix.finish(problems);
    read.map(|mix| MixUse { mix, asked: None, bath })
}

/// More mixes, each with its face and its hour. The first that has neither is `mix`, where that was left out.
pub(crate) fn read_mixes(root: &mut Reader, first: &mut Option<MixUse>, problems: &mut Vec<Problem>) -> Vec<FaceMix> {
    let mut all = Vec::new();
    for (said, mut mix) in root.list("mixes", MOST_MIXES, problems).into_iter().enumerate() {
        let g = mix.number("g", "grams of it, 0 to 20000", problems);
        if let Some(g) = g.filter(|g| !(0.0..=20_000.0).contains(g)) {
            problems.push(Problem::new(mix.field("g"), format!("{g} g"), "0 to 20000 g", "Say how much of it goes on, or leave it out."));
        }
        let asked = g.filter(|g| (0.0..=20_000.0).contains(g)).map(grams);
        let face = mix.text("face", "a face of this cut", problems).map(str::to_owned);
        let at = mix.number("at_h", "hours after the first salt, 0 to 336", problems);
        if let Some(h) = at.filter(|h| !(0.0..=336.0).contains(h)) {
            problems.push(Problem::new(mix.field("at_h"), format!("after {h} h"), "0 to 336 h", "Count from when it is salted."));
        }
        let at = at.filter(|h| (0.0..=336.0).contains(h) && *h > 0.0).map(hours);
        let (bath, lies_in) = (read_bath(&mut mix, problems), mix.field("bath_h"));
        let read = read_one_mix(&mut mix, problems);
        mix.finish(problems);
        let Some(mix) = read else { continue };
        if first.is_none() && face.is_none() && at.is_none() {
            *first = Some(MixUse { mix, asked, bath });
            continue;
        }
        if let Some(bath) = bath {
            let remedy = "Only the one that it lies in has hours of its own: give that neither face nor hour.";
            problems.push(Problem::new(lies_in, format!("{} h", r4(bath.in_h())), "one bath a piece", remedy));
        }
        all.push(FaceMix { mix, asked, face, at, said });
    }
    all
}

fn read_one_mix(mix: &mut Reader, problems: &mut Vec<Problem>) -> Option<Mix> {
    let name = mix.text("name", "a name of 1 to 60 letters", problems).unwrap_or_default().to_owned();
    let recipe = mix.text("recipe", "one ingredient a line", problems).map(str::to_owned);
    if curing_name(&name) == CuringName::Curing {
        problems.push(curing(mix.field("name"), &name));
    }
    let made_for = mix.number("made_for_g", "grams of meat, above 0", problems);
    if let Some(g) = made_for.filter(|g| *g <= 0.0) {
        problems.push(Problem::new(
            mix.field("made_for_g"),
            format!("{g} g"),
            "grams of meat, above 0",
            "Leave it out if you do not know.",
        ));
    }
    let made_for = made_for.filter(|g| *g > 0.0).map(grams);
    let parts = read_parts(mix, problems);
    let read = match recipe {
        Some(recipe) => read_mix(&name, &recipe, &[]).map_err(|errors| {
            let shown: String = recipe.chars().take(60).collect();
            let more = if errors.len() > 3 { format!(" And {} lines more.", errors.len() - 3) } else { String::new() };
            let said: Vec<String> = errors.iter().take(3).map(|error| format!("{error}.")).collect();
            problems.push(Problem::new(mix.field("recipe"), shown, "a recipe that adds up", format!("{}{more}", said.join(" "))));
        }),
        None if !parts.is_empty() => Ok(Mix { name, parts, made_for }),
        None => {
            problems.push(Problem::new(
                mix.field("recipe"),
                "nothing",
                "a recipe or its parts",
                "Write one ingredient a line, like 40 g fine sea salt.",
            ));
            Err(())
        }
    };
    read.ok().map(|mix| Mix { made_for: made_for.or(mix.made_for), ..mix })
}

fn read_parts(mix: &mut Reader, problems: &mut Vec<Problem>) -> Vec<MixPart> {
    let mut parts = Vec::new();
    for mut part in mix.list("parts", 40, problems) {
        let name = part.text("name", "a name", problems).unwrap_or("something").to_owned();
        let g = part.number("g", "grams, above 0 and up to 20000", problems).unwrap_or(0.0);
        let salt = part.number("salt_g", "grams of salt in it", problems).unwrap_or(0.0);
        if !(g > 0.0 && g <= 20_000.0 && (0.0..=g).contains(&salt)) {
            problems.push(Problem::new(
                part.field("g"),
                format!("{g} g with {salt} g of salt"),
                "above 0 and up to 20000 g, and no more salt than that",
                "Weigh it again.",
            ));
        }
        if curing_name(&name) == CuringName::Curing {
            problems.push(curing(part.field("name"), &name));
        }
        part.finish(problems);
        parts.push(MixPart { name, weight: grams(g), salt: grams(salt), known: true });
    }
    parts
}

/// The salt by its kind, or the household's own.
pub(crate) fn read_salt(salt: &mut Reader, problems: &mut Vec<Problem>) -> Option<Salt> {
    if let Some(own) = read_own(salt, problems) {
        return own;
    }
    let names: Vec<&str> = SALTS.iter().map(|s| s.id.as_ref()).collect();
    if let Some(said) = salt.get("kind").and_then(Value::as_str).filter(|said| curing_name(said) == CuringName::Curing) {
        problems.push(Problem { allowed: names.join(", "), ..curing(salt.field("kind"), said) });
        return None;
    }
    salt.named("kind", Salt::find, &names, problems)
}

pub(crate) fn read_faces(salt: &mut Reader, problems: &mut Vec<Problem>) -> Option<Vec<String>> {
    let value = salt.get("faces")?;
    let names =
        value.as_array().filter(|list| list.len() <= 10).and_then(|list| list.iter().map(|v| v.as_str().map(str::to_owned)).collect());
    if names.is_none() {
        problems.push(Problem::new("salt.faces", typed(value), "a list of face names, or null", "Leave it open, and the method decides."));
    }
    names
}

/// A line as a cook types it; what is several things in one breath is several entries.
fn read_said(entry: &mut Reader, said: &str, ledger: &mut Vec<LedgerEntry>, problems: &mut Vec<Problem>) {
    let shown = typed(&Value::String(said.to_owned()));
    let lines = split_ledger_lines(said);
    if lines.is_empty() {
        problems.push(Problem::new(entry.field("said"), "nothing", "a line like 2 tbsp soy sauce", "Leave the entry out."));
    }
    for line in lines.iter().take(30) {
        let (allowed, remedy) = match read_ledger_line(line) {
            Ok(LedgerLine::Entry(read)) => {
                ledger.push(read);
                continue;
            }
            Ok(LedgerLine::PieceLabel(_)) => {
                ("something that goes on, with its amount", "The label of the piece itself belongs into piece.solution.".to_owned())
            }
            Err(error) => ("an amount of something whose salt is known", format!("{error}.")),
        };
        problems.push(Problem::new(entry.field("said"), shown.clone(), allowed, remedy));
    }
}

/// How long the piece lies in it.
fn read_bath(entry: &mut Reader, problems: &mut Vec<Problem>) -> Option<Time> {
    let bath = entry.number("bath_h", "0.1 to 336 h", problems);
    if let Some(h) = bath.filter(|h| !(0.1..=336.0).contains(h)) {
        problems.push(Problem::new(entry.field("bath_h"), format!("{h} h"), "0.1 to 336 h", "Say how long it lies in it."));
    }
    bath.filter(|h| (0.1..=336.0).contains(h)).map(hours)
}

/// Each face's share: `{"meat": 0.6, "cavity": 0.1, …}`.
pub(crate) fn read_shares(salt: &mut Reader, problems: &mut Vec<Problem>) -> Option<Vec<(String, f64)>> {
    let value = salt.get("shares")?;
    let fields = value.as_object().filter(|fields| fields.len() <= 10);
    let shares = fields.and_then(|fields| fields.iter().map(|(face, share)| Some((face.clone(), share.as_f64()?))).collect());
    if shares.is_none() {
        let remedy = "Write it like { \"meat\": 0.7, \"cut\": 0.3 }.";
        problems.push(Problem::new(salt.field("shares"), typed(value), "faces with their shares, 1 together", remedy));
    }
    shares
}

/// A dose as a spoon rule: `1½ tsp per lb`, of the salt that was chosen.
pub(crate) fn read_as(salt: &mut Reader, chosen: Option<&Salt>, problems: &mut Vec<Problem>) -> Option<GramsPerKg> {
    let rule = salt.text("as", "a dose like 1½ tsp per lb, 10 g/kg or 1 %", problems)?;
    if salt.get("g_per_kg").is_some() {
        let remedy = "Leave one of them out.";
        problems.push(Problem::new(salt.field("as"), typed(&rule.into()), "as, or g_per_kg", remedy));
        return None;
    }
    let usual = Salt::find("fine-sea")?;
    match read_dose(rule, SpoonSalt::of(chosen.unwrap_or(&usual), chosen.is_some())) {
        Ok(dose) => Some(dose),
        Err(error) => {
            let choices = error.choices();
            let remedy = if choices.is_empty() { format!("{error}.") } else { format!("Write {}.", choices.join(", or ")) };
            problems.push(Problem::new(salt.field("as"), typed(&rule.into()), "a dose that says one thing", remedy));
            None
        }
    }
}

/// How an amount of something salty is said: its field, what is allowed, and what to do.
#[derive(Clone, Copy)]
pub(crate) struct Amount {
    field: &'static str,
    unit: &'static str,
    most: f64,
    remedy: &'static str,
}

const GRAMS: Amount = Amount { field: "g", unit: "g", most: 5000.0, remedy: "Say how much of it goes on." };
/// The same for each kilogram of meat, as a document has it.
const GRAMS_PER_KG: Amount = Amount { field: "g_per_kg", unit: "g/kg", most: 2000.0, remedy: "Say how much goes on a kilogram." };

/// Salty things by the kilogram of meat, as a method's document has them.
pub(crate) fn read_ledger_per_kg(doc: &mut Reader, problems: &mut Vec<Problem>) -> Vec<LedgerEntry> {
    let mut ledger = Vec::new();
    for mut entry in doc.list("ledger", 30, problems) {
        let at = face_and_use(&mut entry, problems);
        ledger.extend(read_item(entry, at, GRAMS_PER_KG, problems));
    }
    ledger
}

/// The face something goes on, and what becomes of it.
fn face_and_use(entry: &mut Reader, problems: &mut Vec<Problem>) -> (Option<String>, Option<LedgerPlace>) {
    let face = entry.text("face", "a face of the cut, like meat", problems).map(str::to_owned);
    let places = LedgerPlace::NAMES;
    (face, entry.named("use", LedgerPlace::find, &places, problems))
}

/// A thing of the table with its amount, its uptake and its bath.
fn read_item(
    mut entry: Reader,
    (face, place): (Option<String>, Option<LedgerPlace>),
    amount: Amount,
    problems: &mut Vec<Problem>,
) -> Option<LedgerEntry> {
    let names: Vec<&str> = LEDGER_ITEMS.iter().map(|i| i.id).collect();
    let Amount { field, unit, most, remedy } = amount;
    let allowed = format!("0 to {most:.0} {unit}");
    let item = entry.named("item", ledger_item, &names, problems);
    let said = entry.number(field, &allowed, problems);
    let uptake = entry.number("uptake", "0 to 1", problems);
    let bath = read_bath(&mut entry, problems);
    if let Some(g) = said.filter(|g| !(0.0..=most).contains(g)) {
        problems.push(Problem::new(entry.field(field), format!("{g} {unit}"), allowed, remedy));
    }
    if let Some(share) = uptake.filter(|share| !(0.0..=1.0).contains(share)) {
        let remedy = "It is the share that ends in the meat: 0.6 for a thin coat.";
        problems.push(Problem::new(entry.field("uptake"), share.to_string(), "0 to 1", remedy));
    }
    if item.is_none() || said.is_none() {
        let allowed = if field == "g" { "an item and its grams, or said" } else { "an item and its g_per_kg" };
        problems.push(Problem::new(entry.field("item"), "an incomplete entry", allowed, "Give both, or leave the entry out."));
    }
    entry.finish(problems);
    let used = item?.used(grams(said?.clamp(0.0, most)));
    let usual = if bath.is_some() { Share(1.0) } else { used.uptake };
    Some(LedgerEntry { uptake: uptake.map_or(usual, Share), bath, face, place: place.unwrap_or_default(), ..used })
}

/// Entries by table name and grams, or as a cook types them: `{"said": "2 tbsp soy sauce"}`.
pub(crate) fn read_ledger(root: &mut Reader, problems: &mut Vec<Problem>) -> Vec<LedgerEntry> {
    let mut ledger = Vec::new();
    for mut entry in root.list("ledger", 30, problems) {
        let (face, place) = face_and_use(&mut entry, problems);
        if let Some(said) = entry.text("said", "a line like 2 tbsp soy sauce", problems) {
            let (from, bath) = (ledger.len(), read_bath(&mut entry, problems));
            read_said(&mut entry, said, &mut ledger, problems);
            for read in &mut ledger[from..] {
                // In a bath all of it could enter, and diffusion rules how much does.
                read.uptake = if bath.is_some() { Share(1.0) } else { read.uptake };
                read.bath = bath.or(read.bath);
                read.face.clone_from(&face);
                read.place = place.unwrap_or(read.place);
            }
            entry.finish(problems);
            continue;
        }
        ledger.extend(read_item(entry, (face, place), GRAMS, problems));
    }
    ledger
}

/// The stable name of an item of the table by what it is called.
pub(crate) fn item_of(name: &str) -> Option<&'static str> {
    LEDGER_ITEMS.iter().find(|item| item.name == name).map(|item| item.id)
}
