//! From core's plan to the wire.

use crate::SCHEMA;
use crate::chill_doc::{FridgeDoc, GoalDoc, ModelHoursDoc, PlateDoc};
use crate::fire::stages_value;
use crate::fire_doc::fire_doc;
use crate::knife_doc::skin_doc;
use crate::mix_doc::{MixDoc, MixOnDoc, MixPartDoc};
use crate::plan_doc::{
    BoundDoc, CautionDoc, CoverDoc, DoseDoc, FaceDoc, FierceEndDoc, InspectionDoc, LateWayDoc, LedgerEntryDoc, MealsDoc, PlanDoc,
    PortionDoc, RequestDoc, StepDoc, TooLateDoc, WayOutDoc, WhyDoc, WorthDoc,
};
use jiff::Timestamp;
use jiff::tz::TimeZone;
use rauchkeller_core::ask::HoursFrom;
use rauchkeller_core::method::{Hands, SaltEffect};
use rauchkeller_core::plan::{Bound, FIELDS, GoalHours, LateWay, MixOn, MixPlan, ModelHours, Plan, TooLate, Why};
use rauchkeller_core::salt::{FaceGrams, ScaledMix, on_the_scale};
use rauchkeller_core::skin::drying::touch;
use rauchkeller_core::units::{AreaIn, LengthIn, MassIn, TemperatureIn, Time, TimeIn, grams};

/// Four decimals: far below any kitchen's scale, short enough to read.
pub(crate) fn r4(value: f64) -> f64 {
    // Nothing less than nothing: −0 is 0.
    (value * 1e4).round() / 1e4 + 0.0
}

pub(crate) fn instant(at: Timestamp, zone: &TimeZone) -> String {
    at.to_zoned_datetime(zone.clone()).to_string()
}

fn too_late_doc(late: &TooLate) -> TooLateDoc {
    let way = |way: &LateWay| LateWayDoc {
        kind: way.kind.id().into(),
        what: way.what.clone(),
        scale_g: r4(way.on_scale.in_g()),
        g_per_kg: r4(way.dose.0),
        salted_h: r4(way.salted.in_h()),
        rim_g_per_kg: r4(way.rim.0),
        depth_mm: r4(way.depth.in_mm()),
        skin_dryness: way.dryness.map(|d| r4(d.0)),
        serve_at: way.serve.as_ref().map(ToString::to_string),
        method: way.kind.method().map(str::to_owned),
    };
    TooLateDoc { says: late.says.clone(), ways: late.ways.iter().map(way).collect() }
}

/// Writes a plan.
pub fn plan_doc(plan: &Plan) -> PlanDoc {
    let zone = plan.request.now.time_zone();
    PlanDoc {
        schema: SCHEMA,
        request: request_doc(plan),
        dose: dose_doc(plan),
        fridge: fridge_doc(plan, zone),
        skin: plan.skin.as_ref().map(skin_doc),
        steps: plan.steps.iter().map(|s| step_doc(s, zone)).collect(),
        fire: fire_doc(plan),
        serve_at: plan.serve_at.to_string(),
        serve_until: plan.serving.as_ref().map(|serving| serving.until.to_string()),
        waits_as: plan.serving.as_ref().map(|serving| serving.waits_as.id().to_owned()),
        meals: MealsDoc {
            earliest: plan.meals.earliest.to_string(),
            best: plan.meals.best.to_string(),
            latest: plan.meals.latest.to_string(),
        },
        worth_measuring: plan.worth_measuring.iter().map(|w| WorthDoc { field: w.field.into(), effect: w.effect.clone() }).collect(),
        inspection: plan.inspection.iter().map(|n| InspectionDoc { field: n.field.into(), says: n.says.clone() }).collect(),
        ways_out: plan.ways_out.iter().map(|w| WayOutDoc { what: w.what.clone(), gives: w.gives.clone() }).collect(),
        too_late: plan.too_late.as_ref().map(too_late_doc),
        fierce_end: plan.fierce_end.as_ref().map(|end| FierceEndDoc {
            what: end.what(),
            gives: end.gives(),
            air_c: r4(end.air.in_c()),
            minutes: r4(end.takes.in_min()),
            pull_c: r4(end.pull.in_c()),
            stages: stages_value(&end.stages),
        }),
        why: plan.why.iter().map(why_doc).collect(),
        cautions: plan
            .cautions
            .iter()
            .map(|c| CautionDoc {
                code: c.code.into(),
                severity: c.severity.id().into(),
                text: c.text.clone(),
                source: c.source.into(),
                step: c.at.map(|k| k.id().into()),
            })
            .collect(),
    }
}

