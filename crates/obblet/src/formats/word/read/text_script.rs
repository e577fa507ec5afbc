//! Which of a run's three languages its text is in (ECMA-376 part 1, 17.3.2.20).

/// The scripts that have a language of their own.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum TextScript {
    Latin,
    EastAsian,
    Complex,
}

impl TextScript {
    /// The script of the first letter; `None` where there is no letter.
    pub(super) fn of(text: &str) -> Option<Self> {
        let first = text.chars().find(|character| character.is_alphabetic())?;
        Some(match u32::from(first) {
            // Hebrew, Arabic and their neighbours; Devanagari to Tibetan; their later forms.
            0x0590..=0x08FF | 0x0900..=0x0FFF | 0x1780..=0x17FF | 0xFB1D..=0xFEFC => Self::Complex,
            0x1100..=0x11FF
            | 0x2E80..=0xA4CF
            | 0xAC00..=0xD7FF
            | 0xF900..=0xFAFF
            | 0xFF66..=0xFFDC
            | 0x20000..=0x3FFFF => Self::EastAsian,
            _ => Self::Latin,
        })
    }
}

/// The first subtag: the language, whatever the country.
pub(super) fn primary(tag: &str) -> &str {
    tag.split('-').next().unwrap_or(tag)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_first_letter_tells_the_script() {
        let cases = [
            ("1893", None),
            ("mill", Some(TextScript::Latin)),
            ("мельница", Some(TextScript::Latin)),
            ("「水車」", Some(TextScript::EastAsian)),
            ("12 طاحونة", Some(TextScript::Complex)),
        ];
        for (text, expected) in cases {
            assert_eq!(TextScript::of(text), expected, "{text}");
        }
    }
}
