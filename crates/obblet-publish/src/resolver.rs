//! Fetching what documents name, from the folder they stand in and from nowhere else.

use crate::fingerprint::Fingerprint;
use crate::inside;
use obblet::Resolver;
use obblet::address::resolved;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::Mutex;

/// Fetches files of a folder. What lies outside it is not there, also behind a symbolic link.
#[derive(Debug, Clone)]
pub struct FolderResolver {
    root: PathBuf,
    /// Where the document stands.
    folder: PathBuf,
}

impl FolderResolver {
    /// For a document that stands in `folder`, which is `root` or lies inside it.
    #[must_use]
    pub fn new(root: &Path, folder: &Path) -> Self {
        Self { root: root.to_path_buf(), folder: folder.to_path_buf() }
    }
}

impl Resolver for FolderResolver {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        let root = self.root.canonicalize().ok()?;
        let folder = self.folder.canonicalize().ok()?;
        inside::read(&root, &folder.strip_prefix(&root).ok()?.join(address)).ok()
    }

    /// The day it is here, or the one that `SOURCE_DATE_EPOCH` names in seconds since 1970, by which
    /// builds can be made again.
    fn today(&self) -> Option<String> {
        let named = std::env::var("SOURCE_DATE_EPOCH").ok().and_then(|value| value.parse().ok());
        let day = match named {
            Some(seconds) => {
                jiff::Timestamp::from_second(seconds).ok()?.to_zoned(jiff::tz::TimeZone::UTC)
            }
            None => jiff::Zoned::now(),
        };
        Some(day.date().to_string())
    }
}

/// What a document has asked for: paths below the top folder, with the fingerprint of what it got.
pub(crate) type Needs = BTreeMap<String, Option<Fingerprint>>;

/// Fetches files, and keeps what was asked for.
pub(crate) struct NotingResolver<'d> {
    inner: FolderResolver,
    /// The document's path below the top folder.
    document: &'d str,
    needs: Mutex<Needs>,
}

impl<'d> NotingResolver<'d> {
    pub(crate) fn new(root: &Path, document: &'d str) -> Self {
        let path = root.join(document);
        let inner = FolderResolver::new(root, path.parent().unwrap_or(root));
        Self { inner, document, needs: Mutex::default() }
    }

    pub(crate) fn into_needs(self) -> Needs {
        self.needs.into_inner().unwrap_or_else(std::sync::PoisonError::into_inner)
    }
}

impl Resolver for NotingResolver<'_> {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        let bytes = self.inner.resolve(address);
        if let Some(path) = resolved(self.document, address) {
            let hash = bytes.as_deref().map(Fingerprint::of);
            let mut needs = self.needs.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
            needs.insert(path, hash);
        }
        bytes
    }

    fn today(&self) -> Option<String> {
        self.inner.today()
    }
}
