//! Looks as CSS: classes with a style sheet of their own, or `style` attributes.

use super::Writer;
use super::named_styles::NamedStyles;
use crate::document::{
    Border, BorderLine, Borders, Colour, Document, Length, LineHeight, Looks, TextAlign,
    UnderlineLine, VerticalAlign, WritingMode,
};
use crate::findings::Code;
use std::collections::HashMap;
use std::fmt::Write as _;

/// What becomes of looks.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum LooksForm {
    /// They are left to the destination.
    #[default]
    Dropped,
    /// Classes, and rules for them in [`Body::look_rules`](super::Body::look_rules).
    Classes,
    /// `style` attributes.
    Inline,
}

/// The classes of looks, in the order of their first use.
#[derive(Debug, Default)]
pub(super) struct LookClasses {
    numbers: HashMap<String, usize>,
    rules: String,
    pub(super) styles: NamedStyles,
}

impl LookClasses {
    pub(super) fn of(document: &Document) -> Self {
        Self { styles: NamedStyles::of(&document.styles), ..Self::default() }
    }

    /// The whole style sheet: what all blocks have, the named styles, the single looks.
    pub(super) fn into_rules(self) -> String {
        self.styles.into_rules() + &self.rules
    }

    fn class_of(&mut self, declarations: String) -> String {
        let next = self.numbers.len() + 1;
        let number = *self.numbers.entry(declarations).or_insert_with_key(|declarations| {
            let _ = writeln!(self.rules, ".look-{next} {{ {declarations} }}");
            next
        });
        format!("look-{number}")
    }
}

/// What looks add to an element.
#[derive(Debug, Default)]
pub(super) struct LookAttributes {
    pub(super) class: Option<String>,
    pub(super) style: Option<String>,
}

impl Writer<'_> {
    pub(super) fn keeps_looks(&self) -> bool {
        self.options.looks != LooksForm::Dropped
    }

    /// The class or the style that a named style comes to; only a class keeps its name.
    pub(super) fn style_attributes(&mut self, name: &str) -> LookAttributes {
        let styles = &mut self.looks.styles;
        let (class, style) = match self.options.looks {
            LooksForm::Dropped => (None, None),
            LooksForm::Classes => (styles.class_of(name), None),
            LooksForm::Inline => (None, styles.declarations_of(name)),
        };
        if class.is_none() {
            self.findings.count(Code::StyleDropped, name, Some(self.place));
        }
        LookAttributes { class, style }
    }

    /// The class or the style that looks come to.
    pub(super) fn look_attributes(&mut self, looks: Option<&Looks>) -> LookAttributes {
        let Some(looks) = looks.filter(|looks| !looks.is_empty()) else {
            return LookAttributes::default();
        };
        match self.options.looks {
            LooksForm::Dropped => {
                self.findings.count(Code::LooksDropped, "", Some(self.place));
                LookAttributes::default()
            }
            LooksForm::Classes | LooksForm::Inline => self.declared(declarations(looks)),
        }
    }

    /// The class or the style that declarations come to; neither for none.
    pub(super) fn declared(&mut self, declarations: String) -> LookAttributes {
        let stated = Some(declarations).filter(|stated| !stated.is_empty());
        if self.options.looks == LooksForm::Inline {
            return LookAttributes { class: None, style: stated };
        }
        LookAttributes { class: stated.map(|stated| self.looks.class_of(stated)), style: None }
    }

    /// Writes them on an element that has no other classes and styles.
    pub(super) fn put_looks(&mut self, looks: LookAttributes) {
        if let Some(class) = looks.class {
            self.attribute("class", &class);
        }
        if let Some(style) = looks.style {
            self.attribute("style", &style);
        }
    }
}

/// CSS declarations, parted by semicolons.
pub(super) fn declarations(looks: &Looks) -> String {
    let mut out = Declarations::default();
    if !looks.fonts.is_empty() {
        let fonts: Vec<String> = looks.fonts.iter().map(|font| family(font)).collect();
        out.put("font-family", &fonts.join(", "));
    }
    out.length("font-size", looks.size);
    out.colour("color", looks.colour);
    out.colour("background-color", looks.background);
    if let Some(weight) = looks.weight {
        out.put("font-weight", &weight.to_string());
    }
    if let Some(italic) = looks.italic {
        out.put("font-style", if italic { "italic" } else { "normal" });
    }
    if let Some(lines) = text_decoration(looks) {
        out.put("text-decoration", &lines);
    }
    if let Some(capitals) = looks.capitals {
        out.put("text-transform", if capitals { "uppercase" } else { "none" });
    }
    if let Some(small) = looks.small_capitals {
        out.put("font-variant-caps", if small { "small-caps" } else { "normal" });
    }
    out.length("letter-spacing", looks.letter_spacing);
    out.length("vertical-align", looks.raise);
    if looks.hidden == Some(true) {
        out.put("display", "none");
    }
    if let Some(align) = looks.align {
        out.put("text-align", alignment(align));
    }
    out.length("margin-inline-start", looks.indent_start);
    out.length("margin-inline-end", looks.indent_end);
    out.length("text-indent", looks.indent_first);
    out.length("margin-top", looks.space_before);
    out.length("margin-bottom", looks.space_after);
    match looks.line_height {
        Some(LineHeight::Times(times)) => out.put("line-height", &number(times)),
        Some(LineHeight::Exactly(height) | LineHeight::AtLeast(height)) => {
            out.put("line-height", &length(height));
        }
        None => {}
    }
    if let Some(borders) = &looks.borders {
        out.borders(borders);
    }
    if let Some(sides) = looks.padding {
        out.put("padding", &sides.map(length).join(" "));
    }
    out.length("width", looks.width);
    out.length("height", looks.height);
    if let Some(vertical) = looks.vertical {
        out.put(
            "vertical-align",
            match vertical {
                VerticalAlign::Top => "top",
                VerticalAlign::Middle => "middle",
                VerticalAlign::Bottom => "bottom",
            },
        );
    }
    if let Some(align) = looks.box_align {
        if align != TextAlign::Start {
            out.put("margin-inline-start", "auto");
        }
        if align == TextAlign::Centre {
            out.put("margin-inline-end", "auto");
        }
    }
    match looks.cell_spacing {
        Some(Length::Points(0.0)) => out.put("border-collapse", "collapse"),
        Some(spacing) => out.put("border-spacing", &length(spacing)),
        None => {}
    }
    if let Some(writing) = looks.writing {
        out.put(
            "writing-mode",
            match writing {
                WritingMode::VerticalDown => "vertical-rl",
                WritingMode::VerticalUp => "sideways-lr",
            },
        );
    }
    if let Some(columns) = looks.columns {
        out.put("columns", &columns.to_string());
    }
    if let Some(marker) = &looks.marker {
        out.put("list-style-type", &quoted(&format!("{marker} ")));
    }
    if looks.keep_with_next == Some(true) {
        out.put("break-after", "avoid");
    }
    if looks.page_break_before == Some(true) {
        out.put("break-before", "page");
    }
    out.0
}

