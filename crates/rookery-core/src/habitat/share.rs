//! How much of the ground a layer's masks let through.

use super::{quantity_at, response_at};
use crate::ground::{GroundModel, terrain::CellPoint};
use crate::scene::Mask;
use rayon::prelude::*;

/// What one mask alone lets through.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct MaskShare {
    /// Share of the plan area, 0 to 1, each part counted with the mask's value there.
    pub share: f32,
}

/// What a layer's masks let through, one by one and together.
#[derive(Clone, Debug, PartialEq)]
pub struct Shares {
    /// In the order of the masks.
    pub each: Vec<MaskShare>,
    /// Plan area allowed by all masks together, m2, each part counted with the product of the values there.
    pub allowed_m2: f64,
}

/// Samples looked at, about, on grounds that have more.
const ENOUGH: usize = 600_000;

/// Measures masks over the samples of the ground; on very fine grounds over every so many of them each way.
pub fn shares(ground: &GroundModel, masks: &[Mask]) -> Shares {
    let terrain = &ground.terrain;
    let nx = terrain.nx();
    let step = ((nx * terrain.nz()).div_ceil(ENOUGH) as f32).sqrt().ceil() as usize;
    let rows: Vec<(Vec<f64>, f64, f64)> = (0..terrain.nz())
        .into_par_iter()
        .step_by(step)
        .map(|row| {
            let mut each = vec![0.0_f64; masks.len()];
            let (mut all, mut whole) = (0.0_f64, 0.0_f64);
            for column in (0..nx).step_by(step) {
                let weight = f64::from(terrain.sample_weight(column, row));
                let (fx, fz) = (u8::from(column == nx - 1), u8::from(row == terrain.nz() - 1));
                let index = (row - usize::from(fz)) * nx + column - usize::from(fx);
                let p = CellPoint { index, fx: f32::from(fx), fz: f32::from(fz) };
                let mut product = 1.0_f64;
                for (sum, mask) in each.iter_mut().zip(masks) {
                    let value = f64::from(response_at(&mask.response, quantity_at(ground, mask.quantity, p)));
                    *sum += weight * value;
                    if mask.enabled {
                        product *= value;
                    }
                }
                all += weight * product;
                whole += weight;
            }
            (each, all, whole)
        })
        .collect();
    let whole: f64 = rows.iter().map(|r| r.2).sum();
    let each = (0..masks.len())
        .map(|i| MaskShare { share: (rows.iter().map(|r| r.0[i]).sum::<f64>() / whole) as f32 })
        .collect();
    let allowed = rows.iter().map(|r| r.1).sum::<f64>() / whole;
    Shares { each, allowed_m2: allowed * f64::from(terrain.plan_area_m2()) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ground::Terrain;
    use crate::scene::{MaskId, Quantity, Response};
    use glam::Vec2;

    #[test]
    fn a_ramp_lets_through_the_closed_form_share() {
        // Heights run 0 to 100 evenly, so a full band of 20..50 with fades of 10 m holds 30 + 5 + 5 per cent.
        let n = 201;
        let heights = (0..n * n).map(|i| (i % n) as f32 * 0.5).collect();
        let ground = GroundModel::new(Terrain::new(n, n, Vec2::ONE, heights).unwrap(), None, 1);
        let altitude = Mask {
            id: MaskId(1),
            quantity: Quantity::Altitude,
            enabled: true,
            response: Response { start: 10.0, full_from: 20.0, full_to: 50.0, end: 60.0, inverted: false },
        };
        let got = shares(&ground, std::slice::from_ref(&altitude));
        assert!((got.each[0].share - 0.40).abs() < 2e-3, "{got:?}");
        assert!((got.allowed_m2 / f64::from(ground.terrain.plan_area_m2()) - 0.40).abs() < 2e-3);
        let off = shares(&ground, &[Mask { enabled: false, ..altitude }]);
        assert!((off.allowed_m2 - f64::from(ground.terrain.plan_area_m2())).abs() < 1.0);
    }
}
