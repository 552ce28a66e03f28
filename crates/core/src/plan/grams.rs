//! The grams of a plan: target, ledger, mix, cover, portions, faces.

use super::parts::{ActualMix, DosePlan, LedgerFrom, LedgerLineDone, MixOn, MixPlan, PortionPlan, SaltChange};
use crate::ask::{FaceMix, MixUse, PlanRequest};
use crate::salt::travel::Tissue;
use crate::salt::{
    Cover, CoverPlan, Dose, FaceGrams, LedgerEntry, LedgerPlace, PackLabel, SaidFaces, SaltOn, bath_at_least, bath_uptake_at_most,
    carries_at_most, cover, in_metric_spoons, in_pinches, in_spoons, open_area, scale_bath, scale_mix, sodium_of_salt, spread,
};
use crate::settle::Resolved;
use crate::units::{Area, Mass, MassIn, Share, TimeIn, grams};
use crate::words;

/// What goes on the scale, and where from here on everything else comes from.
pub(super) fn dose_plan(request: &PlanRequest, resolved: &Resolved, already: Mass) -> DosePlan {
    let total = total_of(resolved);
    // What grooves and a lattice open takes up a bath as any lean does.
    let open = open_area(&resolved.faces) + resolved.opened;
    let cover = cover_plan(request, resolved);
    let mut ledger: Vec<LedgerLineDone> = request.ledger.iter().map(|entry| entry_line(entry, open)).collect();
    let mut line = |from, what: String, salt, estimate, source| {
        ledger.push(LedgerLineDone {
            from,
            what,
            salt,
            uptake: Share(1.0),
            estimate,
            bath: None,
            bath_cap: None,
            face: None,
            between: None,
            source,
        });
    };
    if let Some(label) = request.solution {
        // The label counts on what is eaten.
        let inside = label.salt_inside(&request.cut, resolved.edible_of(resolved.weight));
        let source = match label {
            PackLabel::Sodium(_) => "the label, less the meat’s own sodium",
            PackLabel::UpTo(_) => "our estimate: a packer’s brine holds 3 to 6 % salt",
        };
        line(LedgerFrom::Packer, "added solution".into(), inside, true, source);
    }
    if already.in_g() > 0.0 {
        line(LedgerFrom::AlreadyOn, "salt already on".into(), already, false, "as weighed, or the whole dose");
    }
    let before_mix = sum(&ledger);
    let (mixes, share) = mixes_on(request, resolved, Dose::balance(total, before_mix).to_weigh);
    let besides = mixes.iter().fold(grams(0.0), |sum, mix| sum + mix.scaled.brings);
    let left = Dose::balance(total, before_mix + besides).to_weigh;
    let mix = request.mix.as_ref().map(|ask| the_mix(request, resolved, ask, (left, share), open));
    if let Some(mix) = mix.as_ref().filter(|m| m.scaled.used.in_g() > 0.0) {
        let what = format!("{} g {}", words::whole_g(mix.scaled.used), mix.name);
        let source = "its own ingredients";
        ledger.push(LedgerLineDone {
            from: LedgerFrom::Ingredient,
            what,
            salt: mix.scaled.brings,
            uptake: Share(1.0),
            estimate: false,
            bath: request.mix.as_ref().and_then(|m| m.bath),
            bath_cap: None,
            face: None,
            between: None,
            source,
        });
    }
    ledger.extend(mixes.iter().filter(|mix| mix.scaled.used.in_g() > 0.0).map(mix_line));
    // A marinade of the method’s own brings what it brings: nothing is weighed on top of it, unless the cook says how salty.
    let total = if marinated_alone(request, resolved) { smaller(total, sum(&ledger)) } else { total };
    let mut dose = Dose::balance(total, sum(&ledger));
    // Below the scale's own step nothing is weighed.
    if dose.to_weigh.in_g() < 0.05 {
        dose.to_weigh = grams(0.0);
    }
    let on_scale = dose.to_weigh / resolved.salt.sodium_chloride();
    let by_face = spread(&resolved.faces, dose.to_weigh, resolved.method.salt_on(), request.said_faces());
    // What a bed, a crust or a draw leaves is the skin's own: it is eaten with it, and takes nothing from the meat.
    let on_skin = cover.as_ref().map_or(grams(0.0), |plan| plan.cover.left);
    let eaten = dose.in_all() + on_skin;
    let other_sodium = request.ledger.iter().fold(grams(0.0), |sum, entry| sum + entry.other_sodium());
    DosePlan {
        scale_between: scale_between(&dose, &ledger, resolved.salt.sodium_chloride()),
        spoons: in_spoons(on_scale, &resolved.salt),
        metric_spoons: in_metric_spoons(on_scale, &resolved.salt),
        pinches: resolved.salt.pinch_g.and_then(|pinch| in_pinches(on_scale, grams(pinch))),
        sodium_per_serving: (sodium_of_salt(eaten) + other_sodium) / f64::from(resolved.servings),
        by_portion: portions(resolved, &dose),
        on_scale,
        dose,
        by_face,
        ledger,
        mix,
        mixes,
        cover,
    }
}

