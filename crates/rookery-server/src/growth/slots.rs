//! Derived data of one kind, each piece made once.

use super::store::Store;
use crate::error::ApiError;
use rookery_core::scene::ContentKey;
use std::collections::HashMap;
use std::marker::PhantomData;
use std::sync::{Arc, Mutex, PoisonError};

/// Held while a value is being made, so that it is made once. Waited for on request threads, never on those that
/// compute: a computing thread that waits may pick up the very work that must let go first.
type Making = Arc<tokio::sync::Mutex<()>>;

/// Values by key in a store that is shared with other kinds.
pub(super) struct Slots<T> {
    kind: &'static str,
    store: Store,
    /// What is being made right now. Work that failed or was stopped leaves nothing behind.
    making: Mutex<HashMap<ContentKey, Making>>,
    of: PhantomData<fn() -> T>,
}

impl<T: Send + Sync + 'static> Slots<T> {
    /// None yet, of a kind that no other slots of the store have.
    pub fn new(store: &Store, kind: &'static str) -> Self {
        Self { kind, store: store.clone(), making: Mutex::default(), of: PhantomData }
    }

    /// The value, when it is there.
    pub fn get(&self, key: &ContentKey) -> Option<Arc<T>> {
        self.store.get(self.kind, *key)?.downcast().ok()
    }

    /// Keeps a value of so many bytes, or weighs it anew.
    pub fn put(&self, key: ContentKey, value: Arc<T>, bytes: usize) {
        self.store.put(self.kind, key, value, bytes);
    }

    fn turn(&self, key: ContentKey) -> Turn<'_> {
        let mut making = self.making.lock().unwrap_or_else(PoisonError::into_inner);
        let lock = making.entry(key).or_default().clone();
        Turn { making: &self.making, key, lock: Some(lock) }
    }

    /// The value, made by `make` (with its size in bytes) when it is not there. Another caller of the same key waits.
    pub async fn get_or_make(
        &self,
        key: ContentKey,
        make: impl Future<Output = Result<(T, usize), ApiError>>,
    ) -> Result<Arc<T>, ApiError> {
        if let Some(found) = self.get(&key) {
            return Ok(found);
        }
        let turn = self.turn(key);
        let lock = turn.lock.clone().expect("it is let go of at the end only");
        let _alone = lock.lock_owned().await;
        if let Some(found) = self.get(&key) {
            return Ok(found);
        }
        let (made, bytes) = make.await?;
        let made = Arc::new(made);
        self.put(key, made.clone(), bytes);
        Ok(made)
    }
}

/// One who makes a value or waits for it. The last one takes the lock away, however it ends.
struct Turn<'s> {
    making: &'s Mutex<HashMap<ContentKey, Making>>,
    key: ContentKey,
    lock: Option<Making>,
}

impl Drop for Turn<'_> {
    fn drop(&mut self) {
        let mut making = self.making.lock().unwrap_or_else(PoisonError::into_inner);
        self.lock = None;
        // Only the one in the list is left when nobody makes it or waits.
        if making.get(&self.key).is_some_and(|lock| Arc::strong_count(lock) <= 1) {
            making.remove(&self.key);
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
        let slots = Slots::<u32>::new(&Store::new(100), "number");
        let put = async |i: u32| *slots.get_or_make(key(i), async { Ok((i, 40)) }).await.unwrap();
        assert_eq!((put(1).await, put(2).await), (1, 2));
        assert_eq!(*slots.get_or_make(key(1), async { panic!("made twice") }).await.unwrap(), 1);
        put(3).await;
        assert!(slots.get(&key(1)).is_some() && slots.get(&key(2)).is_none() && slots.get(&key(3)).is_some());
    }

    #[tokio::test]
    async fn of_many_who_want_one_value_one_makes_it() {
        let slots = Slots::<u32>::new(&Store::new(100), "number");
        let made = std::sync::atomic::AtomicU32::new(0);
        let want = || {
            slots.get_or_make(key(1), async {
                tokio::time::sleep(std::time::Duration::from_millis(20)).await;
                Ok((made.fetch_add(1, std::sync::atomic::Ordering::SeqCst), 1))
            })
        };
        let all = futures::future::join_all((0..20).map(|_| want())).await;
        assert!(all.into_iter().all(|v| *v.unwrap() == 0));
        assert!(slots.making.lock().unwrap().is_empty(), "nobody makes anything any more");
    }

    /// Broke: each key that failed or was stopped left a slot behind for good.
    #[tokio::test]
    async fn work_that_failed_or_was_stopped_leaves_nothing_behind() {
        let store = Store::new(100);
        let slots = Slots::<u32>::new(&store, "number");
        assert!(slots.get_or_make(key(1), async { Err(ApiError::NotFound("thing")) }).await.is_err());
        let stopped = slots.get_or_make(key(2), std::future::pending());
        assert!(tokio::time::timeout(std::time::Duration::from_millis(10), stopped).await.is_err());
        assert!(slots.making.lock().unwrap().is_empty());
        assert_eq!(store.bytes(), 0);
        assert_eq!(*slots.get_or_make(key(1), async { Ok((5, 1)) }).await.unwrap(), 5);
    }
}
