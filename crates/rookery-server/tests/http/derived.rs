//! What is derived from a scene: grounds, plants, handoff, stills.

use crate::common::{Stage, head, plants_path};
use axum::http::StatusCode;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundRef;
use rookery_core::planting::grow_everywhere;
use serde_json::{Value, json};

#[tokio::test(flavor = "multi_thread")]
async fn plants_come_by_the_name_of_their_contents() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (status, bytes) = stage.bytes(&plants_path(&scene, 1)).await;
    assert_eq!((status, &bytes[..4]), (StatusCode::OK, b"RKPL".as_slice()));
    let info = head(&bytes);
    assert_eq!(info["count"], info["tally"]["placed"]);
    // The same as the core grows without a server.
    let document = rookery_core::scene::kittiwake_head();
    let ground = rookery_formats::ground_model(&document, |_| None).unwrap();
    let (land, layer) = (|_| Some(GroundRef::Terrain(&ground)), &document.layers[1]);
    let obstacle = |o: &rookery_core::scene::Obstacle| {
        Some(rookery_core::ground::obstacle::mesh(o, &ground.terrain, None))
    };
    let grown = grow_everywhere(&document, layer, &land, &obstacle, &CancelToken::default()).unwrap();
    assert_eq!(bytes, rookery_formats::view::encode_plants(&document.layers[1], &grown));
    let edit = json!({"do": "edit_layer", "id": 2, "edit": {"set": "sink", "value": 0.1}});
    let (_, changed) = stage.command(&scene, edit).await;
    // What was there a moment ago is still to be had by its name; what never was is not.
    assert_eq!(stage.bytes(&plants_path(&scene, 1)).await, (StatusCode::OK, bytes));
    assert_eq!(stage.bytes(&plants_path(&changed, 1)).await.0, StatusCode::OK);
    let mut never = changed.clone();
    never["layers"][1]["plants_key"] = json!("0".repeat(64));
    assert_eq!(stage.bytes(&plants_path(&never, 1)).await.0, StatusCode::GONE);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn quantities_are_read_off_the_ground_by_name() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let ground = format!(
        "/api/scenes/{}/ground/{}",
        scene["id"].as_str().unwrap(),
        scene["ground_key"].as_str().unwrap()
    );
    let shape = head(&stage.bytes(&ground).await.1);
    for (reading, unit) in [("slope", "\u{b0}"), ("wetness", ""), ("openness", ""), ("plan_curvature", "1/m")]
    {
        let (status, bytes) = stage.bytes(&format!("{ground}/readings/{reading}")).await;
        assert_eq!((status, &bytes[..4]), (StatusCode::OK, b"RKRD".as_slice()), "{reading}");
        let info = head(&bytes);
        assert_eq!((&info["reading"], &info["unit"]), (&json!(reading), &json!(unit)));
        assert_eq!((&info["nx"], &info["nz"]), (&shape["nx"], &shape["nz"]));
        let area: f64 =
            info["histogram"]["areas_m2"].as_array().unwrap().iter().map(|a| a.as_f64().unwrap()).sum();
        assert!((area - 57_600.0).abs() < 1.0, "{reading}: {area}");
    }
    assert_eq!(stage.bytes(&format!("{ground}/readings/smell")).await.0, StatusCode::NOT_FOUND);
    let stale = ground.replace(scene["ground_key"].as_str().unwrap(), &"0".repeat(64));
    assert_eq!(stage.bytes(&format!("{stale}/readings/slope")).await.0, StatusCode::GONE);
    stage.end().await;
}

