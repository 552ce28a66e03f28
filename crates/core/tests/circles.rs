//! No circle of more than three files in core: what uses each other cannot be read, tested or moved by itself.
//!
//! Read from the `use` lines: of each file the files it names something from, through the doors of the rooms (`pub use` in a `mod.rs`) to
//! where it is written. Circles are the strongly connected parts of that (Tarjan 1972). Tests are left out: they use everything.

use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

type Module = Vec<String>;

/// Most files that may use each other in a circle.
const MOST: usize = 3;

#[derive(Default)]
struct Source {
    /// Everything it names, as whole paths.
    names: Vec<Module>,
    /// What it hands on by another name: the last part, and where that is.
    hands_on: BTreeMap<String, Module>,
    is_door: bool,
}

fn split(path: &str) -> Module {
    path.split("::").map(|part| part.trim().to_owned()).collect()
}

/// The paths of a `use` tree.
fn leaves(prefix: &str, tree: &str, found: &mut Vec<String>) {
    let tree = tree.trim();
    let Some(open) = tree.find('{').filter(|_| tree.ends_with('}')) else {
        let path = format!("{prefix}{tree}");
        found.push(path.split(" as ").next().unwrap_or_default().trim().to_owned());
        return;
    };
    let inside = format!("{prefix}{}", tree[..open].trim());
    let (mut depth, mut from) = (0, open + 1);
    for (at, sign) in tree.char_indices().skip(open + 1) {
        match sign {
            '{' => depth += 1,
            '}' if depth > 0 => depth -= 1,
            ',' | '}' if depth == 0 => {
                if !tree[from..at].trim().is_empty() {
                    leaves(&inside, &tree[from..at], found);
                }
                from = at + 1;
            }
            _ => {}
        }
    }
}

/// A file's own words: no comments, no tests at its end.
fn code(text: &str) -> String {
    let code = text.split("#[cfg(test)]\nmod tests").next().unwrap_or_default();
    code.lines().map(|line| line.split("//").next().unwrap_or_default()).collect::<Vec<_>>().join("\n")
}

fn whole(module: &Module, is_door: bool, path: &str, known: &BTreeSet<Module>) -> Option<Module> {
    let mut parts = split(path);
    let mut base = module.clone();
    match parts.first()?.as_str() {
        "crate" => return Some(parts.split_off(1)),
        "self" => return Some([base, parts.split_off(1)].concat()),
        "super" => {
            while parts.first().is_some_and(|part| part == "super") {
                base.pop();
                parts.remove(0);
            }
            return Some([base, parts].concat());
        }
        _ => {}
    }
    let inside = [module.clone(), parts.clone()].concat();
    (is_door || known.contains(&inside[..=module.len()])).then_some(inside)
}

fn read(text: &str, module: &Module, is_door: bool, known: &BTreeSet<Module>) -> Source {
    let code = code(text);
    let mut source = Source { is_door, ..Source::default() };
    for statement in code.split(';') {
        let line = statement.rsplit('\n').find(|line| !line.trim().is_empty() && !line.starts_with([' ', '}'])).unwrap_or_default();
        let Some(at) = statement.rfind(line) else { continue };
        let statement = statement[at..].trim();
        let (handed, rest) = statement.strip_prefix("pub").map_or((false, statement), |rest| {
            let rest = rest.trim_start();
            (true, rest.strip_prefix('(').and_then(|rest| rest.split_once(')')).map_or(rest, |(_, rest)| rest.trim_start()))
        });
        let Some(tree) = rest.strip_prefix("use ") else { continue };
        let mut found = Vec::new();
        leaves("", &tree.split_whitespace().collect::<Vec<_>>().join(" "), &mut found);
        for path in found {
            let Some(path) = whole(module, is_door, &path, known) else { continue };
            if let (true, Some(last)) = (handed, path.last()) {
                source.hands_on.insert(last.clone(), path.clone());
            }
            source.names.push(path);
        }
    }
    // Named in passing, without a `use`.
    for (sign, base) in [("crate::", Module::new()), ("super::", module[..module.len().saturating_sub(1)].to_vec())] {
        for (at, _) in code.match_indices(sign) {
            let rest = &code[at + sign.len()..];
            let end = rest.find(|c: char| !(c.is_alphanumeric() || c == '_' || c == ':')).unwrap_or(rest.len());
            source.names.push([base.clone(), split(rest[..end].trim_end_matches(':'))].concat());
        }
    }
    source
}

/// The file a path leads to.
fn leads_to(path: &[String], all: &BTreeMap<Module, Source>, doors: usize) -> Option<Module> {
    let at = (0..=path.len()).rev().find(|n| all.contains_key(&path[..*n]))?;
    let (module, rest) = path.split_at(at);
    let handed = rest.first().and_then(|first| all[module].hands_on.get(first)).filter(|to| doors < 8 && to.as_slice() != path);
    handed.map_or(Some(module.to_vec()), |to| leads_to(&[to.as_slice(), &rest[1..]].concat(), all, doors + 1))
}

fn walk(folder: &Path, module: &Module, found: &mut Vec<(Module, bool, String)>) {
    for entry in std::fs::read_dir(folder).unwrap().map(Result::unwrap) {
        let (path, name) = (entry.path(), entry.file_name().into_string().unwrap());
        let stem = name.trim_end_matches(".rs").to_owned();
        let inside = [module.as_slice(), std::slice::from_ref(&stem)].concat();
        if path.is_dir() {
            if stem != "tests" {
                walk(&path, &inside, found);
            }
        } else if !["tests", "testing"].contains(&stem.as_str()) {
            let is_door = ["mod", "lib"].contains(&stem.as_str());
            found.push((if is_door { module.clone() } else { inside }, is_door, std::fs::read_to_string(&path).unwrap()));
        }
    }
}

