//! Calibrating a salt: ten level spoons on a scale, a few times, and ten pinches.

use super::{back, form_key, number};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use crate::words::{sentence, trim};
use askama::Template;
use axum::extract::{Form, Query, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::Timestamp;
use rauchkeller_core::salt::{Calibration, Salt, SaltError, SpoonSize, calibrate};
use rauchkeller_core::units::{MassIn, grams};
use rauchkeller_store::{Added, KitSalt, SaltId};
use serde::Deserialize;
use std::collections::BTreeMap;
use uuid::Uuid;

/// The form as typed.
#[derive(Debug, Clone, Deserialize)]
#[serde(default)]
pub struct SaltForm {
    pub name: String,
    /// Which spoon.
    pub spoon: String,
    /// Level spoons in each weighing.
    pub count: String,
    /// Weighings, joined by blanks, commas with blanks, or semicolons.
    pub weighings: String,
    /// What the scale tells apart, g.
    pub fineness: String,
    /// Per cent of sodium chloride.
    pub purity: String,
    /// Per cent of potassium chloride.
    pub potassium: String,
    /// What ten pinches weigh.
    pub pinches: String,
    pub back: String,
    pub key: String,
}

impl Default for SaltForm {
    fn default() -> Self {
        let text = String::new;
        Self {
            name: text(),
            spoon: "us-tsp".into(),
            count: "10".into(),
            weighings: text(),
            fineness: "1".into(),
            purity: "100".into(),
            potassium: "0".into(),
            pinches: text(),
            back: text(),
            key: text(),
        }
    }
}

/// One choice of spoon.
pub struct Spoon {
    pub id: &'static str,
    pub name: &'static str,
    pub chosen: bool,
}

/// What the page shows.
pub struct SaltView {
    pub form: SaltForm,
    pub spoons: Vec<Spoon>,
    pub slips: BTreeMap<&'static str, String>,
    pub result: Option<SpoonResult>,
}

/// The spoon that came out.
pub struct SpoonResult {
    pub per_teaspoon: String,
    pub known_to: String,
    pub spread: String,
    pub pinch: String,
    pub beside: String,
}

impl SaltView {
    /// What is wrong with a field.
    pub fn slip(&self, field: &str) -> Option<&String> {
        self.slips.get(field)
    }
}

#[derive(Template)]
#[template(path = "kit/salt_page.html")]
struct SaltPage {
    rail: Rail,
    view: SaltView,
}

#[derive(Template)]
#[template(path = "kit/salt.html")]
struct SaltFragment {
    view: SaltView,
}

/// A salt that was read from the form.
struct Read {
    salt: Salt,
    calibration: Calibration,
}

impl SaltForm {
    fn read(&self) -> Result<Read, BTreeMap<&'static str, String>> {
        let mut slips = BTreeMap::new();
        let calibration = self.calibration(&mut slips);
        let mut per_cent = |field: &'static str, typed: &str| {
            let read = number(typed, "%");
            if read.is_none() {
                slips.insert(field, format!("“{}” is no share; write per cent, like 97.", short(typed)));
            }
            read
        };
        let purity = per_cent("purity", &self.purity);
        let potassium = per_cent("potassium", if self.potassium.trim().is_empty() { "0" } else { &self.potassium });
        let pinch = if self.pinches.trim().is_empty() {
            None
        } else {
            let ten = number(&self.pinches, "g");
            if ten.is_none() {
                slips.insert("pinches", format!("“{}” is no weight; write what ten pinches weigh, like 4.1 g.", short(&self.pinches)));
            }
            ten.map(|g| g / 10.0)
        };
        // The rest is judged as one salt even where the spoons could not be read, so that every mistake is named at once.
        let g_per_tsp = calibration.map_or(5.0, |c| c.per_teaspoon.in_g());
        let spread = calibration.and_then(|c| c.spread).map(MassIn::in_g);
        let salt = Salt::own(&self.name, g_per_tsp, purity.unwrap_or(100.0) / 100.0, potassium.unwrap_or(0.0) / 100.0, spread, pinch);
        match (salt, calibration) {
            (Ok(salt), Some(calibration)) if slips.is_empty() => Ok(Read { salt, calibration }),
            (Ok(_), _) => Err(slips),
            (Err(error), _) => {
                let field = match error {
                    SaltError::Name | SaltError::Curing(_) => "name",
                    SaltError::Purity(_) => "purity",
                    SaltError::Blend(..) => "potassium",
                    SaltError::Spoon(_) => "weighings",
                    SaltError::Pinch(_) => "pinches",
                };
                slips.entry(field).or_insert_with(|| format!("{}.", sentence(&error.to_string())));
                Err(slips)
            }
        }
    }

    fn calibration(&self, slips: &mut BTreeMap<&'static str, String>) -> Option<Calibration> {
        let size = SpoonSize::find(&self.spoon).unwrap_or_default();
        let count = number(&self.count, "spoons").filter(|n| n.fract() == 0.0 && (0.0..1e6).contains(n));
        if count.is_none() {
            slips.insert("count", format!("“{}” is no number of spoons; write one from 1 to 50.", short(&self.count)));
        }
        let fineness = number(&self.fineness, "g");
        if fineness.is_none() {
            slips.insert(
                "fineness",
                format!("“{}” is no fineness; write the smallest step your scale shows, like 1 or 0.1 g.", short(&self.fineness)),
            );
        }
        let mut weighings = Vec::new();
        for part in self.weighings.replace(", ", " ").split([' ', ';', '\n', '+']).map(str::trim).filter(|p| !p.is_empty() && *p != "g") {
            let Some(g) = number(part, "g") else {
                slips.insert("weighings", format!("“{}” is no weight; write grams, like 53.1 52.8 53.4.", short(part)));
                return None;
            };
            weighings.push(g);
        }
        let found = calibrate(&weighings, count? as u32, size, grams(fineness?));
        found
            .map_err(|error| {
                use rauchkeller_core::salt::CalibrationError as E;
                let field = match error {
                    E::Spoons(_) => "count",
                    E::Fineness(_) => "fineness",
                    _ => "weighings",
                };
                slips.insert(field, format!("{}.", sentence(&error.to_string())));
            })
            .ok()
    }
}

