//! Files made to bring the server down, many at once.

use crate::site::Site;
use futures_util::future::{join, join_all};
use reqwest::Method;
use serde_json::{Value, json};
use std::time::Duration;
use zf_core::file_kind::FileKind;
use zf_testing::workbooks::{ods, xlsx};

#[tokio::test(flavor = "multi_thread")]
async fn twenty_hostile_files_at_once_are_refused_by_name_while_others_read() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let corner = "<row r='1'><c r='A1'><v>1</v></c></row><row r='1048576'><c r='XFD1048576'><v>1</v></c></row>";
    let cell = "<table:table-cell office:value-type='string' table:number-columns-repeated='9000'><text:p>x</text:p></table:table-cell>";
    let row = |n: u64| {
        format!("<table:table-row table:number-rows-repeated='{n}'>{cell}</table:table-row>")
    };
    let files = [
        ("corner.xlsx", xlsx(corner, "")),
        (
            "shared.xlsx",
            xlsx(&"<row><c t='s'><v>0</v></c></row>".repeat(9_000), &"x".repeat(32_000)),
        ),
        ("rows.ods", ods(&row(u64::MAX))),
        ("wide.csv", "x,".repeat(200_000).into_bytes()),
        ("long.csv", "x,y\n".repeat(1_100_000).into_bytes()),
    ];
    let uploads = (0..20).map(|n| {
        let (name, content) = files[n % files.len()].clone();
        let (site, ann) = (&site, &ann);
        async move {
            let (status, problem) = site.upload(ann, "chart", name, content).await;
            assert_eq!((status, &problem["code"]), (422, &json!("file_unreadable")), "{name}");
        }
    });
    let reading = async {
        for _ in 0..20 {
            assert_eq!(site.ask(&ann, Method::GET, "BOOKS/chart", Value::Null).await.0, 200);
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
    };
    join(join_all(uploads), reading).await;
    assert_eq!(site.books.count("import_piece").await, 0, "nothing of them is kept");
}

#[tokio::test]
async fn who_asks_for_a_refused_file_again_is_told_the_same() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (store, member) = (&site.books.store, site.books.member);
    let wide = "x,".repeat(2_000);
    let id = store.keep_upload(member, FileKind::Chart, "wide.csv", wide.as_bytes()).await.unwrap();
    let path = format!("BOOKS/imports/{id}");
    for _ in 0..2 {
        let (status, problem) = site.ask(&ann, Method::GET, &path, Value::Null).await;
        assert_eq!(status, 422);
        assert_eq!(problem["detail"], "row 1 has more than 1024 cells; is the delimiter right?");
        assert_eq!(site.books.count("import_piece").await, 0, "it was let go");
    }
}
