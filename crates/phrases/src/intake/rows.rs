//! What became of the rows of a file, and what those of a crosswalk or of a list of items say.

use super::title;
use zf_core::chart::{Account, Chart};
use zf_core::ids::AccountId;
use zf_core::plan::Fate;
use zf_intake::crosswalk::Crossing;
use zf_intake::items::NotListed;
use zf_intake::row_kind::RowKind;
use zf_intake::zero::LeftOut;

/// What rows of a kind are called, and what one of them is, side by side.
macro_rules! kinds {
    ($($kind:ident $rows:literal $one:literal;)+) => {
        /// What rows of a kind are called.
        pub const fn kind(kind: RowKind) -> &'static str {
            match kind { $(RowKind::$kind => $rows,)+ }
        }

        /// What one row is read as.
        pub const fn read_as(kind: RowKind) -> &'static str {
            match kind { $(RowKind::$kind => $one,)+ }
        }
    };
}

kinds! {
    Title "titles of the page" "title";
    Heads "headings of the columns" "headings again";
    Repeated "headings once more" "headings again";
    Blank "blank rows" "blank";
    Caption "captions" "caption";
    Total "totals" "total";
    Opening "opening balances" "opening balance";
    Known "lines that the journal has already" "known";
    Idle "rows that ask for nothing" "nothing";
    Account "accounts" "account";
    Heading "headings" "heading";
    Sum "sum lines" "sum line";
    Line "lines" "line";
    Balance "balances" "balance";
    Pair "pairs" "pair";
    Use "uses" "use";
    NotRead "rows of sheets that are not read" "not read";
}

/// Why an amount is left out, in a few words.
pub const fn left_out(why: LeftOut) -> &'static str {
    match why {
        LeftOut::NoAmount => "no amount",
        LeftOut::Unused => "column is not used",
        LeftOut::Rate => "rates are no amounts",
        LeftOut::Balance => "a chart takes no balances",
        LeftOut::Row(of) => kind(of),
        LeftOut::Rejected(reason) => title(reason),
    }
}

/// What a row of a crosswalk does to its account.
pub fn crossing(crossing: &Crossing, chart: &Chart) -> String {
    let label = |id: AccountId| chart.get(id).map_or_else(String::new, Account::label);
    let named = crossing.new_name.as_ref().map(|name| format!(", called {name}"));
    match (crossing.fate, crossing.into) {
        (Some(Fate::Delete), _) => "deleted".to_owned(),
        (Some(Fate::Archive { .. }), _) => "archived".to_owned(),
        (Some(Fate::Deactivate { .. }), _) => "deactivated".to_owned(),
        (Some(_), _) => "active again".to_owned(),
        (None, Some(into)) => format!("merged into {}", label(into)),
        (None, None) if crossing.code.key() != crossing.new_code.key() => {
            format!("becomes {}{}", crossing.new_code, named.unwrap_or_default())
        }
        (None, None) => match &crossing.new_name {
            Some(name) => format!("renamed {name}"),
            None => "stays as it is".to_owned(),
        },
    }
}

/// Why a row of a list of statement items cannot be read.
pub fn not_listed(why: &NotListed) -> String {
    match why {
        NotListed::ClassMissing => "the class is missing".to_owned(),
        NotListed::ClassUnknown(wording) => format!("“{wording}” is no class"),
        NotListed::Name(error) => error.to_string(),
        NotListed::NeitherYesNorNo(word) => format!("“{word}” is neither yes nor no"),
    }
}
