//! Grounds beside the land, sheets of water and zones, over HTTP.

use crate::common::Stage;
use axum::http::StatusCode;
use serde_json::{Value, json};

const TWO: &[u8] = include_bytes!("../../../rookery-formats/tests/data/two.obj");

fn path(scene: &Value, rest: &str) -> String {
    format!("/api/scenes/{}/{rest}", scene["id"].as_str().unwrap())
}

fn planet(id: u32) -> Value {
    json!({"id": id, "name": "Planet", "source": {"kind": "planet", "radius_m": 6.0, "relief": 0.1, "seed": 1, "faces": 16},
        "x_m": 0.0, "y_m": 60.0, "z_m": 0.0, "turn_deg": 0.0, "scale": 1.0, "upright": "centre",
        "earths": {"cover": "turf", "steep": "rock", "steep_deg": 46.0, "shore": "rock", "shore_m": 1.0, "wet": null, "patches": 1.0}})
}

async fn placed(stage: &Stage, scene: &Value, ground: Value) -> Value {
    let (status, scene) = stage.command(scene, json!({"do": "put_ground", "value": ground})).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    scene
}

async fn account(stage: &Stage, scene: &Value) -> Value {
    stage.ask("GET", &path(scene, "measure"), None).await.1[0]["tally"].clone()
}

