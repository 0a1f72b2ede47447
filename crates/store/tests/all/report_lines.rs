//! Lines of reports follow a renumbering in the database, and an undo gives them back as written.

use zf_core::code::Interval;
use zf_core::rehearsal::cause::SumOf;
use zf_core::rehearsal::report::Followed;
use zf_core::usage::{Named, Use};
use zf_store::plans::applying::NotApplied;
use zf_testing::Books;

async fn with_report(stretches: &str) -> Books {
    let books = Books::railway().await;
    let line = Use {
        names: Named::Stretches(Interval::parse_list(stretches).unwrap()),
        used_by: "report layout".to_owned(),
        label: "Fuel".to_owned(),
        budget: None,
    };
    books.use_list(&[line]).await;
    books
}

async fn written(books: &Books) -> String {
    let mut uses = books.store.uses(books.member).await.unwrap();
    match uses.remove(0).names {
        Named::Stretches(intervals) => Interval::format_list(&intervals),
        Named::Account(account) => panic!("it names the account {account}"),
    }
}

#[tokio::test]
async fn a_line_follows_its_accounts_and_comes_back_as_written() {
    let books = with_report("5000 to 5029").await;
    let first = books.apply(books.stage("5010 code 5110; 5020 code 5005").await).await.unwrap();
    assert_eq!(written(&books).await, "5005, 5110");
    let followed = Followed {
        sum: SumOf::Report("report layout “Fuel”".to_owned()),
        today: Interval::parse_list("5000 to 5029").unwrap(),
        after: Interval::parse_list("5005, 5110").unwrap(),
    };
    assert_eq!(books.proof(first).await.report.report_lines, [followed]);
    // A later plan moves the same line on, by another of its accounts: first things last.
    let second = books.apply(books.stage("5005 code 5003").await).await.unwrap();
    assert_eq!(written(&books).await, "5003, 5110");
    let too_early = books.undo(first).await;
    assert!(matches!(too_early, Err(NotApplied::Stopped(_))), "{too_early:?}");
    books.undo(second).await.unwrap();
    assert_eq!(written(&books).await, "5005, 5110");
    books.undo(first).await.unwrap();
    assert_eq!(written(&books).await, "5000 to 5029");
}

#[tokio::test]
async fn a_line_that_is_not_written_as_it_should_be_keeps_the_plan_from_being_applied() {
    let books = with_report("5000 to 5029").await;
    books
        .tamper(
            r#"CREATE FUNCTION harm() RETURNS trigger LANGUAGE plpgsql AS $$
             BEGIN NEW.intervals = '[{"first": "5000", "last": "5999"}]'; RETURN NEW; END $$;
             CREATE TRIGGER harm BEFORE UPDATE ON account_use FOR EACH ROW EXECUTE FUNCTION harm();"#,
        )
        .await;
    let plan = books.stage("5010 code 5110").await;
    let Err(NotApplied::NotProved(misses)) = books.apply(plan).await else {
        panic!("it was applied");
    };
    assert_eq!(misses, ["report layout “Fuel”: it does not add up what it should"]);
    assert_eq!(written(&books).await, "5000 to 5029", "nothing was kept");
    books.id("5010").await;
}
