//! Options: `key=value, key, key={a, b}`.

/// The options in a text, in their order; a key without a value has an empty one.
pub(super) fn options(text: &str) -> Vec<(String, String)> {
    split(text, ',')
        .into_iter()
        .filter_map(|part| {
            let (key, value) = match split(&part, '=').as_slice() {
                [key] => (key.clone(), String::new()),
                [key, rest @ ..] => (key.clone(), rest.join("=")),
                [] => return None,
            };
            let value = value.trim();
            let bare = value.strip_prefix('{').and_then(|rest| rest.strip_suffix('}'));
            (!key.trim().is_empty())
                .then(|| (key.trim().to_string(), bare.unwrap_or(value).trim().to_string()))
        })
        .collect()
}

/// The value of a key.
pub(super) fn value<'o>(options: &'o [(String, String)], key: &str) -> Option<&'o str> {
    options.iter().rev().find(|(known, _)| known == key).map(|(_, value)| value.as_str())
}

/// Parts of a text between signs that stand in no braces.
pub(super) fn split(text: &str, sign: char) -> Vec<String> {
    let mut parts = vec![String::new()];
    let mut depth = 0_usize;
    for character in text.chars() {
        match character {
            '{' => depth += 1,
            '}' => depth = depth.saturating_sub(1),
            _ => {}
        }
        if character == sign && depth == 0 {
            parts.push(String::new());
        } else if let Some(last) = parts.last_mut() {
            last.push(character);
        }
    }
    parts
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn options_are_keys_with_values() {
        let found = options("width=0.5\\textwidth, keepaspectratio, alt={a wheel, turning}");
        assert_eq!(value(&found, "width"), Some("0.5\\textwidth"));
        assert_eq!(value(&found, "keepaspectratio"), Some(""));
        assert_eq!(value(&found, "alt"), Some("a wheel, turning"));
        assert_eq!(value(&found, "height"), None);
    }
}
