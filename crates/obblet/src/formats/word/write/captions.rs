//! Figures and captions, with numbers that Word can count anew.

use super::Writer;
use super::blocks::Around;
use super::runs::RunLook;
use crate::document::{Attributes, Block, BlockKind, Caption, Figure, Inline, StyleKind};
use crate::formats::word::vocabulary::{BEHIND_LABEL, Container};

impl<'d> Writer<'d> {
    pub(super) fn figure(
        &mut self,
        block: &'d Block,
        figure: &'d Figure,
        around: &Around,
        out: &mut String,
    ) {
        let inner = around.inside(&block.attributes);
        let is_picture = |block: &Block| match &block.kind {
            BlockKind::Paragraph(content) => matches!(&content[..], [Inline::Picture(_)]),
            _ => false,
        };
        let is_plain = figure.caption.as_ref().is_some_and(is_one_paragraph)
            && matches!(&figure.content[..], [one] if is_picture(one));
        if !is_plain {
            self.open_container(Container::Figure, None, out);
        }
        let start = out.len();
        self.blocks(&figure.content, &inner, out);
        if let Some(caption) = &figure.caption {
            let inner = Around { ids: Vec::new(), ..inner };
            self.caption(caption, "Figure", &inner, out);
        }
        if out.len() == start {
            out.push_str("<w:p/>");
        }
        if !is_plain {
            self.close_container(out);
        }
    }

    /// The words below a figure or above a table. A number in their label is that of a sequence, so that
    /// Word can count it anew and list it.
    pub(super) fn caption(
        &mut self,
        caption: &'d Caption,
        sequence: &str,
        around: &Around,
        out: &mut String,
    ) {
        let style = Some(self.styles.id(StyleKind::Block, &self.options.styles.caption));
        let none = Around { style: style.clone(), align: None, ..around.clone() };
        let mut blocks = caption.content.iter();
        let first = match blocks.next() {
            Some(Block { kind: BlockKind::Paragraph(content), attributes, .. }) => {
                Some((content, attributes))
            }
            Some(block) => {
                self.blocks(std::slice::from_ref(block), &none, out);
                None
            }
            None => None,
        };
        let nothing = Attributes::NONE;
        let (content, attributes) = first.map_or((&[][..], &nothing), |(c, a)| (&c[..], a));
        let mut paragraph = self.paragraph_of(attributes, style, &none);
        let look = paragraph.look.clone();
        let mut before = String::new();
        if let Some(bookmark) = self.bookmarks.of_caption(caption) {
            self.push_bookmark(&bookmark, &mut before);
        }
        match &caption.label {
            Some(label) => self.push_label(label, sequence, &look, &mut before),
            None => {
                if let Some((Inline::Text(text), rest)) = content.split_first()
                    && let Some((label, behind)) = leading_label(text)
                {
                    self.push_label(label, sequence, &look, &mut before);
                    self.push_run(behind, &look, &mut before);
                    paragraph.content = rest;
                } else {
                    paragraph.content = content;
                }
            }
        }
        if caption.label.is_some() {
            self.push_run(BEHIND_LABEL.encode_utf8(&mut [0; 4]), &look, &mut before);
            paragraph.content = content;
        }
        paragraph.before = before;
        self.push_paragraph(paragraph, out);
        for block in blocks {
            self.blocks(std::slice::from_ref(block), &none, out);
        }
    }

    /// `Figure 2`: the word, and the number as a field that counts.
    pub(super) fn push_label(
        &mut self,
        label: &str,
        sequence: &str,
        look: &RunLook,
        out: &mut String,
    ) {
        let digits = label.len() - label.trim_end_matches(|c: char| c.is_ascii_digit()).len();
        let (word, number) = label.split_at_checked(label.len() - digits).unwrap_or((label, ""));
        self.push_run(word, look, out);
        if !number.is_empty() {
            self.push_field(&format!("SEQ {sequence} \\* ARABIC"), number, look, out);
        }
    }
}

fn is_one_paragraph(caption: &Caption) -> bool {
    matches!(&caption.content[..], [Block { kind: BlockKind::Paragraph(_), .. }])
}

/// `Figure 2`, and what follows, of a caption's text.
fn leading_label(text: &str) -> Option<(&str, &str)> {
    let space = text.find([' ', '\u{a0}'])?;
    let word = text.get(..space)?;
    let is_word = !word.is_empty() && word.chars().all(char::is_alphabetic);
    let number = text.get(space..)?.trim_start_matches([' ', '\u{a0}']);
    let start = text.len() - number.len();
    let digits = number.len() - number.trim_start_matches(|c: char| c.is_ascii_digit()).len();
    let is_number = (1..5).contains(&digits) && start == space + 1;
    (is_word && is_number).then(|| text.split_at_checked(start + digits)).flatten()
}
