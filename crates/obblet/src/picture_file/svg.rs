//! SVG made harmless: a drawing that somebody opens by itself is a page of the site it stands on.
//!
//! What goes out is written from what was read and from nothing else: elements of SVG (SVG 2) without
//! scripts, other documents, or anything that leads out of the file.

use quick_xml::NsReader;
use quick_xml::escape::{escape, resolve_predefined_entity, unescape};
use quick_xml::events::{BytesStart, Event};
use quick_xml::name::ResolveResult;

const SVG: &str = "http://www.w3.org/2000/svg";
const XLINK: &str = "http://www.w3.org/1999/xlink";
const XML: &str = "http://www.w3.org/XML/1998/namespace";

/// Elements that go with all they hold, in any namespace.
const DROPPED: [&str; 14] = [
    "audio",
    "canvas",
    "discard",
    "embed",
    "foreignObject",
    "handler",
    "iframe",
    "listener",
    "mesh",
    "object",
    "script",
    "source",
    "unknown",
    "video",
];

/// Elements that change attributes of others.
const ANIMATIONS: [&str; 5] =
    ["animate", "animateColor", "animateMotion", "animateTransform", "set"];

/// How deep elements may stand in each other.
const DEEPEST: usize = 200;

/// What is left of a drawing: see [`clean_drawing`](crate::picture_file::clean_drawing).
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CleanDrawing {
    /// The drawing, written anew.
    pub svg: String,
    /// Something that could do harm is gone.
    pub is_changed: bool,
}

/// A drawing (SVG 2) without anything that runs or leads out of the file: scripts, handlers, other documents,
/// addresses. `None` where it is no well-formed SVG in UTF-8, or has more than 200 elements in each other.
///
/// ```
/// let drawing = br#"<svg xmlns="http://www.w3.org/2000/svg"><script>ebb()</script><path d="M0 0h9"/></svg>"#;
/// let clean = obblet::clean_drawing(drawing).unwrap();
/// assert!(clean.is_changed);
/// assert_eq!(clean.svg, r#"<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h9"/></svg>"#);
/// ```
#[must_use]
pub fn clean_drawing(bytes: &[u8]) -> Option<CleanDrawing> {
    let text = std::str::from_utf8(bytes.strip_prefix(b"\xEF\xBB\xBF").unwrap_or(bytes)).ok()?;
    let mut reader = NsReader::from_str(text);
    let mut cleaner = Cleaner {
        svg: String::new(),
        is_changed: false,
        behind_namespace: 0,
        uses_xlink: false,
        open: Vec::new(),
    };
    loop {
        match reader.read_event().ok()? {
            Event::Start(tag) => {
                let name = cleaner.element(&reader, &tag, false)?;
                if let Some(dropped) = name {
                    reader.read_to_end(dropped.to_end().name()).ok()?;
                }
            }
            Event::Empty(tag) => {
                cleaner.element(&reader, &tag, true)?;
            }
            Event::End(_) => cleaner.end()?,
            Event::Text(text) => cleaner.text(&text),
            Event::CData(text) => cleaner.text(&text),
            Event::GeneralRef(reference) => {
                let character = match reference.resolve_char_ref().ok()? {
                    Some(character) => character.to_string(),
                    None => resolve_predefined_entity(&reference).unwrap_or_default().to_string(),
                };
                cleaner.text(&character);
            }
            Event::Decl(_) | Event::Comment(_) => {}
            Event::PI(_) => cleaner.is_changed = true,
            // Entities of its own are not resolved, so that they are gone.
            Event::DocType(declaration) => {
                cleaner.is_changed |= declaration.contains('[');
            }
            Event::Eof => break,
        }
    }
    if cleaner.uses_xlink {
        let declared = format!(" xmlns:xlink=\"{XLINK}\"");
        cleaner.svg.insert_str(cleaner.behind_namespace, &declared);
    }
    let is_whole = cleaner.open.is_empty() && !cleaner.svg.is_empty();
    is_whole.then_some(CleanDrawing { svg: cleaner.svg, is_changed: cleaner.is_changed })
}

struct Cleaner {
    svg: String,
    is_changed: bool,
    /// Where the namespace of links is declared, if it is used.
    behind_namespace: usize,
    uses_xlink: bool,
    /// The names of open elements; the text of a style sheet is looked at as a whole.
    open: Vec<Open>,
}

struct Open {
    name: String,
    /// Where its content begins in what is written, for style sheets.
    sheet: Option<usize>,
}

