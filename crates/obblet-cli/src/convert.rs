//! `obblet convert`: one document.

use crate::arguments::ConvertArguments;
use crate::failure::{Code, Failure};
use crate::house::{chosen, tell_of_trust};
use crate::ledger::{LedgerFile, write_ledger};
use crate::strict::code_of;
use crate::talk::{print, say, say_findings};
use crate::targets::refuse_overwriting;
use obblet::{Converter, Format, WriteOptions, Written};
use obblet_publish::{FolderResolver, backup_path, folder_of, write_atomically};
use std::io::Read as _;
use std::path::{Path, PathBuf};

pub(crate) fn run(arguments: &ConvertArguments) -> Result<Code, Failure> {
    let target = arguments.target.as_deref().filter(|target| *target != Path::new("-"));
    let written = [target, arguments.ledger.as_deref()];
    refuse_overwriting([arguments.source.as_path()], written.into_iter().flatten())?;
    let house = chosen(&arguments.house)?;
    let to = target_format(arguments.write_as, target, house.page.format)?;
    tell_of_trust(&house);
    let source = read_source(&arguments.source)?;
    let from = source_format(&arguments.source, arguments.read_as, &source);
    let shown = shown_name(&arguments.source);

    let pictures = picture_folder(arguments.pictures.as_ref(), target);
    let options = WriteOptions {
        house,
        picture_folder: pictures.as_ref().map(|(_, address)| address.clone()),
        style_sheet_address: target.map(style_sheet_name),
        source_folder: source_folder(&arguments.source, target),
        ..WriteOptions::format(to)
    };
    let resolver = resolver_beside(&arguments.source);
    let converter = Converter::with_options(&options).from(from).resolver(&resolver);
    let written = converter
        .convert(&source)
        .map_err(|error| Failure::Convert { file: shown.clone(), error })?;
    keep_pictures_there(arguments.pictures.as_deref(), &written)?;
    put(target, pictures.map(|(folder, _)| folder), &written)?;

    let account = written.account;
    let findings = written.findings.into_vec();
    say_findings(&shown, &findings);
    if let Some(ledger) = &arguments.ledger {
        write_ledger(
            ledger,
            &[LedgerFile { file: &shown, account: Some(account), findings: &findings }],
        )?;
    }
    Ok(code_of(arguments.strict, &findings))
}

pub(crate) fn read_source(source: &Path) -> Result<Vec<u8>, Failure> {
    if source == Path::new("-") {
        let mut bytes = Vec::new();
        std::io::stdin().lock().read_to_end(&mut bytes).map_err(Failure::Input)?;
        return Ok(bytes);
    }
    if source.is_dir() {
        let shown = source.display();
        return Err(Failure::Usage(format!(
            "{shown} is a folder; to convert a whole folder, use “obblet publish {shown} OUTPUT”"
        )));
    }
    std::fs::read(source).map_err(|error| Failure::Read { path: source.to_path_buf(), error })
}

/// By option, then by name, then by content; a package is one under any name.
pub(crate) fn source_format(path: &Path, wanted: Option<Format>, source: &[u8]) -> Format {
    let by_name = || Format::of_file_name(&path.to_string_lossy());
    let by_content = || match Format::detect(source) {
        // Plain text without any mark reads well as Markdown.
        Format::Text if path == Path::new("-") => Format::Markdown,
        format => format,
    };
    let is_package = || source.starts_with(b"PK\x03\x04").then_some(Format::Word);
    wanted.or_else(is_package).or_else(by_name).unwrap_or_else(by_content)
}

pub(crate) fn target_format(
    wanted: Option<Format>,
    target: Option<&Path>,
    of_house: Format,
) -> Result<Format, Failure> {
    let Some(target) = target else { return Ok(wanted.unwrap_or(of_house)) };
    let by_name = || Format::of_file_name(&target.to_string_lossy());
    wanted.or_else(by_name).ok_or_else(|| {
        let shown = target.display();
        Failure::Usage(format!("the name {shown} tells no format; add one with --write-as html"))
    })
}

pub(crate) fn shown_name(source: &Path) -> String {
    if source == Path::new("-") { "standard input".into() } else { source.display().to_string() }
}

/// What fetches the files beside a source.
pub(crate) fn resolver_beside(source: &Path) -> FolderResolver {
    let folder = folder_of(source);
    FolderResolver::new(folder, folder)
}

/// The folder for pictures, and its address as seen from the target.
pub(crate) fn picture_folder(
    wanted: Option<&PathBuf>,
    target: Option<&Path>,
) -> Option<(PathBuf, String)> {
    let beside = |target: &Path| {
        let stem = target.file_stem().unwrap_or_default().to_string_lossy().into_owned();
        target.with_file_name(format!("{stem}-pictures"))
    };
    let folder = wanted.cloned().or_else(|| target.map(beside))?;
    let home = target.and_then(Path::parent).unwrap_or(Path::new(""));
    let address = address_between(home, &folder);
    Some((folder, address))
}

/// The name of the style sheet beside a page.
pub(crate) fn style_sheet_name(page: &Path) -> String {
    format!("{}.css", page.file_stem().unwrap_or_default().to_string_lossy())
}

/// The folder of the source as seen from the target, when that is in another one.
fn source_folder(source: &Path, target: Option<&Path>) -> Option<String> {
    let home = target?.parent()?;
    let folder = source.parent().filter(|_| source != Path::new("-"))?;
    Some(address_between(home, folder)).filter(|address| !address.is_empty())
}

/// The address of a folder as seen from another.
fn address_between(from: &Path, to: &Path) -> String {
    let absolute = |path: &Path| {
        let path = if path.as_os_str().is_empty() { Path::new(".") } else { path };
        std::path::absolute(path).unwrap_or_else(|_| path.to_path_buf())
    };
    let (from, to) = (absolute(from), absolute(to));
    let shared = from.iter().zip(to.iter()).take_while(|(one, two)| one == two).count();
    let up = from.iter().skip(shared).map(|_| "..".to_string());
    let down = to.iter().skip(shared).map(|name| name.to_string_lossy().into_owned());
    up.chain(down).collect::<Vec<String>>().join("/")
}

/// In a folder that somebody named there may be other pictures of the same names: they stay, beside the new
/// ones.
pub(crate) fn keep_pictures_there(folder: Option<&Path>, written: &Written) -> Result<(), Failure> {
    let Some(folder) = folder else { return Ok(()) };
    for media in &written.media {
        let path = folder.join(media.name.as_str());
        let is_other = std::fs::read(&path).is_ok_and(|there| there[..] != media.bytes[..]);
        if is_other {
            let backup = backup_path(&path);
            let failed = |error| Failure::Read { path: path.clone(), error };
            std::fs::rename(&path, &backup).map_err(failed)?;
            say(&format!("{} was there; it is {} now", path.display(), backup.display()));
        }
    }
    Ok(())
}

pub(crate) fn put(
    target: Option<&Path>,
    pictures: Option<PathBuf>,
    written: &Written,
) -> Result<(), Failure> {
    let Some(target) = target else { return print(&written.bytes) };
    if let Some(folder) = pictures {
        for media in &written.media {
            write_atomically(&folder.join(media.name.as_str()), &media.bytes)?;
        }
        if !written.media.is_empty() {
            let count = crate::talk::counted(written.media.len(), "picture", "pictures");
            say(&format!("{count} in {}", folder.display()));
        }
    }
    if let Some(sheet) = &written.style_sheet {
        write_atomically(&target.with_file_name(style_sheet_name(target)), sheet.as_bytes())?;
    }
    write_atomically(target, &written.bytes)?;
    Ok(())
}
