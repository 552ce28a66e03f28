//! What the Salt station shows.

use super::by_eye::ByEyeView;
use super::weigh::WeighView;
use crate::auth::SignedIn;
use crate::bench::{CoverLine, MixLines, spoons_line};
use crate::draw::{Width, draw_tray, draw_unfolded};
use crate::error::WebError;
use crate::live::Live;
use crate::piece::Opened;
use crate::state::AppState;
use crate::words::{day_wall, grams, instant, other_system, trim, wall};
use rauchkeller_contract::{WayOutDoc, WhyDoc};
use rauchkeller_core::salt::{spoons_of, tolerance};
use rauchkeller_core::units::{MassIn, grams as mass};

/// One bowl of the list.
pub struct BowlLine {
    pub id: String,
    pub name: String,
    pub target: String,
    /// What is typed in its field.
    pub typed: String,
    pub weighed: String,
    pub used: String,
    pub slip: Option<String>,
    /// Whether what was typed is asked about: the next press takes it.
    pub asked: bool,
    /// What is wanted, in level spoons.
    pub spoons: String,
    /// What was weighed is clearly not what was wanted.
    pub off: String,
}

/// The station.
pub struct SaltView {
    pub id: String,
    pub name: String,
    /// What the way back leads to.
    pub noun: String,
    pub sub: String,
    pub salt: String,
    pub spoons: String,
    pub weigh: WeighView,
    pub bowls: Vec<BowlLine>,
    pub remainder: String,
    pub unfolded: String,
    pub tray: String,
    /// Whether what stays in the bowl of the mix is weighed back.
    pub weighed_back: bool,
    /// The mix, and those besides.
    pub mixes: Vec<MixLines>,
    pub cover: Option<CoverLine>,
    pub by_eye: ByEyeView,
    pub ways_out: Vec<WayOutDoc>,
    pub reasons: Vec<WhyDoc>,
    pub demo_scale: Option<String>,
}

impl SaltView {
    /// Of an opened piece.
    pub async fn of(opened: &Opened, state: &AppState, cook: &SignedIn) -> Result<Self, WebError> {
        let kitchen = cook.kitchen(state);
        let now = cook.now(state);
        let live = Live::of(&kitchen, state.now()).await?;
        let tubs = kitchen.tubs(12).await?;
        let plan = &opened.plan;
        let fineness = live.as_ref().map_or(mass(0.1), |l| l.fineness);
        let bowls: Vec<BowlLine> = opened
            .bowls()
            .iter()
            .map(|b| {
                let off = b.weighed_g.map(|g| g - b.target_g).filter(|off| off.abs() > tolerance(mass(b.target_g), fineness).in_g() + 0.05);
                BowlLine {
                    id: b.id.clone(),
                    name: b.name.clone(),
                    target: grams(b.target_g),
                    typed: grams(b.target_g),
                    weighed: b.weighed_g.map(grams).unwrap_or_default(),
                    used: b.used_at.map(|at| wall(at, &now)).unwrap_or_default(),
                    slip: None,
                    asked: false,
                    spoons: if plan.dose.g_per_tsp > 0.0 && !b.mix {
                        format!("{}, level", spoons_of(mass(b.target_g), plan.dose.g_per_tsp))
                    } else {
                        String::new()
                    },
                    off: off.map_or_else(String::new, |off| {
                        format!("{} g {} than planned", grams(off.abs()), if off > 0.0 { "more" } else { "less" })
                    }),
                }
            })
            .collect();
        Ok(Self {
            id: opened.piece.id.to_string(),
            name: opened.piece.name.clone(),
            noun: opened.noun(),
            sub: format!("on the table {}", day_wall(instant(&plan.serve_at), &now)),
            salt: plan.request.salt_name.clone(),
            spoons: if plan.dose.on_scale_g() >= 0.05 { spoons_line(&plan.dose) } else { String::new() },
            weigh: WeighView::of(opened, live.as_ref()),
            remainder: remainder(opened),
            bowls,
            unfolded: draw_unfolded(plan, Width::Wide) + &draw_unfolded(plan, Width::Narrow),
            tray: draw_tray(&plan.dose.portions, Width::Wide) + &draw_tray(&plan.dose.portions, Width::Narrow),
            weighed_back: plan.dose.mix.is_some(),
            mixes: plan.dose.mix.iter().map(MixLines::of).chain(plan.dose.mixes.iter().map(MixLines::besides)).collect(),
            cover: plan.dose.cover.as_ref().map(CoverLine::of),
            by_eye: ByEyeView::of(opened, &tubs),
            ways_out: plan.ways_out.clone(),
            reasons: plan.why.clone(),
            demo_scale: cook.demo_scale(state),
        })
    }

