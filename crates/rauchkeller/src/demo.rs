//! The demo kitchen: a rowing club's end-of-season supper. All of it is made up, and no check rests on it.

use jiff::civil::time;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, ToSpan, ZonedDateTime};
use rauchkeller_contract::{Problems, bowls_of, method_value, plan_from};
use rauchkeller_core::method::{Edit, Method};
use rauchkeller_core::run::{Event, What};
use rauchkeller_core::salt::read_mix;
use rauchkeller_core::units::{GramsPerKg, MassIn, grams};
use rauchkeller_core::verdict::{Run, Verdict, next_time};
use rauchkeller_store::{
    HouseholdId, KitMix, KitSalt, MixId, NewWay, PieceId, SaltId, SignUp, Store, StoreError, hash_password, token_hash,
};
use rauchkeller_web::{draft_piece, event};
use serde_json::{Value, json};

/// Sign-in address of the demo cook.
pub const ADDRESS: &str = "crew@boathouse.example";

/// Why the demo could not be loaded.
#[derive(Debug, thiserror::Error)]
pub enum DemoError {
    /// The database.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// A request of the demo makes no plan.
    #[error("demo request: {0}")]
    Request(String),
    /// The calendar.
    #[error(transparent)]
    Time(#[from] jiff::Error),
}

/// How far a piece has come.
enum Ticked {
    /// Nothing is done.
    Nothing,
    /// Every step that lies before now.
    UntilNow,
    /// All of it, with bad patches, rim, middle and juice.
    Eaten(u16, i8, i8, i8),
}

/// Loads the demo kitchen into a database that has none; otherwise leaves everything as it is.
pub async fn load(store: &Store) -> Result<(), DemoError> {
    if store.cook_by_address(ADDRESS).await?.is_some() {
        return Ok(());
    }
    let zone = TimeZone::system();
    let name = zone.iana_name().filter(|name| *name != "Etc/Unknown").unwrap_or("UTC").to_owned();
    let now = ZonedDateTime::now().with_time_zone(TimeZone::get(&name).unwrap_or(TimeZone::UTC));
    // Nobody knows this password: the demo is entered by its one press.
    let password_hash = hash_password(&(uuid::Uuid::now_v7().to_string() + &uuid::Uuid::new_v4().to_string())).unwrap_or_default();
    let sign_up =
        SignUp { household: "Boathouse kitchen".into(), time_zone: name, name: "Crew cook".into(), address: ADDRESS.into(), password_hash };
    let home = store.sign_up(sign_up, now.timestamp()).await?.household;
    kit(store, home, &now).await?;
    own_way(store, home, &now).await?;
    on_their_way(store, home, &now).await?;
    book(store, home, &now).await
}

/// Makes the demo kitchen know its simulated scale; the same token again changes nothing.
pub async fn hang_scale(store: &Store, token: &str) -> Result<(), DemoError> {
    let known = store.device_by_token(token).await?.is_some();
    if let Some(cook) = store.cook_by_address(ADDRESS).await?.filter(|_| !known) {
        store
            .kitchen(cook.household)
            .add_scale("demo-scale", "bench scale", 0.1, 5000.0, token_hash(token), jiff::Timestamp::now())
            .await?;
    }
    Ok(())
}

/// A salt weighed by the crew, and two mixes.
async fn kit(store: &Store, home: HouseholdId, now: &ZonedDateTime) -> Result<(), DemoError> {
    let kitchen = store.kitchen(home);
    let salt = KitSalt {
        id: SaltId(uuid::Uuid::nil()),
        name: "grey jar".into(),
        g_per_tsp: 4.62,
        spread_g: Some(0.21),
        uncertainty_g: Some(0.06),
        purity: 0.96,
        potassium: 0.0,
        pinch_g: Some(0.38),
        weighings: "46 47 45.5".into(),
        created_at: now.timestamp(),
        deleted_at: None,
    };
    kitchen.add_salt(&uuid::Uuid::now_v7().to_string(), &salt, now.timestamp()).await?;
    let recipes = [
        ("boathouse rub", "60 g fine sea salt\n45 g brown sugar\n25 g paprika\n10 g black pepper\n6 g mustard powder\nfor 6 kg"),
        ("garlic paste", "30 g fine sea salt\n12 cloves garlic\n40 g oil\n15 g rosemary\nfor 3 kg"),
    ];
    for (name, recipe) in recipes {
        let mix = read_mix(name, recipe, &[]).map_err(|e| DemoError::Request(format!("{e:?}")))?;
        let parts: Vec<Value> = mix.parts.iter().map(|p| json!({"name": p.name, "g": p.weight.in_g(), "salt_g": p.salt.in_g()})).collect();
        let row = KitMix {
            id: MixId(uuid::Uuid::nil()),
            name: name.into(),
            recipe: recipe.into(),
            parts: json!(parts).to_string(),
            made_for_g: mix.made_for.map(MassIn::in_g),
            salt_g_per_100g: mix.salt_share() * 100.0,
            created_at: now.timestamp(),
            deleted_at: None,
        };
        kitchen.add_mix(&uuid::Uuid::now_v7().to_string(), &row, now.timestamp()).await?;
    }
    Ok(())
}

/// A way of the crew's own: the open-air school, saltier, with a long rest.
async fn own_way(store: &Store, home: HouseholdId, now: &ZonedDateTime) -> Result<(), DemoError> {
    let Some((school, cook)) = Method::find("open-air").zip(store.cook_by_address(ADDRESS).await?) else { return Ok(()) };
    let changes = [
        Edit::Why("the crew likes it saltier, and it waits for the last boat".into()),
        Edit::Dose(Some(GramsPerKg(9.0))),
        Edit::Title("rest".into(), Some("Out of the heat, until the last boat is in".into())),
        Edit::Minutes("rest".into(), Some(25.0)),
    ];
    let copy = school.copied("own-boathouse-belly", "boathouse belly");
    let changed = changes.iter().try_fold(copy, |way, change| way.edited(change)).map_err(|e| DemoError::Request(e.to_string()))?;
    let document = method_value(&changed).to_string();
    let new = NewWay { name: &changed.name, way: &changed.id, document: &document };
    store.kitchen(home).add_way("demo-way", new, cook.id, now.timestamp()).await?;
    Ok(())
}

/// The supper: tomorrow evening, and a turkey on the fire for tonight's crew.
async fn on_their_way(store: &Store, home: HouseholdId, now: &ZonedDateTime) -> Result<(), DemoError> {
    let supper = now.date().tomorrow()?.to_datetime(time(18, 30, 0, 0)).to_zoned_datetime(now.time_zone().clone())?;
    let ago = |hours: i64| now.checked_sub(SignedDuration::from_hours(hours));
    let day = |days: i64| Ok::<_, jiff::Error>(now.date().checked_sub(days.days())?.to_string());
    let tonight = now.checked_add(SignedDuration::from_mins(95))?;
    let belly = json!({"piece": {"cut": "pork-belly", "weight_g": 2400, "salt_thickness_mm": 45, "skin_mm": 2.2, "fat_mm": 8, "fat_min_mm": 7, "bought_on": day(1)?},
        "servings": 8});
    let belly = into_the_cold(belly, &ago(15)?, &supper)?;
    let kept = put(store, home, belly.clone(), &ago(16)?, &supper, now, Ticked::UntilNow).await?;
    crate::demo_chill::weigh_the_belly(store, home, kept, &belly, now).await?;
    let steaks = json!({"piece": {"cut": "beef-rib-steak", "weight_g": 1680, "salt_thickness_mm": 38, "fat_mm": 6, "bought_on": day(0)?,
        "portions": [{"weight_g": 420}, {"weight_g": 420}, {"weight_g": 420}, {"weight_g": 420}]}, "servings": 4});
    put(store, home, steaks, &now.checked_add(SignedDuration::from_mins(20))?, &supper, now, Ticked::Nothing).await?;
    // Soon after midnight two hours ago was another day, and nothing was bought after it.
    let ducks = json!({"piece": {"cut": "duck-whole", "weight_g": 4200, "salt_thickness_mm": 34, "bought_on": ago(2)?.date().to_string(),
        "portions": [{"weight_g": 2100}, {"weight_g": 2100}]}, "servings": 8});
    let ducks = into_the_cold(ducks, &now.checked_sub(SignedDuration::from_mins(25))?, &supper)?;
    put(store, home, ducks, &ago(2)?, &supper, now, Ticked::UntilNow).await?;
    // The belly for the club's lunch the day after: its skin is still whole.
    let lunch = now.date().checked_add(2.days())?.to_datetime(time(13, 0, 0, 0)).to_zoned_datetime(now.time_zone().clone())?;
    let slab = json!({"piece": {"cut": "pork-belly", "weight_g": 3100, "salt_thickness_mm": 45, "length_mm": 300, "width_mm": 220, "skin_mm": 2.5, "fat_mm": 8,
        "fat_min_mm": 7, "bought_on": day(0)?}, "servings": 10, "skin": {"work": "parallel", "spacing_mm": 8}});
    put(store, home, slab, &now.checked_add(SignedDuration::from_mins(45))?, &lunch, now, Ticked::Nothing).await?;
    let turkey = json!({"piece": {"cut": "turkey-whole", "weight_g": 5200, "salt_thickness_mm": 50, "bought_on": day(2)?}, "servings": 9});
    put(store, home, turkey, &ago(44)?, &tonight, now, Ticked::UntilNow).await?;
    Ok(())
}

/// Asks for the hours that put a piece into the cold at a moment, given its meal.
fn into_the_cold(mut request: Value, at: &ZonedDateTime, meal: &ZonedDateTime) -> Result<Value, DemoError> {
    let early = at.checked_sub(SignedDuration::from_hours(72))?;
    let mut trial = request.clone();
    trial["now"] = early.to_string().into();
    trial["serve_at"] = meal.to_string().into();
    trial["piece"]["bought_on"] = Value::Null;
    let plan = plan_from(&trial, &early).map_err(|p| refused(&p))?;
    let out: ZonedDateTime = plan.fridge.to.parse()?;
    request["hours"] = (out.duration_since(at).as_secs_f64() / 3600.0).into();
    Ok(request)
}

fn refused(problems: &Problems) -> DemoError {
    DemoError::Request(problems.problems.iter().map(|p| format!("{}: {}", p.field, p.sentence())).collect::<Vec<_>>().join("; "))
}

/// Bad patches, rim, middle, juice.
type Tasting = (u16, i8, i8, i8);

/// A dozen finished cooks: cut, grams, thickness, dose, hours, days ago, and how it was.
const EATEN: [(&str, u32, u32, f64, u32, i64, Tasting); 12] = [
    ("pork-belly", 1100, 38, 10.0, 14, 12, (0b0_0100_1000, 2, 0, 0)),
    ("beef-rib-steak", 520, 36, 10.0, 20, 17, (0, 0, 0, 1)),
    ("duck-whole", 2200, 34, 10.0, 22, 24, (0, 1, 0, 0)),
    ("pork-belly", 1900, 45, 9.0, 24, 31, (0b1_0000_0000, 1, 0, 1)),
    ("turkey-whole", 4800, 48, 8.0, 30, 38, (0, 0, -1, 0)),
    ("pork-belly", 2000, 46, 8.0, 30, 45, (0, 0, 0, 1)),
    ("beef-rib-steak", 480, 32, 12.0, 18, 52, (0, 1, 1, 0)),
    ("duck-whole", 2400, 36, 9.0, 24, 60, (0b0_0000_0010, 0, 0, 0)),
    ("beef-rib-steak", 610, 42, 10.0, 26, 74, (0, 0, 0, 0)),
    ("pork-belly", 2300, 44, 7.5, 36, 88, (0, 0, 0, 1)),
    ("turkey-whole", 6100, 54, 8.0, 36, 102, (0, 0, -1, 1)),
    ("beef-rib-steak", 700, 45, 9.0, 30, 120, (0, 0, -1, 0)),
];

async fn book(store: &Store, home: HouseholdId, now: &ZonedDateTime) -> Result<(), DemoError> {
    for (cut, weight, thick, dose, hours, days, (bad, rim, middle, juice)) in EATEN {
        let meal = now.date().checked_sub(days.days())?.to_datetime(time(18, 30, 0, 0)).to_zoned_datetime(now.time_zone().clone())?;
        let start = meal.checked_sub(SignedDuration::from_hours(i64::from(hours) + 8))?;
        let request = json!({"piece": {"cut": cut, "weight_g": weight, "salt_thickness_mm": thick, "bought_on": start.date().to_string()},
            "salt": {"g_per_kg": dose}, "hours": hours});
        put(store, home, request, &start, &meal, now, Ticked::Eaten(bad, rim, middle, juice)).await?;
    }
    Ok(())
}

/// Plans a piece as it was planned then, keeps it, and ticks what is done.
async fn put(
    store: &Store,
    home: HouseholdId,
    mut request: Value,
    then: &ZonedDateTime,
    meal: &ZonedDateTime,
    now: &ZonedDateTime,
    ticked: Ticked,
) -> Result<PieceId, DemoError> {
    request["now"] = then.to_string().into();
    request["serve_at"] = meal.to_string().into();
    let plan = plan_from(&request, then).map_err(|p| refused(&p))?;
    let kitchen = store.kitchen(home);
    let mut events: Vec<Event> = Vec::new();
    for step in &plan.steps {
        let begins = step.tick == "begins";
        let at = if begins { &step.starts_at } else { &step.ends_at }.parse::<ZonedDateTime>()?.timestamp();
        let over = match ticked {
            Ticked::Nothing => false,
            Ticked::UntilNow => at <= now.timestamp(),
            Ticked::Eaten(..) => true,
        };
        if !over {
            continue;
        }
        let task = step.task_id();
        // What was weighed out goes on with its task.
        for bowl in bowls_of(&plan).into_iter().filter(|bowl| bowl.task == task) {
            let says = What::SaltOn { task: Some(task.clone()), bowl: Some(bowl.id), grams: grams(bowl.target_g), purity: None };
            events.push(event(at, at, says));
        }
        events.push(event(at, at, if begins { What::TaskBegan { task } } else { What::TaskEnded { task } }));
    }
    if let Ticked::Eaten(bad, rim, middle, juice) = ticked {
        let bad_patches = (plan.request.skin_mm > 0.0).then_some(bad);
        let run =
            Run { skin_dryness: plan.fridge.skin_dryness, hours: plan.fridge.planned_h, ideal_hours: plan.fridge.ideal_h, recorded: true };
        let advice = next_time(Verdict { bad_patches, rim, middle, juice }, run);
        events.push(event(meal.timestamp(), meal.timestamp(), What::Tasted { bad_patches, rim, middle, juice, advice }));
    }
    let id = kitchen.keep(draft_piece(uuid::Uuid::now_v7().to_string(), &request, &plan).into_new(), then.timestamp()).await?.id();
    kitchen.append(id, &events, None, None).await?;
    Ok(id)
}
