//! All settings, one row each: what it is called, what it means, how it is set and shown.

use super::{Extent, House, MarkdownDialect, PicturePlacement};
use toml::de::DeValue;

/// One setting.
#[derive(Debug, Clone, Copy)]
pub struct Setting {
    /// Its name, for example `page.contents`.
    pub key: &'static str,
    /// What it means, as a sentence.
    pub comment: &'static str,
    /// What it takes, in words.
    pub values: &'static str,
    /// Sets it; `None` when it does not take the value.
    pub(super) set: fn(&mut House, &DeValue<'_>) -> Option<()>,
    /// Its value as TOML.
    pub(super) show: fn(&House) -> String,
}

/// All settings, grouped.
pub const SETTINGS: &[Setting] = &[
    Setting {
        key: "page.extent",
        comment: "A whole page, or only its body.",
        values: "\"page\" or \"body\"",
        set: |house, value| {
            house.page.extent = choice(value, &[("page", Extent::Page), ("body", Extent::Body)])?;
            Some(())
        },
        show: |house| quoted(if house.page.extent == Extent::Page { "page" } else { "body" }),
    },
    Setting {
        key: "page.title",
        comment: "A title for all pages; empty for each document's own.",
        values: "text",
        set: |house, value| {
            house.page.title = text(value)?;
            Some(())
        },
        show: |house| quoted(&house.page.title),
    },
    Setting {
        key: "page.language",
        comment: "The language of documents that state none.",
        values: "a language tag such as \"en\" or \"de-AT\"",
        set: |house, value| {
            let tag = text(value)?;
            let is_tag = !tag.is_empty()
                && tag.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'-');
            house.page.language = is_tag.then_some(tag)?;
            Some(())
        },
        show: |house| quoted(&house.page.language),
    },
    Setting {
        key: "page.contents",
        comment: "The deepest heading level in the contents list; 0 for no list.",
        values: "a whole number from 0 to 6",
        set: |house, value| {
            house.page.contents = level(value)?;
            Some(())
        },
        show: |house| house.page.contents.to_string(),
    },
    Setting {
        key: "page.top_heading",
        comment: "The level of a document's highest headings; 0 leaves it to the page.",
        values: "a whole number from 0 to 6",
        set: |house, value| {
            house.page.top_heading = level(value)?;
            Some(())
        },
        show: |house| house.page.top_heading.to_string(),
    },
    Setting {
        key: "page.theme",
        comment: "Whether the page has Obblet's style sheet.",
        values: "true or false",
        set: |house, value| {
            house.page.theme = truth(value)?;
            Some(())
        },
        show: |house| house.page.theme.to_string(),
    },
    Setting {
        key: "page.audiences",
        comment: "The audiences written for; what is meant for others only is left out.",
        values: "a list of words, such as [\"web\", \"print\"]",
        set: |house, value| {
            house.page.audiences = words(value)?;
            Some(())
        },
        show: |house| {
            let words: Vec<String> = house.page.audiences.iter().map(|word| quoted(word)).collect();
            format!("[{}]", words.join(", "))
        },
    },
    Setting {
        key: "pictures.placement",
        comment: "Where the pictures go that a document carries inside itself.",
        values: "\"beside\" or \"embedded\"",
        set: |house, value| {
            let choices =
                [("beside", PicturePlacement::Beside), ("embedded", PicturePlacement::Embedded)];
            house.pictures.placement = choice(value, &choices)?;
            Some(())
        },
        show: |house| {
            let beside = house.pictures.placement == PicturePlacement::Beside;
            quoted(if beside { "beside" } else { "embedded" })
        },
    },
    Setting {
        key: "safety.trust_sources",
        comment: "Lets raw HTML out as it is. Only for sources that may do anything on the destination.",
        values: "true or false",
        set: |house, value| {
            house.safety.trust_sources = truth(value)?;
            Some(())
        },
        show: |house| house.safety.trust_sources.to_string(),
    },
    Setting {
        key: "markdown.dialect",
        comment: "What Markdown may say: CommonMark alone, what code forges show, or everything.",
        values: "\"standard\", \"forge\" or \"full\"",
        set: |house, value| {
            house.markdown.dialect = choice(value, &DIALECTS)?;
            Some(())
        },
        show: |house| {
            let found = DIALECTS.iter().find(|(_, dialect)| *dialect == house.markdown.dialect);
            quoted(found.map_or("", |(name, _)| name))
        },
    },
    Setting {
        key: "markdown.hard_wraps",
        comment: "Every line ending is a line break, as in texts from form fields.",
        values: "true or false",
        set: |house, value| {
            house.markdown.hard_wraps = truth(value)?;
            Some(())
        },
        show: |house| house.markdown.hard_wraps.to_string(),
    },
    Setting {
        key: "markdown.smart_punctuation",
        comment: "Straight quotes, hyphens and periods become typographic, by the language.",
        values: "true or false",
        set: |house, value| {
            house.markdown.smart_punctuation = truth(value)?;
            Some(())
        },
        show: |house| house.markdown.smart_punctuation.to_string(),
    },
];

const DIALECTS: [(&str, MarkdownDialect); 3] = [
    ("standard", MarkdownDialect::Standard),
    ("forge", MarkdownDialect::Forge),
    ("full", MarkdownDialect::Full),
];

fn words(value: &DeValue<'_>) -> Option<Vec<String>> {
    value.as_array()?.iter().map(|word| text(word.get_ref())).collect()
}

fn text(value: &DeValue<'_>) -> Option<String> {
    value.as_str().map(Into::into)
}

fn truth(value: &DeValue<'_>) -> Option<bool> {
    match value {
        DeValue::Boolean(truth) => Some(*truth),
        _ => None,
    }
}

fn level(value: &DeValue<'_>) -> Option<u8> {
    let DeValue::Integer(number) = value else { return None };
    number.as_str().parse().ok().filter(|level| *level <= 6)
}

fn choice<T: Copy>(value: &DeValue<'_>, choices: &[(&str, T)]) -> Option<T> {
    let word = value.as_str()?;
    choices.iter().find(|(name, _)| *name == word).map(|(_, choice)| *choice)
}

fn quoted(text: &str) -> String {
    toml::Value::String(text.into()).to_string()
}
