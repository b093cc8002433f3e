//! What a newcomer does in the first hour beside planting itself: gathers species, groups and copies layers, folds what is in the way, and
//! looks at the frame of a shot and at a still as it comes.

use fantoccini::key::Key;
use rookery_e2e::{Done, Page};

async fn rows(page: &Page, count: usize, when: &str) -> Done {
    let script = format!("return document.querySelectorAll('[data-row]').length === {count}");
    page.until(&format!("{count} layers in the profile {when}"), &script).await
}

#[tokio::test(flavor = "multi_thread")]
async fn species_are_gathered_grouped_and_copied_and_what_is_in_the_way_folds() -> Done {
    let page = Page::open().await?;
    page.press("Planting").await?;
    let before =
        page.ask("return document.querySelectorAll('[data-row]').length").await?.as_u64().unwrap_or(0)
            as usize;
    page.press("Add layer").await?;
    for species in ["harebell", "ragwort"] {
        let css = format!("[data-testid=pick-{species}]");
        page.find(&css).await?;
        page.ask(&format!(
            "document.querySelector('{css}').dispatchEvent(new MouseEvent('click', {{ bubbles: true, ctrlKey: true }}))"
        ))
        .await?;
    }
    page.press("As layers").await?;
    rows(&page, before + 2, "when two were gathered").await?;
    page.saved().await?;

    // Both go into a group, which hides them at once and folds them away.
    page.until(
        "the new layer's menu",
        "const b = document.querySelector('[aria-label^=\"More for Hare\"]'); b?.focus(); return !!b",
    )
    .await?;
    page.chord(&[], Key::Enter.into()).await?;
    page.choose("A new one").await?;
    page.find("[data-testid=group-Group]").await?;
    page.saved().await?;
    page.until(
        "the other's menu",
        "const b = document.querySelector('[aria-label^=\"More for Rag\"]'); b?.focus(); return !!b",
    )
    .await?;
    page.chord(&[], Key::Enter.into()).await?;
    page.choose("Group").await?;
    page.until(
        "two in the group",
        "return document.querySelector('[data-testid=group-Group]').textContent.includes('2')",
    )
    .await?;
    page.press("Hide all of Group").await?;
    page.until("a way to show them", "return !!document.querySelector('[aria-label=\"Show all of Group\"]')")
        .await?;
    page.saved().await?;
    page.press("Fold Group").await?;
    rows(&page, before, "when the group is folded").await?;
    page.press("Unfold Group").await?;
    rows(&page, before + 2, "when it is unfolded").await?;

    // A layer is copied with the keys of every program, and stands beside itself.
    page.until("the row", "const b = [...document.querySelectorAll('[data-row]')].find(b => b.textContent.includes('Ragwort')); b?.click(); b?.focus(); return !!b").await?;
    let copied = "const text = new DataTransfer(); \
        document.activeElement.dispatchEvent(new ClipboardEvent('copy', { bubbles: true, clipboardData: text })); \
        document.activeElement.dispatchEvent(new ClipboardEvent('paste', { bubbles: true, clipboardData: text })); \
        return text.getData('text/plain').includes('ragwort')";
    assert_eq!(page.ask(copied).await?, true);
    rows(&page, before + 3, "when one was pasted").await?;
    page.saved().await?;

    page.press("Fold the sheet").await?;
    page.find("[data-testid=sheet-rail]").await?;
    page.press("Fold the profile").await?;
    page.until("the profile away", "return document.querySelectorAll('[data-row]').length === 0").await?;
    page.press("Open the sheet").await?;
    page.press("Open the profile").await?;
    rows(&page, before + 3, "when the profile is open again").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_frame_of_a_shot_is_the_shape_of_its_still_which_shows_as_it_comes() -> Done {
    let page = Page::open().await?;
    page.press("Shots").await?;
    let frame = "const f = document.querySelector('[data-testid=shot-frame] > div').getBoundingClientRect(); return f.width / f.height";
    page.until("the frame", "return !!document.querySelector('[data-testid=shot-frame]')").await?;
    let wide = page.ask(frame).await?.as_f64().unwrap_or(0.0);
    assert!((wide - 640.0 / 360.0).abs() < 0.02, "a frame {wide} times as wide as high");
    page.type_number("still-height", "640").await?;
    page.until("a square", &format!("{frame} < 1.02")).await?;
    page.type_number("still-width", "160").await?;
    page.type_number("still-height", "90").await?;
    page.type_number("still-samples", "4096").await?;
    page.saved().await?;
    page.find("[data-testid=take-still]").await?.click().await?;
    page.until("the still's row", "return document.querySelectorAll('[data-testid=still]').length === 1")
        .await?;
    page.find("[data-testid=take-still]").await?.click().await?;
    page.until(
        "one in line behind it",
        "return document.querySelector('[data-testid=contact-sheet]').textContent.includes('1 before it')",
    )
    .await?;
    page.until(
        "its picture so far",
        "return document.querySelector('[data-testid=still-draft]')?.complete === true",
    )
    .await?;
    page.until(
        "how long it takes",
        "return / left/.test(document.querySelector('[data-testid=contact-sheet]').textContent)",
    )
    .await?;
    for left in [1, 0] {
        // The list comes anew all the while: found and pressed in one go.
        page.until(
            "one to stop",
            "const b = document.querySelector('[aria-label=\"Stop this still\"]'); b?.click(); return !!b",
        )
        .await?;
        let gone = format!("return document.querySelectorAll('[data-testid=still]').length === {left}");
        page.until("it to be gone", &gone).await?;
    }
    page.close().await
}
