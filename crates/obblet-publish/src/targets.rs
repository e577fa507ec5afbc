//! What the files of the output folder are called.

use crate::entry::{Action, Entry};
use obblet::Format;
use obblet::formats::html::Syntax;
use std::collections::HashSet;

/// What the name of a page ends with, the period too.
pub(crate) fn ending(house: &obblet::House, format: Format) -> String {
    match (format, house.page.syntax) {
        (Format::Html, Syntax::Xhtml) => ".xhtml".into(),
        (format, _) => format!(".{}", format.extension()),
    }
}

/// Gives every file its target. Where two would get the same one, copies come first, since nobody
/// rewrites the links to them in other copies; a page that comes too late keeps its whole source
/// name: `guide.docx.html`. Entries are sorted by source.
pub(crate) fn choose(entries: &mut [Entry], format: Format) {
    let mut taken: HashSet<String> = HashSet::new();
    for pages in [false, true] {
        let is_page = |entry: &Entry| matches!(entry.action, Action::Convert(_));
        for entry in entries.iter_mut().filter(|entry| is_page(entry) == pages) {
            match entry.action {
                Action::Convert(_) => {}
                Action::Copy => {
                    copy_target(entry, &mut taken);
                    continue;
                }
                Action::LeaveOut | Action::Remove => continue,
            }
            let ending = ending(&entry.scope.house, format);
            let wanted = page_name(&entry.source, entry.stated.as_deref(), &ending);
            entry.target = portable(&wanted);
            if entry.target != wanted {
                entry.notes.push(format!("“{wanted}” is no name for a file on every system"));
            }
            // Some file systems cannot tell names apart that differ by case only.
            if !taken.insert(entry.target.to_lowercase()) {
                entry.notes.push(format!("another file becomes “{}”", entry.target));
                let whole = portable(&format!("{}{ending}", entry.source));
                entry.target = free(&whole, &ending, &mut taken);
            }
        }
    }
}

fn copy_target(entry: &mut Entry, taken: &mut HashSet<String>) {
    entry.target = portable(&entry.source);
    if entry.target != entry.source {
        entry.notes.push(format!("“{}” is no name for a file on every system", entry.source));
    }
    if !taken.insert(entry.target.to_lowercase()) {
        entry.notes.push("another file has this name but for small and capital letters".into());
        let name = entry.target.rsplit('/').next().unwrap_or_default();
        let ending =
            name.rfind('.').map_or("", |at| name.get(at..).unwrap_or_default()).to_string();
        entry.target = free(&entry.target, &ending, taken);
    }
}

/// A name that nothing has yet, by underscores before its ending.
fn free(wanted: &str, ending: &str, taken: &mut HashSet<String>) -> String {
    let stem = wanted.strip_suffix(ending).unwrap_or(wanted).to_string();
    let mut name = wanted.to_string();
    let mut marks = String::new();
    while !taken.insert(name.to_lowercase()) {
        marks.push('_');
        name = format!("{stem}{marks}{ending}");
    }
    name
}

fn page_name(source: &str, stated: Option<&str>, ending: &str) -> String {
    let (folder, file) = source.rsplit_once('/').unwrap_or(("", source));
    let stem = file.rsplit_once('.').map_or(file, |(stem, _)| stem);
    let name = format!("{}{ending}", stated.unwrap_or(stem));
    if folder.is_empty() { name } else { format!("{folder}/{name}") }
}

/// Names that Windows keeps for devices, whatever follows the first period.
const DEVICES: [&str; 22] = [
    "aux", "com1", "com2", "com3", "com4", "com5", "com6", "com7", "com8", "com9", "con", "lpt1",
    "lpt2", "lpt3", "lpt4", "lpt5", "lpt6", "lpt7", "lpt8", "lpt9", "nul", "prn",
];

/// A path whose names every system takes: no signs that one keeps for itself, no device's name, no
/// period or space at the end.
fn portable(path: &str) -> String {
    let names: Vec<String> = path.split('/').map(portable_name).collect();
    names.join("/")
}

pub(crate) fn portable_name(name: &str) -> String {
    let is_kept =
        |c: char| c.is_control() || matches!(c, '<' | '>' | ':' | '"' | '|' | '?' | '*' | '\\');
    let mut name: String = name.chars().map(|c| if is_kept(c) { '_' } else { c }).collect();
    let stem = name.split('.').next().unwrap_or_default().trim_end();
    if DEVICES.iter().any(|device| device.eq_ignore_ascii_case(stem)) {
        name.insert(stem.len(), '_');
    }
    if name.is_empty() || name.ends_with(['.', ' ']) {
        name.push('_');
    }
    name
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_fit_every_system() {
        let cases = [
            ("a/tide mill.html", "a/tide mill.html"),
            ("con.html", "con_.html"),
            ("x/Aux", "x/Aux_"),
            ("nul .md.html", "nul_ .md.html"),
            ("console.html", "console.html"),
            ("12:30?.html", "12_30_.html"),
            ("a. /b.", "a. _/b._"),
            ("..", ".._"),
            ("", "_"),
        ];
        for (name, expected) in cases {
            assert_eq!(portable(name), expected);
        }
    }
}
