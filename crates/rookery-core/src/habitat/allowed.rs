//! How much of the ground a layer's masks let through.

use super::{LookedAt, Masks, Redrawn, respond};
use crate::ground::{GroundRef, Surface};
use rayon::prelude::*;

/// What one mask alone lets through.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct AllowedByMask {
    /// Share of the area, 0 to 1, each part counted with the mask's value there.
    pub share: f32,
}

/// What a layer's masks let through, one by one and together.
#[derive(Clone, Debug, PartialEq)]
pub struct Allowed {
    /// In the order of the masks.
    pub each: Vec<AllowedByMask>,
    /// Area allowed by all masks together, m2, each part counted with their value there.
    pub allowed_m2: f64,
    /// Points at which they were asked.
    pub points: u64,
}

/// What the masks let through along one run of a survey, in the survey's own unit of area.
#[derive(Clone, Debug, PartialEq)]
pub struct SurveyedRun {
    each: Vec<f64>,
    all: f64,
    whole: f64,
    /// What the masks come to at each of its points.
    values: Vec<f32>,
}

impl SurveyedRun {
    /// Surveys one run of a ground.
    pub fn survey<S: Surface>(ground: &S, rules: &Masks, run: usize) -> Self {
        let mut share = Self { each: vec![0.0; rules.count()], all: 0.0, whole: 0.0, values: Vec::new() };
        let mut values = Vec::with_capacity(rules.count());
        ground.survey(run, &mut |spot, weight| {
            let spot = spot();
            values.clear();
            values.extend((0..rules.count()).map(|i| rules.response(i, ground, &spot)));
            share.each.iter_mut().zip(&values).for_each(|(sum, value)| *sum += weight * f64::from(*value));
            let all = rules.together(|i| values[i]);
            share.all += weight * f64::from(all);
            share.whole += weight;
            share.values.push(all);
        });
        share
    }

    /// Surveys a run again after curves were drawn anew: equal to surveying it from nothing, and asks the other masks only where
    /// something changed. `known` is what the mask looks at, where that is known.
    pub fn again<S: Surface>(
        &self,
        ground: &S,
        rules: &Masks,
        redrawn: &Redrawn<'_>,
        run: usize,
        known: Option<&LookedAt>,
    ) -> Self {
        let mut share = self.clone();
        (share.all, share.whole) = (0.0, 0.0);
        redrawn.masks().iter().for_each(|i| share.each[*i] = 0.0);
        let known = known.map(|k| k.at_points[run].as_slice());
        let mut point = 0;
        ground.survey(run, &mut |spot, weight| {
            let all = &mut share.values[point];
            match known.map(|values| values[point]) {
                Some(value) => {
                    for &i in redrawn.masks() {
                        share.each[i] += weight * f64::from(respond(rules.mask(i), value));
                    }
                    if !redrawn.leaves_at(value) {
                        let spot = spot();
                        *all = rules.together(|i| rules.response(i, ground, &spot));
                    }
                }
                None => {
                    let spot = spot();
                    for &i in redrawn.masks() {
                        share.each[i] += weight * f64::from(rules.response(i, ground, &spot));
                    }
                    if !redrawn.leaves(ground, &spot) {
                        *all = rules.together(|i| rules.response(i, ground, &spot));
                    }
                }
            }
            share.all += weight * f64::from(*all);
            share.whole += weight;
            point += 1;
        });
        share
    }

    /// Memory it takes, bytes.
    pub fn bytes(&self) -> usize {
        size_of_val(self.values.as_slice()) + size_of_val(self.each.as_slice()) + size_of::<Self>()
    }
}

impl Allowed {
    /// Puts runs together, in their order.
    pub fn together(runs: &[SurveyedRun], masks: usize, area_m2: f64) -> Self {
        let whole: f64 = runs.iter().map(|r| r.whole).sum();
        let share = |i: usize| (runs.iter().map(|r| r.each[i]).sum::<f64>() / whole) as f32;
        let each = (0..masks).map(|i| AllowedByMask { share: share(i) }).collect();
        let allowed = runs.iter().map(|r| r.all).sum::<f64>() / whole;
        Self { each, allowed_m2: allowed * area_m2, points: runs.iter().map(|r| r.values.len() as u64).sum() }
    }

    /// Also counts places that know nothing of the masks: so many were looked at, and so many of them the masks let stand. They are
    /// points of a survey like any others, and often many more.
    pub fn and(mut self, looked_at: usize, standing: usize, area_m2: f64) -> Self {
        let (surveyed, looked_at) = (self.points as f64, looked_at as f64);
        if area_m2 > 0.0 && surveyed + looked_at > 0.0 {
            let share = (self.allowed_m2 / area_m2 * surveyed + standing as f64) / (surveyed + looked_at);
            self.allowed_m2 = share * area_m2;
        }
        self.points += looked_at as u64;
        self
    }
}

/// Surveys a whole ground, run by run.
pub fn survey<S: Surface>(ground: &S, rules: &Masks) -> Vec<SurveyedRun> {
    (0..ground.runs()).into_par_iter().map(|run| SurveyedRun::survey(ground, rules, run)).collect()
}

/// Measures masks over points spread over the ground.
pub fn shares<S: Surface>(ground: &S, rules: &Masks) -> Allowed {
    Allowed::together(&survey(ground, rules), rules.count(), ground.area_m2())
}

impl GroundRef<'_> {
    /// What a layer's masks let through on it.
    pub fn shares(&self, masks: &Masks) -> Allowed {
        match self {
            Self::Terrain(t) => shares(*t, masks),
            Self::Mesh(m) => shares(*m, masks),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Mask, MaskId, Quantity};
    use crate::ground::{GroundModel, Terrain};
    use glam::Vec2;

    #[test]
    fn a_ramp_lets_through_the_closed_form_share() {
        // Heights run 0 to 100 evenly, so a full band of 20..50 with fades of 10 m holds 30 + 5 + 5 per cent.
        let n = 201;
        let heights = (0..n * n).map(|i| (i % n) as f32 * 0.5).collect();
        let ground = GroundModel::new(Terrain::new(n, n, Vec2::ONE, heights).unwrap(), None, 1);
        let altitude = Mask::band(MaskId(1), Quantity::Altitude, [10.0, 20.0, 50.0, 60.0]);
        let got = shares(&ground, &Masks::plain(&[altitude]));
        assert!((got.each[0].share - 0.40).abs() < 2e-3, "{got:?}");
        assert!((got.allowed_m2 / f64::from(ground.terrain.plan_area_m2()) - 0.40).abs() < 2e-3);
        let off = shares(&ground, &Masks::plain(&[Mask { enabled: false, ..altitude }]));
        assert!((off.allowed_m2 - f64::from(ground.terrain.plan_area_m2())).abs() < 1.0);
    }
}
