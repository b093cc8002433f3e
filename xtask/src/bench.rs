//! `cargo xtask bench`: the figures of docs/performance.md.

use crate::run::{Done, cargo, run, step};

/// Runs the benches of the crates, one after the other.
pub fn bench() -> Done {
    for package in ["rookery-core", "rookery-render", "rookery-formats"] {
        step(&format!("Bench of {package}"));
        run(&cargo(), &["bench", "-p", package, "--benches"])?;
    }
    step("Bench of the server, on loopback");
    crate::screenshots::with_server("bench")?;
    crate::screenshots::with_server("dabs")
}
