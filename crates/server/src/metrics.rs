//! What is measured of a server, told in the text form of Prometheus and OpenMetrics.

use axum::extract::{MatchedPath, Request, State};
use axum::http::Method;
use axum::middleware::Next;
use axum::response::Response;
use prometheus_client::encoding::text::encode;
use prometheus_client::encoding::{EncodeLabelSet, EncodeLabelValue};
use prometheus_client::metrics::counter::Counter;
use prometheus_client::metrics::family::Family;
use prometheus_client::metrics::gauge::Gauge;
use prometheus_client::metrics::histogram::Histogram;
use prometheus_client::registry::{Registry, Unit};
use std::fmt;
use std::sync::Arc;
use std::time::{Duration, Instant};

/// Upper ends of the durations that are counted apart, in seconds.
const SECONDS: [f64; 11] = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 5.0, 30.0, 300.0];

#[derive(Clone, Debug, Hash, PartialEq, Eq, EncodeLabelSet)]
struct RequestLabels {
    method: &'static str,
    route: String,
    status: u16,
}

#[derive(Clone, Debug, Hash, PartialEq, Eq, EncodeLabelSet)]
struct Route {
    route: String,
}

/// What came of a job.
#[derive(Clone, Copy, Debug, Hash, PartialEq, Eq, EncodeLabelValue)]
pub(crate) enum JobOutcome {
    Done,
    Failed,
}

#[derive(Clone, Debug, Hash, PartialEq, Eq, EncodeLabelSet)]
struct JobLabels {
    outcome: JobOutcome,
}

#[derive(Clone, Copy, Debug, Hash, PartialEq, Eq, EncodeLabelValue)]
enum ConnectionState {
    Idle,
    Used,
}

#[derive(Clone, Debug, Hash, PartialEq, Eq, EncodeLabelSet)]
struct ConnectionLabels {
    state: ConnectionState,
}

fn seconds() -> Histogram {
    Histogram::new(SECONDS)
}

/// What is measured of a server.
#[derive(Clone, Debug)]
pub(crate) struct Metrics {
    registry: Arc<Registry>,
    requests: Family<RequestLabels, Counter>,
    request_seconds: Family<Route, Histogram>,
    apply_seconds: Histogram,
    rehearsal_seconds: Histogram,
    jobs: Family<JobLabels, Counter>,
    jobs_waiting: Gauge,
    connections: Family<ConnectionLabels, Gauge>,
}

impl Default for Metrics {
    fn default() -> Self {
        let mut registry = Registry::with_prefix("zerofold");
        let requests = Family::default();
        let request_seconds = Family::new_with_constructor(seconds as fn() -> Histogram);
        let (apply_seconds, rehearsal_seconds) = (seconds(), seconds());
        let (jobs, jobs_waiting, connections) =
            (Family::default(), Gauge::default(), Family::default());
        registry.register("requests", "Requests that were answered", requests.clone());
        registry.register_with_unit(
            "request",
            "How long requests took",
            Unit::Seconds,
            request_seconds.clone(),
        );
        registry.register_with_unit(
            "apply",
            "How long plans took to be applied and proved",
            Unit::Seconds,
            apply_seconds.clone(),
        );
        registry.register_with_unit(
            "rehearsal",
            "How long rehearsals of plans took",
            Unit::Seconds,
            rehearsal_seconds.clone(),
        );
        registry.register("jobs", "Jobs that this server ended", jobs.clone());
        registry.register("jobs_waiting", "Jobs of all servers not yet done", jobs_waiting.clone());
        registry.register("connections", "Connections to the database", connections.clone());
        let registry = Arc::new(registry);
        Self {
            registry,
            requests,
            request_seconds,
            apply_seconds,
            rehearsal_seconds,
            jobs,
            jobs_waiting,
            connections,
        }
    }
}

impl Metrics {
    /// Counts how long it took to apply a plan.
    pub(crate) fn applied(&self, took: Duration) {
        self.apply_seconds.observe(took.as_secs_f64());
    }

    /// Counts how long a rehearsal took.
    pub(crate) fn rehearsed(&self, took: Duration) {
        self.rehearsal_seconds.observe(took.as_secs_f64());
    }

    /// All that was measured, with how many connections to the database are idle and how many there are,
    /// and how many jobs wait, as far as that can be asked.
    ///
    /// # Errors
    /// When a text cannot be written, which does not happen.
    pub(crate) fn text(
        &self,
        (idle, all): (u32, u32),
        waiting: Option<i64>,
    ) -> Result<String, fmt::Error> {
        let set = |state, count: u32| {
            self.connections.get_or_create(&ConnectionLabels { state }).set(count.into());
        };
        set(ConnectionState::Idle, idle);
        set(ConnectionState::Used, all.saturating_sub(idle));
        if let Some(waiting) = waiting {
            self.jobs_waiting.set(waiting);
        }
        let mut text = String::new();
        encode(&mut text, &self.registry)?;
        Ok(text)
    }

    /// Counts a job that ended.
    pub(crate) fn job(&self, outcome: JobOutcome) {
        self.jobs.get_or_create(&JobLabels { outcome }).inc();
    }
}

/// A method by its name; all that HTTP does not know are one, so that nobody makes up series of figures.
fn known(method: &Method) -> &'static str {
    const NAMES: [&str; 7] = ["GET", "HEAD", "POST", "PUT", "DELETE", "PATCH", "OPTIONS"];
    NAMES.into_iter().find(|name| *name == method.as_str()).unwrap_or("other")
}

/// Counts a request to one of the addresses that there are, with what came of it.
pub(crate) async fn measure(
    State(metrics): State<Metrics>,
    request: Request,
    next: Next,
) -> Response {
    let route = request.extensions().get::<MatchedPath>();
    let route = route.map_or("none", MatchedPath::as_str).to_owned();
    let method = known(request.method());
    let began = Instant::now();
    let response = next.run(request).await;
    let status = response.status().as_u16();
    let took = began.elapsed().as_secs_f64();
    metrics.requests.get_or_create(&RequestLabels { method, route: route.clone(), status }).inc();
    metrics.request_seconds.get_or_create(&Route { route }).observe(took);
    response
}
