//! Columns that each name a heading over the row, from the outermost, as `Assets | Current | Cash`.

use super::shape::{Above, Found, Node, Outline, OutlineBy, names};
use crate::reading::Reading;

pub(super) fn find(reading: &Reading, nodes: &[Node<'_>]) -> Option<Found> {
    let groups = reading.layout.groups();
    let above = |node: &Node<'_>| {
        let cells = groups.iter().filter_map(|at| node.row.cells.get(*at));
        let texts = cells.map(|cell| cell.text.trim().to_owned()).filter(|text| !text.is_empty());
        let path: Vec<String> = texts.collect();
        (!path.is_empty()).then_some(Above::Named(path))
    };
    let parents = nodes.iter().map(above).collect();
    let outline = Outline { by: OutlineBy::Groups, parents, names: names(nodes) };
    (!groups.is_empty()).then_some(Found { sure: 80, outline })
}
