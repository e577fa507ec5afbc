//! Dates: `<2026-11-27 Fri 10:00-11:30 +1w -2d>` (Org syntax, “Timestamps”).

use crate::document::{Moment, Timestamp};

/// Whether a text begins with a timestamp.
pub(in crate::formats::org) fn timestamp_at(text: &str) -> bool {
    timestamp(text).is_some()
}

/// The timestamp that a text begins with, and its length.
pub(super) fn timestamp(text: &str) -> Option<(Timestamp, usize)> {
    let (mut first, length) = single(text)?;
    let behind = text.get(length..)?.strip_prefix("--").and_then(|rest| {
        let (second, second_length) = single(rest)?;
        let is_span = first.end.is_none() && second.active == first.active && second.end.is_none();
        is_span.then_some((second, second_length))
    });
    if let Some((second, second_length)) = behind {
        first.end = Some(second.start);
        first.repeater = first.repeater.or(second.repeater);
        first.warning = first.warning.or(second.warning);
        return Some((first, length + 2 + second_length));
    }
    Some((first, length))
}

fn single(text: &str) -> Option<(Timestamp, usize)> {
    let active = match text.as_bytes().first()? {
        b'<' => true,
        b'[' => false,
        _ => return None,
    };
    // No timestamp is long; what is not closed soon is none.
    let window = text.as_bytes().get(..text.len().min(120))?;
    let end = memchr::memchr2(b'>', b']', window)?;
    if text.as_bytes().get(end) != Some(if active { &b'>' } else { &b']' }) {
        return None;
    }
    let inner = text.get(1..end)?;
    let mut words = inner.split([' ', '\t']).filter(|word| !word.is_empty());
    let start = Moment::of_day(words.next()?)?;
    let mut timestamp = Timestamp { active, start, end: None, repeater: None, warning: None };
    for (at, word) in words.enumerate() {
        let first = word.chars().next()?;
        if let Some((from, to)) = times(word) {
            timestamp.start.time = Some(from);
            timestamp.end = to.map(|time| Moment { time: Some(time), ..timestamp.start });
        } else if is_interval(word, &["++", ".+", "+"]) {
            timestamp.repeater = Some(word.into());
        } else if is_interval(word, &["--", "-"]) {
            timestamp.warning = Some(word.into());
        } else if at > 0 || first.is_ascii_digit() || matches!(first, '+' | '-') {
            // Only the name of the day may be any word.
            return None;
        }
    }
    Some((timestamp, end + 1))
}

type Time = (u8, u8);

/// `10:00` or `10:00-11:30`.
fn times(word: &str) -> Option<(Time, Option<Time>)> {
    match word.split_once('-') {
        Some((from, to)) => Some((time(from)?, Some(time(to)?))),
        None => Some((time(word)?, None)),
    }
}

fn time(text: &str) -> Option<Time> {
    let (hour, minute) = text.split_once(':')?;
    let is_time = (1..=2).contains(&hour.len()) && minute.len() == 2;
    let (hour, minute) = (hour.parse().ok()?, minute.parse().ok()?);
    (is_time && hour < 24 && minute < 60).then_some((hour, minute))
}

/// A mark, a number and a unit; a repeater may state a deadline behind a slash.
fn is_interval(word: &str, marks: &[&str]) -> bool {
    let Some(rest) = marks.iter().find_map(|mark| word.strip_prefix(mark)) else { return false };
    rest.split('/').all(|interval| {
        let number = interval.trim_end_matches(['h', 'd', 'w', 'm', 'y']);
        number.len() + 1 == interval.len() && number.parse::<u32>().is_ok()
    })
}

/// A date as people write it, where a timestamp says nothing more than one.
pub(super) fn bare_date(text: &str) -> String {
    match timestamp(text) {
        Some((timestamp, length)) if length == text.len() => timestamp.spelled(),
        _ => text.to_string(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn dates_times_spans_and_repeaters() {
        let shown = |text: &str| {
            timestamp(text).map(|(found, length)| {
                let more =
                    [found.repeater.as_deref(), found.warning.as_deref()].map(|m| m.unwrap_or(""));
                format!("{} {} {} {}", found.active, found.spelled(), more.join(" "), length)
            })
        };
        let cases = [
            ("<2026-11-27 Fri>", Some("true 2026-11-27   16")),
            ("[2026-11-27 Fri 9:05] x", Some("false 2026-11-27 09:05   21")),
            ("<2026-11-27 10:00-11:30>", Some("true 2026-11-27 10:00–2026-11-27 11:30   24")),
            ("<2026-11-27>--<2026-11-29>", Some("true 2026-11-27–2026-11-29   26")),
            ("<2026-11-27 Fr. ++1w/2w -2d>", Some("true 2026-11-27 ++1w/2w -2d 28")),
            ("<2026-13-27>", None),
            ("<2026-11-27 Fri tide>", None),
            ("<2026-11-27]", None),
        ];
        for (text, expected) in cases {
            assert_eq!(shown(text).as_deref(), expected, "{text}");
        }
    }
}
