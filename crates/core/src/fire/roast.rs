//! The heat of a plan: stages, minutes with their band, pull and carry-over.

use super::carry::CarryBand;
use super::conduction::{Body, Oven};
use super::stage::{Cooking, FireStage, Resting, StageEnd};
use super::targets::FinishTarget;
use crate::units::{IntervalIn, Length, Temperature, TemperatureIn, TemperatureInterval, Time, TimeIn, hours, kelvin, minutes};

/// What the fire gives.
#[derive(Debug, Clone, PartialEq)]
pub struct FireAnswer {
    /// Length of each stage, in order.
    pub stages: Vec<Time>,
    /// The same to the second: the clock goes by whole minutes, up, what happens in the meat does not.
    pub runs: Vec<Time>,
    /// Core at the end of each.
    pub cores: Vec<Temperature>,
    /// Core at the end of the stage that waits for the finish; where none does, of the last.
    pub core_at_stage_end: Temperature,
    /// Core when it leaves the heat.
    pub pull: Temperature,
    /// How far it still climbs, as far as that is counted on.
    pub carry_over: TemperatureInterval,
    /// Between what and what it may climb.
    pub band: (TemperatureInterval, TemperatureInterval),
    /// How many times as much it loses on the board as in still air.
    pub draught: f64,
    /// Where the core ends, climb included.
    pub ends: Temperature,
    /// By how much even the low end of its climb takes it past its finish, where no length of the stages meets that.
    pub overshoots: Option<TemperatureInterval>,
    /// By how much it ends below its finish, where no stage waits for that.
    pub short_by: Option<TemperatureInterval>,
    /// Where minutes end it: what the core comes to in the heat if that goes in a third slower than reckoned, the model's own band;
    /// `None` where a probe or a fork says when it is over.
    pub slow: Option<Temperature>,
    /// The first stage that is over before it begins: its core has been passed by then.
    pub passed: Option<usize>,
    /// The stage that never comes to its end: a core its heat cannot reach.
    pub stuck: Option<usize>,
    /// All stages together.
    pub takes: Time,
    /// The band: model and trade agree within about a third.
    pub low: Time,
    /// Upper end of the band.
    pub high: Time,
}

/// What is asked of the heat.
#[derive(Debug, Clone, Copy)]
pub struct FireAsk<'a> {
    /// The piece as it meets the heat.
    pub body: Body,
    /// The stages of its method.
    pub stages: &'a [FireStage],
    /// Rest after them.
    pub rest: Time,
    /// How it rests.
    pub resting: Resting,
    /// Where it is to end.
    pub target: &'a FinishTarget,
    /// The climb that is counted on.
    pub band: CarryBand,
    /// Minutes at 90 °C in the middle until a fork meets no resistance.
    pub fork: Time,
    /// Skin, and the fat under it, where there is skin to sound hollow.
    pub skin: Option<(Length, Length)>,
}

/// What comes after the led stage adds less than this to the core, K: further below, nothing need be tried.
const MOST_TO_COME: f64 = 35.0;
/// Minutes between the points at which the core-led stage is tried.
const MILESTONE: f64 = 20.0;
/// The outcome rises by at most so many times what the core rises, as far as passing over tries goes.
const LEADS: f64 = 1.2;
/// Shares of a fierce stage's usual length that a thin piece is given, the longest first that does not overshoot.
const FIERCE: [f64; 5] = [1.0, 0.75, 0.55, 0.4, 0.3];
/// So near, from above, the length of a stage is found, K.
const ENOUGH: f64 = 0.1;
/// Past the finish by more than this is said, K.
const MISSED: f64 = 1.0;

