//! Names or codes are indented, by white space or by the format of their cells.

use super::shape::{Found, Node, OutlineBy, by_depth};
use crate::Cell;
use crate::columns::Column;
use crate::reading::Reading;

pub(super) fn find(reading: &Reading, nodes: &[Node<'_>]) -> Option<Found> {
    let depths = indents(reading, nodes);
    is_indented(&depths).then(|| Found::of(70, OutlineBy::Indent, by_depth(&depths), nodes))
}

/// How far each row is indented: by what stands before its name, or else before its code.
fn indents(reading: &Reading, nodes: &[Node<'_>]) -> Vec<usize> {
    let of = |field: Column| {
        let raw = nodes.iter().map(|node| reading.layout.raw(node.row, field));
        raw.map(|cell| cell.map_or(0, Cell::indentation)).collect::<Vec<_>>()
    };
    let mut by_column = [Column::Name, Column::CodeAndName, Column::Code].into_iter().map(of);
    by_column.find(|indents| is_indented(indents)).unwrap_or_default()
}

/// A stray space is no indentation: at least two rows begin with two.
fn is_indented(indents: &[usize]) -> bool {
    let least = indents.iter().copied().min().unwrap_or(0);
    let mut some = indents.iter().filter(|indent| **indent > least);
    indents.first() == Some(&least)
        && some.clone().count() > 1
        && some.all(|indent| *indent > least + 1)
}
