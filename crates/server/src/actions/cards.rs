//! The card of an account: years side by side, former codes with their dates, what names it, and
//! its lines a page at a time.

use crate::extract::Query;
use crate::session::In;
use crate::values::checked_page;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use std::collections::BTreeMap;
use zf_core::activity::Totals;
use zf_core::calendar::Period;
use zf_core::code::Interval;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::names::Charts;
use zf_core::plan::{Change, Field, InCrosswalk};
use zf_phrases::Say;
use zf_store::StoreError;
use zf_store::journal::lines::LineRow;
use zf_wire::cards::{CardSetting, CardView, FormerView, LineView, YearView};
use zf_wire::problem::ProblemCode;
use zf_wire::values::{PageOf, instant};

/// How many lines a page has.
const PAGE: i64 = 50;

pub(super) fn no_account() -> Problem {
    Problem::new(StatusCode::NOT_FOUND, ProblemCode::NotFound, "there is no such account")
}

/// Shows an account's card.
#[utoipa::path(get, operation_id = "cards_show", path = "/api/books/{books}/accounts/{account}",
    params(("books" = i64, Path), ("account" = i64, Path)),
    responses((status = 200, body = CardView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
) -> Result<Json<CardView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let today = &snapshot.today;
    let account = today.chart.get(AccountId(id)).ok_or_else(no_account)?;
    let mut years: BTreeMap<Period, (Totals, [u64; 12])> = BTreeMap::new();
    for (_, activity, _) in today.activity.strands().filter(|s| s.0.account == account.id) {
        for (slot, share) in activity {
            let year = years.entry(slot.period.year_start()).or_default();
            year.0 += share.totals;
            year.1[(slot.period.0 - slot.period.year_start().0) as usize] += share.totals.lines;
        }
    }
    let money = |minor| today.currency.format(minor);
    let year = |(start, (totals, months)): (Period, (Totals, [u64; 12]))| YearView {
        start: today.calendar.first_day(start).to_string(),
        end: today.calendar.last_day(start.year_end()).to_string(),
        debit: money(totals.debit),
        credit: money(totals.credit),
        net: money(totals.net()),
        lines: totals.lines,
        months: months.to_vec(),
    };
    let held = snapshot.code_uses.iter().filter(|used| {
        used.to.is_some() && today.chart.holder(used.account).is_some_and(|h| h.id == account.id)
    });
    let former = held.map(|used| FormerView {
        code: used.code.to_string(),
        name: used.name.clone(),
        from: used.from.map(instant),
        to: used.to.map(instant),
    });
    let key = account.code.key();
    let report_lines = today
        .usage
        .report_lines_over(&key)
        .map(|line| format!("{}, adds up {}", line.name, Interval::format_list(&line.intervals)));
    let uses = today.usage.of(account.id).iter().cloned().chain(report_lines);
    let names = Charts { today: &today.chart, after: &today.chart };
    let say = Say::to(member.forms(), &names, today.currency);
    let is_setting = |field: Field| field.in_crosswalk() == InCrosswalk::Setting;
    let settings = Change::made(account).filter(|change| is_setting(change.field()));
    let settings = settings.filter(|change| change.field() != Field::Kind).map(|change| {
        let field = change.field();
        CardSetting { field, title: field.words(), value: say.change(&change) }
    });
    Ok(Json(CardView {
        id,
        code: account.code.to_string(),
        name: account.name.clone(),
        class: account.class.words(),
        caption: account.caption.as_ref().map(|line| line.name.clone()),
        status: account.status,
        settings: settings.collect(),
        heading: account.parent.and_then(|p| today.chart.get(p)).map(|p| p.label()),
        import: account.origin.map(|origin| origin.0),
        lines: years.values().map(|(totals, _)| totals.lines).sum(),
        years: years.into_iter().rev().map(year).collect(),
        former: former.collect(),
        uses: uses.collect(),
    }))
}

pub(crate) fn line_view(row: LineRow, currency: Currency) -> LineView {
    let foreign = row.foreign();
    LineView {
        id: row.id,
        date: row.date.to_string(),
        entry: row.entry,
        posted_code: row.posted_code,
        amount: currency.format(row.amount.into()),
        foreign: foreign.map(|(c, amount)| format!("{c} {}", c.format(amount.into()))),
        payee: row.payee,
        memo: row.memo,
        reference: row.reference,
        dimensions: row.dimensions,
        cleared: row.cleared,
    }
}

/// Lists an account's lines, latest first.
#[utoipa::path(get, operation_id = "cards_lines", path = "/api/books/{books}/accounts/{account}/lines",
    params(("books" = i64, Path), ("account" = i64, Path), PageOf),
    responses((status = 200, body = Vec<LineView>), (status = "4XX", body = Problem)))]
pub(crate) async fn lines(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
    Query(page): Query<PageOf>,
) -> Result<Json<Vec<LineView>>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let (chart, currency) = (&snapshot.today.chart, snapshot.today.currency);
    chart.get(AccountId(id)).ok_or(StoreError::NotFound("account"))?;
    let page = checked_page(page.page)?;
    let rows = app.store.account_lines(member, AccountId(id), page.into(), PAGE).await?;
    Ok(Json(rows.into_iter().map(|row| line_view(row, currency)).collect()))
}

/// Follows an account: it stands on a short list of one's own, on top of the sheet.
#[utoipa::path(put, operation_id = "cards_follow", path = "/api/books/{books}/accounts/{account}/follow",
    params(("books" = i64, Path), ("account" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn follow(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
) -> Result<StatusCode, Problem> {
    app.store.follow(member, AccountId(id), true).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Follows an account no longer.
#[utoipa::path(delete, operation_id = "cards_unfollow", path = "/api/books/{books}/accounts/{account}/follow",
    params(("books" = i64, Path), ("account" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn unfollow(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
) -> Result<StatusCode, Problem> {
    app.store.follow(member, AccountId(id), false).await?;
    Ok(StatusCode::NO_CONTENT)
}
