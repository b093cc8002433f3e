//! How the ground's area is spread over a quantity.

use crate::ground::Terrain;
use rayon::prelude::*;

/// Area in equal steps of a quantity.
#[derive(Clone, Debug, PartialEq)]
pub struct Histogram {
    /// Lowest value counted, in the quantity's unit.
    pub low: f32,
    /// Highest value counted.
    pub high: f32,
    /// Area in each step, m2; they add up to the ground's area, but for what is unknown.
    pub areas_m2: Vec<f32>,
}

impl Histogram {
    /// Steps in every histogram.
    pub const STEPS: usize = 60;

    fn counted(low: f32, high: f32, unit_m2: f64, counts: &[f64]) -> Self {
        Self { low, high, areas_m2: counts.iter().map(|count| (count * unit_m2) as f32).collect() }
    }

    /// The step a value is counted in; values outside are counted at the ends.
    #[inline]
    fn step(value: f32, low: f32, scale: f32) -> usize {
        (((value - low) * scale).max(0.0) as usize).min(Self::STEPS - 1)
    }

    fn scale(low: f32, high: f32) -> f32 {
        Self::STEPS as f32 / (high - low)
    }

    /// Counts one value per sample of the terrain; values outside are counted at the ends, what is not a number nowhere.
    pub fn over_samples(terrain: &Terrain, values: &[f32], low: f32, high: f32) -> Self {
        let cell_m2 = f64::from(terrain.cell_m().x) * f64::from(terrain.cell_m().y);
        let scale = Self::scale(low, high);
        let count = |row: usize| {
            let mut counts = [0.0_f64; Self::STEPS];
            for column in 0..terrain.nx() {
                let value = values[row * terrain.nx() + column];
                if value.is_nan() {
                    continue;
                }
                counts[Self::step(value, low, scale)] += f64::from(terrain.sample_weight(column, row));
            }
            counts
        };
        let whole = (0..terrain.nz()).into_par_iter().map(count).reduce(
            || [0.0; Self::STEPS],
            |mut a, b| {
                a.iter_mut().zip(b).for_each(|(a, b)| *a += b);
                a
            },
        );
        Self::counted(low, high, cell_m2, &whole)
    }

    /// Counts values with the area each stands for, m2; values outside are counted at the ends.
    pub fn weighed(values: impl IntoIterator<Item = (f32, f64)>, low: f32, high: f32) -> Self {
        let scale = Self::scale(low, high);
        let mut areas = vec![0.0_f64; Self::STEPS];
        for (value, area) in values {
            areas[Self::step(value, low, scale)] += area;
        }
        Self::counted(low, high, 1.0, &areas)
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
        let histogram = Histogram::over_samples(&terrain, &heights, 0.0, 600.0);
        let total: f32 = histogram.areas_m2.iter().sum();
        assert!((total - terrain.plan_area_m2()).abs() < 1.0);
        let even = total / Histogram::STEPS as f32;
        for area in &histogram.areas_m2[1..59] {
            assert!((area - even).abs() < even * 0.01, "{area} against {even}");
        }
    }
}
