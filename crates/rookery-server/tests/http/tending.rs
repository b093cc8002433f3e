//! Plants that keep clear and plants tended by hand, over the interface.

use crate::common::Stage;
use axum::http::StatusCode;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundRef;
use rookery_core::planting::{Grown, Sowing};
use rookery_core::scene::{Document, Obstacle};
use serde_json::{Value, json};

async fn tally(stage: &Stage, scene: &Value, place: usize) -> Value {
    let path = format!("/api/scenes/{}/measure", scene["id"].as_str().unwrap());
    stage.ask("GET", &path, None).await.1[place]["tally"].clone()
}

async fn picked(stage: &Stage, scene: &Value, key: &Value, places: Value) -> (StatusCode, Value) {
    let path = format!("/api/scenes/{}/layers/1/picked", scene["id"].as_str().unwrap());
    stage.ask("POST", &path, Some(json!({"plants_key": key, "places": places}))).await
}

#[tokio::test(flavor = "multi_thread")]
async fn who_yields_to_whom_is_told_changed_and_taken_back() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let yields = |scene: &Value, id: u64| -> Vec<u64> {
        let layers = scene["layers"].as_array().unwrap();
        let own = layers.iter().find(|l| l["id"] == id).unwrap();
        own["yields_to"].as_array().unwrap().iter().map(|v| v.as_u64().unwrap()).collect()
    };
    // Turf is 3, gorse 7, boulders 2: stones lie first, then the higher claims.
    assert!(yields(&scene, 3).contains(&7) && yields(&scene, 7).contains(&2) && yields(&scene, 2).is_empty());
    let put = json!({"do": "put_yield", "value": {"layer": 7, "to": 3, "yields": true}});
    let (status, turned) = stage.command(&scene, put).await;
    assert_eq!(status, StatusCode::OK, "{turned}");
    assert!(yields(&turned, 7).contains(&3) && !yields(&turned, 3).contains(&7));
    let gorse =
        |s: &Value| s["document"]["layers"].as_array().unwrap().iter().position(|l| l["id"] == 7).unwrap();
    let (before, after) =
        (tally(&stage, &scene, gorse(&scene)).await, tally(&stage, &turned, gorse(&turned)).await);
    let reasons: Vec<&Value> = after["refused"].as_array().unwrap().iter().map(|r| &r["reason"]).collect();
    assert!(reasons.contains(&&json!({"rule": "layer", "id": 3})), "{reasons:?}");
    assert!(after["placed"].as_u64() <= before["placed"].as_u64());
    // A circle is refused by name, and nothing is lost.
    let circle = json!({"do": "edit_layer", "id": 3, "edit": {"set": "on_plants", "value": 7}});
    let (status, refused) = stage.command(&turned, circle).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(refused["message"].as_str().unwrap().contains("Gorse"), "{refused}");
    let (_, undone) = stage.history(&turned, "undo").await;
    assert_eq!((&undone["document"], yields(&undone, 3).contains(&7)), (&scene["document"], true));
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_point_beside_the_cottage_says_what_it_is_near() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let cottage = &scene["document"]["obstacles"][0];
    let path = format!("/api/scenes/{id}/probe?x={}&z={}", cottage["x_m"], cottage["z_m"]);
    let (_, verdicts) = stage.ask("GET", &path, None).await;
    let turf = verdicts.as_array().unwrap().iter().find(|v| v["name"] == "Fescue turf").unwrap();
    let room = &turf["verdict"]["room"][0];
    assert_eq!(
        (&room["reason"]["rule"], &room["obstacle"], &room["refuses"]),
        (&json!("obstacle"), &cottage["id"], &json!(true))
    );
    assert!(room["away_m"].as_f64().unwrap() < 0.0, "the middle of the cottage is in it: {room}");
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn plants_are_taken_in_hand_set_cleared_and_let_go() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let key = &scene["layers"][0]["plants_key"];
    let (status, body) = picked(&stage, &scene, key, json!([4, 9_999_999])).await;
    assert_eq!(status, StatusCode::NOT_FOUND, "{body}");
    let (status, body) = picked(&stage, &scene, &json!("another"), json!([4])).await;
    assert_eq!(status, StatusCode::GONE, "{body}");
    let many: Vec<u32> = (0..3001).collect();
    let (status, body) = picked(&stage, &scene, key, json!(many)).await;
    assert_eq!((status, &body["code"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("too_many")), "{body}");

    let (_, found) = picked(&stage, &scene, key, json!([4, 17])).await;
    let placed = tally(&stage, &scene, 0).await["placed"].as_u64().unwrap();
    let mut set =
        json!({"id": 1, "at_m": found[0]["at_m"], "from": found[0]["from"], "plant": found[0]["plant"]});
    set["plant"]["size"] = json!(1.5);
    let cleared = json!({"id": 2, "at_m": found[1]["at_m"], "from": found[1]["from"], "room_m": 0.05});
    let tend = |put: Value, gone: Value| json!({"do": "edit_layer", "id": 1, "edit": {"set": "tend", "put": put, "let_go": gone}});
    let (status, tended) = stage.command(&scene, tend(json!([set, cleared]), json!([]))).await;
    assert_eq!(status, StatusCode::OK, "{tended}");
    let account = tally(&stage, &tended, 0).await;
    assert_eq!(account["by_hand"], 1);
    assert!(
        account["placed"].as_u64().unwrap() < placed && account["placed"].as_u64().unwrap() + 20 > placed
    );
    // Those set come last in the buffer, and are known again.
    let last = account["placed"].as_u64().unwrap() - 1;
    let (_, again) = picked(&stage, &tended, &tended["layers"][0]["plants_key"], json!([last])).await;
    assert_eq!((&again[0]["tended"], &again[0]["plant"]["size"]), (&json!(1), &json!(1.5)), "{again}");
    // A new seed keeps what was set.
    let seed = json!({"do": "edit_layer", "id": 1, "edit": {"set": "seed", "value": 991}});
    let (_, seeded) = stage.command(&tended, seed).await;
    assert_eq!(tally(&stage, &seeded, 0).await["by_hand"], 1);
    let (_, free) = stage.command(&seeded, tend(json!([]), json!([1, 2]))).await;
    assert_eq!(tally(&stage, &free, 0).await["by_hand"], 0);
    let (status, refused) = stage.command(&free, tend(json!([]), json!([1]))).await;
    assert_eq!(status, StatusCode::NOT_FOUND, "{refused}");
    let mut back = free;
    for _ in 0..3 {
        back = stage.history(&back, "undo").await.1;
    }
    assert_eq!(back["document"], scene["document"]);
    stage.end().await;
}

