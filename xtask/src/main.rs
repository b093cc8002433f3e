//! The commands a newcomer needs.
//!
//! `cargo xtask demo` installs what is missing, builds, loads the demo scene and serves it. `cargo xtask test` checks
//! everything, with `--quick` all but the stories in the browser. `cargo xtask bench` prints the figures of docs/performance.md.
//! `cargo xtask trial` does the jobs
//! of a first hour in the real page and counts their steps. `cargo xtask looks` draws fixed frames as view and as still and compares them. `cargo xtask screenshots` takes the pictures of docs/screenshots anew. `cargo xtask client` makes the typed web client from the
//! server's interface. `cargo xtask fuzz` tries the readers of files with a million broken ones each.

mod bench;
mod demo;
mod deny;
mod fuzz;
mod install;
mod postgres;
mod run;
mod screenshots;
mod stop;
mod suites;
mod test;
mod web;

use std::process::ExitCode;

const HELP: &str = "cargo xtask demo | test [--quick] | bench | trial | looks | screenshots | client | fuzz";

fn main() -> ExitCode {
    let task = std::env::args().nth(1);
    let done = match task.as_deref() {
        Some("demo") => demo::demo(),
        Some("test") => test::test(std::env::args().any(|a| a == "--quick")),
        Some("bench") => bench::bench(),
        Some("screenshots") => screenshots::screenshots(),
        Some("trial") => screenshots::trial(&std::env::args().skip(2).collect::<Vec<_>>()),
        Some("looks") => screenshots::looks(&std::env::args().skip(2).collect::<Vec<_>>()),
        Some("client") => web::make_client(),
        Some("fuzz") => fuzz::fuzz(std::env::args().nth(2), std::env::args().nth(3)),
        _ => Err(HELP.to_owned()),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(why) => {
            eprintln!("xtask: {why}");
            ExitCode::FAILURE
        }
    }
}
