//! Lines with tabs, where looks are kept: each piece of text between tabs becomes a box that ends
//! where its tab stop is, so that columns, right-hand dates and dotted leaders stand as they stood.
//!
//! Whether a text reaches beyond a stop, so that the next one counts, is told from its characters'
//! usual widths; where the boxes stand is the browser's own work and does not depend on them.

use super::{LooksForm, Writer};
use crate::document::{
    Attributes, Formatted, Inline, Length, Link, Looks, TabAlign, TabLeader, TabStop, plain_text,
};

/// How far apart stops are where none are stated, in points.
const DEFAULT_STOPS: f32 = 36.0;

/// The most boxes of one line.
const MOST_TABS: usize = 50;

/// A piece of a line, with the stop that the tab before it leads to.
struct Piece {
    content: Vec<Inline>,
    stop: Option<TabStop>,
}

impl Writer<'_> {
    /// The inlines of a paragraph or heading.
    pub(super) fn line(&mut self, content: &[Inline], attributes: &Attributes) {
        if !self.has_styles() || !has_tab(content) {
            return self.inlines(content);
        }
        let own = attributes.looks().cloned().unwrap_or_default();
        let mut looks = self.looks.styles.looks_of(attributes.style()).cloned().unwrap_or_default();
        let stated = stops(&looks, &own);
        looks.replace_by(&own);
        let size = points(looks.size).unwrap_or(11.0);
        let start = points(looks.indent_start).unwrap_or_default();
        let first = start + points(looks.indent_first).unwrap_or_default();
        let is_break = |inline: &Inline| matches!(inline, Inline::Break(_));
        for (at, line) in content.split(is_break).enumerate() {
            let from = if at == 0 { first } else { start };
            let pieces = pieces(line, &stated, size, from, start);
            if at > 0 {
                self.out.push_str("<br>\n");
            }
            if pieces.len() > MOST_TABS {
                self.inlines(line);
            } else {
                self.pieces(pieces, from);
            }
        }
    }

    /// Whether the document says itself what all its paragraphs look like.
    pub(super) fn has_styles(&self) -> bool {
        self.options.looks == LooksForm::Classes && self.looks.styles.default().is_some()
    }

    /// Each tab ends a box that reaches from the stop before it to its own.
    fn pieces(&mut self, pieces: Vec<Piece>, first: f32) {
        let (mut content, mut from) = (Vec::new(), first);
        for piece in pieces {
            let Some(stop) = piece.stop else {
                content = piece.content;
                continue;
            };
            let width = pt((stop.position - from).max(0.0));
            from = stop.position;
            if matches!(stop.align, TabAlign::Start | TabAlign::Cleared) {
                self.box_before_stop(&content, stop.leader, &width);
                content = piece.content;
            } else {
                self.box_up_to_stop(&content, &piece.content, stop, &width);
                content = Vec::new();
            }
        }
        self.inlines(&content);
    }

    /// What stands before a stop at which the text behind the tab begins.
    fn box_before_stop(&mut self, content: &[Inline], leader: TabLeader, width: &str) {
        let is_plain = leader == TabLeader::None;
        let display = if is_plain { "inline-block" } else { "inline-flex" };
        self.open_box(&format!("display: {display}; min-width: {width}"));
        self.inlines(content);
        if is_plain {
            // White space between the pieces, for who reads the text alone.
            self.out.push(' ');
        } else {
            self.leader(leader);
        }
        self.out.push_str("</span>");
    }

    /// What stands before a stop, and the text behind the tab that ends there or around it.
    fn box_up_to_stop(&mut self, before: &[Inline], behind: &[Inline], stop: TabStop, width: &str) {
        self.open_box(&format!("display: inline-flex; white-space: pre-wrap; width: {width}"));
        // A box without text would stand on another line than its neighbours.
        if !before.is_empty() {
            self.out.push_str("<span>");
            self.inlines(before);
            self.out.push_str("</span>");
        }
        self.leader(stop.leader);
        // A text around its stop is pushed half its own width beyond it.
        if stop.align == TabAlign::Centre {
            self.open_box("display: inline-block; transform: translateX(50%)");
        } else {
            self.out.push_str("<span>");
        }
        self.inlines(behind);
        self.out.push_str("</span></span>");
    }

    fn open_box(&mut self, declarations: &str) {
        let looks = self.declared(declarations.to_string());
        self.out.push_str("<span");
        self.put_looks(looks);
        self.out.push('>');
    }

    fn leader(&mut self, leader: TabLeader) {
        let line = match leader {
            TabLeader::None => "flex: 1",
            TabLeader::Dots => "flex: 1; border-bottom: 1px dotted; margin: 0 2pt 0.2em",
            TabLeader::Dashes => "flex: 1; border-bottom: 1px dashed; margin: 0 2pt 0.3em",
            TabLeader::Line => "flex: 1; border-bottom: 1px solid; margin: 0 0 0.1em",
        };
        // White space between the pieces, for who reads the text alone.
        self.open_box(line);
        self.out.push_str(" </span>");
    }
}

