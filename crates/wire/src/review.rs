//! What the review finds, and what of it was dismissed.

use crate::plans::NewAccountForm;
use serde::{Deserialize, Serialize};
use zf_core::chart::{Account, Status};
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Fate};
use zf_core::review::fixes::Fix;
use zf_core::review::look_alikes::{LookAlike, Observation};
use zf_core::review::remarks::{Remark, RemarkKind};
use zf_core::review::unused::Unused;
use zf_core::today::Today;
use zf_core::trial_balance::balance;
use zf_phrases::Say;
use zf_phrases::review::title;

/// A remark that somebody said is right in these books.
#[derive(Serialize, utoipa::ToSchema)]
pub struct DismissedView {
    pub id: i64,
    /// Its kind, in words.
    pub title: &'static str,
    /// What it is about, as it is called now; none when all of the kind are dismissed.
    pub about: Option<String>,
    pub reason: String,
    pub person: String,
    pub at: String,
}

/// A remark that is right in these books.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct DismissForm {
    pub kind: RemarkKind,
    /// The account it is about.
    pub account: Option<i64>,
    /// The statement item it is about. Without either all remarks of the kind are meant.
    pub item: Option<i64>,
    /// Why; remembered and shown.
    pub reason: String,
}

/// A page of what was noticed in the books as they stand, one kind of finding after the other.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ReviewPage {
    /// Since when an account must have been posted to, not to be listed.
    pub since: String,
    /// How many pages there are.
    pub pages: usize,
    /// Those of which about nine in ten or more are the same thing.
    pub look_alikes: Vec<LookAlikeView>,
    /// Those that are worth a look.
    pub worth_a_look: Vec<LookAlikeView>,
    pub others: Vec<RemarkView>,
    pub unused: Vec<UnusedView>,
    /// Accounts that take no more lines and can be restored.
    pub retired: Vec<RetiredView>,
    /// Accounts that somebody said are not the same thing.
    pub not_duplicates: Vec<NotDuplicatesView>,
    /// Remarks that somebody said are right in these books.
    pub dismissed: Vec<DismissedView>,
}

/// Accounts that somebody said are not the same thing.
#[derive(Serialize, utoipa::ToSchema)]
pub struct NotDuplicatesView {
    pub id: i64,
    pub accounts: Vec<i64>,
    pub reason: String,
    pub person: String,
    pub at: String,
}

/// An account that takes no more lines.
#[derive(Serialize, utoipa::ToSchema)]
pub struct RetiredView {
    pub account: i64,
    /// Deactivated or archived.
    pub status: Status,
    pub last_posted: Option<String>,
    pub balance: String,
    pub lines: u64,
    pub uses: usize,
}

/// Accounts that are probably the same thing.
#[derive(Serialize, utoipa::ToSchema)]
pub struct LookAlikeView {
    pub accounts: Vec<i64>,
    /// The one that the others would best be merged into.
    pub survivor: i64,
    /// How sure it is, of 100.
    pub score: u8,
    /// What speaks for it, in sentences, the strongest first.
    pub evidence: Vec<String>,
    /// What speaks against it.
    pub against: Vec<String>,
}

/// An account that is not used.
#[derive(Serialize, utoipa::ToSchema)]
pub struct UnusedView {
    pub account: i64,
    pub last_posted: Option<String>,
    pub balance: String,
    /// Whether a balance would be left standing on it.
    pub leaves_balance: bool,
    pub lines: u64,
    /// What names it elsewhere.
    pub uses: Vec<String>,
    /// The fate that it qualifies for; none when it has to stay.
    pub fate: Option<Fate>,
    /// Why it is listed, and what rules out other fates.
    pub reasons: Vec<String>,
}

