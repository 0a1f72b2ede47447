//! Plans on a real database: what was seen is what is applied, nobody overwrites anybody, old codes
//! find their history, and members see only their own books.

use time::macros::date;
use zf_core::chart::{ControlRole, Kind};
use zf_core::code::{Code, Interval};
use zf_core::former::{Finder, Found};
use zf_core::money::Currency;
use zf_core::plan::Change;
use zf_core::plan::edit::{Edit, Wanted};
use zf_core::rehearsal::cause::Cause;
use zf_core::rehearsal::finding::Finding;
use zf_core::rehearsal::report::ChangeKind;
use zf_core::rehearsal::rule::Rule;
use zf_phrases::Say;
use zf_store::StoreError;
use zf_store::plans::Edited;
use zf_store::plans::applying::NotApplied;
use zf_store::plans::archive::proof::ProofFacts;
use zf_testing::{Books, agreement};

#[tokio::test]
async fn books_that_changed_since_the_rehearsal_are_not_changed_unseen() {
    let books = Books::railway().await;
    let (bank, oil) = (books.id("1010").await, books.id("5040").await);
    let plan = books.stage("5040 fate delete").await;
    let agreed = agreement(&books.rehearse(plan).await);
    books.post(&[books.entry(date!(2026 - 05 - 01), oil, bank, 100)]).await;
    let Err(NotApplied::Stopped(stops)) = books.store.apply(books.member, plan, &agreed).await
    else {
        panic!("an account with lines was deleted");
    };
    assert_eq!(stops.findings[0].rule(), Rule::DeleteUsed);
    let other = books.stage("5010 name Steam coal").await;
    let agreed = agreement(&books.rehearse(other).await);
    books.stage_changes(other, vec![(oil, Change::Name("Oils".to_owned()))]).await;
    assert!(matches!(
        books.store.apply(books.member, other, &agreed).await,
        Err(NotApplied::Changed)
    ));
}

#[tokio::test]
async fn edits_of_plans_are_only_ever_added_to() {
    let books = Books::railway().await;
    books.stage("5010 name Fuel").await;
    let edits = books.count("plan_edit").await;
    assert!(edits > 0 && books.count("plan_step").await > 0);
    for sql in [
        "UPDATE plan_edit SET after = NULL",
        "DELETE FROM plan_edit",
        "UPDATE plan_step SET person_id = person_id",
        "DELETE FROM plan",
        "TRUNCATE plan_step CASCADE",
    ] {
        let refused = sqlx::query(sql).execute(books.store.pool()).await.unwrap_err();
        assert!(refused.to_string().contains("append-only"), "{sql}: {refused}");
    }
    assert_eq!(books.count("plan_edit").await, edits);
}

#[tokio::test]
async fn the_day_of_what_is_retired_is_kept_and_comes_back_with_undo() {
    let books = Books::railway().await;
    let telephone = books.id("6010").await;
    let from = async || {
        let chart = books.store.snapshot(books.member).await.unwrap().today.chart;
        chart.get(telephone).unwrap().status_from
    };
    let applied = books.apply(books.stage("6010 fate deactivate 2026-03-31").await).await.unwrap();
    assert_eq!(from().await, Some(date!(2026 - 03 - 31)));
    books.apply(books.stage("6010 fate restore").await).await.unwrap();
    assert_eq!(from().await, None);
    let later = books.apply(books.stage("6010 fate archive").await).await.unwrap();
    let today = time::OffsetDateTime::now_utc().date();
    assert_eq!(from().await, Some(today), "today, where nothing is said");
    books.undo(later).await.unwrap();
    assert_eq!(from().await, None);
    assert!(books.undo(applied).await.is_err(), "a later plan restored it");
}

#[tokio::test]
async fn cautions_must_be_acknowledged() {
    let books = Books::railway().await;
    let plan = books.stage("6010 fate merge 5010").await;
    let mut agreed = agreement(&books.rehearse(plan).await);
    agreed.acknowledged.clear();
    let refused = books.store.apply(books.member, plan, &agreed).await;
    assert!(matches!(refused, Err(NotApplied::Unread(_))), "{refused:?}");
    books.apply(plan).await.unwrap();
}

fn code(code: &str) -> Change {
    Change::Code(Code::parse(code).unwrap())
}

#[tokio::test]
async fn nobody_overwrites_anybody_unseen() {
    let books = Books::railway().await;
    let coal = books.id("5010").await;
    let plan = books.stage("5010 code 5110").await;
    let edit = |seen: Option<&str>, value: &str| Edit {
        account: coal,
        seen: seen.map(code),
        wanted: Wanted::Stage(code(value)),
    };
    let chart = books.store.snapshot(books.member).await.unwrap().today.chart;
    let stage =
        async |edit| books.store.edit_plan(books.member, plan, &chart, &[edit]).await.unwrap();
    let Edited::Conflicts(conflicts) = stage(edit(None, "5120")).await else {
        panic!("an edit of somebody else was overwritten");
    };
    let about = &conflicts[0].about;
    let shown = [&about.mine, &about.theirs, &about.today].map(|change| change.clone().unwrap());
    assert_eq!(shown, ["5120", "5110", "5010"].map(code));
    assert_eq!(conflicts[0].by.as_deref(), Some("Ann Tester"));
    let same = stage(edit(None, "5110")).await;
    assert!(matches!(same, Edited::Done(..)), "wanting the same is no conflict");
    let seen = stage(edit(Some("5110"), "5120")).await;
    assert!(matches!(seen, Edited::Done(..)), "what was seen may be replaced: {seen:?}");
}

