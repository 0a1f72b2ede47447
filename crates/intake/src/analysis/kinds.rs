//! What the rows of a sheet come to, one method for each kind of file.

use super::choices::{Choices, NotKnown};
use super::content::{
    Against, Analysis, BalanceComparison, Content, ReadBalances, ReadChart, ReadCrosswalk,
};
use super::journal::{Codes, JournalSummary, ReadJournal};
use crate::compare::compare;
use crate::reading::Reading;
use crate::reason::Reason;
use crate::row_kind::RowKind;
use crate::rows::Rows;
use crate::{balances, chart, crosswalk, journal, periods, usage};
use zf_core::calendar::Period;
use zf_core::chart::Account;
use zf_core::ids::AccountId;
use zf_core::today::Today;
use zf_core::trial_balance::{reported, trial_balance};

/// A sheet with what it is read against.
pub(super) struct Sheet<'a> {
    pub(super) reading: &'a Reading,
    pub(super) rows: &'a dyn Rows,
    pub(super) choices: &'a Choices,
    pub(super) against: Against<'a>,
}

impl Sheet<'_> {
    /// Beside a chart that is there already it is a comparison.
    pub(super) fn chart(self) -> Analysis {
        let today = self.against.today;
        let chart = &today.chart;
        let policy = &today.policy;
        let books = chart::ChartContext { chart, format: policy.format, blocks: &policy.blocks };
        let rows = self.rows.all();
        let mut read = chart::read(self.reading, &rows, &books, chart.next_id());
        let outline = Some(read.outline);
        let questions = std::mem::take(&mut read.questions);
        let row_kinds = std::mem::take(&mut read.kinds);
        let analysis = if chart.live().next().is_some() {
            let compared = compare(&read, self.reading, &rows, chart);
            Analysis::of_intake(read.intake, |_| Content::Comparison(compared))
        } else {
            let (structure, origins, roles) = (read.structure, read.origins, read.roles);
            let content =
                |accounts| Content::Chart(ReadChart { accounts, structure, origins, roles });
            Analysis::of_intake(read.intake, content)
        };
        Analysis { outline, questions, row_kinds, ..analysis }
    }

    pub(super) fn crosswalk(self) -> Analysis {
        let Today { chart, former, policy, .. } = self.against.today;
        let books = crosswalk::CrosswalkContext { chart, former, format: policy.format };
        let read = crosswalk::read(self.reading, &self.rows.all(), &books);
        let row_kinds = read.idle.iter().map(|row| (*row, RowKind::Idle)).collect();
        let questions = read.questions;
        let added = read.added;
        let content = |crossings| Content::Crosswalk(ReadCrosswalk { crossings, added });
        Analysis { questions, row_kinds, ..Analysis::of_intake(read.intake, content) }
    }

    pub(super) fn usage(self) -> Analysis {
        let Today { chart, former, currency, .. } = self.against.today;
        let read = usage::read(self.reading, &self.rows.all(), chart, former, *currency);
        Analysis::of_intake(read, Content::Usage)
    }

    pub(super) fn balances(self) -> Analysis {
        let Today { chart, former, currency, activity, .. } = self.against.today;
        let rows = self.rows.all();
        let mut intake = balances::read(self.reading, &rows, chart, former, *currency);
        let signs = balances::sided::settle(self.reading, &mut intake.ready, chart, *currency);
        let gap = balances::gap::question(self.reading, &intake.ready, chart, *currency);
        let totals =
            intake.warnings.iter().filter(|warning| warning.cause.reason() == Reason::TotalRow);
        let totals = totals.map(|warning| (warning.row, RowKind::Total));
        let body = self.reading.layout.body(&rows, &mut Vec::new()).into_iter();
        let captions = body.filter(|row| balances::is_caption(self.reading, row));
        let row_kinds = totals.chain(captions.map(|row| (row.number, RowKind::Caption))).collect();
        let side = |sign: i128| -> i128 {
            let amounts = intake.ready.iter().map(|b| i128::from(b.amount) * sign);
            amounts.filter(|amount| *amount > 0).sum()
        };
        let as_of = self.choices.as_of.map(Period).or(activity.last()).unwrap_or(Period(0));
        let trial = trial_balance(chart, &activity.figures_to(as_of));
        let (differences, agree) =
            balances::compare(&intake.ready, &reported(&trial, chart), chart);
        let taker = balances::difference_account(chart).map(|account| account.id);
        let (debits, credits) = (side(1), side(-1));
        let beside = BalanceComparison { debits, credits, as_of, differences, agree, taker };
        let content = |balances| Content::Balances(ReadBalances { balances, beside });
        let questions = signs.into_iter().chain(gap).collect();
        Analysis { questions, row_kinds, ..Analysis::of_intake(intake, content) }
    }

    pub(super) fn journal(self) -> Result<Analysis, NotKnown> {
        let Against { today, overlap, then } = self.against;
        let mut chart = today.chart.clone();
        let said = self.choices.said(&mut chart)?;
        let codes = Codes { chart, said, late: self.choices.said_of_late(), then, overlap };
        let mut read = journal::read(self.reading, self.rows, &codes.books(today));
        let chart = &codes.chart;
        let added = chart
            .iter()
            .filter(|a| today.chart.get(a.id).is_none() && read.by_account.contains_key(&a.id));
        let added: Vec<Account> = added.cloned().collect();
        let label = |id: &AccountId| chart.get(*id).map_or_else(String::new, Account::label);
        let summary = JournalSummary {
            entries: read.entries,
            debits: read.debits,
            days: read.days,
            unbalanced: std::mem::take(&mut read.unbalanced),
            mapped: read.mapped.iter().map(|(code, id)| (code.clone(), label(id))).collect(),
            unknown: std::mem::take(&mut read.unknown),
            late: std::mem::take(&mut read.late),
            known: read.known.len(),
            changed: std::mem::take(&mut read.changed),
            changed_count: codes.overlap.changed.len(),
            vanished: codes.overlap.vanished.clone(),
            vanished_count: codes.overlap.vanished_count,
            digest: read.digest,
        };
        let row_kinds =
            std::mem::take(&mut read.known).into_iter().map(|row| (row, RowKind::Known)).collect();
        let rejected = std::mem::take(&mut read.rejected);
        let warnings = std::mem::take(&mut read.warnings);
        let ready_rows = read.ready_rows;
        let questions = journal::huge::question(
            self.reading,
            summary.entries + summary.unbalanced.len(),
            ready_rows,
        );
        let signs = read.question(self.reading);
        let periods = periods::question(self.reading, self.rows, today.calendar);
        let journal = ReadJournal { read, summary, added, codes };
        let content = Content::Journal(Box::new(journal));
        let questions = periods.into_iter().chain(signs).chain(questions).collect();
        Ok(Analysis {
            rejected,
            warnings,
            questions,
            row_kinds,
            ..Analysis::ready(ready_rows, content)
        })
    }
}
