//! From an uploaded file to what is ready: reading, matching and checking, in one place for all that
//! can be done with a file.

pub(crate) mod choices;
mod kinds;
mod settling;

pub use settling::{Agreed, store};
pub(crate) use settling::{Wanted, stage};

use crate::{App, Problem};
use choices::Choices;
use kinds::{Matter, Read};
use std::collections::HashSet;
use std::sync::Arc;
use time::{Date, OffsetDateTime};
use zf_core::calendar::Period;
use zf_core::chart::Account;
use zf_core::former::CodesThen;
use zf_core::intake::balances::{Difference, NewBalance};
use zf_core::intake::columns::FileKind;
use zf_core::intake::compare::Comparison;
use zf_core::intake::crosswalk::Crossing;
use zf_core::intake::journal::{NewEntry, UnknownCode};
use zf_core::intake::layout::{headings, met_before};
use zf_core::intake::reading::Reading;
use zf_core::intake::usage::NewUse;
use zf_core::intake::{OutlineBy, RawRow, Rejected, Sheet, Warning};
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
    /// How the outline of a chart is told.
    pub(crate) outline: Option<OutlineBy>,
    /// Wordings that nothing is known of, with how many rows have each.
    pub(crate) unsettled: Vec<(String, usize)>,
    /// What the entries of a journal come to.
    pub(crate) ties: Option<Ties>,
    /// Balances beside those of the books.
    pub(crate) beside: Option<Beside>,
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
    Balances(Vec<NewBalance>, HashSet<String>),
    /// Entries, with accounts that are added with them.
    Journal(Vec<NewEntry>, Vec<Account>),
    Usage(Vec<NewUse>),
}

/// What the entries of a journal come to, before they are stored.
#[derive(Debug)]
pub(crate) struct Ties {
    pub(crate) entries: usize,
    /// Sum of the debits; credits are the same.
    pub(crate) debits: i128,
    pub(crate) days: Option<(Date, Date)>,
    /// Entries that do not balance, with what their debits exceed their credits by.
    pub(crate) unbalanced: Vec<(String, i128)>,
    /// Codes of the file that are not today's of their account.
    pub(crate) mapped: Vec<(String, String)>,
    /// Codes that a person has to say something of.
    pub(crate) unknown: Vec<UnknownCode>,
    /// An earlier file with the same lines, and when it was stored.
    pub(crate) twice: Option<(String, OffsetDateTime)>,
    digest: u128,
}

/// Balances beside those of the books.
#[derive(Debug)]
pub(crate) struct Beside {
    pub(crate) debits: i128,
    pub(crate) credits: i128,
    /// The last period of the books that counts.
    pub(crate) as_of: Period,
    pub(crate) differences: Vec<Difference>,
    /// How many accounts agree.
    pub(crate) agree: usize,
    /// The account that would take a gap, by its label.
    pub(crate) taker: Option<String>,
}

/// Reads a waiting file against the books as they stand, as its choices say.
///
/// # Errors
/// When the file cannot be read, a choice is not known, or the store fails.
pub async fn look(app: &App, member: Member, upload: Upload) -> Result<Looked, Problem> {
    let snapshot = app.snapshot(member).await?;
    let entries = match upload.kind {
        FileKind::Journal | FileKind::Balances => app.store.entry_numbers(member).await?,
        _ => HashSet::new(),
    };
    let choices = kept(&upload)?;
    let then = match choices.codes_before {
        Some(application) => {
            let moment = app.store.application(member, application).await?.applied_at;
            Some(CodesThen::before(&snapshot.code_uses, moment))
        }
        None => None,
    };
    let read = move || -> Result<Looked, Problem> {
        let opened = open(&upload, &choices)?;
        let facts = facts(&opened);
        let mut sheets = opened.sheets;
        let currency = snapshot.today.currency;
        let (at, reading) = Reading::find(upload.kind, &mut sheets, currency, &choices.chosen()?)
            .map_err(|e| Problem::unreadable("not_laid_out", e))?;
        let Sheet { name, rows, .. } = sheets.swap_remove(at);
        let lacking = reading.layout.lacking(upload.kind);
        let read = if lacking.is_empty() {
            let (books, then) = (&*snapshot, then.as_ref());
            let matter =
                Matter { reading: &reading, rows: &rows, books, entries, then, choices: &choices };
            matter.read(upload.kind)?
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
            outline: read.outline,
            unsettled: read.unsettled,
            ties: read.ties,
            beside: read.beside,
            content: read.content,
            snapshot,
        })
    };
    let mut looked = crate::state::off_thread(read).await??;
    if let Some(ties) = looked.ties.as_mut().filter(|ties| ties.entries > 0) {
        ties.twice = app.store.stored_before(member, ties.digest).await?;
    }
    Ok(looked)
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
    /// The books as they stood when the file was looked at.
    pub(crate) fn books(&self) -> &Snapshot {
        &self.snapshot
    }

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
