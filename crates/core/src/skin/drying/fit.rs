//! One drying coefficient from weighings: what this refrigerator's air really takes.
//!
//! From weighings alone only h·(a_w − RH) can be known; with the humidity typed or read by a sensor it is h, else it is
//! the h that the assumed humidity needs, good for forecasts in the same refrigerator and for nothing else.

use crate::units::{HeatTransfer, Mass, MassIn, Time, grams};

/// What a cook answered when asked about a weighing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Answer {
    /// It is right as it is.
    Right,
    /// The tray was not on the scale.
    TrayMissing,
    /// The tray was counted though it should not have been, or twice.
    TrayTwice,
    /// Drip was poured off before it.
    DripPoured,
    /// It was turned, covered or moved since the last weighing.
    Changed,
    /// Leave it out.
    Forget,
}

impl Answer {
    /// All answers.
    pub const ALL: [Self; 6] = [Self::Right, Self::TrayMissing, Self::TrayTwice, Self::DripPoured, Self::Changed, Self::Forget];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Right => "right",
            Self::TrayMissing => "tray-missing",
            Self::TrayTwice => "tray-twice",
            Self::DripPoured => "drip-poured",
            Self::Changed => "changed",
            Self::Forget => "forget",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|answer| answer.id() == id)
    }
}

/// One weighing of piece, rack and tray together.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Weighing {
    /// Since the piece stood in the open.
    pub at: Time,
    /// What the scale showed.
    pub gross: Mass,
    /// The empty tray and rack; nothing where the piece hung or lay alone.
    pub tare: Mass,
    /// Standard deviation of the scale.
    pub fineness: Mass,
    /// What the cook answered, if anything was asked.
    pub answer: Option<Answer>,
    /// Asked about and not answered yet: it does not count.
    pub open: bool,
}

/// A weighing ready for the fit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WeighedPoint {
    /// Since the piece stood in the open.
    pub at: Time,
    /// The piece alone, g.
    pub net_g: f64,
    /// Standard deviation, g.
    pub sigma_g: f64,
    /// Weighings between which nothing but evaporation took weight.
    pub stretch: usize,
}

/// Takes the trays off, starts a new stretch where drip was poured off or the piece changed its place, and leaves out
/// what does not count.
pub fn weighed_points(weighings: &[Weighing]) -> Vec<WeighedPoint> {
    let mut stretch = 0;
    let counted = weighings.iter().filter(|w| !w.open && w.answer != Some(Answer::Forget));
    counted
        .map(|w| {
            let tare = match w.answer {
                Some(Answer::TrayMissing) => 0.0,
                Some(Answer::TrayTwice) => 2.0 * w.tare.in_g(),
                _ => w.tare.in_g(),
            };
            stretch += usize::from(matches!(w.answer, Some(Answer::DripPoured | Answer::Changed)));
            WeighedPoint { at: w.at, net_g: w.gross.in_g() - tare, sigma_g: w.fineness.in_g().max(0.1), stretch }
        })
        .collect()
}

/// Grams lost after each of some times, under a coefficient.
pub type Lost<'a> = dyn Fn(HeatTransfer, &[Time]) -> Vec<f64> + 'a;

/// The weighings of one piece, with what its sides would lose.
pub struct Series<'a> {
    /// Grams lost by the model.
    pub lost: &'a Lost<'a>,
    /// Its weighings, in order.
    pub points: Vec<WeighedPoint>,
}

/// What the weighings say.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fit {
    /// The coefficient.
    pub h: HeatTransfer,
    /// Standard deviation of its logarithm: 0.1 is about ten per cent.
    pub spread: f64,
    /// Weighings that counted.
    pub points: usize,
}

/// Before anything is weighed: h is a factor of two either way (our estimate).
const PRIOR_SPREAD: f64 = 0.7;

/// However well it was weighed, a piece is no slab of even skin: six per cent (our estimate).
const MODEL_SPREAD: f64 = 0.06;

impl Fit {
    /// What is believed before anything was weighed.
    pub fn unweighed(usual: HeatTransfer) -> Self {
        Self { h: usual, spread: PRIOR_SPREAD, points: 0 }
    }

    /// The coefficient so many standard deviations away, the model's own error among them.
    pub fn away(&self, deviations: f64) -> HeatTransfer {
        HeatTransfer(self.h.0 * (self.spread.hypot(MODEL_SPREAD) * deviations).exp())
    }
}

