//! The tokens of a formula.

/// What a formula's source is wrong about.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Problem {
    /// Which byte of the source it is about.
    pub(crate) at: usize,
    /// What is wrong.
    pub(crate) kind: ProblemKind,
}

impl Problem {
    /// Whether it is wrong however commands are understood.
    pub(crate) fn is_about_balance(&self) -> bool {
        matches!(self.kind, ProblemKind::Unbalanced(_) | ProblemKind::Misplaced(_))
    }
}

/// What may be wrong with the source of a formula.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum ProblemKind {
    /// A command that nobody knows, which is shown as it is written.
    UnknownCommand(String),
    /// Something that closes without having been opened, or the other way round.
    Unbalanced(String),
    /// A part is missing or stands where it cannot.
    Misplaced(String),
    /// It is nested deeper than is read.
    TooDeep,
}

/// A token: a character, or a command by its name without the backslash.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Token<'s> {
    Character(char),
    Command(&'s str),
}

/// Goes through a formula's source.
#[derive(Debug, Clone)]
pub(super) struct Scanner<'s> {
    source: &'s str,
    at: usize,
}

impl<'s> Scanner<'s> {
    pub(super) fn new(source: &'s str) -> Self {
        Self { source, at: 0 }
    }

    pub(super) fn at(&self) -> usize {
        self.at
    }

    pub(super) fn rewind(&mut self, at: usize) {
        self.at = at;
    }

    pub(super) fn rest(&self) -> &'s str {
        self.source.get(self.at..).unwrap_or_default()
    }

    /// What was gone through since a place.
    pub(super) fn since(&self, start: usize) -> &'s str {
        self.source.get(start..self.at).unwrap_or_default()
    }

    /// White space says nothing in formulas; a remark reaches to the end of its line.
    pub(super) fn skip_space(&mut self) {
        if self.source.as_bytes().get(self.at).is_some_and(|next| *next > b' ' && *next != b'%') {
            return;
        }
        loop {
            let rest = self.rest();
            let trimmed = rest.trim_start_matches(|c: char| c.is_ascii_whitespace());
            self.at += rest.len() - trimmed.len();
            if !trimmed.starts_with('%') {
                return;
            }
            self.at += trimmed.find('\n').map_or(trimmed.len(), |end| end + 1);
        }
    }

    /// The next token, which stays where it is.
    pub(super) fn peek(&mut self) -> Option<Token<'s>> {
        self.skip_space();
        let start = self.at;
        let token = self.next();
        self.at = start;
        token
    }

    pub(super) fn next(&mut self) -> Option<Token<'s>> {
        self.skip_space();
        let rest = self.rest();
        let first = rest.chars().next()?;
        if first != '\\' {
            self.at += first.len_utf8();
            return Some(Token::Character(first));
        }
        let name = rest.get(1..).unwrap_or_default();
        let letters = name.bytes().take_while(u8::is_ascii_alphabetic).count();
        let length = match letters {
            0 => name.chars().next().map_or(0, char::len_utf8),
            letters => letters,
        };
        self.at += 1 + length;
        Some(Token::Command(name.get(..length).unwrap_or_default()))
    }

    /// Goes past a character, if it is the next token.
    pub(super) fn eat(&mut self, character: char) -> bool {
        let is_next = self.peek() == Some(Token::Character(character));
        if is_next {
            self.next();
        }
        is_next
    }

    /// What stands between braces, as it is written; the opening one is behind us already.
    pub(super) fn raw_group(&mut self) -> &'s str {
        let start = self.at;
        let (mut depth, mut is_escaped) = (0_usize, false);
        for (offset, byte) in self.rest().bytes().enumerate() {
            match byte {
                _ if is_escaped => is_escaped = false,
                b'\\' => is_escaped = true,
                b'{' => depth += 1,
                b'}' if depth == 0 => {
                    let inside = self.source.get(start..start + offset).unwrap_or_default();
                    self.at = start + offset + 1;
                    return inside;
                }
                b'}' => depth -= 1,
                _ => {}
            }
        }
        self.at = self.source.len();
        self.since(start)
    }

    /// An argument in braces, or one token, as it is written.
    pub(super) fn raw_argument(&mut self) -> &'s str {
        if self.eat('{') {
            return self.raw_group();
        }
        let start = self.at;
        self.next();
        self.since(start)
    }

    /// An optional argument in brackets, as it is written.
    pub(super) fn raw_option(&mut self) -> Option<&'s str> {
        if self.peek() != Some(Token::Character('[')) {
            return None;
        }
        let start = self.at + 1;
        let (mut depth, mut is_escaped) = (0_usize, false);
        for (offset, byte) in self.source.get(start..)?.bytes().enumerate() {
            match byte {
                _ if is_escaped => is_escaped = false,
                b'\\' => is_escaped = true,
                b'{' => depth += 1,
                b'}' => depth = depth.checked_sub(1)?,
                b']' if depth == 0 => {
                    self.at = start + offset + 1;
                    return self.source.get(start..start + offset);
                }
                _ => {}
            }
        }
        None
    }
}
