//! Amounts in one column that are signed by the usual side of their accounts.

use crate::books::{gbp, railway};
use proptest::prelude::*;
use zf_core::file_kind::FileKind;
use zf_core::overlap::Overlap;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::question::About;
use zf_intake::table::Table;
use zf_intake::{Cell, RawRow, Sheet};

/// What a file comes to, by account in minor units, and what is asked of it.
fn read(kind: FileKind, text: &str, answer: Option<&str>) -> (Vec<(i64, i128)>, Vec<String>) {
    let cells = |line: &str| line.split('|').map(Cell::text).collect();
    let rows = (1..).zip(text.lines()).map(|(number, line)| RawRow { number, cells: cells(line) });
    let mut sheets = [Sheet::new("", Box::new(rows.collect::<Vec<_>>()))];
    let mut choices = Choices::default();
    if let Some(reading) = answer {
        choices.answer(About::Signs, reading).unwrap();
    }
    let chosen = choices.chosen().unwrap();
    let table = Table::find(kind, &mut sheets, gbp(), &chosen).unwrap();
    let today = railway();
    let against = Against { today: &today, overlap: Overlap::default(), then: None };
    let read = Analysis::of(kind, &table.reading, &*table.rows, &choices, against).unwrap();
    let sums = match read.content {
        Content::Journal(journal) => {
            journal.read.by_account.iter().map(|(id, (_, sum))| (id.0, *sum)).collect()
        }
        Content::Balances(read) => {
            let mut sums: Vec<_> =
                read.balances.iter().map(|b| (b.account.0, i128::from(b.amount))).collect();
            sums.sort_unstable();
            sums
        }
        _ => Vec::new(),
    };
    (sums, read.questions.into_iter().map(|question| question.about.to_string()).collect())
}

/// Accounts with whether they usually stand in credit: bank, coal, creditors, telephone.
const ACCOUNTS: [(&str, bool); 4] =
    [("1010", false), ("5010", false), ("2010", true), ("6010", false)];

fn amount(minor: i64) -> String {
    format!("{}{}.{:02}", if minor < 0 { "-" } else { "" }, minor.abs() / 100, minor.abs() % 100)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn a_journal_signed_by_usual_sides_is_read_like_one_of_debits_and_credits(
        entries in prop::collection::vec((1..1_000_000_i64, 0..4_usize, 1..4_usize), 1..12),
    ) {
        let (mut plain, mut signed) = (String::new(), String::new());
        let mut lines = |n: usize, account: usize, minor: i64| {
            let (code, credit) = ACCOUNTS[account];
            plain += &format!("\nE{n}|2026-03-01|{code}|{}", amount(minor));
            signed += &format!("\nE{n}|2026-03-01|{code}|{}", amount(if credit { -minor } else { minor }));
        };
        for (n, (minor, from, step)) in entries.iter().enumerate() {
            lines(n, *from, *minor);
            lines(n, (from + step) % 4, -minor);
        }
        // An entry between accounts of one side is the same in both.
        let differs = plain != signed
            && entries.iter().any(|(_, from, step)| ACCOUNTS[*from].1 != ACCOUNTS[(from + step) % 4].1);
        let head = "Entry|Date|Account|Amount";
        let (expected, none) = read(FileKind::Journal, &format!("{head}{plain}"), None);
        let (sums, asked) = read(FileKind::Journal, &format!("{head}{signed}"), None);
        prop_assert!(none.is_empty());
        if differs {
            prop_assert_eq!(&sums, &expected);
            prop_assert_eq!(asked, ["signs"]);
        } else {
            prop_assert!(asked.is_empty());
        }
        let (said, asked) = read(FileKind::Journal, &format!("{head}{signed}"), Some("usual"));
        prop_assert_eq!(said, expected);
        prop_assert!(asked.is_empty());
    }
}

#[test]
fn balances_signed_by_usual_sides_are_turned_and_asked() {
    let text = "Code|Name|Balance\n1010|Bank|50.00\n5010|Coal|30.00\n2010|Creditors|80.00";
    let turned = vec![(1010, 5_000), (2010, -8_000), (5010, 3_000)];
    let (sums, asked) = read(FileKind::Balances, text, None);
    assert_eq!((sums, asked), (turned.clone(), vec!["signs".to_owned()]));
    assert_eq!(read(FileKind::Balances, text, Some("usual")), (turned, vec![]));
    let (as_written, asked) = read(FileKind::Balances, text, Some("sides"));
    assert_eq!((as_written[1], asked), ((2010, 8_000), vec!["difference".to_owned()]));
    // What has sides of its own is never turned, however much it is out.
    let sided = "Code|Name|Debit|Credit\n1010|Bank|50.00|\n5010|Coal|30.00|\n2010|Creditors|80.00|";
    assert_eq!(read(FileKind::Balances, sided, None).1, ["difference"]);
}
