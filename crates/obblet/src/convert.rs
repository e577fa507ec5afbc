//! The calls that join a reader with a writer.

use crate::account::{Output, SourceAccount};
use crate::additions::{Additions, Reader, Writer};
use crate::dates::is_impossible;
use crate::document::{Block, Document, Inline, Node, SourceMap, Visit, walk};
use crate::draft::Draft;
use crate::findings::{Account, Code, Findings};
use crate::format::{Format, is_saved_page};
use crate::formats::html::{self, Survey};
use crate::formats::latex::LatexWriteOptions;
use crate::formats::markdown::{self, MarkdownWriteOptions};
use crate::formats::org::OrgWriteOptions;
use crate::formats::signature::refuse_what_is_no_text;
use crate::formats::{
    EmbeddedHtml, ReadError, ReadOptions, Reading, WriteError, latex, org, text, text_source, word,
};
use crate::options::{ConvertError, WriteOptions, Written};
use crate::picture_file::PictureKind;
use crate::prepare::{needs_pictures, prepared, take_in, take_in_pictures};
use crate::resolver::Resolver;
use crate::{account, destination, embedded, house, work};
use std::collections::HashSet;
use std::sync::Arc;

/// Bytes of Markdown from which on its tree never stands in memory whole on the way to HTML. That
/// takes half the memory, and the inlines are read twice.
const LARGE: usize = 1 << 20;

/// Reads a document. Findings have their lines and columns.
///
/// # Errors
/// [`ReadError`] when the bytes are no document of this format at all, or when they are more than
/// 4 GiB. Anything less is a finding.
pub fn read(source: &[u8], format: Format, options: &ReadOptions) -> Result<Reading, ReadError> {
    read_with(source, format, options, &(), &Additions::new()).map(located)
}

/// What was read, its findings with lines and columns.
pub(crate) fn located(mut reading: Reading) -> Reading {
    reading.findings.locate(&reading.map);
    reading
}

/// The same, with somebody who fetches the files that the source includes, and with readers of others.
pub(crate) fn read_with(
    source: &[u8],
    format: Format,
    options: &ReadOptions,
    resolver: &dyn Resolver,
    additions: &Additions,
) -> Result<Reading, ReadError> {
    if let Some(reader) = additions.reader(format) {
        return read_by(reader, source, options, resolver);
    }
    refuse_unreadable(source, format)?;
    match format {
        Format::Markdown => Ok(read_markdown(source, options)),
        Format::Html => Ok(read_html(source, options)),
        Format::Word => read_word(source, options),
        Format::Latex => Ok(read_latex(source, options, resolver)),
        Format::Org => Ok(read_org(source, options, resolver)),
        Format::Text => Ok(read_text(source, options)),
        Format::Other(_) => Err(ReadError::NoReader(format)),
    }
}

/// Reads with a reader of somebody else's.
fn read_by(
    reader: &dyn Reader,
    source: &[u8],
    options: &ReadOptions,
    resolver: &dyn Resolver,
) -> Result<Reading, ReadError> {
    refuse_too_large(source)?;
    let (document, findings) = reader.read(source, options, resolver)?;
    let map = std::str::from_utf8(source).map_or(SourceMap::None, |it| SourceMap::Text(it.into()));
    Ok(Reading { document, findings, map, account: Account::default() })
}

/// Places count bytes in 32 bits.
fn refuse_too_large(source: &[u8]) -> Result<(), ReadError> {
    u32::try_from(source.len()).map(drop).map_err(|_| ReadError::TooLarge)
}

/// What is too large, or is no text where its format is one: no text is in a picture.
pub(crate) fn refuse_unreadable(source: &[u8], format: Format) -> Result<(), ReadError> {
    refuse_too_large(source)?;
    if format == Format::Word { Ok(()) } else { refuse_what_is_no_text(source) }
}

fn read_word(source: &[u8], options: &ReadOptions) -> Result<Reading, ReadError> {
    let mut reading = word::read(source, &options.word).map_err(ReadError::NotWord)?;
    if options.embedded_html == EmbeddedHtml::Nodes {
        embedded::resolve(&mut reading.document, &mut reading.findings);
    }
    Ok(reading)
}

fn read_markdown(source: &[u8], options: &ReadOptions) -> Reading {
    let (text, mut findings) = text_of(source);
    let (mut document, later) = markdown::read(&text, &options.markdown);
    findings.extend(later);
    if options.embedded_html == EmbeddedHtml::Nodes {
        embedded::resolve(&mut document, &mut findings);
    }
    report_if_empty(&text, &mut findings);
    accounted(Format::Markdown, document, findings, SourceMap::Text(text))
}

