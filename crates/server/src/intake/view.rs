//! What is shown of a waiting file.

use crate::intake::overlap_view::JournalOverlapView;
use crate::intake::place::RowPlace;
use crate::values::instant;
use crate::waiting_file::WaitingFile;
use serde::Serialize;
use zf_core::chart::Called;
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Section, Status};
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::ids::ItemId;
use zf_core::names::Names;
use zf_core::plan::Change;
use zf_intake::RawRow;
use zf_intake::analysis::choices::{Choices, DIMENSION};
use zf_intake::analysis::{BalanceComparison, Content, ReadJournal};
use zf_intake::balances::Difference;
use zf_intake::chart_options::TotalsAs;
use zf_intake::compare::{Comparison, MatchedBy};
use zf_intake::crosswalk::Crossing;
use zf_intake::dates::DateOrder;
use zf_intake::journal::late::{LateLines, LateMeans};
use zf_intake::layout::{ColumnFound, possible};
use zf_intake::numbers::DecimalMark;
use zf_intake::question::Question;
use zf_intake::reading::Reading;
use zf_intake::reason::Reason;
use zf_intake::row_kind::RowKind;
use zf_intake::wordings::nearest_line;
use zf_intake::workbook::Holds;
use zf_intake::zero::{ColumnAmounts, words_of, zero};
use zf_phrases::Say;
use zf_store::journal::today::Snapshot;
use zf_store::plans::applying::AppliedName;

/// The most rejected rows, and warnings, that are listed.
const LISTED: usize = 500;

/// How many rows are shown as they stand.
const SAMPLE: usize = 12;

/// Something else that a workbook holds.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct OtherSheetView {
    kind: FileKind,
    /// The kind, in words.
    words: &'static str,
    sheet: String,
    /// Whether it is brought in before what is read.
    before: bool,
}

impl OtherSheetView {
    fn of(holds: &Holds) -> Self {
        let sheet = holds.sheet.clone();
        Self { kind: holds.kind, words: holds.kind.words(), sheet, before: holds.before }
    }
}

/// What a file would bring in, and how it is read.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ImportView {
    id: i64,
    kind: FileKind,
    file_name: String,
    /// CSV, XLSX, XLS or ODS.
    format: &'static str,
    encoding: Option<&'static str>,
    delimiter: Option<char>,
    /// The sheets of a workbook.
    sheets: Vec<String>,
    /// The sheet of a workbook that is read, or the first of them; empty for a text file.
    sheet: String,
    /// Whether several sheets are read as one table.
    together: bool,
    /// What else the file holds, in the order in which it is brought in.
    other_sheets: Vec<OtherSheetView>,
    /// What it looks like, when nothing of it can be read as what it is said to be.
    looks_like: Option<FileKind>,
    header_row: u32,
    /// The order of dates, when something tells.
    dates: Option<DateOrder>,
    /// The decimal mark, when something tells.
    decimal: Option<DecimalMark>,
    /// How the outline of a chart is told.
    outline: Option<&'static str>,
    columns: Vec<ColumnView>,
    /// What columns of such a file may mean.
    fields: Vec<FieldView>,
    /// The columns that are needed and not there.
    missing: Vec<&'static str>,
    /// What a person chose of all this.
    choices: Choices,
    /// What is not certain, one after the other.
    questions: Vec<QuestionView>,
    /// What became of every row and amount of the sheet.
    zero: ZeroView,
    /// What a chart comes to, for books that have none.
    accounts: Option<AccountsView>,
    sample: Vec<SampleRow>,
    ready_rows: usize,
    /// What a chart says otherwise than that of the books, if they have one.
    comparison: Option<ComparisonView>,
    /// What the rows of a crosswalk will do, the first of them.
    crossings: Vec<CrossingView>,
    rejected_rows: usize,
    /// The first of the rejected rows.
    rejected: Vec<RejectedView>,
    /// Rows that were passed over, or taken with something worth knowing.
    warnings: Vec<WarningView>,
    /// What the entries of a journal come to.
    journal: Option<JournalView>,
    /// Balances beside those of the books.
    balances: Option<BalancesView>,
    /// Plans that were applied, whose earlier codes a journal may follow.
    applied: Vec<AppliedView>,
}