/// The mix that goes on everywhere, or that it lies in. What is said in grams is counted first; of what is `left` the others take their
/// `share`.
fn the_mix(request: &PlanRequest, resolved: &Resolved, ask: &MixUse, (left, share): (Mass, Mass), open: Area) -> MixPlan {
    let basis = resolved.basis_weight();
    let missing = if ask.asked.is_none() && share < left { share } else { left };
    let carries = carries_at_most(mixed_faces(request, resolved));
    let mut scaled = match ask.bath {
        Some(_) => {
            // It has to cover the piece, however salty it is.
            let least = bath_at_least(mixed_faces(request, resolved), resolved.lies);
            let scaled = scale_bath(&ask.mix, missing, basis, ask.asked);
            let short = ask.asked.is_none() && scaled.used.in_g() > 0.0 && scaled.used < least;
            if short { scale_bath(&ask.mix, missing, basis, Some(least)) } else { scaled }
        }
        None => scale_mix(&ask.mix, missing, basis, ask.asked, carries),
    };
    if let Some(time) = ask.bath {
        // From a bath all of it could enter, and diffusion rules how much does.
        // All of it could not: what is left in the liquid is as salty as the water of the lean.
        let (lean, liquid) = (resolved.edible_of(resolved.weight) * Tissue::Lean.water(), scaled.used * (1.0 - ask.mix.salt_share()));
        let could = scaled.used * ask.mix.salt_share() * (lean / (lean + liquid)).value;
        let most = bath_uptake_at_most(ask.mix.salt_share(), open, time);
        scaled.brings = if could > most { most } else { could };
        scaled.loose = Dose::balance(missing, scaled.brings).to_weigh;
    }
    // What it lies in is one bowl for all of it.
    let used = if ask.bath.is_some() { grams(0.0) } else { scaled.used };
    let by_face = spread(&resolved.faces, used, resolved.method.salt_on(), request.said_faces());
    MixPlan {
        name: ask.mix.name.clone(),
        share: ask.mix.brings_share(),
        scaled,
        bath: ask.bath,
        by_face,
        carries,
        holds: ask.mix.salt_share(),
    }
}

/// The mixes besides, and the salt that each mix takes of what is missing where nobody said grams: all such an equal share.
fn mixes_on(request: &PlanRequest, resolved: &Resolved, missing: Mass) -> (Vec<MixOn>, Mass) {
    let said = request.mixes.iter().filter_map(|ask| Some(ask.asked? * ask.mix.brings_share())).fold(grams(0.0), |sum, g| sum + g);
    let open = request.mixes.iter().filter(|ask| ask.asked.is_none()).count();
    let sharing = open + usize::from(request.mix.as_ref().is_some_and(|mix| mix.asked.is_none()));
    let share = Dose::balance(missing, said).to_weigh / (sharing.max(1) as f64);
    let on = |ask: &FaceMix| {
        let face = ask.face.as_deref().and_then(|id| resolved.faces.iter().find(|face| face.id == id));
        let carries = carries_at_most(face.map_or_else(|| mixed_faces(request, resolved), |face| face.area));
        let scaled = scale_mix(&ask.mix, share, resolved.basis_weight(), ask.asked, carries);
        MixOn { name: ask.mix.name.clone(), scaled, face: ask.face.clone(), at: ask.at, holds: ask.mix.salt_share(), carries }
    };
    (request.mixes.iter().map(on).collect(), share)
}