    /// The reason of a number.
    pub fn reason(&self, number: &str) -> Option<&WhyDoc> {
        self.reasons.iter().find(|why| why.number == number)
    }

    /// Marks a bowl's field as refused, with what was typed in it.
    pub fn bowl_slip(&mut self, id: &str, typed: &str, says: &str) {
        if let Some(bowl) = self.bowls.iter_mut().find(|b| b.id == id) {
            bowl.slip = Some(says.to_owned());
            typed.clone_into(&mut bowl.typed);
        }
    }

    /// Asks whether what was typed was meant: sent once more, it is taken.
    pub fn bowl_asks(&mut self, id: &str, typed: &str, says: &str) {
        self.bowl_slip(id, typed, says);
        self.bowls.iter_mut().filter(|b| b.id == id).for_each(|bowl| bowl.asked = true);
    }

    /// Whether something was refused.
    pub fn is_refused(&self) -> bool {
        !self.by_eye.slips.is_empty() || self.bowls.iter().any(|b| b.slip.is_some())
    }
}

/// What is on, and what is left in how many bowls.
pub fn remainder(opened: &Opened) -> String {
    let bowls = opened.bowls();
    if bowls.is_empty() {
        return String::new();
    }
    let of = |used: bool| bowls.iter().filter(|b| b.used_at.is_some() == used).fold(0.0, |sum, b| sum + b.weighed_g.unwrap_or(b.target_g));
    let left = bowls.iter().filter(|b| b.used_at.is_none()).count();
    let s = if left == 1 { "" } else { "s" };
    if left == 0 {
        return format!("All of it is on: {} g.", grams(of(true)));
    }
    let rest = format!("{} g ({}) left in {left} bowl{s}.", grams(of(false)), other_system(&trim(of(false), 1), "g"));
    if left == bowls.len() { format!("Nothing on yet, {rest}") } else { format!("{} g on, {rest}", grams(of(true))) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use rauchkeller_core::run::What;

    fn used(opened: &Opened, i: usize) -> Opened {
        let bowl = opened.bowls()[i].clone();
        let used = What::SaltOn { bowl: Some(bowl.id), task: Some(bowl.task), grams: mass(bowl.target_g), purity: None };
        opened.with("2026-12-11T13:00:00Z", used)
    }

    #[test]
    fn what_is_left_is_the_sum_of_the_bowls_not_yet_used() {
        let opened = opened(&[]);
        let bowls = opened.bowls();
        assert!(bowls.len() >= 2, "a belly has a bowl a face");
        let all: f64 = bowls.iter().map(|b| b.target_g).sum();
        assert!(remainder(&opened).starts_with(&format!("Nothing on yet, {} g (", grams(all))), "{}", remainder(&opened));
        let first = used(&opened, 0);
        let says = remainder(&first);
        let (on, left) = (bowls[0].target_g, all - bowls[0].target_g);
        assert!(says.starts_with(&format!("{} g on, {} g (", grams(on), grams(left))), "{says}");
        let every = (1..bowls.len()).fold(first, |so_far, i| used(&so_far, i));
        assert_eq!(remainder(&every), format!("All of it is on: {} g.", grams(all)));
    }

    #[test]
    fn what_was_weighed_counts_and_not_what_was_wanted() {
        let opened = opened(&[]);
        let bowl = opened.bowls()[0].clone();
        let weighed = What::BowlWeighed { bowl: bowl.id.clone(), grams: mass(bowl.target_g + 2.0), scale: None };
        let opened = opened.with("2026-12-11T12:50:00Z", weighed);
        assert_eq!(opened.bowls()[0].weighed_g, Some(bowl.target_g + 2.0));
        let all: f64 = opened.bowls().iter().map(|b| b.weighed_g.unwrap_or(b.target_g)).sum();
        assert!(remainder(&opened).contains(&format!("{} g (", grams(all))), "{}", remainder(&opened));
    }
}
