//! Paragraphs (ECMA-376 part 1, 17.3.1).

use super::super::vocabulary::continued_level;
use super::super::xml::Xml;
use super::Reader;
use super::known_properties::Noted;
use super::line::{Line, TextStyle};
use super::looks;
use super::numbering::Numbered;
use super::paragraph_properties::ParagraphProperties;
use super::run_properties::RunProperties;
use super::sections::Section;
use super::styles::{ParagraphStyle, Role};
use super::text_base::TextBase;
use crate::document::{
    Anchor, Attributes, Block, CheckState, CompactString, Direction, Inline, Looks, Place,
    Revision, TextAlign,
};
use crate::findings::Code;
use std::rc::Rc;

/// A paragraph before lists are gathered.
#[derive(Debug)]
pub(super) struct Paragraph {
    pub(super) role: Role,
    pub(super) style: Rc<ParagraphStyle>,
    pub(super) numbered: Option<Numbered>,
    pub(super) align: Option<TextAlign>,
    /// Style, looks, direction and language.
    pub(super) attributes: Attributes,
    pub(super) content: Vec<Inline>,
    pub(super) place: Place,
    pub(super) is_drop_cap: bool,
    /// The sequence that a number in it belongs to: `Figure`, `Table`.
    pub(super) sequence: Option<CompactString>,
    /// A check box at its beginning.
    pub(super) check: Option<CheckState>,
    /// No space towards neighbours of its style.
    pub(super) is_contextual: bool,
    /// It wants space to its neighbours, against what its style says.
    pub(super) is_loose: bool,
    /// It goes on with the next one: the end between them was taken out.
    pub(super) joins_next: bool,
    /// The section that ends with it.
    pub(super) section: Option<Box<Section>>,
    /// Blocks that stand in it and come before and behind it in the document: text boxes, breaks.
    pub(super) before: Vec<Block>,
    pub(super) behind: Vec<Block>,
}