/// What a mix besides brings.
fn mix_line(mix: &MixOn) -> LedgerLineDone {
    LedgerLineDone {
        from: LedgerFrom::Ingredient,
        what: format!("{} g {}", words::whole_g(mix.scaled.used), mix.name),
        salt: mix.scaled.brings,
        uptake: Share(1.0),
        estimate: false,
        bath: None,
        bath_cap: None,
        face: mix.face.clone(),
        between: None,
        source: "its own ingredients",
    }
}

impl DosePlan {
    /// The same with what mixes besides really brought, at the hour at which they went on.
    pub(super) fn with_mixes(mut self, really: &[ActualMix]) -> Self {
        for known in really {
            let Some(mix) = self.mixes.get_mut(known.which) else { continue };
            let planned = mix_line(mix);
            mix.scaled.brings = known.brought;
            mix.at = (known.after.in_h() > 0.0).then_some(known.after);
            if let Some(line) = self.ledger.iter_mut().find(|line| **line == planned) {
                line.salt = known.brought;
            }
        }
        self
    }
}

/// Salt that goes on later than the first, with its mix.
pub(super) fn later_mixes(resolved: &Resolved, dose: &DosePlan) -> Vec<SaltChange> {
    let face = |mix: &MixOn| mix.face.as_deref().and_then(|id| resolved.faces.iter().find(|face| face.id == id)).map(|face| face.id);
    dose.mixes.iter().filter_map(|mix| Some(SaltChange { after: mix.at?, by: mix.scaled.brings, face: face(mix) })).collect()
}

/// The faces a mix goes on: all that take salt.
fn mixed_faces(request: &PlanRequest, resolved: &Resolved) -> Area {
    let laid = spread(&resolved.faces, grams(1.0), resolved.method.salt_on(), request.said_faces());
    laid.iter().filter(|laid| laid.salt.in_g() > 0.0).map(|laid| laid.face.area).sum()
}

/// Whether the method’s own bath is all the salt there is.
pub(super) fn marinated_alone(request: &PlanRequest, resolved: &Resolved) -> bool {
    let bathes = resolved.method.says.mix.as_ref().is_some_and(|own| own.bath.is_some());
    let lies_in_it = request.mix.as_ref().is_some_and(|used| used.bath.is_some());
    bathes && lies_in_it && resolved.guessed.contains(&"salt.g_per_kg")
}

fn smaller(a: Mass, b: Mass) -> Mass {
    if a < b { a } else { b }
}

/// What is to weigh where something of unknown salt brings its most, and its least.
fn scale_between(dose: &Dose, ledger: &[LedgerLineDone], pure: f64) -> Option<(Mass, Mass)> {
    let unknown: Vec<(Mass, Mass, Mass)> = ledger.iter().filter_map(|line| Some((line.between?.0, line.between?.1, line.salt))).collect();
    let sum = |of: fn(&(Mass, Mass, Mass)) -> Mass| unknown.iter().map(of).fold(grams(0.0), |sum, g| sum + g);
    let others = dose.from_ledger - sum(|(.., counted)| *counted);
    let weigh = |brings: Mass| Dose::balance(dose.total, others + brings).to_weigh / pure;
    (!unknown.is_empty()).then(|| (weigh(sum(|(_, high, _)| *high)), weigh(sum(|(low, ..)| *low))))
}

/// dose × basis weight, portion by portion.
pub(super) fn total_of(resolved: &Resolved) -> Mass {
    resolved.portions.iter().fold(grams(0.0), |sum, p| sum + crate::salt::total_salt(p.dose, resolved.basis_of(p.weight)))
}

fn sum(ledger: &[LedgerLineDone]) -> Mass {
    ledger.iter().fold(grams(0.0), |sum, line| sum + line.salt)
}

fn entry_line(entry: &LedgerEntry, open: Area) -> LedgerLineDone {
    let (salt, could) = (entry.salt_brought_over(open), entry.salt_brought());
    // What really enters of all the salt in it, so that the picture can say so.
    let uptake = if could.in_g() > 0.0 { Share(entry.uptake.0 * (salt / could).value) } else { entry.uptake };
    LedgerLineDone {
        from: LedgerFrom::Ingredient,
        what: format!("{} g {}{}", words::whole_g(entry.used), entry.name, place_words(entry.place)),
        salt,
        uptake,
        estimate: entry.uptake.0 < 0.999 || entry.bath.is_some() || entry.between.is_some(),
        bath: entry.bath,
        bath_cap: (salt < could).then_some(salt),
        face: entry.face.clone(),
        between: entry.brings_between(),
        source: entry.source,
    }
}

