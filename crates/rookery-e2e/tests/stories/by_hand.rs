//! What an artist does beside obstacles and along the ground by hand, also when the server dies and when two work at once.

use fantoccini::key::Key;
use rookery_e2e::{Done, Page};

fn control() -> char {
    Key::Control.into()
}

async fn layer(page: &Page, name: &str) -> Done {
    let script = format!(
        "const b = [...document.querySelectorAll('li button')].find(b => b.textContent.includes({name:?})); b?.click(); return !!b"
    );
    page.until(&format!("the layer {name}"), &script).await
}

async fn drifts(page: &Page, count: usize) -> Done {
    let script = format!(
        "return Number(document.querySelector('[data-testid=drift-lines]')?.dataset.count ?? 0) === {count}"
    );
    page.until(&format!("{count} drifts"), &script).await
}

#[tokio::test(flavor = "multi_thread")]
async fn grass_leans_aside_from_an_obstacle_and_the_clearing_follows_while_it_is_dragged() -> Done {
    let page = Page::open().await?;
    page.press("Site").await?;
    page.press("Plan").await?;
    page.find("[data-testid=add-obstacle]").await?.click().await?;
    page.choose("Box").await?;
    page.click_at("[data-testid=view] canvas", 120, -120).await?;
    page.until("its handle", "return !!document.querySelector('[data-testid=stand]')").await?;
    page.saved().await?;
    page.press("Planting").await?;
    layer(&page, "Fescue turf").await?;
    page.placed_at_rest().await?;
    let row = "document.querySelector('[data-testid=keep-obstacles]').textContent";
    page.find("[data-testid=compare-obstacles]").await?.click().await?;
    page.until(
        "the comparison",
        "return document.querySelectorAll('[data-testid=responses-obstacles] tbody tr').length === 4",
    )
    .await?;
    // A row is taken with a click, and says the same as what then grows.
    let cells = "[...document.querySelectorAll('[data-testid=responses-obstacles] tbody tr')].at(-1)";
    let said = page.ask(&format!("return [...{cells}.children].map(c => c.textContent)")).await?;
    page.ask(&format!("{cells}.querySelector('button').click()")).await?;
    let bent = said[4].as_str().unwrap_or_default().to_owned();
    assert!(bent.parse::<f64>().unwrap_or(0.0) > 10.0, "{said}");
    page.until("those that bend", &format!("return {row}.includes('{bent} bent aside')")).await?;
    let placed = page.placed_at_rest().await?.to_string();
    assert_eq!(said[1].as_str().unwrap_or_default().replace(',', ""), placed);
    let counts =
        format!("{row}.split('Nothing')[0] + document.querySelector('[data-testid=placed]').dataset.placed");
    let before = page.ask(&format!("return {counts}")).await?;
    page.press("Site").await?;
    page.find("[data-testid=stand]").await?;
    page.drag("[data-testid=stand]", 60, 40).await?;
    page.saved().await?;
    page.press("Planting").await?;
    // As many may be refused there and as many bend, but not as many stand as well.
    page.until(
        "others to bend",
        &format!("return / refused, [0-9]+ bent aside/.test({row}) && {counts} !== {before}"),
    )
    .await?;
    page.close().await
}

/// Waits until every number in the profile is what the server makes of the scene as it is now. A server that has just started grows
/// everything anew, and until then the numbers of before are shown, at rest.
async fn counted_as_the_server_does(page: &Page) -> Done {
    let script = "const get = (path) => { const x = new XMLHttpRequest(); x.open('GET', path, false); x.send(); return JSON.parse(x.responseText) }; \
        const id = get('/api/scenes')[0].id; \
        return get(`/api/scenes/${id}/measure`).every((l) => { \
          const shown = document.querySelector(`[data-testid=count-${l.id}]`)?.dataset.placed; \
          return shown === undefined || shown === `${l.tally.placed}` })";
    page.until("the numbers of the server", script).await
}

#[tokio::test(flavor = "multi_thread")]
async fn drifts_are_strewn_changed_and_survive_a_server_that_dies_amid_a_stroke() -> Done {
    let mut page = Page::open().await?;
    let first = page.placed_at_rest().await?;
    page.press("Tend").await?;
    page.press("Strew").await?;
    page.drag("[data-testid=view]", 140, 30).await?;
    drifts(&page, 1).await?;
    let one = page.placed(Some(first)).await?;
    assert!(one > first, "{first} became {one}");
    let one = page.placed_at_rest().await?;
    page.type_number("drift-density", "12").await?;
    let denser = page.placed(Some(one)).await?;
    assert!(denser > one, "{one} became {denser}");
    let denser = page.placed_at_rest().await?;
    page.chord(&[control()], 'z').await?;
    page.until(
        "one step back",
        &format!("return document.querySelector('[data-testid=placed]').dataset.placed === '{one}'"),
    )
    .await?;
    page.chord(&[control(), Key::Shift.into()], 'z').await?;
    page.until(
        "and on again",
        &format!("return document.querySelector('[data-testid=placed]').dataset.placed === '{denser}'"),
    )
    .await?;
    // The server dies while the mouse is still down; another one takes its place.
    page.begin_drag("[data-testid=view]", (60, 90), (120, 20)).await?;
    drifts(&page, 2).await?;
    page.server.kill().await?;
    page.lead_on("[data-testid=view]", (240, 130)).await?;
    page.let_go().await?;
    page.server = page.server.start_in_its_place().await?;
    page.saved().await?;
    drifts(&page, 2).await?;
    counted_as_the_server_does(&page).await?;
    let after = page.placed_at_rest().await?;
    assert!(after > denser, "{denser} became {after}");
    page.load().await?;
    page.until(
        "all of it after a reload",
        &format!("return document.querySelector('[data-testid=placed]')?.dataset.placed === '{after}'"),
    )
    .await?;
    page.until(
        "both drifts in the list",
        "return document.querySelectorAll('[data-testid=drifts] li').length === 2",
    )
    .await?;
    page.press("Take drift 2 out").await?;
    page.until(
        "the first alone",
        &format!("return document.querySelector('[data-testid=placed]').dataset.placed === '{denser}'"),
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn two_who_tend_one_scene_see_what_the_other_does() -> Done {
    let one = Page::open().await?;
    let two = one.beside().await?;
    let first = one.placed_at_rest().await?;
    for page in [&one, &two] {
        page.press("Tend").await?;
    }
    one.press("Strew").await?;
    two.press("Clear").await?;
    two.type_number("erase-radius", "3").await?;
    one.drag("[data-testid=view]", 120, 30).await?;
    drifts(&two, 1).await?;
    // Both at once: each is told of the other and neither loses anything.
    let (strewn, pulled) =
        tokio::join!(one.drag("[data-testid=view]", -150, 40), two.drag("[data-testid=view]", 60, 90),);
    strewn?;
    pulled?;
    for page in [&one, &two] {
        page.saved().await?;
        drifts(page, 2).await?;
        page.until(
            "the cleared spots",
            "return document.querySelectorAll('[data-testid=pennant]').length > 1",
        )
        .await?;
    }
    let (a, b) = (one.placed_at_rest().await?, two.placed_at_rest().await?);
    assert_eq!(a, b);
    assert_ne!(a, first);
    let pennants =
        "return document.querySelector('[aria-label=\"By hand\"]').textContent.match(/(\\d+) cleared/)[1]";
    assert_eq!(one.ask(pennants).await?, two.ask(pennants).await?);
    two.close().await?;
    one.close().await
}
