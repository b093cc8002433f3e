//! Test programs that Cargo built: running them, and how long each of their tests takes.

use crate::run::{Done, cargo, root};
use serde_json::Value;
use std::ffi::OsString;
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

/// One program with tests.
pub struct Suite {
    /// The package that it is of.
    pub package: String,
    name: String,
    program: PathBuf,
    /// Where Cargo runs it.
    dir: PathBuf,
}

/// Builds all tests of the workspace, and the programs that they drive.
pub fn built() -> Done<Vec<Suite>> {
    let build = Command::new(cargo())
        .args(["test", "--workspace", "--no-run", "--message-format=json-render-diagnostics"])
        .current_dir(root())
        .stdin(Stdio::null())
        .stderr(Stdio::inherit())
        .output()
        .map_err(|e| format!("cargo test could not be started: {e}"))?;
    if !build.status.success() {
        return Err(format!("cargo test failed to build ({})", build.status));
    }
    let mut suites: Vec<Suite> = build
        .stdout
        .split(|b| *b == b'\n')
        .filter_map(|line| suite(&serde_json::from_slice(line).ok()?))
        .collect();
    suites.sort_by(|a, b| (&a.package, &a.name).cmp(&(&b.package, &b.name)));
    if suites.is_empty() { Err("cargo named no tests".to_owned()) } else { Ok(suites) }
}

/// The test program that a message of Cargo tells of, if it does.
fn suite(message: &Value) -> Option<Suite> {
    let tests = message["reason"] == "compiler-artifact" && message["profile"]["test"] == true;
    let dir = Path::new(message["manifest_path"].as_str()?).parent()?;
    tests.then_some(Suite {
        package: dir.file_name()?.to_str()?.to_owned(),
        name: message["target"]["name"].as_str()?.to_owned(),
        program: message["executable"].as_str()?.into(),
        dir: dir.to_owned(),
    })
}

impl Suite {
    /// Runs it; its words go to the terminal.
    pub fn run(&self, args: &[&str], env: &[(&str, OsString)], times: &mut Times) -> Done {
        let name = format!("{} {}", self.package, self.name);
        println!("\n     Running {name}");
        let mut tests = Command::new(&self.program)
            .args(args)
            // How long each takes is told on request only, and a stable toolchain has to be asked twice.
            .args(["-Zunstable-options", "--report-time"])
            .env("RUSTC_BOOTSTRAP", "1")
            .env("CARGO_MANIFEST_DIR", &self.dir)
            .envs(env.iter().map(|(key, value)| (key, value)))
            .current_dir(&self.dir)
            .stdin(Stdio::null())
            .stdout(Stdio::piped())
            .spawn()
            .map_err(|e| format!("{name} could not be started: {e}"))?;
        for line in BufReader::new(tests.stdout.take().expect("it is piped")).lines() {
            let line = line.map_err(|e| format!("{name}: {e}"))?;
            println!("{line}");
            times.note(&name, &line);
        }
        let status = tests.wait().map_err(|e| format!("{name}: {e}"))?;
        if status.success() { Ok(()) } else { Err(format!("{name} failed ({status})")) }
    }
}

/// How long tests took.
#[derive(Default)]
pub struct Times(Vec<(f64, String)>);

impl Times {
    /// Reads a line such as `test a_name ... ok <1.234s>`.
    fn note(&mut self, suite: &str, line: &str) {
        let Some((test, rest)) = line.strip_prefix("test ").and_then(|l| l.split_once(" ... ")) else {
            return;
        };
        let seconds = rest.rsplit_once('<').and_then(|(_, t)| t.strip_suffix("s>")?.parse().ok());
        if let Some(seconds) = seconds {
            self.0.push((seconds, format!("{suite}: {test}")));
        }
    }

    /// Prints how many there were, and those that took longest.
    pub fn print_slowest(&mut self, count: usize) {
        self.0.sort_by(|a, b| b.0.total_cmp(&a.0));
        let all: f64 = self.0.iter().map(|t| t.0).sum();
        println!("\n{} tests, {all:.0} s of tests. The slowest:", self.0.len());
        for (seconds, name) in self.0.iter().take(count) {
            println!("{seconds:8.1} s  {name}");
        }
    }
}

#[cfg(test)]
mod tests {
    use super::Times;

    #[test]
    fn times_are_read_off_the_lines_of_the_test_runner() {
        let mut times = Times::default();
        for line in [
            "running 2 tests",
            "test a::b ... ok <1.250s>",
            "test c ... FAILED <0.500s>",
            "test d ... ignored",
        ] {
            times.note("core", line);
        }
        assert_eq!(times.0, [(1.25, "core: a::b".to_owned()), (0.5, "core: c".to_owned())]);
    }
}
