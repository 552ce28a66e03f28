//! Weighing in: two taps, or what the scale shows. What does not fit is asked about, not silently fitted.

use super::here::Here;
use super::learn::{learn, unweighed};
use super::{ChillQuery, Refused, after, show};
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::kit::form_key;
use crate::live::Live;
use crate::piece::{Opened, known_of, note, open};
use crate::salt::read_grams;
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::{full_stop, grams as g};
use axum::extract::{Form, Path, State};
use axum::response::Response;
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::clock::{Toward, read_wall};
use rauchkeller_core::run::{EventId, WeighingDoubt, What, doubt_about};
use rauchkeller_core::skin::drying::{Answer, Touch, Weighing};
use rauchkeller_core::units::{MassIn, grams};
use rauchkeller_store::{Added, KitTray};
use serde::Deserialize;
use std::collections::BTreeMap;
use uuid::Uuid;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct WeighForm {
    /// What the scale showed: piece, rack and tray together.
    pub gross: String,
    /// A tray of the Kit, `new`, or `none`.
    pub tray: String,
    /// Name and empty weight of a tray met for the first time.
    pub trayname: String,
    pub trayempty: String,
    /// When it was weighed; empty is now.
    pub when: String,
    /// Whether the number was taken from the scale.
    pub from: String,
    pub key: String,
    pub hours: String,
}

/// No household scale weighs more, g.
const MOST_G: f64 = 30_000.0;
/// Fineness of a scale that does not speak, g: as kitchen scales are.
const USUAL_STEP: f64 = 1.0;

/// A weighing as read.
struct Read {
    gross: f64,
    tray: TrayRead,
    at: Timestamp,
}

enum TrayRead {
    Known(KitTray),
    New(String, f64),
    None,
}

impl WeighForm {
    fn read(&self, trays: &[KitTray], now: &ZonedDateTime) -> Result<Read, BTreeMap<&'static str, String>> {
        let mut slips = BTreeMap::new();
        let at = match self.when.trim() {
            "" | "now" => Ok(now.timestamp()),
            said => read_wall(said, now, Toward::Past).map(|at| at.timestamp()),
        };
        let when = match &at {
            Err(error) => Some(full_stop(error)),
            Ok(at) if *at > now.timestamp() => Some("That is still to come; say when it was weighed, like 14:30.".to_owned()),
            Ok(_) => None,
        };
        slips.extend(when.map(|slip| ("when", slip)));
        let short = |typed: &str| typed.trim().chars().take(40).collect::<String>();
        let gross = read_grams(&self.gross).filter(|g| (1.0..=MOST_G).contains(g));
        if gross.is_none() {
            let said = if self.gross.trim().is_empty() {
                "Nothing is typed".to_owned()
            } else {
                format!("“{}” is no weight", short(&self.gross))
            };
            slips.insert("gross", format!("{said}; write what the scale shows, from 1 g to 30 kg, like 3041 or 6 lb 11 oz."));
        }
        let tray = match self.tray.as_str() {
            "none" => Some(TrayRead::None),
            "new" => {
                let name = self.trayname.trim();
                if name.is_empty() || name.chars().count() > 60 {
                    slips.insert("trayname", "A tray needs a name of 1 to 60 letters, like black tray.".into());
                }
                let empty = read_grams(&self.trayempty).filter(|g| (1.0..=10_000.0).contains(g));
                if empty.is_none() {
                    let typed = short(&self.trayempty);
                    slips.insert("trayempty", format!("“{typed}” is no weight of a tray; weigh it empty, with its rack: 1 g to 10 kg."));
                }
                if let (Some(empty), Some(gross)) = (empty, gross)
                    && empty >= gross
                {
                    slips.insert(
                        "trayempty",
                        format!("{} g empty is not less than {} g with the piece. Weigh both again.", g(empty), g(gross)),
                    );
                }
                empty.map(|empty| TrayRead::New(name.to_owned(), empty))
            }
            id => trays.iter().find(|t| t.id.to_string() == id).cloned().map(TrayRead::Known),
        };
        if tray.is_none() && !slips.contains_key("trayempty") {
            slips.insert("tray", "That tray hangs in the Kit no more. Choose one of the list.".into());
        }
        match (gross, tray, at) {
            (Some(gross), Some(tray), Ok(at)) if slips.is_empty() => Ok(Read { gross, tray, at }),
            _ => Err(slips),
        }
    }
}

