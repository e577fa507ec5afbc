//! LaTeX on the cases in `fixtures/latex.txt` and `fixtures/latex_writer.txt`, with files that it
//! includes, and on hostile sources.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod beside;
mod examples;
mod fixture;

use beside::{Asked, Folder};
use obblet::compare::{CompareOptions, compare};
use obblet::document::Document;
use obblet::{Converter, Format, ReadOptions, WriteOptions, convert, read, write};

fn lines(findings: &obblet::findings::Findings) -> String {
    findings.iter().map(|f| f.line("m.tex")).collect::<Vec<_>>().join("\n")
}

#[test]
fn cases_read_as_they_say() {
    fixture::check("latex.txt", |case| {
        let options = WriteOptions::house("body").unwrap();
        let written = convert(case.part("source").as_bytes(), Format::Latex, &options).unwrap();
        vec![("html", written.text().to_string()), ("findings", lines(&written.findings))]
    });
}

#[test]
fn cases_are_written_as_they_say() {
    fixture::check("latex_writer.txt", |case| {
        let mut options = WriteOptions::house("body").unwrap();
        options.format = Format::Latex;
        let written = convert(case.part("source").as_bytes(), Format::Markdown, &options).unwrap();
        vec![("latex", written.text().to_string()), ("findings", lines(&written.findings))]
    });
}

#[test]
fn included_files_are_read_and_findings_name_them() {
    let folder = Folder::of([
        ("chapter.tex", "One\n\\strange{two}\n\\input{part}"),
        ("part.tex", "three \\input{chapter}"),
        ("mill.sty", "\\newcommand{\\mill@name}{Marrowby}\\newcommand{\\mill}{\\mill@name}"),
        ("works.bib", "@book{m, author={Marrow, E.}, title={Tides}, year=1893}"),
    ]);
    let source = "\\documentclass{article}\\usepackage{mill}\\addbibresource{works.bib}\n\
                  \\begin{document}\\mill: \\input{chapter} \\cite{m} \\input{missing}\n\\end{document}";
    let options = WriteOptions::house("body").unwrap();
    let written = Converter::with_options(&options)
        .from(Format::Latex)
        .resolver(&folder)
        .convert(source.as_bytes())
        .unwrap();
    assert!(written.text().contains("Marrowby: One\ntwo\nthree"), "{}", written.text());
    assert!(written.text().contains("Marrow 1893"), "{}", written.text());
    assert_eq!(
        lines(&written.findings),
        "m.tex:2:49: lost: the file “missing” is not there or may not be read; what it holds is \
         missing [include-missing]\n\
         chapter.tex:2:1: changed: the command “\\strange” is not known; only what its braces hold \
         was kept [command-unknown]\n\
         part.tex:1:7: problem: the file “chapter.tex” includes itself, and was not read again \
         [include-circular]"
    );
}

/// What is wanted of Markdown: LaTeX says all of it, or a finding tells.
#[test]
fn markdown_comes_back_from_latex() {
    let read_markdown = |text: &[u8]| -> Document {
        let options = ReadOptions::default().with_nodes_for_html();
        read(text, Format::Markdown, &options).unwrap().document
    };
    for (name, text) in examples::of_demo() {
        let document = read_markdown(text.as_bytes());
        let latex = write(&document, &WriteOptions::format(Format::Latex)).unwrap();
        let back = read(&latex.bytes, Format::Latex, &ReadOptions::default()).unwrap();
        let found = compare(&document, &back.document, &CompareOptions::default());
        let faults: Vec<String> = found
            .differences
            .iter()
            .map(|d| format!("{} {}: {}", d.kind, d.change, d.what))
            .filter(|fault| !fault.starts_with("metadata"))
            .collect();
        assert!(faults.is_empty(), "{name}\n{}\n{}", faults.join("\n"), latex.text());
        let again = write(&back.document, &WriteOptions::format(Format::Latex)).unwrap();
        let body = |text: &str| text.split("\\begin{document}").nth(1).unwrap().to_string();
        assert_eq!(body(latex.text()), body(again.text()), "{name}: a second trip");
    }
}

/// Every example of the specifications can be written, and read again.
#[test]
fn specification_examples_are_written_and_read_without_trouble() {
    for (_, example) in examples::of_specifications() {
        let written =
            convert(example.as_bytes(), Format::Markdown, &WriteOptions::format(Format::Latex))
                .unwrap();
        let back = convert(&written.bytes, Format::Latex, &WriteOptions::format(Format::Html));
        assert!(back.is_ok(), "{example}");
        let unbalanced = back.unwrap().findings.iter().any(|finding| {
            let code = finding.code.to_string();
            matches!(code.as_str(), "group-unclosed" | "group-unopened" | "command-unknown")
        });
        assert!(!unbalanced, "{example}\n{}", written.text());
    }
}

