//! Which encoding the bytes of a text are in, told by their marks, their pattern, and what the text
//! would be.

use super::opened::CannotRead;
use encoding_rs::{Encoding, ISO_8859_15, MACINTOSH, UTF_8, UTF_16BE, UTF_16LE, WINDOWS_1252};
use zf_intake::question::{About, Answer, Asks, Gives, Means, Question};

/// Encodings of one byte a letter, the most usual first: of equals it counts.
const SINGLE: [&Encoding; 3] = [WINDOWS_1252, ISO_8859_15, MACINTOSH];

/// How many bytes beyond ASCII tell.
const LOOKED_AT: usize = 20_000;

/// By how many in a hundred less likely another encoding may be for the first not to be certain.
const CLOSE: i64 = 15;

/// How many cells or so are shown of what a text would be.
const EXAMPLE: usize = 40;

/// The encoding of a text, and others in which it would be nearly as likely, each with an example.
pub(super) struct Detected {
    pub(super) encoding: &'static Encoding,
    /// With the most likely one first; empty where that is certain.
    pub(super) doubtful: Vec<(&'static Encoding, String)>,
}

impl Detected {
    fn certain(encoding: &'static Encoding) -> Self {
        Self { encoding, doubtful: Vec::new() }
    }

    /// Asks which encoding it is, where that is not certain.
    pub(super) fn question(&self) -> Option<Question> {
        if self.doubtful.is_empty() {
            return None;
        }
        let reading = |(encoding, example): &(&'static Encoding, String)| {
            let means = Means::Encoding(encoding.name());
            Answer::new(encoding.name(), means, Gives::Text(example.clone()))
        };
        Some(Question {
            about: About::Encoding,
            asks: Asks::Encoding,
            readings: self.doubtful.iter().map(reading).collect(),
            default: Some(self.encoding.name().to_owned()),
        })
    }
}

/// The encoding that a person names.
pub(super) fn called(name: &str) -> Result<Detected, CannotRead> {
    let encoding = Encoding::for_label(name.as_bytes());
    encoding.map(Detected::certain).ok_or_else(|| CannotRead::UnknownEncoding(name.to_owned()))
}

/// UTF-8 and UTF-16 by their marks or their pattern, UTF-8 when it is sound, else the encoding in which
/// the text looks most like one.
pub(super) fn detect(content: &[u8]) -> Detected {
    let marked = Encoding::for_bom(content).map(|(encoding, _)| encoding);
    let sound = || std::str::from_utf8(content).is_ok().then_some(UTF_8);
    match marked.or_else(|| wide(content)).or_else(sound) {
        Some(encoding) => Detected::certain(encoding),
        None => single(content),
    }
}

/// UTF-16 without a mark, told by where the zero bytes of its ASCII letters stand.
pub(super) fn wide(content: &[u8]) -> Option<&'static Encoding> {
    let start = &content[..content.len().min(4_096)];
    let zeros = |odd: usize| start.iter().skip(odd).step_by(2).filter(|b| **b == 0).count();
    let (even, odd) = (zeros(0), zeros(1));
    let most = start.len() / 2 * 7 / 10;
    match (even, odd) {
        _ if start.len() < 4 => None,
        (0, odd) if odd > most => Some(UTF_16LE),
        (even, 0) if even > most => Some(UTF_16BE),
        _ => None,
    }
}

fn single(content: &[u8]) -> Detected {
    let places: Vec<usize> = content
        .iter()
        .enumerate()
        .filter(|(_, byte)| !byte.is_ascii())
        .map(|(at, _)| at)
        .take(LOOKED_AT)
        .collect();
    let read = |encoding: &'static Encoding, byte: u8| {
        encoding.decode_without_bom_handling(&[byte]).0.chars().next().unwrap_or('\u{fffd}')
    };
    let score = |encoding: &'static Encoding| -> i64 {
        let near =
            |at: Option<usize>| at.and_then(|at| content.get(at)).map(|byte| read(encoding, *byte));
        let likely = |at: &usize| {
            let c = read(encoding, content[*at]);
            let beside = [near(at.checked_sub(1)), near(at.checked_add(1))];
            likely(c, beside.iter().flatten().any(|near| near.is_alphabetic()), beside)
        };
        places.iter().map(likely).sum()
    };
    let scores: Vec<i64> = SINGLE.iter().map(|encoding| score(encoding)).collect();
    let most = scores.iter().copied().max().unwrap_or(0);
    let Some(first) = scores.iter().position(|score| *score == most) else {
        return Detected::certain(WINDOWS_1252);
    };
    // The most that can be scored is three for each.
    let close = 3 * CLOSE * i64::try_from(places.len()).unwrap_or(i64::MAX / 300) / 100;
    let differs = |a: &'static Encoding, b: &'static Encoding| {
        places.iter().copied().find(|at| read(a, content[*at]) != read(b, content[*at]))
    };
    let rivals = (0..SINGLE.len()).filter(|at| *at != first && most - scores[*at] <= close);
    let rivals: Vec<_> =
        rivals.filter_map(|at| Some((SINGLE[at], differs(SINGLE[first], SINGLE[at])?))).collect();
    let doubtful = match rivals.first() {
        None => Vec::new(),
        Some((_, place)) => std::iter::once((SINGLE[first], *place))
            .chain(rivals.iter().copied())
            .map(|(encoding, place)| (encoding, example(content, place, encoding)))
            .collect(),
    };
    Detected { encoding: SINGLE[first], doubtful }
}

