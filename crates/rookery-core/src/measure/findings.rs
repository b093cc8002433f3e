//! What is measured of a grown layer against the true ground and among its own plants, with what is out of the ordinary.

use super::bare::bare;
use super::held::{Body, Held};
use super::{Bare, Crossing};
use crate::document::{Document, GroundId, Layer};
use crate::ground::{Frame, GroundRef, Surface};
use crate::math::plan_grid::PlanGrid;
use crate::nursery::Kind;
use crate::planting::Rules;
use crate::planting::{Place, Plant};
use glam::{Vec2, Vec3};
use rayon::prelude::*;
use serde::Serialize;

/// Plants looked at one by one, at most; spread over all.
const LOOKED_AT: usize = 20_000;
/// Points that cover is measured at.
const POINTS: usize = 40_000;
/// Places told of one finding, at most.
const TOLD: usize = 400;
/// Bases that hang so far above the ground are seen: 5 cm, or 5 % of the plant's height. Common practice.
const HOVER_M: f32 = 0.05;
const HOVER_SHARE: f32 = 0.05;
/// A plant this far in the ground by its height is buried. Common practice.
const BURIED: f32 = 0.5;
/// Two plants are alike when turn and size differ by less. Common practice.
const ALIKE_DEG: f32 = 12.0;
const ALIKE_SIZE: f32 = 0.06;
/// Shares of a layer's plants above which a finding is worth a remark. Common practice.
const MANY: f32 = 0.02;
const MANY_MEET: f32 = 0.05;
const MANY_ALIKE: f32 = 0.15;
/// Fewer plants than these are looked at one by one, alike or not.
const FEW: usize = 30;
/// Neighbours looked at for plants that are alike.
const NEIGHBOURS: usize = 8;

/// Plants that have one thing in common.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Finding {
    /// Their share of the plants looked at, 0 to 1.
    pub share: f32,
    /// The worst of them: metres above ground, share of the height in the ground, metres of overlap. 0 for plants alike.
    pub worst: f32,
    /// Where some of them stand, the worst first, metres.
    pub places_m: Vec<[f32; 3]>,
    /// Whether they are so many that it is worth a remark.
    pub remark: bool,
}

/// What was measured of one layer.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Findings {
    /// Plants that stand.
    pub plants: u64,
    /// Plants that were looked at one by one.
    pub looked_at: u64,
    /// Share of the ground that crowns cover where the masks let all through, measured at points thrown on it; where there is hardly
    /// such ground, of all allowed ground, each part counted with the masks' value. None where nothing is allowed.
    pub cover: Option<f32>,
    /// Bases that hang above the true ground at their rim by more than 5 cm and 5 % of the plant's height; of stones and driftwood the
    /// underside of their mesh. Layers that are lifted have none.
    pub hovering: Finding,
    /// How deep all would have to be sunk besides, so that only one in fifty hovers, metres.
    pub sink_m: f32,
    /// Plants that are in the ground by more than half their height; stones by that of their mesh as it lies.
    pub buried: Finding,
    /// Plants whose base meets that of another.
    pub overlapping: Finding,
    /// Plants that stand in those of layers that claim their ground first; filled in by [`crossings`](super::crossings).
    pub crossing: Vec<Crossing>,
    /// The strip along edges and tracks that it keeps clear of, on terrains; none where there are none.
    pub bare: Option<Bare>,
    /// Plants with a neighbour of their form, turned within 12 degrees and sized within 6 % of them.
    pub repeated: Finding,
    /// Triangles at full detail.
    pub triangles: u64,
    /// Memory of the plants, bytes.
    pub bytes: u64,
}

