//! Properties of runs (ECMA-376 part 1, 17.3.2).

use super::super::xml::{Element, Ns, Xml};
use super::context::Context;
use super::revisions::revision;
use super::symbols::SymbolFont;
use super::values::{border, pen, points, underline};
use crate::document::{Borders, Colour, CompactString, Length, Looks, Revision, UnderlineLine};

/// On-off properties that a style turns round when a style around it has them too (17.7.3).
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) struct Toggles {
    stated: u16,
    on: u16,
}

/// One of them.
#[derive(Debug, Clone, Copy)]
pub(super) struct Toggle(u16);

impl Toggle {
    pub(super) const BOLD: Self = Self(1);
    pub(super) const ITALIC: Self = Self(1 << 1);
    pub(super) const CAPITALS: Self = Self(1 << 2);
    pub(super) const SMALL_CAPITALS: Self = Self(1 << 3);
    pub(super) const STRUCK: Self = Self(1 << 4);
    pub(super) const DOUBLE_STRUCK: Self = Self(1 << 5);
    pub(super) const HIDDEN: Self = Self(1 << 6);
    /// Outline, shadow and the like.
    pub(super) const EFFECT: Self = Self(1 << 7);
    /// For text from right to left.
    pub(super) const BOLD_COMPLEX: Self = Self(1 << 8);
    pub(super) const ITALIC_COMPLEX: Self = Self(1 << 9);
}

impl Toggles {
    fn state(&mut self, toggle: Toggle, on: bool) {
        self.stated |= toggle.0;
        if on { self.on |= toggle.0 } else { self.on &= !toggle.0 }
    }

    /// These, and those of a farther style in one chain of inheritance where they say nothing.
    fn or(self, farther: Self) -> Self {
        Self { stated: self.stated | farther.stated, on: self.on | (farther.on & !self.stated) }
    }

    /// These of one kind of style inside those of another kind: on in both is off.
    pub(super) fn inside(self, around: Self) -> Self {
        Self { stated: self.stated | around.stated, on: self.on ^ around.on }
    }

    pub(super) fn has(self, toggle: Toggle) -> bool {
        self.on & toggle.0 != 0
    }

    /// What is stated of one of them.
    pub(super) fn stated(self, toggle: Toggle) -> Option<bool> {
        (self.stated & toggle.0 != 0).then(|| self.has(toggle))
    }
}

/// Raised or lowered text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Raised {
    No,
    Superscript,
    Subscript,
}

/// A property by the script of the text it is for.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(super) struct ByScript {
    pub(super) latin: Option<CompactString>,
    pub(super) east_asian: Option<CompactString>,
    pub(super) complex: Option<CompactString>,
}

impl ByScript {
    /// Whether all that is stated here is stated there too.
    pub(super) fn is_within(&self, around: &Self) -> bool {
        let same = |own: &Option<CompactString>, around: &Option<CompactString>| {
            own.is_none() || own == around
        };
        same(&self.latin, &around.latin)
            && same(&self.east_asian, &around.east_asian)
            && same(&self.complex, &around.complex)
    }

    pub(super) fn or(&mut self, farther: &Self) {
        or(&mut self.latin, &farther.latin);
        or(&mut self.east_asian, &farther.east_asian);
        or(&mut self.complex, &farther.complex);
    }
}

/// What a run or a style states; `None` where it says nothing.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct RunProperties {
    pub(super) style: Option<CompactString>,
    pub(super) toggles: Toggles,
    pub(super) underline: Option<UnderlineLine>,
    pub(super) raised: Option<Raised>,
    /// The pen's colour; inside, `None` is no pen at all.
    pub(super) highlight: Option<Option<Colour>>,
    pub(super) right_to_left: Option<bool>,
    pub(super) languages: ByScript,
    /// A font whose characters have other meanings than their codes; inside, `None` is any other.
    pub(super) symbol_font: Option<Option<SymbolFont>>,
    /// The tracked change of the end of a paragraph.
    pub(super) mark_change: Option<Box<Revision>>,
    /// What the run was before a tracked change of its looks, and who made it.
    pub(super) before_change: Option<Box<RunProperties>>,
    pub(super) looks_change: Option<Box<Revision>>,
    /// Fonts, sizes, colours; only where looks are kept.
    pub(super) looks: Option<Box<RunLooks>>,
}

