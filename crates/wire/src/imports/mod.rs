//! Files that come in: what is asked of them, and how far they are.

pub mod overlap;
pub mod place;
pub mod view;

use serde::{Deserialize, Serialize};
use time::Date;
use zf_core::file_kind::FileKind;
use zf_core::plan::Fate;

/// A file with what it is.
#[derive(utoipa::ToSchema)]
pub struct UploadForm {
    /// chart, journal, balances, crosswalk or usage.
    pub kind: String,
    #[schema(format = Binary)]
    pub file: String,
}

/// To what one agrees.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct AgreeForm {
    /// Whether the same lines are meant to be stored again.
    #[serde(default)]
    pub again: bool,
    /// The day that balances are of, which open the books then.
    #[serde(default)]
    pub date: Option<String>,
    /// Whether the opening difference account takes what debits and credits differ by.
    #[serde(default)]
    pub take_gap: bool,
}

/// To what a person agrees beside what was shown, as it is kept with the job that stores a file.
#[derive(Clone, Copy, Debug, Default, Serialize, Deserialize)]
pub struct Agreed {
    /// That the same lines are stored again.
    pub again: bool,
    /// The day that balances are of, which open the books then.
    pub date: Option<Date>,
    /// That the opening difference account takes what debits and credits differ by.
    pub take_gap: bool,
}

/// What is staged of a file, and in which draft.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct StageForm {
    pub plan: i64,
    /// Whether rows that cannot be taken are left out.
    pub leave_out: bool,
    /// Whether a crosswalk is a list of moves: history goes from the old account to the new one, and
    /// both stay.
    #[serde(default)]
    pub moves: bool,
    /// Whether accounts that are new are added.
    #[serde(default)]
    pub new: bool,
    /// Whether changes are staged.
    #[serde(default)]
    pub changed: bool,
    /// What becomes of accounts that the file does not have; none leaves them.
    #[serde(default)]
    pub missing: Option<Retiring>,
    /// Rows of the file that are left out of this.
    #[serde(default)]
    pub without_rows: Vec<u32>,
    /// Missing accounts that are left as they are.
    #[serde(default)]
    pub without_accounts: Vec<i64>,
}

/// How accounts that a file does not have are retired.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Retiring {
    Deactivate,
    Archive,
    Delete,
}

/// A file that was stored, or staged in a plan.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StoredFileView {
    pub id: i64,
    /// What it brought, in words.
    pub kind: &'static str,
    pub file_name: String,
    pub person: String,
    pub at: String,
    pub rows: i64,
    /// When it was taken back, if it was.
    pub rolled_back_at: Option<String>,
}

/// What taking a file back would take, and what stands in the way.
#[derive(Serialize, utoipa::ToSchema)]
pub struct RollbackView {
    pub accounts: usize,
    pub entries: u64,
    pub lines: u64,
    pub uses: u64,
    /// In plain sentences; nothing when it may be taken back.
    pub blockers: Vec<String>,
}

/// How things stand with what is done with a file.
#[derive(Serialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ProgressState {
    Underway,
    Done,
    Failed,
    Cancelled,
}

/// How far things are with a file.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ProgressView {
    pub id: i64,
    pub kind: FileKind,
    pub file_name: String,
    /// Whether it is being stored, or only looked at.
    pub storing: bool,
    pub state: ProgressState,
    pub rows_read: i64,
    pub rows_checked: i64,
    pub rows_stored: i64,
    /// How many rows are stored for good, once they are.
    pub stored: Option<i64>,
    /// Why it failed, in a plain sentence.
    pub message: Option<String>,
}

/// What was stored.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StoredView {
    pub rows: i64,
}

impl From<Retiring> for Fate {
    fn from(retiring: Retiring) -> Self {
        match retiring {
            Retiring::Deactivate => Self::deactivate(),
            Retiring::Archive => Self::archive(),
            Retiring::Delete => Self::Delete,
        }
    }
}
