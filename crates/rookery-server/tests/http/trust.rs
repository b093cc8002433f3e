//! An edit is never lost, doubled or taken back by another.

use crate::common::{Stage, moved_on};
use axum::http::StatusCode;
use futures::future::join_all;
use serde_json::{Value, json};
use uuid::Uuid;

fn seed(layer: u32, value: u32) -> Value {
    json!({"command": {"do": "edit_layer", "id": layer, "edit": {"set": "seed", "value": value}}})
}

fn change(what: Value, fields: Value) -> Value {
    json!({"command": {"do": "change", "what": what, "fields": fields}})
}

async fn now(stage: &Stage, scene: &Value, author: &str) -> Value {
    stage.ask("GET", &format!("/api/scenes/{}?author={author}", scene["id"].as_str().unwrap()), None).await.1
}

/// Broke: the answer to a command was lost, and the command sent again was carried out twice.
#[tokio::test(flavor = "multi_thread")]
async fn a_command_sent_again_is_carried_out_once() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let layer = json!({"command": {"do": "duplicate_layer", "id": 1, "copy": 900}});
    let id = Uuid::new_v4();
    let (status, first) = stage.send("Sorrel", id, &scene, "commands", layer.clone()).await;
    assert_eq!(status, StatusCode::OK);
    let (status, again) = stage.send("Sorrel", id, &scene, "commands", layer.clone()).await;
    assert_eq!((status, &again), (StatusCode::OK, &first));
    // Even to another server, and when others went on meanwhile.
    stage.wish("Yarrow", &scene, "commands", seed(2, 505)).await;
    let stage = stage.another_server().await;
    let (_, later) = stage.send("Sorrel", id, &scene, "commands", layer).await;
    assert_eq!((&later["edit"], &later["seq"]), (&json!(1), &json!(2)));
    let count = now(&stage, &scene, "").await["document"]["layers"].as_array().unwrap().len();
    assert_eq!(count, scene["document"]["layers"].as_array().unwrap().len() + 1);
    stage.end().await;
}

/// Broke: an undo whose answer was lost, sent again, took back two steps.
#[tokio::test(flavor = "multi_thread")]
async fn an_undo_sent_again_takes_back_one_step() {
    let stage = Stage::new().await;
    let mut scene = stage.scene().await;
    for value in [5, 6] {
        scene = stage.wish("Sorrel", &scene, "commands", seed(1, value)).await.1;
    }
    let id = Uuid::new_v4();
    let (_, first) = stage.send("Sorrel", id, &scene, "undo", json!({})).await;
    let (_, again) = stage.send("Sorrel", id, &scene, "undo", json!({})).await;
    assert_eq!(first, again);
    assert_eq!(now(&stage, &scene, "").await["document"]["layers"][0]["seed"], 5);
    stage.end().await;
}

/// A refusal is an answer too: what it was refused for may be gone when it is sent again. So is that nothing changed.
#[tokio::test(flavor = "multi_thread")]
async fn what_was_refused_or_changed_nothing_stays_so_when_sent_again() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let lock = |value: bool| json!({"command": {"do": "edit_layer", "id": 1, "edit": {"set": "locked", "value": value}}});
    let (_, locked) = stage.wish("Yarrow", &scene, "commands", lock(true)).await;
    let id = Uuid::new_v4();
    let (status, refused) = stage.send("Sorrel", id, &locked, "commands", seed(1, 9)).await;
    assert_eq!((status, &refused["code"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("refused")));
    let (_, open) = stage.wish("Yarrow", &locked, "commands", lock(false)).await;
    assert_eq!(stage.send("Sorrel", id, &open, "commands", seed(1, 9)).await, (status, refused));

    let idle = Uuid::new_v4();
    let own = scene["document"]["layers"][0]["seed"].as_u64().unwrap() as u32;
    let (_, nothing) = stage.send("Sorrel", idle, &open, "commands", seed(1, own)).await;
    assert_eq!((&nothing["edit"], &nothing["patch"]), (&Value::Null, &json!([])));
    stage.wish("Yarrow", &open, "commands", seed(1, 77)).await;
    stage.send("Sorrel", idle, &open, "commands", seed(1, own)).await;
    assert_eq!(now(&stage, &scene, "").await["document"]["layers"][0]["seed"], 77);
    stage.end().await;
}