/// The looks of a run.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct RunLooks {
    pub(super) fonts: ByScript,
    pub(super) looks: Looks,
}

fn or<T: Clone>(nearer: &mut Option<T>, farther: &Option<T>) {
    if nearer.is_none() {
        nearer.clone_from(farther);
    }
}

impl RunProperties {
    /// Reads the properties below `w:rPr`.
    pub(super) fn read(xml: &mut Xml<'_>, context: &mut Context<'_>) -> Self {
        let mut found = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            if element.ns == Ns::Word {
                found.property(&element, xml, context);
            } else if element.ns == Ns::WordExtension && is_effect(element.local()) {
                // Newer text effects have a namespace of their own.
                context.looks.count("text effects");
                let inside = xml.level();
                while let Some(part) = xml.descendant(inside) {
                    if !is_part_of_effect(part.local()) {
                        context.unknown(&part);
                    }
                }
            } else if !(element.ns == Ns::Math && element.local() == "rPr") {
                context.unknown(&element);
            }
        }
        found
    }

    fn property(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, context: &mut Context<'_>) {
        let local = element.local();
        if let Some(toggle) = toggle(local) {
            return self.toggles.state(toggle, element.is_on());
        }
        match local {
            "rStyle" => self.style = element.short(),
            "u" => {
                self.underline = Some(underline(element.val().as_deref()));
            }
            "highlight" => self.highlight = Some(element.val().and_then(|name| pen(&name))),
            "vertAlign" => {
                self.raised = Some(match element.val().as_deref() {
                    Some("superscript") => Raised::Superscript,
                    Some("subscript") => Raised::Subscript,
                    _ => Raised::No,
                });
            }
            "rtl" => self.right_to_left = Some(element.is_on()),
            "lang" => {
                let tags = element.values(["val", "eastAsia", "bidi"]);
                let [latin, east_asian, complex] = tags.map(|tag| {
                    tag.filter(|tag| tag != "x-none" && !tag.is_empty()).map(Into::into)
                });
                self.languages = ByScript { latin, east_asian, complex };
            }
            "ins" | "del" | "moveFrom" | "moveTo" => {
                self.mark_change = revision(element).map(Box::new);
            }
            "rPrChange" => {
                self.looks_change = revision(element).map(Box::new);
                let inside = xml.level();
                while let Some(before) = xml.child(inside) {
                    if before.is("rPr") {
                        self.before_change = Some(Box::new(Self::read(xml, context)));
                    }
                }
            }
            _ => self.look(element, context),
        }
    }

    /// A property that only says how the text looks, but for fonts of symbols.
    fn look(&mut self, element: &Element<'_>, context: &mut Context<'_>) {
        if element.is("rFonts") {
            self.symbol_font = element.value("ascii").map(|name| SymbolFont::of(&name));
        }
        if !context.keeps_looks {
            return context.count(element);
        }
        let run = self.looks.get_or_insert_default();
        let looks = &mut run.looks;
        match element.local() {
            "rFonts" => run.fonts = fonts(element, context),
            "sz" => looks.size = element.half_points().filter(|s| *s > 0.0).map(Length::Points),
            "color" => {
                // Automatic is black or white, by what is behind it.
                looks.colour = element.colour("val", context.theme);
            }
            "shd" => looks.background = shading(element, context),
            "spacing" => looks.letter_spacing = element.twips("val").map(Length::Points),
            "position" => looks.raise = element.half_points().map(Length::Points),
            "bdr" => {
                let (side, _) = border(element, context.theme);
                let side = Some(side);
                let all = Borders { top: side, end: side, bottom: side, start: side };
                looks.borders = Some(Box::new(all));
            }
            _ => context.count(element),
        }
    }

    /// These properties, with those of a farther style of the same chain where they say nothing.
    pub(super) fn or(mut self, farther: &Self) -> Self {
        self.toggles = self.toggles.or(farther.toggles);
        or(&mut self.underline, &farther.underline);
        or(&mut self.raised, &farther.raised);
        or(&mut self.highlight, &farther.highlight);
        or(&mut self.right_to_left, &farther.right_to_left);
        or(&mut self.symbol_font, &farther.symbol_font);
        self.languages.or(&farther.languages);
        match (&mut self.looks, &farther.looks) {
            (Some(nearer), Some(farther)) => nearer.inherit(farther),
            (nearer, farther) => or(nearer, farther),
        }
        self
    }

    /// These properties of one kind of style, inside those of another kind.
    pub(super) fn inside(self, around: &Self) -> Self {
        let toggles = self.toggles.inside(around.toggles);
        Self { toggles, ..self.or(around) }
    }

    pub(super) fn has(&self, toggle: Toggle) -> bool {
        self.toggles.has(toggle)
    }
}

