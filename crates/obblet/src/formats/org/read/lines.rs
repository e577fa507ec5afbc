//! Lines of a source and what they begin with (Org syntax, “Elements”).

use crate::document::Place;

/// One line, without its newline.
#[derive(Debug, Clone, Copy)]
pub(super) struct Line<'s> {
    pub(super) text: &'s str,
    /// Which source it is of, and where in it the text starts.
    pub(super) source: u32,
    pub(super) start: u32,
    /// By how many levels its headings are lower than their stars say.
    pub(super) shift: i16,
    /// Whether something stands before it in its line, as before the first line of an item.
    pub(super) is_rest: bool,
    /// White space before the text: its bytes, and the column that it reaches to.
    white: u32,
    column: u32,
}

impl<'s> Line<'s> {
    /// A line that starts at an offset of a source.
    pub(super) fn new(text: &'s str, source: u32, start: u32) -> Self {
        let white = text.len() - text.trim_start_matches([' ', '\t']).len();
        let small = |number: usize| u32::try_from(number).unwrap_or(u32::MAX);
        let column = small(indentation(text));
        Self { text, source, start, shift: 0, is_rest: false, white: small(white), column }
    }

    /// The same line, where headings are lower by some levels.
    pub(super) fn lowered(self, shift: i16) -> Self {
        Self { shift, ..self }
    }

    pub(super) fn place(&self) -> Place {
        let end = self.start.saturating_add(u32::try_from(self.text.len()).unwrap_or(u32::MAX));
        Place { start: self.start, end, source: self.source }
    }

    /// The same line without its first bytes, which something before it in the line has.
    pub(super) fn rest(self, skipped: usize) -> Self {
        let text = self.text.get(skipped..).unwrap_or_default();
        let start = self.start.saturating_add(u32::try_from(skipped).unwrap_or(u32::MAX));
        Self { is_rest: true, shift: self.shift, ..Self::new(text, self.source, start) }
    }

    pub(super) fn is_blank(&self) -> bool {
        self.white as usize == self.text.len()
    }

    /// Without white space before it.
    pub(super) fn trimmed(&self) -> &'s str {
        self.text.get(self.white as usize..).unwrap_or_default()
    }

    /// The column of the first character; a tab goes on to the next of eight.
    pub(super) fn indentation(&self) -> usize {
        self.column as usize
    }
}

/// The column of the first character that is no white space.
pub(super) fn indentation(text: &str) -> usize {
    let mut column = 0;
    for byte in text.bytes() {
        match byte {
            b' ' => column += 1,
            b'\t' => column += 8 - column % 8,
            _ => break,
        }
    }
    column
}

/// The stars of a heading: their number.
pub(super) fn stars(text: &str) -> Option<usize> {
    if !text.starts_with('*') {
        return None;
    }
    let count = text.bytes().take_while(|byte| *byte == b'*').count();
    (text.as_bytes().get(count) == Some(&b' ')).then_some(count)
}

/// `#+KEY: value` or `#+KEY[option]: value`.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Keyword<'s> {
    pub(super) key: &'s str,
    pub(super) option: Option<&'s str>,
    pub(super) value: &'s str,
}

impl<'s> Keyword<'s> {
    pub(super) fn of(text: &'s str) -> Option<Self> {
        let rest = text.strip_prefix("#+")?;
        let end = rest.find([':', ' ', '\t', '['])?;
        let key = rest.get(..end).filter(|key| !key.is_empty())?;
        let behind = rest.get(end..)?;
        let (option, behind) = match behind.strip_prefix('[') {
            Some(inner) => {
                let close = inner.find("]:")?;
                (inner.get(..close), inner.get(close + 1..)?)
            }
            None => (None, behind),
        };
        // A key may hold colons itself; the last one before white space ends it.
        let word_end = behind.find([' ', '\t']).unwrap_or(behind.len());
        let colon = behind.get(..word_end)?.rfind(':')?;
        let key = match colon {
            0 => key,
            _ if option.is_some() => return None,
            _ => rest.get(..end + colon)?,
        };
        let value = behind.get(colon + 1..)?.trim_matches([' ', '\t']);
        Some(Self { key, option, value })
    }

    pub(super) fn is(&self, key: &str) -> bool {
        self.key.eq_ignore_ascii_case(key)
    }
}

/// `#+begin_NAME parameters`.
pub(super) fn block_begin(text: &str) -> Option<(&str, &str)> {
    let rest = strip_prefix_of_any_case(text, "#+begin_")?;
    let end = rest.find([' ', '\t']).unwrap_or(rest.len());
    let name = rest.get(..end).filter(|name| !name.is_empty())?;
    Some((name, rest.get(end..)?.trim_matches([' ', '\t'])))
}

/// `#+end_NAME`.
pub(super) fn block_end(text: &str) -> Option<&str> {
    let name = strip_prefix_of_any_case(text, "#+end_")?.trim_end_matches([' ', '\t']);
    (!name.is_empty() && !name.contains([' ', '\t'])).then_some(name)
}

