//! Finding how a sheet is laid out: its row of headings, and what each column means.

use super::fit::{self, Cells};
use super::{
    Chosen, ColumnFound, Layout, Meaning, NoLayout, Rival, SAMPLED, SEARCHED, assign, possible,
};
use crate::codes::split;
use crate::columns::{Column, dimension, reduce};
use crate::{Cell, RawRow, words};
use std::cmp::Reverse;
use std::collections::{HashMap, HashSet};
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_core::text;

/// Among how many rows one is like what the columns hold, where a list has no headings.
const BEGINNING: usize = 6;

impl Layout {
    /// Finds the row of headings: one that has all that the kind of file needs before others, and
    /// of those the one with most headings that are known. Headings may stand in two rows. Which column
    /// means what is told by headings and cells together, for all columns at once. What is still
    /// [lacking](Self::lacking) a person has to say. `rows` need not be more than the first [`SHOWN`].
    ///
    /// # Errors
    /// When the sheet is empty.
    pub fn find(kind: FileKind, rows: &[RawRow], chosen: &Chosen) -> Result<Self, NoLayout> {
        if rows.iter().all(RawRow::is_blank) {
            return Err(NoLayout::Empty);
        }
        let fields: Vec<Column> = possible(kind).collect();
        let found = Self::of_all(kind, &fields, rows, chosen)?;
        Ok(found.with_rivals(kind, &fields, rows, chosen))
    }

    /// The best of the layouts with any rows of headings.
    fn of_all(
        kind: FileKind,
        fields: &[Column],
        rows: &[RawRow],
        chosen: &Chosen,
    ) -> Result<Self, NoLayout> {
        let of = |heads: Vec<&RawRow>| Self::of(kind, fields, heads, rows, chosen);
        if chosen.header_row == Some(0) {
            return Ok(of(Vec::new()));
        }
        let mut best: Option<((bool, usize, bool, i64), Self)> = None;
        for heads in candidates(kind, fields, rows, chosen) {
            let layout = of(heads);
            // What stands where the codes are is a code itself: the row is none of headings.
            let coded = heads_hold_codes(&layout);
            if chosen.header_row.is_none() && (layout.score == 0 || coded) {
                continue;
            }
            let wide = layout.columns.len() > 1;
            let rank = (layout.lacking(kind).is_empty(), layout.score, wide, layout.plainly);
            // Of equals the first: headings stand above what they head.
            if best.as_ref().is_none_or(|(most, _)| rank > *most) {
                best = Some((rank, layout));
            }
        }
        let found = best.map(|(_, layout)| layout);
        if chosen.header_row.is_some() {
            return found.ok_or(NoLayout::NoRow);
        }
        if found.as_ref().is_some_and(|layout| layout.lacking(kind).is_empty()) {
            return found.ok_or(NoLayout::NoRow);
        }
        // A list that begins at once has no headings, but cells that tell enough.
        let bare = of(Vec::new());
        let first = rows.iter().find(|row| !row.is_blank());
        let mut start = rows.iter().filter(|row| !row.is_blank()).take(BEGINNING);
        if bare.lacking(kind).is_empty() && start.any(|row| bare.is_like(row)) {
            return Ok(bare);
        }
        let first = first.filter(|_| found.is_none());
        found.or_else(|| first.map(|row| of(vec![row]))).ok_or(NoLayout::NoRow)
    }

    /// Whether a row has what the columns hold, rather than their headings.
    fn is_like(&self, row: &RawRow) -> bool {
        let code = self.cell(row, Column::Code);
        let both = self.cell(row, Column::CodeAndName);
        code.contains(|c: char| c.is_ascii_digit()) || split(both).is_some()
    }