/// Balances beside those of the books.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct BalancesView {
    debits: String,
    credits: String,
    /// Debits less credits.
    gap: String,
    /// The last period of the books that counts.
    as_of: i32,
    /// How many accounts agree.
    agree: usize,
    /// How many do not. The list holds the first of them.
    differing: usize,
    differences: Vec<DifferenceView>,
    /// The account that would take the gap.
    gap_account: Option<String>,
}

/// An account that the file has otherwise than the books.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct DifferenceView {
    code: String,
    name: String,
    file: String,
    books: String,
    /// The file less the books.
    difference: String,
}

/// What the entries of a journal come to, before they are stored.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct JournalView {
    entries: usize,
    /// Sum of the debits; credits are the same.
    debits: String,
    first: Option<String>,
    last: Option<String>,
    /// Entries that do not balance. The list holds the first of them.
    unbalanced_entries: usize,
    unbalanced: Vec<UnbalancedView>,
    /// Codes of the file that are not today's of their account.
    mapped: Vec<MappedView>,
    /// Codes that a person has to say something of.
    unknown: Vec<UnknownView>,
    /// Lines that are dated after the day of their account.
    late: Vec<LateView>,
    /// An earlier file with the same lines.
    stored_before: Option<StoredBeforeView>,
    /// What of the file the journal has already.
    overlap: Option<JournalOverlapView>,
}

/// Lines that are dated after the day from which their account is deactivated or archived, or on which it was merged.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LateView {
    account: i64,
    /// Code and name.
    label: String,
    status: Status,
    /// From when.
    since: String,
    lines: usize,
    first: String,
    last: String,
    /// What was said of them.
    means: Option<LateMeans>,
    /// Where they go unless something else is said: to whom a merged account went.
    holder: Option<String>,
}

/// An entry that does not balance.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct UnbalancedView {
    number: String,
    /// Debits less credits.
    difference: String,
}

/// A code that is not today's of its account.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct MappedView {
    code: String,
    account: String,
}

/// A code that a person has to say something of.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct UnknownView {
    code: String,
    /// The name that the file gives with it.
    name: String,
    rows: usize,
    /// Whether several accounts bore it.
    several: bool,
    /// The class that a new account would most likely have.
    class: Option<Class>,
}

/// An earlier file with the same lines.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct StoredBeforeView {
    file_name: String,
    at: String,
}

/// A plan that was applied.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct AppliedView {
    id: i64,
    name: String,
    at: String,
}

/// A column of the file.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ColumnView {
    /// Where it stands, counted from 0.
    at: usize,
    /// What its heading says.
    heading: String,
    /// The key of what it means; none when it is not used.
    field: Option<&'static str>,
    /// What it means, in words.
    meaning: Option<String>,
}

/// What a column may mean.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct FieldView {
    key: &'static str,
    words: &'static str,
}

/// Something of the file that can be read in more than one way.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct QuestionView {
    /// The subject, as answers name it.
    about: String,
    text: String,
    readings: Vec<ReadingView>,
    /// The reading that holds until somebody answers.
    default: Option<String>,
}

/// One of the readings.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ReadingView {
    key: String,
    text: String,
    /// What it would give.
    result: String,
}

/// What became of every row and amount of the sheet.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ZeroView {
    rows: usize,
    kinds: Vec<RowsView>,
    left_out: usize,
    amounts: Vec<AmountsView>,
    /// What is neither taken nor left out, of all columns together.
    difference: String,
}

/// Rows of one kind.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RowsView {
    words: String,
    rows: usize,
}

/// What became of the amounts of a column.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct AmountsView {
    /// Its heading.
    heading: String,
    sum: String,
    taken: String,
    left_out: Vec<LeftOutView>,
}

/// Amounts that are not taken, for one reason.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LeftOutView {
    reason: &'static str,
    sum: String,
    rows: usize,
}

