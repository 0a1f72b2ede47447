//! Reports: the latest fiscal years beside each other.

use crate::door::Query;
use crate::session::In;
use crate::state::off_thread;
use crate::values::within;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use zf_core::chart::{Account, Class, Status};
use zf_core::plan::Plan;
use zf_core::rehearsal::years::{Compared, Year, compare, years};
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::today::Today;

/// How many years there can be.
const MOST_YEARS: usize = 12;

/// Which years, and what they would be restated by.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Asked {
    /// The plan; without one After is as today.
    plan: Option<i64>,
    /// How many years, 3 when it is not said.
    years: Option<usize>,
}

/// Comparative figures: the latest fiscal years, today and restated.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ComparativeView {
    /// The latest first.
    years: Vec<ComparedYearView>,
    /// Every account that stands at something in one of the years.
    rows: Vec<ComparedView>,
    classes: Vec<ComparedClassView>,
}

/// A fiscal year.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ComparedYearView {
    /// Its last day.
    end: String,
    /// The last day that counts: of the latest year, of the last period that anything was posted in.
    until: String,
}

/// What something stands at in a year.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct FigureView {
    today: String,
    after: String,
}

/// An account through the years.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ComparedView {
    /// None for the results of earlier years.
    account: Option<i64>,
    class: Class,
    code: String,
    name: String,
    /// What there is to know: archived, deactivated, new, or where its history goes.
    note: String,
    figures: Vec<FigureView>,
}

/// A class through the years.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ComparedClassView {
    class: Class,
    figures: Vec<FigureView>,
}

/// Compares the latest fiscal years.
#[utoipa::path(get, operation_id = "reports_years", path = "/api/books/{books}/reports/years",
    params(("books" = i64, Path), Asked),
    responses((status = 200, body = ComparativeView), (status = "4XX", body = Problem)))]
pub(crate) async fn compare_years(
    State(app): State<App>,
    In(member): In,
    Query(asked): Query<Asked>,
) -> Result<Json<ComparativeView>, Problem> {
    let (snapshot, rehearsed) = match asked.plan {
        Some(id) => {
            let (snapshot, _, rehearsed) = app.rehearsed(member, id).await?;
            (snapshot, Some(rehearsed))
        }
        None => (app.snapshot(member).await?, None),
    };
    let count = within("years", asked.years.unwrap_or(3), 1..=MOST_YEARS)?;
    let view = off_thread(move || {
        let today = &snapshot.today;
        let of = |rehearsal: &Rehearsal| {
            ComparativeView::of(today, rehearsal, &years(today, rehearsal, count))
        };
        match &rehearsed {
            Some(rehearsed) => of(&rehearsed.rehearsal),
            None => of(&rehearse(today, &Plan::default())),
        }
    });
    Ok(Json(view.await?))
}

impl ComparativeView {
    fn of(today: &Today, rehearsal: &Rehearsal, years: &[Year]) -> Self {
        let day = |period| today.calendar.last_day(period).to_string();
        let figure = |(before, after)| FigureView {
            today: today.currency.format(before),
            after: today.currency.format(after),
        };
        let rows = compare(today, rehearsal, years).into_iter().filter_map(|compared| {
            let Compared { account, balances } = compared;
            let before = today.chart.get(account);
            let live = rehearsal.after.get(account).filter(|after| after.is_live());
            let shown = live.or(before)?;
            Some(ComparedView {
                account: Some(account.0),
                class: shown.class,
                code: shown.code.to_string(),
                name: shown.name.clone(),
                note: note(rehearsal, before, live, account),
                figures: balances.into_iter().map(figure).collect(),
            })
        });
        let earlier = |year: &Year| (year.today.earlier_results, year.after.earlier_results);
        let earlier = years.iter().any(|year| earlier(year) != (0, 0)).then(|| ComparedView {
            account: None,
            class: Class::Equity,
            code: String::new(),
            name: "Results of earlier years".to_owned(),
            note: String::new(),
            figures: years.iter().map(earlier).map(figure).collect(),
        });
        let classes = Class::ALL.iter().map(|class| ComparedClassView {
            class: *class,
            figures: years.iter().map(|year| year.class(*class)).map(figure).collect(),
        });
        Self {
            years: years
                .iter()
                .map(|year| ComparedYearView {
                    end: day(year.last.year_end()),
                    until: day(year.last),
                })
                .collect(),
            rows: rows.chain(earlier).collect(),
            classes: classes.collect(),
        }
    }
}

fn note(
    rehearsal: &Rehearsal,
    before: Option<&Account>,
    live: Option<&Account>,
    id: zf_core::ids::AccountId,
) -> String {
    match (before, live.map(|after| after.status)) {
        (None, _) => "new".to_owned(),
        (_, Some(Status::Deactivated)) => "deactivated".to_owned(),
        (_, Some(Status::Archived)) => "archived".to_owned(),
        (_, Some(_)) => String::new(),
        (_, None) => rehearsal
            .after
            .holder(id)
            .map_or_else(|| "deleted".to_owned(), |holder| format!("goes into {}", holder.label())),
    }
}
