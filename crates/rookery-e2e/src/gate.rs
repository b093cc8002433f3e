//! A gate between the browser and the server that loses answers and holds changes back.

use crate::Done;
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::watch;

/// Passes requests on. Of the next few changes the answer is lost after the server has carried them out.
#[derive(Clone)]
pub struct Gate {
    /// Where it answers.
    pub address: String,
    to_lose: Arc<AtomicUsize>,
    lost: Arc<AtomicUsize>,
    held: Arc<watch::Sender<bool>>,
}

impl Gate {
    /// Opens a gate to a server.
    ///
    /// # Errors
    /// When there is no port for it.
    pub async fn to(server: &str) -> Done<Self> {
        let listener = TcpListener::bind("127.0.0.1:0").await?;
        let address = format!("http://{}", listener.local_addr()?);
        let held = Arc::new(watch::channel(false).0);
        let gate = Self { address, to_lose: Arc::default(), lost: Arc::default(), held };
        let (own, server) = (gate.clone(), server.trim_start_matches("http://").to_owned());
        tokio::spawn(async move {
            while let Ok((browser, _)) = listener.accept().await {
                let (gate, server) = (own.clone(), server.clone());
                tokio::spawn(async move {
                    // A connection that breaks is made again by the browser.
                    let _ = gate.pass(browser, &server).await;
                });
            }
        });
        Ok(gate)
    }

    /// Loses the answers to the next changes.
    pub fn lose(&self, answers: usize) {
        self.to_lose.store(answers, Ordering::SeqCst);
    }

    /// Holds changes back, or lets them through again.
    pub fn hold(&self, held: bool) {
        self.held.send_replace(held);
    }

    /// How many answers were lost.
    pub fn lost(&self) -> usize {
        self.lost.load(Ordering::SeqCst)
    }

    /// One connection. Requests of a page come one after the other, each head in one piece.
    async fn pass(&self, mut browser: TcpStream, server: &str) -> Done {
        let mut server = TcpStream::connect(server).await?;
        let (mut asked, mut told) = (vec![0; 1 << 16], vec![0; 1 << 16]);
        let mut losing = false;
        loop {
            tokio::select! {
                count = browser.read(&mut asked) => {
                    let count = count?;
                    if count == 0 {
                        return Ok(());
                    }
                    let head = String::from_utf8_lossy(&asked[..count.min(200)]).into_owned();
                    let changes = head.starts_with("POST ") && ["/commands ", "/undo ", "/redo "].iter().any(|p| head.contains(p));
                    let fewer = |n: usize| n.checked_sub(1);
                    if changes {
                        self.held.subscribe().wait_for(|held| !held).await?;
                    }
                    if changes && self.to_lose.fetch_update(Ordering::SeqCst, Ordering::SeqCst, fewer).is_ok() {
                        losing = true;
                    }
                    server.write_all(&asked[..count]).await?;
                }
                count = server.read(&mut told) => {
                    let count = count?;
                    if losing || count == 0 {
                        // The server has answered, so it has carried the change out; the browser never hears of it.
                        self.lost.fetch_add(usize::from(losing), Ordering::SeqCst);
                        return Ok(());
                    }
                    browser.write_all(&told[..count]).await?;
                }
            }
        }
    }
}
