//! Plans: drafts, what is staged in them, and the rehearsal that answers every change.

use super::books::Created;
use super::{accounts_of, instant};
use crate::door::{Checked, Form};
use crate::problem::RefusedField;
use crate::session::In;
use crate::state::off_thread;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::BTreeMap;
use zf_core::chart::{Account, Chart, Class, Kind, Status};
use zf_core::code::Code;
use zf_core::history::Split;
use zf_core::ids::{AccountId, LineId};
use zf_core::plan::edit::{Done, Edit, Wanted};
use zf_core::plan::{Change, Fate, Field, Plan, PlanStatus, texts};
use zf_core::rehearsal::rehearse;
use zf_core::rehearsal::report::{ChangeCount, Report};
use zf_store::people::Member;
use zf_store::plans::{Draft, PlanSummary};

/// A plan in a list.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct PlanListed {
    id: i64,
    name: String,
    status: PlanStatus,
    person: String,
    created_at: String,
    accounts: i64,
}

impl From<PlanSummary> for PlanListed {
    fn from(plan: PlanSummary) -> Self {
        Self {
            id: plan.id,
            name: plan.name,
            status: plan.status,
            person: plan.person,
            created_at: instant(plan.created_at),
            accounts: plan.accounts,
        }
    }
}

/// Lists the plans of the books, latest first.
#[utoipa::path(get, operation_id = "plans_list", path = "/api/books/{books}/plans", params(("books" = i64, Path)),
    responses((status = 200, body = Vec<PlanListed>), (status = "4XX", body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<Vec<PlanListed>>, Problem> {
    Ok(Json(app.store.plans(member).await?.into_iter().map(PlanListed::from).collect()))
}

/// What a plan is called.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct PlanName {
    name: String,
}

impl PlanName {
    fn checked(&self) -> Result<&str, Problem> {
        let name = self.name.trim();
        if name.is_empty() || name.chars().count() > 80 {
            return Err(Problem::field("name", "give the plan a name of at most 80 characters"));
        }
        Ok(name)
    }
}

/// Begins a plan.
#[utoipa::path(post, operation_id = "plans_create", path = "/api/books/{books}/plans", params(("books" = i64, Path)),
    request_body = PlanName,
    responses((status = 201, body = Created), (status = "4XX", body = Problem)))]
pub(crate) async fn create(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<PlanName>,
) -> Result<(StatusCode, Json<Created>), Problem> {
    let id = app.store.create_plan(member, form.checked()?).await?;
    Ok((StatusCode::CREATED, Json(Created { id })))
}

/// A draft with its rehearsal.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct PlanView {
    id: i64,
    name: String,
    /// Counts every change of what is staged: of two answers the later one has the higher.
    revision: i64,
    /// What apply must be given, so that nothing else is applied than what was seen.
    fingerprint: String,
    /// How long the rehearsal took, in milliseconds.
    took_ms: u64,
    staged: Vec<StagedView>,
    /// Where the accounts that the plan adds stand in the outline, from its top.
    added: Vec<AddedView>,
    /// How many accounts would change in each way.
    counts: Vec<ChangeCount>,
    report: Report,
}

/// Where an account that the plan adds stands.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct AddedView {
    account: i64,
    /// The row right above it; none at the top.
    below: Option<i64>,
    /// How many headings it stands under.
    depth: usize,
}

/// One staged field.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct StagedView {
    account: AccountId,
    /// What stood there when it was staged; none for an account that the plan adds.
    base: Option<Change>,
    change: Change,
}

pub(super) async fn view(app: &App, member: Member, id: i64) -> Result<Json<PlanView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let (Draft { name, revision }, plan) = app.plan(member, id).await?;
    off_thread(move || {
        let began = std::time::Instant::now();
        let rehearsal = rehearse(&snapshot.today, &plan);
        let took_ms = u64::try_from(began.elapsed().as_millis()).unwrap_or(u64::MAX);
        let fields = plan.targets.iter().flat_map(|(account, target)| {
            target.values().map(|staged| StagedView {
                account: *account,
                base: staged.base.clone(),
                change: staged.change.clone(),
            })
        });
        let places = rehearsal.added_places(&snapshot.today.chart).into_iter();
        let added = places.map(|place| AddedView {
            account: place.account.0,
            below: place.below.map(|above| above.0),
            depth: place.depth,
        });
        let report = Report::of(&snapshot.today, &rehearsal);
        Json(PlanView {
            id,
            name,
            revision,
            fingerprint: rehearsal.fingerprint(),
            took_ms,
            staged: fields.collect(),
            added: added.collect(),
            counts: report.counts(),
            report,
        })
    })
    .await
}

