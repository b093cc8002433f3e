//! The land beyond its edges: what a picture shows from there to the horizon. Nothing grows on it, and nothing is read off it.

use super::{GroundModel, Terrain, noise_terrain};
use crate::document::GroundSource;
use crate::math::noise::Noise;
use crate::nursery::{Dress, Mesh};
use glam::{Vec2, Vec3, vec2};

/// It reaches so many times as far as the land itself, and no less than so many metres.
const REACH: f32 = 6.0;
const REACH_M: f32 = 4000.0;
/// Corners along an edge of the land.
const ALONG: usize = 128;
/// Each ring is so many times as wide as the one within.
const WIDER: f32 = 1.28;
/// Over this share of the size of the land its edge, which may be sculpted, gives way to what lies beyond.
const GIVES_WAY: f32 = 0.35;

/// Builds it, in metres of the scene: it begins where the land's own edge is. Land from noise goes on by its own noise, other land by hills as high as it has itself.
pub fn beyond(model: &GroundModel, source: &GroundSource) -> Mesh {
    let terrain = &model.terrain;
    let edge = edge(terrain);
    let size = terrain.size_m();
    let reach = (size.max_element() * REACH).max(REACH_M);
    let hills = hills(model, source);
    // The first ring lies a little under the land itself, so that no gap is seen between its edge and the coarser one out there.
    let under = -2.0 * terrain.cell_m().max_element();
    let mut distances = vec![under, 0.0];
    let mut step = size.max_element() / ALONG as f32;
    while distances[distances.len() - 1] < reach {
        distances.push(distances[distances.len() - 1] + step);
        step *= WIDER;
    }
    let half = size * 0.5;
    let mut mesh = Mesh::default();
    for away in &distances {
        for &[column, row] in &edge {
            let at = terrain.vertex(column, row);
            let from = vec2(at.x, at.z);
            let p = from * (Vec2::ONE + *away / half);
            if *away < 0.0 {
                mesh.positions.push(Vec3::new(p.x, terrain.height_at(p.x, p.y) + away, p.y));
                continue;
            }
            let own = smooth(1.0 - away / (size.max_element() * GIVES_WAY));
            mesh.positions.push(Vec3::new(p.x, hills(p) + (at.y - hills(from)) * own, p.y));
        }
    }
    let (around, rings) = (edge.len(), distances.len());
    for ring in 0..rings - 1 {
        for n in 0..around {
            let [a, b] = [ring * around + n, ring * around + (n + 1) % around].map(|v| v as u32);
            let [c, d] = [a + around as u32, b + around as u32];
            mesh.indices.extend([a, b, c, b, d, c]);
        }
    }
    mesh.normals = normals(&mesh);
    for (n, normal) in mesh.normals[..2 * around].iter_mut().enumerate() {
        let [column, row] = edge[n % around];
        *normal = terrain.smooth_normal(column, row);
    }
    let slope = |n: &Vec3| libm::acosf(n.y.clamp(-1.0, 1.0)).to_degrees();
    mesh.colours = mesh
        .positions
        .iter()
        .zip(&mesh.normals)
        .map(|(p, n)| model.colour_beyond(*p, slope(n)).into())
        .collect();
    let earths = mesh.positions.iter().zip(&mesh.normals).map(|(p, n)| model.earths_beyond(*p, slope(n)));
    *mesh.dress = Dress::Ground(earths.collect());
    mesh
}

/// Samples along the edge, clockwise seen from above, beginning in the north-west.
fn edge(terrain: &Terrain) -> Vec<[usize; 2]> {
    let (east, south) = (terrain.nx() - 1, terrain.nz() - 1);
    let along = |to: usize| {
        let steps = to.min(ALONG);
        (0..steps).map(move |i| i * to / steps)
    };
    let north = along(east).map(|c| [c, 0]);
    let right = along(south).map(|r| [east, r]);
    let below = along(east).map(|c| [east - c, south]);
    let left = along(south).map(|r| [0, south - r]);
    north.chain(right).chain(below).chain(left).collect()
}

/// How high it lies anywhere out there, far from the land's edge.
pub fn hills(model: &GroundModel, source: &GroundSource) -> Box<dyn Fn(Vec2) -> f32 + Send + Sync> {
    if let GroundSource::Noise(settings) = source {
        return Box::new(noise_terrain::height_anywhere(settings));
    }
    let terrain = &model.terrain;
    let rim: Vec<f32> = edge(terrain).iter().map(|[c, r]| terrain.sample(*c, *r)).collect();
    let mean = rim.iter().sum::<f32>() / rim.len() as f32;
    let (low, high) = rim.iter().fold((f32::MAX, f32::MIN), |(l, h), v| (l.min(*v), h.max(*v)));
    let noise = Noise::new(0xBE70, terrain.size_m().max_element() * 0.6, 5, 0.45);
    Box::new(move |p| mean + 0.5 * (high - low) * noise.at(p.x, p.y))
}

