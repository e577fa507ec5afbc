//! Every kind of node through the HTML writer: it is written, or it is a finding.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use obblet::document::build::*;
use obblet::document::*;
use obblet::math::Formula;
use obblet::{WriteOptions, Written, write};

fn written(document: &Document) -> Written {
    write(document, &WriteOptions::house("body").unwrap()).unwrap()
}

fn body(document: &Document) -> (String, Vec<String>) {
    let written = written(document);
    let findings = written.findings.iter().map(|finding| finding.line("d")).collect();
    (written.text().to_string(), findings)
}

fn check(blocks: Vec<Block>, html: &str, findings: &[&str]) {
    let (found, said) = body(&Document::of(blocks));
    assert_eq!(found, html);
    assert_eq!(said, findings, "{html}");
}

fn lost(what: &str) -> String {
    format!("d: lost: the output has no place for {what} [node-not-carried]")
}

fn with(block: Block, change: impl FnOnce(&mut AttributeSet)) -> Block {
    let mut block = block;
    change(block.attributes.edit());
    block
}

#[test]
fn blocks_become_elements() {
    check(vec![paragraph("a < b & c")], "<p>a &lt; b &amp; c</p>\n", &[]);
    check(vec![paragraph("")], "", &[]);
    check(
        vec![heading(2, "Tide & mill").with_id("tm")],
        "<h2 id=\"tm\">Tide &amp; mill</h2>\n",
        &[],
    );
    check(
        vec![quotation(vec![paragraph("a"), paragraph("b")])],
        "<blockquote>\n<p>a</p>\n<p>b</p>\n</blockquote>\n",
        &[],
    );
    check(
        vec![code_block("c++", "a\n<b>\n")],
        "<pre><code class=\"language-c++\">a\n&lt;b&gt;\n</code></pre>\n",
        &[],
    );
    check(vec![BlockKind::ThematicBreak.into()], "<hr>\n", &[]);
    let verse = vec!["Up".into_inlines(), "down".into_inlines(), vec![], "still".into_inlines()];
    check(
        vec![BlockKind::Verse(verse).into()],
        "<div data-kind=\"verse\">\n<p>Up<br>\ndown</p>\n<p>still</p>\n</div>\n",
        &[],
    );
    let items = vec![DescriptionItem {
        terms: vec!["neap".into_inlines()],
        descriptions: vec![vec![paragraph("low")], vec![paragraph("a"), paragraph("b")]],
    }];
    check(
        vec![BlockKind::DescriptionList(items).into()],
        "<dl>\n<dt>neap</dt>\n<dd>low</dd>\n<dd>\n<p>a</p>\n<p>b</p>\n</dd>\n</dl>\n",
        &[],
    );
}

#[test]
fn lists_say_their_numbers_as_html_can() {
    let item = |text: &str| vec![paragraph(text)];
    let kind = |start, style, delimiter, pattern: Option<&str>| {
        let pattern = pattern.map(Into::into);
        ListKind::Numbered(Numbering { start, style, delimiter, sequence: None, pattern })
    };
    let period = NumberDelimiter::Period;
    check(
        vec![list(kind(3, NumeralStyle::UpperRoman, period, None), vec![item("a")])],
        "<ol start=\"3\" type=\"I\">\n<li>a</li>\n</ol>\n",
        &[],
    );
    check(
        vec![list(kind(1, NumeralStyle::Decimal, period, Some("%1.%2")), vec![item("a")])],
        "<ol data-pattern=\"%1.%2\">\n<li>a</li>\n</ol>\n",
        &["d: changed: list numbers of the form “%1.%2” are shown by their last part only \
           [number-pattern-lost]"],
    );
    let parentheses = NumberDelimiter::Parentheses;
    let (_, said) =
        body(&Document::of(vec![list(kind(1, NumeralStyle::Decimal, parentheses, None), vec![])]));
    assert_eq!(said.len(), 1);

    let mut own_number = List {
        kind: ListKind::Numbered(Numbering::default()),
        spacing: ListSpacing::Loose,
        items: vec![ListItem { content: item("a"), number: Some(7), ..ListItem::default() }],
    };
    own_number.items.push(ListItem {
        content: vec![code_block("", "x\n")],
        check: Some(CheckState::Partial),
        ..ListItem::default()
    });
    check(
        vec![BlockKind::List(Box::new(own_number)).into()],
        "<ol>\n<li value=\"7\">\n<p>a</p>\n</li>\n<li><input type=\"checkbox\" disabled data-state=\"partial\"> \n\
         <pre><code>x\n</code></pre>\n</li>\n</ol>\n",
        &[],
    );
}

