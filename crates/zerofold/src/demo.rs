//! The demo books, loaded the way a person's files are.

use anyhow::{Context, anyhow};
use std::path::Path;
use zf_core::access::{Role, Roles};
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::Class;
use zf_core::code::Interval;
use zf_core::file_kind::FileKind;
use zf_core::ids::PersonId;
use zf_core::money::Currency;
use zf_core::policy::{Block, CodeFormat, Policy};
use zf_scenario::{NAME, SEED, Scenario};
use zf_server::App;
use zf_server::jobs;
use zf_sheets::Format;
use zf_store::books::NewBooks;
use zf_store::people::links::Admission;
use zf_store::trail::Actor;

/// Whom the demo books belong to.
pub(crate) const EMAIL: &str = "hazel@larkfell.example";
/// A colleague, who prepares changes and applies none.
const COLLEAGUE: &str = "marcus@larkfell.example";
/// The password of both; the books are made up and served on loopback only.
pub(crate) const PASSWORD: &str = "larkfell";

/// Writes the files of the demo books.
pub(crate) fn write_files(out: &Path) -> anyhow::Result<()> {
    std::fs::create_dir_all(out).with_context(|| format!("{} cannot be made", out.display()))?;
    let scenario = Scenario::new(SEED);
    for (name, table) in scenario.files() {
        for format in [Format::Csv, Format::Xlsx] {
            let path = out.join(format!("{name}.{}", format.ending()));
            std::fs::write(&path, table.write(format)?)
                .with_context(|| format!("{} cannot be written", path.display()))?;
            println!("{}", path.display());
        }
    }
    Ok(())
}

/// Loads the demo books when their owner has none.
pub(crate) async fn load(app: &App) -> anyhow::Result<()> {
    let owner = person(app, EMAIL, "Hazel Brook").await?;
    let colleague = person(app, COLLEAGUE, "Marcus Tunnard").await?;
    if !app.store.books_of(PersonId(owner)).await?.is_empty() {
        return Ok(());
    }
    eprintln!("Loading the demo books");
    let new = NewBooks {
        name: NAME.to_owned(),
        currency: Currency::parse("GBP")?,
        calendar: FiscalCalendar::starting(2, 1)?,
        journal_complete: true,
        policy: policy()?,
    };
    let member = app.store.create_books(PersonId(owner), &new).await?;
    app.store.administer(Actor::Person(PersonId(owner)), PersonId(owner), true).await?;
    let roles = Roles::of([Role::Preparer])?;
    let admission = Admission { books: member.books(), roles, plan: None, until: None };
    app.store.admit(member, PersonId(colleague), &admission).await?;
    let scenario = Scenario::new(SEED);
    for (kind, table) in [
        (FileKind::Chart, &scenario.chart),
        (FileKind::Journal, &scenario.journal),
        (FileKind::Usage, &scenario.usage),
    ] {
        let name = format!("{}.csv", table.name.to_lowercase().replace(' ', "-"));
        let id = app.store.keep_upload(member, kind, &name, &table.write(Format::Csv)?).await?;
        jobs::bring(app, member, id).await.map_err(|p| anyhow!("{name}: {}", p.detail))?;
    }
    Ok(())
}

/// Somebody of the demo books, who keeps the password they have by now.
async fn person(app: &App, email: &str, name: &str) -> anyhow::Result<i64> {
    if let Some(person) = app.store.person_by_email(email).await? {
        return Ok(person.id.0);
    }
    let hash = password_auth::generate_hash(PASSWORD);
    Ok((app.store.add_person(email, name, &hash).await?).0)
}

/// Four digits, a block for each class, and two for costs.
fn policy() -> anyhow::Result<Policy> {
    let mut blocks = Vec::new();
    for (class, codes) in [
        (Class::Asset, "1000 to 1999"),
        (Class::Liability, "2000 to 2999"),
        (Class::Equity, "3000 to 3999"),
        (Class::Income, "4000 to 4999"),
        (Class::Expense, "5000 to 5999, 6000 to 8999"),
    ] {
        let codes = Interval::parse_list(codes)?.into_iter();
        blocks.extend(codes.map(|codes| Block { class, section: None, codes }));
    }
    Ok(Policy::new(CodeFormat::digits(4, 4), blocks))
}
