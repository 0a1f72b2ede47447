//! Files read as an import would read them, without a database.

use crate::output::STYLE;
use anyhow::{Context, bail, ensure};
use clap::Args;
use std::collections::{BTreeMap, HashMap};
use std::path::Path;
use time::{Date, OffsetDateTime};
use zf_core::activity::{
    Activity, Closings, Openings, Share, Shares, Slot, Strand, Totals, add_share, usual_as_of,
};
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Account, Chart, Kind};
use zf_core::entry::{Entries, EntryHead, EntryKind};
use zf_core::file_kind::FileKind;
use zf_core::former::FormerCodes;
use zf_core::ids::{AccountId, ReportLineId, StrandId};
use zf_core::money::Currency;
use zf_core::overlap::Overlap;
use zf_core::policy::{CodeFormat, Policy};
use zf_core::review::sketch::{Sketches, Sketching};
use zf_core::today::Today;
use zf_core::usage::Usage;
use zf_intake::dates::DateOrder;
use zf_intake::journal::{self, FileEntries};
use zf_intake::reading::{Chosen, Reading};
use zf_intake::rows::Rows;
use zf_intake::table::Table;
use zf_intake::{Rejected, chart, usage};
use zf_phrases::intake::sentence;
use zf_sheets::{How, Opened};

/// The form of codes that was asked for, or any.
pub(crate) fn code_format(asked: Option<&str>) -> anyhow::Result<CodeFormat> {
    Ok(asked.map(CodeFormat::parse).transpose()?.unwrap_or(Policy::default().format))
}

/// A file that was opened, with the sheet of it that is read, and how.
pub(crate) struct FileSheet {
    pub(crate) opened: Opened,
    pub(crate) table: Table,
}

impl FileSheet {
    /// Opens a file; one that lacks a column it needs cannot be read.
    pub(crate) fn open(
        path: &Path,
        kind: FileKind,
        currency: Currency,
        chosen: &Chosen,
    ) -> anyhow::Result<Self> {
        Self::open_as(path, kind, currency, chosen, &How::default())
    }

    /// Opens a file as a person wants a text to be read.
    pub(crate) fn open_as(
        path: &Path,
        kind: FileKind,
        currency: Currency,
        chosen: &Chosen,
        how: &How,
    ) -> anyhow::Result<Self> {
        let content =
            std::fs::read(path).with_context(|| format!("{} cannot be read", path.display()))?;
        let name = path.file_name().unwrap_or_default().to_string_lossy();
        let mut opened = zf_sheets::read(&name, content, how)?;
        let table = Table::find(kind, &mut opened.sheets, currency, chosen)?;
        let lacking = table.reading.layout.lacking(kind);
        ensure!(
            lacking.is_empty(),
            "no row of headings was found; a {} needs the columns {}",
            kind.words(),
            lacking.join(", ")
        );
        Ok(Self { opened, table })
    }

    pub(crate) fn rows(&self) -> &dyn Rows {
        &*self.table.rows
    }

    /// How they are read.
    pub(crate) fn reading(&self) -> &Reading {
        &self.table.reading
    }
}

/// The accounts of a file that are ready, and the rows that cannot be taken.
pub(crate) fn read_chart(
    path: &Path,
    currency: Currency,
    format: CodeFormat,
) -> anyhow::Result<(Chart, Vec<Rejected>)> {
    let file = FileSheet::open(path, FileKind::Chart, currency, &Chosen::default())?;
    let books = chart::ChartContext { chart: &Chart::default(), format, blocks: &[] };
    let read = chart::read(file.reading(), &file.rows().all(), &books, AccountId(1));
    let accounts = read.intake.ready.into_iter().map(|(_, account)| account);
    Ok((Chart::under(read.structure, accounts), read.intake.rejected))
}

/// Books that nothing was posted to.
pub(crate) fn bare_books(
    chart: Chart,
    currency: Currency,
    format: CodeFormat,
) -> anyhow::Result<Today> {
    let unposted = Today::unposted(chart, currency, FiscalCalendar::starting(1, 1)?);
    Ok(Today { policy: Policy::new(format, Vec::new()), ..unposted })
}

/// The calendar whose years start on a day such as `04-06`.
pub(crate) fn calendar(text: &str) -> anyhow::Result<FiscalCalendar> {
    let wrong = || format!("“{text}” is no day of a year; write it as 04-06");
    let (month, day) = text.split_once('-').with_context(wrong)?;
    ensure!(month.len() == 2 && day.len() == 2, wrong());
    let number = |part: &str| part.parse::<u8>().with_context(wrong);
    Ok(FiscalCalendar::starting(number(month)?, number(day)?)?)
}

/// The files that books are made of.
pub(crate) struct BooksFiles<'a> {
    pub(crate) chart: &'a Path,
    /// Complete from the accounts' beginning.
    pub(crate) journal: &'a Path,
    pub(crate) where_used: Option<&'a Path>,
    pub(crate) currency: Currency,
    pub(crate) format: CodeFormat,
    pub(crate) calendar: FiscalCalendar,
    pub(crate) days: &'a Days,
}

/// The days that books are looked at from.
#[derive(Args)]
pub(crate) struct Days {
    /// The day to look at the books from, as 2026-09-24; that of the clock when missing.
    #[arg(long, value_name = "YYYY-MM-DD", value_parser = day)]
    today: Option<Date>,
    /// The last day that counts for balances: the end of its period. Without it the latest period with
    /// its usual lines.
    #[arg(long, value_name = "YYYY-MM-DD", value_parser = day)]
    as_of: Option<Date>,
}

