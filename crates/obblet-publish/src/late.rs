//! Addresses that are not known before all documents are read: where a picture goes that several
//! carry, and on which page of a document in several pages a place is. Until then tokens stand for
//! them in the written HTML.

use crate::fingerprint::Fingerprint;
use crate::plan::Plan;
use crate::record::SourceRecord;
use obblet::address::relative;
use percent_encoding::{NON_ALPHANUMERIC, percent_decode_str, utf8_percent_encode};
use std::collections::{BTreeMap, HashMap};
use std::sync::Arc;

/// What every token begins with.
const TOKEN: &str = "obblet-later-";

/// What stands for the folder of a document's pictures.
pub(crate) fn picture_token(source: &str) -> String {
    token("pictures", source)
}

/// What stands for a place in a document that becomes several pages.
pub(crate) fn place_token(document: &str, anchor: &str) -> String {
    let anchor = utf8_percent_encode(anchor, NON_ALPHANUMERIC);
    format!("{}/{anchor}", token("places", document))
}

fn token(kind: &str, source: &str) -> String {
    let hash = Fingerprint::of_parts([kind.as_bytes(), source.as_bytes()]).to_string();
    format!("{TOKEN}{hash}")
}

/// What the tokens in the pages of one document stand for.
#[derive(Debug, Default)]
pub(crate) struct LateAddresses(HashMap<String, (String, Option<String>)>);

impl LateAddresses {
    /// For a document, when all are known.
    pub(crate) fn of(
        plan: &Plan,
        source: &str,
        known: &SourceRecord,
        facts: &BTreeMap<String, Arc<SourceRecord>>,
    ) -> Self {
        let mut late = HashMap::new();
        let folder = picture_token(source);
        for picture in &known.pictures {
            late.insert(format!("{folder}/{}", picture.name), (picture.target.clone(), None));
        }
        for link in known.anchors.iter().filter(|link| plan.is_split(&link.document)) {
            let Some(to) = facts.get(&link.document) else { continue };
            let page = to.pages.iter().find(|page| page.has_place(&link.anchor));
            if let Some(page) = page.or(to.pages.first()) {
                let token = token("places", &link.document);
                let place = (page.target.clone(), Some(link.anchor.clone()));
                late.insert(format!("{token}/{}", link.anchor), place);
            }
        }
        Self(late)
    }

    /// All of them, for a fingerprint.
    pub(crate) fn sorted(&self) -> BTreeMap<&str, &str> {
        self.0.iter().map(|(token, (target, _))| (token.as_str(), target.as_str())).collect()
    }

    /// Puts addresses, as seen from a page, into the place of the tokens in its HTML; `None` where
    /// there are none.
    pub(crate) fn settle(&self, html: &str, page: &str) -> Option<String> {
        let mut rest = html;
        let mut settled = String::new();
        while let Some((before, behind)) = rest.split_once(TOKEN) {
            settled.push_str(before);
            let end =
                behind.find(['"', '\'', ' ', ',', ')', '<', '#', '?']).unwrap_or(behind.len());
            let (token, behind) = behind.split_at(end);
            let name =
                percent_decode_str(&token.replace("&amp;", "&")).decode_utf8_lossy().into_owned();
            match self.0.get(&format!("{TOKEN}{name}")) {
                Some((target, anchor)) => {
                    settled.push_str(&relative(page, target).replace('&', "&amp;"));
                    if let Some(anchor) = anchor {
                        settled.push('#');
                        settled.push_str(&obblet::formats::html::escaped_text(anchor));
                    }
                }
                // Somebody wrote what looks like a token.
                None => {
                    settled.push_str(TOKEN);
                    settled.push_str(token);
                }
            }
            rest = behind;
        }
        if settled.is_empty() && rest.len() == html.len() {
            return None;
        }
        settled.push_str(rest);
        Some(settled)
    }
}
