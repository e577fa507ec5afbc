//! Markup of other formats, and white space that containers take.

use super::sayable::{Sayable, markup, without_unsayable};
use crate::document::{Attributes, Block, BlockKind, Foreign, Inline, Place};
use crate::embedded;
use crate::findings::Code;
use crate::formats::markdown::Switch;
use crate::formats::markdown::read::grammar::{self, HtmlLines};

impl Sayable<'_> {
    /// In an indented container, a line of nothing but spaces is an empty line.
    pub(super) fn without_lone_spaces(&mut self, text: &str) -> String {
        let blank = |line: &str| line.len() > 1 && line.trim_matches([' ', '\t', '\n']).is_empty();
        if self.indented == 0 || !text.split_inclusive('\n').any(blank) {
            return text.to_string();
        }
        self.findings.count(Code::WhiteSpaceChanged, "code in a list", Some(self.place));
        let emptied = |line: &str| if blank(line) { "\n".to_string() } else { line.to_string() };
        text.split_inclusive('\n').map(emptied).collect()
    }

    /// A line of HTML with its tags, as one block of markup where it can be said in HTML alone.
    pub(super) fn tag_line(&mut self, line: Vec<Inline>, place: Place) -> Vec<Block> {
        match embedded::inline_html(&line) {
            Some(html) => vec![markup(html, place)],
            None => {
                self.not_carried("a summary that holds more than HTML can say");
                Vec::new()
            }
        }
    }

    pub(super) fn push_foreign_block(
        &mut self,
        foreign: &Foreign,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        if !without_unsayable(&block.attributes).is_empty()
            && matches!(block.kind, BlockKind::Foreign(_))
        {
            self.not_carried("attributes of raw markup");
        }
        if foreign.format != "html" {
            if !self.has(Switch::Attributes) {
                self.findings.count(Code::ForeignMarkupLost, &foreign.format, Some(block.place));
                return;
            }
            let mut foreign = foreign.clone();
            if !foreign.markup.is_empty() && !foreign.markup.ends_with('\n') {
                foreign.markup.push('\n');
            }
            foreign.markup = self.without_lone_spaces(&foreign.markup);
            let kind = BlockKind::Foreign(Box::new(foreign));
            return out.push(Block { kind, attributes: Attributes::NONE, place: block.place });
        }
        if !self.options.html {
            self.findings.count(Code::ForeignMarkupLost, "html", Some(block.place));
            return;
        }
        let text = self.as_read(&foreign.markup);
        let mut text = self.without_lone_spaces(&text);
        // Its own indent would put it into the last item of a list above.
        if out.last().is_some_and(is_list) {
            text.drain(..text.len() - text.trim_start_matches(' ').len());
        }
        let switches = self.options.switches;
        match grammar::html_lines(&text, switches) {
            HtmlLines::Other => {}
            HtmlLines::Unended(end) => {
                self.findings.count(Code::HtmlRepaired, end, Some(block.place));
                let ended = format!("{text}\n{}", self.as_read(end));
                return out.push(markup(ended, block.place));
            }
            _ => return out.push(markup(text, block.place)),
        }
        // A blank line would end the block: inside tags and text, a reference to a newline is one.
        let joined = text.trim().replace("\n\n", "\n&#10;");
        let wrapped = format!("<div>\n{joined}\n</div>");
        let is_whole = |text: &&String| {
            !matches!(grammar::html_lines(text, switches), HtmlLines::Other | HtmlLines::Unended(_))
        };
        match [joined, wrapped].iter().find(is_whole) {
            Some(text) => {
                self.findings.count(Code::HtmlRepaired, "blank lines", Some(block.place));
                out.push(markup(text.clone(), block.place));
            }
            None => self.findings.count(Code::ForeignMarkupLost, "html", Some(block.place)),
        }
    }

    /// Raw HTML as the dialect's reader gives it.
    pub(super) fn as_read(&mut self, markup: &str) -> String {
        let read = grammar::read_html(markup, self.options.switches);
        if read != markup {
            self.findings.count(Code::HtmlRepaired, "a disallowed tag", Some(self.place));
        }
        read.into_owned()
    }
}

fn is_list(block: &Block) -> bool {
    matches!(block.kind, BlockKind::List(_) | BlockKind::DescriptionList(_))
}