impl Cleaner {
    /// Writes the start of an element, or gives it back where it goes with all it holds.
    fn element<'t>(
        &mut self,
        reader: &NsReader<&[u8]>,
        tag: &BytesStart<'t>,
        is_empty: bool,
    ) -> Option<Option<BytesStart<'t>>> {
        let (namespace, local) = reader.resolver().resolve_element(tag.name());
        let is_svg = matches!(namespace, ResolveResult::Bound(bound) if bound.as_ref() == SVG);
        let is_unbound = namespace == ResolveResult::Unbound;
        let name = local.as_ref().to_string();
        let is_root = self.open.is_empty();
        if is_root && (name != "svg" || !self.svg.is_empty() || !(is_svg || is_unbound)) {
            return None;
        }
        if self.open.len() >= DEEPEST {
            return None;
        }
        let does_harm = DROPPED.contains(&name.as_str()) || self.animates_links(&name, tag);
        // What programs keep about a drawing in namespaces of their own is not shown.
        if does_harm || !(is_svg || is_unbound) {
            self.is_changed |= does_harm || is_xhtml(&namespace);
            return Some((!is_empty).then(|| tag.clone()));
        }
        self.svg.push('<');
        self.svg.push_str(&name);
        if is_root {
            self.svg.push_str(" xmlns=\"http://www.w3.org/2000/svg\"");
            self.behind_namespace = self.svg.len();
        }
        self.attributes(reader, tag, &name)?;
        if is_empty {
            self.svg.push_str("/>");
            return Some(None);
        }
        self.svg.push('>');
        let sheet = (name == "style").then_some(self.svg.len());
        self.open.push(Open { name, sheet });
        Some(None)
    }

    /// Whether an animation changes where something leads, or what runs.
    fn animates_links(&self, name: &str, tag: &BytesStart<'_>) -> bool {
        if !ANIMATIONS.contains(&name) {
            return false;
        }
        let attribute = tag.try_get_attribute("attributeName").ok().flatten();
        let target = attribute.map(|target| target.value.to_lowercase());
        target.is_some_and(|target| {
            target.contains("href") || target.trim().starts_with("on") || target.contains('&')
        })
    }

    fn attributes(
        &mut self,
        reader: &NsReader<&[u8]>,
        tag: &BytesStart<'_>,
        element: &str,
    ) -> Option<()> {
        for attribute in tag.attributes() {
            let attribute = attribute.ok()?;
            if attribute.key.as_namespace_binding().is_some() {
                continue;
            }
            let (namespace, local) = reader.resolver().resolve_attribute(attribute.key);
            let name: &str = local.as_ref();
            let Ok(value) = unescape(&attribute.value) else {
                self.is_changed = true;
                continue;
            };
            let prefix = match namespace {
                ResolveResult::Unbound => "",
                ResolveResult::Bound(bound) if bound.as_ref() == XLINK => "xlink:",
                ResolveResult::Bound(bound) if bound.as_ref() == XML => "xml:",
                _ => continue,
            };
            if !is_harmless(element, prefix, name, &value) {
                self.is_changed = true;
                continue;
            }
            self.uses_xlink |= prefix == "xlink:";
            self.svg.push_str(&format!(" {prefix}{name}=\"{}\"", escape(value.as_ref())));
        }
        Some(())
    }

    fn end(&mut self) -> Option<()> {
        let open = self.open.pop()?;
        if let Some(sheet) = open.sheet
            && let Ok(text) = unescape(self.svg.get(sheet..)?)
            && !is_harmless_style(&text)
        {
            self.is_changed = true;
            self.svg.truncate(sheet);
        }
        self.svg.push_str(&format!("</{}>", open.name));
        Some(())
    }

    fn text(&mut self, text: &str) {
        if !self.open.is_empty() {
            self.svg.push_str(&escape(text));
        }
    }
}

fn is_xhtml(namespace: &ResolveResult<'_>) -> bool {
    matches!(namespace, ResolveResult::Bound(bound) if bound.as_ref() == "http://www.w3.org/1999/xhtml")
}

/// Whether an attribute neither runs anything nor leads out of the drawing.
fn is_harmless(element: &str, prefix: &str, name: &str, value: &str) -> bool {
    let small = name.to_ascii_lowercase();
    match small.as_str() {
        "base" | "src" | "srcdoc" | "action" | "formaction" | "ping" => false,
        "href" => is_harmless_address(element, value),
        _ if small.starts_with("on") => false,
        _ => !prefix.is_empty() || is_harmless_style(value),
    }
}

/// Places in the drawing itself, and pictures that stand in the address; links may lead to pages.
fn is_harmless_address(element: &str, value: &str) -> bool {
    let address: String = value.chars().filter(|c| !c.is_whitespace() && !c.is_control()).collect();
    let address = address.to_ascii_lowercase();
    let is_picture = ["png", "jpeg", "gif", "webp"]
        .iter()
        .any(|kind| address.starts_with(&format!("data:image/{kind};base64,")));
    let is_page =
        ["https://", "http://", "mailto:"].iter().any(|scheme| address.starts_with(scheme));
    address.starts_with('#') || is_picture || (element == "a" && is_page)
}

/// Whether a style fetches nothing. CSS can spell its words with backslashes.
fn is_harmless_style(text: &str) -> bool {
    let small: String = text.chars().filter(|c| !c.is_whitespace()).collect();
    let small = small.to_ascii_lowercase();
    let leads_out = small.match_indices("url(").any(|(at, _)| {
        let inside = small.get(at + 4..).unwrap_or_default();
        !inside.trim_start_matches(['"', '\'']).starts_with('#')
    });
    let fetches = ["@import", "image-set(", "src(", "expression(", "javascript:", "-moz-binding"];
    !leads_out && !small.contains('\\') && !fetches.iter().any(|word| small.contains(word))
}

