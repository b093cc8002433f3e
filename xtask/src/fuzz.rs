//! `cargo xtask fuzz [inputs] [reader]`: every reader of files from outside with any bytes at all, a million of them each where
//! nothing else is said. What breaks one is left in `target/fuzz/found`.

use crate::run::{Done, cargo, finish, root, step};
use std::fs;
use std::path::Path;
use std::process::Command;

/// The readers of `crates/rookery-formats/tests/formats/readers`, and what good files of theirs end in.
const READERS: [(&str, &[&str]); 8] = [
    ("heights", &["tif", "exr", "asc"]),
    ("picture", &["png"]),
    ("mesh", &["obj", "ply", "glb"]),
    ("looks", &["obj", "ply", "glb"]),
    ("outlines", &["geojson", "svg"]),
    ("scene", &["json"]),
    ("command", &["json"]),
    ("community", &["json"]),
];

/// What makes the compiler tell the fuzzer which branches an input took. All of it is on the stable compiler.
const FLAGS: &str = "--cfg fuzzing -Cpasses=sancov-module -Cllvm-args=-sanitizer-coverage-level=4 \
    -Cllvm-args=-sanitizer-coverage-inline-8bit-counters -Cllvm-args=-sanitizer-coverage-pc-table \
    -Cllvm-args=-sanitizer-coverage-trace-compares -Ccodegen-units=1";

/// What the compiler calls this machine.
fn host() -> Result<String, String> {
    let told = Command::new("rustc").arg("-vV").output().map_err(|e| format!("rustc does not start: {e}"))?;
    let told = String::from_utf8_lossy(&told.stdout).into_owned();
    let line = told.lines().find_map(|l| l.strip_prefix("host: "));
    line.map(str::to_owned).ok_or_else(|| "rustc does not say what this machine is".to_owned())
}

/// Good files of some endings, into a folder of their own.
fn good_files(endings: &[&str], to: &Path) -> Result<(), std::io::Error> {
    fs::create_dir_all(to)?;
    let places = [
        "fuzz/corpus/mesh",
        "fuzz/corpus/outlines",
        "fuzz/corpus/found",
        "crates/rookery-formats/tests/data",
        "crates/rookery-core/tests/data/layout-1",
        "docs/screenshots",
    ];
    for file in places.iter().filter_map(|p| fs::read_dir(root().join(p)).ok()).flatten() {
        let file = file?.path();
        let ending = file.extension().and_then(|e| e.to_str()).unwrap_or_default();
        // Large files teach the fuzzer little and slow it down.
        if endings.contains(&ending) && fs::metadata(&file)?.len() < 20_000 {
            fs::copy(&file, to.join(file.file_name().unwrap_or_default()))?;
        }
    }
    Ok(())
}

/// Builds the fuzzer and runs it on each reader.
pub fn fuzz(inputs: Option<String>, reader: Option<String>) -> Done {
    let inputs = inputs.unwrap_or_else(|| "1000000".to_owned());
    inputs.parse::<u64>().map_err(|_| format!("{inputs} is no number of inputs"))?;
    step("Build of the fuzzer");
    let target = root().join("target/fuzz");
    let mut build = Command::new(cargo());
    // Named, so that the flags are not those of build scripts too.
    let host = host()?;
    build.args(["build", "--release", "--target", &host, "--manifest-path", "fuzz/Cargo.toml"]);
    build.current_dir(root());
    build.env("RUSTFLAGS", FLAGS).env("CARGO_TARGET_DIR", &target);
    finish(&mut build, "the build of the fuzzer")?;
    let found = target.join("found");
    fs::create_dir_all(&found).map_err(|e| e.to_string())?;
    for (name, endings) in READERS.iter().filter(|(name, _)| reader.as_ref().is_none_or(|r| r == name)) {
        step(&format!("{inputs} inputs to the reader of {name}"));
        let corpus = target.join("corpus").join(name);
        good_files(endings, &corpus).map_err(|e| e.to_string())?;
        let mut run = Command::new(target.join(&host).join("release/readers"));
        run.env("ROOKERY_READER", name).arg(&corpus).args([
            &format!("-runs={inputs}"),
            // Under a gigabyte, whatever the file; and an end to each.
            "-rss_limit_mb=1000",
            "-timeout=10",
            "-max_len=20000",
            "-print_final_stats=1",
            "-verbosity=0",
            &format!("-dict={}", root().join("fuzz/dictionary.txt").display()),
            &format!("-artifact_prefix={}/{name}-", found.display()),
        ]);
        finish(&mut run, &format!("the reader of {name}"))?;
    }
    Ok(())
}
