//! Plans and what is staged in them. Each staged field is a row of its own, so that two people can
//! work in one plan and never overwrite each other unseen.

pub mod applying;
pub mod archive;
pub mod history;
mod read_back;

use crate::boxed;
use crate::error::EndedPlan;
use crate::ids::{Counter, take_one};
use crate::member::Member;
use crate::writing::Writing;
use crate::{Store, StoreError, trail};
use sqlx::PgConnection;
use sqlx::types::Json;
use std::collections::{HashMap, HashSet};
use time::OffsetDateTime;
use zf_core::chart::Chart;
use zf_core::ids::{AccountId, ApplicationId, BooksId, PersonId, PlanId};
use zf_core::names::ArchivedName;
use zf_core::plan::edit::{self, Done, Edit, NotEdited};
use zf_core::plan::steps::{Step, Steps, Way};
use zf_core::plan::{Change, Fate, Field, Override, Plan, PlanStatus};
use zf_core::rehearsal::rule::Rule;
use zf_core::trail::Event;
use zf_core::usage::Usage;

/// A plan in a list.
#[derive(Clone, Debug)]
pub struct PlanSummary {
    /// Identity.
    pub id: PlanId,
    /// Its name.
    pub name: String,
    /// How it stands.
    pub status: PlanStatus,
    /// Who began it.
    pub person: String,
    /// When.
    pub created_at: OffsetDateTime,
    /// How many accounts it touches.
    pub accounts: i64,
    /// Of one that was applied, its application and when.
    pub applied: Option<(i64, OffsetDateTime)>,
    /// Whether it was undone since.
    pub undone: bool,
}

/// A conflict, with who was first.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Conflict {
    /// In what.
    pub about: edit::Conflict,
    /// Who staged what is there now; `None` when it was taken back.
    pub by: Option<String>,
}

/// A plan that was neither applied nor discarded.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct DraftPlan {
    /// Its name.
    pub name: String,
    /// Counts every change of what is staged.
    pub revision: i64,
}

/// What became of edits.
#[must_use = "conflicts mean that nothing was staged"]
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Edited {
    /// All were staged, which raised the plan to this revision.
    Done(Vec<Done>, i64),
    /// None was, since somebody else was first in these fields.
    Conflicts(Vec<Conflict>),
}

/// What an undo or a redo did.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Stepped {
    /// What became of each field.
    pub done: Vec<Done>,
    /// The revision of the plan since.
    pub revision: i64,
    /// How many fields somebody changed since, which stay as they are.
    pub stay: usize,
}

