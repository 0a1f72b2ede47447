//! Plans: drafts, what is staged in them, and the rehearsal that answers every change.

use crate::cache::{At, CachedPlan, Rehearsed};
use crate::etag::{Known, Tag};
use crate::extract::{Form, Query};
use crate::session::In;
use crate::values::{accounts_of, checked_page};
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use serde::Serialize;
use serde_json::Value;
use std::collections::BTreeMap;
use zf_core::chart::{Account, Chart, Status};
use zf_core::code::Code;
use zf_core::history::Split;
use zf_core::ids::{AccountId, BooksId, PlanId};
use zf_core::people::Forms;
use zf_core::plan::edit::{Edit, Wanted};
use zf_core::plan::steps::Way;
use zf_core::plan::typed::{NoSurvivor, survivor};
use zf_core::plan::{Change, Fate, Field, Plan, texts};
use zf_core::rehearsal::AddedPlace;
use zf_core::rehearsal::changed::Changed;
use zf_core::today::Today;
use zf_store::member::Member;
use zf_store::plans::{DraftPlan, PlanSummary};
use zf_wire::books::Created;
use zf_wire::plans::report::{CrosswalkPage, ReportView, TrialPage};
use zf_wire::plans::{
    AddedView, CrosswalkChange, EditForm, EditedPlan, EditedView, Edits, FieldEditView,
    FindingsChange, NewAccountForm, OverrideForm, PlacedCrossing, PlacedFinding, PlanChange,
    PlanListed, PlanName, PlanView, StagedView, StepForm, StepsView, WantedForm,
};
use zf_wire::problem::RefusedField;
use zf_wire::values::{Checked, PageOf, instant};

fn plan_listed(plan: PlanSummary) -> PlanListed {
    PlanListed {
        id: plan.id.0,
        name: plan.name,
        status: plan.status,
        person: plan.person,
        created_at: instant(plan.created_at),
        accounts: plan.accounts,
        application: plan.applied.map(|(id, _)| id),
        applied_at: plan.applied.map(|(_, at)| instant(at)),
        undone: plan.undone,
    }
}

