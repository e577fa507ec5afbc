//! Blocks as lines.

use super::Writer;
use super::wrap::{before_each, behind, beside, wrapped};
use crate::document::{
    Admonition, AdmonitionKind, Block, BlockKind, Caption, CheckState, DescriptionItem, Figure,
    Group, GroupRole, Heading, Inline, List, ListItem, ListKind, ListSpacing, NumberDelimiter,
    Numbering, plain_text,
};
use crate::findings::{Code, OTHER_AUDIENCES};
use crate::formats::code_content;
use crate::work;
use unicode_width::UnicodeWidthStr as _;

/// The shortest line below a heading.
const UNDERLINE: usize = 3;

/// Adds more lines behind an empty one.
pub(super) fn join(lines: &mut Vec<String>, more: Vec<String>) {
    if !lines.is_empty() && !more.is_empty() {
        lines.push(String::new());
    }
    lines.extend(more);
}

impl Writer<'_> {
    /// The title, be it the first heading, and below it the authors and the date. Gives the blocks
    /// that are left.
    pub(super) fn opening<'b>(&mut self, blocks: &'b [Block]) -> (Vec<String>, &'b [Block]) {
        let metadata = &self.document.metadata;
        let title = plain_text(&metadata.title);
        let first = blocks.split_first().and_then(|(first, rest)| match &first.kind {
            BlockKind::Heading(heading) => Some((first, plain_text(&heading.content), rest)),
            _ => None,
        });
        let width = self.options.wrap.map(usize::from);
        let (mut lines, rest) = match first {
            Some((block, shown, rest)) if title.is_empty() || title == shown => {
                (self.block(block, width), rest)
            }
            _ if title.is_empty() => (Vec::new(), blocks),
            _ => (underlined(title, '='), blocks),
        };
        let subtitle = plain_text(&metadata.subtitle);
        if !subtitle.is_empty() {
            self.changed("the subtitle");
            join(&mut lines, wrapped(&subtitle, width));
        }
        let names: Vec<&str> = metadata.authors.iter().map(|author| author.name.as_str()).collect();
        let names = Some(names.join(", ")).filter(|names| !names.is_empty());
        let byline: Vec<String> =
            names.into_iter().chain(metadata.date.clone().map(Into::into)).collect();
        if !byline.is_empty() {
            join(&mut lines, wrapped(&byline.join(", "), width));
        }
        (lines, rest)
    }

    /// Blocks with an empty line between them.
    pub(super) fn blocks(&mut self, blocks: &[Block], width: Option<usize>) -> Vec<String> {
        let mut lines = Vec::new();
        let mut bytes = 0;
        for block in blocks {
            work::count_output(bytes);
            if work::is_over() {
                break;
            }
            let more = self.block(block, width);
            bytes += more.iter().map(String::len).sum::<usize>();
            join(&mut lines, more);
        }
        lines
    }

    fn block(&mut self, block: &Block, width: Option<usize>) -> Vec<String> {
        self.place = block.place;
        if !block.attributes.is_for(&self.options.audiences) {
            self.findings.count(Code::NotPublished, OTHER_AUDIENCES, Some(self.place));
            return Vec::new();
        }
        if self.is_deleted(&block.attributes) {
            return Vec::new();
        }
        self.report_attributes(&block.attributes);
        match &block.kind {
            BlockKind::Paragraph(content) => self.paragraph(content, width),
            BlockKind::Heading(heading) => self.heading(heading, width),
            BlockKind::List(list) => self.list(list, width),
            BlockKind::DescriptionList(items) => self.description_list(items, width),
            BlockKind::Quotation(content) => {
                before_each("> ", self.blocks(content, beside(width, 2)))
            }
            BlockKind::Code(code) => {
                code_content::report_lost(code, self.place, &mut self.findings);
                before_each("    ", lines_of(&code.text))
            }
            BlockKind::Verse(lines) => {
                self.changed("verse");
                lines.iter().flat_map(|line| lines_of(&self.line(line))).collect()
            }
            BlockKind::Table(table) => self.table(table, width),
            BlockKind::Figure(figure) => self.figure(figure, width),
            BlockKind::Formula(formula) => {
                self.findings.count(Code::FormulaAsSource, "TeX", Some(self.place));
                let number = formula.number.as_ref().map(|number| format!("  ({number})"));
                let source = formula.source.trim().to_string() + &number.unwrap_or_default();
                before_each("    ", lines_of(&source))
            }
            BlockKind::Admonition(admonition) => self.admonition(admonition, width),
            BlockKind::Group(group) => self.group(group, width),
            BlockKind::ThematicBreak => vec!["* * *".into()],
            BlockKind::Break(_) => {
                self.lost("a page break");
                Vec::new()
            }
            BlockKind::Contents(_) => {
                self.lost("a contents list");
                Vec::new()
            }
            BlockKind::Bibliography => {
                self.lost("the bibliography");
                Vec::new()
            }
            BlockKind::Foreign(foreign) => {
                self.findings.count(Code::ForeignMarkupLost, &foreign.format, Some(self.place));
                Vec::new()
            }
            BlockKind::SourceRemark(_) => {
                self.lost("a remark that readers do not see");
                Vec::new()
            }
        }
    }

    pub(super) fn paragraph(&mut self, content: &[Inline], width: Option<usize>) -> Vec<String> {
        let text = self.line(content);
        if text.trim().is_empty() { Vec::new() } else { wrapped(text.trim_start(), width) }
    }

    fn one_line(&mut self, content: &[Inline]) -> String {
        self.line(content).replace('\n', " ").trim().to_string()
    }

    fn heading(&mut self, heading: &Heading, width: Option<usize>) -> Vec<String> {
        let mut text = String::new();
        if let Some(task) = &heading.task {
            text = format!("{} ", task.keyword);
        }
        if let Some(number) = &heading.number {
            text.push_str(&format!("{number} "));
        }
        text.push_str(&self.one_line(&heading.content));
        match heading.level {
            1 => underlined(text, '='),
            2 => underlined(text, '-'),
            _ => {
                self.changed("a heading of the third level or below");
                wrapped(&text, width)
            }
        }
    }

    fn list(&mut self, list: &List, width: Option<usize>) -> Vec<String> {
        let mut number = match &list.kind {
            ListKind::Numbered(numbering) => {
                if numbering.pattern.is_some() {
                    self.changed("a number of several parts");
                }
                numbering.start
            }
            ListKind::Bulleted(_) => 0,
        };
        let mut lines = Vec::new();
        for item in &list.items {
            number = item.number.unwrap_or(number);
            let mark = match &list.kind {
                ListKind::Bulleted(_) => "- ".to_string(),
                ListKind::Numbered(_) if item.label.is_some() => {
                    format!("{} ", item.label.as_deref().unwrap_or_default())
                }
                ListKind::Numbered(numbering) => label(numbering, number),
            };
            number = number.saturating_add(1);
            self.report_attributes(&item.attributes);
            let more = self.item(item, &mark, list.spacing, width);
            match list.spacing {
                ListSpacing::Loose => join(&mut lines, more),
                ListSpacing::Tight => lines.extend(more),
            }
        }
        lines
    }

    fn item(
        &mut self,
        item: &ListItem,
        mark: &str,
        spacing: ListSpacing,
        width: Option<usize>,
    ) -> Vec<String> {
        let check = match item.check {
            Some(CheckState::Done) => "[x] ",
            Some(CheckState::Open) => "[ ] ",
            Some(CheckState::Partial) => "[-] ",
            None => "",
        };
        let mark = format!("{mark}{check}");
        let inner = beside(width, mark.width());
        let mut lines = Vec::new();
        for block in &item.content {
            let more = self.block(block, inner);
            match spacing {
                ListSpacing::Loose => join(&mut lines, more),
                ListSpacing::Tight => lines.extend(more),
            }
        }
        if lines.is_empty() {
            lines.push(String::new());
        }
        behind(&mark, lines)
    }

    fn description_list(&mut self, items: &[DescriptionItem], width: Option<usize>) -> Vec<String> {
        self.changed("a term and its description");
        let mut lines = Vec::new();
        for item in items {
            let mut more = Vec::new();
            for term in &item.terms {
                more.extend(self.paragraph(term, width));
            }
            for description in &item.descriptions {
                more.extend(before_each("    ", self.blocks(description, beside(width, 4))));
            }
            join(&mut lines, more);
        }
        lines
    }

    fn figure(&mut self, figure: &Figure, width: Option<usize>) -> Vec<String> {
        let mut lines = self.blocks(&figure.content, width);
        if let Some(caption) = &figure.caption {
            lines.extend(self.caption(caption, width));
        }
        lines
    }

    pub(super) fn caption(&mut self, caption: &Caption, width: Option<usize>) -> Vec<String> {
        self.changed("a caption");
        let label = caption.label.as_ref().map(|label| format!("{label}: ")).unwrap_or_default();
        let lines = self.blocks(&caption.content, beside(width, label.width()));
        lines_with_first(label, lines)
    }

    fn admonition(&mut self, admonition: &Admonition, width: Option<usize>) -> Vec<String> {
        let title = match (&admonition.title, &admonition.kind) {
            (Some(title), _) => self.one_line(title),
            (None, AdmonitionKind::Other(word)) => word.to_string(),
            (None, kind) => self.words.admonition(kind).to_string(),
        };
        self.changed("a box with a notice");
        let mut lines = wrapped(&format!("{title}:"), width);
        lines.extend(before_each("    ", self.blocks(&admonition.content, beside(width, 4))));
        lines
    }

    fn group(&mut self, group: &Group, width: Option<usize>) -> Vec<String> {
        let heading = match &group.role {
            GroupRole::Drawer(name) => {
                self.lost(&format!("the drawer “{name}”"));
                return Vec::new();
            }
            GroupRole::Disclosure(summary) => {
                self.changed("text to open and close");
                self.one_line(summary)
            }
            GroupRole::Statement(name) => {
                self.changed("a statement with a name");
                name.to_string()
            }
            GroupRole::Abstract => {
                self.changed("the abstract");
                self.words.summary.to_string()
            }
            GroupRole::Columns(_) | GroupRole::Centred => {
                self.lost("where a text stands on the page");
                String::new()
            }
            GroupRole::Aside => {
                self.changed("text beside the main text");
                String::new()
            }
            GroupRole::PageHeader | GroupRole::PageFooter => {
                self.changed("the header or footer of pages");
                String::new()
            }
            GroupRole::Plain => String::new(),
        };
        let mut lines = Vec::new();
        if !heading.is_empty() {
            lines.extend(wrapped(&heading, width));
        }
        let content = self.blocks(&group.content, width);
        join(&mut lines, content);
        lines
    }
}

fn underlined(text: String, mark: char) -> Vec<String> {
    let line = mark.to_string().repeat(text.width().max(UNDERLINE));
    vec![text, line]
}

fn lines_of(text: &str) -> Vec<String> {
    text.trim_end_matches('\n').split('\n').map(str::to_string).collect()
}

fn lines_with_first(before: String, mut lines: Vec<String>) -> Vec<String> {
    match lines.first_mut() {
        Some(first) => first.insert_str(0, &before),
        None if !before.is_empty() => lines.push(before),
        None => {}
    }
    lines
}

/// The label of an item, with a space behind it.
fn label(numbering: &Numbering, number: i32) -> String {
    let number = numbering.style.spell(number);
    match numbering.delimiter {
        NumberDelimiter::Period => format!("{number}. "),
        NumberDelimiter::Parenthesis => format!("{number}) "),
        NumberDelimiter::Parentheses => format!("({number}) "),
        NumberDelimiter::None => format!("{number} "),
    }
}
