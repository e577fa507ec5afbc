//! What stands before the text: fields of the form `Name: value`, a title, who wrote it.

use super::lines::{Chunk, Line};
use super::{Reader, small};
use crate::document::{Inline, Metadata, Person, Value};

/// Fields that begin a manuscript, one of which is enough to tell it from a text.
const FIELDS: [&str; 12] = [
    "title",
    "subtitle",
    "author",
    "authors",
    "by",
    "date",
    "language",
    "keywords",
    "description",
    "translator",
    "publisher",
    "word count",
];

impl Reader {
    /// Takes the fields off.
    pub(super) fn front_matter(&mut self, chunks: &mut Vec<Chunk<'_>>, metadata: &mut Metadata) {
        let Some(first) = chunks.first() else { return };
        let fenced = |line: Option<&Line<'_>>| line.is_some_and(|line| line.text == "---");
        let mut lines = first.lines.as_slice();
        if fenced(lines.first()) && fenced(lines.last()) && lines.len() > 2 {
            lines = lines.get(1..lines.len() - 1).unwrap_or_default();
        }
        let fields: Vec<(&str, &str)> = lines.iter().map_while(|line| field(line.text)).collect();
        let is_known = |(name, _): &(&str, &str)| FIELDS.contains(&small(name).as_str());
        if fields.len() < lines.len() || !fields.iter().any(is_known) {
            return;
        }
        for (name, value) in fields {
            set(metadata, name, value);
        }
        self.took("fields at its head", first.place());
        chunks.remove(0);
    }

    /// Takes a title of its own off, with the author below it: lines in the middle, or alone before the
    /// first chapter.
    pub(super) fn title_page(&mut self, chunks: &mut Vec<Chunk<'_>>, metadata: &mut Metadata) {
        let Some(first) = chunks.first().filter(|_| metadata.title.is_empty()) else { return };
        let Some(title) = first.lines.first().copied() else { return };
        let place = first.place();
        let by = |line: &Line<'_>| -> Option<String> {
            let (by, name) = line.text.split_once(' ')?;
            let is_by =
                ["by", "von", "par", "por", "di", "door"].contains(&by.to_lowercase().as_str());
            (is_by && name.chars().count() < 60 && name.starts_with(char::is_uppercase))
                .then(|| name.trim().to_string())
        };
        let is_short = |line: &Line<'_>| line.text.chars().count() <= 70;
        let (author, lines) = match (first.lines.get(1), chunks.get(1)) {
            (Some(second), _) if first.lines.len() == 2 => (by(second), 1),
            (None, Some(next)) => (next.only().as_ref().and_then(by), 2),
            _ => (None, 0),
        };
        if let Some(author) = author.filter(|_| is_short(&title)) {
            metadata.title = vec![Inline::Text(title.text.into())];
            metadata.authors.push(Person { name: author.into(), ..Person::default() });
            self.took("a title with its author", place);
            chunks.drain(..lines);
        }
    }
}

/// `Name: value`, where the name is one or two words.
fn field(line: &str) -> Option<(&str, &str)> {
    let (name, value) = line.split_once(':')?;
    let (name, value) = (name.trim(), value.trim());
    let is_name = !name.is_empty()
        && name.split_whitespace().count() <= 2
        && name.starts_with(char::is_alphabetic)
        && name.chars().all(|c| c.is_alphanumeric() || matches!(c, ' ' | '-' | '_'));
    (is_name && !value.is_empty() && !value.starts_with("//")).then_some((name, value))
}

fn set(metadata: &mut Metadata, name: &str, value: &str) {
    let unquoted = value.trim_matches('"');
    match small(name).as_str() {
        "title" => metadata.title = vec![Inline::Text(unquoted.into())],
        "subtitle" => metadata.subtitle = vec![Inline::Text(unquoted.into())],
        "author" | "authors" | "by" => {
            for name in unquoted.split([';', '&']).flat_map(|part| part.split(" and ")) {
                let name = name.trim();
                if !name.is_empty() {
                    metadata.authors.push(Person { name: name.into(), ..Person::default() });
                }
            }
        }
        "date" => metadata.date = Some(unquoted.into()),
        "language" => metadata.language = Some(unquoted.into()),
        "description" => metadata.description = Some(unquoted.into()),
        "keywords" => {
            let keywords = unquoted.split([',', ';']).map(str::trim);
            metadata.keywords.extend(keywords.filter(|word| !word.is_empty()).map(Into::into));
        }
        other => metadata.extra.push((other.into(), Value::Text(unquoted.into()))),
    }
}
