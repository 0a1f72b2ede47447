//! The program: serves the application, loads the demo books, writes their files, recounts, inspects, rehearses and
//! reviews files, and draws up statements of them.

mod demo;
mod files;
mod inspect;
mod output;
mod people;
mod phrases;
mod rehearse;
mod review;
mod serve;
mod statements;
mod trail;

use anyhow::Context;
use clap::{Parser, Subcommand};
use inspect::Inspect;
use people::{BooksCommand, PersonCommand};
use rehearse::Rehearse;
use review::Review;
use serve::{LogForm, Serve};
use statements::Statements;
use std::path::PathBuf;
use std::process::ExitCode;
use tracing_subscriber::EnvFilter;
use zf_core::ids::BooksId;
use zf_store::{Store, StoreError};

/// Gives memory back to the machine once a large file is done with, which the allocator of the C library
/// keeps for the thread that read it.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Restructures a chart of accounts and proves that nothing was lost.
#[derive(Parser)]
#[command(version)]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serves the application until it is stopped.
    Serve(Box<Serve>),
    /// Writes the files of the demo books, as CSV and XLSX.
    Scenario {
        /// The folder to write them to.
        #[arg(long)]
        out: PathBuf,
    },
    /// Reads a file as an import would and says what it found, without a database.
    Inspect(Inspect),
    /// Rehearses a crosswalk on the books that a chart and a journal make, without a database.
    Rehearse(Rehearse),
    /// Reviews the books that a chart and a journal make, without a database.
    Review(Review),
    /// Lists what is said of plans and in reviews, each with an example, to be read over.
    Phrases,
    /// Draws up the statements of the books that a chart and a journal make, without a database.
    Statements(Statements),
    /// Recounts books from their lines, compares with the totals that reports read, and follows their trails;
    /// or follows a trail that was handed out, without a database.
    Verify {
        /// The database, PostgreSQL 15 or later.
        #[arg(
            long,
            env = "DATABASE_URL",
            hide_env_values = true,
            required_unless_present = "trail"
        )]
        database: Option<String>,
        /// Only the books of this member, given by e-mail address.
        #[arg(long)]
        member: Option<String>,
        /// A trail as it was handed out.
        #[arg(long, conflicts_with = "member")]
        trail: Option<PathBuf>,
        /// The seal of its last row, as it was noted elsewhere.
        #[arg(long, requires = "trail")]
        head: Option<String>,
    },
    /// Adds, lists and removes people who can sign in.
    Person {
        /// The database, PostgreSQL 15 or later.
        #[arg(
            long,
            env = "DATABASE_URL",
            hide_env_values = true,
            global = true,
            default_value = ""
        )]
        database: String,
        #[command(subcommand)]
        command: PersonCommand,
    },
    /// Lists sets of books, and says or changes who is a member of one.
    Books {
        /// The database, PostgreSQL 15 or later.
        #[arg(
            long,
            env = "DATABASE_URL",
            hide_env_values = true,
            global = true,
            default_value = ""
        )]
        database: String,
        #[command(subcommand)]
        command: BooksCommand,
    },
    /// Prints the document of everything that can go wrong.
    Errors,
    /// Prints the OpenAPI document of the server.
    Openapi,
}

#[tokio::main]
async fn main() -> ExitCode {
    let filter =
        EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("warn,zf_server=info"));
    let command = Arguments::parse().command;
    let log = tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr);
    match &command {
        Command::Serve(asked) if matches!(asked.log, LogForm::Text) => log.init(),
        _ => log.json().init(),
    }
    let done = match command {
        Command::Serve(asked) => serve::serve(&asked).await,
        Command::Scenario { out } => demo::write_files(&out),
        Command::Inspect(asked) => return inspect::run(&asked),
        Command::Rehearse(asked) => return rehearse::run(&asked),
        Command::Review(asked) => return review::run(&asked),
        Command::Statements(asked) => return statements::run(&asked),
        Command::Verify { trail: Some(file), head, .. } => trail::verify(&file, head.as_deref()),
        Command::Verify { database, member, .. } => {
            verify(database.as_deref().unwrap_or_default(), member.as_deref()).await
        }
        Command::Person { database, command } => people::person(&database, &command).await,
        Command::Books { database, command } => people::books(&database, &command).await,
        Command::Phrases => {
            phrases::list(&mut std::io::stdout().lock()).map_err(anyhow::Error::from)
        }
        Command::Errors => {
            print!("{}", zf_server::errors());
            Ok(())
        }
        Command::Openapi => {
            print!("{}", zf_server::openapi());
            Ok(())
        }
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("{error:#}");
            ExitCode::FAILURE
        }
    }
}

pub(crate) async fn opened(database: &str) -> anyhow::Result<Store> {
    anyhow::ensure!(!database.is_empty(), "say which database: --database, or DATABASE_URL");
    Store::connect(database).await.context("the database cannot be used")
}

/// How many misses of a set of books are told.
const MISSES: usize = 50;

/// The books to look at: all that there are, or those of the person with an e-mail address.
async fn books_to_verify(
    store: &Store,
    email: Option<&str>,
) -> anyhow::Result<Vec<(BooksId, String)>> {
    let Some(email) = email else { return Ok(store.all_books().await?) };
    let person = store.person_by_email(email).await?.context("nobody has this e-mail address")?;
    let summaries = store.books_of(person.id).await?;
    Ok(summaries.into_iter().map(|summary| (summary.books.id, summary.books.name)).collect())
}

/// Recounts all books, whoever is in them, and follows all chains: of a person only those of their books.
async fn verify(database: &str, email: Option<&str>) -> anyhow::Result<()> {
    let store = opened(database).await?;
    let mut sound = true;
    for (books, name) in books_to_verify(&store, email).await? {
        // What is wrong with one set of books keeps nobody from looking at the others.
        let looked = async {
            let followed = store.follow_trail(books).await?;
            Ok((store.recount_of(books).await?, store.trial_balance_of(books).await?, followed))
        };
        let (found, (trial, currency), followed) = match looked.await {
            Ok(looked) => looked,
            Err::<_, StoreError>(error) => {
                println!("{name}: cannot be recounted: {error}");
                sound = false;
                continue;
            }
        };
        println!(
            "{name}: {} lines, {} misses; the trial balance comes to {}",
            found.lines,
            found.misses.len(),
            currency.format(trial.total())
        );
        found.misses.iter().take(MISSES).for_each(|miss| println!("  {miss}"));
        if let Some(more) = found.misses.len().checked_sub(MISSES).filter(|more| *more > 0) {
            println!("  and {more} more");
        }
        sound &= trial.total() == 0 && found.misses.is_empty();
        sound &= trail::say("  its trail", &followed, true);
    }
    let followed = store.follow_server_trail().await?;
    sound &= trail::say("The trail of the server", &followed, store.has_people().await?);
    for astray in store.books_beside_trail().await? {
        println!("  {astray}");
        sound = false;
    }
    anyhow::ensure!(
        sound,
        "the lines and their totals, rows of a trail and their seals, or the books and the trail of the server, disagree"
    );
    Ok(())
}
