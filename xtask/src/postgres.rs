//! A private PostgreSQL on loopback. PostgreSQL refuses to run as root, so as root it runs as the user `postgres`.

use crate::run::{Done, finish};
use std::fs;
use std::net::{TcpListener, TcpStream};
use std::os::unix::fs::{PermissionsExt, chown};
use std::os::unix::process::CommandExt;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

/// A running cluster; stopped when dropped.
pub struct Cluster {
    programs: PathBuf,
    dir: PathBuf,
    owner: Option<(u32, u32)>,
    port: u16,
    throw_away: bool,
}

/// The folder with `initdb` and `pg_ctl`.
pub fn programs() -> Done<PathBuf> {
    let mut places: Vec<PathBuf> = fs::read_dir("/usr/lib/postgresql")
        .map(|entries| entries.flatten().map(|e| e.path().join("bin")).collect())
        .unwrap_or_default();
    places.sort();
    let found = places.into_iter().rev().find(|p| p.join("initdb").exists() && p.join("pg_ctl").exists());
    found.ok_or_else(|| "PostgreSQL is not installed".to_owned())
}

impl Cluster {
    /// Starts the cluster in a folder, made when it is not there. A throw-away one is removed at the end.
    pub fn start(dir: &Path, throw_away: bool) -> Done<Self> {
        let programs = programs()?;
        let owner = if is_root() { Some(postgres_user()?) } else { None };
        fs::create_dir_all(dir).map_err(|e| format!("{} cannot be made: {e}", dir.display()))?;
        let dir = dir.canonicalize().map_err(|e| e.to_string())?;
        if let Some((uid, gid)) = owner {
            chown(&dir, Some(uid), Some(gid)).map_err(|e| format!("{}: {e}", dir.display()))?;
        }
        fs::set_permissions(&dir, fs::Permissions::from_mode(0o700)).map_err(|e| e.to_string())?;
        let mut cluster = Self { programs, dir, owner, port: 0, throw_away };
        if !cluster.data().join("PG_VERSION").exists() {
            cluster.init()?;
        }
        if cluster.running() {
            // Left by a run that was killed: it is ours, and used again.
            cluster.port = cluster.written_port().ok_or("a cluster runs, but its port is unknown")?;
        } else {
            cluster.launch()?;
        }
        cluster.make_database()?;
        Ok(cluster)
    }

    /// How programs reach it.
    pub fn url(&self) -> String {
        format!("postgres://app@127.0.0.1:{}/rookery", self.port)
    }

    fn data(&self) -> PathBuf {
        self.dir.join("data")
    }

    fn program(&self, name: &str) -> Command {
        let mut command = Command::new(self.programs.join(name));
        command.current_dir("/").stdin(Stdio::null());
        if let Some((uid, gid)) = self.owner {
            command.uid(uid).gid(gid);
        }
        command
    }

    fn init(&self) -> Done {
        let mut command = self.program("initdb");
        command.arg("-D").arg(self.data()).args([
            "-U",
            "app",
            "-A",
            "trust",
            "-E",
            "UTF8",
            "--locale=C.UTF-8",
            "--no-instructions",
        ]);
        if self.throw_away {
            command.arg("--no-sync");
        }
        finish(command.stdout(Stdio::null()), "initdb").map_err(|e| {
            format!(
                "{e}; can the user postgres reach {}? Set DATABASE_URL to use another server.",
                self.dir.display()
            )
        })
    }

    fn running(&self) -> bool {
        let mut command = self.program("pg_ctl");
        command.arg("-D").arg(self.data()).arg("status").stdout(Stdio::null()).stderr(Stdio::null());
        command.status().is_ok_and(|s| s.success())
    }

    /// The fourth line of `postmaster.pid` is the port.
    fn written_port(&self) -> Option<u16> {
        fs::read_to_string(self.data().join("postmaster.pid")).ok()?.lines().nth(3)?.trim().parse().ok()
    }

    fn launch(&mut self) -> Done {
        let free =
            TcpListener::bind("127.0.0.1:0").and_then(|l| l.local_addr()).map_err(|e| e.to_string())?;
        self.port = free.port();
        let mut options =
            format!("-c listen_addresses=127.0.0.1 -c port={} -c unix_socket_directories=''", self.port);
        if self.throw_away {
            options.push_str(" -c fsync=off -c synchronous_commit=off");
        }
        let mut command = self.program("pg_ctl");
        command
            .arg("-D")
            .arg(self.data())
            .arg("-l")
            .arg(self.dir.join("log"))
            .args(["-w", "-t", "60", "-o", &options]);
        command.arg("start").stdout(Stdio::null());
        finish(&mut command, "pg_ctl start").map_err(|e| format!("{e}; see {}/log", self.dir.display()))
    }

    fn make_database(&self) -> Done {
        TcpStream::connect(("127.0.0.1", self.port))
            .map_err(|e| format!("PostgreSQL does not answer: {e}"))?;
        let mut psql = self.program("psql");
        let port = self.port.to_string();
        psql.args(["-h", "127.0.0.1", "-p", &port, "-U", "app", "-d", "postgres", "-tAc"]);
        let known = psql
            .arg("SELECT 1 FROM pg_database WHERE datname = 'rookery'")
            .output()
            .map_err(|e| format!("psql could not be started: {e}"))?;
        if String::from_utf8_lossy(&known.stdout).trim() == "1" {
            return Ok(());
        }
        let mut create = self.program("createdb");
        finish(create.args(["-h", "127.0.0.1", "-p", &port, "-U", "app", "rookery"]), "createdb")
    }
}

impl Drop for Cluster {
    fn drop(&mut self) {
        let mode = if self.throw_away { "immediate" } else { "fast" };
        let mut command = self.program("pg_ctl");
        command.arg("-D").arg(self.data()).args(["-m", mode, "-w", "stop"]).stdout(Stdio::null());
        if let Err(e) = finish(&mut command, "pg_ctl stop") {
            eprintln!("xtask: {e}");
        }
        if self.throw_away
            && let Err(e) = fs::remove_dir_all(&self.dir)
        {
            eprintln!("xtask: {} was left behind: {e}", self.dir.display());
        }
    }
}

fn is_root() -> bool {
    let output = Command::new("id").arg("-u").output();
    output.is_ok_and(|o| String::from_utf8_lossy(&o.stdout).trim() == "0")
}

fn postgres_user() -> Done<(u32, u32)> {
    let number = |flag: &str| -> Option<u32> {
        let output = Command::new("id").args([flag, "postgres"]).output().ok()?;
        String::from_utf8_lossy(&output.stdout).trim().parse().ok()
    };
    number("-u").zip(number("-g")).ok_or_else(|| "there is no user postgres to run PostgreSQL as".to_owned())
}
