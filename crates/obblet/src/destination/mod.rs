//! What a house makes of written HTML: its rules, its limits, its style sheets, its syntax.

mod limits;
mod paper_pictures;
mod pictures;
mod plain_looks;
mod style_rules;
mod styles;

use crate::document::CompactString;
use crate::findings::{Code, Findings};
use crate::formats::WriteError;
use crate::formats::html::dom::{Dom, NodeId, Spelling, Syntax, Writing};
use crate::formats::html::{Body, HeadingEntry};
use crate::house::{Extent, House, StylePlacement};
use crate::page::{self, Style};
use crate::rules::{self, Ground};
use std::collections::{HashMap, HashSet};

pub(crate) use paper_pictures::{for_tex as with_pictures_for_tex, is_unknown_to_tex};
pub(crate) use pictures::converted as with_pictures_converted;
pub(crate) use plain_looks::{
    as_formats as with_looks_as_formats, report_left as report_looks_left,
};

/// Runs the house's rules over a body and leaves in it only what the destination takes.
pub(crate) fn body(body: Body, house: &House, language: &str, findings: &mut Findings) -> Body {
    if !changes_bodies(house) {
        return body;
    }
    let mut dom = Dom::of_body(&body.html);
    let place_of = |line| body.place_of(line);
    let ground = Ground { protected: &house.words.protected, language, place_of: &place_of };
    let is_ruled = rules::apply(&mut dom, &house.rules, &ground, findings);
    let root = dom.root();
    if !(limits::hold(&mut dom, root, &house.limits, &place_of, findings) || is_ruled) {
        return body;
    }
    Body {
        html: dom.body_html(&Writing::default()),
        headings: headings(&dom, &body.headings),
        ids: ids(&dom),
        ..body
    }
}

/// Whether a house may change a body, and needs the places of its blocks for findings about that.
pub(crate) fn changes_bodies(house: &House) -> bool {
    !house.rules.is_empty() || limits::bind_elements(&house.limits)
}

/// The headings that are still there, by the words they now have.
fn headings(dom: &Dom, before: &[HeadingEntry]) -> Vec<HeadingEntry> {
    let known: HashMap<&str, &HeadingEntry> =
        before.iter().filter_map(|entry| Some((entry.id.as_deref()?, entry))).collect();
    let is_mark = |node: NodeId| dom.attribute(node, "role") == Some("doc-noteref");
    let entry = |node: NodeId| {
        let level = match dom.name(node)?.as_bytes() {
            [b'h', level @ b'1'..=b'6'] => level - b'0',
            _ => return None,
        };
        let id = dom.attribute(node, "id").map(CompactString::from);
        let has_marks = dom.below(node).any(is_mark);
        let text = match id.as_deref().and_then(|id| known.get(id)) {
            Some(entry) if has_marks => entry.text.clone(),
            _ => dom.text_of(node),
        };
        Some(HeadingEntry { level, id, text })
    };
    dom.below(dom.root()).filter_map(entry).collect()
}

fn ids(dom: &Dom) -> HashSet<CompactString> {
    dom.below(dom.root()).filter_map(|node| dom.attribute(node, "id")).map(Into::into).collect()
}

/// What the house's style sheets come to.
pub(crate) struct Sheets {
    /// For the page's head.
    pub(crate) in_page: Style,
    /// For the file beside the page.
    pub(crate) beside: Option<String>,
    /// To be put into the elements.
    inline: Option<String>,
}

impl Sheets {
    /// The house's style sheet and the page's own. `address` is that of the file beside the page,
    /// where there can be one; it may be that of many pages, so the page's own sheet stays in it.
    pub(crate) fn of(
        house: &House,
        own_rules: &str,
        address: Option<&str>,
    ) -> Result<Self, WriteError> {
        let sheet = page::style_sheet(house)?;
        let nothing = Self { in_page: Style::default(), beside: None, inline: None };
        let is_page = house.page.extent == Extent::Page;
        Ok(match (house.page.style_placement, address) {
            _ if sheet.is_empty() && own_rules.is_empty() => nothing,
            (StylePlacement::None, _) => nothing,
            (StylePlacement::Inline, _) => Self { inline: Some(sheet + own_rules), ..nothing },
            // A body brings no styles: the system it is for has its own.
            _ if !is_page => nothing,
            (StylePlacement::Linked, Some(address)) if !sheet.is_empty() => Self {
                in_page: Style { embedded: own_rules.into(), address: Some(address.into()) },
                beside: Some(sheet),
                ..nothing
            },
            _ => Self { in_page: Style { embedded: sheet + own_rules, address: None }, ..nothing },
        })
    }
}

/// The last steps: styles in elements, unused rules, the limits once more for what the layout has
/// put around the body, the syntax, the length.
pub(crate) fn target(
    html: String,
    house: &House,
    sheets: &Sheets,
    findings: &mut Findings,
) -> String {
    let writing = Writing {
        syntax: house.page.syntax,
        spelling: house.characters.spelling,
        ascii_only: house.characters.ascii_only,
    };
    let is_plain = writing.syntax == Syntax::Html
        && writing.spelling == Spelling::Literal
        && !writing.ascii_only;
    let is_page = house.page.extent == Extent::Page;
    let prunes = house.page.used_styles_only && !sheets.in_page.embedded.is_empty();
    let frame_is_bound = is_page && limits::bind_elements(&house.limits);
    let html = if is_plain && !prunes && !frame_is_bound && sheets.inline.is_none() {
        html
    } else {
        let mut dom = if is_page { Dom::of_page(&html) } else { Dom::of_body(&html) };
        drop(html);
        if let Some(sheet) = &sheets.inline {
            styles::put_into_elements(&mut dom, sheet, findings);
        }
        if let Some(body) = dom.body().filter(|_| frame_is_bound) {
            limits::hold(&mut dom, body, &house.limits, &|_| None, &mut Findings::new());
        }
        if prunes {
            styles::drop_unused(&mut dom);
        }
        if is_page { dom.page_html(&writing) } else { dom.body_html(&writing) }
    };
    if let Some(subject) = limits::excess(&html, &house.limits) {
        findings.add_about(Code::TooLong, &subject, None);
    }
    html
}
