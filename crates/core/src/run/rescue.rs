//! Rescue: too much salt on, or too little, now or hours ago. Ways out, each computed by the same travel, none preached.

use crate::ask::{PlanRequest, Refusal};
use crate::plan::{ActualSalt, ColdState, Course, DosePlan, LedgerFrom, Resolved, SaltChange, chill_hours, with_course};
use crate::salt::travel::{Cell, Tissue};
use crate::units::{GramsPerKg, Mass, MassIn, Share, Time, TimeIn, grams, hours};

/// A piece that has the wrong salt on it.
#[derive(Debug, Clone)]
pub struct RescueAsk {
    /// What is really on it, and since when things changed.
    pub really: ActualSalt,
    /// How long it has been salted.
    pub salted: Time,
    /// How long it still lies in the cold.
    pub left: Time,
    /// The longest it may lie: to the storage limit; `None` where that is unknown.
    pub at_most: Option<Time>,
}

/// What happened to its salt.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Happened {
    /// So much was really laid on at first, sauces and what the packer injected left out.
    Really,
    /// So much came off just now.
    CameOff,
    /// So much more went on just now.
    WentOn,
}

/// One way out.
#[derive(Debug, Clone, PartialEq)]
pub struct RescueWay {
    /// Stable name: `brush-off`, `add`, `longer`, `leave-off-sauce`, `unsalted-sides`, `thinner-slices`, `trim-rim`, `at-table`.
    pub id: &'static str,
    /// What to do.
    pub what: String,
    /// What it gives.
    pub gives: String,
    /// Grams on the scale: to come off, to go on, to leave out.
    pub grams: Option<Mass>,
}

/// How far off, and what helps.
#[derive(Debug, Clone)]
pub struct Rescue {
    /// What is on it now, ledger included, as sodium chloride.
    pub on: Mass,
    /// What was wanted.
    pub wanted: Mass,
    /// Dose that comes to.
    pub dose: GramsPerKg,
    /// Of that what sauces, mixes and the packer brought: nobody lays it on by the gram, nobody brushes it off.
    pub brought: Mass,
    /// What still waits dry on its faces.
    pub waiting: Mass,
    /// Where it would end if nothing were done.
    pub as_is: ColdState,
    /// The ways, the most certain first.
    pub ways: Vec<RescueWay>,
}

impl Rescue {
    /// By how much sodium chloride what happened changes what is on it; `None` where more came off than there is.
    pub fn change(&self, happened: Happened, salt: Mass) -> Option<Mass> {
        match happened {
            Happened::CameOff if salt.in_g() > self.on.in_g() + 0.05 => None,
            Happened::CameOff => Some(-salt),
            Happened::WentOn => Some(salt),
            Happened::Really => Some(salt - (self.on - self.brought)),
        }
    }
}

/// Off by less than this is what spoons and scales do anyway, g/kg (our estimate).
const CLOSE_ENOUGH: f64 = 0.75;
/// A plate's side dish, g, and the salt it usually carries, g/kg (our estimate).
const SIDE_G: f64 = 250.0;
const SIDE_SALT: f64 = 8.0;
/// Slices as usually carved and as thin as a knife goes, mm (our estimate).
const SLICE_MM: (f64, f64) = (10.0, 4.0);

/// Reckons the ways out. Refused where the request cannot be read.
pub fn rescue(request: &PlanRequest, ask: &RescueAsk) -> Result<Rescue, Vec<Refusal>> {
    let scene = with_course(request, &ask.really, |course, resolved, dose| Scene::of(course, resolved, dose, ask))?;
    let Scene { on, wanted, basis, waiting, as_is, .. } = &scene;
    let off = *on - *wanted;
    let dose = GramsPerKg(on.in_g() / basis.in_kg().max(1e-9));
    let ways = if (off.in_g() / basis.in_kg().max(1e-9)).abs() < CLOSE_ENOUGH {
        vec![]
    } else if off.in_g() > 0.0 {
        let ways = [brush_off(request, ask, &scene)?, leave_off_sauce(&scene), longer(request, ask, &scene)?];
        let plates = [trim_rim(&scene).filter(|_| !request.cut.is_bird()), Some(unsalted_sides(&scene)), Some(thinner_slices(&scene))];
        ways.into_iter().chain(plates).flatten().collect()
    } else {
        [add(request, ask, &scene)?, Some(at_table(&scene))].into_iter().flatten().collect()
    };
    Ok(Rescue { brought: scene.brought, on: *on, wanted: *wanted, dose, waiting: *waiting, as_is: as_is.clone(), ways })
}

