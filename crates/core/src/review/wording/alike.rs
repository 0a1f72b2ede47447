//! How two words can be the same one.

use super::word::Word;

/// How two words are alike, the surest first.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Alike {
    /// The same but for endings of number and case.
    Same,
    /// An action and its name.
    Inflected,
    /// A slip of the pen apart.
    Slip,
    /// One is the other cut short, or without its vowels.
    Shortened,
    /// They mean the same in the trade.
    Meaning,
    /// They can mean the same.
    Related,
}

impl Alike {
    /// How much of a word is found again in the other, of 1.
    pub fn worth(self) -> f64 {
        match self {
            Self::Same => 1.0,
            Self::Inflected => 0.95,
            Self::Slip | Self::Meaning => 0.9,
            Self::Shortened => 0.85,
            Self::Related => 0.8,
        }
    }
}

impl Word {
    /// How a word is alike another.
    pub fn alike(&self, other: &Self) -> Option<Alike> {
        if self.stem == other.stem || self.written == other.written {
            return Some(Alike::Same);
        }
        if self.root() == other.root() {
            return Some(Alike::Inflected);
        }
        if self.has_digit() || other.has_digit() {
            return None;
        }
        if self.meaning.is_some() && self.meaning == other.meaning {
            return Some(Alike::Meaning);
        }
        if is_slip(&self.written, &other.written)
            || is_slip(&self.stem, &other.stem)
            || self.is_short_slip(other)
        {
            return Some(Alike::Slip);
        }
        if shortens(self, other) || shortens(other, self) {
            return Some(Alike::Shortened);
        }
        self.senses.iter().any(|sense| other.senses.contains(sense)).then_some(Alike::Related)
    }
}

impl Word {
    /// Whether one of two short words is the other with a letter more in the midst of it, and not both are known words.
    /// Another letter in its place makes another word: boat and boot.
    fn is_short_slip(&self, other: &Self) -> bool {
        let ends = |word: &str| (word.chars().next(), word.chars().next_back());
        let (a, b) = (&self.written, &other.written);
        let [of_a, of_b] = [a, b].map(|word| word.chars().count());
        let long = of_a.max(of_b);
        let both_known = self.is_known() && other.is_known();
        let whole = !self.cut && !other.cut;
        (4..=5).contains(&long)
            && of_a != of_b
            && whole
            && !both_known
            && ends(a) == ends(b)
            && strsim::osa_distance(a, b) == 1
    }
}

/// Whether two words are one but for a letter, or in long words two, too many, too few, or changed with its
/// neighbour.
pub fn is_slip(a: &str, b: &str) -> bool {
    let (of_a, of_b) = (a.chars().count(), b.chars().count());
    let longest = of_a.max(of_b);
    if longest < 4 || of_a.abs_diff(of_b) > 2 {
        return false;
    }
    let same_start = a.chars().next() == b.chars().next();
    match (longest, strsim::osa_distance(a, b)) {
        // A letter that should be doubled, or not.
        (_, 1) if undoubled(a) == undoubled(b) => true,
        // Two letters changed with each other.
        (5, 1) => sorted(a) == sorted(b),
        (6.., 1) => true,
        (8.., 2) => same_start,
        _ => false,
    }
}

fn sorted(word: &str) -> Vec<char> {
    let mut letters: Vec<char> = word.chars().collect();
    letters.sort_unstable();
    letters
}

/// A word in which no letter follows itself.
fn undoubled(word: &str) -> String {
    let mut plain = String::with_capacity(word.len());
    for c in word.chars().filter(|c| !c.is_whitespace()) {
        if !plain.ends_with(c) {
            plain.push(c);
        }
    }
    plain
}

/// Whether a word is another cut short: its beginning, as `subscr` of `subscription`; its consonants, as `mgmt` of
/// `management`; or, where a mark says so, a beginning and an end, as `rec'd` of `received`.
fn shortens(short: &Word, long: &Word) -> bool {
    let (least, gap) = if short.cut { (2, 1) } else { (3, 3) };
    [&short.written, &short.stem].into_iter().any(|text| {
        let (own, all) = (text.chars().count(), long.written.chars().count());
        if all < own + 1 || text.chars().next() != long.written.chars().next() {
            return false;
        }
        // Three letters begin many words.
        let gap = if own == 3 && !short.cut { 5 } else { gap };
        let is_beginning =
            long.written.starts_with(text.as_str()) && own >= least && all >= own + gap;
        let bare = own >= 2 && all >= own + 2 && !text.chars().skip(1).any(is_vowel);
        let begins_so = own >= 6 && common_start(text, &long.written) >= 4 && all >= own + 2;
        is_beginning
            || (bare || short.cut || begins_so) && own >= 2 && is_within(text, &long.written)
    })
}

fn is_vowel(c: char) -> bool {
    matches!(c, 'a' | 'e' | 'i' | 'o' | 'u')
}

fn common_start(a: &str, b: &str) -> usize {
    a.chars().zip(b.chars()).take_while(|(a, b)| a == b).count()
}

/// Whether the letters of a text stand in another in the same order.
fn is_within(text: &str, other: &str) -> bool {
    let mut left = other.chars();
    text.chars().all(|c| left.any(|of_other| of_other == c))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn alike(a: &str, b: &str) -> Option<Alike> {
        let word = |text: &str| {
            let plain = text.replace(['.', '\''], "");
            Word::of(&plain, plain != text)
        };
        word(a).alike(&word(b))
    }

    #[test]
    fn words_are_cut_short_in_many_ways() {
        for (short, long) in [
            ("subscr", "subscription"),
            ("improvmts", "improvements"),
            ("trng", "training"),
            ("rm", "room"),
            ("fin.", "finance"),
            ("rec'd", "received"),
            ("accomm", "accommodation"),
        ] {
            assert_eq!(alike(short, long), Some(Alike::Shortened), "{short} {long}");
        }
        for (a, b) in [("set", "seat"), ("car", "cargo"), ("gas", "glass"), ("plan", "plant")] {
            assert_eq!(alike(a, b), None, "{a} {b}");
        }
    }
}
