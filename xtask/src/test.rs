//! `cargo xtask test`: everything that must hold before a change lands.

use crate::postgres::Cluster;
use crate::run::{Done, cargo, finish, root, run, state_dir, step};
use crate::suites::{Suite, Times, built};
use crate::{deny, install, web};
use std::process::Command;

/// The package whose tests drive the browser.
const STORIES: &str = "rookery-e2e";

/// Formatting, licences, lints, all Cargo tests with a throw-away database, and the browser stories; `quick` leaves the stories out.
pub fn test(quick: bool) -> Done {
    install::postgresql()?;
    if !quick {
        install::browser()?;
    }
    let cargo = cargo();
    step("Formatting");
    run(&cargo, &["fmt", "--all", "--check"])?;
    deny::check()?;
    web::check()?;
    // The stories and the binary need the built client.
    web::build()?;
    step("Lints");
    run(&cargo, &["clippy", "--workspace", "--all-targets", "--", "-D", "warnings"])?;
    step("Building the tests");
    // All at once: with other packages chosen Cargo chooses other features, and builds half of everything again.
    let suites = built()?;
    let dir = state_dir().join(format!("test-{}", std::process::id()));
    let cluster = Cluster::start(&dir, true)?;
    let binary = root().join("target/debug/rookery");
    let mut times = Times::default();
    let mut failed = Vec::new();
    let mut all = |suites: &[&Suite], args: &[&str]| {
        for suite in suites {
            let env = [
                ("ROOKERY_TEST_DATABASE_URL", cluster.url().into()),
                ("ROOKERY_BINARY", binary.clone().into()),
            ];
            if let Err(why) = suite.run(args, &env, &mut times) {
                failed.push(why);
            }
        }
        if failed.is_empty() { Ok(()) } else { Err(failed.join("; ")) }
    };
    let (stories, rest): (Vec<_>, Vec<_>) = suites.iter().partition(|s| s.package == STORIES);
    step("Tests");
    let mut done = all(&rest, &[]).and_then(|()| run(&cargo, &["test", "--workspace", "--doc", "--quiet"]));
    // What it complains of must not hide what the stories find.
    let glb = if done.is_ok() { handed_off_glb_is_valid() } else { Ok(()) };
    if !quick && done.is_ok() {
        step("Stories in the browser");
        // One at a time: a browser that draws in software wants both cores.
        done = all(&stories, &["--test-threads=1"]);
    }
    times.print_slowest(10);
    done.and(glb)
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