fn why_doc(why: &Why) -> WhyDoc {
    let bound = |b: &Bound| BoundDoc { what: b.what.into(), value: b.value.clone(), source: b.source.clone() };
    WhyDoc {
        number: why.number.into(),
        says: why.says.clone(),
        bound_by: why.bound_by.iter().map(bound).collect(),
        would_change: why.would_change.clone(),
    }
}

fn request_doc(plan: &Plan) -> RequestDoc {
    let resolved = &plan.resolved;
    RequestDoc {
        cut: plan.request.cut.id.into(),
        cut_name: plan.request.cut.name.into(),
        weight_g: r4(resolved.weight.in_g()),
        portions_g: plan.request.portions.iter().map(|p| r4(p.weight.in_g())).collect(),
        salt_thickness_mm: r4(resolved.thickness.in_mm()),
        length_mm: r4(resolved.measures.length.in_mm()),
        width_mm: r4(resolved.measures.width.in_mm()),
        skin_mm: r4(resolved.skin.in_mm()),
        fat_mm: r4(resolved.fat.in_mm()),
        fat_min_mm: r4(resolved.fat_min.in_mm()),
        bone_fraction: resolved.bone.0,
        method: resolved.method.id.to_string(),
        method_name: resolved.method.name.to_string(),
        method_version: resolved.method.version,
        thin_mm: plan.request.thin.map(|t| r4(t.in_mm())),
        salt: resolved.salt.id.to_string(),
        salt_name: resolved.salt.name.to_string(),
        salt_purity: resolved.salt.purity,
        g_per_kg: resolved.dose.0,
        basis: resolved.basis.id().into(),
        servings: resolved.servings,
        now: plan.request.now.to_string(),
        fridge_c: r4(resolved.air.temperature.in_c()),
        fridge_rh: resolved.air.humidity.0,
        fridge_h_w_m2k: resolved.air.h.0,
        guessed: resolved.guessed.iter().map(|g| (*g).into()).collect(),
        taken: FIELDS.iter().filter_map(|row| Some((row.path.to_owned(), (row.taken)(resolved)?))).chain(of_the_heat(plan)).collect(),
    }
}

/// What the heat took of its own, beside its stages.
fn of_the_heat(plan: &Plan) -> [(String, f64); 3] {
    let fire = &plan.fire;
    [("temper", fire.temper), ("preheat", fire.preheat), ("rest", fire.rest)]
        .map(|(name, time)| (format!("fire.{name}_min"), r4(time.in_min())))
}

