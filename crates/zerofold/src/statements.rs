//! `zerofold statements`: the statements of the books that a chart and a journal make, today and as a crosswalk would
//! leave them, without a database.

use crate::files::{BooksFiles, Days, all_taken, calendar, code_format, read_books};
use crate::output::{Found, STYLE, say};
use crate::rehearse::cross;
use anyhow::Context;
use clap::Args;
use std::fmt;
use std::path::PathBuf;
use std::process::ExitCode;
use zf_core::chart::{Chart, Kind};
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::plan::Plan;
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::reports::columns::{Beside, Columns, MOST, Months, Span};
use zf_core::reports::draw;
use zf_core::reports::moved::{Moved, moved};
use zf_core::reports::reading::{Read, Reading, place_of};
use zf_core::reports::statement::{Row, Statement};
use zf_core::reports::ties::{Tie, ties};
use zf_core::today::Today;
use zf_phrases::reports;
use zf_wire::output::minor;
use zf_wire::output::statements::{self as output, Stated};

/// The files of the books, and which years.
#[derive(Args)]
pub(crate) struct Statements {
    /// The chart of accounts.
    #[arg(long)]
    chart: PathBuf,
    /// The journal, complete from the accounts' beginning.
    #[arg(long)]
    journal: PathBuf,
    /// Old codes with the codes that are to hold their history: the statements after it stand beside today's.
    #[arg(long, value_name = "FILE")]
    crosswalk: Option<PathBuf>,
    /// How many fiscal years, the latest up to the last day that counts and the others whole.
    #[arg(long, default_value_t = 3, value_parser = clap::value_parser!(u8).range(1..=MOST as i64))]
    years: u8,
    /// The day on which fiscal years start.
    #[arg(long, value_name = "MM-DD", default_value = "01-01")]
    fiscal_year_start: String,
    #[command(flatten)]
    days: Days,
    /// The base currency.
    #[arg(long, default_value = "GBP")]
    currency: String,
    /// Prints one JSON object.
    #[arg(long)]
    json: bool,
}

/// The statements under one chart.
struct Drawn {
    reading: Reading,
    statements: [Statement; 2],
    ties: Vec<Tie>,
    /// The codes of accounts under no statement item.
    unmapped: Vec<String>,
}

struct Shown {
    today: Today,
    rehearsal: Rehearsal,
    columns: Vec<Months>,
    drawn: Drawn,
    /// After the crosswalk, with what it moves.
    after: Option<(Drawn, Vec<Moved>)>,
}

pub(crate) fn run(asked: &Statements) -> ExitCode {
    say(show(asked), asked.json)
}

fn show(asked: &Statements) -> anyhow::Result<Shown> {
    let format = code_format(None)?;
    let (today, _) = read_books(&BooksFiles {
        chart: &asked.chart,
        journal: &asked.journal,
        where_used: None,
        currency: Currency::parse(&asked.currency)?,
        format,
        calendar: calendar(&asked.fiscal_year_start)?,
        days: &asked.days,
    })?;
    let crossed = asked.crosswalk.as_deref().map(|path| {
        let crossed = cross(path, &today, format)?;
        all_taken(path, &crossed.rejected)?;
        anyhow::Ok(crossed.plan)
    });
    let plan = crossed.transpose()?;
    let rehearsal = rehearse(&today, plan.as_ref().unwrap_or(&Plan::default()));
    let last = today.activity.last().context("nothing was posted: there is nothing to state")?;
    let columns =
        Columns { last, span: Span::Year, beside: Beside::Before, count: asked.years.into() };
    let columns = columns.months(today.activity.first());
    let read = Read::new(&today, &rehearsal, Reading::AsItIs, &columns);
    let drawn = Drawn::of(&read);
    let after = plan.map(|_| {
        let planned = read.again(Reading::AsPlanned);
        (Drawn::of(&planned), moved(&read, &planned))
    });
    Ok(Shown { drawn, after, columns, today, rehearsal })
}

impl Drawn {
    fn of(read: &Read<'_>) -> Self {
        let statements = draw(read);
        let ties = ties(read, &statements);
        let unmapped = read
            .chart()
            .live()
            .filter(|account| account.kind == Kind::Account && place_of(account).item.is_none());
        let unmapped = unmapped.map(|account| account.code.to_string()).collect();
        Self { reading: read.reading(), statements, ties, unmapped }
    }

