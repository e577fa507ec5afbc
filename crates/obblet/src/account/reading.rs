//! Between a source and the document that was read from it.

use super::align::{Aligned, piece_in_any};
use super::letters::words;
use super::phrases::{KeptWords, Phrases};
use super::pieces::{self, Pieces};
use super::source::word::{WordsOfPart, words_of_part};
use super::source::{latex, markdown, org, page};
use super::strays::{Strays, for_each_word};
use super::{FEW_WORDS, MARK};
use crate::document::{Block, Document, Place, SourceMap};
use crate::findings::{Account, Code, Findings};
use crate::format::Format;
use crate::work;
use std::cell::OnceCell;
use std::ops::Range;

/// How many words in a row may have reached nothing without a finding, where macros decide what becomes
/// of arguments, and how large a part of all words such rows may be.
const MACRO_SLACK: u64 = 5;
const MACRO_SHARE: u64 = 50;
/// The least letters of a part of a word that macros put together.
const PART: usize = 3;
/// The part of all words that marks and labels may be elsewhere.
const MARK_SHARE: u64 = 2000;

/// Accounts for a text that was read.
pub(crate) fn of_reading(
    format: Format,
    map: &SourceMap,
    document: &Document,
    findings: &mut Findings,
) -> Account {
    let texts: Vec<&str> = match map {
        _ if work::is_over() => return Account::default(),
        SourceMap::Text(text) => vec![text],
        SourceMap::Files(files) => files.iter().map(|(_, text)| &**text).collect(),
        _ => return Account::default(),
    };
    let mut account = SourceAccount::of_texts(format, &texts);
    if let SourceMap::Files(files) = map {
        account.reach_packages(files.iter().map(|(name, _)| name.as_str()));
    }
    account.blocks(&document.blocks);
    account.beside(document);
    account.settle(Some(document), findings)
}

/// Accounts for the parts of a Word file, the main one first, then notes and comments.
pub(crate) fn of_parts(parts: &[&str], document: &Document, findings: &mut Findings) -> Account {
    if work::is_over() {
        return Account::default();
    }
    let mut account = SourceAccount::of_parts(parts);
    account.blocks(&document.blocks);
    account.beside(document);
    account.settle(Some(document), findings)
}

/// What was found of a document in its source.
pub(crate) struct SourceAccount<'t> {
    format: Format,
    texts: Vec<&'t str>,
    sources: Vec<Aligned<'t>>,
    /// What stands where in the parts of a package.
    parts: Vec<WordsOfPart>,
    /// The source that the last block was in.
    current: usize,
    is_beside: bool,
    words: u64,
    /// Words of the document that were not found in the source.
    strays: Strays,
    /// Words that were found in markup, though they stand in the text.
    mistaken: Strays,
    /// Blocks that come before those they stand behind.
    moved: u64,
    formulas: u64,
    /// Words of gaps that the document has as often as the sources have them.
    kept_words: KeptWords,
    /// Where the lines of a page begin but for the first, once somebody asks.
    line_starts: OnceCell<Vec<usize>>,
}

impl<'t> SourceAccount<'t> {
    pub(crate) fn of_texts(format: Format, texts: &[&'t str]) -> Self {
        let aligned = |text: &&'t str| match format {
            Format::Html => Aligned::with_tags(text, page::source_slices(text)),
            Format::Org => Aligned::new(text.as_bytes(), org::slices(text)),
            Format::Markdown => Aligned::new(text.as_bytes(), markdown::slices(text)),
            _ => Aligned::whole(text),
        };
        let sources = texts.iter().map(aligned).collect();
        Self::new(format, texts.to_vec(), sources)
    }