/// Two people tend one scene: whoever comes second is told what was missed, and nothing is lost.
#[tokio::test(flavor = "multi_thread")]
async fn of_two_who_tend_at_once_the_second_is_told_and_neither_is_lost() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let set = |id: u32, x: f64| {
        let plant = json!({"species": "marram", "size": 1.0, "turn_deg": 0.0});
        json!({"do": "edit_layer", "id": 1, "edit": {"set": "tend", "put": [{"id": id, "at_m": [x, 0.0, 3.0], "plant": plant}]}})
    };
    let wish = |command: Value| json!({"command": command});
    let (status, first) = stage.wish("Sorrel", &scene, "commands", wish(set(1, 10.0))).await;
    assert_eq!(status, StatusCode::OK, "{first}");
    // The same number for another plant: both are told, and the first stays.
    let (status, missed) = stage.wish("Yarrow", &scene, "commands", wish(set(1, 20.0))).await;
    assert_eq!((status, &missed["code"]), (StatusCode::CONFLICT, &json!("conflict")), "{missed}");
    // A number of its own: both stand, though the second had not seen the first.
    let (status, _) = stage.wish("Yarrow", &scene, "commands", wish(set(2, 20.0))).await;
    assert_eq!(status, StatusCode::OK);
    let (_, second) = stage.ask("GET", &format!("/api/scenes/{}", scene["id"].as_str().unwrap()), None).await;
    let ids: Vec<_> = second["document"]["layers"][0]["tended"]
        .as_array()
        .unwrap()
        .iter()
        .map(|t| t["id"].clone())
        .collect();
    assert_eq!(ids, [1, 2]);
    stage.end().await;
}

