//! An edit is never lost or doubled, whatever happens between the artist and the database, and nobody takes back what another did.

use fantoccini::key::Key;
use rookery_e2e::{Done, Gate, Page};
use serde_json::json;

fn control() -> char {
    Key::Control.into()
}

/// What the top bar says of saving.
async fn says(page: &Page, state: &str, words: &str) -> Done {
    let script = format!(
        "const s = document.querySelector('[data-testid=saved]'); return !!s && s.dataset.state === '{state}' && s.textContent.includes('{words}')"
    );
    page.until(&format!("{state}, {words}"), &script).await
}

/// A value of the scene as the server has it now.
async fn on_server(page: &Page, path: &str) -> Done<String> {
    let script = format!(
        "const x = new XMLHttpRequest(); x.open('GET', '/api/scenes', false); x.send(); \
         const id = JSON.parse(x.responseText)[0].id; x.open('GET', `/api/scenes/${{id}}`, false); x.send(); \
         const s = JSON.parse(x.responseText); return JSON.stringify({path})"
    );
    Ok(page.ask(&script).await?.as_str().unwrap_or_default().to_owned())
}

async fn until_on_server(page: &Page, path: &str, wanted: &str) -> Done {
    for _ in 0..200 {
        if on_server(page, path).await? == wanted {
            return Ok(());
        }
        tokio::time::sleep(std::time::Duration::from_millis(100)).await;
    }
    let is = on_server(page, path).await?;
    Err(format!("{path} is {is}, not {wanted}").into())
}

/// Broke: with the database away an edit was dropped, and then it said “Saved”.
#[tokio::test(flavor = "multi_thread")]
async fn edits_made_while_the_database_is_away_are_kept_across_a_reload_and_saved_in_the_end() -> Done {
    let page = Page::open().await?;
    page.saved().await?;
    page.server.close_database().await?;
    page.type_number("seed", "4321").await?;
    says(&page, "away", "Not saved · 1").await?;
    page.type_number("cap", "7000").await?;
    says(&page, "away", "Not saved · 2").await?;
    assert!(
        page.ask("return document.querySelector('[data-testid=refusal]') === null").await? == json!(true)
    );
    // The page is loaded again while nothing answers: it says so and goes on trying.
    page.client().goto(&page.server.address).await?;
    page.until("words about it", "return (document.querySelector('[role=alert]')?.textContent ?? '').includes('database does not answer')").await?;
    page.server.open_database().await?;
    page.until("the scene", "return !!document.querySelector('[data-testid=saved]')").await?;
    page.saved().await?;
    assert_eq!(
        on_server(&page, "[s.document.layers[0].seed, s.document.layers[0].cap, s.seq]").await?,
        "[4321,7000,2]"
    );
    // Both are steps like any other.
    page.until(
        "two steps",
        "return !!document.querySelector('[aria-label^=\"Undo\"][aria-label*=\", 2 steps\"]')",
    )
    .await?;
    page.chord(&[control()], 'z').await?;
    page.chord(&[control()], 'z').await?;
    until_on_server(
        &page,
        "[s.document.layers[0].cap === 7000, s.document.layers[0].seed === 4321]",
        "[false,false]",
    )
    .await?;
    page.close().await
}

/// Broke: a change whose answer was lost was carried out twice, or refused as a duplicate; an undo took back two steps.
#[tokio::test(flavor = "multi_thread")]
async fn changes_whose_answers_are_lost_are_carried_out_once() -> Done {
    let page = Page::open().await?;
    let layers = on_server(&page, "s.document.layers.length").await?;
    let gate = Gate::to(&page.server.address).await?;
    let page = Page { server: page.server.seen_at(gate.address.clone()), browser: page.browser };
    page.load().await?;
    gate.lose(2);
    page.press("More for Marram").await?;
    page.choose("Duplicate").await?;
    page.saved().await?;
    assert_eq!(gate.lost(), 2);
    let more = format!("{}", layers.parse::<u32>()? + 1);
    assert_eq!(on_server(&page, "s.document.layers.length").await?, more);
    page.type_number("seed", "4321").await?;
    page.saved().await?;
    gate.lose(3);
    page.chord(&[control()], 'z').await?;
    page.saved().await?;
    assert_eq!(gate.lost(), 5);
    assert_eq!(
        on_server(&page, "[s.document.layers.length, s.undo_steps, s.seq]").await?,
        format!("[{more},0,3]")
    );
    page.close().await
}

