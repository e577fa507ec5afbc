//! The record: what the last publish made of what, so that the next one knows what changed. See
//! `docs/record.md`.

use crate::fingerprint::Fingerprint;
use crate::write::{WriteFailure, write_durably};
use obblet::dates::When;
use obblet::document::Position;
use obblet::findings::{Code, Finding};
use serde::{Deserialize, Serialize};
use std::cmp::Ordering;
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;
use std::sync::Arc;
use std::time::SystemTime;

/// The name of the record in the output folder.
pub const RECORD_NAME: &str = ".obblet-record.json";

/// The version of the record's form.
const VERSION: u32 = 2;

/// What stands in an output folder because of us, and what it was made of.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Record {
    version: u32,
    /// By path below the source folder.
    pub(crate) sources: BTreeMap<String, Arc<SourceRecord>>,
    /// Every file that we wrote, by path below the output folder.
    pub(crate) targets: BTreeMap<String, Fingerprint>,
    /// Files among them that the last run did not make any more.
    #[serde(default)]
    pub(crate) left: BTreeSet<String>,
    /// Of all that pages that no source becomes depend on, beside the sources.
    pub(crate) site: Option<Fingerprint>,
    /// Pages that lead on from old addresses, with the targets that they lead to.
    pub(crate) moved: BTreeMap<String, String>,
    /// When the file was written; none for a record that was not read.
    #[serde(skip)]
    pub(crate) written: Option<SystemTime>,
}

/// One source, as it was when its pages were made.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct SourceRecord {
    pub(crate) hash: Fingerprint,
    /// Of its house, its folder's settings, the formats and the program.
    pub(crate) settings: Fingerprint,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(crate) pages: Vec<PageRecord>,
    /// Other targets that are its own: pictures, embedded files.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(crate) pictures: Vec<PictureRecord>,
    /// Files that it includes, by path below the source folder; none where there is no such file.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub(crate) needs: BTreeMap<String, Option<Fingerprint>>,
    /// What its links lead to: source paths, with the targets they stand for.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub(crate) links: BTreeMap<String, Option<String>>,
    /// Links to places in other documents.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(crate) anchors: Vec<AnchorRecord>,
    /// How many findings it had: lost, changed, repaired, problems.
    pub(crate) findings: [u64; 4],
}

/// One page of a source.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct PageRecord {
    pub(crate) target: String,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) title: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) description: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) date: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) author: Option<String>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(crate) tags: Vec<String>,
    /// Addresses that it had before, as its document says.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(crate) formerly: Vec<String>,
    /// Its ids, parted by spaces, in the order of the alphabet.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub(crate) places: String,
    /// Of what stood around it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) around: Option<Fingerprint>,
}

impl PageRecord {
    /// Its date as a moment in UTC.
    pub(crate) fn moment(&self) -> Option<String> {
        Some(When::of(self.date.as_deref()?)?.utc())
    }

    /// Whether a link can point to this place.
    pub(crate) fn has_place(&self, anchor: &str) -> bool {
        let (mut first, mut end) = (0, self.places.len());
        while first < end {
            // The word in the middle: from behind the space before it to the next one.
            let middle = floor_boundary(&self.places, first + (end - first) / 2);
            let start = self.places.get(first..middle).and_then(|before| before.rfind(' '));
            let start = start.map_or(first, |at| first + at + 1);
            let stop = self.places.get(start..end).and_then(|rest| rest.find(' '));
            let stop = stop.map_or(end, |at| start + at);
            match self.places.get(start..stop).unwrap_or_default().cmp(anchor) {
                Ordering::Equal => return true,
                Ordering::Less => first = stop + 1,
                Ordering::Greater => end = start.saturating_sub(1).max(first),
            }
        }
        false
    }
}

/// The nearest place at or before this one where a character begins.
fn floor_boundary(text: &str, mut at: usize) -> usize {
    while !text.is_char_boundary(at) {
        at -= 1;
    }
    at
}

/// A picture or other file inside a source.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct PictureRecord {
    pub(crate) hash: Fingerprint,
    /// What the document calls it.
    pub(crate) name: String,
    /// Where it was put.
    pub(crate) target: String,
}

/// A link to a place in another document.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct AnchorRecord {
    /// The source path of the document it leads to.
    pub(crate) document: String,
    pub(crate) anchor: String,
    /// The address as the source wrote it.
    pub(crate) address: String,
    pub(crate) line: u32,
    pub(crate) column: u32,
    /// The included file that it is in, where that is not the source itself.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) file: Option<String>,
}

impl AnchorRecord {
    /// What is to be said when there is no such place.
    pub(crate) fn broken(&self) -> Finding {
        Finding {
            code: Code::AnchorBroken,
            subject: Some(self.address.as_str().into()),
            place: None,
            also: None,
            position: (self.line > 0).then_some(Position { line: self.line, column: self.column }),
            file: self.file.as_deref().map(Into::into),
            also_position: None,
            others: Vec::new(),
            count: 1,
            words: 0,
        }
    }
}