fn short(typed: &str) -> String {
    typed.trim().chars().take(40).collect()
}

impl SpoonResult {
    fn of(calibration: &Calibration, pinch_g: Option<f64>) -> Self {
        let g = calibration.per_teaspoon.in_g();
        let nearest = rauchkeller_core::salt::SALTS.iter().min_by(|a, b| (a.g_per_tsp - g).abs().total_cmp(&(b.g_per_tsp - g).abs()));
        Self {
            per_teaspoon: trim(g, 2),
            known_to: calibration.uncertainty.map(|g| trim(g.in_g(), 2)).unwrap_or_default(),
            spread: calibration.spread.map_or_else(
                || "one weighing says nothing of the spread; weigh again to learn it".into(),
                |s| format!("from spoon to spoon it scatters by {} g", trim(s.in_g(), 2)),
            ),
            pinch: pinch_g.map_or_else(String::new, |p| format!("a pinch of yours is {} g", trim(p, 2))),
            beside: nearest.map_or_else(String::new, |row| format!("the table’s nearest: {}, {} g", row.name, trim(row.g_per_tsp, 1))),
        }
    }
}

/// `asked` to keep it: what is still empty is then a mistake too.
fn view(mut form: SaltForm, asked: bool) -> (SaltView, Option<Read>) {
    form.key = form_key(&form.key);
    let read = form.read();
    // The spoon stands there as soon as it is known, whatever else is still wrong.
    let pinch = read.as_ref().ok().and_then(|r| r.salt.pinch_g);
    let result = form.calibration(&mut BTreeMap::new()).map(|found| SpoonResult::of(&found, pinch));
    let (read, slips) = match read {
        Ok(read) => (Some(read), BTreeMap::new()),
        Err(mut slips) => {
            // Nothing typed yet is not yet wrong.
            if !asked {
                slips.retain(|field, _| match *field {
                    "name" => !form.name.trim().is_empty(),
                    "weighings" => !form.weighings.trim().is_empty(),
                    _ => true,
                });
            }
            (None, slips)
        }
    };
    let spoons = SpoonSize::ALL.iter().map(|s| Spoon { id: s.id(), name: s.name(), chosen: s.id() == form.spoon }).collect();
    (SaltView { form, spoons, slips, result }, read)
}

