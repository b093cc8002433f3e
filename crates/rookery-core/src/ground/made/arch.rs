//! A sea arch: a fin of layered rock with a hole worn through it, a needle beside it, and the ledge both stand on.

use super::nets::surface;
use crate::document::ArchGround;
use crate::ground::MeshSurface;
use crate::math::noise::Noise;
use glam::{Vec2, Vec3};

/// Its foot lies level at height zero, its middle over the origin, its length from west to east.
pub fn arch(settings: &ArchGround) -> MeshSurface {
    let rock = Rock::new(settings);
    let margin = settings.detail_m * 2.5;
    let half = Vec3::new(settings.length_m * 0.56, 0.0, settings.thickness_m * 0.95) + margin;
    let low = Vec3::new(-half.x, -margin, -half.z);
    let high = Vec3::new(half.x, settings.height_m * 1.12 + margin, half.z);
    surface(low, high, settings.detail_m, |p| rock.depth(p))
}

struct Rock {
    length: f32,
    height: f32,
    half: f32,
    opening: f32,
    rough: f32,
    broad: Noise,
    ledges: Noise,
    fine: Noise,
}

impl Rock {
    fn new(s: &ArchGround) -> Self {
        let size = s.height_m.min(s.length_m);
        Self {
            length: s.length_m,
            height: s.height_m,
            half: s.thickness_m * 0.5,
            opening: s.opening,
            rough: s.ruggedness,
            broad: Noise::new(s.seed, size * 0.5, 3, 0.5),
            ledges: Noise::new(s.seed ^ 0x1ED6, size * 0.16, 3, 0.5),
            fine: Noise::new(s.seed ^ 0x6EA1, size * 0.055, 3, 0.55),
        }
    }

    /// About the distance to the rock, metres; below zero inside it.
    fn depth(&self, p: Vec3) -> f32 {
        let broad = self.broad.at_3d(p.x, p.y * 0.8, p.z);
        // Beds dip a little to the east; hard ones stand out, soft ones are worn back.
        let bed = p.y + 0.12 * p.x;
        let ledges = self.ledges.at_3d(p.x * 0.25, bed * 1.7, p.z * 0.25);
        let fine = self.fine.at_3d(p.x, bed * 1.5, p.z);
        let worn = self.rough * self.half * (0.34 * broad + 0.15 * ledges + 0.06 * fine);
        let solid = soft_min(self.fin(p, broad), self.needle(p), self.half * 0.25);
        let solid = soft_min(solid, self.ledge(p), self.half * 0.4);
        soft_max(solid + worn, -p.y, self.half * 0.02)
    }

    fn fin(&self, p: Vec3, broad: f32) -> f32 {
        let middle = -0.11 * self.length;
        let along = (p.x - middle) / (0.39 * self.length);
        // Its back is bowed and its walls lean in towards it.
        let back = self.height * (0.97 - 0.2 * along * along) + self.rough * self.height * 0.09 * broad;
        let lean = 1.0 - 0.34 * (p.y / self.height).clamp(0.0, 1.0);
        let wide = self.half * lean * (1.0 - 0.28 * along.abs().min(1.0).powi(3));
        let ends = p.x - middle;
        let reach = 0.39 * self.length - 0.06 * self.length * (p.y / self.height).clamp(0.0, 1.0);
        let q = Vec3::new(ends.abs() - reach, p.y - back, p.z.abs() - wide) + self.half * 0.45;
        let block = q.max(Vec3::ZERO).length() + q.max_element().min(0.0) - self.half * 0.45;
        if self.opening <= 0.0 {
            return block;
        }
        // The hole leans with the beds.
        let axes = Vec2::new(0.5 * self.opening * self.length, 0.7 * self.height);
        let hole = Vec2::new((p.x - middle - 0.05 * self.length + 0.1 * p.y) / axes.x, p.y / axes.y);
        let hole = (hole.length() - 1.0) * axes.min_element();
        soft_max(block, -(hole + self.rough * 0.05 * self.height * broad), self.half * 0.3)
    }

    fn needle(&self, p: Vec3) -> f32 {
        let top = 0.74 * self.height;
        let up = (p.y / top).clamp(0.0, 1.0);
        let axis = Vec2::new(0.43 * self.length - 0.02 * self.length * up, 0.06 * self.half);
        let around = Vec2::new(p.x, p.z).distance(axis) - self.half * (0.52 - 0.33 * up);
        around.max(p.y - top)
    }

    fn ledge(&self, p: Vec3) -> f32 {
        let axes = Vec3::new(0.53 * self.length, 0.13 * self.height, 1.5 * self.half);
        ((p / axes).length() - 1.0) * axes.min_element()
    }
}

/// The smaller, rounded where both are within `width` of each other.
fn soft_min(a: f32, b: f32, width: f32) -> f32 {
    let blend = (width - (a - b).abs()).max(0.0) / width;
    a.min(b) - blend * blend * width * 0.25
}

fn soft_max(a: f32, b: f32, width: f32) -> f32 {
    -soft_min(-a, -b, width)
}

#[cfg(test)]
mod tests {
    use super::super::nets::tests::{is_closed, volume};
    use super::*;

    #[test]
    fn an_arch_is_closed_keeps_its_size_and_overhangs() {
        let settings = ArchGround { detail_m: 0.9, ..ArchGround::default() };
        let mesh = arch(&settings);
        assert!(is_closed(&mesh) && volume(&mesh) > 1000.0);
        let (low, high) =
            mesh.positions.iter().fold((Vec3::MAX, Vec3::MIN), |(l, h), p| (l.min(*p), h.max(*p)));
        assert!((high.y - low.y - settings.height_m).abs() < settings.height_m * 0.12, "{low} {high}");
        assert!((high.x - low.x - settings.length_m).abs() < settings.length_m * 0.15, "{low} {high}");
        let at = |i: u32| mesh.positions[i as usize];
        let under = mesh.indices.chunks_exact(3).filter(|t| {
            let [a, b, c] = [at(t[0]), at(t[1]), at(t[2])];
            (b - a).cross(c - a).normalize_or_zero().y < -0.5 && a.y > settings.height_m * 0.4
        });
        assert!(under.count() > 30, "the hole has a roof");
    }

    #[test]
    fn without_an_opening_it_is_one_fin() {
        let whole = volume(&arch(&ArchGround { opening: 0.0, detail_m: 1.2, ..ArchGround::default() }));
        let holed = volume(&arch(&ArchGround { detail_m: 1.2, ..ArchGround::default() }));
        assert!(holed < whole * 0.85, "{holed} of {whole}");
    }
}
