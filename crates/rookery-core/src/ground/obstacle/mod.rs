//! Obstacles as meshes in the scene: what stands on the ground and plants keep clear of.

mod cottage;
mod solid;
mod steps;
mod wall;

use super::Terrain;
use crate::document::{Obstacle, Shape, SpeciesId};
use crate::nursery::{BOULDER, Detail, Dress, Mesh, Season, ready_species};
use crate::textures::Texture;
use glam::{Quat, Vec2, Vec3, vec3};
use solid::Solid;

/// How deep the feet of built things reach into the ground, metres, so that none hangs over a hollow.
const FOOT_M: f32 = 2.5;

/// The mesh of an obstacle in the scene's own frame, where the obstacle stands. The same settings on the same ground
/// give the same mesh. `imported` is the mesh of the file that a [`Shape::Mesh`] names, in metres with Y up; other shapes
/// do not need it.
pub fn mesh(obstacle: &Obstacle, terrain: &Terrain, imported: Option<&Mesh>) -> Mesh {
    let stand = Stand::new(obstacle, terrain);
    match &obstacle.shape {
        Shape::Box { width_m, depth_m, height_m } => {
            let mut solid = Solid::default();
            let half = vec3(width_m * 0.5, 0.0, depth_m * 0.5);
            solid.of(Texture::Rubble, Vec2::ZERO);
            solid.block(vec3(-half.x, -FOOT_M, -half.z), vec3(half.x, *height_m, half.z), STONE);
            stand.put(solid.finish())
        }
        Shape::Cylinder { radius_m, height_m } => {
            let mut solid = Solid::default();
            solid.of(Texture::Rubble, Vec2::ZERO);
            solid.cylinder(*radius_m, -FOOT_M, *height_m, STONE);
            stand.put(solid.finish())
        }
        Shape::Cottage { width_m, depth_m, eaves_m, roof_deg } => {
            stand.put(cottage::build(*width_m, *depth_m, *eaves_m, *roof_deg))
        }
        Shape::Steps { width_m, count, rise_m, tread_m } => {
            stand.put(steps::build(*width_m, *count, *rise_m, *tread_m))
        }
        Shape::Mesh { .. } => imported.map_or_else(Mesh::default, |m| stand.put(m.clone())),
        Shape::Boulder { size_m, form } => stand.put(boulder(*size_m, *form)),
        Shape::Wall { points, height_m, thickness_m } => {
            wall::build(points, *height_m, *thickness_m, obstacle.id.0, &stand, terrain)
        }
    }
}

/// Dressed and undressed stone, by eye.
const STONE: Vec3 = vec3(0.20, 0.19, 0.175);

/// A boulder so large across.
pub(crate) fn boulder(size_m: f32, form: u16) -> Mesh {
    let species = ready_species(&SpeciesId(BOULDER.to_owned())).expect("the boulder is a ready species");
    let mut mesh = species.build(form.min(species.forms - 1), Detail::Full, Season::SUMMER);
    let (low, high) = mesh.bounds();
    let scale = size_m / (high - low).max_element();
    mesh.positions.iter_mut().for_each(|p| *p *= scale);
    mesh
}

/// Where an obstacle stands.
struct Stand {
    place: Vec3,
    turn: Quat,
    scale: f32,
    lift_m: f32,
    on_ground: bool,
}

impl Stand {
    fn new(o: &Obstacle, terrain: &Terrain) -> Self {
        let ground = if o.on_ground { terrain.height_at(o.x_m, o.z_m) } else { 0.0 };
        Self {
            place: vec3(o.x_m, ground + o.lift_m, o.z_m),
            // Clockwise seen from above is against the sense of a turn about Y.
            turn: Quat::from_rotation_y(-o.turn_deg.to_radians()),
            scale: o.scale,
            lift_m: o.lift_m,
            on_ground: o.on_ground,
        }
    }

    fn point(&self, local: Vec3) -> Vec3 {
        self.place + self.turn * (local * self.scale)
    }

    /// A point of the plan, with the height of the ground there, or that of the stand.
    fn foot(&self, x: f32, z: f32, terrain: &Terrain) -> Vec3 {
        let p = self.point(vec3(x, 0.0, z));
        let y = if self.on_ground { terrain.height_at(p.x, p.z) + self.lift_m } else { p.y };
        vec3(p.x, y, p.z)
    }

