//! The worst file ends one request, and nothing else.

use crate::common::Stage;
use axum::http::StatusCode;
use rookery_server::error::ApiError;
use rookery_server::reading::{Kind, Readers};
use serde_json::json;
use std::path::PathBuf;

/// A program that stands in for the one that reads files.
fn stand_in(name: &str, script: &str) -> PathBuf {
    use std::os::unix::fs::PermissionsExt;
    let file = std::env::temp_dir().join(format!("rookery-{}-{name}", std::process::id()));
    std::fs::write(&file, format!("#!/bin/sh\n{script}\n")).unwrap();
    std::fs::set_permissions(&file, std::fs::Permissions::from_mode(0o755)).unwrap();
    file
}

/// Broke: an allocation that failed ended the whole server. Now it ends the process that reads.
#[tokio::test(flavor = "multi_thread")]
async fn a_reader_that_dies_is_told_in_words() {
    for (name, script) in
        [("dies", "kill -9 $$"), ("fails", "exit 3"), ("babbles", "cat > /dev/null; echo nonsense")]
    {
        let program = stand_in(name, script);
        let told = Readers::by(program.clone()).read(Kind::Mesh, &vec![b'x'; 1 << 20]).await.unwrap_err();
        assert!(matches!(told, ApiError::FileTooHard { .. }), "{told}");
        std::fs::remove_file(program).unwrap();
    }
}

/// The process that reads can open no file: what it would need is there, and it cannot have it.
#[tokio::test(flavor = "multi_thread")]
async fn files_are_read_by_a_process_that_can_open_nothing() {
    let readers = Readers::by(env!("CARGO_BIN_EXE_rookery").into());
    let line = r#"<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><path d="M0 0H9"/></svg>"#;
    let outlines = readers.read(Kind::Outlines([0.0; 2]), line.as_bytes()).await.unwrap();
    assert_eq!(outlines.as_array().unwrap().len(), 1);
    let told = readers.read(Kind::Picture, b"no picture").await.unwrap_err();
    assert!(told.to_string().contains("cannot be read as a picture"), "{told}");
    let told = readers.read(Kind::Mesh, b"").await.unwrap_err();
    assert!(told.to_string().contains("none of the kinds"), "{told}");
}

/// A picture that takes more memory than a file may ends its own process; the server goes on.
#[tokio::test(flavor = "multi_thread")]
async fn a_file_that_takes_all_memory_ends_one_request() {
    let stage = Stage::new().await;
    // 6 million points of a cloud say that they are 12 million vertices of 60 properties each.
    let mut ply = String::from("ply\nformat binary_little_endian 1.0\nelement vertex 4294967295\n");
    (0..60).for_each(|i| ply += &format!("property double p{i}\n"));
    ply += "element face 4294967295\nproperty list uint int vertex_indices\nend_header\n";
    let (status, body) = stage.upload("/api/meshes", ply.into_bytes()).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{body}");
    assert!(body["message"].as_str().unwrap().len() > 20, "{body}");
    assert_eq!(stage.ask("GET", "/api/scenes", None).await.0, StatusCode::OK);
    stage.end().await;
}

/// A file is read here only as what it was read apart: one kept as a picture is looked at anew before it becomes a ground.
#[tokio::test(flavor = "multi_thread")]
async fn a_file_kept_as_one_thing_is_read_apart_before_it_becomes_another() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let grid = "ncols 2\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 5\n0 3\n1 2\n";
    let (status, kept) = stage.upload("/api/heightmaps", grid.into()).await;
    assert_eq!(status, StatusCode::CREATED, "{kept}");
    let ground = json!({"id": 7, "name": "Rock", "source": {"kind": "mesh", "blob": kept["blob"], "name": "rock.obj",
        "placing": {"unit_m": 1.0, "up": "y", "recentre": true, "turn_over": false}}, "x_m": 0.0, "y_m": 0.0, "z_m": 0.0, "turn_deg": 0.0, "scale": 1.0});
    let (status, body) = stage.command(&scene, json!({"do": "put_ground", "value": ground})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{body}");
    assert_eq!(body["code"], "bad_mesh", "{body}");
    stage.end().await;
}
