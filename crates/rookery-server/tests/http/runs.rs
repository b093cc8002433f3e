//! Runs of frames: many jobs, one document, the same pictures whoever takes them.

use crate::common::Stage;
use axum::http::StatusCode;
use serde_json::{Value, json};
use std::time::Duration;

async fn until(stage: &Stage, run: &str, wanted: impl Fn(&Value) -> bool) -> Value {
    for _ in 0..900 {
        let (_, now) = stage.ask("GET", &format!("/api/runs/{run}"), None).await;
        if wanted(&now) {
            return now;
        }
        tokio::time::sleep(Duration::from_millis(100)).await;
    }
    panic!("the run did not get there");
}

fn pictures(run: &Value) -> Vec<String> {
    let frames = run["frames"].as_array().unwrap();
    frames.iter().filter_map(|f| f["picture"].as_str().map(str::to_owned)).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_run_is_taken_by_any_worker_filled_after_a_stop_and_kept_as_files() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let (runs, stills) = (format!("/api/scenes/{id}/runs"), format!("/api/scenes/{id}/stills"));
    let small = json!({"shot": 1, "width_px": 64, "height_px": 36, "samples": 1, "first": 10, "last": 14, "frame_rate": 10.0});
    let (status, run) = stage.ask("POST", &runs, Some(small.clone())).await;
    assert_eq!(
        (status, &run["state"], run["frames"].as_array().unwrap().len()),
        (StatusCode::ACCEPTED, &json!("waiting"), 4)
    );
    let run = run["id"].as_str().unwrap().to_owned();

    // A still that is asked for later is taken before them: of the moment of frame 12, so the same picture.
    let still = json!({"shot": 1, "width_px": 64, "height_px": 36, "samples": 1, "time_s": 1.2});
    stage.ask("POST", &stills, Some(still)).await;
    let (_, list) = stage.ask("GET", &stills, None).await;
    assert_eq!((&list[0]["ahead"], &list[0]["time_s"]), (&json!(0), &json!(1.2)));

    let one = tokio::spawn(rookery_server::jobs::work(stage.app.clone()));
    let half = until(&stage, &run, |r| !pictures(r).is_empty()).await;
    assert!(half["state"] != "waiting");
    let (_, list) = stage.ask("GET", &stills, None).await;
    let still = list[0]["picture"].as_str().expect("the still came first").to_owned();
    let (status, stopped) = stage.ask("POST", &format!("/api/runs/{run}/stop"), None).await;
    assert_eq!(status, StatusCode::OK);
    assert!(stopped["frames"].as_array().unwrap().iter().all(|f| f["state"] != "waiting"), "{stopped}");
    let stopped = until(&stage, &run, |r| r["state"] != "working").await;
    let had = pictures(&stopped);
    assert!(!had.is_empty(), "{stopped}");
    one.abort();

    // Another worker fills what is missing; what was there stays as it was.
    let two = tokio::spawn(rookery_server::jobs::work(stage.app.clone()));
    let (status, filled) = stage.ask("POST", &format!("/api/runs/{run}/fill"), None).await;
    assert_eq!((status, filled["frames"].as_u64()), (StatusCode::ACCEPTED, Some(4 - had.len() as u64)));
    let done = until(&stage, &run, |r| r["state"] == "done").await;
    let all = pictures(&done);
    assert_eq!((all.len(), &all[..had.len()], &all[2]), (4, had.as_slice(), &still));
    assert!(all.windows(2).all(|w| w[0] != w[1]), "nothing moves: {all:?}");
    assert_eq!((&done["progress"], &done["left_s"]), (&json!(1.0), &Value::Null));

    // Whoever takes them again takes the same to the bit.
    let (_, again) = stage.ask("POST", &runs, Some(small)).await;
    let again = again["id"].as_str().unwrap().to_owned();
    let again = until(&stage, &again, |r| r["state"] == "done").await;
    assert_eq!(pictures(&again), all);

    let (status, zip) = stage.bytes(&format!("/api/runs/{run}/frames.zip")).await;
    assert_eq!((status, &zip[..2]), (StatusCode::OK, b"PK".as_slice()));
    let stem = done["shot_name"].as_str().unwrap().to_lowercase().replace(' ', "-");
    for name in [format!("{stem}.00010.png"), format!("{stem}.00013.png")] {
        assert!(zip.windows(name.len()).any(|w| w == name.as_bytes()), "no {name}");
    }
    let (status, moving) = stage.bytes(&format!("/api/runs/{run}/animation.png")).await;
    assert_eq!((status, &moving[1..4]), (StatusCode::OK, b"PNG".as_slice()));
    let control = moving.windows(4).position(|w| w == b"acTL").expect("it moves");
    assert_eq!(moving[control + 4..control + 8], [0, 0, 0, 4]);

    let (status, _) = stage.ask("DELETE", &format!("/api/runs/{run}"), None).await;
    assert_eq!(status, StatusCode::NO_CONTENT);
    let (_, list) = stage.ask("GET", &runs, None).await;
    assert_eq!(list.as_array().unwrap().len(), 1);
    two.abort();
    stage.end().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_cannot_be_a_run_or_a_moment_is_refused_in_words() {
    let stage = Stage::new().await;
    let scene = stage.scene().await;
    let id = scene["id"].as_str().unwrap();
    let runs = format!("/api/scenes/{id}/runs");
    for (body, said) in [
        (json!({"shot": 1, "first": 5, "last": 5}), "has no frame"),
        (json!({"shot": 1, "last": 5000}), "the number of frames of a run is 5000"),
        (json!({"shot": 1, "first": 90_000, "last": 90_002, "frame_rate": 24.0}), "the moment is"),
        (json!({"shot": 1, "last": 5, "frame_rate": 0.0}), "frames a second is 0"),
        (json!({"shot": 1, "last": 5, "samples": 0}), "samples is 0"),
    ] {
        let (status, answer) = stage.ask("POST", &runs, Some(body)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert!(answer["message"].as_str().unwrap().contains(said), "{answer}");
    }
    let (status, answer) = stage
        .ask("POST", &format!("/api/scenes/{id}/stills"), Some(json!({"shot": 1, "time_s": 4000.0})))
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{answer}");
    let nobody = "/api/runs/00000000-0000-7000-8000-000000000000";
    for (method, path) in [
        ("GET", nobody.to_owned()),
        ("POST", format!("{nobody}/stop")),
        ("POST", format!("{nobody}/fill")),
        ("DELETE", nobody.to_owned()),
        ("GET", format!("{nobody}/frames.zip")),
    ] {
        assert_eq!(stage.ask(method, &path, None).await.0, StatusCode::NOT_FOUND, "{method} {path}");
    }
    // A run nobody has begun has nothing to keep, and can be taken off.
    let (_, run) = stage.ask("POST", &runs, Some(json!({"shot": 1, "last": 3}))).await;
    let run = format!("/api/runs/{}", run["id"].as_str().unwrap());
    let (status, answer) = stage.ask("GET", &format!("{run}/animation.png"), None).await;
    assert_eq!(
        (status, answer["message"].as_str()),
        (StatusCode::NOT_FOUND, Some("there is no such frame of this run yet"))
    );
    assert_eq!(stage.ask("DELETE", &run, None).await.0, StatusCode::NO_CONTENT);
    stage.end().await;
}
