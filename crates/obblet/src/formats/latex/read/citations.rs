//! Citations, and the works they cite.

use super::{Reader, Stop};
use crate::document::{
    BlockKind, Citation, CitationForm, Cite, CitedWork, Inline, plain_text, walk_inlines_mut,
};
use crate::findings::Code;
use crate::formats::latex::read_bibtex;
use crate::tex::{Name, Spot};

impl Reader<'_> {
    /// `\cite[before][behind]{keys}`, and several of these behind one command: `\cites[4]{one}[7]{two}`.
    pub(super) fn cite(&mut self, form: CitationForm, name: Name) {
        self.front.star();
        let command = self.front.names.text(name).to_string();
        let mut works = self.cited_works();
        while command.ends_with("cites") && matches!(self.front.next_sign(), Some('[' | '{')) {
            works.extend(self.cited_works());
        }
        if works.is_empty() {
            return;
        }
        self.cites = true;
        self.sheet.mark_place();
        let citation = Inline::Citation(Box::new(Citation { form, works }));
        if matches!(command.as_str(), "footcite" | "footfullcite" | "footcites") {
            let content = vec![crate::document::build::paragraph(vec![citation])];
            let kind = crate::document::NoteKind::Footnote;
            let id = self.document.add_note(crate::document::Note { kind, label: None, content });
            return self.sheet.push(Inline::NoteMark(id));
        }
        self.sheet.push(citation);
    }

    /// `[before][behind]{keys}`
    fn cited_works(&mut self) -> Vec<Cite> {
        let first = self.inline_option();
        let second = self.inline_option();
        let (before, behind) = match (first, second) {
            (Some(before), Some(behind)) => (before, behind),
            // One alone stands behind.
            (Some(behind), None) => (Vec::new(), behind),
            (None, _) => (Vec::new(), Vec::new()),
        };
        let keys = self.front.expanded_argument();
        // A star joins a work to the one before it.
        let key_of = |key: &str| match key.strip_prefix('*') {
            Some("") | None => key.into(),
            Some(joined) => joined.into(),
        };
        let mut works: Vec<Cite> = keys
            .split(',')
            .map(str::trim)
            .filter(|key| !key.is_empty())
            .map(|key| Cite { key: key_of(key), before: Vec::new(), behind: Vec::new() })
            .collect();
        if let Some(first) = works.first_mut() {
            first.before = before;
        }
        if let Some(last) = works.last_mut() {
            last.behind = behind;
        }
        works
    }

    /// `\bibliography{files}` is also where the list stands.
    pub(super) fn bibliography_file(&mut self, name: Name) {
        self.front.option();
        let is_place = self.front.names.text(name) == "bibliography";
        let files = self.front.expanded_argument();
        self.bibliography_files.extend(files.split(',').map(|file| file.trim().to_string()));
        if is_place {
            self.sheet.push_block(BlockKind::Bibliography.into());
        }
    }

    /// Reads the files of works, and tells which works nobody knows.
    pub(super) fn read_bibliography(&mut self) {
        for file in std::mem::take(&mut self.bibliography_files) {
            let with_extension =
                if file.ends_with(".bib") { file.clone() } else { format!("{file}.bib") };
            match self.front.file(&with_extension) {
                Some(text) => {
                    let (works, problems) = read_bibtex(&text);
                    for problem in problems {
                        self.findings.add_about(Code::BibliographyBroken, &problem, None);
                    }
                    self.document.bibliography.extend(works);
                }
                None => self.findings.add_about(Code::IncludeMissing, &with_extension, None),
            }
        }
        if !self.cites {
            return self.document.bibliography.retain(|work| work.kind == "bibitem");
        }
        let known: std::collections::HashSet<String> =
            self.document.bibliography.iter().map(|work| work.key.to_string()).collect();
        let mut missing = Vec::new();
        let mut used = std::collections::HashSet::new();
        let mut uses_all = false;
        let document = &mut self.document;
        let notes = document.notes.iter_mut().map(|note| &mut note.content);
        for blocks in std::iter::once(&mut document.blocks).chain(notes) {
            walk_inlines_mut(blocks, |place, inlines| {
                for inline in inlines {
                    let Inline::Citation(citation) = inline else { continue };
                    for work in &citation.works {
                        uses_all |= work.key == "*";
                        used.insert(work.key.to_string());
                        if !known.contains(work.key.as_str()) && work.key != "*" {
                            missing.push((work.key.clone(), place));
                        }
                    }
                }
            });
        }
        for (key, place) in missing {
            self.findings.count(Code::CitationMissing, &key, Some(place));
        }
        // A file of works may hold many that this document does not cite.
        let is_used = |work: &CitedWork| {
            uses_all || work.kind == "bibitem" || used.contains(work.key.as_str())
        };
        self.document.bibliography.retain(is_used);
    }

    /// `thebibliography`: works as text.
    pub(super) fn the_bibliography(&mut self, name: &str, spot: Spot) {
        self.front.argument();
        self.sheet.end_paragraph();
        let mut open: Option<(String, Option<String>)> = None;
        loop {
            let mut stop = Stop::End;
            let sheet = self.nested(|reader| {
                reader.sheet.is_list = true;
                stop = reader.run(None);
            });
            let content = self.in_line(sheet);
            let text = plain_text(&content);
            let text = text.split_whitespace().collect::<Vec<_>>().join(" ");
            if let Some((key, label)) = open.take() {
                let mut fields = vec![("text".into(), text)];
                fields.extend(label.map(|label| ("label".into(), label)));
                let kind = "bibitem".into();
                let work = CitedWork { key: key.into(), kind, fields, content: Vec::new() };
                self.document.bibliography.push(work.shown_as(content));
            }
            match stop {
                Stop::Item => {
                    let label = self.inline_option().map(|label| plain_text(&label));
                    let key = self.front.expanded_argument();
                    open = Some((key.into(), label));
                }
                stop if self.ends(stop, name, spot) => break,
                _ => {}
            }
        }
        self.sheet.push_block(BlockKind::Bibliography.into());
    }
}