fn place_words(place: LedgerPlace) -> &'static str {
    match place {
        LedgerPlace::On => "",
        LedgerPlace::Beside => ", eaten beside",
        LedgerPlace::Liquid => ", cooked in",
    }
}

/// Each portion's own share: its target less its part of what is in already, by basis weight. Never below zero, and
/// all of them together are what is weighed.
fn portions(resolved: &Resolved, dose: &Dose) -> Vec<PortionPlan> {
    let basis = resolved.basis_weight();
    let missing: Vec<f64> = resolved
        .portions
        .iter()
        .map(|p| {
            let target = crate::salt::total_salt(p.dose, resolved.basis_of(p.weight));
            (target - dose.from_ledger * (resolved.basis_of(p.weight) / basis).value).in_g().max(0.0)
        })
        .collect();
    let all: f64 = missing.iter().sum();
    let times = if all > 0.0 { dose.to_weigh.in_g() / all } else { 0.0 };
    resolved
        .portions
        .iter()
        .zip(missing)
        .map(|(p, g)| PortionPlan { weight: p.weight, thickness: p.thickness, dose: p.dose, salt: grams(g * times) })
        .collect()
}

/// Crust, bed or draw on the skin, or on the fat cap where there is no skin.
fn cover_plan(request: &PlanRequest, resolved: &Resolved) -> Option<CoverPlan> {
    let ask = request.cover?;
    let face = resolved.cover_face()?;
    let laid: Cover = cover(ask.kind, face.area, ask.depth, &resolved.salt, ask.left);
    Some(CoverPlan { spoons: in_spoons(laid.laid, &resolved.salt), on: face.name, cover: laid })
}

/// All salt that lies on the faces and travels in, as one portion carries it: weighed, put on earlier, mixed or in a sauce;
/// not what the packer injected. What a crust or a bed leaves stays on the skin.
pub(super) fn laid_on(request: &PlanRequest, resolved: &Resolved, dose: &DosePlan, weighed: Mass, index: usize) -> Vec<FaceGrams> {
    let Some(portion) = resolved.portions.get(index) else { return vec![] };
    let of_basis = (resolved.basis_of(portion.weight) / resolved.basis_weight()).value;
    let own = dose.by_portion.get(index).map_or(grams(0.0), |p| p.salt);
    let share = if dose.dose.to_weigh.in_g() > 0.0 { (own / dose.dose.to_weigh).value } else { of_basis };
    let mut laid = spread(&portion.faces, weighed * share + brought(dose) * of_basis, resolved.method.salt_on(), request.said_faces());
    // What goes on one face goes on that alone.
    for line in dose.ledger.iter().filter(|line| on_surface(line)) {
        if let Some(face) = laid.iter_mut().find(|laid| line.face.as_deref() == Some(laid.face.id)) {
            face.salt += line.salt * of_basis;
        }
    }
    laid
}

/// The same for the thickest portion.
pub(super) fn laid_on_thickest(request: &PlanRequest, resolved: &Resolved, dose: &DosePlan, weighed: Mass) -> Vec<FaceGrams> {
    laid_on(request, resolved, dose, weighed, resolved.thickest_index())
}

fn on_surface(line: &LedgerLineDone) -> bool {
    line.from != LedgerFrom::Packer
}

/// Salt on the faces besides what is weighed, where no face was said for it.
fn brought(dose: &DosePlan) -> Mass {
    dose.ledger.iter().filter(|line| on_surface(line) && line.face.is_none()).fold(grams(0.0), |sum, line| sum + line.salt)
}

/// The same salt with every face taking its share, as a way out of a salty rim.
pub(super) fn on_all_faces(resolved: &Resolved, laid: &[FaceGrams]) -> Vec<FaceGrams> {
    let all = laid.iter().fold(grams(0.0), |sum, f| sum + f.salt);
    spread(&resolved.thickest().faces, all, SaltOn::AllFaces, SaidFaces::default())
}