#[tokio::test]
async fn old_codes_find_their_history_through_chains_and_after_an_undo() {
    let books = Books::railway().await;
    let (bank, wood) = (books.id("1010").await, books.id("5020").await);
    books.post(&[books.entry(date!(2026 - 05 - 01), wood, bank, 100)]).await;
    let holder = async |code: &str| {
        let today = books.store.snapshot(books.member).await.unwrap().today;
        let key = Code::parse(code).unwrap().key();
        match Finder::of(&today.chart, &today.former).by_code(&key) {
            Found::Current(account) => account.code.to_string(),
            Found::Former(account) => format!("formerly {}", account.code),
            other => format!("{other:?}"),
        }
    };
    books.apply(books.stage("5020 code 5025").await).await.unwrap();
    books.apply(books.stage("5025 fate merge 5010").await).await.unwrap();
    let last = books.apply(books.stage("5010 code 5110").await).await.unwrap();
    for old in ["5020", "5025", "5010"] {
        assert_eq!(holder(old).await, "formerly 5110", "{old}");
    }
    books.undo(last).await.unwrap();
    assert_eq!(holder("5010").await, "5010");
    assert_eq!(holder("5110").await, "formerly 5010");
    assert_eq!(holder("5020").await, "formerly 5010");
}

#[tokio::test]
async fn merged_lines_show_the_code_they_were_posted_under() {
    let books = Books::railway().await;
    let (bank, coal, wood) =
        (books.id("1010").await, books.id("5010").await, books.id("5020").await);
    books.post(&[books.entry(date!(2026 - 05 - 01), wood, bank, 100)]).await;
    books.apply(books.stage("5020 fate merge 5010").await).await.unwrap();
    books.post(&[books.entry(date!(2026 - 06 - 01), coal, bank, 200)]).await;
    let lines = books.store.account_lines(books.member, coal, 0, 10).await.unwrap();
    let codes: Vec<_> = lines.iter().map(|l| (l.amount, l.posted_code.as_str())).collect();
    assert_eq!(codes, [(200, "5010"), (100, "5020")]);
}

#[tokio::test]
async fn an_undo_stops_at_a_later_plan_by_name_and_works_once_that_is_undone() {
    let books = Books::railway().await;
    let first = books.apply(books.stage("5010 name Steam coal").await).await.unwrap();
    let second = books.apply(books.stage("5010 code 5110").await).await.unwrap();
    let Err(NotApplied::Stopped(stops)) = books.undo(first).await else { panic!("undone") };
    let later = |found: &Finding| matches!(&found.cause, Cause::UndoLater { plan, .. } if plan == "Tidy up");
    assert!(stops.findings.iter().any(later), "{stops:?}");
    let undo = books.undo(second).await.unwrap();
    books.undo(first).await.unwrap();
    let name = books.store.snapshot(books.member).await.unwrap().today.chart;
    let name = &name.get(books.id("5010").await).unwrap().name;
    assert_eq!(name, "Coal");
    for twice in [first, undo] {
        let refused = books.undo(twice).await;
        assert!(matches!(refused, Err(NotApplied::Store(StoreError::Refused(_)))), "{refused:?}");
    }
}

#[tokio::test]
async fn strangers_see_nothing() {
    let books = Books::railway().await;
    let stranger = books.store.add_person("sly@books.example", "Sly", "-").await.unwrap();
    let refused = books.store.member(stranger, books.member.books()).await;
    assert!(matches!(refused, Err(StoreError::NotFound(_))));
    assert_eq!(books.store.books_of(stranger).await.unwrap().len(), 0);
}

#[tokio::test]
async fn settings_change_and_come_back_with_an_undo() {
    let books = Books::railway().await;
    let of = async |code: &str| {
        let id = books.id(code).await;
        books.store.snapshot(books.member).await.unwrap().today.chart.get(id).unwrap().clone()
    };
    let before = of("5010").await;
    let words = "5010 description For the shed; 5010 tax T9; 5010 contra yes; 1010 role bank; \
                 1010 currency GBP; 5040 kind heading; 5099 intervals 5000 to 5030";
    let applied = books.apply(books.stage(words).await).await.unwrap();
    let coal = of("5010").await;
    assert_eq!((coal.description.as_str(), coal.tax_code.as_deref()), ("For the shed", Some("T9")));
    assert!(coal.contra);
    let bank = of("1010").await;
    assert_eq!((bank.role, bank.currency), (Some(ControlRole::Bank), Currency::parse("GBP").ok()));
    assert_eq!(of("5040").await.kind, Kind::Heading);
    assert_eq!(Interval::format_list(&of("5099").await.intervals), "5000 to 5030");
    let ProofFacts { report, names, .. } = books.proof(applied).await;
    let id = books.id("5010").await;
    let coal = report.crosswalk.iter().find(|c| c.account == id).unwrap();
    assert_eq!(coal.changes, [ChangeKind::SettingsChanged]);
    assert_eq!(
        Say::plain(&names, report.figures.currency).details(&coal.details),
        "contra mark from no to yes; description from nothing to For the shed; tax code from nothing to T9"
    );

    books.undo(applied).await.unwrap();
    assert_eq!(of("5010").await, before);
    assert_eq!(of("5040").await.kind, Kind::Account);
    books.must_recount().await;
}
