//! How people come in and care for their accounts, and what two people of different roles can do.

use std::sync::atomic::{AtomicU64, Ordering};
use thirtyfour::prelude::*;
use time::OffsetDateTime;
use zf_browser_tests::{Browser, PASSWORD, Site};
use zf_core::access::Role;
use zf_store::people::links::Admission;
use zf_testing::Books;

const ANN: &str = "ann@books.example";
const BOB: &str = "bob@books.example";
const GOOD: &str = "anvil toast meridian";

/// What the device of a second factor shows; each time of a step that was not used yet.
fn device(secret: &str) -> String {
    static STEP: AtomicU64 = AtomicU64::new(0);
    let secret = totp_rs::Secret::try_from_base32(secret).unwrap();
    let totp = totp_rs::Builder::new().with_secret(secret).with_account_name("x").build().unwrap();
    let now = u64::try_from(OffsetDateTime::now_utc().unix_timestamp()).unwrap();
    totp.generate(now + 30 * STEP.fetch_add(1, Ordering::SeqCst)).to_string()
}

/// Follows the link of the first letter in the outbox, as a person who was sent it would.
async fn link_of_letter(browser: &Browser) -> String {
    browser.go("/outbox").await;
    link_shown(browser).await
}

/// The link of the letter that is shown.
async fn link_shown(browser: &Browser) -> String {
    browser.see("article a").await;
    let address = browser.ask("document.querySelector('article a').href").await;
    let address = address.as_str().unwrap().to_owned();
    format!("/link{}", &address[address.find('#').unwrap()..])
}

