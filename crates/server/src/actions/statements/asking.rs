//! What is asked of the statements, and the books read as it says.

use crate::state::off_thread;
use crate::values::{day, within};
use crate::{App, Problem};
use zf_core::calendar::Period;
use zf_core::ids::PlanId;
use zf_core::plan::Plan;
use zf_core::rehearsal::rehearse;
use zf_core::reports::columns::{Beside, Columns, MOST, Span};
use zf_core::reports::reading::{Read, Reading};
use zf_store::member::Member;
use zf_wire::statements::StatementsQuery;

/// How the statements are shown, with what was not asked for filled in.
pub(super) struct Shown {
    pub(super) against: Option<Reading>,
    pub(super) span: Span,
    pub(super) beside: Beside,
    pub(super) in_thousands: bool,
    /// Whether there is a plan.
    pub(super) is_planned: bool,
}

/// Looks at the books as they are asked for: with the rehearsal of the plan, or one of nothing.
pub(super) async fn look<T: Send + 'static>(
    app: &App,
    member: Member,
    asked: StatementsQuery,
    answer: impl FnOnce(&Read<'_>, &Shown) -> T + Send + 'static,
) -> Result<T, Problem> {
    let count = within("count", asked.count.unwrap_or(3), 1..=MOST)?;
    let until = day("until", asked.until.as_deref())?;
    let (snapshot, rehearsed) = app.looked_at(member, asked.plan.map(PlanId)).await?;
    off_thread(move || {
        let today = &snapshot.today;
        let bare;
        let (rehearsal, usual) = match &rehearsed {
            Some(rehearsed) => (&rehearsed.rehearsal, Reading::AsPlanned),
            None => {
                bare = rehearse(today, &Plan::default());
                (&bare, Reading::AsItIs)
            }
        };
        let last = until.map(|day| today.calendar.period_of(day)).or(today.activity.last());
        let shown = Shown {
            against: asked.against,
            span: asked.span.unwrap_or(Span::Year),
            beside: asked.beside.unwrap_or(Beside::Before),
            in_thousands: asked.in_thousands.unwrap_or_default(),
            is_planned: rehearsed.is_some(),
        };
        let columns = |last: Period| {
            let (span, beside) = (shown.span, shown.beside);
            Columns { last, span, beside, count }.months(today.activity.first())
        };
        let columns = last.map(columns).unwrap_or_default();
        let reading = asked.reading.unwrap_or(usual);
        answer(&Read::new(today, rehearsal, reading, &columns), &shown)
    })
    .await
}
