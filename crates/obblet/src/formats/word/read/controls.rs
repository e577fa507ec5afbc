//! Content controls (ECMA-376 part 1, 17.5.2): check boxes show their state, contents lists are made
//! anew, everything else is what it shows.

use super::super::vocabulary::Container;
use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::containers::audiences;
use super::gather::Gatherer;
use super::line::{Frame, Line, TextStyle};
use super::text_base::TextBase;
use crate::document::Inline;

/// What the properties of a control say.
#[derive(Debug, Default)]
struct Control {
    /// It is a check box, and whether it is ticked.
    ticked: Option<bool>,
    /// The name by which programs know it.
    tag: Option<String>,
    /// The title that people see.
    alias: Option<String>,
}

impl Reader<'_> {
    fn control(&mut self, xml: &mut Xml<'_>) -> Control {
        let mut found = Control::default();
        let level = xml.level();
        while let Some(property) = xml.descendant(level) {
            match (property.ns, property.local()) {
                (Ns::WordExtension, "checkbox") => found.ticked = Some(false),
                (Ns::WordExtension, "checked") => found.ticked = Some(property.is_on()),
                (Ns::Word, "docPartGallery") => {}
                (Ns::Word, "tag") => found.tag = property.string("val"),
                (Ns::Word, "alias") => found.alias = property.string("val"),
                _ if is_known(&property) => {}
                _ => self.unknown(&property),
            }
        }
        found
    }

    /// A control around blocks.
    pub(super) fn block_control(&mut self, xml: &mut Xml<'_>, gatherer: &mut Gatherer) {
        let level = xml.level();
        let mut control = Control::default();
        while let Some(part) = xml.child(level) {
            match part.local() {
                "sdtPr" => control = self.control(xml),
                "sdtContent" => match control.tag.as_deref().and_then(Container::of_tag) {
                    Some(container) if !self.too_deep() => {
                        self.contained(container, control.alias.as_deref(), xml, gatherer);
                    }
                    _ => self.gather(xml, gatherer),
                },
                "sdtEndPr" => {}
                _ => self.unknown(&part),
            }
        }
    }

    /// A control inside a paragraph.
    pub(super) fn inline_control(&mut self, xml: &mut Xml<'_>, line: &mut Line, base: &TextBase) {
        let level = xml.level();
        let mut control = Control::default();
        while let Some(part) = xml.child(level) {
            match part.local() {
                "sdtPr" => control = self.control(xml),
                "sdtContent" => match control.ticked {
                    // The character it is drawn with says the same.
                    Some(ticked) => line.push(Inline::CheckBox(ticked), TextStyle::default()),
                    None => match control.tag.as_deref().and_then(Container::of_tag) {
                        Some(Container::For(names)) => {
                            self.framed(Frame::Audiences(audiences(names)), xml, line, base);
                        }
                        _ => self.inlines(xml, line, base),
                    },
                },
                "sdtEndPr" => {}
                _ => self.unknown(&part),
            }
        }
    }
}

/// Properties that say how a program offers the control; what it holds is in its content.
fn is_known(property: &Element<'_>) -> bool {
    let of_word = matches!(
        property.local(),
        "id" | "lock"
            | "placeholder"
            | "docPart"
            | "showingPlcHdr"
            | "dataBinding"
            | "temporary"
            | "text"
            | "richText"
            | "picture"
            | "citation"
            | "bibliography"
            | "group"
            | "equation"
            | "date"
            | "dateFormat"
            | "lid"
            | "storeMappedDataAs"
            | "calendar"
            | "comboBox"
            | "dropDownList"
            | "listItem"
            | "docPartObj"
            | "docPartList"
            | "docPartCategory"
            | "docPartUnique"
            | "label"
            | "tabIndex"
            | "rPr"
    );
    let of_later = matches!(
        property.local(),
        "checkedState"
            | "uncheckedState"
            | "repeatingSection"
            | "repeatingSectionItem"
            | "appearance"
            | "color"
            | "webExtensionLinked"
            | "webExtensionCreated"
            | "sectionTitle"
            | "doNotAllowInsertDeleteSection"
            | "entityPicker"
            | "dataBinding"
    );
    // Below the run properties of a control, nothing says anything about what it holds.
    (property.ns == Ns::Word && (of_word || is_run_property(property.local())))
        || (property.ns == Ns::WordExtension && of_later)
}

fn is_run_property(local: &str) -> bool {
    super::looks_count::is_property(local)
        || matches!(
            local,
            "rStyle"
                | "b"
                | "i"
                | "u"
                | "strike"
                | "dstrike"
                | "caps"
                | "smallCaps"
                | "vanish"
                | "highlight"
                | "vertAlign"
                | "rtl"
                | "lang"
                | "bCs"
                | "iCs"
        )
}
