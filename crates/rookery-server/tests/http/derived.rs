//! What is derived from a scene: grounds, plants, handoff, stills.

use crate::common::Stage;
use axum::http::StatusCode;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundRef;
use rookery_core::planting::grow_everywhere;
use serde_json::{Value, json};
use std::time::Duration;

const JACKSBORO: &[u8] = include_bytes!("../../../rookery-formats/tests/data/jacksboro.asc");

fn plants_path(scene: &Value, layer: usize) -> String {
    let l = &scene["layers"][layer];
    format!(
        "/api/scenes/{}/layers/{}/plants/{}",
        scene["id"].as_str().unwrap(),
        l["id"],
        l["plants_key"].as_str().unwrap()
    )
}

fn head(bytes: &[u8]) -> Value {
    let length = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
    serde_json::from_slice(&bytes[8..8 + length]).unwrap()
}

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

#[tokio::test(flavor = "multi_thread")]
async fn a_dab_tells_what_changed_and_that_makes_all_plants_again() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let mask = json!({"id": 9, "quantity": "painted", "paint": 1, "enabled": true,
        "response": {"start": 0.0, "full_from": 1.0, "full_to": 1.0, "end": 1.0, "inverted": false}});
    let commands = json!([
        {"do": "put_paint", "value": {"id": 1, "name": "Turf", "bare": 1.0, "strokes": []}},
        {"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": [mask]}}]);
    let (status, before) = stage.command(&scene, json!({"do": "all", "commands": commands})).await;
    assert_eq!(status, StatusCode::OK, "{before}");
    let (_, old) = stage.bytes(&plants_path(&before, 0)).await;
    let known = before["layers"][0]["plants_key"].as_str().unwrap().to_owned();
    let dab = json!({"do": "put_paint_stroke", "paint": 1, "value": {"id": 1, "tool": "erase", "radius_m": 20.0,
        "strength": 1.0, "falloff": 0.5, "ragged": 0.3, "points": [[10.0, 0.0, 10.0]]}});
    let (_, after) = stage.command(&before, dab).await;
    let (_, told) = stage.bytes(&format!("{}?since=none,{known}", plants_path(&after, 0))).await;
    assert_eq!(&told[..4], b"RKPD");
    let (_, all) = stage.bytes(&plants_path(&after, 0)).await;
    assert_eq!(&all[..4], b"RKPL");
    let (info, old_info) = (head(&told), head(&old));
    assert_eq!((info["since"].as_str().unwrap(), &info["tally"]), (known.as_str(), &head(&all)["tally"]));
    assert!(told.len() * 4 < all.len(), "{} of {} bytes", told.len(), all.len());
    assert!(info["count"].as_u64().unwrap() < old_info["count"].as_u64().unwrap(), "plants fell");
    // Positions come first: those of before by runs, and the new ones between them, are all positions.
    let start =
        |bytes: &[u8]| (8 + u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize).next_multiple_of(4);
    let count = |info: &Value, what: &str| info[what].as_u64().unwrap() as usize;
    let runs = &told[start(&told)..][..count(&info, "runs") * 12];
    let mut fresh = told[start(&told) + runs.len()..][..count(&info, "added") * 12].chunks_exact(12);
    let mut made = Vec::new();
    for run in runs.chunks_exact(12) {
        let [from, kept, grown] =
            [0, 4, 8].map(|i| u32::from_le_bytes(run[i..i + 4].try_into().unwrap()) as usize);
        made.extend_from_slice(&old[start(&old) + from * 12..][..kept * 12]);
        fresh.by_ref().take(grown).for_each(|p| made.extend_from_slice(p));
    }
    assert_eq!(made.len(), count(&info, "count") * 12);
    assert!(made == all[start(&all)..][..made.len()]);
    stage.end().await;
}

