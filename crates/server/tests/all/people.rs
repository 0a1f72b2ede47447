//! How people come in, what they change of themselves, and what is noted of it.

use crate::site::{PASSWORD, Site, running};
use reqwest::{Client, Method};
use serde_json::{Value, json};
use zf_server::App;
use zf_store::Store;
use zf_testing::fresh_database;

pub(crate) const GOOD: &str = "anvil toast meridian";

/// What the latest letter to somebody says whose subject has these words.
pub(crate) async fn letter(site: &Site, to: &str, subject: &str) -> String {
    let ann = site.ann().await;
    for _ in 0..100 {
        let (_, letters) = site.ask(&ann, Method::GET, "/api/outbox", Value::Null).await;
        let found = letters.as_array().unwrap().iter().find(|letter| {
            letter["to"] == to && letter["subject"].as_str().unwrap().contains(subject)
        });
        if let Some(found) = found {
            return found["text"].as_str().unwrap().to_owned();
        }
        tokio::time::sleep(std::time::Duration::from_millis(50)).await;
    }
    panic!("no letter to {to} about “{subject}” came");
}

pub(crate) fn shown(link: &str) -> String {
    let rest = link.split_once("/link#").expect("there is a link").1;
    rest.split_whitespace().next().unwrap().to_owned()
}

pub(crate) fn stranger() -> Client {
    Client::builder().cookie_store(true).build().unwrap()
}

/// What was noted of the server last.
async fn noted(site: &Site, count: i64) -> Vec<String> {
    let (rows, _) = site.books.done_to_server(count).await;
    rows.into_iter().map(|row| format!("{} {}", row.by, row.what)).collect()
}

#[tokio::test]
async fn the_first_person_comes_by_a_link_once_and_sees_no_books() {
    let store = Store::connect(&fresh_database().await).await.unwrap();
    let app = App::new(store.clone(), running());
    let old = shown(&app.link_for_first().await.unwrap());
    let link = shown(&app.link_for_first().await.unwrap());
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let at = format!("http://{}", listener.local_addr().unwrap());
    tokio::spawn(zf_server::serve(app, listener, Box::pin(std::future::pending())));
    let client = stranger();
    let post = async |path: &str, body: Value| {
        let answer = client.post(format!("{at}{path}")).json(&body).send().await.unwrap();
        (answer.status().as_u16(), answer.json::<Value>().await.unwrap_or_default())
    };
    assert_eq!(
        post("/api/link", json!({ "link": old })).await.0,
        409,
        "only the last one leads anywhere"
    );
    assert_eq!(post("/api/link", json!({ "link": link })).await.1["purpose"], "first");
    let follow = |password: &str| json!({ "link": link, "name": "Ada First", "email": "Ada@Firm.example", "password": password });
    let (status, problem) = post("/api/link/follow", follow("password1234")).await;
    assert_eq!((status, &problem["refused"][0]["field"]), (422, &json!("password")));
    assert_eq!(post("/api/link/follow", follow(GOOD)).await.0, 204);
    assert_eq!(post("/api/link/follow", follow(GOOD)).await.0, 409, "it is followed once");
    let get = async |path: &str| -> Value {
        client.get(format!("{at}{path}")).send().await.unwrap().json().await.unwrap()
    };
    let me = get("/api/session").await;
    assert_eq!((&me["email"], &me["administrator"]), (&json!("ada@firm.example"), &json!(true)));
    assert_eq!(get("/api/books").await, json!([]));
    assert!(store.follow_server_trail().await.unwrap().is_ok());
}

