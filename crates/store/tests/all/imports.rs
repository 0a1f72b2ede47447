//! Imports on a real database: a file waits, and is then stored once and whole or not at all.

use serde_json::json;
use time::macros::date;
use zf_core::chart::{Class, Kind, Structure};
use zf_core::file_kind::FileKind;
use zf_core::ids::{ItemId, PersonId};
use zf_core::items::{ItemChange, ItemName};
use zf_core::statement::StatementItem;
use zf_core::usage::{Named, Use};
use zf_store::StoreError;
use zf_store::imports::Ready;
use zf_store::jobs::Progress;
use zf_store::journal::lines::JournalFilter;
use zf_testing::{Books, account};

#[tokio::test]
async fn a_file_waits_until_it_is_stored_or_dropped() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let id = store.keep_upload(member, FileKind::Usage, "uses.csv", b"a,b").await.unwrap();
    let upload = store.upload(member, id).await.unwrap();
    assert_eq!((upload.kind, upload.file_name.as_str()), (FileKind::Usage, "uses.csv"));
    assert_eq!(store.content(member, id).await.unwrap(), b"a,b");
    store.drop_upload(member, id).await.unwrap();
    assert!(matches!(store.upload(member, id).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_file_that_was_stored_is_kept_by_name_and_not_by_content() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let coal = books.id("5010").await;
    let id = store.keep_upload(member, FileKind::Usage, "uses.csv", b"a,b").await.unwrap();
    let seen = store.snapshot(member).await.unwrap();
    let uses = [Use {
        names: Named::Account(coal),
        used_by: "bank rule".to_owned(),
        label: "Tarn".to_owned(),
        budget: None,
    }];
    store
        .commit_import(member, id, &seen, &Ready::Usage(&uses), &Progress::default())
        .await
        .unwrap();
    assert!(matches!(store.upload(member, id).await, Err(StoreError::NotFound(_))));
    // Dropping what was stored drops nothing.
    store.drop_upload(member, id).await.unwrap();
    let today = store.snapshot(member).await.unwrap().today;
    assert_eq!(today.usage.of(coal), ["bank rule “Tarn”"]);
    assert!(today.usage.given);
    let trail = books.done_last(1).await.remove(0);
    assert_eq!((trail.what.as_str(), trail.by.as_str()), ("imported", "Ann Tester"));
    assert_eq!(trail.detail, "where-used list from uses.csv, 1 row");
    // And once only.
    let seen = store.snapshot(member).await.unwrap();
    let again =
        store.commit_import(member, id, &seen, &Ready::Usage(&uses), &Progress::default()).await;
    assert!(matches!(again, Err(StoreError::NotFound(_))), "{again:?}");
}

#[tokio::test]
async fn what_was_read_against_older_books_is_refused_and_nothing_is_stored() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    let id = store.keep_upload(member, FileKind::Journal, "may.csv", b"").await.unwrap();
    let seen = store.snapshot(member).await.unwrap();
    books.apply(books.stage("5010 name Steam coal").await).await.unwrap();
    let entry = books.entry(date!(2026 - 05 - 01), coal, bank, 100);
    let refused = store
        .commit_import(
            member,
            id,
            &seen,
            &Ready::Journal { entries: &vec![entry], added: &[], reopened: &[], digest: None },
            &Progress::default(),
        )
        .await;
    assert!(matches!(refused, Err(StoreError::Taken(_))), "{refused:?}");
    let today = store.snapshot(member).await.unwrap().today;
    assert_eq!(today.activity.strands().count(), 0);
    assert!(store.upload(member, id).await.is_ok(), "the file still waits");
    books.must_recount().await;
}

#[tokio::test]
async fn accounts_remember_the_file_they_came_from() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let ids = store.take_account_ids(2).await.unwrap();
    let mut heading = account("7000", "Fees", Class::Expense);
    (heading.id, heading.kind) = (ids[0], Kind::Heading);
    let mut below = account("7010", "Audit", Class::Expense);
    (below.id, below.parent) = (ids[1], Some(ids[0]));
    let id = store.keep_upload(member, FileKind::Chart, "fees.csv", b"").await.unwrap();
    below.origin = Some(id);
    let seen = store.snapshot(member).await.unwrap();
    store
        .commit_import(
            member,
            id,
            &seen,
            &Ready::Chart {
                accounts: &[heading, below.clone()],
                structure: seen.today.chart.structure(),
            },
            &Progress::default(),
        )
        .await
        .unwrap();
    let snapshot = store.snapshot(member).await.unwrap();
    assert_eq!(snapshot.today.chart.get(below.id), Some(&below));
    assert_ne!(snapshot.today.chart.get(books.id("5010").await).unwrap().origin, below.origin);
    // A later plan does not make them forget it.
    books.apply(books.stage("7010 name Audit and accountancy").await).await.unwrap();
    let snapshot = store.snapshot(member).await.unwrap();
    assert_eq!(snapshot.today.chart.get(below.id).unwrap().origin, Some(id));
}

