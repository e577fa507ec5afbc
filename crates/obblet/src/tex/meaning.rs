//! What commands mean to the front.

use super::registers::RegisterId;
use super::token::{Category, Located, Name, Token};
use std::sync::Arc;

/// What a command means.
#[derive(Debug, Clone, Default)]
pub(super) enum Meaning {
    /// Nothing to the front: the reader behind it may know it.
    #[default]
    Unknown,
    /// A macro.
    Macro(Arc<Macro>),
    /// Something the front does itself.
    Primitive(Primitive),
    /// The same as another command, which the reader knows.
    Same(Name),
    /// A character, as `\let` makes them.
    Character(char, Category),
    /// A number or length.
    Register(RegisterId),
    /// The number of a character, as `\chardef` names it.
    CharacterCode(u32),
    /// Tokens that `\newtoks` has a name for.
    Tokens(Arc<Vec<Located>>),
}

/// A macro.
#[derive(Debug, PartialEq, Eq)]
pub(super) struct Macro {
    pub(super) parameters: Parameters,
    pub(super) body: Vec<Token>,
}

/// What a macro takes.
#[derive(Debug, PartialEq, Eq)]
pub(super) enum Parameters {
    /// So many arguments, of which the first may be left out and is this then.
    Counted { count: u8, optional: Option<Vec<Token>> },
    /// Arguments between the tokens that delimit them; only long ones may hold the end of a paragraph.
    Delimited { pattern: Vec<Token>, is_long: bool },
    /// Arguments of stated kinds.
    Specified(Vec<ArgumentKind>),
}

impl Parameters {
    /// Whether a macro takes anything at all.
    pub(super) fn takes_any(&self) -> bool {
        match self {
            Self::Counted { count, optional } => *count > 0 || optional.is_some(),
            Self::Delimited { pattern, .. } => !pattern.is_empty(),
            Self::Specified(kinds) => !kinds.is_empty(),
        }
    }
}

/// The kinds of arguments of `\NewDocumentCommand`.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum ArgumentKind {
    Mandatory,
    Star(char),
    Optional { open: char, close: char, default: Option<Vec<Token>> },
    Required { open: char, close: char },
    Verbatim,
}

/// What the front does itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Primitive {
    AddToCounter,
    AddToLength,
    AddToMacro,
    Advance,
    /// The height, width or depth of a box.
    BoxSize,
    Scale {
        divides: bool,
    },
    Catcode,
    CharacterDefinition,
    CommandName,
    CountIn(NumberForm),
    DefineEnvironment,
    Define {
        is_global: bool,
        is_expanded: bool,
    },
    DocumentCommand,
    DocumentEnvironment,
    Else,
    EndCommandName,
    EndInput,
    ExpandAfter,
    FinishIf,
    Global,
    If(Conditional),
    IfBoolean(Branches),
    IfFileExists,
    IfNextCharacter,
    IfNoValue(Branches),
    IfStar,
    IfUndefined,
    IfValue(Branches),
    Let,
    Long,
    FutureLet,
    MakeAtLetter,
    MakeAtOther,
    NewCommand(Redefinition),
    NewCount,
    NewCounter,
    NewStream,
    NewTokens,
    NewDimension,
    NewIf,
    NoExpand,
    Number,
    /// A register that has a number and no name.
    NumberedRegister {
        is_length: bool,
    },
    Or,
    Prefix,
    RomanNumber,
    SetCounter,
    SetFlag(bool),
    SetLength,
    StepCounter,
    String,
    The,
    Unexpanded,
    Uppercase(bool),
    Value,
}

/// Which of its arguments a test takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Branches {
    Both,
    WhenTrue,
    WhenFalse,
}

/// What becomes of a command that is there already.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Redefinition {
    Always,
    OnlyNew,
}

/// How numbers are spelled.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum NumberForm {
    Arabic,
    LowerRoman,
    UpperRoman,
    LowerLetter,
    UpperLetter,
    Sign,
}

/// The tests of `\if…`.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Conditional {
    Case,
    Character,
    CategoryOf,
    CommandDefined,
    Defined,
    Dimension,
    False,
    Number,
    Odd,
    Same,
    True,
}

