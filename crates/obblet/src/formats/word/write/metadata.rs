//! Properties of the document: core (ECMA-376 part 2, 11) and custom (part 1, 22.3).

use super::Writer;
use super::markup::push_text;
use super::parts::{Parts, Relations, XML};
use crate::document::{Value, plain_text};

const CORE: &str = "http://schemas.openxmlformats.org/package/2006/metadata/core-properties";
const CUSTOM: &str = "http://schemas.openxmlformats.org/officeDocument/2006/custom-properties";
const VALUES: &str = "http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes";
const FORMAT: &str = "{D5CDD505-2E9C-101B-9397-08002B2CF9AE}";

impl Writer<'_> {
    /// The parts of properties; gives the relationships of the package.
    pub(super) fn property_parts(&mut self, parts: &mut Parts) -> Relations {
        let mut package = Relations::default();
        package.part("officeDocument", "word/document.xml");
        if let Some(text) = self.core_part() {
            package.part("core-properties", "docProps/core.xml");
            let kind = "application/vnd.openxmlformats-package.core-properties+xml";
            parts.xml("docProps/core.xml", kind, text);
        }
        if let Some(text) = self.custom_part() {
            package.part("custom-properties", "docProps/custom.xml");
            let kind = "application/vnd.openxmlformats-officedocument.custom-properties+xml";
            parts.xml("docProps/custom.xml", kind, text);
        }
        package
    }

    fn core_part(&mut self) -> Option<String> {
        let metadata = &self.document.metadata;
        let mut inside = String::new();
        let mut put = |name: &str, text: &str| {
            if !text.is_empty() {
                inside.push_str(&format!("<{name}>"));
                push_text(&mut inside, text);
                inside.push_str(&format!("</{name}>"));
            }
        };
        let authors: Vec<&str> =
            metadata.authors.iter().map(|author| author.name.as_str()).collect();
        put("dc:title", &plain_text(&metadata.title));
        put("dc:creator", &authors.join("; "));
        put("dc:description", metadata.description.as_deref().unwrap_or_default());
        put("dc:language", metadata.language.as_deref().unwrap_or_default());
        let keywords: Vec<&str> = metadata.keywords.iter().map(|word| word.as_str()).collect();
        put("cp:keywords", &keywords.join("; "));
        for (name, date) in [("created", &metadata.created), ("modified", &metadata.modified)] {
            if let Some(date) = date.as_deref().filter(|date| is_moment(date)) {
                inside.push_str(&format!("<dcterms:{name} xsi:type=\"dcterms:W3CDTF\">"));
                push_text(&mut inside, date);
                inside.push_str(&format!("</dcterms:{name}>"));
            }
        }
        if metadata.authors.iter().any(|a| a.email.is_some() || a.affiliation.is_some()) {
            self.lost("an author’s address or place of work");
        }
        (!inside.is_empty()).then(|| {
            format!(
                "{XML}<cp:coreProperties xmlns:cp=\"{CORE}\" xmlns:dc=\"http://purl.org/dc/elements/1.1/\" xmlns:dcterms=\"http://purl.org/dc/terms/\" xmlns:xsi=\"http://www.w3.org/2001/XMLSchema-instance\">{inside}</cp:coreProperties>"
            )
        })
    }

    /// What documents say beyond that. Names begin with small letters, as front matter has them.
    fn custom_part(&mut self) -> Option<String> {
        let metadata = &self.document.metadata;
        let mut fields: Vec<(String, Value)> = Vec::new();
        if let Some(date) = &metadata.date {
            fields.push(("date".into(), Value::Text(date.to_string())));
        }
        if !metadata.subtitle.is_empty() {
            fields.push(("subtitle".into(), Value::Text(plain_text(&metadata.subtitle))));
        }
        fields.extend(metadata.extra.iter().map(|(name, value)| (name.to_string(), value.clone())));
        let mut inside = String::new();
        let mut number = 1;
        let mut known: Vec<String> = Vec::new();
        for (name, value) in fields {
            let (kind, text) = match &value {
                Value::Bool(state) => ("bool", state.to_string()),
                Value::Integer(number) => ("i4", number.to_string()),
                Value::Number(number) => ("r8", number.to_string()),
                Value::Text(text) => ("lpwstr", text.clone()),
                Value::List(values) if values.iter().all(|value| value.to_text().is_some()) => {
                    self.changed("a property that is a list");
                    let texts: Vec<String> = values.iter().filter_map(Value::to_text).collect();
                    ("lpwstr", texts.join("; "))
                }
                Value::Null | Value::List(_) | Value::Map(_) => {
                    self.lost("a property of several parts");
                    continue;
                }
            };
            // Names are told apart without regard to case.
            let key = name.to_lowercase();
            if known.contains(&key) {
                self.lost("a second property of one name");
                continue;
            }
            known.push(key);
            number += 1;
            inside.push_str(&format!("<property fmtid=\"{FORMAT}\" pid=\"{number}\" name=\""));
            push_text(&mut inside, &name);
            inside.push_str(&format!("\"><vt:{kind}>"));
            push_text(&mut inside, &text);
            inside.push_str(&format!("</vt:{kind}></property>"));
        }
        (!inside.is_empty()).then(|| {
            format!(
                "{XML}<Properties xmlns=\"{CUSTOM}\" xmlns:vt=\"{VALUES}\">{inside}</Properties>"
            )
        })
    }
}

/// Whether a text is a moment as XML Schema has them: `2026-04-01T10:00:00Z`, or a day.
fn is_moment(text: &str) -> bool {
    let shape: String = text.chars().map(|c| if c.is_ascii_digit() { '0' } else { c }).collect();
    shape == "0000-00-00" || (shape.starts_with("0000-00-00T00:00") && shape.len() <= 30)
}
