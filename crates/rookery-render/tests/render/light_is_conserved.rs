//! Checks of the light transport against closed forms.

use glam::{Vec3, Vec3A, vec2, vec3, vec3a};
use rookery_core::nursery::Mesh;
use rookery_render::light::{Light, Sky, Sun};
use rookery_render::sampling::PathNumbers;
use rookery_render::{
    Depth, RenderScene,
    accel::{Instance, Ray},
    radiance,
};

fn mesh(positions: Vec<Vec3>, indices: Vec<u32>, colour: f32) -> Mesh {
    let mut normals = vec![Vec3::ZERO; positions.len()];
    for t in indices.chunks_exact(3) {
        let [a, b, c] = [0, 1, 2].map(|i| positions[t[i] as usize]);
        for &i in t {
            normals[i as usize] += (b - a).cross(c - a);
        }
    }
    let normals = normals.into_iter().map(|n| n.normalize()).collect();
    let colours = vec![Vec3::splat(colour); positions.len()];
    Mesh { positions, normals, colours, indices, through: Vec::new(), ..Mesh::default() }
}

fn floor(half: f32, albedo: f32) -> Mesh {
    let corners =
        vec![vec3(-half, 0.0, -half), vec3(half, 0.0, -half), vec3(half, 0.0, half), vec3(-half, 0.0, half)];
    mesh(corners, vec![0, 2, 1, 0, 3, 2], albedo)
}

/// An open box seen from above: floor and four walls that face inwards.
fn pit(albedo: f32) -> Mesh {
    let mut m = floor(1.0, albedo);
    for (a, b) in [(0_usize, 1), (1, 2), (2, 3), (3, 0)] {
        let (p, q) = (m.positions[a], m.positions[b]);
        let base = m.positions.len() as u32;
        m.positions.extend([p, q, q + Vec3::Y * 2.0, p + Vec3::Y * 2.0]);
        let inwards = (-(p + q)).normalize();
        m.normals.extend([inwards; 4]);
        m.colours.extend([Vec3::splat(albedo); 4]);
        m.indices.extend([base, base + 1, base + 2, base, base + 2, base + 3]);
    }
    m
}

fn mean(scene: &RenderScene, ray: Ray, depth: u32, samples: u32) -> f32 {
    let one = |sample| {
        let numbers = PathNumbers { pixel: sample / 1024, sample: sample % 1024, seed: 9 };
        f64::from(radiance(scene, ray, Depth(depth), numbers).y)
    };
    ((0..samples).map(one).sum::<f64>() / f64::from(samples)) as f32
}

/// White furnace: in a sky that shines alike from everywhere, a white surface cannot be told from the sky
/// (Veach 1997, "Robust Monte Carlo Methods for Light Transport Simulation").
#[test]
fn a_white_convex_floor_in_a_uniform_sky_returns_the_sky_exactly() {
    let scene = RenderScene::of_mesh(Some(floor(10.0, 1.0)), Light::uniform(1.0));
    let ray = Ray::new(vec3a(0.3, 2.0, 0.1), vec3a(0.2, -1.0, 0.3).normalize());
    for sample in 0..200 {
        let got = radiance(&scene, ray, Depth(4), PathNumbers { pixel: 5, sample, seed: 1 });
        assert!((got - Vec3A::ONE).abs().max_element() < 1e-4, "{got}");
    }
}

#[test]
fn a_white_pit_in_a_uniform_sky_returns_the_sky_after_many_bounces() {
    let scene = RenderScene::of_mesh(Some(pit(1.0)), Light::uniform(1.0));
    let ray = Ray::new(vec3a(0.2, 3.0, 0.1), vec3a(0.02, -1.0, 0.03).normalize());
    let got = mean(&scene, ray, 400, 4096);
    assert!((got - 1.0).abs() < 0.01, "{got}");
}

