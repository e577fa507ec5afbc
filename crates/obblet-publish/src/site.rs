//! The pages of a web folder as a whole: their order, and what stands around each.

use crate::PublishOptions;
use crate::entry::Action;
use crate::error::PlanError;
use crate::plan::Plan;
use crate::record::{PageRecord, SourceRecord};
use crate::site_page::SitePage;
use crate::tags::Tags;
use crate::titles::title_of_name;
use obblet::address::relative;
use obblet::page::{PageLink, Surroundings, TreeNode, layout_asks_for_tree};
use std::cmp::Ordering;
use std::collections::{BTreeMap, HashMap};
use std::path::Path;
use std::sync::Arc;

/// The most pages that are listed beside a page: those nearest to it.
const BESIDE: usize = 40;

/// A folder of the web folder.
#[derive(Debug, Default)]
pub(crate) struct SiteFolder {
    pub(crate) title: String,
    /// Its pages that are listed, in order, without its index.
    pub(crate) pages: Vec<usize>,
    /// The folders in it that have pages, in order.
    pub(crate) folders: Vec<String>,
    /// The target of its index.
    pub(crate) index: String,
    /// The page of a source that is its index.
    pub(crate) own_index: Option<usize>,
    pub(crate) dated: bool,
}

/// The whole address of a target, below that of the folder.
pub(crate) fn address_on_web(folder: &str, target: &str) -> String {
    // What is before a name with a colon has nothing to say here.
    format!("{folder}{}", relative("", target).trim_start_matches("./"))
}

/// All pages, in the order in which one reads them.
#[derive(Debug)]
pub(crate) struct Site {
    pub(crate) pages: Vec<SitePage>,
    pub(crate) folders: BTreeMap<String, SiteFolder>,
    /// The listed pages in reading order.
    reading: Vec<usize>,
    /// Where in that order a page is.
    place: HashMap<usize, usize>,
    by_target: HashMap<String, usize>,
    pub(crate) tags: Tags,
    /// The parts that pages link to, by target.
    pub(crate) parts: SiteParts,
}

/// Targets that pages link to.
#[derive(Debug, Clone, Default)]
pub(crate) struct SiteParts {
    pub(crate) tags: Option<String>,
    pub(crate) search: Option<String>,
    pub(crate) feed: Option<String>,
    /// Style sheets of the theme folder.
    pub(crate) theme: Vec<String>,
    /// Where the folder will be found.
    pub(crate) address: Option<String>,
    /// What pages may load and run, where that is to be said.
    pub(crate) security_policy: Option<&'static str>,
}

impl Site {
    /// Puts the pages of all sources in order.
    pub(crate) fn of(
        plan: &Plan,
        facts: &BTreeMap<String, Arc<SourceRecord>>,
        parts: SiteParts,
    ) -> Self {
        let mut site = Self {
            pages: Vec::new(),
            folders: BTreeMap::new(),
            reading: Vec::new(),
            place: HashMap::new(),
            by_target: HashMap::new(),
            tags: Tags::default(),
            parts,
        };
        for entry in
            plan.entries().iter().filter(|entry| matches!(entry.action, Action::Convert(_)))
        {
            let Some(known) = facts.get(&entry.source) else { continue };
            let folder = entry.source.rsplit_once('/').map_or("", |(folder, _)| folder);
            for (number, page) in known.pages.iter().enumerate() {
                site.by_target.insert(page.target.clone(), site.pages.len());
                site.pages.push(SitePage {
                    source: entry.source.clone(),
                    folder: folder.to_string(),
                    known: known.clone(),
                    number,
                });
            }
        }
        site.make_folders(plan);
        site.sort(plan);
        site.tags = Tags::of(&site.pages, &|page| !site.is_unlisted(plan, page));
        site
    }

    fn is_unlisted(&self, plan: &Plan, page: &SitePage) -> bool {
        plan.scope(&page.folder).is_some_and(|scope| scope.unlisted)
    }