/// Measures a grown layer. `grounds` are those it grows on, with its masks there; `plants` stand in the scene.
pub fn findings(
    document: &Document,
    layer: &Layer,
    grounds: &[(GroundId, GroundRef<'_>, &Rules)],
    plants: &[Plant],
) -> Findings {
    let bodies: Vec<Body> = layer
        .mix
        .iter()
        .map(|m| document.species(&m.species).map_or_else(Body::default, |s| Body::new(document, s)))
        .collect();
    let unknown = Body::default();
    let body = |p: &Plant| bodies.get(usize::from(p.species)).unwrap_or(&unknown);
    let step = plants.len().div_ceil(LOOKED_AT).max(1);
    let looked: Vec<usize> = (0..plants.len()).step_by(step).collect();
    let plan: Vec<Vec2> = plants.iter().map(|p| Vec2::new(p.position_m.x, p.position_m.z)).collect();
    let grid = PlanGrid::new(&plan);
    let held: Vec<Held> = looked
        .par_iter()
        .map(|i| {
            let p = &plants[*i];
            // What grows on a single ground may not say on which.
            let ground = grounds.iter().find(|(id, ..)| *id == p.ground || grounds.len() == 1);
            ground.map_or_else(Held::default, |(id, g, _)| body(p).held(p, g, &document.frame(*id)))
        })
        .collect();
    let height = |p: &Plant| body(p).height_m * p.size * p.stretch[0];
    let hangs = |k: usize| held[k].hangs_m > HOVER_M.max(height(&plants[looked[k]]) * HOVER_SHARE);
    let lifted = layer.stance.lift_m.max > 0.0;
    let hovering = gathered(plants, &looked, MANY, |k| (!lifted && hangs(k)).then_some(held[k].hangs_m));
    let mut rims: Vec<f32> = held.iter().map(|h| h.hangs_m).collect();
    rims.sort_unstable_by(f32::total_cmp);
    let sink_m = rims.get(rims.len() * 49 / 50).copied().unwrap_or(0.0).max(0.0);
    let buried = gathered(plants, &looked, MANY, |k| (held[k].buried > BURIED).then_some(held[k].buried));
    let widest = |of: fn(&Body) -> f32| {
        let most = plants.iter().map(|p| of(body(p)) * p.size).fold(0.0, f32::max);
        if most.is_finite() { most } else { 0.0 }
    };
    let widest_base = widest(|b| b.base_m);
    // As clearance keeps it: on the plan where the ground has one, elsewhere in space.
    let on_plan = |p: &Plant| {
        layer.on_plants.is_none() && document.placed(p.ground).is_none_or(|g| g.source.has_plan())
    };
    let meets: Vec<f32> = looked
        .par_iter()
        .map(|&i| {
            let (own, at) = (&plants[i], plan[i]);
            let reach = Vec2::splat(body(own).base_m * own.size + widest_base);
            let mut most = 0.0_f32;
            grid.within(at - reach, at + reach, |j| {
                let other = &plants[j as usize];
                if j as usize != i {
                    let room = body(own).base_m * own.size + body(other).base_m * other.size;
                    let apart = match on_plan(own) && on_plan(other) {
                        true => at.distance(plan[j as usize]),
                        false => own.position_m.distance(other.position_m),
                    };
                    most = most.max(room - apart);
                }
            });
            most
        })
        .collect();
    let mut overlapping = gathered(plants, &looked, MANY_MEET, |k| (meets[k] > 0.0).then_some(meets[k]));
    // Cushions and mats grow into one another, where a layer does not keep them apart.
    overlapping.remark &= !document.mix_of(layer).all(|(_, s)| s.kind == Kind::Cushion);
    let area: f64 = grounds.iter().map(|(_, g, _)| g.area_m2()).sum();
    let apart = (area as f32 / plants.len().max(1) as f32).sqrt() * 2.0;
    let alike: Vec<bool> = looked.par_iter().map(|&i| has_twin(plants, &plan, &grid, i, apart)).collect();
    let mut repeated = gathered(plants, &looked, MANY_ALIKE, |k| alike[k].then_some(0.0));
    repeated.remark &= plants.len() > FEW;
    Findings {
        plants: plants.len() as u64,
        looked_at: looked.len() as u64,
        cover: cover(
            document,
            grounds,
            plants,
            &plan,
            &grid,
            &|p| body(p).radius_m * p.size,
            widest(|b| b.radius_m),
        ),
        hovering,
        sink_m,
        buried,
        overlapping,
        crossing: Vec::new(),
        bare: grounds.iter().find_map(|(_, g, rules)| {
            bare(g, rules, plants, &grid, &|p| body(p).radius_m * p.size, widest(|b| b.radius_m))
        }),
        repeated,
        triangles: plants.iter().map(|p| body(p).triangles).sum(),
        bytes: size_of_val(plants) as u64,
    }
}

/// Those of the plants looked at that have something, and how much of it; worth a remark above a share of them.
pub(super) fn gathered(
    plants: &[Plant],
    looked: &[usize],
    many: f32,
    found: impl Fn(usize) -> Option<f32>,
) -> Finding {
    let mut all: Vec<(f32, usize)> = (0..looked.len()).filter_map(|k| Some((found(k)?, looked[k]))).collect();
    let share = all.len() as f32 / looked.len().max(1) as f32;
    all.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.cmp(&b.1)));
    let worst = all.first().map_or(0.0, |(v, _)| *v);
    let places_m = all.iter().take(TOLD).map(|(_, i)| plants[*i].position_m.to_array()).collect();
    Finding { share, worst, places_m, remark: share > many }
}