/// What a chart comes to. Lists hold the first of what is counted.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct AccountsView {
    /// How many codes are proposed.
    proposed: usize,
    /// The accounts that have one.
    proposals: Vec<ProposedCodeView>,
    /// Statement items that the file adds.
    new_items: Vec<NewItemView>,
    /// How many control roles are proposed.
    proposed_roles: usize,
    /// The accounts that would have one.
    roles: Vec<ProposedRoleView>,
    /// How many rows are totals, or would be.
    totals: usize,
}

/// An account whose control role is proposed.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ProposedRoleView {
    code: String,
    name: String,
    role: ControlRole,
}

/// An account whose code is proposed.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ProposedCodeView {
    /// Its number, as answers name it.
    row: u32,
    place: RowPlace,
    code: String,
    name: String,
    class: Class,
    /// The names of the headings above it.
    above: String,
}

/// A line of the statements that the file adds.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct NewItemView {
    class: Class,
    name: String,
    /// How many accounts come under it.
    accounts: usize,
    /// The standard line that it is most like.
    nearest: Option<Section>,
}

/// A row of the file as it is.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct SampleRow {
    /// Its number, as corrections name it.
    row: u32,
    place: RowPlace,
    /// What a row of a chart is read as, in words.
    read_as: Option<&'static str>,
    cells: Vec<String>,
}

/// What a row of a crosswalk will do with an account.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct CrossingView {
    place: RowPlace,
    /// Code and name of the account.
    account: String,
    does: String,
}

/// A row that cannot be taken.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RejectedView {
    /// Its number, as corrections name it.
    row: u32,
    place: RowPlace,
    /// The place of the cell that is wrong, if it is one.
    at: Option<usize>,
    cells: Vec<String>,
    reason: Reason,
    /// The reason in a plain sentence.
    message: String,
}

/// A chart from a file beside that of the books. Lists hold the first of what is counted.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ComparisonView {
    new_rows: usize,
    new: Vec<NewRow>,
    changed_rows: usize,
    changed: Vec<ChangedRow>,
    /// Rows that are as their account is today.
    same: usize,
    missing_rows: usize,
    missing: Vec<MissingRow>,
}

/// A row that no account of the books stands for.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct NewRow {
    row: u32,
    place: RowPlace,
    code: String,
    name: String,
    class: &'static str,
}

/// A row whose account is otherwise today.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ChangedRow {
    row: u32,
    place: RowPlace,
    /// The code of the account today.
    code: String,
    /// The name of the account today.
    name: String,
    /// What tells which account it is.
    by: MatchedBy,
    fields: Vec<FieldChange>,
}

/// A field that the file has otherwise, in words.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct FieldChange {
    field: &'static str,
    old: String,
    new: String,
}

/// An account that the file does not have.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct MissingRow {
    account: i64,
    code: String,
    name: String,
    status: Status,
    lines: u64,
}

/// A row with something worth knowing.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct WarningView {
    place: RowPlace,
    reason: Reason,
    message: String,
}

