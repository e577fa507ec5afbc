//! Classes, packages and what their options say; words of languages.

use super::{Reader, keys};
use crate::findings::Code;
use crate::tex::{Inclusion, Name, Spot};

/// What the class of a document decides.
#[derive(Debug, Clone, Default)]
pub(super) struct Class {
    pub(super) name: String,
    pub(super) has_chapters: bool,
    pub(super) is_slides: bool,
    pub(super) is_appendix: bool,
}

/// Words that LaTeX writes by itself.
#[derive(Debug, Clone, Copy)]
pub(super) struct Words {
    language: &'static str,
    pub(super) figure: &'static str,
    pub(super) table: &'static str,
    pub(super) listing: &'static str,
    pub(super) proof: &'static str,
    pub(super) and: &'static str,
    pub(super) to: &'static str,
    /// Part, chapter, section, equation, page, item, footnote, theorem.
    kinds: [&'static str; 8],
}

const WORDS: [Words; 4] = [
    Words {
        language: "en",
        figure: "Figure",
        table: "Table",
        listing: "Listing",
        proof: "Proof",
        and: "and",
        to: "to",
        kinds: ["part", "chapter", "section", "equation", "page", "item", "footnote", "theorem"],
    },
    Words {
        language: "de",
        figure: "Abbildung",
        table: "Tabelle",
        listing: "Listing",
        proof: "Beweis",
        and: "und",
        to: "bis",
        kinds: ["Teil", "Kapitel", "Abschnitt", "Gleichung", "Seite", "Punkt", "Fußnote", "Satz"],
    },
    Words {
        language: "fr",
        figure: "Figure",
        table: "Tableau",
        listing: "Listing",
        proof: "Démonstration",
        and: "et",
        to: "à",
        kinds: ["partie", "chapitre", "section", "équation", "page", "point", "note", "théorème"],
    },
    Words {
        language: "es",
        figure: "Figura",
        table: "Cuadro",
        listing: "Listado",
        proof: "Demostración",
        and: "y",
        to: "a",
        kinds: ["parte", "capítulo", "sección", "ecuación", "página", "punto", "nota", "teorema"],
    },
];

impl Default for Words {
    fn default() -> Self {
        let [english, ..] = WORDS;
        english
    }
}

impl Words {
    pub(super) fn of_language(tag: &str) -> Self {
        let known = WORDS.iter().find(|words| tag.starts_with(words.language));
        known.copied().unwrap_or_default()
    }

    /// What a reference calls its target.
    pub(super) fn of_kind(&self, kind: &str, how: Option<&str>) -> String {
        const KINDS: [&str; 8] =
            ["part", "chapter", "section", "equation", "page", "item", "footnote", "theorem"];
        let plain = match kind {
            "figure" | "subfigure" => self.figure.to_string(),
            "table" | "subtable" => self.table.to_string(),
            "lstlisting" => self.listing.to_string(),
            kind => {
                let at = KINDS.iter().position(|known| *known == kind);
                let known = at.and_then(|at| self.kinds.get(at));
                known.map_or_else(|| kind.to_string(), |word| (*word).to_string())
            }
        };
        let mut letters = plain.chars();
        let first = letters.next();
        let rest = letters.as_str();
        match (how, self.language) {
            (Some("\u{1}short"), "en") => {
                let short = match kind {
                    "figure" | "subfigure" => "fig.",
                    "equation" => "eq.",
                    _ => {
                        return format!(
                            "{}{rest}",
                            first.map(|c| c.to_lowercase().to_string()).unwrap_or_default()
                        );
                    }
                };
                short.to_string()
            }
            (Some("\u{1}capital"), _) => {
                format!("{}{rest}", first.map(|c| c.to_uppercase().to_string()).unwrap_or_default())
            }
            // The names of equations and theorems begin with capitals where they stand alone.
            (None, "en") if matches!(kind, "equation" | "theorem") => {
                format!("{}{rest}", first.map(|c| c.to_uppercase().to_string()).unwrap_or_default())
            }
            _ => plain,
        }
    }
}

/// Languages by the names that babel knows them by.
const TAGS: [(&str, &str); 44] = [
    ("american", "en-US"),
    ("arabic", "ar"),
    ("australian", "en-AU"),
    ("austrian", "de-AT"),
    ("basque", "eu"),
    ("brazil", "pt-BR"),
    ("brazilian", "pt-BR"),
    ("british", "en-GB"),
    ("bulgarian", "bg"),
    ("canadian", "en-CA"),
    ("catalan", "ca"),
    ("croatian", "hr"),
    ("czech", "cs"),
    ("danish", "da"),
    ("dutch", "nl"),
    ("english", "en"),
    ("estonian", "et"),
    ("finnish", "fi"),
    ("french", "fr"),
    ("francais", "fr"),
    ("german", "de"),
    ("greek", "el"),
    ("hebrew", "he"),
    ("hungarian", "hu"),
    ("icelandic", "is"),
    ("irish", "ga"),
    ("italian", "it"),
    ("japanese", "ja"),
    ("latin", "la"),
    ("ngerman", "de"),
    ("naustrian", "de-AT"),
    ("norsk", "nb"),
    ("nynorsk", "nn"),
    ("polish", "pl"),
    ("portuguese", "pt"),
    ("romanian", "ro"),
    ("russian", "ru"),
    ("slovak", "sk"),
    ("slovene", "sl"),
    ("spanish", "es"),
    ("swedish", "sv"),
    ("turkish", "tr"),
    ("ukrainian", "uk"),
    ("welsh", "cy"),
];

/// The name that babel knows a language by.
pub(crate) fn language_name(tag: &str) -> Option<&'static str> {
    let tag = match tag {
        "de-DE" => "de",
        "fr-FR" => "fr",
        "es-ES" => "es",
        "it-IT" => "it",
        "nl-NL" => "nl",
        other => other,
    };
    // The newer spelling of German is meant.
    if tag == "de" {
        return Some("ngerman");
    }
    TAGS.iter().find(|(_, known)| *known == tag).map(|(name, _)| *name)
}

