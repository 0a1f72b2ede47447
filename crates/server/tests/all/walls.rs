//! Walls that hold against people inside: who administers the server gets into no books by it, links end
//! with the rights of whoever made them, books keep an owner, and nobody guesses within a session.

use crate::people::{GOOD, letter, shown, stranger};
use crate::site::{PASSWORD, Site};
use reqwest::{Client, Method};
use serde_json::{Value, json};
use zf_core::access::Role;
use zf_core::ids::PersonId;

impl Site {
    /// The number of somebody.
    async fn id(&self, email: &str) -> PersonId {
        self.books.store.person_by_email(email).await.unwrap().unwrap().id
    }

    /// Somebody who administers the server and is in no books.
    async fn dora(&self) -> Client {
        let hash = password_auth::generate_hash(PASSWORD);
        let id = self.books.store.add_person("dora@firm.example", "Dora", &hash).await.unwrap();
        self.books.administer(id).await;
        self.sign_in("dora@firm.example", PASSWORD).await.0
    }

    /// What stands in both trails of a kind of action.
    async fn trails(&self, ann: &Client, action: &str) -> [String; 2] {
        let mut answered = [String::new(), String::new()];
        for (answered, path) in answered.iter_mut().zip(["/api/trail", "BOOKS/trail"]) {
            let path = format!("{path}?action={action}");
            let (_, trail) = self.ask(ann, Method::GET, &path, Value::Null).await;
            let row = &trail["rows"][0];
            *answered = format!(
                "{} {}",
                row["person"].as_str().unwrap_or_default(),
                row["detail"].as_str().unwrap_or_default()
            );
        }
        answered
    }

    async fn follow(&self, link: &str) -> (Client, u16, Value) {
        let somebody = stranger();
        let body = json!({ "link": link, "password": GOOD });
        let (status, answered) = self.ask(&somebody, Method::POST, "/api/link/follow", body).await;
        (somebody, status, answered)
    }
}

#[tokio::test]
async fn an_administrator_gets_into_no_books_by_a_link_and_what_they_do_is_told() {
    let site = Site::open().await;
    let (ann, dora) = (site.ann().await, site.dora().await);
    let sly = site.id("sly@books.example").await;
    site.books.add_member(sly, &[Role::Preparer]).await;
    let path = format!("/api/people/{sly}/password-link");
    let (status, answer) = site.ask(&dora, Method::POST, &path, Value::Null).await;
    assert_eq!((status, &answer["to"]), (201, &json!("sly@books.example")));
    assert!(!answer.to_string().contains("/link#"), "only Sly is shown it: {answer}");
    let news = letter(&site, "ann@books.example", "link for a new password").await;
    assert!(news.contains("Dora had a link sent") && news.contains("Sly’s password"), "{news}");

    let (_, me) = site.ask(&ann, Method::GET, "/api/session", Value::Null).await;
    assert_eq!(me["links_used"], json!([]));
    let link = shown(&letter(&site, "sly@books.example", "A new password").await);
    assert_eq!(site.follow(&link).await.1, 204);
    // The owner is told at sign-in, by letter, and in the trail of the books: not that Sly did it alone.
    let (_, me) = site.ask(&ann, Method::GET, "/api/session", Value::Null).await;
    assert_eq!(me["links_used"][0]["name"], "Sly");
    assert_eq!(me["links_used"][0]["sent_by"], "Dora");
    let (_, hers) = site.ask(&dora, Method::GET, "/api/session", Value::Null).await;
    assert_eq!(hers["links_used"], json!([]), "Dora owns no books");
    for to in ["ann@books.example", "sly@books.example"] {
        let news = letter(&site, to, "password for Zero Fold was changed").await;
        assert!(news.contains("by a link that Dora had sent"), "{to}: {news}");
    }
    let [server, books] = site.trails(&ann, "changed_password").await;
    assert!(server.contains("by a link that Dora had sent"), "{server}");
    assert_eq!(books, "Sly by a link that Dora had sent");
    // After a day it is history.
    site.books.tamper("UPDATE person SET linked_at = linked_at - interval '25 hours'").await;
    let (_, me) = site.ask(&ann, Method::GET, "/api/session", Value::Null).await;
    assert_eq!(me["links_used"], json!([]));
    assert!(site.books.store.follow_trail(site.books.member.books()).await.unwrap().is_ok());
}

