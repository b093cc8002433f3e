//! Cards: two crossed pictures of a form, traced from the side, with colour, cover and normals.

use crate::accel::{MeshBvh, Ray, weights_at};
use glam::{Quat, Vec3, Vec3A, vec2, vec3a};
use rayon::prelude::*;
use rookery_core::nursery::Mesh;
use rookery_core::proxy::Card;
use std::f32::consts::FRAC_PI_2;

/// Rays along each side of a pixel.
const RAYS: u32 = 2;

/// Traces the card of a form.
pub fn card(mesh: &Mesh, height_px: u32) -> Card {
    let (low, high) = mesh.bounds();
    let half_m = mesh.positions.iter().map(|p| p.x.abs().max(p.z.abs())).fold(1e-4, f32::max);
    let tall = (high.y - low.y).max(1e-4);
    let width_px = ((height_px as f32 * 2.0 * half_m / tall).round() as u32).clamp(4, height_px * 4);
    let bvh = MeshBvh::new(mesh);
    let size = vec2(half_m, tall);
    let seen = [0.0, FRAC_PI_2].map(|turn| {
        let turn = Quat::from_rotation_y(turn);
        let pixels = (0..width_px * height_px).into_par_iter();
        pixels
            .map(|i| {
                let ray = |u: f32, v: f32| {
                    let at = vec2((i % width_px) as f32 + u, (i / width_px) as f32 + v)
                        / vec2(width_px as f32, height_px as f32);
                    let from = vec3a((at.x * 2.0 - 1.0) * size.x, high.y - size.y * at.y, half_m * 4.0 + 1.0);
                    Ray::new(turn * from, turn * Vec3A::NEG_Z)
                };
                pixel(mesh, &bvh, ray)
            })
            .collect::<Vec<_>>()
    });
    let colours = [0, 1].map(|k| seen[k].iter().map(|p| p.0).collect());
    let normals = [0, 1].map(|k| seen[k].iter().map(|p| p.1).collect());
    Card { width_px, height_px, half_m, low_m: low.y, high_m: high.y, colours, normals }
}

type Pixel = ([u8; 4], [u8; 3]);

/// One pixel of a picture; `ray` gives the ray through a point of it.
fn pixel(mesh: &Mesh, bvh: &MeshBvh, ray: impl Fn(f32, f32) -> Ray) -> Pixel {
    let (mut colour, mut normal, mut hits) = (Vec3::ZERO, Vec3::ZERO, 0_u32);
    for k in 0..RAYS * RAYS {
        let within = |n: u32| (n as f32 + 0.5) / RAYS as f32;
        let ray = ray(within(k % RAYS), within(k / RAYS));
        let Some((t, triangle)) = bvh.nearest(&ray) else { continue };
        let corners = [0, 1, 2].map(|i| mesh.indices[triangle as usize * 3 + i] as usize);
        colour += match &mesh.skin {
            Some(_) => mesh.colour_at(triangle as usize, weights_at(mesh, triangle as usize, ray.at(t))).0,
            None => corners.iter().map(|i| mesh.colours[*i]).sum::<Vec3>() / 3.0,
        };
        normal += corners.iter().map(|i| mesh.normals[*i]).sum::<Vec3>() / 3.0;
        hits += 1;
    }
    if hits == 0 {
        return ([0; 4], [128, 255, 128]);
    }
    let byte = |c: f32| (c.clamp(0.0, 1.0) * 255.0).round() as u8;
    let c = colour / hits as f32;
    let n = normal.normalize_or(Vec3::Y);
    let cover = hits as f32 / (RAYS * RAYS) as f32;
    (
        [byte(c.x.sqrt()), byte(c.y.sqrt()), byte(c.z.sqrt()), byte(cover)],
        [byte(n.x * 0.5 + 0.5), byte(n.y * 0.5 + 0.5), byte(n.z * 0.5 + 0.5)],
    )
}

