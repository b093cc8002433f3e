//! The server and the worker.

use super::{Failure, listen};
use crate::app::App;
use crate::db::{housekeeping, scenes as db};
use crate::growth::{Growths, Shelf};
use crate::routes::Door;
use crate::{jobs, routes};
use clap::Args;
use rookery_core::scene::kittiwake_head;
use std::io::Write;
use std::net::{IpAddr, SocketAddr};
use std::os::unix::fs::OpenOptionsExt;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::Duration;
use tracing_subscriber::EnvFilter;

/// How to serve.
#[derive(Debug, Args)]
pub(super) struct ServeArgs {
    /// The database, for example `postgres://app@127.0.0.1:5432/rookery`.
    #[arg(long, env = "DATABASE_URL")]
    database_url: String,
    /// Where to listen. Beyond this machine everyone must show the token.
    #[arg(long, default_value = "127.0.0.1:7411")]
    listen: SocketAddr,
    /// Leave stills to workers elsewhere.
    #[arg(long)]
    no_worker: bool,
    /// The most memory that what is derived from scenes may take, megabytes: plants, grounds, masks, even places, buffers. The longest
    /// unused goes first.
    #[arg(long, default_value_t = 4096, value_parser = clap::value_parser!(u32).range(64..=1_048_576))]
    cache_mb: u32,
    /// Where it is kept from one start to the next how species look, which takes long to compute; up to 1 GB, and safe to delete. The
    /// folder `rookery` in the user's cache folder when left out.
    #[arg(long, value_name = "FOLDER", env = "ROOKERY_CACHE_DIR")]
    cache_dir: Option<PathBuf>,
    /// One more name by which browsers may reach it; can be given several times.
    #[arg(long = "host", value_name = "NAME")]
    hosts: Vec<String>,
    /// What scripts show so that they may change something: `Authorization: Bearer TOKEN`. Made up when left out.
    #[arg(long, env = "ROOKERY_TOKEN", hide_env_values = true)]
    token: Option<String>,
    /// Where the token is written down, readable by you alone.
    #[arg(long, value_name = "FILE")]
    token_file: Option<PathBuf>,
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
        let mut app = App::start(&args.database_url).await.map_err(Failure::other)?;
        let listener = tokio::net::TcpListener::bind(args.listen)
            .await
            .map_err(|e| Failure::other(format!("{} cannot be listened on: {e}", args.listen)))?;
        let address = listener.local_addr().map_err(Failure::other)?;
        app.door = Arc::new(door(&args, &app, address.ip())?);
        let readers = app.growths.readers().clone();
        app.growths = Arc::new(Growths::new(readers, (args.cache_mb as usize) << 20, shelf(&args)));
        if let Some(file) = &args.token_file {
            write_down(file, app.door.token())
                .map_err(|e| Failure::other(format!("{} cannot be written: {e}", file.display())))?;
        }
        if db::list(&app.db).await.map_err(Failure::other)?.is_empty() {
            db::create(&app.db, &kittiwake_head()).await.map_err(Failure::other)?;
        }
        tokio::spawn(warm(app.clone()));
        tokio::spawn(tidy(app.clone()));
        if !args.no_worker {
            tokio::spawn(jobs::work(app.clone()));
        }
        if address.ip().is_loopback() {
            println!("Rookery is at http://{address}");
        } else {
            println!("Rookery is at http://{address}/?token={}", app.door.token());
            eprintln!("rookery: listening beyond this machine; whoever opens that address can change scenes");
        }
        tokio::select! {
            () = listen::answer(listener, routes::router(app)) => {}
            () = stopped() => {}
        }
        Ok(())
    })
}

/// Who is let in: on this machine all, with the token for scripts; beyond it whoever shows the token.
fn door(args: &ServeArgs, app: &App, ip: IpAddr) -> Result<Door, Failure> {
    let token = args.token.clone().unwrap_or_else(|| app.door.token().to_owned());
    if token.len() < 16 || !token.bytes().all(|b| b.is_ascii_alphanumeric() || b == b'-' || b == b'_') {
        return Err(Failure::bad("a token has at least 16 letters, digits, - or _"));
    }
    let own = (!ip.is_unspecified()).then(|| match ip {
        IpAddr::V4(ip) => ip.to_string(),
        IpAddr::V6(ip) => format!("[{ip}]"),
    });
    let door = Door::of_this_machine(token, args.hosts.iter().cloned().chain(own));
    Ok(if ip.is_loopback() { door } else { door.for_everyone_with_token() })
}

/// The folder for what outlives the server. Without one all is computed again at each start.
fn shelf(args: &ServeArgs) -> Option<Shelf> {
    let dir = args.cache_dir.clone().or_else(Shelf::usual_dir)?;
    let made = Shelf::at(dir.clone());
    made.map_err(|e| tracing::warn!(error = %e, dir = %dir.display(), "no folder for what is computed")).ok()
}

/// Writes the token into a file that nobody else can read.
fn write_down(file: &Path, token: &str) -> std::io::Result<()> {
    let mut open = std::fs::OpenOptions::new();
    let mut out = open.write(true).create(true).truncate(true).mode(0o600).open(file)?;
    writeln!(out, "{token}")
}

/// Now and then clears away what nobody needs any more.
async fn tidy(app: App) {
    loop {
        if let Err(e) = housekeeping::tidy(&app.db).await {
            tracing::warn!(error = %e, "not everything could be cleared away");
        }
        if let Some(shelf) = app.growths.shelf().cloned() {
            // Nobody waits for it, and what is left today goes another day.
            drop(tokio::task::spawn_blocking(move || shelf.tidy()));
        }
        tokio::time::sleep(Duration::from_secs(3600)).await;
    }
}

/// Grows the scene that was last worked on, so that it is at hand when a browser asks for it.
async fn warm(app: App) {
    let Ok(scenes) = db::list(&app.db).await else { return };
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

/// Ends at Ctrl-C or a polite request to stop. What is under way is cut: what was acknowledged is in the database, the rest is sent
/// again.
async fn stopped() {
    let interrupt = tokio::signal::ctrl_c();
    let mut terminate = tokio::signal::unix::signal(tokio::signal::unix::SignalKind::terminate())
        .expect("a process may listen for its own end");
    tokio::select! {
        _ = interrupt => {}
        _ = terminate.recv() => {}
    }
}
