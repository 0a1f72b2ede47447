//! From an uploaded file to what is ready: reading, matching and checking, in one place for all that
//! can be done with a file.

pub(crate) mod choices;
mod settling;

pub use settling::store;
pub(crate) use settling::{Wanted, stage};

use crate::{App, Problem};
use choices::Choices;
use std::collections::HashSet;
use std::sync::Arc;
use zf_core::chart::Account;
use zf_core::intake::columns::FileKind;
use zf_core::intake::compare::{Comparison, compare};
use zf_core::intake::crosswalk::{self, Crossing};
use zf_core::intake::journal::{self, NewEntry};
use zf_core::intake::layout::{headings, met_before};
use zf_core::intake::reading::Reading;
use zf_core::intake::usage::{self, NewUse};
use zf_core::intake::{Intake, OutlineBy, RawRow, Rejected, Sheet, Warning, chart};
use zf_core::money::grouped;
use zf_sheets::Opened;
use zf_store::imports::Upload;
use zf_store::people::Member;
use zf_store::today::Snapshot;

/// What was read of a file.
#[derive(Debug)]
pub struct Looked {
    /// What the file brings in.
    pub(crate) kind: FileKind,
    /// What the file is.
    pub(crate) facts: Facts,
    /// How it is read.
    pub(crate) reading: Reading,
    /// What a person chose of that.
    pub(crate) choices: Choices,
    /// The rows of the sheet that is read, with their corrections.
    pub(crate) rows: Vec<RawRow>,
    /// The columns that are needed and not there.
    pub(crate) lacking: Vec<&'static str>,
    /// How many rows are ready.
    pub ready_rows: usize,
    /// The rows that are left out.
    pub rejected: Vec<Rejected>,
    /// What is worth knowing of others.
    pub(crate) warnings: Vec<Warning>,
    /// What else is worth saying, in sentences.
    pub(crate) notes: Vec<String>,
    /// How the outline of a chart is told.
    pub(crate) outline: Option<OutlineBy>,
    /// Wordings that nothing is known of, with how many rows have each.
    pub(crate) unsettled: Vec<(String, usize)>,
    content: Content,
    snapshot: Arc<Snapshot>,
}

/// What a file is.
#[derive(Debug)]
pub(crate) struct Facts {
    pub(crate) format: &'static str,
    pub(crate) encoding: Option<&'static str>,
    pub(crate) delimiter: Option<char>,
    /// The sheets of a workbook; empty for a text file.
    pub(crate) sheets: Vec<String>,
    /// The one that is read; empty for a text file.
    pub(crate) sheet: String,
}

#[derive(Debug)]
enum Content {
    /// Columns are lacking, so that nothing could be read.
    Nothing,
    /// The accounts of books that have none yet.
    Chart(Vec<Account>),
    Comparison(Comparison),
    Crosswalk(Vec<Crossing>),
    Journal(Vec<NewEntry>),
    Usage(Vec<NewUse>),
}

/// What the rows of a sheet came to.
struct Read {
    ready_rows: usize,
    rejected: Vec<Rejected>,
    warnings: Vec<Warning>,
    content: Content,
    notes: Vec<String>,
    outline: Option<OutlineBy>,
    unsettled: Vec<(String, usize)>,
}

impl Read {
    fn nothing() -> Self {
        Self {
            ready_rows: 0,
            rejected: Vec::new(),
            warnings: Vec::new(),
            content: Content::Nothing,
            notes: Vec::new(),
            outline: None,
            unsettled: Vec::new(),
        }
    }

    fn of<T>(intake: Intake<T>, content: impl FnOnce(Vec<T>) -> Content) -> Self {
        Self {
            ready_rows: intake.ready_rows,
            rejected: intake.rejected,
            warnings: intake.warnings,
            content: content(intake.ready),
            ..Self::nothing()
        }
    }
}

/// Reads a waiting file against the books as they stand, as its choices say.
///
/// # Errors
/// When the file cannot be read, a choice is not known, or the store fails.
pub async fn look(app: &App, member: Member, upload: Upload) -> Result<Looked, Problem> {
    let snapshot = app.snapshot(member).await?;
    let entries = match upload.kind {
        FileKind::Journal => app.store.entry_numbers(member).await?,
        _ => HashSet::new(),
    };
    let choices = kept(&upload)?;
    crate::state::off_thread(move || {
        let opened = open(&upload, &choices)?;
        let facts = facts(&opened);
        let mut sheets = opened.sheets;
        let currency = snapshot.today.currency;
        let (at, reading) = Reading::find(upload.kind, &mut sheets, currency, &choices.chosen()?)
            .map_err(|e| Problem::unreadable("not_laid_out", e))?;
        let Sheet { name, rows, .. } = sheets.swap_remove(at);
        let lacking = reading.layout.lacking(upload.kind);
        let read = if lacking.is_empty() {
            read(upload.kind, &reading, &rows, &snapshot, &entries)
        } else {
            Read::nothing()
        };
        Ok(Looked {
            kind: upload.kind,
            facts: Facts { sheet: name, ..facts },
            reading,
            choices,
            rows,
            lacking,
            ready_rows: read.ready_rows,
            rejected: read.rejected,
            warnings: read.warnings,
            notes: read.notes,
            outline: read.outline,
            unsettled: read.unsettled,
            content: read.content,
            snapshot,
        })
    })
    .await?
}

