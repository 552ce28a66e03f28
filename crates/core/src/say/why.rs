//! Why a number is what it is: the values that bound it, where each comes from, and the one that would change it.

use crate::plan::{DosePlan, FirePlan, FridgePlan};
use crate::salt::Basis;
use crate::settle::{Resolved, SkinPlan};
use crate::units::{AreaIn, IntervalIn, LengthIn, MassIn, TemperatureIn, TimeIn, both_mass};
use crate::words;
use std::fmt::Write;

/// Where one number comes from.
#[derive(Debug, Clone, PartialEq)]
pub struct Why {
    /// Stable name of the number.
    pub number: &'static str,
    /// The sum as a cook would say it.
    pub says: String,
    /// The values that bound it.
    pub bound_by: Vec<Bound>,
    /// The one that would change it most, and by how much.
    pub would_change: String,
}

/// One value that bounds an answer.
#[derive(Debug, Clone, PartialEq)]
pub struct Bound {
    /// What it is.
    pub what: &'static str,
    /// Its value, with its unit.
    pub value: String,
    /// Its source class: as you said, a guess, or the source of the table.
    pub source: String,
}

/// What the reasons are told from.
pub(crate) struct WhyInput<'a> {
    pub resolved: &'a Resolved,
    pub dose: &'a DosePlan,
    pub fridge: &'a FridgePlan,
    pub skin: Option<&'a SkinPlan>,
    pub fire: &'a FirePlan,
}

impl WhyInput<'_> {
    /// As you said, or a guess.
    fn said(&self, field: &'static str) -> String {
        if self.resolved.guessed.contains(&field) {
            format!("a guess: usual for {}", self.resolved.settled.cut.name.to_lowercase())
        } else {
            "as you said".into()
        }
    }

    fn bound(&self, what: &'static str, value: String, field: &'static str) -> Bound {
        Bound { what, value, source: self.said(field) }
    }
}

fn sourced(what: &'static str, value: String, source: &str) -> Bound {
    Bound { what, value, source: source.to_owned() }
}

/// The reasons for every number of the Bench and the Salt station.
pub(crate) fn why(known: &WhyInput) -> Vec<Why> {
    let mut all = vec![grams(known), spoons(known), faces(known), mouthfuls(known), hours(known), sodium(known), pull(known)];
    all.extend(ladder(known));
    all.extend(mix(known));
    all.extend(cover(known));
    all.extend(depth(known));
    all.extend(dryness(known));
    all
}

fn grams(known: &WhyInput) -> Why {
    let (resolved, dose) = (known.resolved, known.dose);
    let basis = resolved.basis_weight();
    let pure = resolved.salt.sodium_chloride();
    let mut says = format!("{} g/kg × {}", words::dose(resolved.dose), both_mass(basis).metric);
    if dose.dose.from_ledger.in_g() > 0.05 {
        let _ = write!(says, " − {} g in already", words::g(dose.dose.from_ledger));
    }
    if pure < 0.999 {
        let _ = write!(says, ", ÷ {pure:.2} because the rest of this salt is not sodium chloride");
    }
    let basis_words = if resolved.basis == Basis::Edible { "weight without bone" } else { "whole weight" };
    let mut bound_by = vec![
        known.bound("weight", both_mass(resolved.weight).metric, "piece.weight_g"),
        known.bound("dose", format!("{:.1} g/kg", resolved.dose.0), "salt.g_per_kg"),
    ];
    if resolved.bone.0 > 0.0 {
        bound_by.push(known.bound("bone", format!("{:.0} %", resolved.bone.0 * 100.0), "piece.bone_fraction"));
    }
    bound_by.push(sourced("counted on", format!("{basis_words}, {}", both_mass(basis).metric), "arithmetic"));
    bound_by.push(sourced("salt", format!("{:.0} % sodium chloride", pure * 100.0), &resolved.salt.source));
    // What a usual error of each value moves, in grams on the scale; the largest one is named.
    let per_kg = basis.in_kg() / pure;
    let mut moves = vec![
        (0.5 * per_kg, format!("half a gram a kilogram more or less of dose is {:.1} g", 0.5 * per_kg)),
        (resolved.dose.0 * per_kg * 0.05, format!("5 % more or less of weight is {:.1} g", resolved.dose.0 * per_kg * 0.05)),
    ];
    if resolved.bone.0 > 0.0 && resolved.basis == Basis::Edible {
        let bone = resolved.dose.0 * resolved.weight.in_kg() * 0.05 / pure;
        moves.push((bone, format!("5 % more or less of bone is {bone:.1} g")));
    }
    for line in dose.ledger.iter().filter(|l| l.estimate && l.uptake.0 > 0.0) {
        let fifth = line.salt.in_g() * 0.2 / line.uptake.0.max(0.2) / pure;
        moves.push((fifth, format!("a fifth more or less of the {} staying is {fifth:.1} g", line.what)));
    }
    Why { number: "grams", says: format!("{says} = {:.1} g.", words::field(dose.on_scale.in_g())), bound_by, would_change: largest(moves) }
}

