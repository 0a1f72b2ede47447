//! The name of a row holds the names of the headings above it, as `Costs : Running : Coal`.

use super::shape::{Above, Found, Node, Outline, OutlineBy};
use crate::columns::reduce;
use crate::paths::{MARKS, parts};
use crate::reading::Reading;
use std::collections::HashMap;

pub(super) fn find(_: &Reading, nodes: &[Node<'_>]) -> Option<Found> {
    MARKS.iter().find_map(|mark| by(nodes, mark))
}

/// Paths count when most of at least two lead to a row of the file, or to a place that others lead to.
fn by(nodes: &[Node<'_>], mark: &str) -> Option<Found> {
    let wording = |parts: &[String]| parts.iter().map(|p| reduce(p)).collect::<Vec<_>>().join(":");
    let places: HashMap<String, usize> = nodes
        .iter()
        .enumerate()
        .map(|(at, node)| (wording(&parts(&node.name, mark)), at))
        .collect();
    let mut led: HashMap<String, usize> = HashMap::new();
    let paths: Vec<Vec<String>> = nodes.iter().map(|node| parts(&node.name, mark)).collect();
    for path in paths.iter().filter(|path| path.len() > 1) {
        *led.entry(wording(&path[..path.len() - 1])).or_default() += 1;
    }
    let count: usize = led.values().sum();
    let lost: usize = led
        .iter()
        .filter(|(above, n)| !places.contains_key(*above) && **n < 2)
        .map(|(_, n)| n)
        .sum();
    let rows = led.keys().filter(|above| places.contains_key(*above)).count();
    // A mark may stand in names for other reasons. Where rows have codes every path leads to one.
    let coded = nodes.iter().all(|node| node.key.is_some());
    if coded && rows < led.len()
        || count < 2
        || lost > 0 && rows == 0
        || lost * 4 > count
        || rows == 0 && count * 2 < nodes.len()
    {
        return None;
    }
    let mut parents = Vec::with_capacity(nodes.len());
    let mut names = Vec::with_capacity(nodes.len());
    for path in paths {
        let Some((own, above)) = path.split_last() else { continue };
        let to = || match places.get(&wording(above)) {
            Some(at) => Above::Row(*at),
            None => Above::Named(above.to_vec()),
        };
        parents.push((!above.is_empty()).then(to));
        names.push(own.clone());
    }
    let outline = Outline { by: OutlineBy::Path, parents, names };
    Some(Found { sure: if lost == 0 { 85 } else { 60 }, outline })
}
