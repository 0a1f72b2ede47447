//! Apply and undo: one transaction that locks the books, rehearses anew, writes, reads back, and
//! rolls back when anything read is not what was predicted.

use crate::books::{raise_revision, revision};
use crate::chart_rows::{self, AccountRow};
use crate::history::{self, Taken, Written};
use crate::ids::{Counter, take_one};
use crate::people::Member;
use crate::plans::Draft;
use crate::today::Snapshot;
use crate::{
    Store, StoreError, ledger, pause, plans, recount, strand_rows, structure_rows, today, trail,
    usage_rows,
};
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use sqlx::types::Json;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use time::OffsetDateTime;
use zf_core::activity::Shares;
use zf_core::chart::{Account, Status};
use zf_core::code::Interval;
use zf_core::ids::{AccountId, ApplicationId, BooksId, ReportLineId, StrandId};
use zf_core::plan::PlanStatus;
use zf_core::rehearsal::effects::{Carve, Carving, Effects, Rewriting, RowChange, StrandMove};
use zf_core::rehearsal::proof::{Miss, compare_charts, compare_ledgers, ledger_after};
use zf_core::rehearsal::report::{FindingView, Report, TrialBalances};
use zf_core::rehearsal::undo::{Application, rehearse_undo};
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::statement::Structure;
use zf_core::text::counted;

/// Why a plan was not applied. Nothing was written.
#[derive(Debug, thiserror::Error)]
pub enum NotApplied {
    /// Something stands against it.
    #[error("{} stops stand against it", .0.len())]
    Stopped(Vec<FindingView>),
    /// It would no longer do what the person saw.
    #[error("the books or the plan changed since it was rehearsed")]
    Changed,
    /// There are cautions that nobody acknowledged.
    #[error("{} cautions were not acknowledged", .0.len())]
    Unread(Vec<FindingView>),
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
    pub report: Report,
    /// The trial balance before and after.
    pub trials: TrialBalances,
}

/// What is kept as the proof of an application.
#[derive(Debug, Serialize, Deserialize)]
struct StoredProof {
    #[serde(flatten)]
    report: Report,
    #[serde(flatten)]
    trials: TrialBalances,
}

impl Store {
    /// Applies a draft, if it still does what the person saw and nothing stands against it.
    ///
    /// # Errors
    /// [`NotApplied`]; nothing is written then.
    pub async fn apply(
        &self,
        member: Member,
        plan_id: i64,
        agreed: &Agreement,
    ) -> Result<ApplicationId, NotApplied> {
        let mut tx = self.write_applying(member, plan_id).await?;
        pause::point().await;
        let (Draft { name, revision: staged }, mut plan) =
            plans::read(&mut tx, member.books(), plan_id).await?;
        if agreed.revision.is_some_and(|seen| seen != staged) {
            return Err(NotApplied::Changed);
        }
        let snapshot = match &agreed.books {
            Some(seen) if seen.books.revision == revision(&mut tx, member.books()).await? => {
                Arc::clone(seen)
            }
            _ => Arc::new(today::read(&mut tx, member.books()).await?),
        };
        let mut taken = Taken::new();
        plan.cuts = history::allocate(&mut tx, member.books(), &plan, |strand, part, line| {
            taken.entry((strand, part)).or_default().push(line);
        })
        .await?;
        let rehearsal = rehearse(&snapshot.today, &plan);
        pause::point().await;
        let of = Origin { name: name.clone(), plan: Some(plan_id), undo_of: None, taken };
        let id = carry_out(&mut tx, member, &snapshot, &rehearsal, agreed, of).await?;
        plans::end(&mut tx, member, plan_id, PlanStatus::Applied).await?;
        let stops = rehearsal.findings.iter().filter(|finding| finding.overridden.is_some());
        let stops: Vec<_> = stops.map(|f| (f.key.as_str(), f.sentence.as_str())).collect();
        plans::note_overrides(&mut tx, member.books(), plan_id, &stops, id.0).await?;
        pause::point().await;
        let detail = format!("“{name}”, {}", counted(rehearsal.effects.rows.len(), "account"));
        trail::note(&mut tx, member.books(), member.person(), "applied", &detail, Some(id.0))
            .await?;
        pause::point().await;
        tx.commit().await?;
        Ok(id)
    }

