//! Mixes, pictures, layers on plants and what is measured, over the interface.

use crate::common::Stage;
use axum::http::StatusCode;
use rookery_core::scene::{Amount, Clearance, Layer, LayerId};
use rookery_formats::picture::png_srgb8;
use serde_json::{Value, json};

/// What the server measures of a layer, by its place in the list.
async fn findings(stage: &Stage, scene: &Value, place: usize) -> Value {
    let (id, key) =
        (&scene["document"]["layers"][place]["id"], scene["layers"][place]["plants_key"].as_str().unwrap());
    let path = format!("/api/scenes/{}/layers/{id}/findings/{key}", scene["id"].as_str().unwrap());
    let (status, body) = stage.ask("GET", &path, None).await;
    assert_eq!(status, StatusCode::OK, "{body}");
    body
}

async fn account(stage: &Stage, scene: &Value, place: usize) -> Value {
    let (_, all) =
        stage.ask("GET", &format!("/api/scenes/{}/measure", scene["id"].as_str().unwrap()), None).await;
    all[place]["tally"].clone()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mix_is_refused_when_it_makes_no_sense_and_a_lone_species_is_still_understood() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let edit = |edit: Value| json!({"do": "edit_layer", "id": 1, "edit": edit});
    let part = |species: &str, share: f64| json!({"species": species, "share": share});
    for (mix, why) in [
        (json!([]), "at least one species"),
        (json!([part("marram", 0.0)]), "at least one species"),
        (json!([part("marram", 0.5), part("marram", 0.5)]), "is in this mix already"),
        (json!([part("nothing", 1.0)]), "no species"),
        (json!([part("marram", 1.5)]), "must be from 0 to 1"),
    ] {
        let (status, body) = stage.command(&scene, edit(json!({"set": "mix", "value": mix}))).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{body}");
        assert!(body["message"].as_str().unwrap().contains(why), "{body}");
    }
    let mix = json!([part("marram", 0.75), part("fescue", 0.25)]);
    let (_, mixed) = stage.command(&scene, edit(json!({"set": "mix", "value": mix}))).await;
    let csv = String::from_utf8(
        stage.bytes(&format!("/api/scenes/{}/handoff/csv", scene["id"].as_str().unwrap())).await.1,
    )
    .unwrap();
    let of =
        |species: &str| csv.lines().filter(|l| l.starts_with(&format!("Marram,{species},"))).count() as f64;
    let share = of("fescue") / (of("fescue") + of("marram"));
    assert!((share - 0.25).abs() < 0.05, "{share}");
    // One species by its id, as older callers say it.
    let (status, back) = stage.command(&mixed, edit(json!({"set": "species", "value": "thrift"}))).await;
    assert_eq!(
        (status, &back["document"]["layers"][0]["mix"]),
        (StatusCode::OK, &json!([part("thrift", 1.0)]))
    );
    let (_, undone) = stage.history(&back, "undo").await;
    assert_eq!(undone["document"], mixed["document"]);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_flat_colour_map_is_read_and_says_where_plants_stand() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    // The western half green, the eastern red.
    let pixels: Vec<u8> =
        (0..32 * 32).flat_map(|i| if i % 32 < 16 { [20, 160, 40] } else { [200, 30, 30] }).collect();
    let png = png_srgb8(32, 32, &pixels).unwrap();
    let (status, read) = stage.upload("/api/pictures", png).await;
    assert_eq!((status, &read["width_px"]), (StatusCode::CREATED, &json!(32)), "{read}");
    assert_eq!(read["colours"].as_array().unwrap().len(), 2);
    let green = json!([20.0 / 255.0, 160.0 / 255.0, 40.0 / 255.0]);
    let picture = json!({"id": 1, "name": "Map", "file": "map.png", "blob": read["blob"], "x_m": 0.0, "z_m": 0.0,
        "width_m": 240.0, "depth_m": 240.0, "turn_deg": 0.0, "repeats": false});
    let mask = json!({"id": 9, "quantity": "colour", "picture": {"id": 1, "colour": green}, "enabled": true,
        "response": {"start": 0.0, "full_from": 0.0, "full_to": 0.02, "end": 0.04, "inverted": false}});
    let commands = json!([{"do": "put_picture", "value": picture},
        {"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": [mask]}}]);
    let (status, after) = stage.command(&scene, json!({"do": "all", "commands": commands})).await;
    assert_eq!(status, StatusCode::OK, "{after}");
    let tally = account(&stage, &after, 0).await;
    assert!((tally["mask_shares"][0].as_f64().unwrap() - 0.5).abs() < 0.02, "{tally}");
    let (status, body) = stage.upload("/api/pictures", b"no picture".to_vec()).await;
    assert_eq!((status, &body["code"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("bad_picture")), "{body}");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn moss_grows_on_boulders_follows_them_and_is_measured_on_them() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let layers = scene["document"]["layers"].as_array().unwrap();
    let moss = layers.iter().position(|l| l["name"] == "Moss on boulders").unwrap();
    let before = account(&stage, &scene, moss).await;
    assert!(before["placed"].as_u64().unwrap() > 500, "{before}");
    let measured = findings(&stage, &scene, moss).await;
    assert!(measured["hovering"]["share"].as_f64().unwrap() < 0.2, "{measured}");
    assert!(measured["triangles"].as_u64().unwrap() > 10_000);
    // Other boulders, other moss; without them none, and all of it again when they come back.
    let (_, other) = stage
        .command(&scene, json!({"do": "edit_layer", "id": 2, "edit": {"set": "seed", "value": 77}}))
        .await;
    assert_ne!(other["layers"][moss]["plants_key"], scene["layers"][moss]["plants_key"]);
    let (_, without) = stage.command(&other, json!({"do": "remove_layer", "id": 2})).await;
    assert_eq!(account(&stage, &without, moss - 1).await["placed"], 0);
    let (_, back) = stage.history(&without, "undo").await;
    let (_, back) = stage.history(&back, "undo").await;
    assert_eq!(account(&stage, &back, moss).await, before);
    let cycle = json!({"do": "edit_layer", "id": 2, "edit": {"set": "on_plants", "value": 11}});
    let (status, body) = stage.command(&back, cycle).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("Moss on boulders"), "{body}");
    stage.end().await;
}

