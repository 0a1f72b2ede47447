//! What is kept in memory of books and plans, so that it is not read or computed again.
//!
//! Everything is known by the revisions that it was computed at, and the database is asked each time
//! which those are now: any number of servers can share one database. What was used least lately is
//! dropped first, and of many who ask for the same at once one loads it.

use moka::future::{Cache, CacheBuilder};
use moka::policy::EvictionPolicy;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, OnceLock, PoisonError};
use std::time::{Duration, Instant};
use zf_core::chart::Chart;
use zf_core::history::Split;
use zf_core::history::cut::Cuts;
use zf_core::ids::{AccountId, BooksId, PlanId};
use zf_core::names::Charts;
use zf_core::people::Forms;
use zf_core::plan::Plan;
use zf_core::rehearsal::report;
use zf_core::rehearsal::{AddedPlace, Rehearsal, rehearse};
use zf_core::review::fixes::Fix;
use zf_core::review::look_alikes::Found;
use zf_core::review::remarks::Remark;
use zf_core::review::unused::Unused;
use zf_core::today::Today;
use zf_phrases::Say;
use zf_store::StoreError;
use zf_store::journal::today::Snapshot;
use zf_store::member::Member;
use zf_store::plans::DraftPlan;
use zf_wire::rehearsal::{Report, TrialBalances, TrialPair};

/// How many sets of books are kept.
const BOOKS: u64 = 16;

/// How many plans are kept.
const PLANS: u64 = 32;

/// How many accounts all rehearsals change that are kept, together.
const CHANGES: u64 = 60_000;

/// How many reviews are kept.
const REVIEWS: u64 = 8;

/// The books and the plan that something was computed of, each with its revision.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub(crate) struct At {
    pub(crate) books: BooksId,
    pub(crate) revision: i64,
    pub(crate) plan: PlanId,
    pub(crate) plan_revision: i64,
}

impl At {
    /// A draft of somebody's books, at a revision of it.
    pub(crate) fn of(member: Member, books: &Snapshot, plan: PlanId, plan_revision: i64) -> Self {
        Self { books: member.books(), revision: books.books.revision, plan, plan_revision }
    }
}

/// What a review was made of.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Reviewed {
    pub(crate) books: BooksId,
    pub(crate) revision: i64,
    /// Which marks “not duplicates” there were.
    pub(crate) not_duplicates: Vec<i64>,
    /// The day since when an account has to be posted to.
    pub(crate) since: time::Date,
}

/// A draft with what is staged in it.
#[derive(Debug)]
pub(crate) struct CachedPlan {
    pub(crate) draft: DraftPlan,
    pub(crate) plan: Plan,
}

/// What the parts of a plan's splits take, for as long as they and the books stay as they were.
#[derive(Debug)]
pub(crate) struct CachedCuts {
    pub(crate) revision: i64,
    pub(crate) splits: Vec<(AccountId, Split)>,
    pub(crate) cuts: Cuts,
}

/// A draft as it was rehearsed on the books.
#[derive(Debug)]
pub(crate) struct Rehearsed {
    pub(crate) rehearsal: Rehearsal,
    /// The chart that it was rehearsed on.
    chart: Chart,
    figures: report::Report,
    /// The same in words, by the forms of whoever asked.
    worded: Mutex<HashMap<Forms, Arc<Report>>>,
    /// Where the accounts that the plan adds stand.
    pub(crate) added: Vec<AddedPlace>,
    /// What apply must be given.
    pub(crate) fingerprint: String,
    /// How long the rehearsal took.
    pub(crate) took: Duration,
    /// The trial balance on both sides, once somebody asked for it.
    trial: OnceLock<Vec<TrialPair>>,
}

impl Rehearsed {
    /// Rehearses a plan on the books as they stand.
    pub(crate) fn of(today: &Today, plan: &Plan) -> Self {
        let began = Instant::now();
        let rehearsal = rehearse(today, plan);
        let took = began.elapsed();
        Self {
            chart: today.chart.clone(),
            figures: report::Report::of(today, &rehearsal),
            worded: Mutex::default(),
            added: rehearsal.added_places(&today.chart),
            fingerprint: rehearsal.fingerprint(),
            took,
            trial: OnceLock::new(),
            rehearsal,
        }
    }

