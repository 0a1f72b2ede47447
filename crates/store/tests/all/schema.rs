//! The schema as a thing: keyed by books, and no foreign key without an index.

use zf_store::Store;
use zf_testing::fresh_database;

async fn names(sql: &str) -> Vec<String> {
    let store = Store::connect(&fresh_database().await).await.unwrap();
    sqlx::query_scalar(sql).fetch_all(store.pool()).await.unwrap()
}

/// Tables that are of no set of books, and why: one PostgreSQL for each part of all books would have each of
/// these once, or hold them for itself.
const OF_THE_SERVER: [(&str, &str); 10] = [
    ("_sqlx_migrations", "which schema a database has"),
    ("books", "it is what the others are keyed by"),
    ("known_device", "of a person, who may be in several books"),
    ("one_time_link", "of a person, or of somebody who is none yet"),
    ("person", "may be a member of several books"),
    ("person_session", "of a person"),
    ("recovery_code", "of a person"),
    ("server_trail", "of the server: sign-ins, people, and books that are gone"),
    ("server_trail_head", "of the server"),
    ("sign_in_try", "before anybody is known"),
];

/// Tables that books may point to although they are no books' own.
const POINTED_TO: [(&str, &str); 2] = [
    ("person", "who did it: looked up by identity, and never joined for figures"),
    ("one_time_link", "an invitation goes when the link does"),
];

#[tokio::test]
async fn every_table_of_the_books_is_keyed_by_books_first() {
    let others = names(
        "SELECT c.relname::text FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'books_id'
         LEFT JOIN pg_index i ON i.indrelid = c.oid AND i.indisprimary
         WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace
           AND (i.indkey[0] IS NULL OR i.indkey[0] <> a.attnum)",
    );
    assert_eq!(others.await, [""; 0]);
    let without = names(
        "SELECT c.relname::text FROM pg_class c
         WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace AND NOT EXISTS (
             SELECT FROM pg_attribute a WHERE a.attrelid = c.oid AND a.attname = 'books_id')
         ORDER BY 1",
    );
    assert_eq!(without.await, OF_THE_SERVER.map(|(table, _)| table), "named with the reason");
}

#[tokio::test]
async fn every_foreign_key_among_books_has_books_first_on_both_sides() {
    let across = names(
        "SELECT DISTINCT k.confrelid::regclass::text FROM pg_constraint k
         JOIN pg_attribute own ON own.attrelid = k.conrelid AND own.attname = 'books_id'
         LEFT JOIN pg_attribute theirs ON theirs.attrelid = k.confrelid
             AND theirs.attname = CASE k.confrelid::regclass::text WHEN 'books' THEN 'id' ELSE 'books_id' END
         WHERE k.contype = 'f' AND k.connamespace = 'public'::regnamespace
           AND (k.conkey[1] <> own.attnum OR k.confkey[1] IS DISTINCT FROM theirs.attnum)
         ORDER BY 1",
    );
    let mut named = POINTED_TO.map(|(table, _)| table);
    named.sort_unstable();
    assert_eq!(across.await, named, "books on one PostgreSQL need nothing of those on another");
}

#[tokio::test]
async fn every_foreign_key_has_an_index() {
    let bare = names(
        "SELECT k.conrelid::regclass::text || '.' || k.conname FROM pg_constraint k
         WHERE k.contype = 'f' AND k.connamespace = 'public'::regnamespace AND NOT EXISTS (
             SELECT FROM pg_index i WHERE i.indrelid = k.conrelid
             AND (i.indkey::smallint[])[0:cardinality(k.conkey) - 1] @> k.conkey)",
    );
    assert_eq!(bare.await, [""; 0], "deleting what they point to would read whole tables");
}

#[tokio::test]
async fn the_trails_are_only_ever_added_to() {
    let books = zf_testing::Books::railway().await;
    for table in ["trail", "server_trail"] {
        for change in ["UPDATE {} SET what = 'x'", "DELETE FROM {}", "TRUNCATE {}"] {
            let change = change.replace("{}", table);
            let changed = sqlx::query(&change).execute(books.store.pool()).await;
            assert!(changed.unwrap_err().to_string().contains("append-only"), "{change}");
        }
    }
}
