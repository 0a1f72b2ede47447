//! Two names, word by word: which words of one are found again in the other, and what each says besides.

use super::subject::{LITTLE, Subject};
use crate::review::wording::{Alike, Word};

/// What two names have in common, what is told of least first.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum Common {
    /// No word.
    Nothing,
    /// Little, and each says something else besides.
    LittleOfEach,
    /// Most, and each says something else besides.
    MostOfEach,
    /// Little, and one of them says more.
    LittleOfOne,
    /// Most, and one of them says more.
    MostOfOne,
    /// All but what may be left out as it happens.
    AllButLittle,
    /// All, some of it in words that can mean the same.
    Related,
    /// All, some of it in other words.
    InOtherWords,
    /// All, some of it cut short.
    Shortened,
    /// All, some of it written or put together otherwise.
    WrittenOtherwise,
    /// All.
    All,
}

/// How many times more names have to write a word otherwise, for what several write to be a slip.
const FAR_MORE: usize = 10;

/// Two names beside each other.
pub(super) struct Names {
    pub(super) common: Common,
    /// The words that only one of them has, by what they mean.
    pub(super) own: [Vec<String>; 2],
    /// The same as they are written.
    pub(super) own_written: [String; 2],
    /// How much each says that the other does not.
    pub(super) left: [f64; 2],
    /// Words that were read as others.
    pub(super) read_as: Vec<(String, String)>,
}

/// The words of a name with how much they tell.
struct Side<'a> {
    words: Vec<(&'a Word, f64)>,
    free: Vec<bool>,
}

impl<'a> Side<'a> {
    fn of(subject: &'a Subject<'_>) -> Self {
        let words = subject.wording.words.iter().zip(subject.weights.iter().copied());
        let words: Vec<_> = words.collect();
        Self { free: vec![true; words.len()], words }
    }

    fn left(&self) -> f64 {
        self.words.iter().zip(&self.free).filter(|(_, free)| **free).map(|((_, w), _)| w).sum()
    }

    fn own(&self) -> impl Iterator<Item = &Word> {
        let free = self.words.iter().zip(&self.free).filter(|(_, free)| **free);
        free.map(|((word, _), _)| *word)
    }
}

/// In how many names a word stands as it is written.
pub(super) type Counted<'a> = &'a dyn Fn(&Word) -> usize;

/// Sets two names beside each other. Each word is found again once, the surest first.
pub(super) fn compare(a: &Subject<'_>, b: &Subject<'_>, counted: Counted<'_>) -> Names {
    let (mut left, mut right) = (Side::of(a), Side::of(b));
    let mut matched = 0.0;
    let mut worst = Alike::Same;
    let mut otherwise = false;
    let mut read_as = Vec::new();
    let parted = |side: &Side<'_>| -> Vec<String> {
        side.words.iter().map(|(word, _)| word.written.clone()).collect()
    };
    if squashed_alike(a, b) && parted(&left) != parted(&right) {
        matched = f64::midpoint(left.left(), right.left());
        left.free.fill(false);
        right.free.fill(false);
        otherwise = true;
    }
    let mut alike = Vec::new();
    for (at, (word, _)) in left.words.iter().enumerate() {
        for (to, (other, _)) in right.words.iter().enumerate() {
            let how = word.alike(other);
            // What several names write so is no slip, unless far more write it otherwise; and no word cut short by
            // the way.
            let how = how.filter(|how| match how {
                Alike::Slip => {
                    let [few, many] = [counted(word), counted(other)];
                    let (few, many) = (few.min(many), few.max(many));
                    few <= 1 || few * FAR_MORE <= many
                }
                Alike::Shortened => {
                    let short = if word.written.len() < other.written.len() { word } else { other };
                    short.cut || short.written.len() > 3 || counted(short) <= 1
                }
                _ => true,
            });
            alike.extend(how.map(|how| (how, at.abs_diff(to), at, to)));
        }
    }
    alike.sort_unstable();
    for (how, _, at, to) in alike {
        if left.free[at] && right.free[to] {
            (left.free[at], right.free[to]) = (false, false);
            let ((word, own), (other, others)) = (left.words[at], right.words[to]);
            matched += how.worth() * f64::midpoint(own, others);
            worst = worst.max(how);
            if how != Alike::Same {
                read_as.push((word.written.clone(), other.written.clone()));
            }
        }
    }
    for turned in [false, true] {
        let (one, here, there) =
            if turned { (b, &mut right, &mut left) } else { (a, &mut left, &mut right) };
        for (places, at, said) in joined(one, here, there) {
            if !there.free[at] || places.iter().any(|place| !here.free[*place]) {
                continue;
            }
            let weight: f64 = places.iter().map(|place| here.words[*place].1).sum();
            matched += f64::midpoint(weight, there.words[at].1);
            places.iter().for_each(|place| here.free[*place] = false);
            there.free[at] = false;
            otherwise = true;
            read_as.push(said);
        }
    }
    let lefts = [left.left(), right.left()];
    let share = matched / (matched + lefts[0] + lefts[1]).max(f64::MIN_POSITIVE);
    let more = lefts.map(|left| left > LITTLE);
    // A chart that was taken over may have said in short what the other says at length.
    let in_short = a.taken_over != b.taken_over
        && lefts[usize::from(b.taken_over)] == 0.0
        && worst <= Alike::Slip;
    let common = match more {
        _ if matched == 0.0 => Common::Nothing,
        [true, true] if share < 0.5 => Common::LittleOfEach,
        [true, true] => Common::MostOfEach,
        _ if in_short => Common::AllButLittle,
        [false, false] if lefts != [0.0, 0.0] => Common::AllButLittle,
        [false, false] => match worst {
            Alike::Related => Common::Related,
            Alike::Meaning => Common::InOtherWords,
            Alike::Shortened => Common::Shortened,
            Alike::Slip | Alike::Inflected => Common::WrittenOtherwise,
            Alike::Same if otherwise => Common::WrittenOtherwise,
            Alike::Same => Common::All,
        },
        _ if share < 0.5 => Common::LittleOfOne,
        _ => Common::MostOfOne,
    };
    let sides = [&left, &right];
    let own = sides.map(|side| side.own().map(|word| word.key().to_owned()).collect());
    let own_written = sides
        .map(|side| side.own().map(|word| word.written.as_str()).collect::<Vec<_>>().join(" "));
    Names { common, own, own_written, left: lefts, read_as }
}

