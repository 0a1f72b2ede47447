//! What tests on a real PostgreSQL share: a database of their own, and small books in it.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be built fails the test")]

mod line;
pub mod races;
mod words;
pub mod workbooks;

pub use line::Line;

use std::collections::{BTreeSet, HashMap};
use std::path::Path;
use std::sync::atomic::{AtomicU32, Ordering};
use time::Date;
use time::macros::date;
use tokio::sync::OnceCell;
use zf_core::access::{Role, Roles};
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::{Account, Class, Kind};
use zf_core::code::{Code, Interval};
use zf_core::entry::{EntryKind, NewEntry, NewLine};
use zf_core::file_kind::FileKind;
use zf_core::ids::{AccountId, ApplicationId, BooksId, PersonId, PlanId};
use zf_core::money::Currency;
use zf_core::plan::edit::{Edit, Wanted};
use zf_core::plan::{Change, Field};
use zf_core::policy::Policy;
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::trail::Record;
use zf_core::usage::Use;
use zf_phrases::Style;
use zf_phrases::trail::words_of;
use zf_store::books::NewBooks;
use zf_store::imports::Ready;
use zf_store::jobs::Progress;
use zf_store::member::Member;
use zf_store::people::links::Admission;
use zf_store::plans::Edited;
use zf_store::plans::applying::{Agreement, NotApplied};
use zf_store::plans::archive::proof::{Proof, ProofFacts};
use zf_store::trail::{Actor, Kept, TrailFilter, TrailSlice};
use zf_store::{Store, StoreError};

/// Makes a database with the schema of today that no other test knows, and answers its address. It is a copy:
/// the migrations run once for all tests of a process.
///
/// # Panics
/// When `DATABASE_URL` does not name a PostgreSQL in which databases may be made.
pub async fn fresh_database() -> String {
    static TEMPLATE: OnceCell<String> = OnceCell::const_new();
    let template = TEMPLATE.get_or_init(async || {
        let url = empty_database().await;
        Store::connect(&url).await.unwrap().pool().close().await;
        url
    });
    copy_of(name_in(template.await)).await
}

/// Makes a database without a schema that no other test knows, and answers its address.
///
/// # Panics
/// When `DATABASE_URL` does not name a PostgreSQL in which databases may be made.
pub async fn empty_database() -> String {
    copy_of("template1").await
}

async fn copy_of(template: &str) -> String {
    static COUNT: AtomicU32 = AtomicU32::new(0);
    static SWEPT: OnceCell<()> = OnceCell::const_new();
    let url = std::env::var("DATABASE_URL").unwrap_or_else(|_| {
        panic!("DATABASE_URL must name a PostgreSQL in which databases may be made; bin/test starts one")
    });
    let count = COUNT.fetch_add(1, Ordering::SeqCst);
    let name = format!("zf_{}_{count}", std::process::id());
    let pool = sqlx::PgPool::connect(&url).await.unwrap();
    SWEPT.get_or_init(|| sweep(&pool)).await;
    let copy = format!("CREATE DATABASE {name} TEMPLATE {template}");
    sqlx::query(&copy).execute(&pool).await.unwrap();
    pool.close().await;
    let (server, _) = url.rsplit_once('/').unwrap();
    format!("{server}/{name}")
}

/// The name of the database at an address.
fn name_in(url: &str) -> &str {
    url.rsplit_once('/').unwrap().1
}

/// Drops what processes that have ended left behind: hundreds of databases would fill a small disk.
async fn sweep(pool: &sqlx::PgPool) {
    let names: Vec<String> =
        sqlx::query_scalar("SELECT datname FROM pg_database").fetch_all(pool).await.unwrap();
    for name in names {
        let process = name.strip_prefix("zf_").and_then(|rest| rest.split_once('_'));
        let Some(id) = process.and_then(|(id, _)| id.parse::<u32>().ok()) else { continue };
        let runs = Path::new(&format!("/proc/{id}")).exists() && id != std::process::id();
        if !runs {
            sqlx::query(&format!("DROP DATABASE IF EXISTS {name} WITH (FORCE)"))
                .execute(pool)
                .await
                .unwrap();
        }
    }
}

/// A row of a trail, in words.
#[derive(Debug)]
pub struct Done {
    /// The key of the action.
    pub what: String,
    /// Who did it.
    pub by: String,
    /// What is told of it.
    pub detail: String,
    /// The application that it is about.
    pub application: Option<i64>,
}

