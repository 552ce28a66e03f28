//! Random requests, the same ones on every run: every cut, method, portion, state and hour of the day.

use jiff::{SignedDuration, ZonedDateTime};
use rauchkeller_core::ask::{
    AirAsk, BoughtScoring, CoverAsk, Done, FinishAsk, FinishStyle, Goal, HoursFrom, MixUse, PlanRequest, Portion, SkinAsk, StageAsk,
    TaskAsk,
};
use rauchkeller_core::fire::{HeatSource, HeatWord, How, Look, Resting, StageEnd};
use rauchkeller_core::method::{Method, StepKind, methods};
use rauchkeller_core::piece::{Cut, Family};
use rauchkeller_core::plan::make_plan;
use rauchkeller_core::salt::{Basis, CoverKind, LedgerLine, PackLabel, SALTS, read_ledger_line, read_mix};
use rauchkeller_core::skin::drying::FridgePlacement;
use rauchkeller_core::skin::{CoverWork, Lattice, MeatSide};
use rauchkeller_core::units::{Dryness, GramsPerKg, RelativeHumidity, Share, celsius, grams, hours, millimetres, minutes};

/// A small generator (xorshift64*), seeded by the number of the request.
pub struct Dice(u64);

impl Dice {
    pub fn new(seed: u64) -> Self {
        let mut dice = Self(seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) | 1);
        dice.next();
        dice.next();
        dice
    }

    pub fn next(&mut self) -> u64 {
        self.0 ^= self.0 >> 12;
        self.0 ^= self.0 << 25;
        self.0 ^= self.0 >> 27;
        self.0.wrapping_mul(0x2545_f491_4f6c_dd1d)
    }

    fn unit(&mut self) -> f64 {
        (self.next() >> 11) as f64 / (1u64 << 53) as f64
    }

    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.unit()
    }

    /// One of the first so many numbers.
    pub fn below(&mut self, many: usize) -> usize {
        self.next() as usize % many
    }

    pub fn chance(&mut self, share: f64) -> bool {
        self.unit() < share
    }

    pub fn of<T: Clone>(&mut self, all: &[T]) -> T {
        all[(self.next() % all.len() as u64) as usize].clone()
    }
}

/// The request of a number.
pub fn request(seed: u64) -> PlanRequest {
    let dice = &mut Dice::new(seed);
    let cuts: Vec<Cut> = Cut::all().collect();
    let cut = dice.of(&cuts);
    let now: ZonedDateTime = "2026-03-20T00:00[Europe/Vienna]".parse().unwrap();
    // Any hour of any day of half a year: both changes of the clock are among them.
    let now = now.checked_add(SignedDuration::from_mins(dice.between(0.0, 250.0 * 1440.0) as i64)).unwrap();
    let weight = dice.between(cut.typical_g.0 * 0.8, cut.typical_g.1 * 1.1);
    let mut request = PlanRequest::new(cut, grams(weight), now.clone());
    // Now and then thinner than the cut is known to be.
    let thick = |dice: &mut Dice| {
        let least = cut.thickness_mm.0 * if dice.chance(0.06) { 0.35 } else { 1.0 };
        millimetres(dice.between(least.max(9.0), cut.thickness_mm.2))
    };
    if dice.chance(0.5) {
        request.thickness = Some(thick(dice));
    }
    if dice.chance(0.25) && !cut.is_bird() {
        let several = 2 + dice.next() % 3;
        request.portions = (0..several)
            .map(|_| Portion {
                weight: grams(dice.between(cut.typical_g.0 * 0.8, cut.typical_g.1)),
                thickness: dice.chance(0.6).then(|| thick(dice)),
                dose: dice.chance(0.2).then(|| GramsPerKg(dice.between(5.0, 14.0))),
            })
            .collect();
    } else if dice.chance(0.15) && matches!(cut.family, Family::SkinSlab | Family::CapSlab) {
        // Uneven: thinner at one end, and measured there.
        let most = thick(dice);
        request.thickness = Some(most);
        request.thin = Some(most * dice.between(0.6, 0.95));
    }
    piece_as_bought(dice, &mut request);
    salting(dice, &mut request);
    knife(dice, &mut request);
    rest(dice, &mut request);
    what_is_done(dice, &mut request);
    heat(dice, &mut request);
    tasks(dice, &mut request);
    request
}

