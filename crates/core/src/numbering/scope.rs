//! Which accounts a rule is for.

use crate::chart::{Account, Chart, Class, Kind};
use crate::code::Interval;
use crate::ids::AccountId;
use std::collections::{BTreeSet, HashMap};

/// Which accounts a rule is for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Scope {
    /// All rows of the chart.
    All,
    /// These.
    Accounts(BTreeSet<AccountId>),
    /// A heading and all under it.
    Under(AccountId),
    /// All of a class.
    Class(Class),
    /// Those whose codes lie in a stretch.
    Codes(Vec<Interval>),
    /// Those whose code begins with each word, or whose name has it.
    Words(String),
}

/// In which order rows of one heading get their codes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Order {
    /// As their codes stand.
    Code,
    /// By name.
    Name,
    /// The largest balance first, whichever side it is on.
    Balance,
}

impl Scope {
    /// The live rows of a chart that are meant, in the order of its outline, headings first and sum
    /// lines last; `size` is how large an account's balance is.
    pub fn rows<'a>(
        &self,
        chart: &'a Chart,
        order: Order,
        size: impl Fn(AccountId) -> u128,
    ) -> Vec<&'a Account> {
        let mut rows: Vec<&Account> = match order {
            Order::Code => chart.outline().into_iter().map(|(row, _)| row).collect(),
            Order::Name | Order::Balance => reordered(chart, order, &size),
        };
        rows.retain(|row| self.holds(row, chart));
        rows
    }

    fn holds(&self, row: &Account, chart: &Chart) -> bool {
        match self {
            Self::All => true,
            Self::Accounts(ids) => ids.contains(&row.id),
            Self::Under(heading) => {
                row.id == *heading || chart.above(row).any(|above| above.id == *heading)
            }
            Self::Class(class) => row.class == *class,
            Self::Codes(codes) => codes.iter().any(|interval| interval.contains(&row.code.key())),
            Self::Words(words) => {
                let (code, name) = (row.code.as_str().to_lowercase(), row.name.to_lowercase());
                words
                    .to_lowercase()
                    .split_whitespace()
                    .all(|word| code.starts_with(word) || name.contains(word))
            }
        }
    }
}

/// The outline with the accounts of each heading in another order. Headings keep theirs and follow
/// the accounts beside them; a sum line comes after what it adds up.
fn reordered<'a>(
    chart: &'a Chart,
    order: Order,
    size: &impl Fn(AccountId) -> u128,
) -> Vec<&'a Account> {
    let mut under: HashMap<Option<AccountId>, Vec<&Account>> = HashMap::new();
    let outline = chart.outline();
    for (row, depth) in &outline {
        under.entry(row.parent.filter(|_| *depth > 0)).or_default().push(row);
    }
    let rank = |row: &Account| match row.kind {
        Kind::Account => 0,
        Kind::Heading => 1,
        Kind::Sum => 2,
    };
    for rows in under.values_mut() {
        // Stable, so that all else stays in the order of codes.
        rows.sort_by(|a, b| {
            let own = match order {
                _ if a.kind != Kind::Account || b.kind != Kind::Account => {
                    std::cmp::Ordering::Equal
                }
                Order::Name => a.name.to_lowercase().cmp(&b.name.to_lowercase()),
                Order::Balance => size(b.id).cmp(&size(a.id)),
                Order::Code => std::cmp::Ordering::Equal,
            };
            rank(a).cmp(&rank(b)).then(own)
        });
    }
    let mut rows = Vec::with_capacity(outline.len());
    let mut open: Vec<&Account> = under.remove(&None).unwrap_or_default();
    open.reverse();
    while let Some(row) = open.pop() {
        rows.push(row);
        open.extend(under.remove(&Some(row.id)).unwrap_or_default().into_iter().rev());
    }
    rows
}