impl RunLooks {
    fn inherit(&mut self, farther: &Self) {
        self.fonts.or(&farther.fonts);
        let mut looks = farther.looks.clone();
        looks.replace_by(&self.looks);
        self.looks = looks;
    }
}

fn is_effect(local: &str) -> bool {
    matches!(
        local,
        "glow"
            | "shadow"
            | "reflection"
            | "textOutline"
            | "textFill"
            | "scene3d"
            | "props3d"
            | "ligatures"
            | "numForm"
            | "numSpacing"
            | "stylisticSets"
            | "cntxtAlts"
    )
}

/// Colours, lines and lights of effects.
fn is_part_of_effect(local: &str) -> bool {
    matches!(
        local,
        "srgbClr"
            | "schemeClr"
            | "alpha"
            | "tint"
            | "shade"
            | "hueMod"
            | "sat"
            | "satMod"
            | "satOff"
            | "lum"
            | "lumMod"
            | "lumOff"
            | "noFill"
            | "solidFill"
            | "gradFill"
            | "gsLst"
            | "gs"
            | "lin"
            | "path"
            | "fillToRect"
            | "prstDash"
            | "round"
            | "bevel"
            | "miter"
            | "camera"
            | "lightRig"
            | "rot"
            | "bevelT"
            | "bevelB"
            | "extrusionClr"
            | "contourClr"
            | "styleSet"
    )
}

fn toggle(local: &str) -> Option<Toggle> {
    Some(match local {
        "b" => Toggle::BOLD,
        "i" => Toggle::ITALIC,
        "caps" => Toggle::CAPITALS,
        "smallCaps" => Toggle::SMALL_CAPITALS,
        "strike" => Toggle::STRUCK,
        "dstrike" => Toggle::DOUBLE_STRUCK,
        "vanish" => Toggle::HIDDEN,
        "bCs" => Toggle::BOLD_COMPLEX,
        "iCs" => Toggle::ITALIC_COMPLEX,
        "outline" | "shadow" | "emboss" | "imprint" => Toggle::EFFECT,
        _ => return None,
    })
}

fn fonts(element: &Element<'_>, context: &Context<'_>) -> ByScript {
    let font = |theme: &str, names: [&str; 2]| {
        let named = || names.into_iter().find_map(|name| element.value(name)).map(Into::into);
        context.theme.font(element, theme).or_else(named)
    };
    ByScript {
        latin: font("asciiTheme", ["ascii", "hAnsi"]),
        east_asian: font("eastAsiaTheme", ["eastAsia", "eastAsia"]),
        complex: font("cstheme", ["cs", "cs"]),
    }
}

/// Shading (17.3.5): the colour behind, or, for solid patterns, the one in front.
pub(super) fn shading(element: &Element<'_>, context: &Context<'_>) -> Option<Colour> {
    let pattern = element.val();
    let (front, behind) =
        (element.colour("color", context.theme), element.colour("fill", context.theme));
    let share = match pattern.as_deref() {
        Some("solid") => 1.0,
        Some(name) => {
            name.strip_prefix("pct").and_then(|n| points(n, 1.0)).unwrap_or_default() / 100.0
        }
        None => 0.0,
    };
    if share == 0.0 {
        return behind;
    }
    let (Colour(r1, g1, b1), Colour(r2, g2, b2)) =
        (front.unwrap_or(Colour(0, 0, 0)), behind.unwrap_or(Colour(255, 255, 255)));
    let mix = |front: u8, behind: u8| {
        (f32::from(front) * share + f32::from(behind) * (1.0 - share)).round() as u8
    };
    Some(Colour(mix(r1, r2), mix(g1, g2), mix(b1, b2)))
}
