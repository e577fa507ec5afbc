//! Lists, and terms with their descriptions.

use super::Writer;
use super::blocks::flattened;
use crate::document::{
    Attributes, Block, BlockKind, CheckState, DescriptionItem, List, ListItem, ListKind,
    ListSpacing, NumberDelimiter, Numbering, NumeralStyle,
};
use crate::findings::Code;
use crate::formats::html::tasks::STATE;
use crate::formats::html::{ITEM_LABEL, NUMBER_PATTERN};

impl Writer<'_> {
    pub(super) fn list(&mut self, list: &List, attributes: &Attributes) {
        let name = match &list.kind {
            ListKind::Bulleted(_) => "ul",
            ListKind::Numbered(_) => "ol",
        };
        self.out.push('<');
        self.out.push_str(name);
        if let ListKind::Numbered(numbering) = &list.kind {
            self.numbering(numbering, list);
        }
        // Numbers that HTML cannot say are text, and no others are to be drawn.
        let has_labels = list.items.iter().any(|item| item.label.is_some());
        self.attributes_and_style(attributes, has_labels.then_some("list-style-type: none"));
        self.out.push_str(">\n");
        let spacing = shown_spacing(list);
        list.items.iter().for_each(|item| self.item(item, spacing));
        self.close(name);
        self.out.push('\n');
    }

    fn numbering(&mut self, numbering: &Numbering, list: &List) {
        if numbering.start != 1 {
            self.attribute("start", &numbering.start.to_string());
        }
        let kind = match numbering.style {
            NumeralStyle::Decimal => None,
            NumeralStyle::LowerLetter => Some("a"),
            NumeralStyle::UpperLetter => Some("A"),
            NumeralStyle::LowerRoman => Some("i"),
            NumeralStyle::UpperRoman => Some("I"),
        };
        if let Some(kind) = kind {
            self.attribute("type", kind);
        }
        let is_text = list.items.iter().any(|item| item.label.is_some());
        if let Some(pattern) = &numbering.pattern {
            self.attribute(NUMBER_PATTERN, pattern);
            if !is_text {
                self.findings.count(Code::NumberPatternLost, pattern, Some(self.place));
            }
        } else if numbering.delimiter == NumberDelimiter::Parentheses && !is_text {
            self.findings.count(Code::NumberPatternLost, "(1)", Some(self.place));
        }
    }

    fn item(&mut self, item: &ListItem, spacing: ListSpacing) {
        self.out.push_str("<li");
        if let Some(number) = item.number {
            self.attribute("value", &number.to_string());
        }
        self.attributes(&item.attributes);
        self.out.push('>');
        // An item of no style has the space of a paragraph.
        let is_paragraph = self.has_styles() && item.attributes.style().is_none();
        let tight = spacing == ListSpacing::Tight && !is_paragraph;
        let mut label = item.label.as_deref();
        let mut check = item.check;
        if tight
            || !matches!(item.content.first(), Some(Block { kind: BlockKind::Paragraph(_), .. }))
        {
            self.label(label.take());
            self.check_box(check.take());
        }
        let start = self.out.len();
        for block in self.without_centring(&item.content) {
            match &block.kind {
                BlockKind::Paragraph(content) if tight && block.attributes.is_empty() => {
                    self.place = block.place;
                    if self.out.len() > start {
                        self.out.push('\n');
                    }
                    // The item has the looks of its only paragraph.
                    self.line(content, &item.attributes);
                }
                BlockKind::Paragraph(content) if check.is_some() || label.is_some() => {
                    self.place = block.place;
                    self.out.push_str("\n<p");
                    self.attributes(&block.attributes);
                    self.out.push('>');
                    self.label(label.take());
                    self.check_box(check.take());
                    self.line(content, &block.attributes);
                    self.out.push_str("</p>\n");
                }
                _ => self.on_a_new_line(block),
            }
        }
        self.out.push_str("</li>\n");
    }

    /// A number that stands before an item or a heading as text.
    pub(super) fn label(&mut self, label: Option<&str>) {
        let Some(label) = label else { return };
        self.out.push_str("<span ");
        self.out.push_str(ITEM_LABEL);
        self.out.push('>');
        self.text(label);
        self.out.push_str("</span> ");
    }

    fn check_box(&mut self, check: Option<CheckState>) {
        let Some(check) = check else { return };
        self.out.push_str("<input type=\"checkbox\" disabled");
        match check {
            CheckState::Open => {}
            CheckState::Done => self.out.push_str(" checked"),
            CheckState::Partial => self.attribute(STATE, "partial"),
        }
        if self.options.valid_page {
            let [open, partial, done] = self.words.boxes;
            let name = match check {
                CheckState::Open => open,
                CheckState::Partial => partial,
                CheckState::Done => done,
            };
            self.attribute("aria-label", name);
        }
        self.out.push_str("> ");
    }

    pub(super) fn description_list(&mut self, items: &[DescriptionItem], attributes: &Attributes) {
        if items.is_empty() {
            return;
        }
        self.container("dl", attributes, |writer| {
            for item in items {
                // A description needs a term, be it empty.
                if item.terms.is_empty() {
                    writer.out.push_str("<dt></dt>\n");
                }
                for term in &item.terms {
                    writer.out.push_str("<dt>");
                    writer.inlines(term);
                    writer.out.push_str("</dt>\n");
                }
                for description in &item.descriptions {
                    writer.out.push_str("<dd>");
                    writer.lone_paragraph_or_blocks(description);
                    writer.out.push_str("</dd>\n");
                }
            }
        });
    }
}

/// Two paragraphs in a row need their elements, or they would be one.
fn shown_spacing(list: &List) -> ListSpacing {
    let is_paragraph =
        |block: &Block| matches!(block.kind, BlockKind::Paragraph(_) | BlockKind::Group(_));
    let has_row = |item: &ListItem| {
        let is_remark = |block: &Block| matches!(block.kind, BlockKind::SourceRemark(_));
        let shown = flattened(&item.content).into_iter().filter(|block| !is_remark(block));
        let shown: Vec<&Block> = shown.collect();
        shown.windows(2).any(|two| two.iter().all(|block| is_paragraph(block)))
    };
    // A paragraph with attributes needs its element too.
    let has_own = |item: &ListItem| {
        let is_own = |block: &Block| {
            matches!(block.kind, BlockKind::Paragraph(_)) && !block.attributes.is_empty()
        };
        item.content.iter().any(is_own)
    };
    let is_loose = list.items.iter().any(|item| has_row(item) || has_own(item));
    if is_loose { ListSpacing::Loose } else { list.spacing }
}
