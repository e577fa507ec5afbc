//! A document's tree as text that can be read in a fixture: a line for a block, what it holds below
//! it, two columns in. What is empty, absent or as usual is left out, and so are places.

#![allow(dead_code, reason = "each test uses what it needs")]

use serde_json::{Map, Value};

/// Blocks, or anything else of a tree that can be serialised.
pub(crate) fn of(value: &impl serde::Serialize) -> String {
    let value = serde_json::to_value(value).unwrap();
    let mut lines = Vec::new();
    match &value {
        Value::Array(items) if !items.is_empty() => {
            items.iter().for_each(|item| block(item, "", 0, &mut lines));
        }
        other => lines.push(inline(other)),
    }
    lines.retain(|line| !line.trim().is_empty());
    lines.join("\n")
}

/// A line for a thing, and lines for what is in it.
fn block(value: &Value, name: &str, depth: usize, lines: &mut Vec<String>) {
    let mut line = vec![name.to_string()];
    let mut below: Vec<(&str, &Value)> = Vec::new();
    parts(value, &mut line, &mut below);
    line.retain(|word| !word.is_empty());
    lines.push(format!("{}{}", "  ".repeat(depth), line.join(" ")));
    for (name, value) in below {
        match value {
            Value::Array(items) => {
                items.iter().for_each(|item| block(item, name, depth + 1, lines));
            }
            other => block(other, name, depth + 1, lines),
        }
    }
}

/// What stands in the line of a thing, and what below it.
fn parts<'v>(value: &'v Value, line: &mut Vec<String>, below: &mut Vec<(&'v str, &'v Value)>) {
    let Value::Object(fields) = value else {
        match holds_blocks(value) {
            true => below.push(("", value)),
            false => line.push(inline(value)),
        }
        return;
    };
    let mut shown: Vec<_> = fields.iter().filter(|(name, value)| !is_usual(name, value)).collect();
    shown.sort_by_key(|(name, _)| *name == "attributes");
    for (name, value) in shown {
        match name.as_str() {
            "kind" if value.is_object() => parts(value, line, below),
            "description-list" => {
                line.push(name.clone());
                below.push(("item", value));
            }
            "verse" => {
                let lines = value.as_array().into_iter().flatten().map(inline);
                line.push(format!("verse {}", lines.collect::<Vec<_>>().join(" / ")));
            }
            "terms" | "descriptions" => {
                let each = value.as_array().into_iter().flatten();
                line.extend(
                    each.map(|one| format!("{}({})", name.trim_end_matches('s'), inline(one))),
                );
            }
            "cells" => line.push(cells(value)),
            "items" | "groups" | "rows" if value.is_array() => {
                below.push((name.trim_end_matches('s'), value));
            }
            "content" if holds_blocks(value) => match alone(value) {
                Some(content) => line.push(inline(content)),
                None => below.push(("", value)),
            },
            "content" => line.push(inline(value)),
            _ if holds_blocks(value) || value.get("content").is_some_and(holds_blocks) => {
                line.push(name.clone());
                parts(value, line, below);
            }
            _ => match value {
                Value::Object(_) | Value::Array(_) if is_kind(fields) => {
                    line.push(name.clone());
                    parts(value, line, below);
                }
                _ => line.push(field(name, value)),
            },
        }
    }
}

/// A variant is an object of one field.
fn is_kind(fields: &Map<String, Value>) -> bool {
    fields.len() == 1
}

fn holds_blocks(value: &Value) -> bool {
    let Value::Array(items) = value else { return false };
    items.first().is_some_and(|item| match item {
        Value::Array(_) => holds_blocks(item),
        item => item.get("place").is_some(),
    })
}

/// What the only paragraph holds.
fn alone(blocks: &Value) -> Option<&Value> {
    let [only] = blocks.as_array()?.as_slice() else { return None };
    let is_plain = only.get("attributes").is_none_or(Value::is_null);
    only.get("kind")?.get("paragraph").filter(|_| is_plain)
}

fn cells(cells: &Value) -> String {
    let texts = cells.as_array().into_iter().flatten().map(|cell| {
        let (mut line, mut below) = (Vec::new(), Vec::new());
        parts(cell, &mut line, &mut below);
        line.join(" ")
    });
    format!("| {} |", texts.collect::<Vec<_>>().join(" | "))
}

fn field(name: &str, value: &Value) -> String {
    match value {
        Value::Bool(true) => name.to_string(),
        Value::Object(_) | Value::Array(_) => format!("{name}({})", inline(value)),
        Value::String(word) if is_word(word) => format!("{name}={word}"),
        other => format!("{name}={}", inline(other)),
    }
}

fn inline(value: &Value) -> String {
    match value {
        Value::Null => String::new(),
        Value::String(text) => format!("{text:?}").replace("\\u{a0}", "·"),
        Value::Array(items) => {
            items.iter().map(inline).filter(|item| !item.is_empty()).collect::<Vec<_>>().join(" ")
        }
        Value::Object(fields) => object(fields),
        other => other.to_string(),
    }
}

fn object(fields: &Map<String, Value>) -> String {
    if let Some(Value::String(text)) = fields.get("text").filter(|_| fields.len() == 1) {
        return inline(&Value::String(text.clone()));
    }
    if let Some(Value::String(format)) = fields.get("format")
        && let Some(content) = fields.get("content")
    {
        return format!("{format}({})", inline(content));
    }
    let shown = fields.iter().filter(|(name, value)| !is_usual(name, value));
    let words: Vec<String> = shown
        .map(|(name, value)| match name.as_str() {
            "content" | "formatted" | "kind" => inline(value),
            _ => field(name, value),
        })
        .collect();
    words.join(" ")
}

fn is_word(text: &str) -> bool {
    !text.is_empty() && text.chars().all(|c| c.is_ascii_lowercase() || c == '-')
}

/// What every other thing of its kind has too.
fn is_usual(name: &str, value: &Value) -> bool {
    match value {
        Value::Null | Value::Bool(false) => true,
        Value::String(text) => text.is_empty() || (name, text.as_str()) == ("spacing", "tight"),
        Value::Array(items) => items.is_empty() || name == "columns" && items.iter().all(is_bare),
        Value::Object(fields) => fields.is_empty() || matches!(name, "place" | "tree"),
        Value::Number(number) => name.ends_with("_span") && number.as_u64() == Some(1),
        Value::Bool(true) => false,
    }
}

fn is_bare(value: &Value) -> bool {
    let fields = value.as_object();
    fields.is_some_and(|fields| fields.iter().all(|(name, value)| is_usual(name, value)))
}