/// Finds the length of the stage that waits for the finish, such that the core ends, after the remaining stages and the rest, at the
/// target; where none waits, all run as they were said and the answer says where the core ends.
///
/// A finish at or above the authority's is met even where the climb is no more than the low end of its band. Where a fierce stage
/// of the method alone would carry a thin piece past its finish it is made shorter (typed minutes never are), and what cannot be
/// met is said. Forward in milestones of 20 minutes, then false position: about eight short roasts.
pub fn fire_plan(ask: &FireAsk) -> FireAnswer {
    let (led, mut tried) = found(ask);
    // A stage that waits for a core ends at that core, and not at the next step of the reckoning.
    for ((stage, time), core) in ask.stages.iter().zip(&tried.stages).zip(&mut tried.cores) {
        if let StageEnd::Core(at) = stage.until
            && time.in_min() > 0.0
            && tried.stuck.is_none()
        {
            *core = at;
        }
    }
    if let (Some(FireStage { until: StageEnd::Core(_), .. }), Some(core)) = (ask.stages.last(), tried.cores.last()) {
        tried.end.pull = *core;
    }
    let over = |(stage, time): (&FireStage, &Time)| matches!(stage.until, StageEnd::Core(_)) && time.in_min() <= 0.0;
    let passed = ask.stages.iter().zip(&tried.stages).position(over).filter(|_| tried.stuck.is_none());
    let takes: Time = tried.stages.iter().copied().fold(minutes(0.0), |sum, t| sum + t);
    // Minutes that were said are sure.
    let said = |stage: &FireStage| stage.own && matches!(stage.until, StageEnd::After(_));
    let unsure: f64 = ask.stages.iter().zip(&tried.stages).filter(|(stage, _)| !said(stage)).map(|(_, time)| time.in_min()).sum();
    // More than the low end of the climb is not counted against it: what is planned so that the low end still reaches the
    // authority's least may end higher, and does so on purpose.
    let over = tried.end.pull.in_c() + tried.end.low - ask.target.finish.in_c();
    let overshoots = (over > MISSED).then(|| kelvin(over));
    let (draught, climbed) = draught(ask, &tried.after);
    // Where even that leaves it climbing further, so it is said.
    let high = tried.end.high.max(climbed);
    let short = ask.target.finish.in_c() - (tried.end.pull.in_c() + climbed);
    let short_by = (led.is_none() && short > MISSED).then(|| kelvin(short));
    // Met, it is pulled by just what is counted on before its finish.
    // The length is found to a tenth of a degree; more than the band is never counted on.
    let to_finish = (ask.target.finish.in_c() - tried.end.pull.in_c()).clamp(0.0, tried.end.high);
    let missed = overshoots.is_some() || led.is_none();
    let climbs = if !missed && (to_finish - climbed).abs() <= ENOUGH { to_finish } else { climbed };
    FireAnswer {
        core_at_stage_end: led.and_then(|led| tried.cores.get(led).copied()).unwrap_or(tried.end.pull),
        pull: tried.end.pull,
        carry_over: kelvin(climbs),
        ends: tried.end.pull + kelvin(climbs),
        band: (kelvin(tried.end.low.min(climbs)), kelvin(high)),
        draught,
        overshoots,
        short_by,
        slow: ends_by_minutes(ask.stages).then(|| a_third_slower(ask, &tried.stages)),
        passed,
        stuck: tried.stuck,
        takes,
        low: minutes((takes.in_min() - 0.25 * unsure).round()),
        high: minutes((takes.in_min() + 0.33 * unsure).round()),
        stages: tried.stages,
        runs: tried.runs,
        cores: tried.cores,
    }
}

/// Only how long it takes: without its climb, which costs as much again.
pub fn fire_takes(ask: &FireAsk) -> Time {
    found(ask).1.stages.iter().copied().fold(minutes(0.0), |sum, t| sum + t)
}

/// The stage that waits for the finish, and the try that meets it best.
fn found(ask: &FireAsk) -> (Option<usize>, Try) {
    let led = ask.stages.iter().position(|stage| stage.until == StageEnd::Finish);
    let mut tried = try_with(ask, led, FIERCE[0], None);
    // A method's stages that all go by minutes and by looks end where they end.
    let fixed = led.is_none() && ask.stages.iter().any(|stage| !stage.own);
    for share in &FIERCE[1..] {
        if tried.past <= 0.25 || fixed {
            break;
        }
        // With less to come the led stage is no shorter: it goes on from where it was.
        tried = try_with(ask, led, *share, Some(tried.start));
    }
    (led, tried)
}

