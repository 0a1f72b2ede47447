//! The lines of the books' own statements: a place to add, rename, order, retire and merge them.

use super::plans::{EditedView, stage};
use crate::catalogue::ProblemCode;
use crate::door::Form;
use crate::session::In;
use crate::state::off_thread;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Multipart, Path, State};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, HashMap};
use zf_core::chart::Class;
use zf_core::ids::LineId;
use zf_core::lines::listed::asked;
use zf_core::lines::{LineEdit, NotALine, carry_out, merged, standing};
use zf_core::plan::edit::{Edit, Wanted};
use zf_core::statement::{LineKind, Section, StatementLine, Term};
use zf_core::today::Today;
use zf_core::trial_balance::balance;
use zf_intake::lines::read;
use zf_sheets::How;

/// The lines of the statements of a set of books.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LinesView {
    classes: Vec<LinesOfClassView>,
}

/// The lines of a class, in their order.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LinesOfClassView {
    class: Class,
    /// What it is called over its lines.
    title: &'static str,
    lines: Vec<OwnLine>,
}

/// A line that accounts stand under, or did, or that is reckoned.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct OwnLine {
    id: LineId,
    kind: LineKind,
    name: String,
    /// Which of the standard line items it is.
    standard: Option<Section>,
    retired: bool,
    /// How many accounts stand under it.
    accounts: usize,
    /// What they come to on the day of the books, income and expenses in its fiscal year; debits are positive.
    balance: String,
    /// The line on which accounts stand while their balance is on the other side.
    other_side: Option<LineId>,
    /// Of a subtotal, what it adds up; of a ratio, the part and the whole.
    terms: Vec<Term>,
}

impl LinesView {
    fn of(today: &Today) -> Self {
        let structure = today.chart.structure();
        let standing = standing(&today.chart);
        let mut balances: HashMap<LineId, i128> = HashMap::new();
        for account in today.chart.live() {
            if let Some(line) = account.place().1 {
                *balances.entry(line).or_default() +=
                    balance(account, &today.figures_of(account.id));
            }
        }
        let line = |line: &StatementLine| OwnLine {
            id: line.id,
            kind: line.kind,
            other_side: line.other_side,
            terms: line.terms.clone(),
            name: line.name.clone(),
            standard: line.standard,
            retired: line.retired,
            accounts: standing.get(&line.id).copied().unwrap_or(0),
            balance: today.currency.format(balances.get(&line.id).copied().unwrap_or(0)),
        };
        let of_class = |class: &Class| {
            let own =
                structure.lines().filter(|l| l.class == *class && l.kind != LineKind::Heading);
            LinesOfClassView { class: *class, title: class.title(), lines: own.map(line).collect() }
        };
        Self { classes: Class::ALL.iter().map(of_class).collect() }
    }
}

/// Shows the lines of the statements, retired ones too.
#[utoipa::path(get, operation_id = "lines_show", path = "/api/books/{books}/lines", params(("books" = i64, Path)),
    responses((status = 200, body = LinesView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<LinesView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    Ok(Json(LinesView::of(&snapshot.today)))
}

/// Changes of the lines.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct LinesForm {
    /// In the order in which they are done: all or none.
    edits: Vec<LineEdit>,
}

/// Changes the lines of the statements. No account is put under another line by this.
#[utoipa::path(post, operation_id = "lines_change", path = "/api/books/{books}/lines", params(("books" = i64, Path)),
    request_body = LinesForm,
    responses((status = 200, body = LinesView), (status = "4XX", body = Problem)))]
pub(crate) async fn change(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<LinesForm>,
) -> Result<Json<LinesView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let chart = &snapshot.today.chart;
    let (wanted, done) = carry_out(&form.edits, chart).map_err(cannot)?;
    app.store.keep_lines(member, &snapshot, &wanted, &done).await?;
    show(State(app), In(member)).await
}

fn cannot(why: NotALine) -> Problem {
    Problem::unreadable(ProblemCode::Refused, why)
}

/// A file with a list of lines.
#[derive(utoipa::ToSchema)]
#[expect(dead_code, reason = "only describes the form to the OpenAPI document")]
pub(crate) struct LinesFileForm {
    #[schema(format = Binary)]
    file: String,
}