fn largest(moves: Vec<(f64, String)>) -> String {
    moves.into_iter().max_by(|a, b| a.0.total_cmp(&b.0)).map(|(_, words)| words).unwrap_or_default()
}

fn spoons(known: &WhyInput) -> Why {
    let (salt, dose) = (&known.resolved.salt, known.dose);
    let off = dose.spoons.weighs.in_g() - dose.on_scale.in_g();
    let side = if off >= 0.0 { "more" } else { "less" };
    let scatter = salt.spread_g.map_or(0.1 * salt.g_per_tsp, |s| s);
    let how = if salt.spread_g.is_some() { "your spoons scatter by" } else { "a spoon that is not quite level is off by about" };
    Why {
        number: "spoons",
        says: format!(
            "{} to the nearest quarter of a teaspoon is {:.1} g, {:.1} g {side} than weighed.",
            dose.spoons,
            words::field(dose.spoons.weighs.in_g()),
            off.abs()
        ),
        bound_by: vec![sourced("a level US teaspoon", format!("{:.1} g of {}", salt.g_per_tsp, salt.name), &salt.source)],
        would_change: format!("{how} {scatter:.1} g a spoon; a scale is not"),
    }
}

fn faces(known: &WhyInput) -> Why {
    let list = known.dose.by_face.iter().map(|f| {
        let value = format!("{:.1} dm², {:.1} g/dm²", f.face.area.in_dm2(), f.density().0);
        sourced(
            f.face.name,
            value,
            "areas from its measures or weight; lean takes its full share, the cavity 60 %, fat 25 %, skin 15 %: our estimate",
        )
    });
    let area = known.dose.by_face.iter().filter(|f| f.salt.in_g() > 0.0).max_by(|a, b| a.salt.in_g().total_cmp(&b.salt.in_g()));
    Why {
        number: "faces",
        says: format!(
            "{:.1} g over the faces by area and kind; what the {} way keeps bare gets none.",
            words::field(known.dose.on_scale.in_g()),
            known.resolved.method.name
        ),
        bound_by: list.collect(),
        would_change: area.map_or_else(String::new, |f| {
            format!(
                "a tenth more of {} moves {:.1} g there",
                f.face.name,
                0.1 * f.salt.in_g() * (1.0 - (f.salt / known.dose.dose.to_weigh).value)
            )
        }),
    }
}

