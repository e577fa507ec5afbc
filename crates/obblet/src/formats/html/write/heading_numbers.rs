//! Numbers of headings, such as 2.1.

/// Counts headings. A heading that stands alone above all others is the title, and gets no number.
#[derive(Debug)]
pub(super) struct HeadingNumbers {
    has_title: bool,
    /// The levels of the headings around, each with its number among its kind.
    counts: Vec<(u8, u32)>,
}

impl HeadingNumbers {
    /// `top_headings` is how many headings of the highest level the document has.
    pub(super) fn new(top_headings: usize) -> Self {
        Self { has_title: top_headings == 1, counts: Vec::new() }
    }

    /// The number of the next heading; empty for the title.
    pub(super) fn next(&mut self, level: u8) -> String {
        if std::mem::take(&mut self.has_title) {
            return String::new();
        }
        while self.counts.last().is_some_and(|(deeper, _)| *deeper > level) {
            self.counts.pop();
        }
        match self.counts.last_mut() {
            Some((same, count)) if *same == level => *count += 1,
            _ => self.counts.push((level, 1)),
        }
        let numbers: Vec<String> = self.counts.iter().map(|(_, count)| count.to_string()).collect();
        numbers.join(".")
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn headings_count_within_the_one_above() {
        let numbers = |top_headings, levels: &[u8]| {
            let mut counter = HeadingNumbers::new(top_headings);
            levels.iter().map(|level| counter.next(*level)).collect::<Vec<_>>().join(" ")
        };
        assert_eq!(numbers(1, &[1, 2, 3, 3, 2, 3]), " 1 1.1 1.2 2 2.1");
        assert_eq!(numbers(2, &[1, 2, 1, 2, 2]), "1 1.1 2 2.1 2.2");
        assert_eq!(numbers(1, &[1, 2, 4, 3]), " 1 1.1 1.1");
    }
}
