//! What the view does while nobody touches it.

use rookery_e2e::{Done, Page};

type Story = Done;

#[tokio::test(flavor = "multi_thread")]
async fn a_view_at_rest_is_refined_until_something_is_done() -> Story {
    let page = Page::open().await?;
    let address = page.server_address().trim_end_matches('/').to_owned();
    page.client().goto(&format!("{address}/?rest=refined")).await?;
    let view = "const v = document.querySelector('[data-testid=view]'); return !!v";
    page.until("a refined picture", &format!("{view} && Number(v.dataset.refined) > 1")).await?;
    let fine = page.number("[data-testid=view]", "data-triangles", None).await?;
    // Near the eye the ground has its own fine cover, all of it.
    let tufts = page.number("[data-testid=view]", "data-nap", None).await?;
    assert!(tufts > 1000.0, "{tufts} tufts of the ground's own");
    // Led aside it is quick again, and then fine again.
    page.drag("[data-testid=view] canvas", 60, 20).await?;
    page.until("a picture of the movement", &format!("{view} && v.dataset.refined === '0'")).await?;
    let quick = page.number("[data-testid=view]", "data-triangles", None).await?;
    assert!(quick < fine, "{quick} triangles while it moves, {fine} at rest");
    page.until("a refined picture again", &format!("{view} && Number(v.dataset.refined) > 0")).await?;
    // One may do without it, and then it stays so.
    page.find("[data-testid=rests]").await?.select_by_value("quick").await?;
    page.until(
        "the quick picture",
        &format!("{view} && v.dataset.refined === '0' && v.dataset.settled === 'true'"),
    )
    .await?;
    page.client().goto(&address).await?;
    page.until(
        "the picture",
        &format!("{view} && v.dataset.settled === 'true' && Number(v.dataset.plants) > 0"),
    )
    .await?;
    tokio::time::sleep(std::time::Duration::from_millis(1500)).await;
    assert_eq!(page.ask(&format!("{view} && v.dataset.refined")).await?, "0");
    // Nor need there be shadows.
    page.find("[data-testid=rests]").await?.select_by_value("plain").await?;
    page.until(
        "the plain picture, without the ground's fine cover",
        &format!("{view} && v.dataset.settled === 'true' && v.dataset.nap === '0'"),
    )
    .await?;
    page.close().await
}
