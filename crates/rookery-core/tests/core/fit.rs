//! Plants that are bent aside or trimmed: no part of them is where it must not be, and they are still the same plants.
//!
//! Whether a form touches an obstacle is asked of `parry3d` (its triangle meshes and its inside test), not of our own code.

use glam::{DVec3, Vec2, Vec3};
use parry3d::math::Pose;
use parry3d::query::{PointQuery, intersection_test};
use parry3d::shape::{TriMesh, TriMeshFlags, Triangle};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::outline::OutlineLine;
use rookery_core::ground::{GroundModel, GroundRef, Terrain, obstacle};
use rookery_core::nursery::{Detail, Mesh};
use rookery_core::planting::clearance::fit::{FINE, Fits, Fitted, How};
use rookery_core::planting::{Grown, Growth, Plant, Sowing};
use rookery_core::scene::*;
use std::sync::Arc;

fn flat() -> GroundModel {
    GroundModel::new(Terrain::new(25, 25, Vec2::ONE, vec![0.0; 625]).unwrap(), None, 1)
}

fn layer_of(id: &str, per_m2: f32) -> Document {
    let mut document = bare();
    let species = document.species(&SpeciesId(id.into())).unwrap().clone();
    let mut layer = Layer::usual(&species, LayerId(1), id);
    (layer.masks, layer.pattern) = (Vec::new(), Pattern::Random);
    layer.amount = Amount::PerM2 { value: per_m2 };
    layer.clearance = Clearance::default();
    document.layers = vec![layer];
    document
}

fn obstacle_of(shape: Shape, turn_deg: f32) -> Obstacle {
    let name = "Obstacle".into();
    Obstacle {
        id: ObstacleId(1),
        name,
        shape,
        x_m: 0.3,
        z_m: -0.2,
        lift_m: 0.0,
        on_ground: true,
        turn_deg,
        scale: 1.0,
        hidden: false,
    }
}

fn shapes() -> Vec<Shape> {
    vec![
        Shape::Box { width_m: 3.0, depth_m: 2.0, height_m: 1.4 },
        Shape::Cylinder { radius_m: 0.3, height_m: 1.8 },
        Shape::Cylinder { radius_m: 1.6, height_m: 0.25 },
        Shape::Wall { points: vec![[-3.0, 0.0], [0.0, 0.6], [3.0, 0.0]], height_m: 1.15, thickness_m: 0.62 },
    ]
}

struct Case {
    document: Document,
    growth: Arc<Growth>,
    fits: Fits,
    obstacle: Option<Mesh>,
}

fn fitted(document: Document) -> Case {
    let ground = flat();
    let model = |_| Some(GroundRef::Terrain(&ground));
    let mesh = |o: &Obstacle| -> Option<Mesh> { Some(obstacle::mesh(o, &ground.terrain, None)) };
    let never = CancelToken::default();
    let sowing = Sowing {
        document: &document,
        model: &model,
        obstacle: &mesh,
        grown: &Grown::default(),
        cancel: &never,
    };
    let growth = sowing.layer(&document.layers[0]).unwrap();
    let fits = sowing.fits(&document.layers[0], FINE).unwrap();
    let obstacle = document.obstacles.first().and_then(mesh);
    Case { document, growth, fits, obstacle }
}

impl Case {
    fn form(&self, of: &Fitted) -> Mesh {
        let plant = &self.growth.plants[of.plant as usize];
        let species = self.document.species_of(&self.document.layers[0], plant).unwrap();
        species.build(plant.form, Detail::Full, self.document.season)
    }

    /// The usual form as it would stand, beside the base point.
    fn usual(&self, of: &Fitted) -> Mesh {
        let plant = &self.growth.plants[of.plant as usize];
        let form = self.form(of);
        let positions = form.positions.iter().map(|v| plant.rotation * (*v * plant.scale())).collect();
        Mesh { positions, ..form }
    }

