//! Letters about people's accounts: what they say, and to whom. Whoever is concerned gets one, and so do
//! the owners of all books that they are in, since whoever takes an account takes what it opens.

use crate::App;
use zf_store::StoreError;
use zf_store::books::members::Addressee;
use zf_store::people::Person;

/// What became of somebody's account, or of what it opens.
#[derive(Clone, Debug)]
pub(crate) enum News {
    /// Somebody else had a link for a new password sent to them.
    LinkSent {
        /// Who had it sent.
        by: String,
    },
    /// They have another password.
    PasswordChanged {
        /// Who had the link for it sent, if that was somebody else.
        by_link_of: Option<String>,
    },
    /// No second factor is asked of them any more.
    FactorRemoved {
        /// Who removed it, if that was somebody else.
        by: Option<String>,
    },
    /// They can see books, or can do something else there than before.
    LetIn {
        /// The books.
        books: String,
        /// As what.
        roles: String,
        /// By whom.
        by: String,
    },
}

impl News {
    fn subject(&self) -> &'static str {
        match self {
            Self::LinkSent { .. } => "A link for a new password was sent",
            Self::PasswordChanged { .. } => "A password for Zero Fold was changed",
            Self::FactorRemoved { .. } => "A second factor for Zero Fold was removed",
            Self::LetIn { .. } => "Somebody was added to books",
        }
    }

    /// What is said of it, with whom it is about: “your” or “Hazel Brook’s”, “you were” or “Hazel Brook was”.
    fn sentence(&self, whose: &str, who_was: &str) -> String {
        match self {
            Self::LinkSent { by } => {
                format!(
                    "{by} had a link sent by which {whose} password can be chosen anew within an hour."
                )
            }
            Self::PasswordChanged { by_link_of: Some(by) } => {
                format!("{whose} password was chosen anew, by a link that {by} had sent.")
            }
            Self::PasswordChanged { by_link_of: None } => format!("{whose} password was changed."),
            Self::FactorRemoved { by: Some(by) } => {
                format!("{by} removed {whose} second factor: the password alone is asked for.")
            }
            Self::FactorRemoved { by: None } => {
                format!("{whose} second factor was removed: the password alone is asked for.")
            }
            Self::LetIn { books, roles, by } => {
                format!("{who_was} added to the books “{books}” as {roles}, by {by}.")
            }
        }
    }
}

fn capital(sentence: &str) -> String {
    let mut letters = sentence.chars();
    let first = letters.next().map(char::to_uppercase);
    first.into_iter().flatten().chain(letters).collect()
}

impl App {
    /// Tells somebody what became of their account, and the owners of the books that they are in; behind
    /// the answer, since that a letter was not sent undoes nothing. It is logged.
    ///
    /// # Errors
    /// When it cannot be found out who the owners are.
    pub(crate) async fn tell(&self, person: &Person, news: News) -> Result<(), StoreError> {
        let owners = self.store.owners_around(person.id).await?;
        let (app, person) = (self.clone(), person.clone());
        tokio::spawn(async move {
            // Whoever gets the link itself knows.
            if !matches!(news, News::LinkSent { .. }) {
                let own = capital(&news.sentence("your", "you were"));
                let text = format!(
                    "Hello {},\n\n{own}\n\nIf this is not what you expect, ask for a new password at once, and \
                     tell whoever owns your books.\n",
                    person.name
                );
                app.post(&person.email, news.subject(), text).await;
            }
            let of_others = capital(
                &news.sentence(&format!("{}’s", person.name), &format!("{} was", person.name)),
            );
            for Addressee { name, email } in owners {
                let text = format!(
                    "Hello {name},\n\n{of_others}\n\nYou are told because {} ({}) is a member of books that you own. \
                     If this is not what you expect, ask them, and take them out of the books until you know.\n",
                    person.name, person.email
                );
                app.post(&email, news.subject(), text).await;
            }
        });
        Ok(())
    }

    /// Sends a letter that nobody waits for.
    pub(crate) async fn post(&self, to: &str, subject: &str, text: String) {
        if let Err(problem) = self.config.mail().send(to, subject, text).await {
            tracing::error!(cause = problem.cause, "a letter about an account was not sent");
        }
    }
}
