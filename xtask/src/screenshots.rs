//! `cargo xtask screenshots`: the pictures of docs/screenshots, from the demo scene; and what else drives the real page.

use crate::postgres::Cluster;
use crate::run::{Done, cargo, finish, root, run, state_dir};
use crate::{install, web};
use std::process::Command;

/// Takes the pictures anew.
pub fn screenshots() -> Done {
    with_server("screenshots", &[])
}

/// The jobs of a first hour, with the steps they take; a word chooses some of them.
pub fn trial(words: &[String]) -> Done {
    with_server("trial", words)
}

/// Fixed frames as view and as still beside each other, into `target/looks`; a word chooses some of them.
pub fn looks(words: &[String]) -> Done {
    with_server("looks", words)
}

/// Builds all in release, starts a throw-away database, and runs one of the drivers of `rookery-e2e`.
pub fn with_server(driver: &str, args: &[String]) -> Done {
    install::postgresql()?;
    install::browser()?;
    web::build()?;
    // With other packages chosen Cargo chooses other features, and builds half of everything again.
    run(&cargo(), &["build", "--release", "--workspace"])?;
    let cluster = Cluster::start(&state_dir().join(format!("{driver}-{}", std::process::id())), true)?;
    let mut command = Command::new(root().join("target/release").join(driver));
    command
        .args(args)
        .current_dir(root())
        .env("ROOKERY_TEST_DATABASE_URL", cluster.url())
        .env("ROOKERY_BINARY", root().join("target/release/rookery"));
    finish(&mut command, driver)
}
