//! Blocks.

use super::{Need, Writer};
use crate::document::{
    Attributes, Block, BlockKind, BreakKind, Caption, ContentsKind, ContentsList, Figure, Foreign,
    Inline, LineBreak,
};
use crate::findings::{Code, OTHER_AUDIENCES};
use crate::work;

impl Writer<'_> {
    pub(super) fn blocks(&mut self, blocks: &[Block]) {
        for block in blocks {
            work::count_output(self.out.len());
            if work::is_over() {
                return;
            }
            if !block.attributes.is_for(&self.options.audiences) {
                self.findings.count(Code::NotPublished, OTHER_AUDIENCES, Some(block.place));
                continue;
            }
            self.block(block);
        }
    }

    fn block(&mut self, block: &Block) {
        let outer = std::mem::replace(&mut self.place, block.place);
        let attributes = &block.attributes;
        if !matches!(block.kind, BlockKind::Code(_)) {
            self.report_attributes(attributes);
        }
        match &block.kind {
            BlockKind::Paragraph(content) => self.paragraph(content, attributes),
            BlockKind::Heading(heading) => self.heading(heading, attributes),
            BlockKind::List(list) => self.list(list, attributes),
            BlockKind::DescriptionList(items) => self.descriptions(items, attributes),
            BlockKind::Quotation(content) => self.environment("quote", "", content, attributes),
            BlockKind::Code(code) => self.code(code, attributes),
            BlockKind::Verse(lines) => self.verse(lines, attributes),
            BlockKind::Table(table) => self.table(table, attributes),
            BlockKind::Figure(figure) => self.figure(figure, attributes),
            BlockKind::Formula(formula) => self.display_formula(formula, attributes),
            BlockKind::Admonition(admonition) => self.admonition(admonition, attributes),
            BlockKind::Group(group) => self.group(group, attributes),
            BlockKind::ThematicBreak => {
                self.need(Need::ThematicBreakCommand);
                self.command_line("\\thematicbreak");
            }
            BlockKind::Break(kind) => self.page_break(*kind),
            BlockKind::Contents(contents) => self.contents(contents),
            BlockKind::Bibliography => self.bibliography(),
            BlockKind::Foreign(foreign) => self.foreign(foreign),
            BlockKind::SourceRemark(remark) => self.remark(remark),
        }
        self.place = outer;
    }

    /// A command that stands on a line of its own.
    fn command_line(&mut self, command: &str) {
        self.paragraph_break();
        self.out.push_str(command);
        self.out.push('\n');
    }

    fn paragraph(&mut self, content: &[Inline], attributes: &Attributes) {
        self.paragraph_break();
        let label = self.label(attributes);
        if !label.is_empty() {
            self.out.push_str("\\phantomsection");
            self.out.push_str(&label);
        }
        self.inlines(content);
        self.line();
    }

    /// An environment around blocks.
    pub(super) fn environment(
        &mut self,
        name: &str,
        arguments: &str,
        content: &[Block],
        attributes: &Attributes,
    ) {
        self.paragraph_break();
        self.out.push_str(&format!("\\begin{{{name}}}{arguments}"));
        let label = self.label(attributes);
        self.out.push_str(&label);
        self.out.push('\n');
        self.inside(content);
        self.out.push_str(&format!("\\end{{{name}}}\n"));
    }

    /// Blocks right behind a `\begin`.
    pub(super) fn inside(&mut self, content: &[Block]) {
        let written = self.apart(|writer| writer.blocks(content));
        self.out.push_str(written.trim_start_matches('\n'));
        self.line();
    }

    fn verse(&mut self, lines: &[Vec<Inline>], attributes: &Attributes) {
        self.paragraph_break();
        self.out.push_str("\\begin{verse}");
        let label = self.label(attributes);
        self.out.push_str(&label);
        self.out.push('\n');
        for (at, line) in lines.iter().enumerate() {
            if line.is_empty() {
                self.out.push('\n');
                continue;
            }
            if matches!(line.first(), Some(Inline::Text(text)) if text.starts_with('\u{a0}')) {
                let what = "the indents of verse";
                self.findings.count(Code::WhiteSpaceChanged, what, Some(self.place));
            }
            self.inlines(line);
            let ends_stanza = lines.get(at + 1).is_none_or(Vec::is_empty);
            self.out.push_str(if ends_stanza { "\n" } else { "\\\\\n" });
        }
        self.out.push_str("\\end{verse}\n");
    }

    fn figure(&mut self, figure: &Figure, attributes: &Attributes) {
        if self.is_argument || self.is_cell {
            self.blocks(&figure.content);
            if let Some(caption) = &figure.caption {
                self.blocks(&caption.content);
            }
            self.lost("a figure inside of a note or table");
            return;
        }
        self.paragraph_break();
        let is_table =
            matches!(figure.content.as_slice(), [Block { kind: BlockKind::Table(_), .. }]);
        let environment = match is_table {
            true => "table",
            false => "figure",
        };
        if self.is_figure {
            return self.sub_figure(figure, attributes);
        }
        self.out.push_str(&format!("\\begin{{{environment}}}[htbp]\n\\centering\n"));
        self.is_figure = true;
        self.inside(&figure.content);
        self.is_figure = false;
        if let Some(caption) = &figure.caption {
            self.caption(caption);
        }
        let label = self.label(attributes);
        if !label.is_empty() {
            self.out.push_str(&label);
            self.out.push('\n');
        }
        self.out.push_str(&format!("\\end{{{environment}}}\n"));
    }

    /// One of several parts of a figure.
    fn sub_figure(&mut self, figure: &Figure, attributes: &Attributes) {
        self.need(Need::Subcaption);
        self.out.push_str("\\begin{subfigure}{0.45\\linewidth}\n\\centering\n");
        self.inside(&figure.content);
        if let Some(caption) = &figure.caption {
            self.caption(caption);
        }
        let label = self.label(attributes);
        if !label.is_empty() {
            self.out.push_str(&format!("{label}\n"));
        }
        self.out.push_str("\\end{subfigure}\n");
    }

    /// `\caption{…}`; without a number where the source shows none.
    pub(super) fn caption(&mut self, caption: &Caption) {
        let star = if caption.label.is_some() { "" } else { "*" };
        if caption.label.is_none() {
            self.need(Need::Captionless);
        }
        let words = self.as_argument(|writer| writer.blocks(&caption.content));
        // The caption is an anchor itself, and one inside its words would break it.
        let words = words.replace("\\phantomsection\\label{", "\\label{");
        self.out.push_str(&format!("\\caption{star}{{{}}}\n", words.trim()));
    }

    fn page_break(&mut self, kind: BreakKind) {
        match kind {
            BreakKind::Page | BreakKind::Section => self.command_line("\\newpage"),
            BreakKind::Column => self.command_line("\\newpage"),
        }
        if kind != BreakKind::Page {
            self.lost("what kind of break it is");
        }
    }

    fn contents(&mut self, contents: &ContentsList) {
        self.command_line(match contents.kind {
            ContentsKind::Headings => "\\tableofcontents",
            ContentsKind::Figures => "\\listoffigures",
            ContentsKind::Tables => "\\listoftables",
        });
        if contents.depth > 0 {
            self.lost("how deep a contents list goes");
        }
    }

    fn foreign(&mut self, foreign: &Foreign) {
        if matches!(foreign.format.as_str(), "latex" | "tex") {
            self.paragraph_break();
            self.out.push_str(foreign.markup.trim_end());
            return self.out.push('\n');
        }
        self.findings.count(Code::ForeignMarkupLost, &foreign.format, Some(self.place));
    }

    /// What readers do not see stands in an environment that is not set.
    fn remark(&mut self, remark: &str) {
        if remark.contains("\\end{comment}") {
            return self.lost("a remark");
        }
        self.need(Need::Comment);
        self.paragraph_break();
        self.out.push_str(&format!("\\begin{{comment}}\n{}\n\\end{{comment}}\n", remark.trim()));
    }

    /// Blocks as one line, for places that take no more: paragraphs are parted by line breaks.
    pub(super) fn as_line(&mut self, blocks: &[Block]) {
        let mut is_first = true;
        for block in blocks {
            if !std::mem::take(&mut is_first) {
                self.out.push_str("\\newline ");
            }
            match &block.kind {
                BlockKind::Paragraph(content) => {
                    let content: Vec<Inline> = content
                        .iter()
                        .map(|inline| match inline {
                            Inline::Break(LineBreak::Soft) => " ".into(),
                            other => other.clone(),
                        })
                        .collect();
                    self.inlines(&content);
                }
                _ => {
                    let written = self.apart(|writer| writer.block(block));
                    self.out.push_str(written.trim());
                }
            }
        }
    }
}
