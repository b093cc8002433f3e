//! `cargo xtask demo`.

use crate::postgres::Cluster;
use crate::run::{Done, cargo, root, run, state_dir, step};
use crate::{install, stop, web};
use std::process::Command;

/// Installs, builds, starts the database and serves until Ctrl-C.
pub fn demo() -> Done {
    stop::listen();
    let given = std::env::var("DATABASE_URL").ok();
    if given.is_none() {
        install::postgresql()?;
    }
    web::build()?;
    step("Building the server");
    run(&cargo(), &["build", "--release", "-p", "rookery-server"])?;
    if stop::asked() {
        return Ok(());
    }
    step("Starting");
    let cluster = match given {
        Some(_) => None,
        None => Some(Cluster::start(&state_dir().join("postgres"), false)?),
    };
    let url = given.unwrap_or_else(|| cluster.as_ref().map(Cluster::url).unwrap_or_default());
    let mut server = Command::new(root().join("target/release/rookery"));
    server.arg("serve").arg("--token-file").arg(state_dir().join("token"));
    server.args(std::env::args().skip(2)).env("DATABASE_URL", url);
    let mut child = server.spawn().map_err(|e| format!("the server could not be started: {e}"))?;
    stop::watch(child.id());
    println!("Ctrl-C stops it.");
    let status = child.wait().map_err(|e| e.to_string())?;
    drop(cluster);
    if status.success() || stop::asked() {
        return Ok(());
    }
    Err(format!("the server ended: {status}"))
}