/// Neighbouring words of one name that another writes as one word, and initials for which it has the words: their
/// places here, that of the word there, and how it is said.
fn joined(
    one: &Subject<'_>,
    here: &Side<'_>,
    there: &Side<'_>,
) -> Vec<(Vec<usize>, usize, (String, String))> {
    let mut found = Vec::new();
    for (at, (word, _)) in there.words.iter().enumerate().filter(|(at, _)| there.free[*at]) {
        let two = (1..here.words.len()).map(|second| [second - 1, second]);
        let both = two.into_iter().filter(|two| two.iter().all(|at| here.free[*at])).find(|two| {
            let [first, second] = two.map(|at| here.words[at].0);
            let together = |a: &str, b: &str| format!("{a}{b}");
            let ways = [
                together(&first.written, &second.written),
                together(&second.written, &first.written),
                together(&first.stem, &second.stem),
                together(&second.stem, &first.stem),
            ];
            ways.iter().any(|way| *way == word.written || *way == word.stem)
        });
        if let Some(two) = both {
            let [first, second] = two.map(|at| &here.words[at].0.written);
            let said = (format!("{first} {second}"), word.written.clone());
            found.push((two.to_vec(), at, said));
        } else if let Some((places, said)) = initials(&word.written, one, here) {
            found.push((places, at, said));
        }
    }
    found
}

/// The words of a name that a short word is made of the initials of.
fn initials(
    short: &str,
    one: &Subject<'_>,
    here: &Side<'_>,
) -> Option<(Vec<usize>, (String, String))> {
    let count = short.chars().count();
    if !(2..=5).contains(&count) {
        return None;
    }
    let written = &one.wording.written;
    let window = written.windows(count).find(|window| {
        window.iter().zip(short.chars()).all(|(word, c)| word.starts_with(c) && word.len() > 1)
    })?;
    let places: Vec<usize> = (0..here.words.len())
        .filter(|at| here.free[*at] && window.contains(&here.words[*at].0.written))
        .collect();
    (places.len() >= 2).then(|| (places, (window.join(" "), short.to_owned())))
}

/// Whether two names are one without what parts their words. A joint may be the first half of a word: “on line”.
fn squashed_alike(a: &Subject<'_>, b: &Subject<'_>) -> bool {
    let telling = |subject: &Subject<'_>| -> String {
        subject.wording.words.iter().map(|word| word.written.as_str()).collect()
    };
    let whole = |subject: &Subject<'_>| subject.wording.written.concat();
    telling(a) == telling(b) || whole(a) == whole(b)
}