#[test]
fn groups_figures_and_admonitions_keep_their_meaning() {
    let group = |role| -> Vec<Block> {
        vec![BlockKind::Group(Box::new(Group { role, content: vec![paragraph("a")] })).into()]
    };
    check(group(GroupRole::Plain), "<p>a</p>\n", &[]);
    check(group(GroupRole::Aside), "<aside>\n<p>a</p>\n</aside>\n", &[]);
    check(
        group(GroupRole::Abstract),
        "<section role=\"doc-abstract\" aria-label=\"Abstract\">\n<p>a</p>\n</section>\n",
        &[],
    );
    check(
        group(GroupRole::Disclosure("more".into_inlines())),
        "<details>\n<summary>more</summary>\n<p>a</p>\n</details>\n",
        &[],
    );
    check(
        group(GroupRole::Statement("Theorem 1".into())),
        "<div data-kind=\"statement\">\n<p><strong>Theorem 1</strong></p>\n<p>a</p>\n</div>\n",
        &[],
    );
    check(
        group(GroupRole::Drawer("LOG".into())),
        "<div data-kind=\"drawer\" data-name=\"LOG\">\n<p>a</p>\n</div>\n",
        &[],
    );
    check(group(GroupRole::Columns(2)), "<div data-kind=\"columns-2\">\n<p>a</p>\n</div>\n", &[]);
    check(group(GroupRole::Centred), "<div data-kind=\"centred\">\n<p>a</p>\n</div>\n", &[]);

    let caption = Caption { label: Some("Figure 1".into()), content: vec![paragraph("Wheel")] };
    let figure = Figure { content: vec![paragraph(picture("w.svg", "w"))], caption: Some(caption) };
    check(
        vec![BlockKind::Figure(Box::new(figure)).into()],
        "<figure>\n<img src=\"w.svg\" alt=\"w\">\n<figcaption><span data-label>Figure 1</span>: Wheel</figcaption>\n</figure>\n",
        &[],
    );
    let ebb = AdmonitionKind::Other("Ebb".into());
    for (kind, name, word) in [(AdmonitionKind::Tip, "tip", "Tip"), (ebb, "Ebb", "Ebb")] {
        let admonition = Admonition { kind, title: None, content: vec![paragraph("a")] };
        let html = format!(
            "<aside data-kind=\"{name}\">\n<p><strong>{word}</strong></p>\n<p>a</p>\n</aside>\n"
        );
        check(vec![BlockKind::Admonition(Box::new(admonition)).into()], &html, &[]);
    }
}

#[test]
fn what_html_has_no_place_for_is_said() {
    for (kind, what) in [
        (BlockKind::Break(BreakKind::Page), "a page break"),
        (BlockKind::Break(BreakKind::Column), "a column break"),
        (BlockKind::Break(BreakKind::Section), "a section break"),
        (BlockKind::SourceRemark("x".into()), "a remark that readers do not see"),
    ] {
        check(vec![kind.into()], "", &[&lost(what)]);
    }
    for (kind, what) in [
        (ContentsKind::Headings, "a contents list of fewer than two headings"),
        (ContentsKind::Figures, "a list of figures without a figure"),
        (ContentsKind::Tables, "a list of tables without a table"),
    ] {
        let contents = BlockKind::Contents(Box::new(ContentsList { kind, depth: 0 }));
        check(vec![contents.into()], "", &[&lost(what)]);
    }
    let foreign = Foreign { format: "latex".into(), markup: "\\clearpage".into() };
    check(
        vec![BlockKind::Foreign(Box::new(foreign)).into()],
        "\n",
        &["d: lost: markup of the format “latex” has no place in the output and was dropped \
           [foreign-markup-lost]"],
    );
}