/// Shows a draft with its rehearsal.
#[utoipa::path(get, operation_id = "plans_show", path = "/api/books/{books}/plans/{plan}",
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = PlanView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(i64, i64)>,
) -> Result<Json<PlanView>, Problem> {
    view(&app, member, plan).await
}

/// Gives a draft another name.
#[utoipa::path(put, operation_id = "plans_rename", path = "/api/books/{books}/plans/{plan}", request_body = PlanName,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn rename(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(i64, i64)>,
    Form(form): Form<PlanName>,
) -> Result<StatusCode, Problem> {
    app.store.rename_plan(member, plan, form.checked()?).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Discards a draft.
#[utoipa::path(delete, operation_id = "plans_discard", path = "/api/books/{books}/plans/{plan}",
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn discard(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(i64, i64)>,
) -> Result<StatusCode, Problem> {
    app.store.discard_plan(member, plan).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Changes of staged fields.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct Edits {
    edits: Vec<EditForm>,
}

/// What is wanted of one field.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct EditForm {
    account: AccountId,
    /// What one saw staged there; none when nothing was.
    seen: Option<Change>,
    #[schema(value_type = Wanted)]
    wanted: Checked<Wanted>,
}

impl EditForm {
    fn parse(self) -> Result<Edit, RefusedField> {
        let Self { account, seen, wanted: Checked { sent, read } } = self;
        let field = sent.pointer("/stage/field").and_then(Value::as_str).unwrap_or("wanted");
        let refuse = |reason: String| {
            let field = field.to_owned();
            RefusedField { account: Some(account.0), field, reason }
        };
        let wanted = read.map_err(&refuse)?;
        // Where an account came from is a fact, and no person's to change.
        if wanted.field() == Field::Origin {
            return Err(refuse("where an account came from cannot be changed".to_owned()));
        }
        Ok(Edit { account, seen, wanted })
    }
}

/// What an edit did, and the plan as it stands then.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct EditedView {
    /// What was done to each field.
    done: Vec<DoneView>,
    /// The accounts that this added to the plan.
    added: Vec<i64>,
    plan: PlanView,
}

/// What was done to one field.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct DoneView {
    account: AccountId,
    field: Field,
    /// What was staged there before; none when nothing was.
    before: Option<Change>,
    /// What is staged there now; none when nothing is.
    after: Option<Change>,
}

impl From<Done> for DoneView {
    fn from(done: Done) -> Self {
        let Done { account, field, before, after, .. } = done;
        Self { account, field, before, after }
    }
}

/// Stages edits, and answers what they did.
pub(super) async fn stage(
    app: &App,
    member: Member,
    plan: i64,
    edits: &[Edit],
    added: Vec<AccountId>,
) -> Result<Json<EditedView>, Problem> {
    let done = app.edit_plan(member, plan, edits).await?;
    let Json(plan) = view(app, member, plan).await?;
    let done = done.into_iter().map(DoneView::from).collect();
    Ok(Json(EditedView { done, added: added.into_iter().map(|id| id.0).collect(), plan }))
}

/// What is said of a number that is no account's.
const NOBODY: &str = "there is no such account, in the books or in the plan";

fn is_known(chart: &Chart, plan: &Plan, account: AccountId) -> bool {
    chart.get(account).is_some() || plan.targets.contains_key(&account)
}

/// Stages, changes and takes back fields: all of them or none.
#[utoipa::path(post, operation_id = "plans_edit", path = "/api/books/{books}/plans/{plan}/edits", request_body = Edits,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = EditedView), (status = "4XX", body = Problem)))]
pub(crate) async fn edit(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(i64, i64)>,
    Form(form): Form<Edits>,
) -> Result<Json<EditedView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let (_, staged) = app.plan(member, plan).await?;
    let (mut edits, mut refused) = (Vec::new(), Vec::new());
    for form in form.edits {
        match form.parse() {
            Ok(edit) if is_known(&snapshot.today.chart, &staged, edit.account) => edits.push(edit),
            Ok(Edit { account, wanted, .. }) => refused.push(RefusedField {
                account: Some(account.0),
                field: wanted.field().key().to_owned(),
                reason: NOBODY.to_owned(),
            }),
            Err(why) => refused.push(why),
        }
    }
    if !refused.is_empty() {
        return Err(Problem::refused(refused));
    }
    stage(&app, member, plan, &edits, Vec::new()).await
}

