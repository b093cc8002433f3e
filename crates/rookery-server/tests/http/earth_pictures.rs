//! Pictures that earths wear, over the interface.

use crate::common::{Stage, head};
use axum::http::StatusCode;
use rookery_core::scene::{blob_id, kittiwake_head, to_json};
use rookery_formats::picture::png_srgb8;
use serde_json::{Value, json};

/// Of one colour all over.
fn plain(rgb: [u8; 3]) -> Vec<u8> {
    png_srgb8(16, 16, &rgb.repeat(256)).unwrap()
}

fn textures_path(scene: &Value) -> String {
    format!(
        "/api/scenes/{}/textures/{}",
        scene["id"].as_str().unwrap(),
        scene["textures_key"].as_str().unwrap()
    )
}

#[tokio::test(flavor = "multi_thread")]
async fn an_earth_wears_pictures_until_they_are_taken_off() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (status, usual) = stage.bytes(&textures_path(&scene)).await;
    assert_eq!((status, &usual[..4]), (StatusCode::OK, b"RKTX".as_slice()));
    assert_eq!(head(&usual)["own"], head(&usual)["means"]);
    let mut blobs = Vec::new();
    for rgb in [[188, 90, 90], [128; 3], [40; 3]] {
        let (status, read) = stage.upload("/api/pictures", plain(rgb)).await;
        assert_eq!(status, StatusCode::CREATED, "{read}");
        blobs.push(read["blob"].clone());
    }
    let file = |i: usize, name: &str| json!({"blob": blobs[i], "file": name});
    let set = json!({"id": "turf", "name": "Clay", "colour": file(0, "clay.png"), "height": file(1, "clay_height.png"),
        "roughness": file(2, "clay_rough.png"), "size_m": 3.0, "relief_m": 0.1});
    let put = |set: Value| json!({"do": "put_earth_pictures", "value": set});
    let (status, worn) = stage.command(&scene, put(set.clone())).await;
    assert_eq!(status, StatusCode::OK, "{worn}");
    assert_ne!(worn["textures_key"], scene["textures_key"]);
    // Nothing grows otherwise, and the land is as it was.
    assert_eq!((&worn["layers"], &worn["ground_key"]), (&scene["layers"], &scene["ground_key"]));
    let bytes = stage.bytes(&textures_path(&worn)).await.1;
    let facts = head(&bytes);
    // A red of 188 in 255 is half the light (IEC 61966-2-1).
    let own: Vec<f64> = serde_json::from_value(facts["own"][0].clone()).unwrap();
    assert!((own[0] - 0.5028).abs() < 0.002 && own[1] < 0.15, "{own:?}");
    assert_eq!((&facts["own"][1], &facts["sheets"][0]["size_m"]), (&facts["means"][1], &json!(3.0)));
    assert!((facts["sheets"][0]["shine"].as_f64().unwrap() - (1.0 - 40.0 / 255.0)).abs() < 0.01);
    // The ground that is handed off is as red.
    let (status, glb) =
        stage.bytes(&format!("/api/scenes/{}/handoff/glb", worn["id"].as_str().unwrap())).await;
    assert_eq!((status, &glb[..4]), (StatusCode::OK, b"glTF".as_slice()));
    // What makes no sense is refused and changes nothing.
    for (field, value, why) in [
        ("size_m", json!(0.0), "from 0.05 to 100"),
        ("relief_m", json!(-1.0), "from 0 to 10"),
        ("name", json!(""), "name"),
    ] {
        let mut bad = set.clone();
        bad[field] = value;
        let (status, body) = stage.command(&worn, put(bad)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{body}");
        assert!(body["message"].as_str().unwrap().contains(why), "{body}");
    }
    let (_, off) = stage.command(&worn, json!({"do": "remove_earth_pictures", "id": "turf"})).await;
    assert_eq!(off["textures_key"], scene["textures_key"]);
    let (_, on) = stage.history(&off, "undo").await;
    assert_eq!((&on["document"], &on["textures_key"]), (&worn["document"], &worn["textures_key"]));
    let (status, body) = stage.command(&off, json!({"do": "remove_earth_pictures", "id": "rock"})).await;
    assert!(status.is_client_error(), "{body}");
    stage.end().await;
}

/// A scene file can name pictures that this server never had.
#[tokio::test(flavor = "multi_thread")]
async fn an_earth_goes_without_pictures_that_are_missing_and_says_which() {
    let stage = Stage::new().await;
    let mut document = to_json(&kittiwake_head());
    let gone = to_json(&blob_id(b"gone"));
    document["earth_pictures"] = json!([{"id": "sand", "name": "Strand", "colour": {"blob": gone, "file": "strand.png"}, "size_m": 1.0, "relief_m": 0.0}]);
    let (status, scene) =
        stage.ask("POST", "/api/scenes", Some(json!({"from": "document", "document": document}))).await;
    assert_eq!(status, StatusCode::CREATED, "{scene}");
    let (status, bytes) = stage.bytes(&textures_path(&scene)).await;
    assert_eq!(status, StatusCode::OK);
    let facts = head(&bytes);
    assert_eq!(facts["own"], facts["means"]);
    assert!(facts["amiss"][0].as_str().unwrap().contains("strand.png"), "{facts}");
    stage.end().await;
}
