//! Styles (ECMA-376 part 1, 17.7), as far as they carry meaning.

use super::super::xml::Xml;
use super::runs::RunProperties;
use std::collections::HashMap;

/// How many styles a chain of inheritance may have.
const CHAIN_LIMIT: usize = 32;

/// One style.
#[derive(Debug, Default)]
pub(super) struct Style {
    /// The name, in lower case. Built-in styles have their English names in every language.
    name: String,
    based_on: Option<String>,
    /// 0 to 8 for headings, 9 for text.
    outline_level: Option<u8>,
    numbering_id: Option<i64>,
    numbering_level: Option<usize>,
    run: RunProperties,
    /// A table style that looks of the first row or column differently.
    first_row: bool,
    first_column: bool,
}

/// All styles of a package, by id.
#[derive(Debug, Default)]
pub(super) struct Styles {
    by_id: HashMap<String, Style>,
    /// The default style of paragraphs.
    default_paragraph: Option<String>,
    /// The language of text that states none.
    pub(super) language: Option<String>,
}

/// What a paragraph is, by its style.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Role {
    Text,
    Title,
    /// Level 1 to 9.
    Heading(u8),
    Quotation,
    Code,
    Caption,
    /// An entry of a contents list that Word made.
    ContentsEntry,
    /// Goes on with the list item above it.
    ListContinuation,
}

impl Styles {
    /// Reads the styles part.
    pub(super) fn read(text: &str) -> Self {
        let mut styles = Self::default();
        let mut xml = Xml::new(text);
        let top = xml.level();
        while let Some(root) = xml.child(top) {
            let level = xml.level();
            while root.is("styles")
                && let Some(element) = xml.child(level)
            {
                if element.is("docDefaults") {
                    styles.read_defaults(&mut xml);
                } else if element.is("style")
                    && let Some(id) = element.value("styleId")
                {
                    let is_default =
                        matches!(element.value("default").as_deref(), Some("1" | "true"));
                    if is_default && element.value("type").as_deref() == Some("paragraph") {
                        styles.default_paragraph = Some(id.clone());
                    }
                    styles.by_id.insert(id, Style::read(&mut xml));
                }
            }
        }
        styles
    }

    fn read_defaults(&mut self, xml: &mut Xml<'_>) {
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            if element.is("lang") {
                self.language = element.val().filter(|tag| tag != "x-none");
            }
        }
    }

    /// A style and those it is based on, nearest first.
    fn chain<'s>(&'s self, id: Option<&'s str>) -> impl Iterator<Item = &'s Style> {
        let first = id.and_then(|id| self.by_id.get(id));
        let next = |style: &&'s Style| self.by_id.get(style.based_on.as_deref()?);
        std::iter::successors(first, next).take(CHAIN_LIMIT)
    }

    /// The name of a style as people know it.
    pub(super) fn name(&self, id: &str) -> Option<&str> {
        self.by_id.get(id).map(|style| style.name.as_str())
    }

    fn or_default<'s>(&'s self, id: Option<&'s str>) -> Option<&'s str> {
        id.or(self.default_paragraph.as_deref())
    }

    /// What a paragraph of this style is.
    pub(super) fn role(&self, id: Option<&str>) -> Role {
        for style in self.chain(self.or_default(id)) {
            if let Some(level @ 0..=8) = style.outline_level {
                return Role::Heading(level + 1);
            }
            if let Some(role) = role_of_name(&style.name) {
                return role;
            }
        }
        Role::Text
    }

    /// The numbering that a paragraph style brings: list and level.
    pub(super) fn numbering(&self, id: Option<&str>) -> Option<(i64, Option<usize>)> {
        let mut level = None;
        for style in self.chain(self.or_default(id)) {
            level = level.or(style.numbering_level);
            if let Some(number) = style.numbering_id {
                return Some((number, level));
            }
        }
        None
    }

    /// The run properties of a style, inherited ones filled in.
    pub(super) fn run(&self, id: Option<&str>) -> RunProperties {
        self.chain(id).fold(RunProperties::default(), |nearer, style| nearer.or(&style.run))
    }

    /// The run properties of a paragraph style.
    pub(super) fn paragraph_run(&self, id: Option<&str>) -> RunProperties {
        self.run(self.or_default(id))
    }

    /// Whether this character style marks code.
    pub(super) fn marks_code(&self, id: &str) -> bool {
        self.chain(Some(id)).any(|style| is_code_name(&style.name))
    }

    /// Whether this character style is for links, whose line below says only that.
    pub(super) fn marks_link(&self, id: &str) -> bool {
        self.chain(Some(id)).any(|style| style.name.contains("hyperlink"))
    }

    /// Whether a table style sets off the first row and the first column.
    pub(super) fn table_headers(&self, id: &str) -> (bool, bool) {
        let row = self.chain(Some(id)).any(|style| style.first_row);
        (row, self.chain(Some(id)).any(|style| style.first_column))
    }
}

impl Style {
    fn read(xml: &mut Xml<'_>) -> Self {
        let mut style = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "name" => style.name = element.val().unwrap_or_default().to_lowercase(),
                "basedOn" => style.based_on = element.val(),
                "pPr" => style.read_paragraph_properties(xml),
                "rPr" => style.run = RunProperties::read(xml, &mut |_| {}),
                "tblStylePr" => match element.value("type").as_deref() {
                    Some("firstRow") => style.first_row = true,
                    Some("firstCol") => style.first_column = true,
                    _ => {}
                },
                _ => {}
            }
        }
        style
    }

    fn read_paragraph_properties(&mut self, xml: &mut Xml<'_>) {
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "outlineLvl" => {
                    self.outline_level = element.number("val").and_then(|n| u8::try_from(n).ok());
                }
                "numPr" => {
                    let inside = xml.level();
                    while let Some(property) = xml.child(inside) {
                        let number = property.number("val");
                        match property.local() {
                            "numId" => self.numbering_id = number,
                            "ilvl" => {
                                self.numbering_level = number.and_then(|n| usize::try_from(n).ok());
                            }
                            _ => {}
                        }
                    }
                }
                _ => {}
            }
        }
    }
}

fn role_of_name(name: &str) -> Option<Role> {
    if let Some(level) = name.strip_prefix("heading ").and_then(|level| level.parse().ok()) {
        return Some(Role::Heading(level)).filter(|_| (1..=9).contains(&level));
    }
    if name.strip_prefix("toc ").is_some_and(|level| level.parse::<u8>().is_ok()) {
        return Some(Role::ContentsEntry);
    }
    Some(match name {
        "title" => Role::Title,
        "quote" | "intense quote" | "block text" => Role::Quotation,
        "caption" => Role::Caption,
        "toc heading" => Role::ContentsEntry,
        "list paragraph" => Role::ListContinuation,
        name if name.starts_with("list continue") => Role::ListContinuation,
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
            | "html sample"
            | "macro text"
            | "code"
            | "plain text"
            | "preformatted"
            | "preformatted text"
    ) || name.split([' ', '-', '_']).any(|word| word == "code")
}
