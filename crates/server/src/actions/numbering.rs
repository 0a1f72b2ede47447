//! Renumbering: the numbering scheme of the books, what a rule proposes, the number map, and where a
//! single code would stand.

use super::plans::stage;
use crate::extract::{Form, Query};
use crate::session::In;
use crate::state::off_thread;
use crate::values::{accounts_of, short, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use zf_core::chart::{Account, Chart, Class};
use zf_core::code::{Code, Interval, MAX_CODE};
use zf_core::free_codes::{examples, free_in_block, place, under_line, usual_tax};
use zf_core::ids::{AccountId, BooksId, ItemId, PlanId};
use zf_core::names::Charts;
use zf_core::numbering::map::map;
use zf_core::numbering::pieces::{CodeEdit, Piece, Side};
use zf_core::numbering::preview::{changes, preview};
use zf_core::numbering::rules::{Copying, Proposed, Rule, adding, copies, propose};
use zf_core::numbering::schemes;
use zf_core::numbering::scope::Scope;
use zf_core::people::Forms;
use zf_core::plan::edit::Edit;
use zf_core::plan::texts::MAX_NAME;
use zf_core::plan::{Change, Plan};
use zf_core::policy::{Block, CodeFormat};
use zf_core::rehearsal::report::Followed;
use zf_core::today::Today;
use zf_phrases::Say;
use zf_phrases::{numbering as phrases, terms};
use zf_wire::numbering::{
    BlockForm, CodeEditForm, ItemContents, MapView, NumberingForm, NumberingView, PieceForm,
    PlaceView, ProposalView, RefusedView, RuleForm, SchemeForm, SchemeView, ScopeForm, ScopedRule,
    Sought, StartingScheme,
};
use zf_wire::plans::EditedView;
use zf_wire::problem::RefusedField;
use zf_wire::rehearsal::{FindingView, RewrittenView};

fn scheme_form(format: CodeFormat, blocks: &[Block]) -> SchemeForm {
    let block = |block: &Block| BlockForm {
        class: block.class,
        section: block.section,
        codes: block.codes.to_string(),
    };
    SchemeForm { format: format.to_string(), blocks: blocks.iter().map(block).collect() }
}

fn parse_scheme(form: &SchemeForm) -> Result<(CodeFormat, Vec<Block>), Problem> {
    let format = CodeFormat::parse(&form.format);
    let format = format.map_err(|why| Problem::field("format", why))?;
    let mut blocks = Vec::new();
    for form in &form.blocks {
        let refused = |why: String| Problem::field("blocks", format!("{}: {why}", form.codes));
        let (class, section) = (form.class, form.section);
        if let Some(foreign) = section.filter(|section| !section.classes().contains(&class)) {
            let why = format!("{} has no section {}", class.words(), foreign.words());
            return Err(refused(why));
        }
        let codes = Interval::parse_list(&form.codes).map_err(|why| refused(why.to_string()))?;
        blocks.extend(codes.into_iter().map(|codes| Block { class, section, codes }));
    }
    if let Some((one, other)) = schemes::overlapping(&blocks) {
        let words = |block: &Block| {
            let of = block.section.map_or(block.class.words(), |section| section.words());
            format!("{} for {of}", block.codes)
        };
        let why = format!("{} and {} overlap", words(one), words(other));
        return Err(Problem::field("blocks", why));
    }
    Ok((format, blocks))
}

/// Shows the numbering scheme of the books.
#[utoipa::path(get, operation_id = "scheme_show", path = "/api/books/{books}/scheme", params(("books" = i64, Path)),
    responses((status = 200, body = SchemeView), (status = "4XX", body = Problem)))]
pub(crate) async fn scheme(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<SchemeView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let policy = &snapshot.today.policy;
    let inferred = schemes::inferred(&snapshot.today.chart, policy.format);
    let starting = inferred.into_iter().chain(schemes::starting()).map(|scheme| StartingScheme {
        name: phrases::scheme(scheme.kind).0,
        about: phrases::scheme(scheme.kind).1,
        scheme: scheme_form(scheme.format, &scheme.blocks),
    });
    let scheme = scheme_form(policy.format, &policy.blocks);
    Ok(Json(SchemeView { scheme, starting: starting.collect() }))
}