impl ImportView {
    pub(crate) fn of(
        id: i64,
        file_name: String,
        looked: &WaitingFile,
        applied: Vec<AppliedName>,
    ) -> Self {
        let (analysis, books) = (&looked.analysis, &*looked.books);
        let journal = analysis.journal().map(|journal| JournalView::of(journal, looked));
        let balances = analysis.balances().map(|balances| BalancesView::of(balances, books));
        let applied = applied.into_iter().map(|plan| AppliedView {
            id: plan.id,
            name: plan.name,
            at: instant(plan.applied_at),
        });
        let reading = &looked.table.reading;
        let comparison = analysis.comparison().map(|c| ComparisonView::of(c, reading, books));
        let layout = &reading.layout;
        // Balances are few, and typed over.
        let shown = if looked.kind == FileKind::Balances { LISTED } else { SAMPLE };
        let mut last = 0;
        let once = layout.walk_below(&*looked.table.rows).filter(|row| {
            // A row may be two lines.
            let again = row.number == last;
            last = row.number;
            !again
        });
        let kind_of = |row: u32| analysis.row_kinds.get(&row).copied().or(layout.aside(row));
        let sample = once.take(shown).map(|row| SampleRow {
            row: row.number,
            place: RowPlace::of(reading, row.number),
            read_as: kind_of(row.number).map(RowKind::singular),
            cells: cells(&row),
        });
        let listed = &analysis.rejected[..analysis.rejected.len().min(LISTED)];
        let rows = looked.table.rows.numbered(&listed.iter().map(|r| r.row).collect());
        let rejected = listed.iter().map(|r| RejectedView {
            row: r.row,
            place: RowPlace::of(reading, r.row),
            at: r.field.and_then(|field| layout.place(field)),
            cells: rows.get(&r.row).map(cells).unwrap_or_default(),
            reason: r.reason,
            message: r.message.clone(),
        });
        let warnings = analysis.warnings.iter().take(LISTED).map(|w| WarningView {
            place: RowPlace::of(reading, w.row),
            reason: w.reason,
            message: w.message.clone(),
        });
        Self {
            id,
            kind: looked.kind,
            file_name,
            format: looked.facts.format,
            encoding: looked.facts.encoding,
            delimiter: looked.facts.delimiter,
            header_row: layout.header_row,
            dates: looked.table.reading.dates,
            decimal: looked.table.reading.decimal,
            outline: analysis.outline.map(|by| by.words()),
            columns: layout.columns.iter().map(ColumnView::of).collect(),
            fields: fields(looked.kind),
            sample: sample.collect(),
            ready_rows: analysis.ready_rows,
            rejected_rows: analysis.rejected.len(),
            rejected: rejected.collect(),
            warnings: warnings.collect(),
            questions: analysis.questions.iter().map(QuestionView::of).collect(),
            zero: ZeroView::of(looked),
            accounts: AccountsView::of(looked),
            sheets: looked.facts.sheets.clone(),
            sheet: looked.table.name().to_owned(),
            together: reading.parts.len() > 1,
            other_sheets: looked.table.also.iter().map(OtherSheetView::of).collect(),
            looks_like: looked.table.seems,
            missing: layout.lacking(looked.kind),
            choices: looked.choices.clone(),
            journal,
            balances,
            applied: applied.collect(),
            comparison,
            crossings: CrossingView::all(looked),
        }
    }
}

impl CrossingView {
    fn all(looked: &WaitingFile) -> Vec<Self> {
        let Content::Crosswalk(read) = &looked.analysis.content else { return Vec::new() };
        let chart = &looked.books.today.chart;
        let of = |crossing: &Crossing| Self {
            place: RowPlace::of(&looked.table.reading, crossing.row),
            account: chart.get(crossing.account).map_or_else(String::new, Account::label),
            does: crossing.says(chart),
        };
        let added = read.added.iter().map(|(row, account)| Self {
            place: RowPlace::of(&looked.table.reading, *row),
            account: account.label(),
            does: format!("added as {}", account.class.words()),
        });
        read.crossings.iter().map(of).chain(added).take(LISTED).collect()
    }
}

impl QuestionView {
    fn of(question: &Question) -> Self {
        let readings = question.readings.iter().map(|reading| ReadingView {
            key: reading.key.clone(),
            text: reading.say.clone(),
            result: reading.gives.clone(),
        });
        Self {
            about: question.about.to_string(),
            text: question.say.clone(),
            readings: readings.collect(),
            default: question.default.clone(),
        }
    }
}

impl ZeroView {
    fn of(looked: &WaitingFile) -> Self {
        let currency = looked.books.today.currency;
        let zero = zero(looked.kind, &looked.table, &looked.analysis, currency);
        let kinds =
            zero.taken().into_iter().map(|(kind, rows)| RowsView { words: words_of(kind), rows });
        let amounts = zero.amounts.iter().map(|column| AmountsView {
            heading: column.column.clone(),
            sum: currency.format(column.sum),
            taken: currency.format(column.taken),
            left_out: column
                .left_out
                .iter()
                .map(|(why, (sum, rows))| LeftOutView {
                    reason: why,
                    sum: currency.format(*sum),
                    rows: *rows,
                })
                .collect(),
        });
        Self {
            rows: zero.rows(),
            kinds: kinds.collect(),
            left_out: zero.left_out(),
            amounts: amounts.collect(),
            difference: currency.format(zero.amounts.iter().map(ColumnAmounts::difference).sum()),
        }
    }
}