    fn trimesh(&self) -> TriMesh {
        let mesh = self.obstacle.as_ref().unwrap();
        let triangles = mesh.indices.chunks_exact(3).map(|t| [t[0], t[1], t[2]]).collect();
        let flags = TriMeshFlags::MERGE_DUPLICATE_VERTICES | TriMeshFlags::ORIENTED;
        TriMesh::with_flags(mesh.positions.clone(), triangles, flags).unwrap()
    }

    /// Triangles of a form in its place that meet the obstacle or lie in it.
    fn meeting(&self, of: &Fitted, form: &Mesh, solid: bool, around: &TriMesh) -> usize {
        let foot = self.growth.plants[of.plant as usize].position_m;
        let still = Pose::IDENTITY;
        let corner = |i: u32| foot + form.positions[i as usize];
        let meets = |t: &&[u32]| {
            let [a, b, c] = [corner(t[0]), corner(t[1]), corner(t[2])];
            if (b - a).cross(c - a).length() < 1e-12 {
                return false;
            }
            // Its test of triangles is tolerant by some millimetres: what it reports is looked at again in double precision.
            intersection_test(&still, around, &still, &Triangle::new(a, b, c)).unwrap().intersecting
                && around.triangles().any(|t| cross([a, b, c], [t.a, t.b, t.c]))
                || solid && around.contains_local_point(a)
        };
        form.indices.chunks_exact(3).filter(meets).count()
    }
}

/// Whether an edge of one triangle crosses the other.
fn cross(a: [Vec3; 3], b: [Vec3; 3]) -> bool {
    let (a, b) = (a.map(|p| p.as_dvec3()), b.map(|p| p.as_dvec3()));
    let pierces = |edges: &[DVec3; 3], [p, q, r]: &[DVec3; 3]| {
        (0..3).any(|i| {
            let (from, way) = (edges[i], edges[(i + 1) % 3] - edges[i]);
            // How much space each corner spans with the edge: of one sign all round, the edge goes through.
            let side = |u: DVec3, v: DVec3| way.dot((u - from).cross(v - from));
            let (x, y, z) = (side(*p, *q), side(*q, *r), side(*r, *p));
            let normal = (*q - *p).cross(*r - *p);
            let ends = normal.dot(from - *p) * normal.dot(from + way - *p);
            ends <= 0.0 && ((x > 0.0 && y > 0.0 && z > 0.0) || (x < 0.0 && y < 0.0 && z < 0.0))
        })
    };
    pierces(&a, &b) || pierces(&b, &a)
}

fn bent(id: &str, per_m2: f32, shape: Shape) -> Case {
    let mut document = layer_of(id, per_m2);
    document.obstacles = vec![obstacle_of(shape, 25.0)];
    document.layers[0].clearance.obstacles = Keep { response: TooClose::Bend, ..Keep::FOOTPRINT };
    check_document(&document).unwrap();
    fitted(document)
}

#[test]
fn no_part_of_a_bent_plant_is_in_the_obstacle() {
    let mut before = 0;
    for shape in shapes() {
        // A wall is put together from stones that overlap: it has no one inside.
        let solid = !matches!(shape, Shape::Wall { .. });
        let (mut bent_ones, mut smaller) = (0, 0);
        for (id, per_m2) in [("marram", 9.0), ("ragwort", 12.0), ("bracken", 3.0)] {
            let case = bent(id, per_m2, shape.clone());
            let around = case.trimesh();
            for f in &case.fits.plants {
                let form = Fits::mesh(f, &case.form(f));
                assert_eq!(case.meeting(f, &form, solid, &around), 0, "{id} beside {shape:?}");
                before += case.meeting(f, &case.usual(f), solid, &around);
            }
            assert_eq!(case.fits.count(|h| h.gone), 0, "{id} beside {shape:?}");
            bent_ones += case.fits.count(|h| h.bent);
            smaller += case.fits.count(|h| h.smaller);
        }
        assert!(bent_ones > 20 && smaller * 10 <= bent_ones, "{shape:?}: {smaller} smaller of {bent_ones}");
    }
    assert!(before > 1000, "the usual forms reach in with {before} triangles");
}