#[tokio::test]
async fn a_second_factor_that_an_administrator_removes_is_told_to_person_and_owners() {
    let site = Site::open().await;
    let (ann, dora) = (site.ann().await, site.dora().await);
    let sly = site.id("sly@books.example").await;
    site.books.add_member(sly, &[Role::Reader]).await;
    let path = format!("/api/people/{sly}/factor");
    assert_eq!(site.ask(&dora, Method::DELETE, &path, Value::Null).await.0, 409, "there is none");
    let set =
        format!("UPDATE person SET factor_secret = '\\x00', factor_since = now() WHERE id = {sly}");
    site.books.tamper(&set).await;
    assert_eq!(site.ask(&dora, Method::DELETE, &path, Value::Null).await.0, 204);
    for (to, whose) in [("ann@books.example", "Sly’s"), ("sly@books.example", "your")] {
        let news = letter(&site, to, "second factor").await;
        assert!(news.contains(&format!("Dora removed {whose} second factor")), "{to}: {news}");
    }
    let answered = site.trails(&ann, "removed_factor").await;
    assert_eq!(answered, ["Dora of Sly", "Dora of Sly"]);
}

#[tokio::test]
async fn who_is_let_in_is_told_and_so_are_the_other_owners() {
    let site = Site::open().await;
    let (ann, sly) = (site.ann().await, site.id("sly@books.example").await);
    site.books.add_member(sly, &[Role::Owner]).await;
    site.dora().await;
    let body = json!({ "email": "dora@firm.example", "roles": ["reader"] });
    assert_eq!(site.ask(&ann, Method::PUT, "BOOKS/members", body).await.0, 200);
    let news = letter(&site, "dora@firm.example", "added to").await;
    assert!(news.contains("You were added to") && news.contains("as reader, by Ann"), "{news}");
    for owner in ["ann@books.example", "sly@books.example"] {
        let news = letter(&site, owner, "added to").await;
        assert!(news.contains("Dora was added to"), "{owner}: {news}");
    }
}

#[tokio::test]
async fn an_invitation_gives_nothing_that_whoever_made_it_may_not_give_any_more() {
    let site = Site::open().await;
    let (ann, dora) = (site.ann().await, site.dora().await);
    let dora_id = site.id("dora@firm.example").await;
    let ann_id = site.id("ann@books.example").await;
    let invite = async |who: &Client, name: &str| {
        let email = format!("{name}@firm.example");
        let body = json!({ "email": email, "name": name, "administrator": true });
        assert_eq!(site.ask(who, Method::POST, "/api/people/invitations", body).await.0, 201);
        shown(&letter(&site, &email, "invitation").await)
    };
    let link = invite(&dora, "eve").await;
    let (_, people) = site.ask(&ann, Method::GET, "/api/people", Value::Null).await;
    assert_eq!(people["invitations"][0]["administrator"], true, "the list shows what it gives");
    let administer = format!("/api/people/{dora_id}/administrator");
    let end = json!({ "administrator": false });
    assert_eq!(site.ask(&ann, Method::PUT, &administer, end).await.0, 204);
    let (_, status, answered) = site.follow(&link).await;
    assert_eq!(status, 409);
    assert!(answered["detail"].as_str().unwrap().contains("may not do so any more"), "{answered}");
    assert!(site.books.store.person_by_email("eve@firm.example").await.unwrap().is_none());

    // The same of who let in to books and was let out of them.
    site.books.add_member(dora_id, &[Role::Owner]).await;
    let body = json!({ "email": "fay@firm.example", "name": "Fay", "roles": ["owner"] });
    assert_eq!(site.ask(&dora, Method::PUT, "BOOKS/members", body).await.0, 200);
    let link = shown(&letter(&site, "fay@firm.example", "invitation").await);
    let look = json!({ "link": link });
    assert_eq!(site.ask(&stranger(), Method::POST, "/api/link", look.clone()).await.0, 200);
    let out = format!("BOOKS/members/{dora_id}");
    assert_eq!(site.ask(&ann, Method::DELETE, &out, Value::Null).await.0, 204);
    assert_eq!(site.ask(&stranger(), Method::POST, "/api/link", look).await.0, 409);
    assert_eq!(site.follow(&link).await.1, 409);

    // Whoever is removed leaves no links behind.
    let link = invite(&ann, "gil").await;
    let (status, answered) =
        site.ask(&ann, Method::DELETE, &format!("/api/people/{dora_id}"), Value::Null).await;
    assert_eq!(status, 204, "{answered}");
    assert_eq!(site.follow(&link).await.1, 204, "Ann's stands");
    let left =
        format!("SELECT 1 / (count(*) = 0)::int FROM one_time_link WHERE made_by = {dora_id}");
    site.books.tamper(&left).await;
    let [server, _] = site.trails(&ann, "removed_person").await;
    assert!(server.contains("lead nowhere any more"), "{server}");
    assert_ne!(ann_id, dora_id);
}

