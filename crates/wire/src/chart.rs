//! The chart as the sheet shows it: the outline with the figures of every row.

use serde::{Deserialize, Serialize};
use zf_core::access::Capability;
use zf_core::chart::{Class, Kind, Status};
use zf_core::ids::ItemId;
use zf_core::statement::{Section, Structure};

/// The period of the net change.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Between {
    /// The first period; the start of the latest fiscal year when missing.
    pub from: Option<i32>,
    /// The last period; the latest with lines when missing.
    pub to: Option<i32>,
    /// The day up to the end of whose period figures are shown; that of the books when missing.
    pub day: Option<String>,
}

/// The day up to which figures are shown.
#[derive(Serialize, utoipa::ToSchema)]
pub struct AsOfView {
    /// The last day of a period.
    pub date: String,
    /// The first day of its fiscal year, from which income and expenses count.
    pub year_start: String,
    /// Whether the books lay it down; else it is told from the lines.
    pub fixed: bool,
    /// Whether it is shown for once, and all that is decided goes by the day of the books.
    pub for_once: bool,
    /// How many lines are dated behind it.
    pub lines_ahead: u64,
}

/// The chart of a set of books.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ChartView {
    pub name: String,
    pub currency: String,
    /// What whoever asks may do in the books.
    pub may: Vec<Capability>,
    /// The end of the latest fiscal year, as a date.
    pub year_end: Option<String>,
    /// The day up to which figures are shown; none while nothing is posted.
    pub as_of: Option<AsOfView>,
    pub lines: u64,
    /// All periods in which anything was posted, for choosing.
    pub periods: Vec<PeriodView>,
    pub from: i32,
    pub to: i32,
    /// The files that accounts came from, the latest first.
    pub origins: Vec<OriginView>,
    /// The accounts that one follows.
    pub followed: Vec<i64>,
    /// The classes, with the statement items, in their order.
    pub classes: Vec<ClassView>,
    pub rows: Vec<ChartRow>,
}

/// A file that accounts came from.
#[derive(Serialize, utoipa::ToSchema)]
pub struct OriginView {
    pub id: i64,
    pub file_name: String,
    pub at: String,
}

/// A fiscal period.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PeriodView {
    pub period: i32,
    pub first: String,
    pub last: String,
}

/// A class, with the statement items that its accounts can stand under.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ClassView {
    pub class: Class,
    /// What it is called over its lines.
    pub title: &'static str,
    pub captions: Vec<CaptionView>,
}

/// A line of the statements that accounts can stand under.
#[derive(Serialize, utoipa::ToSchema)]
pub struct CaptionView {
    pub id: ItemId,
    pub name: String,
    /// Which of the standard line items it is.
    pub standard: Option<Section>,
}

impl ClassView {
    pub fn all(lines: &Structure) -> Vec<Self> {
        let of_class = |class: &Class| {
            let own = lines.captions().filter(|line| line.class == *class).map(|line| {
                CaptionView { id: line.id, name: line.name.clone(), standard: line.standard }
            });
            Self { class: *class, title: class.title(), captions: own.collect() }
        };
        Class::ALL.iter().map(of_class).collect()
    }
}

/// A row of the outline.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ChartRow {
    pub id: i64,
    pub code: String,
    /// Whether the code was proposed where a file had none, and nobody gave one since.
    pub code_proposed: bool,
    pub name: String,
    /// What it is for.
    pub description: String,
    pub kind: Kind,
    pub class: Class,
    /// The line of the statements that it stands under.
    pub caption: Option<ItemId>,
    pub parent: Option<i64>,
    pub depth: usize,
    pub status: Status,
    /// The day from which it is deactivated or archived, where that is known.
    pub status_from: Option<String>,
    pub role: Option<&'static str>,
    pub lines: u64,
    pub last: Option<String>,
    /// Lines by quarter, oldest first, as digits 0 to 9 of the row's own busiest quarter.
    pub strip: String,
    pub balance: String,
    pub net_change: String,
    /// Codes it used to bear, and those of accounts merged into it.
    pub former: Vec<String>,
    /// Names it used to have, and those of accounts merged into it.
    pub former_names: Vec<String>,
    /// How many things name it elsewhere.
    pub uses: usize,
    /// The file it came with; none when it was added by hand.
    pub origin: Option<i64>,
}
