//! `RKWV`: waves on the water, and where land shelters them.

use super::head;
use rookery_core::water::{Component, Sea};
use serde::Serialize;

#[derive(Serialize)]
struct Head<'a> {
    components: &'a [Component],
    rough: f32,
    height_m: f32,
    speed_m_per_s: f32,
    peak: f32,
    level_m: Option<f32>,
    first: [f32; 2],
    size_m: [f32; 2],
    samples: [usize; 2],
}

/// Head: `{components, rough, height_m, speed_m_per_s, peak, level_m, first, size_m, samples}`, see `rookery-core/src/water`. Arrays, one value for each of the samples,
/// from west to east and then to the south; none where no land lies in the water:
///
/// | array | type | meaning |
/// |---|---|---|
/// | height | f32 | of the land, metres |
/// | ratio | f32 | how many times as quick as over open water the peak of the waves is there |
pub fn encode_waves(sea: &Sea) -> Vec<u8> {
    let shores = sea.shores.as_deref();
    let waves = &sea.waves;
    let samples = shores.map_or([0; 2], |s| s.samples);
    let facts = Head {
        components: &waves.components,
        rough: waves.rough,
        height_m: waves.height_m,
        speed_m_per_s: waves.speed_m_per_s,
        peak: waves.peak,
        level_m: sea.level_m,
        first: shores.map_or([0.0; 2], |s| s.first),
        size_m: shores.map_or([0.0; 2], |s| s.size_m),
        samples,
    };
    let mut out = head(b"RKWV", &facts, samples[0] * samples[1] * 8);
    if let Some(shores) = shores {
        out.extend_from_slice(bytemuck::cast_slice(&shores.heights_m));
        out.extend_from_slice(bytemuck::cast_slice(&shores.ratios));
    }
    out
}
