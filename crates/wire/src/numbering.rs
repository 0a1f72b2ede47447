//! Numbering schemes, and proposals for new codes.

use crate::rehearsal::{FindingView, RewrittenView};
use serde::{Deserialize, Serialize};
use zf_core::chart::{Account, Class, Section};
use zf_core::code::Interval;
use zf_core::ids::PlanId;
use zf_core::numbering::map::{Band, Map, Tick};
use zf_core::numbering::scope::Order;
use zf_core::statement::Caption;
use zf_core::today::Today;
use zf_core::trial_balance::balance;

/// A numbering scheme: the form of codes, and the blocks they belong to.
#[derive(Serialize, Deserialize, utoipa::ToSchema)]
pub struct SchemeForm {
    /// In words: `4 digits`, `4-6 digits`, `1-12 characters`, or a picture such as `##-####`.
    pub format: String,
    pub blocks: Vec<BlockForm>,
}

/// A block of codes.
#[derive(Serialize, Deserialize, utoipa::ToSchema)]
pub struct BlockForm {
    pub class: Class,
    /// The section that it is kept for; none for all of the class.
    pub section: Option<Section>,
    /// The codes, such as `5000 to 5999`.
    pub codes: String,
}

/// The scheme of the books, and those it can start from.
#[derive(Serialize, utoipa::ToSchema)]
pub struct SchemeView {
    pub scheme: SchemeForm,
    pub starting: Vec<StartingScheme>,
}

/// A scheme that ships with the application.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StartingScheme {
    pub name: &'static str,
    pub about: &'static str,
    pub scheme: SchemeForm,
}

/// Which accounts a rule is for; the one that is given counts.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ScopeForm {
    /// All rows.
    All,
    /// These rows.
    Accounts(Vec<i64>),
    /// A heading and all under it.
    Under(i64),
    /// All of a class.
    Class(Class),
    /// Those whose codes lie in a stretch, such as `5000 to 5999`.
    Codes(String),
    /// Those whose code begins with each word, or whose name has it.
    Words(String),
}

/// In which order rows get their codes.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum OrderForm {
    /// As their codes stand.
    Code,
    /// By name within each heading.
    Name,
    /// The largest balance first within each heading.
    Balance,
}

/// A piece of a code, counted from one.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PieceForm {
    /// All of it.
    Whole,
    /// What stands between two separators.
    Segment(usize),
    /// So many characters from one on.
    Characters { from: usize, count: usize },
}

/// What is done with a piece.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CodeEditForm {
    /// Another text in its place, where it reads so; wherever it reads nothing special, everywhere.
    Replace { reads: String, with: String },
    /// A text before it.
    Insert(String),
    /// It is gone.
    Remove,
    /// Zeros until it is so wide.
    Pad {
        width: usize,
        /// Whether they stand in front.
        front: bool,
    },
}

/// How codes are made; the one that is given counts.
#[derive(Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RuleForm {
    /// Counted up from a code.
    Spread {
        start: String,
        step: u64,
        /// Numbers left free below the rows of each heading.
        gap: u64,
        order: OrderForm,
    },
    /// Spread over the blocks of the scheme.
    Fit {
        /// As far as there is room when missing.
        step: Option<u64>,
        order: OrderForm,
    },
    /// Something is done to a piece of each code.
    Rewrite { piece: PieceForm, edit: CodeEditForm },
    /// Something stands before and behind each code.
    Affix { prefix: String, suffix: String },
}

/// New accounts after existing ones.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct CopyingForm {
    /// What names read where they differ.
    pub reads: String,
    /// What stands there in the new names.
    pub with: String,
}

/// A rule for some accounts, on top of a plan.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct NumberingForm {
    /// The draft; the chart as it stands when missing.
    pub plan: Option<i64>,
    /// The rule and whom it is for; only the map is drawn when missing.
    pub rule: Option<ScopedRule>,
}

/// A rule for some accounts.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct ScopedRule {
    pub scope: ScopeForm,
    pub rule: RuleForm,
    /// Make new accounts after these, in place of renumbering them.
    pub copying: Option<CopyingForm>,
}

/// What a rule proposes, and what would come of it.
#[derive(Serialize, utoipa::ToSchema)]
pub struct NumberingView {
    pub codes: Vec<ProposalView>,
    pub refused: Vec<RefusedView>,
    pub findings: Vec<FindingView>,
    /// Accounts that would stand between others on the statements than today.
    pub out_of_order: Vec<i64>,
    /// Sum lines and lines of reports that follow, with what they add up now and then.
    pub rewritten: Vec<RewrittenView>,
    pub map: MapView,
}