    fn of_parts(texts: &[&'t str]) -> Self {
        let mut parts: Vec<_> = texts.iter().map(|text| words_of_part(text)).collect();
        let pairs = texts.iter().zip(&mut parts);
        let sources = pairs
            .map(|(text, part)| Aligned::with_tags(text, std::mem::take(&mut part.slices)))
            .collect();
        Self { parts, ..Self::new(Format::Word, texts.to_vec(), sources) }
    }

    fn new(format: Format, texts: Vec<&'t str>, sources: Vec<Aligned<'t>>) -> Self {
        Self {
            format,
            texts,
            sources,
            parts: Vec::new(),
            current: 0,
            is_beside: false,
            words: 0,
            strays: Strays::default(),
            mistaken: Strays::default(),
            moved: 0,
            formulas: 0,
            kept_words: KeptWords::default(),
            line_starts: OnceCell::new(),
        }
    }

    /// Packages and classes of TeX define commands; what text they make is what commands make.
    fn reach_packages<'n>(&mut self, names: impl Iterator<Item = &'n str>) {
        for (name, (text, source)) in names.zip(self.texts.iter().zip(&mut self.sources)) {
            if name.ends_with(".sty") || name.ends_with(".cls") {
                source.reach(0..text.len());
            }
        }
    }

    /// Finds the words of blocks, which come in the order of the source.
    pub(crate) fn blocks(&mut self, blocks: &[Block]) {
        pieces::give_blocks(blocks, self);
    }

    /// Finds what a document holds beside its blocks.
    pub(crate) fn beside(&mut self, document: &Document) {
        self.is_beside = true;
        self.notes_under_other_labels(document);
        pieces::give_beside(document, self);
        for (_, field) in document.bibliography.iter().flat_map(|work| &work.fields) {
            for_each_word(field.as_bytes(), |word| self.mistaken.add(word));
        }
        for line in pieces::of_itself(document) {
            for source in &mut self.sources {
                source.go_to(0);
                source.piece(&line, |_| ());
            }
        }
    }

    /// Notes stand behind their labels.
    fn notes_under_other_labels(&mut self, document: &Document) {
        if !matches!(self.format, Format::Markdown | Format::Org) {
            return;
        }
        for note in &document.notes {
            let (Some(label), Some(first)) = (&note.label, note.content.first()) else { continue };
            let text = self.texts.get(first.place.source as usize).copied().unwrap_or_default();
            let before = text.get(..first.place.start as usize).unwrap_or_default();
            let line = before.rfind('\n').and_then(|at| before.get(at..)).unwrap_or(before);
            self.moved += u64::from(!line.contains(label.as_str()));
        }
    }

    /// Adds it up: what no piece stands in and no finding names is a finding. Of a document that is there
    /// as a whole, a second look is taken at what seems to have reached nothing.
    pub(crate) fn settle(
        mut self,
        document: Option<&Document>,
        findings: &mut Findings,
    ) -> Account {
        self.reach_markup();
        if let Some(document) = document {
            self.look_again(document);
        }
        let mut account =
            Account { document: self.words, source: self.words, ..Account::default() };
        let explanations = findings.explanations();
        for Gap { place, words } in self.gaps() {
            account.source += words;
            if findings.explains(&explanations, place, words) {
                account.left_out += words;
            } else {
                account.unaccounted += words;
                findings.add_words(Code::TextUnaccounted, words, place);
            }
        }
        account.added = self.strays.count();
        account.moved = self.moved + self.sources.iter().map(Aligned::moved).sum::<u64>();
        self.report_formulas(findings);
        // What macros make is not in the source.
        if self.format != Format::Latex {
            report_more(&account, findings);
        }
        account
    }

    /// Formulas have words of their own in each format: they are counted.
    fn report_formulas(&self, findings: &mut Findings) {
        let in_source: u64 = match self.format {
            Format::Word => self.parts.iter().map(|part| part.formulas).sum(),
            Format::Html => self.texts.iter().map(|text| page::formulas(text)).sum(),
            _ => return,
        };
        let explained = findings.iter().any(|finding| finding.code == Code::EquationFlattened);
        if in_source > self.formulas && !explained {
            let subject = counted(in_source - self.formulas, "formula", "formulas");
            findings.add_about(Code::TextUnaccounted, &subject, None);
        }
        if self.formulas > in_source {
            let subject = counted(self.formulas - in_source, "formula", "formulas");
            findings.add_about(Code::TextAdded, &subject, None);
        }
    }

    fn reach_markup(&mut self) {
        for (text, source) in self.texts.iter().zip(&mut self.sources) {
            match self.format {
                Format::Markdown => markdown::reach_markup(text, source, &mut self.mistaken),
                Format::Org => org::reach_markup(text, source),
                Format::Latex => latex::reach_markup(text, source),
                Format::Html => markdown::reach_references_of(text, source),
                Format::Text => markdown::reach_list_marks(text, source),
                Format::Word | Format::Other(_) => markdown::reach_references_of(text, source),
            }
        }
        for (part, source) in self.parts.iter().zip(&mut self.sources) {
            let made_anew = part.contents.iter().chain(&part.moved_away);
            made_anew.for_each(|range| source.reach(range.clone()));
        }
    }

