//! Account rows: how an account lies in the database, and in the effects kept with an application.

use crate::StoreError;
use crate::chart::structure;
use crate::writing::Writing;
use serde::{Deserialize, Serialize};
use sqlx::PgConnection;
use sqlx::types::Json;
use std::collections::BTreeSet;
use time::Date;
use zf_core::chart::{Account, Chart, ControlRole, Kind, Status};
use zf_core::code::{Code, Interval};
use zf_core::ids::{AccountId, BooksId, ImportId, ItemId};
use zf_core::money::Currency;
use zf_core::statement::{Class, Structure};

/// An account as stored. Enumerations are their keys.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub(crate) struct AccountRow {
    id: i64,
    code: String,
    name: String,
    kind: String,
    class: String,
    caption_id: Option<i64>,
    parent_id: Option<i64>,
    status: String,
    contra: bool,
    role: Option<String>,
    currency: Option<String>,
    description: String,
    tax_code: Option<String>,
    merged_into: Option<i64>,
    intervals: Json<Vec<Interval>>,
    /// Missing from applications that were kept before accounts knew it.
    #[serde(default)]
    status_from: Option<Date>,
    /// Missing from applications that were kept before codes were proposed.
    #[serde(default)]
    code_proposed: bool,
    /// Missing from applications that were kept before it was.
    #[serde(default)]
    import_id: Option<i64>,
}

impl From<&Account> for AccountRow {
    fn from(account: &Account) -> Self {
        Self {
            id: account.id.0,
            code: account.code.to_string(),
            name: account.name.clone(),
            kind: account.kind.key().to_owned(),
            class: account.class.key().to_owned(),
            caption_id: account.place().1.map(|line| line.0),
            parent_id: account.parent.map(|p| p.0),
            status: account.status.key().to_owned(),
            contra: account.contra,
            role: account.role.map(|r| r.key().to_owned()),
            currency: account.currency.map(|c| c.to_string()),
            description: account.description.clone(),
            tax_code: account.tax_code.clone(),
            merged_into: account.merged_into.map(|m| m.0),
            intervals: Json(account.intervals.clone()),
            status_from: account.status_from,
            code_proposed: account.code_proposed,
            import_id: account.origin.map(|o| o.0),
        }
    }
}

impl AccountRow {
    /// The account, under the lines that the statements of its books have.
    pub(crate) fn account(self, lines: &Structure) -> Result<Account, StoreError> {
        let row = self;
        let line = |id: i64| {
            let caption = lines.caption(ItemId(id));
            caption.ok_or_else(|| StoreError::damaged(format!("no line of the statements is {id}")))
        };
        let caption = row.caption_id.map(line).transpose()?;
        let role =
            row.role.map(|r| StoreError::known(ControlRole::from_key(&r), &r)).transpose()?;
        let currency = row.currency.map(|c| Currency::parse(&c)).transpose();
        Ok(Account {
            id: AccountId(row.id),
            code: Code::parse(&row.code).map_err(StoreError::damaged)?,
            name: row.name,
            kind: StoreError::known(Kind::from_key(&row.kind), &row.kind)?,
            class: StoreError::known(Class::from_key(&row.class), &row.class)?,
            caption,
            parent: row.parent_id.map(AccountId),
            status: StoreError::known(Status::from_key(&row.status), &row.status)?,
            status_from: row.status_from,
            contra: row.contra,
            role,
            currency: currency.map_err(StoreError::damaged)?,
            description: row.description,
            tax_code: row.tax_code,
            merged_into: row.merged_into.map(AccountId),
            intervals: row.intervals.0,
            code_proposed: row.code_proposed,
            origin: row.import_id.map(ImportId),
        })
    }
}