fn has_tab(content: &[Inline]) -> bool {
    content.iter().any(|inline| match inline {
        Inline::Text(text) => text.contains('\t'),
        Inline::Formatted(formatted) => has_tab(&formatted.content),
        Inline::Link(link) => has_tab(&link.content),
        _ => false,
    })
}

/// The stops of the style and of the paragraph; a cleared one takes away that of the style.
fn stops(style: &Looks, own: &Looks) -> Vec<TabStop> {
    let is_replaced =
        |stop: &&TabStop| own.tabs.iter().all(|o| (o.position - stop.position).abs() > 0.5);
    let mut all: Vec<TabStop> =
        style.tabs.iter().filter(is_replaced).chain(&own.tabs).copied().collect();
    all.retain(|stop| stop.align != TabAlign::Cleared);
    all.sort_by(|one, other| one.position.total_cmp(&other.position));
    all
}

/// Cuts a line at its tabs, and finds the stop of each.
fn pieces(
    content: &[Inline],
    stated: &[TabStop],
    size: f32,
    first: f32,
    indent: f32,
) -> Vec<Piece> {
    let mut at = first;
    let mut stop: Option<TabStop> = None;
    let mut pieces = Vec::new();
    for content in cut(content) {
        let width = text_width(&plain_text(&content), size);
        if !pieces.is_empty() {
            let next = next_stop(stated, at, first, indent);
            stop = Some(next);
            at = match next.align {
                TabAlign::Start | TabAlign::Cleared => next.position + width,
                TabAlign::Centre => next.position + width / 2.0,
                TabAlign::End | TabAlign::Decimal => next.position,
            };
        } else {
            at += width;
        }
        pieces.push(Piece { content, stop });
    }
    pieces
}

/// The first stop behind a place on the line. A hanging indent is a stop too.
fn next_stop(stated: &[TabStop], at: f32, first: f32, indent: f32) -> TabStop {
    let simple = |position| TabStop { position, align: TabAlign::Start, leader: TabLeader::None };
    let of_stated = stated.iter().find(|stop| stop.position > at + 0.5).copied();
    let hanging = (first < indent && at + 0.5 < indent).then(|| simple(indent));
    match (of_stated, hanging) {
        (Some(stop), Some(hanging)) if hanging.position < stop.position => hanging,
        (Some(stop), _) => stop,
        (None, Some(hanging)) => hanging,
        (None, None) => simple(((at / DEFAULT_STOPS).floor() + 1.0) * DEFAULT_STOPS),
    }
}

/// The parts of a line between its tabs; what is around a tab is open on both sides of it.
fn cut(content: &[Inline]) -> Vec<Vec<Inline>> {
    let mut parts: Vec<Vec<Inline>> = vec![Vec::new()];
    for inline in content {
        let mut inner = match inline {
            Inline::Text(text) => text
                .split('\t')
                .map(|part| if part.is_empty() { Vec::new() } else { vec![part.into()] })
                .collect(),
            Inline::Formatted(formatted) if has_tab(&formatted.content) => cut(&formatted.content)
                .into_iter()
                .map(|content| {
                    wrapped(content, |content| {
                        Inline::Formatted(Box::new(Formatted {
                            content,
                            ..formatted.as_ref().clone()
                        }))
                    })
                })
                .collect(),
            Inline::Link(link) if has_tab(&link.content) => cut(&link.content)
                .into_iter()
                .map(|content| {
                    wrapped(content, |content| {
                        Inline::Link(Box::new(Link { content, ..link.as_ref().clone() }))
                    })
                })
                .collect(),
            other => vec![vec![other.clone()]],
        }
        .into_iter();
        if let (Some(last), Some(first)) = (parts.last_mut(), inner.next()) {
            last.extend(first);
        }
        parts.extend(inner);
    }
    parts
}

fn wrapped(content: Vec<Inline>, wrap: impl Fn(Vec<Inline>) -> Inline) -> Vec<Inline> {
    if content.is_empty() { content } else { vec![wrap(content)] }
}

/// About how wide a text is in the fonts most documents use.
fn text_width(text: &str, size: f32) -> f32 {
    let ems: f32 = text
        .chars()
        .map(|character| match character {
            ' ' | '.' | ',' | ';' | ':' | '\'' | 'i' | 'j' | 'l' | 't' | 'f' | 'I' | '|' => 0.27,
            'm' | 'w' | 'M' | 'W' | '—' => 0.82,
            character if character.is_uppercase() => 0.65,
            character if u32::from(character) >= 0x2E80 => 1.0,
            _ => 0.5,
        })
        .sum();
    ems * size
}

fn points(length: Option<Length>) -> Option<f32> {
    match length? {
        Length::Points(points) => Some(points),
        Length::Ems(_) | Length::Share(_) => None,
    }
}

fn pt(points: f32) -> String {
    super::looks::length(Length::Points(points))
}
