//! One document of a folder: read, links turned, written to memory.

use crate::PublishOptions;
use crate::links::{AnchorLink, relative_address, rewrite_links};
use crate::plan::{Entry, Plan};
use crate::resolver::FolderResolver;
use obblet::document::{CompactString, Media};
use obblet::findings::{Finding, Findings};
use obblet::page::Surroundings;
use obblet::{ConvertError, Format, WriteOptions, read_with, take_in_pictures, write};
use std::collections::HashSet;

/// A page in memory.
pub(crate) struct Page {
    pub(crate) bytes: Vec<u8>,
    pub(crate) media: Vec<Media>,
    /// The folder of the media, below the output folder.
    pub(crate) media_folder: String,
    pub(crate) findings: Vec<Finding>,
    pub(crate) title: Option<String>,
    pub(crate) description: Option<String>,
    pub(crate) ids: HashSet<CompactString>,
    /// Links to places in other documents, with their line and column worked out.
    pub(crate) anchors: Vec<(AnchorLink, Finding)>,
}

/// Converts one document.
pub(crate) fn convert(
    bytes: &[u8],
    format: Format,
    entry: &Entry,
    plan: &Plan,
    options: &PublishOptions,
) -> Result<Page, ConvertError> {
    let folder = plan.source.join(&entry.source);
    let resolver = FolderResolver::new(&plan.source, folder.parent().unwrap_or(&plan.source));
    let mut reading = read_with(bytes, format, &options.house.read_options(), &resolver)?;
    options.house.repairs_for(format).run(&mut reading.document, &mut reading.findings);
    let house = &options.house;
    take_in_pictures(&mut reading.document, house, &resolver, &mut reading.findings);
    let mut findings = reading.findings;
    let anchors = rewrite_links(&mut reading.document, &entry.source, plan, &mut findings);

    let (folder, file) = entry.target.rsplit_once('/').unwrap_or(("", &entry.target));
    let stem = file.rsplit_once('.').map_or(file, |(stem, _)| stem);
    let pictures = format!("{stem}-pictures");
    let written = write(
        &reading.document,
        &WriteOptions {
            format: Format::Html,
            house: options.house.clone(),
            picture_folder: Some(pictures.clone()),
            style_sheet_address: plan
                .style_sheet
                .as_deref()
                .map(|sheet| relative_address(&entry.target, sheet)),
            surroundings: surroundings(entry, plan),
        },
    )?;
    findings.extend(written.findings);
    findings.locate(&reading.map);
    findings.sort();
    let anchors = anchors
        .into_iter()
        .filter_map(|link| {
            // A finding made ready now, while lines and columns can be told.
            let mut ready = Findings::new();
            let code = obblet::findings::Code::AnchorBroken;
            ready.add_about(code, &link.address, Some(link.place));
            ready.locate(&reading.map);
            Some((link, ready.into_vec().pop()?))
        })
        .collect();
    let slash = if folder.is_empty() { "" } else { "/" };
    Ok(Page {
        bytes: written.bytes,
        media: written.media,
        media_folder: format!("{folder}{slash}{pictures}"),
        findings: findings.into_vec(),
        title: written.title,
        description: reading.document.metadata.description,
        ids: written.ids,
        anchors,
    })
}

fn surroundings(entry: &Entry, plan: &Plan) -> Surroundings {
    let is_home = entry.target == plan.index;
    Surroundings {
        home: (!is_home).then(|| relative_address(&entry.target, &plan.index)),
        home_title: plan.title.clone(),
    }
}
