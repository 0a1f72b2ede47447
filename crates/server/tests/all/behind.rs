//! What stands around a server: a proxy that speaks for others, TLS that ends before it, a mail server.

use crate::site::{PASSWORD, Site, running};
use reqwest::{Client, Method, Response};
use serde_json::{Value, json};
use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpListener;
use zf_server::{App, Config, Mail};
use zf_testing::Books;

impl Site {
    /// The site of small books, run in this way.
    pub(crate) async fn run(running: Config) -> Self {
        let books = Books::railway().await;
        let hash = password_auth::generate_hash(PASSWORD);
        let id = books.store.add_person("ann@books.example", "Ann", &hash).await.unwrap();
        books.administer(id).await;
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = format!("http://{}", listener.local_addr().unwrap());
        let app = App::new(books.store.clone(), running);
        tokio::spawn(zf_server::serve(app, listener, Box::pin(std::future::pending())));
        Self { books, address }
    }

    /// Signs in as somebody whom a proxy says it speaks for.
    async fn sign_in_from(&self, forwarded: &str) -> Response {
        let body = json!({ "email": "ann@books.example", "password": PASSWORD });
        let request = Client::new().post(self.at("/api/session")).json(&body);
        request.header("x-forwarded-for", forwarded).send().await.unwrap()
    }

    /// Where the last sign-in came from, as it was noted.
    async fn last_from(&self) -> String {
        self.books.done_to_server(1).await.0.remove(0).detail
    }
}

#[tokio::test]
async fn a_proxy_that_is_believed_says_whom_it_speaks_for_and_nobody_else_does() {
    let proxies = ["127.0.0.0/8", "10.0.0.0/8"].map(|net| net.parse().unwrap());
    let behind = Site::run(running().behind(proxies.to_vec())).await;
    for (said, client) in [
        ("203.0.113.9", "203.0.113.9"),
        // What stands left of the last proxy that is believed anybody can have written.
        ("198.51.100.1, 203.0.113.9, 10.1.2.3", "203.0.113.9"),
        ("2001:db8::7", "2001:db8::7"),
        ("203.0.113.9:4711", "203.0.113.9"),
        ("[2001:db8::7]", "2001:db8::7"),
        ("198.51.100.1, [2001:db8::7]:4711, 10.1.2.3:80", "2001:db8::7"),
        ("nonsense", "127.0.0.1"),
        ("", "127.0.0.1"),
    ] {
        assert!(behind.sign_in_from(said).await.status().is_success());
        assert_eq!(behind.last_from().await, format!("from {client}"), "{said}");
    }
    let alone = Site::run(running()).await;
    assert!(alone.sign_in_from("203.0.113.9").await.status().is_success());
    assert_eq!(alone.last_from().await, "from 127.0.0.1");
}

#[tokio::test]
async fn cookies_and_browsers_keep_to_tls_where_it_ends_before_the_server() {
    let letters = std::env::temp_dir().join(format!("zerofold-letters-tls-{}", std::process::id()));
    let mail = Mail::into_folder("zerofold@firm.example", &letters).unwrap();
    let secure = Site::run(Config::at("https://fold.firm.example/", mail)).await;
    let answer = secure.sign_in_from("").await;
    let cookies: Vec<_> = answer.headers().get_all("set-cookie").iter().collect();
    assert_eq!(cookies.len(), 2, "the session, and the device");
    assert!(
        cookies.iter().all(|cookie| cookie.to_str().unwrap().contains("Secure")),
        "{cookies:?}"
    );
    let lasting = &answer.headers()["strict-transport-security"];
    assert_eq!(lasting, "max-age=31536000; includeSubDomains");
    let plain = Site::run(running()).await.sign_in_from("").await;
    assert!(plain.headers().get("strict-transport-security").is_none());
    assert!(!plain.headers()["set-cookie"].to_str().unwrap().contains("Secure"));
}

/// A mail server that takes one letter, and answers what it was.
async fn post_office(listener: TcpListener) -> String {
    let (stream, _) = listener.accept().await.unwrap();
    let (reader, mut writer) = stream.into_split();
    let mut lines = BufReader::new(reader).lines();
    writer.write_all(b"220 post office\r\n").await.unwrap();
    let (mut letter, mut within) = (String::new(), false);
    while let Some(line) = lines.next_line().await.unwrap() {
        let answer = match line.as_str() {
            "." => {
                writer.write_all(b"250 taken\r\n").await.unwrap();
                return letter;
            }
            _ if within => {
                letter.push_str(&line);
                letter.push('\n');
                continue;
            }
            "DATA" => {
                within = true;
                "354 go on\r\n"
            }
            _ => "250 yes\r\n",
        };
        writer.write_all(answer.as_bytes()).await.unwrap();
    }
    letter
}

#[tokio::test]
async fn letters_go_out_by_smtp_when_that_is_set_up_and_there_is_no_outbox() {
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let office = format!("smtp://{}", listener.local_addr().unwrap());
    let mail = Mail::by_smtp("Zero Fold <fold@firm.example>", &office).unwrap();
    let site = Site::run(Config::at("http://fold.firm.example", mail)).await;
    let taken = tokio::spawn(post_office(listener));
    let ann = site.ann().await;
    let body = json!({ "email": "bea@firm.example", "name": "Bea", "administrator": false });
    let (status, handed) = site.ask(&ann, Method::POST, "/api/people/invitations", body).await;
    assert_eq!(status, 201, "{handed}");
    let letter = taken.await.unwrap();
    for part in [
        "To: bea@firm.example",
        "From: \"Zero Fold\" <fold@firm.example>",
        "Hello Bea,",
        "http://fold.firm.example/link#",
    ] {
        assert!(letter.contains(part), "{part} is not in {letter}");
    }
    assert_eq!(site.ask(&ann, Method::GET, "/api/outbox", Value::Null).await.0, 404);
    // Without anybody there it is said that the letter did not go out; nobody else is shown the link.
    let body = json!({ "email": "cy@firm.example", "name": "Cy", "administrator": false });
    let (status, told) = site.ask(&ann, Method::POST, "/api/people/invitations", body).await;
    assert_eq!((status, &told["code"]), (502, &json!("letter_not_sent")), "{told}");
    assert!(Mail::by_smtp("nobody", &office).is_err());
    let wrong = Mail::by_smtp("fold@firm.example", "carrier pigeon").unwrap_err().to_string();
    assert!(wrong.contains("no address of a mail server"), "{wrong}");
}
