//! Files beside a document, as a caller would give them.

#![allow(dead_code, reason = "each test uses what it needs")]

use obblet::Resolver;
use std::collections::HashMap;
use std::sync::Mutex;

/// Files by their names.
pub(crate) struct Folder(HashMap<&'static str, String>);

impl Folder {
    pub(crate) fn of<const N: usize>(files: [(&'static str, &str); N]) -> Self {
        Self(files.map(|(name, text)| (name, text.to_string())).into())
    }
}

impl Resolver for Folder {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        self.0.get(address).map(|text| text.as_bytes().to_vec())
    }
}

/// Has no files, and remembers what was asked for.
#[derive(Default)]
pub(crate) struct Asked(Mutex<Vec<String>>);

impl Asked {
    pub(crate) fn has(&self, wanted: &str) -> bool {
        self.0.lock().unwrap().iter().any(|address| address == wanted)
    }
}

impl Resolver for Asked {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        self.0.lock().unwrap().push(address.to_string());
        None
    }
}