/// On a mesh, too, a dab of the brush tells only what changed.
#[tokio::test(flavor = "multi_thread")]
async fn a_dab_on_a_mesh_tells_what_changed() {
    let stage = Stage::new().await;
    let (_, scene) = stage.ask("POST", "/api/scenes", Some(json!({"from": "needle_arch"}))).await;
    let layers = scene["document"]["layers"].as_array().unwrap();
    let at = layers.iter().position(|l| l["grounds"] == json!([1]) && l["name"] == "Grey lichens").unwrap();
    let id = layers[at]["id"].clone();
    let mask = json!({"id": 90, "quantity": "painted", "paint": 9, "enabled": true,
        "response": {"start": 0.0, "full_from": 1.0, "full_to": 1.0, "end": 1.0, "inverted": false}});
    let commands = json!([
        {"do": "put_paint", "value": {"id": 9, "name": "Bare", "bare": 1.0, "strokes": []}},
        {"do": "edit_layer", "id": id, "edit": {"set": "masks", "value": [mask]}}]);
    let (status, before) = stage.command(&scene, json!({"do": "all", "commands": commands})).await;
    assert_eq!(status, StatusCode::OK, "{before}");
    let (_, old) = stage.bytes(&plants_path(&before, at)).await;
    let known = before["layers"][at]["plants_key"].as_str().unwrap().to_owned();
    let dab = json!({"do": "put_paint_stroke", "paint": 9, "value": {"id": 1, "tool": "erase", "radius_m": 2.0,
        "strength": 1.0, "falloff": 0.5, "points": [[4.0, 17.6, 6.0]]}});
    let (status, after) = stage.command(&before, dab).await;
    assert_eq!(status, StatusCode::OK, "{after}");
    let (_, told) = stage.bytes(&format!("{}?since=none,{known}", plants_path(&after, at))).await;
    assert_eq!(&told[..4], b"RKPD");
    let (info, was) = (head(&told), head(&old)["count"].as_u64().unwrap());
    assert!(info["count"].as_u64().unwrap() < was, "plants fell: {was} before, {info}");
    assert!(info["added"].as_u64().unwrap() * 4 < was, "{info}");
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

/// A dragged curve tells only what came or went between it and the one before, and that makes all plants again.
#[tokio::test(flavor = "multi_thread")]
async fn a_dragged_curve_tells_what_changed() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let slopes = |end: f32| {
        let mask = json!({"id": 9, "quantity": "slope", "enabled": true,
            "response": {"start": 0.0, "full_from": 0.0, "full_to": end, "end": end, "inverted": false}});
        json!({"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": [mask]}})
    };
    let (status, before) = stage.command(&scene, slopes(20.0)).await;
    assert_eq!(status, StatusCode::OK, "{before}");
    let (_, old) = stage.bytes(&plants_path(&before, 0)).await;
    let known = before["layers"][0]["plants_key"].as_str().unwrap().to_owned();
    let (_, after) = stage.command(&before, slopes(19.5)).await;
    let (_, told) = stage.bytes(&format!("{}?since=none,{known}", plants_path(&after, 0))).await;
    assert_eq!(&told[..4], b"RKPD");
    let (info, old_info) = (head(&told), head(&old));
    assert_eq!((info["since"].as_str().unwrap(), &info["added"]), (known.as_str(), &json!(0)));
    assert!(info["count"].as_u64().unwrap() < old_info["count"].as_u64().unwrap(), "plants fell");
    // The same as on a server that never saw the first.
    let fresh = Stage::new().await;
    let other = fresh.scene().await;
    let (_, other) = fresh.command(&other, slopes(19.5)).await;
    let (_, anew) = fresh.bytes(&plants_path(&other, 0)).await;
    let (_, again) = stage.bytes(&plants_path(&after, 0)).await;
    assert!(again == anew);
    stage.end().await;
    fresh.end().await;
}

