//! What has changed since the last run.

use crate::PublishOptions;
use crate::entry::{Action, Entry, State};
use crate::fingerprint::Fingerprint;
use crate::made::has_search;
use crate::plan::{Plan, hash_of_file};
use crate::standing::{Standing, Standings};
use rayon::prelude::*;
use std::collections::HashMap;

impl Plan {
    /// Finds out what is new, changed, unchanged or in conflict.
    pub(crate) fn compare_with_record(&mut self, options: &PublishOptions) {
        self.find_gone();
        let standings = self.standings();
        let states: Vec<Option<(State, String)>> = self
            .entries
            .par_iter()
            .map(|entry| {
                let is_published = matches!(entry.action, Action::Convert(_) | Action::Copy);
                is_published.then(|| self.state(entry, &standings, options.rebuild))
            })
            .collect();
        for (entry, state) in self.entries.iter_mut().zip(states) {
            if let Some((state, why)) = state {
                (entry.state, entry.why) = (state, why);
            }
        }
        self.add_removed();
    }

    fn state(&self, entry: &Entry, standings: &Standings<'_>, rebuild: bool) -> (State, String) {
        let target = standings.at_a_glance(&entry.target);
        if target == Standing::Foreign {
            let why = match self.before.targets.contains_key(&entry.target) {
                true => "the file in the output folder was changed since the last run",
                false => "the file in the output folder does not come from here",
            };
            return (State::InConflict, why.into());
        }
        let Some(known) = self.before.sources.get(&entry.source) else {
            return match self.renamed_from(entry).first() {
                Some(old) => (State::New, format!("it was {old} before")),
                None => (State::New, "it was not there before".into()),
            };
        };
        let changed = |why: String| (State::Changed, why);
        if entry.hash != Some(known.hash) {
            return changed("its content has changed".into());
        }
        if known.settings != entry.settings(self.format, self.added) {
            return changed("its house, its folder's settings or Obblet itself has changed".into());
        }
        if target == Standing::Doubtful {
            return changed(format!("{} may not be whole: the last run did not end", entry.target));
        }
        for (path, hash) in &known.needs {
            if self.hash_of(path) != *hash {
                return changed(format!("{path}, which it includes, has changed"));
            }
        }
        for (path, target) in &known.links {
            if self.target_of(path) != target.as_deref() {
                return changed(format!("what it links to, {path}, is at another place"));
            }
        }
        let pages = known.pages.iter().map(|page| page.target.as_str());
        let pictures = known.pictures.iter().map(|picture| picture.target.as_str());
        for target in pages.chain(pictures).filter(|target| *target != entry.target) {
            match standings.at_a_glance(target) {
                Standing::Ours => {}
                Standing::Missing => return changed(format!("{target} is missing")),
                Standing::Doubtful => {
                    return changed(format!("{target} may not be whole: the last run did not end"));
                }
                Standing::Foreign => {
                    let why = format!("{target} was changed since the last run");
                    return (State::InConflict, why);
                }
            }
        }
        if target == Standing::Missing {
            return changed(format!("{} is missing", entry.target));
        }
        // The words of a page for the search come from its document alone.
        let is_index_lost = self.left_behind.is_unfinished() && has_search(self);
        match rebuild {
            _ if is_index_lost => changed("the last run did not end".into()),
            true => changed("everything is made anew".into()),
            false => (State::Unchanged, "it is as it was".into()),
        }
    }

    /// Whose the files in the output folder are.
    pub(crate) fn standings(&self) -> Standings<'_> {
        Standings::of(&self.output, &self.before, &self.left_behind)
    }

    /// The fingerprint of a file that documents include.
    fn hash_of(&self, path: &str) -> Option<Fingerprint> {
        match self.entry(path) {
            Some(entry) if entry.hash.is_some() => entry.hash,
            _ => hash_of_file(&self.source.join(path)).ok(),
        }
    }

    /// The sources that had exactly this content and are gone.
    pub(crate) fn renamed_from(&self, entry: &Entry) -> &[String] {
        let is_page = matches!(entry.action, Action::Convert(_));
        let hash = entry.hash.filter(|_| is_page);
        hash.and_then(|hash| self.gone.get(&hash)).map_or(&[], Vec::as_slice)
    }

    /// Sources that are gone, with the pages that are left of them.
    fn add_removed(&mut self) {
        let scope = self.top.clone();
        for (source, known) in &self.before.sources {
            // What is left out now has no page any more either.
            let is_here = self.entry(source).is_some_and(|entry| !entry.target.is_empty());
            if is_here {
                continue;
            }
            let first = known.pages.first().map(|page| page.target.clone());
            let is_excluded = self.entry(source).is_some();
            self.entries.push(Entry {
                source: source.clone(),
                target: first.unwrap_or_else(|| source.clone()),
                action: Action::Remove,
                state: State::Removed,
                why: match is_excluded {
                    true => "it is left out now".into(),
                    false => "its source is gone".into(),
                },
                notes: Vec::new(),
                unreadable: None,
                hash: None,
                stated: None,
                scope: scope.clone(),
            });
        }
        self.entries.sort_by(|one, two| (&one.source, one.state).cmp(&(&two.source, two.state)));
    }

    fn find_gone(&mut self) {
        let is_gone = |source: &&String| !self.by_source.contains_key(*source);
        let gone = self.before.sources.iter().filter(|(source, _)| is_gone(source));
        let mut by_content: HashMap<Fingerprint, Vec<String>> = HashMap::new();
        for (source, known) in gone.filter(|(_, known)| !known.pages.is_empty()) {
            by_content.entry(known.hash).or_default().push(source.clone());
        }
        self.gone = by_content;
    }
}
