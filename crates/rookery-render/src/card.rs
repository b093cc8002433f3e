//! Cards: two crossed pictures of a form, traced from the side, with colour, cover and normals.

use crate::accel::{MeshBvh, Ray, weights_at};
use glam::{Quat, Vec3, Vec3A, vec2, vec3a};
use rayon::prelude::*;
use rookery_core::nursery::{Mesh, Seen, open_to_sky};
use rookery_core::proxy::Card;
use std::f32::consts::FRAC_PI_2;

/// Rays along each side of a pixel.
const RAYS: u32 = 3;
/// Rows of pixels by which a card is held against its form.
const ROWS: usize = 112;
/// Pixels beside the covered ones that get their colour.
const FILLED: usize = 2;

/// Traces the card of a form.
pub fn card(mesh: &Mesh, height_px: u32) -> Card {
    let (low, high) = mesh.bounds();
    let half_m = mesh.positions.iter().map(|p| p.x.abs().max(p.z.abs())).fold(1e-4, f32::max);
    let tall = (high.y - low.y).max(1e-4);
    let width_px = ((height_px as f32 * 2.0 * half_m / tall).round() as u32).clamp(4, height_px * 4);
    let bvh = MeshBvh::new(mesh);
    let open = open_to_sky(mesh);
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
                pixel(mesh, &open, &bvh, ray)
            })
            .collect::<Vec<_>>()
    });
    let colours = [0, 1].map(|k| filled(whole(seen[k].iter().map(|p| p.0).collect()), width_px as usize));
    let normals = [0, 1].map(|k| seen[k].iter().map(|p| p.1).collect());
    let card =
        Card { width_px, height_px, half_m, low_m: low.y, high_m: high.y, covered_m2: 0.0, colours, normals };
    alike(mesh, card)
}

/// Makes every pixel covered or not, as many as are covered in sum: those that are covered most. By halves alone thin blades would be lost,
/// as none of them fills a pixel.
///
/// Source: after Castano, "Computing Alpha Mipmaps", 2010, from memory; there by a factor, here by rank.
fn whole(mut pixels: Vec<[u8; 4]>) -> Vec<[u8; 4]> {
    let sum: f64 = pixels.iter().map(|p| f64::from(p[3]) / 255.0).sum();
    let mut order: Vec<u32> = (0..pixels.len() as u32).filter(|i| pixels[*i as usize][3] > 0).collect();
    // Of those covered alike, ones that lie apart.
    order.sort_unstable_by_key(|i| (255 - pixels[*i as usize][3], i.wrapping_mul(0x9E37_79B9)));
    for (rank, i) in order.into_iter().enumerate() {
        pixels[i as usize][3] = if (rank as f64) < sum.round() { 255 } else { 0 };
    }
    pixels
}

/// Lends pixels that nothing covers the colour of their neighbours, so that none darkens the edge beside it.
fn filled(mut pixels: Vec<[u8; 4]>, width: usize) -> Vec<[u8; 4]> {
    let height = pixels.len() / width;
    let mut known: Vec<bool> = pixels.iter().map(|p| p[..3] != [0; 3] || p[3] > 0).collect();
    for _ in 0..FILLED {
        let before = (pixels.clone(), known.clone());
        for i in 0..pixels.len() {
            if before.1[i] {
                continue;
            }
            let (x, y) = (i % width, i / width);
            let about = (y.saturating_sub(1)..(y + 2).min(height))
                .flat_map(|y| (x.saturating_sub(1)..(x + 2).min(width)).map(move |x| y * width + x));
            let (mut sum, mut count) = ([0_u32; 3], 0);
            for near in about.filter(|near| before.1[*near]) {
                (0..3).for_each(|c| sum[c] += u32::from(before.0[near][c]));
                count += 1;
            }
            if count > 0 {
                (0..3).for_each(|c| pixels[i][c] = (sum[c] / count) as u8);
                known[i] = true;
            }
        }
    }
    pixels
}

/// Makes a card broader or narrower until it covers as much as its form all around, and of the same mean colour: two sheets hide one
/// another otherwise than leaves do.
fn alike(mesh: &Mesh, mut card: Card) -> Card {
    let full = Seen::look(mesh, ROWS);
    card.covered_m2 = full.area_m2;
    if full.area_m2 <= 0.0 {
        return card;
    }
    let half_m = card.half_m;
    for _ in 0..4 {
        let share = Seen::look(&card.mesh(), ROWS).area_m2 / full.area_m2;
        if (share - 1.0).abs() < 0.01 || share <= 0.0 {
            break;
        }
        card.half_m = (card.half_m / share).clamp(half_m * 0.5, half_m * 2.0);
    }
    let gain = full.colour / Seen::look(&card.mesh(), ROWS).colour.max(Vec3::splat(1e-4));
    let gain = gain.clamp(Vec3::splat(0.5), Vec3::splat(2.0)).to_array().map(f32::sqrt);
    for pixel in card.colours.iter_mut().flatten() {
        (0..3).for_each(|c| pixel[c] = (f32::from(pixel[c]) * gain[c]).round().min(255.0) as u8);
    }
    card
}

type Pixel = ([u8; 4], [u8; 4]);

/// One pixel of a picture; `ray` gives the ray through a point of it.
fn pixel(mesh: &Mesh, open: &[f32], bvh: &MeshBvh, ray: impl Fn(f32, f32) -> Ray) -> Pixel {
    let (mut colour, mut normal, mut free, mut hits) = (Vec3::ZERO, Vec3::ZERO, 0.0, 0_u32);
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
        free += corners.iter().map(|i| open[*i]).sum::<f32>() / 3.0;
        hits += 1;
    }
    if hits == 0 {
        return ([0; 4], [128, 255, 128, 255]);
    }
    let byte = |c: f32| (c.clamp(0.0, 1.0) * 255.0).round() as u8;
    let c = colour / hits as f32;
    let n = normal.normalize_or(Vec3::Y);
    let cover = hits as f32 / (RAYS * RAYS) as f32;
    (
        [byte(c.x.sqrt()), byte(c.y.sqrt()), byte(c.z.sqrt()), byte(cover)],
        [byte(n.x * 0.5 + 0.5), byte(n.y * 0.5 + 0.5), byte(n.z * 0.5 + 0.5), byte(free / hits as f32)],
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
        assert_eq!((c.width_px, c.low_m, c.high_m), (64, 0.0, 1.0));
        assert!((c.half_m - 1.0).abs() < 0.04, "{}", c.half_m);
        assert!(c.colours[0].iter().all(|p| *p == [128, 51, 204, 255]));
        assert!(c.normals[0].iter().all(|n| *n == [128, 128, 255, 255]));
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
