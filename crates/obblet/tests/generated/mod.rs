//! Documents made at random, for property tests: every kind of block and inline that a format may
//! have to say, and texts full of characters that mean something somewhere.

#![allow(dead_code, reason = "each test uses what it needs")]

use obblet::document::*;
use obblet::math::Formula;
use proptest::collection::vec;
use proptest::option;
use proptest::prelude::*;
use proptest::test_runner::{Config, RngAlgorithm, TestRng, TestRunner};

/// A runner that tries the same documents each time; with `OBBLET_CASES=n`, n documents at random.
pub(crate) fn runner(cases: u32) -> TestRunner {
    let config = |cases| Config { cases, failure_persistence: None, ..Config::default() };
    match std::env::var("OBBLET_CASES").ok().and_then(|n| n.parse().ok()) {
        Some(cases) => TestRunner::new(config(cases)),
        None => {
            let rng = TestRng::deterministic_rng(RngAlgorithm::ChaCha);
            TestRunner::new_with_rng(config(cases), rng)
        }
    }
}

const WORDS: &[&str] = &[
    "tide",
    "mill",
    "Weir",
    "é",
    "1.",
    "2)",
    "-",
    "+",
    "*",
    "#",
    "##",
    ">",
    "|",
    "=",
    "==",
    "~",
    "~~",
    "^",
    "_",
    "__",
    "**",
    "`",
    "``",
    "[",
    "]",
    "(",
    ")",
    "[x]",
    "[^1]",
    "<",
    "<b>",
    "&",
    "&amp;",
    "\\",
    "$",
    "$$",
    ":",
    ":::",
    "{.a}",
    "{#b}",
    "!",
    "![",
    "http://mill.example",
    "www.mill.example",
    "a@mill.example",
    "---",
    "...",
    "\"",
    "'",
    "snake_case",
    "2*3",
    "a|b",
    "=",
    "===",
    "TLA",
    "1234567890.",
    "\u{a0}",
    "“",
    "漢",
    "]:",
    "[a]:",
    "::",
    "[[",
    "]]",
    "++",
    "&#35;",
    "%",
    "@",
];

fn words(most: usize) -> impl Strategy<Value = String> {
    let word = (0..WORDS.len(), prop_oneof![3 => Just(" "), 1 => Just("")]);
    vec(word, 1..=most).prop_map(|parts| {
        let text: String =
            parts.iter().map(|(word, gap)| format!("{}{gap}", WORDS[*word])).collect();
        text.trim_matches(' ').to_string()
    })
}

fn name() -> impl Strategy<Value = CompactString> {
    prop_oneof![Just("tide"), Just("mill-2"), Just("a b"), Just("x{y}"), Just("\"q\""), Just("é")]
        .prop_map(CompactString::from)
}

pub(crate) fn attributes() -> impl Strategy<Value = Attributes> {
    let set = (option::of(name()), vec(Just(CompactString::from("c1")), 0..2), option::of(name()))
        .prop_map(|(id, classes, value)| AttributeSet {
            id,
            classes,
            pairs: value.map(|value| ("data-k".into(), value)).into_iter().collect(),
            ..AttributeSet::default()
        });
    prop_oneof![5 => Just(Attributes::NONE), 1 => set.prop_map(Attributes::from)]
}

fn address() -> impl Strategy<Value = CompactString> {
    prop_oneof![
        Just("tides.md"),
        Just("http://mill.example"),
        Just("a b"),
        Just("x(y"),
        Just("#tide"),
        Just(""),
        Just("<a>"),
        Just("a\\b&amp;"),
        Just("mailto:a@mill.example")
    ]
    .prop_map(CompactString::from)
}

fn formatting() -> impl Strategy<Value = Formatting> {
    use Formatting::*;
    prop_oneof![
        6 => prop_oneof![Just(Emphasis), Just(Strong)],
        4 => prop_oneof![Just(Deleted), Just(Highlight), Just(Inserted), Just(Superscript), Just(Subscript)],
        2 => prop_oneof![Just(Underline), Just(Struck), Just(SmallPrint), Just(KeyboardInput), Just(Plain)],
    ]
}

