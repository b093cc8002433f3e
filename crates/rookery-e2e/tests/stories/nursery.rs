//! What an artist does among species and communities.

use fantoccini::key::Key;
use rookery_e2e::{Done, Page, scratch};

type Story = Done;

fn control() -> char {
    Key::Control.into()
}

const TRIANGLES: &str = "return Number(document.querySelector('[data-testid=species-details] td:nth-child(2)')?.textContent.replace(/\\D/g, ''))";

async fn triangles(page: &Page) -> Done<f64> {
    Ok(page.ask(TRIANGLES).await?.as_f64().unwrap_or_default())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_species_is_found_edited_forked_and_planted() -> Story {
    let page = Page::open().await?;
    page.press("Nursery").await?;
    page.find("[data-testid=nursery-search]").await?.send_keys("coast pink").await?;
    page.until("thrift alone", "const l = [...document.querySelectorAll('[data-testid^=species-] button[aria-pressed]')]; return l.length === 1 && l[0].textContent.includes('Thrift')").await?;
    page.find("[data-testid=species-thrift] button").await?.click().await?;
    page.until("its portrait", "const i = document.querySelector('[data-testid=species-thrift] img'); return i.complete && i.naturalWidth > 50").await?;
    page.until(
        "its layer",
        "return document.querySelector('[data-testid=species-users]').textContent === 'Grown by Thrift'",
    )
    .await?;
    // More flowers are more triangles; undo takes them back.
    let before = triangles(&page).await?;
    page.type_number("plan-flowers", "60").await?;
    page.until("more triangles", &format!("{TRIANGLES} > {before}")).await?;
    page.until(
        "the mark of an edit",
        "return document.querySelector('[data-testid=species-thrift]').textContent.includes('edited')",
    )
    .await?;
    page.press("Nursery").await?;
    page.chord(&[control()], 'z').await?;
    page.until("as it was", &format!("{TRIANGLES} === {before}")).await?;
    // A number beyond its range is held at the end.
    page.type_number("plan-flowers", "9000").await?;
    page.until("the limit", "return document.querySelector('[data-testid=plan-flowers]').value === '300'")
        .await?;
    // A fork is a species of its own.
    page.find("[data-testid=fork]").await?.click().await?;
    page.until("the fork", "return !!document.querySelector('[data-testid=species-thrift-2]') && document.querySelector('[data-testid=species-users]').textContent === 'No layer grows it yet.'").await?;
    page.find("[data-testid=plant-species]").await?.click().await?;
    page.until("a layer of it", "return document.querySelector('[data-testid=sentence]')?.textContent.startsWith('Thrift cushions 2')").await?;
    assert!(page.placed(None).await? > 0.0);
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_year_goes_round_and_two_species_stand_side_by_side() -> Story {
    let page = Page::open().await?;
    page.press("Nursery").await?;
    page.find("[data-testid=nursery-search]").await?.send_keys("birch").await?;
    page.find("[data-testid=species-downy-birch] button").await?.click().await?;
    page.until("its triangles", &format!("{TRIANGLES} > 5000")).await?;
    let summer = triangles(&page).await?;
    page.find("[aria-label='Season of the scene'][role=slider]")
        .await?
        .send_keys(&String::from(char::from(Key::End)))
        .await?;
    page.until("bare branches", &format!("{TRIANGLES} < {}", summer / 2.0)).await?;
    page.until("the word for it", "return document.querySelector('[aria-label=\"Season of the scene\"][role=slider]').getAttribute('aria-valuetext') === 'Dead'").await?;
    page.ask("document.querySelector('[data-testid=species-downy-birch] [aria-label^=\"Set Downy birch beside\"]').click()").await?;
    page.until("the pair", "return document.querySelectorAll('[data-testid=beside] figure').length === 2")
        .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_community_is_foretold_dropped_taken_back_kept_and_read_from_a_file() -> Story {
    let page = Page::open().await?;
    page.press("Nursery").await?;
    page.press("Communities").await?;
    page.find("[data-testid=community-ready-4] button").await?.click().await?;
    page.until("the forecast", "return Number(document.querySelector('[data-testid=forecast-plants]')?.textContent.replace(/\\D/g, '')) > 100").await?;
    let layers = "return document.querySelectorAll('[data-testid^=layer-]').length";
    let before = page.ask(layers).await?.as_u64().unwrap_or_default();
    page.press("Drop it here").await?;
    page.until("five layers more", &format!("{layers} === {}", before + 5)).await?;
    // One step back takes all of them.
    page.saved().await?;
    page.press("Planting").await?;
    page.chord(&[control()], 'z').await?;
    page.until("as before", &format!("{layers} === {before}")).await?;
    // Its own.
    page.press("Nursery").await?;
    page.ask("[...document.querySelectorAll('label')].find(l => l.textContent === 'Gorse').querySelector('input').click()").await?;
    page.named("Name of the community").await?.send_keys("Keeper's gorse").await?;
    page.press("Keep").await?;
    let kept =
        "return [...document.querySelectorAll('[data-testid^=community-]')].some(c => c.textContent.includes";
    page.until("it on the shelf", &format!("{kept}(\"Keeper's gorse\"))")).await?;
    let file = scratch("community")?.join("bad.json");
    std::fs::write(&file, "{\"name\": \"Bad\", \"layers\": [{}]}")?;
    page.named("Community file").await?.send_keys(&file.to_string_lossy()).await?;
    page.until("the reason", "return document.body.textContent.includes('missing field')").await?;
    assert_eq!(page.ask(&format!("{kept}('Bad'))")).await?, serde_json::json!(false));
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mesh_file_is_looked_over_mended_pictured_taken_and_planted() -> Story {
    let page = Page::open().await?;
    page.press("Nursery").await?;
    let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../rookery-formats/tests/data/dwarf_willow.glb");
    let file = std::fs::canonicalize(file)?;
    page.find("[data-testid=species-file]").await?.send_keys(&file.to_string_lossy()).await?;
    page.until(
        "its picture",
        "const i = document.querySelector('[data-testid=import-picture]'); return !!i && i.complete && i.naturalWidth > 50",
    )
    .await?;
    page.until("its measures", "return document.querySelector('[data-testid=import-measured]').textContent.startsWith('1.4 m high, 1.2 m wide; one form, 36 triangles; a picture 64 × 64 with holes')").await?;
    // A finding with its fix.
    page.press("They are leaves").await?;
    page.until("nothing odd", "return !document.querySelector('[data-testid=import-findings]')").await?;
    page.type_number("import-height", "0.7").await?;
    page.until("the new height", "return document.querySelector('[data-testid=import-measured]').textContent.startsWith('70 cm high, 60 cm wide')").await?;
    page.until("all at rest", "return !document.querySelector('[data-testid=take-import]').disabled").await?;
    page.find("[data-testid=take-import]").await?.click().await?;
    page.until("the species", "return document.querySelector('[data-testid=species-details] td:nth-child(2)')?.textContent === '36'").await?;
    page.find("[data-testid=plant-species]").await?.click().await?;
    page.until(
        "a layer of it",
        "return document.querySelector('[data-testid=sentence]')?.textContent.startsWith('dwarf willow')",
    )
    .await?;
    assert!(page.placed(None).await? > 0.0);
    // What cannot be read is told, and nothing is changed.
    page.press("Nursery").await?;
    let bad = scratch("bad-mesh")?.join("bad.obj");
    std::fs::write(&bad, "v 0 0 0\nf 1 2 9\n")?;
    page.find("[data-testid=species-file]").await?.send_keys(&bad.to_string_lossy()).await?;
    page.until("the refusal", "return document.body.textContent.includes('nothing was changed') && document.body.textContent.includes('line 2')").await?;
    page.close().await
}