/// What all ways look at.
struct Scene {
    on: Mass,
    wanted: Mass,
    basis: Mass,
    /// In the ledger beside the salt that was on already.
    brought: Mass,
    /// Of that what a cook can still leave off.
    to_come: Mass,
    waiting: Mass,
    as_is: ColdState,
    out: Time,
    serving: Mass,
    servings: f64,
    longest: Time,
}

impl Scene {
    fn of(course: &Course, resolved: &Resolved, dose: &DosePlan, ask: &RescueAsk) -> Self {
        let changed = ask.really.changes.iter().fold(grams(0.0), |sum, c| sum + c.by);
        let put_on = ask.really.grams.unwrap_or(dose.dose.to_weigh) + changed;
        let share = (resolved.basis_of(resolved.thickest().weight) / resolved.basis_weight()).value;
        let waiting = course.waiting(ask.salted) / share.max(1e-9);
        let out = ask.salted + ask.left;
        let lines =
            |skip: &[LedgerFrom]| dose.ledger.iter().filter(|l| !skip.contains(&l.from)).fold(grams(0.0), |sum, line| sum + line.salt);
        Self {
            brought: lines(&[LedgerFrom::AlreadyOn]),
            to_come: lines(&[LedgerFrom::AlreadyOn, LedgerFrom::Packer]),
            on: dose.dose.from_ledger + put_on,
            wanted: dose.dose.total,
            basis: resolved.basis_weight(),
            waiting,
            as_is: course.state(out, out + ask.really.open_before),
            out,
            serving: resolved.basis_weight() / f64::from(resolved.servings),
            servings: f64::from(resolved.servings),
            longest: chill_hours(resolved).longest,
        }
    }

    fn excess(&self) -> Mass {
        self.on - self.wanted
    }
}

/// The state at an hour with one more change now.
fn with_change(request: &PlanRequest, ask: &RescueAsk, by: Mass, out: Time) -> Result<ColdState, Vec<Refusal>> {
    let mut really = ask.really.clone();
    if by.in_g().abs() > 1e-9 {
        really.changes.push(SaltChange::all_over(ask.salted, by));
    }
    let open = out + really.open_before;
    with_course(request, &really, |course, _, _| course.state(out, open))
}

fn mouthfuls(state: &ColdState) -> String {
    format!("outer 5 mm {:.0}, middle {:.1}, whole slice {:.1} g/kg", state.rim.0, state.middle.0, state.slice.0)
}

fn brush_off(request: &PlanRequest, ask: &RescueAsk, scene: &Scene) -> Result<Option<RescueWay>, Vec<Refusal>> {
    let off = if scene.waiting < scene.excess() { scene.waiting } else { scene.excess() };
    // Less than half a gram sticks to the brush.
    if off.in_g() < 0.5 {
        return Ok(None);
    }
    let state = with_change(request, ask, -off, scene.out)?;
    let left = (scene.on - off).in_g() / scene.basis.in_kg();
    let all = if off < scene.excess() { "; the rest is in already" } else { "" };
    Ok(Some(RescueWay {
        id: "brush-off",
        what: format!(
            "Brush it off and weigh what comes off: {:.1} g, of {:.1} g that still lie dry on it",
            off.in_g(),
            scene.waiting.in_g()
        ),
        gives: format!("{left:.1} g/kg left{all}; {}", mouthfuls(&state)),
        grams: Some(off),
    }))
}

fn leave_off_sauce(scene: &Scene) -> Option<RescueWay> {
    let off = if scene.to_come < scene.excess() { scene.to_come } else { scene.excess() };
    (off.in_g() >= 0.3).then(|| RescueWay {
        id: "leave-off-sauce",
        what: format!("Leave off sauce or paste that brings {:.1} g of salt, if it is not on yet", off.in_g()),
        gives: format!("{:.1} g/kg over all", (scene.on - off).in_g() / scene.basis.in_kg()),
        grams: Some(off),
    })
}

