//! The HTML reader on hostile pages.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

use obblet::{Format, ReadOptions, WriteOptions, convert, read, write};

/// 100,000 open elements of each kind, read and written both ways on a small stack.
#[test]
fn deep_pages_end_in_a_finding() {
    let check = || {
        for tags in [
            "<div>",
            "<ul><li>",
            "<span>",
            "<b>",
            "<div>",
            "<span>",
            "<blockquote>",
            "<section role=doc-endnotes>",
            "<section data-kind=comments><ol><li id=comment-1>",
        ] {
            let page = tags.repeat(100_000) + "ebb";
            let reading = read(page.as_bytes(), Format::Html, &ReadOptions::default()).unwrap();
            let codes: Vec<_> = reading.findings.iter().map(|f| f.code.name()).collect();
            assert!(
                codes.contains(&"nesting-too-deep")
                    || tags.contains("endnotes")
                    || tags.contains("comments"),
                "{tags} {codes:?}"
            );
            for format in [Format::Html, Format::Markdown] {
                assert!(write(&reading.document, &WriteOptions::format(format)).is_ok(), "{tags}");
            }
            // Raw HTML in Markdown goes through the sanitiser.
            let options = WriteOptions::format(Format::Html);
            assert!(convert(page.as_bytes(), Format::Markdown, &options).is_ok(), "{tags}");
        }
    };
    std::thread::Builder::new().stack_size(2 << 20).spawn(check).unwrap().join().unwrap();
}

/// HTML inside Markdown is read by the same reader, and told of in the same way.
#[test]
fn deep_pieces_in_markdown_end_in_a_finding() {
    let page = format!("A weir.\n\n{}ebb\n", "<div>".repeat(300));
    let latex = convert(page.as_bytes(), Format::Markdown, &WriteOptions::format(Format::Latex));
    let latex = latex.unwrap();
    assert!(latex.text().contains("ebb"));
    let codes: Vec<_> = latex.findings.iter().map(|finding| finding.code.name()).collect();
    assert!(codes.contains(&"nesting-too-deep"), "{codes:?}");
}

/// What our own writer makes of each construct is read back as that construct.
#[test]
fn what_our_writer_writes_is_read_back() {
    let cases = [
        (
            "notes",
            "A gate[^1] and a weir[^2].\n\n[^1]: Of oak.\n\n    Two leaves.\n\n[^2]: *Low*.\n",
        ),
        ("formulas", "With $P = mgh$ we get\n\n$$ E = \\int_0^h a < b $$\n"),
        ("tasks", "- [x] grease\n- [ ] caulk\n  1. plank\n  2. [ ] pitch\n"),
        (
            "definitions",
            "Ebb\n: Water goes out.\n\nFlood\nHigh water\n: It comes in.\n: And stays.\n",
        ),
        ("admonitions", "> [!WARNING]\n> Mind the stair.\n>\n> - step 3\n"),
        ("audiences", "# Both {audience=\"web print\"}\n\nOnly here. {audience=web}\n"),
        ("tables", "| a | b |\n|:--|--:|\n| 1 | **2** |\n"),
        ("figures", "![the wheel](wheel.png \"The wheel\")\n"),
        ("code", "```rust\nfn ebb() {}\n```\n\n    plain\n"),
        ("quotes, breaks", "> high\n> > low\n\n***\n\nline\\\nbreak\n"),
        ("numbering", "7. seven\n8. eight\n\ntext\n\n9. nine\n"),
        ("formats", "H~2~O ==mark== ++ins++ ~~del~~ [x]{lang=de} x^2^\n\n*[TM]: Tide mill\n\nTM\n"),
        (
            "metadata",
            "---\ntitle: Tides\nauthor: [Ada Quill, Tom Leat]\ndate: 2026-04-02\nlang: de\n\
             description: Of water.\nkeywords: [ebb, flood]\n---\n\n# Tides\n",
        ),
        ("metadata shown", "---\ntitle: Tides\ndate: spring 1784\nlang: en\n---\n\nText.\n"),
    ];
    for (name, markdown) in cases {
        let mut options = WriteOptions::format(Format::Html);
        options.house.set("page.audiences", "[\"web\", \"print\"]").unwrap();
        options.house.page.language = "en".into();
        let read_as = |bytes: &[u8], format| {
            let reading = read(bytes, format, &options.house.read_options()).unwrap();
            let mut document = reading.document;
            document.metadata.language.get_or_insert("en".into());
            document
        };
        let source = read_as(markdown.as_bytes(), Format::Markdown);
        let page = convert(markdown.as_bytes(), Format::Markdown, &options).unwrap();
        let back = read_as(&page.bytes, Format::Html);
        let found = obblet::compare::compare(&source, &back, &Default::default());
        assert!(found.differences.is_empty(), "{name}: {:#?}\n{}", found.differences, page.text());
        let again = write(&back, &options).unwrap();
        assert_eq!(again.text(), page.text(), "{name}");
        // The same where raw HTML has the page sanitised.
        let raw = format!("{markdown}\n\n<div>\n\nraw\n\n</div>\n");
        let raw = convert(raw.as_bytes(), Format::Markdown, &options).unwrap();
        let raw = read_as(&raw.bytes, Format::Html);
        let kinds = |blocks: &[obblet::document::Block]| {
            blocks.iter().map(|block| std::mem::discriminant(&block.kind)).collect::<Vec<_>>()
        };
        assert_eq!(kinds(&raw.blocks)[..source.blocks.len()], kinds(&source.blocks), "{name}");
    }
}

/// Numbers that stand before items as text are labels again, and no words of the items.
#[test]
fn numbers_that_are_text_are_read_back() {
    let page = "<ol style=\"list-style-type: none\">\n\
                <li><span data-label>2.1(a)</span> open the gate</li>\n</ol>\n";
    let options = WriteOptions::house("body").unwrap();
    let reading = read(page.as_bytes(), Format::Html, &options.house.read_options()).unwrap();
    let obblet::document::BlockKind::List(list) = &reading.document.blocks[0].kind else {
        panic!("{:?}", reading.document.blocks);
    };
    assert_eq!(list.items[0].label.as_deref(), Some("2.1(a)"));
    assert_eq!(write(&reading.document, &options).unwrap().text(), page);
}