/// Broke: with a cap each layer asked for all before it, and those for all before them: forty layers never ended.
#[tokio::test(flavor = "multi_thread")]
async fn many_layers_under_a_cap_grow_one_after_the_other() {
    let stage = Stage::new().await;
    let mut document = rookery_core::scene::kittiwake_head();
    let mut layer = document.layers[0].clone();
    layer.masks.clear();
    (layer.amount, layer.clearance) = (Amount::Total { value: 3 }, Clearance::default());
    document.layers = (1..=40).map(|id| Layer { id: LayerId(id), ..layer.clone() }).collect();
    document.cap = Some(100);
    let new = json!({"from": "document", "document": document});
    let (status, scene) = stage.ask("POST", "/api/scenes", Some(new)).await;
    assert_eq!(status, StatusCode::CREATED, "{scene}");
    let path = format!("/api/scenes/{}/measure", scene["id"].as_str().unwrap());
    let asked = tokio::time::timeout(std::time::Duration::from_secs(60), stage.ask("GET", &path, None)).await;
    let (status, all) = asked.expect("it ends");
    assert_eq!(status, StatusCode::OK, "{all}");
    let placed = all.as_array().unwrap().iter().map(|l| l["tally"]["placed"].as_u64().unwrap());
    assert_eq!(placed.sum::<u64>(), 100);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_scene_holds_no_more_plants_than_its_cap_and_says_what_it_cuts() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let path = format!("/api/scenes/{}/measure", scene["id"].as_str().unwrap());
    let counts = async |key: &str| -> Vec<u64> {
        let (status, all) = stage.ask("GET", &path, None).await;
        assert_eq!(status, StatusCode::OK, "{all}");
        all.as_array().unwrap().iter().map(|l| l["tally"][key].as_u64().unwrap()).collect()
    };
    let free = counts("placed").await;
    let all: u64 = free.iter().sum();
    let (status, body) = stage.command(&scene, json!({"do": "cap_scene", "value": 0})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("the cap of the scene is 0 plants"), "{body}");
    let cap = all * 3 / 5;
    let (status, capped) = stage.command(&scene, json!({"do": "cap_scene", "value": cap})).await;
    assert_eq!(status, StatusCode::OK, "{capped}");
    let placed = counts("placed").await;
    assert_eq!(placed.iter().sum::<u64>(), cap);
    // Whoever is cut may have no more than it has; the boulders are served first.
    let allowed = counts("cap").await;
    assert!(
        placed.iter().zip(&free).zip(&allowed).all(|((p, f), c)| p == f || p == c),
        "{placed:?} {free:?}"
    );
    let boulders = |s: &Value| {
        let layers = s["document"]["layers"].as_array().unwrap();
        layers.iter().position(|l| l["name"] == "Boulders").unwrap()
    };
    assert_eq!(placed[boulders(&capped)], free[boulders(&capped)]);
    // What the view is given is the same.
    for (i, layer) in capped["layers"].as_array().unwrap().iter().enumerate() {
        let (id, key) = (&capped["document"]["layers"][i]["id"], layer["plants_key"].as_str().unwrap());
        let (_, buffer) = stage
            .bytes(&format!("/api/scenes/{}/layers/{id}/plants/{key}", scene["id"].as_str().unwrap()))
            .await;
        let text = String::from_utf8_lossy(&buffer);
        assert!(text.contains(&format!("\"placed\":{}", placed[i])), "layer {id}");
    }
    let (_, undone) = stage.history(&capped, "undo").await;
    assert_eq!(undone["document"], scene["document"]);
    assert_eq!(counts("placed").await, free);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_wind_is_told_set_refused_and_taken_back_and_nothing_grows_otherwise() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let path = format!("/api/scenes/{}/motion", scene["id"].as_str().unwrap());
    let (status, before) = stage.ask("GET", &path, None).await;
    assert_eq!((status, &before["force"]["name"]), (StatusCode::OK, &json!("moderate breeze")));
    assert_eq!(before["waves"].as_array().unwrap().len(), 24);
    let edit = |edit: Value| json!({"do": "edit_motion", "edit": edit});
    let (_, windy) = stage.command(&scene, edit(json!({"set": "speed", "value": 18.0}))).await;
    assert_eq!(windy["document"]["motion"]["wind"]["speed_m_per_s"], 18.0);
    assert_eq!(windy["layers"], scene["layers"], "nothing that grows has another name");
    let (_, now) = stage.ask("GET", &path, None).await;
    assert_eq!(now["force"]["name"], "gale");
    let push = |facts: &Value| facts["layers"][0]["species"][0]["push"]["speed_m_per_s"].as_f64().unwrap();
    assert!((push(&now) / push(&before) - 18.0 / 7.5).abs() < 1e-3);
    for bad in [
        json!({"set": "speed", "value": -1.0}),
        json!({"set": "from", "value": 400.0}),
        json!({"set": "frame_rate", "value": 0.0}),
    ] {
        let (status, answer) = stage.command(&windy, edit(bad)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{answer}");
    }
    let (_, back) = stage.history(&windy, "undo").await;
    assert_eq!(back["document"]["motion"], scene["document"]["motion"]);
    let (status, _) = stage.ask("GET", "/api/scenes/0190aaaa-0000-7000-8000-000000000000/motion", None).await;
    assert_eq!(status, StatusCode::NOT_FOUND);
    stage.end().await;
}