#[tokio::test]
async fn somebody_is_invited_by_a_letter_to_books_with_roles_and_comes_in() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let admit = |roles: Value, name: &str| json!({ "email": "Bob@firm.example", "name": name, "roles": roles });
    for (body, field) in [
        (admit(json!([]), "Bob"), "roles"),
        (admit(json!(["guest", "owner"]), "Bob"), "roles"),
        (admit(json!(["guest"]), "Bob"), "until"),
        (admit(json!(["reader"]), " "), "name"),
    ] {
        let (status, problem) = site.ask(&ann, Method::PUT, "BOOKS/members", body).await;
        assert_eq!((status, &problem["refused"][0]["field"]), (422, &json!(field)));
    }
    let body = admit(json!(["preparer", "reader"]), "Bob");
    let (status, admitted) = site.ask(&ann, Method::PUT, "BOOKS/members", body).await;
    assert_eq!(status, 200, "{admitted}");
    assert!(!admitted.to_string().contains("link"), "nobody but Bob is shown it: {admitted}");
    let handed = shown(&letter(&site, "bob@firm.example", "invitation").await);
    let bob = stranger();
    let follow = json!({ "link": handed, "name": "Bob Prepares", "password": GOOD, "email": null });
    assert_eq!(site.ask(&bob, Method::POST, "/api/link/follow", follow).await.0, 204);
    let (_, listed) = site.ask(&bob, Method::GET, "/api/books", Value::Null).await;
    assert_eq!(listed.as_array().unwrap().len(), 1);
    assert_eq!(site.ask(&bob, Method::GET, "BOOKS/chart", Value::Null).await.0, 200);
    let (_, members) = site.ask(&ann, Method::GET, "BOOKS/members", Value::Null).await;
    assert_eq!(members["invitations"], json!([]));
    let (_, trail) = site.ask(&ann, Method::GET, "BOOKS/trail?action=let_in", Value::Null).await;
    assert_eq!(trail["rows"][0]["detail"], "Bob Prepares as preparer, reader, as invited");

    // Roles are changed, and the last owner stays one.
    let body = json!({ "email": "bob@firm.example", "roles": ["reader"] });
    assert_eq!(site.ask(&ann, Method::PUT, "BOOKS/members", body).await.0, 200);
    let plan = site.ask(&bob, Method::POST, "BOOKS/plans", json!({ "name": "x" })).await;
    assert_eq!((plan.0, &plan.1["code"]), (403, &json!("not_yours")));
    let own = json!({ "email": "ann@books.example", "roles": ["reader"] });
    let (status, problem) = site.ask(&ann, Method::PUT, "BOOKS/members", own).await;
    assert_eq!((status, &problem["code"]), (409, &json!("refused")), "{problem}");
}

#[tokio::test]
async fn an_invitation_that_was_withdrawn_or_is_too_old_leads_nowhere() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let invite = async || {
        let body = json!({ "email": "cy@firm.example", "name": "Cy", "administrator": false });
        assert_eq!(site.ask(&ann, Method::POST, "/api/people/invitations", body).await.0, 201);
        shown(&letter(&site, "cy@firm.example", "invitation").await)
    };
    let look = async |link: &str| {
        site.ask(&stranger(), Method::POST, "/api/link", json!({ "link": link })).await.0
    };
    let first = invite().await;
    let second = invite().await;
    assert_eq!((look(&first).await, look(&second).await), (409, 200));
    let gone = json!({ "email": "cy@firm.example" });
    let path = "/api/people/invitations/withdrawal";
    assert_eq!(site.ask(&ann, Method::POST, path, gone.clone()).await.0, 204);
    assert_eq!(site.ask(&ann, Method::POST, path, gone).await.0, 404);
    assert_eq!(look(&second).await, 409);
    let third = invite().await;
    site.books.tamper("UPDATE one_time_link SET expires_at = now() - interval '1 second'").await;
    assert_eq!(look(&third).await, 409);
    assert_eq!(look("made up").await, 409);
}

#[tokio::test]
async fn a_forgotten_password_is_chosen_anew_and_all_sessions_end() {
    let site = Site::open().await;
    let (sly, _) = site.sign_in("sly@books.example", PASSWORD).await;
    for email in ["nobody@books.example", "sly@books.example"] {
        let body = json!({ "email": email });
        let asked = site.ask(&stranger(), Method::POST, "/api/link/forgotten", body).await;
        assert_eq!(asked, (204, Value::Null), "nobody learns who there is");
    }
    let link = shown(&letter(&site, "sly@books.example", "A new password").await);
    let follow = json!({ "link": link, "password": GOOD });
    let new = stranger();
    assert_eq!(site.ask(&new, Method::POST, "/api/link/follow", follow).await.0, 204);
    assert_eq!(site.ask(&new, Method::GET, "/api/books", Value::Null).await.0, 200);
    assert_eq!(site.ask(&sly, Method::GET, "/api/books", Value::Null).await.0, 401);
    assert_eq!(site.sign_in("sly@books.example", PASSWORD).await.1.status(), 401);
    assert_eq!(site.sign_in("sly@books.example", GOOD).await.1.status(), 200);
    let noted = noted(&site, 9).await;
    for action in [
        "Sly signed_in",
        "sly@books.example failed_sign_in",
        "Sly changed_password",
        "sly@books.example asked_for_password",
    ] {
        assert!(noted.iter().any(|note| note == action), "{action}: {noted:?}");
    }
}