/// A dab beneath one obstacle leaves the others as they are, and the plants between them.
#[tokio::test(flavor = "multi_thread")]
async fn a_dab_changes_what_stands_on_it_and_nothing_between() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let block = |id: u32, at: f32| {
        json!({"do": "put_obstacle", "value": {"id": id, "name": "Block", "x_m": at, "z_m": at, "lift_m": 0.0,
            "on_ground": true, "turn_deg": 0.0, "scale": 1.0, "hidden": false,
            "shape": {"kind": "box", "width_m": 3.0, "depth_m": 3.0, "height_m": 2.0}}})
    };
    let mut clearance = scene["document"]["layers"][0]["clearance"].clone();
    clearance["others"]["by"] = json!("nothing");
    clearance["obstacles"]["by"] = json!("footprint");
    let commands = json!([
        {"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": []}},
        {"do": "edit_layer", "id": 1, "edit": {"set": "clearance", "value": clearance}}, block(31, -100.0), block(32, 100.0)]);
    let (status, before) = stage.command(&scene, json!({"do": "all", "commands": commands})).await;
    assert_eq!(status, StatusCode::OK, "{before}");
    stage.bytes(&plants_path(&before, 0)).await;
    let known = before["layers"][0]["plants_key"].as_str().unwrap().to_owned();
    let stroke = json!({"id": 77, "tool": "raise", "radius_m": 6.0, "strength": 1.0, "falloff": 0.5, "points": [[-98.0, -98.0]]});
    let dab = json!({"do": "edit_ground", "edit": {"set": "put_stroke", "value": stroke}});
    let (status, after) = stage.command(&before, dab).await;
    assert_eq!(status, StatusCode::OK, "{after}");
    let meshes = |scene: &Value| -> Vec<Value> {
        scene["obstacles"].as_array().unwrap().iter().map(|o| o["mesh_key"].clone()).collect()
    };
    let (was, now) = (meshes(&before), meshes(&after));
    let same: Vec<bool> = was.iter().zip(&now).map(|(a, b)| a == b).collect();
    assert_eq!(same, [true, true, false, true]);
    let (_, told) = stage.bytes(&format!("{}?since=none,{known}", plants_path(&after, 0))).await;
    assert_eq!(&told[..4], b"RKPD");
    let info = head(&told);
    let (added, count) = (info["added"].as_u64().unwrap(), info["count"].as_u64().unwrap());
    assert!(added > 0 && added * 20 < count, "{added} of {count} stand anew");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_stroke_grown_from_the_ground_before_it_is_the_same_as_all_strokes_at_once() {
    let stage = Stage::new().await;
    let mut scene = stage.scene().await;
    let path = |scene: &Value| {
        format!(
            "/api/scenes/{}/ground/{}",
            scene["id"].as_str().unwrap(),
            scene["ground_key"].as_str().unwrap()
        )
    };
    stage.bytes(&path(&scene)).await;
    stage.bytes(&plants_path(&scene, 0)).await;
    for (id, tool) in [(1, "raise"), (2, "smooth"), (1, "lower")] {
        let stroke = json!({"id": id, "tool": tool, "radius_m": 14.0, "strength": 0.8, "falloff": 0.5, "points": [[10.0, 5.0], [30.0, -8.0]]});
        let edit = json!({"do": "edit_ground", "edit": {"set": "put_stroke", "value": stroke}});
        let (status, changed) = stage.command(&scene, edit).await;
        assert_eq!(status, StatusCode::OK, "{changed}");
        scene = changed;
        let (_, stepwise) = stage.bytes(&path(&scene)).await;
        let document: rookery_core::scene::Document =
            serde_json::from_value(scene["document"].clone()).unwrap();
        let at_once = rookery_formats::ground_model(&document, |_| None).unwrap();
        assert_eq!(stepwise, rookery_formats::view::encode_ground(&at_once));
        // And its plants, grown again under the stroke only.
        let (_, stepwise) = stage.bytes(&plants_path(&scene, 0)).await;
        let land = |_| Some(GroundRef::Terrain(&at_once));
        let layer = &document.layers[0];
        let obstacle = |o: &rookery_core::scene::Obstacle| {
            Some(rookery_core::ground::obstacle::mesh(o, &at_once.terrain, None))
        };
        let grown = grow_everywhere(&document, layer, &land, &obstacle, &CancelToken::default()).unwrap();
        assert!(stepwise == rookery_formats::view::encode_plants(layer, &grown));
    }
    let bad = json!({"do": "edit_ground", "edit": {"set": "put_stroke", "value":
        {"id": 9, "tool": "smooth", "radius_m": 5.0, "strength": 3.0, "falloff": 0.5, "points": [[0.0, 0.0]]}}});
    let (status, body) = stage.command(&scene, bad).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        body["message"].as_str().unwrap().contains("the strength of a stroke is 3; it must be from 0 to 1"),
        "{body}"
    );
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

