//! The refrigerator's air, as the cook knows it.

use super::learn::learn;
use super::{ChillQuery, Refused, after, show};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::piece::open;
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::trim;
use axum::extract::{Form, Path, State};
use axum::response::Response;
use rauchkeller_core::caution::too_warm;
use rauchkeller_core::units::{Expect, System, TemperatureIn, celsius, read_temperature};
use rauchkeller_store::{Refrigerator, RefrigeratorSaved};
use serde::Deserialize;
use std::collections::BTreeMap;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct AirForm {
    pub c: String,
    /// Empty where nobody knows.
    pub rh: String,
    pub version: i32,
}

impl AirForm {
    /// As it is known.
    pub fn of(fridge: &Refrigerator, system: Option<System>) -> Self {
        let known = || match system {
            Some(System::Customary) => trim(celsius(fridge.air_c).in_f(), 1),
            _ => trim(fridge.air_c, 1),
        };
        Self {
            c: if fridge.version > 0 { known() } else { String::new() },
            rh: fridge.rh.map(|rh| trim(rh * 100.0, 0)).unwrap_or_default(),
            version: fridge.version,
        }
    }

    pub fn read(&self, system: Option<System>) -> Result<(f64, Option<f64>), BTreeMap<&'static str, String>> {
        let mut slips = BTreeMap::new();
        let short = |typed: &str| typed.trim().chars().take(40).collect::<String>();
        let c = read_temperature(&self.c, &Expect::between(-2.0, 15.0).by(system))
            .ok()
            .map(TemperatureIn::in_c)
            .filter(|c| (-2.0..=15.0).contains(c));
        if c.is_none() {
            let typed = short(&self.c);
            slips.insert(
                "c",
                format!("“{typed}” is no refrigerator; −2 to 15 °C (28 to 59 °F). Put a thermometer into a glass of water in it."),
            );
        }
        let bare = self.rh.trim().trim_end_matches('%').trim().replace(',', ".");
        let rh = match bare.parse::<f64>() {
            _ if bare.is_empty() => Some(None),
            Ok(percent) if (5.0..=99.0).contains(&percent) => Some(Some(percent / 100.0)),
            _ => None,
        };
        if rh.is_none() {
            let typed = short(&self.rh);
            slips.insert("rh", format!("“{typed}” is no humidity; 5 to 99 %, as a hygrometer shows it. Leave it empty if nobody knows."));
        }
        match (c, rh) {
            (Some(c), Some(rh)) => Ok((c, rh)),
            _ => Err(slips),
        }
    }
}

/// Says its air; what weighing taught is learned anew under it.
pub async fn set_air(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Form(form): Form<AirForm>,
) -> Result<Response, WebError> {
    // The refrigerator is said where a piece rests; another kitchen's piece is not here.
    open(&state, &cook, &id).await?;
    let (c, rh) = match form.read(cook.system()) {
        Ok(read) => read,
        Err(slips) => {
            let refused = Refused { air: Some(form), slips, ..Refused::default() };
            return show(&state, &cook, partial, &id, ChillQuery::default(), refused).await;
        }
    };
    match cook.kitchen(&state).set_refrigerator(form.version, c, rh, too_warm(celsius(c)), state.now()).await? {
        RefrigeratorSaved::Saved => {
            learn(&state, &cook).await?;
            after(&state, &cook, partial, &id, ChillQuery::default()).await
        }
        RefrigeratorSaved::Conflict(theirs) => {
            let humid = theirs.rh.map_or_else(|| "humidity unknown".to_owned(), |rh| format!("{:.0} % humid", rh * 100.0));
            let said = Some(format!(
                "Somebody said {} °C, {humid} meanwhile. Your words stand below: send them again to change it.",
                trim(theirs.air_c, 1)
            ));
            let mine = AirForm { version: theirs.version, ..form };
            show(
                &state,
                &cook.again(&state).await?,
                partial,
                &id,
                ChillQuery::default(),
                Refused { air: Some(mine), said, conflict: true, ..Refused::default() },
            )
            .await
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn air_as_cooks_say_it() {
        let read = |c: &str, rh: &str| AirForm { c: c.into(), rh: rh.into(), version: 0 }.read(None);
        assert_eq!(read("4", ""), Ok((4.0, None)));
        assert_eq!(read("3,5 °C", "62 %"), Ok((3.5, Some(0.62))));
        // A bare 40 can only be Fahrenheit here; closed form: (40 − 32) × 5/9, (39 − 32) × 5/9.
        assert!((read("40", "50").unwrap().0 - 4.444_444).abs() < 1e-4);
        assert!((read("39 °F", "50").unwrap().0 - 3.888_888).abs() < 1e-4);
        let slips = read("warm", "damp").unwrap_err();
        assert!(slips["c"].contains("“warm”") && slips["rh"].contains("“damp”"));
        assert!(read("40 °C", "50").unwrap_err().contains_key("c") && read("4", "150").unwrap_err().contains_key("rh"));
    }
}
