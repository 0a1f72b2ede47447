//! The chart of accounts: accounts, headings and sum lines, and how they hang together.

use crate::code::{Code, CodeKey, Interval};
use crate::ids::{AccountId, ById, ImportId, ItemId};
use crate::keyed::keyed;
use crate::money::Currency;
use crate::statement::Caption;
use std::collections::HashMap;
use std::sync::Arc;
use time::Date;

pub use crate::statement::{Class, Section, Structure};

keyed! {
    /// What a row of the chart is.
    Kind {
        /// A posting account: journal lines are posted to it.
        Account = "account", "account";
        /// A title that other rows stand under.
        Heading = "heading", "heading";
        /// A line that adds up code intervals.
        Sum = "sum", "sum line";
    }
}

keyed! {
    /// Where an account is in its life.
    Status {
        /// Takes postings.
        Active = "active", "active";
        /// Takes no new postings; still on reports.
        Deactivated = "deactivated", "deactivated";
        /// Takes no new postings and is out of sight; shown only in years that had amounts.
        Archived = "archived", "archived";
        /// Its history stands under another account.
        Merged = "merged", "merged";
    }
}

keyed! {
    /// A job that the books as a whole rely on one account for.
    ControlRole {
        /// Reconciled with a bank's statements.
        Bank = "bank", "bank";
        /// Carries what customers owe, by customer.
        Receivables = "receivables", "receivables";
        /// Carries what is owed to suppliers, by supplier.
        Payables = "payables", "payables";
        /// Carries stock, by item.
        Inventory = "inventory", "inventory";
        /// Collects tax due or reclaimable.
        Tax = "tax", "tax";
        /// Takes the results of earlier years.
        RetainedEarnings = "retained_earnings", "retained earnings";
        /// Takes what opening balances do not explain.
        OpeningDifference = "opening_difference", "opening difference";
        /// Holds what could not be placed yet.
        Suspense = "suspense", "suspense";
    }
}

impl ControlRole {
    /// Whether the books can have only one account of this role.
    pub const fn is_unique(self) -> bool {
        matches!(self, Self::RetainedEarnings | Self::OpeningDifference)
    }
}

/// One row of the chart.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Account {
    /// Its identity, which no renumbering changes.
    pub id: AccountId,
    /// The code it bears. A merged account keeps its last code, without holding it.
    pub code: Code,
    /// Whether the code was proposed where a file had none, and no person or plan gave one since. Such a
    /// code is no evidence of anything.
    pub code_proposed: bool,
    /// Its name; never empty.
    pub name: String,
    /// Account, heading or sum line.
    pub kind: Kind,
    /// Its class.
    pub class: Class,
    /// The line of the books' own statements that it stands under.
    pub caption: Option<Caption>,
    /// The heading it stands under.
    pub parent: Option<AccountId>,
    /// Where it is in its life.
    pub status: Status,
    /// The day from which it is deactivated or archived: what a file dates after it is asked. `None` where that is
    /// not known.
    pub status_from: Option<Date>,
    /// Whether it is presented as a deduction from another account.
    pub contra: bool,
    /// The job the books rely on it for.
    pub role: Option<ControlRole>,
    /// The one currency it may hold, if fixed.
    pub currency: Option<Currency>,
    /// What it is for.
    pub description: String,
    /// The tax code that new lines start with.
    pub tax_code: Option<String>,
    /// The account that its history stands under, if merged.
    pub merged_into: Option<AccountId>,
    /// What a sum line adds up; empty for others.
    pub intervals: Vec<Interval>,
    /// The file it came with; `None` when it was added by hand.
    pub origin: Option<ImportId>,
}

impl Account {
    /// An active posting account without any settings.
    pub fn new(id: AccountId, code: Code, name: String, class: Class) -> Self {
        Self {
            id,
            code,
            code_proposed: false,
            name,
            kind: Kind::Account,
            class,
            caption: None,
            parent: None,
            status: Status::Active,
            status_from: None,
            contra: false,
            role: None,
            currency: None,
            description: String::new(),
            tax_code: None,
            merged_into: None,
            intervals: Vec::new(),
            origin: None,
        }
    }

