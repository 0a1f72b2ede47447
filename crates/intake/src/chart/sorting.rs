//! What each row of a chart is: an account, a caption over others, a total, or nothing of the chart.

use crate::RawRow;
use crate::columns::{Column, reduce};
use crate::reading::Reading;
use crate::row_kind::RowKind;
use crate::words::{self, Said, is_nothing};
use std::collections::HashSet;
use std::rc::Rc;

/// A row with what it is, and the captions above it.
pub(super) struct Sorted<'a> {
    pub(super) row: &'a RawRow,
    pub(super) is: RowKind,
    /// From the outermost.
    pub(super) captions: Captions,
}

/// The captions above a row, from the outermost. Rows below the same captions share them.
pub(super) type Captions = Rc<[Caption]>;

/// A row of words over others.
#[derive(Clone, Debug)]
pub(super) struct Caption {
    /// As it stands.
    pub(super) text: String,
    /// As it is compared.
    pub(super) wording: String,
    rank: u8,
}

/// Tells what each row is. Those that are accounts may turn out to be headings or sum lines.
pub(super) fn sort<'a>(reading: &Reading, rows: &'a [RawRow]) -> Vec<Sorted<'a>> {
    let body = || rows.iter().filter(|row| reading.layout.is_below(row.number));
    let view = View::of(reading, body());
    let titles: HashSet<String> = rows
        .iter()
        .filter(|row| row.number < reading.layout.header_row && row.filled().count() == 1)
        .flat_map(|row| row.filled().map(|(_, text)| reduce(text)))
        .collect();
    let kind = |row: &RawRow| match () {
        () if row.is_blank() => RowKind::Blank,
        () if reading.layout.is_head(row.number) => RowKind::Heads,
        () if !reading.layout.is_below(row.number) => RowKind::Title,
        () if reading.layout.heads_again(row) => RowKind::Repeated,
        () if view.is_title_again(row, &titles) => RowKind::Title,
        () => view.kind(row),
    };
    let kinds: Vec<RowKind> = rows.iter().map(kind).collect();
    let of_table = kinds.iter().filter(|kind| !matches!(kind, RowKind::Blank | RowKind::Title));
    let of_table: Vec<&RowKind> = of_table.collect();
    // Where no caption follows another at once, all are of one level.
    let nested = of_table.windows(2).any(|pair| pair.iter().all(|kind| **kind == RowKind::Caption));
    let mut above = Above { nested, ..Above::default() };
    let mut sheets = reading.parts.iter().peekable();
    rows.iter()
        .zip(kinds)
        .map(|(row, is)| {
            // Sheets that are called as classes are captions over their rows.
            while let Some(part) = sheets.next_if(|part| part.above < row.number) {
                above = Above { nested, ..Above::default() };
                if is_called_as_a_class(&part.sheet) {
                    above.open(&part.sheet);
                }
            }
            let text = || first_text(row);
            match is {
                RowKind::Caption => above.open(text()),
                RowKind::Total => above.close(text()),
                RowKind::Account => above.after_account(),
                _ => {}
            }
            Sorted { row, is, captions: Rc::clone(&above.captions) }
        })
        .collect()
}

/// Whether a sheet is called as a class is. A letter or two are the number of a sheet and no word.
fn is_called_as_a_class(sheet: &str) -> bool {
    let wording = reduce(sheet);
    wording.chars().filter(|c| c.is_alphabetic()).count() > 2 && words::class(&wording).is_some()
}

fn first_text(row: &RawRow) -> &str {
    row.filled().next().map_or("", |(_, text)| text)
}

/// What the rows have in common.
struct View<'a> {
    reading: &'a Reading,
    /// Whether most rows have a code.
    coded: bool,
    /// Whether most rows say more than a name.
    detailed: bool,
}

impl<'a> View<'a> {
    fn of(reading: &'a Reading, body: impl Iterator<Item = &'a RawRow>) -> Self {
        let (mut rows, mut coded, mut detailed) = (0, 0, 0);
        // A row of one text alone is a caption where others say more.
        let total = |row: &RawRow| words::total_of(&reduce(first_text(row))).is_some();
        let has_detail = |row: &&RawRow| {
            row.filled().count() > 1 && !reading.layout.heads_again(row) && !total(row)
        };
        for row in body.filter(has_detail) {
            rows += 1;
            coded += usize::from(has_code(reading, row));
            detailed += usize::from(details(reading, row) > 0);
        }
        Self {
            reading,
            coded: coded * 2 >= rows && coded > 0,
            detailed: detailed * 2 >= rows && detailed > 0,
        }
    }

