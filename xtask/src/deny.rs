//! Whether the crates that we build on have licences that deny.toml allows, and come from a registry.

use crate::run::{Done, cargo, root, step};
use serde_json::Value;
use std::collections::BTreeSet;
use std::process::Command;

/// Checks all crates of the lock file.
pub fn check() -> Done {
    step("Licences and sources");
    let text = std::fs::read_to_string(root().join("deny.toml")).map_err(|e| format!("deny.toml: {e}"))?;
    let allowed = allowed(&text);
    let told = Command::new(cargo())
        // Crates for other machines are not built on.
        .args([
            "metadata",
            "--format-version",
            "1",
            "--locked",
            "--filter-platform",
            "x86_64-unknown-linux-gnu",
        ])
        .current_dir(root())
        .output()
        .map_err(|e| format!("cargo metadata could not be started: {e}"))?;
    if !told.status.success() {
        return Err(format!("cargo metadata failed: {}", String::from_utf8_lossy(&told.stderr)));
    }
    let told: Value = serde_json::from_slice(&told.stdout).map_err(|e| format!("cargo metadata: {e}"))?;
    let packages = told["packages"].as_array().ok_or("cargo metadata names no packages")?;
    let wrong: Vec<String> = packages.iter().filter_map(|p| wrong(p, &allowed)).collect();
    if wrong.is_empty() {
        println!("{} crates", packages.len());
        return Ok(());
    }
    Err(wrong.join("; "))
}

/// The licences in the list `allow` of `[licenses]`.
fn allowed(text: &str) -> BTreeSet<&str> {
    let list = text.split_once("allow = [").and_then(|(_, rest)| rest.split_once(']')).map_or("", |(l, _)| l);
    let lines = list.lines().map(str::trim).filter(|l| !l.starts_with('#'));
    lines.map(|l| l.trim_end_matches(',').trim_matches('"')).filter(|l| !l.is_empty()).collect()
}

/// What is wrong with a package, if anything is.
fn wrong(package: &Value, allowed: &BTreeSet<&str>) -> Option<String> {
    let name = package["name"].as_str()?;
    // Our own have no source.
    let source = package["source"].as_str()?;
    if !source.starts_with("registry+") {
        return Some(format!("{name} comes from {source}"));
    }
    match package["license"].as_str() {
        None => Some(format!("{name} names no licence")),
        Some(licence) if !fits(licence, allowed) => Some(format!("{name} is under {licence}")),
        Some(_) => None,
    }
}

/// Whether an expression of licences (SPDX, and the older slash for "or") can be met by those that are allowed.
fn fits(licence: &str, allowed: &BTreeSet<&str>) -> bool {
    let plain = licence.replace(['(', ')'], " ").replace('/', " OR ");
    // "a AND b" binds closer than "OR"; that a bracket holds an OR inside an AND is met here part by part.
    let bracketed = licence.contains('(');
    let any = |part: &str| part.split(" OR ").any(|one| allowed.contains(one.trim()));
    if bracketed {
        plain.split(" AND ").all(any)
    } else {
        plain.split(" OR ").any(|part| part.split(" AND ").all(|one| allowed.contains(one.trim())))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn licences_are_met_as_their_expressions_say() {
        let text = "[licenses]\nallow = [\n    \"MIT\",\n    # why\n    \"Zlib\",\n]\n";
        let allowed = allowed(text);
        assert_eq!(allowed, BTreeSet::from(["MIT", "Zlib"]));
        for fine in ["MIT", "GPL-3.0 OR MIT", "GPL-3.0/MIT", "MIT AND Zlib", "(MIT OR GPL-3.0) AND Zlib"] {
            assert!(fits(fine, &allowed), "{fine}");
        }
        for not in ["GPL-3.0", "MIT AND GPL-3.0", "(MIT OR Zlib) AND GPL-3.0", ""] {
            assert!(!fits(not, &allowed), "{not}");
        }
    }

    #[test]
    fn what_comes_from_elsewhere_or_names_no_licence_is_told() {
        let allowed = BTreeSet::from(["MIT"]);
        let told = |source: &str, licence: Value| {
            wrong(&serde_json::json!({"name": "x", "source": source, "license": licence}), &allowed)
        };
        assert_eq!(told("registry+there", "MIT".into()), None);
        assert!(told("git+there", "MIT".into()).unwrap().contains("git+there"));
        assert!(told("registry+there", Value::Null).unwrap().contains("no licence"));
        assert!(told("registry+there", "GPL-3.0".into()).unwrap().contains("GPL-3.0"));
    }
}
