//! Each level has a column of its own, and the name of a row stands in that of its level.

use super::shape::{Found, Node, OutlineBy, by_depth};
use crate::reading::Reading;

pub(super) fn find(reading: &Reading, nodes: &[Node<'_>]) -> Option<Found> {
    let stairs = reading.layout.stairs();
    let depth = |node: &Node<'_>| {
        let text =
            |at: &usize| node.row.cells.get(*at).is_some_and(|cell| !cell.text.trim().is_empty());
        stairs.iter().position(text)
    };
    let depths: Vec<usize> = nodes.iter().map(depth).collect::<Option<_>>()?;
    (stairs.len() > 1).then(|| Found::of(90, OutlineBy::Staircase, by_depth(&depths), nodes))
}
