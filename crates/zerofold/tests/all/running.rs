//! How a server is run: what it refuses to run as, how the first person comes in, that a backup can be
//! restored, that a trail that was handed out is followed, and that it ends in order.

use crate::commands::{said, zerofold};
use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};
use time::macros::date;
use zf_core::settings::SettingChange;
use zf_testing::{Books, fresh_database};

/// A server in a process of its own, and what it said at the start.
struct Server {
    process: Child,
    said: Vec<String>,
}

impl Server {
    fn start(database: &str, flags: &[&str], lines: usize) -> Self {
        let outbox = std::env::temp_dir().join("zerofold-running-outbox");
        let mut process = Command::new(env!("CARGO_BIN_EXE_zerofold"))
            .args(["serve", "--bind", "127.0.0.1:0", "--database", database])
            .arg("--outbox")
            .arg(outbox)
            .args(flags)
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        let output = BufReader::new(process.stdout.take().unwrap());
        let said = output.lines().map_while(Result::ok).take(lines).collect();
        Self { process, said }
    }

    fn address(&self) -> &str {
        self.said[0].rsplit(' ').next().unwrap()
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

#[test]
fn what_others_can_reach_is_not_served_without_a_proxy_that_ends_tls() {
    let serve = |flags: &[&str]| {
        let nowhere = ["serve", "--database", "postgres://127.0.0.1:1/x"];
        let output = zerofold(&[&nowhere, flags].concat());
        assert!(!output.status.success());
        said(&output)
    };
    let open = ["--bind", "0.0.0.0:4870"];
    let secure = ["--url", "https://fold.example"];
    for flags in
        [&open[..], &[&open[..], &secure].concat(), &[&open[..], &["--proxy", "10.0.0.1"]].concat()]
    {
        assert!(serve(flags).contains("let a proxy end TLS in front"), "{flags:?}");
    }
    let behind = [&open[..], &secure, &["--proxy", "10.0.0.0/8"]].concat();
    assert!(serve(&behind).contains("the database cannot be used"), "that one is tried");
    assert!(serve(&[&behind[..], &["--demo"]].concat()).contains("served on loopback only"));
    for everybody in ["0.0.0.0/0", "::/0"] {
        assert!(serve(&["--proxy", everybody]).contains("is everybody"), "{everybody}");
    }
    let wrong = serve(&["--bind", "nowhere"]);
    assert!(wrong.contains("--bind"), "{wrong}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_server_without_people_shows_a_link_and_is_ready_and_measured() {
    let database = fresh_database().await;
    let metrics =
        std::net::TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().to_string();
    let server = Server::start(&database, &["--metrics", &metrics, "--log", "text"], 3);
    assert!(
        server.said[1].contains("The first person, who administers this server"),
        "{:?}",
        server.said
    );
    assert!(server.said[2].starts_with(&format!("{}/link#", server.address())));
    let get = async |url: String| {
        let answer = reqwest::get(url).await.unwrap();
        (answer.status().as_u16(), answer.text().await.unwrap())
    };
    assert_eq!(get(format!("{}/health", server.address())).await, (200, "alive\n".to_owned()));
    let (status, ready) = get(format!("{}/ready", server.address())).await;
    assert_eq!(
        (status, ready.as_str()),
        (200, r#"{"database":true,"migrations":true,"jobs":true}"#)
    );
    assert_eq!(get(format!("{}/api/books", server.address())).await.0, 401);
    let (_, measured) = get(format!("http://{metrics}/metrics")).await;
    assert!(
        measured.contains(r#"requests_total{method="GET",route="/api/books",status="401"} 1"#),
        "{measured}"
    );
    // What anybody makes up has no figures of its own, or a stranger fills the memory with them.
    for path in ["/api/books", "/api/books/1/made-up", "/made/up"] {
        let method = reqwest::Method::from_bytes(b"MADEUP").unwrap();
        let url = format!("{}{path}", server.address());
        assert!(reqwest::Client::new().request(method, url).send().await.is_ok());
    }
    let (_, measured) = get(format!("http://{metrics}/metrics")).await;
    assert!(measured.contains(r#"{method="other",route="/api/books""#), "{measured}");
    assert!(!measured.to_lowercase().contains("made"), "{measured}");
    let page = get(format!("{}/metrics", server.address())).await.1;
    assert!(!page.contains("requests_total"), "they are shown at their own address only");

    // It ends by itself when it is told to.
    let mut server = server;
    let answered = Command::new("kill").arg("-TERM").arg(server.process.id().to_string()).status();
    assert!(answered.unwrap().success());
    let began = std::time::Instant::now();
    while server.process.try_wait().unwrap().is_none() {
        assert!(began.elapsed().as_secs() < 20, "it does not end");
        tokio::time::sleep(std::time::Duration::from_millis(50)).await;
    }
    assert!(server.process.try_wait().unwrap().unwrap().success());
}

#[tokio::test(flavor = "multi_thread")]
async fn links_begin_with_the_address_that_browsers_use() {
    let database = fresh_database().await;
    let server =
        Server::start(&database, &["--url", "https://fold.example", "--proxy", "127.0.0.1"], 3);
    assert!(server.said[0].ends_with("https://fold.example"));
    assert!(server.said[2].starts_with("https://fold.example/link#"));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_backup_is_restored_and_verified_by_the_script_that_the_handbook_names() {
    let books = Books::railway().await;
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    books.post(&[books.entry(date!(2026 - 05 - 01), coal, bank, 12_300)]).await;
    let plan = books.stage("5020 fate merge 5010").await;
    books.apply(plan).await.unwrap();
    let head = books.store.follow_trail(books.member.books()).await.unwrap().unwrap();
    let drill = || {
        let script = concat!(env!("CARGO_MANIFEST_DIR"), "/../../bin/restore-drill");
        Command::new(script)
            .env("DATABASE_URL", &books.url)
            .env("ZEROFOLD", env!("CARGO_BIN_EXE_zerofold"))
            .output()
            .unwrap()
    };
    let output = drill();
    assert!(output.status.success(), "{}", said(&output));
    let answered = said(&output);
    assert!(
        answered.contains("2 lines, 0 misses") && answered.contains(&head.seal.to_string()),
        "{answered}"
    );
    let left =
        books.names("SELECT datname::text FROM pg_database WHERE datname LIKE 'zerofold_drill%'");
    assert_eq!(left.await, [""; 0], "nothing is left of it");
    // A backup of what was touched is whole, and says so.
    books.tamper("UPDATE strand_total SET debit = debit + 1").await;
    assert!(!drill().status.success());
}

#[tokio::test(flavor = "multi_thread")]
async fn a_trail_that_was_handed_out_is_followed_without_a_database() {
    let books = Books::railway().await;
    for name in ["Second", "Third “books”"] {
        let change = SettingChange::Name(name.to_owned());
        books.store.change_setting(books.member, &change).await.unwrap();
    }
    let mut before = zf_core::trail::Seal::FIRST;
    let rows = books.store.whole_trail(books.member).await.unwrap();
    let lines: Vec<String> = rows
        .iter()
        .map(|row| {
            let line = row.record.line(before, row.seal);
            before = row.seal;
            line
        })
        .collect();
    let file = std::env::temp_dir().join(format!("zerofold-trail-{}.jsonl", std::process::id()));
    let path = file.to_str().unwrap();
    let verify = |content: String, rest: &[&str]| {
        std::fs::write(&file, content).unwrap();
        let output = zerofold(&[&["verify", "--trail", path], rest].concat());
        (output.status.success(), said(&output))
    };
    let head = before.to_string();
    let (sound, answered) = verify(lines.concat(), &[]);
    assert!(
        sound && answered.contains(&format!("{} rows follow one from the other", rows.len())),
        "{answered}"
    );
    assert!(verify(lines.concat(), &["--head", &head]).0);
    let fewer = lines[..lines.len() - 1].concat();
    assert!(verify(fewer.clone(), &[]).0, "by itself it is whole");
    let (sound, answered) = verify(fewer, &["--head", &head]);
    assert!(!sound && answered.contains("rows are gone"), "{answered}");
    let (sound, answered) = verify(lines.concat().replace("Second", "Sekond"), &[]);
    assert!(!sound && answered.contains("was changed since it was sealed"), "{answered}");
    assert!(!verify("{}\n".to_owned(), &[]).0);
    let (sound, answered) = verify(String::new(), &[]);
    assert!(!sound && answered.contains("there is no row"), "{answered}");
    std::fs::remove_file(file).unwrap();
}
