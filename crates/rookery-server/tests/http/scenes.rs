//! Scenes over HTTP: commands, history, conflicts, and what is refused.

use crate::common::Stage;
use axum::http::StatusCode;
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
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let (status, body) = stage.ask("GET", "/api/scenes/00000000-0000-0000-0000-000000000000", None).await;
    assert_eq!((status, &body["message"]), (StatusCode::NOT_FOUND, &json!("there is no such scene")));
    let (status, _) = stage.ask("GET", "/api/nowhere", None).await;
    assert_eq!(status, StatusCode::NOT_FOUND);
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

#[tokio::test(flavor = "multi_thread")]
async fn scenes_are_copied_deleted_and_restored_with_their_history() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (_, changed) = stage.command(&scene, seed(77)).await;
    let id = scene["id"].as_str().unwrap();
    let copy = json!({"from": "scene", "scene": id, "name": "Another"});
    let (status, copy) = stage.ask("POST", "/api/scenes", Some(copy)).await;
    assert_eq!((status, &copy["document"]["name"]), (StatusCode::CREATED, &json!("Another")));
    assert_eq!(
        (&copy["document"]["layers"], &copy["undo_steps"]),
        (&changed["document"]["layers"], &json!(0))
    );

    let names = async |path: &str| -> Vec<String> {
        let (_, list) = stage.ask("GET", path, None).await;
        list.as_array().unwrap().iter().map(|s| s["name"].as_str().unwrap().to_owned()).collect()
    };
    let path = format!("/api/scenes/{id}");
    assert_eq!(stage.ask("DELETE", &path, None).await.0, StatusCode::NO_CONTENT);
    assert_eq!(
        (names("/api/scenes").await, names("/api/deleted-scenes").await),
        (vec!["Another".to_owned()], vec!["Kittiwake Head".to_owned()])
    );
    assert_eq!(stage.ask("GET", &path, None).await.0, StatusCode::NOT_FOUND);
    assert_eq!(stage.command(&changed, seed(5)).await.0, StatusCode::NOT_FOUND);
    assert_eq!(stage.ask("DELETE", &path, None).await.0, StatusCode::NOT_FOUND);
    assert_eq!(stage.ask("POST", &format!("{path}/restore"), None).await.0, StatusCode::NO_CONTENT);
    assert_eq!(stage.ask("GET", &path, None).await.1["document"], changed["document"]);
    assert_eq!(stage.history(&changed, "undo").await.1["document"], scene["document"]);
    let other = "/api/scenes/00000000-0000-0000-0000-000000000000";
    assert_eq!(stage.ask("DELETE", other, None).await.0, StatusCode::NOT_FOUND);
    stage.end().await;
}

/// A new name of a scene stands in the list.
#[tokio::test(flavor = "multi_thread")]
async fn a_renamed_scene_is_listed_by_its_new_name() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    stage.command(&scene, json!({"do": "rename_scene", "name": "Gull Ledge"})).await;
    assert_eq!(stage.ask("GET", "/api/scenes", None).await.1[0]["name"], "Gull Ledge");
    stage.end().await;
}

/// Files that nothing names any more are cleared away; those that can still be brought back by undo are not.
#[tokio::test(flavor = "multi_thread")]
async fn unused_files_are_cleared_away_a_day_later() {
    use rookery_server::db::housekeeping::{Tidied, tidy};
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let grid = |z: u32| format!("ncols 2\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 5\n0 {z}\n1 2\n");
    let (_, used) = stage.upload("/api/heightmaps", grid(3).into_bytes()).await;
    let (_, unused) = stage.upload("/api/heightmaps", grid(4).into_bytes()).await;
    let source = json!({"kind": "heightmap", "blob": used["blob"], "format": "ascii_grid", "name": "g.asc", "width_m": 10.0,
        "depth_m": 10.0, "low_m": 0.0, "high_m": 3.0});
    let edit = json!({"do": "edit_ground", "edit": {"set": "source", "value": source}});
    let (status, with_file) = stage.command(&scene, edit).await;
    assert_eq!(status, StatusCode::OK, "{with_file}");
    let (_, undone) = stage.history(&with_file, "undo").await;
    assert_eq!(tidy(&stage.app.db).await.unwrap(), Tidied::default(), "what is fresh stays");
    stage.sql("UPDATE blobs SET created_at = now() - interval '2 days'").await;
    assert_eq!(tidy(&stage.app.db).await.unwrap(), Tidied { blobs: 1, ..Tidied::default() });
    let there =
        async |file: &Value| stage.bytes(&format!("/api/blobs/{}", file["blob"].as_str().unwrap())).await.0;
    assert_eq!((there(&used).await, there(&unused).await), (StatusCode::OK, StatusCode::NOT_FOUND));
    assert_eq!(stage.history(&undone, "redo").await.0, StatusCode::OK);
    // A scene that was deleted long ago goes with all it had.
    stage.ask("DELETE", &format!("/api/scenes/{}", scene["id"].as_str().unwrap()), None).await;
    stage.sql("UPDATE scenes SET deleted_at = now() - interval '31 days'").await;
    assert_eq!(tidy(&stage.app.db).await.unwrap(), Tidied { scenes: 1, blobs: 1, ..Tidied::default() });
    stage.end().await;
}

/// Broke: a scene with 135 long strokes was larger than what could be brought back.
#[tokio::test(flavor = "multi_thread")]
async fn a_scene_file_of_many_megabytes_comes_back() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let mut document = scene["document"].clone();
    let points: Vec<[f32; 3]> = (0..400).map(|i| [i as f32 * 0.25, 5.0, 0.5]).collect();
    let stroke = |id| json!({"id": id, "tool": "add", "radius_m": 2.0, "strength": 1.0, "falloff": 0.5, "points": points});
    document["paints"] =
        json!([{"id": 1, "name": "Here", "bare": 0.0, "strokes": (1..900).map(stroke).collect::<Vec<_>>()}]);
    assert!(document.to_string().len() > 4 << 20);
    let (status, made) =
        stage.ask("POST", "/api/scenes", Some(json!({"from": "document", "document": document}))).await;
    assert_eq!(status, StatusCode::CREATED, "{}", made["message"]);
    let (status, file) =
        stage.bytes(&format!("/api/scenes/{}/handoff/json", made["id"].as_str().unwrap())).await;
    assert_eq!(status, StatusCode::OK);
    let again: Value = serde_json::from_slice(&file).unwrap();
    let (status, _) =
        stage.ask("POST", "/api/scenes", Some(json!({"from": "document", "document": again}))).await;
    assert_eq!(status, StatusCode::CREATED);
    stage.end().await;
}

/// `web/openapi.json` is what the typed client is made from.
#[test]
fn the_interface_that_is_written_down_is_the_one_that_is_served() {
    let kept = include_str!("../../../../web/openapi.json");
    let served = rookery_server::openapi::document();
    let kept: Value = serde_json::from_str(kept).unwrap();
    assert!(kept == served, "web/openapi.json is stale; run: cargo xtask client");
}
