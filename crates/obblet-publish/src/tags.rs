//! What pages are about, by their keywords.

use crate::site_page::SitePage;
use std::collections::{BTreeMap, HashSet};

/// A tag and the pages that bear it.
#[derive(Debug, Clone)]
pub(crate) struct Tag {
    /// As the first page spells it.
    pub(crate) title: String,
    /// Where on the page of tags it is.
    pub(crate) id: String,
    pub(crate) pages: Vec<usize>,
}

/// All tags, by their spelling in small letters.
#[derive(Debug, Default)]
pub(crate) struct Tags(BTreeMap<String, Tag>);

impl Tags {
    pub(crate) fn of(pages: &[SitePage], is_listed: &dyn Fn(&SitePage) -> bool) -> Self {
        let mut tags: BTreeMap<String, Tag> = BTreeMap::new();
        for (index, page) in pages.iter().enumerate().filter(|(_, page)| is_listed(page)) {
            for title in &page.facts().tags {
                let tag = tags.entry(title.to_lowercase()).or_insert_with(|| Tag {
                    title: title.clone(),
                    id: String::new(),
                    pages: Vec::new(),
                });
                if tag.pages.last() != Some(&index) {
                    tag.pages.push(index);
                }
            }
        }
        let mut taken = HashSet::new();
        for (name, tag) in &mut tags {
            tag.id = free_id(name, &mut taken);
        }
        Self(tags)
    }

    pub(crate) fn get(&self, title: &str) -> Option<&Tag> {
        self.0.get(&title.to_lowercase())
    }

    pub(crate) fn iter(&self) -> impl Iterator<Item = &Tag> {
        self.0.values()
    }
}

/// Letters and digits of a name, with hyphens between the words.
fn free_id(name: &str, taken: &mut HashSet<String>) -> String {
    let words = name.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
    let base = format!("topic-{}", words.collect::<Vec<_>>().join("-"));
    let mut id = base.clone();
    let mut number = 2;
    while !taken.insert(id.clone()) {
        id = format!("{base}-{number}");
        number += 1;
    }
    id
}
