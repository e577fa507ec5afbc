//! TeX (LaTeX2e with amsmath, amssymb, mathtools and common extras): reader and writer of formulas.

mod colours;
mod constructs;
mod environments;
mod read;
mod scan;
mod signs;
mod text;
mod write;

pub(crate) use colours::{css_colour, hex_digits};
pub(crate) use read::{read, usual_placement};
pub(crate) use scan::{Problem, ProblemKind};
pub(crate) use write::tex;
