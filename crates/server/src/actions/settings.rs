//! What the books lay down for themselves: shown, tried, changed; locks; and how books end.

use crate::extract::Form;
use crate::session::In;
use crate::state::off_thread;
use crate::values::{day, reason, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use time::OffsetDateTime;
use zf_core::activity::usual_as_of;
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::entry::JournalSince;
use zf_core::money::Currency;
use zf_core::people;
use zf_core::policy::RelaxableRule;
use zf_core::settings::{FiguresChange, SettingChange, ShownYear, effect};
use zf_phrases::Style;
use zf_phrases::trail::{action, sentence};
use zf_store::journal::today::Snapshot;
use zf_wire::problem::ProblemCode;
use zf_wire::settings::{
    ArchiveForm, FiscalYearView, JournalForm, LockForm, RuleView, SettingForm, SettingPreview,
    SettingsView, StrictnessForm, TypedName, UnlockForm, YearForm,
};

fn parse_setting(form: SettingForm, calendar: FiscalCalendar) -> Result<SettingChange, Problem> {
    Ok(match form {
        SettingForm::Name(name) => {
            SettingChange::Name(people::name(&name).map_err(|why| Problem::field("name", why))?)
        }
        SettingForm::Currency(text) => SettingChange::Currency(
            Currency::parse(&text).map_err(|why| Problem::field("currency", why))?,
        ),
        SettingForm::Year(YearForm { year_month, year_day }) => SettingChange::Year(
            FiscalCalendar::starting(year_month, year_day)
                .map_err(|why| Problem::field("year_day", why))?,
        ),
        SettingForm::AsOf(form) => {
            SettingChange::AsOf(period(calendar, "date", form.date.as_deref())?)
        }
        SettingForm::Journal(JournalForm::Beginning) => {
            SettingChange::Journal(JournalSince::Beginning)
        }
        SettingForm::Journal(JournalForm::Unknown) => SettingChange::Journal(JournalSince::Unknown),
        SettingForm::Journal(JournalForm::Day(text)) => {
            let from = day("journal", Some(&text))?;
            SettingChange::Journal(from.map_or(JournalSince::Unknown, JournalSince::Day))
        }
        SettingForm::UsesComplete(complete) => SettingChange::UsesComplete(complete),
        SettingForm::Rule(StrictnessForm { rule, level }) => SettingChange::Rule(rule, level),
    })
}

/// The period that a day of a form lies in.
fn period(
    calendar: FiscalCalendar,
    field: &str,
    text: Option<&str>,
) -> Result<Option<Period>, Problem> {
    let date = day(field, text)?;
    let known = |date| within(field, calendar.period_of(date).0, Period::NUMBERS);
    Ok(date.map(known).transpose()?.map(Period))
}

/// Shows what the books lay down for themselves.
#[utoipa::path(get, operation_id = "settings_show", path = "/api/books/{books}/settings", params(("books" = i64, Path)),
    responses((status = 200, body = SettingsView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<SettingsView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let books = &snapshot.books;
    let last_day = |period: Period| books.calendar.last_day(period).to_string();
    let months = snapshot.today.activity.lines_by_period();
    Ok(Json(SettingsView {
        name: books.name.clone(),
        currency: books.currency.to_string(),
        lines: app.store.line_count(member).await?,
        year_month: books.calendar.month(),
        year_day: books.calendar.day(),
        as_of: books.as_of.map(last_day),
        journal: books.settings().journal.into(),
        uses_complete: books.usage_given,
        locked: books.locked.map(last_day),
        ends: months.into_keys().rev().map(last_day).collect(),
        rules: RelaxableRule::ALL.iter().map(|rule| RuleView::of(*rule, &books.policy)).collect(),
        format: books.policy.format.to_string(),
        blocks: books.policy.blocks.len(),
        archived: books.archived.is_some(),
        may: member.capabilities().iter().collect(),
    }))
}

/// Changes a setting.
#[utoipa::path(put, operation_id = "settings_change", path = "/api/books/{books}/settings", params(("books" = i64, Path)),
    request_body = SettingForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn change(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<SettingForm>,
) -> Result<StatusCode, Problem> {
    let change = parse_setting(form, app.store.books(member).await?.calendar)?;
    app.store.change_setting(member, &change).await?;
    Ok(StatusCode::NO_CONTENT)
}

fn fiscal_year_view(year: ShownYear, snapshot: &Snapshot) -> FiscalYearView {
    FiscalYearView {
        first: year.first.to_string(),
        last: year.last.to_string(),
        net: snapshot.books.currency.format(year.result),
    }
}

/// Tries a change, and says what it would do to the figures that are shown.
#[utoipa::path(post, operation_id = "settings_preview", path = "/api/books/{books}/settings", params(("books" = i64, Path)),
    request_body = SettingForm,
    responses((status = 200, body = SettingPreview), (status = "4XX", body = Problem)))]
