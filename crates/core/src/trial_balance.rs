//! The trial balance: what every account stands at, by class, and what it all adds up to.

use crate::activity::{Figures, Net};
use crate::chart::{Account, Chart, Class, ControlRole};
use crate::code::Code;
use crate::ids::{AccountId, ById};

/// One account of a trial balance.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct TrialRow {
    /// The account.
    pub account: AccountId,
    /// Its code.
    pub code: Code,
    /// Its class.
    pub class: Class,
    /// Minor units of the base currency; a debit balance is positive.
    pub balance: i128,
}

/// A trial balance at the as-of date of the books.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct TrialBalance {
    /// Accounts with a balance, by class and code.
    pub rows: Vec<TrialRow>,
    /// The results of earlier years, which stand in retained earnings until closing entries put
    /// them there; a profit is negative.
    pub earlier_results: i128,
    /// What each class adds up to; equity includes the earlier results.
    pub classes: Vec<(Class, i128)>,
}

impl TrialBalance {
    /// What all accounts add up to: zero in books whose entries balance.
    pub fn total(&self) -> i128 {
        self.classes.iter().map(|(_, sum)| sum).sum()
    }

    /// What one class adds up to.
    pub fn class(&self, class: Class) -> i128 {
        self.classes.iter().find(|(c, _)| *c == class).map_or(0, |(_, sum)| *sum)
    }
}

/// The balance of an account at the as-of date of the books: to date on the balance sheet, of its
/// fiscal year on the income statement.
pub fn balance(account: &Account, figures: &Figures) -> i128 {
    balance_of(account, figures.net())
}

/// The same at the end of any period.
pub(crate) fn balance_of(account: &Account, net: Net) -> i128 {
    if account.class.on_balance_sheet() { net.to_date } else { net.this_year }
}

/// A trial balance as it is handed over: by account, with the results of earlier years where they
/// stand, in the retained earnings account if there is one.
pub fn reported<'a>(trial: &TrialBalance, chart: &'a Chart) -> Vec<(Option<&'a Account>, i128)> {
    let retained = chart.live().find(|a| a.role == Some(ControlRole::RetainedEarnings));
    let mut earlier = trial.earlier_results;
    let mut rows: Vec<(Option<&Account>, i128)> = trial
        .rows
        .iter()
        .map(|row| {
            let own = retained.is_some_and(|retained| retained.id == row.account);
            let added = if own { std::mem::take(&mut earlier) } else { 0 };
            (chart.get(row.account), row.balance + added)
        })
        .collect();
    if earlier != 0 {
        rows.push((retained, earlier));
    }
    rows.retain(|(_, balance)| *balance != 0);
    rows
}

/// Draws up the trial balance of a chart, given what each account's history adds up to.
pub fn trial_balance(chart: &Chart, figures: &ById<Figures>) -> TrialBalance {
    let mut trial = TrialBalance {
        classes: Class::ALL.iter().map(|class| (*class, 0)).collect(),
        ..TrialBalance::default()
    };
    // In the order of the chart, which is nearly that of the codes: so sorting costs little.
    for account in chart.live() {
        let Some(activity) = figures.get(&account.id) else {
            continue;
        };
        let balance = balance(account, activity);
        trial.earlier_results += activity.to_date.net() - balance;
        trial.classes[account.class as usize].1 += balance;
        if balance != 0 {
            trial.rows.push(TrialRow {
                account: account.id,
                code: account.code.clone(),
                class: account.class,
                balance,
            });
        }
    }
    trial.classes[Class::Equity as usize].1 += trial.earlier_results;
    trial.rows.sort_by(|a, b| a.class.cmp(&b.class).then_with(|| a.code.chart_order(&b.code)));
    trial
}
