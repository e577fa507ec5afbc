//! `obblet compare`: what differs between two documents.

use crate::arguments::CompareArguments;
use crate::convert::{read_source, resolver_beside, shown_name, source_format};
use crate::failure::{Code, Failure};
use crate::house::chosen;
use crate::talk::{harmless, print, say_findings};
use obblet::address::{seen_from_elsewhere, with_addresses_turned};
use obblet::compare::{CompareOptions, Comparison, Count, Difference, compare};
use obblet::document::{Inline, Node, PictureSource, Position, Visit, walk};
use obblet::{Converter, Format, ReadOptions, Reading};
use std::collections::HashMap;
use std::path::Path;

pub(crate) fn run(arguments: &CompareArguments) -> Result<Code, Failure> {
    if arguments.left == Path::new("-") && arguments.right == Path::new("-") {
        return Err(Failure::Usage("only one of the two can be standard input".into()));
    }
    let read_options = chosen(&arguments.house)?.read_options().with_nodes_for_html();
    let left = reading(&arguments.left, arguments.left_as, &read_options, arguments.findings)?;
    let right = reading(&arguments.right, arguments.right_as, &read_options, arguments.findings)?;
    let right = spelled_as_left(arguments, &left, right);
    let options = CompareOptions { ignore: arguments.ignore.clone() };
    let mut comparison = compare(&left.document, &right.document, &options);
    comparison.locate(&left.map, &right.map);
    let names = (shown_name(&arguments.left), shown_name(&arguments.right));
    let text = if arguments.json {
        as_json(&comparison, &names)
    } else {
        harmless(&as_text(&comparison, &names))
    };
    print(text.as_bytes())?;
    Ok(if comparison.is_same() { Code::Done } else { Code::DoesNotHold })
}

/// The right document; where its links lead to a file that links of the left one lead to too, they are
/// spelled as there. In two folders the same file has two addresses.
fn spelled_as_left(arguments: &CompareArguments, left: &Reading, right: Reading) -> Reading {
    let folders = (absolute_folder(&arguments.left), absolute_folder(&arguments.right));
    let (Some(left_folder), Some(right_folder)) = folders else { return right };
    if left_folder == right_folder {
        return right;
    }
    let notes = left.document.notes.iter().map(|note| note.content.as_slice());
    let parts = std::iter::once(left.document.blocks.as_slice()).chain(notes);
    let addresses = parts.flat_map(walk).filter_map(|visit| match visit {
        Visit::Enter(Node::Inline(Inline::Link(link))) => Some(link.address.as_str()),
        Visit::Enter(Node::Inline(Inline::Picture(picture))) => match &picture.source {
            PictureSource::Address(address) => Some(address.as_str()),
            PictureSource::Media(_) => None,
        },
        _ => None,
    });
    let known: HashMap<String, &str> = addresses
        .filter_map(|address| Some((seen_from_elsewhere(address, &left_folder)?, address)))
        .collect();
    let document = with_addresses_turned(&right.document, |address| {
        let file = seen_from_elsewhere(address, &right_folder)?;
        known.get(&file).map(|spelled| (*spelled).to_string())
    });
    Reading { document, ..right }
}

/// The folder of a file, from the root of the system on; none for standard input.
fn absolute_folder(file: &Path) -> Option<String> {
    let file = std::path::absolute(file).ok().filter(|_| file != Path::new("-"))?;
    Some(file.parent()?.to_string_lossy().replace('\\', "/"))
}

fn reading(
    path: &Path,
    format: Option<Format>,
    options: &ReadOptions,
    say: bool,
) -> Result<Reading, Failure> {
    let source = read_source(path)?;
    let format = source_format(path, format, &source);
    let shown = shown_name(path);
    let resolver = resolver_beside(path);
    let converter = Converter::default().from(format).resolver(&resolver);
    let mut reading = converter
        .read_as_it_is(&source, options)
        .map_err(|error| Failure::Convert { file: shown.clone(), error })?;
    if say {
        let mut findings = std::mem::take(&mut reading.findings);
        findings.locate(&reading.map);
        say_findings(&shown, &findings.into_vec());
    }
    Ok(reading)
}

/// The counts as a table, then each difference with its place in both sources.
fn as_text(comparison: &Comparison, names: &(String, String)) -> String {
    let mut text = counts_table(&comparison.counts);
    if comparison.is_same() {
        text.push_str("\nThe two documents say the same.\n");
        return text;
    }
    text.push('\n');
    for difference in &comparison.differences {
        text.push_str(&line(difference, names));
        text.push('\n');
    }
    text
}

fn counts_table(counts: &[Count]) -> String {
    const HEADS: [&str; 8] = ["", "left", "right", "kept", "changed", "moved", "missing", "extra"];
    let mut rows = vec![HEADS.map(str::to_string)];
    for count in counts {
        // A zero says nothing here; the eye finds what is not zero.
        let shown = |number: usize| if number == 0 { "·".to_string() } else { number.to_string() };
        rows.push([
            count.kind.to_string(),
            count.left.to_string(),
            count.right.to_string(),
            shown(count.kept),
            shown(count.changed),
            shown(count.moved),
            shown(count.missing),
            shown(count.extra),
        ]);
    }
    let width =
        |column: usize| rows.iter().map(|row| row[column].chars().count()).max().unwrap_or(0);
    let widths: Vec<usize> = (0..HEADS.len()).map(width).collect();
    let mut table = String::new();
    for row in &rows {
        let cells: Vec<String> = row
            .iter()
            .zip(&widths)
            .enumerate()
            .map(|(column, (cell, width))| match column {
                0 => format!("{cell:<width$}"),
                _ => format!("{cell:>width$}"),
            })
            .collect();
        table.push_str(cells.join("  ").trim_end());
        table.push('\n');
    }
    table
}

fn line(difference: &Difference, names: &(String, String)) -> String {
    let place = |name: &str, position: Option<Position>| {
        position.map(|position| format!("{name}:{}", position.line))
    };
    let places =
        [place(&names.0, difference.left_position), place(&names.1, difference.right_position)];
    let places: Vec<String> = places.into_iter().flatten().collect();
    let places =
        if places.is_empty() { String::new() } else { format!("{}: ", places.join(" | ")) };
    format!("{places}{} {}: {}", difference.kind, difference.change, difference.what)
}

fn as_json(comparison: &Comparison, names: &(String, String)) -> String {
    let value = serde_json::json!({
        "left": names.0,
        "right": names.1,
        "same": comparison.is_same(),
        "counts": comparison.counts,
        "differences": comparison.differences,
    });
    format!("{value:#}\n")
}
