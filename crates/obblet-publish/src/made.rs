//! Pages and files that no source becomes: indexes, topics, feed, site map, search, pages that lead on
//! from old addresses, style sheets.

mod feed;
mod listing;
mod moved;

use crate::entry::Action;
use crate::error::PublishError;
use crate::plan::Plan;
use crate::record::SourceRecord;
use crate::search::SearchIndex;
use crate::site::{Site, SiteParts};
use obblet::Format;
use obblet::house::Theme;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

pub(crate) use moved::moved;

/// What pages may load and run (Content Security Policy Level 3): the scripts, style sheets and fonts of the
/// folder itself, pictures, sound and films from anywhere, and nothing else.
const SECURITY_POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; \
                               font-src 'self' data:; img-src * data:; media-src * data:; \
                               base-uri 'self'; form-action 'none'";

/// A file that no source becomes: its target and its bytes.
pub(crate) type Made = (String, Vec<u8>);

/// What pages link to beside other pages.
pub(crate) fn parts(plan: &Plan, facts: &BTreeMap<String, Arc<SourceRecord>>) -> SiteParts {
    if !plan.has_surroundings("") {
        return SiteParts::default();
    }
    let web = &plan.top().web;
    let ending = &plan.page_ending();
    let pages = || facts.values().flat_map(|facts| &facts.pages);
    let address = web.address.as_ref().map(|address| match address.ends_with('/') {
        true => address.clone(),
        false => format!("{address}/"),
    });
    let is_dated = plan.folders.iter().any(|(_, scope)| scope.dated);
    SiteParts {
        tags: pages().any(|page| !page.tags.is_empty()).then(|| plan.free_name("topics", ending)),
        search: has_search(plan).then(|| plan.free_name("search", ".js")),
        feed: (is_dated && address.is_some()).then(|| plan.free_name("feed", ".xml")),
        theme: web.theme.as_deref().map_or_else(Vec::new, |theme| theme_sheets(plan, theme)),
        address,
        security_policy: web.security_policy.then_some(SECURITY_POLICY),
    }
}

/// Whether pages have a search box. Books and forms have no use for scripts, unless somebody says so.
pub(crate) fn has_search(plan: &Plan) -> bool {
    let house = &plan.top().house;
    let is_for_screens = house.page.theme == Theme::Screen && house.limits.elements.is_empty();
    plan.has_surroundings("") && plan.top().web.search.unwrap_or(is_for_screens)
}

/// The style sheets in the theme folder, by name.
fn theme_sheets(plan: &Plan, theme: &str) -> Vec<String> {
    let folder = format!("{}/", theme.trim_end_matches('/'));
    let copies = plan.entries().iter().filter(|entry| entry.action == Action::Copy);
    let sheets = copies.filter(|entry| entry.source.starts_with(&folder));
    sheets.map(|entry| entry.target.clone()).filter(|target| target.ends_with(".css")).collect()
}

/// All of them, in the order in which they are written.
pub(crate) fn all(
    plan: &Plan,
    site: &Site,
    search: Option<&mut SearchIndex>,
    moved: &BTreeMap<String, String>,
) -> Result<Vec<Made>, PublishError> {
    if plan.format != Format::Html {
        return Ok(Vec::new());
    }
    let mut made = listing::indexes(plan, site)?;
    if plan.has_surroundings("") {
        if let Some(target) = &site.parts.tags {
            made.push(listing::topics(plan, site, target)?);
        }
        made.push(listing::not_found(plan, site)?);
        if let (Some(target), Some(address)) = (&site.parts.feed, &site.parts.address) {
            made.push(feed::feed(plan, site, target, address));
        }
        if let Some(address) = &site.parts.address {
            made.push(feed::site_map(plan, site, address));
        }
        if let (Some(script), Some(search)) = (&site.parts.search, search) {
            made.extend(search.files(site, script));
        }
        // What is made under a name stays, whoever says that it is an old one.
        let taken: BTreeSet<String> = made.iter().map(|(target, _)| target.clone()).collect();
        let free = moved.iter().filter(|(old, _)| !taken.contains(*old));
        made.extend(free.map(|(old, new)| moved::page(plan, old, new)));
    }
    let sheets: BTreeSet<&(String, String)> = plan.style_sheets.values().collect();
    made.extend(
        sheets.into_iter().map(|(target, text)| (target.clone(), text.clone().into_bytes())),
    );
    Ok(made)
}
