//! Driving the real interface: a server on a database of its own, and Debian's Chromium through ChromeDriver.

#![cfg_attr(not(test), warn(clippy::unwrap_used))]

mod browser;
mod gate;
pub mod likeness;
mod page;
mod server;

pub use browser::{Browser, Sharpness};
pub use gate::Gate;
pub use page::Page;
pub use server::Server;

use std::path::PathBuf;

/// A failure, in words.
pub type Done<T = ()> = Result<T, Box<dyn std::error::Error>>;

/// A folder of its own under the system's temporary one.
pub fn scratch(name: &str) -> std::io::Result<PathBuf> {
    use std::sync::atomic::{AtomicU32, Ordering};
    static NEXT: AtomicU32 = AtomicU32::new(0);
    let n = NEXT.fetch_add(1, Ordering::Relaxed);
    let dir = std::env::temp_dir().join(format!("rookery-{name}-{}-{n}", std::process::id()));
    std::fs::create_dir_all(&dir)?;
    Ok(dir)
}
