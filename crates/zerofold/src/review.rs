//! `zerofold review`: what the review finds in the books that a chart and a journal make, without a
//! database.

use crate::files::{BooksFiles, Days, calendar, read_books};
use crate::output::{Found, say};
use clap::Args;
use std::fmt;
use std::path::PathBuf;
use std::process::ExitCode;
use time::Date;
use zf_core::chart::Chart;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::names::Charts;
use zf_core::plan::{Change, Fate};
use zf_core::policy::Policy;
use zf_core::review::NotDuplicates;
use zf_core::review::fixes::{Fix, ways};
use zf_core::review::look_alikes::{self, Found as Groups, LookAlike, Observation};
use zf_core::review::remarks::{self, Proposed, Remark};
use zf_core::review::unused::{self, Unused};
use zf_core::today::Today;
use zf_phrases::Say;
use zf_wire::output::minor;
use zf_wire::output::review::{self as output, Reviewed};

/// The files of the books.
#[derive(Args)]
pub(crate) struct Review {
    /// The chart of accounts.
    #[arg(long)]
    chart: PathBuf,
    /// The journal, complete from the accounts' beginning.
    #[arg(long)]
    journal: PathBuf,
    /// What names the accounts elsewhere.
    #[arg(long, value_name = "FILE")]
    where_used: Option<PathBuf>,
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

struct Findings {
    today: Today,
    look_alikes: Groups,
    unused: Vec<Unused>,
    others: Vec<Remark>,
}

pub(crate) fn run(asked: &Review) -> ExitCode {
    say(look(asked), asked.json)
}

fn look(asked: &Review) -> anyhow::Result<Findings> {
    let currency = Currency::parse(&asked.currency)?;
    let files = BooksFiles {
        chart: &asked.chart,
        journal: &asked.journal,
        where_used: asked.where_used.as_deref(),
        currency,
        format: Policy::default().format,
        calendar: calendar(&asked.fiscal_year_start)?,
        days: &asked.days,
    };
    let (today, sketches) = read_books(&files)?;
    Ok(Findings {
        look_alikes: look_alikes::find(&today, &sketches, &NotDuplicates::default()),
        unused: unused::find(&today, unused::usual_since(&today, asked.days.today())),
        others: remarks::find(&today),
        today,
    })
}

fn code(chart: &Chart, id: AccountId) -> String {
    chart.get(id).map_or_else(String::new, |account| account.code.to_string())
}

fn fate(fate: Option<Fate>) -> &'static str {
    match fate {
        Some(Fate::Delete) => "delete",
        Some(Fate::Archive { .. }) => "archive",
        Some(Fate::Deactivate { .. }) => "deactivate",
        _ => "none",
    }
}

/// What would be right of what a remark is about, where that is known: a class, a role, a name or a code.
fn proposed(today: &Today, remark: &Remark) -> Option<String> {
    match &remark.proposed {
        Some(Proposed::Class(class)) => return Some(class.key().to_owned()),
        Some(Proposed::Role(role)) => return Some(role.key().to_owned()),
        Some(Proposed::Name(name)) => return Some(name.clone()),
        Some(Proposed::Merged(into)) => return Some(code(&today.chart, *into)),
        None => {}
    }
    let first = ways(today, remark).into_iter().next()?;
    let Fix::Changes(changes) = first else { return None };
    changes.into_iter().find_map(|(_, change)| match change {
        Change::Code(code) => Some(code.to_string()),
        Change::Name(name) => Some(name),
        _ => None,
    })
}

impl Findings {
    fn names(&self) -> Charts<'_> {
        Charts { today: &self.today.chart, after: &self.today.chart }
    }

    fn codes(&self, accounts: &[AccountId]) -> Vec<String> {
        accounts.iter().map(|id| code(&self.today.chart, *id)).collect()
    }
}

impl Found for Findings {
    /// Nothing of it has to be done.
    fn is_settled(&self) -> bool {
        true
    }

    type Output = Reviewed;

    fn output(&self) -> Reviewed {
        let names = self.names();
        let say = Say::plain(&names, self.today.currency);
        let seen = |seen: &[Observation]| -> Vec<String> {
            seen.iter().map(|one| say.observation(one)).collect()
        };
        let group = |group: &LookAlike| output::Group {
            codes: self.codes(&group.accounts),
            survivor: code(&self.today.chart, group.survivor),
            score: (group.score * 1000.0).round() / 1000.0,
            evidence: seen(&group.evidence),
            against: seen(&group.against),
        };
        let tier = |groups: &[LookAlike]| groups.iter().map(group).collect();
        let unused = self.unused.iter().map(|unused| {
            let reasons = unused.reasons.iter().map(|why| say.unused(why, unused.account));
            output::Unused {
                code: code(&self.today.chart, unused.account),
                last_posted: unused.last.map(|date: Date| date.to_string()),
                balance: minor(unused.balance),
                fate: fate(unused.fate),
                reasons: reasons.collect(),
            }
        });
        let others = self.others.iter().map(|remark| output::Remark {
            rule: remark.kind.key(),
            codes: self.codes(&remark.accounts),
            message: say.remark(remark),
            proposed: proposed(&self.today, remark),
        });
        Reviewed {
            look_alikes: tier(&self.look_alikes.sure),
            worth_a_look: tier(&self.look_alikes.worth_a_look),
            unused: unused.collect(),
            others: others.collect(),
        }
    }
}

impl fmt::Display for Findings {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let names = self.names();
        let say = Say::plain(&names, self.today.currency);
        let label = |id: AccountId| {
            self.today.chart.get(id).map_or_else(String::new, |account| account.label())
        };
        let Groups { sure, worth_a_look } = &self.look_alikes;
        let tiers = [(sure, "groups of look-alikes"), (worth_a_look, "groups worth a look")];
        for (groups, what) in tiers {
            writeln!(f, "{} {what}", groups.len())?;
            for group in groups {
                let accounts = group.accounts.iter().map(|id| label(*id)).collect::<Vec<_>>();
                writeln!(f, "  {:.0}%  {}", group.score * 100.0, accounts.join(", "))?;
                writeln!(f, "        keep {}", label(group.survivor))?;
                for seen in &group.evidence {
                    writeln!(f, "        {}", say.observation(seen))?;
                }
                for seen in &group.against {
                    writeln!(f, "        but: {}", say.observation(seen))?;
                }
            }
        }
        writeln!(f, "{} accounts that are not used", self.unused.len())?;
        for unused in &self.unused {
            writeln!(f, "  {}: {}", label(unused.account), fate(unused.fate))?;
            for why in &unused.reasons {
                writeln!(f, "        {}", say.unused(why, unused.account))?;
            }
        }
        writeln!(f, "{} other remarks", self.others.len())?;
        for remark in &self.others {
            writeln!(f, "  {} ({})", say.remark(remark), remark.kind.key())?;
        }
        Ok(())
    }
}