    fn put(&self, mut mesh: Mesh) -> Mesh {
        mesh.positions.iter_mut().for_each(|p| *p = self.point(*p));
        mesh.normals.iter_mut().for_each(|n| *n = self.turn * *n);
        if let Dress::Built { places_m, .. } = &mut *mesh.dress {
            places_m.iter_mut().for_each(|p| *p *= self.scale);
        }
        mesh
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::ObstacleId;
    use glam::Vec2;

    fn terrain() -> Terrain {
        let n = 41;
        let heights = (0..n * n).map(|i| (i % n) as f32 * 0.4).collect();
        Terrain::new(n, n, Vec2::splat(2.0), heights).unwrap()
    }

    fn shapes() -> Vec<Shape> {
        vec![
            Shape::Box { width_m: 2.0, depth_m: 3.0, height_m: 1.5 },
            Shape::Cylinder { radius_m: 1.0, height_m: 2.0 },
            Shape::Wall {
                points: vec![[-8.0, 0.0], [0.0, 3.0], [9.0, 1.0]],
                height_m: 1.2,
                thickness_m: 0.6,
            },
            Shape::Cottage { width_m: 9.0, depth_m: 5.0, eaves_m: 2.4, roof_deg: 42.0 },
            Shape::Steps { width_m: 1.2, count: 5, rise_m: 0.17, tread_m: 0.3 },
            Shape::Boulder { size_m: 2.0, form: 1 },
        ]
    }

    fn obstacle(shape: Shape) -> Obstacle {
        Obstacle {
            id: ObstacleId(1),
            name: "test".into(),
            shape,
            x_m: 3.0,
            z_m: -4.0,
            lift_m: 0.0,
            on_ground: true,
            turn_deg: 30.0,
            scale: 1.0,
            hidden: false,
        }
    }

    /// Six times the volume inside, from the divergence theorem; positive when faces look outwards.
    fn volume(mesh: &Mesh) -> f32 {
        let middle = mesh.positions.iter().sum::<Vec3>() / mesh.positions.len() as f32;
        let corners = |t: &[u32]| [0, 1, 2].map(|i| mesh.positions[t[i] as usize] - middle);
        mesh.indices.chunks_exact(3).map(corners).map(|[a, b, c]| a.dot(b.cross(c))).sum::<f32>() / 6.0
    }

    #[test]
    fn every_shape_is_sound_and_looks_outwards() {
        for shape in shapes() {
            let mesh = mesh(&obstacle(shape.clone()), &terrain(), None);
            assert!(mesh.triangles() > 10, "{shape:?}");
            assert!(mesh.indices.iter().all(|i| (*i as usize) < mesh.positions.len()));
            assert!(mesh.positions.iter().all(|p| p.is_finite()));
            assert!(mesh.normals.iter().all(|n| (n.length() - 1.0).abs() < 1e-3), "{shape:?}");
            assert!(mesh.colours.iter().all(|c| c.min_element() > 0.0 && c.max_element() < 0.95));
            assert!(volume(&mesh) > 0.0, "{shape:?}: {}", volume(&mesh));
        }
    }

    #[test]
    fn a_block_has_its_size_and_stands_on_the_ground_turned_clockwise() {
        let o = obstacle(Shape::Box { width_m: 2.0, depth_m: 4.0, height_m: 1.5 });
        let mesh = mesh(&o, &terrain(), None);
        assert!((volume(&mesh) - 2.0 * 4.0 * (1.5 + FOOT_M)).abs() < 1e-2);
        let top = mesh.positions.iter().map(|p| p.y).fold(f32::MIN, f32::max);
        assert!((top - (terrain().height_at(3.0, -4.0) + 1.5)).abs() < 1e-4);
        // Its north side, 2 m away, looks to 30 degrees east of north.
        let north =
            Vec3::new(3.0 + 2.0 * 30_f32.to_radians().sin(), 0.0, -4.0 - 2.0 * 30_f32.to_radians().cos());
        let on_side =
            mesh.positions.iter().zip(&mesh.normals).filter(|(_, n)| n.dot(vec3(0.5, 0.0, -0.866)) > 0.99);
        assert!(on_side.clone().count() == 4);
        for (p, n) in on_side {
            assert!((*p - north).dot(*n).abs() < 1e-3);
        }
    }

    #[test]
    fn a_wall_follows_the_ground_and_stays_within_its_height() {
        let t = terrain();
        let o = obstacle(shapes().remove(2));
        for p in &mesh(&o, &t, None).positions {
            let above = p.y - t.height_at(p.x, p.z);
            assert!((-1.0..1.45).contains(&above), "{above}");
        }
    }

    #[test]
    fn steps_rise_one_by_one() {
        let mesh = steps::build(1.0, 4, 0.2, 0.3);
        let level = |y: f32| {
            let top =
                mesh.positions.iter().zip(&mesh.normals).filter(|(p, n)| n.y > 0.9 && (p.y - y).abs() < 1e-4);
            top.count() > 0
        };
        assert!((1..=4).all(|i| level(0.2 * i as f32)));
    }
}