/// The circles of a graph: its strongly connected parts with more than one member.
fn circles(graph: &BTreeMap<Module, BTreeSet<Module>>) -> Vec<Vec<Module>> {
    #[derive(Default)]
    struct Search {
        seen: BTreeMap<Module, (usize, usize)>,
        stack: Vec<Module>,
        found: Vec<Vec<Module>>,
    }
    fn visit(search: &mut Search, graph: &BTreeMap<Module, BTreeSet<Module>>, at: &Module) -> usize {
        let number = search.seen.len();
        search.seen.insert(at.clone(), (number, number));
        search.stack.push(at.clone());
        let mut low = number;
        for next in &graph[at] {
            low = match search.seen.get(next) {
                None => low.min(visit(search, graph, next)),
                Some((number, _)) if search.stack.contains(next) => low.min(*number),
                Some(_) => low,
            };
        }
        if low == number {
            let from = search.stack.iter().position(|on| on == at).unwrap();
            let part = search.stack.split_off(from);
            search.found.extend((part.len() > 1).then_some(part));
        }
        low
    }
    let mut search = Search::default();
    for at in graph.keys() {
        if !search.seen.contains_key(at) {
            visit(&mut search, graph, at);
        }
    }
    search.found
}

/// Who uses whom, between the files of a folder.
fn graph(folder: &Path) -> BTreeMap<Module, BTreeSet<Module>> {
    let mut files = Vec::new();
    walk(folder, &Module::new(), &mut files);
    let known: BTreeSet<Module> = files.iter().map(|(module, ..)| module.clone()).collect();
    let all: BTreeMap<Module, Source> =
        files.iter().map(|(module, is_door, text)| (module.clone(), read(text, module, *is_door, &known))).collect();
    let uses = |module: &Module, source: &Source| {
        let to = source.names.iter().filter_map(|path| leads_to(path, &all, 0));
        // A door hands on what lies behind it, and uses none of it; the whole crate is no file.
        let behind = |to: &Module| source.is_door && to.starts_with(module);
        to.filter(|to| to != module && !to.is_empty() && !behind(to)).collect()
    };
    all.iter().map(|(module, source)| (module.clone(), uses(module, source))).collect()
}

#[test]
fn no_more_than_three_files_use_each_other_in_a_circle() {
    let graph = graph(&Path::new(env!("CARGO_MANIFEST_DIR")).join("src"));
    let edges: usize = graph.values().map(BTreeSet::len).sum();
    assert!(graph.len() > 150 && edges > 600, "{} files, {edges} uses: is it read right?", graph.len());
    let named = |part: &[Module]| part.iter().map(|module| module.join("/")).collect::<Vec<_>>().join(", ");
    let long: Vec<String> = circles(&graph).iter().filter(|part| part.len() > MOST).map(|part| named(part)).collect();
    assert!(long.is_empty(), "these use each other in a circle: {long:#?}");
}

/// What each floor uses none of: what stands on it, and the request, which is settled before there is any work.
const FLOORS: [(&str, &[&str]); 6] = [
    ("method", &["work", "place", "plan", "run"]),
    ("work", &["ask/request", "place", "plan", "run"]),
    ("ask", &["settle", "work", "place", "plan", "say", "run"]),
    ("settle", &["work", "place", "plan", "say", "run"]),
    ("place", &["ask/request", "settle", "plan", "say", "run"]),
    ("say", &["ask/request", "run"]),
];

#[test]
fn no_floor_uses_what_stands_on_it() {
    let graph = graph(&Path::new(env!("CARGO_MANIFEST_DIR")).join("src"));
    let path = |module: &Module| module.join("/");
    let inside = |path: &str, room: &str| path == room || path.strip_prefix(room).is_some_and(|rest| rest.starts_with('/'));
    let mut looked_at = 0;
    for (floor, above) in FLOORS {
        for (file, uses) in graph.iter().filter(|(file, _)| inside(&path(file), floor)) {
            looked_at += uses.len();
            let wrong: Vec<String> = uses.iter().map(path).filter(|used| above.iter().any(|room| inside(used, room))).collect();
            assert!(wrong.is_empty(), "{} uses {wrong:?}", path(file));
        }
    }
    assert!(looked_at > 100, "only {looked_at} uses: is it read right?");
    // The request is seen where it is used.
    assert!(graph.iter().any(|(file, uses)| inside(&path(file), "plan") && uses.iter().any(|used| path(used) == "ask/request")));
}

#[test]
fn a_circle_is_seen_through_a_door() {
    let folder = std::env::temp_dir().join(format!("circles-{}", std::process::id()));
    std::fs::create_dir_all(folder.join("room")).unwrap();
    let write = |name: &str, text: &str| std::fs::write(folder.join(name), text).unwrap();
    write("lib.rs", "mod room;\nmod other;\n");
    write("room/mod.rs", "mod a;\nmod b;\nmod c;\npub use a::A;\npub use {b::B, c::C};\n");
    write("room/a.rs", "use super::b::B;\npub struct A(B);\n");
    write("room/b.rs", "use crate::room::{\n    C,\n};\npub struct B(C);\n");
    write("room/c.rs", "//! use super::b::B;\npub struct C(Option<crate::other::D>);\n");
    write("other.rs", "use crate::room::A;\npub struct D(Box<A>);\n#[cfg(test)]\nmod tests {\n    use crate::room::B;\n}\n");
    let seen = circles(&graph(&folder));
    std::fs::remove_dir_all(&folder).unwrap();
    assert_eq!(seen.len(), 1, "{seen:?}");
    assert_eq!(
        seen[0].iter().map(|m| m.join("/")).collect::<BTreeSet<_>>(),
        ["other", "room/a", "room/b", "room/c"].map(String::from).into()
    );
}
