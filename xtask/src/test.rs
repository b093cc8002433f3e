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
    let test = |args: &[&str]| {
        let mut tests = Command::new(&cargo);
        tests
            .arg("test")
            .args(args)
            .current_dir(root())
            .env("ROOKERY_TEST_DATABASE_URL", cluster.url())
            .env("ROOKERY_BINARY", root().join("target/debug/rookery"));
        finish(&mut tests, "cargo test")
    };
    test(&["--workspace", "--exclude", "rookery-e2e", "--no-fail-fast"])?;
    handed_off_glb_is_valid()?;
    step("Stories in the browser");
    // One at a time: a browser that draws in software wants both cores.
    test(&["-p", "rookery-e2e", "--no-fail-fast", "--", "--test-threads=1"])
}

/// The demo scene as GLB, looked at by the Khronos validator.
fn handed_off_glb_is_valid() -> Done {
    step("Validating a GLB");
    let binary = root().join("target/debug/rookery");
    let dir = state_dir();
    let scene = dir.join("demo.json");
    let demo = Command::new(&binary).args(["scene", "demo"]).output().map_err(|e| e.to_string())?;
    std::fs::write(&scene, demo.stdout).map_err(|e| e.to_string())?;
    let glb = dir.join("demo.glb");
    finish(Command::new(&binary).arg("export").arg(&scene).arg("--to").arg(&glb), "rookery export")?;
    let mut validate = Command::new("node");
    finish(
        validate.arg("validate-glb.mjs").arg(&glb).current_dir(root().join("web/codegen")),
        "gltf-validator",
    )
}
