//! Posting on a real database: which strand a line goes to, and what happens when many people post
//! and somebody applies a plan at the same time.

use std::collections::BTreeMap;
use std::sync::Arc;
use time::macros::date;
use zf_core::activity::Posted;
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::Status;
use zf_core::dimension::{self, DimensionValue};
use zf_core::ids::StrandId;
use zf_core::rehearsal::rule::Rule;
use zf_core::settings::SettingChange;
use zf_store::StoreError;
use zf_store::jobs::{Outcome, Progress, RecountState, Task};
use zf_store::plans::applying::NotApplied;
use zf_testing::{Books, agreement};

/// Strands by identity: code posted under, account presenting, lines.
async fn strands(books: &Books) -> BTreeMap<StrandId, (String, String, u64)> {
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let strands = today.activity.strands().map(|(strand, activity, _)| {
        let account = today.chart.get(strand.account).unwrap().code.to_string();
        let lines = activity.values().map(|share| share.totals.lines).sum();
        (strand.id, (strand.posted.code.clone(), account, lines))
    });
    strands.collect()
}

async fn spend(books: &Books, code: &str) {
    let (cost, bank) = (books.id(code).await, books.id("1010").await);
    books.post(&[books.entry(date!(2026 - 05 - 01), cost, bank, 100)]).await;
}

fn of(strands: &BTreeMap<StrandId, (String, String, u64)>, account: &str) -> Vec<(String, u64)> {
    let own = strands.values().filter(|s| s.1 == account);
    own.map(|(code, _, lines)| (code.clone(), *lines)).collect()
}

#[tokio::test]
async fn lines_of_one_code_share_a_strand() {
    let books = Books::railway().await;
    spend(&books, "5010").await;
    spend(&books, "5010").await;
    assert_eq!(of(&strands(&books).await, "5010"), [("5010".to_owned(), 2)]);
}

#[tokio::test]
async fn what_lines_are_posted_under_opens_a_new_strand_and_old_ones_never_grow() {
    let books = Books::railway().await;
    spend(&books, "5010").await;
    let mut expected = vec![("5010".to_owned(), 1)];
    books.apply(books.stage("5010 code 5110").await).await.unwrap();
    let changes = ["name Steam coal", "caption cost_of_sales", "contra yes", "class income"];
    for change in [""].into_iter().chain(changes) {
        if !change.is_empty() {
            let section = if change == "class income" { "; 5110 caption revenue" } else { "" };
            let words = format!("5110 {change}{section}");
            books.apply(books.stage(&words).await).await.unwrap();
        }
        spend(&books, "5110").await;
        expected.push(("5110".to_owned(), 1));
    }
    // What lines are not posted under leaves the strand open.
    books.apply(books.stage("5110 tax T1; 5110 description For engines").await).await.unwrap();
    spend(&books, "5110").await;
    expected.last_mut().unwrap().1 += 1;
    assert_eq!(of(&strands(&books).await, "5110"), expected);
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let posted = today.activity.strands().map(|(strand, ..)| &strand.posted);
    let last = posted.filter(|posted| posted.code == "5110").last().unwrap();
    assert_eq!(*last, Posted::to(today.chart.get(books.id("5110").await).unwrap()));
    books.must_recount().await;
}

#[tokio::test]
async fn a_merge_moves_whole_strands_and_its_undo_brings_exactly_those_back() {
    let books = Books::railway().await;
    spend(&books, "5010").await;
    spend(&books, "5020").await;
    let before = strands(&books).await;
    let merged = books.apply(books.stage("5020 fate merge 5010").await).await.unwrap();
    spend(&books, "5010").await;
    let found = of(&strands(&books).await, "5010");
    assert_eq!(found, [("5010".to_owned(), 1), ("5020".to_owned(), 1), ("5010".to_owned(), 1)]);
    books.undo(merged).await.unwrap();
    let after = strands(&books).await;
    // The bank has had a line since.
    for (id, strand) in before.iter().filter(|(_, strand)| strand.1 != "1010") {
        assert_eq!(after.get(id), Some(strand));
    }
    assert_eq!(of(&after, "5010"), [("5010".to_owned(), 1), ("5010".to_owned(), 1)]);
    assert_eq!(of(&after, "5020"), [("5020".to_owned(), 1)]);
    books.must_recount().await;
}

