//! Tables within a sheet: the same columns once more at the right, and columns that hold one level each or
//! the path to it.

use super::{Chosen, ColumnFound, Layout};
use crate::RawRow;
use crate::columns::{Column, reduce};
use crate::paths;
use crate::words::{self, Said};
use std::collections::{HashMap, HashSet};

impl Layout {
    /// Finds where the same headings begin once more: at the place from which on each is what stands as
    /// far to the right of the first.
    pub(super) fn find_second_table(&mut self) {
        let heading = |column: &ColumnFound| reduce(&column.heading);
        let Some(first) = self.columns.first() else { return };
        self.second = self.columns.iter().skip(2).map(|column| column.at).find(|at| {
            let (left, right): (Vec<_>, Vec<_>) =
                self.columns.iter().partition(|column| column.at < *at);
            let known = left.iter().filter(|column| column.field.is_some()).count();
            let places = |part: &[&ColumnFound], from: usize| {
                part.iter().map(|c| (c.at - from, heading(c))).collect::<Vec<_>>()
            };
            known > 1 && first.at == 0 && places(&left, 0) == places(&right, *at)
        });
        if let Some(second) = self.second {
            // Whatever was found in the second table stands in the first.
            for place in self.places.values_mut().filter(|place| **place >= second) {
                *place -= second;
            }
            for column in &mut self.columns {
                let field = self.places.iter().find(|(_, place)| **place == column.at);
                column.field = field.map(|(field, _)| *field);
            }
            self.columns.retain(|column| column.at < second);
            self.amounts.retain(|at| *at < second);
        }
    }

    /// Finds columns side by side of which each row has a name in one.
    pub(super) fn find_stairs(&mut self, rows: &[&RawRow]) {
        let own = self.place(Column::Name);
        let taken = |at: &usize| self.places.values().any(|place| place == at) && Some(*at) != own;
        let width = rows.iter().map(|row| row.cells.len()).max().unwrap_or(0);
        let text =
            |row: &RawRow, at: usize| row.cells.get(at).map_or("", |c| c.text.trim()).to_owned();
        let worded = |at: &usize| {
            let texts: Vec<_> =
                rows.iter().map(|row| text(row, *at)).filter(|t| !t.is_empty()).collect();
            !texts.is_empty() && texts.iter().all(|t| t.contains(char::is_alphabetic))
        };
        let runs = (0..width).map(|at| !taken(&at) && worded(&at)).collect::<Vec<_>>();
        let mut at = 0;
        while at < width {
            let long = runs[at..].iter().take_while(|fits| **fits).count();
            let one =
                |row: &&&RawRow| (at..at + long).filter(|n| !text(row, *n).is_empty()).count() < 2;
            if long > 1 && rows.len() > 2 && rows.iter().filter(one).count() == rows.len() {
                self.stairs = (at..at + long).collect();
                self.places.insert(Column::Name, at);
                return;
            }
            at += long.max(1);
        }
    }

    /// Finds columns side by side that each name a heading over the row: they are called as groups or
    /// levels, each value of one stands under one value of that to its left, and not all have a meaning.
    pub(super) fn find_groups(&mut self, rows: &[&RawRow], chosen: &Chosen) {
        let text = |row: &RawRow, at: usize| {
            row.cells.get(at).map_or_else(String::new, |cell| reduce(&cell.text))
        };
        let worded = |at: usize| rows.iter().all(|row| text(row, at).parse::<i64>().is_err());
        let under_one = |above: usize, below: usize| {
            let mut parents: HashMap<String, String> = HashMap::new();
            rows.iter().all(|row| {
                let (above, below) = (text(row, above), text(row, below));
                below.is_empty() || *parents.entry(below).or_insert_with(|| above.clone()) == above
            })
        };
        let columns: Vec<&ColumnFound> = self
            .columns
            .iter()
            .filter(|column| called(column) && !chosen.columns.contains_key(&column.heading))
            .filter(|column| worded(column.at))
            .collect();
        let open = columns.iter().any(|column| column.field.is_none());
        let places: Vec<usize> = columns.iter().map(|column| column.at).collect();
        let chain = places.windows(2).all(|pair| under_one(pair[0], pair[1]));
        if places.len() > 1 && open && chain {
            self.groups = places;
        }
    }

    /// Finds a column that names all headings over the row, as `Assets > Current assets`: it is called as
    /// groups or headings, or has no meaning and its paths begin with classes. It means nothing else then.
    pub(super) fn find_paths(&mut self, rows: &[&RawRow], chosen: &Chosen) {
        let outlined = !self.groups.is_empty() || !self.stairs.is_empty();
        if outlined || self.second.is_some() || self.place(Column::Level).is_some() {
            return;
        }
        let open = self.columns.iter().filter(|column| {
            column.dimension.is_none() && !chosen.columns.contains_key(&column.heading)
        });
        let Some((at, mark)) = open.filter_map(|column| self.paths_of(column, rows)).next() else {
            return;
        };
        self.groups = vec![at];
        self.path_mark = Some(mark);
        self.places.retain(|_, place| *place != at);
        for column in self.columns.iter_mut().filter(|column| column.at == at) {
            column.field = None;
        }
    }

    /// Where a column stands that holds paths of headings, and the mark between their names.
    fn paths_of(&self, column: &ColumnFound, rows: &[&RawRow]) -> Option<(usize, &'static str)> {
        let texts = rows.iter().filter_map(|row| row.cells.get(column.at));
        let texts = texts.map(|cell| cell.text.trim()).filter(|text| !text.is_empty());
        let most = |is: &dyn Fn(&str) -> bool| {
            texts.clone().filter(|text| is(text)).count() * 2 > texts.clone().count()
        };
        let mark = paths::mark_of(texts.clone())?;
        let begins_with_class = |text: &str| {
            let first = paths::parts(text, mark).first().map(|name| reduce(name));
            first.is_some_and(|first| words::class(&first).is_some())
        };
        let names: HashSet<&str> = rows.iter().map(|row| self.cell(row, Column::Name)).collect();
        let holds = match column.field {
            // A name may hold the mark itself.
            Some(Column::Parent) => !most(&|text| names.contains(text)),
            Some(Column::Section | Column::Class) => called(column),
            None => called(column) || most(&begins_with_class),
            Some(_) => false,
        };
        holds.then_some((column.at, mark))
    }

    /// The mark that parts the names in the column of groups, where it holds whole paths.
    pub(crate) fn path_mark(&self) -> Option<&'static str> {
        self.path_mark
    }

    /// Columns that each name a heading over the row, from the outermost.
    pub(crate) fn groups(&self) -> &[usize] {
        &self.groups
    }
}

/// Whether a column is called as groups or levels.
fn called(column: &ColumnFound) -> bool {
    let wording = reduce(&column.heading);
    let stem = wording.trim_end_matches(|c: char| c.is_ascii_digit() || c == ' ');
    words::says(Said::Grouping, stem)
}