    fn output(&self, columns: &[String]) -> output::Drawn {
        let row = |row: &Row| output::Row {
            label: reports::row(&row.name),
            level: row.level,
            kind: row.kind,
            amounts: all_minor(&row.amounts),
            shown_as: row.shown_as,
            accounts: row.accounts.iter().map(|account| account.code.to_string()).collect(),
        };
        let statement = |statement: &Statement| output::Statement {
            name: statement.kind.words(),
            lines: statement.rows.iter().map(row).collect(),
        };
        let tie = |tie: &Tie| output::Tie { name: tied(tie), difference: minor(tie.difference) };
        output::Drawn {
            columns: columns.to_vec(),
            statements: self.statements.iter().map(statement).collect(),
            ties: self.ties.iter().map(tie).collect(),
            coverage: output::Coverage { unmapped: self.unmapped.clone() },
        }
    }
}

fn tied(tie: &Tie) -> String {
    reports::tie(&tie.name, tie.day, STYLE)
}

fn all_minor(amounts: &[i128]) -> Vec<i64> {
    amounts.iter().map(|amount| minor(*amount)).collect()
}

impl Shown {
    fn labels(&self) -> Vec<String> {
        self.columns
            .iter()
            .map(|months| reports::column(months, self.today.calendar, STYLE))
            .collect()
    }

    fn moved(&self, moved: &Moved) -> output::Moved {
        let code = |chart: &Chart, id: AccountId| {
            chart.get(id).map_or_else(String::new, |account| account.code.to_string())
        };
        let (before, after) = (&self.today.chart, &self.rehearsal.after);
        output::Moved {
            account: code(before, moved.from_account),
            into: code(after, moved.to_account),
            from: moved.from.words(before).to_string(),
            to: moved.to.words(after).to_string(),
            amounts: all_minor(&moved.leaves),
            lines: moved.lines,
        }
    }
}

impl Found for Shown {
    fn is_settled(&self) -> bool {
        let after = self.after.iter().flat_map(|(after, _)| &after.ties);
        self.drawn.ties.iter().chain(after).all(|tie| tie.difference == 0)
    }

    type Output = Stated;

    fn output(&self) -> Stated {
        let labels = self.labels();
        let today = self.drawn.output(&labels);
        match &self.after {
            None => Stated::Today(today),
            Some((after, moved)) => Stated::Both {
                today,
                after: after.output(&labels),
                moved: moved.iter().map(|moved| self.moved(moved)).collect(),
            },
        }
    }
}

impl fmt::Display for Shown {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let labels = self.labels();
        let after = self.after.iter().map(|(after, _)| after);
        for drawn in std::iter::once(&self.drawn).chain(after) {
            for statement in &drawn.statements {
                writeln!(f, "{}, {}", statement.kind.words(), drawn.reading.words())?;
                write!(f, "{:46}", "")?;
                labels.iter().try_for_each(|label| write!(f, "{label:>26}"))?;
                writeln!(f)?;
                for row in &statement.rows {
                    let label = format!("{}{}", "  ".repeat(row.level), reports::row(&row.name));
                    write!(f, "{label:46}")?;
                    for amount in &row.amounts {
                        let shown = self.today.currency.format(amount * i128::from(row.shown_as));
                        write!(f, "{shown:>26}")?;
                    }
                    writeln!(f)?;
                }
                writeln!(f)?;
            }
            let out = drawn.ties.iter().filter(|tie| tie.difference != 0);
            writeln!(
                f,
                "{} totals tie to the trial balance",
                drawn.ties.len() - out.clone().count()
            )?;
            for tie in out {
                writeln!(
                    f,
                    "  {} is out by {}",
                    tied(tie),
                    self.today.currency.format(tie.difference)
                )?;
            }
            writeln!(f, "{} accounts stand under no statement item", drawn.unmapped.len())?;
        }
        for moved in self.after.iter().flat_map(|(_, moved)| moved) {
            let from = moved.from.words(&self.today.chart);
            let to = moved.to.words(&self.rehearsal.after);
            let sum = self.today.currency.format(moved.leaves.first().copied().unwrap_or_default());
            writeln!(f, "{} lines move from {from} to {to}: {sum}", STYLE.number(moved.lines))?;
        }
        Ok(())
    }
}
