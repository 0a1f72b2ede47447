//! The program: serves the application, loads the demo books, writes their files, recounts, inspects, rehearses and
//! reviews files, and draws up statements of them.

mod demo;
mod files;
mod found;
mod inspect;
mod people;
mod rehearse;
mod review;
mod statements;

use anyhow::Context;
use clap::{Parser, Subcommand};
use inspect::Inspect;
use people::{BooksCommand, PersonCommand};
use rehearse::Rehearse;
use review::Review;
use statements::Statements;
use std::path::PathBuf;
use std::process::ExitCode;
use tracing_subscriber::EnvFilter;
use zf_server::App;
use zf_store::books::BooksSummary;
use zf_store::member::Member;
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
    /// Serves the application on loopback until it is stopped.
    Serve {
        /// The database, PostgreSQL 15 or later.
        #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
        database: String,
        /// The port; 0 takes a free one.
        #[arg(long, env = "PORT", default_value_t = 4870)]
        port: u16,
        /// Loads the demo books first when there are none, and prints a sign-in for them.
        #[arg(long)]
        demo: bool,
    },
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
    /// Draws up the statements of the books that a chart and a journal make, without a database.
    Statements(Statements),
    /// Recounts books from their lines and compares with the totals that reports read.
    Verify {
        /// The database, PostgreSQL 15 or later.
        #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
        database: String,
        /// Whose books: the e-mail address of a member.
        #[arg(long)]
        member: String,
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
    tracing_subscriber::fmt().json().with_env_filter(filter).with_writer(std::io::stderr).init();
    let done = match Arguments::parse().command {
        Command::Serve { database, port, demo } => serve(&database, port, demo).await,
        Command::Scenario { out } => demo::write_files(&out),
        Command::Inspect(asked) => return inspect::run(&asked),
        Command::Rehearse(asked) => return rehearse::run(&asked),
        Command::Review(asked) => return review::run(&asked),
        Command::Statements(asked) => return statements::run(&asked),
        Command::Verify { database, member } => verify(&database, &member).await,
        Command::Person { database, command } => people::person(&database, &command).await,
        Command::Books { database, command } => people::books(&database, &command).await,
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

async fn serve(database: &str, port: u16, with_demo: bool) -> anyhow::Result<()> {
    let store = Store::connect(database).await.context("the database cannot be used")?;
    let app = App::new(store);
    if with_demo {
        demo::load(&app).await?;
    }
    let listener = tokio::net::TcpListener::bind(("127.0.0.1", port))
        .await
        .with_context(|| format!("port {port} is taken; set PORT to another"))?;
    println!("Zero Fold is at http://{}", listener.local_addr()?);
    if with_demo {
        println!("Sign in as {} with the password {}", demo::EMAIL, demo::PASSWORD);
    }
    zf_server::serve(app, listener, stopped()).await?;
    Ok(())
}

/// Ends on Ctrl-C, and when the command that started the server ends it.
async fn stopped() {
    use tokio::signal::unix::{SignalKind, signal};
    let Ok(mut terminated) = signal(SignalKind::terminate()) else {
        return std::future::pending().await;
    };
    tokio::select! {
        _ = tokio::signal::ctrl_c() => {}
        _ = terminated.recv() => {}
    }
}

/// The books of the person with an e-mail address, each with the right to open it.
async fn books_of(store: &Store, email: &str) -> anyhow::Result<Vec<(Member, BooksSummary)>> {
    let person = store.person_by_email(email).await?.context("nobody has this e-mail address")?;
    let mut opened = Vec::new();
    for summary in store.books_of(person.id).await? {
        opened.push((store.member(person.id, summary.books.id).await?, summary));
    }
    Ok(opened)
}

async fn verify(database: &str, email: &str) -> anyhow::Result<()> {
    let store = Store::connect(database).await.context("the database cannot be used")?;
    let mut sound = true;
    for (member, summary) in books_of(&store, email).await? {
        // What is wrong with one set of books keeps nobody from looking at the others.
        let looked =
            async { Ok((store.recount(member).await?, store.trial_balance(member).await?)) };
        let (found, trial) = match looked.await {
            Ok((found, balance)) => (found, balance.total()),
            Err::<_, StoreError>(error) => {
                println!("{}: cannot be recounted: {error}", summary.books.name);
                sound = false;
                continue;
            }
        };
        println!(
            "{}: {} lines, {} misses; the trial balance comes to {}",
            summary.books.name,
            found.lines,
            found.misses.len(),
            summary.books.currency.format(trial)
        );
        sound &= trial == 0;
        found.misses.iter().for_each(|miss| println!("  {miss}"));
        sound &= found.misses.is_empty();
    }
    anyhow::ensure!(sound, "the lines and their totals disagree");
    Ok(())
}
