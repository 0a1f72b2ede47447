//! What is kept with a job, and what commands print, in the forms that others rely on.

use serde_json::{Value, from_value, json, to_value};
use std::collections::BTreeSet;
use zf_core::reports::statement::RowKind;
use zf_wire::imports::StoredView;
use zf_wire::output::inspect::{Crossing, Ready, Totals};
use zf_wire::output::minor;
use zf_wire::output::review::Remark;
use zf_wire::output::statements::{Coverage, Drawn, Moved, Row, Stated, Statement, Tie};
use zf_wire::problem::{JobProblem, ProblemCode, RefusedField};
use zf_wire::values::{Checked, instant, page_of};

/// The keys of an object, in no order that anybody relies on.
fn keys(value: &Value) -> BTreeSet<&str> {
    value.as_object().unwrap().keys().map(String::as_str).collect()
}

#[test]
fn why_a_job_failed_is_read_as_it_was_kept() {
    let field = "dates".to_owned();
    let refused = vec![RefusedField { account: Some(7), field, reason: "no such day".to_owned() }];
    let code = ProblemCode::FileUnreadable;
    let kept = JobProblem { status: 422, code, detail: "it is no file".to_owned(), refused };
    let json = to_value(&kept).unwrap();
    assert_eq!(json["code"], "file_unreadable");
    let read: JobProblem = from_value(json).unwrap();
    assert_eq!((read.status, read.code, read.refused.len()), (422, code, 1));
    // As a program kept it that named no fields.
    let old = json!({ "status": 500, "code": "internal", "detail": "sorry" });
    assert!(from_value::<JobProblem>(old).unwrap().refused.is_empty());
}

#[test]
fn every_problem_has_a_code_of_its_own() {
    let mut codes: Vec<&str> = ProblemCode::ALL.iter().map(|code| code.key()).collect();
    codes.sort_unstable();
    codes.dedup();
    assert_eq!(codes.len(), ProblemCode::ALL.len());
    assert!(ProblemCode::ALL.iter().all(|code| ProblemCode::from_key(code.key()) == Some(*code)));
}

#[test]
fn amounts_beyond_any_books_are_cut_off_at_the_ends() {
    assert_eq!(minor(-12_345), -12_345);
    assert_eq!((minor(i128::MAX), minor(i128::MIN)), (i64::MAX, i64::MIN));
}

#[test]
fn what_would_be_right_is_a_key_only_where_it_is_known() {
    let remark = |proposed| Remark {
        rule: "code_width",
        codes: vec!["50100".to_owned()],
        message: "It is longer than the others.".to_owned(),
        proposed,
    };
    let known = to_value(remark(Some("5010".to_owned()))).unwrap();
    assert_eq!(keys(&known), BTreeSet::from(["rule", "codes", "message", "proposed"]));
    assert_eq!(
        keys(&to_value(remark(None)).unwrap()),
        BTreeSet::from(["rule", "codes", "message"])
    );
}

fn drawn() -> Drawn {
    let row = Row {
        label: "Fuel".to_owned(),
        level: 1,
        kind: RowKind::Item,
        amounts: vec![1_200, -50],
        shown_as: 1,
        accounts: vec!["5010".to_owned()],
    };
    Drawn {
        columns: vec!["2025".to_owned(), "2026".to_owned()],
        statements: vec![Statement { name: "Income statement", lines: vec![row] }],
        ties: vec![Tie { name: "Profit".to_owned(), difference: 0 }],
        coverage: Coverage { unmapped: Vec::new() },
    }
}

#[test]
fn statements_of_one_side_stand_alone_and_those_of_both_beside_what_moves() {
    let alone = to_value(Stated::Today(drawn())).unwrap();
    assert_eq!(keys(&alone), BTreeSet::from(["columns", "statements", "ties", "coverage"]));
    let line = &alone["statements"][0]["lines"][0];
    assert_eq!(
        keys(line),
        BTreeSet::from(["label", "level", "kind", "amounts", "shown_as", "accounts"])
    );
    let moved = Moved {
        account: "5010".to_owned(),
        into: "5020".to_owned(),
        from: "Fuel".to_owned(),
        to: "Other".to_owned(),
        amounts: vec![1_200, 0],
        lines: 3,
    };
    let both = Stated::Both { today: drawn(), after: drawn(), moved: vec![moved] };
    let both = to_value(both).unwrap();
    assert_eq!(keys(&both), BTreeSet::from(["today", "after", "moved"]));
    assert_eq!(both["today"], alone);
    assert_eq!(
        keys(&both["moved"][0]),
        BTreeSet::from(["account", "into", "from", "to", "amounts", "lines"])
    );
}

#[test]
fn rows_and_totals_of_a_file_have_the_keys_of_their_kind() {
    let added = Crossing {
        row: 4,
        sheet: None,
        code: None,
        name: None,
        class: Some("expense"),
        section: None,
        parent: None,
        new_code: "5045".to_owned(),
        new_name: Some("Peat".to_owned()),
        merged_into: None,
        does: "added as expense".to_owned(),
    };
    let added = to_value(Ready::Crossing(Box::new(added))).unwrap();
    assert_eq!((&added["code"], &added["new_code"]), (&Value::Null, &json!("5045")));
    let by_account = [("5010".to_owned(), 1_200), ("1010".to_owned(), -1_200)].into();
    let totals = Totals::Journal { entries: 1, lines: 2, debit: 1_200, credit: 1_200, by_account };
    let totals = to_value(totals).unwrap();
    assert_eq!(
        keys(&totals),
        BTreeSet::from(["entries", "lines", "debit", "credit", "by_account"])
    );
    assert_eq!(totals["by_account"]["1010"], -1_200);
}

#[test]
fn a_part_of_a_form_is_kept_as_it_was_sent_whatever_it_means() {
    let read = |sent: Value| from_value::<Checked<StoredRows>>(sent).unwrap();
    let sound = read(json!({ "rows": 3 }));
    assert_eq!(sound.read.unwrap().rows, 3);
    let wrong = read(json!({ "rows": "three" }));
    assert_eq!(wrong.sent, json!({ "rows": "three" }));
    assert!(wrong.read.unwrap_err().contains("rows") || wrong.sent.is_object());
    assert_eq!(to_value(StoredView { rows: 3 }).unwrap(), json!({ "rows": 3 }));
}

#[derive(Debug, serde::Deserialize)]
struct StoredRows {
    rows: i64,
}

#[test]
fn a_list_is_cut_into_pages_of_which_none_is_lost() {
    let list: Vec<u32> = (0..25).collect();
    let (_, pages) = page_of(&list, 0, 10);
    let all: Vec<u32> = (0..pages).flat_map(|page| page_of(&list, page, 10).0).collect();
    assert_eq!((pages, all), (3, list.clone()));
    assert!(page_of(&list, 3, 10).0.is_empty());
    let at = time::macros::datetime!(2026-05-31 12:00:05 UTC);
    assert_eq!(instant(at), "2026-05-31T12:00:05Z");
}