/// Residuals and their slope in ln h, with the unknown start of each stretch taken out by its weighted mean.
fn residuals(series: &Series, h: HeatTransfer) -> Vec<(f64, f64, f64)> {
    const NUDGE: f64 = 1e-3;
    let moments: Vec<Time> = series.points.iter().map(|p| p.at).collect();
    let lost = (series.lost)(h, &moments);
    let nudged = (series.lost)(HeatTransfer(h.0 * NUDGE.exp()), &moments);
    let mut all = Vec::new();
    for stretch in series.points.iter().map(|p| p.stretch).max().map_or(0..0, |most| 0..most + 1) {
        let of: Vec<usize> = (0..moments.len()).filter(|i| series.points[*i].stretch == stretch).collect();
        let weight = |i: &usize| series.points[*i].sigma_g.powi(-2);
        let sum: f64 = of.iter().map(weight).sum();
        let mean = |value: &dyn Fn(usize) -> f64| of.iter().map(|i| weight(i) * value(*i)).sum::<f64>() / sum;
        let start = mean(&|i| series.points[i].net_g + lost[i]);
        let slope = |i: usize| (nudged[i] - lost[i]) / NUDGE;
        let mean_slope = mean(&slope);
        all.extend(of.iter().map(|i| (series.points[*i].net_g + lost[*i] - start, slope(*i) - mean_slope, weight(i))));
    }
    all
}

/// Fits one coefficient to all pieces by weighted least squares in ln h, the piece's weight at the start of each stretch
/// unknown; `usual` is what is believed beforehand, with a spread of a factor of two (our estimate). Gauss and Newton's rule.
///
/// Cost: about eight times what the model of all pieces costs.
pub fn fit(series: &[Series], usual: HeatTransfer) -> Fit {
    let points: usize = series.iter().map(|s| s.points.len()).sum();
    let mut theta = usual.0.max(0.01).ln();
    let start = theta;
    let prior = PRIOR_SPREAD.powi(-2);
    let (mut spread, mut misfit) = (PRIOR_SPREAD, 0.0);
    for _ in 0..20 {
        let all: Vec<_> = series.iter().flat_map(|s| residuals(s, HeatTransfer(theta.exp()))).collect();
        let gradient: f64 = all.iter().map(|(r, j, w)| w * r * j).sum::<f64>() + prior * (theta - start);
        let curvature: f64 = all.iter().map(|(_, j, w)| w * j * j).sum::<f64>() + prior;
        misfit = all.iter().map(|(r, _, w)| w * r * r).sum::<f64>();
        spread = curvature.powf(-0.5);
        let step = (-gradient / curvature).clamp(-0.7, 0.7);
        theta = (theta + step).clamp(0.05f64.ln(), 60f64.ln());
        if step.abs() < 1e-4 {
            break;
        }
    }
    // Where the model meets the points worse than the scale would, the band says so.
    let stretches: usize = series.iter().map(|s| s.points.iter().map(|p| p.stretch).max().map_or(0, |most| most + 1)).sum();
    let free = points.saturating_sub(stretches + 1);
    let worse = if free > 0 { (misfit / free as f64).sqrt().max(1.0) } else { 1.0 };
    Fit { h: HeatTransfer(theta.exp()), spread: (spread * worse).min(PRIOR_SPREAD), points }
}

/// What may be wrong with a weighing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum DoubtKind {
    /// It is short of just what the tray weighs.
    TrayMissing,
    /// It is over by just what the tray weighs.
    TrayTwice,
    /// More is gone than any air takes.
    DripPoured,
    /// It dried faster than before, by more than the scale can err.
    Faster,
    /// It dried slower than before: turned, covered, moved.
    Slower,
    /// It gained weight.
    Gained,
    /// It is far from what the piece was said to weigh.
    OtherPiece,
}

impl DoubtKind {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::TrayMissing => "tray-missing",
            Self::TrayTwice => "tray-twice",
            Self::DripPoured => "drip-poured",
            Self::Faster => "faster",
            Self::Slower => "slower",
            Self::Gained => "gained",
            Self::OtherPiece => "other-piece",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        [Self::TrayMissing, Self::TrayTwice, Self::DripPoured, Self::Faster, Self::Slower, Self::Gained, Self::OtherPiece]
            .into_iter()
            .find(|kind| kind.id() == id)
    }

    /// The answers that make sense, the likeliest first.
    pub fn answers(self) -> &'static [Answer] {
        use Answer::{Changed, DripPoured, Forget, Right, TrayMissing, TrayTwice};
        match self {
            Self::TrayMissing => &[TrayMissing, DripPoured, Right, Forget],
            Self::TrayTwice => &[TrayTwice, Right, Forget],
            Self::DripPoured => &[DripPoured, Right, Forget],
            Self::Faster => &[Changed, DripPoured, Right, Forget],
            Self::Slower => &[Changed, Right, Forget],
            Self::Gained | Self::OtherPiece => &[Forget, Right],
        }
    }
}