async fn until(stage: &Stage, job: &str, wanted: impl Fn(&Value) -> bool) -> Value {
    for _ in 0..600 {
        let (_, now) = stage.ask("GET", &format!("/api/jobs/{job}"), None).await;
        if wanted(&now) {
            return now;
        }
        tokio::time::sleep(Duration::from_millis(100)).await;
    }
    panic!("the job did not get there");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_still_is_taken_kept_stopped_and_compared() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let worker = tokio::spawn(rookery_server::jobs::work(stage.app.clone()));
    let stills = format!("/api/scenes/{id}/stills");
    let take = |body: Value| stage.ask("POST", &stills, Some(body));
    let small = json!({"shot": 1, "width_px": 64, "height_px": 36, "samples": 1});
    let (status, first) = take(small.clone()).await;
    assert_eq!(status, StatusCode::ACCEPTED);
    let done = until(&stage, first["job"]["id"].as_str().unwrap(), |j| {
        j["state"] == "done" || j["state"] == "failed"
    })
    .await;
    assert_eq!(done["state"], "done", "{done}");
    let (_, list) = stage.ask("GET", &stills, None).await;
    let (status, png) = stage.bytes(&format!("/api/blobs/{}", list[0]["picture"].as_str().unwrap())).await;
    assert_eq!((status, &png[1..4]), (StatusCode::OK, b"PNG".as_slice()));

    // A long one is stopped half-way and leaves nothing behind.
    let (_, long) = take(json!({"shot": 1, "width_px": 1920, "height_px": 1080, "samples": 256})).await;
    let job = long["job"]["id"].as_str().unwrap().to_owned();
    until(&stage, &job, |j| j["state"] == "working").await;
    stage.ask("POST", &format!("/api/jobs/{job}/stop"), None).await;
    until(&stage, &job, |j| j["state"] == "stopped").await;

    let edit = json!({"do": "edit_layer", "id": 1, "edit": {"set": "seed", "value": 42}});
    stage.command(&scene, edit).await;
    let (_, second) = take(small).await;
    until(&stage, second["job"]["id"].as_str().unwrap(), |j| j["state"] == "done").await;
    let (a, b) = (first["still"].as_str().unwrap(), second["still"].as_str().unwrap());
    let (_, differences) = stage.ask("GET", &format!("/api/stills/{a}/differences/{b}"), None).await;
    assert_eq!(differences, json!([{"setting": "Marram / seed", "before": "1", "after": "42"}]));
    let (_, list) = stage.ask("GET", &stills, None).await;
    assert_eq!(list.as_array().unwrap().len(), 2);

    let (status, body) = take(json!({"shot": 1, "samples": 0})).await;
    assert_eq!((status, &body["code"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("refused")));
    worker.abort();
    stage.end().await;
}

/// A worker that dies holds its job only until its lease runs out.
#[tokio::test(flavor = "multi_thread")]
async fn a_job_whose_worker_is_lost_is_taken_again_and_given_up_after_three() {
    use diesel_async::RunQueryDsl;
    use rookery_server::db::jobs;
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let path = format!("/api/scenes/{}/stills", scene["id"].as_str().unwrap());
    stage.ask("POST", &path, Some(json!({"shot": 1}))).await;
    let expire = async || {
        let mut conn = stage.app.db.get().await.unwrap();
        diesel::sql_query("UPDATE jobs SET leased_until = now() - interval '1 second'")
            .execute(&mut conn)
            .await
            .unwrap();
    };
    for attempt in 1..=3 {
        let job = jobs::take(&stage.app.db, &format!("worker {attempt}")).await.unwrap().unwrap();
        assert_eq!((job.attempts, job.state.as_str()), (attempt, "working"));
        assert!(jobs::take(&stage.app.db, "another").await.unwrap().is_none(), "a held job was taken");
        expire().await;
        if attempt > 1 {
            let lost = format!("worker {}", attempt - 1);
            assert!(
                jobs::beat(&stage.app.db, job.id, &lost, 0.5).await.unwrap(),
                "a lost worker was not told to stop"
            );
        }
        if attempt == 3 {
            expire().await;
            assert!(jobs::take(&stage.app.db, "last").await.unwrap().is_none());
            assert_eq!(jobs::fetch(&stage.app.db, job.id).await.unwrap().state, "failed");
        }
    }
    stage.end().await;
}