/// Everything the front does itself, by name. Sorted.
pub(super) const PRIMITIVES: &[(&str, Primitive)] = &[
    ("@ifnextchar", Primitive::IfNextCharacter),
    ("@ifstar", Primitive::IfStar),
    ("@ifundefined", Primitive::IfUndefined),
    ("Alph", Primitive::CountIn(NumberForm::UpperLetter)),
    ("DeclareDocumentCommand", Primitive::DocumentCommand),
    ("DeclareDocumentEnvironment", Primitive::DocumentEnvironment),
    ("DeclareExpandableDocumentCommand", Primitive::DocumentCommand),
    ("DeclareRobustCommand", Primitive::NewCommand(Redefinition::Always)),
    ("IfBooleanF", Primitive::IfBoolean(Branches::WhenFalse)),
    ("IfBooleanT", Primitive::IfBoolean(Branches::WhenTrue)),
    ("IfBooleanTF", Primitive::IfBoolean(Branches::Both)),
    ("IfFileExists", Primitive::IfFileExists),
    ("IfNoValueF", Primitive::IfNoValue(Branches::WhenFalse)),
    ("IfNoValueT", Primitive::IfNoValue(Branches::WhenTrue)),
    ("IfNoValueTF", Primitive::IfNoValue(Branches::Both)),
    ("IfValueF", Primitive::IfValue(Branches::WhenFalse)),
    ("IfValueT", Primitive::IfValue(Branches::WhenTrue)),
    ("IfValueTF", Primitive::IfValue(Branches::Both)),
    ("MakeLowercase", Primitive::Uppercase(false)),
    ("MakeUppercase", Primitive::Uppercase(true)),
    ("NewDocumentCommand", Primitive::DocumentCommand),
    ("NewDocumentEnvironment", Primitive::DocumentEnvironment),
    ("NewExpandableDocumentCommand", Primitive::DocumentCommand),
    ("ProvideDocumentCommand", Primitive::DocumentCommand),
    ("RenewDocumentCommand", Primitive::DocumentCommand),
    ("RenewDocumentEnvironment", Primitive::DocumentEnvironment),
    ("Roman", Primitive::CountIn(NumberForm::UpperRoman)),
    ("addtocounter", Primitive::AddToCounter),
    ("addtolength", Primitive::AddToLength),
    ("advance", Primitive::Advance),
    ("alph", Primitive::CountIn(NumberForm::LowerLetter)),
    ("arabic", Primitive::CountIn(NumberForm::Arabic)),
    ("catcode", Primitive::Catcode),
    ("chardef", Primitive::CharacterDefinition),
    ("count", Primitive::NumberedRegister { is_length: false }),
    ("csname", Primitive::CommandName),
    ("def", Primitive::Define { is_global: false, is_expanded: false }),
    ("dimen", Primitive::NumberedRegister { is_length: true }),
    ("divide", Primitive::Scale { divides: true }),
    ("dp", Primitive::BoxSize),
    ("edef", Primitive::Define { is_global: false, is_expanded: true }),
    ("else", Primitive::Else),
    ("endcsname", Primitive::EndCommandName),
    ("endinput", Primitive::EndInput),
    ("expandafter", Primitive::ExpandAfter),
    ("fi", Primitive::FinishIf),
    ("fnsymbol", Primitive::CountIn(NumberForm::Sign)),
    ("futurelet", Primitive::FutureLet),
    ("g@addto@macro", Primitive::AddToMacro),
    ("gdef", Primitive::Define { is_global: true, is_expanded: false }),
    ("global", Primitive::Global),
    ("ht", Primitive::BoxSize),
    ("if", Primitive::If(Conditional::Character)),
    ("ifcase", Primitive::If(Conditional::Case)),
    ("ifcat", Primitive::If(Conditional::CategoryOf)),
    ("ifcsname", Primitive::If(Conditional::CommandDefined)),
    ("ifdefined", Primitive::If(Conditional::Defined)),
    ("ifdim", Primitive::If(Conditional::Dimension)),
    ("iffalse", Primitive::If(Conditional::False)),
    ("ifnum", Primitive::If(Conditional::Number)),
    ("ifodd", Primitive::If(Conditional::Odd)),
    ("iftrue", Primitive::If(Conditional::True)),
    ("ifx", Primitive::If(Conditional::Same)),
    ("let", Primitive::Let),
    ("long", Primitive::Long),
    ("lowercase", Primitive::Uppercase(false)),
    ("makeatletter", Primitive::MakeAtLetter),
    ("makeatother", Primitive::MakeAtOther),
    ("mathchardef", Primitive::CharacterDefinition),
    ("multiply", Primitive::Scale { divides: false }),
    ("newbox", Primitive::NewStream),
    ("newcommand", Primitive::NewCommand(Redefinition::Always)),
    ("newcount", Primitive::NewCount),
    ("newcounter", Primitive::NewCounter),
    ("newdimen", Primitive::NewDimension),
    ("newenvironment", Primitive::DefineEnvironment),
    ("newif", Primitive::NewIf),
    ("newlength", Primitive::NewDimension),
    ("newread", Primitive::NewStream),
    ("newrobustcmd", Primitive::NewCommand(Redefinition::Always)),
    ("newsavebox", Primitive::NewStream),
    ("newskip", Primitive::NewDimension),
    ("newtoks", Primitive::NewTokens),
    ("newwrite", Primitive::NewStream),
    ("noexpand", Primitive::NoExpand),
    ("number", Primitive::Number),
    ("or", Primitive::Or),
    ("outer", Primitive::Prefix),
    ("protected", Primitive::Prefix),
    ("providecommand", Primitive::NewCommand(Redefinition::OnlyNew)),
    ("providerobustcmd", Primitive::NewCommand(Redefinition::OnlyNew)),
    ("renewcommand", Primitive::NewCommand(Redefinition::Always)),
    ("renewenvironment", Primitive::DefineEnvironment),
    ("renewrobustcmd", Primitive::NewCommand(Redefinition::Always)),
    ("roman", Primitive::CountIn(NumberForm::LowerRoman)),
    ("romannumeral", Primitive::RomanNumber),
    ("setcounter", Primitive::SetCounter),
    ("setlength", Primitive::SetLength),
    ("skip", Primitive::NumberedRegister { is_length: true }),
    ("stepcounter", Primitive::StepCounter),
    ("string", Primitive::String),
    ("the", Primitive::The),
    ("unexpanded", Primitive::Unexpanded),
    ("uppercase", Primitive::Uppercase(true)),
    ("value", Primitive::Value),
    ("wd", Primitive::BoxSize),
    ("xdef", Primitive::Define { is_global: true, is_expanded: true }),
];
