//! How a file says which row stands under which. Each way has a file of its own, which finds the outline
//! if it is there and says how sure it is; the surest counts.

mod groups;
mod indent;
mod levels;
mod path;
mod prefix;
mod shape;
mod staircase;

pub use shape::OutlineBy;
pub(super) use shape::{Above, Node, Outline};

use crate::columns::Column;
use crate::reading::Reading;
use shape::Found;

type Recogniser = fn(&Reading, &[Node<'_>]) -> Option<Found>;

const RECOGNISERS: [Recogniser; 6] =
    [levels::find, staircase::find, path::find, groups::find, indent::find, prefix::find];

/// Tells the outline. Where a column names headings, it is what counts.
pub(super) fn find_outline(reading: &Reading, nodes: &[Node<'_>]) -> Outline {
    let flat = |by| Found::of(0, by, vec![None; nodes.len()], nodes).outline;
    if reading.layout.place(Column::Parent).is_some() {
        return flat(OutlineBy::Parent);
    }
    let found = RECOGNISERS.iter().filter_map(|find| find(reading, nodes));
    // Of equals the first.
    let best = found.reduce(|best, next| if next.sure > best.sure { next } else { best });
    best.map_or_else(|| flat(OutlineBy::Nothing), |found| found.outline)
}
