//! What a rule says.

use super::piece::Piece;
use crate::formats::html::address_is_harmless;
use crate::formats::html::elements::{can_hold_content, is_element};
use crate::formats::html::select::{self, Html};
use regex::{Regex, RegexBuilder};
use selectors::parser::{Selector, SelectorList};
use serde::Serialize;
use thiserror::Error;

/// A selector and what becomes of what it matches.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Rule {
    /// A CSS selector (Selectors 4), or several, parted by commas.
    pub on: String,
    /// What happens to each match, in the order of [`Action`].
    pub actions: Vec<Action>,
    /// What it is for, for people who read the house.
    pub why: Option<String>,
}

/// One thing that becomes of an element.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Action {
    /// Texts inside it become others.
    Replace(Replacement),
    /// The letters inside it change their case, but for code and protected words.
    Case(Case),
    /// These attributes go.
    DropAttributes(Vec<String>),
    /// It gets an attribute: name and value.
    SetAttribute(String, String),
    /// It loses these classes.
    DropClasses(Vec<String>),
    /// It gets these classes.
    AddClasses(Vec<String>),
    /// It becomes another element.
    Rename(String),
    /// Text or HTML is put before what it holds. `{number}` is its number among its kind.
    Before(String),
    /// Text or HTML is put behind what it holds.
    After(String),
    /// An element of this name is put around it.
    Wrap(String),
    /// It goes, and what it holds stays.
    Unwrap,
    /// It goes with all it holds.
    Drop,
    /// Everything else goes.
    KeepOnly,
}

/// Texts that become others.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize)]
pub struct Replacement {
    /// What is looked for.
    pub find: String,
    /// Whether it is a regular expression, in the syntax of the `regex` crate.
    pub is_pattern: bool,
    /// What stands there instead; of a pattern, `$1` is its first group.
    pub with: String,
}

/// How the case of letters changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Case {
    /// All capitals.
    Capitals,
    /// Small letters, but for the first of a sentence.
    Lower,
    /// A capital at the start of every word, but for small words inside an English title.
    Title,
}

/// What is wrong with a rule.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("{key} takes {wanted}, not “{found}”")]
pub struct RuleFault {
    /// The key in the house file.
    pub key: &'static str,
    /// What it takes.
    pub wanted: &'static str,
    /// What it was given.
    pub found: String,
}

/// A rule made ready to run.
pub(super) struct Ready {
    pub(super) selectors: SelectorList<Html>,
    pub(super) steps: Vec<Step>,
}

/// An action made ready to run.
pub(super) enum Step {
    Replace(Regex, Option<String>, String),
    Before(Piece),
    After(Piece),
    Plain(Action),
}

impl Step {
    pub(super) fn shows_numbers(&self) -> bool {
        matches!(self, Self::Before(piece) | Self::After(piece) if piece.shows_number())
    }
}

impl Rule {
    /// Whether the rule can run.
    ///
    /// # Errors
    /// [`RuleFault`] when the selector is none, a name is none of an element that HTML can hold, an
    /// attribute could run code, or a pattern is no regular expression.
    pub fn check(&self) -> Result<(), RuleFault> {
        self.ready().map(|_| ())
    }

    pub(super) fn ready(&self) -> Result<Ready, RuleFault> {
        let mut input = cssparser::Parser::new(&self.on);
        let selectors = select::selector_list(&mut input).ok().filter(|_| input.is_exhausted());
        let selectors = selectors.ok_or_else(|| fault("on", "a CSS selector", &self.on))?;
        let steps = self.actions.iter().map(step).collect::<Result<Vec<_>, _>>()?;
        Ok(Ready { selectors, steps })
    }
}

impl Ready {
    pub(super) fn selectors(&self) -> &[Selector<Html>] {
        self.selectors.slice()
    }
}

fn fault(key: &'static str, wanted: &'static str, found: &str) -> RuleFault {
    RuleFault { key, wanted, found: found.into() }
}

fn step(action: &Action) -> Result<Step, RuleFault> {
    const PIECE: &str = "text or harmless HTML";
    let piece = |key, text: &str| Piece::of(text).ok_or_else(|| fault(key, PIECE, text));
    Ok(match action {
        Action::Replace(replacement) => replace(replacement)?,
        Action::Before(text) => Step::Before(piece("before", text)?),
        Action::After(text) => Step::After(piece("after", text)?),
        Action::Rename(name) | Action::Wrap(name) => {
            let key = if matches!(action, Action::Rename(_)) { "rename" } else { "wrap" };
            if !is_element(name) || !can_hold_content(name) {
                return Err(fault(key, "the name of an element that holds text", name));
            }
            Step::Plain(action.clone())
        }
        Action::SetAttribute(name, value) => {
            if !is_harmless(name, value) {
                return Err(fault("set", "attributes that run nothing", name));
            }
            Step::Plain(action.clone())
        }
        action => Step::Plain(action.clone()),
    })
}

fn replace(replacement: &Replacement) -> Result<Step, RuleFault> {
    let Replacement { find, is_pattern, with } = replacement;
    let source = if *is_pattern { find.clone() } else { regex::escape(find) };
    let regex = RegexBuilder::new(&source).build().ok().filter(|_| !find.is_empty());
    let key = if *is_pattern { "pattern" } else { "find" };
    let wanted = if *is_pattern { "a regular expression" } else { "text" };
    let regex = regex.ok_or_else(|| fault(key, wanted, find))?;
    Ok(Step::Replace(regex, (!is_pattern).then(|| with.clone()), with.clone()))
}

/// Whether an attribute can be set without running anything.
fn is_harmless(name: &str, value: &str) -> bool {
    let is_name = !name.is_empty()
        && name.bytes().all(|byte| byte.is_ascii_lowercase() || byte == b'-' || byte == b'_');
    let is_handler = name.starts_with("on") || matches!(name, "srcdoc" | "style");
    let is_address = matches!(name, "href" | "src" | "action" | "formaction" | "cite" | "poster");
    is_name && !is_handler && (!is_address || address_is_harmless(value))
}
