//! Numbers with units: `\num`, `\qty`, `\unit`, `\ang` and their ranges.

use super::Reader;
use super::commands::Action;
use crate::tex::Located;

/// Prefixes and units by their commands. Sorted.
const UNITS: &[(&str, &str)] = &[
    ("%", "%"),
    ("A", "A"),
    ("ampere", "A"),
    ("angstrom", "Å"),
    ("arcminute", "′"),
    ("arcsecond", "″"),
    ("bar", "bar"),
    ("becquerel", "Bq"),
    ("bit", "bit"),
    ("byte", "B"),
    ("celsius", "°C"),
    ("centi", "c"),
    ("cm", "cm"),
    ("coulomb", "C"),
    ("day", "d"),
    ("deci", "d"),
    ("decibel", "dB"),
    ("degree", "°"),
    ("degreeCelsius", "°C"),
    ("electronvolt", "eV"),
    ("farad", "F"),
    ("giga", "G"),
    ("gram", "g"),
    ("hectare", "ha"),
    ("hecto", "h"),
    ("henry", "H"),
    ("hertz", "Hz"),
    ("hour", "h"),
    ("joule", "J"),
    ("kW", "kW"),
    ("kWh", "kWh"),
    ("kelvin", "K"),
    ("kg", "kg"),
    ("kilo", "k"),
    ("kilogram", "kg"),
    ("km", "km"),
    ("liter", "L"),
    ("litre", "L"),
    ("lumen", "lm"),
    ("lux", "lx"),
    ("m", "m"),
    ("mega", "M"),
    ("meter", "m"),
    ("metre", "m"),
    ("micro", "µ"),
    ("milli", "m"),
    ("minute", "min"),
    ("mm", "mm"),
    ("mole", "mol"),
    ("nano", "n"),
    ("newton", "N"),
    ("ohm", "Ω"),
    ("pascal", "Pa"),
    ("percent", "%"),
    ("pico", "p"),
    ("radian", "rad"),
    ("s", "s"),
    ("second", "s"),
    ("tera", "T"),
    ("tesla", "T"),
    ("tonne", "t"),
    ("volt", "V"),
    ("watt", "W"),
    ("weber", "Wb"),
    ("year", "a"),
];

impl Reader<'_> {
    pub(super) fn unit_command(&mut self, action: Action) {
        self.front.option();
        self.sheet.mark_place();
        let to = self.caption_words.to;
        let shown = match action {
            Action::Number => number(&self.front.argument_text()),
            Action::Unit => {
                let tokens = self.front.argument();
                self.unit(&tokens)
            }
            Action::Quantity => {
                let value = number(&self.front.argument_text());
                self.front.option();
                let tokens = self.front.argument();
                with_unit(&value, &self.unit(&tokens))
            }
            Action::Angle => angle(&self.front.argument_text()),
            Action::NumberRange => {
                let (first, last) = (self.front.argument_text(), self.front.argument_text());
                format!("{} {to} {}", number(&first), number(&last))
            }
            Action::QuantityRange => {
                let (first, last) = (self.front.argument_text(), self.front.argument_text());
                let tokens = self.front.argument();
                let unit = self.unit(&tokens);
                format!(
                    "{} {to} {}",
                    with_unit(&number(&first), &unit),
                    with_unit(&number(&last), &unit)
                )
            }
            _ => {
                let list = self.front.argument_text();
                let numbers: Vec<String> = list.split(';').map(number).collect();
                match numbers.split_last() {
                    Some((last, rest)) if !rest.is_empty() => {
                        format!("{} {} {last}", rest.join(", "), self.caption_words.and)
                    }
                    _ => numbers.concat(),
                }
            }
        };
        self.sheet.text.push_str(&shown);
    }

    /// Units: factors side by side, raised to powers, after `\per` below.
    fn unit(&self, tokens: &[Located]) -> String {
        let typed = self.front.typed(tokens);
        let mut shown = String::new();
        let mut is_below = false;
        let mut power = String::new();
        let mut is_prefix = false;
        let mut rest = typed.trim();
        while let Some(first) = rest.chars().next() {
            if first == '\\' {
                let name = rest.get(1..).unwrap_or_default();
                let length = name.find(|c: char| !c.is_ascii_alphabetic()).unwrap_or(name.len());
                let length = length.max(usize::from(!name.is_empty()));
                let (name, behind) = name.split_at_checked(length).unwrap_or((name, ""));
                rest = behind.trim_start();
                match name {
                    "per" => is_below = true,
                    "square" => power = "2".into(),
                    "cubic" => power = "3".into(),
                    "squared" => push_power(&mut shown, "2"),
                    "cubed" => push_power(&mut shown, "3"),
                    "tothe" | "raiseto" => {
                        let (stated, behind) = group(rest);
                        push_power(&mut shown, stated);
                        rest = behind;
                    }
                    name => {
                        let known = UNITS.binary_search_by_key(&name, |(known, _)| known).ok();
                        let unit =
                            known.and_then(|at| UNITS.get(at)).map_or(name, |(_, unit)| unit);
                        if !is_prefix && !shown.is_empty() {
                            shown.push(if is_below { '/' } else { '\u{202F}' });
                        } else if is_below && shown.is_empty() {
                            shown.push_str("1/");
                        }
                        shown.push_str(unit);
                        is_prefix = is_prefix_name(name);
                        if !is_prefix {
                            is_below = false;
                            push_power(&mut shown, &std::mem::take(&mut power));
                        }
                    }
                }
                continue;
            }
            rest = rest.get(first.len_utf8()..).unwrap_or_default();
            match first {
                '.' | '~' => shown.push('\u{202F}'),
                '^' => {
                    let (stated, behind) = group(rest);
                    push_power(&mut shown, stated);
                    rest = behind;
                }
                '{' | '}' | '$' => {}
                other => shown.push(other),
            }
        }
        shown
    }
}

