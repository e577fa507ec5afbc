//! Looks as properties of runs, paragraphs and cells, each in the order that the schema wants
//! (ECMA-376 part 1, 17.3 and 17.4).

use super::markup::{push_text, push_val, twips};
use super::runs::RunLook;
use crate::document::{
    Border, BorderLine, Borders, Colour, CompactString, Direction, Length, LineHeight, Looks,
    TabAlign, TabLeader, TabStop, TextAlign, UnderlineLine,
};
use std::sync::LazyLock;

/// How much higher than its size most fonts make a line.
const FONT_LINE: f32 = 1.2;
/// The size of text that states none, in points.
const USUAL_SIZE: f32 = 11.0;
/// What a share of the width is a share of, in points: text on A4 between margins.
pub(super) const TEXT_WIDTH: f32 = 451.3;

static NO_LOOKS: LazyLock<Looks> = LazyLock::new(Looks::default);

/// A length in points. Text that states no size has the usual one.
pub(super) fn points(length: Length, size: Option<Length>) -> f32 {
    let em = match size {
        Some(Length::Points(size)) => size,
        Some(Length::Ems(times)) => times * USUAL_SIZE,
        _ => USUAL_SIZE,
    };
    match length {
        Length::Points(points) => points,
        Length::Ems(times) => times * em,
        Length::Share(share) => share * TEXT_WIDTH,
    }
}

fn hex(Colour(red, green, blue): Colour) -> String {
    format!("{red:02X}{green:02X}{blue:02X}")
}

/// What stands in `w:rPr`.
pub(super) fn run_properties(look: &RunLook) -> String {
    let mut out = String::new();
    let looks = look.looks.as_deref().unwrap_or(&NO_LOOKS);
    if let Some(style) = &look.style {
        push_val(&mut out, "w:rStyle", style);
    }
    if let Some(font) = looks.fonts.first() {
        out.push_str("<w:rFonts");
        for script in ["ascii", "hAnsi", "eastAsia", "cs"] {
            out.push_str(&format!(" w:{script}=\""));
            push_text(&mut out, font);
            out.push('"');
        }
        out.push_str("/>");
    }
    let bold = looks.weight.map(|weight| weight >= 600);
    toggle(&mut out, &["w:b", "w:bCs"], if look.bold { Some(true) } else { bold });
    toggle(&mut out, &["w:i", "w:iCs"], if look.italic { Some(true) } else { looks.italic });
    toggle(&mut out, &["w:caps"], looks.capitals);
    let small = if look.small_capitals { Some(true) } else { looks.small_capitals };
    toggle(&mut out, &["w:smallCaps"], small);
    toggle(&mut out, &["w:strike"], if look.struck { Some(true) } else { looks.strike });
    toggle(&mut out, &["w:vanish"], looks.hidden);
    if let Some(colour) = looks.colour {
        push_val(&mut out, "w:color", &hex(colour));
    }
    let size = looks.size;
    if let Some(spacing) = looks.letter_spacing {
        push_val(&mut out, "w:spacing", &twips(points(spacing, size)).to_string());
    }
    if let Some(raise) = looks.raise {
        push_val(&mut out, "w:position", &half_points(points(raise, size)).to_string());
    }
    if let Some(size) = size {
        let half = half_points(points(size, None)).max(2).to_string();
        push_val(&mut out, "w:sz", &half);
        push_val(&mut out, "w:szCs", &half);
    }
    if look.highlight {
        push_val(&mut out, "w:highlight", "yellow");
    }
    let line = if look.underline { Some(UnderlineLine::Single) } else { looks.underline };
    if let Some(line) = line {
        push_val(&mut out, "w:u", underline(line));
    }
    if let Some(border) = looks.borders.as_deref().and_then(|borders| borders.top) {
        push_border(&mut out, "w:bdr", border, 0.0);
    }
    if let Some(background) = looks.background {
        push_shading(&mut out, background);
    }
    if look.superscript || look.subscript {
        let place = if look.superscript { "superscript" } else { "subscript" };
        push_val(&mut out, "w:vertAlign", place);
    }
    if look.right_to_left {
        out.push_str("<w:rtl/>");
    }
    if let Some(language) = &look.language {
        push_language(&mut out, language);
    }
    out
}

/// A language for every script: which of the three counts is for the text to say.
fn push_language(out: &mut String, language: &CompactString) {
    out.push_str("<w:lang");
    for script in ["val", "eastAsia", "bidi"] {
        out.push_str(&format!(" w:{script}=\""));
        push_text(out, language);
        out.push('"');
    }
    out.push_str("/>");
}

