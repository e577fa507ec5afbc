//! The index page: every page of the folder, by folder.

use crate::PublishOptions;
use crate::links::relative_address;
use crate::plan::{Plan, title_of_name};
use crate::report::{Outcome, OutcomeKind};
use obblet::document::build::{bullets, heading, link, paragraph};
use obblet::document::{Block, Document, Inline};
use obblet::page::Surroundings;
use obblet::{Format, House, WriteError, WriteOptions, write};
use std::collections::BTreeMap;

/// The index page as HTML.
pub(crate) fn index_page(
    plan: &Plan,
    outcomes: &[Outcome],
    options: &PublishOptions,
) -> Result<Vec<u8>, WriteError> {
    let mut document = Document::of(vec![heading(1, plan.title.as_str())]);
    document.metadata.title = vec![plan.title.as_str().into()];
    document.blocks.extend(listing(&plan.index, outcomes));
    let mut house = options.house.clone();
    // A list of pages needs no list of its headings.
    house.page.contents = 0;
    // Rules and limits are for documents.
    house.rules.clear();
    house.limits = House::default().limits;
    let written = write(
        &document,
        &WriteOptions {
            format: Format::Html,
            house,
            picture_folder: None,
            style_sheet_address: plan.style_sheet.clone(),
            surroundings: Surroundings::default(),
        },
    )?;
    Ok(written.bytes)
}

/// A list of pages for each folder, the top one without a heading.
fn listing(index: &str, outcomes: &[Outcome]) -> Vec<Block> {
    let is_page =
        |outcome: &&Outcome| outcome.title.is_some() || outcome.kind == OutcomeKind::Converted;
    let mut folders: BTreeMap<&str, Vec<Vec<Block>>> = BTreeMap::new();
    for outcome in outcomes.iter().filter(is_page) {
        let folder = outcome.target.rsplit_once('/').map_or("", |(folder, _)| folder);
        folders.entry(folder).or_default().push(vec![entry(index, outcome)]);
    }
    let mut blocks = Vec::new();
    for (folder, items) in folders {
        if !folder.is_empty() {
            let names: Vec<String> = folder.split('/').map(title_of_name).collect();
            blocks.push(heading(2, names.join(" / ").as_str()));
        }
        blocks.push(bullets(items));
    }
    blocks
}

fn entry(index: &str, outcome: &Outcome) -> Block {
    let title = outcome.title.as_deref().unwrap_or(&outcome.source);
    let mut content: Vec<Inline> = vec![link(relative_address(index, &outcome.target), title)];
    if let Some(description) = &outcome.description {
        content.push(Inline::from(format!(" – {description}")));
    }
    paragraph(content)
}
