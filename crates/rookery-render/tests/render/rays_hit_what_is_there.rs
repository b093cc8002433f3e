//! The two-level structure against looking at every triangle in double precision.

use glam::{DVec3, Quat, Vec3A, vec3a};
use rookery_core::math::hash::{pcg4d, unit};
use rookery_core::nursery::{BOULDER, Detail, MARRAM, Mesh, Season, ready_species};
use rookery_core::scene::SpeciesId;
use rookery_render::light::Light;
use rookery_render::{
    RenderScene,
    accel::{Instance, Ray},
};

/// Moller & Trumbore 1997, "Fast, Minimum Storage Ray/Triangle Intersection", in double precision.
fn moller_trumbore(origin: DVec3, direction: DVec3, t: [DVec3; 3]) -> Option<f64> {
    let (e1, e2) = (t[1] - t[0], t[2] - t[0]);
    let p = direction.cross(e2);
    let det = e1.dot(p);
    if det.abs() < 1e-14 {
        return None;
    }
    let s = origin - t[0];
    let u = s.dot(p) / det;
    let q = s.cross(e1);
    let v = direction.dot(q) / det;
    let distance = e2.dot(q) / det;
    (u >= 0.0 && v >= 0.0 && u + v <= 1.0 && distance > 0.0).then_some(distance)
}

fn world(mesh: &Mesh, instance: &Instance) -> Vec<[DVec3; 3]> {
    let place = |i: u32| {
        let p =
            instance.position + instance.rotation * Vec3A::from(mesh.positions[i as usize]) * instance.scale;
        DVec3::new(p.x.into(), p.y.into(), p.z.into())
    };
    mesh.indices.chunks_exact(3).map(|t| [place(t[0]), place(t[1]), place(t[2])]).collect()
}

fn form(id: &str) -> Mesh {
    ready_species(&SpeciesId(id.to_owned())).unwrap().build(1, Detail::Full, Season::SUMMER)
}

#[test]
fn the_nearest_hit_is_the_nearest_of_all_triangles() {
    let meshes = [MARRAM, BOULDER].map(form);
    let mut scene = RenderScene::of_mesh(None, Light::uniform(1.0));
    for m in &meshes {
        scene.add_part(m.clone());
    }
    let random = |i: u32, channel: u32| pcg4d([i, channel, 77, 1]).map(unit);
    let instances: Vec<Instance> = (0..24)
        .map(|i| {
            let [x, y, z, s] = random(i, 0);
            let [a, b, c, d] = random(i, 1).map(|v| v - 0.5);
            Instance {
                position: vec3a(x, y, z) * 5.0 - 2.5,
                rotation: Quat::from_xyzw(a, b, c, d).normalize(),
                scale: Vec3A::splat(0.4 + 1.5 * s),
                mesh: i % 2,
                tint: 0,
                colour: [128; 3],
            }
        })
        .collect();
    scene.place(instances.clone());
    let all: Vec<[DVec3; 3]> = instances.iter().flat_map(|i| world(&meshes[i.mesh as usize], i)).collect();
    let mut hits = 0;
    for i in 0..600 {
        let [x, y, z, _] = random(i, 2);
        // Aimed at where plants are, give or take half a metre.
        let [a, b, c, which] = random(i, 3);
        let origin = vec3a(x, y, z) * 8.0 - 4.0;
        let aim = instances[(which * 24.0) as usize].position + vec3a(a, b + 0.5, c) - 0.5;
        let direction = (aim - origin).normalize();
        let (o, d) = (origin.as_dvec3(), direction.as_dvec3());
        let expected = all.iter().filter_map(|t| moller_trumbore(o, d, *t)).fold(f64::INFINITY, f64::min);
        let got = scene.nearest(&Ray::new(origin, direction)).map_or(f64::INFINITY, |h| f64::from(h.t));
        if expected.is_infinite() && got.is_infinite() {
            continue;
        }
        hits += 1;
        assert!((got - expected).abs() < 2e-3, "ray {i}: {got} m, every triangle says {expected} m");
        let before = Ray { t_max: expected as f32 * 0.99, ..Ray::new(origin, direction) };
        let beyond = Ray { t_max: expected as f32 * 1.01, ..before };
        assert!(!scene.blocks(&before) && scene.blocks(&beyond), "ray {i}");
    }
    assert!(hits > 150, "only {hits} rays hit anything");
}

/// A vertical sun has -0 as a component; such rays once passed through everything.
#[test]
fn a_direction_with_a_negative_zero_hits_like_any_other() {
    let mut scene = RenderScene::of_mesh(None, Light::uniform(1.0));
    let part = scene.add_part(form(BOULDER));
    scene.place(vec![Instance {
        position: Vec3A::ZERO,
        rotation: Quat::IDENTITY,
        scale: Vec3A::splat(1.0),
        mesh: part,
        tint: 0,
        colour: [128; 3],
    }]);
    for direction in
        [vec3a(-0.0, -1.0, 0.0), vec3a(0.0, -1.0, -0.0), vec3a(-0.0, -1.0, 4e-8), vec3a(-0.0, -1.0, -0.0)]
    {
        let ray = Ray::new(vec3a(0.05, 3.0, 0.02), direction);
        assert!(scene.nearest(&ray).is_some() && scene.blocks(&ray), "{direction}");
    }
}