/// Broke: what grows on a ground that stands exactly at the origin was told to stand on the land, for its frame is the scene's.
#[tokio::test(flavor = "multi_thread")]
async fn plants_of_a_ground_at_the_origin_stand_on_that_ground() {
    let stage = Stage::new().await;
    let bare = stage.scene().await;
    let mut ground = planet(4);
    ground["y_m"] = json!(0.0);
    let scene = placed(&stage, &bare, ground).await;
    let only = json!({"do": "edit_layer", "id": 1, "edit": {"set": "grounds", "value": [4]}});
    let no_masks = json!({"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": []}});
    let (_, scene) = stage.command(&scene, json!({"do": "all", "commands": [only, no_masks]})).await;
    let csv = String::from_utf8(stage.bytes(&path(&scene, "handoff/csv")).await.1).unwrap();
    let mut rows = csv.lines();
    let columns: Vec<&str> = rows.next().unwrap().split(',').collect();
    let column =
        |name: &str| columns.iter().position(|c| *c == name).unwrap_or_else(|| panic!("{columns:?}"));
    let (layer, on) = (column("layer"), column("ground"));
    let marram: Vec<&str> = rows.filter(|r| r.split(',').nth(layer) == Some("Marram")).collect();
    assert!(marram.len() > 500, "{} plants", marram.len());
    assert!(marram.iter().all(|r| r.split(',').nth(on) == Some("4")), "{}", marram[0]);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_ground_is_put_in_moved_grown_on_asked_and_taken_back() {
    let stage = Stage::new().await;
    let bare = stage.scene().await;
    let before = account(&stage, &bare).await;
    let scene = placed(&stage, &bare, planet(4)).await;
    let key = scene["grounds"][0]["key"].as_str().unwrap().to_owned();
    let (status, bytes) = stage.bytes(&path(&scene, &format!("ground/{key}"))).await;
    assert_eq!((status, &bytes[..4]), (StatusCode::OK, b"RKMG".as_slice()));
    // The planet stands too high for the marram's altitude mask, but counts as ground.
    let with = account(&stage, &scene).await;
    assert!(with["ground_m2"].as_f64().unwrap() > before["ground_m2"].as_f64().unwrap() + 400.0);
    let only = json!({"do": "edit_layer", "id": 1, "edit": {"set": "grounds", "value": [4]}});
    let no_masks = json!({"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": []}});
    let (_, scene) = stage.command(&scene, json!({"do": "all", "commands": [only, no_masks]})).await;
    let grown = account(&stage, &scene).await;
    assert!(grown["placed"].as_u64().unwrap() > 900, "{grown}");

    let mut moved = planet(4);
    (moved["x_m"], moved["turn_deg"]) = (json!(25.0), json!(70.0));
    let after = placed(&stage, &scene, moved).await;
    assert_eq!(
        after["grounds"][0]["key"],
        key.as_str(),
        "a ground that is moved on the plan is fetched once"
    );
    assert_ne!(after["layers"][0]["plants_key"], scene["layers"][0]["plants_key"]);
    assert_eq!(account(&stage, &after).await, grown, "its plants go with it");

    // Asked on its top, beside it and on a ground that is not there.
    let probe = async |query: &str| stage.ask("GET", &path(&after, &format!("probe?{query}")), None).await;
    let (status, top) = probe("x=25&y=66&z=0&ground=4").await;
    assert_eq!(status, StatusCode::OK, "{top}");
    assert_eq!(top[0]["verdict"]["share"], 1.0);
    assert_eq!(probe("x=0&y=0&z=0&ground=4").await.0, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(probe("x=0&z=0&ground=9").await.0, StatusCode::NOT_FOUND);
    let (_, land) = probe("x=40&z=70").await;
    assert_eq!(land[0]["verdict"]["words"], "it does not grow on this ground");

    let glb = stage.bytes(&path(&after, "handoff/glb")).await.1;
    let json_length = u32::from_le_bytes(glb[12..16].try_into().unwrap()) as usize;
    assert!(String::from_utf8_lossy(&glb[20..20 + json_length]).contains("\"name\":\"Planet\""));
    let csv = String::from_utf8(stage.bytes(&path(&after, "handoff/csv")).await.1).unwrap();
    let row = csv.lines().find(|l| l.starts_with("Marram")).unwrap();
    assert_eq!(row.split(',').nth(17), Some("4"), "{row}");

    let (_, without) = stage.command(&after, json!({"do": "remove_ground", "id": 4})).await;
    assert_eq!(account(&stage, &without).await["placed"], 0, "the layer waits for its ground");
    let (_, back) = stage.history(&without, "undo").await;
    assert_eq!(account(&stage, &back).await, grown);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_total_is_shared_out_over_the_grounds_of_a_layer() {
    let stage = Stage::new().await;
    let scene = placed(&stage, &stage.scene().await, planet(1)).await;
    let edit = |edit: Value| json!({"do": "edit_layer", "id": 1, "edit": edit});
    let commands = [
        edit(json!({"set": "masks", "value": []})),
        edit(json!({"set": "amount", "value": {"unit": "total", "value": 5000}})),
    ];
    let (status, scene) = stage.command(&scene, json!({"do": "all", "commands": commands})).await;
    assert_eq!(status, StatusCode::OK, "{scene}");
    let csv = String::from_utf8(stage.bytes(&path(&scene, "handoff/csv")).await.1).unwrap();
    let ground = |line: &str| line.split(',').nth(17).map(str::to_owned);
    let marram = || csv.lines().filter(|l| l.starts_with("Marram"));
    let on = |id: &str| marram().filter(|l| ground(l).as_deref() == Some(id)).count();
    assert_eq!(on("0") + on("1"), 5000);
    // By area: the planet has some 460 of 58 060 m2.
    assert!((30..50).contains(&on("1")), "{} on the planet", on("1"));
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mesh_ground_that_cannot_be_made_is_refused_and_nothing_is_changed() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (_, read) = stage.upload("/api/meshes", TWO.to_vec()).await;
    assert_eq!(read["inspection"]["parts"][1]["label"], "sides", "{read}");
    let mesh = |blob: &Value, parts: Value| {
        let mut ground = planet(2);
        let placing = json!({"unit_m": 1.0, "up": "y", "recentre": true, "turn_over": false, "mend": true});
        ground["source"] =
            json!({"kind": "mesh", "blob": blob, "name": "two.obj", "placing": placing, "parts": parts});
        json!({"do": "put_ground", "value": ground})
    };
    let (status, body) = stage.command(&scene, mesh(&read["blob"], json!(["Lid"]))).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("none of its parts is called Lid"), "{body}");
    let (status, _) = stage.command(&scene, mesh(&json!("0".repeat(64)), json!([]))).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let mut land = planet(0);
    let (status, body) = stage.command(&scene, json!({"do": "put_ground", "value": land.clone()})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("ground 0 is the land"), "{body}");
    (land["id"], land["scale"]) = (json!(5), json!(-1.0));
    let (status, _) = stage.command(&scene, json!({"do": "put_ground", "value": land})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let (_, unchanged) = stage.ask("GET", path(&scene, "").trim_end_matches('/'), None).await;
    assert_eq!(unchanged["seq"], scene["seq"]);
    let (status, scene) = stage.command(&scene, mesh(&read["blob"], json!(["sides"]))).await;
    assert_eq!((status, &scene["grounds"][0]["id"]), (StatusCode::OK, &json!(2)), "{scene}");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_zone_keeps_a_layer_out_of_a_track_and_a_sheet_of_water_colours_its_shore() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let all = account(&stage, &scene).await;
    // The demo keeps marram out of the garth, the path and the burn; without that mask more grow.
    let mut masks = scene["document"]["layers"][0]["masks"].clone();
    assert_eq!(masks[2]["quantity"], "zone");
    masks[2]["enabled"] = json!(false);
    let edit = json!({"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": masks}});
    let (_, without) = stage.command(&scene, edit).await;
    let more = account(&stage, &without).await["placed"].as_u64().unwrap();
    assert!(more > all["placed"].as_u64().unwrap() + 300, "{more} without, {all} with");
    let bad = json!({"do": "edit_layer", "id": 1, "edit": {"set": "masks", "value": [
        {"id": 1, "quantity": "zone", "enabled": true, "response": {"start": 0, "full_from": 1, "full_to": 1, "end": 1, "inverted": false}}]}});
    let (status, body) = stage.command(&without, bad).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(body["message"].as_str().unwrap().contains("must name one"), "{body}");

    let pool = json!({"id": 1, "name": "Pool", "height_m": 12.0, "x_m": 40.0, "z_m": 10.0, "width_m": 20.0, "depth_m": 12.0,
        "turn_deg": 0.0, "round": true});
    let (status, wet) = stage.command(&without, json!({"do": "put_water", "value": pool})).await;
    assert_eq!(status, StatusCode::OK, "{wet}");
    assert_ne!(wet["ground_key"], without["ground_key"]);
    let (_, dry) = stage.history(&wet, "undo").await;
    assert_eq!(dry["ground_key"], without["ground_key"]);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_scene_without_land_or_ground_grows_nothing_and_says_so_in_numbers() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let absent = json!({"do": "edit_ground", "edit": {"set": "absent", "value": true}});
    let (status, empty) = stage.command(&scene, absent).await;
    assert_eq!(status, StatusCode::OK, "{empty}");
    let tally = account(&stage, &empty).await;
    assert_eq!((&tally["placed"], &tally["ground_m2"]), (&json!(0), &json!(0.0)));
    assert_eq!(tally["mask_shares"], json!([0.0, 0.0, 0.0]));
    assert_eq!(
        stage.ask("GET", &path(&empty, "probe?x=0&z=0"), None).await.0,
        StatusCode::UNPROCESSABLE_ENTITY
    );
    let cut = "section?from_x=-60&from_z=0&to_x=60&to_z=0&width_m=2";
    let (status, section) = stage.ask("GET", &path(&empty, cut), None).await;
    assert_eq!((status, &section["standing"]), (StatusCode::OK, &json!(0)));
    assert_eq!(stage.bytes(&path(&empty, "handoff/glb")).await.0, StatusCode::OK);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_land_is_seen_to_go_on_until_it_is_told_to_end() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let key = scene["ground_key"].as_str().unwrap();
    let (status, mesh) = stage.bytes(&path(&scene, &format!("ground/{key}/beyond"))).await;
    assert_eq!((status, &mesh[..4]), (StatusCode::OK, &b"RKME"[..]));
    let before = account(&stage, &scene).await;
    let (status, ended) =
        stage.command(&scene, json!({"do": "edit_ground", "edit": {"set": "ends", "value": true}})).await;
    assert_eq!(status, StatusCode::OK, "{ended}");
    // Only what is seen: the same land, the same plants.
    assert_eq!(ended["ground_key"], scene["ground_key"]);
    assert_eq!(account(&stage, &ended).await, before);
    let (status, _) = stage.bytes(&path(&ended, &format!("ground/{key}/beyond"))).await;
    assert_eq!(status, StatusCode::NOT_FOUND);
    let (_, again) = stage.history(&ended, "undo").await;
    assert_eq!(stage.bytes(&path(&again, &format!("ground/{key}/beyond"))).await.0, StatusCode::OK);
    assert_eq!(stage.bytes(&path(&again, "ground/other/beyond")).await.0, StatusCode::GONE);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_ground_brings_a_nap_but_for_its_tracks_and_bare_earths() {
    let stage = Stage::new().await;
    let (status, forms) = stage.bytes("/api/nap/forms").await;
    assert_eq!((status, &forms[4..8]), (StatusCode::OK, &b"RKME"[..]));
    let scene = stage.scene().await;
    let key = scene["ground_key"].as_str().unwrap();
    let square = |scene: &Value, at: &str| path(scene, &format!("ground/{key}/nap/{at}"));
    let count = |bytes: &[u8]| {
        let json = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
        serde_json::from_slice::<Value>(&bytes[8..8 + json]).unwrap()["count"].as_u64().unwrap()
    };
    let (status, all) = stage.bytes(&square(&scene, "0/0")).await;
    assert_eq!((status, &all[..4]), (StatusCode::OK, &b"RKNP"[..]));
    assert!(count(&all) > 1000, "{}", count(&all));
    let before = account(&stage, &scene).await;
    let every = json!(["turf", "peat", "sand", "shingle", "rock"]);
    let bare = |value: &Value| json!({"do": "edit_ground", "edit": {"set": "bare", "value": value}});
    let (status, bared) = stage.command(&scene, bare(&every)).await;
    assert_eq!(status, StatusCode::OK, "{bared}");
    // Only what is seen: the same land, the same plants.
    assert_eq!(bared["ground_key"], scene["ground_key"]);
    assert_eq!(account(&stage, &bared).await, before);
    assert_eq!(count(&stage.bytes(&square(&bared, "0/0")).await.1), 0);
    let (_, again) = stage.history(&bared, "undo").await;
    assert_eq!(stage.bytes(&square(&again, "0/0")).await.1, all);
    let (status, refused) = stage.command(&again, bare(&json!(["turf", "turf"]))).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{refused}");
    // A square far beyond the land is empty, a wrong one is refused.
    assert_eq!(count(&stage.bytes(&square(&again, "2147483647/-2147483648")).await.1), 0);
    assert_eq!(stage.bytes(&square(&again, "0/north")).await.0, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(stage.bytes(&path(&again, "ground/other/nap/0/0")).await.0, StatusCode::GONE);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn water_has_the_waves_of_the_wind_and_the_sky_its_clouds() {
    let stage = Stage::new().await;
    let (status, billows) = stage.bytes("/api/sky/clouds").await;
    assert_eq!((status, billows.len()), (StatusCode::OK, 256 * 256));
    let mean = billows.iter().map(|b| f64::from(*b)).sum::<f64>() / billows.len() as f64;
    assert!((mean - 127.5).abs() < 0.5, "every rank as often as any other: {mean}");
    let scene = stage.scene().await;
    let key = scene["ground_key"].as_str().unwrap().to_owned();
    let head = |bytes: &[u8]| {
        assert_eq!(&bytes[..4], b"RKWV");
        let json = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
        serde_json::from_slice::<Value>(&bytes[8..8 + json]).unwrap()
    };
    let waves = path(&scene, &format!("ground/{key}/waves"));
    let (status, before) = stage.bytes(&waves).await;
    assert_eq!(status, StatusCode::OK);
    let samples: Vec<usize> = serde_json::from_value(head(&before)["samples"].clone()).unwrap();
    assert!(before.len() > samples[0] * samples[1] * 8 && samples[0] > 100);
    let blow = json!({"do": "edit_motion", "edit": {"set": "speed", "value": 16.0}});
    let (status, blown) = stage.command(&scene, blow).await;
    assert_eq!(status, StatusCode::OK, "{blown}");
    let (_, after) = stage.bytes(&waves).await;
    let high = |bytes: &[u8]| head(bytes)["height_m"].as_f64().unwrap();
    assert!(high(&after) > 1.3 * high(&before), "{} m, then {} m", high(&before), high(&after));
    let (_, again) = stage.history(&blown, "undo").await;
    assert_eq!(stage.bytes(&waves).await.1, before);
    // Clouds belong to a shot.
    let clouds = |value: f32| json!({"do": "edit_shot", "id": 1, "edit": {"set": "clouds", "value": value}});
    let (status, clouded) = stage.command(&again, clouds(0.7)).await;
    assert_eq!(status, StatusCode::OK, "{clouded}");
    assert_eq!(clouded["ground_key"], scene["ground_key"]);
    let (status, refused) = stage.command(&clouded, clouds(1.2)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{refused}");
    assert_eq!(stage.bytes(&path(&clouded, "ground/other/waves")).await.0, StatusCode::GONE);
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn an_outline_lays_an_earth_of_its_own_which_is_only_seen() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let key = scene["ground_key"].as_str().unwrap().to_owned();
    let soils = path(&scene, &format!("ground/{key}/soils"));
    let (status, before) = stage.bytes(&soils).await;
    assert_eq!((status, &before[..4]), (StatusCode::OK, &b"RKSO"[..]));
    let grown = account(&stage, &scene).await;
    let earth = |earth: Value| json!({"do": "change", "what": {"of": "outline", "id": 1}, "fields": {"earth": earth}});
    let (status, laid) = stage.command(&scene, earth(json!("shingle"))).await;
    assert_eq!(status, StatusCode::OK, "{laid}");
    assert_eq!(laid["ground_key"], scene["ground_key"]);
    assert_eq!(account(&stage, &laid).await, grown);
    let (_, after) = stage.bytes(&soils).await;
    // Of the garth, some 700 m2 between 22 and 50 m, all is shingle now: grey, and wholly there.
    let covered = |bytes: &[u8]| bytes.chunks_exact(4).filter(|t| t[3] == 255).count();
    assert!(covered(&after) > covered(&before) + 5000, "{} and {}", covered(&before), covered(&after));
    let (_, again) = stage.history(&laid, "undo").await;
    assert_eq!(stage.bytes(&soils).await.1, before);
    let (status, refused) = stage.command(&again, earth(json!("snow"))).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{refused}");
    assert_eq!(stage.bytes(&path(&again, "ground/other/soils")).await.0, StatusCode::GONE);
    stage.end().await;
}
