//! Typographic characters by language.

/// The quotation marks of a language: outer opening and closing, inner opening and closing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Quotes {
    /// Around a quotation.
    pub outer: [&'static str; 2],
    /// Around a quotation in a quotation.
    pub inner: [&'static str; 2],
}

/// Languages by their primary subtags, sorted; English stands for all others.
const QUOTES: &[(&str, Quotes)] = &[
    ("cs", Quotes { outer: ["„", "“"], inner: ["‚", "‘"] }),
    ("da", Quotes { outer: ["„", "“"], inner: ["‚", "‘"] }),
    ("de", Quotes { outer: ["„", "“"], inner: ["‚", "‘"] }),
    ("en", ENGLISH),
    ("es", Quotes { outer: ["«", "»"], inner: ["“", "”"] }),
    ("fi", Quotes { outer: ["”", "”"], inner: ["’", "’"] }),
    ("fr", Quotes { outer: ["«\u{a0}", "\u{a0}»"], inner: ["“", "”"] }),
    ("it", Quotes { outer: ["«", "»"], inner: ["“", "”"] }),
    ("nl", Quotes { outer: ["“", "”"], inner: ["‘", "’"] }),
    ("pl", Quotes { outer: ["„", "”"], inner: ["«", "»"] }),
    ("pt", Quotes { outer: ["“", "”"], inner: ["‘", "’"] }),
    ("sv", Quotes { outer: ["”", "”"], inner: ["’", "’"] }),
];

const ENGLISH: Quotes = Quotes { outer: ["“", "”"], inner: ["‘", "’"] };

impl Quotes {
    /// The quotation marks of a language by its BCP 47 tag.
    ///
    /// ```
    /// use obblet::typography::Quotes;
    /// assert_eq!(Quotes::of_language(Some("de-AT")).outer, ["„", "“"]);
    /// assert_eq!(Quotes::of_language(None).inner, ["‘", "’"]);
    /// ```
    #[must_use]
    pub fn of_language(tag: Option<&str>) -> Self {
        let primary = tag.and_then(|tag| tag.split('-').next()).unwrap_or("en").to_lowercase();
        let found = QUOTES.binary_search_by(|row| row.0.cmp(&primary)).ok();
        found.and_then(|index| QUOTES.get(index)).map_or(ENGLISH, |row| row.1)
    }
}

/// An apostrophe stands in words, behind them, and before figures cut short: ’90. Else the sign opens
/// or closes an inner quotation.
pub(crate) fn single_quote(
    last: char,
    left: &str,
    inner_open: &mut bool,
    quotes: Quotes,
) -> &'static str {
    let next = left.chars().nth(1).unwrap_or(' ');
    if (last.is_alphanumeric() && (next.is_alphanumeric() || !*inner_open)) || next.is_ascii_digit()
    {
        return "’";
    }
    *inner_open = opens_quotation(last, left);
    if *inner_open { quotes.inner[0] } else { quotes.inner[1] }
}

/// Whether a quotation mark at the start of `left` begins a quotation.
pub(crate) fn opens_quotation(last: char, left: &str) -> bool {
    let next = left.chars().nth(1).unwrap_or(' ');
    !next.is_whitespace()
        && (last.is_whitespace()
            || matches!(last, '(' | '[' | '{' | '–' | '—' | '“' | '„' | '‘' | '«'))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn languages_are_sorted() {
        assert!(QUOTES.is_sorted_by_key(|row| row.0));
    }
}
