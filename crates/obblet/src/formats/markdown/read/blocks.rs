//! The block pass (CommonMark, appendix "Phase 1: block structure"): line by line, first which of
//! the open containers go on, then which blocks begin, then what becomes of the rest of the line.

use super::cursor::Cursor;
use super::definitions::{Definition, Definitions, abbreviation, definition};
use super::html_scan::elements_left_open;
use super::notes::NoteLabels;
use super::starts::{self, HtmlEnd};
use super::tables;
use super::text::{LeafText, Scratch};
use super::tree::{Line, Node, NodeId, NodeKind, Tree};
use crate::document::{NESTING_LIMIT, Place};
use crate::findings::{Code, Findings};
use crate::formats::markdown::{Switch, Switches};
use crate::work;

/// The block structure of a text, with all its link definitions.
pub(super) struct BlockStructure {
    pub(super) tree: Tree,
    pub(super) definitions: Definitions,
    pub(super) notes: NoteLabels,
}

/// Runs the block pass over `source` from the byte `from` on.
pub(super) fn block_structure(
    source: &str,
    from: usize,
    switches: Switches,
    findings: &mut Findings,
) -> BlockStructure {
    let mut pass = BlockPass {
        source,
        switches,
        tree: Tree::default(),
        definitions: Definitions::default(),
        notes: NoteLabels::default(),
        open: Vec::new(),
        line: LineBounds { number: 0, start: from, end: from },
        previous_end: from,
        open_html: OpenHtml::default(),
        scratch: Scratch::default(),
        findings,
    };
    pass.push(NodeKind::Document, from);
    pass.run(from);
    BlockStructure { tree: pass.tree, definitions: pass.definitions, notes: pass.notes }
}

#[derive(Clone, Copy)]
pub(super) struct LineBounds {
    pub(super) number: usize,
    pub(super) start: usize,
    pub(super) end: usize,
}

/// Whether an open container goes on in this line.
enum Goes {
    On,
    NotOn,
    /// The line ended the block, and nothing of it is left.
    Ended,
}

pub(super) struct BlockPass<'s, 'f> {
    pub(super) source: &'s str,
    pub(super) switches: Switches,
    pub(super) tree: Tree,
    pub(super) definitions: Definitions,
    pub(super) notes: NoteLabels,
    /// The open blocks, the document first.
    pub(super) open: Vec<NodeId>,
    pub(super) line: LineBounds,
    /// Where the line before this one ended.
    pub(super) previous_end: usize,
    /// Elements that raw HTML opened and did not close yet.
    open_html: OpenHtml,
    pub(super) scratch: Scratch,
    pub(super) findings: &'f mut Findings,
}

/// Elements that raw HTML opened, between whose tags Markdown stands.
#[derive(Debug, Default)]
struct OpenHtml {
    elements: usize,
    /// How many blocks were open around the HTML.
    depth: usize,
    /// Columns that were taken off the line at hand.
    indent: usize,
}