/// Something else that is odd.
#[derive(Serialize, utoipa::ToSchema)]
pub struct RemarkView {
    /// Its kind.
    pub kind: RemarkKind,
    /// Its kind, in words.
    pub title: &'static str,
    pub accounts: Vec<i64>,
    /// The statement item it is about, if it is about one.
    pub item: Option<i64>,
    pub message: String,
    /// How sure it is what would be right, of 100, where that was calculated.
    pub score: Option<u8>,
    /// What can be staged about it, best first.
    pub fixes: Vec<FixView>,
    /// Whether it is a matter of lines that belong elsewhere.
    pub moves: bool,
}

/// A way to fix something.
#[derive(Serialize, utoipa::ToSchema)]
pub struct FixView {
    /// What a button says.
    pub label: String,
    pub edits: Vec<FixEdit>,
    /// An account to be added, which takes the history of another one.
    pub adds: Option<NewAccountForm>,
}

/// A change to stage.
#[derive(Serialize, utoipa::ToSchema)]
pub struct FixEdit {
    pub account: AccountId,
    pub change: Change,
}

/// Since when.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Since {
    /// An account not posted to since this day is not used; the start of the prior fiscal year when
    /// missing.
    pub since: Option<String>,
}

/// Accounts that are not the same thing.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct NotDuplicatesForm {
    pub accounts: Vec<i64>,
    /// Why; remembered and shown.
    pub reason: String,
}

impl UnusedView {
    pub fn of(unused: Unused, today: &Today, say: &Say<'_>) -> Self {
        let account = unused.account;
        let reasons = unused.reasons.iter().map(|why| say.unused(why, account));
        Self {
            account: unused.account.0,
            last_posted: unused.last.map(|date| date.to_string()),
            balance: today.currency.format(unused.balance),
            leaves_balance: unused.leaves_balance,
            lines: unused.lines,
            uses: today.usage.of(unused.account).to_vec(),
            fate: unused.fate,
            reasons: reasons.collect(),
        }
    }
}

impl RetiredView {
    pub fn of(account: &Account, today: &Today) -> Self {
        let figures = today.figures_of(account.id);
        Self {
            account: account.id.0,
            status: account.status,
            last_posted: figures.last.map(|date| date.to_string()),
            balance: today.currency.format(balance(account, &figures)),
            lines: figures.all.lines,
            uses: today.usage.of(account.id).len(),
        }
    }
}

impl FixView {
    pub fn of(fix: Fix, remark: &Remark, say: &Say<'_>) -> Self {
        let label = say.fix(&fix, remark);
        let edit = |(account, change): (AccountId, Change)| FixEdit { account, change };
        let (edits, adds) = match fix {
            Fix::Changes(changes) => (changes.into_iter().map(edit).collect(), None),
            Fix::Added(account, from) => (Vec::new(), Some(NewAccountForm::taking(&account, from))),
        };
        Self { label, edits, adds }
    }
}

fn numbers(accounts: &[AccountId]) -> Vec<i64> {
    accounts.iter().map(|id| id.0).collect()
}

impl LookAlikeView {
    pub fn of(group: LookAlike, say: &Say<'_>) -> Self {
        let said = |seen: &[Observation]| seen.iter().map(|one| say.observation(one)).collect();
        Self {
            accounts: numbers(&group.accounts),
            survivor: group.survivor.0,
            // Nothing that is seen of accounts is a proof.
            score: (group.score * 100.0).round().min(99.0) as u8,
            evidence: said(&group.evidence),
            against: said(&group.against),
        }
    }
}

impl RemarkView {
    pub fn of((remark, fixes): (Remark, Vec<Fix>), say: &Say<'_>) -> Self {
        let fixes = fixes.into_iter().map(|fix| FixView::of(fix, &remark, say)).collect();
        let moves = matches!(
            remark.kind,
            RemarkKind::HeadingPosted | RemarkKind::SuspenseBalance | RemarkKind::SmallShare
        );
        Self {
            kind: remark.kind,
            title: title(remark.kind),
            accounts: numbers(&remark.accounts),
            item: remark.item.map(|item| item.0),
            message: say.remark(&remark),
            score: remark.score,
            fixes,
            moves,
        }
    }
}
