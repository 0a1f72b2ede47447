//! Intake of balances: what accounts stand at on a day. They are compared with the journal account by
//! account, or open the books.

mod balance;
pub(crate) mod gap;
pub(crate) mod sided;
mod subtotals;

pub use balance::NewBalance;

use super::cause::Cause;
use super::columns::Column;
use super::layout::Figures;
use super::numbers::{DecimalMark, Rate, is_dash};
use super::reading::Reading;
use super::reason::Reason;
use super::usage::account;
use super::{Intake, RawRow, Rejected, Warning};
use std::collections::{BTreeMap, HashMap};
use time::Date;
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Account, Chart, ControlRole, Kind, Status};
use zf_core::entry::{EntryKind, NewEntry, NewLine};
use zf_core::former::{Finder, FormerCodes};
use zf_core::ids::AccountId;
use zf_core::money::Currency;

/// Reads the balances of a file. An account that stands in two rows is refused in the second: which
/// of them counts, or whether they add up, only a person knows.
pub fn read(
    reading: &Reading,
    rows: &[RawRow],
    chart: &Chart,
    former: &FormerCodes,
    currency: Currency,
) -> Intake<NewBalance> {
    let finder = Finder::of(chart, former);
    let (mut ready, mut rejected, mut warnings) = (Vec::new(), Vec::new(), Vec::new());
    let mut seen: HashMap<AccountId, u32> = HashMap::new();
    let mut body = reading.layout.body(rows, &mut warnings);
    body.retain(|row| !is_caption(reading, row));
    for row in &body {
        let sound = reading.layout.check_texts(row);
        let read = sound.and_then(|()| account(reading, row, &finder)).and_then(|account| {
            let (amount, foreign) = amounts(reading, row, currency)?;
            match seen.insert(account.id, row.number) {
                None => Ok(NewBalance { row: row.number, account: account.id, amount, foreign }),
                Some(first) => {
                    let (account, first) = (account.label(), reading.place(first));
                    let cause = Cause::AccountTwice { account, first };
                    Err(reading.layout.reject(row, Column::Code, cause))
                }
            }
        });
        match read {
            Ok(balance) => ready.push(balance),
            Err(why) => rejected.push(why),
        }
    }
    let subtotals = subtotals::of(reading, &body, &ready, chart);
    warnings.extend(subtotals.iter().map(|row| Warning { row: *row, cause: Cause::Subtotal }));
    ready.retain(|balance| !subtotals.contains(&balance.row));
    let rows = ready.len();
    Intake::of(ready, rows, rejected, warnings)
}

/// Whether a row is a caption over others: words without a code and without any figure. An account that stands
/// at nothing loses nothing by it.
pub(crate) fn is_caption(reading: &Reading, row: &RawRow) -> bool {
    let layout = &reading.layout;
    let amounts = [Column::Debit, Column::Credit, Column::Amount, Column::Foreign];
    let figures = layout.figures().into_iter().flat_map(|figures| &figures.columns);
    let figures =
        figures.filter_map(|(at, _)| row.cells.get(*at)).all(|cell| cell.text.trim().is_empty());
    let code = reading.code(row, Column::Code);
    let bare = amounts.iter().all(|field| layout.cell(row, *field).is_empty()) && figures;
    bare && !code.contains(|c: char| c.is_ascii_digit())
}

type Foreign = Option<(i64, Currency)>;

/// The balance in base currency, given or by a rate, and the one in another currency.
fn amounts(reading: &Reading, row: &RawRow, base: Currency) -> Result<(i64, Foreign), Rejected> {
    let layout = &reading.layout;
    let reject = |field, cause: Cause| layout.reject(row, field, cause);
    let currency = match layout.cell(row, Column::Currency) {
        "" => base,
        text => Currency::parse(text).map_err(|why| reject(Column::Currency, why.into()))?,
    };
    let foreign = match reading.amount(row, Column::Foreign, currency)? {
        Some(amount) if currency != base => Some((amount, currency)),
        _ => None,
    };
    if let Some(figures) = layout.figures() {
        let amount = figures_of(reading, row, figures)?;
        return Ok((amount, foreign));
    }
    let given = match reading.signed(row, base) {
        // A trial balance leaves the amount of an account at zero blank.
        Err(why) if why.cause.reason() == Reason::AmountMissing => None,
        amount => Some(amount?),
    };
    let amount = match (given, foreign) {
        (Some(amount), _) => amount,
        (None, None) => 0,
        (None, Some((amount, currency))) => {
            let mark = reading.decimal.unwrap_or(DecimalMark::Point);
            let rate = Rate::read(mark, layout.cell(row, Column::Rate))
                .map_err(|why| reject(Column::Rate, why.into()))?;
            rate.convert(amount, currency, base)
                .ok_or_else(|| reject(Column::Rate, Cause::SumTooLarge))?
        }
    };
    Ok((amount, foreign))
}

/// What a row has of the figures that a trial balance is read from: debits beside credits, or several
/// columns added up.
fn figures_of(reading: &Reading, row: &RawRow, figures: &Figures) -> Result<i64, Rejected> {
    let layout = &reading.layout;
    let is_filled = |at: usize| {
        let text = row.cells.get(at).map_or("", |cell| cell.text.trim());
        !text.is_empty() && !is_dash(text)
    };
    let unread = figures.columns.iter().map(|(at, _)| *at);
    let unread = unread.filter(|at| is_filled(*at) && reading.figure(row, *at).is_none()).min();
    if let Some(at) = unread {
        let field = layout.columns.iter().find(|column| column.at == at);
        let field = field.and_then(|column| column.field).unwrap_or(Column::Amount);
        let text = row.cells[at].text.trim().to_owned();
        return Err(layout.reject(row, field, Cause::AmountUnreadable { text }));
    }
    let amount = figures.amount(row, |at| reading.figure(row, at)).unwrap_or(0);
    i64::try_from(amount).map_err(|_| layout.reject(row, Column::Amount, Cause::SumTooLarge))
}