/// The choices that a waiting file is kept with.
fn kept(upload: &Upload) -> Result<Choices, Problem> {
    serde_json::from_value(upload.choices.clone()).map_err(|e| Problem::internal(&e))
}

fn open(upload: &Upload, choices: &Choices) -> Result<Opened, Problem> {
    zf_sheets::read(&upload.file_name, &upload.content, &choices.how())
        .map_err(|e| Problem::unreadable("file_unreadable", e))
}

fn facts(opened: &Opened) -> Facts {
    let names = opened.sheets.iter().map(|sheet| sheet.name.clone());
    Facts {
        format: opened.kind,
        encoding: opened.encoding,
        delimiter: opened.delimiter,
        sheets: names.filter(|name| !name.is_empty()).collect(),
        sheet: String::new(),
    }
}

fn read(
    kind: FileKind,
    reading: &Reading,
    rows: &[RawRow],
    snapshot: &Snapshot,
    entries: &HashSet<String>,
) -> Read {
    let today = &snapshot.today;
    let (chart, former, format) = (&today.chart, &today.former, today.policy.format);
    match kind {
        FileKind::Chart => {
            let books = chart::Books { chart, format };
            let read = chart::read(reading, rows, &books, chart.next_id());
            let compared = chart.live().next().map(|_| compare(&read, reading, rows, chart));
            let (outline, unsettled) = (Some(read.outline), read.unsettled);
            let content = |accounts: Vec<(u32, Account)>| match compared {
                None => Content::Chart(accounts.into_iter().map(|(_, a)| a).collect()),
                Some(comparison) => Content::Comparison(comparison),
            };
            Read { outline, unsettled, ..Read::of(read.intake, content) }
        }
        FileKind::Crosswalk => {
            let books = crosswalk::Books { chart, former, format };
            Read::of(crosswalk::read(reading, rows, &books), Content::Crosswalk)
        }
        FileKind::Usage => Read::of(usage::read(reading, rows, chart, former), Content::Usage),
        FileKind::Balances => Read::nothing(),
        FileKind::Journal => {
            let books = journal::Books {
                chart,
                former,
                currency: today.currency,
                calendar: today.calendar,
                locked: today.locked,
                entries,
            };
            let read = journal::read(reading, rows, &books);
            let count = grouped(&read.intake.ready.len().to_string());
            let debits = today.currency.say(read.debits);
            let mut notes = vec![format!("{count} entries; debits and credits are {debits} each.")];
            for (code, account) in &read.mapped {
                let holder = chart.get(*account).map_or_else(String::new, Account::label);
                notes.push(format!("{code} is a former code; its lines go to {holder}."));
            }
            Read { notes, ..Read::of(read.intake, Content::Journal) }
        }
    }
}

/// Chooses for a new file what was chosen for the last one with the same headings.
///
/// # Errors
/// When the file cannot be read or the store fails.
pub(crate) async fn as_last_time(app: &App, member: Member, id: i64) -> Result<(), Problem> {
    let upload = app.store.upload(member, id).await?;
    let forms = app.store.file_forms(member, upload.kind).await?;
    if forms.is_empty() {
        return Ok(());
    }
    let (names, remembered): (Vec<_>, Vec<_>) =
        forms.into_iter().map(|form| (form.headings, form.choices)).unzip();
    let found = crate::state::off_thread(move || {
        let opened = open(&upload, &Choices::default())?;
        let met = met_before(&opened.sheets, &names);
        let named = |at: usize| Some(opened.sheets[at].name.clone()).filter(|n| !n.is_empty());
        Ok::<_, Problem>(met.map(|(form, sheet, row)| (form, named(sheet), row)))
    })
    .await??;
    let Some((form, sheet, row)) = found else {
        return Ok(());
    };
    let choices: Choices =
        serde_json::from_value(remembered[form].clone()).map_err(|e| Problem::internal(&e))?;
    choose(app, member, id, &Choices { sheet, header_row: Some(row), ..choices }).await
}

/// Keeps choices with a waiting file.
///
/// # Errors
/// When one of them is not known or the store fails.
pub(crate) async fn choose(
    app: &App,
    member: Member,
    id: i64,
    choices: &Choices,
) -> Result<(), Problem> {
    choices.chosen()?;
    let value = serde_json::to_value(choices).map_err(|e| Problem::internal(&e))?;
    Ok(app.store.choose(member, id, &value).await?)
}

/// Replaces the choices of a waiting file.
///
/// # Errors
/// When one of them is not known or the store fails.
pub(crate) async fn choose_anew(
    app: &App,
    member: Member,
    upload: &Upload,
    choices: Choices,
) -> Result<(), Problem> {
    let choices = choices.in_place_of(&kept(upload)?);
    choose(app, member, upload.id, &choices).await
}

impl Looked {
    /// What a chart says otherwise than that of the books, with the books.
    pub(crate) fn comparison(&self) -> Option<(&Comparison, &Snapshot)> {
        match &self.content {
            Content::Comparison(comparison) => Some((comparison, &self.snapshot)),
            _ => None,
        }
    }

    /// The headings of the file, as they are compared with those of the next.
    fn form(&self) -> Vec<String> {
        let row = self.rows.iter().find(|row| row.number == self.reading.layout.header_row);
        row.map(headings).unwrap_or_default()
    }
}