impl From<Kept> for Done {
    fn from(Kept { record, event, .. }: Kept) -> Self {
        let detail = words_of(&record.detail, event.as_ref(), Style::default());
        let Record { what, by, application, .. } = record;
        Self { what, by, detail, application: application.map(|id| id.0) }
    }
}

/// Small books of one member.
pub struct Books {
    /// The store.
    pub store: Store,
    /// Their member, a reviewer.
    pub member: Member,
    /// The address of the database.
    pub url: String,
    entries: AtomicU32,
}

/// An active posting account without any settings.
pub fn account(code: &str, name: &str, class: Class) -> Account {
    Account::new(AccountId(0), Code::parse(code).unwrap(), name.to_owned(), class)
}

fn railway() -> Vec<Account> {
    let expense = |n: i64, name| account(&n.to_string(), name, Class::Expense);
    let mut sum = expense(5099, "In all");
    sum.kind = Kind::Sum;
    sum.intervals = Interval::parse_list("5000 to 5098").unwrap();
    vec![
        account("1010", "Bank", Class::Asset),
        account("1020", "Till", Class::Asset),
        expense(5010, "Coal"),
        expense(5020, "Coal and firewood"),
        expense(5030, "Diesel"),
        expense(5040, "Oil"),
        expense(6010, "Telephone"),
        expense(6020, "Telegraph"),
        sum,
    ]
}

impl Books {
    /// Opens books with these accounts for a person.
    pub async fn open(store: Store, url: String, person: PersonId, accounts: Vec<Account>) -> Self {
        let new = NewBooks {
            name: "Small books".to_owned(),
            currency: Currency::parse("GBP").unwrap(),
            calendar: FiscalCalendar::starting(2, 1).unwrap(),
            journal_complete: true,
            policy: Policy::default(),
        };
        let member = store.create_books(person, &new).await.unwrap();
        let books = Self { store, member, url, entries: AtomicU32::new(1) };
        books.import_chart(accounts).await;
        books
    }

    /// Six accounts of expense and two of asset, with a sum line, in a database of their own.
    pub async fn railway() -> Self {
        let url = fresh_database().await;
        let store = Store::connect(&url).await.unwrap();
        let person = store.add_person("ann@books.example", "Ann Tester", "-").await.unwrap();
        Self::open(store, url, person, railway()).await
    }

    /// The same books over a line to their database, which can be broken.
    pub async fn railway_on_a_line() -> (Self, Line) {
        let url = fresh_database().await;
        let (line, near) = Line::to(&url).await;
        let store = Store::connect(&near).await.unwrap();
        let person = store.add_person("ann@books.example", "Ann Tester", "-").await.unwrap();
        (Self::open(store, url, person, railway()).await, line)
    }

    /// The same accounts, for a person of a store that is there already.
    pub async fn railway_of(store: Store, person: PersonId) -> Self {
        Self::open(store, String::new(), person, railway()).await
    }

    /// What was done last, latest first.
    pub async fn done_last(&self, count: i64) -> Vec<Done> {
        let page = TrailSlice { page: 0, size: count };
        let page = self.store.trail(self.member, &TrailFilter::default(), None, page).await;
        page.unwrap().rows.into_iter().map(Done::from).collect()
    }

    /// What was done to the server last, latest first, and how often anything was.
    pub async fn done_to_server(&self, count: i64) -> (Vec<Done>, i64) {
        let page = TrailSlice { page: 0, size: count };
        let page = self.store.server_trail(&TrailFilter::default(), None, page).await.unwrap();
        (page.rows.into_iter().map(Done::from).collect(), page.matching)
    }

    /// Makes somebody an administrator of the server.
    pub async fn administer(&self, person: PersonId) {
        self.store.administer(Actor::Person(person), person, true).await.unwrap();
    }

    /// Lets somebody in with some roles.
    pub async fn add_member(&self, person: PersonId, roles: &[Role]) -> Member {
        let roles = Roles::of(roles.iter().copied()).unwrap();
        let books = self.member.books();
        let admission = Admission { books, roles, plan: None, until: None };
        self.store.admit(self.member, person, &admission).await.unwrap();
        self.store.member(person, books).await.unwrap()
    }

    /// Other books of the same person, in the same store.
    pub async fn other(&self, id: i64) -> Self {
        let member = self.store.member(self.member.person(), BooksId(id)).await.unwrap();
        let (store, url) = (self.store.clone(), self.url.clone());
        Self { store, member, url, entries: AtomicU32::new(1) }
    }

