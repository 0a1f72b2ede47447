//! Money as whole minor units. Floating point never touches an amount.

use serde::{Deserialize, Serialize};
use std::fmt;

/// An ISO 4217 currency code: always three upper-case ASCII letters.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct Currency([u8; 3]);

crate::text::text_schema!(Currency);

/// Why a text is not a currency code.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("“{0}” is not a currency code; write the three letters of ISO 4217, such as GBP")]
pub struct NotACurrency(pub String);

impl TryFrom<String> for Currency {
    type Error = NotACurrency;

    fn try_from(text: String) -> Result<Self, NotACurrency> {
        Self::parse(&text)
    }
}

impl From<Currency> for String {
    fn from(currency: Currency) -> Self {
        currency.to_string()
    }
}

impl Currency {
    /// Reads a code, in any case.
    ///
    /// # Errors
    /// When the text is not exactly three letters.
    pub fn parse(text: &str) -> Result<Self, NotACurrency> {
        let upper = text.trim().to_ascii_uppercase();
        match <[u8; 3]>::try_from(upper.as_bytes()) {
            Ok(bytes) if bytes.iter().all(u8::is_ascii_uppercase) => Ok(Self(bytes)),
            _ => Err(NotACurrency(text.to_owned())),
        }
    }

    /// The three letters.
    pub fn as_str(&self) -> &str {
        std::str::from_utf8(&self.0).unwrap_or("XXX")
    }

    /// How many decimal places the minor unit stands for (ISO 4217, column "minor unit").
    pub fn exponent(self) -> u32 {
        match self.as_str() {
            "BIF" | "CLP" | "DJF" | "GNF" | "ISK" | "JPY" | "KMF" | "KRW" | "PYG" | "RWF"
            | "UGX" | "VND" | "VUV" | "XAF" | "XOF" | "XPF" => 0,
            "BHD" | "IQD" | "JOD" | "KWD" | "LYD" | "OMR" | "TND" => 3,
            _ => 2,
        }
    }

    /// Writes minor units with the currency's decimal places: `-1234` in GBP is `-12.34`.
    pub fn format(self, minor: i128) -> String {
        let places = self.exponent() as usize;
        let digits = format!("{:0>width$}", minor.unsigned_abs(), width = places + 1);
        let (whole, fraction) = digits.split_at(digits.len() - places);
        let sign = if minor < 0 { "-" } else { "" };
        match fraction {
            "" => format!("{sign}{whole}"),
            _ => format!("{sign}{whole}.{fraction}"),
        }
    }
}

impl fmt::Display for Currency {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.as_str())
    }
}

impl fmt::Debug for Currency {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.as_str())
    }
}
