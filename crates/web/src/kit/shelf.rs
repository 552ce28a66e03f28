//! What hangs in the Kit, as the Bench and the Salt station need it.

use crate::auth::SignedIn;
use crate::error::WebError;
use crate::state::AppState;
use rauchkeller_contract::read_way;
use rauchkeller_core::clock::Quiet;
use rauchkeller_core::fire::Hottest;
use rauchkeller_core::method::Method;
use rauchkeller_core::piece::Cut;
use rauchkeller_core::salt::Salt;
use rauchkeller_core::skin::SkinTool;
use rauchkeller_core::units::System;
use rauchkeller_core::verdict::seasoned_right;
use rauchkeller_store::{HouseholdId, KitMix, KitSalt, KitTool, KitWay, Refrigerator};
use serde_json::{Value, json};
use std::collections::HashMap;
use std::sync::{Arc, LazyLock, Mutex, PoisonError};

/// So many of the latest pieces are looked through, and so many of one cut are enough to call a dose usual.
const JUDGED: u64 = 60;
const ENOUGH: usize = 3;

/// Own salts and mixes of a household.
#[derive(Debug, Clone, Default)]
pub struct Shelf {
    /// Own salts, by name.
    pub salts: Vec<KitSalt>,
    /// Own mixes, by name.
    pub mixes: Vec<KitMix>,
    /// Own ways, by name.
    pub ways: Vec<OwnWay>,
    /// Own tools, by name.
    pub tools: Vec<KitTool>,
    /// The refrigerator as it is known.
    pub fridge: Refrigerator,
    /// How hot its appliances get, where it has said.
    pub heat: Hottest,
    /// The dose that was about right for the piece on the Bench, where enough of its kind were judged.
    pub usual_dose: Option<f64>,
    /// When nobody wants to be called, where the household has said.
    pub quiet: Option<Quiet>,
    /// The units the household thinks in; `None` until somebody said.
    pub system: Option<System>,
}

/// What a household has hung up, by the number of its Kit: the number comes with the cook from the database, and another server
/// raises it as this one does.
type Known = HashMap<HouseholdId, (i32, Arc<Hung>)>;

static HUNG: LazyLock<Mutex<Known>> = LazyLock::new(Mutex::default);

/// So many households are remembered; then it begins anew.
const KEPT: usize = 400;

#[derive(Debug, Clone)]
struct Hung {
    salts: Vec<KitSalt>,
    mixes: Vec<KitMix>,
    ways: Vec<OwnWay>,
    heat: Hottest,
}

/// A way of the Kit, as it is kept and as it was read.
#[derive(Debug, Clone)]
pub struct OwnWay {
    /// The row.
    pub kept: KitWay,
    /// What its document says; `None` where today’s rules refuse it.
    pub method: Option<Method>,
}

impl OwnWay {
    fn read(kept: KitWay) -> Self {
        let document: Option<Value> = serde_json::from_str(&kept.document).ok();
        Self { method: document.and_then(|document| read_way(&document).ok()), kept }
    }
}

fn known(household: HouseholdId, version: i32) -> Option<Arc<Hung>> {
    let all = HUNG.lock().unwrap_or_else(PoisonError::into_inner);
    all.get(&household).filter(|(of, _)| *of == version).map(|(_, hung)| hung.clone())
}

fn keep(household: HouseholdId, version: i32, hung: Arc<Hung>) {
    let mut all = HUNG.lock().unwrap_or_else(PoisonError::into_inner);
    if all.len() >= KEPT {
        all.clear();
    }
    all.insert(household, (version, hung));
}

impl Shelf {
    /// Of the signed-in cook's household.
    pub async fn of(state: &AppState, cook: &SignedIn) -> Result<Self, WebError> {
        let hung = if let Some(hung) = known(cook.0.household, cook.0.kit_version) {
            hung
        } else {
            let kitchen = cook.kitchen(state);
            let most = kitchen.appliances().await?.into_iter().fold(Hottest::default(), |known, (source, most)| known.with(source, most));
            let heat = kitchen.dials().await?.into_iter().fold(most, |known, (source, off)| known.with_dial(source, off));
            let ways = kitchen.ways().await?.into_iter().map(OwnWay::read).collect();
            let hung = Arc::new(Hung { salts: kitchen.salts().await?, mixes: kitchen.mixes().await?, ways, heat });
            keep(cook.0.household, cook.0.kit_version, hung.clone());
            hung
        };
        let Hung { salts, mixes, ways, heat } = Arc::unwrap_or_clone(hung);
        Ok(Self {
            salts,
            mixes,
            ways,
            tools: vec![],
            fridge: cook.0.fridge,
            heat,
            quiet: cook.0.quiet,
            usual_dose: None,
            system: cook.system(),
        })
    }

