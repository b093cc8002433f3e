//! The mean wind over the land, and masks that look at shelter from it.

use crate::common::Stage;
use axum::http::StatusCode;
use serde_json::{Value, json};

#[tokio::test(flavor = "multi_thread")]
async fn the_wind_over_the_land_has_a_name_and_is_told_over_any_point() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let motion = async || stage.ask("GET", &format!("/api/scenes/{id}/motion"), None).await.1;
    let named = |m: &Value| m["flow_key"].as_str().unwrap().to_owned();
    let first = named(&motion().await);
    let (status, buffer) = stage.bytes(&format!("/api/scenes/{id}/flow/{first}")).await;
    assert_eq!((status, &buffer[..4]), (StatusCode::OK, b"RKFL".as_slice()));
    let head: Value =
        serde_json::from_slice(&buffer[8..8 + u32::from_le_bytes(buffer[4..8].try_into().unwrap()) as usize])
            .unwrap();
    let cells = head["cells"][0].as_u64().unwrap() * head["cells"][1].as_u64().unwrap();
    let levels = head["heights"].as_array().unwrap().len() as u64;
    assert!(buffer.len() as u64 > cells * (levels * 8 + 4), "{head}");

    let at =
        async |x: f32, z: f32| stage.ask("GET", &format!("/api/scenes/{id}/wind?x={x}&z={z}"), None).await;
    let (status, told) = at(0.0, 0.0).await;
    assert_eq!(status, StatusCode::OK);
    let low = &told["heights"][0];
    assert!(low["times"].as_f64().unwrap() > 1.1, "the brow lies in the wind: {told}");
    assert!((200.0..300.0).contains(&low["from_deg"].as_f64().unwrap()), "{told}");
    assert_eq!(at(9999.0, 0.0).await.0, StatusCode::UNPROCESSABLE_ENTITY);
    let (status, _) = stage.ask("GET", &format!("/api/scenes/{id}/wind?x=0&z=0&ground=77"), None).await;
    assert_eq!(status, StatusCode::NOT_FOUND);

    // Speed and gusts leave the name as it is; where it comes from does not, and the one before is gone.
    let (_, scene) =
        stage.command(&scene, json!({"do": "edit_motion", "edit": {"set": "speed", "value": 3.0}})).await;
    assert_eq!(named(&motion().await), first);
    stage.command(&scene, json!({"do": "edit_motion", "edit": {"set": "from", "value": 40.0}})).await;
    assert_ne!(named(&motion().await), first);
    let (status, _) = stage.bytes(&format!("/api/scenes/{id}/flow/{first}")).await;
    assert_eq!(status, StatusCode::GONE);
    let (_, told) = at(0.0, 0.0).await;
    let from = told["heights"][2]["from_deg"].as_f64().unwrap();
    assert!((10.0..70.0).contains(&from), "{told}");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mask_of_shelter_grows_the_same_whatever_wind_is_played() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let mask = |extra: Value| {
        let mut mask = json!({"id": 1, "quantity": "wind", "enabled": true,
            "response": {"start": 0.0, "full_from": 0.0, "full_to": 0.8, "end": 0.9, "inverted": false}});
        mask.as_object_mut().unwrap().extend(extra.as_object().unwrap().clone());
        json!({"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": [mask]}})
    };
    let (status, refused) = stage.command(&scene, mask(json!({}))).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(refused["message"].as_str().unwrap().contains("must say where that comes from"), "{refused}");
    let (status, scene) = stage.command(&scene, mask(json!({"wind": {"from_deg": 250.0}}))).await;
    assert_eq!(status, StatusCode::OK);
    let key = |scene: &Value| {
        let layers = scene["layers"].as_array().unwrap();
        layers.iter().find(|l| l["id"] == 1).unwrap()["plants_key"].as_str().unwrap().to_owned()
    };
    let (id, named) = (scene["id"].as_str().unwrap(), key(&scene));
    let (status, plants) = stage.bytes(&format!("/api/scenes/{id}/layers/1/plants/{named}")).await;
    assert_eq!((status, &plants[..2]), (StatusCode::OK, b"RK".as_slice()));
    let quantity = format!("/api/scenes/{id}/layers/1/masks/1/quantity");
    assert_eq!(stage.bytes(&quantity).await.0, StatusCode::OK);
    let turned = json!({"do": "edit_motion", "edit": {"set": "from", "value": 10.0}});
    let (_, scene) = stage.command(&scene, turned).await;
    assert_eq!(key(&scene), named);
    let (_, scene) = stage.command(&scene, mask(json!({"wind": {"from_deg": 70.0}}))).await;
    assert_ne!(key(&scene), named);
    stage.end().await;
}

