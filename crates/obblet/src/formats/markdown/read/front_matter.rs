//! Front matter: metadata between two fences at the very start of a file, `---` for YAML and `+++`
//! for TOML.

use crate::document::{
    Direction, FrontMatter, FrontMatterNotation, Metadata, Person, Place, Value,
};
use crate::findings::{Code, Findings};
use saphyr::{LoadableYamlNode, Scalar, ScanError, Yaml};

/// How deep values may nest in front matter.
const VALUE_DEPTH: usize = 20;

/// Reads the front matter at the start of `source` into `metadata`. Gives the offset behind it,
/// which is 0 when there is none.
pub(super) fn read_front_matter(
    source: &str,
    metadata: &mut Metadata,
    findings: &mut Findings,
) -> usize {
    let Some((notation, text_start, text_end, behind)) = fences(source) else { return 0 };
    let text = source.get(text_start..text_end).unwrap_or_default();
    let values = match notation {
        FrontMatterNotation::Yaml => yaml_values(text),
        FrontMatterNotation::Toml => toml_values(text),
    };
    match values {
        Ok(pairs) => pairs.into_iter().for_each(|(key, value)| set_field(metadata, key, value)),
        Err(broken) => {
            let at = text_start + broken.offset;
            let place = Place::new(at, at + 1);
            findings.add_about(Code::FrontMatterBroken, &broken.why, Some(place));
        }
    }
    metadata.front_matter = Some(FrontMatter { notation, text: text.into() });
    behind
}

/// The notation, start and end of the text between the fences, and the offset behind them. YAML
/// may also end with `...`. A file that starts with a thematic break and never closes it has no
/// front matter.
fn fences(source: &str) -> Option<(FrontMatterNotation, usize, usize, usize)> {
    let mut lines = source.split_inclusive('\n');
    let first = lines.next()?;
    let (notation, ends): (_, &[&str]) = match first.trim_end() {
        "---" => (FrontMatterNotation::Yaml, &["---", "..."]),
        "+++" => (FrontMatterNotation::Toml, &["+++"]),
        _ => return None,
    };
    let mut offset = first.len();
    for line in lines {
        let mark = line.trim_end();
        // YAML stands right behind the fence: a blank line there means a thematic break.
        if offset == first.len() && mark.is_empty() && notation == FrontMatterNotation::Yaml {
            return None;
        }
        if ends.contains(&mark) {
            return Some((notation, first.len(), offset, offset + line.len()));
        }
        offset += line.len();
    }
    None
}

/// The metadata that front matter says; `None` when it is broken.
pub(in crate::formats::markdown) fn metadata_of(front_matter: &FrontMatter) -> Option<Metadata> {
    let values = match front_matter.notation {
        FrontMatterNotation::Yaml => yaml_values(&front_matter.text),
        FrontMatterNotation::Toml => toml_values(&front_matter.text),
    };
    let mut metadata = Metadata::default();
    values.ok()?.into_iter().for_each(|(key, value)| set_field(&mut metadata, key, value));
    Some(metadata)
}

struct Broken {
    offset: usize,
    why: String,
}

fn toml_values(text: &str) -> Result<Vec<(String, Value)>, Broken> {
    let table: toml::Table = text.parse().map_err(|error: toml::de::Error| Broken {
        offset: error.span().map_or(0, |span| span.start),
        why: error.message().to_string(),
    })?;
    Ok(table.into_iter().map(|(key, value)| (key, toml_value(value))).collect())
}

/// The TOML reader bounds the depth of values itself.
fn toml_value(value: toml::Value) -> Value {
    match value {
        toml::Value::String(text) => Value::Text(text),
        toml::Value::Integer(number) => Value::Integer(number),
        toml::Value::Float(number) => Value::Number(number),
        toml::Value::Boolean(truth) => Value::Bool(truth),
        toml::Value::Datetime(date) => Value::Text(date.to_string()),
        toml::Value::Array(items) => Value::List(items.into_iter().map(toml_value).collect()),
        toml::Value::Table(table) => {
            Value::Map(table.into_iter().map(|(key, value)| (key, toml_value(value))).collect())
        }
    }
}

fn yaml_values(text: &str) -> Result<Vec<(String, Value)>, Broken> {
    let documents = Yaml::load_from_str(text).map_err(|error: ScanError| Broken {
        offset: offset_of_line(text, error.marker().line(), error.marker().col()),
        why: error.info().to_string(),
    })?;
    let Some(first) = documents.first() else { return Ok(Vec::new()) };
    match value(first, 0) {
        Value::Map(pairs) => Ok(pairs),
        Value::Null => Ok(Vec::new()),
        _ => Err(Broken { offset: 0, why: "it does not consist of “key: value” lines".into() }),
    }
}

/// The byte offset of a line counted from 1 and a column counted from 0.
fn offset_of_line(text: &str, line: usize, column: usize) -> usize {
    let before: usize = text.split_inclusive('\n').take(line.saturating_sub(1)).map(str::len).sum();
    (before + column).min(text.len().saturating_sub(1))
}

