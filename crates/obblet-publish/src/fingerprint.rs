//! What content is known by.

use serde::de::{Unexpected, Visitor};
use serde::{Deserialize, Serialize};
use std::fmt;

/// The first half of the BLAKE3 hash of some content: equal for equal content, and practically never
/// otherwise. A record holds tens of thousands, and is read on every run.
#[derive(Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub(crate) struct Fingerprint([u8; SIZE]);

const SIZE: usize = 16;

impl Fingerprint {
    /// Of bytes.
    pub(crate) fn of(bytes: &[u8]) -> Self {
        Self::first_half(&blake3::hash(bytes))
    }

    /// Of several parts; where one ends and the next begins counts too.
    pub(crate) fn of_parts<'p>(parts: impl IntoIterator<Item = &'p [u8]>) -> Self {
        let mut hasher = blake3::Hasher::new();
        for part in parts {
            hasher.update(&(part.len() as u64).to_le_bytes());
            hasher.update(part);
        }
        Self::first_half(&hasher.finalize())
    }

    fn first_half(hash: &blake3::Hash) -> Self {
        let mut half = [0; SIZE];
        half.copy_from_slice(hash.as_bytes().split_at(SIZE).0);
        Self(half)
    }

    /// From its hexadecimal digits.
    pub(crate) fn of_hex(digits: &str) -> Option<Self> {
        let digit = |byte: u8| char::from(byte).to_digit(16).map(|digit| digit as u8);
        let mut bytes = [0; SIZE];
        let mut pairs = digits.as_bytes().chunks_exact(2);
        for byte in &mut bytes {
            let [high, low] = pairs.next()? else { return None };
            *byte = digit(*high)? << 4 | digit(*low)?;
        }
        (digits.len() == SIZE * 2).then_some(Self(bytes))
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
        const DIGITS: &[u8; 16] = b"0123456789abcdef";
        let digit =
            |four: u8| DIGITS.get(usize::from(four)).map_or('0', |digit| char::from(*digit));
        let digits: String =
            self.0.iter().flat_map(|byte| [digit(byte >> 4), digit(byte & 15)]).collect();
        out.write_str(&digits)
    }
}

impl fmt::Debug for Fingerprint {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, out)
    }
}

impl Serialize for Fingerprint {
    fn serialize<S: serde::Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_str(self)
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
        write!(out, "{} hexadecimal digits", SIZE * 2)
    }

    fn visit_str<E: serde::de::Error>(self, text: &str) -> Result<Fingerprint, E> {
        let found = Fingerprint::of_hex(text);
        found.ok_or_else(|| E::invalid_value(Unexpected::Str(text), &self))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn digits_come_back() {
        let print = Fingerprint::of(b"tide");
        assert_eq!(Fingerprint::of_hex(&print.to_string()), Some(print));
        let digits = print.to_string();
        assert_eq!(digits.len(), 32);
        for wrong in ["", "0", &digits[1..], &format!("{digits}00"), &digits.replace(|_| true, "x")]
        {
            assert_eq!(Fingerprint::of_hex(wrong), None, "{wrong}");
        }
    }

    #[test]
    fn where_a_part_ends_counts() {
        let one = Fingerprint::of_parts([b"ab".as_slice(), b"c"]);
        assert_ne!(one, Fingerprint::of_parts([b"a".as_slice(), b"bc"]));
    }
}
