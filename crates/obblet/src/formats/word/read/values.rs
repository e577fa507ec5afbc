//! Simple values of attributes (ECMA-376 part 1, 17.18 and 22.9).

use super::super::xml::Element;
use super::theme::Theme;
use crate::document::{Border, BorderLine, Colour, Length, UnderlineLine};

/// The longest length that is taken at its word: 22 inches, as the standard has it for measures.
const LONGEST: f32 = 1584.0;

/// A measure in points: a bare number in units of its own, or a number with a unit (22.9.2.14,
/// 22.9.2.15).
pub(super) fn points(text: &str, per_point: f32) -> Option<f32> {
    let text = text.trim();
    let digits = text.find(|c: char| c.is_ascii_alphabetic() || c == '%').unwrap_or(text.len());
    let (number, unit) = text.split_at_checked(digits)?;
    let number: f32 = number.parse().ok()?;
    let factor = match unit {
        "" => 1.0 / per_point,
        "pt" => 1.0,
        "in" => 72.0,
        "cm" => 72.0 / 2.54,
        "mm" => 72.0 / 25.4,
        "pc" | "pi" => 12.0,
        _ => return None,
    };
    let points = number * factor;
    points.is_finite().then(|| points.clamp(-LONGEST, LONGEST))
}

impl Element<'_> {
    /// An attribute in twentieths of a point, or with a unit.
    pub(super) fn twips(&self, local: &str) -> Option<f32> {
        points(&self.value(local)?, 20.0)
    }

    /// The first attribute of these that is there, in twentieths of a point.
    pub(super) fn twips_of(&self, locals: [&str; 2]) -> Option<f32> {
        locals.into_iter().find_map(|local| self.twips(local))
    }

    /// `w:val` in half points.
    pub(super) fn half_points(&self) -> Option<f32> {
        points(&self.val()?, 2.0)
    }

    /// A colour stated by `themeColor` and its kin, or else by this attribute; `None` for
    /// automatic ones.
    pub(super) fn colour(&self, local: &str, theme: &Theme) -> Option<Colour> {
        let names = if local == "fill" {
            ["themeFill", "themeFillTint", "themeFillShade"]
        } else {
            ["themeColor", "themeTint", "themeShade"]
        };
        let of_theme = names.first().and_then(|name| self.value(name));
        if let Some(colour) = of_theme.and_then(|name| theme.colour(&name)) {
            let part = |name: &str| self.value(name).and_then(|v| u8::from_str_radix(&v, 16).ok());
            return Some(tinted(colour, part(names[1]), part(names[2])));
        }
        hexadecimal(&self.value(local)?)
    }
}

/// Six hexadecimal digits.
pub(super) fn hexadecimal(text: &str) -> Option<Colour> {
    let text = text.trim_start_matches('#');
    let number = u32::from_str_radix(text, 16).ok().filter(|_| text.len() == 6)?;
    let [_, red, green, blue] = number.to_be_bytes();
    Some(Colour(red, green, blue))
}

/// A colour made lighter or darker (17.3.2.6): a share of 255 of it is left.
fn tinted(colour: Colour, tint: Option<u8>, shade: Option<u8>) -> Colour {
    let Colour(red, green, blue) = colour;
    let each = |change: &dyn Fn(f32) -> f32| {
        let channel = |value: u8| change(f32::from(value)).round().clamp(0.0, 255.0) as u8;
        Colour(channel(red), channel(green), channel(blue))
    };
    match (tint, shade) {
        (Some(tint), _) => {
            let left = f32::from(tint) / 255.0;
            each(&|value| value * left + 255.0 * (1.0 - left))
        }
        (None, Some(shade)) => each(&|value| value * f32::from(shade) / 255.0),
        (None, None) => colour,
    }
}

/// The named colours of a pen (17.18.40).
pub(super) fn pen(name: &str) -> Option<Colour> {
    Some(match name {
        "black" => Colour(0, 0, 0),
        "blue" => Colour(0, 0, 255),
        "cyan" => Colour(0, 255, 255),
        "green" => Colour(0, 255, 0),
        "magenta" => Colour(255, 0, 255),
        "red" => Colour(255, 0, 0),
        "yellow" => Colour(255, 255, 0),
        "white" => Colour(255, 255, 255),
        "darkBlue" => Colour(0, 0, 139),
        "darkCyan" => Colour(0, 139, 139),
        "darkGreen" => Colour(0, 100, 0),
        "darkMagenta" => Colour(139, 0, 139),
        "darkRed" => Colour(139, 0, 0),
        "darkYellow" => Colour(128, 128, 0),
        "darkGray" => Colour(169, 169, 169),
        "lightGray" => Colour(211, 211, 211),
        _ => return None,
    })
}

/// The line below a text (17.18.99).
pub(super) fn underline(name: Option<&str>) -> UnderlineLine {
    match name.unwrap_or("single") {
        "none" => UnderlineLine::None,
        "double" | "wavyDouble" => UnderlineLine::Double,
        "dotted" | "dottedHeavy" => UnderlineLine::Dotted,
        "wave" | "wavyHeavy" => UnderlineLine::Wavy,
        name if name.contains("ash") || name.contains("dot") => UnderlineLine::Dashed,
        _ => UnderlineLine::Single,
    }
}

/// A border (17.3.4): its line, and how far it stands from what is inside.
pub(super) fn border(element: &Element<'_>, theme: &Theme) -> (Border, Option<f32>) {
    let name = element.val();
    let name = name.as_deref().unwrap_or("none");
    let line = match name {
        "nil" | "none" => BorderLine::None,
        "dotted" => BorderLine::Dotted,
        name if name.starts_with("dash") || name.starts_with("dotD") => BorderLine::Dashed,
        name if name.starts_with("double")
            || name.starts_with("thin")
            || name.starts_with("thick") && name != "thick"
            || name.starts_with("triple") =>
        {
            BorderLine::Double
        }
        _ => BorderLine::Single,
    };
    let eighths = element.number("sz").unwrap_or(4).clamp(2, 96) as f32;
    // A double border is two lines of this thickness with one between them.
    let times = if line == BorderLine::Double { 3.0 } else { 1.0 };
    let width = Length::Points(eighths / 8.0 * times);
    let colour = element.colour("color", theme);
    let space = element.number("space").map(|points| points.clamp(0, 31) as f32);
    (Border { line, width, colour }, space)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn measures_are_twips_or_have_units() {
        let cases = [
            ("720", Some(36.0)),
            ("-240", Some(-12.0)),
            ("1in", Some(72.0)),
            ("2.54cm", Some(72.0)),
            ("12pt", Some(12.0)),
            ("99999999999", Some(LONGEST)),
            ("NaN", None),
            ("inf", None),
            ("", None),
            ("5 apples", None),
        ];
        for (text, expected) in cases {
            assert_eq!(points(text, 20.0), expected, "{text}");
        }
    }

    #[test]
    fn tints_lighten_and_shades_darken() {
        let blue = Colour(0x44, 0x72, 0xC4);
        assert_eq!(tinted(blue, Some(0x99), None), Colour(0x8F, 0xAA, 0xDC));
        assert_eq!(tinted(blue, None, Some(0xBF)), Colour(0x33, 0x55, 0x93));
    }
}
