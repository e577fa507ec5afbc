//! Lists.

use super::Writer;
use crate::document::{
    Attributes, Block, BlockKind, CheckState, DescriptionItem, List, ListItem, ListKind,
    ListSpacing, NumberDelimiter, Numbering, NumeralStyle,
};
use crate::findings::Code;

impl Writer<'_> {
    pub(super) fn list(&mut self, list: &List, attributes: &Attributes) {
        let more = match &list.kind {
            ListKind::Numbered(numbering) => self.numerals(numbering),
            ListKind::Bulleted(_) => Vec::new(),
        };
        self.attribute_lines(attributes, &more);
        let mut expected = 1;
        for (at, item) in list.items.iter().enumerate() {
            if at > 0 && list.spacing == ListSpacing::Loose {
                self.out.push('\n');
            }
            let bullet = match &list.kind {
                ListKind::Bulleted(sign) => match sign {
                    Some('+') => "+ ".to_string(),
                    Some('*') if self.indentation > 0 => "* ".to_string(),
                    _ => "- ".to_string(),
                },
                ListKind::Numbered(numbering) => {
                    let first = (at == 0).then_some(numbering.start);
                    let number = item.number.or(first).unwrap_or(expected);
                    let counter =
                        if number == expected { String::new() } else { format!("[@{number}] ") };
                    expected = number.saturating_add(1);
                    let sign = match numbering.delimiter {
                        NumberDelimiter::Period | NumberDelimiter::None => '.',
                        NumberDelimiter::Parenthesis | NumberDelimiter::Parentheses => ')',
                    };
                    format!("{}{sign} {counter}", number.max(0))
                }
            };
            self.item(&bullet, item);
        }
    }

    /// Letters and Roman numerals are an attribute for HTML.
    fn numerals(&mut self, numbering: &Numbering) -> Vec<(&'static str, String)> {
        if let Some(pattern) = &numbering.pattern {
            self.findings.count(Code::NumberPatternLost, pattern, Some(self.place));
        }
        if matches!(numbering.delimiter, NumberDelimiter::None | NumberDelimiter::Parentheses) {
            self.findings.count(Code::NumberFormChanged, "", Some(self.place));
        }
        let name = match numbering.style {
            NumeralStyle::Decimal => return Vec::new(),
            NumeralStyle::LowerLetter => "a",
            NumeralStyle::UpperLetter => "A",
            NumeralStyle::LowerRoman => "i",
            NumeralStyle::UpperRoman => "I",
        };
        vec![("type", name.to_string())]
    }

    fn item(&mut self, bullet: &str, item: &ListItem) {
        if let Some(label) = &item.label {
            self.findings.count(Code::NumberPatternLost, label, Some(item.place));
        }
        if item
            .attributes
            .get()
            .is_some_and(|set| !set.classes.is_empty() || set.language.is_some())
        {
            self.lost("attributes of an item");
        }
        let mut first = bullet.to_string();
        if let Some(check) = item.check {
            first.push_str(match check {
                CheckState::Open => "[ ] ",
                CheckState::Partial => "[-] ",
                CheckState::Done => "[X] ",
            });
        }
        if let Some(id) = item.attributes.id() {
            first.push_str(&format!("<<{id}>>"));
        }
        // A counter and a box stand in the line, but lines below go on below the bullet's own text.
        let width = bullet.split("[@").next().unwrap_or(bullet).chars().count();
        self.behind(&first, width, &item.content);
    }

    /// Blocks behind what begins an item; text begins in the same line.
    fn behind(&mut self, first: &str, width: usize, content: &[Block]) {
        let outer = self.indentation;
        let state = (self.is_start, self.has_list_before);
        (self.is_start, self.has_list_before) = (true, false);
        self.indentation += width;
        let begins_with_text = matches!(
            content.first(),
            Some(Block { kind: BlockKind::Paragraph(_), attributes, .. }) if attributes.is_empty()
        );
        self.is_item_start = begins_with_text;
        let is_tight = is_text_and_list(content);
        let text = self.apart(|writer| match content.split_first() {
            // A list follows its text at once.
            Some((text, [list])) if is_tight => {
                writer.blocks(std::slice::from_ref(text));
                writer.is_start = true;
                writer.blocks(std::slice::from_ref(list));
            }
            _ => writer.blocks(content),
        });
        self.is_item_start = false;
        self.indentation = outer;
        (self.is_start, self.has_list_before) = state;
        self.out.push_str(&" ".repeat(outer));
        self.out.push_str(first.trim_end());
        let text = text.trim_end_matches('\n');
        if begins_with_text && !text.is_empty() {
            let text = text.trim_start_matches(' ');
            self.out.push(' ');
            self.out.push_str(text);
        } else if !text.is_empty() {
            self.out.push('\n');
            self.out.push_str(text);
        }
        self.out.push('\n');
    }

    pub(super) fn descriptions(&mut self, items: &[DescriptionItem], attributes: &Attributes) {
        self.attribute_lines(attributes, &[]);
        for item in items {
            let mut terms: Vec<String> =
                item.terms.iter().map(|term| self.one_line(term)).collect();
            let last = terms.pop().unwrap_or_default();
            for term in terms {
                self.lines(&format!("- {} ::", protected(&term)));
            }
            let first = format!("- {} :: ", protected(&last));
            match item.descriptions.split_first() {
                None => self.lines(first.trim_end()),
                Some((description, others)) => {
                    self.behind(&first, 2, description);
                    for other in others {
                        self.behind("- ", 2, other);
                    }
                }
            }
        }
    }
}

/// A term must not hold what ends it.
fn protected(term: &str) -> String {
    match term.contains(" ::") {
        true => term.replace(" ::", " :\u{200b}:"),
        false => term.to_string(),
    }
}

fn is_text_and_list(content: &[Block]) -> bool {
    let is_list = |block: &Block| {
        matches!(block.kind, BlockKind::List(_) | BlockKind::DescriptionList(_))
            && block.attributes.is_empty()
    };
    matches!(content, [Block { kind: BlockKind::Paragraph(_), .. }, list] if is_list(list))
}