#[derive(Default)]
struct Declarations(String);

impl Declarations {
    fn put(&mut self, property: &str, value: &str) {
        if !self.0.is_empty() {
            self.0.push_str("; ");
        }
        let _ = write!(self.0, "{property}: {value}");
    }

    fn length(&mut self, property: &str, value: Option<Length>) {
        if let Some(value) = value {
            self.put(property, &length(value));
        }
    }

    fn colour(&mut self, property: &str, value: Option<Colour>) {
        if let Some(value) = value {
            self.put(property, &colour(value));
        }
    }

    /// One declaration where all sides are alike.
    fn borders(&mut self, borders: &Borders) {
        let Borders { top, end, bottom, start } = borders;
        let sides = [
            ("border-top", top),
            ("border-inline-end", end),
            ("border-bottom", bottom),
            ("border-inline-start", start),
        ];
        if let Some(all) = top
            && sides.iter().all(|(_, side)| *side == top)
        {
            return self.put("border", &border(all));
        }
        for (property, side) in sides {
            if let Some(side) = side {
                self.put(property, &border(side));
            }
        }
    }
}

fn text_decoration(looks: &Looks) -> Option<String> {
    let below = looks.underline.map(|line| match line {
        UnderlineLine::None => "none",
        UnderlineLine::Single => "underline",
        UnderlineLine::Double => "underline double",
        UnderlineLine::Dotted => "underline dotted",
        UnderlineLine::Dashed => "underline dashed",
        UnderlineLine::Wavy => "underline wavy",
    });
    match (below, looks.strike) {
        (Some("none") | None, Some(true)) => Some("line-through".into()),
        (Some(below), Some(true)) => Some(format!("{below} line-through")),
        (Some(below), _) => Some(below.into()),
        (None, Some(false)) => Some("none".into()),
        (None, None) => None,
    }
}

fn border(border: &Border) -> String {
    let line = match border.line {
        BorderLine::None => return "none".into(),
        BorderLine::Single => "solid",
        BorderLine::Double => "double",
        BorderLine::Dotted => "dotted",
        BorderLine::Dashed => "dashed",
    };
    let colour = border.colour.map(|shade| format!(" {}", colour(shade))).unwrap_or_default();
    format!("{} {line}{colour}", length(border.width))
}

fn alignment(align: TextAlign) -> &'static str {
    match align {
        TextAlign::Start => "start",
        TextAlign::Centre => "center",
        TextAlign::End => "end",
        TextAlign::Justify => "justify",
    }
}

fn colour(colour: Colour) -> String {
    let Colour(red, green, blue) = colour;
    format!("#{red:02x}{green:02x}{blue:02x}")
}

pub(super) fn length(length: Length) -> String {
    match length {
        Length::Points(0.0) | Length::Ems(0.0) => "0".into(),
        Length::Points(points) => number(points) + "pt",
        Length::Ems(ems) => number(ems) + "em",
        Length::Share(share) => number(share * 100.0) + "%",
    }
}

/// With two decimals at most.
fn number(number: f32) -> String {
    let text = format!("{number:.2}");
    let text = text.trim_end_matches('0').trim_end_matches('.');
    if text == "-0" { "0".into() } else { text.into() }
}

/// A family as CSS takes it: generic ones bare, others as a string (CSS Fonts 4, 2.1).
fn family(name: &str) -> String {
    const GENERIC: [&str; 6] =
        ["cursive", "fantasy", "monospace", "sans-serif", "serif", "system-ui"];
    if GENERIC.contains(&name) { name.into() } else { quoted(name) }
}

/// A string of CSS, harmless wherever it stands.
fn quoted(name: &str) -> String {
    let mut quoted = String::from("\"");
    for character in name.chars() {
        match character {
            '"' | '\\' | '<' | '>' => {
                let _ = write!(quoted, "\\{:X} ", u32::from(character));
            }
            character if character.is_control() => quoted.push(' '),
            character => quoted.push(character),
        }
    }
    quoted.push('"');
    quoted
}
