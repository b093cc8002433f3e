//! Clouds by one slider, waves by the wind.

use fantoccini::key::Key;
use rookery_e2e::likeness::Picture;
use rookery_e2e::{Done, Page};

type Story = Done;

/// The picture of the view, once one is drawn that is not the one of this number.
pub async fn picture_after(page: &Page, frame: &str) -> Done<(Picture, String)> {
    let drawn = format!(
        "const v = document.querySelector('[data-testid=view]').dataset; return v.settled === 'true' && v.frame !== '{frame}' && Number(v.plants) > 0"
    );
    page.until("another picture", &drawn).await?;
    // What else is on its way comes in.
    tokio::time::sleep(std::time::Duration::from_millis(2500)).await;
    page.until("the picture at rest", &drawn).await?;
    let png = page.find("[data-testid=view] > canvas").await?.screenshot().await?;
    let number = page.ask("return document.querySelector('[data-testid=view]').dataset.frame").await?;
    Ok((Picture::from_png(&png)?, number.as_str().unwrap_or_default().to_owned()))
}

#[tokio::test(flavor = "multi_thread")]
async fn clouds_cover_the_sky_and_shade_the_land_and_wind_makes_waves() -> Story {
    let page = Page::open().await?;
    page.chord(&[], '5').await?;
    page.type_number("clouds", "0").await?;
    page.saved().await?;
    let (clear, nth) = picture_after(&page, "").await?;
    page.type_number("clouds", "100").await?;
    page.saved().await?;
    let (clouded, nth) = picture_after(&page, &nth).await?;
    let ([r, g, b], [cr, cg, cb]) = (clear.mean(), clouded.mean());
    assert!(
        cb / cr < 0.97 * b / r,
        "less blue under clouds: {clouded:?} {clear:?}",
        clouded = [cr, cg, cb],
        clear = [r, g, b]
    );
    assert!((cg - g).abs() > 0.01, "{cg} and {g}: the land lies in shadow");
    page.chord(&[Key::Control.into()], 'z').await?;
    page.saved().await?;
    let (again, _) = picture_after(&page, &nth).await?;
    let [ar, _, ab] = again.mean();
    assert!((ab / ar - b / r).abs() < 0.02, "undone, the sky is clear: {} and {}", ab / ar, b / r);
    // Another wind, other waves.
    let asked = "performance.getEntriesByType('resource').filter((e) => e.name.endsWith('/waves')).length";
    let before = page.ask(&format!("return {asked}")).await?.as_u64().unwrap_or_default();
    assert!(before > 0, "the sea of the demo has waves");
    page.ask("[...document.querySelectorAll('nav[aria-label=Stations] button')].find((b) => b.textContent === 'Motion').click()").await?;
    page.type_number("wind-speed", "16").await?;
    page.saved().await?;
    page.until("the waves of that wind", &format!("return {asked} > {before}")).await?;
    page.close().await
}
