//! The schema as a thing: keyed by books, and no foreign key without an index.

use zf_store::Store;
use zf_testing::fresh_database;

async fn names(sql: &str) -> Vec<String> {
    let store = Store::connect(&fresh_database().await).await.unwrap();
    sqlx::query_scalar(sql).fetch_all(store.pool()).await.unwrap()
}

#[tokio::test]
async fn every_table_of_the_books_is_keyed_by_books_first() {
    let others = names(
        "SELECT c.relname::text FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'books_id'
         LEFT JOIN pg_index i ON i.indrelid = c.oid AND i.indisprimary
         WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace
           AND (i.indkey[0] IS NULL OR i.indkey[0] <> a.attnum)",
    );
    assert_eq!(others.await, [""; 0]);
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
async fn the_trail_is_only_ever_added_to() {
    let books = zf_testing::Books::railway().await;
    let changed = sqlx::query("UPDATE trail SET what = 'x'").execute(books.store.pool()).await;
    assert!(changed.unwrap_err().to_string().contains("append-only"));
}
