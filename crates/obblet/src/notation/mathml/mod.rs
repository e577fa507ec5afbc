//! MathML Core: reader and writer of formulas.
//!
//! What Core has no element for is said with CSS in `style` attributes, which the reader knows again:
//! frames, strokes, colours, the columns of arrays.

mod letters;
mod read;
mod write;
mod write_tables;

pub(crate) use letters::styled_text;
pub(crate) use read::{Element, Node, read_mathml};
pub(crate) use write::{Page, push_mathml};
pub(crate) use write_tables::shown_number;

/// What a part is framed with.
const FRAME: &str = "border: 1px solid; padding: 0.2em";

/// Lines above and below something: no font has them in every length.
const OVERLINE: &str = "border-top: 0.06em solid; padding-top: 0.1em";
const UNDERLINE: &str = "border-bottom: 0.06em solid; padding-bottom: 0.1em";

/// Room between the name of a function and what it is applied to, in hundredths of a unit.
const FUNCTION_ROOM: i32 = 300;

/// What source that nobody understood looks like.
const SOURCE: &str = "font-family: monospace";

/// The cell of a number at the end of its line.
const NUMBER: &str = "text-align: right; padding-left: 2em";

/// A cell whose content is at the left.
const LEFT: &str = "text-align: left";

/// Heights of the four sizes of brackets, in em.
const BRACKETS: [&str; 4] = ["1.2em", "1.8em", "2.4em", "3em"];

/// The line that strikes something out.
fn stroke(strike: crate::math::Strike) -> String {
    use crate::math::Strike;
    let line = |side: &str| {
        format!(
            "linear-gradient(to {side}, transparent calc(50% - 0.6px), currentcolor 0, \
             currentcolor calc(50% + 0.6px), transparent 0)"
        )
    };
    let drawn = match strike {
        Strike::Rising => line("bottom right"),
        Strike::Falling => line("top right"),
        Strike::Crossed => format!("{}, {}", line("bottom right"), line("top right")),
        Strike::Level => line("bottom"),
    };
    format!("background: {drawn}")
}
