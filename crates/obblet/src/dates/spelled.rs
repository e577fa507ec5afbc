//! Days in the words of a language.

use super::When;

/// How a language writes a date.
struct Dates {
    /// The primary subtag of the language.
    language: &'static str,
    months: [&'static str; 12],
    /// What stands behind the day, the month and the year.
    behind: [&'static str; 3],
}

#[rustfmt::skip]
static DATES: [Dates; 12] = [
    Dates { language: "en", months: ["January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"], behind: [" ", " ", ""] },
    Dates { language: "de", months: ["Januar", "Februar", "März", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November", "Dezember"], behind: [". ", " ", ""] },
    Dates { language: "fr", months: ["janvier", "février", "mars", "avril", "mai", "juin", "juillet", "août", "septembre", "octobre", "novembre", "décembre"], behind: [" ", " ", ""] },
    Dates { language: "es", months: ["enero", "febrero", "marzo", "abril", "mayo", "junio", "julio", "agosto", "septiembre", "octubre", "noviembre", "diciembre"], behind: [" de ", " de ", ""] },
    Dates { language: "nl", months: ["januari", "februari", "maart", "april", "mei", "juni", "juli", "augustus", "september", "oktober", "november", "december"], behind: [" ", " ", ""] },
    Dates { language: "it", months: ["gennaio", "febbraio", "marzo", "aprile", "maggio", "giugno", "luglio", "agosto", "settembre", "ottobre", "novembre", "dicembre"], behind: [" ", " ", ""] },
    Dates { language: "pt", months: ["janeiro", "fevereiro", "março", "abril", "maio", "junho", "julho", "agosto", "setembro", "outubro", "novembro", "dezembro"], behind: [" de ", " de ", ""] },
    Dates { language: "pl", months: ["stycznia", "lutego", "marca", "kwietnia", "maja", "czerwca", "lipca", "sierpnia", "września", "października", "listopada", "grudnia"], behind: [" ", " ", ""] },
    Dates { language: "cs", months: ["ledna", "února", "března", "dubna", "května", "června", "července", "srpna", "září", "října", "listopadu", "prosince"], behind: [". ", " ", ""] },
    Dates { language: "ru", months: ["января", "февраля", "марта", "апреля", "мая", "июня", "июля", "августа", "сентября", "октября", "ноября", "декабря"], behind: [" ", " ", " г."] },
    Dates { language: "sv", months: ["januari", "februari", "mars", "april", "maj", "juni", "juli", "augusti", "september", "oktober", "november", "december"], behind: [" ", " ", ""] },
    Dates { language: "da", months: ["januar", "februar", "marts", "april", "maj", "juni", "juli", "august", "september", "oktober", "november", "december"], behind: [". ", " ", ""] },
];

/// The names of the months in the language of a BCP 47 tag.
pub(super) fn months(language: &str) -> Option<&'static [&'static str; 12]> {
    of_language(language).map(|dates| &dates.months)
}

fn of_language(language: &str) -> Option<&'static Dates> {
    let primary = language.split('-').next().unwrap_or_default();
    DATES.iter().find(|dates| dates.language.eq_ignore_ascii_case(primary))
}

/// A date as one writes it in the language of a BCP 47 tag, with the month in words; `None` for what is no
/// date, and where this is not known of the language.
///
/// ```
/// assert_eq!(obblet::dates::spelled("en-GB", "2026-05-02").as_deref(), Some("2 May 2026"));
/// ```
#[must_use]
pub fn spelled(language: &str, date: &str) -> Option<String> {
    let known = of_language(language)?;
    let day = When::of(date)?.day;
    let (year, number) = (day.year(), day.day());
    let month = known.months.get(usize::try_from(day.month()).ok()?.checked_sub(1)?)?;
    if language.eq_ignore_ascii_case("en-US") {
        return Some(format!("{month} {number}, {year}"));
    }
    let [behind_day, behind_month, behind_year] = known.behind;
    Some(format!("{number}{behind_day}{month}{behind_month}{year}{behind_year}"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_language_has_its_way_with_dates() {
        let cases = [
            ("en-GB", "2026-05-02", Some("2 May 2026")),
            ("en-US", "2026-05-02", Some("May 2, 2026")),
            ("de-AT", "2026-03-12T10:00", Some("12. März 2026")),
            ("es", "2026-01-31", Some("31 de enero de 2026")),
            ("ru", "2026-12-01", Some("1 декабря 2026 г.")),
            ("tlh", "2026-12-01", None),
            ("en", "2026-13-01", None),
            ("en", "spring 2026", None),
        ];
        for (language, iso, words) in cases {
            assert_eq!(spelled(language, iso).as_deref(), words, "{language} {iso}");
        }
    }
}
