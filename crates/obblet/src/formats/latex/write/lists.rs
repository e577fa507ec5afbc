//! Lists.

use super::{Need, Writer};
use crate::document::{
    Attributes, Block, BlockKind, CheckState, DescriptionItem, List, ListItem, ListKind,
    ListSpacing, NumberDelimiter, Numbering, NumeralStyle,
};

/// How deep LaTeX's own lists go.
const DEEPEST: usize = 4;

impl Writer<'_> {
    pub(super) fn list(&mut self, list: &List, attributes: &Attributes) {
        let outer = self.list_depth;
        let options = self.list_options(list);
        let name = match &list.kind {
            ListKind::Bulleted(_) => "itemize",
            ListKind::Numbered(_) => "enumerate",
        };
        self.list_depth.0 += 1;
        self.list_depth.1 += usize::from(name == "enumerate");
        self.deepest_list = self.deepest_list.max(self.list_depth.0);
        if self.list_depth.0 > DEEPEST {
            self.need(Need::Enumitem);
        }
        // Inside of an item, a list needs no empty line.
        if self.list_depth.0 > 1 && !self.out.is_empty() {
            self.line();
        } else {
            self.paragraph_break();
        }
        self.out.push_str(&format!("\\begin{{{name}}}{options}"));
        let label = self.label(attributes);
        self.out.push_str(&label);
        self.out.push('\n');
        let mut number = match &list.kind {
            ListKind::Numbered(numbering) => numbering.start,
            ListKind::Bulleted(_) => 0,
        };
        for item in &list.items {
            if let Some(stated) = item.number.filter(|stated| *stated != number) {
                if name == "enumerate" {
                    let counter = ["enumi", "enumii", "enumiii", "enumiv"]
                        .get(self.list_depth.1 - 1)
                        .copied()
                        .unwrap_or("enumiv");
                    self.out.push_str(&format!("\\setcounter{{{counter}}}{{{}}}\n", stated - 1));
                }
                number = stated;
            }
            self.item(item);
            number += 1;
        }
        self.out.push_str(&format!("\\end{{{name}}}\n"));
        self.list_depth = outer;
    }

    /// What differs from LaTeX's own way at this depth.
    fn list_options(&mut self, list: &List) -> String {
        let mut options = Vec::new();
        if let ListKind::Numbered(numbering) = &list.kind {
            let usual = usual_numbering(self.list_depth.1);
            let is_usual = (numbering.style, numbering.delimiter) == usual;
            if !is_usual || self.list_depth.0 >= DEEPEST {
                options.push(format!("label={}", pattern(numbering)));
            }
            if numbering.start != 1 {
                options.push(format!("start={}", numbering.start));
            }
            if numbering.pattern.is_some() {
                self.lost("the numbers of outer lists in a list's numbers");
            }
        }
        let are_lines = list.items.iter().all(|item| is_line(&item.content));
        match (list.spacing, are_lines) {
            (ListSpacing::Tight, false) => options.push("nosep".into()),
            (ListSpacing::Loose, true) => options.push("itemsep=1ex".into()),
            _ => {}
        }
        if options.is_empty() {
            return String::new();
        }
        self.need(Need::Enumitem);
        format!("[{}]", options.join(", "))
    }

    fn item(&mut self, item: &ListItem) {
        let outer = std::mem::replace(&mut self.place, item.place);
        self.report_attributes(&item.attributes);
        self.out.push_str("\\item");
        let mark = match (&item.check, &item.label) {
            (Some(state), _) => {
                self.need(Need::Amssymb);
                Some(match state {
                    CheckState::Open => "$\\square$".to_string(),
                    CheckState::Partial => "$\\boxminus$".to_string(),
                    CheckState::Done => "$\\boxtimes$".to_string(),
                })
            }
            (None, Some(label)) => {
                Some(format!("{{{}}}", self.as_argument(|writer| writer.text(label))))
            }
            (None, None) => None,
        };
        match mark {
            Some(mark) => self.out.push_str(&format!("[{mark}] ")),
            None => self.out.push(' '),
        }
        let label = self.label(&item.attributes);
        self.out.push_str(&label);
        let written = self.apart(|writer| writer.blocks(&item.content));
        let written = written.trim_matches('\n');
        // What begins with a bracket would be the item's own mark.
        if written.starts_with('[') && label.is_empty() {
            self.out.push_str("{}");
        }
        self.out.push_str(written);
        self.line();
        self.place = outer;
    }

    pub(super) fn descriptions(&mut self, items: &[DescriptionItem], attributes: &Attributes) {
        self.list_depth.0 += 1;
        self.deepest_list = self.deepest_list.max(self.list_depth.0);
        if self.list_depth.0 > DEEPEST {
            self.need(Need::Enumitem);
        }
        self.paragraph_break();
        self.out.push_str("\\begin{description}");
        let label = self.label(attributes);
        self.out.push_str(&label);
        self.out.push('\n');
        for item in items {
            for term in &item.terms {
                let words = self.as_argument(|writer| writer.inlines(term));
                self.out.push_str(&format!("\\item[{{{words}}}]\n"));
            }
            if item.terms.is_empty() {
                self.out.push_str("\\item[]\n");
            }
            if item.descriptions.len() > 1 {
                self.lost("where one description ends and another begins");
            }
            let written = self.apart(|writer| {
                item.descriptions.iter().for_each(|blocks| writer.blocks(blocks));
            });
            self.out.push_str(written.trim_start_matches('\n'));
            self.line();
        }
        self.out.push_str("\\end{description}\n");
        self.list_depth.0 -= 1;
    }
}

/// How LaTeX numbers lists by their depth.
fn usual_numbering(depth: usize) -> (NumeralStyle, NumberDelimiter) {
    match depth {
        0 => (NumeralStyle::Decimal, NumberDelimiter::Period),
        1 => (NumeralStyle::LowerLetter, NumberDelimiter::Parentheses),
        2 => (NumeralStyle::LowerRoman, NumberDelimiter::Period),
        _ => (NumeralStyle::UpperLetter, NumberDelimiter::Period),
    }
}

fn pattern(numbering: &Numbering) -> String {
    let number = match numbering.style {
        NumeralStyle::Decimal => "\\arabic*",
        NumeralStyle::LowerLetter => "\\alph*",
        NumeralStyle::UpperLetter => "\\Alph*",
        NumeralStyle::LowerRoman => "\\roman*",
        NumeralStyle::UpperRoman => "\\Roman*",
    };
    match numbering.delimiter {
        NumberDelimiter::Period => format!("{number}."),
        NumberDelimiter::Parenthesis => format!("{number})"),
        NumberDelimiter::Parentheses => format!("({number})"),
        NumberDelimiter::None => number.to_string(),
    }
}

/// Whether the reader takes an item for a line.
fn is_line(content: &[Block]) -> bool {
    let is_list =
        |block: &Block| matches!(block.kind, BlockKind::List(_) | BlockKind::DescriptionList(_));
    match content.split_first() {
        Some((first, rest)) => {
            (matches!(first.kind, BlockKind::Paragraph(_)) || is_list(first))
                && rest.iter().all(is_list)
        }
        None => true,
    }
}
