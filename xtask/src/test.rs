//! `cargo xtask test`: everything that must hold before a change lands.

use crate::postgres::Cluster;
use crate::run::{Done, cargo, finish, root, run, state_dir, step};
use crate::{install, web};
use std::process::Command;

/// Formatting, lints, all Cargo tests with a throw-away database, and the browser stories.
pub fn test() -> Done {
    install::postgresql()?;
    install::browser()?;
    let cargo = cargo();
    step("Formatting");
    run(&cargo, &["fmt", "--all", "--check"])?;
    web::check()?;
    // The stories and the binary need the built client.
    web::build()?;
    step("Lints");
    run(&cargo, &["clippy", "--workspace", "--all-targets", "--", "-D", "warnings"])?;
    step("Tests");
    let dir = state_dir().join(format!("test-{}", std::process::id()));
    let cluster = Cluster::start(&dir, true)?;
    // The stories drive this binary.
    run(&cargo, &["build", "-p", "rookery-server"])?;
    let mut tests = Command::new(&cargo);
    tests
        .args(["test", "--workspace", "--no-fail-fast"])
        .current_dir(root())
        .env("ROOKERY_TEST_DATABASE_URL", cluster.url())
        .env("ROOKERY_BINARY", root().join("target/debug/rookery"));
    finish(&mut tests, "cargo test")
}