fn normals(mesh: &Mesh) -> Vec<Vec3> {
    let mut sum = vec![Vec3::ZERO; mesh.positions.len()];
    for corners in mesh.indices.chunks_exact(3) {
        let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[corners[i] as usize]);
        let face = (b - a).cross(c - a);
        for &v in corners {
            sum[v as usize] += face;
        }
    }
    sum.into_iter().map(|n| n.normalize_or(Vec3::Y)).collect()
}

fn smooth(t: f32) -> f32 {
    let t = t.clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{HeightmapFormat, HeightmapGround, NoiseGround, SculptTool, Stroke, StrokeId};
    use crate::names::BlobId;

    fn noise() -> NoiseGround {
        NoiseGround { coast: 0.0, samples: 129, size_m: 200.0, relief_m: 24.0, ..NoiseGround::default() }
    }

    fn model(settings: &NoiseGround) -> GroundModel {
        GroundModel::new(noise_terrain::build(settings).expect("a terrain"), None, 3)
    }

    /// Corners at the land's edge.
    fn rim(mesh: &Mesh) -> &[Vec3] {
        let around = 4 * ALONG;
        &mesh.positions[around..2 * around]
    }

    #[test]
    fn it_begins_where_the_land_ends_and_reaches_the_horizon() {
        let settings = noise();
        let model = model(&settings);
        let mesh = beyond(&model, &GroundSource::Noise(settings));
        for p in rim(&mesh) {
            assert!((p.y - model.terrain.height_at(p.x, p.z)).abs() < 1e-3, "{p}");
            assert!((p.x.abs().max(p.z.abs()) - 100.0).abs() < 1e-3);
        }
        let far = mesh.positions.iter().map(|p| p.x.abs().max(p.z.abs())).fold(0.0, f32::max);
        assert!(far >= 4000.0, "{far}");
        // What lies within its edge is hidden under the land.
        for p in &mesh.positions[..4 * ALONG] {
            assert!(p.y < model.terrain.height_at(p.x, p.z) - 1.0);
        }
        for corners in mesh.indices.chunks_exact(3) {
            let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[corners[i] as usize]);
            assert!((b - a).cross(c - a).y >= 0.0, "a face that looks down at {a}");
        }
        assert_eq!(mesh.colours.len(), mesh.positions.len());
        assert!(mesh.triangles() < 40_000, "{}", mesh.triangles());
    }

    #[test]
    fn land_from_noise_goes_on_by_its_own_noise() {
        let settings = noise();
        let mesh = beyond(&model(&settings), &GroundSource::Noise(settings.clone()));
        let height = noise_terrain::height_anywhere(&settings);
        for p in &mesh.positions[4 * ALONG..] {
            assert!((p.y - height(vec2(p.x, p.z))).abs() < 2e-3, "{p}");
        }
    }

    #[test]
    fn a_sculpted_edge_gives_way_to_what_lies_beyond() {
        let settings = noise();
        let stroke = Stroke {
            id: StrokeId(1),
            tool: SculptTool::Raise,
            radius_m: 30.0,
            strength: 12.0,
            falloff: 0.5,
            points: vec![[100.0, 0.0]],
        };
        let (plain, raised) = (model(&settings), model(&settings).sculpted(&stroke));
        let source = GroundSource::Noise(settings);
        let (before, after) = (beyond(&plain, &source), beyond(&raised, &source));
        let most = |from: f32, to: f32| {
            let pairs = before.positions.iter().zip(&after.positions);
            let away = pairs.filter(|(p, _)| p.x >= from && p.x < to && p.z.abs() < p.x * 0.02);
            away.map(|(b, a)| a.y - b.y).fold(0.0, f32::max)
        };
        assert!(most(99.9, 100.1) > 11.0, "{}", most(99.9, 100.1));
        assert!(most(115.0, 150.0) < most(99.9, 100.1) && most(101.0, 115.0) > 3.0);
        assert!(most(171.0, 9000.0) < 1e-3, "{}", most(171.0, 9000.0));
    }

    #[test]
    fn land_from_a_file_goes_on_in_hills_no_higher_than_its_rim() {
        let settings = noise();
        let model = model(&settings);
        let heights = model.terrain.heights_zx();
        let (low, high) = heights.iter().fold((f32::MAX, f32::MIN), |(l, h), v| (l.min(*v), h.max(*v)));
        let file = HeightmapGround {
            blob: BlobId("heights".into()),
            format: HeightmapFormat::Png,
            name: "heights.png".into(),
            width_m: 200.0,
            depth_m: 200.0,
            low_m: low,
            high_m: high,
            middle_m: None,
            samples: None,
        };
        let mesh = beyond(&model, &GroundSource::Heightmap(file));
        for p in &mesh.positions[4 * ALONG..] {
            assert!(p.y > low - (high - low) && p.y < high + (high - low), "{p}");
        }
    }
}
