//! Building and checking the web client.

use crate::install;
use crate::run::{Done, cargo, finish, root, state_dir, step};
use std::fs;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

/// Where the interface of the server is written down, and the types made from it.
const OPENAPI: &str = "web/openapi.json";
const CLIENT: &str = "web/src/api/schema.d.ts";

/// Installs the packages named in the lock file, unless they are there already.
fn packages(dir: &str) -> Done {
    install::node()?;
    let folder = root().join(dir);
    let lock =
        fs::read(folder.join("package-lock.json")).map_err(|e| format!("{dir}/package-lock.json: {e}"))?;
    let mark = folder.join("node_modules/.installed-lock");
    if fs::read(&mark).is_ok_and(|known| known == lock) {
        return Ok(());
    }
    step(&format!("Installing the packages of {dir}"));
    finish(Command::new("npm").args(["ci", "--no-audit", "--no-fund"]).current_dir(&folder), "npm ci")?;
    fs::write(&mark, lock).map_err(|e| format!("{}: {e}", mark.display()))
}

fn npm(script: &str) -> Done {
    finish(Command::new("npm").args(["run", "--silent", script]).current_dir(root().join("web")), script)
}

/// Builds the web client into `web/dist`, unless it was built from the same files: what is written anew is compiled into the server
/// anew.
pub fn build() -> Done {
    packages("web")?;
    let mark = state_dir().join("web-built-from");
    let sum = sum_of_sources(&root().join("web"))?.to_string();
    if root().join("web/dist/index.html").exists()
        && fs::read_to_string(&mark).is_ok_and(|known| known == sum)
    {
        step("The web client is as it was");
        return Ok(());
    }
    step("Building the web client");
    npm("build")?;
    fs::create_dir_all(state_dir()).map_err(|e| e.to_string())?;
    fs::write(&mark, sum).map_err(|e| format!("{}: {e}", mark.display()))
}

/// A number for the names and contents of all files that the client is made from.
fn sum_of_sources(dir: &Path) -> Done<u64> {
    let mut sum = DefaultHasher::new();
    add_folder(dir, &mut sum).map_err(|e| format!("{}: {e}", dir.display()))?;
    Ok(sum.finish())
}

fn add_folder(dir: &Path, sum: &mut DefaultHasher) -> std::io::Result<()> {
    let mut entries: Vec<PathBuf> =
        fs::read_dir(dir)?.map(|e| e.map(|e| e.path())).collect::<Result<_, _>>()?;
    // In the same order on any disk.
    entries.sort();
    for path in entries {
        let name = path.file_name().unwrap_or_default();
        if path.is_dir() {
            if name != "node_modules" && name != "dist" && name != "codegen" {
                add_folder(&path, sum)?;
            }
            continue;
        }
        // Written by the checks themselves, or no part of the page.
        if name == "openapi.json" || path.extension().is_some_and(|e| e == "tsbuildinfo") {
            continue;
        }
        name.hash(sum);
        fs::read(&path)?.hash(sum);
    }
    Ok(())
}

/// Types, lints, unit tests, and whether the typed client is up to date.
pub fn check() -> Done {
    packages("web")?;
    packages("web/codegen")?;
    step("Checking the web client");
    npm("lint")?;
    npm("test")?;
    step("Comparing the typed client with the server's interface");
    let fresh = types_of(&root().join(OPENAPI))?;
    let known = fs::read_to_string(root().join(CLIENT)).unwrap_or_default();
    if fresh != known {
        return Err(format!("{CLIENT} is stale; run: cargo xtask client"));
    }
    Ok(())
}

/// Writes the server's interface down and makes the typed client from it.
pub fn make_client() -> Done {
    packages("web/codegen")?;
    let output = Command::new(cargo())
        .args(["run", "--quiet", "-p", "rookery-server", "--", "openapi"])
        .current_dir(root())
        .stderr(Stdio::inherit())
        .output()
        .map_err(|e| e.to_string())?;
    if !output.status.success() {
        return Err("the server's interface could not be read".to_owned());
    }
    fs::write(root().join(OPENAPI), &output.stdout).map_err(|e| e.to_string())?;
    let types = types_of(&root().join(OPENAPI))?;
    fs::write(root().join(CLIENT), types).map_err(|e| e.to_string())
}

fn types_of(openapi: &Path) -> Done<String> {
    fs::create_dir_all(state_dir()).map_err(|e| e.to_string())?;
    let out: PathBuf = state_dir().join("schema.d.ts");
    let mut command = Command::new("node");
    command
        .arg("node_modules/openapi-typescript/bin/cli.js")
        .arg(openapi)
        .arg("--output")
        .arg(&out)
        .current_dir(root().join("web/codegen"))
        .stdout(Stdio::null());
    finish(&mut command, "openapi-typescript")?;
    fs::read_to_string(out).map_err(|e| e.to_string())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_sum_follows_names_and_contents_and_nothing_else() {
        let dir = std::env::temp_dir().join(format!("rookery-web-{}", std::process::id()));
        fs::create_dir_all(dir.join("src")).unwrap();
        fs::create_dir_all(dir.join("dist")).unwrap();
        let sum = || sum_of_sources(&dir).unwrap();
        fs::write(dir.join("src/a.ts"), "one").unwrap();
        let first = sum();
        fs::write(dir.join("dist/index.html"), "built").unwrap();
        fs::write(dir.join("src/a.ts"), "one").unwrap();
        assert_eq!(sum(), first);
        fs::write(dir.join("src/a.ts"), "two").unwrap();
        let changed = sum();
        assert_ne!(changed, first);
        fs::rename(dir.join("src/a.ts"), dir.join("src/b.ts")).unwrap();
        assert_ne!(sum(), changed);
        fs::remove_dir_all(&dir).unwrap();
    }
}
