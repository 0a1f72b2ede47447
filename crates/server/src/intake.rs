//! From an uploaded file to what is ready: reading, matching and checking, in one place for the
//! interface and for the command line.

use crate::{App, Problem};
use std::sync::Arc;
use zf_core::chart::Account;
use zf_core::ids::AccountId;
use zf_core::intake::columns::FileKind;
use zf_core::intake::crosswalk::{self, Crossing};
use zf_core::intake::journal::{self, NewEntry};
use zf_core::intake::reading::{Chosen, Reading};
use zf_core::intake::usage::NewUse;
use zf_core::intake::{Intake, RawRow, Rejected, Warning, chart, usage};
use zf_core::money::grouped;
use zf_core::plan::Change;
use zf_sheets::How;
use zf_store::imports::{Ready, Upload};
use zf_store::people::Member;
use zf_store::plans::Edit;
use zf_store::today::Snapshot;

/// What was read of a file.
#[derive(Debug)]
pub struct Looked {
    /// How the file is read.
    pub reading: Reading,
    /// The name of the sheet that is read; empty for a text file.
    pub sheet: String,
    /// The first rows, for showing.
    pub sample: Vec<RawRow>,
    /// How many rows are ready.
    pub ready_rows: usize,
    /// The rows that are left out.
    pub rejected: Vec<Rejected>,
    /// What is worth knowing of others.
    pub warnings: Vec<Warning>,
    /// What else is worth saying, in sentences.
    pub notes: Vec<String>,
    content: Content,
    snapshot: Arc<Snapshot>,
}

#[derive(Debug)]
enum Content {
    Chart(Vec<Account>),
    Crosswalk(Vec<Crossing>),
    Journal(Vec<NewEntry>),
    Usage(Vec<NewUse>),
}

/// How many rows are shown before anything is stored.
const SAMPLE: usize = 12;

/// Reads a waiting file against the books as they stand.
///
/// # Errors
/// When the file cannot be read, has no headings, or the store fails.
pub async fn look(app: &App, member: Member, upload: Upload) -> Result<Looked, Problem> {
    let snapshot = app.snapshot(member).await?;
    let entries = match upload.kind {
        FileKind::Journal => app.store.entry_numbers(member).await?,
        _ => std::collections::HashSet::new(),
    };
    crate::state::off_thread(move || {
        let opened = zf_sheets::read(&upload.file_name, &upload.content, &How::default())
            .map_err(|e| Problem::unreadable("file_unreadable", e))?;
        let today = &snapshot.today;
        let mut sheets = opened.sheets;
        let (at, reading) = Reading::find(upload.kind, &sheets, today.currency, &Chosen::default())
            .map_err(|e| Problem::unreadable("headings_not_found", e))?;
        let sheet = sheets.swap_remove(at);
        let rows = sheet.rows;
        let body = reading.layout.body(&rows, &mut Vec::new());
        let sample = body.into_iter().take(SAMPLE).cloned().collect();
        let mut notes = Vec::new();
        let (ready_rows, rejected, warnings, content) = match upload.kind {
            FileKind::Chart => {
                let books = chart::Books { chart: &today.chart, format: today.policy.format };
                let read = chart::read(&reading, &rows, &books, AccountId(1)).intake;
                parts(read, |accounts| Content::Chart(accounts.into_iter().map(|a| a.1).collect()))
            }
            FileKind::Crosswalk => {
                let (chart, former) = (&today.chart, &today.former);
                let books = crosswalk::Books { chart, former, format: today.policy.format };
                parts(crosswalk::read(&reading, &rows, &books), Content::Crosswalk)
            }
            FileKind::Balances => return Err(not_taken()),
            FileKind::Usage => {
                let read = usage::read(&reading, &rows, &today.chart, &today.former);
                parts(read, Content::Usage)
            }
            FileKind::Journal => {
                let books = journal::Books {
                    chart: &today.chart,
                    former: &today.former,
                    currency: today.currency,
                    calendar: today.calendar,
                    locked: today.locked,
                    entries: &entries,
                };
                let read = journal::read(&reading, &rows, &books);
                let count = grouped(&read.intake.ready.len().to_string());
                let debits = today.currency.say(read.debits);
                notes.push(format!("{count} entries; debits and credits are {debits} each."));
                for (code, account) in &read.mapped {
                    let holder = today.chart.get(*account).map_or_else(String::new, Account::label);
                    notes.push(format!("{code} is a former code; its lines go to {holder}."));
                }
                parts(read.intake, Content::Journal)
            }
        };
        let sheet = sheet.name;
        Ok(Looked {
            reading,
            sheet,
            sample,
            ready_rows,
            rejected,
            warnings,
            notes,
            content,
            snapshot,
        })
    })
    .await?
}

