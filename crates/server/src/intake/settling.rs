//! What becomes of a file that was agreed to: it is stored, or staged in a plan.

use crate::waiting_file::WaitingFile;
use crate::{App, Problem};
use axum::http::StatusCode;
use serde_json::Value;
use std::borrow::Cow;
use std::collections::{BTreeSet, HashMap, HashSet};
use std::sync::Arc;
use time::OffsetDateTime;
use zf_core::chart::{Account, Chart, Structure};
use zf_core::entry::{Entries, EntryHead, NewEntry, NewLine};
use zf_core::ids::{AccountId, ImportId, ItemId, PlanId};
use zf_core::items::{ItemChange, ItemName};
use zf_core::plan::edit::{self, Edit};
use zf_core::plan::{Change, Field, Plan};
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Content, ReadBalances, ReadCrosswalk};
use zf_intake::balances;
use zf_intake::chart::retired;
use zf_intake::compare::{Comparison, Taken};
use zf_intake::crosswalk::Crossing;
use zf_intake::journal::FileEntries;
use zf_intake::question::About;
use zf_intake::reading::Reading;
use zf_phrases::Style;
use zf_phrases::intake::{cannot_open, place};
use zf_store::imports::{Ready, StagedFile};
use zf_store::jobs::Progress;
use zf_store::journal::today::Snapshot;
use zf_store::member::Member;
use zf_store::plans::Edited;
use zf_wire::imports::Agreed;
use zf_wire::problem::ProblemCode;
use zf_wire::problem::RefusedField;

/// What a person wants staged of a file.
#[derive(Debug)]
pub(crate) struct Wanted {
    /// The draft.
    pub(crate) plan: PlanId,
    /// Whether rows that cannot be taken are left out by choice.
    pub(crate) leave_out: bool,
    /// Whether a crosswalk is a list of moves: history goes from the old account to the new one,
    /// and both stay.
    pub(crate) moves: bool,
    /// What is taken of a chart.
    pub(crate) taken: Taken,
}

/// Stages what was read of a crosswalk or a chart in a draft: all that is wanted, or nothing. Rows
/// that cannot be taken must have been left out by choice.
///
/// # Errors
/// When there are such rows, nothing is to be staged, somebody else changed the draft just now, or
/// the store fails.
pub(crate) async fn stage(
    app: &App,
    member: Member,
    id: ImportId,
    looked: &WaitingFile,
    wanted: &Wanted,
) -> Result<(), Problem> {
    if !looked.analysis.rejected.is_empty() && !wanted.leave_out {
        let first = "settle the rejected rows first, or say that they are to be left out";
        return Err(Problem::unreadable(ProblemCode::RowsRejected, first));
    }
    let mut books = Arc::clone(&looked.books);
    let chart = &looked.books.today.chart;
    let (_, staged) = app.store.plan(member, wanted.plan).await?;
    let changes: Vec<(AccountId, edit::Wanted)> = match &looked.analysis.content {
        Content::Crosswalk(read) => {
            let crossed = match wanted.moves {
                true => moves(&read.crossings, &looked.table.reading, chart)?,
                false => crossings(&read.crossings, chart, &staged),
            };
            crossed.into_iter().chain(added(app, id, read, chart.next_id()).await?).collect()
        }
        Content::Comparison(comparison) => {
            let mut changes = of_comparison(app, id, comparison, chart.next_id(), wanted).await?;
            if let Some(lines) = add_items(app, member, &looked.books, comparison, &changes).await?
            {
                changes.iter_mut().for_each(|(_, change)| change.under_items(&lines));
                books = app.snapshot(member).await?;
            }
            changes.into_iter().map(|(account, c)| (account, edit::Wanted::Stage(c))).collect()
        }
        _ => {
            let how = "only a crosswalk or a chart beside another is staged in a plan";
            return Err(Problem::unreadable(ProblemCode::NotStaged, how));
        }
    };
    if changes.is_empty() {
        return Err(Problem::unreadable(
            ProblemCode::NothingToStage,
            "nothing of it is to be staged",
        ));
    }
    let edits = changes.into_iter().map(|(account, wanted)| Edit::over(&staged, account, wanted));
    let edits: Vec<Edit> = edits.collect();
    let form = form_of(looked)?;
    let form = form.as_ref().map(|(headings, choices)| (looked.kind, &headings[..], choices));
    let file = StagedFile { import: id, rows: looked.analysis.ready_rows, form };
    let chart = &books.today.chart;
    match app.store.stage_file(member, wanted.plan, chart, &edits, &file).await? {
        Edited::Done(..) => Ok(()),
        Edited::Conflicts(conflicts) => Err(app.in_words(member, wanted.plan, conflicts).await?),
    }
}

/// What becomes of accounts, with what a crosswalk contradicts of the plan.
fn crossings(
    crossings: &[Crossing],
    chart: &Chart,
    staged: &Plan,
) -> Vec<(AccountId, edit::Wanted)> {
    let edits = crossings.iter().flat_map(|crossing| {
        crossing.edits(chart, staged).into_iter().map(|wanted| (crossing.account, wanted))
    });
    edits.collect()
}