/// Broke: undo took back the last edit of the scene, whoever had made it.
#[tokio::test(flavor = "multi_thread")]
async fn everybody_takes_back_their_own_steps() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (_, a) = stage.wish("Sorrel", &scene, "commands", seed(1, 11)).await;
    let (_, b) = stage.wish("Yarrow", &a, "commands", seed(2, 22)).await;
    assert_eq!(
        (&b["undo_steps"], &now(&stage, &scene, "Sorrel").await["undo_steps"]),
        (&json!(1), &json!(1))
    );
    let (_, undone) = stage.wish("Sorrel", &b, "undo", json!({})).await;
    let seeds = |v: &Value| [0, 1].map(|i: usize| v["document"]["layers"][i]["seed"].clone());
    let first = seeds(&scene);
    assert_eq!(seeds(&undone), [first[0].clone(), json!(22)]);
    let (status, body) = stage.wish("Sorrel", &undone, "undo", json!({})).await;
    assert_eq!((status, &body["message"]), (StatusCode::CONFLICT, &json!("there is nothing to undo")));
    let (_, redone) = stage.wish("Sorrel", &undone, "redo", json!({})).await;
    assert_eq!(seeds(&redone), [json!(11), json!(22)]);
    let (_, back) = stage.wish("Yarrow", &redone, "undo", json!({})).await;
    assert_eq!(seeds(&back), [json!(11), first[1].clone()]);
    stage.end().await;
}

/// What another changed after a step is not taken back along with it, and that is said.
#[tokio::test(flavor = "multi_thread")]
async fn a_step_that_another_built_on_says_why_it_cannot_be_taken_back() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let copy = json!({"command": {"do": "duplicate_layer", "id": 1, "copy": 900}});
    let (_, a) = stage.wish("Sorrel", &scene, "commands", copy).await;
    let (_, b) = stage.wish("Yarrow", &a, "commands", seed(900, 5)).await;
    let (status, body) = stage.wish("Sorrel", &b, "undo", json!({})).await;
    assert_eq!((status, &body["code"]), (StatusCode::CONFLICT, &json!("overtaken")));
    let words =
        "cannot undo: Yarrow changed \u{201c}Marram 2 / seed\u{201d} after that, and it would be lost";
    assert_eq!(body["message"], words);
    // When Yarrow takes that back, so can Sorrel.
    let (_, c) = stage.wish("Yarrow", &b, "undo", json!({})).await;
    let (status, d) = stage.wish("Sorrel", &c, "undo", json!({})).await;
    assert_eq!((status, &d["document"]), (StatusCode::OK, &scene["document"]));
    // And done again it is the same copy, wherever it lies now.
    let (status, e) = stage.wish("Sorrel", &d, "redo", json!({})).await;
    assert_eq!((status, &e["document"]), (StatusCode::OK, &a["document"]));
    stage.end().await;
}

