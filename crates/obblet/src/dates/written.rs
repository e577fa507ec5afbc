//! Days as people write them.

use super::spelled::months;
use jiff::civil::Date;

/// Words that stand between the parts of a date and say nothing.
const BETWEEN: [&str; 7] = ["de", "del", "of", "the", "den", "г", "le"];

/// What stands behind the number of a day.
const ORDINALS: [&str; 7] = ["st", "nd", "rd", "th", "er", "º", "ª"];

/// The day that a text says in a language; `None` where it is none, or could be two.
pub(super) fn day(text: &str, language: &str) -> Option<Date> {
    let text = text.trim();
    of_numbers(text, language).or_else(|| of_words(text, language))
}

/// `15.04.2026`, `2026/4/15`, `15/04/2026`.
fn of_numbers(text: &str, language: &str) -> Option<Date> {
    let sign = text.chars().find(|c| !c.is_ascii_digit())?;
    let mut parts = text.split(sign).map(str::trim);
    let [one, two, three] = [parts.next()?, parts.next()?, parts.next()?];
    if !matches!(sign, '.' | '/' | '-') || parts.next().is_some() {
        return None;
    }
    if one.len() == 4 {
        return date(one, two, three);
    }
    if three.len() != 4 {
        return None;
    }
    let (day_first, month_first) = (date(three, two, one), date(three, one, two));
    if sign == '.' {
        return day_first;
    }
    let primary = language.split('-').next().unwrap_or_default();
    match primary {
        _ if language.eq_ignore_ascii_case("en-US") => month_first,
        // Only the United States of America begin with the month.
        "en" if !language.contains('-') => match (day_first, month_first) {
            (Some(one), Some(other)) if one != other => None,
            (day_first, month_first) => day_first.or(month_first),
        },
        _ => day_first,
    }
}

/// `May 3, 2026`, `3rd of May 2026`, `3. Mai 2026`, `1er mai 2026`.
fn of_words(text: &str, language: &str) -> Option<Date> {
    let (mut year, mut month, mut day) = (None, None, None);
    for word in text.split([' ', '\u{a0}', ',', '.']).filter(|word| !word.is_empty()) {
        let digits = word.bytes().take_while(u8::is_ascii_digit).count();
        let (number, behind) = word.split_at_checked(digits)?;
        let slot = match (digits, behind) {
            (0, word) if BETWEEN.contains(&word.to_lowercase().as_str()) => continue,
            (0, word) => {
                let number = month_named(word, language)?.to_string();
                if month.replace(number).is_some() {
                    return None;
                }
                continue;
            }
            (4, "") => &mut year,
            (1 | 2, "") => &mut day,
            (1 | 2, behind) if ORDINALS.contains(&behind) => &mut day,
            _ => return None,
        };
        if slot.replace(number).is_some() {
            return None;
        }
    }
    date(year?, &month?, day?)
}

/// The month of a name or of its first letters, three at least, in a language or in English.
fn month_named(word: &str, language: &str) -> Option<usize> {
    let word = word.to_lowercase();
    [language, "en"].into_iter().filter_map(months).find_map(|names| {
        let fits = |name: &&&str| name.to_lowercase().starts_with(&word);
        let at = names.iter().position(|name| name.to_lowercase() == word);
        let of_letters = || {
            let mut fitting = names.iter().enumerate().filter(|(_, name)| fits(name));
            let (at, _) = fitting.next()?;
            (word.chars().count() >= 3 && fitting.next().is_none()).then_some(at)
        };
        Some(at.or_else(of_letters)? + 1)
    })
}

fn date(year: &str, month: &str, day: &str) -> Option<Date> {
    let fits =
        |part: &str| (1..=4).contains(&part.len()) && part.bytes().all(|b| b.is_ascii_digit());
    if ![year, month, day].into_iter().all(fits) {
        return None;
    }
    let date = Date::new(year.parse().ok()?, month.parse().ok()?, day.parse().ok()?).ok()?;
    (date.year() > 0).then_some(date)
}
