//! Plans: what is staged, and what it does.

pub mod report;

use crate::plans::report::ReportView;
use crate::rehearsal::{
    ChangeCount, Crossing, FindingView, MovedView, ReportFigures, RewrittenView,
};
use crate::values::Checked;
use serde::{Deserialize, Serialize};
use zf_core::chart::{Account, Class, Kind};
use zf_core::code::Code;
use zf_core::ids::{AccountId, ItemId};
use zf_core::plan::edit::Done;
use zf_core::plan::steps::{Steps, Way};
use zf_core::plan::{Change, Field, PlanStatus};

/// A plan in a list.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PlanListed {
    pub id: i64,
    pub name: String,
    pub status: PlanStatus,
    pub person: String,
    pub created_at: String,
    pub accounts: i64,
    /// Of one that was applied, the application whose proof is kept.
    pub application: Option<i64>,
    pub applied_at: Option<String>,
    /// Whether it was undone since.
    pub undone: bool,
}

/// What a plan is called.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct PlanName {
    pub name: String,
}

/// A draft with its rehearsal.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PlanView {
    pub id: i64,
    pub name: String,
    /// Counts every change of what is staged: of two answers the later one has the higher.
    pub revision: i64,
    /// What apply must be given, so that nothing else is applied than what was seen.
    pub fingerprint: String,
    /// How long the rehearsal took, in milliseconds.
    pub took_ms: u64,
    /// Whether whoever asks can undo or redo a step of theirs.
    pub steps: StepsView,
    pub staged: Vec<StagedView>,
    /// Where the accounts that the plan adds stand in the outline, from its top.
    pub added: Vec<AddedView>,
    /// How many accounts would change in each way.
    pub counts: Vec<ChangeCount>,
    pub report: ReportView,
}

/// What of a draft is other than it was at a revision.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PlanChange {
    /// The revision it is made of.
    pub since: i64,
    pub name: String,
    pub revision: i64,
    pub fingerprint: String,
    pub took_ms: u64,
    pub counts: Vec<ChangeCount>,
    pub figures: ReportFigures,
    pub crosswalk: CrosswalkChange,
    pub findings: FindingsChange,
    /// All of these, if any is other.
    pub added: Option<Vec<AddedView>>,
    pub moved: Option<Vec<MovedView>>,
    pub report_lines: Option<Vec<RewrittenView>>,
}

/// How the crosswalk becomes what it is: what is gone is left out, then each is put at its place.
#[derive(Serialize, utoipa::ToSchema)]
pub struct CrosswalkChange {
    pub removed: Vec<i64>,
    pub placed: Vec<PlacedCrossing>,
}

/// An account that changes otherwise than before, with its place in the crosswalk.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PlacedCrossing {
    pub at: usize,
    pub crossing: Crossing,
}

/// How the findings become what they are, likewise.
#[derive(Serialize, utoipa::ToSchema)]
pub struct FindingsChange {
    pub removed: Vec<String>,
    pub placed: Vec<PlacedFinding>,
}

/// A stop or caution that is new or other, with its place among all.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PlacedFinding {
    pub at: usize,
    pub finding: FindingView,
}

/// A draft as an edit leaves it.
#[derive(Serialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum EditedPlan {
    /// All of it, for whoever did not say which revision they show.
    Whole(Box<PlanView>),
    /// What is other than at the revision one shows.
    Changed(Box<PlanChange>),
}

/// Where an account that the plan adds stands.
#[derive(Serialize, utoipa::ToSchema)]
pub struct AddedView {
    pub account: i64,
    /// The row right above it; none at the top.
    pub below: Option<i64>,
    /// How many headings it stands under.
    pub depth: usize,
}

/// Whether there is a step to undo, or to redo.
#[derive(Clone, Copy, Serialize, utoipa::ToSchema)]
pub struct StepsView {
    pub undo: bool,
    pub redo: bool,
}

impl From<&Steps> for StepsView {
    fn from(steps: &Steps) -> Self {
        let is_there = |way| steps.next(way).is_some();
        Self { undo: is_there(Way::Back), redo: is_there(Way::Again) }
    }
}

/// One staged field.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StagedView {
    pub account: AccountId,
    /// What stood there when it was staged; none for an account that the plan adds.
    pub base: Option<Change>,
    pub change: Change,
}

/// Changes of staged fields.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct Edits {
    pub edits: Vec<EditForm>,
    /// The revision of the draft that one shows: what is other than it is answered. All of the draft is
    /// when it is missing.
    pub revision: Option<i64>,
}

/// What is wanted of one field.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct EditForm {
    pub account: AccountId,
    /// What one saw staged there; none when nothing was.
    pub seen: Option<Change>,
    #[schema(value_type = WantedForm)]
    pub wanted: Checked<WantedForm>,
}

/// What is wanted of one field, as a person says it.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WantedForm {
    /// That it becomes this.
    Stage(Change),
    /// That nothing is staged in it any more.
    Unstage(Field),
    /// That the account is merged into the one with this code, as it was typed in place of its own.
    MergeInto(String),
    /// That it gets a code counted on from another, as cells that are filled down do.
    CountOn {
        /// The code to count from.
        code: Code,
        /// By how many.
        by: u16,
    },
}

/// What an edit did, and the plan as it stands then.
#[derive(Serialize, utoipa::ToSchema)]
pub struct EditedView {
    /// What was done to each field.
    pub done: Vec<FieldEditView>,
    /// The accounts that this added to the plan.
    pub added: Vec<i64>,
    /// How many fields an undo or a redo left as they are, since somebody changed them meanwhile.
    pub stay: usize,
    /// Whether there is a step to undo or to redo since.
    pub steps: StepsView,
    pub plan: EditedPlan,
}

/// What was done to one field.
#[derive(Serialize, utoipa::ToSchema)]
pub struct FieldEditView {
    pub account: AccountId,
    pub field: Field,
    /// What was staged there before; none when nothing was.
    pub before: Option<Change>,
    /// What is staged there now; none when nothing is.
    pub after: Option<Change>,
}

impl From<Done> for FieldEditView {
    fn from(done: Done) -> Self {
        let Done { account, field, before, after, .. } = done;
        Self { account, field, before, after }
    }
}

/// Which way to go along one's steps.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct StepForm {
    /// Whether what was undone last is redone; else the latest step is undone.
    pub again: bool,
    /// The revision of the draft that one shows.
    pub revision: Option<i64>,
}

/// An account that the plan is to add.
#[derive(Serialize, Deserialize, utoipa::ToSchema)]
pub struct NewAccountForm {
    pub code: String,
    pub name: String,
    pub kind: Kind,
    pub class: Class,
    /// The line of the statements that it stands under.
    pub caption: Option<ItemId>,
    pub parent: Option<i64>,
    pub description: Option<String>,
    pub tax: Option<String>,
    /// An account whose other settings it takes over.
    pub like: Option<i64>,
    /// An account whose whole history it takes.
    pub takes: Option<i64>,
}

impl NewAccountForm {
    /// An account that takes the history of another one.
    pub fn taking(account: &Account, from: AccountId) -> Self {
        Self {
            code: account.code.to_string(),
            name: account.name.clone(),
            kind: account.kind,
            class: account.class,
            caption: account.place().1,
            parent: account.parent.map(|parent| parent.0),
            description: None,
            tax: account.tax_code.clone(),
            like: None,
            takes: Some(from.0),
        }
    }
}

/// A reviewer's reason for going on in spite of a stop.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct OverrideForm {
    /// The key of the stop.
    pub finding: String,
    /// The reason; none takes it back.
    pub reason: Option<String>,
}
