//! Pages that list other pages.

use super::Made;
use crate::error::PublishError;
use crate::plan::Plan;
use crate::site::{Site, SiteFolder};
use crate::site_page::SitePage;
use obblet::address::relative;
use obblet::document::build::{bullets, heading, link, paragraph};
use obblet::document::{Attributes, Block, Document, Inline};
use obblet::page::{ListedPage, SiteWords, Surroundings};
use obblet::{Format, House, WriteOptions, write};
use rayon::prelude::*;

/// The most pages that one index lists folder by folder; larger ones list folders alone.
const WHOLE: usize = 150;

/// The index of every folder that has no page of its own for that.
pub(super) fn indexes(plan: &Plan, site: &Site) -> Result<Vec<Made>, PublishError> {
    let is_wanted = |path: &str, folder: &SiteFolder| {
        let is_free = folder.own_index.is_none() && !plan.is_target(&folder.index);
        is_free && (path.is_empty() || plan.has_surroundings(path))
    };
    let folders = site.folders.iter().filter(|(path, folder)| is_wanted(path, folder));
    let folders: Vec<(&String, &SiteFolder)> = folders.collect();
    folders.into_par_iter().map(|(path, folder)| index(plan, site, path, folder)).collect()
}

fn index(plan: &Plan, site: &Site, path: &str, folder: &SiteFolder) -> Result<Made, PublishError> {
    let mut list =
        List { plan, site, from: &folder.index, words: words(plan), entries: Vec::new() };
    let mut blocks = vec![heading(1, folder.title.as_str())];
    let below: Vec<(&String, &SiteFolder)> = site
        .folders
        .iter()
        .filter(|(inner, _)| is_below(inner, path) && inner.as_str() != path)
        .collect();
    let count: usize = below.iter().map(|(_, inner)| inner.pages.len()).sum();
    list.pages(folder, "", &mut blocks);
    if folder.pages.len() + count <= WHOLE || !plan.has_surroundings(path) {
        for (inner, folder) in below {
            let names: Vec<&str> = site.titles_below(path, inner);
            let title = names.join(" / ");
            if !folder.pages.is_empty() || folder.own_index.is_some() {
                blocks.push(list.folder_heading(inner, folder, &title));
                list.pages(folder, &title, &mut blocks);
            }
        }
    } else {
        list.folders(folder, &mut blocks);
    }
    let entries = list.entries;
    let around = Surroundings { entries, ..site.around_target(plan, &folder.index, path) };
    made(plan, path, &folder.index, &folder.title, blocks, around)
}

fn is_below(inner: &str, folder: &str) -> bool {
    folder.is_empty() || inner.strip_prefix(folder).is_some_and(|rest| rest.starts_with('/'))
}

fn words(plan: &Plan) -> &'static SiteWords {
    SiteWords::of_language(plan.language())
}

/// A list of pages as seen from one page.
struct List<'s> {
    plan: &'s Plan,
    site: &'s Site,
    from: &'s str,
    words: &'static SiteWords,
    /// The same for layouts.
    entries: Vec<ListedPage>,
}

