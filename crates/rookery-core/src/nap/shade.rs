//! How much light the nap leaves the ground and itself: each layer of leaf lets the same share of a beam through.
//!
//! Source: Monsi & Saeki, "Über den Lichtfaktor in den Pflanzengesellschaften", 1953: what passes falls off exponentially with the area of leaf above. Leaves that let a share of
//! light through or throw it back shade less, by the root of what they keep: Goudriaan, "Crop Micrometeorology", 1977; both from memory. How much of its leaf the sward turns to
//! a beam is measured by rays (`rookery-render/tests/render/the_nap_shades.rs`): that of upright leaf, which is the same from all heights, and that of level leaf; less than
//! half in sum, as leaf stands in tufts.

use super::places::ALONG;
use super::{FORMS, Nap, REACH_M, TILE_M, WHOLE_M, form};
use crate::nursery::{Detail, Mesh};

/// Shares of its area that it turns to a beam: upright, and level times the sine of the beam's height over the horizon.
const TURNED: [f32; 2] = [0.274, 0.219];
/// The same for a grey sky, whose beams come from everywhere: of the mean of `passes` about an area of one.
const TURNED_TO_SKY: f32 = 0.69;
/// Of the light that falls on a blade such a share of its reflectance comes out again, on either side: one that is thrown back, and what passes.
const COMES_OUT: f32 = 1.6;
/// Nearer the horizon the sun is taken to stand at this height, as sine.
const LOWEST: f32 = 0.1;
/// Heights by which the area above a point falls to none, metres, and how: by this power.
const TOP_M: f32 = 0.042;
const FALLS: f32 = 1.7;

/// Area of one side of all its leaf, where it is whole, to the area of the ground.
pub fn leaf_area(nap: Nap) -> f32 {
    let mean = (0..FORMS).map(|n| leaf(&form(nap, n, Detail::Full))).sum::<f32>() / f32::from(FORMS);
    let per_m2 = (ALONG as f32 / TILE_M).powi(2) * nap.share();
    // The mean of the squares of sizes from 0.75 to 1.25.
    mean * per_m2 * (1.0 + 0.25 / 12.0)
}

/// Of a form, m2: of what is thin both sides are one leaf; of stones, which lie half in the ground, a quarter of their skin is.
fn leaf(mesh: &Mesh) -> f32 {
    let area = |corners: &[u32]| {
        let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[corners[i] as usize]);
        let thin = mesh.through.get(corners[0] as usize).is_some_and(|t| *t > 0.0);
        (b - a).cross(c - a).length() * if thin { 0.5 } else { 0.125 }
    };
    mesh.indices.chunks_exact(3).map(area).sum()
}

/// Of the leaf area the share that stands higher than so many metres over the ground.
pub fn above(height_m: f32) -> f32 {
    libm::powf((1.0 - height_m / TOP_M).clamp(0.0, 1.0), FALLS)
}

/// Share of a beam that passes so much leaf area, the sine of its height over the horizon being `rise`; the leaf keeps all it gets.
pub fn passes(leaf_area: f32, rise: f32) -> f32 {
    libm::expf(-leaf_area * (TURNED[0] / rise.max(LOWEST) + TURNED[1]))
}

/// The same for the view, in GLSL ES 3.00 and with the same numbers: `web/src/view/stage/nap/glsl.ts` is written from here.
pub fn glsl() -> String {
    let number = |v: f32| format!("{v:?}");
    let area = |nap| number((leaf_area(nap) * 1e3).round() / 1e3);
    let names = [
        ("@AREAS", Nap::ALL.map(area).join(", ")),
        ("@REACH", number(REACH_M)),
        ("@FADES", number(REACH_M - WHOLE_M)),
        ("@TURNED_TO_SKY", number(TURNED_TO_SKY)),
        ("@UPRIGHT", number(TURNED[0])),
        ("@LEVEL", number(TURNED[1])),
        ("@COMES_OUT", number(COMES_OUT)),
        ("@LOWEST", number(LOWEST)),
        ("@TOP", number(TOP_M)),
        ("@FALLS", number(FALLS)),
    ];
    names.iter().fold(GLSL.to_owned(), |text, (name, value)| text.replace(name, value))
}

