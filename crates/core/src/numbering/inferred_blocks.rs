//! The blocks that a chart keeps where none are set: codes that begin alike and are nearly all of one class.

use crate::chart::{Account, Chart, Class};
use crate::code::{Code, Interval, usual_width};
use crate::policy::Block;
use std::collections::BTreeMap;

/// How many of ten rows that begin alike are of one class for the chart to keep a block.
const MOST: usize = 9;

/// So few rows that begin alike show no block.
const FEW: usize = 2;

/// By so many characters codes begin alike at most: longer beginnings are those of single headings.
const LONGEST: usize = 2;

/// The blocks by class, in the order of their codes; none when they would leave out more than one row of ten. Codes of
/// another length than most, and codes that were only proposed, are evidence of nothing.
pub fn inferred_blocks(chart: &Chart) -> Vec<Block> {
    let given: Vec<&Account> = chart.live().filter(|row| !row.code_proposed).collect();
    let Some((width, _)) = usual_width(given.iter().map(|row| &row.code)) else {
        return Vec::new();
    };
    let usual = given.iter().filter(|row| row.code.width() == width);
    let mut stretches = Vec::new();
    gather(usual.copied().collect(), 1, &mut stretches);
    stretches.sort_by_key(|(_, codes)| codes.first().key());
    let mut blocks: Vec<Block> = Vec::new();
    for (class, codes) in stretches {
        match blocks.last_mut().filter(|block| block.class == class) {
            // Nothing of another class lies between the two.
            Some(block) => {
                let joined = Interval::new(block.codes.first().clone(), codes.last().clone());
                block.codes = joined.unwrap_or(codes);
            }
            None => blocks.push(Block { class, section: None, codes }),
        }
    }
    let is_kept =
        |row: &&&Account| blocks.iter().any(|block| block.codes.contains(&row.code.key()));
    let inside = given.iter().filter(is_kept).count();
    if inside * 10 < given.len() * MOST { Vec::new() } else { blocks }
}

/// Stretches of rows that begin with the same characters and are nearly all of one class.
fn gather(rows: Vec<&Account>, length: usize, stretches: &mut Vec<(Class, Interval)>) {
    let mut alike: BTreeMap<String, Vec<&Account>> = BTreeMap::new();
    for row in rows {
        let beginning = row.code.as_str().chars().take(length).collect();
        alike.entry(beginning).or_default().push(row);
    }
    for (beginning, rows) in alike {
        let mut classes: BTreeMap<Class, usize> = BTreeMap::new();
        rows.iter().for_each(|row| *classes.entry(row.class).or_default() += 1);
        let Some((class, most)) = classes.into_iter().max_by_key(|(_, count)| *count) else {
            continue;
        };
        let is_block = rows.len() > FEW && most * 10 >= rows.len() * MOST;
        if is_block {
            stretches.extend(stretch(&beginning, &rows).map(|codes| (class, codes)));
        } else if length < LONGEST {
            gather(rows, length + 1, stretches);
        }
    }
}

/// All codes that begin so, written as these are: from zeros to nines behind the beginning; where they have letters
/// there, from the first code to the last.
fn stretch(beginning: &str, rows: &[&Account]) -> Option<Interval> {
    let first = rows.iter().min_by_key(|row| row.code.key())?;
    let last = rows.iter().max_by_key(|row| row.code.key())?;
    let behind = |row: &Account| -> String {
        row.code.as_str().chars().skip(beginning.chars().count()).collect()
    };
    let plain = |c: char| if c.is_ascii_digit() { '0' } else { c };
    let picture: String = behind(first).chars().map(plain).collect();
    let same = |row: &&Account| behind(row).chars().map(plain).eq(picture.chars());
    let ends = if rows.iter().all(same) && !picture.contains(char::is_alphabetic) {
        let filled =
            |digit: &str| Code::parse(&format!("{beginning}{}", picture.replace('0', digit)));
        (filled("0").ok()?, filled("9").ok()?)
    } else {
        (first.code.clone(), last.code.clone())
    };
    Interval::new(ends.0, ends.1).ok()
}
