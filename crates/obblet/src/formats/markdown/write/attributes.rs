//! Attributes in braces: `{#id .class key=value}`.

use crate::document::Attributes;

/// Whether braces can say something of these attributes, and all of it but named style and looks,
/// which no Markdown says.
pub(super) fn fits_braces(attributes: &Attributes) -> bool {
    attributes.get().is_some_and(|set| {
        let says_something = set.id.is_some()
            || set.language.is_some()
            || set.direction.is_some()
            || !(set.classes.is_empty() && set.pairs.is_empty() && set.audiences.is_empty());
        says_something
            && set.revision.is_none()
            && set.pairs.iter().all(|(key, _)| is_key(key))
            && set.classes.iter().all(|class| !class.is_empty())
    })
}

fn is_key(key: &str) -> bool {
    const RESERVED: [&str; 6] = ["id", "class", "lang", "dir", "audience", "audiences"];
    !key.is_empty()
        && !RESERVED.contains(&key)
        && key.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_' | ':'))
}

/// The attributes between braces; empty where there is nothing to say.
pub(super) fn braces(attributes: &Attributes, more: &[(&str, String)]) -> String {
    let mut parts = Vec::new();
    if let Some(set) = attributes.get() {
        if let Some(id) = &set.id {
            parts.push(if is_word(id) { format!("#{id}") } else { pair("id", id) });
        }
        for class in &set.classes {
            parts.push(if is_word(class) { format!(".{class}") } else { pair("class", class) });
        }
        if let Some(language) = &set.language {
            parts.push(pair("lang", language));
        }
        if let Some(direction) = set.direction {
            parts.push(pair("dir", direction.html()));
        }
        if !set.audiences.is_empty() {
            parts.push(pair("audience", &set.audiences.join(",")));
        }
        parts.extend(set.pairs.iter().map(|(key, value)| pair(key, value)));
    }
    parts.extend(more.iter().map(|(key, value)| pair(key, value)));
    if parts.is_empty() { String::new() } else { format!("{{{}}}", parts.join(" ")) }
}

/// What can stand behind `#`, `.` and `=` as it is.
fn is_word(text: &str) -> bool {
    !text.is_empty()
        && !text.contains(|c: char| {
            c.is_whitespace() || c.is_control() || "{}=\"'&|`<>*_~^[]$\\".contains(c)
        })
}

fn pair(key: &str, value: &str) -> String {
    if is_word(value) {
        return format!("{key}={value}");
    }
    let mut quoted = format!("{key}=\"");
    for c in value.chars() {
        // Whatever could end the value, the braces, the cell or the line.
        match c {
            '"' | '&' | '{' | '}' | '|' | '`' | '\n' | '\r' | '\\' => {
                quoted.push_str(&format!("&#{};", u32::from(c)));
            }
            _ => quoted.push(c),
        }
    }
    quoted.push('"');
    quoted
}
