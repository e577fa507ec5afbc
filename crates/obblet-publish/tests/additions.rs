//! A format, a writer, a repair pass and a code of somebody else's go through a folder as Obblet's own do.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod scene;

use obblet::check::{CheckOptions, check};
use obblet::document::build::paragraph;
use obblet::document::{Block, BlockKind, Document, Inline, Place, plain_text, walk_inlines_mut};
use obblet::findings::{Code, CodeFacts, FindingKind, Findings, Severity, Topic, Weight};
use obblet::repair::Repair;
use obblet::{
    Additions, Converter, Format, FormatFacts, ReadError, ReadOptions, Reader, Resolver,
    WriteError, WriteOptions, Writer,
};
use obblet_publish::{Plan, PublishOptions, State, check_folder};
use scene::Scene;

static TIDE_TABLE: FormatFacts = FormatFacts {
    name: "tides",
    title: "Tide table",
    extensions: &["tides"],
    media_type: "text/x-tides",
};
const TIDES: Format = Format::Other(&TIDE_TABLE);

static GAUGE_UNREAD: CodeFacts = CodeFacts {
    name: "gauge-unread",
    kind: FindingKind::Lost,
    severity: Severity::Warning,
    weight: Weight::Content,
    topic: Topic::Source,
    message: "the reading “{}” was left out",
    explanation: "A reading that begins with a question mark is not certain.",
    mending: "Read the gauge again.",
};

/// A reading a line; those that are not certain are left out.
#[derive(Debug)]
struct TideReader;

impl Reader for TideReader {
    fn read(
        &self,
        source: &[u8],
        _: &ReadOptions,
        resolver: &dyn Resolver,
    ) -> Result<(Document, Findings), ReadError> {
        let text = std::str::from_utf8(source).map_err(|error| ReadError::Other(error.into()))?;
        let (mut blocks, mut findings) = (Vec::new(), Findings::new());
        let mut start = 0;
        for line in text.split_inclusive('\n') {
            let place = Place::new(start, start + line.len());
            start += line.len();
            let reading = line.trim();
            match (reading.strip_prefix('?'), reading.strip_prefix("see ")) {
                (Some(unsure), _) => {
                    findings.add_about(Code::Other(&GAUGE_UNREAD), unsure.trim(), Some(place));
                }
                (_, Some(file)) => {
                    let there = resolver.resolve(file).unwrap_or_default();
                    blocks.push(paragraph(String::from_utf8_lossy(&there).trim()));
                }
                _ => blocks.push(paragraph(reading)),
            }
        }
        Ok((Document::of(blocks), findings))
    }
}

/// The words of each block, a line each.
#[derive(Debug)]
struct TideWriter;

impl Writer for TideWriter {
    fn write(
        &self,
        document: &Document,
        _: &WriteOptions,
    ) -> Result<(Vec<u8>, Findings), WriteError> {
        if document.blocks.is_empty() {
            return Err(WriteError::Other("there are no tides".into()));
        }
        let lines: Vec<String> = document.blocks.iter().map(words_of).collect();
        Ok((lines.join("\n").into_bytes(), Findings::new()))
    }
}

fn words_of(block: &Block) -> String {
    match &block.kind {
        BlockKind::Paragraph(content) => plain_text(content),
        BlockKind::Heading(heading) => plain_text(&heading.content),
        _ => String::new(),
    }
}

/// Spells noon as the Trust does, in a version that is part of what pages depend on.
#[derive(Debug)]
struct Noon {
    #[allow(dead_code, reason = "it is shown by Debug")]
    version: u8,
    word: &'static str,
}

impl Repair for Noon {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        walk_inlines_mut(&mut document.blocks, |place, inlines| {
            for inline in inlines {
                let Inline::Text(text) = inline else { continue };
                if text.contains("12:00") {
                    *text = text.replace("12:00", self.word).into();
                    findings.count(Code::CharactersRepaired, "noon", Some(place));
                }
            }
        });
    }
}

fn additions(version: u8, word: &'static str) -> Additions {
    Additions::new()
        .with_reader(TIDES, TideReader)
        .with_writer(TIDES, TideWriter)
        .with_last_pass(Noon { version, word })
}

fn options(version: u8, word: &'static str) -> PublishOptions {
    PublishOptions { additions: additions(version, word), ..PublishOptions::default() }
}