    fn make_folders(&mut self, plan: &Plan) {
        self.folder(plan, "");
        for index in 0..self.pages.len() {
            let Some(page) = self.pages.get(index) else { continue };
            if self.is_unlisted(plan, page) {
                continue;
            }
            let (folder, target) = (page.folder.clone(), page.target().to_string());
            let folder = self.folder(plan, &folder);
            if folder.index == target {
                folder.own_index = Some(index);
            } else {
                folder.pages.push(index);
            }
        }
    }

    /// The folder of this path, made with all above it if need be.
    fn folder(&mut self, plan: &Plan, path: &str) -> &mut SiteFolder {
        let mut inner = path;
        while !self.folders.contains_key(inner) {
            let scope = plan.scope(inner);
            let name = inner.rsplit('/').next().unwrap_or_default();
            let title = scope.and_then(|scope| scope.title.clone());
            let folder = SiteFolder {
                title: match inner {
                    "" => plan.title.clone(),
                    _ => title.unwrap_or_else(|| title_of_name(name)),
                },
                index: plan.index_of(inner),
                dated: scope.is_some_and(|scope| scope.dated),
                ..SiteFolder::default()
            };
            self.folders.insert(inner.to_string(), folder);
            if inner.is_empty() {
                break;
            }
            inner = inner.rsplit_once('/').map_or("", |(above, _)| above);
        }
        self.folders.entry(path.to_string()).or_default()
    }

    fn sort(&mut self, plan: &Plan) {
        let paths: Vec<String> = self.folders.keys().cloned().collect();
        for path in paths.iter().filter(|path| !path.is_empty()) {
            let above = path.rsplit_once('/').map_or("", |(above, _)| above);
            if let Some(folder) = self.folders.get_mut(above) {
                folder.folders.push(path.clone());
            }
        }
        for path in &paths {
            let order: &[String] = plan.scope(path).map_or(&[], |scope| &scope.order);
            let name_of = |path: &str| path.rsplit('/').next().unwrap_or_default().to_string();
            let pages = &self.pages;
            let Some(folder) = self.folders.get_mut(path) else { continue };
            let dated = folder.dated;
            folder.pages.sort_by(|one, two| match (pages.get(*one), pages.get(*two)) {
                (Some(one), Some(two)) => {
                    let date = |page: &SitePage| {
                        page.facts().moment().or_else(|| page.facts().date.clone())
                    };
                    let dates = || date(two).cmp(&date(one));
                    let by_order = in_order(order, &name_of(&one.source), &name_of(&two.source));
                    let by_date = if dated { dates() } else { Ordering::Equal };
                    by_order
                        .then(by_date)
                        .then_with(|| natural(&one.source, &two.source))
                        .then(one.number.cmp(&two.number))
                }
                _ => Ordering::Equal,
            });
            folder.folders.sort_by(|one, two| {
                in_order(order, &name_of(one), &name_of(two)).then_with(|| natural(one, two))
            });
        }
        self.set_reading_order();
    }

    /// A folder's index, its pages, then the folders in it.
    fn set_reading_order(&mut self) {
        let mut open = vec![String::new()];
        while let Some(path) = open.pop() {
            let Some(folder) = self.folders.get(&path) else { continue };
            self.reading.extend(folder.own_index);
            self.reading.extend(&folder.pages);
            open.extend(folder.folders.iter().rev().cloned());
        }
        self.place = self.reading.iter().enumerate().map(|(place, page)| (*page, place)).collect();
    }

    /// The listed pages, in the order in which one reads them.
    pub(crate) fn in_reading_order(&self) -> impl Iterator<Item = &SitePage> {
        self.reading.iter().filter_map(|page| self.pages.get(*page))
    }

    /// What stands around the page at a target; nothing where pages have nothing around them.
    pub(crate) fn around_page(&self, plan: &Plan, target: &str) -> Surroundings {
        match self.by_target.get(target).and_then(|at| Some((*at, self.pages.get(*at)?))) {
            Some((index, page)) if plan.has_surroundings(&page.folder) => self.around(plan, index),
            _ => Surroundings::default(),
        }
    }