    /// Phrases and words that the document has as often as its sources have reached it, wherever the pieces
    /// of it were found: where a text says things twice, or macros move it, the wrong place may have been
    /// taken.
    fn look_again(&mut self, document: &Document) {
        // Of Word and HTML the text alone is looked at, and it comes in order.
        if matches!(self.format, Format::Word | Format::Html) {
            return;
        }
        let mut gaps: Vec<Vec<Range<usize>>> = self.sources.iter_mut().map(Aligned::gaps).collect();
        if self.are_forgiven(&gaps) {
            return;
        }
        let mut phrases = Phrases::of_reading(self.format, &self.texts, document);
        for (source, gaps) in self.sources.iter_mut().zip(&mut gaps) {
            gaps.retain(|gap| {
                let are_kept = phrases.are_kept(source.bytes_of(gap));
                if are_kept {
                    source.reach(gap.clone());
                }
                !are_kept
            });
        }
        let texts = self.sources.iter().zip(&gaps);
        let texts = texts.flat_map(|(source, gaps)| gaps.iter().map(|gap| source.bytes_of(gap)));
        self.kept_words = phrases.kept_words(texts);
    }

    /// Whether these gaps are so short and few that they would be no finding.
    fn are_forgiven(&self, gaps: &[Vec<Range<usize>>]) -> bool {
        let (longest, share) = self.forgiven();
        let mut all = 0;
        for (source, gaps) in self.sources.iter().zip(gaps) {
            for gap in gaps {
                let mut words = 0;
                for_each_word(source.bytes_of(gap), |_| words += 1);
                all += words;
                if words > longest {
                    return false;
                }
            }
        }
        all <= FEW_WORDS.max(self.words / share)
    }

    fn gaps(&mut self) -> Vec<Gap> {
        let mut gaps: Vec<(usize, Range<usize>, u64)> = Vec::new();
        // Of a file that Org includes a part may be wanted alone.
        let files = if self.format == Format::Org { 1 } else { usize::MAX };
        // Macros put words together: `\name{item}` may show “nameitem”.
        let mut grown_together = (self.format == Format::Latex).then(|| self.strays.longer());
        for (number, (text, source)) in
            self.texts.iter().zip(&mut self.sources).enumerate().take(files)
        {
            for gap in source.gaps() {
                // What the document holds elsewhere stands in another order there.
                let mut words = 0;
                let (strays, mistaken) = (&mut self.strays, &mut self.mistaken);
                let bytes = text.as_bytes().get(gap.clone()).unwrap_or_default();
                for_each_word(bytes, |word| {
                    let is_known = self.kept_words.have(word)
                        || strays.take(word)
                        || mistaken.take(word)
                        || word.len() >= PART
                            && grown_together.as_mut().is_some_and(|longer| longer.have(word));
                    words += u64::from(!is_known);
                });
                if words > 0 {
                    gaps.push((number, gap, words));
                }
            }
        }
        self.forgive_short(&mut gaps);
        let placed = |(number, gap, words)| Gap { place: self.place(number, gap), words };
        gaps.into_iter().map(placed).collect()
    }

    /// A word or two here and there may be a mark or a label, in LaTeX a few words arguments of macros;
    /// many of them are text.
    fn forgive_short(&self, gaps: &mut Vec<(usize, Range<usize>, u64)>) {
        let (longest, share) = self.forgiven();
        let is_short = |words: &u64| *words <= longest;
        let short: u64 = gaps.iter().map(|(_, _, words)| *words).filter(is_short).sum();
        if short <= FEW_WORDS.max(self.words / share) {
            gaps.retain(|(_, _, words)| !is_short(words));
        }
    }

    /// How many words in a row need no finding, and how large a part of all words they may be.
    fn forgiven(&self) -> (u64, u64) {
        match self.format {
            Format::Latex => (MACRO_SLACK, MACRO_SHARE),
            _ => (MARK, MARK_SHARE),
        }
    }

