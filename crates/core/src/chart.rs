//! The chart of accounts: accounts, headings and sum lines, and how they hang together.

use crate::code::{Code, CodeKey, Interval};
use crate::ids::{AccountId, ById, ImportId};
use crate::money::Currency;
use std::collections::HashMap;
use std::sync::Arc;

/// Declares an enum whose values have one stable key each, for storage and interchange, and one
/// English word or phrase to show. It serialises as its key.
macro_rules! keyed {
    ($(#[$doc:meta])* $name:ident { $($(#[$vdoc:meta])* $variant:ident = $key:literal, $word:literal;)+ }) => {
        $(#[$doc])*
        #[derive(
            Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize,
        )]
        pub enum $name { $($(#[$vdoc])* #[serde(rename = $key)] $variant,)+ }

        #[cfg(feature = "schema")]
        impl utoipa::ToSchema for $name {}

        // A derived one would have the names of the variants for the keys.
        #[cfg(feature = "schema")]
        impl utoipa::PartialSchema for $name {
            fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
                utoipa::openapi::schema::ObjectBuilder::new()
                    .schema_type(utoipa::openapi::schema::Type::String)
                    .enum_values(Some([$($key),+]))
                    .into()
            }
        }

        impl $name {
            /// Every value, in the order of declaration.
            pub const ALL: &'static [Self] = &[$(Self::$variant),+];

            /// The stable key used in storage and interchange.
            pub const fn key(self) -> &'static str {
                match self { $(Self::$variant => $key,)+ }
            }

            /// The words shown to a person.
            pub const fn words(self) -> &'static str {
                match self { $(Self::$variant => $word,)+ }
            }

            /// The value with this key.
            pub fn from_key(key: &str) -> Option<Self> {
                Self::ALL.iter().copied().find(|value| value.key() == key)
            }
        }
    };
}
pub(crate) use keyed;

keyed! {
    /// The five classes of double-entry bookkeeping.
    Class {
        /// What is owned.
        Asset = "asset", "asset";
        /// What is owed.
        Liability = "liability", "liability";
        /// What is left to the owners.
        Equity = "equity", "equity";
        /// What was earned.
        Income = "income", "income";
        /// What was spent.
        Expense = "expense", "expense";
    }
}

impl Class {
    /// What belongs there, in a sentence for whom adds an account (Conceptual Framework 4.3 to 4.69).
    pub const fn about(self) -> &'static str {
        match self {
            Self::Asset => "What is owned, or controlled, and will be of use.",
            Self::Liability => "What is owed to others.",
            Self::Equity => "What would be left to the owners once all debts were paid.",
            Self::Income => "What makes equity grow, other than what owners put in.",
            Self::Expense => "What makes equity shrink, other than what owners take out.",
        }
    }

    /// Whether the class stands on the balance sheet (else on the income statement).
    pub const fn on_balance_sheet(self) -> bool {
        matches!(self, Self::Asset | Self::Liability | Self::Equity)
    }
}

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

keyed! {
    /// The captions of the statements that an account is shown under, after the line items of
    /// IAS 1 paragraphs 54 and 82, with the usual subdivisions of paragraph 78 and 102 to 103.
    Section {
        /// Cash and cash equivalents (IAS 1.54 i).
        Cash = "cash", "cash and cash equivalents";
        /// Trade and other receivables (IAS 1.54 h).
        Receivables = "receivables", "trade and other receivables";
        /// Inventories (IAS 1.54 g).
        Inventories = "inventories", "inventories";
        /// Prepayments and other current assets.
        Prepayments = "prepayments", "prepayments";
        /// Property, plant and equipment (IAS 1.54 a).
        Property = "property", "property, plant and equipment";
        /// Intangible assets (IAS 1.54 c).
        Intangibles = "intangibles", "intangible assets";
        /// Investments and other financial assets (IAS 1.54 d).
        Investments = "investments", "investments";
        /// Trade and other payables (IAS 1.54 k).
        Payables = "payables", "trade and other payables";
        /// Taxes due and reclaimable (IAS 1.54 n).
        Taxes = "taxes", "taxes";
        /// Deferred income (IFRS 15 calls it a contract liability).
        DeferredIncome = "deferred_income", "deferred income";
        /// Borrowings (IAS 1.54 m).
        Borrowings = "borrowings", "borrowings";
        /// Provisions (IAS 1.54 l).
        Provisions = "provisions", "provisions";
        /// Contributed capital and funds (IAS 1.54 r).
        Capital = "capital", "capital and funds";
        /// Retained earnings (IAS 1.78 e).
        RetainedEarnings = "retained_earnings", "retained earnings";
        /// Revenue (IAS 1.82 a).
        Revenue = "revenue", "revenue";
        /// Other income (IAS 1.103).
        OtherIncome = "other_income", "other income";
        /// Cost of sales (IAS 1.103).
        CostOfSales = "cost_of_sales", "cost of sales";
        /// Employee benefits (IAS 1.102).
        Staff = "staff", "employee benefits";
        /// Depreciation and amortisation (IAS 1.102).
        Depreciation = "depreciation", "depreciation and amortisation";
        /// Administrative expenses (IAS 1.103).
        Administration = "administration", "administrative expenses";
        /// Other expenses (IAS 1.102 and 103).
        OtherExpense = "other_expense", "other expenses";
        /// Finance costs (IAS 1.82 b).
        FinanceCosts = "finance_costs", "finance costs";
        /// Income tax expense (IAS 1.82 d).
        IncomeTax = "income_tax", "income tax";
    }
}

