//! Who is let in, and what browsers are told.

use crate::common::Stage;
use axum::body::{Body, to_bytes};
use axum::http::{Request, StatusCode};
use rookery_server::app::App;
use rookery_server::routes::{Door, router};
use serde_json::{Value, json};
use std::sync::Arc;
use tower::ServiceExt;

fn request(method: &str, path: &str, headers: &[(&str, &str)]) -> Request<Body> {
    let mut request = Request::builder().method(method).uri(path).header("content-type", "application/json");
    for (name, value) in headers {
        request = request.header(*name, *value);
    }
    let body = if method == "GET" { Body::empty() } else { Body::from(r#"{"from": "bare"}"#) };
    request.body(body).unwrap()
}

const HERE: (&str, &str) = ("host", "127.0.0.1:7411");

/// Broke: a page whose name resolves to this machine could read and write all scenes.
#[tokio::test(flavor = "multi_thread")]
async fn a_page_whose_name_resolves_here_is_kept_out() {
    let stage = Stage::new().await;
    for (host, status) in [
        ("127.0.0.1:7411", StatusCode::OK),
        ("localhost:7411", StatusCode::OK),
        ("LOCALHOST", StatusCode::OK),
        ("[::1]:7411", StatusCode::OK),
        ("rebound.example:7411", StatusCode::MISDIRECTED_REQUEST),
        ("127.0.0.1.example", StatusCode::MISDIRECTED_REQUEST),
        ("", StatusCode::MISDIRECTED_REQUEST),
    ] {
        assert_eq!(stage.knock(request("GET", "/api/scenes", &[("host", host)])).await.0, status, "{host}");
    }
    let origin = ("origin", "http://rebound.example:7411");
    let (status, body) =
        stage.knock(request("POST", "/api/scenes", &[("host", "rebound.example:7411"), origin])).await;
    assert_eq!(status, StatusCode::MISDIRECTED_REQUEST);
    assert!(String::from_utf8(body).unwrap().contains("rookery serve --host NAME"));
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn other_pages_may_open_this_one_and_nothing_else() {
    let stage = Stage::new().await;
    let knock = async |method: &str, headers: &[(&str, &str)]| {
        let mut all = vec![HERE];
        all.extend_from_slice(headers);
        stage.knock(request(method, "/api/scenes", &all)).await.0
    };
    let (own, foreign) = (("origin", "http://127.0.0.1:7411"), ("origin", "http://elsewhere.example"));
    let (cross, same) = (("sec-fetch-site", "cross-site"), ("sec-fetch-site", "same-origin"));
    let page = [("sec-fetch-mode", "navigate"), ("sec-fetch-dest", "document")];
    assert_eq!(knock("GET", &[own]).await, StatusCode::OK);
    assert_eq!(knock("GET", &[foreign]).await, StatusCode::FORBIDDEN);
    assert_eq!(knock("GET", &[cross]).await, StatusCode::FORBIDDEN);
    assert_eq!(knock("GET", &[("sec-fetch-site", "same-site")]).await, StatusCode::FORBIDDEN);
    assert_eq!(knock("GET", &[cross, page[0], page[1]]).await, StatusCode::OK);
    assert_eq!(knock("GET", &[cross, page[0], ("sec-fetch-dest", "iframe")]).await, StatusCode::FORBIDDEN);
    assert_eq!(knock("POST", &[cross, page[0], page[1]]).await, StatusCode::FORBIDDEN);
    assert_eq!(knock("POST", &[same, own]).await, StatusCode::CREATED);
    assert_eq!(knock("POST", &[]).await, StatusCode::FORBIDDEN, "a change without an origin");
    let bearer = format!("Bearer {}", stage.app.door.token());
    assert_eq!(knock("POST", &[("authorization", &bearer)]).await, StatusCode::CREATED);
    assert_eq!(knock("POST", &[("authorization", "Bearer 00")]).await, StatusCode::FORBIDDEN);
    stage.end().await;
}

/// Beyond this machine everyone shows the token; the address that `serve` prints puts it into a cookie.
#[tokio::test(flavor = "multi_thread")]
async fn beyond_this_machine_everyone_shows_the_token() {
    let stage = Stage::new().await;
    let door = Door::of_this_machine("a-long-enough-token".to_owned(), ["rookery.example".to_owned()]);
    let app = App { door: Arc::new(door.for_everyone_with_token()), ..stage.app.clone() };
    let knock = async |path: &str, headers: &[(&str, &str)]| {
        let mut all = vec![("host", "rookery.example")];
        all.extend_from_slice(headers);
        router(app.clone()).oneshot(request("GET", path, &all)).await.unwrap()
    };
    assert_eq!(knock("/api/scenes", &[]).await.status(), StatusCode::UNAUTHORIZED);
    assert_eq!(knock("/?token=wrong", &[]).await.status(), StatusCode::UNAUTHORIZED);
    let opened = knock("/?token=a-long-enough-token", &[]).await;
    assert_eq!(
        (opened.status(), &opened.headers()["location"]),
        (StatusCode::SEE_OTHER, &"/".parse().unwrap())
    );
    let cookie = opened.headers()["set-cookie"].to_str().unwrap();
    assert!(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict"), "{cookie}");
    let shown = cookie.split(';').next().unwrap();
    assert_eq!(knock("/api/scenes", &[("cookie", shown)]).await.status(), StatusCode::OK);
    assert_eq!(
        knock("/api/scenes", &[("authorization", "Bearer a-long-enough-token")]).await.status(),
        StatusCode::OK
    );
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn every_answer_tells_browsers_to_load_and_frame_nothing_else() {
    let stage = Stage::new().await;
    for path in ["/api/scenes", "/", "/api/nowhere"] {
        let answer = router(stage.app.clone()).oneshot(request("GET", path, &[HERE])).await.unwrap();
        let policy = answer.headers()["content-security-policy"].to_str().unwrap();
        assert!(
            policy.contains("frame-ancestors 'none'") && policy.contains("default-src 'self'"),
            "{policy}"
        );
        assert_eq!(answer.headers()["cross-origin-resource-policy"], "same-origin");
        assert_eq!(answer.headers()["referrer-policy"], "no-referrer");
        assert_eq!(answer.headers()["x-content-type-options"], "nosniff");
        let kept = if path == "/" { "no-cache" } else { "no-store" };
        assert_eq!(answer.headers()["cache-control"], kept, "{path}");
    }
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn health_tells_well_from_away_within_a_second() {
    let stage = Stage::new().await;
    let (status, health) = stage.ask("GET", "/api/health", None).await;
    assert_eq!((status, &health["database"]), (StatusCode::OK, &json!("well")));
    assert!(health["room_bytes"].as_u64().unwrap() > 0, "the database of the tests is on this machine");
    let scene = stage.scene().await;
    let scenes = format!("/api/scenes/{}", scene["id"].as_str().unwrap());
    let plants = format!("{scenes}/layers/2/plants/{}", scene["layers"][1]["plants_key"].as_str().unwrap());
    assert_eq!(stage.bytes(&plants).await.0, StatusCode::OK);

    // The database goes away: no connection is left and none can be made.
    stage.close_database().await;
    let start = std::time::Instant::now();
    let (status, health) = stage.ask("GET", "/api/health", None).await;
    assert_eq!((status, &health["database"]), (StatusCode::SERVICE_UNAVAILABLE, &json!("away")));
    // It gives up after 0.8 s; on a machine with much else to do that may be heard later, but never as late as without.
    assert!(start.elapsed().as_secs_f32() < 2.5, "{:?}", start.elapsed());
    let answer = router(stage.app.clone()).oneshot(request("GET", &scenes, &[HERE])).await.unwrap();
    assert_eq!(
        (answer.status(), &answer.headers()["retry-after"]),
        (StatusCode::SERVICE_UNAVAILABLE, &"1".parse().unwrap())
    );
    let body: Value = serde_json::from_slice(&to_bytes(answer.into_body(), 1 << 20).await.unwrap()).unwrap();
    assert_eq!(
        body,
        json!({"code": "database_away", "message": "the database does not answer; nothing was changed"})
    );
    // What is at hand is still to be had.
    assert_eq!(stage.bytes(&plants).await.0, StatusCode::OK);

    stage.open_database().await;
    let (status, _) = stage.command(&scene, json!({"do": "rename_scene", "name": "Back"})).await;
    assert_eq!(status, StatusCode::OK);
    stage.end().await;
}

/// Broke: NUL in a gesture, in a community's text or in a file's name answered “database failed”.
#[tokio::test(flavor = "multi_thread")]
async fn text_that_cannot_be_kept_is_refused_in_words() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let rename = json!({"do": "rename_scene", "name": "Fresh"});
    let (status, body) = stage.gesture(&scene, rename, json!("a\u{0}b")).await;
    assert_eq!(
        (status, &body["message"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("a text holds the character NUL, which cannot be kept"))
    );
    let take = json!({"name": "Turf", "about": "x\u{0}", "layers": [1]});
    let path = format!("/api/scenes/{}/communities", scene["id"].as_str().unwrap());
    assert_eq!(stage.ask("POST", &path, Some(take)).await.0, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(stage.bytes("/api/blobs/%00").await.0, StatusCode::NOT_FOUND);
    assert_eq!(stage.bytes("/api/scenes?x=%00").await.0, StatusCode::OK);
    stage.end().await;
}
