//! The best of all ways to give meanings to columns: the sum of how well each fits is largest.

use pathfinding::matrix::Matrix;
use pathfinding::prelude::kuhn_munkres;

/// How well what a person chose fits: better than everything else together.
pub(super) const CHOSEN: i64 = 1_000_000;

/// For each row of `fits`, a column, the place of the meaning that it gets. What fits by nothing is not
/// given.
pub(super) fn best(fits: &[Vec<i64>]) -> Vec<Option<usize>> {
    let meanings = fits.first().map_or(0, Vec::len);
    // A column without a meaning takes one of as many that stand for none.
    let wide = fits.iter().map(|row| {
        row.iter().copied().chain(std::iter::repeat_n(0, fits.len())).collect::<Vec<_>>()
    });
    let Ok(weights) = Matrix::from_rows(wide) else { return vec![None; fits.len()] };
    if fits.is_empty() {
        return Vec::new();
    }
    let (_, places) = kuhn_munkres(&weights);
    let given =
        |(at, place): (usize, usize)| (place < meanings && fits[at][place] > 0).then_some(place);
    places.into_iter().enumerate().map(given).collect()
}
