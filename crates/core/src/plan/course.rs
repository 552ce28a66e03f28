//! The course of the rest: salt going in and water coming out, hour by hour, with what was laid on or brushed off midway.

use super::parts::{ColdState, SaltChange};
use crate::ask::PlanRequest;
use crate::piece::{FaceKind, Family, MEAT_DENSITY_KG_PER_L};
use crate::salt::travel::{Layer, Metric, Profile, Salting, Tissue, Travel, Uptake};
use crate::salt::{CoverKind, FaceGrams, spread};
use crate::settle::Resolved;
use crate::skin::drying::{DryState, Drying, Side};
use crate::units::{AreaIn, GramsPerDm2, GramsPerKg, LengthIn, Mass, MassIn, Time, TimeIn, grams, hours, millimetres};

/// The same on the thickest portion.
#[derive(Debug, Clone, Copy)]
struct Change {
    at: Time,
    g: f64,
    /// Grams a dm² at each end for one gram of it.
    ends: [f64; 2],
}

/// Layers of the column a piece is reckoned by, how its way narrows, and the faces at its two ends.
struct Column {
    layers: Vec<Layer>,
    metric: Metric,
    ends: [&'static str; 2],
}

fn column(request: &PlanRequest, resolved: &Resolved) -> Column {
    let lean = |thickness| Layer { tissue: Tissue::Lean, thickness };
    let covered = || {
        vec![
            Layer { tissue: Tissue::Skin, thickness: resolved.skin },
            Layer { tissue: Tissue::Fat, thickness: resolved.fat },
            lean(resolved.lean()),
        ]
    };
    let loosened = resolved.faces.iter().any(|f| f.id == "under-skin");
    let over = covering(resolved);
    let has_cover = resolved.faces.iter().any(|f| f.id == over);
    let (layers, ends) = match request.cut.family {
        Family::Steak => (vec![lean(resolved.thickness)], ["cut", "cut"]),
        Family::Bird | Family::Crown | Family::FlatBird if loosened => (vec![lean(resolved.lean())], ["under-skin", "cavity"]),
        Family::Bird | Family::Crown | Family::FlatBird => (covered(), ["breast", "cavity"]),
        // Skin and cap lie on top as the piece lies in the refrigerator; what is salted below meets bare lean.
        Family::SkinSlab | Family::CapSlab | Family::Roast | Family::Rack | Family::Joint if has_cover => (covered(), [over, "meat"]),
        _ => (vec![lean(resolved.thickness)], ["meat", "meat"]),
    };
    Column { metric: metric(request, resolved, ends), layers, ends }
}

/// How the way narrows: roasts and racks are cylinders, joints lumps, birds hollow balls; a slab's does not.
fn metric(request: &PlanRequest, resolved: &Resolved, ends: [&str; 2]) -> Metric {
    let portion = resolved.thickest();
    let dm2 = |ids: &[&str]| portion.faces.iter().filter(|f| ids.contains(&f.id)).map(|f| f.area.in_dm2()).sum::<f64>();
    let shares = |bare: &[&str]| {
        let (top, bottom) = (if ends[0] == ends[1] { 0.0 } else { dm2(&ends[..1]) }, dm2(bare));
        let top = if ends[0] == ends[1] { 0.5 } else { top / (top + bottom).max(1e-9) };
        [top, 1.0 - top]
    };
    match request.cut.family {
        _ if resolved.in_slabs => Metric::Plane,
        Family::Roast | Family::Rack => Metric::Round { power: 1.0, shares: shares(&["meat"]) },
        Family::Joint => {
            // Radius × outside ÷ volume is one more than the power; its sawn end is outside like any other.
            let litres = portion.weight.in_kg() / MEAT_DENSITY_KG_PER_L;
            let outside = portion.faces.iter().map(|f| f.area.in_dm2()).sum::<f64>();
            let power = portion.thickness.in_mm() / 200.0 * outside / litres.max(1e-6) - 1.0;
            Metric::Round { power: power.clamp(0.0, 4.0), shares: shares(&["meat", "cut"]) }
        }
        Family::Bird | Family::Crown => {
            let (outer, hollow) = (portion.faces.iter().map(|f| f.area.in_dm2()).sum::<f64>() - dm2(&["cavity"]), dm2(&["cavity"]));
            // Radii go as the roots of the areas, and their difference is the wall.
            let ratio = (hollow / outer.max(1e-9)).sqrt().clamp(0.05, 0.9);
            let wall = if ends[0] == "under-skin" { resolved.lean() } else { resolved.skin + resolved.fat + resolved.lean() };
            Metric::Hollow { inner: wall * (ratio / (1.0 - ratio)) }
        }
        Family::SkinSlab | Family::CapSlab | Family::Steak | Family::FlatBird => Metric::Plane,
    }
}

fn covering(resolved: &Resolved) -> &'static str {
    if resolved.skin.in_mm() > 0.0 { "skin" } else { "fat" }
}

