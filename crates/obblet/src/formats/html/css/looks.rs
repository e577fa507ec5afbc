//! What declarations state of the looks of a text: fonts, sizes, colours, spaces, borders (CSS 2.2 and
//! the parts of CSS 3 that documents use).

use super::values::parts_between;
use crate::document::{
    Border, BorderLine, Borders, Colour, CompactString, Length, LineHeight, Looks, TextAlign,
    WritingMode,
};
use cssparser::color::{parse_hash_color, parse_named_color};

/// Pixels are 1/96 inch, points 1/72.
const POINTS_A_PIXEL: f32 = 0.75;

/// States a property. False when it says nothing of looks that are kept.
pub(crate) fn state(looks: &mut Looks, property: &str, value: &str) -> bool {
    // Names of fonts keep their letters.
    let spelled = value.trim();
    let value = spelled.to_ascii_lowercase();
    let value = value.as_str();
    match property {
        "color" => looks.colour = colour(value),
        "background-color" | "background" => {
            looks.background = words(value).into_iter().find_map(colour);
        }
        "font-size" => looks.size = font_size(value),
        "font-family" => looks.fonts = families(spelled),
        "font" => return font(looks, spelled),
        "letter-spacing" => looks.letter_spacing = length(value),
        "text-transform" => {
            looks.capitals = match value {
                "uppercase" => Some(true),
                "none" => Some(false),
                _ => return false,
            };
        }
        "text-indent" => looks.indent_first = length(value),
        "line-height" => looks.line_height = line_height(value),
        "vertical-align" => {
            looks.raise = length(value);
            return looks.raise.is_some();
        }
        "width" => looks.width = length(value),
        "height" => {
            looks.height = length(value);
            return looks.height.is_some();
        }
        "columns" | "column-count" => {
            looks.columns = value.parse().ok();
            return looks.columns.is_some();
        }
        "writing-mode" => {
            looks.writing = match value {
                "vertical-rl" | "vertical-lr" => Some(WritingMode::VerticalDown),
                "sideways-lr" => Some(WritingMode::VerticalUp),
                _ => None,
            };
            return looks.writing.is_some();
        }
        "margin" => {
            let [top, end, bottom, start] = sides(value, length);
            (looks.space_before, looks.space_after) = (top, bottom);
            (looks.indent_start, looks.indent_end) = (start, end);
        }
        "margin-top" | "margin-block-start" => looks.space_before = length(value),
        "margin-bottom" | "margin-block-end" => looks.space_after = length(value),
        "margin-left" | "margin-inline-start" => looks.indent_start = length(value),
        "margin-right" | "margin-inline-end" => looks.indent_end = length(value),
        "padding" => looks.padding = all_sides(sides(value, length)),
        "page-break-before" | "break-before" => {
            looks.page_break_before = Some(matches!(value, "always" | "page"));
        }
        "page-break-after" | "break-after" if value == "avoid" => {
            looks.keep_with_next = Some(true);
        }
        property => return border(looks, property, value),
    }
    true
}

/// The looks that an attribute states, as in `bgcolor="#eee"`.
pub(crate) fn state_attribute(looks: &mut Looks, element: &str, name: &str, value: &str) {
    const SIZES: [f32; 7] = [7.5, 10.0, 12.0, 13.5, 18.0, 24.0, 36.0];
    let spelled = value;
    let value = value.trim().to_ascii_lowercase();
    match (element, name) {
        (_, "bgcolor") => looks.background = colour(&value),
        ("font", "color") => looks.colour = colour(&value),
        ("font", "face") => looks.fonts = families(spelled),
        ("font", "size") => {
            let at = value.parse::<usize>().ok().and_then(|size| size.checked_sub(1));
            looks.size = at.and_then(|at| SIZES.get(at)).map(|size| Length::Points(*size));
        }
        ("table" | "td" | "th" | "col", "width") => {
            let is_number = value.bytes().all(|byte| byte.is_ascii_digit());
            looks.width = if is_number { length(&(value + "px")) } else { length(&value) };
        }
        _ => {}
    }
}

/// How lines are aligned, as a property of looks.
pub(crate) fn aligned(align: TextAlign) -> Looks {
    Looks { align: Some(align), ..Looks::default() }
}

/// The words of a value; what stands in brackets or quotes is one.
fn words(value: &str) -> Vec<&str> {
    let mut words = parts_between(value, |c| c.is_ascii_whitespace());
    words.retain(|word| !word.is_empty());
    words
}

