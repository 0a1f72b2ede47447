//! The best of all ways to give meanings to columns: the sum of how well each fits is largest.

use pathfinding::matrix::Matrix;
use pathfinding::prelude::kuhn_munkres;
use std::cmp::Reverse;
use std::collections::BTreeSet;

/// How well what a person chose fits: better than everything else together.
pub(super) const CHOSEN: i64 = 1_000_000;

/// How many columns are looked at for one meaning, the best of them: a sheet may have a thousand.
const RIVALS: usize = 6;

/// For each row of `fits`, a column, the place of the meaning that it gets. What fits by nothing is not
/// given.
pub(super) fn best(fits: &[Vec<i64>]) -> Vec<Option<usize>> {
    let meanings = fits.first().map_or(0, Vec::len);
    let mut rivals = BTreeSet::new();
    for meaning in 0..meanings {
        let mut fitting: Vec<usize> = (0..fits.len()).filter(|at| fits[*at][meaning] > 0).collect();
        fitting.sort_by_key(|at| (Reverse(fits[*at][meaning]), *at));
        rivals.extend(fitting.into_iter().take(RIVALS));
    }
    let mut given = vec![None; fits.len()];
    // A column without a meaning takes one of as many that stand for none.
    let wide = rivals.iter().map(|at| {
        let none = std::iter::repeat_n(0, rivals.len());
        fits[*at].iter().copied().chain(none).collect::<Vec<_>>()
    });
    let Ok(weights) = Matrix::from_rows(wide) else { return given };
    if rivals.is_empty() {
        return given;
    }
    let (_, places) = kuhn_munkres(&weights);
    for (at, place) in rivals.into_iter().zip(places) {
        given[at] = (place < meanings && fits[at][place] > 0).then_some(place);
    }
    given
}

/// A column with its meaning, and what a second way to give meanings would do to both.
pub(super) struct Rival {
    pub(super) at: usize,
    pub(super) means: usize,
    /// The column that would have the meaning.
    pub(super) other: Option<usize>,
    /// What the column would mean.
    pub(super) instead: Option<usize>,
}

/// Columns that could do without their meaning at the cost of `close` or less.
pub(super) fn rivals(fits: &[Vec<i64>], close: i64) -> Vec<Rival> {
    let sum = |given: &[Option<usize>]| -> i64 {
        given.iter().enumerate().filter_map(|(at, means)| Some(fits[at][(*means)?])).sum()
    };
    let first = best(fits);
    let most = sum(&first);
    let given = first.iter().enumerate().filter_map(|(at, means)| Some((at, (*means)?)));
    let without =
        given.filter(|(at, means)| fits[*at][*means] < CHOSEN).filter_map(|(at, means)| {
            let mut fits = fits.to_vec();
            fits[at][means] = 0;
            let second = best(&fits);
            let other = second.iter().position(|other| *other == Some(means));
            (most - sum(&second) <= close).then(|| Rival { at, means, other, instead: second[at] })
        });
    without.collect()
}
