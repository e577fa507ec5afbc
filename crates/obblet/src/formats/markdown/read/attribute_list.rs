//! Attributes in braces: `{#id .class key=value key="value"}`.

use super::entities::resolve_references;
use crate::document::{AttributeSet, Attributes, Direction};
use std::borrow::Cow;

/// The attributes at `at`, where there must be `{`. Gives them and the position behind.
pub(super) fn attribute_list(text: &str, at: usize) -> Option<(Attributes, usize)> {
    let mut rest = text.get(at..)?.strip_prefix('{')?;
    let mut set = AttributeSet::default();
    loop {
        rest = rest.trim_start_matches([' ', '\t', '\n']);
        if let Some(behind) = rest.strip_prefix('}') {
            let is_empty = set == AttributeSet::default();
            return (!is_empty).then(|| (set.into(), text.len() - behind.len()));
        }
        rest = match rest.as_bytes().first()? {
            b'#' => {
                let (id, behind) = word(rest.get(1..)?)?;
                set.id = Some(id.into());
                behind
            }
            b'.' => {
                let (class, behind) = word(rest.get(1..)?)?;
                set.classes.push(class.into());
                behind
            }
            _ => pair(rest, &mut set)?,
        };
    }
}

/// Characters up to white space, a brace or an equals sign; at least one.
fn word(text: &str) -> Option<(&str, &str)> {
    let end = text.find(|c: char| c.is_whitespace() || matches!(c, '{' | '}' | '='))?;
    (end > 0).then(|| text.split_at(end))
}

fn pair<'t>(text: &'t str, set: &mut AttributeSet) -> Option<&'t str> {
    let (key, behind) = word(text)?;
    if !key.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_' | ':')) {
        return None;
    }
    let value = behind.strip_prefix('=')?;
    // In quotes, a quotation mark is a character reference.
    let (value, behind) = match value.strip_prefix('"') {
        Some(quoted) => {
            let (value, behind) = quoted.split_once('"')?;
            (Cow::Owned(resolve_references(value)), behind)
        }
        None => {
            let (value, behind) = word(value)?;
            (Cow::Borrowed(value), behind)
        }
    };
    match key {
        "id" => set.id = Some(value.as_ref().into()),
        "dir" if value == "ltr" => set.direction = Some(Direction::LeftToRight),
        "dir" if value == "rtl" => set.direction = Some(Direction::RightToLeft),
        "class" => set.classes.extend(value.split_whitespace().map(Into::into)),
        "lang" => set.language = Some(value.as_ref().into()),
        "audience" | "audiences" => {
            set.audiences.extend(value.split([',', ' ']).filter(|a| !a.is_empty()).map(Into::into));
        }
        _ => set.pairs.push((key.into(), value.as_ref().into())),
    }
    Some(behind)
}

/// The attributes at the end of a heading or of what stands behind a fence, and the text before
/// them.
pub(super) fn trailing_attributes(text: &str) -> Option<(&str, Attributes)> {
    let trimmed = text.trim_end_matches([' ', '\t']);
    if !trimmed.ends_with('}') {
        return None;
    }
    let open = trimmed.rfind('{')?;
    let (attributes, end) = attribute_list(trimmed, open)?;
    let before = trimmed.get(..open)?;
    let stands_apart = before.is_empty() || before.ends_with([' ', '\t']);
    (end == trimmed.len() && stands_apart)
        .then(|| (before.trim_end_matches([' ', '\t']), attributes))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lists_end_where_their_brace_does() {
        let (attributes, end) = attribute_list("{#a .b .c d=e f=\"g h\" lang=de} x", 0).unwrap();
        assert_eq!(end, 30);
        assert_eq!((attributes.id(), attributes.classes().len()), (Some("a"), 2));
        assert_eq!((attributes.pair("d"), attributes.pair("f")), (Some("e"), Some("g h")));
        assert_eq!(attributes.get().and_then(|set| set.language.as_deref()), Some("de"));
        for wrong in ["{}", "{ }", "{a}", "{.}", "{#a", "{a=}", "{\"x\"=y}", "{a b=c}"] {
            assert!(attribute_list(wrong, 0).is_none(), "{wrong}");
        }
    }

    #[test]
    fn trailing_attributes_stand_apart_from_the_text() {
        assert_eq!(trailing_attributes("Tide {#t}").map(|(text, _)| text), Some("Tide"));
        assert_eq!(trailing_attributes("{#t}").map(|(text, _)| text), Some(""));
        assert!(trailing_attributes("f{x=y}").is_none());
        assert!(trailing_attributes("Tide {t}").is_none());
    }
}
