//! Plants that are bent aside or trimmed: no part of them is where it must not be, and they are still the same plants.
//!
//! Whether a form touches an obstacle is asked of `parry3d` (its triangle meshes and its inside test), not of our own code.

use glam::{Vec2, Vec3};
use parry3d::math::Pose;
use parry3d::query::{PointQuery, intersection_test};
use parry3d::shape::{TriMesh, TriMeshFlags, Triangle};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::outline::OutlineLine;
use rookery_core::ground::{GroundModel, GroundRef, Terrain, obstacle};
use rookery_core::nursery::{Detail, Mesh};
use rookery_core::planting::clearance::fit::{FINE, Fits, Fitted};
use rookery_core::planting::{Grown, Growth, Sowing};
use rookery_core::scene::*;
use std::sync::Arc;

fn flat() -> GroundModel {
    GroundModel::new(Terrain::new(25, 25, Vec2::ONE, vec![0.0; 625]).unwrap(), None, 1)
}

fn layer_of(id: &str, per_m2: f32) -> Document {
    let mut document = bare();
    let species = document.species(&SpeciesId(id.into())).unwrap().clone();
    let mut layer = Layer::of(&species, LayerId(1), id);
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
            intersection_test(&still, around, &still, &Triangle::new(a, b, c)).unwrap().intersecting
                || solid && around.contains_local_point(a)
        };
        form.indices.chunks_exact(3).filter(meets).count()
    }
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
        for (id, per_m2) in [("marram", 9.0), ("ragwort", 16.0), ("bracken", 3.0)] {
            let case = bent(id, per_m2, shape.clone());
            let around = case.trimesh();
            assert!(case.fits.count(|h| h.bent) > 0, "{id} beside {shape:?}: {}", case.fits.plants.len());
            for f in &case.fits.plants {
                let form = Fits::mesh(f, &case.form(f));
                assert_eq!(case.meeting(f, &form, solid, &around), 0, "{id} beside {shape:?}");
                before += case.meeting(f, &case.usual(f), solid, &around);
            }
            let (gone, smaller) = (case.fits.count(|h| h.gone), case.fits.count(|h| h.smaller));
            let all = case.fits.plants.len();
            eprintln!("{id} beside {shape:?}: {gone} gone, {smaller} smaller of {all}");
            assert!(
                gone == 0 && smaller * 5 <= all,
                "{id} beside {shape:?}: {gone} gone, {smaller} smaller of {all}"
            );
        }
    }
    assert!(before > 1000, "the usual forms reach in with {before} triangles");
}