/// Notes a weighing, asks about it where it does not fit, and lets the refrigerator learn from it where it does.
pub async fn weigh_in(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Form(form): Form<WeighForm>,
) -> Result<Response, WebError> {
    let query = ChillQuery { hours: form.hours.clone(), ..ChillQuery::default() };
    let here = Here { state, cook, partial, id, query };
    // A piece that is not there learns no tray.
    open(&here.state, &here.cook, &here.id).await?;
    let kitchen = here.cook.kitchen(&here.state);
    let refused = |refused: Refused| Refused { weigh: Some(form.clone()), ..refused };
    let read = match form.read(&kitchen.trays().await?, &here.cook.now(&here.state)) {
        Ok(read) => read,
        Err(slips) => return here.refuse(refused(Refused { slips, ..Refused::default() })).await,
    };
    let key = form_key(&form.key);
    let (tray, tare) = match read.tray {
        TrayRead::None => (None, 0.0),
        TrayRead::Known(tray) => (Some(tray.id), tray.empty_g),
        TrayRead::New(name, empty) => match kitchen.add_tray(&key, &name, empty, here.state.now()).await? {
            Added::Created(id) | Added::AlreadyExists(id) => (Some(id), empty),
            Added::NameTaken => {
                let slip = format!("A tray called {name} hangs in the Kit already. Choose it from the list, or name this one otherwise.");
                return here.refuse(refused(Refused::at("trayname", slip))).await;
            }
            Added::Full => return here.refuse(refused(Refused::said("The Kit is full of trays. Take one out first."))).await,
        },
    };
    let fineness = match (form.from.as_str(), Live::of(&kitchen, here.state.now()).await?) {
        ("scale", Some(live)) => live.fineness.in_g(),
        _ => USUAL_STEP,
    };
    let (now, from_scale, at) = (here.cook.now(&here.state), form.from == "scale", read.at);
    let said = async |opened: Opened| {
        let (now, numbers) = (now.clone(), Numbers { gross: read.gross, tare, fineness, at });
        let doubt = compute(move || doubt(&opened, &now, &numbers)).await?;
        let tray = tray.map(|t| t.0.as_u128());
        let (gross, tare, fineness) = (grams(read.gross), grams(tare), grams(fineness));
        Ok(Ok((What::Weighed { gross, tare, fineness, tray, from_scale, doubt }, at).into()))
    };
    here.note(&key, said).await
}

/// What the scale and the Kit say.
struct Numbers {
    gross: f64,
    tare: f64,
    fineness: f64,
    at: Timestamp,
}

/// What looks wrong with a new weighing, by its stable name and grams.
fn doubt(opened: &Opened, now: &ZonedDateTime, said: &Numbers) -> Option<WeighingDoubt> {
    let stand = opened.stand(now);
    let cold = stand.cold.as_ref()?;
    let planned = cold.request.kitchen.fridge;
    let new = Weighing {
        at: cold.open_at(said.at),
        gross: grams(said.gross),
        tare: grams(said.tare),
        fineness: grams(said.fineness),
        answer: None,
        open: false,
    };
    let air = unweighed(&opened.fridge, planned);
    // Held against what was weighed before it, whenever it is noted.
    let before = cold.weighed(stand.record.weighed.iter().filter(|w| w.at < said.at));
    let found = doubt_about(&before, air, &known_of(&opened.fridge, air), &new)?;
    Some(WeighingDoubt { kind: found.kind.id().to_owned(), off: found.off })
}

/// What was answered.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct AnswerForm {
    answer: String,
}