/// Nothing overflows, hangs, or grows out of bounds; what is deeper or longer is told.
#[test]
fn hostile_sources_end() {
    let deep = 20_000;
    let sources = [
        r"\def\a{\a\a}\a".to_string(),
        r"\newcommand{\a}[1]{\a{#1#1}}\a{x}".to_string(),
        // Leaves very many places open that tokens come from.
        r"\newcount\n\def\a{\advance\n by 1 \ifnum\n<20000 \a\fi\section{x}}\a".to_string(),
        "{".repeat(deep),
        "}".repeat(deep),
        r"\begin{quote}".repeat(deep),
        r"\end{quote}".repeat(deep),
        r"\begin{itemize}\item ".repeat(deep),
        r"\begin{tabular}{l}".repeat(deep),
        r"\textbf{".repeat(deep),
        r"\footnote{".repeat(deep),
        r"\section{".repeat(deep),
        r"\bf ".repeat(deep),
        "$".repeat(deep + 1),
        r"\[".repeat(deep),
        r"\begin{align}".repeat(deep),
        r"\verb|".repeat(deep),
        r"\begin{verbatim}".repeat(deep),
        r"\item".repeat(deep),
        "&".repeat(deep),
        r"\\".repeat(deep),
        r"\if".repeat(deep),
        r"\href{".repeat(deep),
        r"\cite[".repeat(deep),
        r"\'".repeat(deep),
        // What TeX takes without braces, in each other or where the text ends.
        r"\ht".repeat(deep),
        r"\count".repeat(deep),
        r"\advance\dimen".repeat(deep),
        r"\hrule height 1pt ".repeat(deep),
        r"\leaders".repeat(deep),
        r"\setbox0=\vbox{".repeat(deep),
        format!(r"\setbox0=\hbox{{a}}{}\box0", r"\setbox0=\hbox{\copy0\copy0}".repeat(60)),
        r"a\vskip".to_string(),
        r"a\hbox to".to_string(),
        r"a\setbox".to_string(),
        r"a\font\x=y at".to_string(),
        r"a\parshape 999999999".to_string(),
        r"\caption{".repeat(deep),
        r"\begin{figure}".repeat(deep),
        r"\label{a}".repeat(deep),
        r"\SI{".repeat(deep),
        format!(r"\begin{{tabular}}{{l}}{}\end{{tabular}}", r"a & b \\ ".repeat(deep)),
        format!(r"\begin{{align*}}{}\end{{align*}}", r"a &= b \\ ".repeat(deep)),
        format!(r"\newenvironment{{e}}{{\begin{{e}}}}{{\end{{e}}}}\begin{{e}}{}", "x"),
        r"\multicolumn{999999999}{c}{x}".repeat(10),
        "\\begin{enumerate}[start=99999999999999999999]\\item x\\end{enumerate}".into(),
        // Words enough that it is a text at all.
        "High water. ".repeat(1000) + &"\u{0}\u{1}\u{FFFD}\\\u{1}^^^^^^".repeat(100),
        doubled_again_and_again(),
    ];
    for source in sources {
        let shown: String = source.chars().take(30).collect();
        let run = move || {
            for format in [Format::Html, Format::Latex] {
                convert(source.as_bytes(), Format::Latex, &WriteOptions::format(format)).unwrap();
            }
        };
        let thread = std::thread::Builder::new().stack_size(4 << 20).spawn(run).unwrap();
        assert!(thread.join().is_ok(), "{shown}");
    }
}

/// A number that is shown by two of what is shown by two of what …
fn doubled_again_and_again() -> String {
    let define = |(of, by): (char, char)| format!(r"\def\x{of}{{\x{by}\x{by}}}");
    let macros: String = ('a'..='y').zip('b'..='z').map(define).collect();
    format!(r"{macros}\def\thesection{{\xa}}\section{{x}}")
}

/// TeX knows no SVG: a drawing beside the document becomes a picture, as wide as it says.
#[test]
fn drawings_become_pictures_that_tex_can_set() {
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' width='60' height='30'><path d='M0 0h60v30z'/></svg>";
    let folder = Folder::of([("pictures/wheel.svg", svg), ("mill.png", "x")]);
    let mut options = WriteOptions::format(Format::Latex);
    options.picture_folder = Some("guide-pictures".into());
    let source = b"![A wheel](pictures/wheel.svg) ![A mill](mill.png)";
    let written = Converter::with_options(&options)
        .from(Format::Markdown)
        .resolver(&folder)
        .convert(source)
        .unwrap();
    let text = written.text();
    assert!(
        text.contains("\\includegraphics[width=45bp,alt={A wheel}]{guide-pictures/wheel.png}"),
        "{text}"
    );
    assert!(text.contains("\\includegraphics[alt={A mill}]{mill.png}"), "{text}");
    let [picture] = written.media.as_slice() else { panic!("{} pictures", written.media.len()) };
    assert!(picture.bytes.starts_with(b"\x89PNG"));
    assert_eq!(lines(&written.findings).lines().count(), 1);
}

#[test]
fn what_a_reader_asks_for_stays_inside() {
    let asked = Asked::default();
    let source = r"\input{../../secret}\includegraphics{/etc/mill}\bibliography{x}";
    Converter::default()
        .from(Format::Latex)
        .resolver(&asked)
        .read_as_it_is(source.as_bytes(), &ReadOptions::default())
        .unwrap();
    // The library opens nothing itself: who resolves decides what may be read.
    assert!(asked.has("../../secret.tex") || asked.has("../../secret"));
    assert!(asked.has("x.bib"));
}
