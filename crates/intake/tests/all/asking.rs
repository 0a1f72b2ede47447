//! What is asked of a chart, what is wished of it, and what comes of each answer.

use crate::books::gbp;
use proptest::prelude::*;
use std::collections::{BTreeMap, BTreeSet};
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Status};
use zf_core::code::Interval;
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::overlap::Overlap;
use zf_core::policy::Policy;
use zf_core::today::Today;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content, ReadChart};
use zf_intake::question::Gives;
use zf_intake::question::{About, Question};
use zf_intake::table::Table;
use zf_intake::{Cell, RawRow, Sheet};

/// Something that a chart may hold, and no word of the trade.
const THINGS: [&str; 12] = [
    "Anvils", "Bellows", "Chisels", "Drills", "Easels", "Files", "Gimlets", "Hammers", "Irons",
    "Jigs", "Knives", "Lathes",
];

fn sheet(lines: &[Vec<String>]) -> Sheet {
    let row = |(number, line): (u32, &Vec<String>)| RawRow {
        number,
        cells: line.iter().map(|cell| Cell::text(cell)).collect(),
    };
    Sheet::new("", Box::new((1..).zip(lines).map(row).collect::<Vec<_>>()))
}

/// Reads a chart with answers such as `totals=sum_lines`, for books that have none.
fn read(lines: &[Vec<String>], answers: &[&str]) -> Analysis {
    let mut choices = Choices::default();
    for answer in answers {
        let (about, reading) = answer.split_once('=').unwrap();
        choices.answer(about.parse().unwrap(), reading).unwrap();
    }
    let chosen = choices.chosen().unwrap();
    let table = Table::find(FileKind::Chart, &mut [sheet(lines)], gbp(), &chosen).unwrap();
    let today =
        Today { chart: Chart::default(), policy: Policy::default(), ..crate::books::railway() };
    let against = Against { today: &today, overlap: Overlap::default(), then: None };
    Analysis::of(FileKind::Chart, &table.reading, &*table.rows, &choices, against).unwrap()
}

fn chart(analysis: &Analysis) -> &ReadChart {
    let read = match &analysis.content {
        Content::Chart(read) => Some(read),
        _ => None,
    };
    read.expect("a chart")
}

fn account(analysis: &Analysis, name: &str) -> Account {
    let mut accounts = chart(analysis).accounts.iter().map(|(_, account)| account);
    accounts.find(|account| account.name == name).unwrap().clone()
}

fn asked(analysis: &Analysis) -> Vec<String> {
    analysis.questions.iter().map(|question| question.about.to_string()).collect()
}

fn lines(text: &str) -> Vec<Vec<String>> {
    text.lines().map(|line| line.split('|').map(str::to_owned).collect()).collect()
}

fn question<'a>(analysis: &'a Analysis, about: &str) -> &'a Question {
    analysis.questions.iter().find(|question| question.about.to_string() == about).unwrap()
}

/// Groups of things, each with how many it has.
fn groups() -> impl Strategy<Value = Vec<usize>> {
    prop::collection::vec(1_usize..4, 1..4)
}