fn piece_as_bought(dice: &mut Dice, request: &mut PlanRequest) {
    let today = request.now.date();
    match dice.next() % 4 {
        0 => {}
        1 => request.bought_on = Some(today),
        2 => request.bought_on = today.checked_sub(jiff::ToSpan::days((dice.next() % 3).cast_signed())).ok(),
        _ => request.use_by = today.checked_add(jiff::ToSpan::days(1 + (dice.next() % 6).cast_signed())).ok(),
    }
    request.frozen = dice.chance(0.12);
    request.solution = dice.chance(0.1).then(|| PackLabel::Sodium(dice.between(80.0, 300.0)));
    request.bone = dice.chance(0.1).then(|| Share(dice.between(0.0, 0.3)));
    request.scored = (request.cut.skin_mm > 0.0 && dice.chance(0.06)).then(|| dice.of(&[BoughtScoring::IntoFat, BoughtScoring::IntoLean]));
    if dice.chance(0.1) {
        request.kitchen.fridge.temperature = celsius(dice.of(&[1.0, 3.0, 4.4, 40.0 / 9.0, 4.6, 7.0]));
    }
    if dice.chance(0.2) {
        request.kitchen.fridge.humidity = RelativeHumidity(dice.between(0.3, 0.9));
    }
}

fn salting(dice: &mut Dice, request: &mut PlanRequest) {
    let cut = request.cut;
    if dice.chance(0.6) {
        let fit: Vec<Method> = methods().iter().filter(|m| m.fits(cut)).cloned().collect();
        request.method = (!fit.is_empty()).then(|| dice.of(&fit));
    }
    if dice.chance(0.4) {
        let blend = rauchkeller_core::salt::Salt::own("low-sodium jar", 4.6, 0.5, 0.5, None, None).unwrap();
        request.salt = Some(if dice.chance(0.1) { blend } else { dice.of(SALTS.as_slice()) });
    }
    if dice.chance(0.4) {
        request.dose = Some(GramsPerKg(dice.between(4.0, 21.0)));
    }
    request.basis = dice.chance(0.2).then_some(Basis::Whole);
    if dice.chance(0.15) {
        let line = dice.of(&["2 tbsp soy sauce", "1 tbsp fish sauce", "30 g rub 22% salt", "1 tsp mustard", "400 g soy sauce bath 6 h"]);
        if let Ok(LedgerLine::Entry(entry)) = read_ledger_line(line) {
            request.ledger.push(entry);
        }
    }
    if dice.chance(0.08) {
        let mix = read_mix("house rub", "30 g salt\n70 g sugar\nfor 4 kg", &[]).unwrap();
        request.mix = Some(MixUse { mix, asked: dice.chance(0.5).then(|| grams(dice.between(5.0, 30.0))), bath: None });
    }
    if dice.chance(0.08) && (cut.skin_mm > 0.0 || cut.fat_mm > 0.0) {
        request.cover = Some(CoverAsk { kind: dice.of(&CoverKind::ALL), depth: None, left: None });
    }
    if dice.chance(0.1) {
        let plain = make_plan(&PlanRequest::new(cut, request.portions[0].weight, request.now.clone()));
        let ids: Vec<String> = plain.map(|p| p.resolved.faces.iter().map(|f| f.id.to_owned()).collect()).unwrap_or_default();
        request.faces = (!ids.is_empty()).then(|| vec![dice.of(&ids)]);
    }
}

fn knife(dice: &mut Dice, request: &mut PlanRequest) {
    if dice.chance(0.15) && request.cut.skin_mm > 0.0 {
        let per_cm2 = dice.between(2.0, 10.0);
        let cover = dice.of(&[CoverWork::Whole, CoverWork::Pierce { lattice: Lattice::Square, per_cm2 }]);
        let depth = dice.chance(0.3).then(|| millimetres(dice.between(2.0, 20.0)));
        request.skin_work = Some(SkinAsk { cover: Some(cover), depth, ..SkinAsk::default() });
    } else if dice.chance(0.05) && request.cut.family == Family::SkinSlab {
        let meat = MeatSide::Grooves { spacing: millimetres(30.0), depth: millimetres(6.0) };
        request.skin_work = Some(SkinAsk { meat: Some(meat), ..SkinAsk::default() });
    }
}