    /// The standard line item that its caption is, which rules ask for; `None` without a caption, and
    /// under one of the books' own making.
    pub fn standard(&self) -> Option<Section> {
        self.caption.as_ref()?.standard
    }

    /// The same, if the caption is one of its class: a class can be staged before a caption that fits.
    pub fn own_standard(&self) -> Option<Section> {
        self.standard().filter(|_| !self.is_under_foreign_caption())
    }

    /// Whether its caption belongs to another class.
    pub fn is_under_foreign_caption(&self) -> bool {
        self.caption.as_ref().is_some_and(|caption| caption.class != self.class)
    }

    /// The same account under lines that got other identities.
    pub fn under_items(mut self, ids: &HashMap<ItemId, ItemId>) -> Self {
        let other = self.caption.as_ref().and_then(|line| Some(line.renamed(*ids.get(&line.id)?)));
        self.caption = other.or(self.caption);
        self
    }

    /// What it is called on the statements: its caption, else its class.
    pub fn caption_words(&self) -> &str {
        self.caption.as_ref().map_or_else(|| self.class.words(), |caption| &caption.name)
    }

    /// Where it stands on the statements.
    pub fn place(&self) -> (Class, Option<ItemId>) {
        (self.class, self.caption.as_ref().map(|caption| caption.id))
    }

    /// Whether debits make it larger, as long as it is of a class: a contra account grows on the other side than its
    /// class does.
    pub fn grows_by_debits_as(&self, class: Class) -> bool {
        class.is_usually_debit() != self.contra
    }

    /// Whether it may hold one fixed currency: only what is settled in money does, which IAS 21.16
    /// calls a monetary item.
    pub fn may_fix_currency(&self) -> bool {
        use ControlRole::{Bank, Payables, Receivables};
        let monetary = |section| {
            matches!(
                section,
                Section::Cash | Section::Receivables | Section::Payables | Section::Borrowings
            )
        };
        self.standard().is_none_or(monetary)
            || matches!(self.role, Some(Bank | Receivables | Payables))
    }

    /// Whether the account is a row of the chart (a merged one is not).
    pub fn is_live(&self) -> bool {
        self.status != Status::Merged
    }

    /// Whether the account holds journal lines, or could.
    pub fn is_posting(&self) -> bool {
        self.kind == Kind::Account
    }

    /// Code and name, as sentences name an account.
    pub fn label(&self) -> String {
        self.called().label()
    }

    /// Its code and name.
    pub fn called(&self) -> Called<'_> {
        Called { code: &self.code, name: &self.name }
    }
}

/// What an account is called.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Called<'a> {
    /// Its code.
    pub code: &'a Code,
    /// Its name.
    pub name: &'a str,
}

impl Called<'_> {
    /// Code and name, as an account is spoken of.
    pub fn label(self) -> String {
        format!("{} {}", self.code, self.name)
    }
}

/// All accounts of a set of books. Identities are unique. Copies share the accounts that are the
/// same in both, so that a rehearsal costs what it changes.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Chart {
    accounts: Vec<Arc<Account>>,
    places: ById<usize>,
    structure: Arc<Structure>,
}

impl Chart {
    /// A chart of these accounts under the standard lines; of two with the same identity the later
    /// one stays.
    pub fn new(accounts: impl IntoIterator<Item = Account>) -> Self {
        Self::under(Structure::default(), accounts)
    }

    /// A chart of these accounts under the lines of a structure.
    pub fn under(structure: Structure, accounts: impl IntoIterator<Item = Account>) -> Self {
        let mut chart = Self { structure: Arc::new(structure), ..Self::default() };
        accounts.into_iter().for_each(|account| chart.put(account));
        chart
    }

    /// The lines of the books' own statements.
    pub fn structure(&self) -> &Arc<Structure> {
        &self.structure
    }

    /// The account with this identity.
    pub fn get(&self, id: AccountId) -> Option<&Account> {
        self.places.get(&id).map(|&at| &*self.accounts[at])
    }

