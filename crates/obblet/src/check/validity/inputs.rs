//! Which attributes an `input` may have depends on its type (HTML Standard, 4.10.5).

const TEXTUAL: &[&str] = &["text", "search", "tel", "url", "email", "password"];
const TIMES: &[&str] = &["date", "month", "week", "time", "datetime-local", "number", "range"];

/// Whether an input of a type may have an attribute of those that inputs may have.
pub(super) fn takes(kind: Option<&str>, attribute: &str) -> bool {
    let kind = kind.unwrap_or_default().to_ascii_lowercase();
    let kind = if kind.is_empty() { "text" } else { kind.as_str() };
    let is_textual = TEXTUAL.contains(&kind);
    let is_time = TIMES.contains(&kind);
    let is_button = matches!(kind, "submit" | "image" | "reset" | "button");
    match attribute {
        "accept" | "capture" => kind == "file",
        "alpha" | "colorspace" => kind == "color",
        "alt" | "height" | "width" | "src" => kind == "image",
        "autocomplete" => !is_button && !matches!(kind, "checkbox" | "radio" | "file"),
        "checked" => matches!(kind, "checkbox" | "radio"),
        "dirname" => is_textual || kind == "hidden" || kind == "submit",
        "formaction" | "formenctype" | "formmethod" | "formnovalidate" | "formtarget" => {
            matches!(kind, "submit" | "image")
        }
        "list" => (is_textual && kind != "password") || is_time || kind == "color",
        "max" | "min" | "step" => is_time,
        "maxlength" | "minlength" | "size" => is_textual,
        "pattern" => is_textual,
        "multiple" => matches!(kind, "email" | "file"),
        "placeholder" => is_textual || kind == "number",
        "popovertarget" | "popovertargetaction" => is_button,
        "readonly" => is_textual || (is_time && kind != "range"),
        "required" => {
            is_textual
                || (is_time && kind != "range")
                || matches!(kind, "checkbox" | "radio" | "file")
        }
        "value" => kind != "image" && kind != "file",
        _ => true,
    }
}
