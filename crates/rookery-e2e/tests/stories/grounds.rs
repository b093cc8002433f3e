//! What an artist does with grounds beside the land, zones and water.

use fantoccini::key::Key;
use rookery_e2e::{Done, Page, scratch};

type Story = Done;

fn control() -> char {
    Key::Control.into()
}

const READOUT: &str = "return document.querySelector('[data-testid=readout]').textContent";

#[tokio::test(flavor = "multi_thread")]
async fn the_needle_arch_is_grown_on_and_what_grows_goes_with_it() -> Story {
    let page = Page::open().await?;
    page.press("Scenes").await?;
    page.choose("The Needle Arch").await?;
    page.until("the arch with its grass", "return document.querySelector('[aria-label=\"Name of the scene\"]')?.value === 'The Needle Arch' && Number(document.querySelector('[data-testid=view]')?.dataset.plants) > 0").await?;
    let grass = page.placed(None).await?;
    assert!(grass > 300.0, "{grass}");
    let sentence = page.find("[data-testid=sentence]").await?.text().await?;
    assert!(sentence.contains("on The Needle Arch"), "{sentence}");
    // The pointer says which ground it is on.
    page.click_at("[data-testid=view] canvas", 120, -20).await?;
    page.until("the arch under the pointer", &format!("{READOUT}.includes('The Needle Arch')")).await?;
    // Asked there, the layers answer for this ground.
    page.press("Ask the ground").await?;
    page.click_at("[data-testid=view] canvas", 120, -20).await?;
    page.until("an answer", "const a = document.querySelector('[aria-label=\"What the ground says\"]')?.textContent ?? ''; return a.includes('on The Needle Arch') && a.includes('Grass on its back')").await?;
    page.press("Ask the ground").await?;
    // A mesh is not sculpted, and says so.
    page.press("Site").await?;
    page.press("Raise").await?;
    page.click_at("[data-testid=view] canvas", 120, -20).await?;
    page.until("the reason", "return [...document.querySelectorAll('[role=alert]')].some(a => a.textContent.includes('only terrains can be sculpted'))").await?;
    page.press("Put the tool down").await?;
    // A turned arch keeps its plants; a larger one has more room for them.
    page.press("Site").await?;
    page.press("Sea arch").await?;
    page.type_number("ground-turn", "75").await?;
    page.saved().await?;
    let count = "[data-testid=count-1]";
    assert_eq!(page.number(count, "data-placed", None).await?, grass);
    page.type_number("ground-scale", "1.5").await?;
    let more = page.number(count, "data-placed", Some(grass)).await?;
    assert!(more > grass * 1.5, "{grass} became {more}");
    page.chord(&[control()], 'z').await?;
    page.until(
        "the arch as it was",
        &format!("return document.querySelector('{count}').dataset.placed === '{grass}'"),
    )
    .await?;
    // The layer may grow on the seabed too.
    page.press("Planting").await?;
    page.press("The land").await?;
    page.until(
        "both grounds chosen",
        "return !document.querySelector('[data-testid=sentence]').textContent.includes('The Needle Arch')",
    )
    .await?;
    page.close().await
}