/// What a list of lines asks for.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct AskedOfLines {
    /// What is done at once, in this order.
    edits: Vec<LineEdit>,
    /// The same, in words.
    says: Vec<String>,
    /// Lines that are merged, which a plan stages.
    merges: Vec<LineMerge>,
    /// Rows that cannot be followed.
    refused: Vec<RefusedLine>,
}

/// A line that is merged into another.
#[derive(Serialize, Deserialize, utoipa::ToSchema)]
pub(crate) struct LineMerge {
    line: LineId,
    into: LineId,
}

/// A row of a list that cannot be followed.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RefusedLine {
    row: u32,
    why: String,
}

/// Reads a list of lines from a file, and says what it asks for. Nothing is changed.
#[utoipa::path(post, operation_id = "lines_read_list", path = "/api/books/{books}/lines/list", params(("books" = i64, Path)),
    request_body(content = LinesFileForm, content_type = "multipart/form-data"),
    responses((status = 200, body = AskedOfLines), (status = "4XX", body = Problem)))]
pub(crate) async fn read_list(
    State(app): State<App>,
    In(member): In,
    mut form: Multipart,
) -> Result<Json<AskedOfLines>, Problem> {
    let unread = |e: axum::extract::multipart::MultipartError| {
        Problem::new(e.status(), ProblemCode::UploadUnreadable, e.body_text())
    };
    while let Some(field) = form.next_field().await.map_err(unread)? {
        if field.name() != Some("file") {
            continue;
        }
        let name = field.file_name().unwrap_or("file").to_owned();
        let content = field.bytes().await.map_err(unread)?.to_vec();
        let snapshot = app.snapshot(member).await?;
        return off_thread(move || asked_of(&snapshot.today, &name, content)).await?.map(Json);
    }
    Err(Problem::field("file", "choose a file"))
}

fn asked_of(today: &Today, name: &str, content: Vec<u8>) -> Result<AskedOfLines, Problem> {
    let opened = zf_sheets::read(name, content, &How::default())
        .map_err(|e| Problem::unreadable(ProblemCode::FileUnreadable, e))?;
    let list = opened.sheets.iter().find_map(|sheet| read(&sheet.rows.all()));
    let list = list.ok_or_else(|| {
        let why = "no row of it has the headings “Class” and “Line”; take the list away first";
        Problem::unreadable(ProblemCode::NotLaidOut, why)
    })?;
    let (numbers, rows): (Vec<u32>, Vec<_>) = list.rows.into_iter().unzip();
    let asked = asked(&rows, &today.chart);
    let unread = list.rejected.into_iter();
    let unfollowed = asked.refused.iter().map(|(at, why)| (numbers[*at], why.to_string()));
    let refused: BTreeMap<u32, String> = unread.chain(unfollowed).collect();
    let (_, done) = carry_out(&asked.edits, &today.chart).map_err(cannot)?;
    Ok(AskedOfLines {
        says: done.into_iter().map(|(what, line)| format!("{what}: {line}")).collect(),
        edits: asked.edits,
        merges: asked.merges.into_iter().map(|(line, into)| LineMerge { line, into }).collect(),
        refused: refused.into_iter().map(|(row, why)| RefusedLine { row, why }).collect(),
    })
}

/// Lines that are to be merged.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct LineMerges {
    merges: Vec<LineMerge>,
}

/// Stages that lines are merged: their accounts come to stand under others.
#[utoipa::path(post, operation_id = "lines_merge", path = "/api/books/{books}/plans/{plan}/lines",
    params(("books" = i64, Path), ("plan" = i64, Path)), request_body = LineMerges,
    responses((status = 200, body = EditedView), (status = "4XX", body = Problem)))]
pub(crate) async fn merge(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
    Form(form): Form<LineMerges>,
) -> Result<Json<EditedView>, Problem> {
    let (snapshot, kept, rehearsed) = app.rehearsed(member, id).await?;
    let after = &rehearsed.rehearsal.after;
    let mut edits = Vec::new();
    for LineMerge { line, into } in form.merges {
        let changes = merged(after, line, into).map_err(cannot)?;
        edits.extend(
            changes
                .into_iter()
                .map(|(account, change)| Edit::over(&kept.plan, account, Wanted::Stage(change))),
        );
    }
    stage(&app, member, id, &snapshot.today.chart, &edits, Vec::new(), None).await
}
