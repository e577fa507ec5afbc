//! Between a document and what was written of it.

use super::FEW_WORDS;
use super::align::{Aligned, piece_in_any};
use super::letters::words;
use super::phrases::Phrases;
use super::pieces::{self, Pieces};
use super::source::page;
use super::source::word::words_of_part;
use super::strays::{Strays, for_each_word};
use crate::document::{Document, Place};
use crate::findings::{Account, Code, Findings};
use crate::format::Format;
use crate::work;

/// What a writer wrote, as far as it holds words.
pub(crate) enum Output<'o> {
    /// A text in this format; of pages the inside.
    Text(Format, &'o str),
    /// Parts of a package.
    Parts(&'o [&'o str]),
}

/// Accounts for what was written: words of the document that are not in the output, and that no
/// finding names, are findings.
pub(crate) fn of_output(
    document: &Document,
    output: &Output<'_>,
    findings: &mut Findings,
) -> Account {
    if work::is_over() {
        return Account::default();
    }
    if let Output::Text(Format::Text, text) = output {
        // Columns of a table stand side by side there, and words may grow together.
        return of_plain_text(document, text, findings);
    }
    let mut outputs = match output {
        Output::Text(Format::Html, text) => vec![Aligned::with_tags(text, page::slices(text))],
        Output::Text(format, text) => {
            let mut aligned = Aligned::whole(text).apart();
            let body = text.find("\\begin{document}").filter(|_| *format == Format::Latex);
            aligned.block_at(body.unwrap_or(0));
            vec![aligned]
        }
        Output::Parts(parts) => {
            parts.iter().map(|part| Aligned::with_tags(part, words_of_part(part).slices)).collect()
        }
    };
    let mut carried = Carried {
        outputs: &mut outputs,
        place: Place::default(),
        is_beside: false,
        account: Account::default(),
        missing: Vec::new(),
    };
    pieces::give_blocks(&document.blocks, &mut carried);
    carried.is_beside = true;
    pieces::give_beside(document, &mut carried);
    let Carried { mut account, missing, .. } = carried;
    let mut missing = missing;
    if matches!(output, Output::Text(Format::Latex, _)) {
        // TeX has names for single letters beyond ASCII.
        missing.retain(|(_, word)| word.is_ascii() || word.len() > 4);
    }
    if matches!(output, Output::Text(Format::Markdown | Format::Org | Format::Latex, _)) {
        forget_kept(document, output, &mut missing);
    }
    let explanations = findings.explanations();
    for (place, words) in without_strays(missing, &mut outputs) {
        account.output -= words.min(account.output);
        let is_explained = match place {
            Some(place) => findings.explains(&explanations, place, words),
            None => findings.explains_notes(words),
        };
        let place = place.unwrap_or_default();
        match is_explained {
            true => account.left_out += words,
            false => {
                account.unaccounted += words;
                findings.add_words(Code::TextUnaccounted, words, place);
            }
        }
    }
    account
}

/// Forgets the words that the output has as often as the document: where a document says things twice, or a
/// writer moves them, another place may have been taken for theirs.
fn forget_kept(document: &Document, output: &Output<'_>, missing: &mut Vec<Missing>) {
    let Output::Text(format, text) = output else { return };
    if missing.is_empty() {
        return;
    }
    let phrases = Phrases::of_writing(*format, document, std::iter::once(text.as_bytes()));
    let kept = phrases.kept_words(missing.iter().map(|(_, word)| &**word));
    missing.retain(|(_, word)| !kept.have(word));
}

