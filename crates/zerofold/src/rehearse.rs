//! `zerofold rehearse`: what a crosswalk would do to the books that a chart and a journal make, without
//! a database.

use crate::files::{BooksFiles, Days, FileSheet, code_format, read_books};
use crate::output::{Found, STYLE, say};
use clap::Args;
use std::collections::BTreeMap;
use std::fmt;
use std::path::{Path, PathBuf};
use std::process::ExitCode;
use zf_core::activity::Figures;
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::Chart;
use zf_core::file_kind::FileKind;
use zf_core::ids::{AccountId, ById};
use zf_core::money::Currency;
use zf_core::names::Charts;
use zf_core::plan::edit::Wanted;
use zf_core::plan::{Change, Plan};
use zf_core::policy::CodeFormat;
use zf_core::rehearsal::finding::Finding;
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::today::Today;
use zf_intake::cause::Cause;
use zf_intake::reading::Chosen;
use zf_intake::reading::Reading;
use zf_intake::{Rejected, Warning, crosswalk};
use zf_phrases::{Say, findings, intake as phrases};
use zf_wire::output::minor;
use zf_wire::output::rehearse::{Crossed, Rehearsed, Said};

/// The files of the books, and the crosswalk.
#[derive(Args)]
pub(crate) struct Rehearse {
    /// The chart of accounts.
    #[arg(long)]
    chart: PathBuf,
    /// The journal, complete from the accounts' beginning.
    #[arg(long)]
    journal: PathBuf,
    /// Old codes with the codes that are to hold their history.
    #[arg(long)]
    crosswalk: PathBuf,
    /// The form of codes: `4`, `4-6 digits` or `1-12 characters`.
    #[arg(long)]
    code_format: Option<String>,
    #[command(flatten)]
    days: Days,
    /// The base currency.
    #[arg(long, default_value = "GBP")]
    currency: String,
    /// Prints one JSON object.
    #[arg(long)]
    json: bool,
}

pub(crate) fn run(asked: &Rehearse) -> ExitCode {
    say(report(asked), asked.json)
}

struct Report {
    today: Today,
    rehearsal: Rehearsal,
    stops: Vec<Said>,
    cautions: Vec<Said>,
}

fn report(asked: &Rehearse) -> anyhow::Result<Report> {
    let currency = Currency::parse(&asked.currency)?;
    let format = code_format(asked.code_format.as_deref())?;
    let (today, _) = read_books(&BooksFiles {
        chart: &asked.chart,
        journal: &asked.journal,
        where_used: None,
        currency,
        format,
        calendar: FiscalCalendar::starting(1, 1)?,
        days: &asked.days,
    })?;
    let ReadCrosswalk { plan, file, rejected, warnings } = cross(&asked.crosswalk, &today, format)?;
    let rehearsal = rehearse(&today, &plan);
    let names = Charts { today: &today.chart, after: &rehearsal.after };
    let words = Say::plain(&names, today.currency);
    let said = |finding: &Finding| said_of(finding, &words);
    let misfits = rejected.iter().map(|rejected| said_of_row(rejected, file.reading()));
    let stops = misfits.chain(rehearsal.stops().map(said)).collect();
    let passed = warnings.iter().map(|warning| Said {
        rule: warning.cause.reason().key(),
        codes: Vec::new(),
        message: of_crosswalk(file.reading(), warning.row, &warning.cause),
        remedy: String::new(),
    });
    let cautions = rehearsal.cautions().map(said).chain(passed).collect();
    Ok(Report { stops, cautions, today, rehearsal })
}

/// What a crosswalk would have changed.
pub(crate) struct ReadCrosswalk {
    pub(crate) plan: Plan,
    file: FileSheet,
    /// The rows that cannot be taken.
    pub(crate) rejected: Vec<Rejected>,
    warnings: Vec<Warning>,
}

/// Reads a crosswalk as a plan for books.
pub(crate) fn cross(
    path: &Path,
    today: &Today,
    format: CodeFormat,
) -> anyhow::Result<ReadCrosswalk> {
    let file = FileSheet::open(path, FileKind::Crosswalk, today.currency, &Chosen::default())?;
    let books = crosswalk::CrosswalkContext { chart: &today.chart, former: &today.former, format };
    let read = crosswalk::read(file.reading(), &file.rows().all(), &books);
    let mut plan = Plan::default();
    for (_, account) in &read.added {
        for change in Change::adding(account) {
            plan.set(&today.chart, account.id, change);
        }
    }
    let read = read.intake;
    for crossing in &read.ready {
        for wanted in crossing.edits(&today.chart, &plan) {
            if let Wanted::Stage(change) = wanted {
                plan.set(&today.chart, crossing.account, change);
            }
        }
    }
    Ok(ReadCrosswalk { plan, file, rejected: read.rejected, warnings: read.warnings })
}

