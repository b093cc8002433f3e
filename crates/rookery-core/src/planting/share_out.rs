//! Sharing a layer's amount and cap out among the grounds it grows on.

use crate::document::{Amount, GroundId, Layer};
use crate::math::hash::pcg4d;

/// Whole numbers that add up to `total`, as near to these shares as they can be. A larger total never takes from any.
///
/// Source: Sainte-Lagu\u{eb} / Webster: each next one goes to the largest share / (2 given + 1).
pub fn share_out(total: u64, shares: &[f64]) -> Vec<u64> {
    let whole: f64 = shares.iter().sum();
    if whole <= 0.0 {
        return vec![0; shares.len()];
    }
    // No share ends up more than its count of rivals below its exact part; the rest is given one by one.
    let rivals = shares.len() as f64;
    let mut given: Vec<u64> =
        shares.iter().map(|s| (s / whole * total as f64 - rivals).floor().max(0.0) as u64).collect();
    for _ in given.iter().sum::<u64>()..total {
        let claim = |i: usize| shares[i] / (2 * given[i] + 1) as f64;
        let next = (0..shares.len()).max_by(|a, b| claim(*a).total_cmp(&claim(*b)).then(b.cmp(a)));
        given[next.expect("some share is above zero")] += 1;
    }
    given
}

/// The layer as it grows on one of its grounds: with an arrangement of its own there, and its part of a total and of the
/// cap. `allowed` has the area that the layer's masks allow on each of its grounds, m2.
pub fn layer_on(layer: &Layer, ground: GroundId, allowed: &[(GroundId, f64)]) -> Layer {
    let mut own = layer.clone();
    if ground != GroundId::LAND {
        own.seed = pcg4d([layer.seed, ground.0, 0x6E0D, 0])[0];
    }
    let Some(place) = allowed.iter().position(|(id, _)| *id == ground) else { return own };
    if allowed.len() < 2 {
        return own;
    }
    let areas: Vec<f64> = allowed.iter().map(|(_, m2)| *m2).collect();
    if let Amount::Total { value } = layer.amount {
        own.amount = Amount::Total { value: share_out(u64::from(value), &areas)[place] as u32 };
    }
    own.cap = share_out(u64::from(layer.cap), &areas)[place] as u32;
    own
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn the_published_example_is_met() {
        // Seats by votes 53 000, 24 000, 23 000: seven seats fall 3, 2, 2 (worked example of the divisors 1, 3, 5 in common
        // accounts of the method; numbers from memory, worked again by hand).
        assert_eq!(share_out(7, &[53_000.0, 24_000.0, 23_000.0]), [3, 2, 2]);
    }

    proptest! {
        #[test]
        fn it_adds_up_is_fair_and_more_takes_from_none(
            shares in prop::collection::vec(0.0_f64..1000.0, 1..7), total in 0_u64..5000,
        ) {
            prop_assume!(shares.iter().sum::<f64>() > 0.0);
            let (some, more) = (share_out(total, &shares), share_out(total + 1, &shares));
            prop_assert_eq!(some.iter().sum::<u64>(), total);
            prop_assert!(some.iter().zip(&more).all(|(a, b)| a <= b));
            let whole: f64 = shares.iter().sum();
            for (given, share) in some.iter().zip(&shares) {
                let exact = share / whole * total as f64;
                prop_assert!((*given as f64 - exact).abs() <= shares.len() as f64, "{given} for {exact}");
            }
        }
    }
}