/// A weighing that does not fit the others.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Doubt {
    /// What it looks like.
    pub kind: DoubtKind,
    /// Off what was expected, g; negative is lighter.
    pub off: Mass,
    /// What was expected of the piece alone.
    pub expected: Mass,
}

/// So many standard deviations are asked about.
const ASK_FROM: f64 = 4.0;
/// A wiped tray, a drop on the rack, another corner of the scale: so many grams mean nothing, however fine the scale (our estimate).
const HANDLING_G: f64 = 1.5;
/// Share of the expected loss that the model may be off by without a question (our estimate).
const MODEL_ERROR: f64 = 0.15;
/// No refrigerator blows harder than this, W/m²K (our estimate): twice a place in front of the fan.
const HARDEST: HeatTransfer = HeatTransfer(30.0);

/// Looks at a new weighing in the light of the earlier ones of the same piece.
///
/// `before` is the piece with its earlier weighings, `known` the refrigerator's fit without the new one, `said` what the
/// piece was said to weigh. `None` where it fits, so that nobody is asked about noise.
pub fn look_for_doubt(before: &Series, known: &Fit, new: &Weighing, said: Mass) -> Option<Doubt> {
    let point = weighed_points(&[Weighing { open: false, answer: None, ..*new }]).pop()?;
    let tare = new.tare.in_g();
    let judge = |expected: f64, sigma: f64, other: &dyn Fn(f64) -> DoubtKind| {
        let off = point.net_g - expected;
        // A tray forgotten is off by the tray, give or take what the rest may err.
        let is_tray = tare > 20.0 && (off.abs() - tare).abs() < (ASK_FROM * sigma).max(0.05 * tare).min(0.4 * tare);
        let kind = match (off.abs() > ASK_FROM * sigma, is_tray) {
            (_, true) => {
                if off < 0.0 {
                    DoubtKind::TrayMissing
                } else {
                    DoubtKind::TrayTwice
                }
            }
            (true, false) => other(off),
            (false, false) => return None,
        };
        Some(Doubt { kind, off: grams(off), expected: grams(expected) })
    };
    let Some(last) = before.points.last() else {
        // Nothing weighed yet: only what it was said to weigh, which a trim or a bone may change by a few per cent.
        return judge(said.in_g(), 0.03 * said.in_g(), &|_| DoubtKind::OtherPiece);
    };
    let mut moments: Vec<Time> = before.points.iter().map(|p| p.at).collect();
    moments.push(new.at);
    let lost = (before.lost)(known.h, &moments);
    let high = (before.lost)(known.away(1.0), &moments);
    let stretch: Vec<usize> = (0..before.points.len()).filter(|i| before.points[*i].stretch == last.stretch).collect();
    let weight = |i: usize| before.points[i].sigma_g.powi(-2);
    let weights: f64 = stretch.iter().map(|i| weight(*i)).sum();
    let start = stretch.iter().map(|i| weight(*i) * (before.points[*i].net_g + lost[*i])).sum::<f64>() / weights;
    let new_at = moments.len() - 1;
    let since = lost[new_at] - lost[new_at - 1];
    let unsure = (high[new_at] - high[new_at - 1]) - since;
    let sigma = (point.sigma_g.powi(2) + HANDLING_G.powi(2) + 1.0 / weights + unsure.powi(2) + (MODEL_ERROR * since).powi(2)).sqrt();
    judge(start - lost[new_at], sigma, &|off| {
        // The most that any air could have taken since the last weighing: all sides as wet as fresh.
        let hardest = (before.lost)(HARDEST, &[new.at - last.at])[0];
        let gone = last.net_g - point.net_g;
        if off > 0.0 {
            if gone < -ASK_FROM * (point.sigma_g + last.sigma_g) { DoubtKind::Gained } else { DoubtKind::Slower }
        } else if gone > hardest + ASK_FROM * (point.sigma_g + last.sigma_g) {
            DoubtKind::DripPoured
        } else {
            DoubtKind::Faster
        }
    })
}

#[cfg(test)]
mod tests;
