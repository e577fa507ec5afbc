//! What the values of attributes may be (HTML Standard, 2.3).

use url::Url;

/// What an attribute's value must be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Value {
    Any,
    /// Nothing, or the attribute's own name.
    Flag,
    Integer,
    /// A whole number from 0 on.
    Natural,
    /// A whole number from 1 on.
    Positive,
    Number,
    /// Not empty.
    Filled,
    Id,
    IdReference,
    IdReferences,
    Address,
    /// An address that is not empty.
    FilledAddress,
    OneOf(&'static [&'static str]),
    /// Words parted by white space.
    Words(&'static [&'static str]),
    Language,
    Direction,
    MediaType,
    /// A date, a time, a duration or the like.
    Moment,
    /// A date with or without a time.
    DateTime,
    Colour,
    /// The name of a window: no underscore first but for the known ones.
    Target,
    /// `true` or `false`.
    Truth,
    /// Addresses of pictures with widths or densities.
    SourceSet,
    Style,
    /// A name of a map: a number sign first.
    MapName,
}

impl Value {
    /// What is wrong with a value, in words; `None` where nothing is.
    pub(super) fn fault(self, value: &str, attribute: &str) -> Option<String> {
        let trimmed = value.trim_matches(is_space);
        match self {
            // Where the values refer to is looked at apart.
            Self::Any | Self::IdReference | Self::IdReferences => None,
            Self::Flag => (!value.is_empty() && !value.eq_ignore_ascii_case(attribute))
                .then(|| "it takes no value".into()),
            Self::Integer => unless(is_integer(value), "it must be a whole number"),
            Self::Natural => {
                unless(is_natural(value), "it must be a whole number from 0 on, without a unit")
            }
            Self::Positive => unless(
                is_natural(value) && value.bytes().any(|digit| digit != b'0'),
                "it must be a whole number from 1 on",
            ),
            Self::Number => unless(is_number(value), "it must be a number"),
            Self::Filled => unless(!trimmed.is_empty(), "it must not be empty"),
            Self::Id => unless(
                !value.is_empty() && !value.contains(is_space),
                "an id must not be empty or hold white space",
            ),
            Self::Address => address_fault(value),
            Self::FilledAddress if trimmed.is_empty() => Some("it must not be empty".into()),
            Self::FilledAddress => address_fault(value),
            Self::OneOf(words) => one_of(value, words),
            Self::Words(words) => value.split_ascii_whitespace().find_map(|one| one_of(one, words)),
            Self::Language => {
                unless(value.is_empty() || is_language(value), "it is no language tag (BCP 47)")
            }
            Self::Direction => one_of(value, &["ltr", "rtl", "auto"]),
            Self::MediaType => unless(is_media_type(value), "it must be a media type"),
            Self::Moment => unless(is_moment(trimmed), "it is no date, time or duration"),
            Self::DateTime => {
                unless(is_date_time(trimmed), "it is no date, with or without a time")
            }
            Self::Colour => unless(
                value.len() == 7
                    && value.starts_with('#')
                    && value.bytes().skip(1).all(|digit| digit.is_ascii_hexdigit()),
                "it must be a colour such as #00aaff",
            ),
            Self::Target => unless(
                !value.is_empty()
                    && (!value.starts_with('_')
                        || ["_blank", "_self", "_parent", "_top"]
                            .iter()
                            .any(|known| known.eq_ignore_ascii_case(value))),
                "it is no name of a window",
            ),
            Self::Truth => one_of(value, &["true", "false"]),
            Self::SourceSet => source_set_fault(value),
            Self::Style => style_fault(value),
            Self::MapName => unless(
                value.len() > 1 && value.starts_with('#'),
                "it must be the name of a map behind a number sign",
            ),
        }
    }
}

fn unless(holds: bool, fault: &str) -> Option<String> {
    (!holds).then(|| fault.to_string())
}

fn one_of(value: &str, words: &[&str]) -> Option<String> {
    let is_known = words.iter().any(|word| word.eq_ignore_ascii_case(value));
    let all = || words.iter().filter(|word| !word.is_empty()).copied().collect::<Vec<_>>();
    (!is_known).then(|| format!("it must be one of {}", all().join(", ")))
}

pub(super) fn is_space(c: char) -> bool {
    matches!(c, ' ' | '\t' | '\n' | '\r' | '\u{C}')
}

fn is_natural(value: &str) -> bool {
    !value.is_empty() && value.bytes().all(|byte| byte.is_ascii_digit())
}

fn is_integer(value: &str) -> bool {
    is_natural(value.strip_prefix('-').unwrap_or(value))
}

