//! `RKPL`: the plants of one layer.

use super::head;
use rookery_core::planting::{Growth, Plant, Tally};
use rookery_core::scene::{Drives, GroundId, Layer, Mask, Stance};
use serde::Serialize;

/// Which of the arrays that are not always there are there.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
struct Shape {
    /// Whether several species grow.
    mixed: bool,
    /// Whether any is stretched.
    stretched: bool,
    /// Whether any colour is laid over them.
    coloured: bool,
}

impl Shape {
    /// As the settings of a layer and its plants in hand want it: looking at every plant takes longer than a dab may.
    fn new(layer: &Layer) -> Self {
        let Stance { tall, deep, .. } = layer.stance;
        let in_hand = || layer.tended.iter().filter_map(|t| t.plant.as_ref());
        let tints = |m: &Mask| m.enabled && matches!(m.drives, Drives::Tint { .. });
        Self {
            mixed: layer.mix.len() > 1,
            stretched: [tall, deep].iter().any(|r| (r.min, r.max) != (1.0, 1.0))
                || in_hand().any(|p| p.stretch != [1.0; 2]),
            coloured: !layer.tint.is_none()
                || layer.masks.iter().any(tints)
                || in_hand().any(|p| p.colour != [128; 3]),
        }
    }
}

#[derive(Serialize)]
struct Head<'a> {
    count: usize,
    #[serde(flatten)]
    shape: Shape,
    tally: &'a Tally,
    /// The grounds that carry them, each with how many plants follow one another on it.
    carried: Vec<(GroundId, usize)>,
}

/// Plants that follow one another on one ground. They lie ground by ground, so that a few of them are looked at; only what grows on other
/// plants is anyhow.
fn carried(layer: &Layer, plants: &[Plant]) -> Vec<(GroundId, usize)> {
    if layer.on_plants.is_some() {
        return plants.chunk_by(|a, b| a.carrier == b.carrier).map(|c| (c[0].carrier, c.len())).collect();
    }
    let mut runs = Vec::new();
    let mut rest = plants;
    while let Some(first) = rest.first() {
        let long = rest.partition_point(|p| p.carrier == first.carrier);
        runs.push((first.carrier, long));
        rest = &rest[long..];
    }
    runs
}

#[derive(Serialize)]
struct Changes<'a> {
    #[serde(flatten)]
    own: Head<'a>,
    /// Names the plants of before.
    since: &'a str,
    runs: usize,
    added: usize,
}

/// Head: `{count, tally, carried}`, the last the grounds that carry them, each with how many plants follow one another on it. Arrays, `count` long each:
///
/// | array | type | meaning |
/// |---|---|---|
/// | position | 3 x f32 | base point, metres |
/// | size | f32 | against full size |
/// | rotation | 4 x i16 | unit quaternion x, y, z, w times 32767 |
/// | form | u16 | which individual |
/// | tint | u16 | 0 to 65535 |
/// | species | u8 | place in the layer's mix; only where `mixed` |
/// | stretch | 2 x u8 | height and depth against size: 2 to the power of (value - 128) / 64; only where `stretched` |
/// | colour | 3 x u8 | what colours are multiplied with, in 128ths; only where `coloured` |
pub fn encode_plants(layer: &Layer, growth: &Growth) -> Vec<u8> {
    let plants = &growth.plants;
    let shape = Shape::new(layer);
    let carried = carried(layer, plants);
    let own = Head { count: plants.len(), shape, tally: &growth.tally, carried };
    let mut out = head(b"RKPL", &own, plants.len() * 34);
    columns(&mut out, plants.iter(), shape);
    out
}

/// What changed since the earlier growth of the same layer that this was made from (`RKPD`), where it is much less than all; none otherwise, and where the growth was not
/// made from an earlier one, which `since` names. Head: that of all plants, with `since`, `runs` and `added`. Arrays:
///
/// | array | type | meaning |
/// |---|---|---|
/// | runs | 3 x u32, `runs` long | plants of before that stay: the first and how many; then how many new ones follow |
/// | the rest | | the new plants, as above, `added` long; what those of before lack is 1 (stretch and colour 128) for them |
pub fn encode_changes(layer: &Layer, growth: &Growth, since: &str) -> Option<Vec<u8>> {
    let spans = growth.spans()?;
    let plants = &growth.plants;
    let added: usize = spans.iter().map(|s| s.grown).sum();
    if added * 3 > plants.len() || spans.len() > plants.len() / 16 {
        return None;
    }
    let mut at = 0;
    let fresh = spans.iter().flat_map(|span| {
        let first = at + span.kept.len();
        at = first + span.grown;
        &plants[first..at]
    });
    let fresh: Vec<Plant> = fresh.copied().collect();
    let shape = Shape::new(layer);
    let runs: Vec<u32> =
        spans.iter().flat_map(|s| [s.kept.start, s.kept.len(), s.grown].map(|n| n as u32)).collect();
    let own = Head { count: plants.len(), shape, tally: &growth.tally, carried: carried(layer, plants) };
    let mut out =
        head(b"RKPD", &Changes { own, since, runs: spans.len(), added }, added * 34 + runs.len() * 4);
    out.extend_from_slice(bytemuck::cast_slice(&runs));
    columns(&mut out, fresh.iter(), shape);
    Some(out)
}

fn columns<'a>(out: &mut Vec<u8>, plants: impl Iterator<Item = &'a Plant> + Clone, shape: Shape) {
    for p in plants.clone() {
        out.extend_from_slice(bytemuck::bytes_of(&p.position_m.to_array()));
    }
    out.extend(plants.clone().flat_map(|p| p.size.to_le_bytes()));
    for p in plants.clone() {
        let q = p.rotation.to_array().map(|c| (c.clamp(-1.0, 1.0) * 32_767.0).round() as i16);
        out.extend_from_slice(bytemuck::bytes_of(&q));
    }
    out.extend(plants.clone().flat_map(|p| p.form.to_le_bytes()));
    super::pad(out);
    out.extend(plants.clone().flat_map(|p| p.tint.to_le_bytes()));
    super::pad(out);
    if shape.mixed {
        out.extend(plants.clone().map(|p| p.species));
        super::pad(out);
    }
    if shape.stretched {
        let byte = |s: f32| (128.0 + 64.0 * s.log2()).round().clamp(0.0, 255.0) as u8;
        out.extend(plants.clone().flat_map(|p| p.stretch.map(byte)));
        super::pad(out);
    }
    if shape.coloured {
        out.extend(plants.flat_map(|p| p.colour));
        super::pad(out);
    }
}
