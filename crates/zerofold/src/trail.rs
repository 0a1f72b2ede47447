//! Following a trail that was handed out.

use anyhow::{Context, ensure};
use serde::Deserialize;
use serde_json::value::RawValue;
use std::fs::File;
use std::io::{BufRead, BufReader};
use std::path::Path;
use time::OffsetDateTime;
use time::format_description::well_known::Rfc3339;
use zf_core::ids::{ApplicationId, BooksId, PersonId};
use zf_core::trail::{Detail, Following, Head, Record, Seal};
use zf_store::trail::Followed;

/// A line of such a file.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Line {
    application: Option<i64>,
    at: String,
    before: String,
    books: Option<i64>,
    by: String,
    /// A sentence, or an object of facts.
    detail: Box<RawValue>,
    number: i64,
    person: Option<PersonId>,
    seal: String,
    what: String,
}

/// Follows a file from its first row to its last.
pub(crate) fn verify(path: &Path, head: Option<&str>) -> anyhow::Result<()> {
    let file = File::open(path).with_context(|| format!("{} cannot be read", path.display()))?;
    let mut following = Following::default();
    for (at, line) in BufReader::new(file).lines().enumerate() {
        let take = || -> anyhow::Result<()> {
            let Line { application, at, before, books, by, detail, number, person, seal, what } =
                serde_json::from_str(&line?)?;
            let detail = match serde_json::from_str(detail.get()) {
                Ok(sentence) => Detail::Sentence(sentence),
                Err(_) => Detail::Facts(detail.get().to_owned()),
            };
            let at = OffsetDateTime::parse(&at, &Rfc3339)?;
            let seal = Seal::parse(&seal).context("its seal is no SHA-256")?;
            let follows = Seal::parse(&before) == Some(following.head().seal);
            let record = Record {
                books: books.map(BooksId),
                number,
                at,
                person,
                by,
                what,
                detail,
                application: application.map(ApplicationId),
            };
            following.take(&record, seal)?;
            ensure!(follows, "it names another row before it");
            Ok(())
        };
        take().with_context(|| format!("line {}", at + 1))?;
    }
    let Head { rows, seal } = following.head();
    ensure!(rows > 0, "there is no row in {}", path.display());
    println!("{rows} rows follow one from the other; the seal of the last is {seal}");
    match head {
        Some(noted) => {
            let noted = Seal::parse(noted).context("--head is 64 hexadecimal digits")?;
            ensure!(
                noted == seal,
                "it is not the seal that was noted: rows are gone, or all was written anew"
            );
            println!("It is the one that was noted.");
        }
        None => {
            println!("Compare it with the one that was noted elsewhere, or give that as --head.")
        }
    }
    Ok(())
}

/// Says what became of following a chain, and whether it is sound. Where something was done there must be a
/// row of it: a chain that was emptied with its head is as broken as another.
pub(crate) fn say(what: &str, followed: &Followed, must_have_rows: bool) -> bool {
    match followed {
        Ok(head) if must_have_rows && head.rows == 0 => {
            println!("{what}: it has no row, though something was done");
            return false;
        }
        Ok(head) => println!("{what}: {} rows, sealed up to {}", head.rows, head.seal),
        Err(broken) => println!("{what}: {broken}"),
    }
    followed.is_ok()
}