#[test]
fn every_format_of_text_has_its_element() {
    use Formatting::*;
    for (format, name) in [
        (Emphasis, "em"),
        (Strong, "strong"),
        (Underline, "u"),
        (Struck, "s"),
        (Deleted, "del"),
        (Inserted, "ins"),
        (Superscript, "sup"),
        (Subscript, "sub"),
        (Highlight, "mark"),
        (SmallPrint, "small"),
        (KeyboardInput, "kbd"),
        (ProgramOutput, "samp"),
        (Variable, "var"),
        (Quoted, "q"),
        (WorkTitle, "cite"),
        (DefinedTerm, "dfn"),
        (Abbreviation, "abbr"),
    ] {
        check(
            vec![paragraph(formatted(format, "a"))],
            &format!("<p><{name}>a</{name}></p>\n"),
            &[],
        );
    }
    check(vec![paragraph(formatted(Plain, "a"))], "<p>a</p>\n", &[]);
    check(vec![paragraph(formatted(SmallCapitals, "a"))], "<p>a</p>\n", &[&lost("small capitals")]);
}

#[test]
fn inlines_become_elements_or_findings() {
    let inline = |inline: Inline| vec![paragraph(inline)];
    check(inline(hard_break()), "<p><br>\n</p>\n", &[]);
    check(inline(code("<a>")), "<p><code>&lt;a&gt;</code></p>\n", &[]);
    check(inline(Inline::CheckBox(true)), "<p>☑</p>\n", &[]);
    check(
        inline(Inline::Anchor(Box::new(Anchor { id: "a b".into() }))),
        "<p><span id=\"a-b\"></span></p>\n",
        &[],
    );
    let ruby = Ruby { base: "潮".into_inlines(), reading: "しお".into_inlines() };
    check(inline(Inline::Ruby(Box::new(ruby))), "<p><ruby>潮<rt>しお</rt></ruby></p>\n", &[]);
    let mut stamp = Timestamp::day(2026, 5, 2);
    stamp.end = Some(Moment { year: 2026, month: 5, day: 3, time: Some((9, 5)) });
    check(
        inline(Inline::Timestamp(Box::new(stamp))),
        "<p><span data-kind=\"dates\" data-active><time>2026-05-02</time>–\
         <time>2026-05-03 09:05</time></span></p>\n",
        &[],
    );
    let reference = Reference {
        target: "fig 1".into(),
        shows: ReferenceShows::LabelAndNumber,
        stored: "Figure 1".into_inlines(),
    };
    check(
        inline(Inline::Reference(Box::new(reference))),
        "<p><a href=\"#fig-1\" data-shows=\"label\">Figure 1</a></p>\n",
        &[],
    );
    let cite = Cite { key: "leat93".into(), before: "see ".into_inlines(), behind: vec![] };
    let citation = Citation { form: CitationForm::Bracketed, works: vec![cite] };
    check(
        inline(Inline::Citation(Box::new(citation))),
        "<p><span data-citation=\"bracketed\">[see <span \
         data-before=\"see\" data-key=\"leat93\">leat93</span>]</span></p>\n",
        &[
            "d: problem: no work is known by the key “leat93” that the text cites [citation-missing]",
        ],
    );
    let mark = CommentMark { comment: CommentId::new(0), edge: CommentEdge::Point };
    check(inline(Inline::CommentMark(mark)), "<p></p>\n", &[&lost("a review comment")]);
    let formula = Formula { source: "a<b".into(), number: Some("2".into()), ..Formula::default() };
    check(
        inline(Inline::Formula(Box::new(formula))),
        "<p><math><semantics><mrow><mtable displaystyle=\"true\"><mtr><mtd><mi>a</mi><mo>&lt;</mo>\
<mi>b</mi></mtd><mtd style=\"text-align: right; padding-left: 2em\"><mtext>(2)</mtext></mtd></mtr>\
</mtable></mrow><annotation encoding=\"application/x-tex\">a&lt;b</annotation></semantics></math></p>\n",
        &[],
    );
    check(
        inline(link("x.md", [link("y.md", "a")])),
        "<p><a href=\"x.md\">a</a></p>\n",
        &[&lost("a link inside a link")],
    );
    check(
        inline(Inline::NoteMark(NoteId::new(4))),
        "<p></p>\n",
        &["d: problem: there is no note with the number 4 [note-missing]"],
    );
}

