//! A database for each test, and requests without a network.

use axum::body::{Body, to_bytes};
use axum::http::{Request, StatusCode};
use diesel_async::{AsyncConnection, AsyncPgConnection, RunQueryDsl};
use rookery_server::app::App;
use rookery_server::routes::router;
use serde_json::{Value, json};
use tower::ServiceExt;
use uuid::Uuid;

/// An application on a database of its own, dropped at the end.
pub struct Stage {
    pub app: App,
    pub url: String,
    admin: String,
    name: String,
}

impl Stage {
    /// # Panics
    /// When `ROOKERY_TEST_DATABASE_URL` is not set; `cargo xtask test` sets it.
    pub async fn new() -> Self {
        let admin = std::env::var("ROOKERY_TEST_DATABASE_URL")
            .expect("these tests need a database: run `cargo xtask test`, or set ROOKERY_TEST_DATABASE_URL");
        let name = format!("test_{}", Uuid::new_v4().simple());
        execute(&admin, &format!("CREATE DATABASE {name}")).await;
        let url = format!("{}/{name}", admin.rsplit_once('/').unwrap().0);
        let app = App::start(&url).await.unwrap();
        Self { app, url, admin, name }
    }

    pub async fn end(self) {
        execute(&self.admin, &format!("DROP DATABASE {} WITH (FORCE)", self.name)).await;
    }

    /// Sends a request; answers with its status and its JSON (null when the body is none).
    pub async fn ask(&self, method: &str, path: &str, body: Option<Value>) -> (StatusCode, Value) {
        let request = Request::builder().method(method).uri(path).header("content-type", "application/json");
        let body = body.map_or(Body::empty(), |b| Body::from(b.to_string()));
        let (status, bytes) = self.raw(request.body(body).unwrap()).await;
        (status, serde_json::from_slice(&bytes).unwrap_or(Value::Null))
    }

    pub async fn raw(&self, request: Request<Body>) -> (StatusCode, Vec<u8>) {
        let answer = router(self.app.clone()).oneshot(request).await.unwrap();
        let status = answer.status();
        (status, to_bytes(answer.into_body(), 1 << 30).await.unwrap().to_vec())
    }

    pub async fn bytes(&self, path: &str) -> (StatusCode, Vec<u8>) {
        self.raw(Request::builder().uri(path).body(Body::empty()).unwrap()).await
    }

    /// Sends a file; answers with its status and its JSON.
    pub async fn upload(&self, path: &str, file: Vec<u8>) -> (StatusCode, Value) {
        let request = Request::builder().method("POST").uri(path).body(Body::from(file)).unwrap();
        let (status, bytes) = self.raw(request).await;
        (status, serde_json::from_slice(&bytes).unwrap_or(Value::Null))
    }

    /// Makes the demo scene with a smaller ground; answers with its view.
    pub async fn scene(&self) -> Value {
        let (status, scene) = self.ask("POST", "/api/scenes", Some(json!({"from": "kittiwake_head"}))).await;
        assert_eq!(status, StatusCode::CREATED);
        scene
    }

    /// Runs a command on top of what the scene view shows; answers with status and body.
    pub async fn command(&self, scene: &Value, command: Value) -> (StatusCode, Value) {
        self.gesture(scene, command, Value::Null).await
    }

    pub async fn gesture(&self, scene: &Value, command: Value, gesture: Value) -> (StatusCode, Value) {
        let path = format!("/api/scenes/{}/commands", scene["id"].as_str().unwrap());
        let body = json!({"expected_seq": scene["seq"], "command": command, "gesture": gesture});
        self.ask("POST", &path, Some(body)).await
    }

    pub async fn history(&self, scene: &Value, what: &str) -> (StatusCode, Value) {
        let path = format!("/api/scenes/{}/{what}", scene["id"].as_str().unwrap());
        self.ask("POST", &path, Some(json!({"expected_seq": scene["seq"]}))).await
    }
}

async fn execute(url: &str, sql: &str) {
    let mut conn = AsyncPgConnection::establish(url).await.unwrap();
    diesel::sql_query(sql).execute(&mut conn).await.unwrap();
}
