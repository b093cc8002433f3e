//! Processor work off the request threads.

use crate::error::ApiError;
use rookery_core::cancel::CancelToken;
use std::sync::Arc;
use tokio::sync::oneshot;

/// Threads for processor work. Cloning shares them.
#[derive(Clone)]
pub struct Pool(Arc<rayon::ThreadPool>);

/// One thread a core, named for what they do.
///
/// # Panics
/// When the system gives no threads, at start.
pub fn pool(name: &'static str) -> Pool {
    let built = rayon::ThreadPoolBuilder::new().thread_name(move |i| format!("{name}-{i}")).build();
    Pool(Arc::new(built.expect("a system that runs this server has threads to give")))
}

struct CancelOnDrop(CancelToken);

impl Drop for CancelOnDrop {
    fn drop(&mut self) {
        self.0.cancel();
    }
}

impl Pool {
    /// Runs `work` here and waits for it. When the waiting future is dropped, the work is asked to stop.
    ///
    /// # Errors
    /// Those of the work; or when it panicked.
    pub async fn run<T: Send + 'static>(
        &self,
        work: impl FnOnce(&CancelToken) -> Result<T, ApiError> + Send + 'static,
    ) -> Result<T, ApiError> {
        let cancel = CancelToken::default();
        let guard = CancelOnDrop(cancel.clone());
        let (sender, receiver) = oneshot::channel();
        self.0.spawn(move || {
            let result = std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| work(&cancel)));
            // Nobody waiting any more is no fault.
            let _ = sender.send(result);
        });
        let result = receiver.await;
        drop(guard);
        match result {
            Ok(Ok(result)) => result,
            _ => Err(ApiError::Internal("the computation broke off; nothing was changed".to_owned())),
        }
    }
}