    /// The layout with certain rows of headings; with none the columns are called by letters.
    fn of(
        kind: FileKind,
        fields: &[Column],
        heads: Vec<&RawRow>,
        rows: &[RawRow],
        chosen: &Chosen,
    ) -> Self {
        let columns = Columns::of(kind, fields, &heads, rows, chosen);
        let Columns { headings, below, fits } = &columns;
        let given: Vec<Option<Column>> =
            assign::best(fits).into_iter().map(|at| at.map(|at| fields[at])).collect();
        let given = match kind {
            FileKind::Chart => columns.captioned(given, chosen),
            FileKind::Journal => columns.with_payees(given, chosen),
            FileKind::Usage => columns.with_uses(without_periods(given), chosen),
            _ => without_periods(given),
        };
        let score = given.iter().zip(headings).filter_map(|(field, (_, heading))| {
            let score = fit::score(kind, (*field)?, &words::heading_words(heading));
            (!heads.is_empty() && score >= fit::TOLD).then_some(score)
        });
        let score: Vec<i64> = score.collect();
        let mut layout = Self {
            header_row: heads.last().map_or(0, |row| row.number),
            score: score.len(),
            plainly: score.iter().sum(),
            places: given
                .iter()
                .zip(headings)
                .filter_map(|(f, (at, _))| Some(((*f)?, *at)))
                .collect(),
            heads: heads.into_iter().cloned().collect(),
            ..Self::default()
        };
        if kind == FileKind::Chart {
            layout.find_stairs(below);
        }
        for ((at, heading), field) in headings.iter().zip(given) {
            let named = match chosen.columns.get(heading) {
                _ if field.is_some() => None,
                Some(Meaning::Dimension) => Some(reduce(heading)),
                Some(_) => None,
                None => dimension(kind, heading),
            };
            if field.is_none() && named.is_none() && columns.cells(*at).are_amounts() {
                layout.amounts.push(*at);
            }
            layout.columns.push(ColumnFound {
                at: *at,
                heading: heading.clone(),
                field,
                dimension: named,
            });
        }
        match kind {
            FileKind::Chart => {
                layout.find_second_table();
                layout.find_groups(below, chosen);
                layout.find_paths(below, chosen);
            }
            FileKind::Balances if !chosen.names_amounts() => {
                layout.find_figures(below, chosen.figures.as_deref());
            }
            _ => {}
        }
        layout
    }

    /// The same with what is not certain of its columns.
    fn with_rivals(
        mut self,
        kind: FileKind,
        fields: &[Column],
        rows: &[RawRow],
        chosen: &Chosen,
    ) -> Self {
        if self.second.is_some() || !self.stairs.is_empty() || !self.groups.is_empty() {
            return self;
        }
        let heads: Vec<&RawRow> = self.heads.iter().collect();
        let Columns { headings, fits, .. } = Columns::of(kind, fields, &heads, rows, chosen);
        // Of the figures of a trial balance it is asked in a question of its own.
        let figures = kind == FileKind::Balances && self.figures().is_some();
        let amounts = [Column::Debit, Column::Credit, Column::Amount];
        let certain = |at: usize| chosen.columns.contains_key(&headings[at].1);
        let rivals = assign::rivals(&fits, CLOSE).into_iter();
        let rivals = rivals.filter(|rival| ASKED.contains(&fields[rival.means]));
        let rivals = rivals.filter(|rival| !figures || !amounts.contains(&fields[rival.means]));
        // Either of the columns of class and caption may hold either.
        let either = |rival: &assign::Rival| {
            fields[rival.means] == Column::Class
                && rival.instead.map(|means| fields[means]) == Some(Column::Section)
        };
        // Beside the other side a column of one is not of both.
        let two = self.has(Column::Debit) && self.has(Column::Credit);
        let side = |rival: &assign::Rival| {
            matches!(fields[rival.means], Column::Debit | Column::Credit)
                && rival.instead.map(|means| fields[means]) == Some(Column::Amount)
        };
        let rivals = rivals.filter(|rival| !(two && side(rival)));
        let rivals = rivals.filter(|rival| !certain(rival.at) && !either(rival));
        self.rivals = rivals
            .map(|rival| Rival {
                at: headings[rival.at].0,
                field: fields[rival.means],
                other: rival.other.map(|at| headings[at].0),
                instead: rival.instead.map(|means| fields[means]),
            })
            .collect();
        self
    }
}

