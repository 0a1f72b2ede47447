//! A server over small books on a port of its own, and people who ask it.

use reqwest::multipart::{Form, Part};
use reqwest::{Client, Method, Response, StatusCode};
use serde_json::{Value, json};
use std::sync::atomic::{AtomicU32, Ordering};
use std::time::Duration;
use zf_server::{App, Config};
use zf_testing::Books;

pub(crate) const PASSWORD: &str = "not a secret";

/// A server on loopback whose letters go into a folder of its own.
pub(crate) fn running() -> Config {
    static COUNT: AtomicU32 = AtomicU32::new(0);
    let count = COUNT.fetch_add(1, Ordering::SeqCst);
    let name = format!("zerofold-letters-{}-{count}", std::process::id());
    Config::on_loopback(4870, &std::env::temp_dir().join(name)).unwrap()
}

pub(crate) struct Site {
    pub(crate) books: Books,
    pub(crate) address: String,
}

impl Site {
    pub(crate) async fn open() -> Self {
        let books = Books::railway().await;
        let hash = password_auth::generate_hash(PASSWORD);
        for name in ["Ann", "Sly"] {
            let email = format!("{}@books.example", name.to_lowercase());
            let id = books.store.add_person(&email, name, &hash).await.unwrap();
            if name == "Ann" {
                books.administer(id).await;
            }
        }
        let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = format!("http://{}", listener.local_addr().unwrap());
        let app = App::new(books.store.clone(), running());
        tokio::spawn(zf_server::serve(app, listener, Box::pin(std::future::pending())));
        Self { books, address }
    }

    pub(crate) fn at(&self, path: &str) -> String {
        let books = self.books.member.books();
        format!("{}{}", self.address, path.replace("BOOKS", &format!("/api/books/{books}")))
    }

    pub(crate) async fn sign_in(&self, email: &str, password: &str) -> (Client, Response) {
        let client = Client::builder().cookie_store(true).build().unwrap();
        let body = json!({ "email": email, "password": password });
        let answer = client.post(self.at("/api/session")).json(&body).send().await.unwrap();
        (client, answer)
    }

    pub(crate) async fn ann(&self) -> Client {
        let (client, answer) = self.sign_in("ann@books.example", PASSWORD).await;
        assert_eq!(answer.status(), StatusCode::OK);
        client
    }

    /// The number of a new draft.
    pub(crate) async fn draft(&self, client: &Client) -> Value {
        let name = json!({ "name": "Draft" });
        self.ask(client, Method::POST, "BOOKS/plans", name).await.1["id"].clone()
    }

    /// The whole crosswalk of a plan, or of an applied one: `path` is that of the plan.
    pub(crate) async fn crosswalk(&self, client: &Client, path: &str) -> Value {
        let mut rows = Vec::new();
        for page in 0.. {
            let path = format!("{path}/crosswalk?page={page}");
            let (status, told) = self.ask(client, Method::GET, &path, Value::Null).await;
            assert_eq!(status, 200, "{told}");
            rows.extend(told["rows"].as_array().unwrap().iter().cloned());
            if page + 1 >= told["pages"].as_u64().unwrap() {
                break;
            }
        }
        json!(rows)
    }

    /// Sends a request and answers status and JSON.
    pub(crate) async fn ask(
        &self,
        client: &Client,
        method: Method,
        path: &str,
        body: Value,
    ) -> (u16, Value) {
        let answer = client.request(method, self.at(path)).json(&body).send().await.unwrap();
        self.settled(client, answer).await
    }

    /// The answer, or what came in the end of what it says is underway.
    async fn settled(&self, client: &Client, answer: Response) -> (u16, Value) {
        let status = answer.status();
        let mut body: Value = answer.json().await.unwrap_or(Value::Null);
        if status != StatusCode::ACCEPTED {
            return (status.as_u16(), body);
        }
        let path = self.at(&format!("BOOKS/imports/{}", body["id"]));
        while body["state"] == "underway" {
            tokio::time::sleep(Duration::from_millis(20)).await;
            let now = client.get(format!("{path}/progress")).send().await.unwrap();
            body = now.json().await.unwrap();
        }
        if body["storing"] == true {
            return (200, json!({ "rows": body["stored"] }));
        }
        let shown = client.get(path).send().await.unwrap();
        (shown.status().as_u16(), shown.json().await.unwrap())
    }

    pub(crate) async fn upload(
        &self,
        client: &Client,
        kind: &str,
        name: &str,
        content: impl Into<Vec<u8>>,
    ) -> (u16, Value) {
        let file = Part::bytes(content.into()).file_name(name.to_owned());
        let form = Form::new().text("kind", kind.to_owned()).part("file", file);
        let answer = client.post(self.at("BOOKS/imports")).multipart(form).send().await.unwrap();
        self.settled(client, answer).await
    }

    pub(crate) async fn lines(&self) -> u64 {
        let today = self.books.store.snapshot(self.books.member).await.unwrap().today;
        today.figures().values().map(|f| f.all.lines).sum()
    }
}
