//! What an artist does to say how much grows and where.

use fantoccini::key::Key;
use rookery_e2e::{Done, Page};

type Story = Done;

fn control() -> char {
    Key::Control.into()
}

/// The value of a number field.
async fn field(page: &Page, id: &str) -> Done<f64> {
    let script = format!("return parseFloat(document.querySelector('input[data-testid={id}]').value)");
    Ok(page.ask(&script).await?.as_f64().unwrap_or(f64::NAN))
}

#[tokio::test(flavor = "multi_thread")]
async fn the_brush_says_where_plants_grow_and_each_stroke_is_one_step() -> Story {
    let page = Page::open().await?;
    page.press("Plan").await?;
    let first = page.placed(None).await?;
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-painted-mask]").await?.click().await?;
    // Nothing is painted yet, so nothing grows.
    page.until("no plants", "return document.querySelector('[data-testid=placed]').dataset.placed === '0'")
        .await?;
    page.type_number("paint-radius", "60").await?;
    page.drag("[data-testid=view]", 140, 60).await?;
    let painted = page.placed(Some(0.0)).await?;
    let painted = page.placed_at_rest().await.unwrap_or(painted);
    assert!(painted > 0.0 && painted < first, "{first} became {painted}");
    page.until(
        "one stroke",
        "return document.querySelector('[data-testid=paint-strokes]').textContent === '1 stroke.'",
    )
    .await?;
    page.saved().await?;
    // Shift erases.
    page.press("Erase").await?;
    page.drag("[data-testid=view]", 140, 60).await?;
    let erased = page.placed(Some(painted)).await?;
    assert!(erased < painted, "{painted} became {erased}");
    page.placed_at_rest().await?;
    page.saved().await?;
    page.press("Account").await?;
    page.chord(&[control()], 'z').await?;
    page.until(
        "the stroke to be taken back",
        &format!("return document.querySelector('[data-testid=placed]').dataset.placed === '{painted}'"),
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn cover_is_held_when_plants_shrink_and_masks_come_together_as_they_say() -> Story {
    let page = Page::open().await?;
    let first = page.placed(None).await?;
    page.type_number("amount-cover", "30").await?;
    let covered = page.placed(Some(first)).await?;
    let spacing = field(&page, "amount-spacing").await?;
    assert!(spacing > 0.05 && spacing < 5.0, "{spacing}");
    // Smaller plants: more of them for the same cover.
    page.type_number("size-min", "0.3").await?;
    let more = page.placed(Some(covered)).await?;
    assert!(more > covered, "{covered} became {more}");
    assert_eq!(field(&page, "amount-cover").await?, 30.0);
    // A noise lets half of it through; less than that where nothing else does.
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-noise-mask]").await?.click().await?;
    let patchy = page.placed(Some(more)).await?;
    assert!(patchy < more * 0.9, "{more} became {patchy}");
    page.until(
        "its histogram",
        "return !!document.querySelector('[data-testid=mask-noise] [data-testid=curve]')",
    )
    .await?;
    page.until(
        "its picture and what is let through",
        "const reds = [...document.querySelectorAll('[data-testid=noise-picture] canvas')].map((c) => {
             const { data } = c.getContext('2d').getImageData(0, 0, c.width, c.height);
             return new Set(data.filter((_, i) => i % 4 === 0)).size;
         });
         return reds.length === 2 && reds.every((n) => n > 20)",
    )
    .await?;
    page.type_number("mask-noise-strength", "0").await?;
    let all = page.placed(Some(patchy)).await?;
    assert_eq!(all, more, "without strength it plays no part");
    // A day of midsummer leaves most of it in the sun; in December no place has eight hours of it.
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-sun_hours-mask]").await?.click().await?;
    sentence_says(&page, "hours of sun or more on 21 June").await?;
    assert!(page.placed_at_rest().await? > all * 0.8);
    page.ask("const s = document.querySelector('[data-testid=mask-sun_hours] select'); s.value = 'December'; s.dispatchEvent(new Event('change', { bubbles: true }))").await?;
    sentence_says(&page, "on 21 December").await?;
    assert_eq!(page.placed_at_rest().await?, 0.0, "the day is seven hours long");
    page.saved().await?;
    page.chord(&[control()], 'z').await?;
    sentence_says(&page, "on 21 June").await?;
    // Low above the water, and not far uphill of the footpath: two that are added in one press each.
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-water_height-mask]").await?.click().await?;
    sentence_says(&page, "above the nearest water").await?;
    let low = page.placed_at_rest().await?;
    assert!(low > 0.0 && low < all, "{low} of {all}");
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-downhill-mask]").await?.click().await?;
    sentence_says(&page, "uphill of a track").await?;
    assert!(page.placed_at_rest().await? < low);
    page.saved().await?;
    page.chord(&[control()], 'z').await?;
    page.chord(&[control()], 'z').await?;
    sentence_says(&page, "on 21 June").await?;
    // A distance keeps plants off another layer; one that waits for it in turn is refused by name.
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-distance-mask]").await?.click().await?;
    page.until("the card", "return !!document.querySelector('[data-testid=mask-near]')").await?;
    page.ask("const s = document.querySelector('[data-testid=mask-near]'); s.value = 'layer:7'; s.dispatchEvent(new Event('change', { bubbles: true }))").await?;
    page.until(
        "the sentence to say so",
        "return document.querySelector('[data-testid=sentence]').textContent.includes('from Gorse')",
    )
    .await?;
    page.close().await
}

