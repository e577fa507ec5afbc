//! The words that a folder of pages shows between its pages, by language.

use crate::dates;

/// The words of one language.
#[derive(Debug, Clone, Copy)]
pub struct SiteWords {
    /// The primary subtag of the language.
    language: &'static str,
    /// Says what the list of folders above a page is.
    pub trail: &'static str,
    /// Heads the list of pages beside a page.
    pub pages: &'static str,
    /// Says what the links to the previous and next page are.
    pub turn: &'static str,
    /// Stands at the link to the previous page.
    pub previous: &'static str,
    /// Stands at the link to the next page.
    pub next: &'static str,
    /// Heads lists of tags.
    pub tags: &'static str,
    /// Stands at the search box.
    pub search: &'static str,
    /// Shown when a search finds nothing.
    pub nothing_found: &'static str,
    /// The title of the page that a server shows for a wrong address.
    pub not_found: &'static str,
    /// What that page says.
    pub not_found_text: &'static str,
    /// The title of a page that leads from an old address to a new one.
    pub moved: &'static str,
    /// What that page says, before the link.
    pub moved_text: &'static str,
}

/// English first: it stands in for all languages that are not here.
static WORDS: [SiteWords; 5] = [
    SiteWords {
        language: "en",
        trail: "You are here",
        pages: "Pages",
        turn: "Read on",
        previous: "Previous",
        next: "Next",
        tags: "Topics",
        search: "Search",
        nothing_found: "Nothing found",
        not_found: "This page is not here",
        not_found_text: "It may have been renamed or taken away.",
        moved: "This page has moved",
        moved_text: "It is now at",
    },
    SiteWords {
        language: "de",
        trail: "Sie sind hier",
        pages: "Seiten",
        turn: "Weiterlesen",
        previous: "Zurück",
        next: "Weiter",
        tags: "Themen",
        search: "Suche",
        nothing_found: "Nichts gefunden",
        not_found: "Diese Seite gibt es hier nicht",
        not_found_text: "Vielleicht wurde sie umbenannt oder entfernt.",
        moved: "Diese Seite ist umgezogen",
        moved_text: "Sie steht jetzt unter",
    },
    SiteWords {
        language: "fr",
        trail: "Vous êtes ici",
        pages: "Pages",
        turn: "Suite de la lecture",
        previous: "Précédent",
        next: "Suivant",
        tags: "Thèmes",
        search: "Rechercher",
        nothing_found: "Aucun résultat",
        not_found: "Cette page n’est pas ici",
        not_found_text: "Elle a peut-être été renommée ou retirée.",
        moved: "Cette page a changé d’adresse",
        moved_text: "Elle se trouve maintenant ici :",
    },
    SiteWords {
        language: "es",
        trail: "Está aquí",
        pages: "Páginas",
        turn: "Seguir leyendo",
        previous: "Anterior",
        next: "Siguiente",
        tags: "Temas",
        search: "Buscar",
        nothing_found: "Sin resultados",
        not_found: "Esta página no está aquí",
        not_found_text: "Quizá se le cambió el nombre o se retiró.",
        moved: "Esta página ha cambiado de lugar",
        moved_text: "Ahora está en",
    },
    SiteWords {
        language: "nl",
        trail: "U bent hier",
        pages: "Pagina’s",
        turn: "Verder lezen",
        previous: "Vorige",
        next: "Volgende",
        tags: "Onderwerpen",
        search: "Zoeken",
        nothing_found: "Niets gevonden",
        not_found: "Deze pagina is er niet",
        not_found_text: "Misschien heeft ze een andere naam of is ze weggehaald.",
        moved: "Deze pagina is verhuisd",
        moved_text: "Ze staat nu op",
    },
];

impl SiteWords {
    /// The words of a language by its BCP 47 tag, or the English ones.
    #[must_use]
    pub fn of_language(tag: &str) -> &'static Self {
        let primary = tag.split('-').next().unwrap_or_default();
        let known = WORDS.iter().find(|words| words.language.eq_ignore_ascii_case(primary));
        known.unwrap_or(&WORDS[0])
    }

    /// A date as one writes it in this language, with the month in words: `12 May 2026`,
    /// `12. Mai 2026`. Anything that does not begin with a date of ISO 8601 stays as it is.
    #[must_use]
    pub fn date(&self, date: &str) -> String {
        dates::spelled(self.language, date).unwrap_or_else(|| date.into())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn dates_are_spelled_in_words() {
        let cases = [
            ("en-GB", "2026-05-02", "2 May 2026"),
            ("de", "2026-03-12T10:00", "12. März 2026"),
            ("es", "2026-01-31", "31 de enero de 2026"),
            ("xx", "2026-13-01", "2026-13-01"),
            ("en", "spring 2026", "spring 2026"),
            ("en", "März–Mai", "März–Mai"),
        ];
        for (language, date, spelled) in cases {
            assert_eq!(SiteWords::of_language(language).date(date), spelled);
        }
    }
}
