//! `obblet check --fix`: what a repair pass can mend, in the file itself, with a backup.

use crate::convert::{read_source, resolver_beside, shown_name, source_format};
use crate::failure::Failure;
use obblet::check::{mend, mend_source};
use obblet::compare::{CompareOptions, compare};
use obblet::findings::{Code, Finding, FindingKind};
use obblet::house::KeepLooks;
use obblet::{ConvertError, Converter, Format, House, WriteOptions};
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

/// Mends a file: a text block by block, but for LaTeX, whose blocks have no known ends; a page as
/// `obblet clean` does; and a Word file only where nothing else in it changes.
pub(crate) fn fix(path: &Path, format: Option<Format>, house: &House) -> Result<Fixed, Failure> {
    let source = read_source(path)?;
    let format = source_format(path, format, &source);
    let failed = |error: ConvertError| Failure::Convert { file: shown_name(path), error };
    let resolver = resolver_beside(path);
    match format {
        Format::Html | Format::Word => rewritten(path, format, &source, house),
        Format::Latex => {
            let converter = Converter::default().from(format).resolver(&resolver);
            let mut reading =
                converter.read_as_it_is(&source, &house.read_options()).map_err(failed)?;
            let found = mend(&mut reading.document, house).into_vec();
            Ok(match found.is_empty() {
                true => Fixed::Nothing,
                false => Fixed::Refused(format!("LaTeX is mended by hand ({})", counts(&found))),
            })
        }
        _ if std::str::from_utf8(&source).is_err() => {
            Ok(Fixed::Refused("it is not in UTF-8; save it as that first".into()))
        }
        _ => {
            let mended = mend_source(&source, format, house, &resolver)
                .map_err(|error| failed(error.into()))?;
            match mended {
                None => Ok(Fixed::Nothing),
                Some(mended) => put(path, &source, mended.text.as_bytes(), counts(&mended.mended)),
            }
        }
    }
}

fn put(path: &Path, before: &[u8], after: &[u8], what: String) -> Result<Fixed, Failure> {
    if before == after {
        return Ok(Fixed::Nothing);
    }
    let backup = backup_path(path);
    write_atomically(&backup, before)?;
    write_atomically(path, after)?;
    Ok(Fixed::Mended { what, backup })
}

/// The whole file, written anew.
fn rewritten(path: &Path, format: Format, source: &[u8], house: &House) -> Result<Fixed, Failure> {
    let failed = |error: ConvertError| Failure::Convert { file: shown_name(path), error };
    let options = options_for(path, format, source, house)?;
    let resolver = resolver_beside(path);
    let converter = Converter::with_options(&options).from(format).resolver(&resolver);
    let mut reading = converter.read(source).map_err(failed)?;
    let mended = mend(&mut reading.document, house).into_vec();
    let repaired = |finding: &&Finding| finding.kind() == FindingKind::Repaired;
    let by_reader = reading.findings.iter().filter(repaired).count();
    if mended.is_empty() && by_reader == 0 {
        return Ok(Fixed::Nothing);
    }
    let written = converter.write(&reading.document).map_err(failed)?;
    let findings = reading.findings.iter().chain(&written.findings);
    let lost: Vec<Finding> =
        findings.filter(|finding| finding.kind() == FindingKind::Lost).cloned().collect();
    if format == Format::Word {
        let again = converter.read(&written.bytes).map_err(failed)?;
        let comparison = compare(&reading.document, &again.document, &CompareOptions::default());
        if let Some(difference) = comparison.differences.first() {
            let what = format!("{} {}: {}", difference.kind, difference.change, difference.what);
            return Ok(Fixed::Refused(format!(
                "writing it anew would change more than that ({what})"
            )));
        }
        // Looks that are not read would go without a word.
        let unread = reading.findings.iter().filter(|finding| finding.code == Code::LooksNotRead);
        let lost: Vec<Finding> = lost.iter().chain(unread).cloned().collect();
        if !lost.is_empty() {
            return Ok(Fixed::Refused(format!("writing it anew would lose {}", counts(&lost))));
        }
    }
    let mut what = counts(&mended);
    if by_reader > 0 {
        what.push_str(if what.is_empty() { "its HTML" } else { ", and its HTML" });
    }
    if !lost.is_empty() {
        what.push_str(&format!(" (lost: {})", counts(&lost)));
    }
    put(path, source, &written.bytes, what)
}

/// How a file is written in its own format: with all that it says, and as it looks.
fn options_for(
    path: &Path,
    format: Format,
    source: &[u8],
    wanted: &House,
) -> Result<WriteOptions, Failure> {
    let mut house = match format {
        Format::Html => {
            let mut house = House::for_cleaning(source);
            house.characters.punctuation = wanted.characters.punctuation;
            house
        }
        _ => House::default(),
    };
    if format == Format::Word {
        house.looks.keep = KeepLooks::Classes;
        // Its own styles, page set-up and headers stay.
        let shown = path.display().to_string();
        house.set("word.pattern", &shown).map_err(|error| Failure::House { file: shown, error })?;
        read_house_files(&mut house, Path::new(""))?;
    }
    // What only a person can say stays missing.
    Ok(WriteOptions { house, leaves_undescribed: true, ..WriteOptions::format(format) })
}

/// `3 spaces-doubled, 1 list-typed`
fn counts(mended: &[Finding]) -> String {
    let mut counts: BTreeMap<&str, u32> = BTreeMap::new();
    for finding in mended {
        *counts.entry(finding.code.name()).or_default() += finding.count;
    }
    let parts: Vec<String> =
        counts.into_iter().map(|(name, count)| format!("{count} {name}")).collect();
    parts.join(", ")
}