/// The altitude that the readout tells near the middle of the view, once it is as it should be. It is told anew as the pointer moves.
async fn altitude(page: &Page, wanted: impl Fn(f64) -> bool) -> Done<f64> {
    let script = "return Number(document.querySelector('[data-testid=readout]').textContent.match(/altitude (-?[0-9.]+)/)?.[1])";
    let mut last = None;
    for turn in 0..60 {
        page.click_at("[data-testid=view] canvas", 10 + turn % 2, 10).await?;
        last = page.ask(script).await?.as_f64();
        if let Some(last) = last.filter(|v| wanted(*v)) {
            return Ok(last);
        }
        tokio::time::sleep(std::time::Duration::from_millis(300)).await;
    }
    Err(format!("the altitude stayed at {last:?}").into())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_terrain_beside_the_land_is_sculpted_where_it_stands() -> Story {
    let page = Page::open().await?;
    page.press("Scenes").await?;
    page.choose("Bare ground").await?;
    page.until("bare ground", "return document.querySelector('[aria-label=\"Name of the scene\"]')?.value === 'New scene' && !!document.querySelector('[data-testid=view]')?.dataset.ground").await?;
    page.press("Site").await?;
    page.find("[data-testid=add-ground]").await?.click().await?;
    page.choose("Terrain").await?;
    page.saved().await?;
    page.type_number("ground-turn", "40").await?;
    page.saved().await?;
    page.press("Plan").await?;
    page.click_at("[data-testid=view] canvas", 10, 10).await?;
    page.until("the terrain under the pointer", &format!("{READOUT}.includes('Terrain')")).await?;
    let before = altitude(&page, |_| true).await?;
    page.press("Raise").await?;
    page.type_number("sculpt-radius", "12").await?;
    page.type_number("sculpt-height", "20").await?;
    // Beside the handle by which the ground itself is moved.
    page.begin_drag("[data-testid=view] canvas", (30, 30), (-20, -20)).await?;
    page.let_go().await?;
    page.saved().await?;
    page.press("Put the tool down").await?;
    altitude(&page, |now| now > before + 15.0).await?;
    page.chord(&[control()], 'z').await?;
    altitude(&page, |now| (now - before).abs() < 1.0).await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mesh_becomes_a_ground_by_part_and_a_face_group_a_zone() -> Story {
    let page = Page::open().await?;
    page.press("Scenes").await?;
    page.choose("Bare ground").await?;
    page.until("bare ground", "return document.querySelector('[aria-label=\"Name of the scene\"]')?.value === 'New scene' && !!document.querySelector('[data-testid=view]')?.dataset.ground").await?;
    page.press("Site").await?;
    let dir = scratch("ground")?;
    let broken = dir.join("broken.obj");
    std::fs::write(&broken, "v 0 0 0\nv 1 0 0\nf 1 2 9\n")?;
    page.find("[data-testid=ground-mesh-file]").await?.send_keys(&broken.to_string_lossy()).await?;
    page.until("the reason", "return (document.querySelector('[data-testid=ground-mesh-problem]')?.textContent ?? '').includes('line 3')").await?;
    let table = dir.join("table.obj");
    let mut obj = String::from("g Top\nv -4 2 -4\nv 4 2 -4\nv 4 2 4\nv -4 2 4\nf 4 3 2 1\ng Leg\n");
    obj.push_str("v -1 0 -1\nv 1 0 -1\nv 1 0 1\nv -1 0 1\nv -1 2 -1\nv 1 2 -1\nv 1 2 1\nv -1 2 1\n");
    obj.push_str("f 5 9 10 6\nf 6 10 11 7\nf 7 11 12 8\nf 8 12 9 5\ng Plate\nv 9 0 9\nv 10 0 9\nv 9 0 10\nf 13 15 14\n");
    std::fs::write(&table, obj)?;
    page.find("[data-testid=ground-mesh-file]").await?.send_keys(&table.to_string_lossy()).await?;
    page.until(
        "its parts",
        "return document.querySelectorAll('[aria-label=\"Parts to take\"] li').length === 3",
    )
    .await?;
    page.press("Plate").await?;
    page.find("[data-testid=place-ground-mesh]").await?.click().await?;
    page.until("the table in the list", "return [...document.querySelectorAll('section[aria-label=\"Grounds beside the land\"] li input')].some(i => i.value === 'table')").await?;
    page.until("its area", "return document.querySelector('[data-testid=ground-fields]').textContent.includes('80 m² of surface, 10 triangles')").await?;
    page.press("Top").await?;
    page.until(
        "the zone",
        "return [...document.querySelectorAll('section[aria-label=Zones] li input')].some(i => i.value === 'Top')",
    )
    .await?;
    // Something that grows on the table's top alone.
    page.press("Add layer").await?;
    // The table is taken hold of, so what is added grows on it, and not on its underside.
    page.find("[data-testid=pick-marram]").await?.click().await?;
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-zone-mask]").await?.click().await?;
    page.until(
        "the sentence to name both",
        "const s = document.querySelector('[data-testid=sentence]').textContent; return s.includes('on table') && s.includes('is in Top')",
    )
    .await?;
    let on_top = page.placed_at_rest().await?;
    assert!((20.0..80.0).contains(&on_top), "about 0.8 on each of 64 m2: {on_top}");
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_zone_keeps_plants_out_and_a_pool_is_set_in() -> Story {
    let page = Page::open().await?;
    let kept_out = page.placed(None).await?;
    page.press("In").await?;
    let inside = page.placed(Some(kept_out)).await?;
    assert!(inside > 300.0 && inside < kept_out / 10.0, "{inside} in the garth, {kept_out} out of it");
    page.chord(&[control()], 'z').await?;
    page.until(
        "the first ones",
        &format!("return document.querySelector('[data-testid=placed]').dataset.placed === '{kept_out}'"),
    )
    .await?;
    page.press("Site").await?;
    page.find("[data-testid=add-water]").await?.click().await?;
    page.type_number("sheet-width", "30").await?;
    page.saved().await?;
    page.until("the pool", "return [...document.querySelectorAll('section[aria-label=Water] li input')].some(i => i.value === 'Pool')").await?;
    page.drag("[data-testid=place]", 40, 20).await?;
    page.saved().await?;
    page.close().await
}