impl AccountsView {
    fn of(looked: &WaitingFile) -> Option<Self> {
        let Content::Chart(read) = &looked.analysis.content else { return None };
        let chart = read.chart();
        let above = |account: &Account| {
            let mut names: Vec<&str> = chart.above(account).map(|a| a.name.as_str()).collect();
            names.reverse();
            names.join(" › ")
        };
        let proposed = || read.accounts.iter().filter(|(_, account)| account.code_proposed);
        let proposals = proposed().take(LISTED).map(|(row, account)| ProposedCodeView {
            row: *row,
            place: RowPlace::of(&looked.table.reading, *row),
            code: account.code.to_string(),
            name: account.name.clone(),
            class: account.class,
            above: above(account),
        });
        let known = looked.books.today.chart.structure();
        let new = read.structure.captions().filter(|line| known.caption(line.id).is_none());
        let lines = new.map(|line| {
            let under =
                |account: &&Account| account.caption.as_ref().is_some_and(|c| c.id == line.id);
            let accounts = read.accounts.iter().map(|(_, account)| account).filter(under).count();
            let nearest = nearest_line(&line.name, line.class);
            NewItemView { class: line.class, name: line.name.clone(), accounts, nearest }
        });
        let roles = read.roles.iter().filter_map(|(id, role)| {
            let account = chart.get(*id)?;
            let (code, name) = (account.code.to_string(), account.name.clone());
            Some(ProposedRoleView { code, name, role: *role })
        });
        let total = |kind: &&RowKind| **kind == RowKind::Total;
        let sum_lines = looked.choices.wishes.totals == TotalsAs::SumLines;
        let sums = read.accounts.iter().filter(|(_, a)| a.kind == Kind::Sum && a.code_proposed);
        Some(Self {
            proposed: proposed().count(),
            proposals: proposals.collect(),
            new_items: lines.collect(),
            proposed_roles: read.roles.len(),
            roles: roles.take(LISTED).collect(),
            totals: looked.analysis.row_kinds.values().filter(total).count()
                + sums.filter(|_| sum_lines).count(),
        })
    }
}

impl BalancesView {
    fn of(beside: &BalanceComparison, books: &Snapshot) -> Self {
        let (chart, currency) = (&books.today.chart, books.today.currency);
        let difference = |d: &Difference| {
            let account = d.account.and_then(|id| chart.get(id));
            let earlier = || "Results of earlier years".to_owned();
            DifferenceView {
                code: account.map_or_else(String::new, |a| a.code.to_string()),
                name: account.map_or_else(earlier, |a| a.name.clone()),
                file: currency.format(d.file),
                books: currency.format(d.books),
                difference: currency.format(d.file - d.books),
            }
        };
        Self {
            debits: currency.format(beside.debits),
            credits: currency.format(beside.credits),
            gap: currency.format(beside.debits - beside.credits),
            as_of: beside.as_of.0,
            agree: beside.agree,
            differing: beside.differences.len(),
            differences: beside.differences.iter().take(LISTED).map(difference).collect(),
            gap_account: beside.taker.and_then(|id| chart.get(id)).map(Account::label),
        }
    }
}

impl JournalView {
    fn of(read: &ReadJournal, looked: &WaitingFile) -> Self {
        let journal = &read.summary;
        let (twice, currency) = (looked.twice.as_ref(), looked.books.today.currency);
        let unbalanced = journal.unbalanced.iter().take(LISTED).map(|(number, sum)| {
            UnbalancedView { number: number.clone(), difference: currency.format(*sum) }
        });
        let mapped = journal
            .mapped
            .iter()
            .take(LISTED)
            .map(|(code, account)| MappedView { code: code.clone(), account: account.clone() });
        let unknown = journal.unknown.iter().take(LISTED).map(|unknown| UnknownView {
            code: unknown.code.clone(),
            name: unknown.name.clone(),
            rows: unknown.rows,
            several: unknown.bearers.len() > 1,
            class: unknown.class,
        });
        Self {
            entries: journal.entries,
            debits: currency.format(journal.debits),
            first: journal.days.map(|(first, _)| first.to_string()),
            last: journal.days.map(|(_, last)| last.to_string()),
            unbalanced_entries: journal.unbalanced.len(),
            unbalanced: unbalanced.collect(),
            mapped: mapped.collect(),
            unknown: unknown.collect(),
            late: journal.late.iter().map(|late| LateView::of(late, read.chart())).collect(),
            stored_before: twice
                .map(|(name, at)| StoredBeforeView { file_name: name.clone(), at: instant(*at) }),
            overlap: JournalOverlapView::of(read, looked),
        }
    }
}

