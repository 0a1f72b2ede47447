//! Plans and what is staged in them. Each staged field is a row of its own, so that two people can
//! work in one plan and never overwrite each other unseen.

use crate::error::EndedPlan;
use crate::ids::{Counter, take_one};
use crate::people::Member;
use crate::writing::Writing;
use crate::{Store, StoreError, trail};
use sqlx::PgConnection;
use std::collections::{HashMap, HashSet};
use time::OffsetDateTime;
use zf_core::ids::{AccountId, BooksId};
use zf_core::plan::{Change, Fate, Field, Override, Plan, PlanStatus};
use zf_core::usage::Usage;

/// A plan in a list.
#[derive(Clone, Debug)]
pub struct PlanSummary {
    /// Identity.
    pub id: i64,
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
}

/// One staged field, as a person sent or sees it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Edit {
    /// The account.
    pub account: AccountId,
    /// The field.
    pub field: Field,
    /// What the person saw staged there; `None` when nothing was.
    pub seen: Option<String>,
    /// What stands there today; `None` for an account that the plan adds.
    pub base: Option<String>,
    /// What it should become; `None` takes the change back.
    pub change: Option<Change>,
}

impl Edit {
    /// An edit of an account that a plan adds, which nobody has seen yet.
    pub fn adding(account: AccountId, change: Change) -> Self {
        Self { account, field: change.field(), seen: None, base: None, change: Some(change) }
    }
}

/// Somebody else staged another value since the person looked.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Conflict {
    /// The account.
    pub account: AccountId,
    /// The field.
    pub field: Field,
    /// What the person wanted; `None` to take the change back.
    pub mine: Option<String>,
    /// What is staged now; `None` when it was taken back.
    pub theirs: Option<String>,
    /// Who staged it.
    pub by: Option<String>,
    /// What stands there today.
    pub today: Option<String>,
}

/// A plan that was neither applied nor discarded.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Draft {
    /// Its name.
    pub name: String,
    /// Counts every change of what is staged.
    pub revision: i64,
}

/// What an edit did.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Done {
    /// The account.
    pub account: AccountId,
    /// The field.
    pub field: Field,
    /// What was staged there before, if anything.
    pub before: Option<String>,
    /// What is staged there now, if anything.
    pub after: Option<String>,
}

/// What became of edits.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Edited {
    /// All were staged.
    Done(Vec<Done>),
    /// None was, since somebody else was first in these fields.
    Conflicts(Vec<Conflict>),
}

impl Store {
    /// Begins a plan.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn create_plan(&self, member: Member, name: &str) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let id = take_one(&mut tx, Counter::Plan).await?;
        sqlx::query!(
            "INSERT INTO plan (books_id, id, name, person_id) VALUES ($1, $2, $3, $4)",
            member.books().0,
            id,
            name,
            member.person()
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(id)
    }

