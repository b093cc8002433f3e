//! Times the interface on loopback, in the browser that draws in software.

use rookery_e2e::{Done, Page, Sharpness};
use std::time::{Duration, Instant};

/// Starts a clock at an edit and stops it when a picture with other plants has been drawn.
const EDIT_TO_VIEW: &str = r"
const done = arguments[arguments.length - 1], value = arguments[0];
const field = document.querySelector('input[data-testid=amount-per-m2]');
const placed = () => document.querySelector('[data-testid=placed]').dataset.placed;
const view = document.querySelector('[data-testid=view]');
const before = placed();
const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
field.focus();
requestAnimationFrame(() => requestAnimationFrame(() => {
  set.call(field, String(value));
  field.dispatchEvent(new Event('input', { bubbles: true }));
  setTimeout(() => {
    const start = performance.now();
    let frames = view.dataset.frame;
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    const look = () => {
      if (placed() !== before && view.dataset.frame !== frames) done([performance.now() - start, Number(view.dataset.frameMs)]);
      else setTimeout(look, 2);
    };
    look();
  }, 300);
}));
";

/// Leads a sculpting stroke on and stops the clock when a picture of the changed ground has been drawn.
const STROKE_TO_VIEW: &str = r"
const done = arguments[arguments.length - 1], step = arguments[0];
const view = document.querySelector('[data-testid=view]'), canvas = view.querySelector('canvas');
const box = canvas.getBoundingClientRect();
const at = { clientX: box.x + box.width / 2 + 40 + step * 9, clientY: box.y + box.height / 2 - 30, bubbles: true, pointerId: 1, button: 0, buttons: 1 };
const key = view.dataset.ground;
if (step === 0) canvas.dispatchEvent(new PointerEvent('pointerdown', at));
const start = performance.now();
canvas.dispatchEvent(new PointerEvent('pointermove', at));
let frames = null;
const look = () => {
  if (frames === null) { if (view.dataset.ground !== key) frames = view.dataset.frame; }
  else if (view.dataset.frame !== frames) { done([performance.now() - start, Number(view.dataset.frameMs)]); return; }
  if (performance.now() - start > 5000) done([NaN, NaN]); else setTimeout(look, 1);
};
look();
";

#[tokio::main]
async fn main() -> Done {
    let page = Page::open_with(Sharpness::Full).await?;
    let mut firsts = Vec::new();
    for _ in 0..5 {
        let start = Instant::now();
        page.load().await?;
        firsts.push(start.elapsed().as_secs_f64());
    }
    firsts.sort_by(f64::total_cmp);
    println!("address entered to first plants drawn: median {:.2} s of {firsts:.2?}", firsts[2]);
    tokio::time::sleep(Duration::from_secs(2)).await;
    // The turf, which covers the whole head.
    page.ask("document.querySelector('[data-testid=layer-3] button').click()").await?;
    tokio::time::sleep(Duration::from_secs(1)).await;
    let (mut times, mut frames) = (Vec::new(), Vec::new());
    for i in 0..15 {
        // About 100,000 plants.
        let value = 2.8 + 0.05 * f64::from(i % 3);
        let answer = page.client().execute_async(EDIT_TO_VIEW, vec![value.into()]).await?;
        times.push(answer[0].as_f64().unwrap_or(f64::NAN));
        frames.push(answer[1].as_f64().unwrap_or(f64::NAN));
        tokio::time::sleep(Duration::from_millis(700)).await;
    }
    times.sort_by(f64::total_cmp);
    frames.sort_by(f64::total_cmp);
    println!(
        "amount changed to picture drawn, {} plants: median {:.0} ms, 95th percentile {:.0} ms; of that drawing in software {:.0} ms (median)",
        page.placed(None).await?,
        times[times.len() / 2],
        times[times.len() - 1],
        frames[frames.len() / 2]
    );
    page.press("Site").await?;
    page.press("Plan").await?;
    page.press("Raise").await?;
    page.ask("Element.prototype.setPointerCapture = () => undefined").await?;
    let (mut times, mut frames) = (Vec::new(), Vec::new());
    for step in 0..16 {
        // The picture at rest, drawn in software, must not stand in the way of the next step.
        tokio::time::sleep(Duration::from_millis(1500)).await;
        page.until(
            "the view at rest",
            "return document.querySelector('[data-testid=view]').dataset.settled === 'true'",
        )
        .await?;
        let answer = page.client().execute_async(STROKE_TO_VIEW, vec![step.into()]).await?;
        times.push(answer[0].as_f64().unwrap_or(f64::NAN));
        frames.push(answer[1].as_f64().unwrap_or(f64::NAN));
    }
    times.sort_by(f64::total_cmp);
    frames.sort_by(f64::total_cmp);
    println!(
        "stroke led on to picture drawn: median {:.0} ms, slowest of {} {:.0} ms; of that drawing in software {:.0} ms (median)",
        times[times.len() / 2],
        times.len(),
        times[times.len() - 1],
        frames[frames.len() / 2]
    );
    page.close().await
}
