//! Times dabs of the brush on a layer of a million plants, in the browser that draws in software.

use rookery_e2e::{Done, Page, Sharpness};
use serde_json::Value;
use std::time::Duration;

const DABS: u64 = 40;

/// A layer of a million plants on 1 km2 with a painted mask, without all others.
const MAKE: &str = r"
const done = arguments[arguments.length - 1], pattern = arguments[0];
const ask = async (path, body) => (await fetch(path, { method: body ? 'POST' : 'GET', headers: { 'content-type': 'application/json' }, body: body && JSON.stringify(body) })).json();
(async () => {
  const s = await ask('/api/scenes', { from: 'kittiwake_head' });
  const edit = (value) => ({ do: 'edit_layer', id: 1, edit: value });
  const response = { start: 0, full_from: 1, full_to: 1, end: 1, inverted: false };
  const commands = [
    { do: 'edit_ground', edit: { set: 'source', value: { ...s.document.ground.source, size_m: 1000, samples: 1025, coast: 0 } } },
    ...s.document.layers.filter((l) => l.id !== 1).map((l) => ({ do: 'remove_layer', id: l.id })),
    { do: 'put_paint', value: { id: 1, name: 'Turf', bare: 1, strokes: [] } },
    edit({ set: 'masks', value: [{ id: 9, quantity: 'painted', paint: 1, enabled: true, response }] }),
    edit({ set: 'amount', value: { unit: 'per_m2', value: 1 } }),
    edit({ set: 'cap', value: 10000000 }),
    edit({ set: 'pattern', value: pattern }),
  ];
  const made = await ask(`/api/scenes/${s.id}/commands`, { id: crypto.randomUUID(), seen_seq: s.seq, command: { do: 'all', commands } });
  done(made.edit ? s.id : JSON.stringify(made));
})();
";

/// One dab: until the plants of the changed layer are at hand, until a picture with them was drawn, and how long that drawing took.
const DAB: &str = r"
const done = arguments[arguments.length - 1], [x, y] = arguments;
const view = document.querySelector('[data-testid=view]'), canvas = view.querySelector('canvas');
const placed = () => document.querySelector('[data-testid=placed]').dataset.placed;
const box = canvas.getBoundingClientRect();
const at = { clientX: box.x + box.width * x, clientY: box.y + box.height * y, bubbles: true, pointerId: 1, button: 0, buttons: 1 };
const before = placed(), start = performance.now();
canvas.dispatchEvent(new PointerEvent('pointermove', { ...at, buttons: 0 }));
canvas.dispatchEvent(new PointerEvent('pointerdown', at));
canvas.dispatchEvent(new PointerEvent('pointerup', { ...at, buttons: 0 }));
let hand = null, frame = null;
const look = () => {
  const now = performance.now() - start;
  if (hand === null && placed() !== before) [hand, frame] = [now, view.dataset.frame];
  if (hand !== null && view.dataset.frame !== frame) return done([hand, now, Number(view.dataset.frameMs)]);
  if (now > 8000) return done([hand ?? NaN, NaN, NaN]);
  setTimeout(look, 1);
};
look();
";

const AT_REST: &str = "return document.querySelector('[data-testid=view]').dataset.settled === 'true'";

fn of(times: &[[f64; 3]], which: usize) -> (f64, f64) {
    let mut sorted: Vec<f64> = times.iter().map(|t| t[which]).collect();
    sorted.sort_by(f64::total_cmp);
    (sorted[sorted.len() / 2], sorted[sorted.len() * 95 / 100])
}

/// Makes the dabs and prints what they took.
async fn dabs(page: &Page, how: &str) -> Done {
    let mut times = Vec::new();
    for i in 0..DABS {
        tokio::time::sleep(Duration::from_millis(1200)).await;
        page.until("the view at rest", AT_REST).await?;
        let place = [0.2 + (i * 97 % 60) as f64 * 0.01, 0.25 + (i * 61 % 50) as f64 * 0.01];
        let answer = page.client().execute_async(DAB, place.map(Value::from).to_vec()).await?;
        times.push([0, 1, 2].map(|k| answer[k].as_f64().unwrap_or(f64::NAN)));
    }
    let missed = times.iter().filter(|t| t.iter().any(|v| v.is_nan())).count();
    times.retain(|t| t.iter().all(|v| v.is_finite()));
    if times.is_empty() {
        return Err("no dab reached the view".into());
    }
    let [hand, view, frame] = [0, 1, 2].map(|which| of(&times, which));
    println!(
        "  {} dabs, {how}: at hand median {:.0} ms, 95th percentile {:.0} ms; in the picture median {:.0} ms, 95th percentile {:.0} ms; one picture drawn in software {:.0} ms (median); {missed} did not come",
        times.len(),
        hand.0,
        hand.1,
        view.0,
        view.1,
        frame.0
    );
    Ok(())
}

#[tokio::main]
async fn main() -> Done {
    let page = Page::open_with(Sharpness::Full).await?;
    for pattern in ["random", "even"] {
        let id = page.client().execute_async(MAKE, vec![pattern.into()]).await?;
        let id = id.as_str().unwrap_or_default().to_owned();
        page.client().goto(&format!("{}/?scene={id}", page.server_address())).await?;
        let plants = "return Number(document.querySelector('[data-testid=view]')?.dataset.plants) > 0";
        page.until("the plants", plants).await?;
        page.until("the view at rest", AT_REST).await?;
        page.find("[data-testid=layer-1] button").await?.click().await?;
        page.press("Plan").await?;
        page.press("Erase").await?;
        // Drawing in software takes the two cores from the rest.
        page.ask("const s = document.querySelector('[data-testid=preview-share]'); s.value = '0.1'; s.dispatchEvent(new Event('change', { bubbles: true })); Element.prototype.setPointerCapture = () => undefined").await?;
        let plants = page.placed(None).await?;
        println!("{plants} plants, {pattern}:");
        dabs(&page, "a tenth of them drawn").await?;
        page.press("Hide Marram").await?;
        tokio::time::sleep(Duration::from_secs(2)).await;
        dabs(&page, "none of them drawn").await?;
    }
    page.close().await
}