fn colour(value: &str) -> Option<Colour> {
    if let Some(digits) = value.strip_prefix('#') {
        let (red, green, blue, _) = parse_hash_color(digits.as_bytes()).ok()?;
        return Some(Colour(red, green, blue));
    }
    if let Some((_, numbers)) = value.split_once("rgb") {
        let numbers = numbers.trim_start_matches('a').trim_matches(['(', ')']);
        let mut numbers = numbers.split([',', ' ', '/']).filter(|part| !part.is_empty());
        let mut next = || numbers.next()?.parse::<f32>().ok().map(|n| n.clamp(0.0, 255.0) as u8);
        return Some(Colour(next()?, next()?, next()?));
    }
    parse_named_color(value).ok().map(|(red, green, blue)| Colour(red, green, blue))
}

fn length(value: &str) -> Option<Length> {
    let value = value.trim();
    if value == "0" {
        return Some(Length::Points(0.0));
    }
    let end = value.find(|c: char| !(c.is_ascii_digit() || matches!(c, '.' | '-' | '+')))?;
    let (number, unit) = value.split_at(end);
    let number: f32 = number.parse().ok().filter(|number: &f32| number.is_finite())?;
    Some(match unit {
        "pt" => Length::Points(number),
        "px" => Length::Points(number * POINTS_A_PIXEL),
        "in" => Length::Points(number * 72.0),
        "cm" => Length::Points(number * 72.0 / 2.54),
        "mm" => Length::Points(number * 7.2 / 2.54),
        "pc" => Length::Points(number * 12.0),
        "em" | "rem" => Length::Ems(number),
        "%" => Length::Share(number / 100.0),
        _ => return None,
    })
}

fn font_size(value: &str) -> Option<Length> {
    Some(match value {
        "xx-small" => Length::Points(7.5),
        "x-small" => Length::Points(8.0),
        "small" => Length::Points(10.0),
        "medium" => Length::Points(12.0),
        "large" => Length::Points(14.0),
        "x-large" => Length::Points(18.0),
        "xx-large" => Length::Points(24.0),
        "smaller" => Length::Ems(0.83),
        "larger" => Length::Ems(1.2),
        value => match length(value)? {
            Length::Share(share) => Length::Ems(share),
            // Text of no size is hidden, and dealt with as such.
            Length::Points(size) if size <= 0.0 => return None,
            size => size,
        },
    })
}

fn families(value: &str) -> Vec<CompactString> {
    let name = |family: &str| family.trim().trim_matches(['"', '\'']).trim().to_string();
    let names = value.split(',').map(name).filter(|name| !name.is_empty());
    names.take(8).map(Into::into).collect()
}

/// `[style or weight]… size[/line-height] family…`
fn font(looks: &mut Looks, value: &str) -> bool {
    let words = words(value);
    let is_size = |word: &&str| {
        let size = word.split('/').next().unwrap_or_default().to_ascii_lowercase();
        word.starts_with(|c: char| c.is_ascii_digit()) && length(&size).is_some()
    };
    let size = words.iter().position(is_size).and_then(|at| words.get(at..));
    let Some((size, rest)) = size.and_then(|rest| rest.split_first()) else { return false };
    let (size, height) = size.split_once('/').unwrap_or((size, ""));
    looks.size = font_size(&size.to_ascii_lowercase());
    looks.line_height = line_height(height).or(looks.line_height);
    looks.fonts = families(&rest.join(" "));
    true
}

fn line_height(value: &str) -> Option<LineHeight> {
    if let Ok(times) = value.parse::<f32>() {
        return Some(LineHeight::Times(times));
    }
    Some(match length(value)? {
        Length::Share(share) => LineHeight::Times(share),
        Length::Ems(times) => LineHeight::Times(times),
        length @ Length::Points(_) => LineHeight::Exactly(length),
    })
}

/// Top, end, bottom, start of a value that names one to four of them.
fn sides<T: Copy>(value: &str, read: impl Fn(&str) -> Option<T>) -> [Option<T>; 4] {
    let values: Vec<Option<T>> = words(value).into_iter().map(read).collect();
    match values.as_slice() {
        [all] => [*all; 4],
        [block, inline] => [*block, *inline, *block, *inline],
        [top, inline, bottom] => [*top, *inline, *bottom, *inline],
        [top, end, bottom, start] => [*top, *end, *bottom, *start],
        _ => [None; 4],
    }
}

