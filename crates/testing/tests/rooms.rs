//! The rooms of the house: no files stand in a circle, and in core, intake, store, server and front end each room knows only
//! those below it.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be read fails the test")]

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

/// Which modules the file of each module uses.
type Graph = BTreeMap<String, BTreeSet<String>>;

/// The crates, from the ground up, each with those of ours that it may know.
const CRATES: [(&str, &[&str]); 10] = [
    ("core", &[]),
    ("intake", &["core"]),
    ("phrases", &["core", "intake"]),
    ("wire", &["core", "phrases", "intake"]),
    ("sheets", &["core", "intake"]),
    ("exports", &["core", "intake", "phrases", "sheets", "wire"]),
    ("store", &["core"]),
    ("scenario", &["sheets"]),
    ("server", &["core", "phrases", "wire", "intake", "sheets", "exports", "store"]),
    ("zerofold", &["core", "phrases", "wire", "intake", "sheets", "store", "scenario", "server"]),
];

/// The rooms of the core, from the ground up.
const CORE: [&str; 33] = [
    "keyed",
    "text",
    "access",
    "people",
    "ids",
    "money",
    "code",
    "calendar",
    "dimension",
    "statement",
    "file_kind",
    "chart",
    "names",
    "activity",
    "entry",
    "overlap",
    "usage",
    "former",
    "policy",
    "free_codes",
    "trial_balance",
    "row_figures",
    "today",
    "history",
    "plan",
    "items",
    "rehearsal",
    "reports",
    "numbering",
    "review",
    "rollback",
    "trail",
    "settings",
];

/// The rooms of the intake, from the ground up.
const INTAKE: [&str; 33] = [
    "columns",
    "numbers",
    "dates",
    "period_text",
    "reason",
    "row_kind",
    "rows",
    "codes",
    "ranges",
    "paths",
    "words",
    "cause",
    "wordings",
    "question",
    "chart_options",
    "layout",
    "several",
    "reading",
    "signs",
    "periods",
    "audit",
    "usage",
    "journal",
    "balances",
    "chart",
    "compare",
    "crosswalk",
    "items",
    "shapes",
    "workbook",
    "table",
    "analysis",
    "zero",
];

/// The rooms of the store, from the ground up.
const STORE: [&str; 16] = [
    "error",
    "ids",
    "write_queue",
    "database",
    "member",
    "writing",
    "trail",
    "people",
    "chart",
    "books",
    "jobs",
    "journal",
    "items",
    "plans",
    "imports",
    "review",
];

/// The rooms of the server, from the ground up.
const SERVER: [&str; 29] = [
    "access",
    "catalogue",
    "problem",
    "secrets",
    "mail",
    "config",
    "values",
    "extract",
    "cache",
    "waiting_file",
    "metrics",
    "state",
    "health",
    "letters",
    "etag",
    "middleware",
    "session",
    "passwords",
    "people",
    "headers",
    "assets",
    "connections",
    "proofs",
    "files",
    "intake",
    "jobs",
    "actions",
    "costs",
    "router",
];