#[test]
fn attributes_are_written_where_html_has_them() {
    let block = with(paragraph("a"), |set| {
        set.id = Some("x y".into());
        set.classes = vec!["big".into(), "wide".into()];
        set.language = Some("de-AT".into());
        set.direction = Some(Direction::RightToLeft);
    });
    check(vec![block], "<p id=\"x-y\" class=\"big wide\" lang=\"de-AT\" dir=\"rtl\">a</p>\n", &[]);
    check(
        vec![with(paragraph("a"), |set| set.language = Some("no such tag".into()))],
        "<p>a</p>\n",
        &[
            "d: lost: the attribute “lang=no such tag” is not allowed in the output and was dropped \
           [attribute-dropped]",
        ],
    );
    check(
        vec![paragraph("a").with_id("x"), paragraph("b").with_id("x"), heading(1, "X")],
        "<p id=\"x\">a</p>\n<p id=\"x-2\">b</p>\n<h1 id=\"x-3\">X</h1>\n",
        &[
            "d: repaired: the id “x” is used more than once; a later one got a number [id-duplicate]",
        ],
    );
    for (kind, open, close) in [
        (RevisionKind::Insertion, "<ins title=\"Ada\">", "</ins>"),
        (RevisionKind::MoveSource, "<del title=\"Ada\">", "</del>"),
        (RevisionKind::Formatting, "", ""),
    ] {
        // HTML has no element for a paragraph that only looks another way.
        let lost =
            "d: lost: the output has no place for a tracked change of looks [node-not-carried]";
        let findings: &[&str] = if kind == RevisionKind::Formatting { &[lost] } else { &[] };
        let revision = Revision { kind, author: Some("Ada".into()), date: Some("soon".into()) };
        let block = with(paragraph("a"), |set| set.revision = Some(revision));
        check(vec![block], &format!("{open}<p>a</p>\n{close}"), findings);
    }
}

#[test]
fn notes_keep_their_words_even_without_a_mark_in_order() {
    let mut document = Document::of(vec![]);
    let note = |text: &str| Note {
        kind: NoteKind::Endnote,
        label: None,
        content: vec![code_block("", text)],
    };
    let first = document.add_note(note("one\n"));
    document.add_note(note("two\n"));
    document.blocks = vec![paragraph([Inline::NoteMark(first), Inline::NoteMark(first)])];
    let (html, said) = body(&document);
    assert_eq!(html.matches("role=\"doc-backlink\"").count(), 2, "a way back to each mark");
    assert!(html.contains("id=\"note-mark-1-2\""), "{html}");
    assert!(html.contains("<pre><code>one\n</code></pre>") && !html.contains("two"));
    assert_eq!(said, [lost("a note without a mark")]);
}

#[test]
fn pages_carry_what_the_document_says_of_itself() {
    let mut document = Document::of(vec![heading(2, "First"), heading(2, "Second")]);
    document.metadata.title = vec!["Tides ".into(), emphasis("& mills")];
    document.metadata.language = Some("de".into());
    document.metadata.description = Some("About \"tides\"".into());
    document.metadata.authors = vec![Person { name: "Ada Weir".into(), ..Person::default() }];
    document.metadata.direction = Some(Direction::LeftToRight);
    let options = WriteOptions::house("page").unwrap();
    let page = write(&document, &options).unwrap();
    for expected in [
        "<html lang=\"de\" dir=\"ltr\">",
        "<title>Tides &amp; mills</title>",
        "<meta name=\"description\" content=\"About &quot;tides&quot;\">",
        "<meta name=\"author\" content=\"Ada Weir\">",
        "<h1>Tides &amp; mills</h1>",
        "<h2 id=\"contents\">Inhalt</h2>",
        "<li><a href=\"#second\">Second</a></li>",
        "<a class=\"skip\" href=\"#text\">Zum Text springen</a>",
    ] {
        assert!(page.text().contains(expected), "{expected}\n{}", page.text());
    }
    // An id of the document that the page would use itself is left to the document.
    document.blocks.push(paragraph("x").with_id("text"));
    assert!(write(&document, &options).unwrap().text().contains("<main id=\"text_\">"));
}

#[test]
fn documents_deeper_than_any_reader_makes_are_refused() {
    let mut block = paragraph("deep");
    for _ in 0..1000 {
        block = quotation(vec![block]);
    }
    let document = Document::of(vec![block]);
    let error = write(&document, &WriteOptions::house("body").unwrap()).unwrap_err();
    assert_eq!(error.to_string(), "the document nests deeper than 600 levels");
}
