//! Macros: what they take, and what they become.

use super::DEEPEST_READING;
use super::front::Front;
use super::meaning::{ArgumentKind, Branches, Macro, Meaning, Parameters, Primitive};
use super::token::{Category, Located, Name, Spot, Token};
use crate::findings::Code;
use std::sync::Arc;

impl Front<'_> {
    /// The next token that is neither a macro nor something the front does.
    pub(crate) fn next(&mut self) -> Option<Located> {
        self.next_with(true)
    }

    /// The same where nothing may be done but expansion, as inside of numbers: definitions and
    /// assignments are given as they are.
    pub(super) fn next_expanded(&mut self) -> Option<Located> {
        self.next_with(false)
    }

    fn next_with(&mut self, may_assign: bool) -> Option<Located> {
        loop {
            let located = self.next_raw()?;
            let Token::Command(name) = located.token else { return Some(located) };
            match self.meaning(name) {
                Meaning::Unknown => {
                    let name = self.kept_name(name).unwrap_or(name);
                    return Some(Located { token: Token::Command(name), ..located });
                }
                Meaning::Same(other) => {
                    return Some(Located { token: Token::Command(*other), ..located });
                }
                Meaning::Character(character, category) => {
                    return Some(Located {
                        token: Token::Character(*character, *category),
                        ..located
                    });
                }
                Meaning::Macro(found) => {
                    let found = Arc::clone(found);
                    if !self.call_macro(&found, located) {
                        return Some(located);
                    }
                }
                Meaning::Primitive(primitive) => {
                    let primitive = *primitive;
                    if !may_assign && !is_expandable(primitive) {
                        return Some(located);
                    }
                    self.primitive(primitive, located);
                }
                Meaning::Register(register) => {
                    if !may_assign {
                        return Some(located);
                    }
                    let register = *register;
                    self.deeper(|front| front.assign(register));
                }
                Meaning::CharacterCode(code) => {
                    let character = char::from_u32(*code).filter(|_| may_assign);
                    let Some(character) = character else { return Some(located) };
                    let token = Token::Character(character, Category::Other);
                    return Some(Located { token, ..located });
                }
                Meaning::Tokens(_) => {
                    if !may_assign {
                        return Some(located);
                    }
                    self.deeper(|front| front.assign_tokens(name));
                }
            }
        }
    }

    /// Puts what a macro becomes before everything else. `false` where it stays as it is.
    fn call_macro(&mut self, called: &Arc<Macro>, at: Located) -> bool {
        if self.is_exhausted {
            return false;
        }
        self.expansions += 1;
        if self.expansions > self.may_expand {
            self.exhausted();
            return false;
        }
        let arguments = match &called.parameters {
            Parameters::Counted { count, optional } => {
                self.counted(*count, optional.as_deref(), at)
            }
            Parameters::Delimited { pattern, is_long } => match self.delimited(pattern, *is_long) {
                Some(arguments) => arguments,
                None => {
                    let name = self.typed(&[at]);
                    self.findings.add_about(Code::MacroMismatch, name.trim(), Some(at.spot.into()));
                    return true;
                }
            },
            Parameters::Specified(kinds) => {
                kinds.iter().map(|kind| self.specified(kind, at.spot)).collect()
            }
        };
        if !self.has_room_for(length_of(&called.body, &arguments)) {
            return true;
        }
        let mut made = self.new_list();
        for token in &called.body {
            match token {
                Token::Argument(number) => {
                    let argument = usize::from(*number).checked_sub(1);
                    made.extend(argument.and_then(|at| arguments.get(at)).into_iter().flatten());
                }
                token => made.push(Located { token: *token, spot: at.spot }),
            }
        }
        arguments.into_iter().for_each(|argument| self.give_back(argument));
        self.push(made);
        true
    }

    fn counted(&mut self, count: u8, optional: Option<&[Token]>, at: Located) -> Vec<Vec<Located>> {
        let mut arguments = Vec::new();
        if let Some(default) = optional {
            let stated = self.option();
            arguments.push(stated.unwrap_or_else(|| located_all(default, at.spot)));
        }
        while arguments.len() < usize::from(count) {
            arguments.push(self.argument());
        }
        arguments
    }

    /// Arguments between delimiters; `None` where the call does not fit.
    fn delimited(&mut self, pattern: &[Token], is_long: bool) -> Option<Vec<Vec<Located>>> {
        let mut arguments = Vec::new();
        let mut at = 0;
        while let Some(token) = pattern.get(at) {
            at += 1;
            let Token::Argument(_) = token else {
                if !self.takes(*token) {
                    return None;
                }
                continue;
            };
            let rest = pattern.get(at..).unwrap_or_default();
            let length = rest.iter().take_while(|t| !matches!(t, Token::Argument(_))).count();
            let delimiter = rest.get(..length).unwrap_or_default();
            arguments.push(match delimiter {
                [] => self.argument(),
                delimiter => self.up_to(delimiter, is_long)?,
            });
            at += length;
        }
        Some(arguments)
    }

    fn takes(&mut self, wanted: Token) -> bool {
        match self.next_raw() {
            Some(located) if same(located.token, wanted) => true,
            Some(located) => {
                self.push_one(located);
                false
            }
            None => false,
        }
    }

    /// The tokens up to a delimiter outside all groups; braces around all of them go. Where there is none
    /// before the group, the paragraph or the text ends, everything is left as it was.
    fn up_to(&mut self, delimiter: &[Token], is_long: bool) -> Option<Vec<Located>> {
        let mut tokens: Vec<Located> = Vec::new();
        let mut depth = 0_usize;
        while let Some(located) = self.next_raw() {
            tokens.push(located);
            match located.token {
                Token::Character(_, Category::Begin) => depth += 1,
                Token::Character(_, Category::End) => match depth.checked_sub(1) {
                    Some(less) => depth = less,
                    None => break,
                },
                Token::Command(Name::PARAGRAPH) if !is_long => break,
                _ => {}
            }
            let ends = depth == 0
                && tokens.len() >= delimiter.len()
                && tokens
                    .iter()
                    .rev()
                    .zip(delimiter.iter().rev())
                    .all(|(found, wanted)| same(found.token, *wanted));
            if ends {
                tokens.truncate(tokens.len() - delimiter.len());
                return Some(without_braces(tokens));
            }
        }
        // Else the macro has read what is left, as TeX would have.
        let _ = self.push_back(tokens);
        None
    }

    fn specified(&mut self, kind: &ArgumentKind, spot: Spot) -> Vec<Located> {
        match kind {
            ArgumentKind::Mandatory | ArgumentKind::Verbatim => self.argument(),
            ArgumentKind::Star(sign) => {
                let name = if self.eat(*sign) { "BooleanTrue" } else { "BooleanFalse" };
                vec![self.command(name, spot)]
            }
            ArgumentKind::Optional { open, close, default } => {
                if let Some(stated) = self.between(*open, *close) {
                    return stated;
                }
                match default {
                    Some(default) => located_all(default, spot),
                    None => vec![self.command("NoValue", spot)],
                }
            }
            ArgumentKind::Required { open, close } => {
                self.between(*open, *close).unwrap_or_default()
            }
        }
    }

    pub(super) fn command(&mut self, name: &str, spot: Spot) -> Located {
        Located { token: Token::Command(self.names.of(name)), spot }
    }

    /// All that tokens become when every macro in them is expanded.
    pub(crate) fn expanded(&mut self, tokens: Vec<Located>) -> Vec<Located> {
        let is_macro = |located: &Located| match located.token {
            Token::Command(name) => !matches!(self.meaning(name), Meaning::Unknown),
            _ => false,
        };
        if !tokens.iter().any(is_macro) {
            return tokens;
        }
        let end = Name::END_OF_EXPANSION;
        let spot = tokens.last().map(|last| last.spot).unwrap_or_default();
        let mut marked = tokens;
        marked.push(Located { token: Token::Command(end), spot });
        self.push(marked);
        let mut expanded = self.new_list();
        while let Some(located) = self.next_expanded() {
            if located.token == Token::Command(end) {
                break;
            }
            expanded.push(located);
        }
        expanded
    }

    /// Arguments of a test that takes one or both of its branches.
    pub(super) fn branch(&mut self, is_true: bool, branches: Branches) {
        let when_true = match branches {
            Branches::WhenFalse => Vec::new(),
            _ => self.argument(),
        };
        let when_false = match branches {
            Branches::WhenTrue => Vec::new(),
            _ => self.argument(),
        };
        self.push(if is_true { when_true } else { when_false });
    }

    fn is_command(&self, tokens: &[Located], wanted: &str) -> bool {
        matches!(tokens, [Located { token: Token::Command(name), .. }] if self.names.text(*name) == wanted)
    }

    /// Does what the front does itself; what it reads for that may lead here again.
    fn primitive(&mut self, primitive: Primitive, at: Located) {
        self.deeper(|front| front.perform(primitive, at));
    }

    fn deeper(&mut self, perform: impl FnOnce(&mut Self)) {
        if self.depth >= DEEPEST_READING {
            return self.exhausted();
        }
        self.depth += 1;
        perform(self);
        self.depth -= 1;
    }

    fn perform(&mut self, primitive: Primitive, at: Located) {
        match primitive {
            Primitive::Prefix => {}
            Primitive::Long => self.is_long = true,
            Primitive::Global => self.is_global = true,
            Primitive::ExpandAfter => self.expand_after(),
            Primitive::NoExpand => self.no_expand(),
            Primitive::Unexpanded => {
                let tokens = self.argument();
                self.push(tokens);
            }
            Primitive::CommandName => self.command_name(at.spot),
            Primitive::EndCommandName => {}
            Primitive::String => self.string(),
            Primitive::EndInput => self.end_input(),
            Primitive::IfStar => {
                let is_star = self.eat('*');
                self.branch(is_star, Branches::Both);
            }
            Primitive::IfNextCharacter => self.if_next_character(),
            Primitive::IfUndefined => {
                let name = self.expanded_argument();
                let is_defined = self.is_defined(&name);
                self.branch(!is_defined, Branches::Both);
            }
            Primitive::IfFileExists => {
                let name = self.expanded_argument();
                let exists = self.file(&name).is_some();
                self.branch(exists, Branches::Both);
            }
            Primitive::IfNoValue(branches) => {
                let argument = self.argument();
                let is_missing = self.is_command(&argument, "NoValue");
                self.branch(is_missing, branches);
            }
            Primitive::IfValue(branches) => {
                let argument = self.argument();
                let is_missing = self.is_command(&argument, "NoValue");
                self.branch(!is_missing, branches);
            }
            Primitive::IfBoolean(branches) => {
                let argument = self.argument();
                let is_true = self.is_command(&argument, "BooleanTrue");
                self.branch(is_true, branches);
            }
            Primitive::Uppercase(is_upper) => {
                let tokens = self.argument();
                self.push(in_case(tokens, is_upper));
            }
            Primitive::If(conditional) => self.conditional(conditional, at.spot),
            Primitive::Else | Primitive::Or => self.skip_to_end_of_if(at.spot),
            Primitive::FinishIf => self.finish_if(at.spot),
            Primitive::SetFlag(_)
            | Primitive::NewIf
            | Primitive::Let
            | Primitive::FutureLet
            | Primitive::Define { .. }
            | Primitive::NewCommand(_)
            | Primitive::DefineEnvironment
            | Primitive::DocumentCommand
            | Primitive::DocumentEnvironment
            | Primitive::AddToMacro
            | Primitive::Catcode
            | Primitive::CharacterDefinition
            | Primitive::NewStream
            | Primitive::NewTokens
            | Primitive::MakeAtLetter
            | Primitive::MakeAtOther => self.define(primitive, at),
            _ => self.number_primitive(primitive, at),
        }
    }

    /// The token behind the next one is expanded once.
    fn expand_after(&mut self) {
        let Some(first) = self.next_raw() else { return };
        self.expand_once();
        self.push_one(first);
    }

    fn expand_once(&mut self) {
        let Some(second) = self.next_raw() else { return };
        let Token::Command(name) = second.token else { return self.push_one(second) };
        match self.meaning(name) {
            Meaning::Macro(found) => {
                let found = Arc::clone(found);
                if !self.call_macro(&found, second) {
                    self.push_one(second);
                }
            }
            Meaning::Primitive(primitive) => {
                let primitive = *primitive;
                if is_expandable(primitive) && self.expansions < self.may_expand {
                    self.expansions += 1;
                    self.primitive(primitive, second);
                } else {
                    self.push_one(second);
                }
            }
            _ => self.push_one(second),
        }
    }

    /// The next token stays what it is this once.
    fn no_expand(&mut self) {
        let Some(located) = self.next_raw() else { return };
        if let Token::Command(name) = located.token
            && matches!(self.meaning(name), Meaning::Macro(_))
        {
            // It comes again as what it is called, behind a mark that lets it through.
            let text = self.names.text(name).to_string();
            let kept = self.names.of(&format!("\u{1}kept {text}"));
            return self.push_one(Located { token: Token::Command(kept), ..located });
        }
        self.push_one(located);
    }

    /// `\csname … \endcsname`.
    fn command_name(&mut self, spot: Spot) {
        let name = self.name_up_to_end();
        let command = self.command(&name, spot);
        self.push_one(command);
    }

    pub(super) fn name_up_to_end(&mut self) -> String {
        let mut name = String::new();
        let end = Name::END_OF_NAME;
        loop {
            // What ends the name is done by nobody.
            match self.peek_raw() {
                None => return name,
                Some(located) if located.token == Token::Command(end) => {
                    self.next_raw();
                    return name;
                }
                Some(_) => {}
            }
            let before = self.expansions;
            let Some(raw) = self.next_raw() else { return name };
            match raw.token {
                Token::Character(character, _) => name.push(character),
                Token::Command(_) => {
                    self.push_one(raw);
                    self.expand_once();
                    if self.expansions == before {
                        self.next_raw();
                    }
                }
                Token::Argument(_) => {}
            }
        }
    }

    fn string(&mut self) {
        let Some(located) = self.next_raw() else { return };
        let text = match located.token {
            Token::Command(name) => format!("\\{}", self.names.text(name)),
            _ => self.typed(&[located]),
        };
        self.push_text(&text, located.spot);
    }

    /// Characters that stand for themselves.
    pub(super) fn push_text(&mut self, text: &str, spot: Spot) {
        let mut tokens = self.new_list();
        tokens.extend(text.chars().map(|character| {
            let category = if character == ' ' { Category::Space } else { Category::Other };
            Located { token: Token::Character(character, category), spot }
        }));
        self.push(tokens);
    }

    fn if_next_character(&mut self) {
        let wanted = self.argument();
        let when_true = self.argument();
        let when_false = self.argument();
        self.skip_spaces();
        let next = self.peek_raw().map(|next| next.token);
        let is_it = match (wanted.first(), next) {
            (Some(wanted), Some(next)) => same(wanted.token, next),
            _ => false,
        };
        self.push(if is_it { when_true } else { when_false });
    }

    /// Whether a command means anything, to the front or to who reads behind it.
    pub(super) fn is_defined(&self, name: &str) -> bool {
        self.is_defined_here(name) || self.kept.contains(&name) || (self.is_known_beyond)(name)
    }

    /// Whether a command means anything to the front.
    pub(super) fn is_defined_here(&self, name: &str) -> bool {
        let known = self.names.known(name).map(|name| self.meaning(name));
        matches!(known, Some(meaning) if !matches!(meaning, Meaning::Unknown))
    }

    /// The name of a command that `\noexpand` let through.
    fn kept_name(&mut self, name: Name) -> Option<Name> {
        let plain = self.names.text(name).strip_prefix("\u{1}kept ")?.to_string();
        Some(self.names.of(&plain))
    }
}

