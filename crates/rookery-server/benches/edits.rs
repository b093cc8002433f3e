//! What an edit costs: in a scene with many layers and a long log, with many who watch, and with many who edit at once.
//!
//! Needs a database: `ROOKERY_TEST_DATABASE_URL`, which `cargo xtask bench` sets.

use diesel_async::{AsyncConnection, AsyncPgConnection, SimpleAsyncConnection};
use rookery_core::scene::{Command, Document, LayerEdit, LayerId, kittiwake_head};
use rookery_server::app::App;
use rookery_server::scenes::{Request, Wish};
use std::time::{Duration, Instant};
use tokio::sync::broadcast::error::TryRecvError;
use uuid::Uuid;

const LAYERS: u32 = 200;
const LOGGED: i64 = 100_000;
const EDITORS: usize = 30;
const SECONDS: u64 = 30;

fn main() {
    let Ok(admin) = std::env::var("ROOKERY_TEST_DATABASE_URL") else {
        println!("no database: set ROOKERY_TEST_DATABASE_URL, or run cargo xtask bench");
        return;
    };
    let runtime = tokio::runtime::Builder::new_multi_thread().enable_all().build().expect("threads");
    runtime.block_on(measure(&admin)).expect("the database of the bench works");
}

/// Kittiwake Head with its layers again and again.
fn many_layers() -> Document {
    let mut document = kittiwake_head();
    let first = document.layers.clone();
    for id in 0..LAYERS - first.len() as u32 {
        let mut layer = first[id as usize % first.len()].clone();
        (layer.id, layer.name) = (LayerId(1000 + id), format!("{} {id}", layer.name));
        document.layers.push(layer);
    }
    document
}

async fn sql(url: &str, text: &str) -> Result<(), Box<dyn std::error::Error>> {
    AsyncPgConnection::establish(url).await?.batch_execute(text).await?;
    Ok(())
}

fn seed(layer: LayerId, value: u32) -> Wish {
    let command = Command::EditLayer { id: layer, edit: LayerEdit::Seed { value } };
    Wish::Do { command: Box::new(command), gesture: None }
}

fn told(name: &str, mut times: Vec<Duration>) {
    times.sort_unstable();
    let at = |share: f64| times[((times.len() - 1) as f64 * share) as usize].as_secs_f64() * 1e3;
    println!(
        "{name}: {} times, median {:.1} ms, 95th percentile {:.1} ms, longest {:.1} ms",
        times.len(),
        at(0.5),
        at(0.95),
        at(1.0)
    );
}

async fn measure(admin: &str) -> Result<(), Box<dyn std::error::Error>> {
    let name = format!("bench_{}", Uuid::new_v4().simple());
    sql(admin, &format!("CREATE DATABASE {name}")).await?;
    let url = format!("{}/{name}", admin.rsplit_once('/').map_or(admin, |(base, _)| base));
    let done = on(&url).await;
    sql(admin, &format!("DROP DATABASE {name} WITH (FORCE)")).await?;
    done
}

