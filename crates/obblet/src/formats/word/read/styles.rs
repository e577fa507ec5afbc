//! Styles (ECMA-376 part 1, 17.7): names, inheritance, and what each kind brings.

use super::super::vocabulary::{TEXT_STYLES, continued_level};
use super::super::xml::Xml;
use super::context::Context;
use super::looks::UsedStyles;
use super::paragraph_properties::ParagraphProperties;
use super::run_properties::RunProperties;
use super::table_styles::TableStyle;
use crate::document::{CompactString, Formatting, StyleKind};
use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;

/// How many styles a chain of inheritance may have.
const CHAIN_LIMIT: usize = 32;

/// What a style applies to.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Hash)]
pub(super) enum StyleType {
    #[default]
    Paragraph,
    Character,
    Table,
    Numbering,
}

/// One style, as it is stated.
#[derive(Debug, Default)]
pub(super) struct Style {
    /// The name as people see it. Built-in styles have their English names in every language.
    pub(super) name: CompactString,
    /// The same in lower case.
    key: CompactString,
    pub(super) kind: StyleType,
    pub(super) based_on: Option<CompactString>,
    link: Option<CompactString>,
    pub(super) paragraph: ParagraphProperties,
    pub(super) run: RunProperties,
    pub(super) table: TableStyle,
}

/// A paragraph style with all that it inherits.
#[derive(Debug, Default)]
pub(super) struct ParagraphStyle {
    pub(super) id: Option<CompactString>,
    pub(super) name: Option<CompactString>,
    pub(super) role: Role,
    pub(super) paragraph: ParagraphProperties,
    /// Without the document's defaults.
    pub(super) run: RunProperties,
}

/// A character style with all that it inherits.
#[derive(Debug, Default)]
pub(super) struct CharacterStyle {
    pub(super) name: Option<CompactString>,
    pub(super) run: RunProperties,
    pub(super) is_link: bool,
    pub(super) is_code: bool,
    /// The format that its name says.
    pub(super) says: Option<Formatting>,
}

/// All styles of a package, by id.
#[derive(Debug, Default)]
pub(super) struct Styles {
    by_id: HashMap<CompactString, Style>,
    defaults: HashMap<StyleType, CompactString>,
    /// What all text has that no style says anything else of.
    pub(super) default_run: RunProperties,
    pub(super) default_paragraph: ParagraphProperties,
    paragraphs: RefCell<HashMap<Option<CompactString>, Rc<ParagraphStyle>>>,
    characters: RefCell<HashMap<CompactString, Rc<CharacterStyle>>>,
    /// The paragraph style that was asked for last.
    last: RefCell<Option<(Option<CompactString>, Rc<ParagraphStyle>)>>,
}

/// What a paragraph is, by its style.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) enum Role {
    #[default]
    Text,
    Title,
    /// Level 1 to 9.
    Heading(u8),
    Quotation,
    Code,
    Caption,
    /// An entry of a contents list that Word made.
    ContentsEntry,
    /// Goes on with the list item above it: with that of a list level from 0, where it says so.
    ListContinuation(Option<u8>),
    ThematicBreak,
    Verse,
    Term,
    Description,
    /// Goes on with the description above it.
    DescriptionMore,
}

