use super::build::*;
use super::*;

#[test]
fn hot_types_stay_small() {
    assert_eq!(size_of::<Inline>(), 24);
    assert_eq!(size_of::<Attributes>(), 8);
    assert!(size_of::<Block>() <= 56, "a block takes {} bytes", size_of::<Block>());
}

#[test]
fn documents_may_cross_threads() {
    fn check<T: Send + Sync + 'static>() {}
    check::<Document>();
}

fn sample() -> Document {
    let mut document = Document::of(vec![
        heading(1, "Sluice"),
        paragraph(["a ".into(), strong([emphasis("b"), soft_break(), code("c")])]),
        table(&["Tide", "Height"], &[&["neap", "3.1 m"]]),
        bullets(vec![vec![paragraph("x"), quotation(vec![paragraph("y")])]]),
    ]);
    let note = document.add_note(Note {
        kind: NoteKind::Footnote,
        label: None,
        content: vec![paragraph("n")],
    });
    document.blocks.push(paragraph(Inline::NoteMark(note)));
    document
}

#[test]
fn serde_gives_the_same_document_back() {
    let document = sample();
    let json = serde_json::to_string(&document).unwrap();
    assert_eq!(serde_json::from_str::<Document>(&json).unwrap(), document);
}

#[test]
fn a_walk_leaves_all_it_enters_in_reading_order() {
    let document = sample();
    let mut open = 0_i32;
    let mut words = Vec::new();
    for visit in walk(&document.blocks) {
        match visit {
            Visit::Enter(node) => {
                open += 1;
                if let Node::Inline(Inline::Text(text)) = node {
                    words.push(text.to_string());
                }
            }
            Visit::Leave(_) => open -= 1,
        }
    }
    assert_eq!(open, 0);
    assert_eq!(words, ["Sluice", "a ", "b", "Tide", "Height", "neap", "3.1 m", "x", "y"]);
}

#[test]
fn mutable_walks_reach_every_text_and_what_was_put_in() {
    let mut document = sample();
    let mut texts = 0;
    walk_inlines_mut(&mut document.blocks, |_, inlines| {
        texts += inlines.iter().filter(|inline| matches!(inline, Inline::Text(_))).count();
    });
    assert_eq!(texts, 9);

    let mut lists = 0;
    walk_blocks_mut(&mut document.blocks, |blocks| {
        lists += 1;
        if lists == 1 {
            blocks.push(quotation(vec![paragraph("put in")]));
        }
    });
    // The document, four cells, one item, its quotation, and the quotation put in.
    assert_eq!(lists, 8);
}

#[test]
fn plain_text_keeps_words_and_turns_breaks_into_spaces() {
    let inlines =
        [strong([emphasis("b"), soft_break(), code("c")]), hard_break(), picture("p.svg", "alt")];
    assert_eq!(plain_text(&inlines), "b c alt");
}

#[test]
fn table_width_counts_spans_from_above() {
    let cell = |column_span, row_span| Cell { column_span, row_span, ..Cell::default() };
    let row = |cells| Row { cells, ..Row::default() };
    let rows = vec![
        row(vec![cell(1, 3), cell(2, 1)]),
        row(vec![cell(1, 1), cell(1, 2)]),
        row(vec![cell(1, 1), cell(1, 1)]),
    ];
    let group = RowGroup { kind: RowGroupKind::Body, rows };
    assert_eq!(Table { groups: vec![group], ..Table::default() }.width(), 4);
}

#[test]
fn media_are_kept_once_and_named_apart() {
    let mut media = MediaStore::default();
    let wheel = media.add("wheel.png", "image/png", b"one".as_slice().into());
    let again = media.add("other.png", "image/png", b"one".as_slice().into());
    let clash = media.add("Wheel.png", "image/png", b"two".as_slice().into());
    assert_eq!(wheel, again);
    assert_eq!(media.get(clash).unwrap().name, "Wheel-2.png");
}

/// Looking for a name or for bytes must not go through all files, or this takes minutes.
#[test]
fn many_files_of_one_name_take_time_in_proportion() {
    let mut media = MediaStore::default();
    for number in 0..50_000_u32 {
        media.add("picture.gif", "image/gif", number.to_le_bytes().to_vec().into());
    }
    assert_eq!(media.iter().last().map(|file| file.name.as_str()), Some("picture-50000.gif"));
    let json = serde_json::to_string(&media).unwrap();
    assert_eq!(serde_json::from_str::<MediaStore>(&json).unwrap(), media);
}

#[test]
fn positions_count_characters_from_one() {
    let map = SourceMap::Text("tide\nmüll wheel\n".into());
    let position = map.position(Place::new(11, 16)).unwrap();
    assert_eq!(position, Position { line: 2, column: 6 });
    assert_eq!(map.line(position), Some("müll wheel"));
    assert_eq!(SourceMap::None.position(Place::new(0, 1)), None);
}

#[test]
fn numbers_are_spelled_in_every_style() {
    let cases = [
        (NumeralStyle::Decimal, 12, "12"),
        (NumeralStyle::LowerLetter, 1, "a"),
        (NumeralStyle::LowerLetter, 26, "z"),
        (NumeralStyle::UpperLetter, 27, "AA"),
        (NumeralStyle::LowerRoman, 14, "xiv"),
        (NumeralStyle::UpperRoman, 4000, "4000"),
        (NumeralStyle::LowerLetter, -3, "-3"),
    ];
    for (style, number, expected) in cases {
        assert_eq!(style.spell(number), expected, "{style:?} {number}");
    }
}

/// Whatever is long is not deep: a thousand terms, lines, cells or works stand side by side.
#[test]
fn length_is_no_depth() {
    let many = 1000;
    let works = (0..many).map(|_| Cite {
        key: "k".into(),
        before: vec!["see".into()],
        behind: vec!["p. 1".into()],
    });
    let citation = Citation { works: works.collect(), form: CitationForm::Bracketed };
    let item = DescriptionItem {
        terms: vec![vec!["term".into()], vec!["other term".into()]],
        descriptions: vec![vec![paragraph("what it is")], vec![paragraph("more of it")]],
    };
    let blocks = [
        BlockKind::DescriptionList(vec![item; many]).into(),
        BlockKind::Verse(vec![vec!["line".into()]; many]).into(),
        paragraph(Inline::Citation(Box::new(citation))),
        table(&["Tide"], &vec![["neap"].as_slice(); many]),
    ];
    for block in &blocks {
        let blocks = std::slice::from_ref(block);
        let mut nodes = walk(blocks);
        let mut deepest = 0;
        let mut count = 0;
        while nodes.next_node().is_some() {
            deepest = deepest.max(nodes.depth());
            count += 1;
        }
        assert!(count >= many && deepest <= 5, "{count} nodes, {deepest} deep");
        let entered = walk(blocks).filter(|visit| matches!(visit, Visit::Enter(_))).count();
        assert_eq!(entered, count);
    }
}
