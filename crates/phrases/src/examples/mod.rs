//! An example of each sentence, of made-up books: for whoever reads over what the program says.

mod intake;
mod terms;
mod trail;

pub use intake::{of_questions, of_rows};
pub use terms::{of_refusals, of_statements, of_terms};
pub use trail::{events, of_items, of_trail};

use crate::findings::{remedy, sentence, title};
use crate::{Say, review};
use time::Date;
use time::macros::date;
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Status};
use zf_core::code::{Code, Interval};
use zf_core::dimension::DimensionValue;
use zf_core::history::Which;
use zf_core::ids::{AccountId, ItemId};
use zf_core::money::Currency;
use zf_core::names::Charts;
use zf_core::plan::{Change, Field};
use zf_core::policy::Objection;
use zf_core::rehearsal::cause::{Cause, Disagreement, Since, SumOf, Unfit};
use zf_core::rehearsal::finding::Remedy;
use zf_core::rehearsal::rule::{Rule, Severity};
use zf_core::review::look_alikes::{InCommon, Observation, Then};
use zf_core::review::remarks::{NameForm, Remark, RemarkKind, Seen};

/// What is said of one thing.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Example {
    /// The key of what it is said of.
    pub key: &'static str,
    /// What kind of thing it is, in a few words.
    pub title: &'static str,
    /// An example of the sentence.
    pub sentence: String,
    /// What there is to do, where only a person can do it.
    pub advice: Option<String>,
}

const COAL: AccountId = AccountId(1);
const WOOD: AccountId = AccountId(2);
const BANK: AccountId = AccountId(3);
const DAY: Date = date!(2026 - 05 - 31);
const EARLIER: Date = date!(2024 - 10 - 07);
const PAYABLES: ItemId = ItemId(11);
const RESERVES: ItemId = ItemId(18);

fn chart() -> Chart {
    let account = |id: AccountId, code: &str, name: &str, class| {
        Some(Account::new(id, Code::parse(code).ok()?, name.to_owned(), class))
    };
    let rows = [
        account(COAL, "5010", "Coal", Class::Expense),
        account(WOOD, "5020", "Firewood", Class::Expense),
        account(BANK, "1010", "Bank", Class::Asset),
    ];
    Chart::new(rows.into_iter().flatten())
}

