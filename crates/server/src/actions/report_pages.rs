//! What a plan does, of a draft, an undo and an applied plan alike: figures and findings at once, the crosswalk
//! and the trial balance a page at a time.

use crate::values::page_of;
use serde::Serialize;
use zf_wire::rehearsal::{
    Crossing, FindingView, MovedView, Report, ReportFigures, RewrittenView, TrialPair,
};

/// How many accounts of a crosswalk, and lines of a trial balance, stand on a page: about 100 KB.
const CROSSINGS: usize = 400;
const TRIAL_LINES: usize = 1_000;

/// What a plan does, and the proof that nothing is lost.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ReportView {
    #[serde(flatten)]
    figures: ReportFigures,
    /// How many accounts change: the rows of the crosswalk.
    crossings: usize,
    /// Every part of a history that moves.
    moved: Vec<MovedView>,
    /// Every line of a report that follows.
    report_lines: Vec<RewrittenView>,
    /// Stops and cautions.
    findings: Vec<FindingView>,
}

impl ReportView {
    /// A report without its crosswalk.
    pub(super) fn of(report: &Report) -> Self {
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
pub(crate) struct CrosswalkPage {
    /// The revision of the draft that it is of; none of an applied plan.
    revision: Option<i64>,
    /// How many pages there are.
    pages: usize,
    rows: Vec<Crossing>,
}

impl CrosswalkPage {
    /// A page, counted from 0.
    pub(super) fn of(report: &Report, revision: Option<i64>, page: u32) -> Self {
        let (rows, pages) = page_of(&report.crosswalk, page as usize, CROSSINGS);
        Self { revision, pages, rows }
    }
}

/// A page of a trial balance, today and After beside each other.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TrialPage {
    /// How many pages there are.
    pages: usize,
    lines: Vec<TrialPair>,
}

impl TrialPage {
    /// A page, counted from 0.
    pub(super) fn of(lines: &[TrialPair], page: u32) -> Self {
        let (lines, pages) = page_of(lines, page as usize, TRIAL_LINES);
        Self { pages, lines }
    }
}
