//! What commands do.

use super::layout::COMMANDS;
use super::references::References;
use super::sheet::SpanStyle;
use super::{Reader, Stop, accents};
use crate::document::{
    Attributes, BlockKind, BreakKind, CitationForm, ContentsKind, ContentsList, Formatted,
    Formatting, Inline, InlineCode, Ruby, plain_text,
};
use crate::findings::Code;
use crate::tex::{Name, Spot, Token};

/// What a command does.
#[derive(Debug, Clone, Copy)]
pub(super) enum Action {
    Address,
    Affiliation,
    And,
    Angle,
    Appendix,
    Author,
    BeamerPause,
    Begin,
    BibItem,
    BibliographyFile,
    Box,
    Caption,
    Centering,
    CheckBox(bool),
    Chemistry,
    Cite(CitationForm),
    /// The name of a command or an environment, which is shown.
    CommandName,
    CloseFormula,
    CodeFile,
    CodeLanguage,
    CodeSettings,
    Colour,
    ColourBox,
    ColumnBreak,
    Date,
    Declare(Formatting),
    DeclarePlain,
    DeclareTypewriter,
    DefineColour,
    DisplayFormula,
    DocumentClass,
    Drawing,
    DropLine,
    Email,
    End,
    EndFoot,
    EndHead,
    Endnote,
    EnsureMath,
    Fill,
    Footnote,
    FootnoteMark,
    FootnoteText,
    ForeignLanguage,
    Format(Formatting),
    FrameSubtitle,
    FrameTitle,
    Gloss,
    GraphicsPath,
    GroupBegin,
    GroupEnd,
    HorizontalRule,
    HorizontalSpace,
    HyperLink,
    IfThenElse,
    Ignored,
    Index,
    InlineFormula,
    Input,
    Item,
    KeepBox,
    Keywords,
    Label,
    Language,
    /// Only about the layout of paper; takes these arguments.
    Layout(&'static str),
    Leaders,
    Line,
    LineBreak,
    Link,
    MakeTitle,
    MarginNote,
    MathCommand,
    MathOperator,
    MintInline,
    MultiColumn,
    MultiRow,
    NamedLanguage,
    NewAcronym,
    NewGloss,
    NewTheorem,
    Number,
    NumberList,
    NumberRange,
    NumberWithin(bool),
    Opening,
    Overlay,
    PageBreak,
    ParBox,
    ParagraphShape,
    Paragraph,
    PartialLine,
    Phantom,
    Picture,
    /// A word that stands for what is to be put there, between these signs.
    Placeholder(&'static str, &'static str),
    PrintBibliography,
    PrintIndex,
    Quantity,
    QuantityRange,
    RefStep,
    Reference(References),
    ReferenceRange(bool),
    Rule,
    AccentByNumber,
    AnyCharacter,
    Discretionary,
    FontFile,
    TextSign,
    Abbreviation,
    InlineCode,
    Reading,
    ScaleBox,
    SecondArgument,
    Section(i8),
    Setup,
    ShiftedBox,
    ShowBox {
        is_kept: bool,
    },
    /// A font size in hundredths of a point.
    Size(u16),
    SubCaption,
    SubCaptionBox,
    SubFloat,
    SubfigureCommand,
    Subtitle,
    Symbol,
    TabStop,
    TableNote,
    TableOfContents(ContentsKind),
    Target,
    TexOrPdf,
    TextColour,
    Thanks,
    TheoremStyle,
    Title,
    Today,
    Todo,
    Typewriter,
    Unit,
    UsePackage,
    Verbatim,
    VerbatimBody,
    NewVerbatim,
    ShortVerb(bool),
}

/// From this width on, in scaled points, room between letters parts words.
const WIDTH_OF_SPACE: i64 = 2 << 16;

/// How many lines the shape of a paragraph may have.
const SHAPED_LINES: i64 = 100;

/// What a command's name was found to be.
#[derive(Debug, Clone, Copy)]
pub(super) enum Handler {
    Action(Action),
    Accent(char),
    Symbol(&'static str),
    Unknown,
}

impl Reader<'_> {
    /// Does what a command says.
    pub(super) fn command(&mut self, name: Name, spot: Spot) -> Option<Stop> {
        let handler = match self.handlers.get(name.index()) {
            Some(Some(handler)) => *handler,
            _ => self.find_handler(name),
        };
        match handler {
            Handler::Action(action) => return self.act(action, name, spot),
            Handler::Accent(mark) => self.accent(mark),
            Handler::Symbol(shown) => {
                if self.is_body {
                    self.sheet.mark_place();
                    self.sheet.text.push_str(shown);
                }
            }
            Handler::Unknown => return self.unknown_command(name, spot),
        }
        None
    }