fn blower(course: Value) -> Value {
    json!({"id": 7, "name": "Wash", "course": course, "blows": {"kind": "outwards"}, "speed_m_per_s": 12.0, "reach_m": 9.0,
        "falloff": 1.0, "enabled": true})
}

fn ball(over_m: f32, density: f32) -> Value {
    json!({"id": 9, "name": "Ball", "form": {"kind": "ball", "radius_m": 0.4},
        "course": {"kind": "still", "at": {"x_m": 30.0, "z_m": 62.0, "over_m": over_m}}, "loose": {"at_s": 0.5,
        "velocity_m_per_s": [1.0, 0.0, 1.0], "spin_rad_per_s": [0.0, 0.0, 0.0], "density_kg_per_m3": density, "bounce": 0.3,
        "friction": 0.6, "wind_share": 0.5}, "felt": false, "hidden": false})
}

#[tokio::test(flavor = "multi_thread")]
async fn blowers_and_bodies_move_say_what_they_reach_and_refuse_what_cannot_be() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let node = |time_s: f32, x: f32| json!({"time_s": time_s, "x_m": x, "z_m": 60.0, "over_m": 3.0});
    let path = |nodes: Vec<Value>| blower(json!({"kind": "path", "nodes": nodes}));
    for (value, said) in [
        (path(vec![node(0.0, 1.0)]), "a path needs 2 nodes; this has 1"),
        (path(vec![node(2.0, 1.0), node(1.0, 4.0)]), "times run on; one comes at 1 s, after one at 2 s"),
        (path(vec![node(0.0, 1.0), node(3601.0, 4.0)]), "a time on its way is 3601"),
    ] {
        let (status, refused) = stage.command(&scene, json!({"do": "put_blower", "value": value})).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{refused}");
        assert!(refused["message"].as_str().unwrap().contains(said), "{refused}");
    }
    let (status, refused) = stage.command(&scene, json!({"do": "put_body", "value": ball(0.0, 0.0)})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(refused["message"].as_str().unwrap().contains("the density of a body is 0 kg/m3"), "{refused}");
    let mut fast = ball(0.0, 300.0);
    fast["loose"]["velocity_m_per_s"][0] = json!(1e30);
    let (status, _) = stage.command(&scene, json!({"do": "put_body", "value": fast})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);

    let value = path(vec![node(0.0, 10.0), node(5.0, 40.0)]);
    let (status, scene) = stage.command(&scene, json!({"do": "put_blower", "value": value})).await;
    assert_eq!(status, StatusCode::OK);
    let (_, scene) = stage.command(&scene, json!({"do": "put_body", "value": ball(1.0, 300.0)})).await;
    let told = stage.ask("GET", &format!("/api/scenes/{id}/motion"), None).await.1;
    let find =
        |list: &Value, id: u32| list.as_array().unwrap().iter().find(|b| b["id"] == id).cloned().unwrap();
    assert!(
        !find(&told["reached"]["blowers"], 7)["layers"].as_array().unwrap().is_empty(),
        "{}",
        told["reached"]
    );
    let notes: Vec<&str> =
        told["notes"].as_array().unwrap().iter().map(|n| n["what"].as_str().unwrap()).collect();
    assert!(notes.contains(&"passes_through"), "{notes:?}");
    let way = find(&told["moving"]["bodies"], 9);
    let heights: Vec<f64> =
        way["places"].as_array().unwrap().iter().map(|p| p["at_m"][1].as_f64().unwrap()).collect();
    assert!(heights.len() > 30 && heights[0] > heights[heights.len() / 2], "it falls: {heights:?}");

    let (status, glb) = stage.bytes(&format!("/api/scenes/{id}/handoff/glb")).await;
    assert_eq!(status, StatusCode::OK);
    for name in ["Mooring buoy", "Ball"] {
        assert!(glb.windows(name.len()).any(|w| w == name.as_bytes()), "{name} is handed off");
    }

    let key = find(&told["body_meshes"], 9)["mesh_key"].as_str().unwrap().to_owned();
    let (status, mesh) = stage.bytes(&format!("/api/scenes/{id}/bodies/9/mesh/{key}")).await;
    assert_eq!((status, &mesh[..4]), (StatusCode::OK, b"RKME".as_slice()));
    let larger =
        json!({"do": "change", "what": {"of": "body", "id": 9}, "fields": {"form": {"radius_m": 0.6}}});
    let (_, scene) = stage.command(&scene, larger).await;
    assert_eq!(stage.bytes(&format!("/api/scenes/{id}/bodies/9/mesh/{key}")).await.0, StatusCode::GONE);
    assert_eq!(stage.bytes(&format!("/api/scenes/{id}/bodies/77/mesh/{key}")).await.0, StatusCode::NOT_FOUND);
    // Far off, a blower reaches nothing and says so.
    let far = json!({"do": "change", "what": {"of": "blower", "id": 7}, "fields":
        {"course": {"kind": "still", "nodes": null, "at": {"x_m": 0.0, "z_m": 0.0, "over_m": 900.0}}}});
    let (status, scene) = stage.command(&scene, far).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let told = stage.ask("GET", &format!("/api/scenes/{id}/motion"), None).await.1;
    assert!(
        told["notes"].as_array().unwrap().contains(&json!({"what": "blows_at_nothing", "blower": 7})),
        "{}",
        told["notes"]
    );
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_ground_is_moved_carries_its_plants_by_the_same_names_and_refuses_what_cannot_be() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let planet = json!({"id": 4, "name": "Raft", "source": {"kind": "planet", "radius_m": 12.0, "relief": 0.1, "seed": 3,
        "faces": 24}, "x_m": 150.0, "y_m": 20.0, "z_m": 0.0, "turn_deg": 0.0, "scale": 1.0, "upright": "centre"});
    let (status, scene) = stage.command(&scene, json!({"do": "put_ground", "value": planet})).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let key = |time_s: f32, x_m: f32| json!({"time_s": time_s, "x_m": x_m, "y_m": 0.0, "z_m": 0.0, "turn_deg": 0.0});
    let moved = |keys: Vec<Value>| json!({"do": "change", "what": {"of": "ground", "id": 4}, "fields": {"moves": {"keys": keys}}});
    for (keys, said) in [
        (vec![key(0.0, 1.0)], "a ground that moves needs 2 keys; this has 1"),
        (vec![key(2.0, 1.0), key(2.0, 4.0)], "times run on; one comes at 2 s, after one at 2 s"),
        (vec![key(0.0, 1.0), key(2.0, 4000.0)], "how far a ground moves is 4000 m"),
        (vec![key(0.0, 1.0), key(5000.0, 4.0)], "a time on its way is 5000"),
    ] {
        let (status, refused) = stage.command(&scene, moved(keys)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{refused}");
        assert!(refused["message"].as_str().unwrap().contains(said), "{refused}");
    }
    let plants = |scene: &Value| -> Vec<Value> {
        scene["layers"].as_array().unwrap().iter().map(|l| l["plants_key"].clone()).collect()
    };
    let named = plants(&scene);
    let (status, scene) = stage.command(&scene, moved(vec![key(0.0, 0.0), key(2.0, 6.0)])).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    assert_eq!(plants(&scene), named, "nothing grows anew");
    let told = stage.ask("GET", &format!("/api/scenes/{id}/motion"), None).await.1;
    let ride = &told["moving"]["grounds"][0];
    assert_eq!((&ride["ground"], &ride["about_m"]), (&json!(4), &json!([150.0, 0.0])));
    assert_eq!(ride["keys"][1]["at"], json!([6.0, 0.0, 0.0, 0.0]));
    // Which plants go with it is told with them: boulders, and the moss that grows on these.
    let mut carried = Vec::new();
    for layer in scene["layers"].as_array().unwrap() {
        let path = format!(
            "/api/scenes/{id}/layers/{}/plants/{}",
            layer["id"],
            layer["plants_key"].as_str().unwrap()
        );
        let (_, bytes) = stage.bytes(&path).await;
        let head = String::from_utf8_lossy(&bytes[..bytes.len().min(6000)]).into_owned();
        let told = &head[head.find("\"carried\":[[").expect("grounds that carry them")..];
        if told[..told.find("]]").unwrap()].contains("[4,") {
            carried.push(layer["id"].clone());
        }
    }
    assert!(carried.contains(&json!(2)) && carried.contains(&json!(11)), "{carried:?}");
    let (_, scene) = stage.history(&scene, "undo").await;
    let told = stage.ask("GET", &format!("/api/scenes/{id}/motion"), None).await.1;
    assert_eq!(told["moving"]["grounds"], json!([]));
    assert!(scene["document"]["grounds"][0]["moves"].is_null());
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_body_comes_from_a_file_as_large_as_it_is_asked_and_a_bad_one_changes_nothing() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    // A crate of three units, longer than it is high.
    let mut obj = String::new();
    for [x, y, z] in [[0, 0, 0], [3, 0, 0], [3, 1, 0], [0, 1, 0], [0, 0, 1], [3, 0, 1], [3, 1, 1], [0, 1, 1]]
    {
        obj += &format!("v {x} {y} {z}\n");
    }
    for f in ["1 4 3 2", "5 6 7 8", "1 2 6 5", "4 8 7 3", "1 5 8 4", "2 3 7 6"] {
        obj += &format!("f {f}\n");
    }
    let (_, read) = stage.upload("/api/meshes", obj.into_bytes()).await;
    let placing = json!({"unit_m": 1.0, "up": "y", "recentre": true, "turn_over": false});
    let crate_of = |blob: &Value, size_m: f32| {
        let mut body = ball(2.0, 300.0);
        body["name"] = json!("Crate");
        body["form"] =
            json!({"kind": "mesh", "blob": blob, "name": "crate.obj", "placing": placing, "size_m": size_m});
        json!({"do": "put_body", "value": body})
    };
    for (blob, size_m, said) in [
        (json!("0".repeat(64)), 1.5, ""),
        (json!("none"), 1.5, ""),
        (read["blob"].clone(), 0.0, "a length of a body"),
    ] {
        let (status, refused) = stage.command(&scene, crate_of(&blob, size_m)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{refused}");
        assert!(refused["message"].as_str().unwrap().contains(said), "{refused}");
    }
    let (status, scene) = stage.command(&scene, crate_of(&read["blob"], 1.5)).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let told = stage.ask("GET", &format!("/api/scenes/{id}/motion"), None).await.1;
    let track = told["moving"]["bodies"].as_array().unwrap().iter().find(|b| b["id"] == 9).cloned().unwrap();
    // Half a metre high, it presses down three quarters of a metre to either side.
    assert_eq!((track["below_m"].as_f64(), track["press_m"].as_f64()), (Some(0.25), Some(0.75)), "{track}");
    let key =
        told["body_meshes"].as_array().unwrap().iter().find(|b| b["id"] == 9).unwrap()["mesh_key"].clone();
    let (status, mesh) =
        stage.bytes(&format!("/api/scenes/{id}/bodies/9/mesh/{}", key.as_str().unwrap())).await;
    assert_eq!((status, &mesh[..4]), (StatusCode::OK, b"RKME".as_slice()));
    let (status, glb) = stage.bytes(&format!("/api/scenes/{id}/handoff/glb")).await;
    assert!(status == StatusCode::OK && glb.windows(5).any(|w| w == b"Crate"), "{status}");
    stage.end().await;
}
