//! Columns name the headings over the row: each one, as `Assets | Current | Cash`, or one all of them, as
//! `Assets > Current > Cash`.

use super::shape::{Above, Found, Node, Outline, OutlineBy, names};
use crate::columns::reduce;
use crate::paths;
use crate::reading::Reading;
use std::collections::HashMap;

pub(super) fn find(reading: &Reading, nodes: &[Node<'_>]) -> Option<Found> {
    let groups = reading.layout.groups();
    let mark = reading.layout.path_mark();
    let above = |node: &Node<'_>| -> Vec<String> {
        let cells = groups.iter().filter_map(|at| node.row.cells.get(*at));
        let texts = cells.map(|cell| cell.text.trim()).filter(|text| !text.is_empty());
        match mark {
            Some(mark) => texts.flat_map(|text| paths::parts(text, mark)).collect(),
            None => texts.map(str::to_owned).collect(),
        }
    };
    let mut above: Vec<Vec<String>> = nodes.iter().map(above).collect();
    if mark.is_some() && end_with_names(nodes, &above) {
        above.iter_mut().for_each(|path| path.truncate(path.len().saturating_sub(1)));
    }
    let wording = |path: &[String]| path.iter().map(|name| reduce(name)).collect::<Vec<_>>();
    let own = |(at, (node, path)): (usize, (&Node<'_>, &Vec<String>))| {
        let mut own = wording(path);
        own.push(reduce(&node.name));
        (own, at)
    };
    let rows: HashMap<Vec<String>, usize> = nodes.iter().zip(&above).enumerate().map(own).collect();
    let under = |(at, path): (usize, Vec<String>)| match rows.get(&wording(&path)) {
        _ if path.is_empty() => None,
        Some(row) if *row != at => Some(Above::Row(*row)),
        _ => Some(Above::Named(path)),
    };
    let parents = above.into_iter().enumerate().map(under).collect();
    let outline = Outline { by: OutlineBy::Groups, parents, names: names(nodes) };
    (!groups.is_empty()).then_some(Found { sure: 80, outline })
}

/// Whether the paths go down to the rows themselves.
fn end_with_names(nodes: &[Node<'_>], paths: &[Vec<String>]) -> bool {
    let last = |(node, path): &(&Node<'_>, &Vec<String>)| {
        path.last().is_some_and(|last| reduce(last) == reduce(&node.name))
    };
    let filled = paths.iter().filter(|path| !path.is_empty()).count();
    nodes.iter().zip(paths).filter(last).count() * 10 >= filled * 9
}