impl List<'_> {
    fn pages(&mut self, folder: &SiteFolder, title: &str, blocks: &mut Vec<Block>) {
        let mut items = Vec::new();
        for page in folder.pages.iter().filter_map(|page| self.site.pages.get(*page)) {
            items.push(vec![self.item(page, folder.dated)]);
            self.entries.push(ListedPage {
                title: page.title().into(),
                address: relative(self.from, page.target()),
                description: page.facts().description.clone(),
                date: page.facts().date.clone(),
                folder: title.into(),
            });
        }
        if !items.is_empty() {
            blocks.push(bullets(items));
        }
    }

    fn item(&self, page: &SitePage, is_dated: bool) -> Block {
        let facts = page.facts();
        let address = relative(self.from, page.target());
        let mut content: Vec<Inline> = Vec::new();
        if let Some(date) = facts.date.as_deref().filter(|_| is_dated) {
            content.push(Inline::from(format!("{}: ", self.words.date(date))));
        }
        content.push(link(address, page.title()));
        if let Some(description) = &facts.description {
            content.push(Inline::from(format!(" – {description}")));
        }
        paragraph(content)
    }

    /// The heading of a folder leads to its index, where it has one.
    fn folder_heading(&self, path: &str, folder: &SiteFolder, title: &str) -> Block {
        let has_index = folder.own_index.is_some() || self.plan.has_surroundings(path);
        match has_index {
            true => heading(2, vec![link(relative(self.from, &folder.index), title)]),
            false => heading(2, title),
        }
    }

    /// The folders in a large one, with how many pages each has.
    fn folders(&self, folder: &SiteFolder, blocks: &mut Vec<Block>) {
        let inner =
            folder.folders.iter().filter_map(|path| Some((path, self.site.folders.get(path)?)));
        let items = inner.map(|(path, folder)| {
            let address = relative(self.from, &folder.index);
            let count = self.site.count_below(path);
            vec![paragraph(vec![
                link(address, folder.title.as_str()),
                Inline::from(format!(" ({count})")),
            ])]
        });
        let items: Vec<Vec<Block>> = items.collect();
        if !items.is_empty() {
            blocks.push(bullets(items));
        }
    }
}

/// The page of all topics.
pub(super) fn topics(plan: &Plan, site: &Site, target: &str) -> Result<Made, PublishError> {
    let words = words(plan);
    let list = List { plan, site, from: target, words, entries: Vec::new() };
    let mut blocks = vec![heading(1, words.tags)];
    for tag in site.tags.iter() {
        let mut title = heading(2, tag.title.as_str());
        title.attributes = Attributes::with_id(tag.id.as_str());
        blocks.push(title);
        let pages = tag.pages.iter().filter_map(|page| site.pages.get(*page));
        blocks.push(bullets(pages.map(|page| vec![list.item(page, false)]).collect()));
    }
    made(plan, "", target, words.tags, blocks, site.around_target(plan, target, ""))
}

/// The page that a server shows for a wrong address. It may stand for an address in any folder, so
/// its own links are right only where it is known where the web folder will be.
pub(super) fn not_found(plan: &Plan, site: &Site) -> Result<Made, PublishError> {
    let words = words(plan);
    let target = plan.free_name("404", &plan.page_ending());
    let home = link(relative(&target, &plan.index_of("")), plan.title.as_str());
    let blocks =
        vec![heading(1, words.not_found), paragraph(words.not_found_text), paragraph(vec![home])];
    let around = Surroundings {
        base: site.parts.address.clone(),
        own_address: None,
        ..site.around_target(plan, &target, "")
    };
    made(plan, "", &target, words.not_found, blocks, around)
}

/// A page of ours in the house of its folder.
fn made(
    plan: &Plan,
    folder: &str,
    target: &str,
    title: &str,
    blocks: Vec<Block>,
    surroundings: Surroundings,
) -> Result<Made, PublishError> {
    let scope = plan.scope(folder).map(AsRef::as_ref).unwrap_or_else(|| plan.top());
    let mut document = Document::of(blocks);
    document.metadata.title = vec![title.into()];
    document.metadata.language = Some(plan.language().into());
    let mut house = scope.house.as_ref().clone();
    // A list of pages needs no list of its headings.
    house.page.contents = 0;
    // Rules and limits are for documents.
    house.rules.clear();
    house.limits = House::default().limits;
    let sheet = plan.style_sheets.get(&scope.house_print);
    let options = WriteOptions {
        house,
        style_sheet_address: sheet.map(|(sheet, _)| relative(target, sheet)),
        surroundings,
        ..WriteOptions::format(Format::Html)
    };
    match write(&document, &options) {
        Ok(written) => Ok((target.to_string(), written.bytes)),
        Err(error) => Err(PublishError::Made { page: target.into(), error }),
    }
}
