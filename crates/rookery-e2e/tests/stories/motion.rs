//! The wind is set, played and scrubbed, and the graphics turn plants as core does.

use fantoccini::key::Key;
use rookery_core::motion::{Gusts, Push, Sway};
use rookery_core::scene::{GustSettings, Wind};
use rookery_e2e::{Done, Page};
use serde_json::Value;

async fn get(page: &Page, path: &str) -> Done<Value> {
    let script = format!(
        "const x = new XMLHttpRequest(); x.open('GET', {path}, false); x.send(); return JSON.parse(x.responseText)"
    );
    page.ask(&script).await
}

fn number(of: &Value, field: &str) -> f32 {
    of[field].as_f64().unwrap_or_else(|| panic!("{field} of {of}")) as f32
}

/// Sets the moment as a hand on the slider would.
async fn scrub(page: &Page, seconds: &str) -> Done {
    page.ask(&format!(
        "const m = document.querySelector('[data-testid=moment]'); \
         Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(m, '{seconds}'); \
         m.dispatchEvent(new Event('input', {{ bubbles: true }}))"
    ))
    .await?;
    page.until(
        "that moment",
        &format!(
            "return document.querySelector('[data-testid=moment-said]').textContent.startsWith('{seconds}')"
        ),
    )
    .await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_wind_is_set_played_and_scrubbed_and_plants_turn_as_core_says() -> Done {
    let page = Page::open().await?;
    page.chord(&[], '4').await?;
    let said = "return document.querySelector('[data-testid=wind-said]').textContent";
    page.until("the demo's wind", &format!("{said}.includes('moderate breeze')")).await?;

    // It plays: time goes on and pictures follow one another, until it is paused.
    page.press("Play (space)").await?;
    page.until(
        "three seconds to pass",
        "return parseFloat(document.querySelector('[data-testid=moment-said]').textContent) > 3",
    )
    .await?;
    page.until(
        "a rate",
        "return / a second/.test(document.querySelector('[data-testid=play-rate]').textContent)",
    )
    .await?;
    page.press("Pause (space)").await?;

    // A gale is another wind, and one step to take back.
    page.type_number("wind-speed", "18").await?;
    page.saved().await?;
    page.until("the gale", &format!("{said}.includes('gale')")).await?;
    page.press("Stop, back to the start").await?;
    scrub(&page, "2.50").await?;
    page.until(
        "a picture at rest",
        "const v = document.querySelector('[data-testid=view]'); return v.ariaBusy === 'false' && v.dataset.settled === 'true'",
    )
    .await?;

    // What the graphics computed, plant by plant, beside core.
    let scenes = get(&page, "'/api/scenes'").await?;
    let id = scenes[0]["id"].as_str().unwrap_or_default().to_owned();
    let facts = get(&page, &format!("'/api/scenes/{id}/motion'")).await?;
    let scene = get(&page, &format!("'/api/scenes/{id}'")).await?;
    let blows = &scene["document"]["motion"]["wind"];
    let gusts = &blows["gusts"];
    let wind = Wind {
        speed_m_per_s: number(blows, "speed_m_per_s"),
        from_deg: number(blows, "from_deg"),
        gusts: GustSettings {
            strength: number(gusts, "strength"),
            size_m: number(gusts, "size_m"),
            change: number(gusts, "change"),
            seed: gusts["seed"].as_u64().unwrap_or(0) as u32,
        },
    };
    assert!((wind.speed_m_per_s - 18.0).abs() < 1e-6);
    // The moment is on the beat of the pictures.
    let now = Gusts::new(&wind).at(2.5);
    let (mut compared, mut worst) = (0, 0.0_f32);
    for layer in facts["layers"].as_array().into_iter().flatten() {
        for told in layer["species"].as_array().into_iter().flatten() {
            let (s, p) = (&told["sway"], &told["push"]);
            if s.is_null() {
                continue;
            }
            let sway = Sway {
                hz: number(s, "hz"),
                damping: number(s, "damping"),
                lean: number(s, "lean"),
                streamlining: number(s, "streamlining"),
                most_rad: number(s, "most_rad"),
            };
            let push = Push {
                speed_m_per_s: number(p, "speed_m_per_s"),
                load: number(p, "load"),
                unrest: number(p, "unrest"),
                aside: number(p, "aside"),
            };
            let name = format!("{} {}", layer["id"], told["species"].as_str().unwrap_or_default());
            let drawn = page
                .ask(&format!("return document.querySelector('[data-testid=view] canvas').turned('{name}')"))
                .await?;
            let list = |of: &str| -> Vec<f32> {
                drawn[of]
                    .as_array()
                    .into_iter()
                    .flatten()
                    .map(|v| v.as_f64().unwrap_or(f64::NAN) as f32)
                    .collect()
            };
            let (place, tint, theta) = (list("place"), list("tint"), list("theta"));
            for (i, at) in place.chunks_exact(4).enumerate() {
                let own = [tint[i * 4] as u8, tint[i * 4 + 1] as u8];
                let [x, z] = sway.turned(&now, &push, [at[0], at[2]], at[3], own);
                let off = (x - theta[i * 2]).abs().max((z - theta[i * 2 + 1]).abs());
                worst = worst.max(off);
                compared += 1;
            }
        }
    }
    // A turn of a thousandth is a millimetre at the tip of what is a metre high.
    assert!(compared > 300, "{compared} plants are drawn");
    assert!(worst < 1e-3, "the graphics are off by {worst} radians among {compared} plants");

    // Held out of the wind, a layer stands; undone, it sways again; and all of it is undone.
    page.type_number("wind-share-1", "0").await?;
    page.saved().await?;
    let held = format!(
        "const x = new XMLHttpRequest(); x.open('GET', '/api/scenes/{id}/motion', false); x.send(); \
        return JSON.parse(x.responseText).layers.find(l => l.id === 1).species[0].push.load === 0"
    );
    page.until("the marram held", &held).await?;
    for _ in 0..2 {
        page.chord(&[Key::Control.into()], 'z').await?;
        page.saved().await?;
    }
    page.until("the breeze of before", &format!("{said}.includes('moderate breeze')")).await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_still_shows_the_moment_of_the_timeline_and_a_run_of_frames_plays_as_it_comes() -> Done {
    let page = Page::open().await?;
    page.chord(&[], '5').await?;
    for (field, text) in [("still-width", "96"), ("still-height", "54"), ("still-samples", "1")] {
        page.type_number(field, text).await?;
        page.saved().await?;
    }
    scrub(&page, "2.50").await?;
    page.find("[data-testid=take-still]").await?.click().await?;
    let sheet = "document.querySelector('[data-testid=contact-sheet]')";
    page.until(
        "the still of that moment",
        &format!("return {sheet}.textContent.includes('at 2.50 s') && !!{sheet}.querySelector('img')"),
    )
    .await?;

    // Frame 60 of 24 a second is that moment: the same picture, whoever asked for it and how.
    page.type_number("run-last", "63").await?;
    page.type_number("run-first", "60").await?;
    page.find("[data-testid=take-run]").await?.click().await?;
    page.until(
        "a run of three",
        "return document.querySelector('[data-testid=run-said]')?.textContent.includes('3 frames')",
    )
    .await?;
    page.until("all of it", "return document.querySelector('[data-testid=run]').dataset.state === 'done'")
        .await?;
    let first =
        page.ask("return document.querySelector('[data-testid=run-frame]').getAttribute('src')").await?;
    let still = page.ask(&format!("return {sheet}.querySelector('img').getAttribute('src')")).await?;
    assert_eq!(first, still);
    page.press("Play the run").await?;
    page.until(
        "the next frame",
        &format!("return document.querySelector('[data-testid=run-frame]').getAttribute('src') !== {first}"),
    )
    .await?;
    page.press("Pause the run").await?;

    // In a calm a still is one of all at rest.
    page.press("Motion").await?;
    page.type_number("wind-speed", "0").await?;
    page.saved().await?;
    page.press("Shots").await?;
    page.until(
        "no moment",
        "return document.querySelector('[data-testid=take-still]')?.textContent.trim() === 'Take a still'",
    )
    .await?;
    page.close().await
}
