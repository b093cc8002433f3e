//! Values at the samples of a terrain or the vertices of a mesh, worked out before masks look at them.

use crate::air::Flow;
use crate::cancel::{CancelToken, Cancelled};
use crate::document::{Document, GroundId, Outline, OutlineId, OutlineKind, SunDay, WindFrom};
use crate::ground::{Frame, GroundRef, Reading, SunPath, Terrain, analysis};
use crate::habitat::near::NearLine;
use crate::math::distance_transform::distance_transform;
use crate::names::to_json;
use crate::plan::outline::OutlineLine;
use glam::{Vec2, Vec3};
use rayon::prelude::*;

/// Something that is worked out at all samples of a ground at once.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Sampled {
    /// A reading of the ground alone.
    Reading(Reading),
    /// Hours of direct sun on a day.
    Sun(SunDay),
    /// Distance on the plan to water that lies on the land, metres; on terrains.
    ToWater,
    /// Height above the nearest water, metres.
    OverWater,
    /// Depth of the water that stands there, metres, -1 at least.
    Depth,
    /// The way downhill to an outline, or to the nearest track, metres; infinite where none lies there.
    DownhillTo(Option<OutlineId>),
    /// The wind from a side a metre above the ground, against that over level ground.
    Wind(WindFrom),
}

/// What lies beside the ground that something is worked out on.
#[derive(Clone, Copy, Default)]
pub struct Beside<'a> {
    /// The land beneath a water.
    pub land: Option<&'a Terrain>,
    /// The wind over all of it, for [`Sampled::Wind`].
    pub flow: Option<&'a Flow>,
}

/// How high above the ground shelter is told, metres.
const IN_WIND_M: f32 = 1.0;

impl Sampled {
    /// Works it out; none where a ground has none of the kind, or what it needs is not known.
    ///
    /// # Errors
    /// [`Cancelled`].
    pub fn compute(
        &self,
        document: &Document,
        id: GroundId,
        ground: &GroundRef<'_>,
        beside: Beside<'_>,
        cancel: &CancelToken,
    ) -> Result<Option<Vec<f32>>, Cancelled> {
        let frame = document.frame(id);
        match self {
            Self::Reading(reading) => ground.reading(*reading, cancel).map(Some),
            Self::Sun(day) => ground.sun_hours(&SunPath::new(day, &frame), cancel).map(Some),
            Self::ToWater => Ok(match ground {
                GroundRef::Terrain(t) => Some(water_distance_m(document, &t.terrain)),
                GroundRef::Mesh(_) => None,
            }),
            Self::OverWater => Ok(Some(match ground {
                GroundRef::Terrain(t) if id == GroundId::LAND => over_water_on_land(document, &t.terrain),
                _ => over_water_beside(document, &frame, &ground.vertices()),
            })),
            Self::Depth => Ok(Some(if id.is_water() {
                depth_beneath(&frame, beside.land, &ground.vertices())
            } else {
                depth_over(document, &frame, &ground.vertices())
            })),
            Self::Wind(_) => Ok(beside.flow.map(|flow| {
                let times = |p: &Vec3| {
                    let [x, z] = flow.at(frame.point(*p) + Vec3::Y * IN_WIND_M);
                    (x * x + z * z).sqrt()
                };
                ground.vertices().par_iter().map(times).collect()
            })),
            Self::DownhillTo(outline) => {
                let lines = lines(document, *outline);
                let points = ground.vertices();
                let reach_m = ground.sample_reach_m();
                let there = |p: &Vec3| {
                    let p = frame.point(*p);
                    let plan = Vec2::new(p.x, p.z);
                    let away = lines.iter().map(|l| l.distance(plan, reach_m)).fold(f32::INFINITY, f32::min);
                    (away <= reach_m).then_some(away)
                };
                let there: Vec<Option<f32>> = points.par_iter().map(there).collect();
                match ground {
                    GroundRef::Terrain(t) => analysis::downhill_m(&t.terrain, &there, cancel).map(Some),
                    GroundRef::Mesh(m) => Ok(Some(m.downhill_m(&there))),
                }
            }
        }
    }

    /// What it hangs on beside the ground itself and the waters of the scene, in one text.
    pub fn hangs_on(&self, document: &Document, id: GroundId) -> String {
        let frame = document.frame(id);
        match self {
            Self::Reading(reading) => reading.id().to_owned(),
            Self::Sun(d) => format!("sun {} {} {} {:?}", d.latitude_deg, d.month, d.day, frame.turn),
            Self::ToWater => "water distance".to_owned(),
            Self::OverWater => format!("over water {frame:?}"),
            Self::Depth => format!("depth of water {frame:?}"),
            Self::Wind(wind) => format!("wind {} {frame:?}", wind.from_deg),
            Self::DownhillTo(id) => {
                let lines: Vec<_> = outlines(document, *id).map(|o| to_json(&o.grown_by())).collect();
                format!("downhill {frame:?} {}", serde_json::Value::from(lines))
            }
        }
    }
}

