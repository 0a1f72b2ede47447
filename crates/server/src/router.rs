//! All addresses on one screen, and the layers around them.

use crate::access::Operations;
use crate::actions::imports::following;
use crate::actions::{
    account, applications, books, cards, chart, dismissed, files, history, imports, items, journal,
    links, members, merging, numbering, outbox, people, plans, review, sessions, settings,
    statements, summary, trail,
};
use crate::boxed;
use crate::jobs;
use crate::{App, assets, connections, headers, health, metrics, middleware, session};
use axum::Router;
use axum::extract::DefaultBodyLimit;
use axum::http::StatusCode;
use axum::middleware::{from_fn, from_fn_with_state};
use axum::routing::get;
use futures_util::future::BoxFuture;
use std::sync::Arc;
use std::time::Duration;
use tokio::net::TcpListener;
use tokio::task::JoinSet;
use tower_http::compression::CompressionLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::timeout::{RequestBodyTimeoutLayer, TimeoutLayer};
use tower_sessions::cookie::SameSite;
use tower_sessions::{ExpiredDeletion, Expiry, SessionManagerLayer};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use zf_store::{BrowserSessions, StoreError};

/// What surrounds a file in an upload, at most.
const AROUND: usize = 1 << 16;

/// The largest of all other requests: a plan pasted for the largest chart.
const FORM: usize = 4 << 20;

/// The largest sign-in, which anybody may send.
const SIGN_IN: usize = 1 << 16;

/// The longest an answer may take; to hand out a large journal is the slowest. An upload may take as
/// long as something comes.
const ANSWER: Duration = Duration::from_secs(300);

/// The longest that nothing comes of a request.
const SILENCE: Duration = Duration::from_secs(30);

/// How long a session lasts without being used.
const SESSION_DAYS: i64 = 7;

/// How often sessions that have ended are deleted.
const TIDYING: Duration = Duration::from_secs(3_600);

/// All operations, with files of so many bytes at most.
fn api(upload: usize) -> OpenApiRouter<App> {
    let in_time = TimeoutLayer::with_status_code(StatusCode::GATEWAY_TIMEOUT, ANSWER);
    let sign_in = OpenApiRouter::new()
        .routes(routes!(sessions::sign_in, sessions::sign_out, sessions::who))
        .routes(routes!(links::look))
        .routes(routes!(links::follow))
        .routes(routes!(links::confirm))
        .routes(routes!(links::forgot))
        .layer(DefaultBodyLimit::max(SIGN_IN));
    let forms = forms().layer(DefaultBodyLimit::max(FORM));
    let uploads = OpenApiRouter::new()
        .routes(routes!(imports::list, imports::upload))
        .layer(DefaultBodyLimit::max(upload + AROUND));
    sign_in.merge(forms).layer(in_time).merge(uploads)
}

