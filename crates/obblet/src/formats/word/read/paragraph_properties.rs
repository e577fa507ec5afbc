//! Properties of paragraphs (ECMA-376 part 1, 17.3.1).

use super::super::xml::{Element, Ns, Xml};
use super::context::Context;
use super::run_properties::{RunProperties, shading};
use super::sections::Section;
use super::values::border;
use crate::document::{
    Border, BorderLine, Borders, CompactString, Length, LineHeight, Looks, TabAlign, TabLeader,
    TabStop, TextAlign,
};

/// What a paragraph or a style states; `None` where it says nothing.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct ParagraphProperties {
    pub(super) style: Option<CompactString>,
    /// The list; 0 for none (17.9.18).
    pub(super) list: Option<i64>,
    pub(super) list_level: Option<usize>,
    /// 0 to 8 for headings, 9 for text.
    pub(super) outline_level: Option<u8>,
    pub(super) align: Option<TextAlign>,
    pub(super) right_to_left: Option<bool>,
    /// A first letter that reaches down several lines.
    pub(super) drop_cap: bool,
    /// No space between neighbours of one style.
    pub(super) contextual_spacing: Option<bool>,
    /// The section that ends with this paragraph.
    pub(super) section: Option<Box<Section>>,
    /// The properties of the paragraph's end.
    pub(super) mark: Option<Box<RunProperties>>,
    /// What the paragraph was before a tracked change of its looks.
    pub(super) before_change: Option<Box<ParagraphProperties>>,
    /// Indents, spacing, borders; only where looks are kept.
    pub(super) looks: Option<Box<Looks>>,
    /// A line above or below it, which is all that an empty paragraph shows.
    pub(super) has_rule: bool,
}

impl ParagraphProperties {
    /// Reads the properties below `w:pPr`.
    pub(super) fn read(xml: &mut Xml<'_>, context: &mut Context<'_>) -> Self {
        let mut found = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            if element.ns == Ns::Word {
                found.property(&element, xml, context);
            } else {
                context.unknown(&element);
            }
        }
        found
    }

    fn property(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, context: &mut Context<'_>) {
        match element.local() {
            "pStyle" => self.style = element.short(),
            "numPr" => self.numbering(xml, context),
            "outlineLvl" => {
                self.outline_level = element.number("val").and_then(|n| u8::try_from(n).ok());
            }
            "jc" => {
                self.align = alignment(element.val().as_deref());
            }
            "bidi" => self.right_to_left = Some(element.is_on()),
            "contextualSpacing" => self.contextual_spacing = Some(element.is_on()),
            "framePr" => match element.value("dropCap").as_deref() {
                Some("drop" | "margin") => self.drop_cap = true,
                _ => context.count(element),
            },
            "sectPr" => self.section = Some(Box::new(Section::read(xml, context))),
            "rPr" => {
                let mark = RunProperties::read(xml, context);
                self.mark = (mark != RunProperties::default()).then(|| Box::new(mark));
            }
            "pPrChange" => {
                let inside = xml.level();
                while let Some(before) = xml.child(inside) {
                    if before.is("pPr") {
                        self.before_change = Some(Box::new(Self::read(xml, context)));
                    }
                }
            }
            "pBdr" => {
                let mut looks = Looks::default();
                borders(xml, &mut looks, context);
                self.has_rule = looks.borders.as_deref().is_some_and(is_rule);
                if context.keeps_looks {
                    let own = self.looks.get_or_insert_default();
                    (own.borders, own.padding) = (looks.borders, looks.padding);
                } else {
                    context.count(element);
                }
            }
            _ if context.keeps_looks => self.look(element, xml, context),
            _ => context.count(element),
        }
    }

    fn numbering(&mut self, xml: &mut Xml<'_>, context: &mut Context<'_>) {
        let level = xml.level();
        while let Some(property) = xml.child(level) {
            match property.local() {
                "numId" => self.list = property.number("val"),
                "ilvl" => {
                    self.list_level = property.number("val").and_then(|n| usize::try_from(n).ok());
                }
                "ins" | "numberingChange" => context.lost.push("a tracked change of numbering"),
                _ => context.unknown(&property),
            }
        }
    }

    fn look(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, context: &mut Context<'_>) {
        let looks = self.looks.get_or_insert_default();
        match element.local() {
            "ind" => indents(element, looks),
            "spacing" => spacing(element, looks),
            "shd" => looks.background = shading(element, context),
            "keepNext" => looks.keep_with_next = Some(element.is_on()),
            "pageBreakBefore" => looks.page_break_before = Some(element.is_on()),
            "tabs" => {
                let level = xml.level();
                while let Some(tab) = xml.child(level) {
                    if !tab.is("tab") {
                        context.unknown(&tab);
                    }
                    looks.tabs.extend(tab_stop(&tab));
                }
            }
            _ => context.count(element),
        }
    }

    /// These properties, with those of a farther style where they say nothing. What belongs to one
    /// paragraph alone is not inherited.
    pub(super) fn or(mut self, farther: &Self) -> Self {
        self.list_level = self.list_level.or(farther.list_level);
        self.list = self.list.or(farther.list);
        self.outline_level = self.outline_level.or(farther.outline_level);
        self.align = self.align.or(farther.align);
        self.right_to_left = self.right_to_left.or(farther.right_to_left);
        self.contextual_spacing = self.contextual_spacing.or(farther.contextual_spacing);
        if let Some(around) = &farther.looks {
            let mut looks = around.clone();
            if let Some(own) = &self.looks {
                looks.replace_by(own);
                looks.tabs = tabs_of_both(&around.tabs, &own.tabs);
            }
            self.looks = Some(looks);
        }
        self
    }
}