fn rest(dice: &mut Dice, request: &mut PlanRequest) {
    if dice.chance(0.3) {
        request.hours = Some(hours(dice.between(1.0, 60.0)));
    }
    if dice.chance(0.3) {
        let from_now = SignedDuration::from_mins(dice.between(5.0 * 60.0, 110.0 * 60.0) as i64);
        request.serve_at = request.now.checked_add(from_now).ok();
    }
    request.lies = dice.chance(0.2).then(|| dice.of(&FridgePlacement::ALL));
    if dice.chance(0.2) {
        request.hours_from = HoursFrom::Model;
    }
    if dice.chance(0.1) && request.cut.skin_mm > 0.0 {
        request.goal = Some(Goal::Dryness(Dryness(dice.between(0.5, 0.95))));
    }
    if dice.chance(0.15) {
        request.servings = Some(1 + (dice.next() % 12) as u32);
    }
    if dice.chance(0.1) {
        request.kitchen.quiet = None;
    }
}

/// Heat of the cook's own, for three in ten.
fn heat(dice: &mut Dice, request: &mut PlanRequest) {
    if !dice.chance(0.3) {
        return;
    }
    let fire = &mut request.fire;
    fire.with = dice.chance(0.5).then(|| dice.of(&HeatSource::ALL));
    fire.temper = dice.chance(0.2).then(|| minutes(dice.between(0.0, 90.0).round()));
    fire.rest = dice.chance(0.2).then(|| minutes(dice.between(0.0, 40.0).round()));
    fire.resting = dice.chance(0.3).then(|| dice.of(&[Resting::Open, Resting::Tented]));
    fire.hold = dice.chance(0.1).then(|| (hours(dice.of(&[0.0, 1.0])), hours(2.0)));
    let end = |dice: &mut Dice, last: bool| match dice.next() % 4 {
        _ if last && dice.chance(0.6) => StageEnd::Finish,
        0 => StageEnd::Look(dice.of(&[Look::Hollow, Look::Browned])),
        1 => StageEnd::Core(celsius(dice.between(35.0, 60.0).round())),
        _ => StageEnd::After(minutes(dice.between(5.0, 70.0).round())),
    };
    let stages = 1 + dice.next() % 3;
    fire.stages = dice.chance(0.7).then(|| {
        (0..stages)
            .map(|i| {
                let (how, until) = (dice.of(&How::ALL), end(dice, i + 1 == stages));
                let air = if dice.chance(0.2) {
                    AirAsk::Word(dice.of(&[HeatWord::Medium, HeatWord::High]))
                } else {
                    AirAsk::At(celsius(dice.between(110.0, 190.0).round()))
                };
                let flip = (how == How::Direct && dice.chance(0.5)).then(|| minutes(dice.of(&[1.0, 3.0, 5.0])));
                StageAsk { with: None, air, how, until, flip }
            })
            .collect()
    });
    if dice.chance(0.2) {
        fire.finish = Some(FinishAsk::Style(dice.of(&FinishStyle::ALL)));
    }
}

/// Tasks of the cook's own, for two in ten.
fn tasks(dice: &mut Dice, request: &mut PlanRequest) {
    if !dice.chance(0.2) {
        return;
    }
    let ask = |task: &str, takes, leave_out, at| TaskAsk { task: task.to_owned(), takes, leave_out, at, hung: None, named: None };
    let mut asked = vec![ask(dice.of(&["glaze", "baste", "look", "scrape", "slice-test", "pull-apart"]), None, false, None)];
    if dice.chance(0.5) {
        asked.push(ask("carve", Some(minutes(dice.between(0.0, 20.0).round())), false, None));
    }
    if dice.chance(0.3) {
        asked.push(ask("dry", Some(minutes(dice.between(0.0, 15.0).round())), false, None));
    }
    if dice.chance(0.3) && request.fire.temper.is_none() {
        asked.push(ask("temper", None, true, None));
    }
    if dice.chance(0.3) {
        asked.push(ask("lay-out", None, true, None));
    }
    if dice.chance(0.4) {
        asked.push(ask("turn", None, false, Some(hours(dice.between(0.0, 3.0).round()))));
    }
    request.tasks = asked;
}

fn what_is_done(dice: &mut Dice, request: &mut PlanRequest) {
    if request.frozen || !dice.chance(0.15) {
        return;
    }
    let ago = SignedDuration::from_mins(dice.between(10.0, 40.0 * 60.0) as i64);
    let salted = request.now.timestamp() - ago;
    request.done.push(Done {
        kind: StepKind::Salt,
        task: None,
        at: salted,
        salt: dice.chance(0.5).then(|| grams(dice.between(3.0, 20.0))),
    });
    if dice.chance(0.7) {
        request.done.push(Done { kind: StepKind::Chill, task: None, at: salted + ago / 8, salt: None });
    }
}
