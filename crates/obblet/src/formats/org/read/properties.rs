//! Properties of headings and of the file (Org syntax, “Property Drawers”).

use super::Reader;
use super::lines::Line;
use super::options::Chosen;
use crate::document::{Attributes, Place};

/// Properties by their names in small letters.
#[derive(Debug, Default)]
pub(super) struct Properties(Vec<(String, String)>);

impl Properties {
    pub(super) fn of(lines: &[Line<'_>]) -> Self {
        let mut properties = Self::default();
        for line in lines {
            let Some(rest) = line.trimmed().strip_prefix(':') else { continue };
            // The name may hold colons, as `header-args:python` does.
            let Some(end) =
                rest.find(": ").or_else(|| rest.trim_end().strip_suffix(':').map(str::len))
            else {
                continue;
            };
            let name = rest.get(..end).unwrap_or_default().to_lowercase();
            let value = rest.get(end + 1..).unwrap_or_default().trim();
            properties.add(name, value);
        }
        properties
    }

    /// `:NAME+:` goes on with what `:NAME:` said.
    fn add(&mut self, name: String, value: &str) {
        let known = name.strip_suffix('+');
        match known.and_then(|name| self.0.iter_mut().find(|(known, _)| known == name)) {
            Some((_, before)) => {
                before.push(' ');
                before.push_str(value);
            }
            None => self.0.push((known.unwrap_or(&name).to_string(), value.to_string())),
        }
    }

    pub(super) fn all(&self) -> impl Iterator<Item = (&str, &str)> {
        self.0.iter().map(|(name, value)| (name.as_str(), value.as_str()))
    }

    pub(super) fn get(&self, name: &str) -> Option<&str> {
        self.0.iter().find(|(known, _)| known == name).map(|(_, value)| value.as_str())
    }
}

impl Reader<'_> {
    /// Ids and classes become those of the heading; the rest is not for readers.
    pub(super) fn apply_properties(
        &mut self,
        properties: &Properties,
        attributes: &mut Attributes,
        place: Place,
    ) {
        let id = properties.get("custom_id").or(properties.get("id"));
        if let Some(id) = id.filter(|id| !id.is_empty()) {
            attributes.edit().id = Some(id.into());
            if let Some(other) = properties.get("id").filter(|other| *other != id) {
                self.targets.add_alias(other, id);
            }
        }
        let has_own_id = properties.get("custom_id").is_some();
        for (name, value) in &properties.0 {
            match name.as_str() {
                "custom_id" => {}
                "id" if !has_own_id => {}
                "html_container_class" | "html_headline_class" => {
                    attributes.edit().classes.extend(value.split_whitespace().map(Into::into));
                }
                "audience" => {
                    let names = value.split_whitespace().map(Into::into);
                    attributes.edit().audiences = names.collect();
                }
                "language" => attributes.edit().language = Some(value.into()),
                _ if self.options.keeps_hidden => {
                    attributes.edit().pairs.push((name.into(), value.into()));
                }
                "id" | "unnumbered" | "visibility" => {}
                // These are followed.
                name if name.starts_with("header-args") => {}
                _ if self.settings.options.properties == Chosen::None
                    || !self.settings.options.properties.has(name) =>
                {
                    self.hidden("the properties of headings", place);
                }
                _ => attributes.edit().pairs.push((name.into(), value.into())),
            }
        }
    }
}