/// Broke: of two masks of a layer, and of two settings of one mask, changed by two people at once, the first was lost.
#[tokio::test(flavor = "multi_thread")]
async fn two_people_on_one_mask_both_get_their_way() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let mask = &scene["document"]["layers"][0]["masks"][0]["id"];
    let what = json!({"of": "mask", "layer": 1, "id": mask});
    let (ours, theirs) = (
        change(what.clone(), json!({"strength": 0.5})),
        change(what, json!({"response": {"inverted": true}})),
    );
    let (a, b) = tokio::join!(
        stage.wish("Sorrel", &scene, "commands", ours),
        stage.wish("Yarrow", &scene, "commands", theirs)
    );
    assert_eq!((a.0, b.0), (StatusCode::OK, StatusCode::OK));
    let mask = now(&stage, &scene, "").await["document"]["layers"][0]["masks"][0].clone();
    assert_eq!((&mask["strength"], &mask["response"]["inverted"]), (&json!(0.5), &json!(true)));
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_true_conflict_tells_both_values_and_changes_nothing() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let (_, theirs) = stage.wish("Yarrow", &scene, "commands", seed(1, 8)).await;
    let (status, body) = stage.wish("Sorrel", &scene, "commands", seed(1, 9)).await;
    assert_eq!(status, StatusCode::CONFLICT);
    let c = &body["conflict"];
    assert_eq!(
        (&body["code"], &body["seq"], &c["setting"], &c["author"], &c["theirs"], &c["yours"]),
        (&json!("conflict"), &json!(1), &json!("Marram / seed"), &json!("Yarrow"), &json!(8), &json!(9))
    );
    assert_eq!(now(&stage, &scene, "").await["document"], theirs["document"]);
    // Wanting the same is no conflict, and one who has seen it may set something else.
    assert_eq!(stage.wish("Sorrel", &scene, "commands", seed(1, 8)).await.0, StatusCode::OK);
    let seen = json!({"id": scene["id"], "seq": body["seq"]});
    let answer = stage.send("Sorrel", Uuid::new_v4(), &seen, "commands", seed(1, 9)).await;
    assert_eq!((answer.0, &answer.1["edit"]), (StatusCode::OK, &json!(2)));
    stage.end().await;
}

/// Of many at once each gets through, in a row without holes, and nothing is lost.
#[tokio::test(flavor = "multi_thread")]
async fn many_at_once_lose_nothing() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let layers: Vec<u64> =
        scene["document"]["layers"].as_array().unwrap().iter().map(|l| l["id"].as_u64().unwrap()).collect();
    let send = |i: usize| {
        let (stage, scene) = (&stage, &scene);
        let id = layers[i % layers.len()] as u32;
        let wish = if i < layers.len() {
            seed(id, 5000 + i as u32)
        } else {
            change(json!({"of": "layer", "id": id}), json!({"cap": 700 + i}))
        };
        async move { stage.send(&format!("Sorrel {i}"), Uuid::new_v4(), scene, "commands", wish).await }
    };
    let all = join_all((0..2 * layers.len()).map(send)).await;
    let mut edits: Vec<i64> = all
        .iter()
        .map(|(status, a)| {
            assert_eq!(*status, StatusCode::OK, "{a}");
            a["edit"].as_i64().unwrap()
        })
        .collect();
    edits.sort_unstable();
    assert_eq!(edits, (1..=2 * layers.len() as i64).collect::<Vec<_>>());
    let document = now(&stage, &scene, "").await["document"].clone();
    for (i, layer) in document["layers"].as_array().unwrap().iter().enumerate() {
        assert_eq!((&layer["seed"], &layer["cap"]), (&json!(5000 + i), &json!(700 + layers.len() + i)));
    }
    stage.end().await;
}

/// The values of one drag are one entry of the log, and taken back to where the drag began, by any server.
#[tokio::test(flavor = "multi_thread")]
async fn a_drag_is_one_entry() {
    let stage = Stage::new().await;
    let first = stage.scene().await;
    let mut scene = first.clone();
    for value in 20..60 {
        let mut wish = seed(1, value);
        wish["gesture"] = json!("drag");
        scene = stage.wish("Sorrel", &scene, "commands", wish).await.1;
    }
    let id: Uuid = first["id"].as_str().unwrap().parse().unwrap();
    let mut conn = stage.app.db.get().await.unwrap();
    let log = rookery_server::db::scenes::entries_after(&mut conn, id, 0, 100).await.unwrap();
    drop(conn);
    assert_eq!((log.len(), log[0].entry.seq, log[0].entry.since), (1, 40, 1));
    let stage = stage.another_server().await;
    let (_, undone) = stage.wish("Sorrel", &scene, "undo", json!({})).await;
    assert_eq!(undone["document"], first["document"]);
    let (_, redone) = stage.wish("Sorrel", &undone, "redo", json!({})).await;
    assert_eq!(redone["document"]["layers"][0]["seed"], 59);
    stage.end().await;
}

