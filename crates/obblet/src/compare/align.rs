//! Aligning two rows of things: which of the one is which of the other.
//!
//! Equal ends first; then those that are equal and alone of their kind on both sides (the longest
//! row of them that keeps its order); between these anchors, the pairing that is most alike.

use super::common::common;
use std::collections::HashMap;
use std::ops::Range;

/// The most pairs that are looked at in a stretch without anchors.
pub(super) const SQUARE: usize = 40_000;

/// How alike two things must be to be counterparts.
const ALIKE: f32 = 0.4;

/// One side of an alignment.
pub(super) trait Side {
    fn len(&self) -> usize;
    /// Equal keys are equal things.
    fn key(&self, index: usize) -> u64;
    /// Hashes of the words of a thing, sorted.
    fn words(&self, index: usize) -> &[u64];
    /// Whether a thing may be a counterpart of another at all.
    fn fits(&self, index: usize, other: &Self, other_index: usize) -> bool;
    /// Whether a thing is of a kind so rare that its place says enough.
    fn is_told_by_place(&self, _index: usize) -> bool {
        false
    }
}

/// The pairs, in order on both sides.
pub(super) fn align<S: Side>(left: &S, right: &S) -> Vec<(usize, usize)> {
    let mut pairs = Vec::new();
    let mut stretches = vec![(0..left.len(), 0..right.len())];
    while let Some((mut one, mut two)) = stretches.pop() {
        while !one.is_empty() && !two.is_empty() && left.key(one.start) == right.key(two.start) {
            pairs.push((one.start, two.start));
            (one.start, two.start) = (one.start + 1, two.start + 1);
        }
        while !one.is_empty() && !two.is_empty() && left.key(one.end - 1) == right.key(two.end - 1)
        {
            (one.end, two.end) = (one.end - 1, two.end - 1);
            pairs.push((one.end, two.end));
        }
        if one.is_empty() || two.is_empty() {
            continue;
        }
        let anchors = anchors(left, right, one.clone(), two.clone());
        if anchors.is_empty() {
            pair_without_anchors(left, right, one, two, &mut pairs);
            continue;
        }
        let mut from = (one.start, two.start);
        for (a, b) in anchors {
            stretches.push((from.0..a, from.1..b));
            pairs.push((a, b));
            from = (a + 1, b + 1);
        }
        stretches.push((from.0..one.end, from.1..two.end));
    }
    pairs.sort_unstable();
    pairs
}

/// Equal things that are alone of their kind on both sides, as many as keep their order.
fn anchors<S: Side>(
    left: &S,
    right: &S,
    one: Range<usize>,
    two: Range<usize>,
) -> Vec<(usize, usize)> {
    #[derive(Default)]
    struct Seen {
        left: Option<usize>,
        right: Option<usize>,
        more: bool,
    }
    let mut seen: HashMap<u64, Seen> = HashMap::new();
    for index in one {
        let entry = seen.entry(left.key(index)).or_default();
        entry.more |= entry.left.replace(index).is_some();
    }
    for index in two {
        let entry = seen.entry(right.key(index)).or_default();
        entry.more |= entry.right.replace(index).is_some();
    }
    let alone = seen.into_values().filter(|seen| !seen.more);
    let mut pairs: Vec<(usize, usize)> =
        alone.filter_map(|seen| Some((seen.left?, seen.right?))).collect();
    pairs.sort_unstable();
    longest_rising(&pairs)
}

/// The longest part of the pairs whose second numbers rise.
pub(super) fn longest_rising(pairs: &[(usize, usize)]) -> Vec<(usize, usize)> {
    let mut ends: Vec<usize> = Vec::new();
    let mut before: Vec<Option<usize>> = vec![None; pairs.len()];
    for (index, pair) in pairs.iter().enumerate() {
        let at = ends.partition_point(|end| pairs.get(*end).is_some_and(|end| end.1 < pair.1));
        before[index] = at.checked_sub(1).and_then(|at| ends.get(at)).copied();
        if at == ends.len() {
            ends.push(index);
        } else {
            ends[at] = index;
        }
    }
    let mut rising = Vec::new();
    let mut next = ends.last().copied();
    while let Some(index) = next {
        rising.extend(pairs.get(index));
        next = before.get(index).copied().flatten();
    }
    rising.reverse();
    rising
}