fn said_of(finding: &Finding, words: &Say<'_>) -> Said {
    let called = |id| words.names.today(id).or_else(|| words.names.after(id));
    let code = |id: &AccountId| called(*id).map(|called| called.code.to_string());
    let remedies = finding.remedies.iter();
    let remedies = remedies.map(|remedy| findings::remedy(remedy, &finding.cause, words));
    Said {
        rule: finding.rule().key(),
        codes: finding.accounts.iter().filter_map(code).collect(),
        message: findings::sentence(&finding.cause, finding.severity, words),
        remedy: remedies.collect::<Vec<_>>().join(", or: "),
    }
}

fn of_crosswalk(reading: &Reading, row: u32, cause: &Cause) -> String {
    let (place, sentence) = (phrases::place(&reading.place(row)), phrases::sentence(cause, STYLE));
    format!("{place} of the crosswalk: {sentence}")
}

fn said_of_row(rejected: &Rejected, reading: &Reading) -> Said {
    let code = Some(rejected.value.clone()).filter(|code| !code.is_empty());
    Said {
        rule: rejected.cause.reason().key(),
        codes: code.into_iter().collect(),
        message: of_crosswalk(reading, rejected.row, &rejected.cause),
        remedy: "Correct the row, or leave it out".to_owned(),
    }
}

impl Report {
    /// Accounts whose history stands under another code After, with both codes.
    fn crosswalk(&self) -> Vec<Crossed> {
        let (today, after) = (&self.today.chart, &self.rehearsal.after);
        let crossings = today.live().filter_map(|account| {
            let holder = after.holder(account.id)?;
            (holder.code != account.code)
                .then(|| Crossed { from: account.code.to_string(), to: holder.code.to_string() })
        });
        crossings.collect()
    }
}

impl Found for Report {
    fn is_settled(&self) -> bool {
        self.stops.is_empty()
    }

    type Output = Rehearsed;

    fn output(&self) -> Rehearsed {
        let sums = |figures: &ById<Figures>, chart: &Chart| -> BTreeMap<String, i64> {
            sums(figures, chart).into_iter().map(|(code, sum)| (code, minor(sum))).collect()
        };
        let proof = &self.rehearsal.proof;
        Rehearsed {
            stops: self.stops.clone(),
            cautions: self.cautions.clone(),
            crosswalk: self.crosswalk(),
            before: sums(self.today.figures(), &self.today.chart),
            after: sums(&self.rehearsal.figures_after, &self.rehearsal.after),
            difference: minor(proof.difference),
            lines: proof.lines.lines,
        }
    }
}

impl fmt::Display for Report {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (title, said) in [("stop", &self.stops), ("caution", &self.cautions)] {
            for Said { rule, message, remedy, .. } in said {
                writeln!(f, "{title}: {message} ({rule})")?;
                if !remedy.is_empty() {
                    writeln!(f, "      {remedy}")?;
                }
            }
        }
        for Crossed { from, to } in self.crosswalk() {
            writeln!(f, "{from:>12} becomes {to}")?;
        }
        let money = |sum: i128| STYLE.money(self.today.currency, sum);
        for (title, figures, chart) in [
            ("Before", self.today.figures(), &self.today.chart),
            ("After", &self.rehearsal.figures_after, &self.rehearsal.after),
        ] {
            writeln!(f, "{title}")?;
            for (code, sum) in sums(figures, chart) {
                writeln!(f, "{code:>12} {:>20}", money(sum))?;
            }
        }
        let proof = &self.rehearsal.proof;
        let lines = STYLE.counted(proof.lines.lines, "line");
        writeln!(f, "Difference {} over {lines}", money(proof.difference))?;
        Ok(())
    }
}

/// What the lines of each account add up to, by its code; accounts without lines are left out.
fn sums(figures: &ById<Figures>, chart: &Chart) -> Vec<(String, i128)> {
    let with_lines = figures.iter().filter(|(_, figures)| figures.all.lines > 0);
    let mut sums: Vec<(String, i128)> = with_lines
        .filter_map(|(id, figures)| Some((chart.get(*id)?.code.to_string(), figures.all.net())))
        .collect();
    sums.sort();
    sums
}
