//! The record: what the last publish wrote, so that the next one knows what changed by hand.
//!
//! One JSON file at the top of the output folder: `{"version": 1, "targets": {path: hash}}`, paths
//! with `/` and sorted, hashes BLAKE3 in hexadecimal. See `docs/record.md`.

use crate::write::{WriteFailure, write_atomically};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::path::Path;

/// The name of the record in the output folder.
pub const RECORD_NAME: &str = ".obblet-record.json";

/// The version of the record's form.
const VERSION: u32 = 1;

/// What stands in an output folder because of us.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub(crate) struct Record {
    version: u32,
    targets: BTreeMap<String, String>,
}

impl Default for Record {
    fn default() -> Self {
        Self { version: VERSION, targets: BTreeMap::new() }
    }
}

/// What may be done with a target.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Standing {
    /// Nothing is there, or what we wrote.
    Free,
    /// Exactly what is to be written is there.
    Same,
    /// Something is there that we did not write, or that was changed since.
    Foreign,
}

impl Record {
    /// The record of an output folder. One that is missing or cannot be read is empty: then every
    /// file that is there counts as somebody else's.
    pub(crate) fn load(output: &Path) -> Self {
        let text = std::fs::read(output.join(RECORD_NAME)).unwrap_or_default();
        let record: Option<Self> = serde_json::from_slice(&text).ok();
        record.filter(|record| record.version == VERSION).unwrap_or_default()
    }

    /// What may be done with a target that is to hold `bytes`.
    pub(crate) fn standing(&self, output: &Path, target: &str, bytes: &[u8]) -> Standing {
        let Ok(there) = std::fs::read(output.join(target)) else { return Standing::Free };
        if there == bytes {
            return Standing::Same;
        }
        match self.targets.get(target) {
            Some(known) if *known == hash(&there) => Standing::Free,
            _ => Standing::Foreign,
        }
    }

    /// Notes what a target holds now.
    pub(crate) fn note(&mut self, target: &str, bytes_hash: String) {
        self.targets.insert(target.to_string(), bytes_hash);
    }

    /// Writes the record.
    pub(crate) fn save(&self, output: &Path) -> Result<(), WriteFailure> {
        // Strings in a sorted map always have a JSON form.
        let mut json = serde_json::to_vec_pretty(self).unwrap_or_default();
        json.push(b'\n');
        write_atomically(&output.join(RECORD_NAME), &json)
    }
}

/// The fingerprint of a file's content.
pub(crate) fn hash(bytes: &[u8]) -> String {
    blake3::hash(bytes).to_hex().to_string()
}