#[test]
fn every_plant_that_would_reach_in_is_bent_and_no_other() {
    let shape = Shape::Box { width_m: 3.0, depth_m: 2.0, height_m: 1.4 };
    let case = bent("marram", 9.0, shape);
    let around = case.trimesh();
    let fitted: Vec<u32> = case.fits.plants.iter().map(|f| f.plant).collect();
    for i in 0..case.growth.plants.len() as u32 {
        let as_usual = Fitted { plant: i, positions: Vec::new(), normals: Vec::new(), how: How::default() };
        let reaches_in = case.meeting(&as_usual, &case.usual(&as_usual), true, &around) > 0;
        // Those that come within some millimetres are bent, too.
        assert!(!reaches_in || fitted.contains(&i), "plant {i}");
    }
    for f in &case.fits.plants {
        let (usual, foot) = (case.usual(f), case.growth.plants[f.plant as usize].position_m);
        let nearest = usual.positions.iter().map(|v| around.distance_to_local_point(foot + *v, true));
        let touches = nearest.fold(f32::INFINITY, f32::min) < 0.0031;
        assert!(touches || case.meeting(f, &usual, true, &around) > 0, "plant {} has room", f.plant);
    }
}

#[test]
fn blades_keep_their_foot_and_about_their_length() {
    let mut worst = (1.0_f32, 1.0_f32);
    for shape in shapes() {
        let case = bent("marram", 9.0, shape);
        let footprint = case.document.species(&SpeciesId("marram".into())).unwrap().footprint_m();
        for f in case.fits.plants.iter().filter(|f| !f.how.smaller) {
            let usual = case.usual(f);
            let own_m = footprint * case.growth.plants[f.plant as usize].size;
            let moved = |i: usize| f.positions[i].distance(usual.positions[i]);
            let feet = (0..usual.positions.len()).filter(|i| usual.positions[*i].length() < own_m);
            assert!(feet.clone().count() > 10);
            assert!(feet.into_iter().all(|i| moved(i) < 1e-6), "the foot stays");
            let length = |p: &[Vec3]| -> f32 {
                let sides = |t: &[u32]| {
                    p[t[0] as usize].distance(p[t[1] as usize]) + p[t[1] as usize].distance(p[t[2] as usize])
                };
                usual.indices.chunks_exact(3).map(sides).sum()
            };
            let share = length(&f.positions) / length(&usual.positions);
            worst = (worst.0.min(share), worst.1.max(share));
        }
    }
    assert!(worst.0 > 0.93 && worst.1 < 1.07, "edges come to {worst:?} of what they were");
}

#[test]
fn more_stand_where_they_bend_than_where_their_crowns_keep_clear() {
    let stands = |response: TooClose| {
        let mut document = layer_of("marram", 9.0);
        document.obstacles = vec![obstacle_of(Shape::Cylinder { radius_m: 1.6, height_m: 1.0 }, 0.0)];
        document.layers[0].clearance.obstacles = Keep { by: Reach::Crown, response, ..Keep::FOOTPRINT };
        fitted(document)
    };
    let (removed, bent) = (stands(TooClose::Remove), stands(TooClose::Bend));
    assert!(removed.fits.plants.is_empty() && bent.fits.count(|h| h.bent) > 20);
    assert!(bent.growth.plants.len() > removed.growth.plants.len() + 20);
    let kept = |p: &Plant| bent.growth.plants.iter().any(|q| q == p);
    assert!(removed.growth.plants.iter().all(kept), "those with room stand either way");
}

#[test]
fn wood_and_stone_do_not_bend() {
    for id in ["gorse", "boulder"] {
        let grown = |response: TooClose| {
            let mut document = layer_of(id, 0.8);
            document.obstacles = vec![obstacle_of(Shape::Cylinder { radius_m: 1.6, height_m: 1.0 }, 0.0)];
            document.layers[0].clearance.obstacles = Keep { by: Reach::Crown, response, ..Keep::FOOTPRINT };
            fitted(document)
        };
        let (removed, bent) = (grown(TooClose::Remove), grown(TooClose::Bend));
        assert!(bent.fits.plants.is_empty());
        assert_eq!(removed.growth.plants, bent.growth.plants);
    }
}

