//! All derived data under one ceiling of bytes.

use rookery_core::scene::ContentKey;
use std::any::Any;
use std::collections::{BTreeMap, HashMap};
use std::sync::{Arc, Mutex, PoisonError};

/// A kind of derived data, and what names one piece of it.
type Name = (&'static str, ContentKey);
/// Whatever is kept; only its own [`Slots`](super::slots::Slots) know what it is.
type Anything = Arc<dyn Any + Send + Sync>;

struct Kept {
    value: Anything,
    bytes: usize,
    used: u64,
}

#[derive(Default)]
struct Inner {
    kept: HashMap<Name, Kept>,
    /// Names by when they were last used, the longest unused first.
    by_use: BTreeMap<u64, Name>,
    clock: u64,
    bytes: usize,
}

impl Inner {
    fn use_now(&mut self, name: Name) -> Option<Anything> {
        self.clock += 1;
        let (clock, kept) = (self.clock, self.kept.get_mut(&name)?);
        self.by_use.remove(&kept.used);
        kept.used = clock;
        self.by_use.insert(clock, name);
        Some(kept.value.clone())
    }

    fn remove(&mut self, name: &Name) {
        if let Some(gone) = self.kept.remove(name) {
            self.by_use.remove(&gone.used);
            self.bytes -= gone.bytes;
        }
    }
}

/// Pieces of derived data of all kinds. When they outgrow the ceiling, the longest unused go first. Cloning shares it.
#[derive(Clone)]
pub(super) struct Store {
    inner: Arc<Mutex<Inner>>,
    ceiling: usize,
}

impl Store {
    /// An empty store that keeps no more than `ceiling` bytes.
    pub fn new(ceiling: usize) -> Self {
        Self { inner: Arc::default(), ceiling }
    }

    /// A piece, which is thereby the last used.
    pub fn get(&self, kind: &'static str, key: ContentKey) -> Option<Anything> {
        self.inner.lock().unwrap_or_else(PoisonError::into_inner).use_now((kind, key))
    }

    /// Keeps a piece, or says anew how large one has become. One that is larger than the ceiling by itself is not kept.
    pub fn put(&self, kind: &'static str, key: ContentKey, value: Anything, bytes: usize) {
        let mut inner = self.inner.lock().unwrap_or_else(PoisonError::into_inner);
        let name = (kind, key);
        inner.remove(&name);
        inner.clock += 1;
        let used = inner.clock;
        inner.kept.insert(name, Kept { value, bytes, used });
        inner.by_use.insert(used, name);
        inner.bytes += bytes;
        while inner.bytes > self.ceiling {
            let Some((_, oldest)) = inner.by_use.first_key_value().map(|(used, name)| (*used, *name)) else {
                break;
            };
            inner.remove(&oldest);
        }
    }

    /// Bytes that are kept.
    pub fn bytes(&self) -> usize {
        self.inner.lock().unwrap_or_else(PoisonError::into_inner).bytes
    }

    /// The most bytes that are kept.
    pub fn ceiling(&self) -> usize {
        self.ceiling
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rookery_core::scene::content_key;

    #[test]
    fn kinds_share_one_ceiling_and_the_longest_unused_goes_first() {
        let store = Store::new(100);
        let key = |i: u32| content_key("test", &i);
        store.put("a", key(1), Arc::new(1_u32), 40);
        store.put("b", key(1), Arc::new(2_u32), 40);
        assert!(store.get("a", key(1)).is_some());
        store.put("c", key(2), Arc::new(3_u32), 40);
        assert_eq!(store.bytes(), 80);
        assert!(store.get("b", key(1)).is_none() && store.get("a", key(1)).is_some());
        // One that grows is weighed anew; one that is too large by itself leaves no room for others, and is not kept either.
        store.put("a", key(1), Arc::new(1_u32), 70);
        assert_eq!(store.bytes(), 70);
        assert!(store.get("c", key(2)).is_none());
        store.put("d", key(3), Arc::new(4_u32), 101);
        assert_eq!(store.bytes(), 0);
    }
}