fn is_expandable(primitive: Primitive) -> bool {
    matches!(
        primitive,
        Primitive::ExpandAfter
            | Primitive::CommandName
            | Primitive::String
            | Primitive::Number
            | Primitive::RomanNumber
            | Primitive::The
            | Primitive::If(_)
            | Primitive::Else
            | Primitive::Or
            | Primitive::FinishIf
            | Primitive::CountIn(_)
            | Primitive::Value
            | Primitive::IfUndefined
            | Primitive::IfNoValue(_)
            | Primitive::IfValue(_)
            | Primitive::IfBoolean(_)
            | Primitive::IfStar
            | Primitive::IfNextCharacter
            | Primitive::NoExpand
            | Primitive::Unexpanded
            | Primitive::Uppercase(_)
            | Primitive::EndCommandName
    )
}

/// Whether two tokens are the same for a macro's parameters: spaces and line ends are.
pub(super) fn same(one: Token, other: Token) -> bool {
    match (one, other) {
        (Token::Character(_, Category::Space), Token::Character(_, Category::Space)) => true,
        (Token::Character(one, _), Token::Character(other, _)) => one == other,
        (one, other) => one == other,
    }
}

pub(super) fn located_all(tokens: &[Token], spot: Spot) -> Vec<Located> {
    tokens.iter().map(|token| Located { token: *token, spot }).collect()
}

