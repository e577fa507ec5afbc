//! What a house does not take.

use super::Subject;
use crate::convert::write;
use crate::findings::Code;
use crate::format::Format;
use crate::house::House;
use crate::options::WriteOptions;

impl Subject<'_> {
    /// Writes the document for its destination and tells what that would not take. A house without
    /// limits takes everything.
    pub(super) fn destination(&mut self) {
        if !has_limits(self.house) {
            return;
        }
        let options =
            WriteOptions { house: self.house.clone(), ..WriteOptions::format(Format::Html) };
        let Ok(written) = write(self.document, &options) else { return };
        let limits = [
            Code::AddressNotAllowed,
            Code::AttributeNotAllowed,
            Code::ElementNotAllowed,
            Code::TooLong,
        ];
        for finding in written.findings.into_vec() {
            if limits.contains(&finding.code) {
                self.findings.take(finding);
            }
        }
    }
}

fn has_limits(house: &House) -> bool {
    let limits = &house.limits;
    limits.characters > 0
        || !(limits.elements.is_empty()
            && limits.attributes.is_empty()
            && limits.schemes.is_empty())
}