/// `#+begin: name parameters`.
pub(super) fn dynamic_begin(text: &str) -> Option<&str> {
    let rest = strip_prefix_of_any_case(text, "#+begin:")?;
    let parameters = rest.trim_matches([' ', '\t']);
    (rest.starts_with([' ', '\t']) && !parameters.is_empty()).then_some(parameters)
}

pub(super) fn is_dynamic_end(text: &str) -> bool {
    strip_prefix_of_any_case(text, "#+end:").is_some_and(|rest| rest.trim().is_empty())
}

pub(super) fn strip_prefix_of_any_case<'s>(text: &'s str, prefix: &str) -> Option<&'s str> {
    let head = text.get(..prefix.len())?;
    head.eq_ignore_ascii_case(prefix).then(|| text.get(prefix.len()..)).flatten()
}

/// `:NAME:` alone in its line.
pub(super) fn drawer_name(text: &str) -> Option<&str> {
    let name = text.strip_prefix(':')?.trim_end_matches([' ', '\t']).strip_suffix(':')?;
    let is_name =
        !name.is_empty() && name.chars().all(|c| c.is_alphanumeric() || c == '-' || c == '_');
    is_name.then_some(name)
}

/// `\begin{name}`.
pub(super) fn environment(text: &str) -> Option<&str> {
    let rest = text.strip_prefix("\\begin{")?;
    let name = rest.get(..rest.find('}')?)?;
    let is_name = !name.is_empty() && name.chars().all(|c| c.is_ascii_alphanumeric() || c == '*');
    is_name.then_some(name)
}

/// Five hyphens or more, and nothing else.
pub(super) fn is_rule(text: &str) -> bool {
    let text = text.trim_end_matches([' ', '\t']);
    text.len() >= 5 && text.bytes().all(|byte| byte == b'-')
}

/// `: text`, or a colon alone: the text.
pub(super) fn fixed_width(text: &str) -> Option<&str> {
    let rest = text.strip_prefix(':')?;
    match rest.strip_prefix(' ') {
        Some(text) => Some(text),
        None => rest.trim().is_empty().then_some(""),
    }
}

/// `# text`, or a number sign alone: the text.
pub(super) fn comment(text: &str) -> Option<&str> {
    let rest = text.strip_prefix('#')?;
    match rest.strip_prefix([' ', '\t']) {
        Some(text) => Some(text),
        None => rest.is_empty().then_some(""),
    }
}

/// `[fn:label]` at the start of a line: the label, and how long this is.
pub(super) fn note_definition(text: &str) -> Option<(&str, usize)> {
    let rest = text.strip_prefix("[fn:")?;
    let end = rest.find(']')?;
    let label = rest.get(..end)?;
    is_label(label).then_some((label, end + 5))
}

/// Whether this can name a note.
pub(super) fn is_label(label: &str) -> bool {
    !label.is_empty() && label.chars().all(|c| c.is_alphanumeric() || c == '-' || c == '_')
}

/// Whether a line of text would be taken for the begin of another element.
pub(in crate::formats::org) fn starts_element(line: &str) -> bool {
    const WORDS: [&str; 6] = ["%%(", "CLOCK:", "SCHEDULED:", "DEADLINE:", "CLOSED:", "+-"];
    match line.as_bytes().first() {
        None => false,
        Some(b'|') => true,
        Some(b'#') => line.starts_with("#+") || comment(line).is_some(),
        Some(b':') => drawer_name(line).is_some() || fixed_width(line).is_some(),
        Some(b'[') => note_definition(line).is_some(),
        Some(b'\\') => environment(line).is_some(),
        _ => {
            stars(line).is_some()
                || bullet(line).is_some()
                || is_rule(line)
                || WORDS.iter().any(|word| line.starts_with(word))
        }
    }
}

/// What an item begins with.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Bullet {
    pub(super) kind: BulletKind,
    /// Bytes up to what stands behind the bullet and one white space.
    pub(super) length: usize,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum BulletKind {
    Sign(char),
    Number { value: i32, is_parenthesis: bool },
}

/// The bullet of an item, white space before it counted in its length.
pub(super) fn bullet(text: &str) -> Option<Bullet> {
    let trimmed = text.trim_start_matches([' ', '\t']);
    let indented = text.len() - trimmed.len();
    let first = trimmed.chars().next()?;
    let (kind, length) = match first {
        '-' | '+' => (BulletKind::Sign(first), 1),
        // At the start of a line a star makes a heading.
        '*' if indented > 0 => (BulletKind::Sign(first), 1),
        '0'..='9' => {
            let digits = trimmed.bytes().take_while(u8::is_ascii_digit).count();
            let is_parenthesis = match trimmed.as_bytes().get(digits)? {
                b'.' => false,
                b')' => true,
                _ => return None,
            };
            let value = trimmed.get(..digits)?.parse().ok()?;
            (BulletKind::Number { value, is_parenthesis }, digits + 1)
        }
        _ => return None,
    };
    let rest = trimmed.get(length..)?;
    let is_parted = rest.is_empty() || rest.starts_with([' ', '\t']);
    let length = indented + length + usize::from(!rest.is_empty());
    is_parted.then_some(Bullet { kind, length })
}
