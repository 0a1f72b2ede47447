//! Names that are written otherwise than the rest.

use super::books::RemarkContext;
use super::remark::{NameForm, Proposed, Remark, Seen};
use crate::chart::Account;

/// A name in capitals, in small letters, with stray signs, or with a slip.
pub(super) fn written_otherwise(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let name = &account.name;
    let letters = || name.chars().filter(|c| c.is_alphabetic());
    let long = letters().count() > 3;
    let mut proposed = None;
    let form = if name.trim() != name || name.contains("  ") || name.contains(" ,") {
        NameForm::StraySpaces
    } else if long && letters().all(char::is_uppercase) && !is_usual(books, char::is_uppercase) {
        NameForm::Capitals
    } else if long
        && letters().next().is_some_and(char::is_lowercase)
        && !is_usual(books, char::is_lowercase)
    {
        NameForm::SmallLetter
    } else if let Some(kept) = without_stray_signs(name) {
        proposed = Some(Proposed::Name(kept));
        NameForm::StraySigns
    } else if let Some((wrong, right)) = books.names.slip(name) {
        proposed = written_right(name, &wrong, &right).map(Proposed::Name);
        NameForm::Slip(wrong, right)
    } else {
        return None;
    };
    Some(Remark { proposed, ..Remark::of(account, Seen::NameForm(form)) })
}

/// Whether most names are of such letters as a whole, or begin with one.
fn is_usual(books: &RemarkContext<'_>, of: fn(char) -> bool) -> bool {
    let first = |row: &&&Account| row.name.chars().find(|c| c.is_alphabetic()).is_some_and(of);
    let whole = |row: &&Account| row.name.chars().filter(|c| c.is_alphabetic()).all(of);
    let count = books.rows.iter().filter(first).filter(|row| of('a') || whole(row)).count();
    count * 2 > books.rows.len()
}

/// A name without signs at its ends, and doubled ones, that say nothing.
fn without_stray_signs(name: &str) -> Option<String> {
    let kept = name.trim_end_matches(['.', ',', ';', ':', '-', '_', '*', '/', ' ']);
    let kept = kept.trim_start_matches(['.', ',', ';', ':', '-', '_', '*', '/', ' ']);
    let kept = kept.replace(",,", ",").replace("..", ".");
    // “Repairs etc.” and “Fuel reclaim.” end in a sign that says something.
    let is_cut = name.ends_with('.') && kept.len() + 1 == name.len();
    (kept != name && !is_cut && !kept.is_empty()).then_some(kept)
}

/// A name with one of its words written right.
fn written_right(name: &str, wrong: &str, right: &str) -> Option<String> {
    let at = name.to_lowercase().find(wrong)?;
    let written = name.get(at..at + wrong.len())?;
    let large = written.starts_with(char::is_uppercase);
    let mut letters = right.chars();
    let first = letters.next()?;
    let first = if large { first.to_uppercase().to_string() } else { first.to_string() };
    Some(format!("{}{first}{}{}", &name[..at], letters.as_str(), &name[at + wrong.len()..]))
}
