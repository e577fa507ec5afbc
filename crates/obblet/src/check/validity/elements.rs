//! The elements of HTML: what each is, may hold and may say (HTML Standard, 4).

use super::kinds::{Holds, Kinds};
use super::values::Value;

/// An element.
#[derive(Debug)]
pub(super) struct Element {
    pub(super) name: &'static str,
    pub(super) kinds: Kinds,
    pub(super) holds: Holds,
    /// Its own attributes, beside those that any element may have.
    pub(super) attributes: &'static [(&'static str, Value)],
}

const fn element(
    name: &'static str,
    kinds: Kinds,
    holds: Holds,
    attributes: &'static [(&'static str, Value)],
) -> Element {
    Element { name, kinds, holds, attributes }
}

const NONE: Kinds = Kinds::NONE;
const FLOW: Kinds = Kinds::FLOW;
const LINE: Kinds = Kinds::LINE;
const META: Kinds = Kinds::METADATA;
const SECTION: Kinds = Kinds::FLOW.and(Kinds::SECTIONING);
const HEADING: Kinds = Kinds::FLOW.and(Kinds::HEADING);
const CONTROL: Kinds = Kinds::LINE.and(Kinds::INTERACTIVE).and(Kinds::LABELABLE);

const PARTS_OF_TABLE: &[&str] =
    &["caption", "colgroup", "thead", "tbody", "tfoot", "tr", "script", "template"];
const ROWS: &[&str] = &["tr", "script", "template"];
const ITEMS: &[&str] = &["li", "script", "template"];
const REFERRER: Value = Value::OneOf(&[
    "",
    "no-referrer",
    "no-referrer-when-downgrade",
    "same-origin",
    "origin",
    "strict-origin",
    "origin-when-cross-origin",
    "strict-origin-when-cross-origin",
    "unsafe-url",
]);
const CROSS_ORIGIN: Value = Value::OneOf(&["", "anonymous", "use-credentials"]);
const PRELOAD: Value = Value::OneOf(&["", "none", "metadata", "auto"]);
const LOADING: Value = Value::OneOf(&["lazy", "eager"]);
const PRIORITY: Value = Value::OneOf(&["auto", "high", "low"]);
const METHOD: Value = Value::OneOf(&["get", "post", "dialog"]);
const ENCODING_TYPE: Value =
    Value::OneOf(&["application/x-www-form-urlencoded", "multipart/form-data", "text/plain"]);

