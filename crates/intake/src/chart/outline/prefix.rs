//! The code of a row begins with that of its heading.

use super::shape::{Found, Node, OutlineBy};
use crate::reading::Reading;
use std::collections::HashMap;

/// Beginnings count when every code that is longer than the shortest begins with another's, and
/// there are at least as many rows below as headings above.
pub(super) fn find(_: &Reading, nodes: &[Node<'_>]) -> Option<Found> {
    let keys: Vec<&str> = nodes
        .iter()
        .map(|node| node.key.as_ref().map(|key| key.as_str()))
        .collect::<Option<_>>()?;
    let places: HashMap<&str, usize> =
        keys.iter().enumerate().map(|(at, key)| (*key, at)).collect();
    let shortest = keys.iter().map(|key| key.len()).min()?;
    let mut parents = Vec::with_capacity(keys.len());
    let mut below = 0;
    for code in keys {
        let ends = (1..code.len()).rev().filter(|end| code.is_char_boundary(*end));
        let parent = ends.filter_map(|end| places.get(&code[..end]).copied()).next();
        if parent.is_none() && code.len() > shortest {
            return None;
        }
        below += usize::from(parent.is_some());
        parents.push(parent);
    }
    (below * 2 >= nodes.len() && below > 0)
        .then(|| Found::of(50, OutlineBy::Prefix, parents, nodes))
}
