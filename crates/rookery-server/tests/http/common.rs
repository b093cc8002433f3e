//! A database for each test, and requests without a network.

use axum::body::{Body, to_bytes};
use axum::http::{Request, StatusCode};
use diesel_async::{AsyncConnection, AsyncPgConnection, RunQueryDsl};
use rookery_core::scene::patch::{PatchOp, apply_patch};
use rookery_server::app::App;
use rookery_server::reading::Readers;
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
        let app = App::start_with(&url, readers()).await.unwrap();
        Self { app, url, admin, name }
    }

    pub async fn sql(&self, sql: &str) {
        execute(&self.url, sql).await;
    }

    /// Takes the database away from the server.
    pub async fn close_database(&self) {
        execute(&self.admin, &format!("ALTER DATABASE {} ALLOW_CONNECTIONS false", self.name)).await;
        let theirs =
            format!("FROM pg_stat_activity WHERE datname = '{}' AND pid <> pg_backend_pid()", self.name);
        execute(&self.admin, &format!("SELECT pg_terminate_backend(pid) {theirs}")).await;
    }

    /// Gives it back.
    pub async fn open_database(&self) {
        execute(&self.admin, &format!("ALTER DATABASE {} ALLOW_CONNECTIONS true", self.name)).await;
        // As long as those who found it away believe so.
        tokio::time::sleep(std::time::Duration::from_millis(600)).await;
    }

    /// Another server on the same database.
    pub async fn another_server(&self) -> Self {
        let Self { url, admin, name, .. } = self;
        let app = App::start_with(url, readers()).await.unwrap();
        Self { app, url: url.clone(), admin: admin.clone(), name: name.clone() }
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

    /// Sends a request as a script on this machine does, with the token.
    pub async fn raw(&self, mut request: Request<Body>) -> (StatusCode, Vec<u8>) {
        let token = format!("Bearer {}", self.app.door.token());
        for (name, value) in [("host", "127.0.0.1:7411"), ("authorization", &token)] {
            request.headers_mut().entry(name).or_insert(value.parse().unwrap());
        }
        self.knock(request).await
    }

    /// Sends a request as it is.
    pub async fn knock(&self, request: Request<Body>) -> (StatusCode, Vec<u8>) {
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

    /// Runs a command on top of what the scene view shows; answers with status and the view after it, or the error.
    pub async fn command(&self, scene: &Value, command: Value) -> (StatusCode, Value) {
        self.gesture(scene, command, Value::Null).await
    }

    pub async fn gesture(&self, scene: &Value, command: Value, gesture: Value) -> (StatusCode, Value) {
        self.wish("", scene, "commands", json!({"command": command, "gesture": gesture})).await
    }

    pub async fn history(&self, scene: &Value, what: &str) -> (StatusCode, Value) {
        self.wish("", scene, what, json!({})).await
    }

    /// Sends a wish of an author under a new name; answers with status and the view after it, or the error.
    pub async fn wish(&self, author: &str, scene: &Value, what: &str, wish: Value) -> (StatusCode, Value) {
        let (status, answer) = self.send(author, Uuid::new_v4(), scene, what, wish).await;
        if status != StatusCode::OK {
            return (status, answer);
        }
        (status, moved_on(scene, &answer))
    }

    /// Sends a wish as it is; answers with status and answer as they come.
    pub async fn send(
        &self,
        author: &str,
        id: Uuid,
        scene: &Value,
        what: &str,
        mut wish: Value,
    ) -> (StatusCode, Value) {
        let path = format!("/api/scenes/{}/{what}", scene["id"].as_str().unwrap());
        wish["id"] = json!(id);
        wish["author"] = json!(author);
        wish["seen_seq"] = scene["seq"].clone();
        self.ask("POST", &path, Some(wish)).await
    }
}

/// The view of a scene after what an answer tells, as a client makes it.
pub fn moved_on(scene: &Value, answer: &Value) -> Value {
    let mut view = match &answer["scene"] {
        Value::Null => {
            let mut view = scene.clone();
            let patch: Vec<PatchOp> = serde_json::from_value(answer["patch"].clone()).unwrap();
            apply_patch(&mut view, &patch).unwrap();
            view
        }
        whole => whole.clone(),
    };
    for field in ["seq", "undo_steps", "redo_steps"] {
        view[field] = answer[field].clone();
    }
    view
}

/// Files are read by the program itself, as they are in the field.
fn readers() -> Readers {
    Readers::by(env!("CARGO_BIN_EXE_rookery").into())
}

async fn execute(url: &str, sql: &str) {
    let mut conn = AsyncPgConnection::establish(url).await.unwrap();
    diesel::sql_query(sql).execute(&mut conn).await.unwrap();
}

/// Where the plants of a layer are.
pub fn plants_path(scene: &Value, layer: usize) -> String {
    let l = &scene["layers"][layer];
    format!(
        "/api/scenes/{}/layers/{}/plants/{}",
        scene["id"].as_str().unwrap(),
        l["id"],
        l["plants_key"].as_str().unwrap()
    )
}

/// The head of a buffer.
pub fn head(bytes: &[u8]) -> Value {
    let length = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
    serde_json::from_slice(&bytes[8..8 + length]).unwrap()
}
