//! Dates: what a text says of a day or a moment, and how each format wants it.
//!
//! Texts say dates as ISO 8601 has them, or as people of a language write them. A day that no calendar has,
//! such as the 31st of February, is no date.

mod spelled;
mod written;

pub use spelled::spelled;

use jiff::civil::{Date, Time};
use jiff::tz::Offset;

/// A day, perhaps with a time and its distance from UTC.
///
/// ```
/// use obblet::dates::When;
/// let when = When::of("2026-05-12T00:30:00+02:00").expect("a moment");
/// assert_eq!(when.utc(), "2026-05-11T22:30:00Z");
/// assert_eq!(When::of("2026-02-31"), None);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct When {
    day: Date,
    time: Option<Time>,
    offset: Option<Offset>,
    /// Whether the time has seconds.
    has_seconds: bool,
}

impl When {
    /// What a text of ISO 8601 says: `2026-05-12`, or with a time behind `T` or a space, as in
    /// `2026-05-12T14:30:59+02:00`. `None` for anything else, and for days that do not exist.
    #[must_use]
    pub fn of(text: &str) -> Option<Self> {
        let (day, behind) = text.split_at_checked(10)?;
        let [year, month, day] = numbers(day, '-', [4, 2, 2])?;
        let day = Date::new(year, i8::try_from(month).ok()?, i8::try_from(day).ok()?).ok()?;
        // HTML has no year 0 (HTML Standard, 2.3.5.1).
        if year == 0 {
            return None;
        }
        let when = Self { day, time: None, offset: None, has_seconds: false };
        if behind.is_empty() {
            return Some(when);
        }
        let time = behind.strip_prefix(['T', ' '])?;
        let at = time.find(['Z', '+', '-']).unwrap_or(time.len());
        let (clock, offset) = time.split_at_checked(at)?;
        let (time, has_seconds) = time_of(clock)?;
        let offset = if offset.is_empty() { None } else { Some(offset_of(offset)?) };
        Some(Self { time: Some(time), offset, has_seconds, ..when })
    }

    /// The same, or a day as people write it in the language of a BCP 47 tag: `15.04.2026`, `May 3, 2026`,
    /// `3 de mayo de 2026`. `None` where it could be two days, as `03/04/2026` in English.
    ///
    /// ```
    /// use obblet::dates::When;
    /// let day = |text, language| When::of_text(text, language).map(|when| when.day());
    /// assert_eq!(day("3. Mai 2026", "de").as_deref(), Some("2026-05-03"));
    /// assert_eq!(day("04/03/2026", "en-US").as_deref(), Some("2026-04-03"));
    /// assert_eq!(day("04/03/2026", "en"), None);
    /// ```
    #[must_use]
    pub fn of_text(text: &str, language: &str) -> Option<Self> {
        Self::of(text).or_else(|| {
            let day = written::day(text, language)?;
            Some(Self { day, time: None, offset: None, has_seconds: false })
        })
    }

    /// The day alone, as in `2026-05-12`.
    #[must_use]
    pub fn day(&self) -> String {
        let Self { day, .. } = self;
        format!("{:04}-{:02}-{:02}", day.year(), day.month(), day.day())
    }

    /// A valid date, or date and time, of HTML (HTML Standard, 2.3.5).
    #[must_use]
    pub fn html(&self) -> String {
        let Some(time) = self.time else { return self.day() };
        let mut text = format!("{}T{:02}:{:02}", self.day(), time.hour(), time.minute());
        if self.has_seconds {
            text.push_str(&format!(":{:02}", time.second()));
            let thousandths = time.subsec_nanosecond() / 1_000_000;
            if thousandths > 0 {
                text.push_str(&format!(".{thousandths:03}"));
            }
        }
        match self.offset.map(Offset::seconds) {
            None => {}
            Some(0) => text.push('Z'),
            Some(seconds) => {
                let minutes = seconds.abs() / 60;
                let sign = if seconds < 0 { '-' } else { '+' };
                text.push_str(&format!("{sign}{:02}:{:02}", minutes / 60, minutes % 60));
            }
        }
        text
    }

