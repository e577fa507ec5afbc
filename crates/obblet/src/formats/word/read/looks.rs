//! Looks: from the properties of styles, paragraphs and runs to those of the document.

use super::Reader;
use super::line::{Dress, RunFormat};
use super::paragraph_properties::ParagraphProperties;
use super::run_properties::{Raised, RunProperties, Toggle};
use super::styles::{ParagraphStyle, StyleType};
use super::text_base::TextBase;
use crate::document::{
    Attributes, Colour, CompactString, Length, Looks, NamedStyle, StyleKind, UnderlineLine,
};
use std::collections::HashSet;

/// How much higher than its size most fonts make a line.
pub(super) const FONT_LINE: f32 = 1.2;

/// The looks that properties of runs come to. Toggles are taken as they are stated.
pub(super) fn of_run(run: &RunProperties) -> Looks {
    let mut looks = run.looks.as_deref().map(|run| run.looks.clone()).unwrap_or_default();
    if let Some(run) = run.looks.as_deref() {
        let fonts = [&run.fonts.latin, &run.fonts.east_asian, &run.fonts.complex];
        for font in fonts.into_iter().flatten() {
            if !looks.fonts.contains(font) {
                looks.fonts.push(font.clone());
            }
        }
        // What else may stand in for a font that readers do not have.
        if let Some(first) = looks.fonts.first() {
            let generic = generic_family(first);
            looks.fonts.extend(generic.iter().map(|font| CompactString::from(*font)));
        }
    }
    let stated = |toggle: Toggle| run.toggles.stated(toggle);
    looks.weight = stated(Toggle::BOLD).map(|bold| if bold { 700 } else { 400 });
    looks.italic = stated(Toggle::ITALIC);
    looks.capitals = stated(Toggle::CAPITALS);
    looks.small_capitals = stated(Toggle::SMALL_CAPITALS);
    let (once, twice) = (stated(Toggle::STRUCK), stated(Toggle::DOUBLE_STRUCK));
    looks.strike = once.or(twice).map(|_| once == Some(true) || twice == Some(true));
    looks.underline = run.underline;
    if let Some(pen) = run.highlight {
        looks.background = pen.or(looks.background);
    }
    looks
}

/// The looks that properties of paragraphs come to.
pub(super) fn of_paragraph(paragraph: &ParagraphProperties) -> Looks {
    let mut looks = paragraph.looks.as_deref().cloned().unwrap_or_default();
    looks.align = paragraph.align;
    looks
}