impl ControlRole {
    /// Whether the books can have only one account of this role.
    pub const fn is_unique(self) -> bool {
        matches!(self, Self::RetainedEarnings | Self::OpeningDifference)
    }
}

impl Section {
    /// What belongs there, in a sentence for whom adds an account.
    pub const fn about(self) -> &'static str {
        match self {
            Self::Cash => "Money at hand and at banks, and what can be turned into it at once.",
            Self::Receivables => "What customers and others owe and will pay in money.",
            Self::Inventories => "Goods, materials and work that are there to be sold or used up.",
            Self::Prepayments => {
                "What was paid before its time, and other assets of a year or less."
            }
            Self::Property => {
                "Land, buildings, machines and vehicles, and what was written off them so far."
            }
            Self::Intangibles => "Rights, licences, software and goodwill.",
            Self::Investments => "Shares, bonds and loans that are held for what they yield.",
            Self::Payables => "What is owed to suppliers, staff and others.",
            Self::Taxes => "Tax that is due, and tax that can be claimed back.",
            Self::DeferredIncome => "Money received for what is still to be delivered.",
            Self::Borrowings => "Loans, overdrafts and leases.",
            Self::Provisions => "What will have to be paid, though not yet when or how much.",
            Self::Capital => {
                "What the owners or donors put in, and funds that are bound to a purpose."
            }
            Self::RetainedEarnings => "Results of earlier years that were kept.",
            Self::Revenue => "What the business earns by what it is there for.",
            Self::OtherIncome => {
                "Income from anything else: interest, grants, rents, gains on disposal."
            }
            Self::CostOfSales => "What it costs to buy or make what is sold.",
            Self::Staff => "Wages, social security, pensions and what else is spent on staff.",
            Self::Depreciation => "What is written off property and intangible assets in a year.",
            Self::Administration => "Running the office: premises, insurance, telephone, fees.",
            Self::OtherExpense => "Costs that belong nowhere else.",
            Self::FinanceCosts => "Interest and charges on what was borrowed.",
            Self::IncomeTax => "Tax on the profit of the year.",
        }
    }

    /// The classes whose accounts may stand in the section.
    pub const fn classes(self) -> &'static [Class] {
        match self {
            Self::Cash | Self::Receivables | Self::Inventories | Self::Prepayments => {
                &[Class::Asset]
            }
            Self::Property | Self::Intangibles | Self::Investments => &[Class::Asset],
            Self::Payables | Self::DeferredIncome | Self::Borrowings | Self::Provisions => {
                &[Class::Liability]
            }
            Self::Taxes => &[Class::Liability, Class::Asset],
            Self::Capital | Self::RetainedEarnings => &[Class::Equity],
            Self::Revenue | Self::OtherIncome => &[Class::Income],
            Self::CostOfSales | Self::Staff | Self::Depreciation | Self::Administration => {
                &[Class::Expense]
            }
            Self::OtherExpense | Self::FinanceCosts | Self::IncomeTax => &[Class::Expense],
        }
    }
}

/// One row of the chart.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Account {
    /// Its identity, which no renumbering changes.
    pub id: AccountId,
    /// The code it bears. A merged account keeps its last code, without holding it.
    pub code: Code,
    /// Its name; never empty.
    pub name: String,
    /// Account, heading or sum line.
    pub kind: Kind,
    /// Its class.
    pub class: Class,
    /// The caption of the statements that it stands under.
    pub section: Option<Section>,
    /// The heading it stands under.
    pub parent: Option<AccountId>,
    /// Where it is in its life.
    pub status: Status,
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
            name,
            kind: Kind::Account,
            class,
            section: None,
            parent: None,
            status: Status::Active,
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

    /// The section, if it is one of the class: a class can be staged before a section that fits it.
    pub fn own_section(&self) -> Option<Section> {
        self.section.filter(|section| section.classes().contains(&self.class))
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
        self.section.is_none_or(monetary)
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
        format!("{} {}", self.code, self.name)
    }
}

/// All accounts of a set of books. Identities are unique. Copies share the accounts that are the
/// same in both, so that a rehearsal costs what it changes.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Chart {
    accounts: Vec<Arc<Account>>,
    places: ById<usize>,
}

impl Chart {
    /// A chart of these accounts; of two with the same identity the later one stays.
    pub fn new(accounts: impl IntoIterator<Item = Account>) -> Self {
        let mut chart = Self::default();
        accounts.into_iter().for_each(|account| chart.put(account));
        chart
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
    pub fn bearing(&self, key: &CodeKey) -> Option<&Account> {
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