/// What a device shows now for a secret that was typed into it.
fn device(secret: &str) -> totp_rs::Totp {
    let secret = totp_rs::Secret::try_from_base32(secret).unwrap();
    totp_rs::Builder::new().with_secret(secret).with_account_name("x").build().unwrap()
}

#[tokio::test]
async fn a_second_factor_is_asked_for_and_each_code_works_once() {
    let site = Site::open().await;
    let (sly, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let own = json!({ "password": PASSWORD });
    let wrong = json!({ "password": "something else" });
    assert_eq!(site.ask(&sly, Method::POST, "/api/account/factor", wrong.clone()).await.0, 422);
    let (_, factor) = site.ask(&sly, Method::POST, "/api/account/factor", own.clone()).await;
    assert!(factor["drawing"].as_str().unwrap().contains("<svg"));
    // Not before a code of it was shown.
    assert_eq!(site.sign_in("sly@books.example", PASSWORD).await.1.status(), 200);
    let device = device(factor["secret"].as_str().unwrap());
    let code = device.generate_current().to_string();
    let confirm = json!({ "code": code });
    let (status, kept) = site.ask(&sly, Method::PUT, "/api/account/factor", confirm).await;
    assert_eq!(status, 200, "{kept}");
    let recovery = kept["recovery_codes"][0].as_str().unwrap().to_owned();

    let sign_in = async |code: Option<&str>| {
        let body = json!({ "email": "sly@books.example", "password": PASSWORD, "code": code });
        let (status, said) = site.ask(&stranger(), Method::POST, "/api/session", body).await;
        (status, said["code"].as_str().unwrap_or_default().to_owned())
    };
    assert_eq!(sign_in(None).await, (401, "code_wanted".to_owned()));
    assert_eq!(sign_in(Some(&code)).await, (401, "wrong_code".to_owned()), "it was used");
    // As if half a minute had gone by.
    site.books.tamper("UPDATE person SET factor_step = factor_step - 1").await;
    assert_eq!(sign_in(Some(&device.generate_current().to_string())).await.0, 200);
    assert_eq!(sign_in(Some(&recovery.to_uppercase())).await.0, 200);
    assert_eq!(sign_in(Some(&recovery)).await, (401, "wrong_code".to_owned()), "it works once");
    let (_, account) = site.ask(&sly, Method::GET, "/api/account", Value::Null).await;
    assert_eq!(account["recovery_codes"], 9);
    let path = "/api/account/factor/removal";
    assert_eq!(site.ask(&sly, Method::POST, path, wrong).await.0, 422);
    // The password alone does not take it away.
    let (status, answered) = site.ask(&sly, Method::POST, path, own).await;
    assert_eq!((status, &answered["refused"][0]["field"]), (422, &json!("code")));
    let code = kept["recovery_codes"][1].as_str().unwrap();
    let both = json!({ "password": PASSWORD, "code": code });
    assert_eq!(site.ask(&sly, Method::POST, path, both).await.0, 204);
    assert_eq!(sign_in(None).await.0, 200);
}

#[tokio::test]
async fn sessions_are_listed_and_ended_from_elsewhere() {
    let site = Site::open().await;
    let (here, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let (there, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let (third, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let sessions = async || {
        site.ask(&here, Method::GET, "/api/account", Value::Null).await.1["sessions"].clone()
    };
    let signed_in =
        async |client: &Client| site.ask(client, Method::GET, "/api/session", Value::Null).await.0;
    let all = sessions().await;
    assert_eq!(all.as_array().unwrap().len(), 3);
    assert_eq!(all.as_array().unwrap().iter().filter(|one| one["own"] == true).count(), 1);
    // Nobody ends another person's.
    let ann = site.ann().await;
    let path = format!("/api/account/sessions/{}", all[0]["id"]);
    assert_eq!(site.ask(&ann, Method::DELETE, &path, Value::Null).await.0, 404);
    let other = all.as_array().unwrap().iter().find(|one| one["own"] == false).unwrap();
    let path = format!("/api/account/sessions/{}", other["id"]);
    assert_eq!(site.ask(&here, Method::DELETE, &path, Value::Null).await.0, 204);
    let left = [signed_in(&there).await, signed_in(&third).await];
    assert!(left == [401, 200] || left == [200, 401], "{left:?}");
    assert_eq!(site.ask(&here, Method::DELETE, "/api/account/sessions", Value::Null).await.0, 204);
    assert_eq!(
        [signed_in(&here).await, signed_in(&there).await, signed_in(&third).await],
        [200, 401, 401]
    );
    let change = json!({ "password": PASSWORD, "new_password": GOOD });
    let (fourth, _) = site.sign_in("sly@books.example", PASSWORD).await;
    assert_eq!(site.ask(&here, Method::PUT, "/api/account/password", change).await.0, 204);
    assert_eq!([signed_in(&here).await, signed_in(&fourth).await], [200, 401]);
}

#[tokio::test]
async fn administrators_care_for_people_and_one_of_them_always_stays() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (_, people) = site.ask(&ann, Method::GET, "/api/people", Value::Null).await;
    let id = |email: &str| {
        let all = people["people"].as_array().unwrap();
        all.iter().find(|one| one["email"] == email).unwrap()["id"].clone()
    };
    let (a, s) = (id("ann@books.example"), id("sly@books.example"));
    let administer = |on: bool| json!({ "administrator": on });
    let path = |person: &Value, rest: &str| format!("/api/people/{person}{rest}");
    let last = site.ask(&ann, Method::PUT, &path(&a, "/administrator"), administer(false)).await;
    assert_eq!((last.0, &last.1["code"]), (409, &json!("refused")));
    // Ann answers for books, so she is not simply removed.
    assert_eq!(
        site.ask(&ann, Method::PUT, &path(&s, "/administrator"), administer(true)).await.0,
        204
    );
    let (status, answered) = site.ask(&ann, Method::DELETE, &path(&a, ""), Value::Null).await;
    assert!(
        status == 409 && answered["detail"].as_str().unwrap().contains("only owner"),
        "{answered}"
    );
    let sent = site.ask(&ann, Method::POST, &path(&s, "/password-link"), Value::Null).await;
    assert_eq!((sent.0, sent.1.get("link")), (201, None));
    let link = shown(&letter(&site, "sly@books.example", "A new password").await);
    let follow = json!({ "link": link, "password": GOOD });
    assert_eq!(site.ask(&stranger(), Method::POST, "/api/link/follow", follow).await.0, 204);
    let (sly, _) = site.sign_in("sly@books.example", GOOD).await;
    assert_eq!(site.ask(&ann, Method::DELETE, &path(&s, ""), Value::Null).await.0, 204);
    assert_eq!(site.ask(&sly, Method::GET, "/api/session", Value::Null).await.0, 401);
    let (_, trail) =
        site.ask(&ann, Method::GET, "/api/trail?action=removed_person", Value::Null).await;
    assert_eq!(trail["rows"][0]["detail"], "Sly, sly@books.example");
    assert!(site.books.store.follow_server_trail().await.unwrap().is_ok());
}

#[tokio::test]
async fn one_changes_name_address_and_forms_of_oneself() {
    let site = Site::open().await;
    let (sly, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let put = async |path: &str, body: Value| site.ask(&sly, Method::PUT, path, body).await;
    assert_eq!(put("/api/account/name", json!({ "name": " Sylvia " })).await.0, 204);
    let taken = json!({ "email": "ann@books.example", "password": PASSWORD });
    assert_eq!(put("/api/account/email", taken).await.0, 409);
    let new = json!({ "email": "Sylvia@Books.example", "password": PASSWORD });
    assert_eq!(put("/api/account/email", new).await.0, 204);
    let confirm = json!({ "link": shown(&letter(&site, "sylvia@books.example", "Confirm").await) });
    assert_eq!(site.ask(&stranger(), Method::POST, "/api/link/confirm", confirm).await.0, 204);
    let forms = json!({ "dates": "iso", "numbers": "point_comma" });
    assert_eq!(put("/api/account/forms", forms).await.0, 204);
    let (_, me) = site.ask(&sly, Method::GET, "/api/session", Value::Null).await;
    assert_eq!(
        (&me["name"], &me["email"], &me["dates"], &me["numbers"]),
        (&json!("Sylvia"), &json!("sylvia@books.example"), &json!("iso"), &json!("point_comma"))
    );
    // The address that is no longer theirs is told as well.
    assert!(letter(&site, "sly@books.example", "was changed").await.contains("no longer"));
    let (rows, _) = site.books.done_to_server(9).await;
    let answered: Vec<_> = rows.iter().map(|row| row.detail.as_str()).collect();
    assert!(answered.contains(&"from Sly to Sylvia"), "{answered:?}");
}