/// A long log is not read again for each command, and a scene that was written down whole loses no history.
#[tokio::test(flavor = "multi_thread")]
async fn a_long_history_is_taken_back_to_its_start_by_another_server() {
    let stage = Stage::new().await;
    let first = stage.scene().await;
    let mut scene = first.clone();
    for i in 0..230 {
        let (status, next) = stage.wish("Sorrel", &scene, "commands", seed(1 + i % 3, 1000 + i)).await;
        assert_eq!(status, StatusCode::OK, "{next}");
        scene = next;
    }
    assert_eq!(scene, now(&stage, &scene, "Sorrel").await, "what the patches lead to is what there is");
    let stage = stage.another_server().await;
    for left in (0..230).rev() {
        let (status, next) = stage.wish("Sorrel", &scene, "undo", json!({})).await;
        assert_eq!((status, &next["undo_steps"]), (StatusCode::OK, &json!(left)), "{next}");
        scene = next;
    }
    assert_eq!(scene["document"], first["document"]);
    stage.end().await;
}

/// Two servers on one database: what one does the other goes on from.
#[tokio::test(flavor = "multi_thread")]
async fn two_servers_go_on_from_one_another() {
    let stage = Stage::new().await;
    let first = stage.scene().await;
    let other = stage.another_server().await;
    let mut scene = first.clone();
    let mut watch = other.app.events.watch(first["id"].as_str().unwrap().parse().unwrap());
    for i in 0..20 {
        let (from, author) = if i % 2 == 0 { (&stage, "Sorrel") } else { (&other, "Yarrow") };
        scene = from.wish(author, &scene, "commands", seed(1 + i % 3, 300 + i)).await.1;
    }
    assert_eq!(scene["seq"], 20);
    let mut told = first.clone();
    while told["seq"] != 20 {
        let text =
            tokio::time::timeout(std::time::Duration::from_secs(10), watch.recv()).await.unwrap().unwrap();
        let message: Value = serde_json::from_str(&text).unwrap();
        if message["patch"].is_null() || message["base_seq"] != told["seq"] {
            let path = format!("/api/scenes/{}/changes?since={}", first["id"].as_str().unwrap(), told["seq"]);
            told = moved_on(&told, &other.ask("GET", &path, None).await.1);
        } else {
            let mut answer = message.clone();
            answer["scene"] = Value::Null;
            told = moved_on(&told, &answer);
        }
    }
    assert_eq!(told["document"], scene["document"]);
    stage.end().await;
}

/// Those who watch get one small message for an edit, with what changed.
#[tokio::test(flavor = "multi_thread")]
async fn an_edit_is_one_small_message_to_all_who_watch() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id: Uuid = scene["id"].as_str().unwrap().parse().unwrap();
    let mut watchers: Vec<_> = (0..50).map(|_| stage.app.events.watch(id)).collect();
    stage.wish("Sorrel", &scene, "commands", seed(1, 4)).await;
    for watcher in &mut watchers {
        let text =
            tokio::time::timeout(std::time::Duration::from_secs(10), watcher.recv()).await.unwrap().unwrap();
        assert!(text.len() < 2000, "{} bytes", text.len());
        let message: Value = serde_json::from_str(&text).unwrap();
        assert_eq!(
            (&message["event"], &message["seq"], &message["base_seq"]),
            (&json!("edited"), &json!(1), &json!(0))
        );
        assert_eq!(message["authors"], json!(["Sorrel"]));
        let paths: Vec<_> = message["patch"].as_array().unwrap().iter().map(|p| p["path"].clone()).collect();
        assert!(paths.contains(&json!("/document/layers/0/seed")), "{paths:?}");
        assert!(watcher.try_recv().is_err(), "one message and no more");
    }
    stage.end().await;
}