    fn find_handler(&mut self, name: Name) -> Handler {
        let handler = handler(self.front.names.text(name));
        if self.handlers.len() <= name.index() {
            self.handlers.resize(name.index() + 1, None);
        }
        if let Some(place) = self.handlers.get_mut(name.index()) {
            *place = Some(handler);
        }
        handler
    }

    /// `\cs{name}` and `\cmd\name`: the name as it is typed.
    fn command_name(&mut self, name: Name) {
        let is_without_sign = self.front.names.text(name) == "cs";
        let typed = self.front.argument_text();
        let sign = if is_without_sign { "\\" } else { "" };
        self.sheet.push(crate::document::build::code(format!("{sign}{typed}")));
    }

    /// `\meta{name}` and `\marg{name}`: what documentation writes for an argument.
    fn placeholder(&mut self, open: &str, close: &str) {
        self.sheet.mark_place();
        self.sheet.text.push_str(open);
        self.sheet.text.push('⟨');
        let content = self.inline_argument();
        self.push_formatted(Formatting::Emphasis, content);
        self.sheet.text.push('⟩');
        self.sheet.text.push_str(close);
    }

    /// A command that nobody knows: what its arguments hold is read as it comes.
    fn unknown_command(&mut self, name: Name, spot: Spot) -> Option<Stop> {
        let text = self.front.names.text(name).to_string();
        if let Some(active) = text.strip_prefix('\u{1}') {
            if !self.is_body {
                return None;
            }
            match active {
                sign if self.is_short_verb(sign) => {
                    let sign = sign.to_string();
                    self.short_code(&sign);
                }
                "~" => self.sheet.text.push('\u{a0}'),
                other => self.sheet.text.push_str(other),
            }
            return None;
        }
        if text.starts_with("end") && text.len() > 3 && !self.is_body {
            return None;
        }
        if self.is_body {
            // Environments are made of others by the commands that begin and end them.
            if is_called(&text) && !self.open_macros.is_empty() {
                self.open_environment(&text, spot);
                return None;
            }
            let ended = text.strip_prefix("end").filter(|name| is_called(name));
            if ended.is_some() && self.open.last().map(|open| open.as_str()) == ended {
                self.ended = ended.map(Into::into);
                return Some(Stop::Environment);
            }
        }
        let code = if self.is_body { Code::CommandUnknown } else { Code::CommandSkipped };
        self.findings.count(code, &format!("\\{text}"), Some(spot.into()));
        if self.is_body {
            // Options say how, and would be read as text.
            if matches!(self.front.peek_raw().map(|t| t.token), Some(Token::Character('[', _))) {
                self.front.option();
            }
        } else {
            self.skip_arguments();
        }
        None
    }

    /// Before the body begins, everything behind an unknown command belongs to it.
    fn skip_arguments(&mut self) {
        loop {
            match self.front.peek_raw().map(|next| next.token) {
                Some(Token::Character('[', _)) => {
                    self.front.option();
                }
                Some(Token::Character('{', _)) => {
                    self.front.argument();
                }
                _ => return,
            }
        }
    }

    /// The arguments that only the layout of paper is about.
    fn skip_layout(&mut self, arguments: &str) {
        for kind in arguments.chars() {
            match kind {
                's' => {
                    self.front.star();
                }
                'o' => {
                    self.front.option();
                }
                'n' => {
                    self.front.number();
                }
                'k' => {
                    self.number_or_command();
                }
                'g' => {
                    self.front.glue();
                }
                '=' => self.front.eat_equals(),
                'f' => self.front.skip_file_name(),
                'r' => self.skip_rule_size(),
                _ => {
                    self.front.argument();
                }
            }
        }
    }