fn is_prefix_name(name: &str) -> bool {
    matches!(
        name,
        "kilo"
            | "mega"
            | "giga"
            | "tera"
            | "milli"
            | "micro"
            | "nano"
            | "pico"
            | "centi"
            | "deci"
            | "hecto"
    )
}

/// What stands in braces, or one sign, and what is behind it.
fn group(text: &str) -> (&str, &str) {
    let text = text.trim_start();
    match text.strip_prefix('{').and_then(|inside| inside.split_once('}')) {
        Some(parts) => parts,
        None => text.split_at(text.chars().next().map_or(0, char::len_utf8)),
    }
}

fn push_power(shown: &mut String, power: &str) {
    for sign in power.trim().chars() {
        shown.push(match sign {
            '0' => '⁰',
            '1' => '¹',
            '2' => '²',
            '3' => '³',
            '4' => '⁴',
            '5' => '⁵',
            '6' => '⁶',
            '7' => '⁷',
            '8' => '⁸',
            '9' => '⁹',
            '-' => '⁻',
            other => other,
        });
    }
}

fn with_unit(value: &str, unit: &str) -> String {
    let room = if unit.starts_with('°') && unit.chars().count() == 1 { "" } else { "\u{a0}" };
    format!("{value}{room}{unit}")
}

/// A number: digits in groups of three from five on, its exponent as a power of ten.
fn number(text: &str) -> String {
    let text = text.trim().replace(' ', "");
    let text = text.replace("+-", "±").replace("\\pm", "±");
    let (mantissa, exponent) = match text.split_once(['e', 'E']) {
        Some((mantissa, exponent)) => (mantissa.to_string(), Some(exponent.to_string())),
        None => (text, None),
    };
    let mut shown = String::new();
    for (at, part) in mantissa.split('±').enumerate() {
        if at > 0 {
            shown.push('±');
        }
        shown.push_str(&grouped(part));
    }
    if let Some(exponent) = exponent {
        if !shown.is_empty() {
            shown.push('×');
        }
        shown.push_str("10");
        push_power(&mut shown, &exponent);
    }
    shown
}

fn grouped(number: &str) -> String {
    let (sign, digits) = match number.strip_prefix('-') {
        Some(digits) => ("−", digits),
        None => ("", number),
    };
    let (whole, fraction) = digits.split_once(['.', ',']).unwrap_or((digits, ""));
    let is_number = whole.bytes().all(|b| b.is_ascii_digit());
    if !is_number || whole.len() < 5 {
        return format!("{sign}{}", digits.replace(',', "."));
    }
    let mut parts = Vec::new();
    let first = whole.len() % 3;
    if first > 0 {
        parts.push(whole.get(..first).unwrap_or_default());
    }
    let mut at = first;
    while at < whole.len() {
        parts.push(whole.get(at..at + 3).unwrap_or_default());
        at += 3;
    }
    let point = if fraction.is_empty() { "" } else { "." };
    format!("{sign}{}{point}{fraction}", parts.join("\u{202F}"))
}

/// `10;20;30`: degrees, minutes, seconds.
fn angle(text: &str) -> String {
    let mut shown = String::new();
    for (part, sign) in text.split(';').zip(["°", "′", "″"]) {
        if !part.trim().is_empty() {
            shown.push_str(&number(part));
            shown.push_str(sign);
        }
    }
    shown
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_grouped_and_have_powers() {
        assert!(UNITS.is_sorted_by_key(|(name, _)| *name));
        for (typed, shown) in [
            ("1234", "1234"),
            ("12345.6", "12\u{202F}345.6"),
            ("-3", "−3"),
            ("1.5e-3", "1.5×10⁻³"),
            ("1.2+-0.1", "1.2±0.1"),
            ("1234567", "1\u{202F}234\u{202F}567"),
        ] {
            assert_eq!(number(typed), shown);
        }
        assert_eq!(angle("12;30"), "12°30′");
    }
}