pub(crate) async fn preview(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<SettingForm>,
) -> Result<Json<SettingPreview>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let change = parse_setting(form, snapshot.books.calendar)?;
    let lines = app.store.line_count(member).await?.unsigned_abs();
    let changed = snapshot.books.settings().change(&change, lines);
    let Some(changed) = changed.map_err(cannot)? else {
        let (year_before, year_after) = (None, None);
        return Ok(Json(SettingPreview { summary: None, year_before, year_after, accounts: 0 }));
    };
    let now = snapshot.books.calendar.period_of(OffsetDateTime::now_utc().date());
    let style = Style(member.forms());
    let shown = move || {
        let usual = usual_as_of(&snapshot.today.activity.lines_by_period(), now);
        let FiguresChange { before, after, accounts } = effect(&snapshot.today, &changed, usual);
        let view = |year: Option<ShownYear>| year.map(|year| fiscal_year_view(year, &snapshot));
        SettingPreview {
            year_before: view(before),
            year_after: view(after),
            summary: Some(format!(
                "{} {}",
                action(changed.event.action()),
                sentence(&changed.event, style)
            )),
            accounts,
        }
    };
    Ok(Json(off_thread(shown).await?))
}

fn cannot(why: zf_core::settings::CannotChange) -> Problem {
    Problem::new(StatusCode::CONFLICT, ProblemCode::Refused, why)
}

/// Locks the books up to the end of a month.
#[utoipa::path(put, operation_id = "settings_lock", path = "/api/books/{books}/lock", params(("books" = i64, Path)),
    request_body = LockForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn lock(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<LockForm>,
) -> Result<StatusCode, Problem> {
    let calendar = app.store.books(member).await?.calendar;
    let until = period(calendar, "until", Some(&form.until))?;
    app.store.lock_periods(member, until, None).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Opens locked months again, with a reason that is noted.
#[utoipa::path(post, operation_id = "settings_unlock", path = "/api/books/{books}/lock", params(("books" = i64, Path)),
    request_body = UnlockForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn unlock(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<UnlockForm>,
) -> Result<StatusCode, Problem> {
    let calendar = app.store.books(member).await?.calendar;
    let until = period(calendar, "until", form.until.as_deref())?;
    app.store.lock_periods(member, until, Some(reason(&form.reason)?)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts the books away, so that nothing is changed in them, or takes them up again.
#[utoipa::path(put, operation_id = "settings_archive", path = "/api/books/{books}/archived", params(("books" = i64, Path)),
    request_body = ArchiveForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn archived(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<ArchiveForm>,
) -> Result<StatusCode, Problem> {
    app.store.archived(member, form.archived).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Deletes the books for good.
#[utoipa::path(post, operation_id = "settings_delete", path = "/api/books/{books}/deletion", params(("books" = i64, Path)),
    request_body = TypedName,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn delete(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<TypedName>,
) -> Result<StatusCode, Problem> {
    app.store.delete_books(member, &form.name).await?;
    Ok(StatusCode::NO_CONTENT)
}