/// Where days are told, periods say nothing more.
fn without_periods(given: Vec<Option<Column>>) -> Vec<Option<Column>> {
    let dated = given.contains(&Some(Column::Date));
    let period = |field: &Column| dated && matches!(field, Column::Period | Column::Year);
    given.into_iter().map(|field| field.filter(|field| !period(field))).collect()
}

/// Rows, and rows in pairs, that could be those of headings; without one that is known the cells below could
/// make any row one. In a wide sheet only the likeliest are tried.
fn candidates<'a>(
    kind: FileKind,
    fields: &[Column],
    rows: &'a [RawRow],
    chosen: &Chosen,
) -> Vec<Vec<&'a RawRow>> {
    let asked = |row: &RawRow| chosen.header_row.is_none_or(|number| row.number == number);
    let searched = &rows[..rows.len().min(SEARCHED)];
    let single = searched.iter().filter(|row| asked(row) && !row.is_blank()).map(|row| vec![row]);
    let titles = |row: &RawRow| {
        let digits = |text: &str| text.contains(|c: char| c.is_ascii_digit());
        row.filled().count() > 1 && !row.filled().any(|(_, text)| digits(text))
    };
    let same = |pair: &[RawRow]| {
        pair[0]
            .filled()
            .any(|(at, text)| pair[1].cells.get(at).is_some_and(|cell| cell.text.trim() == text))
    };
    let pairs = searched.windows(2).filter(|pair| asked(&pair[1]));
    let pairs = pairs.filter(|pair| pair.iter().all(titles) && !same(pair));
    let all = single.chain(pairs.map(|pair| pair.iter().collect()));
    let known = all.map(|heads| {
        let row = joined(&heads);
        let meant = row.filled().any(|(_, text)| chosen.columns.contains_key(text));
        (fit::known_headings(kind, fields, &row), meant, heads)
    });
    let mut known: Vec<_> = known
        .filter(|(known, meant, _)| chosen.header_row.is_some() || *meant || *known > 0)
        .enumerate()
        .collect();
    let width = rows.iter().map(|row| row.cells.len()).max().unwrap_or(1);
    known.sort_by_key(|(_, (known, meant, _))| Reverse((*meant, *known)));
    known.truncate((TRIED / width.max(1)).max(LEAST));
    known.sort_by_key(|(place, _)| *place);
    known.into_iter().map(|(_, (_, _, heads))| heads).collect()
}

/// How many cells are tried as headings, if there are many, and how many rows at least.
const TRIED: usize = 4_096;
const LEAST: usize = 4;

/// Whether the headings have a code where the codes stand below them.
fn heads_hold_codes(layout: &Layout) -> bool {
    let Some(at) = layout.place(Column::Code) else { return false };
    layout.heads.iter().filter_map(|head| head.cells.get(at)).any(|cell| {
        let text = cell.text.trim();
        text.chars().filter(char::is_ascii_digit).count() * 2 > text.chars().count()
    })
}

/// By how much less a second way to give meanings to columns may fit for the first not to be certain.
const CLOSE: i64 = 6;

/// The meanings of which it is asked where a second column fits nearly as well.
const ASKED: [Column; 10] = [
    Column::Code,
    Column::Name,
    Column::CodeAndName,
    Column::NewCode,
    Column::Class,
    Column::Date,
    Column::Entry,
    Column::Debit,
    Column::Credit,
    Column::Amount,
];

/// The columns of a sheet below certain headings, and how well each fits each meaning.
struct Columns<'a> {
    /// Place and heading.
    headings: Vec<(usize, String)>,
    below: Vec<&'a RawRow>,
    fits: Vec<Vec<i64>>,
}