/// An account that the file has otherwise than the books.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Difference {
    /// The account; `None` for results of earlier years that no account takes.
    pub account: Option<AccountId>,
    /// What the file says, in minor units; 0 when it does not have the account.
    pub file: i128,
    /// What the books say.
    pub books: i128,
}

/// Compares balances with those of the books: the accounts that differ, in the order of the books,
/// and how many agree.
pub fn compare(
    read: &[NewBalance],
    books: &[(Option<&Account>, i128)],
    chart: &Chart,
) -> (Vec<Difference>, usize) {
    let mut file: BTreeMap<AccountId, i128> =
        read.iter().map(|balance| (balance.account, balance.amount.into())).collect();
    let mut agree = 0;
    let mut differences = Vec::new();
    for (account, balance) in books {
        let account = account.map(|account| account.id);
        let said = account.and_then(|id| file.remove(&id)).unwrap_or(0);
        if said == *balance {
            agree += 1;
        } else {
            differences.push(Difference { account, file: said, books: *balance });
        }
    }
    // What is left stands at nothing in the books.
    let (zero, mut left): (Vec<_>, Vec<_>) = file.into_iter().partition(|(_, said)| *said == 0);
    let code = |id: &AccountId| chart.get(*id).map(|account| account.code.key());
    left.sort_by_key(|(id, _)| code(id));
    let left = left.into_iter();
    differences.extend(left.map(|(id, file)| Difference { account: Some(id), file, books: 0 }));
    (differences, agree + zero.len())
}

/// Why balances cannot open the books.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum CannotOpen {
    /// Debits and credits differ, and nobody said that an account takes it: by how much, in minor units.
    Gap(i128),
    /// No account of the books has the role.
    NoDifferenceAccount,
    /// The day lies in a locked period.
    Locked,
    /// The books were opened on that day before.
    Opened(Date),
    /// A sum line has a balance of its own.
    NotPosting(String),
    /// All balances are zero.
    Nothing,
    /// The gap does not fit 64 bits of minor units.
    TooLarge,
}

/// What an opening is checked against.
pub struct Opening<'a> {
    /// The chart.
    pub chart: &'a Chart,
    /// The base currency.
    pub currency: Currency,
    /// The fiscal calendar.
    pub calendar: FiscalCalendar,
    /// The last locked period.
    pub locked: Option<Period>,
    /// Whether the journal has an entry of its [number](opening_number).
    pub opened: bool,
    /// The day the balances are of.
    pub date: Date,
    /// Whether a person said that the opening difference account takes the gap.
    pub take_gap: bool,
}

/// The number of the entry that opens the books on a day.
pub fn opening_number(date: Date) -> String {
    format!("Opening {date}")
}

/// The entry that opens the books with balances. What debits and credits differ by goes to the
/// opening difference account when a person says so, and never by itself.
///
/// # Errors
/// [`CannotOpen`].
pub fn opening(read: &[NewBalance], of: &Opening<'_>) -> Result<NewEntry, CannotOpen> {
    if of.locked.is_some_and(|locked| of.calendar.period_of(of.date) <= locked) {
        return Err(CannotOpen::Locked);
    }
    let number = opening_number(of.date);
    if of.opened {
        return Err(CannotOpen::Opened(of.date));
    }
    let mut lines = Vec::new();
    for balance in read.iter().filter(|b| b.amount != 0 || b.foreign.is_some()) {
        let account = of.chart.get(balance.account);
        if let Some(account) = account.filter(|a| a.kind == Kind::Sum) {
            return Err(CannotOpen::NotPosting(account.label()));
        }
        lines.push(line(balance.account, balance.amount, balance.foreign));
    }
    if lines.is_empty() {
        return Err(CannotOpen::Nothing);
    }
    let gap: i128 = read.iter().map(|balance| i128::from(balance.amount)).sum();
    if gap != 0 {
        if !of.take_gap {
            return Err(CannotOpen::Gap(gap.abs()));
        }
        let account = difference_account(of.chart).ok_or(CannotOpen::NoDifferenceAccount)?;
        let amount = i64::try_from(-gap).map_err(|_| CannotOpen::TooLarge)?;
        lines.push(line(account.id, amount, None));
    }
    Ok(NewEntry { number, date: of.date, kind: EntryKind::Opening, lines })
}

/// The account that takes what opening balances do not explain.
pub fn difference_account(chart: &Chart) -> Option<&Account> {
    let takes =
        |a: &&Account| a.role == Some(ControlRole::OpeningDifference) && a.status == Status::Active;
    chart.live().filter(takes).min_by_key(|account| account.id)
}

fn line(account: AccountId, amount: i64, foreign: Foreign) -> NewLine {
    NewLine {
        account,
        amount,
        foreign,
        payee: String::new(),
        memo: "Opening balance".to_owned(),
        reference: String::new(),
        dimensions: String::new(),
        cleared: false,
    }
}
