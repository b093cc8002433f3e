//! Counter-based randomness: every random choice is a function of what it is for.

/// Hashes four words to four words.
///
/// Source: `pcg4d`, Jarzynski & Olano, "Hash Functions for GPU Rendering", JCGT 9(3), 2020, built on the
/// linear congruential step of O'Neill 2014.
#[inline]
pub fn pcg4d(v: [u32; 4]) -> [u32; 4] {
    let [mut x, mut y, mut z, mut w] = v.map(|c| c.wrapping_mul(1_664_525).wrapping_add(1_013_904_223));
    for round in 0..2 {
        x = x.wrapping_add(y.wrapping_mul(w));
        y = y.wrapping_add(z.wrapping_mul(x));
        z = z.wrapping_add(x.wrapping_mul(y));
        w = w.wrapping_add(y.wrapping_mul(z));
        if round == 0 {
            [x, y, z, w] = [x, y, z, w].map(|c| c ^ (c >> 16));
        }
    }
    [x, y, z, w]
}

/// A number in `[0, 1)` from the upper 24 bits of a hashed word; every value is exact in `f32`.
#[inline]
pub fn unit(word: u32) -> f32 {
    (word >> 8) as f32 * (1.0 / 16_777_216.0)
}

/// What a random number is used for. Two channels never share numbers, so changing how one is used leaves the
/// others as they were.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[repr(u32)]
pub enum Channel {
    /// Where a candidate lies.
    Place = 0,
    /// Whether a candidate stands at a mask's value.
    Mask = 1,
    /// Size, form and tint.
    Body = 2,
    /// Turn, tilt and the direction of tilt.
    Stance = 3,
    /// The order in which candidates appear as the amount rises.
    Order = 4,
    /// How many plants a clump has.
    Clump = 5,
    /// Which species of a mix.
    Mix = 6,
    /// Height, depth, lift and lightness of its own.
    Spread = 7,
    /// How it lies when it tumbled, and its shift.
    Tumble = 8,
}

/// Four independent random words for one candidate and one channel.
///
/// `key` is a packed [`PlantId`](crate::names::PlantId): level, block and index of the candidate.
#[inline]
pub fn draw(seed: u32, key: u64, channel: Channel) -> [u32; 4] {
    let low = key as u32;
    let high = (key >> 32) as u32;
    pcg4d([seed, low, high, (channel as u32).wrapping_mul(0x9E37_79B9) ^ 0x85EB_CA6B])
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A second writing of the published loop in 64-bit arithmetic, reduced by remainder instead of wrapping.
    fn reference(v: [u32; 4]) -> [u32; 4] {
        const M: u128 = 1 << 32;
        let mut s = v.map(|c| (c as u128 * 1_664_525 + 1_013_904_223) % M);
        let mix = |s: &mut [u128; 4]| {
            s[0] = (s[0] + s[1] * s[3]) % M;
            s[1] = (s[1] + s[2] * s[0]) % M;
            s[2] = (s[2] + s[0] * s[1]) % M;
            s[3] = (s[3] + s[1] * s[2]) % M;
        };
        mix(&mut s);
        s = s.map(|c| c ^ (c >> 16));
        mix(&mut s);
        s.map(|c| c as u32)
    }

    #[test]
    fn the_hash_equals_the_published_loop() {
        for i in 0..10_000_u32 {
            let v = [i, i.wrapping_mul(77), !i, i.rotate_left(13)];
            assert_eq!(pcg4d(v), reference(v));
        }
    }

    /// Chi-square over 256 bins; 99.99 % of true uniform samples stay below 342 for 255 degrees of freedom.
    #[test]
    fn every_channel_is_uniform_over_neighbouring_counters() {
        for channel in [Channel::Place, Channel::Mask, Channel::Body, Channel::Stance, Channel::Order] {
            for lane in 0..4 {
                let mut bins = [0_u32; 256];
                for i in 0..65_536_u64 {
                    bins[(unit(draw(7, i, channel)[lane]) * 256.0) as usize] += 1;
                }
                let chi: f64 = bins.iter().map(|&n| (f64::from(n) - 256.0).powi(2) / 256.0).sum();
                assert!(chi < 342.0, "{channel:?} lane {lane}: chi-square {chi}");
            }
        }
    }

    #[test]
    fn channels_do_not_follow_one_another() {
        let n = 50_000;
        let series = |channel, lane: usize| -> Vec<f64> {
            (0..n).map(|i| f64::from(unit(draw(3, i, channel)[lane])) - 0.5).collect()
        };
        let a = series(Channel::Place, 0);
        for other in [series(Channel::Mask, 0), series(Channel::Body, 0), series(Channel::Place, 1)] {
            let r: f64 = a.iter().zip(&other).map(|(x, y)| x * y).sum::<f64>() / n as f64 * 12.0;
            assert!(r.abs() < 0.02, "correlation {r}");
        }
    }
}
