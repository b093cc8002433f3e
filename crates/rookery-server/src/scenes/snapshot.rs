//! A scene after one edit, with all that is named and said of it. Made once, shared by all requests.

use crate::error::ApiError;
use crate::growth::textures_key;
use rookery_core::ground::outline::OutlineLine;
use rookery_core::measure::{Part, sentence};
use rookery_core::scene::patch::{PatchOp, diff, diff_documents, diff_list};
use rookery_core::scene::{
    ContentKey, Document, GroundId, Keyed, Layer, LayerId, News, Obstacle, ObstacleId, Outline, OutlineId,
    PlacedGround, to_json,
};
use serde::Serialize;
use serde_json::Value;
use uuid::Uuid;

/// What is derived from an outline.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct OutlineView {
    /// Which.
    pub id: OutlineId,
    /// The line through its nodes in straight pieces: x, z in metres; a closed one ends where it begins.
    #[schema(value_type = Vec<Vec<f32>>)]
    pub line: Vec<[f32; 2]>,
    /// Length of the line, metres.
    pub length_m: f32,
    /// Plan area, m2.
    pub area_m2: f32,
}

impl From<&Outline> for OutlineView {
    fn from(outline: &Outline) -> Self {
        let line = OutlineLine::new(outline);
        let (length_m, area_m2) = (line.length_m(), line.area_m2());
        Self { id: outline.id, line: line.points.iter().map(|p| p.to_array()).collect(), length_m, area_m2 }
    }
}

/// What is derived from a ground beside the land.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct GroundView {
    /// Which.
    pub id: GroundId,
    /// Names its buffer; another name, another surface. Where it stands is not part of it.
    pub key: String,
}

/// What is derived from an obstacle.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ObstacleView {
    /// Which.
    pub id: ObstacleId,
    /// Names the buffer of its mesh; another name, another mesh.
    pub mesh_key: String,
}

/// What the core says of a layer.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LayerView {
    /// Which.
    pub id: LayerId,
    /// Names the buffer of its plants; another name, other plants.
    pub plants_key: String,
    /// Names the buffer of plants with forms of their own; none where none are bent or trimmed.
    pub fits_key: Option<String>,
    /// Layers whose plants claim their ground first.
    pub yields_to: Vec<LayerId>,
    /// How soon it claims ground by the profile: 0 before all others.
    pub claims_at: u32,
    /// Its specification sentence.
    pub sentence: Vec<Part>,
}

/// A scene after one edit.
#[derive(Debug)]
pub struct Snapshot {
    /// Which scene.
    pub scene: Uuid,
    /// The number of the edit.
    pub seq: i64,
    /// The document after it, with the names of what is derived from it.
    pub document: Keyed,
    /// Names the land's buffer.
    pub ground_key: String,
    /// Names what its earths show in.
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

impl Snapshot {
    /// Works out everything that is said of a document.
    pub fn new(scene: Uuid, seq: i64, document: Document) -> Self {
        Self::with(scene, seq, Keyed::new(document), None)
    }

    /// The scene after another edit. What the edit left as it was keeps its names and its words.
    pub fn after(&self, seq: i64, document: Document) -> Self {
        Self::with(self.scene, seq, self.document.after(document), Some(self))
    }

    fn with(scene: Uuid, seq: i64, document: Keyed, before: Option<&Self>) -> Self {
        let claims = document.claims();
        let mut claims_at: Vec<_> = claims.order().enumerate().map(|(at, id)| (id, at as u32)).collect();
        claims_at.sort_unstable();
        let spoken = before.filter(|b| same_words_around(&b.document, &document));
        let said_before = |at: usize, l: &Layer| {
            let layers = &spoken?.document.layers;
            let here = layers.get(at).filter(|b| b.id == l.id).map(|_| at);
            let at = here.or_else(|| layers.iter().position(|b| b.id == l.id))?;
            layers.get(at).filter(|known| *known == l)?;
            Some(spoken?.layers.get(at)?.sentence.clone())
        };
        let layer = |(at, l): (usize, &Layer)| LayerView {
            id: l.id,
            plants_key: document.layer_key(l).to_string(),
            fits_key: document.fits_key(l).map(|key| key.to_string()),
            yields_to: claims.over(l.id).to_vec(),
            claims_at: claims_at
                .binary_search_by_key(&l.id, |c| c.0)
                .ok()
                .and_then(|i| Some(claims_at.get(i)?.1))
                .unwrap_or_default(),
            sentence: said_before(at, l).unwrap_or_else(|| sentence(&document, l)),
        };
        let ground = |g: &PlacedGround| {
            let key = document.ground_key(g.id).expect("it is a ground of this document");
            GroundView { id: g.id, key: key.to_string() }
        };
        let obstacle =
            |o: &Obstacle| ObstacleView { id: o.id, mesh_key: document.obstacle_key(o).to_string() };
        Self {
            scene,
            seq,
            ground_key: document.land_key().to_string(),
            textures_key: textures_key(&document).to_string(),
            grounds: document.grounds.iter().map(ground).collect(),
            outlines: document.outlines.iter().map(OutlineView::from).collect(),
            obstacles: document.obstacles.iter().map(obstacle).collect(),
            layers: document.layers.iter().enumerate().map(layer).collect(),
            news: document.news(),
            document,
        }
    }

