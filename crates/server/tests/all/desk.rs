//! Books with a little history, and a draft.

use crate::site::Site;
use reqwest::{Client, Method};
use serde_json::{Value, json};
use time::macros::date;

pub(crate) struct Desk {
    pub(crate) site: Site,
    pub(crate) ann: Client,
    pub(crate) plan: Value,
}

impl Desk {
    /// Three entries on coal over two years, and a draft.
    pub(crate) async fn open() -> Self {
        let site = Site::open().await;
        let books = &site.books;
        let (bank, coal) = (books.id("1010").await, books.id("5010").await);
        let entries = [
            (date!(2025 - 11 - 05), 1_000),
            (date!(2026 - 02 - 05), 300),
            (date!(2026 - 04 - 05), 50),
        ];
        let entries: Vec<_> =
            entries.iter().map(|(day, amount)| books.entry(*day, coal, bank, *amount)).collect();
        books.post(&entries).await;
        let ann = site.ann().await;
        let plan = site.draft(&ann).await;
        Self { site, ann, plan }
    }

    pub(crate) async fn ask(&self, method: Method, path: &str, body: Value) -> (u16, Value) {
        self.site.ask(&self.ann, method, path, body).await
    }

    pub(crate) async fn id(&self, code: &str) -> i64 {
        self.site.books.id(code).await.0
    }

    pub(crate) async fn stage(&self, account: i64, field: &str, value: Value) -> (u16, Value) {
        let wanted = json!({ "stage": { "field": field, "value": value } });
        let edit = json!({ "account": account, "seen": null, "wanted": wanted });
        let path = format!("BOOKS/plans/{}/edits", self.plan);
        let (status, told) = self.ask(Method::POST, &path, json!({ "edits": [edit] })).await;
        (status, if status == 200 { told["plan"]["whole"].clone() } else { told })
    }
}
