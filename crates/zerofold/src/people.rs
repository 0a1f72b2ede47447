//! People and who is a member of what, on the database of a server.

use anyhow::{Context, ensure};
use clap::Subcommand;
use std::io::{BufRead, IsTerminal, stdin};
use zf_core::ids::BooksId;
use zf_store::Store;
use zf_store::books::people::Person;

/// The fewest characters of a password.
const SHORTEST: usize = 12;

/// What is done about people.
#[derive(Subcommand)]
pub(crate) enum PersonCommand {
    /// Adds somebody who can sign in; the password is asked for, or read from standard input.
    Add {
        /// The e-mail address that they sign in with.
        email: String,
        /// Their name, as others see it.
        #[arg(long)]
        name: String,
    },
    /// Gives somebody another password; it is asked for, or read from standard input.
    Password {
        /// Their e-mail address.
        email: String,
    },
    /// Lists everybody who can sign in.
    List,
    /// Removes somebody: they sign in no more and are a member of no books. The trail keeps their name.
    Remove {
        /// Their e-mail address.
        email: String,
    },
}

/// What is done about sets of books.
#[derive(Subcommand)]
pub(crate) enum BooksCommand {
    /// Lists all sets of books with their numbers.
    List,
    /// Lists the members of a set of books, or lets somebody in.
    Members {
        /// The number of the books, as their address in the browser has it.
        books: i64,
        /// Lets in the person with this e-mail address.
        #[arg(long)]
        add: Option<String>,
        /// Makes them a reviewer, who may go on in spite of some stops.
        #[arg(long, requires = "add")]
        reviewer: bool,
    },
}

pub(crate) async fn person(database: &str, command: &PersonCommand) -> anyhow::Result<()> {
    let store = &crate::opened(database).await?;
    match command {
        PersonCommand::Add { email, name } => {
            let name = name.trim();
            let is_address =
                email.split_once('@').is_some_and(|(a, b)| !a.is_empty() && !b.is_empty());
            ensure!(
                is_address && !email.contains(char::is_whitespace),
                "“{email}” is no e-mail address"
            );
            ensure!(
                !name.is_empty() && name.chars().count() <= 120,
                "give a name of at most 120 characters"
            );
            zf_core::text::look_at(email)?;
            zf_core::text::look_at(name)?;
            let there = store.person_by_email(email).await?;
            ensure!(there.is_none(), "{email} is there already; see `zerofold person password`");
            store.add_person(email, name, &hash()?).await?;
            println!("{name} can sign in as {}", email.to_lowercase());
        }
        PersonCommand::Password { email } => {
            let Person { email, name, .. } = known(store, email).await?;
            store.add_person(&email, &name, &hash()?).await?;
            println!("{name} has another password");
        }
        PersonCommand::List => {
            for (person, books) in store.people().await? {
                println!("{}\t{}\tmember of {books} sets of books", person.email, person.name);
            }
        }
        PersonCommand::Remove { email } => {
            let person = known(store, email).await?;
            store.remove_person(person.id).await?;
            println!("{} signs in no more", person.name);
        }
    }
    Ok(())
}

pub(crate) async fn books(database: &str, command: &BooksCommand) -> anyhow::Result<()> {
    let store = &crate::opened(database).await?;
    let all = store.all_books().await?;
    let BooksCommand::Members { books, add, reviewer } = command else {
        all.iter().for_each(|(id, name)| println!("{id}\t{name}"));
        return Ok(());
    };
    let found = all.iter().find(|(id, _)| *id == BooksId(*books));
    let (id, _) = found
        .with_context(|| format!("no books have the number {books}; see `zerofold books list`"))?;
    if let Some(email) = add {
        let person = known(store, email).await?;
        store.let_in(*id, person.id, *reviewer).await?;
    }
    for (person, reviewer) in store.members(*id).await? {
        println!("{}\t{}{}", person.email, person.name, if reviewer { "\treviewer" } else { "" });
    }
    Ok(())
}

async fn known(store: &Store, email: &str) -> anyhow::Result<Person> {
    let person = store.person_by_email(email).await?;
    person.with_context(|| format!("nobody has the e-mail address {email}"))
}

/// The hash of a password: typed twice at a terminal, or the first line of standard input.
fn hash() -> anyhow::Result<String> {
    let password = if stdin().is_terminal() {
        let password = rpassword::prompt_password("Password: ")?;
        ensure!(password == rpassword::prompt_password("Once more: ")?, "the two are not the same");
        password
    } else {
        let mut line = String::new();
        stdin().lock().read_line(&mut line)?;
        line.trim_end_matches(['\n', '\r']).to_owned()
    };
    ensure!(password.chars().count() >= SHORTEST, "a password has at least {SHORTEST} characters");
    Ok(password_auth::generate_hash(password))
}