/// Which pixels a mesh covers from the side and from a corner, in a picture that holds `form`.
fn silhouettes(mesh: &Mesh, half_m: f32, low_m: f32, high_m: f32) -> Vec<bool> {
    const PX: u32 = 48;
    let bvh = MeshBvh::new(mesh);
    let turns = [0.0, 45.0_f32].map(|deg| Quat::from_rotation_y(deg.to_radians()));
    (0..2 * PX * PX)
        .into_par_iter()
        .map(|i| {
            let (turn, i) = (turns[(i / (PX * PX)) as usize], i % (PX * PX));
            let (u, v) = (((i % PX) as f32 + 0.5) / PX as f32, ((i / PX) as f32 + 0.5) / PX as f32);
            let across = (u * 2.0 - 1.0) * half_m * 1.42;
            let from = turn * vec3a(across, high_m + (low_m - high_m) * v, half_m * 4.0 + 1.0);
            bvh.nearest(&Ray::new(from, turn * Vec3A::NEG_Z)).is_some()
        })
        .collect()
}

/// How far stand-ins differ from a form seen from the side and from a corner: pixels that only one of them covers, against
/// those the form covers, 0 for none. Pictures are 48 pixels high.
pub fn outline_errors<const N: usize>(form: &Mesh, stand_ins: &[&Mesh; N]) -> [f32; N] {
    let (low, high) = form.bounds();
    let half_m = form.positions.iter().map(|p| p.x.abs().max(p.z.abs())).fold(1e-4, f32::max);
    let own = silhouettes(form, half_m, low.y, high.y);
    let cover = own.iter().filter(|a| **a).count().max(1);
    stand_ins.map(|mesh| {
        let other = silhouettes(mesh, half_m, low.y, high.y);
        own.iter().zip(&other).filter(|(a, b)| a != b).count() as f32 / cover as f32
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use rookery_core::nursery::{Detail, Season, ready};
    use rookery_core::proxy::{box_of, hull_of};

    fn plate() -> Mesh {
        // 2 m wide, 1 m high, facing +Z.
        let positions =
            [(-1.0, 0.0), (1.0, 0.0), (1.0, 1.0), (-1.0, 1.0)].map(|(x, y)| Vec3::new(x, y, 0.0)).to_vec();
        Mesh {
            normals: vec![Vec3::Z; 4],
            colours: vec![Vec3::new(0.25, 0.04, 0.64); 4],
            positions,
            indices: vec![0, 1, 2, 0, 2, 3],
            through: Vec::new(),
            ..Mesh::default()
        }
    }

    #[test]
    fn a_plate_fills_its_picture_and_is_not_seen_from_its_edge() {
        let c = card(&plate(), 32);
        assert_eq!((c.width_px, c.half_m, c.low_m, c.high_m), (64, 1.0, 0.0, 1.0));
        assert!(c.colours[0].iter().all(|p| *p == [128, 51, 204, 255]));
        assert!(c.normals[0].iter().all(|n| *n == [128, 128, 255]));
        let seen = c.colours[1].iter().filter(|p| p[3] > 0).count();
        assert!(seen <= 2 * 32, "{seen}");
    }

    #[test]
    fn a_card_covers_what_its_form_does_from_the_side_and_less_from_the_corner() {
        let c = card(&plate(), 32);
        let [error] = outline_errors(&plate(), &[&c.mesh()]);
        // From the corner both see the plate; the sheet across it, of one column of pixels, is hardly seen.
        assert!(error < 0.05, "{error}");
        let tree = ready().iter().find(|s| s.id.0 == "downy-birch").unwrap();
        let form = tree.build(0, Detail::Full, Season::SUMMER);
        let [card, bounds] = outline_errors(&form, &[&card(&form, 80).mesh(), &box_of(&form)]);
        assert!(card > 0.02 && card < bounds * 0.6, "card {card}, box {bounds}");
    }

    #[test]
    fn a_form_does_not_differ_from_itself_and_a_box_differs_more_than_a_hull() {
        for s in ready() {
            let form = s.build(0, Detail::Full, Season::SUMMER);
            let [own, hull, bounds] = outline_errors(&form, &[&form, &hull_of(&form), &box_of(&form)]);
            assert!(
                own == 0.0 && hull > 0.0 && hull <= bounds * 1.05 + 0.05,
                "{}: hull {hull}, box {bounds}",
                s.id.0
            );
        }
    }
}