    fn act(&mut self, action: Action, name: Name, spot: Spot) -> Option<Stop> {
        match action {
            Action::Begin => return self.begin(spot),
            Action::End => return self.end(),
            Action::Item if self.sheet.is_list => return Some(Stop::Item),
            Action::Item => self.stray("\\item", spot),
            Action::LineBreak => return self.line_break(name),
            Action::Paragraph => self.sheet.end_paragraph(),
            Action::GroupBegin => {
                self.front.open_group();
                self.sheet.open_group();
            }
            Action::GroupEnd => {
                if self.sheet.close_group() {
                    self.front.close_group();
                }
            }
            Action::Format(format) => self.format(format),
            Action::Declare(format) => self.declare(format, name),
            Action::DeclarePlain => self.sheet.close_own_spans(),
            Action::Typewriter => self.typewriter(),
            Action::DeclareTypewriter => self.sheet.open_span(SpanStyle::Code),
            Action::Size(size) => self.size(size),
            Action::Colour | Action::TextColour | Action::ColourBox | Action::DefineColour => {
                self.colour_command(action, name);
            }
            Action::Layout(arguments) => {
                let what = format!("\\{}", self.front.names.text(name));
                self.layout(&what, spot);
                self.skip_layout(arguments);
            }
            Action::Ignored | Action::BeamerPause => {}
            Action::Fill => self.sheet.space(false),
            Action::HorizontalSpace => self.horizontal_space(name),
            Action::Centering => self.centre_float(spot),
            Action::Phantom => {
                self.front.argument();
                self.layout("\\phantom", spot);
            }
            Action::PageBreak => self.page_break(BreakKind::Page),
            Action::ColumnBreak => self.page_break(BreakKind::Column),
            Action::Rule => {
                self.skip_rule_size();
                self.sheet.push_block(BlockKind::ThematicBreak.into());
            }
            Action::HorizontalRule => self.rule(spot),
            Action::Section(level) => self.section(level, name, spot),
            Action::Appendix => self.appendix(),
            Action::FrameTitle | Action::FrameSubtitle => self.frame_title(spot),
            Action::Title
            | Action::Subtitle
            | Action::Author
            | Action::And
            | Action::Date
            | Action::MakeTitle
            | Action::Thanks
            | Action::Affiliation
            | Action::Email
            | Action::Keywords
            | Action::Today
            | Action::Opening => self.title_command(action, name, spot),
            Action::Caption
            | Action::SubCaption
            | Action::SubCaptionBox
            | Action::SubFloat
            | Action::SubfigureCommand => self.caption_command(action, spot),
            Action::Label => self.label(),
            Action::Reference(kind) => self.reference(kind),
            Action::ReferenceRange(is_capital) => self.reference_range(is_capital),
            Action::RefStep => {
                let counter = self.front.expanded_argument();
                self.step(&counter, "");
            }
            Action::NumberWithin(is_within) => self.number_within(is_within),
            Action::Link => self.link(),
            Action::Address => self.address(),
            Action::HyperLink => self.hyper_link(name),
            Action::Target => self.target(),
            Action::Footnote
            | Action::Endnote
            | Action::FootnoteMark
            | Action::FootnoteText
            | Action::MarginNote
            | Action::Todo => self.note_command(action, spot),
            Action::Picture => self.picture(spot),
            Action::GraphicsPath => self.graphics_path(),
            Action::Cite(form) => self.cite(form, name),
            Action::BibliographyFile => self.bibliography_file(name),
            Action::PrintBibliography => {
                self.front.option();
                self.sheet.push_block(BlockKind::Bibliography.into());
            }
            Action::BibItem if self.sheet.is_list => return Some(Stop::Item),
            Action::BibItem => self.stray("\\bibitem", spot),
            Action::TableOfContents(kind) => {
                let contents = ContentsList { kind, depth: 0 };
                self.sheet.push_block(BlockKind::Contents(Box::new(contents)).into());
            }
            Action::PrintIndex => self.layout("a list made by another program", spot),
            Action::MultiColumn | Action::MultiRow => self.stray("\\multicolumn", spot),
            Action::Line => self.skip_line_options(name),
            Action::PartialLine => {
                self.front.between('(', ')');
                self.front.argument();
            }
            Action::EndHead | Action::EndFoot => self.stray("\\endhead", spot),
            Action::TableNote => {
                let mark = self.inline_argument();
                self.push_formatted(Formatting::Superscript, mark);
            }
            Action::VerbatimBody => self.verbatim_body(spot),
            Action::NewVerbatim => self.new_verbatim(name),
            Action::ShortVerb(begins) => self.short_verb(begins),
            Action::Verbatim
            | Action::MintInline
            | Action::CodeFile
            | Action::CodeLanguage
            | Action::CodeSettings => {
                self.code_command(action, spot);
            }
            Action::InlineFormula => self.formula_until("\\)", spot),
            Action::DisplayFormula => self.display_until("\\]", spot),
            Action::CloseFormula => {
                self.unopened(if self.front.names.text(name) == "]" { "\\]" } else { "\\)" }, spot);
            }
            Action::EnsureMath => self.ensured_formula(),
            Action::Chemistry => self.chemistry(),
            Action::MathCommand => self.lone_math(name),
            Action::MathOperator => self.math_operator(),
            Action::DocumentClass => self.document_class(),
            Action::UsePackage => self.use_package(spot),
            Action::Setup => self.setup(),
            Action::Input => self.input(name, spot),
            Action::NewTheorem => self.new_theorem(),
            Action::TheoremStyle => self.theorem_style(),
            Action::Language | Action::ForeignLanguage | Action::NamedLanguage => {
                self.language_command(action, name);
            }
            Action::Index => {
                self.front.option();
                self.front.argument();
                self.layout("\\index", spot);
            }
            Action::Gloss | Action::NewGloss | Action::NewAcronym => {
                self.gloss_command(action, name)
            }
            Action::Quantity
            | Action::Number
            | Action::Unit
            | Action::Angle
            | Action::NumberRange
            | Action::QuantityRange
            | Action::NumberList => self.unit_command(action),
            Action::Symbol => self.symbol(name, spot),
            Action::AccentByNumber => self.accent_by_number(),
            Action::CommandName => self.command_name(name),
            Action::Placeholder(open, close) => self.placeholder(open, close),
            Action::TabStop => self.sheet.space(false),
            Action::DropLine => self.sheet.drop_line(),
            Action::ParagraphShape => {
                self.front.eat_equals();
                for _ in 0..self.front.number().min(SHAPED_LINES) * 2 {
                    self.front.dimension();
                }
                self.layout("\\parshape", spot);
            }
            Action::Discretionary => self.discretionary(),
            Action::FontFile => self.front.name_font(),
            Action::Box
            | Action::KeepBox
            | Action::Leaders
            | Action::ShiftedBox
            | Action::ShowBox { .. } => self.box_command(action, name, spot),
            Action::ParBox => self.par_box(spot),
            Action::SecondArgument => self.scaled(2),
            Action::ScaleBox => self.scaled(1),
            Action::Drawing => self.inline_drawing(spot),
            Action::TexOrPdf => {
                let shown = self.front.argument();
                self.front.argument();
                self.front.push(shown);
            }
            Action::IfThenElse => self.if_then_else(),
            Action::InlineCode => {
                let language = self.front.argument_text();
                let text = plain_text(&self.inline_argument());
                let mut attributes = Attributes::NONE;
                attributes.edit().classes.push(language.into());
                let code = InlineCode { text: text.into(), attributes };
                self.sheet.mark_place();
                self.sheet.push(Inline::Code(Box::new(code)));
            }
            Action::Abbreviation => self.abbreviation(),
            Action::Reading => {
                let base = self.inline_argument();
                let reading = self.inline_argument();
                self.sheet.push(Inline::Ruby(Box::new(Ruby { base, reading })));
            }
            Action::TextSign => {
                let sign = self.front.argument_text();
                let known = crate::math::symbol(sign.trim_start_matches('\\'));
                self.sheet.mark_place();
                if let Some((character, _)) = known {
                    self.sheet.text.push(character);
                }
            }
            Action::AnyCharacter => {
                let content = self.inline_argument();
                self.sheet.extend(content);
            }
            Action::CheckBox(checked) => self.sheet.push(Inline::CheckBox(checked)),
            Action::Overlay => {
                self.front.between('<', '>');
            }
        }
        None
    }

