//! What stands among words: links, pictures, note marks, code, formulas, and formats over words.

use super::pairs::Pair;
use super::tokens::{Formats, LinkTarget, PictureContent, Piece, Text, Token, plain};
use super::words::Diff;
use super::{Change, Kind, Places, Tally, quoted};
use std::collections::HashMap;
use std::ops::Range;

/// Two texts with what their words have in common.
pub(super) struct ObjectPair<'t> {
    pub(super) left: &'t Text,
    pub(super) right: &'t Text,
    pub(super) diff: &'t Diff<'t>,
    pub(super) places: Places,
}

pub(super) fn compare_texts(pair: &mut Pair<'_>, texts: &ObjectPair<'_>, tally: &mut Tally<'_>) {
    compare_pieces(pair, texts, tally);
    compare_links(texts, tally);
    compare_formats(texts, tally);
}

/// Pictures, notes, code and formulas: counterparts by the words around them.
fn compare_pieces(pair: &mut Pair<'_>, texts: &ObjectPair<'_>, tally: &mut Tally<'_>) {
    let mut matched = vec![false; texts.right.tokens.len()];
    for (token, counterpart) in texts.left.tokens.iter().zip(&texts.diff.counterpart) {
        let other = counterpart.and_then(|at| texts.right.tokens.get(at));
        if let (Some(seen), true) =
            (counterpart.and_then(|at| matched.get_mut(at)), other.is_some())
        {
            *seen = true;
        }
        compare_piece(pair, token, other, texts.places, tally);
    }
    let lone = texts.right.tokens.iter().zip(&matched).filter(|(_, matched)| !**matched);
    for (token, _) in lone {
        report_piece(&token.piece, Change::Extra, texts.places, tally);
    }
}

fn compare_piece(
    pair: &mut Pair<'_>,
    token: &Token,
    other: Option<&Token>,
    places: Places,
    tally: &mut Tally<'_>,
) {
    match (&token.piece, other.map(|token| &token.piece)) {
        (piece, None) => report_piece(piece, Change::Missing, places, tally),
        (Piece::Picture(one), Some(Piece::Picture(two))) => {
            compare_pictures(one, two, places, tally)
        }
        (Piece::Note(one), Some(Piece::Note(two))) => {
            pair.notes.push((*one, *two));
            tally.keep(Kind::Note);
        }
        (Piece::Code(_), Some(_)) => tally.keep(Kind::Code),
        (Piece::Formula(_), Some(_)) => tally.keep(Kind::Math),
        _ => {}
    }
}

fn compare_pictures(
    one: &PictureContent,
    two: &PictureContent,
    places: Places,
    tally: &mut Tally<'_>,
) {
    let same_bytes = one.bytes.is_some() && one.bytes == two.bytes;
    let mut changes = tally.change(Kind::Picture, places);
    if !same_bytes {
        changes.differ("picture", &one.name, &two.name, |name| quoted(name));
    }
    let alternatives = (&one.alternative, &two.alternative);
    changes.differ("alternative text", alternatives.0, alternatives.1, |text| quoted(text));
    changes.end();
}

fn report_piece(piece: &Piece, change: Change, places: Places, tally: &mut Tally<'_>) {
    let (kind, what) = match piece {
        Piece::Picture(picture) => {
            (Kind::Picture, format!("the picture {}", quoted(&picture.name)))
        }
        Piece::Note(_) => (Kind::Note, "the mark of a note".to_string()),
        Piece::Code(text) => (Kind::Code, format!("the code {}", quoted(text))),
        Piece::Formula(source) => (Kind::Math, format!("the formula {}", quoted(source))),
        Piece::Word(_) | Piece::Break | Piece::Markup(_) => return,
    };
    tally.report(kind, change, what, places);
}

/// The tokens under each link of a text.
fn link_ranges(text: &Text) -> Vec<Vec<usize>> {
    let mut ranges = vec![Vec::new(); text.links.len()];
    for (index, token) in text.tokens.iter().enumerate() {
        if let Some(range) = token.link.and_then(|link| ranges.get_mut(link as usize)) {
            range.push(index);
        }
    }
    ranges
}

fn link_text(text: &Text, tokens: &[usize]) -> String {
    let tokens: Vec<Token> =
        tokens.iter().filter_map(|index| text.tokens.get(*index)).cloned().collect();
    plain(&tokens)
}

