//! Environments: what stands between `\begin` and `\end`.

use super::{Reader, Stop};
use crate::document::{
    Admonition, AdmonitionKind, AttributeSet, Attributes, Block, BlockKind, Group, GroupRole,
    Inline, Looks, NESTING_LIMIT, TextAlign, plain_text,
};
use crate::findings::Code;
use crate::tex::{Category, Located, Spot, Token};

impl Reader<'_> {
    /// `\begin{name}`.
    pub(super) fn begin(&mut self, spot: Spot) -> Option<Stop> {
        let name = self.front.expanded_argument();
        if name == "document" {
            self.is_body = true;
            return None;
        }
        if self.front.defines_environment(&name) && self.front.takes_source_as_it_is(&name) {
            self.own_verbatim_environment(&name, spot);
            return None;
        }
        if self.front.defines_environment(&name) {
            self.front.open_group();
            self.sheet.open_group();
            self.front.call(&name, spot);
            self.open_macros.push(name);
            return None;
        }
        self.open_environment(&name, spot);
        None
    }

    /// Begins an environment that is no macro.
    pub(super) fn open_environment(&mut self, name: &str, spot: Spot) {
        if self.depth >= NESTING_LIMIT {
            return self.findings.add(Code::NestingTooDeep, Some(spot.into()));
        }
        self.environment(name, spot);
    }

    /// `\end{name}`.
    pub(super) fn end(&mut self) -> Option<Stop> {
        let name = self.front.expanded_argument();
        if name == "document" {
            self.sheet.end_paragraph();
            self.report_text_after_end();
            self.front.end_document();
            return None;
        }
        if self.front.defines_environment(&name) {
            if let Some(open) = self.open_macros.iter().rposition(|open| *open == name) {
                self.open_macros.truncate(open);
            }
            // What ends it comes first, and then the group around it closes.
            let spot = self.front.spot();
            let close = Located { token: Token::Command(self.front.names.of("endgroup")), spot };
            self.front.push_one(close);
            self.front.call(&format!("end{name}"), spot);
            return None;
        }
        self.ended = Some(name);
        Some(Stop::Environment)
    }

    /// TeX reads nothing after the end of the document, however much there is.
    fn report_text_after_end(&mut self) {
        let spot = self.front.spot();
        let mut place = crate::document::Place::from(spot);
        let source = self.front.sources.get(place.source as usize);
        let Some(text) = source.map(|source| source.text.clone()) else { return };
        let rest = text.get(place.end as usize..).unwrap_or_default();
        let without_remark = |line: &str| {
            let text = line.split('%').next().unwrap_or_default();
            text.chars().any(char::is_alphanumeric)
        };
        if rest.lines().any(without_remark) {
            place.end = u32::try_from(text.len()).unwrap_or(u32::MAX);
            self.findings.add(Code::TextAfterEnd, Some(place));
        }
    }

    fn environment(&mut self, name: &str, spot: Spot) {
        let plain = name.strip_suffix('*').unwrap_or(name);
        self.open.push(name.into());
        match plain {
            _ if self.verbatim_environments.contains_key(name) => {
                self.own_verbatim_environment(name, spot);
            }
            "quote" | "quotation" | "displayquote" | "displaycquote" | "epigraphs" => {
                self.front.option();
                self.simple(name, spot, BlockKind::Quotation);
            }
            "center" => self.grouped(name, spot, GroupRole::Centred),
            "flushleft" => self.aligned(name, spot, TextAlign::Start),
            "flushright" => self.aligned(name, spot, TextAlign::End),
            "abstract" | "onecolabstract" => self.grouped(name, spot, GroupRole::Abstract),
            "tabbing" => self.tabbing(name, spot),
            "lrbox" => self.keep_box_environment(name, spot),
            "verse" => self.verse(name, spot),
            "admonition" => self.admonition(name, spot),
            "aside" => self.grouped(name, spot, GroupRole::Aside),
            "disclosure" => {
                self.sheet.end_paragraph();
                let summary = self.inline_argument();
                self.grouped(name, spot, GroupRole::Disclosure(summary));
            }
            "statement" => self.titled_block(name, spot),
            "itemize" | "enumerate" | "description" | "compactitem" | "compactenum"
            | "compactdesc" | "asparaenum" | "asparaitem" | "inparaenum" | "tasks" | "trivlist"
            | "list" => {
                self.list(name, spot);
            }
            "thebibliography" => self.the_bibliography(name, spot),
            "keywords" | "keyword" | "IEEEkeywords" => {
                self.keywords_environment(name, spot);
            }
            "figure" | "table" | "wrapfigure" | "wraptable" | "sidewaysfigure"
            | "sidewaystable" | "SCfigure" | "SCtable" | "margintable" | "marginfigure"
            | "listing" | "algorithm" | "subfigure" | "subtable" => self.float(name, spot),
            "tabular" | "tabularx" | "tabulary" | "longtable" | "supertabular" | "xltabular"
            | "tabu" | "longtabu" | "array_text" | "tblr" | "longtblr" => self.table(name, spot),
            "equation" | "align" | "gather" | "multline" | "alignat" | "flalign" | "eqnarray"
            | "displaymath" | "math" | "subequations" | "dmath" => {
                self.formula_environment(name, spot)
            }
            "verbatim" | "Verbatim" | "lstlisting" | "minted" | "alltt" | "BVerbatim"
            | "LVerbatim" | "SaveVerbatim" | "VerbatimOut" | "verbatimwrite" | "boxedverbatim"
            | "verbatimtab" | "spverbatim" | "codeexample" | "LTXexample" | "SideBySideExample"
            | "CenterExample" | "dispExample" | "dispListing" | "tcblisting"
            | "tcboutputlisting" | "sourcecode" | "listingcont" | "comment" | "filecontents" => {
                self.verbatim_environment(name, spot);
            }
            "multicols" => self.columns(name, spot),
            "frame" => self.frame(name, spot),
            "minipage" | "boxedminipage" | "adjustwidth" | "wrapfig" => {
                self.front.option();
                self.front.option();
                self.front.option();
                self.front.argument();
                if plain == "adjustwidth" {
                    self.front.argument();
                }
                self.grouped(name, spot, GroupRole::Plain);
            }
            "column" => {
                self.front.option();
                self.front.argument();
                self.grouped(name, spot, GroupRole::Plain);
            }
            "letter" => self.letter_environment(name, spot),
            "block" | "alertblock" | "exampleblock" => self.titled_block(name, spot),
            "titlepage" | "columns" | "samepage" | "sloppypar" | "singlespace" | "onehalfspace"
            | "doublespace" | "spacing" | "landscape" | "small" | "footnotesize" | "scriptsize"
            | "large" | "Large" | "tiny" | "normalsize" | "centering" | "threeparttable"
            | "measuredfigure" | "appendices" | "subappendices" | "otherlanguage"
            | "refsection" | "refsegment" | "raggedright" | "adjustbox" | "tablenotes" | "em"
            | "itshape" | "bfseries" | "frontmatter" | "subfloatrow" | "CJK" | "english"
            | "german" | "french" | "acknowledgements" | "acknowledgments" | "ack"
            | "fullwidth" | "raggedleft" | "sideways" | "turn" | "rotate" => {
                self.transparent(name, plain, spot);
            }
            "tikzpicture" | "picture" | "pspicture" | "pgfpicture" | "axis" | "circuitikz"
            | "forest" | "asy" | "mfpic" | "tikzcd" | "algorithmic" | "tcolorbox_drawing" => {
                self.drawing_environment(name, spot);
            }
            "tcolorbox" | "framed" | "shaded" | "mdframed" | "leftbar" | "snugshade" => {
                self.front.option();
                self.grouped(name, spot, GroupRole::Aside);
            }
            "ruby" => self.simple(name, spot, BlockKind::Quotation),
            "proof" => self.proof(name, spot),
            _ if self.statements.contains_key(name) => self.statement(name, spot),
            _ => self.unknown_environment(name, spot),
        }
        self.open.pop();
    }

    /// Reads up to the end of an environment, on a sheet of its own.
    pub(super) fn content_of(&mut self, name: &str, spot: Spot) -> Vec<Block> {
        self.nested(|reader| reader.run_to_end(name, spot)).into_blocks()
    }

    /// Reads up to the end of an environment.
    pub(super) fn run_to_end(&mut self, name: &str, spot: Spot) {
        loop {
            let stop = self.run(None);
            if self.ends(stop, name, spot) {
                return;
            }
        }
    }

    /// Whether an environment ends where reading stopped: at its own end, or with what it stands in,
    /// which is told.
    pub(super) fn ends(&mut self, stop: Stop, name: &str, spot: Spot) -> bool {
        match stop {
            Stop::Environment => return self.is_own_end(name, spot),
            Stop::End => self.never_closed(name, spot),
            Stop::Argument => self.closed_by_argument(name, spot),
            Stop::Mark | Stop::Cell | Stop::Row | Stop::Item => return false,
        }
        true
    }

    /// Whether what ended is this environment. What belongs to one around it is left to that.
    fn is_own_end(&mut self, name: &str, spot: Spot) -> bool {
        let Some(ended) = self.ended.take() else { return false };
        if ended == name {
            return true;
        }
        let is_outer = self.open.iter().rev().skip(1).any(|open| *open == ended);
        if is_outer {
            self.never_closed(name, spot);
            self.push_end_again(&ended);
            return true;
        }
        let here = self.front.spot();
        self.unopened(&format!("\\end{{{ended}}}"), here);
        false
    }

    /// Puts an `\end` back that closes an environment further out: who waits for it meets it again.
    pub(super) fn push_end_again(&mut self, name: &str) {
        let spot = self.front.spot();
        let mut tokens = vec![Located { token: Token::Command(self.front.names.of("end")), spot }];
        let character =
            |character, category| Located { token: Token::Character(character, category), spot };
        tokens.push(character('{', Category::Begin));
        tokens.extend(name.chars().map(|c| character(c, Category::Other)));
        tokens.push(character('}', Category::End));
        self.front.push(tokens);
    }

    pub(super) fn never_closed(&mut self, name: &str, spot: Spot) {
        self.unclosed += 1;
        let what = format!("\\begin{{{name}}}");
        self.findings.add_about(Code::GroupUnclosed, &what, Some(spot.into()));
    }

    /// The argument ends that an environment stands in: its brace is left to who reads that.
    fn closed_by_argument(&mut self, name: &str, spot: Spot) {
        self.never_closed(name, spot);
        let brace = Token::Character('}', Category::End);
        self.front.push_one(Located { token: brace, spot: self.front.spot() });
    }

    fn simple(&mut self, name: &str, spot: Spot, kind: impl FnOnce(Vec<Block>) -> BlockKind) {
        self.sheet.end_paragraph();
        let content = self.content_of(name, spot);
        self.sheet.push_block(Block::new(kind(content)).at(spot.into()));
    }

    /// The first paragraph holds the keywords; what else was read, because nothing ends them, is text.
    fn keywords_environment(&mut self, name: &str, spot: Spot) {
        self.sheet.end_paragraph();
        let unclosed = self.unclosed;
        let mut content = self.content_of(name, spot);
        let is_paragraph = |block: &Block| matches!(block.kind, BlockKind::Paragraph(_));
        let mut length = content.iter().take_while(|block| is_paragraph(block)).count();
        if self.unclosed > unclosed {
            length = length.min(1);
        }
        let rest = content.split_off(length);
        for block in &content {
            if let BlockKind::Paragraph(inlines) = &block.kind {
                self.keywords(&plain_text(inlines));
            }
        }
        self.sheet.blocks.extend(rest);
    }

    pub(super) fn grouped(&mut self, name: &str, spot: Spot, role: GroupRole) {
        self.sheet.end_paragraph();
        let unclosed = self.unclosed;
        let mut content = self.content_of(name, spot);
        if role == GroupRole::Plain {
            self.sheet.blocks.extend(content);
            return;
        }
        let rest = match role == GroupRole::Abstract && self.unclosed > unclosed {
            true => split_at_heading(&mut content),
            false => Vec::new(),
        };
        self.push_group(role, content, Attributes::NONE, spot);
        self.sheet.blocks.extend(rest);
    }

    pub(super) fn push_group(
        &mut self,
        role: GroupRole,
        content: Vec<Block>,
        attributes: Attributes,
        spot: Spot,
    ) {
        if content.is_empty() {
            return;
        }
        let kind = BlockKind::Group(Box::new(Group { role, content }));
        let mut block = Block::new(kind).at(spot.into());
        block.attributes = attributes;
        self.sheet.push_block(block);
    }

    fn aligned(&mut self, name: &str, spot: Spot, align: TextAlign) {
        self.sheet.end_paragraph();
        let content = self.content_of(name, spot);
        if !self.options.looks {
            self.layout(name, spot);
            return self.sheet.blocks.extend(content);
        }
        let looks = Looks { align: Some(align), ..Looks::default() };
        let set = AttributeSet { looks: Some(Box::new(looks)), ..AttributeSet::default() };
        self.push_group(GroupRole::Plain, content, set.into(), spot);
    }

    /// A kind, a title, and what is said; the kind's own word is no title.
    fn admonition(&mut self, name: &str, spot: Spot) {
        self.sheet.end_paragraph();
        let kind = AdmonitionKind::named(&plain_text(&self.inline_argument()));
        let title = self.inline_argument();
        let is_usual = plain_text(&title) == admonition_title(kind.name());
        let title = (!is_usual && !title.is_empty()).then_some(title);
        let content = self.content_of(name, spot);
        let admonition = Admonition { kind, title, content };
        let block = Block::new(BlockKind::Admonition(Box::new(admonition))).at(spot.into());
        self.sheet.push_block(block);
    }

    /// Lines end at `\\`, stanzas at empty lines.
    fn verse(&mut self, name: &str, spot: Spot) {
        self.front.option();
        self.sheet.end_paragraph();
        let content = self.content_of(name, spot);
        let mut lines: Vec<Vec<Inline>> = Vec::new();
        for block in content {
            let BlockKind::Paragraph(content) = block.kind else {
                self.sheet.blocks.push(block);
                continue;
            };
            if !lines.is_empty() {
                lines.push(Vec::new());
            }
            let is_break =
                |inline: &Inline| matches!(inline, Inline::Break(crate::document::LineBreak::Hard));
            lines.extend(content.split(is_break).map(|line| without_breaks(line.to_vec())));
        }
        while lines.last().is_some_and(Vec::is_empty) {
            lines.pop();
        }
        if !lines.is_empty() {
            self.sheet.push_block(Block::new(BlockKind::Verse(lines)).at(spot.into()));
        }
    }

    fn columns(&mut self, name: &str, spot: Spot) {
        let count = self.front.argument_text().parse().unwrap_or(2);
        self.front.option();
        self.grouped(name, spot, GroupRole::Columns(count));
    }

    /// A slide: its title is a heading.
    fn frame(&mut self, name: &str, spot: Spot) {
        self.front.between('<', '>');
        self.front.option();
        self.sheet.end_paragraph();
        self.front.skip_spaces();
        let has_title =
            matches!(self.front.peek_raw().map(|next| next.token), Some(Token::Character('{', _)));
        if has_title {
            let title = self.inline_argument();
            self.push_frame_title(title, spot);
        }
        let content = self.content_of(name, spot);
        self.sheet.blocks.extend(content);
    }

    fn titled_block(&mut self, name: &str, spot: Spot) {
        self.sheet.end_paragraph();
        let title = self.inline_argument();
        let title = plain_text(&title);
        let content = self.content_of(name, spot);
        self.push_group(GroupRole::Statement(title.into()), content, Attributes::NONE, spot);
    }

    /// What only sets type: its content stands where it stands.
    fn transparent(&mut self, name: &str, plain: &str, spot: Spot) {
        match plain {
            "spacing" | "adjustbox" => {
                self.front.argument();
            }
            "otherlanguage" => {
                self.front.option();
                self.front.argument();
            }
            // An angle.
            "turn" | "rotate" => {
                self.front.option();
                self.front.argument();
            }
            "columns" | "threeparttable" | "tablenotes" | "refsection" => {
                self.front.option();
            }
            _ => {}
        }
        match plain {
            "tablenotes" => return self.list(name, spot),
            "acknowledgements" | "acknowledgments" | "ack" => {
                let words = vec!["Acknowledgements".into()];
                self.push_frame_title(words, spot);
            }
            "titlepage" | "columns" | "threeparttable" | "refsection" => {}
            _ => self.layout(name, spot),
        }
        let is_inline = !self.sheet.is_line_empty();
        if !is_inline {
            let content = self.content_of(name, spot);
            return self.sheet.blocks.extend(content);
        }
        let content = self.nested(|reader| reader.run_to_end(name, spot));
        match content.blocks.is_empty() {
            true => self.sheet.extend(content.into_inlines()),
            false => {
                self.sheet.end_paragraph();
                self.sheet.blocks.extend(content.into_blocks());
            }
        }
    }

    /// Lines whose parts begin at tab stops.
    fn tabbing(&mut self, name: &str, spot: Spot) {
        self.layout(name, spot);
        let outer = std::mem::replace(&mut self.is_tabbing, true);
        let content = self.content_of(name, spot);
        self.is_tabbing = outer;
        self.sheet.end_paragraph();
        self.sheet.blocks.extend(content);
    }

    fn unknown_environment(&mut self, name: &str, spot: Spot) {
        self.findings.count(Code::EnvironmentUnknown, name, Some(spot.into()));
        self.front.option();
        self.sheet.end_paragraph();
        let content = self.content_of(name, spot);
        self.sheet.blocks.extend(content);
    }

    /// A drawing is shown as its source.
    fn drawing_environment(&mut self, name: &str, spot: Spot) {
        let end = format!("\\end{{{name}}}");
        let inside = self.front.verbatim(&end).unwrap_or_default();
        self.sheet.end_paragraph();
        self.push_drawing(&format!("\\begin{{{name}}}{inside}{end}"), name, spot);
    }

    pub(super) fn push_drawing(&mut self, source: &str, name: &str, spot: Spot) {
        self.findings.count(Code::DrawingAsSource, name, Some(spot.into()));
        let mut block =
            crate::document::build::code_block("latex", &format!("{}\n", source.trim_end()));
        block = block.at(spot.into());
        block.attributes.edit().classes.push(super::super::DRAWING.into());
        self.sheet.push_block(block);
    }

    pub(super) fn inline_drawing(&mut self, spot: Spot) {
        let options = self.front.option_text().map(|o| format!("[{o}]")).unwrap_or_default();
        let inside = self.front.argument_text();
        self.push_drawing(&format!("\\tikz{options}{{{inside}}}"), "tikz", spot);
    }

    pub(super) fn par_box(&mut self, spot: Spot) {
        for _ in 0..3 {
            self.front.option();
        }
        self.front.argument();
        self.layout("\\parbox", spot);
        let content = self.argument_sheet();
        match content.blocks.is_empty() {
            true => self.sheet.extend(content.into_inlines()),
            false => {
                self.sheet.end_paragraph();
                self.sheet.blocks.extend(content.into_blocks());
            }
        }
    }

    /// What is scaled or turned: the content behind so many arguments.
    pub(super) fn scaled(&mut self, arguments: usize) {
        self.front.star();
        self.front.option();
        for _ in 0..arguments {
            self.front.argument();
        }
        self.front.option();
        let content = self.front.argument();
        self.front.push(content);
    }
}

/// The title of an admonition that has none of its own.
pub(crate) fn admonition_title(kind: &str) -> String {
    let mut letters = kind.chars();
    let first = letters.next().map(|c| c.to_uppercase().to_string()).unwrap_or_default();
    format!("{first}{}", letters.as_str())
}

/// A line without white space and breaks at its ends.
fn without_breaks(mut line: Vec<Inline>) -> Vec<Inline> {
    while matches!(line.first(), Some(Inline::Break(_))) {
        line.remove(0);
    }
    while matches!(line.last(), Some(Inline::Break(_))) {
        line.pop();
    }
    if let Some(Inline::Text(text)) = line.first_mut() {
        *text = text.trim_start().into();
    }
    line
}

/// Takes away everything from the first heading on.
fn split_at_heading(content: &mut Vec<Block>) -> Vec<Block> {
    let heading = content.iter().position(|block| matches!(block.kind, BlockKind::Heading(_)));
    heading.map(|at| content.split_off(at)).unwrap_or_default()
}
