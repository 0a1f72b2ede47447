//! Connections: how long one may take for its requests, how many there may be, and how all end.
//!
//! Whoever opens a connection and says nothing, or says it byte by byte, is cut off; so nobody can
//! keep others out, or the server from stopping.

use crate::config::{Config, counted_as};
use axum::Router;
use axum::extract::{ConnectInfo, Request};
use hyper::server::conn::http1::Builder;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::{GracefulConnection, GracefulShutdown};
use std::collections::HashMap;
use std::net::SocketAddr;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::Semaphore;
use tower::ServiceExt;

/// How long the head of a request may take, and a connection without one is kept.
const HEAD: Duration = Duration::from_secs(15);

/// How long requests that are underway are waited for at the end.
const STOPPING: Duration = Duration::from_secs(10);

/// One client has at most this part of all places, so that none keeps all others out.
const PART: usize = 8;

/// How many connections each client has, by what it is counted as.
#[derive(Clone, Default)]
struct Clients(Arc<Mutex<HashMap<String, usize>>>);

/// A place that one client has taken.
struct Place {
    of: String,
    clients: Clients,
}

impl Clients {
    /// Takes a place for a client, unless it has `most` already.
    fn take(&self, of: String, most: usize) -> Option<Place> {
        let mut taken = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let count = taken.entry(of.clone()).or_default();
        if *count >= most {
            return None;
        }
        *count += 1;
        drop(taken);
        Some(Place { of, clients: self.clone() })
    }
}

impl Drop for Place {
    fn drop(&mut self) {
        let mut taken = self.clients.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(count) = taken.get_mut(&self.of) {
            *count -= 1;
            if *count == 0 {
                taken.remove(&self.of);
            }
        }
    }
}

/// Serves as many clients at once as the server is run for until `stop` ends; requests that are underway are
/// finished first, within bounds. A proxy that is believed speaks for many, and counts as none.
pub(crate) async fn serve(
    router: Router,
    listener: TcpListener,
    running: &Config,
    stop: impl Future<Output = ()>,
) {
    let open = GracefulShutdown::new();
    let places = Arc::new(Semaphore::new(running.clients()));
    let (clients, most) = (Clients::default(), (running.clients() / PART).max(1));
    let mut stop = std::pin::pin!(stop);
    loop {
        let Ok(place) = Arc::clone(&places).acquire_owned().await else { break };
        let (stream, client) = tokio::select! {
            () = &mut stop => break,
            accepted = listener.accept() => match accepted {
                Ok(accepted) => accepted,
                Err(error) => {
                    // Most often no more files may be opened: those that are open must end first.
                    tracing::warn!(%error, "a connection could not be taken");
                    tokio::time::sleep(Duration::from_millis(100)).await;
                    continue;
                }
            },
        };
        // An answer goes out in several pieces, and the last must not wait until the first is acknowledged (RFC 896).
        if let Err(error) = stream.set_nodelay(true) {
            tracing::debug!(%error, "a connection sends its pieces together");
        }
        let own = if running.believes(client.ip()) {
            None
        } else {
            // Who has taken their part already is let go at once.
            let Some(own) = clients.take(counted_as(client.ip()), most) else { continue };
            Some(own)
        };
        let connection = connection(router.clone(), stream, client);
        let watched = open.watch(connection);
        tokio::spawn(async move {
            if let Err(error) = watched.await {
                tracing::debug!(%error, "a connection ended early");
            }
            drop((place, own));
        });
    }
    drop(listener);
    if tokio::time::timeout(STOPPING, open.shutdown()).await.is_err() {
        tracing::warn!("requests that were still underway were cut off");
    }
}

/// One connection, with the address of the client known to its requests. Proxies that end TLS speak HTTP/1.1 to it.
fn connection(
    router: Router,
    stream: TcpStream,
    client: SocketAddr,
) -> impl GracefulConnection<Error = hyper::Error> + 'static {
    let service =
        hyper::service::service_fn(move |request: hyper::Request<hyper::body::Incoming>| {
            let mut request: Request = request.map(axum::body::Body::new);
            request.extensions_mut().insert(ConnectInfo(client));
            router.clone().oneshot(request)
        });
    Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(HEAD)
        .serve_connection(TokioIo::new(stream), service)
}