/// Accounts that a crosswalk adds, with identities that are theirs for good.
async fn added(
    app: &App,
    import: ImportId,
    read: &ReadCrosswalk,
    read_from: AccountId,
) -> Result<Vec<(AccountId, edit::Wanted)>, Problem> {
    let ids = Renumbering::take(app, read_from, read.added.iter().map(|(_, a)| a)).await?;
    let accounts = ids.accounts(read.added.iter().map(|(_, account)| account), import);
    let stage = |account: &Account| {
        let changes = Change::adding(account).into_iter().map(edit::Wanted::Stage);
        changes.map(|wanted| (account.id, wanted)).collect::<Vec<_>>()
    };
    Ok(accounts.iter().flat_map(stage).collect())
}

/// Old accounts with the new ones that their history goes to.
fn moves(
    crossings: &[Crossing],
    reading: &Reading,
    chart: &Chart,
) -> Result<Vec<(AccountId, edit::Wanted)>, Problem> {
    let mut refused = Vec::new();
    let mut changes = Vec::new();
    for crossing in crossings.iter().filter(|c| c.code.key() != c.new_code.key()) {
        match crossing.moving(chart) {
            Some(split) => {
                changes.push((crossing.account, edit::Wanted::Stage(Change::History(split))));
            }
            None => refused.push(RefusedField {
                account: Some(crossing.account.0),
                field: Field::History.key().to_owned(),
                reason: format!(
                    "{}: no account has the code {}, so the history of {} cannot go there",
                    place(&reading.place(crossing.row)),
                    crossing.new_code,
                    crossing.code
                ),
            }),
        }
    }
    if refused.is_empty() { Ok(changes) } else { Err(Problem::refused(refused)) }
}

async fn of_comparison(
    app: &App,
    id: ImportId,
    comparison: &Comparison,
    read_from: AccountId,
    wanted: &Wanted,
) -> Result<Vec<(AccountId, Change)>, Problem> {
    let new = comparison.new.iter().map(|(_, account)| account);
    let ids = Renumbering::take(app, read_from, new).await?;
    Ok(comparison.changes(&wanted.taken, id, |account| ids.of(account)))
}

/// Adds the statement items that changes name and the books do not have: the identities that they
/// have for good, by those that they were read with.
async fn add_items(
    app: &App,
    member: Member,
    books: &Snapshot,
    comparison: &Comparison,
    changes: &[(AccountId, Change)],
) -> Result<Option<HashMap<ItemId, ItemId>>, Problem> {
    let known = books.today.chart.structure();
    let new = comparison.new_lines(changes.iter().map(|(_, change)| change), known);
    if new.is_empty() {
        return Ok(None);
    }
    let there: HashSet<ItemId> = known.items().map(|item| item.id).chain(new).collect();
    let lines = comparison.structure.items().filter(|item| there.contains(&item.id));
    let wanted = Structure::new(lines.cloned());
    let added = wanted.captions().filter(|item| !known.offers(item.id));
    let added = added.map(|item| ItemChange::Added {
        item: ItemName { name: item.name.clone(), class: item.class },
    });
    let done: Vec<_> = added.collect();
    Ok(Some(app.store.keep_items(member, books, &wanted, &done).await?))
}

/// Stores what was read: all that is ready, or nothing.
///
/// # Errors
/// When nothing is ready, the same lines were stored before and that is not meant, the
/// books changed since, or the store fails.
pub(crate) async fn store(
    app: &App,
    member: Member,
    id: ImportId,
    looked: &WaitingFile,
    agreed: &Agreed,
    progress: &Progress,
) -> Result<(), Problem> {
    if let Some((name, _)) = looked.twice.as_ref().filter(|_| !agreed.again) {
        let message = format!("the same lines were stored before, from {name}");
        return Err(Problem::new(StatusCode::CONFLICT, ProblemCode::StoredBefore, message));
    }
    if looked.analysis.ready_rows == 0 {
        return Err(Problem::unreadable(
            ProblemCode::NothingReady,
            "no row of the file can be stored",
        ));
    }
    let snapshot = &looked.books;
    let commit = async |ready: Ready<'_>| {
        app.store.commit_import(member, id, snapshot, &ready, progress).await
    };
    let next = snapshot.today.chart.next_id();
    match &looked.analysis.content {
        Content::Chart(read) => {
            let accounts = || read.accounts.iter().map(|(_, account)| account);
            let ids = Renumbering::take(app, next, accounts()).await?;
            let mut accounts = ids.accounts(accounts(), id);
            if looked
                .choices
                .answers
                .get(&About::StatusFrom)
                .is_some_and(|said| said == retired::STORED)
            {
                let today = OffsetDateTime::now_utc().date();
                let without =
                    accounts.iter_mut().filter(|account| retired::is_without_day(account));
                without.for_each(|account| account.status_from = Some(today));
            }
            let accounts = &accounts;
            commit(Ready::Chart { accounts, structure: &read.structure }).await?;
        }
        Content::Balances(read) => {
            let entries = vec![opening_of(app, member, read, snapshot, agreed).await?];
            commit(Ready::Journal { entries: &entries, added: &[], reopened: &[], digest: None })
                .await?;
        }
        Content::Journal(journal) => {
            let ids = Renumbering::take(app, next, &journal.added).await?;
            let added = ids.accounts(&journal.added, id);
            let books = journal.books(&snapshot.today);
            let (read, reading, rows) = (&journal.read, &looked.table.reading, &*looked.table.rows);
            let file = FileEntries { read, reading, rows, books: &books };
            let digest = Some(journal.read.digest);
            let renumbered = Renumbered { file, ids };
            let reopened = &journal.reopened();
            let ready = Ready::Journal { entries: &renumbered, added: &added, reopened, digest };
            commit(ready).await?;
        }
        Content::Usage(uses) => commit(Ready::Usage(uses)).await?,
        Content::Comparison(_) | Content::Crosswalk(_) | Content::Nothing => {
            let how = "it is staged in a plan, not stored";
            return Err(Problem::unreadable(ProblemCode::NotStored, how));
        }
    }
    remember(app, member, looked).await
}