async fn on(url: &str) -> Result<(), Box<dyn std::error::Error>> {
    let app = App::start(url).await?;
    let document = many_layers();
    let scene = app.scenes.create(&document).await?.scene;
    // A log as long as that of months, of edits that really change something.
    let first = document.layers[0].id.0;
    let edit = format!(
        "jsonb_build_object('do', 'edit_layer', 'id', {first}, 'edit', jsonb_build_object('set', 'seed', 'value', "
    );
    sql(url, &format!(
        "INSERT INTO scene_edits (scene_id, seq, since, kind, author, command, inverse, forward, layout, touches) \
         SELECT '{scene}', i, i, 'do', 'Sorrel ' || i % 7, {edit} i)), {edit} i - 1)), {edit} i)), 1, ARRAY['layers/{first}/seed'] \
         FROM generate_series(1, {LOGGED}) AS i; \
         UPDATE scenes SET seq = {LOGGED}, document_seq = {LOGGED}, history = NULL WHERE id = '{scene}'; ANALYZE"
    )).await?;
    drop(app);

    let app = App::start(url).await?;
    let start = Instant::now();
    let mut seen = app.scenes.now(scene).await?.seq;
    println!(
        "a scene of {LAYERS} layers and {seen} logged edits is opened for the first time in {:.0} ms",
        start.elapsed().as_secs_f64() * 1e3
    );
    let mut watchers: Vec<_> = (0..50).map(|_| app.events.watch(scene)).collect();
    let (mut times, mut bytes) = (Vec::new(), 0);
    for i in 0..300 {
        let layer = document.layers[i % document.layers.len()].id;
        let request = Request {
            id: Uuid::new_v4(),
            author: "Yarrow".to_owned(),
            seen_seq: seen,
            wish: seed(layer, 900_000 + i as u32),
        };
        let start = Instant::now();
        let answer = app.scenes.carry_out(scene, request).await?;
        let text = serde_json::to_string(&answer)?;
        times.push(start.elapsed());
        (seen, bytes) = (answer.changes.seq, text.len());
    }
    told("an edit there, with 50 who watch", times);
    let mut messages = (0, 0);
    loop {
        match watchers[0].try_recv() {
            Ok(text) => messages = (messages.0 + 1, messages.1.max(text.len())),
            // One that does not listen for so long falls behind, and asks for the changes.
            Err(TryRecvError::Lagged(missed)) => messages.0 += missed as usize,
            Err(_) => break,
        }
    }
    println!(
        "its answer has {bytes} bytes; who watches heard {} messages of at most {} bytes",
        messages.0, messages.1
    );
    let start = Instant::now();
    for _ in 0..50 {
        let request =
            Request { id: Uuid::new_v4(), author: "Yarrow".to_owned(), seen_seq: seen, wish: Wish::Undo };
        seen = app.scenes.carry_out(scene, request).await?.changes.seq;
    }
    println!("undo: {:.1} ms each", start.elapsed().as_secs_f64() * 1e3 / 50.0);

    many_edit(&app, scene, &document, seen).await?;
    // The same in a scene of usual size.
    let document = kittiwake_head();
    let scene = app.scenes.create(&document).await?.scene;
    many_edit(&app, scene, &document, 0).await
}

/// What an editor changes, none the same as another.
fn own_setting(editor: usize, document: &Document, value: u32) -> Wish {
    let layers = document.layers.len();
    let edit = match editor / layers {
        0 => LayerEdit::Seed { value: 2_000_000 + value },
        1 => LayerEdit::Cap { value: 1_000_000 - value },
        _ => LayerEdit::Sink { value: value as f32 * 1e-4 },
    };
    let command = Command::EditLayer { id: document.layers[editor % layers].id, edit };
    Wish::Do { command: Box::new(command), gesture: None }
}

/// Thirty who send one edit a second each, and ten who read the scene.
async fn many_edit(
    app: &App,
    scene: Uuid,
    document: &Document,
    seen: i64,
) -> Result<(), Box<dyn std::error::Error>> {
    let until = Instant::now() + Duration::from_secs(SECONDS);
    let mut editors = Vec::new();
    for editor in 0..EDITORS {
        let (app, document) = (app.clone(), document.clone());
        editors.push(tokio::spawn(async move {
            let (mut times, mut refused, mut seen) = (Vec::new(), 0, seen);
            // Each at a moment of its own in the second, as people are.
            tokio::time::sleep(Duration::from_millis(33 * editor as u64)).await;
            let mut beat = tokio::time::interval(Duration::from_secs(1));
            for value in 0.. {
                beat.tick().await;
                if Instant::now() > until {
                    break;
                }
                let author = format!("Editor {editor}");
                let request = Request {
                    id: Uuid::new_v4(),
                    author,
                    seen_seq: seen,
                    wish: own_setting(editor, &document, value),
                };
                let start = Instant::now();
                match app.scenes.carry_out(scene, request).await {
                    Ok(answer) => seen = answer.changes.seq,
                    Err(_) => refused += 1,
                }
                times.push(start.elapsed());
            }
            (times, refused)
        }));
    }
    let readers: Vec<_> = (0..10)
        .map(|_| {
            let app = app.clone();
            tokio::spawn(async move {
                let mut beat = tokio::time::interval(Duration::from_millis(500));
                while Instant::now() < until {
                    beat.tick().await;
                    if let Ok((snapshot, steps)) = app.scenes.seen_by(scene, "").await {
                        let view = rookery_server::scenes::SceneView::new(&snapshot, steps);
                        std::hint::black_box(serde_json::to_string(&view).map(|t| t.len()).unwrap_or(0));
                    }
                }
            })
        })
        .collect();
    let (mut times, mut refused) = (Vec::new(), 0);
    for editor in editors {
        let (own, lost) = editor.await?;
        times.extend(own);
        refused += lost;
    }
    for reader in readers {
        reader.await?;
    }
    let layers = document.layers.len();
    told(
        &format!(
            "{layers} layers, {EDITORS} editors with an edit a second each, 10 readers, {refused} conflicts"
        ),
        times,
    );
    Ok(())
}
