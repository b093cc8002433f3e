//! `cargo xtask bench`: the figures of docs/performance.md.

use crate::install;
use crate::postgres::Cluster;
use crate::run::{Done, cargo, finish, root, run, state_dir, step};
use std::process::Command;

/// Runs the benches of the crates, one after the other.
pub fn bench() -> Done {
    for package in ["rookery-core", "rookery-render", "rookery-formats"] {
        step(&format!("Bench of {package}"));
        run(&cargo(), &["bench", "-p", package, "--benches"])?;
    }
    step("Bench of edits, in a database");
    install::postgresql()?;
    let cluster = Cluster::start(&state_dir().join(format!("edits-{}", std::process::id())), true)?;
    let mut edits = Command::new(cargo());
    edits.args(["bench", "-p", "rookery-server", "--bench", "edits"]).current_dir(root());
    finish(edits.env("ROOKERY_TEST_DATABASE_URL", cluster.url()), "the bench of edits")?;
    drop(cluster);
    step("Bench of the server, on loopback");
    crate::screenshots::with_server("bench", &[])?;
    crate::screenshots::with_server("dabs", &[])
}