impl Reader<'_> {
    /// What a run looks like beyond the text around it; what its format says already is left out.
    pub(super) fn dress(
        &mut self,
        direct: &RunProperties,
        base: &TextBase,
        format: RunFormat,
    ) -> Option<Dress> {
        if !self.options.looks {
            return None;
        }
        let style = direct.style.as_ref().map(|id| self.styles.character(id));
        let mut looks = match &style {
            Some(style) => of_run(&direct.clone().or(&style.run)),
            None => of_run(direct),
        };
        looks = looks.beyond(&base.looks);
        // What is off, and was not on around, is nothing.
        let off = |stated: &mut Option<bool>, around: Option<bool>| {
            if *stated == Some(false) && around != Some(true) {
                *stated = None;
            }
        };
        off(&mut looks.italic, base.looks.italic);
        off(&mut looks.strike, base.looks.strike);
        off(&mut looks.capitals, base.looks.capitals);
        off(&mut looks.small_capitals, base.looks.small_capitals);
        if format.has(RunFormat::STRONG)
            || (looks.weight == Some(400) && base.looks.weight.is_none_or(|weight| weight < 600))
        {
            looks.weight = None;
        }
        if format.has(RunFormat::EMPHASIS) {
            looks.italic = None;
        }
        if format.has(RunFormat::STRUCK) {
            looks.strike = None;
        }
        if format.has(RunFormat::SMALL_CAPITALS) {
            looks.small_capitals = None;
        }
        let is_plain_line = format.has(RunFormat::UNDERLINE)
            && looks.underline == Some(UnderlineLine::Single)
            || looks.underline == Some(UnderlineLine::None) && base.looks.underline.is_none();
        if is_plain_line {
            looks.underline = None;
        }
        if format.has(RunFormat::HIGHLIGHT) && looks.background == Some(Colour(255, 255, 0)) {
            looks.background = None;
        }
        if direct.raised.is_some_and(|raised| raised != Raised::No) {
            looks.raise = None;
        }
        let is_link = style.as_ref().is_some_and(|style| style.is_link);
        if is_link {
            // Links look like links.
            looks.colour = None;
            looks.underline = None;
        }
        let name = style.and_then(|style| style.name.clone()).filter(|_| !is_link);
        let name = name.filter(|name| !is_ordinary(name));
        if let Some(name) = &name {
            self.used_styles.insert((StyleKind::Inline, name.clone()));
        }
        (name.is_some() || !looks.is_empty()).then(|| Dress {
            style: name,
            looks,
            ..Dress::default()
        })
    }

    /// The attributes of a paragraph that say what it looks like.
    pub(super) fn dress_paragraph(
        &mut self,
        attributes: &mut Attributes,
        style: &ParagraphStyle,
        direct: Looks,
    ) {
        if !self.options.looks {
            return;
        }
        if let Some(name) = style.name.as_ref().filter(|_| !self.is_default_style(style)) {
            self.used_styles.insert((StyleKind::Block, name.clone()));
            attributes.edit().style = Some(name.clone());
        }
        if !direct.is_empty() {
            attributes.edit().looks = Some(Box::new(direct));
        }
    }

    fn is_default_style(&self, style: &ParagraphStyle) -> bool {
        style.id.is_none() || style.id.as_ref() == self.styles.default_of(StyleType::Paragraph)
    }

    /// The looks of a paragraph style, defaults and all.
    pub(super) fn looks_of_style(&self, style: &ParagraphStyle) -> Looks {
        let run = style.run.clone().inside(&self.styles.default_run);
        let paragraph = style.paragraph.clone().or(&self.styles.default_paragraph);
        let mut looks = of_paragraph(&paragraph);
        looks.replace_by(&of_run(&run));
        looks
    }

    /// The named styles that the document uses, in the order of their names.
    pub(super) fn settle_styles(&mut self) {
        if !self.options.looks {
            return;
        }
        let default = self.styles.paragraph(None);
        let mut looks = self.looks_of_style(&default);
        // As wide as the text between the margins of the paper.
        let width = self.sections.first().and_then(|section| section.text_width);
        looks.width = width.map(Length::Points);
        let mut found = vec![NamedStyle {
            name: default.name.clone().unwrap_or_else(|| "Normal".into()),
            kind: StyleKind::Block,
            based_on: None,
            looks,
            is_default: true,
        }];
        let used = std::mem::take(&mut self.used_styles);
        let by_name = self.styles.by_name(&used);
        for (kind, name, id) in by_name {
            let looks = match kind {
                StyleKind::Inline => of_run(&self.styles.character(&id).run),
                StyleKind::Block => {
                    let style = self.styles.paragraph(Some(&id));
                    self.looks_of_style(&style)
                }
                StyleKind::Table | StyleKind::List => Looks::default(),
            };
            let based_on = self.styles.get(&id).and_then(|style| style.based_on.clone());
            let based_on = based_on.and_then(|id| self.styles.get(&id)).map(|s| s.name.clone());
            found.push(NamedStyle { name, kind, based_on, looks, is_default: false });
        }
        self.document.styles = found;
    }
}

/// Fonts that stand in for others: those of the same widths, then those of the same kind.
fn generic_family(font: &str) -> &'static [&'static str] {
    /// Parts of names in small letters, and what stands in for such fonts.
    const KINDS: [(&[&str], &[&str]); 6] = [
        (&["calibri"], &["Carlito", "sans-serif"]),
        (&["cambria"], &["Caladea", "serif"]),
        (&["courier", "consolas", "mono", "typewriter", "lucida console", "menlo"], &["monospace"]),
        (&["script", "brush", "hand", "comic", "chancery"], &["cursive"]),
        (
            &[
                "arial",
                "helvet",
                "verdana",
                "tahoma",
                "sans",
                "segoe",
                "aptos",
                "trebuchet",
                "gothic",
                "franklin",
                "gill",
                "candara",
                "corbel",
                "impact",
                "ゴシック",
                "黑体",
                "meiryo",
                "yahei",
                "malgun",
                "roboto",
                "inter",
            ],
            &["sans-serif"],
        ),
        (&[""], &["serif"]),
    ];
    let font = font.to_lowercase();
    let fits = |names: &&[&str]| names.iter().any(|name| font.contains(name));
    KINDS.iter().find(|(names, _)| fits(names)).map_or(&["serif"], |(_, stand_ins)| stand_ins)
}

/// The names of used styles.
pub(super) type UsedStyles = HashSet<(StyleKind, CompactString)>;

/// Styles that say no more than their format does.
fn is_ordinary(name: &str) -> bool {
    matches!(
        name,
        "Strong"
            | "Emphasis"
            | "Default Paragraph Font"
            | "footnote reference"
            | "endnote reference"
            | "annotation reference"
            | "FollowedHyperlink"
            | "line number"
            | "page number"
    )
}