const GLSL: &str = r"// How near it is drawn, against where all of it is; 0 where none is.
uniform float uNapReach;
// 0 for the earths that bring none.
uniform float uNapOf[5];
const float NAP_AREAS[5] = float[5](@AREAS);

// Leaf area over the ground where all of it is, so far from the eye.
float napLeft(float away) {
  float t = uNapReach > 0.0 ? clamp((@REACH - away / uNapReach) / @FADES, 0.0, 1.0) : 0.0;
  return t * t;
}

// Of ground of several earths: so much peat, sand, shingle and rock, the rest turf.
float napOver(vec4 earths, float away) {
  float turf = max(1.0 - dot(earths, vec4(1.0)), 0.0);
  float all = turf * uNapOf[0] * NAP_AREAS[0] + earths.x * uNapOf[1] * NAP_AREAS[1] + earths.y * uNapOf[2] * NAP_AREAS[2]
    + earths.z * uNapOf[3] * NAP_AREAS[3] + earths.w * uNapOf[4] * NAP_AREAS[4];
  return all * napLeft(away);
}

// Of its leaf the share that stands higher.
float napAbove(float height) {
  return pow(clamp(1.0 - height / @TOP, 0.0, 1.0), @FALLS);
}

// What passes so much leaf of a colour: of the sun, and of the sky.
vec3 sunThrough(float area, vec3 albedo) {
  return exp(-area * (@UPRIGHT / max(uSun.y, @LOWEST) + @LEVEL) * sqrt(max(1.0 - @COMES_OUT * albedo, vec3(0.1))));
}
vec3 skyThrough(float area, vec3 albedo) {
  return exp(-@TURNED_TO_SKY * area * sqrt(max(1.0 - @COMES_OUT * albedo, vec3(0.1))));
}
";

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn turf_has_more_leaf_than_sand_and_what_passes_falls_off() {
        let [sward, litter, strand, pebbles, crumbs] = Nap::ALL.map(leaf_area);
        assert!((0.5..2.0).contains(&sward), "{sward}");
        assert!(litter < sward && strand < 0.1 * sward && crumbs < 0.2 * sward && pebbles < sward);
        // Two layers let through what one lets through of what one lets through.
        assert!((passes(2.0, 0.5) - passes(1.0, 0.5).powi(2)).abs() < 1e-6);
        assert!(passes(1.0, 1.0) > passes(1.0, 0.5) && passes(0.0, 0.2) == 1.0);
        // Of a grey sky beams count by the sine of their height, and there are as many of each: 2 s ds.
        let sky = (0..200)
            .map(|i| (i as f32 + 0.5) / 200.0)
            .map(|s| 2.0 * s * passes(sward, s) / 200.0)
            .sum::<f32>();
        let said = libm::expf(-TURNED_TO_SKY * sward);
        assert!((sky - said).abs() < 0.02, "{sky}, not {said}");
    }

    /// How much leaf stands higher is what the forms have.
    #[test]
    fn leaf_stands_as_high_as_that_of_the_forms() {
        let (mut higher, mut all) = ([0.0; 4], 0.0);
        let heights = [0.01, 0.02, 0.035, 0.05];
        for n in 0..FORMS {
            let mesh = form(Nap::Sward, n, Detail::Full);
            for corners in mesh.indices.chunks_exact(3) {
                let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[corners[i] as usize]);
                let area = (b - a).cross(c - a).length();
                all += area;
                // Cut finely enough.
                let points = (0..8).flat_map(|i| (0..8 - i).map(move |j| [i, j]));
                let points: Vec<f32> = points
                    .map(|[i, j]| {
                        a.y + (b.y - a.y) * (i as f32 + 0.33) / 8.0 + (c.y - a.y) * (j as f32 + 0.33) / 8.0
                    })
                    .collect();
                for (sum, h) in higher.iter_mut().zip(heights) {
                    *sum += area * points.iter().filter(|y| **y > h).count() as f32 / points.len() as f32;
                }
            }
        }
        for (sum, h) in higher.iter().zip(heights) {
            let (found, said) = (sum / all, above(h));
            assert!((found - said).abs() < 0.06, "over {h} m: {found}, not {said}");
        }
    }
}