impl Styles {
    /// Reads the styles part.
    pub(super) fn read(text: &str, context: &mut Context<'_>) -> Self {
        let mut styles = Self::default();
        let mut xml = Xml::new(text);
        let top = xml.level();
        while let Some(root) = xml.child(top) {
            if !root.is("styles") {
                context.unknown(&root);
            }
            let level = xml.level();
            while root.is("styles")
                && let Some(element) = xml.child(level)
            {
                match element.local() {
                    "docDefaults" => styles.read_defaults(&mut xml, context),
                    "style" => {
                        let Some(id) = element.value("styleId").map(CompactString::from) else {
                            continue;
                        };
                        let kind = match element.value("type").as_deref() {
                            Some("character") => StyleType::Character,
                            Some("table") => StyleType::Table,
                            Some("numbering") => StyleType::Numbering,
                            _ => StyleType::Paragraph,
                        };
                        if element.flag("default") == Some(true) {
                            styles.defaults.insert(kind, id.clone());
                        }
                        let mut style = Style { kind, ..Style::read(&mut xml, context) };
                        if kind == StyleType::Table {
                            style.table.put_whole(&style.paragraph, &style.run);
                        }
                        styles.by_id.insert(id, style);
                    }
                    // Which styles the program's own lists show.
                    "latentStyles" => {
                        let inside = xml.level();
                        while let Some(latent) = xml.child(inside) {
                            if !latent.is("lsdException") {
                                context.unknown(&latent);
                            }
                        }
                    }
                    _ => context.unknown(&element),
                }
            }
        }
        styles
    }

    fn read_defaults(&mut self, xml: &mut Xml<'_>, context: &mut Context<'_>) {
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            match element.local() {
                "rPr" => self.default_run = RunProperties::read(xml, context),
                "pPr" => self.default_paragraph = ParagraphProperties::read(xml, context),
                "rPrDefault" | "pPrDefault" => {}
                _ => context.unknown(&element),
            }
        }
    }

    /// A style and those it is based on, nearest first.
    pub(super) fn chain<'s>(&'s self, id: Option<&str>) -> impl Iterator<Item = &'s Style> {
        let first = id.and_then(|id| self.by_id.get(id));
        let next = |style: &&'s Style| self.by_id.get(style.based_on.as_deref()?);
        std::iter::successors(first, next).take(CHAIN_LIMIT)
    }

    /// The ids of styles that are known by name, in the order of their names.
    pub(super) fn by_name(
        &self,
        used: &UsedStyles,
    ) -> Vec<(StyleKind, CompactString, CompactString)> {
        let mut found: Vec<_> = self
            .by_id
            .iter()
            .map(|(id, style)| {
                let kind = match style.kind {
                    StyleType::Paragraph => StyleKind::Block,
                    StyleType::Character => StyleKind::Inline,
                    StyleType::Table => StyleKind::Table,
                    StyleType::Numbering => StyleKind::List,
                };
                (kind, style.name.clone(), id.clone())
            })
            .filter(|(kind, name, _)| used.contains(&(*kind, name.clone())))
            .collect();
        found.sort_unstable_by(|one, other| (&one.1, &one.2).cmp(&(&other.1, &other.2)));
        found.dedup_by(|later, earlier| later.0 == earlier.0 && later.1 == earlier.1);
        found
    }

    pub(super) fn get(&self, id: &str) -> Option<&Style> {
        self.by_id.get(id)
    }

    /// The id of the default style of a kind.
    pub(super) fn default_of(&self, kind: StyleType) -> Option<&CompactString> {
        self.defaults.get(&kind)
    }

    /// A paragraph style with all it inherits; the default one for none, or for one that is not
    /// there.
    pub(super) fn paragraph(&self, id: Option<&CompactString>) -> Rc<ParagraphStyle> {
        // Most paragraphs have the style of the one before.
        if let Some((known, style)) = &*self.last.borrow()
            && known.as_ref() == id
        {
            return style.clone();
        }
        let found = self.paragraph_anew(id);
        *self.last.borrow_mut() = Some((id.cloned(), found.clone()));
        found
    }

    fn paragraph_anew(&self, id: Option<&CompactString>) -> Rc<ParagraphStyle> {
        let id = id.filter(|id| self.by_id.contains_key(id.as_str()));
        let id = id.or_else(|| self.default_of(StyleType::Paragraph));
        if let Some(known) = self.paragraphs.borrow().get(&id.cloned()) {
            return known.clone();
        }
        let mut found = ParagraphStyle {
            id: id.cloned(),
            name: id.and_then(|id| self.get(id)).map(|style| style.name.clone()),
            role: self.role(id.map(CompactString::as_str)),
            ..ParagraphStyle::default()
        };
        for style in self.chain(id.map(CompactString::as_str)) {
            found.paragraph = found.paragraph.or(&style.paragraph);
            found.run = found.run.or(&style.run);
        }
        let found = Rc::new(found);
        self.paragraphs.borrow_mut().insert(id.cloned(), found.clone());
        found
    }

    /// A character style with all it inherits. A paragraph style stands for its linked one.
    pub(super) fn character(&self, id: &CompactString) -> Rc<CharacterStyle> {
        if let Some(known) = self.characters.borrow().get(id) {
            return known.clone();
        }
        let mut start = id;
        if let Some(style) = self.get(id)
            && style.kind == StyleType::Paragraph
            && let Some(link) = &style.link
        {
            start = link;
        }
        let mut found = CharacterStyle {
            name: self.get(start).map(|style| style.name.clone()),
            ..CharacterStyle::default()
        };
        for style in self.chain(Some(start)) {
            found.run = found.run.or(&style.run);
            found.is_link |= style.key.contains("hyperlink");
            found.is_code |= is_code_name(&style.key);
            let said = TEXT_STYLES.iter().find(|(name, _)| style.name.eq_ignore_ascii_case(name));
            found.says = found.says.or(said.map(|(_, format)| *format));
        }
        let found = Rc::new(found);
        self.characters.borrow_mut().insert(id.clone(), found.clone());
        found
    }

    /// What a paragraph of this style is.
    fn role(&self, id: Option<&str>) -> Role {
        for style in self.chain(id) {
            match style.paragraph.outline_level {
                Some(level @ 0..=8) => return Role::Heading(level + 1),
                // A style based on a heading that says it is text.
                Some(_) => return role_of_name(&style.key).unwrap_or_default(),
                None => {}
            }
            if let Some(role) = role_of_name(&style.key) {
                return role;
            }
        }
        Role::Text
    }
}

