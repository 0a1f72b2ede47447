//! Apply and undo: one transaction that locks the books, rehearses anew, writes, reads back, and
//! rolls back when anything read is not what was predicted.

use crate::books::{raise_revision, revision};
use crate::boxed;
use crate::chart::{rows, structure, usage};
use crate::ids::{Counter, take_one};
use crate::jobs;
use crate::journal::strands;
use crate::journal::today::{self, Snapshot};
use crate::member::Member;
use crate::plans::archive::effects::ArchivedEffects;
use crate::plans::archive::proof::{ArchivedProof, Proof, ProofFacts};
use crate::plans::history::{self, Taken};
use crate::plans::read_back::{journal_writes, read_back};
use crate::plans::{self, DraftPlan, OverriddenStop};
use crate::writing::Writing;
use crate::{Store, StoreError, trail};
use sqlx::PgConnection;
use sqlx::types::Json;
use std::collections::BTreeSet;
use std::sync::Arc;
use time::OffsetDateTime;
use tokio::task::spawn_blocking;
use zf_core::chart::{Account, Status};
use zf_core::ids::{AccountId, ApplicationId, BooksId, PlanId};
use zf_core::names::{ArchivedName, ArchivedNames, Charts, Names};
use zf_core::people::Forms;
use zf_core::plan::PlanStatus;
use zf_core::rehearsal::effects::Effects;
use zf_core::rehearsal::finding::Finding;
use zf_core::rehearsal::report::{Report, TrialBalances};
use zf_core::rehearsal::undo::{Application, rehearse_undo};
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::today::Today;
use zf_core::trail::Event;

/// Why a plan was not applied. Nothing was written.
#[derive(Debug, thiserror::Error)]
pub enum NotApplied {
    /// Something blocks it.
    #[error("{} stops block it", .0.findings.len())]
    Stopped(Against),
    /// It would no longer do what the person saw.
    #[error("the books or the plan changed since it was rehearsed")]
    Changed,
    /// There are cautions that nobody acknowledged.
    #[error("{} cautions were not acknowledged", .0.findings.len())]
    Unread(Against),
    /// There is nothing to apply.
    #[error("the plan changes nothing")]
    Nothing,
    /// What was read back is not what was predicted. This is a fault of the program or of the
    /// database, never of the plan.
    #[error("what was read back is not what was predicted, so nothing was kept: {}", .0.join("; "))]
    NotProved(Vec<String>),
    /// The store failed.
    #[error(transparent)]
    Store(#[from] StoreError),
}

/// What a plan is not applied for, with the books and the rehearsal in which it was found.
#[derive(Clone, Debug)]
pub struct Against {
    /// What was found.
    pub findings: Vec<Finding>,
    /// How whoever wanted to apply it likes dates and numbers written.
    pub forms: Forms,
    snapshot: Arc<Snapshot>,
    rehearsal: Arc<Rehearsal>,
}

impl Against {
    /// The books.
    pub fn today(&self) -> &Today {
        &self.snapshot.today
    }

    /// What accounts are called on both sides.
    pub fn names(&self) -> Charts<'_> {
        Charts { today: &self.snapshot.today.chart, after: &self.rehearsal.after }
    }
}

impl From<sqlx::Error> for NotApplied {
    fn from(error: sqlx::Error) -> Self {
        Self::Store(error.into())
    }
}

/// What a person saw and agreed to.
#[derive(Clone, Debug, Default)]
pub struct Agreement {
    /// The fingerprint of the rehearsal.
    pub fingerprint: String,
    /// The revision of the plan that was seen; an undo has none.
    pub revision: Option<i64>,
    /// The keys of the cautions that were acknowledged.
    pub acknowledged: BTreeSet<String>,
    /// The books as they were seen. They are not read again when they still have that revision, which
    /// everybody who writes to them raises.
    pub books: Option<Arc<Snapshot>>,
}

