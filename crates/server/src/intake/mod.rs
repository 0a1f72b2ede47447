//! From an uploaded file to what is ready: reading, matching and checking, in one place for all that
//! can be done with a file.

pub(crate) mod choices;
pub mod jobs;
mod kinds;
mod settling;
pub(crate) mod view;
mod watched;

pub use settling::Agreed;
pub(crate) use settling::{Wanted, stage};

use crate::{App, Problem};
use choices::Choices;
use kinds::{Matter, Read};
use std::collections::HashSet;
use std::sync::Arc;
use time::{Date, OffsetDateTime};
use zf_core::calendar::Period;
use zf_core::chart::Account;
use zf_core::file_kind::FileKind;
use zf_core::former::CodesThen;
use zf_core::usage::Use;
use zf_intake::balances::{Difference, NewBalance};
use zf_intake::compare::Comparison;
use zf_intake::crosswalk::Crossing;
use zf_intake::journal::UnknownCode;
use zf_intake::layout::{headings, met_before};
use zf_intake::reading::Reading;
use zf_intake::rows::Rows;
use zf_intake::{OutlineBy, Rejected, Sheet, Warning};
use zf_sheets::{How, Opened};
use zf_store::jobs::{Phase, Progress};
use zf_store::people::Member;
use zf_store::today::Snapshot;
use zf_store::uploads::{FileForm, Upload};