impl<'a> Columns<'a> {
    fn of(
        kind: FileKind,
        fields: &[Column],
        heads: &[&RawRow],
        rows: &'a [RawRow],
        chosen: &Chosen,
    ) -> Self {
        let header_row = heads.last().map_or(0, |row| row.number);
        let head = if heads.is_empty() {
            letters(&rows.iter().collect::<Vec<_>>())
        } else {
            joined(heads)
        };
        // A heading is kept with the file, and choices go by it: so it is taken as it can be kept.
        let mut headings: Vec<_> =
            head.filled().map(|(at, text)| (at, text::shown(text))).collect();
        let below: Vec<_> =
            rows.iter().filter(|row| row.number > header_row).take(SAMPLED).collect();
        // What stands below nothing is there all the same.
        let names = letters(&below);
        let unheaded = names.filled().map(|(at, name)| (at, name.to_owned())).filter(|(at, _)| {
            let text = |row: &&RawRow, at: usize| {
                row.cells.get(at).is_some_and(|cell| !cell.text.trim().is_empty())
            };
            !text(&&head, *at) && below.iter().any(|row| text(row, *at))
        });
        headings.extend(unheaded);
        headings.sort_by_key(|(at, _)| *at);
        let mut columns = Self { headings, below, fits: Vec::new() };
        let fits = columns.headings.iter().map(|(at, heading)| {
            let words = if heads.is_empty() { Vec::new() } else { words::heading_words(heading) };
            let cells = columns.cells(*at);
            let fit = |field: &Column| match chosen.columns.get(heading) {
                Some(Meaning::Field(own)) if own == field => assign::CHOSEN,
                Some(_) => 0,
                None => fit::fit(kind, *field, &words, &cells).unwrap_or(0),
            };
            fields.iter().map(fit).collect()
        });
        columns.fits = fits.collect();
        columns.part_codes_and_names(kind, fields);
        if let Some(base) = chosen.base {
            columns.part_currencies(fields, base, chosen);
        }
        if kind == FileKind::Chart {
            prefer_beside_codes(&mut columns.fits, fields, &columns.headings, &columns.below);
        }
        columns
    }

    /// A second column that is called as classes are holds captions, if no other does.
    fn captioned(&self, mut given: Vec<Option<Column>>, chosen: &Chosen) -> Vec<Option<Column>> {
        let has = |field: Column| given.contains(&Some(field));
        let stem = |heading: &str| reduce(heading).replace(|c: char| c.is_ascii_digit(), "");
        let class = given.iter().position(|field| *field == Some(Column::Class));
        let class = class.map(|at| stem(&self.headings[at].1));
        let called = |heading: &str| {
            let words = words::heading_words(heading);
            let score = fit::score(FileKind::Chart, Column::Class, &words) >= fit::TOLD;
            let grouping = words::says(words::Said::Grouping, stem(heading).trim());
            score || class == Some(stem(heading)) && !grouping
        };
        if has(Column::Class) && !has(Column::Section) {
            let open = given.iter().zip(&self.headings).position(|(field, (at, heading))| {
                let open = field.is_none() && !chosen.columns.contains_key(heading);
                open && called(heading) && self.cells(*at).are_words()
            });
            if let Some(open) = open {
                given[open] = Some(Column::Section);
            }
        }
        given
    }

    /// Of a journal a column of names that differ from line to line of one account are whom it was paid to, or by.
    fn with_payees(&self, given: Vec<Option<Column>>, chosen: &Chosen) -> Vec<Option<Column>> {
        let mut given = without_periods(given);
        let place = |field: Column| given.iter().position(|own| *own == Some(field));
        let (Some(code), Some(name), None) =
            (place(Column::Code), place(Column::Name), place(Column::Payee))
        else {
            return given;
        };
        if chosen.columns.contains_key(&self.headings[name].1) {
            return given;
        }
        let text = |row: &RawRow, column: usize| {
            let cell = row.cells.get(self.headings[column].0);
            cell.map(|cell| reduce(&cell.text)).filter(|text| !text.is_empty())
        };
        let mut names: HashMap<String, Vec<String>> = HashMap::new();
        for (code, name) in self.below.iter().filter_map(|row| text(row, code).zip(text(row, name)))
        {
            names.entry(code).or_default().push(name);
        }
        let often: Vec<_> = names.into_values().filter(|names| names.len() > 2).collect();
        let differ =
            |names: &&Vec<String>| names.iter().collect::<HashSet<_>>().len() * 2 > names.len();
        if often.iter().filter(differ).count() * 2 > often.len() {
            given[name] = Some(Column::Payee);
        }
        given
    }

