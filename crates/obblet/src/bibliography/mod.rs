//! Works that documents cite: files of them, and how citations and lists of works show them.

mod bibtex;
mod shown;

pub(crate) use bibtex::read_bibtex;
pub(crate) use shown::Shown;
