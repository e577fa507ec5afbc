//! What content is known by.

use serde::de::Visitor;
use serde::{Deserialize, Serialize};
use std::fmt;

/// The BLAKE3 hash of some content: equal for equal content, and practically never otherwise.
#[derive(Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub(crate) struct Fingerprint([u8; 32]);

impl Fingerprint {
    /// Of bytes.
    pub(crate) fn of(bytes: &[u8]) -> Self {
        Self(*blake3::hash(bytes).as_bytes())
    }

    /// Of several parts; where one ends and the next begins counts too.
    pub(crate) fn of_parts<'p>(parts: impl IntoIterator<Item = &'p [u8]>) -> Self {
        let mut hasher = blake3::Hasher::new();
        for part in parts {
            hasher.update(&(part.len() as u64).to_le_bytes());
            hasher.update(part);
        }
        Self(*hasher.finalize().as_bytes())
    }

    /// Of plain data.
    pub(crate) fn of_data(data: &impl Serialize) -> Self {
        // Plain data always has a JSON form.
        Self::of(&serde_json::to_vec(data).unwrap_or_default())
    }

    pub(crate) fn as_bytes(&self) -> &[u8] {
        &self.0
    }
}

impl fmt::Display for Fingerprint {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(&blake3::Hash::from_bytes(self.0).to_hex())
    }
}

impl fmt::Debug for Fingerprint {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, out)
    }
}

impl Serialize for Fingerprint {
    fn serialize<S: serde::Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(&blake3::Hash::from_bytes(self.0).to_hex())
    }
}

impl<'de> Deserialize<'de> for Fingerprint {
    fn deserialize<D: serde::Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        deserializer.deserialize_str(Hexadecimal)
    }
}

/// Reads a fingerprint without making a text of it first: a record holds tens of thousands.
struct Hexadecimal;

impl Visitor<'_> for Hexadecimal {
    type Value = Fingerprint;

    fn expecting(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str("64 hexadecimal digits")
    }

    fn visit_str<E: serde::de::Error>(self, text: &str) -> Result<Fingerprint, E> {
        let hash = blake3::Hash::from_hex(text.as_bytes()).map_err(E::custom)?;
        Ok(Fingerprint(*hash.as_bytes()))
    }
}
