//! Installing what is missing, with Debian's packages.

use crate::run::{Done, finish, has, step};
use std::process::Command;

/// Makes sure that PostgreSQL's programs are there.
pub fn postgresql() -> Done {
    if crate::postgres::programs().is_ok() {
        return Ok(());
    }
    packages(&["postgresql"])
}

/// Makes sure that Chromium and its driver are there.
pub fn browser() -> Done {
    if has("chromium") && has("chromedriver") {
        return Ok(());
    }
    packages(&["chromium", "chromium-driver"])
}

/// Makes sure that Node.js is there, new enough for the web client.
pub fn node() -> Done {
    let version = Command::new("node").arg("--version").output().ok();
    let text = version.map(|o| String::from_utf8_lossy(&o.stdout).trim().to_owned()).unwrap_or_default();
    let major: u32 = text.trim_start_matches('v').split('.').next().and_then(|m| m.parse().ok()).unwrap_or(0);
    if major >= 20 && has("npm") {
        return Ok(());
    }
    let found = if text.is_empty() { "there is none".to_owned() } else { format!("this is {text}") };
    Err(format!(
        "the web client needs Node.js 20 or newer with npm; {found}. Please install it and try again."
    ))
}

fn packages(names: &[&str]) -> Done {
    step(&format!("Installing {}", names.join(", ")));
    let missing = format!(
        "{} is missing and could not be installed. As root: apt-get install {}",
        names.join(" or "),
        names.join(" ")
    );
    if !has("apt-get") {
        return Err(missing);
    }
    let apt = |args: &[&str]| {
        let mut command = Command::new("apt-get");
        command.args(args).env("DEBIAN_FRONTEND", "noninteractive");
        finish(&mut command, "apt-get")
    };
    let mut install = vec!["install", "-y", "--no-install-recommends"];
    install.extend(names);
    apt(&["update"]).and_then(|()| apt(&install)).map_err(|e| format!("{missing} ({e})"))
}
