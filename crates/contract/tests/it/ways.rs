//! Ways of working, each a request as a cook would put it, and what must come of it: `tests/ways/*.json`.
//!
//! `holds` are [pointer into the plan, how, value]; a value that begins with / points into the plan as well. `says` must stand somewhere
//! in what a cook reads, `quiet` must not; `order` are kinds of tasks, one after the other. `page` stands on the Bench, which the web
//! crate checks with the same files.

use rauchkeller_contract::plan_from;
use serde_json::Value;

fn ways() -> Vec<(&'static str, Value)> {
    macro_rules! way {
        ($($name:literal),* $(,)?) => {
            vec![$(($name, serde_json::from_str(include_str!(concat!("../ways/", $name, ".json"))).unwrap())),*]
        };
    }
    way![
        "a-beds-salt-is-the-skins",
        "a-belly-with-typed-minutes-keeps-its-rule",
        "a-bird-is-trussed-last",
        "a-mix-in-one-breath",
        "a-mix-that-brings-more-than-the-dose",
        "a-paste-all-over-is-no-clean-skin",
        "a-spit-over-coals-turns",
        "a-trays-bath-covers",
        "acid-and-soda-crackles",
        "an-oven-takes-its-time",
        "covered-an-hour-a-kilogram",
        "fierce-first-then-low-puffs-dry-skin",
        "jobs-hang-on-the-heat",
        "legs-have-their-share",
        "paste-all-but-without-salt",
        "pinches-cloves-and-sprigs",
        "pulled-it-bears-more",
        "salted-while-it-thaws",
        "split-it-agrees-with-its-scale",
        "steady-175-does-not-puff",
        "steady-200-crackles",
        "strips-cut-in-the-plan-keep-their-rule",
        "thawed-in-cold-water",
        "turned-in-the-oven",
        "two-mixes-a-day-apart",
        "what-holds-no-salt-brings-none",
        "what-is-left-of-a-paste-is-raw",
    ]
}

/// Where a pointer leads; a list of things with a `face` is looked through by that.
fn at<'a>(plan: &'a Value, pointer: &str) -> &'a Value {
    pointer.split('/').skip(1).fold(plan, |value, key| match value {
        Value::Array(all) => {
            let by_face = || all.iter().find(|each| each["face"] == key);
            key.parse::<usize>().ok().and_then(|i| all.get(i)).or_else(by_face).unwrap_or(&Value::Null)
        }
        _ => &value[key],
    })
}

#[test]
fn ways_of_working_come_to_what_they_must() {
    // A file that nobody lists would be checked by nobody.
    let written = std::fs::read_dir(concat!(env!("CARGO_MANIFEST_DIR"), "/tests/ways")).unwrap().count();
    assert_eq!(ways().len(), written, "every way in the folder is checked");
    for (name, way) in ways() {
        let mut checked = 0;
        let plan = plan_from(&way["request"], &"2026-12-10T09:00[Europe/Vienna]".parse().unwrap());
        let plan = serde_json::to_value(plan.unwrap_or_else(|problems| panic!("{name}: {problems:?}"))).unwrap();
        assert!(way["why"].as_str().is_some_and(|why| !why.is_empty()), "{name} says where it comes from");
        for hold in way["holds"].as_array().unwrap() {
            let (pointer, how) = (hold[0].as_str().unwrap(), hold[1].as_str().unwrap());
            let got = at(&plan, pointer);
            let want = hold[2].as_str().filter(|text| text.starts_with('/')).map_or(&hold[2], |other| at(&plan, other));
            assert!(hold[2].is_null() || !want.is_null(), "{name}: there is no {}", hold[2]);
            let number = |value: &Value| value.as_f64().unwrap_or_else(|| panic!("{name}: {pointer} is {value}"));
            let holds = match how {
                "is" => got == want,
                "near" => (number(got) / number(want) - 1.0).abs() < 0.01,
                "at-most" => number(got) <= number(want) + 1e-9,
                "at-least" => number(got) >= number(want) - 1e-9,
                "between" => (number(&want[0])..=number(&want[1])).contains(&number(got)),
                other => panic!("{name}: {other}?"),
            };
            assert!(holds, "{name}: {pointer} is {got}, which is not {how} {want}");
            checked += 1;
        }
        // What must come after what: each kind after the one before it, wherever it stands.
        let kinds: Vec<&str> = plan["steps"].as_array().unwrap().iter().filter_map(|step| step["kind"].as_str()).collect();
        let mut from = 0;
        for kind in way["order"].as_array().into_iter().flatten().filter_map(Value::as_str) {
            from +=
                1 + kinds[from..].iter().position(|k| *k == kind).unwrap_or_else(|| panic!("{name}: {kind} not in its place in {kinds:?}"));
            checked += 1;
        }
        let read = plan.to_string();
        let text = |key: &str| way[key].as_str();
        checked += ["says", "quiet", "page"].iter().filter(|key| text(key).is_some()).count();
        assert!(text("says").is_none_or(|says| read.contains(says)), "{name} does not say “{}”", way["says"]);
        assert!(text("quiet").is_none_or(|quiet| !read.contains(quiet)), "{name} says “{}”", way["quiet"]);
        assert!(checked > 0, "{name} checks nothing");
    }
}
