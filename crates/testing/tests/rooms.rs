//! The rooms of the house: no files stand in a circle, and in the core each room knows only those below it.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be read fails the test")]

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

/// Which modules the file of each module uses.
type Graph = BTreeMap<String, BTreeSet<String>>;

/// The rooms of the core, from the ground up.
const CORE: [&str; 24] = [
    "keyed",
    "text",
    "ids",
    "money",
    "code",
    "calendar",
    "dimension",
    "statement",
    "file_kind",
    "chart",
    "activity",
    "entry",
    "usage",
    "former",
    "policy",
    "free_codes",
    "trial_balance",
    "today",
    "history",
    "plan",
    "rehearsal",
    "numbering",
    "review",
    "taking_back",
];

fn sources(crate_name: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..").join(crate_name).join("src")
}

/// The files below a folder, by the path of their module; that of the crate itself is empty.
fn files(root: &Path, module: &[String], found: &mut BTreeMap<String, PathBuf>) {
    for entry in fs::read_dir(root).unwrap() {
        let path = entry.unwrap().path();
        let stem = path.file_stem().unwrap().to_str().unwrap().to_owned();
        let below: Vec<String> = module.iter().cloned().chain([stem.clone()]).collect();
        if path.is_dir() {
            files(&path, &below, found);
        } else if path.extension().is_some_and(|kind| kind == "rs") {
            let own = matches!(stem.as_str(), "mod" | "lib" | "main");
            let name = if own { module.join("::") } else { below.join("::") };
            found.insert(name, path);
        }
    }
}

/// The paths that a `use` names: `a::{b, c::d}` names `a::b` and `a::c::d`.
fn named(tree: &str, prefix: &str, found: &mut Vec<String>) {
    let (mut depth, mut start) = (0, 0);
    let mut parts = Vec::new();
    for (at, c) in tree.char_indices() {
        match c {
            '{' => depth += 1,
            '}' => depth -= 1,
            ',' if depth == 0 => {
                parts.push(&tree[start..at]);
                start = at + 1;
            }
            _ => {}
        }
    }
    parts.push(&tree[start..]);
    for part in parts.into_iter().map(str::trim).filter(|part| !part.is_empty()) {
        match part.split_once('{') {
            Some((head, rest)) => {
                let inner = rest.trim_end().strip_suffix('}').unwrap_or(rest);
                named(inner, &format!("{prefix}{head}"), found);
            }
            None => found.push(format!("{prefix}{}", part.split(" as ").next().unwrap())),
        }
    }
}

/// The module with a file that a path leads to, from where it is written.
fn leads_to<'a>(path: &str, from: &str, files: &'a BTreeMap<String, PathBuf>) -> Option<&'a str> {
    let mut at: Vec<&str> = from.split("::").filter(|step| !step.is_empty()).collect();
    let mut steps = path.split("::").map(str::trim).peekable();
    match steps.peek() {
        Some(&"crate") => at.clear(),
        Some(&"super" | &"self") => {}
        _ => return None,
    }
    for step in steps {
        match step {
            "crate" | "self" => {}
            "super" => drop(at.pop()),
            step => at.push(step),
        }
    }
    while !at.is_empty() {
        if let Some((module, _)) = files.get_key_value(&at.join("::")) {
            return Some(module);
        }
        at.pop();
    }
    None
}

fn graph(crate_name: &str) -> Graph {
    let mut found = BTreeMap::new();
    files(&sources(crate_name), &[], &mut found);
    let uses = |(module, path): (&String, &PathBuf)| {
        let text = fs::read_to_string(path).unwrap();
        let code = text.split("#[cfg(test)]").next().unwrap();
        let lines = code.lines().map(|line| line.split("//").next().unwrap());
        let code: String = lines.collect::<Vec<_>>().join(" ");
        let mut paths = Vec::new();
        for statement in code.split("use ").skip(1) {
            named(statement.split(';').next().unwrap(), "", &mut paths);
        }
        for path in code.split("crate::").skip(1) {
            let end = path.find(|c: char| !(c.is_alphanumeric() || c == '_' || c == ':'));
            paths.push(format!("crate::{}", &path[..end.unwrap_or(path.len())]));
        }
        let used = paths.iter().filter_map(|path| leads_to(path, module, &found));
        let used = used.filter(|used| used != module).map(str::to_owned).collect();
        (module.clone(), used)
    };
    found.iter().map(uses).collect()
}

/// The modules that stand in a circle, or above one: what is left when those that use nothing left are
/// taken out.
fn circles(graph: &Graph) -> BTreeSet<&String> {
    let mut left: BTreeSet<&String> = graph.keys().collect();
    loop {
        let free = |module: &&String| !graph[*module].iter().any(|used| left.contains(used));
        let out: Vec<&String> = left.iter().copied().filter(|module| free(module)).collect();
        if out.is_empty() {
            return left;
        }
        for module in out {
            left.remove(module);
        }
    }
}

#[test]
fn no_files_stand_in_a_circle() {
    for name in ["core", "intake", "sheets", "store", "scenario", "zerofold"] {
        let graph = graph(name);
        assert!(graph.len() > 3, "{name} was read");
        assert!(circles(&graph).is_empty(), "{name}: {:?}", circles(&graph));
    }
    let one = |name: &str, used: &str| (name.to_owned(), BTreeSet::from([used.to_owned()]));
    let planted = Graph::from([one("a", "b"), one("b", "a")]);
    assert_eq!(circles(&planted).len(), 2, "a circle is seen");
}

#[test]
fn each_room_of_the_core_knows_only_those_below_it() {
    let graph = graph("core");
    let room = |module: &str| module.split("::").next().unwrap().to_owned();
    let floor = |room: &str| {
        let floor = CORE.iter().position(|known| *known == room);
        floor.unwrap_or_else(|| panic!("{room} has no place among the rooms"))
    };
    for (module, used) in graph.iter().filter(|(module, _)| !module.is_empty()) {
        for other in used.iter().filter(|other| room(other) != room(module)) {
            assert!(floor(&room(other)) < floor(&room(module)), "{module} uses {other}");
        }
    }
}