fn leaf_inline() -> impl Strategy<Value = Inline> {
    prop_oneof![
        8 => words(6).prop_map(Inline::from),
        2 => words(3).prop_map(|text| Inline::Code(Box::new(InlineCode { text: text.into(), attributes: Attributes::NONE }))),
        1 => Just(Inline::Break(LineBreak::Soft)),
        1 => Just(Inline::Break(LineBreak::Hard)),
        1 => (0..2_usize).prop_map(|note| Inline::NoteMark(NoteId::new(note))),
        1 => Just(Inline::Foreign(Box::new(Foreign { format: "html".into(), markup: "<kbd>".into() }))),
        1 => (prop_oneof![Just("a^2"), Just("x $ y"), Just("\\frac{1}{2}")], any::<bool>()).prop_map(|(source, display)| {
            Inline::Formula(Box::new(Formula { source: source.into(), display, ..Formula::default() }))
        }),
        1 => name().prop_map(|id| Inline::Anchor(Box::new(Anchor { id }))),
    ]
}

pub(crate) fn inlines() -> impl Strategy<Value = Vec<Inline>> {
    let inline = leaf_inline().prop_recursive(3, 12, 4, |inner| {
        prop_oneof![
            4 => (formatting(), attributes(), vec(inner.clone(), 1..4)).prop_map(|(format, attributes, content)| {
                Inline::Formatted(Box::new(Formatted { format, attributes, content }))
            }),
            2 => (address(), option::of(words(2)), vec(inner.clone(), 1..3), attributes()).prop_map(
                |(address, title, content, attributes)| {
                    let title = title.map(CompactString::from);
                    Inline::Link(Box::new(Link { address, title, content, attributes }))
                }
            ),
            1 => (address(), words(3), attributes()).prop_map(|(address, text, attributes)| {
                Inline::Picture(Box::new(Picture {
                    source: PictureSource::Address(address),
                    alternative: vec![text.into()],
                    decorative: false,
                    title: None,
                    width: None,
                    height: None,
                    attributes,
                }))
            }),
        ]
    });
    vec(inline, 1..6)
}

fn numbering() -> impl Strategy<Value = ListKind> {
    let delimiter = prop_oneof![
        Just(NumberDelimiter::Period),
        Just(NumberDelimiter::Parenthesis),
        Just(NumberDelimiter::Parentheses)
    ];
    let style = prop_oneof![3 => Just(NumeralStyle::Decimal), 1 => Just(NumeralStyle::LowerLetter)];
    prop_oneof![
        Just(ListKind::Bulleted(None)),
        prop_oneof![Just('-'), Just('*'), Just('+')]
            .prop_map(|mark| ListKind::Bulleted(Some(mark))),
        (0..12_i32, style, delimiter).prop_map(|(start, style, delimiter)| {
            ListKind::Numbered(Numbering { start, style, delimiter, ..Numbering::default() })
        }),
    ]
}

fn leaf_block() -> impl Strategy<Value = BlockKind> {
    prop_oneof![
        6 => inlines().prop_map(BlockKind::Paragraph),
        2 => (1..8_u8, inlines()).prop_map(|(level, content)| {
            BlockKind::Heading(Box::new(Heading { level, content, ..Heading::default() }))
        }),
        1 => (words(8), option::of(words(1))).prop_map(|(text, language)| {
            let text = text.replace(' ', "\n") + "\n";
            BlockKind::Code(Box::new(CodeBlock { language: language.map(Into::into), ..CodeBlock::of_text(text) }))
        }),
        1 => Just(BlockKind::ThematicBreak),
        1 => Just(BlockKind::Break(BreakKind::Page)),
        1 => Just(BlockKind::Foreign(Box::new(Foreign { format: "html".into(), markup: "<div>\nx\n</div>".into() }))),
        1 => Just(BlockKind::Foreign(Box::new(Foreign { format: "html".into(), markup: "<!-- x\n\ny -->".into() }))),
        1 => prop_oneof![Just("a^2"), Just("x $$ y"), Just("a\n\nb")].prop_map(|source| {
            BlockKind::Formula(Box::new(Formula { source: source.into(), display: true, ..Formula::default() }))
        }),
        1 => vec(inlines(), 1..3).prop_map(BlockKind::Verse),
        2 => table(),
    ]
}

