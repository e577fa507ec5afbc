//! Style sheets: rules with their selectors, and the list definitions of word processors.

use super::super::select::{Html, Key, selector_list};
use super::stated::Stated;
use super::values::{rest_of, value_and_importance};
use crate::document::CompactString;
use cssparser::{
    AtRuleParser, CowRcStr, DeclarationParser, ParseError, Parser, ParserState,
    QualifiedRuleParser, RuleBodyItemParser, RuleBodyParser, StyleSheetParser,
};
use selectors::parser::{Combinator, Component, Selector, SelectorList, SelectorParseErrorKind};
use std::collections::{BTreeMap, HashMap, HashSet};
use std::rc::Rc;

/// Rules with the same last part that are read; more are never meant, and would cost time with the
/// square of the page.
const RULES_PER_KEY: usize = 100;

/// What all style sheets of a page say.
#[derive(Debug, Default)]
pub(crate) struct Sheet {
    pub(super) rules: Vec<Rule>,
    pub(super) by_id: HashMap<CompactString, Vec<usize>>,
    pub(super) by_class: HashMap<CompactString, Vec<usize>>,
    pub(super) by_type: HashMap<CompactString, Vec<usize>>,
    pub(super) others: Vec<usize>,
    /// Every class that a selector names, wherever in it.
    pub(super) classes: HashSet<CompactString>,
    /// The marks of a word processor's lists, by definition and level: `l0`, 1.
    pub(super) list_levels: HashMap<(CompactString, u8), ListLevelMarks>,
    /// Whether looks are read beside the meaning.
    pub(super) keeps_looks: bool,
    /// Properties that say nothing that is carried, with how often they stand there.
    pub(crate) ignored: BTreeMap<CompactString, usize>,
}

#[derive(Debug)]
pub(super) struct Rule {
    pub(super) selector: Selector<Html>,
    pub(super) normal: Rc<Stated>,
    pub(super) important: Option<Stated>,
}

/// What a list definition says of one level.
#[derive(Debug, Clone, Default)]
pub(crate) struct ListLevelMarks {
    /// `bullet`, `roman-upper` …; nothing is decimal.
    pub(crate) format: CompactString,
    /// What the mark looks like, with `%1` for the number.
    pub(crate) text: CompactString,
    pub(crate) start: Option<i32>,
}

/// The declarations of one block, those with `!important` apart.
#[derive(Debug, Clone, Default)]
pub(crate) struct Block {
    pub(super) normal: Rc<Stated>,
    pub(super) important: Option<Stated>,
}

/// Reads the declarations of a `style` attribute; ignored properties are counted.
pub(crate) fn declarations(
    text: &str,
    keeps_looks: bool,
    ignored: &mut BTreeMap<CompactString, usize>,
) -> Block {
    let (normal, important) = (Stated::default(), None);
    let mut reader = DeclarationReader { normal, important, keeps_looks, ignored };
    let mut input = Parser::new(text);
    for _ in RuleBodyParser::new(&mut input, &mut reader) {}
    Block { normal: Rc::new(reader.normal), important: reader.important }
}

impl Sheet {
    /// Reads one more style sheet. What follows is stronger than what came before.
    pub(crate) fn read(&mut self, text: &str) {
        let mut input = Parser::new(text);
        let mut reader = RuleReader { sheet: self };
        // Errors are rules in words this version of CSS does not have; they are skipped.
        for _ in StyleSheetParser::new(&mut input, &mut reader) {}
    }

    pub(crate) fn is_empty(&self) -> bool {
        self.rules.is_empty()
    }

    fn add(&mut self, selectors: &SelectorList<Html>, block: &Block) {
        for selector in selectors.slice() {
            for component in selector.iter_raw_match_order() {
                if let Component::Class(class) = component {
                    self.classes.insert(class.as_ref().into());
                }
            }
            let number = self.rules.len();
            let list = match Key::of(selector) {
                Key::Id(id) => self.by_id.entry(id).or_default(),
                Key::Class(class) => self.by_class.entry(class).or_default(),
                Key::Type(name) => self.by_type.entry(name).or_default(),
                Key::None => &mut self.others,
            };
            if list.len() >= RULES_PER_KEY || is_costly(selector) {
                *self.ignored.entry("rules beyond the limit".into()).or_default() += 1;
                continue;
            }
            list.push(number);
            self.rules.push(Rule {
                selector: selector.clone(),
                normal: block.normal.clone(),
                important: block.important.clone(),
            });
        }
    }
}

/// Selectors whose matching may look at all siblings or descendants of every element.
fn is_costly(selector: &Selector<Html>) -> bool {
    selector.iter_raw_match_order().any(|component| {
        matches!(component, Component::Has(_) | Component::Combinator(Combinator::LaterSibling))
    })
}

struct DeclarationReader<'b> {
    normal: Stated,
    important: Option<Stated>,
    keeps_looks: bool,
    ignored: &'b mut BTreeMap<CompactString, usize>,
}

