//! Running rules over a body.

use super::action::{Action, Case, Ready, Rule, Step};
use super::case::{BOUNDARY, ProtectedWords, changed};
use super::mend::{first_shown, last_shown, mend, unwrap_apart};
use super::piece::Piece;
use crate::document::Place;
use crate::findings::{Code, Findings};
use crate::formats::html::dom::{Dom, NodeData, NodeId};
use crate::formats::html::elements::{can_hold_content, holds_lines, is_block};
use crate::formats::html::select::Matcher;
use crate::work;
use html5ever::LocalName;
use regex::Regex;
use std::collections::{HashMap, HashSet};

/// Bytes of text, and pieces, that the rules of a house may make in one document, and for each of its nodes:
/// each of ten rules may make ten of what the one before it made.
const MADE_TEXT: usize = 64;
const MADE_PIECES: (usize, usize) = (200_000, 8);

/// What all rules of a house share.
pub(crate) struct Ground<'g> {
    /// Words that keep their spelling.
    pub(crate) protected: &'g [String],
    /// The language of the document.
    pub(crate) language: &'g str,
    /// The place in the source of a line of the body.
    pub(crate) place_of: &'g dyn Fn(u32) -> Option<Place>,
}

/// Runs rules over a parsed body, one after the other. A rule that is wrong is left out, with a
/// finding; of a house file it is an error when that is read. True when any of them matched.
pub(crate) fn apply(
    dom: &mut Dom,
    rules: &[Rule],
    ground: &Ground<'_>,
    findings: &mut Findings,
) -> bool {
    let protected = ProtectedWords::of(ground.protected);
    let mut has_matched = false;
    let nodes = dom.below(dom.root()).count();
    let mut room = Room {
        text: work::limit(|limits| limits.made_bytes) + MADE_TEXT * nodes,
        pieces: MADE_PIECES.0 + MADE_PIECES.1 * nodes,
    };
    for rule in rules {
        let ready = match rule.ready() {
            Ok(ready) => ready,
            Err(fault) => {
                findings.add_about(Code::RuleWrong, &fault.to_string(), None);
                continue;
            }
        };
        let mut run = Run { dom, rule, ground, protected: &protected, findings, room: &mut room };
        has_matched |= run.rule(&ready);
    }
    if has_matched {
        let root = dom.root();
        mend(dom, root);
    }
    has_matched
}

struct Run<'r> {
    dom: &'r mut Dom,
    rule: &'r Rule,
    ground: &'r Ground<'r>,
    protected: &'r ProtectedWords,
    findings: &'r mut Findings,
    room: &'r mut Room,
}

/// What rules may still make.
struct Room {
    text: usize,
    pieces: usize,
}

impl Room {
    /// Whether there is room for one more piece.
    fn take_piece(&mut self) -> bool {
        let left = self.pieces.checked_sub(1);
        left.map(|left| self.pieces = left).is_some()
    }
}

/// A text with what a rule finds in it replaced; `None` where that takes more bytes than there is room for.
fn replaced(
    text: &str,
    regex: &Regex,
    literal: Option<&str>,
    with: &str,
    room: usize,
) -> Option<String> {
    let mut made = String::new();
    let mut last = 0;
    for captures in regex.captures_iter(text) {
        let Some(found) = captures.get(0) else { continue };
        made.push_str(text.get(last..found.start()).unwrap_or_default());
        match literal {
            Some(literal) => made.push_str(literal),
            None => captures.expand(with, &mut made),
        }
        last = found.end();
        if made.len() > room.saturating_add(text.len()) {
            return None;
        }
    }
    made.push_str(text.get(last..).unwrap_or_default());
    Some(made)
}

/// An element that a rule matches.
struct Match {
    node: NodeId,
    /// Its number among its kind, as a list shows it; 0 where the rule shows none.
    number: usize,
    /// Another match stands around it, whose texts are also its own.
    is_inside: bool,
}

