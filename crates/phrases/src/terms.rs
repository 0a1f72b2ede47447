//! What a person may do, and what belongs into each class and section.

use zf_core::access::Capability;
use zf_core::chart::{Class, Section};

/// What a capability allows, as a sentence goes on after “to”.
pub const fn capability(capability: Capability) -> &'static str {
    match capability {
        Capability::SeePlan => "see a plan and what it would do",
        Capability::See => "see everything of the books",
        Capability::Export => "export files",
        Capability::Comment => "say why something that was found stays as it is",
        Capability::Stage => "change plans",
        Capability::Import => "import files and undo imports",
        Capability::Apply => "apply plans and undo them",
        Capability::Override => "go on in spite of a stop, with a reason",
        Capability::Lock => "lock the books up to a day",
        Capability::Unlock => "open locked periods again, with a reason",
        Capability::Configure => "change settings: name, year, scheme, statement items, policy",
        Capability::ManageMembers => "say who is a member, and as what",
        Capability::Dispose => "archive the books, or delete them",
    }
}

/// What belongs there, in a sentence for whom adds an account (Conceptual Framework 4.3 to 4.69).
pub const fn class(class: Class) -> &'static str {
    match class {
        Class::Asset => "What is owned, or controlled, and will be of use.",
        Class::Liability => "What is owed to others.",
        Class::Equity => "What would be left to the owners once all debts were paid.",
        Class::Income => "What makes equity grow, other than what owners put in.",
        Class::Expense => "What makes equity shrink, other than what owners take out.",
    }
}

/// What belongs there, in a sentence for whom adds an account.
pub const fn section(section: Section) -> &'static str {
    match section {
        Section::Cash => "Money at hand and at banks, and what can be turned into it at once.",
        Section::Receivables => "What customers and others owe and will pay in money.",
        Section::Inventories => "Goods, materials and work that are there to be sold or used up.",
        Section::Prepayments => {
            "What was paid before its time, and other assets of a year or less."
        }
        Section::Property => {
            "Land, buildings, machines and vehicles, and what was written off them so far."
        }
        Section::Intangibles => "Rights, licences, software and goodwill.",
        Section::Investments => "Shares, bonds and loans that are held for what they yield.",
        Section::Payables => "What is owed to suppliers, staff and others.",
        Section::Taxes => "Tax that is due, and tax that can be claimed back.",
        Section::DeferredIncome => "Money received for what is still to be delivered.",
        Section::Borrowings => "Loans, overdrafts and leases.",
        Section::Provisions => "What will have to be paid, though not yet when or how much.",
        Section::Capital => {
            "What the owners or donors put in, and funds that are bound to a purpose."
        }
        Section::RetainedEarnings => "Results of earlier years that were kept.",
        Section::Revenue => "What the business earns by what it is there for.",
        Section::OtherIncome => {
            "Income from anything else: interest, grants, rents, gains on disposal."
        }
        Section::CostOfSales => "What it costs to buy or make what is sold.",
        Section::Staff => "Wages, social security, pensions and what else is spent on staff.",
        Section::Depreciation => "What is written off property and intangible assets in a year.",
        Section::Administration => "Running the office: premises, insurance, telephone, fees.",
        Section::OtherExpense => "Costs that belong nowhere else.",
        Section::FinanceCosts => "Interest and charges on what was borrowed.",
        Section::IncomeTax => "Tax on the profit of the year.",
    }
}