fn parts<T>(
    intake: Intake<T>,
    content: impl Fn(Vec<T>) -> Content,
) -> (usize, Vec<Rejected>, Vec<Warning>, Content) {
    (intake.ready_rows, intake.rejected, intake.warnings, content(intake.ready))
}

/// Balances are compared and not stored; only the command line reads them.
pub(crate) fn not_taken() -> Problem {
    Problem::field(
        "kind",
        "a trial balance is not brought in; `zerofold inspect balances` reads one",
    )
}

/// Stages what was read of a crosswalk in a draft: all that is ready, or nothing. Rows that are
/// misfits must have been left out by choice.
///
/// # Errors
/// When it is no crosswalk, there are misfits, somebody else changed the draft just now, or the
/// store fails.
pub async fn stage(
    app: &App,
    member: Member,
    looked: Looked,
    plan: i64,
    leave_out: bool,
) -> Result<(), Problem> {
    let Content::Crosswalk(crossings) = &looked.content else {
        return Err(Problem::unreadable("not_a_crosswalk", "only a crosswalk is staged in a plan"));
    };
    if !looked.rejected.is_empty() && !leave_out {
        let misfits = "settle the misfits first, or say that they are to be left out";
        return Err(Problem::unreadable("misfits", misfits));
    }
    let chart = &looked.snapshot.today.chart;
    let (_, staged) = app.store.plan(member, plan).await?;
    let edits = crossings.iter().flat_map(|crossing| {
        let account = crossing.account;
        crossing
            .edits(chart, &staged)
            .into_iter()
            .map(move |(field, change)| (account, field, change))
    });
    let edits = edits.map(|(account, field, change)| {
        let seen = staged.targets.get(&account).and_then(|target| target.get(&field));
        let seen = seen.map(|staged| staged.change.text());
        let base = chart.get(account).map(|today| Change::today(today, field));
        Edit { account, field, seen, base, change }
    });
    let edits: Vec<Edit> = edits.collect();
    match app.store.edit_plan(member, plan, &edits).await? {
        conflicts if conflicts.is_empty() => Ok(()),
        conflicts => Err(Problem::conflicts(conflicts)),
    }
}

/// Stores what was read: all that is ready, or nothing.
///
/// # Errors
/// When nothing is ready, the books changed since, or the store fails.
pub async fn store(app: &App, member: Member, id: i64, looked: Looked) -> Result<usize, Problem> {
    if looked.ready_rows == 0 {
        return Err(Problem::unreadable("nothing_ready", "no row of the file can be stored"));
    }
    let snapshot = &looked.snapshot;
    match looked.content {
        Content::Chart(mut accounts) => {
            let first = app.store.take_account_ids(accounts.len()).await?;
            // Read with identities from 1; accounts that were there before keep theirs.
            let offset = first.0 - 1;
            let fresh: std::collections::HashSet<AccountId> =
                accounts.iter().map(|a| a.id).collect();
            let known = |id: AccountId| snapshot.today.chart.get(id).is_some();
            for account in &mut accounts {
                account.id.0 += offset;
                account.parent = account.parent.map(|parent| match fresh.contains(&parent) {
                    true if !known(parent) => AccountId(parent.0 + offset),
                    _ => parent,
                });
            }
            app.store.commit_import(member, id, snapshot, Ready::Chart(&accounts)).await?;
        }
        Content::Crosswalk(_) => {
            let how = "a crosswalk is staged in a plan, not stored";
            return Err(Problem::unreadable("not_stored", how));
        }
        Content::Journal(entries) => {
            app.store.commit_import(member, id, snapshot, Ready::Journal(&entries)).await?;
        }
        Content::Usage(uses) => {
            app.store.commit_import(member, id, snapshot, Ready::Usage(&uses)).await?;
        }
    }
    Ok(looked.ready_rows)
}