    fn stray(&mut self, what: &str, spot: Spot) {
        self.findings.add_about(Code::GroupUnopened, what, Some(spot.into()));
    }

    fn line_break(&mut self, name: Name) -> Option<Stop> {
        let is_new_line = self.front.names.text(name) == "newline";
        if is_new_line {
            self.sheet.hard_break();
            return None;
        }
        self.front.star();
        if self.sheet.is_cell {
            // Room behind a row is in brackets right behind it.
            self.front.option();
            return Some(Stop::Row);
        }
        self.front.option();
        self.sheet.hard_break();
        None
    }

    fn page_break(&mut self, kind: BreakKind) {
        self.front.option();
        self.sheet.push_block(BlockKind::Break(kind).into());
    }

    /// A rule across the text is a thematic break; any other is a drawing.
    fn rule(&mut self, spot: Spot) {
        self.front.option();
        let width = self.front.argument_text();
        self.front.argument();
        let is_wide = width.contains("width") || width.contains("hsize");
        if is_wide && self.sheet.is_line_empty() {
            return self.sheet.push_block(BlockKind::ThematicBreak.into());
        }
        self.layout("\\rule", spot);
    }

    fn horizontal_space(&mut self, name: Name) {
        self.front.star();
        match self.front.names.text(name) {
            "hspace" => {
                let width = self.front.argument_text();
                if !width.starts_with('-') && !width.starts_with('0') {
                    self.sheet.space(false);
                }
            }
            primitive => {
                let stretches = matches!(primitive, "hskip" | "hglue");
                let width = match stretches {
                    true => self.front.glue(),
                    false => self.front.dimension(),
                };
                if width >= WIDTH_OF_SPACE {
                    self.sheet.space(false);
                }
            }
        }
    }