/// HTML Standard, 2.3.4.3: no plus sign, no point without digits behind it.
fn is_number(value: &str) -> bool {
    let unsigned = value.strip_prefix('-').unwrap_or(value);
    let (base, exponent) = match unsigned.split_once(['e', 'E']) {
        Some((base, exponent)) => (base, Some(exponent)),
        None => (unsigned, None),
    };
    let is_exponent = exponent
        .is_none_or(|exponent| is_natural(exponent.strip_prefix(['-', '+']).unwrap_or(exponent)));
    let is_base = match base.split_once('.') {
        Some((whole, part)) => (whole.is_empty() || is_natural(whole)) && is_natural(part),
        None => is_natural(base),
    };
    is_base && is_exponent
}

/// Languages of two letters (ISO 639-1); longer ones are taken as they are.
const LANGUAGES: &str = "aa ab ae af ak am an ar as av ay az ba be bg bh bi bm bn bo br bs ca ce ch \
    co cr cs cu cv cy da de dv dz ee el en eo es et eu fa ff fi fj fo fr fy ga gd gl gn gu gv ha he \
    hi ho hr ht hu hy hz ia id ie ig ii ik io is it iu ja jv ka kg ki kj kk kl km kn ko kr ks ku kv \
    kw ky la lb lg li ln lo lt lu lv mg mh mi mk ml mn mr ms mt my na nb nd ne ng nl nn no nr nv ny \
    oc oj om or os pa pi pl ps pt qu rm rn ro ru rw sa sc sd se sg sh si sk sl sm sn so sq sr ss st \
    su sv sw ta te tg th ti tk tl tn to tr ts tt tw ty ug uk ur uz ve vi vo wa wo xh yi yo za zh zu";

/// BCP 47, without the registry but for languages of two letters.
pub(in super::super) fn is_language(tag: &str) -> bool {
    let mut parts = tag.split('-');
    let language = parts.next().unwrap_or_default();
    let is_letters = |part: &str| part.bytes().all(|byte| byte.is_ascii_alphabetic());
    let is_alphanumeric = |part: &str| part.bytes().all(|byte| byte.is_ascii_alphanumeric());
    let is_known = match language.len() {
        1 => matches!(language, "x" | "X" | "i" | "I") && tag.len() > 2,
        2 => LANGUAGES.split_ascii_whitespace().any(|one| one.eq_ignore_ascii_case(language)),
        3 => true,
        _ => false,
    };
    let is_fitting = |part: &str| (1..=8).contains(&part.len()) && is_alphanumeric(part);
    is_known && is_letters(language) && parts.all(is_fitting)
}

fn is_media_type(value: &str) -> bool {
    let essence = value.split(';').next().unwrap_or_default().trim_matches(is_space);
    let is_token = |part: &str| {
        let is_sign = |byte: u8| byte.is_ascii_alphanumeric() || b"!#$&-^_.+*".contains(&byte);
        !part.is_empty() && part.bytes().all(is_sign)
    };
    essence.split_once('/').is_some_and(|(kind, name)| is_token(kind) && is_token(name))
}

fn digits(text: &str, least: usize, most: usize) -> Option<u32> {
    let fits = (least..=most).contains(&text.len()) && is_natural(text);
    fits.then(|| text.parse().ok()).flatten()
}

fn is_year(text: &str) -> bool {
    text.len() >= 4 && is_natural(text) && text.bytes().any(|digit| digit != b'0')
}

fn is_month_and_day(month: &str, day: &str, year: Option<&str>) -> bool {
    let Some(month) = digits(month, 2, 2).filter(|month| (1..=12).contains(month)) else {
        return false;
    };
    let year = year.map_or(4, |year| year.parse::<u64>().unwrap_or(1));
    let is_leap = year.is_multiple_of(4) && (!year.is_multiple_of(100) || year.is_multiple_of(400));
    let last = match month {
        2 if is_leap => 29,
        2 => 28,
        4 | 6 | 9 | 11 => 30,
        _ => 31,
    };
    digits(day, 2, 2).is_some_and(|day| (1..=last).contains(&day))
}

fn is_date(text: &str) -> bool {
    let mut parts = text.split('-');
    match (parts.next(), parts.next(), parts.next(), parts.next()) {
        (Some(year), Some(month), Some(day), None) => {
            is_year(year) && is_month_and_day(month, day, Some(year))
        }
        _ => false,
    }
}

fn is_time(text: &str) -> bool {
    let mut parts = text.split(':');
    let (Some(hour), Some(minute), second, None) =
        (parts.next(), parts.next(), parts.next(), parts.next())
    else {
        return false;
    };
    let below = |text: &str, limit: u32| digits(text, 2, 2).is_some_and(|number| number < limit);
    let is_second = second.is_none_or(|second| match second.split_once('.') {
        Some((whole, part)) => below(whole, 60) && digits(part, 1, 3).is_some(),
        None => below(second, 60),
    });
    below(hour, 24) && below(minute, 60) && is_second
}