/// Whether a class has chapters.
pub(crate) fn has_chapters(class: &str) -> bool {
    matches!(
        class,
        "report" | "book" | "memoir" | "scrbook" | "scrreprt" | "amsbook" | "extbook" | "extreport"
    )
}

/// The BCP 47 tag of a language by the name that babel knows it by.
pub(super) fn language_tag(name: &str) -> Option<&'static str> {
    let at = TAGS.iter().position(|(known, _)| *known == name.trim())?;
    TAGS.get(at).map(|(_, tag)| *tag)
}

impl Reader<'_> {
    /// What counters look like before any class is stated: those of an article.
    pub(super) fn set_counters_of_class(&mut self) {
        let (section, within) = match self.class.has_chapters {
            true => (r"\thechapter.\arabic{section}", Some("chapter")),
            false => (r"\arabic{section}", None),
        };
        self.front.define_text("thechapter", r"\arabic{chapter}");
        self.front.define_text("thesection", section);
        for counter in ["section", "figure", "table", "equation", "footnote"] {
            self.front.count_within(counter, "chapter", within.is_some());
        }
        for counter in ["figure", "table", "equation"] {
            let shown = match within {
                Some(_) => {
                    format!(r"\ifnum\value{{chapter}}>0 \thechapter.\fi\arabic{{{counter}}}")
                }
                None => format!(r"\arabic{{{counter}}}"),
            };
            self.front.define_text(&format!("the{counter}"), &shown);
        }
        let depth = match self.class.name.as_str() {
            "memoir" => 1,
            _ if self.class.has_chapters => 2,
            _ if self.class.is_slides => -2,
            _ => 3,
        };
        self.front.set_counter("secnumdepth", depth);
    }

    pub(super) fn document_class(&mut self) {
        let options = self.front.option_text().unwrap_or_default();
        let name = self.front.argument_text();
        self.front.option();
        self.class.has_chapters = has_chapters(&name);
        self.class.is_slides = name == "beamer";
        if matches!(name.as_str(), "ltxdoc" | "ltxguide" | "l3doc" | "ltnews") {
            self.set_short_verb('|', true);
        }
        self.class.name = name.clone();
        self.set_counters_of_class();
        for (option, _) in keys::options(&options) {
            self.language(&option);
        }
        let spot = self.front.spot();
        self.front.include(&format!("{name}.cls"), spot, true);
    }

    fn language(&mut self, name: &str) {
        let Some(tag) = language_tag(name) else { return };
        self.document.metadata.language = Some(tag.into());
        self.caption_words = Words::of_language(tag);
        self.is_german = tag.starts_with("de");
    }

    /// A package: languages and bibliographies are known; a file beside the document is read.
    pub(super) fn use_package(&mut self, spot: Spot) {
        let options = self.front.option_text().unwrap_or_default();
        let names = self.front.argument_text();
        self.front.option();
        let options = keys::options(&options);
        for name in names.split(',').map(str::trim) {
            if matches!(name, "babel" | "polyglossia") {
                for (option, value) in &options {
                    match option.as_str() {
                        "main" => self.language(value),
                        option => self.language(option),
                    }
                }
                if let Some(main) = keys::value(&options, "main") {
                    self.language(main);
                }
            }
            // The packages that German texts were written with before.
            if matches!(name, "german" | "ngerman") {
                self.language(name);
            }
            self.front.include(&format!("{name}.sty"), spot, true);
        }
    }

    /// `\input{file}`, `\include{file}`: with or without the extension.
    pub(super) fn input(&mut self, name: Name, spot: Spot) {
        let is_include = self.front.names.text(name) == "include";
        let tokens = self.front.argument();
        // The old way: a name without braces, up to a space.
        let mut file = self.front.typed(&tokens).trim().to_string();
        if tokens.len() == 1 && !file.is_empty() {
            while let Some(next) = self.front.peek_raw() {
                match next.token {
                    crate::tex::Token::Character(character, category)
                        if category != crate::tex::Category::Space
                            && !matches!(character, '{' | '}') =>
                    {
                        file.push(character);
                        self.front.next_raw();
                    }
                    _ => break,
                }
            }
        }
        if is_include {
            self.sheet.end_paragraph();
        }
        let with_extension = format!("{file}.tex");
        let mut inclusion = self.front.include(&with_extension, spot, false);
        if inclusion == Inclusion::Missing {
            inclusion = self.front.include(&file, spot, false);
        }
        if inclusion == Inclusion::Missing {
            self.findings.add_about(Code::IncludeMissing, &file, Some(spot.into()));
        }
    }
}