#[tokio::test]
async fn books_are_never_left_without_an_owner_and_get_a_new_one_when_they_are() {
    let site = Site::open().await;
    let (ann, dora) = (site.ann().await, site.dora().await);
    let (ann_id, dora_id) =
        (site.id("ann@books.example").await, site.id("dora@firm.example").await);
    let all = json!(["owner", "reviewer", "preparer"]);
    let until = |email: &str| json!({ "email": email, "roles": all, "until": "2199-12-31" });
    let (status, answered) =
        site.ask(&ann, Method::PUT, "BOOKS/members", until("ann@books.example")).await;
    assert_eq!((status, &answered["code"]), (409, &json!("refused")));
    assert!(answered["detail"].as_str().unwrap().contains("whose time does not end"), "{answered}");
    // An owner for a time is no owner to leave the books to.
    assert_eq!(
        site.ask(&ann, Method::PUT, "BOOKS/members", until("dora@firm.example")).await.0,
        200
    );
    let out = format!("BOOKS/members/{ann_id}");
    assert_eq!(site.ask(&ann, Method::DELETE, &out, Value::Null).await.0, 409);
    let remove = format!("/api/people/{ann_id}");
    let (status, answered) = site.ask(&dora, Method::DELETE, &remove, Value::Null).await;
    assert_eq!(status, 409, "{answered}");

    // Owned books are given to nobody by an administrator, and those without an owner are, in both trails.
    let give = format!("/api/people/{dora_id}/books");
    let which = json!({ "books": site.books.member.books().0 });
    assert_eq!(site.ask(&dora, Method::POST, &give, which.clone()).await.0, 409);
    site.books.tamper("UPDATE membership SET until = now() - interval '1 day'").await;
    let (_, people) = site.ask(&dora, Method::GET, "/api/people", Value::Null).await;
    assert_eq!(people["without_owner"].as_array().unwrap().len(), 1);
    assert_eq!(site.ask(&dora, Method::POST, &give, which).await.0, 204);
    let answered = site.trails(&dora, "gave_owner").await;
    assert!(answered[0].starts_with("Dora Dora: “") && answered[1] == "Dora Dora", "{answered:?}");
    let (_, people) = site.ask(&dora, Method::GET, "/api/people", Value::Null).await;
    assert_eq!(people["without_owner"], json!([]));
}

