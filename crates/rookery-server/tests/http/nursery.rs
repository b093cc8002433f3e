//! Species: listed, edited, forked, built and pictured.

use crate::common::Stage;
use axum::http::StatusCode;
use serde_json::{Value, json};

async fn species(stage: &Stage, scene: &Value, id: &str) -> Value {
    let path = format!("/api/scenes/{}/species", scene["id"].as_str().unwrap());
    let (status, list) = stage.ask("GET", &path, None).await;
    assert_eq!(status, StatusCode::OK, "{list}");
    let all = list["species"].as_array().unwrap();
    all.iter().find(|s| s["species"]["id"] == id).cloned().unwrap_or(Value::Null)
}

fn form(scene: &Value, species: &Value, tail: &str) -> String {
    let (id, key) = (species["species"]["id"].as_str().unwrap(), species["key"].as_str().unwrap());
    format!("/api/scenes/{}/species/{id}/{key}/{tail}", scene["id"].as_str().unwrap())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_edited_species_changes_its_plants_and_undo_brings_the_ready_one_back() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let before = species(&stage, &scene, "thrift").await;
    assert_eq!((&before["own"], &before["ready"]), (&json!(false), &json!(true)));
    assert_eq!(before["used_by"].as_array().unwrap().len(), 1);
    let (status, mesh) = stage.bytes(&form(&scene, &before, "forms/0/full")).await;
    assert_eq!((status, &mesh[..4]), (StatusCode::OK, b"RKME".as_slice()));

    let mut value = before["species"].clone();
    value["plan"]["flowers"] = json!(60);
    let (status, edited) = stage.command(&scene, json!({"do": "put_species", "value": value})).await;
    assert_eq!(status, StatusCode::OK, "{edited}");
    let after = species(&stage, &edited, "thrift").await;
    assert_eq!(after["own"], true);
    assert!(after["sizes"][0]["triangles"].as_u64() > before["sizes"][0]["triangles"].as_u64());
    // The old look is gone under its name; no plant has moved.
    assert_eq!(stage.bytes(&form(&edited, &before, "forms/0/full")).await.0, StatusCode::GONE);
    let keys = |s: &Value| -> Vec<Value> {
        s["layers"].as_array().unwrap().iter().map(|l| l["plants_key"].clone()).collect()
    };
    assert_eq!(keys(&scene), keys(&edited));

    let (_, undone) = stage.history(&edited, "undo").await;
    let back = species(&stage, &undone, "thrift").await;
    assert_eq!((&back["key"], &back["own"]), (&before["key"], &json!(false)));
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_fork_is_grown_and_cannot_be_taken_out_from_under_its_layer() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let mut value = species(&stage, &scene, "gorse").await["species"].clone();
    value["id"] = json!("gorse-2");
    value["forked_from"] = json!("gorse");
    let (_, scene) = stage.command(&scene, json!({"do": "put_species", "value": value})).await;
    let grow = json!({"do": "edit_layer", "id": 7, "edit": {"set": "species", "value": "gorse-2"}});
    let (status, scene) = stage.command(&scene, grow).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let (status, body) = stage.command(&scene, json!({"do": "remove_species", "id": "gorse-2"})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("Gorse"), "{body}");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn bad_settings_are_refused_in_words() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let good = species(&stage, &scene, "spruce").await["species"].clone();
    let bad = |change: &dyn Fn(&mut Value)| {
        let mut value = good.clone();
        change(&mut value);
        json!({"do": "put_species", "value": value})
    };
    for (command, words) in [
        (bad(&|v| v["plan"]["height_m"] = json!(900)), "Height is 900 m; it must be from 0.05 to 60 m"),
        (bad(&|v| v["id"] = json!("No Good")), "cannot name a species"),
        (bad(&|v| v["colours"]["leaf"] = json!([2.0, 0.0, 0.0])), "colour"),
        (bad(&|v| v["forms"] = json!(0)), "forms is 0"),
        (bad(&|v| v["plan"]["make"] = json!("cloud")), "cloud"),
        (bad(&|v| v["plan"]["warp"] = json!(1)), "warp"),
        (json!({"do": "set_season", "value": 9}), "season is 9"),
    ] {
        let (status, body) = stage.command(&scene, command).await;
        assert!(status.is_client_error(), "{words}: {body}");
        assert!(body["message"].as_str().unwrap().contains(words), "{words}: {body}");
    }
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_season_bares_the_trees_and_portraits_come_as_pictures() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let summer = species(&stage, &scene, "downy-birch").await;
    let (status, scene) = stage.command(&scene, json!({"do": "set_season", "value": 3.0})).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let winter = species(&stage, &scene, "downy-birch").await;
    let leaves = |s: &Value| s["sizes"][0]["triangles"].as_u64().unwrap();
    assert!(leaves(&winter) < leaves(&summer) / 2, "{} and {}", leaves(&winter), leaves(&summer));
    let path = form(&scene, &winter, "portrait?width=32&height=32&samples=1&figure=true&forms=2");
    let (status, png) = stage.bytes(&path).await;
    assert_eq!((status, &png[1..4]), (StatusCode::OK, b"PNG".as_slice()));
    assert_eq!(stage.bytes(&form(&scene, &winter, "forms/99/full")).await.0, StatusCode::NOT_FOUND);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn stand_ins_are_lighter_and_say_how_far_they_are_off() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let gorse = species(&stage, &scene, "gorse").await;
    let (status, list) = stage.ask("GET", &form(&scene, &gorse, "stand-ins"), None).await;
    assert_eq!(status, StatusCode::OK, "{list}");
    let kinds: Vec<&str> = list.as_array().unwrap().iter().map(|s| s["kind"].as_str().unwrap()).collect();
    assert_eq!(kinds, ["light", "far", "hull", "box", "card"]);
    let of = |kind: &str| list.as_array().unwrap().iter().find(|s| s["kind"] == kind).unwrap();
    let full = gorse["sizes"][0]["triangles"].as_u64().unwrap();
    assert!(list.as_array().unwrap().iter().all(|s| s["size"]["triangles"].as_u64().unwrap() * 3 < full));
    assert_eq!((&of("box")["size"]["triangles"], &of("card")["size"]["triangles"]), (&json!(12), &json!(4)));
    // A box hides the sky between the branches; fewer, larger leaves keep the outline better.
    let off = |kind: &str| of(kind)["outline_error"].as_f64().unwrap();
    assert!(off("light") < off("box") && off("light") > 0.0, "{list}");
    // All forms in one answer: three details, hull, box, card.
    let (_, bytes) = stage.bytes(&form(&scene, &gorse, "forms")).await;
    let (mut at, mut letters) = (0, Vec::new());
    while at < bytes.len() {
        let length = u32::from_le_bytes(bytes[at..at + 4].try_into().unwrap()) as usize;
        letters.push(String::from_utf8_lossy(&bytes[at + 4..at + 8]).into_owned());
        at = (at + 4 + length).next_multiple_of(4);
    }
    let forms = gorse["species"]["forms"].as_u64().unwrap() as usize;
    assert_eq!(letters.iter().filter(|l| *l == "RKME").count(), forms * 5);
    assert_eq!(letters.iter().filter(|l| *l == "RKCD").count(), forms);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn communities_are_foretold_dropped_kept_and_thrown_away() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap().to_owned();
    let (_, ready) = stage.ask("GET", "/api/communities", None).await;
    assert!(ready.as_array().unwrap().len() >= 6);
    let (status, plan) = stage.ask("GET", &format!("/api/scenes/{id}/communities/ready-1"), None).await;
    assert_eq!(status, StatusCode::OK, "{plan}");
    assert!(plan["forecast"]["plants"].as_u64().unwrap() > 1000);
    let before = scene["layers"].as_array().unwrap().len();
    let (status, dropped) = stage.command(&scene, plan["command"].clone()).await;
    assert_eq!(status, StatusCode::OK, "{dropped}");
    assert!(dropped["layers"].as_array().unwrap().len() > before);
    // Layers of this scene, kept for others.
    let body = json!({"name": "Scrub of the head", "layers": [7, 8], "species": ["thrift"]});
    let (status, kept) = stage.ask("POST", &format!("/api/scenes/{id}/communities"), Some(body)).await;
    assert_eq!(status, StatusCode::CREATED, "{kept}");
    assert_eq!(kept["community"]["layers"].as_array().unwrap().len(), 2);
    let path = format!("/api/communities/{}", kept["id"].as_str().unwrap());
    let (status, plan) = stage.ask("GET", &format!("/api/scenes/{id}{}", &path[4..]), None).await;
    assert_eq!((status, plan["forecast"]["layers"].as_array().map(Vec::len)), (StatusCode::OK, Some(2)));
    assert_eq!(stage.ask("DELETE", &path, None).await.0, StatusCode::NO_CONTENT);
    assert_eq!(stage.ask("DELETE", &path, None).await.0, StatusCode::NOT_FOUND);
    // A file that breaks a rule is refused in words.
    let mut bad = kept["community"].clone();
    bad["layers"][0]["stance"]["size"] = json!({"min": -3, "max": 1});
    let (status, body) = stage.ask("POST", "/api/communities", Some(bad)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("size"), "{body}");
    let (status, _) = stage.ask("GET", &format!("/api/scenes/{id}/communities/ready-99"), None).await;
    assert_eq!(status, StatusCode::NOT_FOUND);
    stage.end().await;
}

