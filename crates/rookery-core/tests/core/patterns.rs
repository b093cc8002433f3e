//! What the patterns are, against the literature on point processes.

use glam::Vec2;
use rookery_core::cancel::CancelToken;
use rookery_core::planting::Candidate;
use rookery_core::planting::pattern::{EvenPattern, random_candidates};

const SIDE_M: f32 = 100.0;

fn even(seed: u32, count: usize) -> Vec<Candidate> {
    EvenPattern::new(seed, Vec2::splat(SIDE_M)).first(count, &CancelToken::default()).unwrap().to_vec()
}

/// Distance from each point to its nearest neighbour, by looking at all pairs within a grid of cells.
fn nearest(points: &[Candidate]) -> Vec<f64> {
    let cell = (SIDE_M * SIDE_M / points.len() as f32).sqrt() * 2.0;
    let n = (SIDE_M / cell).ceil() as usize;
    let mut grid = vec![Vec::new(); n * n];
    let at = |v: f32| (((v + SIDE_M / 2.0) / cell) as usize).min(n - 1);
    for (i, p) in points.iter().enumerate() {
        grid[at(p.z) * n + at(p.x)].push(i);
    }
    points
        .iter()
        .enumerate()
        .map(|(i, p)| {
            let mut best = f64::INFINITY;
            for reach in 1..n {
                for r in at(p.z).saturating_sub(reach)..=(at(p.z) + reach).min(n - 1) {
                    for c in at(p.x).saturating_sub(reach)..=(at(p.x) + reach).min(n - 1) {
                        for &k in &grid[r * n + c] {
                            if k != i {
                                best = best
                                    .min(f64::from(p.x - points[k].x).hypot(f64::from(p.z - points[k].z)));
                            }
                        }
                    }
                }
                // A neighbour found within the ring that is fully searched cannot be beaten from outside it.
                if best < f64::from(cell) * reach as f64 {
                    break;
                }
            }
            best
        })
        .collect()
}

/// Half the smallest distance over sqrt(A / (2 sqrt3 N)), the radius of the densest packing of N discs
/// (Lagae & Dutre 2008, "A Comparison of Methods for Generating Poisson Disk Distributions").
fn relative_radius(points: &[Candidate]) -> f64 {
    let smallest = nearest(points).into_iter().fold(f64::INFINITY, f64::min);
    let densest = (f64::from(SIDE_M * SIDE_M) / (2.0 * 3_f64.sqrt() * points.len() as f64)).sqrt();
    smallest / 2.0 / densest
}

/// Clark & Evans 1954: mean nearest distance times twice the root of the density, with Donnelly's 1978 correction for
/// edges; and its standard error for a random pattern.
fn clark_evans(points: &[Candidate]) -> (f64, f64) {
    let n = points.len() as f64;
    let (area, perimeter) = (f64::from(SIDE_M * SIDE_M), f64::from(SIDE_M * 4.0));
    let mean = nearest(points).into_iter().sum::<f64>() / n;
    let expected = 0.5 * (area / n).sqrt() + (0.0514 + 0.041 / n.sqrt()) * perimeter / n;
    let error = (0.0703 * area / (n * n) + 0.037 * perimeter * (area / n.powi(5)).sqrt()).sqrt();
    (mean / expected, error / expected)
}

#[test]
fn a_full_even_pattern_has_a_relative_radius_of_at_least_0_70_at_every_amount() {
    for seed in [1, 2, 77] {
        for count in [300, 1000, 3200, 10_000, 23_000, 70_000] {
            let r = relative_radius(&even(seed, count));
            assert!((0.70..0.85).contains(&r), "seed {seed}, {count} places: {r}");
        }
    }
}

#[test]
fn an_even_pattern_is_far_more_regular_than_chance() {
    // A perfect hexagon has 2.149. With a relative radius of 0.70 no distance is below 0.70 of that, so the mean is not
    // either; and it stays well below a lattice.
    let (r, _) = clark_evans(&even(5, 8000));
    assert!((1.504..1.9).contains(&r), "Clark-Evans R = {r}");
}

#[test]
fn a_random_pattern_is_as_regular_as_chance() {
    for seed in [1, 9, 1234] {
        let (r, error) = clark_evans(&random_candidates(seed, Vec2::splat(SIDE_M), 6000));
        assert!((r - 1.0).abs() < 4.0 * error, "Clark-Evans R = {r}, standard error {error}");
    }
}

/// Ripley 1977 with translation edge correction: K(t) = pi t2 for a random pattern.
#[test]
fn a_random_pattern_has_ripleys_k_of_chance_at_all_distances() {
    let n = 4000;
    for t in [0.5_f64, 2.0, 6.0] {
        let mut ratio = 0.0;
        for seed in 0..4 {
            let points = random_candidates(seed + 40, Vec2::splat(SIDE_M), n);
            let side = f64::from(SIDE_M);
            let mut sum = 0.0;
            for (i, a) in points.iter().enumerate() {
                for b in &points[..i] {
                    let (dx, dz) = (f64::from(a.x - b.x).abs(), f64::from(a.z - b.z).abs());
                    if dx * dx + dz * dz <= t * t {
                        sum += 2.0 / ((side - dx) * (side - dz));
                    }
                }
            }
            let k = sum * side.powi(4) / (n as f64 * (n as f64 - 1.0));
            ratio += k / (std::f64::consts::PI * t * t) / 4.0;
        }
        // Pairs within t are about Poisson: 4 x n2 pi t2 / (2 A) of them.
        let pairs = 2.0 * (n * n) as f64 * std::f64::consts::PI * t * t / 1e4;
        assert!((ratio - 1.0).abs() < 4.0 / pairs.sqrt() + 0.01, "K({t}) is {ratio} of pi t2");
    }
}

/// Area decides, not anything else: equal cells hold equal shares (chi-square, 99.99 % of true samples below 197 for 121
/// degrees of freedom).
#[test]
fn both_patterns_spread_over_equal_areas_equally() {
    let n = 36_300;
    for points in [even(3, n), random_candidates(3, Vec2::splat(SIDE_M), n)] {
        let mut cells = [0.0_f64; 121];
        for p in &points {
            let at = |v: f32| (((v / SIDE_M + 0.5) * 11.0) as usize).min(10);
            cells[at(p.z) * 11 + at(p.x)] += 1.0;
        }
        let expected = n as f64 / 121.0;
        let chi: f64 = cells.iter().map(|c| (c - expected).powi(2) / expected).sum();
        assert!(chi < 197.0, "chi-square {chi}");
    }
}