#[tokio::test]
async fn dates_tell_when_a_code_was_in_use() {
    let books = Books::railway().await;
    let coal = books.id("5010").await;
    let renumbered = books.apply(books.stage("5010 code 5110").await).await.unwrap();
    books.undo(renumbered).await.unwrap();
    let uses = books.store.snapshot(books.member).await.unwrap().code_uses;
    let own: Vec<_> = uses.into_iter().filter(|used| used.account == coal).collect();
    let codes: Vec<_> = own.iter().map(|used| used.code.to_string()).collect();
    assert_eq!(codes, ["5010", "5110", "5010"]);
    assert_eq!(own[0].from, None, "how long it was in use before the import is not known");
    assert_eq!((own[0].to, own[1].to), (own[1].from, own[2].from), "no gap and no overlap");
    assert!(own[0].to < own[1].to && own[2].to.is_none());
}

#[tokio::test(flavor = "multi_thread")]
async fn postings_beside_each_other_and_beside_a_merge_lose_nothing() {
    let books = Arc::new(Books::railway().await);
    spend(&books, "5010").await;
    spend(&books, "5020").await;
    let plan = books.stage("5020 fate merge 5010").await;
    let posters = (0..6).map(|_| {
        let books = Arc::clone(&books);
        tokio::spawn(async move { post_until_stored(&books).await })
    });
    let posters: Vec<_> = posters.collect();
    let applied = loop {
        match books.apply(plan).await {
            Ok(applied) => break applied,
            // Somebody posted between the rehearsal and the lock.
            Err(NotApplied::Changed) => {}
            Err(other) => panic!("{other}"),
        }
    };
    for poster in posters {
        poster.await.unwrap();
    }
    books.must_recount().await;
    let lines = |strands: BTreeMap<_, (String, String, u64)>| -> u64 {
        strands.values().map(|(.., lines)| lines).sum()
    };
    assert_eq!(lines(strands(&books).await), 4 + 2 * 6);
    books.undo(applied).await.unwrap();
    books.must_recount().await;
    assert_eq!(lines(strands(&books).await), 4 + 2 * 6);
}

