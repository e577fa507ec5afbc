//! A style sheet as rules that can be left out or put into elements (CSS Syntax 3, 9).

use crate::formats::html::css::values::rest_of;
use crate::formats::html::select::{self, Html};
use cssparser::{
    AtRuleParser, CowRcStr, ParseError, Parser, ParserState, QualifiedRuleParser, StyleSheetParser,
};
use selectors::parser::{SelectorList, SelectorParseErrorKind};

/// A part of a style sheet.
pub(super) enum Part {
    Rule(StyleRule),
    /// `@media` and its like: rules under a condition.
    Group {
        prelude: String,
        parts: Vec<Part>,
    },
    /// Anything else that begins with `@`.
    Other(String),
}

/// Selectors and declarations.
pub(super) struct StyleRule {
    /// As it is spelled.
    pub(super) prelude: String,
    /// What elements must match, but for states and generated content; `None` where that cannot be
    /// told.
    pub(super) selectors: Option<SelectorList<Html>>,
    /// Whether the selectors say all there is to say: no state, no generated content.
    pub(super) is_whole: bool,
    /// As they are spelled.
    pub(super) declarations: String,
}

/// The parts of a style sheet, in order.
pub(super) fn parts(sheet: &str) -> Vec<Part> {
    let mut input = Parser::new(sheet);
    parts_of(&mut input)
}

fn parts_of(input: &mut Parser<'_>) -> Vec<Part> {
    let mut reader = PartReader;
    let mut parts = Vec::new();
    for part in StyleSheetParser::new(input, &mut reader) {
        // What is no rule is nothing to a browser either.
        parts.extend(part.ok());
    }
    parts
}

struct PartReader;

impl<'i> QualifiedRuleParser<'i> for PartReader {
    type Prelude = &'i str;
    type QualifiedRule = Part;
    type Error = SelectorParseErrorKind;

    fn parse_prelude(
        &mut self,
        input: &mut Parser<'i>,
    ) -> Result<&'i str, ParseError<Self::Error>> {
        Ok(rest_of(input).trim())
    }

    fn parse_block(
        &mut self,
        prelude: &'i str,
        _: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<Part, ParseError<Self::Error>> {
        let whole = selectors(prelude);
        let is_whole = whole.is_some();
        Ok(Part::Rule(StyleRule {
            prelude: prelude.into(),
            selectors: whole.or_else(|| selectors(&without_states(prelude))),
            is_whole,
            declarations: rest_of(input).trim().into(),
        }))
    }
}

impl<'i> AtRuleParser<'i> for PartReader {
    type Prelude = String;
    type AtRule = Part;
    type Error = SelectorParseErrorKind;

    fn parse_prelude(
        &mut self,
        name: CowRcStr<'i>,
        input: &mut Parser<'i>,
    ) -> Result<String, ParseError<Self::Error>> {
        Ok(format!("@{name} {}", rest_of(input).trim()).trim_end().to_string())
    }

    fn rule_without_block(&mut self, prelude: String, _: &ParserState) -> Result<Part, ()> {
        Ok(Part::Other(prelude + ";"))
    }

    fn parse_block(
        &mut self,
        prelude: String,
        _: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<Part, ParseError<Self::Error>> {
        let is_group = ["@media", "@supports", "@layer"]
            .iter()
            .any(|name| prelude.to_ascii_lowercase().starts_with(name));
        if is_group {
            return Ok(Part::Group { prelude, parts: parts_of(input) });
        }
        Ok(Part::Other(format!("{prelude} {{{}}}", rest_of(input))))
    }
}

fn selectors(text: &str) -> Option<SelectorList<Html>> {
    let mut input = Parser::new(text);
    let list = select::selector_list(&mut input).ok()?;
    input.is_exhausted().then_some(list)
}

/// Selectors without the states and generated content that no parsed page knows.
fn without_states(prelude: &str) -> String {
    const STATES: [&str; 14] = [
        "hover",
        "focus-visible",
        "focus-within",
        "focus",
        "active",
        "visited",
        "link",
        "target",
        "before",
        "after",
        "marker",
        "first-line",
        "first-letter",
        "selection",
    ];
    let mut text = prelude.to_string();
    for colons in ["::", ":"] {
        for state in STATES {
            text = text.replace(&format!("{colons}{state}"), "");
        }
    }
    let parts: Vec<String> = text
        .split(',')
        .map(|part| part.trim())
        .map(|part| match part.chars().last() {
            None | Some('>' | '+' | '~') => format!("{part} *"),
            Some(_) => part.to_string(),
        })
        .collect();
    parts.join(", ")
}