#[cfg(test)]
#[allow(clippy::expect_used, reason = "a test fails by panicking")]
mod tests {
    use super::*;

    const ROOT: &str = "<svg xmlns=\"http://www.w3.org/2000/svg\"";
    const WITH_XLINK: &str =
        "<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\"";

    #[test]
    fn a_drawing_keeps_what_is_shown() {
        let cases = [
            ("<rect width='2'/>", "<rect width=\"2\"/>"),
            (
                "<text xml:space='preserve'>a &lt; b</text>",
                "<text xml:space=\"preserve\">a &lt; b</text>",
            ),
            ("<use href='#wheel'/>", "<use href=\"#wheel\"/>"),
            ("<use xlink:href='#wheel'/>", "<use xlink:href=\"#wheel\"/>"),
            ("<path style='fill:url(#g)'/>", "<path style=\"fill:url(#g)\"/>"),
            ("<style><![CDATA[a>b{fill:red}]]></style>", "<style>a&gt;b{fill:red}</style>"),
            (
                "<a href='https://mill.example/'><g/></a>",
                "<a href=\"https://mill.example/\"><g/></a>",
            ),
            (
                "<image href='data:image/png;base64,AA'/>",
                "<image href=\"data:image/png;base64,AA\"/>",
            ),
            ("<!-- drawn by hand -->", ""),
            ("<animate attributeName='x' to='1'/>", "<animate attributeName=\"x\" to=\"1\"/>"),
        ];
        for (inside, kept) in cases {
            let source = format!("<?xml version='1.0'?>{WITH_XLINK}>{inside}</svg>");
            let clean = clean_drawing(source.as_bytes()).expect("a drawing");
            let root = if kept.contains("xlink:") { WITH_XLINK } else { ROOT };
            assert_eq!(clean.svg, format!("{root}>{kept}</svg>"));
            assert!(!clean.is_changed, "{inside}");
        }
    }

    #[test]
    fn what_runs_or_leads_out_is_gone() {
        let cases = [
            ("<script>alert(1)</script>", ""),
            ("<s:script xmlns:s='http://www.w3.org/2000/svg'>x</s:script>", ""),
            ("<h:script xmlns:h='http://www.w3.org/1999/xhtml'>x</h:script>", ""),
            ("<foreignObject><body xmlns='http://www.w3.org/1999/xhtml'/></foreignObject>", ""),
            ("<g onload='alert(1)'/>", "<g/>"),
            ("<g ONLOAD='alert(1)'/>", "<g/>"),
            ("<a href='java&#10;script:alert(1)'><g/></a>", "<a><g/></a>"),
            ("<a xlink:href='data:text/html,x'/>", "<a/>"),
            ("<use href='https://elsewhere.example/x.svg#a'/>", "<use/>"),
            ("<image href='http://elsewhere.example/count.png'/>", "<image/>"),
            ("<set attributeName='href' to='javascript:alert(1)'/>", ""),
            ("<animate attributeName='xlink:href' values='x'/>", ""),
            ("<g style='fill:url(https://elsewhere.example/)'/>", "<g/>"),
            ("<g fill='u\\72l(x)'/>", "<g/>"),
            ("<style>@import 'x.css';</style>", "<style></style>"),
            ("<style>a{fill:u<![CDATA[rl(x)]]>}</style>", "<style></style>"),
            ("<g xml:base='https://elsewhere.example/'/>", "<g/>"),
            ("<?xml-stylesheet href='x.css'?>", ""),
        ];
        for (inside, kept) in cases {
            let source = format!("{WITH_XLINK}>{inside}</svg>");
            let clean = clean_drawing(source.as_bytes()).expect("a drawing");
            assert_eq!(clean.svg, format!("{ROOT}>{kept}</svg>"), "{inside}");
            assert!(clean.is_changed, "{inside}");
        }
    }

    #[test]
    fn entities_of_a_drawing_s_own_say_nothing() {
        let bomb = format!("<!DOCTYPE svg [<!ENTITY a 'x'>]>{ROOT}><text b='&a;'>&a;</text></svg>");
        let clean = clean_drawing(bomb.as_bytes()).expect("a drawing");
        assert_eq!(clean.svg, format!("{ROOT}><text></text></svg>"));
        assert!(clean.is_changed);
    }

    #[test]
    fn what_is_no_drawing_is_refused() {
        let deep = format!("{ROOT}>{}", "<g>".repeat(DEEPEST + 1));
        let cases = ["", "<svg", "<html/>", "<svg><g></svg>", "<svg/><svg/>", deep.as_str()];
        for source in cases {
            assert!(clean_drawing(source.as_bytes()).is_none(), "{source:.40}");
        }
    }
}
