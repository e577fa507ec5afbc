//! Between a document and what was written of it.

use super::Account;
use super::align::Aligned;
use super::letters::words;
use super::pieces::{self, Pieces};
use super::source::page;
use super::source::word::words_of_part;
use crate::Format;
use crate::document::{Document, Place};
use crate::findings::{Code, Findings};

/// What a writer wrote, as far as it holds words.
pub(crate) enum Output<'o> {
    /// A text in this format; of pages the inside.
    Text(Format, &'o str),
    /// Parts of a package.
    Parts(&'o [&'o str]),
}

/// Accounts for what was written: words of the document that are not in the output, and that no
/// finding names, are findings.
pub(crate) fn of_output(document: &Document, output: &Output<'_>, findings: &mut Findings) -> Account {
    let mut outputs = match output {
        Output::Text(Format::Html, text) => vec![Aligned::with_tags(text, page::slices(text))],
        Output::Text(_, text) => vec![Aligned::whole(text)],
        Output::Parts(parts) => parts
            .iter()
            .map(|part| Aligned::with_tags(part, words_of_part(part).slices))
            .collect(),
    };
    let mut carried = Carried { outputs: &mut outputs, place: Place::default(), account: Account::default(), missing: Vec::new() };
    pieces::give_blocks(&document.blocks, &mut carried);
    pieces::give_beside(document, &mut carried);
    let Carried { mut account, missing, .. } = carried;
    for (place, words) in missing {
        account.output -= words.min(account.output);
        match findings.explains(place, words) {
            true => account.left_out += words,
            false => {
                account.unaccounted += words;
                findings.add_words(Code::TextUnaccounted, words, place);
            }
        }
    }
    account
}

/// The same for a page whose document did not stand in memory as a whole: the words alone are counted.
pub(crate) fn of_page(document: u64, html: &str, findings: &mut Findings) -> Account {
    let slices = page::slices(html);
    let output: u64 = slices.into_iter().filter_map(|slice| html.get(slice)).map(words).sum();
    let output = output.min(document);
    let unaccounted = document - output;
    if unaccounted > 0 {
        findings.add_words(Code::TextUnaccounted, unaccounted, Place::default());
    }
    Account { document, output, unaccounted, ..Account::default() }
}

/// What was found of a document in its output.
struct Carried<'o, 't> {
    outputs: &'o mut [Aligned<'t>],
    place: Place,
    account: Account,
    /// Words that are not there, by the block they stand in.
    missing: Vec<(Place, u64)>,
}

impl Carried<'_, '_> {
    fn missing(&mut self, words: u64) {
        match self.missing.last_mut() {
            Some((place, count)) if *place == self.place => *count += words,
            _ => self.missing.push((self.place, words)),
        }
    }
}

impl Pieces for Carried<'_, '_> {
    fn block(&mut self, place: Place) {
        self.place = place;
    }

    fn text(&mut self, text: &str) {
        let count = words(text);
        self.account.document += count;
        self.account.output += count;
        let not_there = self.outputs.iter_mut().map(|output| output.piece(text)).min();
        if let Some(count @ 1..) = not_there {
            if std::env::var_os("OBBLET_ACCOUNT").is_some() {
                eprintln!("not written ({count}): {text:?}");
            }
            self.missing(count);
        }
    }

    fn aside(&mut self, text: &str) {
        self.outputs.iter_mut().for_each(|output| output.hint(text));
    }

    fn raw(&mut self, format: &str, markup: &str) {
        if format != "html" {
            return self.aside(markup);
        }
        for slice in page::slices(markup) {
            if let Some(text) = markup.get(slice) {
                self.text(text);
            }
        }
    }
}
