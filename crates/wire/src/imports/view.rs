//! What is shown of a file that was looked at.

use crate::imports::overlap::JournalOverlapView;
use crate::imports::place::RowPlace;
use serde::{Deserialize, Serialize};
use zf_core::chart::{Account, Chart, Class, ControlRole, Section, Status};
use zf_core::file_kind::FileKind;
use zf_intake::analysis::choices::{Choices, DIMENSION};
use zf_intake::compare::MatchedBy;
use zf_intake::dates::DateOrder;
use zf_intake::journal::late::{LateLines, LateMeans};
use zf_intake::layout::ColumnFound;
use zf_intake::numbers::DecimalMark;
use zf_intake::question::Question;
use zf_intake::reason::Reason;
use zf_intake::workbook::Holds;
use zf_phrases::{Style, intake as phrases};

/// Something else that a workbook holds.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct OtherSheetView {
    pub kind: FileKind,
    /// The kind, in words.
    pub words: String,
    pub sheet: String,
    /// Whether it is brought in before what is read.
    pub before: bool,
}

impl OtherSheetView {
    pub fn of(holds: &Holds) -> Self {
        let sheet = holds.sheet.clone();
        Self { kind: holds.kind, words: holds.kind.words().to_owned(), sheet, before: holds.before }
    }
}

/// What a file would bring in, and how it is read.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ImportView {
    pub id: i64,
    pub kind: FileKind,
    pub file_name: String,
    /// CSV, XLSX, XLS or ODS.
    pub format: String,
    pub encoding: Option<String>,
    pub delimiter: Option<char>,
    /// The sheets of a workbook.
    pub sheets: Vec<String>,
    /// The sheet of a workbook that is read, or the first of them; empty for a text file.
    pub sheet: String,
    /// Whether several sheets are read as one table.
    pub together: bool,
    /// What else the file holds, in the order in which it is brought in.
    pub other_sheets: Vec<OtherSheetView>,
    /// What it looks like, when nothing of it can be read as what it is said to be.
    pub looks_like: Option<FileKind>,
    pub header_row: u32,
    /// The order of dates, when something tells.
    pub dates: Option<DateOrder>,
    /// The decimal mark, when something tells.
    pub decimal: Option<DecimalMark>,
    /// How the outline of a chart is told.
    pub outline: Option<String>,
    pub columns: Vec<ColumnView>,
    /// What columns of such a file may mean.
    pub fields: Vec<FieldView>,
    /// The columns that are needed and not there.
    pub missing: Vec<String>,
    /// What a person chose of all this.
    pub choices: Choices,
    /// What is not certain, one after the other.
    pub questions: Vec<QuestionView>,
    /// What became of every row and amount of the sheet.
    pub zero: ZeroView,
    /// What a chart comes to, for books that have none.
    pub accounts: Option<AccountsView>,
    pub sample: Vec<SampleRow>,
    pub ready_rows: usize,
    /// What a chart says otherwise than that of the books, if they have one.
    pub comparison: Option<ComparisonView>,
    /// What the rows of a crosswalk will do, the first of them.
    pub crossings: Vec<CrossingView>,
    pub rejected_rows: usize,
    /// The first of the rejected rows.
    pub rejected: Vec<RejectedView>,
    /// Rows that were passed over, or taken with something worth knowing.
    pub warnings: Vec<WarningView>,
    /// What the entries of a journal come to.
    pub journal: Option<JournalView>,
    /// Balances beside those of the books.
    pub balances: Option<BalancesView>,
    /// Plans that were applied, whose earlier codes a journal may follow.
    pub applied: Vec<AppliedView>,
}

/// Balances beside those of the books.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct BalancesView {
    pub debits: String,
    pub credits: String,
    /// Debits less credits.
    pub gap: String,
    /// The last period of the books that counts.
    pub as_of: i32,
    /// How many accounts agree.
    pub agree: usize,
    /// How many do not. The list holds the first of them.
    pub differing: usize,
    pub differences: Vec<DifferenceView>,
    /// The account that would take the gap.
    pub gap_account: Option<String>,
}

/// An account that the file has otherwise than the books.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct DifferenceView {
    pub code: String,
    pub name: String,
    pub file: String,
    pub books: String,
    /// The file less the books.
    pub difference: String,
}

