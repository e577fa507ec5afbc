//! What each format can carry: every construct through every writer and back. A construct comes back
//! as it was, or the ledger says so. The outcome is the page `docs/fidelity.md`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

mod fidelity_page;
mod fixture;

use fidelity_page::{Fate, Table, page, reason};
use obblet::compare::{Change, CompareOptions, Difference, Kind, compare};
use obblet::document::Document;
use obblet::findings::{Code, Finding};
use obblet::house::KeepLooks;
use obblet::{Converter, Format, House, ReadOptions, Resolver, WriteOptions, Written, write};
use serde_json::Value;
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

/// All that a destination can be asked to keep.
fn house() -> House {
    let mut house = House::default();
    house.looks.keep = KeepLooks::Inline;
    house.page.contents = 0;
    house.review.comments = true;
    house.repairs.sources = Vec::new();
    house
}

/// To read all that can be kept; looks where a construct is about these.
fn read_options(looks: bool, keeps_hidden: bool) -> ReadOptions {
    let mut read_options = house().read_options().with_nodes_for_html();
    read_options.org.keeps_hidden = keeps_hidden;
    (read_options.html.looks, read_options.word.looks, read_options.latex.looks) =
        (looks, looks, looks);
    read_options
}

fn options(format: Format) -> WriteOptions {
    WriteOptions {
        house: house(),
        picture_folder: Some("beside".into()),
        ..WriteOptions::format(format)
    }
}

/// What is to be said of a construct, and where it is.
struct Construct {
    name: String,
    document: Document,
    /// What of the tree it is about, beside what is said: attributes, looks.
    about: BTreeSet<String>,
    /// Whether it is about the document as a whole.
    is_metadata: bool,
    /// Whether what a source hides is read. It is not for metadata, whose settings would be fields
    /// too, and for works, which stand in a hidden block.
    keeps_hidden: bool,
}

fn is_about_looks(about: &BTreeSet<String>) -> bool {
    about.iter().any(|feature| feature.starts_with("looks."))
}

fn constructs() -> Vec<Construct> {
    let mut all = Vec::new();
    for case in fixture::cases("fidelity.txt") {
        let about: BTreeSet<String> =
            case.part("about").split_whitespace().map(String::from).collect();
        let is_metadata = case.part("kind") == "metadata";
        let keeps_hidden = case.part("kind").is_empty();
        let read_options = read_options(is_about_looks(&about), keeps_hidden);
        let mut document = match case.has("tree") {
            true => serde_json::from_str(case.part("tree"))
                .unwrap_or_else(|error| panic!("{}: {error}", case.name)),
            false => {
                let source = Format::ALL.into_iter().find(|format| case.has(format.name()));
                let format = source.unwrap_or_else(|| panic!("{} has no source", case.name));
                let source = case.part(format.name()).to_owned() + "\n";
                Converter::default()
                    .from(format)
                    .read_as_it_is(source.as_bytes(), &read_options)
                    .unwrap()
                    .document
            }
        };
        // A page has a language, in any case.
        if !is_metadata {
            document.metadata.language.get_or_insert_with(|| "en".into());
            document.metadata.extra.clear();
        }
        let missing: Vec<&String> =
            about.iter().filter(|one| !features(&document).contains(*one)).collect();
        assert!(missing.is_empty(), "{} has not {missing:?}: {:?}", case.name, features(&document));
        all.push(Construct { name: case.name, document, about, is_metadata, keeps_hidden });
    }
    all
}

/// Everything that a tree says, as `key.inner` or `key=word`.
fn features(document: &Document) -> BTreeSet<String> {
    fn walk(value: &Value, parent: &str, key: &str, found: &mut BTreeSet<String>) {
        match value {
            Value::Null | Value::Bool(false) => {}
            Value::Object(map) => {
                found.insert(format!("{parent}.{key}"));
                map.iter().for_each(|(inner, value)| walk(value, key, inner, found));
            }
            Value::Array(list) => {
                if !list.is_empty() {
                    found.insert(format!("{parent}.{key}"));
                }
                list.iter().for_each(|value| walk(value, parent, key, found));
            }
            Value::String(text) => {
                found.insert(format!("{key}={text}"));
                found.insert(format!("{parent}.{key}"));
            }
            _ => {
                found.insert(format!("{parent}.{key}"));
            }
        }
    }
    let mut found = BTreeSet::new();
    walk(&serde_json::to_value(document).unwrap(), "", "", &mut found);
    found
}

