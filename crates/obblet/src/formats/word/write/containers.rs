//! Blocks that belong together: quotations, boxes and groups, in content controls where no style says it.

use super::blocks::Around;
use super::markup::push_text;
use super::{SectionStart, Writer};
use crate::document::{
    Admonition, Attributes, Block, BlockKind, BreakKind, CellAlign, Group, GroupRole, StyleKind,
    plain_text,
};
use crate::formats::word::vocabulary::{Container, list_continuation};
use crate::locale::Words;

impl<'d> Writer<'d> {
    pub(super) fn quotation(
        &mut self,
        block: &Block,
        content: &'d [Block],
        around: &Around,
        out: &mut String,
    ) {
        let mut inner = around.inside(&block.attributes);
        inner.style = Some(self.styles.id(StyleKind::Block, &self.options.styles.quotation));
        if is_plain_quotation(content, around) {
            return self.blocks(content, &inner, out);
        }
        self.contained(Container::Quotation, None, content, &inner, out);
    }

    /// Blocks in a content control.
    pub(super) fn contained(
        &mut self,
        container: Container<'_>,
        title: Option<&str>,
        content: &'d [Block],
        around: &Around,
        out: &mut String,
    ) {
        self.open_container(container, title, out);
        let before = out.len();
        let inner = Around { is_top: false, ..around.clone() };
        self.blocks(content, &inner, out);
        if out.len() == before {
            out.push_str("<w:p/>");
        }
        self.close_container(out);
    }

    pub(super) fn open_container(
        &mut self,
        container: Container<'_>,
        title: Option<&str>,
        out: &mut String,
    ) {
        out.push_str("<w:sdt><w:sdtPr>");
        if let Some(title) = title.filter(|title| !title.is_empty()) {
            out.push_str("<w:alias w:val=\"");
            push_text(out, &title.chars().take(64).collect::<String>());
            out.push_str("\"/>");
        }
        out.push_str("<w:tag w:val=\"");
        push_text(out, &container.tag());
        out.push_str("\"/></w:sdtPr><w:sdtContent>");
    }

    pub(super) fn close_container(&mut self, out: &mut String) {
        out.push_str("</w:sdtContent></w:sdt>");
    }

    /// More of a list's item.
    pub(super) fn item_block(
        &mut self,
        block: &'d Block,
        level: usize,
        around: &Around,
        out: &mut String,
    ) {
        let is_text = matches!(block.kind, BlockKind::Paragraph(_));
        if is_text && block.attributes.style().is_none() && level < 5 {
            let style = Some(self.styles.id(StyleKind::Block, &list_continuation(level)));
            let inner = Around { style, ..around.clone() };
            return self.blocks(std::slice::from_ref(block), &inner, out);
        }
        self.contained(Container::Item(level), None, std::slice::from_ref(block), around, out);
    }

    pub(super) fn admonition(
        &mut self,
        block: &Block,
        admonition: &'d Admonition,
        around: &Around,
        out: &mut String,
    ) {
        let words = Words::of_language(self.document.metadata.language.as_deref());
        let kind = admonition.kind.name();
        let title = match &admonition.title {
            Some(title) => plain_text(title),
            None => words.admonition(&admonition.kind).to_string(),
        };
        let mut inner = around.inside(&block.attributes);
        inner.is_top = false;
        inner.style = Some(self.styles.id(StyleKind::Block, &self.options.styles.admonition));
        self.open_container(Container::Admonition(kind), Some(&title), out);
        match &admonition.title {
            Some(content) => self.styled(&self.options.styles.box_title, content, &inner, out),
            None => {
                let style = Some(self.styles.id(StyleKind::Block, &self.options.styles.box_title));
                let mut paragraph = self.paragraph_of(&Attributes::NONE, style, &inner);
                let look = paragraph.look.clone();
                let mut before = String::new();
                self.push_run(&title, &look, &mut before);
                paragraph.before = before;
                self.push_paragraph(paragraph, out);
            }
        }
        inner.ids.clear();
        self.blocks(&admonition.content, &inner, out);
        self.close_container(out);
    }

    pub(super) fn group(
        &mut self,
        block: &Block,
        group: &'d Group,
        around: &Around,
        out: &mut String,
    ) {
        let mut inner = around.inside(&block.attributes);
        let content = &group.content;
        match &group.role {
            GroupRole::Plain => self.contained(Container::Group, None, content, &inner, out),
            GroupRole::Aside => {
                inner.style = Some(self.styles.id(StyleKind::Block, &self.options.styles.aside));
                self.contained(Container::Aside, None, content, &inner, out);
            }
            GroupRole::Abstract => {
                self.contained(Container::Abstract, Some("Abstract"), content, &inner, out);
            }
            GroupRole::Disclosure(summary) => {
                let title = plain_text(summary);
                self.open_container(Container::Disclosure, Some(&title), out);
                self.styled(&self.options.styles.box_title, summary, &inner, out);
                let inner = Around { is_top: false, ids: Vec::new(), ..inner };
                self.blocks(content, &inner, out);
                self.close_container(out);
            }
            GroupRole::Statement(name) => {
                self.contained(Container::Statement(name), Some(name), content, &inner, out);
            }
            GroupRole::Drawer(name) => {
                self.contained(Container::Drawer(name), Some(name), content, &inner, out);
            }
            GroupRole::Columns(columns) if around.is_top => {
                // The text before is a section of its own, in one column.
                if !out.ends_with("<w:body>") {
                    self.end_section(None, SectionStart::Continuous, out);
                }
                self.blocks(content, &Around { is_top: false, ..inner }, out);
                self.end_section(Some(*columns), SectionStart::Continuous, out);
            }
            GroupRole::Columns(_) => {
                self.changed("columns inside something else");
                self.contained(Container::Group, None, content, &inner, out);
            }
            GroupRole::Centred => {
                inner.align = Some(CellAlign::Centre);
                self.contained(Container::Centred, None, content, &inner, out);
            }
            GroupRole::PageHeader | GroupRole::PageFooter => {
                self.changed("a page header or footer");
                self.contained(Container::Group, None, content, &inner, out);
            }
        }
    }

    pub(super) fn page_break(&mut self, kind: BreakKind, around: &Around, out: &mut String) {
        match kind {
            BreakKind::Page => {
                out.push_str("<w:p><w:r><w:br w:type=\"page\"/></w:r></w:p>");
            }
            BreakKind::Column => {
                out.push_str("<w:p><w:r><w:br w:type=\"column\"/></w:r></w:p>");
            }
            BreakKind::Section if around.is_top => {
                self.end_section(None, SectionStart::Page, out);
            }
            BreakKind::Section => self.lost("a section break inside something else"),
        }
    }
}

/// Whether a quotation is nothing but paragraphs, of which their style says that they are quoted.
pub(super) fn is_plain_quotation(content: &[Block], around: &Around) -> bool {
    let is_text = |block: &Block| {
        matches!(block.kind, BlockKind::Paragraph(_)) && block.attributes.style().is_none()
    };
    !content.is_empty() && around.style.is_none() && content.iter().all(is_text)
}