/// Grams of which so much waits on a dm².
fn share_of(waiting: f64, per_gram: f64) -> f64 {
    if per_gram > 0.0 { waiting / per_gram } else { 0.0 }
}

/// Salt on the sides at one hour, g/dm².
#[derive(Debug, Clone, Copy)]
pub(super) struct OnTheSides {
    h: f64,
    ends: [f64; 2],
    lean: f64,
}

/// The salt on the sides is looked up whenever so much of the time passed has gone by again; straight lines between.
const LOOK_APART: f64 = 0.4;

/// Cells through the thickness where a state is shown.
const FINE: f64 = 150.0;

/// And where only the hour is asked at which something is reached: moves it by less than a hundredth.
const COARSE: f64 = 75.0;

/// Nothing is looked at before so many hours.
const FIRST_LOOK: f64 = 0.25;

/// A piece through its rest.
///
/// Time is counted in hours of salt; `open_before` is how long it lay open in the cold before that.
pub struct Course<'a> {
    resolved: &'a Resolved,
    column: Column,
    /// Grams a dm² at each end for one gram on the thickest portion.
    per_gram: [f64; 2],
    /// Each face's grams a dm² for one gram on the thickest portion.
    faces_per_gram: Vec<FaceGrams>,
    /// Grams on the thickest portion at first.
    first: f64,
    /// What came later, in order.
    changes: Vec<Change>,
    /// Ends that have a face of their own to which something was added later: what waits there is counted by its area, dm².
    own_ends: Option<[f64; 2]>,
    /// Left by a bed on the cover, g/dm².
    residue: f64,
    /// Its skin lies on a bed of salt through its hours.
    on_a_bed: bool,
    inside: GramsPerKg,
    open_before: Time,
    /// Lean that lies at neither end of the column and is salted more than both: grams a dm² for one gram on the portion.
    beside: Option<f64>,
}

/// So deep a side is followed that lies at neither end of the column, mm: far beyond what its outer mouthful sees.
const BESIDE_MM: f64 = 40.0;

impl<'a> Course<'a> {
    /// `laid` is all salt that is on the thickest portion's faces in the end, changes included.
    pub(super) fn new(
        request: &'a PlanRequest,
        resolved: &'a Resolved,
        laid: &[FaceGrams],
        changes: &[SaltChange],
        open_before: Time,
    ) -> Self {
        let column = column(request, resolved);
        let faces_per_gram = spread(&resolved.thickest().faces, grams(1.0), resolved.method.salt_on(), request.said_faces());
        let share = (resolved.basis_of(resolved.thickest().weight) / resolved.basis_weight()).value;
        // What lies on one face from later on was not there at first.
        let on_one = |id: &str| changes.iter().filter(|c| c.face == Some(id)).map(|c| c.by.in_g() * share).sum::<f64>();
        let at_first = |f: &FaceGrams| (f.salt.in_g() - on_one(f.face.id)).max(0.0);
        let all: f64 = laid.iter().map(at_first).sum();
        // Where the salt lies as laid down already, that counts; else as the method spreads it.
        let of = |id: &str| {
            let here = laid.iter().find(|f| f.face.id == id).filter(|_| all > 1e-6);
            let here = here.map(|f| at_first(f) / f.face.area.in_dm2().max(1e-9) / all);
            here.or_else(|| faces_per_gram.iter().find(|f| f.face.id == id).map(|f| f.density().0)).unwrap_or(0.0)
        };
        let per_gram = column.ends.map(of);
        let area = |id: &str| laid.iter().find(|f| f.face.id == id).map_or(0.0, |f| f.face.area.in_dm2());
        let by_face = changes.iter().any(|c| c.face.is_some());
        let own_ends = by_face.then(|| if column.ends[0] == column.ends[1] { [0.0, area(column.ends[0])] } else { column.ends.map(area) });
        let all_over = changes.iter().filter(|c| c.face.is_none()).map(|c| c.by.in_g() * share).sum::<f64>();
        let mut changes: Vec<Change> = changes
            .iter()
            .map(|c| {
                let own = |end: &str, face: &str| if end == face { 1.0 / area(face).max(1e-9) } else { 0.0 };
                let ends = c.face.map_or(per_gram, |face| column.ends.map(|end| own(end, face)));
                Change { at: c.after, g: c.by.in_g() * share, ends }
            })
            .collect();
        changes.sort_by(|a, b| a.at.in_s().total_cmp(&b.at.in_s()));
        let first = (all - all_over).max(0.0);
        // What a bed leaves behind lies in the skin from the salting on; a draw and a crust come only after the cold.
        let bed = request.cover.filter(|ask| ask.kind == CoverKind::Bed);
        let residue = resolved.cover_face().zip(bed).map_or(0.0, |(face, ask)| {
            let laid = crate::salt::cover(ask.kind, face.area, ask.depth, &resolved.salt, ask.left);
            if face.id == column.ends[0] { laid.left.in_g() / face.area.in_dm2().max(1e-9) } else { 0.0 }
        });
        let on_a_bed = bed.is_some() && column.ends[0] == "skin";
        let inside = request.solution.map_or(0.0, |label| {
            let edible = resolved.edible_of(resolved.weight);
            label.salt_inside(&request.cut, edible).in_g() / edible.in_kg().max(1e-9)
        });
        let laid_in_all = laid.iter().map(|f| f.salt.in_g()).sum::<f64>();
        let faces_per_gram =
            if laid_in_all > 1e-6 { laid.iter().map(|f| FaceGrams { salt: f.salt / laid_in_all, ..*f }).collect() } else { faces_per_gram };
        let most = per_gram[0].max(per_gram[1]);
        let beside = faces_per_gram
            .iter()
            .filter(|f| matches!(f.face.kind, FaceKind::Meat | FaceKind::Cut) && !column.ends.contains(&f.face.id))
            .map(|f| f.density().0)
            .filter(|density| *density > 1.01 * most)
            .reduce(f64::max);
        let mut course = Self {
            resolved,
            column,
            per_gram,
            faces_per_gram,
            first,
            changes,
            own_ends,
            residue,
            on_a_bed,
            inside: GramsPerKg(inside),
            open_before,
            beside,
        };
        course.believe_the_scale();
        course
    }