/// Reads the whole chart, merged accounts too.
pub(crate) async fn read(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Chart, StoreError> {
    let lines = structure::read(connection, books).await?;
    let rows = sqlx::query_as!(
        AccountRow,
        r#"SELECT id, code, name, kind, class, caption_id, parent_id, status, contra, role, currency,
                  description, tax_code, merged_into, intervals AS "intervals: Json<Vec<Interval>>", code_proposed,
                  import_id, status_from
           FROM account WHERE books_id = $1 ORDER BY id"#,
        books.0
    )
    .fetch_all(connection)
    .await?;
    let accounts = rows.into_iter().map(|row| row.account(&lines));
    let accounts = accounts.collect::<Result<Vec<_>, _>>()?;
    Ok(Chart::under(lines, accounts))
}

/// Writes accounts, new or changed, in one statement, and closes the open strands of some of them. Where an
/// account came from is kept.
pub(crate) async fn write(
    tx: &mut Writing,
    books: BooksId,
    accounts: &[&Account],
    closing: &BTreeSet<AccountId>,
) -> Result<(), StoreError> {
    let rows: Vec<AccountRow> = accounts.iter().map(|account| AccountRow::from(*account)).collect();
    let keys: Vec<Option<String>> = accounts
        .iter()
        .map(|account| account.is_live().then(|| account.code.key().as_str().to_owned()))
        .collect();
    sqlx::query!(
        r#"INSERT INTO account (books_id, id, code, live_key, name, kind, class, caption_id, parent_id, status,
                                contra, role, currency, description, tax_code, merged_into, intervals, import_id,
                                code_proposed, status_from, open_strand)
           SELECT $1, r.id, r.code, r.live_key, r.name, r.kind, r.class, r.caption_id, r.parent_id, r.status,
                  r.contra, r.role, r.currency, r.description, r.tax_code, r.merged_into, r.intervals, r.import_id, r.code_proposed,
                  r.status_from,
                  CASE WHEN r.closes THEN NULL ELSE was.open_strand END
           FROM unnest($2::bigint[], $3::text[], $4::text[], $5::text[], $6::text[], $7::text[], $8::bigint[],
                       $9::bigint[], $10::text[], $11::boolean[], $12::text[], $13::text[], $14::text[],
                       $15::text[], $16::bigint[], $17::jsonb[], $18::bigint[], $19::boolean[], $20::boolean[], $21::date[])
                AS r (id, code, live_key, name, kind, class, caption_id, parent_id, status, contra, role, currency,
                      description, tax_code, merged_into, intervals, import_id, closes, code_proposed, status_from)
                LEFT JOIN account was ON was.books_id = $1 AND was.id = r.id
           ON CONFLICT (books_id, id) DO UPDATE SET
               code = EXCLUDED.code, live_key = EXCLUDED.live_key, name = EXCLUDED.name, kind = EXCLUDED.kind,
               class = EXCLUDED.class, caption_id = EXCLUDED.caption_id, parent_id = EXCLUDED.parent_id,
               status = EXCLUDED.status, contra = EXCLUDED.contra, role = EXCLUDED.role,
               currency = EXCLUDED.currency, description = EXCLUDED.description,
               tax_code = EXCLUDED.tax_code, merged_into = EXCLUDED.merged_into,
               intervals = EXCLUDED.intervals, code_proposed = EXCLUDED.code_proposed,
               status_from = EXCLUDED.status_from, open_strand = EXCLUDED.open_strand"#,
        books.0,
        &rows.iter().map(|r| r.id).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.code.clone()).collect::<Vec<_>>(),
        &keys as &[Option<String>],
        &rows.iter().map(|r| r.name.clone()).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.kind.clone()).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.class.clone()).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.caption_id).collect::<Vec<_>>() as &[Option<i64>],
        &rows.iter().map(|r| r.parent_id).collect::<Vec<_>>() as &[Option<i64>],
        &rows.iter().map(|r| r.status.clone()).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.contra).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.role.clone()).collect::<Vec<_>>() as &[Option<String>],
        &rows.iter().map(|r| r.currency.clone()).collect::<Vec<_>>() as &[Option<String>],
        &rows.iter().map(|r| r.description.clone()).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.tax_code.clone()).collect::<Vec<_>>() as &[Option<String>],
        &rows.iter().map(|r| r.merged_into).collect::<Vec<_>>() as &[Option<i64>],
        &rows.iter().map(|r| Json(&r.intervals.0)).collect::<Vec<_>>() as _,
        &rows.iter().map(|r| r.import_id).collect::<Vec<_>>() as &[Option<i64>],
        &accounts.iter().map(|account| closing.contains(&account.id)).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.code_proposed).collect::<Vec<_>>(),
        &rows.iter().map(|r| r.status_from).collect::<Vec<_>>() as &[Option<Date>],
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Notes which codes accounts bear from now on. Accounts that come with an import have borne
/// theirs for a time that is not known here.
pub(crate) async fn begin_code_use(
    tx: &mut Writing,
    books: BooksId,
    accounts: &[&Account],
    since_now: bool,
) -> Result<(), StoreError> {
    sqlx::query!(
        "INSERT INTO code_use (books_id, account_id, code, code_key, name, used_from)
         SELECT $1, u.account_id, u.code, u.code_key, u.name, CASE WHEN $2 THEN now() END
         FROM unnest($3::bigint[], $4::text[], $5::text[], $6::text[]) AS u (account_id, code, code_key, name)",
        books.0,
        since_now,
        &accounts.iter().map(|a| a.id.0).collect::<Vec<_>>(),
        &accounts.iter().map(|a| a.code.to_string()).collect::<Vec<_>>(),
        &accounts.iter().map(|a| a.code.key().as_str().to_owned()).collect::<Vec<_>>(),
        &accounts.iter().map(|a| a.name.clone()).collect::<Vec<_>>(),
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Notes that accounts stop bearing their codes now.
pub(crate) async fn end_code_use(
    tx: &mut Writing,
    books: BooksId,
    accounts: &[i64],
) -> Result<(), StoreError> {
    sqlx::query!(
        "UPDATE code_use SET used_to = now()
         WHERE books_id = $1 AND account_id = ANY($2) AND used_to IS NULL",
        books.0,
        accounts
    )
    .execute(tx)
    .await?;
    Ok(())
}