#[tokio::test]
async fn a_chart_with_a_code_that_is_taken_is_stored_not_at_all() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let before = store.snapshot(member).await.unwrap().today.chart;
    let ids = store.take_account_ids(2).await.unwrap();
    let mut free = account("7010", "Audit", Class::Expense);
    free.id = ids[0];
    let mut taken = account("50 10", "Coal again", Class::Expense);
    taken.id = ids[1];
    let id = store.keep_upload(member, FileKind::Chart, "x.csv", b"").await.unwrap();
    let seen = store.snapshot(member).await.unwrap();
    let refused = store
        .commit_import(
            member,
            id,
            &seen,
            &Ready::Chart { accounts: &[free, taken], structure: seen.today.chart.structure() },
            &Progress::default(),
        )
        .await;
    assert!(refused.is_err(), "the last guard is the database's own");
    let after = store.snapshot(member).await.unwrap().today.chart;
    assert_eq!(after.iter().count(), before.iter().count());
}

#[tokio::test]
async fn how_files_of_a_form_were_read_is_remembered_by_books_and_kind() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let id = store.keep_upload(member, FileKind::Chart, "a.csv", b"x").await.unwrap();
    assert_eq!(store.upload(member, id).await.unwrap().choices, json!({}));
    store.choose(member, id, &json!({ "dates": "dmy" })).await.unwrap();
    assert_eq!(store.upload(member, id).await.unwrap().choices, json!({ "dates": "dmy" }));

    let form = |headings: &[&str]| headings.iter().map(|h| (*h).to_owned()).collect::<Vec<_>>();
    let (first, second) = (form(&["konto", "text"]), form(&["code", "name"]));
    for (headings, dates) in [(&first, "dmy"), (&second, "ymd"), (&first, "mdy")] {
        let choices = json!({ "dates": dates });
        store.remember_form(member, FileKind::Journal, headings, &choices).await.unwrap();
    }
    let forms = store.file_forms(member, FileKind::Journal).await.unwrap();
    let said: Vec<_> = forms.iter().map(|f| (&f.headings, &f.choices["dates"])).collect();
    assert_eq!(said, [(&first, &json!("mdy")), (&second, &json!("ymd"))], "the latest first");
    assert!(store.file_forms(member, FileKind::Chart).await.unwrap().is_empty());
    let other = Books::railway_of(store.clone(), PersonId(1)).await;
    assert!(store.file_forms(other.member, FileKind::Journal).await.unwrap().is_empty());
}

#[tokio::test]
async fn the_journal_is_read_a_page_at_a_time_and_in_part() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let (coal, oil, bank) =
        (books.id("5010").await, books.id("5040").await, books.id("1010").await);
    let entries: Vec<_> = (1..=6)
        .map(|day| {
            let cost = if day % 2 == 0 { coal } else { oil };
            let date = date!(2026 - 03 - 01) + time::Duration::days(day);
            books.entry(date, cost, bank, 100 + day)
        })
        .collect();
    books.post(&entries).await;
    let all = JournalFilter::default();
    let (mut lines, mut after) = (Vec::new(), (0, 0));
    let mut journal = store.read_journal(member).await.unwrap();
    loop {
        let page = journal.lines(&all, after, 5).await.unwrap();
        let Some(last) = page.last() else { break };
        after = (last.entry_id, last.id);
        lines.extend(page);
    }
    let amounts: Vec<i64> = lines.iter().map(|line| line.amount).collect();
    let posted = entries.iter().flat_map(|entry| &entry.lines).map(|line| line.amount);
    assert_eq!(amounts, posted.collect::<Vec<_>>(), "every line once, as posted");
    assert!(lines.iter().any(|line| line.cleared) && lines.iter().any(|line| !line.cleared));

    let days = (Some(date!(2026 - 03 - 03)), Some(date!(2026 - 03 - 05)));
    let part = JournalFilter { account: Some(coal), from: days.0, to: days.1 };
    let lines = journal.lines(&part, (0, 0), 100).await.unwrap();
    let said: Vec<_> = lines.iter().map(|line| (line.date, line.posted_code.as_str())).collect();
    assert_eq!(said, [(date!(2026 - 03 - 03), "5010"), (date!(2026 - 03 - 05), "5010")]);
    let summary = journal.summary().await.unwrap();
    assert_eq!(summary.entries, 6);
    assert_eq!(summary.days, Some((date!(2026 - 03 - 02), date!(2026 - 03 - 07))));
    assert_eq!(journal.payees().await.unwrap(), ["Harrock"]);
    assert_eq!(journal.dimensions().await.unwrap(), ["site=Larkfell"]);
}

