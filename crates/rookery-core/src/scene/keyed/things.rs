//! Names of single things of a document. Each is worked out once, and kept by every edit that leaves the thing as it is.

use super::{What, beneath};
use crate::document::EPOCH;
use crate::names::{ContentKey, Namer, content_key};
use crate::nursery::Species;
use crate::scene::*;
use rustc_hash::FxHashMap;
use std::sync::{Mutex, PoisonError};

/// What is named by itself.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(super) enum Thing {
    /// The land with its waters.
    Land,
    /// A ground beside it, in its own frame.
    Ground(GroundId),
    /// How a species looks in the season of the scene.
    Species(SpeciesId),
    Zone(ZoneId),
    Paint(PaintId),
    Picture(PictureId),
    /// What a shot has in its picture.
    View(ShotId),
    Outline(OutlineId),
    /// All that keep plants off as tracks.
    Tracks,
    Obstacle(ObstacleId),
    /// All of them.
    Obstacles,
    /// A layer's own settings, as far as they have a say on a ground.
    Own(LayerId, GroundId, What),
}

impl Thing {
    /// Whether it is the same in two documents: every document thing that [`Things::name`] looks at for it.
    fn is_same(&self, was: &Document, now: &Document) -> bool {
        let land = || was.ground == now.ground && was.waters == now.waters;
        match self {
            Self::Land => land(),
            Self::Ground(id) => {
                was.ground.water_m == now.ground.water_m
                    && was.placed(*id).zip(now.placed(*id)).is_some_and(|(a, b)| a == b)
            }
            Self::Species(id) => was.season == now.season && was.species(id) == now.species(id),
            Self::Zone(id) => {
                let zone = |d: &Document| d.zones.iter().find(|z| z.id == *id).cloned();
                was.outlines == now.outlines && zone(was) == zone(now)
            }
            Self::Paint(id) => was.paint(*id) == now.paint(*id),
            Self::Picture(id) => picture(was, *id) == picture(now, *id),
            Self::View(id) => shot(was, *id) == shot(now, *id),
            Self::Outline(_) | Self::Tracks => was.outlines == now.outlines,
            Self::Obstacle(id) => {
                let (a, b) = (obstacle(was, *id), obstacle(now, *id));
                a == b && a.is_none_or(|o| beneath::is_same(&was.ground, &now.ground, o))
            }
            Self::Obstacles => {
                let same = |o: &Obstacle| beneath::is_same(&was.ground, &now.ground, o);
                was.obstacles == now.obstacles && now.obstacles.iter().all(same)
            }
            Self::Own(id, ..) => was.layer(*id) == now.layer(*id),
        }
    }
}

fn picture(document: &Document, id: PictureId) -> Option<&GroundPicture> {
    document.pictures.iter().find(|p| p.id == id)
}

fn shot(document: &Document, id: ShotId) -> Option<&Shot> {
    document.shots.iter().find(|s| s.id == id)
}

fn obstacle(document: &Document, id: ObstacleId) -> Option<&Obstacle> {
    document.obstacles.iter().find(|o| o.id == id)
}

/// Names of things; and of strokes one after the other, each with all before it.
#[derive(Debug, Default)]
pub(super) struct Things {
    named: Mutex<FxHashMap<Thing, ContentKey>>,
    strokes: Mutex<FxHashMap<Thing, Vec<ContentKey>>>,
}

impl Things {
    /// Those that are the same in another document.
    pub fn kept(&self, was: &Document, now: &Document) -> Self {
        let named = self.named.lock().unwrap_or_else(PoisonError::into_inner);
        let named = named.iter().filter(|(thing, _)| thing.is_same(was, now));
        let named = named.map(|(thing, key)| (thing.clone(), *key)).collect();
        let strokes = self.strokes.lock().unwrap_or_else(PoisonError::into_inner);
        let strokes = strokes.iter().map(|(thing, keys)| {
            let same = match thing {
                Thing::Paint(id) => match (was.paint(*id), now.paint(*id)) {
                    (Some(a), Some(b)) => same_at_first(&a.strokes, &b.strokes),
                    _ => 0,
                },
                Thing::Ground(id) => same_at_first(was.strokes_on(*id), now.strokes_on(*id)),
                _ => same_at_first(&was.ground.strokes, &now.ground.strokes),
            };
            (thing.clone(), keys[..same.min(keys.len())].to_vec())
        });
        Self { named: Mutex::new(named), strokes: Mutex::new(strokes.collect()) }
    }

    /// The name of a thing; worked out by `name` where it is not known.
    pub fn get(&self, thing: Thing, name: impl FnOnce() -> ContentKey) -> ContentKey {
        let held = || self.named.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(key) = held().get(&thing) {
            return *key;
        }
        let key = name();
        held().insert(thing, key);
        key
    }

    /// The name of all strokes of a thing. Only those that are new are hashed.
    fn strokes<S: serde::Serialize>(&self, of: Thing, strokes: &[S]) -> ContentKey {
        let mut held = self.strokes.lock().unwrap_or_else(PoisonError::into_inner);
        let keys = held.entry(of).or_default();
        for stroke in &strokes[keys.len().min(strokes.len())..] {
            keys.push(Namer::new("stroke").keys(keys.last().copied()).value(stroke).end());
        }
        Namer::new("strokes").keys(keys.last().copied()).end()
    }

    pub fn land(&self, d: &Document) -> ContentKey {
        self.get(Thing::Land, || {
            // What is seen beyond its edges and on it is no part of it.
            let Ground { source, water_m, absent, ends: _, bare: _, earths, strokes } = &d.ground;
            let settings = (EPOCH, source, water_m, absent, earths, &d.waters);
            Namer::new("ground").value(&settings).key(self.strokes(Thing::Land, strokes)).end()
        })
    }

