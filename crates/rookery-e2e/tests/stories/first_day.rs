//! What an artist does on the first day.

use fantoccini::Locator;
use fantoccini::key::Key;
use rookery_e2e::{Done, Page, scratch};
use serde_json::json;

type Story = Done;

fn control() -> char {
    Key::Control.into()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_first_start_shows_the_planted_headland() -> Story {
    let page = Page::open().await?;
    assert_eq!(
        page.named("Name of the scene").await?.prop("value").await?.as_deref(),
        Some("Kittiwake Head")
    );
    assert!(page.placed(None).await? > 5_000.0);
    let sentence = page.find("[data-testid=sentence]").await?.text().await?;
    assert!(sentence.starts_with("Marram tufts"), "{sentence}");
    let stations = page.ask("return [...document.querySelectorAll('nav[aria-label=Stations] button')].map(b => b.textContent)").await?;
    assert_eq!(stations, json!(["Site", "Nursery", "Planting", "Motion", "Shots", "Handoff"]));
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_amount_is_changed_by_typing_by_dragging_and_in_the_sentence() -> Story {
    let page = Page::open().await?;
    let first = page.placed(None).await?;
    page.type_number("amount-per-m2", "1/2").await?;
    let typed = page.placed(Some(first)).await?;
    assert!((typed / first - 0.5 / 2.4).abs() < 0.01, "{first} became {typed}");
    page.drag("input[data-testid=amount-per-m2]", 60, 0).await?;
    page.placed(Some(typed)).await?;
    let dragged = page.placed_at_rest().await?;
    assert!(dragged > typed, "{typed} became {dragged}");
    page.saved().await?;
    // The whole drag is one step.
    page.press("Account").await?;
    page.chord(&[control()], 'z').await?;
    page.until(
        "the drag to be undone",
        &format!("return document.querySelector('[data-testid=placed]').dataset.placed === '{typed}'"),
    )
    .await?;
    // In the sentence, the value is a button with its own field.
    page.find("[data-setting-button=amount]").await?.click().await?;
    let field = "[data-radix-popper-content-wrapper] input[data-testid=amount-total]";
    page.find(field).await?.click().await?;
    page.find(field).await?.send_keys("1200").await?;
    page.find(field).await?.send_keys(&String::from(char::from(Key::Enter))).await?;
    page.until(
        "the total to be met",
        "return document.querySelector('[data-testid=placed]').dataset.placed === '1200'",
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_ground_is_read_with_a_legend_and_values_under_the_pointer() -> Story {
    let page = Page::open().await?;
    page.press("Site").await?;
    page.find("[data-testid=read-wetness]").await?.click().await?;
    page.until(
        "the legend",
        "const l = document.querySelector('[data-testid=legend]'); return !!l && l.textContent.startsWith('Wetness') && l.querySelectorAll('rect').length === 60",
    )
    .await?;
    page.until(
        "the plants to make room",
        "return document.querySelector('[data-testid=view]').dataset.plants === '0'",
    )
    .await?;
    page.drag("[data-testid=view] canvas", 3, 3).await?;
    page.until(
        "the value under the pointer",
        "return /wetness [0-9]/.test(document.querySelector('[data-testid=readout]').textContent)",
    )
    .await?;
    page.press("Take it off the ground").await?;
    page.until(
        "the plants again",
        "return Number(document.querySelector('[data-testid=view]').dataset.plants) > 0 && !document.querySelector('[data-testid=legend]')",
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_ground_is_sculpted_in_one_stroke_that_plants_follow_and_undo_takes_back() -> Story {
    let page = Page::open().await?;
    let first = page.placed(None).await?;
    page.press("Site").await?;
    page.press("Plan").await?;
    page.press("Raise").await?;
    page.type_number("sculpt-radius", "30").await?;
    page.type_number("sculpt-height", "60").await?;
    page.drag("[data-testid=view] canvas", 60, 40).await?;
    page.saved().await?;
    let strokes = "const s = [...document.querySelectorAll('h3')].find(h => h.textContent.startsWith('Sculpt')); return s.parentElement.textContent.includes('2 strokes')";
    page.until("the stroke to be counted", strokes).await?;
    let count = "[data-testid=count-1]";
    let after = page.number(count, "data-placed", Some(first)).await?;
    assert!(after < first, "marram does not grow on a hill of 60 m: {first} became {after}");
    page.chord(&[control()], 'z').await?;
    page.until(
        "the ground as it was",
        &format!("return document.querySelector('{count}').dataset.placed === '{first}'"),
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bed_is_drawn_on_the_plan_and_its_nodes_are_moved_put_in_and_taken_out() -> Story {
    let page = Page::open().await?;
    page.press("Site").await?;
    page.press("Plan").await?;
    page.find("[data-testid=draw-bed]").await?.click().await?;
    for (dx, dy) in [(60, -80), (160, -80), (160, 20), (60, 20)] {
        page.click_at("[data-testid=view] canvas", dx, dy).await?;
    }
    page.press("Done").await?;
    page.saved().await?;
    page.until("four handles", "return document.querySelectorAll('[data-testid^=node-]').length === 4")
        .await?;
    let area = |at: &str| {
        format!(
            "return Number([...document.querySelectorAll('section[aria-label=Outlines] li')].at(-1).textContent.match(/([0-9]+) m²/)[1]) {at}"
        )
    };
    page.until("its area in sight", &area("> 1000")).await?;
    page.drag("[data-testid=node-2]", 60, 60).await?;
    page.saved().await?;
    page.drag("[data-testid=middle-0]", 0, -40).await?;
    page.until("a node more", "return document.querySelectorAll('[data-testid^=node-]').length === 5")
        .await?;
    page.ask("document.querySelector('[data-testid=node-1]').focus()").await?;
    page.chord(&[], Key::Delete.into()).await?;
    page.until("a node less", "return document.querySelectorAll('[data-testid^=node-]').length === 4")
        .await?;
    // Sand is laid in it, which comes into the view.
    let laid = "performance.getEntriesByType('resource').filter((e) => e.name.endsWith('/soils')).length";
    let before = page.ask(&format!("return {laid}")).await?.as_u64().unwrap_or_default();
    let its = "//label[.='Its ground']/following-sibling::select";
    let ground = page.client().find(Locator::XPath(its)).await?;
    assert_eq!(ground.prop("value").await?.as_deref(), Some("As around it"));
    ground.select_by_label("Sand").await?;
    page.saved().await?;
    page.until("the sand", &format!("return {laid} > {before}")).await?;
    for _ in 0..5 {
        page.chord(&[control()], 'z').await?;
        page.saved().await?;
    }
    page.until(
        "no bed any more",
        "return document.querySelectorAll('section[aria-label=Outlines] li').length === 4",
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_cottage_is_set_up_and_measured_and_hidden() -> Story {
    let page = Page::open().await?;
    page.press("Site").await?;
    page.press("Plan").await?;
    page.find("[data-testid=add-obstacle]").await?.click().await?;
    page.choose("Cottage").await?;
    page.click_at("[data-testid=view] canvas", 120, -120).await?;
    page.until("its fields", "return !!document.querySelector('[data-testid=obstacle-eaves_m]')").await?;
    page.type_number("obstacle-eaves_m", "3").await?;
    page.type_number("obstacle-turn", "90").await?;
    page.saved().await?;
    page.press("Hide Cottage").await?;
    page.named("Show Cottage").await?;
    page.type_number("obstacle-roof_deg", "45").await?;
    page.saved().await?;
    page.until(
        "the new roof",
        "return document.querySelector('input[data-testid=obstacle-roof_deg]').value === '45'",
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn outlines_are_brought_from_a_drawing_and_a_bad_file_changes_nothing() -> Story {
    let page = Page::open().await?;
    page.press("Site").await?;
    let dir = scratch("outlines")?;
    let drawing = dir.join("beds.svg");
    std::fs::write(
        &drawing,
        r#"<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><rect id="Lawn" x="20" y="30" width="30" height="20"/></svg>"#,
    )?;
    page.find("[data-testid=outline-file]").await?.send_keys(&drawing.to_string_lossy()).await?;
    let names = "[...document.querySelectorAll('section[aria-label=Outlines] li input')].map(i => i.value)";
    page.until("the lawn", &format!("return {names}.at(-1) === 'Lawn'")).await?;
    let broken = dir.join("broken.svg");
    std::fs::write(&broken, "<svg")?;
    page.find("[data-testid=outline-file]").await?.send_keys(&broken.to_string_lossy()).await?;
    page.until("the reason", "return (document.querySelector('[data-testid=outline-problem]')?.textContent ?? '').includes('cannot be read')").await?;
    page.until("nothing to have changed", &format!("return {names}.length === 5")).await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_section_is_drawn_across_the_plan() -> Story {
    let page = Page::open().await?;
    page.press("Section").await?;
    page.until("the first section", "return (document.querySelector('[data-testid=section-words]')?.textContent ?? '').startsWith('240 m long')").await?;
    page.press("Plan").await?;
    page.press("Draw the line").await?;
    page.click_at("[data-testid=view] canvas", 20, -40).await?;
    page.click_at("[data-testid=view] canvas", 120, 10).await?;
    page.until("another section", "const t = document.querySelector('[data-testid=section-words]').textContent; return /^[0-9.]+ m long; [0-9]/.test(t) && !t.startsWith('240')").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mesh_file_is_looked_over_and_placed_by_a_click() -> Story {
    let page = Page::open().await?;
    page.press("Site").await?;
    page.press("Plan").await?;
    let dir = scratch("mesh")?;
    let flat = dir.join("tent.obj");
    std::fs::write(
        &flat,
        "o Tent\nv -100 0 -100\nv 100 0 -100\nv 100 0 100\nv -100 0 100\nv 0 150 0\nf 1 2 5\nf 2 3 5\nf 3 4 5\nf 4 1 5\n",
    )?;
    page.find("[data-testid=mesh-file]").await?.send_keys(&flat.to_string_lossy()).await?;
    page.until("what is odd about it", "return (document.querySelector('[data-testid=mesh-read]')?.textContent ?? '').includes('4 edges have a face on one side only')").await?;
    page.press("cm").await?;
    page.until(
        "its size",
        "return document.querySelector('[data-testid=mesh-read]').textContent.includes('2 × 1.5 × 2 m')",
    )
    .await?;
    page.find("[data-testid=place-mesh]").await?.click().await?;
    page.click_at("[data-testid=view] canvas", 90, -60).await?;
    page.saved().await?;
    page.until("the tent in the list", "return [...document.querySelectorAll('section[aria-label=Obstacles] li input')].some(i => i.value === 'tent')").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn another_scene_is_begun_and_the_first_is_opened_again() -> Story {
    let page = Page::open().await?;
    page.press("Scenes").await?;
    page.choose("Tarn Moraine").await?;
    page.until("the other scene", "return document.querySelector('[aria-label=\"Name of the scene\"]')?.value === 'Tarn Moraine' && Number(document.querySelector('[data-testid=view]')?.dataset.plants) > 0").await?;
    page.press("Scenes").await?;
    page.until("both in the list", "return [...document.querySelectorAll('[role=menuitem]')].length >= 5")
        .await?;
    page.ask("[...document.querySelectorAll('[role=menuitem]')].at(-1).click()").await?;
    page.until(
        "the first scene",
        "return document.querySelector('[aria-label=\"Name of the scene\"]')?.value === 'Kittiwake Head'",
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_response_curve_is_dragged_over_the_histogram() -> Story {
    let page = Page::open().await?;
    let first = page.placed(None).await?;
    let share = "return document.querySelector('[data-testid=mask-slope] [data-testid=share]').textContent";
    let before = page.ask(share).await?;
    page.drag("[data-testid=mask-slope] [data-testid=end-full_to]", -40, 0).await?;
    page.placed(Some(first)).await?;
    let after = page.placed_at_rest().await?;
    assert!(after < first, "{first} became {after}");
    assert_ne!(page.ask(share).await?, before);
    // By keyboard too.
    let settled = page.placed_at_rest().await?;
    page.ask("document.querySelector('[data-testid=mask-slope] [data-testid=end-full_to]').focus()").await?;
    page.chord(&[], Key::Right.into()).await?;
    assert!(page.placed(Some(settled)).await? > settled);
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn undo_works_after_a_reload_and_after_the_server_was_killed() -> Story {
    let mut page = Page::open().await?;
    let first = page.placed(None).await?;
    page.type_number("amount-per-m2", "1").await?;
    let second = page.placed(Some(first)).await?;
    page.saved().await?;
    page.server = page.server.kill_and_start_again().await?;
    page.load().await?;
    assert_eq!(page.placed(None).await?, second);
    page.ask("document.activeElement.blur()").await?;
    page.chord(&[control()], 'z').await?;
    assert_eq!(page.placed(Some(second)).await?, first);
    page.chord(&[control()], 'y').await?;
    assert_eq!(page.placed(Some(first)).await?, second);
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn layers_are_added_duplicated_renamed_hidden_locked_and_deleted() -> Story {
    let page = Page::open().await?;
    let wait = async |expected: &[&str]| {
        let script = format!(
            "return [...document.querySelectorAll('[data-testid^=layer-]')].map(l => l.querySelector('span.truncate')?.textContent).filter(n => /arram|Boulders/.test(n)).join() === {}",
            json!(expected.join(","))
        );
        page.until(&format!("layers {expected:?}"), &script).await
    };
    page.press("Add layer").await?;
    page.find("[data-testid=pick-boulder]").await?.click().await?;
    wait(&["Marram", "Boulders 2", "Boulders"]).await?;
    page.press("More for Marram").await?;
    page.choose("Duplicate").await?;
    wait(&["Marram", "Marram 2", "Boulders 2", "Boulders"]).await?;
    page.press("More for Marram 2").await?;
    page.choose("Rename").await?;
    let field = page.named("Name of the layer").await?;
    field.send_keys("Tall marram").await?;
    field.send_keys(&String::from(char::from(Key::Enter))).await?;
    wait(&["Marram", "Tall marram", "Boulders 2", "Boulders"]).await?;
    page.press("More for Tall marram").await?;
    page.choose("Move up").await?;
    wait(&["Tall marram", "Marram", "Boulders 2", "Boulders"]).await?;
    page.press("Hide Tall marram").await?;
    page.named("Show Tall marram").await?;
    page.ask("document.querySelector('[aria-label=\"Lock Marram\"]').click()").await?;
    page.named("Unlock Marram").await?;
    page.press("More for Boulders 2").await?;
    page.choose("Delete").await?;
    wait(&["Tall marram", "Marram", "Boulders"]).await?;
    page.saved().await?;
    page.load().await?;
    wait(&["Tall marram", "Marram", "Boulders"]).await?;
    page.named("Unlock Marram").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_still_is_taken_and_two_are_set_side_by_side() -> Story {
    let page = Page::open().await?;
    page.chord(&[], '5').await?;
    for (field, text) in [("still-width", "96"), ("still-height", "54"), ("still-samples", "1")] {
        page.type_number(field, text).await?;
        page.saved().await?;
    }
    let done = |n: usize| {
        format!("return document.querySelectorAll('[data-testid=still][data-state=done] img').length === {n}")
    };
    page.find("[data-testid=take-still]").await?.click().await?;
    page.until("the first still", &done(1)).await?;
    page.type_number("sun-height", "12").await?;
    page.saved().await?;
    page.find("[data-testid=take-still]").await?.click().await?;
    page.until("the second still", &done(2)).await?;
    for i in 0..2 {
        page.ask(&format!("document.querySelectorAll('[data-testid=still] [aria-label=\"Set beside another\"]')[{i}].click()")).await?;
    }
    page.until(
        "two pictures",
        "return document.querySelectorAll('[data-testid=compare] figure img').length === 2",
    )
    .await?;
    let listed = page.find("[data-testid=differences]").await?.text().await?;
    assert!(listed.contains("sun elevation, °") && listed.contains("12"), "{listed}");
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_glb_and_a_plant_table_are_downloaded() -> Story {
    let page = Page::open().await?;
    page.type_number("amount-total", "200").await?;
    page.until(
        "the total to be met",
        "return document.querySelector('[data-testid=placed]').dataset.placed === '200'",
    )
    .await?;
    page.ask("document.activeElement.blur()").await?;
    page.chord(&[], '6').await?;
    page.press("Download GLB").await?;
    assert_eq!(&page.downloaded("glb").await?[..4], b"glTF");
    page.press("Download CSV").await?;
    let table = String::from_utf8(page.downloaded("csv").await?)?;
    assert_eq!(table.lines().filter(|l| l.starts_with("Marram,")).count(), 200);
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_heightmap_becomes_the_ground_and_a_bad_one_changes_nothing() -> Story {
    let page = Page::open().await?;
    let dir = scratch("maps")?;
    let rows: Vec<String> = (0..40)
        .map(|r| (0..50).map(|c| format!("{}", 5 + (r * c) % 17)).collect::<Vec<_>>().join(" "))
        .collect();
    let good = dir.join("ridge.asc");
    std::fs::write(&good, format!("ncols 50\nnrows 40\ncellsize 3\n{}\n", rows.join("\n")))?;
    let bad = dir.join("torn.asc");
    std::fs::write(&bad, format!("ncols 50\nnrows 41\ncellsize 3\n{}\n", rows.join("\n")))?;

    page.chord(&[], '1').await?;
    page.press("From a file").await?;
    let input = page.find("[data-testid=heightmap-file]").await?;
    input.send_keys(&bad.display().to_string()).await?;
    let problem = page.find("[data-testid=heightmap-problem]").await?.text().await?;
    assert!(problem.contains("the ground is as it was"), "{problem}");
    assert!(problem.contains("the head states 50 x 41 = 2050 heights, the file has 2000"), "{problem}");

    input.send_keys(&good.display().to_string()).await?;
    let read = page.find("[data-testid=heightmap-read]").await?.text().await?;
    assert!(read.contains("50 × 40 heights, metres from 5 to 21"), "{read}");
    page.find("[data-testid=use-heightmap]").await?.click().await?;
    page.until("the new ground", "return document.querySelector('[data-testid=sheet-site] header p').textContent.startsWith('147 × 117 m')").await?;
    page.chord(&[control()], 'z').await?;
    page.until("the old ground", "return document.querySelector('[data-testid=sheet-site] header p').textContent.startsWith('240 × 240 m')").await?;
    // Ground from noise follows its settings.
    page.type_number("noise-size_m", "120").await?;
    page.until("a smaller ground", "return document.querySelector('[data-testid=sheet-site] header p').textContent.startsWith('120 × 120 m')").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_setting_out_of_range_is_held_and_marked() -> Story {
    let page = Page::open().await?;
    page.type_number("tilt", "many").await?;
    page.until(
        "the field to be marked",
        "return document.querySelector('[data-testid=tilt]').getAttribute('aria-invalid') === 'true'",
    )
    .await?;
    // Held to what fits grass, and to half a turn once it may go beyond.
    page.type_number("tilt", "500").await?;
    page.until(
        "the sentence to say 50",
        "return document.querySelector('[data-testid=sentence]').textContent.includes('tilted up to 50°')",
    )
    .await?;
    page.press("More than its kind can take").await?;
    page.saved().await?;
    page.type_number("tilt", "500").await?;
    page.until(
        "the sentence to say 180",
        "return document.querySelector('[data-testid=sentence]').textContent.includes('tilted up to 180°')",
    )
    .await?;
    page.close().await
}

/// axe-core on every station, both themes: no violation it calls serious or critical.
#[tokio::test(flavor = "multi_thread")]
async fn no_screen_has_a_serious_accessibility_violation() -> Story {
    let page = Page::open().await?;
    let axe = std::fs::read_to_string(concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/../../web/node_modules/axe-core/axe.min.js"
    ))?;
    let check = format!(
        "{axe}; const done = arguments[arguments.length - 1]; axe.run(document, {{resultTypes: ['violations']}}).then(r => done(r.violations.filter(v => ['serious', 'critical'].includes(v.impact)).map(v => v.id + ': ' + v.nodes.map(n => n.target.join(' ') + ' ' + n.failureSummary).join(' | '))))"
    );
    page.press("Notes").await?;
    for theme in ["Dusk: for dim rooms", "Chalk: for daylight"] {
        for station in ['1', '2', '3', '4', '5'] {
            page.chord(&[], station).await?;
            let found = page.client().execute_async(&check, vec![]).await?;
            assert_eq!(found, json!([]), "station {station}, before {theme}");
        }
        page.chord(&[control()], 'k').await?;
        let found = page.client().execute_async(&check, vec![]).await?;
        assert_eq!(found, json!([]), "command search, before {theme}");
        page.chord(&[], Key::Escape.into()).await?;
        page.press(theme).await?;
        // Colours take a moment to change over.
        tokio::time::sleep(std::time::Duration::from_millis(600)).await;
    }
    page.close().await
}