/// The files that a writer has made beside its target.
struct Beside<'w>(&'w Written);

impl Resolver for Beside<'_> {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        let name = address.rsplit('/').next().unwrap_or(address);
        let media = self.0.media.iter().find(|media| media.name == name)?;
        Some(media.bytes.to_vec())
    }
}

/// What became of a document on its way through a format, and what was said; the document itself.
fn through(
    construct: &Construct,
    document: &Document,
    format: Format,
) -> (Fate, Vec<Finding>, Document) {
    let written = write(document, &options(format)).unwrap();
    let read_options = read_options(is_about_looks(&construct.about), construct.keeps_hidden);
    let beside = Beside(&written);
    let mut again = Converter::default()
        .from(format)
        .resolver(&beside)
        .read_as_it_is(&written.bytes, &read_options)
        .unwrap();
    if format == Format::Latex {
        // What names no language is in English there.
        again.document.metadata.language.get_or_insert_with(|| "en".into());
    }
    if !construct.is_metadata {
        again.document.metadata.extra.clear();
    }
    // The account of words is no word about a construct, and excuses nothing here.
    let account = [Code::TextAdded, Code::TextMoved, Code::TextUnaccounted];
    let all = written.findings.iter().chain(&again.findings);
    let said: Vec<Finding> =
        all.filter(|finding| !account.contains(&finding.code)).cloned().collect();
    (Fate::of(&said), said, again.document)
}

/// Looks that say what a format says.
const MEANINGS: [(&str, &str); 6] = [
    ("looks.italic", "format=emphasis"),
    ("looks.weight", "format=strong"),
    ("looks.underline", "format=underline"),
    ("looks.strike", "format=struck"),
    ("looks.small_capitals", "format=small-capitals"),
    ("looks.raise", "format=superscript"),
];

/// Whether all looks that a construct is about are there as formats that say the same.
fn is_meant(construct: &Construct, found: &BTreeSet<String>) -> bool {
    construct.about.iter().all(|feature| {
        let meant = MEANINGS.iter().find(|(looks, _)| *looks == feature.as_str());
        meant.is_some_and(|(_, format)| found.contains(*format))
    })
}

/// What is missing or other, in words: of what is said, of formats, and of what the construct is about.
fn difference(construct: &Construct, before: &Document, after: &Document) -> Option<String> {
    let is_asked = |feature: &&String| {
        construct.about.contains(*feature)
            || feature.strip_prefix("format=").is_some_and(|format| format != "plain")
    };
    let (before_features, after_features) = (features(before), features(after));
    // What looks so is read as what it means.
    let is_meant = |feature: &&String| {
        let meant = MEANINGS.iter().find(|(looks, _)| *looks == feature.as_str());
        meant.is_some_and(|(_, format)| after_features.contains(*format))
    };
    let lost: Vec<&str> = before_features
        .difference(&after_features)
        .filter(|feature| is_asked(feature) && !is_meant(feature))
        .map(String::as_str)
        .collect();
    if !lost.is_empty() {
        return Some(format!("gone: {}", lost.join(", ")));
    }
    let ignore = if construct.is_metadata { Vec::new() } else { vec![Kind::Metadata] };
    let comparison = compare(before, after, &CompareOptions { ignore });
    // What a format has to add, such as the language of a page or a format for looks, is no loss.
    let is_loss = |difference: &&Difference| {
        let is_extra = difference.change == Change::Extra;
        let may_be_more = matches!(difference.kind, Kind::Metadata | Kind::Emphasis);
        !(is_extra && may_be_more)
    };
    comparison
        .differences
        .iter()
        .find(is_loss)
        .map(|difference| format!("{} {}: {}", difference.kind, difference.change, difference.what))
}

const FORMATS: [Format; 6] =
    [Format::Html, Format::Word, Format::Markdown, Format::Org, Format::Latex, Format::Text];

/// What became of all constructs on their way between all formats.
#[derive(Default)]
struct Measured {
    tables: Vec<Table>,
    /// What a format cannot say at all, by its number and what it says of that.
    unsayable: BTreeMap<(usize, String), Vec<String>>,
    /// What is gone and nobody says so.
    silent: String,
}