/// Lays another numbering scheme down. No code changes by it: it is what codes are judged by.
#[utoipa::path(put, operation_id = "scheme_set", path = "/api/books/{books}/scheme", params(("books" = i64, Path)),
    request_body = SchemeForm, responses((status = 200, body = SchemeView), (status = "4XX", body = Problem)))]
pub(crate) async fn configure(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<SchemeForm>,
) -> Result<Json<SchemeView>, Problem> {
    let (format, blocks) = parse_scheme(&form)?;
    app.store.lay_down_scheme(member, format, blocks).await?;
    scheme(State(app), In(member)).await
}

/// The largest step between codes, and the largest gap: nine digits.
const LARGEST_STEP: u64 = 999_999_999;

/// Refuses rows that the chart does not have.
fn check_scope(form: &ScopeForm, chart: &Chart) -> Result<(), Problem> {
    let rows = match form {
        ScopeForm::Accounts(ids) => accounts_of(chart, "accounts", ids.iter().copied()),
        ScopeForm::Under(heading) => accounts_of(chart, "under", [*heading]),
        ScopeForm::All | ScopeForm::Class(_) | ScopeForm::Codes(_) | ScopeForm::Words(_) => {
            return Ok(());
        }
    };
    rows.map(drop)
}

fn parse_scope(form: ScopeForm) -> Result<Scope, Problem> {
    Ok(match form {
        ScopeForm::All => Scope::All,
        ScopeForm::Accounts(ids) => Scope::Accounts(ids.into_iter().map(AccountId).collect()),
        ScopeForm::Under(heading) => Scope::Under(AccountId(heading)),
        ScopeForm::Class(class) => Scope::Class(class),
        ScopeForm::Codes(text) => {
            Scope::Codes(Interval::parse_list(&text).map_err(|why| Problem::field("scope", why))?)
        }
        ScopeForm::Words(words) => Scope::Words(words),
    })
}

fn parse_rule(form: RuleForm) -> Result<Rule, Problem> {
    Ok(match form {
        RuleForm::Spread { start, step, gap, order } => Rule::Spread {
            start: Code::parse(&start).map_err(|why| Problem::field("start", why))?,
            step: within("step", step, 1..=LARGEST_STEP)?,
            gap: within("gap", gap, 0..=LARGEST_STEP)?,
            order: order.into(),
        },
        RuleForm::Fit { step, order } => {
            let step = step.map(|step| within("step", step, 1..=LARGEST_STEP)).transpose()?;
            Rule::Fit { step, order: order.into() }
        }
        RuleForm::Rewrite { piece, edit } => Rule::Rewrite {
            piece: match piece {
                PieceForm::Whole => Piece::Whole,
                PieceForm::Segment(n) => Piece::Segment(within("segment", n, 1..=MAX_CODE)?),
                PieceForm::Characters { from, count } => Piece::Characters {
                    from: within("from", from, 1..=MAX_CODE)?,
                    count: within("count", count, 1..=MAX_CODE)?,
                },
            },
            edit: match edit {
                CodeEditForm::Replace { reads, with } => CodeEdit::Replace {
                    reads: short("reads", reads, MAX_CODE)?,
                    with: short("with", with, MAX_CODE)?,
                },
                CodeEditForm::Insert(text) => CodeEdit::Insert(short("insert", text, MAX_CODE)?),
                CodeEditForm::Remove => CodeEdit::Remove,
                CodeEditForm::Pad { width, front } => CodeEdit::Pad {
                    width: within("width", width, 1..=MAX_CODE)?,
                    side: if front { Side::Front } else { Side::Back },
                },
            },
        },
        RuleForm::Affix { prefix, suffix } => Rule::Affix {
            prefix: short("prefix", prefix, MAX_CODE)?,
            suffix: short("suffix", suffix, MAX_CODE)?,
        },
    })
}

/// A rule as the core takes it.
struct NumberingRequest {
    scope: Scope,
    rule: Rule,
    copying: Option<Copying>,
}

/// The rule, for rows of this chart.
fn parse_scoped(form: ScopedRule, chart: &Chart) -> Result<NumberingRequest, Problem> {
    check_scope(&form.scope, chart)?;
    let copying = form.copying.map(|form| -> Result<_, Problem> {
        let (reads, with) = (form.reads, form.with);
        Ok(Copying {
            reads: short("reads", reads, MAX_NAME)?,
            with: short("with", with, MAX_NAME)?,
        })
    });
    let copying = copying.transpose()?;
    Ok(NumberingRequest { scope: parse_scope(form.scope)?, rule: parse_rule(form.rule)?, copying })
}