proptest! {
    #[test]
    fn of_two_columns_of_codes_the_one_that_is_said_counts(count in 2_usize..9) {
        let mut rows = lines("Nominal code|Account code|Name|Type");
        rows.extend((0..count).map(|n| {
            vec![format!("{}", 100 + n), format!("X-{n}"), THINGS[n].to_owned(), "Asset".to_owned()]
        }));
        let open = read(&rows, &[]);
        let about = asked(&open)[0].clone();
        let heading = about.strip_prefix("column:").unwrap().to_owned();
        let first = chart(&open).accounts[0].1.code.to_string();
        // Both readings of the question are taken at their word, and none is asked again.
        for reading in &question(&open, &about).readings {
            let answered = read(&rows, &[&format!("{about}={}", reading.key)]);
            prop_assert!(answered.questions.is_empty(), "{:?}", answered.questions);
            let code = chart(&answered).accounts[0].1.code.to_string();
            prop_assert_eq!(reading.key == "code", code == first, "{} {}", heading, reading.key);
            prop_assert_eq!(chart(&answered).accounts.len(), count);
        }
    }

    #[test]
    fn totals_become_sum_lines_of_what_stands_above_them(groups in groups()) {
        let mut rows = lines("Code|Name|Type|Balance");
        let mut parts: BTreeMap<String, BTreeSet<String>> = BTreeMap::new();
        let mut code = 1000;
        for (group, count) in groups.iter().enumerate() {
            let caption = format!("Room of {}", THINGS[group]);
            rows.push(vec![caption.clone()]);
            for thing in &THINGS[4..4 + count] {
                rows.push(vec![code.to_string(), format!("{thing} {group}"), "Asset".to_owned(), "1.00".to_owned()]);
                parts.entry(format!("Total {caption}")).or_default().insert(code.to_string());
                code += 10;
            }
            rows.push(vec![String::new(), format!("Total {caption}"), String::new(), format!("{count}.00")]);
        }
        let left_out = read(&rows, &[]);
        prop_assert!(chart(&left_out).accounts.iter().all(|(_, a)| a.kind == Kind::Account));
        let taken = read(&rows, &["totals=sum_lines"]);
        let read = chart(&taken);
        for (name, parts) in &parts {
            let sum = account(&taken, name);
            prop_assert!(sum.kind == Kind::Sum && sum.code_proposed);
            let within = |a: &&Account| sum.intervals.iter().any(|i: &Interval| i.contains(&a.code.key()));
            let accounts = read.accounts.iter().map(|(_, account)| account);
            let posting = accounts.filter(|account| account.kind == Kind::Account);
            let added: BTreeSet<String> = posting.filter(within).map(|a| a.code.to_string()).collect();
            prop_assert_eq!(&added, parts, "{}", name);
        }
        prop_assert_eq!(taken.ready_rows, left_out.ready_rows + parts.len());
    }

    #[test]
    fn proposed_codes_follow_the_scheme(
        classes in prop::collection::vec(0..5_usize, 2..12),
        digits in 3_u8..8,
        by in prop::sample::select(vec!["class", "heading", "order"]),
        own in prop::collection::btree_set(1_000_u32..9_999, 0..6),
    ) {
        let mut rows = lines("Code|Name|Type");
        for (n, class) in classes.iter().enumerate() {
            let words = Class::ALL[*class].words().to_owned();
            rows.push(vec![String::new(), THINGS[n].to_owned(), words]);
        }
        for code in &own {
            rows.push(vec![code.to_string(), format!("Given {code}"), "Expense".to_owned()]);
        }
        let options = [format!("codes_by={by}"), format!("code_digits={digits}")];
        let answered = read(&rows, &[&options[0], &options[1]]);
        let accounts = &chart(&answered).accounts;
        prop_assert_eq!(accounts.len(), classes.len() + own.len(), "{:?}", answered.rejected);
        let codes: BTreeSet<String> = accounts.iter().map(|(_, a)| a.code.to_string()).collect();
        prop_assert_eq!(codes.len(), accounts.len(), "no code twice");
        let proposed: Vec<&Account> = accounts.iter().map(|(_, a)| a).filter(|a| a.code_proposed).collect();
        prop_assert_eq!(proposed.len(), classes.len());
        prop_assert!(proposed.iter().all(|a| a.code.as_str().len() == usize::from(digits)));
        // In the order of the file: of all, or of each class.
        let same = |a: &Account, b: &Account| by == "order" || a.class == b.class;
        for (at, one) in proposed.iter().enumerate() {
            let after = proposed[at + 1..].iter().filter(|other| same(one, other));
            for other in after {
                prop_assert!(one.code.key() < other.code.key(), "{} {}", one.code, other.code);
            }
        }
    }

    #[test]
    fn no_role_is_given_that_nobody_wished(names in prop::sample::subsequence(
        vec!["Bank", "Trade debtors", "Trade creditors", "Stock", "VAT control", "Anvils", "Suspense"], 1..7,
    )) {
        let class = |name: &str| match name {
            "Trade creditors" | "VAT control" => "Liability",
            _ => "Asset",
        };
        let mut rows = lines("Code|Name|Type");
        for (n, name) in names.iter().enumerate() {
            rows.push(vec![(100 + n).to_string(), (*name).to_owned(), class(name).to_owned()]);
        }
        let open = read(&rows, &[]);
        let wished = read(&rows, &["roles=yes"]);
        prop_assert!(open.questions.is_empty(), "a role is offered and not asked");
        let proposed = &chart(&open).roles;
        prop_assert_eq!(proposed.len(), names.iter().filter(|name| **name != "Anvils").count());
        for ((_, before), (_, after)) in chart(&open).accounts.iter().zip(&chart(&wished).accounts) {
            prop_assert_eq!(before.role, None);
            prop_assert_eq!(after.role, proposed.get(&before.id).copied());
        }
    }

    #[test]
    fn two_codes_are_asked_about_only_where_it_matters(between in prop::bool::ANY, mark in prop::sample::select(vec!["/", ",", ";"])) {
        let mut rows = lines("Code|Name|Type|Kind|Adds up\n100|Anvils|Asset|Account|\n300|Drills|Asset|Account|");
        if between {
            rows.push(lines("200|Bellows|Asset|Account|").remove(0));
        }
        rows.push(vec!["900".to_owned(), "Tools".to_owned(), "Asset".to_owned(), "Sum line".to_owned(), format!("100{mark}300")]);
        let says = |answers: &[&str]| {
            let answered = read(&rows, answers);
            let sum = Interval::format_list(&account(&answered, "Tools").intervals);
            (asked(&answered), sum)
        };
        let open = if between { vec!["ranges".to_owned()] } else { vec![] };
        prop_assert_eq!(says(&[]), (open, "100 to 300".to_owned()));
        prop_assert_eq!(says(&["ranges=list"]), (vec![], "100, 300".to_owned()));
        prop_assert_eq!(says(&["ranges=range"]), (vec![], "100 to 300".to_owned()));
    }
}