impl SourceRecord {
    /// Of a source of which nothing is known.
    pub(crate) fn nothing() -> Self {
        let hash = Fingerprint::of(b"");
        Self {
            hash,
            settings: hash,
            pages: Vec::new(),
            pictures: Vec::new(),
            needs: BTreeMap::new(),
            links: BTreeMap::new(),
            anchors: Vec::new(),
            findings: [0; 4],
        }
    }
}

impl Default for Record {
    fn default() -> Self {
        Self {
            version: VERSION,
            sources: BTreeMap::new(),
            targets: BTreeMap::new(),
            left: BTreeSet::new(),
            site: None,
            moved: BTreeMap::new(),
            written: None,
        }
    }
}

impl Record {
    /// The record of an output folder. One that is missing or cannot be read is empty: then every
    /// file that is there counts as somebody else's.
    pub(crate) fn load(output: &Path) -> Self {
        let path = output.join(RECORD_NAME);
        let text = std::fs::read(&path).unwrap_or_default();
        let record: Option<Self> = serde_json::from_slice(&text).ok();
        let written = std::fs::metadata(&path).and_then(|facts| facts.modified()).ok();
        record
            .filter(|record| record.version == VERSION)
            .map_or_else(Self::default, |record| Self { written, ..record })
    }

    /// Writes the record: one line a source and a target, so that two of them can be compared.
    pub(crate) fn save(&self, output: &Path) -> Result<(), WriteFailure> {
        let path = output.join(RECORD_NAME);
        write_durably(&path, self.to_text().as_bytes())
    }

    /// Whether two records say the same.
    pub(crate) fn is_same(&self, other: &Self) -> bool {
        let Self { version, sources, targets, left, site, moved, written: _ } = self;
        (version, sources, targets, left, site, moved)
            == (
                &other.version,
                &other.sources,
                &other.targets,
                &other.left,
                &other.site,
                &other.moved,
            )
    }

    fn to_text(&self) -> String {
        let mut text = format!("{{\"version\":{VERSION}");
        if let Some(site) = &self.site {
            text.push_str(&format!(",\"site\":\"{site}\""));
        }
        lines("sources", &self.sources, &mut text);
        lines("targets", &self.targets, &mut text);
        lines("moved", &self.moved, &mut text);
        if !self.left.is_empty() {
            text.push_str(&format!(",\n\"left\":{}", json(&self.left)));
        }
        text.push_str("\n}\n");
        text
    }
}

/// A map, one line an entry.
fn lines(name: &str, map: &BTreeMap<String, impl Serialize>, text: &mut String) {
    text.push_str(&format!(",\n\"{name}\":{{"));
    let mut sign = "\n";
    for (key, value) in map {
        text.push_str(sign);
        text.push_str(&json(key));
        text.push(':');
        text.push_str(&json(value));
        sign = ",\n";
    }
    text.push('}');
}

/// Texts and plain data always have a JSON form.
fn json(value: &impl Serialize) -> String {
    serde_json::to_string(value).unwrap_or_default()
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "a test fails by panicking")]
mod tests {
    use super::*;

    #[test]
    fn places_are_found_among_many() {
        let all = ["a", "a-1", "ab", "b", "mühle", "note-1", "note-10", "note-2", "潮"];
        for from in 0..all.len() {
            let page = PageRecord { places: all[from..].join(" "), ..PageRecord::default() };
            for (at, place) in all.iter().enumerate() {
                assert_eq!(page.has_place(place), at >= from, "{place} in {}", page.places);
            }
            for place in ["", "0", "a-", "note", "note-1 note-10", "ü", "z", "潮汐"] {
                assert!(!page.has_place(place), "{place} in {}", page.places);
            }
        }
        assert!(!PageRecord::default().has_place(""));
    }

    #[test]
    fn a_record_comes_back_as_it_was() {
        let mut record = Record::default();
        let hash = Fingerprint::of(b"tide");
        record.targets.insert("a \"b\".html".into(), hash);
        record.moved.insert("old.html".into(), "new.html".into());
        let page = PageRecord { target: "a.html".into(), ..PageRecord::default() };
        record.sources.insert(
            "a.md".into(),
            Arc::new(SourceRecord {
                hash,
                settings: hash,
                pages: vec![page],
                pictures: Vec::new(),
                needs: [("x.tex".to_string(), None)].into(),
                links: BTreeMap::new(),
                anchors: Vec::new(),
                findings: [1, 0, 0, 2],
            }),
        );
        let folder = tempfile::tempdir().unwrap();
        record.save(folder.path()).unwrap();
        let read = Record { written: None, ..Record::load(folder.path()) };
        assert_eq!(read, record);
    }
}
