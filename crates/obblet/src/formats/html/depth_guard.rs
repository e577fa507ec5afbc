//! A bound on how deep parsed HTML nests. The tree builder looks through all open elements at every
//! tag, so without a bound its time grows with the square of the depth.

use super::attribute_guard::bounded;
use super::dom::{Dom, NodeId, Sink};
use crate::work;
use html5ever::LocalName;
use html5ever::tendril::StrTendril;
use html5ever::tokenizer::{
    BufferQueue, TagKind, Token, TokenSink, TokenSinkResult, Tokenizer, TokenizerOpts,
};
use html5ever::tree_builder::{TreeBuilder, TreeSink as _};
use std::cell::RefCell;

/// The deepest element that keeps its tags; what is deeper stands directly in it.
const DEEPEST: u32 = 500;

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
}

impl TokenSink for DepthGuard {
    type Handle = NodeId;

    fn process_token(&self, token: Token, line: u64) -> TokenSinkResult<NodeId> {
        work::count(1);
        if work::is_over() {
            return TokenSinkResult::Continue;
        }
        let Token::TagToken(tag) = &token else { return self.builder.process_token(token, line) };
        let depth = &self.builder.sink.depth;
        match tag.kind {
            TagKind::StartTag => {
                let holds = !tag.self_closing && !EMPTY.contains(&&*tag.name);
                if holds && depth.get() >= DEEPEST {
                    self.kept_back.borrow_mut().push(tag.name.clone());
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
    let guard = DepthGuard { builder, kept_back: RefCell::default() };
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