#[test]
fn what_is_owed_and_what_is_own_is_asked_where_both_stand_together() {
    let rows = lines(
        "Konto|Bezeichnung|Kontoart\n1000|Kasse|Aktiva\n2000|Stammkapital|Passiva\n2100|Darlehen Nord|Passiva\n2200|Sonstiges|Passiva",
    );
    let open = read(&rows, &[]);
    assert_eq!(asked(&open), ["owed_and_own"]);
    assert_eq!(account(&open, "Stammkapital").class, Class::Equity);
    assert_eq!(
        account(&open, "Sonstiges").class,
        Class::Liability,
        "as long as nobody says otherwise"
    );
    let answered = read(&rows, &["owed_and_own=equity"]);
    assert!(answered.questions.is_empty());
    assert_eq!(account(&answered, "Sonstiges").class, Class::Equity);
    assert_eq!(account(&answered, "Stammkapital").class, Class::Equity);
}

#[test]
fn a_caption_that_tells_no_class_is_asked_once_for_all_below_it() {
    let rows =
        lines("No.|Name|Group\nASSETS\n1|Till|Cash\nBY THE SEA\n2|Anvils|Sheds\n3|Drills|Sheds");
    let open = read(&rows, &[]);
    assert_eq!(asked(&open), ["class:BY THE SEA"]);
    assert_eq!(open.rejected.len(), 2);
    let answered = read(&rows, &["class:BY THE SEA=income"]);
    assert!(answered.questions.is_empty() && answered.rejected.is_empty());
    assert_eq!(account(&answered, "Drills").class, Class::Income);
}

#[test]
fn what_nobody_knows_is_no_answer() {
    let refused = |about: &str, reading: &str| {
        let about = about.parse().unwrap();
        Choices::default().answer(about, reading).is_err()
    };
    assert!(refused("totals", "twice") && refused("codes_by", "moon") && refused("roles", "maybe"));
    assert!(refused("code_digits", "many") && refused("signs", "both"));
    assert!(refused("kind:folder", "moon") && refused("new_class:5010", "moon"));
    let mut choices = Choices::default();
    choices.answer(About::CodeDigits, "99").unwrap();
    assert_eq!(choices.chosen().unwrap_err().field, "code_digits");
    choices.answer(About::CodeDigits, "6").unwrap();
    choices.answer(About::Sheet, "*").unwrap();
    assert!(choices.chosen().unwrap().all_sheets && choices.sheet.is_none());
    choices.answer(About::Sheet, "March").unwrap();
    assert!(!choices.all_sheets && choices.sheet.as_deref() == Some("March"));
    assert_eq!(choices.for_next_file().options.code_digits, Some(6), "a wish is of the form");
}

proptest! {
    #[test]
    fn what_a_question_is_about_is_read_as_it_is_written(
        key in prop::sample::select(About::KEYS.to_vec()),
        one in "[0-9]",
        more in "[a-z: ]{0,9}",
    ) {
        let (key, of_one) = key;
        let text = if of_one { format!("{key}:{one}") } else { key.to_owned() };
        let about: About = text.parse().unwrap();
        prop_assert_eq!(about.to_string(), text);
        prop_assert_eq!(key.parse::<About>().is_err(), of_one, "it must be said of what");
        let unknown = format!("x{key}:{more}");
        prop_assert!(unknown.parse::<About>().is_err());
    }
}

#[test]
fn the_page_on_files_lists_what_answers_can_be_about() {
    let page = include_str!("../../../../docs/files.md");
    let rows = page.lines().skip_while(|line| !line.starts_with("| `ABOUT` |")).skip(2);
    let listed = rows.map_while(|line| line.strip_prefix("| `")?.split_once('`'));
    let listed: Vec<(&str, bool)> = listed
        .map(|(about, _)| about.split_once(':').map_or((about, false), |(key, _)| (key, true)))
        .collect();
    assert_eq!(listed, About::KEYS);
}