/// Entries whose new accounts have their identities for good.
struct Renumbered<'a> {
    file: FileEntries<'a>,
    ids: Renumbering,
}

impl Entries for Renumbered<'_> {
    fn count(&self) -> usize {
        self.file.count()
    }

    fn line_count(&self) -> usize {
        self.file.line_count()
    }

    fn accounts(&self) -> BTreeSet<AccountId> {
        self.file.accounts().into_iter().map(|id| self.ids.of(id)).collect()
    }

    fn heads(&self) -> Box<dyn Iterator<Item = EntryHead<'_>> + Send + '_> {
        self.file.heads()
    }

    fn lines(&self) -> Box<dyn Iterator<Item = (usize, Cow<'_, NewLine>)> + Send + '_> {
        Box::new(self.file.lines().map(|(at, mut line)| {
            let account = self.ids.of(line.account);
            if account != line.account {
                line.to_mut().account = account;
            }
            (at, line)
        }))
    }
}

async fn opening_of(
    app: &App,
    member: Member,
    read: &ReadBalances,
    snapshot: &Snapshot,
    agreed: &Agreed,
) -> Result<NewEntry, Problem> {
    let today = &snapshot.today;
    let date = agreed.date.ok_or_else(|| Problem::field("date", "say of which day they are"))?;
    let books = balances::Opening {
        chart: &today.chart,
        currency: today.currency,
        calendar: today.calendar,
        locked: today.locked,
        opened: app.store.has_entry(member, &balances::opening_number(date)).await?,
        date,
        take_gap: agreed.take_gap,
    };
    balances::opening(&read.balances, &books).map_err(|why| {
        let why = cannot_open(&why, today.currency, Style(member.forms()));
        Problem::unreadable(ProblemCode::CannotOpen, why)
    })
}

/// Gives accounts that were read with identities counting up from one that nobody has those that are
/// theirs for good. Accounts of the books keep theirs.
struct Renumbering {
    read_from: AccountId,
    ids: Vec<AccountId>,
}

impl Renumbering {
    /// Takes identities for accounts of a file.
    async fn take<'a>(
        app: &App,
        read_from: AccountId,
        accounts: impl IntoIterator<Item = &'a Account>,
    ) -> Result<Self, Problem> {
        let last = accounts.into_iter().map(|account| account.id.0).max();
        let count = last.map_or(0, |last| last - read_from.0 + 1);
        let ids = app.store.take_account_ids(usize::try_from(count).unwrap_or(0)).await?;
        Ok(Self { read_from, ids })
    }

    fn of(&self, id: AccountId) -> AccountId {
        let at = usize::try_from(id.0 - self.read_from.0).ok();
        at.and_then(|at| self.ids.get(at)).copied().unwrap_or(id)
    }

    fn accounts<'a>(
        &self,
        accounts: impl IntoIterator<Item = &'a Account>,
        import: ImportId,
    ) -> Vec<Account> {
        let renumbered = accounts.into_iter().map(|account| Account {
            id: self.of(account.id),
            parent: account.parent.map(|parent| self.of(parent)),
            origin: Some(import),
            ..account.clone()
        });
        renumbered.collect()
    }
}

/// The headings of a file, and how the next of the same form is to be read; none when a person need
/// not say so.
fn form_of(looked: &WaitingFile) -> Result<Option<(Vec<String>, Value)>, Problem> {
    let choices = looked.choices.for_next_file();
    let form = looked.form();
    if form.is_empty() || choices == Choices::default() {
        return Ok(None);
    }
    Ok(Some((form, serde_json::to_value(choices).map_err(|e| Problem::internal(&e))?)))
}

/// Remembers how a file was read for the next of the same form.
async fn remember(app: &App, member: Member, looked: &WaitingFile) -> Result<(), Problem> {
    if let Some((form, choices)) = form_of(looked)? {
        app.store.remember_form(member, looked.kind, &form, &choices).await?;
    }
    Ok(())
}
