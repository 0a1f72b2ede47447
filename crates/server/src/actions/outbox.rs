//! The letters in the folder that stands in for a mail server.

use crate::state::off_thread;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use zf_store::StoreError;
use zf_wire::letters::LetterView;
use zf_wire::values::instant;

/// Lists the letters in the folder, the latest first.
#[utoipa::path(get, operation_id = "outbox_list", path = "/api/outbox",
    responses((status = 200, body = Vec<LetterView>), (status = "4XX", body = Problem)))]
pub(crate) async fn list(State(app): State<App>) -> Result<Json<Vec<LetterView>>, Problem> {
    if !app.config.shows_letters() {
        return Err(StoreError::NotFound("outbox").into());
    }
    let running = app.config.clone();
    let letters = off_thread(move || running.mail().letters()).await??;
    let view = letters.into_iter().map(|(at, letter)| LetterView {
        at: instant(at),
        to: letter.to,
        subject: letter.subject,
        text: letter.text,
    });
    Ok(Json(view.collect()))
}
