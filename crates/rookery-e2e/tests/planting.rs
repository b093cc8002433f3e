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
    page.type_number("mask-noise-strength", "0").await?;
    let all = page.placed(Some(patchy)).await?;
    assert_eq!(all, more, "without strength it plays no part");
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
