//! Definitions: `\def` and its kin, `\newcommand`, environments, commands with stated arguments.

use super::front::Front;
use super::meaning::{
    ArgumentKind, Conditional, Macro, Meaning, Parameters, Primitive, Redefinition,
};
use super::token::{Category, Located, Name, Token};
use crate::findings::Code;
use compact_str::CompactString;
use std::sync::Arc;

impl Front<'_> {
    pub(super) fn define(&mut self, primitive: Primitive, at: Located) {
        let is_global = std::mem::take(&mut self.is_global);
        match primitive {
            Primitive::Define { is_global: global, is_expanded } => {
                self.definition(is_global || global, is_expanded);
            }
            Primitive::Let => self.let_be(is_global),
            Primitive::FutureLet => self.let_be_future(is_global),
            Primitive::NewCommand(redefinition) => self.new_command(redefinition),
            Primitive::DefineEnvironment => self.new_environment(),
            Primitive::DocumentCommand => self.document_command(),
            Primitive::DocumentEnvironment => self.document_environment(),
            Primitive::AddToMacro => self.add_to_macro(),
            Primitive::NewIf => self.new_if(),
            Primitive::SetFlag(is_true) => self.set_flag(at, is_true, is_global),
            Primitive::Catcode => self.change_category(),
            Primitive::CharacterDefinition => self.define_character(is_global),
            Primitive::NewStream => self.new_stream(),
            Primitive::NewTokens => self.new_tokens(),
            Primitive::MakeAtLetter => self.set_category('@', Category::Letter),
            Primitive::MakeAtOther => self.set_category('@', Category::Other),
            _ => {}
        }
    }

    /// Gives a command a new meaning, unless its meaning belongs to the document's structure.
    fn give_macro(&mut self, name: Name, defined: Macro, is_global: bool) {
        let text = self.names.text(name).to_string();
        if self.kept.contains(&text.as_str()) {
            let spot = self.spot();
            let shown = format!("\\{text}");
            return self.findings.add_about(Code::MacroKept, &shown, Some(spot.into()));
        }
        if self.is_code_sign(name, &defined.body) {
            return;
        }
        self.set_meaning(name, Meaning::Macro(Arc::new(defined)), is_global);
    }

    /// The next token as the name of what is defined.
    fn name(&mut self) -> Option<Name> {
        self.skip_spaces();
        match self.next_raw()?.token {
            Token::Command(name) => Some(name),
            _ => None,
        }
    }

    /// `\newcommand\name` or `\newcommand{\name}`.
    fn name_argument(&mut self) -> Option<Name> {
        let tokens = self.argument();
        tokens.iter().find_map(|located| match located.token {
            Token::Command(name) => Some(name),
            _ => None,
        })
    }

    /// `\def\name` parameter text `{body}`.
    fn definition(&mut self, is_global: bool, is_expanded: bool) {
        let is_long = std::mem::take(&mut self.is_long);
        let Some(name) = self.name() else { return };
        let mut pattern = Vec::new();
        let mut count = 0;
        loop {
            let Some(located) = self.next_raw() else { return };
            match located.token {
                Token::Character(_, Category::Begin) => {
                    let body = self.rest_of_group(located.spot);
                    let body = if is_expanded { self.expanded(body) } else { body };
                    let parameters = match count == pattern.len() {
                        true => Parameters::Counted { count: count as u8, optional: None },
                        false => Parameters::Delimited { pattern, is_long },
                    };
                    let defined = Macro { parameters, body: body_of(&body) };
                    return self.give_macro(name, defined, is_global);
                }
                Token::Character(_, Category::Parameter) => {
                    match self.next_raw().map(|located| located.token) {
                        Some(Token::Character(digit @ '1'..='9', _)) => {
                            count += 1;
                            pattern.push(Token::Argument(digit as u8 - b'0'));
                        }
                        // `#{`: the brace is a delimiter, too.
                        Some(token @ Token::Character(_, Category::Begin)) => {
                            self.push_one(Located { token, spot: located.spot });
                        }
                        _ => {}
                    }
                }
                token => pattern.push(token),
            }
        }
    }

    /// `` \chardef\name=`\& `` and `\mathchardef`.
    fn define_character(&mut self, is_global: bool) {
        let Some(name) = self.name() else { return };
        self.eat_equals();
        let code = u32::try_from(self.number()).unwrap_or(0);
        let is_kept = self.kept.contains(&self.names.text(name));
        if !is_kept {
            self.set_meaning(name, Meaning::CharacterCode(code), is_global);
        }
    }

    /// `\newwrite\name`: streams and boxes are never used, their names are numbers.
    fn new_stream(&mut self) {
        if let Some(name) = self.name_argument() {
            self.set_meaning(name, Meaning::CharacterCode(0), true);
        }
    }

    /// `\newtoks\name`.
    fn new_tokens(&mut self) {
        if let Some(name) = self.name() {
            self.set_meaning(name, Meaning::Tokens(Arc::default()), true);
        }
    }

    /// `\name={tokens}`.
    pub(super) fn assign_tokens(&mut self, name: Name) {
        let is_global = std::mem::take(&mut self.is_global);
        self.eat_equals();
        let tokens = self.argument();
        self.set_meaning(name, Meaning::Tokens(Arc::new(tokens)), is_global);
    }

    /// `\let\one=\other`.
    fn let_be(&mut self, is_global: bool) {
        let Some(name) = self.name() else { return };
        self.skip_spaces();
        let Some(mut located) = self.next_raw() else { return };
        if matches!(located.token, Token::Character('=', _)) {
            let Some(next) = self.next_raw() else { return };
            located = next;
            if Self::is_space(located.token) {
                let Some(next) = self.next_raw() else { return };
                located = next;
            }
        }
        self.let_mean(name, located, is_global);
    }

    /// Whether a sign comes to begin and end code in a line, in the author's own way; it is kept then.
    fn is_code_sign(&mut self, name: Name, body: &[Token]) -> bool {
        let Some(sign) = self.names.text(name).strip_prefix('\u{1}') else { return false };
        let sign = CompactString::from(sign);
        if !self.takes_all_signs(body) {
            return false;
        }
        if !self.code_signs.contains(&sign) {
            self.code_signs.push(sign);
        }
        self.set_meaning(name, Meaning::Unknown, true);
        true
    }

    fn let_mean(&mut self, name: Name, located: Located, is_global: bool) {
        let text = self.names.text(name).to_string();
        if self.kept.contains(&text.as_str()) {
            return;
        }
        if let Token::Command(other) = located.token
            && let Meaning::Macro(found) = self.meaning(other)
            && let found = found.clone()
            && self.is_code_sign(name, &found.body)
        {
            return;
        }
        let meaning = match located.token {
            Token::Command(other) => match self.meaning(other) {
                Meaning::Unknown if other == name => Meaning::Unknown,
                Meaning::Unknown => Meaning::Same(other),
                known => known.clone(),
            },
            Token::Character(character, category) => Meaning::Character(character, category),
            Token::Argument(_) => Meaning::Unknown,
        };
        self.set_meaning(name, meaning, is_global);
    }

    /// `\futurelet\name first second`.
    fn let_be_future(&mut self, is_global: bool) {
        let Some(name) = self.name() else { return };
        let (Some(first), Some(second)) = (self.next_raw(), self.next_raw()) else { return };
        self.let_mean(name, second, is_global);
        self.push(vec![first, second]);
    }

    /// `\newcommand{\name}[count][default]{body}`.
    fn new_command(&mut self, redefinition: Redefinition) {
        self.star();
        let Some(name) = self.name_argument() else { return };
        let (parameters, body) = self.counted_body();
        let is_known = !matches!(self.meaning(name), Meaning::Unknown)
            || self.kept.contains(&self.names.text(name));
        if redefinition == Redefinition::OnlyNew && is_known {
            return;
        }
        // As in a document: what a group defines ends with it.
        self.give_macro(name, Macro { parameters, body }, false);
    }

    fn counted_body(&mut self) -> (Parameters, Vec<Token>) {
        let count = self.option_text().and_then(|count| count.parse().ok()).unwrap_or(0_u8);
        let optional = match count {
            0 => None,
            _ => self.option().map(|default| default.iter().map(|l| l.token).collect()),
        };
        let body = self.argument();
        (Parameters::Counted { count: count.min(9), optional }, body_of(&body))
    }

    /// `\newenvironment{name}[count][default]{begin}{end}`.
    fn new_environment(&mut self) {
        self.star();
        let name = self.argument_text();
        let (parameters, begin) = self.counted_body();
        let end = body_of(&self.argument());
        self.environment(&name, parameters, begin, end);
    }

    fn environment(
        &mut self,
        name: &str,
        parameters: Parameters,
        begin: Vec<Token>,
        end: Vec<Token>,
    ) {
        if name.is_empty() {
            return;
        }
        let begin_name = self.names.of(name);
        self.give_macro(begin_name, Macro { parameters, body: begin }, false);
        if self.kept.contains(&name) {
            return;
        }
        let end_name = self.names.of(&format!("end{name}"));
        let parameters = Parameters::Counted { count: 0, optional: None };
        self.give_macro(end_name, Macro { parameters, body: end }, false);
    }

    /// `\NewDocumentCommand{\name}{kinds}{body}`.
    fn document_command(&mut self) {
        let Some(name) = self.name_argument() else { return };
        let kinds = self.argument_kinds();
        let body = body_of(&self.argument());
        self.give_macro(name, Macro { parameters: Parameters::Specified(kinds), body }, false);
    }

    fn document_environment(&mut self) {
        let name = self.argument_text();
        let kinds = self.argument_kinds();
        let begin = body_of(&self.argument());
        let end = body_of(&self.argument());
        self.environment(&name, Parameters::Specified(kinds), begin, end);
    }

    /// The kinds of arguments, as they are stated: `m O{1} s`.
    fn argument_kinds(&mut self) -> Vec<ArgumentKind> {
        let stated = self.argument();
        let mut tokens = stated.into_iter().peekable();
        let mut kinds = Vec::new();
        let plain = |open, close, default| ArgumentKind::Optional { open, close, default };
        while let Some(located) = tokens.next() {
            let Token::Character(letter, category) = located.token else { continue };
            if category == Category::Space {
                continue;
            }
            let mut sign = || match tokens.next().map(|located| located.token) {
                Some(Token::Character(sign, _)) => sign,
                _ => ' ',
            };
            let kind = match letter {
                'm' => ArgumentKind::Mandatory,
                'v' => ArgumentKind::Verbatim,
                'o' => plain('[', ']', None),
                'O' => plain('[', ']', Some(group_of(&mut tokens))),
                's' => ArgumentKind::Star('*'),
                't' => ArgumentKind::Star(sign()),
                'd' => plain(sign(), sign(), None),
                'D' => {
                    let (open, close) = (sign(), sign());
                    plain(open, close, Some(group_of(&mut tokens)))
                }
                'r' => ArgumentKind::Required { open: sign(), close: sign() },
                'R' => {
                    let (open, close) = (sign(), sign());
                    group_of(&mut tokens);
                    ArgumentKind::Required { open, close }
                }
                // Marks of long arguments and the like.
                _ => continue,
            };
            kinds.push(kind);
        }
        kinds.truncate(9);
        kinds
    }

    /// `\g@addto@macro\name{more}`.
    fn add_to_macro(&mut self) {
        let Some(name) = self.name_argument() else { return };
        let more = body_of(&self.argument());
        let Meaning::Macro(known) = self.meaning(name) else { return };
        let mut body = known.body.clone();
        body.extend(more);
        if !self.has_room_for(body.len()) {
            return;
        }
        let parameters = Parameters::Counted { count: 0, optional: None };
        self.give_macro(name, Macro { parameters, body }, true);
    }

    /// `\newif\ifname` with `\nametrue` and `\namefalse`.
    fn new_if(&mut self) {
        let Some(name) = self.name() else { return };
        let text = self.names.text(name).to_string();
        let stem = text.strip_prefix("if").unwrap_or(&text).to_string();
        self.set_meaning(name, Meaning::Primitive(Primitive::If(Conditional::False)), true);
        self.give(&format!("{stem}true"), Meaning::Primitive(Primitive::SetFlag(true)));
        self.give(&format!("{stem}false"), Meaning::Primitive(Primitive::SetFlag(false)));
    }

    fn set_flag(&mut self, at: Located, is_true: bool, is_global: bool) {
        let Token::Command(name) = at.token else { return };
        let text = self.names.text(name);
        let end = if is_true { "true" } else { "false" };
        let flag = format!("if{}", text.strip_suffix(end).unwrap_or(text));
        let flag = self.names.of(&flag);
        let conditional = if is_true { Conditional::True } else { Conditional::False };
        self.set_meaning(flag, Meaning::Primitive(Primitive::If(conditional)), is_global);
    }

    /// `` \catcode`\@=11 ``.
    fn change_category(&mut self) {
        let code = self.number();
        self.eat_equals();
        let category = self.number();
        let character = u32::try_from(code).ok().and_then(char::from_u32);
        if let (Some(character), Some(category)) = (character, Category::numbered(category)) {
            self.set_category(character, category);
        }
    }
}

/// The body of a definition: `#1` is an argument, `##` a sign for definitions inside.
fn body_of(tokens: &[Located]) -> Vec<Token> {
    let mut body = Vec::with_capacity(tokens.len());
    let mut rest = tokens.iter().map(|located| located.token);
    while let Some(token) = rest.next() {
        match token {
            Token::Character(_, Category::Parameter) => match rest.next() {
                Some(Token::Character(digit @ '1'..='9', _)) => {
                    body.push(Token::Argument(digit as u8 - b'0'));
                }
                Some(other) => body.push(other),
                None => {}
            },
            token => body.push(token),
        }
    }
    body
}

/// The next group of a list, without its braces.
fn group_of(tokens: &mut impl Iterator<Item = Located>) -> Vec<Token> {
    let mut group = Vec::new();
    let mut depth = 0_usize;
    for located in tokens {
        match located.token {
            Token::Character(_, Category::Begin) => {
                depth += 1;
                if depth == 1 {
                    continue;
                }
            }
            Token::Character(_, Category::End) => {
                depth = depth.saturating_sub(1);
                if depth == 0 {
                    return group;
                }
            }
            _ if depth == 0 => continue,
            _ => {}
        }
        group.push(located.token);
    }
    group
}
