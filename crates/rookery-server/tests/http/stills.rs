//! Stills as jobs.

use crate::common::Stage;
use axum::http::StatusCode;
use serde_json::{Value, json};
use std::time::Duration;

async fn until(stage: &Stage, job: &str, wanted: impl Fn(&Value) -> bool) -> Value {
    // Beside the other tests, on a machine that others use as well.
    for _ in 0..1800 {
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
    let (status, _) = stage.bytes(&format!("/api/stills/{}/draft", first["still"].as_str().unwrap())).await;
    assert_eq!(status, StatusCode::NOT_FOUND, "a finished still has its whole picture");
    let (_, list) = stage.ask("GET", &stills, None).await;
    let (status, png) = stage.bytes(&format!("/api/blobs/{}", list[0]["picture"].as_str().unwrap())).await;
    assert_eq!((status, &png[1..4]), (StatusCode::OK, b"PNG".as_slice()));

    // A long one is stopped half-way and leaves nothing behind.
    let (_, long) = take(json!({"shot": 1, "width_px": 640, "height_px": 360, "samples": 1024})).await;
    let job = long["job"]["id"].as_str().unwrap().to_owned();
    until(&stage, &job, |j| j["state"] == "working").await;
    // Meanwhile another waits behind it, the time that is left is told, and the picture shows as it comes.
    let (_, behind) = take(small.clone()).await;
    until(&stage, &job, |j| j["left_s"].as_f64().is_some_and(|s| s > 0.5)).await;
    let draft = format!("/api/stills/{}/draft", long["still"].as_str().unwrap());
    let drawn = async {
        loop {
            let (status, png) = stage.bytes(&draft).await;
            if status == StatusCode::OK {
                return png;
            }
            tokio::time::sleep(Duration::from_millis(200)).await;
        }
    };
    let png = tokio::time::timeout(Duration::from_secs(60), drawn).await.expect("no picture came");
    assert_eq!(&png[1..4], b"PNG");
    // Of 640 pixels to at most 480, by a whole step.
    assert_eq!(u32::from_be_bytes(png[16..20].try_into().unwrap()), 320);
    let (_, list) = stage.ask("GET", &stills, None).await;
    assert_eq!((&list[0]["ahead"], &list[0]["drafts"]), (&json!(1), &json!(0)));
    assert!(list[1]["ahead"].is_null() && list[1]["drafts"].as_i64() >= Some(1), "{list}");
    let waiting = behind["job"]["id"].as_str().unwrap();
    stage.ask("POST", &format!("/api/jobs/{waiting}/stop"), None).await;
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
                jobs::beat(&stage.app.db, job.id, &lost, 0.5, None).await.unwrap(),
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
