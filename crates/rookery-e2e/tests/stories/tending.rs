//! What an artist does to keep plants apart and to work on single ones.

use fantoccini::key::Key;
use rookery_e2e::{Done, Page};

fn control() -> char {
    Key::Control.into()
}

async fn in_hand(page: &Page, what: &str, test: &str) -> Done {
    let script = format!(
        "const n = Number(document.querySelector('[data-testid=tending]')?.dataset.inHand); return {test}"
    );
    page.until(what, &script).await
}

#[tokio::test(flavor = "multi_thread")]
async fn plants_keep_clear_by_their_crowns_and_grow_through_again_when_undone() -> Done {
    let page = Page::open().await?;
    let first = page.placed(None).await?;
    let crown = "[data-testid=keep-own] button:nth-of-type(3)";
    page.find(crown).await?.click().await?;
    let fewer = page.placed(Some(first)).await?;
    assert!(fewer < first * 0.9, "{first} became {fewer}");
    let account = page.ask("return document.querySelector('[data-testid=keep-own]').textContent").await?;
    assert!(account.as_str().unwrap_or_default().contains("refused"), "{account}");
    page.saved().await?;
    // The boulders no longer claim before the marram.
    page.press("Who yields to whom").await?;
    let refused = "return [...document.querySelectorAll('[data-testid=yields] tr')].find(r => r.textContent.includes('Boulders')).lastChild.textContent";
    assert_ne!(page.ask(refused).await?.as_str().unwrap_or_default(), "");
    page.ask("const s = document.querySelector('select[aria-label=\"Marram and Boulders\"]'); Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, 'together'); s.dispatchEvent(new Event('change', { bubbles: true }))").await?;
    page.until(
        "the table to say so",
        "return document.querySelector('select[aria-label=\"Marram and Boulders\"]').value === 'together'",
    )
    .await?;
    let through = page.placed(Some(fewer)).await?;
    assert!(through > fewer, "{fewer} became {through}");
    page.saved().await?;
    page.press("Account").await?;
    page.chord(&[control()], 'z').await?;
    page.chord(&[control()], 'z').await?;
    page.until(
        "both to be taken back",
        &format!("return document.querySelector('[data-testid=placed]').dataset.placed === '{first}'"),
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn plants_are_taken_in_hand_made_larger_pulled_out_and_outlive_a_crash() -> Done {
    let mut page = Page::open().await?;
    let first = page.placed(None).await?;
    page.press("Tend").await?;
    page.press("Around").await?;
    page.drag("[data-testid=view]", 120, 250).await?;
    in_hand(&page, "plants in hand", "n > 0").await?;
    let held = page.number("[data-testid=tending]", "data-in-hand", None).await?;
    page.type_number("hand-size", "2").await?;
    page.until(
        "pennants",
        &format!("return document.querySelectorAll('[data-testid=pennant]').length === {held}"),
    )
    .await?;
    page.saved().await?;
    page.press("Take these plants out").await?;
    in_hand(&page, "empty hands", "n === 0").await?;
    let fewer = page.placed(Some(first)).await?;
    assert!(fewer < first, "{first} became {fewer}");
    page.saved().await?;
    let fewer = page.placed_at_rest().await?;
    // Another seed: the spots stay clear, and what was said is still said after a crash.
    page.server = page.server.kill_and_start_again().await?;
    page.load().await?;
    page.until(
        "the same pennantless scene",
        &format!("return document.querySelector('[data-testid=placed]')?.dataset.placed === '{fewer}'"),
    )
    .await?;
    let summary = "return document.querySelector('[aria-label=\"By hand\"]').textContent";
    let said = page.ask(summary).await?;
    assert!(said.as_str().unwrap_or_default().contains(&format!("{held} cleared")), "{said}");
    page.press("Let all grow by themselves").await?;
    page.until("nothing tended", &format!("{summary}.includes('nothing tended')")).await?;
    page.close().await
}
