//! Weighing one bowl: what the scale says of it, and the ladder filling.

use crate::auth::SignedIn;
use crate::draw::{Poured, draw_live_ladder};
use crate::error::WebError;
use crate::live::Live;
use crate::piece::{Bowl, Opened, open};
use crate::shell::render;
use crate::state::AppState;
use crate::words::{grams, other_system};
use askama::Template;
use axum::extract::{Path, Query, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use rauchkeller_core::salt::{Pour, is_lifted, judge_pour};
use rauchkeller_core::units::{MassIn, grams as mass};
use serde::Deserialize;

/// The bowl on the scale, and what to do with it.
#[expect(clippy::struct_excessive_bools, reason = "a template reads them one by one")]
pub struct WeighView {
    pub piece: String,
    /// The bowl it is about; empty once all are weighed.
    pub bowl: String,
    pub name: String,
    /// The one number.
    pub figure: String,
    pub other: String,
    /// What the number is.
    pub what: String,
    pub line: String,
    /// Too much of it.
    pub over: bool,
    pub reached: bool,
    /// The target was held for three seconds: the bowl ticks itself.
    pub held: bool,
    /// The scale waits to be told that the empty bowl is on it.
    pub wants_tare: bool,
    /// It moves still; taring now would be wrong by what is yet to come.
    pub moving: bool,
    pub gross: String,
    pub net: String,
    pub scale: String,
    pub ladder: String,
    /// What the page has seen; an answer is only sent when it would differ.
    pub seen: String,
}

#[derive(Template)]
#[template(path = "salt/weigh.html")]
struct WeighFragment {
    weigh: WeighView,
}

/// What the page has seen.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Seen {
    seen: String,
}

/// The live part, asked for again and again; nothing is sent while nothing changed.
pub async fn scale(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Query(seen): Query<Seen>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let live = Live::of(&cook.kitchen(&state), state.now()).await?;
    let weigh = WeighView::of(&opened, live.as_ref());
    if weigh.seen == seen.seen { Ok(StatusCode::NO_CONTENT.into_response()) } else { render(&WeighFragment { weigh }) }
}

/// One bowl among the others, so that its grams are not taken for all of them.
struct Bowls {
    /// What the one number is.
    which: String,
    /// What all take together; empty where there is one.
    in_all: String,
}

impl Bowls {
    fn of(all: &[Bowl], this: &Bowl) -> Self {
        let place = all.iter().position(|bowl| bowl.id == this.id).map_or(1, |at| at + 1);
        if all.len() == 1 {
            return Self { which: "g to weigh".into(), in_all: String::new() };
        }
        let sum: f64 = all.iter().map(|bowl| bowl.weighed_g.unwrap_or(bowl.target_g)).sum();
        Self { which: format!("g into bowl {place} of {}", all.len()), in_all: format!(" All of them take {} g.", grams(sum)) }
    }
}

impl WeighView {
    /// The first bowl still to be weighed, against what the scale shows.
    pub fn of(opened: &Opened, live: Option<&Live>) -> Self {
        let bowls = &opened.bowls();
        let weighed: f64 = bowls.iter().filter_map(|b| b.weighed_g).sum();
        // What the mix brings stands in the ladder from the start.
        let loose: f64 = bowls.iter().filter(|b| !b.mix).filter_map(|b| b.weighed_g).sum();
        let pure = opened.plan.request.salt_purity;
        let current = bowls.iter().find(|b| b.weighed_g.is_none());
        let mut view = Self {
            piece: opened.piece.id.to_string(),
            bowl: String::new(),
            name: String::new(),
            figure: grams(weighed),
            other: other_system(&grams(weighed), "g"),
            what: "g weighed".into(),
            line: "Every bowl is weighed. Tick each off below as it is used.".into(),
            over: false,
            reached: false,
            held: false,
            wants_tare: false,
            moving: live.is_some_and(|l| !l.is_steady()),
            gross: live.map(|l| l.shows.clone()).unwrap_or_default(),
            net: String::new(),
            scale: live.map(|l| l.name.clone()).unwrap_or_default(),
            ladder: String::new(),
            seen: String::new(),
        };
        let mut pouring = 0.0;
        if let Some(bowl) = current {
            view.bowl.clone_from(&bowl.id);
            view.name.clone_from(&bowl.name);
            let in_it = view.judge(bowl, &Bowls::of(bowls, bowl), live).unwrap_or(0.0);
            pouring = if bowl.mix { 0.0 } else { in_it };
        } else if bowls.is_empty() {
            view.figure = "0".into();
            view.other = String::new();
            view.what = "g to weigh".into();
            view.line = "What is in already is enough: nothing goes on the scale.".into();
        }
        let poured = Poured { weighed_g: loose * pure, pouring_g: pouring.max(0.0) * pure };
        view.ladder = draw_live_ladder(&opened.plan.dose, poured);
        let done = bowls.iter().filter(|b| b.weighed_g.is_some()).count();
        let used = bowls.iter().filter(|b| b.used_at.is_some()).count();
        let seq = live.map_or(0, |l| l.seq);
        // A reading that says nothing new is not sent; how long it has been held is.
        view.seen =
            format!("{}.{}.{}.{}.{done}.{used}.{}.{}.{weighed}", view.bowl, view.gross, view.wants_tare, view.moving, view.held, seq > 0);
        view
    }

    /// Judges the pour into one bowl and writes what to say; gives what is in it.
    fn judge(&mut self, bowl: &Bowl, among: &Bowls, live: Option<&Live>) -> Option<f64> {
        self.say(grams(bowl.target_g), &among.which, format!("Weigh it into a bowl of its own: {}.{}", bowl.name, among.in_all));
        let live = live?;
        let Some((tare, scale)) = bowl.tare else {
            self.wants_tare = true;
            self.line = format!("Set the empty bowl ({}) on the scale, then press Tare.", bowl.name);
            return None;
        };
        // A tare belongs to the scale it was taken on.
        if scale.is_some_and(|scale| scale != live.device) {
            self.wants_tare = true;
            self.line =
                format!("{} speaks now, and the empty bowl stood on another scale. Set it on this one, then press Tare.", live.name);
            return None;
        }
        let samples = live.samples(tare);
        let net = samples.last()?.net_g;
        self.net = format!("{net:.1}");
        if is_lifted(net, live.fineness) {
            self.wants_tare = true;
            self.line = "The bowl was lifted. Set it back, or press Tare with the empty bowl on the scale.".into();
            return None;
        }
        match judge_pour(mass(bowl.target_g), live.fineness, &samples) {
            Pour::Empty => self.line = format!("Pour: {}.", bowl.name),
            Pour::Short(missing) => self.say(
                grams(missing.in_g()),
                "g to go",
                format!("{} g are in, of {} g for the {}.", self.net, grams(bowl.target_g), bowl.name),
            ),
            Pour::Reached => {
                self.reached = true;
                self.say(self.net.clone(), "g, stop", "That is it. Hold still for three seconds.".into());
            }
            Pour::Held => {
                self.reached = true;
                self.held = true;
                self.say(self.net.clone(), "g, done", "Weighed. Set this bowl aside.".into());
            }
            Pour::Over(by) => {
                self.over = true;
                let by = grams(by.in_g());
                let line = format!("{by} g too much: {} g are in, and {} g are wanted. Spoon it back.", self.net, grams(bowl.target_g));
                self.say(by, "g too much in it", line);
            }
        }
        Some(net)
    }

    fn say(&mut self, figure: String, what: &str, line: String) {
        self.other = other_system(&figure, "g");
        self.figure = figure;
        what.clone_into(&mut self.what);
        self.line = line;
    }
}
