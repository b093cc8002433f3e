//! A server with a database of its own.

use crate::Done;
use std::process::Stdio;
use tokio::io::{AsyncBufReadExt, BufReader};
use tokio::process::{Child, Command};

/// A running server; killed when dropped.
pub struct Server {
    /// None where another holds the process.
    child: Option<Child>,
    database: String,
    /// Where it answers.
    pub address: String,
}

impl Server {
    /// Starts one on a fresh database. `ROOKERY_BINARY` and `ROOKERY_TEST_DATABASE_URL` say where the program and
    /// PostgreSQL are; `cargo xtask test` sets both.
    ///
    /// # Errors
    /// When one of them is missing or the server does not come up.
    pub async fn start() -> Done<Self> {
        let admin = std::env::var("ROOKERY_TEST_DATABASE_URL").map_err(
            |_| "the stories need a database: run `cargo xtask test`, or set ROOKERY_TEST_DATABASE_URL",
        )?;
        let name = crate::scratch("db")?
            .file_name()
            .expect("a folder has a name")
            .to_string_lossy()
            .replace('-', "_");
        let made = Command::new("psql")
            .arg(&admin)
            .args(["-qc", &format!("CREATE DATABASE {name}")])
            .status()
            .await?;
        if !made.success() {
            return Err("the database could not be made".into());
        }
        let database = format!("{}/{name}", admin.rsplit_once('/').map_or(admin.as_str(), |(base, _)| base));
        Self::on(database, "127.0.0.1:0").await
    }

    async fn on(database: String, listen: &str) -> Done<Self> {
        let binary =
            std::env::var("ROOKERY_BINARY").map_err(|_| "ROOKERY_BINARY does not name the program")?;
        let mut child = Command::new(binary)
            .args(["serve", "--listen", listen])
            .env("DATABASE_URL", &database)
            // All stories share how species look, as all starts on one machine do.
            .env("ROOKERY_CACHE_DIR", std::env::temp_dir().join("rookery-stories-cache"))
            .stdout(Stdio::piped())
            .kill_on_drop(true)
            .spawn()?;
        let mut lines = BufReader::new(child.stdout.take().expect("it is piped")).lines();
        while let Some(line) = lines.next_line().await? {
            if let Some(address) = line.strip_prefix("Rookery is at ") {
                return Ok(Self { child: Some(child), database, address: address.to_owned() });
            }
        }
        Err("the server ended before it answered".into())
    }

    /// Kills it without warning (signal 9) and starts another on the same database.
    ///
    /// # Errors
    /// When the new one does not come up.
    pub async fn kill_and_start_again(mut self) -> Done<Self> {
        self.kill().await?;
        Self::on(self.database.clone(), "127.0.0.1:0").await
    }

    /// Kills it without warning (signal 9).
    ///
    /// # Errors
    /// When it is gone already.
    pub async fn kill(&mut self) -> Done {
        if let Some(mut child) = self.child.take() {
            child.kill().await?;
        }
        Ok(())
    }

    /// Starts another one where a killed one was: same database, same address.
    ///
    /// # Errors
    /// When it does not come up.
    pub async fn start_in_its_place(&self) -> Done<Self> {
        let listen = self.address.trim_start_matches("http://").trim_end_matches('/');
        Self::on(self.database.clone(), listen).await
    }

    async fn as_admin(&self, sql: &[&str]) -> Done {
        let admin = std::env::var("ROOKERY_TEST_DATABASE_URL")?;
        let commands = sql.iter().flat_map(|s| ["-c", s]);
        let done =
            Command::new("psql").arg(&admin).arg("-q").args(commands).stdout(Stdio::null()).status().await?;
        if done.success() { Ok(()) } else { Err("psql failed".into()) }
    }

    /// Takes the database away from the server: its connections break, and it gets no new ones.
    ///
    /// # Errors
    /// When PostgreSQL does not do it.
    pub async fn close_database(&self) -> Done {
        let name = self.database.rsplit_once('/').map_or("", |(_, name)| name);
        let close = format!("ALTER DATABASE {name} ALLOW_CONNECTIONS false");
        let cut = format!("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '{name}'");
        self.as_admin(&[&close, &cut]).await
    }

    /// Gives the database back.
    ///
    /// # Errors
    /// When PostgreSQL does not do it.
    pub async fn open_database(&self) -> Done {
        let name = self.database.rsplit_once('/').map_or("", |(_, name)| name);
        self.as_admin(&[&format!("ALTER DATABASE {name} ALLOW_CONNECTIONS true")]).await
    }

    /// The same server behind something else.
    pub fn seen_at(&self, address: String) -> Self {
        Self { child: None, database: self.database.clone(), address }
    }

    /// The same server as a second browser knows it.
    pub fn seen(&self) -> Self {
        Self { child: None, database: self.database.clone(), address: self.address.clone() }
    }
}
