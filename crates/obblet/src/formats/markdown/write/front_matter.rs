//! Metadata as front matter.

use super::MarkdownWriteOptions;
use crate::document::{
    FrontMatter, FrontMatterNotation, Inline, Metadata, Person, Value, plain_text,
};
use crate::findings::{Code, Findings};
use crate::formats::markdown::Switch;
use crate::formats::markdown::read::front_matter::metadata_of;
use saphyr::{Mapping, Scalar, Yaml, YamlEmitter};
use std::borrow::Cow;

/// The front matter with its fences and a blank line behind it; empty when there is nothing to
/// say. As it was written, when it still says the same.
pub(super) fn spelled(
    metadata: &Metadata,
    options: &MarkdownWriteOptions,
    findings: &mut Findings,
) -> String {
    let plain = Metadata { front_matter: None, ..metadata.clone() };
    let is_empty = plain == Metadata::default();
    if !options.switches.has(Switch::FrontMatter) {
        if !is_empty || metadata.front_matter.is_some() {
            findings.count(Code::NodeNotCarried, "metadata such as title and authors", None);
        }
        return String::new();
    }
    if let Some(written) = &metadata.front_matter
        && metadata_of(written).is_none_or(|read| read == plain)
    {
        return fenced(written);
    }
    if is_empty {
        return String::new();
    }
    let fields = fields(&plain, findings);
    let notation = metadata.front_matter.as_ref().map(|written| written.notation);
    let text = match notation {
        Some(FrontMatterNotation::Toml) => toml_text(&fields),
        _ => yaml_text(&fields),
    };
    let notation = notation.unwrap_or(FrontMatterNotation::Yaml);
    fenced(&FrontMatter { notation, text })
}

fn fenced(front_matter: &FrontMatter) -> String {
    let fence = match front_matter.notation {
        FrontMatterNotation::Yaml => "---",
        FrontMatterNotation::Toml => "+++",
    };
    format!("{fence}\n{}{fence}\n\n", front_matter.text)
}

/// All fields, in the order people expect them.
fn fields(metadata: &Metadata, findings: &mut Findings) -> Vec<(String, Value)> {
    let mut fields = Vec::new();
    let mut add = |name: &str, value: Option<Value>| {
        fields.extend(value.map(|value| (name.to_string(), value)));
    };
    let text = |text: &str| Some(Value::Text(text.to_string()));
    for (name, words) in [("title", &metadata.title), ("subtitle", &metadata.subtitle)] {
        if words.iter().any(|inline| !matches!(inline, Inline::Text(_))) {
            findings.count(Code::NodeNotCarried, &format!("the format of the {name}"), None);
        }
        add(name, (!words.is_empty()).then(|| Value::Text(plain_text(words))));
    }
    let authors: Vec<Value> =
        metadata.authors.iter().map(|author| person(author, findings)).collect();
    add("authors", (!authors.is_empty()).then_some(Value::List(authors)));
    add("description", metadata.description.as_deref().and_then(text));
    let keywords = metadata.keywords.iter().map(|word| Value::Text(word.to_string())).collect();
    add("keywords", (!metadata.keywords.is_empty()).then_some(Value::List(keywords)));
    add("language", metadata.language.as_deref().and_then(text));
    add("direction", metadata.direction.and_then(|direction| text(direction.html())));
    add("date", metadata.date.as_deref().and_then(text));
    add("created", metadata.created.as_deref().and_then(text));
    add("modified", metadata.modified.as_deref().and_then(text));
    fields.extend(metadata.extra.iter().map(|(name, value)| (name.to_string(), value.clone())));
    fields
}

fn person(author: &Person, findings: &mut Findings) -> Value {
    if author.affiliation.is_some() {
        findings.count(Code::NodeNotCarried, "where an author works", None);
    }
    Value::Text(match &author.email {
        Some(email) => format!("{} <{email}>", author.name),
        None => author.name.to_string(),
    })
}

fn yaml_text(fields: &[(String, Value)]) -> String {
    let mapping = fields.iter().map(|(name, value)| (yaml_string(name), yaml(value)));
    let mut text = String::new();
    let mut emitter = YamlEmitter::new(&mut text);
    // Writing into a string cannot fail; a value it could not spell would leave the text empty.
    if emitter.dump(&Yaml::Mapping(mapping.collect())).is_err() {
        return String::new();
    }
    let text = text.strip_prefix("---\n").unwrap_or(&text);
    format!("{}\n", text.trim_end())
}

fn yaml(value: &Value) -> Yaml<'_> {
    match value {
        Value::Null => Yaml::Value(Scalar::Null),
        Value::Bool(truth) => Yaml::Value(Scalar::Boolean(*truth)),
        Value::Integer(number) => Yaml::Value(Scalar::Integer(*number)),
        Value::Number(number) => Yaml::Value(Scalar::FloatingPoint((*number).into())),
        Value::Text(text) => yaml_string(text),
        Value::List(items) => Yaml::Sequence(items.iter().map(yaml).collect()),
        Value::Map(pairs) => {
            let pairs = pairs.iter().map(|(name, value)| (yaml_string(name), yaml(value)));
            Yaml::Mapping(pairs.collect::<Mapping<'_>>())
        }
    }
}

fn yaml_string(text: &str) -> Yaml<'_> {
    Yaml::Value(Scalar::String(Cow::Borrowed(text)))
}

fn toml_text(fields: &[(String, Value)]) -> String {
    let mut table = toml::Table::new();
    for (name, value) in fields {
        table.extend(toml_value(value).map(|value| (name.clone(), value)));
    }
    toml::to_string(&table).unwrap_or_default()
}

/// TOML has no word for nothing.
fn toml_value(value: &Value) -> Option<toml::Value> {
    Some(match value {
        Value::Null => return None,
        Value::Bool(truth) => toml::Value::Boolean(*truth),
        Value::Integer(number) => toml::Value::Integer(*number),
        Value::Number(number) => toml::Value::Float(*number),
        Value::Text(text) => toml::Value::String(text.clone()),
        Value::List(items) => toml::Value::Array(items.iter().filter_map(toml_value).collect()),
        Value::Map(pairs) => {
            let pairs =
                pairs.iter().filter_map(|(name, value)| Some((name.clone(), toml_value(value)?)));
            toml::Value::Table(pairs.collect())
        }
    })
}
