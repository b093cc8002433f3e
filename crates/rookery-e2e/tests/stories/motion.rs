//! The wind is set, played and scrubbed, and the graphics turn plants as core does.

use fantoccini::key::Key;
use glam::Vec3;
use rookery_core::air::Flow;
use rookery_core::cancel::CancelToken;
use rookery_core::motion::{Moving, Now, Push, Stands, Sway};
use rookery_core::scene::Document;
use rookery_e2e::{Done, Page};
use rookery_formats::{ground_model, obstacle_mesh, placed_model};
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

/// The graphics beside core.
struct Beside {
    compared: usize,
    /// The largest difference, radians.
    worst: f32,
    /// How much the land changes the wind, at most.
    changed: f32,
    /// The furthest that any plant is turned, radians.
    furthest: f32,
    /// How many a moving ground carries.
    carried: usize,
}

/// How the graphics turned every plant that is drawn as more than a dot, at a moment of the picture at rest, beside what core says.
async fn beside_core(page: &Page, id: &str, time_s: f64) -> Done<Beside> {
    let facts = get(page, &format!("'/api/scenes/{id}/motion'")).await?;
    let scene = get(page, &format!("'/api/scenes/{id}'")).await?;
    let document: Document = serde_json::from_value(scene["document"].clone())?;
    // What moves, and the mean wind over the same land, worked out here.
    let ground = ground_model(&document, |_| None)?;
    let stand = document.obstacles.iter().map(|o| obstacle_mesh(&document, o, &ground.terrain, |_| None));
    let mut solids = Vec::new();
    for g in &document.grounds {
        let model = placed_model(g, document.ground.water_m, |_| None)?;
        solids.push(model.as_ref().mesh(&document.frame(g.id)));
    }
    solids.extend(stand.collect::<Result<Vec<_>, _>>()?);
    let stand: Vec<_> = solids.iter().collect();
    let never = CancelToken::default();
    let moving = Moving::over(&document, Some(&ground.terrain), &stand, &never)?;
    let now = Now::new(&document, &moving, time_s);
    let flow = Flow::over_scene(&document, &ground.terrain, &stand, now.gusts.heading, &never)?;
    let mut out = Beside { compared: 0, worst: 0.0, changed: 0.0, furthest: 0.0, carried: 0 };
    for layer in facts["layers"].as_array().into_iter().flatten() {
        for told in layer["species"].as_array().into_iter().flatten() {
            let sway: Option<Sway> = serde_json::from_value(told["sway"].clone())?;
            let Some(sway) = sway else { continue };
            let push: Push = serde_json::from_value(told["push"].clone())?;
            let (tall, wide) = (number(told, "tall_m"), number(told, "wide_m"));
            let name = format!("{} {}", layer["id"], told["species"].as_str().unwrap_or_default());
            let drawn = page
                .ask(&format!("return document.querySelector('[data-testid=view] canvas').turned('{name}')"))
                .await?;
            let list = |of: &str| -> Vec<f32> {
                let all = drawn[of].as_array().into_iter().flatten();
                all.map(|v| v.as_f64().unwrap_or(f64::NAN) as f32).collect()
            };
            let (place, tint, theta, rides) = (list("place"), list("tint"), list("theta"), list("ride"));
            for (i, at) in place.chunks_exact(4).enumerate() {
                let ride = (rides[i] >= 0.0).then(|| &now.grounds[rides[i] as usize]);
                let foot = Vec3::new(at[0], at[1], at[2]);
                let foot = ride.map_or(foot, |r| r.carry(foot));
                out.carried += usize::from(ride.is_some());
                let local = flow.at(foot + Vec3::Y * push.met_m);
                let stands = Stands {
                    foot,
                    size: at[3],
                    height_m: tall * at[3],
                    spread_m: wide * at[3],
                    own: [tint[i * 4] as u8, tint[i * 4 + 1] as u8],
                    local: Some(local),
                    ride,
                };
                out.changed = out.changed.max((local[0].hypot(local[1]) - 1.0).abs());
                let [x, z] = sway.turned(&now, &push, &stands);
                let off = (x - theta[i * 2]).abs().max((z - theta[i * 2 + 1]).abs());
                out.worst = out.worst.max(off);
                out.furthest = out.furthest.max(x.hypot(z));
                out.compared += 1;
            }
        }
    }
    Ok(out)
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
    let Beside { compared, worst, changed, .. } = beside_core(&page, &id, 2.5).await?;
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
    page.press("Hide Mooring buoy").await?;
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

#[tokio::test(flavor = "multi_thread")]
async fn a_ball_through_the_marram_and_a_wash_along_a_path_press_plants_as_core_says() -> Done {
    let page = Page::open().await?;
    page.press("Motion").await?;
    page.until("the demo's buoy", "return !!document.querySelector('[data-testid=\"key-body-1--1\"]')")
        .await?;
    // A ball with a way of four nodes, drawn on the ground in front of the camera.
    page.find("[data-testid=add-ball]").await?.click().await?;
    for (x, y) in [(-130, 190), (40, 150), (160, 190), (280, 130)] {
        page.click_at("[data-testid=view]", x, y).await?;
    }
    page.press("Done").await?;
    page.saved().await?;
    page.until(
        "what it meets",
        "return /^It presses down .*Marram/.test(document.querySelector('[data-testid=body-meets]')?.textContent)",
    )
    .await?;
    // A wash that flies over the same ground and then blows twice as hard.
    page.find("[data-testid=add-blower]").await?.click().await?;
    for (x, y) in [(-60, 170), (220, 140)] {
        page.click_at("[data-testid=view]", x, y).await?;
    }
    page.press("Done").await?;
    page.saved().await?;
    page.type_number("blower-speed", "24").await?;
    page.saved().await?;
    page.until(
        "what it stirs",
        "return /^It stirs [A-Z]/.test(document.querySelector('[data-testid=blower-reaches]')?.textContent)",
    )
    .await?;
    let scenes = get(&page, "'/api/scenes'").await?;
    let id = scenes[0]["id"].as_str().unwrap_or_default().to_owned();
    for time in ["1.00", "1.50", "4.00"] {
        scrub(&page, time).await?;
        page.until(
            "a picture at rest",
            "const v = document.querySelector('[data-testid=view]'); return v.ariaBusy === 'false' && v.dataset.settled === 'true'",
        )
        .await?;
        let Beside { compared, worst, furthest, .. } = beside_core(&page, &id, time.parse()?).await?;
        assert!(compared > 300, "{compared} plants are drawn");
        assert!(worst < 1e-3, "at {time} s the graphics are off by {worst} radians among {compared} plants");
        assert!(furthest > 0.9, "at {time} s the furthest is turned by {furthest}");
    }

    // A key of its lane comes later with the arrow keys; all of it is taken back step by step.
    let key = "[data-testid^=key-body-]:not([data-testid^=key-body-1-])";
    let said = format!("[...document.querySelectorAll('{key}')].at(-1).getAttribute('aria-label')");
    let before = page.ask(&format!("return {said}")).await?;
    page.ask(&format!(
        "const k = [...document.querySelectorAll('{key}')].at(-1); k.focus(); \
         k.dispatchEvent(new KeyboardEvent('keydown', {{ key: 'ArrowRight', bubbles: true }}))"
    ))
    .await?;
    page.saved().await?;
    page.until("another time", &format!("return {said} !== {before}")).await?;
    for _ in 0..4 {
        page.chord(&[Key::Control.into()], 'z').await?;
        page.saved().await?;
    }
    page.until(
        "the demo as it was",
        &format!("return !document.querySelector('{key}') && !document.querySelector('[data-testid=blower-reaches]')"),
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_channel_of_the_buoy_is_in_the_still_and_goes_when_plants_do_not_feel_it() -> Done {
    let page = Page::open().await?;
    page.press("Shots").await?;
    for (field, text) in [("still-width", "320"), ("still-height", "180"), ("still-samples", "2")] {
        page.type_number(field, text).await?;
        page.saved().await?;
    }
    scrub(&page, "4.50").await?;
    let taken = async |count: u32| -> Done {
        page.find("[data-testid=take-still]").await?.click().await?;
        let done = "document.querySelectorAll('[data-testid=still][data-state=done] img').length";
        page.until("the still", &format!("return {done} === {count}")).await
    };
    taken(1).await?;
    page.press("Motion").await?;
    page.press("Open Mooring buoy").await?;
    page.press("Plants feel it").await?;
    page.saved().await?;
    page.until(
        "the note of it",
        "return document.querySelector('[data-testid=motion-notes]')?.textContent.includes('Mooring buoy passes through')",
    )
    .await?;
    page.press("Shots").await?;
    taken(2).await?;
    let other = "\
        const all = [...document.querySelectorAll('[data-testid=still][data-state=done] img')]; \
        if (all.some((i) => !i.complete || i.naturalWidth === 0)) return null; \
        const [a, b] = all.map((i) => { \
            const c = document.createElement('canvas'); [c.width, c.height] = [i.naturalWidth, i.naturalHeight]; \
            c.getContext('2d').drawImage(i, 0, 0); return c.getContext('2d').getImageData(0, 0, c.width, c.height).data }); \
        let n = 0; for (let i = 0; i < a.length; i += 4) if (Math.abs(a[i + 1] - b[i + 1]) > 8) n++; \
        return a.length === b.length && n";
    page.until("both pictures", &format!("return (() => {{ {other} }})() !== null")).await?;
    let other = page.ask(other).await?.as_u64().unwrap_or_default();
    assert!((20..6000).contains(&other), "{other} pixels of the channel are others");
    // Let them feel it again from its note.
    page.press("Motion").await?;
    page.press("Let plants feel it").await?;
    page.saved().await?;
    page.until("no note", "return !document.querySelector('[data-testid=motion-notes]')").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_ground_that_is_moved_and_shaken_carries_its_plants_which_lag_as_core_says() -> Done {
    let page = Page::open().await?;
    page.press("Site").await?;
    page.find("[data-testid=add-ground]").await?.click().await?;
    page.choose("Terrain").await?;
    page.saved().await?;
    // A small one, right in front of the camera.
    for (field, value) in
        [("ground-size_m", "16"), ("ground-x", "22"), ("ground-n", "-62"), ("ground-y", "16")]
    {
        page.type_number(field, value).await?;
        page.saved().await?;
    }
    page.press("Motion").await?;
    page.press("Terrain moves").await?;
    page.saved().await?;
    // To the east and up, with half a turn; then shaken.
    for (field, value) in
        [("key-1-time", "2"), ("key-1-east", "-6"), ("key-1-up", "2"), ("key-1-turn", "120")]
    {
        page.type_number(field, value).await?;
        page.saved().await?;
    }
    page.type_number("key-2-time", "4").await?;
    page.saved().await?;
    // From the moment that is shown.
    scrub(&page, "4.00").await?;
    page.find("[data-testid=shake]").await?.click().await?;
    page.saved().await?;
    let scenes = get(&page, "'/api/scenes'").await?;
    let id = scenes[0]["id"].as_str().unwrap_or_default().to_owned();
    let scene = get(&page, &format!("'/api/scenes/{id}'")).await?;
    let keys = &scene["document"]["grounds"][0]["moves"]["keys"];
    assert_eq!(keys.as_array().map(Vec::len), Some(3 + 12 + 1), "{keys}");
    page.until("its lane", "return document.querySelectorAll('[data-testid^=key-ground-]').length === 16")
        .await?;
    for time in ["1.00", "2.50", "4.50"] {
        scrub(&page, time).await?;
        page.until(
            "a picture at rest",
            "const v = document.querySelector('[data-testid=view]'); return v.ariaBusy === 'false' && v.dataset.settled === 'true'",
        )
        .await?;
        let Beside { compared, worst, carried, .. } = beside_core(&page, &id, time.parse()?).await?;
        assert!(carried > 10 && carried < compared, "{carried} of {compared} are carried");
        assert!(worst < 1e-3, "at {time} s the graphics are off by {worst} radians among {compared} plants");
    }
    // Undone it stands again.
    for _ in 0..7 {
        page.chord(&[Key::Control.into()], 'z').await?;
        page.saved().await?;
    }
    page.until("no lane", "return !document.querySelector('[data-testid^=key-ground-]')").await?;
    let scene = get(&page, &format!("'/api/scenes/{id}'")).await?;
    assert!(scene["document"]["grounds"][0]["moves"].is_null());
    page.close().await
}