impl Style {
    fn read(xml: &mut Xml<'_>, context: &mut Context<'_>) -> Self {
        let mut style = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "name" => {
                    style.name = element.short().unwrap_or_default();
                    style.key = style.name.to_lowercase();
                }
                "basedOn" => style.based_on = element.short(),
                "link" => style.link = element.short(),
                "pPr" => style.paragraph = ParagraphProperties::read(xml, context),
                "rPr" => style.run = RunProperties::read(xml, context),
                "tblPr" | "trPr" | "tcPr" | "tblStylePr" => {
                    style.table.read_part(&element, xml, context);
                }
                // How the program lists and offers styles.
                "aliases" | "next" | "uiPriority" | "semiHidden" | "unhideWhenUsed" | "qFormat"
                | "hidden" | "locked" | "autoRedefine" | "rsid" | "personal"
                | "personalCompose" | "personalReply" => {}
                _ => context.unknown(&element),
            }
        }
        style
    }
}

fn role_of_name(name: &str) -> Option<Role> {
    if let Some(level) = name.strip_prefix("heading ").and_then(|level| level.parse().ok()) {
        return Some(Role::Heading(level)).filter(|_| (1..=9).contains(&level));
    }
    Some(match name {
        "title" => Role::Title,
        "quote" | "intense quote" | "block text" => Role::Quotation,
        "caption" => Role::Caption,
        "list paragraph" => Role::ListContinuation(None),
        "thematic break" => Role::ThematicBreak,
        "verse" => Role::Verse,
        "term" => Role::Term,
        "description" => Role::Description,
        "description continued" => Role::DescriptionMore,
        name if name.starts_with("list continue") => {
            let level = continued_level(name).and_then(|level| u8::try_from(level).ok());
            Role::ListContinuation(level)
        }
        name if is_code_name(name) => Role::Code,
        _ => return None,
    })
}

fn is_code_name(name: &str) -> bool {
    matches!(
        name,
        "html preformatted"
            | "html code"
            | "html typewriter"
            | "macro text"
            | "code"
            | "preformatted"
            | "preformatted text"
    ) || name.split([' ', '-', '_']).any(|word| word == "code")
}
