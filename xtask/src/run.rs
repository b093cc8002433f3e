//! Running other programs.

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

/// A failure, in words for the person at the keyboard.
pub type Done<T = ()> = Result<T, String>;

/// The project's root.
pub fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).parent().expect("xtask lies in the project").to_owned()
}

/// Where everything lies that is not part of the project: the demo's database and marks of what was installed.
pub fn state_dir() -> PathBuf {
    root().join(".rookery")
}

/// Says what comes next.
pub fn step(what: &str) {
    println!("\n== {what}");
}

/// Runs a program in the project's root and waits; its words go to the terminal.
pub fn run(program: &str, args: &[&str]) -> Done {
    finish(Command::new(program).args(args).current_dir(root()), program)
}

/// Runs a prepared command.
pub fn finish(command: &mut Command, name: &str) -> Done {
    let status =
        command.stdin(Stdio::null()).status().map_err(|e| format!("{name} could not be started: {e}"))?;
    if status.success() { Ok(()) } else { Err(format!("{name} failed ({status})")) }
}

/// Whether a program can be started.
pub fn has(program: &str) -> bool {
    Command::new(program).arg("--version").stdout(Stdio::null()).stderr(Stdio::null()).status().is_ok()
}

/// The same cargo that runs us.
pub fn cargo() -> String {
    std::env::var("CARGO").unwrap_or_else(|_| "cargo".to_owned())
}