    /// Where amounts are headed by the currency of the books and others by another one, the first are the books’, and the
    /// others those of the lines’ own currency.
    fn part_currencies(&mut self, fields: &[Column], base: Currency, chosen: &Chosen) {
        let place = |field: Column| fields.iter().position(|own| *own == field);
        let own: Vec<usize> =
            [Column::Amount, Column::Debit, Column::Credit].into_iter().filter_map(place).collect();
        let named = |heading: &str| -> Vec<Currency> {
            let words = heading.split(|c: char| !c.is_alphabetic());
            let codes = words.filter(|w| w.len() == 3 && w.chars().all(|c| c.is_ascii_uppercase()));
            codes.filter_map(|code| Currency::parse(code).ok()).collect()
        };
        let of: Vec<Vec<Currency>> = self.headings.iter().map(|(_, text)| named(text)).collect();
        let holds = |at: usize| {
            let score = own.iter().any(|field| self.fits[at][*field] > 0);
            let settled = chosen.columns.contains_key(&self.headings[at].1);
            !settled && (score || self.cells(self.headings[at].0).are_amounts())
        };
        let places: Vec<usize> =
            (0..of.len()).filter(|at| !of[*at].is_empty() && holds(*at)).collect();
        let is_base = |at: &usize| of[*at].contains(&base);
        if !places.iter().any(is_base) {
            return;
        }
        for at in places {
            let fits = &mut self.fits[at];
            let most = own.iter().map(|field| fits[*field]).max().unwrap_or(0);
            if of[at].contains(&base) {
                // A heading of nothing but the currency is one of amounts.
                if let (0, Some(amount)) = (most, place(Column::Amount)) {
                    fits[amount] = fit::TOLD;
                }
            } else {
                own.iter().for_each(|field| fits[*field] = 0);
                if let Some(foreign) = place(Column::Foreign) {
                    fits[foreign] = fits[foreign].max(most);
                }
            }
        }
    }

    /// Of a where-used list whose headings nobody knows the first words say what uses the account, and the next what that
    /// is called.
    fn with_uses(&self, mut given: Vec<Option<Column>>, chosen: &Chosen) -> Vec<Option<Column>> {
        for wanted in [Column::UsedBy, Column::Label] {
            let has = |field: Column| given.contains(&Some(field));
            if has(wanted) || !has(Column::Code) {
                continue;
            }
            let open = given.iter().zip(&self.headings).position(|(field, (at, heading))| {
                field.is_none()
                    && !chosen.columns.contains_key(heading)
                    && self.cells(*at).are_words()
            });
            if let Some(open) = open {
                given[open] = Some(wanted);
            }
        }
        given
    }

    /// Where codes and names have columns of their own, no other holds both in one cell.
    fn part_codes_and_names(&mut self, kind: FileKind, fields: &[Column]) {
        let place = |field: Column| fields.iter().position(|own| *own == field);
        let columns = [Column::Code, Column::Name, Column::CodeAndName].map(place);
        let [Some(code), Some(name), Some(both)] = columns else { return };
        let given = assign::best(&self.fits);
        let has = |field: usize| given.contains(&Some(field));
        let chosen = |field: usize| self.fits.iter().any(|fits| fits[field] >= assign::CHOSEN);
        if has(code) && has(name) && !chosen(both) {
            self.fits.iter_mut().for_each(|fits| fits[both] = 0);
        } else if has(both) && has(code) && !has(name) {
            let at = |field: usize| given.iter().position(|own| *own == Some(field));
            let (Some(coded), Some(named)) = (at(code), at(both)) else { return };
            let names_only = !chosen(both) && !self.begin_with_codes_of(coded, named);
            if names_only && (chosen(code) || self.is_called(kind, coded, Column::Code)) {
                // Names that only begin like codes.
                let named = &mut self.fits[named];
                named[name] = named[name].max(named[both]);
                self.fits.iter_mut().for_each(|fits| fits[both] = 0);
            } else if !chosen(code) {
                self.fits.iter_mut().for_each(|fits| fits[code] = 0);
            }
        }
    }