fn outlines(document: &Document, id: Option<OutlineId>) -> impl Iterator<Item = &Outline> {
    document.outlines.iter().filter(move |o| id.map_or(o.kind == OutlineKind::Track, |id| o.id == id))
}

fn lines(document: &Document, id: Option<OutlineId>) -> Vec<NearLine> {
    outlines(document, id).map(|o| NearLine::new(&OutlineLine::new(o))).collect()
}

/// Distance on the plan to water that lies on the land, at every sample, metres; infinite where there is none.
pub fn water_distance_m(document: &Document, terrain: &Terrain) -> Vec<f32> {
    let everywhere = document.ground.water_m;
    let under = |p: Vec3| {
        everywhere.is_some_and(|level| p.y < level)
            || document.waters.iter().any(|w| p.y < w.height_m && w.covers(p.x, p.z))
    };
    distance_where(terrain, under)
}

fn distance_where(terrain: &Terrain, marked: impl Fn(Vec3) -> bool + Sync) -> Vec<f32> {
    let (nx, count) = (terrain.nx(), terrain.nx() * terrain.nz());
    let marked: Vec<bool> =
        (0..count).into_par_iter().map(|i| marked(terrain.vertex(i % nx, i / nx))).collect();
    distance_transform(&marked, nx, terrain.cell_m())
}

/// Height above the water that is nearest on the plan, where it lies on the land; not a number where there is none.
fn over_water_on_land(document: &Document, terrain: &Terrain) -> Vec<f32> {
    let mut nearest: Vec<(f32, f32)> = vec![(f32::INFINITY, f32::NAN); terrain.nx() * terrain.nz()];
    let mut take = |level: f32, away: Vec<f32>| {
        for (best, away) in nearest.iter_mut().zip(away) {
            // Of two that are as near the higher: it is what one sees.
            if away < best.0 || (away == best.0 && away.is_finite() && level > best.1) {
                *best = (away, level);
            }
        }
    };
    if let Some(level) = document.ground.water_m {
        take(level, distance_where(terrain, |p| p.y < level));
    }
    for w in &document.waters {
        take(w.height_m, distance_where(terrain, |p| p.y < w.height_m && w.covers(p.x, p.z)));
    }
    terrain.heights_zx().iter().zip(nearest).map(|(y, (_, level))| y - level).collect()
}

/// The same beside the land: there the water that is everywhere lies under all, and a sheet where it is nearer than that.
fn over_water_beside(document: &Document, frame: &Frame, points: &[Vec3]) -> Vec<f32> {
    let edges: Vec<Vec<[f32; 2]>> = document.waters.iter().map(|w| w.edge()).collect();
    let level = |p: Vec3| {
        let everywhere = document.ground.water_m.map(|level| (0.0, level));
        let sheets = document.waters.iter().zip(&edges).map(|(w, edge)| {
            let away = if w.covers(p.x, p.z) { 0.0 } else { beside_m(edge, Vec2::new(p.x, p.z)) };
            (away, w.height_m)
        });
        let nearest = sheets.chain(everywhere).min_by(|a, b| a.0.total_cmp(&b.0).then(b.1.total_cmp(&a.1)));
        nearest.map_or(f32::NAN, |(_, level)| level)
    };
    let over = |p: &Vec3| {
        let p = frame.point(*p);
        p.y - level(p)
    };
    points.par_iter().map(over).collect()
}

/// Where it is dry the depth is told as this and no less, metres: how far from water a dry place lies plays no part.
const DRY_M: f32 = -1.0;
/// A water without land beneath is told to be so deep, metres.
const NO_LAND_M: f32 = 1000.0;

/// How deep the land lies under points of a water.
fn depth_beneath(frame: &Frame, land: Option<&Terrain>, points: &[Vec3]) -> Vec<f32> {
    let depth = |p: &Vec3| {
        let p = frame.point(*p);
        land.map_or(NO_LAND_M, |t| p.y - t.height_at(p.x, p.z)).max(DRY_M)
    };
    points.par_iter().map(depth).collect()
}

/// How deep points of a ground lie under the water there, of several under the highest.
fn depth_over(document: &Document, frame: &Frame, points: &[Vec3]) -> Vec<f32> {
    let depth = |p: &Vec3| {
        let p = frame.point(*p);
        let sheets = document.waters.iter().filter(|w| w.covers(p.x, p.z)).map(|w| w.height_m);
        let level = sheets.chain(document.ground.water_m).fold(f32::NEG_INFINITY, f32::max);
        (level - p.y).max(DRY_M)
    };
    points.par_iter().map(depth).collect()
}

/// Distance to the closed line through these points, metres.
fn beside_m(edge: &[[f32; 2]], p: Vec2) -> f32 {
    let ends = edge.iter().zip(edge.iter().cycle().skip(1));
    let away = ends.map(|(a, b)| {
        let (a, along) = (Vec2::from(*a), Vec2::from(*b) - Vec2::from(*a));
        let t = ((p - a).dot(along) / along.length_squared().max(1e-12)).clamp(0.0, 1.0);
        p.distance(a + along * t)
    });
    away.fold(f32::INFINITY, f32::min)
}