#[tokio::test]
async fn whoever_guesses_within_a_session_is_stopped() {
    let site = Site::open().await;
    let (sly, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let mut answers = Vec::new();
    for n in 0..12 {
        let change = json!({ "password": format!("guess {n}"), "new_password": GOOD });
        answers.push(site.ask(&sly, Method::PUT, "/api/account/password", change).await.0);
    }
    assert_eq!(answers.iter().filter(|status| **status == 422).count(), 8, "{answers:?}");
    assert_eq!(answers[8..], [429; 4]);
    let right = json!({ "password": PASSWORD });
    assert_eq!(site.ask(&sly, Method::POST, "/api/account/factor", right).await.0, 429);
}

#[tokio::test]
async fn a_new_address_is_confirmed_by_a_letter_and_voids_what_was_sent_to_the_old_one() {
    let site = Site::open().await;
    let (sly, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let forgot = json!({ "email": "sly@books.example" });
    assert_eq!(site.ask(&stranger(), Method::POST, "/api/link/forgotten", forgot).await.0, 204);
    let old = shown(&letter(&site, "sly@books.example", "A new password").await);
    let new = json!({ "email": "new@books.example", "password": PASSWORD });
    assert_eq!(site.ask(&sly, Method::PUT, "/api/account/email", new).await.0, 204);
    let email =
        async || site.ask(&sly, Method::GET, "/api/session", Value::Null).await.1["email"].clone();
    assert_eq!(email().await, "sly@books.example", "nobody confirmed it");
    let answered = letter(&site, "sly@books.example", "is to be changed").await;
    assert!(answered.contains("new@books.example"), "{answered}");
    let link = shown(&letter(&site, "new@books.example", "Confirm").await);
    // It gives no password, and a link for a password confirms no address.
    assert_eq!(site.follow(&link).await.1, 409);
    let confirm = async |link: &str| {
        let body = json!({ "link": link });
        site.ask(&stranger(), Method::POST, "/api/link/confirm", body).await.0
    };
    assert_eq!(confirm(&old).await, 409);
    assert_eq!(confirm(&link).await, 204);
    assert_eq!(confirm(&link).await, 409, "once");
    assert_eq!(email().await, "new@books.example");
    assert_eq!(site.follow(&old).await.1, 409, "whoever reads the old letters chooses no password");
}

#[tokio::test]
async fn who_signs_in_ends_the_session_of_whoever_was_signed_in_with_that_browser() {
    let site = Site::open().await;
    let (client, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let sly = site.id("sly@books.example").await;
    assert_eq!(site.books.store.sessions_of(sly).await.unwrap().len(), 1);
    let body = json!({ "email": "ann@books.example", "password": PASSWORD });
    assert_eq!(site.ask(&client, Method::POST, "/api/session", body).await.0, 200);
    assert_eq!(site.books.store.sessions_of(sly).await.unwrap().len(), 0);
    let (_, me) = site.ask(&client, Method::GET, "/api/session", Value::Null).await;
    assert_eq!(me["email"], "ann@books.example");
}

#[tokio::test]
async fn a_network_of_ipv6_counts_as_one_client() {
    let running = crate::site::running().behind(vec!["127.0.0.0/8".parse().unwrap()]);
    let site = Site::run(running).await;
    let mut answers = Vec::new();
    for n in 0..30 {
        let body =
            json!({ "email": format!("nobody{n}@books.example"), "password": "something else" });
        let request = Client::new().post(site.at("/api/session")).json(&body);
        let from = format!("2001:db8:1:2:{n:x}::{n:x}");
        let answer = request.header("x-forwarded-for", from).send().await.unwrap();
        answers.push(answer.status().as_u16());
    }
    assert_eq!(answers.iter().filter(|status| **status == 401).count(), 24, "{answers:?}");
}

#[tokio::test]
async fn refused_sign_ins_are_noted_once_and_long_addresses_are_none() {
    let site = Site::open().await;
    let rows = async || site.books.done_to_server(1).await.1;
    let before = rows().await;
    let guess = async |email: String| {
        let body = json!({ "email": email, "password": "something else" });
        site.ask(&stranger(), Method::POST, "/api/session", body).await.0
    };
    for _ in 0..6 {
        assert_eq!(guess("sly@books.example".to_owned()).await, 401);
    }
    assert_eq!(rows().await - before, 1);
    // However many addresses are tried beyond the limit of one client, it is one row more.
    for n in 0..60 {
        guess(format!("nobody{n}@books.example")).await;
    }
    let noted = rows().await - before;
    assert!((19..=21).contains(&noted), "{noted} rows");
    let long = format!("{}@books.example", "a".repeat(32_000));
    assert_eq!(guess(long).await, 422);
    assert_eq!(rows().await - before, noted);
}
