//! Names that are written otherwise than the rest.

use super::{Books, Proposed, Remark, RemarkKind};
use crate::chart::Account;
use crate::review::wording::{Word, Wording, is_slip};
use std::collections::HashMap;
use strsim::osa_distance as edits;

/// In how many names each word stands, as it is written, and whether anybody knows it.
pub(super) struct Names(HashMap<String, (usize, bool)>);

impl Names {
    pub(super) fn of(rows: &[&Account]) -> Self {
        let mut names: HashMap<String, (usize, bool)> = HashMap::new();
        for row in rows {
            let words: HashMap<String, bool> = Wording::of(&row.name)
                .words
                .into_iter()
                .map(|word| (word.written.clone(), word.is_known()))
                .collect();
            for (word, is_known) in words {
                let entry = names.entry(word).or_default();
                *entry = (entry.0 + 1, is_known);
            }
        }
        Self(names)
    }

    /// A word that stands nowhere else, a letter off one that several names have.
    fn slip(&self, name: &str) -> Option<(String, String)> {
        let wording = Wording::of(name);
        let names = |word: &str| self.0.get(word).map_or(0, |(names, _)| *names);
        wording.words.iter().find_map(|word| {
            if names(&word.written) > 1 || word.has_digit() || word.is_known() {
                return None;
            }
            let mut right: Vec<&String> = self
                .0
                .iter()
                .filter(|(_, (names, is_known))| *names > 1 || *is_known)
                .filter(|(other, _)| is_a_letter_off(word, other))
                .map(|(other, _)| other)
                .collect();
            right.sort();
            right.first().map(|right| (word.written.clone(), (*right).clone()))
        })
    }
}

/// A name in capitals, in small letters, with stray signs, or with a slip.
pub(super) fn written_otherwise(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let name = &account.name;
    let letters = || name.chars().filter(|c| c.is_alphabetic());
    let long = letters().count() > 3;
    let mut proposed = None;
    let how = if name.trim() != name || name.contains("  ") || name.contains(" ,") {
        "has stray spaces".to_owned()
    } else if long && letters().all(char::is_uppercase) && !is_usual(books, char::is_uppercase) {
        "is written in capitals".to_owned()
    } else if long
        && letters().next().is_some_and(char::is_lowercase)
        && !is_usual(books, char::is_lowercase)
    {
        "begins with a small letter".to_owned()
    } else if let Some(kept) = without_stray_signs(name) {
        proposed = Some(Proposed::Name(kept));
        "has stray signs".to_owned()
    } else if let Some((wrong, right)) = books.names.slip(name) {
        proposed = written_right(name, &wrong, &right).map(Proposed::Name);
        format!("has “{wrong}” where others have “{right}”")
    } else {
        return None;
    };
    let message = format!("The name of {} {how}.", account.label());
    Some(Remark { proposed, ..Remark::of(RemarkKind::NameForm, account, message) })
}

/// Whether most names are of such letters as a whole, or begin with one.
fn is_usual(books: &Books<'_>, of: fn(char) -> bool) -> bool {
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

/// Whether a word is another but for one letter, and not the same with another ending.
fn is_a_letter_off(word: &Word, other: &str) -> bool {
    let starts = other.starts_with(&word.stem) || word.written.starts_with(other);
    !starts && edits(&word.written, other) == 1 && is_slip(&word.written, other)
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
