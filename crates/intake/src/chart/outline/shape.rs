//! What an outline is told from, and what it is.

use crate::RawRow;
use zf_core::code::CodeKey;
use zf_core::keyed;

keyed! {
    /// How the outline is told.
    OutlineBy {
        /// A column names the heading.
        Parent = "parent", "by a column of headings";
        /// The name holds the names of the headings, as `Costs : Running : Coal`.
        Path = "path", "by paths in the names";
        /// A column says how deep a row stands.
        Level = "level", "by a column of levels";
        /// Columns name the headings, from the outermost.
        Groups = "groups", "by columns that name the headings";
        /// Each level has a column of its own.
        Staircase = "staircase", "by a column for each level";
        /// Names or codes are indented.
        Indent = "indent", "by indentation";
        /// The code of a row begins with that of its heading.
        Prefix = "prefix", "by the beginning of codes";
        /// Nothing tells; all rows stand at the top.
        Nothing = "nothing", "by nothing: all rows stand at the top";
    }
}

/// What the outline is told from: one row of the file.
pub(in crate::chart) struct Node<'a> {
    pub(in crate::chart) row: &'a RawRow,
    pub(in crate::chart) key: Option<CodeKey>,
    pub(in crate::chart) name: String,
}

/// For each row the place of the row it stands under, and its own name without the path.
pub(in crate::chart) struct Outline {
    pub(in crate::chart) by: OutlineBy,
    pub(in crate::chart) parents: Vec<Option<Above>>,
    pub(in crate::chart) names: Vec<String>,
}

/// What a row stands under.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(in crate::chart) enum Above {
    /// Another row, by its place.
    Row(usize),
    /// A heading that has no row, by the path to it.
    Named(Vec<String>),
}

/// An outline, with how sure it is in a hundred.
pub(super) struct Found {
    pub(super) sure: u8,
    pub(super) outline: Outline,
}

impl Found {
    pub(super) fn of(
        sure: u8,
        by: OutlineBy,
        parents: Vec<Option<usize>>,
        nodes: &[Node<'_>],
    ) -> Self {
        let parents = parents.into_iter().map(|at| at.map(Above::Row)).collect();
        Self { sure, outline: Outline { by, parents, names: names(nodes) } }
    }
}

pub(super) fn names(nodes: &[Node<'_>]) -> Vec<String> {
    nodes.iter().map(|node| node.name.clone()).collect()
}

/// The rows above each, by how deep they stand.
pub(super) fn by_depth(depths: &[usize]) -> Vec<Option<usize>> {
    let mut above: Vec<usize> = Vec::new();
    let mut parents = Vec::with_capacity(depths.len());
    for (at, depth) in depths.iter().enumerate() {
        while above.last().is_some_and(|last| depths[*last] >= *depth) {
            above.pop();
        }
        parents.push(above.last().copied());
        above.push(at);
    }
    parents
}
