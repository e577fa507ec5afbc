//! `obblet check --fix`: what a repair pass can mend, in the file itself, with a backup.

use crate::convert::{read_source, resolver_beside, shown_name, source_format};
use crate::failure::Failure;
use obblet::check::mend;
use obblet::compare::{CompareOptions, Kind, compare};
use obblet::document::SourceMap;
use obblet::findings::Findings;
use obblet::house::KeepLooks;
use obblet::{ConvertError, Format, House, WriteOptions, read_for, write};
use obblet_publish::{backup_path, read_house_files, write_atomically};
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

/// What became of a file.
pub(crate) enum Fixed {
    /// There is nothing that a pass can mend.
    Nothing,
    /// It was left as it is, and why.
    Refused(String),
    /// It was written anew.
    Mended { what: String, backup: PathBuf },
}

/// Mends a file. Where writing it anew would change anything beside what was mended, it is left as it
/// is.
pub(crate) fn fix(path: &Path, format: Option<Format>, house: &House) -> Result<Fixed, Failure> {
    let source = read_source(path)?;
    let format = source_format(path, format, &source);
    let failed = |error: ConvertError| Failure::Convert { file: shown_name(path), error };
    let options = options_for(path, format, &source);
    let resolver = resolver_beside(path);
    let mut reading =
        read_for(&source, format, &options, &resolver).map_err(|error| failed(error.into()))?;
    if matches!(&reading.map, SourceMap::Files(files) if files.len() > 1) {
        return Ok(Fixed::Refused("it includes other files; mend these one by one".into()));
    }
    let mended = mend(&mut reading.document, house);
    if mended.is_empty() {
        return Ok(Fixed::Nothing);
    }
    let written =
        write(&reading.document, &options).map_err(|error| failed(error.into()))?;
    if written.bytes == source {
        return Ok(Fixed::Nothing);
    }
    let again = read_for(&written.bytes, format, &options, &resolver)
        .map_err(|error| failed(error.into()))?;
    let ignore = if format == Format::Html { vec![Kind::Metadata] } else { Vec::new() };
    let comparison = compare(&reading.document, &again.document, &CompareOptions { ignore });
    if let Some(difference) = comparison.differences.first() {
        let what = format!("{} {}: {}", difference.kind, difference.change, difference.what);
        return Ok(Fixed::Refused(format!("writing it anew would change more than that ({what})")));
    }
    let backup = backup_path(path);
    write_atomically(&backup, &source)?;
    write_atomically(path, &written.bytes)?;
    Ok(Fixed::Mended { what: counts(&mended), backup })
}

/// How a file is written in its own format: with all that it says, and as it looks.
fn options_for(path: &Path, format: Format, source: &[u8]) -> WriteOptions {
    let mut house = match format {
        Format::Html => House::for_cleaning(source),
        _ => House::default(),
    };
    if format == Format::Word {
        house.looks.keep = KeepLooks::Classes;
        // Its own styles, page set-up and headers stay.
        let shown = path.display().to_string();
        if house.set("word.pattern", &shown).is_ok() && read_house_files(&mut house, Path::new("")).is_err() {
            house = House::default();
        }
    }
    WriteOptions { house, ..WriteOptions::format(format) }
}

/// `3 spaces-doubled, 1 list-typed`
fn counts(mended: &Findings) -> String {
    let mut counts: BTreeMap<&str, u32> = BTreeMap::new();
    for finding in mended {
        *counts.entry(finding.code.name()).or_default() += finding.count;
    }
    let parts: Vec<String> =
        counts.into_iter().map(|(name, count)| format!("{count} {name}")).collect();
    parts.join(", ")
}