#[tokio::test(flavor = "multi_thread")]
async fn the_first_person_comes_by_the_link_and_opens_books() {
    let site = Site::open(&[]).await;
    let link = site.app.link_for_first().await.unwrap();
    let browser = Browser::open(&site).await;
    browser.go(&link[link.find("/link").unwrap()..]).await;
    browser.see_text("You are the first person here").await;
    assert_eq!(browser.barriers().await, [""; 0]);
    browser.fill("input[type=email]", "ada@firm.example").await;
    browser.fill("input[autocomplete=name]", "Ada First").await;
    browser.fill("input[type=password]", "password1234").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("among the first passwords that are guessed").await;
    browser.fill("input[type=password]", GOOD).await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("No books yet").await;
    browser.click_words("Open new books").await;
    browser.fill("#name", "Small books").await;
    browser.click_words("Open the books").await;
    browser.see_text("Import a file").await;
    // The link is closed behind her.
    browser.go(&link[link.find("/link").unwrap()..]).await;
    browser.reload().await;
    browser.see_text("This link is closed").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn somebody_is_invited_forgets_the_password_and_comes_in_again_by_the_outbox() {
    let site = Site::open(&[(ANN, "Ann Tester")]).await;
    let (ann, cy) = (Browser::open(&site).await, Browser::open(&site).await);
    ann.sign_in(ANN).await;
    ann.go("/people").await;
    ann.click_words("Invite somebody").await;
    ann.see_text("Administers this server").await;
    ann.keys("Cy Newcomer").await;
    ann.fill("[role=dialog] input[type=email]", "cy@books.example").await;
    ann.click_words("Send the invitation").await;
    ann.see_text("Its link can be followed once").await;
    assert_eq!(ann.barriers().await, [""; 0]);
    let link = link_of_letter(&ann).await;
    assert_eq!(ann.barriers().await, [""; 0]);
    cy.go(&link).await;
    cy.see_text("Ann Tester invites you").await;
    cy.fill("input[type=password]", GOOD).await;
    cy.keys(Key::Enter + "").await;
    cy.see_text("You are not a member of any books yet").await;
    cy.click("button[aria-label$='account and light']").await;
    cy.click_words("Sign out").await;

    cy.click_words("Password forgotten?").await;
    cy.fill("input[type=email]", "cy@books.example").await;
    cy.keys(Key::Enter + "").await;
    cy.see_text("a letter is on its way").await;
    assert_eq!(cy.barriers().await, [""; 0]);
    ann.go("/outbox").await;
    ann.see_text("A new password for Zero Fold").await;
    let link = link_of_letter(&ann).await;
    cy.go(&link).await;
    cy.reload().await;
    cy.see_text("You will be signed out wherever").await;
    cy.fill("input[type=password]", "quiet ledger otter").await;
    cy.keys(Key::Enter + "").await;
    cy.see_text("You are not a member of any books yet").await;
    ann.go("/server-trail").await;
    ann.see_text("asked for a new password").await;
    assert_eq!(ann.barriers().await, [""; 0]);
    ann.close().await;
    cy.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_second_factor_is_added_asked_for_and_a_session_is_ended_elsewhere() {
    let site = Site::open(&[(ANN, "Ann Tester")]).await;
    let (here, there) = (Browser::open(&site).await, Browser::open(&site).await);
    for browser in [&here, &there] {
        browser.sign_in(ANN).await;
    }
    here.go("/account").await;
    here.see_text("Where you are signed in").await;
    here.wait_for(
        "document.querySelectorAll('[aria-label=Sessions] tbody tr').length === 2",
        "both",
    )
    .await;
    assert_eq!(here.barriers().await, [""; 0]);
    here.click("[aria-label=Sessions] tbody button").await;
    here.wait_for(
        "document.querySelectorAll('[aria-label=Sessions] tbody tr').length === 1",
        "one",
    )
    .await;
    there.go("/").await;
    there.see_text("Sign in").await;

    here.click_words("Add one").await;
    here.fill("form[aria-label='Add a second factor'] input", PASSWORD).await;
    here.keys(Key::Enter + "").await;
    here.see("img[alt^='The secret as a pattern']").await;
    assert_eq!(here.barriers().await, [""; 0]);
    let secret = here.ask("document.querySelector('code').innerText").await;
    let secret = secret.as_str().unwrap().to_owned();
    here.keys(device(&secret)).await;
    here.keys(Key::Enter + "").await;
    here.see_text("They are not shown again").await;
    let recovery = here.ask("document.querySelector('ul.codes li').innerText").await;
    here.click_words("I have kept them").await;
    here.see_text("10 recovery codes are left").await;

    there.fill("input[type=email]", ANN).await;
    there.fill("input[type=password]", PASSWORD).await;
    there.keys(Key::Enter + "").await;
    there.see_text("One more thing").await;
    assert_eq!(there.barriers().await, [""; 0]);
    there.keys("000000" + Key::Enter).await;
    there.see_text("This code is wrong").await;
    there.fill("input[autocomplete=one-time-code]", &device(&secret)).await;
    there.keys(Key::Enter + "").await;
    there.see_text("Your books").await;
    there.click("button[aria-label$='account and light']").await;
    there.click_words("Sign out").await;
    there.fill("input[type=email]", ANN).await;
    there.fill("input[type=password]", PASSWORD).await;
    there.keys(Key::Enter + "").await;
    there.see_text("One more thing").await;
    there.keys(TypingData::from(recovery.as_str().unwrap()) + Key::Enter).await;
    there.see_text("Your books").await;

    // How she likes figures written, at once and wherever they are.
    here.select("[aria-label='Dates and numbers'] select", "iso").await;
    here.wait_for("/\\d{4}-\\d\\d-\\d\\d, /.test(document.querySelector('[aria-label=Sessions] tbody').innerText)", "ISO").await;
    here.close().await;
    there.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn two_people_of_different_roles_and_a_guest_do_what_each_may() {
    let site =
        Site::open(&[(ANN, "Ann Tester"), (BOB, "Bob Tester"), ("gil@bank.example", "Gil Guest")])
            .await;
    let id = async |email: &str| site.store.person_by_email(email).await.unwrap().unwrap().id;
    let books = Books::railway_of(site.store.clone(), id(ANN).await).await;
    books.add_member(id(BOB).await, &[Role::Preparer]).await;
    let number = books.member.books();
    let (ann, bob, gil) =
        (Browser::open(&site).await, Browser::open(&site).await, Browser::open(&site).await);
    ann.sign_in(ANN).await;
    bob.sign_in(BOB).await;

    // Bob prepares, and does not apply.
    bob.go(&format!("/books/{number}/chart")).await;
    bob.retype("[data-code='5030'] [data-column='name']", "Gas oil").await;
    bob.see_text("a reviewer applies it").await;
    assert_eq!(
        bob.ask("document.querySelector('footer .btn-primary')").await,
        serde_json::Value::Null
    );
    bob.go(&format!("/books/{number}/settings")).await;
    bob.see_text("Settings of the books").await;
    bob.see_text("waits until it was read").await;
    assert_eq!(bob.ask("document.querySelectorAll('main button').length").await, 0);

    // Ann lays down, locks, opens again with a reason, and lets a guest in to the plan.
    ann.go(&format!("/books/{number}/settings")).await;
    ann.see_text("Fiscal year").await;
    assert_eq!(ann.barriers().await, [""; 0]);
    ann.fill("input[aria-label=Name]", "Larger books").await;
    ann.keys(Key::Enter + "").await;
    ann.wait_for("document.querySelector('header').innerText.includes('Larger books')", "the name")
        .await;
    ann.select("select[aria-label^='A code that another']", "stop").await;
    ann.select_words("select[aria-label='Month']", "April").await;
    ann.click_words("See what would change").await;
    ann.see_text("What would change").await;
    ann.click_words("Change it").await;
    ann.wait_for("!document.querySelector('[role=dialog]')", "it was changed").await;
    ann.click_words("Add a member").await;
    ann.see_text("sees one plan, for a time").await;
    ann.keys("dee@bank.example").await;
    ann.click("[role=dialog] button.btn-primary").await;
    ann.see_text("Nobody signs in with this address yet").await;
    assert_eq!(ann.barriers().await, [""; 0]);
    ann.keys("Dee Auditor").await;
    ann.click_words("Invite them").await;
    ann.see_text("Its link can be followed once").await;
    ann.close().await;

    let plan = books.store.plans(books.member).await.unwrap()[0].id;
    let until = Some(OffsetDateTime::now_utc() + time::Duration::DAY);
    let roles = zf_core::access::Roles::of([Role::Guest]).unwrap();
    let admission = Admission { books: number, roles, plan: Some(plan), until };
    site.store.admit(books.member, id("gil@bank.example").await, &admission).await.unwrap();
    gil.sign_in("gil@bank.example").await;
    gil.click_words("Larger books").await;
    gil.see_text("You are a guest and see this plan only").await;
    gil.see_text("Gas oil").await;
    assert_eq!(gil.barriers().await, [""; 0]);
    gil.go(&format!("/books/{number}/chart")).await;
    gil.see_text("is not among what your roles").await;
    gil.close().await;

    bob.go(&format!("/books/{number}/trail")).await;
    bob.see_text("renamed the books").await;
    bob.see_text("from caution to stop").await;
    bob.see_text("years from 1 February to years from 1 April").await;
    assert_eq!(bob.barriers().await, [""; 0]);
    bob.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn an_owner_is_told_of_a_link_that_was_used_and_books_without_an_owner_get_one() {
    let site = Site::open(&[(ANN, "Ann Tester"), (BOB, "Bob Tester")]).await;
    let id = async |email: &str| site.store.person_by_email(email).await.unwrap().unwrap().id;
    let books = Books::railway_of(site.store.clone(), id(ANN).await).await;
    books.add_member(id(BOB).await, &[Role::Reader]).await;
    let (ann, bob) = (Browser::open(&site).await, Browser::open(&site).await);
    ann.sign_in(ANN).await;
    ann.go("/people").await;
    ann.click("button[aria-label='More… about Bob Tester']").await;
    ann.click_words("Send a link for a new password").await;
    ann.see_text("Its link can be followed once").await;
    assert_eq!(ann.ask("document.body.innerText.includes('/link#')").await, false);
    ann.go("/outbox").await;
    ann.click_words("A new password for Zero Fold").await;
    bob.go(&link_shown(&ann).await).await;
    bob.fill("input[type=password]", GOOD).await;
    bob.keys(Key::Enter + "").await;
    bob.see_text("Small books").await;
    ann.go("/").await;
    ann.see_text("The password of Bob Tester was chosen anew").await;
    assert_eq!(ann.barriers().await, [""; 0]);

    // Another address is hers once she has followed the link of the letter that went there.
    ann.go("/account").await;
    ann.fill("input[type=email]", "ann@elsewhere.example").await;
    ann.fill("[aria-label='E-mail address'] input[type=password]", PASSWORD).await;
    ann.keys(Key::Enter + "").await;
    ann.see_text("A letter went to ann@elsewhere.example").await;
    assert_eq!(ann.ask("document.querySelector('input[type=email]').value").await, ANN);
    ann.go("/outbox").await;
    ann.click_words("Confirm your address").await;
    let link = link_shown(&ann).await;
    ann.go(&link).await;
    ann.see_text("You will sign in as").await;
    assert_eq!(ann.barriers().await, [""; 0]);
    ann.click_words("Confirm it").await;
    ann.wait_for(
        "document.querySelector('input[type=email]')?.value === 'ann@elsewhere.example'",
        "the new address",
    )
    .await;

    books.tamper("UPDATE membership SET until = now() - interval '1 day'").await;
    ann.go("/people").await;
    ann.see_text("Books without an owner").await;
    assert_eq!(ann.barriers().await, [""; 0]);
    ann.select_words("[aria-label='New owner']", "Bob Tester").await;
    ann.click_words("Make them the owner").await;
    ann.wait_for("!document.body.innerText.includes('Books without an owner')", "given").await;
    bob.go("/").await;
    bob.see_text("owner").await;
    ann.close().await;
    bob.close().await;
}