    /// Rehearses the undo of an application.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none, [`StoreError::Refused`] when it was undone or
    /// is itself an undo.
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
    pub async fn undo(
        &self,
        member: Member,
        application: i64,
        agreed: &Agreement,
    ) -> Result<ApplicationId, NotApplied> {
        let mut tx = self.write_alone(member).await?;
        pause::point().await;
        let mut snapshot = today::read(&mut tx, member.books()).await?;
        plans::note_open(&mut tx, member.books(), &mut snapshot.today.usage).await?;
        let (to_undo, later) = read_for_undo(&mut tx, member.books(), application).await?;
        let rehearsal = rehearse_undo(&snapshot.today, &to_undo, &later);
        pause::point().await;
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
        .execute(&mut *tx)
        .await?;
        pause::point().await;
        let detail =
            format!("“{}”, {}", to_undo.name, counted(rehearsal.effects.rows.len(), "account"));
        trail::note(&mut tx, member.books(), member.person(), "undid", &detail, Some(id.0)).await?;
        pause::point().await;
        tx.commit().await?;
        Ok(id)
    }

    /// An application with its proof.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub async fn application(&self, member: Member, id: i64) -> Result<AppliedPlan, StoreError> {
        let row = sqlx::query!(
            r#"SELECT a.id, a.name, a.undo_of, a.undone_by, p.name AS person, a.applied_at,
                      a.proof AS "proof: Json<StoredProof>"
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
            report: row.proof.0.report,
            trials: row.proof.0.trials,
        })
    }

    /// The plans that were applied, the latest first; undos are left out.
    ///
    /// # Errors
    /// When the database fails.
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

/// Where an application comes from.
struct Origin {
    name: String,
    plan: Option<i64>,
    undo_of: Option<i64>,
    /// The lines of the parts to be carved.
    taken: Taken,
}

async fn carry_out(
    tx: &mut PgConnection,
    member: Member,
    snapshot: &Snapshot,
    rehearsal: &Rehearsal,
    agreed: &Agreement,
    of: Origin,
) -> Result<ApplicationId, NotApplied> {
    judge(rehearsal, agreed)?;
    let books = member.books();
    let before = journal_writes(tx).await?;
    write(tx, books, &rehearsal.effects).await?;
    let mut effects = rehearsal.effects.clone();
    let carved = history::carve(tx, books, &mut effects, &of.taken).await?;
    let mut misses = read_back(tx, snapshot, rehearsal).await?;
    misses.extend(history::misses(tx, books, &effects).await?);
    misses.extend(usage_rows::misses(tx, books, &effects.rewritings).await?);
    if journal_writes(tx).await? != before.with(carved) {
        misses.push("more of the journal was written to than was to move".to_owned());
    }
    if !misses.is_empty() {
        return Err(NotApplied::NotProved(misses));
    }
    pause::point().await;
    let id = take_one(tx, Counter::Application).await?;
    let proof = StoredProof {
        report: Report::of(&snapshot.today, rehearsal),
        trials: TrialBalances::of(&snapshot.today, rehearsal),
    };
    sqlx::query!(
        "INSERT INTO application (books_id, id, name, plan_id, undo_of, person_id, effects, proof)
         VALUES ($1, $2, $3, $4, $5, $6, $7, $8)",
        books.0,
        id,
        of.name,
        of.plan,
        of.undo_of,
        member.person(),
        Json(StoredEffects::from(&effects)) as _,
        Json(proof) as _
    )
    .execute(&mut *tx)
    .await?;
    pause::point().await;
    recount::queue(tx, books, id).await?;
    pause::point().await;
    raise_revision(tx, books).await?;
    pause::point().await;
    Ok(ApplicationId(id))
}

fn judge(rehearsal: &Rehearsal, agreed: &Agreement) -> Result<(), NotApplied> {
    let stops: Vec<_> = rehearsal.stops().map(FindingView::of).collect();
    if !stops.is_empty() {
        return Err(NotApplied::Stopped(stops));
    }
    if rehearsal.effects.is_empty() {
        return Err(NotApplied::Nothing);
    }
    if rehearsal.fingerprint() != agreed.fingerprint {
        return Err(NotApplied::Changed);
    }
    let unread = rehearsal.cautions().filter(|c| !agreed.acknowledged.contains(&c.key));
    let unread: Vec<_> = unread.map(FindingView::of).collect();
    if unread.is_empty() { Ok(()) } else { Err(NotApplied::Unread(unread)) }
}