fn dose_doc(plan: &Plan) -> DoseDoc {
    let dose = &plan.dose;
    let pure = plan.resolved.salt.sodium_chloride();
    let share = dose.mix.as_ref().map_or(0.0, |mix| mix.share);
    let mixed = dose.mix.as_ref().map_or_else(|| vec![0.0; dose.by_face.len()], |mix| mix.by_face.iter().map(|f| f.salt.in_g()).collect());
    DoseDoc {
        total_g: r4(dose.dose.total.in_g()),
        from_ledger_g: r4(dose.dose.from_ledger.in_g()),
        to_weigh_g: r4(dose.dose.to_weigh.in_g()),
        scale_g: r4(dose.on_scale.in_g()),
        spoons: dose.spoons.to_string(),
        spoons_g: r4(dose.spoons.weighs.in_g()),
        g_per_tsp: plan.resolved.salt.g_per_tsp,
        metric_spoons: dose.metric_spoons.to_string(),
        pinches: dose.pinches,
        by_face: dose
            .by_face
            .iter()
            .zip(mixed)
            .map(|(f, mix_g)| FaceDoc {
                mix_g: r4(mix_g),
                face: f.face.id.into(),
                name: f.face.name.into(),
                kind: f.face.kind.id().into(),
                area_dm2: r4(f.face.area.in_dm2()),
                g: r4(f.salt.in_g()),
                scale_g: r4(on_the_scale(f.salt, pure).in_g()),
                g_per_dm2: r4(FaceGrams { salt: f.salt + grams(mix_g * share), ..*f }.density().0),
            })
            .collect(),
        by_portion_g: dose.by_portion.iter().map(|p| r4(p.salt.in_g())).collect(),
        portions: dose
            .by_portion
            .iter()
            .enumerate()
            .map(|(i, p)| (p, plan.fire.portions.get(i)))
            .map(|(p, heat)| PortionDoc {
                fire_min: heat.map(|h| r4(h.takes.in_min())),
                in_after_min: heat.map(|h| r4(h.waits.in_min())).filter(|min| *min > 0.0),
                pull_c: heat.map(|h| r4(h.pull.in_c())),
                ends_c: heat.map(|h| [h.ends.low, h.ends.mid, h.ends.high].map(|c| r4(c.in_c()))),
                weight_g: r4(p.weight.in_g()),
                salt_thickness_mm: r4(p.thickness.in_mm()),
                g_per_kg: p.dose.0,
                g: r4(p.salt.in_g()),
                scale_g: r4(on_the_scale(p.salt, pure).in_g()),
            })
            .collect(),
        mix: dose.mix.as_ref().map(mix_doc),
        mixes: dose.mixes.iter().enumerate().map(|(which, mix)| mix_on_doc(plan, which, mix)).collect(),
        cover: dose.cover.as_ref().map(cover_doc),
        ledger: dose
            .ledger
            .iter()
            .map(|l| LedgerEntryDoc {
                what: l.what.clone(),
                g: r4(l.salt.in_g()),
                uptake: r4(l.uptake.0),
                estimate: l.estimate,
                bath_h: l.bath.map(|t| r4(t.in_h())),
                between_g: l.between.map(|(low, high)| (r4(low.in_g()), r4(high.in_g()))),
                face: l.face.clone(),
                bath_cap_g: l.bath_cap.map(|g| r4(g.in_g())),
                source: l.source.into(),
            })
            .collect(),
        scale_between_g: dose.scale_between.map(|(least, most)| (r4(least.in_g()), r4(most.in_g()))),
        over_g: r4((dose.dose.from_ledger - dose.dose.total).in_g().max(0.0)),
        eaten_g_per_kg: r4(dose.dose.in_all().in_g() / plan.resolved.edible_of(plan.resolved.weight).in_kg().max(1e-9)),
        sodium_mg_per_serving: r4(dose.sodium_per_serving.in_g() * 1000.0),
    }
}

/// Its ingredients, for just that much.
fn parts_doc(mix: &ScaledMix) -> Vec<MixPartDoc> {
    mix.parts.iter().map(|(name, g)| MixPartDoc { name: name.clone(), g: r4(g.in_g()) }).collect()
}

fn mix_on_doc(plan: &Plan, which: usize, mix: &MixOn) -> MixOnDoc {
    MixOnDoc {
        task: plan.steps.iter().find(|planned| planned.step.mix == Some(which)).map(|planned| planned.step.id.to_string()),
        name: mix.name.clone(),
        salt_g_per_100g: r4(mix.holds * 100.0),
        g: r4(mix.scaled.used.in_g()),
        salt_g: r4(mix.scaled.brings.in_g()),
        face: mix.face.clone(),
        at_h: mix.at.map(|at| r4(at.in_h())),
        carries_g: r4(mix.carries.in_g()),
        parts: parts_doc(&mix.scaled),
    }
}

fn mix_doc(mix: &MixPlan) -> MixDoc {
    MixDoc {
        name: mix.name.clone(),
        salt_g_per_100g: r4(mix.holds * 100.0),
        g: r4(mix.scaled.used.in_g()),
        salt_g: r4(mix.scaled.brings.in_g()),
        bath_h: mix.bath.map(|bath| r4(bath.in_h())),
        carries_g: r4(mix.carries.in_g()),
        parts: parts_doc(&mix.scaled),
    }
}

fn cover_doc(plan: &rauchkeller_core::salt::CoverPlan) -> CoverDoc {
    let cover = &plan.cover;
    CoverDoc {
        kind: cover.kind.id().into(),
        name: cover.kind.name().into(),
        on: plan.on.into(),
        area_dm2: r4(cover.area.in_dm2()),
        depth_mm: cover.depth.map(|d| r4(d.in_mm())),
        g: r4(cover.laid.in_g()),
        spoons: plan.spoons.to_string(),
        left_g: r4(cover.left.in_g()),
        left_is_estimate: !cover.left_said,
    }
}