/// The sentence of the chosen layer.
async fn sentence_says(page: &Page, what: &str) -> Done {
    let script =
        format!("return document.querySelector('[data-testid=sentence]').textContent.includes({what:?})");
    page.until(&format!("the sentence to say {what}"), &script).await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mix_grows_by_its_shares_by_a_map_and_in_rows() -> Story {
    let page = Page::open().await?;
    page.placed(None).await?;
    // Another species is as wide as it is; here none keeps clear of anything, so that all that count are the shares.
    for of in ["own", "others", "obstacles"] {
        page.find(&format!("[data-testid=keep-{of}] button")).await?.click().await?;
        page.saved().await?;
    }
    let first = page.placed_at_rest().await?;
    page.find("[data-testid=add-species]").await?.click().await?;
    page.find("[data-testid=pick-fescue]").await?.click().await?;
    sentence_says(&page, "A mix of Marram tufts (50 %) and ").await?;
    page.type_number("share-marram", "80").await?;
    sentence_says(&page, "Marram tufts (80 %)").await?;
    page.saved().await?;
    assert_eq!(page.placed_at_rest().await?, first, "no plant comes or goes with the shares");
    // A noise says which grows where, and lets every plant stand.
    page.find("[data-testid=add-mask]").await?.click().await?;
    page.find("[data-testid=add-noise-mask]").await?.click().await?;
    let thinned = page.placed(Some(first)).await?;
    assert!(thinned < first);
    page.ask("[...document.querySelectorAll('[data-testid=mask-noise] button')].find(b => b.textContent === 'Mix').click()").await?;
    let mapped = page.placed(Some(thinned)).await?;
    assert_eq!(mapped, first);
    sentence_says(&page, "Which of them grows goes with noise").await?;
    // Rows have so many places and no more.
    page.press("Rows").await?;
    sentence_says(&page, "in rows 1 m apart, 0.5 m along them").await?;
    page.type_number("rows-between_m", "4").await?;
    let rows = page.placed(Some(mapped)).await?;
    let rows = page.placed_at_rest().await.unwrap_or(rows);
    assert!(rows < mapped * 0.4, "{mapped} became {rows}");
    page.until("how many places there are", "return !!document.querySelector('[data-testid=room]')").await?;
    page.saved().await?;
    page.chord(&[control()], 'z').await?;
    sentence_says(&page, "in rows 1 m apart").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn layers_share_settings_are_kept_as_they_were_and_what_is_measured_is_shown() -> Story {
    let page = Page::open().await?;
    page.placed(None).await?;
    // Kept as A, tried as B, and switched.
    page.press("Set aside as A").await?;
    page.type_number("tilt", "14").await?;
    sentence_says(&page, "tilted up to 14").await?;
    page.until(
        "what differs",
        "return document.querySelector('[data-testid=kept]').textContent.includes('stance, tilt')",
    )
    .await?;
    page.press("Switch").await?;
    sentence_says(&page, "tilted up to 6").await?;
    page.press("Switch").await?;
    sentence_says(&page, "tilted up to 14").await?;
    // Gorse takes over how it stands, and goes along from then on.
    page.press("Share settings").await?;
    page.until("the layers to choose", "const b = [...document.querySelectorAll('label')].find(l => l.textContent === 'Gorse'); if (b) b.click(); return !!b").await?;
    page.press("Share them").await?;
    page.until(
        "the link",
        "return document.querySelector('[data-testid=shares]').textContent.includes('shared with Gorse')",
    )
    .await?;
    page.type_number("tilt", "9").await?;
    page.saved().await?;
    page.find("[data-testid=layer-7] button").await?.click().await?;
    sentence_says(&page, "tilted up to 9").await?;
    page.press("Part").await?;
    page.until(
        "no link",
        "return !document.querySelector('[data-testid=shares]').textContent.includes('shared with')",
    )
    .await?;
    // What was measured, with pins where it is: the demo passes its notes, so something is raised off the ground first.
    page.type_number("sink", "-30").await?;
    page.saved().await?;
    page.press("Notes").await?;
    page.until("a remark with places", "const b = [...document.querySelectorAll('[data-testid=notes] button')].find(b => b.textContent.includes('Show ')); if (b) b.click(); return !!b").await?;
    page.until("pins", "return !!document.querySelector('[data-testid=pins]')").await?;
    page.until("every layer to be measured", "return document.querySelectorAll('[data-testid=measured] tbody tr').length > 5 && !document.querySelector('[data-testid=measured]').textContent.includes('…')").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_ceiling_of_the_scene_cuts_the_lower_layers_and_arrangements_are_kept() -> Story {
    let page = Page::open().await?;
    page.press("Fescue turf").await?;
    let all = page.placed_at_rest().await?;
    page.find("[data-testid=budget]").await?.click().await?;
    page.find("[data-testid=budget-card] [role=switch]").await?.click().await?;
    page.type_number("scene-cap", "30000").await?;
    let cut = page.placed(Some(all)).await?;
    assert!(cut < all && cut > 1000.0, "{all} became {cut}");
    page.until(
        "the turf to be named with what it lacks",
        &format!(
            "const line = document.querySelector('[data-testid=cut-by-scene]')?.textContent ?? '';
             return line.includes('Fescue turf: left out') && line.replace(/\\s/g, '').includes('{}')",
            all - cut
        ),
    )
    .await?;
    page.saved().await?;
    page.find("[data-testid=budget-card] [role=switch]").await?.click().await?;
    assert_eq!(page.placed(Some(cut)).await?, all);
    // An arrangement is kept, another one looked at, and the first taken up again.
    page.press("Marram").await?;
    let own = page.placed_at_rest().await?;
    let seed = field(&page, "seed").await?;
    page.find("[data-testid=keep-seed]").await?.click().await?;
    page.find(&format!("[data-testid=kept-seed-{seed}]")).await?;
    page.type_number("seed", "4711").await?;
    page.placed(Some(own)).await?;
    page.find(&format!("[data-testid=kept-seed-{seed}]")).await?.click().await?;
    page.saved().await?;
    assert_eq!((field(&page, "seed").await?, page.placed_at_rest().await?), (seed, own));
    page.close().await
}
