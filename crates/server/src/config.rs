//! How a server is run: what the outside calls it, whom it believes, and how its letters go out.

use crate::mail::{CannotSend, Mail};
use axum::http::HeaderMap;
use ipnet::IpNet;
use std::net::{IpAddr, Ipv6Addr, SocketAddr};
use std::path::Path;
use std::sync::Arc;

/// How a server is run.
#[derive(Clone, Debug)]
pub struct Config {
    inner: Arc<Inner>,
}

#[derive(Clone, Debug)]
struct Inner {
    url: String,
    proxies: Vec<IpNet>,
    mail: Mail,
    shows_letters: bool,
    clients: usize,
    upload: usize,
}

/// How many clients may be connected: fewer than a process may usually have files open.
const CLIENTS: usize = 800;

/// The largest file that is taken, in bytes.
const UPLOAD: usize = 200 << 20;

impl Config {
    /// A server that the outside reaches at this address, such as `https://fold.example`.
    pub fn at(url: &str, mail: Mail) -> Self {
        let url = url.trim_end_matches('/').to_owned();
        let inner = Inner {
            url,
            proxies: Vec::new(),
            mail,
            shows_letters: false,
            clients: CLIENTS,
            upload: UPLOAD,
        };
        Self { inner: Arc::new(inner) }
    }

    /// The same behind proxies, who are believed when they say whom they speak for.
    #[must_use]
    pub fn behind(self, proxies: Vec<IpNet>) -> Self {
        self.with(|inner| inner.proxies = proxies)
    }

    /// The same with a page that shows the letters of the folder to administrators.
    #[must_use]
    pub fn showing_letters(self) -> Self {
        self.with(|inner| inner.shows_letters = true)
    }

    /// The same with so many clients at once at most, and files of so many bytes.
    #[must_use]
    pub fn within(self, clients: usize, upload: usize) -> Self {
        self.with(|inner| (inner.clients, inner.upload) = (clients, upload))
    }

    fn with(self, change: impl FnOnce(&mut Inner)) -> Self {
        let mut inner = (*self.inner).clone();
        change(&mut inner);
        Self { inner: Arc::new(inner) }
    }

    /// A server on a machine of one's own, whose letters go into this folder and are shown.
    ///
    /// # Errors
    /// When the folder cannot be made.
    pub fn on_loopback(port: u16, folder: &Path) -> Result<Self, CannotSend> {
        let mail = Mail::into_folder("zerofold@localhost", folder)?;
        Ok(Self::at(&format!("http://127.0.0.1:{port}"), mail).showing_letters())
    }

    /// Whether browsers reach it over TLS.
    pub(crate) fn is_secure(&self) -> bool {
        self.inner.url.starts_with("https://")
    }

    /// The address of a page. What a link shows stands behind a `#`, which browsers keep to
    /// themselves: it is in no log on the way, and no other site is told of it.
    pub(crate) fn link(&self, shown: &str) -> String {
        format!("{}/link#{shown}", self.inner.url)
    }

    /// The address that browsers reach it at.
    pub(crate) fn url(&self) -> &str {
        &self.inner.url
    }

    /// How many clients may be connected at once.
    pub(crate) fn clients(&self) -> usize {
        self.inner.clients
    }

    /// The largest file that is taken, in bytes.
    pub(crate) fn upload(&self) -> usize {
        self.inner.upload
    }

    /// How letters go out.
    pub(crate) fn mail(&self) -> &Mail {
        &self.inner.mail
    }

    /// Whether the letters of the folder are shown to administrators.
    pub(crate) fn shows_letters(&self) -> bool {
        self.inner.shows_letters
    }

    /// Whether an address is that of a proxy that is believed.
    pub(crate) fn believes(&self, address: IpAddr) -> bool {
        self.inner.proxies.iter().any(|net| net.contains(&address.to_canonical()))
    }

    /// For whom a request was made: whoever connected, unless that is a proxy that is believed, which
    /// adds to the right of the list whom it speaks for.
    pub(crate) fn client(&self, connected: IpAddr, headers: &HeaderMap) -> IpAddr {
        let said = headers.get_all("x-forwarded-for").iter();
        let said: Vec<&str> = said.filter_map(|value| value.to_str().ok()).collect();
        let mut client = connected.to_canonical();
        for said in said.join(",").rsplit(',') {
            let Some(said) = self.believes(client).then(|| address(said.trim())).flatten() else {
                break;
            };
            client = said.to_canonical();
        }
        client
    }
}

/// An address as proxies write it: with a port or without, and of IPv6 in brackets or without.
fn address(said: &str) -> Option<IpAddr> {
    let bracketed = said.strip_prefix('[').and_then(|rest| rest.strip_suffix(']'));
    bracketed
        .unwrap_or(said)
        .parse()
        .or_else(|_| said.parse::<SocketAddr>().map(|with_port| with_port.ip()))
        .ok()
}

/// By what the client of an address is counted: of IPv6 by its network, since one client has many addresses
/// there (RFC 6177).
pub(crate) fn counted_as(address: IpAddr) -> String {
    match address.to_canonical() {
        IpAddr::V4(address) => address.to_string(),
        IpAddr::V6(address) => {
            let [a, b, c, d, ..] = address.segments();
            format!("{}/64", Ipv6Addr::new(a, b, c, d, 0, 0, 0, 0))
        }
    }
}