impl Run<'_> {
    /// True when it matched anything, or dropped all that it did not.
    fn rule(&mut self, ready: &Ready) -> bool {
        let (matches, is_complete) = self.matches(ready);
        if !is_complete {
            self.findings.add_about(Code::RuleTooCostly, &self.rule.on, None);
        }
        let keeps_only =
            ready.steps.iter().any(|step| matches!(step, Step::Plain(Action::KeepOnly)));
        if keeps_only {
            self.keep_only(&matches);
        }
        let mut applied = Vec::with_capacity(matches.len());
        for found in matches.iter().rev() {
            // Every step is taken, whether or not the one before could be.
            let done = ready.steps.iter().filter(|step| self.step(step, found)).count();
            applied.push((found.node, done));
        }
        for (node, done) in applied.into_iter().rev() {
            if done > 0 {
                self.report(Code::RuleApplied, node);
            }
            if done < ready.steps.len() {
                self.report(Code::RuleNotApplied, node);
            }
        }
        keeps_only || !matches.is_empty()
    }

    fn report(&mut self, code: Code, node: NodeId) {
        let place = (self.ground.place_of)(self.dom.line(node));
        self.findings.count(code, &self.rule.on, place);
    }

    /// The matches, and whether they are all there are.
    fn matches(&self, ready: &Ready) -> (Vec<Match>, bool) {
        let mut matcher = Matcher::default();
        let shows_numbers = ready.steps.iter().any(Step::shows_numbers);
        let mut numbers = Numbers::default();
        let mut matches = Vec::new();
        let mut inside: HashSet<NodeId> = HashSet::new();
        for node in self.dom.below(self.dom.root()) {
            if self.dom.name(node).is_none() {
                continue;
            }
            let number = if shows_numbers { numbers.of(self.dom, node) } else { 0 };
            let is_inside = self.dom.parent(node).is_some_and(|parent| inside.contains(&parent));
            let is_match = ready.selectors().iter().any(|one| matcher.matches(self.dom, node, one));
            if is_match {
                matches.push(Match { node, number, is_inside });
            }
            if is_match || is_inside {
                inside.insert(node);
            }
        }
        (matches, !matcher.has_given_up())
    }

    /// False when HTML cannot hold what the step would make.
    fn step(&mut self, step: &Step, found: &Match) -> bool {
        let node = found.node;
        match step {
            // Texts change once, with the outermost match.
            Step::Replace(..) | Step::Plain(Action::Case(_)) if found.is_inside => {}
            Step::Replace(regex, literal, with) => {
                return self.replace(node, regex, literal.as_deref(), with);
            }
            Step::Before(_) | Step::After(_) if !self.room.take_piece() => {
                return self.is_too_much();
            }
            Step::Before(piece) => self.before(piece, found),
            Step::After(piece) => self.after(piece, found),
            Step::Plain(action) => return self.plain(action, node),
        }
        true
    }

    fn plain(&mut self, action: &Action, node: NodeId) -> bool {
        match action {
            Action::Case(case) => self.case(node, *case),
            Action::DropAttributes(names) => {
                names.iter().for_each(|name| {
                    self.dom.remove_attribute(node, name);
                });
            }
            Action::SetAttribute(name, value) => self.dom.set_attribute(node, name, value),
            Action::AddClasses(classes) => self.classes(node, classes, &[]),
            Action::DropClasses(classes) => self.classes(node, &[], classes),
            Action::Rename(name) => {
                if !self.fits(node, name, Way::Renamed) {
                    return false;
                }
                self.dom.rename(node, name);
            }
            Action::Wrap(name) => {
                if !self.fits(node, name, Way::Wrapped) {
                    return false;
                }
                self.dom.wrap(node, name);
            }
            Action::Unwrap => unwrap_apart(self.dom, node),
            Action::Drop => self.dom.remove(node),
            // Made ready, or done before.
            Action::KeepOnly | Action::Replace(_) | Action::Before(_) | Action::After(_) => {}
        }
        true
    }

    /// Whether HTML can hold an element of this name here.
    fn fits(&self, node: NodeId, name: &str, way: Way) -> bool {
        let dom = &*self.dom;
        let mut around = std::iter::successors(dom.parent(node), |at| dom.parent(*at));
        let in_line = around.any(|at| dom.name(at).is_some_and(holds_lines));
        let named = |wanted: fn(&str) -> bool| move |at: NodeId| dom.name(at).is_some_and(wanted);
        let holds_block =
            dom.below(node).any(named(is_block)) || (way == Way::Wrapped && named(is_block)(node));
        let holds_link = || dom.below(node).any(|at| dom.name(at) == Some("a"));
        if dom.name(node).is_some_and(|name| !can_hold_content(name)) && way == Way::Renamed {
            return false;
        }
        let breaks_line = is_block(name) && in_line;
        let holds_too_much = holds_lines(name) && holds_block || name == "a" && holds_link();
        !breaks_line && !holds_too_much
    }

    fn classes(&mut self, node: NodeId, more: &[String], fewer: &[String]) {
        let stated = self.dom.attribute(node, "class").unwrap_or_default().to_string();
        let mut classes: Vec<&str> = stated
            .split_ascii_whitespace()
            .filter(|class| !fewer.iter().any(|fewer| fewer == class))
            .collect();
        for class in more {
            if !classes.contains(&class.as_str()) {
                classes.push(class);
            }
        }
        if classes.is_empty() {
            self.dom.remove_attribute(node, "class");
        } else {
            self.dom.set_attribute(node, "class", &classes.join(" "));
        }
    }

    fn texts(&self, node: NodeId) -> Vec<NodeId> {
        let is_text = |node: &NodeId| matches!(self.dom.data(*node), NodeData::Text(_));
        self.dom.below(node).filter(is_text).collect()
    }

    fn replace(&mut self, node: NodeId, regex: &Regex, literal: Option<&str>, with: &str) -> bool {
        for text in self.texts(node) {
            let NodeData::Text(found) = self.dom.data(text) else { continue };
            if !regex.is_match(found) {
                continue;
            }
            let before = found.len();
            let Some(made) = replaced(found, regex, literal, with, self.room.text) else {
                return self.is_too_much();
            };
            self.room.text = self.room.text.saturating_sub(made.len().saturating_sub(before));
            self.dom.set_text(text, &made);
        }
        true
    }

    /// Says that a step makes more than a document may hold; it is not taken.
    fn is_too_much(&mut self) -> bool {
        self.findings.count(Code::RuleTooCostly, &self.rule.on, None);
        false
    }

    /// The letters of all texts at once: a sentence may go through several of them.
    fn case(&mut self, node: NodeId, case: Case) {
        let mut letters = Vec::new();
        let mut spans = Vec::new();
        let is_code =
            |name: &str| matches!(name, "code" | "kbd" | "pre" | "samp" | "var" | "math" | "svg");
        let mut skipped: HashSet<NodeId> = HashSet::new();
        let is_inside_code = std::iter::successors(Some(node), |at| self.dom.parent(*at))
            .any(|at| self.dom.name(at).is_some_and(is_code));
        if is_inside_code {
            return;
        }
        for below in self.dom.below(node) {
            let is_skipped = self.dom.parent(below).is_some_and(|parent| skipped.contains(&parent));
            match self.dom.data(below) {
                NodeData::Element { name, .. } => {
                    if is_skipped || is_code(&name.local) {
                        skipped.insert(below);
                    }
                    if is_block(&name.local) || &*name.local == "br" {
                        letters.push(BOUNDARY);
                    }
                }
                NodeData::Text(text) if !is_skipped => {
                    let from = letters.len();
                    letters.extend(text.chars());
                    spans.push((below, from, letters.len()));
                }
                NodeData::Text(text) => letters.extend(text.chars()),
                NodeData::Remark(_) | NodeData::Document => {}
            }
        }
        let changed = changed(&letters, case, self.ground.language, self.protected);
        for (text, from, to) in spans {
            let new = changed.get(from..to).unwrap_or_default().concat();
            self.dom.set_text(text, &new);
        }
    }

    fn before(&mut self, piece: &Piece, found: &Match) {
        let planted = piece.plant(self.dom, found.node, found.number);
        let into = self.first_line(found.node);
        let next = self.dom.first_child(into);
        for node in planted {
            match next {
                _ if !self.holds_content(found.node) => self.dom.insert_before(found.node, node),
                Some(next) => self.dom.insert_before(next, node),
                None => self.dom.append(into, node),
            }
        }
    }

    fn after(&mut self, piece: &Piece, found: &Match) {
        let into = self.last_line(found.node);
        if piece.is_break() && self.ends_with_break(found.node) {
            return;
        }
        let mut planted = piece.plant(self.dom, found.node, found.number);
        if !self.holds_content(found.node) {
            planted.reverse();
            planted.into_iter().for_each(|node| self.dom.insert_behind(found.node, node));
            return;
        }
        planted.into_iter().for_each(|node| self.dom.append(into, node));
    }

    fn holds_content(&self, node: NodeId) -> bool {
        self.dom.name(node).is_some_and(can_hold_content)
    }

    /// The block that holds the first line of an element: itself, or the paragraph it begins with.
    fn first_line(&self, node: NodeId) -> NodeId {
        self.line_holder(node, first_shown)
    }

    fn last_line(&self, node: NodeId) -> NodeId {
        self.line_holder(node, last_shown)
    }

    fn line_holder(&self, node: NodeId, inner: fn(&Dom, NodeId) -> Option<NodeId>) -> NodeId {
        let mut at = node;
        while let Some(inside) = inner(self.dom, at)
            && self.dom.name(inside).is_some_and(|name| matches!(name, "p" | "div"))
        {
            at = inside;
        }
        at
    }

    fn ends_with_break(&self, node: NodeId) -> bool {
        let mut lasts = std::iter::successors(Some(node), |at| last_shown(self.dom, *at));
        lasts.any(|at| self.dom.name(at) == Some("br"))
    }

    /// Leaves nothing but the outermost matches, in their order.
    fn keep_only(&mut self, matches: &[Match]) {
        let root = self.dom.root();
        let outermost: Vec<NodeId> =
            matches.iter().filter(|found| !found.is_inside).map(|found| found.node).collect();
        for child in self.dom.children(root).collect::<Vec<_>>() {
            self.dom.remove(child);
        }
        for node in outermost {
            self.dom.append(root, node);
            let line_end = self.dom.new_text("\n", node);
            self.dom.append(root, line_end);
        }
    }
}

/// How an element comes by a name.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Way {
    Renamed,
    Wrapped,
}

/// Counts elements among their kind, in document order.
#[derive(Default)]
struct Numbers {
    /// The last number of each name within each parent.
    last: HashMap<(NodeId, LocalName), usize>,
}

impl Numbers {
    fn of(&mut self, dom: &Dom, node: NodeId) -> usize {
        let NodeData::Element { name, .. } = dom.data(node) else { return 0 };
        let parent = dom.parent(node).unwrap_or_default();
        let stated = |of: NodeId, attribute: &str| dom.attribute(of, attribute)?.parse().ok();
        let own = if &*name.local == "li" { stated(node, "value") } else { None };
        let kind = (parent, name.local.clone());
        let next = match self.last.get(&kind) {
            Some(last) => last + 1,
            None => stated(parent, "start").unwrap_or(1),
        };
        let number = own.unwrap_or(next);
        self.last.insert(kind, number);
        number
    }
}
