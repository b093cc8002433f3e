//! How much of the sky a plant leaves its own leaf, by cells in core, against rays through its triangles.

use glam::Vec2;
use rookery_core::math::hash::{pcg4d, unit};
use rookery_core::nursery::{Detail, Season, open_to_sky, ready};
use rookery_render::accel::{MeshBvh, Ray};
use rookery_render::sampling::square_to_cosine_hemisphere;

#[test]
fn as_much_of_the_sky_is_left_as_rays_find() {
    let mut off: Vec<(f32, String)> = Vec::new();
    for species in ready().iter().filter(|s| s.leafy()) {
        let mesh = species.build(0, Detail::Full, Season::SUMMER);
        let (open, bvh) = (open_to_sky(&mesh), MeshBvh::new(&mesh));
        let (mut said, mut found, mut looks) = (0.0, 0.0, 0.0);
        // Of leaf: a ray from the middle of a twig begins within it.
        let leaf: Vec<&[u32; 3]> =
            mesh.indices.as_chunks::<3>().0.iter().filter(|t| mesh.through[t[0] as usize] > 0.0).collect();
        for i in 0..3000_u32 {
            let [u, v, which, _] = pcg4d([i, 3, 5, 1]).map(unit);
            let [a, b, c] = leaf[(which * leaf.len() as f32) as usize].map(|k| k as usize);
            let to = square_to_cosine_hemisphere(Vec2::new(u, v));
            let middle = (mesh.positions[a] + mesh.positions[b] + mesh.positions[c]) / 3.0;
            let free = bvh.nearest(&Ray::new(glam::Vec3A::from(middle) + to * 1e-3, to)).is_none();
            let own = (open[a] + open[b] + open[c]) / 3.0;
            said += own;
            found += f32::from(u8::from(free));
            looks += 1.0;
        }
        let (said, found) = (said / looks, found / looks);
        eprintln!("{}: said {said:.3}, found {found:.3}", species.name);
        off.push(((said - found).abs(), species.name.clone()));
    }
    off.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mean = off.iter().map(|(off, _)| off).sum::<f32>() / off.len() as f32;
    assert!(mean < 0.07, "{mean}");
    assert!(off[0].0 < 0.19, "{:?}", &off[..4]);
}
