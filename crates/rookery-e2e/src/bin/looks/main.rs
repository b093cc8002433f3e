//! `cargo xtask looks`: the fixed frames as refined view and as still beside each other, with their numbers. Pictures go to `target/looks`.
//! A word on the command line does only the frames whose name has it.

mod frames;

use frames::{FRAMES, Frame};
use rookery_e2e::likeness::{Likeness, Picture, likeness};
use rookery_e2e::{Done, Page, Sharpness};
use serde_json::{Value, json};
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::{Duration, Instant};

/// Of a frame, pixels.
const SIZE: [u32; 2] = [640, 400];
/// Light paths per pixel of a still.
const SAMPLES: u32 = 32;
/// What is aimed at: colour within, structure from, edges within this share of one.
const AIMS: (f64, f64, f64) = (0.05, 0.8, 0.2);
/// Only the landscape, as large as a still.
const BARE: &str = "const s = document.createElement('style');
    s.textContent = `[data-testid=view] { position: fixed !important; left: 0; top: 0; width: ${arguments[0]}px !important; height: ${arguments[1]}px !important; z-index: 999; }
        [data-testid=view] > :not(canvas) { display: none !important; }`;
    document.head.append(s);";

#[tokio::main]
async fn main() -> Done {
    let word = std::env::args().nth(1).unwrap_or_default();
    let dir = PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/../../target/looks"));
    std::fs::create_dir_all(&dir)?;
    let page = Page::open_with(Sharpness::Full).await?;
    println!(
        "| frame | colour | structure | edges | dark places shared | view | still |\n|---|---|---|---|---|---|---|"
    );
    let (start, mut met, mut all) = (Instant::now(), 0, 0);
    for frame in FRAMES.iter().filter(|f| f.name.contains(&word)) {
        let (view, view_s) = view(&page, frame).await?;
        let (still, still_s) = still(frame, &dir)?;
        let l = likeness(&still, &view);
        std::fs::write(dir.join(format!("{}.png", frame.name)), view.beside(&still).to_png()?)?;
        println!(
            "| {} | {:.1} % | {:.3} | {:.2} | {:.2} | {view_s:.0} s | {still_s:.0} s |",
            frame.name,
            l.colour * 100.0,
            l.structure,
            l.edges,
            l.dark
        );
        met += usize::from(good(&l));
        all += 1;
    }
    println!(
        "\n{met} of {all} frames are within all aims; {:.1} minutes",
        start.elapsed().as_secs_f64() / 60.0
    );
    page.close().await
}

fn good(l: &Likeness) -> bool {
    l.colour <= AIMS.0 && l.structure >= AIMS.1 && (l.edges - 1.0).abs() <= AIMS.2
}

fn shot(f: &Frame) -> Value {
    json!({
        "id": 90, "name": f.name, "eye_m": f.eye_m, "target_m": f.target_m, "view_deg": f.view_deg, "sun_azimuth_deg": f.sun_deg[0],
        "sun_elevation_deg": f.sun_deg[1], "overcast": 0.1, "width_px": SIZE[0], "height_px": SIZE[1], "samples": SAMPLES,
    })
}

/// The view through a frame once it is refined, and how long that took.
async fn view(page: &Page, frame: &Frame) -> Done<(Picture, f64)> {
    let made = page
        .client()
        .execute_async(
            "const [from, shot, done] = arguments; (async () => {
                const post = async (to, body) => (await fetch(to, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })).json();
                const { id, seq } = await post('/api/scenes', { from });
                await post(`/api/scenes/${id}/commands`, { id: crypto.randomUUID(), author: 'looks', seen_seq: seq, command: { do: 'add_shot', shot, place: 0 } });
                return id;
            })().then(done, (e) => done(`no scene: ${e}`));",
            vec![json!(frame.scene.replace('-', "_")), shot(frame)],
        )
        .await?;
    let id = made.as_str().unwrap_or_default();
    page.client()
        .goto(&format!("{}/?scene={id}&rest=refined", page.server_address().trim_end_matches('/')))
        .await?;
    page.until("the view", "return document.querySelector('[data-testid=view]')?.ariaBusy === 'false'")
        .await?;
    page.ask("[...document.querySelectorAll('button')].find((b) => b.textContent === 'Contours').click()")
        .await?;
    page.client().execute(BARE, SIZE.iter().map(|s| json!(s)).collect()).await?;
    let start = Instant::now();
    let there = "const v = document.querySelector('[data-testid=view]').dataset; return Number(v.refined) > 0 && v.refining === 'false'";
    tokio::time::sleep(Duration::from_secs(2)).await;
    while page.ask(there).await? != json!(true) {
        if start.elapsed() > Duration::from_secs(120) {
            return Err(format!("{} is not refined after two minutes", frame.name).into());
        }
        tokio::time::sleep(Duration::from_millis(250)).await;
    }
    let png = page.find("[data-testid=view] > canvas").await?.screenshot().await?;
    Ok((Picture::from_png(&png)?, start.elapsed().as_secs_f64()))
}

/// The still of a frame, and how long it took.
fn still(frame: &Frame, dir: &Path) -> Done<(Picture, f64)> {
    let rookery = std::env::var("ROOKERY_BINARY")?;
    let start = Instant::now();
    let demo = Command::new(&rookery).args(["scene", "demo", frame.scene]).output()?;
    let mut scene: Value = serde_json::from_slice(&demo.stdout)?;
    scene["shots"] = json!([shot(frame)]);
    let (file, out) = (dir.join("scene.json"), dir.join("still.png"));
    std::fs::write(&file, scene.to_string())?;
    let done = Command::new(&rookery).arg("render").arg(&file).arg("--out").arg(&out).output()?;
    if !done.status.success() {
        return Err(format!("{}: {}", frame.name, String::from_utf8_lossy(&done.stderr)).into());
    }
    let picture = Picture::from_png(&std::fs::read(&out)?)?;
    std::fs::remove_file(&out)?;
    std::fs::remove_file(&file)?;
    Ok((picture, start.elapsed().as_secs_f64()))
}
