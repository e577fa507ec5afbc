//! Emphasis: its marks, where they can stand, and formats that Org has no marks for.

use super::Writer;
use super::escape::{APART, MARKS, Surroundings};
use crate::document::{Attributes, Formatted, Formatting, Inline, InlineCode, plain_text};
use crate::findings::Code;
use crate::formats::html::element_of;
use crate::formats::org::read::{is_closing, is_opening, is_white};

impl Writer<'_> {
    pub(super) fn formatted(&mut self, formatted: &Formatted, around: Surroundings) {
        let attributes = &formatted.attributes;
        if attributes.revision().is_some() {
            self.lost("who made a tracked change, and when");
        }
        let has_markup = has_own_markup(attributes);
        if let Some(id) = attributes.id().filter(|_| !has_markup) {
            self.out.push_str(&format!("<<{id}>>"));
        }
        let mark = match formatted.format {
            Formatting::Strong => Some('*'),
            Formatting::Emphasis => Some('/'),
            Formatting::Underline => Some('_'),
            Formatting::Deleted | Formatting::Struck => Some('+'),
            _ => None,
        };
        if formatted.format == Formatting::Struck {
            self.changed("struck text, as deleted text,");
        }
        if has_markup {
            return self.as_html(formatted, around);
        }
        match (formatted.format, mark) {
            (_, Some(mark)) => self.marked(mark, &formatted.content, around),
            (Formatting::Superscript, _) => self.script('^', &formatted.content, around),
            // Behind such a sign it would be underlined up to the next of its signs.
            (Formatting::Subscript, _) if is_opening(self.out.chars().next_back()) => {
                self.as_html(formatted, around);
            }
            (Formatting::Subscript, _) => self.script('_', &formatted.content, around),
            (Formatting::Plain, _) => self.inlines(&formatted.content, around),
            _ => self.as_html(formatted, around),
        }
    }

    /// Content between marks. White space at its ends stands outside.
    fn marked(&mut self, mark: char, content: &[Inline], around: Surroundings) {
        let mut inside = around;
        inside.is_last = false;
        for (known, is_around) in MARKS.iter().zip(&mut inside.marks) {
            if *known == mark {
                if *is_around {
                    // Emphasis in emphasis of the same mark says nothing more.
                    return self.inlines(content, around);
                }
                *is_around = true;
            }
        }
        let text = self.apart(|writer| writer.inlines(content, inside));
        // Around it are only the marks, between which the content is read on its own.
        let text = text.trim_matches(APART);
        let trimmed = text.trim_matches(is_space);
        if trimmed.is_empty() {
            return self.out.push_str(text);
        }
        if ends_early(mark, trimmed) {
            self.findings.count(Code::EmphasisDropped, &plain_text(content), Some(self.place));
            return self.inlines(content, around);
        }
        let before = text.len() - text.trim_start_matches(is_space).len();
        self.out.push_str(text.get(..before).unwrap_or_default());
        if !is_opening(self.out.chars().next_back()) && !opens_line(&self.out, around, mark) {
            self.out.push(APART);
        }
        self.out.push(mark);
        self.out.push_str(trimmed);
        self.out.push(mark);
        let behind = text.get(before + trimmed.len()..).unwrap_or_default();
        self.out.push_str(behind);
        self.needs_apart = behind.is_empty();
    }

    /// Keeps what comes next away from a mark that closes.
    pub(super) fn keep_apart(&mut self, next: Option<char>) {
        if std::mem::take(&mut self.needs_apart) && !is_closing(next) {
            self.out.push(APART);
        }
    }

    /// `^{…}` and `_{…}`, which something has to stand before.
    fn script(&mut self, sign: char, content: &[Inline], around: Surroundings) {
        let mut inside = around;
        inside.is_last = false;
        let text = self.apart(|writer| writer.inlines(content, inside));
        if self.out.chars().next_back().is_none_or(char::is_whitespace) {
            self.out.push(APART);
        } else if self.out.ends_with("\\\u{200b}") {
            // A backslash before these signs is one.
            self.out.pop();
        }
        let is_balanced = is_balanced(&text);
        if !is_balanced {
            self.findings.count(Code::EmphasisDropped, &plain_text(content), Some(self.place));
            return self.out.push_str(&text);
        }
        self.out.push_str(&format!("{sign}{{{text}}}"));
    }

    /// A format that only HTML has an element for.
    fn as_html(&mut self, formatted: &Formatted, around: Surroundings) {
        let name = match formatted.format {
            Formatting::Plain => "span",
            Formatting::SmallCapitals => {
                self.lost("small capitals");
                return self.inlines(&formatted.content, around);
            }
            format => element_of(format).unwrap_or("span"),
        };
        let what = if name == "span" { "attributes of text" } else { name };
        self.findings.count(Code::FormatAsHtml, what, Some(self.place));
        let mut inside = around;
        inside.is_last = false;
        let open = format!("<{name}{}>", html_attributes(&formatted.attributes));
        self.snippet("html", &open);
        self.inlines(&formatted.content, inside);
        self.keep_apart(Some('@'));
        self.snippet("html", &format!("</{name}>"));
    }

    /// `@@html:…@@`
    pub(super) fn snippet(&mut self, format: &str, markup: &str) {
        if markup.contains("@@") || markup.contains('\n') && self.is_line {
            return self.findings.count(Code::ForeignMarkupLost, format, Some(self.place));
        }
        self.out.push_str(&format!("@@{format}:{markup}@@"));
    }

    pub(super) fn code(&mut self, code: &InlineCode) {
        let text = code.text.as_str();
        let class = code.attributes.classes().first();
        let is_name = |name: &str| name.chars().all(|c| c.is_alphanumeric() || "-+#.".contains(c));
        if let Some(class) = class.filter(|class| is_name(class) && is_balanced(text)) {
            if self.out.chars().next_back().is_some_and(char::is_alphanumeric) {
                self.out.push(APART);
            }
            return self.out.push_str(&format!("src_{class}{{{text}}}"));
        }
        let is_cell = self.is_cell && text.contains('|');
        let fits = |mark: char| !text.is_empty() && !ends_early(mark, text) && !is_cell;
        let has_edges = !text.starts_with(is_white) && !text.ends_with(is_white);
        let mark = ['~', '='].into_iter().find(|mark| fits(*mark) && has_edges);
        let Some(mark) = mark else {
            self.findings.count(Code::FormatAsHtml, "code", Some(self.place));
            let escaped =
                escaped_html(text).replace('|', if self.is_cell { "&#124;" } else { "|" });
            return self.snippet("html", &format!("<code>{escaped}</code>"));
        };
        if !is_opening(self.out.chars().next_back()) {
            self.out.push(APART);
        }
        self.out.push(mark);
        self.out.push_str(text);
        self.out.push(mark);
        self.needs_apart = true;
    }
}