/// What the entries of a journal come to, before they are stored.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct JournalView {
    pub entries: usize,
    /// Sum of the debits; credits are the same.
    pub debits: String,
    pub first: Option<String>,
    pub last: Option<String>,
    /// Entries that do not balance. The list holds the first of them.
    pub unbalanced_entries: usize,
    pub unbalanced: Vec<UnbalancedView>,
    /// Codes of the file that are not today's of their account.
    pub mapped: Vec<MappedView>,
    /// Codes that a person has to say something of.
    pub unknown: Vec<UnknownView>,
    /// Lines that are dated after the day of their account.
    pub late: Vec<LateView>,
    /// An earlier file with the same lines.
    pub stored_before: Option<StoredBeforeView>,
    /// What of the file the journal has already.
    pub overlap: Option<JournalOverlapView>,
}

/// Lines that are dated after the day from which their account is deactivated or archived, or on which it was merged.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct LateView {
    pub account: i64,
    /// Code and name.
    pub label: String,
    pub status: Status,
    /// From when.
    pub since: String,
    pub lines: usize,
    pub first: String,
    pub last: String,
    /// What was said of them.
    pub means: Option<LateMeans>,
    /// Where they go unless something else is said: to whom a merged account went.
    pub holder: Option<String>,
}

/// An entry that does not balance.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct UnbalancedView {
    pub number: String,
    /// Debits less credits.
    pub difference: String,
}

/// A code that is not today's of its account.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct MappedView {
    pub code: String,
    pub account: String,
}

/// A code that a person has to say something of.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct UnknownView {
    pub code: String,
    /// The name that the file gives with it.
    pub name: String,
    pub rows: usize,
    /// Whether several accounts bore it.
    pub several: bool,
    /// The class that a new account would most likely have.
    pub class: Option<Class>,
}

/// An earlier file with the same lines.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct StoredBeforeView {
    pub file_name: String,
    pub at: String,
}

/// A plan that was applied.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct AppliedView {
    pub id: i64,
    pub name: String,
    pub at: String,
}

/// A column of the file.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ColumnView {
    /// Where it stands, counted from 0.
    pub at: usize,
    /// What its heading says.
    pub heading: String,
    /// The key of what it means; none when it is not used.
    pub field: Option<String>,
    /// What it means, in words.
    pub meaning: Option<String>,
}

/// What a column may mean.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct FieldView {
    pub key: String,
    pub words: String,
}

/// Something of the file that can be read in more than one way.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct QuestionView {
    /// The subject, as answers name it.
    pub about: String,
    pub text: String,
    pub readings: Vec<ReadingView>,
    /// The reading that holds until somebody answers.
    pub default: Option<String>,
}

/// One of the readings.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ReadingView {
    pub key: String,
    pub text: String,
    /// What it would give.
    pub result: String,
}

/// What became of every row and amount of the sheet.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ZeroView {
    pub rows: usize,
    pub kinds: Vec<RowsView>,
    pub left_out: usize,
    pub amounts: Vec<AmountsView>,
    /// What is neither taken nor left out, of all columns together.
    pub difference: String,
}

/// Rows of one kind.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct RowsView {
    pub words: String,
    pub rows: usize,
}

/// What became of the amounts of a column.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct AmountsView {
    /// Its heading.
    pub heading: String,
    pub sum: String,
    pub taken: String,
    pub left_out: Vec<LeftOutView>,
}

/// Amounts that are not taken, for one reason.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct LeftOutView {
    pub reason: String,
    pub sum: String,
    pub rows: usize,
}

/// What a chart comes to. Lists hold the first of what is counted.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct AccountsView {
    /// How many codes are proposed.
    pub proposed: usize,
    /// The accounts that have one.
    pub proposals: Vec<ProposedCodeView>,
    /// Statement items that the file adds.
    pub new_items: Vec<NewItemView>,
    /// How many control roles are proposed.
    pub proposed_roles: usize,
    /// The accounts that would have one.
    pub roles: Vec<ProposedRoleView>,
    /// How many rows are totals, or would be.
    pub totals: usize,
}

