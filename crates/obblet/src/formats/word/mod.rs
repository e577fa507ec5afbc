//! Word.
use super::Reading;
/// x
#[derive(Debug, thiserror::Error)]
#[error("x")]
pub struct PackageError;
/// x
pub fn read(_: &[u8]) -> Result<Reading, PackageError> { Err(PackageError) }