fn day(text: &str) -> Result<Date, String> {
    DateOrder::read(Some(DateOrder::YearFirst), text).map_err(|why| why.to_string())
}

impl Days {
    /// The day to look at the books from.
    pub(crate) fn today(&self) -> Date {
        self.today.unwrap_or_else(|| OffsetDateTime::now_utc().date())
    }

    fn last_period(&self, calendar: FiscalCalendar, activity: &Activity) -> Option<Period> {
        let fixed = self.as_of.map(|day| calendar.period_of(day));
        let now = calendar.period_of(self.today());
        fixed.or_else(|| usual_as_of(&activity.lines_by_period(), now))
    }
}

/// The books as they would stand after all files were imported whole, and what their lines speak of.
pub(crate) fn read_books(files: &BooksFiles<'_>) -> anyhow::Result<(Today, Sketches)> {
    let (chart, rejected) = read_chart(files.chart, files.currency, files.format)?;
    all_taken(files.chart, &rejected)?;
    let (mut activity, sketches) = read_journal(files, &chart)?;
    if let Some(last) = files.days.last_period(files.calendar, &activity) {
        activity = activity.as_of(last);
    }
    let uses = files.where_used.map(|path| read_uses(path, &chart, files.currency)).transpose()?;
    let usage = Usage { journal_complete: true, ..uses.unwrap_or_default() };
    let bare = bare_books(chart, files.currency, files.format)?;
    Ok((Today { activity, usage, calendar: files.calendar, ..bare }, sketches))
}

fn read_uses(path: &Path, chart: &Chart, currency: Currency) -> anyhow::Result<Usage> {
    let file = FileSheet::open(path, FileKind::Usage, currency, &Chosen::default())?;
    let rows = file.rows().all();
    let read = usage::read(file.reading(), &rows, chart, &FormerCodes::default(), currency);
    all_taken(path, &read.rejected)?;
    let mut uses = Usage { given: true, ..Usage::default() };
    for (id, one) in (1..).map(ReportLineId).zip(read.ready) {
        uses.note(id, one, |account| account);
    }
    Ok(uses)
}

/// What was posted, with one strand for each account.
fn read_journal(files: &BooksFiles<'_>, chart: &Chart) -> anyhow::Result<(Activity, Sketches)> {
    let BooksFiles { journal: path, currency, calendar, .. } = *files;
    let file = FileSheet::open(path, FileKind::Journal, currency, &Chosen::default())?;
    // An import refuses lines on a sum line; what is looked at here may have them.
    let open = Chart::new(chart.iter().map(|account| Account {
        kind: if account.kind == Kind::Sum { Kind::Account } else { account.kind },
        ..account.clone()
    }));
    let books = journal::JournalContext {
        chart: &open,
        former: &FormerCodes::default(),
        currency,
        calendar,
        locked: None,
        overlap: &Overlap::default(),
        then: None,
        said: &HashMap::new(),
        late: &zf_intake::journal::late::Said::default(),
    };
    let read = journal::read(file.reading(), file.rows(), &books);
    all_taken(path, &read.rejected)?;
    let entries =
        FileEntries { read: &read, reading: file.reading(), rows: file.rows(), books: &books };
    let heads: Vec<EntryHead<'_>> = entries.heads().collect();
    let mut strands: BTreeMap<AccountId, Shares> = BTreeMap::new();
    let (mut closings, mut openings) = (Closings::default(), Openings::default());
    let mut sketching = Sketching::default();
    // The lines of an entry may stand far from each other.
    let mut of_entries: Vec<Vec<(i64, bool)>> = vec![Vec::new(); heads.len()];
    for (id, (at, line)) in (1..).zip(entries.lines()) {
        let Some(head) = heads.get(at) else { continue };
        let strand = strands.entry(line.account).or_default();
        let period = calendar.period_of(head.date);
        let slot = Slot { period, currency: line.foreign.map_or(currency, |(_, other)| other) };
        let content = line.content(id, i64::try_from(at)?, head.date);
        add_share(strand, slot, Share::of_line(&content, line.cleared));
        if head.kind == EntryKind::Closing {
            let closed = closings.entry(StrandId(line.account.0)).or_default();
            *closed.entry(period).or_default() += i128::from(line.amount);
        }
        if head.kind == EntryKind::Opening {
            let opened = openings.entry(StrandId(line.account.0)).or_default();
            *opened.entry(period).or_default() += Totals::of_line(&content);
        }
        sketching.line(line.account.0, &line.payee, &line.memo, &line.dimensions);
        of_entries[at].push((line.account.0, line.amount >= 0));
    }
    of_entries.iter().for_each(|lines| sketching.entry(lines));
    let sketches = sketching.done().map(|(id, sketch)| (AccountId(id), sketch)).collect();
    let strands = strands.into_iter().filter_map(|(account, activity)| {
        Some((Strand::opened(StrandId(account.0), chart.get(account)?), activity))
    });
    let activity = Activity::new(strands).with_closings(closings).with_openings(openings);
    Ok((activity, sketches))
}

/// What is worked out from a file of which rows are left out would be wrong.
pub(crate) fn all_taken(path: &Path, rejected: &[Rejected]) -> anyhow::Result<()> {
    if let Some(first) = rejected.first() {
        bail!(
            "{}: {} rows cannot be taken; the first is row {}: {}",
            path.display(),
            rejected.len(),
            first.row,
            sentence(&first.cause, STYLE)
        );
    }
    Ok(())
}