/// An account whose control role is proposed.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ProposedRoleView {
    pub code: String,
    pub name: String,
    pub role: ControlRole,
}

/// An account whose code is proposed.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ProposedCodeView {
    /// Its number, as answers name it.
    pub row: u32,
    pub place: RowPlace,
    pub code: String,
    pub name: String,
    pub class: Class,
    /// The names of the headings above it.
    pub above: String,
}

/// A line of the statements that the file adds.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct NewItemView {
    pub class: Class,
    pub name: String,
    /// How many accounts come under it.
    pub accounts: usize,
    /// The standard line that it is most like.
    pub nearest: Option<Section>,
}

/// A row of the file as it is.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct SampleRow {
    /// Its number, as corrections name it.
    pub row: u32,
    pub place: RowPlace,
    /// What a row of a chart is read as, in words.
    pub read_as: Option<String>,
    pub cells: Vec<String>,
}

/// What a row of a crosswalk will do with an account.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct CrossingView {
    pub place: RowPlace,
    /// Code and name of the account.
    pub account: String,
    pub does: String,
}

/// A row that cannot be taken.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct RejectedView {
    /// Its number, as corrections name it.
    pub row: u32,
    pub place: RowPlace,
    /// The place of the cell that is wrong, if it is one.
    pub at: Option<usize>,
    pub cells: Vec<String>,
    pub reason: Reason,
    /// The reason in a plain sentence.
    pub message: String,
}

/// A chart from a file beside that of the books. Lists hold the first of what is counted.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ComparisonView {
    pub new_rows: usize,
    pub new: Vec<NewRow>,
    pub changed_rows: usize,
    pub changed: Vec<ChangedRow>,
    /// Rows that are as their account is today.
    pub same: usize,
    pub missing_rows: usize,
    pub missing: Vec<MissingRow>,
}

/// A row that no account of the books stands for.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct NewRow {
    pub row: u32,
    pub place: RowPlace,
    pub code: String,
    pub name: String,
    pub class: String,
}

/// A row whose account is otherwise today.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ChangedRow {
    pub row: u32,
    pub place: RowPlace,
    /// The code of the account today.
    pub code: String,
    /// The name of the account today.
    pub name: String,
    /// What tells which account it is.
    pub by: MatchedBy,
    pub fields: Vec<FieldChange>,
}

/// A field that the file has otherwise, in words.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct FieldChange {
    pub field: String,
    pub old: String,
    pub new: String,
}

/// An account that the file does not have.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct MissingRow {
    pub account: i64,
    pub code: String,
    pub name: String,
    pub status: Status,
    pub lines: u64,
}

/// A row with something worth knowing.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct WarningView {
    pub place: RowPlace,
    pub reason: Reason,
    pub message: String,
}

impl QuestionView {
    pub fn of(question: &Question, style: Style) -> Self {
        let readings = question.readings.iter().map(|reading| ReadingView {
            key: reading.key.clone(),
            text: phrases::means(&reading.means),
            result: phrases::gives(&reading.gives, style),
        });
        Self {
            about: question.about.to_string(),
            text: phrases::question(&question.asks, style),
            readings: readings.collect(),
            default: question.default.clone(),
        }
    }
}

impl LateView {
    pub fn of(late: &LateLines, chart: &Chart) -> Self {
        let account = chart.get(late.account);
        let label = |account: &Account| account.label();
        Self {
            account: late.account.0,
            label: account.map(label).unwrap_or_default(),
            status: account.map_or(Status::Merged, |account| account.status),
            since: late.from.to_string(),
            lines: late.lines,
            first: late.first.to_string(),
            last: late.last.to_string(),
            means: late.means,
            holder: late.holder.and_then(|id| chart.get(id)).map(label),
        }
    }
}

impl ColumnView {
    pub fn of(column: &ColumnFound) -> Self {
        let (field, meaning) = match (column.field, &column.dimension) {
            (Some(field), _) => (Some(field.key()), Some(field.words().to_owned())),
            (None, Some(name)) => (Some(DIMENSION), Some(format!("Dimension {name}"))),
            (None, None) => (None, None),
        };
        Self {
            at: column.at,
            heading: column.heading.clone(),
            field: field.map(str::to_owned),
            meaning,
        }
    }
}