    /// The place of a gap as the reader counts places.
    fn place(&self, number: usize, gap: Range<usize>) -> Place {
        match self.parts.first() {
            Some(main) if number == 0 => {
                let behind = main.paragraphs.partition_point(|start| *start <= gap.start);
                Place::new(behind.saturating_sub(1), behind)
            }
            Some(_) => Place::default(),
            None => {
                let source = u32::try_from(number).unwrap_or(u32::MAX);
                // Places of pages are lines.
                let start = match self.format {
                    Format::Html => self.start_of_line(gap.start),
                    _ => gap.start,
                };
                Place { source, ..Place::new(start, gap.end) }
            }
        }
    }

    /// Where the line of a page begins in which something stands.
    fn start_of_line(&self, at: usize) -> usize {
        let starts = self.line_starts.get_or_init(|| {
            let page = self.texts.first().map_or(&[][..], |text| text.as_bytes());
            memchr::memchr_iter(b'\n', page).map(|end| end + 1).collect()
        });
        let line = starts.partition_point(|start| *start <= at).checked_sub(1);
        line.and_then(|line| starts.get(line)).copied().unwrap_or(0)
    }

    /// Where in its source a block begins, where that is known.
    fn start_of(&self, place: Place) -> Option<usize> {
        match self.parts.first() {
            Some(_) if self.is_beside => None,
            Some(main) => main.paragraphs.get(place.start as usize).copied(),
            None => (place != Place::default()).then_some(place.start as usize),
        }
    }

    /// Finds a piece where the last one was, or, for notes, in any of the parts beside the text.
    fn find(&mut self, text: &str) {
        let strays = &mut self.strays;
        let is_beside = self.is_beside && !self.parts.is_empty();
        let sources = match is_beside {
            true => self.sources.get_mut(1..).unwrap_or_default(),
            false => self.sources.get_mut(self.current..=self.current).unwrap_or_default(),
        };
        piece_in_any(sources, text, |word| strays.add(word));
    }
}

/// So many pieces in another order need no finding: a caption or two, a mark.
const FEW_MOVED: u64 = 4;

/// Says what a document has more than its source, and what comes in another order.
fn report_more(account: &Account, findings: &mut Findings) {
    if account.added >= FEW_WORDS {
        let subject = counted(account.added, "word", "words");
        findings.add_about(Code::TextAdded, &subject, None);
    }
    if account.moved > FEW_MOVED {
        let subject = counted(account.moved, "piece", "pieces");
        findings.add_about(Code::TextMoved, &subject, None);
    }
}

fn counted(count: u64, one: &str, many: &str) -> String {
    format!("{count} {}", if count == 1 { one } else { many })
}

/// Words in a row that reached nothing.
struct Gap {
    place: Place,
    words: u64,
}

impl Pieces for SourceAccount<'_> {
    fn block(&mut self, place: Place) {
        work::count_nodes(1);
        let Some(start) = self.start_of(place) else { return };
        self.current = place.source as usize;
        let Some(source) = self.sources.get_mut(self.current) else { return };
        if self.format == Format::Html {
            // Places of pages are lines, and not always the first one of a block.
            source.next_block();
            source.block_near(start);
        } else if start > source.at() {
            source.block_at(start);
        } else if start < source.at() && !source.is_reached_from(start) {
            source.block_at(start);
            self.moved += u64::from(!self.is_beside);
        }
    }

    fn inlines(&mut self, count: usize) {
        work::count_nodes(count);
    }

    fn text(&mut self, text: &str) {
        self.words += words(text);
        self.find(text);
    }

    fn aside(&mut self, text: &str) {
        if let Some(source) = self.sources.get_mut(self.current) {
            let mistaken = &mut self.mistaken;
            source.hint(text, |word| mistaken.add(word));
        }
    }

    fn attribute(&mut self, text: &str) {
        for_each_word(text.as_bytes(), |word| self.mistaken.add(word));
    }

    fn raw(&mut self, _format: &str, markup: &str) {
        if let Some(source) = self.sources.get_mut(self.current) {
            source.piece(markup, |_| ());
        }
    }

    fn formula(&mut self, source: &str) {
        self.formulas += 1;
        match self.format {
            Format::Word | Format::Html => {}
            Format::Latex => self.aside(source),
            _ => self.find(source),
        }
    }
}
