//! A page saved with its pictures and style sheets as one file (MHTML, RFC 2557). The MIME parser is a
//! package; this finds what belongs to what.

use mail_parser::{MessageParser, MimeHeaders as _, PartType};
use std::collections::HashMap;
use std::sync::Arc;
use url::Url;

/// The parts of a saved page beside its HTML.
#[derive(Debug, Default)]
pub(crate) struct SavedParts {
    /// Where the page once stood.
    base: Option<Url>,
    /// Media type and bytes, by address.
    pictures: HashMap<String, (String, Arc<[u8]>)>,
    style_sheets: HashMap<String, String>,
}

/// The HTML of a saved page and its parts; `None` when it holds no HTML.
pub(crate) fn opened(source: &[u8]) -> Option<(String, SavedParts)> {
    let message = MessageParser::default().parse(source)?;
    let mut page: Option<String> = None;
    let mut parts = SavedParts::default();
    for part in &message.parts {
        let location = part.content_location().map(str::to_string);
        let id = part.content_id().map(|id| format!("cid:{id}"));
        let addresses = || location.clone().into_iter().chain(id.clone());
        match &part.body {
            PartType::Html(html) if page.is_none() => {
                page = Some(html.to_string());
                parts.base = location.as_deref().and_then(|address| Url::parse(address).ok());
            }
            PartType::Text(text) if media_type(part) == "text/css" => {
                for address in addresses() {
                    parts.style_sheets.insert(address, text.to_string());
                }
            }
            PartType::Binary(bytes) | PartType::InlineBinary(bytes) => {
                let bytes: Arc<[u8]> = bytes.as_ref().into();
                for address in addresses() {
                    parts.pictures.insert(address, (media_type(part), bytes.clone()));
                }
            }
            _ => {}
        }
    }
    Some((page?, parts))
}

fn media_type(part: &mail_parser::MessagePart<'_>) -> String {
    let Some(kind) = part.content_type() else { return String::new() };
    format!("{}/{}", kind.ctype(), kind.subtype().unwrap_or_default()).to_ascii_lowercase()
}

impl SavedParts {
    /// Media type and bytes of a picture by its address in the page.
    pub(super) fn picture(&self, address: &str) -> Option<&(String, Arc<[u8]>)> {
        self.find(&self.pictures, address)
    }

    /// A style sheet by its address in the page.
    pub(super) fn style_sheet(&self, address: &str) -> Option<&str> {
        self.find(&self.style_sheets, address).map(String::as_str)
    }

    /// The address that one in the page stands for, now that the page stands elsewhere. Places in
    /// the page itself stay as they are.
    pub(super) fn resolved(&self, address: &str) -> Option<String> {
        let base = self.base.as_ref().filter(|_| !address.starts_with('#'))?;
        let resolved = base.join(address).ok()?;
        // A link to the page itself leads to a place in it.
        if resolved.as_str().split('#').next() == base.as_str().split('#').next() {
            return resolved.fragment().map(|fragment| format!("#{fragment}"));
        }
        matches!(base.scheme(), "http" | "https").then(|| resolved.into())
    }

    fn find<'p, T>(&self, parts: &'p HashMap<String, T>, address: &str) -> Option<&'p T> {
        let joined = || self.base.as_ref()?.join(address).ok();
        parts.get(address).or_else(|| parts.get(joined()?.as_str()))
    }
}