/// Posts one entry, as often as the books change under it.
async fn post_until_stored(books: &Books) {
    use zf_core::file_kind::FileKind;
    use zf_store::jobs::Progress;
    let (coal, bank) = (books.id("5010").await, books.id("1010").await);
    let entry = vec![books.entry(date!(2026 - 06 - 01), coal, bank, 10)];
    loop {
        let id = books.store.keep_upload(books.member, FileKind::Journal, "j", b"").await.unwrap();
        let seen = books.store.snapshot(books.member).await.unwrap();
        let ready = zf_store::imports::Ready::Journal {
            entries: &entry,
            added: &[],
            reopened: &[],
            digest: None,
        };
        match books.store.commit_import(books.member, id, &seen, &ready, &Progress::default()).await
        {
            Ok(()) => return,
            Err(StoreError::Taken(_) | StoreError::StoredMeanwhile { .. }) => {}
            Err(other) => panic!("{other}"),
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn of_two_who_apply_the_same_plan_one_does() {
    let books = Books::railway().await;
    let plan = books.stage("5030 fate deactivate").await;
    let agreed = agreement(&books.rehearse(plan).await);
    let apply = || books.store.apply(books.member, plan, &agreed);
    let (one, other) = tokio::join!(apply(), apply());
    assert_eq!([&one, &other].iter().filter(|done| done.is_ok()).count(), 1, "{one:?} {other:?}");
    let oil = books.id("5030").await;
    let chart = books.store.snapshot(books.member).await.unwrap().today.chart;
    assert_eq!(chart.get(oil).unwrap().status, Status::Deactivated);
    let trail = books.done_last(50).await;
    assert_eq!(trail.iter().filter(|row| row.what == "applied").count(), 1);
}

#[tokio::test]
async fn a_recount_is_queued_once_for_an_application_and_carried_out_by_whoever_comes() {
    let books = Books::railway().await;
    spend(&books, "5010").await;
    let applied = books.apply(books.stage("5010 code 5110").await).await.unwrap();
    let state = async || {
        books
            .store
            .recount_state::<serde_json::Value>(books.member, applied.0)
            .await
            .unwrap()
            .unwrap()
    };
    assert_eq!(state().await, RecountState::Waiting);
    let job = books.store.take_job().await.unwrap().unwrap();
    assert_eq!(job.task, Task::Recount { application: applied.0 });
    assert!(books.store.take_job().await.unwrap().is_none(), "nobody else is given it");
    let found = books.store.recount_for(&job, &Progress::default()).await.unwrap();
    books.store.finish_job(&job, &Outcome::Recounted(&found)).await.unwrap();
    let done = state().await;
    assert!(matches!(&done, RecountState::Done { misses, .. } if misses.is_empty()), "{done:?}");
    assert!(books.store.take_job().await.unwrap().is_none(), "there is nothing left to do");
}

#[tokio::test]
async fn locked_periods_hold_until_a_reviewer_gives_a_reason() {
    let books = Books::railway().await;
    spend(&books, "5010").await;
    let settings = books.store.books(books.member).await.unwrap();
    let period = settings.calendar.period_of(date!(2026 - 05 - 31));
    books.store.lock_periods(books.member, Some(period), None).await.unwrap();
    let plan = books.stage("5010 caption administration").await;
    let Err(NotApplied::Stopped(stops)) = books.apply(plan).await else { panic!("applied") };
    assert_eq!(stops.findings[0].rule(), Rule::LockedTotal);
    let reason = Some("agreed with the auditor");
    books.store.override_stop(books.member, plan, &stops.findings[0].key, reason).await.unwrap();
    let applied = books.apply(plan).await.unwrap();
    let proof = books.proof(applied).await;
    let kept = proof.findings.iter().find_map(|found| found.overridden.as_ref()).unwrap();
    assert_eq!(Some(kept.reason.as_str()), reason, "the proof shows the reason");
    assert_eq!(kept.by, "Ann Tester", "and who gave it");
    let trail = books.done_last(10).await;
    let noted = trail.iter().find(|row| row.what == "overrode").unwrap();
    assert_eq!((&*noted.by, noted.application), ("Ann Tester", Some(applied.0)));
    assert!(noted.detail.ends_with("Because: agreed with the auditor"), "{}", noted.detail);
}

#[tokio::test]
async fn a_line_dated_ahead_leaves_the_year_as_it_is_until_the_books_say_otherwise() {
    let books = Books::railway().await;
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    let usual = (1..=20).map(|day| {
        let date = date!(2026 - 03 - 01).replace_day(day).unwrap();
        books.entry(date, coal, bank, 100)
    });
    let mut entries: Vec<_> = usual.collect();
    entries.push(books.entry(date!(2099 - 02 - 01), coal, bank, 5));
    books.post(&entries).await;
    let stands = async || {
        let trial = books.store.trial_balance(books.member).await.unwrap();
        let today = books.store.snapshot(books.member).await.unwrap().today;
        let own = trial.rows.iter().find(|row| row.account == coal).map_or(0, |row| row.balance);
        assert_eq!(trial.total(), 0);
        assert_eq!(
            own,
            zf_core::trial_balance::balance(
                today.chart.get(coal).unwrap(),
                &today.figures_of(coal)
            )
        );
        (own, today.activity.lines_after(today.activity.last().unwrap()), trial.earlier_results)
    };
    assert_eq!(stands().await, (2_000, 2, 0));
    let calendar = books.store.books(books.member).await.unwrap().calendar;
    let far = calendar.period_of(date!(2099 - 02 - 01));
    books.store.change_setting(books.member, &SettingChange::AsOf(Some(far))).await.unwrap();
    assert_eq!(stands().await, (5, 0, 2_000));
    books.store.change_setting(books.member, &SettingChange::AsOf(None)).await.unwrap();
    assert_eq!(stands().await, (2_000, 2, 0));
    let trail = books.done_last(1).await;
    assert_eq!(trail[0].detail, "from 28 Feb 2099 to the latest period with its usual lines");
    // What is dated ahead is moved and proved with the rest.
    books.apply(books.stage("5010 fate merge 5020").await).await.unwrap();
    books.must_recount().await;
}

#[tokio::test]
async fn values_of_dimensions_are_known_by_identity_and_stay_whole() {
    let books = Books::railway().await;
    let (coal, bank) = (books.id("5010").await, books.id("1010").await);
    let values = [("department", "Shed"), ("site", "Larkfell; west=1")];
    let values = values.map(|(name, value)| DimensionValue::new(name, value));
    let mut entry = books.entry(date!(2026 - 05 - 01), coal, bank, 100);
    entry.lines[0].dimensions = dimension::written(values.clone());
    entry.lines[1].dimensions = String::new();
    let mut again = books.entry(date!(2026 - 05 - 02), coal, bank, 200);
    again.lines[1].dimensions = dimension::written([values[1].clone()]);
    books.post(&[entry]).await;
    books.post(&[again]).await;
    let found = async || -> Vec<(String, String, i64)> {
        let query =
            "SELECT d.name, COALESCE(m.value, v.value), count(DISTINCT l.id) FROM dimension d
                     JOIN dimension_value v ON v.books_id = d.books_id AND v.dimension_id = d.id
                     LEFT JOIN dimension_value m ON m.books_id = v.books_id AND m.id = v.merged_into
                     JOIN dimension_set_value s ON s.books_id = d.books_id AND s.value_id = v.id
                     JOIN line l ON l.books_id = d.books_id AND l.dimension_set_id = s.set_id
                     GROUP BY 1, 2 ORDER BY 1, 2";
        sqlx::query_as(query).fetch_all(books.store.pool()).await.unwrap()
    };
    let row = |name: &str, value: &str, lines| (name.to_owned(), value.to_owned(), lines);
    let shed = row("department", "Shed", 1);
    // The railway's own lines, and one of the second entry, are of Larkfell as it is.
    let [_, (_, _, own), _] = found().await.try_into().unwrap();
    let apart = [shed.clone(), row("site", "Larkfell", own), row("site", "Larkfell; west=1", 2)];
    assert_eq!(found().await, apart);
    // Values become one by one update; no line and no digest is touched.
    books
        .tamper(
            "UPDATE dimension_value v SET merged_into = o.id FROM dimension_value o
             WHERE v.value = 'Larkfell; west=1' AND o.value = 'Larkfell'",
        )
        .await;
    assert_eq!(found().await, [shed, row("site", "Larkfell", own + 2)]);
    books.must_recount().await;
}

#[tokio::test]
async fn the_count_of_lines_by_period_follows_whatever_becomes_of_lines() {
    let books = Books::railway().await;
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    let days = [date!(2026 - 02 - 10), date!(2026 - 03 - 10), date!(2026 - 03 - 20)];
    books.post(&days.map(|day| books.entry(day, coal, bank, 100))).await;
    let counts = async || {
        books.names("SELECT lines::text FROM period_total ORDER BY period").await.join(" ")
    };
    assert_eq!(counts().await, "2 4");
    // A part of a history that moves takes its lines along, within their periods.
    books.apply(books.stage("5010 history to 5020, until 2026-03-10").await).await.unwrap();
    assert_eq!(counts().await, "2 4");
    books.must_recount().await;
    // Periods that are numbered anew keep their lines.
    let year = FiscalCalendar::starting(7, 1).unwrap();
    books.store.change_setting(books.member, &SettingChange::Year(year)).await.unwrap();
    assert_eq!(counts().await, "2 4");
    books.must_recount().await;
    assert_eq!(books.store.line_count(books.member).await.unwrap(), 6);
    let trial = books.store.trial_balance(books.member).await.unwrap();
    let own = trial.rows.iter().find(|row| row.account == bank).unwrap();
    assert_eq!((own.balance, trial.total()), (-300, 0));
}
