//! Scenes over HTTP: commands, history, conflicts, and what is refused.

use crate::common::Stage;
use axum::body::Body;
use axum::http::{Request, StatusCode};
use serde_json::{Value, json};

fn seed(value: u32) -> Value {
    json!({"do": "edit_layer", "id": 1, "edit": {"set": "seed", "value": value}})
}

#[tokio::test(flavor = "multi_thread")]
async fn changes_undo_and_redo_survive_a_new_server() {
    let stage = Stage::new().await;
    let first = stage.scene().await;
    let (_, second) = stage.command(&first, seed(77)).await;
    assert_eq!((&second["seq"], &second["document"]["layers"][0]["seed"]), (&json!(1), &json!(77)));
    assert_ne!(first["layers"][0]["plants_key"], second["layers"][0]["plants_key"]);
    assert_eq!(first["layers"][1]["plants_key"], second["layers"][1]["plants_key"]);
    let (_, undone) = stage.history(&second, "undo").await;
    assert_eq!(undone["document"], first["document"]);
    assert_eq!(
        (&undone["seq"], &undone["undo_steps"], &undone["redo_steps"]),
        (&json!(2), &json!(0), &json!(1))
    );

    // Another server on the same database knows it all.
    let again = rookery_server::app::App::start(&stage.url).await.unwrap();
    let id = first["id"].as_str().unwrap().parse().unwrap();
    let (other, steps) = again.scenes.seen_by(id, "").await.unwrap();
    assert_eq!((other.seq, steps), (2, [0, 1]));
    let (_, redone) = stage.history(&undone, "redo").await;
    assert_eq!(redone["document"], second["document"]);
    let (status, body) = stage.history(&redone, "redo").await;
    assert_eq!((status, body["message"].as_str()), (StatusCode::CONFLICT, Some("there is nothing to redo")));
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_drag_is_one_step() {
    let stage = Stage::new().await;
    let first = stage.scene().await;
    let mut scene = first.clone();
    for value in [5, 6, 7] {
        scene = stage.gesture(&scene, seed(value), json!("drag-1")).await.1;
    }
    assert_eq!((&scene["seq"], &scene["undo_steps"]), (&json!(3), &json!(1)));
    let (_, undone) = stage.history(&scene, "undo").await;
    assert_eq!(undone["document"], first["document"]);
    let (_, redone) = stage.history(&undone, "redo").await;
    assert_eq!(redone["document"]["layers"][0]["seed"], 7);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_change_that_changes_nothing_is_no_step() {
    let stage = Stage::new().await;
    let first = stage.scene().await;
    let (status, same) = stage.command(&first, seed(1)).await;
    assert_eq!((status, &same["seq"], &same["undo_steps"]), (StatusCode::OK, &json!(0), &json!(0)));
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn bad_changes_are_refused_in_words_and_change_nothing() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let size =
        json!({"do": "edit_layer", "id": 1, "edit": {"set": "size", "value": {"min": 2.0, "max": 1.0}}});
    let unknown = json!({"do": "edit_layer", "id": 1, "edit": {"set": "seed", "value": 3, "colour": "red"}});
    let missing = json!({"do": "remove_layer", "id": 55});
    let cases = [
        (size, StatusCode::UNPROCESSABLE_ENTITY, "size runs from 2 down to 1; the first must not be larger"),
        (unknown, StatusCode::UNPROCESSABLE_ENTITY, "unknown field `colour`"),
        (missing, StatusCode::NOT_FOUND, "there is no layer 55 in this scene"),
        (json!({"do": "explode"}), StatusCode::UNPROCESSABLE_ENTITY, "unknown variant `explode`"),
    ];
    for (command, expected, words) in cases {
        let (status, body) = stage.command(&scene, command).await;
        assert_eq!(status, expected, "{body}");
        assert!(body["message"].as_str().unwrap().contains(words), "{body}");
    }
    let path = format!("/api/scenes/{}", scene["id"].as_str().unwrap());
    assert_eq!(stage.ask("GET", &path, None).await.1["seq"], 0);
    let (status, _) = stage.ask("GET", "/api/scenes/not-a-uuid", None).await;
    assert_eq!(status, StatusCode::BAD_REQUEST);
    let (status, body) = stage.ask("GET", "/api/scenes/00000000-0000-0000-0000-000000000000", None).await;
    assert_eq!((status, &body["message"]), (StatusCode::NOT_FOUND, &json!("there is no such scene")));
    let (status, _) = stage.ask("GET", "/api/nowhere", None).await;
    assert_eq!(status, StatusCode::NOT_FOUND);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_page_of_another_origin_is_kept_out() {
    let stage = Stage::new().await;
    let from = |origin: &str| {
        let request =
            Request::builder().uri("/api/scenes").header("host", "127.0.0.1:7411").header("origin", origin);
        request.body(Body::empty()).unwrap()
    };
    assert_eq!(stage.raw(from("http://127.0.0.1:7411")).await.0, StatusCode::OK);
    assert_eq!(stage.raw(from("http://elsewhere.example")).await.0, StatusCode::FORBIDDEN);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn events_tell_every_listener_of_an_edit() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let mut heard = stage.app.events.subscribe();
    stage.command(&scene, seed(4)).await;
    let event =
        tokio::time::timeout(std::time::Duration::from_secs(10), heard.recv()).await.unwrap().unwrap();
    let id = scene["id"].as_str().unwrap().parse().unwrap();
    assert_eq!(event, rookery_server::events::Event::Edited { scene: id, seq: 1 });
    stage.end().await;
}

/// `web/openapi.json` is what the typed client is made from.
#[test]
fn the_interface_that_is_written_down_is_the_one_that_is_served() {
    let kept = include_str!("../../../../web/openapi.json");
    let served = serde_json::to_value(rookery_server::openapi::document()).unwrap();
    let kept: Value = serde_json::from_str(kept).unwrap();
    assert!(kept == served, "web/openapi.json is stale; run: cargo xtask client");
}