/// An application in a list.
#[derive(Clone, Debug)]
pub struct AppliedName {
    /// Identity.
    pub id: i64,
    /// What it is called.
    pub name: String,
    /// When.
    pub applied_at: OffsetDateTime,
}

/// An application as shown.
#[derive(Clone, Debug)]
pub struct AppliedPlan {
    /// Identity.
    pub id: i64,
    /// What it is called.
    pub name: String,
    /// The application that it undid, if it is an undo.
    pub undo_of: Option<i64>,
    /// The undo that took it back, if any.
    pub undone_by: Option<i64>,
    /// Who applied it.
    pub person: String,
    /// When.
    pub applied_at: OffsetDateTime,
    /// What was proved then.
    pub proof: Proof,
}

impl Store {
    /// Applies a draft, if it still does what the person saw and nothing blocks it.
    ///
    /// # Errors
    /// [`NotApplied`]; nothing is written then.
    #[boxed]
    pub async fn apply(
        &self,
        member: Member,
        plan_id: PlanId,
        agreed: &Agreement,
    ) -> Result<ApplicationId, NotApplied> {
        let mut tx = self.write_applying(member, plan_id).await?;
        let (DraftPlan { name, revision: staged }, mut plan) =
            plans::read(&mut tx, member.books(), plan_id).await?;
        if agreed.revision.is_some_and(|seen| seen != staged) {
            return Err(NotApplied::Changed);
        }
        let snapshot = books_now(&mut tx, member.books(), agreed).await?;
        let mut taken = Taken::new();
        plan.cuts = history::allocate(&mut tx, member.books(), &plan, |strand, part, line| {
            taken.entry((strand, part)).or_default().push(line);
        })
        .await?;
        let rehearsal = Arc::new(rehearse(&snapshot.today, &plan));
        let of = Origin { name: name.clone(), plan: Some(plan_id), undo_of: None, taken };
        let id = carry_out(&mut tx, member, &snapshot, &rehearsal, agreed, of).await?;
        plans::end(&mut tx, member, plan_id, PlanStatus::Applied).await?;
        let stops = overridden(&snapshot.today, &rehearsal);
        plans::note_overrides(&mut tx, member.books(), plan_id, &stops, id.0).await?;
        let event = Event::Applied { plan: name, accounts: rehearsal.effects.rows.len() as u64 };
        trail::note(&mut tx, member.books(), member.person(), &event, Some(id)).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Rehearses the undo of an application.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none, [`StoreError::Refused`] when it was undone or
    /// is itself an undo.
    #[boxed]
    pub async fn rehearse_undo(
        &self,
        member: Member,
        application: i64,
    ) -> Result<(Snapshot, Rehearsal), StoreError> {
        let mut tx = self.at_one_instant().await?;
        let mut snapshot = today::read(&mut tx, member.books()).await?;
        plans::note_open(&mut tx, member.books(), &mut snapshot.today.usage).await?;
        let (to_undo, later) = read_for_undo(&mut tx, member.books(), application).await?;
        let rehearsal = rehearse_undo(&snapshot.today, &to_undo, &later);
        Ok((snapshot, rehearsal))
    }

    /// Undoes an application, proved like any other plan.
    ///
    /// # Errors
    /// [`NotApplied`]; nothing is written then.
    #[boxed]
    pub async fn undo(
        &self,
        member: Member,
        application: i64,
        agreed: &Agreement,
    ) -> Result<ApplicationId, NotApplied> {
        let mut tx = self.write_alone(member).await?;
        let mut snapshot = books_now(&mut tx, member.books(), agreed).await?;
        let usage = &mut Arc::make_mut(&mut snapshot).today.usage;
        plans::note_open(&mut tx, member.books(), usage).await?;
        let (to_undo, later) = read_for_undo(&mut tx, member.books(), application).await?;
        let rehearsal = Arc::new(rehearse_undo(&snapshot.today, &to_undo, &later));
        let name = format!("Undo of “{}”", to_undo.name);
        let taken = Taken::new();
        let of = Origin { name: name.clone(), plan: None, undo_of: Some(application), taken };
        let id = carry_out(&mut tx, member, &snapshot, &rehearsal, agreed, of).await?;
        sqlx::query!(
            "UPDATE application SET undone_by = $3 WHERE books_id = $1 AND id = $2",
            member.books().0,
            application,
            id.0
        )
        .execute(&mut tx)
        .await?;
        let accounts = rehearsal.effects.rows.len() as u64;
        let event = Event::Undid { plan: to_undo.name, accounts };
        trail::note(&mut tx, member.books(), member.person(), &event, Some(id)).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// An application with its proof.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    #[boxed]
    pub async fn application(&self, member: Member, id: i64) -> Result<AppliedPlan, StoreError> {
        let row = sqlx::query!(
            r#"SELECT a.id, a.name, a.undo_of, a.undone_by, p.name AS person, a.applied_at,
                      a.proof AS "proof: Json<Proof>"
               FROM application a JOIN person p ON p.id = a.person_id
               WHERE a.books_id = $1 AND a.id = $2"#,
            member.books().0,
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("applied plan"))?;
        Ok(AppliedPlan {
            id: row.id,
            name: row.name,
            undo_of: row.undo_of,
            undone_by: row.undone_by,
            person: row.person,
            applied_at: row.applied_at,
            proof: row.proof.0,
        })
    }

    /// The plans that were applied, the latest first; undos are left out.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn applications(&self, member: Member) -> Result<Vec<AppliedName>, StoreError> {
        let applied = sqlx::query_as!(
            AppliedName,
            "SELECT id, name, applied_at FROM application
             WHERE books_id = $1 AND undo_of IS NULL ORDER BY id DESC",
            member.books().0
        );
        Ok(applied.fetch_all(&self.pool).await?)
    }
}

/// The books as they stand: as they were seen, when nobody wrote to them since.
async fn books_now(
    tx: &mut Writing,
    books: BooksId,
    agreed: &Agreement,
) -> Result<Arc<Snapshot>, StoreError> {
    match &agreed.books {
        Some(seen) if seen.books.revision == revision(tx, books).await? => Ok(Arc::clone(seen)),
        _ => Ok(Arc::new(today::read(tx, books).await?)),
    }
}

/// The stops that a reviewer overrode, as the trail names them: by the codes and names After.
fn overridden(today: &Today, rehearsal: &Rehearsal) -> Vec<OverriddenStop> {
    let names = Charts { today: &today.chart, after: &rehearsal.after };
    let named = |id: &AccountId| names.after(*id).or_else(|| names.today(*id));
    let stops = rehearsal.findings.iter().filter(|finding| finding.overridden.is_some());
    let stop = |finding: &Finding| OverriddenStop {
        key: finding.key.clone(),
        rule: finding.rule(),
        accounts: finding.accounts.iter().filter_map(named).map(ArchivedName::of).collect(),
    };
    stops.map(stop).collect()
}

/// Where an application comes from.
struct Origin {
    name: String,
    plan: Option<PlanId>,
    undo_of: Option<i64>,
    /// The lines of the parts to be carved.
    taken: Taken,
}

async fn carry_out(
    tx: &mut Writing,
    member: Member,
    snapshot: &Arc<Snapshot>,
    rehearsal: &Arc<Rehearsal>,
    agreed: &Agreement,
    of: Origin,
) -> Result<ApplicationId, NotApplied> {
    judge(member, snapshot, rehearsal, agreed)?;
    let books = member.books();
    // What is archived is worked out while the database writes.
    let (seen, planned) = (Arc::clone(snapshot), Arc::clone(rehearsal));
    let proof = spawn_blocking(move || {
        let charts = Charts { today: &seen.today.chart, after: &planned.after };
        ArchivedProof::of(ProofFacts {
            report: Report::of(&seen.today, &planned),
            findings: planned.findings.clone(),
            trials: TrialBalances::of(&planned),
            names: ArchivedNames::of(charts),
        })
    });
    let before = journal_writes(tx).await?;
    write(tx, books, &rehearsal.effects).await?;
    let mut effects = rehearsal.effects.clone();
    let carved = history::carve(tx, books, &mut effects, &of.taken).await?;
    let mut misses = read_back(tx, snapshot, rehearsal).await?;
    misses.extend(history::misses(tx, books, &effects).await?);
    misses.extend(usage::misses(tx, books, &effects.rewritings).await?);
    if journal_writes(tx).await? != before.with(carved) {
        misses.push("more of the journal was written to than was to move".to_owned());
    }
    if !misses.is_empty() {
        return Err(NotApplied::NotProved(misses));
    }
    let id = take_one(tx, Counter::Application).await?;
    sqlx::query!(
        "INSERT INTO application (books_id, id, name, plan_id, undo_of, person_id, effects, proof)
         VALUES ($1, $2, $3, $4, $5, $6, $7, $8)",
        books.0,
        id,
        of.name,
        of.plan.map(|id| id.0),
        of.undo_of,
        member.person().0,
        Json(ArchivedEffects::from(&effects)) as _,
        Json(proof.await.map_err(StoreError::damaged)?) as _
    )
    .execute(&mut *tx)
    .await?;
    jobs::queue_recount(tx, member, id).await?;
    raise_revision(tx, books).await?;
    Ok(ApplicationId(id))
}

fn judge(
    member: Member,
    snapshot: &Arc<Snapshot>,
    rehearsal: &Arc<Rehearsal>,
    agreed: &Agreement,
) -> Result<(), NotApplied> {
    let against = |findings| Against {
        findings,
        forms: member.forms(),
        snapshot: Arc::clone(snapshot),
        rehearsal: Arc::clone(rehearsal),
    };
    let stops: Vec<_> = rehearsal.stops().cloned().collect();
    if !stops.is_empty() {
        return Err(NotApplied::Stopped(against(stops)));
    }
    if rehearsal.effects.is_empty() {
        return Err(NotApplied::Nothing);
    }
    if rehearsal.fingerprint() != agreed.fingerprint {
        return Err(NotApplied::Changed);
    }
    let unread = rehearsal.cautions().filter(|c| !agreed.acknowledged.contains(&c.key));
    let unread: Vec<_> = unread.cloned().collect();
    if unread.is_empty() { Ok(()) } else { Err(NotApplied::Unread(against(unread))) }
}

async fn write(tx: &mut Writing, books: BooksId, effects: &Effects) -> Result<(), StoreError> {
    let written: Vec<&Account> =
        effects.rows.iter().filter_map(|row| row.after.as_deref()).collect();
    let mut closing: BTreeSet<AccountId> = effects.closing().collect();
    rows::write(tx, books, &written, &closing).await?;
    for account in &written {
        closing.remove(&account.id);
    }
    sqlx::query!(
        "UPDATE strand s SET account_id = m.account FROM unnest($2::bigint[], $3::bigint[]) AS m (strand, account)
         WHERE s.books_id = $1 AND s.id = m.strand",
        books.0,
        &effects.moves.keys().map(|strand| strand.0).collect::<Vec<_>>(),
        &effects.moves.values().map(|m| m.to.0).collect::<Vec<_>>(),
    )
    .execute(&mut *tx)
    .await?;
    // Accounts that only take history over, or give it away, are not written anew.
    sqlx::query!(
        "UPDATE account SET open_strand = NULL WHERE books_id = $1 AND id = ANY($2)",
        books.0,
        &closing.into_iter().map(|id| id.0).collect::<Vec<_>>()
    )
    .execute(&mut *tx)
    .await?;
    usage::rewrite(tx, books, &effects.rewritings).await?;
    note_code_uses(tx, books, effects).await?;
    let gone = effects.rows.iter().filter(|row| row.after.is_none());
    let gone: Vec<i64> = gone.filter_map(|row| row.account()).map(|id| id.0).collect();
    strands::drop_empty_of(tx, books, &gone).await?;
    sqlx::query!("DELETE FROM account WHERE books_id = $1 AND id = ANY($2)", books.0, &gone)
        .execute(&mut *tx)
        .await?;
    Ok(())
}

/// Ends the use of codes that are given up, and begins that of new ones.
async fn note_code_uses(
    tx: &mut Writing,
    books: BooksId,
    effects: &Effects,
) -> Result<(), StoreError> {
    let bears = |account: &Option<Arc<Account>>| {
        account
            .as_ref()
            .filter(|a| a.status != Status::Merged)
            .map(|a| (a.code.clone(), a.name.clone()))
    };
    let changed = || effects.rows.iter().filter(|row| bears(&row.before) != bears(&row.after));
    let ended: Vec<i64> = changed().filter_map(|row| row.before.as_ref()).map(|a| a.id.0).collect();
    rows::end_code_use(tx, books, &ended).await?;
    let begun: Vec<&Account> =
        changed().filter_map(|row| row.after.as_deref()).filter(|a| a.is_live()).collect();
    rows::begin_code_use(tx, books, &begun, true).await?;
    Ok(())
}

/// The applications after a moment that still stand. An undo and what it took back cancel out, unless
/// what it took back is older.
pub(crate) async fn applications_since(
    connection: &mut PgConnection,
    books: BooksId,
    moment: OffsetDateTime,
) -> Result<Vec<Application>, StoreError> {
    let rows = sqlx::query!(
        r#"SELECT a.id, a.name, a.effects AS "effects: Json<ArchivedEffects>" FROM application a
           LEFT JOIN application o ON o.books_id = a.books_id AND o.id = a.undo_of
           WHERE a.books_id = $1 AND a.applied_at > $2 AND a.undone_by IS NULL
             AND (o.applied_at IS NULL OR o.applied_at <= $2)
           ORDER BY a.id"#,
        books.0,
        moment
    )
    .fetch_all(&mut *connection)
    .await?;
    let lines = structure::read(connection, books).await?;
    rows.into_iter()
        .map(|row| {
            let effects = row.effects.0.effects(&lines)?;
            Ok(Application { id: ApplicationId(row.id), name: row.name, effects })
        })
        .collect()
}

/// The application to undo, and those since then that still stand.
async fn read_for_undo(
    tx: &mut PgConnection,
    books: BooksId,
    id: i64,
) -> Result<(Application, Vec<Application>), StoreError> {
    // An undo and what it took back cancel out, unless what it took back is older than `id`.
    let rows = sqlx::query!(
        r#"SELECT id, name, undo_of, undone_by, effects AS "effects: Json<ArchivedEffects>" FROM application
           WHERE books_id = $1 AND id >= $2 AND (id = $2 OR (undone_by IS NULL AND COALESCE(undo_of, 0) <= $2))
           ORDER BY id"#,
        books.0,
        id
    )
    .fetch_all(&mut *tx)
    .await?;
    let lines = structure::read(tx, books).await?;
    let mut applications = Vec::with_capacity(rows.len());
    for row in rows {
        if row.id == id && row.undone_by.is_some() {
            return Err(StoreError::refused("the plan was undone already"));
        }
        if row.id == id && row.undo_of.is_some() {
            let again = "an undo is not undone; stage the changes again in a new plan";
            return Err(StoreError::refused(again));
        }
        let effects = row.effects.0.effects(&lines)?;
        applications.push(Application { id: ApplicationId(row.id), name: row.name, effects });
    }
    if applications.first().is_none_or(|first| first.id.0 != id) {
        return Err(StoreError::NotFound("applied plan"));
    }
    let later = applications.split_off(1);
    let first = applications.pop().ok_or(StoreError::NotFound("applied plan"))?;
    Ok((first, later))
}