/// Whether one of the nearest neighbours looks the same.
fn has_twin(plants: &[Plant], plan: &[Vec2], grid: &PlanGrid<'_>, i: usize, apart: f32) -> bool {
    let own = &plants[i];
    let mut near = Vec::new();
    let reach = Vec2::splat(apart);
    grid.within(plan[i] - reach, plan[i] + reach, |j| {
        if j as usize != i {
            near.push((own.position_m.distance_squared(plants[j as usize].position_m), j as usize));
        }
    });
    near.sort_unstable_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
    near.iter().take(NEIGHBOURS).any(|(_, j)| {
        let other = &plants[*j];
        (own.species, own.form) == (other.species, other.form)
            && (own.size / other.size - 1.0).abs() < ALIKE_SIZE
            && (own.rotation * Vec3::NEG_Z).angle_between(other.rotation * Vec3::NEG_Z).to_degrees()
                < ALIKE_DEG
    })
}

/// Share of the ground under crowns, see [`Findings::cover`]. On terrains seen from above, on meshes in space.
fn cover(
    document: &Document,
    grounds: &[(GroundId, GroundRef<'_>, &Rules)],
    plants: &[Plant],
    plan: &[Vec2],
    grid: &PlanGrid<'_>,
    radius: &(dyn Fn(&Plant) -> f32 + Sync),
    widest: f32,
) -> Option<f32> {
    let mut sums = Sums::default();
    for (id, ground, rules) in grounds {
        let frame = document.frame(*id);
        let from_above = matches!(ground, GroundRef::Terrain(_));
        let hit = |p: Vec3| {
            let at = Vec2::new(p.x, p.z);
            let mut hit = false;
            grid.within(at - widest, at + widest, |j| {
                let other = &plants[j as usize];
                let away =
                    if from_above { at.distance(plan[j as usize]) } else { p.distance(other.position_m) };
                hit |= away <= radius(other);
            });
            hit
        };
        let own = match ground {
            GroundRef::Terrain(t) => thrown(*t, rules, &frame, &hit),
            GroundRef::Mesh(m) => thrown(*m, rules, &frame, &hit),
        };
        sums = sums.and(own.times(ground.area_m2() / POINTS as f64));
    }
    let all: f64 = grounds.iter().map(|(_, g, _)| g.area_m2()).sum();
    let (covered, allowed) = if sums.full > all * ENOUGH_FULL {
        (sums.full_covered, sums.full)
    } else {
        (sums.covered, sums.allowed)
    };
    (allowed > 0.0).then(|| (covered / allowed) as f32)
}

/// Masks let all through from here on.
const FULL: f64 = 0.95;
/// Ground where they do is enough to measure on from this share of all: two hundred points.
const ENOUGH_FULL: f64 = 0.005;

/// Areas in one unit.
#[derive(Clone, Copy, Default)]
struct Sums {
    /// Where masks let all through, and what of it is covered.
    full: f64,
    full_covered: f64,
    /// Counted with what masks let through, and what of it is covered.
    allowed: f64,
    covered: f64,
}

impl Sums {
    fn and(self, o: Self) -> Self {
        Self {
            full: self.full + o.full,
            full_covered: self.full_covered + o.full_covered,
            allowed: self.allowed + o.allowed,
            covered: self.covered + o.covered,
        }
    }

    fn times(self, k: f64) -> Self {
        Self {
            full: self.full * k,
            full_covered: self.full_covered * k,
            allowed: self.allowed * k,
            covered: self.covered * k,
        }
    }
}

/// What the masks let through at points thrown on a ground, and what crowns cover of it.
fn thrown<S: Surface>(ground: &S, rules: &Rules, frame: &Frame, hit: &(dyn Fn(Vec3) -> bool + Sync)) -> Sums
where
    S::Place: Place,
{
    let points = ground.random_places(0xC07E, POINTS);
    let sums = points.par_iter().map(|place| {
        let spot = ground.spot(place);
        let share = f64::from(rules.together(|i| rules.response(i, ground, &spot)));
        let covered = if share > 0.0 && hit(frame.point(ground.position_m(&spot))) { 1.0 } else { 0.0 };
        let full = if share >= FULL { 1.0 } else { 0.0 };
        Sums { full, full_covered: full * covered, allowed: share, covered: share * covered }
    });
    sums.reduce(Sums::default, Sums::and)
}
