//! ChromeDriver and a Chromium session.

use crate::Done;
use fantoccini::wd::Capabilities;
use fantoccini::{Client, ClientBuilder};
use hyper_util::client::legacy::connect::HttpConnector;
use serde_json::json;
use std::path::PathBuf;
use std::process::Stdio;
use tokio::io::{AsyncBufReadExt, BufReader};
use tokio::process::{Child, Command};

/// How many pixels a page of 1280 x 800 is drawn with.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Sharpness {
    /// As many as it has: for pictures and measurements.
    Full,
    /// A quarter of them, laid out the same: drawing in software takes half the time of most stories.
    Coarse,
}

/// A headless browser with a page of 1280 x 800; the driver is killed when dropped.
pub struct Browser {
    _driver: Child,
    profile: PathBuf,
    /// The session.
    pub client: Client,
    /// Where downloads go.
    pub downloads: PathBuf,
}

impl Browser {
    /// Starts the driver on any free port and opens a session.
    ///
    /// # Errors
    /// When ChromeDriver or Chromium is missing or does not start.
    pub async fn start(sharpness: Sharpness) -> Done<Self> {
        let (driver, port) = driver().await?;
        let downloads = crate::scratch("downloads")?;
        let profile = crate::scratch("profile")?;
        let mut capabilities = Capabilities::new();
        capabilities.insert(
            "goog:chromeOptions".into(),
            json!({
                "args": ["--headless", "--no-sandbox", "--disable-quic", "--no-first-run",
                    "--disable-background-networking", "--disable-component-update", "--disable-sync",
                    "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--window-size=1280,943",
                    format!("--force-device-scale-factor={}", if sharpness == Sharpness::Full { 1.0 } else { 0.5 }),
                    format!("--user-data-dir={}", profile.display())],
                "prefs": {"download.default_directory": downloads},
            }),
        );
        let client = ClientBuilder::new(HttpConnector::new())
            .capabilities(capabilities)
            .connect(&format!("http://127.0.0.1:{port}"))
            .await?;
        Ok(Self { _driver: driver, profile, client, downloads })
    }
}

impl Drop for Browser {
    /// A story that failed has not closed its session, and a browser outlives its driver: it is ended by its profile
    /// folder, which no other process has.
    fn drop(&mut self) {
        let profile = self.profile.display().to_string();
        let _ = std::process::Command::new("pkill").args(["-9", "-f", &profile]).status();
        let _ = std::fs::remove_dir_all(&self.profile);
    }
}

/// Starts the driver on a free port. Now and then another program takes that port between the two steps of taking it; then another is tried.
async fn driver() -> Done<(Child, String)> {
    const TRIES: u32 = 4;
    for _ in 0..TRIES {
        let mut driver = Command::new("chromedriver")
            .arg("--port=0")
            .stdout(Stdio::piped())
            .kill_on_drop(true)
            .spawn()
            .map_err(|e| {
                format!("chromedriver could not be started ({e}); Debian's package is chromium-driver")
            })?;
        let mut lines = BufReader::new(driver.stdout.take().expect("it is piped")).lines();
        while let Some(line) = lines.next_line().await? {
            if let Some((_, rest)) = line.split_once("started successfully on port ") {
                let port = rest.trim_end_matches('.').to_owned();
                // Nobody reads on: the pipe must not fill up.
                tokio::spawn(async move { while let Ok(Some(_)) = lines.next_line().await {} });
                return Ok((driver, port));
            }
        }
    }
    Err("chromedriver ended at once, each time it was started".into())
}
