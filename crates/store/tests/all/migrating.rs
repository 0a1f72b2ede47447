//! Books that were kept with an earlier schema: the migrations take them along, and nothing of what was
//! posted, planned or proved is lost.

use sqlx::PgPool;
use sqlx::migrate::Migrator;
use std::borrow::Cow;
use std::collections::BTreeMap;
use zf_core::activity::Posted;
use zf_core::ids::{AccountId, BooksId, PersonId, PlanId, StrandId};
use zf_core::plan::{Change, Field};
use zf_core::rehearsal::rehearse;
use zf_core::rehearsal::rule::Rule;
use zf_core::statement::{Class, Section};
use zf_store::Store;
use zf_store::member::Member;
use zf_store::plans::archive::proof::Proof;
use zf_testing::empty_database;

/// The migration that the fixture was written with, and its content.
const WRITTEN: (i64, &str) = (15, include_str!("fixtures/schema_15.sql"));

/// What each strand adds up to in the database, whatever else is known of it.
async fn digests(pool: &PgPool) -> Vec<(i64, String)> {
    let query = "SELECT strand_id, sum(digest)::text FROM strand_total GROUP BY strand_id ORDER BY strand_id";
    sqlx::query_as(query).fetch_all(pool).await.unwrap()
}

/// The books of the fixture, taken along by all later migrations, and their digests before that.
async fn taken_along() -> (Store, Member, Vec<(i64, String)>) {
    let url = empty_database().await;
    let pool = PgPool::connect(&url).await.unwrap();
    let all = sqlx::migrate!("./migrations");
    let earlier = all.iter().filter(|migration| migration.version <= WRITTEN.0);
    let earlier =
        Migrator { migrations: Cow::Owned(earlier.cloned().collect()), ..Migrator::DEFAULT };
    earlier.run(&pool).await.unwrap();
    sqlx::raw_sql(WRITTEN.1).execute(&pool).await.unwrap();
    let before = digests(&pool).await;
    let store = Store::connect(&url).await.unwrap();
    let member = store.member(PersonId(1), BooksId(1)).await.unwrap();
    (store, member, before)
}

#[tokio::test]
async fn lines_and_proofs_are_as_they_were() {
    let (store, member, before) = taken_along().await;
    assert_eq!(digests(store.pool()).await, before);
    assert_eq!(store.recount(member).await.unwrap().misses, [""; 0]);
    let applied = store.application(member, 1).await.unwrap();
    let Proof::Earlier(proof) = applied.proof else { panic!("it was archived in texts") };
    assert_eq!((proof.difference.as_str(), proof.lines), ("0.00", 12));
    assert!(store.rehearse_undo(member, 2).await.is_err(), "it was undone then");
    let (_, undo) = store.rehearse_undo(member, 1).await.unwrap();
    assert_eq!(undo.proof.difference, 0);
}

#[tokio::test]
async fn an_open_plan_is_there_with_every_kind_of_change_and_its_stops_are_asked_again() {
    let (store, member, _) = taken_along().await;
    let (draft, mut plan) = store.plan(member, PlanId(3)).await.unwrap();
    assert_eq!(draft.name, "Everything");
    let fields = plan.targets.values().flat_map(BTreeMap::keys);
    let fields: std::collections::BTreeSet<_> = fields.collect();
    // An origin is staged only by a file.
    assert!(Field::ALL.iter().all(|field| *field == Field::Origin || fields.contains(field)));
    // What was staged as a section is the line of the class that is staged with it.
    let captions = plan.targets.values().filter_map(|target| {
        let Change::Caption(line) = target.get(&Field::Caption)?.change else { return None };
        line
    });
    let lines = store.snapshot(member).await.unwrap().today.chart;
    let standard = |line| lines.structure().caption(line).map(|l| (l.class, l.standard));
    let captions: Vec<_> = captions.map(|line| standard(line).unwrap()).collect();
    let wanted = [Section::Cash, Section::Inventories].map(|item| (Class::Asset, Some(item)));
    assert_eq!(captions, wanted);
    plan.cuts = store.cuts(member, &plan).await.unwrap();
    let today = store.snapshot(member).await.unwrap().today;
    let rehearsal = rehearse(&today, &plan);
    // Stops are known by their causes since, and were by their words: what was overridden is asked again.
    assert_eq!(rehearsal.findings.iter().filter(|found| found.overridden.is_some()).count(), 0);
    assert!(rehearsal.stops().any(|stop| stop.rule() == Rule::ClassAcross));
    assert!(plan.overrides.is_empty(), "and what voids nothing is not kept");
}

#[tokio::test]
async fn strands_say_what_their_account_was_when_they_were_posted() {
    let (store, member, _) = taken_along().await;
    let today = store.snapshot(member).await.unwrap().today;
    let posted = |id: i64| today.activity.strand(StrandId(id)).unwrap().posted.clone();
    let account = |id: i64| today.chart.get(AccountId(id)).unwrap();
    let heading = Some(AccountId(17));
    // Merged since, renamed and put under a heading since, and carved since.
    let wood = posted(4);
    assert_eq!(wood, Posted { parent: None, ..Posted::to(account(4)) });
    let coal = posted(3);
    assert_eq!((coal.name.as_str(), coal.parent), ("Coal", None));
    assert_eq!(account(3).parent, heading);
    assert_eq!(posted(65), coal, "what was carved was posted like what it was carved from");
    // Opened behind the change.
    let later = today.activity.strands().find(|(s, ..)| s.posted.name == "Steam coal").unwrap();
    assert_eq!(later.0.posted, Posted::to(account(3)));
}