impl<'i> DeclarationParser<'i> for DeclarationReader<'_> {
    type Declaration = ();
    type Error = SelectorParseErrorKind;

    fn parse_value(
        &mut self,
        name: CowRcStr<'i>,
        input: &mut Parser<'i>,
        _: &ParserState,
    ) -> Result<(), ParseError<Self::Error>> {
        let name = name.to_ascii_lowercase();
        let (value, is_important) = value_and_importance(rest_of(input));
        let stated = match is_important {
            true => self.important.get_or_insert_default(),
            false => &mut self.normal,
        };
        let says_looks = self.keeps_looks && stated.state_looks(&name, value);
        if !stated.state(&name, value) && !says_looks {
            *self.ignored.entry(group_of(&name)).or_default() += 1;
        }
        Ok(())
    }
}

/// A program's own properties are one group each.
fn group_of(property: &str) -> CompactString {
    let vendor = match property.strip_prefix('-') {
        Some(behind) => behind.find('-').map(|end| end + 2),
        None => property.starts_with("mso-").then_some(4),
    };
    match vendor.and_then(|end| property.get(..end)) {
        Some(vendor) => CompactString::from(vendor) + "…",
        None => property.into(),
    }
}

impl AtRuleParser<'_> for DeclarationReader<'_> {
    type Prelude = ();
    type AtRule = ();
    type Error = SelectorParseErrorKind;
}

impl QualifiedRuleParser<'_> for DeclarationReader<'_> {
    type Prelude = ();
    type QualifiedRule = ();
    type Error = SelectorParseErrorKind;
}

impl RuleBodyItemParser<'_, (), SelectorParseErrorKind> for DeclarationReader<'_> {
    fn parse_declarations(&self) -> bool {
        true
    }

    fn parse_qualified(&self) -> bool {
        false
    }
}

struct RuleReader<'s> {
    sheet: &'s mut Sheet,
}

impl<'i> QualifiedRuleParser<'i> for RuleReader<'_> {
    type Prelude = SelectorList<Html>;
    type QualifiedRule = ();
    type Error = SelectorParseErrorKind;

    fn parse_prelude(
        &mut self,
        input: &mut Parser<'i>,
    ) -> Result<SelectorList<Html>, ParseError<Self::Error>> {
        selector_list(input)
    }

    fn parse_block(
        &mut self,
        selectors: SelectorList<Html>,
        _: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<(), ParseError<Self::Error>> {
        let block = declarations(rest_of(input), self.sheet.keeps_looks, &mut self.sheet.ignored);
        self.sheet.add(&selectors, &block);
        Ok(())
    }
}

/// The at-rules that say something.
enum AtRule {
    /// For this medium, or not.
    Media(bool),
    /// A level of a word processor's list.
    ListLevel(CompactString, u8),
}

impl<'i> AtRuleParser<'i> for RuleReader<'_> {
    type Prelude = AtRule;
    type AtRule = ();
    type Error = SelectorParseErrorKind;

    fn parse_prelude(
        &mut self,
        name: CowRcStr<'i>,
        input: &mut Parser<'i>,
    ) -> Result<AtRule, ParseError<Self::Error>> {
        let prelude = rest_of(input).trim().to_ascii_lowercase();
        match &*name.to_ascii_lowercase() {
            "media" => Ok(AtRule::Media(is_for_screens(&prelude))),
            "list" => {
                let (list, level) = prelude.split_once(":level").unwrap_or((&prelude, "0"));
                Ok(AtRule::ListLevel(list.trim().into(), level.trim().parse().unwrap_or(0)))
            }
            _ => Err(ParseError::unexpected_token()),
        }
    }

    fn parse_block(
        &mut self,
        prelude: AtRule,
        _: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<(), ParseError<Self::Error>> {
        match prelude {
            AtRule::Media(true) => {
                let mut reader = RuleReader { sheet: self.sheet };
                for _ in StyleSheetParser::new(input, &mut reader) {}
            }
            AtRule::Media(false) => {
                rest_of(input);
            }
            AtRule::ListLevel(list, level) => {
                let marks = list_level_marks(rest_of(input));
                self.sheet.list_levels.insert((list, level), marks);
            }
        }
        Ok(())
    }
}

fn is_for_screens(media: &str) -> bool {
    media.split(',').any(|query| {
        let mut words = query.split_ascii_whitespace().filter(|word| *word != "only");
        !matches!(words.next(), Some("print" | "not" | "speech"))
    })
}

fn list_level_marks(text: &str) -> ListLevelMarks {
    let mut marks = ListLevelMarks::default();
    for declaration in text.split(';') {
        let Some((name, value)) = declaration.split_once(':') else { continue };
        let value = value.trim().trim_matches('"');
        match name.trim() {
            "mso-level-number-format" => marks.format = value.into(),
            "mso-level-text" => marks.text = value.into(),
            "mso-level-start-at" => marks.start = value.parse().ok(),
            _ => {}
        }
    }
    marks
}