/// Lists the plans of the books, latest first.
#[utoipa::path(get, operation_id = "plans_list", path = "/api/books/{books}/plans", params(("books" = i64, Path)),
    responses((status = 200, body = Vec<PlanListed>), (status = "4XX", body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<Vec<PlanListed>>, Problem> {
    Ok(Json(app.store.plans(member).await?.into_iter().map(plan_listed).collect()))
}

fn checked_name(form: &PlanName) -> Result<&str, Problem> {
    let name = form.name.trim();
    if name.is_empty() || name.chars().count() > 80 {
        return Err(Problem::field("name", "give the plan a name of at most 80 characters"));
    }
    Ok(name)
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
    let id = app.store.create_plan(member, checked_name(&form)?).await?;
    Ok((StatusCode::CREATED, Json(Created { id: id.0 })))
}

fn plan_change(
    before: &Rehearsed,
    since: i64,
    after: &Rehearsed,
    draft: &DraftPlan,
    forms: Forms,
) -> PlanChange {
    let (was, is) = (before.report(forms), after.report(forms));
    let crosswalk = Changed::between(&was.crosswalk, &is.crosswalk, |c| c.account);
    let findings = Changed::between(&was.findings, &is.findings, |f| f.key.clone());
    let placed_crossing = |(at, crossing)| PlacedCrossing { at, crossing };
    let placed_finding = |(at, finding)| PlacedFinding { at, finding };
    PlanChange {
        since,
        name: draft.name.clone(),
        revision: draft.revision,
        fingerprint: after.fingerprint.clone(),
        took_ms: took_ms(after),
        counts: is.counts(),
        figures: is.figures.clone(),
        crosswalk: CrosswalkChange {
            removed: crosswalk.removed,
            placed: crosswalk.placed.into_iter().map(placed_crossing).collect(),
        },
        findings: FindingsChange {
            removed: findings.removed,
            placed: findings.placed.into_iter().map(placed_finding).collect(),
        },
        added: (before.added != after.added).then(|| added_views(after)),
        moved: (was.moved != is.moved).then(|| is.moved.clone()),
        report_lines: (was.report_lines != is.report_lines).then(|| is.report_lines.clone()),
    }
}

fn took_ms(rehearsed: &Rehearsed) -> u64 {
    u64::try_from(rehearsed.took.as_millis()).unwrap_or(u64::MAX)
}

fn added_views(rehearsed: &Rehearsed) -> Vec<AddedView> {
    let view = |place: &AddedPlace| AddedView {
        account: place.account.0,
        below: place.below.map(|above| above.0),
        depth: place.depth,
    };
    rehearsed.added.iter().map(view).collect()
}

fn plan_view(
    id: PlanId,
    kept: &CachedPlan,
    rehearsed: &Rehearsed,
    steps: StepsView,
    forms: Forms,
) -> PlanView {
    let report = rehearsed.report(forms);
    let staged = kept.plan.targets.iter().flat_map(|(account, target)| {
        target.values().map(|staged| StagedView {
            account: *account,
            base: staged.base.clone(),
            change: staged.change.clone(),
        })
    });
    PlanView {
        id: id.0,
        name: kept.draft.name.clone(),
        revision: kept.draft.revision,
        fingerprint: rehearsed.fingerprint.clone(),
        took_ms: took_ms(rehearsed),
        steps,
        staged: staged.collect(),
        added: added_views(rehearsed),
        counts: report.counts(),
        report: ReportView::of(&report),
    }
}

pub(super) async fn view(app: &App, member: Member, id: PlanId) -> Result<Json<PlanView>, Problem> {
    let (_, kept, rehearsed) = app.rehearsed(member, id).await?;
    let steps = app.store.plan_steps(member, id).await?;
    let steps = StepsView::from(&steps);
    Ok(Json(plan_view(id, &kept, &rehearsed, steps, member.forms())))
}

/// Shows the accounts that a draft changes, a page at a time.
#[utoipa::path(get, operation_id = "plans_crosswalk", path = "/api/books/{books}/plans/{plan}/crosswalk",
    params(("books" = i64, Path), ("plan" = i64, Path), PageOf),
    responses((status = 200, body = CrosswalkPage), (status = 304), (status = "4XX", body = Problem)))]
pub(crate) async fn crosswalk(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
    Query(page): Query<PageOf>,
    known: Known,
) -> Result<Response, Problem> {
    let page = checked_page(page.page)?;
    let forms = member.forms();
    as_rehearsed(&app, member, ("crosswalk", plan.0, page), &known, move |draft, rehearsed| {
        CrosswalkPage::of(&rehearsed.report(forms), Some(draft.revision), page)
    })
    .await
}

/// Shows the trial balance as it is, and as a draft would leave it, a page at a time.
#[utoipa::path(get, operation_id = "plans_trial_balances", path = "/api/books/{books}/plans/{plan}/trial-balances",
    params(("books" = i64, Path), ("plan" = i64, Path), PageOf),
    responses((status = 200, body = TrialPage), (status = 304), (status = "4XX", body = Problem)))]
pub(crate) async fn trial_balances(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
    Query(page): Query<PageOf>,
    known: Known,
) -> Result<Response, Problem> {
    let page = checked_page(page.page)?;
    as_rehearsed(&app, member, ("trial", plan.0, page), &known, move |_, rehearsed| {
        TrialPage::of(rehearsed.trial(), page)
    })
    .await
}

/// Answers a page of what a draft would do, as long as neither it nor the books change.
async fn as_rehearsed<T: Serialize + Send + 'static>(
    app: &App,
    member: Member,
    (what, plan, page): (&str, i64, u32),
    known: &Known,
    write: impl FnOnce(&DraftPlan, &Rehearsed) -> T + Send + 'static,
) -> Result<Response, Problem> {
    let (snapshot, kept, rehearsed) = app.rehearsed(member, PlanId(plan)).await?;
    let at = At::of(member, &snapshot, PlanId(plan), kept.draft.revision);
    let tag = Tag::of((what, at, page, member.forms()));
    match tag.unchanged(known) {
        Some(unchanged) => Ok(unchanged),
        None => tag.answer(move || write(&kept.draft, &rehearsed)).await,
    }
}

