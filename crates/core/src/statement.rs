//! The statements: the classes of accounts, the standard line items, and the lines that a set of books
//! has of its own.

use crate::ids::LineId;
use crate::keyed::keyed;
use std::ops::Deref;
use std::sync::Arc;

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

    /// What the class is called over its lines.
    pub const fn title(self) -> &'static str {
        match self {
            Self::Asset => "Assets",
            Self::Liability => "Liabilities",
            Self::Equity => "Equity",
            Self::Income => "Income",
            Self::Expense => "Expenses",
        }
    }

    /// Whether the class stands on the balance sheet (else on the income statement).
    pub const fn on_balance_sheet(self) -> bool {
        matches!(self, Self::Asset | Self::Liability | Self::Equity)
    }
}

keyed! {
    /// The standard lines of statements, after the line items of IAS 1 paragraphs 54 and 82, with the
    /// usual subdivisions of paragraph 78 and 102 to 103. Rules ask which of them a line is.
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

    /// The classes whose accounts may stand there.
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

keyed! {
    /// What a line of a statement is.
    LineKind {
        /// A title over lines.
        Heading = "heading", "heading";
        /// A line that accounts stand under.
        Line = "line", "line";
        /// What the lines above it add up to.
        Total = "total", "total";
    }
}

/// A line of the books' own statements.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct StatementLine {
    /// Its identity.
    pub id: LineId,
    /// The heading that it stands under.
    pub parent: Option<LineId>,
    /// What it is.
    pub kind: LineKind,
    /// The class of the accounts under it.
    pub class: Class,
    /// What it is called.
    pub name: String,
    /// Which of the standard line items it is, if it is one; rules are silent about others.
    pub standard: Option<Section>,
    /// Whether no account is put under it any more. Plans and proofs may still name it.
    pub retired: bool,
}

/// A line as the accounts under it know it: their caption.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Caption(Arc<StatementLine>);

impl Caption {
    /// The same line under another identity.
    pub(crate) fn renamed(&self, id: LineId) -> Self {
        Self(Arc::new(StatementLine { id, ..StatementLine::clone(self) }))
    }
}

impl Deref for Caption {
    type Target = StatementLine;

    fn deref(&self) -> &StatementLine {
        &self.0
    }
}

/// The tree of lines that the statements of a set of books have.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Structure {
    /// In their order.
    lines: Vec<Caption>,
}

impl Default for Structure {
    fn default() -> Self {
        Self::standard((1..).map(LineId))
    }
}

impl Structure {
    /// A structure of these lines, in their order.
    pub fn new(lines: impl IntoIterator<Item = StatementLine>) -> Self {
        Self { lines: lines.into_iter().map(|line| Caption(Arc::new(line))).collect() }
    }

    /// How many lines the standard structure has.
    pub fn standard_size() -> usize {
        Self::default().lines.len()
    }

    /// The standard line items, under a heading for each class: what a set of books begins with. An
    /// item that stands in two classes is two lines. It has as many lines as there are identities.
    pub fn standard(ids: impl IntoIterator<Item = LineId>) -> Self {
        let mut ids = ids.into_iter();
        let mut lines = Vec::new();
        for class in Class::ALL {
            let Some(heading) = ids.next() else { break };
            let line = |id, parent, kind, name: &str, standard| StatementLine {
                id,
                parent,
                kind,
                class: *class,
                name: name.to_owned(),
                standard,
                retired: false,
            };
            lines.push(line(heading, None, LineKind::Heading, class.title(), None));
            let own = Section::ALL.iter().filter(|section| section.classes().contains(class));
            lines.extend(own.zip(&mut ids).map(|(section, id)| {
                line(id, Some(heading), LineKind::Line, section.words(), Some(*section))
            }));
        }
        Self::new(lines)
    }

    /// All lines, in their order; retired ones too.
    pub fn lines(&self) -> impl Iterator<Item = &StatementLine> {
        self.lines.iter().map(|line| &**line)
    }

    /// The lines that accounts can be put under, in their order.
    pub fn captions(&self) -> impl Iterator<Item = &StatementLine> {
        self.lines().filter(|line| line.kind == LineKind::Line && !line.retired)
    }

    /// The line with this identity, as the caption of an account.
    pub fn caption(&self, id: LineId) -> Option<Caption> {
        let line = self.lines.iter().find(|line| line.id == id && line.kind == LineKind::Line);
        line.cloned()
    }

    /// The line that a standard item is in a class.
    pub fn of_standard(&self, class: Class, standard: Section) -> Option<Caption> {
        let fits = |line: &&Caption| line.class == class && line.standard == Some(standard);
        let fitting = self.lines.iter().filter(|line| line.kind == LineKind::Line).filter(fits);
        fitting.min_by_key(|line| line.retired).cloned()
    }
}