    async fn import_chart(&self, mut accounts: Vec<Account>) {
        let ids = self.store.take_account_ids(accounts.len()).await.unwrap();
        ids.into_iter().zip(&mut accounts).for_each(|(id, account)| account.id = id);
        let seen = self.store.snapshot(self.member).await.unwrap();
        let structure = seen.today.chart.structure();
        self.import(FileKind::Chart, Ready::Chart { accounts: &accounts, structure }).await;
    }

    async fn import(&self, kind: FileKind, ready: Ready<'_>) -> i64 {
        let id = self.store.keep_upload(self.member, kind, "test.csv", b"").await.unwrap();
        let seen = self.store.snapshot(self.member).await.unwrap();
        let progress = Progress::default();
        self.store.commit_import(self.member, id, &seen, &ready, &progress).await.unwrap();
        id.0
    }

    /// Brings a where-used list in, and answers the identity of the file.
    pub async fn use_list(&self, uses: &[Use]) -> i64 {
        self.import(FileKind::Usage, Ready::Usage(uses)).await
    }

    /// Two purchases from the bank: coal in March, wood in April.
    pub async fn post_coal_and_wood(&self) {
        let (bank, coal) = (self.id("1010").await, self.id("5010").await);
        let wood = self.id("5020").await;
        let entries = [
            self.entry(date!(2026 - 03 - 01), coal, bank, 300),
            self.entry(date!(2026 - 04 - 01), wood, bank, 500),
        ];
        self.post(&entries).await;
    }

    /// The account that bears a code today.
    pub async fn id(&self, code: &str) -> AccountId {
        let snapshot = self.store.snapshot(self.member).await.unwrap();
        let key = Code::parse(code).unwrap().key();
        snapshot.today.chart.by_code(&key).unwrap_or_else(|| panic!("no account bears {code}")).id
    }

    /// An entry from one account to another, in minor units.
    pub fn entry(&self, date: Date, debit: AccountId, credit: AccountId, amount: i64) -> NewEntry {
        let line = |account, amount| NewLine {
            account,
            amount,
            foreign: None,
            payee: "Harrock".to_owned(),
            memo: format!("for {amount}"),
            reference: String::new(),
            dimensions: "site=Larkfell".to_owned(),
            cleared: amount % 3 == 0,
        };
        let number = format!("J{}", self.entries.fetch_add(1, Ordering::SeqCst));
        let lines = vec![line(debit, amount), line(credit, -amount)];
        NewEntry { number, date, kind: EntryKind::Ordinary, lines }
    }

    /// Posts entries as an import does.
    pub async fn post(&self, entries: &[NewEntry]) {
        let entries = &entries.to_vec();
        self.import(
            FileKind::Journal,
            Ready::Journal { entries, added: &[], reopened: &[], digest: None },
        )
        .await;
    }

    /// Stages a plan in words, `5010 code 5110; 5020 fate merge 5030; 5010 history to 5040, until
    /// 2026-03-31 | to 5030, entry J7`, and answers its number.
    pub async fn stage(&self, words: &str) -> PlanId {
        let plan = self.store.create_plan(self.member, "Tidy up").await.unwrap();
        let mut edits = Vec::new();
        let chart = self.store.snapshot(self.member).await.unwrap().today.chart;
        let codes: HashMap<_, _> = chart.live().map(|a| (a.code.to_string(), a.id)).collect();
        for change in words.split(';') {
            let mut parts = change.trim().splitn(3, ' ');
            let account = self.id(parts.next().unwrap()).await;
            let field = Field::from_key(parts.next().unwrap()).unwrap();
            let value = parts.next().unwrap_or_default();
            let named = |code: &str| codes[code];
            edits.push((account, words::change(field, value, chart.structure(), named)));
        }
        self.stage_changes(plan, edits).await;
        plan
    }

    /// Stages changes in a plan, based on today.
    pub async fn stage_changes(&self, plan: PlanId, changes: Vec<(AccountId, Change)>) {
        let chart = self.store.snapshot(self.member).await.unwrap().today.chart;
        let edit = |(account, change)| Edit { account, seen: None, wanted: Wanted::Stage(change) };
        let edits: Vec<_> = changes.into_iter().map(edit).collect();
        let edited = self.store.edit_plan(self.member, plan, &chart, &edits).await.unwrap();
        assert!(matches!(edited, Edited::Done(..)), "somebody else was first: {edited:?}");
    }