impl Store {
    /// Begins a plan.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn create_plan(&self, member: Member, name: &str) -> Result<PlanId, StoreError> {
        let mut tx = self.write().await?;
        let id = take_one(&mut tx, Counter::Plan).await?;
        sqlx::query!(
            "INSERT INTO plan (books_id, id, name, person_id) VALUES ($1, $2, $3, $4)",
            member.books().0,
            id,
            name,
            member.person().0
        )
        .execute(&mut tx)
        .await?;
        tx.commit().await?;
        Ok(PlanId(id))
    }

    /// The plans of the books that were not discarded, latest first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn plans(&self, member: Member) -> Result<Vec<PlanSummary>, StoreError> {
        let plans = sqlx::query!(
            r#"SELECT p.id, p.name, p.status, o.name AS person, p.created_at,
                      (SELECT count(DISTINCT c.account_id) FROM plan_change c
                       WHERE c.books_id = p.books_id AND c.plan_id = p.id) AS "accounts!",
                      a.id AS "application?", a.applied_at AS "applied_at?", a.undone_by
               FROM plan p JOIN person o ON o.id = p.person_id
               LEFT JOIN application a ON a.books_id = p.books_id AND a.plan_id = p.id
               WHERE p.books_id = $1 AND p.status <> 'discarded' ORDER BY p.id DESC"#,
            member.books().0
        );
        let plans = plans.fetch_all(&self.pool).await?.into_iter().map(|row| {
            Ok(PlanSummary {
                id: PlanId(row.id),
                name: row.name,
                status: status(&row.status)?,
                person: row.person,
                created_at: row.created_at,
                accounts: row.accounts,
                applied: row.application.zip(row.applied_at),
                undone: row.undone_by.is_some(),
            })
        });
        plans.collect()
    }

    /// The accounts that drafts would add.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn added_accounts(&self, member: Member) -> Result<HashSet<AccountId>, StoreError> {
        let added = sqlx::query_scalar!(
            "SELECT c.account_id FROM plan_change c JOIN plan p ON p.books_id = c.books_id AND p.id = c.plan_id
             WHERE c.books_id = $1 AND p.status = 'draft' AND c.field = $2 AND c.change = $3",
            member.books().0,
            Field::Fate.key(),
            Json(Change::Fate(Fate::Add)) as _
        );
        Ok(added.fetch_all(&self.pool).await?.into_iter().map(AccountId).collect())
    }

    /// Gives a draft another name.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan.
    #[boxed]
    pub async fn rename_plan(
        &self,
        member: Member,
        plan: PlanId,
        name: &str,
    ) -> Result<(), StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        draft(&mut tx, member.books(), plan).await?;
        sqlx::query!(
            "UPDATE plan SET name = $3 WHERE books_id = $1 AND id = $2",
            member.books().0,
            plan.0,
            name
        )
        .execute(&mut tx)
        .await?;
        tx.commit().await
    }

    /// Discards a draft.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan.
    #[boxed]
    pub async fn discard_plan(&self, member: Member, plan: PlanId) -> Result<(), StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        draft(&mut tx, member.books(), plan).await?;
        end(&mut tx, member, plan, PlanStatus::Discarded).await?;
        tx.commit().await
    }

    /// A draft as it stands, without what is staged in it.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan.
    #[boxed]
    pub async fn draft(&self, member: Member, plan: PlanId) -> Result<DraftPlan, StoreError> {
        let mut connection = self.pool.acquire().await?;
        draft(&mut connection, member.books(), plan).await
    }

    /// What is staged in a draft.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan.
    #[boxed]
    pub async fn plan(
        &self,
        member: Member,
        plan: PlanId,
    ) -> Result<(DraftPlan, Plan), StoreError> {
        // The revision must be that of what is read with it.
        let mut tx = self.at_one_instant().await?;
        read(&mut tx, member.books(), plan).await
    }

    /// Stages edits of the chart as it stands in a draft: all of them, or none when somebody else staged something else in
    /// one of the fields since the person looked.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan, [`StoreError::Refused`] when one field is edited twice.
    #[boxed]
    pub async fn edit_plan(
        &self,
        member: Member,
        plan: PlanId,
        chart: &Chart,
        edits: &[Edit],
    ) -> Result<Edited, StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        let edited = stage(&mut tx, member, plan, chart, edits).await?;
        if matches!(edited, Edited::Done(..)) {
            tx.commit().await?;
        }
        Ok(edited)
    }

    /// What whoever asks can undo and redo in a draft.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn plan_steps(&self, member: Member, plan: PlanId) -> Result<Steps, StoreError> {
        let mut connection = self.pool.acquire().await?;
        steps(&mut connection, member, plan).await
    }

    /// Undoes the latest step of whoever asks in a draft, or redoes the one that was undone last; `None` when there is
    /// no such step. What somebody changed since stays as it is, and is counted.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan.
    #[boxed]
    pub async fn step_plan(
        &self,
        member: Member,
        plan: PlanId,
        chart: &Chart,
        way: Way,
    ) -> Result<Option<Stepped>, StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        draft(&mut tx, member.books(), plan).await?;
        let Some(revision) = steps(&mut tx, member, plan).await?.next(way) else {
            return Ok(None);
        };
        let reversing = edits_of(&mut tx, member.books(), plan, revision).await?;
        let (staged, _) = staged_in(&mut tx, member.books(), plan, &reversing).await?;
        let is_as_left =
            |edit: &&Edit| staged.staged(edit.account, edit.wanted.field()) == edit.seen.as_ref();
        let edits: Vec<_> = reversing.iter().filter(is_as_left).cloned().collect();
        let stay = reversing.len() - edits.len();
        match stage_step(&mut tx, member, plan, chart, &edits, Some(revision)).await? {
            Edited::Done(done, revision) => {
                tx.commit().await?;
                Ok(Some(Stepped { done, revision, stay }))
            }
            Edited::Conflicts(_) => Err(StoreError::damaged("what is as it was left conflicts")),
        }
    }

    /// Notes somebody's reason for going on in spite of a stop, or takes it back.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when the
    /// plan is no draft any more; nothing is noted then.
    #[boxed]
    pub async fn override_stop(
        &self,
        member: Member,
        plan: PlanId,
        finding: &str,
        reason: Option<&str>,
    ) -> Result<(), StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        draft(&mut tx, member.books(), plan).await?;
        match reason {
            Some(reason) => {
                sqlx::query!(
                    "INSERT INTO plan_override (books_id, plan_id, finding, reason, person_id)
                     VALUES ($1, $2, $3, $4, $5)
                     ON CONFLICT (books_id, plan_id, finding) DO UPDATE SET
                         reason = EXCLUDED.reason, person_id = EXCLUDED.person_id, at = now()",
                    member.books().0,
                    plan.0,
                    finding,
                    reason,
                    member.person().0
                )
                .execute(&mut tx)
                .await?
            }
            None => sqlx::query!(
                "DELETE FROM plan_override WHERE books_id = $1 AND plan_id = $2 AND finding = $3",
                member.books().0,
                plan.0,
                finding
            )
            .execute(&mut tx)
            .await?,
        };
        raise_revision(&mut tx, member.books(), plan).await?;
        tx.commit().await
    }
}