/// Things of which there are many equal ones: first what the two stretches have in common, then
/// the most alike between.
fn pair_without_anchors<S: Side>(
    left: &S,
    right: &S,
    one: Range<usize>,
    two: Range<usize>,
    pairs: &mut Vec<(usize, usize)>,
) {
    let keys = |side: &S, range: Range<usize>| range.map(|at| side.key(at)).collect::<Vec<_>>();
    let equal = common(&keys(left, one.clone()), &keys(right, two.clone()));
    let mut from = (one.start, two.start);
    let ends = std::iter::once((one.len(), two.len()));
    for (a, b) in equal.iter().copied().chain(ends) {
        let (a, b) = (one.start + a, two.start + b);
        if from.0 < a && from.1 < b {
            pairs.extend(most_alike(left, right, from.0..a, from.1..b));
        }
        if a < one.end && b < two.end {
            pairs.push((a, b));
        }
        from = (a + 1, b + 1);
    }
}

fn most_alike<S: Side>(
    left: &S,
    right: &S,
    one: Range<usize>,
    two: Range<usize>,
) -> Vec<(usize, usize)> {
    if one.len().saturating_mul(two.len()) <= SQUARE {
        best_pairing(left, right, one, two)
    } else {
        longest_rising(&by_rare_words(left, right, one, two))
    }
}

/// How alike two things are: 1 for equal words, 0 for none in common or another kind.
pub(super) fn likeness<S: Side>(left: &S, a: usize, right: &S, b: usize) -> f32 {
    if !left.fits(a, right, b) {
        return 0.0;
    }
    if left.key(a) == right.key(b) {
        return 1.0;
    }
    let least = if left.is_told_by_place(a) { ALIKE } else { 0.0 };
    shared(left.words(a), right.words(b)).max(least)
}

/// The share of words that two sorted lists have in common.
pub(super) fn shared(one: &[u64], two: &[u64]) -> f32 {
    if one.is_empty() || two.is_empty() {
        return 0.0;
    }
    let (mut a, mut b, mut both) = (0, 0, 0_usize);
    while let (Some(x), Some(y)) = (one.get(a), two.get(b)) {
        both += usize::from(x == y);
        (a, b) = (a + usize::from(x <= y), b + usize::from(y <= x));
    }
    2.0 * both as f32 / (one.len() + two.len()) as f32
}

/// The pairing in order whose pairs are together most alike.
fn best_pairing<S: Side>(
    left: &S,
    right: &S,
    one: Range<usize>,
    two: Range<usize>,
) -> Vec<(usize, usize)> {
    let width = two.len() + 1;
    let mut best = vec![0.0_f32; (one.len() + 1) * width];
    let mut alike = vec![0.0_f32; one.len() * two.len()];
    for a in (0..one.len()).rev() {
        for b in (0..two.len()).rev() {
            let here = likeness(left, one.start + a, right, two.start + b);
            alike[a * two.len() + b] = here;
            let paired = if here >= ALIKE { here + best[(a + 1) * width + b + 1] } else { 0.0 };
            let skipped = best[(a + 1) * width + b].max(best[a * width + b + 1]);
            best[a * width + b] = paired.max(skipped);
        }
    }
    let (mut a, mut b) = (0, 0);
    let mut pairs = Vec::new();
    while a < one.len() && b < two.len() {
        let here = alike[a * two.len() + b];
        let value = best[a * width + b];
        if here >= ALIKE && (value - here - best[(a + 1) * width + b + 1]).abs() < 1e-4 {
            pairs.push((one.start + a, two.start + b));
            (a, b) = (a + 1, b + 1);
        } else if (value - best[(a + 1) * width + b]).abs() < 1e-6 {
            a += 1;
        } else {
            b += 1;
        }
    }
    pairs
}