#[tokio::test]
async fn accounts_that_come_with_a_journal_are_stored_with_it_or_not_at_all() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let bank = books.id("1010").await;
    let id = store.keep_upload(member, FileKind::Journal, "may.csv", b"").await.unwrap();
    let mut tea = account("9100", "Tea", Class::Expense);
    (tea.id, tea.origin) = (store.take_account_id().await.unwrap(), Some(id));
    let entries = vec![books.entry(date!(2026 - 05 - 01), tea.id, bank, 100)];
    let seen = store.snapshot(member).await.unwrap();
    // Somebody else was first to take the code.
    let mut other = account("9100", "Treats", Class::Expense);
    other.id = store.take_account_id().await.unwrap();
    let chart = store.keep_upload(member, FileKind::Chart, "b.csv", b"").await.unwrap();
    store
        .commit_import(
            member,
            chart,
            &seen,
            &Ready::Chart { accounts: &[other.clone()], structure: seen.today.chart.structure() },
            &Progress::default(),
        )
        .await
        .unwrap();
    let added = [tea.clone()];
    let ready = || Ready::Journal { entries: &entries, added: &added, reopened: &[], digest: None };
    let stale = store.commit_import(member, id, &seen, &ready(), &Progress::default()).await;
    assert!(matches!(stale, Err(StoreError::StoredMeanwhile { .. })), "{stale:?}");
    let seen = store.snapshot(member).await.unwrap();
    let taken = store.commit_import(member, id, &seen, &ready(), &Progress::default()).await;
    assert!(matches!(taken, Err(StoreError::StoredMeanwhile { .. })), "{taken:?}");
    assert_eq!(store.snapshot(member).await.unwrap().today.figures().len(), 0);

    books.apply(books.stage("9100 code 9101").await).await.unwrap();
    let seen = store.snapshot(member).await.unwrap();
    store.commit_import(member, id, &seen, &ready(), &Progress::default()).await.unwrap();
    let today = store.snapshot(member).await.unwrap().today;
    assert_eq!(today.chart.get(tea.id), Some(&tea));
    assert_eq!(today.figures()[&tea.id].all.net(), 100);
    books.must_recount().await;
}

#[tokio::test]
async fn a_chart_brings_lines_of_its_own_and_codes_that_are_only_proposed() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let seen = store.snapshot(member).await.unwrap();
    let known: Vec<StatementItem> = seen.today.chart.structure().items().cloned().collect();
    let mut wanted = known.clone();
    let at = known.iter().rposition(|line| line.class == Class::Expense).unwrap();
    let herd = StatementItem {
        id: ItemId(known.iter().map(|line| line.id.0).max().unwrap() + 1),
        name: "Herd health".to_owned(),
        standard: None,
        ..known[at].clone()
    };
    wanted.insert(at + 1, herd.clone());
    let structure = Structure::new(wanted);
    let mut vet = account("7010", "Vet", Class::Expense);
    vet.id = store.take_account_id().await.unwrap();
    (vet.caption, vet.code_proposed) = (structure.caption(herd.id), true);
    let id = store.keep_upload(member, FileKind::Chart, "farm.csv", b"").await.unwrap();
    let ready = Ready::Chart { accounts: &[vet.clone()], structure: &structure };
    store.commit_import(member, id, &seen, &ready, &Progress::default()).await.unwrap();

    let chart = store.snapshot(member).await.unwrap().today.chart;
    let names = |structure: &Structure| -> Vec<String> {
        structure.items().map(|line| line.name.clone()).collect()
    };
    assert_eq!(names(chart.structure()), names(&structure), "each line at its place");
    let stored = chart.get(vet.id).unwrap();
    assert_eq!((stored.caption_words(), stored.code_proposed), ("Herd health", true));
    assert!(chart.structure().caption(stored.caption.as_ref().unwrap().id).is_some());

    // A plan gives it a code; an undo takes that away again.
    let applied = books.apply(books.stage("7010 code 7100").await).await.unwrap();
    let given = store.snapshot(member).await.unwrap().today.chart;
    assert!(!given.get(vet.id).unwrap().code_proposed);
    books.undo(applied).await.unwrap();
    let back = store.snapshot(member).await.unwrap().today.chart;
    assert!(back.get(vet.id).unwrap().code_proposed);
}

#[tokio::test]
async fn lines_are_added_to_books_that_did_not_change_meanwhile() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let seen = store.snapshot(member).await.unwrap();
    let known = seen.today.chart.structure();
    let line = StatementItem {
        id: ItemId(i64::MAX),
        parent: None,
        kind: zf_core::statement::ItemKind::Item,
        class: Class::Expense,
        name: "Running the engines".to_owned(),
        standard: None,
        retired: false,
        other_side: None,
        terms: Vec::new(),
    };
    let wanted = Structure::new(known.items().cloned().chain([line]));
    let item = ItemName { name: "Running the engines".to_owned(), class: Class::Expense };
    let done = [ItemChange::Added { item }];
    let ids = store.keep_items(member, &seen, &wanted, &done).await.unwrap();
    let after = store.snapshot(member).await.unwrap();
    let added = after.today.chart.structure().caption(ids[&ItemId(i64::MAX)]).unwrap();
    assert_eq!((added.name.as_str(), added.class), ("Running the engines", Class::Expense));
    assert!(after.books.revision > seen.books.revision, "whoever looked before looks again");
    // Who saw the books before that is told so, and nothing is added twice.
    let late = store.keep_items(member, &seen, &wanted, &done).await;
    assert!(matches!(late, Err(StoreError::Taken(_))), "{late:?}");
    let lines = store.snapshot(member).await.unwrap().today.chart.structure().items().count();
    assert_eq!(lines, known.items().count() + 1);
}