/// Answers what was asked about a weighing; an empty answer asks again.
pub async fn answer(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, which)): Path<(String, String)>,
    Form(form): Form<AnswerForm>,
) -> Result<Response, WebError> {
    let which = EventId(Uuid::parse_str(&which).map_err(|_| WebError::NotFound)?.as_u128());
    if !form.answer.is_empty() && Answer::find(&form.answer).is_none() {
        let typed: String = form.answer.chars().take(40).collect();
        let refused = Refused::said(format!("“{typed}” is no answer this kitchen knows. Press one of the buttons."));
        return show(&state, &cook, partial, &id, ChillQuery::default(), refused).await;
    }
    let opened = open(&state, &cook, &id).await?;
    opened.record().weighed.iter().find(|w| w.id == which).ok_or(WebError::NotFound)?;
    note(&state, &cook, &opened, What::Answered { question: format!("{:032x}", which.0), how: form.answer }).await?;
    learn(&state, &cook).await?;
    after(&state, &cook, partial, &id, ChillQuery::default()).await
}

/// How it feels.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct TouchForm {
    feel: String,
    key: String,
    hours: String,
}

/// Notes how the skin feels.
pub async fn touch(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Form(form): Form<TouchForm>,
) -> Result<Response, WebError> {
    let query = ChillQuery { hours: form.hours.clone(), ..ChillQuery::default() };
    let here = Here { state, cook, partial, id, query };
    let at = here.state.now();
    let said = async |_| {
        let typed: String = form.feel.chars().take(40).collect();
        let what = Touch::find(&form.feel).map(|feel| (What::Felt(feel), at).into());
        Ok(what.ok_or_else(|| {
            Refused::said(format!("“{typed}” is not on the scale; wet, tacky, dry and parchment are. Press one of the four."))
        }))
    };
    here.note(&form.key, said).await
}

#[cfg(test)]
mod tests {
    use super::*;

    fn form(gross: &str, tray: &str) -> WeighForm {
        WeighForm { gross: gross.into(), tray: tray.into(), ..WeighForm::default() }
    }

    fn now() -> ZonedDateTime {
        "2026-12-12T07:00[Europe/Vienna]".parse().unwrap()
    }

    #[test]
    fn a_weighing_may_be_noted_later() {
        let read = |when: &str| WeighForm { when: when.into(), ..form("3000", "none") }.read(&[], &now()).map(|r| r.at.to_string());
        assert_eq!((read("").unwrap().as_str(), read("05:30").unwrap().as_str()), ("2026-12-12T06:00:00Z", "2026-12-12T04:30:00Z"));
        // An hour that has not come yet today was yesterday's.
        assert_eq!(read("22:15").unwrap(), "2026-12-11T21:15:00Z");
        assert!(
            read("soon").unwrap_err().contains_key("when")
                && read("2026-12-12T09:00[Europe/Vienna]").unwrap_err()["when"].contains("still to come")
        );
    }

    #[test]
    fn weighings_as_cooks_type_them() {
        let read = |gross: &str| form(gross, "none").read(&[], &now()).map(|r| r.gross);
        assert_eq!((read("3041"), read("3,041 kg"), read("3041.2 g")), (Ok(3041.0), Ok(3041.0), Ok(3041.2)));
        // By definition of the pound: 6.5 lb.
        assert!((read("6.5 lb").unwrap() - 2948.35).abs() < 0.01);
        for wrong in ["", "heavy", "-4", "0", "40 kg", "3041 °C"] {
            assert!(read(wrong).unwrap_err()["gross"].contains("write what the scale shows"), "{wrong}");
        }
    }

    #[test]
    fn a_tray_is_known_new_or_none() {
        let known = KitTray { id: rauchkeller_store::TrayId(Uuid::nil()), name: "black tray".into(), empty_g: 640.0 };
        let id = known.id.to_string();
        assert!(matches!(form("3000", &id).read(std::slice::from_ref(&known), &now()), Ok(Read { tray: TrayRead::Known(_), .. })));
        assert!(form("3000", &id).read(&[], &now()).err().unwrap()["tray"].contains("no more"));
        let new =
            |name: &str, empty: &str| WeighForm { trayname: name.into(), trayempty: empty.into(), ..form("3000", "new") }.read(&[], &now());
        assert!(matches!(new("black tray", "640 g"), Ok(Read { tray: TrayRead::New(_, empty), .. }) if (empty - 640.0).abs() < 1e-9));
        assert!(new("", "640").err().unwrap().contains_key("trayname"));
        assert!(new("black tray", "light").err().unwrap()["trayempty"].contains("“light”"));
        assert!(new("black tray", "3100").err().unwrap()["trayempty"].contains("not less than"));
    }
}