impl Reader<'_> {
    /// Whether nothing of a paragraph shows but a line above or below it.
    fn is_bare_rule(&self, properties: &ParagraphProperties, content: &[Inline]) -> bool {
        properties.has_rule
            && content.is_empty()
            && self.behind_paragraph.is_empty()
            && self.before_paragraph.is_empty()
            && properties.section.is_none()
    }

    /// Reads a paragraph.
    pub(super) fn paragraph(&mut self, xml: &mut Xml<'_>) -> Paragraph {
        if self.part.is_main {
            self.paragraphs += 1;
        }
        let place = if self.part.is_main { self.place() } else { Place::default() };
        let nothing = ParagraphProperties::default();
        let known = self.part.paragraph_properties.take(xml);
        let mut noted = known.map(|noted| self.counting_paragraph_properties(noted));
        let mut line = Line::default();
        for id in std::mem::take(&mut self.waiting_anchors) {
            self.has_anchors = true;
            let anchor = Anchor { id: id.into() };
            line.push(Inline::Anchor(Box::new(anchor)), TextStyle::default());
        }
        self.waiting_comment_starts(&mut line);
        self.holds_contents = false;
        self.reopen_fields(&mut line);
        let mut base: Option<Rc<TextBase>> = None;
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            if element.is("pPr") {
                let read = self.paragraph_properties(xml);
                noted = Some(self.counting_paragraph_properties(read));
                continue;
            }
            if base.is_none() {
                let style = noted.as_ref().and_then(|noted| noted.properties.style.as_ref());
                base = Some(self.text_base(self.styles.paragraph(style)));
            }
            if let Some(base) = &base {
                self.inline(&element, xml, &mut line, base);
            }
        }
        self.leave_paragraph_fields();
        let properties = noted.as_ref().map_or(&nothing, |noted| &noted.properties);
        let base = base.unwrap_or_else(|| {
            let style = self.styles.paragraph(properties.style.as_ref());
            self.text_base(style)
        });
        let style = base.style.clone();
        let dress = line.take_common_dress();
        let content = line.finish();
        let numbered = self.numbered(properties, &style, &content, place);
        let role = match properties.outline_level {
            _ if self.holds_contents && Line::shows_nothing(&content) => Role::ContentsEntry,
            Some(level @ 0..=8) => Role::Heading(level + 1),
            _ if style.role == Role::Text && self.is_bare_rule(properties, &content) => {
                Role::ThematicBreak
            }
            _ => style.role,
        };
        let mut attributes = match role {
            Role::ThematicBreak if style.role == Role::Text => Attributes::NONE,
            _ => self.paragraph_attributes(properties, &base, role, numbered.as_ref()),
        };
        if let Some(dress) = dress {
            dress.put_on(&mut attributes);
        }
        let joins_next = self.settle_end(properties.mark.as_deref());
        let mut paragraph = Paragraph {
            role,
            numbered,
            align: properties.align.or(style.paragraph.align),
            attributes,
            content,
            place,
            is_drop_cap: properties.drop_cap,
            sequence: self.sequence.take(),
            check: None,
            is_contextual: properties
                .contextual_spacing
                .or(style.paragraph.contextual_spacing)
                .unwrap_or_default(),
            is_loose: properties.contextual_spacing == Some(false),
            joins_next,
            section: properties.section.clone().filter(|_| self.part.is_main),
            before: std::mem::take(&mut self.before_paragraph),
            behind: std::mem::take(&mut self.behind_paragraph),
            style,
        };
        paragraph.take_check();
        paragraph
    }

    fn paragraph_properties(&mut self, xml: &mut Xml<'_>) -> Rc<Noted<ParagraphProperties>> {
        self.remembered(xml, |part| &mut part.paragraph_properties, ParagraphProperties::read)
    }

    /// The properties that count: those before a tracked change where it is rejected.
    fn counting_paragraph_properties(
        &mut self,
        noted: Rc<Noted<ParagraphProperties>>,
    ) -> Rc<Noted<ParagraphProperties>> {
        self.report(&noted);
        let ParagraphProperties { before_change, mark, section, .. } = &noted.properties;
        let Some(before) = before_change.as_deref().filter(|_| self.restores_looks()) else {
            return noted;
        };
        // The end of the paragraph is no part of that change.
        let (mark, section) = (mark.clone(), section.clone());
        let properties = ParagraphProperties { mark, section, ..before.clone() };
        Rc::new(Noted { properties, ..Noted::default() })
    }

    fn paragraph_attributes(
        &mut self,
        properties: &ParagraphProperties,
        base: &TextBase,
        role: Role,
        numbered: Option<&Numbered>,
    ) -> Attributes {
        let style = &*base.style;
        let mut attributes = Attributes::NONE;
        let right_to_left = properties.right_to_left.or(style.paragraph.right_to_left);
        if right_to_left == Some(true) {
            attributes.edit().direction = Some(Direction::RightToLeft);
        }
        if !self.options.looks {
            // The role says what the styles of headings, quotations and code say.
            let is_said = !matches!(
                role,
                Role::Text | Role::ListContinuation(_) | Role::Title | Role::Caption
            );
            if let Some(name) = style.name.as_ref().filter(|name| !is_said && says_something(name))
            {
                attributes.edit().style = Some(name.clone());
            }
            return attributes;
        }
        let mut direct = looks::of_paragraph(properties);
        // The list's own indents stand between those of the style and those of the paragraph.
        if let Some(level) = numbered.and_then(|numbered| numbered.definition.looks.as_deref()) {
            direct.indent_start = direct.indent_start.or(level.indent_start);
            direct.indent_first = direct.indent_first.or(level.indent_first);
        }
        let tabs = std::mem::take(&mut direct.tabs);
        let mut direct = direct.beyond(&base.looks);
        direct.tabs = tabs;
        self.dress_paragraph(&mut attributes, style, direct);
        attributes
    }

    /// Whether the end of a paragraph is gone, with what the house makes of tracked changes.
    fn settle_end(&mut self, mark: Option<&RunProperties>) -> bool {
        let Some(Revision { kind, .. }) = mark.and_then(|mark| mark.mark_change.as_deref()) else {
            return false;
        };
        let is_kept = self.is_kept(*kind);
        if is_kept.is_none() {
            self.lost("a tracked change of a paragraph's end");
        }
        is_kept == Some(false)
    }

    fn numbered(
        &mut self,
        properties: &ParagraphProperties,
        style: &ParagraphStyle,
        content: &[Inline],
        place: Place,
    ) -> Option<Numbered> {
        let list = properties.list.or(style.paragraph.list)?;
        // List 0 takes numbering away (17.9.18); and Word shows no number beside a paragraph
        // without content.
        if list == 0 || content.is_empty() {
            return None;
        }
        let by_style = || {
            let id = style.id.as_deref().filter(|_| properties.list.is_none())?;
            self.numberings.level_of_style(list, id)
        };
        let level = properties.list_level.or_else(by_style).or(style.paragraph.list_level);
        let numbered = self.numberings.count(list, level.unwrap_or_default());
        match &numbered {
            None => self.findings.count(Code::NumberingMissing, &list.to_string(), Some(place)),
            Some(numbered) if numbered.definition.has_picture => {
                self.lost("a picture as a bullet");
            }
            Some(_) => {}
        }
        numbered
    }
}

impl Paragraph {
    /// A check box at the beginning of a list's item is the item's state.
    fn take_check(&mut self) {
        if self.numbered.is_none() {
            return;
        }
        let is_anchor = |inline: &&Inline| matches!(inline, Inline::Anchor(_));
        let at = self.content.iter().take_while(is_anchor).count();
        let Some(Inline::CheckBox(ticked)) = self.content.get(at) else { return };
        self.check = Some(if *ticked { CheckState::Done } else { CheckState::Open });
        self.content.remove(at);
        if let Some(Inline::Text(text)) = self.content.get_mut(at) {
            *text = text.trim_start().into();
        }
    }

    /// The style's name in small letters.
    pub(super) fn style_key(&self) -> String {
        self.style.name.as_deref().unwrap_or_default().to_lowercase()
    }
}

/// Whether a style's name says more than that this is text.
fn says_something(name: &str) -> bool {
    !matches!(
        name.to_ascii_lowercase().as_str(),
        "normal"
            | "body text"
            | "box text"
            | "list paragraph"
            | "no spacing"
            | "normal (web)"
            | "default"
            | "footnote text"
            | "endnote text"
            | "annotation text"
    ) && continued_level(&name.to_ascii_lowercase()).is_none()
}

/// Looks that only say that there are none.
pub(super) fn without_indents(looks: &Looks) -> Looks {
    Looks { indent_start: None, indent_first: None, ..looks.clone() }
}