#[test]
fn threads_do_not_matter() {
    let on = |threads: usize| {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
        pool.install(|| bent("marram", 9.0, Shape::Cylinder { radius_m: 0.3, height_m: 1.8 })).fits
    };
    assert_eq!(on(1), on(3));
}

fn bed() -> Outline {
    let nodes = vec![[-8.0, -7.0], [9.0, -6.0], [6.0, 8.0], [0.0, 2.0], [-7.0, 8.0]];
    let (id, name, kind) = (OutlineId(1), "Bed".into(), OutlineKind::Bed);
    Outline { id, name, kind, nodes, smooth: false, soft_m: 0.0, width_m: 1.0, earth: None }
}

#[test]
fn nothing_hangs_over_an_edge_that_trims() {
    let line = OutlineLine::new(&bed());
    for (id, per_m2, inverted) in [("marram", 9.0, false), ("gorse", 0.7, true)] {
        let mut document = layer_of(id, per_m2);
        document.outlines = vec![bed()];
        document.zones = vec![Zone {
            id: ZoneId(1),
            name: "Bed".into(),
            outlines: vec![OutlineId(1)],
            groups: Vec::new(),
        }];
        let mut mask =
            Mask { zone: Some(ZoneId(1)), ..Mask::band(MaskId(1), Quantity::Zone, [0.5, 0.5, 1.0, 1.0]) };
        mask.response.inverted = inverted;
        document.layers[0].masks = vec![mask];
        let free = fitted(document.clone());
        document.layers[0].clearance.edges = Keep { response: TooClose::Trim, ..Keep::FOOTPRINT };
        check_document(&document).unwrap();
        let case = fitted(document);
        assert_eq!(case.growth.plants, free.growth.plants, "all stand whose base lies within");
        let within = |p: Vec3| line.distance_m(Vec2::new(p.x, p.z)) * if inverted { 1.0 } else { -1.0 };
        let mut hung = 0;
        for f in &case.fits.plants {
            let foot = case.growth.plants[f.plant as usize].position_m;
            let out = f.positions.iter().map(|v| within(foot + *v)).fold(f32::INFINITY, f32::min);
            assert!(f.how.trimmed && out > -1e-3, "{id}: {out} m out");
            hung += case.usual(f).positions.iter().filter(|v| within(foot + **v) < 0.0).count();
        }
        assert!(case.fits.plants.len() > 10 && hung > 500, "{id}: {} with {hung}", case.fits.plants.len());
        // All others lie within as they are.
        let fitted: Vec<u32> = case.fits.plants.iter().map(|f| f.plant).collect();
        for i in (0..case.growth.plants.len() as u32).filter(|i| !fitted.contains(i)) {
            let as_usual =
                Fitted { plant: i, positions: Vec::new(), normals: Vec::new(), how: How::default() };
            let foot = case.growth.plants[i as usize].position_m;
            assert!(case.usual(&as_usual).positions.iter().all(|v| within(foot + *v) >= -1e-6));
        }
    }
}

#[test]
fn what_cannot_be_done_is_refused_by_name() {
    let set = |change: fn(&mut Clearance)| {
        let mut document = layer_of("marram", 1.0);
        change(&mut document.layers[0].clearance);
        check_document(&document).map_err(|e| e.to_string())
    };
    assert!(
        set(|c| c.edges.response = TooClose::Bend)
            .unwrap_err()
            .contains("edges can remove, shrink or trim only")
    );
    assert!(
        set(|c| c.obstacles.response = TooClose::Trim).unwrap_err().contains("remove, shrink or bend only")
    );
    assert!(
        set(|c| c.own.response = TooClose::Bend).unwrap_err().contains("the layer itself can remove only")
    );
    assert!(
        set(|c| c.others.response = TooClose::Trim).unwrap_err().contains("other layers can remove only")
    );
}
