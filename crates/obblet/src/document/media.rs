//! Pictures and other files that a document carries inside itself.

use super::CompactString;
use serde::{Deserialize, Serialize};
use std::sync::Arc;

/// The number of a medium in its document.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
pub struct MediaId(u32);

/// One file inside a document.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Media {
    /// A file name without folders, unique within the document.
    pub name: CompactString,
    /// The media type, for example `image/png`.
    pub media_type: CompactString,
    /// The bytes, shared between clones.
    pub bytes: Arc<[u8]>,
}

/// All media of a document; the same bytes are kept once.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(transparent)]
pub struct MediaStore(Vec<Media>);

impl MediaStore {
    /// Adds a file, or finds the one with the same bytes that is there already. A name that is
    /// taken gets a number.
    pub fn add(&mut self, name: &str, media_type: &str, bytes: Arc<[u8]>) -> MediaId {
        if let Some(index) = self.0.iter().position(|media| media.bytes == bytes) {
            return MediaId(index as u32);
        }
        let name = self.free_name(name);
        self.0.push(Media { name, media_type: media_type.into(), bytes });
        MediaId((self.0.len() - 1) as u32)
    }

    /// The file with this number.
    #[must_use]
    pub fn get(&self, id: MediaId) -> Option<&Media> {
        self.0.get(id.0 as usize)
    }

    /// All files, in the order they were added.
    pub fn iter(&self) -> impl Iterator<Item = &Media> {
        self.0.iter()
    }

    /// True when there is no file.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// The name itself, or the name with the first free number before its extension. Names that
    /// differ only by case count as taken: some file systems cannot tell them apart.
    fn free_name(&self, name: &str) -> CompactString {
        let taken = |name: &str| self.0.iter().any(|media| media.name.eq_ignore_ascii_case(name));
        if !taken(name) {
            return name.into();
        }
        let (stem, extension) = match name.rsplit_once('.') {
            Some((stem, extension)) => (stem, format!(".{extension}")),
            None => (name, String::new()),
        };
        let mut number = 2;
        loop {
            let candidate = format!("{stem}-{number}{extension}");
            if !taken(&candidate) {
                return candidate.into();
            }
            number += 1;
        }
    }
}