    /// The layer with this id, whose plants must go by this name.
    ///
    /// # Errors
    /// When there is no such layer, or its plants have another name now.
    pub fn layer_named(&self, id: LayerId, plants_key: &str) -> Result<&Layer, ApiError> {
        let layer = self.document.layer(id).ok_or(ApiError::NotFound("layer"))?;
        let known = self.layers.iter().any(|l| l.id == id && l.plants_key == plants_key);
        if known { Ok(layer) } else { Err(ApiError::Outdated("layer")) }
    }

    /// The name of the land's buffer as a key.
    pub fn land(&self) -> ContentKey {
        self.document.land_key()
    }

    /// What leads from another snapshot of the scene to this one, as the client sees them.
    pub fn since(&self, before: &Self) -> Vec<PatchOp> {
        let mut out = Vec::new();
        diff_documents("/document", &before.document, &self.document, &mut out);
        diff("/ground_key", &before.ground_key.as_str().into(), &self.ground_key.as_str().into(), &mut out);
        let textures = [&before.textures_key, &self.textures_key].map(|key| key.as_str().into());
        diff("/textures_key", &textures[0], &textures[1], &mut out);
        if before.news != self.news {
            diff("/news", &to_json(&before.news), &to_json(&self.news), &mut out);
        }
        fn each<T: Serialize>(at: &str, x: &T, y: &T, out: &mut Vec<PatchOp>) {
            diff(at, &to_json(x), &to_json(y), out);
        }
        diff_list("/grounds", &before.grounds, &self.grounds, |g| g.id, each, to_json, &mut out);
        diff_list("/outlines", &before.outlines, &self.outlines, |o| o.id, each, to_json, &mut out);
        diff_list("/obstacles", &before.obstacles, &self.obstacles, |o| o.id, each, to_json, &mut out);
        diff_list("/layers", &before.layers, &self.layers, |l| l.id, LayerView::differs, to_json, &mut out);
        out
    }
}

/// Whether all that a layer's sentence names beside the layer itself is the same in two documents.
fn same_words_around(a: &Document, b: &Document) -> bool {
    let names = |d: &Document| -> Vec<(LayerId, String)> {
        d.layers.iter().map(|l| (l.id, l.name.clone())).collect()
    };
    let Document {
        schema: _,
        edition,
        epoch: _,
        name: _,
        ground: _,
        grounds,
        waters,
        zones,
        paints: _,
        pictures,
        earth_pictures: _,
        outlines,
        species,
        season: _,
        obstacles,
        layers: _,
        cap: _,
        shares: _,
        yields: _,
        shots,
        motion: _,
        blowers: _,
        bodies: _,
    } = a;
    let same = (grounds, waters, zones, pictures) == (&b.grounds, &b.waters, &b.zones, &b.pictures)
        && (outlines, species, obstacles, shots) == (&b.outlines, &b.species, &b.obstacles, &b.shots)
        && *edition == b.edition;
    let painted = |d: &Document| -> Vec<_> { d.paints.iter().map(|p| (p.id, p.name.clone())).collect() };
    same && painted(a) == painted(b) && names(a) == names(b)
}

impl LayerView {
    /// Adds what leads from one to the other. A change of one layer gives many others new names, so only what differs is written out.
    fn differs(at: &str, from: &Self, to: &Self, out: &mut Vec<PatchOp>) {
        let mut put = |field: &str, differs: bool, value: &dyn Fn() -> Value| {
            if differs {
                out.push(PatchOp::Replace { path: format!("{at}/{field}"), value: value() });
            }
        };
        put("plants_key", from.plants_key != to.plants_key, &|| to.plants_key.as_str().into());
        put("fits_key", from.fits_key != to.fits_key, &|| to.fits_key.clone().into());
        put("yields_to", from.yields_to != to.yields_to, &|| to_json(&to.yields_to));
        put("claims_at", from.claims_at != to.claims_at, &|| to.claims_at.into());
        put("sentence", from.sentence != to.sentence, &|| to_json(&to.sentence));
    }
}
