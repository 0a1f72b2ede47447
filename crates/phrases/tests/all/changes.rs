//! Values, parts of histories and rows of a crosswalk in words.

use crate::books::{plan, railway, words};
use time::macros::date;
use zf_core::dimension::DimensionValue;
use zf_core::history::Which;
use zf_core::ids::AccountId;
use zf_core::names::Charts;
use zf_core::plan::Field;
use zf_core::rehearsal::rehearse;
use zf_core::rehearsal::report::{ChangeKind, Report};
use zf_phrases::changes::{kind, which};
use zf_phrases::{Say, Style};

#[test]
fn values_are_said_in_words() {
    let today = railway();
    let names = Charts { today: &today.chart, after: &today.chart };
    let say = Say::plain(&names, today.currency);
    for (field, text, said) in [
        (Field::Parent, "", "the top"),
        (Field::Parent, "5010", "5010 Coal"),
        (Field::Parent, "12", "a new account"),
        (Field::Caption, "cash", "cash and cash equivalents"),
        (Field::Role, "retained_earnings", "retained earnings"),
        (Field::Kind, "sum", "sum line"),
        (Field::Class, "asset", "asset"),
        (Field::Fate, "archive", "archived"),
        (Field::Fate, "restore", "active"),
        (Field::Tax, "", "nothing"),
        (Field::Name, "Coal", "Coal"),
    ] {
        let number = |words: &str| AccountId(words.parse().unwrap());
        let change = words::change(field, text, today.chart.structure(), number);
        assert_eq!(say.change(&change), said);
    }
}

#[test]
fn a_part_of_a_history_is_said_by_what_its_lines_have() {
    let style = Style::default();
    assert_eq!(which(&Which::default(), style), "all lines");
    let part = Which {
        from: Some(date!(2024 - 02 - 01)),
        payee: "Harrock".to_owned(),
        dimension: Some(DimensionValue { name: "site".to_owned(), value: "Larkfell".to_owned() }),
        entries: ["J1", "J2"].map(str::to_owned).into(),
        ..Which::default()
    };
    assert_eq!(
        which(&part, style),
        "from 1 Feb 2024, payee “Harrock”, site Larkfell, 2 chosen entries"
    );
}

#[test]
fn what_changes_of_an_account_is_said_beside_its_codes() {
    let today = railway();
    let words = "5010 parent ; 5010 tax T9; 5020 caption administration; 5030 fate deactivate; \
                 5099 intervals 5000 to 5030";
    let rehearsal = rehearse(&today, &plan(&today, words));
    let names = Charts { today: &today.chart, after: &rehearsal.after };
    let say = Say::plain(&names, today.currency);
    let crosswalk = Report::of(&today, &rehearsal).crosswalk;
    let said = crosswalk.iter().map(|crossing| {
        let kinds = crossing.changes.iter().map(|change| kind(*change)).collect::<Vec<_>>();
        format!("{}: {}: {}", crossing.account, kinds.join(", "), say.details(&crossing.details))
    });
    assert_eq!(
        said.collect::<Vec<_>>(),
        [
            "5010: under another heading, settings changed: from 5000 Running costs to the top; tax code from nothing to T9",
            "5020: class or statement item changed: from expense, cost of sales to expense, administrative expenses",
            "5030: deactivated: ",
            "5099: sum lines that follow: 5000 to 5098 becomes 5000 to 5030",
        ]
    );
    let all = ChangeKind::ALL.iter().map(|change| kind(*change)).collect::<Vec<_>>();
    assert!(all.iter().all(|words| !words.is_empty()));
}
