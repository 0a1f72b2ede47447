//! What books set for themselves.

use serde::{Deserialize, Serialize};
use zf_core::access::Capability;
use zf_core::entry::JournalSince;
use zf_core::policy::{Level, Policy, RelaxableRule};
use zf_phrases::policy;

/// What a set of books lays down for itself.
#[derive(Serialize, utoipa::ToSchema)]
pub struct SettingsView {
    pub name: String,
    pub currency: String,
    /// How many lines there are: with any, the currency and the day of the year's start are fixed.
    pub lines: i64,
    /// The month in which fiscal years start, 1 to 12.
    pub year_month: u8,
    /// The day of that month, 1 to 28.
    pub year_day: u8,
    /// The last day that counts, when it is laid down.
    pub as_of: Option<String>,
    /// From when the journal is complete.
    pub journal: JournalForm,
    /// Whether the list of what names accounts elsewhere is known to be complete.
    pub uses_complete: bool,
    /// The last locked day.
    pub locked: Option<String>,
    /// The ends of the months that have lines, latest first: to be locked up to.
    pub ends: Vec<String>,
    /// The rules that can be tightened or relaxed.
    pub rules: Vec<RuleView>,
    /// The form of codes, in words.
    pub format: String,
    /// How many blocks the numbering scheme has.
    pub blocks: usize,
    /// Whether the books are put away.
    pub archived: bool,
    /// What whoever asks may do in the books.
    pub may: Vec<Capability>,
}

/// A rule that can be tightened or relaxed.
#[derive(Serialize, utoipa::ToSchema)]
pub struct RuleView {
    pub rule: RelaxableRule,
    /// The rule in a sentence.
    pub sentence: &'static str,
    /// Why there is such a rule.
    pub reason: &'static str,
    pub level: Level,
    /// What it is when nobody changed it.
    pub default: Level,
}

/// From when a journal is complete.
#[derive(Clone, Debug, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum JournalForm {
    /// From the beginning of every account.
    Beginning,
    /// From this day on.
    Day(String),
    /// Nobody has said.
    Unknown,
}

/// A change of one setting.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SettingForm {
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
pub struct YearForm {
    /// 1 to 12.
    pub year_month: u8,
    /// 1 to 28.
    pub year_day: u8,
}

/// The day up to which figures are shown.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct AsOfForm {
    /// A day of the last period that counts; without one it is told from the lines.
    pub date: Option<String>,
}

/// How strict a rule is.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct StrictnessForm {
    pub rule: RelaxableRule,
    pub level: Level,
}

/// What a change would do to the figures that are shown.
#[derive(Serialize, utoipa::ToSchema)]
pub struct SettingPreview {
    /// What would be noted of it; none when it is so already.
    pub summary: Option<String>,
    /// The latest year as it is shown now.
    pub year_before: Option<FiscalYearView>,
    /// As it would be shown.
    pub year_after: Option<FiscalYearView>,
    /// How many accounts would show another balance.
    pub accounts: usize,
}

/// The latest fiscal year as it is shown.
#[derive(Serialize, utoipa::ToSchema)]
pub struct FiscalYearView {
    /// Its first day.
    pub first: String,
    /// The last day that counts.
    pub last: String,
    /// What was earned; a loss is negative.
    pub net: String,
}

/// Up to when the books are locked.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct LockForm {
    /// A day of the last month that is locked.
    pub until: String,
}

/// Up to when the books stay locked, and why they are opened.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct UnlockForm {
    /// A day of the last month that stays locked; none opens all.
    pub until: Option<String>,
    pub reason: String,
}

/// Whether books are put away.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct ArchiveForm {
    pub archived: bool,
}

/// The name of the books, typed.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct TypedName {
    pub name: String,
}

impl RuleView {
    pub fn of(rule: RelaxableRule, policy: &Policy) -> Self {
        Self {
            rule,
            sentence: policy::holds(rule),
            reason: policy::reason(rule),
            level: policy.level(rule),
            default: Policy::default().level(rule),
        }
    }
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