fn mouthfuls(known: &WhyInput) -> Why {
    let (state, resolved) = (&known.fridge.state, known.resolved);
    let day = state.salted_depth.in_mm();
    Why {
        number: "mouthfuls",
        says: format!(
            "Salt diffuses in from the salted faces: after {:.0} h the outer 5 mm hold {:.1}, the least salted place {:.1}, a whole slice {:.1} g/kg. Our estimate.",
            known.fridge.planned.in_h(),
            state.rim.0,
            state.middle.0,
            state.slice.0
        ),
        bound_by: vec![
            known.bound("thickness", format!("{:.0} mm", resolved.thickness.in_mm()), "piece.salt_thickness_mm"),
            sourced("hours", format!("{} h", words::h(known.fridge.planned)), "see “why these hours?”"),
            sourced("air", format!("{:.1} °C", resolved.air.temperature.in_c()), "the refrigerator as given"),
            sourced(
                "how fast salt travels in lean (diffusivity)",
                "2.5·10⁻¹⁰ m²/s at 4 °C".into(),
                "published values for meat are 2 to 3·10⁻¹⁰; fat a thirtieth, skin a fifth of it: our estimate",
            ),
        ],
        // Depth of travel goes with the square root of time (Crank 1975).
        would_change: format!(
            "twice the hours carry it {:.0} mm instead of {day:.0}; a tenth fewer grams make every bite a tenth less salty",
            (day * std::f64::consts::SQRT_2).min(resolved.thickness.in_mm())
        ),
    }
}

fn hours(known: &WhyInput) -> Why {
    let (fridge, resolved) = (known.fridge, known.resolved);
    let own = resolved.method.chill_hours().is_some();
    let span = format!("{} / {} / {} h", words::h(fridge.useful.shortest), words::h(fridge.useful.ideal), words::h(fridge.useful.longest));
    let table =
        if own { format!("common practice, the {} way", resolved.method.name) } else { "usual hours by thickness, common practice".into() };
    let mut bound_by = vec![
        sourced("shortest / ideal / longest", span, &table),
        sourced("most that fits before the meal", format!("{} h", words::h(fridge.fits)), "the clock, counted back from the meal"),
    ];
    if !own {
        bound_by.insert(0, known.bound("thickness", format!("{:.0} mm", resolved.thickness.in_mm()), "piece.salt_thickness_mm"));
    }
    let would_change = if fridge.fits < fridge.useful.ideal {
        format!(
            "a meal {:.0} h later would allow the ideal {} h",
            (fridge.useful.ideal - fridge.fits).in_h().ceil(),
            words::h(fridge.useful.ideal)
        )
    } else if own {
        "another method has other hours; a later or earlier meal only shifts them".into()
    } else {
        let ideal = |mm: f64| crate::salt::house_table(crate::units::millimetres(resolved.thickness.in_mm() + mm)).ideal.in_h();
        format!("5 mm more of thickness ask for {:.1} h more", ideal(5.0) - ideal(0.0))
    };
    Why { number: "hours", says: fridge.why.clone(), bound_by, would_change }
}

fn sodium(known: &WhyInput) -> Why {
    let (dose, resolved) = (known.dose, known.resolved);
    let mg = dose.sodium_per_serving.in_g() * 1000.0;
    let eaten = if dose.dose.is_over_full() { dose.dose.from_ledger } else { dose.dose.total };
    let other = known.resolved.settled.ledger.iter().fold(0.0, |sum, e| sum + e.other_sodium().in_g());
    let soda = if other > 0.0 { format!(" + {other:.1} g sodium of soda") } else { String::new() };
    Why {
        number: "sodium",
        says: format!(
            "{:.1} g of salt ÷ 2.5421{soda}, ÷ {} guests = {mg:.0} mg each; all of it counted as eaten.",
            words::field(eaten.in_g()),
            resolved.servings
        ),
        bound_by: vec![
            known.bound("guests", resolved.servings.to_string(), "servings"),
            sourced("salt ÷ sodium", "2.5421".into(), "IUPAC molar masses"),
            sourced("a day", "under 2,000 mg (WHO), 2,300 mg (US Daily Value)".into(), "WHO; US FDA"),
        ],
        would_change: format!("one guest more makes it {:.0} mg", mg * f64::from(resolved.servings) / f64::from(resolved.servings + 1)),
    }
}