/// A mesh is read at its vertices, a terrain beside the land at the samples of its own buffer.
#[tokio::test(flavor = "multi_thread")]
async fn grounds_beside_the_land_are_read_too() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let ground = |id: u32, source: Value| {
        json!({"do": "put_ground", "value": {"id": id, "name": "One", "source": source, "x_m": 200.0, "y_m": 30.0, "z_m": 0.0,
            "turn_deg": 40.0, "scale": 1.0}})
    };
    let planet = json!({"kind": "planet", "radius_m": 9.0, "relief": 0.1, "seed": 1, "faces": 24});
    let hills = json!({"kind": "noise", "size_m": 60.0, "relief_m": 9.0, "feature_m": 30.0, "ruggedness": 0.4, "coast": 0.0,
        "seed": 3, "samples": 61});
    let both = json!({"do": "all", "commands": [ground(1, planet), ground(2, hills)]});
    let (status, scene) = stage.command(&scene, both).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let at = |i: usize| {
        let (id, key) = (scene["id"].as_str().unwrap(), scene["grounds"][i]["key"].as_str().unwrap());
        format!("/api/scenes/{id}/ground/{key}")
    };
    for (i, magic) in [(0, b"RKMG"), (1, b"RKGR")] {
        let (_, buffer) = stage.bytes(&at(i)).await;
        assert_eq!(&buffer[..4], magic);
        let points = match head(&buffer)["vertices"].as_u64() {
            Some(vertices) => vertices,
            None => head(&buffer)["nx"].as_u64().unwrap() * head(&buffer)["nz"].as_u64().unwrap(),
        };
        for reading in rookery_core::ground::Reading::ALL {
            let (status, bytes) = stage.bytes(&format!("{}/readings/{}", at(i), reading.id())).await;
            assert_eq!((status, &bytes[..4]), (StatusCode::OK, b"RKRD".as_slice()), "{reading:?}");
            let info = head(&bytes);
            assert_eq!(info["nx"].as_u64().unwrap() * info["nz"].as_u64().unwrap(), points, "{reading:?}");
            let areas = info["histogram"]["areas_m2"].as_array().unwrap();
            let area: f64 = areas.iter().map(|a| a.as_f64().unwrap()).sum();
            assert!(area > 900.0, "{reading:?}: {area}");
        }
    }
    // Heights of the hills are counted from zero, not from their own middle.
    let (_, altitude) = stage.bytes(&format!("{}/readings/altitude", at(1))).await;
    assert!(head(&altitude)["histogram"]["low"].as_f64().unwrap() > 15.0, "{}", head(&altitude));
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn outlines_and_obstacles_come_with_what_is_derived_from_them() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let outline = json!({"id": 20, "name": "Square", "kind": "bed", "nodes": [[0.0, 0.0], [10.0, 0.0], [10.0, 10.0], [0.0, 10.0]],
        "smooth": false, "soft_m": 1.0, "width_m": 1.0});
    let (_, scene) = stage.command(&scene, json!({"do": "put_outline", "value": outline})).await;
    let derived = scene["outlines"].as_array().unwrap().last().unwrap();
    assert_eq!(
        (&derived["id"], &derived["area_m2"], &derived["length_m"]),
        (&json!(20), &json!(100.0), &json!(40.0))
    );
    let path = |scene: &Value, i: usize| {
        let o = &scene["obstacles"][i];
        format!(
            "/api/scenes/{}/obstacles/{}/mesh/{}",
            scene["id"].as_str().unwrap(),
            o["id"],
            o["mesh_key"].as_str().unwrap()
        )
    };
    let (status, bytes) = stage.bytes(&path(&scene, 0)).await;
    assert_eq!((status, &bytes[..4]), (StatusCode::OK, b"RKME".as_slice()));
    // A cottage that is moved has another mesh; one that is only hidden keeps it.
    let mut cottage = scene["document"]["obstacles"][0].clone();
    cottage["hidden"] = json!(true);
    let (_, hidden) = stage.command(&scene, json!({"do": "put_obstacle", "value": cottage})).await;
    assert_eq!(hidden["obstacles"][0]["mesh_key"], scene["obstacles"][0]["mesh_key"]);
    cottage["x_m"] = json!(60.0);
    let (_, moved) = stage.command(&hidden, json!({"do": "put_obstacle", "value": cottage})).await;
    assert_ne!(moved["obstacles"][0]["mesh_key"], scene["obstacles"][0]["mesh_key"]);
    assert_eq!(stage.bytes(&path(&scene, 0)).await, (StatusCode::OK, bytes), "by its old name as it was");
    let mut never = moved.clone();
    never["obstacles"][0]["mesh_key"] = json!("0".repeat(64));
    assert_eq!(stage.bytes(&path(&never, 0)).await.0, StatusCode::GONE);
    let two = json!({"do": "put_outline", "value": {"id": 21, "name": "Line", "kind": "bed", "nodes": [[0.0, 0.0], [1.0, 0.0]],
        "smooth": false, "soft_m": 1.0, "width_m": 1.0}});
    let (status, body) = stage.command(&moved, two).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        body["message"]
            .as_str()
            .unwrap()
            .contains("the number of nodes of an outline is 2; it must be from 3"),
        "{body}"
    );
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_section_is_cut_and_a_senseless_one_is_refused() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let path = |line: &str| format!("/api/scenes/{}/section?{line}", scene["id"].as_str().unwrap());
    let (status, section) =
        stage.ask("GET", &path("from_x=-120&from_z=0&to_x=120&to_z=0&width_m=4"), None).await;
    assert_eq!(
        (status, &section["length_m"], &section["water_m"]),
        (StatusCode::OK, &json!(240.0), &json!(0.0))
    );
    let plants = section["plants"].as_array().unwrap();
    assert!(plants.len() > 300 && plants.iter().all(|p| p["aside_m"].as_f64().unwrap().abs() <= 2.0));
    let heights = section["heights_m"].as_array().unwrap();
    assert!(heights[0].as_f64().unwrap() < 0.0 && heights[heights.len() / 2].as_f64().unwrap() > 20.0);
    assert!(section.get("read").is_none());
    let line = path("from_x=-120&from_z=0&to_x=120&to_z=0&width_m=4&reading=altitude");
    let (_, read) = stage.ask("GET", &line, None).await;
    assert_eq!((&read["read"]["reading"], &read["read"]["unit"]), (&json!("altitude"), &json!("m")));
    assert_eq!(read["read"]["values"], section["heights_m"], "heights are the altitude of the land");
    assert_eq!(
        read["read"]["pieces"].as_array().unwrap().len(),
        section["pieces_m"].as_array().unwrap().len()
    );
    let (status, body) = stage.ask("GET", &path("from_x=3&from_z=0&to_x=3&to_z=0&width_m=4"), None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().starts_with("the section is 0 m long"), "{body}");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn another_earth_changes_the_ground_and_moves_no_plant() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let ground = |scene: &Value| {
        format!(
            "/api/scenes/{}/ground/{}",
            scene["id"].as_str().unwrap(),
            scene["ground_key"].as_str().unwrap()
        )
    };
    let before = stage.bytes(&ground(&scene)).await.1;
    let plants = stage.bytes(&plants_path(&scene, 1)).await.1;
    let earths = json!({"cover": "peat", "steep": "shingle", "steep_deg": 30.0, "shore": "rock", "shore_m": 1.0,
        "wet": {"earth": "sand", "from": 9.0}, "patches": 0.5});
    let edit = json!({"do": "edit_ground", "edit": {"set": "earths", "value": earths}});
    let (status, changed) = stage.command(&scene, edit).await;
    assert_eq!(status, StatusCode::OK, "{changed}");
    assert_ne!(stage.bytes(&ground(&changed)).await.1, before);
    assert_eq!(stage.bytes(&plants_path(&changed, 1)).await.1, plants);
    let mut bad = earths.clone();
    bad["steep_deg"] = json!(200.0);
    let (status, body) =
        stage.command(&changed, json!({"do": "edit_ground", "edit": {"set": "earths", "value": bad}})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        body["message"].as_str().unwrap().starts_with("the slope of steep ground is 200 degrees"),
        "{body}"
    );
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn an_amount_beyond_memory_is_refused_before_it_is_tried() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let edit = json!({"do": "edit_layer", "id": 1, "edit": {"set": "amount", "value": {"unit": "per_m2", "value": 1000.0}}});
    let (_, scene) = stage.command(&scene, edit).await;
    let (status, body) = stage.ask("GET", &plants_path(&scene, 0), None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        body["message"]
            .as_str()
            .unwrap()
            .contains("57\u{202f}600\u{202f}000 places, more than the limit of 30\u{202f}000\u{202f}000"),
        "{body}"
    );
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn handoff_and_probe_answer_for_a_scene() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let edit = json!({"do": "edit_layer", "id": 1, "edit": {"set": "amount", "value": {"unit": "total", "value": 300}}});
    stage.command(&scene, edit).await;
    let (status, glb) = stage.bytes(&format!("/api/scenes/{id}/handoff/glb")).await;
    assert_eq!((status, &glb[..4]), (StatusCode::OK, b"glTF".as_slice()));
    let (_, csv) = stage.bytes(&format!("/api/scenes/{id}/handoff/csv")).await;
    assert_eq!(String::from_utf8(csv).unwrap().lines().filter(|l| l.starts_with("Marram,")).count(), 300);
    let (_, file) = stage.bytes(&format!("/api/scenes/{id}/handoff/json")).await;
    assert!(serde_json::from_slice::<rookery_core::scene::Document>(&file).is_ok());
    let (_, words) = stage.ask("GET", &format!("/api/scenes/{id}/probe?x=40&z=70"), None).await;
    let of = |name: &str| words.as_array().unwrap().iter().find(|w| w["name"] == name).unwrap();
    // High on the head turf may grow, and dune grass may not.
    assert!(of("Fescue turf")["verdict"]["share"].as_f64().unwrap() > 0.5);
    assert!(of("Marram")["verdict"]["share"].as_f64().unwrap() < 0.5);
    let (status, _) = stage.ask("GET", &format!("/api/scenes/{id}/probe?x=4000&z=70"), None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    stage.end().await;
}