    /// A day, or a date and time of XML Schema (Part 2, 3.3.7), which always has seconds.
    #[must_use]
    pub fn xml(&self) -> String {
        Self { has_seconds: true, ..*self }.html()
    }

    /// The moment to the second in UTC, as Atom and EPUB want it (RFC 3339). A day without a time is its
    /// first moment; a time without a distance from UTC counts as UTC.
    #[must_use]
    pub fn utc(&self) -> String {
        let local = self.day.to_datetime(self.time.unwrap_or(Time::midnight()));
        let moment = self.offset.unwrap_or(Offset::UTC).to_timestamp(local);
        let moment = moment.map_or(local, |moment| Offset::UTC.to_datetime(moment));
        let day = Self { day: moment.date(), time: None, offset: None, has_seconds: false };
        let (hour, minute, second) = (moment.hour(), moment.minute(), moment.second());
        format!("{}T{hour:02}:{minute:02}:{second:02}Z", day.day())
    }
}

/// Year, month and day of a text that is a day of ISO 8601 and nothing else.
pub(crate) fn day_of(text: &str) -> Option<(i16, u8, u8)> {
    let day = When::of(text).filter(|when| when.time.is_none())?.day;
    let month = u8::try_from(day.month()).ok()?;
    Some((day.year(), month, u8::try_from(day.day()).ok()?))
}

/// Whether a text begins with the form of a day that does not exist, such as `2026-02-31` or
/// `<2026-02-31 Tue>`.
#[must_use]
pub fn is_impossible(text: &str) -> bool {
    let text = text.trim_start_matches(['<', '[']);
    let day = text.split(['T', ' ', '>', ']']).next().unwrap_or_default();
    numbers(day, '-', [4, 2, 2]).is_some() && When::of(day).is_none()
}

/// Three numbers of so many digits each.
fn numbers(text: &str, sign: char, digits: [usize; 3]) -> Option<[i16; 3]> {
    let mut parts = text.split(sign);
    let mut number = |digits: usize| {
        let part = parts.next()?;
        let fits = part.len() == digits && part.bytes().all(|byte| byte.is_ascii_digit());
        part.parse::<i16>().ok().filter(|_| fits)
    };
    let [first, second, third] = digits;
    let found = [number(first)?, number(second)?, number(third)?];
    parts.next().is_none().then_some(found)
}

fn two(text: &str) -> Option<i8> {
    let fits = text.len() == 2 && text.bytes().all(|byte| byte.is_ascii_digit());
    text.parse().ok().filter(|_| fits)
}

/// A time, and whether it has seconds.
fn time_of(text: &str) -> Option<(Time, bool)> {
    let mut parts = text.split(':');
    let (hour, minute, second) = (two(parts.next()?)?, two(parts.next()?)?, parts.next());
    if parts.next().is_some() {
        return None;
    }
    let Some(second) = second else {
        return Some((Time::new(hour, minute, 0, 0).ok()?, false));
    };
    let (second, part) = second.split_once('.').unwrap_or((second, "0"));
    if part.is_empty() || part.len() > 9 || !part.bytes().all(|byte| byte.is_ascii_digit()) {
        return None;
    }
    let nanoseconds = format!("{part:0<9}").parse().ok()?;
    Some((Time::new(hour, minute, two(second)?, nanoseconds).ok()?, true))
}

/// `Z`, `+02:00` or `+0200`.
fn offset_of(text: &str) -> Option<Offset> {
    if text == "Z" {
        return Some(Offset::UTC);
    }
    let sign = if text.starts_with('-') { -1 } else { 1 };
    let digits = text.get(1..)?.replacen(':', "", 1);
    let (hours, minutes) = digits.split_at_checked(2)?;
    let (hours, minutes) = (i32::from(two(hours)?), i32::from(two(minutes)?));
    let fits = hours < 24 && minutes < 60;
    Offset::from_seconds(sign * (hours * 3600 + minutes * 60)).ok().filter(|_| fits)
}

#[cfg(test)]
mod tests;
