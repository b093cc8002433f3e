//! What changed is told alone: dabs, strokes, curves, copies.

use crate::common::{Stage, head, plants_path};
use axum::http::StatusCode;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundRef;
use rookery_core::planting::grow_everywhere;
use serde_json::{Value, json};

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

/// A terrain beside the land, turned and at half its size, is sculpted as the land is: step by step as all at once.
#[tokio::test(flavor = "multi_thread")]
async fn a_terrain_beside_the_land_is_sculpted_step_by_step_as_all_at_once() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let shelf = json!({"id": 5, "name": "Shelf", "x_m": 60.0, "y_m": 8.0, "z_m": -200.0, "turn_deg": 30.0, "scale": 0.5,
        "source": {"kind": "noise", "size_m": 80.0, "samples": 81, "relief_m": 9.0, "feature_m": 25.0,
            "ruggedness": 0.4, "ridges": 0.0, "valleys": 0.0, "terraces": 0.0, "terrace_m": 2.0, "coast": 0.0, "seed": 4}});
    let mut clearance = scene["document"]["layers"][0]["clearance"].clone();
    clearance["others"]["by"] = json!("nothing");
    let commands = json!([{"do": "put_ground", "value": shelf}, {"do": "edit_layer", "id": 1, "edit": {"set": "grounds", "value": [5]}},
        {"do": "edit_layer", "id": 1, "edit": {"set": "amount", "value": {"unit": "per_m2", "value": 9.0}}},
        {"do": "edit_layer", "id": 1, "edit": {"set": "clearance", "value": clearance}},
        {"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": [{"id": 1, "quantity": "slope", "enabled": true,
            "response": {"start": 0.0, "full_from": 0.0, "full_to": 15.0, "end": 30.0, "inverted": false}}]}}]);
    let (status, mut scene) = stage.command(&scene, json!({"do": "all", "commands": commands})).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let land_key = scene["ground_key"].clone();
    let (_, first) = stage.bytes(&plants_path(&scene, 0)).await;
    assert!(head(&first)["count"].as_u64().unwrap() > 200, "{}", head(&first));
    for (id, tool) in [(1, "raise"), (2, "smooth"), (1, "lower")] {
        let stroke = json!({"id": id, "tool": tool, "radius_m": 3.0, "strength": 0.9, "falloff": 0.5, "points": [[10.0, 5.0], [11.0, 4.0]]});
        let known = scene["layers"][0]["plants_key"].as_str().unwrap().to_owned();
        let edit = json!({"do": "put_ground_stroke", "ground": 5, "value": stroke});
        let (status, changed) = stage.command(&scene, edit).await;
        assert_eq!(status, StatusCode::OK, "{changed}");
        scene = changed;
        assert_eq!(scene["ground_key"], land_key, "the land is as it was");
        let document: rookery_core::scene::Document =
            serde_json::from_value(scene["document"].clone()).unwrap();
        let at_once =
            rookery_formats::placed_model(&document.grounds[0], document.ground.water_m, |_| None).unwrap();
        let land = rookery_formats::ground_model(&document, |_| None).unwrap();
        let model = |_| Some(at_once.as_ref());
        let obstacle = |o: &rookery_core::scene::Obstacle| {
            Some(rookery_core::ground::obstacle::mesh(o, &land.terrain, None))
        };
        let layer = &document.layers[0];
        let grown = grow_everywhere(&document, layer, &model, &obstacle, &CancelToken::default()).unwrap();
        let (_, told) = stage.bytes(&format!("{}?since=none,{known}", plants_path(&scene, 0))).await;
        if id == 2 {
            // Only what stands under the stroke is sent.
            assert_eq!(&told[..4], b"RKPD");
            let info = head(&told);
            assert!(info["added"].as_u64().unwrap() * 4 < info["count"].as_u64().unwrap(), "{info}");
        }
        let (_, stepwise) = stage.bytes(&plants_path(&scene, 0)).await;
        let at_once = rookery_formats::view::encode_plants(layer, &grown);
        assert_eq!(head(&stepwise), head(&at_once), "{tool}");
        assert!(stepwise == at_once, "{tool}");
    }
    let on_arch = json!({"do": "all", "commands": [
        {"do": "put_ground", "value": {"id": 6, "name": "Pebble", "source": {"kind": "planet", "radius_m": 9.0, "relief": 0.1,
            "seed": 1, "faces": 24}, "x_m": 0.0, "y_m": 90.0, "z_m": 0.0, "turn_deg": 0.0, "scale": 1.0}},
        {"do": "put_ground_stroke", "ground": 6, "value": {"id": 1, "tool": "raise", "radius_m": 3.0, "strength": 1.0, "falloff": 0.5,
            "points": [[0.0, 0.0]]}}]});
    let (status, body) = stage.command(&scene, on_arch).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("only terrains can be sculpted"), "{body}");
    stage.end().await;
}

/// Broke: a copy of a layer had its arrangement, so that all its room was taken by the layer itself.
#[tokio::test(flavor = "multi_thread")]
async fn a_copy_with_an_arrangement_of_its_own_finds_room() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let marram = head(&stage.bytes(&plants_path(&scene, 0)).await.1)["count"].as_u64().unwrap();
    let copy = json!({"do": "duplicate_layer", "id": 1, "copy": 900, "seed": 4321});
    let (status, after) = stage.command(&scene, copy).await;
    assert_eq!(status, StatusCode::OK, "{after}");
    let layers = after["layers"].as_array().unwrap();
    let place = layers.iter().position(|l| l["id"] == 900).unwrap();
    let copied = head(&stage.bytes(&plants_path(&after, place)).await.1)["count"].as_u64().unwrap();
    assert!(copied * 4 > marram, "{copied} beside {marram}");
    stage.end().await;
}
