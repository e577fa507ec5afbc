//! Links, and references to places of the page.

use super::{RawHtml, Writer};
use crate::document::Reference;
use crate::document::{Link, clean_id};
use crate::formats::html::address::{
    AddressUse, BadAddress, check, check_trusted, has_impossible_host, push_address,
};
use crate::formats::html::{REFERENCES, SHOWS};

impl Writer<'_> {
    pub(super) fn link(&mut self, link: &Link) {
        if self.inside_link {
            self.not_carried("a link inside a link");
            return self.inlines(&link.content);
        }
        let mut checked = match self.options.raw_html {
            RawHtml::Trusted => check_trusted(&link.address, AddressUse::Link),
            RawHtml::Sanitised => check(&link.address, AddressUse::Link),
        };
        if self.options.valid_page && has_impossible_host(&link.address) {
            checked = Err(BadAddress::Broken);
        }
        if let Err(bad) = checked {
            self.bad_address(bad, &link.address);
            return self.inlines(&link.content);
        }
        self.out.push_str("<a href=\"");
        match link.address.strip_prefix('#').and_then(clean_id) {
            Some(id) => push_address(&mut self.out, &format!("#{id}")),
            None => push_address(&mut self.out, &link.address),
        }
        self.out.push('"');
        self.title(link.title.as_deref(), &link.attributes);
        self.attributes(&link.attributes);
        self.out.push('>');
        self.inside_link = true;
        self.inlines(&link.content);
        self.inside_link = false;
        self.out.push_str("</a>");
    }

    pub(super) fn reference(&mut self, reference: &Reference) {
        if reference.stored.is_empty() {
            self.not_carried(&format!("the number that “{}” stands for", reference.target));
        }
        if self.inside_link {
            return self.inlines(&reference.stored);
        }
        self.out.push_str("<a href=\"#");
        push_address(&mut self.out, &clean_id(&reference.target).unwrap_or_default());
        self.out.push('"');
        if let Some((_, shows)) = REFERENCES.iter().find(|(shows, _)| *shows == reference.shows) {
            self.attribute(SHOWS, shows);
        }
        self.out.push('>');
        self.inside_link = true;
        self.inlines(&reference.stored);
        self.inside_link = false;
        self.out.push_str("</a>");
    }
}
