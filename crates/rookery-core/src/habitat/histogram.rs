//! How the ground's area is spread over a quantity.

use crate::ground::Terrain;
use rayon::prelude::*;

/// Plan area in equal steps of a quantity.
#[derive(Clone, Debug, PartialEq)]
pub struct Histogram {
    /// Lowest value counted, in the quantity's unit.
    pub low: f32,
    /// Highest value counted.
    pub high: f32,
    /// Plan area in each step, m2; they add up to the ground's plan area.
    pub areas_m2: Vec<f32>,
}

impl Histogram {
    /// Steps in every histogram.
    pub const STEPS: usize = 60;

    /// Counts one value per sample of the terrain; values outside are counted at the ends.
    pub fn of(terrain: &Terrain, values: &[f32], low: f32, high: f32) -> Self {
        let cell = f64::from(terrain.cell_m().x) * f64::from(terrain.cell_m().y);
        let scale = Self::STEPS as f32 / (high - low);
        let count = |row: usize| {
            let mut weights = [0.0_f64; Self::STEPS];
            for column in 0..terrain.nx() {
                let step = ((values[row * terrain.nx() + column] - low) * scale).max(0.0) as usize;
                weights[step.min(Self::STEPS - 1)] += f64::from(terrain.sample_weight(column, row));
            }
            weights
        };
        // Weights are quarters, so their sums are exact in any order.
        let whole = (0..terrain.nz()).into_par_iter().map(count).reduce(
            || [0.0; Self::STEPS],
            |mut a, b| {
                a.iter_mut().zip(b).for_each(|(a, b)| *a += b);
                a
            },
        );
        let areas = whole.map(|w| w * cell);
        Self { low, high, areas_m2: areas.into_iter().map(|a| a as f32).collect() }
    }

    /// Counts values with the area each stands for, m2; values outside are counted at the ends.
    pub fn weighed(values: impl IntoIterator<Item = (f32, f64)>, low: f32, high: f32) -> Self {
        let scale = Self::STEPS as f32 / (high - low);
        let mut areas = [0.0_f64; Self::STEPS];
        for (value, area) in values {
            areas[(((value - low) * scale).max(0.0) as usize).min(Self::STEPS - 1)] += area;
        }
        Self { low, high, areas_m2: areas.into_iter().map(|a| a as f32).collect() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;

    #[test]
    fn the_steps_add_up_to_the_plan_area_and_a_ramp_fills_them_evenly() {
        let n = 601;
        let heights: Vec<f32> = (0..n * n).map(|i| (i % n) as f32).collect();
        let terrain = Terrain::new(n, n, Vec2::splat(0.5), heights.clone()).unwrap();
        let histogram = Histogram::of(&terrain, &heights, 0.0, 600.0);
        let total: f32 = histogram.areas_m2.iter().sum();
        assert!((total - terrain.plan_area_m2()).abs() < 1.0);
        let even = total / Histogram::STEPS as f32;
        for area in &histogram.areas_m2[1..59] {
            assert!((area - even).abs() < even * 0.01, "{area} against {even}");
        }
    }
}