/// Shows a draft with its rehearsal.
#[utoipa::path(get, operation_id = "plans_show", path = "/api/books/{books}/plans/{plan}",
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = PlanView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
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
    Path((_, plan)): Path<(BooksId, PlanId)>,
    Form(form): Form<PlanName>,
) -> Result<StatusCode, Problem> {
    app.store.rename_plan(member, plan, checked_name(&form)?).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Discards a draft.
#[utoipa::path(delete, operation_id = "plans_discard", path = "/api/books/{books}/plans/{plan}",
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn discard(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
) -> Result<StatusCode, Problem> {
    app.store.discard_plan(member, plan).await?;
    Ok(StatusCode::NO_CONTENT)
}

fn parse_edit(
    form: EditForm,
    survivor: impl Fn(&str) -> Result<AccountId, NoSurvivor>,
) -> Result<Edit, RefusedField> {
    let EditForm { account, seen, wanted: Checked { sent, read } } = form;
    let staged = sent.pointer("/stage/field").and_then(Value::as_str);
    let typed = sent.get("merge_into").or(sent.get("count_on")).map(|_| Field::Code.key());
    let field = staged.or(typed).unwrap_or("wanted");
    let refuse = |reason: String| {
        let field = field.to_owned();
        RefusedField { account: Some(account.0), field, reason }
    };
    let wanted = match read.map_err(&refuse)? {
        WantedForm::Stage(change) => Wanted::Stage(change),
        WantedForm::Unstage(field) => Wanted::Unstage(field),
        WantedForm::MergeInto(typed) => {
            let into = survivor(&typed).map_err(|why| refuse(why.to_string()))?;
            Wanted::Stage(Change::Fate(Fate::MergeInto { into }))
        }
        WantedForm::CountOn { code, by } => {
            let code = code.counted_on(by).map_err(|why| refuse(why.to_string()))?;
            Wanted::Stage(Change::Code(code))
        }
    };
    if let Wanted::Stage(Change::History(split)) = &wanted {
        split.look_at().map_err(|why| refuse(why.to_string()))?;
    }
    // Where an account came from is a fact, and no person's to change.
    if wanted.field() == Field::Origin {
        return Err(refuse("where an account came from cannot be changed".to_owned()));
    }
    Ok(Edit { account, seen, wanted })
}

/// Stages edits, and answers what they did: as a change of the draft at the revision that is shown, if
/// that is known here.
pub(super) async fn stage(
    app: &App,
    member: Member,
    plan: PlanId,
    chart: &Chart,
    edits: &[Edit],
    added: Vec<AccountId>,
    shown: Option<i64>,
) -> Result<Json<EditedView>, Problem> {
    let done = app.edit_plan(member, plan, chart, edits).await?;
    // What was just done can be undone, and what was undone before is forgotten.
    let steps = match done.iter().any(|one| one.before != one.after) {
        true => StepsView { undo: true, redo: false },
        false => StepsView::from(&app.store.plan_steps(member, plan).await?),
    };
    let added = added.into_iter().map(|id| id.0).collect();
    let (done, stay) = (done.into_iter().map(FieldEditView::from).collect(), 0);
    let plan = edited(app, member, plan, shown, steps).await?;
    Ok(Json(EditedView { done, added, stay, steps, plan }))
}

/// A plan as an edit leaves it: what is other than at the revision that is shown, if that is known here.
async fn edited(
    app: &App,
    member: Member,
    plan: PlanId,
    shown: Option<i64>,
    steps: StepsView,
) -> Result<EditedPlan, Problem> {
    let (snapshot, kept, rehearsed) = app.rehearsed(member, plan).await?;
    let at = |revision| At::of(member, &snapshot, plan, revision);
    let before = match shown {
        Some(shown) => app.kept.rehearsals.get(&at(shown)).await.map(|before| (shown, before)),
        None => None,
    };
    let forms = member.forms();
    Ok(match before {
        Some((since, before)) => EditedPlan::Changed(Box::new(plan_change(
            &before,
            since,
            &rehearsed,
            &kept.draft,
            forms,
        ))),
        None => EditedPlan::Whole(Box::new(plan_view(plan, &kept, &rehearsed, steps, forms))),
    })
}

/// What is said of a number that is no account's.
const NOBODY: &str = "there is no such account, in the books or in the plan";

fn is_known(chart: &Chart, plan: &Plan, account: AccountId) -> bool {
    chart.get(account).is_some() || plan.targets.contains_key(&account)
}

/// Looks at the revision that somebody shows.
fn check_shown(staged: &CachedPlan, shown: Option<i64>) -> Result<(), Problem> {
    if shown.is_some_and(|shown| !(0..=staged.draft.revision).contains(&shown)) {
        return Err(Problem::field("revision", "the plan was never at this revision"));
    }
    Ok(())
}

/// Stages, changes and takes back fields: all of them or none.
#[utoipa::path(post, operation_id = "plans_edit", path = "/api/books/{books}/plans/{plan}/edits", request_body = Edits,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = EditedView), (status = "4XX", body = Problem)))]
pub(crate) async fn edit(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
    Form(form): Form<Edits>,
) -> Result<Json<EditedView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let staged = app.plan(member, plan).await?;
    let shown = form.revision;
    check_shown(&staged, shown)?;
    let (mut edits, mut refused) = (Vec::new(), Vec::new());
    let Today { chart, former, .. } = &snapshot.today;
    for form in form.edits {
        match parse_edit(form, |typed| survivor(typed, chart, former, &staged.plan)) {
            Ok(edit) if is_known(chart, &staged.plan, edit.account) => edits.push(edit),
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
    stage(&app, member, plan, chart, &edits, Vec::new(), shown).await
}

/// Undoes the latest step of whoever asks, from wherever it was made, or redoes what was undone last. What somebody
/// changed since stays as it is, and is counted.
#[utoipa::path(post, operation_id = "plans_step", path = "/api/books/{books}/plans/{plan}/step", request_body = StepForm,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = EditedView), (status = "4XX", body = Problem)))]
pub(crate) async fn step(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
    Form(form): Form<StepForm>,
) -> Result<Json<EditedView>, Problem> {
    let way = if form.again { Way::Again } else { Way::Back };
    check_shown(&*app.plan(member, plan).await?, form.revision)?;
    let snapshot = app.snapshot(member).await?;
    let stepped = app.step_plan(member, plan, &snapshot.today.chart, way).await?;
    let Some((done, stay)) = stepped else {
        let nothing = if form.again { "nothing was undone" } else { "nothing of yours is staged" };
        return Err(Problem::field("again", nothing));
    };
    let steps = StepsView::from(&app.store.plan_steps(member, plan).await?);
    let plan = edited(&app, member, plan, form.revision, steps).await?;
    let done = done.into_iter().map(FieldEditView::from).collect();
    Ok(Json(EditedView { done, added: Vec::new(), stay, steps, plan }))
}

/// Stages a new account.
#[utoipa::path(post, operation_id = "plans_add_account", path = "/api/books/{books}/plans/{plan}/accounts", request_body = NewAccountForm,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = EditedView), (status = "4XX", body = Problem)))]
pub(crate) async fn add_account(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
    Form(form): Form<NewAccountForm>,
) -> Result<Json<EditedView>, Problem> {
    let account = app.store.take_account_id().await?;
    let snapshot = app.snapshot(member).await?;
    let chart = &snapshot.today.chart;
    let staged_now = app.plan(member, plan).await?;
    if form.parent.is_some_and(|id| !is_known(chart, &staged_now.plan, AccountId(id))) {
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
        let text = texts::text(field.words(), &said?).map_err(|why| (field, why.to_string()));
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
    stage(&app, member, plan, chart, &edits, vec![account], None).await
}

/// Goes on in spite of a stop, with a typed reason.
#[utoipa::path(put, operation_id = "plans_override_stop", path = "/api/books/{books}/plans/{plan}/override", request_body = OverrideForm,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 200, body = PlanView), (status = "4XX", body = Problem)))]
pub(crate) async fn override_stop(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
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