    /// What stands around the page of a source.
    fn around(&self, plan: &Plan, index: usize) -> Surroundings {
        let Some(page) = self.pages.get(index) else { return Surroundings::default() };
        let target = page.target();
        let mut around = self.around_target(plan, target, &page.folder);
        let link = |to: usize| {
            let to = self.pages.get(to)?;
            Some(PageLink::new(to.title(), relative(target, to.target())))
        };
        if let Some(folder) = self.folders.get(&page.folder).filter(|folder| folder.pages.len() > 1)
        {
            let own = folder.pages.iter().position(|beside| *beside == index);
            let first = own.unwrap_or(0).saturating_sub(BESIDE / 2);
            let first = first.min(folder.pages.len().saturating_sub(BESIDE));
            let near = folder.pages.iter().skip(first).take(BESIDE);
            around.pages = near
                .filter_map(|beside| {
                    Some(PageLink { is_current: *beside == index, ..link(*beside)? })
                })
                .collect();
            around.pages_title.clone_from(&folder.title);
        }
        if let Some(place) = self.place.get(&index) {
            let at = |place: usize| self.reading.get(place).copied().and_then(link);
            around.previous = place.checked_sub(1).and_then(at);
            around.next = at(place + 1);
        }
        around.tags = self.tags_of(page);
        if layout_asks_for_tree(
            plan.scope(&page.folder).map_or(&plan.top().house, |scope| &scope.house),
        ) {
            around.tree = self.tree();
        }
        around
    }

    /// What stands around any page at this target that belongs to a folder.
    pub(crate) fn around_target(&self, plan: &Plan, target: &str, folder: &str) -> Surroundings {
        let home = plan.index_of("");
        let to = |part: &Option<String>| part.as_deref().map(|part| relative(target, part));
        Surroundings {
            home: (target != home).then(|| relative(target, &home)),
            home_title: plan.title.clone(),
            trail: self.trail(target, folder),
            feed: to(&self.parts.feed),
            search: to(&self.parts.search),
            style_sheets: self.parts.theme.iter().map(|part| relative(target, part)).collect(),
            own_address: self.parts.address.as_deref().map(|web| address_on_web(web, target)),
            security_policy: self.parts.security_policy.map(str::to_string),
            up: "../".repeat(target.matches('/').count()),
            ..Surroundings::default()
        }
    }

    /// The folders above a page, but for the top one.
    fn trail(&self, target: &str, folder: &str) -> Vec<PageLink> {
        let ends = folder.match_indices('/').map(|(at, _)| at).chain([folder.len()]);
        ends.filter_map(|end| {
            let path = folder.get(..end).filter(|path| !path.is_empty())?;
            let folder = self.folders.get(path).filter(|folder| folder.index != target)?;
            Some(PageLink::new(&folder.title, relative(target, &folder.index)))
        })
        .collect()
    }

    /// The titles of the folders from below one down to another.
    pub(crate) fn titles_below(&self, folder: &str, inner: &str) -> Vec<&str> {
        let ends = inner.match_indices('/').map(|(at, _)| at).chain([inner.len()]);
        ends.filter(|end| *end > folder.len())
            .filter_map(|end| self.folders.get(inner.get(..end)?))
            .map(|folder| folder.title.as_str())
            .collect()
    }

    /// How many pages are in a folder and the folders in it.
    pub(crate) fn count_below(&self, folder: &str) -> usize {
        let inside = format!("{folder}/");
        let below = self.folders.range(inside.clone()..);
        let below = below.take_while(|(path, _)| path.starts_with(&inside)).map(|(_, inner)| inner);
        let all = self.folders.get(folder).into_iter().chain(below);
        all.map(|folder| folder.pages.len() + usize::from(folder.own_index.is_some())).sum()
    }