fn table() -> impl Strategy<Value = BlockKind> {
    let cell = (option::of(inlines()), prop_oneof![6 => Just(1_u32), 1 => Just(2)]).prop_map(
        |(content, column_span)| Cell {
            content: content
                .map(|inlines| Block::new(BlockKind::Paragraph(inlines)))
                .into_iter()
                .collect(),
            column_span,
            ..Cell::default()
        },
    );
    (vec(vec(cell, 2), 1..4), any::<bool>(), option::of(inlines())).prop_map(
        |(rows, headed, caption)| {
            let mut rows: Vec<Row> =
                rows.into_iter().map(|cells| Row { cells, ..Row::default() }).collect();
            let mut groups = Vec::new();
            if headed {
                let body = rows.split_off(1);
                groups.push(RowGroup { kind: RowGroupKind::Head, rows });
                rows = body;
            }
            groups.push(RowGroup { kind: RowGroupKind::Body, rows });
            let caption = caption.map(|inlines| Caption {
                label: None,
                content: vec![Block::new(BlockKind::Paragraph(inlines))],
            });
            BlockKind::Table(Box::new(Table {
                caption,
                columns: vec![Column::default(); 2],
                groups,
            }))
        },
    )
}

pub(crate) fn blocks() -> impl Strategy<Value = Vec<Block>> {
    let block = (leaf_block(), attributes()).prop_map(|(kind, attributes)| Block {
        kind,
        attributes,
        place: Place::default(),
    });
    let block = block.prop_recursive(3, 24, 4, |inner| {
        let content = vec(inner, 1..4);
        let check = prop_oneof![4 => Just(None), 1 => Just(Some(CheckState::Open)), 1 => Just(Some(CheckState::Done))];
        let item = (content.clone(), check)
            .prop_map(|(content, check)| ListItem { content, check, ..ListItem::default() });
        let spacing = prop_oneof![Just(ListSpacing::Tight), Just(ListSpacing::Loose)];
        let list = (numbering(), spacing, vec(item, 1..4))
            .prop_map(|(kind, spacing, items)| BlockKind::List(Box::new(List { kind, spacing, items })));
        let descriptions = (inlines(), content.clone()).prop_map(|(term, description)| {
            BlockKind::DescriptionList(vec![DescriptionItem { terms: vec![term], descriptions: vec![description] }])
        });
        let admonition = (content.clone(), option::of(inlines()), any::<bool>()).prop_map(|(content, title, own)| {
            let kind = if own { AdmonitionKind::Other("tide".into()) } else { AdmonitionKind::Tip };
            BlockKind::Admonition(Box::new(Admonition { kind, title, content }))
        });
        let figure = (content.clone(), option::of(content.clone())).prop_map(|(content, caption)| {
            let caption = caption.map(|content| Caption { label: Some("Figure 1".into()), content });
            BlockKind::Figure(Box::new(Figure { content, caption }))
        });
        let role = prop_oneof![
            Just(GroupRole::Plain), Just(GroupRole::Aside), Just(GroupRole::Abstract), Just(GroupRole::Columns(2)),
            inlines().prop_map(GroupRole::Disclosure), Just(GroupRole::Statement("Theorem".into()))
        ];
        let group = (role, content.clone())
            .prop_map(|(role, content)| BlockKind::Group(Box::new(Group { role, content })));
        let kind = prop_oneof![
            4 => list,
            2 => content.prop_map(BlockKind::Quotation),
            1 => descriptions,
            1 => admonition,
            1 => figure,
            1 => group,
        ];
        (kind, attributes()).prop_map(|(kind, attributes)| Block { kind, attributes, place: Place::default() })
    });
    vec(block, 1..5)
}

/// A whole document, with two notes for its marks.
pub(crate) fn document() -> impl Strategy<Value = Document> {
    (blocks(), blocks(), blocks()).prop_map(|(blocks, one, two)| {
        let note = |label: Option<&str>, content| Note {
            kind: NoteKind::Footnote,
            label: label.map(Into::into),
            content,
        };
        Document {
            blocks,
            notes: vec![note(None, one), note(Some("ebb"), two)],
            ..Document::default()
        }
    })
}
