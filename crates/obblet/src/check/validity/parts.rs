//! What an element must hold, and in which order (HTML Standard, 4).

use super::elements::Element;
use super::kinds::Kinds;
use super::values::{is_moment, is_space};
use super::{Validator, element_named};
use crate::findings::Code;
use crate::formats::html::dom::NodeId;

impl Validator<'_> {
    pub(super) fn parts(&mut self, node: NodeId, element: &Element) {
        match element.name {
            "head" => self.head(node),
            "table" => self.table(node),
            "dl" => self.description_list(node),
            "details" => self.first_alone(node, "summary", true),
            "fieldset" => self.first_alone(node, "legend", false),
            "figure" => self.figure(node),
            "picture" => self.picture(node),
            "audio" | "video" => self.media(node),
            "ruby" => self.must_hold(node, "rt"),
            "hgroup" => self.heading_group(node),
            "label" => self.label(node),
            "time" => self.time(node),
            "option" => self.option(node),
            "body" if self.is_page => self.one_main(node),
            _ => {}
        }
    }

    /// The elements directly in another, with their names, but for what no reader sees.
    fn children(&self, node: NodeId) -> Vec<(NodeId, &str)> {
        let elements =
            self.dom.children(node).filter_map(|child| Some((child, self.dom.name(child)?)));
        elements.filter(|(_, name)| !matches!(*name, "script" | "template")).collect()
    }

    fn incomplete(&mut self, node: NodeId, subject: &str) {
        self.report(Code::ElementIncomplete, subject, node);
    }

    fn misplaced(&mut self, node: NodeId, subject: &str) {
        self.report(Code::ElementMisplaced, subject, node);
    }

    fn must_hold(&mut self, node: NodeId, part: &str) {
        if !self.has_child(node, part) {
            let name = self.dom.name(node).unwrap_or_default();
            self.incomplete(node, &format!("{name} without {part}"));
        }
    }

    fn head(&mut self, node: NodeId) {
        if !self.is_page {
            return;
        }
        let dom = self.dom;
        let named =
            |name: &'static str| dom.children(node).filter(move |n| dom.name(*n) == Some(name));
        match named("title").collect::<Vec<_>>().as_slice() {
            [] => self.incomplete(node, "head without title"),
            [title, more @ ..] => {
                if dom.text_of(*title).chars().all(is_space) {
                    self.incomplete(*title, "title without text");
                }
                more.iter().for_each(|node| self.misplaced(*node, "a second title in head"));
            }
        }
        let is_charset = |node: &NodeId| {
            dom.attribute(*node, "charset").is_some()
                || dom
                    .attribute(*node, "http-equiv")
                    .is_some_and(|name| name.eq_ignore_ascii_case("content-type"))
        };
        for node in named("meta").filter(is_charset).skip(1).collect::<Vec<_>>() {
            self.misplaced(node, "a second encoding in head");
        }
        for node in named("base").skip(1).collect::<Vec<_>>() {
            self.misplaced(node, "a second base in head");
        }
    }

    fn one_main(&mut self, body: NodeId) {
        let dom = self.dom;
        let is_shown = |node: &NodeId| {
            dom.name(*node) == Some("main") && dom.attribute(*node, "hidden").is_none()
        };
        for node in dom.below(body).filter(is_shown).skip(1).collect::<Vec<_>>() {
            self.misplaced(node, "a second main");
        }
    }

    /// Terms, then what is said of them, and so on.
    fn description_list(&mut self, list: NodeId) {
        let children = self.children(list).into_iter().map(|(n, name)| (n, name.to_string()));
        let children: Vec<(NodeId, String)> = children.collect();
        let groups = children.iter().filter(|(_, name)| name == "div").count();
        if groups > 0 && groups < children.len() {
            return self.misplaced(list, "div beside dt or dd in dl");
        }
        if groups == 0 {
            return self.terms(list, &children, "dl");
        }
        for (group, _) in children {
            let parts = self.children(group).into_iter().map(|(n, name)| (n, name.to_string()));
            let parts: Vec<(NodeId, String)> = parts.collect();
            if parts.is_empty() {
                self.incomplete(group, "div in dl without dt");
            }
            if let Some((node, name)) =
                parts.iter().find(|(_, name)| !matches!(name.as_str(), "dt" | "dd"))
            {
                self.misplaced(*node, &format!("{name} in a div of dl"));
            }
            self.terms(group, &parts, "div in dl");
        }
    }

    fn terms(&mut self, list: NodeId, parts: &[(NodeId, String)], name: &str) {
        let is = |at: usize, wanted: &str| parts.get(at).is_some_and(|(_, name)| name == wanted);
        let last = parts.len().saturating_sub(1);
        if is(0, "dd") {
            self.incomplete(list, &format!("{name}: dd without dt before it"));
        }
        if is(last, "dt") {
            self.incomplete(list, &format!("{name}: dt without dd behind it"));
        }
    }

    /// A part that stands first and only once.
    fn first_alone(&mut self, node: NodeId, part: &str, is_needed: bool) {
        let children = self.children(node);
        let of_part: Vec<(usize, NodeId)> = children
            .iter()
            .enumerate()
            .filter(|(_, (_, name))| *name == part)
            .map(|(at, (node, _))| (at, *node))
            .collect();
        let name = self.dom.name(node).unwrap_or_default();
        match of_part.as_slice() {
            [] if is_needed => self.incomplete(node, &format!("{name} without {part}")),
            [] => {}
            [(0, _)] => {}
            [(_, node), ..] => {
                self.misplaced(*node, &format!("{part} not first, or twice, in {name}"))
            }
        }
    }

    fn figure(&mut self, node: NodeId) {
        let children = self.children(node);
        let at: Vec<usize> = children
            .iter()
            .enumerate()
            .filter(|(_, (_, name))| *name == "figcaption")
            .map(|(at, _)| at)
            .collect();
        let is_fine = match at.as_slice() {
            [] => true,
            [at] => *at == 0 || *at + 1 == children.len(),
            _ => false,
        };
        if !is_fine {
            self.misplaced(node, "figcaption neither first nor last, or twice, in figure");
        }
    }

    fn picture(&mut self, node: NodeId) {
        let children = self.children(node);
        let images = children.iter().filter(|(_, name)| *name == "img").count();
        let is_last = children.last().is_some_and(|(_, name)| *name == "img");
        if images != 1 || !is_last {
            self.incomplete(node, "picture without one img at its end");
        }
    }

    /// Sources first, then tracks, then what stands for them.
    fn media(&mut self, node: NodeId) {
        let children = self.children(node);
        let rank = |name: &str| match name {
            "source" => 0,
            "track" => 1,
            _ => 2,
        };
        let ranks: Vec<u8> = children.iter().map(|(_, name)| rank(name)).collect();
        let has_source = ranks.contains(&0);
        if !ranks.is_sorted() {
            self.misplaced(node, "source or track behind what stands for the recording");
        }
        if has_source && self.dom.attribute(node, "src").is_some() {
            self.misplaced(node, "source in a recording that has src");
        }
    }

    fn heading_group(&mut self, node: NodeId) {
        let children = self.children(node);
        let is_heading =
            |name: &str| element_named(name).is_some_and(|e| e.kinds.has(Kinds::HEADING));
        if children.iter().filter(|(_, name)| is_heading(name)).count() != 1 {
            self.incomplete(node, "hgroup without exactly one heading");
        }
    }

    fn label(&mut self, node: NodeId) {
        let dom = self.dom;
        let controls: Vec<NodeId> = dom
            .below(node)
            .filter(|below| {
                let element = dom.name(*below).and_then(element_named);
                let is_hidden = dom.attribute(*below, "type") == Some("hidden");
                element.is_some_and(|element| element.kinds.has(Kinds::LABELABLE)) && !is_hidden
            })
            .collect();
        if let Some(second) = controls.get(1) {
            self.misplaced(*second, "a second control in label");
        }
        let names = dom.attribute(node, "for").zip(controls.first());
        if let Some((wanted, control)) = names
            && dom.attribute(*control, "id") != Some(wanted)
        {
            self.report(Code::IdReferenceBroken, &format!("for=\"{wanted}\" on label"), node);
        }
    }

    /// Without an attribute for it, what the element holds is the date.
    fn time(&mut self, node: NodeId) {
        if self.dom.attribute(node, "datetime").is_some() {
            return;
        }
        let text = self.dom.text_of(node);
        if !is_moment(text.trim_matches(is_space)) {
            let shown: String = text.chars().take(60).collect();
            self.incomplete(node, &format!("time without datetime, and “{shown}” is no date"));
        }
    }

    fn option(&mut self, node: NodeId) {
        let has_label = self.dom.attribute(node, "label").is_some();
        let is_empty = self.dom.text_of(node).chars().all(is_space);
        let in_list =
            self.dom.parent(node).is_some_and(|parent| self.dom.name(parent) == Some("datalist"));
        if !has_label && is_empty && !in_list {
            self.incomplete(node, "option without text or label");
        }
    }

    /// Caption, columns, head, bodies, foot; and cells that stand beside each other.
    fn table(&mut self, node: NodeId) {
        let children = self.children(node);
        let rank = |name: &str| match name {
            "caption" => 0,
            "colgroup" => 1,
            "thead" => 2,
            "tfoot" => 4,
            _ => 3,
        };
        let mut last = None;
        for (child, name) in &children {
            let now = rank(name);
            // There is one caption, one head and one foot.
            let is_second = last == Some(now) && matches!(now, 0 | 2 | 4);
            if is_second || last.is_some_and(|last| now < last) {
                self.misplaced(*child, &format!("{name} out of order, or twice, in table"));
                break;
            }
            last = Some(now);
        }
        self.cells(node);
    }

    /// The rows of a table, by group.
    pub(super) fn row_groups(&self, table: NodeId) -> Vec<Vec<NodeId>> {
        let dom = self.dom;
        let rows = |group: NodeId| {
            dom.children(group).filter(|row| dom.name(*row) == Some("tr")).collect::<Vec<_>>()
        };
        let groups = dom
            .children(table)
            .filter(|group| matches!(dom.name(*group), Some("thead" | "tbody" | "tfoot")));
        groups.map(rows).collect()
    }
}
