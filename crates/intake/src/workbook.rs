//! What the other sheets of a workbook hold: chart, journal and balances often come in one file.

use crate::Sheet;
use crate::columns::Column;
use crate::layout::{Chosen, Layout, SHOWN};
use zf_core::file_kind::FileKind;

/// How many sheets of a workbook are looked at.
const LOOKED_AT: usize = 40;

/// How many headings must be known for a sheet to hold anything.
const KNOWN: usize = 2;

/// The kinds that come in one workbook, in the order in which they are brought in.
const IN_ORDER: [FileKind; 3] = [FileKind::Chart, FileKind::Journal, FileKind::Balances];

/// A sheet that holds something else than what is read.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Holds {
    /// What it holds.
    pub kind: FileKind,
    /// What it is called.
    pub sheet: String,
    /// Whether it is brought in before what is read.
    pub before: bool,
}

/// What else the sheets of a workbook hold than a kind of file, the first of each, in the order in which
/// they are brought in.
pub(crate) fn also(kind: FileKind, sheets: &[Sheet]) -> Vec<Holds> {
    let Some(own) = IN_ORDER.iter().position(|one| *one == kind).filter(|_| sheets.len() > 1)
    else {
        return Vec::new();
    };
    let shown = sheets.iter().filter(|sheet| !sheet.hidden).take(LOOKED_AT);
    let recognised: Vec<_> = shown.filter_map(|sheet| Some((kind_of(sheet)?, sheet))).collect();
    let first = |(place, kind): (usize, &FileKind)| {
        let (kind, sheet) = recognised.iter().find(|(own, _)| own == kind)?;
        Some(Holds { kind: *kind, sheet: sheet.name.clone(), before: place < own })
    };
    IN_ORDER.iter().enumerate().filter(|(place, _)| *place != own).filter_map(first).collect()
}

/// What a sheet holds, as its headings tell.
pub(crate) fn kind_of(sheet: &Sheet) -> Option<FileKind> {
    let start = sheet.rows.start(SHOWN);
    let layout = |kind: FileKind| {
        let layout = Layout::find(kind, &start, &Chosen::default()).ok()?;
        (layout.lacking(kind).is_empty() && layout.known() >= KNOWN).then_some(layout)
    };
    if layout(FileKind::Journal).is_some_and(|layout| layout.place(Column::Date).is_some()) {
        return Some(FileKind::Journal);
    }
    // A chart may hold balances; what only it holds tells the two apart.
    let chart = layout(FileKind::Chart);
    let own = [Column::Class, Column::Kind, Column::Parent, Column::Section, Column::Normal];
    let is_chart = |layout: &Layout| own.iter().any(|column| layout.place(*column).is_some());
    if chart.as_ref().is_some_and(is_chart) {
        return Some(FileKind::Chart);
    }
    let balances = layout(FileKind::Balances).map(|_| FileKind::Balances);
    balances.or(chart.map(|_| FileKind::Chart))
}