    /// What it does, in words for whoever has chosen these forms.
    pub(crate) fn report(&self, forms: Forms) -> Arc<Report> {
        let mut worded = self.worded.lock().unwrap_or_else(PoisonError::into_inner);
        let word = || {
            let names = self.names();
            let say = Say::to(forms, &names, self.figures.figures.currency);
            Arc::new(Report::of(&self.figures, &self.rehearsal.findings, &say))
        };
        Arc::clone(worded.entry(forms).or_insert_with(word))
    }

    /// What accounts are called on both sides.
    pub(crate) fn names(&self) -> Charts<'_> {
        Charts { today: &self.chart, after: &self.rehearsal.after }
    }

    /// How many accounts it changes.
    pub(crate) fn changes(&self) -> usize {
        self.figures.crosswalk.len()
    }

    /// The trial balance of the books that it was rehearsed on, on both sides.
    pub(crate) fn trial(&self) -> &[TrialPair] {
        self.trial.get_or_init(|| {
            let names = self.names();
            let say = Say::plain(&names, self.figures.figures.currency);
            TrialBalances::of(&report::TrialBalances::of(&self.rehearsal), &say).beside()
        })
    }

    fn weight(&self) -> u32 {
        u32::try_from(self.changes() + 1).unwrap_or(u32::MAX)
    }
}

/// What a review found.
#[derive(Debug)]
pub(crate) struct Review {
    pub(crate) look_alikes: Found,
    pub(crate) unused: Vec<Unused>,
    /// What else was noticed, with what fixes it.
    pub(crate) remarks: Vec<(Remark, Vec<Fix>)>,
}

#[derive(Clone, Debug)]
pub(crate) struct Kept {
    snapshots: Cache<(BooksId, i64), Arc<Snapshot>>,
    pub(crate) plans: Cache<(BooksId, PlanId), Arc<CachedPlan>>,
    pub(crate) cuts: Cache<(BooksId, PlanId), Arc<CachedCuts>>,
    pub(crate) rehearsals: Cache<At, Arc<Rehearsed>>,
    pub(crate) reviews: Cache<Reviewed, Arc<Review>>,
}

impl Default for Kept {
    fn default() -> Self {
        Self {
            snapshots: least_lately(BOOKS).build(),
            plans: least_lately(PLANS).build(),
            cuts: least_lately(PLANS).build(),
            rehearsals: least_lately(CHANGES)
                .weigher(|_, rehearsed: &Arc<Rehearsed>| rehearsed.weight())
                .build(),
            reviews: least_lately(REVIEWS).build(),
        }
    }
}

fn least_lately<K, V>(most: u64) -> CacheBuilder<K, V, Cache<K, V>>
where
    K: std::hash::Hash + Eq + Send + Sync + 'static,
    V: Clone + Send + Sync + 'static,
{
    Cache::builder().max_capacity(most).eviction_policy(EvictionPolicy::lru())
}

impl Kept {
    /// The books as they stood at a revision.
    ///
    /// # Errors
    /// When they cannot be loaded.
    pub(crate) async fn snapshot(
        &self,
        books: BooksId,
        revision: i64,
        load: impl Future<Output = Result<Snapshot, StoreError>>,
    ) -> Result<Arc<Snapshot>, StoreError> {
        let load = async { load.await.map(Arc::new) };
        let entry = self.snapshots.entry((books, revision)).or_try_insert_with(load).await;
        let entry = entry.map_err(StoreError::shared)?;
        if entry.is_fresh() {
            // Nobody asks for books as they were.
            for (key, _) in &self.snapshots {
                if key.0 == books && key.1 < revision {
                    self.snapshots.invalidate(&*key).await;
                }
            }
        }
        Ok(entry.into_value())
    }
}
