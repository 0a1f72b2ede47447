//! For whoever watches over a server: whether it is alive, whether it can do its work, and what was
//! measured of it.

use crate::App;
use crate::boxed;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use axum::routing::get;
use axum::{Json, Router};
use tokio::net::TcpListener;
use zf_wire::health::Ready;

/// Says that the server is alive.
pub(crate) async fn health() -> &'static str {
    "alive\n"
}

/// Says whether it can do its work: 503 when it cannot, with what is missing.
pub(crate) async fn ready(State(app): State<App>) -> (StatusCode, Json<Ready>) {
    let schema = app.store.schema_is_known().await;
    let ready = Ready {
        database: schema.is_ok(),
        migrations: schema.unwrap_or(false),
        jobs: app.has_workers(),
    };
    let all = ready.database && ready.migrations && ready.jobs;
    (if all { StatusCode::OK } else { StatusCode::SERVICE_UNAVAILABLE }, Json(ready))
}

/// Shows what was measured at an address of its own, for as long as the server runs.
///
/// # Errors
/// When the listener fails.
#[boxed]
pub async fn show_metrics(app: App, listener: TcpListener) -> std::io::Result<()> {
    let router = Router::new().route("/metrics", get(metrics)).with_state(app);
    axum::serve(listener, router).await
}

async fn metrics(State(app): State<App>) -> Response {
    // That the database is away is told by `/ready`; what was measured before is told all the same.
    let waiting = app.store.jobs_waiting().await.ok();
    match app.metrics.text(app.store.connections(), waiting) {
        Ok(text) => {
            let kind = "application/openmetrics-text; version=1.0.0; charset=utf-8";
            ([(header::CONTENT_TYPE, kind)], text).into_response()
        }
        Err(_) => StatusCode::INTERNAL_SERVER_ERROR.into_response(),
    }
}
