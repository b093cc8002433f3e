//! What those who change a scene, and those who watch, are told.

use super::snapshot::{GroundView, LayerView, ObstacleView, OutlineView, Snapshot};
use rookery_core::scene::patch::PatchOp;
use rookery_core::scene::{Document, News};
use serde::Serialize;
use serde_json::Value;
use uuid::Uuid;

/// A scene as it stands, with the names of what is derived from it.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct SceneView {
    /// Which.
    pub id: Uuid,
    /// The number of its last edit.
    pub seq: i64,
    /// The document.
    pub document: Document,
    /// How many steps the one who asks can take back.
    pub undo_steps: usize,
    /// How many steps the one who asks can do again.
    pub redo_steps: usize,
    /// Names the land's buffer; another name, another land.
    pub ground_key: String,
    /// Names the buffer of what its earths show in.
    pub textures_key: String,
    /// One for each ground beside the land, in the document's order.
    pub grounds: Vec<GroundView>,
    /// One for each outline, in the document's order.
    pub outlines: Vec<OutlineView>,
    /// One for each obstacle, in the document's order.
    pub obstacles: Vec<ObstacleView>,
    /// One for each layer, in the document's order.
    pub layers: Vec<LayerView>,
    /// What grows otherwise than when the scene was made.
    pub news: News,
}

impl SceneView {
    /// All of a snapshot, with the steps of the one who asks.
    pub fn new(snapshot: &Snapshot, [undo_steps, redo_steps]: [usize; 2]) -> Self {
        Self {
            id: snapshot.scene,
            seq: snapshot.seq,
            document: snapshot.document.clone(),
            undo_steps,
            redo_steps,
            ground_key: snapshot.ground_key.clone(),
            textures_key: snapshot.textures_key.clone(),
            grounds: snapshot.grounds.clone(),
            outlines: snapshot.outlines.clone(),
            obstacles: snapshot.obstacles.clone(),
            layers: snapshot.layers.clone(),
            news: snapshot.news.clone(),
        }
    }
}

/// What changed in a scene.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct Changes {
    /// The number of its last edit.
    pub seq: i64,
    /// The edit that the one who asks had seen.
    pub base_seq: i64,
    /// What leads from there to the last edit (RFC 6902), in the scene as `GET /api/scenes/{scene}` answers it. None where that
    /// cannot be told any more.
    pub patch: Option<Vec<PatchOp>>,
    /// The whole scene, where there is no patch.
    pub scene: Option<Box<SceneView>>,
    /// How many steps the one who asks can take back.
    pub undo_steps: usize,
    /// How many steps the one who asks can do again.
    pub redo_steps: usize,
}

impl Changes {
    pub(super) fn new(
        now: &Snapshot,
        base_seq: i64,
        patch: Option<Vec<PatchOp>>,
        undo_steps: usize,
        redo_steps: usize,
    ) -> Self {
        let scene = patch.is_none().then(|| Box::new(SceneView::new(now, [undo_steps, redo_steps])));
        Self { seq: now.seq, base_seq, patch, scene, undo_steps, redo_steps }
    }
}

/// What became of a change.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct CommandAnswer {
    /// The edit that it became; none where it changed nothing. The same however often it is sent.
    pub edit: Option<i64>,
    /// What is different now for the one who sent it.
    #[serde(flatten)]
    pub changes: Changes,
}

/// Two who changed one thing, neither having seen the other's change.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct Conflict {
    /// The setting in words, for example `Marram / amount`.
    pub setting: String,
    /// Who changed it first; empty where that is not known.
    pub author: String,
    /// What it is now; null where it is gone.
    pub theirs: Value,
    /// What it would be.
    pub yours: Value,
    /// What it is now, in words.
    pub theirs_in_words: Option<String>,
    /// What it would be, in words.
    pub yours_in_words: Option<String>,
}
