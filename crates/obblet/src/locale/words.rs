//! The few words that pages show on their own, by language.

use crate::document::{AdmonitionKind, ContentsKind};

/// The words of one language.
#[derive(Debug)]
pub(crate) struct Words {
    /// The primary subtag of the language.
    language: &'static str,
    pub(crate) contents: &'static str,
    figures: &'static str,
    tables: &'static str,
    pub(crate) notes: &'static str,
    pub(crate) endnotes: &'static str,
    pub(crate) comments: &'static str,
    pub(crate) back_to_text: &'static str,
    pub(crate) summary: &'static str,
    pub(crate) bibliography: &'static str,
    pub(crate) skip_to_text: &'static str,
    pub(crate) format_change: &'static str,
    /// Scheduled, deadline, closed.
    pub(crate) planning: [&'static str; 3],
    /// What a box that can be ticked says to those who do not see it: open, partly done, done.
    pub(crate) boxes: [&'static str; 3],
    /// Note, tip, important, warning, caution.
    admonitions: [&'static str; 5],
}

/// English first: it stands in for all languages that are not here.
static WORDS: [Words; 5] = [
    Words {
        language: "en",
        contents: "Contents",
        figures: "Figures",
        tables: "Tables",
        notes: "Notes",
        endnotes: "Endnotes",
        comments: "Comments",
        back_to_text: "Back to the text",
        summary: "Abstract",
        bibliography: "References",
        skip_to_text: "Skip to the text",
        format_change: "Format changed",
        planning: ["Scheduled", "Deadline", "Closed"],
        boxes: ["To do", "Partly done", "Done"],
        admonitions: ["Note", "Tip", "Important", "Warning", "Caution"],
    },
    Words {
        language: "de",
        contents: "Inhalt",
        figures: "Abbildungen",
        tables: "Tabellen",
        notes: "Anmerkungen",
        endnotes: "Endnoten",
        comments: "Kommentare",
        back_to_text: "Zurück zum Text",
        summary: "Zusammenfassung",
        bibliography: "Literatur",
        skip_to_text: "Zum Text springen",
        format_change: "Format geändert",
        planning: ["Geplant", "Frist", "Erledigt"],
        boxes: ["Zu tun", "Teils erledigt", "Erledigt"],
        admonitions: ["Hinweis", "Tipp", "Wichtig", "Warnung", "Vorsicht"],
    },
    Words {
        language: "fr",
        contents: "Sommaire",
        figures: "Figures",
        tables: "Tableaux",
        notes: "Notes",
        endnotes: "Notes de fin",
        comments: "Commentaires",
        back_to_text: "Retour au texte",
        summary: "Résumé",
        bibliography: "Bibliographie",
        skip_to_text: "Aller au texte",
        format_change: "Mise en forme modifiée",
        planning: ["Prévu", "Échéance", "Clos"],
        boxes: ["À faire", "Fait en partie", "Fait"],
        admonitions: ["Remarque", "Astuce", "Important", "Avertissement", "Attention"],
    },
    Words {
        language: "es",
        contents: "Contenido",
        figures: "Figuras",
        tables: "Tablas",
        notes: "Notas",
        endnotes: "Notas finales",
        comments: "Comentarios",
        back_to_text: "Volver al texto",
        summary: "Resumen",
        bibliography: "Referencias",
        skip_to_text: "Ir al texto",
        format_change: "Formato cambiado",
        planning: ["Previsto", "Plazo", "Cerrado"],
        boxes: ["Por hacer", "Hecho en parte", "Hecho"],
        admonitions: ["Nota", "Consejo", "Importante", "Advertencia", "Precaución"],
    },
    Words {
        language: "nl",
        contents: "Inhoud",
        figures: "Figuren",
        tables: "Tabellen",
        notes: "Noten",
        endnotes: "Eindnoten",
        comments: "Opmerkingen",
        back_to_text: "Terug naar de tekst",
        summary: "Samenvatting",
        bibliography: "Literatuur",
        skip_to_text: "Naar de tekst",
        format_change: "Opmaak gewijzigd",
        planning: ["Gepland", "Uiterlijk", "Afgesloten"],
        boxes: ["Te doen", "Deels gedaan", "Gedaan"],
        admonitions: ["Opmerking", "Tip", "Belangrijk", "Waarschuwing", "Let op"],
    },
];

impl Words {
    /// The words of all languages there are words for.
    pub(crate) fn all() -> impl Iterator<Item = &'static Self> {
        WORDS.iter()
    }

    /// What a list of these is called.
    pub(crate) fn list_name(&self, kind: ContentsKind) -> &'static str {
        match kind {
            ContentsKind::Headings => self.contents,
            ContentsKind::Figures => self.figures,
            ContentsKind::Tables => self.tables,
        }
    }

    /// The words of a language by its BCP 47 tag, or the English ones.
    pub(crate) fn of_language(tag: Option<&str>) -> &'static Self {
        let primary = tag.and_then(|tag| tag.split('-').next()).unwrap_or("en");
        let known = WORDS.iter().find(|words| words.language.eq_ignore_ascii_case(primary));
        known.unwrap_or(&WORDS[0])
    }

    /// The title of an admonition that has none of its own.
    pub(crate) fn admonition(&self, kind: &AdmonitionKind) -> &'static str {
        let [note, tip, important, warning, caution] = self.admonitions;
        match kind {
            AdmonitionKind::Note | AdmonitionKind::Other(_) => note,
            AdmonitionKind::Tip => tip,
            AdmonitionKind::Important => important,
            AdmonitionKind::Warning => warning,
            AdmonitionKind::Caution => caution,
        }
    }
}