/// Broke: of two settings of one mask, changed by two people, the first was lost, and undo took back what the other did last.
#[tokio::test(flavor = "multi_thread")]
async fn two_people_on_one_mask_and_each_takes_back_their_own() -> Done {
    let one = Page::open().await?;
    let two = one.beside().await?;
    // Different settings of one mask, set at the same moment.
    let mask = "s.document.layers[0].masks[0]";
    let was = on_server(&one, &format!("[{mask}.enabled, {mask}.response.inverted]")).await?;
    assert_eq!(was, "[true,false]");
    for (page, control) in [(&one, "Slope mask"), (&two, "Slope: invert")] {
        let press = format!(
            "const b = document.querySelector('[aria-label=\"{control}\"]'); b?.scrollIntoView(); b?.click(); return !!b"
        );
        page.until(control, &press).await?;
    }
    one.saved().await?;
    two.saved().await?;
    until_on_server(&one, &format!("[{mask}.enabled, {mask}.response.inverted]"), "[false,true]").await?;
    // Each takes back their own, the first one first.
    one.chord(&[control()], 'z').await?;
    until_on_server(&one, &format!("[{mask}.enabled, {mask}.response.inverted]"), "[true,true]").await?;
    two.chord(&[control()], 'z').await?;
    until_on_server(&two, &format!("[{mask}.enabled, {mask}.response.inverted]"), "[true,false]").await?;
    one.close().await?;
    two.close().await
}

/// Two change one thing, neither seeing the other: a quiet card with both values.
#[tokio::test(flavor = "multi_thread")]
async fn a_true_conflict_is_a_card_with_both_values() -> Done {
    let one = Page::open().await?;
    let two = one.beside().await?;
    let layer = "s.document.layers[0]";
    // What the second sends is held back while the first changes the same.
    let gate = Gate::to(&two.server.address).await?;
    let two = Page { server: two.server.seen_at(gate.address.clone()), browser: two.browser };
    two.load().await?;
    gate.hold(true);
    two.type_number("seed", "222").await?;
    two.until(
        "the change to wait",
        "return document.querySelector('[data-testid=saved]').dataset.state === 'saving'",
    )
    .await?;
    one.type_number("seed", "111").await?;
    one.saved().await?;
    gate.hold(false);
    let card = "document.querySelector('[data-testid=conflict]')";
    two.until("the card", &format!("const c = {card}?.textContent ?? ''; return c.includes('seed') && c.includes('111') && c.includes('222')")).await?;
    assert_eq!(on_server(&two, &format!("{layer}.seed")).await?, "111");
    two.press("Use mine").await?;
    two.until("no card", &format!("return {card} === null")).await?;
    until_on_server(&one, &format!("{layer}.seed"), "222").await?;
    // It is a step like any other.
    two.chord(&[control()], 'z').await?;
    until_on_server(&one, &format!("{layer}.seed"), "111").await?;
    one.close().await?;
    two.close().await
}

/// Scenes are copied, deleted, restored and brought back from a scene file.
#[tokio::test(flavor = "multi_thread")]
async fn a_scene_is_copied_deleted_restored_and_brought_from_a_file() -> Done {
    let page = Page::open().await?;
    page.type_number("seed", "4321").await?;
    page.saved().await?;
    let original = "new URLSearchParams(location.search).get('scene')";
    let opened = |not: &str| {
        format!(
            "const id = {original}; return !!id && id !== '{not}' && !!document.querySelector('[data-testid=saved]')"
        )
    };
    let seed = "return document.querySelector('input[data-testid=seed]')?.value === '4321'";

    page.press("Scenes").await?;
    page.choose("Open a copy").await?;
    page.until("the copy", &opened("")).await?;
    page.until("its seed", seed).await?;
    let copy = page.ask(&format!("return {original}")).await?.as_str().unwrap_or_default().to_owned();

    page.press("Scenes").await?;
    page.choose("Delete").await?;
    page.until(
        "another scene",
        "return location.search === '' && !!document.querySelector('[data-testid=saved]')",
    )
    .await?;
    let lists = "const of = (path) => { const x = new XMLHttpRequest(); x.open('GET', path, false); x.send(); return JSON.parse(x.responseText).map((s) => s.id) };";
    let gone = format!(
        "{lists} return !of('/api/scenes').includes('{copy}') && of('/api/deleted-scenes').includes('{copy}')"
    );
    page.until("the copy to be deleted", &gone).await?;

    page.press("Scenes").await?;
    page.until("the deleted one", "return document.querySelector('[role=menu]')?.textContent.includes('Deleted; open to restore') === true").await?;
    let restore = "const all = [...document.querySelectorAll('[role=menu] [role=menuitem]')]; all[all.length - 1].click(); return true";
    page.ask(restore).await?;
    page.until("the restored one", &format!("return {original} === '{copy}'")).await?;
    page.until("its seed", seed).await?;

    let scene = on_server(&page, "s.document").await?.replace("Kittiwake Head", "Brought back");
    let file = rookery_e2e::scratch("brought-back")?.join("scene.json");
    std::fs::write(&file, scene)?;
    page.press("Scenes").await?;
    page.find("input[aria-label='Scene file']").await?.send_keys(&file.to_string_lossy()).await?;
    page.until("the scene of the file", &opened(&copy)).await?;
    page.until("its name", "return document.body.textContent.includes('Brought back') || [...document.querySelectorAll('input')].some((i) => i.value === 'Brought back')").await?;
    page.until("its seed", seed).await?;
    page.close().await
}
