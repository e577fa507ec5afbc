//! What declarations state, of all that says something about the meaning of a text.

use crate::document::{CompactString, Direction, Looks, NumeralStyle, TextAlign, VerticalAlign};
use std::rc::Rc;

/// The properties that one rule or one `style` attribute states.
#[derive(Debug, Clone, Default, PartialEq)]
pub(crate) struct Stated {
    pub(crate) weight: Option<Weight>,
    pub(crate) italic: Option<bool>,
    pub(crate) underline: Option<bool>,
    pub(crate) strike: Option<bool>,
    pub(crate) raise: Option<Raise>,
    pub(crate) small_capitals: Option<bool>,
    pub(crate) highlight: Option<bool>,
    /// Whether white space is kept as it stands.
    pub(crate) preformatted: Option<bool>,
    pub(crate) display: Option<Display>,
    pub(crate) align: Option<TextAlign>,
    pub(crate) vertical: Option<VerticalAlign>,
    pub(crate) direction: Option<Direction>,
    pub(crate) list_marks: Option<ListMarks>,
    /// The list a word processor's paragraph belongs to, and how deep: `l0 level1 lfo1`.
    pub(crate) list_level: Option<ListLevel>,
    /// What a word processor typed out for readers that know no lists.
    pub(crate) typed_out: Option<bool>,
    /// Spaces that stand for a tab.
    pub(crate) tab: Option<bool>,
    /// The level of a heading in a word processor's outline.
    pub(crate) outline_level: Option<u8>,
    /// The role of an element in a word processor's page, such as `footnote-list`.
    pub(crate) role: Option<CompactString>,
    /// Fonts, colours, spaces and the like, when they are wanted.
    pub(crate) looks: Option<Rc<Looks>>,
}

/// How heavy letters are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Weight {
    Bold,
    Normal,
}

/// Whether text stands above or below its line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Raise {
    Above,
    Below,
    No,
}

/// How an element stands among others.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Display {
    Hidden,
    Block,
    Inline,
}

/// The marks of a list.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum ListMarks {
    Bullets,
    Numbers(NumeralStyle),
    None,
}

/// A place in one of a word processor's lists.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct ListLevel {
    /// The list's definition and its use, such as `l0 lfo1`.
    pub(crate) list: CompactString,
    /// 1 is the outermost.
    pub(crate) level: u8,
}

impl Stated {
    /// States a property. False when the property says nothing that is carried.
    pub(crate) fn state(&mut self, property: &str, value: &str) -> bool {
        let value = value.trim().to_ascii_lowercase();
        let value = value.as_str();
        let word = |wanted: &str| value.split_ascii_whitespace().any(|word| word == wanted);
        match property {
            "font-weight" => self.weight = weight(value),
            "font-style" => self.italic = Some(matches!(value, "italic" | "oblique")),
            "font" => {
                self.weight = value.split_ascii_whitespace().find_map(weight).or(self.weight);
                self.italic = Some(word("italic") || word("oblique"));
                self.small_capitals = Some(word("small-caps"));
            }
            "font-variant" | "font-variant-caps" => self.small_capitals = Some(word("small-caps")),
            "text-decoration" | "text-decoration-line" => {
                self.underline = Some(word("underline"));
                self.strike = Some(word("line-through"));
            }
            "text-underline" => self.underline = Some(value != "none"),
            "vertical-align" => {
                self.raise = match value {
                    "super" => Some(Raise::Above),
                    "sub" => Some(Raise::Below),
                    _ => Some(Raise::No),
                };
                self.vertical = match value {
                    "top" => Some(VerticalAlign::Top),
                    "middle" => Some(VerticalAlign::Middle),
                    "bottom" => Some(VerticalAlign::Bottom),
                    _ => None,
                };
            }
            "mso-highlight" => self.highlight = Some(value != "none"),
            "white-space" => {
                self.preformatted = Some(value.starts_with("pre") && value != "pre-line");
            }
            "display" => {
                self.display = Some(match value {
                    "none" => Display::Hidden,
                    "inline" | "contents" => Display::Inline,
                    value if value.starts_with("inline") => Display::Inline,
                    _ => Display::Block,
                });
            }
            "mso-hide" if value == "all" => self.display = Some(Display::Hidden),
            "visibility" if value == "hidden" => self.display = Some(Display::Hidden),
            "text-align" => {
                self.align = match value {
                    "left" | "start" => Some(TextAlign::Start),
                    "center" | "-webkit-center" => Some(TextAlign::Centre),
                    "right" | "end" => Some(TextAlign::End),
                    "justify" => Some(TextAlign::Justify),
                    _ => None,
                };
            }
            "direction" => {
                self.direction = match value {
                    "rtl" => Some(Direction::RightToLeft),
                    "ltr" => Some(Direction::LeftToRight),
                    _ => None,
                };
            }
            "list-style-type" | "list-style" => {
                self.list_marks = value.split_ascii_whitespace().find_map(list_marks);
            }
            "mso-list" if value == "ignore" => self.typed_out = Some(true),
            "mso-list" => self.list_level = list_level(value),
            "mso-outline-level" => self.outline_level = value.parse().ok(),
            "mso-tab-count" => self.tab = Some(true),
            "mso-element" => self.role = Some(value.into()),
            _ => return false,
        }
        true
    }

