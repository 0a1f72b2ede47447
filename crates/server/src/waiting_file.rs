//! What was read of a waiting file, as it is kept for whoever agrees to it next.

use crate::Problem;
use std::sync::Arc;
use time::OffsetDateTime;
use zf_core::file_kind::FileKind;
use zf_core::ids::ImportId;
use zf_intake::analysis::Analysis;
use zf_intake::analysis::choices::Choices;
use zf_intake::layout::headings;
use zf_intake::table::Table;
use zf_sheets::Opened;
use zf_store::imports::uploads::Upload;
use zf_store::jobs::{Phase, Progress};
use zf_store::journal::today::Snapshot;

/// What was read of a file.
#[derive(Debug)]
pub(crate) struct WaitingFile {
    /// The file.
    pub(crate) id: ImportId,
    /// What it brings in.
    pub(crate) kind: FileKind,
    /// What the file is.
    pub(crate) facts: Facts,
    /// The table that is read, with its corrections, and how.
    pub(crate) table: Table,
    /// What a person chose of that.
    pub(crate) choices: Choices,
    /// What they come to.
    pub(crate) analysis: Analysis,
    /// An earlier file with the same lines, and when it was stored.
    pub(crate) twice: Option<(String, OffsetDateTime)>,
    /// The books as they stood when the file was looked at.
    pub(crate) books: Arc<Snapshot>,
}

/// What a file is.
#[derive(Debug)]
pub(crate) struct Facts {
    pub(crate) format: &'static str,
    pub(crate) encoding: Option<&'static str>,
    pub(crate) delimiter: Option<char>,
    /// The sheets of a workbook; empty for a text file.
    pub(crate) sheets: Vec<String>,
}

impl Facts {
    /// What a file is that was opened.
    pub(crate) fn of(opened: &Opened) -> Self {
        let names = opened.sheets.iter().map(|sheet| zf_core::text::shown(&sheet.name));
        Self {
            format: opened.kind,
            encoding: opened.encoding,
            delimiter: opened.delimiter,
            sheets: names.filter(|name| !name.is_empty()).collect(),
        }
    }
}

/// The choices that a waiting file is kept with; none when it is new.
///
/// # Errors
/// When what is kept cannot be read.
pub(crate) fn stored_choices(upload: &Upload) -> Result<Option<Choices>, Problem> {
    if upload.is_new() {
        return Ok(None);
    }
    serde_json::from_value(upload.choices.clone()).map_err(|e| Problem::internal(&e))
}

impl WaitingFile {
    /// Whether looking at a file once more would come to the same.
    pub(crate) fn still_holds(&self, upload: &Upload, revision: i64) -> bool {
        let choices = stored_choices(upload).ok().flatten().unwrap_or_default();
        self.id == upload.id && self.choices == choices && self.books.books.revision == revision
    }

    /// Says that the rows need not be read and checked any more.
    pub(crate) fn count_as_done(&self, progress: &Progress) {
        let rows = i64::try_from(self.table.rows.count()).unwrap_or(i64::MAX);
        progress.reach(Phase::Read, rows);
        progress.reach(Phase::Check, rows);
    }

    /// The headings of the file, as they are compared with those of the next.
    pub(crate) fn form(&self) -> Vec<String> {
        let row = self.table.reading.layout.header_row;
        self.table.rows.numbered(&[row].into()).values().flat_map(headings).collect()
    }
}
