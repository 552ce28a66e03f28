//! No gram is lost: what is weighed and brought is inside, waiting, left behind or in the liquid, over random plans with mixes, beds,
//! baths and portions.
//!
//! Conservation needs no source. Densities: lean 1.06 kg/L (TRADE 3.1), salt in the water of the lean, 0.74 of it (TRADE 4.11).

use crate::dice::{Dice, request};
use rauchkeller_core::ask::{CoverAsk, FaceMix, MixUse, PlanRequest};
use rauchkeller_core::piece::Family;
use rauchkeller_core::plan::{ActualSalt, LedgerFrom, Plan, make_plan, with_course};
use rauchkeller_core::salt::travel::Bath;
use rauchkeller_core::salt::{CoverKind, read_mix};
use rauchkeller_core::units::{AreaIn, GramsPerKg, LengthIn, Mass, MassIn, TimeIn, celsius, grams, hours, minutes};
use std::collections::BTreeMap;

const ACCEPTED: usize = 2000;
/// A thousandth, or the scale's own hundredth of a gram.
const NEAR: f64 = 0.001;

fn close(a: f64, b: f64) -> bool {
    (a - b).abs() <= NEAR * a.abs().max(b.abs()) + 0.01 * NEAR
}

fn sum(all: impl Iterator<Item = Mass>) -> f64 {
    all.map(MassIn::in_g).sum()
}

/// A random request with something besides more often than most.
fn asked(seed: u64) -> PlanRequest {
    let mut asked = request(seed);
    let dice = &mut Dice::new(seed ^ 0xba1a_0ce5);
    let recipe = dice.of(&[
        "30 g fine sea salt\n70 g sugar",
        "20 g fine sea salt\n60 g oil\n5 cloves garlic",
        "40 ml soy sauce\n20 g honey",
        "10 g paprika",
    ]);
    let mix = read_mix("own", recipe, &[]).unwrap();
    let some = |dice: &mut Dice| dice.chance(0.5).then(|| grams(dice.between(2.0, 60.0)));
    if dice.chance(0.3) {
        asked.mix = Some(MixUse { mix: mix.clone(), asked: some(dice), bath: dice.chance(0.4).then(|| hours(dice.between(1.0, 24.0))) });
    }
    if dice.chance(0.25) {
        let face = dice.chance(0.6).then(|| dice.of(&["meat", "fat", "skin", "cut", "breast", "cavity"]).to_owned());
        let at = dice.chance(0.4).then(|| hours(dice.between(0.5, 8.0)));
        asked.mixes = vec![FaceMix { mix, asked: some(dice), face, at, said: 0 }];
    }
    if dice.chance(0.2) && (asked.cut.skin_mm > 0.0 || asked.cut.fat_mm > 0.0) {
        asked.cover = Some(CoverAsk { kind: dice.of(&CoverKind::ALL), depth: None, left: None });
    }
    asked
}

/// Grams of the plan: dose, ledger, faces, portions, mixes, covers.
fn grams_add_up(seed: u64, plan: &Plan, seen: &mut BTreeMap<&'static str, usize>) {
    let dose = &plan.dose;
    let (weigh, brought, total) = (dose.dose.to_weigh.in_g(), dose.dose.from_ledger.in_g(), dose.dose.total.in_g());
    let mut count = |what| *seen.entry(what).or_default() += 1;
    assert!(close(sum(dose.by_face.iter().map(|f| f.salt)), weigh), "{seed}: faces");
    assert!(close(sum(dose.by_portion.iter().map(|p| p.salt)), weigh), "{seed}: portions");
    assert!(close(sum(dose.ledger.iter().map(|line| line.salt)), brought), "{seed}: ledger");
    // Weighed and brought are the dose, or what is brought is more than that; below the scale's step nothing is weighed.
    let missing = (total - brought).max(0.0);
    assert!(close(weigh, missing) || weigh == 0.0 && missing < 0.05, "{seed}: {weigh} weighed and {brought} brought of {total}");
    assert!(close(dose.on_scale.in_g() * plan.resolved.salt.sodium_chloride(), weigh), "{seed}: the scale");
    if dose.by_portion.len() > 1 {
        count("portions");
    }
    if let Some(mix) = &dose.mix {
        let used = mix.scaled.used.in_g();
        assert!(close(sum(mix.scaled.parts.iter().map(|(_, g)| *g)), used), "{seed}: what is in the mix");
        // What does not go in stays in the bowl.
        let holds = used * mix.holds;
        let left = holds - mix.scaled.brings.in_g();
        assert!(left >= -NEAR * holds, "{seed}: {left} g left of {holds}");
        if mix.bath.is_some() && used > 0.0 {
            count("bath");
            // Salt never goes where it is saltier: what is left in the liquid is at least as salty as the water of the lean.
            let lean = plan.resolved.edible_of(plan.resolved.weight).in_g() * 0.74;
            assert!(left / (used - holds) >= mix.scaled.brings.in_g() / lean - 1e-6, "{seed}: uphill");
        } else if used > 0.0 {
            count("mix");
            let on = sum(mix.by_face.iter().map(|f| f.salt));
            assert!(close(on, used) || on == 0.0, "{seed}: {on} g on the faces of {used}");
        }
    }
    for mix in &dose.mixes {
        count("mixes");
        let used = mix.scaled.used.in_g();
        assert!(
            mix.scaled.brings.in_g() <= used * mix.holds * (1.0 + NEAR) && close(sum(mix.scaled.parts.iter().map(|(_, g)| *g)), used),
            "{seed}"
        );
    }
    if let Some(cover) = &dose.cover {
        count(if cover.cover.kind == CoverKind::Bed { "bed" } else { "cover" });
        assert!(cover.cover.left <= cover.cover.laid, "{seed}: more stays than lay there");
    }
}