fn fridge_doc(plan: &Plan, zone: &TimeZone) -> FridgeDoc {
    let fridge = &plan.fridge;
    let state = &fridge.state;
    FridgeDoc {
        out_min: r4(plan.out.in_min()),
        shortest_h: r4(fridge.useful.shortest.in_h()),
        ideal_h: r4(fridge.useful.ideal.in_h()),
        longest_h: r4(fridge.useful.longest.in_h()),
        planned_h: r4(fridge.planned.in_h()),
        fits_h: r4(fridge.fits.in_h()),
        from: instant(fridge.from, zone),
        to: instant(fridge.to, zone),
        evenness: r4(state.evenness.0),
        salted_depth_mm: r4(state.salted_depth.in_mm()),
        rim_g_per_kg: r4(state.rim.0),
        middle_g_per_kg: r4(state.middle.0),
        slice_g_per_kg: r4(state.slice.0),
        skin_dryness: state.dryness.map(|d| r4(d.0)),
        skin_touch: state.dryness.map(|d| touch(d).into()),
        salt_profile: state.profile.cells.iter().map(|c| (r4(c.bottom_mm), r4(c.g_per_kg))).collect(),
        waiting_g_per_dm2: (r4(state.profile.waiting[0].0), r4(state.profile.waiting[1].0)),
        lies: plan.resolved.lies.id().into(),
        open_h: r4(fridge.open.in_h()),
        keeps_amber: fridge.keeps.map(|k| instant(k.amber, zone)),
        keeps_red: fridge.keeps.map(|k| instant(k.red, zone)),
        hours_from: if plan.request.hours_from == HoursFrom::Model { "model" } else { "house" }.into(),
        house_h: Some((r4(fridge.house.shortest.in_h()), r4(fridge.house.ideal.in_h()), r4(fridge.house.longest.in_h()))),
        lost_g: r4(state.lost.in_g()),
        wet_h: fridge.wet.map(|t| r4(t.in_h())),
        plate: Some(PlateDoc {
            rim_g_per_kg: r4(fridge.plate.rim.0),
            middle_g_per_kg: r4(fridge.plate.middle.0),
            slice_g_per_kg: r4(fridge.plate.slice.0),
            evenness: r4(fridge.plate.evenness.0),
            into_liquid: r4(fridge.plate.into_liquid.0),
        }),
        model: Some(ModelHoursDoc { differs: fridge.differs.clone(), ..model_doc(&fridge.model) }),
        why: fridge.why.clone(),
    }
}

fn model_doc(model: &ModelHours) -> ModelHoursDoc {
    let h = |at: Option<Time>| at.map(|at| r4(at.in_h()));
    let goal = |reached: &GoalHours| GoalDoc {
        kind: reached.goal.id().into(),
        value: r4(reached.goal.value()),
        words: reached.goal.words(),
        at_h: h(reached.at),
    };
    ModelHoursDoc {
        goal: model.goal.words(),
        shortest_h: h(model.shortest),
        ideal_h: h(model.ideal),
        longest_h: h(model.longest),
        goals: model.goals.iter().map(goal).collect(),
        differs: String::new(),
    }
}

fn step_doc(timed: &rauchkeller_core::plan::PlanStep, zone: &TimeZone) -> StepDoc {
    let step = &timed.step;
    StepDoc {
        id: step.id.to_string(),
        after: step.after.iter().map(ToString::to_string).collect(),
        beside: step.beside.as_ref().map(ToString::to_string),
        tick: step.kind.tick().id().into(),
        takes: step.lasts.id().into(),
        resources: step.resources().into_iter().map(Into::into).collect(),
        salts: step.salts().map(|effect| if effect == SaltEffect::On { "on" } else { "off" }.into()),
        kind: step.kind.id().into(),
        title: step.title.clone(),
        place: step.place.id().into(),
        starts_at: instant(timed.starts, zone),
        ends_at: instant(timed.ends, zone),
        earliest: instant(timed.earliest, zone),
        latest: instant(timed.latest, zone),
        air_c: step.air.map(|t| r4(t.in_c())),
        until: step.until.clone(),
        hands_on_min: r4(step.hands_on.in_min()),
        hands: if step.hands == Hands::Clean { "clean" } else { "raw" }.into(),
        needs: step.needs.iter().map(ToString::to_string).collect(),
        detail: step.detail.clone(),
        figure: step.figure.as_ref().map(|f| f.value.clone()),
        figure_unit: step.figure.as_ref().map(|f| f.unit.into()),
    }
}