    /// Rehearses a plan on the books as they stand.
    pub async fn rehearse(&self, plan: PlanId) -> Rehearsal {
        self.rehearse_again(plan).await.unwrap()
    }

    /// The same of a plan that somebody else may have ended meanwhile.
    ///
    /// # Errors
    /// When the plan is no draft any more.
    pub async fn rehearse_again(&self, plan: PlanId) -> Result<Rehearsal, StoreError> {
        let snapshot = self.store.snapshot(self.member).await?;
        let (_, mut plan) = self.store.plan(self.member, plan).await?;
        plan.cuts = self.store.cuts(self.member, &plan).await?;
        Ok(rehearse(&snapshot.today, &plan))
    }

    /// Applies a plan, with everything read and acknowledged.
    ///
    /// # Errors
    /// When it is refused.
    pub async fn apply(&self, plan: PlanId) -> Result<ApplicationId, NotApplied> {
        let agreed = agreement(&self.rehearse(plan).await);
        self.store.apply(self.member, plan, &agreed).await
    }

    /// Undoes an application, with everything read and acknowledged.
    ///
    /// # Errors
    /// When it is refused.
    pub async fn undo(&self, application: ApplicationId) -> Result<ApplicationId, NotApplied> {
        let (_, rehearsal) = self.store.rehearse_undo(self.member, application.0).await?;
        self.store.undo(self.member, application.0, &agreement(&rehearsal)).await
    }

    /// What was proved when a plan was applied.
    ///
    /// # Panics
    /// When it cannot be read, or was archived in an earlier form.
    pub async fn proof(&self, application: ApplicationId) -> ProofFacts {
        let applied = self.store.application(self.member, application.0).await.unwrap();
        match applied.proof {
            Proof::Archived(proof) => *proof,
            Proof::Earlier(proof) => panic!("archived as texts: {proof:?}"),
        }
    }

    /// Recounts everything from the lines.
    ///
    /// # Panics
    /// When lines and totals disagree.
    pub async fn must_recount(&self) {
        let found = self.store.recount(self.member).await.unwrap();
        assert_eq!(found.misses, [""; 0]);
    }

    /// The days of all entries, the earliest first.
    pub async fn days(&self) -> Vec<String> {
        let query = "SELECT date::text FROM entry ORDER BY date";
        sqlx::query_scalar(query).fetch_all(self.store.pool()).await.unwrap()
    }

    /// How many rows a table has.
    pub async fn count(&self, table: &str) -> i64 {
        let query = format!("SELECT count(*) FROM {table}");
        sqlx::query_scalar(&query).fetch_one(self.store.pool()).await.unwrap()
    }

    /// A number that the database is asked for behind the store's back.
    pub async fn ask(&self, sql: &str) -> i64 {
        sqlx::query_scalar(sql).fetch_one(self.store.pool()).await.unwrap()
    }

    /// The texts that a query answers, asked behind the store's back.
    pub async fn names(&self, sql: &str) -> Vec<String> {
        sqlx::query_scalar(sql).fetch_all(self.store.pool()).await.unwrap()
    }

    /// Carries out a statement behind the store's back.
    pub async fn tamper(&self, sql: &str) {
        sqlx::raw_sql(sql).execute(self.store.pool()).await.unwrap();
    }
}

/// Keeps everybody from storing anything, for as long as it is held.
pub async fn hold(store: &Store) -> sqlx::Transaction<'static, sqlx::Postgres> {
    held_by(store, "SELECT 1 FROM books FOR UPDATE").await
}

/// Keeps everybody from beginning or changing plans, for as long as it is held.
pub async fn hold_plans(store: &Store) -> sqlx::Transaction<'static, sqlx::Postgres> {
    held_by(store, "LOCK TABLE plan IN EXCLUSIVE MODE").await
}

async fn held_by(store: &Store, lock: &str) -> sqlx::Transaction<'static, sqlx::Postgres> {
    let mut held = store.pool().begin().await.unwrap();
    sqlx::query(lock).execute(&mut *held).await.unwrap();
    held
}

/// Agreement to everything that a rehearsal says.
pub fn agreement(rehearsal: &Rehearsal) -> Agreement {
    let acknowledged: BTreeSet<String> = rehearsal.cautions().map(|c| c.key.clone()).collect();
    Agreement { fingerprint: rehearsal.fingerprint(), acknowledged, ..Agreement::default() }
}
