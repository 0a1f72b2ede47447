//! The books as they stand.

use crate::activity::{Activity, Figures};
use crate::calendar::{FiscalCalendar, Period};
use crate::chart::Chart;
use crate::former::FormerCodes;
use crate::ids::{AccountId, ById};
use crate::money::Currency;
use crate::policy::Policy;
use crate::usage::Usage;

/// The books as they stand: all that a rehearsal looks at.
#[derive(Clone, Debug)]
pub struct Today {
    /// The chart.
    pub chart: Chart,
    /// What was posted.
    pub activity: Activity,
    /// What names the accounts elsewhere.
    pub usage: Usage,
    /// What accounts used to be called.
    pub former: FormerCodes,
    /// What the books lay down for themselves.
    pub policy: Policy,
    /// The base currency.
    pub currency: Currency,
    /// The fiscal calendar.
    pub calendar: FiscalCalendar,
    /// The last locked period; all before it are locked too.
    pub locked: Option<Period>,
}

impl Today {
    /// The books of a chart that nothing was posted to, under the usual policy.
    pub fn unposted(chart: Chart, currency: Currency, calendar: FiscalCalendar) -> Self {
        Self {
            chart,
            activity: Activity::default(),
            usage: Usage::default(),
            former: FormerCodes::default(),
            policy: Policy::default(),
            currency,
            calendar,
            locked: None,
        }
    }

    /// What each account adds up to.
    pub fn figures(&self) -> &ById<Figures> {
        self.activity.figures()
    }

    /// What one account adds up to.
    pub fn figures_of(&self, account: AccountId) -> Figures {
        self.figures().get(&account).copied().unwrap_or_default()
    }
}
