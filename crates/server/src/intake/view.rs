//! What is shown of a waiting file.

use super::overlap_view::journal_overlap_view;
use crate::waiting_file::WaitingFile;
use zf_core::chart::{Account, Called, Chart, Kind};
use zf_core::file_kind::FileKind;
use zf_core::ids::{AccountId, ImportId, ItemId};
use zf_core::names::Names;
use zf_core::plan::Change;
use zf_intake::RawRow;
use zf_intake::analysis::choices::DIMENSION;
use zf_intake::analysis::{BalanceComparison, Content, ReadJournal};
use zf_intake::balances::Difference;
use zf_intake::chart_options::TotalsAs;
use zf_intake::compare::Comparison;
use zf_intake::crosswalk::Crossing;
use zf_intake::layout::possible;
use zf_intake::reading::Reading;
use zf_intake::row_kind::RowKind;
use zf_intake::wordings::nearest_line;
use zf_intake::zero::{ColumnAmounts, zero};
use zf_phrases::reports::EARLIER_RESULTS;
use zf_phrases::{Say, Style, intake as phrases};
use zf_store::journal::today::Snapshot;
use zf_store::plans::applying::AppliedName;
use zf_wire::imports::place::RowPlace;
use zf_wire::imports::view::{
    AccountsView, AmountsView, AppliedView, BalancesView, ChangedRow, ColumnView, ComparisonView,
    CrossingView, DifferenceView, FieldChange, FieldView, ImportView, JournalView, LateView,
    LeftOutView, MappedView, MissingRow, NewItemView, NewRow, OtherSheetView, ProposedCodeView,
    ProposedRoleView, QuestionView, RejectedView, RowsView, SampleRow, StoredBeforeView,
    UnbalancedView, UnknownView, WarningView, ZeroView,
};
use zf_wire::values::instant;

/// The most rejected rows, and warnings, that are listed.
const LISTED: usize = 500;

/// How many rows are shown as they stand.
const SAMPLE: usize = 12;

pub(crate) fn import_view(
    id: ImportId,
    file_name: String,
    looked: &WaitingFile,
    applied: Vec<AppliedName>,
    style: Style,
) -> ImportView {
    let (analysis, books) = (&looked.analysis, &*looked.books);
    let journal = analysis.journal().map(|journal| journal_view(journal, looked));
    let balances = analysis.balances().map(|balances| balances_view(balances, books));
    let applied = applied.into_iter().map(|plan| AppliedView {
        id: plan.id,
        name: plan.name,
        at: instant(plan.applied_at),
    });
    let reading = &looked.table.reading;
    let comparison = analysis.comparison().map(|c| comparison_view(c, reading, books, style));
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
        read_as: kind_of(row.number).map(|kind| phrases::read_as(kind).to_owned()),
        cells: cells(&row),
    });
    let listed = &analysis.rejected[..analysis.rejected.len().min(LISTED)];
    let rows = looked.table.rows.numbered(&listed.iter().map(|r| r.row).collect());
    let rejected = listed.iter().map(|r| RejectedView {
        row: r.row,
        place: RowPlace::of(reading, r.row),
        at: r.field.and_then(|field| layout.place(field)),
        cells: rows.get(&r.row).map(cells).unwrap_or_default(),
        reason: r.cause.reason(),
        message: phrases::sentence(&r.cause, style),
    });
    let warnings = analysis.warnings.iter().take(LISTED).map(|w| WarningView {
        place: RowPlace::of(reading, w.row),
        reason: w.cause.reason(),
        message: phrases::sentence(&w.cause, style),
    });
    ImportView {
        id: id.0,
        kind: looked.kind,
        file_name,
        format: looked.facts.format.to_owned(),
        encoding: looked.facts.encoding.map(str::to_owned),
        delimiter: looked.facts.delimiter,
        header_row: layout.header_row,
        dates: looked.table.reading.dates,
        decimal: looked.table.reading.decimal,
        outline: analysis.outline.map(|by| by.words().to_owned()),
        columns: layout.columns.iter().map(ColumnView::of).collect(),
        fields: fields(looked.kind),
        sample: sample.collect(),
        ready_rows: analysis.ready_rows,
        rejected_rows: analysis.rejected.len(),
        rejected: rejected.collect(),
        warnings: warnings.collect(),
        questions: analysis
            .questions
            .iter()
            .map(|question| QuestionView::of(question, style))
            .collect(),
        zero: zero_view(looked),
        accounts: accounts_view(looked),
        sheets: looked.facts.sheets.clone(),
        sheet: looked.table.name().to_owned(),
        together: reading.parts.len() > 1,
        other_sheets: looked.table.also.iter().map(OtherSheetView::of).collect(),
        looks_like: looked.table.seems,
        missing: layout.lacking(looked.kind).into_iter().map(str::to_owned).collect(),
        choices: looked.choices.clone(),
        journal,
        balances,
        applied: applied.collect(),
        comparison,
        crossings: crossings(looked),
    }
}

