//! Bounds on how deep parsed HTML nests, and on how often formatting that was left open comes back. The tree
//! builder looks through all open elements at every tag, and makes every formatting element that was left open
//! anew in every paragraph, so without bounds its time grows with the square of the source.

use super::attribute_guard::bounded;
use super::dom::{Dom, NodeId, Sink};
use crate::work;
use html5ever::tendril::StrTendril;
use html5ever::tokenizer::{
    BufferQueue, Tag, TagKind, Token, TokenSink, TokenSinkResult, Tokenizer, TokenizerOpts,
};
use html5ever::tree_builder::{TreeBuilder, TreeSink as _};
use html5ever::{LocalName, local_name};
use std::cell::{Cell, RefCell};

/// The deepest element that keeps its tags; what is deeper stands directly in it.
const DEEPEST: u32 = 200;

/// How many formatting elements there are.
const KINDS: usize = 14;

/// Elements that the tree builder makes anew behind a block in which they were left open (HTML Standard,
/// 13.2.4.3).
static FORMATTING: [LocalName; KINDS] = [
    local_name!("a"),
    local_name!("b"),
    local_name!("big"),
    local_name!("code"),
    local_name!("em"),
    local_name!("font"),
    local_name!("i"),
    local_name!("nobr"),
    local_name!("s"),
    local_name!("small"),
    local_name!("strike"),
    local_name!("strong"),
    local_name!("tt"),
    local_name!("u"),
];

/// How many nodes may be made for each token, and how many more, before all formatting is closed.
const NODES_A_TOKEN: usize = 8;
const MORE_NODES: usize = 150;

/// Elements that never hold anything.
pub(super) const EMPTY: [&str; 14] = [
    "area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "param", "source",
    "track", "wbr",
];

/// Stands between tokenizer and tree builder, and keeps tags from it that would nest too deep.
struct DepthGuard {
    builder: TreeBuilder<NodeId, Sink>,
    /// The elements whose start tags were kept back, so that their end tags are too.
    kept_back: RefCell<Vec<LocalName>>,
    formatting: Formatting,
}

/// Formatting elements that may be open, and what has been made since they were last closed.
#[derive(Default)]
struct Formatting {
    /// Of each of [`FORMATTING`], how many more were begun than ended.
    open: [Cell<u32>; KINDS],
    tokens: Cell<usize>,
    /// How many nodes there were.
    nodes: Cell<usize>,
}

impl Formatting {
    fn note(&self, tag: &Tag) {
        let known = FORMATTING.iter().position(|name| *name == tag.name);
        let Some(open) = known.and_then(|known| self.open.get(known)) else { return };
        open.set(match tag.kind {
            TagKind::StartTag => open.get().saturating_add(1),
            TagKind::EndTag => open.get().saturating_sub(1),
        });
    }

    /// Whether more has been made than these tokens account for.
    fn is_too_much(&self, nodes: usize) -> bool {
        self.tokens.set(self.tokens.get() + 1);
        nodes - self.nodes.get() > NODES_A_TOKEN * self.tokens.get() + MORE_NODES
    }
}

impl DepthGuard {
    /// Ends all formatting that is open.
    fn close_formatting(&self, line: u64) {
        self.builder.sink.parse_error("formatting was left open too often".into());
        for (name, open) in FORMATTING.iter().zip(&self.formatting.open) {
            for _ in 0..open.take().min(DEEPEST) {
                let tag = Tag {
                    kind: TagKind::EndTag,
                    name: name.clone(),
                    self_closing: false,
                    attrs: Vec::new(),
                    had_duplicate_attributes: false,
                };
                let _ = self.builder.process_token(Token::TagToken(tag), line);
            }
        }
        self.formatting.tokens.set(0);
        self.formatting.nodes.set(self.builder.sink.count());
    }
}

impl TokenSink for DepthGuard {
    type Handle = NodeId;

    fn process_token(&self, token: Token, line: u64) -> TokenSinkResult<NodeId> {
        work::count(1);
        if work::is_over() {
            return TokenSinkResult::Continue;
        }
        if self.formatting.is_too_much(self.builder.sink.count()) {
            self.close_formatting(line);
        }
        let Token::TagToken(tag) = &token else { return self.builder.process_token(token, line) };
        let depth = &self.builder.sink.depth;
        match tag.kind {
            TagKind::StartTag => {
                let holds = !tag.self_closing && !EMPTY.contains(&&*tag.name);
                if holds && depth.get() >= DEEPEST {
                    self.kept_back.borrow_mut().push(tag.name.clone());
                    self.builder.sink.leave_out();
                    return TokenSinkResult::Continue;
                }
            }
            TagKind::EndTag => {
                if self.kept_back.borrow().last() == Some(&tag.name) {
                    self.kept_back.borrow_mut().pop();
                    return TokenSinkResult::Continue;
                }
                // The next element that is put in says how deep it really is.
                depth.set(depth.get().saturating_sub(1));
            }
        }
        self.formatting.note(tag);
        self.builder.process_token(token, line)
    }

    fn end(&self) {
        self.builder.end();
    }

    fn adjusted_current_node_present_but_not_in_html_namespace(&self) -> bool {
        self.builder.adjusted_current_node_present_but_not_in_html_namespace()
    }
}

/// The tree of a text, by a tree builder that is set up for a page or a fragment.
pub(super) fn parse(html: &str, builder: TreeBuilder<NodeId, Sink>, options: TokenizerOpts) -> Dom {
    let guard =
        DepthGuard { builder, kept_back: RefCell::default(), formatting: Formatting::default() };
    let tokenizer = Tokenizer::new(guard, options);
    let input = BufferQueue::default();
    input.push_back(StrTendril::from_slice(&bounded(html)));
    // A script or a stated encoding pauses the tokenizer; neither matters here, so it goes on.
    while !input.is_empty() {
        let _ = tokenizer.feed(&input);
    }
    tokenizer.end();
    tokenizer.sink.builder.sink.finish()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn paragraphs_with_fonts_left_open(fonts: u32, paragraphs: u32) -> Dom {
        let one = |n: u32| match n < fonts {
            true => format!("<p><font size={n}>ebb</p>"),
            false => "<p>ebb</p>".to_string(),
        };
        Dom::of_body(&(0..paragraphs).map(one).collect::<String>())
    }

    #[test]
    fn formatting_that_was_left_open_comes_back_within_bounds() {
        // As browsers do: each paragraph is in all twenty.
        let few = paragraphs_with_fonts_left_open(20, 200);
        let nodes = few.below(few.root()).count();
        assert!(nodes > 20 * 180, "{nodes} nodes");
        // Hundreds are closed before they take more than the source accounts for.
        for paragraphs in [1000, 2000] {
            let many = paragraphs_with_fonts_left_open(u32::MAX, paragraphs);
            let nodes = many.below(many.root()).count();
            assert!(nodes < 100 * paragraphs as usize, "{nodes} nodes of {paragraphs} paragraphs");
            assert_eq!(many.text_of(many.root()).matches("ebb").count(), paragraphs as usize);
            assert!(many.mended > 10, "{} mistakes", many.mended);
        }
    }
}