/// Hours do not take salt away: they take it from the rim to the middle.
fn longer(request: &PlanRequest, ask: &RescueAsk, scene: &Scene) -> Result<Option<RescueWay>, Vec<Refusal>> {
    let room = ask.at_most.map_or(scene.longest, |limit| if limit < scene.longest { limit } else { scene.longest });
    let until = if room > scene.out + hours(2.0) { room } else { return Ok(None) };
    let state = with_change(request, ask, grams(0.0), until)?;
    let limit = if ask.at_most.is_none() { "; mind the storage limit, which nobody has said" } else { "" };
    Ok((state.rim.0 < scene.as_is.rim.0 - 0.5).then(|| RescueWay {
        id: "longer",
        what: format!("Leave it {:.0} h instead of {:.0} h", until.in_h(), scene.out.in_h()),
        gives: format!(
            "outer 5 mm {:.0} instead of {:.0} g/kg, middle {:.1}; the whole slice stays at {:.1}{limit}",
            state.rim.0, scene.as_is.rim.0, state.middle.0, state.slice.0
        ),
        grams: None,
    }))
}

/// Cutting away the outside takes salt with it: read off the profile.
fn trim_rim(scene: &Scene) -> Option<RescueWay> {
    const DEEP: f64 = 3.0;
    let profile = &scene.as_is.profile;
    let thick = profile.thickness_mm();
    // Only bare lean is carved away: under skin or fat it would cost those first.
    let lean = |cell: Option<&Cell>| cell.is_some_and(|c| c.tissue == Tissue::Lean);
    let carved = [profile.salted[0] && lean(profile.cells.first()), profile.salted[1] && lean(profile.cells.last())];
    let faces = carved.iter().filter(|s| **s).count() as f64;
    if thick < 4.0 * DEEP || faces == 0.0 {
        return None;
    }
    let from = if carved[0] { DEEP } else { 0.0 };
    let to = if carved[1] { thick - DEEP } else { thick };
    let kept = profile.mean_between(from, to);
    let meat = Share(faces * DEEP / thick);
    (kept < scene.as_is.slice.0 - 0.5).then(|| RescueWay {
        id: "trim-rim",
        what: format!("Carve away the outer {DEEP:.0} mm of the salted {}", if faces > 1.0 { "sides" } else { "side" }),
        gives: format!("slice {kept:.1} instead of {:.1} g/kg, for {:.0} % of the meat", scene.as_is.slice.0, meat.0 * 100.0),
        grams: None,
    })
}

fn unsalted_sides(scene: &Scene) -> RescueWay {
    let meat = scene.serving.in_kg();
    let plate = |side: f64| (scene.on.in_g() / scene.servings + side * SIDE_G / 1000.0) / (meat + SIDE_G / 1000.0);
    RescueWay {
        id: "unsalted-sides",
        what: format!("Cook {SIDE_G:.0} g of potatoes, bread or greens a plate without salt"),
        gives: format!("{:.1} g/kg over the whole plate instead of {:.1} with salted ones", plate(0.0), plate(SIDE_SALT)),
        grams: None,
    }
}

/// Per slice of a hand's breadth, 80 × 60 mm: what one bite brings follows its thickness.
fn thinner_slices(scene: &Scene) -> RescueWay {
    let bite = |mm: f64| 0.8 * 0.6 * mm / 100.0 * crate::piece::MEAT_DENSITY_KG_PER_L * scene.as_is.slice.0;
    RescueWay {
        id: "thinner-slices",
        what: format!("Slice it {:.0} mm thin instead of {:.0}, to be eaten with something plain", SLICE_MM.1, SLICE_MM.0),
        gives: format!("{:.2} g of salt in a slice of 8 × 6 cm instead of {:.2}", bite(SLICE_MM.1), bite(SLICE_MM.0)),
        grams: None,
    }
}

fn add(request: &PlanRequest, ask: &RescueAsk, scene: &Scene) -> Result<Option<RescueWay>, Vec<Refusal>> {
    let missing = scene.wanted - scene.on;
    // Dry salt needs its wet window before the heat.
    if ask.left.in_h() < 1.0 {
        return Ok(None);
    }
    let state = with_change(request, ask, missing, scene.out)?;
    Ok(Some(RescueWay {
        id: "add",
        what: format!("Weigh {:.1} g more and lay it on now, spread as the first", missing.in_g()),
        gives: format!("{} when it comes out in {:.0} h", mouthfuls(&state), ask.left.in_h()),
        grams: Some(missing),
    }))
}

fn at_table(scene: &Scene) -> RescueWay {
    let missing = scene.wanted - scene.on;
    RescueWay {
        id: "at-table",
        what: format!("Leave it, and salt the slices at table: {:.1} g a serving", missing.in_g() / scene.servings),
        gives: format!(
            "{:.1} g/kg as wanted, all of it outside; the middle stays at {:.1}",
            scene.wanted.in_g() / scene.basis.in_kg(),
            scene.as_is.middle.0
        ),
        grams: Some(missing / scene.servings),
    }
}