async fn write(tx: &mut PgConnection, books: BooksId, effects: &Effects) -> Result<(), StoreError> {
    let written: Vec<&Account> =
        effects.rows.iter().filter_map(|row| row.after.as_deref()).collect();
    chart_rows::write(tx, books, &written).await?;
    pause::point().await;
    sqlx::query!(
        "UPDATE strand s SET account_id = m.account FROM unnest($2::bigint[], $3::bigint[]) AS m (strand, account)
         WHERE s.books_id = $1 AND s.id = m.strand",
        books.0,
        &effects.moves.keys().map(|strand| strand.0).collect::<Vec<_>>(),
        &effects.moves.values().map(|m| m.to.0).collect::<Vec<_>>(),
    )
    .execute(&mut *tx)
    .await?;
    pause::point().await;
    let closing: BTreeSet<i64> = effects.closing().map(|id| id.0).collect();
    sqlx::query!(
        "UPDATE account SET open_strand = NULL WHERE books_id = $1 AND id = ANY($2)",
        books.0,
        &closing.into_iter().collect::<Vec<_>>()
    )
    .execute(&mut *tx)
    .await?;
    pause::point().await;
    usage_rows::rewrite(tx, books, &effects.rewritings).await?;
    pause::point().await;
    note_code_uses(tx, books, effects).await?;
    let gone = effects.rows.iter().filter(|row| row.after.is_none());
    let gone: Vec<i64> = gone.filter_map(|row| row.account()).map(|id| id.0).collect();
    strand_rows::drop_empty_of(tx, books, &gone).await?;
    sqlx::query!("DELETE FROM account WHERE books_id = $1 AND id = ANY($2)", books.0, &gone)
        .execute(&mut *tx)
        .await?;
    pause::point().await;
    Ok(())
}

/// Ends the use of codes that are given up, and begins that of new ones.
async fn note_code_uses(
    tx: &mut PgConnection,
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
    chart_rows::end_code_use(tx, books, &ended).await?;
    pause::point().await;
    let begun: Vec<&Account> =
        changed().filter_map(|row| row.after.as_deref()).filter(|a| a.is_live()).collect();
    chart_rows::begin_code_use(tx, books, &begun, true).await?;
    pause::point().await;
    Ok(())
}

/// How many rows of the journal this session has written, by PostgreSQL's own count.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
struct JournalWrites {
    /// Lines whose strand changed.
    lines: i64,
    /// Rows of totals, in whatever way.
    totals: i64,
    /// Anything else of entries, lines and marks.
    others: i64,
}

impl JournalWrites {
    /// What there may be once carving has written so much.
    fn with(self, written: Written) -> Self {
        let Written { lines, totals } = written;
        Self { lines: self.lines + lines, totals: self.totals + totals, others: self.others }
    }
}

async fn journal_writes(tx: &mut PgConnection) -> Result<JournalWrites, StoreError> {
    let writes = sqlx::query_as!(
        JournalWrites,
        r#"SELECT COALESCE(sum(n_tup_upd) FILTER (WHERE relname = 'line'), 0)::bigint AS "lines!",
                  COALESCE(sum(n_tup_ins + n_tup_upd + n_tup_del)
                           FILTER (WHERE relname = 'strand_total'), 0)::bigint AS "totals!",
                  COALESCE(sum(n_tup_ins + n_tup_del + CASE WHEN relname = 'line' THEN 0 ELSE n_tup_upd END)
                           FILTER (WHERE relname <> 'strand_total'), 0)::bigint AS "others!"
           FROM pg_stat_xact_user_tables
           WHERE schemaname = current_schema() AND relname IN ('entry', 'line', 'line_cleared', 'strand_total')"#
    );
    Ok(writes.fetch_one(tx).await?)
}

/// Compares everything that was predicted with what the database now says.
async fn read_back(
    tx: &mut PgConnection,
    snapshot: &Snapshot,
    rehearsal: &Rehearsal,
) -> Result<Vec<String>, StoreError> {
    let books = snapshot.books.id;
    let chart = chart_rows::read(tx, books).await?;
    let mut misses = compare_charts(&rehearsal.after, &chart);
    let activity = ledger::read_activity(tx, books).await?;
    let predicted = ledger_after(&snapshot.today.activity, &rehearsal.effects);
    misses.extend(compare_ledgers(&predicted, &ledger_after(&activity, &Effects::default())));
    let in_words = |miss: Miss| {
        let account = chart.get(miss.account).or_else(|| snapshot.today.chart.get(miss.account));
        format!(
            "{}: {}",
            account.map_or_else(|| miss.account.to_string(), Account::label),
            miss.what
        )
    };
    let mut misses: Vec<String> = misses.into_iter().map(in_words).collect();
    if activity.by_slot() != snapshot.today.activity.by_slot() {
        misses.push(
            "all lines together do not add up to what they did, by period and currency".to_owned(),
        );
    }
    if rehearsal.proof.after.total() != 0 || rehearsal.proof.difference != 0 {
        misses.push("the trial balance After is not zero".to_owned());
    }
    Ok(misses)
}