/// For each thing on the left, the most alike of those on the right that share one of its three
/// rarest words.
pub(super) fn by_rare_words<S: Side>(
    left: &S,
    right: &S,
    one: Range<usize>,
    two: Range<usize>,
) -> Vec<(usize, usize)> {
    const CANDIDATES: usize = 20;
    let mut where_is: HashMap<u64, Vec<usize>> = HashMap::new();
    for index in two {
        for word in right.words(index) {
            where_is.entry(*word).or_default().push(index);
        }
    }
    let mut taken: HashMap<usize, ()> = HashMap::new();
    let mut pairs = Vec::new();
    for a in one {
        let mut lists: Vec<&Vec<usize>> =
            left.words(a).iter().filter_map(|word| where_is.get(word)).collect();
        lists.sort_by_key(|list| list.len());
        let candidates = lists.iter().take(3).flat_map(|list| list.iter().take(CANDIDATES));
        let free = candidates.filter(|b| !taken.contains_key(b));
        let scored = free.map(|&b| (likeness(left, a, right, b), b));
        let best = scored.max_by(|x, y| x.0.total_cmp(&y.0).then(y.1.cmp(&x.1)));
        if let Some((alike, b)) = best.filter(|(alike, _)| *alike >= ALIKE) {
            debug_assert!(alike <= 1.0);
            taken.insert(b, ());
            pairs.push((a, b));
        }
    }
    pairs
}

#[cfg(test)]
mod tests {
    use super::*;

    struct Row(Vec<(u64, Vec<u64>)>);

    impl Row {
        fn of(texts: &[&str]) -> Self {
            let hash = |text: &str| {
                text.bytes().fold(7_u64, |sum, byte| sum.wrapping_mul(31) + u64::from(byte))
            };
            let row = texts.iter().map(|text| {
                let mut words: Vec<u64> = text.split(' ').map(hash).collect();
                words.sort_unstable();
                (hash(text), words)
            });
            Self(row.collect())
        }
    }

    impl Side for Row {
        fn len(&self) -> usize {
            self.0.len()
        }
        fn key(&self, index: usize) -> u64 {
            self.0[index].0
        }
        fn words(&self, index: usize) -> &[u64] {
            &self.0[index].1
        }
        fn fits(&self, _: usize, _: &Self, _: usize) -> bool {
            true
        }
    }

    #[test]
    fn rows_align_by_equal_then_by_alike() {
        type Case<'c> = (&'c [&'c str], &'c [&'c str], &'c [(usize, usize)]);
        let cases: [Case<'_>; 5] = [
            (&["a", "b", "c"], &["a", "b", "c"], &[(0, 0), (1, 1), (2, 2)]),
            (&["a", "b", "c"], &["a", "c"], &[(0, 0), (2, 1)]),
            (&["x y z", "b"], &["x y w", "b"], &[(0, 0), (1, 1)]),
            (&["a", "b", "c d e f"], &["c d e g", "a", "b"], &[(0, 1), (1, 2)]),
            (&["r", "r", "s"], &["r", "s"], &[(0, 0), (2, 1)]),
        ];
        for (left, right, expected) in cases {
            assert_eq!(align(&Row::of(left), &Row::of(right)), expected, "{left:?} {right:?}");
        }
    }

    #[test]
    fn wide_stretches_are_paired_by_rare_words() {
        let texts = |salt: &str| -> Vec<String> {
            (0..400).map(|n| format!("the mill word{n} stands {salt}{n}")).collect()
        };
        let (left, right) = (texts("a"), texts("b"));
        let left: Vec<&str> = left.iter().map(String::as_str).collect();
        let right: Vec<&str> = right.iter().map(String::as_str).collect();
        let pairs = align(&Row::of(&left), &Row::of(&right));
        assert_eq!(pairs.len(), 400);
        assert!(pairs.iter().all(|(a, b)| a == b));
    }
}