impl<'s> BlockPass<'s, '_> {
    fn run(&mut self, from: usize) {
        let bytes = self.source.as_bytes();
        let mut start = from;
        while start < bytes.len() && !work::is_over() {
            let tail = bytes.get(start..).unwrap_or_default();
            let end = memchr::memchr(b'\n', tail).map_or(bytes.len(), |at| start + at);
            self.line = LineBounds { number: self.line.number + 1, start, end };
            work::count(1 + (end - start) / 16);
            self.take_line();
            self.previous_end = end;
            start = end + 1;
        }
        while !self.open.is_empty() {
            self.close_last(self.line.number, self.previous_end);
        }
    }

    fn take_line(&mut self) {
        let text = self.source.get(self.line.start..self.line.end).unwrap_or_default();
        let mut cursor = Cursor::new(text, self.line.start);
        let Some(mut matched) = self.matched_containers(&mut cursor) else { return };
        let all_matched = matched == self.open.len();

        let mut verbatim = self.kind(matched - 1).is_verbatim();
        while !verbatim {
            match self.begin_block(&mut cursor, &mut matched) {
                Begun::Container => {}
                Begun::Leaf => verbatim = true,
                Begun::Whole => return,
                Begun::Nothing => {
                    cursor.skip_space();
                    break;
                }
            }
        }
        self.take_rest(&mut cursor, matched, all_matched);
    }

    /// What becomes of the rest of the line once no more blocks begin in it.
    fn take_rest(&mut self, cursor: &mut Cursor<'s>, matched: usize, all_matched: bool) {
        let lazy = !all_matched
            && matched < self.open.len()
            && !cursor.is_blank()
            && matches!(self.last_kind(), NodeKind::Paragraph);
        if lazy {
            cursor.skip_space();
            self.add_line(cursor);
            return;
        }
        self.close_down_to(matched);
        match self.last_kind() {
            NodeKind::Html(HtmlEnd::Holds(ends)) => {
                let ends = *ends;
                self.add_line(cursor);
                // What containers put before the line is no part of it.
                let (start, _) = cursor.remainder();
                let text = self.source.get(start..self.line.end).unwrap_or_default();
                if ends.iter().any(|end| holds_ignoring_case(text.as_bytes(), end.as_bytes())) {
                    self.close_last(self.line.number, self.line.end);
                }
            }
            kind if kind.takes_lines() => self.add_line(cursor),
            _ if !cursor.is_blank() => {
                cursor.skip_space();
                self.add_child(NodeKind::Paragraph, cursor.next_in_source());
                self.add_line(cursor);
            }
            _ => {}
        }
    }

    /// How many of the open blocks go on in this line; `None` when the line is used up.
    fn matched_containers(&mut self, cursor: &mut Cursor<'s>) -> Option<usize> {
        let mut matched = 1;
        while matched < self.open.len() {
            work::count(1);
            match self.goes_on(matched, cursor) {
                Goes::On => matched += 1,
                Goes::NotOn => break,
                Goes::Ended => return None,
            }
        }
        Some(matched)
    }

    fn goes_on(&mut self, depth: usize, cursor: &mut Cursor<'s>) -> Goes {
        let on = |yes: bool| if yes { Goes::On } else { Goes::NotOn };
        match *self.kind(depth) {
            NodeKind::Quotation => on(take_quotation_mark(cursor)),
            NodeKind::Item { content_column } | NodeKind::Description { content_column } => {
                if cursor.is_blank() {
                    let empty = self.node(depth).children.is_empty();
                    if !empty {
                        cursor.skip_space();
                    }
                    on(!empty)
                } else {
                    let inside = cursor.indent() >= content_column;
                    if inside {
                        cursor.skip_columns(content_column);
                    }
                    on(inside)
                }
            }
            NodeKind::Note(_) => {
                let inside = cursor.indent() >= 4;
                match (cursor.is_blank(), inside) {
                    (true, _) => cursor.skip_space(),
                    (false, true) => cursor.skip_columns(4),
                    (false, false) => {}
                }
                on(cursor.is_blank() || inside)
            }
            NodeKind::Container { .. } => {
                let is_end = cursor.indent() < 4
                    && starts::container_fence(cursor.rest())
                        .is_some_and(|(_, info)| info.is_empty());
                if is_end && self.ends_here(depth, cursor.indent()) {
                    self.close_down_to(depth + 1);
                    if let NodeKind::Container { closed, .. } = self.last_kind_mut() {
                        *closed = true;
                    }
                    self.close_last(self.line.number, self.line.end);
                    return Goes::Ended;
                }
                Goes::On
            }
            NodeKind::IndentedCode => {
                let inside = cursor.indent() >= 4;
                if inside {
                    cursor.skip_columns(4);
                } else if cursor.is_blank() {
                    cursor.skip_space();
                }
                on(inside || cursor.is_blank())
            }
            NodeKind::FencedCode { fence, indent, .. } => {
                // Inside HTML, a fence may be indented more than elsewhere.
                let most = if indent >= 4 { indent + 4 } else { 4 };
                if cursor.indent() < most && starts::closes_fence(cursor.rest(), fence) {
                    self.close_down_to(depth + 1);
                    if let NodeKind::FencedCode { closed, .. } = self.last_kind_mut() {
                        *closed = true;
                    }
                    self.close_last(self.line.number, self.line.end);
                    return Goes::Ended;
                }
                cursor.skip_columns(indent.min(cursor.indent()));
                Goes::On
            }
            NodeKind::Html(HtmlEnd::BlankLine) | NodeKind::Paragraph | NodeKind::Table(_) => {
                on(!cursor.is_blank())
            }
            NodeKind::Document
            | NodeKind::List(_)
            | NodeKind::DescriptionList
            | NodeKind::Html(HtmlEnd::Holds(_)) => Goes::On,
            NodeKind::Heading(_) | NodeKind::ThematicBreak | NodeKind::Term | NodeKind::Nothing => {
                Goes::NotOn
            }
        }
    }

    /// Tries every way a block can begin here, in the standard's order of precedence.
    fn begin_block(&mut self, cursor: &mut Cursor<'s>, matched: &mut usize) -> Begun {
        self.open_html.indent = 0;
        if cursor.indent() >= 4 && !self.take_indent_in_html(cursor, *matched) {
            return self.begin_indented_code(cursor, *matched);
        }
        let rest = cursor.rest();
        let Some(&first) = rest.first() else { return Begun::Nothing };
        let in_paragraph = matches!(self.kind(*matched - 1), NodeKind::Paragraph);
        let begun = match first {
            b'>' => self.begin_quotation(cursor, *matched),
            b'#' => self.begin_atx_heading(cursor, *matched),
            b'`' | b'~' => self.begin_fenced_code(cursor, *matched),
            b'<' => self.begin_html(cursor, *matched),
            b'=' | b'-' if in_paragraph && self.make_setext_heading(cursor, *matched) => {
                Begun::Whole
            }
            b'-' | b'|' | b':' if in_paragraph && self.make_table(cursor, *matched) => Begun::Whole,
            b':' if rest.starts_with(b":::") => self.begin_container(cursor, *matched),
            b':' => self.begin_description(cursor, *matched, in_paragraph),
            b'[' => self.begin_note(cursor, *matched),
            b'*' | b'-' | b'_' if starts::is_thematic_break(rest) => {
                self.close_down_to(*matched);
                self.add_child(NodeKind::ThematicBreak, cursor.next_in_source());
                self.close_last(self.line.number, self.line.end);
                Begun::Whole
            }
            b'-' | b'+' | b'*' | b'0'..=b'9' => self.begin_item(cursor, *matched, in_paragraph),
            _ => Begun::Nothing,
        };
        if matches!(begun, Begun::Container | Begun::Leaf) {
            *matched = self.open.len();
        }
        begun
    }

    /// Between the tags of HTML that is still open, people indent their text; then the indent
    /// says nothing.
    fn take_indent_in_html(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> bool {
        let depth = self.open_html.depth;
        let in_list = matched == depth + 1
            && matches!(self.kind(depth), NodeKind::List(_) | NodeKind::DescriptionList);
        let inside = self.switches.has(Switch::IndentedInHtml)
            && self.open_html.elements > 0
            && (matched == depth || in_list)
            && !cursor.is_blank();
        if inside {
            self.open_html.indent = cursor.indent();
            cursor.skip_space();
        }
        inside
    }

    /// Counts what an HTML block left open, or closed.
    fn count_open_html(&mut self, depth: usize) {
        let lines = self.tree.lines.get(self.node(depth).lines.clone()).unwrap_or_default();
        let left =
            lines.iter().map(|line| elements_left_open(line.text(self.source).as_bytes())).sum();
        if self.open_html.depth != depth {
            (self.open_html.elements, self.open_html.depth) = (0, depth);
        }
        self.open_html.elements = self.open_html.elements.saturating_add_signed(left);
    }

    fn begin_indented_code(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> Begun {
        // An indented line goes on with a paragraph, also lazily.
        if cursor.is_blank() || matches!(self.last_kind(), NodeKind::Paragraph) {
            return Begun::Nothing;
        }
        self.close_down_to(matched);
        cursor.skip_columns(4);
        let (start, _) = cursor.remainder();
        self.add_child(NodeKind::IndentedCode, start);
        self.add_line(cursor);
        Begun::Whole
    }

    fn begin_quotation(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> Begun {
        if self.too_deep(matched, cursor) {
            return Begun::Nothing;
        }
        self.close_down_to(matched);
        let start = cursor.next_in_source();
        take_quotation_mark(cursor);
        self.add_child(NodeKind::Quotation, start);
        Begun::Container
    }

    fn begin_atx_heading(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> Begun {
        let rest = cursor.rest();
        let Some(level) = starts::atx_heading(rest) else { return Begun::Nothing };
        self.close_down_to(matched);
        let start = cursor.next_in_source();
        self.add_child(NodeKind::Heading(level), start);
        let content = starts::atx_content(rest, level);
        self.add_span(start + content.start, start + content.end, 0);
        self.close_last(self.line.number, self.line.end);
        Begun::Whole
    }

    fn begin_fenced_code(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> Begun {
        let Some(fence) = starts::opening_fence(cursor.rest()) else { return Begun::Nothing };
        self.close_down_to(matched);
        let indent = cursor.indent() + self.open_html.indent;
        let kind = NodeKind::FencedCode { fence, indent, closed: false };
        self.add_child(kind, cursor.next_in_source());
        cursor.skip_space();
        cursor.skip_bytes(fence.length);
        self.add_line(cursor);
        Begun::Whole
    }

    fn begin_html(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> Begun {
        let in_paragraph = matches!(self.kind(matched - 1), NodeKind::Paragraph)
            || (matched < self.open.len() && matches!(self.last_kind(), NodeKind::Paragraph));
        let Some(end) = starts::html_block(cursor.rest(), in_paragraph) else {
            return Begun::Nothing;
        };
        self.close_down_to(matched);
        self.add_child(NodeKind::Html(end), cursor.next_in_source());
        Begun::Leaf
    }

    /// CommonMark 4.3: the line below a paragraph makes it a heading.
    fn make_setext_heading(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> bool {
        let Some(level) = starts::setext_underline(cursor.rest()) else { return false };
        self.close_down_to(matched);
        self.take_definitions(matched - 1);
        let node = self.node_mut(matched - 1);
        if node.lines.is_empty() {
            return false;
        }
        node.kind = NodeKind::Heading(level);
        self.close_last(self.line.number, self.line.end);
        true
    }

    /// A delimiter row below a line with as many cells makes the two a table.
    fn make_table(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> bool {
        if !self.switches.has(Switch::Tables) {
            return false;
        }
        let Some(columns) = tables::delimiter_row(cursor.rest()) else { return false };
        let lines = self.node(matched - 1).lines.clone();
        let Some(header) = lines.end.checked_sub(1).and_then(|last| self.tree.lines.get(last))
        else {
            return false;
        };
        let header = *header;
        if tables::cells(header.text(self.source)).count() != columns.len() {
            return false;
        }
        self.close_down_to(matched);
        if lines.len() == 1 {
            self.node_mut(matched - 1).kind = NodeKind::Table(columns);
        } else {
            // The lines above the header stay a paragraph.
            self.node_mut(matched - 1).lines.end -= 1;
            self.close_last(self.line.number - 2, header.start as usize - 1);
            self.add_child(NodeKind::Table(columns), header.start as usize);
            let first = self.tree.lines.len() - 1;
            let first_line = self.line.number - 1;
            let table = self.last_mut();
            table.lines = first..first + 1;
            table.first_line = first_line;
        }
        true
    }

    fn begin_item(&mut self, cursor: &mut Cursor<'s>, matched: usize, in_paragraph: bool) -> Begun {
        let rest = cursor.rest();
        let Some(marker) = starts::list_marker(rest) else { return Begun::Nothing };
        if in_paragraph && !starts::interrupts_paragraph(rest, marker) {
            return Begun::Nothing;
        }
        if self.too_deep(matched, cursor) {
            return Begun::Nothing;
        }
        let start = cursor.next_in_source();
        let indent = cursor.indent();
        let content_column = self.open_html.indent + indent + take_marker(cursor, marker.width);
        self.close_down_to(matched);
        let goes_on_list = match self.last_kind() {
            NodeKind::List(kind) => kind.same_list(marker.kind),
            _ => false,
        };
        if !goes_on_list {
            self.add_child(NodeKind::List(marker.kind), start);
        }
        self.add_child(NodeKind::Item { content_column }, start);
        Begun::Container
    }

    /// Whether one more container would be too many; says so once a line.
    pub(super) fn too_deep(&mut self, matched: usize, cursor: &Cursor<'_>) -> bool {
        // A list and its item are two open blocks.
        let deep = matched + 2 >= NESTING_LIMIT;
        if deep {
            let at = cursor.next_in_source();
            self.findings.add(Code::NestingTooDeep, Some(Place::new(at, at + 1)));
        }
        deep
    }

    // The open blocks.

    pub(super) fn node(&self, depth: usize) -> &Node {
        &self.tree.nodes[self.open[depth]]
    }

    pub(super) fn node_mut(&mut self, depth: usize) -> &mut Node {
        &mut self.tree.nodes[self.open[depth]]
    }

    pub(super) fn kind(&self, depth: usize) -> &NodeKind {
        &self.node(depth).kind
    }

    pub(super) fn last_mut(&mut self) -> &mut Node {
        self.node_mut(self.open.len() - 1)
    }

    pub(super) fn last_kind(&self) -> &NodeKind {
        self.kind(self.open.len() - 1)
    }

    pub(super) fn last_kind_mut(&mut self) -> &mut NodeKind {
        &mut self.last_mut().kind
    }

    fn push(&mut self, kind: NodeKind, start: usize) -> NodeId {
        let id = self.tree.nodes.len();
        let first = self.tree.lines.len();
        self.tree.nodes.push(Node {
            kind,
            children: Vec::new(),
            lines: first..first,
            start,
            end: self.line.end,
            first_line: self.line.number,
            last_line: self.line.number,
            loose: false,
        });
        self.open.push(id);
        id
    }

    /// Adds a block below the deepest open block that may hold it, and closes those that may not.
    pub(super) fn add_child(&mut self, kind: NodeKind, start: usize) {
        while !self.last_kind().may_hold(&kind) {
            work::count(1);
            self.close_last(self.line.number.saturating_sub(1), self.previous_end);
        }
        let parent = self.open[self.open.len() - 1];
        let id = self.push(kind, start);
        self.tree.nodes[parent].children.push(id);
    }

    fn add_line(&mut self, cursor: &Cursor<'_>) {
        let (start, pad) = cursor.remainder();
        self.add_span(start.min(self.line.end), self.line.end, pad);
    }

    fn add_span(&mut self, start: usize, end: usize, pad: u8) {
        self.tree.lines.push(Line { start: start as u32, end: end as u32, pad });
        let count = self.tree.lines.len();
        self.last_mut().lines.end = count;
    }

    pub(super) fn close_down_to(&mut self, depth: usize) {
        while self.open.len() > depth {
            self.close_last(self.line.number.saturating_sub(1), self.previous_end);
        }
    }

    /// Closes the deepest open block, which ended in this line at this offset.
    pub(super) fn close_last(&mut self, last_line: usize, end: usize) {
        let depth = self.open.len() - 1;
        let node = self.node_mut(depth);
        node.last_line = last_line.max(node.first_line);
        node.end = end.max(node.start);
        match node.kind {
            NodeKind::Paragraph => {
                self.take_definitions(depth);
                let node = self.node_mut(depth);
                if node.lines.is_empty() {
                    node.kind = NodeKind::Nothing;
                }
            }
            NodeKind::IndentedCode => self.drop_blank_lines_behind(depth),
            NodeKind::Html(HtmlEnd::BlankLine) => self.count_open_html(depth),
            NodeKind::FencedCode { closed: false, fence, .. } => {
                let start = node.start;
                let place = Place::new(start, start + fence.length);
                self.findings.add(Code::FenceUnclosed, Some(place));
            }
            NodeKind::Container { closed: false, ref info } => {
                let (place, info) = (Place::new(node.start, info.end), info.clone());
                let name = self.source.get(info).unwrap_or_default().trim();
                self.findings.add_about(Code::ContainerUnclosed, name, Some(place));
            }
            NodeKind::Item { .. } | NodeKind::Description { .. } | NodeKind::DescriptionList => {
                self.end_with_last_child(depth);
            }
            NodeKind::List(_) => {
                self.end_with_last_child(depth);
                self.tree.nodes[self.open[depth]].loose = self.is_loose(depth);
            }
            _ => {}
        }
        self.open.pop();
    }

    fn drop_blank_lines_behind(&mut self, depth: usize) {
        let mut lines = self.node(depth).lines.clone();
        while lines.len() > 1
            && self.tree.lines[lines.end - 1].text(self.source).bytes().all(|b| b" \t".contains(&b))
        {
            lines.end -= 1;
        }
        let end = self.tree.lines[lines.end - 1].end as usize;
        let node = self.node_mut(depth);
        node.last_line = node.first_line + lines.len() - 1;
        node.end = end;
        node.lines = lines;
    }

    fn end_with_last_child(&mut self, depth: usize) {
        let node = self.node(depth);
        let last = node.children.last().map(|&child| &self.tree.nodes[child]);
        let (last_line, end) =
            last.map_or((node.first_line, node.end), |child| (child.last_line, child.end));
        let node = self.node_mut(depth);
        node.last_line = last_line;
        node.end = end;
    }

    /// CommonMark 5.3: a list is loose when a blank line parts any of its items, or any two blocks
    /// that stand directly in one of them.
    fn is_loose(&self, depth: usize) -> bool {
        let gap = |pair: &[NodeId]| match pair {
            &[one, two] => self.tree.nodes[one].last_line + 1 < self.tree.nodes[two].first_line,
            _ => false,
        };
        let items = &self.node(depth).children;
        items.windows(2).any(gap)
            || items.iter().any(|&item| self.tree.nodes[item].children.windows(2).any(gap))
    }

    /// Takes link definitions off the start of a paragraph.
    fn take_definitions(&mut self, depth: usize) {
        let lines = self.node(depth).lines.clone();
        let first = self.tree.lines.get(lines.start).map(|line| line.text(self.source));
        let may_define = |text: &str| {
            text.starts_with('[')
                || text.starts_with("*[") && self.switches.has(Switch::Abbreviations)
        };
        if !first.is_some_and(may_define) {
            return;
        }
        let mut scratch = std::mem::take(&mut self.scratch);
        let text = LeafText::join(self.source, &self.tree.lines[lines.clone()], &mut scratch);
        let mut taken = 0;
        loop {
            if self.switches.has(Switch::Abbreviations)
                && let Some((short, long, end)) = abbreviation(text.text, taken)
            {
                self.definitions.abbreviate(short, long);
                taken = end;
                continue;
            }
            let Some(found) = definition(text.text, taken) else { break };
            let place =
                Place::new(text.in_source(taken), text.in_source(found.end.saturating_sub(1)));
            let entry = Definition { address: found.address, title: found.title, place };
            if let Err(first) = self.definitions.add(found.label, entry) {
                let code = Code::LinkDefinitionDuplicate;
                self.findings.add_pair(code, found.label, place, first);
            }
            taken = found.end;
        }
        let used_lines = text.lines_before(taken);
        self.scratch = scratch;
        let start = self.tree.lines.get(lines.start + used_lines).map(|line| line.start as usize);
        let node = self.node_mut(depth);
        node.lines.start += used_lines;
        if let Some(start) = start.filter(|_| used_lines > 0) {
            node.start = start;
        }
    }
}

/// What began at the cursor.
pub(super) enum Begun {
    /// A container; more may begin in the same line.
    Container,
    /// A leaf that takes the rest of the line.
    Leaf,
    /// A block that used the line up.
    Whole,
    /// No block.
    Nothing,
}

/// CommonMark 5.1: up to three spaces, `>`, and a space if there is one.
fn take_quotation_mark(cursor: &mut Cursor<'_>) -> bool {
    let is_mark = cursor.indent() < 4 && cursor.rest().first() == Some(&b'>');
    if is_mark {
        cursor.skip_space();
        cursor.skip_bytes(1);
        cursor.skip_one_space();
    }
    is_mark
}

/// CommonMark 5.2: takes a marker and the white space behind it. Gives the columns from the
/// marker's start to the content.
pub(super) fn take_marker(cursor: &mut Cursor<'_>, width: usize) -> usize {
    cursor.skip_space();
    cursor.skip_bytes(width);
    let spaces = cursor.indent();
    if cursor.is_blank() || spaces > 4 || spaces == 0 {
        // Content that starts with indented code, or an empty item: one space belongs to the
        // marker.
        cursor.skip_one_space();
        return width + 1;
    }
    cursor.skip_space();
    width + spaces
}

/// Whether `text` holds `end`, ASCII letters of any case.
fn holds_ignoring_case(text: &[u8], end: &[u8]) -> bool {
    let Some(&first) = end.first() else { return true };
    memchr::memchr_iter(first, text)
        .any(|at| text.get(at..at + end.len()).is_some_and(|found| found.eq_ignore_ascii_case(end)))
}