/// All elements, sorted.
#[rustfmt::skip]
static ELEMENTS: &[Element] = &[
    element("a", LINE, Holds::Transparent, &[("download", Value::Any), ("href", Value::Address), ("hreflang", Value::Language), ("ping", Value::Any), ("referrerpolicy", REFERRER), ("rel", Value::Any), ("target", Value::Target), ("type", Value::MediaType)]),
    element("abbr", LINE, Holds::Phrasing, &[]),
    element("address", FLOW, Holds::Flow, &[]),
    element("area", LINE, Holds::Nothing, &[("alt", Value::Any), ("coords", Value::Any), ("download", Value::Any), ("href", Value::Address), ("hreflang", Value::Language), ("ping", Value::Any), ("referrerpolicy", REFERRER), ("rel", Value::Any), ("shape", Value::OneOf(&["circle", "default", "poly", "rect"])), ("target", Value::Target)]),
    element("article", SECTION, Holds::Flow, &[]),
    element("aside", SECTION, Holds::Flow, &[]),
    element("audio", LINE, Holds::Transparent, &[("autoplay", Value::Flag), ("controls", Value::Flag), ("crossorigin", CROSS_ORIGIN), ("loop", Value::Flag), ("muted", Value::Flag), ("preload", PRELOAD), ("src", Value::FilledAddress)]),
    element("b", LINE, Holds::Phrasing, &[]),
    element("base", META, Holds::Nothing, &[("href", Value::Address), ("target", Value::Target)]),
    element("bdi", LINE, Holds::Phrasing, &[]),
    element("bdo", LINE, Holds::Phrasing, &[]),
    element("blockquote", FLOW, Holds::Flow, &[("cite", Value::Address)]),
    element("body", NONE, Holds::Flow, &[]),
    element("br", LINE, Holds::Nothing, &[]),
    element("button", CONTROL, Holds::Phrasing, &[("disabled", Value::Flag), ("form", Value::IdReference), ("formaction", Value::FilledAddress), ("formenctype", ENCODING_TYPE), ("formmethod", METHOD), ("formnovalidate", Value::Flag), ("formtarget", Value::Target), ("name", Value::Filled), ("popovertarget", Value::IdReference), ("popovertargetaction", Value::OneOf(&["toggle", "show", "hide"])), ("type", Value::OneOf(&["submit", "reset", "button"])), ("value", Value::Any)]),
    element("canvas", LINE, Holds::Transparent, &[("height", Value::Natural), ("width", Value::Natural)]),
    element("caption", NONE, Holds::Flow, &[]),
    element("cite", LINE, Holds::Phrasing, &[]),
    element("code", LINE, Holds::Phrasing, &[]),
    element("col", NONE, Holds::Nothing, &[("span", Value::Positive)]),
    element("colgroup", NONE, Holds::Only(&["col", "template"]), &[("span", Value::Positive)]),
    element("data", LINE, Holds::Phrasing, &[("value", Value::Any)]),
    element("datalist", LINE, Holds::Phrasing, &[]),
    element("dd", NONE, Holds::Flow, &[]),
    element("del", LINE, Holds::Transparent, &[("cite", Value::Address), ("datetime", Value::DateTime)]),
    element("details", FLOW.and(Kinds::INTERACTIVE), Holds::Flow, &[("name", Value::Filled), ("open", Value::Flag)]),
    element("dfn", LINE, Holds::Phrasing, &[]),
    element("dialog", FLOW, Holds::Flow, &[("closedby", Value::OneOf(&["any", "closerequest", "none"])), ("open", Value::Flag)]),
    element("div", FLOW, Holds::Flow, &[]),
    element("dl", FLOW, Holds::Only(&["dt", "dd", "div", "script", "template"]), &[]),
    element("dt", NONE, Holds::Flow, &[]),
    element("em", LINE, Holds::Phrasing, &[]),
    element("embed", LINE.and(Kinds::INTERACTIVE), Holds::Nothing, &[("height", Value::Natural), ("src", Value::FilledAddress), ("type", Value::MediaType), ("width", Value::Natural)]),
    element("fieldset", FLOW, Holds::Flow, &[("disabled", Value::Flag), ("form", Value::IdReference), ("name", Value::Filled)]),
    element("figcaption", NONE, Holds::Flow, &[]),
    element("figure", FLOW, Holds::Flow, &[]),
    element("footer", FLOW, Holds::Flow, &[]),
    element("form", FLOW, Holds::Flow, &[("accept-charset", Value::OneOf(&["utf-8"])), ("action", Value::FilledAddress), ("autocomplete", Value::OneOf(&["on", "off"])), ("enctype", ENCODING_TYPE), ("method", METHOD), ("name", Value::Filled), ("novalidate", Value::Flag), ("rel", Value::Any), ("target", Value::Target)]),
    element("h1", HEADING, Holds::Phrasing, &[]),
    element("h2", HEADING, Holds::Phrasing, &[]),
    element("h3", HEADING, Holds::Phrasing, &[]),
    element("h4", HEADING, Holds::Phrasing, &[]),
    element("h5", HEADING, Holds::Phrasing, &[]),
    element("h6", HEADING, Holds::Phrasing, &[]),
    element("head", NONE, Holds::Only(&["title", "base", "link", "meta", "style", "script", "noscript", "template"]), &[]),
    element("header", FLOW, Holds::Flow, &[]),
    element("hgroup", HEADING, Holds::Only(&["h1", "h2", "h3", "h4", "h5", "h6", "p", "script", "template"]), &[]),
    element("hr", FLOW, Holds::Nothing, &[]),
    element("html", NONE, Holds::Only(&["head", "body"]), &[]),
    element("i", LINE, Holds::Phrasing, &[]),
    element("iframe", LINE.and(Kinds::INTERACTIVE), Holds::Nothing, &[("allow", Value::Any), ("allowfullscreen", Value::Flag), ("height", Value::Natural), ("loading", LOADING), ("name", Value::Target), ("referrerpolicy", REFERRER), ("sandbox", Value::Any), ("src", Value::FilledAddress), ("srcdoc", Value::Any), ("width", Value::Natural)]),
    element("img", LINE, Holds::Nothing, &[("alt", Value::Any), ("crossorigin", CROSS_ORIGIN), ("decoding", Value::OneOf(&["sync", "async", "auto"])), ("fetchpriority", PRIORITY), ("height", Value::Natural), ("ismap", Value::Flag), ("loading", LOADING), ("referrerpolicy", REFERRER), ("sizes", Value::Filled), ("src", Value::FilledAddress), ("srcset", Value::SourceSet), ("usemap", Value::MapName), ("width", Value::Natural)]),
    element("input", LINE.and(Kinds::LABELABLE), Holds::Nothing, &[("accept", Value::Any), ("alpha", Value::Flag), ("alt", Value::Filled), ("autocomplete", Value::Any), ("capture", Value::OneOf(&["", "user", "environment"])), ("checked", Value::Flag), ("colorspace", Value::OneOf(&["limited-srgb", "display-p3"])), ("dirname", Value::Filled), ("disabled", Value::Flag), ("form", Value::IdReference), ("formaction", Value::FilledAddress), ("formenctype", ENCODING_TYPE), ("formmethod", METHOD), ("formnovalidate", Value::Flag), ("formtarget", Value::Target), ("height", Value::Natural), ("list", Value::IdReference), ("max", Value::Any), ("maxlength", Value::Natural), ("min", Value::Any), ("minlength", Value::Natural), ("multiple", Value::Flag), ("name", Value::Filled), ("pattern", Value::Any), ("placeholder", Value::Any), ("popovertarget", Value::IdReference), ("popovertargetaction", Value::OneOf(&["toggle", "show", "hide"])), ("readonly", Value::Flag), ("required", Value::Flag), ("size", Value::Positive), ("src", Value::FilledAddress), ("step", Value::Any), ("type", Value::OneOf(&["hidden", "text", "search", "tel", "url", "email", "password", "date", "month", "week", "time", "datetime-local", "number", "range", "color", "checkbox", "radio", "file", "submit", "image", "reset", "button"])), ("value", Value::Any), ("width", Value::Natural)]),
    element("ins", LINE, Holds::Transparent, &[("cite", Value::Address), ("datetime", Value::DateTime)]),
    element("kbd", LINE, Holds::Phrasing, &[]),
    element("label", LINE.and(Kinds::INTERACTIVE), Holds::Phrasing, &[("for", Value::IdReference)]),
    element("legend", NONE, Holds::Phrasing, &[]),
    element("li", NONE, Holds::Flow, &[("value", Value::Integer)]),
    element("link", META, Holds::Nothing, &[("as", Value::Any), ("blocking", Value::OneOf(&["render"])), ("color", Value::Colour), ("crossorigin", CROSS_ORIGIN), ("disabled", Value::Flag), ("fetchpriority", PRIORITY), ("href", Value::FilledAddress), ("hreflang", Value::Language), ("imagesizes", Value::Filled), ("imagesrcset", Value::SourceSet), ("integrity", Value::Any), ("media", Value::Any), ("referrerpolicy", REFERRER), ("rel", Value::Any), ("sizes", Value::Any), ("type", Value::MediaType)]),
    element("main", FLOW, Holds::Flow, &[]),
    element("map", LINE, Holds::Transparent, &[("name", Value::Id)]),
    element("mark", LINE, Holds::Phrasing, &[]),
    element("menu", FLOW, Holds::Only(ITEMS), &[]),
    element("meta", META, Holds::Nothing, &[("charset", Value::OneOf(&["utf-8"])), ("content", Value::Any), ("http-equiv", Value::OneOf(&["content-type", "default-style", "refresh", "x-ua-compatible", "content-security-policy", "content-language"])), ("media", Value::Any), ("name", Value::Any), ("property", Value::Any)]),
    element("meter", LINE.and(Kinds::LABELABLE), Holds::Phrasing, &[("high", Value::Number), ("low", Value::Number), ("max", Value::Number), ("min", Value::Number), ("optimum", Value::Number), ("value", Value::Number)]),
    element("nav", SECTION, Holds::Flow, &[]),
    element("noscript", LINE.and(META), Holds::Anything, &[]),
    element("object", LINE, Holds::Transparent, &[("data", Value::FilledAddress), ("form", Value::IdReference), ("height", Value::Natural), ("name", Value::Target), ("type", Value::MediaType), ("width", Value::Natural)]),
    element("ol", FLOW, Holds::Only(ITEMS), &[("reversed", Value::Flag), ("start", Value::Integer), ("type", Value::OneOf(&["1", "a", "A", "i", "I"]))]),
    element("optgroup", NONE, Holds::Only(&["option", "legend", "div", "script", "template"]), &[("disabled", Value::Flag), ("label", Value::Any)]),
    element("option", NONE, Holds::Phrasing, &[("disabled", Value::Flag), ("label", Value::Filled), ("selected", Value::Flag), ("value", Value::Any)]),
    element("output", LINE.and(Kinds::LABELABLE), Holds::Phrasing, &[("for", Value::IdReferences), ("form", Value::IdReference), ("name", Value::Filled)]),
    element("p", FLOW, Holds::Phrasing, &[]),
    element("picture", LINE, Holds::Only(&["source", "img", "script", "template"]), &[]),
    element("pre", FLOW, Holds::Phrasing, &[]),
    element("progress", LINE.and(Kinds::LABELABLE), Holds::Phrasing, &[("max", Value::Number), ("value", Value::Number)]),
    element("q", LINE, Holds::Phrasing, &[("cite", Value::Address)]),
    element("rp", NONE, Holds::Text, &[]),
    element("rt", NONE, Holds::Phrasing, &[]),
    element("ruby", LINE, Holds::Phrasing, &[]),
    element("s", LINE, Holds::Phrasing, &[]),
    element("samp", LINE, Holds::Phrasing, &[]),
    element("script", LINE.and(META), Holds::Anything, &[("async", Value::Flag), ("blocking", Value::OneOf(&["render"])), ("crossorigin", CROSS_ORIGIN), ("defer", Value::Flag), ("fetchpriority", PRIORITY), ("integrity", Value::Any), ("nomodule", Value::Flag), ("referrerpolicy", REFERRER), ("src", Value::FilledAddress), ("type", Value::Any)]),
    element("search", FLOW, Holds::Flow, &[]),
    element("section", SECTION, Holds::Flow, &[]),
    element("select", CONTROL, Holds::Only(&["option", "optgroup", "hr", "script", "template"]), &[("autocomplete", Value::Any), ("disabled", Value::Flag), ("form", Value::IdReference), ("multiple", Value::Flag), ("name", Value::Filled), ("required", Value::Flag), ("size", Value::Positive)]),
    element("slot", LINE, Holds::Transparent, &[("name", Value::Any)]),
    element("small", LINE, Holds::Phrasing, &[]),
    element("source", NONE, Holds::Nothing, &[("height", Value::Natural), ("media", Value::Any), ("sizes", Value::Filled), ("src", Value::FilledAddress), ("srcset", Value::SourceSet), ("type", Value::MediaType), ("width", Value::Natural)]),
    element("span", LINE, Holds::Phrasing, &[]),
    element("strong", LINE, Holds::Phrasing, &[]),
    element("style", META, Holds::Anything, &[("blocking", Value::OneOf(&["render"])), ("media", Value::Any), ("type", Value::OneOf(&["text/css"]))]),
    element("sub", LINE, Holds::Phrasing, &[]),
    element("summary", NONE, Holds::Phrasing, &[]),
    element("sup", LINE, Holds::Phrasing, &[]),
    element("table", FLOW, Holds::Only(PARTS_OF_TABLE), &[]),
    element("tbody", NONE, Holds::Only(ROWS), &[]),
    element("td", NONE, Holds::Flow, &[("colspan", Value::Positive), ("headers", Value::IdReferences), ("rowspan", Value::Natural)]),
    element("template", LINE.and(META), Holds::Anything, &[("shadowrootclonable", Value::Flag), ("shadowrootdelegatesfocus", Value::Flag), ("shadowrootmode", Value::OneOf(&["open", "closed"])), ("shadowrootserializable", Value::Flag)]),
    element("textarea", CONTROL, Holds::Text, &[("autocomplete", Value::Any), ("cols", Value::Positive), ("dirname", Value::Filled), ("disabled", Value::Flag), ("form", Value::IdReference), ("maxlength", Value::Natural), ("minlength", Value::Natural), ("name", Value::Filled), ("placeholder", Value::Any), ("readonly", Value::Flag), ("required", Value::Flag), ("rows", Value::Positive), ("wrap", Value::OneOf(&["soft", "hard"]))]),
    element("tfoot", NONE, Holds::Only(ROWS), &[]),
    element("th", NONE, Holds::Flow, &[("abbr", Value::Any), ("colspan", Value::Positive), ("headers", Value::IdReferences), ("rowspan", Value::Natural), ("scope", Value::OneOf(&["row", "col", "rowgroup", "colgroup"]))]),
    element("thead", NONE, Holds::Only(ROWS), &[]),
    element("time", LINE, Holds::Phrasing, &[("datetime", Value::Moment)]),
    element("title", META, Holds::Text, &[]),
    element("tr", NONE, Holds::Only(&["td", "th", "script", "template"]), &[]),
    element("track", NONE, Holds::Nothing, &[("default", Value::Flag), ("kind", Value::OneOf(&["subtitles", "captions", "descriptions", "chapters", "metadata"])), ("label", Value::Filled), ("src", Value::FilledAddress), ("srclang", Value::Language)]),
    element("u", LINE, Holds::Phrasing, &[]),
    element("ul", FLOW, Holds::Only(ITEMS), &[]),
    element("var", LINE, Holds::Phrasing, &[]),
    element("video", LINE, Holds::Transparent, &[("autoplay", Value::Flag), ("controls", Value::Flag), ("crossorigin", CROSS_ORIGIN), ("height", Value::Natural), ("loop", Value::Flag), ("muted", Value::Flag), ("playsinline", Value::Flag), ("poster", Value::FilledAddress), ("preload", PRELOAD), ("src", Value::FilledAddress), ("width", Value::Natural)]),
    element("wbr", LINE, Holds::Nothing, &[]),
];