fn is_space(c: char) -> bool {
    matches!(c, ' ' | '\t' | '\n')
}

/// Whether a mark stands at the begin of the emphasis around it, where nothing is before it.
fn opens_line(out: &str, around: Surroundings, _mark: char) -> bool {
    out.is_empty() && around.marks.contains(&true)
}

/// Whether content would end the emphasis before its own end.
fn ends_early(mark: char, content: &str) -> bool {
    let mut before: Option<char> = None;
    let mut characters = content.chars().peekable();
    while let Some(c) = characters.next() {
        let next = characters.peek().copied();
        if c == mark
            && before.is_some_and(|before| !is_white(before))
            && next.is_some()
            && is_closing(next)
        {
            return true;
        }
        before = Some(c);
    }
    false
}

pub(super) fn is_balanced(text: &str) -> bool {
    let mut depth = 0_i32;
    for c in text.chars() {
        match c {
            '{' => depth += 1,
            '}' => depth -= 1,
            _ => {}
        }
        if depth < 0 {
            return false;
        }
    }
    depth == 0
}

/// Whether attributes say more than where something is.
fn has_own_markup(attributes: &Attributes) -> bool {
    attributes.get().is_some_and(|set| {
        !set.classes.is_empty()
            || set.language.is_some()
            || set.direction.is_some()
            || !set.pairs.is_empty()
            || !set.audiences.is_empty()
    })
}

fn html_attributes(attributes: &Attributes) -> String {
    let Some(set) = attributes.get() else { return String::new() };
    let mut out = String::new();
    let mut push = |name: &str, value: &str| {
        out.push_str(&format!(" {name}=\"{}\"", escaped_html(value)));
    };
    if let Some(id) = &set.id {
        push("id", id);
    }
    if !set.classes.is_empty() {
        push("class", &set.classes.join(" "));
    }
    if let Some(language) = &set.language {
        push("lang", language);
    }
    if let Some(direction) = set.direction {
        push("dir", direction.html());
    }
    if !set.audiences.is_empty() {
        push("data-audience", &set.audiences.join(" "));
    }
    for (name, value) in &set.pairs {
        push(name, value);
    }
    out
}

pub(super) fn escaped_html(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('"', "&quot;").replace('@', "&#64;")
}
