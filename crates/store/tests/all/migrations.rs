//! Data of the first version survives every later migration.

use sqlx::PgPool;
use zf_core::ids::PlanId;
use zf_core::trail::Detail;
use zf_store::Store;
use zf_testing::empty_database;

/// Books as the first version would have left them.
const OLD: &str = "
    INSERT INTO person (email, name, password_hash) VALUES ('ann@books.example', 'Ann', '-');
    INSERT INTO books (id, name, currency, year_month, year_day, policy) VALUES (1, 'Old', 'GBP', 2, 1,
        '{\"code_min\": 1, \"code_max\": 24, \"digits_only\": false, \"blocks\": [], \"outside_block\": \"caution\",
          \"reused_code\": \"caution\", \"archive_with_balance\": \"stop\", \"archive_when_recent\": \"stop\"}');
    INSERT INTO membership VALUES (1, 1, true);
    INSERT INTO import (books_id, id, kind, file_name, person_id) VALUES (1, 1, 'journal', 'old.csv', 1);
    INSERT INTO account (books_id, id, code, live_key, name, kind, class, status, contra, description, intervals)
        VALUES (1, 1, '1010', '1010', 'Bank', 'account', 'asset', 'active', false, '', '');
    INSERT INTO trail (books_id, person_id, what, detail) VALUES (1, 1, 'imported', 'journal from old.csv, 2 rows'),
        (1, 1, 'renamed a line', E'“Löhne”\\t\\\\ \\x01 to \"Wages\"');
    INSERT INTO plan (books_id, id, name, person_id) VALUES (1, 1, 'Draft', 1);
    INSERT INTO plan_change (books_id, plan_id, account_id, field, base, value, person_id)
        VALUES (1, 1, 1, 'name', 'Bank', 'Current account', 1);";

#[tokio::test]
async fn what_was_stored_by_the_first_version_is_read_by_this_one() {
    let url = empty_database().await;
    let pool = PgPool::connect(&url).await.unwrap();
    let first = include_str!("../../migrations/0001_books.sql");
    sqlx::raw_sql(first).execute(&pool).await.unwrap();
    sqlx::raw_sql(OLD).execute(&pool).await.unwrap();
    // As the program would have noted it after its first start.
    let migrator = sqlx::migrate!("./migrations");
    let noted = "CREATE TABLE _sqlx_migrations (version bigint PRIMARY KEY, description text NOT NULL,
        installed_on timestamptz NOT NULL DEFAULT now(), success boolean NOT NULL, checksum bytea NOT NULL,
        execution_time bigint NOT NULL)";
    sqlx::raw_sql(noted).execute(&pool).await.unwrap();
    let oldest = migrator.iter().next().unwrap();
    sqlx::query("INSERT INTO _sqlx_migrations VALUES ($1, $2, now(), true, $3, 0)")
        .bind(oldest.version)
        .bind(&*oldest.description)
        .bind(&*oldest.checksum)
        .execute(&pool)
        .await
        .unwrap();

    let store = Store::connect(&url).await.unwrap();
    let ann = store.person_by_email("ann@books.example").await.unwrap().unwrap();
    let books = store.books_of(ann.id).await.unwrap();
    assert_eq!((books[0].books.name.as_str(), books[0].accounts), ("Old", 1));
    let member = store.member(ann.id, books[0].books.id).await.unwrap();
    let (draft, plan) = store.plan(member, PlanId(1)).await.unwrap();
    assert_eq!((draft.name.as_str(), plan.targets.len()), ("Draft", 1));
    assert_eq!(store.recount(member).await.unwrap().misses, [""; 0]);
    // What was noted before rows were sealed is sealed now, in the same form.
    let head = store.follow_trail(member.books()).await.unwrap().unwrap();
    assert_eq!(head.rows, 2);
    let trail = store.whole_trail(member).await.unwrap();
    let detail_of = |n: usize| match &trail[n].record.detail {
        Detail::Sentence(detail_of) => (trail[n].record.what.as_str(), detail_of.as_str()),
        Detail::Facts(facts) => panic!("sealed anew: {facts}"),
    };
    assert_eq!(detail_of(0), ("imported", "journal from old.csv, 2 rows"));
    assert_eq!(detail_of(1), ("changed_lines", "renamed a line: “Löhne”\t\\ \u{1} to \"Wages\""));
    assert!(member.may(zf_core::access::Capability::Override), "a reviewer has stayed one");
}

#[tokio::test]
async fn a_database_of_a_later_version_is_left_alone_with_a_sentence() {
    let url = empty_database().await;
    let store = Store::connect(&url).await.unwrap();
    assert!(store.schema_is_known().await.unwrap());
    let later = "INSERT INTO _sqlx_migrations VALUES (9999, 'later', now(), true, '', 0)";
    sqlx::raw_sql(later).execute(store.pool()).await.unwrap();
    assert!(!store.schema_is_known().await.unwrap(), "a server that runs sees it, too");
    let refused = Store::connect(&url).await.unwrap_err().to_string();
    assert!(refused.contains("later version") && refused.contains("9999"), "{refused}");
}

#[tokio::test]
async fn servers_that_start_at_once_bring_the_schema_up_to_date_once() {
    let url = empty_database().await;
    let starts = (0..6).map(|_| Store::connect_on(&url, 4));
    for started in futures_util::future::join_all(starts).await {
        assert!(started.unwrap().schema_is_known().await.unwrap());
    }
}
