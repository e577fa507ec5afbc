//! Where things stand in the sources they came from, and short strings: what everything else is built on.

mod place;

pub use compact_str::CompactString;
pub(crate) use place::positions_in;
pub use place::{Place, Position, SourceMap};