#[test]
fn a_folder_holds_documents_of_a_format_of_somebody_elses() {
    let scene = Scene::new(&[
        ("may.tides", "high 12:00\n? low 18:10\nsee june.part\n"),
        ("june.part", "high 13:20\n"),
        ("guide.md", "# Guide\n\nSee [May](may.tides), about 12:00.\n"),
    ]);
    let report = scene.publish(&options(1, "noon"));
    let page = scene.page("may.html");
    assert!(page.contains("<p>high noon</p>") && page.contains("<p>high 13:20</p>"), "{page}");
    assert!(!page.contains("18:10"), "{page}");
    let guide = scene.page("guide.html");
    assert!(guide.contains("<a href=\"may.html\">May</a>, about noon"), "{guide}");
    let lines: Vec<String> = report
        .outcomes
        .iter()
        .flat_map(|outcome| outcome.findings.iter().map(|found| found.line(&outcome.source)))
        .filter(|line| line.contains("gauge"))
        .collect();
    let wanted = "may.tides:2:1: lost: the reading “low 18:10” was left out [gauge-unread]";
    assert_eq!(lines, [wanted]);

    // Without them it is a file like any other.
    let plan = scene.plan(&PublishOptions::default());
    assert!(plan.entries().iter().any(|entry| entry.target == "may.tides"));
}

#[test]
fn pages_are_made_anew_when_what_is_added_changes() {
    let scene = Scene::new(&[("may.tides", "high 12:00\n"), ("june.part", "x")]);
    scene.publish(&options(1, "noon"));
    let unchanged = |plan: &Plan| plan.count(State::Unchanged);
    assert_eq!(unchanged(&scene.plan(&options(1, "noon"))), 2);
    assert_eq!(unchanged(&scene.plan(&options(2, "noon"))), 0);
    // What a source includes is known as it is of other formats.
    scene.put("may.tides", b"see june.part\n");
    scene.publish(&options(1, "noon"));
    scene.put("june.part", b"y");
    let plan = scene.plan(&options(1, "noon"));
    let may = plan.entries().iter().find(|entry| entry.source == "may.tides").unwrap();
    assert_eq!(may.state, State::Changed, "{}", may.why);
}

#[test]
fn a_folder_is_written_and_checked_in_it_too() {
    let scene = Scene::new(&[("may.md", "# May\n\nHigh at 12:00.\n"), ("june.tides", "? low\n")]);
    let mut options = options(1, "noon");
    options.house = obblet::House::built_in("body").unwrap();
    options.house.page.format = TIDES;
    scene.publish(&options);
    assert_eq!(scene.page("may.tides"), "May\nHigh at noon.");

    let checked = check_folder(&scene.source(), &options, &()).unwrap();
    let june = checked.iter().find(|file| file.file == "june.tides").unwrap();
    let findings = june.findings.as_ref().unwrap();
    assert!(findings.iter().any(|finding| finding.code == Code::Other(&GAUGE_UNREAD)));
}

#[test]
fn what_nobody_brings_is_said() {
    let tides = Converter::to(Format::Html).from(TIDES).convert(b"high\n");
    assert_eq!(tides.unwrap_err().to_string(), "there is no reader for Tide table");
    let converter = Converter::to(TIDES).from(Format::Markdown);
    assert_eq!(
        converter.convert(b"high\n").unwrap_err().to_string(),
        "there is no writer for Tide table"
    );
    let converter = converter.additions(additions(1, "noon"));
    assert_eq!(converter.convert(b"").unwrap_err().to_string(), "there are no tides");
    let tides = Converter::default().from(TIDES).additions(additions(1, "noon"));
    let said = tides.convert(b"\xFF\xFE\xFD\xFC").unwrap_err().to_string();
    assert!(said.starts_with("invalid utf-8"), "{said}");
}

#[test]
fn a_reader_takes_the_place_of_obblets_own() {
    let additions = Additions::new().with_reader(Format::Markdown, TideReader);
    let converter = Converter::default().from(Format::Markdown).additions(additions);
    let reading = converter.read_as_it_is(b"# High\n", &ReadOptions::default()).unwrap();
    assert_eq!(reading.document, Document::of(vec![paragraph("# High")]));

    // In a check too, of pages as of other documents.
    let additions = Additions::new().with_reader(Format::Html, TideReader);
    let options = CheckOptions { additions, ..CheckOptions::default() };
    let checked = check(b"? low\n", Format::Html, &options, &()).unwrap();
    let codes: Vec<Code> = checked.findings.iter().map(|finding| finding.code).collect();
    assert!(codes.contains(&Code::Other(&GAUGE_UNREAD)), "{codes:?}");
    assert!(!codes.contains(&Code::DoctypeMissing), "{codes:?}");
}
