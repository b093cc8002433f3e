//! Distances to meshes, points of the surface and what lies inside, against `parry3d` on the same meshes.

use glam::{Vec2, Vec3};
use parry3d::query::PointQuery;
use parry3d::shape::{TriMesh, TriMeshFlags};
use proptest::prelude::*;
use rookery_core::ground::{GroundModel, Terrain, obstacle};
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::nursery::{Detail, Mesh, Season, ready_species};
use rookery_core::scene::{Obstacle, ObstacleId, Shape, SpeciesId};
use std::sync::LazyLock;

struct Both {
    name: &'static str,
    ours: MeshDistance,
    theirs: TriMesh,
    /// Whether it is one closed surface, so that it has an inside for both.
    solid: bool,
}

fn both(name: &'static str, mesh: &Mesh, solid: bool) -> Both {
    let triangles = mesh.indices.chunks_exact(3).map(|t| [t[0], t[1], t[2]]).collect();
    let flags = TriMeshFlags::MERGE_DUPLICATE_VERTICES | TriMeshFlags::ORIENTED;
    let theirs = TriMesh::with_flags(mesh.positions.clone(), triangles, flags).unwrap();
    Both { name, ours: MeshDistance::new(&mesh.positions, &mesh.indices), theirs, solid }
}

static MESHES: LazyLock<Vec<Both>> = LazyLock::new(|| {
    let land = GroundModel::new(Terrain::new(25, 25, Vec2::ONE, vec![0.0; 625]).unwrap(), None, 1);
    let built = |shape: Shape| {
        let o = Obstacle {
            id: ObstacleId(1),
            name: "One".into(),
            shape,
            x_m: 0.4,
            z_m: -0.3,
            lift_m: 0.0,
            on_ground: true,
            turn_deg: 33.0,
            scale: 1.0,
            hidden: false,
        };
        obstacle::mesh(&o, &land.terrain, None)
    };
    let boulder = ready_species(&SpeciesId("boulder".into())).unwrap();
    let boulder = boulder.build(0, Detail::Light, Season::SUMMER);
    let points = vec![[-3.0, 0.0], [0.0, 0.6], [3.0, 0.0]];
    vec![
        both("box", &built(Shape::Box { width_m: 3.0, depth_m: 2.0, height_m: 1.4 }), true),
        both("cylinder", &built(Shape::Cylinder { radius_m: 1.3, height_m: 1.8 }), true),
        both("boulder", &boulder, true),
        both("wall", &built(Shape::Wall { points, height_m: 1.15, thickness_m: 0.62 }), false),
        both(
            "cottage",
            &built(Shape::Cottage { width_m: 6.0, depth_m: 4.0, eaves_m: 2.2, roof_deg: 40.0 }),
            false,
        ),
    ]
});

proptest! {
    #![proptest_config(ProptestConfig::with_cases(2000))]

    #[test]
    fn distances_and_nearest_points_are_those_of_parry3d(which in 0_usize..5, p in prop::array::uniform3(-6.0_f32..6.0)) {
        let (m, p) = (&MESHES[which], Vec3::from(p));
        let theirs = m.theirs.project_local_point(p, false);
        let away = theirs.point.distance(p);
        let ours = m.ours.distance(p, f32::INFINITY);
        prop_assert!((ours - away).abs() < 1e-4, "{}: {ours} m for {away} m", m.name);
        let point = m.ours.nearest_point(p, f32::INFINITY).unwrap();
        // Two points may be as near; each is on the surface.
        prop_assert!((point.distance(p) - away).abs() < 1e-4);
        prop_assert!(m.theirs.project_local_point(point, false).point.distance(point) < 1e-4);
        // With a limit it is the same within, and nothing nearer beyond.
        prop_assert!(m.ours.distance(p, away + 0.5) == ours && m.ours.distance(p, away * 0.5) >= away * 0.5);
        if m.solid && away > 1e-3 {
            prop_assert_eq!(m.ours.holds(p), m.theirs.contains_local_point(p), "{} at {}", m.name, p);
        }
    }
}
