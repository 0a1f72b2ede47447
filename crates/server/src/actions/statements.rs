//! The statements: the balance sheet and the income statement, line by line, and what they tie to.

mod asking;
mod view;

use super::cards::no_account;
use crate::extract::Query;
use crate::session::In;
use crate::{App, Problem, files};
use asking::{Shown, look};
use axum::Json;
use axum::extract::{Path, State};
use axum::response::Response;
use view::statements_view;
use zf_core::ids::AccountId;
use zf_core::reports::draw;
use zf_core::reports::reading::Read;
use zf_core::reports::statement::StatementKind;
use zf_core::reports::trial::{TrialForm, trial};
use zf_exports::statement;
use zf_phrases::Style;
use zf_wire::statements::trial::TrialView;
use zf_wire::statements::view::{MonthsOfAccount, StatementsView};
use zf_wire::statements::{StatementsQuery, TrialQuery};

/// The statements of up to eight periods beside each other.
#[utoipa::path(get, operation_id = "reports_statements", path = "/api/books/{books}/reports/statements",
    params(("books" = i64, Path), StatementsQuery),
    responses((status = 200, body = StatementsView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(asked): Query<StatementsQuery>,
) -> Result<Json<StatementsView>, Problem> {
    let style = Style(member.forms());
    let view = move |read: &Read<'_>, shown: &Shown| statements_view(read, shown, style);
    Ok(Json(look(&app, member, asked, view).await?))
}

/// The trial balance in one of its forms, in the columns of the statements.
#[utoipa::path(get, operation_id = "reports_trial_balance", path = "/api/books/{books}/reports/trial-balance",
    params(("books" = i64, Path), StatementsQuery, TrialQuery),
    responses((status = 200, body = TrialView), (status = "4XX", body = Problem)))]
pub(crate) async fn trial_balance(
    State(app): State<App>,
    In(member): In,
    Query(asked): Query<StatementsQuery>,
    Query(TrialQuery { form, zeros }): Query<TrialQuery>,
) -> Result<Json<TrialView>, Problem> {
    let form = form.unwrap_or(TrialForm::Balances);
    let of = move |read: &Read<'_>, _: &Shown| TrialView::of(read, form, zeros.unwrap_or_default());
    Ok(Json(look(&app, member, asked, of).await?))
}

/// What an account comes to in the months of each column of the statements.
#[utoipa::path(get, operation_id = "reports_months", path = "/api/books/{books}/reports/accounts/{account}/months",
    params(("books" = i64, Path), ("account" = i64, Path), StatementsQuery),
    responses((status = 200, body = Vec<MonthsOfAccount>), (status = "4XX", body = Problem)))]
pub(crate) async fn months(
    State(app): State<App>,
    In(member): In,
    Path((_, account)): Path<(i64, i64)>,
    Query(asked): Query<StatementsQuery>,
) -> Result<Json<Vec<MonthsOfAccount>>, Problem> {
    let account = AccountId(account);
    let of = move |read: &Read<'_>, _: &Shown| {
        let is_known = [read.chart(), &read.today().chart].iter().any(|c| c.get(account).is_some());
        is_known.then(|| MonthsOfAccount::of(read, account))
    };
    look(&app, member, asked, of).await?.map(Json).ok_or_else(no_account)
}

/// Hands a statement over, `balance_sheet`, `income_statement` or `trial_balance`, as CSV, or as XLSX or ODS with totals
/// that are formulas.
#[utoipa::path(get, operation_id = "reports_file", path = "/api/books/{books}/reports/files/{file}",
    params(("books" = i64, Path), ("file" = String, Path), StatementsQuery, TrialQuery),
    responses((status = 200, content_type = "application/octet-stream"), (status = "4XX", body = Problem)))]
pub(crate) async fn file(
    State(app): State<App>,
    In(member): In,
    Path((_, file)): Path<(i64, String)>,
    Query(asked): Query<StatementsQuery>,
    Query(TrialQuery { form, zeros }): Query<TrialQuery>,
) -> Result<Response, Problem> {
    let (name, format) = files::asked(&file)?;
    if name == "trial_balance" {
        let (form, zeros) = (form.unwrap_or(TrialForm::Balances), zeros.unwrap_or_default());
        let table = move |read: &Read<'_>, _: &Shown| {
            statement::trial_balance(&trial(read, form, zeros), read.today())
        };
        return files::saved(name, format, vec![look(&app, member, asked, table).await?]).await;
    }
    let kind = StatementKind::from_key(name)
        .ok_or_else(|| Problem::field("file", "no such statement is handed over"))?;
    let table = move |read: &Read<'_>, _: &Shown| {
        let statements = draw(read);
        let of_kind = statements.iter().find(|statement| statement.kind == kind);
        of_kind.map(|statement| statement::table(statement, read))
    };
    let table = look(&app, member, asked, table).await?;
    files::saved(name, format, table.into_iter().collect()).await
}
