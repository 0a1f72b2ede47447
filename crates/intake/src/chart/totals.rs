//! Totals that stand in the file, compared with what they add up.

use super::draft::Draft;
use super::sorting::Sorted;
use crate::cause::Cause;
use crate::columns::{Column, reduce};
use crate::reading::Reading;
use crate::row_kind::RowKind;
use crate::words;
use crate::{RawRow, Warning};
use zf_core::chart::Kind;
use zf_core::money::Currency;

/// Says which totals are not what stands above them. Without a column of balances nothing is said.
pub(super) fn compare(
    reading: &Reading,
    sorted: &[Sorted<'_>],
    drafts: &[Draft<'_>],
    currency: Currency,
) -> Vec<Warning> {
    let Some(at) = reading.layout.place(Column::Balance) else { return Vec::new() };
    let figure = |row: &RawRow| -> Option<i128> {
        let mark = reading.mark_of(row.cells.get(at)?);
        mark.read(currency, &row.cells.get(at)?.text).ok().map(i128::from)
    };
    let posting = |draft: &&Draft<'_>| draft.account.kind == Kind::Account && draft.own_row;
    let mut warnings = Vec::new();
    let mut say = |row: &RawRow, parts: Vec<&Draft<'_>>| {
        let sum: i128 = parts.iter().filter_map(|draft| figure(draft.row)).sum();
        let Some(said) = figure(row).filter(|said| *said != sum && !parts.is_empty()) else {
            return;
        };
        let cause = Cause::TotalOff { said, sum, currency };
        warnings.push(Warning { row: row.number, cause });
    };
    let mut last = 0;
    for total in sorted.iter().filter(|sorted| sorted.is == RowKind::Total) {
        let wording = total.row.filled().next().map_or_else(String::new, |(_, text)| reduce(text));
        let of = words::total_of(&wording).unwrap_or_default();
        // A total of one sheet adds up nothing of another.
        let own = |draft: &&Draft<'_>| {
            let number = draft.row.number;
            number < total.row.number && reading.part(number) == reading.part(total.row.number)
        };
        let above: Vec<&Draft<'_>> = drafts.iter().filter(posting).filter(own).collect();
        let under =
            |draft: &&&Draft<'_>| draft.captions.iter().any(|caption| caption.wording == of);
        let parts: Vec<&Draft<'_>> = if above.iter().any(|draft| under(&draft)) {
            above.iter().filter(under).copied().collect()
        } else if of.is_empty() {
            above
        } else if let Some(class) = words::class(of) {
            above.into_iter().filter(|draft| draft.account.class == class).collect()
        } else {
            above.into_iter().filter(|draft| draft.row.number > last).collect()
        };
        last = total.row.number;
        say(total.row, parts);
    }
    for sum in drafts.iter().filter(|draft| draft.account.kind == Kind::Sum) {
        let adds_up = |draft: &&Draft<'_>| {
            sum.account.intervals.iter().any(|stretch| stretch.contains(&draft.account.code.key()))
        };
        say(sum.row, drafts.iter().filter(posting).filter(adds_up).collect());
    }
    warnings
}
