//! Accounts that are only in the new chart: a row without an old code names them.

use super::books::{CrosswalkContext, code_of};
use super::patterns;
use crate::cause::Cause;
use crate::columns::{Column, reduce};
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use crate::words::{self, is_nothing};
use crate::{RawRow, Rejected, Warning};
use std::collections::{BTreeMap, HashSet};
use zf_core::chart::{Account, Class};
use zf_core::code::CodeKey;
use zf_core::ids::AccountId;
use zf_core::plan::texts;

/// The classes of the books' accounts by their codes today.
type Classes = BTreeMap<CodeKey, Class>;

/// What such rows come to.
#[derive(Default)]
pub(super) struct Added {
    /// The accounts with their rows; identities count up from those of the books.
    pub(super) accounts: Vec<(u32, Account)>,
    pub(super) rejected: Vec<Rejected>,
    pub(super) warnings: Vec<Warning>,
    pub(super) questions: Vec<Question>,
}

/// Whether a row has a new code and no old one.
pub(super) fn is_new(reading: &Reading, row: &RawRow) -> bool {
    let old = [reading.code(row, Column::Code), reading.layout.cell(row, Column::Name)];
    old.iter().all(|text| is_nothing(text)) && !is_nothing(reading.code(row, Column::NewCode))
}

/// Reads such rows; `taken` are the codes that accounts of the books have After.
pub(super) fn read(
    reading: &Reading,
    rows: &[&RawRow],
    books: &CrosswalkContext<'_>,
    taken: &HashSet<CodeKey>,
) -> Added {
    let mut added = Added::default();
    let mut taken = taken.clone();
    let classes: Classes =
        books.chart.live().map(|account| (account.code.key(), account.class)).collect();
    let mut next = books.chart.next_id().0;
    for row in rows {
        match account(reading, row, (books, &classes, &taken), AccountId(next)) {
            Ok((account, from)) => {
                next += 1;
                taken.insert(account.code.key());
                match from {
                    From::File => {}
                    From::Neighbours => added.warnings.push(Warning {
                        row: row.number,
                        cause: Cause::ClassFromNeighbours {
                            account: account.label(),
                            class: account.class,
                        },
                    }),
                    From::Lower => added.questions.push(question(&account)),
                }
                added.accounts.push((row.number, account));
            }
            Err(why) => added.rejected.push(why),
        }
    }
    added
}

/// Where the class of a new account is from.
enum From {
    /// The file, or an answer.
    File,
    /// The codes on both sides of it, which agree.
    Neighbours,
    /// The next lower code, which is not certain.
    Lower,
}

fn account(
    reading: &Reading,
    row: &RawRow,
    (books, classes, taken): (&CrosswalkContext<'_>, &Classes, &HashSet<CodeKey>),
    id: AccountId,
) -> Result<(Account, From), Rejected> {
    reading.layout.check_texts(row)?;
    let reject = |field, cause: Cause| reading.layout.reject(row, field, cause);
    let (text, beside) = patterns::parted(reading.code(row, Column::NewCode));
    let code = code_of(text, books.format).map_err(|why| reject(Column::NewCode, why))?;
    if taken.contains(&code.key()) {
        return Err(reject(Column::NewCode, Cause::OldCodeMissing { code }));
    }
    let name = match reading.layout.cell(row, Column::NewName) {
        "" => beside,
        name => name,
    };
    let name = texts::name(name).map_err(|_| {
        let code = code.clone();
        reject(Column::NewName, Cause::NewWithoutName { code })
    })?;
    let said = reading.layout.cell(row, Column::Class);
    let answered = reading.answers.get(&About::NewClass(code.to_string()));
    let given = answered.and_then(|key| Class::from_key(key));
    let given = given.or_else(|| words::class(&reduce(said)));
    let (class, from) = match (given, neighbours(classes, &code.key())) {
        (Some(class), _) => (class, From::File),
        (None, (Some(below), Some(above))) if below == above => (below, From::Neighbours),
        (None, (below, above)) => (below.or(above).unwrap_or(Class::Expense), From::Lower),
    };
    Ok((Account::new(id, code, name, class), from))
}

/// The classes of the accounts with the next lower and the next higher code.
fn neighbours(classes: &Classes, key: &CodeKey) -> (Option<Class>, Option<Class>) {
    let (below, above) = (classes.range(..key).next_back(), classes.range(key..).next());
    (below.map(|(_, class)| *class), above.map(|(_, class)| *class))
}

fn question(account: &Account) -> Question {
    let readings = Class::ALL.iter().map(|class| {
        let gives = Gives::AddedAs(account.label(), *class);
        Answer::new(class.key(), Means::Class(*class), gives)
    });
    Question {
        about: About::NewClass(account.code.to_string()),
        asks: Asks::NewClass(account.label()),
        readings: readings.collect(),
        default: Some(account.class.key().to_owned()),
    }
}
