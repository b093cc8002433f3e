//! Files from outside are read by a process of their own first. It can open nothing, and ends when it takes too long or too much: so the
//! worst file ends one request.

mod child;

pub(crate) use child::run as run_child;

use crate::error::{ApiError, ErrorBody};
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::path::PathBuf;
use std::process::Stdio;
use std::sync::Arc;
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::process::Command;
use tokio::sync::Semaphore;

/// Files read at once.
const AT_ONCE: usize = 2;
/// Longest wait until a file is read.
const QUEUE: Duration = Duration::from_secs(20);
/// Longest time that a file may take.
const PATIENCE: Duration = Duration::from_secs(30);
/// Most memory that a file may take, bytes of address space.
const MOST_BYTES: u64 = 3 << 30;
/// Longest answer about a file, bytes.
const LONGEST_ANSWER: u64 = 64 << 20;

/// As what a file is read.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kind {
    /// Heights of a ground.
    Heights,
    /// A picture for masks.
    Picture,
    /// A mesh for grounds and obstacles.
    Mesh,
    /// A mesh with its looks, for species.
    Looks,
    /// Lines of outlines, on a map whose middle lies here: east and north, metres.
    Outlines([f64; 2]),
}

impl Kind {
    /// Its name, in the database and between the processes.
    pub fn name(self) -> &'static str {
        match self {
            Self::Heights => "heights",
            Self::Picture => "picture",
            Self::Mesh => "mesh",
            Self::Looks => "looks",
            Self::Outlines(_) => "outlines",
        }
    }

    /// The kind of a name.
    pub(crate) fn named(name: &str, map_middle_m: [f64; 2]) -> Option<Self> {
        [Self::Heights, Self::Picture, Self::Mesh, Self::Looks, Self::Outlines(map_middle_m)]
            .into_iter()
            .find(|kind| kind.name() == name)
    }
}

/// What the process that reads answers.
#[derive(Debug, Serialize, Deserialize)]
enum Told {
    /// What the file holds.
    Holds(Value),
    /// What is wrong with it.
    Refused { status: u16, code: String, message: String },
}

/// Those who read files. Cloning shares them.
#[derive(Clone, Debug)]
pub struct Readers {
    program: Arc<PathBuf>,
    room: Arc<Semaphore>,
}

impl Default for Readers {
    /// Read by this program.
    fn default() -> Self {
        Self::by(std::env::current_exe().unwrap_or_else(|_| PathBuf::from("rookery")))
    }
}

impl Readers {
    /// Read by a program, which is `rookery`.
    pub fn by(program: PathBuf) -> Self {
        Self { program: Arc::new(program), room: Arc::new(Semaphore::new(AT_ONCE)) }
    }

    /// Reads a file and says what it holds, in JSON. When the caller goes away, so does the process.
    ///
    /// # Errors
    /// What is wrong with the file; [`ApiError::FileTooHard`] where it took too long or too much; [`ApiError::Busy`].
    pub async fn read(&self, kind: Kind, bytes: &[u8]) -> Result<Value, ApiError> {
        let room = tokio::time::timeout(QUEUE, self.room.acquire()).await.map_err(|_| ApiError::Busy)?;
        let _room = room.map_err(|_| ApiError::Busy)?;
        let broken = |e: std::io::Error| ApiError::Internal(format!("files cannot be read: {e}"));
        let mut command = Command::new(&*self.program);
        command.args(["read-file", kind.name()]);
        if let Kind::Outlines([east_m, north_m]) = kind {
            command.arg(format!("--east={east_m}")).arg(format!("--north={north_m}"));
        }
        let mut child = command
            .env_clear()
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .kill_on_drop(true)
            .spawn()
            .map_err(broken)?;
        let mut input = child.stdin.take().expect("it is piped");
        let mut output = child.stdout.take().expect("it is piped").take(LONGEST_ANSWER);
        let mut answer = Vec::new();
        let talk = async {
            // One that ends early needs no more of the file.
            let (_, told) = tokio::join!(
                async {
                    let _ = input.write_all(bytes).await;
                    drop(input);
                },
                output.read_to_end(&mut answer)
            );
            told.map_err(broken)?;
            child.wait().await.map_err(broken)
        };
        let ended = tokio::time::timeout(PATIENCE, talk).await;
        let Ok(status) = ended else {
            return Err(ApiError::FileTooHard { why: "it takes longer than 30 seconds to read" });
        };
        match (status?.success(), serde_json::from_slice(&answer)) {
            (true, Ok(Told::Holds(value))) => Ok(value),
            (true, Ok(Told::Refused { status, code, message })) => {
                let status = StatusCode::from_u16(status).unwrap_or(StatusCode::UNPROCESSABLE_ENTITY);
                let body = ErrorBody { code, message, seq: None, conflict: None };
                Err(ApiError::BadFile { status, body: Box::new(body) })
            }
            _ => Err(ApiError::FileTooHard { why: "it takes more memory than a file may" }),
        }
    }
}
