//! `obblet bind`: several documents, one proof.

use crate::arguments::BindArguments;
use crate::convert::{keep_pictures_there, picture_folder, put, source_format, target_format};
use crate::failure::{Code, Failure};
use crate::house::{chosen, tell_of_trust};
use crate::ledger::{LedgerFile, write_ledger};
use crate::strict::code_of;
use crate::talk::{counted, say, say_findings};
use crate::targets::{refuse_document_there, refuse_overwriting};
use obblet::assembly::{BindOptions, Bound, Part, bind};
use obblet::ebook::{EbookOptions, write_ebook};
use obblet::findings::{Finding, Findings};
use obblet::{Account, Converter, Format, WriteOptions, Written, write};
use obblet_publish::{FolderResolver, folder_of};
use std::path::{Component, Path, PathBuf};

pub(crate) fn run(arguments: &BindArguments) -> Result<Code, Failure> {
    let (target, named) = arguments.files.split_last().ok_or_else(nothing_to_bind)?;
    let sources = all_files(named)?;
    if sources.is_empty() {
        return Err(nothing_to_bind());
    }
    let written = [Some(target.as_path()), arguments.ledger.as_deref()];
    refuse_overwriting(sources.iter().map(|source| &*source.path), written.into_iter().flatten())?;
    if !arguments.overwrite {
        refuse_document_there(named, target)?;
    }
    let house = chosen(&arguments.house)?;
    tell_of_trust(&house);
    if is_ebook(target) {
        return ebook(arguments, &sources, target);
    }
    let format = target_format(arguments.write_as, Some(target), house.page.format)?;
    let pictures = picture_folder(arguments.pictures.as_ref(), Some(target));
    let options = WriteOptions {
        picture_folder: pictures.as_ref().map(|(_, address)| address.clone()),
        style_sheet_address: Some(crate::convert::style_sheet_name(target)),
        house,
        ..WriteOptions::format(format)
    };
    let root = shared_folder(&sources, target);
    let (parts, reading_findings) = parts(&sources, &root, &options)?;
    let is_on_paper = matches!(format, Format::Word | Format::Latex);
    let bind_options = BindOptions {
        title: arguments.title.clone(),
        target: below(target, &root),
        cover: !arguments.no_cover,
        contents: arguments.contents,
        page_breaks: is_on_paper,
    };
    let Bound { document, mut findings, map } = bind(parts, &bind_options);
    let written = write(&document, &options).map_err(|error| Failure::Convert {
        file: target.display().to_string(),
        error: error.into(),
    })?;
    let Written { findings: later, .. } = &written;
    findings.extend(later.clone());
    findings.locate(&map);
    findings.sort();
    keep_pictures_there(arguments.pictures.as_deref(), &written)?;
    put(Some(target), pictures.map(|(folder, _)| folder), &written)?;
    say(&format!("{} documents in {}", sources.len(), target.display()));
    tell(arguments, reading_findings, (findings, written.account), target)
}

/// A document that becomes a part.
struct Source {
    path: PathBuf,
    /// The folder that it may read from: the one that was named, or its own.
    folder: PathBuf,
}

/// What the reader of one source had to say.
struct Read {
    /// The path by which the parts know each other.
    path: String,
    /// The name that somebody gave in the command.
    shown: String,
    findings: Findings,
    account: Account,
}

/// What each source became, and what its reader had to say.
type Parts = (Vec<Part>, Vec<Read>);

fn parts(sources: &[Source], root: &Path, options: &WriteOptions) -> Result<Parts, Failure> {
    let mut reading_findings = Vec::new();
    let mut parts = Vec::new();
    for source in sources {
        let (part, findings, account) = part(source, root, options)?;
        let shown = source.path.display().to_string();
        reading_findings.push(Read { path: part.path.clone(), shown, findings, account });
        parts.push(part);
    }
    Ok((parts, reading_findings))
}

fn is_ebook(target: &Path) -> bool {
    target.extension().is_some_and(|ending| ending.eq_ignore_ascii_case("epub"))
}

/// An electronic book: a chapter a document, or more where documents have several.
fn ebook(arguments: &BindArguments, sources: &[Source], target: &Path) -> Result<Code, Failure> {
    let mut choice = arguments.house.clone();
    choice.house.get_or_insert_with(|| "ebook".into());
    let house = chosen(&choice)?;
    let root = shared_folder(sources, target);
    // Read as for a Word file: a book has its pictures inside, too.
    let read_options = WriteOptions { house: house.clone(), ..WriteOptions::format(Format::Word) };
    let (parts, reading_findings) = parts(sources, &root, &read_options)?;
    let bind_options = BindOptions {
        title: arguments.title.clone(),
        target: below(target, &root),
        cover: !arguments.no_cover && sources.len() > 1,
        contents: 0,
        page_breaks: false,
    };
    // One document alone is a book as it is.
    let (document, mut findings, map) = match <[Part; 1]>::try_from(parts) {
        Ok([Part { mut document, map, .. }]) => {
            if let Some(title) = &arguments.title {
                document.metadata.title = vec![title.as_str().into()];
            }
            (document, Findings::new(), map)
        }
        Err(parts) => {
            let Bound { document, findings, map } = bind(parts, &bind_options);
            (document, findings, map)
        }
    };
    let options = EbookOptions { house, ..EbookOptions::default() };
    let written = write_ebook(&document, &options).map_err(|error| Failure::Convert {
        file: target.display().to_string(),
        error: error.into(),
    })?;
    findings.extend(written.findings.clone());
    findings.locate(&map);
    findings.sort();
    put(Some(target), None, &written)?;
    say(&format!("{} in {}", counted(sources.len(), "document", "documents"), target.display()));
    tell(arguments, reading_findings, (findings, written.account), target)
}

