//! The places that tokens come from, one above the other: the topmost is read first.

use super::input::TextLevel;
use super::token::Located;

/// One place that tokens come from.
#[derive(Debug)]
pub(super) enum Level {
    Text(TextLevel),
    /// Tokens, and which comes next.
    Tokens(Vec<Located>, usize),
    /// A token that was given back.
    One(Located),
}

/// All levels. The lowest is a text, and is never taken away.
#[derive(Debug)]
pub(super) struct Levels {
    all: Vec<Level>,
    /// Which of them are texts: macros can put very many levels above them.
    texts: Vec<usize>,
}

impl Levels {
    pub(super) fn of(text: TextLevel) -> Self {
        Self { all: vec![Level::Text(text)], texts: vec![0] }
    }

    pub(super) fn push(&mut self, level: Level) {
        if matches!(level, Level::Text(_)) {
            self.texts.push(self.all.len());
        }
        self.all.push(level);
    }

    /// Takes the topmost level away, if it is not the lowest.
    pub(super) fn pop(&mut self) -> Option<Level> {
        if self.is_lowest() {
            return None;
        }
        let level = self.all.pop();
        if matches!(level, Some(Level::Text(_))) {
            self.texts.pop();
        }
        level
    }

    pub(super) fn is_lowest(&self) -> bool {
        self.all.len() <= 1
    }

    pub(super) fn last(&self) -> Option<&Level> {
        self.all.last()
    }

    pub(super) fn last_mut(&mut self) -> Option<&mut Level> {
        self.all.last_mut()
    }

    /// The texts, the topmost first.
    pub(super) fn texts(&self) -> impl Iterator<Item = &TextLevel> {
        self.texts.iter().rev().filter_map(|at| match self.all.get(*at) {
            Some(Level::Text(text)) => Some(text),
            _ => None,
        })
    }

    /// The text that is read.
    pub(super) fn text_mut(&mut self) -> Option<&mut TextLevel> {
        match self.all.get_mut(*self.texts.last()?) {
            Some(Level::Text(text)) => Some(text),
            _ => None,
        }
    }
}
