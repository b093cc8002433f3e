//! Modules depend one way: what a document is lies below, what is computed from it above, and what changes it on top.

use std::path::Path;

/// From the bottom up. A module names only those before it.
const ORDER: [&str; 21] = [
    "cancel",
    "math",
    "clouds",
    "textures",
    "names",
    "nursery",
    "document",
    "plan",
    "pattern",
    "ground",
    "soils",
    "nap",
    "air",
    "water",
    "proxy",
    "habitat",
    "planting",
    "motion",
    "scene",
    "community",
    "measure",
];

#[test]
fn a_module_names_only_modules_below_it() {
    let src = Path::new(env!("CARGO_MANIFEST_DIR")).join("src");
    let mut seen = Vec::new();
    for entry in std::fs::read_dir(&src).unwrap() {
        let path = entry.unwrap().path();
        let name = path.file_stem().unwrap().to_str().unwrap().to_owned();
        if name == "lib" {
            continue;
        }
        let own = ORDER
            .iter()
            .position(|m| *m == name)
            .unwrap_or_else(|| panic!("{name} has no place in the order"));
        seen.push(name.clone());
        look(&path, &mut |file, other| {
            let below = ORDER.iter().position(|m| *m == other).is_some_and(|place| place <= own);
            assert!(below, "{} is below {other}, which it names", file.display());
        });
    }
    seen.sort();
    let mut all = ORDER.map(str::to_owned);
    all.sort();
    assert_eq!(seen, all);
}

/// Tells every module that a file, or the files of a folder, name. Tests within may look anywhere.
fn look(path: &Path, tell: &mut impl FnMut(&Path, &str)) {
    if path.is_dir() {
        std::fs::read_dir(path).unwrap().for_each(|entry| look(&entry.unwrap().path(), tell));
        return;
    }
    if path.file_stem().is_some_and(|name| name == "tests") {
        return;
    }
    let text = std::fs::read_to_string(path).unwrap();
    let text = text.split("#[cfg(test)]\nmod tests").next().unwrap();
    for line in text.lines().filter(|line| !line.trim_start().starts_with("//")) {
        for rest in line.split("crate::").skip(1) {
            let end = rest.find(|c: char| !c.is_ascii_lowercase() && c != '_').unwrap_or(rest.len());
            tell(path, &rest[..end]);
        }
    }
}