/// The form, answering while it is filled.
pub async fn salt_page(cook: SignedIn, partial: Partial, Query(form): Query<SaltForm>) -> Result<Response, WebError> {
    let (view, _) = view(form, false);
    if partial.0 { render(&SaltFragment { view }) } else { render(&SaltPage { rail: Rail::at("kit", &cook), view }) }
}

/// Hangs the salt into the Kit.
pub async fn add_salt(State(state): State<AppState>, cook: SignedIn, Form(form): Form<SaltForm>) -> Result<Response, WebError> {
    let (mut view, read) = view(form, true);
    if let Some(read) = read {
        let salt = KitSalt {
            id: SaltId(Uuid::nil()),
            name: read.salt.name.to_string(),
            g_per_tsp: read.salt.g_per_tsp,
            spread_g: read.salt.spread_g,
            uncertainty_g: read.calibration.uncertainty.map(MassIn::in_g),
            purity: read.salt.purity,
            potassium: read.salt.potassium,
            pinch_g: read.salt.pinch_g,
            weighings: view.form.weighings.chars().take(500).collect(),
            created_at: Timestamp::UNIX_EPOCH,
            deleted_at: None,
        };
        match cook.kitchen(&state).add_salt(&view.form.key, &salt, state.now()).await? {
            Added::Created(id) | Added::AlreadyExists(id) => {
                let to = back(&view.form.back);
                // Back on the Bench the new salt is the one in the sentence.
                let to = if to.starts_with("/bench") { with_salt(&to, &format!("own-{id}")) } else { to };
                return Ok(Redirect::to(&to).into_response());
            }
            Added::NameTaken => {
                view.slips.insert(
                    "name",
                    "A salt of that name hangs in your Kit already. Choose another name, or take the old one out first.".into(),
                );
            }
            Added::Full => {
                view.slips.insert("name", "Your Kit holds a hundred salts, the most it can. Take one out first.".into());
            }
        }
    }
    Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&SaltPage { rail: Rail::at("kit", &cook), view })?).into_response())
}

/// The Bench's address with another salt in its sentence.
fn with_salt(address: &str, salt: &str) -> String {
    let (path, query) = address.split_once('?').unwrap_or((address, ""));
    let mut pairs: Vec<&str> = query.split('&').filter(|pair| !pair.is_empty() && !pair.starts_with("salt=")).collect();
    let mine = format!("salt={salt}");
    pairs.push(&mine);
    format!("{path}?{}", pairs.join("&"))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn form(name: &str, weighings: &str) -> SaltForm {
        SaltForm { name: name.into(), weighings: weighings.into(), ..SaltForm::default() }
    }

    #[test]
    fn ten_spoons_make_a_salt() {
        // By hand: (53 + 54 + 52) ÷ 3 ÷ 10 = 5.3 g.
        let read = form("grey jar", "53 54, 52 g").read().ok().unwrap();
        assert!((read.salt.g_per_tsp - 5.3).abs() < 1e-9 && read.salt.spread_g.is_some());
    }

    #[test]
    fn every_mistake_is_named_at_its_field() {
        let bad = SaltForm { purity: "130".into(), count: "many".into(), pinches: "few".into(), ..form("", "53") };
        let slips = bad.read().err().unwrap();
        assert_eq!(slips.keys().copied().collect::<Vec<_>>(), ["count", "name", "pinches"]);
        let bad = SaltForm { purity: "130".into(), ..form("grey", "53") };
        assert!(bad.read().err().unwrap()["purity"].contains("130 %"));
        assert!(form("pink curing salt", "53").read().err().unwrap()["name"].contains("nitrite"));
        assert!(form("grey", "5.1 5.2 spoon").read().err().unwrap()["weighings"].contains("“spoon”"));
    }

    #[test]
    fn the_bench_comes_back_with_the_new_salt() {
        assert_eq!(with_salt("/bench?cut=a&salt=fine-sea&dose=9", "own-7"), "/bench?cut=a&dose=9&salt=own-7");
        assert_eq!(with_salt("/bench", "own-7"), "/bench?salt=own-7");
    }
}
