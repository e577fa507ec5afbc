//! What each code means and what one can do about it, in words of one file.

use super::Code;
use std::collections::HashMap;
use std::sync::LazyLock;

/// A paragraph on what a code means, and what one can do.
type Words = (&'static str, &'static str);

static WORDS: LazyLock<HashMap<&'static str, Words>> =
    LazyLock::new(|| parse(include_str!("explained.txt")));

fn parse(text: &'static str) -> HashMap<&'static str, Words> {
    let mut words = HashMap::new();
    for part in text.split("\n\n# ").skip(1) {
        let mut lines = part.lines();
        let name = lines.next().unwrap_or_default();
        let meaning = lines.next().unwrap_or_default();
        let mending = lines.next().and_then(|line| line.strip_prefix("> ")).unwrap_or_default();
        words.insert(name, (meaning, mending));
    }
    words
}

impl Code {
    /// A paragraph on what this means.
    #[must_use]
    pub fn explanation(self) -> &'static str {
        WORDS.get(self.name()).map_or("", |words| words.0)
    }

    /// What one can do about it, in a sentence or two.
    #[must_use]
    pub fn mending(self) -> &'static str {
        WORDS.get(self.name()).map_or("", |words| words.1)
    }

    /// The code of this name.
    ///
    /// ```
    /// use obblet::findings::Code;
    /// assert_eq!(Code::of_name("fence-unclosed"), Some(Code::FenceUnclosed));
    /// ```
    #[must_use]
    pub fn of_name(name: &str) -> Option<Self> {
        Self::all().find(|code| code.name() == name)
    }

    /// The code whose name is most like this one, when any is.
    #[must_use]
    pub fn nearest(name: &str) -> Option<Self> {
        let likeness = |code: &Self| strsim::jaro_winkler(code.name(), name);
        Self::all()
            .max_by(|one, two| likeness(one).total_cmp(&likeness(two)))
            .filter(|code| likeness(code) > 0.8)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_code_is_explained_once_and_in_order() {
        let text = include_str!("explained.txt");
        let named: Vec<&str> =
            text.lines().skip(1).filter_map(|line| line.strip_prefix("# ")).collect();
        let codes: Vec<&str> = Code::all().map(Code::name).collect();
        assert_eq!(named, codes);
        for code in Code::all() {
            let (meaning, mending) = (code.explanation(), code.mending());
            assert!(meaning.ends_with('.') && mending.ends_with('.'), "{code}");
        }
    }
}