    /// The plans of the books that were not discarded, latest first.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn plans(&self, member: Member) -> Result<Vec<PlanSummary>, StoreError> {
        let plans = sqlx::query!(
            r#"SELECT p.id, p.name, p.status, o.name AS person, p.created_at,
                      (SELECT count(DISTINCT c.account_id) FROM plan_change c
                       WHERE c.books_id = p.books_id AND c.plan_id = p.id) AS "accounts!"
               FROM plan p JOIN person o ON o.id = p.person_id
               WHERE p.books_id = $1 AND p.status <> 'discarded' ORDER BY p.id DESC"#,
            member.books().0
        );
        let plans = plans.fetch_all(&self.pool).await?.into_iter().map(|row| {
            Ok(PlanSummary {
                id: row.id,
                name: row.name,
                status: status(&row.status)?,
                person: row.person,
                created_at: row.created_at,
                accounts: row.accounts,
            })
        });
        plans.collect()
    }

    /// The accounts that drafts would add.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn added_accounts(&self, member: Member) -> Result<HashSet<AccountId>, StoreError> {
        let added = sqlx::query_scalar!(
            "SELECT c.account_id FROM plan_change c JOIN plan p ON p.books_id = c.books_id AND p.id = c.plan_id
             WHERE c.books_id = $1 AND p.status = 'draft' AND c.field = $2 AND c.value = $3",
            member.books().0,
            Field::Fate.key(),
            Change::Fate(Fate::Add).text()
        );
        Ok(added.fetch_all(&self.pool).await?.into_iter().map(AccountId).collect())
    }

    /// Gives a draft another name.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan.
    pub async fn rename_plan(
        &self,
        member: Member,
        plan: i64,
        name: &str,
    ) -> Result<(), StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        draft(&mut tx, member.books(), plan).await?;
        sqlx::query!(
            "UPDATE plan SET name = $3 WHERE books_id = $1 AND id = $2",
            member.books().0,
            plan,
            name
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await
    }

    /// Discards a draft.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan.
    pub async fn discard_plan(&self, member: Member, plan: i64) -> Result<(), StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        draft(&mut tx, member.books(), plan).await?;
        end(&mut tx, member, plan, PlanStatus::Discarded).await?;
        tx.commit().await
    }

    /// What is staged in a draft.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan.
    pub async fn plan(&self, member: Member, plan: i64) -> Result<(Draft, Plan), StoreError> {
        // The revision must be that of what is read with it.
        let mut tx = self.at_one_instant().await?;
        read(&mut tx, member.books(), plan).await
    }

    /// Stages edits in a draft: all of them, or none when somebody else staged something else in
    /// one of the fields since the person looked.
    ///
    /// # Errors
    /// [`StoreError::Ended`] when it is no draft any more, [`StoreError::NotFound`] when there is
    /// no such plan, [`StoreError::Refused`] when one field is edited twice.
    pub async fn edit_plan(
        &self,
        member: Member,
        plan: i64,
        edits: &[Edit],
    ) -> Result<Edited, StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        let edited = stage(&mut tx, member, plan, edits).await?;
        if matches!(edited, Edited::Done(_)) {
            tx.commit().await?;
        }
        Ok(edited)
    }

    /// Notes a reviewer's reason for going on in spite of a stop, or takes it back.
    ///
    /// # Errors
    /// [`StoreError::Refused`] when the person is not a reviewer, [`StoreError::Ended`] when the
    /// plan is no draft any more; nothing is noted then.
    pub async fn override_stop(
        &self,
        member: Member,
        plan: i64,
        finding: &str,
        reason: Option<&str>,
    ) -> Result<(), StoreError> {
        if !member.is_reviewer() {
            return Err(StoreError::refused("only a reviewer can go on in spite of a stop"));
        }
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
                    plan,
                    finding,
                    reason,
                    member.person()
                )
                .execute(&mut *tx)
                .await?
            }
            None => sqlx::query!(
                "DELETE FROM plan_override WHERE books_id = $1 AND plan_id = $2 AND finding = $3",
                member.books().0,
                plan,
                finding
            )
            .execute(&mut *tx)
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
    plan: i64,
    edits: &[Edit],
) -> Result<Edited, StoreError> {
    draft(tx, member.books(), plan).await?;
    let mut fields = HashSet::new();
    if !edits.iter().all(|edit| fields.insert((edit.account, edit.field))) {
        return Err(StoreError::refused("the same field is changed twice at once; say it once"));
    }
    let staged = staged_in(tx, member.books(), plan, edits).await?;
    let conflicts: Vec<_> = edits.iter().filter_map(|edit| conflict(edit, &staged)).collect();
    if !conflicts.is_empty() {
        return Ok(Edited::Conflicts(conflicts));
    }
    let done = edits.iter().map(|edit| Done {
        account: edit.account,
        field: edit.field,
        before: staged.get(&(edit.account.0, edit.field.key())).map(|s| s.value.clone()),
        after: edit.change.as_ref().map(Change::text),
    });
    let done = done.collect();
    let (taken_back, staged): (Vec<_>, Vec<_>) = edits.iter().partition(|e| e.change.is_none());
    sqlx::query!(
        "DELETE FROM plan_change c USING unnest($3::bigint[], $4::text[]) AS e (account, field)
         WHERE c.books_id = $1 AND c.plan_id = $2 AND c.account_id = e.account AND c.field = e.field",
        member.books().0,
        plan,
        &taken_back.iter().map(|e| e.account.0).collect::<Vec<_>>(),
        &taken_back.iter().map(|e| e.field.key().to_owned()).collect::<Vec<_>>(),
    )
    .execute(&mut **tx)
    .await?;
    sqlx::query!(
        "INSERT INTO plan_change (books_id, plan_id, account_id, field, base, value, person_id)
         SELECT $1, $2, e.account, e.field, e.base, e.value, $3
         FROM unnest($4::bigint[], $5::text[], $6::text[], $7::text[]) AS e (account, field, base, value)
         ON CONFLICT (books_id, plan_id, account_id, field) DO UPDATE SET
             base = EXCLUDED.base, value = EXCLUDED.value, person_id = EXCLUDED.person_id, changed_at = now()",
        member.books().0,
        plan,
        member.person(),
        &staged.iter().map(|e| e.account.0).collect::<Vec<_>>(),
        &staged.iter().map(|e| e.field.key().to_owned()).collect::<Vec<_>>(),
        &staged.iter().map(|e| e.base.clone()).collect::<Vec<_>>() as &[Option<String>],
        &staged.iter().filter_map(|e| Some(e.change.as_ref()?.text())).collect::<Vec<_>>(),
    )
    .execute(&mut **tx)
    .await?;
    raise_revision(tx, member.books(), plan).await?;
    Ok(Edited::Done(done))
}

async fn raise_revision(
    connection: &mut PgConnection,
    books: BooksId,
    plan: i64,
) -> Result<(), StoreError> {
    sqlx::query!(
        "UPDATE plan SET revision = revision + 1 WHERE books_id = $1 AND id = $2",
        books.0,
        plan
    )
    .execute(connection)
    .await?;
    Ok(())
}

