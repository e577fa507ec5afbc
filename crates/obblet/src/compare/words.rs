//! Comparing two rows of tokens word by word.

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

/// The most steps of the search for a shortest difference; past it, what is left differs as a
/// whole.
const MOST_STEPS: usize = 2_000_000;

/// The shortest way from one row to the other.
pub(super) fn diff<'t>(left: &'t [Token], right: &'t [Token]) -> Diff<'t> {
    let one: Vec<u64> = left.iter().map(Token::key).collect();
    let two: Vec<u64> = right.iter().map(Token::key).collect();
    let start = one.iter().zip(&two).take_while(|(a, b)| a == b).count();
    let (rest_one, rest_two) = (&one[start..], &two[start..]);
    let end = rest_one.iter().rev().zip(rest_two.iter().rev()).take_while(|(a, b)| a == b).count();
    let middle_one = &rest_one[..rest_one.len() - end];
    let middle_two = &rest_two[..rest_two.len() - end];

    let mut counterpart = vec![None; one.len()];
    (0..start).for_each(|at| counterpart[at] = Some(at));
    (0..end).for_each(|at| counterpart[one.len() - 1 - at] = Some(two.len() - 1 - at));
    for (a, b) in common(middle_one, middle_two) {
        counterpart[start + a] = Some(start + b);
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

/// A longest common part, by the greedy search for a shortest edit path: furthest points on
/// diagonals, one more edit each round.
fn common(one: &[u64], two: &[u64]) -> Vec<(usize, usize)> {
    let (n, m) = (one.len() as isize, two.len() as isize);
    if n == 0 || m == 0 {
        return Vec::new();
    }
    let most = n + m;
    let offset = most + 1;
    let mut furthest = vec![0_isize; (2 * most + 3) as usize];
    let mut rounds: Vec<Vec<isize>> = Vec::new();
    let mut steps = 0;
    for edits in 0..=most {
        let low = (offset - edits - 1) as usize;
        let high = (offset + edits + 1) as usize;
        rounds.push(furthest[low..=high].to_vec());
        steps += high - low;
        if steps > MOST_STEPS {
            return Vec::new();
        }
        for diagonal in (-edits..=edits).step_by(2) {
            let at = (offset + diagonal) as usize;
            let down =
                diagonal == -edits || diagonal != edits && furthest[at - 1] < furthest[at + 1];
            let mut x = if down { furthest[at + 1] } else { furthest[at - 1] + 1 };
            let mut y = x - diagonal;
            while x < n && y < m && one[x as usize] == two[y as usize] {
                (x, y) = (x + 1, y + 1);
            }
            furthest[at] = x;
            if x >= n && y >= m {
                return path(one, two, &rounds);
            }
        }
    }
    Vec::new()
}

/// The common part along the path that the rounds found, walked back from the end.
fn path(one: &[u64], two: &[u64], rounds: &[Vec<isize>]) -> Vec<(usize, usize)> {
    let (mut x, mut y) = (one.len() as isize, two.len() as isize);
    let mut pairs = Vec::new();
    for (edits, round) in rounds.iter().enumerate().rev() {
        let edits = edits as isize;
        let diagonal = x - y;
        // `round` holds the diagonals from -edits - 1 to edits + 1.
        let at = |diagonal: isize| round[(diagonal + edits + 1) as usize];
        let down = diagonal == -edits || diagonal != edits && at(diagonal - 1) < at(diagonal + 1);
        let before = if down { diagonal + 1 } else { diagonal - 1 };
        let before_x = if edits == 0 { 0 } else { at(before) };
        let before_y = if edits == 0 { 0 } else { before_x - before };
        while x > before_x && y > before_y {
            (x, y) = (x - 1, y - 1);
            pairs.push((x as usize, y as usize));
        }
        (x, y) = (before_x, before_y);
    }
    pairs.reverse();
    pairs
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
