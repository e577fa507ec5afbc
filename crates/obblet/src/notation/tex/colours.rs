//! Colours by their names, and by their numbers.

/// The names that LaTeX and CSS share with the same colour, and LaTeX's own (colour, CSS).
const NAMES: [(&str, &str); 19] = [
    ("black", "black"),
    ("blue", "blue"),
    ("brown", "#bf8040"),
    ("cyan", "cyan"),
    ("darkgray", "#404040"),
    ("gray", "gray"),
    ("green", "#00ff00"),
    ("lightgray", "#bfbfbf"),
    ("lime", "#bfff00"),
    ("magenta", "magenta"),
    ("olive", "olive"),
    ("orange", "#ff8000"),
    ("pink", "#ffbfbf"),
    ("purple", "#bf0040"),
    ("red", "red"),
    ("teal", "teal"),
    ("violet", "purple"),
    ("white", "white"),
    ("yellow", "yellow"),
];

/// A colour as CSS has it, from a model (empty for a name) and what it is in that model.
pub(crate) fn css_colour(model: &str, value: &str) -> Option<String> {
    let value = value.trim();
    let numbers =
        || -> Option<Vec<f64>> { value.split(',').map(|part| part.trim().parse().ok()).collect() };
    let hex = |parts: [f64; 3]| {
        let [r, g, b] = parts.map(|part| (part.clamp(0.0, 1.0) * 255.0).round() as u8);
        format!("#{r:02x}{g:02x}{b:02x}")
    };
    match model.trim() {
        "" => {
            let known = NAMES.iter().find(|(name, _)| *name == value);
            known.map(|(_, css)| (*css).to_string())
        }
        "HTML" => (value.len() == 6 && value.bytes().all(|b| b.is_ascii_hexdigit()))
            .then(|| format!("#{}", value.to_ascii_lowercase())),
        "rgb" => <[f64; 3]>::try_from(numbers()?).ok().map(hex),
        "RGB" => {
            let parts = <[f64; 3]>::try_from(numbers()?).ok()?;
            Some(hex(parts.map(|part| part / 255.0)))
        }
        "gray" => numbers()?.first().map(|grey| hex([*grey; 3])),
        "cmyk" => {
            let [c, m, y, k] = <[f64; 4]>::try_from(numbers()?).ok()?;
            Some(hex([c, m, y].map(|part| (1.0 - part) * (1.0 - k))))
        }
        _ => None,
    }
}

/// A colour as LaTeX has it: model (empty for a name) and value.
pub(crate) fn tex_colour(css: &str) -> (&'static str, String) {
    let known = NAMES.iter().find(|(_, known)| *known == css);
    match (known, css.strip_prefix('#')) {
        (Some((name, _)), _) => ("", (*name).to_string()),
        (None, Some(digits)) => ("HTML", digits.to_ascii_uppercase()),
        (None, None) => ("", css.to_string()),
    }
}

/// The six hexadecimal digits of a colour of CSS that formulas use.
pub(crate) fn hex_digits(css: &str) -> Option<String> {
    const DIGITS: [(&str, &str); 12] = [
        ("black", "000000"),
        ("blue", "0000FF"),
        ("cyan", "00FFFF"),
        ("gray", "808080"),
        ("magenta", "FF00FF"),
        ("olive", "808000"),
        ("purple", "800080"),
        ("red", "FF0000"),
        ("teal", "008080"),
        ("white", "FFFFFF"),
        ("yellow", "FFFF00"),
        ("green", "008000"),
    ];
    if let Some(digits) = css.strip_prefix('#') {
        return Some(digits.to_ascii_uppercase());
    }
    DIGITS.iter().find(|(name, _)| *name == css).map(|(_, digits)| (*digits).to_string())
}