#[test]
fn an_account_that_is_unique_has_a_role_once() {
    let rows = lines(
        "Code|Name|Type\n1|Retained earnings|Equity\n2|Retained profits|Equity\n3|Bank|Expense",
    );
    let answered = read(&rows, &["roles=yes"]);
    let roles: Vec<Option<ControlRole>> =
        chart(&answered).accounts.iter().map(|(_, account)| account.role).collect();
    assert_eq!(roles, [Some(ControlRole::RetainedEarnings), None, None]);
    assert_eq!(chart(&answered).roles.keys().copied().collect::<Vec<AccountId>>().len(), 1);
}

#[test]
fn a_word_that_nobody_knows_is_asked_and_its_row_is_ready() {
    let rows = lines(
        "Code|Name|Type|Kind|Status|Normal balance\n1000|Bank|Asset|Posting|Active|Debit\n\
         1100|Till|Asset|Gruntle|Mothballed|Debit\n1200|Safe|Asset|Posting|Mothballed|Leeward\n\
         4000|Sales|Income|Posting|Active|Credit\n5000|Coal|Expense|Posting|Active|Debit",
    );
    let open = read(&rows, &[]);
    assert!(open.rejected.is_empty(), "{:?}", open.rejected);
    assert_eq!(open.ready_rows, 5);
    assert_eq!(asked(&open), ["kind:gruntle", "normal:leeward", "status:mothballed"]);
    assert_eq!(account(&open, "Till").status, Status::Active);
    let status = &question(&open, "status:mothballed").readings[0];
    assert_eq!(status.gives, Gives::RowsAs(2, "Till".to_owned()));

    let said = ["kind:gruntle=heading", "status:mothballed=archived", "normal:leeward=credit"];
    let answered = read(&rows, &said);
    assert_eq!(asked(&answered), ["status_from"], "from which day is not said");
    assert_eq!(question(&answered, "status_from").default.as_deref(), Some("unknown"));
    assert_eq!(asked(&read(&rows, &[&said[..], &["status_from=stored"]].concat())), [""; 0]);
    assert_eq!(account(&answered, "Till").kind, Kind::Heading);
    assert_eq!(account(&answered, "Safe").status, Status::Archived);
    assert!(account(&answered, "Safe").contra, "its balance stands on the other side");
    let none = read(&rows, &["normal:leeward=nothing"]);
    assert_eq!(asked(&none), ["kind:gruntle", "status:mothballed"]);
}

#[test]
fn what_else_a_workbook_holds_is_told_in_the_order_in_which_it_is_brought_in() {
    let named = |name: &str, text: &str| Sheet { name: name.to_owned(), ..sheet(&lines(text)) };
    let chart = "Code|Name|Type\n1000|Bank|Asset\n5000|Coal|Expense";
    let journal =
        "Date|Entry|Account|Debit|Credit\n2026-04-01|J1|5000|9.00|\n2026-04-01|J1|1000||9.00";
    let balances = "Code|Name|Debit|Credit\n5000|Coal|9.00|\n1000|Bank||9.00";
    let notes = "Remember\nAsk Jo about the till";
    let also = |kind| {
        let mut sheets = [
            named("TB", balances),
            named("Notes", notes),
            named("Postings", journal),
            named("Accounts", chart),
        ];
        let chosen = Choices::default().chosen().unwrap();
        let table = Table::find(kind, &mut sheets, gbp(), &chosen).unwrap();
        let answered =
            table.also.iter().map(|other| (other.kind, other.sheet.clone(), other.before));
        answered.collect::<Vec<_>>()
    };
    let holds = |kind, sheet: &str, before| (kind, sheet.to_owned(), before);
    assert_eq!(
        also(FileKind::Chart),
        [holds(FileKind::Journal, "Postings", false), holds(FileKind::Balances, "TB", false)]
    );
    assert_eq!(
        also(FileKind::Journal),
        [holds(FileKind::Chart, "Accounts", true), holds(FileKind::Balances, "TB", false)]
    );
    assert_eq!(also(FileKind::Crosswalk), []);
}

#[test]
fn choices_that_were_kept_under_an_earlier_name_are_still_read() {
    let mut choices = Choices::default();
    choices.answer(About::Totals, "sum_lines").unwrap();
    choices.answer(About::CodeDigits, "6").unwrap();
    let kept = serde_json::to_string(&choices).unwrap();
    assert!(kept.contains("\"options\""), "{kept}");
    let earlier = kept.replace("\"options\"", "\"wishes\"");
    assert_eq!(serde_json::from_str::<Choices>(&earlier).unwrap(), choices);
}