    pub(super) fn push_formatted(&mut self, format: Formatting, content: Vec<Inline>) {
        if content.is_empty() {
            return;
        }
        let attributes = crate::document::Attributes::NONE;
        let formatted = Formatted { format, attributes, content };
        self.sheet.mark_place();
        self.sheet.push(Inline::Formatted(Box::new(formatted)));
    }

    fn abbreviation(&mut self) {
        let content = self.inline_argument();
        let title = plain_text(&self.inline_argument());
        let mut attributes = Attributes::NONE;
        if !title.is_empty() {
            attributes.edit().pairs.push(("title".into(), title.into()));
        }
        let format = Formatting::Abbreviation;
        self.sheet.push(Inline::Formatted(Box::new(Formatted { format, attributes, content })));
    }

    fn if_then_else(&mut self) {
        let test = self.front.argument();
        let (when_true, when_false) = (self.front.argument(), self.front.argument());
        let is_true = self.holds(test);
        self.front.push(if is_true { when_true } else { when_false });
    }

    /// A test of `\ifthenelse`: numbers, texts, flags and switches.
    fn holds(&mut self, test: Vec<crate::tex::Located>) -> bool {
        let tokens = self.front.expanded(test);
        let text = self.front.typed(&tokens).trim().to_string();
        let arguments = |text: &str| -> Vec<String> {
            text.split(['{', '}']).map(|part| part.trim().to_string()).collect()
        };
        if let Some(rest) = text.strip_prefix(r"\equal") {
            let parts = arguments(rest);
            return parts.get(1) == parts.get(3);
        }
        if let Some(at) = text.find(['<', '>', '=']) {
            let number = |text: &str| text.trim().parse::<f64>().unwrap_or(0.0);
            let (left, right) = text.split_at(at);
            let (left, right_number) = (number(left), number(right.get(1..).unwrap_or_default()));
            return match right.chars().next() {
                Some('<') => left < right_number,
                Some('>') => left > right_number,
                _ => (left - right_number).abs() < f64::EPSILON,
            };
        }
        if let Some(rest) = text.strip_prefix(r"\isodd") {
            let digits: String = rest.chars().filter(char::is_ascii_digit).collect();
            return digits.parse::<i64>().unwrap_or(0) % 2 == 1;
        }
        false
    }
}

/// Whether an environment of this name is begun by its command, too: `\list` … `\endlist`.
fn is_called(name: &str) -> bool {
    const CALLED: [&str; 17] = [
        "center",
        "description",
        "enumerate",
        "figure",
        "flushleft",
        "flushright",
        "itemize",
        "list",
        "minipage",
        "quotation",
        "quote",
        "tabbing",
        "table",
        "tabular",
        "thebibliography",
        "trivlist",
        "verse",
    ];
    CALLED.contains(&name)
}

/// Whether a command is known by this name.
pub(super) fn is_known(name: &str) -> bool {
    !matches!(handler(name), Handler::Unknown)
}

fn handler(name: &str) -> Handler {
    if let Some(mark) = accents::mark(name) {
        return Handler::Accent(mark);
    }
    if let Some(shown) = accents::symbol(name) {
        return Handler::Symbol(shown);
    }
    let found = COMMANDS.binary_search_by_key(&name, |(known, _)| known).ok();
    match found.and_then(|at| COMMANDS.get(at)) {
        Some((_, action)) => Handler::Action(*action),
        None => Handler::Unknown,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_table_is_sorted() {
        assert!(COMMANDS.is_sorted_by_key(|(name, _)| *name));
    }
}
