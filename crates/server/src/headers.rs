//! Security headers. The policy names the one inline script of the built page by its hash, so that
//! no other inline script ever runs.

use axum::http::{HeaderName, HeaderValue, header};
use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use sha2::{Digest, Sha256};

/// The one style attribute of the front end's framework: the hidden element that tells screen
/// readers of a new page.
const ANNOUNCER: &str = "sha256-S8qMpvofolR8Mpjy4kQvEm7m1q8clzU4dfDH0AmvZjo=";

/// The headers of every answer, given the page that starts the front end, and whether browsers reach
/// it over TLS: then they are to come back over nothing else for a year (RFC 6797).
pub(crate) fn security(page: &str, secure: bool) -> Vec<(HeaderName, HeaderValue)> {
    let scripts = inline_scripts(page)
        .map(|script| format!(" 'sha256-{}'", STANDARD.encode(Sha256::digest(script.as_bytes()))));
    let policy = format!(
        "default-src 'none'; script-src 'self'{}; style-src 'self'; style-src-attr 'unsafe-hashes' '{ANNOUNCER}'; font-src 'self'; img-src 'self' data:; \
         connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
        scripts.collect::<String>()
    );
    let fixed = |text| HeaderValue::from_static(text);
    let lasting = secure
        .then(|| (header::STRICT_TRANSPORT_SECURITY, fixed("max-age=31536000; includeSubDomains")));
    let always = [
        (
            header::CONTENT_SECURITY_POLICY,
            HeaderValue::from_str(&policy).unwrap_or(fixed("default-src 'none'")),
        ),
        (header::X_CONTENT_TYPE_OPTIONS, fixed("nosniff")),
        (header::X_FRAME_OPTIONS, fixed("DENY")),
        (header::REFERRER_POLICY, fixed("no-referrer")),
        (HeaderName::from_static("cross-origin-opener-policy"), fixed("same-origin")),
        (
            HeaderName::from_static("permissions-policy"),
            fixed("camera=(), geolocation=(), microphone=()"),
        ),
    ];
    always.into_iter().chain(lasting).collect()
}

fn inline_scripts(page: &str) -> impl Iterator<Item = &str> {
    page.split("<script>").skip(1).filter_map(|rest| rest.split("</script>").next())
}
