//! Proofs as they were archived before the fourth version: in texts, which are read as they are for good.
//!
//! The first version knew neither moved histories, lines of reports nor who overrode a stop; the second kept the
//! ways out of what was found; neither said its version, nor what all accounts add up to.

use serde::Deserialize;
use zf_core::chart::Class;
use zf_core::money::Currency;
use zf_core::rehearsal::report::ChangeKind;
use zf_core::rehearsal::rule::{Rule, Severity};

/// A proof in texts. Amounts have the decimal places of the currency; debits are positive.
#[derive(Clone, Debug, PartialEq, Eq, Deserialize)]
#[expect(missing_docs, reason = "the names of the fields are those of the archive")]
pub struct EarlierProof {
    pub currency: String,
    pub accounts_today: usize,
    pub accounts_after: usize,
    pub lines: u64,
    pub accounted: u64,
    pub debits: String,
    pub credits: String,
    pub digest: String,
    pub periods: usize,
    pub difference: String,
    pub classes: Vec<EarlierClass>,
    #[serde(default)]
    pub(super) all: Option<EarlierTotal>,
    pub crosswalk: Vec<EarlierCrossing>,
    #[serde(default)]
    pub moved: Vec<EarlierMove>,
    #[serde(default)]
    pub report_lines: Vec<EarlierRewriting>,
    pub findings: Vec<EarlierFinding>,
    pub trial_today: Vec<EarlierLine>,
    pub trial_after: Vec<EarlierLine>,
}

/// Declares parts of an earlier proof.
macro_rules! earlier {
    ($($(#[$doc:meta])* $name:ident { $($(#[$attribute:meta])* $field:ident: $type:ty),+ $(,)? })+) => { $(
        $(#[$doc])*
        #[derive(Clone, Debug, PartialEq, Eq, Deserialize)]
        #[expect(missing_docs, reason = "the names of the fields are those of the archive")]
        pub struct $name { $($(#[$attribute])* pub $field: $type),+ }
    )+ };
}

earlier! {
    /// An account that changed.
    EarlierCrossing {
        account: i64,
        changes: Vec<ChangeKind>,
        old_code: Option<String>,
        old_name: Option<String>,
        new_code: Option<String>,
        new_name: Option<String>,
        detail: String,
        lines: u64,
        balance: String,
    }
    /// A part of a history that moved.
    EarlierMove {
        from: i64,
        from_label: String,
        to: i64,
        to_label: String,
        which: String,
        lines: u64,
        net: String,
        years: Vec<EarlierYear>,
    }
    /// The same in one fiscal year.
    EarlierYear { end: String, lines: u64, net: String }
    /// A line of a report that followed.
    EarlierRewriting { label: String, today: String, after: String }
    /// What a class added up to.
    EarlierClass { class: Class, today: String, after: String, difference: String }
    /// What all accounts added up to.
    EarlierTotal { today: String, after: String, difference: String }
    /// A line of a trial balance.
    EarlierLine { class: Class, code: String, name: String, balance: String }
    /// What stood against the plan.
    EarlierFinding {
        key: String,
        rule: Rule,
        severity: Severity,
        accounts: Vec<i64>,
        sentence: String,
        overridden: Option<String>,
        #[serde(default)]
        overridden_by: Option<String>,
    }
}

impl EarlierProof {
    /// What all accounts added up to: as archived, else what the classes come to.
    pub fn all(&self) -> EarlierTotal {
        let minor = |amount: &str| amount.replace('.', "").parse::<i128>().unwrap_or_default();
        let sum = |of: fn(&EarlierClass) -> &str| {
            let sum: i128 = self.classes.iter().map(|class| minor(of(class))).sum();
            let currency = Currency::parse(&self.currency);
            currency.map_or_else(|_| sum.to_string(), |known| known.format(sum))
        };
        self.all.clone().unwrap_or_else(|| EarlierTotal {
            today: sum(|class| &class.today),
            after: sum(|class| &class.after),
            difference: sum(|class| &class.difference),
        })
    }
}
