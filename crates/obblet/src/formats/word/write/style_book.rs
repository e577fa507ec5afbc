//! The styles part: the document's own named styles, and those that its structure needs.

use super::default_styles::{DefaultStyle, PARAGRAPH_DEFAULTS, RUN_DEFAULTS, STYLES};
use super::looks::{block_properties, run_properties};
use super::markup::{push_val, value};
use super::parts::XML;
use super::pattern::Pattern;
use super::runs::RunLook;
use super::{MAIN, Writer};
use crate::document::{CompactString, Document, NamedStyle, StyleKind};
use crate::formats::word::vocabulary::{CODE, code_language};
use std::collections::{BTreeMap, HashMap, HashSet};

/// The styles that a document uses, by kind and name.
#[derive(Debug, Default)]
pub(super) struct StyleBook<'d> {
    /// The document's own, by kind and name in small letters.
    own: HashMap<(StyleKind, CompactString), &'d NamedStyle>,
    /// Ids of those in use.
    ids: HashMap<(StyleKind, CompactString), CompactString>,
    taken: HashSet<CompactString>,
    /// In the order in which they are written: defaults by their row, others by their name.
    used: BTreeMap<(usize, String), Used<'d>>,
}

#[derive(Debug, Clone, Copy)]
enum Used<'d> {
    Default(&'static DefaultStyle),
    Own(&'d NamedStyle),
    /// Named by the document, and nowhere said how it looks.
    Bare(StyleKind),
}

impl<'d> StyleBook<'d> {
    pub(super) fn new(document: &'d Document, pattern: &Pattern) -> Self {
        let own = document
            .styles
            .iter()
            .map(|style| ((style.kind, style.name.to_lowercase()), style))
            .collect();
        let taken = pattern.style_ids.values().map(|id| id.to_lowercase()).collect();
        // What a pattern says of a style holds, whatever the document says.
        let mut book = Self { own, ids: pattern.style_ids.clone(), taken, ..Self::default() };
        for (kind, name) in [
            (StyleKind::Block, "Normal"),
            (StyleKind::Inline, "Default Paragraph Font"),
            (StyleKind::Table, "Normal Table"),
        ] {
            book.id(kind, name);
        }
        book
    }

    /// The id of a style, which is in use from now on.
    pub(super) fn id(&mut self, kind: StyleKind, name: &str) -> CompactString {
        let key = (kind, CompactString::from(name.to_lowercase()));
        if let Some(id) = self.ids.get(&key) {
            return id.clone();
        }
        let row = STYLES
            .iter()
            .position(|style| style.kind == kind && style.name.eq_ignore_ascii_case(name));
        let default = row.and_then(|row| STYLES.get(row));
        let own = self.own.get(&key).copied();
        let id = match default {
            Some(style) if !self.taken.contains(style.id.to_lowercase().as_str()) => {
                style.id.into()
            }
            _ => self.free_id(name),
        };
        self.taken.insert(id.to_lowercase());
        self.ids.insert(key, id.clone());
        let used = match (own, default) {
            (Some(style), _) => Used::Own(style),
            (None, Some(style)) => Used::Default(style),
            (None, None) => Used::Bare(kind),
        };
        self.used.insert((row.unwrap_or(STYLES.len()), name.to_string()), used);
        // What it is based on, and what follows it, are there too.
        let base = match used {
            Used::Own(style) => style.based_on.clone(),
            Used::Default(style) => default_name(style.based_on).map(Into::into),
            Used::Bare(_) => code_language(name).map(|_| CODE.into()),
        };
        let next = default.and_then(|style| default_name(style.next)).map(CompactString::from);
        for name in base.iter().chain(&next) {
            self.id(kind, name);
        }
        id
    }

    /// Letters and digits of a name, as Word makes ids.
    fn free_id(&self, name: &str) -> CompactString {
        let letters: String = name.chars().filter(char::is_ascii_alphanumeric).collect();
        let base = if letters.is_empty() { "Style".to_string() } else { letters };
        let is_free = |id: &String| {
            !self.taken.contains(id.to_lowercase().as_str())
                && !STYLES.iter().any(|style| style.id.eq_ignore_ascii_case(id))
        };
        let numbered = (2..).map(|number| format!("{base}{number}"));
        let mut all = std::iter::once(base.clone()).chain(numbered);
        all.find(is_free).unwrap_or_default().into()
    }

    /// Whether the document says how paragraphs look that name no style.
    fn default_style(&self) -> Option<&'d NamedStyle> {
        self.own.values().find(|style| style.is_default && style.kind == StyleKind::Block).copied()
    }
}

fn default_name(id: &str) -> Option<&'static str> {
    STYLES.iter().find(|style| style.id == id).map(|style| style.name)
}