    /// Where more came off than the model thinks was still waiting, the rest never went in.
    fn believe_the_scale(&mut self) {
        for i in 0..self.changes.len() {
            let Change { at, g: by, .. } = self.changes[i];
            if by >= 0.0 {
                continue;
            }
            let mut travel = self.begin(FINE);
            self.pass(&mut travel, at, i, &mut |_, _| {});
            let short = -by - self.waiting_on(&travel);
            if short > 0.0 {
                self.first = (self.first - short).max(0.0);
                self.changes[i].g += short;
            }
        }
    }

    /// The column as it is salted, cut into so many cells.
    fn begin(&self, cells: f64) -> Travel {
        let [top, bottom] = self.per_gram.map(|d| d * self.first);
        let salting =
            Salting { top: GramsPerDm2(top + self.residue), bottom: GramsPerDm2(bottom), inside: self.inside, uptake: Uptake::Store };
        let cell = millimetres((self.resolved.thickness.in_mm() / cells).clamp(0.15, 90.0 / cells));
        let travel = Travel::shaped(&self.column.layers, salting, cell, self.column.metric);
        let grooves = self.resolved.grooves.iter().enumerate().filter_map(|(end, grooves)| Some((end, (*grooves)?)));
        grooves.fold(travel, |travel, (end, grooves)| travel.grooved(end, grooves))
    }

    /// What still waits dry, over the whole dish.
    pub fn waiting_in_all(&self, travel: &Travel) -> Mass {
        let share = (self.resolved.basis_of(self.resolved.thickest().weight) / self.resolved.basis_weight()).value;
        grams(self.waiting_on(travel) / share.max(1e-9))
    }

    /// Dry salt still waiting on the thickest portion after so many hours.
    pub fn waiting(&self, salted: Time) -> Mass {
        grams(self.waiting_on(&self.travel(salted)))
    }

    /// Grams still waiting on the thickest portion, over all its faces.
    fn waiting_on(&self, travel: &Travel) -> f64 {
        let [top, bottom] = travel.waiting().map(|w| w.0);
        if let Some(own) = self.own_ends {
            // The faces at neither end wait as the bottom does, or the top where nothing lies on the bottom.
            let beside = 1.0 - self.per_gram[0] * own[0] - self.per_gram[1] * own[1];
            let like = if self.per_gram[1] > 0.0 { share_of(bottom, self.per_gram[1]) } else { share_of(top, self.per_gram[0]) };
            return (top - self.residue).max(0.0) * own[0] + bottom * own[1] + beside.max(0.0) * like.min(self.first);
        }
        // Faces wait as the end they are like; all grams on faces that are not at an end wait as the bottom does.
        if self.per_gram[1] > 0.0 { share_of(bottom, self.per_gram[1]) } else { share_of((top - self.residue).max(0.0), self.per_gram[0]) }
    }