/// What lies on a dm² at the ends of a slab's column, by hand: loose salt and mixes by area, what was said of one face on that alone.
fn on_the_ends(plan: &Plan, ends: [&str; 2]) -> Option<f64> {
    let dose = &plan.dose;
    let shares =
        rauchkeller_core::salt::spread(&plan.resolved.faces, grams(1.0), plan.resolved.method.salt_on(), plan.request.said_faces());
    let packed = |line: &&rauchkeller_core::plan::LedgerLineDone| line.from == LedgerFrom::Packer;
    let everywhere = dose.dose.to_weigh.in_g() + sum(dose.ledger.iter().filter(|l| l.face.is_none() && !packed(l)).map(|l| l.salt));
    let mut on = 0.0;
    for id in ends {
        let face = shares.iter().find(|f| f.face.id == id)?;
        let own = sum(dose.ledger.iter().filter(|l| l.face.as_deref() == Some(id)).map(|l| l.salt));
        on += (face.salt.in_g() * everywhere + own) / face.face.area.in_dm2();
    }
    let bed = dose.cover.as_ref().filter(|cover| cover.cover.kind == CoverKind::Bed && ends[0] != "cut");
    let left = bed.map_or(0.0, |cover| cover.cover.left.in_g() / cover.cover.area.in_dm2());
    Some(on + left)
}

/// The column of the plan: what was laid on it is in it or waits on it, hour after hour, and in a liquid round it.
fn column_keeps_all(seed: u64, plan: &Plan, seen: &mut BTreeMap<&'static str, usize>) {
    let planned = plan.fridge.planned;
    // As a piece that was kept, from the hour at which the last of its mixes went on.
    let later = |mix: &rauchkeller_core::plan::MixOn| mix.at.map(TimeIn::in_h);
    let last = plan.dose.mixes.iter().filter_map(later).fold(0.0, f64::max);
    let kept = with_course(&plan.request, &ActualSalt::default(), |course, _, _| {
        let (before, mut after) = (course.travel(hours(last)).total(), course.travel(planned));
        assert!(close(after.total(), before), "{seed}: {} of {before} after {} h", after.total(), planned.in_h());
        let mut bath = Bath::round(&after, 0.5, GramsPerKg(if seed.is_multiple_of(2) { 0.0 } else { 12.0 }));
        let both = after.total() + bath.total();
        after.soak(minutes(90.0), celsius(85.0), &mut bath);
        assert!(close(after.total() + bath.total(), both), "{seed}: {} and {} in the liquid of {both}", after.total(), bath.total());
    });
    assert!(kept.is_ok(), "{seed}");
    *seen.entry("column").or_default() += 1;
    // By hand, where it is a slab of one piece that nothing was cut into: grams on a dm² of both sides.
    let slab = matches!(plan.request.cut.family, Family::SkinSlab | Family::CapSlab | Family::Steak) && plan.resolved.portions.len() == 1;
    let early = plan.request.done.is_empty() && plan.resolved.method.rests_in_the_cold() && !plan.resolved.method.salts_after_the_cold();
    let whole = plan.resolved.grooves.iter().all(Option::is_none) && plan.request.solution.is_none();
    if !(slab && early && whole) {
        return;
    }
    let over = if plan.resolved.skin.in_mm() > 0.0 { "skin" } else { "fat" };
    let ends = if plan.request.cut.family == Family::Steak { ["cut", "cut"] } else { [over, "meat"] };
    let Some(laid) = on_the_ends(plan, ends).filter(|laid| *laid > 0.01) else { return };
    let profile = &plan.fridge.state.profile;
    let inside: f64 = profile.cells.iter().map(|c| c.g_per_kg * 1.06 * (c.bottom_mm - c.top_mm) / 100.0).sum();
    let waiting: f64 = profile.waiting.iter().map(|w| w.0).sum();
    assert!(
        close(inside + waiting, laid),
        "{seed}: {inside} inside and {waiting} waiting of {laid} g/dm² on {ends:?} of {}",
        plan.request.cut.id
    );
    *seen.entry(if last > 0.0 { "by hand, with later ones" } else { "by hand" }).or_default() += 1;
}

#[test]
fn no_gram_is_lost() {
    let (mut accepted, mut seen) = (0, BTreeMap::new());
    for seed in 0.. {
        if accepted == ACCEPTED {
            break;
        }
        let Ok(plan) = make_plan(&asked(seed)) else { continue };
        accepted += 1;
        grams_add_up(seed, &plan, &mut seen);
        column_keeps_all(seed, &plan, &mut seen);
    }
    for (what, least) in [
        ("portions", 200),
        ("bath", 100),
        ("mix", 150),
        ("mixes", 150),
        ("bed", 40),
        ("cover", 150),
        ("column", 2000),
        ("by hand", 120),
        ("by hand, with later ones", 10),
    ] {
        assert!(seen.get(what).is_some_and(|n| *n >= least), "{what}: {seen:?}");
    }
}
