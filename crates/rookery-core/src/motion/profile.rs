//! The mean speed of the wind over height: grass feels less of it than the tops of trees.

/// Roughness of the open ground that a wind at 10 m is stated for, metres.
///
/// Source: WMO Guide to Instruments, No. 8, part I, chapter 5: open terrain, roughness 0.03 m; from memory.
const OPEN_M: f32 = 0.03;
/// Height at which the wind is the same over any ground, metres.
///
/// Source: Wieringa, "Roughness-dependent geographical interpolation of surface wind speed averages", Q. J. R. Meteorol. Soc. 112, 1986;
/// from memory.
const BLENDING_M: f32 = 60.0;
/// How quickly the wind dies away within what grows: exp(-2 (1 - y/h)).
///
/// Source: Cionco, "A mathematical model for air flow in a vegetative canopy", J. Appl. Meteorol. 4, 1965; 2 is in the middle of his range;
/// from memory.
const WITHIN: f32 = 2.0;
/// Bare earth, metres of roughness.
const BARE_M: f32 = 0.005;
/// Higher stands would reach through the blending height.
const TALLEST_M: f32 = 40.0;

/// What the wind blows over.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Canopy {
    /// Mean height of what is seen from above, bare ground counted as nothing, metres.
    pub height_m: f32,
}

impl Canopy {
    /// The height of what grows: of each layer its plants' height, metres, and the share of the ground that it covers. Taller ones hide
    /// lower ones.
    pub fn over(layers: impl IntoIterator<Item = (f32, f32)>) -> Self {
        let mut layers: Vec<_> = layers.into_iter().collect();
        layers.sort_by(|a, b| b.0.total_cmp(&a.0).then(b.1.total_cmp(&a.1)));
        let (mut seen, mut height_m) = (1.0, 0.0);
        for (height, cover) in layers {
            let cover = cover.clamp(0.0, 1.0);
            height_m += seen * cover * height;
            seen *= 1.0 - cover;
        }
        Self { height_m }
    }
}

/// Mean speed over height.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Profile {
    speed_10_m: f32,
    canopy_m: f32,
    /// Roughness, metres.
    pub roughness_m: f32,
    /// Height of the plane at which the wind would come to rest, metres.
    pub zero_plane_m: f32,
}

impl Profile {
    /// The logarithmic law over what grows: roughness 0.123 of its height, zero plane two thirds of it.
    ///
    /// Source: Allen, Pereira, Raes & Smith, "Crop evapotranspiration", FAO Irrigation and drainage paper 56, 1998, equation 4 and the text
    /// below it (the roughness for momentum).
    pub fn new(speed_10_m: f32, canopy: Canopy) -> Self {
        let canopy_m = canopy.height_m.clamp(0.0, TALLEST_M);
        Self {
            speed_10_m,
            canopy_m,
            roughness_m: (0.123 * canopy_m).max(BARE_M),
            zero_plane_m: canopy_m * 2.0 / 3.0,
        }
    }

    /// Mean speed at a height over the ground, m/s.
    pub fn speed(&self, height_m: f32) -> f32 {
        let Self { speed_10_m, canopy_m, roughness_m, zero_plane_m } = *self;
        let aloft = speed_10_m * libm::logf(BLENDING_M / OPEN_M) / libm::logf(10.0 / OPEN_M);
        let over = |y: f32| {
            let up = libm::logf(((y - zero_plane_m) / roughness_m).max(1.0));
            aloft * up / libm::logf((BLENDING_M - zero_plane_m) / roughness_m)
        };
        if height_m >= canopy_m {
            over(height_m)
        } else {
            over(canopy_m) * libm::expf(-WITHIN * (1.0 - height_m.max(0.0) / canopy_m))
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn over_reference_grass_it_is_the_published_profile() {
        // FAO-56, example below equation 47: over grass of 0.12 m the wind at 2 m is 4.87 / ln(67.8 z - 5.42) of that at z.
        let grass = Profile::new(6.0, Canopy { height_m: 0.12 });
        let published = 4.87 / libm::logf(67.8 * 10.0 - 5.42);
        let ours = grass.speed(2.0) / grass.speed(10.0);
        assert!((ours / published - 1.0).abs() < 0.01, "{ours} for {published}");
        assert!((grass.roughness_m - 0.014_76).abs() < 1e-5 && (grass.zero_plane_m - 0.08).abs() < 1e-5);
    }

    #[test]
    fn over_open_ground_it_is_what_was_set_and_within_a_stand_it_dies_away() {
        // A stand that is as rough as the open ground.
        let open = Profile::new(6.0, Canopy { height_m: OPEN_M / 0.123 });
        assert!((open.speed(10.0) / 6.0 - 1.0).abs() < 0.01, "{}", open.speed(10.0));
        for height_m in [0.0, 0.05, 1.0, 14.0, 90.0] {
            let profile = Profile::new(6.0, Canopy { height_m });
            let speeds: Vec<f32> = (0..300).map(|i| profile.speed(i as f32 * 0.2)).collect();
            assert!(speeds.windows(2).all(|w| w[0] <= w[1]), "{height_m} m: {speeds:?}");
            // No jump at the top of what grows.
            let (below, above) = (profile.speed(height_m * 0.9999), profile.speed(height_m * 1.0001));
            assert!((above - below).abs() < 0.01 * above.max(0.1), "{height_m} m: {below}, {above}");
        }
        let wood = Profile::new(6.0, Canopy { height_m: 14.0 });
        assert!(wood.speed(0.3) < 0.2 * wood.speed(14.0));
    }

    #[test]
    fn what_is_taller_hides_what_is_lower() {
        let height = |layers: &[(f32, f32)]| Canopy::over(layers.iter().copied()).height_m;
        assert_eq!(height(&[]), 0.0);
        assert_eq!(height(&[(0.3, 1.0), (10.0, 0.1)]), 10.0 * 0.1 + 0.3 * 0.9);
        assert_eq!(height(&[(10.0, 1.0), (0.3, 1.0)]), 10.0);
    }
}
