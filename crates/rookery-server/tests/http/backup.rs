//! A whole installation in one file, and back.

use crate::common::Stage;
use serde_json::json;
use std::process::Command;

fn rookery(args: &[&str], url: &str) -> (bool, String) {
    let output =
        Command::new(env!("CARGO_BIN_EXE_rookery")).args(args).env("DATABASE_URL", url).output().unwrap();
    let text = [output.stdout, output.stderr].concat();
    (output.status.success(), String::from_utf8(text).unwrap())
}

#[tokio::test(flavor = "multi_thread")]
async fn all_of_an_installation_goes_into_a_file_and_comes_back() {
    let (stage, other) = (Stage::new().await, Stage::new().await);
    let scene = stage.scene().await;
    let (_, changed) = stage.command(&scene, json!({"do": "rename_scene", "name": "Gull Ledge"})).await;
    let grid = "ncols 2\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 5\n0 3\n1 2\n";
    let (_, kept) = stage.upload("/api/heightmaps", grid.into()).await;
    let file = std::env::temp_dir().join(format!("rookery-backup-{}", std::process::id()));
    let path = file.to_str().unwrap();

    let (done, told) = rookery(&["backup", "--out", path], &stage.url);
    assert!(done, "{told}");
    let (done, told) = rookery(&["restore", path], &other.url);
    assert!(!done && told.contains("not empty"), "{told}");
    let (done, told) = rookery(&["restore", path, "--replace"], &other.url);
    assert!(done, "{told}");

    let back = other.another_server().await;
    let id = scene["id"].as_str().unwrap();
    let (_, there) = back.ask("GET", &format!("/api/scenes/{id}"), None).await;
    assert_eq!(there, changed);
    assert_eq!(
        back.bytes(&format!("/api/blobs/{}", kept["blob"].as_str().unwrap())).await.1,
        grid.as_bytes()
    );
    let (_, undone) = back.history(&there, "undo").await;
    assert_eq!(undone["document"], scene["document"]);

    std::fs::write(&file, "nothing of ours").unwrap();
    let (done, told) = rookery(&["restore", path, "--replace"], &other.url);
    assert!(!done && told.contains("no backup of Rookery"), "{told}");
    std::fs::remove_file(&file).unwrap();
    let (done, told) = rookery(&["backup", "--out", "/nowhere/at/all"], &stage.url);
    assert!(!done && told.contains("pg_dump"), "{told}");
    stage.end().await;
    other.end().await;
}