fn forms() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(books::list, books::create))
        .routes(routes!(settings::show, settings::change, settings::preview))
        .routes(routes!(settings::lock, settings::unlock))
        .routes(routes!(settings::archived))
        .routes(routes!(settings::delete))
        .routes(routes!(chart::show))
        .routes(routes!(cards::show))
        .routes(routes!(cards::lines))
        .routes(routes!(history::show))
        .routes(routes!(numbering::scheme, numbering::configure))
        .routes(routes!(numbering::show))
        .routes(routes!(numbering::copy))
        .routes(routes!(numbering::code))
        .routes(routes!(plans::list, plans::create))
        .routes(routes!(plans::show, plans::rename, plans::discard))
        .routes(routes!(plans::edit))
        .routes(routes!(plans::step))
        .routes(routes!(plans::crosswalk))
        .routes(routes!(plans::trial_balances))
        .routes(routes!(plans::add_account))
        .routes(routes!(plans::override_stop))
        .routes(routes!(summary::show))
        .routes(routes!(statements::show))
        .routes(routes!(statements::months))
        .routes(routes!(statements::trial_balance))
        .routes(routes!(statements::file))
        .routes(routes!(journal::show))
        .routes(routes!(applications::apply))
        .routes(routes!(applications::show))
        .routes(routes!(applications::crosswalk))
        .routes(routes!(applications::trial_balances))
        .routes(routes!(applications::rehearse_undo, applications::undo))
        .routes(routes!(files::proof))
        .routes(routes!(files::export))
        .routes(routes!(files::form))
        .routes(routes!(imports::show, imports::choose, imports::agree, imports::discard))
        .routes(routes!(following::progress, following::cancel))
        .routes(routes!(imports::rejected))
        .routes(routes!(imports::rollback_preview, imports::roll_back))
        .routes(routes!(imports::stage))
        .routes(routes!(review::show))
        .routes(routes!(review::mark_not_duplicates))
        .routes(routes!(review::unmark_not_duplicates))
        .routes(routes!(dismissed::dismiss))
        .routes(routes!(dismissed::forget))
        .routes(routes!(merging::show))
        .routes(routes!(cards::follow, cards::unfollow))
        .routes(routes!(items::show, items::change))
        .routes(routes!(items::read_list))
        .routes(routes!(items::merge))
        .routes(routes!(trail::list))
        .routes(routes!(trail::file))
        .routes(routes!(members::list, members::add))
        .routes(routes!(members::remove))
        .routes(routes!(members::withdraw))
        .routes(routes!(account::show))
        .routes(routes!(account::rename))
        .routes(routes!(account::change_email))
        .routes(routes!(account::change_password))
        .routes(routes!(account::choose_forms))
        .routes(routes!(account::end_others))
        .routes(routes!(account::end_session))
        .routes(routes!(account::add_factor, account::confirm_factor))
        .routes(routes!(account::remove_factor))
        .routes(routes!(people::list))
        .routes(routes!(people::invite))
        .routes(routes!(people::withdraw))
        .routes(routes!(people::remove))
        .routes(routes!(people::administer))
        .routes(routes!(people::make_link))
        .routes(routes!(people::remove_factor))
        .routes(routes!(people::give_books))
        .routes(routes!(outbox::list))
        .routes(routes!(trail::server_list))
        .routes(routes!(trail::server_file))
}

/// The OpenAPI document, as JSON.
pub fn openapi() -> String {
    let (_, mut document) = api(0).split_for_parts();
    document.info.title = "Zero Fold".to_owned();
    document.info.version = env!("CARGO_PKG_VERSION").to_owned();
    document.info.contact = None;
    document.info.license = None;
    document.to_pretty_json().unwrap_or_default() + "\n"
}

/// Serves until `stop` ends; open requests are finished first.
///
/// # Errors
/// When the listener fails.
#[boxed]
pub async fn serve(
    app: App,
    listener: TcpListener,
    stop: BoxFuture<'static, ()>,
) -> Result<(), StoreError> {
    let sessions = app.store.browser_sessions();
    let session_layer = SessionManagerLayer::new(sessions.clone())
        .with_name("zerofold")
        .with_same_site(SameSite::Strict)
        .with_secure(app.config.is_secure())
        .with_expiry(Expiry::OnInactivity(time::Duration::days(SESSION_DAYS)));
    let (router, document) = api(app.config.upload()).split_for_parts();
    let operations = Arc::new(Operations::of(&document));
    let mut router: Router = router
        .route_layer(from_fn_with_state((app.clone(), operations), session::allow))
        .route("/health", get(health::health))
        .route("/ready", get(health::ready))
        .route_layer(from_fn_with_state(app.metrics.clone(), metrics::measure))
        .fallback(assets::serve)
        .with_state(app.clone());
    for (name, value) in headers::security(&assets::page(), app.config.is_secure()) {
        router = router.layer(SetResponseHeaderLayer::overriding(name, value));
    }
    // Outermost last: a request is logged and timed before its session is looked up, and what is refused is
    // put into words before it is compressed.
    let router = router
        .layer(session_layer)
        .layer(from_fn(middleware::refuse))
        .layer(CompressionLayer::new())
        .layer(from_fn_with_state(app.clone(), middleware::log))
        .layer(RequestBodyTimeoutLayer::new(SILENCE));
    let mut work = JoinSet::new();
    work.spawn(tidy(sessions));
    for _ in 0..jobs::WORKERS {
        work.spawn(jobs::run(app.clone()));
    }
    connections::serve(router, listener, &app.config, stop).await;
    work.shutdown().await;
    Ok(())
}

/// Deletes sessions that have ended, for as long as the server runs.
async fn tidy(sessions: BrowserSessions) {
    loop {
        if let Err(error) = sessions.delete_expired().await {
            tracing::warn!(%error, "ended sessions could not be deleted");
        }
        tokio::time::sleep(TIDYING).await;
    }
}
