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
    let room = Arc::new(Semaphore::new(CONNECTIONS));
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
            let mut builder = Builder::new(TokioExecutor::new());
            builder.http1().timer(TokioTimer::new()).header_read_timeout(HEADERS);
            // A connection that breaks is the other side's to make again.
            let _ = builder.serve_connection(TokioIo::new(stream), service).await;
            drop(place);
        });
    }
}