    /// The account with this identity, to be shared.
    pub(crate) fn row(&self, id: AccountId) -> Option<&Arc<Account>> {
        self.places.get(&id).map(|&at| &self.accounts[at])
    }

    /// All accounts, to be shared.
    pub(crate) fn rows(&self) -> impl Iterator<Item = &Arc<Account>> {
        self.accounts.iter()
    }

    /// An identity that no account of the chart has, nor any above it.
    pub fn next_id(&self) -> AccountId {
        AccountId(self.iter().map(|account| account.id.0).max().unwrap_or(0) + 1)
    }

    /// All accounts, merged ones too, in no particular order.
    pub fn iter(&self) -> impl Iterator<Item = &Account> {
        self.accounts.iter().map(|account| &**account)
    }

    /// The accounts that are rows of the chart.
    pub fn live(&self) -> impl Iterator<Item = &Account> {
        self.iter().filter(|account| account.is_live())
    }

    /// Adds an account, or replaces the one with its identity.
    pub fn put(&mut self, account: impl Into<Arc<Account>>) {
        let account = account.into();
        if let Some(&at) = self.places.get(&account.id) {
            self.accounts[at] = account;
        } else {
            self.places.insert(account.id, self.accounts.len());
            self.accounts.push(account);
        }
    }

    /// Takes an account out.
    pub fn remove(&mut self, id: AccountId) {
        if let Some(at) = self.places.remove(&id) {
            self.accounts.swap_remove(at);
            if let Some(moved) = self.accounts.get(at) {
                self.places.insert(moved.id, at);
            }
        }
    }

    pub(crate) fn get_mut(&mut self, id: AccountId) -> Option<&mut Account> {
        self.places.get(&id).map(|&at| Arc::make_mut(&mut self.accounts[at]))
    }

    /// The live account that bears a code.
    pub fn by_code(&self, key: &CodeKey) -> Option<&Account> {
        self.live().find(|account| account.code.key() == *key)
    }

    /// The account that now holds the history of this one: itself, or where it was merged to in
    /// the end. `None` when there is no such account any more.
    pub fn holder(&self, id: AccountId) -> Option<&Account> {
        let mut account = self.get(id)?;
        // Merges cannot form a circle; the bound keeps damaged data from hanging the program.
        for _ in 0..=self.accounts.len() {
            match account.merged_into {
                Some(next) if account.status == Status::Merged => account = self.get(next)?,
                _ => return Some(account),
            }
        }
        None
    }

    /// The headings above an account, from the nearest.
    pub fn above(&self, account: &Account) -> impl Iterator<Item = &Account> {
        let heading = |account: &Account| account.parent.and_then(|id| self.get(id));
        // Headings in a circle are stopped elsewhere; here they must not hang the program.
        std::iter::successors(heading(account), move |above| heading(above))
            .take(self.accounts.len())
    }

    /// The live rows as an outline: each heading followed by what stands under it, by code, with
    /// the depth of each row. Rows whose parent is missing stand at the top.
    pub fn outline(&self) -> Vec<(&Account, usize)> {
        let mut under: HashMap<Option<AccountId>, Vec<&Account>> = HashMap::new();
        for account in self.live() {
            let parent = account.parent.filter(|p| self.get(*p).is_some_and(Account::is_live));
            under.entry(parent).or_default().push(account);
        }
        for rows in under.values_mut() {
            rows.sort_by(|a, b| b.code.chart_order(&a.code).then(b.id.cmp(&a.id)));
        }
        let mut rows = Vec::with_capacity(self.accounts.len());
        let mut open: Vec<(&Account, usize)> = Vec::new();
        let mut push = |open: &mut Vec<_>, parent, depth| {
            open.extend(
                under.remove(&parent).unwrap_or_default().into_iter().map(|row| (row, depth)),
            );
        };
        push(&mut open, None, 0);
        while let Some((account, depth)) = open.pop() {
            rows.push((account, depth));
            push(&mut open, Some(account.id), depth + 1);
        }
        rows
    }
}
