//! Where something stands in the source it was read from.

use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::sync::Arc;

/// A span of bytes in the text a reader worked on.
///
/// For Word files, whose text is spread over XML parts, `start` and `end` count paragraphs of the
/// main part instead; [`SourceMap`] knows which of the two it is.
#[derive(
    Debug, Clone, Copy, Default, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize,
)]
pub struct Place {
    /// Offset of the first byte.
    pub start: u32,
    /// Offset just behind the last byte.
    pub end: u32,
    /// Which source: 0 is the file itself, higher numbers are files it included.
    pub source: u32,
}

impl Place {
    /// The span `start..end` of the main source. Offsets past 4 GiB are held at the limit.
    #[must_use]
    pub fn new(start: usize, end: usize) -> Self {
        let clamp = |offset: usize| u32::try_from(offset).unwrap_or(u32::MAX);
        Self { start: clamp(start), end: clamp(end), source: 0 }
    }
}

/// A line and a column, both counted from 1.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub struct Position {
    /// The line; for a Word file, the paragraph.
    pub line: u32,
    /// The column in characters.
    pub column: u32,
}

/// What turns a [`Place`] into a line and a column, when somebody wants to see it.
#[derive(Debug, Clone, Default)]
pub enum SourceMap {
    /// Nothing is known about the source.
    #[default]
    None,
    /// The decoded text that places count bytes of.
    Text(Arc<str>),
    /// A packaged format: places count paragraphs.
    Paragraphs,
    /// The decoded texts of the source itself and of all files that it included, with their names.
    Files(Arc<[(String, Arc<str>)]>),
    /// Several documents that were bound into one: the name of each, its own map, and the number of
    /// its first source among all.
    Several(Arc<[(String, SourceMap, u32)]>),
}

impl SourceMap {
    /// The line and column at which `place` starts, or `None` when that cannot be told.
    #[must_use]
    pub fn position(&self, place: Place) -> Option<Position> {
        match self {
            Self::Files(files) => {
                let (_, text) = files.get(place.source as usize)?;
                Some(position_in(text, place.start as usize))
            }
            Self::None | Self::Paragraphs | Self::Text(_) if place.source != 0 => None,
            Self::None => None,
            Self::Paragraphs => Some(Position { line: place.start.saturating_add(1), column: 1 }),
            Self::Text(text) => Some(position_in(text, place.start as usize)),
            Self::Several(_) => {
                let (_, map, inner) = self.part(place)?;
                map.position(inner)
            }
        }
    }

    /// Of several documents the one that a place is in, and the place as that counts.
    fn part(&self, place: Place) -> Option<(&str, &SourceMap, Place)> {
        let Self::Several(parts) = self else { return None };
        let behind = parts.partition_point(|(_, _, first)| *first <= place.source);
        let (name, map, first) = parts.get(behind.checked_sub(1)?)?;
        Some((name, map, Place { source: place.source - first, ..place }))
    }

    /// How many sources it knows.
    pub(crate) fn source_count(&self) -> u32 {
        match self {
            Self::Files(files) => u32::try_from(files.len()).unwrap_or(u32::MAX).max(1),
            Self::Several(parts) => parts.iter().map(|(_, map, _)| map.source_count()).sum(),
            _ => 1,
        }
    }

    /// Lines and columns of many places: the text is gone through once.
    #[must_use]
    pub fn positions(&self, places: &[Option<Place>]) -> Vec<Option<Position>> {
        match self {
            Self::Text(text) => positions_in(text, places),
            Self::Files(files) => positions_in_files(files, places),
            _ => places.iter().map(|place| self.position((*place)?)).collect(),
        }
    }

    /// The name of the file that a place is in, where that is not the source itself.
    #[must_use]
    pub fn file(&self, place: Place) -> Option<&str> {
        match self {
            Self::Files(files) if place.source > 0 => {
                files.get(place.source as usize).map(|(name, _)| name.as_str())
            }
            Self::Several(_) => {
                let (name, map, inner) = self.part(place)?;
                map.file(inner).or(Some(name))
            }
            _ => None,
        }
    }

    /// The line of text that holds `position`, for an excerpt.
    #[must_use]
    pub fn line(&self, position: Position) -> Option<&str> {
        let Self::Text(text) = self else { return None };
        text.lines().nth(position.line.saturating_sub(1) as usize)
    }
}

/// Lines and columns of places in a text, which is gone through once.
pub(crate) fn positions_in(text: &str, places: &[Option<Place>]) -> Vec<Option<Position>> {
    if places.iter().all(Option::is_none) {
        return vec![None; places.len()];
    }
    let ends = memchr::memchr_iter(b'\n', text.as_bytes()).map(|at| at + 1);
    let starts: Vec<usize> = std::iter::once(0).chain(ends).collect();
    let position = |place: &Option<Place>| {
        let place = (*place)?;
        let at = floor_boundary(text, place.start as usize);
        let line = starts.partition_point(|start| *start <= at);
        let start = starts.get(line.checked_sub(1)?).copied()?;
        let before = text.get(start..at).unwrap_or_default();
        let clamp = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
        let column = clamp(before.chars().count() + 1);
        (place.source == 0).then_some(Position { line: clamp(line), column })
    };
    places.iter().map(position).collect()
}

/// The same for places in several texts; each that has one is gone through once.
fn positions_in_files(
    files: &[(String, Arc<str>)],
    places: &[Option<Place>],
) -> Vec<Option<Position>> {
    let mut by_source: BTreeMap<u32, Vec<(usize, Place)>> = BTreeMap::new();
    for (at, place) in places.iter().enumerate() {
        if let Some(place) = *place {
            by_source.entry(place.source).or_default().push((at, Place { source: 0, ..place }));
        }
    }
    let mut positions = vec![None; places.len()];
    for (source, known) in by_source {
        let Some((_, text)) = files.get(source as usize) else { continue };
        let inside: Vec<_> = known.iter().map(|(_, place)| Some(*place)).collect();
        for ((at, _), found) in known.iter().zip(positions_in(text, &inside)) {
            if let Some(position) = positions.get_mut(*at) {
                *position = found;
            }
        }
    }
    positions
}

/// The offset, or the start of the character it stands in.
fn floor_boundary(text: &str, offset: usize) -> usize {
    let mut offset = offset.min(text.len());
    while !text.is_char_boundary(offset) {
        offset -= 1;
    }
    offset
}

fn position_in(text: &str, offset: usize) -> Position {
    let offset = floor_boundary(text, offset);
    let before = text.get(..offset).unwrap_or_default();
    let line = memchr::memchr_iter(b'\n', before.as_bytes()).count() + 1;
    let line_start = before.rfind('\n').map_or(0, |newline| newline + 1);
    let column = before.get(line_start..).unwrap_or_default().chars().count() + 1;
    let clamp = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
    Position { line: clamp(line), column: clamp(column) }
}