/// The words around a place, as an encoding reads them.
fn example(content: &[u8], place: usize, encoding: &'static Encoding) -> String {
    let ends = |byte: &u8| b"\r\n,;\t|".contains(byte);
    let before = content[..place].iter().rev().take(EXAMPLE).take_while(|b| !ends(b)).count();
    let after = content[place..].iter().take(EXAMPLE).take_while(|b| !ends(b)).count();
    let (text, _) = encoding.decode_without_bom_handling(&content[place - before..place + after]);
    zf_core::text::shown(text.trim().trim_matches('"'))
}

/// How likely a character stands where it does in the words of an account: letters within words, signs
/// beside them, and hardly ever what no keyboard has.
fn likely(c: char, in_word: bool, beside: [Option<char>; 2]) -> i64 {
    const LETTERS: &str = "àâäáãåçéèêëíìîïñóòôöõøúùûüßæœÀÂÄÁÃÅÇÉÈÊËÍÎÏÑÓÔÖÕØÚÛÜÆŒ";
    const SIGNS: &str = "€£§°–—‘’“”«»…·\u{a0}";
    let small_before = beside[0].is_some_and(char::is_lowercase);
    let large_after = beside[1].is_some_and(char::is_uppercase);
    match c {
        _ if LETTERS.contains(c) && c.is_uppercase() && small_before => -2,
        _ if LETTERS.contains(c) && c.is_lowercase() && large_after => -2,
        _ if LETTERS.contains(c) && in_word => 3,
        '’' | '‘' | '\u{a0}' => 2,
        _ if SIGNS.contains(c)
            && !(beside[0].is_some_and(char::is_alphabetic)
                && beside[1].is_some_and(char::is_alphabetic)) =>
        {
            2
        }
        _ if c.is_alphabetic() => 0,
        _ => -2,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_the_text_would_be_tells_the_encoding() {
        let text = "Konto;Bezeichnung\n1200;Bürobedarf\n1300;Löhne und Gehälter\n1400;Größe\n";
        let french = "Compte;Intitulé\n411;Créances clients\n512;Banque française, à vue\n";
        for text in [text, french] {
            let mac: Vec<u8> = encoded(text, MACINTOSH);
            assert_eq!(detect(&mac).encoding, MACINTOSH);
            assert_eq!(detect(&encoded(text, WINDOWS_1252)).encoding, WINDOWS_1252);
            assert!(detect(&encoded(text, WINDOWS_1252)).doubtful.is_empty());
            assert_eq!(detect(text.as_bytes()).encoding, UTF_8);
        }
        let euro = "Code;Name\n1;Caisse en €\n2;Réserve légale\n";
        assert_eq!(detect(&encoded(euro, ISO_8859_15)).encoding, ISO_8859_15);
        assert_eq!(detect(&encoded(euro, WINDOWS_1252)).encoding, WINDOWS_1252);
        assert_eq!(detect(&encoded("Bank – current, £ “A”", WINDOWS_1252)).encoding, WINDOWS_1252);
        // A lone sign that is a letter in one and a mark in the other.
        let doubtful = detect(b"Code;Name\n1;Rent \xa4 5\n2;Fees\n").doubtful;
        assert!(doubtful.len() > 1, "{doubtful:?}");
    }

    /// The bytes of a text in an encoding of one byte a letter.
    fn encoded(text: &str, encoding: &'static Encoding) -> Vec<u8> {
        let byte = |c: char| {
            (0..=255_u8).find(|byte| {
                let read = encoding.decode_without_bom_handling(std::slice::from_ref(byte)).0;
                read.chars().eq([c])
            })
        };
        text.chars().map(|c| byte(c).expect("a letter of the encoding")).collect()
    }
}
