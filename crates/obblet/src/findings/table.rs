//! Every code in one row: its name, what happened, how heavy that is in a check, how much it matters in a
//! conversion, and what it is about; then what it says (`{}` stands for the subject), what that means, and what
//! one can do about it.

use super::codes::{CodeFacts, codes};
use super::{FindingKind, Severity, Topic, Weight};

codes! {
    // Any source.
    BytesReplaced = "bytes-replaced", Problem, Error, Content, Source {
        "bytes that are no text in {} were replaced by U+FFFD"
        "The source claims to be text in one encoding, and some of its bytes are no characters in it. Each \
         became the replacement character U+FFFD, so that the rest could be read."
        "Save the source as UTF-8 in the program it comes from, or find the character and type it anew."
    }
    NestingTooDeep = "nesting-too-deep", Changed, Advice, Structure, Source {
        "nested too deep; what is deeper was moved up to the deepest level that is kept"
        "Lists, quotations or elements stand inside each other hundreds of levels deep. Readers bound the \
         depth, so that no source can bring them down; what is deeper stands at the deepest level that is kept."
        "A text hardly ever means this. Look for a mark or a tag that is opened again and again and never \
         closed."
    }
    SourceEmpty = "source-empty", Problem, Warning, Content, Source {
        "the source is empty"
        "There is nothing in the source but white space."
        "Check that it is the right file, and that it was saved."
    }
    TextAdded = "text-added", Changed, Advice, Content, Source {
        "the document holds words that the source does not: {}"
        "The document holds words that are not in the source: words that a reader makes, such as those of a \
         reference, or text that came twice."
        "Look for text that stands twice. If it does, it is a fault of Obblet: please report it with a small \
         sample."
    }
    TextMoved = "text-moved", Changed, Advice, Structure, Source {
        "text stands in another order than in the source: {}"
        "Some text stands in another order in the document than in the file: text boxes, captions and columns \
         of a plain text have places of their own."
        "Compare the order with the source."
    }
    TextAfterEnd = "text-after-end", Lost, Warning, Content, Source {
        "the document ends before its file does; what comes after its end was left out"
        "TeX reads nothing after \\end{document}, so that text is not in the document."
        "Move \\end{document} to the end of the file, or delete what comes after it."
    }
    TextUnaccounted = "text-unaccounted", Lost, Warning, Content, Source {
        "text reached nothing, and nothing says why: {}"
        "Words of the source are not in the document, or words of the document are not in the output, and no \
         other finding says that they were left out. The account of words, which counts both sides by itself, \
         has noticed it."
        "Compare the place with the output. It is a fault of Obblet, not of the source: please report it with a \
         small sample."
    }

    // Markdown.
    ContainerUnclosed = "container-unclosed", Problem, Warning, Structure, Source {
        "the container “{}” is never closed; it reaches to the end of what it stands in"
        "A container (a block that a line of marks opens) has no line that closes it. All that follows, up to \
         the end of what it stands in, is inside it."
        "Put the closing line where the container ends."
    }
    ExpansionLimit = "expansion-limit", Changed, Advice, Content, Source {
        "references to long link definitions would blow the output up; from here on they stay text"
        "The same long link definition is used so often that the output would become many times as large as the \
         source. From there on references stay as they are written."
        "Shorten the definition, or use the link less often."
    }
    FenceUnclosed = "fence-unclosed", Problem, Warning, Structure, Source {
        "the code fence is never closed; the rest of its container is code"
        "A line of backticks or tildes opens a block of code and no line like it closes it, so that the rest is \
         code."
        "Put the closing fence where the code ends; it needs at least as many marks as the opening one."
    }
    FrontMatterBroken = "front-matter-broken", Problem, Warning, Content, Source {
        "the front matter cannot be read and was kept as it is: {}"
        "The block of fields at the head of the file cannot be read as what it claims to be. It is kept as it \
         is written, but says nothing about title, date or authors."
        "Look at the line the message names. Most often a value with a colon needs quotation marks."
    }
    HeadingLevelJump = "heading-level-jump", Problem, Warning, Structure, Structure {
        "a heading level is left out: {}"
        "A heading stands two levels or more below the one before it. People who move from heading to heading \
         look for the level that is missing."
        "Give the heading the level that follows, or add the heading that should stand between."
    }
    LinkDefinitionDuplicate = "link-definition-duplicate", Problem, Warning, Structure, Source {
        "the link label “{}” is defined again; the first definition holds"
        "Two definitions have the same label. The first one holds; the second is without effect."
        "Give one of them another label, or take it out."
    }
    LinkDefinitionMissing = "link-definition-missing", Problem, Warning, Content, Source {
        "there is no definition of the link label “{}”; the brackets stay text"
        "Brackets look like a reference to a link definition that is not there, so they are shown as they \
         stand."
        "Add the definition, or check the spelling of the label. If brackets are meant, put a backslash before \
         the first one."
    }
    NoteLabelDuplicate = "note-label-duplicate", Lost, Warning, Content, Source {
        "the note “{}” is defined again; its second text was dropped"
        "Two notes have the same label. The text of the first one is kept."
        "Give the second note a label of its own."
    }
    NoteLabelMissing = "note-label-missing", Problem, Warning, Content, Source {
        "there is no text of the note “{}”; the mark stays text"
        "The mark of a note stands in the text, and no note has its label."
        "Write the note, or check the spelling of the label."
    }
    NoteUnused = "note-unused", Problem, Warning, Content, Source {
        "the note “{}” has no mark in the text"
        "A note is written and no mark in the text leads to it. Formats that have a place for such a note keep \
         it; for the others it is told as lost."
        "Put its mark where it belongs, or take the note out."
    }
    TableCellsSurplus = "table-cells-surplus", Lost, Warning, Content, Source {
        "the row has more cells than the table's head; the surplus cells were dropped: {}"
        "A row has more cells than the head of its table. What is in the surplus cells is not shown."
        "Add columns to the head, or look for a bar in the text of a cell: it needs a backslash before it."
    }
    TableTooWide = "table-too-wide", Changed, Advice, Structure, Source {
        "short rows of a very wide table are not filled up with empty cells"
        "The head of a table has so many columns that rows are not filled up with empty cells."
        "Nothing, if the table is meant to be so wide."
    }

    // Word.
    ChangesAccepted = "changes-accepted", Changed, Advice, Content, Source {
        "tracked changes were accepted: {}"
        "The file has tracked changes. The text is shown as it would be with all of them accepted, as the house \
         says."
        "Set word.changes to keep them as marked insertions and deletions, or to take them back."
    }
    ChangesRejected = "changes-rejected", Changed, Advice, Content, Source {
        "tracked changes were rejected: {}"
        "The file has tracked changes. The text is shown as it was before them, as the house says."
        "Set word.changes to keep them as marked insertions and deletions, or to accept them."
    }
    ChartRedrawn = "chart-redrawn", Changed, Advice, Content, Source {
        "a chart of the kind {} is drawn in another way; its values are in its table"
        "A chart of a kind that is not drawn by us is shown as another kind, with the same values, which also \
         stand in its table."
        "Look at the drawing. Where it does not do, put a picture of the chart in its place."
    }
    CommentMissing = "comment-missing", Problem, Warning, Content, Source {
        "there is no comment with the number {}"
        "A mark in the text leads to a review comment that is not in the file."
        "Nothing is lost that was there. The file was changed by a program that left the mark behind."
    }
    DiagramAsList = "diagram-as-list", Changed, Advice, Structure, Source {
        "a diagram became a list of what it says"
        "A diagram is made of shapes with words. The words are kept, as a list in the order of the shapes."
        "Where the arrangement matters, put a picture of the diagram in its place, with a description."
    }
    ElementUnknown = "element-unknown", Lost, Warning, Content, Source {
        "the element “{}” is not known to this reader; what it says by itself was dropped"
        "The file has an element that this reader does not know. What stands in it was read where that could be \
         told from the element itself."
        "Look at the place in the source's own program. If it is of weight, write it there in another way."
    }
    EquationFlattened = "equation-flattened", Changed, Advice, Content, Source {
        "an equation was reduced to its characters: {}"
        "An equation of an old kind is kept as characters only; its structure cannot be read."
        "Write the equation anew with the equation editor of today."
    }
    FieldFlattened = "field-flattened", Changed, Advice, Structure, Source {
        "the field “{}” was replaced by its last stored result"
        "A field (a page number, a computed value) became the text that its program last put there. It will not \
         be computed again."
        "Bring the fields up to date in the source before converting."
    }
    FieldUnclosed = "field-unclosed", Lost, Warning, Content, Source {
        "a field has no end, and what stands behind its beginning is part of it"
        "A field begins and never ends, so it cannot be told what is its instruction and what its result."
        "Delete the field in the source and insert it anew."
    }
    LooksNotRead = "looks-not-read", Changed, Advice, Formatting, Source {
        "looks were left out: {}"
        "Looks that the document tree has no property for were left out, counted by name."
        "Nothing, where only what the text says matters."
    }
    NoteMissing = "note-missing", Problem, Warning, Content, Source {
        "there is no note with the number {}"
        "A mark in the text leads to a note that is not in the file."
        "Write the note in the source, or delete its mark."
    }
    NumberingMissing = "numbering-missing", Problem, Warning, Structure, Source {
        "there is no list definition {}; its paragraph was read without a number"
        "A paragraph names a list definition that is not in the file. It was read without a number."
        "Apply the list format to the paragraph again in the source."
    }
    ObjectNotCarried = "object-not-carried", Lost, Warning, Content, Source {
        "an object that this reader does not carry was dropped: {}"
        "An object of another program (a sound, a spreadsheet, a drawing of a kind that is not read) was left \
         out."
        "Put what it shows into the text: a table, or a picture with a description."
    }
    PartMissing = "part-missing", Problem, Warning, Content, Source {
        "the package has no part {}"
        "The package names a part of itself that is not in it."
        "Open and save the file in the program that it comes from."
    }
    PartNotRead = "part-not-read", Lost, Warning, Content, Source {
        "the part {} is not read; what it says was dropped"
        "The package has a part with content that this reader does not read."
        "Look whether the text of that part matters. If so, move it into the main text."
    }
    PictureKindUnusual = "picture-kind-unusual", Problem, Warning, Formatting, Source {
        "browsers do not show pictures of this kind: {}"
        "A picture has a format that browsers do not show."
        "Set pictures.format in the house, where it can be converted; else save it as PNG or SVG."
    }
    PictureMissing = "picture-missing", Lost, Error, Content, Source {
        "there is no picture {}"
        "The file names a picture that is neither in it nor beside it."
        "Insert the picture again in the source."
    }
    PictureCleaned = "picture-cleaned", Lost, Warning, Content, Source {
        "what could run or leads out of the drawing was taken out of {}"
        "A drawing (SVG) that the document carries, or that lies in a published folder, has scripts in it, \
         other documents, or addresses outside of itself. A drawing is a page of the site when somebody opens \
         it, so these were taken out, with words and pictures that stand in them. All else that it shows was \
         kept."
        "Nothing, if the drawing looks as it should; else save it without scripts, with its words as text of \
         the drawing and its pictures inside."
    }
    PictureRefused = "picture-refused", Lost, Warning, Content, Source {
        "{} is no picture of a known kind, whatever its name says, and was left out"
        "The document carries a file as a picture that is none: its bytes are of no kind of picture, whatever \
         its name says. It was left out, since a file of any kind beside a page can do harm. A drawing (SVG) in \
         a published folder is left out where it cannot be looked through for scripts: it is not well formed, \
         not in UTF-8, or packed."
        "Insert the picture again in the source, as PNG, JPEG or SVG."
    }
    RelationMissing = "relation-missing", Problem, Warning, Structure, Source {
        "the package has no relationship {}; the link was dropped, its text kept"
        "A link in the package has no target: its relationship is not there. The words of the link were kept."
        "Set the link again in the source."
    }
    XmlBroken = "xml-broken", Lost, Warning, Content, Source {
        "the XML breaks off; what follows was not read: {}"
        "A part of the package is no well-formed XML from some point on. What comes before that was read."
        "Open and save the file in the program that it comes from; it may be able to repair it."
    }

    // LaTeX.
    BlockInLine = "block-in-line", Changed, Advice, Structure, Source {
        "{} cannot stand inside a line; only its words were kept"
        "A list, a table or another block stands in an argument that is part of a line. Its words were kept, \
         each line of it on a line of its own."
        "Put the block between paragraphs."
    }
    BibliographyBroken = "bibliography-broken", Problem, Warning, Content, Source {
        "the file of works is broken at “{}”"
        "The file of works cannot be read at the place the message names; the works before it are known."
        "Look for a missing brace or comma there."
    }
    BoxUnshown = "box-unshown", Lost, Warning, Layout, Source {
        "the box “{}” is never shown; what it holds was left out"
        "The source keeps text in a box of TeX and never shows it. TeX prints nothing of it either, so it is \
         left out."
        "Show the box with \\usebox, or take it out of the source."
    }
    CitationMissing = "citation-missing", Problem, Error, Content, Source {
        "no work is known by the key “{}” that the text cites"
        "The text cites a work by a key that no list of works has. Readers see the key."
        "Add the work, or check the spelling of the key."
    }
    CommandSkipped = "command-skipped", Lost, Warning, Formatting, Source {
        "the command “{}” is not known; it was skipped with its arguments"
        "The source uses a command that neither it nor the known packages define, where no text can stand, or a \
         character that no font shows. It was skipped with its arguments."
        "If its arguments hold text, move it behind \\begin{document}, or define the command."
    }
    CommandUnknown = "command-unknown", Changed, Advice, Content, Source {
        "the command “{}” is not known; only what its braces hold was kept"
        "The source uses a command that neither it nor the known packages define. What its arguments in braces \
         hold is kept as text; options in brackets are not."
        "Define the command in the source, for example with \\newcommand, or write it in another way."
    }
    DateImpossible = "date-impossible", Problem, Warning, Content, Source {
        "there is no day “{}” in any calendar; it stays text"
        "A date has the form of a day that does not exist, such as the 31st of February, so that no machine can \
         read it."
        "Correct the date."
    }
    DateUnclear = "date-unclear", Problem, Advice, Formatting, Source {
        "the date “{}” is no day that programs can read; it is shown as it is"
        "The date of a document is told to programs too: search engines, feeds, readers of the page's markup. That \
         takes a day, as ISO 8601 writes it or in the words of the document's language (2026-05-12, 12 May 2026). A \
         month, a year or other words are only shown."
        "Write a day, or state the language of the document if the date is in another one."
    }
    DateUnknown = "date-unknown", Lost, Warning, Content, Source {
        "“{}” asks for the day of the reading, which is not known here; it was left out"
        "The source asks for the day on which it is read, and whoever called the library did not say it. The \
         command says it itself."
        "Write the date, or let the resolver name the day."
    }
    DrawingAsSource = "drawing-as-source", Changed, Advice, Content, Source {
        "a drawing ({}) is shown as its source"
        "A drawing that only TeX can draw is shown as its source."
        "Put a picture of the drawing in its place."
    }
    EnvironmentUnknown = "environment-unknown", Changed, Advice, Content, Source {
        "the environment “{}” is not known; only what it holds was kept"
        "The source uses an environment that neither it nor the known packages define. What it holds is kept."
        "Define the environment in the source, or use one that is known."
    }
    GroupUnclosed = "group-unclosed", Problem, Warning, Content, Source {
        "“{}” is never closed"
        "A brace, an environment or the like is opened and never closed."
        "Look at the place where it is opened; the end is missing behind it."
    }
    GroupUnopened = "group-unopened", Problem, Warning, Content, Source {
        "“{}” closes something that was never opened, and was passed over"
        "A brace or an end of an environment closes what was never opened."
        "Take it out, or add the beginning."
    }
    IncludeCircular = "include-circular", Problem, Warning, Content, Source {
        "the file “{}” includes itself, and was not read again"
        "A file includes itself, by way of others perhaps. It was read once."
        "Take out the inclusion that leads back."
    }
    IncludeMissing = "include-missing", Lost, Error, Content, Source {
        "the file “{}” is not there or may not be read; what it holds is missing"
        "A file that the source includes is not there, or lies outside of the folder that may be read."
        "Put the file into the source's folder, or correct its name."
    }
    LayoutNotKept = "layout-not-kept", Lost, Warning, Layout, Source {
        "what “{}” says of the layout of paper has no place in the document"
        "The source says something of pages of paper (margins, floats, columns) that has no place in a document \
         of no pages."
        "Nothing, for the web. For paper the house's own layout says it."
    }
    MacroCircular = "macro-circular", Problem, Warning, Content, Source {
        "the macro “{}” calls itself, and stays as it is written"
        "A macro calls itself, by way of others perhaps. Where it does, the call stays as it is written."
        "Take out the call that leads back."
    }
    MacroKept = "macro-kept", Changed, Advice, Structure, Source {
        "the source defines “{}” anew; what it means for the structure was kept instead"
        "The source defines a command anew that says something of the structure. What the command means was \
         kept, and its new looks were not."
        "Nothing, where the new definition only changes looks."
    }
    MacroLimit = "macro-limit", Problem, Warning, Content, Source {
        "macros make more than is read; from here on they stay as they are written"
        "Macros make so much text, or call each other so often, that reading stopped expanding them."
        "Look for a macro that calls itself without an end."
    }
    MacroMismatch = "macro-mismatch", Problem, Warning, Content, Source {
        "the use of “{}” does not fit its definition"
        "A macro is used in another way than it was defined: a delimiter or an argument is missing."
        "Compare the use with the definition."
    }
    PageReferenceAsNumber = "page-reference-as-number", Changed, Advice, Structure, Source {
        "the page of “{}” is not known; its number or its title is shown instead"
        "The source refers to a page. There are no pages here, so the number of the thing referred to is shown."
        "Nothing, or refer to the thing itself."
    }
    ReferenceMissing = "reference-missing", Problem, Error, Structure, Source {
        "nothing has the label “{}”"
        "The text refers to a label that nothing has. Readers see question marks, as on paper."
        "Add the label, or check its spelling."
    }

    // Org.
    BlockUnclosed = "block-unclosed", Problem, Warning, Content, Source {
        "“{}” is never closed, and stays text"
        "A block is begun and its end is missing, so that its first line is text."
        "Add the line that ends the block."
    }
    BlockUnopened = "block-unopened", Problem, Warning, Content, Source {
        "“{}” ends nothing, and stays text"
        "A line ends a block that was never begun."
        "Take the line out, or add the beginning."
    }
    CitationStyleDropped = "citation-style-dropped", Changed, Advice, Formatting, Source {
        "“{}” is no style of citations that is known; the nearest one was taken"
        "The style that a citation asks for is not known. The nearest one that is known was taken."
        "Use one of the styles that docs/org.md lists."
    }
    CodeNotRun = "code-not-run", Changed, Advice, Content, Source {
        "“{}” was not run; results are as they stand in the source"
        "The source wants code to be run while it is exported. Nothing is ever run; results stand as they were \
         saved."
        "Run the code in your editor and save its results before converting."
    }
    DrawnTableAsText = "drawn-table-as-text", Changed, Advice, Structure, Source {
        "a table drawn with signs stays as it is drawn"
        "A table drawn with plus signs and bars has a form that is not read as a table, and is shown as it is \
         drawn."
        "Draw it as a table with bars only."
    }
    EmphasisDropped = "emphasis-dropped", Lost, Warning, Formatting, Source {
        "the marks around “{}” would be read in another way, and were left out"
        "Marks of emphasis in this place would mean something else, so the words are written without them."
        "Put a space or a punctuation mark where the emphasis begins and ends."
    }
    FormatAsHtml = "format-as-html", Changed, Advice, Formatting, Source {
        "{} is written as HTML inside the text"
        "The output has no way of its own to say this, so it says it in HTML."
        "Nothing, where the output's readers know HTML."
    }
    KeywordKept = "keyword-kept", Changed, Advice, Structure, Source {
        "the keyword “{}” is not known; what it says is kept as a field of the document"
        "A keyword at the head of the source means nothing to this reader. It is kept as a field of the \
         document."
        "Nothing, or correct its spelling."
    }
    KeywordMisplaced = "keyword-misplaced", Lost, Warning, Content, Source {
        "nothing follows “{}” that it could be about"
        "A keyword says something of the element below it, and there is none."
        "Put it directly above what it is about."
    }
    KeywordUnknown = "keyword-unknown", Lost, Warning, Structure, Source {
        "the keyword “{}” is not known; its line was left out"
        "A keyword inside the source means nothing to this reader, and its line was left out."
        "Correct its spelling, or take it out."
    }
    LinkUnwrapped = "link-unwrapped", Changed, Advice, Structure, Source {
        "“{}” cannot be linked to; only the words were kept"
        "A link of this kind leads to nothing that a document can link to. Its words were kept."
        "Link to a file, a heading or an address."
    }
    MacroUnknown = "macro-unknown", Problem, Warning, Structure, Source {
        "there is no macro “{}” that can be filled in; it stays as it is written"
        "A macro is used that the source does not define."
        "Define it with #+MACRO, or check its spelling."
    }
    NotPublished = "not-published", Changed, Advice, Content, Source {
        "the document keeps {} from its readers"
        "The source marks a part as not for readers, and it was left out."
        "Nothing, if that is meant."
    }
    SearchInFileDropped = "search-in-file-dropped", Changed, Advice, Structure, Source {
        "the link leads to the file; what was to be looked for in it, “{}”, was left out"
        "A link leads to a file and to something to be looked for in it. Only the first half can be kept."
        "Link to a heading or a named place of the file."
    }
    SettingNotKept = "setting-not-kept", Lost, Warning, Formatting, Source {
        "the setting “{}” has no meaning in the output, and was left out"
        "The source sets something that has no meaning in the output."
        "Nothing, or say it in the house."
    }

    // Plain text.
    TextTakenFor = "text-taken-for", Changed, Advice, Structure, Source {
        "nothing says what a plain text is; parts of it were taken for {}"
        "A plain text says nothing about itself. What looks like a heading, a list, a table, verse, a quotation \
         or a change of scene was taken for it."
        "Look at these parts of the result. Where one is wrong, change how it looks in the source, or set \
         text.paragraphs."
    }

    // Writing Word.
    ControlDropped = "control-dropped", Lost, Warning, Formatting, Source {
        "a control character that the output cannot hold was dropped"
        "The text has a control character, which the format of the output forbids."
        "Delete the character in the source."
    }
    PictureLinked = "picture-linked", Changed, Advice, Structure, Source {
        "the picture {} is not in the file, which only links to it"
        "A picture has an address on the web, so the written file links to it and does not hold it."
        "Save the picture beside the source and use that."
    }

    // Writing Markdown.
    EndnoteAsFootnote = "endnote-as-footnote", Changed, Advice, Structure, Source {
        "the output has one kind of note; an endnote became a footnote"
        "The format of the output knows one kind of note."
        "Nothing; the text of the note is the same."
    }
    ListSpacingChanged = "list-spacing-changed", Changed, Advice, Formatting, Source {
        "the list's items stand closer or wider than they did: the output cannot say it otherwise"
        "The items of a list stand close or wide. The output cannot say so for this list, mostly because of \
         what the items hold."
        "Nothing, or part all items alike."
    }
    ListsJoined = "lists-joined", Changed, Advice, Structure, Source {
        "two {} lists that followed each other became one"
        "Two lists follow each other, and the output has nothing to keep them apart."
        "Put a sentence between them, or mark them in two ways."
    }
    MarkupAmbiguous = "markup-ambiguous", Changed, Advice, Formatting, Source {
        "marks that would run into each other were written as HTML"
        "Marks of emphasis would run into each other in the output, so HTML was written for them."
        "Nothing, or put a space between the two."
    }
    NumberAsText = "number-as-text", Changed, Advice, Structure, Source {
        "the number of a heading became a part of its words: {}"
        "Headings have numbers, and the output has no numbers of its own for them, so they are part of the \
         words."
        "Set page.heading_numbers if the destination is to number headings."
    }
    NumberFormChanged = "number-form-changed", Changed, Advice, Formatting, Source {
        "list numbers of the form “{}” are written in another form"
        "The numbers of a list have a form that the output does not know. They count in the nearest form."
        "Nothing, where the text does not refer to the numbers."
    }
    WhiteSpaceChanged = "white-space-changed", Changed, Advice, Formatting, Source {
        "white space was put in or taken out where the output cannot say it otherwise: {}"
        "White space that means something in the output stands where it meant nothing in the source, or the \
         other way round."
        "Nothing, as a rule; look at the place when it is code or verse."
    }

    // HTML.
    AddressBroken = "address-broken", Changed, Advice, Structure, Source {
        "the link or picture leads nowhere: “{}” is no address; its text was kept"
        "What stands in the place of an address is none. Its words were kept, without a link."
        "Correct the address."
    }
    AddressUnsafe = "address-unsafe", Changed, Advice, Structure, Source {
        "an address that may run code, or open something else than a page, was removed: {}"
        "Following this address would run code, or have the machine open a file, a search or a program. It was \
         taken out; the words stay. Addresses of the web, of mail, telephones and the like stay."
        "Link to a page instead."
    }
    AlternativeMissing = "alternative-missing", Problem, Warning, Content, Source {
        "the picture {} has no alternative text"
        "A picture has no words that stand for it. People who do not see it do not learn what it shows."
        "Write what the picture shows, or mark it as decoration."
    }
    AttributeDropped = "attribute-dropped", Lost, Warning, Formatting, Source {
        "the attribute “{}” is not allowed in the output and was dropped"
        "An attribute in HTML of the source is not among those that are let through."
        "Nothing; or set safety.trust_sources in the house for sources that you wrote yourself."
    }
    CountingPictureDropped = "counting-picture-dropped", Lost, Warning, Content, Source {
        "a picture that only counts readers was dropped: {}"
        "A picture of one pixel was there only to count readers."
        "Nothing."
    }
    ElementDropped = "element-dropped", Lost, Warning, Content, Source {
        "the element “{}” is not allowed in the output and was dropped with all it held"
        "An element of the source is not among those that are let through, and neither is what it holds: \
         scripts, forms, foreign objects."
        "Nothing; or set safety.trust_sources in the house for sources that you wrote yourself."
    }
    ElementUnwrapped = "element-unwrapped", Changed, Advice, Structure, Source {
        "the element “{}” may not stand in the output, or not there; only what it held was kept"
        "An element may not stand in the output, or not in this place. What it holds was kept."
        "Nothing, as a rule; look at the place if the element carried a meaning."
    }
    ForeignMarkupLost = "foreign-markup-lost", Lost, Warning, Content, Source {
        "markup of the format “{}” has no place in the output and was dropped"
        "The source has a piece that is meant for one format alone, and this is another."
        "Add a piece for the format you write, if it is needed."
    }
    FormulaAsSource = "formula-as-source", Changed, Advice, Content, Source {
        "a formula is shown as its {} source"
        "A formula could not be turned into this format's own spelling, so its source is shown."
        "Write the formula with commands that docs/latex.md lists."
    }
    FormulaBroken = "formula-broken", Problem, Warning, Content, Source {
        "in a formula, something is missing or stands where it cannot: “{}”"
        "Something is missing in a formula, or stands where it cannot."
        "Look at the place: a fraction or a root without its parts, a second index, an & outside of a table."
    }
    FormulaCommandUnknown = "formula-command-unknown", Changed, Advice, Content, Source {
        "the formula command “{}” is not known, and is shown as its source"
        "A formula uses a command that is not known. It is shown as it is written, and the rest is a formula."
        "Define it in the source, or use a known command."
    }
    FormulaUnbalanced = "formula-unbalanced", Problem, Warning, Content, Source {
        "in a formula, “{}” opens or closes without its counterpart"
        "A brace or a bracket in a formula has no counterpart."
        "Add the missing one."
    }
    HeadingLevelLowered = "heading-level-lowered", Changed, Advice, Structure, Source {
        "HTML has six heading levels; a heading of level {} became one of level 6"
        "HTML has six levels of headings, and this one is deeper."
        "Use fewer levels, or split the text."
    }
    HeadingLevelRaised = "heading-level-raised", Repaired, Advice, Structure, Source {
        "a heading of level {}, so that a page leaves no level out"
        "A page must leave no level of headings out, so this one stands higher than its source says."
        "Correct the level in the source."
    }
    HiddenDropped = "hidden-dropped", Lost, Warning, Content, Source {
        "content that the page hides from readers was dropped"
        "The page hides something from its readers, and it was left out."
        "Nothing, if it is meant to be hidden."
    }
    HtmlRepaired = "html-repaired", Repaired, Advice, Formatting, Source {
        "HTML in the source was not well formed and was mended: {}"
        "The HTML of the source is not well formed. It was mended as browsers do."
        "Run obblet check on the page; it names each place."
    }
    LooksDropped = "looks-dropped", Lost, Warning, Formatting, Source {
        "fonts, colours, borders and the like are left to the destination"
        "The source says what the text looks like. The destination has a look of its own, so that was left out."
        "Use the house looks to keep them."
    }
    IdDuplicate = "id-duplicate", Repaired, Advice, Structure, Source {
        "the id “{}” is used more than once; a later one got a number"
        "Two things of a document have the same id. Links lead to the first; the later one got a number."
        "Give one of them another id."
    }
    NodeChanged = "node-changed", Changed, Advice, Structure, Source {
        "the output says {} in another way"
        "The output has no way to say just this, and says it in the nearest way."
        "Nothing, or look at the place in the output."
    }
    NodeNotCarried = "node-not-carried", Lost, Warning, Structure, Source {
        "the output has no place for {}"
        "The output has no place for something that the source has."
        "Look at the place in the source; write it in another way if it matters."
    }
    NumberPatternLost = "number-pattern-lost", Changed, Advice, Formatting, Source {
        "list numbers of the form “{}” are shown by their last part only"
        "Numbers of a list are made of several parts (1.2.3). The output shows the last part."
        "Nothing, where the text does not refer to the numbers."
    }
    StyleDropped = "style-dropped", Lost, Warning, Formatting, Source {
        "the output has no place for the named style “{}”"
        "The source gives a paragraph or words a style of that name. The output has no names for styles, and \
         the text stands there without it."
        "Use the house looks to keep named styles as classes."
    }

    // Repairs.
    AddressRepaired = "address-repaired", Changed, Advice, Formatting, Source {
        "a part of a link's address that readers do not need was taken off: {}"
        "An address carried parts that only tell who sent a reader, or led through a page that only sends on."
        "Nothing; or turn off repairs.tracking_parameters."
    }
    BoldHeadingMade = "bold-heading-made", Repaired, Advice, Structure, Source {
        "a short bold paragraph with text below it became a heading: {}"
        "A short bold line with text below it was taken for a heading."
        "Turn off repairs.bold_headings if it is none."
    }
    BreaksRepaired = "breaks-repaired", Repaired, Advice, Formatting, Source {
        "line breaks that part paragraphs, or nothing, were repaired"
        "Line breaks were used to part paragraphs, or stood where they part nothing."
        "Nothing."
    }
    CharactersRepaired = "characters-repaired", Repaired, Advice, Formatting, Source {
        "characters that only a program wants were repaired: {}"
        "Characters that no reader sees, or that only printers used, were taken out or spelled with letters."
        "Nothing."
    }
    ClassDropped = "class-dropped", Changed, Advice, Formatting, Source {
        "a class that nothing in the page gives a meaning was dropped"
        "A class had no rule in any style sheet of the page."
        "Nothing; or turn off repairs.unused_classes."
    }
    EmptyRemoved = "empty-removed", Repaired, Advice, Formatting, Source {
        "a paragraph in which there is nothing to see was removed"
        "A paragraph with nothing in it was there to make room."
        "Nothing; the style sheet makes room."
    }
    FormattingRepaired = "formatting-repaired", Repaired, Advice, Formatting, Source {
        "formats that say nothing, or the same twice, were repaired"
        "Formats stood around nothing, or twice around the same words."
        "Nothing."
    }
    HeadingLowered = "heading-lowered", Repaired, Advice, Structure, Source {
        "the heading went one level down, so that one heading stands above all others"
        "Several headings of the highest level became headings below the first."
        "Nothing; or turn off repairs.one_top_heading."
    }
    IdDropped = "id-dropped", Repaired, Advice, Structure, Source {
        "the id “{}” is used more than once; only the first keeps it"
        "An id was stated twice. The first keeps it."
        "Give the second one an id of its own in the source."
    }
    LayoutTableUnwrapped = "layout-table-unwrapped", Repaired, Advice, Structure, Source {
        "a table that only places things became what it holds"
        "A table had no heads and only placed things beside each other. What it held stands in the text."
        "Turn off repairs.layout_tables if it was a table of data, and give it heads."
    }
    LeadersRepaired = "leaders-repaired", Repaired, Advice, Formatting, Source {
        "a leader or a line to fill in, drawn with dots or underscores, was shortened or joined with what \
         belongs to it"
        "Rows of dots or underscores were typed to lead the eye or to leave room for writing."
        "Nothing."
    }
    PageFrameDropped = "page-frame-dropped", Lost, Warning, Content, Source {
        "what stands around the text of the page was left out, as was asked"
        "Navigation, banners and footers of a page were left out, as the house asks."
        "Turn off repairs.page_frame to keep them."
    }
    PunctuationRepaired = "punctuation-repaired", Changed, Advice, Formatting, Source {
        "quotation marks, dashes and the like are spelled as the house wants them"
        "Quotation marks, dashes and ellipses are spelled as characters.punctuation of the house says."
        "Nothing."
    }
    SceneBreakMade = "scene-break-made", Repaired, Advice, Structure, Source {
        "a line of nothing but marks became a thematic break"
        "A line of asterisks or the like was taken for a change of scene."
        "Nothing."
    }
    SpacesRepaired = "spaces-repaired", Repaired, Advice, Formatting, Source {
        "superfluous spaces were removed"
        "Spaces in a row became one, or spaces before punctuation went."
        "Nothing."
    }
    TabTableMade = "tab-table-made", Repaired, Advice, Structure, Source {
        "columns made of tabs or spaces became a table"
        "Columns made of tabs or spaces became a table."
        "Look at the table; give it heads in the source."
    }
    TypedListMade = "typed-list-made", Repaired, Advice, Structure, Source {
        "paragraphs with typed bullets or numbers became a list"
        "Paragraphs that began with typed bullets or numbers became a list."
        "Nothing; or turn off repairs.typed_lists."
    }

    // Houses.
    AddressNotAllowed = "address-not-allowed", Lost, Error, Structure, House {
        "the destination takes no such address; what was linked stays, the address does not: {}"
        "The house lists the schemes of addresses that its destination takes, and this is none of them."
        "Take the link out, or add the scheme to limits.schemes."
    }
    AttributeNotAllowed = "attribute-not-allowed", Lost, Error, Formatting, House {
        "the destination does not take the attribute “{}”; it was dropped"
        "The house lists the attributes that its destination takes, and this is none of them."
        "Nothing; or add it to limits.attributes."
    }
    ElementNotAllowed = "element-not-allowed", Lost, Error, Structure, House {
        "the destination does not take the element “{}”; what it holds stays"
        "The house lists the elements that its destination takes, and this is none of them. What the element \
         holds stays."
        "Write the text without it, or add a rule that makes something else of it."
    }
    PictureConverted = "picture-converted", Changed, Advice, Formatting, Source {
        "the picture {} has the format and size that the house wants"
        "The picture had another format, or was larger, than the house wants."
        "Nothing."
    }
    PictureDropped = "picture-dropped", Lost, Warning, Content, Source {
        "the house leaves pictures out; its words stand for it: {}"
        "The house leaves pictures out. The words that stand for the picture are in its place."
        "Check that these words say enough."
    }
    PictureNotConverted = "picture-not-converted", Problem, Warning, Content, Source {
        "the picture {} could not be converted and stays as it is"
        "The picture could not be read, so it stays as it is."
        "Save it anew as PNG or JPEG."
    }
    PictureNotTakenIn = "picture-not-taken-in", Problem, Warning, Content, Source {
        "the picture is not there, or of no kind that is taken in; it stays where it is: {}"
        "A picture that should be inside the output is not there, or is of no kind that is taken in."
        "Check the address of the picture."
    }
    RuleApplied = "rule-applied", Changed, Advice, Structure, Source {
        "the house's rule on “{}” was applied"
        "A rule of the house changed something here."
        "Nothing."
    }
    RuleNotApplied = "rule-not-applied", Problem, Warning, Structure, Source {
        "HTML cannot hold what the house's rule on “{}” would make here; it was left as it is"
        "What a rule of the house would make here is no valid HTML, so it was not done."
        "Narrow the rule's selector."
    }
    RuleTooCostly = "rule-too-costly", Problem, Warning, Content, Source {
        "the house's rule on “{}” has more to find or to make than a page may take; it was not carried out \
         everywhere"
        "A selector of the house takes too long on a page as large as this."
        "Write a simpler selector."
    }
    RuleWrong = "rule-wrong", Problem, Warning, Structure, Source {
        "a rule of the house is wrong and was left out: {}"
        "A rule of the house cannot be understood."
        "Correct it; obblet house show lists the rules in force."
    }
    StyleNotInlined = "style-not-inlined", Lost, Warning, Formatting, Source {
        "this part of a style sheet cannot stand in an element and was dropped: {}"
        "The house wants styles inside the elements, and this part of the style sheet cannot stand there."
        "Nothing, or say it with a property of the element itself."
    }
    TooLong = "too-long", Problem, Error, Content, House {
        "the output is too long for its destination: {}"
        "The destination counts characters and takes fewer than there are."
        "Shorten the text; the message says by how much."
    }

    // Folders.
    AnchorBroken = "anchor-broken", Problem, Error, Structure, Links {
        "the link leads to a page that has no such place: {}"
        "A link names a place, and there is none of that name. Readers land at the top of the page."
        "Correct the name behind the number sign, or give the place that id."
    }
    BoundContentsList = "bound-contents-list", Changed, Advice, Structure, Source {
        "the document’s own contents list is a part of that of the whole"
        "A document that was bound with others has a contents list. The list of the whole stands for it."
        "Nothing."
    }
    BoundMetadata = "bound-metadata", Changed, Advice, Structure, Source {
        "the whole does not say what one of the documents says about itself: {}"
        "A document that was bound with others says something about itself that the whole does not say."
        "Nothing, or say it for the whole."
    }
    BoundStyleDiffers = "bound-style-differs", Changed, Advice, Formatting, Source {
        "several of the documents have a style of this name; that of the first holds: {}"
        "Two of the bound documents have a style of the same name with different looks."
        "Rename one of the two."
    }
    BoundWorkDiffers = "bound-work-differs", Changed, Advice, Structure, Source {
        "several of the documents have a work with this key; that of the first is listed: {}"
        "Two of the bound documents list different works under one key."
        "Rename one of the two keys."
    }
    LinkBroken = "link-broken", Problem, Error, Structure, Links {
        "the link or picture leads to no file of this folder: {}"
        "A link leads to a file that is not in the folder."
        "Correct the path, or add the file. Mind capitals: a web server tells them apart."
    }

    // Checks.
    AddressLocal = "address-local", Problem, Error, Structure, Links {
        "the address leads to somebody's own machine: {}"
        "The address leads to a disk or to a server on one machine. Nobody else can follow it."
        "Put the file beside the text and link to it there, or use its address on the web."
    }
    AddressMalformed = "address-malformed", Problem, Error, Structure, Links {
        "the address has not the form of one: {}"
        "Something in the address cannot be: a missing slash, a space, no server, no mailbox. The network is \
         never asked; this is told from the form alone."
        "Correct the address; the message says what is wrong."
    }
    AddressRunsCode = "address-runs-code", Problem, Error, Structure, Links {
        "the address may run code: {}"
        "Following the address would run code in the reader's browser. It never goes out from here."
        "Link to a page instead."
    }
    AddressTracked = "address-tracked", Problem, Warning, Formatting, Links {
        "the address tells where a reader came from, or leads through a page that only sends on"
        "Parts of the address tell the server where a reader came from, or it leads through a page that only \
         sends on."
        "Let --fix take them off, or use the address of the page itself."
    }
    AttributeMissing = "attribute-missing", Problem, Error, Structure, Html {
        "an attribute is missing: {}"
        "HTML wants an attribute that the element does not have: the words for a picture, the target of an \
         anchor, the term of a list."
        "Add the attribute. A picture that is only decoration has alt=\"\"."
    }
    AttributeObsolete = "attribute-obsolete", Problem, Warning, Structure, Html {
        "an attribute is no longer part of HTML: {}"
        "The attribute was part of HTML once and is no longer. Browsers may ignore it."
        "Say it in a style sheet; for the name of an anchor use id. obblet clean does both."
    }
    AttributeUnknown = "attribute-unknown", Problem, Error, Structure, Html {
        "an attribute may not stand here: {}"
        "HTML has no such attribute, or not on this element. Browsers ignore it."
        "Correct its spelling; what is for your own scripts begins with data-."
    }
    AttributeWrong = "attribute-wrong", Problem, Error, Structure, Html {
        "an attribute has a wrong value: {}"
        "The value of an attribute is none that it can have. Browsers ignore it or guess."
        "Use a value of the kind that the message names."
    }
    BreaksTyped = "breaks-typed", Problem, Advice, Formatting, Structure {
        "line breaks stand where paragraphs should be parted"
        "Two line breaks in a row make what looks like two paragraphs and is one. Nobody can style or skip it."
        "Let --fix part the paragraphs, or do it in the source."
    }
    CapitalsTyped = "capitals-typed", Problem, Advice, Formatting, Access {
        "a whole line is typed in capitals: {}"
        "Some programs that read aloud spell words in capitals letter by letter, and everybody reads them more \
         slowly."
        "Type it in small letters, and let the style sheet make capitals if they are wanted."
    }
    CharactersControl = "characters-control", Problem, Error, Formatting, Text {
        "there is a character that no text holds on purpose: {}"
        "A control character, a character of private use or a replacement character stands in the text. It is \
         the trace of a broken copy."
        "Find it and type what was meant."
    }
    CharactersInvisible = "characters-invisible", Problem, Warning, Formatting, Text {
        "there are characters that nobody sees"
        "Spaces of no width, byte order marks or other characters that nobody sees stand in the text. They \
         break searching and copying."
        "Let --fix take them out."
    }
    ColourAlone = "colour-alone", Problem, Advice, Structure, Access {
        "the text points to something by its colour alone: “{}”"
        "The text points to something by its colour, and only its colour sets it apart. Some people cannot tell \
         the colours apart (WCAG 2.2, 1.4.1)."
        "Say it in words too, or make the words bold."
    }
    DashesMixed = "dashes-mixed", Problem, Warning, Formatting, Text {
        "dashes of two kinds part thoughts: {}"
        "One text parts thoughts with several kinds of dashes."
        "Choose one kind; characters.punctuation of a house can do it."
    }
    DoctypeMissing = "doctype-missing", Problem, Error, Structure, Html {
        "the page does not begin with <!DOCTYPE html>"
        "Without its first line browsers show a page as browsers of the past did."
        "Begin the page with <!DOCTYPE html>."
    }
    ElementIncomplete = "element-incomplete", Problem, Error, Structure, Html {
        "an element lacks what it must hold: {}"
        "HTML wants something in the element that is not there: a title, a summary, a term with its \
         description."
        "Add what the message names."
    }
    ElementMisplaced = "element-misplaced", Problem, Error, Structure, Html {
        "an element stands where it may not: {}"
        "The element may not stand in the one around it, or not in this order. Browsers move it, or close the \
         outer one before it."
        "Close the outer element first, or use another one."
    }
    ElementNotHtml = "element-not-html", Problem, Error, Structure, Html {
        "there is no such element in HTML: {}"
        "HTML has no element of this name."
        "Correct the name. Elements of your own need a hyphen in it."
    }
    ElementObsolete = "element-obsolete", Problem, Error, Structure, Html {
        "an element is no longer part of HTML: {}"
        "The element was part of HTML once and is no longer."
        "Use what the message names; obblet clean does it."
    }
    FormattingEmpty = "formatting-empty", Problem, Advice, Formatting, Text {
        "formats say nothing, or the same twice"
        "Formats stand around nothing or twice around the same words: traces of editing that make the source \
         hard to read."
        "Let --fix take them off."
    }
    HeadingEmpty = "heading-empty", Problem, Error, Structure, Structure {
        "a heading has no words"
        "A heading without words makes an empty line in every list of contents."
        "Give it words, or take it out."
    }
    HeadingTyped = "heading-typed", Problem, Warning, Structure, Structure {
        "a bold line stands where a heading should: {}"
        "A short bold line with text below it looks like a heading, but is none: it is in no list of contents, \
         and nobody can jump to it."
        "Make it a heading. --fix does so; look at the levels afterwards."
    }
    HeadingsMissing = "headings-missing", Problem, Advice, Structure, Structure {
        "a text of {} words has no heading"
        "A text of this length without headings is hard to find one's way in."
        "Add headings where a new thought begins."
    }
    HtmlSyntax = "html-syntax", Problem, Error, Structure, Html {
        "the HTML is not well formed: {}"
        "The parser met something that HTML does not allow and made the best of it: a tag without its \
         counterpart, elements that overlap, text outside of a cell."
        "Correct the place; all that follows may be read in another way than it looks."
    }
    IdReferenceBroken = "id-reference-broken", Problem, Error, Structure, Html {
        "an attribute names an id that is not there, or of something else: {}"
        "An attribute names another element by its id, and there is none, or one of a wrong kind."
        "Correct the id, or add the element."
    }
    IdRepeated = "id-repeated", Problem, Error, Structure, Html {
        "the id “{}” is stated more than once"
        "An id names one thing. Links and labels find the first one only."
        "Give each its own."
    }
    LanguageMissing = "language-missing", Problem, Warning, Structure, Access {
        "the page does not state its language"
        "Without the language a page is read aloud in the wrong voice and hyphenated by the wrong rules (WCAG \
         2.2, 3.1.1)."
        "Add lang to the html element."
    }
    LanguageWrong = "language-wrong", Problem, Error, Structure, Access {
        "“{}” is no tag of a language"
        "The value is no tag of a language as BCP 47 writes them."
        "Use a tag such as en, de-AT or zh-Hant."
    }
    LeadersTyped = "leaders-typed", Problem, Advice, Formatting, Structure {
        "rows of dots or underscores are typed"
        "Rows of dots or underscores are typed to lead the eye or to leave room for writing. Read aloud they \
         are a row of dots."
        "Let --fix shorten them; better still, make a table."
    }
    LigaturesTyped = "ligatures-typed", Problem, Warning, Formatting, Text {
        "letters are typed as ligatures"
        "Two letters are typed as one character. Searching does not find the word."
        "Let --fix spell them."
    }
    LinkTextEmpty = "link-text-empty", Problem, Error, Structure, Links {
        "a link has no words: {}"
        "Nothing in the link can be read, so nobody knows where it leads."
        "Give the link words, or its picture a description."
    }
    LinkTextIsAddress = "link-text-is-address", Problem, Advice, Structure, Links {
        "a link shows a long address instead of words: {}"
        "A long address instead of words is read aloud letter by letter."
        "Write what is to be found there."
    }
    LinkTextRepeated = "link-text-repeated", Problem, Advice, Structure, Links {
        "links of the same words lead to different places: {}"
        "Two links have the same words and lead to different places. In a list of links nobody can tell them \
         apart."
        "Say in each what is to be found there."
    }
    LinkTextVague = "link-text-vague", Problem, Warning, Structure, Links {
        "the words of a link do not say where it leads: “{}”"
        "In a list of links, words such as \"here\" say nothing (WCAG 2.2, 2.4.4)."
        "Make the words that name the target the link."
    }
    ListTyped = "list-typed", Problem, Warning, Structure, Structure {
        "a list is typed with marks at the beginning of paragraphs"
        "Paragraphs begin with typed bullets or numbers. They look like a list and are none."
        "Let --fix make a list of them."
    }
    ParagraphEmpty = "paragraph-empty", Problem, Warning, Formatting, Structure {
        "there is nothing to see in a paragraph"
        "An empty paragraph makes room. Read aloud it is a pause, and every destination shows it in another \
         height."
        "Let --fix take it out."
    }
    PictureDescribedByName = "picture-described-by-name", Problem, Warning, Structure, Access {
        "what is said of a picture is no description: “{}”"
        "What stands for the picture is the name of its file, or a word such as \"image\"."
        "Write what the picture shows and why it is there."
    }
    PictureDescriptionLong = "picture-description-long", Problem, Advice, Structure, Access {
        "what is said of a picture has {} characters"
        "What stands for the picture is so long that it should be in the text, where everybody can read it."
        "Write a short description, and the rest below the picture."
    }
    PictureFileMissing = "picture-file-missing", Problem, Error, Structure, Links {
        "there is no such picture: {}"
        "The source names a picture that is not in the folder."
        "Correct the path, or add the file. Mind capitals: a web server tells them apart."
    }
    PictureUndescribed = "picture-undescribed", Problem, Error, Structure, Access {
        "nothing says what a picture shows: {}"
        "Nothing stands for the picture. People who do not see it do not learn what it shows (WCAG 2.2, 1.1.1)."
        "Write what it shows, or mark it as decoration."
    }
    QuotesUnlike = "quotes-unlike", Problem, Warning, Formatting, Text {
        "quotation marks, dashes and the like are not spelled as the house wants them"
        "The house wants quotation marks, dashes and ellipses spelled in one way, and here they are spelled in \
         another."
        "Let --fix spell them."
    }
    SceneBreakTyped = "scene-break-typed", Problem, Warning, Formatting, Structure {
        "a change of scene is typed with signs"
        "A line of asterisks or the like parts two scenes. Read aloud it is a row of asterisks."
        "Let --fix make a thematic break of it."
    }
    SpaceBeforePunctuation = "space-before-punctuation", Problem, Warning, Formatting, Text {
        "a space stands before a comma, a period or the like"
        "A space stands before a comma, a period or the like, and the line may break there."
        "Let --fix take it out."
    }
    SpacesDoubled = "spaces-doubled", Problem, Warning, Formatting, Text {
        "spaces stand in a row"
        "Two spaces or more stand in a row. Browsers show one; other destinations show all."
        "Let --fix make one of them."
    }
    TabindexPositive = "tabindex-positive", Problem, Warning, Structure, Access {
        "an order of its own keeps the keyboard from the order of the text: {}"
        "Numbers on elements make the keyboard go through the page in another order than the text has (WCAG \
         2.2, 2.4.3)."
        "Take the numbers off, or set them to 0."
    }
    TableForLayout = "table-for-layout", Problem, Warning, Structure, Structure {
        "a table only places things on the page"
        "A table places things beside each other and holds no data. Read aloud it is a table."
        "Let --fix take the table off, and place things with a style sheet."
    }
    TableGridWrong = "table-grid-wrong", Problem, Error, Structure, Html {
        "the cells of a table do not make a grid: {}"
        "Cells overlap, reach below their rows, or leave a row or a column in which none begins."
        "Correct the spans of the cells."
    }
    TableHeadMissing = "table-head-missing", Problem, Warning, Structure, Structure {
        "no cell of a table says what its column or row is about"
        "Nothing in the table says what its columns or rows are about, so a cell read aloud means nothing (WCAG \
         2.2, 1.3.1)."
        "Make the first row, or the first column, heads."
    }
    TableRowsUneven = "table-rows-uneven", Problem, Warning, Structure, Structure {
        "the rows of a table differ in length: {}"
        "The rows have different numbers of cells, so some cells stand below the wrong head."
        "Add the missing cells, or spans."
    }
    TableTyped = "table-typed", Problem, Warning, Structure, Structure {
        "columns are made of tabs or spaces"
        "Columns are made of tabs or spaces. They fall apart on any other screen."
        "Let --fix make a table of them, and give it heads."
    }
    TextMisplaced = "text-misplaced", Problem, Error, Content, Html {
        "text stands directly in an element that may hold none: {}"
        "Text stands directly in an element that may only hold certain others, such as a list or a row."
        "Put it into an item or a cell."
    }
    TextMisread = "text-misread", Problem, Warning, Content, Text {
        "text was read in a wrong encoding before it came here: {}"
        "Two or three odd characters stand where one was: UTF-8 that some program read in another encoding."
        "Type what was meant, or convert the source anew in the right encoding."
    }
    TitleMissing = "title-missing", Problem, Warning, Structure, Structure {
        "the text has neither a title nor a heading"
        "Nothing names the text: no title in its metadata, no heading."
        "Begin with a heading, or state a title."
    }
    TopHeadingRepeated = "top-heading-repeated", Problem, Warning, Structure, Structure {
        "a second heading of the highest level: {}"
        "A page has one heading that names it. A second one of the same level hides which of the two does."
        "Make the others headings of the second level."
    }
    WordRepeated = "word-repeated", Problem, Advice, Formatting, Text {
        "a word stands twice in a row: {}"
        "A word stands twice in a row; mostly one of the two is left from an earlier sentence."
        "Take one out."
    }
}
