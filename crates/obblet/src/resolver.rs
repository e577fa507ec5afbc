//! What a document names but does not hold: the caller fetches it, the library touches no file.

/// Fetches what a document names by an address relative to itself.
pub trait Resolver {
    /// The bytes at an address such as `pictures/wheel.png`; `None` where there is nothing that the
    /// document may have.
    fn resolve(&self, address: &str) -> Option<Vec<u8>>;

    /// The day of the reading as ISO 8601, such as `2026-05-02`: what `\today` shows. By default it is
    /// not known, so that a source always becomes the same document.
    fn today(&self) -> Option<String> {
        None
    }
}

/// Nothing is there.
impl Resolver for () {
    fn resolve(&self, _address: &str) -> Option<Vec<u8>> {
        None
    }
}
