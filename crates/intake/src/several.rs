//! Several sheets of one form below each other, as one a month or one a class. Whether they are one table
//! is asked.

use crate::columns::Column;
use crate::layout::{Layout, headings};
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::rows::{Place, Rows, Walk};
use crate::{RawRow, Sheet};
use std::collections::HashSet;
use std::ops::RangeInclusive;
use zf_core::file_kind::FileKind;

/// The reading by which all sheets of one form are one table. No sheet is called so.
pub const ALL: &str = "*";

/// How many in a hundred keys of a sheet may stand in another, for the two to be one table.
const SHARED: usize = 20;

/// A sheet as a part of a table.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Part {
    /// Its name; empty for that of a text file.
    pub sheet: String,
    /// What is added to the numbers of its rows, so that no two rows of the table have the same.
    pub above: u32,
}

/// Which of the parts a row with a certain number is of.
pub(crate) fn part(parts: &[Part], number: u32) -> usize {
    parts.partition_point(|part| part.above < number).saturating_sub(1)
}

/// The number that a spreadsheet shows beside the row with a certain number.
pub(crate) fn row(parts: &[Part], number: u32) -> u32 {
    let part = parts.get(part(parts, number));
    number.saturating_sub(part.map_or(0, |part| part.above))
}

/// Where the row with a certain number stands.
pub(crate) fn place(parts: &[Part], number: u32) -> Place {
    let part = parts.get(part(parts, number));
    let sheet = part.filter(|_| parts.len() > 1).map(|part| part.sheet.clone());
    Place { sheet, row: row(parts, number) }
}

/// Rows of several sheets below each other.
#[derive(Debug)]
struct Joined(Vec<(u32, Box<dyn Rows>)>);

impl Rows for Joined {
    fn walk(&self) -> Walk<'_> {
        Box::new(self.0.iter().flat_map(|(above, rows)| {
            rows.walk().map(move |mut row| {
                if *above > 0 {
                    row.to_mut().number += above;
                }
                row
            })
        }))
    }

    fn count(&self) -> usize {
        self.0.iter().map(|(_, rows)| rows.count()).sum()
    }
}

/// The sheets that have the same row of headings as one of them, with the number of that row.
fn alike(sheets: &[Sheet], form: &[String]) -> Vec<(usize, u32)> {
    if form.is_empty() || sheets.len() < 2 {
        return Vec::new();
    }
    let head = |(at, sheet): (usize, &Sheet)| {
        let start = sheet.rows.start(crate::layout::SHOWN);
        let head = start.iter().find(|row| headings(row) == form)?;
        Some((at, head.number))
    };
    sheets.iter().enumerate().filter(|(_, sheet)| !sheet.hidden).filter_map(head).collect()
}

/// Whether sheets of one form are more likely one table: what tells their rows apart stands in one sheet
/// only. Years beside each other have the same accounts.
fn are_one(kind: FileKind, layout: &Layout, sheets: &[(&Sheet, u32)]) -> bool {
    let keys: &[Column] = match kind {
        FileKind::Journal => &[Column::Entry],
        _ => &[Column::Code, Column::CodeAndName, Column::Name],
    };
    let Some(key) = keys.iter().find(|key| layout.place(**key).is_some()) else { return true };
    let mut known: HashSet<String> = HashSet::new();
    sheets.iter().all(|(sheet, head)| {
        let body = |row: &RawRow| layout.is_body(row, &mut Vec::new());
        let below = sheet.rows.walk().filter(|row| row.number > *head && body(row));
        let texts = below.map(|row| layout.cell(&row, *key).to_owned());
        let own: HashSet<String> = texts.filter(|text| !text.is_empty()).collect();
        let shared = own.intersection(&known).count();
        let apart = shared * 100 <= SHARED * own.len();
        known.extend(own);
        apart
    })
}

/// What a person wants of sheets of one form.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Wanted {
    /// The one that was chosen.
    One,
    /// All of them.
    All,
    /// Whatever is more likely, which is asked.
    Either,
}

/// Sheets put together, before it is told how they are read.
pub(crate) struct Together {
    pub(crate) rows: Box<dyn Rows>,
    pub(crate) sheets: Vec<usize>,
    pub(crate) parts: Vec<Part>,
    /// The rows of each further sheet to its headings.
    pub(crate) further: Vec<RangeInclusive<u32>>,
    pub(crate) question: Option<Question>,
    pub(crate) unread: Vec<(String, usize)>,
}

/// Takes the rows of a sheet that was found, and those of others of its form, if they are one table.
pub(crate) fn together(
    kind: FileKind,
    sheets: &mut [Sheet],
    at: usize,
    layout: &Layout,
    wanted: Wanted,
) -> Together {
    let alike = if wanted != Wanted::One && kind != FileKind::Usage {
        alike(sheets, &layout.form())
    } else {
        Vec::new()
    };
    let several: Vec<_> = alike.iter().map(|(at, head)| (&sheets[*at], *head)).collect();
    let asked = several.len() > 1 && wanted == Wanted::Either;
    let all = several.len() > 1 && (wanted == Wanted::All || are_one(kind, layout, &several));
    let question = asked.then(|| question(&several, &sheets[at].name, all));
    let read = if all { alike } else { vec![(at, layout.header_row)] };
    let others = sheets.iter().enumerate().filter(|(at, _)| !read.iter().any(|(own, _)| own == at));
    let unread = others.map(|(_, sheet)| (sheet.name.clone(), sheet.rows.count())).collect();
    let (mut parts, mut joined, mut heads) = (Vec::new(), Vec::new(), Vec::new());
    let mut above = 0u32;
    for (at, head) in &read {
        let sheet = &mut sheets[*at];
        let rows = std::mem::replace(&mut sheet.rows, Box::new(Vec::<RawRow>::new()));
        parts.push(Part { sheet: sheet.name.clone(), above });
        heads.push(above + 1..=above.saturating_add(*head));
        let last = if read.len() > 1 { rows.walk().last().map_or(0, |row| row.number) } else { 0 };
        joined.push((above, rows));
        above = above.saturating_add(last);
    }
    let rows = match joined.pop() {
        Some((_, rows)) if joined.is_empty() => rows,
        last => Box::new(Joined(joined.into_iter().chain(last).collect())),
    };
    let further = heads.into_iter().skip(1).collect();
    let sheets = read.into_iter().map(|(at, _)| at).collect();
    Together { rows, sheets, parts, further, question, unread }
}

fn question(alike: &[(&Sheet, u32)], first: &str, all: bool) -> Question {
    let together: usize = alike.iter().map(|(sheet, _)| sheet.rows.count()).sum();
    let only = |(sheet, _): &(&Sheet, u32)| {
        let means = Means::OnlySheet(sheet.name.clone());
        Answer::new(&sheet.name, means, Gives::Rows(sheet.rows.count()))
    };
    let together = Answer::new(ALL, Means::AllSheets, Gives::Rows(together));
    Question {
        about: About::Sheet,
        asks: Asks::Sheets(alike.iter().map(|(sheet, _)| sheet.name.clone()).collect()),
        readings: std::iter::once(together).chain(alike.iter().map(only)).collect(),
        default: Some(if all { ALL.to_owned() } else { first.to_owned() }),
    }
}