/// The attributes that any element may have, sorted (HTML Standard, 3.2.6).
#[rustfmt::skip]
static GLOBAL: &[(&str, Value)] = &[
    ("accesskey", Value::Any), ("autocapitalize", Value::OneOf(&["on", "off", "none", "sentences", "words", "characters"])),
    ("autocorrect", Value::OneOf(&["", "on", "off"])), ("autofocus", Value::Flag), ("class", Value::Any),
    ("contenteditable", Value::OneOf(&["", "true", "false", "plaintext-only"])), ("dir", Value::Direction),
    ("draggable", Value::Truth), ("enterkeyhint", Value::OneOf(&["enter", "done", "go", "next", "previous", "search", "send"])),
    ("hidden", Value::OneOf(&["", "hidden", "until-found"])), ("id", Value::Id), ("inert", Value::Flag),
    ("inputmode", Value::OneOf(&["none", "text", "tel", "email", "url", "numeric", "decimal", "search"])),
    ("is", Value::Any), ("itemid", Value::Address), ("itemprop", Value::Filled), ("itemref", Value::IdReferences),
    ("itemscope", Value::Flag), ("itemtype", Value::Filled), ("lang", Value::Language), ("nonce", Value::Any),
    ("popover", Value::OneOf(&["", "auto", "manual", "hint"])), ("role", Value::Any), ("slot", Value::Any),
    ("spellcheck", Value::OneOf(&["", "true", "false"])), ("style", Value::Style), ("tabindex", Value::Integer),
    ("title", Value::Any), ("translate", Value::OneOf(&["", "yes", "no"])),
    ("writingsuggestions", Value::OneOf(&["", "true", "false"])), ("xmlns", Value::OneOf(&["http://www.w3.org/1999/xhtml"])),
];

