//! A pounds kitchen and a metric one, page by page: no figure of the other system stands first, no hours in tenths, no word of the
//! machine, no sentence twice.

use crate::support::{Browser, Server};
use serde_json::Value;
use std::collections::{BTreeMap, BTreeSet, VecDeque};

/// What a cook reads on the page, block by block: visible text, and what fields offer. What stands small beside the own figure
/// (`.other`), what somebody typed (`value`) and both systems side by side in a choice are left out.
const READ: &str = r"
  const seen = (e) => e.getClientRects().length > 0;
  const blocks = new Map();
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let n = walk.nextNode(); n; n = walk.nextNode()) {
    const p = n.parentElement;
    if (!p || p.closest('script,style,textarea,noscript,.other,.as-typed,.unit-choice,#asks-units') || !seen(p)) continue;
    const block = p.closest('p,li,td,th,dd,dt,h1,h2,h3,summary,label,text,button,a,figcaption,div,section') || p;
    blocks.set(block, (blocks.get(block) || '') + n.data);
  }
  const said = [...blocks.values()];
  for (const e of document.querySelectorAll('input,textarea')) if (e.placeholder && seen(e)) said.push(e.placeholder);
  for (const e of document.querySelectorAll('[aria-label]')) said.push(e.getAttribute('aria-label'));
  const words = said.map((t) => t.replace(/\s+/g, ' ').trim()).filter((t) => t);
  // Sentences of its own: a list has the same words at several of its entries, reasons are folded, a picture has two sizes.
  const told = [...blocks].filter(([e]) => e.checkVisibility() && !e.closest('svg,details.why,.entries > *,.ways-table > *,.not-here dl > *,.lessons > *,.differences')).map(([, t]) => t);
  const sentences = told.flatMap((t) => t.replace(/\s+/g, ' ').trim().split(/(?<=[.!?]) /)).filter((t) => t.split(' ').length >= 5);
  const twice = sentences.filter((t, i) => sentences.indexOf(t) !== i);
  const links = [...document.querySelectorAll('a[href]')].map((a) => a.getAttribute('href'));
  return [words, links, twice];
";

/// Figures of a system with their unit. A range or a product counts by its unit; `g/kg` and `min/kg` are no weights.
const METRIC: &str = r"[\d½¼¾⅛⅜⅝⅞] ?(°C|mm\b|cm\b|kg\b)";
const CUSTOMARY: &str = r"[\d½¼¾⅛⅜⅝⅞] ?(°F|lbs?\b|oz\b|in([).,;·]|$))";
/// Words of the machine: a brace with a key, a name in kebab-case that is an id, a path of a field, a figure nobody reckoned.
const MACHINE: &str = r#"[{}]|"\w+":|\b(make-brine|in-liquid|salt-on|cover-on|cover-off|brush-dry|lay-out|core_c|at_h|NaN|undefined|null|Some\()|\b\w+_(g|mm|c|h)\b"#;

/// Names of pieces: their cook gave them, and no system does.
const NAMES: &str = r"
  const done = arguments[arguments.length - 1];
  const text = (path) => fetch(path).then((r) => r.text());
  const name = (path) => text(path).then((t) => new DOMParser().parseFromString(t, 'text/html').querySelector('#p-name')?.value);
  (async () => {
    const lists = (await Promise.all(['/cellar', '/book'].map(text))).join(' ');
    const pieces = [...new Set(lists.match(/\/pieces\/[-0-9a-f]{36}/g))];
    done((await Promise.all(pieces.map(name))).filter((name) => name));
  })();
";

/// What on a page says the first of a pattern outside of brackets that hold it.
fn first_said(words: &[String], pattern: &regex::Regex) -> Vec<String> {
    let brackets = regex::Regex::new(r"\([^()]*\)").unwrap();
    let without = |text: &String| {
        brackets
            .replace_all(text, |hit: &regex::Captures| if pattern.is_match(&hit[0]) { String::new() } else { hit[0].to_owned() })
            .into_owned()
    };
    words.iter().map(without).filter(|text| pattern.is_match(text)).collect()
}