fn report_impossible_date(document: &Document, findings: &mut Findings) {
    if let Some(date) = document.metadata.date.as_deref().filter(|date| is_impossible(date)) {
        findings.add_about(Code::DateImpossible, date, None);
    }
}

/// What was read, with the account of it.
fn accounted(
    format: Format,
    document: Document,
    mut findings: Findings,
    map: SourceMap,
) -> Reading {
    report_impossible_date(&document, &mut findings);
    let account = account::of_reading(format, &map, &document, &mut findings);
    Reading { document, findings, map, account }
}

fn read_text(source: &[u8], options: &ReadOptions) -> Reading {
    let (text, mut findings) = text_of(source);
    let (document, later) = text::read(&text, &options.text);
    findings.extend(later);
    report_if_empty(&text, &mut findings);
    accounted(Format::Text, document, findings, SourceMap::Text(text))
}

fn read_latex(source: &[u8], options: &ReadOptions, resolver: &dyn Resolver) -> Reading {
    let (text, mut findings) = text_of(source);
    let (document, later, sources) = latex::read(&text, &options.latex, resolver);
    findings.extend(later);
    report_if_empty(&text, &mut findings);
    let files = sources.into_iter().map(|file| (file.name.to_string(), file.text));
    accounted(Format::Latex, document, findings, SourceMap::Files(files.collect()))
}

fn read_org(source: &[u8], options: &ReadOptions, resolver: &dyn Resolver) -> Reading {
    let (text, mut findings) = text_of(source);
    let (mut document, later, sources) = org::read(&text, &options.org, resolver);
    findings.extend(later);
    if options.embedded_html == EmbeddedHtml::Nodes {
        embedded::resolve(&mut document, &mut findings);
    }
    report_if_empty(&text, &mut findings);
    accounted(Format::Org, document, findings, SourceMap::Files(sources.into()))
}

fn report_if_empty(text: &str, findings: &mut Findings) {
    if text.trim().is_empty() {
        findings.add(Code::SourceEmpty, None);
    }
}

fn read_html(source: &[u8], options: &ReadOptions) -> Reading {
    let page = OpenedPage::of(source);
    let dom = html::dom::Dom::of_page(&page.text);
    page.read(&dom, options)
}

/// The text of an HTML source, what was saved with it, and what was found so far.
pub(crate) struct OpenedPage {
    pub(crate) text: Arc<str>,
    parts: html::SavedParts,
    findings: Findings,
}

impl OpenedPage {
    pub(crate) fn of(source: &[u8]) -> Self {
        let saved = is_saved_page(source).then(|| html::opened(source)).flatten();
        if let Some((page, parts)) = saved {
            let text = text_source::normalised(&page).into();
            return Self { text, parts, findings: Findings::new() };
        }
        let mut findings = Findings::new();
        let stated = html::stated_encoding(source);
        let decoded = text_source::decoded_as_stated(source, stated, &mut findings);
        let text = text_source::normalised(&decoded).into();
        Self { text, parts: html::SavedParts::default(), findings }
    }

    /// Reads the tree of its text.
    pub(crate) fn read(self, dom: &html::dom::Dom, options: &ReadOptions) -> Reading {
        let Self { text, parts, mut findings } = self;
        let (document, later) = html::read_tree(dom, &text, &options.html, &parts);
        findings.extend(later);
        accounted(Format::Html, document, findings, SourceMap::Text(text))
    }
}

/// The characters of a source, with line endings of one kind.
fn text_of(source: &[u8]) -> (Arc<str>, Findings) {
    let mut findings = Findings::new();
    let decoded = text_source::decoded(source, &mut findings);
    (text_source::normalised(&decoded).into(), findings)
}

/// Writes a document.
///
/// # Errors
/// [`WriteError`] when the document is deeper than any reader makes it, or the house names a file that
/// was not given.
pub fn write(document: &Document, options: &WriteOptions) -> Result<Written, WriteError> {
    write_with(document, options, &Additions::new())
}

/// The same, with writers of others.
pub(crate) fn write_with(
    document: &Document,
    options: &WriteOptions,
    additions: &Additions,
) -> Result<Written, WriteError> {
    let folder = options.folder_beside();
    let mut findings = Findings::new();
    let document = &*prepared(document, options, folder.as_deref(), &mut findings);
    let media = match folder {
        Some(_) => document.media.iter().cloned().collect(),
        None => Vec::new(),
    };
    let written = match (additions.writer(options.format), options.format) {
        (Some(writer), _) => write_by(writer, document, options)?,
        (None, Format::Html) => Draft::of_prepared(document, options, folder)?.lay_out(options)?,
        (None, Format::Markdown) => write_markdown(document, options, folder)?,
        (None, Format::Text) => write_text(document, options)?,
        (None, Format::Word) => write_word(document, options)?,
        (None, Format::Latex) => write_latex(document, options, folder)?,
        (None, Format::Org) => write_org(document, options, folder)?,
        (None, Format::Other(_)) => return Err(WriteError::NoWriter(options.format)),
    };
    work::count_output(written.bytes.len());
    findings.extend(written.findings);
    if !options.format.carries_looks() {
        destination::report_looks_left(document, &mut findings);
    }
    Ok(Written { media, findings, ..written })
}

