//! The notations of formulas: what [`Formula`](crate::math::Formula) and its tree are in TeX and in MathML.
//!
//! Word's notation stands with the reader and writer of Word files. A reader that has a tree keeps it with
//! the formula; where there is none, whoever needs it reads the source
//! ([`Formula::expression`](crate::math::Formula::expression)).

mod chemistry;
mod formula;
mod mathml;
mod meaning;
mod tex;

pub(crate) use formula::{NumberedFormula, report};
pub use formula::{from_tex, to_tex};
pub(crate) use mathml::{Element, Node, Page, push_mathml, read_mathml, shown_number};
pub use meaning::same_meaning;
pub(crate) use tex::{ProblemKind, css_colour, hex_digits, read as read_tex};
