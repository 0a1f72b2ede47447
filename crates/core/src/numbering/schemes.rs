//! Numbering schemes that a set of books can start from. Both follow the order of the statements,
//! assets first, as is usual; IAS 1 lays down captions and no codes.

use crate::chart::{Chart, Class, Section};
use crate::code::{Code, Interval};
use crate::numbering::inferred_blocks::inferred_blocks;
use crate::policy::{Block, CodeFormat};

/// Which numbering schemes there are to begin with.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum SchemeKind {
    /// The blocks in which nearly all codes lie already.
    AsKept,
    /// Four digits, of which the first says the class.
    FourDigits,
    /// Six digits, with a block for each section.
    SixDigits,
}

/// A numbering scheme: the form of codes and the blocks they belong to.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Scheme {
    /// Which it is.
    pub kind: SchemeKind,
    /// The form of codes.
    pub format: CodeFormat,
    /// The blocks.
    pub blocks: Vec<Block>,
}

/// The sections with the first hundred of four digits that each has, and the last.
const SECTIONS: [(Class, Section, u32, u32); 23] = {
    use Class::{Asset, Equity, Expense, Income, Liability};
    use Section as S;
    [
        (Asset, S::Cash, 10, 11),
        (Asset, S::Receivables, 12, 13),
        (Asset, S::Inventories, 14, 14),
        (Asset, S::Prepayments, 15, 15),
        (Asset, S::Taxes, 16, 16),
        (Asset, S::Property, 17, 18),
        (Asset, S::Intangibles, 19, 19),
        (Liability, S::Payables, 20, 21),
        (Liability, S::Taxes, 22, 23),
        (Liability, S::DeferredIncome, 24, 24),
        (Liability, S::Borrowings, 25, 27),
        (Liability, S::Provisions, 28, 29),
        (Equity, S::Capital, 30, 35),
        (Equity, S::RetainedEarnings, 36, 39),
        (Income, S::Revenue, 40, 47),
        (Income, S::OtherIncome, 48, 49),
        (Expense, S::CostOfSales, 50, 59),
        (Expense, S::Staff, 60, 65),
        (Expense, S::Administration, 66, 79),
        (Expense, S::Depreciation, 80, 82),
        (Expense, S::OtherExpense, 83, 86),
        (Expense, S::FinanceCosts, 87, 88),
        (Expense, S::IncomeTax, 89, 89),
    ]
};

/// The classes with their first and last thousand of four digits.
const CLASSES: [(Class, u32, u32); 5] = [
    (Class::Asset, 1, 1),
    (Class::Liability, 2, 2),
    (Class::Equity, 3, 3),
    (Class::Income, 4, 4),
    (Class::Expense, 5, 8),
];

/// Two blocks that claim the same codes for different classes, or for different sections. The
/// blocks of sections may lie within those of their class.
pub fn overlapping(blocks: &[Block]) -> Option<(&Block, &Block)> {
    let pairs = blocks.iter().enumerate().flat_map(|(at, a)| {
        blocks[at + 1..].iter().map(move |b| (a, b)).filter(|(a, b)| a.codes.overlaps(&b.codes))
    });
    let mut clashing = pairs.filter(|(a, b)| {
        let sections_differ = a.section.is_some() && b.section.is_some() && a.section != b.section;
        a.class != b.class || sections_differ
    });
    clashing.next()
}

/// The blocks inferred from the codes of a chart, as a scheme with this form of codes.
pub fn inferred(chart: &Chart, format: CodeFormat) -> Option<Scheme> {
    let blocks = inferred_blocks(chart);
    (!blocks.is_empty()).then_some(Scheme { kind: SchemeKind::AsKept, format, blocks })
}

/// The schemes that ship with the application.
pub fn starting() -> Vec<Scheme> {
    let of_classes = CLASSES.iter().filter_map(|&(class, first, last)| {
        let codes = stretch(first * 1_000, last * 1_000 + 999)?;
        Some(Block { class, section: None, codes })
    });
    let of_sections = SECTIONS.iter().filter_map(|&(class, section, first, last)| {
        let codes = stretch(first * 10_000, last * 10_000 + 9_999)?;
        Some(Block { class, section: Some(section), codes })
    });
    vec![
        Scheme {
            kind: SchemeKind::FourDigits,
            format: CodeFormat::digits(4, 4),
            blocks: of_classes.collect(),
        },
        Scheme {
            kind: SchemeKind::SixDigits,
            format: CodeFormat::digits(6, 6),
            blocks: of_sections.collect(),
        },
    ]
}

fn stretch(first: u32, last: u32) -> Option<Interval> {
    let code = |number: u32| Code::parse(&number.to_string()).ok();
    Interval::new(code(first)?, code(last)?).ok()
}
