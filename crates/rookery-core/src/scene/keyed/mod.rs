//! A document with the names of all that is derived from it. A name is a hash of exactly what it depends on.
//!
//! An edit leaves most of a document as it was: [`Keyed::after`] keeps the names of those things, so that an edit costs what it
//! changed, not what the scene holds.

mod beneath;
mod plants;
#[cfg(test)]
mod tests;
mod things;

use super::*;
use crate::document::Claimants;
use crate::names::{ContentKey, Namer, content_key};
use crate::nursery::Species;
use rustc_hash::FxHashMap;
use std::ops::Deref;
use std::sync::{Arc, Mutex, OnceLock};
use things::Things;

/// Raised when forms of a species, or what stands for them far away, are built otherwise: a browser keeps what has a name for ever.
const FORMS: u32 = 3;

/// How much of what a layer grows is named.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
enum What {
    /// All of it.
    All,
    /// All but the obstacles it keeps clear of, the plants that claim first, and what was tended.
    ButAround,
    /// The area its masks allow it.
    Allowed,
}

/// What layers are to others that yield to them on a ground, with or without their plants, and whether they go along when that
/// ground is moved.
type Others = FxHashMap<(LayerId, GroundId, bool), (ContentKey, bool)>;

/// A document with the names of all that is derived from it.
#[derive(Debug)]
pub struct Keyed {
    document: Document,
    things: Things,
    claimants: Claimants,
    claims: Arc<Claims>,
    /// All layers in the order in which the cap of the scene is given to them.
    served: OnceLock<Vec<LayerId>>,
    /// The plants of layers, on one ground or on all.
    layers: Mutex<FxHashMap<(LayerId, Option<GroundId>), ContentKey>>,
    others: Mutex<Others>,
}

impl Deref for Keyed {
    type Target = Document;

    fn deref(&self) -> &Document {
        &self.document
    }
}

impl From<Document> for Keyed {
    fn from(document: Document) -> Self {
        Self::new(document)
    }
}

impl Keyed {
    /// Names are worked out when they are asked for.
    pub fn new(document: Document) -> Self {
        let claimants = document.claimants();
        let claims = Arc::new(claimants.claims());
        Self::with(document, Things::default(), claimants, claims)
    }

    fn with(document: Document, things: Things, claimants: Claimants, claims: Arc<Claims>) -> Self {
        Self {
            document,
            things,
            claimants,
            claims,
            served: OnceLock::new(),
            layers: Mutex::default(),
            others: Mutex::default(),
        }
    }

    /// Another state of the scene. What is the same in both keeps its name without being hashed again.
    pub fn after(&self, document: Document) -> Self {
        let claimants = document.claimants();
        let claims =
            if claimants == self.claimants { self.claims.clone() } else { Arc::new(claimants.claims()) };
        let things = self.things.kept(&self.document, &document);
        Self::with(document, things, claimants, claims)
    }

    /// The document.
    pub fn document(&self) -> &Document {
        &self.document
    }

    /// Who yields to whom.
    pub fn claims(&self) -> &Claims {
        &self.claims
    }

    /// Names the model of the land.
    pub fn land_key(&self) -> ContentKey {
        self.things.land(self)
    }

    /// Names the model of a ground; none when there is no such ground. Where it stands on the plan is not part of it.
    pub fn ground_key(&self, id: GroundId) -> Option<ContentKey> {
        self.things.ground(self, id)
    }

    /// Names the mean wind over the land and what stands on it, from a side, degrees clockwise from north.
    pub fn flow_key(&self, from_deg: f32) -> ContentKey {
        let shown = self.grounds.iter().filter(|g| !g.hidden);
        let beside: Vec<_> =
            shown.map(|g| (self.ground_key(g.id).map(|k| k.to_string()), g.x_m, g.z_m, g.turn_deg)).collect();
        let stand = self.obstacles.iter().filter(|o| !o.hidden);
        let stand: Vec<_> = stand.map(|o| self.obstacle_key(o).to_string()).collect();
        content_key("flow", &(self.land_key().to_string(), beside, stand, from_deg))
    }

    /// Names what moves by itself: blowers and bodies, where they go and what they meet.
    pub fn moving_key(&self) -> ContentKey {
        let meets = self.flow_key(self.motion.wind.from_deg).to_string();
        let carried: Vec<_> = self.grounds.iter().map(|g| (g.id, g.hidden, &g.moves)).collect();
        content_key("moving", &(meets, &self.blowers, &self.bodies, carried, &self.motion))
    }

    /// Names an obstacle's mesh. Its name and whether it is hidden are not part of it.
    pub fn obstacle_key(&self, obstacle: &Obstacle) -> ContentKey {
        self.things.obstacle(self, obstacle)
    }

    /// Names the meshes of a species in the scene's season: all its forms at all details.
    pub fn looks(document: &Document, species: &Species) -> ContentKey {
        let Species {
            id,
            name: _,
            plural: _,
            kind: _,
            tags: _,
            seed,
            forms,
            plan,
            colours,
            year,
            season,
            sways: _,
            forked_from: _,
        } = species;
        content_key(
            "species",
            &(EPOCH, FORMS, id, seed, forms, plan, colours, year, season.unwrap_or(document.season)),
        )
    }

    /// Names the meshes of all species of a layer's mix.
    fn looks_of(&self, layer: &Layer) -> Vec<ContentKey> {
        self.mix_of(layer).map(|(_, s)| self.things.species(self, s)).collect()
    }

    /// The layers that must grow before a layer, each after those that it itself waits for: with a cap on the scene all that are
    /// served before it.
    pub fn grows_after(&self, layer: LayerId) -> Vec<LayerId> {
        match self.cap {
            Some(_) => self.served_before(layer).to_vec(),
            None => self.claims.grows_after(self, layer),
        }
    }

    /// The layers that the cap of the scene is given to before a layer.
    fn served_before(&self, layer: LayerId) -> &[LayerId] {
        let served = self.served.get_or_init(|| self.claims.served(self));
        &served[..served.iter().position(|id| *id == layer).unwrap_or(0)]
    }

    /// Names the forms that plants of a layer were given by what stands beside them; none where none are bent or trimmed.
    pub fn fits_key(&self, layer: &Layer) -> Option<ContentKey> {
        let key =
            || Namer::new("fits").value(&EPOCH).key(self.layer_key(layer)).keys(self.looks_of(layer)).end();
        layer.clearance.fits().then(key)
    }
}
