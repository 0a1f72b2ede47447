//! Two people at once: each race begins behind a barrier, and whatever one is answered must be true
//! of the books in the end.

use crate::{Books, agreement};
use std::sync::Arc;
use tokio::sync::Barrier;
use zf_core::ids::PlanId;
use zf_core::plan::Change;
use zf_core::plan::edit::{Edit, Wanted};
use zf_store::StoreError;
use zf_store::plans::Edited;
use zf_store::plans::applying::NotApplied;

/// What came of a race, so many times.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Tally {
    /// The one beside the apply came first and was done.
    pub first: usize,
    /// It came too late and was refused.
    pub refused: usize,
}

/// Who applies, beside whom.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Beside {
    /// Somebody who edits the plan.
    Edit,
    /// Somebody who discards it.
    Discard,
    /// Somebody who applies it as well.
    Apply,
}

/// Lets an apply and somebody else loose on one plan at the same moment, `rounds` times.
///
/// # Panics
/// When an answer is not true of the books in the end.
pub async fn apply_beside(other: Beside, rounds: usize) -> Tally {
    let mut tally = Tally::default();
    for round in 0..rounds {
        let books = Arc::new(Books::railway().await);
        let plan = books.stage("5010 code 5110").await;
        let agreed = agreement(&books.rehearse(plan).await);
        let barrier = Arc::new(Barrier::new(2));
        let applying = tokio::spawn({
            let (books, barrier) = (Arc::clone(&books), Arc::clone(&barrier));
            async move {
                barrier.wait().await;
                stagger(round, 0).await;
                books.store.apply(books.member, plan, &agreed).await
            }
        });
        barrier.wait().await;
        stagger(round, 1).await;
        let done = beside(other, &books, plan).await;
        let applied = applying.await.unwrap();
        let chart = books.store.snapshot(books.member).await.unwrap().today.chart;
        let name = &chart.get(books.id("5040").await).unwrap().name;
        match (&done, &applied) {
            // Done before the apply: it must have seen that the plan was another.
            (Ok(()), Err(NotApplied::Changed)) => {
                assert_eq!((other, &**name), (Beside::Edit, "Oil"))
            }
            (Ok(()), Err(NotApplied::Store(StoreError::Ended(plan)))) => {
                assert_eq!(plan.applied, other == Beside::Apply, "{plan}");
                assert!(plan.ended.is_some(), "it is said who ended it, and when");
            }
            (Err(StoreError::Ended(plan)), Ok(_)) => assert!(plan.applied, "{plan}"),
            others => panic!("{other:?} in round {round}: {others:?}"),
        }
        if done.is_ok() {
            tally.first += 1;
        } else {
            tally.refused += 1;
        }
        let applied = books.count("application").await;
        assert_eq!(applied, i64::from(done.is_err() || other == Beside::Apply));
        books.must_recount().await;
    }
    tally
}

/// Holds one of the two back by a little, another one each time, so that either may win.
async fn stagger(round: usize, who: usize) {
    let held = if round % 2 == who { round % 5 } else { 0 };
    tokio::time::sleep(std::time::Duration::from_millis(held as u64)).await;
}

async fn beside(other: Beside, books: &Books, plan: PlanId) -> Result<(), StoreError> {
    match other {
        Beside::Edit => {
            let change = Change::Name("Oils and greases".to_owned());
            let account = books.id("5040").await;
            let edit = Edit { account, seen: None, wanted: Wanted::Stage(change) };
            let chart = books.store.snapshot(books.member).await?.today.chart;
            match books.store.edit_plan(books.member, plan, &chart, &[edit]).await? {
                Edited::Done(..) => Ok(()),
                Edited::Conflicts(conflicts) => panic!("nobody else edits: {conflicts:?}"),
            }
        }
        Beside::Discard => books.store.discard_plan(books.member, plan).await,
        Beside::Apply => {
            let agreed = agreement(&books.rehearse_again(plan).await?);
            match books.store.apply(books.member, plan, &agreed).await {
                Ok(_) => Ok(()),
                Err(NotApplied::Store(error)) => Err(error),
                Err(error) => panic!("{error}"),
            }
        }
    }
}