impl Writer<'_> {
    /// The whole part.
    pub(super) fn styles_part(&mut self) -> String {
        let used: Vec<((usize, String), Used<'_>)> =
            self.styles.used.iter().map(|(key, used)| (key.clone(), *used)).collect();
        let mut out = match self.pattern.styles() {
            "" => self.style_defaults(),
            styles => styles.to_string(),
        };
        for ((_, name), used) in used {
            self.push_style(&name, used, &mut out);
        }
        out + "</w:styles>"
    }

    /// The part up to the first style.
    fn style_defaults(&self) -> String {
        let mut out = format!("{XML}<w:styles xmlns:w=\"{MAIN}\"><w:docDefaults><w:rPrDefault>");
        let own = self.styles.default_style();
        out.push_str("<w:rPr>");
        out.push_str(if own.is_some() { "" } else { RUN_DEFAULTS });
        if let Some(language) = &self.document.metadata.language {
            out.push_str(&format!("<w:lang w:val=\"{}\"/>", value(language)));
        }
        out.push_str("</w:rPr></w:rPrDefault>");
        let paragraph = if own.is_some() { "" } else { PARAGRAPH_DEFAULTS };
        out.push_str(&format!("<w:pPrDefault><w:pPr>{paragraph}</w:pPr></w:pPrDefault>"));
        out.push_str("</w:docDefaults>");
        out
    }

    fn push_style(&mut self, name: &str, used: Used<'_>, out: &mut String) {
        let kind = match used {
            Used::Default(style) => style.kind,
            Used::Own(style) => style.kind,
            Used::Bare(kind) => kind,
        };
        let word = match kind {
            StyleKind::Block => "paragraph",
            StyleKind::Inline => "character",
            StyleKind::Table => "table",
            StyleKind::List => "numbering",
        };
        let id = self.styles.id(kind, name);
        let default = STYLES.iter().find(|style| style.id == id);
        let is_default = matches!(&*id, "Normal" | "DefaultParagraphFont" | "TableNormal");
        let mark = if is_default { " w:default=\"1\"" } else { "" };
        let custom = if default.is_none_or(is_ours) { " w:customStyle=\"1\"" } else { "" };
        out.push_str(&format!("<w:style w:type=\"{word}\"{mark}{custom} w:styleId=\"{id}\">"));
        push_val(out, "w:name", default.map_or(name, |style| style.name));
        let base = self.base_id(kind, name, used, is_default);
        if let Some(base) = base.filter(|base| *base != id) {
            push_val(out, "w:basedOn", &base);
        }
        if let Some(next) = default.and_then(|style| default_name(style.next)) {
            let next = self.styles.id(kind, next);
            push_val(out, "w:next", &next);
        }
        let is_hidden = matches!(&*id, "DefaultParagraphFont" | "TableNormal");
        out.push_str(if is_hidden {
            "<w:uiPriority w:val=\"99\"/><w:semiHidden/><w:unhideWhenUsed/>"
        } else {
            "<w:qFormat/>"
        });
        match used {
            Used::Default(style) => push_default(style, out),
            Used::Own(style) => self.push_own(style, default, out),
            Used::Bare(_) => {}
        }
        out.push_str("</w:style>");
    }

    fn base_id(
        &mut self,
        kind: StyleKind,
        name: &str,
        used: Used<'_>,
        is_default: bool,
    ) -> Option<CompactString> {
        if is_default {
            return None;
        }
        match used {
            Used::Default(style) => {
                default_name(style.based_on).map(|name| self.styles.id(kind, name))
            }
            Used::Own(NamedStyle { based_on: Some(base), .. }) => Some(self.styles.id(kind, base)),
            // Code in a language looks like all code.
            Used::Bare(_) if code_language(name).is_some() => Some(self.styles.id(kind, CODE)),
            Used::Own(_) | Used::Bare(_) => Some(match kind {
                StyleKind::Block => self.styles.id(kind, "Normal"),
                StyleKind::Inline => self.styles.id(kind, "Default Paragraph Font"),
                StyleKind::Table => self.styles.id(kind, "Normal Table"),
                StyleKind::List => return None,
            }),
        }
    }

    /// A style of the document's own. What a heading is stays said beside its looks.
    fn push_own(
        &mut self,
        style: &NamedStyle,
        default: Option<&'static DefaultStyle>,
        out: &mut String,
    ) {
        if style.kind == StyleKind::Table {
            out.push_str(default.map_or("", |style| style.paragraph));
            return;
        }
        // What the style that it is based on says already need not be said again.
        let base = style.based_on.as_ref().map(|base| (style.kind, base.to_lowercase()));
        let base = base.and_then(|key| self.styles.own.get(&key).copied());
        let own = base.map_or_else(|| style.looks.clone(), |base| style.looks.beyond(&base.looks));
        let mut paragraph = block_properties(&own, None);
        if let Some(level) = default.and_then(|style| style.id.strip_prefix("Heading")) {
            let level = level.parse::<u8>().unwrap_or(1).saturating_sub(1);
            paragraph.outline = Some(level);
        }
        let look = RunLook::default().with(|look| look.looks = Some(Box::new(own)));
        if style.kind == StyleKind::Block {
            let paragraph = paragraph.xml();
            if !paragraph.is_empty() {
                out.push_str(&format!("<w:pPr>{paragraph}</w:pPr>"));
            }
        }
        let run = run_properties(&look);
        if !run.is_empty() {
            out.push_str(&format!("<w:rPr>{run}</w:rPr>"));
        }
    }
}

/// Whether a style of ours is none that Word has built in.
fn is_ours(style: &DefaultStyle) -> bool {
    const OURS: [&str; 13] = [
        "Code",
        "Verse",
        "ThematicBreak",
        "Term",
        "Description",
        "DescriptionContinued",
        "BoxTitle",
        "BoxText",
        "DeletedText",
        "InsertedText",
        "SmallPrint",
        "RuledTable",
        "TeXSource",
    ];
    OURS.contains(&style.id)
}

fn push_default(style: &DefaultStyle, out: &mut String) {
    if style.kind == StyleKind::Table {
        return out.push_str(style.paragraph);
    }
    if !style.paragraph.is_empty() {
        out.push_str(&format!("<w:pPr>{}</w:pPr>", style.paragraph));
    }
    if !style.run.is_empty() {
        out.push_str(&format!("<w:rPr>{}</w:rPr>", style.run));
    }
}
