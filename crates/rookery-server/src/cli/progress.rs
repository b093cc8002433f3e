//! A line on stderr that says how far long work is; silent when nobody is looking.

use std::io::{IsTerminal, Write};
use std::sync::atomic::{AtomicU32, Ordering};

pub(super) struct ProgressLine {
    what: &'static str,
    shown: bool,
    last: AtomicU32,
}

impl ProgressLine {
    pub fn new(what: &'static str) -> Self {
        Self { what, shown: std::io::stderr().is_terminal(), last: AtomicU32::new(u32::MAX) }
    }

    /// `share` from 0 to 1.
    pub fn set(&self, share: f32) {
        let percent = (share * 100.0) as u32;
        if self.shown && self.last.swap(percent, Ordering::Relaxed) != percent {
            let _ = write!(std::io::stderr(), "\r{} {percent} %", self.what);
            if percent == 100 {
                let _ = writeln!(std::io::stderr());
            }
        }
    }
}
