//! The theme: fonts and colours that properties refer to by their part in the design (ECMA-376
//! part 1, 14.2.7 and 20.1.6).

use super::super::xml::{Element, Ns, Xml};
use super::values::hexadecimal;
use crate::document::{Colour, CompactString};
use std::collections::HashMap;

/// Fonts and colours of a theme.
#[derive(Debug, Default)]
pub(super) struct Theme {
    /// By `major` or `minor` and the kind of script.
    fonts: HashMap<(&'static str, &'static str), CompactString>,
    colours: HashMap<String, Colour>,
}

impl Theme {
    pub(super) fn read(text: &str) -> Self {
        let mut theme = Self::default();
        let mut xml = Xml::new(text);
        let mut set = "";
        let mut slot = String::new();
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            if element.ns != Ns::Drawing {
                continue;
            }
            match element.local() {
                "majorFont" => set = "major",
                "minorFont" => set = "minor",
                "fmtScheme" => break,
                script @ ("latin" | "ea" | "cs") if !set.is_empty() => {
                    let script = ["latin", "ea", "cs"].into_iter().find(|name| *name == script);
                    let face = element.value("typeface").filter(|face| !face.is_empty());
                    if let (Some(script), Some(face)) = (script, face) {
                        theme.fonts.entry((set, script)).or_insert_with(|| face.into());
                    }
                }
                "srgbClr" => theme.put_colour(&slot, element.value("val").as_deref()),
                "sysClr" => theme.put_colour(&slot, element.value("lastClr").as_deref()),
                name if is_slot(name) => slot = name.to_string(),
                _ => {}
            }
        }
        theme
    }

    fn put_colour(&mut self, slot: &str, value: Option<&str>) {
        if let Some(colour) = value.and_then(hexadecimal) {
            self.colours.entry(slot.to_string()).or_insert(colour);
        }
    }

    /// A colour by its name in WordprocessingML (17.18.97).
    pub(super) fn colour(&self, name: &str) -> Option<Colour> {
        let slot = match name {
            "dark1" | "text1" => "dk1",
            "light1" | "background1" => "lt1",
            "dark2" | "text2" => "dk2",
            "light2" | "background2" => "lt2",
            "hyperlink" => "hlink",
            "followedHyperlink" => "folHlink",
            other => other,
        };
        self.colours.get(slot).copied()
    }

    /// The font that an attribute of `w:rFonts` leads to, such as `asciiTheme` (17.18.96).
    pub(super) fn font(&self, element: &Element<'_>, attribute: &str) -> Option<CompactString> {
        let name = element.value(attribute)?;
        let set = if name.starts_with("major") { "major" } else { "minor" };
        let script = match () {
            () if name.ends_with("EastAsia") => "ea",
            () if name.ends_with("Bidi") => "cs",
            () => "latin",
        };
        self.fonts.get(&(set, script)).cloned()
    }

    /// A colour of DrawingML: its own, or one of the theme.
    pub(super) fn drawing_colour(&self, element: &Element<'_>) -> Option<Colour> {
        match element.local() {
            "srgbClr" => hexadecimal(&element.value("val")?),
            "schemeClr" => match element.value("val")?.as_ref() {
                "tx1" => self.colour("dk1"),
                "bg1" => self.colour("lt1"),
                "tx2" => self.colour("dk2"),
                "bg2" => self.colour("lt2"),
                name => self.colour(name),
            },
            _ => None,
        }
    }
}

fn is_slot(name: &str) -> bool {
    matches!(name, "dk1" | "lt1" | "dk2" | "lt2" | "hlink" | "folHlink")
        || name.starts_with("accent")
}
