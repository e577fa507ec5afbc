//! The document's named styles as classes, and what its default style says of all elements.

use super::looks::{declarations, length};
use crate::document::{CompactString, Length, Looks, NamedStyle, StyleKind};
use crate::document::{Ids, id_of_words};
use std::collections::HashMap;
use std::fmt::Write as _;

/// What browsers give elements by themselves is taken away: a document with styles of its own says
/// all of it.
const RESET: &str = "\
p, h1, h2, h3, h4, h5, h6, blockquote, figure, pre, dl, dd, hr { margin: 0 }
h1, h2, h3, h4, h5, h6, th, caption { font-size: inherit; font-weight: inherit; text-align: inherit }
th { text-align: start }
ul, ol { margin-block: 0; margin-inline-start: 36pt; padding: 0 }
p:empty::before { content: \"\\200B\" }
img { max-width: 100%; height: auto }
";

/// Named styles and the classes that stand for them.
#[derive(Debug, Default)]
pub(super) struct NamedStyles {
    default: Option<Looks>,
    by_name: HashMap<CompactString, NamedClass>,
    /// In the order of their first use.
    used: Vec<CompactString>,
}

#[derive(Debug)]
struct NamedClass {
    class: String,
    declarations: String,
    looks: Looks,
    is_used: bool,
}

impl NamedStyles {
    pub(super) fn of(styles: &[NamedStyle]) -> Self {
        let default = styles.iter().find(|style| style.is_default).map(|style| &style.looks);
        let mut taken = Ids::default();
        let mut by_name = HashMap::new();
        for style in styles.iter().filter(|style| !style.is_default) {
            let declarations = match (style.kind, default) {
                (StyleKind::Block, Some(default)) => block_declarations(&style.looks, default),
                _ => declarations(&style.looks),
            };
            let class = taken.made(&class_name(&style.name)).to_string();
            by_name.insert(
                style.name.clone(),
                NamedClass { class, declarations, looks: style.looks.clone(), is_used: false },
            );
        }
        Self { default: default.cloned(), by_name, used: Vec::new() }
    }

    /// The class of a style that says anything.
    pub(super) fn class_of(&mut self, name: &str) -> Option<String> {
        let (name, found) = self.by_name.get_key_value(name)?;
        if found.declarations.is_empty() {
            return None;
        }
        let (name, class) = (name.clone(), found.class.clone());
        if !found.is_used {
            if let Some(found) = self.by_name.get_mut(&name) {
                found.is_used = true;
            }
            self.used.push(name);
        }
        Some(class)
    }

    /// The looks of the default style, where the document has one.
    pub(super) fn default(&self) -> Option<&Looks> {
        self.default.as_ref()
    }

    /// The tab stops of a style.
    pub(super) fn looks_of(&self, name: Option<&str>) -> Option<&Looks> {
        match name {
            Some(name) => self.by_name.get(name).map(|found| &found.looks),
            None => self.default.as_ref(),
        }
    }

    pub(super) fn declarations_of(&self, name: &str) -> Option<String> {
        let found = self.by_name.get(name)?;
        (!found.declarations.is_empty()).then(|| found.declarations.clone())
    }

    pub(super) fn into_rules(self) -> String {
        let mut rules = String::new();
        if let Some(default) = &self.default {
            rules.push_str(RESET);
            let mut body = default.inherited();
            body.width = None;
            let mut page = declarations(&body);
            if let Some(width) = default.width {
                let parted = if page.is_empty() { "" } else { "; " };
                let _ = write!(
                    page,
                    "{parted}max-width: {}; margin: 36pt auto; padding: 0 12pt",
                    length(width)
                );
            }
            if !page.is_empty() {
                let _ = writeln!(rules, "body {{ {page} }}");
            }
            let paragraph = declarations(&Looks { width: None, ..default.of_box() });
            if !paragraph.is_empty() {
                let _ = writeln!(rules, "p {{ {paragraph} }}");
            }
        }
        for name in &self.used {
            if let Some(found) = self.by_name.get(name) {
                let _ = writeln!(rules, ".{} {{ {} }}", found.class, found.declarations);
            }
        }
        rules
    }
}

/// What a block of a style has beyond what all text has; its box is stated whole, since other
/// elements than paragraphs have none by the sheet.
fn block_declarations(looks: &Looks, default: &Looks) -> String {
    let mut own = looks.beyond(&default.inherited());
    own.width = None;
    let differs =
        |own: Option<Length>, default: Option<Length>| own.or(default.map(|_| Length::Points(0.0)));
    own.space_before = differs(looks.space_before, default.space_before);
    own.space_after = differs(looks.space_after, default.space_after);
    own.indent_start = differs(looks.indent_start, default.indent_start);
    own.indent_first = differs(looks.indent_first, default.indent_first);
    declarations(&own)
}

/// A class made of a style's name: it begins with a letter.
fn class_name(name: &str) -> String {
    let mut class = id_of_words(name);
    if class.is_empty() || class.starts_with(|c: char| c.is_ascii_digit()) {
        class.insert_str(0, "style-");
    }
    class
}
