//! A column says how deep each row stands.

use super::shape::{Found, Node, OutlineBy, by_depth};
use crate::columns::Column;
use crate::reading::Reading;

pub(super) fn find(reading: &Reading, nodes: &[Node<'_>]) -> Option<Found> {
    reading.layout.place(Column::Level)?;
    let level =
        |node: &Node<'_>| reading.layout.cell(node.row, Column::Level).parse::<usize>().ok();
    let depths: Vec<usize> = nodes.iter().map(level).collect::<Option<_>>()?;
    let deep = depths.iter().min() < depths.iter().max();
    deep.then(|| Found::of(95, OutlineBy::Level, by_depth(&depths), nodes))
}
