//! Closed sets of values, each known by one stable key.

/// Declares an enum whose values have one stable key each, for storage and interchange, and, where
/// they are shown as they are, one English word or phrase. It serialises as its key.
#[macro_export]
macro_rules! keyed {
    ($(#[$doc:meta])* $name:ident { $($(#[$vdoc:meta])* $variant:ident = $key:literal, $word:literal;)+ }) => {
        $crate::keyed! { $(#[$doc])* $name { $($(#[$vdoc])* $variant = $key;)+ } }

        impl $name {
            /// The words shown to a person.
            pub const fn words(self) -> &'static str {
                match self { $(Self::$variant => $word,)+ }
            }
        }
    };
    ($(#[$doc:meta])* $name:ident { $($(#[$vdoc:meta])* $variant:ident = $key:literal;)+ }) => {
        $(#[$doc])*
        #[derive(
            Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, serde::Serialize, serde::Deserialize,
        )]
        pub enum $name { $($(#[$vdoc])* #[serde(rename = $key)] $variant,)+ }

        // By the key: what is kept by a hash must not depend on which values were declared before.
        impl std::hash::Hash for $name {
            fn hash<H: std::hash::Hasher>(&self, state: &mut H) {
                self.key().hash(state);
            }
        }

        #[cfg(feature = "schema")]
        impl utoipa::ToSchema for $name {}

        // A derived one would have the names of the variants for the keys.
        #[cfg(feature = "schema")]
        impl utoipa::PartialSchema for $name {
            fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
                utoipa::openapi::schema::ObjectBuilder::new()
                    .schema_type(utoipa::openapi::schema::Type::String)
                    .enum_values(Some([$($key),+]))
                    .into()
            }
        }

        impl $name {
            /// Every value, in the order of declaration.
            pub const ALL: &'static [Self] = &[$(Self::$variant),+];

            /// The stable key used in storage and interchange.
            pub const fn key(self) -> &'static str {
                match self { $(Self::$variant => $key,)+ }
            }

            /// The value with this key.
            pub fn from_key(key: &str) -> Option<Self> {
                Self::ALL.iter().copied().find(|value| value.key() == key)
            }
        }
    };
}
pub use keyed;