/// Elements that were part of HTML once, with what stands for them now.
const OBSOLETE: &[(&str, &str)] = &[
    ("acronym", "abbr"),
    ("applet", "object"),
    ("basefont", "a style sheet"),
    ("bgsound", "audio"),
    ("big", "a style sheet"),
    ("blink", "a style sheet"),
    ("center", "a style sheet"),
    ("dir", "ul"),
    ("font", "a style sheet"),
    ("frame", "iframe"),
    ("frameset", "iframe"),
    ("isindex", "form"),
    ("keygen", "nothing"),
    ("listing", "pre"),
    ("marquee", "a style sheet"),
    ("menuitem", "nothing"),
    ("multicol", "a style sheet"),
    ("nextid", "nothing"),
    ("nobr", "a style sheet"),
    ("noembed", "object"),
    ("noframes", "iframe"),
    ("param", "attributes of the object"),
    ("plaintext", "pre"),
    ("rb", "ruby alone"),
    ("rtc", "ruby alone"),
    ("spacer", "a style sheet"),
    ("strike", "s or del"),
    ("tt", "code, kbd, samp or a style sheet"),
    ("xmp", "pre"),
];

/// Attributes that were part of HTML once and are still written by many programs, on any element.
const OBSOLETE_ATTRIBUTES: &[&str] = &[
    "align",
    "alink",
    "axis",
    "background",
    "bgcolor",
    "border",
    "bordercolor",
    "cellpadding",
    "cellspacing",
    "char",
    "charoff",
    "charset",
    "clear",
    "color",
    "compact",
    "face",
    "frame",
    "frameborder",
    "hspace",
    "language",
    "link",
    "longdesc",
    "manifest",
    "marginheight",
    "marginwidth",
    "noshade",
    "nowrap",
    "profile",
    "rev",
    "rules",
    "scheme",
    "scope",
    "scrolling",
    "size",
    "summary",
    "text",
    "valign",
    "version",
    "vlink",
    "vspace",
];

