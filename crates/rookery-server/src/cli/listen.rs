//! Taking connections: so many at once, none that keeps silent.

use axum::Router;
use hyper_util::rt::{TokioExecutor, TokioIo, TokioTimer};
use hyper_util::server::conn::auto::Builder;
use hyper_util::service::TowerToHyperService;
use std::sync::Arc;
use std::time::Duration;
use tokio::net::TcpListener;
use tokio::sync::Semaphore;

/// Connections at once; the next ones wait to be taken.
const CONNECTIONS: usize = 1024;
/// Longest time in which a request must say what it wants.
const HEADERS: Duration = Duration::from_secs(10);

/// Answers whoever connects, for ever.
pub(super) async fn answer(listener: TcpListener, router: Router) {
    answer_within(listener, router, CONNECTIONS, HEADERS).await;
}

async fn answer_within(listener: TcpListener, router: Router, most: usize, headers: Duration) {
    let room = Arc::new(Semaphore::new(most));
    loop {
        let Ok(place) = room.clone().acquire_owned().await else { return };
        let stream = match listener.accept().await {
            Ok((stream, _)) => stream,
            Err(e) => {
                // Out of file handles, say: those that end make room.
                tracing::warn!(error = %e, "a connection was not taken");
                tokio::time::sleep(Duration::from_millis(100)).await;
                continue;
            }
        };
        // Small answers leave at once; where this cannot be set they leave a little later.
        let _ = stream.set_nodelay(true);
        let service = TowerToHyperService::new(router.clone());
        tokio::spawn(async move {
            // The first bytes would tell HTTP/2 from HTTP/1, and are waited for without end: browsers speak HTTP/1 here anyway.
            let mut builder = Builder::new(TokioExecutor::new()).http1_only();
            builder.http1().timer(TokioTimer::new()).header_read_timeout(headers);
            // A connection that breaks is the other side's to make again.
            let _ = builder.serve_connection(TokioIo::new(stream), service).await;
            drop(place);
        });
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use axum::routing::get;
    use tokio::io::{AsyncReadExt, AsyncWriteExt};
    use tokio::net::TcpStream;

    const SHORT: Duration = Duration::from_millis(200);
    const LONG: Duration = Duration::from_secs(20);

    async fn door(most: usize) -> std::net::SocketAddr {
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = listener.local_addr().unwrap();
        let router = Router::new().route("/", get(|| async { "here" }));
        tokio::spawn(answer_within(listener, router, most, SHORT));
        address
    }

    /// All that comes until the other side ends the connection.
    async fn heard(mut stream: TcpStream) -> String {
        let mut text = Vec::new();
        let read = tokio::time::timeout(LONG, stream.read_to_end(&mut text)).await;
        read.expect("the connection ends").unwrap_or_default();
        String::from_utf8_lossy(&text).into_owned()
    }

    /// Broke: one that said nothing at all was waited for without end, and a thousand of them shut the door for good.
    #[tokio::test]
    async fn who_keeps_silent_is_sent_away_and_makes_room() {
        let address = door(2).await;
        let silent = TcpStream::connect(address).await.unwrap();
        let mut halting = TcpStream::connect(address).await.unwrap();
        halting.write_all(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX-").await.unwrap();
        // Both places are taken; the third waits until one of them is sent away.
        let mut third = TcpStream::connect(address).await.unwrap();
        third.write_all(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n").await.unwrap();
        assert!(heard(third).await.ends_with("here"));
        assert!(!heard(silent).await.contains("200") && !heard(halting).await.contains("200"));
    }
}