async fn reads(server: &Server, units: &str, other: &str) {
    let browser = Browser::laptop().await;
    browser.go(&server.url("/sign-in")).await;
    browser.press("#enter-demo").await;
    browser.find("#cellar").await;
    browser.go(&server.url("/household")).await;
    browser.js(&format!("document.querySelector('input[name=units][value={units}]').click()")).await;
    browser.js("document.querySelector('form[action=\"/household\"]').submit()").await;
    browser.find(&format!("input[name=units][value={units}]:checked")).await;
    let names = browser.client.execute_async(NAMES, vec![]).await.unwrap();
    let mut names: Vec<String> = serde_json::from_value(names).unwrap();
    // The longest first: one may begin as another does.
    names.sort_by_key(|name| std::cmp::Reverse(name.len()));
    assert!(names.len() > 5, "{names:?}");
    let (other, machine) = (regex::Regex::new(other).unwrap(), regex::Regex::new(MACHINE).unwrap());
    let tenths = regex::Regex::new(r"\d\.\d+ h\b").unwrap();
    let mut ahead: VecDeque<String> = [
        "/cellar",
        "/book",
        "/kit",
        "/household",
        "/knife",
        "/refrigerator",
        "/account",
        "/kit/salts/new",
        "/kit/mixes/new",
        "/salt",
        "/taken-out",
        "/bench",
        "/bench?cut=pork-belly&weight=2.4+kg&thick=45+mm",
        "/bench?cut=turkey-whole&weight=5+kg",
        "/bench?cut=duck-whole&weight=2+x+2.1+kg",
        "/bench?cut=beef-rib-steak&weight=400+g+%2B+500+g&thick=30+%2B+42+mm",
        "/bench?cut=pork-butt&weight=4+kg&with=smoker",
        "/bench?cut=pork-belly&weight=5+lb&dose=60&serve=in+1+hour",
        "/bench/ways?cut=pork-belly&weight=2.4+kg",
        "/bench?cut=beef-rib-steak&weight=380+g+25+mm,+560+g+45+mm&fire=180+°C+until+done",
        "/kit/ways/new?from=scored-fierce-low",
        "/kit/ways/take-in",
    ]
    .map(str::to_owned)
    .into();
    let id = regex::Regex::new("[0-9a-f]{8}-[0-9a-f-]{27}").unwrap();
    let (mut walked, mut kinds, mut wrong) = (BTreeSet::new(), BTreeMap::<String, usize>::new(), Vec::new());
    while let Some(path) = ahead.pop_front() {
        // Of each kind of page of a piece a few: those of the demo kitchen stand in every state.
        let of_its_kind = kinds.entry(id.replace(&path, "…").into_owned()).or_default();
        if *of_its_kind >= 4 || !walked.insert(path.clone()) {
            continue;
        }
        *of_its_kind += 1;
        browser.go(&server.url(&path)).await;
        browser.find("body").await;
        let read: Value = browser.js(READ).await;
        let (words, links, twice): (Vec<String>, Vec<String>, Vec<String>) = serde_json::from_value(read).unwrap();
        assert!(!words.is_empty(), "{path} says nothing");
        let unnamed = |text: &String| names.iter().fold(text.clone(), |text, name| text.replace(name, "…"));
        let words: Vec<String> = words.iter().map(unnamed).collect();
        wrong.extend(first_said(&words, &other).into_iter().map(|text| format!("{path}: {text}")));
        wrong.extend(twice.iter().map(|text| format!("{path} says twice: {text}")));
        wrong.extend(words.iter().filter(|text| machine.is_match(text) || tenths.is_match(text)).map(|text| format!("{path}: {text}")));
        // Pages of pieces and of the kitchen; never what changes something, nor files.
        let page = |link: &&String| {
            link.starts_with('/')
                && !["sign-out", "assets", "/api/", ".json", ".csv", ".ics", ".pdf", ".svg", "?", "#"].iter().any(|no| link.contains(no))
        };
        ahead.extend(links.iter().filter(page).filter(|link| !walked.contains(*link)).cloned());
    }
    assert!(walked.len() > 30, "only {} pages", walked.len());
    assert!(walked.iter().any(|path| path.ends_with("/hands")) && walked.iter().any(|path| path.ends_with("/chill")), "{:?}", kinds.keys());
    assert!(wrong.is_empty(), "{units}:\n{}", wrong.join("\n"));
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_pounds_kitchen_reads_pounds_first_on_every_page() {
    reads(&Server::start("demo").await, "us", METRIC).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_metric_kitchen_reads_kilograms_first_on_every_page() {
    reads(&Server::start("demo").await, "metric", CUSTOMARY).await;
}

#[test]
fn what_stands_in_brackets_behind_its_own_is_not_first() {
    let metric = regex::Regex::new(METRIC).unwrap();
    let said = |text: &str| first_said(&[text.to_owned()], &metric).len();
    assert_eq!([said("145 °F (63 °C)"), said("63 °C (145 °F)"), said("7.5 g/kg"), said("at 63 °C"), said("(about 8 mm)")], [0, 1, 0, 1, 0]);
}