    /// Whether a row is at the top of a printed page: a title once more, or the number of the page.
    fn is_title_again(&self, row: &RawRow, titles: &HashSet<String>) -> bool {
        let wording = reduce(first_text(row));
        let page = || {
            let mut last_words = wording.rsplit(' ');
            let number = last_words.next().is_some_and(|word| word.parse::<u16>().is_ok());
            number && last_words.next().is_some_and(|word| words::says(Said::Page, word))
        };
        row.filled().count() == 1 && (titles.contains(&wording) || page())
    }

    fn kind(&self, row: &RawRow) -> RowKind {
        if has_code(self.reading, row) {
            return RowKind::Account;
        }
        let wording = reduce(first_text(row));
        let details = details(self.reading, row);
        let numbers = wording.contains(|c: char| c.is_ascii_digit());
        if words::total_of(&wording).is_some() && !numbers && (details == 0 || self.coded) {
            return RowKind::Total;
        }
        let alone = row.filled().count() == 1 && self.reading.name(row).is_empty();
        if !alone && details > 0 || wording.is_empty() {
            return RowKind::Account;
        }
        let known = words::class(&wording).is_some() || words::statement(&wording).is_some();
        let only = row.filled().filter(|(_, text)| text.contains(char::is_alphabetic)).count() == 1;
        if only && (self.coded || self.detailed || known) {
            RowKind::Caption
        } else {
            RowKind::Account
        }
    }
}

/// Whether a row has a code of its own: not a stand-in for none, and not the words of a caption.
fn has_code(reading: &Reading, row: &RawRow) -> bool {
    let code = reading.code(row, Column::Code);
    let words = reading.name(row).is_empty() && !code.contains(|c: char| c.is_ascii_digit());
    !is_nothing(code) && !words
}

/// How many columns say something of a row beside code, name and figures.
fn details(reading: &Reading, row: &RawRow) -> usize {
    let plain = [
        Column::Code,
        Column::Name,
        Column::CodeAndName,
        Column::Balance,
        Column::Description,
        Column::Level,
    ];
    let fields = reading.layout.columns.iter().filter_map(|column| column.field);
    fields
        .filter(|field| !plain.contains(field) && !reading.layout.cell(row, *field).is_empty())
        .count()
}

/// The captions above a row, as rows are gone through.
#[derive(Default)]
struct Above {
    captions: Captions,
    /// Whether no account stands below the last of them.
    fresh: bool,
    /// Whether captions stand below captions in this file.
    nested: bool,
}

impl Above {
    /// A caption that follows another at once stands below it, unless it is of a higher rank; one that
    /// follows accounts ends those of its rank.
    fn open(&mut self, text: &str) {
        let own = Caption::of(text);
        let goes_on =
            |above: &Caption| above.rank < own.rank || above.rank == own.rank && self.fresh;
        let kept = self.captions.iter().rposition(goes_on).map_or(0, |last| last + 1);
        let kept = if self.nested { kept } else { 0 };
        self.captions = self.captions[..kept].iter().cloned().chain([own]).collect();
        self.fresh = true;
    }

    /// A total ends the caption that it is the total of.
    fn close(&mut self, text: &str) {
        let wording = reduce(text);
        let of = words::total_of(&wording).unwrap_or_default();
        if let Some(at) = self.captions.iter().rposition(|caption| caption.wording == of) {
            self.captions = self.captions[..at].into();
        }
        self.fresh = false;
    }

    fn after_account(&mut self) {
        self.fresh = false;
    }
}

impl Caption {
    /// A statement ranks over a class, and a class over what is below it.
    fn of(text: &str) -> Self {
        let wording = reduce(text);
        let rank = match () {
            () if words::statement(&wording).is_some() => 0,
            () if words::class(&wording).is_some() => 1,
            () => 2,
        };
        Self { text: text.to_owned(), wording, rank }
    }
}