/// Stages edits in a draft that is held. Nothing is staged when one of them conflicts.
pub(crate) async fn stage(
    tx: &mut Writing,
    member: Member,
    plan: PlanId,
    chart: &Chart,
    edits: &[Edit],
) -> Result<Edited, StoreError> {
    stage_step(tx, member, plan, chart, edits, None).await
}

/// The same, as a step that reverses another one.
async fn stage_step(
    tx: &mut Writing,
    member: Member,
    plan: PlanId,
    chart: &Chart,
    edits: &[Edit],
    reverses: Option<i64>,
) -> Result<Edited, StoreError> {
    draft(tx, member.books(), plan).await?;
    let (mut staged, people) = staged_in(tx, member.books(), plan, edits).await?;
    let today = OffsetDateTime::now_utc().date();
    let done = match staged.edit(chart, edits, today) {
        Ok(done) => done,
        Err(NotEdited::Twice(..)) => {
            let why = "the same field is changed twice at once; say it once";
            return Err(StoreError::refused(why));
        }
        Err(NotEdited::NoSuchLine(_)) => {
            let why = "there is no such line of the statements, or it is retired";
            return Err(StoreError::refused(why));
        }
        Err(NotEdited::Conflicts(conflicts)) => {
            let with_name = |about: edit::Conflict| {
                let by = about.theirs.as_ref().and(people.get(&(about.account, about.field)));
                Conflict { by: by.cloned(), about }
            };
            return Ok(Edited::Conflicts(conflicts.into_iter().map(with_name).collect()));
        }
    };
    let taken_back: Vec<_> = done.iter().filter(|one| one.after.is_none()).collect();
    sqlx::query!(
        "DELETE FROM plan_change c USING unnest($3::bigint[], $4::text[]) AS e (account, field)
         WHERE c.books_id = $1 AND c.plan_id = $2 AND c.account_id = e.account AND c.field = e.field",
        member.books().0,
        plan.0,
        &taken_back.iter().map(|one| one.account.0).collect::<Vec<_>>(),
        &taken_back.iter().map(|one| one.field.key().to_owned()).collect::<Vec<_>>(),
    )
    .execute(&mut **tx)
    .await?;
    let staged = || done.iter().filter_map(|one| Some((one, Json(one.after.as_ref()?))));
    sqlx::query!(
        "INSERT INTO plan_change (books_id, plan_id, account_id, base, change, person_id)
         SELECT $1, $2, e.account, e.base, e.change, $3
         FROM unnest($4::bigint[], $5::jsonb[], $6::jsonb[]) AS e (account, base, change)
         ON CONFLICT (books_id, plan_id, account_id, field) DO UPDATE SET
             base = EXCLUDED.base, change = EXCLUDED.change, person_id = EXCLUDED.person_id, changed_at = now()",
        member.books().0,
        plan.0,
        member.person().0,
        &staged().map(|(one, _)| one.account.0).collect::<Vec<_>>(),
        &staged().map(|(one, _)| one.base.as_ref().map(Json)).collect::<Vec<_>>() as _,
        &staged().map(|(_, change)| change).collect::<Vec<_>>() as _,
    )
    .execute(&mut **tx)
    .await?;
    let revision = raise_revision(tx, member.books(), plan).await?;
    note_step(tx, member, plan, Step { revision, reverses }, &done).await?;
    Ok(Edited::Done(done, revision))
}