fn is_offset(text: &str) -> bool {
    text == "Z"
        || text.strip_prefix(['+', '-']).is_some_and(|offset| match offset.split_once(':') {
            Some(_) => is_time(offset) && offset.len() == 5,
            None => offset.len() == 4 && is_natural(offset),
        })
}

/// A date, or a date and a time with or without a place on the globe.
fn is_date_time(text: &str) -> bool {
    let Some((date, time)) = text.split_once(['T', ' ']) else { return is_date(text) };
    let offset = time.find(['Z', '+', '-']);
    let (time, offset) = time.split_at(offset.unwrap_or(time.len()));
    is_date(date) && is_time(time) && (offset.is_empty() || is_offset(offset))
}

/// HTML Standard, 4.5.14: what a `time` may say.
pub(super) fn is_moment(text: &str) -> bool {
    let parts: Vec<&str> = text.split('-').collect();
    let is_short = match parts.as_slice() {
        [year] => is_year(year),
        ["", "", month, day] => is_month_and_day(month, day, None),
        [year, week] if week.starts_with('W') => {
            let number = digits(week.get(1..).unwrap_or_default(), 2, 2);
            is_year(year) && number.is_some_and(|week| (1..=53).contains(&week))
        }
        [year, month] if is_year(year) => {
            digits(month, 2, 2).is_some_and(|month| (1..=12).contains(&month))
        }
        [month, day] => is_month_and_day(month, day, None),
        _ => false,
    };
    is_short || is_date_time(text) || is_time(text) || is_offset(text) || is_duration(text)
}

fn is_duration(text: &str) -> bool {
    if let Some(rest) = text.strip_prefix('P') {
        let (days, time) = match rest.split_once('T') {
            Some((days, time)) => (days, Some(time)),
            None => (rest, None),
        };
        let is_days = days.is_empty() || days.strip_suffix('D').is_some_and(is_natural);
        let is_some = !days.is_empty() || time.is_some_and(|time| !time.is_empty());
        return is_days && is_some && time.is_none_or(is_units);
    }
    let mut words = text.split_ascii_whitespace().peekable();
    words.peek().is_some()
        && words.all(|word| {
            let Some(number) = word.strip_suffix(['w', 'd', 'h', 'm', 's']) else { return false };
            is_natural(number) || (word.ends_with('s') && is_number(number))
        })
}

/// `2H30M5.5S`
fn is_units(text: &str) -> bool {
    let mut rest = text;
    for unit in ['H', 'M', 'S'] {
        if let Some((number, behind)) = rest.split_once(unit) {
            if !(is_natural(number) || (unit == 'S' && is_number(number))) {
                return false;
            }
            rest = behind;
        }
    }
    rest.is_empty()
}

/// URL Standard, 4.3: what is no valid address, though browsers make the best of it.
fn address_fault(value: &str) -> Option<String> {
    let value = value.trim_matches(is_space);
    let is_data = value.get(..5).is_some_and(|start| start.eq_ignore_ascii_case("data:"));
    let is_script = value.get(..11).is_some_and(|start| start.eq_ignore_ascii_case("javascript:"));
    if is_script {
        return None;
    }
    let (body, fragment) = match value.split_once('#') {
        Some((body, fragment)) => (body, Some(fragment)),
        None => (value, None),
    };
    let illegal = |c: char| match c {
        '\t' | '\n' | '\r' => !is_data,
        ' ' | '<' | '>' | '"' | '\\' | '^' | '`' | '{' | '|' | '}' => true,
        c => c.is_control(),
    };
    for c in body.chars() {
        // An address of a literal host has its brackets.
        let is_bracket = matches!(c, '[' | ']') && !body.contains("//[");
        if illegal(c) || is_bracket {
            return Some(format!("an address must not hold {}", named(c)));
        }
    }
    if let Some(c) =
        fragment.and_then(|fragment| fragment.chars().find(|c| *c == '#' || illegal(*c)))
    {
        return Some(format!("an address must not hold {}", named(c)));
    }
    if let Some(at) = broken_percent(value) {
        return Some(format!("% must be followed by two hexadecimal digits: {at}"));
    }
    let base = Url::parse("https://marrowby.example/").ok()?;
    let parsed = base.join(value);
    let scheme = value.split_once(':').map(|(scheme, _)| scheme).filter(|scheme| {
        !scheme.is_empty()
            && scheme.bytes().all(|b| b.is_ascii_alphanumeric() || b"+-.".contains(&b))
    });
    if let (Some(scheme), Ok(_)) = (scheme, &parsed)
        && ["http", "https", "ftp"].iter().any(|known| known.eq_ignore_ascii_case(scheme))
        && !value.get(scheme.len() + 1..).is_some_and(|rest| rest.starts_with("//"))
    {
        return Some(format!("“{scheme}:” must be followed by two slashes"));
    }
    parsed.err().map(|error| error.to_string())
}