const WILLOW: &[u8] = include_bytes!("../../../rookery-formats/tests/data/dwarf_willow.glb");

#[tokio::test(flavor = "multi_thread")]
async fn a_mesh_file_becomes_a_species_with_its_pictures_and_travels_in_a_community_file() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (status, mesh) = stage.upload("/api/meshes", WILLOW.to_vec()).await;
    assert_eq!(status, StatusCode::CREATED, "{mesh}");
    let plan = json!({"blob": mesh["blob"], "name": "dwarf_willow.glb", "tall_m": 1.0, "wide_m": 1.0, "thin": true,
        "placing": {"unit_m": 1.0, "up": "y", "recentre": true, "turn_over": false}});
    let (status, found) = stage.ask("POST", "/api/imports/measure", Some(plan.clone())).await;
    assert_eq!((status, &found["in_file"]), (StatusCode::OK, &json!(36)), "{found}");
    assert_eq!(found["pictures"][0]["width_px"], 64);
    let mut vast = plan.clone();
    vast["placing"]["unit_m"] = json!(1e30);
    let (status, body) = stage.ask("POST", "/api/imports/measure", Some(vast)).await;
    assert!(
        status == StatusCode::UNPROCESSABLE_ENTITY
            && body["message"].as_str().unwrap().contains("unit of a mesh"),
        "{body}"
    );

    let mut value = species(&stage, &scene, "thrift").await["species"].clone();
    value["id"] = json!("dwarf-willow");
    value["forms"] = json!(1);
    value["plan"] = plan;
    value["plan"]["make"] = json!("imported");
    value["plan"]["tall_m"] = found["tall_m"].clone();
    let (status, scene) = stage.command(&scene, json!({"do": "put_species", "value": value.clone()})).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let taken = species(&stage, &scene, "dwarf-willow").await;
    assert_eq!((&taken["sizes"][0]["triangles"], &taken["problem"]), (&json!(36), &Value::Null), "{taken}");
    assert!((taken["height_m"].as_f64().unwrap() - 1.4).abs() < 1e-3);
    let (_, forms) = stage.bytes(&form(&scene, &taken, "forms")).await;
    assert!(forms.windows(4).any(|w| w == b"RKPX"), "its picture goes to the view");

    // A community with it, out as a file and in again where the file is unknown.
    let path = format!("/api/scenes/{}/communities", scene["id"].as_str().unwrap());
    let (_, kept) =
        stage.ask("POST", &path, Some(json!({"name": "Willow", "species": ["dwarf-willow"]}))).await;
    let path = format!("/api/communities/{}/file", kept["id"].as_str().unwrap());
    let (status, mut file) = stage.ask("GET", &path, None).await;
    assert_eq!((status, file["files"].as_object().unwrap().len()), (StatusCode::OK, 1));
    let other = Stage::new().await;
    let (status, brought) = other.ask("POST", "/api/communities", Some(file.clone())).await;
    assert_eq!(status, StatusCode::CREATED, "{brought}");
    let scene = other.scene().await;
    let (status, _) = other.command(&scene, json!({"do": "put_species", "value": value})).await;
    assert_eq!(status, StatusCode::OK, "the file came with the community");

    // Without its file, or with another one under its name, it is not taken.
    let third = Stage::new().await;
    let hash = mesh["blob"].as_str().unwrap();
    file["files"][hash] = json!("AAAA");
    let (status, body) = third.ask("POST", "/api/communities", Some(file.clone())).await;
    assert!(
        status == StatusCode::UNPROCESSABLE_ENTITY
            && body["message"].as_str().unwrap().contains("dwarf_willow.glb"),
        "{body}"
    );
    file["files"] = json!({});
    let (status, body) = third.ask("POST", "/api/communities", Some(file)).await;
    assert!(
        status == StatusCode::UNPROCESSABLE_ENTITY && body["message"].as_str().unwrap().contains("missing"),
        "{body}"
    );
    third.end().await;
    other.end().await;
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn an_import_that_cannot_be_made_is_refused_in_words() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let mut value = species(&stage, &scene, "thrift").await["species"].clone();
    value["plan"] = json!({"make": "imported", "blob": "0".repeat(64), "name": "gone.obj", "tall_m": 1.0, "wide_m": 1.0,
        "placing": {"unit_m": 1.0, "up": "y", "recentre": true, "turn_over": false}});
    let (status, body) = stage.command(&scene, json!({"do": "put_species", "value": value.clone()})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("gone.obj"), "{body}");
    let (_, mesh) = stage.upload("/api/meshes", b"v 0 0 0\nv 1 0 0\nv 0 0 1\nf 1 2 3\n".to_vec()).await;
    value["plan"]["blob"] = mesh["blob"].clone();
    value["plan"]["parts"] = json!(["nothing"]);
    let (_, body) = stage.command(&scene, json!({"do": "put_species", "value": value.clone()})).await;
    assert!(body["message"].as_str().unwrap().contains("no part called nothing"), "{body}");
    value["plan"]["parts"] = json!([]);
    value["plan"]["scale"] = json!(0.0);
    let (status, body) = stage.command(&scene, json!({"do": "put_species", "value": value})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{body}");
    stage.end().await;
}
