//! Growing a layer again from what it grew before, where most of that still holds.

use super::growth::grow_with;
use super::steps::{Before, Work};
use super::{GrowError, Growth, Strewn};
use crate::cancel::CancelToken;
use crate::document::Layer;
use crate::ground::{PlanBoxes, Surface};
use crate::habitat::{Redrawn, SurveyedRun};
use crate::planting::Rules;
use rayon::prelude::*;
use std::sync::Arc;

/// What may be lost in rounding where a ground stands turned and far out, metres.
const ROUNDING_M: f32 = 0.01;

/// Grows a layer again after its ground, or what lies around, changed within parts of the scene's plan only. Equal to growing it anew;
/// `before` must be what the same layer and rules gave before.
///
/// # Errors
/// [`GrowError`].
pub fn regrow<S: Surface>(
    ground: &S,
    layer: &Layer,
    rules: &Rules,
    even: &mut S::Even,
    before: &Growth,
    changed: &PlanBoxes,
    cancel: &CancelToken,
) -> Result<Growth, GrowError> {
    let kept = &before.kept;
    // Who is strewn beside whom may change far from what changed.
    if kept.runs.len() != ground.runs() || !rules.drifting().is_none() {
        return grow_with(ground, layer, rules, even, cancel);
    }
    let frame = rules.frame();
    let mut runs = kept.runs.clone();
    runs.par_iter_mut().enumerate().for_each(|(run, share)| {
        if changed.meets(&frame.box_on_plan(&ground.run_on_plan(run)).grown(ROUNDING_M)) {
            *share = SurveyedRun::survey(ground, rules, run);
        }
    });
    // A plant may stand beside its place.
    let reach = changed.grown(layer.stance.shift_m);
    let stays = |_: usize, place: &S::Place| {
        let p = frame.plan(ground.plan(place));
        !reach.contains(p.x, p.y)
    };
    let before = Before::new(before, &stays);
    Work { ground, layer, rules, before: Some(before), strewn: Strewn::default(), cancel }.grow(even, runs)
}

/// Grows a layer again after curves of its masks were drawn anew: equal to growing it anew, but only places between the old curves and
/// the new ones are judged. `before` must be what the same layer gave with the masks of `was`, which differ from `rules` in nothing
/// but their curves; otherwise, and where that cannot be told, it is grown anew.
///
/// # Errors
/// [`GrowError`].
pub fn regrow_curves<S: Surface>(
    ground: &S,
    layer: &Layer,
    rules: &Rules,
    even: &mut S::Even,
    (before, was): (&Growth, &Rules),
    cancel: &CancelToken,
) -> Result<Growth, GrowError> {
    let kept = &before.kept;
    let places = kept.places.clone().and_then(|p| p.downcast::<Vec<S::Place>>().ok());
    let redrawn = Redrawn::between(was, rules).filter(|_| rules.drifting().is_none());
    let (Some(places), Some(redrawn)) = (places, redrawn) else {
        return grow_with(ground, layer, rules, even, cancel);
    };
    if kept.runs.len() != ground.runs() || places.len() != kept.verdicts.len() {
        return grow_with(ground, layer, rules, even, cancel);
    }
    let known = redrawn.looked_at(ground, &places, kept.looked_at.as_ref());
    let again =
        |(run, share): (usize, &SurveyedRun)| share.again(ground, rules, &redrawn, run, known.as_deref());
    let runs = kept.runs.par_iter().enumerate().map(again).collect();
    let same: Vec<bool> = match &known {
        Some(known) => known.at_places.par_iter().map(|value| redrawn.leaves_at(*value)).collect(),
        None => places.par_iter().map(|place| redrawn.leaves(ground, &ground.spot(place))).collect(),
    };
    let stays = |i: usize, _: &S::Place| same[i];
    let from = Before::new(before, &stays);
    let work = Work { ground, layer, rules, before: Some(from), strewn: Strewn::default(), cancel };
    let mut growth = work.grow(even, runs)?;
    let shared = |a: &Option<_>, b: &Option<_>| matches!((a, b), (Some(a), Some(b)) if Arc::ptr_eq(a, b));
    if shared(&growth.kept.places, &kept.places) {
        growth.kept.looked_at = known;
    }
    Ok(growth)
}