/// The same on a few elements alone, which others still have.
const OBSOLETE_ON: &[(&str, &[&str])] = &[
    ("height", &["table", "td", "th", "tr"]),
    ("name", &["img", "embed", "option"]),
    ("type", &["li", "ul", "param"]),
    ("width", &["col", "colgroup", "hr", "pre", "table", "td", "th"]),
];

/// The element of this name.
pub(super) fn element_named(name: &str) -> Option<&'static Element> {
    let index = ELEMENTS.binary_search_by(|element| element.name.cmp(name)).ok()?;
    ELEMENTS.get(index)
}

/// What the value of an element's attribute must be; `None` when it may not have it.
pub(super) fn value_of(element: &Element, attribute: &str) -> Option<Value> {
    let own = element.attributes.iter().find(|(name, _)| *name == attribute);
    let found = own.or_else(|| {
        let index = GLOBAL.binary_search_by(|(name, _)| name.cmp(&attribute)).ok()?;
        GLOBAL.get(index)
    });
    found.map(|(_, value)| *value)
}

/// What stands now for an element that is no longer part of HTML.
pub(super) fn stands_for(name: &str) -> Option<&'static str> {
    OBSOLETE.iter().find(|(obsolete, _)| *obsolete == name).map(|(_, now)| *now)
}

/// Whether an element could have an attribute of this name once.
pub(super) fn had_attribute(element: &str, name: &str) -> bool {
    OBSOLETE_ATTRIBUTES.contains(&name)
        || OBSOLETE_ON.iter().any(|(known, elements)| *known == name && elements.contains(&element))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn elements_and_attributes_are_sorted() {
        assert!(ELEMENTS.is_sorted_by_key(|element| element.name));
        assert!(GLOBAL.is_sorted_by_key(|attribute| attribute.0));
        for element in ELEMENTS {
            assert!(
                element.attributes.is_sorted_by_key(|attribute| attribute.0),
                "{}",
                element.name
            );
            assert!(stands_for(element.name).is_none(), "{}", element.name);
        }
    }
}
