//! A whole installation in one file, and back: all scenes with their logs, stills, communities and files.
//!
//! PostgreSQL's own programs do it; they lie on PATH or where Debian puts them.

use super::Failure;
use clap::Args;
use std::path::PathBuf;
use std::process::{Command, Stdio};

/// What to keep, and where.
#[derive(Debug, Args)]
pub(super) struct BackupArgs {
    /// The database.
    #[arg(long, env = "DATABASE_URL")]
    database_url: String,
    /// Where the backup goes. A file that is there is replaced once the new one is whole.
    #[arg(long, value_name = "FILE")]
    out: PathBuf,
}

/// What to bring back, and where.
#[derive(Debug, Args)]
pub(super) struct RestoreArgs {
    /// The backup.
    file: PathBuf,
    /// The database; it must be empty unless `--replace` is given.
    #[arg(long, env = "DATABASE_URL")]
    database_url: String,
    /// Replaces all that is in the database. There is no way back from this.
    #[arg(long)]
    replace: bool,
}

/// A program of PostgreSQL: of the newest version where Debian has several.
fn program(name: &str) -> PathBuf {
    let versions = std::fs::read_dir("/usr/lib/postgresql").into_iter().flatten().flatten();
    let mut found: Vec<PathBuf> =
        versions.map(|v| v.path().join("bin").join(name)).filter(|p| p.exists()).collect();
    found.sort();
    found.pop().unwrap_or_else(|| PathBuf::from(name))
}

fn run(command: &mut Command, what: &str) -> Result<(), Failure> {
    let output = command
        .stdin(Stdio::null())
        .output()
        .map_err(|e| Failure::other(format!("{what} cannot be run: {e}")))?;
    if output.status.success() {
        return Ok(());
    }
    let told = String::from_utf8_lossy(&output.stderr);
    Err(Failure::other(format!("{what}: {}", told.lines().next().unwrap_or("it failed without a word"))))
}

pub(super) fn backup(args: &BackupArgs) -> Result<(), Failure> {
    let mut part = args.out.clone().into_os_string();
    part.push(".part");
    let part = PathBuf::from(part);
    let mut dump = Command::new(program("pg_dump"));
    dump.args(["--format=custom", "--no-owner", "--no-privileges"])
        .arg("--file")
        .arg(&part)
        .arg(&args.database_url);
    let done = run(&mut dump, "pg_dump").and_then(|()| {
        std::fs::rename(&part, &args.out)
            .map_err(|e| Failure::other(format!("{} cannot be written: {e}", args.out.display())))
    });
    if done.is_err() {
        // What is left of it is of no use to anybody.
        let _ = std::fs::remove_file(&part);
    }
    done?;
    let bytes = std::fs::metadata(&args.out).map(|m| m.len()).unwrap_or(0);
    println!("{} holds everything ({:.1} MB)", args.out.display(), bytes as f64 / 1e6);
    Ok(())
}

pub(super) fn restore(args: &RestoreArgs) -> Result<(), Failure> {
    let list = Command::new(program("pg_restore")).arg("--list").arg(&args.file).output();
    let list = list.map_err(|e| Failure::other(format!("pg_restore cannot be run: {e}")))?;
    let holds = |table: &str| String::from_utf8_lossy(&list.stdout).contains(table);
    if !list.status.success() || !holds(" TABLE public scenes ") {
        return Err(Failure::bad(format!("{} is no backup of Rookery", args.file.display())));
    }
    if !args.replace && !is_empty(&args.database_url)? {
        return Err(Failure::bad("the database is not empty; --replace replaces all that is in it"));
    }
    let mut back = Command::new(program("pg_restore"));
    back.args([
        "--clean",
        "--if-exists",
        "--no-owner",
        "--no-privileges",
        "--single-transaction",
        "--exit-on-error",
    ]);
    back.arg("--dbname").arg(&args.database_url).arg(&args.file);
    run(&mut back, "pg_restore")?;
    println!("everything in {} is back", args.file.display());
    Ok(())
}

fn is_empty(database_url: &str) -> Result<bool, Failure> {
    let ask = "SELECT count(*) FROM pg_tables WHERE schemaname = 'public'";
    let mut command = Command::new(program("psql"));
    let output = command.arg(database_url).args(["-Atqc", ask]).stdin(Stdio::null()).output();
    let output = output.map_err(|e| Failure::other(format!("psql cannot be run: {e}")))?;
    if !output.status.success() {
        let told = String::from_utf8_lossy(&output.stderr);
        return Err(Failure::other(format!(
            "the database: {}",
            told.lines().next().unwrap_or("it cannot be reached")
        )));
    }
    Ok(String::from_utf8_lossy(&output.stdout).trim() == "0")
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::path::Path;

    #[test]
    fn a_program_that_is_nowhere_is_looked_for_on_the_path() {
        assert_eq!(program("no_such_program"), Path::new("no_such_program"));
    }
}