fn value(yaml: &Yaml<'_>, depth: usize) -> Value {
    if depth > VALUE_DEPTH {
        return Value::Null;
    }
    match yaml {
        Yaml::Value(Scalar::Null) => Value::Null,
        Yaml::Value(Scalar::Boolean(truth)) => Value::Bool(*truth),
        Yaml::Value(Scalar::Integer(number)) => Value::Integer(*number),
        Yaml::Value(Scalar::FloatingPoint(number)) => Value::Number(number.into_inner()),
        Yaml::Value(Scalar::String(text)) => Value::Text(text.to_string()),
        Yaml::Representation(text, ..) => Value::Text(text.to_string()),
        Yaml::Sequence(items) => {
            Value::List(items.iter().map(|item| value(item, depth + 1)).collect())
        }
        Yaml::Mapping(pairs) => {
            let pairs = pairs.iter().map(|(key, item)| {
                let key = value(key, depth + 1).to_text().unwrap_or_default();
                (key, value(item, depth + 1))
            });
            Value::Map(pairs.collect())
        }
        Yaml::Tagged(_, inner) => value(inner, depth + 1),
        Yaml::Alias(_) | Yaml::BadValue => Value::Null,
    }
}

/// Puts a field where the metadata has a place for it, and else with the extra ones.
fn set_field(metadata: &mut Metadata, key: String, value: Value) {
    match (key.to_lowercase().as_str(), &value) {
        ("title", Value::Text(text)) => metadata.title = vec![text.as_str().into()],
        ("subtitle", Value::Text(text)) => metadata.subtitle = vec![text.as_str().into()],
        ("author" | "authors", Value::Text(_) | Value::List(_)) => {
            metadata.authors.extend(texts(&value).map(|name| person(&name)));
        }
        ("description" | "summary", Value::Text(text)) => metadata.description = Some(text.clone()),
        ("keywords", Value::Text(text)) => {
            metadata.keywords.extend(text.split(',').map(|word| word.trim().into()));
        }
        ("keywords", Value::List(_)) => metadata.keywords.extend(texts(&value).map(Into::into)),
        ("language" | "lang", Value::Text(tag)) => metadata.language = Some(tag.into()),
        ("direction", Value::Text(way)) if way == "ltr" => {
            metadata.direction = Some(Direction::LeftToRight);
        }
        ("direction", Value::Text(way)) if way == "rtl" => {
            metadata.direction = Some(Direction::RightToLeft);
        }
        ("created", Value::Text(date)) => metadata.created = Some(date.into()),
        ("modified", Value::Text(date)) => metadata.modified = Some(date.into()),
        ("date", Value::Text(date)) => metadata.date = Some(date.into()),
        _ => metadata.extra.push((key.into(), value)),
    }
}

fn texts(value: &Value) -> impl Iterator<Item = String> + '_ {
    let list = match value {
        Value::List(items) => items.as_slice(),
        single => std::slice::from_ref(single),
    };
    list.iter().filter_map(Value::to_text)
}

/// `Name <address>` or just a name.
fn person(text: &str) -> Person {
    let parts = text.split_once('<').and_then(|(name, rest)| Some((name, rest.strip_suffix('>')?)));
    match parts {
        Some((name, email)) => {
            Person { name: name.trim().into(), email: Some(email.trim().into()), affiliation: None }
        }
        None => Person { name: text.trim().into(), email: None, affiliation: None },
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(source: &str) -> (Metadata, usize, Vec<String>) {
        let (mut metadata, mut findings) = (Metadata::default(), Findings::new());
        let behind = read_front_matter(source, &mut metadata, &mut findings);
        findings.locate(&crate::document::SourceMap::Text(source.into()));
        (metadata, behind, findings.iter().map(|finding| finding.line("f.md")).collect())
    }

    #[test]
    fn fields_find_their_places_and_the_rest_is_kept_typed() {
        let source = "---\ntitle: Visiting\nauthors: [Ada Weir <ada@mill.example>, Tom Leat]\n\
                      lang: en-GB\norder: 3\ndraft: false\n---\n# Text\n";
        let (metadata, behind, findings) = read(source);
        assert_eq!(&source[behind..], "# Text\n");
        assert_eq!(metadata.authors[0].email.as_deref(), Some("ada@mill.example"));
        assert_eq!(metadata.authors[1].name, "Tom Leat");
        assert_eq!(metadata.language.as_deref(), Some("en-GB"));
        let extra = vec![("order".into(), Value::Integer(3)), ("draft".into(), Value::Bool(false))];
        assert_eq!(metadata.extra, extra);
        assert!(findings.is_empty());
    }

    #[test]
    fn toml_front_matter_reads_the_same() {
        let source = "+++\ntitle = \"Log\"\ndate = 2026-05-02\n[kept]\norder = 1\n+++\ntext\n";
        let (metadata, behind, findings) = read(source);
        assert_eq!(&source[behind..], "text\n");
        assert_eq!(metadata.date.as_deref(), Some("2026-05-02"));
        let kept = Value::Map(vec![("order".into(), Value::Integer(1))]);
        assert_eq!(metadata.extra, vec![("kept".into(), kept)]);
        assert!(findings.is_empty());
        assert_eq!(read("+++\na = \n+++\n").2.len(), 1);
    }

    #[test]
    fn a_thematic_break_at_the_start_is_no_front_matter() {
        for source in ["---\n\ntext\n\n---\n", "---\nnever closed\n", "text\n---\na: b\n---\n"] {
            assert_eq!(read(source).1, 0, "{source:?}");
        }
    }

    #[test]
    fn broken_front_matter_is_kept_and_reported_with_its_line() {
        let (metadata, behind, findings) = read("---\ntitle: [a\nb: c\n---\ntext\n");
        assert!(behind > 0);
        assert_eq!(
            metadata.front_matter.map(|matter| matter.text).as_deref(),
            Some("title: [a\nb: c\n")
        );
        assert_eq!(findings.len(), 1, "{findings:?}");
        assert!(findings[0].contains("front-matter-broken"), "{findings:?}");
    }
}