impl FireAsk<'_> {
    fn cooking(&self) -> Cooking {
        let mut cooking = Cooking::new(self.body, self.stages);
        (cooking.fork, cooking.skin) = (self.fork, self.skin);
        cooking
    }
}

impl FireAnswer {
    /// Whether minutes end it, and no probe and no fork.
    pub fn by_minutes(&self) -> bool {
        self.slow.is_some()
    }
}

/// Whether minutes end the heat: its last stage goes by a clock or an eye, and none before was made as long as the finish asks.
fn ends_by_minutes(stages: &[FireStage]) -> bool {
    let last = stages.last().is_some_and(|stage| !stage.until.is_probed());
    last && !stages.iter().any(|stage| stage.until == StageEnd::Finish)
}

/// Where the core would be if the heat went in a third slower: what comes after the last stage that was probed has done three quarters
/// of its minutes.
fn a_third_slower(ask: &FireAsk, lengths: &[Time]) -> Temperature {
    let probed = ask.stages.iter().rposition(|stage| stage.until.is_probed()).map_or(0, |at| at + 1);
    let mut cooking = ask.cooking();
    for (i, (stage, time)) in ask.stages.iter().zip(lengths).enumerate() {
        cooking.pass(stage, if i < probed { *time } else { *time / SLOWER }, |_, _, _| false);
    }
    cooking.roast.core()
}

/// The model is within about a third of what cooks see: so much longer the heat may take.
const SLOWER: f64 = 1.33;

/// Core temperatures of one try.
#[derive(Debug, Clone, Copy)]
struct End {
    pull: Temperature,
    /// The climb counted on, and its band, K.
    counted: f64,
    low: f64,
    high: f64,
}

impl End {
    /// How far past the target it ends, K; below zero it falls short.
    fn past(&self, target: &FinishTarget) -> f64 {
        let reached = self.pull.in_c() + self.counted - target.finish.in_c();
        // Nobody is asked to trust the climb for the authority's own temperature beyond its low end.
        let safe = self.pull.in_c() + self.low - target.authority.in_c();
        if target.wanted_below() { reached } else { reached.min(safe) }
    }
}

/// Stages passed, each with its length and the core at its end, up to one that never ends.
#[derive(Default, Clone)]
struct Passed {
    stages: Vec<Time>,
    cores: Vec<Temperature>,
    stuck: Option<usize>,
}

impl Passed {
    fn go(&mut self, cooking: &mut Cooking, stages: &[FireStage], share: f64) {
        for stage in stages {
            let index = self.stages.len();
            let time = cooking.through(stage, share).unwrap_or_else(|| {
                self.stuck.get_or_insert(index);
                minutes(0.0)
            });
            self.stages.push(time);
            self.cores.push(cooking.roast.core());
        }
    }
}

/// A try: what came of it, and where the led stage may go on from.
struct Try {
    stages: Vec<Time>,
    runs: Vec<Time>,
    cores: Vec<Temperature>,
    stuck: Option<usize>,
    start: Start,
    end: End,
    past: f64,
    /// The piece as it comes out of the heat.
    after: Cooking,
}

/// Minutes of the led stage, and the piece as it stands then, at or before its end; what came before it.
#[derive(Clone)]
struct Start {
    base: f64,
    cooking: Cooking,
    before: Passed,
}