/// Tells of notes without a mark, for writers that write notes where their marks are.
fn report_unmarked_notes(document: &Document, findings: &mut Findings) {
    if document.notes.is_empty() {
        return;
    }
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    let visits = std::iter::once(document.blocks.as_slice()).chain(notes).flat_map(walk);
    let marks = visits.filter_map(|visit| match visit {
        Visit::Enter(Node::Inline(Inline::NoteMark(note))) => Some(note.index()),
        _ => None,
    });
    let marked: HashSet<usize> = marks.collect();
    for at in (0..document.notes.len()).filter(|at| !marked.contains(at)) {
        let place = document.notes.get(at).and_then(|note| Some(note.content.first()?.place));
        findings.count(Code::NodeNotCarried, "a note without a mark", place);
    }
}

/// Writes with a writer of somebody else's.
fn write_by(
    writer: &dyn Writer,
    document: &Document,
    options: &WriteOptions,
) -> Result<Written, WriteError> {
    let (bytes, findings) = writer.write(document, options)?;
    Ok(Written::of(document, bytes, findings, Account::default()))
}

fn write_text(document: &Document, options: &WriteOptions) -> Result<Written, WriteError> {
    let (text, mut findings) = text::write(document, &options.house.text_write_options())?;
    report_unmarked_notes(document, &mut findings);
    Ok(written_text(document, Format::Text, text, findings))
}

fn write_markdown(
    document: &Document,
    options: &WriteOptions,
    picture_folder: Option<String>,
) -> Result<Written, WriteError> {
    let markdown_options =
        MarkdownWriteOptions { picture_folder, ..options.house.markdown_write_options() };
    let (text, findings) = markdown::write(document, &markdown_options)?;
    Ok(written_text(document, Format::Markdown, text, findings))
}

fn write_word(document: &Document, options: &WriteOptions) -> Result<Written, WriteError> {
    let word_options = options.house.word_write_options()?;
    let mut account = Account::default();
    let (bytes, findings) = word::write_with(document, &word_options, |parts, findings| {
        account = account::of_output(document, &Output::Parts(parts), findings);
    })?;
    Ok(Written::of(document, bytes, findings, account))
}

fn write_latex(
    document: &Document,
    options: &WriteOptions,
    picture_folder: Option<String>,
) -> Result<Written, WriteError> {
    let latex_options =
        LatexWriteOptions { picture_folder, ..options.house.latex_write_options()? };
    let (text, mut findings) = latex::write(document, &latex_options)?;
    report_unmarked_notes(document, &mut findings);
    Ok(written_text(document, Format::Latex, text, findings))
}

fn write_org(
    document: &Document,
    options: &WriteOptions,
    picture_folder: Option<String>,
) -> Result<Written, WriteError> {
    let org_options = OrgWriteOptions { picture_folder, ..options.house.org_write_options() };
    let (text, mut findings) = org::write(document, &org_options)?;
    report_unmarked_notes(document, &mut findings);
    Ok(written_text(document, Format::Org, text, findings))
}

fn written_text(
    document: &Document,
    format: Format,
    text: String,
    mut findings: Findings,
) -> Written {
    let account = account::of_output(document, &Output::Text(format, &text), &mut findings);
    Written::of(document, text.into_bytes(), findings, account)
}

/// Reads a source, repairs it as the house says, and writes it in another format. Findings of all
/// steps come together, with their lines and columns. A [`Converter`](crate::Converter) can be told more.
///
/// # Errors
/// Those of [`read`] and [`write()`].
pub fn convert(
    source: &[u8],
    from: Format,
    options: &WriteOptions,
) -> Result<Written, ConvertError> {
    if is_large_and_plain(source, from, options) {
        return convert_large(source, options);
    }
    let additions = Additions::new();
    let reading = read_for(source, from, options, &(), &additions)?;
    let written = write(&reading.document, options)?;
    Ok(joined(reading, written))
}

