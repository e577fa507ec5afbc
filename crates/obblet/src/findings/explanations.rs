//! Which finding explains words that are missing, by where it stands.

use super::{Code, Finding, Findings};
use crate::source::Place;

/// Bytes behind a finding in which what it names may go on.
const NEIGHBOURHOOD: u32 = 64;

/// So many words may be a name, a mark or a label that a construct has.
const FEW_WORDS: u64 = 12;

/// The findings that may explain missing words, by their places.
pub(crate) struct Explanations {
    /// Those that leave words out.
    leaving_out: Places,
    /// Those and the ones about constructs, which may have held a few words.
    of_constructs: Places,
    /// Raw HTML in several blocks is looked at as a whole, and has no place.
    anywhere: Option<usize>,
    /// How many findings there were.
    count: usize,
}

/// Places of findings in the order in which they begin.
struct Places(Vec<Known>);

struct Known {
    place: Place,
    /// The finding's number.
    finding: usize,
    /// Which of all places up to this one goes on farthest.
    farthest: usize,
}

impl Places {
    fn of(findings: &[Finding], is_wanted: impl Fn(&Finding) -> bool) -> Self {
        let wanted = findings.iter().enumerate().filter(|(_, finding)| is_wanted(finding));
        let mut places: Vec<Known> = wanted
            .flat_map(|(number, finding)| {
                let all = finding.place.iter().chain(&finding.others);
                all.map(move |place| Known { place: *place, finding: number, farthest: 0 })
            })
            .collect();
        places.sort_by_key(|known| (known.place.source, known.place.start, known.place.end));
        let mut farthest = (0, Place::default());
        for (number, known) in places.iter_mut().enumerate() {
            let end = |place: Place| (place.source, place.end);
            if end(known.place) >= end(farthest.1) {
                farthest = (number, known.place);
            }
            known.farthest = farthest.0;
        }
        Self(places)
    }

    /// The finding at a place: the last one that begins before its end, or one that goes on as far.
    fn at(&self, place: Place) -> Option<usize> {
        let begins =
            |known: &Known| (known.place.source, known.place.start) <= (place.source, place.end);
        let last = self.0.get(self.0.partition_point(begins).checked_sub(1)?)?;
        let farthest = self.0.get(last.farthest)?;
        [last, farthest]
            .into_iter()
            .find(|known| covers(known.place, place))
            .map(|known| known.finding)
    }
}

fn covers(finding: Place, missing: Place) -> bool {
    finding.source == missing.source
        && finding.start <= missing.end
        && finding.end.saturating_add(NEIGHBOURHOOD) >= missing.start
}

impl Findings {
    /// What may explain missing words, among the findings so far.
    pub(crate) fn explanations(&self) -> Explanations {
        let leaves_out = Finding::leaves_out;
        let is_of_construct = |finding: &Finding| finding.code.is_about_constructs();
        let is_anywhere =
            |finding: &Finding| finding.place.is_none() && finding.code == Code::ElementDropped;
        Explanations {
            leaving_out: Places::of(&self.list, leaves_out),
            of_constructs: Places::of(&self.list, |finding| {
                leaves_out(finding) || is_of_construct(finding)
            }),
            anywhere: self.list.iter().position(is_anywhere),
            count: self.list.len(),
        }
    }

    /// Whether something that was left out here explains words that are missing; it says so then.
    pub(crate) fn explains(&mut self, known: &Explanations, place: Place, words: u64) -> bool {
        let places = if words <= FEW_WORDS { &known.of_constructs } else { &known.leaving_out };
        // Words that nothing explained go on behind the last finding that has come since.
        let is_later = |number: &usize| {
            let place_then = self.list.get(*number).and_then(|finding| finding.place);
            *number >= known.count && place_then.is_some_and(|then| covers(then, place))
        };
        let last = || self.list.len().checked_sub(1).filter(is_later);
        let number = places.at(place).or(known.anywhere).or_else(last);
        let found = number.and_then(|number| self.list.get_mut(number));
        found.map(|finding| finding.words += words).is_some()
    }

    /// Whether anything that was left out explains words that are missing; it says so then.
    pub(crate) fn explains_any(&mut self, words: u64) -> bool {
        let found = self.list.iter_mut().find(|finding| finding.leaves_out());
        found.map(|finding| finding.words += words).is_some()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn missing_words_are_explained_by_what_was_left_out_there() {
        let mut findings = Findings::new();
        let at = |start, end| Some(Place::new(start, end));
        findings.add_about(Code::CommandUnknown, "whole", at(1000, 3000));
        findings.add_about(Code::CommandUnknown, "part", at(1500, 1510));
        findings.add_about(Code::GroupUnclosed, "only a problem", at(5000, 5100));
        findings.count(Code::NodeNotCarried, "here and there", at(7000, 7010));
        findings.count(Code::NodeNotCarried, "here and there", at(9000, 9010));
        let cases = [
            (at(1100, 1200), 40, Some("whole")),
            (at(1505, 1520), 40, Some("part")),
            // What a finding names goes on a little behind it.
            (at(3050, 3060), 40, Some("whole")),
            (at(3100, 3160), 40, None),
            (at(900, 999), 40, None),
            (at(5010, 5020), 2, None),
            (at(9005, 9006), 2, Some("here and there")),
        ];
        for (place, words, expected) in cases {
            let known = findings.explanations();
            let before: Vec<u64> = findings.iter().map(|finding| finding.words).collect();
            let is_explained = findings.explains(&known, place.unwrap_or_default(), words);
            let more = findings.iter().zip(before).find(|(finding, words)| finding.words > *words);
            let by = more.and_then(|(finding, _)| finding.subject.as_deref());
            assert_eq!((is_explained, by), (expected.is_some(), expected), "{place:?}");
        }
        // Words that nothing explained go on.
        let known = findings.explanations();
        findings.add_words(Code::TextUnaccounted, 3, Place::new(20_000, 20_010));
        assert!(findings.explains(&known, Place::new(20_020, 20_030), 3));
        assert!(!findings.explains(&known, Place::new(21_000, 21_010), 3));
    }
}