fn all_sides(sides: [Option<Length>; 4]) -> Option<[Length; 4]> {
    let [top, end, bottom, start] = sides;
    Some([top?, end?, bottom?, start?])
}

/// `border`, `border-left` and their like.
fn border(looks: &mut Looks, property: &str, value: &str) -> bool {
    let Some(rest) = property.strip_prefix("border") else { return false };
    let mut parts = rest.split('-').filter(|part| !part.is_empty());
    let (first, second) = (parts.next(), parts.next());
    if parts.next().is_some() || second.is_some() {
        return false;
    }
    let stated = border_of(value);
    let borders = looks.borders.get_or_insert_default();
    match first {
        None => {
            (borders.top, borders.end) = (stated, stated);
            (borders.bottom, borders.start) = (stated, stated);
        }
        Some("top") => borders.top = stated,
        Some("right") => borders.end = stated,
        Some("bottom") => borders.bottom = stated,
        Some("left") => borders.start = stated,
        // How the borders of neighbours meet is left to the destination.
        Some(_) => {
            if **borders == Borders::default() {
                looks.borders = None;
            }
            return false;
        }
    }
    true
}

/// `1px solid #000`, in any order.
fn border_of(value: &str) -> Option<Border> {
    let mut border = Border { line: BorderLine::None, width: Length::Points(2.25), colour: None };
    for word in words(value) {
        let line = match word {
            "solid" | "groove" | "ridge" | "inset" | "outset" => Some(BorderLine::Single),
            "double" => Some(BorderLine::Double),
            "dotted" => Some(BorderLine::Dotted),
            "dashed" => Some(BorderLine::Dashed),
            "none" | "hidden" => Some(BorderLine::None),
            _ => None,
        };
        let width = match word {
            "thin" => Some(Length::Points(0.75)),
            "medium" => Some(Length::Points(2.25)),
            "thick" => Some(Length::Points(3.75)),
            word => length(word),
        };
        border.line = line.unwrap_or(border.line);
        border.width = width.unwrap_or(border.width);
        border.colour = colour(word).or(border.colour);
    }
    Some(border)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn declarations_become_looks() {
        let of = |declarations: &str| {
            let mut looks = Looks::default();
            for declaration in declarations.split(';') {
                let (property, value) = declaration.split_once(':').unwrap();
                state(&mut looks, property.trim(), value);
            }
            looks
        };
        let base = Looks::default;
        let line = Border {
            line: BorderLine::Single,
            width: Length::Points(0.75),
            colour: Some(Colour(0, 0, 0)),
        };
        let cases = [
            ("color: #f80", Looks { colour: Some(Colour(255, 136, 0)), ..base() }),
            ("color: RGB(1, 2, 3)", Looks { colour: Some(Colour(1, 2, 3)), ..base() }),
            (
                "background: url(x y) Yellow",
                Looks { background: Some(Colour(255, 255, 0)), ..base() },
            ),
            (
                "height: 20pt; columns: 2; writing-mode: vertical-rl; vertical-align: -2pt",
                Looks {
                    height: Some(Length::Points(20.0)),
                    columns: Some(2),
                    writing: Some(WritingMode::VerticalDown),
                    raise: Some(Length::Points(-2.0)),
                    ..base()
                },
            ),
            ("height: auto; columns: auto; writing-mode: horizontal-tb", base()),
            ("font-size: 16px", Looks { size: Some(Length::Points(12.0)), ..base() }),
            ("font-size: 120%", Looks { size: Some(Length::Ems(1.2)), ..base() }),
            (
                "font: italic 10pt/1.5 'Old Face', serif",
                Looks {
                    size: Some(Length::Points(10.0)),
                    line_height: Some(LineHeight::Times(1.5)),
                    fonts: vec!["Old Face".into(), "serif".into()],
                    ..base()
                },
            ),
            (
                "margin: 0 1in",
                Looks {
                    space_before: Some(Length::Points(0.0)),
                    space_after: Some(Length::Points(0.0)),
                    indent_start: Some(Length::Points(72.0)),
                    indent_end: Some(Length::Points(72.0)),
                    ..base()
                },
            ),
            (
                "border-left: solid black 1px",
                Looks {
                    borders: Some(Box::new(Borders { start: Some(line), ..Borders::default() })),
                    ..base()
                },
            ),
            ("border-collapse: collapse", base()),
            ("color: none-such; font-size: 0; width: calc(1px + 2px)", base()),
        ];
        for (declarations, expected) in cases {
            assert_eq!(of(declarations), expected, "{declarations}");
        }
    }
}