    /// Lets a column go from the salting to an hour through the first `most` changes, looking in at steps of its own.
    fn pass(&self, travel: &mut Travel, to: Time, most: usize, look: &mut dyn FnMut(Time, &Travel)) {
        let (mut now, mut shown) = (hours(0.0), FIRST_LOOK);
        let air = self.resolved.air.temperature;
        let mut go = |travel: &mut Travel, now: Time, until: Time| {
            travel.run_while(until - now, air, |passed, travel| {
                let at = now + passed;
                if at.in_h() >= shown {
                    shown = at.in_h() * (1.0 + LOOK_APART);
                    look(at, travel);
                }
                true
            });
        };
        for change in self.changes.iter().take(most).filter(|change| change.at <= to) {
            go(travel, now, change.at);
            now = change.at;
            self.change(travel, *change);
        }
        go(travel, now, to.max(now));
    }

    fn change(&self, travel: &mut Travel, change: Change) {
        let waits = self.waiting_on(travel);
        for end in 0..2 {
            if change.g > 0.0 {
                travel.lay_on(end, GramsPerDm2(change.ends[end] * change.g));
            } else {
                let share = if waits > 0.0 { (-change.g / waits).min(1.0) } else { 1.0 };
                travel.brush_off(end, GramsPerDm2(travel.waiting()[end].0 * share));
            }
        }
    }

    /// The column after so many hours of salt in this refrigerator.
    pub fn travel(&self, salted: Time) -> Travel {
        let mut travel = self.begin(FINE);
        self.pass(&mut travel, salted, usize::MAX, &mut |_, _| {});
        travel
    }

    /// Runs the column, cut more coarsely, for so many hours from the salting on, and shows it at steps of its own that lie at
    /// least `apart` of the time passed apart, until `each` has enough.
    pub fn follow(&self, most: Time, apart: f64, mut each: impl FnMut(Time, &Travel) -> bool) {
        let mut travel = self.begin(COARSE).striding();
        let mut shown = FIRST_LOOK;
        let mut go = true;
        let mut from = hours(0.0);
        let stops = self.changes.iter().map(|change| (change.at, Some(*change))).filter(|(at, _)| *at < most).chain([(most, None)]);
        for (until, change) in stops {
            travel.run_while(until - from, self.resolved.air.temperature, |passed, travel| {
                let now = from + passed;
                if now.in_h() >= shown || now >= until && change.is_none() {
                    shown = now.in_h() * (1.0 + apart);
                    go = each(now, travel);
                }
                go
            });
            if !go {
                return;
            }
            from = until;
            if let Some(change) = change {
                self.change(&mut travel, change);
            }
        }
    }

    /// What lies on and in the outer millimetres of the column's ends, and of bare lean at the bottom.
    pub(super) fn on_the_sides(&self, at: Time, travel: &Travel) -> OnTheSides {
        let kind = |id: &str| self.resolved.faces.iter().find(|f| f.id == id).map_or(FaceKind::Meat, |f| f.kind);
        let near = |end: usize, kind| travel.salt_near(end, Side::stuff_of(kind).depth(self.layer(kind))).0;
        OnTheSides { h: at.in_h(), ends: [0, 1].map(|end| near(end, kind(self.column.ends[end]))), lean: near(1, FaceKind::Meat) }
    }

    /// The column after so many hours of salt, and its sides as they dry until then.
    pub fn through(&self, salted: Time) -> (Travel, Drying) {
        let mut travel = self.begin(FINE);
        let mut seen = vec![self.on_the_sides(hours(0.0), &travel)];
        self.pass(&mut travel, salted, usize::MAX, &mut |at, travel| seen.push(self.on_the_sides(at, travel)));
        seen.push(self.on_the_sides(salted, &travel));
        (travel, self.drying(&seen))
    }