fn crossings(looked: &WaitingFile) -> Vec<CrossingView> {
    let Content::Crosswalk(read) = &looked.analysis.content else { return Vec::new() };
    let chart = &looked.books.today.chart;
    let of = |crossing: &Crossing| CrossingView {
        place: RowPlace::of(&looked.table.reading, crossing.row),
        account: chart.get(crossing.account).map_or_else(String::new, Account::label),
        does: phrases::crossing(crossing, chart),
    };
    let added = read.added.iter().map(|(row, account)| CrossingView {
        place: RowPlace::of(&looked.table.reading, *row),
        account: account.label(),
        does: format!("added as {}", account.class.words()),
    });
    read.crossings.iter().map(of).chain(added).take(LISTED).collect()
}

fn zero_view(looked: &WaitingFile) -> ZeroView {
    let currency = looked.books.today.currency;
    let zero = zero(looked.kind, &looked.table, &looked.analysis, currency);
    let taken = zero.taken().into_iter();
    let kinds = taken.map(|(kind, rows)| RowsView { words: phrases::kind(kind).to_owned(), rows });
    let amounts = zero.amounts.iter().map(|column| AmountsView {
        heading: column.column.clone(),
        sum: currency.format(column.sum),
        taken: currency.format(column.taken),
        left_out: column
            .left_out
            .iter()
            .map(|(why, (sum, rows))| LeftOutView {
                reason: phrases::left_out(*why).to_owned(),
                sum: currency.format(*sum),
                rows: *rows,
            })
            .collect(),
    });
    ZeroView {
        rows: zero.rows(),
        kinds: kinds.collect(),
        left_out: zero.left_out(),
        amounts: amounts.collect(),
        difference: currency.format(zero.amounts.iter().map(ColumnAmounts::difference).sum()),
    }
}

fn accounts_view(looked: &WaitingFile) -> Option<AccountsView> {
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
        let under = |account: &&Account| account.caption.as_ref().is_some_and(|c| c.id == line.id);
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
    let sum_lines = looked.choices.options.totals == TotalsAs::SumLines;
    let sums = read.accounts.iter().filter(|(_, a)| a.kind == Kind::Sum && a.code_proposed);
    Some(AccountsView {
        proposed: proposed().count(),
        proposals: proposals.collect(),
        new_items: lines.collect(),
        proposed_roles: read.roles.len(),
        roles: roles.take(LISTED).collect(),
        totals: looked.analysis.row_kinds.values().filter(total).count()
            + sums.filter(|_| sum_lines).count(),
    })
}

fn balances_view(beside: &BalanceComparison, books: &Snapshot) -> BalancesView {
    let (chart, currency) = (&books.today.chart, books.today.currency);
    let difference = |d: &Difference| {
        let account = d.account.and_then(|id| chart.get(id));
        let earlier = || EARLIER_RESULTS.to_owned();
        DifferenceView {
            code: account.map_or_else(String::new, |a| a.code.to_string()),
            name: account.map_or_else(earlier, |a| a.name.clone()),
            file: currency.format(d.file),
            books: currency.format(d.books),
            difference: currency.format(d.file - d.books),
        }
    };
    BalancesView {
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

fn journal_view(read: &ReadJournal, looked: &WaitingFile) -> JournalView {
    let journal = &read.summary;
    let (twice, currency) = (looked.twice.as_ref(), looked.books.today.currency);
    let unbalanced = journal.unbalanced.iter().take(LISTED).map(|(number, sum)| UnbalancedView {
        number: number.clone(),
        difference: currency.format(*sum),
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
    JournalView {
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
        overlap: journal_overlap_view(read, looked),
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

fn comparison_view(
    comparison: &Comparison,
    reading: &Reading,
    snapshot: &Snapshot,
    style: Style,
) -> ComparisonView {
    let (chart, figures) = (&snapshot.today.chart, snapshot.today.figures());
    let compared = Compared { chart, comparison };
    let say = Say::to(style.0, &compared, snapshot.today.currency);
    let new = comparison.new.iter().take(LISTED).map(|(row, account)| NewRow {
        row: *row,
        place: RowPlace::of(reading, *row),
        code: account.code.to_string(),
        name: account.name.clone(),
        class: account.class.words().to_owned(),
    });
    let changed = comparison.changed.iter().take(LISTED).filter_map(|changed| {
        let today = chart.get(changed.account)?;
        let fields = changed.changes.iter().map(|change| {
            let field = change.field();
            FieldChange {
                field: field.words().to_owned(),
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
    ComparisonView {
        new_rows: comparison.new.len(),
        new: new.collect(),
        changed_rows: comparison.changed.len(),
        changed: changed.collect(),
        same: comparison.same,
        missing_rows: comparison.missing.len(),
        missing: missing.collect(),
    }
}

fn cells(row: &RawRow) -> Vec<String> {
    row.cells.iter().map(|cell| zf_core::text::shown(&cell.text)).collect()
}

fn fields(kind: FileKind) -> Vec<FieldView> {
    let own = possible(kind).map(|column| field_view(column.key(), column.words()));
    let dimension = (kind == FileKind::Journal).then(|| field_view(DIMENSION, "Dimension"));
    own.chain(dimension).collect()
}

fn field_view(key: &str, words: &str) -> FieldView {
    FieldView { key: key.to_owned(), words: words.to_owned() }
}