#[derive(Debug, Serialize, Deserialize)]
struct StoredEffects {
    rows: Vec<(Option<AccountRow>, Option<AccountRow>)>,
    moves: Vec<(i64, i64, i64)>,
    /// Missing from applications that were kept before strands were carved.
    #[serde(default)]
    carves: Vec<StoredCarve>,
    /// Missing from applications that were kept before lines of reports followed.
    #[serde(default)]
    rewritings: Vec<StoredRewriting>,
}

/// A line of a report with what it added up and adds up since.
#[derive(Debug, Serialize, Deserialize)]
struct StoredRewriting {
    line: i64,
    name: String,
    from: Vec<Interval>,
    to: Vec<Interval>,
}

/// A carved part, as far as undo needs it.
#[derive(Debug, Serialize, Deserialize)]
struct StoredCarve {
    strand: i64,
    from: i64,
    to: i64,
    part: usize,
    carved: Option<i64>,
}

impl From<&Effects> for StoredEffects {
    fn from(effects: &Effects) -> Self {
        let row = |account: &Option<Arc<Account>>| account.as_deref().map(AccountRow::from);
        let carves = effects.carvings.iter().flat_map(|(strand, carving)| {
            carving.parts.iter().map(|part| StoredCarve {
                strand: strand.0,
                from: part.from.0,
                to: part.to.0,
                part: part.part,
                carved: part.carved.map(|strand| strand.0),
            })
        });
        let rewritings = effects.rewritings.iter().map(|rewriting| StoredRewriting {
            line: rewriting.line.0,
            name: rewriting.name.clone(),
            from: rewriting.from.clone(),
            to: rewriting.to.clone(),
        });
        Self {
            rows: effects.rows.iter().map(|r| (row(&r.before), row(&r.after))).collect(),
            moves: effects.moves.values().map(|m| (m.strand.0, m.from.0, m.to.0)).collect(),
            carves: carves.collect(),
            rewritings: rewritings.collect(),
        }
    }
}

impl StoredEffects {
    /// The effects, in books whose statements have these lines.
    fn effects(self, lines: &Structure) -> Result<Effects, StoreError> {
        let stored = self;
        let account =
            |row: Option<AccountRow>| row.map(|row| row.account(lines).map(Arc::new)).transpose();
        let rows = stored.rows.into_iter().map(|(before, after)| {
            Ok(RowChange { before: account(before)?, after: account(after)? })
        });
        let moves = stored.moves.into_iter().map(|(strand, from, to)| {
            let strand = StrandId(strand);
            (strand, StrandMove { strand, from: AccountId(from), to: AccountId(to) })
        });
        let mut carvings: BTreeMap<StrandId, Carving> = BTreeMap::new();
        for StoredCarve { strand, from, to, part, carved } in stored.carves {
            // What the lines add up to was proved then, and is not asked again.
            carvings.entry(StrandId(strand)).or_default().parts.push(Carve {
                from: AccountId(from),
                to: AccountId(to),
                part,
                shares: Shares::new(),
                carved: carved.map(StrandId),
            });
        }
        let rewritings =
            stored.rewritings.into_iter().map(|StoredRewriting { line, name, from, to }| {
                Rewriting { line: ReportLineId(line), name, from, to }
            });
        let rewritings = rewritings.collect();
        let rows = rows.collect::<Result<_, StoreError>>()?;
        Ok(Effects { rows, moves: moves.collect(), carvings, rewritings })
    }
}

/// The applications after a moment that still stand. An undo and what it took back cancel out, unless
/// what it took back is older.
pub(crate) async fn applications_since(
    connection: &mut PgConnection,
    books: BooksId,
    moment: OffsetDateTime,
) -> Result<Vec<Application>, StoreError> {
    let rows = sqlx::query!(
        r#"SELECT a.id, a.name, a.effects AS "effects: Json<StoredEffects>" FROM application a
           LEFT JOIN application o ON o.books_id = a.books_id AND o.id = a.undo_of
           WHERE a.books_id = $1 AND a.applied_at > $2 AND a.undone_by IS NULL
             AND (o.applied_at IS NULL OR o.applied_at <= $2)
           ORDER BY a.id"#,
        books.0,
        moment
    )
    .fetch_all(&mut *connection)
    .await?;
    let lines = structure_rows::read(connection, books).await?;
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
        r#"SELECT id, name, undo_of, undone_by, effects AS "effects: Json<StoredEffects>" FROM application
           WHERE books_id = $1 AND id >= $2 AND (id = $2 OR (undone_by IS NULL AND COALESCE(undo_of, 0) <= $2))
           ORDER BY id"#,
        books.0,
        id
    )
    .fetch_all(&mut *tx)
    .await?;
    let lines = structure_rows::read(tx, books).await?;
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