/// The rooms of the front end, from the ground up.
const WEB: [&str; 21] = [
    "forms.svelte",
    "api",
    "figures",
    "staging",
    "books.svelte",
    "ui",
    "commands",
    "trail",
    "people",
    "journal",
    "items",
    "plan",
    "sheet",
    "history",
    "numbering",
    "merge",
    "review",
    "import",
    "reports",
    "settings",
    "start",
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

/// What modules give out as their own, with the path of where it stands.
fn given_out(files: &BTreeMap<String, PathBuf>) -> BTreeMap<String, String> {
    let of_one = |(module, path): (&String, &PathBuf)| {
        let text = fs::read_to_string(path).unwrap();
        let at = if module.is_empty() { "crate".to_owned() } else { format!("crate::{module}") };
        let mut paths = Vec::new();
        for statement in text.split("pub use ").chain(text.split("pub(crate) use ").skip(1)).skip(1)
        {
            named(statement.split(';').next().unwrap(), "", &mut paths);
        }
        let own = paths.into_iter().filter_map(move |path| {
            let name = path.rsplit_once("::")?.1;
            let from =
                if path.starts_with("crate::") { path.clone() } else { format!("{at}::{path}") };
            Some((format!("{at}::{name}"), from))
        });
        own.collect::<Vec<_>>()
    };
    files.iter().flat_map(of_one).collect()
}

/// A path from the root of the crate, of one that is written in a module.
fn spelled_out(path: &str, from: &str) -> String {
    let mut at: Vec<&str> = from.split("::").filter(|step| !step.is_empty()).collect();
    let mut steps = path.split("::").map(str::trim).peekable();
    match steps.peek() {
        Some(&"crate") => at.clear(),
        Some(&"super" | &"self") => {}
        _ => return path.to_owned(),
    }
    for step in steps {
        match step {
            "crate" | "self" => {}
            "super" => drop(at.pop()),
            step => at.push(step),
        }
    }
    std::iter::once("crate").chain(at).collect::<Vec<_>>().join("::")
}

/// The module with a file that a path from the root leads to.
fn leads_to<'a>(path: &str, files: &'a BTreeMap<String, PathBuf>) -> Option<&'a str> {
    let steps = path.strip_prefix("crate::")?.split("::");
    let mut at: Vec<&str> = steps.filter(|step| !step.is_empty()).collect();
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
    let given_out = given_out(&found);
    let uses = |(module, path): (&String, &PathBuf)| {
        let text = fs::read_to_string(path).unwrap();
        let code = text.split("#[cfg(test)]").next().unwrap();
        let lines = code.lines().map(|line| line.split("//").next().unwrap());
        // How far something can be seen is no use of who sees it.
        let code = lines.collect::<Vec<_>>().join(" ").replace("(in crate::", "(in ");
        let mut paths = Vec::new();
        for statement in code.split("use ").skip(1) {
            named(statement.split(';').next().unwrap(), "", &mut paths);
        }
        for path in code.split("crate::").skip(1) {
            let end = path.find(|c: char| !(c.is_alphanumeric() || c == '_' || c == ':'));
            paths.push(format!("crate::{}", &path[..end.unwrap_or(path.len())]));
        }
        // What is called of a module that stands inside this one; what is only given out is not.
        let kept = code.split_inclusive(';').filter(|part| !part.contains("pub use "));
        let kept = kept.filter(|part| !part.contains("pub(crate) use "));
        let calls: String = kept.collect();
        for inner in code.split("mod ").skip(1).filter_map(|rest| rest.split_once(';')) {
            let call = format!("{}::", inner.0);
            let begins = |(at, _): &(usize, &str)| {
                !calls[..*at].ends_with(|c: char| c.is_alphanumeric() || c == '_' || c == ':')
            };
            paths.extend(
                calls.match_indices(&call).find(begins).map(|_| format!("self::{}", inner.0)),
            );
        }
        let paths = paths.iter().map(|path| {
            let whole = spelled_out(path, module);
            given_out.get(&whole).cloned().unwrap_or(whole)
        });
        let used = paths.filter_map(|path| leads_to(&path, &found));
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

/// Which files of the front end each of them imports, by their paths without what tells their kind.
fn web_graph() -> Graph {
    fn files(folder: &Path, found: &mut Vec<PathBuf>) {
        for entry in fs::read_dir(folder).unwrap() {
            let path = entry.unwrap().path();
            if path.is_dir() {
                files(&path, found);
            } else if path.extension().is_some_and(|kind| kind == "ts" || kind == "svelte") {
                found.push(path);
            }
        }
    }
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src").canonicalize().unwrap();
    let mut paths = Vec::new();
    files(&root, &mut paths);
    let name = |path: &Path| path.strip_prefix(&root).unwrap().to_str().unwrap().to_owned();
    let known: BTreeSet<String> = paths.iter().map(|path| name(path)).collect();
    let imports = |path: &PathBuf| {
        let text = fs::read_to_string(path).unwrap();
        let named =
            text.split(['\'', '"']).filter(|s| s.starts_with("$lib/") || s.starts_with('.'));
        let used = named.filter_map(|named| {
            let at = match named.strip_prefix("$lib/") {
                Some(rest) => root.join("lib").join(rest),
                None => path.parent().unwrap().join(named),
            };
            let folder = at.parent().unwrap().canonicalize().ok()?;
            let at = name(&folder.join(at.file_name().unwrap()));
            let kinds = ["", ".ts", ".d.ts"].map(|kind| format!("{at}{kind}"));
            kinds.into_iter().find(|at| known.contains(at))
        });
        (name(path), used.filter(|used| *used != name(path)).collect())
    };
    paths.iter().map(imports).collect()
}

#[test]
fn no_files_stand_in_a_circle() {
    for name in ["core", "intake", "sheets", "store", "scenario", "server", "zerofold"] {
        let graph = graph(name);
        assert!(graph.len() > 3, "{name} was read");
        let left = circles(&graph);
        let edges =
            left.iter().flat_map(|module| graph[*module].iter().map(move |used| (module, used)));
        let edges: Vec<_> = edges.filter(|(_, used)| left.contains(used)).collect();
        assert!(left.is_empty(), "{name}: {edges:?}");
    }
    let web = web_graph();
    assert!(web.values().map(BTreeSet::len).sum::<usize>() > 100, "the front end was read");
    assert!(circles(&web).is_empty(), "{:?}", circles(&web));
    let one = |name: &str, used: &str| (name.to_owned(), BTreeSet::from([used.to_owned()]));
    let planted = Graph::from([one("a", "b"), one("b", "a")]);
    assert_eq!(circles(&planted).len(), 2, "a circle is seen");
}

/// What uses a room that is not below its own.
fn out_of_order(
    graph: &Graph,
    rooms: &[&str],
    room: impl Fn(&str) -> Option<String>,
) -> Vec<String> {
    let floor = |module: &str| {
        let room = room(module)?;
        let floor = rooms.iter().position(|known| *known == room);
        Some(floor.unwrap_or_else(|| panic!("{room} has no place among the rooms")))
    };
    let uses =
        graph.iter().flat_map(|(module, used)| used.iter().map(move |other| (module, other)));
    let wrong = uses.filter(|(module, other)| {
        let floors = floor(module).zip(floor(other));
        floors.is_some_and(|(own, other)| other > own)
    });
    wrong.map(|(module, other)| format!("{module} uses {other}")).collect()
}

#[test]
fn each_room_knows_only_those_below_it() {
    let of_crate = |module: &str| {
        let room = module.split("::").next().unwrap().to_owned();
        Some(room).filter(|room| !room.is_empty())
    };
    assert_eq!(out_of_order(&graph("core"), &CORE, of_crate), [""; 0]);
    assert_eq!(out_of_order(&graph("intake"), &INTAKE, of_crate), [""; 0]);
    assert_eq!(out_of_order(&graph("store"), &STORE, of_crate), [""; 0]);
    assert_eq!(out_of_order(&graph("server"), &SERVER, of_crate), [""; 0]);
    // Pages use everything, and nothing uses them.
    let of_web = |file: &str| {
        let room = file.strip_prefix("lib/")?.split('/').next().unwrap();
        Some(room.trim_end_matches(".ts").to_owned())
    };
    let web = web_graph();
    assert_eq!(out_of_order(&web, &WEB, of_web), [""; 0]);
    let into_pages = web.iter().filter(|(file, used)| {
        file.starts_with("lib/") && used.iter().any(|used| used.starts_with("routes/"))
    });
    assert_eq!(into_pages.count(), 0);
    let planted =
        Graph::from([("money".to_owned(), BTreeSet::from(["review::unused".to_owned()]))]);
    assert_eq!(out_of_order(&planted, &CORE, of_crate), ["money uses review::unused"]);
}

/// The names under some headings of a manifest, as the code calls them.
fn dependencies(manifest: &str, headings: &[&str]) -> Vec<String> {
    let mut names = Vec::new();
    let mut counts = false;
    for line in manifest.lines() {
        if line.starts_with('[') {
            counts = headings.contains(&line.trim());
        } else if let Some(name) = line.split(['.', ' ', '=']).next().filter(|_| counts)
            && !name.is_empty()
            && !name.starts_with('#')
        {
            names.push(name.replace('-', "_"));
        }
    }
    names
}

/// The words of all files below a folder, if there is one, and of those elsewhere that they take in.
fn words(folder: &Path) -> BTreeSet<String> {
    let mut found = BTreeMap::new();
    if folder.exists() {
        files(folder, &[], &mut found);
    }
    let mut left: Vec<PathBuf> = found.into_values().collect();
    let is_part = |c: char| c.is_alphanumeric() || c == '_';
    let mut words = BTreeSet::new();
    while let Some(file) = left.pop() {
        let text = fs::read_to_string(&file).unwrap();
        words.extend(text.split(|c| !is_part(c)).map(str::to_owned));
        let taken = text.split("#[path = \"").skip(1).filter_map(|rest| rest.split('"').next());
        left.extend(taken.map(|path| file.parent().unwrap().join(path)));
    }
    words
}

#[test]
fn each_crate_knows_only_those_it_may() {
    let crates = Path::new(env!("CARGO_MANIFEST_DIR")).parent().unwrap();
    for (at, (name, may)) in CRATES.iter().enumerate() {
        let below: Vec<_> = CRATES[..at].iter().map(|(below, _)| *below).collect();
        assert!(may.iter().all(|other| below.contains(other)), "{name} knows one above it");
        let manifest = fs::read_to_string(crates.join(name).join("Cargo.toml")).unwrap();
        let known = dependencies(&manifest, &["[dependencies]"]);
        let known: BTreeSet<_> =
            known.iter().filter_map(|known| known.strip_prefix("zf_")).collect();
        assert_eq!(known, may.iter().copied().collect(), "what {name} knows");
    }
}

#[test]
fn every_dependency_is_used() {
    let crates = Path::new(env!("CARGO_MANIFEST_DIR")).parent().unwrap();
    for entry in fs::read_dir(crates).unwrap() {
        let folder = entry.unwrap().path();
        let manifest = fs::read_to_string(folder.join("Cargo.toml")).unwrap();
        let own = words(&folder.join("src"));
        let mut all = words(&folder.join("tests"));
        all.extend(own.iter().cloned());
        for name in dependencies(&manifest, &["[dependencies]"]) {
            assert!(own.contains(&name), "{folder:?} depends on {name} and does not use it");
        }
        for name in dependencies(&manifest, &["[dev-dependencies]"]) {
            assert!(all.contains(&name), "the tests of {folder:?} do not use {name}");
        }
    }
}

/// The body of a plain `async fn` is compiled anew by every crate that awaits it: the server and each program of
/// tests would compile the store. Only what is generic has to be.
#[test]
fn what_the_store_offers_to_be_awaited_is_compiled_in_the_store() {
    let mut found = BTreeMap::new();
    files(&sources("store"), &[], &mut found);
    let (mut boxed, mut plain) = (0, Vec::new());
    for path in found.values() {
        let text = fs::read_to_string(path).unwrap();
        for (before, after) in text.match_indices("pub async fn ").map(|(at, _)| text.split_at(at))
        {
            let signature = after.split('{').next().unwrap();
            let is_generic = signature.split('(').next().unwrap().contains('<');
            match before.trim_end().ends_with("#[boxed]") {
                true => boxed += 1,
                false if is_generic || signature.contains("impl ") => {}
                false => plain.push(signature.trim().to_owned()),
            }
        }
    }
    assert!(boxed > 100, "{boxed}");
    assert_eq!(plain, [""; 0]);
}
