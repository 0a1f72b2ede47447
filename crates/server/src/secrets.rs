//! What is secret: what links show, second factors and the codes that stand in for them. Each is
//! drawn from the random numbers of the machine, and only hashes are kept of what is shown once.

use crate::Problem;
use base64::Engine;
use base64::engine::general_purpose::URL_SAFE_NO_PAD;
use qrcode::QrCode;
use qrcode::render::svg;
use sha2::{Digest, Sha256};
use time::OffsetDateTime;
use totp_rs::{Builder, Secret, Totp};
use uuid::Uuid;

/// How many codes stand in for a second factor.
const RECOVERY_CODES: usize = 10;

/// Letters of recovery codes: those that are not taken for others, as in Crockford's base 32.
const LETTERS: &[u8; 32] = b"0123456789abcdefghjkmnpqrstvwxyz";

/// Something that is shown once, and its hash, which is kept.
pub(crate) struct Shown {
    pub(crate) text: String,
    pub(crate) hash: Vec<u8>,
}

impl Shown {
    fn of(text: String) -> Self {
        let hash = hash(&text);
        Self { text, hash }
    }
}

/// The hash of something that somebody shows. It is drawn at random, so it needs no slow one.
pub(crate) fn hash(shown: &str) -> Vec<u8> {
    Sha256::digest(shown).to_vec()
}

fn random() -> [u8; 32] {
    // Two of version 4 hold 244 random bits; hashed, none of the fixed ones shows.
    let drawn = [Uuid::new_v4(), Uuid::new_v4()];
    Sha256::new().chain_update(drawn[0]).chain_update(drawn[1]).finalize().into()
}

/// What a link shows.
pub(crate) fn link() -> Shown {
    Shown::of(URL_SAFE_NO_PAD.encode(random()))
}

/// Codes that stand in for a second factor, once each, of 60 random bits.
pub(crate) fn recovery_codes() -> Vec<Shown> {
    let code = || {
        let letters: String =
            random().iter().take(12).map(|b| char::from(LETTERS[usize::from(b % 32)])).collect();
        Shown::of(letters)
    };
    (0..RECOVERY_CODES).map(|_| code()).collect()
}

/// A recovery code in groups, as a person copies it.
pub(crate) fn in_groups(code: &str) -> String {
    let groups: Vec<&str> = [0..4, 4..8, 8..12].into_iter().filter_map(|at| code.get(at)).collect();
    groups.join("-")
}

/// A recovery code as it was drawn, however it was typed.
pub(crate) fn as_drawn(typed: &str) -> String {
    let plain = typed.chars().filter(|c| c.is_ascii_alphanumeric());
    plain.map(|c| c.to_ascii_lowercase()).collect()
}

/// The secret of a new second factor: the 160 bits that RFC 4226, section 4, recommends.
pub(crate) fn factor() -> Vec<u8> {
    random()[..20].to_vec()
}

fn totp(secret: &[u8], email: &str) -> Result<Totp, Problem> {
    Builder::new()
        .with_secret(Secret::from(secret))
        .with_issuer(Some("Zero Fold"))
        // The label of the address may hold no colon.
        .with_account_name(email.replace(':', " "))
        .build()
        .map_err(|error| Problem::internal(&error))
}

/// The step of the clock that a code belongs to, when it is right now or was a moment ago.
pub(crate) fn step_of(secret: &[u8], email: &str, code: &str) -> Result<Option<i64>, Problem> {
    let now = u64::try_from(OffsetDateTime::now_utc().unix_timestamp()).unwrap_or_default();
    let digits: String = code.chars().filter(char::is_ascii_digit).collect();
    let step = (digits.len() == 6).then(|| totp(secret, email).map(|t| t.check(&digits, now)));
    Ok(step.transpose()?.flatten().and_then(|step| i64::try_from(step).ok()))
}

/// A second factor as a device takes it.
pub(crate) struct ShownFactor {
    /// To be typed.
    pub(crate) letters: String,
    /// To be photographed: a drawing.
    pub(crate) drawing: String,
}

/// How a device is told of a second factor.
pub(crate) fn show(secret: &[u8], email: &str) -> Result<ShownFactor, Problem> {
    let totp = totp(secret, email)?;
    let address = totp.to_url().map_err(|error| Problem::internal(&error))?;
    let code = QrCode::new(address).map_err(|error| Problem::internal(&error))?;
    let drawing = code.render::<svg::Color<'_>>().min_dimensions(200, 200).build();
    Ok(ShownFactor { letters: Secret::from(secret).to_base32(), drawing })
}
