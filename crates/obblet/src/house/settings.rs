//! All settings, one row each: what it is called, what it means, where it stands.

use super::setting::{
    Bounds, Setting, choice, file, files, formats, language, layout, number, text, truth, words,
};

const LEVEL: Bounds = Bounds::Within(0, 6);

/// All settings, grouped.
pub const SETTINGS: &[Setting] = &[
    choice(
        "page.format",
        "The format written where neither a file's name nor you say one.",
        |house| &mut house.page.format,
    ),
    choice("page.extent", "A whole page, or only its body.", |house| &mut house.page.extent),
    choice("page.syntax", "HTML, or its XML syntax, as e-books take it.", |house| {
        &mut house.page.syntax
    }),
    text("page.title", "A title for all pages; empty for each document's own.", |house| {
        &mut house.page.title
    }),
    language("page.language", "The language of documents that state none.", |house| {
        &mut house.page.language
    }),
    layout(
        "page.layout",
        "The template for the page: contents beside the text (also when empty), headings as a menu \
         above it, or one of your own.",
        |house| &mut house.page.layout,
    ),
    file("page.header", "A piece of HTML above every page's text.", |house| &mut house.page.header),
    file("page.footer", "A piece of HTML below every page's text.", |house| &mut house.page.footer),
    truth(
        "page.show_title",
        "A page shows its title, where no heading does, its authors and its date.",
        |house| &mut house.page.show_title,
    ),
    truth(
        "page.running_heads",
        "The page header and footer of a document's first page stand around its text.",
        |house| &mut house.page.running_heads,
    ),
    number(
        "page.contents",
        "The deepest heading level in the contents list; 0 for no list.",
        LEVEL,
        |house| &mut house.page.contents,
    ),
    truth("page.heading_numbers", "Headings get numbers, such as 2.1.", |house| {
        &mut house.page.heading_numbers
    }),
    number(
        "page.top_heading",
        "The level of a document's highest headings; 0 leaves it to the page.",
        LEVEL,
        |house| &mut house.page.top_heading,
    ),
    choice("page.theme", "Obblet's own style sheet: for screens, for books, or none.", |house| {
        &mut house.page.theme
    }),
    files("page.style_sheets", "Style sheets of your own, behind the theme.", |house| {
        &mut house.page.style_sheets
    }),
    choice(
        "page.style_placement",
        "Where styles stand: in the page, in a file beside it, in each element, or nowhere.",
        |house| &mut house.page.style_placement,
    ),
    truth(
        "page.used_styles_only",
        "Of styles in the page, only the rules that it uses.",
        |house| &mut house.page.used_styles_only,
    ),
    truth(
        "page.book_classes",
        "Classes for the parts of a book: chapter, front, back, first paragraph, scene.",
        |house| &mut house.page.book_classes,
    ),
    words(
        "page.audiences",
        "The audiences written for; what is meant for others only is left out.",
        "a list of words, such as [\"web\", \"print\"]",
        |house| &mut house.page.audiences,
    ),
    choice(
        "characters.spelling",
        "How characters outside ASCII are spelled: as they are, as &mdash;, as &#8212;.",
        |house| &mut house.characters.spelling,
    ),
    truth(
        "characters.ascii_only",
        "No character outside ASCII goes out; those without a name get numbers.",
        |house| &mut house.characters.ascii_only,
    ),
    choice(
        "characters.punctuation",
        "How quotation marks, apostrophes, dashes and ellipses are spelled.",
        |house| &mut house.characters.punctuation,
    ),
    choice(
        "looks.keep",
        "The source's fonts, colours and borders: left out, as classes, or in each element.",
        |house| &mut house.looks.keep,
    ),
    choice(
        "pictures.placement",
        "Where the pictures go that a document carries inside itself.",
        |house| &mut house.pictures.placement,
    ),
    choice(
        "pictures.format",
        "The format pictures are converted to; drawings stay as they are.",
        |house| &mut house.pictures.format,
    ),
    number(
        "pictures.widest",
        "The greatest width of a picture, in pixels; 0 for any.",
        Bounds::Within(0, 20_000),
        |house| &mut house.pictures.widest,
    ),
    number(
        "pictures.quality",
        "The quality of pictures written as JPEG.",
        Bounds::Within(1, 100),
        |house| &mut house.pictures.quality,
    ),
    choice(
        "review.changes",
        "Tracked changes: shown with their authors, or as if all were accepted or rejected.",
        |house| &mut house.review.changes,
    ),
    truth("review.comments", "Review comments are shown, behind the text.", |house| {
        &mut house.review.comments
    }),
    truth(
        "safety.trust_sources",
        "Lets raw HTML out as it is. Only for sources that may do anything on the destination.",
        |house| &mut house.safety.trust_sources,
    ),
    number(
        "limits.characters",
        "The most characters that the destination takes; 0 for any number.",
        Bounds::Within(0, 1_000_000_000),
        |house| &mut house.limits.characters,
    ),
    choice(
        "limits.counted",
        "What the destination counts: everything, tags included, or only the text.",
        |house| &mut house.limits.counted,
    ),
    choice("limits.unit", "What the destination counts as one character.", |house| {
        &mut house.limits.unit
    }),
    words(
        "limits.elements",
        "The elements the destination takes; others go, and leave what they hold. Empty for all.",
        "a list of element names, such as [\"p\", \"br\"]",
        |house| &mut house.limits.elements,
    ),
    words(
        "limits.attributes",
        "The attributes the destination takes; others go. Empty for all.",
        "a list of attribute names, such as [\"href\", \"alt\"]",
        |house| &mut house.limits.attributes,
    ),
    words(
        "limits.schemes",
        "How addresses may begin; other links go, and leave their text. Empty for any harmless one.",
        "a list of address schemes, such as [\"https\", \"mailto\"]",
        |house| &mut house.limits.schemes,
    ),
    words(
        "words.protected",
        "Names and acronyms that keep their spelling where rules change the case of letters.",
        "a list of words, such as [\"MTMT\", \"Ada Quill\"]",
        |house| &mut house.words.protected,
    ),
    choice(
        "markdown.dialect",
        "What Markdown may say: CommonMark alone, what code forges show, or everything.",
        |house| &mut house.markdown.dialect,
    ),
    truth(
        "markdown.hard_wraps",
        "Every line ending is a line break, as in texts from form fields.",
        |house| &mut house.markdown.hard_wraps,
    ),
    truth(
        "markdown.smart_punctuation",
        "Straight quotes, hyphens and periods become typographic, by the language.",
        |house| &mut house.markdown.smart_punctuation,
    ),
    number(
        "markdown.wrap",
        "The longest line of written text, in characters; 0 keeps the source's line breaks.",
        Bounds::ZeroOr(20, 1000),
        |house| &mut house.markdown.wrap,
    ),
    choice("markdown.bullet", "The mark of bulleted lists; kept is the source's own.", |house| {
        &mut house.markdown.bullet
    }),
    choice("markdown.emphasis", "The mark of emphasis, doubled for strong text.", |house| {
        &mut house.markdown.emphasis
    }),
    choice(
        "markdown.headings",
        "The marks of headings: before them, or below those of levels 1 and 2.",
        |house| &mut house.markdown.headings,
    ),
    choice("markdown.fence", "The fence around code.", |house| &mut house.markdown.fence),
    choice(
        "markdown.links",
        "Where addresses of links stand: behind the text, or at the document's end.",
        |house| &mut house.markdown.links,
    ),
    choice("markdown.tables", "Whether the columns of a table's text line up.", |house| {
        &mut house.markdown.tables
    }),
    truth("markdown.html", "Whether HTML may say what the dialect has no words for.", |house| {
        &mut house.markdown.html
    }),
    number(
        "text.wrap",
        "The longest line of written plain text, in columns; 0 for a line a paragraph.",
        Bounds::ZeroOr(20, 1000),
        |house| &mut house.text.wrap,
    ),
    choice(
        "text.links",
        "Where plain text has the addresses of links: at its end, behind each link, or nowhere.",
        |house| &mut house.text.links,
    ),
    choice(
        "text.paragraphs",
        "How the paragraphs of plain text that is read are told apart.",
        |house| &mut house.text.paragraphs,
    ),
    choice(
        "word.paper",
        "The paper of written Word files: A4, Letter, or what the language's country uses.",
        |house| &mut house.word.paper,
    ),
    file(
        "word.pattern",
        "A Word file whose styles, page set-up, headers and footers written ones take over.",
        |house| &mut house.word.pattern,
    ),
    text("word.quotation", "The style of quotations in Word files.", |house| {
        &mut house.word.styles.quotation
    }),
    text("word.code", "The style of code.", |house| &mut house.word.styles.code),
    text("word.aside", "The style of text beside the main text.", |house| {
        &mut house.word.styles.aside
    }),
    text("word.admonition", "The style of text in admonitions.", |house| {
        &mut house.word.styles.admonition
    }),
    text(
        "word.box_title",
        "The style of titles of admonitions and of what may be opened.",
        |house| &mut house.word.styles.box_title,
    ),
    text("word.caption", "The style of captions.", |house| &mut house.word.styles.caption),
    text("word.table", "The style of tables that name none.", |house| &mut house.word.styles.table),
    text(
        "latex.class",
        "The class of LaTeX documents; in one with chapters, the highest headings are chapters.",
        |house| &mut house.latex.class,
    ),
    text("latex.class_options", "The options of that class, such as 11pt, twoside.", |house| {
        &mut house.latex.class_options
    }),
    file(
        "latex.layout",
        "What stands around a document's body; empty for Obblet's own.",
        |house| &mut house.latex.layout,
    ),
    number(
        "org.wrap",
        "The longest line of written Org text, in characters; 0 keeps the source's line breaks.",
        Bounds::ZeroOr(20, 1000),
        |house| &mut house.org.wrap,
    ),
    formats("repairs.sources", "The formats whose documents are repaired.", |house| {
        &mut house.repairs.sources
    }),
    truth(
        "repairs.invisible_characters",
        "Byte order marks and other characters that nobody sees go.",
        |house| &mut house.repairs.invisible_characters,
    ),
    truth("repairs.ligatures", "Ligatures such as ﬁ become their letters.", |house| {
        &mut house.repairs.ligatures
    }),
    truth(
        "repairs.layout_tables",
        "Tables that only place things on the page become what they hold.",
        |house| &mut house.repairs.layout_tables,
    ),
    truth("repairs.double_breaks", "Two line breaks in a row part paragraphs.", |house| {
        &mut house.repairs.double_breaks
    }),
    truth("repairs.manual_breaks", "Line breaks inside a sentence become spaces.", |house| {
        &mut house.repairs.manual_breaks
    }),
    truth(
        "repairs.signature_lines",
        "Lines of underscores and the name below them become one paragraph.",
        |house| &mut house.repairs.signature_lines,
    ),
    truth("repairs.scene_breaks", "Lines such as * * * become thematic breaks.", |house| {
        &mut house.repairs.scene_breaks
    }),
    truth("repairs.tab_tables", "Columns made of tabs or spaces become tables.", |house| {
        &mut house.repairs.tab_tables
    }),
    truth(
        "repairs.typed_leaders",
        "Typed leaders become an ellipsis, and long lines to fill in shorter.",
        |house| &mut house.repairs.typed_leaders,
    ),
    truth(
        "repairs.typed_lists",
        "Paragraphs with typed bullets or numbers become lists.",
        |house| &mut house.repairs.typed_lists,
    ),
    truth("repairs.double_spaces", "Runs of spaces become one.", |house| {
        &mut house.repairs.double_spaces
    }),
    truth(
        "repairs.spaced_punctuation",
        "Spaces before commas, periods and the like go.",
        |house| &mut house.repairs.spaced_punctuation,
    ),
    truth("repairs.underlined_links", "Underlining of links goes.", |house| {
        &mut house.repairs.underlined_links
    }),
    truth(
        "repairs.formatting",
        "Neighbours of one format become one; formats of nothing go.",
        |house| &mut house.repairs.formatting,
    ),
    truth("repairs.empty_paragraphs", "Paragraphs with nothing to see go.", |house| {
        &mut house.repairs.empty_paragraphs
    }),
    truth("repairs.bold_headings", "Short bold paragraphs become headings.", |house| {
        &mut house.repairs.bold_headings
    }),
    truth("repairs.heading_levels", "Heading levels have no gaps.", |house| {
        &mut house.repairs.heading_levels
    }),
    truth("repairs.one_top_heading", "One heading stands above all others.", |house| {
        &mut house.repairs.one_top_heading
    }),
    truth(
        "repairs.redirects",
        "Links through pages that only send on lead straight to the target.",
        |house| &mut house.repairs.redirects,
    ),
    truth(
        "repairs.tracking_parameters",
        "Parts of addresses that only tell where a reader came from go.",
        |house| &mut house.repairs.tracking_parameters,
    ),
    truth(
        "repairs.page_frame",
        "What stands around the text of a page goes: navigation, banners, dialogs, footers.",
        |house| &mut house.repairs.page_frame,
    ),
    truth(
        "repairs.unused_classes",
        "Classes go that nothing in the page gives a meaning.",
        |house| &mut house.repairs.unused_classes,
    ),
    truth("repairs.duplicate_ids", "An id stands only once.", |house| {
        &mut house.repairs.duplicate_ids
    }),
];
