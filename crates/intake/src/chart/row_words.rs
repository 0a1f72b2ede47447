//! What the words in the columns of kinds, statuses and normal balances say of a row. A word that the trade
//! does not know is asked; until somebody answers the row is taken as most rows are.

use crate::RawRow;
use crate::columns::{Column, reduce};
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use crate::words::{self, RowWord, Said, SideWord};
use std::collections::BTreeMap;
use zf_core::chart::Status;

/// What questions of words are about, for a word.
type AboutWord = fn(String) -> About;

/// The columns whose words are asked, with what questions of them are about.
const ASKED: [(Column, AboutWord); 3] =
    [(Column::Kind, About::Kind), (Column::Status, About::Status), (Column::Normal, About::Normal)];

/// Reads the words of rows.
pub(super) struct RowWords<'a> {
    reading: &'a Reading,
    /// Whether the column of statuses asks if an account is blocked, and so says yes for no.
    asks_blocked: bool,
}

/// The answer that a word says nothing of the side.
const NO_SIDE: &str = "nothing";

/// What an answer of a side says, where it is one; that it is none is an answer too.
pub(crate) fn side_or_none(key: &str) -> Option<Option<SideWord>> {
    if key == NO_SIDE { Some(None) } else { SideWord::from_key(key).map(Some) }
}

impl<'a> RowWords<'a> {
    pub(super) fn of(reading: &'a Reading) -> Self {
        let mut columns = reading.layout.columns.iter();
        let heading = columns.find(|column| column.field == Some(Column::Status));
        let asks_blocked =
            heading.is_some_and(|c| words::says(Said::Deactivated, &reduce(&c.heading)));
        Self { reading, asks_blocked }
    }

    fn wording(&self, row: &RawRow, column: Column) -> String {
        reduce(self.reading.layout.cell(row, column))
    }

    /// What a person answered of a word that nobody knows.
    fn answered<T>(
        &self,
        about: AboutWord,
        wording: &str,
        of: impl Fn(&str) -> Option<T>,
    ) -> Option<T> {
        of(self.reading.answers.get(&about(wording.to_owned()))?)
    }

    /// What the row says that it is; an account when it does not say.
    pub(super) fn kind(&self, row: &RawRow) -> Option<RowWord> {
        let wording = self.wording(row, Column::Kind);
        words::row_word(&wording)
            .or_else(|| self.answered(About::Kind, &wording, RowWord::from_key))
    }

    /// The status; active when it does not say.
    pub(super) fn status(&self, row: &RawRow) -> Status {
        let wording = self.wording(row, Column::Status);
        let known = self.known_status(&wording);
        let status = known.or_else(|| self.answered(About::Status, &wording, Status::from_key));
        status.unwrap_or(Status::Active)
    }

    fn known_status(&self, wording: &str) -> Option<Status> {
        let says = |said| words::says(said, wording);
        match () {
            () if wording.is_empty() || says(Said::Active) => Some(Status::Active),
            () if says(Said::Deactivated) => Some(Status::Deactivated),
            () if says(Said::Archived) => Some(Status::Archived),
            () if says(Said::Yes) || says(Said::No) => {
                let active = says(Said::Yes) != self.asks_blocked;
                Some(if active { Status::Active } else { Status::Deactivated })
            }
            () => None,
        }
    }

    /// Whether the balance usually stands on the debit side, if the row says so.
    pub(super) fn debit(&self, row: &RawRow) -> Option<bool> {
        let wording = self.wording(row, Column::Normal);
        let side = words::side(&wording);
        let side = side.or_else(|| self.answered(About::Normal, &wording, SideWord::from_key));
        side.map(|side| side == SideWord::Debit)
    }

    /// Asks what words mean that nobody knows, and nobody has answered yet.
    pub(super) fn questions<'r>(&self, rows: impl Iterator<Item = &'r RawRow>) -> Vec<Question> {
        let mut unknown: BTreeMap<About, (String, usize, &RawRow)> = BTreeMap::new();
        for row in rows {
            for (column, about) in ASKED {
                let wording = self.wording(row, column);
                if wording.is_empty() || self.is_known(column, &wording) {
                    continue;
                }
                let text = self.reading.layout.cell(row, column).to_owned();
                unknown.entry(about(wording)).or_insert((text, 0, row)).1 += 1;
            }
        }
        let unknown = unknown.into_iter();
        unknown.map(|(about, (text, rows, first))| self.ask(about, &text, rows, first)).collect()
    }

    fn is_known(&self, column: Column, wording: &str) -> bool {
        match column {
            Column::Kind => {
                words::row_word(wording).is_some()
                    || self.answered(About::Kind, wording, RowWord::from_key).is_some()
            }
            Column::Status => {
                self.known_status(wording).is_some()
                    || self.answered(About::Status, wording, Status::from_key).is_some()
            }
            _ => {
                words::side(wording).is_some()
                    || self.answered(About::Normal, wording, side_or_none).is_some()
            }
        }
    }

    fn ask(&self, about: About, text: &str, rows: usize, first: &RawRow) -> Question {
        let gives = Gives::RowsAs(rows, self.reading.name(first).to_owned());
        let answer = |key: &str, means: Means| Answer::new(key, means, gives.clone());
        let text = text.to_owned();
        let (asks, readings, default) = match &about {
            About::Kind(_) => {
                let kinds = [RowWord::Account, RowWord::Heading, RowWord::Sum];
                let readings = kinds.map(|kind| answer(kind.key(), Means::Kind(kind))).to_vec();
                (Asks::Kind(text), readings, RowWord::Account.key())
            }
            About::Status(_) => {
                let statuses = [Status::Active, Status::Deactivated, Status::Archived];
                let answer = |status: Status| answer(status.key(), Means::Status(status));
                (Asks::Status(text), statuses.map(answer).to_vec(), Status::Active.key())
            }
            _ => {
                let sides = SideWord::ALL.iter();
                let readings = sides.map(|side| answer(side.key(), Means::Side(*side)));
                let readings = readings.chain([answer(NO_SIDE, Means::NoSide)]).collect();
                (Asks::Side(text), readings, NO_SIDE)
            }
        };
        let default = Some(default.to_owned());
        Question { about, asks, readings, default }
    }
}
