//! An artist's own pictures for an earth.

use crate::sky_and_sea::picture_after;
use fantoccini::key::Key;
use rookery_e2e::likeness::Picture;
use rookery_e2e::{Done, Page, scratch};

/// A picture file of 64 x 64 pixels.
fn file(path: &std::path::Path, of: impl Fn(usize, usize) -> [u8; 3]) -> Done<String> {
    let rgb = (0..64 * 64).map(|i| of(i % 64, i / 64)).collect();
    std::fs::write(path, Picture { width: 64, height: 64, rgb }.to_png()?)?;
    Ok(path.to_string_lossy().into_owned())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_earth_is_shown_in_pictures_that_were_brought_and_in_its_own_again() -> Done {
    let page = Page::open().await?;
    let dir = scratch("earths")?;
    let colour =
        file(&dir.join("clay_colour.png"), |x, _| if x % 16 < 8 { [230, 60, 30] } else { [200, 40, 20] })?;
    let height = file(&dir.join("clay_height.png"), |x, _| [(x % 16 * 16) as u8; 3])?;
    page.ask("[...document.querySelectorAll('nav[aria-label=Stations] button')].find((b) => b.textContent === 'Site').click()").await?;
    let (usual, nth) = picture_after(&page, "").await?;
    page.find("[data-testid=bring-turf]").await?.send_keys(&format!("{colour}\n{height}")).await?;
    page.until(
        "the set",
        "return document.querySelector('[data-testid=worn-turf]')?.textContent.includes('Turf in clay')",
    )
    .await?;
    page.saved().await?;
    let (red, nth) = picture_after(&page, &nth).await?;
    let ratio = |p: &Picture| {
        let [r, g, _] = p.mean();
        r / g
    };
    assert!(ratio(&red) > 1.12 * ratio(&usual), "redder: {} and {}", ratio(&red), ratio(&usual));
    // Nothing grows otherwise by it, and its size is a number like others.
    page.type_number("size-of-turf", "0.5").await?;
    page.saved().await?;
    page.until(
        "the size",
        "return Number(document.querySelector('[data-testid=size-of-turf]').value) === 0.5",
    )
    .await?;
    // What cannot be read is told.
    std::fs::write(dir.join("torn.png"), b"\x89PNG\r\n")?;
    page.find("[data-testid=roughness-of-turf]")
        .await?
        .send_keys(&dir.join("torn.png").to_string_lossy())
        .await?;
    page.until("the refusal", "return document.body.textContent.includes('torn.png')").await?;
    for _ in 0..2 {
        page.chord(&[Key::Control.into()], 'z').await?;
        page.saved().await?;
    }
    page.until("its own look", "return !document.querySelector('[data-testid=worn-turf]')").await?;
    let (again, _) = picture_after(&page, &nth).await?;
    assert!(
        (ratio(&again) / ratio(&usual) - 1.0).abs() < 0.03,
        "undone: {} and {}",
        ratio(&again),
        ratio(&usual)
    );
    page.close().await
}