    pub fn ground(&self, d: &Document, id: GroundId) -> Option<ContentKey> {
        if id == GroundId::LAND {
            return Some(self.land(d));
        }
        // Where it stands on the plan is no part of it, for it is grown on in its own frame.
        let ground = d.placed(id)?;
        let PlacedGround {
            id: _,
            name: _,
            source,
            x_m: _,
            y_m,
            z_m: _,
            turn_deg: _,
            scale,
            upright,
            earths,
            strokes,
            hidden: _,
            moves: _,
        } = &*ground;
        let settings = (EPOCH, source, y_m, scale, upright, earths, d.ground.water_m);
        Some(self.get(Thing::Ground(id), || {
            let strokes = self.strokes(Thing::Ground(id), strokes);
            Namer::new("placed ground").value(&settings).key(strokes).end()
        }))
    }

    pub fn species(&self, d: &Document, species: &Species) -> ContentKey {
        self.get(Thing::Species(species.id.clone()), || super::Keyed::looks(d, species))
    }

    pub fn zone(&self, d: &Document, zone: &Zone) -> ContentKey {
        self.get(Thing::Zone(zone.id), || {
            let within = |o: &&Outline| zone.outlines.contains(&o.id);
            let outlines: Vec<_> = d.outlines.iter().filter(within).map(Outline::grown_by).collect();
            content_key("zone", &(outlines, &zone.groups))
        })
    }

    pub fn paint(&self, d: &Document, id: PaintId) -> Option<ContentKey> {
        let Paint { bare, strokes, .. } = d.paint(id)?;
        Some(self.get(Thing::Paint(id), || {
            let strokes = self.strokes(Thing::Paint(id), strokes);
            Namer::new("paint").value(bare).key(strokes).end()
        }))
    }

    pub fn picture(&self, d: &Document, id: PictureId) -> Option<ContentKey> {
        let found = picture(d, id)?;
        Some(self.get(Thing::Picture(id), || content_key("picture", found)))
    }

    pub fn view(&self, d: &Document, id: ShotId) -> Option<ContentKey> {
        let s = shot(d, id)?;
        let seen = (s.eye_m, s.target_m, s.view_deg, s.width_px, s.height_px);
        Some(self.get(Thing::View(id), || content_key("view", &seen)))
    }

    pub fn outline(&self, d: &Document, id: OutlineId) -> Option<ContentKey> {
        let found = d.outlines.iter().find(|o| o.id == id)?;
        Some(self.get(Thing::Outline(id), || content_key("outline", &found.grown_by())))
    }

    pub fn tracks(&self, d: &Document) -> ContentKey {
        self.get(Thing::Tracks, || {
            content_key(
                "tracks",
                &d.outlines
                    .iter()
                    .filter(|o| o.kind == OutlineKind::Track)
                    .map(Outline::grown_by)
                    .collect::<Vec<_>>(),
            )
        })
    }

    pub fn obstacle(&self, d: &Document, o: &Obstacle) -> ContentKey {
        let Obstacle { id, name: _, shape, x_m, z_m, lift_m, on_ground, turn_deg, scale, hidden: _ } = o;
        let name = || {
            let stand = (EPOCH, id, shape, x_m, z_m, lift_m, on_ground, turn_deg, scale);
            let land = (&d.ground.source, d.ground.absent, beneath::strokes_beneath(&d.ground, o));
            Namer::new("obstacle").value(&land).value(&stand).end()
        };
        // One that is only thought of may have the id of another.
        if obstacle(d, *id) == Some(o) { self.get(Thing::Obstacle(*id), name) } else { name() }
    }

    pub fn obstacles(&self, d: &Document) -> ContentKey {
        self.get(Thing::Obstacles, || {
            Namer::new("obstacles").keys(d.obstacles.iter().map(|o| self.obstacle(d, o))).end()
        })
    }

    /// A layer's own settings that have a say in what it grows on a ground. Its name, its place, its eye and its lock have none.
    pub fn own(&self, layer: &Layer, on: GroundId, what: What) -> ContentKey {
        self.get(Thing::Own(layer.id, on, what), || own(layer, on, what))
    }
}

/// As [`Things::own`], of any layer.
pub(super) fn own(layer: &Layer, on: GroundId, what: What) -> ContentKey {
    let Layer {
        id: _,
        name: _,
        mix,
        grounds: _,
        on_plants: _,
        visible: _,
        locked: _,
        seed,
        kept_seeds: _,
        group: _,
        pattern,
        amount,
        cap,
        masks,
        stance,
        tint,
        clumps,
        rows,
        clearance,
        tended,
        drifts,
        show_as: _,
        wind_share: _,
    } = layer;
    let tended: Vec<_> = tended.iter().filter(|t| what == What::All && t.ground == on).collect();
    let drifts: Vec<_> = drifts.iter().filter(|d| what != What::Allowed && d.ground == on).collect();
    let laid = matches!(pattern, Pattern::Rows | Pattern::Along).then_some(rows);
    let clumps = (*pattern == Pattern::Clumped).then_some(clumps);
    let clearance = (!clearance.is_off()).then_some(clearance);
    let settings = (mix, seed, pattern, amount, cap, masks, stance, tint);
    content_key("own", &(settings, clumps, laid, clearance, tended, drifts))
}

/// How many two lists have in common from the first.
fn same_at_first<T: PartialEq>(a: &[T], b: &[T]) -> usize {
    a.iter().zip(b).take_while(|(x, y)| x == y).count()
}