/// What was read of a file.
#[derive(Debug)]
pub(crate) struct Looked {
    /// The file.
    id: i64,
    /// What it brings in.
    pub(crate) kind: FileKind,
    /// What the file is.
    pub(crate) facts: Facts,
    /// How it is read.
    pub(crate) reading: Reading,
    /// What a person chose of that.
    pub(crate) choices: Choices,
    /// The rows of the sheet that is read, with their corrections.
    pub(crate) rows: Box<dyn Rows>,
    /// The columns that are needed and not there.
    pub(crate) lacking: Vec<&'static str>,
    /// How many rows are ready.
    pub(crate) ready_rows: usize,
    /// The rows that are left out.
    pub(crate) rejected: Vec<Rejected>,
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
    Journal(Box<kinds::Journal>),
    Usage(Vec<Use>),
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

/// Reads a waiting file against the books as they stand, as its choices say; a new one as the last
/// with the same headings was read.
///
/// # Errors
/// When the file cannot be read, a choice is not known, somebody stopped it, or the store fails.
pub(crate) async fn look(
    app: &App,
    member: Member,
    upload: Upload,
    progress: Arc<Progress>,
) -> Result<Looked, Problem> {
    let snapshot = app.snapshot(member).await?;
    let entries = match upload.kind {
        FileKind::Journal | FileKind::Balances => app.store.entry_numbers(member).await?,
        _ => HashSet::new(),
    };
    let (id, choices) = (upload.id, kept(&upload)?);
    let forms = match choices {
        Some(_) => Vec::new(),
        None => app.store.file_forms(member, upload.kind).await?,
    };
    let then = match choices.as_ref().and_then(|choices| choices.codes_before) {
        Some(application) => {
            let moment = app.store.application(member, application).await?.applied_at;
            Some(CodesThen::before(&snapshot.code_uses, moment))
        }
        None => None,
    };
    let place = app.open_large(&upload).await?;
    let content = app.store.content(member, id).await?;
    let new = choices.is_none();
    let read = move || -> Result<Looked, Problem> {
        let (opened, choices) = open(&upload, content, choices, &forms)?;
        let facts = facts(&opened);
        let mut sheets = opened.sheets;
        sheets.iter_mut().for_each(|sheet| watched::watch(&mut sheet.rows, Phase::Read, &progress));
        let currency = snapshot.today.currency;
        let (at, reading) = Reading::find(upload.kind, &mut sheets, currency, &choices.chosen()?)
            .map_err(|e| Problem::unreadable("not_laid_out", e))?;
        let Sheet { name, mut rows, hides, .. } = sheets.swap_remove(at);
        watched::watch(&mut rows, Phase::Check, &progress);
        let lacking = reading.layout.lacking(upload.kind);
        let read = if lacking.is_empty() {
            let books = &*snapshot;
            let matter =
                Matter { reading: &reading, rows: &*rows, books, entries, then, choices: &choices };
            matter.read(upload.kind)?
        } else {
            Read::nothing()
        };
        let mut warnings = hides.warnings(&reading.layout);
        warnings.extend(read.warnings);
        // What was read of half of the rows is worth nothing.
        progress.go_on()?;
        Ok(Looked {
            id,
            kind: upload.kind,
            facts: Facts { sheet: name, ..facts },
            reading,
            choices,
            rows,
            lacking,
            ready_rows: read.ready_rows,
            rejected: read.rejected,
            warnings,
            outline: read.outline,
            unsettled: read.unsettled,
            ties: read.ties,
            beside: read.beside,
            content: read.content,
            snapshot,
        })
    };
    let mut looked = crate::state::off_thread(read).await??;
    drop(place);
    if new && looked.choices != Choices::default() {
        choose(app, member, id, &looked.choices).await?;
    }
    if let Some(ties) = looked.ties.as_mut().filter(|ties| ties.entries > 0) {
        ties.twice = app.store.stored_before(member, ties.digest).await?;
    }
    Ok(looked)
}

/// Opens a file as its choices say. Without any it is read like the last one with the same headings;
/// how it is read is returned.
fn open(
    upload: &Upload,
    content: Vec<u8>,
    choices: Option<Choices>,
    forms: &[FileForm],
) -> Result<(Opened, Choices), Problem> {
    let read = |content: Vec<u8>, choices: &Choices| {
        zf_sheets::read(&upload.file_name, content, &choices.how())
            .map_err(|e| Problem::unreadable("file_unreadable", e))
    };
    if let Some(choices) = choices {
        return Ok((read(content, &choices)?, choices));
    }
    let remembered = forms.iter().map(|form| serde_json::from_value(form.choices.clone()));
    let remembered: Vec<Choices> =
        remembered.collect::<Result<_, _>>().map_err(|e| Problem::internal(&e))?;
    // Another encoding or delimiter means to read it once more.
    let otherwise = remembered.iter().any(|choices| choices.how() != How::default());
    let again = otherwise.then(|| content.clone());
    let opened = read(content, &Choices::default())?;
    let headings: Vec<_> = forms.iter().map(|form| form.headings.clone()).collect();
    let Some((form, sheet, row)) = met_before(&opened.sheets, &headings) else {
        return Ok((opened, Choices::default()));
    };
    let sheet = Some(opened.sheets[sheet].name.clone()).filter(|name| !name.is_empty());
    let choices = Choices { sheet, header_row: Some(row), ..remembered[form].clone() };
    match again.filter(|_| choices.how() != How::default()) {
        Some(content) => Ok((read(content, &choices)?, choices)),
        None => Ok((opened, choices)),
    }
}

/// The choices that a waiting file is kept with; none when it is new.
fn kept(upload: &Upload) -> Result<Option<Choices>, Problem> {
    if upload.is_new() {
        return Ok(None);
    }
    serde_json::from_value(upload.choices.clone()).map_err(|e| Problem::internal(&e))
}

fn facts(opened: &Opened) -> Facts {
    let names = opened.sheets.iter().map(|sheet| zf_core::text::shown(&sheet.name));
    Facts {
        format: opened.kind,
        encoding: opened.encoding,
        delimiter: opened.delimiter,
        sheets: names.filter(|name| !name.is_empty()).collect(),
        sheet: String::new(),
    }
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
    let choices = choices.in_place_of(&kept(upload)?.unwrap_or_default());
    choose(app, member, upload.id, &choices).await
}

impl Looked {
    /// The books as they stood when the file was looked at.
    pub(crate) fn books(&self) -> &Snapshot {
        &self.snapshot
    }

    /// Whether looking at a file once more would come to the same.
    pub(crate) fn still_holds(&self, upload: &Upload, revision: i64) -> bool {
        let choices = kept(upload).ok().flatten().unwrap_or_default();
        self.id == upload.id && self.choices == choices && self.snapshot.books.revision == revision
    }

    /// Says that the rows need not be read and checked any more.
    fn count_as_done(&self, progress: &Progress) {
        let rows = i64::try_from(self.rows.count()).unwrap_or(i64::MAX);
        progress.reach(Phase::Read, rows);
        progress.reach(Phase::Check, rows);
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
        let row = self.reading.layout.header_row;
        self.rows.numbered(&[row].into()).values().flat_map(headings).collect()
    }
}
