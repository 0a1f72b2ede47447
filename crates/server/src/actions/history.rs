//! Moving history: what a split of an account would do, before it is staged like any other change.

use super::cards::line_view;
use crate::extract::Form;
use crate::session::In;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use std::collections::{BTreeMap, BTreeSet, HashMap};
use zf_core::dimension::{self, DimensionValue};
use zf_core::history::Split;
use zf_core::history::cut::Tally;
use zf_core::history::preview::preview;
use zf_core::ids::AccountId;
use zf_core::rehearsal::report;
use zf_core::today::Today;
use zf_phrases::Style;
use zf_phrases::changes::which;
use zf_store::member::Member;
use zf_wire::cards::LineView;
use zf_wire::history::{HistoryView, OverlapView, SideView, TallyView};
use zf_wire::rehearsal::MovedYear;

/// How many lines of each part are shown.
const SAMPLE: usize = 100;

/// How many payees are offered.
const PAYEES: usize = 200;

/// Shows what a split of an account's history would do.
#[utoipa::path(post, operation_id = "history_preview", path = "/api/books/{books}/accounts/{account}/history",
    params(("books" = i64, Path), ("account" = i64, Path)), request_body = Split,
    responses((status = 200, body = HistoryView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Path((_, account)): Path<(i64, i64)>,
    Form(split): Form<Split>,
) -> Result<Json<HistoryView>, Problem> {
    split.look_at().map_err(|why| Problem::field("parts", why))?;
    let snapshot = app.snapshot(member).await?;
    let today = &snapshot.today;
    let account = AccountId(account);
    let added = app.store.added_accounts(member).await?;
    // A part that goes nowhere yet is 0.
    let known = |id: AccountId| id.0 == 0 || today.chart.get(id).is_some() || added.contains(&id);
    if let Some(part) = split.parts.iter().find(|part| !known(part.to)) {
        let why = format!("no account has the number {}, in the books or in a draft", part.to);
        return Err(Problem::field("to", why));
    }
    let dealt = app.store.deal(member, account, &split, SAMPLE).await?;
    let previewed = preview(today, account, &split, &dealt.cuts);
    let samples = Samples::read(&app, member, &dealt.samples, today).await?;
    let overlap = |(_, first, second, lines)| OverlapView { first, second, lines };
    let mut payees: Vec<_> = dealt.payees.into_iter().filter(|(who, _)| !who.is_empty()).collect();
    payees.sort_by(|a, b| b.1.cmp(&a.1).then_with(|| a.0.cmp(&b.0)));
    let dimensions = dealt.dimensions.iter().flat_map(|text| dimension::values(text));
    let dimensions: BTreeSet<DimensionValue> = dimensions.collect();
    let style = Style(member.forms());
    let words: Vec<_> = split.parts.iter().map(|part| which(&part.which, style)).collect();
    let parts = words.into_iter().zip(&previewed.parts).enumerate();
    let parts = parts.map(|(at, (which, tally))| samples.tally(which, tally, Some(at), today));
    Ok(Json(HistoryView {
        split,
        parts: parts.collect(),
        left: samples.tally("no part takes them".to_owned(), &previewed.left, None, today),
        overlaps: dealt.cuts.overlaps().map(overlap).collect(),
        sides: previewed.sides.into_iter().map(|side| SideView::of(side, today)).collect(),
        payees: payees.into_iter().take(PAYEES).map(|(who, _)| who).collect(),
        dimensions: dimensions.into_iter().collect(),
    }))
}

/// The latest lines of each part.
struct Samples(BTreeMap<Option<usize>, Vec<LineView>>);

impl Samples {
    async fn read(
        app: &App,
        member: Member,
        ids: &BTreeMap<Option<usize>, Vec<i64>>,
        today: &Today,
    ) -> Result<Self, Problem> {
        let all: Vec<i64> = ids.values().flatten().copied().collect();
        let part_of: HashMap<i64, Option<usize>> =
            ids.iter().flat_map(|(part, ids)| ids.iter().map(|id| (*id, *part))).collect();
        let mut samples: BTreeMap<Option<usize>, Vec<LineView>> = BTreeMap::new();
        for row in app.store.lines(member, &all).await? {
            if let Some(part) = part_of.get(&row.id) {
                samples.entry(*part).or_default().push(line_view(row, today.currency));
            }
        }
        Ok(Self(samples))
    }

    fn tally(&self, which: String, tally: &Tally, part: Option<usize>, today: &Today) -> TallyView {
        TallyView {
            which,
            lines: tally.lines(),
            net: today.currency.format(tally.net()),
            cleared: tally.cleared,
            years: report::MovedYear::of(tally, today.calendar)
                .iter()
                .map(|year| MovedYear::of(year, today.currency))
                .collect(),
            sample: self.0.get(&part).cloned().unwrap_or_default(),
        }
    }
}
