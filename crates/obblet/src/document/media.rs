//! Pictures and other files that a document carries inside itself.

use super::CompactString;
use serde::{Deserialize, Serialize};
use std::collections::{HashMap, HashSet};
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
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
#[serde(from = "Vec<Media>", into = "Vec<Media>")]
pub struct MediaStore {
    media: Vec<Media>,
    /// Where bytes are that are there already.
    by_bytes: HashMap<Arc<[u8]>, MediaId>,
    /// Names in small letters: some file systems cannot tell the others apart.
    taken: HashSet<String>,
    /// The number tried last for a name, so that a thousand equal ones stay linear.
    last_number: HashMap<String, u32>,
}

impl MediaId {
    /// Its place among the media, counted from 0.
    #[must_use]
    pub fn index(self) -> usize {
        self.0 as usize
    }
}

impl MediaStore {
    /// Adds a file, or finds the one with the same bytes that is there already. A name that is
    /// taken gets a number.
    pub fn add(&mut self, name: &str, media_type: &str, bytes: Arc<[u8]>) -> MediaId {
        if let Some(known) = self.by_bytes.get(&bytes) {
            return *known;
        }
        let name = self.free_name(name);
        self.push(Media { name, media_type: media_type.into(), bytes })
    }

    fn push(&mut self, media: Media) -> MediaId {
        let id = MediaId(self.media.len() as u32);
        self.taken.insert(media.name.to_ascii_lowercase().into());
        self.by_bytes.entry(media.bytes.clone()).or_insert(id);
        self.media.push(media);
        id
    }

    /// The file with this number.
    #[must_use]
    pub fn get(&self, id: MediaId) -> Option<&Media> {
        self.media.get(id.0 as usize)
    }

    /// The same number of files in the place of others: two of them may have the same bytes now, and
    /// names that have become the same get numbers.
    pub(crate) fn from_all(media: Vec<Media>) -> Self {
        let mut store = Self::default();
        for file in media {
            let name = store.free_name(&file.name);
            store.push(Media { name, ..file });
        }
        store
    }

    /// All files, in the order they were added.
    pub fn iter(&self) -> impl Iterator<Item = &Media> {
        self.media.iter()
    }

    /// True when there is no file.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.media.is_empty()
    }

    /// The name itself, or the name with a free number before its extension.
    fn free_name(&mut self, name: &str) -> CompactString {
        if !self.taken.contains(&name.to_ascii_lowercase()) {
            return name.into();
        }
        let (stem, extension) = match name.rsplit_once('.') {
            Some((stem, extension)) => (stem, format!(".{extension}")),
            None => (name, String::new()),
        };
        let number = self.last_number.entry(name.to_ascii_lowercase()).or_insert(1);
        loop {
            *number += 1;
            let candidate = format!("{stem}-{number}{extension}");
            if !self.taken.contains(&candidate.to_ascii_lowercase()) {
                return candidate.into();
            }
        }
    }
}

/// Two stores are equal when their files are.
impl PartialEq for MediaStore {
    fn eq(&self, other: &Self) -> bool {
        self.media == other.media
    }
}

impl Eq for MediaStore {}

impl From<Vec<Media>> for MediaStore {
    fn from(media: Vec<Media>) -> Self {
        let mut store = Self::default();
        for file in media {
            store.push(file);
        }
        store
    }
}

impl From<MediaStore> for Vec<Media> {
    fn from(store: MediaStore) -> Self {
        store.media
    }
}