fn toggle(out: &mut String, names: &[&str], state: Option<bool>) {
    let Some(state) = state else { return };
    for name in names {
        out.push_str(&format!("<{name}{}/>", if state { "" } else { " w:val=\"0\"" }));
    }
}

fn half_points(points: f32) -> i32 {
    (points * 2.0).round() as i32
}

fn underline(line: UnderlineLine) -> &'static str {
    match line {
        UnderlineLine::None => "none",
        UnderlineLine::Single => "single",
        UnderlineLine::Double => "double",
        UnderlineLine::Dotted => "dotted",
        UnderlineLine::Dashed => "dash",
        UnderlineLine::Wavy => "wave",
    }
}

pub(super) fn push_shading(out: &mut String, colour: Colour) {
    out.push_str(&format!("<w:shd w:val=\"clear\" w:color=\"auto\" w:fill=\"{}\"/>", hex(colour)));
}

/// A border; its space to the text in points, at most 31 (17.3.4).
pub(super) fn push_border(out: &mut String, name: &str, border: Border, space: f32) {
    let line = match border.line {
        BorderLine::None => "nil",
        BorderLine::Single => "single",
        BorderLine::Double => "double",
        BorderLine::Dotted => "dotted",
        BorderLine::Dashed => "dashed",
    };
    // Eighths of a point, from a quarter of one to twelve.
    let width = points(border.width, None);
    // A double line is three lines' widths wide, and Word states one of them.
    let width = if border.line == BorderLine::Double { width / 3.0 } else { width };
    let eighths = ((width * 8.0).round() as i32).clamp(2, 96);
    let colour = border.colour.map_or("auto".into(), hex);
    let space = (space.round() as i32).clamp(0, 31);
    out.push_str(&format!(
        "<{name} w:val=\"{line}\" w:sz=\"{eighths}\" w:space=\"{space}\" w:color=\"{colour}\"/>"
    ));
}

/// The borders of a box, in the order of the schema.
pub(super) fn push_borders(out: &mut String, name: &str, borders: &Borders, padding: [f32; 4]) {
    let [top, end, bottom, start] = padding;
    let sides = [
        ("w:top", borders.top, top),
        ("w:left", borders.start, start),
        ("w:bottom", borders.bottom, bottom),
        ("w:right", borders.end, end),
    ];
    if sides.iter().all(|(_, border, _)| border.is_none()) {
        return;
    }
    out.push_str(&format!("<{name}>"));
    for (side, border, space) in sides {
        if let Some(border) = border {
            push_border(out, side, border, space);
        }
    }
    out.push_str(&format!("</{name}>"));
}

/// What stands in `w:pPr`.
#[derive(Debug, Clone, Default)]
pub(super) struct BlockProperties {
    /// The id of its style.
    pub(super) style: Option<CompactString>,
    pub(super) keep_next: Option<bool>,
    pub(super) page_break_before: Option<bool>,
    /// Level and number of the list.
    pub(super) numbering: Option<(usize, u32)>,
    borders: String,
    shading: String,
    tabs: String,
    pub(super) right_to_left: bool,
    /// Values of `w:spacing` and `w:ind`.
    spacing: String,
    indents: String,
    /// Space between this item and its neighbours, against what the style says.
    pub(super) is_loose: bool,
    pub(super) align: Option<TextAlign>,
    pub(super) outline: Option<u8>,
    /// What the paragraph's end has.
    pub(super) mark: String,
    /// The properties of the section that ends here.
    pub(super) section: String,
}

impl BlockProperties {
    pub(super) fn of_direction(direction: Option<Direction>) -> Self {
        Self { right_to_left: direction == Some(Direction::RightToLeft), ..Self::default() }
    }

    /// Space above, where none is stated, in points.
    pub(super) fn add_space_before(&mut self, points: f32) {
        if !self.spacing.contains("w:before") {
            self.spacing.insert_str(0, &format!(" w:before=\"{}\"", twips(points)));
        }
    }

