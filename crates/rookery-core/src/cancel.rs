//! A flag that long work looks at, so that whoever asked for it can stop it.

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Shared between the one who asks for work and the work itself. Cloning shares the flag.
#[derive(Clone, Debug, Default)]
pub struct CancelToken(Arc<AtomicBool>);

impl CancelToken {
    /// Asks the work to stop. It stops at its next look, typically within milliseconds.
    pub fn cancel(&self) {
        self.0.store(true, Ordering::Relaxed);
    }

    /// Whether the work should stop.
    pub fn is_cancelled(&self) -> bool {
        self.0.load(Ordering::Relaxed)
    }
}

/// The work was stopped before it finished; nothing of it is kept.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
#[error("stopped before it finished")]
pub struct Cancelled;
