//! Macros (Org syntax, “Macros”; Org manual, “Macro Replacement”). They are expanded, in bounds.

use super::leaf::Leaf;
use super::plain::LineBuilder;
use super::{Reader, Spot, raw};
use crate::document::{Place, plain_text};
use crate::findings::Code;
use crate::work;

/// Bytes that all macros of a document may give together: so many for each of its own, and in any case.
const GIVEN_PER_BYTE: usize = 4;
const GIVEN_AT_LEAST: usize = 1 << 14;

/// What each use counts beside the bytes it gives.
const GIVEN_PER_USE: usize = 16;

/// How many bytes the macros of a document of this size may give.
pub(in super::super) fn room_of(bytes: usize) -> usize {
    let room = GIVEN_AT_LEAST.saturating_add(bytes.saturating_mul(GIVEN_PER_BYTE));
    room.min(work::limit(|limits| limits.included_bytes))
}

impl Reader<'_> {
    /// `{{{name}}}` or `{{{name(one, two)}}}`
    pub(super) fn macro_call(
        &mut self,
        spot: Spot<'_, '_>,
        line: &mut LineBuilder,
    ) -> Option<usize> {
        let Spot { leaf, at, range, depth } = spot;
        let text = leaf.text.get(at..range.end)?;
        let rest = text.strip_prefix("{{{")?;
        let close = leaf.next("}}}", at + 3).filter(|close| close + 3 <= range.end)?;
        let inner = leaf.text.get(at + 3..close)?;
        let end = inner.find(|c: char| !(c.is_ascii_alphanumeric() || c == '-' || c == '_'));
        let name = inner.get(..end.unwrap_or(inner.len()))?;
        if name.is_empty() || !rest.starts_with(|c: char| c.is_ascii_alphabetic()) {
            return None;
        }
        let behind = inner.get(name.len()..)?.trim();
        let arguments = match behind {
            "" => Vec::new(),
            _ => arguments(behind.strip_prefix('(')?.strip_suffix(')')?),
        };
        let place = leaf.place(at);
        let name = name.to_lowercase();
        if name == "results" && self.options.keeps_hidden {
            self.push(line, raw(leaf.text.get(at..close + 3)?));
            return Some(close + 3);
        }
        if self.open_macros.contains(&name) {
            self.findings.count(Code::MacroCircular, &name, Some(place));
            return None;
        }
        let Some(expansion) = self.expansion(&name, &arguments) else {
            self.findings.count(Code::MacroUnknown, &name, Some(place));
            return None;
        };
        if expansion.starts_with("(eval ") {
            self.findings.count(Code::CodeNotRun, &name, Some(place));
            return None;
        }
        let Some(room) = self.macro_room.checked_sub(expansion.len() + GIVEN_PER_USE) else {
            return self.too_many_macros(&name, place);
        };
        if depth + 1 >= super::DEEPEST {
            return self.too_many_macros(&name, place);
        }
        self.macro_room = room;
        let content = Leaf::of_text(&expansion, place);
        self.open_macros.push(name);
        let content = self.objects(&content, 0..expansion.len(), depth + 1);
        self.open_macros.pop();
        self.flush(line);
        line.out.extend(content);
        Some(close + 3)
    }

    fn too_many_macros(&mut self, name: &str, place: Place) -> Option<usize> {
        self.findings.count(Code::MacroLimit, name, Some(place));
        None
    }

    fn expansion(&mut self, name: &str, arguments: &[String]) -> Option<String> {
        if let Some(body) = self.settings.macros.get(name) {
            return Some(filled(body, arguments, self.macro_room));
        }
        let value = |reader: &Self, key: &str| reader.settings.values.get(key).cloned();
        let first = || arguments.first().map(|argument| argument.trim().to_string());
        Some(match name {
            "title" => match value(self, "title") {
                Some(title) => title,
                None => plain_text(&self.document.metadata.title),
            },
            "author" | "email" | "date" => value(self, name).unwrap_or_default(),
            "keyword" => value(self, &first()?.to_lowercase()).unwrap_or_default(),
            "results" => first()?,
            "n" => self.count(&first().unwrap_or_default(), arguments.get(1)),
            "input-file" => self.sources.list.first()?.name.clone(),
            // There is no clock here, and a date would not be the same twice.
            _ => return None,
        })
    }

    /// A counter that goes on by one, unless it is told where to begin.
    fn count(&mut self, name: &str, action: Option<&String>) -> String {
        let counter = self.counters.entry(name.to_string()).or_default();
        *counter = match action.map(|action| action.trim()) {
            Some("-") => *counter,
            Some(action) => action.parse().unwrap_or(1),
            None => counter.saturating_add(1),
        };
        counter.to_string()
    }
}

/// Arguments parted by commas; `\,` is a comma.
fn arguments(text: &str) -> Vec<String> {
    let mut arguments = vec![String::new()];
    let mut characters = text.chars().peekable();
    while let Some(c) = characters.next() {
        match (c, arguments.last_mut()) {
            ('\\', Some(last)) if characters.peek() == Some(&',') => {
                characters.next();
                last.push(',');
            }
            (',', _) => arguments.push(String::new()),
            (c, Some(last)) => last.push(c),
            (_, None) => {}
        }
    }
    for argument in &mut arguments {
        *argument = argument.trim().to_string();
    }
    arguments
}

/// The body with its arguments: `$1` to `$9`, and `$0` for all that was given. It ends soon after so many
/// bytes.
fn filled(body: &str, arguments: &[String], most: usize) -> String {
    let mut out = String::new();
    let mut characters = body.chars().peekable();
    while let Some(c) = characters.next().filter(|_| out.len() <= most) {
        let digit = (c == '$').then(|| characters.peek().and_then(|c| c.to_digit(10))).flatten();
        match digit {
            Some(0) => out.push_str(&arguments.join(",")),
            Some(number) => {
                let argument = arguments.get(number as usize - 1);
                out.push_str(argument.map_or("", String::as_str));
            }
            None => {
                out.push(c);
                continue;
            }
        }
        characters.next();
    }
    out
}