/// Whether a source can be converted without its tree ever standing in memory whole.
pub(crate) fn is_large_and_plain(source: &[u8], from: Format, options: &WriteOptions) -> bool {
    source.len() >= LARGE
        && (from, options.format) == (Format::Markdown, Format::Html)
        && options.source_folder.is_none()
        && options.house.repairs_for(from).is_empty()
        && !needs_pictures(&options.house.pictures)
}

/// What was written, with what there is to say of the reading before.
pub(crate) fn joined(reading: Reading, written: Written) -> Written {
    let written =
        with_findings(written, reading.findings, |findings| findings.locate(&reading.map));
    Written { account: written.account.behind(reading.account), ..written }
}

/// Reads a source for a target: with what that format can say, repaired as its house says, and with
/// the pictures taken in that it has to hold.
pub(crate) fn read_for(
    source: &[u8],
    from: Format,
    options: &WriteOptions,
    resolver: &dyn Resolver,
    additions: &Additions,
) -> Result<Reading, ReadError> {
    let mut reading = read_with(source, from, &read_options_for(options), resolver, additions)?;
    repair_for(&mut reading, from, options, additions);
    take_in_for(&mut reading, options, resolver);
    Ok(reading)
}

/// Repairs what was read, as the house of a target says.
fn repair_for(reading: &mut Reading, from: Format, options: &WriteOptions, additions: &Additions) {
    let repairs = additions.around(options.house.repairs_for(from));
    repairs.run(&mut reading.document, &mut reading.findings);
}

/// Takes the pictures in that a target has to hold.
fn take_in_for(reading: &mut Reading, options: &WriteOptions, resolver: &dyn Resolver) {
    let Reading { document, findings, .. } = reading;
    let is_dropped = options.house.pictures.placement == house::PicturePlacement::Dropped;
    if options.format == Format::Word && !is_dropped {
        take_in(document, |_| true, PictureKind::is_taken_in_by_paper, resolver, findings);
    } else if options.format == Format::Latex && !is_dropped && options.picture_folder.is_some() {
        let is_wanted = destination::is_unknown_to_tex;
        take_in(document, is_wanted, PictureKind::is_taken_in_by_paper, resolver, findings);
    } else {
        take_in_pictures(document, &options.house, resolver, findings);
    }
}

/// What the readers are told for a target.
fn read_options_for(options: &WriteOptions) -> ReadOptions {
    let mut read_options = options.house.read_options();
    if !matches!(options.format, Format::Html | Format::Markdown) {
        read_options = read_options.with_nodes_for_html();
    }
    // Markdown and plain text have no words for them.
    let keeps_looks = !matches!(options.format, Format::Markdown | Format::Text);
    read_options.html.looks &= keeps_looks;
    read_options.word.looks &= keeps_looks;
    read_options.latex.looks = read_options.word.looks;
    read_options.org.keeps_hidden = options.format == Format::Org;
    read_options
}

/// The same for Markdown of any length to HTML: one pass over the blocks to survey them, one to
/// write them.
pub(crate) fn convert_large(
    source: &[u8],
    options: &WriteOptions,
) -> Result<Written, ConvertError> {
    let read_options = read_options_for(options);
    refuse_unreadable(source, Format::Markdown)?;
    let mut findings = Findings::new();
    let decoded = text_source::decoded(source, &mut findings);
    let text = text_source::normalised(&decoded);
    let structure = markdown::Structure::of(&text, &read_options.markdown, &mut findings);
    let mut survey = Survey::default();
    let mut read = SourceAccount::of_texts(Format::Markdown, &[&text]);
    let notes = structure.each_block(&mut findings, &mut |block| {
        survey.block(&block);
        read.blocks(std::slice::from_ref(&block));
    });
    survey.notes(&notes);
    report_if_empty(&text, &mut findings);
    let rest = Document { metadata: structure.metadata.clone(), notes, ..Document::default() };
    let blocks = |give: &mut dyn FnMut(&Block)| {
        structure.each_block(&mut Findings::new(), &mut |block| give(&block));
    };
    read.beside(&rest);
    let account = read.settle(None, &mut findings);
    let of_text =
        |html: &str, findings: &mut Findings| account::of_page(account.document, html, findings);
    let draft = Draft::of_blocks(&rest, survey, blocks, options, None, of_text);
    let written = with_findings(draft.lay_out(options)?, findings, |it| it.locate_in(&text));
    Ok(Written { account: written.account.behind(account), ..written })
}

/// Adds the findings of reading to those of writing, all with their lines and columns.
fn with_findings(
    written: Written,
    mut findings: Findings,
    locate: impl FnOnce(&mut Findings),
) -> Written {
    findings.extend(written.findings);
    locate(&mut findings);
    findings.sort();
    Written { findings, ..written }
}