impl Measured {
    fn of(constructs: &[Construct]) -> Self {
        let mut measured = Self::default();
        for (from, format) in FORMATS.into_iter().enumerate() {
            let mut table = Table { from: format, rows: Vec::new(), lost: BTreeMap::new() };
            for construct in constructs {
                measured.measure(construct, from, &mut table);
            }
            measured.tables.push(table);
        }
        measured
    }

    /// A construct as the format says it, and from there in all formats.
    fn measure(&mut self, construct: &Construct, from: usize, table: &mut Table) {
        let Construct { name, document, .. } = construct;
        let (fate, said, in_format) = through(construct, document, FORMATS[from]);
        let of_format = |way: &str, difference: &str| format!("{name}, {way}: {difference}\n");
        if fate == Fate::Kept
            && let Some(difference) = difference(construct, document, &in_format)
        {
            let way = format!("in {}", FORMATS[from].name());
            return self.silent.push_str(&of_format(&way, &difference));
        }
        let found = features(&in_format);
        let is_left_out = construct.about.iter().any(|feature| !found.contains(feature));
        if fate == Fate::Lost || is_left_out && !is_meant(construct, &found) {
            return self.unsayable.entry((from, reason(&said))).or_default().push(name.clone());
        }
        let mut fates = Vec::new();
        for (to, format) in FORMATS.into_iter().enumerate() {
            let (fate, said, after) = through(construct, &in_format, format);
            if fate == Fate::Kept
                && let Some(difference) = difference(construct, &in_format, &after)
            {
                let way = format!("from {} to {}", FORMATS[from].name(), format.name());
                self.silent.push_str(&of_format(&way, &difference));
            }
            if fate == Fate::Lost {
                table.lost.entry((to, reason(&said))).or_default().push(name.clone());
            }
            fates.push(fate);
        }
        table.rows.push((name.clone(), fates));
    }
}

#[test]
fn every_construct_is_kept_or_in_the_ledger() {
    let Measured { tables, unsayable, silent } = Measured::of(&constructs());
    assert!(silent.is_empty(), "lost without a word:\n{silent}");
    let page = page(&FORMATS, &tables, &unsayable);
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/fidelity.md");
    if std::env::var_os("OBBLET_WRITE_FIDELITY").is_some() {
        std::fs::write(&path, &page).unwrap();
    }
    let there = std::fs::read_to_string(&path).unwrap_or_default();
    assert!(there == page, "docs/fidelity.md is not current; run with OBBLET_WRITE_FIDELITY=1");
    // Few things are lost between formats that people work in.
    let cells =
        || (0..FORMATS.len() - 1).flat_map(|to| tables.iter().map(move |table| (table, to)));
    let of = |fate: Fate| cells().map(|(table, to)| table.count(to, fate)).sum::<usize>();
    let (kept, changed, lost) = (of(Fate::Kept), of(Fate::Changed), of(Fate::Lost));
    assert!(lost * 8 < kept + changed, "{kept} kept, {changed} changed, {lost} lost");
}

/// Every kind of block, inline, format, group, break, list and reference is among the constructs, and
/// every attribute and property of looks.
#[test]
fn nothing_is_left_out_of_the_constructs() {
    let mut found: BTreeSet<String> = BTreeSet::new();
    for construct in constructs() {
        for feature in features(&construct.document) {
            found.extend(feature.split(['.', '=']).map(String::from));
        }
    }
    let kinds = "paragraph heading list description-list quotation code verse table figure formula admonition \
        group thematic-break break contents bibliography foreign source-remark \
        text formatted link picture note-mark comment-mark anchor reference citation check-box timestamp ruby \
        plain emphasis strong underline struck deleted inserted superscript subscript small-capitals highlight \
        small-print keyboard-input program-output variable quoted work-title defined-term abbreviation \
        aside abstract disclosure statement drawer columns centred page-header page-footer \
        page column section headings figures tables \
        number equation-number label-and-number relative bracketed in-text author-only year-only silent \
        footnote endnote head body foot numbered bulleted pattern start check task planning tags \
        id classes pairs style looks language direction audiences revision \
        title subtitle authors description keywords date";
    let looks = "fonts size colour background weight italic underline strike capitals small_capitals \
        letter_spacing raise hidden align indent_start indent_end indent_first space_before space_after \
        line_height borders padding width height keep_with_next page_break_before writing columns tabs";
    let missing: Vec<&str> = kinds
        .split_whitespace()
        .chain(looks.split_whitespace())
        .filter(|kind| !found.contains(*kind))
        .collect();
    assert!(missing.is_empty(), "{missing:?}");
}