impl NumberingRequest {
    /// The accounts that would be new, with these identities.
    fn added(
        &self,
        after: &Chart,
        proposed: &Proposed,
        ids: impl IntoIterator<Item = AccountId>,
    ) -> Vec<Account> {
        let copying = self.copying.as_ref();
        copying.map(|copying| copies(after, proposed, copying, ids)).unwrap_or_default()
    }
}

/// What is proposed, with the accounts that would be new.
struct Answer {
    proposed: Proposed,
    added: Vec<Account>,
}

impl Answer {
    /// Proposes on the chart as the plan would leave it.
    fn of(today: &Today, after: &Chart, asked: &NumberingRequest) -> Self {
        let proposed = propose(today, after, &asked.scope, &asked.rule);
        let added = asked.added(after, &proposed, (after.next_id().0..).map(AccountId));
        Self { proposed, added }
    }

    fn changes(&self, asked: &NumberingRequest) -> Vec<(AccountId, Change)> {
        match asked.copying {
            None => changes(&self.proposed).collect(),
            Some(_) => adding(&self.added).collect(),
        }
    }
}

/// Shows what a rule proposes and what would come of it, or only the number map.
#[utoipa::path(post, operation_id = "numbering_preview", path = "/api/books/{books}/numbering",
    params(("books" = i64, Path)), request_body = NumberingForm,
    responses((status = 200, body = NumberingView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<NumberingForm>,
) -> Result<Json<NumberingView>, Problem> {
    let (snapshot, open) = match form.plan {
        Some(id) => {
            let (snapshot, kept, rehearsed) = app.rehearsed(member, PlanId(id)).await?;
            (snapshot, Some((kept, rehearsed)))
        }
        None => (app.snapshot(member).await?, None),
    };
    off_thread(move || {
        let (today, none) = (&snapshot.today, Plan::default());
        let (plan, after) = match &open {
            Some((kept, rehearsed)) => (&kept.plan, &rehearsed.rehearsal.after),
            None => (&none, &today.chart),
        };
        let asked = form.rule.map(|rule| parse_scoped(rule, after)).transpose()?;
        Ok(Json(answer(today, plan, after, asked.as_ref(), member.forms())))
    })
    .await?
}

fn answer(
    today: &Today,
    plan: &Plan,
    after: &Chart,
    asked: Option<&NumberingRequest>,
    forms: Forms,
) -> NumberingView {
    let Some(asked) = asked else {
        let map = MapView::of(map(&today.chart, after, &today.policy));
        let (codes, refused, findings) = (Vec::new(), Vec::new(), Vec::new());
        let (out_of_order, rewritten) = (Vec::new(), Vec::new());
        return NumberingView { codes, refused, findings, out_of_order, rewritten, map };
    };
    let answer = Answer::of(today, after, asked);
    let previewed = preview(today, plan, answer.changes(asked));
    let new_names = answer.added.iter().map(|account| Some(account.name.clone()));
    let names = new_names.chain(std::iter::repeat(None));
    let codes = answer.proposed.codes.iter().zip(names).map(|(proposal, name)| {
        let note = match &name {
            Some(_) => String::new(),
            None => note(today, after, &previewed.rehearsal.after, proposal.account),
        };
        ProposalView {
            account: proposal.account.0,
            from: proposal.from.to_string(),
            to: proposal.to.to_string(),
            name,
            note,
        }
    });
    let effects = &previewed.rehearsal.effects;
    let names = Charts { today: &today.chart, after: &previewed.rehearsal.after };
    let say = Say::to(forms, &names, today.currency);
    let rewritten = Followed::sum_lines(effects).chain(Followed::report_lines(effects));
    let rewritten = rewritten.map(|followed| RewrittenView::of(&followed, &say));
    let refused = answer.proposed.refused.iter();
    NumberingView {
        codes: codes.collect(),
        refused: refused
            .map(|r| RefusedView { account: r.account.0, reason: phrases::no_new_code(&r.reason) })
            .collect(),
        findings: previewed.findings.iter().map(|found| FindingView::of(found, &say)).collect(),
        out_of_order: previewed.out_of_order.iter().map(|id| id.0).collect(),
        rewritten: rewritten.collect(),
        map: MapView::of(map(&today.chart, &previewed.rehearsal.after, &today.policy)),
    }
}

/// What is worth knowing of a code that changes.
fn note(today: &Today, now: &Chart, then: &Chart, account: AccountId) -> String {
    let (Some(now), Some(then)) = (now.get(account), then.get(account)) else {
        return String::new();
    };
    let strays = |account: &Account| today.policy.missed_blocks(account).is_some();
    match (now.code == then.code, strays(now), strays(then)) {
        (true, ..) => "unchanged".to_owned(),
        (_, true, false) => "comes into its block".to_owned(),
        (_, false, true) => "leaves its block".to_owned(),
        _ => String::new(),
    }
}

/// Stages the new accounts that a rule makes after existing ones.
#[utoipa::path(post, operation_id = "numbering_copy", path = "/api/books/{books}/plans/{plan}/copies",
    params(("books" = i64, Path), ("plan" = i64, Path)), request_body = ScopedRule,
    responses((status = 200, body = EditedView), (status = "4XX", body = Problem)))]
