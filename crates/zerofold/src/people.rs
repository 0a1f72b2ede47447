//! People and who is a member of what, on the database of a server.

use anyhow::{Context, ensure};
use clap::Subcommand;
use std::io::{BufRead, IsTerminal, stdin};
use zf_core::access::{Role, Roles};
use zf_core::ids::BooksId;
use zf_store::Store;
use zf_store::people::links::Admission;
use zf_store::people::{Listed, Person};
use zf_store::trail::Actor;

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
    /// Makes somebody an administrator, who lets people in and opens new books.
    Administrator {
        /// Their e-mail address.
        email: String,
        /// Makes them an ordinary person again.
        #[arg(long)]
        end: bool,
    },
    /// Asks somebody for no second factor any more, who lost it together with their recovery codes.
    WithoutFactor {
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
        /// As what: owner, reviewer, preparer or reader; several with commas.
        #[arg(
            long,
            requires = "add",
            value_delimiter = ',',
            default_value = "owner,reviewer,preparer"
        )]
        roles: Vec<String>,
    },
}

pub(crate) async fn person(database: &str, command: &PersonCommand) -> anyhow::Result<()> {
    let store = &crate::opened(database).await?;
    match command {
        PersonCommand::Add { email, name } => {
            let email = &zf_core::people::email(email)?;
            let name = &zf_core::people::name(name)?;
            let there = store.person_by_email(email).await?;
            ensure!(there.is_none(), "{email} is there already; see `zerofold person password`");
            store.add_person(email, name, &hash(&[name, email])?).await?;
            println!("{name} can sign in as {email}");
        }
        PersonCommand::Password { email } => {
            let Person { id, email, name, .. } = known(store, email).await?;
            let hash = hash(&[&name, &email])?;
            store.change_password(Actor::command_line(), id, &hash, None).await?;
            println!("{name} has another password");
        }
        PersonCommand::Administrator { email, end } => {
            let person = known(store, email).await?;
            store.administer(Actor::command_line(), person.id, !end).await?;
            let now = if *end { "administers no more" } else { "administers this server" };
            println!("{} {now}", person.name);
        }
        PersonCommand::WithoutFactor { email } => {
            let person = known(store, email).await?;
            store.remove_factor(Actor::command_line(), person.id).await?;
            println!("{} signs in with the password alone", person.name);
        }
        PersonCommand::List => {
            for Listed { person, books, .. } in store.people().await? {
                let administers = if person.administrator { "\tadministrator" } else { "" };
                let (email, name) = (person.email, person.name);
                println!("{email}\t{name}\tmember of {books} sets of books{administers}");
            }
        }
        PersonCommand::Remove { email } => {
            let person = known(store, email).await?;
            store.remove_person(Actor::command_line(), person.id).await?;
            println!("{} signs in no more", person.name);
        }
    }
    Ok(())
}

pub(crate) async fn books(database: &str, command: &BooksCommand) -> anyhow::Result<()> {
    let store = &crate::opened(database).await?;
    let all = store.all_books().await?;
    let BooksCommand::Members { books, add, roles } = command else {
        all.iter().for_each(|(id, name)| println!("{id}\t{name}"));
        return Ok(());
    };
    let found = all.iter().find(|(id, _)| *id == BooksId(*books));
    let (id, _) = found
        .with_context(|| format!("no books have the number {books}; see `zerofold books list`"))?;
    if let Some(email) = add {
        let person = known(store, email).await?;
        let each: anyhow::Result<Vec<Role>> = roles.iter().map(|role| known_role(role)).collect();
        let roles = Roles::of(each?)?;
        let admission = Admission { books: *id, roles, plan: None, until: None };
        store.add_member(person.id, &admission).await?;
    }
    for member in store.members(*id).await? {
        println!("{}\t{}\t{}", member.email, member.name, member.roles.words());
    }
    Ok(())
}

fn known_role(key: &str) -> anyhow::Result<Role> {
    let role = Role::from_key(key).filter(|role| *role != Role::Guest);
    role.with_context(|| {
        format!("“{key}” is no role; there are owner, reviewer, preparer and reader")
    })
}

async fn known(store: &Store, email: &str) -> anyhow::Result<Person> {
    let person = store.person_by_email(email).await?;
    person.with_context(|| format!("nobody has the e-mail address {email}"))
}

/// The hash of a password of somebody known by these words: typed twice at a terminal, or the first line of
/// standard input.
fn hash(own: &[&str]) -> anyhow::Result<String> {
    let password = if stdin().is_terminal() {
        let password = rpassword::prompt_password("Password: ")?;
        ensure!(password == rpassword::prompt_password("Once more: ")?, "the two are not the same");
        password
    } else {
        let mut line = String::new();
        stdin().lock().read_line(&mut line)?;
        line.trim_end_matches(['\n', '\r']).to_owned()
    };
    zf_server::passwords::look_at(&password, own)?;
    Ok(password_auth::generate_hash(password))
}
