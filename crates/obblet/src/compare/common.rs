//! What two rows of keys have in common: a longest row that is part of both, by the search for the
//! middle of a shortest edit path from both ends at once, halving until nothing is left (Myers,
//! “An O(ND) difference algorithm and its variations”, 1986, section 4b).

use crate::work;
use std::ops::Range;

/// The most edits that are searched for between two rows; past it they count as having nothing
/// in common. The work is at most the square of this.
const MOST_EDITS: usize = 4000;

/// The pairs of equal keys, in order.
pub(super) fn common(one: &[u64], two: &[u64]) -> Vec<(usize, usize)> {
    let mut pairs = Vec::new();
    let mut search = Search { one, two, forward: Vec::new(), backward: Vec::new() };
    let mut stretches = vec![(0..one.len(), 0..two.len())];
    while let Some((mut a, mut b)) = stretches.pop() {
        while !a.is_empty() && !b.is_empty() && one[a.start] == two[b.start] {
            pairs.push((a.start, b.start));
            (a.start, b.start) = (a.start + 1, b.start + 1);
        }
        while !a.is_empty() && !b.is_empty() && one[a.end - 1] == two[b.end - 1] {
            (a.end, b.end) = (a.end - 1, b.end - 1);
            pairs.push((a.end, b.end));
        }
        if a.is_empty() || b.is_empty() {
            continue;
        }
        if let Some((x, y)) = search.middle(a.clone(), b.clone()) {
            stretches.push((a.start..x, b.start..y));
            stretches.push((x..a.end, y..b.end));
        }
    }
    pairs.sort_unstable();
    pairs
}

/// The furthest points on each diagonal, from the start and from the end.
struct Search<'k> {
    one: &'k [u64],
    two: &'k [u64],
    forward: Vec<isize>,
    backward: Vec<isize>,
}

impl Search<'_> {
    /// A point in the middle of a shortest path, other than its two ends; `None` when there is
    /// none or it would take too many edits.
    fn middle(&mut self, a: Range<usize>, b: Range<usize>) -> Option<(usize, usize)> {
        let (n, m) = (a.len() as isize, b.len() as isize);
        let delta = n - m;
        let rounds = (n + m + 1) / 2;
        let offset = rounds.min(MOST_EDITS as isize) + 1;
        let size = (2 * offset + 1) as usize;
        self.forward.clear();
        self.forward.resize(size, 0);
        self.backward.clear();
        self.backward.resize(size, 0);
        for edits in 0..=rounds {
            work::count(2 * edits as usize);
            if edits as usize > MOST_EDITS || work::is_over() {
                return None;
            }
            for diagonal in (-edits..=edits).step_by(2) {
                let (x, y) = self.extend(Way::Forward, diagonal, edits, offset, &a, &b);
                let other = delta - diagonal;
                let meets = delta % 2 != 0
                    && other.abs() < edits
                    && x + self.backward[(offset + other) as usize] >= n;
                if meets {
                    return inner(&a, &b, x, y);
                }
            }
            for diagonal in (-edits..=edits).step_by(2) {
                let (x, y) = self.extend(Way::Backward, diagonal, edits, offset, &a, &b);
                let other = delta - diagonal;
                let meets = delta % 2 == 0
                    && other.abs() <= edits
                    && x + self.forward[(offset + other) as usize] >= n;
                if meets {
                    return inner(&a, &b, n - x, m - y);
                }
            }
        }
        None
    }
}

impl Search<'_> {
    /// One more edit, then as far as the keys are equal. Gives how far that is in both rows.
    fn extend(
        &mut self,
        way: Way,
        diagonal: isize,
        edits: isize,
        offset: isize,
        a: &Range<usize>,
        b: &Range<usize>,
    ) -> (isize, isize) {
        let furthest = match way {
            Way::Forward => &mut self.forward,
            Way::Backward => &mut self.backward,
        };
        let mut x = next_start(furthest, diagonal, edits, offset);
        let mut y = x - diagonal;
        let inside =
            |x: isize, y: isize| (x as usize) < a.len() && y >= 0 && (y as usize) < b.len();
        let equal = |x: isize, y: isize| match way {
            Way::Forward => self.one[a.start + x as usize] == self.two[b.start + y as usize],
            Way::Backward => self.one[a.end - 1 - x as usize] == self.two[b.end - 1 - y as usize],
        };
        while inside(x, y) && equal(x, y) {
            (x, y) = (x + 1, y + 1);
        }
        furthest[(offset + diagonal) as usize] = x;
        (x, y)
    }
}

/// From which end of the rows a path is searched.
#[derive(Clone, Copy)]
enum Way {
    Forward,
    Backward,
}

/// Where a path with one more edit comes to a diagonal: down from the one above or right from the
/// one below, whichever is further.
fn next_start(furthest: &[isize], diagonal: isize, edits: isize, offset: isize) -> isize {
    let at = |diagonal: isize| furthest[(offset + diagonal) as usize];
    if edits == 0 {
        return 0;
    }
    let down = diagonal == -edits || diagonal != edits && at(diagonal - 1) < at(diagonal + 1);
    if down { at(diagonal + 1) } else { at(diagonal - 1) + 1 }
}

/// A point as positions in the rows, unless it is one of the two ends, which parts nothing.
fn inner(a: &Range<usize>, b: &Range<usize>, x: isize, y: isize) -> Option<(usize, usize)> {
    let x = a.start + x.clamp(0, a.len() as isize) as usize;
    let y = b.start + y.clamp(0, b.len() as isize) as usize;
    let is_end = (x, y) == (a.start, b.start) || (x, y) == (a.end, b.end);
    (!is_end).then_some((x, y))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// The length of a longest common row, by the table that looks at every pair.
    fn longest(one: &[u64], two: &[u64]) -> usize {
        let mut best = vec![vec![0; two.len() + 1]; one.len() + 1];
        for a in 0..one.len() {
            for b in 0..two.len() {
                best[a + 1][b + 1] = match one[a] == two[b] {
                    true => best[a][b] + 1,
                    false => best[a][b + 1].max(best[a + 1][b]),
                };
            }
        }
        best[one.len()][two.len()]
    }

    proptest! {
        #[test]
        fn what_is_found_is_common_in_order_and_longest(
            one in proptest::collection::vec(0..5_u64, 0..40),
            two in proptest::collection::vec(0..5_u64, 0..40),
        ) {
            let pairs = common(&one, &two);
            prop_assert!(pairs.iter().all(|(a, b)| one[*a] == two[*b]));
            prop_assert!(pairs.windows(2).all(|w| w[0].0 < w[1].0 && w[0].1 < w[1].1));
            prop_assert_eq!(pairs.len(), longest(&one, &two));
        }
    }

    #[test]
    fn rows_with_nothing_in_common_end_in_time() {
        let (one, two): (Vec<u64>, Vec<u64>) = ((0..50_000).collect(), (50_000..100_000).collect());
        assert!(common(&one, &two).is_empty());
    }
}