impl LateView {
    fn of(late: &LateLines, chart: &Chart) -> Self {
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

/// What accounts and statement items are called in the books, and would be called with those of a file.
struct Compared<'a> {
    chart: &'a Chart,
    comparison: &'a Comparison,
}

impl Names for Compared<'_> {
    fn today(&self, account: AccountId) -> Option<Called<'_>> {
        self.chart.get(account).map(Account::called)
    }

    fn after(&self, account: AccountId) -> Option<Called<'_>> {
        let mut new = self.comparison.new.iter().map(|(_, account)| account);
        new.find(|new| new.id == account).map(Account::called).or_else(|| self.today(account))
    }

    fn item(&self, item: ItemId) -> Option<&str> {
        let known = self.comparison.structure.item(item);
        known.or_else(|| self.chart.structure().item(item)).map(|item| item.name.as_str())
    }
}

impl ComparisonView {
    fn of(comparison: &Comparison, reading: &Reading, snapshot: &Snapshot) -> Self {
        let (chart, figures) = (&snapshot.today.chart, snapshot.today.figures());
        let compared = Compared { chart, comparison };
        let say = Say::plain(&compared, snapshot.today.currency);
        let new = comparison.new.iter().take(LISTED).map(|(row, account)| NewRow {
            row: *row,
            place: RowPlace::of(reading, *row),
            code: account.code.to_string(),
            name: account.name.clone(),
            class: account.class.words(),
        });
        let changed = comparison.changed.iter().take(LISTED).filter_map(|changed| {
            let today = chart.get(changed.account)?;
            let fields = changed.changes.iter().map(|change| {
                let field = change.field();
                FieldChange {
                    field: field.words(),
                    old: say.change(&Change::of(today, field)),
                    new: say.change(change),
                }
            });
            Some(ChangedRow {
                row: changed.row,
                place: RowPlace::of(reading, changed.row),
                code: today.code.to_string(),
                name: today.name.clone(),
                by: changed.by,
                fields: fields.collect(),
            })
        });
        let missing = comparison.missing.iter().take(LISTED).filter_map(|id| {
            let today = chart.get(*id)?;
            Some(MissingRow {
                account: id.0,
                code: today.code.to_string(),
                name: today.name.clone(),
                status: today.status,
                lines: figures.get(id).map_or(0, |f| f.all.lines),
            })
        });
        Self {
            new_rows: comparison.new.len(),
            new: new.collect(),
            changed_rows: comparison.changed.len(),
            changed: changed.collect(),
            same: comparison.same,
            missing_rows: comparison.missing.len(),
            missing: missing.collect(),
        }
    }
}

fn cells(row: &RawRow) -> Vec<String> {
    row.cells.iter().map(|cell| zf_core::text::shown(&cell.text)).collect()
}

fn fields(kind: FileKind) -> Vec<FieldView> {
    let own = possible(kind).map(|column| FieldView { key: column.key(), words: column.words() });
    let dimension =
        (kind == FileKind::Journal).then_some(FieldView { key: DIMENSION, words: "Dimension" });
    own.chain(dimension).collect()
}

impl ColumnView {
    fn of(column: &ColumnFound) -> Self {
        let (field, meaning) = match (column.field, &column.dimension) {
            (Some(field), _) => (Some(field.key()), Some(field.words().to_owned())),
            (None, Some(name)) => (Some(DIMENSION), Some(format!("Dimension {name}"))),
            (None, None) => (None, None),
        };
        Self { at: column.at, heading: column.heading.clone(), field, meaning }
    }
}