fn nothing_to_bind() -> Failure {
    let example = "obblet bind guide.md handbook.docx all.html";
    Failure::Usage(format!("bind takes documents and then the file to write, as in: {example}"))
}

/// The files themselves, and those of folders, in the order of their names.
fn all_files(named: &[PathBuf]) -> Result<Vec<Source>, Failure> {
    let mut sources = Vec::new();
    for path in named {
        if path.is_dir() {
            let documents = documents_in(path)?.into_iter();
            sources
                .extend(documents.map(|document| Source { path: document, folder: path.clone() }));
        } else {
            sources.push(Source { folder: folder_of(path).to_path_buf(), path: path.clone() });
        }
    }
    Ok(sources)
}

/// The documents of a folder, as publishing would put them in order.
fn documents_in(folder: &Path) -> Result<Vec<PathBuf>, Failure> {
    let documents = obblet_publish::documents_in_order(folder)?;
    Ok(documents.into_iter().map(|path| folder.join(path)).collect())
}

fn part(
    Source { path, folder }: &Source,
    root: &Path,
    options: &WriteOptions,
) -> Result<(Part, Findings, Account), Failure> {
    let bytes = crate::convert::read_source(path)?;
    let format = source_format(path, None, &bytes);
    let resolver = FolderResolver::new(folder, folder_of(path));
    let converter = Converter::with_options(options).from(format).resolver(&resolver);
    let mut reading = converter
        .read(&bytes)
        .map_err(|error| Failure::Convert { file: path.display().to_string(), error })?;
    reading.findings.locate(&reading.map);
    let path = below(path, root);
    let part = Part { path, document: reading.document, map: reading.map };
    Ok((part, reading.findings, reading.account))
}

/// The innermost folder that holds all sources and the target.
fn shared_folder(sources: &[Source], target: &Path) -> PathBuf {
    let mut shared: Option<PathBuf> = None;
    for file in sources.iter().map(|source| &*source.path).chain([target]) {
        let whole = absolute(file);
        let folder = whole.parent().unwrap_or(&whole);
        shared = Some(match shared {
            None => folder.to_path_buf(),
            Some(known) => known
                .components()
                .zip(folder.components())
                .take_while(|(one, two)| one == two)
                .map(|(one, _)| one)
                .collect(),
        });
    }
    shared.unwrap_or_default()
}

/// A path without `.` and `..`, from the root of the file system on.
fn absolute(path: &Path) -> PathBuf {
    let path = std::path::absolute(path).unwrap_or_else(|_| path.to_path_buf());
    let mut plain = PathBuf::new();
    for component in path.components() {
        match component {
            Component::ParentDir => {
                plain.pop();
            }
            component => plain.push(component),
        }
    }
    plain
}

/// A path below a folder, with `/` between folders.
fn below(path: &Path, folder: &Path) -> String {
    let whole = absolute(path);
    let inner = whole.strip_prefix(folder).unwrap_or(&whole);
    let names: Vec<_> = inner.iter().map(|name| name.to_string_lossy()).collect();
    names.join("/")
}

fn tell(
    arguments: &BindArguments,
    of_parts: Vec<Read>,
    of_whole: (Findings, Account),
    target: &Path,
) -> Result<Code, Failure> {
    // The whole knows its parts by their paths; people know them by the names they gave.
    let (of_whole, whole_account) = of_whole;
    let mut of_whole = of_whole.into_vec();
    for finding in &mut of_whole {
        let part = of_parts.iter().find(|part| finding.file.as_deref() == Some(&part.path));
        if let Some(part) = part {
            finding.file = Some(part.shown.as_str().into());
        }
    }
    let mut files: Vec<(String, Vec<Finding>, Account)> = of_parts
        .into_iter()
        .map(|part| (part.shown, part.findings.into_vec(), part.account))
        .collect();
    files.push((target.display().to_string(), of_whole, whole_account));
    files.iter().for_each(|(file, findings, _)| say_findings(file, findings));
    if let Some(ledger) = &arguments.ledger {
        let rows: Vec<LedgerFile<'_>> = files
            .iter()
            .map(|(file, findings, account)| LedgerFile { file, account: Some(*account), findings })
            .collect();
        write_ledger(ledger, &rows)?;
    }
    Ok(code_of(arguments.strict, files.iter().flat_map(|(_, findings, _)| findings)))
}
