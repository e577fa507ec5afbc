//! Comparing two rows of tokens word by word.

use super::common::common;
use super::tokens::{Token, plain};

/// A stretch that differs: words of the left, words of the right; either may be empty.
pub(super) struct Stretch<'t> {
    pub(super) left: &'t [Token],
    pub(super) right: &'t [Token],
}

/// What two rows of tokens share, and what not.
pub(super) struct Diff<'t> {
    /// For each token on the left, its counterpart on the right.
    pub(super) counterpart: Vec<Option<usize>>,
    pub(super) stretches: Vec<Stretch<'t>>,
}

/// The shortest way from one row to the other.
pub(super) fn diff<'t>(left: &'t [Token], right: &'t [Token]) -> Diff<'t> {
    let one: Vec<u64> = left.iter().map(Token::key).collect();
    let two: Vec<u64> = right.iter().map(Token::key).collect();
    let mut counterpart = vec![None; one.len()];
    for (a, b) in common(&one, &two) {
        if let Some(slot) = counterpart.get_mut(a) {
            *slot = Some(b);
        }
    }
    let stretches = stretches(left, right, &counterpart);
    Diff { counterpart, stretches }
}

fn stretches<'t>(
    left: &'t [Token],
    right: &'t [Token],
    counterpart: &[Option<usize>],
) -> Vec<Stretch<'t>> {
    let mut stretches = Vec::new();
    let (mut from_left, mut from_right) = (0, 0);
    let mut pairs: Vec<(usize, usize)> =
        counterpart.iter().enumerate().filter_map(|(a, b)| Some((a, (*b)?))).collect();
    pairs.push((left.len(), right.len()));
    for (a, b) in pairs {
        if a > from_left || b > from_right {
            let left = left.get(from_left..a).unwrap_or_default();
            let right = right.get(from_right..b).unwrap_or_default();
            stretches.push(Stretch { left, right });
        }
        (from_left, from_right) = (a + 1, b + 1);
    }
    stretches
}

/// What a stretch says, in words.
pub(super) fn told(stretch: &Stretch<'_>) -> String {
    let (left, right) = (plain(stretch.left), plain(stretch.right));
    match (stretch.left.is_empty(), stretch.right.is_empty()) {
        (false, true) => format!("{} is gone", super::quoted(&left)),
        (true, _) => format!("{} is new", super::quoted(&right)),
        // The words are the same: the gap between them is not.
        _ if left == right => format!("a space beside {} came or went", super::quoted(&left)),
        _ => format!("{} became {}", super::quoted(&left), super::quoted(&right)),
    }
}
