//! How a file says which row stands under which: by the code of the heading, by a path in the name,
//! by indentation, or by codes that begin with the heading's.

use super::RawRow;
use super::columns::{Column, reduce};
use super::reading::Reading;
use std::collections::HashMap;
use zf_core::code::CodeKey;
use zf_core::keyed;

keyed! {
    /// How the outline is told.
    OutlineBy {
        /// A column names the heading.
        Parent = "parent", "by a column of headings";
        /// The name holds the names of the headings, as `Costs : Running : Coal`.
        Path = "path", "by paths in the names";
        /// Names or codes are indented.
        Indent = "indent", "by indentation";
        /// The code of a row begins with that of its heading.
        Prefix = "prefix", "by the beginning of codes";
        /// Nothing tells; all rows stand at the top.
        Nothing = "nothing", "by nothing: all rows stand at the top";
    }
}

/// What the outline is told from: one row of the file.
pub(super) struct Node<'a> {
    pub(super) row: &'a RawRow,
    pub(super) key: CodeKey,
    pub(super) name: String,
}

/// For each row the place of the row it stands under, and its own name without the path.
pub(super) struct Outline {
    pub(super) by: OutlineBy,
    pub(super) parents: Vec<Option<usize>>,
    pub(super) names: Vec<String>,
}

/// The marks that part the names of a path.
const MARKS: [&str; 5] = [" : ", ":", " > ", " / ", "\\"];

/// Tells the outline of a file without a column of headings.
pub(super) fn told(reading: &Reading, nodes: &[Node<'_>]) -> Outline {
    let plain = || nodes.iter().map(|node| node.name.clone()).collect();
    if reading.layout.place(Column::Parent).is_some() {
        return Outline { by: OutlineBy::Parent, parents: vec![None; nodes.len()], names: plain() };
    }
    if let Some(outline) = MARKS.iter().find_map(|mark| by_path(nodes, mark)) {
        return outline;
    }
    let indents = indents(reading, nodes);
    if is_indented(&indents) {
        let parents = by_indent(&indents);
        return Outline { by: OutlineBy::Indent, parents, names: plain() };
    }
    match by_prefix(nodes) {
        Some(parents) => Outline { by: OutlineBy::Prefix, parents, names: plain() },
        None => {
            Outline { by: OutlineBy::Nothing, parents: vec![None; nodes.len()], names: plain() }
        }
    }
}

/// Paths count when every one of at least two leads to a row of the file.
fn by_path(nodes: &[Node<'_>], mark: &str) -> Option<Outline> {
    let wording = |name: &str| name.split(mark).map(reduce).collect::<Vec<_>>().join(":");
    let places: HashMap<String, usize> =
        nodes.iter().enumerate().map(|(at, node)| (wording(&node.name), at)).collect();
    let mut parents = Vec::with_capacity(nodes.len());
    let mut names = Vec::with_capacity(nodes.len());
    let mut paths = 0;
    for node in nodes {
        let Some((above, own)) = node.name.rsplit_once(mark) else {
            parents.push(None);
            names.push(node.name.trim().to_owned());
            continue;
        };
        parents.push(Some(*places.get(&wording(above))?));
        names.push(own.trim().to_owned());
        paths += 1;
    }
    (paths > 1).then_some(Outline { by: OutlineBy::Path, parents, names })
}

/// How far each row is indented: by the white space before its name, or else before its code.
fn indents(reading: &Reading, nodes: &[Node<'_>]) -> Vec<usize> {
    let of = |field: Column| {
        let space = |text: &str| -> usize {
            let blank = text.chars().take_while(|c| c.is_whitespace());
            blank.map(|c| if c == '\t' { 4 } else { 1 }).sum()
        };
        let raw = nodes.iter().map(|node| reading.layout.raw(node.row, field));
        raw.map(|cell| cell.map_or(0, |cell| space(&cell.text))).collect::<Vec<_>>()
    };
    let names = of(Column::Name);
    if is_indented(&names) { names } else { of(Column::Code) }
}

/// A stray space is no indentation: at least two rows begin with two, and the first with none.
fn is_indented(indents: &[usize]) -> bool {
    let mut some = indents.iter().filter(|indent| **indent > 0);
    indents.first() == Some(&0) && some.clone().count() > 1 && some.all(|indent| *indent > 1)
}

fn by_indent(indents: &[usize]) -> Vec<Option<usize>> {
    let mut above: Vec<usize> = Vec::new();
    let mut parents = Vec::with_capacity(indents.len());
    for (at, indent) in indents.iter().enumerate() {
        while above.last().is_some_and(|last| indents[*last] >= *indent) {
            above.pop();
        }
        parents.push(above.last().copied());
        above.push(at);
    }
    parents
}

/// Beginnings count when every code that is longer than the shortest begins with another's, and
/// there are at least as many rows below as headings above.
fn by_prefix(nodes: &[Node<'_>]) -> Option<Vec<Option<usize>>> {
    let places: HashMap<&str, usize> =
        nodes.iter().enumerate().map(|(at, node)| (node.key.as_str(), at)).collect();
    let shortest = nodes.iter().map(|node| node.key.as_str().len()).min()?;
    let mut parents = Vec::with_capacity(nodes.len());
    let mut below = 0;
    for node in nodes {
        let code = node.key.as_str();
        let ends = (1..code.len()).rev().filter(|end| code.is_char_boundary(*end));
        let parent = ends.filter_map(|end| places.get(&code[..end]).copied()).next();
        if parent.is_none() && code.len() > shortest {
            return None;
        }
        below += usize::from(parent.is_some());
        parents.push(parent);
    }
    (below * 2 >= nodes.len() && below > 0).then_some(parents)
}