    /// States a property of looks. False when it says nothing of them.
    pub(crate) fn state_looks(&mut self, property: &str, value: &str) -> bool {
        let looks = Rc::make_mut(self.looks.get_or_insert_default());
        let says_looks = super::looks::state(looks, property, value);
        if looks.is_empty() {
            self.looks = None;
        }
        says_looks
    }

    /// Takes over what a stronger rule states.
    pub(crate) fn take(&mut self, stronger: &Self) {
        match (&mut self.looks, &stronger.looks) {
            (Some(looks), Some(stronger)) => Rc::make_mut(looks).replace_by(stronger),
            (None, Some(stronger)) => self.looks = Some(stronger.clone()),
            (_, None) => {}
        }
        macro_rules! each {
            ($($property:ident),*) => { $(
                if stronger.$property.is_some() {
                    self.$property.clone_from(&stronger.$property);
                }
            )* };
        }
        each!(
            weight,
            italic,
            underline,
            strike,
            raise,
            small_capitals,
            highlight,
            preformatted,
            display,
            align,
            vertical,
            direction,
            list_marks,
            list_level,
            typed_out,
            role
        );
    }
}

fn weight(value: &str) -> Option<Weight> {
    match value {
        "bold" | "bolder" => Some(Weight::Bold),
        "normal" | "lighter" => Some(Weight::Normal),
        number => match number.parse::<f32>() {
            Ok(number) if (1.0..=1000.0).contains(&number) => {
                Some(if number >= 600.0 { Weight::Bold } else { Weight::Normal })
            }
            _ => None,
        },
    }
}

fn list_marks(word: &str) -> Option<ListMarks> {
    Some(match word {
        "disc" | "circle" | "square" => ListMarks::Bullets,
        "decimal" | "decimal-leading-zero" => ListMarks::Numbers(NumeralStyle::Decimal),
        "lower-alpha" | "lower-latin" => ListMarks::Numbers(NumeralStyle::LowerLetter),
        "upper-alpha" | "upper-latin" => ListMarks::Numbers(NumeralStyle::UpperLetter),
        "lower-roman" => ListMarks::Numbers(NumeralStyle::LowerRoman),
        "upper-roman" => ListMarks::Numbers(NumeralStyle::UpperRoman),
        "none" => ListMarks::None,
        _ => return None,
    })
}

fn list_level(value: &str) -> Option<ListLevel> {
    let mut words = value.split_ascii_whitespace();
    let list = words.next().filter(|word| word.starts_with('l'))?;
    let mut level = 1;
    let mut name = CompactString::from(list);
    for word in words {
        match word.strip_prefix("level").and_then(|level| level.parse().ok()) {
            Some(found) => level = found,
            None => {
                name.push(' ');
                name.push_str(word);
            }
        }
    }
    Some(ListLevel { list: name, level: level.clamp(1, 9) })
}