/// Every layer, grown again where something around it changed, is what it is when grown from nothing.
#[tokio::test(flavor = "multi_thread")]
async fn what_grows_again_beside_a_change_is_what_grows_anew() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let path = |scene: &Value, place: usize| {
        let (id, key) = (
            &scene["document"]["layers"][place]["id"],
            scene["layers"][place]["plants_key"].as_str().unwrap(),
        );
        format!("/api/scenes/{}/layers/{id}/plants/{key}", scene["id"].as_str().unwrap())
    };
    let layers = scene["document"]["layers"].as_array().unwrap().len();
    for place in 0..layers {
        stage.bytes(&path(&scene, place)).await;
    }
    let key = &scene["layers"][0]["plants_key"];
    let (_, found) = picked(&stage, &scene, key, json!([4])).await;
    let mut set =
        json!({"id": 1, "at_m": found[0]["at_m"], "from": found[0]["from"], "plant": found[0]["plant"]});
    set["plant"]["size"] = json!(2.5);
    let mut moved = set.clone();
    moved["at_m"][0] = json!(set["at_m"][0].as_f64().unwrap() + 6.0);
    let tend = |t: &Value| json!({"do": "edit_layer", "id": 1, "edit": {"set": "tend", "put": [t]}});
    let mut cottage = scene["document"]["obstacles"][0].clone();
    cottage["x_m"] = json!(cottage["x_m"].as_f64().unwrap() - 9.0);
    let obstacle = json!({"do": "put_obstacle", "value": cottage});
    let let_go = json!({"do": "edit_layer", "id": 1, "edit": {"set": "tend", "let_go": [1]}});
    let mut now = scene.clone();
    let stroke = json!({"id": 1, "tool": "raise", "radius_m": 14.0, "strength": 0.8, "falloff": 0.5, "points": [[10.0, 5.0], [30.0, -8.0]]});
    let sculpt = json!({"do": "edit_ground", "edit": {"set": "put_stroke", "value": stroke}});
    for command in [sculpt, obstacle, tend(&set), tend(&moved), let_go] {
        let (status, next) = stage.command(&now, command).await;
        assert_eq!(status, StatusCode::OK, "{next}");
        now = next;
        let document: Document = serde_json::from_value(now["document"].clone()).unwrap();
        let ground = rookery_formats::ground_model(&document, |_| None).unwrap();
        let land = |_| Some(GroundRef::Terrain(&ground));
        let mesh = |o: &Obstacle| Some(rookery_core::ground::obstacle::mesh(o, &ground.terrain, None));
        let (grown, never) = (Grown::default(), CancelToken::default());
        let sowing =
            Sowing { document: &document, model: &land, obstacle: &mesh, grown: &grown, cancel: &never };
        for (place, layer) in document.layers.iter().enumerate() {
            let (_, bytes) = stage.bytes(&path(&now, place)).await;
            let anew = rookery_formats::view::encode_plants(layer, &sowing.layer(layer).unwrap());
            assert!(bytes == anew, "{} after {}", layer.name, now["seq"]);
        }
    }
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn turf_leans_aside_from_the_cottage_and_each_response_is_counted() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let turf = |s: &Value| s["layers"].as_array().unwrap().iter().find(|l| l["id"] == 3).unwrap().clone();
    assert!(turf(&scene)["fits_key"].is_null());
    let path = |beside: &str| format!("/api/scenes/{id}/layers/3/responses/{beside}");
    let (status, counts) = stage.ask("GET", &path("obstacles"), None).await;
    assert_eq!(status, StatusCode::OK, "{counts}");
    let names: Vec<&Value> = counts.as_array().unwrap().iter().map(|c| &c["response"]).collect();
    assert_eq!(names, [&Value::Null, &json!("remove"), &json!("shrink"), &json!("bend")]);
    let of = |k: usize, what: &str| counts[k][what].as_u64().unwrap();
    assert!(
        of(0, "stand") > of(1, "stand") && of(1, "refused") > 0 && of(2, "smaller") > 0 && of(3, "bent") > 0
    );
    assert_eq!(of(3, "gone"), 0);
    assert_eq!(stage.ask("GET", &path("neighbours"), None).await.0, StatusCode::UNPROCESSABLE_ENTITY);

    let mut clearance =
        scene["document"]["layers"].as_array().unwrap().iter().find(|l| l["id"] == 3).unwrap()["clearance"]
            .clone();
    clearance["obstacles"]["response"] = json!("trim");
    let edit = |clearance: &Value| json!({"do": "edit_layer", "id": 3, "edit": {"set": "clearance", "value": clearance}});
    let (status, refused) = stage.command(&scene, edit(&clearance)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        refused["message"].as_str().unwrap().contains("obstacles can remove, shrink or bend only"),
        "{refused}"
    );
    clearance["obstacles"]["response"] = json!("bend");
    let (status, bent) = stage.command(&scene, edit(&clearance)).await;
    assert_eq!(status, StatusCode::OK, "{bent}");
    let key = turf(&bent)["fits_key"].as_str().unwrap().to_owned();
    let (_, fits) = stage.bytes(&format!("/api/scenes/{id}/layers/3/fits/{key}")).await;
    assert_eq!(&fits[..4], b"RKFT");
    let long = u32::from_le_bytes(fits[4..8].try_into().unwrap()) as usize;
    let head: Value = serde_json::from_slice(&fits[8..8 + long]).unwrap();
    assert_eq!((&head["plants"], &head["bent"]), (&turf(&bent)["plants_key"], &counts[3]["bent"]));
    // Another season, other leaves; undone, there are none.
    let (status, other) = stage.command(&bent, json!({"do": "set_season", "value": 2.0})).await;
    assert_eq!(status, StatusCode::OK, "{other}");
    assert_ne!(turf(&other)["fits_key"], turf(&bent)["fits_key"]);
    let at = |key: &str| format!("/api/scenes/{id}/layers/3/fits/{key}");
    assert_eq!(stage.ask("GET", &at(&key), None).await.0, StatusCode::OK, "by its old name as it was");
    assert_eq!(stage.ask("GET", &at(&"0".repeat(64)), None).await.0, StatusCode::GONE);
    stage.end().await;
}