/// Notes what a step did to each field. What changed nothing is no step, unless it undid one of which nothing was
/// left.
async fn note_step(
    tx: &mut Writing,
    member: Member,
    plan: PlanId,
    step: Step,
    done: &[Done],
) -> Result<(), StoreError> {
    let changed: Vec<_> = done.iter().filter(|one| one.before != one.after).collect();
    if changed.is_empty() && step.reverses.is_none() {
        return Ok(());
    }
    sqlx::query!(
        "WITH step AS (INSERT INTO plan_step (books_id, plan_id, revision, person_id, reverses)
                       VALUES ($1, $2, $3, $4, $5))
         INSERT INTO plan_edit (books_id, plan_id, revision, account_id, field, before, after)
         SELECT $1, $2, $3, e.account, e.field, e.before, e.after
         FROM unnest($6::bigint[], $7::text[], $8::jsonb[], $9::jsonb[]) AS e (account, field, before, after)",
        member.books().0,
        plan.0,
        step.revision,
        member.person().0,
        step.reverses,
        &changed.iter().map(|one| one.account.0).collect::<Vec<_>>(),
        &changed.iter().map(|one| one.field.key().to_owned()).collect::<Vec<_>>(),
        &changed.iter().map(|one| one.before.as_ref().map(Json)).collect::<Vec<_>>() as _,
        &changed.iter().map(|one| one.after.as_ref().map(Json)).collect::<Vec<_>>() as _,
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// What whoever asks can undo and redo.
async fn steps(
    connection: &mut PgConnection,
    member: Member,
    plan: PlanId,
) -> Result<Steps, StoreError> {
    let steps = sqlx::query_as!(
        Step,
        "SELECT revision, reverses FROM plan_step
         WHERE books_id = $1 AND plan_id = $2 AND person_id = $3 ORDER BY revision",
        member.books().0,
        plan.0,
        member.person().0
    );
    Ok(steps.fetch_all(connection).await?.into_iter().collect())
}

/// The edits that reverse those of a revision.
async fn edits_of(
    connection: &mut PgConnection,
    books: BooksId,
    plan: PlanId,
    revision: i64,
) -> Result<Vec<Edit>, StoreError> {
    let rows = sqlx::query!(
        r#"SELECT account_id, field, before AS "before: Json<Change>", after AS "after: Json<Change>"
           FROM plan_edit WHERE books_id = $1 AND plan_id = $2 AND revision = $3 ORDER BY account_id, field"#,
        books.0,
        plan.0,
        revision
    );
    let edits = rows.fetch_all(connection).await?.into_iter().map(|row| {
        Ok(Edit::reversing(&Done {
            account: AccountId(row.account_id),
            field: StoreError::known(Field::from_key(&row.field), &row.field)?,
            before: row.before.map(|change| change.0),
            after: row.after.map(|change| change.0),
            base: None,
        }))
    });
    edits.collect()
}

async fn raise_revision(tx: &mut Writing, books: BooksId, plan: PlanId) -> Result<i64, StoreError> {
    let raised = sqlx::query_scalar!(
        "UPDATE plan SET revision = revision + 1 WHERE books_id = $1 AND id = $2 RETURNING revision",
        books.0,
        plan.0
    );
    Ok(raised.fetch_one(tx).await?)
}

/// A stop that was overridden, as the trail names it.
pub(crate) struct OverriddenStop {
    pub(crate) key: String,
    pub(crate) rule: Rule,
    pub(crate) accounts: Vec<ArchivedName>,
}

/// Notes in the trail which stops were overridden, by whom and why.
pub(crate) async fn note_overrides(
    tx: &mut Writing,
    books: BooksId,
    plan: PlanId,
    stops: &[OverriddenStop],
    application: i64,
) -> Result<(), StoreError> {
    let given = sqlx::query!(
        "SELECT finding, reason, person_id FROM plan_override WHERE books_id = $1 AND plan_id = $2",
        books.0,
        plan.0
    )
    .fetch_all(&mut *tx)
    .await?;
    for OverriddenStop { key, rule, accounts } in stops {
        let Some(row) = given.iter().find(|row| row.finding == *key) else { continue };
        let event = Event::Overrode {
            finding: key.clone(),
            rule: *rule,
            accounts: accounts.clone(),
            reason: row.reason.clone(),
        };
        trail::note(tx, books, PersonId(row.person_id), &event, Some(ApplicationId(application)))
            .await?;
    }
    Ok(())
}

/// Ends a draft: it is `applied` or `discarded` from now on.
pub(crate) async fn end(
    tx: &mut Writing,
    member: Member,
    plan: PlanId,
    status: PlanStatus,
) -> Result<(), StoreError> {
    sqlx::query!(
        "UPDATE plan SET status = $3, ended_by = $4, ended_at = now() WHERE books_id = $1 AND id = $2",
        member.books().0,
        plan.0,
        status.key(),
        member.person().0
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// A draft as it stands now.
///
/// # Errors
/// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is no
/// such plan.
pub(crate) async fn draft(
    connection: &mut PgConnection,
    books: BooksId,
    plan: PlanId,
) -> Result<DraftPlan, StoreError> {
    let row = sqlx::query!(
        r#"SELECT p.name, p.status, p.revision, p.ended_at, o.name AS "ended_by?"
           FROM plan p LEFT JOIN person o ON o.id = p.ended_by
           WHERE p.books_id = $1 AND p.id = $2"#,
        books.0,
        plan.0
    )
    .fetch_optional(connection)
    .await?
    .ok_or(StoreError::NotFound("plan"))?;
    let status = status(&row.status)?;
    if status == PlanStatus::Draft {
        return Ok(DraftPlan { name: row.name, revision: row.revision });
    }
    let (applied, ended) = (status == PlanStatus::Applied, row.ended_by.zip(row.ended_at));
    Err(StoreError::Ended(Box::new(EndedPlan { name: row.name, applied, ended })))
}

fn status(key: &str) -> Result<PlanStatus, StoreError> {
    StoreError::known(PlanStatus::from_key(key), key)
}

/// What is staged of the accounts that edits are about, and by whom in each field.
async fn staged_in(
    connection: &mut PgConnection,
    books: BooksId,
    plan: PlanId,
    edits: &[Edit],
) -> Result<(Plan, HashMap<(AccountId, Field), String>), StoreError> {
    let rows = sqlx::query!(
        r#"SELECT c.account_id, c.change AS "change: Json<Change>", p.name
           FROM plan_change c JOIN person p ON p.id = c.person_id
           WHERE c.books_id = $1 AND c.plan_id = $2 AND c.account_id = ANY($3)"#,
        books.0,
        plan.0,
        &edits.iter().map(|e| e.account.0).collect::<Vec<_>>()
    )
    .fetch_all(connection)
    .await?;
    let (mut staged, mut people) = (Plan::default(), HashMap::new());
    for row in rows {
        let (account, Json(change)) = (AccountId(row.account_id), row.change);
        people.insert((account, change.field()), row.name);
        staged.stage(account, None, change);
    }
    Ok((staged, people))
}

/// Takes note of what open plans name, as an undo has to know.
pub(crate) async fn note_open(
    connection: &mut PgConnection,
    books: BooksId,
    usage: &mut Usage,
) -> Result<(), StoreError> {
    let open = sqlx::query_scalar!(
        "SELECT id FROM plan WHERE books_id = $1 AND status = 'draft' ORDER BY id",
        books.0
    )
    .fetch_all(&mut *connection)
    .await?;
    for id in open {
        match read(connection, books, PlanId(id)).await {
            Ok((draft, plan)) => usage.note_plan(&draft.name, plan.accounts()),
            // Somebody ended it meanwhile.
            Err(StoreError::Ended(_)) => {}
            Err(other) => return Err(other),
        }
    }
    Ok(())
}

pub(crate) async fn read(
    connection: &mut PgConnection,
    books: BooksId,
    id: PlanId,
) -> Result<(DraftPlan, Plan), StoreError> {
    let draft = draft(connection, books, id).await?;
    let rows = sqlx::query!(
        r#"SELECT account_id, base AS "base: Json<Change>", change AS "change: Json<Change>"
           FROM plan_change WHERE books_id = $1 AND plan_id = $2"#,
        books.0,
        id.0
    )
    .fetch_all(&mut *connection)
    .await?;
    let mut plan = Plan::default();
    for row in rows {
        plan.stage(AccountId(row.account_id), row.base.map(|base| base.0), row.change.0);
    }
    let overrides = sqlx::query!(
        "SELECT v.finding, v.reason, p.name FROM plan_override v JOIN person p ON p.id = v.person_id
         WHERE v.books_id = $1 AND v.plan_id = $2",
        books.0,
        id.0
    )
    .fetch_all(connection)
    .await?;
    let given = overrides.into_iter();
    plan.overrides =
        given.map(|row| (row.finding, Override { reason: row.reason, by: row.name })).collect();
    Ok((draft, plan))
}