/// A white leaf passes on what it does not send back; between them all of it.
#[test]
fn leaves_in_a_uniform_sky_never_return_more_than_the_sky() {
    let mut scene = RenderScene::of_mesh(None, Light::uniform(1.0));
    let leaf = floor(1.0, 0.6);
    let part = scene.add_part(Mesh { through: vec![1.0; leaf.positions.len()], ..leaf });
    let at = |y: f32| Instance {
        position: vec3a(0.0, y, 0.0),
        rotation: glam::Quat::IDENTITY,
        scale: Vec3A::splat(1.0),
        mesh: part,
        tint: 0x8080,
        colour: [128; 3],
    };
    scene.place((0..5).map(|i| at(i as f32 * 0.3)).collect());
    let got = mean(&scene, Ray::new(vec3a(0.1, 3.0, 0.0), vec3a(0.0, -1.0, 0.01).normalize()), 200, 4096);
    assert!(got > 0.3 && got <= 1.01, "{got}");
}

/// Lambert: radiance = albedo / pi x irradiance x cos, for a sun at several heights.
#[test]
fn a_floor_in_the_sun_follows_lamberts_law() {
    for elevation in [15.0_f32, 30.0, 60.0, 90.0] {
        let sun = Sun { half_angle_deg: 0.01, ..Sun::new(135.0, elevation, 0.0) };
        let light = Light::only(Some(sun), Sky::Uniform(Vec3A::ZERO));
        let scene = RenderScene::of_mesh(Some(floor(5.0, 0.37)), light);
        let ray = Ray::new(vec3a(0.0, 1.0, 0.0), vec3a(0.1, -1.0, 0.2).normalize());
        let expected = 0.37 / std::f32::consts::PI * sun.irradiance.y * elevation.to_radians().sin();
        let got = mean(&scene, ray, 1, 64);
        assert!((got / expected - 1.0).abs() < 2e-3, "{elevation} degrees: {got}, Lambert {expected}");
    }
}

/// A small sun overhead throws the shadow of a ball as a disk of the ball's radius.
#[test]
fn the_shadow_of_a_ball_is_a_disk_of_its_radius() {
    let sun = Sun { half_angle_deg: 0.01, ..Sun::new(0.0, 90.0, 0.0) };
    let light = Light::only(Some(sun), Sky::Uniform(Vec3A::ZERO));
    let mut scene = RenderScene::of_mesh(Some(floor(20.0, 0.5)), light);
    let ball = scene.add_part(ball(48, 96));
    let size = 1.5;
    scene.place(vec![Instance {
        position: vec3a(0.0, 5.0, 0.0),
        rotation: glam::Quat::from_rotation_x(0.7),
        scale: Vec3A::splat(size),
        mesh: ball,
        tint: 0x8080,
        colour: [128; 3],
    }]);
    let n = 120;
    let mut dark = 0;
    for i in 0..n * n {
        let p = (vec2((i % n) as f32 + 0.5, (i / n) as f32 + 0.5) / n as f32 - 0.5) * 4.0;
        let ray = Ray::new(vec3a(p.x, 1.0, p.y), Vec3A::NEG_Y);
        if radiance(&scene, ray, Depth(1), PathNumbers { pixel: i, sample: 0, seed: 1 }) == Vec3A::ZERO {
            dark += 1;
        }
    }
    let area = dark as f32 / (n * n) as f32 * 16.0;
    let expected = std::f32::consts::PI * size * size;
    assert!((area / expected - 1.0).abs() < 0.01, "{area} m2, a disk has {expected}");
}

fn ball(rings: u32, around: u32) -> Mesh {
    let mut positions = Vec::new();
    let mut indices = Vec::new();
    for r in 0..=rings {
        let polar = std::f32::consts::PI * r as f32 / rings as f32;
        for k in 0..around {
            let turn = std::f32::consts::TAU * k as f32 / around as f32;
            positions.push(vec3(polar.sin() * turn.cos(), polar.cos(), polar.sin() * turn.sin()));
        }
    }
    for r in 0..rings {
        for k in 0..around {
            let (a, b) = (r * around + k, r * around + (k + 1) % around);
            indices.extend([a, b, b + around, a, b + around, a + around]);
        }
    }
    let normals = positions.clone();
    Mesh {
        colours: vec![Vec3::splat(0.5); positions.len()],
        normals,
        positions,
        indices,
        through: Vec::new(),
        ..Mesh::default()
    }
}