    pub(super) fn xml(&self) -> String {
        let mut out = String::new();
        if let Some(style) = &self.style {
            push_val(&mut out, "w:pStyle", style);
        }
        toggle(&mut out, &["w:keepNext"], self.keep_next);
        toggle(&mut out, &["w:pageBreakBefore"], self.page_break_before);
        if let Some((level, list)) = self.numbering {
            out.push_str(&format!(
                "<w:numPr><w:ilvl w:val=\"{level}\"/><w:numId w:val=\"{list}\"/></w:numPr>"
            ));
        }
        out.push_str(&self.borders);
        out.push_str(&self.shading);
        if !self.tabs.is_empty() {
            out.push_str(&format!("<w:tabs>{}</w:tabs>", self.tabs));
        }
        toggle(&mut out, &["w:bidi"], self.right_to_left.then_some(true));
        if !self.spacing.is_empty() {
            out.push_str(&format!("<w:spacing{}/>", self.spacing));
        }
        if !self.indents.is_empty() {
            out.push_str(&format!("<w:ind{}/>", self.indents));
        }
        toggle(&mut out, &["w:contextualSpacing"], self.is_loose.then_some(false));
        if let Some(align) = self.align {
            push_val(&mut out, "w:jc", justification(align));
        }
        if let Some(level) = self.outline {
            push_val(&mut out, "w:outlineLvl", &level.to_string());
        }
        if !self.mark.is_empty() {
            out.push_str(&format!("<w:rPr>{}</w:rPr>", self.mark));
        }
        out.push_str(&self.section);
        out
    }
}

fn justification(align: TextAlign) -> &'static str {
    match align {
        TextAlign::Start => "left",
        TextAlign::Centre => "center",
        TextAlign::End => "right",
        TextAlign::Justify => "both",
    }
}

/// The looks of a block that a paragraph can have.
pub(super) fn block_properties(looks: &Looks, direction: Option<Direction>) -> BlockProperties {
    let size = looks.size;
    let length = |length: Length| twips(points(length, size));
    let mut found = BlockProperties {
        keep_next: looks.keep_with_next,
        page_break_before: looks.page_break_before,
        align: looks.align,
        ..BlockProperties::of_direction(direction)
    };
    let padding = looks.padding.unwrap_or([Length::Points(0.0); 4]);
    if let Some(borders) = &looks.borders {
        let padding = padding.map(|side| points(side, size));
        push_borders(&mut found.borders, "w:pBdr", borders, padding);
    }
    if let Some(background) = looks.background {
        push_shading(&mut found.shading, background);
    }
    let mut tabs: Vec<TabStop> = looks.tabs.clone();
    tabs.sort_by(|one, other| one.position.total_cmp(&other.position));
    tabs.iter().for_each(|stop| push_tab(*stop, &mut found.tabs));
    let put = |values: &mut String, name: &str, value: i32| {
        values.push_str(&format!(" w:{name}=\"{value}\""));
    };
    if let Some(before) = looks.space_before {
        put(&mut found.spacing, "before", length(before).max(0));
    }
    if let Some(after) = looks.space_after {
        put(&mut found.spacing, "after", length(after).max(0));
    }
    if let Some(height) = looks.line_height {
        let (value, rule) = match height {
            LineHeight::Times(times) => (((times / FONT_LINE) * 240.0).round() as i32, "auto"),
            LineHeight::Exactly(height) => (length(height), "exact"),
            LineHeight::AtLeast(height) => (length(height), "atLeast"),
        };
        put(&mut found.spacing, "line", value.max(1));
        found.spacing.push_str(&format!(" w:lineRule=\"{rule}\""));
    }
    if let Some(start) = looks.indent_start {
        put(&mut found.indents, "left", length(start));
    }
    if let Some(end) = looks.indent_end {
        put(&mut found.indents, "right", length(end));
    }
    if let Some(first) = looks.indent_first.map(length) {
        let name = if first < 0 { "hanging" } else { "firstLine" };
        put(&mut found.indents, name, first.abs());
    }
    found
}

fn push_tab(stop: TabStop, out: &mut String) {
    let align = match stop.align {
        TabAlign::Start => "left",
        TabAlign::Centre => "center",
        TabAlign::End => "right",
        TabAlign::Decimal => "decimal",
        TabAlign::Cleared => "clear",
    };
    let leader = match stop.leader {
        TabLeader::None => "",
        TabLeader::Dots => " w:leader=\"dot\"",
        TabLeader::Dashes => " w:leader=\"hyphen\"",
        TabLeader::Line => " w:leader=\"underscore\"",
    };
    out.push_str(&format!("<w:tab w:val=\"{align}\"{leader} w:pos=\"{}\"/>", twips(stop.position)));
}
