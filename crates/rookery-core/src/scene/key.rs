//! Names for derived data: a hash of exactly what the data depends on.

use super::*;
use crate::nursery::{Kind, Species};
use crate::planting::{MeanCrown, grown_on};
use rustc_hash::FxHashMap;
use serde::Serialize;
use sha2::{Digest, Sha256};
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, PoisonError};

/// The name of a piece of derived data. Equal inputs, equal name.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct ContentKey(pub [u8; 32]);

/// Hashes what derived data depends on. `purpose` keeps different kinds of data apart.
pub fn content_key(purpose: &str, inputs: &impl Serialize) -> ContentKey {
    let mut hasher = Sha256::new();
    hasher.update(purpose.as_bytes());
    hasher.update([0]);
    hasher.update(serde_json::to_vec(inputs).expect("documents are plain data and always become JSON"));
    ContentKey(hasher.finalize().into())
}

/// Part of every key: raised when the same settings come to give other grounds or other plants.
const EPOCH: u32 = 6;

/// By layer, on one ground or on all.
type Known = BTreeMap<(LayerId, Option<GroundId>), ContentKey>;

/// Names of parts of the document that several layers look at, each worked out once.
type Parts = FxHashMap<(&'static str, u32, u32), ContentKey>;

/// What layers are to others that yield to them on a ground, with or without their plants.
type Others = FxHashMap<(LayerId, GroundId, bool), (ContentKey, bool)>;

/// Eye, target and vertical angle.
type CameraPlace = ([f32; 3], [f32; 3], f32);

/// The names of everything derived from one document.
#[derive(Clone, Debug)]
pub struct Keys {
    grounds: Vec<(GroundId, ContentKey)>,
    claims: Claims,
    /// Layers that were asked for because others look at them.
    layers: Arc<Mutex<Known>>,
    parts: Arc<Mutex<Parts>>,
    others: Arc<Mutex<Others>>,
}

/// How far the species of a layer reach.
fn reaches(document: &Document, layer: &Layer) -> Vec<[f32; 2]> {
    document.mix_of(layer).map(|(_, s)| [s.footprint_m(), s.radius_m()]).collect()
}

impl Keys {
    /// Hashes the grounds of a document, the land first, absent and hidden ones too.
    pub fn of(document: &Document) -> Self {
        let land = (GroundId::LAND, content_key("ground", &(EPOCH, &document.ground, &document.waters)));
        let water_m = document.ground.water_m;
        let placed = document.grounds.iter().map(|g| (g.id, placed_key(g, water_m)));
        let grounds = std::iter::once(land).chain(placed).collect();
        Self {
            grounds,
            claims: document.claims(),
            layers: Arc::default(),
            parts: Arc::default(),
            others: Arc::default(),
        }
    }

    /// Who yields to whom.
    pub fn claims(&self) -> &Claims {
        &self.claims
    }

    /// Names the model of a ground. Where it stands on the plan is not part of it.
    pub fn ground(&self, id: GroundId) -> Option<ContentKey> {
        self.grounds.iter().find(|(g, _)| *g == id).map(|(_, key)| *key)
    }

    /// Names the model of the land.
    pub fn land(&self) -> ContentKey {
        self.grounds[0].1
    }

    /// Names the plants of a layer of the document, on one ground or on all, once.
    fn known(&self, document: &Document, layer: &Layer, on: Option<GroundId>) -> Option<ContentKey> {
        let held = || self.layers.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(key) = held().get(&(layer.id, on)) {
            return Some(*key);
        }
        let key = match on {
            Some(ground) => self.within_cap(document, layer, self.plants(document, layer, ground)?),
            None => self.layer(document, layer),
        };
        held().insert((layer.id, on), key);
        Some(key)
    }

    /// Names all that a layer keeps clear of: how, how far its species reach, and what else claims ground.
    fn clear(
        &self,
        document: &Document,
        layer: &Layer,
        ground: GroundId,
        whole: bool,
    ) -> Option<impl Serialize + use<>> {
        let c = layer.clearance;
        if c.is_off() {
            return None;
        }
        let obstacles = (whole && c.obstacles.is_on() && !document.obstacles.is_empty()).then(|| {
            self.part("obstacles", 0, 0, || {
                let all: Vec<_> = document.obstacles.iter().map(|o| self.obstacle(o).to_string()).collect();
                content_key("obstacles", &all)
            })
        });
        let over = if c.others.is_on() { self.claims.over(layer.id) } else { &[] };
        // Of two hundred layers each may look at all above it: names are put together as they are, not written out.
        let (mut others, mut apart) = (Sha256::new(), obstacles.is_some());
        for (key, together) in self.others(document, over, ground, whole) {
            others.update(key.0);
            apart |= !together;
        }
        let others = ContentKey(others.finalize().into());
        let place = document.placed(ground).filter(|_| apart).map(|g| [g.x_m, g.z_m, g.turn_deg]);
        let tracks: Vec<_> = if c.tracks.is_on() {
            document
                .outlines
                .iter()
                .filter(|o| o.kind == OutlineKind::Track)
                .map(|o| (o.nodes.clone(), o.smooth, o.width_m))
                .collect()
        } else {
            Vec::new()
        };
        let obstacles = obstacles.map(|k| k.to_string());
        Some((c, reaches(document, layer), obstacles, others.to_string(), place, tracks))
    }

    /// A part of the document by its kind and numbers, named once.
    fn part(&self, kind: &'static str, a: u32, b: u32, name: impl FnOnce() -> ContentKey) -> ContentKey {
        let held = || self.parts.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(key) = held().get(&(kind, a, b)) {
            return *key;
        }
        let key = name();
        held().insert((kind, a, b), key);
        key
    }

    /// Names what other layers that claim their ground first are to one on a ground, each once, and tells whether they go along when
    /// that ground is moved: they do where they grow there alone.
    fn others(
        &self,
        document: &Document,
        over: &[LayerId],
        ground: GroundId,
        whole: bool,
    ) -> Vec<(ContentKey, bool)> {
        let held = || self.others.lock().unwrap_or_else(PoisonError::into_inner);
        let find = |known: &Others| over.iter().map(|id| known.get(&(*id, ground, whole)).copied()).collect();
        // Looked up all at once: there may be as many as there are layers, for each layer.
        let known: Vec<Option<_>> = find(&held());
        let name = |id: LayerId| {
            let layer = document.layer(id);
            let together = layer.is_none_or(|l| l.on_plants.is_none() && grown_on(document, l) == [ground]);
            let of = layer.map(|l| {
                let plants = || self.known(document, l, together.then_some(ground)).map(|k| k.to_string());
                (together, if whole { plants() } else { None }, l.clearance.others.by, reaches(document, l))
            });
            let named = (content_key("other", &(id, of)), together);
            held().insert((id, ground, whole), named);
            named
        };
        over.iter().zip(known).map(|(id, known)| known.unwrap_or_else(|| name(*id))).collect()
    }

    /// Names an obstacle's mesh. Its name and whether it is hidden are not part of it.
    pub fn obstacle(&self, obstacle: &Obstacle) -> ContentKey {
        let Obstacle { id, shape, x_m, z_m, lift_m, on_ground, turn_deg, scale, .. } = obstacle;
        let stand = (x_m, z_m, lift_m, on_ground, turn_deg, scale);
        content_key("obstacle", &(EPOCH, self.land().to_string(), id, shape, stand))
    }

    /// Names the meshes of a species in the scene's season: all its forms at all details.
    pub fn species(document: &Document, species: &Species) -> ContentKey {
        let Species { id, seed, forms, plan, colours, year, season, .. } = species;
        content_key(
            "species",
            &(EPOCH, id, seed, forms, plan, colours, year, season.unwrap_or(document.season)),
        )
    }

    /// Names all plants of a layer where they stand; once for one of the document's own.
    pub fn layer(&self, document: &Document, layer: &Layer) -> ContentKey {
        // One that was made from it for a moment may have its id and other settings.
        let own = document.layer(layer.id).is_some_and(|l| std::ptr::eq(l, layer));
        let named =
            self.layers.lock().unwrap_or_else(PoisonError::into_inner).get(&(layer.id, None)).copied();
        if let Some(key) = named.filter(|_| own) {
            return key;
        }
        let mut parts = Vec::new();
        for id in grown_on(document, layer) {
            let place = document.placed(id).map(|g| [g.x_m, g.y_m, g.z_m, g.turn_deg]);
            let key = match (own, document.cap) {
                (true, None) => self.known(document, layer, Some(id)),
                _ => self.plants(document, layer, id),
            };
            parts.extend(key.map(|key| (key.to_string(), place)));
        }
        let key = self.within_cap(document, layer, content_key("layer", &parts));
        if own {
            self.layers.lock().unwrap_or_else(PoisonError::into_inner).insert((layer.id, None), key);
        }
        key
    }

    /// The name of plants that the cap of the scene may cut off: with the cap, and all that is served before them.
    fn within_cap(&self, document: &Document, layer: &Layer, plants: ContentKey) -> ContentKey {
        let Some(cap) = document.cap else { return plants };
        let before = self.claims.served_before(document, layer.id);
        let before = before.into_iter().filter_map(|id| self.known(document, document.layer(id)?, None));
        let before: Vec<String> = before.map(|key| key.to_string()).collect();
        content_key("within cap", &(plants.to_string(), cap, before))
    }

    /// Names the forms that plants of a layer were given by what stands beside them; none where none are bent or trimmed.
    pub fn fits(&self, document: &Document, layer: &Layer) -> Option<ContentKey> {
        let looks: Vec<_> =
            document.mix_of(layer).map(|(_, s)| Self::species(document, s).to_string()).collect();
        let key = || content_key("fits", &(EPOCH, self.layer(document, layer).to_string(), looks));
        layer.clearance.fits().then(key)
    }

    /// Names all plants of a layer that grows on the land alone, by the name of what grows there.
    pub fn layer_on_land(plants: &ContentKey) -> ContentKey {
        content_key("layer", &[(plants.to_string(), None::<[f32; 4]>)])
    }

    /// Names the model of a ground that a layer grows on; none when there is no such ground. The plants of another layer are named
    /// by themselves and the meshes of their species.
    pub fn ground_of(&self, document: &Document, layer: &Layer, ground: GroundId) -> Option<ContentKey> {
        if ground != GroundId::PLANTS {
            return self.ground(ground);
        }
        let host = document.layer(layer.on_plants?)?;
        let meshes: Vec<String> =
            document.mix_of(host).map(|(_, s)| Self::species(document, s).to_string()).collect();
        Some(content_key("host", &(self.known(document, host, None).map(|k| k.to_string()), meshes)))
    }

    /// Names a layer's plants on a ground; none when there is no such ground. A layer's name, its place, its eye and its
    /// lock are not part of it.
    pub fn plants(&self, document: &Document, layer: &Layer, ground: GroundId) -> Option<ContentKey> {
        self.named(document, layer, ground, true)
    }

    /// Names a layer's plants on the land but for the obstacles they keep clear of, the plants that claim first, and what was tended.
    pub fn plants_but_for_what_is_around(&self, document: &Document, layer: &Layer) -> Option<ContentKey> {
        self.named(document, layer, GroundId::LAND, false)
    }

    fn named(&self, document: &Document, layer: &Layer, ground: GroundId, whole: bool) -> Option<ContentKey> {
        #[derive(Serialize)]
        struct Inputs<'a, C> {
            epoch: u32,
            ground: String,
            id: GroundId,
            /// Of each species of the mix: its id, share, kind and how many forms it has.
            mix: Vec<(&'a MixPart, u16, Kind)>,
            seed: u32,
            pattern: Pattern,
            clumps: Option<Clumps>,
            amount: Amount,
            cap: u32,
            masks: &'a [Mask],
            zones: Vec<(Vec<&'a Outline>, &'a [FaceGroup])>,
            /// Where zones drawn on the plan meet a ground that stands somewhere.
            place: Option<[f32; 3]>,
            /// A total and a cap are shared out among all grounds of the layer.
            others: Vec<String>,
            /// What distances are measured to.
            near: Vec<String>,
            /// What was painted.
            paints: Vec<Option<String>>,
            /// What shots have in their pictures: the camera, its angle and the shape of the picture.
            views: Vec<Option<(CameraPlace, [u32; 2])>>,
            /// Pictures over the plan.
            pictures: Vec<Option<&'a GroundPicture>>,
            /// What covers the ground, where that is what is asked for.
            crown: Option<MeanCrown>,
            stance: Stance,
            tint: Tint,
            clear: Option<C>,
            tended: Vec<&'a Tended>,
            drifts: Vec<&'a Drift>,
            rows: Option<Rows>,
            line: Option<&'a Outline>,
        }
        let own = self.ground_of(document, layer, ground)?;
        let laid = matches!(layer.pattern, Pattern::Rows | Pattern::Along);
        let zones: Vec<_> = layer
            .masks
            .iter()
            .filter_map(|m| m.zone.and_then(|id| document.zones.iter().find(|z| z.id == id)))
            .map(|z| {
                let outlines = document.outlines.iter().filter(|o| z.outlines.contains(&o.id)).collect();
                (outlines, z.groups.as_slice())
            })
            .collect();
        let on_plan = zones.iter().any(|(outlines, _): &(Vec<&Outline>, _)| !outlines.is_empty())
            || layer.masks.iter().any(|m| m.quantity.of_the_scene())
            || laid
            || matches!(layer.stance.lean, LeanTo::Bearing { .. });
        let place = document.placed(ground).filter(|_| on_plan).map(|g| [g.x_m, g.z_m, g.turn_deg]);
        let all = document.grounds_of(layer);
        let others = if all.len() > 1 { all } else { Vec::new() };
        let Layer { seed, pattern, amount, cap, masks, stance, .. } = layer;
        let inputs = Inputs {
            epoch: EPOCH,
            ground: own.to_string(),
            id: ground,
            mix: document.mix_of(layer).map(|(part, s)| (part, s.forms, s.kind)).collect(),
            crown: matches!(amount, Amount::Cover { .. }).then(|| MeanCrown::of(document, layer)),
            rows: laid.then_some(layer.rows),
            line: laid.then(|| document.outlines.iter().find(|o| Some(o.id) == layer.rows.line)).flatten(),
            tint: layer.tint,
            clear: self.clear(document, layer, ground, whole),
            tended: layer.tended.iter().filter(|t| whole && t.ground == ground).collect(),
            drifts: layer.drifts.iter().filter(|d| d.ground == ground).collect(),
            seed: *seed,
            pattern: *pattern,
            clumps: (*pattern == Pattern::Clumped).then_some(layer.clumps),
            amount: *amount,
            cap: *cap,
            masks,
            zones,
            place,
            near: layer
                .masks
                .iter()
                .filter_map(|m| m.near)
                .map(|n| self.near(document, n).to_string())
                .collect(),
            paints: layer
                .masks
                .iter()
                .filter_map(|m| m.paint)
                .map(|id| {
                    let paint = document.paint(id)?;
                    Some(self.part("paint", id.0, 0, || content_key("paint", paint)).to_string())
                })
                .collect(),
            views: layer
                .masks
                .iter()
                .filter_map(|m| m.shot)
                .map(|id| document.shots.iter().find(|s| s.id == id))
                .map(|s| s.map(|s| ((s.eye_m, s.target_m, s.view_deg), [s.width_px, s.height_px])))
                .collect(),
            pictures: layer
                .masks
                .iter()
                .filter_map(|m| m.picture)
                .map(|look| document.pictures.iter().find(|p| p.id == look.id))
                .collect(),
            others: others.into_iter().filter_map(|id| self.ground(id)).map(|k| k.to_string()).collect(),
            stance: *stance,
        };
        Some(content_key("plants", &inputs))
    }
}

impl Keys {
    /// Names what a distance is measured to. Water is part of the ground.
    fn near(&self, document: &Document, near: Near) -> ContentKey {
        let lines = |fits: &dyn Fn(&Outline) -> bool| {
            content_key("near lines", &document.outlines.iter().filter(|o| fits(o)).collect::<Vec<_>>())
        };
        let obstacles = |fits: &dyn Fn(&Obstacle) -> bool| {
            let keys: Vec<_> =
                document.obstacles.iter().filter(|o| fits(o)).map(|o| self.obstacle(o).to_string()).collect();
            content_key("near obstacles", &keys)
        };
        match near {
            Near::Water => content_key("near water", &self.land().to_string()),
            Near::Outline { id } => lines(&|o| o.id == id),
            Near::Tracks => lines(&|o| o.kind == OutlineKind::Track),
            Near::Obstacle { id } => obstacles(&|o| o.id == id),
            Near::Obstacles => obstacles(&|_| true),
            Near::Straight { .. } | Near::Ball { .. } | Near::Cylinder { .. } | Near::Box { .. } => {
                content_key("near volume", &near)
            }
            Near::Camera { id } => {
                let eye = document.shots.iter().find(|s| s.id == id).map(|s| s.eye_m);
                content_key("near camera", &eye)
            }
            // Documents hold no layers that wait for one another, so this ends.
            Near::Layer { id } => {
                let plants = document.layer(id).map(|l| {
                    let radii: Vec<f32> = document.mix_of(l).map(|(_, s)| s.radius_m()).collect();
                    (self.known(document, l, None).map(|k| k.to_string()), radii)
                });
                content_key("near plants", &plants)
            }
        }
    }
}

fn placed_key(ground: &PlacedGround, water_m: Option<f32>) -> ContentKey {
    let PlacedGround { source, y_m, scale, upright, earths, .. } = ground;
    content_key("placed ground", &(EPOCH, source, y_m, scale, upright, earths, water_m))
}

impl std::fmt::Display for ContentKey {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.0.iter().try_for_each(|b| write!(f, "{b:02x}"))
    }
}

