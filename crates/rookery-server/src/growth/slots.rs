//! A cache by content key with a ceiling on its bytes.

use crate::error::ApiError;
use rookery_core::scene::ContentKey;
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex};

/// Held while the value is being made, so that it is made once. Waited for on request threads, never on those that
/// compute: a computing thread that waits may pick up the very work that must let go first.
type Value<T> = Arc<tokio::sync::Mutex<Option<Arc<T>>>>;

struct Slot<T> {
    value: Value<T>,
    bytes: usize,
    used: u64,
}

struct Inner<T> {
    slots: BTreeMap<ContentKey, Slot<T>>,
    clock: u64,
}

/// Values by key; the longest unused go first when they outgrow the ceiling.
pub(super) struct Slots<T> {
    inner: Mutex<Inner<T>>,
    ceiling: usize,
}

impl<T> Slots<T> {
    pub fn new(ceiling: usize) -> Self {
        Self { inner: Mutex::new(Inner { slots: BTreeMap::new(), clock: 0 }), ceiling }
    }

    fn touch(&self, key: ContentKey) -> Value<T> {
        let mut inner = self.inner.lock().expect("nothing panics while holding it");
        inner.clock += 1;
        let used = inner.clock;
        let slot = inner.slots.entry(key).or_insert_with(|| Slot { value: Arc::default(), bytes: 0, used });
        slot.used = used;
        slot.value.clone()
    }

    /// The value, when it is there and finished.
    pub fn get(&self, key: &ContentKey) -> Option<Arc<T>> {
        let known = self.inner.lock().expect("nothing panics while holding it").slots.contains_key(key);
        if !known {
            return None;
        }
        self.touch(*key).try_lock().ok().and_then(|v| v.clone())
    }

    /// The value, made by `make` (with its size in bytes) when it is not there. Another caller of the same key waits.
    pub async fn get_or_make(
        &self,
        key: ContentKey,
        make: impl Future<Output = Result<(T, usize), ApiError>>,
    ) -> Result<Arc<T>, ApiError> {
        let slot = self.touch(key);
        let mut value = slot.lock().await;
        if let Some(found) = value.as_ref() {
            return Ok(found.clone());
        }
        let (made, bytes) = make.await?;
        let made = Arc::new(made);
        *value = Some(made.clone());
        drop(value);
        self.weigh(key, bytes);
        Ok(made)
    }

    fn weigh(&self, key: ContentKey, bytes: usize) {
        let mut inner = self.inner.lock().expect("nothing panics while holding it");
        if let Some(slot) = inner.slots.get_mut(&key) {
            slot.bytes = bytes;
        }
        let mut total: usize = inner.slots.values().map(|s| s.bytes).sum();
        while total > self.ceiling {
            let oldest =
                inner.slots.iter().filter(|(k, s)| **k != key && s.bytes > 0).min_by_key(|(_, s)| s.used);
            let Some((oldest, freed)) = oldest.map(|(k, s)| (*k, s.bytes)) else { break };
            inner.slots.remove(&oldest);
            total -= freed;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rookery_core::scene::content_key;

    fn key(i: u32) -> ContentKey {
        content_key("test", &i)
    }

    #[tokio::test]
    async fn a_value_is_made_once_and_the_longest_unused_goes_first() {
        let slots = Slots::<u32>::new(100);
        let put = async |i: u32| *slots.get_or_make(key(i), async { Ok((i, 40)) }).await.unwrap();
        assert_eq!((put(1).await, put(2).await), (1, 2));
        assert_eq!(*slots.get_or_make(key(1), async { panic!("made twice") }).await.unwrap(), 1);
        put(3).await;
        assert!(slots.get(&key(1)).is_some() && slots.get(&key(2)).is_none() && slots.get(&key(3)).is_some());
    }

    #[tokio::test]
    async fn a_failure_is_not_kept() {
        let slots = Slots::<u32>::new(100);
        assert!(slots.get_or_make(key(1), async { Err(ApiError::NotFound("thing")) }).await.is_err());
        assert_eq!(*slots.get_or_make(key(1), async { Ok((5, 1)) }).await.unwrap(), 5);
    }
}