    /// The sides as they dry, with the salt seen on them.
    pub(super) fn drying(&self, seen: &[OnTheSides]) -> Drying {
        let before = self.open_before.in_h();
        let open = |id: &str| id != "under-skin";
        let sides = self.resolved.faces.iter().filter(|f| open(f.id)).map(|face| {
            let density = self.faces_per_gram.iter().find(|f| f.face.id == face.id).map_or(0.0, |f| f.density().0);
            let end = self.column.ends.iter().rposition(|id| *id == face.id);
            let on = |row: &OnTheSides| match end {
                Some(end) => row.ends[end],
                // Lean sides that are not at an end of the column are as salted, for their grams, as the bottom.
                None if self.per_gram[1] > 0.0 => row.lean * density / self.per_gram[1],
                None => density * self.first,
            };
            let mut salt: Vec<(f64, f64)> = Vec::new();
            if seen.iter().any(|row| on(row) > 1e-6) {
                if before > 0.0 {
                    salt.extend([(0.0, 0.0), (before - 1e-6, 0.0)]);
                }
                salt.extend(seen.iter().map(|row| (before + row.h, on(row))));
            }
            let on_salt = self.on_a_bed && end == Some(0);
            Side { kind: face.kind, area: face.area, layer: self.layer(face.kind), salt, on_salt }
        });
        Drying { sides: sides.collect(), lies: self.resolved.lies }
    }

    fn layer(&self, kind: FaceKind) -> crate::units::Length {
        match kind {
            FaceKind::Skin => self.resolved.skin,
            FaceKind::Fat => self.resolved.fat,
            FaceKind::Meat | FaceKind::Cut | FaceKind::Cavity => self.resolved.lean(),
        }
    }

    /// Salt and skin after so many hours of salt, having stood open for `open` in all.
    pub fn state(&self, salted: Time, open: Time) -> ColdState {
        let (travel, drying) = self.through(salted);
        let dry = drying.at(self.resolved.air, &[open]);
        self.state_with(&travel, dry[0], salted)
    }

    /// Whether any dry salt is laid on lean at all, and how much of it still waits, 0–1. What lies on skin or fat goes in only
    /// slowly, and is brushed off before the heat.
    pub(super) fn waits(&self, travel: &Travel) -> Option<f64> {
        // What was laid on later counts too; what was brushed off was laid on before.
        let lean = |end: usize| {
            let kind = self.resolved.faces.iter().find(|f| f.id == self.column.ends[end]).map_or(FaceKind::Meat, |f| f.kind);
            matches!(kind, FaceKind::Meat | FaceKind::Cut | FaceKind::Cavity)
        };
        let waiting = travel.waiting();
        let ends = [0, 1].into_iter().filter(|end| lean(*end));
        let at = |end: usize| self.per_gram[end] * self.first + self.changes.iter().map(|c| c.ends[end] * c.g.max(0.0)).sum::<f64>();
        let (laid, waits) = ends.fold((0.0, 0.0), |(l, w), end| (l + at(end), w + waiting[end].0));
        (laid > 1e-6).then(|| waits / laid)
    }

    /// When the last change was made.
    pub(super) fn last_change(&self) -> Time {
        self.changes.last().map_or(hours(0.0), |change| change.at)
    }

    /// The outer mouthful of a side that lies at neither end of the column, where that is the saltiest one.
    fn rim_beside(&self, salted: Time) -> Option<GramsPerKg> {
        let grams = self.first + self.changes.iter().map(|change| change.g).sum::<f64>();
        let load = GramsPerDm2(self.beside? * grams.max(0.0));
        let salting = Salting { top: load, bottom: GramsPerDm2(0.0), inside: self.inside, uptake: Uptake::Store };
        let layer = Layer { tissue: Tissue::Lean, thickness: millimetres(BESIDE_MM) };
        let mut travel = Travel::new(&[layer], salting, millimetres(0.5));
        travel.run(salted, self.resolved.air.temperature);
        Some(travel.profile().rim())
    }

    /// Salt through the thickness; where nothing but what a cover leaves lies on top, that is no mouthful.
    pub fn profile(&self, travel: &Travel) -> Profile {
        let profile = travel.profile();
        if self.residue > 0.0 && self.per_gram[0] <= 0.0 { profile.without_end(0) } else { profile }
    }

    /// The saltiest outer mouthful after so many hours of salt.
    pub(super) fn rim_at(&self, salted: Time) -> GramsPerKg {
        self.rim_of(&self.profile(&self.travel(salted)), salted)
    }

    fn rim_of(&self, profile: &Profile, salted: Time) -> GramsPerKg {
        let rim = profile.rim();
        self.rim_beside(salted).filter(|beside| beside.0 > rim.0).unwrap_or(rim)
    }

    /// Reads a column after so many hours of salt and a state of drying together.
    pub fn state_with(&self, travel: &Travel, dry: DryState, salted: Time) -> ColdState {
        let profile = self.profile(travel);
        let rim = self.rim_of(&profile, salted);
        ColdState {
            evenness: profile.evenness(),
            salted_depth: profile.salted_depth(),
            rim,
            middle: profile.middle(),
            slice: profile.slice(),
            dryness: dry.skin,
            lost: dry.lost,
            profile,
        }
    }
}
