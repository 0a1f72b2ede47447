//! What the sign of an amount in one column says: a debit or a credit, or, as programs for owners print it,
//! that it stands on the usual side of its account.

use crate::columns::Column;
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use zf_core::chart::Account;
use zf_core::keyed;

keyed! {
    /// What a sign says.
    Signs {
        /// What is positive is a debit.
        Sides = "sides";
        /// What is positive stands on the usual side of its account.
        Usual = "usual";
    }
}

impl Signs {
    /// What somebody said of a file.
    pub(crate) fn said(reading: &Reading) -> Option<Self> {
        reading.answers.get(&About::Signs).and_then(|key| Self::from_key(key))
    }

    /// Whether a file could mean either: nothing else in it tells debits from credits.
    pub(crate) fn may_be_either(reading: &Reading) -> bool {
        let has = |column| reading.layout.place(column).is_some();
        let sided = [Column::Side, Column::Debit, Column::Credit].into_iter().any(has);
        !sided && reading.layout.figures().is_none_or(|figures| !figures.is_sided())
    }

    /// An amount as the books have it, debits positive.
    pub(crate) fn turn(self, amount: i64, account: &Account) -> i64 {
        match self {
            Self::Usual if !account.class.is_usually_debit() => -amount,
            _ => amount,
        }
    }
}

/// Asks what the signs say; `gives` is what each comes to.
pub(crate) fn question(gives: impl Fn(Signs) -> Gives) -> Question {
    let means = |signs: Signs| match signs {
        Signs::Sides => Means::PositiveIsDebit,
        Signs::Usual => Means::PositiveIsUsual,
    };
    let readings =
        Signs::ALL.iter().map(|signs| Answer::new(signs.key(), means(*signs), gives(*signs)));
    Question {
        about: About::Signs,
        asks: Asks::Signs,
        readings: readings.collect(),
        default: Some(Signs::Usual.key().to_owned()),
    }
}