/// How many words of each block are nowhere in the output: some are, where writers keep another order.
fn without_strays(missing: Vec<Missing>, outputs: &mut [Aligned<'_>]) -> Vec<(Option<Place>, u64)> {
    let mut strays: Vec<Strays> = match missing.is_empty() {
        true => Vec::new(),
        false => outputs.iter_mut().map(Strays::of_gaps).collect(),
    };
    let mut lost: Vec<(Option<Place>, u64)> = Vec::new();
    for (place, word) in missing {
        if strays.iter_mut().any(|strays| strays.take(&word)) {
            continue;
        }
        match lost.last_mut() {
            Some((known, count)) if *known == place => *count += 1,
            _ => lost.push((place, 1)),
        }
    }
    let short: u64 = lost.iter().map(|(_, words)| *words).filter(|words| *words <= LABEL).sum();
    if short <= FEW_WORDS {
        lost.retain(|(_, words)| *words > LABEL);
    }
    lost
}

/// The same for a page whose document did not stand in memory as a whole: the words alone are counted.
pub(crate) fn of_page(document: u64, html: &str, findings: &mut Findings) -> Account {
    let slices = page::slices(html);
    let output: u64 = slices.into_iter().filter_map(|slice| html.get(slice)).map(words).sum();
    of_words(document, output, findings)
}

/// Where only numbers are known, whatever was left out explains that there are fewer words.
fn of_words(document: u64, output: u64, findings: &mut Findings) -> Account {
    let output = output.min(document);
    let missing = document - output;
    let mut account = Account { document, output, ..Account::default() };
    if missing > 0 && findings.explains_any(missing) {
        account.left_out = missing;
    } else if missing > 0 {
        account.unaccounted = missing;
        findings.add_words(Code::TextUnaccounted, missing, Place::default());
    }
    account
}

/// Of a plain text the words count, in any order. What has grown together, as a letter and its index do,
/// is there as a part of a longer word.
fn of_plain_text(document: &Document, text: &str, findings: &mut Findings) -> Account {
    let mut counted = Counted { words: 0, written: Strays::of_text(text), missing: Vec::new() };
    pieces::give_blocks(&document.blocks, &mut counted);
    pieces::give_beside(document, &mut counted);
    let Counted { words, written, missing } = counted;
    if missing.is_empty() {
        return of_words(words, words, findings);
    }
    let mut longer = written.longer();
    let missing = missing.iter().filter(|word| !longer.have(word)).count() as u64;
    of_words(words, words - missing, findings)
}

/// The words of a document that are not in a text.
struct Counted {
    words: u64,
    written: Strays,
    missing: Vec<Box<[u8]>>,
}

impl Pieces for Counted {
    fn block(&mut self, _: Place) {}

    fn text(&mut self, text: &str) {
        for_each_word(text.as_bytes(), |word| {
            self.words += 1;
            if !self.written.take(word) {
                self.missing.push(word.into());
            }
        });
    }

    fn aside(&mut self, _: &str) {}

    fn raw(&mut self, _: &str, _: &str) {}
}

/// So many words of a block may be a label that a writer spells in another way.
const LABEL: u64 = 3;

/// A word that is not there, with the block it stands in; `None` for one of a note or comment.
type Missing = (Option<Place>, Box<[u8]>);

/// What was found of a document in its output.
struct Carried<'o, 't> {
    outputs: &'o mut [Aligned<'t>],
    place: Place,
    account: Account,
    /// Notes and comments are looked for.
    is_beside: bool,
    missing: Vec<Missing>,
}

impl Pieces for Carried<'_, '_> {
    fn block(&mut self, place: Place) {
        self.place = place;
        self.outputs.iter_mut().for_each(Aligned::next_block);
    }

    fn text(&mut self, text: &str) {
        let count = words(text);
        self.account.document += count;
        self.account.output += count;
        let place = (!self.is_beside).then_some(self.place);
        // Of a package, notes and comments stand in parts of their own.
        let (main, beside) = self.outputs.split_at_mut(1.min(self.outputs.len()));
        let outputs = if self.is_beside && !beside.is_empty() { beside } else { main };
        piece_in_any(outputs, text, |word| self.missing.push((place, word.into())));
    }

    fn aside(&mut self, text: &str) {
        self.outputs.iter_mut().for_each(|output| output.hint(text, |_| ()));
    }

    fn raw(&mut self, format: &str, markup: &str) {
        if format != "html" {
            return self.aside(markup);
        }
        for slice in page::slices(markup) {
            if let Some(text) = markup.get(slice) {
                self.text(&page::without_signs(text));
            }
        }
    }
}
