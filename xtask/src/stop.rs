//! Stopping in good order at Ctrl-C.

use std::sync::atomic::{AtomicBool, AtomicU32, Ordering};

static ASKED: AtomicBool = AtomicBool::new(false);
static CHILD: AtomicU32 = AtomicU32::new(0);

/// From now on Ctrl-C is passed on to the child that is waited for, and the rest of the program goes on to tidy up.
pub fn listen() {
    let heard = ctrlc::set_handler(|| {
        ASKED.store(true, Ordering::SeqCst);
        let child = CHILD.load(Ordering::SeqCst);
        if child != 0 {
            let _ = std::process::Command::new("kill").args(["-TERM", &child.to_string()]).status();
        }
    });
    if let Err(e) = heard {
        eprintln!("xtask: Ctrl-C cannot be listened for: {e}");
    }
}

/// Names the child that Ctrl-C is passed on to.
pub fn watch(child: u32) {
    CHILD.store(child, Ordering::SeqCst);
}

/// Whether Ctrl-C was pressed.
pub fn asked() -> bool {
    ASKED.load(Ordering::SeqCst)
}