fn named(c: char) -> String {
    match c {
        ' ' => "a space (write %20)".into(),
        c if c.is_control() => format!("the control character U+{:04X}", c as u32),
        c => format!("“{c}”"),
    }
}

fn broken_percent(value: &str) -> Option<&str> {
    let bytes = value.as_bytes();
    let is_hex = |at: usize| bytes.get(at).is_some_and(u8::is_ascii_hexdigit);
    memchr::memchr_iter(b'%', bytes)
        .find(|at| !(is_hex(at + 1) && is_hex(at + 2)))
        .map(|at| value.get(at..).unwrap_or_default().split('/').next().unwrap_or_default())
}

/// HTML Standard, 4.8.4.2.1.
fn source_set_fault(value: &str) -> Option<String> {
    let mut kinds = [false; 3];
    for part in value.split(", ").flat_map(|part| part.split(",\n")) {
        let mut words = part.trim_matches(is_space).trim_end_matches(',').split_ascii_whitespace();
        let Some(address) = words.next() else {
            return Some("a picture is missing in the list".into());
        };
        if let Some(fault) = address_fault(address) {
            return Some(fault);
        }
        let kind = match words.next() {
            None => 0,
            Some(width) if width.strip_suffix('w').is_some_and(|n| is_natural(n) && n != "0") => 1,
            Some(density) if density.strip_suffix('x').is_some_and(is_number) => 2,
            Some(other) => return Some(format!("“{other}” is neither a width nor a density")),
        };
        if let Some(seen) = kinds.get_mut(kind) {
            *seen = true;
        }
        if words.next().is_some() {
            return Some("a picture has one width or density".into());
        }
    }
    (kinds[1] && (kinds[0] || kinds[2])).then(|| "all pictures or none must have a width".into())
}

/// A list of declarations as far as its form goes; which properties there are is for style sheets.
fn style_fault(value: &str) -> Option<String> {
    let mut parser = cssparser::Parser::new(value);
    loop {
        while parser.try_parse(cssparser::Parser::expect_semicolon).is_ok() {}
        if parser.is_exhausted() {
            return None;
        }
        let Ok(name) = parser.expect_ident_cloned() else {
            return Some("a property was expected".into());
        };
        if parser.expect_colon().is_err() {
            return Some(format!("a colon was expected behind “{name}”"));
        }
        let mut is_empty = true;
        while !parser.is_exhausted() {
            match parser.next() {
                Ok(cssparser::Token::Semicolon) => break,
                Ok(cssparser::Token::BadString(_) | cssparser::Token::BadUrl(_)) => {
                    return Some(format!("the value of “{name}” is broken"));
                }
                Ok(_) => is_empty = false,
                Err(_) => break,
            }
        }
        if is_empty {
            return Some(format!("“{name}” has no value"));
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn values_are_told_from_what_is_none() {
        let cases: [(Value, &[&str], &[&str]); 12] = [
            (Value::Natural, &["0", "120"], &["", "-1", "12px", "1.5", "50%"]),
            (Value::Integer, &["-3", "0"], &["+3", "x", ""]),
            (Value::Number, &["1.5", "-2e3", ".5", "1e+3"], &["1.", "+1", "e3", ""]),
            (Value::Flag, &["", "x", "X"], &["true", "1"]),
            (Value::Language, &["en", "de-AT", "grc", ""], &["english", "e", "xq", "en_GB"]),
            (Value::Colour, &["#00AAff"], &["red", "#fff", "00aaff0"]),
            (Value::DateTime, &["1893-04-01", "2024-02-29T10:30Z"], &["1.4.1893", "2023-02-29"]),
            (
                Value::Moment,
                &["1893", "1893-04", "04-01", "2024-W07", "10:30", "PT4H", "4h 18m", "+01:00"],
                &["noon", "1893-13", "25:00", "P"],
            ),
            (
                Value::Address,
                &["", "a%20b.html", "#x", "https://a.example/?q=1", "mailto:a@b.example", "//h/x"],
                &["a b.html", "https://a b/", "x%2", "c:\\mill.txt", "http:/mill", "https://"],
            ),
            (
                Value::SourceSet,
                &["a.png 2x, b.png", "a.png 100w"],
                &["a.png 2y", "a.png 1w, b.png"],
            ),
            (Value::Style, &["", "color: red; margin: 0"], &["color", "red;", "color:"]),
            (Value::Target, &["_blank", "mill"], &["_new", ""]),
        ];
        for (value, good, bad) in cases {
            for good in good {
                assert_eq!(value.fault(good, "x"), None, "{value:?} {good}");
            }
            for bad in bad {
                assert!(value.fault(bad, "x").is_some(), "{value:?} {bad}");
            }
        }
    }
}
