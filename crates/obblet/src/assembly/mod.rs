//! Many documents into one, and one into many.

mod bind;
mod identify;
mod split;

pub use bind::{BindOptions, Bound, Part, bind};
pub use split::{SplitPage, split};