/// The names of files: the SHA-256 of their bytes in hexadecimal digits.
pub fn blob_id(bytes: &[u8]) -> super::BlobId {
    super::BlobId(ContentKey(Sha256::digest(bytes).into()).to_string())
}

/// As JSON, every number as short as it can be written (a plain conversion would turn 2.4 into 2.4000000953674316).
pub fn to_json(data: &impl Serialize) -> serde_json::Value {
    let text = serde_json::to_string(data).expect("documents are plain data and always become JSON");
    serde_json::from_str(&text).expect("what was written can be read")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_change_with_what_matters_and_only_with_that() {
        let mut document = kittiwake_head();
        // The one that claims its ground before all others.
        let layer = document.layers[1].clone();
        let key = |d: &Document, l: &Layer| Keys::of(d).plants(d, l, GroundId::LAND).unwrap();
        let named = key(&document, &layer);
        let same =
            Layer { name: "Other".into(), visible: false, locked: true, id: LayerId(77), ..layer.clone() };
        assert_eq!(key(&document, &same), named);
        assert_ne!(key(&document, &Layer { seed: layer.seed + 1, ..layer.clone() }), named);
        document.ground.water_m = Some(3.0);
        assert_ne!(key(&document, &layer), named);
        assert_eq!(Keys::of(&document).plants(&document, &layer, GroundId(9)), None);
    }

    #[test]
    fn what_a_layer_keeps_clear_of_is_part_of_its_name() {
        let mut document = kittiwake_head();
        let key = |d: &Document| Keys::of(d).layer(d, &d.layers[0]);
        let named = key(&document);
        let turf = document.layers.iter_mut().find(|l| l.name == "Fescue turf").unwrap();
        turf.amount = Amount::Total { value: 3 };
        assert_eq!(key(&document), named, "the turf yields to it");
        document.layers[1].seed += 1;
        let after = key(&document);
        assert_ne!(after, named, "it yields to the boulders");
        document.obstacles[0].x_m += 1.0;
        let moved = key(&document);
        assert_ne!(moved, after);
        document.layers[0].clearance = Clearance::default();
        let off = key(&document);
        document.obstacles[0].x_m += 1.0;
        document.layers[1].seed += 1;
        assert_eq!(key(&document), off);
    }

    #[test]
    fn a_ground_that_is_moved_keeps_its_plants_and_one_that_is_lifted_does_not() {
        let mut document = needle_arch();
        // Layers on the sand beside it stay where they are.
        document.layers.retain(|l| !l.grounds.is_empty());
        let layer = document.layers.iter().find(|l| !l.grounds.is_empty()).unwrap();
        let arch = document.grounds[0].id;
        let key = |d: &Document| Keys::of(d).plants(d, layer, arch).unwrap();
        let named = key(&document);
        let mut moved = document.clone();
        (moved.grounds[0].x_m, moved.grounds[0].turn_deg) = (40.0, 12.0);
        assert_eq!(key(&moved), named);
        moved.grounds[0].y_m += 1.0;
        assert_ne!(key(&moved), named, "masks look at the height in the scene");
    }

    #[test]
    fn a_files_name_is_its_published_hash() {
        // FIPS 180-2, example B.1.
        assert_eq!(blob_id(b"abc").0, "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    }

    #[test]
    fn numbers_stay_short() {
        assert_eq!(to_json(&2.4_f32).to_string(), "2.4");
    }
}