    /// With what was about right of a cut, where a dose is typed beside which that stands.
    pub async fn for_dose(self, state: &AppState, cook: &SignedIn, cut: &str, typed: &str) -> Result<Self, WebError> {
        if typed.trim().is_empty() {
            return Ok(self);
        }
        let judged = cook.kitchen(state).judged_doses(JUDGED).await?;
        let right: Vec<f64> = judged.iter().filter(|d| d.cut == cut && seasoned_right(d.rim, d.middle)).map(|d| d.g_per_kg).collect();
        let usual_dose = (right.len() >= ENOUGH).then(|| right.iter().sum::<f64>() / right.len() as f64);
        Ok(Self { usual_dose, ..self })
    }

    /// With its tools too, as the Knife needs it.
    pub async fn with_tools(state: &AppState, cook: &SignedIn) -> Result<Self, WebError> {
        Ok(Self { tools: cook.kitchen(state).tools().await?, system: cook.system(), ..Self::default() })
    }

    /// The tool of a choice as the contract takes it: `pick`, or `own-0192…`.
    pub fn tool_json(&self, choice: &str) -> Option<Value> {
        if let Some(tool) = SkinTool::find(choice) {
            return Some(tool.id.into());
        }
        let id = choice.strip_prefix("own-")?;
        let tool = self.tools.iter().find(|tool| tool.id.to_string() == id)?;
        Some(json!({"id": choice, "name": tool.name, "reach_mm": tool.reach_mm, "stop": tool.stop, "pins": tool.pins}))
    }

    /// A method by its id: one of ours, or one of this kitchen’s own.
    pub fn method(&self, id: &str) -> Option<Method> {
        Method::find(id).or_else(|| self.own_way(id))
    }

    /// A way of this kitchen’s own by its id.
    pub fn own_way(&self, id: &str) -> Option<Method> {
        self.ways.iter().find(|way| way.kept.way == id)?.method.clone()
    }

    /// The ways that fit a cut: the one proposed first, the other schools, this kitchen’s own.
    pub fn ways_for<'a>(&'a self, cut: Cut) -> impl Iterator<Item = &'a Method> {
        let schools = Method::all_for(cut).map(|method| -> &'a Method { method });
        let own = self.ways.iter().filter_map(|way| way.method.as_ref()).filter(move |method| method.fits(cut));
        schools.chain(own)
    }

    /// The salt of a choice like `own-0192…`.
    pub fn salt(&self, choice: &str) -> Option<&KitSalt> {
        let id = choice.strip_prefix("own-")?;
        self.salts.iter().find(|salt| salt.id.to_string() == id)
    }

    /// The mix of that name.
    pub fn mix_named(&self, name: &str) -> Option<&KitMix> {
        let lower = name.trim().to_lowercase();
        self.mixes.iter().find(|mix| mix.name.to_lowercase() == lower)
    }

    /// The same salts for the core.
    pub fn core_salts(&self) -> Vec<Salt> {
        let read = |s: &KitSalt| Salt::own(&s.name, s.g_per_tsp, s.purity, s.potassium, s.spread_g, s.pinch_g).ok();
        self.salts.iter().filter_map(read).collect()
    }
}

/// A salt as the contract takes it.
pub fn salt_json(salt: &KitSalt) -> Value {
    json!({
        "name": salt.name, "g_per_tsp": salt.g_per_tsp, "purity": salt.purity, "potassium_share": salt.potassium,
        "spread_g": salt.spread_g, "pinch_g": salt.pinch_g
    })
}

/// A mix as the contract takes it; `g` where the cook asked for so much of it.
pub fn mix_json(mix: &KitMix, g: Option<f64>) -> Value {
    let parts: Value = serde_json::from_str(&mix.parts).unwrap_or_default();
    json!({"name": mix.name, "parts": parts, "made_for_g": mix.made_for_g, "g": g})
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::Timestamp;
    use rauchkeller_store::MixId;
    use uuid::Uuid;

    #[test]
    fn a_mix_is_known_by_its_name_with_or_without_grams() {
        let mix = KitMix {
            id: MixId(Uuid::nil()),
            name: "House rub".into(),
            recipe: String::new(),
            parts: "[]".into(),
            made_for_g: None,
            salt_g_per_100g: 32.0,
            created_at: Timestamp::UNIX_EPOCH,
            deleted_at: None,
        };
        let shelf = Shelf { mixes: vec![mix], ..Shelf::default() };
        assert_eq!(shelf.mix_named("house rub").map(|mix| mix.name.as_str()), Some("House rub"));
        assert_eq!(shelf.mix_named(" HOUSE RUB ").map(|mix| mix.name.as_str()), Some("House rub"));
        assert!(shelf.mix_named("rub 22% salt").is_none() && shelf.mix_named("house").is_none());
    }
}
