//! What a plan does, of a draft, an undo and an applied plan alike: figures and findings at once, the crosswalk
//! and the trial balance a page at a time.

use crate::rehearsal::{
    Crossing, FindingView, MovedView, Report, ReportFigures, RewrittenView, TrialPair,
};
use crate::values::page_of;
use serde::Serialize;

/// What a plan does, and the proof that nothing is lost.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ReportView {
    #[serde(flatten)]
    pub figures: ReportFigures,
    /// How many accounts change: the rows of the crosswalk.
    pub crossings: usize,
    /// Every part of a history that moves.
    pub moved: Vec<MovedView>,
    /// Every line of a report that follows.
    pub report_lines: Vec<RewrittenView>,
    /// Stops and cautions.
    pub findings: Vec<FindingView>,
}

impl ReportView {
    /// A report without its crosswalk.
    pub fn of(report: &Report) -> Self {
        let Report { figures, crosswalk, moved, report_lines, findings } = report;
        Self {
            figures: figures.clone(),
            crossings: crosswalk.len(),
            moved: moved.clone(),
            report_lines: report_lines.clone(),
            findings: findings.clone(),
        }
    }
}

/// A page of a crosswalk: accounts that change, with their old and new selves.
#[derive(Serialize, utoipa::ToSchema)]
pub struct CrosswalkPage {
    /// The revision of the draft that it is of; none of an applied plan.
    pub revision: Option<i64>,
    /// How many pages there are.
    pub pages: usize,
    pub rows: Vec<Crossing>,
}

/// A page of a trial balance, today and After beside each other.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TrialPage {
    /// How many pages there are.
    pub pages: usize,
    pub lines: Vec<TrialPair>,
}

/// How many accounts of a crosswalk, and lines of a trial balance, stand on a page: about 100 KB.
const CROSSINGS: usize = 400;

const TRIAL_LINES: usize = 1_000;

impl CrosswalkPage {
    /// A page, counted from 0.
    pub fn of(report: &Report, revision: Option<i64>, page: u32) -> Self {
        let (rows, pages) = page_of(&report.crosswalk, page as usize, CROSSINGS);
        Self { revision, pages, rows }
    }
}

impl TrialPage {
    /// A page, counted from 0.
    pub fn of(lines: &[TrialPair], page: u32) -> Self {
        let (lines, pages) = page_of(lines, page as usize, TRIAL_LINES);
        Self { pages, lines }
    }
}