/// A proposed code.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ProposalView {
    /// The account, or the one that a new account is made after.
    pub account: i64,
    pub from: String,
    pub to: String,
    /// The name that a new account has.
    pub name: Option<String>,
    /// What is worth knowing of it.
    pub note: String,
}

/// An account that gets no code.
#[derive(Serialize, utoipa::ToSchema)]
pub struct RefusedView {
    pub account: i64,
    pub reason: String,
}

/// The line of codes.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MapView {
    pub bands: Vec<BandView>,
    pub ticks: Vec<TickView>,
    /// Whether no numbering scheme sets the bands: they are inferred from the codes that there are.
    pub inferred: bool,
}

/// A stretch of the line; all are drawn equally wide.
#[derive(Serialize, utoipa::ToSchema)]
pub struct BandView {
    pub title: String,
    pub first: String,
    pub last: String,
    /// How many codes there are.
    pub room: u64,
    pub today: usize,
    pub after: usize,
    /// The longest stretch of free codes after, such as `5600 to 5999`.
    pub free: Option<String>,
}

/// A row on the line, from 0 to 1.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TickView {
    pub account: i64,
    pub today: Option<f64>,
    pub after: Option<f64>,
    /// Outside its block today, and after.
    pub outside_today: bool,
    pub outside_after: bool,
}

impl MapView {
    pub fn of(map: Map) -> Self {
        let title = |band: &Band| match (band.section, band.class) {
            (Some(section), _) => section.words().to_owned(),
            (None, Some(class)) => class.words().to_owned(),
            (None, None) => String::new(),
        };
        let band = |band: &Band| BandView {
            title: title(band),
            first: band.codes.first().to_string(),
            last: band.codes.last().to_string(),
            room: band.room,
            today: band.today,
            after: band.after,
            free: band.free.as_ref().map(Interval::to_string),
        };
        let tick = |tick: &Tick| TickView {
            account: tick.account.0,
            today: tick.today,
            after: tick.after,
            outside_today: tick.stray,
            outside_after: tick.strays,
        };
        Self {
            bands: map.bands.iter().map(band).collect(),
            ticks: map.ticks.iter().map(tick).collect(),
            inferred: map.inferred,
        }
    }
}

/// Where a code would stand.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PlaceView {
    /// Whether the code can be taken.
    pub free: bool,
    /// What is to be said of it, in a sentence.
    pub message: String,
    /// The next free code of the class and section.
    pub next: Option<String>,
    /// What belongs in the section, in a sentence.
    pub about: &'static str,
    /// Accounts of the same section, as examples of it.
    pub neighbours: Vec<String>,
    /// The tax code that most of them start with.
    pub tax: Option<String>,
    /// The statement item that it would stand under; none when it would stand under none.
    pub item: Option<ItemContents>,
}

/// A statement item with what it holds today.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ItemContents {
    pub name: String,
    pub accounts: usize,
    /// What they come to on the day of the books, as the statement shows it.
    pub amount: String,
}

impl ItemContents {
    pub fn of(item: &Caption, class: Class, today: &Today) -> Self {
        let place = (class, Some(item.id));
        let own: Vec<&Account> = today.chart.live().filter(|a| a.place() == place).collect();
        let sum: i128 = own.iter().map(|a| balance(a, &today.figures_of(a.id))).sum();
        Self {
            name: item.name.clone(),
            accounts: own.len(),
            amount: today.currency.format(sum * i128::from(class.shown_as())),
        }
    }
}

impl From<OrderForm> for Order {
    fn from(form: OrderForm) -> Self {
        match form {
            OrderForm::Code => Self::Code,
            OrderForm::Name => Self::Name,
            OrderForm::Balance => Self::Balance,
        }
    }
}

/// Which code, and for what.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Sought {
    /// The draft; the chart as it stands when missing.
    #[param(value_type = Option<i64>)]
    pub plan: Option<PlanId>,
    /// The code; the next free one is answered in any case.
    pub code: Option<String>,
    /// The account that is to have it.
    pub account: Option<i64>,
    /// The class, when it is not there yet.
    pub class: Option<Class>,
    /// The statement item that it is to stand under.
    pub caption: Option<i64>,
}
