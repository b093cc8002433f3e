//! Files that are brought in and given out.

use crate::common::{Stage, head};
use axum::http::StatusCode;
use serde_json::{Value, json};

const JACKSBORO: &[u8] = include_bytes!("../../../rookery-formats/tests/data/jacksboro.asc");

#[tokio::test(flavor = "multi_thread")]
async fn outlines_go_out_as_geojson_and_come_back() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (status, file) =
        stage.bytes(&format!("/api/scenes/{}/handoff/geojson", scene["id"].as_str().unwrap())).await;
    assert_eq!(status, StatusCode::OK);
    let (status, back) = stage.upload("/api/outlines", file).await;
    assert_eq!((status, back.as_array().unwrap().len()), (StatusCode::OK, 4));
    assert_eq!(back[1]["name"], "Footpath");
    let (status, body) = stage.upload("/api/outlines", b"not lines".to_vec()).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(body["message"], "this is neither a GeoJSON file nor an SVG drawing");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mesh_is_looked_over_and_becomes_an_obstacle_when_asked_for() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let file = include_bytes!("../../../rookery-formats/tests/data/two.obj").to_vec();
    let (status, read) = stage.upload("/api/meshes", file).await;
    assert_eq!((status, &read["inspection"]["triangles"]), (StatusCode::CREATED, &json!(268)));
    assert_eq!(
        read["inspection"]["parts"][0],
        json!({"label": "Ring", "name": "Ring", "material": "lichen", "triangles": 256})
    );
    let put = |blob: &Value| {
        json!({"do": "put_obstacle", "value": {"id": 9, "name": "Ring", "x_m": 40.0, "z_m": 60.0, "lift_m": 0.0,
            "on_ground": true, "turn_deg": 0.0, "scale": 1.0, "hidden": false, "shape": {"kind": "mesh", "blob": blob,
            "name": "two.obj", "placing": {"unit_m": 0.5, "up": "y", "recentre": true, "turn_over": false}}}})
    };
    let (status, changed) = stage.command(&scene, put(&read["blob"])).await;
    assert_eq!(status, StatusCode::OK, "{changed}");
    let key = changed["obstacles"][2]["mesh_key"].as_str().unwrap();
    let path = format!("/api/scenes/{}/obstacles/9/mesh/{key}", scene["id"].as_str().unwrap());
    let (status, bytes) = stage.bytes(&path).await;
    assert_eq!((status, &head(&bytes)["triangles"]), (StatusCode::OK, &json!(268)));
    let (status, glb) =
        stage.bytes(&format!("/api/scenes/{}/handoff/glb", scene["id"].as_str().unwrap())).await;
    assert!(status == StatusCode::OK && glb.windows(6).any(|w| w == b"\"Ring\""));
    // A mesh whose file is not there never gets into the document.
    let (status, body) = stage.command(&changed, put(&json!("0".repeat(64)))).await;
    assert_eq!((status, &body["message"]), (StatusCode::NOT_FOUND, &json!("there is no such file")));
    let (status, body) = stage.upload("/api/meshes", b"v 0 0 0\nf 1 2 3\n".to_vec()).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(body["message"], "line 2: a corner names vertex 2, but there are 1 so far");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_heightmap_is_read_first_and_becomes_the_ground_when_asked_for() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (status, read) = stage.upload("/api/heightmaps", JACKSBORO.to_vec()).await;
    assert_eq!((status, &read["inspection"]["nx"]), (StatusCode::CREATED, &json!(64)));
    let info = &read["inspection"];
    let source = json!({"kind": "heightmap", "blob": read["blob"], "format": info["format"], "name": "jacksboro.asc",
        "width_m": info["width_m"], "depth_m": info["depth_m"], "low_m": info["low"], "high_m": info["high"],
        "samples": [info["nx"], info["nz"]]});
    let edit = |source: &Value| json!({"do": "edit_ground", "edit": {"set": "source", "value": source}});
    let (status, changed) = stage.command(&scene, edit(&source)).await;
    assert_eq!(status, StatusCode::OK, "{changed}");
    let path = format!(
        "/api/scenes/{}/ground/{}",
        scene["id"].as_str().unwrap(),
        changed["ground_key"].as_str().unwrap()
    );
    let (status, bytes) = stage.bytes(&path).await;
    assert_eq!((status, &bytes[..4], &head(&bytes)["nx"]), (StatusCode::OK, b"RKGR".as_slice(), &json!(64)));
    // A ground whose file is not there never gets into the document.
    let mut lost = source.clone();
    lost["blob"] = "0".repeat(64).into();
    let (status, body) = stage.command(&changed, edit(&lost)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("which is missing"), "{body}");
    // Nor one that says of its file what is not so.
    let mut other = source.clone();
    other["samples"] = json!([10, 12]);
    let (status, body) = stage.command(&changed, edit(&other)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{body}");
    assert!(body["message"].as_str().unwrap().contains("the scene says 10 x 12"), "{body}");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn bad_and_oversized_uploads_are_refused_with_the_reason() {
    let stage = Stage::new().await;
    let (status, body) = stage.upload("/api/heightmaps", b"\x89PNG\r\n\x1a\n torn".to_vec()).await;
    assert_eq!((status, &body["code"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("bad_heightmap")));
    let (status, body) =
        stage.upload("/api/heightmaps", b"ncols 40000\nnrows 40000\ncellsize 1\n".to_vec()).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("40000 x 40000"), "{body}");
    let (status, _) = stage.upload("/api/heightmaps", vec![b' '; (64 << 20) + 1]).await;
    assert_eq!(status, StatusCode::PAYLOAD_TOO_LARGE);
    stage.end().await;
}