    fn tags_of(&self, page: &SitePage) -> Vec<PageLink> {
        let Some(list) = &self.parts.tags else { return Vec::new() };
        let address = relative(page.target(), list);
        let link = |tag: &String| {
            let known = self.tags.get(tag)?;
            Some(PageLink::new(tag, format!("{address}#{}", known.id)))
        };
        page.facts().tags.iter().filter_map(link).collect()
    }

    /// All pages, nested as the folders are.
    fn tree(&self) -> Vec<TreeNode> {
        // From the innermost folders out: paths sort behind those of the folders around them.
        let mut made: HashMap<&str, TreeNode> = HashMap::new();
        for (path, folder) in self.folders.iter().rev() {
            let page = |index: &usize| {
                let page = self.pages.get(*index)?;
                Some(TreeNode {
                    title: page.title().into(),
                    address: Some(relative("", page.target())),
                    pages: Vec::new(),
                })
            };
            let mut pages: Vec<TreeNode> = folder.pages.iter().filter_map(page).collect();
            pages.extend(folder.folders.iter().filter_map(|path| made.remove(path.as_str())));
            let address = Some(relative("", &folder.index));
            made.insert(path, TreeNode { title: folder.title.clone(), address, pages });
        }
        made.remove("").map_or_else(Vec::new, |top| top.pages)
    }
}

/// The documents of a folder, in the order in which a published folder is read: paths below it.
///
/// # Errors
/// [`PlanError`] when the folder cannot be read, or its settings are wrong.
pub fn documents_in_order(folder: &Path) -> Result<Vec<String>, PlanError> {
    let plan = Plan::of_sources(folder, &PublishOptions::default())?;
    let nothing = Arc::new(SourceRecord::nothing());
    let facts = plan
        .entries()
        .iter()
        .map(|entry| {
            let page = PageRecord { target: entry.target.clone(), ..PageRecord::default() };
            let known = SourceRecord { pages: vec![page], ..SourceRecord::clone(&nothing) };
            (entry.source.clone(), Arc::new(known))
        })
        .collect();
    let site = Site::of(&plan, &facts, SiteParts::default());
    Ok(site.in_reading_order().map(|page| page.source.clone()).collect())
}

/// Those that the order names come first, in its order.
fn in_order(order: &[String], one: &str, two: &str) -> Ordering {
    let place = |name: &str| order.iter().position(|named| named == name).unwrap_or(order.len());
    place(one).cmp(&place(two))
}

/// By the letters, and numbers in the names by their value: `2 sluice` before `10 wheel`.
fn natural(one: &str, two: &str) -> Ordering {
    let (mut left, mut right) = (one, two);
    loop {
        let (left_number, right_number) = (digits(left), digits(right));
        if left_number > 0 && right_number > 0 {
            let (a, rest_a) = left.split_at(left_number);
            let (b, rest_b) = right.split_at(right_number);
            let (short_a, short_b) = (a.trim_start_matches('0'), b.trim_start_matches('0'));
            let order = short_a.len().cmp(&short_b.len()).then_with(|| short_a.cmp(short_b));
            if order.is_ne() {
                return order;
            }
            (left, right) = (rest_a, rest_b);
            continue;
        }
        let (mut a, mut b) = (left.chars(), right.chars());
        match (a.next(), b.next()) {
            (Some(first), Some(second)) => {
                let order = first.to_lowercase().cmp(second.to_lowercase());
                if order.is_ne() {
                    return order;
                }
                (left, right) = (a.as_str(), b.as_str());
            }
            (None, None) => return one.cmp(two),
            (None, Some(_)) => return Ordering::Less,
            (Some(_), None) => return Ordering::Greater,
        }
    }
}

fn digits(text: &str) -> usize {
    text.bytes().take_while(u8::is_ascii_digit).count()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_sort_as_people_count() {
        let mut names = ["b10", "b9", "a/2.md", "a/10.md", "B9a", "b09", "a", "é"];
        names.sort_by(|one, two| natural(one, two));
        assert_eq!(names, ["a", "a/2.md", "a/10.md", "b09", "b9", "B9a", "b10", "é"]);
    }
}
