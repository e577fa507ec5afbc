//! The front on its own.

use super::token::typed;
use super::{Category, Front, Inclusion, Spot, Token};
use std::sync::Arc;

fn expanded(source: &str) -> (String, Front<'static>) {
    let mut front = Front::new(source.into(), &|_| None, &["section"]);
    let mut tokens = Vec::new();
    while let Some(token) = front.next() {
        match token.token {
            Token::Character(_, Category::Begin) => front.open_group(),
            Token::Character(_, Category::End) => front.close_group(),
            _ => {}
        }
        tokens.push(token);
    }
    let text = typed(&tokens, &front.names);
    (text.replace('\n', " ").trim().to_string(), front)
}

#[test]
fn sources_are_expanded_as_the_table_says() {
    let table = include_str!("cases.txt");
    let (_, table) = table.split_once('\n').unwrap_or_default();
    let mut failed = Vec::new();
    let mut source = String::new();
    for line in table.lines() {
        let Some(wanted) = line.strip_prefix("=> ") else {
            source.push_str(line);
            source.push('\n');
            continue;
        };
        let (found, _) = expanded(source.trim_end());
        if found != wanted {
            failed.push(format!("{source}    {found:.300}\n    {wanted}"));
        }
        source.clear();
    }
    assert!(failed.is_empty(), "{}", failed.join("\n"));
}

#[test]
fn hostile_sources_end() {
    let deep = 50_000;
    for source in [
        r"\def\a{\a\a}\a".to_string(),
        r"\def\a#1{\a{#1#1}}\a{xx}".to_string(),
        r"\def\a{\b}\def\b{\a}\a".to_string(),
        r"\edef\a{\a}\def\a{\a}\edef\b{\a}".to_string(),
        r"\iftrue".repeat(deep),
        r"\iffalse".repeat(deep),
        r"\else".repeat(deep),
        "{".repeat(deep),
        "}".repeat(deep),
        r"\csname ".repeat(deep),
        r"\expandafter".repeat(deep),
        r"\number".repeat(deep),
        r"\edef\a{".repeat(deep),
        r"\newcount\n\n=\n".repeat(deep),
        r"\let\a=\a".repeat(deep),
        r"\loop\iftrue\repeat".to_string(),
        format!(r"\def\a#1\end{{}}{}", r"\a".repeat(deep)),
        r"\uppercase{".repeat(deep),
    ] {
        let run = move || {
            let (_, front) = expanded(&source);
            assert!(front.expansions <= front.may_expand + 1);
        };
        let thread = std::thread::Builder::new().stack_size(2 << 20).spawn(run);
        assert!(thread.is_ok_and(|thread| thread.join().is_ok()));
    }
}

#[test]
fn files_are_read_in_once_at_a_time() {
    let files = |name: &str| -> Option<Arc<str>> {
        match name {
            "a" => Some(r"A".into()),
            "self" => Some(r"S".into()),
            _ => None,
        }
    };
    let mut front = Front::new("x".into(), &files, &[]);
    let mut include = |name| front.include(name, Spot::default(), false);
    assert_eq!(include("a"), Inclusion::Read);
    assert_eq!(include("a"), Inclusion::Refused);
    assert_eq!(include("missing"), Inclusion::Missing);
    assert_eq!(front.findings.iter().len(), 1);
    assert_eq!(front.sources.len(), 2);
}