/// Notes in the trail which stops were overridden, by whom and why.
pub(crate) async fn note_overrides(
    connection: &mut PgConnection,
    books: BooksId,
    plan: i64,
    stops: &[(&str, &str)],
    application: i64,
) -> Result<(), StoreError> {
    let given = sqlx::query!(
        "SELECT finding, reason, person_id FROM plan_override WHERE books_id = $1 AND plan_id = $2",
        books.0,
        plan
    )
    .fetch_all(&mut *connection)
    .await?;
    for (key, sentence) in stops {
        let Some(row) = given.iter().find(|row| row.finding == *key) else { continue };
        let detail = format!("{sentence} Because: {}", row.reason);
        let what = "went on in spite of a stop";
        trail::note(connection, books, row.person_id, what, &detail, Some(application)).await?;
    }
    Ok(())
}

/// Ends a draft: it is `applied` or `discarded` from now on.
pub(crate) async fn end(
    connection: &mut PgConnection,
    member: Member,
    plan: i64,
    status: PlanStatus,
) -> Result<(), StoreError> {
    sqlx::query!(
        "UPDATE plan SET status = $3, ended_by = $4, ended_at = now() WHERE books_id = $1 AND id = $2",
        member.books().0,
        plan,
        status.key(),
        member.person()
    )
    .execute(connection)
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
    plan: i64,
) -> Result<Draft, StoreError> {
    let row = sqlx::query!(
        r#"SELECT p.name, p.status, p.revision, p.ended_at, o.name AS "ended_by?"
           FROM plan p LEFT JOIN person o ON o.id = p.ended_by
           WHERE p.books_id = $1 AND p.id = $2"#,
        books.0,
        plan
    )
    .fetch_optional(connection)
    .await?
    .ok_or(StoreError::NotFound("plan"))?;
    let status = status(&row.status)?;
    if status == PlanStatus::Draft {
        return Ok(Draft { name: row.name, revision: row.revision });
    }
    let (applied, ended) = (status == PlanStatus::Applied, row.ended_by.zip(row.ended_at));
    Err(StoreError::Ended(Box::new(EndedPlan { name: row.name, applied, ended })))
}

fn status(key: &str) -> Result<PlanStatus, StoreError> {
    StoreError::known(PlanStatus::from_key(key), key)
}

/// What is staged in one field, and by whom.
struct Staged {
    value: String,
    person: String,
}

async fn staged_in(
    connection: &mut PgConnection,
    books: BooksId,
    plan: i64,
    edits: &[Edit],
) -> Result<HashMap<(i64, &'static str), Staged>, StoreError> {
    let rows = sqlx::query!(
        "SELECT c.account_id, c.field, c.value, p.name FROM plan_change c JOIN person p ON p.id = c.person_id
         WHERE c.books_id = $1 AND c.plan_id = $2 AND c.account_id = ANY($3)",
        books.0,
        plan,
        &edits.iter().map(|e| e.account.0).collect::<Vec<_>>()
    )
    .fetch_all(connection)
    .await?;
    let staged = rows.into_iter().map(|row| {
        let field = Field::from_key(&row.field).ok_or_else(|| StoreError::damaged(&row.field))?;
        Ok(((row.account_id, field.key()), Staged { value: row.value, person: row.name }))
    });
    staged.collect()
}

fn conflict(edit: &Edit, staged: &HashMap<(i64, &'static str), Staged>) -> Option<Conflict> {
    let now = staged.get(&(edit.account.0, edit.field.key()));
    let theirs = now.map(|staged| staged.value.clone());
    let mine = edit.change.as_ref().map(Change::text);
    // Both wanting the same is no conflict.
    (theirs != edit.seen && theirs != mine).then(|| Conflict {
        account: edit.account,
        field: edit.field,
        mine,
        theirs,
        by: now.map(|staged| staged.person.clone()),
        today: edit.base.clone(),
    })
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
        match read(connection, books, id).await {
            Ok((draft, plan)) => usage.note_plan(&draft.name, &plan),
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
    id: i64,
) -> Result<(Draft, Plan), StoreError> {
    let draft = draft(connection, books, id).await?;
    let rows = sqlx::query!(
        "SELECT account_id, field, base, value FROM plan_change WHERE books_id = $1 AND plan_id = $2",
        books.0,
        id
    )
    .fetch_all(&mut *connection)
    .await?;
    let mut plan = Plan::default();
    for row in rows {
        let field = Field::from_key(&row.field).ok_or_else(|| StoreError::damaged(&row.field))?;
        let change = Change::parse(field, &row.value).map_err(StoreError::damaged)?;
        plan.stage(AccountId(row.account_id), row.base, change);
    }
    let overrides = sqlx::query!(
        "SELECT v.finding, v.reason, p.name FROM plan_override v JOIN person p ON p.id = v.person_id
         WHERE v.books_id = $1 AND v.plan_id = $2",
        books.0,
        id
    )
    .fetch_all(connection)
    .await?;
    let given = overrides.into_iter();
    plan.overrides =
        given.map(|row| (row.finding, Override { reason: row.reason, by: row.name })).collect();
    Ok((draft, plan))
}