fn compare_links(texts: &ObjectPair<'_>, tally: &mut Tally<'_>) {
    let (left, right) = (link_ranges(texts.left), link_ranges(texts.right));
    let mut taken = vec![false; right.len()];
    let mut by_target: HashMap<&LinkTarget, Vec<usize>> = HashMap::new();
    for (number, link) in texts.right.links.iter().enumerate() {
        by_target.entry(link).or_default().push(number);
    }
    let mut by_target: HashMap<&LinkTarget, std::vec::IntoIter<usize>> =
        by_target.into_iter().map(|(link, numbers)| (link, numbers.into_iter())).collect();
    for (number, tokens) in left.iter().enumerate() {
        let Some(target) = texts.left.links.get(number) else { continue };
        let words = link_text(texts.left, tokens);
        // The link over the first word that is still under one; else one with the same target.
        let over_words = tokens.iter().find_map(|at| {
            let other = texts.diff.counterpart.get(*at).copied().flatten()?;
            texts.right.tokens.get(other)?.link.map(|link| link as usize)
        });
        let free = |link: &usize| !taken.get(*link).copied().unwrap_or(true);
        let by_target = || by_target.get_mut(target)?.find(free);
        let Some(other) = over_words.filter(free).or_else(by_target) else {
            let what = format!("the link {} to {}", quoted(&words), target.address);
            tally.report(Kind::Link, Change::Missing, what, texts.places);
            continue;
        };
        taken[other] = true;
        let mut changes = tally.change(Kind::Link, texts.places);
        if let (Some(two), Some(tokens)) = (texts.right.links.get(other), right.get(other)) {
            let name = format!("the target of the link {}:", quoted(&words));
            changes.differ(&name, &target.address, &two.address, |address| (*address).clone());
            changes
                .differ("the title of a link:", &target.title, &two.title, |title| quoted(title));
            let other_words = link_text(texts.right, tokens);
            changes.differ("the words of a link:", &words, &other_words, |words| quoted(words));
        }
        changes.end();
    }
    for (number, _) in taken.iter().enumerate().filter(|(_, taken)| !**taken) {
        if let (Some(target), Some(tokens)) = (texts.right.links.get(number), right.get(number)) {
            let words = link_text(texts.right, tokens);
            let what = format!("the link {} to {}", quoted(&words), target.address);
            tally.report(Kind::Link, Change::Extra, what, texts.places);
        }
    }
}

/// Stretches of tokens under one format.
fn spans(text: &Text) -> Vec<(Formats, Range<usize>)> {
    let mut spans: Vec<(Formats, Range<usize>)> = Vec::new();
    // The last span of each format, by its number.
    let mut last: HashMap<Formats, usize> = HashMap::new();
    for (index, token) in text.tokens.iter().enumerate() {
        for format in token.formats.each() {
            let open = last.get(&format).and_then(|at| spans.get_mut(*at));
            match open.filter(|(_, range)| range.end == index) {
                Some((_, range)) => range.end = index + 1,
                None => {
                    last.insert(format, spans.len());
                    spans.push((format, index..index + 1));
                }
            }
        }
    }
    spans
}

fn compare_formats(texts: &ObjectPair<'_>, tally: &mut Tally<'_>) {
    let has = |text: &Text, at: usize, format: Formats| {
        text.tokens.get(at).is_some_and(|token| token.formats.has(format))
    };
    for (format, range) in spans(texts.left) {
        let words = plain(texts.left.tokens.get(range.clone()).unwrap_or_default());
        let others: Vec<Option<usize>> =
            range.clone().map(|at| texts.diff.counterpart.get(at).copied().flatten()).collect();
        let kept = others.iter().flatten().filter(|at| has(texts.right, **at, format)).count();
        let there = others.iter().flatten().count();
        let mut inside = range.clone().zip(&others).filter_map(|(at, other)| {
            Some((texts.left.tokens.get(at)?, texts.right.tokens.get((*other)?)?))
        });
        let name = format.name();
        if kept == 0 {
            let what = format!("{name} of {}", quoted(&words));
            tally.report(Kind::Emphasis, Change::Missing, what, texts.places);
        } else if kept < there {
            let what = format!("only a part of {} still has {name}", quoted(&words));
            tally.report(Kind::Emphasis, Change::Changed, what, texts.places);
        } else if inside.any(|(one, two)| one.inside != two.inside) {
            let what = format!("{name} in {} covers other letters", quoted(&words));
            tally.report(Kind::Emphasis, Change::Changed, what, texts.places);
        } else {
            tally.keep(Kind::Emphasis);
        }
    }
    let mut covered = vec![None; texts.right.tokens.len()];
    for (at, other) in texts.diff.counterpart.iter().enumerate() {
        if let Some(slot) = other.and_then(|other| covered.get_mut(other)) {
            *slot = Some(at);
        }
    }
    for (format, range) in spans(texts.right) {
        let mut before = range.clone().filter_map(|at| covered.get(at).copied().flatten());
        if !before.any(|at| has(texts.left, at, format)) {
            let words = plain(texts.right.tokens.get(range).unwrap_or_default());
            let what = format!("{} of {}", format.name(), quoted(&words));
            tally.report(Kind::Emphasis, Change::Extra, what, texts.places);
        }
    }
}

/// All in a text that only one of the documents has.
pub(super) fn report_objects(text: &Text, change: Change, places: Places, tally: &mut Tally<'_>) {
    for token in &text.tokens {
        report_piece(&token.piece, change, places, tally);
    }
    for (number, tokens) in link_ranges(text).iter().enumerate() {
        if let Some(target) = text.links.get(number) {
            let words = link_text(text, tokens);
            let what = format!("the link {} to {}", quoted(&words), target.address);
            tally.report(Kind::Link, change, what, places);
        }
    }
    for (format, range) in spans(text) {
        let words = plain(text.tokens.get(range).unwrap_or_default());
        let what = format!("{} of {}", format.name(), quoted(&words));
        tally.report(Kind::Emphasis, change, what, places);
    }
}