/// What is said in the made-up books.
fn examples<T>(say: impl FnOnce(&Say<'_>, &Chart) -> Vec<T>) -> Vec<T> {
    let chart = chart();
    let names = Charts { today: &chart, after: &chart };
    let currency = Currency::parse("EUR");
    currency.map_or_else(|_| Vec::new(), |euro| say(&Say::plain(&names, euro), &chart))
}

/// An example of each rule's sentence; those that cannot be made are left out.
pub fn of_rules() -> Vec<Example> {
    examples(|say, chart| {
        let example = |rule: &Rule| {
            let cause = cause(*rule, chart, say.currency)?;
            let advice = remedy(&Remedy::Advice, &cause, say);
            Some(Example {
                key: rule.key(),
                title: title(*rule),
                sentence: sentence(&cause, Severity::Stop, say),
                advice: Some(advice).filter(|advice| !advice.is_empty()),
            })
        };
        Rule::ALL.iter().filter_map(example).collect()
    })
}

/// An example of each remark.
pub fn of_remarks() -> Vec<Example> {
    examples(|say, _| {
        let example = |kind: &RemarkKind| {
            let remark = Remark {
                kind: *kind,
                accounts: vec![COAL],
                item: Some(PAYABLES),
                seen: seen(*kind),
                proposed: None,
                score: None,
            };
            let (key, title) = (kind.key(), review::title(*kind));
            Example { key, title, sentence: say.remark(&remark), advice: None }
        };
        RemarkKind::ALL.iter().map(example).collect()
    })
}

/// An example of each piece of evidence for look-alikes.
pub fn of_evidence() -> Vec<String> {
    examples(|say, _| observations().iter().map(|seen| say.observation(seen)).collect())
}

fn cause(rule: Rule, chart: &Chart, currency: Currency) -> Option<Cause> {
    let (account, other) = (COAL, WOOD);
    let (merged, survivor, from, to) = (WOOD, COAL, WOOD, COAL);
    let code = || chart.get(COAL).map(|row| row.code.clone());
    let (class, kind, role) = (Class::Expense, Kind::Heading, ControlRole::Bank);
    let name = |name: &str| Change::Name(name.to_owned());
    let intervals = || Interval::parse_list("5000 to 5999").unwrap_or_default();
    let uses = || vec!["bank rule “Coal”".to_owned(), "budget line “Fuel”".to_owned()];
    let both = || vec![COAL, WOOD];
    let places = ((Class::Liability, Some(PAYABLES)), (Class::Equity, Some(RESERVES)));
    let classes = (Class::Asset, Class::Expense);
    let (lines, cleared) = (1_204, 12);
    let part = || Which { payee: "Harrock".to_owned(), until: Some(EARLIER), ..Which::default() };
    Some(match rule {
        Rule::AccountGone => Cause::AccountGone { account, merged_into: Some(WOOD) },
        Rule::BaseChanged => Cause::BaseChanged {
            account,
            field: Field::Name,
            base: name("Coal"),
            staged: name("Steam coal"),
            now: name("Fuel"),
        },
        Rule::AddedIncomplete => Cause::AddedIncomplete { account },
        Rule::CodeTaken => Cause::CodeTaken { code: code()?, accounts: both() },
        Rule::CodeFormat => {
            let objection = Objection::Length { length: 5, min: 4, max: 4 };
            Cause::CodeFormat { account, code: code()?, objection }
        }
        Rule::CodeUnlike => Cause::CodeUnlike { form: "A-9".to_owned(), accounts: both() },
        Rule::CodeOutsideBlock => {
            Cause::CodeOutsideBlock { account, class, standard: None, blocks: intervals() }
        }
        Rule::CodeReused => Cause::CodeReused { account, code: code()?, former: vec![WOOD] },
        Rule::NameTaken => Cause::NameTaken { accounts: both() },
        Rule::MergeCircle => Cause::MergeCircle { accounts: both() },
        Rule::MergeChain => Cause::MergeChain { account, first: WOOD, end: BANK },
        Rule::MergeIntoRetired => {
            let why = Unfit::Status(Status::Deactivated);
            Cause::MergeIntoRetired { merged, survivor, why }
        }
        Rule::MergeKind => Cause::MergeKind { merged, survivor, kinds: (Kind::Account, kind) },
        Rule::MergeClass => Cause::MergeClass { merged, survivor, classes },
        Rule::MergeCurrency => {
            Cause::MergeCurrency { merged, survivor, currencies: (Some(currency), None) }
        }
        Rule::MergeRole => Cause::MergeRole { merged, survivor, role, other: None },
        Rule::MergeSettings => {
            let tax = Disagreement::Tax(Some("T1".to_owned()), None);
            let item = Disagreement::Caption(Some(PAYABLES), Some(RESERVES));
            let heading = Disagreement::Parent(None, Some(BANK));
            let differ = vec![item, heading, tax, Disagreement::Contra(true)];
            Cause::MergeSettings { merged, survivor, differ }
        }
        Rule::MergeBankCleared => Cause::MergeBankCleared { merged, survivor, cleared },
        Rule::ChildrenLeft => Cause::ChildrenLeft { parent: BANK, rows: both() },
        Rule::DeleteUsed => Cause::DeleteUsed { account, lines },
        Rule::DeleteMerged => Cause::DeleteMerged { account, merged },
        Rule::DeleteNamed => Cause::DeleteNamed { account, uses: uses() },
        Rule::DeleteControl => Cause::DeleteControl { account: BANK, role },
        Rule::DeleteUnproven => {
            Cause::DeleteUnproven { account, given: true, since: Some(EARLIER) }
        }
        Rule::ArchiveBalance => Cause::ArchiveBalance { account },
        Rule::ArchiveRecent => Cause::ArchiveRecent { account, last: DAY, prior_year: EARLIER },
        Rule::ArchiveControl => Cause::ArchiveControl { account: BANK, role },
        Rule::ArchiveNamed => Cause::ArchiveNamed { account, uses: uses() },
        Rule::DeactivateControl => Cause::DeactivateControl { account: BANK, role },
        Rule::DeactivateBalance => Cause::DeactivateBalance { account: BANK, balance: -123_456 },
        Rule::DeactivateRecent => {
            Cause::DeactivateRecent { account, this_year: 3, last_year: 41, last: DAY }
        }
        Rule::RestoreNothing => Cause::RestoreNothing { account, status: Status::Merged },
        Rule::ClassWithin => Cause::ClassWithin { account, from: Class::Income, to: class },
        Rule::ClassAcross => {
            Cause::ClassAcross { account, from: Class::Asset, to: class, older: lines }
        }
        Rule::KindUsed => Cause::KindUsed { account, lines, kind },
        Rule::SumEmpty => Cause::SumEmpty { account },
        Rule::RoleTaken => Cause::RoleTaken { account, other: BANK, role },
        Rule::CurrencyNotAllowed => Cause::CurrencyNotAllowed { account, currency },
        Rule::CurrencyMixed => Cause::CurrencyMixed { account: BANK, currency, lines },
        Rule::ContraChanges => Cause::ContraChanges { account, contra: true },
        Rule::SectionForeign => Cause::SectionForeign { account, class, caption: Some(PAYABLES) },
        Rule::SectionDropped => Cause::SectionDropped { account, from: PAYABLES },
        Rule::ParentUnfit => {
            let found = Some((Status::Archived, kind));
            Cause::ParentUnfit { account, parent: BANK, found }
        }
        Rule::ParentCircle => Cause::ParentCircle { accounts: both() },
        Rule::ParentClass => {
            Cause::ParentClass { account, class, parent: BANK, of_parent: Class::Asset }
        }
        Rule::MoveNowhere => Cause::MoveNowhere { from, to, why: Unfit::Kind(kind) },
        Rule::MoveOverlap => {
            let (first, second) = ((COAL, part()), (BANK, Which::default()));
            Cause::MoveOverlap { from, lines, first, second }
        }
        Rule::MoveNothing => Cause::MoveNothing { from, to, which: part() },
        Rule::MoveCurrency => Cause::MoveCurrency { from, to, lines, currency },
        Rule::MoveControl => Cause::MoveControl { from: BANK, to, lines, role },
        Rule::MoveBankCleared => Cause::MoveBankCleared { from: BANK, to, lines, cleared },
        Rule::MoveCaption => Cause::MoveCaption { from, to, lines, net: 123_456, places },
        Rule::MoveAcross => Cause::MoveAcross { from, to, lines, classes },
        Rule::LockedTotal => Cause::LockedTotal { from, to, until: DAY, places },
        Rule::SumLost => Cause::SumLost { sum: other, intervals: intervals() },
        Rule::ReportLineLost => Cause::ReportLineLost {
            name: "report layout “Board”".to_owned(),
            intervals: intervals(),
            members: both(),
        },
        Rule::SumEdge => {
            let sum = SumOf::Report("report layout “Board”".to_owned());
            Cause::SumEdge { sum, before: 123_456, after: 120_000, crossing: vec![WOOD] }
        }
        Rule::UndoLater => Cause::UndoLater { plan: "Tidy up".to_owned(), shared: both() },
        Rule::UndoKept => {
            Cause::UndoKept { account, since: Since::Named("bank rule “Coal”".to_owned()) }
        }
    })
}

fn seen(kind: RemarkKind) -> Seen {
    let (class, others) = (Class::Expense, Class::Income);
    match kind {
        RemarkKind::HeadingPosted => Seen::HeadingPosted { kind: Kind::Heading, lines: 1_204 },
        RemarkKind::SuspenseBalance => Seen::SuspenseBalance { balance: 123_456 },
        RemarkKind::InactiveBalance => {
            Seen::InactiveBalance { status: Status::Archived, balance: 123_456 }
        }
        RemarkKind::ClassContradicted => {
            let (debits, credits, percent) = (0, 123_456, Some(87));
            Seen::ClassContradicted { class, right: others, debits, credits, percent }
        }
        RemarkKind::UnusualSide => Seen::UnusualSide { class, balance: -123_456 },
        RemarkKind::OutOfBlock => Seen::AmongOthers { class, others },
        RemarkKind::ParentClass => {
            Seen::ParentClass { class, parent: BANK, of_parent: Class::Asset }
        }
        RemarkKind::BankSilent => Seen::BankSilent { last: Some(EARLIER), balance: 50 },
        RemarkKind::HeadingEmpty => Seen::HeadingEmpty,
        RemarkKind::LoneChild => Seen::LoneChild { row: WOOD },
        RemarkKind::ItemEmpty => Seen::ItemEmpty { class: Class::Liability },
        RemarkKind::SmallShare => Seen::SmallShare { years: vec![(40, 30_040), (50, 31_050)] },
        RemarkKind::CodeWidth => Seen::CodeWidth { width: 5, usual: 4, others: 212 },
        RemarkKind::ControlByName => Seen::ControlByName { role: ControlRole::Bank },
        RemarkKind::NameForm => {
            Seen::NameForm(NameForm::Slip("tickt".to_owned(), "ticket".to_owned()))
        }
    }
}

fn observations() -> Vec<Observation> {
    let names = |in_common| Observation::Names(COAL, WOOD, in_common);
    let pair = |one: &str, other: &str| (one.to_owned(), other.to_owned());
    let words = |words: [&str; 2]| words.map(str::to_owned);
    vec![
        names(InCommon::NoWord),
        names(InCommon::EachSaysMore(words(["coal", "firewood"]))),
        names(InCommon::OneSaysMore("firewood".to_owned())),
        names(InCommon::TellingWords),
        names(InCommon::AllWords),
        names(InCommon::Meaning(vec![pair("coal", "fuel")])),
        Observation::Marked(WOOD),
        Observation::NeighbouringCodes(COAL, WOOD),
        Observation::CodeVariants(COAL, WOOD),
        Observation::OtherPlace,
        Observation::SameHeading,
        Observation::SameItem,
        Observation::OtherTax,
        Observation::NeverPosted(WOOD, COAL),
        Observation::BothInUse,
        Observation::Stopped(WOOD, EARLIER, COAL, Then::StartsThere),
        Observation::OtherAmounts,
        Observation::OtherRhythm,
        Observation::OtherPeople,
        Observation::SamePeople(words(["Harrock & Sons", "Pell"]).to_vec()),
        Observation::SamePhrases(words(["coal", "sacks"]).to_vec()),
        Observation::SameCounterAccounts(vec![BANK]),
        Observation::OtherDimensions,
        Observation::SameDimensions(vec![DimensionValue {
            name: "site".to_owned(),
            value: "Larkfell".to_owned(),
        }]),
    ]
}
