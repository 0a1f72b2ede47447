//! The statements: the classes of accounts, the standard line items, and the lines that a set of books
//! has of its own.

mod structure;

pub use structure::{Caption, ItemKind, Operand, StatementItem, Structure, Term};

use crate::keyed::keyed;

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
    /// Whether its accounts usually stand in debit: those of what is owned and what is spent.
    pub const fn is_usually_debit(self) -> bool {
        matches!(self, Self::Asset | Self::Expense)
    }

    /// What a person reads on the statements is debits less credits times this, 1 or -1: what is owed and what was
    /// earned are more than nothing, what was spent is less.
    pub const fn shown_as(self) -> i8 {
        if matches!(self, Self::Asset) { 1 } else { -1 }
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