    /// Whether most cells of a column begin with the code that stands in another: “1010 Bank” beside 1010, and
    /// not “4x4 hire” beside 6210.
    fn begin_with_codes_of(&self, coded: usize, named: usize) -> bool {
        let text = |row: &&'a RawRow, at: usize| {
            row.cells.get(self.headings[at].0).map_or("", |cell| cell.text.trim())
        };
        let both = self.below.iter().map(|row| (text(row, coded), text(row, named)));
        let filled: Vec<_> =
            both.filter(|(code, name)| !code.is_empty() && !name.is_empty()).collect();
        let same = |(code, name): &&(&str, &str)| split(name).is_some_and(|(own, _)| own == *code);
        filled.iter().filter(same).count() * 2 >= filled.len()
    }

    /// Whether the heading of a column says what it means, and most of its cells look like it.
    fn is_called(&self, kind: FileKind, at: usize, means: Column) -> bool {
        let words = words::heading_words(&self.headings[at].1);
        let looks = fit::looks(means, &self.cells(self.headings[at].0));
        fit::score(kind, means, &words) >= fit::TOLD && looks.is_some_and(|share| share >= 50)
    }

    fn cells(&self, at: usize) -> Cells<'_> {
        Cells::of(self.below.iter().filter_map(|row| row.cells.get(at)))
    }
}

/// Of columns that could be names the one counts more that is filled where codes are.
fn prefer_beside_codes(
    fits: &mut [Vec<i64>],
    fields: &[Column],
    headings: &[(usize, String)],
    rows: &[&RawRow],
) {
    let place = |field: Column| fields.iter().position(|own| *own == field);
    let (Some(code), Some(name)) = (place(Column::Code), place(Column::Name)) else { return };
    let coded = (0..fits.len()).max_by_key(|at| fits[*at][code]).filter(|at| fits[*at][code] > 0);
    let Some(coded) = coded else { return };
    let filled = |row: &RawRow, at: usize| {
        row.cells.get(at).is_some_and(|cell| !cell.text.trim().is_empty())
    };
    let with_code: Vec<_> = rows.iter().filter(|row| filled(row, headings[coded].0)).collect();
    for (at, fit) in fits.iter_mut().enumerate().filter(|(at, fit)| *at != coded && fit[name] > 0) {
        let beside = with_code.iter().filter(|row| filled(row, headings[at].0)).count();
        fit[name] += i64::try_from(beside * 20 / with_code.len().max(1)).unwrap_or(0);
    }
}

/// A row of headings for a sheet that has none.
fn letters(rows: &[&RawRow]) -> RawRow {
    let width = rows.iter().map(|row| row.cells.len()).max().unwrap_or(0);
    let name = |at: usize| {
        let letter = |n: usize| char::from(b'A' + u8::try_from(n % 26).unwrap_or(0));
        let first = (at / 26).checked_sub(1).map(letter);
        Cell::text(&format!("Column {}{}", first.map_or(String::new(), String::from), letter(at)))
    };
    RawRow { number: 0, cells: (0..width).map(name).collect() }
}

/// Headings of two rows as one: what is merged over several columns stands over each of them.
fn joined(heads: &[&RawRow]) -> RawRow {
    let Some((last, above)) = heads.split_last() else {
        return RawRow { number: 0, cells: Vec::new() };
    };
    let mut row = (*last).clone();
    for upper in above {
        let mut over = "";
        for at in 0..row.cells.len().max(upper.cells.len()) {
            let here = upper.cells.get(at).map_or("", |cell| cell.text.trim());
            let own = row.cells.get(at).map_or("", |cell| cell.text.trim());
            over = if here.is_empty() && !own.is_empty() { over } else { here };
            let text = format!("{over} {own}");
            if row.cells.len() <= at {
                row.cells.push(Cell::default());
            }
            row.cells[at] = Cell::text(text.trim());
        }
    }
    row
}