/// An account that the plan is to add.
#[derive(Serialize, Deserialize, utoipa::ToSchema)]
pub(crate) struct NewAccountForm {
    code: String,
    name: String,
    kind: Kind,
    class: Class,
    /// The line of the statements that it stands under.
    caption: Option<LineId>,
    parent: Option<i64>,
    description: Option<String>,
    tax: Option<String>,
    /// An account whose other settings it takes over.
    like: Option<i64>,
    /// An account whose whole history it takes.
    takes: Option<i64>,
}

impl NewAccountForm {
    /// An account that takes the history of another one.
    pub(super) fn taking(account: &Account, from: AccountId) -> Self {
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

/// Stages a new account.
#[utoipa::path(post, operation_id = "plans_add_account", path = "/api/books/{books}/plans/{plan}/accounts", request_body = NewAccountForm,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = EditedView), (status = "4XX", body = Problem)))]
pub(crate) async fn add_account(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(i64, i64)>,
    Form(form): Form<NewAccountForm>,
) -> Result<Json<EditedView>, Problem> {
    let account = app.store.take_account_id().await?;
    let snapshot = app.snapshot(member).await?;
    let chart = &snapshot.today.chart;
    let (_, plan_now) = app.plan(member, plan).await?;
    if form.parent.is_some_and(|id| !is_known(chart, &plan_now, AccountId(id))) {
        return Err(Problem::field("parent", NOBODY));
    }
    let like = accounts_of(chart, "like", form.like)?.first().and_then(|id| chart.get(*id));
    let mut staged: BTreeMap<Field, Change> = like
        .map(|like| Account { id: account, origin: None, status: Status::Active, ..like.clone() })
        .iter()
        .flat_map(Change::adding)
        .map(|change| (change.field(), change))
        .collect();
    let typed = [
        Some(Change::Fate(Fate::Add)),
        Some(Change::Kind(form.kind)),
        Some(Change::Class(form.class)),
        form.caption.map(|line| Change::Caption(Some(line))),
        form.parent.map(|parent| Change::Parent(Some(AccountId(parent)))),
    ];
    staged.extend(typed.into_iter().flatten().map(|change| (change.field(), change)));
    let mut refused = Vec::new();
    let written = [
        Code::parse(&form.code).map(Change::Code).map_err(|why| (Field::Code, why.to_string())),
        texts::name(&form.name).map(Change::Name).map_err(|why| (Field::Name, why.to_string())),
    ];
    let others = [(Field::Description, form.description), (Field::Tax, form.tax)];
    let others = others.into_iter().filter_map(|(field, said)| {
        let text = texts::text(field, &said?).map_err(|why| (field, why.to_string()));
        Some(text.map(|text| match field {
            Field::Tax => Change::Tax(Some(text).filter(|code| !code.is_empty())),
            _ => Change::Description(text),
        }))
    });
    for change in written.into_iter().chain(others) {
        match change {
            Ok(change) => drop(staged.insert(change.field(), change)),
            Err((field, reason)) => {
                let field = field.key().to_owned();
                refused.push(RefusedField { account: None, field, reason });
            }
        }
    }
    if !refused.is_empty() {
        return Err(Problem::refused(refused));
    }
    let taken = accounts_of(chart, "takes", form.takes)?.into_iter().map(|from| {
        let wanted = Wanted::Stage(Change::History(Split::whole(account)));
        Edit { account: from, seen: None, wanted }
    });
    let adding = staged.into_values().map(|change| Edit::adding(account, change));
    let edits: Vec<_> = adding.chain(taken).collect();
    stage(&app, member, plan, &edits, vec![account]).await
}

/// A reviewer's reason for going on in spite of a stop.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct OverrideForm {
    /// The key of the stop.
    finding: String,
    /// The reason; none takes it back.
    reason: Option<String>,
}

/// Goes on in spite of a stop, with a typed reason.
#[utoipa::path(put, operation_id = "plans_override_stop", path = "/api/books/{books}/plans/{plan}/override", request_body = OverrideForm,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = PlanView), (status = "4XX", body = Problem)))]
pub(crate) async fn override_stop(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(i64, i64)>,
    Form(form): Form<OverrideForm>,
) -> Result<Json<PlanView>, Problem> {
    let reason = form.reason.as_deref().map(str::trim);
    if reason.is_some_and(str::is_empty) {
        return Err(Problem::field(
            "reason",
            "type a reason; it is kept in the trail and the proof",
        ));
    }
    app.store.override_stop(member, plan, &form.finding, reason).await?;
    view(&app, member, plan).await
}
