//! Roles and states for assistive programs (WAI-ARIA 1.2, DPUB-ARIA 1.1, ARIA in HTML).

use super::values::Value;

const ROLES: &str = "alert alertdialog application article banner blockquote button caption cell checkbox code \
    columnheader combobox complementary contentinfo definition deletion dialog directory document emphasis \
    feed figure form generic grid gridcell group heading img image insertion link list listbox listitem log main \
    marquee math menu menubar menuitem menuitemcheckbox menuitemradio meter navigation none note option \
    paragraph presentation progressbar radio radiogroup region row rowgroup rowheader scrollbar search \
    searchbox separator slider spinbutton status strong subscript superscript switch tab table tablist \
    tabpanel term textbox time timer toolbar tooltip tree treegrid treeitem mark suggestion comment \
    doc-abstract doc-acknowledgments doc-afterword doc-appendix doc-backlink doc-biblioentry doc-bibliography \
    doc-biblioref doc-chapter doc-colophon doc-conclusion doc-cover doc-credit doc-credits doc-dedication \
    doc-endnote doc-endnotes doc-epigraph doc-epilogue doc-errata doc-example doc-footnote doc-foreword \
    doc-glossary doc-glossref doc-index doc-introduction doc-noteref doc-notice doc-pagebreak doc-pagefooter \
    doc-pageheader doc-pagelist doc-part doc-preface doc-prologue doc-pullquote doc-qna doc-subtitle doc-tip \
    doc-toc graphics-document graphics-object graphics-symbol";

/// Elements that may have no role (ARIA in HTML, 4).
const WITHOUT_ROLE: &[&str] = &[
    "base", "col", "colgroup", "head", "html", "link", "map", "meta", "noscript", "picture",
    "script", "slot", "source", "style", "template", "title", "track", "legend",
];

const TRISTATE: Value = Value::OneOf(&["true", "false", "mixed", "undefined"]);
const MAYBE: Value = Value::OneOf(&["true", "false", "undefined"]);

/// States and properties, sorted, without their `aria-`.
#[rustfmt::skip]
const STATES: &[(&str, Value)] = &[
    ("activedescendant", Value::IdReference), ("atomic", Value::Truth),
    ("autocomplete", Value::OneOf(&["none", "inline", "list", "both"])), ("braillelabel", Value::Any),
    ("brailleroledescription", Value::Any), ("busy", Value::Truth), ("checked", TRISTATE),
    ("colcount", Value::Integer), ("colindex", Value::Positive), ("colindextext", Value::Any),
    ("colspan", Value::Positive), ("controls", Value::IdReferences),
    ("current", Value::OneOf(&["page", "step", "location", "date", "time", "true", "false"])),
    ("describedby", Value::IdReferences), ("description", Value::Any), ("details", Value::IdReferences),
    ("disabled", Value::Truth), ("errormessage", Value::IdReferences), ("expanded", MAYBE),
    ("flowto", Value::IdReferences), ("haspopup", Value::OneOf(&["true", "false", "menu", "listbox", "tree", "grid", "dialog"])),
    ("hidden", MAYBE), ("invalid", Value::OneOf(&["true", "false", "grammar", "spelling"])),
    ("keyshortcuts", Value::Any), ("label", Value::Any), ("labelledby", Value::IdReferences),
    ("level", Value::Positive), ("live", Value::OneOf(&["off", "polite", "assertive"])), ("modal", Value::Truth),
    ("multiline", Value::Truth), ("multiselectable", Value::Truth),
    ("orientation", Value::OneOf(&["horizontal", "vertical", "undefined"])), ("owns", Value::IdReferences),
    ("placeholder", Value::Any), ("posinset", Value::Positive), ("pressed", TRISTATE), ("readonly", Value::Truth),
    ("relevant", Value::Words(&["additions", "removals", "text", "all"])), ("required", Value::Truth),
    ("roledescription", Value::Filled), ("rowcount", Value::Integer), ("rowindex", Value::Positive),
    ("rowindextext", Value::Any), ("rowspan", Value::Natural), ("selected", MAYBE), ("setsize", Value::Integer),
    ("sort", Value::OneOf(&["ascending", "descending", "none", "other"])), ("valuemax", Value::Number),
    ("valuemin", Value::Number), ("valuenow", Value::Number), ("valuetext", Value::Any),
];

/// What the value of a state must be; `None` when there is no such state.
pub(super) fn state(attribute: &str) -> Option<Value> {
    let name = attribute.strip_prefix("aria-")?;
    let index = STATES.binary_search_by(|(known, _)| (*known).cmp(name)).ok()?;
    STATES.get(index).map(|(_, value)| *value)
}

/// What is wrong with an element's role, in words.
pub(super) fn role_fault(element: &str, role: &str) -> Option<String> {
    if WITHOUT_ROLE.contains(&element) {
        return Some(format!("“{element}” may have no role"));
    }
    role.split_ascii_whitespace()
        .find(|one| !ROLES.split_ascii_whitespace().any(|known| known.eq_ignore_ascii_case(one)))
        .map(|one| format!("there is no role “{one}”"))
}

/// A state that one of these roles needs and the element does not have.
pub(super) fn needed_state(role: &str) -> &'static [&'static str] {
    match role {
        "checkbox" | "menuitemcheckbox" | "menuitemradio" | "radio" | "switch" => &["aria-checked"],
        "heading" => &["aria-level"],
        "slider" | "meter" => &["aria-valuenow"],
        "scrollbar" => &["aria-controls", "aria-valuenow"],
        "combobox" => &["aria-expanded"],
        _ => &[],
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn states_are_sorted() {
        assert!(STATES.is_sorted_by_key(|state| state.0));
        assert_eq!(state("aria-hidden"), Some(MAYBE));
        assert_eq!(state("aria-tide"), None);
    }
}
