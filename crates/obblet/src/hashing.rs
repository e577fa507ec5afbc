//! Maps and sets with a quick hash, for keys that come from documents: it is seeded anew in each
//! process, so that nobody can write down keys that all fall into one place.

use foldhash::fast::RandomState;

/// A map by quick hash.
pub(crate) type QuickMap<K, V> = std::collections::HashMap<K, V, RandomState>;

/// A set by quick hash.
pub(crate) type QuickSet<K> = std::collections::HashSet<K, RandomState>;