fn ladder(known: &WhyInput) -> Option<Why> {
    let dose = known.dose;
    let most = dose.ledger.iter().max_by(|a, b| a.salt.in_g().total_cmp(&b.salt.in_g()))?;
    let bound_by = dose.ledger.iter().map(|l| Bound {
        what: "in already",
        value: format!("{}: {:.1} g salt, {:.0} % of it stays", l.what, words::field(l.salt.in_g()), l.uptake.0 * 100.0),
        source: l.source.to_owned(),
    });
    Some(Why {
        number: "ladder",
        says: format!(
            "{:.1} g are in already; {:.1} g is the target.",
            words::field(dose.dose.from_ledger.in_g()),
            words::field(dose.dose.total.in_g())
        ),
        bound_by: bound_by.collect(),
        would_change: format!(
            "without the {} there are {:.1} g more to weigh",
            most.what,
            words::field(most.salt.in_g().min(dose.dose.total.in_g()))
        ),
    })
}

fn mix(known: &WhyInput) -> Option<Why> {
    let (mix, ask) = (known.dose.mix.as_ref()?, known.resolved.settled.mix.as_ref()?);
    let (used, brings) = (mix.scaled.used.in_g(), mix.scaled.brings.in_g());
    let weight = ask.mix.weight();
    let rate = ask.mix.made_for.map(|meat| format!("{} for {} of meat", both_mass(weight).metric, both_mass(meat).metric));
    // Held back where its salt alone meets what is missing.
    let full = rate.is_some() && ask.asked.is_none() && mix.scaled.loose.in_g() < 0.05;
    let says = match (ask.asked, &rate) {
        (Some(_), _) => format!("You asked for {used:.0} g; they bring {brings:.1} g of salt."),
        (None, Some(_)) if full => {
            format!("{used:.1} g bring the {brings:.1} g of salt that are missing: more would be too salty, whatever its own rate.")
        }
        (None, Some(rate)) => {
            format!("{rate}: {used:.1} g for {}, and they bring {brings:.1} g of salt.", both_mass(known.resolved.basis_weight()).metric)
        }
        (None, None) => format!("It says no amount of meat, so it fills the dose alone: {used:.1} g bring {brings:.1} g of salt."),
    };
    Some(Why {
        number: "mix",
        says,
        bound_by: vec![
            sourced("its salt", format!("{:.1} g in 100 g", mix.share * 100.0), "its ingredients, spoons from memory"),
            sourced("its rate", rate.unwrap_or_else(|| "none said".into()), "its recipe"),
            known.bound("weight", both_mass(known.resolved.weight).metric, "piece.weight_g"),
        ],
        would_change: format!("1 % more of salt in it is {:.1} g less of loose salt", used * 0.01),
    })
}

fn cover(known: &WhyInput) -> Option<Why> {
    let plan = known.dose.cover.as_ref()?;
    let (cover, salt) = (&plan.cover, &known.resolved.salt);
    let deep = cover.depth.map_or_else(|| "laid by weight".to_owned(), |d| format!("{:.1} mm deep", d.in_mm()));
    Some(Why {
        number: "cover",
        says: format!(
            "{:.1} dm² of {}, {deep}, {:.1} g/dm²: {:.0} g, of which {:.1} g stay.",
            cover.area.in_dm2(),
            plan.on,
            cover.per_dm2().0,
            words::field(cover.laid.in_g()),
            words::field(cover.left.in_g())
        ),
        bound_by: vec![
            sourced("bulk density", format!("{:.2} g/mL", salt.g_per_tsp / crate::salt::US_TEASPOON_ML), &salt.source),
            sourced(
                "stays behind",
                format!("{:.1} g/dm²", cover.left.in_g() / cover.area.in_dm2().max(1e-9)),
                if cover.left_said { "as you found it" } else { "our estimate" },
            ),
        ],
        would_change: cover.depth.map_or_else(
            || "longer than a quarter of an hour leaves more behind; taste, and say what you found".into(),
            |d| format!("a millimetre more is {:.0} g more to lay", cover.laid.in_g() / d.in_mm()),
        ),
    })
}