/// A group that is all there is goes without its braces.
fn without_braces(tokens: Vec<Located>) -> Vec<Located> {
    let is = |located: Option<&Located>, wanted: Category| matches!(located.map(|l| l.token), Some(Token::Character(_, found)) if found == wanted);
    if tokens.len() < 2 || !is(tokens.first(), Category::Begin) || !is(tokens.last(), Category::End)
    {
        return tokens;
    }
    let mut depth = 0_usize;
    for (at, located) in tokens.iter().enumerate() {
        match located.token {
            Token::Character(_, Category::Begin) => depth += 1,
            Token::Character(_, Category::End) => depth = depth.saturating_sub(1),
            _ => {}
        }
        if depth == 0 && at + 1 < tokens.len() {
            return tokens;
        }
    }
    tokens.get(1..tokens.len() - 1).unwrap_or_default().to_vec()
}

fn in_case(tokens: Vec<Located>, is_upper: bool) -> Vec<Located> {
    let mut changed = Vec::with_capacity(tokens.len());
    for located in tokens {
        match located.token {
            Token::Character(character, category @ (Category::Letter | Category::Other)) => {
                let push = |character| {
                    changed
                        .push(Located { token: Token::Character(character, category), ..located });
                };
                match is_upper {
                    true => character.to_uppercase().for_each(push),
                    false => character.to_lowercase().for_each(push),
                }
            }
            _ => changed.push(located),
        }
    }
    changed
}

/// How many tokens a body has with its arguments.
fn length_of(body: &[Token], arguments: &[Vec<Located>]) -> usize {
    let of_argument = |number: u8| {
        let argument = usize::from(number).checked_sub(1).and_then(|at| arguments.get(at));
        argument.map_or(0, Vec::len)
    };
    let length = |token: &Token| match token {
        Token::Argument(number) => of_argument(*number),
        _ => 1,
    };
    body.iter().map(length).sum()
}