fn try_with(ask: &FireAsk, led: Option<usize>, share: f64, from: Option<Start>) -> Try {
    let (first, after) = match led {
        Some(led) => (&ask.stages[..led], &ask.stages[led + 1..]),
        None => (ask.stages, &[][..]),
    };
    let start = from.unwrap_or_else(|| {
        let (mut cooking, mut before) = (ask.cooking(), Passed::default());
        before.go(&mut cooking, first, FIERCE[0]);
        Start { base: 0.0, cooking, before }
    });
    let Some(led) = led else {
        // Nothing waits: what is only usual may still be cut.
        let (mut cooking, mut all) = (ask.cooking(), Passed::default());
        all.go(&mut cooking, ask.stages, share);
        let end = rested(ask, &cooking);
        let runs = all.stages.clone();
        return Try {
            stages: whole(ask.stages, &all.stages),
            runs,
            cores: all.cores,
            stuck: all.stuck,
            past: end.past(ask.target),
            end,
            start,
            after: cooking,
        };
    };
    let stage = &ask.stages[led];
    let outcome = |from: &Cooking, led_for: f64| {
        let (mut cooking, mut later) = (from.clone(), Passed::default());
        cooking.pass(stage, minutes(led_for), |_, _, _| false);
        let stage_end = cooking.roast.core();
        later.go(&mut cooking, after, share);
        (stage_end, later, rested(ask, &cooking), cooking)
    };
    let past = |from: &Cooking, led_for: f64| outcome(from, led_for).2.past(ask.target);
    let Start { base, cooking, before } = start;
    let (base, cooking, led_for, met) = led_length((base, cooking), led > 0, (stage, ask.target.finish), past);
    let (stage_end, later, end, after) = outcome(&cooking, led_for);
    let lengths = [&before.stages[..], &[minutes(base + led_for)], &later.stages].concat();
    let cores = [&before.cores[..], &[stage_end], &later.cores].concat();
    let stuck = before.stuck.or((!met).then_some(led)).or(later.stuck.map(|i| led + 1 + i));
    Try {
        stages: whole(ask.stages, &lengths),
        runs: lengths,
        cores,
        stuck,
        past: end.past(ask.target),
        end,
        start: Start { base, cooking, before },
        after,
    }
}

/// The clock goes by whole minutes, up: the core is what ends a stage. What the cook typed stays as it was typed.
fn whole(stages: &[FireStage], lengths: &[Time]) -> Vec<Time> {
    let typed = |stage: &FireStage| stage.own && matches!(stage.until, StageEnd::After(_));
    let up = |(stage, time): (&FireStage, &Time)| if typed(stage) { *time } else { minutes((time.in_min() - 1e-6).ceil()) };
    stages.iter().zip(lengths).map(up).collect()
}

/// How it climbs through the rest: no further than the trade sees, which the draught over the board makes sure of.
fn rested(ask: &FireAsk, cooking: &Cooking) -> End {
    let pull = cooking.roast.core();
    let most = ask.band.high.in_kelvin();
    let counted = climbs_by(cooking, ask, ask.resting.around()).min(most);
    End { pull, counted, low: counted.min(ask.band.low.in_kelvin()), high: most }
}

/// By how much the core climbs in such air until it falls, K.
fn climbs_by(cooking: &Cooking, ask: &FireAsk, air: Oven) -> f64 {
    let mut roast = cooking.roast.clone();
    let pull = roast.core().in_c();
    let mut peak = pull;
    // Only the peak matters: once the core falls, the rest of the rest cannot raise it.
    roast.run(air, ask.rest, |_, core| {
        let climbing = core.in_c() >= peak - 1e-6;
        peak = peak.max(core.in_c());
        climbing
    });
    peak - pull
}

