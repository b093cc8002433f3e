//! The wind is set, played and scrubbed, and the graphics turn plants as core does.

use fantoccini::key::Key;
use glam::Vec3;
use rookery_core::air::Flow;
use rookery_core::cancel::CancelToken;
use rookery_core::motion::{Gusts, Push, Sway};
use rookery_core::scene::{Document, GustSettings, Wind};
use rookery_e2e::{Done, Page};
use rookery_formats::{ground_model, obstacle_mesh};
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
    page.find("[data-testid=show-wind]").await?.click().await?;
    page.until("the wind over the land", "return !!document.querySelector('[data-testid=wind-legend]')")
        .await?;
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
    // The mean wind over the same land, worked out here.
    let document: Document = serde_json::from_value(scene["document"].clone())?;
    let ground = ground_model(&document, |_| None)?;
    let bodies = document.obstacles.iter().map(|o| obstacle_mesh(&document, o, &ground.terrain, |_| None));
    let bodies: Vec<_> = bodies.collect::<Result<_, _>>()?;
    let bodies: Vec<_> = bodies.iter().collect();
    let flow = Flow::over_scene(&document, &ground.terrain, &bodies, now.heading, &CancelToken::default())?;
    let (mut compared, mut worst, mut changed) = (0, 0.0_f32, 0.0_f32);
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
                met_m: number(p, "met_m"),
                power: number(p, "power"),
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
                let local = flow.at(Vec3::new(at[0], at[1] + push.met_m, at[2]));
                changed = changed.max((local[0].hypot(local[1]) - 1.0).abs());
                let [x, z] = sway.turned(&now, &push, [at[0], at[2]], at[3], own, Some(local));
                let off = (x - theta[i * 2]).abs().max((z - theta[i * 2 + 1]).abs());
                worst = worst.max(off);
                compared += 1;
            }
        }
    }
    // A turn of a thousandth is a millimetre at the tip of what is a metre high.
    assert!(compared > 300, "{compared} plants are drawn");
    assert!(changed > 0.1, "the land changes the wind by {changed} at most");
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

#[tokio::test(flavor = "multi_thread")]
async fn plants_seek_the_shelter_of_the_wind_and_the_ground_tells_how_it_blows() -> Done {
    let page = Page::open().await?;
    page.press("Planting").await?;
    page.press("Fescue turf").await?;
    let before = page.placed_at_rest().await?;
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-wind-mask]").await?.click().await?;
    let lee = page.placed(Some(before)).await?;
    assert!(lee > 0.1 * before && lee < 0.8 * before, "{before} became {lee}");
    // From the other side other ground lies in the lee.
    page.type_number("mask-wind-from", "70").await?;
    let other = page.placed(Some(lee)).await?;
    assert!(other < 0.9 * before, "{before} became {other}");
    // The wind that is played is another matter.
    page.press("Motion").await?;
    page.type_number("wind-from", "10").await?;
    page.saved().await?;
    page.press("Ask the ground").await?;
    page.click_at("[data-testid=view]", 0, 60).await?;
    page.until(
        "the wind there",
        "return document.querySelectorAll('[data-testid=wind-here] tr').length === 3",
    )
    .await?;
    page.press("Planting").await?;
    assert_eq!(page.placed_at_rest().await?, other);
    page.close().await
}