/// Stops add up; a cleared one takes away the one at its place (17.3.1.37).
fn tabs_of_both(around: &[TabStop], own: &[TabStop]) -> Vec<TabStop> {
    let is_replaced =
        |stop: &&TabStop| own.iter().all(|nearer| (nearer.position - stop.position).abs() > 0.5);
    let mut all: Vec<TabStop> = around.iter().filter(is_replaced).chain(own).copied().collect();
    all.sort_by(|one, other| one.position.total_cmp(&other.position));
    all
}

/// ECMA-376 part 1, 17.18.44. What the transitional class calls left is the start.
pub(super) fn alignment(value: Option<&str>) -> Option<TextAlign> {
    match value? {
        "center" => Some(TextAlign::Centre),
        "end" | "right" => Some(TextAlign::End),
        "start" | "left" => Some(TextAlign::Start),
        "both" | "distribute" | "lowKashida" | "mediumKashida" | "highKashida"
        | "thaiDistribute" => Some(TextAlign::Justify),
        _ => None,
    }
}

fn indents(element: &Element<'_>, looks: &mut Looks) {
    // Hundredths of a character stand beside the length, for programs that know the font.
    let characters = |name: &str| element.number(name).map(|n| Length::Ems(n as f32 / 100.0));
    let length = |names: [&str; 2], chars: &str| {
        element.twips_of(names).map(Length::Points).or_else(|| characters(chars))
    };
    looks.indent_start = length(["start", "left"], "startChars").or(looks.indent_start);
    looks.indent_end = length(["end", "right"], "endChars").or(looks.indent_end);
    let hanging = element.twips("hanging").map(|points| Length::Points(-points));
    let first = element.twips("firstLine").map(Length::Points);
    looks.indent_first =
        hanging.or(first).or_else(|| characters("firstLineChars")).or(looks.indent_first);
}

fn spacing(element: &Element<'_>, looks: &mut Looks) {
    let side = |length: &str, lines: &str, automatic: &str| {
        if element.flag(automatic) == Some(true) {
            return Some(Length::Points(14.0));
        }
        let lines = || element.number(lines).map(|hundredths| hundredths as f32 * 0.12);
        element.twips(length).or_else(lines).map(Length::Points)
    };
    looks.space_before = side("before", "beforeLines", "beforeAutospacing").or(looks.space_before);
    looks.space_after = side("after", "afterLines", "afterAutospacing").or(looks.space_after);
    if let Some(line) = element.twips("line") {
        looks.line_height = Some(match element.value("lineRule").as_deref() {
            Some("exact") => LineHeight::Exactly(Length::Points(line)),
            Some("atLeast") => LineHeight::AtLeast(Length::Points(line)),
            // In 240ths of a line, which is as high as most fonts make it.
            _ => LineHeight::Times(line / 12.0 * super::looks::FONT_LINE),
        });
    }
}

fn borders(xml: &mut Xml<'_>, looks: &mut Looks, context: &mut Context<'_>) {
    let mut found = Borders::default();
    let mut padding = [Length::Points(0.0); 4];
    let level = xml.level();
    while let Some(side) = xml.child(level) {
        let (line, space) = border(&side, context.theme);
        let (place, at) = match side.local() {
            "top" => (&mut found.top, 0),
            "end" | "right" => (&mut found.end, 1),
            "bottom" => (&mut found.bottom, 2),
            "start" | "left" => (&mut found.start, 3),
            "between" | "bar" => {
                context.looks.count("borders");
                continue;
            }
            _ => {
                context.unknown(&side);
                continue;
            }
        };
        *place = Some(line);
        if let (Some(padding), Some(space)) = (padding.get_mut(at), space) {
            *padding = Length::Points(space);
        }
    }
    looks.borders = Some(Box::new(found));
    looks.padding = Some(padding);
}

fn is_rule(borders: &Borders) -> bool {
    let is_line =
        |side: &Option<Border>| side.is_some_and(|border| border.line != BorderLine::None);
    (is_line(&borders.top) || is_line(&borders.bottom))
        && !is_line(&borders.start)
        && !is_line(&borders.end)
}

fn tab_stop(element: &Element<'_>) -> Option<TabStop> {
    let align = match element.val().as_deref()? {
        "center" => TabAlign::Centre,
        "end" | "right" => TabAlign::End,
        "decimal" => TabAlign::Decimal,
        "bar" => return None,
        "clear" => TabAlign::Cleared,
        _ => TabAlign::Start,
    };
    let leader = match element.value("leader").as_deref() {
        Some("dot" | "middleDot") => TabLeader::Dots,
        Some("hyphen") => TabLeader::Dashes,
        Some("underscore" | "heavy") => TabLeader::Line,
        _ => TabLeader::None,
    };
    Some(TabStop { position: element.twips("pos")?, align, leader })
}