/// How many times as much a resting piece loses as on a still board, so that its core climbs no further than the trade sees: nobody has
/// measured the draught over a board, many have read the probe. 1 where the still board does; then the climb that is left of it.
fn draught(ask: &FireAsk, cooking: &Cooking) -> (f64, f64) {
    let climb = |times: f64| climbs_by(cooking, ask, ask.resting.around().in_a_draught(times));
    let most = ask.band.high.in_kelvin();
    let still = climb(1.0);
    if still <= most {
        return (1.0, still);
    }
    // The climb falls as the draught grows.
    let (mut low, mut high) = (1.0f64, STRONGEST);
    let mut climbed = climb(high);
    // Only from above: what is taken is never beyond the band.
    for _ in 0..10 {
        if climbed > most || most - climbed < CLIMB_NEAR {
            break;
        }
        let mid = (low * high).sqrt();
        let at = climb(mid);
        if at > most { low = mid } else { (high, climbed) = (mid, at) }
    }
    (high, climbed)
}

/// Minutes at which a stage that begins cooler than what came before is tried first.
const EARLY: [f64; 3] = [2.5, 5.0, 10.0];

/// So near the band's end the draught is found, K.
const CLIMB_NEAR: f64 = 0.05;

/// More is never lost than so many times a still board's loss; where that leaves a climb beyond the band, the band goes so far.
const STRONGEST: f64 = 20.0;

/// The length of the led stage after which `past`, how far past the finish it all ends, is nothing: a milestone, the piece as it
/// stands there, the minutes from there, and whether there is such a length within twenty hours.
fn led_length(
    start: (f64, Cooking),
    after_another: bool,
    (stage, finish): (&FireStage, Temperature),
    past: impl Fn(&Cooking, f64) -> f64,
) -> (f64, Cooking, f64, bool) {
    // Walk forward until the outcome passes the finish. While the core has risen by less than the outcome was short of it the
    // last time, nothing need be tried.
    let began = start.0;
    let (mut base, mut from) = start;
    let (mut at, mut cooking) = (base, from.clone());
    let (mut fa, mut fb) = (None, None);
    let core = |cooking: &Cooking| cooking.roast.core().in_c();
    while at < hours(20.0).in_min() && fb.is_none() {
        cooking.pass(stage, minutes(MILESTONE), |_, _, _| false);
        at += MILESTONE;
        let short_of = fa.map_or(MOST_TO_COME - (finish.in_c() - core(&from)), |f: f64| f);
        if short_of + (core(&cooking) - core(&from)) * LEADS < 0.0 {
            continue;
        }
        match past(&cooking, 0.0) {
            f if f >= 0.0 => fb = Some(f),
            f => (base, from, fa) = (at, cooking.clone(), Some(f)),
        }
    }
    // The peak grows smoothly with the length: false position (Illinois) is there in a few tries.
    let (mut a, mut b) = (0.0, at - base);
    let (mut fa, mut fb) = (fa.unwrap_or_else(|| past(&from, a)), fb.unwrap_or_else(|| past(&from, b)));
    let met = fb >= -MISSED || fa >= -MISSED;
    // What comes out of a hotter stage first cools at its surface, and climbs less for a while: of several lengths the shortest is meant.
    if after_another && base == began && fa < 0.0 && fb > 0.0 {
        for early in EARLY.into_iter().filter(|early| *early < b) {
            match past(&from, early) {
                f if f >= 0.0 => {
                    (b, fb) = (early, f);
                    break;
                }
                f => (a, fa) = (early, f),
            }
        }
    }
    if fa >= 0.0 || fb <= ENOUGH {
        return (base, from, if fa >= 0.0 { 0.0 } else { b }, met);
    }
    // From above: what has to be reached is reached, by no more than a tenth of a degree. The middle of that is aimed at.
    (fa, fb) = (fa - ENOUGH / 2.0, fb - ENOUGH / 2.0);
    for _ in 0..12 {
        if b - a < 0.02 {
            break;
        }
        let tried = a + (b - a) * fa / (fa - fb);
        let f = past(&from, tried) - ENOUGH / 2.0;
        if f.abs() <= ENOUGH / 2.0 {
            b = tried;
            break;
        }
        if f < 0.0 {
            (a, fa) = (tried, f);
            fb *= 0.5;
        } else {
            (b, fb) = (tried, f);
            fa *= 0.5;
        }
    }
    (base, from, b, met)
}
