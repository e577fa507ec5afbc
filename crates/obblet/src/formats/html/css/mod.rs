//! Style resolution: which declarations hold for an element (CSS Cascading and Inheritance 4), as
//! far as they say something about the meaning of a text. Where a house keeps looks, `looks.rs` reads
//! them; each property that is left out is a finding.

mod looks;
mod sheet;
mod stated;
pub(crate) mod values;

pub(super) use looks::{aligned, state_attribute};
pub(super) use sheet::{ListLevelMarks, Sheet};
pub(super) use stated::{Display, ListLevel, Raise, Stated, Weight};

use super::dom::{Dom, NodeId};
use super::saved_page::SavedParts;
use super::select::Matcher;
use crate::document::CompactString;
use sheet::{Block, declarations};
use std::collections::{BTreeMap, HashMap};
use std::rc::Rc;

/// The styles of a page.
pub(super) struct Styles<'d> {
    dom: &'d Dom,
    sheet: Sheet,
    matcher: Matcher,
    /// `style` attributes that were read before: noisy pages have few different ones.
    attributes: HashMap<&'d str, Rc<Block>>,
    /// The element that was asked about last: most are asked about more than once.
    last: Option<(NodeId, Rc<Stated>)>,
    /// Properties of `style` attributes that say nothing that is carried.
    ignored: BTreeMap<CompactString, usize>,
}

impl<'d> Styles<'d> {
    /// Reads the `style` elements of a page, and the style sheets that were saved with it.
    pub(super) fn of(dom: &'d Dom, saved: &SavedParts, keeps_looks: bool) -> Self {
        let mut styles = Self::without_sheets(dom, keeps_looks);
        for node in dom.below(0) {
            match dom.name(node) {
                Some("style") => styles.sheet.read(&dom.text_of(node)),
                Some("link") => {
                    let address = dom.attribute(node, "href").unwrap_or_default();
                    if let Some(sheet) = saved.style_sheet(address) {
                        styles.sheet.read(sheet);
                    }
                }
                _ => {}
            }
        }
        styles
    }

    /// Only `style` attributes will say something.
    pub(super) fn without_sheets(dom: &'d Dom, keeps_looks: bool) -> Self {
        Self {
            dom,
            sheet: Sheet { keeps_looks, ..Sheet::default() },
            matcher: Matcher::default(),
            attributes: HashMap::new(),
            last: None,
            ignored: BTreeMap::new(),
        }
    }

    /// What holds for an element: its rules from the weakest to the strongest, then its `style`
    /// attribute, then what is important.
    pub(super) fn stated(&mut self, node: NodeId) -> Rc<Stated> {
        if let Some((last, stated)) = &self.last
            && *last == node
        {
            return stated.clone();
        }
        let stated = self.cascade(node);
        self.last = Some((node, stated.clone()));
        stated
    }

    fn cascade(&mut self, node: NodeId) -> Rc<Stated> {
        let rules = self.rules_for(node);
        let attribute = self.attribute(node);
        match (rules.is_empty(), &attribute) {
            (true, None) => return Rc::default(),
            (true, Some(block)) if block.important.is_none() => return block.normal.clone(),
            _ => {}
        }
        let mut stated = Stated::default();
        let matching = || rules.iter().filter_map(|number| self.sheet.rules.get(*number));
        matching().for_each(|rule| stated.take(&rule.normal));
        if let Some(block) = &attribute {
            stated.take(&block.normal);
        }
        matching().filter_map(|rule| rule.important.as_ref()).for_each(|i| stated.take(i));
        if let Some(important) = attribute.as_ref().and_then(|block| block.important.as_ref()) {
            stated.take(important);
        }
        Rc::new(stated)
    }

    /// The numbers of the rules that match, weakest first.
    fn rules_for(&mut self, node: NodeId) -> Vec<usize> {
        if self.sheet.is_empty() {
            return Vec::new();
        }
        let sheet = &self.sheet;
        let mut candidates = sheet.others.clone();
        let mut add = |map: &HashMap<CompactString, Vec<usize>>, key: &str| {
            candidates.extend(map.get(key).into_iter().flatten());
        };
        add(&sheet.by_type, self.dom.name(node).unwrap_or_default());
        if let Some(id) = self.dom.attribute(node, "id") {
            add(&sheet.by_id, id);
        }
        for class in self.dom.attribute(node, "class").unwrap_or_default().split_ascii_whitespace()
        {
            add(&sheet.by_class, class);
        }
        candidates.sort_unstable();
        candidates.dedup();
        candidates.retain(|number| {
            self.sheet
                .rules
                .get(*number)
                .is_some_and(|rule| self.matcher.matches(self.dom, node, &rule.selector))
        });
        let specificity =
            |number: &usize| self.sheet.rules.get(*number).map(|rule| rule.selector.specificity());
        candidates.sort_by_key(specificity);
        candidates
    }

    fn attribute(&mut self, node: NodeId) -> Option<Rc<Block>> {
        let text = self.dom.attribute(node, "style")?;
        if let Some(known) = self.attributes.get(text) {
            return Some(known.clone());
        }
        let block = Rc::new(declarations(text, self.sheet.keeps_looks, &mut self.ignored));
        self.attributes.insert(text, block.clone());
        Some(block)
    }

    /// Whether a style sheet names a class.
    pub(super) fn defines_class(&self, class: &str) -> bool {
        self.sheet.classes.contains(class)
    }

    /// What a word processor's list definition says of a level.
    pub(super) fn list_level(&self, level: &ListLevel) -> Option<&ListLevelMarks> {
        let definition = level.list.split(' ').next().unwrap_or_default();
        self.sheet.list_levels.get(&(definition.into(), level.level))
    }

    /// Every property that was left out, once, with how many declarations state it.
    pub(super) fn into_ignored(self) -> BTreeMap<CompactString, usize> {
        let mut ignored = self.ignored;
        for (property, count) in self.sheet.ignored {
            *ignored.entry(property).or_default() += count;
        }
        ignored
    }
}
