//! From an uploaded file to what is ready: reading, matching and checking, in one place for all that
//! can be done with a file.

mod overlap_view;
pub(crate) mod settling;
pub(crate) mod view;
mod watched;

pub(crate) use settling::{Wanted, stage};

use crate::waiting_file::{Facts, WaitingFile, stored_choices};
use crate::{App, Problem};
use std::sync::Arc;
use zf_core::file_kind::FileKind;
use zf_core::former::CodesThen;
use zf_core::ids::ImportId;
use zf_core::overlap::Overlap;
use zf_intake::Warning;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::journal::compared;
use zf_intake::layout::met_before;
use zf_intake::question::Question;
use zf_intake::table::Table;
use zf_sheets::{How, Opened};
use zf_store::imports::uploads::{FileForm, Upload};
use zf_store::jobs::{Phase, Progress};
use zf_store::journal::overlap::FileSide;
use zf_store::journal::today::Snapshot;
use zf_store::member::Member;
use zf_wire::problem::ProblemCode;

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
) -> Result<WaitingFile, Problem> {
    let snapshot = app.snapshot(member).await?;
    let (id, choices) = (upload.id, stored_choices(&upload)?);
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
    let again = Arc::clone(&progress);
    let read = move || -> Result<_, Problem> {
        let (opened, choices) = open(&upload, content, choices, &forms)?;
        progress.go_on()?;
        let facts = Facts::of(&opened);
        let (mut sheets, encoding) = (opened.sheets, opened.question);
        sheets.iter_mut().for_each(|sheet| watched::watch(&mut sheet.rows, Phase::Read, &progress));
        let currency = snapshot.today.currency;
        let chosen = choices.chosen()?;
        let mut table = Table::find(upload.kind, &mut sheets, currency, &chosen)
            .map_err(|e| Problem::unreadable(ProblemCode::NotLaidOut, e))?;
        let warnings = table.warnings(&sheets);
        watched::watch(&mut table.rows, Phase::Check, &progress);
        let questions = encoding.into_iter().chain(std::mem::take(&mut table.questions)).collect();
        let sheet = Sheet { kind: upload.kind, table, choices, warnings, questions };
        let analysis = sheet.against(&snapshot, then.clone(), Overlap::default())?;
        // What was read of half of the rows is worth nothing.
        progress.go_on()?;
        Ok((facts, sheet, analysis, snapshot, then))
    };
    let (facts, mut sheet, mut analysis, books, then) = crate::state::off_thread(read).await??;
    let overlap = overlap(app, member, &books, &sheet, &analysis).await?;
    if !overlap.is_empty() {
        let (seen, again) = (Arc::clone(&books), Arc::clone(&again));
        (sheet, analysis) = crate::state::off_thread(move || {
            let analysis = sheet.against(&seen, then, overlap)?;
            again.go_on()?;
            Ok::<_, Problem>((sheet, analysis))
        })
        .await??;
    }
    drop(place);
    if new && sheet.choices != Choices::default() {
        choose(app, member, id, &sheet.choices).await?;
    }
    let twice = match analysis
        .journal()
        .map(|journal| &journal.summary)
        .filter(|journal| journal.entries > 0)
    {
        Some(journal) => app.store.stored_before(member, journal.digest).await?,
        None => None,
    };
    let Sheet { kind, table, choices, .. } = sheet;
    Ok(WaitingFile { id, kind, facts, table, choices, analysis, twice, books })
}

/// A table of a file, with what is said and asked of it before its rows are checked.
struct Sheet {
    kind: FileKind,
    table: Table,
    choices: Choices,
    warnings: Vec<Warning>,
    questions: Vec<Question>,
}

impl Sheet {
    fn against(
        &self,
        books: &Snapshot,
        then: Option<CodesThen>,
        overlap: Overlap,
    ) -> Result<Analysis, Problem> {
        let against = Against { today: &books.today, overlap, then };
        let Self { kind, table, choices, warnings, questions } = self;
        let mut analysis = Analysis::of(*kind, &table.reading, &*table.rows, choices, against)?;
        analysis.warnings.splice(..0, warnings.iter().cloned());
        analysis.questions.splice(..0, questions.iter().cloned());
        Ok(analysis)
    }
}

/// What of the entries of a file the journal has already.
async fn overlap(
    app: &App,
    member: Member,
    books: &Snapshot,
    sheet: &Sheet,
    analysis: &Analysis,
) -> Result<Overlap, Problem> {
    let Content::Journal(journal) = &analysis.content else { return Ok(Overlap::default()) };
    let file = FileSide {
        entries: journal.read.in_file().collect(),
        compared: compared(&sheet.table.reading),
        days: journal.read.days_in_file(),
    };
    Ok(app.store.overlap(member, books, &file).await?)
}

fn how(choices: &Choices) -> How {
    How { encoding: choices.encoding.clone(), delimiter: choices.delimiter }
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
        zf_sheets::read(&upload.file_name, content, &how(choices))
            .map_err(|e| Problem::unreadable(ProblemCode::FileUnreadable, e))
    };
    if let Some(choices) = choices {
        return Ok((read(content, &choices)?, choices));
    }
    let remembered = forms.iter().map(|form| serde_json::from_value(form.choices.clone()));
    let remembered: Vec<Choices> =
        remembered.collect::<Result<_, _>>().map_err(|e| Problem::internal(&e))?;
    // Another encoding or delimiter means to read it once more.
    let otherwise = remembered.iter().any(|choices| how(choices) != How::default());
    let again = otherwise.then(|| content.clone());
    let opened = read(content, &Choices::default())?;
    let headings: Vec<_> = forms.iter().map(|form| form.headings.clone()).collect();
    let Some((form, sheet, row)) = met_before(&opened.sheets, &headings) else {
        return Ok((opened, Choices::default()));
    };
    let known = &remembered[form];
    let sheet = Some(opened.sheets[sheet].name.clone());
    let sheet = sheet.filter(|name| !name.is_empty() && !known.all_sheets);
    let choices = Choices { sheet, header_row: Some(row), ..known.clone() };
    match again.filter(|_| how(&choices) != How::default()) {
        Some(content) => Ok((read(content, &choices)?, choices)),
        None => Ok((opened, choices)),
    }
}

/// Keeps choices with a waiting file.
///
/// # Errors
/// When one of them is not known or the store fails.
pub(crate) async fn choose(
    app: &App,
    member: Member,
    id: ImportId,
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
    let choices = choices.with_answers()?.in_place_of(&stored_choices(upload)?.unwrap_or_default());
    choose(app, member, upload.id, &choices).await
}