fn depth(known: &WhyInput) -> Option<Why> {
    let skin = known.skin?;
    let guard = skin.work.guard?;
    let least = |of: fn(&crate::skin::LayerMeasurement) -> crate::units::Length| {
        skin.ask.fat.spots().iter().map(|s| of(s).in_mm()).fold(f64::INFINITY, f64::min)
    };
    let measured = known.resolved.settled.fat_measured;
    let bound = |what, mm: f64, field| {
        let value = format!("{mm:.1} mm");
        if measured { sourced(what, value, "as you measured at both ends and mid-edges") } else { known.bound(what, value, field) }
    };
    let margin = skin.ask.margin.in_mm();
    Some(Why {
        number: "depth",
        says: format!("Thinnest skin + thinnest fat − {margin:.1} mm = {:.1} mm.", guard.at_most.in_mm()),
        bound_by: vec![
            bound("skin", least(|s| s.skin), "piece.skin_mm"),
            bound("fat at its thinnest", least(|s| s.fat), "piece.fat_min_mm"),
            sourced("margin", format!("{margin:.1} mm"), if margin == crate::skin::MARGIN_MM { "common practice" } else { "as you said" }),
        ],
        would_change: "a millimetre less of fat at the thin end is a millimetre less of depth".into(),
    })
}

fn dryness(known: &WhyInput) -> Option<Why> {
    let dry = known.fridge.state.dryness?.0;
    let resolved = known.resolved;
    let thicker =
        crate::skin::drying::skin_dryness(crate::units::millimetres(resolved.skin.in_mm() + 0.5), known.fridge.planned, resolved.air).0;
    Some(Why {
        number: "dryness",
        says: format!(
            "Skin gives its water to the air: {:.0} % dry after {:.0} h, and 95 % is dry enough to crackle. Our estimate.",
            dry * 100.0,
            known.fridge.planned.in_h()
        ),
        bound_by: vec![
            known.bound("skin", format!("{:.1} mm", resolved.skin.in_mm()), "piece.skin_mm"),
            sourced(
                "air",
                format!(
                    "{:.0} % humid, takes {:.0} g/dm² a day off a wet surface",
                    resolved.air.humidity.0 * 100.0,
                    words::field(crate::skin::drying::evaporation(resolved.air, 0.997) * 86_400.0 * 10.0)
                ),
                "the refrigerator as you said, else our estimate",
            ),
        ],
        would_change: format!("half a millimetre more of skin would leave it {:.0} % dry", thicker * 100.0),
    })
}

fn pull(known: &WhyInput) -> Why {
    let fire = known.fire;
    let (low, high) = (fire.answer.band.0.in_kelvin(), fire.answer.band.1.in_kelvin());
    let first = fire.targets.first();
    let finish = first.map_or_else(String::new, |t| words::c(t.finish));
    let out = first.map_or_else(String::new, |t| words::c(t.pull));
    Why {
        number: "pull",
        says: format!("It should end at {finish} °C and climbs {low:.0} to {high:.0} °C more after the heat: out at {out} °C."),
        bound_by: vec![
            sourced("finish", format!("{finish} °C"), "common practice"),
            sourced(
                "climb counted on",
                format!("{:.1} °C more", fire.answer.carry_over.in_kelvin()),
                "our estimate, within what is common",
            ),
            known.bound("thickness", format!("{:.0} mm", known.resolved.thickness.in_mm()), "piece.salt_thickness_mm"),
        ],
        would_change: "a probe left in through the rest measures this oven’s own climb".into(),
    }
}
