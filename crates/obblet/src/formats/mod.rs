//! The formats, a folder each, and what all readers and writers share.

pub(crate) mod code_content;
pub(crate) mod depth;
mod error;
pub mod html;
pub mod latex;
pub mod markdown;
pub mod org;
mod read_options;
mod reading;
pub(crate) mod signature;
pub mod text;
pub mod text_source;
pub mod word;

pub use error::{ReadError, WriteError};
pub use read_options::{EmbeddedHtml, ReadOptions};
pub use reading::Reading;