pub(crate) async fn copy(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, PlanId)>,
    Form(form): Form<ScopedRule>,
) -> Result<Json<EditedView>, Problem> {
    let (snapshot, _, rehearsed) = app.rehearsed(member, id).await?;
    let after = &rehearsed.rehearsal.after;
    let asked = parse_scoped(form, after)?;
    let proposed = propose(&snapshot.today, after, &asked.scope, &asked.rule);
    if let Some(refused) = proposed.refused.first() {
        let reason = phrases::no_new_code(&refused.reason);
        let account = Some(refused.account.0);
        let field = "code".to_owned();
        return Err(Problem::refused(vec![RefusedField { account, field, reason }]));
    }
    let ids = app.store.take_account_ids(proposed.codes.len()).await?;
    let added = asked.added(after, &proposed, ids.iter().copied());
    let edits: Vec<Edit> = adding(&added).map(|(id, change)| Edit::adding(id, change)).collect();
    stage(&app, member, id, &snapshot.today.chart, &edits, ids, None).await
}

/// Says whether a code is free and where it would stand, and which one is free next.
#[utoipa::path(get, operation_id = "numbering_place", path = "/api/books/{books}/codes",
    params(("books" = i64, Path), Sought),
    responses((status = 200, body = PlaceView), (status = "4XX", body = Problem)))]
pub(crate) async fn code(
    State(app): State<App>,
    In(member): In,
    Query(sought): Query<Sought>,
) -> Result<Json<PlaceView>, Problem> {
    let (snapshot, rehearsed) = app.looked_at(member, sought.plan).await?;
    let today = &snapshot.today;
    let after = rehearsed.as_ref().map_or(&today.chart, |rehearsed| &rehearsed.rehearsal.after);
    let account = accounts_of(after, "account", sought.account)?;
    let account = account.first().and_then(|id| after.get(*id));
    let item = sought.caption.map(|item| {
        let caption = after.structure().caption(ItemId(item));
        caption.ok_or_else(|| Problem::field("caption", "the statements have no such item"))
    });
    let item = item.transpose()?;
    let item = item.or(account.and_then(|a| a.caption.clone()));
    let class = sought.class.or(account.map(|a| a.class)).unwrap_or(Class::Expense);
    let section = item.as_ref().and_then(|item| item.standard);
    let next = free_in_block(after, &today.policy, class, section);
    let (free, message) = match sought.code.as_deref().map(Code::parse) {
        None => (false, String::new()),
        Some(Err(why)) => (false, why.to_string()),
        Some(Ok(code)) => {
            let at = place(&code, after, &today.former, &today.policy, (class, section));
            let own = at.bearer.is_some() && at.bearer.map(|a| a.id) == account.map(|a| a.id);
            (at.objection.is_none() && (own || at.bearer.is_none()), phrases::place(&at, own))
        }
    };
    let own = under_line(after, (class, item.as_ref().map(|item| item.id)));
    Ok(Json(PlaceView {
        free,
        message,
        next: next.map(|code| code.to_string()),
        about: section.map_or(terms::class(class), terms::section),
        neighbours: examples(&own).iter().map(|account| account.label()).collect(),
        tax: usual_tax(&own),
        item: item.as_ref().map(|item| ItemContents::of(item, class, today)),
    }))
}
