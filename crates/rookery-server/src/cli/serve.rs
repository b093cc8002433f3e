//! The server and the worker.

use super::Failure;
use crate::app::App;
use crate::db::scenes;
use crate::{jobs, routes};
use clap::Args;
use rookery_core::scene::kittiwake_head;
use std::net::SocketAddr;
use tracing_subscriber::EnvFilter;

/// How to serve.
#[derive(Debug, Args)]
pub(super) struct ServeArgs {
    /// The database, for example `postgres://app@127.0.0.1:5432/rookery`.
    #[arg(long, env = "DATABASE_URL")]
    database_url: String,
    /// Where to listen. Anyone who can reach it can change scenes: keep it on this machine.
    #[arg(long, default_value = "127.0.0.1:7411")]
    listen: SocketAddr,
    /// Leave stills to workers elsewhere.
    #[arg(long)]
    no_worker: bool,
}

/// How to work.
#[derive(Debug, Args)]
pub(super) struct WorkerArgs {
    /// The database the server uses.
    #[arg(long, env = "DATABASE_URL")]
    database_url: String,
}

pub(super) fn serve(args: ServeArgs) -> Result<(), Failure> {
    run(async move {
        let app = App::start(&args.database_url).await.map_err(Failure::other)?;
        if scenes::list(&app.db).await.map_err(Failure::other)?.is_empty() {
            scenes::create(&app.db, &kittiwake_head()).await.map_err(Failure::other)?;
        }
        tokio::spawn(warm(app.clone()));
        if !args.no_worker {
            tokio::spawn(jobs::work(app.clone()));
        }
        let listener = tokio::net::TcpListener::bind(args.listen)
            .await
            .map_err(|e| Failure::other(format!("{} cannot be listened on: {e}", args.listen)))?;
        let address = listener.local_addr().map_err(Failure::other)?;
        if !address.ip().is_loopback() {
            eprintln!(
                "rookery: listening beyond this machine, without sign-in: anyone who reaches it can change scenes"
            );
        }
        println!("Rookery is at http://{address}");
        axum::serve(listener, routes::router(app))
            .with_graceful_shutdown(stopped())
            .await
            .map_err(Failure::other)
    })
}

/// Grows the scene that was last worked on, so that it is at hand when a browser asks for it.
async fn warm(app: App) {
    let Ok(scenes) = scenes::list(&app.db).await else { return };
    let Some(last) = scenes.first() else { return };
    let Ok(scene) = app.scenes.now(last.id).await else { return };
    for layer in &scene.document.layers {
        // A layer that cannot be grown says so to whoever asks for it.
        let _ = app.growths.plants(&app.db, &scene.document, layer).await;
    }
}

pub(super) fn worker(args: WorkerArgs) -> Result<(), Failure> {
    run(async move {
        let app = App::start(&args.database_url).await.map_err(Failure::other)?;
        println!("Taking jobs; Ctrl-C stops.");
        tokio::select! {
            () = jobs::work(app) => {}
            () = stopped() => {}
        }
        Ok(())
    })
}

fn run(task: impl Future<Output = Result<(), Failure>>) -> Result<(), Failure> {
    let filter = EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("warn"));
    tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr).init();
    // One layer waits for another and that for a third: debug builds need more stack for it than threads have by themselves.
    let mut runtime = tokio::runtime::Builder::new_multi_thread();
    let runtime = runtime.thread_stack_size(8 << 20).enable_all().build().map_err(Failure::other)?;
    let result = runtime.block_on(task);
    // Open event streams must not hold the end up.
    runtime.shutdown_background();
    result
}

/// Ends at Ctrl-C or a polite request to stop; open streams are cut a moment later.
async fn stopped() {
    let interrupt = tokio::signal::ctrl_c();
    let mut terminate = tokio::signal::unix::signal(tokio::signal::unix::SignalKind::terminate())
        .expect("a process may listen for its own end");
    tokio::select! {
        _ = interrupt => {}
        _ = terminate.recv() => {}
    }
    tokio::spawn(async {
        tokio::time::sleep(std::time::Duration::from_millis(300)).await;
        std::process::exit(0);
    });
}
