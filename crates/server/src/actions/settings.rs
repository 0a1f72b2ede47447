//! What the books lay down for themselves: shown, tried, changed; locks; and how books end.

use crate::catalogue::ProblemCode;
use crate::extract::Form;
use crate::session::In;
use crate::state::off_thread;
use crate::values::{day, reason, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use zf_core::access::Capability;
use zf_core::activity::usual_as_of;
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::money::Currency;
use zf_core::people;
use zf_core::policy::{Level, Policy, RelaxableRule};
use zf_core::settings::{FiguresChange, JournalSince, SettingChange, ShownYear, effect};
use zf_store::journal::today::Snapshot;

/// What a set of books lays down for itself.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct SettingsView {
    name: String,
    currency: String,
    /// How many lines there are: with any, the currency and the day of the year's start are fixed.
    lines: i64,
    /// The month in which fiscal years start, 1 to 12.
    year_month: u8,
    /// The day of that month, 1 to 28.
    year_day: u8,
    /// The last day that counts, when it is laid down.
    as_of: Option<String>,
    /// From when the journal is complete.
    journal: JournalForm,
    /// Whether the list of what names accounts elsewhere is known to be complete.
    uses_complete: bool,
    /// The last locked day.
    locked: Option<String>,
    /// The ends of the months that have lines, latest first: to be locked up to.
    ends: Vec<String>,
    /// The rules that can be tightened or relaxed.
    rules: Vec<RuleView>,
    /// The form of codes, in words.
    format: String,
    /// How many blocks the numbering scheme has.
    blocks: usize,
    /// Whether the books are put away.
    archived: bool,
    /// What whoever asks may do in the books.
    may: Vec<Capability>,
}

/// A rule that can be tightened or relaxed.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RuleView {
    rule: RelaxableRule,
    /// The rule in a sentence.
    sentence: &'static str,
    /// Why there is such a rule.
    reason: &'static str,
    level: Level,
    /// What it is when nobody changed it.
    default: Level,
}

impl RuleView {
    fn of(rule: RelaxableRule, policy: &Policy) -> Self {
        Self {
            rule,
            sentence: rule.words(),
            reason: rule.reason(),
            level: policy.level(rule),
            default: Policy::default().level(rule),
        }
    }
}

/// From when a journal is complete.
#[derive(Clone, Debug, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum JournalForm {
    /// From the beginning of every account.
    Beginning,
    /// From this day on.
    Day(String),
    /// Nobody has said.
    Unknown,
}

impl From<JournalSince> for JournalForm {
    fn from(since: JournalSince) -> Self {
        match since {
            JournalSince::Beginning => Self::Beginning,
            JournalSince::Day(day) => Self::Day(day.to_string()),
            JournalSince::Unknown => Self::Unknown,
        }
    }
}

/// A change of one setting.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum SettingForm {
    /// Another name.
    Name(String),
    /// Another currency, three letters of ISO 4217.
    Currency(String),
    /// Other fiscal years.
    Year(YearForm),
    /// Up to which day figures are shown.
    AsOf(AsOfForm),
    /// From when the journal is complete.
    Journal(JournalForm),
    /// Whether the list of uses is complete.
    UsesComplete(bool),
    /// How strict a rule is.
    Rule(StrictnessForm),
}

/// When fiscal years start.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct YearForm {
    /// 1 to 12.
    year_month: u8,
    /// 1 to 28.
    year_day: u8,
}

/// The day up to which figures are shown.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct AsOfForm {
    /// A day of the last period that counts; without one it is told from the lines.
    date: Option<String>,
}

/// How strict a rule is.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct StrictnessForm {
    rule: RelaxableRule,
    level: Level,
}

impl SettingForm {
    fn parse(self, calendar: FiscalCalendar) -> Result<SettingChange, Problem> {
        Ok(match self {
            Self::Name(name) => {
                SettingChange::Name(people::name(&name).map_err(|why| Problem::field("name", why))?)
            }
            Self::Currency(text) => SettingChange::Currency(
                Currency::parse(&text).map_err(|why| Problem::field("currency", why))?,
            ),
            Self::Year(YearForm { year_month, year_day }) => SettingChange::Year(
                FiscalCalendar::starting(year_month, year_day)
                    .map_err(|why| Problem::field("year_day", why))?,
            ),
            Self::AsOf(form) => {
                SettingChange::AsOf(period(calendar, "date", form.date.as_deref())?)
            }
            Self::Journal(JournalForm::Beginning) => {
                SettingChange::Journal(JournalSince::Beginning)
            }
            Self::Journal(JournalForm::Unknown) => SettingChange::Journal(JournalSince::Unknown),
            Self::Journal(JournalForm::Day(text)) => {
                let from = day("journal", Some(&text))?;
                SettingChange::Journal(from.map_or(JournalSince::Unknown, JournalSince::Day))
            }
            Self::UsesComplete(complete) => SettingChange::UsesComplete(complete),
            Self::Rule(StrictnessForm { rule, level }) => SettingChange::Rule(rule, level),
        })
    }
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
    let change = form.parse(app.store.books(member).await?.calendar)?;
    app.store.change_setting(member, &change).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What a change would do to the figures that are shown.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct SettingPreview {
    /// What would be noted of it; none when it is so already.
    summary: Option<String>,
    /// The latest year as it is shown now.
    year_before: Option<FiscalYearView>,
    /// As it would be shown.
    year_after: Option<FiscalYearView>,
    /// How many accounts would show another balance.
    accounts: usize,
}

/// The latest fiscal year as it is shown.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct FiscalYearView {
    /// Its first day.
    first: String,
    /// The last day that counts.
    last: String,
    /// What was earned; a loss is negative.
    net: String,
}

impl FiscalYearView {
    fn of(year: ShownYear, snapshot: &Snapshot) -> Self {
        Self {
            first: year.first.to_string(),
            last: year.last.to_string(),
            net: snapshot.books.currency.format(year.result),
        }
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
    let change = form.parse(snapshot.books.calendar)?;
    let lines = app.store.line_count(member).await?.unsigned_abs();
    let changed = snapshot.books.settings().change(&change, lines);
    let Some(changed) = changed.map_err(cannot)? else {
        let (year_before, year_after) = (None, None);
        return Ok(Json(SettingPreview { summary: None, year_before, year_after, accounts: 0 }));
    };
    let now = snapshot.books.calendar.period_of(OffsetDateTime::now_utc().date());
    let shown = move || {
        let usual = usual_as_of(&snapshot.today.activity.lines_by_period(), now);
        let FiguresChange { before, after, accounts } = effect(&snapshot.today, &changed, usual);
        let view = |year: Option<ShownYear>| year.map(|year| FiscalYearView::of(year, &snapshot));
        SettingPreview {
            year_before: view(before),
            year_after: view(after),
            summary: Some(format!("{} {}", changed.action.words(), changed.detail)),
            accounts,
        }
    };
    Ok(Json(off_thread(shown).await?))
}

fn cannot(why: zf_core::settings::CannotChange) -> Problem {
    Problem::new(StatusCode::CONFLICT, ProblemCode::Refused, why)
}

/// Up to when the books are locked.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct LockForm {
    /// A day of the last month that is locked.
    until: String,
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

/// Up to when the books stay locked, and why they are opened.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct UnlockForm {
    /// A day of the last month that stays locked; none opens all.
    until: Option<String>,
    reason: String,
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

/// Whether books are put away.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct ArchiveForm {
    archived: bool,
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

/// The name of the books, typed.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct TypedName {
    name: String,
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
