//! The Atom feed of dated pages (RFC 4287), and the site map (the Sitemaps protocol).

use super::Made;
use crate::plan::Plan;
use crate::site::{Site, address_on_web};
use crate::site_page::SitePage;
use quick_xml::Writer;
use quick_xml::events::{BytesDecl, BytesText, Event};
use std::io;

/// The most entries of a feed.
const NEWEST: usize = 30;

/// The most addresses of one site map, as its protocol says.
const MOST: usize = 50_000;

/// The newest pages of dated folders.
pub(super) fn feed(plan: &Plan, site: &Site, target: &str, address: &str) -> Made {
    let mut pages: Vec<(&SitePage, String)> = site
        .folders
        .values()
        .filter(|folder| folder.dated)
        .flat_map(|folder| &folder.pages)
        .filter_map(|page| site.pages.get(*page))
        .filter_map(|page| Some((page, page.facts().moment()?)))
        .collect();
    pages.sort_by(|one, two| two.1.cmp(&one.1).then_with(|| one.0.target().cmp(two.0.target())));
    pages.truncate(NEWEST);
    // The newest entry says when the feed was last changed: it knows no clock.
    let updated = pages.first().map_or("1970-01-01T00:00:00Z", |(_, date)| date.as_str());
    let bytes = xml(|xml| {
        let feed =
            xml.create_element("feed").with_attribute(("xmlns", "http://www.w3.org/2005/Atom"));
        feed.write_inner_content(|xml| {
            text(xml, "title", &plan.title)?;
            text(xml, "id", address)?;
            text(xml, "updated", updated)?;
            let home = address_on_web(address, &plan.index_of(""));
            xml.create_element("link").with_attribute(("href", home.as_str())).write_empty()?;
            let own = address_on_web(address, target);
            xml.create_element("link")
                .with_attributes([("rel", "self"), ("href", own.as_str())])
                .write_empty()?;
            pages.iter().try_for_each(|(page, date)| entry(xml, plan, page, date, address))
        })?;
        Ok(())
    });
    (target.into(), bytes)
}

fn entry(
    xml: &mut Writer<Vec<u8>>,
    plan: &Plan,
    page: &SitePage,
    date: &str,
    address: &str,
) -> io::Result<()> {
    xml.create_element("entry").write_inner_content(|xml| {
        let own = address_on_web(address, page.target());
        text(xml, "title", page.title())?;
        text(xml, "id", &own)?;
        text(xml, "updated", date)?;
        xml.create_element("link").with_attribute(("href", own.as_str())).write_empty()?;
        // Every entry has an author.
        let author = page.facts().author.as_deref().unwrap_or(&plan.title);
        xml.create_element("author").write_inner_content(|xml| text(xml, "name", author))?;
        for tag in &page.facts().tags {
            xml.create_element("category").with_attribute(("term", tag.as_str())).write_empty()?;
        }
        match &page.facts().description {
            Some(description) => text(xml, "summary", description),
            None => Ok(()),
        }
    })?;
    Ok(())
}

/// All pages that are listed.
pub(super) fn site_map(plan: &Plan, site: &Site, address: &str) -> Made {
    let mut targets: Vec<&str> = site.in_reading_order().map(SitePage::target).collect();
    let indexes = site.folders.values().map(|folder| folder.index.as_str());
    targets.extend(indexes);
    targets.sort_unstable();
    targets.dedup();
    targets.truncate(MOST);
    let bytes = xml(|xml| {
        const SPACE: &str = "http://www.sitemaps.org/schemas/sitemap/0.9";
        let set = xml.create_element("urlset").with_attribute(("xmlns", SPACE));
        set.write_inner_content(|xml| {
            targets.iter().try_for_each(|target| {
                let url = xml.create_element("url");
                url.write_inner_content(|xml| text(xml, "loc", &address_on_web(address, target)))?;
                Ok(())
            })
        })?;
        Ok(())
    });
    (plan.free_name("sitemap", ".xml"), bytes)
}

fn xml(content: impl FnOnce(&mut Writer<Vec<u8>>) -> io::Result<()>) -> Vec<u8> {
    let mut xml = Writer::new_with_indent(Vec::new(), b' ', 1);
    // Memory takes all that is written to it.
    let _ = xml.write_event(Event::Decl(BytesDecl::new("1.0", Some("utf-8"), None)));
    let _ = content(&mut xml);
    let mut bytes = xml.into_inner();
    bytes.push(b'\n');
    bytes
}

fn text(xml: &mut Writer<Vec<u8>>, name: &str, text: &str) -> io::Result<()> {
    xml.create_element(name).write_text_content(BytesText::new(text))?;
    Ok(())
}
